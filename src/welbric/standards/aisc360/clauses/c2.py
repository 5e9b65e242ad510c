"""C2: reduced stiffness."""

from __future__ import annotations

from numpy import maximum

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either


@condition("C2.3(b)")
def is_lightly_compressed(alpha, Pr, Pns):
    """Compression leaves the stiffness as it is."""
    return alpha * Pr / Pns <= 0.5


@formula("C2-2a", "tau_b")
def whole_stiffness():
    """Stiffness reduction parameter, little compression."""
    return 1.0


@formula("C2-2b", "tau_b")
def stiffness_parameter(alpha, Pr, Pns):
    """Stiffness reduction parameter."""
    return maximum(4 * (alpha * Pr / Pns) * (1 - alpha * Pr / Pns), 0.0)


@formula("C2.3", "I")
def reduced_inertia(tau_b, I):
    """Second moment of area, for the reduced stiffness."""
    return 0.8 * tau_b * I


def stiffness_share(alpha, Pr, Pns):
    """Return the stiffness reduction parameter."""
    return either(
        is_lightly_compressed, whole_stiffness, stiffness_parameter, alpha=alpha, Pr=Pr, Pns=Pns
    )


def softened(alpha, Pr, Pns, I):
    """Return the second moment of area with the reduced stiffness."""
    return reduced_inertia(stiffness_share(alpha, Pr, Pns), I)
