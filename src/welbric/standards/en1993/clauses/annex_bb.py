"""BB.1.2: angles as web members; BB.2.1: sheeting that restrains a beam all along."""

from __future__ import annotations

from numpy import pi

from welbric.standards.en1993.symbols import formula


@formula("BB.1", "lambda_eff")
def about_v(lambda_v):
    """Effective slenderness about the minor principal axis."""
    return 0.35 + 0.7 * lambda_v


@formula("BB.2", "S_sheeting")
def sheeting(E, I_w, L, G, I_t, I_z, h):
    """Shear stiffness from which on sheeting restrains the flange of a beam, for its width."""
    return (E * I_w * pi**2 / L**2 + G * I_t + E * I_z * pi**2 / L**2 * 0.25 * h**2) * 70 / h**2


@formula("BB.1", "lambda_eff")
def about_leg(lambda_y):
    """Effective slenderness about an axis parallel to a leg."""
    return 0.50 + 0.7 * lambda_y
