"""Chapter F: members in flexure. Doubly symmetric I-shapes: F1 to F3 and F6."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.aisc360.chapter_b import flange_is_compact, flange_is_noncompact
from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import first_of

PHI, OMEGA = 0.90, 1.67


@formula("F1-1", "Cb")
def moment_shape_factor(Mmax, MA, MB, MC):
    """Modification factor for the shape of the moment diagram."""
    return 12.5 * Mmax / (2.5 * Mmax + 3 * MA + 4 * MB + 3 * MC)


# F2.1 and F2.2: compact shapes bent about the major axis


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


# F3.2: flange local buckling about the major axis


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


# F6: bending about the minor axis


@formula("F6-1", "Mp")
def plastic_moment_minor(Fy, Zy, Sy):
    """Plastic moment about the minor axis."""
    return minimum(Fy * Zy, 1.6 * Fy * Sy)


@formula("F6-2", "Mn")
def noncompact_flange_minor(Mp, Fy, Sy, lambda_f, lambda_pf, lambda_rf):
    """Nominal flexural strength about the minor axis, noncompact flange."""
    return Mp - (Mp - 0.7 * Fy * Sy) * ((lambda_f - lambda_pf) / (lambda_rf - lambda_pf))


@formula("F6-4", "Fcr")
def critical_stress_minor(E, lambda_f):
    """Critical stress of a slender flange, bending about the minor axis."""
    return 0.69 * E / lambda_f**2


@formula("F6-3", "Mn")
def slender_flange_strength_minor(Fcr, Sy):
    """Nominal flexural strength about the minor axis, slender flange."""
    return Fcr * Sy


def slender_flange_minor(E, lambda_f, Sy):
    """Return Mn by F6-3."""
    return slender_flange_strength_minor(critical_stress_minor(E, lambda_f), Sy)


def flange_local_buckling_minor(Mp, Fy, E, Sy, lambda_f, lambda_pf, lambda_rf):
    """Return Mn in flange local buckling about the minor axis (F6.2)."""
    return first_of(
        (flange_is_compact, no_flange_buckling),
        (flange_is_noncompact, noncompact_flange_minor),
        otherwise=slender_flange_minor,
        Mp=Mp,
        Fy=Fy,
        E=E,
        Sy=Sy,
        lambda_f=lambda_f,
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
    )


@formula("F1(a)", "Mc")
def design_flexure(phi_b, Mn):
    """Design strength in flexure (LRFD)."""
    return phi_b * Mn


@formula("F1(a)", "Mc")
def allowable_flexure(Mn, Omega_b):
    """Allowable strength in flexure (ASD)."""
    return Mn / Omega_b
