"""6.3.3: members in bending and compression, by Annex A or B; else 6.3.4."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import annex_b
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import partial, pick
from welbric.standards.en1993.limit_states import (
    bending,
    compression,
    effective,
    general_method,
    lateral,
    method_1,
)
from welbric.standards.en1993.options import job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NAME = "buckling, bending and compression"
SWAY = 0.9  # Table B.3, of a member that sways
NOT_OF_TABLE = 1.1  # of the moments at the ends and the middle: beyond, the table does not fit


def _factor(
    case: MemberCase,
    symbol: str,
    start: Any,
    middle: Any,
    end: Any,
    most: Any,
    loaded: bool,
    sways: bool,
) -> Any:
    """Return an equivalent uniform moment factor (Table B.3)."""
    if sways:
        return given(GLOSSARY, symbol, SWAY, "Table B.3, note: the member sways")
    if not bool(np.all(case.effects.one_span)) and symbol != "C_mLT":
        return given(GLOSSARY, symbol, 1.0, "taken: of several spans")
    first_larger = np.abs(start) >= np.abs(end)
    M_h, other = pick(first_larger, start, end), pick(first_larger, end, start)
    psi = _ratio(other, M_h, 1.0)
    straight = np.abs(middle - 0.5 * (start + end)) <= 1e-6 * np.maximum(most, 1e-300)
    if not loaded:
        straight = straight | True
    strange = most > NOT_OF_TABLE * np.maximum(np.abs(M_h), np.abs(middle)) * (1 + 1e-9)
    if np.ndim(most) == 0:
        if most <= 0:
            return 1.0
        if strange:
            return given(GLOSSARY, symbol, 1.0, "taken: Table B.3 has no such moments")
        psi = given(GLOSSARY, "psi", float(psi), "of the moments at the ends")
        if straight:
            found = annex_b.linear_moment(psi)
        elif abs(M_h) >= abs(middle):
            found = annex_b.where_end_governs(float(M_h), float(middle), psi)
        else:
            found = annex_b.where_middle_governs(float(M_h), float(middle), psi)
        return given(GLOSSARY, symbol, float(found), "Table B.3")
    safe_h = np.where(np.abs(M_h) > 0, M_h, 1e-30)
    safe_s = np.where(np.abs(middle) > 0, middle, 1e-30)
    loaded_factor = np.where(
        np.abs(M_h) >= np.abs(middle),
        annex_b.where_end_governs(safe_h, safe_s, psi),
        annex_b.where_middle_governs(safe_h, safe_s, psi),
    )
    found = np.where(straight, annex_b.linear_moment(psi), loaded_factor)
    return np.where(strange | (most <= 0), 1.0, found)


def _ratio(over: Any, under: Any, otherwise: float) -> Any:
    if np.ndim(under) == 0:
        return over / under if under else otherwise
    bent = np.asarray(under) != 0
    return np.where(bent, over / np.where(bent, under, 1.0), otherwise)


@once_per_case
def C_my(case: MemberCase) -> Any:
    """Return C_my, between the member's supports about the y axis."""
    d = demand(case)
    return _factor(case, "C_my", d.y_start, d.y_middle, d.y_end, d.y_max, case.loaded_major,
                   case.buckling.sways_major)  # fmt: skip


@once_per_case
def C_mz(case: MemberCase) -> Any:
    """Return C_mz, between the member's supports about the z axis."""
    d = demand(case)
    return _factor(case, "C_mz", d.z_start, d.z_middle, d.z_end, d.z_max, case.loaded_minor,
                   case.buckling.sways_minor)  # fmt: skip


@once_per_case
def C_mLT(case: MemberCase) -> Any:
    """Return C_mLT, between the lateral restraints of the segment."""
    d = demand(case)
    # Of a segment the shape of the moment tells whether loads act in it.
    return _factor(case, "C_mLT", d.s_start, d.s_middle, d.s_end, d.M_max, True, False)


def interaction(case: MemberCase) -> Check:
    """6.61 and 6.62, or 6.3.4."""
    if general_method.applies(case):
        return general_method.interaction(case, NAME)
    d = demand(case)
    N = given(GLOSSARY, "N_Ed", d.compression, "largest compression of the member")
    M_y = given(GLOSSARY, "M_y_Ed", d.M_major, "largest that compresses the segment's flange")
    M_z = given(GLOSSARY, "M_z_Ed", d.M_minor, "largest moment of the member about the z axis")
    heading("Classes under these forces", "5.5")
    kind_y = classify.in_bending(case, "major", N)
    kind_z = classify.in_bending(case, "minor", N)
    kind = np.maximum(_where_bent(M_y, kind_y), _where_bent(M_z, kind_z))
    kind = kind if np.ndim(kind) else float(kind)
    plastic = np.asarray(kind) <= 2
    not_minor, reason_z = bending.bending_outside(case, "minor")
    not_major, reason_y = bending.bending_outside(case, "major")
    unknown_class = ((np.asarray(M_y) > 0) & np.asarray(not_major)) | (
        (np.asarray(M_z) > 0) & np.asarray(not_minor)
    )
    area = effective.area(case)
    gamma = partial(case, 1)
    (chi_y, lambda_y), (chi_z, lambda_z) = compression.chi_y(case), compression.chi_z(case)
    pressed_outside, reason_N = compression.compressed_outside(case, chi_y * chi_z)
    if shapes.twists(case.shape):
        chi_t, _ = compression.chi_t(case)
        chi_z = np.minimum(chi_z, chi_t) if np.ndim(chi_z + chi_t) else min(chi_z, chi_t)
        if case.single:
            chi_z = given(GLOSSARY, "chi_z", float(chi_z), "the lesser of buckling and torsion")
    chi_LT = lateral.reduction(case, kind)
    annex = job_options(case.options).interaction
    heading("Interaction factors", annex)
    N_Rk = area * case.Fy
    W_y, W_z = bending.modulus(case, "major", kind), bending.modulus(case, "minor", kind)
    M_y_Rk, M_z_Rk = W_y * case.Fy, W_z * case.Fy
    for symbol, value in (("N_Rk", N_Rk), ("M_y_Rk", M_y_Rk), ("M_z_Rk", M_z_Rk)):
        if case.single:
            given(GLOSSARY, symbol, float(value), "Table 6.7, of the class")
    beyond = np.asarray(False)
    if annex == "Annex A":
        k, beyond = method_1.factors(
            case, plastic, N, M_y, M_z, chi_y, lambda_y, chi_z, lambda_z, chi_LT, N_Rk, W_y, gamma
        )
    else:
        n_y = annex_b.axial_share_y(N, chi_y, N_Rk, gamma)
        n_z = annex_b.axial_share_z(N, chi_z, N_Rk, gamma)
        k = _factors(case, plastic, lambda_y, n_y, lambda_z, n_z, M_z, chi_LT)
    heading("Interaction", "6.3.3")
    U_y = annex_b.about_y(
        N, chi_y, N_Rk, gamma, k["k_yy"], M_y, chi_LT, M_y_Rk, k["k_yz"], M_z, M_z_Rk
    )
    U_z = annex_b.about_z(
        N, chi_z, N_Rk, gamma, k["k_zy"], M_y, chi_LT, M_y_Rk, k["k_zz"], M_z, M_z_Rk
    )
    U = annex_b.worse(U_y, U_z)
    together = (np.asarray(N) > 0) & ((np.asarray(M_y) > 0) | (np.asarray(M_z) > 0))
    # Without compression 6.3.3 still has bending about both axes of a member that can twist.
    together = together | ((np.asarray(M_y) > 0) & (np.asarray(M_z) > 0))
    unknown = np.isnan(np.asarray(U, dtype=float))
    outside = together & (unknown_class | ((np.asarray(N) > 0) & pressed_outside) | unknown)
    reason = reason_z or reason_y or reason_N or lateral.FREE_TIP
    if case.single and not together:
        note("Nothing to combine.")
    if annex == "Annex A":
        if case.buckling.sways_major or case.buckling.sways_minor:
            outside, reason = together, method_1.SWAYS
        if case.single and beyond:
            note(f"{method_1.BEYOND[:1].upper()}{method_1.BEYOND[1:]}: the member is over.")
        U = np.where(beyond, np.inf, U)
    U = pick(outside, np.nan, pick(~together, 0.0, U))
    return Check(
        NAME, "6.3.3", None, None, U, "number", "M_major", outside,
        reason,
    )  # fmt: skip


def _where_bent(M: Any, kind: Any) -> Any:
    """Return the class where a moment acts, else 1; as small an array as it can be."""
    bent = np.asarray(M) > 0
    return kind if bent.all() else np.where(bent, kind, 1.0)


def _factors(
    case: MemberCase,
    plastic: Any,
    lambda_y: Any,
    n_y: Any,
    lambda_z: Any,
    n_z: Any,
    M_z: Any,
    chi_LT: Any,
) -> dict[str, Any]:
    """Return the interaction factors of Tables B.1 and B.2."""
    my, mz = C_my(case), C_mz(case)
    box = not lateral.is_susceptible(case)
    k_zz_plastic = annex_b.k_zz_plastic_box if box else annex_b.k_zz_plastic_i

    def by_class(if_plastic: Any, if_elastic: Any) -> Any:
        """Run only what is asked for on single numbers."""
        if np.ndim(plastic) == 0:
            return if_plastic() if plastic else if_elastic()
        return np.where(plastic, if_plastic(), if_elastic())

    k_yy = by_class(
        lambda: annex_b.k_yy_plastic(my, lambda_y, n_y),
        lambda: annex_b.k_yy_elastic(my, lambda_y, n_y),
    )
    k_zz = by_class(
        lambda: k_zz_plastic(mz, lambda_z, n_z), lambda: annex_b.k_zz_elastic(mz, lambda_z, n_z)
    )
    k_yz = by_class(lambda: annex_b.k_yz_plastic(k_zz), lambda: annex_b.k_yz_elastic(k_zz))
    if box:
        k_zy = by_class(lambda: annex_b.k_zy_plastic(k_yy), lambda: annex_b.k_zy_elastic(k_yy))
        # Table B.1, note: of hollow sections bent about the y axis alone it may be 0.
        k_zy = pick((np.asarray(M_z) > 0) | (np.asarray(chi_LT) < 1), k_zy, 0.0)
    else:
        mLT = C_mLT(case)
        k_zy = by_class(
            lambda: annex_b.k_zy_plastic_twisting(lambda_z, n_z, mLT),
            lambda: annex_b.k_zy_elastic_twisting(lambda_z, n_z, mLT),
        )
    return {"k_yy": k_yy, "k_yz": k_yz, "k_zy": k_zy, "k_zz": k_zz}
