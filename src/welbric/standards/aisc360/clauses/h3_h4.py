"""H3 and H4: torsion, and rupture at holes."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.aisc360.symbols import condition, formula


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


@formula("H4-1", "U")
def rupture_at_flange_holes(Pr, Pc, Mrx, Mcx):
    """Interaction of axial tension and bending at holes in a flange."""
    return Pr / Pc + Mrx / Mcx
