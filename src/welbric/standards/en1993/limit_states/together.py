"""6.2.8 to 6.2.10: bending, shear and axial force that act together at a station."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_2, part_1_5
from welbric.standards.en1993.demands import Station, worst_station
from welbric.standards.en1993.design import partial, pick
from welbric.standards.en1993.limit_states import effective, shear
from welbric.standards.en1993.limit_states.bending import bending_outside, modulus
from welbric.standards.en1993.limit_states.bending import reason as reason_of
from welbric.standards.en1993.limit_states.senses import BOTTOM, TOP
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, holds, unrecorded

NO_NUMBER = "the calculation gave no number"
SHEAR_BUCKLES = (
    "shear beyond half the resistance of a web that buckles in shear, beside more than bending "
    "about the y axis (EN 1993-1-5, 7.1)"
)


def forces_together(case: MemberCase) -> Check:
    """6.2.8 to 6.2.10: bending, shear and axial force that act together at a station."""
    U, case.cache["station"] = worst_station(case, _at_station)
    outside = np.isnan(np.asarray(U, dtype=float))
    with unrecorded():
        reasons = [
            reason_of(case, "minor"),
            reason_of(case, "major"),
            effective.compression_outside(case)[1],
            SHEAR_BUCKLES if np.any(shear.web_may_buckle(case)) else "",
        ]
    reason = "; or ".join(dict.fromkeys(filter(None, reasons))) or NO_NUMBER
    return Check(
        "forces together, cross-section", "6.2.10", None, None, U, "number", "station",
        outside, reason,
    )  # fmt: skip


def _at_station(case: MemberCase, at: Station) -> Any:
    """Return the utilisation of forces that act together; 0 where fewer than two do."""
    if case.shape not in shapes.BY_SENSE:
        return _of_sense(case, at, TOP)
    pressed = np.maximum(-np.asarray(at.N), 0.0)
    M: Any = at.signed_major + pressed * effective.shift(case)
    M = M if np.ndim(M) else float(M)
    if case.single and np.ndim(M) == 0:
        if effective.shift(case):
            given(GLOSSARY, "M_y_Ed", abs(M), "with the moment of the shift (6.2.2.5(4))")
        return _of_sense(case, replace(at, M_major=abs(M)), TOP if M >= 0 else BOTTOM)
    shifted = replace(at, M_major=np.abs(M))
    return np.where(M >= 0, _of_sense(case, shifted, TOP), _of_sense(case, shifted, BOTTOM))


def _of_sense(case: MemberCase, at: Station, sense: int) -> Any:
    s, gamma = case.section, partial(case, 0)
    N = given(GLOSSARY, "N_Ed", np.abs(at.N) if np.ndim(at.N) else abs(at.N), "at this place")
    M_y = given(GLOSSARY, "M_y_Ed", at.M_major, "at this place")
    M_z = given(GLOSSARY, "M_z_Ed", at.M_minor, "at this place")
    V_z, V_y = at.V_major, at.V_minor
    heading("Classes under these forces", "5.5")
    pressed = -np.asarray(at.N) if np.ndim(at.N) else -at.N
    kind_y = classify.in_bending(case, "major", pressed, sense)
    kind_z = classify.in_bending(case, "minor", pressed)
    alone = classify.in_compression(case)
    zero = np.zeros(np.shape(M_y + kind_y + kind_z))
    bends_y, bends_z = (np.asarray(M > 0) for M in (M_y, M_z))
    in_axial = np.where(np.asarray(pressed) > 0, alone, 1.0)
    kind = np.maximum(np.where(bends_y, kind_y, 1.0), np.where(bends_z, kind_z, 1.0)) + zero
    kind = np.where(bends_y | bends_z, kind, in_axial)
    plastic = kind <= 2
    # The class of bending alone decides whether an elastic modulus is that of class 3.
    unknown = (bends_y & np.asarray(bending_outside(case, "major", sense)[0])) | (
        bends_z & np.asarray(bending_outside(case, "minor")[0])
    )
    unknown = unknown | (
        (np.asarray(pressed) > 0) & np.asarray(effective.compression_outside(case)[0])
    )
    W_y, W_z = modulus(case, "major", kind, sense), modulus(case, "minor", kind)
    # EN 1993-1-5, 7.1, from half the resistance in shear buckling on.
    may, buckles_beside = shear.web_may_buckle(case), np.asarray(False)
    if np.any(may):
        buckles_beside = may & (np.asarray(V_z) > 0.5 * shear.buckling_resistance(case))
    heading("Shear beside bending", "6.2.8")
    V_z_Rd = shear.beside_torsion(case, at.T, shear.resistance(case, "major"))
    V_y_Rd = shear.beside_torsion(case, at.T, shear.resistance(case, "minor"))
    rho_z = c6_2.rho(V_z, V_z_Rd)
    rho_y = c6_2.rho(V_y, V_y_Rd)
    rho = np.maximum(rho_z, rho_y) if np.ndim(rho_z + rho_y) else max(rho_z, rho_y)
    sheared = np.asarray(rho) > 0
    M_y_full = c6_2.bending(W_y, case.Fy, gamma)
    M_z_full = c6_2.bending(W_z, case.Fy, gamma)
    N_c = c6_2.compression(s.A, case.Fy, gamma)
    # Beside shear alone the web of an I loses what shear takes; beside more the whole section does.
    only_y = sheared & (np.asarray(N) == 0) & (np.asarray(M_z) == 0) & (np.asarray(rho_y) == 0)
    f_red = c6_2.reduced_yield(rho, case.Fy) if np.any(sheared) else case.Fy
    if np.any(sheared):
        M_y_red = c6_2.bending(W_y, f_red, gamma)
        M_z_red = c6_2.bending(W_z, f_red, gamma)
        N_red = c6_2.compression(s.A, f_red, gamma)
        if case.shape in shapes.DOUBLE_I and np.any(only_y):
            by_web = c6_2.bending_with_shear(
                W_y, rho, shear.web_depth(case), s.tw, case.Fy, gamma, M_y_full
            )
            M_y_red = pick(only_y, by_web, M_y_red)
        M_y_full, M_z_full = pick(sheared, M_y_red, M_y_full), pick(sheared, M_z_red, M_z_full)
        N_c = pick(sheared, N_red, N_c)
    heading("Bending and axial force", "6.2.9")
    # Of class 4 in compression the effective area counts, and the class in bending alone.
    slender = (np.asarray(alone) == 4) & (np.asarray(pressed) > 0) & (kind > 2)
    N_elastic = pick(slender, N_c * (effective.area(case) / s.A), N_c)
    U: Any = 0.0
    by_sum = not _has_plastic_rule(case.shape)
    if by_sum or not np.all(plastic):
        U = c6_2.linear(N, N_elastic, M_y, M_y_full, M_z, M_z_full)
    if np.any(plastic) and not by_sum:
        U = pick(plastic, _plastic(case, N, N_c, M_y, M_y_full, M_z, M_z_full, f_red), U)
    several = (
        (np.asarray(N) > 0).astype(int) + bends_y.astype(int) + bends_z.astype(int)
        + (sheared & (bends_y | bends_z)).astype(int)
    )  # fmt: skip
    U = np.where(several >= 2, U, 0.0)
    outside = (several >= 2) & unknown
    # Of an I in bending about the y axis alone 7.1 holds; with more it is not covered.
    bends, plain = bends_y | bends_z, np.asarray(False)
    if case.shape in shapes.DOUBLE_I and np.any(buckles_beside):
        plain = buckles_beside & bends_y & ~bends_z & (np.asarray(N) == 0)
        if np.any(plain):
            M_f = part_1_5.flanges_alone(s.bf, s.tf, s.d, case.Fy, gamma)
            M_pl = part_1_5.plastic_moment(s.Wpl_major, case.Fy, gamma)
            V_bw = shear.buckling_resistance(case)
            beside = part_1_5.bending_beside_shear_buckling(M_y, M_pl, M_f, V_z, V_bw)
            U = np.where(plain, beside, U)
    outside = outside | (bends & buckles_beside & ~plain)
    U = np.where(outside, np.nan, U)
    return U if np.ndim(U) else float(U)


def _has_plastic_rule(shape: str) -> bool:
    """Return whether 6.2.9.1 has the reduced moments of a shape; of others the sum 6.2 is taken."""
    return shape in (*shapes.DOUBLE_I, *shapes.CLOSED, shapes.FLAT)


def _plastic(
    case: MemberCase, N: Any, N_pl: Any, M_y: Any, M_c_y: Any, M_z: Any, M_c_z: Any, f_y: Any
) -> Any:
    """Return the ratio of class 1 and 2 (6.2.9.1)."""
    s, gamma = case.section, partial(case, 0)
    n = c6_2.axial_ratio(N, N_pl)
    alpha: Any
    beta: Any
    if case.shape in shapes.DOUBLE_I:
        a, h_w = c6_2.web_share(s.A, s.bf, s.tf), shear.web_depth(case)
        small = {"N_Ed": N, "h_w": h_w, "t_w": s.tw, "f_y": f_y, "gamma_M0": gamma}
        small_y = holds(c6_2.axial_force_is_small_y, N_Ed=N, N_pl_Rd=N_pl, h_w=h_w, t_w=s.tw,
                        f_y=f_y, gamma_M0=gamma)  # fmt: skip
        small_z = holds(c6_2.axial_force_is_small_z, **small)
        M_N_y = pick(small_y, M_c_y, c6_2.reduced_moment_y(M_c_y, n, a))
        M_N_z = pick(small_z, M_c_z, c6_2.reduced_moment_z(M_c_z, n, a))
        alpha, beta = 2.0, c6_2.exponent_i(n)
    elif case.shape in shapes.BOXES:
        if case.shape == shapes.TUBE:
            a_w, a_f = c6_2.webs_share(s.A, s.b, s.t), c6_2.flanges_share(s.A, s.d, s.t)
        else:
            a_w = c6_2.welded_webs_share(s.A, s.b, s.tf)
            a_f = c6_2.welded_flanges_share(s.A, s.d, s.tw)
        M_N_y = c6_2.reduced_box_y(M_c_y, n, a_w)
        M_N_z = c6_2.reduced_box_z(M_c_z, n, a_f)
        alpha = beta = c6_2.exponent_box(n)
    elif case.shape == shapes.FLAT:
        M_N_y, M_N_z = c6_2.reduced_solid(M_c_y, n), c6_2.reduced_solid_z(M_c_z, n)
        alpha = beta = 1.0
    else:
        M_N_y = M_N_z = c6_2.reduced_round(M_c_y, n)
        alpha = beta = 2.0
    both = (np.asarray(M_y) > 0) & (np.asarray(M_z) > 0)
    if np.ndim(M_y) == 0:  # what is not asked for is not written down
        if both:
            return c6_2.biaxial(M_y, M_N_y, M_z, M_N_z, alpha, beta)
        if M_y > 0:
            return c6_2.about_y(M_y, M_N_y)
        return c6_2.about_z(M_z, M_N_z) if M_z > 0 else n
    alone_y, alone_z = c6_2.about_y(M_y, M_N_y), c6_2.about_z(M_z, M_N_z)
    alone_y = np.where(np.asarray(M_y) > 0, alone_y, 0.0)
    alone_z = np.where(np.asarray(M_z) > 0, alone_z, 0.0)
    U = np.maximum(alone_y, alone_z)
    if np.any(both):
        together = c6_2.biaxial(M_y, M_N_y, M_z, M_N_z, alpha, beta)
        U = np.where(both, np.maximum(together, 0.0), U)
    return U
