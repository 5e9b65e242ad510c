"""6.3.1 and 6.3.2: buckling in compression, and lateral-torsional buckling."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import classify
from welbric.standards.en1993.clauses import c6_3_1, c6_3_2
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import E, G, partial, pick, values
from welbric.standards.en1993.limit_states import sections
from welbric.standards.en1993.options import job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NO_CURVE = "Table 6.2 has no curve for h/b over 1.2 with flanges over 100 mm"
FREE_TIP = "C1 toward a free end is not covered by the quarter points: give C1 or 'eigenvalue'"
STRONG = 460.0 - 1e-6  # MPa: from here on Table 6.2 has the curves of S460


# Table 6.2


def _rolled(case: MemberCase, axis: str) -> list[tuple[Any, str, str]]:
    """Return where each curve of a rolled I holds, of S235 to S420 and of S460."""
    s = case.section
    slim, thin = np.asarray(s.d / s.bf > 1.2), np.asarray(s.tf <= 40)
    thick = np.asarray(s.tf <= 100)
    y = axis == "major"
    return [
        (slim & thin, *(("a", "a0") if y else ("b", "a0"))),
        (slim & ~thin & thick, *(("b", "a") if y else ("c", "a"))),
        (~slim & thick, *(("b", "a") if y else ("c", "a"))),
        (~slim & ~thick, "d", "c"),
    ]


def _curves(case: MemberCase, axis: str) -> list[tuple[Any, str, str]]:
    if case.shape == "rolled I":
        return _rolled(case, axis)
    if case.shape == "welded I":
        thin = np.asarray(case.section.tf <= 40)
        first, second = ("b", "c") if axis == "major" else ("c", "d")
        return [(thin, first, first), (~thin, second, second)]
    every = np.asarray(True)
    return [(every, "c", "c")] if case.cold_formed else [(every, "a", "a0")]


def imperfection(case: MemberCase, axis: str) -> Any:
    """Return the imperfection factor about an axis; NaN where no curve is tabulated."""
    strong = np.asarray(case.Fy) >= STRONG
    found: Any = np.nan
    curve = ""
    for where, usual, of_s460 in _curves(case, axis):
        alpha = np.where(strong, c6_3_1.IMPERFECTION[of_s460], c6_3_1.IMPERFECTION[usual])
        found = np.where(where, alpha, found)
        if case.single and np.all(where):
            curve = of_s460 if np.all(strong) else usual
    if case.single:
        return given(GLOSSARY, "alpha_i", float(np.ravel(found)[0]), f"curve {curve}, Table 6.2")
    return found


# Compression


@once_per_case
def chi_y(case: MemberCase) -> tuple[Any, Any]:
    """Return the reduction factor about the y axis, and the slenderness."""
    heading("Flexural buckling about the y axis", "6.3.1")
    L_cr = case.buckling.effective("major")
    N_cr = c6_3_1.critical_force(E, case.section.I_major, L_cr)
    lambda_ = c6_3_1.slenderness(sections.area(case), case.Fy, N_cr)
    return c6_3_1.reduction(imperfection(case, "major"), lambda_), lambda_


@once_per_case
def chi_z(case: MemberCase) -> tuple[Any, Any]:
    """Return the reduction factor about the z axis, and the slenderness."""
    heading("Flexural buckling about the z axis", "6.3.1")
    L_cr = case.buckling.effective("minor")
    N_cr = c6_3_1.critical_force_z(E, case.section.I_minor, L_cr)
    lambda_ = c6_3_1.slenderness(sections.area(case), case.Fy, N_cr)
    return c6_3_1.reduction(imperfection(case, "minor"), lambda_), lambda_


@once_per_case
def chi_t(case: MemberCase) -> tuple[Any, Any]:
    """Return the reduction factor in torsional buckling, and the slenderness (6.3.1.4)."""
    heading("Torsional buckling", "6.3.1.4")
    s = case.section
    L_cr_T = case.buckling.effective("torsion")
    N_cr = c6_3_1.critical_force_torsion(G, s.J, E, s.Cw, L_cr_T, s.r_polar)
    lambda_ = c6_3_1.slenderness(sections.area(case), case.Fy, N_cr)
    return c6_3_1.reduction(imperfection(case, "minor"), lambda_), lambda_


def twists(case: MemberCase) -> bool:
    """Whether a shape is susceptible to torsional deformations: those that are open."""
    return case.shape in classify.I_SHAPES


def _check(case: MemberCase, name: str, clause: str, chi: Any) -> Check:
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).compression, "largest compression of the member")
    N_Rd = c6_3_1.buckling_resistance(chi, sections.area(case), case.Fy, partial(case, 1))
    slender = sections.is_slender_round(case)
    U = c6_3_1.utilisation(N_Ed, N_Rd)
    acting = np.asarray(N_Ed) > 0
    outside = acting & (slender | np.isnan(np.asarray(chi, dtype=float)))
    reason = f"the section is {sections.CLASS_4_ROUND}" if np.any(slender) else NO_CURVE
    if case.buckling.lateral_offset is not None:
        outside, reason = acting | False, "restraint off the shear centre is not covered"
    U = np.where(outside, np.nan, np.where(acting, U, 0.0))
    return Check(name, clause, N_Ed, N_Rd, U, "force", "compression", outside, reason)


def buckling_y(case: MemberCase) -> Check:
    """6.3.1 about the y axis."""
    return _check(case, "flexural buckling, y axis", "6.3.1", chi_y(case)[0])


def buckling_z(case: MemberCase) -> Check:
    """6.3.1 about the z axis."""
    return _check(case, "flexural buckling, z axis", "6.3.1", chi_z(case)[0])


def buckling_t(case: MemberCase) -> Check:
    """6.3.1.4; not of hollow sections."""
    return _check(case, "torsional buckling", "6.3.1.4", chi_t(case)[0])


# Lateral-torsional buckling


@once_per_case
def C_1(case: MemberCase) -> Any:
    """Return the moment-shape factor: as given, else by the quarter points of the segment.

    It is 1 where the larger moment of the segment compresses its other flange; NaN toward a free
    end.
    """
    given_one = case.moment_shape
    if given_one is not None and np.ndim(given_one) == 0 and given_one == given_one:
        return given(GLOSSARY, "C_1", given_one, case.moment_shape_source)
    d = demand(case)
    other = np.asarray(d.M_major < d.M_max * (1 - 1e-9))
    tip = np.asarray(case.segments.free_tip, dtype=bool)
    if np.ndim(d.M_max) == 0:
        if tip:
            note(f"Outside: {FREE_TIP}.")
            return np.nan
        if other:
            why = "taken: the larger moment of this segment compresses the other flange"
            return given(GLOSSARY, "C_1", 1.0, why)
        return c6_3_2.moment_shape(d.M_max, d.M_2, d.M_3, d.M_4) if d.M_max > 0 else 1.0
    bent = np.asarray(d.M_max) > 0
    found = c6_3_2.moment_shape(np.where(bent, d.M_max, 1.0), d.M_2, d.M_3, d.M_4)
    found = np.where(other | ~bent, 1.0, found)
    found = np.where(tip, np.nan, found)
    if given_one is not None and np.ndim(given_one):
        found = np.where(np.isnan(given_one), found, given_one)
    return found


@once_per_case
def chi_LT(case: MemberCase) -> Any:
    """Return the reduction factor in lateral-torsional buckling, with the class in bending."""
    return reduction_LT(case, sections.resistance_major(case)[1])


def reduction_LT(case: MemberCase, kind: Any) -> Any:
    """Return the reduction factor of a class; 1 where the length is continuously restrained."""
    if not twists(case):
        return 1.0
    heading("Lateral-torsional buckling", "6.3.2")
    s, L = case.section, case.segments.unbraced
    held = np.asarray(L) <= 0
    if np.ndim(L) == 0 and held:
        return given(GLOSSARY, "chi_LT", 1.0, "the flange is continuously restrained")
    shape = C_1(case)
    M_cr = c6_3_2.critical_moment(shape, E, s.I_minor, np.where(held, 1.0, L) if np.ndim(L) else L,
                                  s.Cw, G, s.J)  # fmt: skip
    W = sections.modulus(case, "major", kind)
    lambda_LT = c6_3_2.slenderness(W, case.Fy, M_cr)
    if job_options(case.options).lateral_buckling == "general":
        alpha = _given(case, "alpha_LT", _general_curve(case), "Table 6.4")
        chi = c6_3_2.reduction(alpha, lambda_LT, 0.2, 1.0)
    else:
        of = values(case)
        rolled = case.shape == "rolled I"
        plateau = of.rolled_plateau if rolled else of.welded_plateau
        beta = of.rolled_beta if rolled else of.welded_beta
        alpha = _given(case, "alpha_LT", _special_curve(case), "Table 6.5")
        chi = c6_3_2.reduction(alpha, lambda_LT, plateau, beta)
        by_shape = job_options(case.options).annex == "UK"
        k_c = c6_3_2.correction_by_shape(shape) if by_shape else _of_table_6_6(case)
        f = c6_3_2.shape_effect(k_c, lambda_LT)
        chi = c6_3_2.with_shape(chi, f, lambda_LT)
    return pick(held, 1.0, chi)


def _of_table_6_6(case: MemberCase) -> Any:
    """Return k_c of a moment that is a straight line over the segment; 1 of others."""
    d = demand(case)
    first, last = np.asarray(d.s_start), np.asarray(d.s_end)
    larger = np.abs(first) >= np.abs(last)
    big, small = np.where(larger, first, last), np.where(larger, last, first)
    straight = np.abs(d.s_middle - 0.5 * (first + last)) <= 1e-6 * np.maximum(d.M_max, 1e-300)
    straight = straight & (np.asarray(d.M_max) <= np.abs(big) * (1 + 1e-9)) & (big != 0)
    psi = np.where(straight, small / np.where(big != 0, big, 1.0), 1.0)
    if case.single:
        if not straight:
            return given(GLOSSARY, "k_c", 1.0, "taken: not a straight line (Table 6.6)")
        return c6_3_2.correction_straight(given(GLOSSARY, "psi", float(psi), "of the segment"))
    return np.where(straight, c6_3_2.correction_straight(psi), 1.0)


def _given(case: MemberCase, symbol: str, value: Any, source: str) -> Any:
    if case.single:
        return given(GLOSSARY, symbol, float(np.ravel(value)[0]), source)
    return value


def _general_curve(case: MemberCase) -> Any:
    """Return the imperfection factor of Table 6.4."""
    deep = np.asarray(case.section.d / case.section.bf > 2 * (1 + 1e-9))
    usual, other = ("a", "b") if case.shape == "rolled I" else ("c", "d")
    return np.where(deep, c6_3_1.IMPERFECTION[other], c6_3_1.IMPERFECTION[usual])


def _special_curve(case: MemberCase) -> Any:
    """Return the imperfection factor of Table 6.5, or of the annex that has its own."""
    ratio = np.asarray(case.section.d / case.section.bf)
    curves = values(case).rolled_curves if case.shape == "rolled I" else values(case).welded_curves
    found: Any = np.nan
    for most, curve in reversed(curves):
        found = np.where(ratio <= most * (1 + 1e-9), c6_3_1.IMPERFECTION[curve], found)
    return found


@once_per_case
def lateral_resistance(case: MemberCase) -> Any:
    """Return M_b,Rd."""
    kind = sections.resistance_major(case)[1]
    W = sections.modulus(case, "major", kind)
    return c6_3_2.buckling_resistance(chi_LT(case), W, case.Fy, partial(case, 1))


def lateral_torsional(case: MemberCase) -> Check:
    """6.3.2."""
    M_Ed = given(GLOSSARY, "M_Ed", demand(case).M_major, "largest that compresses the flange")
    M_Rd = lateral_resistance(case)
    U = c6_3_2.utilisation(M_Ed, M_Rd)
    mask, reason = sections.bending_outside(case, "major")
    tip = np.isnan(np.asarray(chi_LT(case), dtype=float))
    if np.any(tip):
        mask, reason = mask | tip, FREE_TIP
    acting = np.asarray(M_Ed) > 0
    outside = mask & acting
    U = np.where(outside, np.nan, np.where(acting, U, 0.0))
    head = ("lateral-torsional buckling", "6.3.2", M_Ed, M_Rd, U, "moment", "M_major")
    return Check(*head, outside=outside, reason=reason)
