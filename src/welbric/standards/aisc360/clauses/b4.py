"""B4: what is slender, and Table B4.1."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.symbols import condition, formula


@formula("B4.1", "h")
def clear_web_depth(d, tf, r_f):
    """Clear depth between the flanges less the fillets."""
    return d - 2 * (tf + r_f)


@formula("B4.1", "lambda_w")
def web_slenderness(h, tw):
    """Width-to-thickness ratio of the web."""
    return h / tw


@formula("B4.1", "lambda_f")
def flange_slenderness(bf, tf):
    """Width-to-thickness ratio of the flange outstand."""
    return bf / (2 * tf)


@formula("Table B4.1a(1)", "lambda_rc")
def flange_limit_compression(E, Fy):
    """Slender flange limit of rolled I-shapes in axial compression."""
    return 0.56 * sqrt(E / Fy)


@formula("Table B4.1a(5)", "lambda_rw")
def web_limit_compression(E, Fy):
    """Slender web limit of doubly symmetric I-shapes in axial compression."""
    return 1.49 * sqrt(E / Fy)


@formula("Table B4.1b(10)", "lambda_pf")
def compact_flange_limit(E, Fy):
    """Compact flange limit of rolled I-shapes in flexure, about either axis (cases 10 and 13)."""
    return 0.38 * sqrt(E / Fy)


@formula("Table B4.1b(10)", "lambda_rf")
def noncompact_flange_limit(E, Fy):
    """Noncompact flange limit of rolled I-shapes in flexure, about either axis."""
    return 1.0 * sqrt(E / Fy)


@formula("Table B4.1b(15)", "lambda_pw")
def compact_web_limit(E, Fy):
    """Compact web limit of doubly symmetric I-shapes in flexure."""
    return 3.76 * sqrt(E / Fy)


@condition("Table B4.1b(15)")
def web_is_compact(lambda_w, lambda_pw):
    """The web is compact in flexure."""
    return lambda_w <= lambda_pw


@condition("Table B4.1b(10)")
def flange_is_compact(lambda_f, lambda_pf):
    """The flange is compact in flexure."""
    return lambda_f <= lambda_pf


@condition("Table B4.1b(10)")
def flange_is_noncompact(lambda_f, lambda_rf):
    """The flange is not slender in flexure."""
    return lambda_f <= lambda_rf


@formula("Table B4.1a(2)", "lambda_rc")
def built_up_flange_limit_compression(kc, E, Fy):
    """Slender flange limit of built-up I-shapes in axial compression."""
    return 0.64 * sqrt(kc * E / Fy)


@formula("Table B4.1a(3)", "lambda_r")
def leg_limit_compression(E, Fy):
    """Slender leg limit in axial compression."""
    return 0.45 * sqrt(E / Fy)


@formula("Table B4.1a(4)", "lambda_rw")
def stem_limit_compression(E, Fy):
    """Slender stem limit of tees in axial compression."""
    return 0.75 * sqrt(E / Fy)


@formula("Table B4.1a(6)", "lambda_r")
def wall_limit_compression(E, Fy):
    """Slender wall limit of rectangular hollow sections in axial compression."""
    return 1.40 * sqrt(E / Fy)


@formula("Table B4.1a(8)", "lambda_r")
def plate_limit_compression(E, Fy):
    """Slender plate limit of welded boxes in axial compression: other stiffened elements."""
    return 1.49 * sqrt(E / Fy)


@formula("Table B4.1b(11)", "lambda_rf")
def built_up_flange_limit(kc, E, FL):
    """Noncompact flange limit of built-up I-shapes in flexure."""
    return 0.95 * sqrt(kc * E / FL)


@formula("Table B4.1b(15)", "lambda_rw")
def noncompact_web_limit(E, Fy):
    """Noncompact web limit in flexure (cases 15 and 16)."""
    return 5.70 * sqrt(E / Fy)


@formula("Table B4.1b(16)", "lambda_pw")
def compact_web_limit_unequal(hc, hp, E, Fy, Mp, My, lambda_rw):
    """Compact web limit of singly symmetric I-shapes in flexure."""
    return minimum(hc / hp * sqrt(E / Fy) / (0.54 * Mp / My - 0.09) ** 2, lambda_rw)


@formula("B4.1", "lambda_w")
def unequal_web_slenderness(hc, tw):
    """Width-to-thickness ratio of the web of a singly symmetric I-shape."""
    return hc / tw


@formula("B4.1", "hc")
def depth_in_compression(y_c):
    """Twice the distance from the centroid to the compression flange."""
    return 2 * y_c


@formula("B4.1", "hp")
def plastic_depth_in_compression(y_p):
    """Twice the distance from the plastic axis to the compression flange."""
    return 2 * y_p


@formula("B4.1b", "b_flat")
def flat_width(B, t, r_in):
    """Flat width of a wall; corners are taken as no larger than three halves of the thickness."""
    return B - 2 * t - 2 * minimum(r_in, t / 2)


@formula("B4.1b", "h_flat")
def flat_depth(H_out, t, r_in):
    """Flat depth of a wall; corners are taken as no larger than three halves of the thickness."""
    return H_out - 2 * t - 2 * minimum(r_in, t / 2)


@formula("B4.1b", "lambda_b")
def wall_slenderness_across(b_flat, t):
    """Width-to-thickness ratio of the walls across."""
    return b_flat / t


@formula("B4.1b", "lambda_h")
def wall_slenderness_deep(h_flat, t):
    """Width-to-thickness ratio of the deep walls."""
    return h_flat / t


@formula("B4.1", "lambda_t")
def tube_slenderness(D, t):
    """Diameter-to-thickness ratio."""
    return D / t


@formula("B4.1", "lambda_s")
def stem_slenderness(d, tw):
    """Depth-to-thickness ratio of the stem."""
    return d / tw


@formula("B4.1", "lambda_l")
def leg_slenderness(b, t):
    """Width-to-thickness ratio of a leg."""
    return b / t


@condition("B4.1")
def web_is_noncompact(lambda_w, lambda_rw):
    """The web is not slender in flexure."""
    return lambda_w <= lambda_rw


@formula("B4.1", "b")
def outstand(bf):
    """Width of the flange outstand."""
    return bf / 2


@formula("Table B4.1b(17)", "lambda_p")
def compact_wall_limit(E, Fy):
    """Compact limit of the wall in compression."""
    return 1.12 * sqrt(E / Fy)


@formula("Table B4.1b(17)", "lambda_r")
def noncompact_wall_limit(E, Fy):
    """Noncompact limit of the wall in compression of hollow sections."""
    return 1.40 * sqrt(E / Fy)


@formula("Table B4.1b(21)", "lambda_r")
def noncompact_plate_limit(E, Fy):
    """Noncompact limit of the flange of box sections."""
    return 1.49 * sqrt(E / Fy)


@formula("Table B4.1b(19)", "lambda_p")
def compact_side_limit(E, Fy):
    """Compact limit of the walls in bending."""
    return 2.42 * sqrt(E / Fy)


@formula("Table B4.1b(19)", "lambda_r")
def noncompact_side_limit(E, Fy):
    """Noncompact limit of the walls in bending."""
    return 5.70 * sqrt(E / Fy)


@formula("Table B4.1b(20)", "lambda_p")
def compact_tube_limit(E, Fy):
    """Compact limit of round tubes."""
    return 0.07 * E / Fy


@formula("Table B4.1b(20)", "lambda_r")
def noncompact_tube_limit(E, Fy):
    """Noncompact limit of round tubes."""
    return 0.31 * E / Fy


@formula("Table B4.1b(12)", "lambda_p")
def compact_leg_limit(E, Fy):
    """Compact limit of a leg in flexure."""
    return 0.54 * sqrt(E / Fy)


@formula("Table B4.1b(12)", "lambda_r")
def noncompact_leg_limit(E, Fy):
    """Noncompact limit of a leg in flexure."""
    return 0.91 * sqrt(E / Fy)


@formula("Table B4.1a", "U")
def slenderness_of_stiffener(b_st, t_st, lambda_st):
    """Width over thickness of the stiffener, over its limit."""
    return b_st / t_st / lambda_st


@formula("Table B4.1b(18)", "lambda_pf")
def compact_cover_limit(E, Fy):
    """Compact limit of a cover between its welds."""
    return 1.12 * (E / Fy) ** 0.5


@formula("B4.1", "lambda_f")
def cover_slenderness(b_pl, t_pl):
    """Width of a cover between its welds over its thickness."""
    return b_pl / t_pl


@formula("Table B4.1b(18)", "lambda_rf")
def noncompact_cover_limit(E, Fy):
    """Noncompact limit of a cover between its welds."""
    return 1.40 * (E / Fy) ** 0.5


@formula("B4.1", "lambda_f")
def flange_ratio(bf, tf):
    """Width-to-thickness ratio of the flange."""
    return bf / tf
