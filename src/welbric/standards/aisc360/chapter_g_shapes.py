"""Chapter G: shear of built-up webs with stiffeners (G2), legs and stems (G3), tubes (G4, G5)."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either

KV_LEG = 1.2  # G3
KV_WALL = 5.0  # G4


@condition("G2.1(b)(2)")
def stiffeners_are_far(a_s, h):
    """The stiffeners are too far apart to count."""
    return a_s / h > 3


@formula("G2.1(b)(2)", "kv")
def unstiffened_coefficient():
    """Plate buckling coefficient without stiffeners."""
    return 5.34


@formula("G2-5", "kv")
def stiffened_coefficient(a_s, h):
    """Plate buckling coefficient between stiffeners."""
    return 5 + 5 / (a_s / h) ** 2


def plate_coefficient(a_s, h):
    """Return kv by G2.1(b)(2)."""
    return either(
        stiffeners_are_far, unstiffened_coefficient, stiffened_coefficient, **{"a_s": a_s, "h": h}
    )


@formula("G3-1", "Vn")
def leg_strength(Fy, b, t, Cv2):
    """Nominal shear strength of a leg or stem."""
    return 0.6 * Fy * b * t * Cv2


@formula("G4", "Aw")
def area_of_walls(h_flat, t):
    """Area of the two walls along the shear."""
    return 2 * h_flat * t


@formula("G4-1", "Vn")
def wall_strength(Fy, Aw, Cv2):
    """Nominal shear strength of the walls."""
    return 0.6 * Fy * Aw * Cv2


@formula("G5-2b", "Fcr")
def tube_stress(E, lambda_t, Fy):
    """Critical shear stress; G5-2a is left out, on the safe side: it needs the shear's length."""
    return minimum(0.78 * E / lambda_t**1.5, 0.6 * Fy)


@formula("G5-1", "Vn")
def tube_strength(Fcr, Ag):
    """Nominal shear strength of a round tube."""
    return Fcr * Ag / 2


@formula("G6-1", "Vn")
def element_strength(Fy, A_v, Cv2):
    """Nominal shear strength of the elements along the shear."""
    return 0.6 * Fy * A_v * Cv2


# H3.1: torsion of hollow sections


@formula("H3-1", "C_t")
def torsional_constant_round(D, t):
    """Torsional constant of a round tube."""
    return pi * (D - t) ** 2 * t / 2


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


@formula("H2-1", "U")
def stresses_added(Pr, Pc, Mrx, Mcx, Mry, Mcy):
    """Interaction by the sum of the ratios, each at its worst corner."""
    return Pr / Pc + Mrx / Mcx + Mry / Mcy
