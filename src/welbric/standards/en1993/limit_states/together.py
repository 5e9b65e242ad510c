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

NEARLY_ALL = 0.99  # of the yield strength that shear takes, and of N_pl: there measures end
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
            SHEAR_BUCKLES if _may_buckle(case) else "",
            effective.ROUND if np.any(shear.wall_outside(case)) else "",
        ]
    reason = "; or ".join(dict.fromkeys(filter(None, reasons))) or NO_NUMBER
    return Check(
        "forces together, cross-section", "6.2.10", None, None, U, "number", "station",
        outside, reason,
    )  # fmt: skip


def _may_buckle(case: MemberCase) -> bool:
    return any(np.any(shear.web_may_buckle(case, axis)) for axis in ("major", "minor"))


def _at_station(case: MemberCase, at: Station) -> Any:
    """Return the utilisation of forces that act together; 0 where fewer than two do."""
    if np.any(effective.shift_minor(case)):
        e_N, force = np.abs(effective.shift_minor(case)), np.maximum(-np.asarray(at.N), 0.0)
        M_z = at.M_minor + force * e_N
        if np.ndim(M_z) == 0:
            M_z = given(GLOSSARY, "M_z_Ed", float(M_z), "with the moment of the shift (6.2.2.5(4))")
        at = replace(at, M_minor=M_z)
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
    bends_y, bends_z = (np.asarray(M > 0) for M in (M_y, M_z))
    heading("Class under these forces", "5.5")
    pressed = -np.asarray(at.N) if np.ndim(at.N) else -at.N
    kind = classify.together(case, pressed, M_y, M_z, sense)
    alone, plastic = classify.in_compression(case), np.asarray(kind) <= 2
    # The class of bending alone decides whether an elastic modulus is that of class 3.
    unknown = (bends_y & np.asarray(bending_outside(case, "major", sense)[0])) | (
        bends_z & np.asarray(bending_outside(case, "minor")[0])
    )
    unknown = unknown | (
        (np.asarray(pressed) > 0) & np.asarray(effective.compression_outside(case)[0])
    )
    W_y, W_z = modulus(case, "major", kind, sense), modulus(case, "minor", kind)
    M_y_Rd = c6_2.bending(W_y, case.Fy, gamma)
    M_z_Rd = c6_2.bending(W_z, case.Fy, gamma)
    N_Rd = c6_2.compression(s.A, case.Fy, gamma)
    heading("Shear beside bending", "6.2.8")
    rho, only_z, V_ratio = _sheared(case, at)
    sheared = np.asarray(rho) > 0
    reduced = N_Rd, M_y_Rd, M_z_Rd
    f_red = case.Fy
    if np.any(sheared):
        f_red = c6_2.reduced_yield(np.minimum(rho, NEARLY_ALL) if np.ndim(rho)
                                   else min(rho, NEARLY_ALL), case.Fy)  # fmt: skip
        M_y_red = c6_2.bending(W_y, f_red, gamma)
        # Beside shear alone the web of an I loses what shear takes; beside more the whole section.
        only_y = only_z & (np.asarray(N) == 0) & ~bends_z
        if case.shape in shapes.DOUBLE_I and np.any(only_y):
            by_web = c6_2.bending_with_shear(
                W_y, rho, shear.web_depth(case), s.tw, case.Fy, gamma, M_y_Rd
            )
            M_y_red = pick(only_y, by_web, M_y_red)
        less = c6_2.compression(s.A, f_red, gamma), M_y_red, c6_2.bending(W_z, f_red, gamma)
        reduced = tuple(pick(sheared, a, b) for a, b in zip(less, reduced, strict=True))
    heading("Bending and axial force", "6.2.9")
    # Of class 4 in compression the effective area counts, and the class in bending alone.
    slender = (np.asarray(alone) == 4) & (np.asarray(pressed) > 0) & (np.asarray(kind) > 2)
    share = pick(slender, effective.area(case) / s.A, 1.0)
    N_c, M_c_y, M_c_z = reduced
    U: Any = 0.0
    by_sum = not _has_plastic_rule(case.shape)
    if by_sum or not np.all(plastic):
        U = c6_2.linear(N, N_c * share, M_y, M_c_y, M_z, M_c_z)
    if np.any(plastic) and not by_sum:
        U = pick(plastic, _plastic(case, N, N_c, M_y, M_c_y, M_z, M_c_z, f_red), U)
    U, t = _beside_torsion(case, at.T, U)
    # Where nothing is left for a moment the sum of all ratios tells how much too much acts.
    with unrecorded():
        whole = c6_2.linear(N, N_Rd * share, M_y, M_y_Rd, M_z, M_z_Rd)
        U_V = np.where(sheared, V_ratio, 0.0)
        ends = (np.asarray(rho) > NEARLY_ALL) | (np.asarray(N / N_c) > NEARLY_ALL)
    if np.ndim(U) == 0 and np.ndim(ends) == 0:
        if ends and whole + U_V + t > U:
            U = c6_2.all_added(float(whole), float(U_V), float(t))
    else:
        U = np.where(ends, np.maximum(U, whole + U_V + t), U)
    several = (
        (np.asarray(N) > 0).astype(int) + bends_y.astype(int) + bends_z.astype(int)
        + (sheared & (bends_y | bends_z)).astype(int) + np.asarray(t > 0).astype(int)
    )  # fmt: skip
    U = np.where(several >= 2, U, 0.0)
    outside = (several >= 2) & (unknown | ((np.asarray(t) > 0) & shear.wall_outside(case)))
    U, buckles = _beside_shear_buckling(case, at, N, M_y, bends_y, bends_z, gamma, U)
    U = np.where(outside | buckles, np.nan, U)
    return U if np.ndim(U) else float(U)


def _sheared(case: MemberCase, at: Station) -> tuple[Any, Any, Any]:
    """Return what shear takes of the yield strength, where only that along z does, and V over V_Rd.

    V over V_Rd is of the plastic resistance, without torsion, of both directions together.
    """
    if shear.is_round(case.shape):
        with unrecorded():
            V = c6_2.resultant_shear(at.V_major, at.V_minor)
        V = given(GLOSSARY, "V_Ed", V, "both directions together") if np.ndim(V) == 0 else V
        V_Rd = shear.resistance(case, "major")
        rho = c6_2.rho(V, shear.beside_torsion(case, at.T, V_Rd))
        return rho, np.asarray(False), V / V_Rd
    V_z, V_y = at.V_major, at.V_minor
    V_z_Rd, V_y_Rd = shear.resistance(case, "major"), shear.resistance(case, "minor")
    rho_z = c6_2.rho(V_z, shear.beside_torsion(case, at.T, V_z_Rd))
    rho_y = c6_2.rho(V_y, shear.beside_torsion(case, at.T, V_y_Rd))
    rho = np.maximum(rho_z, rho_y) if np.ndim(rho_z + rho_y) else max(rho_z, rho_y)
    return rho, (np.asarray(rho_z) > 0) & (np.asarray(rho_y) == 0), V_z / V_z_Rd + V_y / V_y_Rd


def _beside_torsion(case: MemberCase, T: Any, U: Any) -> tuple[Any, Any]:
    """Return a ratio of direct stresses beside torsion (6.2.1(5), (6)), and torsion over T_Rd.

    The shear stress of torsion takes of the yield stress what von Mises' criterion says.
    """
    if not shear.carries_torsion(case.shape) or not np.any(T):
        return U, np.asarray(0.0)
    heading("Torsion beside these", "6.2.1(5)")
    T = given(GLOSSARY, "T_Ed", T, "at this place") if np.ndim(T) == 0 else T
    T_Rd = shear.torsion_resistance(case)
    if np.ndim(U) == 0:
        U = given(GLOSSARY, "U_sigma", float(U), "of the direct stresses, from above")
    return c6_2.beside_torsion(U, T, T_Rd), np.asarray(T / T_Rd)


def _beside_shear_buckling(
    case: MemberCase, at: Station, N: Any, M_y: Any, bends_y: Any, bends_z: Any, gamma: Any, U: Any
) -> tuple[Any, Any]:
    """Return a ratio beside shear that makes a web buckle, and where that is not covered.

    Of an I in bending about the y axis alone EN 1993-1-5, 7.1 has it, from half the resistance on.
    """
    s, bends = case.section, bends_y | bends_z
    beside, looking = np.asarray(False), replace(case, cache=dict(case.cache))
    with unrecorded():  # it is written down where it counts
        for axis in ("major", "minor"):
            may = shear.web_may_buckle(looking, axis)
            if np.any(may):
                V = shear.with_torsion(looking, axis, getattr(at, f"V_{axis}"), at.T)
                half = 0.5 * shear.buckling_resistance(looking, axis)
                beside = beside | (may & (np.asarray(V) > half))
    plain = np.asarray(False)
    if case.shape in shapes.DOUBLE_I and np.any(beside):
        plain = beside & bends_y & ~bends_z & (np.asarray(N) == 0)
        if np.any(plain):
            M_f = part_1_5.flanges_alone(s.bf, s.tf, s.d, case.Fy, gamma)
            M_pl = part_1_5.plastic_moment(s.Wpl_major, case.Fy, gamma)
            V_bw = shear.buckling_resistance(case)
            by_web = part_1_5.bending_beside_shear_buckling(M_y, M_pl, M_f, at.V_major, V_bw)
            U = np.where(plain, by_web, U)
    return U, bends & beside & ~plain


def _has_plastic_rule(shape: str) -> bool:
    """Return whether 6.2.9.1 has the reduced moments of a shape; of others the sum 6.2 is taken."""
    return shape in (*shapes.DOUBLE_I, *shapes.CLOSED, shapes.FLAT)


def _plastic(
    case: MemberCase, N: Any, N_pl: Any, M_y: Any, M_c_y: Any, M_z: Any, M_c_z: Any, f_y: Any
) -> Any:
    """Return the ratio of class 1 and 2 (6.2.9.1)."""
    s, gamma = case.section, partial(case, 0)
    n = c6_2.axial_ratio(N, N_pl)
    axial = n
    if np.any(np.asarray(n) > NEARLY_ALL):
        n = np.minimum(n, NEARLY_ALL)
        n = n if np.ndim(n) else given(GLOSSARY, "n", float(n), "beyond it the sum 6.2 counts")
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
    bends_y, bends_z = np.asarray(M_y) > 0, np.asarray(M_z) > 0
    # Without a moment the axial force counts; what is not asked for is not written down.
    U = np.where(bends_y | bends_z, 0.0, axial)
    if np.any(bends_y):
        U = np.where(bends_y, c6_2.about_y(M_y, M_N_y), U)
    if np.any(bends_z):
        U = np.maximum(U, np.where(bends_z, c6_2.about_z(M_z, M_N_z), 0.0))
    if case.shape == shapes.ROUND and np.any(bends_y & bends_z):
        both = c6_2.resultant_of_moments(M_y, M_z, M_N_y)
        U = np.where(bends_y & bends_z, both, U)
    elif np.any(bends_y & bends_z):
        # 6.31 holds beside 6.41: the ratio does not fall as a little of the other moment is added.
        biaxial = c6_2.biaxial(M_y, M_N_y, M_z, M_N_z, alpha, beta)
        if np.ndim(M_y) == 0:
            return c6_2.worst_of_moments(M_y, M_N_y, M_z, M_N_z, biaxial)
        U = np.maximum(U, np.where(bends_y & bends_z, biaxial, 0.0))
    return U if np.ndim(U) else float(U)
