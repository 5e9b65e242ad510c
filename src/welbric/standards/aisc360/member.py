"""The limit states of a member to AISC 360-22, in the order of a hand calculation.

This is the standard's door: it takes a `MemberCase` in Welbric's words, maps the axes to the
standard's letters, and answers with a `Check` for each limit state. Every function here runs over
arrays, and on single numbers inside a `Working`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.standards.aisc360 import (
    appendix_8,
    chapter_b,
    chapter_d,
    chapter_e,
    chapter_f,
    chapter_g,
    chapter_h,
)
from welbric.standards.aisc360.symbols import GLOSSARY, condition, formula
from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.units import parse
from welbric.working import either, given, heading, holds, note

E = parse("29000 ksi", "stress")
G = parse("11200 ksi", "stress")
METHODS = ("LRFD", "ASD")
SHAPES = ("rolled I",)


@formula("B3", "U")
def axial_utilisation(Pr, Pc):
    """Required over available axial strength."""
    return Pr / Pc


@formula("B3", "U")
def flexural_utilisation(Mr, Mc):
    """Required over available flexural strength."""
    return Mr / Mc


@formula("B3", "U")
def shear_utilisation(Vr, Vc):
    """Required over available shear strength."""
    return Vr / Vc


@condition("E4")
def torsional_length_is_longer(Lcz, Lcy):
    """Torsional buckling has a longer effective length than minor-axis buckling."""
    return Lcz > Lcy


@formula("E4", "Fn")
def torsion_not_governing(Fy):
    """Torsional buckling need not be considered."""
    return 1.0 * Fy


def _available(method: str, nominal: Any, design: Any, allowable: Any, phi: Any, omega: Any) -> Any:
    return design(phi, nominal) if method == "LRFD" else allowable(nominal, omega)


# Classification


@once_per_case
def web_slenderness(case: MemberCase) -> Any:
    """Return lambda_w."""
    s = case.section
    return chapter_b.web_slenderness(chapter_b.clear_web_depth(s.d, s.tf, s.r), s.tw)


@once_per_case
def flange_slenderness(case: MemberCase) -> Any:
    """Return lambda_f."""
    return chapter_b.flange_slenderness(case.section.bf, case.section.tf)


@once_per_case
def web_is_not_compact(case: MemberCase) -> Any:
    """Return where the web is not compact in flexure: F4 and F5 are outside."""
    lambda_pw = chapter_b.compact_web_limit(E, case.Fy)
    compact = holds(chapter_b.web_is_compact, lambda_w=web_slenderness(case), lambda_pw=lambda_pw)
    return np.logical_not(compact)


# Tension


def tension_yielding(case: MemberCase) -> Check:
    """D2(a)."""
    required = given(GLOSSARY, "Pr", case.demand.tension, "largest tension of the segment")
    Pc = tension_yielding_strength(case)
    U = axial_utilisation(required, Pc)
    return Check("tensile yielding", "D2(a)", required, Pc, U, "force", "tension")


@once_per_case
def tension_yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding."""
    heading("Strength in yielding of the gross section", "D2(a)")
    Pn = chapter_d.tensile_yielding(case.Fy, case.section.A)
    return _available(
        case.method,
        Pn,
        chapter_d.design_tension,
        chapter_d.allowable_tension,
        chapter_d.PHI_YIELDING,
        chapter_d.OMEGA_YIELDING,
    )


def tension_rupture(case: MemberCase) -> Check:
    """D2(b)."""
    required = given(GLOSSARY, "Pr", case.demand.tension, "largest tension of the segment")
    if case.net_area is None or case.shear_lag is None:
        reason = "the net area and the shear lag factor U of the connection are not given"
        note(f"Outside: {reason}.")
        U = np.where(np.asarray(case.demand.tension) > 0, np.nan, 0.0)
        return Check(
            *("tensile rupture", "D2(b)", required, None, U, "force", "tension"),
            outside=np.isnan(U),
            reason=reason,
        )
    Pc = tension_rupture_strength(case)
    U = axial_utilisation(required, Pc)
    return Check("tensile rupture", "D2(b)", required, Pc, U, "force", "tension")


@once_per_case
def tension_rupture_strength(case: MemberCase) -> Any:
    """Return the available strength in rupture of the net section."""
    heading("Strength in rupture of the net section", "D2(b)")
    An = given(GLOSSARY, "An", case.net_area, "given with the member's connection")
    U_l = given(GLOSSARY, "U_l", case.shear_lag, "given with the member's connection")
    Ae = chapter_d.effective_net_area(An, U_l)
    return _available(
        case.method,
        chapter_d.tensile_rupture(case.Fu, Ae),
        chapter_d.design_tension,
        chapter_d.allowable_tension,
        chapter_d.PHI_RUPTURE,
        chapter_d.OMEGA_RUPTURE,
    )


# Compression


@once_per_case
def effective_length_major(case: MemberCase) -> Any:
    """Return Lcx."""
    return chapter_e.effective_length(case.K_major, case.length_major)


@once_per_case
def effective_length_minor(case: MemberCase) -> Any:
    """Return Lcy."""
    return chapter_e.effective_length(case.K_minor, case.length_minor)


def _compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn, with the parts that buckle locally (E7)."""
    s, Fy = case.section, case.Fy
    h = chapter_b.clear_web_depth(s.d, s.tf, s.r)
    lambda_w, lambda_f = web_slenderness(case), flange_slenderness(case)
    lambda_rw = chapter_b.web_limit_compression(E, Fy)
    lambda_rc = chapter_b.flange_limit_compression(E, Fy)
    he = either(
        chapter_e.web_is_fully_effective,
        chapter_e.whole_web,
        chapter_e.slender_web,
        **{"h": h, "lambda_w": lambda_w, "lambda_rw": lambda_rw, "Fy": Fy, "Fn": Fn},
    )
    b = chapter_e.outstand(s.bf)
    be = either(
        chapter_e.flange_is_fully_effective,
        chapter_e.whole_outstand,
        chapter_e.slender_outstand,
        **{"b": b, "lambda_f": lambda_f, "lambda_rc": lambda_rc, "Fy": Fy, "Fn": Fn},
    )
    Ae = chapter_e.effective_area(s.A, b, be, s.tf, h, he, s.tw)
    return _available(
        case.method,
        chapter_e.compressive_strength_slender(Fn, Ae),
        chapter_e.design_compression,
        chapter_e.allowable_compression,
        chapter_e.PHI,
        chapter_e.OMEGA,
    )


@once_per_case
def major_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the major axis."""
    heading("Strength in flexural buckling about the major axis", "E3")
    Lc = effective_length_major(case)
    Fe = chapter_e.flexural_buckling_stress(E, Lc, case.section.r_major)
    return _compressive_strength(case, chapter_e.nominal_stress(case.Fy, Fe))


@once_per_case
def minor_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the minor axis."""
    heading("Strength in flexural buckling about the minor axis", "E3")
    Lc = effective_length_minor(case)
    Fe = chapter_e.flexural_buckling_stress(E, Lc, case.section.r_minor)
    return _compressive_strength(case, chapter_e.nominal_stress(case.Fy, Fe))


def _torsional_stress(Lcz: Any, Fy: Any, Cw: Any, J: Any, Ix: Any, Iy: Any) -> Any:
    Fe = chapter_e.torsional_buckling_stress(E, Cw, Lcz, G, J, Ix, Iy)
    return chapter_e.nominal_stress(Fy, Fe)


@once_per_case
def torsional_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in torsional buckling, where E4 asks for it."""
    heading("Strength in torsional buckling", "E4")
    s = case.section
    Lcz = chapter_e.effective_length(case.K_torsion, case.length_torsion)
    Fn = either(
        torsional_length_is_longer,
        _torsional_stress,
        torsion_not_governing,
        **{"Lcz": Lcz, "Lcy": effective_length_minor(case), "Fy": case.Fy},
        **{"Cw": s.Cw, "J": s.J, "Ix": s.I_major, "Iy": s.I_minor},
    )
    return _compressive_strength(case, Fn)


@once_per_case
def compressive_strength(case: MemberCase) -> Any:
    """Return the lowest available compressive strength."""
    lowest = np.minimum(major_buckling_strength(case), minor_buckling_strength(case))
    if np.all(np.asarray(case.K_torsion * case.length_torsion) <= case.K_minor * case.length_minor):
        return lowest
    return np.minimum(lowest, torsional_buckling_strength(case))


def flexural_buckling_major(case: MemberCase) -> Check:
    """E3 (with E7 where parts are slender), major axis."""
    required = given(GLOSSARY, "Pr", case.demand.compression, "largest compression of the member")
    Pc = major_buckling_strength(case)
    U = axial_utilisation(required, Pc)
    return Check("flexural buckling, major axis", "E3", required, Pc, U, "force", "compression")


def flexural_buckling_minor(case: MemberCase) -> Check:
    """E3 (with E7 where parts are slender), minor axis."""
    required = given(GLOSSARY, "Pr", case.demand.compression, "largest compression of the member")
    Pc = minor_buckling_strength(case)
    U = axial_utilisation(required, Pc)
    return Check("flexural buckling, minor axis", "E3", required, Pc, U, "force", "compression")


def torsional_buckling(case: MemberCase) -> Check:
    """E4, where the torsional length is the longer one."""
    required = given(GLOSSARY, "Pr", case.demand.compression, "largest compression of the member")
    Pc = torsional_buckling_strength(case)
    longer = case.K_torsion * case.length_torsion > case.K_minor * case.length_minor
    U = np.where(longer, axial_utilisation(required, Pc), 0.0)
    return Check("torsional buckling", "E4", required, Pc, U, "force", "compression")


# Flexure


@once_per_case
def moment_shape_factor(case: MemberCase) -> Any:
    """Return Cb: as given, 1.0 at a free tip, else Eq. F1-1.

    Where the largest moment of the segment compresses the other flange, Cb is taken as 1.0.
    """
    d = case.demand
    if case.Cb is not None:
        return given(GLOSSARY, "Cb", case.Cb, "given with the member")
    if np.ndim(d.M_max) == 0:
        if case.segments.free_tip:
            return given(GLOSSARY, "Cb", 1.0, "F1: the free end is not held")
        if d.M_major < d.M_max * (1 - 1e-9):
            source = "taken: the larger moment of this segment compresses the other flange"
            return given(GLOSSARY, "Cb", 1.0, source)
        if d.M_max == 0:
            return 1.0
        return chapter_f.moment_shape_factor(d.M_max, d.M_A, d.M_B, d.M_C)
    Cb = chapter_f.moment_shape_factor(d.M_max, d.M_A, d.M_B, d.M_C)
    plain = np.asarray(case.segments.free_tip) | (d.M_major < d.M_max * (1 - 1e-9)) | (d.M_max == 0)
    return np.where(plain, 1.0, Cb)


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp about the major axis."""
    return chapter_f.plastic_moment(case.Fy, case.section.Wpl_major)


@once_per_case
def flange_limits(case: MemberCase) -> tuple[Any, Any]:
    """Return lambda_pf and lambda_rf."""
    return (
        chapter_b.compact_flange_limit(E, case.Fy),
        chapter_b.noncompact_flange_limit(E, case.Fy),
    )


def _flexure(case: MemberCase, Mn: Any) -> Any:
    return _available(
        case.method,
        Mn,
        chapter_f.design_flexure,
        chapter_f.allowable_flexure,
        chapter_f.PHI,
        chapter_f.OMEGA,
    )


def _nominal_lateral_torsional(case: MemberCase, Cb: Any) -> Any:
    s = case.section
    return chapter_f.lateral_torsional_buckling(
        **{"Cb": Cb, "Lb": case.segments.Lb, "Fy": case.Fy, "E": E, "Mp": plastic_moment(case)},
        **{"Iy": s.I_minor, "Cw": s.Cw, "Sx": s.Wel_major, "J": s.J},
        **{"ry": s.r_minor, "d": s.d, "tf": s.tf},
    )


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding, major axis."""
    heading("Strength in yielding", "F2.1")
    return _flexure(case, plastic_moment(case))


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling."""
    heading("Strength in lateral-torsional buckling", "F2.2")
    return _flexure(case, _nominal_lateral_torsional(case, moment_shape_factor(case)))


@once_per_case
def flange_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flange local buckling, major axis."""
    heading("Strength in flange local buckling", "F3.2")
    lambda_f, (lambda_pf, lambda_rf) = flange_slenderness(case), flange_limits(case)
    Mn = chapter_f.flange_local_buckling(
        **{"Mp": plastic_moment(case), "Fy": case.Fy, "E": E, "Sx": case.section.Wel_major},
        **{"lambda_f": lambda_f, "lambda_pf": lambda_pf, "lambda_rf": lambda_rf},
        lambda_w=web_slenderness(case),
    )
    return _flexure(case, Mn)


@once_per_case
def flexural_strength_major(case: MemberCase) -> Any:
    """Return the lowest available strength about the major axis."""
    return np.minimum(lateral_torsional_strength(case), flange_buckling_strength(case))


@once_per_case
def plastic_moment_minor(case: MemberCase) -> Any:
    """Return Mp about the minor axis."""
    s = case.section
    return chapter_f.plastic_moment_minor(case.Fy, s.Wpl_minor, s.Wel_minor)


@once_per_case
def flexural_strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    heading("Strength in bending about the minor axis", "F6")
    lambda_f, (lambda_pf, lambda_rf) = flange_slenderness(case), flange_limits(case)
    Mn = chapter_f.flange_local_buckling_minor(
        **{"Mp": plastic_moment_minor(case), "Fy": case.Fy, "E": E},
        **{"Sy": case.section.Wel_minor, "lambda_f": lambda_f},
        **{"lambda_pf": lambda_pf, "lambda_rf": lambda_rf},
    )
    return _flexure(case, Mn)


def _major_bending(
    case: MemberCase, name: str, clause: str, strength: Callable[[MemberCase], Any]
) -> Check:
    """Return a check about the major axis; a web that is not compact is outside (F4, F5)."""
    Mr = given(GLOSSARY, "Mr", case.demand.M_major, "largest major-axis moment of the segment")
    not_compact = web_is_not_compact(case)
    Mc = strength(case)
    U = flexural_utilisation(Mr, Mc)
    outside = np.asarray(not_compact) & (np.asarray(Mr) > 0)
    return Check(
        *(name, clause, Mr, Mc, np.where(outside, np.nan, U), "moment", "M_major"),
        outside=outside,
        reason="the web is not compact in flexure; F4 and F5 are not covered",
    )


def yielding(case: MemberCase) -> Check:
    """F2.1."""
    return _major_bending(case, "yielding, major axis", "F2.1", yielding_strength)


def lateral_torsional_buckling(case: MemberCase) -> Check:
    """F2.2."""
    return _major_bending(case, "lateral-torsional buckling", "F2.2", lateral_torsional_strength)


def flange_local_buckling(case: MemberCase) -> Check:
    """F3.2."""
    return _major_bending(case, "flange local buckling", "F3.2", flange_buckling_strength)


def minor_bending(case: MemberCase) -> Check:
    """F6.1 and F6.2."""
    Mr = given(GLOSSARY, "Mr", case.demand.M_minor, "largest minor-axis moment of the member")
    Mc = flexural_strength_minor(case)
    U = flexural_utilisation(Mr, Mc)
    return Check("bending, minor axis", "F6", Mr, Mc, U, "moment", "M_minor")


# Shear


@once_per_case
def shear_strength_major(case: MemberCase) -> Any:
    """Return the available shear strength of the web (G2.1)."""
    heading("Strength of the web in shear", "G2.1")
    s = case.section
    lambda_w = web_slenderness(case)
    Aw = chapter_g.web_area(s.d, s.tw)

    return either(
        chapter_g.web_is_stocky,
        _stocky_web,
        _other_web,
        **{"lambda_w": lambda_w, "E": E, "Fy": case.Fy, "Aw": Aw, "method": case.method},
    )


def _stocky_web(Fy: Any, Aw: Any, method: str) -> Any:
    Vn = chapter_g.web_shear_strength(Fy, Aw, chapter_g.stocky_web_coefficient())
    return _shear(method, Vn, chapter_g.PHI_STOCKY, chapter_g.OMEGA_STOCKY)


def _other_web(Fy: Any, Aw: Any, lambda_w: Any, E: Any, method: str) -> Any:
    Vn = chapter_g.web_shear_strength(Fy, Aw, chapter_g.web_coefficient(lambda_w, E, Fy))
    return _shear(method, Vn, chapter_g.PHI, chapter_g.OMEGA)


def _shear(method: str, Vn: Any, phi: float, omega: float) -> Any:
    return _available(method, Vn, chapter_g.design_shear, chapter_g.allowable_shear, phi, omega)


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength of the flanges (G6)."""
    heading("Strength of the flanges in shear", "G6")
    s = case.section
    Cv2 = chapter_g.flange_coefficient(flange_slenderness(case), E, case.Fy)
    Vn = chapter_g.flange_shear_strength(case.Fy, s.bf, s.tf, Cv2)
    return _shear(case.method, Vn, chapter_g.PHI, chapter_g.OMEGA)


def shear_major(case: MemberCase) -> Check:
    """G2.1."""
    Vr = given(GLOSSARY, "Vr", case.demand.V_major, "largest shear along the web")
    Vc = shear_strength_major(case)
    return Check("shear, web", "G2.1", Vr, Vc, shear_utilisation(Vr, Vc), "force", "V_major")


def shear_minor(case: MemberCase) -> Check:
    """G6."""
    Vr = given(GLOSSARY, "Vr", case.demand.V_minor, "largest shear along the flanges")
    Vc = shear_strength_minor(case)
    return Check("shear, flanges", "G6", Vr, Vc, shear_utilisation(Vr, Vc), "force", "V_minor")


# Combined forces


def _second_order(case: MemberCase, axis: str) -> Any:
    """Return the moment about an axis with its second-order effects (Appendix 8)."""
    d, s = case.demand, case.section
    major = axis == "major"
    M = d.M_major if major else d.M_minor
    if case.second_order_included:
        return M
    heading(f"Second-order moment about the {axis} axis", "Appendix 8")
    alpha = given(GLOSSARY, "alpha", appendix_8.ALPHA[case.method], f"{case.method}, C2.1")
    I = s.I_major if major else s.I_minor
    if case.sways_major if major else case.sways_minor:
        Lc1 = effective_length_major(case) if major else effective_length_minor(case)
        return appendix_8.second_order_sway_moment(E, I, Lc1, d.compression, M, alpha)
    Lc1 = case.length_major if major else case.length_minor
    given(GLOSSARY, "Lc1", Lc1, f"unbraced length, {axis} axis, ends held in position")
    if case.loaded_major if major else case.loaded_minor:
        Cm = given(GLOSSARY, "Cm", 1.0, "loads act between the ends (A-8.2.1)")
    else:
        Cm = appendix_8.end_moment_factor(d.end_ratio_major if major else d.end_ratio_minor)
    return appendix_8.second_order_moment(E, I, Lc1, d.compression, M, alpha, Cm)


def _several(*effects: Any) -> Any:
    """Return where two or more of the effects act together."""
    acting: Any = 0
    for effect in effects:
        acting = acting + (np.asarray(effect) > 0)
    return acting >= 2


def compression_and_bending(case: MemberCase) -> Check:
    """H1.1, or by choice H1.3 where it applies and is the more favourable."""
    d = case.demand
    not_compact = web_is_not_compact(case)
    Pr = given(GLOSSARY, "Pr", d.compression, "largest compression of the member")
    Pc = compressive_strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mrx, Mry = _second_order(case, "major"), _second_order(case, "minor")
    heading("Interaction", "H1.1")
    U = chapter_h.interaction(Pr, Pc, Mrx, Mcx, Mry, Mcy)
    clause = "H1.1"
    if case.separate_planes:
        U = chapter_h.more_favourable(U, _separate_planes(case, Pr, Mrx, Mry, Mcy, U))
        clause = "H1.3"
    together = _several(d.compression, d.M_major, d.M_minor)
    return _combined(not_compact, "compression and bending", clause, U, together)


def _separate_planes(case: MemberCase, Pr: Any, Mrx: Any, Mry: Any, Mcy: Any, H1_1: Any) -> Any:
    """Return the ratio of H1.3 where it applies, else that of H1.1."""
    heading("In-plane and out-of-plane verified apart", "H1.3")
    Mcx_in_plane = np.minimum(yielding_strength(case), flange_buckling_strength(case))
    in_plane = chapter_h.interaction(Pr, major_buckling_strength(case), Mrx, Mcx_in_plane, 0.0, Mcy)
    Cb = moment_shape_factor(case)
    with_Cb_1 = _flexure(case, _nominal_lateral_torsional(case, 1.0))
    out = chapter_h.interaction_out_of_plane(Pr, minor_buckling_strength(case), Mrx, Cb, with_Cb_1)
    compact = flange_slenderness(case) <= flange_limits(case)[0]
    short = case.K_torsion * case.length_torsion <= case.K_minor * case.length_minor
    one_plane = holds(chapter_h.bends_in_one_plane, Mry=Mry, Mcy=Mcy)
    applies = np.asarray(one_plane) & np.asarray(compact) & np.asarray(short)
    if np.ndim(applies) == 0 and not applies:
        note("H1.3 does not apply here; the ratio of H1.1 stands.")
        return H1_1
    return np.where(applies, chapter_h.planes_apart(in_plane, out), H1_1)


def tension_and_bending(case: MemberCase) -> Check:
    """H1.2."""
    d = case.demand
    not_compact = web_is_not_compact(case)
    Pr = given(GLOSSARY, "Pr", d.tension, "largest tension of the segment")
    Pc = tension_yielding_strength(case)
    if case.net_area is not None and case.shear_lag is not None:
        Pc = np.minimum(Pc, tension_rupture_strength(case))
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    heading("Interaction", "H1.2")
    U = chapter_h.interaction(Pr, Pc, d.M_major, Mcx, d.M_minor, Mcy)
    together = _several(d.tension, d.M_major, d.M_minor) & (np.asarray(d.tension) > 0)
    return _combined(not_compact, "tension and bending", "H1.2", U, together)


def _combined(not_compact: Any, name: str, clause: str, U: Any, together: Any) -> Check:
    effect = "M_major" if name.startswith("compression") else "tension"
    outside = np.asarray(not_compact) & together
    U = np.where(outside, np.nan, np.where(together, U, 0.0))
    return Check(
        *(name, clause, None, None, U, "number", effect),
        outside=outside,
        reason="the web is not compact in flexure; F4 and F5 are not covered",
    )


def torsion(case: MemberCase) -> Check:
    """H3."""
    T = given(GLOSSARY, "Tr", case.demand.torsion, "largest torsional moment of the segment")
    reason = f"torsion of a {case.shape} is not covered"
    note(f"Outside: {reason}.")
    U = np.where(np.asarray(T) > 0, np.nan, 0.0)
    return Check("torsion", "H3", T, None, U, "moment", "torsion", np.isnan(U), reason)


CHECKS = {
    "tensile yielding": tension_yielding,
    "tensile rupture": tension_rupture,
    "flexural buckling, major axis": flexural_buckling_major,
    "flexural buckling, minor axis": flexural_buckling_minor,
    "torsional buckling": torsional_buckling,
    "yielding, major axis": yielding,
    "lateral-torsional buckling": lateral_torsional_buckling,
    "flange local buckling": flange_local_buckling,
    "bending, minor axis": minor_bending,
    "shear, web": shear_major,
    "shear, flanges": shear_minor,
    "compression and bending": compression_and_bending,
    "tension and bending": tension_and_bending,
    "torsion": torsion,
}
