"""F10: single angles."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.clauses.b4 import compact_leg_limit, noncompact_leg_limit
from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either, first_of


@formula("F10-1", "Mn")
def angle_yielding(My):
    """Nominal strength in yielding."""
    return 1.5 * My


@formula("F10-4", "Mcr")
def angle_critical_moment(E, Ag, rz, t, Cb, Lb, beta_w):
    """Elastic lateral-torsional buckling moment about the major principal axis."""
    return (
        9
        * E
        * Ag
        * rz
        * t
        * minimum(Cb, 1.5)
        / (8 * Lb)
        * (sqrt(1 + (4.4 * beta_w * rz / (Lb * t)) ** 2) + 4.4 * beta_w * rz / (Lb * t))
    )


@formula("F10-5a", "Mcr")
def equal_angle_toe_in_compression(E, b_l, t, Cb, Lb):
    """Elastic lateral-torsional buckling moment about a geometric axis, toe in compression."""
    return (
        0.58
        * E
        * b_l**4
        * t
        * minimum(Cb, 1.5)
        / Lb**2
        * (sqrt(1 + 0.88 * (Lb * t / b_l**2) ** 2) - 1)
    )


@formula("F10-5b", "Mcr")
def equal_angle_toe_in_tension(E, b_l, t, Cb, Lb):
    """Elastic lateral-torsional buckling moment about a geometric axis, toe in tension."""
    return (
        0.58
        * E
        * b_l**4
        * t
        * minimum(Cb, 1.5)
        / Lb**2
        * (sqrt(1 + 0.88 * (Lb * t / b_l**2) ** 2) + 1)
    )


@formula("F10.2(ii)", "My")
def reduced_yield_moment(Fy, S):
    """Yield moment about a geometric axis, without lateral-torsional restraint."""
    return 0.80 * Fy * S


@formula("F10.2(ii)", "Mcr")
def critical_with_restraint_at_the_peak(Mcr):
    """Elastic lateral-torsional buckling moment, held where the moment is largest."""
    return 1.25 * Mcr


@formula("F10", "My")
def angle_yield_moment(Fy, S):
    """Yield moment of an angle."""
    return Fy * S


@condition("F10.2(a)")
def angle_buckles_inelastically(My, Mcr):
    """Inelastic lateral-torsional buckling."""
    return My / Mcr <= 1.0


@formula("F10-2", "Mn")
def angle_inelastic_buckling(My, Mcr):
    """Nominal strength, inelastic lateral-torsional buckling."""
    return minimum((1.92 - 1.17 * sqrt(My / Mcr)) * My, 1.5 * My)


@formula("F10-3", "Mn")
def angle_elastic_buckling(My, Mcr):
    """Nominal strength, elastic lateral-torsional buckling."""
    return (0.92 - 0.17 * Mcr / My) * Mcr


@formula("F10.3", "Sc")
def toe_modulus(S):
    """Elastic modulus to the toe about a geometric axis, the leg free to turn."""
    return 0.80 * S


@condition("F10.3(a)")
def leg_is_compact(lambda_l, lambda_p):
    """The leg is compact."""
    return lambda_l <= lambda_p


@condition("F10.3(b)")
def leg_is_noncompact(lambda_l, lambda_r):
    """The leg is not slender."""
    return lambda_l <= lambda_r


@formula("F10.3(a)", "Mn")
def no_leg_buckling(My):
    """Nominal strength, compact leg: yielding."""
    return 1.5 * My


@formula("F10-6", "Mn")
def noncompact_leg(Fy, Sc, lambda_l, E):
    """Nominal strength, noncompact leg."""
    return Fy * Sc * (2.43 - 1.72 * lambda_l * sqrt(Fy / E))


@formula("F10-7", "Mn")
def slender_leg(E, lambda_l, Sc):
    """Nominal strength, slender leg."""
    return 0.71 * E / lambda_l**2 * Sc


def leg_local_buckling(lambda_l, My, Fy, Sc, E):
    """Return Mn in local buckling of a leg (F10.3)."""
    return first_of(
        (leg_is_compact, no_leg_buckling),
        (leg_is_noncompact, noncompact_leg),
        otherwise=slender_leg,
        lambda_l=lambda_l,
        My=My,
        Fy=Fy,
        Sc=Sc,
        E=E,
        lambda_p=compact_leg_limit(E, Fy),
        lambda_r=noncompact_leg_limit(E, Fy),
    )


def angle_lateral_torsional_buckling(My, Mcr):
    """Return Mn in lateral-torsional buckling of an angle, or of legs in compression (F10.2)."""
    return either(
        angle_buckles_inelastically,
        angle_inelastic_buckling,
        angle_elastic_buckling,
        My=My,
        Mcr=Mcr,
    )
