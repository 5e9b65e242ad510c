"""F2 and F3: I-shapes and channels about the major axis."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.aisc360.clauses.b4 import flange_is_compact, flange_is_noncompact
from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import first_of


@formula("F2-1", "Mp")
def plastic_moment(Fy, Zx):
    """Plastic moment about the major axis."""
    return Fy * Zx


@formula("F2-5", "Lp")
def yielding_length_limit(ry, E, Fy):
    """Unbraced length up to which the section yields."""
    return 1.76 * ry * sqrt(E / Fy)


@formula("F2-7", "rts")
def effective_radius(Iy, Cw, Sx):
    """Effective radius of gyration."""
    return sqrt(sqrt(Iy * Cw) / Sx)


@formula("F2.2", "ho")
def flange_distance(d, tf):
    """Distance between the flange centroids."""
    return d - tf


@formula("F2-6", "Lr")
def inelastic_length_limit(rts, E, Fy, J, c, Sx, ho):
    """Unbraced length up to which buckling is inelastic."""
    return (
        1.95
        * rts
        * (E / (0.7 * Fy))
        * sqrt(J * c / (Sx * ho) + sqrt((J * c / (Sx * ho)) ** 2 + 6.76 * (0.7 * Fy / E) ** 2))
    )


@condition("F2.2(a)")
def held_closely(Lb, Lp):
    """Lateral-torsional buckling does not apply."""
    return Lb <= Lp


@condition("F2.2(b)")
def buckles_inelastically(Lb, Lr):
    """Inelastic lateral-torsional buckling."""
    return Lb <= Lr


@formula("F2.2(a)", "Mn")
def no_lateral_torsional_buckling(Mp):
    """Nominal flexural strength, held closely."""
    return Mp


@formula("F2-2", "Mn")
def inelastic_lateral_torsional_buckling(Cb, Mp, Fy, Sx, Lb, Lp, Lr):
    """Nominal flexural strength, inelastic lateral-torsional buckling."""
    return minimum(Cb * (Mp - (Mp - 0.7 * Fy * Sx) * ((Lb - Lp) / (Lr - Lp))), Mp)


@formula("F2-4", "Fcr")
def critical_stress(Cb, E, Lb, rts, J, c, Sx, ho):
    """Elastic critical stress in lateral-torsional buckling."""
    return (
        Cb * pi**2 * E / (Lb / rts) ** 2 * sqrt(1 + 0.078 * (J * c / (Sx * ho)) * (Lb / rts) ** 2)
    )


@formula("F2-3", "Mn")
def elastic_strength(Fcr, Sx, Mp):
    """Nominal flexural strength, elastic lateral-torsional buckling."""
    return minimum(Fcr * Sx, Mp)


def elastic_lateral_torsional_buckling(Cb, E, Lb, rts, J, c, Sx, ho, Mp):
    """Return Mn by F2-3 and F2-4."""
    return elastic_strength(critical_stress(Cb, E, Lb, rts, J, c, Sx, ho), Sx, Mp)


def lateral_torsional_buckling(Cb, Lb, Fy, E, Mp, Iy, Cw, Sx, J, ry, d, tf, c=1.0):
    """Return Mn in lateral-torsional buckling of an I-shape (c by F2-8a) or a channel (F2.2)."""
    Lp = yielding_length_limit(ry, E, Fy)
    rts = effective_radius(Iy, Cw, Sx)
    ho = flange_distance(d, tf)
    Lr = inelastic_length_limit(rts, E, Fy, J, c, Sx, ho)
    return first_of(
        (held_closely, no_lateral_torsional_buckling),
        (buckles_inelastically, inelastic_lateral_torsional_buckling),
        otherwise=elastic_lateral_torsional_buckling,
        Cb=Cb,
        Lb=Lb,
        Fy=Fy,
        E=E,
        Mp=Mp,
        Sx=Sx,
        J=J,
        c=c,
        Lp=Lp,
        Lr=Lr,
        rts=rts,
        ho=ho,
    )


@formula("F3.2", "Mn")
def no_flange_buckling(Mp):
    """Nominal flexural strength, compact flange."""
    return Mp


@formula("F3-1", "Mn")
def noncompact_flange(Mp, Fy, Sx, lambda_f, lambda_pf, lambda_rf):
    """Nominal flexural strength, noncompact flange."""
    return Mp - (Mp - 0.7 * Fy * Sx) * ((lambda_f - lambda_pf) / (lambda_rf - lambda_pf))


@formula("F3.2", "kc")
def slender_flange_coefficient(lambda_w):
    """Coefficient for slender flanges, between 0.35 and 0.76."""
    return minimum(maximum(4 / sqrt(lambda_w), 0.35), 0.76)


@formula("F3-2", "Mn")
def slender_flange_strength(E, kc, Sx, lambda_f):
    """Nominal flexural strength, slender flange."""
    return 0.9 * E * kc * Sx / lambda_f**2


def slender_flange(E, lambda_w, Sx, lambda_f):
    """Return Mn by F3-2."""
    return slender_flange_strength(E, slender_flange_coefficient(lambda_w), Sx, lambda_f)


def flange_local_buckling(Mp, Fy, E, Sx, lambda_f, lambda_pf, lambda_rf, lambda_w):
    """Return Mn in flange local buckling about the major axis (F3.2)."""
    return first_of(
        (flange_is_compact, no_flange_buckling),
        (flange_is_noncompact, noncompact_flange),
        otherwise=slender_flange,
        Mp=Mp,
        Fy=Fy,
        E=E,
        Sx=Sx,
        lambda_f=lambda_f,
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
        lambda_w=lambda_w,
    )


@formula("F2", "Mc")
def both_bend(Mc1):
    """Available flexural strength of both channels."""
    return 2 * Mc1


@formula("F2-8b", "c")
def warping_coefficient(ho, Iy, Cw):
    """Coefficient of a channel."""
    return ho / 2 * (Iy / Cw) ** 0.5
