"""6.2.6 and 6.2.7: shear and torsion of cross-sections, and the buckling of webs in shear."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_2, part_1_5
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import E, eta, partial, uncovered
from welbric.standards.en1993.limit_states import effective
from welbric.standards.en1993.parts import web
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, note, unrecorded

PLASTIC, ELASTIC = 0.4, 0.55  # k of EN 1993-1-5, 8(1); 0.3, of plastic hinges, is not used
LEAST = 0.01  # of a shear resistance, that stays beside torsion (6.28)
TWISTS = "torsion of open sections (6.2.7) is not covered"


def web_depth(case: MemberCase) -> Any:
    """Return the depth of a web between its flanges."""
    s = case.section
    if case.shape == shapes.UNEQUAL_I:
        return s.d - s.tf_top - s.tf_bottom
    return s.d - 2 * s.tf


def _area_along(case: MemberCase) -> Any:
    """Return the shear area for forces along the web or the depth."""
    s, shape = case.section, case.shape
    if shape in ("rolled I", "tapered I"):
        return c6_2.shear_area_rolled(s.A, s.bf, s.tf, s.tw, s.r, web_depth(case), eta(case))
    if shape in shapes.I_SHAPES:
        return c6_2.shear_area_welded(web_depth(case), s.tw, eta(case))
    if shape in shapes.CHANNELS:
        return c6_2.shear_area_channel(s.A, s.bf, s.tf, s.tw, s.r)
    if shape in shapes.TEES:
        return c6_2.shear_area_tee(s.A, s.bf, s.tf, s.tw, s.r)
    if shape in (shapes.ANGLE, shapes.PAIR):
        return c6_2.shear_area_elastic(2 if shape == shapes.PAIR else 1, s.d, s.t)
    if shape == shapes.TUBE:
        return c6_2.shear_area_box(s.A, s.d, s.b)
    if shape == shapes.WELDED_BOX:
        return c6_2.shear_area_welded(web_depth(case), 2 * s.tw, eta(case))
    return _of_others(case)


def _area_across(case: MemberCase) -> Any:
    """Return the shear area for forces along the flanges or the width."""
    s, shape = case.section, case.shape
    if shape in ("rolled I", "tapered I", *shapes.CHANNELS):
        return c6_2.shear_area_across_rolled(s.bf, s.tf)
    if shape in shapes.I_SHAPES:
        return c6_2.shear_area_across(s.A, web_depth(case), s.tw)
    if shape in shapes.TEES:
        return c6_2.shear_area_of_tee_flange(s.bf, s.tf)
    if shape in (shapes.ANGLE, shapes.PAIR):
        return c6_2.shear_area_elastic(2 if shape == shapes.PAIR else 1, s.b, s.t)
    if shape == shapes.TUBE:
        return c6_2.shear_area_box(s.A, s.b, s.d)
    if shape == shapes.WELDED_BOX:
        return c6_2.shear_area_across(s.A, web_depth(case), 2 * s.tw)
    return _of_others(case)


def _of_others(case: MemberCase) -> Any:
    s = case.section
    if case.shape == shapes.FLAT:
        return c6_2.shear_area_elastic(1, s.d, s.b)
    if case.shape == shapes.ROUND_BAR:
        return c6_2.shear_area_elastic_round(s.A)
    return c6_2.shear_area_round(s.A)


@once_per_case
def resistance(case: MemberCase, axis: str) -> Any:
    """Return V_pl,Rd for forces of bending about an axis; of solid bars and angles V_c,Rd."""
    A_v = _area_along(case) if axis == "major" else _area_across(case)
    return c6_2.plastic_shear(A_v, case.Fy, partial(case, 0))


def is_round(shape: str) -> bool:
    """Return whether shear in any direction is alike to a shape."""
    return shape in (shapes.ROUND, shapes.ROUND_BAR)


def wall_outside(case: MemberCase) -> Any:
    """Return where the wall of a round tube is of class 4, and buckles in shear."""
    if case.shape != shapes.ROUND:
        return np.asarray(False)
    with unrecorded():
        return np.asarray(classify.round_class(case)) == 4


def _check(case: MemberCase, axis: str, name: str, V: Any, effect: str) -> Check:
    V_Ed = given(GLOSSARY, "V_Ed", V, "largest shear of the segment")
    V_Rd = beside_torsion(case, demand(case).torsion, resistance(case, axis))
    U = _and_torsion(case, V_Ed, resistance(case, axis), c6_2.shear_utilisation(V_Ed, V_Rd))
    outside = wall_outside(case) & (np.asarray(V_Ed) > 0)
    if case.single and np.all(outside):
        note(f"Outside: {effective.ROUND}.")
    U = np.where(outside, np.nan, U)
    return Check(name, "6.2.6", V_Ed, V_Rd, U, "force", effect, outside, effective.ROUND)


def _and_torsion(case: MemberCase, V: Any, V_pl: Any, U: Any) -> Any:
    """Return a ratio in shear, where torsion leaves nothing of the resistance the sum of both."""
    T = demand(case).torsion
    if not carries_torsion(case.shape) or not np.any(T):
        return U
    with unrecorded():  # it is written down where it counts
        T_Rd = torsion_resistance(replace(case, cache=dict(case.cache)))
    none_left = (np.asarray(T / T_Rd) > 1 - LEAST) & (np.asarray(V) > 0)
    if not np.any(none_left):
        return U
    both = c6_2.shear_and_torsion(V, V_pl, T, torsion_resistance(case))
    return both if case.single else np.where(none_left, both, U)


def shear_round(case: MemberCase) -> Check:
    """6.2.6 of round sections, for forces in both directions."""
    return _check(case, "major", "shear", demand(case).V_both, "V_both")


def shear_major(case: MemberCase) -> Check:
    """6.2.6 for forces along the web."""
    return _check(case, "major", "shear, z direction", demand(case).V_major, "V_major")


def shear_minor(case: MemberCase) -> Check:
    """6.2.6 for forces along the flanges."""
    return _check(case, "minor", "shear, y direction", demand(case).V_minor, "V_minor")


# Webs that buckle in shear


def has_webs(shape: str) -> bool:
    """Return whether a shape has a web between two flanges."""
    return shape in (*shapes.I_SHAPES, *shapes.CHANNELS, *shapes.BOXES)


def _web(case: MemberCase, axis: str = "major") -> tuple[Any, Any]:
    """Return the depth and the thickness of what buckles in shear along the forces of an axis."""
    s = case.section
    if case.shape == shapes.TUBE:
        return (web(case).c, s.t) if axis == "major" else (s.b - 3 * s.t, s.t)
    if axis == "minor":
        return s.b - 2 * s.tw, s.tf
    return web_depth(case), s.tw


@once_per_case
def web_may_buckle(case: MemberCase, axis: str = "major") -> Any:
    """Return where a web without stiffeners is verified for shear buckling (6.2.6(6))."""
    if not has_webs(case.shape) or (axis == "minor" and case.shape not in shapes.BOXES):
        return np.asarray(False)
    h_w, t_w = _web(case, axis)
    with unrecorded():
        limit = 72 * np.sqrt(235 / np.asarray(case.Fy, dtype=float)) / eta(case)
    return np.asarray(h_w / t_w > limit)


@once_per_case
def buckling_resistance(case: MemberCase, axis: str = "major") -> Any:
    """Return V_bw,Rd (EN 1993-1-5, 5.2), of a web with stiffeners at the supports at most."""
    h_w, t_w = _web(case, axis)
    lambda_w = part_1_5.web_slenderness(h_w, t_w, classify.epsilon(case))
    chi = part_1_5.web_reduction(lambda_w, eta(case))
    webs = 2 if case.shape in shapes.BOXES else 1
    return part_1_5.web_resistance(chi, case.Fy, h_w, webs * t_w, partial(case, 1))


def with_torsion(case: MemberCase, axis: str, V: Any, T: Any) -> Any:
    """Return the shear of the walls of a box along an axis' forces with that of torsion.

    Both walls of a pair are taken to have the larger shear of the two.
    """
    if case.shape not in shapes.BOXES or not np.any(T):
        return V
    h_w, _ = _web(case, axis)
    return part_1_5.shear_of_walls(V, T, h_w, within_walls(case))


def _shear_buckling(case: MemberCase, axis: str, name: str) -> Check:
    V, T = getattr(demand(case), f"V_{axis}"), demand(case).torsion
    V_Ed = given(GLOSSARY, "V_Ed", V, "largest shear of the segment")
    may, clause = web_may_buckle(case, axis), "6.2.6(6)"
    if not np.any(may):
        return Check(name, clause, V_Ed, None, 0.0, "force", f"V_{axis}")
    if np.any(T) and case.shape in shapes.BOXES:
        T = given(GLOSSARY, "T_Ed", T, "largest torsional moment of the segment")
        V_Ed = with_torsion(case, axis, V_Ed, T)
    V_Rd = buckling_resistance(case, axis)
    U = np.where(may, part_1_5.utilisation(V_Ed, V_Rd), 0.0)
    effect = f"V_{axis}" if np.any(V) else "torsion"
    return Check(name, clause, V_Ed, V_Rd, U, "force", effect)


def shear_buckling(case: MemberCase) -> Check:
    """EN 1993-1-5, 5.2; 0 where the web is stocky."""
    return _shear_buckling(case, "major", "shear buckling")


def shear_buckling_across(case: MemberCase) -> Check:
    """EN 1993-1-5, 5.2, of the walls of a box across its depth."""
    return _shear_buckling(case, "minor", "shear buckling, y direction")


FLANGE_INDUCED = "flange-induced buckling"


def flange_induced(case: MemberCase) -> Check:
    """EN 1993-1-5, 8, of welded I-sections in bending: the web keeps its flange straight."""
    d, s, clause = demand(case), case.section, "EN 1993-1-5, 8"
    if case.shape == shapes.UNEQUAL_I:
        areas = s.bf_top * s.tf_top, s.bf_bottom * s.tf_bottom
    else:
        areas = s.bf * s.tf, s.bf * s.tf
    bent, k, area = np.asarray(False), np.asarray(ELASTIC), np.asarray(1.0)
    for M, sense, flange in ((d.M_top, 1, areas[0]), (d.M_bottom, -1, areas[1])):
        acts = np.asarray(M) > 0
        if not acts.any():
            continue
        kind = np.asarray(classify.in_bending(case, "major", sense=sense))
        of_sense = np.where(kind <= 2, PLASTIC, ELASTIC)
        worse = acts & (~bent | (np.sqrt(flange) / of_sense > np.sqrt(area) / k))
        k, area = np.where(worse, of_sense, k), np.where(worse, flange, area)
        bent = bent | acts
    if case.single and not bent:
        return Check(FLANGE_INDUCED, clause, None, None, 0.0, "number", "M_max")
    if case.single:
        area = given(GLOSSARY, "A_fc", float(area), "of the compressed flange")
        k = given(GLOSSARY, "k_f", float(k), "by the class in bending")
    h_w = given(GLOSSARY, "h_w", web_depth(case), "between the flanges")
    A_w = given(GLOSSARY, "A_w", h_w * s.tw, "of the web")
    limit = part_1_5.web_beside_flange(k, E, case.Fy, A_w, area)
    U = np.where(bent, part_1_5.flange_induced(h_w, s.tw, limit), 0.0)
    return Check(FLANGE_INDUCED, clause, None, None, U, "number", "M_max")


# Torsion


def carries_torsion(shape: str) -> bool:
    """Return whether the torsion of a shape is covered: closed ones, and round bars."""
    return shape in (*shapes.CLOSED, shapes.ROUND_BAR)


@once_per_case
def within_walls(case: MemberCase) -> Any:
    """Return the area within the mid-lines of the walls of a box."""
    s = case.section
    if case.shape == shapes.TUBE:
        return c6_2.enclosed_area(s.d, s.b, s.t, 0.5 * (s.r_out + s.r_in))
    return c6_2.enclosed_area_welded(s.d, s.b, s.tw, s.tf)


@once_per_case
def torsion_modulus(case: MemberCase) -> Any:
    """Return W_t of a closed section or a round bar."""
    s = case.section
    if case.shape == shapes.TUBE:
        r_m = 0.5 * (s.r_out + s.r_in)
        p_m = c6_2.mid_line(s.d, s.b, s.t, r_m)
        return c6_2.torsion_modulus_box(s.J, s.t, within_walls(case), p_m)
    if case.shape == shapes.WELDED_BOX:
        return c6_2.torsion_modulus_welded_box(s.d, s.b, s.tw, s.tf)
    if case.shape == shapes.ROUND_BAR:
        return c6_2.torsion_modulus_solid(s.d)
    return c6_2.torsion_modulus_round(s.Wel_major)


@once_per_case
def torsion_resistance(case: MemberCase) -> Any:
    """Return T_Rd of a closed section or a round bar."""
    return c6_2.torsion_resistance(torsion_modulus(case), case.Fy, partial(case, 0))


def beside_torsion(case: MemberCase, T: Any, V_Rd: Any) -> Any:
    """Return a shear resistance beside torsion; as it is where there is none."""
    if not carries_torsion(case.shape) or not np.any(T):
        return V_Rd
    stress = c6_2.torsion_stress(T, torsion_modulus(case))
    return c6_2.shear_beside_torsion(stress, case.Fy, partial(case, 0), V_Rd)


def torsion(case: MemberCase) -> Check:
    """6.2.7 of closed sections and round bars; of others it is outside."""
    T = demand(case).torsion
    if not carries_torsion(case.shape):
        return uncovered("torsion", "6.2.7", T, "moment", "torsion", TWISTS)
    T_Ed = given(GLOSSARY, "T_Ed", T, "largest torsional moment of the segment")
    T_Rd = torsion_resistance(case)
    outside = wall_outside(case) & (np.asarray(T_Ed) > 0)
    U = np.where(outside, np.nan, c6_2.torsion_utilisation(T_Ed, T_Rd))
    if case.single and np.all(outside):
        note(f"Outside: {effective.ROUND}.")
    return Check("torsion", "6.2.7", T_Ed, T_Rd, U, "moment", "torsion", outside, effective.ROUND)
