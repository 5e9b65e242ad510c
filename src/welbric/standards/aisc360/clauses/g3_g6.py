"""G3 to G6: the shear of angles, tees, tubes, and across."""

from __future__ import annotations

from numpy import maximum, minimum, sqrt

from welbric.standards.aisc360.clauses.g2 import (
    stiffened_coefficient,
    stiffeners_are_far,
    unstiffened_coefficient,
)
from welbric.standards.aisc360.symbols import formula
from welbric.working import either

KV_LEG = 1.2  # G3


KV_WALL = 5.0  # G4


@formula("G6-1", "Vn")
def flange_shear_strength(Fy, bf, tf, Cv2):
    """Nominal shear strength of both flanges."""
    return 2 * (0.6 * Fy * bf * tf * Cv2)


def plate_coefficient(a_s, h):
    """Return kv by G2.1(b)(2)."""
    return either(stiffeners_are_far, unstiffened_coefficient, stiffened_coefficient, a_s=a_s, h=h)


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


@formula("G5-2a", "Fcr_a")
def tube_stress_of_length(E, Lv, D, lambda_t):
    """Critical shear stress by the length over which the shear falls to nothing."""
    return 1.60 * E / (sqrt(Lv / D) * lambda_t**1.25)


@formula("G5-2b", "Fcr_b")
def tube_stress(E, lambda_t):
    """Critical shear stress, whatever the length."""
    return 0.78 * E / lambda_t**1.5


@formula("G5", "Fcr")
def larger_tube_stress(Fcr_a, Fcr_b, Fy):
    """Critical shear stress, at most 0.6 Fy."""
    return minimum(maximum(Fcr_a, Fcr_b), 0.6 * Fy)


@formula("G5-1", "Vn")
def tube_strength(Fcr, Ag):
    """Nominal shear strength of a round tube."""
    return Fcr * Ag / 2


@formula("G6-1", "Vn")
def element_strength(Fy, A_v, Cv2):
    """Nominal shear strength of the elements along the shear."""
    return 0.6 * Fy * A_v * Cv2
