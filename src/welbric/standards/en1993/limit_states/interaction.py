"""6.3.3: members in bending and compression, by Annex A or B; else 6.3.4."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import annex_b, c6_3_1
from welbric.standards.en1993.demands import Demand, demand
from welbric.standards.en1993.design import partial, pick
from welbric.standards.en1993.limit_states import (
    bending,
    compression,
    effective,
    general_method,
    lateral,
    method_1,
)
from welbric.standards.en1993.limit_states.moment_shapes import C_mLT, C_my, C_mz
from welbric.standards.en1993.options import job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NAME = "buckling, bending and compression"


def interaction(case: MemberCase) -> Check:
    """6.61 and 6.62, or 6.3.4."""
    if general_method.applies(case):
        return general_method.interaction(case, NAME)
    d = demand(case)
    if not case.single and not np.any(_together(d)):
        return Check(NAME, "6.3.3", None, None, 0.0, "number", "M_major")
    N = given(GLOSSARY, "N_Ed", d.compression, "largest compression of the member")
    M_y = given(GLOSSARY, "M_y_Ed", d.M_major, "largest that compresses the segment's flange")
    M_z = given(GLOSSARY, "M_z_Ed", d.M_minor, "largest moment of the member about the z axis")
    heading("Class under these forces", "5.5")
    kind = classify.together(case, N, M_y, M_z)
    plastic = np.asarray(kind) <= 2
    not_minor, reason_z = bending.bending_outside(case, "minor")
    not_major, reason_y = bending.bending_outside(case, "major")
    # A moment that compresses the other flange bends the segment too.
    unknown_class = ((np.asarray(d.M_max) > 0) & np.asarray(not_major)) | (
        (np.asarray(M_z) > 0) & np.asarray(not_minor)
    )
    area = effective.area(case)
    gamma = partial(case, 1)
    (chi_y, lambda_y), (chi_z, lambda_z) = compression.chi_y(case), compression.chi_z(case)
    pressed_outside, reason_N = compression.compressed_outside(case, chi_y * chi_z)
    flexural_z = chi_z
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
    N_b = np.minimum(chi_y, chi_z) * N_Rk / gamma
    if annex == "Annex A":
        k = method_1.factors(
            case, kind, N, N_b, M_y, M_z, chi_y, lambda_y, flexural_z, lambda_z, chi_LT, N_Rk,
            W_y, gamma,
        )  # fmt: skip
    else:
        n_y = annex_b.axial_share_y(N, chi_y, N_Rk, gamma)
        n_z = annex_b.axial_share_z(N, chi_z, N_Rk, gamma)
        k = _factors(case, plastic, lambda_y, n_y, lambda_z, n_z, M_z)
    heading("Interaction", "6.3.3")
    U_y = annex_b.about_y(
        N, chi_y, N_Rk, gamma, k["k_yy"], M_y, chi_LT, M_y_Rk, k["k_yz"], M_z, M_z_Rk
    )
    U_z = annex_b.about_z(
        N, chi_z, N_Rk, gamma, k["k_zy"], M_y, chi_LT, M_y_Rk, k["k_zz"], M_z, M_z_Rk
    )
    U = annex_b.worse(U_y, U_z)
    # Beyond its resistance a factor may be below zero: the axial force alone is no less.
    if np.ndim(U):
        U = np.maximum(U, N / N_b)
    elif N / N_b > U:
        U = c6_3_1.utilisation(N, given(GLOSSARY, "N_b_Rd", float(N_b), "the lesser of both axes"))
    together = _together(d)
    unknown = np.isnan(np.asarray(U, dtype=float))
    outside = together & (unknown_class | ((np.asarray(N) > 0) & pressed_outside) | unknown)
    reason = reason_z or reason_y or reason_N or lateral.why_free_tip(case)
    if case.single and not together:
        note("Nothing to combine.")
    sways = case.buckling.sways_major or case.buckling.sways_minor
    if annex == "Annex A" and sways:
        outside, reason = together, method_1.SWAYS
    U = pick(outside, np.nan, pick(~together, 0.0, U))
    return Check(
        NAME, "6.3.3", None, None, U, "number", "M_major", outside,
        reason,
    )  # fmt: skip


def _together(d: Demand) -> Any:
    """Return where compression and bending act together, or bending about both axes."""
    pressed, by_y, by_z = (np.asarray(v) > 0 for v in (d.compression, d.M_major, d.M_minor))
    # Without compression 6.3.3 still has bending about both axes of a member that can twist.
    return (pressed & (by_y | by_z)) | (by_y & by_z)


def _factors(
    case: MemberCase,
    plastic: Any,
    lambda_y: Any,
    n_y: Any,
    lambda_z: Any,
    n_z: Any,
    M_z: Any,
) -> dict[str, Any]:
    """Return the interaction factors of Tables B.1 and B.2."""
    my, mz = C_my(case), C_mz(case)
    by_box = case.shape not in (*shapes.DOUBLE_I, shapes.FLAT)  # the column of hollow sections
    k_zz_plastic = annex_b.k_zz_plastic_box if by_box else annex_b.k_zz_plastic_i
    twists = lateral.is_susceptible(case)

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
    k_zy: Any = 0.0
    if not np.all(twists):
        k_zy = by_class(lambda: annex_b.k_zy_plastic(k_yy), lambda: annex_b.k_zy_elastic(k_yy))
        if by_box:  # Table B.1, note: of hollow sections bent about the y axis alone it may be 0
            k_zy = pick(np.asarray(M_z) > 0, k_zy, 0.0)
    if np.any(twists):
        mLT = C_mLT(case)
        of_table_b2 = by_class(
            lambda: annex_b.k_zy_plastic_twisting(lambda_z, n_z, mLT),
            lambda: annex_b.k_zy_elastic_twisting(lambda_z, n_z, mLT),
        )
        k_zy = pick(twists, of_table_b2, k_zy)
    return {"k_yy": k_yy, "k_yz": k_yz, "k_zy": k_zy, "k_zz": k_zz}
