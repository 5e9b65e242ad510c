"""6.3.4: compression and bending in one plane, of sections that 6.3.3 is not for, or by choice."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_3_1, c6_3_2, c6_3_4, part_1_5
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import partial, pick
from welbric.standards.en1993.limit_states import (
    angles,
    bending,
    compression,
    effective,
    lateral,
)
from welbric.standards.en1993.limit_states.senses import senses, worse_sense
from welbric.standards.en1993.options import job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note, unrecorded

TRACE = 1e-6  # N mm
NEARLY = 0.99  # of an elastic critical force: there second-order effects end


def applies(case: MemberCase) -> bool:
    """Return whether 6.3.4 holds in place of 6.3.3."""
    by_choice = job_options(case.options).interaction == "general method"
    return case.shape not in shapes.DOUBLY_SYMMETRIC or by_choice


def interaction(case: MemberCase, name: str) -> Check:
    """6.3.4, with what bends the member about z beside it (6.2.1(7))."""
    if case.shape == shapes.ANGLE:
        return angles.buckling(case, name)
    d, moments = demand(case), lateral.moments_of_segment(case)
    N, M_z = np.asarray(d.compression), np.asarray(_with_shift(case))
    if not case.single and not np.any((N > 0) | (M_z > 0)):
        return Check(name, "6.3.4", None, None, 0.0, "number", "M_major")
    M_Ed, U = worse_sense(case, lambda one, sense: _of_sense(one, moments[sense], sense))
    bent = np.asarray(M_Ed) > TRACE
    held, _ = lateral.covered_length(case)
    together = (N > 0) & (bent | (M_z > 0)) | (bent & (M_z > 0) & ~held)
    if np.any(M_z > 0):
        U = _beside_minor(case, U)
    with unrecorded():
        mask, reason = _outside(case)
        not_minor, why_minor = bending.bending_outside(case, "minor")
    mask = mask | (np.asarray(not_minor) & (M_z > 0))
    reason = reason or (why_minor if np.any(M_z > 0) else "")
    outside = together & (mask | np.isnan(np.asarray(U, dtype=float)))
    reason = reason or lateral.why_free_tip(case)
    if case.single:
        if not together:
            note("Nothing to combine.")
        elif np.all(outside):
            note(f"Outside: {reason}.")
    U = np.where(outside, np.nan, np.where(together, U, 0.0))
    return Check(name, "6.3.4", None, None, U, "number", "M_major", outside, reason)


def _beside_minor(case: MemberCase, U: Any) -> Any:
    """Return a ratio of the general method with that of the moment about z, elastic."""
    heading("Bending about the z axis beside it", "6.2.1(7)")
    d = demand(case)
    M_z = given(GLOSSARY, "M_z_Ed", _with_shift(case), "largest of the member, with its shift")
    N_z = compression.critical_force(case, "minor")
    N_cr = np.minimum(N_z, compression.critical_twisting(case)) if _twists(case) else N_z
    W = bending.modulus(case, "minor", 3.0)
    force = _up_to_critical(case, d.compression, N_cr, compression.chi_z(case)[0])
    M_z_Rk = W * case.Fy
    if case.single:
        U = given(GLOSSARY, "U_plane", float(U), "from above")
        N_cr = given(GLOSSARY, "N_cr_op", float(N_cr), "with twisting where that is less")
        M_z_Rk = given(GLOSSARY, "M_z_Rk", float(M_z_Rk), "of the elastic section")
    M_II = c6_3_4.minor_moment(M_z, force, N_cr)
    return c6_3_4.with_minor_moment(U, M_II, M_z_Rk, partial(case, 1))


def _with_shift(case: MemberCase) -> Any:
    """Return the largest moment about z with that of the shift of a channel's axis (6.2.2.5(4))."""
    d = demand(case)
    found = d.M_minor + d.compression * np.abs(effective.shift_minor(case))
    return found if np.ndim(found) else float(found)


def _up_to_critical(case: MemberCase, N: Any, N_cr: Any, chi: Any) -> Any:
    """Return a compression, but no more than nearly a critical force, or what resists."""
    with unrecorded():
        N_b = chi * effective.area(case) * case.Fy / partial(case, 1)
    force = np.minimum(N, np.minimum(np.maximum(N_b, NEARLY * N_cr), 0.9999 * N_cr))
    if np.ndim(force):
        return force
    if force < N:
        return given(GLOSSARY, "N_Ed", float(force), "nearly the critical force, which it exceeds")
    return float(force)


def _outside(case: MemberCase) -> tuple[Any, str]:
    """Return where compression beside bending is not covered, and why."""
    chi = compression.imperfection(case, "minor") if not case.single else 0.0
    mask, reason = compression.compressed_outside(case, chi)
    mask = np.asarray(mask) & (np.asarray(demand(case).compression) > 0)
    reason = reason if np.any(mask) else ""
    for sense in senses(case):
        bent, why = bending.bending_outside(case, "major", sense)
        mask, reason = mask | bent, reason or why
    return mask, reason


def _of_sense(case: MemberCase, M: Any, sense: int) -> tuple[Any, ...]:
    d, gamma = demand(case), partial(case, 1)
    N_Ed = given(GLOSSARY, "N_Ed", d.compression, "largest compression of the member")
    M_y = given(GLOSSARY, "M_y_Ed", M, "largest that compresses the segment's flange")
    if case.single and not (N_Ed > 0 or M_y > 0):
        return M_y, 0.0
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
    with unrecorded():
        chi_y, _ = compression.chi_y(case)
    force = _up_to_critical(case, N_Ed, N_cr_y, chi_y)
    M_II = c6_3_4.in_plane_moment(M_y, force, e_0, N_cr_y)
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
    # Beyond its resistance in compression a member is no less than that over.
    return M_y, U


def _twists(case: MemberCase) -> bool:
    return shapes.twists(case.shape)


def _bow(case: MemberCase, plastic: Any) -> Any:
    """Return the length over the bow imperfection, by the curve in the plane (Table 5.1)."""
    found = compression.length_over_bow(compression.imperfection(case, "major"), plastic)
    if case.single:
        return given(GLOSSARY, "n_bow", float(np.ravel(found)[0]), "Table 5.1, of the class")
    return found
