"""F4 and F5: other I-shapes, and those with slender webs."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.aisc360.symbols import condition, formula

LEAST_SHARE = 0.23  # of Iyc in Iy, below which the compression flange counts as a plate


@formula("F4-4", "Myc")
def yield_moment_compression(Fy, Sxc):
    """Yield moment of the compression flange."""
    return Fy * Sxc


@formula("F4-4", "Myt")
def yield_moment_tension(Fy, Sxt):
    """Yield moment of the tension flange."""
    return Fy * Sxt


@formula("F4.2", "Mp")
def plastic_moment_limited(Fy, Zx, Sx):
    """Plastic moment, at most 1.6 times the yield moment."""
    return minimum(Fy * Zx, 1.6 * Fy * Sx)


@formula("F4-12", "aw")
def web_to_flange(hc, tw, bfc, tfc):
    """Twice the web's area in compression over the compression flange's."""
    return hc * tw / (bfc * tfc)


@formula("F4-11", "rt")
def effective_radius(bfc, aw):
    """Effective radius of gyration for lateral-torsional buckling."""
    return bfc / sqrt(12 * (1 + aw / 6))


@formula("F4.2(c)(6)", "aw")
def web_to_flange_parts(hc, tw, Afc):
    """Twice the web's area in compression over that of the parts of the compression flange."""
    return hc * tw / Afc


@formula("F4.2(c)(6)", "rt")
def radius_of_flange_parts(Iyc, Afc, aw):
    """Radius of gyration of the flange's parts with a third of the web in compression."""
    return sqrt(Iyc / (Afc * (1 + aw / 6)))


@formula("F4.2(c)(6)", "Iyc")
def plated_flange_inertia(tfc, bfc, t_pl, b_pl):
    """Second moment of area of a flange and its cover plate about the minor axis."""
    return tfc * bfc**3 / 12 + t_pl * b_pl**3 / 12


@formula("F4.2(c)(6)", "Afc")
def plated_flange_area(tfc, bfc, t_pl, b_pl):
    """Area of a flange and its cover plate."""
    return tfc * bfc + t_pl * b_pl


@formula("F4.2(c)(6)", "Iyc")
def capped_flange_inertia(tfc, bfc, I_cap):
    """Second moment of area of a flange and the channel on it about the minor axis."""
    return tfc * bfc**3 / 12 + I_cap


@formula("F4.2(c)(6)", "Afc")
def capped_flange_area(tfc, bfc, A_cap):
    """Area of a flange and the channel on it."""
    return tfc * bfc + A_cap


@formula("F4.2", "Iyc")
def compression_flange_inertia(tfc, bfc):
    """Second moment of area of the compression flange about the minor axis."""
    return tfc * bfc**3 / 12


@condition("F4.2(c)")
def flange_has_its_share(Iyc, Iy):
    """The compression flange has its share of the minor-axis inertia."""
    return Iyc / Iy > 0.23


@condition("F4.2(c)")
def tension_flange_is_large(Sxt, Sxc):
    """The tension flange does not yield much earlier."""
    return Sxt / Sxc >= 0.7


@formula("F4-6a", "FL")
def usual_limit_stress(Fy):
    """Stress at which inelastic buckling begins."""
    return 0.7 * Fy


@formula("F4-6b", "FL")
def limit_stress_by_tension_flange(Fy, Sxt, Sxc):
    """Stress at which inelastic buckling begins, tension flange small."""
    return maximum(Fy * Sxt / Sxc, 0.5 * Fy)


@condition("F4.2(c)")
def web_is_compact(lambda_w, lambda_pw):
    """The web is compact."""
    return lambda_w <= lambda_pw


@formula("F4-9a", "Rpc")
def compact_plastification(Mp, Myc):
    """Web plastification factor of a compact web."""
    return Mp / Myc


@formula("F4-9b", "Rpc")
def noncompact_plastification(Mp, Myc, lambda_w, lambda_pw, lambda_rw):
    """Web plastification factor of a noncompact web."""
    return minimum(
        Mp / Myc - (Mp / Myc - 1) * ((lambda_w - lambda_pw) / (lambda_rw - lambda_pw)), Mp / Myc
    )


@formula("F4-10", "Rpc")
def no_plastification():
    """Web plastification factor, small compression flange."""
    return 1.0


@formula("F4-16a", "Rpt")
def compact_plastification_tension(Mp, Myt):
    """Web plastification factor of a compact web, tension."""
    return Mp / Myt


@formula("F4-16b", "Rpt")
def noncompact_plastification_tension(Mp, Myt, lambda_w, lambda_pw, lambda_rw):
    """Web plastification factor of a noncompact web, tension."""
    return minimum(
        Mp / Myt - (Mp / Myt - 1) * ((lambda_w - lambda_pw) / (lambda_rw - lambda_pw)), Mp / Myt
    )


@formula("F4-17", "Rpt")
def no_plastification_tension():
    """Web plastification factor, small compression flange, tension."""
    return 1.0


@formula("F4-1", "Mn")
def compression_flange_yielding(Rpc, Myc):
    """Nominal strength, compression flange yielding."""
    return Rpc * Myc


@formula("F4-7", "Lp")
def yielding_length_limit(rt, E, Fy):
    """Unbraced length up to which the section yields."""
    return 1.1 * rt * sqrt(E / Fy)


@condition("F4.2(a)")
def held_closely(Lb, Lp):
    """Lateral-torsional buckling does not apply."""
    return Lb <= Lp


@condition("F4.2(b)")
def buckles_inelastically(Lb, Lr):
    """Inelastic lateral-torsional buckling."""
    return Lb <= Lr


@formula("F4-8", "Lr")
def inelastic_length_limit(rt, E, FL, J, Sxc, ho):
    """Unbraced length up to which buckling is inelastic."""
    return (
        1.95
        * rt
        * (E / FL)
        * sqrt(J / (Sxc * ho) + sqrt((J / (Sxc * ho)) ** 2 + 6.76 * (FL / E) ** 2))
    )


@formula("F4-2", "Mn")
def inelastic_buckling(Cb, Rpc, Myc, FL, Sxc, Lb, Lp, Lr):
    """Nominal strength, inelastic lateral-torsional buckling."""
    return minimum(Cb * (Rpc * Myc - (Rpc * Myc - FL * Sxc) * ((Lb - Lp) / (Lr - Lp))), Rpc * Myc)


@formula("F4-5", "Fcr")
def critical_stress(Cb, E, Lb, rt, J, Sxc, ho):
    """Elastic critical stress in lateral-torsional buckling."""
    return Cb * pi**2 * E / (Lb / rt) ** 2 * sqrt(1 + 0.078 * J / (Sxc * ho) * (Lb / rt) ** 2)


@formula("F4-3", "Mn")
def elastic_strength(Fcr, Sxc, Rpc, Myc):
    """Nominal strength, elastic lateral-torsional buckling."""
    return minimum(Fcr * Sxc, Rpc * Myc)


def elastic_buckling(Cb, E, Lb, rt, J, Sxc, ho, Rpc, Myc):
    """Return Mn by F4-3 and F4-5."""
    return elastic_strength(critical_stress(Cb, E, Lb, rt, J, Sxc, ho), Sxc, Rpc, Myc)


@formula("F4-13", "Mn")
def noncompact_flange(Rpc, Myc, FL, Sxc, lambda_f, lambda_pf, lambda_rf):
    """Nominal strength, noncompact compression flange."""
    return Rpc * Myc - (Rpc * Myc - FL * Sxc) * ((lambda_f - lambda_pf) / (lambda_rf - lambda_pf))


@formula("F4-14", "Mn")
def slender_flange(E, kc, Sxc, lambda_f):
    """Nominal strength, slender compression flange."""
    return 0.9 * E * kc * Sxc / lambda_f**2


@formula("F4-15", "Mn")
def tension_flange_yielding(Rpt, Myt):
    """Nominal strength, tension flange yielding."""
    return Rpt * Myt


@formula("F5-6", "Rpg")
def bending_reduction(aw, hc, tw, E, Fy):
    """Bending strength reduction factor of a slender web."""
    return minimum(
        1 - minimum(aw, 10.0) / (1200 + 300 * minimum(aw, 10.0)) * (hc / tw - 5.7 * sqrt(E / Fy)),
        1.0,
    )


@formula("F5-1", "Mn")
def girder_yielding(Rpg, Fy, Sxc):
    """Nominal strength, compression flange yielding, slender web."""
    return Rpg * Fy * Sxc


@formula("F5-5", "Lr")
def girder_inelastic_limit(rt, E, Fy):
    """Unbraced length up to which buckling is inelastic, slender web."""
    return pi * rt * sqrt(E / (0.7 * Fy))


@formula("F5-3", "Fcr")
def girder_inelastic_stress(Cb, Fy, Lb, Lp, Lr):
    """Critical stress, inelastic lateral-torsional buckling, slender web."""
    return minimum(Cb * (Fy - 0.3 * Fy * ((Lb - Lp) / (Lr - Lp))), Fy)


@formula("F5-4", "Fcr")
def girder_elastic_stress(Cb, E, Lb, rt, Fy):
    """Critical stress, elastic lateral-torsional buckling, slender web."""
    return minimum(Cb * pi**2 * E / (Lb / rt) ** 2, Fy)


@formula("F5.2(a)", "Fcr")
def girder_yield_stress(Fy):
    """No lateral-torsional buckling."""
    return 1.0 * Fy


@formula("F5-2", "Mn")
def girder_buckling(Rpg, Fcr, Sxc):
    """Nominal strength, lateral-torsional or flange local buckling, slender web."""
    return Rpg * Fcr * Sxc


@formula("F5-8", "Fcr")
def girder_noncompact_flange(Fy, lambda_f, lambda_pf, lambda_rf):
    """Critical stress, noncompact compression flange, slender web."""
    return Fy - 0.3 * Fy * ((lambda_f - lambda_pf) / (lambda_rf - lambda_pf))


@formula("F5-9", "Fcr")
def girder_slender_flange(E, kc, lambda_f):
    """Critical stress, slender compression flange, slender web."""
    return 0.9 * E * kc / lambda_f**2


@formula("F5-10", "Mn")
def girder_tension_yielding(Fy, Sxt):
    """Nominal strength, tension flange yielding, slender web."""
    return Fy * Sxt
