"""Chapter F: tees and double angles in their plane of symmetry (F9), single angles (F10)."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either, first_of

# F9.1: yielding


@formula("F9-3", "My")
def yield_moment(Fy, Sx):
    """Yield moment."""
    return Fy * Sx


@formula("F9-2", "Mp")
def plastic_moment_stem_in_tension(Fy, Zx, My):
    """Plastic moment, stem in tension."""
    return minimum(Fy * Zx, 1.6 * My)


@formula("F9-4", "Mp")
def plastic_moment_stem_in_compression(My):
    """Plastic moment, tee stem in compression."""
    return 1.0 * My


@formula("F9-5", "Mp")
def plastic_moment_legs_in_compression(My):
    """Plastic moment, web legs of double angles in compression."""
    return 1.5 * My


# F9.2: lateral-torsional buckling


@formula("F9-8", "Lp")
def yielding_length_limit(ry, E, Fy):
    """Unbraced length up to which the section yields."""
    return 1.76 * ry * sqrt(E / Fy)


@formula("F9-9", "Lr")
def inelastic_length_limit(E, Fy, Iy, J, Sx, d):
    """Unbraced length up to which buckling is inelastic."""
    return 1.95 * (E / Fy) * (sqrt(Iy * J) / Sx) * sqrt(2.36 * (Fy / E) * (d * Sx / J) + 1)


@formula("F9-11", "B_f9")
def stem_term_in_tension(d, Lb, Iy, J):
    """Stem term, stem in tension."""
    return 2.3 * (d / Lb) * sqrt(Iy / J)


@formula("F9-12", "B_f9")
def stem_term_in_compression(d, Lb, Iy, J):
    """Stem term, stem in compression."""
    return -2.3 * (d / Lb) * sqrt(Iy / J)


@formula("F9-10", "Mcr")
def critical_moment(E, Lb, Iy, J, B_f9):
    """Elastic lateral-torsional buckling moment."""
    return 1.95 * E / Lb * sqrt(Iy * J) * (B_f9 + sqrt(1 + B_f9**2))


@formula("F9-6", "Mn")
def inelastic_buckling(Mp, My, Lb, Lp, Lr):
    """Nominal strength, inelastic lateral-torsional buckling, stem in tension."""
    return Mp - (Mp - My) * ((Lb - Lp) / (Lr - Lp))


@formula("F9-7", "Mn")
def elastic_buckling(Mcr, Mp):
    """Nominal strength, elastic lateral-torsional buckling, stem in tension."""
    return minimum(Mcr, Mp)


@formula("F9-13", "Mn")
def stem_in_compression(Mcr, My):
    """Nominal strength, lateral-torsional buckling, tee stem in compression."""
    return minimum(Mcr, My)


# F9.3 and F9.4: local buckling


@formula("F9.3(a)", "Mn")
def no_flange_buckling(Mp):
    """Nominal strength, compact flange."""
    return 1.0 * Mp


@formula("F9-14", "Mn")
def noncompact_flange(Mp, Fy, Sxc, lambda_f, lambda_pf, lambda_rf, My):
    """Nominal strength, noncompact flange."""
    return minimum(
        Mp - (Mp - 0.7 * Fy * Sxc) * ((lambda_f - lambda_pf) / (lambda_rf - lambda_pf)), 1.6 * My
    )


@formula("F9-15", "Mn")
def slender_flange(E, Sxc, lambda_f):
    """Nominal strength, slender flange."""
    return 0.7 * E * Sxc / lambda_f**2


@condition("F9.4(a)")
def stem_is_stocky(lambda_s, E, Fy):
    """The stem does not buckle locally."""
    return lambda_s <= 0.84 * sqrt(E / Fy)


@condition("F9.4(b)")
def stem_is_noncompact(lambda_s, E, Fy):
    """The stem buckles inelastically."""
    return lambda_s <= 1.52 * sqrt(E / Fy)


@formula("F9-17", "Fcr")
def stocky_stem(Fy):
    """Critical stress of a stocky stem."""
    return 1.0 * Fy


@formula("F9-18", "Fcr")
def noncompact_stem(lambda_s, Fy, E):
    """Critical stress of a noncompact stem."""
    return (1.43 - 0.515 * lambda_s * sqrt(Fy / E)) * Fy


@formula("F9-19", "Fcr")
def slender_stem(E, lambda_s):
    """Critical stress of a slender stem."""
    return 1.52 * E / lambda_s**2


@formula("F9-16", "Mn")
def stem_strength(Fcr, Sx):
    """Nominal strength, local buckling of the stem."""
    return Fcr * Sx


# F10: single angles


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


@formula("Table B4.1b(12)", "lambda_p")
def compact_leg_limit(E, Fy):
    """Compact limit of a leg in flexure."""
    return 0.54 * sqrt(E / Fy)


@formula("Table B4.1b(12)", "lambda_r")
def noncompact_leg_limit(E, Fy):
    """Noncompact limit of a leg in flexure."""
    return 0.91 * sqrt(E / Fy)


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


def leg_buckling_of_pair(lambda_l, Mp, Fy, Sc, E):
    """Return Mn in local buckling of a leg of a double angle (F9.3(b), F9.4(b) by F10.3)."""
    return first_of(
        (leg_is_compact, no_flange_buckling),
        (leg_is_noncompact, noncompact_leg),
        otherwise=slender_leg,
        lambda_l=lambda_l,
        Mp=Mp,
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
