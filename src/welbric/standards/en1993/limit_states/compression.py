"""6.3.1: buckling in compression."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.chords import one_of_two
from welbric.standards.en1993.clauses import annex_bb, c6_3_1, c6_3_4
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import STRONGEST, E, G, partial
from welbric.standards.en1993.limit_states import effective
from welbric.standards.en1993.options import has_thick_welds
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NO_CURVE = "Table 6.2 has no curve for h/b over 1.2 with flanges over 100 mm"
OFFSET = "restraint off the shear centre is not covered"
APART = (
    "two angles or channels more than 15 times their least radius of gyration apart between "
    "connections are no single member (6.4.4)"
)
ALONE = "two angles without connectors, whose spacing 6.4.4 asks for"
TWO_ALONE = "two chords without lacing, battens or connectors are no single member (6.4)"
NOT_BACKS = "6.4.4 has no spacing for two chords that are not back to back: give lacing or battens"
LOADED = "BB.1.2 is for web members without a load, or own weight, between their ends"
ONE_BOLT = "BB.1.2 asks for two bolts at least at each end"
CLOSELY = 15.0  # times the least radius of gyration of one angle (Table 6.9)


# Table 6.2


def _rolled(s: Any, axis: str) -> list[tuple[Any, str, str]]:
    """Return where each curve of a rolled I holds, of S235 to S420 and of S460."""
    slim, thin = np.asarray(s.d / s.bf > 1.2), np.asarray(s.tf <= 40)
    thick = np.asarray(s.tf <= 100)
    y = axis == "major"
    return [
        (slim & thin, *(("a", "a0") if y else ("b", "a0"))),
        (slim & ~thin & thick, *(("b", "a") if y else ("c", "a"))),
        (~slim & thick, *(("b", "a") if y else ("c", "a"))),
        (~slim & ~thick, "d", "c"),
    ]


def _curves(
    s: Any, shape: str, axis: str, cold_formed: bool, thick_welds: bool
) -> list[tuple[Any, str, str]]:
    every = np.asarray(True)
    if shape in ("rolled I", "tapered I") or (shape == shapes.TWO_I and axis == "major"):
        return _rolled(s, axis)
    if shape in shapes.I_SHAPES:
        unequal = shape == shapes.UNEQUAL_I
        thin = np.asarray((np.maximum(s.tf_top, s.tf_bottom) if unequal else s.tf) <= 40)
        first, second = ("b", "c") if axis == "major" else ("c", "d")
        return [(thin, first, first), (~thin, second, second)]
    if shape in (shapes.TUBE, shapes.ROUND):
        return [(every, "c", "c")] if cold_formed else [(every, "a", "a0")]
    if shape == shapes.WELDED_BOX:
        stocky = np.asarray((s.b / s.tf < 30) & ((s.d - 2 * s.tf) / s.tw < 30))
        thick = stocky & thick_welds
        return [(thick, "c", "c"), (~thick, "b", "b")]
    if shape == shapes.ANGLE:
        return [(every, "b", "b")]
    return [(every, "c", "c")]  # channels, tees, solid bars; of two angles on the safe side


def _is_of_s460(grade: Any) -> Any:
    """Return where the curves of S460 hold (Table 6.2): not of stronger steels."""
    return (np.asarray(grade) > STRONGEST - 1e-6) & (np.asarray(grade) < STRONGEST + 1e-6)


def _factor(curves: list[tuple[Any, str, str]], grade: Any) -> Any:
    """Return the imperfection factor of curves where each holds; NaN where none does."""
    strong, found = _is_of_s460(grade), np.asarray(np.nan)
    for where, usual, of_s460 in curves:
        alpha = np.where(strong, c6_3_1.IMPERFECTION[of_s460], c6_3_1.IMPERFECTION[usual])
        found = np.where(where, alpha, found)
    return found


def imperfection(case: MemberCase, axis: str) -> Any:
    """Return the imperfection factor about an axis; NaN where no curve is tabulated."""
    welds = has_thick_welds(case.member_options)
    made = getattr(case.member_options, "made", None)
    cold_formed = case.cold_formed if made is None else made == "cold formed"
    curves = _curves(case.section, case.shape, axis, cold_formed, welds)
    found = _factor(curves, case.grade)
    if case.single:
        strong = np.all(_is_of_s460(case.grade))
        names = [s if strong else usual for where, usual, s in curves if np.all(where)]
        curve = names[-1] if names else ""
        return given(GLOSSARY, "alpha_i", float(np.ravel(found)[0]), f"curve {curve}, Table 6.2")
    return found


def bow_of_length(section: Any, fy: float, cold_formed: bool, axis: str) -> float:
    """Return the bow of a member over its length, where the analysis of its frame has it.

    That of a plastic verification (Table 5.1), which is the larger one, in every class.
    """
    curves = _curves(section, section.shape, axis, cold_formed, thick_welds=True)
    ratio = float(length_over_bow(_factor(curves, fy), plastic=True))
    worst = min(c6_3_4.BOW.values()) - c6_3_4.PLASTIC
    return 1.0 / (worst if math.isnan(ratio) else ratio)


def length_over_bow(alpha: Any, plastic: Any) -> Any:
    """Return the length over the bow of an imperfection factor (Table 5.1); NaN where none is."""
    found: Any = np.nan
    for factor, ratio in c6_3_4.BOW.items():
        found = np.where(np.isclose(alpha, factor), ratio, found)
    return found - np.where(plastic, c6_3_4.PLASTIC, 0.0)


# Flexural buckling


def axis_word(case: MemberCase, axis: str) -> str:
    """Return what the standard calls an axis: of angles the principal ones are u and v."""
    if case.shape == shapes.ANGLE:
        return "u" if axis == "major" else "v"
    return "y" if axis == "major" else "z"


def critical_force(case: MemberCase, axis: str) -> Any:
    """Return N_cr in flexural buckling about an axis."""
    L_cr = case.buckling.effective(axis)
    if axis == "major":
        return c6_3_1.critical_force(E, case.section.I_major, L_cr)
    return c6_3_1.critical_force_z(E, case.section.I_minor, L_cr)


def _flexural(case: MemberCase, axis: str) -> tuple[Any, Any]:
    heading(f"Flexural buckling about the {axis_word(case, axis)} axis", "6.3.1")
    lambda_ = c6_3_1.slenderness(effective.area(case), case.Fy, critical_force(case, axis))
    return c6_3_1.reduction(imperfection(case, axis), lambda_), lambda_


@once_per_case
def chi_y(case: MemberCase) -> tuple[Any, Any]:
    """Return the reduction factor about the y axis, and the slenderness."""
    return _flexural(case, "major")


@once_per_case
def chi_z(case: MemberCase) -> tuple[Any, Any]:
    """Return the reduction factor about the z axis, and the slenderness."""
    return _flexural(case, "minor")


# Torsional and torsional-flexural buckling


def shear_centre(case: MemberCase) -> tuple[Any, Any]:
    """Return where the shear centre is from the centroid, along the principal axes, mm."""
    s = case.section
    across, up = s.shear_x - s.x, s.shear_y - s.y
    if case.shape == shapes.ANGLE:
        turned = (
            across * np.cos(s.angle) + up * np.sin(s.angle),
            up * np.cos(s.angle) - across * np.sin(s.angle),
        )
        across, up = (v if np.ndim(v) else float(v) for v in turned)
    return across, up


@once_per_case
def critical_torsion(case: MemberCase) -> Any:
    """Return N_cr,T."""
    s = case.section
    return c6_3_1.critical_force_torsion(
        G, s.J, E, s.Cw, case.buckling.effective("torsion"), s.r_polar
    )


@once_per_case
def critical_twisting(case: MemberCase) -> Any:
    """Return the critical force with twisting: N_cr,T, or N_cr,TF without two axes of symmetry."""
    s, twist = case.section, critical_torsion(case)
    if case.shape in (*shapes.DOUBLE_I, *shapes.TWO_CHORDS):
        return twist
    across, up = shear_centre(case)
    if case.shape in shapes.CHANNELS:
        y_0 = given(GLOSSARY, "y_0", across, "along the y axis")
        return c6_3_1.critical_force_symmetric(critical_force(case, "major"), twist, y_0, s.r_polar)
    if case.shape == shapes.ANGLE:
        y, z = critical_force(case, "major"), critical_force(case, "minor")
        across = given(GLOSSARY, "y_0", across, "along the u axis")
        up = given(GLOSSARY, "z_0", up, "along the v axis")
        return c6_3_1.critical_force_of_no_symmetry(y, z, twist, across, up, s.r_polar)
    y_0 = given(GLOSSARY, "y_0", up, "along the z axis, which is that of symmetry")
    return c6_3_1.critical_force_symmetric(critical_force(case, "minor"), twist, y_0, s.r_polar)


@once_per_case
def chi_t(case: MemberCase) -> tuple[Any, Any]:
    """Return the reduction factor with twisting, and the slenderness (6.3.1.4)."""
    heading(f"{twisting_name(case.shape).capitalize()}", "6.3.1.4")
    lambda_ = c6_3_1.slenderness(effective.area(case), case.Fy, critical_twisting(case))
    return c6_3_1.reduction(imperfection(case, "minor"), lambda_), lambda_


def twisting_name(shape: str) -> str:
    """Return what the buckling of a shape with twisting is called."""
    alike = (*shapes.DOUBLE_I, *shapes.TWO_CHORDS)
    return "torsional buckling" if shape in alike else "torsional-flexural buckling"


# Checks


def _apart(case: MemberCase) -> tuple[Any, str]:
    """Return where two angles are not a single member (6.4.4)."""
    if case.shape not in (shapes.PAIR, *shapes.TWO_CHORDS) or case.webbing is not None:
        return np.asarray(False), ""
    if case.connectors is None:
        return np.asarray(True), ALONE if case.shape == shapes.PAIR else TWO_ALONE
    s = case.section
    if case.shape == shapes.TWO_I or (case.shape != shapes.PAIR and np.any(s.toes_in)):
        return np.asarray(True), NOT_BACKS
    if case.shape == shapes.TWO_CHANNELS:
        _, of = one_of_two(case)
        return _far(case, np.minimum(of["r_major"], of["r_minor"]))
    # One leg of an angle less or more: its least radius is not below that of the longer leg.
    from welbric.sections.shapes import angle

    sizes = [np.ravel(np.asarray(v, dtype=float)) for v in (s.d, s.b, s.t, s.r, s.r_toe)]
    return _far(case, np.reshape(angle(*sizes)["r_minor"], np.shape(s.d)))


def _far(case: MemberCase, least: Any) -> tuple[Any, str]:
    return np.asarray(case.connectors > CLOSELY * least * (1 + 1e-9)), APART


def compressed_outside(case: MemberCase, chi: Any) -> tuple[Any, str]:
    """Return where buckling in compression is not covered, and why."""
    mask, reason = effective.compression_outside(case)
    apart, why_apart = _apart(case)
    no_curve = np.isnan(np.asarray(chi, dtype=float))
    if case.buckling.lateral_offset is not None:
        return np.asarray(True), OFFSET
    if np.any(apart):
        mask, reason = mask | apart, why_apart
    if np.any(no_curve):
        mask, reason = mask | no_curve, NO_CURVE
    return mask, reason


def _check(case: MemberCase, name: str, clause: str, chi: Any) -> Check:
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).compression, "largest compression of the member")
    N_Rd = c6_3_1.buckling_resistance(chi, effective.area(case), case.Fy, partial(case, 1))
    U = c6_3_1.utilisation(N_Ed, N_Rd)
    acting = np.asarray(N_Ed) > 0
    mask, reason = compressed_outside(case, chi)
    outside = acting & mask
    if case.single and np.all(outside):
        note(f"Outside: {reason}.")
    U = np.where(outside, np.nan, np.where(acting, U, 0.0))
    return Check(name, clause, N_Ed, N_Rd, U, "force", "compression", outside, reason)


def _elsewhere(case: MemberCase, name: str, clause: str) -> Check:
    """Return a check that has nothing to say: another one has taken its place."""
    N_Ed = demand(case).compression
    return Check(name, clause, N_Ed, None, 0.0, "force", "compression")


def flexural_y(case: MemberCase) -> Check:
    """6.3.1 about the y axis."""
    name = f"flexural buckling, {axis_word(case, 'major')} axis"
    if case.one_leg is not None:
        return _elsewhere(case, name, "6.3.1")
    return _check(case, name, "6.3.1", chi_y(case)[0])


def flexural_z(case: MemberCase) -> Check:
    """6.3.1 about the z axis; of chords with webbing 6.4 has another."""
    name = f"flexural buckling, {axis_word(case, 'minor')} axis"
    if case.one_leg is not None or case.webbing is not None:
        return _elsewhere(case, name, "6.3.1")
    return _check(case, name, "6.3.1", chi_z(case)[0])


def twisting(case: MemberCase) -> Check:
    """6.3.1.4; not of closed sections."""
    name = twisting_name(case.shape)
    if case.one_leg is not None or case.webbing is not None:
        return _elsewhere(case, name, "6.3.1.4")
    return _check(case, name, "6.3.1.4", chi_t(case)[0])


# Angles as web members


def web_member(case: MemberCase) -> Check:
    """BB.1.2: an angle loaded through one leg; the least of three axes."""
    name, clause = "buckling, loaded through one leg", "BB.1.2"
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).compression, "largest compression of the member")
    if case.one_leg is None:
        return Check(name, clause, N_Ed, None, 0.0, "force", "compression")
    s, A = case.section, effective.area(case)
    L = given(GLOSSARY, "L_cr", case.length, "the member's length")
    lambdas = []
    heading("Slenderness about the v axis", clause)
    lambda_v = c6_3_1.slenderness(A, case.Fy, c6_3_1.critical_force_z(E, s.I_minor, L))
    lambdas.append(annex_bb.about_v(lambda_v))
    for word, I in (("y", s.I_x), ("z", s.I_y)):
        heading(f"Slenderness about the {word} axis, parallel to a leg", clause)
        lambda_y = c6_3_1.slenderness(A, case.Fy, c6_3_1.critical_force(E, I, L))
        lambdas.append(annex_bb.about_leg(lambda_y))
    worst = np.maximum(np.maximum(*lambdas[:2]), lambdas[2])
    worst = given(GLOSSARY, "lambda_", worst if np.ndim(worst) else float(worst), "the largest")
    chi = c6_3_1.reduction(imperfection(case, "minor"), worst)
    N_Rd = c6_3_1.buckling_resistance(chi, A, case.Fy, partial(case, 1))
    joint, d = case.ends.connection, demand(case)
    bent = (np.asarray(d.M_whole) > 0) | (np.asarray(d.M_minor) > 0)
    one_bolt = joint is not None and joint.bolts_in_line == 1
    reason = ONE_BOLT if one_bolt else LOADED
    acting = np.asarray(N_Ed) > 0
    outside = acting & (bent | one_bolt)
    if case.single and np.all(outside):
        note(f"Outside: {reason}.")
    U = np.where(outside, np.nan, np.where(acting, c6_3_1.utilisation(N_Ed, N_Rd), 0.0))
    return Check(name, clause, N_Ed, N_Rd, U, "force", "compression", outside, reason)
