"""Chapter H: combined forces (H1, H2, H4), torsion of hollow sections (H3)."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

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


# H3.1: torsion of hollow sections


@formula("H3-1", "C_t")
def torsional_constant_round(D, t, J):
    """Torsional constant of a round tube: of the middle of its wall, or the lesser of its face."""
    return minimum(pi * (D - t) ** 2 * t / 2, 2 * J / D)


@formula("H3-1", "C_t")
def torsional_constant_walls(B, H_out, t):
    """Torsional constant of a rectangular hollow section."""
    return 2 * (B - t) * (H_out - t) * t - 4.5 * (4 - pi) * t**3


@formula("H3-2", "Fcr")
def torsion_stress_round(E, L, D, t, Fy):
    """Critical stress in torsion of a round tube."""
    return minimum(
        maximum(1.23 * E / (sqrt(L / D) * (D / t) ** 1.25), 0.60 * E / (D / t) ** 1.5), 0.6 * Fy
    )


@condition("H3.1(b)(1)")
def walls_yield_in_torsion(lambda_h, E, Fy):
    """The walls yield in torsion."""
    return lambda_h <= 2.45 * sqrt(E / Fy)


@condition("H3.1(b)(2)")
def walls_buckle_inelastically(lambda_h, E, Fy):
    """The walls buckle inelastically in torsion."""
    return lambda_h <= 3.07 * sqrt(E / Fy)


@formula("H3-3", "Fcr")
def yielding_walls(Fy):
    """Critical stress in torsion, yielding."""
    return 0.6 * Fy


@formula("H3-4", "Fcr")
def inelastic_walls(Fy, E, lambda_h):
    """Critical stress in torsion, inelastic buckling."""
    return 0.6 * Fy * (2.45 * sqrt(E / Fy)) / lambda_h


@formula("H3-5", "Fcr")
def elastic_walls(E, lambda_h):
    """Critical stress in torsion, elastic buckling."""
    return 0.458 * pi**2 * E / lambda_h**2


@formula("H3-1", "Tn")
def torsional_strength(Fcr, C_t):
    """Nominal torsional strength."""
    return Fcr * C_t


@formula("H3.1", "Tc")
def design_torsion(phi_T, Tn):
    """Design strength in torsion (LRFD)."""
    return phi_T * Tn


@formula("H3.1", "Tc")
def allowable_torsion(Tn, Omega_T):
    """Allowable strength in torsion (ASD)."""
    return Tn / Omega_T


@condition("H3.2")
def torsion_is_small(Tr, Tc):
    """Torsion may be left out of the interaction."""
    return Tr <= 0.2 * Tc


@formula("H3.2", "U")
def torsion_left_out(U_1):
    """Ratio without torsion."""
    return U_1 * 1.0


@formula("H3-6", "U")
def with_torsion(Pr, Pc, Mrx, Mcx, Mry, Mcy, Vr, Vc, Tr, Tc):
    """Interaction of axial force, bending, shear and torsion."""
    return Pr / Pc + Mrx / Mcx + Mry / Mcy + (Vr / Vc + Tr / Tc) ** 2


# H4: flanges with holes


@formula("H4-1", "U")
def rupture_at_flange_holes(Pr, Pc, Mrx, Mcx):
    """Interaction of axial tension and bending at holes in a flange."""
    return Pr / Pc + Mrx / Mcx
