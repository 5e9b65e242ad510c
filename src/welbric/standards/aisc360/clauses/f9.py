"""F9: tees and double angles."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.clauses.b4 import compact_leg_limit, noncompact_leg_limit
from welbric.standards.aisc360.clauses.f10 import (
    leg_is_compact,
    leg_is_noncompact,
    noncompact_leg,
    slender_leg,
)
from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import first_of


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
