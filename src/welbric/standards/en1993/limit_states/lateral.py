"""6.3.2: lateral-torsional buckling."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_3_1, c6_3_2
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import E, G, partial, pick, values
from welbric.standards.en1993.limit_states import bending, shear
from welbric.standards.en1993.limit_states.senses import BOTTOM, TOP, worse_sense
from welbric.standards.en1993.options import BY_TABLE_6_5, eigenvalue, job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.standards.options import NEVER, Options
from welbric.working import given, heading, note, unrecorded

FREE_TIP = "C1 toward a free end is not covered by the quarter points: give C1 or Mcr"
FREE_FLANGE = (
    "6.3.2.4 is for a flange that is held at both ends of its length, not toward a free end: "
    'choose lateral_buckling = "general"'
)
NAME = "lateral-torsional buckling"
TRACE = 1e-6  # N mm
STOUT = 44.0  # depth over thickness of a flange, over epsilon (6.3.2.4(3))
OF_ANGLE = "angles in bending are verified by their stresses, not by one moment"


# The moment's shape


@once_per_case
def C_1(case: MemberCase) -> Any:
    """Return the moment-shape factor: as given or by eigenvalue, else by the quarter points.

    By these it is 1 where the larger moment of the segment compresses its other flange, and of
    sections that are not alike about the y axis; NaN toward a free end.
    """
    given_one = case.moment_shape
    if given_one is not None and np.ndim(given_one) == 0 and given_one == given_one:
        return given(GLOSSARY, "C_1", given_one, case.moment_shape_source)
    d = demand(case)
    unequal = case.shape in (*shapes.BY_SENSE, shapes.ANGLE)  # of uniform moment
    other = np.asarray(d.M_major < d.M_max * (1 - 1e-9)) | unequal
    tip = np.asarray(case.segments.free_tip, dtype=bool)
    if np.ndim(d.M_max) == 0:
        if tip:
            note(f"Outside: {FREE_TIP}.")
            return np.nan
        if other:
            why = "taken: the larger moment of this segment compresses the other flange"
            if unequal:
                why = "taken: the section is not alike about its y axis"
            return given(GLOSSARY, "C_1", 1.0, why)
        return c6_3_2.moment_shape(d.M_max, d.M_2, d.M_3, d.M_4) if d.M_max > TRACE else 1.0
    bent = np.asarray(d.M_max) > TRACE
    found = c6_3_2.moment_shape(np.where(bent, d.M_max, 1.0), d.M_2, d.M_3, d.M_4)
    found = np.where(other | ~bent, 1.0, found)
    found = np.where(tip, np.nan, found)
    if given_one is not None and np.ndim(given_one):
        found = np.where(np.isnan(given_one), found, given_one)
    return found


def _of_moments(case: MemberCase) -> Any:
    """Return the factor of the moments alone, where C1 has more in it: how the member is held.

    A number that the designer gives holds; toward a free end it is 1.
    """
    own = case.member_options
    if case.moment_shape is None or own is None or eigenvalue(own) == NEVER:
        return C_1(case)
    with unrecorded():
        found = np.asarray(C_1(replace(case, moment_shape=None, cache={})), dtype=float)
    found = np.where(np.isnan(found), 1.0, found)
    if case.single:
        return given(GLOSSARY, "C_1", float(found), "of the moments at the quarter points, for kc")
    return found


def _of_table_6_6(case: MemberCase) -> Any:
    """Return k_c of a moment that Table 6.6 has; 1 of others.

    It has straight lines, and of beams on two supports a uniform load and a force at the middle;
    nothing toward a free end.
    """
    d = demand(case)
    first, last = np.asarray(d.s_start), np.asarray(d.s_end)
    larger = np.abs(first) >= np.abs(last)
    big, small = np.where(larger, first, last), np.where(larger, last, first)
    trace = 1e-6 * np.maximum(d.M_max, 1e-300)
    straight = np.abs(d.s_middle - 0.5 * (first + last)) <= trace
    straight = straight & (np.asarray(d.M_max) <= np.abs(big) * (1 + 1e-9)) & (big != 0)
    between_holds = ~np.asarray(case.segments.free_tip, dtype=bool)
    straight = straight & between_holds
    psi = np.where(straight, small / np.where(big != 0, big, 1.0), 1.0)
    free = between_holds & (np.abs(big) <= trace) & (np.asarray(d.M_max) > 0)
    free = free & (np.abs(d.M_3 - d.M_max) <= trace)
    quarters = {
        share: free
        & (np.abs(d.M_2 - share * d.M_max) <= trace)
        & (np.abs(d.M_4 - share * d.M_max) <= trace)
        for share in c6_3_2.CORRECTION
    }
    if case.single:
        for share, where in quarters.items():
            if np.all(where):
                return given(GLOSSARY, "k_c", c6_3_2.CORRECTION[share], "Table 6.6")
        if not straight:
            return given(GLOSSARY, "k_c", 1.0, "taken: Table 6.6 has no such moment")
        return c6_3_2.correction_straight(given(GLOSSARY, "psi", float(psi), "of the segment"))
    found = np.where(straight, c6_3_2.correction_straight(psi), 1.0)
    for share, where in quarters.items():
        found = np.where(where, c6_3_2.CORRECTION[share], found)
    return found


def _by_annex(case: MemberCase) -> Any:
    """Return k_c by C1, as the UK annex has it; 1 toward a free end."""
    tip = np.asarray(case.segments.free_tip, dtype=bool)
    if case.single and tip:
        return given(GLOSSARY, "k_c", 1.0, "taken: toward a free end")
    return pick(tip, 1.0, c6_3_2.correction_by_shape(_of_moments(case)))


# The curves


def _given(case: MemberCase, symbol: str, value: Any, source: str) -> Any:
    if case.single:
        return given(GLOSSARY, symbol, float(np.ravel(value)[0]), source)
    return value


def depth_over_width(case: MemberCase) -> Any:
    """Return h/b of an I; of unlike flanges by the narrower one."""
    s = case.section
    b = np.minimum(s.bf_top, s.bf_bottom) if case.shape == shapes.UNEQUAL_I else s.bf
    return np.asarray(s.d / b)


def general_curve(case: MemberCase) -> Any:
    """Return the imperfection factor of Table 6.4."""
    if case.shape not in shapes.I_SHAPES:
        return np.asarray(c6_3_1.IMPERFECTION["d"])
    deep = depth_over_width(case) > 2 * (1 + 1e-9)
    usual, other = ("a", "b") if case.shape in shapes.ROLLED else ("c", "d")
    return np.where(deep, c6_3_1.IMPERFECTION[other], c6_3_1.IMPERFECTION[usual])


def _special_curve(case: MemberCase) -> Any:
    """Return the imperfection factor of Table 6.5, or of the annex that has its own."""
    ratio, of = depth_over_width(case), values(case)
    curves = of.rolled_curves if case.shape in shapes.ROLLED else of.welded_curves
    found: Any = np.nan
    for most, curve in sorted(curves, reverse=True):
        found = np.where(ratio <= most * (1 + 1e-9), c6_3_1.IMPERFECTION[curve], found)
    return found


def _general(case: MemberCase, lambda_LT: Any) -> Any:
    """Return the reduction factor of 6.3.2.2."""
    alpha = _given(case, "alpha_LT", general_curve(case), "Table 6.4")
    if case.shape in shapes.BOXES:
        return c6_3_2.reduction_of_box(alpha, lambda_LT)
    return c6_3_2.reduction(alpha, lambda_LT, 0.2, 1.0)


def _special(case: MemberCase, lambda_LT: Any) -> Any:
    """Return the reduction factor of 6.3.2.3."""
    of, rolled = values(case), case.shape in shapes.ROLLED
    plateau = of.rolled_plateau if rolled else of.welded_plateau
    beta = of.rolled_beta if rolled else of.welded_beta
    alpha = _given(case, "alpha_LT", _special_curve(case), "Table 6.5")
    chi = c6_3_2.reduction(alpha, lambda_LT, plateau, beta)
    if job_options(case.options).lateral_buckling != BY_TABLE_6_5[0]:
        return chi
    by_shape = job_options(case.options).annex == "UK"
    k_c = _by_annex(case) if by_shape else _of_table_6_6(case)
    f = c6_3_2.shape_effect(k_c, lambda_LT)
    return c6_3_2.with_shape(chi, f, lambda_LT)


# Resistance


def covered_length(case: MemberCase) -> tuple[Any, Any]:
    """Return where the length is continuously restrained, and lengths that may be divided by."""
    L = case.segments.unbraced
    held = np.asarray(L) <= 0
    return held, np.where(held, 1.0, L) if np.ndim(L) else L


@once_per_case
def critical_moment(case: MemberCase, sense: int) -> Any:
    """Return M_cr of a segment: as given, else by its moment-shape factor."""
    if case.critical_moment is not None:
        return given(GLOSSARY, "M_cr", case.critical_moment, "given with the member")
    shape = C_1(case)
    s, (_, L) = case.section, covered_length(case)
    if case.shape in shapes.BY_SENSE:
        beta = _given(case, "beta_y", sense * s.beta_major, "of this sense")
        z_j = c6_3_2.asymmetry(beta)
        return c6_3_2.critical_moment_unequal(shape, E, s.I_minor, L, s.Cw, G, s.J, z_j)
    return c6_3_2.critical_moment(shape, E, s.I_minor, L, s.Cw, G, s.J)


def goes_by_flange(shape: str, options: Options) -> bool:
    """Return whether 6.3.2.4 holds: by choice, of I-sections with two axes of symmetry."""
    chosen = job_options(options).lateral_buckling == "compressed flange"
    return chosen and shape in shapes.DOUBLE_I


def by_flange(case: MemberCase) -> bool:
    """Return whether 6.3.2.4 holds of a case."""
    return goes_by_flange(case.shape, case.options)


def is_square(case: MemberCase) -> Any:
    """Return where a box is no deeper than wide, and does not buckle laterally (6.3.2.1(2))."""
    if case.shape not in shapes.BOXES:
        return np.asarray(False)
    return np.asarray(case.section.d <= case.section.b * (1 + 1e-9))


def may_buckle_laterally(case: MemberCase) -> bool:
    """Return whether bending about the y axis can make a shape twist, if its length allows it."""
    return case.shape in (*shapes.DOUBLE_I, shapes.FLAT, *shapes.BOXES)


@once_per_case
def is_susceptible(case: MemberCase) -> Any:
    """Return where a member can twist as it bends: of Table B.2, not B.1.

    An open section can where not both flanges are held all along, a box where it buckles laterally.
    """
    if case.shape in (*shapes.DOUBLE_I, shapes.FLAT):
        held, _ = covered_length(case)
        both = np.asarray(case.segments.both) | np.asarray(case.segments.other_held)
        return ~(np.asarray(held, dtype=bool) & both)
    if case.shape not in shapes.BOXES:
        return np.asarray(False)
    with unrecorded():
        return np.asarray(chi_LT(case)) < 1


@once_per_case
def chi_LT(case: MemberCase, sense: int = TOP) -> Any:
    """Return the reduction factor in lateral-torsional buckling, with the class in bending."""
    return _reduction(case, bending.modulus_alone(case, "major", sense), sense)


def reduction(case: MemberCase, kind: Any) -> Any:
    """Return the reduction factor beside an axial force, of a class."""
    return _reduction(case, bending.modulus(case, "major", kind), TOP)


def _reduction(case: MemberCase, W: Any, sense: int) -> Any:
    """Return the reduction factor; 1 where the length is continuously restrained."""
    if not shapes.bends_sideways(case.shape):
        return 1.0
    heading("Lateral-torsional buckling", "6.3.2")
    held, _ = covered_length(case)
    stiff = held | is_square(case)
    if case.single and np.all(stiff):
        why = "the flange is continuously restrained" if held else "a square box, 6.3.2.1(2)"
        return given(GLOSSARY, "chi_LT", 1.0, why)
    if by_flange(case):
        tip = np.asarray(case.segments.free_tip, dtype=bool)
        return pick(held, 1.0, pick(tip, np.nan, _flange_reduction(case)))
    M_cr = critical_moment(case, sense)
    lambda_LT = c6_3_2.slenderness(W, case.Fy, M_cr)
    chosen = job_options(case.options).lateral_buckling
    if chosen in BY_TABLE_6_5 and case.shape in shapes.I_SHAPES:
        chi = _special(case, lambda_LT)
    else:
        chi = _general(case, lambda_LT)
    return pick(stiff, 1.0, chi)


@once_per_case
def _flange_reduction(case: MemberCase) -> Any:
    """Return the reduction factor by the compressed flange (6.3.2.4)."""
    heading("The compressed flange", "6.3.2.4")
    s, (_, L), of = case.section, covered_length(case), values(case)
    A_f = given(GLOSSARY, "A_f", s.bf * s.tf, "of the compressed flange")
    I_f = given(GLOSSARY, "I_f", s.bf**3 * s.tf / 12, "of the compressed flange")
    A_wc = given(GLOSSARY, "A_wc", shear.web_depth(case) * s.tw / 2, "in bending alone")
    radius = c6_3_2.flange_radius(I_f, A_f, A_wc)
    lambda_f = c6_3_2.flange_slenderness(_of_table_6_6(case), L, radius, classify.epsilon(case))
    # Of welded sections with stout flanges the worse curve.
    stout = (case.shape == "welded I") & np.asarray(s.d / s.tf <= STOUT * classify.epsilon(case))
    alpha = pick(stout, c6_3_1.IMPERFECTION["d"], c6_3_1.IMPERFECTION["c"])
    if case.single:
        curve = "d" if stout else "c"
        alpha = given(GLOSSARY, "alpha_i", alpha, f"curve {curve}, 6.3.2.4(3)")
    chi = c6_3_1.reduction(alpha, lambda_f)
    limit = given(GLOSSARY, "lambda_c_0", of.flange_plateau, "6.3.2.4(1)")
    factor = given(GLOSSARY, "k_fl", of.flange_factor, "6.3.2.4(2)")
    return c6_3_2.by_flange(factor, chi, limit, lambda_f)


@once_per_case
def resistance(case: MemberCase, sense: int = TOP) -> Any:
    """Return M_b,Rd."""
    W, gamma = bending.modulus_alone(case, "major", sense), partial(case, 1)
    return c6_3_2.buckling_resistance(chi_LT(case, sense), W, case.Fy, gamma)


@once_per_case
def tip_is_free(case: MemberCase) -> Any:
    """Return where C1, or the buckling of the flange, is not known toward a free end."""
    if not shapes.bends_sideways(case.shape):
        return np.asarray(False)
    if by_flange(case):
        tip = np.asarray(case.segments.free_tip, dtype=bool)
        return tip & (np.asarray(case.segments.unbraced) > 0)
    if case.critical_moment is not None:
        return np.asarray(False)
    held, _ = covered_length(case)
    return np.isnan(np.asarray(C_1(case), dtype=float)) & ~(held | is_square(case))


def why_free_tip(case: MemberCase) -> str:
    """Return why lateral-torsional buckling is outside toward a free end."""
    return FREE_FLANGE if by_flange(case) else FREE_TIP


def _of_sense(case: MemberCase, M: Any, sense: int) -> tuple[Any, ...]:
    M_Ed = given(GLOSSARY, "M_Ed", M, "largest that compresses the flange")
    mask, reason = bending.bending_outside(case, "major", sense)
    M_Rd = resistance(case, sense)
    outside = mask & (np.asarray(M_Ed) > 0)
    if case.single and np.all(outside):
        note(f"Outside: {reason}.")
    acting = np.asarray(M_Ed) > 0
    if case.shape in shapes.BOXES:  # what is not reduced is bending of the cross-section
        acting = acting & (np.asarray(chi_LT(case, sense)) < 1)
    U = pick(~acting, 0.0, c6_3_2.utilisation(M_Ed, M_Rd))
    return M_Ed, M_Rd, pick(outside, np.nan, U)


def moments_of_segment(case: MemberCase) -> dict[int, Any]:
    """Return the largest moment that compresses a segment's flange, by the sense it has then."""
    d = demand(case)
    if case.shape not in shapes.BY_SENSE:
        return {TOP: d.M_major, BOTTOM: 0.0 * d.M_major}
    both, top = np.asarray(case.segments.both), np.asarray(case.segments.top)
    found = {
        TOP: np.where(both | top, d.M_top, 0.0),
        BOTTOM: np.where(both | ~top, d.M_bottom, 0.0),
    }
    return {sense: M if np.ndim(M) else float(M) for sense, M in found.items()}


def lateral_torsional(case: MemberCase) -> Check:
    """6.3.2; angles have their own."""
    moments = moments_of_segment(case)
    M_Ed, M_Rd, U = worse_sense(case, lambda one, sense: _of_sense(one, moments[sense], sense))
    with unrecorded():
        tip = tip_is_free(case) & (np.asarray(M_Ed) > 0)
    U = pick(tip, np.nan, U)
    reason = why_free_tip(case) if np.any(tip) else bending.reason(case, "major")
    head = (NAME, "6.3.2", M_Ed, M_Rd, U, "moment", "M_major")
    return Check(*head, outside=np.isnan(np.asarray(U, dtype=float)), reason=reason)
