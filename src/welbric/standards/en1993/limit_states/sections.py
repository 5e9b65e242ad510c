"""6.2: resistance of cross-sections."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.standards.en1993 import classify
from welbric.standards.en1993.clauses import c6_2, part_1_5
from welbric.standards.en1993.demands import Station, demand, worst_station
from welbric.standards.en1993.design import partial, pick, uncovered, values
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, holds

AXES = {"major": "y", "minor": "z"}
CLASS_4_BENDING = "of class 4 about its z axis, whose effective section (6.2.2.5) is not covered"
NO_NUMBER = "the calculation gave no number"
STIFFER = "the z axis is the stiffer one: lateral buckling about it is not covered"
CLASS_4_ROUND = "of class 4: a matter of EN 1993-1-6"


# Tension


def tension(case: MemberCase) -> Check:
    """6.2.3(2)a."""
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).tension, "largest tension of the segment")
    N_Rd = c6_2.plastic_tension(case.section.A, case.Fy, partial(case, 0))
    U = c6_2.tension_utilisation(N_Ed, N_Rd)
    return Check("tension", "6.2.3", N_Ed, N_Rd, U, "force", "tension")


def net_tension(case: MemberCase) -> Check:
    """6.2.3(2)b, where the net area is known."""
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).tension, "largest tension of the segment")
    name, clause = "tension, net section", "6.2.3"
    if case.ends.net_area is None:
        why = "the net area of the connection is not given"
        return uncovered(name, clause, N_Ed, "force", "tension", why)
    # A shear lag factor is no part of the standard; one that is given takes of the net area.
    factor = 1.0 if case.ends.shear_lag is None else case.ends.shear_lag
    A_net = case.ends.net_area * factor
    if case.single:
        A_net = given(GLOSSARY, "A_net", float(A_net), "as given, times the shear lag factor given")
    N_Rd = c6_2.net_tension(A_net, case.Fu, partial(case, 2))
    U = np.where(np.asarray(N_Ed) > 0, c6_2.tension_utilisation(N_Ed, N_Rd), 0.0)
    why = "the net area of the connection is not given"
    return Check(name, clause, N_Ed, N_Rd, U, "force", "tension", reason=why)


# Compression


@once_per_case
def area(case: MemberCase) -> Any:
    """Return the area that counts in compression: of class 4 the effective one."""
    kind = classify.in_compression(case)
    A = case.section.A
    if not np.any(np.asarray(kind) == 4) or case.shape == classify.ROUND:
        return A
    lost: Any = 0.0
    eps = classify.epsilon(case)
    for c, t, count, outstand in classify.parts_in_compression(case):
        lambda_p = part_1_5.plate_slenderness(c, t, eps, 0.43 if outstand else 4.0)
        rho = (
            part_1_5.outstand_reduction(lambda_p)
            if outstand
            else part_1_5.internal_reduction(lambda_p, 1.0)
        )
        lost = lost + count * (1 - np.maximum(rho, 0.0)) * c * t
    lost = given(GLOSSARY, "A_lost", lost if np.ndim(lost) else float(lost), "of all its parts")
    return pick(np.asarray(kind) == 4, part_1_5.effective_area(A, lost), A)


@once_per_case
def compression_resistance(case: MemberCase) -> Any:
    """Return N_c,Rd."""
    kind, gamma = classify.in_compression(case), partial(case, 0)
    plain = c6_2.compression(case.section.A, case.Fy, gamma)
    if not np.any(np.asarray(kind) == 4):
        return plain
    return pick(kind == 4, c6_2.compression_class_4(area(case), case.Fy, gamma), plain)


def is_slender_round(case: MemberCase) -> Any:
    """Return where a circular hollow section is of class 4."""
    if case.shape != classify.ROUND:
        return np.asarray(False)
    return np.asarray(classify.round_class(case)) == 4


def compression(case: MemberCase) -> Check:
    """6.2.4."""
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).compression, "largest compression of the member")
    heading("Resistance of the cross-section in compression", "6.2.4")
    N_Rd = compression_resistance(case)
    outside = is_slender_round(case) & (np.asarray(N_Ed) > 0)
    U = c6_2.compression_utilisation(N_Ed, N_Rd)
    U = np.where(outside, np.nan, U)
    head = ("compression", "6.2.4", N_Ed, N_Rd, U, "force", "compression")
    return Check(*head, outside=outside, reason=f"the section is {CLASS_4_ROUND}")


# Bending


def modulus(case: MemberCase, axis: str, kind: Any) -> Any:
    """Return the section modulus of a class: plastic in class 1 and 2, else elastic.

    It is that of the effective section where bending alone puts it into class 4.
    """
    plastic, elastic = (getattr(case.section, f"{W}_{axis}") for W in ("Wpl", "Wel"))
    alone = np.asarray(bent_class(case, axis)) == 4
    if np.any(alone) and not np.any(bending_outside(case, axis)[0]):
        elastic = pick(alone, effective_modulus(case, axis), elastic)
    return pick(np.asarray(kind) <= 2, plastic, elastic)


def bent_class(case: MemberCase, axis: str) -> Any:
    """Return the class in bending alone about an axis."""
    return bent_major(case) if axis == "major" else bent_minor(case)


@once_per_case
def bent_major(case: MemberCase) -> Any:
    """Return the class in bending about the y axis."""
    return classify.in_bending(case, "major")


@once_per_case
def bent_minor(case: MemberCase) -> Any:
    """Return the class in bending about the z axis."""
    return classify.in_bending(case, "minor")


def effective_modulus(case: MemberCase, axis: str) -> Any:
    """Return W_eff in bending alone (EN 1993-1-5, 4.4): first the flange loses, then the web."""
    s, eps = case.section, classify.epsilon(case)
    outstand = case.shape in classify.I_SHAPES
    major = axis == "major"
    web, flange = classify.web(case), classify.flange(case)
    (c, t), (c_f, t_f) = (web, flange) if major else (flange, web)
    h, I = (s.d, s.I_major) if major else (s.b, s.I_minor)
    lambda_p = part_1_5.plate_slenderness(c_f, t_f, eps, 0.43 if outstand else 4.0)
    rho_f = (
        part_1_5.outstand_reduction(lambda_p)
        if outstand
        else part_1_5.internal_reduction(lambda_p, 1.0)
    )
    A_f = (1 - rho_f) * c_f * t_f * (2 if outstand else 1)
    if case.single:
        A_f = given(GLOSSARY, "A_f", float(A_f), "of the flange in compression")
    z_f = (h - t_f) / 2
    e = part_1_5.moved_by_flange(A_f, z_f, s.A)
    psi = part_1_5.effective_stress_ratio(c, e)
    b_c = part_1_5.compressed_depth(c, e)
    lambda_w = part_1_5.plate_slenderness(c, t, eps, part_1_5.buckling_factor(psi))
    rho = part_1_5.internal_reduction(lambda_w, psi)
    A_w = part_1_5.lost_of_web(rho, b_c, t if outstand else 2 * t)
    z_w = part_1_5.place_of_loss(c, e, rho, b_c)
    z_eff = part_1_5.effective_axis(A_f, z_f, A_w, z_w, s.A)
    I_eff = part_1_5.effective_inertia(I, s.A, A_f, z_f, A_w, z_w, rho, b_c, z_eff)
    return part_1_5.effective_modulus(I_eff, h, z_eff)


def _moment_resistance(case: MemberCase, axis: str) -> tuple[Any, Any]:
    """Return M_c,Rd about an axis and the class in bending alone."""
    heading(f"Resistance in bending about the {AXES[axis]} axis", "6.2.5")
    kind = bent_class(case, axis)
    return c6_2.bending(modulus(case, axis, kind), case.Fy, partial(case, 0)), kind


@once_per_case
def resistance_major(case: MemberCase) -> tuple[Any, Any]:
    """Return M_c,y,Rd and the class."""
    return _moment_resistance(case, "major")


@once_per_case
def resistance_minor(case: MemberCase) -> tuple[Any, Any]:
    """Return M_c,z,Rd and the class."""
    return _moment_resistance(case, "minor")


def bending_outside(case: MemberCase, axis: str) -> tuple[Any, str]:
    """Return where bending about an axis is not covered, and why: in class 4 of some shapes."""
    if case.shape == classify.ROUND:
        return is_slender_round(case), f"the section is {CLASS_4_ROUND}"
    if axis == "minor" and case.shape in classify.I_SHAPES:
        s = case.section
        stiffer = np.asarray(s.I_minor > s.I_major * (1 + 1e-6))
        reason = STIFFER if np.any(stiffer) else f"the section is {CLASS_4_BENDING}"
        return stiffer | (np.asarray(bent_class(case, axis)) == 4), reason
    return np.asarray(False), ""


def _bending(case: MemberCase, axis: str) -> Check:
    d = demand(case)
    M, effect = (d.M_max, "M_max") if axis == "major" else (d.M_minor, "M_minor")
    M_Ed = given(GLOSSARY, "M_Ed", M, "largest moment about the axis")
    M_Rd, _ = resistance_major(case) if axis == "major" else resistance_minor(case)
    mask, reason = bending_outside(case, axis)
    U = c6_2.bending_utilisation(M_Ed, M_Rd)
    outside = mask & (np.asarray(M_Ed) > 0)
    U = np.where(outside, np.nan, U)
    name = f"bending, {AXES[axis]} axis"
    return Check(name, "6.2.5", M_Ed, M_Rd, U, "moment", effect, outside, reason)


def bending_major(case: MemberCase) -> Check:
    """6.2.5 about the y axis."""
    return _bending(case, "major")


def bending_minor(case: MemberCase) -> Check:
    """6.2.5 about the z axis."""
    return _bending(case, "minor")


# Shear


def web_depth(case: MemberCase) -> Any:
    """Return the depth of the web of an I between its flanges."""
    return case.section.d - 2 * case.section.tf


@once_per_case
def shear_resistance_major(case: MemberCase) -> Any:
    """Return V_pl,z,Rd, for forces along the web or the depth."""
    s, eta = case.section, values(case).eta
    if case.shape == "rolled I":
        A_v = c6_2.shear_area_rolled(s.A, s.bf, s.tf, s.tw, s.r, web_depth(case), eta)
    elif case.shape == "welded I":
        A_v = c6_2.shear_area_welded(web_depth(case), s.tw, eta)
    elif case.shape == classify.BOX:
        A_v = c6_2.shear_area_box(s.A, s.d, s.b)
    else:
        A_v = c6_2.shear_area_round(s.A)
    return c6_2.plastic_shear(A_v, case.Fy, partial(case, 0))


@once_per_case
def shear_resistance_minor(case: MemberCase) -> Any:
    """Return V_pl,y,Rd, for forces along the flanges or the width."""
    s = case.section
    if case.shape == "rolled I":
        A_v = c6_2.shear_area_across_rolled(s.bf, s.tf)
    elif case.shape == "welded I":
        A_v = c6_2.shear_area_across(s.A, web_depth(case), s.tw)
    elif case.shape == classify.BOX:
        A_v = c6_2.shear_area_box(s.A, s.b, s.d)
    else:
        A_v = c6_2.shear_area_round(s.A)
    return c6_2.plastic_shear(A_v, case.Fy, partial(case, 0))


def shear_major(case: MemberCase) -> Check:
    """6.2.6 for forces along the web."""
    V_Ed = given(GLOSSARY, "V_Ed", demand(case).V_major, "largest shear of the segment")
    V_Rd = beside_torsion(case, demand(case).torsion, shear_resistance_major(case))
    U = c6_2.shear_utilisation(V_Ed, V_Rd)
    return Check("shear, z direction", "6.2.6", V_Ed, V_Rd, U, "force", "V_major")


def shear_minor(case: MemberCase) -> Check:
    """6.2.6 for forces along the flanges."""
    V_Ed = given(GLOSSARY, "V_Ed", demand(case).V_minor, "largest shear of the segment")
    V_Rd = beside_torsion(case, demand(case).torsion, shear_resistance_minor(case))
    U = c6_2.shear_utilisation(V_Ed, V_Rd)
    return Check("shear, y direction", "6.2.6", V_Ed, V_Rd, U, "force", "V_minor")


def _web_for_shear(case: MemberCase) -> tuple[Any, Any]:
    """Return the depth and the thickness of what buckles in shear."""
    s = case.section
    return (s.d - 3 * s.t, s.t) if case.shape == classify.BOX else (web_depth(case), s.tw)


@once_per_case
def web_may_buckle(case: MemberCase) -> Any:
    """Return where a web without stiffeners is verified for shear buckling (6.2.6(6))."""
    if case.shape == classify.ROUND:
        return np.asarray(False)
    h_w, t_w = _web_for_shear(case)
    limit = 72 * np.sqrt(235 / np.asarray(case.Fy, dtype=float)) / values(case).eta
    return np.asarray(h_w / t_w > limit)


@once_per_case
def shear_buckling_resistance(case: MemberCase) -> Any:
    """Return V_bw,Rd (EN 1993-1-5, 5.2), of a web with stiffeners at the supports at most."""
    h_w, t_w = _web_for_shear(case)
    lambda_w = part_1_5.web_slenderness(h_w, t_w, classify.epsilon(case))
    chi = part_1_5.web_reduction(lambda_w, values(case).eta)
    webs = 2 if case.shape == classify.BOX else 1
    return part_1_5.web_resistance(chi, case.Fy, h_w, webs * t_w, partial(case, 1))


def shear_buckling(case: MemberCase) -> Check:
    """EN 1993-1-5, 5.2; 0 where the web is stocky."""
    V_Ed = given(GLOSSARY, "V_Ed", demand(case).V_major, "largest shear of the segment")
    may = web_may_buckle(case)
    name, clause = "shear buckling", "6.2.6(6)"
    if not np.any(may):
        return Check(name, clause, V_Ed, None, 0.0, "force", "V_major")
    V_Rd = shear_buckling_resistance(case)
    U = np.where(may, part_1_5.utilisation(V_Ed, V_Rd), 0.0)
    return Check(name, clause, V_Ed, V_Rd, U, "force", "V_major")


@once_per_case
def torsion_modulus(case: MemberCase) -> Any:
    """Return W_t of a hollow section."""
    s = case.section
    if case.shape == classify.BOX:
        r_m = 0.5 * (s.r_out + s.r_in)
        A_m, p_m = (f(s.d, s.b, s.t, r_m) for f in (c6_2.enclosed_area, c6_2.mid_line))
        return c6_2.torsion_modulus_box(s.J, s.t, A_m, p_m)
    return c6_2.torsion_modulus_round(s.Wel_major)


def beside_torsion(case: MemberCase, T: Any, V_Rd: Any) -> Any:
    """Return a shear resistance beside torsion; as it is where there is none."""
    if case.shape in classify.I_SHAPES or not np.any(T):
        return V_Rd
    stress = c6_2.torsion_stress(T, torsion_modulus(case))
    return c6_2.shear_beside_torsion(stress, case.Fy, partial(case, 0), V_Rd)


def torsion(case: MemberCase) -> Check:
    """6.2.7 of hollow sections; of others it is outside."""
    T = demand(case).torsion
    if case.shape in classify.I_SHAPES:
        why = "torsion of open sections (6.2.7) is not covered"
        return uncovered("torsion", "6.2.7", T, "moment", "torsion", why)
    T_Ed = given(GLOSSARY, "T_Ed", T, "largest torsional moment of the segment")
    T_Rd = c6_2.torsion_resistance(torsion_modulus(case), case.Fy, partial(case, 0))
    U = c6_2.torsion_utilisation(T_Ed, T_Rd)
    return Check("torsion", "6.2.7", T_Ed, T_Rd, U, "moment", "torsion")


# Forces together


def forces_together(case: MemberCase) -> Check:
    """6.2.8 to 6.2.10: bending, shear and axial force that act together at a station."""
    reason = bending_outside(case, "minor")[1] or NO_NUMBER
    U, at = worst_station(case, _at_station)
    case.cache["station"] = at
    heading_of = "6.2.8 to 6.2.10"
    outside = np.isnan(np.asarray(U, dtype=float))
    if np.any(web_may_buckle(case)):
        reason = (
            "shear beyond half the resistance of a web that buckles in shear, beside more than "
            "bending about the y axis (EN 1993-1-5, 7.1), or " + reason
        )
    return Check(
        "forces together, cross-section", heading_of, None, None, U, "number", "station",
        outside, reason,
    )  # fmt: skip


def _at_station(case: MemberCase, at: Station) -> Any:
    """Return the utilisation of forces that act together; 0 where fewer than two do."""
    s, gamma = case.section, partial(case, 0)
    N = given(GLOSSARY, "N_Ed", np.abs(at.N) if np.ndim(at.N) else abs(at.N), "at this place")
    M_y = given(GLOSSARY, "M_y_Ed", at.M_major, "at this place")
    M_z = given(GLOSSARY, "M_z_Ed", at.M_minor, "at this place")
    V_z, V_y = at.V_major, at.V_minor
    heading("Classes under these forces", "5.5")
    pressed = -np.asarray(at.N) if np.ndim(at.N) else -at.N
    kind_y = classify.in_bending(case, "major", pressed)
    kind_z = classify.in_bending(case, "minor", pressed)
    alone = classify.in_compression(case)
    zero = np.zeros(np.shape(M_y + kind_y + kind_z))
    bends_y, bends_z = (np.asarray(M > 0) for M in (M_y, M_z))
    in_axial = np.where(np.asarray(pressed) > 0, alone, 1.0)
    kind = np.maximum(np.where(bends_y, kind_y, 1.0), np.where(bends_z, kind_z, 1.0)) + zero
    kind = np.where(bends_y | bends_z, kind, in_axial)
    plastic = kind <= 2
    # The class of bending alone decides whether an elastic modulus is that of class 3.
    unknown = (bends_y & np.asarray(bending_outside(case, "major")[0])) | (
        bends_z & np.asarray(bending_outside(case, "minor")[0])
    )
    W_y, W_z = modulus(case, "major", kind), modulus(case, "minor", kind)
    slender_round = is_slender_round(case)
    # EN 1993-1-5, 7.1, from half the resistance in shear buckling on.
    may, buckles_beside = web_may_buckle(case), np.asarray(False)
    if np.any(may):
        buckles_beside = may & (np.asarray(V_z) > 0.5 * shear_buckling_resistance(case))
    heading("Shear beside bending", "6.2.8")
    V_z_Rd = beside_torsion(case, at.T, shear_resistance_major(case))
    V_y_Rd = beside_torsion(case, at.T, shear_resistance_minor(case))
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
        if case.shape in classify.I_SHAPES and np.any(only_y):
            by_web = c6_2.bending_with_shear(
                W_y, rho, web_depth(case), s.tw, case.Fy, gamma, M_y_full
            )
            M_y_red = pick(only_y, by_web, M_y_red)
        M_y_full, M_z_full = pick(sheared, M_y_red, M_y_full), pick(sheared, M_z_red, M_z_full)
        N_c = pick(sheared, N_red, N_c)
    heading("Bending and axial force", "6.2.9")
    # Of class 4 in compression the effective area counts, and the class in bending alone.
    slender = (np.asarray(alone) == 4) & (np.asarray(pressed) > 0) & (kind > 2)
    A_counts = area(case)
    N_elastic = pick(slender, N_c * (A_counts / s.A), N_c)
    U: Any = 0.0
    if not np.all(plastic):
        U = c6_2.linear(N, N_elastic, M_y, M_y_full, M_z, M_z_full)
    if np.any(plastic):
        U = pick(plastic, _plastic(case, N, N_c, M_y, M_y_full, M_z, M_z_full, f_red), U)
    several = (
        (np.asarray(N) > 0).astype(int) + bends_y.astype(int) + bends_z.astype(int)
        + (sheared & (bends_y | bends_z)).astype(int)
    )  # fmt: skip
    U = np.where(several >= 2, U, 0.0)
    outside = (several >= 2) & (unknown | slender_round)
    # Of an I in bending about the y axis alone 7.1 holds; with more it is not covered.
    bends, plain = bends_y | bends_z, np.asarray(False)
    if case.shape in classify.I_SHAPES and np.any(buckles_beside):
        plain = buckles_beside & bends_y & ~bends_z & (np.asarray(N) == 0)
        if np.any(plain):
            M_f = part_1_5.flanges_alone(s.bf, s.tf, s.d, case.Fy, gamma)
            M_pl = part_1_5.plastic_moment(s.Wpl_major, case.Fy, gamma)
            V_bw = shear_buckling_resistance(case)
            beside = part_1_5.bending_beside_shear_buckling(M_y, M_pl, M_f, V_z, V_bw)
            U = np.where(plain, beside, U)
    outside = outside | (bends & buckles_beside & ~plain)
    U = np.where(outside, np.nan, U)
    return U if np.ndim(U) else float(U)


def _plastic(
    case: MemberCase, N: Any, N_pl: Any, M_y: Any, M_c_y: Any, M_z: Any, M_c_z: Any, f_y: Any
) -> Any:
    """Return the ratio of class 1 and 2 (6.2.9.1)."""
    s, gamma = case.section, partial(case, 0)
    n = c6_2.axial_ratio(N, N_pl)
    if case.shape in classify.I_SHAPES:
        a, h_w = c6_2.web_share(s.A, s.bf, s.tf), web_depth(case)
        small = {"N_Ed": N, "h_w": h_w, "t_w": s.tw, "f_y": f_y, "gamma_M0": gamma}
        small_y = holds(c6_2.axial_force_is_small_y, N_Ed=N, N_pl_Rd=N_pl, h_w=h_w, t_w=s.tw,
                        f_y=f_y, gamma_M0=gamma)  # fmt: skip
        small_z = holds(c6_2.axial_force_is_small_z, **small)
        M_N_y = pick(small_y, M_c_y, c6_2.reduced_moment_y(M_c_y, n, a))
        M_N_z = pick(small_z, M_c_z, c6_2.reduced_moment_z(M_c_z, n, a))
        alpha, beta = 2.0, c6_2.exponent_i(n)
    elif case.shape == classify.BOX:
        M_N_y = c6_2.reduced_box_y(M_c_y, n, c6_2.webs_share(s.A, s.b, s.t))
        M_N_z = c6_2.reduced_box_z(M_c_z, n, c6_2.flanges_share(s.A, s.d, s.t))
        alpha = beta = c6_2.exponent_box(n)
    else:
        M_N_y = M_N_z = c6_2.reduced_round(M_c_y, n)
        alpha = beta = 2.0
    both = (np.asarray(M_y) > 0) & (np.asarray(M_z) > 0)
    if np.ndim(M_y) == 0:  # what is not asked for is not written down
        if both:
            return c6_2.biaxial(M_y, M_N_y, M_z, M_N_z, alpha, beta)
        return c6_2.about_y(M_y, M_N_y) if M_y > 0 else c6_2.about_z(M_z, M_N_z)
    alone_y, alone_z = c6_2.about_y(M_y, M_N_y), c6_2.about_z(M_z, M_N_z)
    alone_y = np.where(np.asarray(M_y) > 0, alone_y, 0.0)
    alone_z = np.where(np.asarray(M_z) > 0, alone_z, 0.0)
    U = np.maximum(alone_y, alone_z)
    if np.any(both):
        together = c6_2.biaxial(M_y, M_N_y, M_z, M_N_z, alpha, beta)
        U = np.where(both, np.maximum(together, 0.0), U)
    return U
