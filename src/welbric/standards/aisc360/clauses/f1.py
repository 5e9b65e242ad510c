"""F1: the moment-shape factor."""

from __future__ import annotations

from numpy import maximum

from welbric.standards.aisc360.symbols import formula

PHI, OMEGA = 0.90, 1.67


@formula("F1-1", "Cb")
def moment_shape_factor(Mmax, MA, MB, MC):
    """Modification factor for the shape of the moment diagram."""
    return 12.5 * Mmax / (2.5 * Mmax + 3 * MA + 4 * MB + 3 * MC)


@formula("F1(a)", "Mc")
def design_flexure(phi_b, Mn):
    """Design strength in flexure (LRFD)."""
    return phi_b * Mn


@formula("F1(a)", "Mc")
def allowable_flexure(Mn, Omega_b):
    """Allowable strength in flexure (ASD)."""
    return Mn / Omega_b


@formula("C-F1-5", "M_sum")
def sum_of_ends(M_0, M_1):
    """Sum of the end moments that compress the flange."""
    return M_0 + maximum(M_1, 0.0)


@formula("C-F1-5", "Cb")
def reversed_curvature(M_0, M_1, M_CL, M_sum):
    """Moment-shape factor with the other flange continuously restrained."""
    return 3.0 - 2 / 3 * (M_1 / M_0) - 8 / 3 * (M_CL / M_sum)
