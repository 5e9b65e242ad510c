"""H1 and H2: forces together."""

from __future__ import annotations

from numpy import maximum, minimum

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either


@condition("H1.1(a)")
def axial_force_is_large(Pr, Pc):
    """Axial force weighs heavily in the interaction."""
    return Pr / Pc >= 0.2


@formula("H1-1a", "U")
def interaction_large_axial(Pr, Pc, Mrx, Mcx, Mry, Mcy):
    """Interaction of axial force and bending about both axes."""
    return Pr / Pc + 8 / 9 * (Mrx / Mcx + Mry / Mcy)


@formula("H1-1b", "U")
def interaction_small_axial(Pr, Pc, Mrx, Mcx, Mry, Mcy):
    """Interaction of a small axial force and bending about both axes."""
    return Pr / (2 * Pc) + (Mrx / Mcx + Mry / Mcy)


def interaction(Pr, Pc, Mrx, Mcx, Mry, Mcy):
    """Return the ratio of H1-1."""
    return either(
        axial_force_is_large,
        interaction_large_axial,
        interaction_small_axial,
        Pr=Pr,
        Pc=Pc,
        Mrx=Mrx,
        Mcx=Mcx,
        Mry=Mry,
        Mcy=Mcy,
    )


@formula("H1-3", "U")
def interaction_out_of_plane(Pr, Pcy, Mrx, Cb, Mcx):
    """Out-of-plane buckling and lateral-torsional buckling together."""
    return Pr / Pcy * (1.5 - 0.5 * Pr / Pcy) + (Mrx / (Cb * Mcx)) ** 2


@condition("H1.3")
def bends_in_one_plane(Mry, Mcy):
    """Minor-axis bending is small enough for the two planes to be taken apart."""
    return Mry / Mcy < 0.05


@formula("H1.3", "U_3")
def planes_apart(U_a, U_b):
    """The worse of the in-plane (a) and the out-of-plane (b) ratio."""
    return maximum(U_a, U_b)


@formula("H1.3", "U")
def more_favourable(U_1, U_3):
    """The more favourable of H1.1 and H1.3, as H1.3 allows."""
    return minimum(U_1, U_3)


@formula("H2-1", "U")
def stresses_added(Pr, Pc, Mrx, Mcx, Mry, Mcy):
    """Interaction by the sum of the ratios, each at its worst corner."""
    return Pr / Pc + Mrx / Mcx + Mry / Mcy


@formula("H2-1", "U")
def stresses_at_corner(Pr, Pc, n_w, Mrx, Mcx, n_z, Mry, Mcy):
    """Interaction at a corner, with the sense of each stress there."""
    return Pr / Pc + n_w * Mrx / Mcx + n_z * Mry / Mcy
