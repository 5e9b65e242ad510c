"""6.3.4: compression and bending in one plane, of sections that 6.3.3 is not for, or by choice."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_3_1, c6_3_2, c6_3_4, part_1_5
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import partial, pick
from welbric.standards.en1993.limit_states import bending, compression, effective, lateral
from welbric.standards.en1993.limit_states.senses import senses, worse_sense
from welbric.standards.en1993.options import job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note, unrecorded

BIAXIAL = (
    "bending about both axes beside buckling, of a section without two axes of symmetry (6.3.3) or "
    "by the general method, which is for one plane (6.3.4)"
)
OF_ANGLE = "6.3.3 and 6.3.4 have no angle that is bent and compressed"
TRACE = 1e-6  # N mm
BEYOND = "the axial force is beyond an elastic critical one"


def applies(case: MemberCase) -> bool:
    """Return whether 6.3.4 holds in place of 6.3.3."""
    by_choice = job_options(case.options).interaction == "general method"
    return case.shape not in shapes.DOUBLY_SYMMETRIC or by_choice


def interaction(case: MemberCase, name: str) -> Check:
    """6.3.4."""
    d, moments = demand(case), lateral.moments_of_segment(case)
    N, M_z = np.asarray(d.compression), np.asarray(d.M_minor)
    M_Ed, U = worse_sense(case, lambda one, sense: _of_sense(one, moments[sense], sense))
    bent = np.asarray(M_Ed) > TRACE
    held, _ = lateral.covered_length(case)
    together = (N > 0) & (bent | (M_z > 0)) | (bent & (M_z > 0) & ~held)
    with unrecorded():
        mask, reason = _outside(case)
    outside = together & (mask | (M_z > 0) | np.isnan(np.asarray(U, dtype=float)))
    if np.any(together & (M_z > 0)):
        reason = BIAXIAL
    if case.shape == shapes.ANGLE:
        outside, reason = (N > 0) & ((np.asarray(d.M_max) > 0) | (M_z > 0)), OF_ANGLE
        together = outside
    if case.single:
        if not together:
            note("Nothing to combine.")
        elif np.all(outside):
            note(f"Outside: {reason or lateral.why_free_tip(case)}.")
    U = np.where(outside, np.nan, np.where(together, U, 0.0))
    reason = reason or lateral.why_free_tip(case)
    return Check(name, "6.3.4", None, None, U, "number", "M_major", outside, reason)


def _outside(case: MemberCase) -> tuple[Any, str]:
    """Return where compression beside bending is not covered, and why."""
    chi = compression.imperfection(case, "minor") if not case.single else 0.0
    mask, reason = compression.compressed_outside(case, chi)
    for sense in senses(case):
        bent, why = bending.bending_outside(case, "major", sense)
        mask, reason = mask | bent, reason or why
    return mask, reason


def _of_sense(case: MemberCase, M: Any, sense: int) -> tuple[Any, ...]:
    d, gamma = demand(case), partial(case, 1)
    N_Ed = given(GLOSSARY, "N_Ed", d.compression, "largest compression of the member")
    M_y = given(GLOSSARY, "M_y_Ed", M, "largest that compresses the segment's flange")
    if case.shape == shapes.ANGLE:
        return M_y, 0.0 * (N_Ed + M_y)
    if np.any(effective.shift(case)):
        e_N = given(GLOSSARY, "e_N", sense * effective.shift(case), "towards the compressed side")
        M_y = part_1_5.moment_with_shift(M_y, N_Ed, e_N)
    heading("In the plane of the moment", "6.3.4(2)")
    kind = classify.in_bending(case, "major", N_Ed, sense)
    plastic = np.asarray(kind) <= 2
    W = bending.modulus(case, "major", kind, sense)
    N_Rk, M_y_Rk = effective.area(case) * case.Fy, W * case.Fy
    if case.single:
        N_Rk = given(GLOSSARY, "N_Rk", float(N_Rk), "Table 6.7, of the class")
        M_y_Rk = given(GLOSSARY, "M_y_Rk", float(M_y_Rk), "Table 6.7, of the class")
    e_0 = c6_3_4.bow(case.buckling.effective("major"), _bow(case, plastic))
    N_cr_y = compression.critical_force(case, "major")
    beyond = np.asarray(N_Ed) >= np.asarray(N_cr_y)
    force = pick(beyond, 0.0, N_Ed)
    M_II = c6_3_4.in_plane_moment(M_y, force if np.ndim(force) else float(force), e_0, N_cr_y)
    some = np.asarray((np.asarray(N_Ed) > 0) | (np.asarray(M_y) > 0))
    M_II = pick(some, M_II, 1e-9) if not case.single else (float(M_II) or 1e-9)
    level = c6_3_4.load_level_in_plane(N_Ed, N_Rk, M_II, M_y_Rk)
    heading("Out of that plane", "6.3.4(3)")
    N_z = compression.critical_force(case, "minor")
    lesser = np.minimum(N_z, compression.critical_twisting(case)) if _twists(case) else N_z
    N_cr_op = given(GLOSSARY, "N_cr_op", lesser if np.ndim(lesser) else float(lesser),
                    "in bending about z, or with twisting where that is less")  # fmt: skip
    held, _ = lateral.covered_length(case)
    never = held | lateral.is_square(case)
    if not shapes.bends_sideways(case.shape) or (case.single and np.all(never)):
        M_cr: Any = given(GLOSSARY, "M_cr", np.inf, "it does not buckle laterally in bending")
    else:
        M_cr = pick(never, np.inf, lateral.critical_moment(case, sense))
    critical = c6_3_4.critical_load_level(N_Ed, N_cr_op, M_y, M_cr)
    lambda_op = c6_3_4.slenderness(level, critical)
    chi = c6_3_1.reduction(compression.imperfection(case, "minor"), lambda_op)
    alpha_LT = lateral.general_curve(case)
    if case.single:
        alpha_LT = given(GLOSSARY, "alpha_LT", float(np.ravel(alpha_LT)[0]), "Table 6.4")
    chi_LT = c6_3_2.reduction(alpha_LT, lambda_op, 0.2, 1.0)
    U = c6_3_4.utilisation(c6_3_4.lesser(chi, chi_LT), level, gamma)
    if case.single and beyond:
        note(f"{BEYOND[:1].upper()}{BEYOND[1:]}: the member is over.")
    return M_y, np.where(beyond, np.inf, U)


def _twists(case: MemberCase) -> bool:
    return shapes.twists(case.shape)


def _bow(case: MemberCase, plastic: Any) -> Any:
    """Return the length over the bow imperfection, by the curve in the plane (Table 5.1)."""
    found = compression.length_over_bow(compression.imperfection(case, "major"), plastic)
    if case.single:
        return given(GLOSSARY, "n_bow", float(np.ravel(found)[0]), "Table 5.1, of the class")
    return found
