"""6.2.5: bending of cross-sections."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_2, c6_3_2
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import E, G, partial, pick
from welbric.standards.en1993.limit_states import effective
from welbric.standards.en1993.limit_states.senses import BOTTOM, TOP, WORDS, senses, worse_sense
from welbric.standards.en1993.options import member_class, web_in_class_2
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note, unrecorded

AXES = {"major": "y", "minor": "z"}
STIFFER = "the z axis is the stiffer one: lateral buckling about it is not covered"


@once_per_case
def bent_class(case: MemberCase, axis: str, sense: int = TOP) -> Any:
    """Return the class in bending alone about an axis."""
    return classify.in_bending(case, axis, sense=sense)


def modulus(case: MemberCase, axis: str, kind: Any, sense: int = TOP) -> Any:
    """Return the section modulus of a class: plastic in class 1 and 2, else elastic.

    It is that of the effective section where bending alone puts it into class 4.
    """
    plastic, elastic = (getattr(case.section, f"{W}_{axis}") for W in ("Wpl", "Wel"))
    alone = np.asarray(bent_class(case, axis, sense)) == 4
    if np.any(alone) and effective.modulus_covered(case, axis):
        elastic = pick(alone, effective_modulus(case, axis, sense), elastic)
    W = pick(np.asarray(kind) <= 2, plastic, elastic)
    return beside_holes(case, W, sense) if axis == "major" else W


@once_per_case
def modulus_alone(case: MemberCase, axis: str, sense: int = TOP) -> Any:
    """Return the section modulus in bending alone: a class 3 web may count in class 2 (6.2.2.4)."""
    kind = bent_class(case, axis, sense)
    W = modulus(case, axis, kind, sense)
    where = web_counts_in_class_2(case, sense) if axis == "major" else np.asarray(False)
    if not np.any(where):
        return W
    heading("A class 3 web that counts in class 2", "6.2.2.4")
    s = case.section
    of = ("top", "bottom") if sense == TOP else ("bottom", "top")
    if case.shape == shapes.UNEQUAL_I:
        (b_c, t_c), (b_t, t_t) = ((getattr(s, f"bf_{one}"), getattr(s, f"tf_{one}")) for one in of)
    else:
        (b_c, t_c), (b_t, t_t) = (s.bf, s.tf), (s.bf, s.tf)
    A_c = given(GLOSSARY, "A_f_c", b_c * t_c, "its width times its thickness")
    A_t = given(GLOSSARY, "A_f_t", b_t * t_t, "its width times its thickness")
    h_w = given(GLOSSARY, "h_w", s.d - t_c - t_t, "between the flanges")
    c_w = c6_2.part_of_web(classify.epsilon(case), s.tw)
    z_n = c6_2.depth_to_neutral_axis(h_w, c_w, A_c, A_t, s.tw)
    better = c6_2.modulus_in_class_2(A_c, t_c, A_t, t_t, h_w, s.tw, c_w, z_n)
    # Where no part between those does not count, or it would be worse, class 3 stays.
    where = where & (np.asarray(z_n) >= 2 * np.asarray(c_w)) & (np.asarray(better) > np.asarray(W))
    return pick(where, beside_holes(case, better, sense), W)


def web_counts_in_class_2(case: MemberCase, sense: int = TOP) -> Any:
    """Return where a web of class 3 stands between flanges of class 1 or 2, and is to count so."""
    options = case.member_options
    if case.shape not in shapes.I_SHAPES or not web_in_class_2(options) or member_class(options):
        return np.asarray(False)
    in_class_3 = np.asarray(bent_class(case, "major", sense)) == 3
    return in_class_3 & (np.asarray(classify.class_beside_web(case, sense)) <= 2)


@once_per_case
def effective_modulus(case: MemberCase, axis: str, sense: int) -> Any:
    """Return W_eff in bending alone."""
    return effective.modulus(case, axis, sense)


def beside_holes(case: MemberCase, W: Any, sense: int = TOP) -> Any:
    """Return a modulus beside the holes of a flange in tension, where there are any (6.2.5(4)).

    Of unlike flanges it is the one on the other side of what a moment of the sense compresses.
    """
    s = case.section
    if case.flange_holes is None or case.shape not in shapes.I_SHAPES:
        return W
    count, diameter = case.flange_holes
    h_0 = None
    if case.shape == shapes.UNEQUAL_I:
        of = "bottom" if sense == TOP else "top"
        b, t = (getattr(s, f"{name}_{of}") for name in ("bf", "tf"))
        h_0 = s.d - s.tf_top / 2 - s.tf_bottom / 2
    else:
        b, t = s.bf, s.tf
    A_f = given(GLOSSARY, "A_f", b * t, "of the flange in tension")
    counts = c6_2.flange_beside_holes(
        A_f, count, diameter, t, case.Fu, case.Fy, partial(case, 0), partial(case, 2)
    )
    if h_0 is None:
        return c6_2.modulus_beside_holes(W, A_f, counts, s.d, t)
    h_0 = given(GLOSSARY, "h_0", h_0, "distance of the flanges' centroids")
    return c6_2.modulus_beside_holes_of_unequal(W, A_f, counts, h_0)


@once_per_case
def resistance(case: MemberCase, axis: str, sense: int = TOP) -> Any:
    """Return M_c,Rd about an axis, in bending alone."""
    heading(f"Resistance in bending about the {AXES[axis]} axis", "6.2.5")
    if len(senses(case)) > 1 and axis == "major" and case.single:
        note(f"The {WORDS[sense]} is compressed.")
    return c6_2.bending(modulus_alone(case, axis, sense), case.Fy, partial(case, 0))


def bending_outside(case: MemberCase, axis: str, sense: int = TOP) -> tuple[Any, str]:
    """Return where bending about an axis is not covered, and why."""
    s = case.section
    slender = np.asarray(bent_class(case, axis, sense)) == 4
    if case.shape == shapes.ROUND:
        return slender, effective.ROUND
    stiffer = np.asarray(False)
    if axis == "minor":
        stiffer = np.asarray(s.I_minor > s.I_major * (1 + 1e-6))
        if np.any(stiffer) and case.shape in shapes.BOXES:
            stiffer = stiffer & _may_bend_sideways(case)
    if np.any(slender) and effective.modulus_covered(case, axis):
        slender = slender & np.isnan(np.asarray(effective_modulus(case, axis, sense), dtype=float))
    if np.any(stiffer):
        return stiffer | slender, STIFFER
    return slender, effective.BENT if np.any(slender) else ""


def _may_bend_sideways(case: MemberCase) -> Any:
    """Return where a box that lies on its side is too slender for 6.3.2.2(4)."""
    s, L = case.section, np.maximum(case.segments.unbraced, 1e-3)
    M_cr = c6_3_2.critical_moment.fn(1.0, E, s.I_major, L, s.Cw, G, s.J)
    return np.asarray(s.Wpl_minor * case.Fy > c6_3_2.STOCKY**2 * M_cr)


def _check(case: MemberCase, axis: str, effect: str, M: Any, sense: int) -> tuple[Any, ...]:
    M_Ed = given(GLOSSARY, "M_Ed", M, "largest moment about the axis")
    M_Rd = resistance(case, axis, sense)
    mask, why = bending_outside(case, axis, sense)
    outside = mask & (np.asarray(M_Ed) > 0)
    if case.single and np.all(outside):
        note(f"Outside: {why}.")
    U = np.where(outside, np.nan, c6_2.bending_utilisation(M_Ed, M_Rd))
    return M_Ed, M_Rd, U


def reason(case: MemberCase, axis: str) -> str:
    """Return why bending about an axis is not covered, once it is known that it is not."""
    with unrecorded():
        found = [bending_outside(case, axis, sense)[1] for sense in senses(case)]
    return next(filter(None, found), "")


def bending_major(case: MemberCase) -> Check:
    """6.2.5 about the y axis."""
    d = demand(case)
    if len(senses(case)) == 1:
        M_Ed, M_Rd, U = _check(case, "major", "M_max", d.M_max, TOP)
    else:
        moments = {TOP: d.M_top, BOTTOM: d.M_bottom}
        M_Ed, M_Rd, U = worse_sense(
            case, lambda one, sense: _check(one, "major", "M_max", moments[sense], sense)
        )
    head = ("bending, y axis", "6.2.5", M_Ed, M_Rd, U, "moment", "M_max")
    outside = np.isnan(np.asarray(U, dtype=float))
    return Check(*head, outside=outside, reason=reason(case, "major"))


def bending_minor(case: MemberCase) -> Check:
    """6.2.5 about the z axis."""
    M_Ed, M_Rd, U = _check(case, "minor", "M_minor", demand(case).M_minor, TOP)
    head = ("bending, z axis", "6.2.5", M_Ed, M_Rd, U, "moment", "M_minor")
    outside = np.isnan(np.asarray(U, dtype=float))
    return Check(*head, outside=outside, reason=reason(case, "minor"))
