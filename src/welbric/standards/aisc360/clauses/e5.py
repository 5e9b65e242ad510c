"""E5: single angles loaded through one leg."""

from __future__ import annotations

from numpy import maximum, pi

from welbric.standards.aisc360.symbols import condition, formula

ONE_LEG_RATIO = 1.7  # E5: of the legs


ONE_LEG_SLENDEREST = 200.0  # E5


@condition("E5(a)")
def is_short(L, ra):
    """The angle is short."""
    return L / ra <= 80


@formula("E5-1", "lambda_c")
def short_angle(L, ra):
    """Effective slenderness of an angle of its own, or in a planar truss."""
    return 72 + 0.75 * L / ra


@formula("E5-2", "lambda_c")
def long_angle(L, ra):
    """Effective slenderness of a long angle of its own, or in a planar truss."""
    return 32 + 1.25 * L / ra


@condition("E5(b)")
def is_short_in_space(L, ra):
    """The angle is short."""
    return L / ra <= 75


@formula("E5-3", "lambda_c")
def short_angle_in_space(L, ra):
    """Effective slenderness of a web member of a box or space truss."""
    return 60 + 0.8 * L / ra


@formula("E5-4", "lambda_c")
def long_angle_in_space(L, ra):
    """Effective slenderness of a long web member of a box or space truss."""
    return 45 + L / ra


@formula("E5(a)", "lambda_c")
def through_the_shorter_leg(lambda_c, b_l, b_s, L, rz):
    """Effective slenderness, connected through the shorter leg."""
    return maximum(lambda_c + 4 * ((b_l / b_s) ** 2 - 1), 0.95 * L / rz)


@formula("E5(b)", "lambda_c")
def through_the_shorter_leg_in_space(lambda_c, b_l, b_s, L, rz):
    """Effective slenderness in a space truss, connected through the shorter leg."""
    return maximum(lambda_c + 6 * ((b_l / b_s) ** 2 - 1), 0.82 * L / rz)


@formula("E5", "Fe")
def stress_of_slenderness(E, lambda_c):
    """Elastic buckling stress at an effective slenderness."""
    return pi**2 * E / lambda_c**2
