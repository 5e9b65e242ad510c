"""Channels: E3, E4, E7, F2, F6, G2.1, G6."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, e7, f2_f3, f6, g2, g3_g6
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    compression,
    flexure,
    moment_shape_factor,
    shear,
)
from welbric.standards.aisc360.limit_states import flexural_torsional
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import either, heading, holds


@once_per_case
def flange_slenderness(case: MemberCase) -> Any:
    """Return lambda_f."""
    return b4.flange_ratio(case.section.bf, case.section.tf)


@once_per_case
def clear_depth(case: MemberCase) -> Any:
    """Return h."""
    s = case.section
    return b4.clear_web_depth(s.d, s.tf, s.r)


@once_per_case
def web_slenderness(case: MemberCase) -> Any:
    """Return lambda_w."""
    return b4.web_slenderness(clear_depth(case), case.section.tw)


def effective_area(case: MemberCase, Fn: Any) -> Any:
    """Return Ae at the stress Fn (E7)."""
    s, Fy = case.section, case.Fy
    lambda_r = b4.web_limit_compression(E, Fy)
    h = clear_depth(case)
    he = either(
        e7.web_is_fully_effective,
        e7.whole_web,
        e7.slender_web,
        h=h,
        lambda_w=web_slenderness(case),
        lambda_rw=lambda_r,
        Fy=Fy,
        Fn=Fn,
    )
    be = either(
        e7.flange_is_fully_effective,
        e7.whole_outstand,
        e7.slender_outstand,
        b=s.bf,
        lambda_f=flange_slenderness(case),
        Fy=Fy,
        Fn=Fn,
        lambda_rc=b4.flange_limit_compression(E, Fy),
    )
    Ae = e7.effective_area_less(s.A, h, he, s.tw)
    return e7.effective_area_less(Ae, 2 * s.bf, 2 * be, s.tf)


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7)."""
    Ae = effective_area(case, Fn)
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


@once_per_case
def flexural_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural-torsional buckling; x is the axis of symmetry."""
    heading("Strength in flexural-torsional buckling", "E4(b)")
    Fex = flexural_torsional.stress_about_x(case)
    return compressive_strength(case, flexural_torsional.nominal_stress_symmetric(case, Fex))


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp."""
    return f2_f3.plastic_moment(case.Fy, case.section.Wpl_major)


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding."""
    heading("Strength in yielding", "F2.1")
    return flexure(case, plastic_moment(case))


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling."""
    heading("Strength in lateral-torsional buckling", "F2.2")
    s = case.section
    ho = f2_f3.flange_distance(s.d, s.tf)
    Mn = f2_f3.lateral_torsional_buckling(
        Cb=moment_shape_factor(case),
        Lb=case.segments.unbraced,
        Fy=case.Fy,
        E=E,
        Mp=plastic_moment(case),
        Iy=s.I_minor,
        Cw=s.Cw,
        Sx=s.Wel_major,
        J=s.J,
        ry=s.r_minor,
        d=s.d,
        tf=s.tf,
        c=f2_f3.warping_coefficient(ho, s.I_minor, s.Cw),
    )
    return flexure(case, Mn)


def not_compact(case: MemberCase) -> tuple[Any, str]:
    """Return where the flange or the web is not compact, which F2 leaves out for channels."""
    lambda_pw = b4.compact_web_limit(E, case.Fy)
    lambda_pf = b4.compact_flange_limit(E, case.Fy)
    web = holds(b4.web_is_compact, lambda_w=web_slenderness(case), lambda_pw=lambda_pw)
    flange = holds(b4.flange_is_compact, lambda_f=flange_slenderness(case), lambda_pf=lambda_pf)
    mask = np.logical_not(np.asarray(web) & np.asarray(flange))
    return mask, "F2 is for channels whose flanges and webs are compact"


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    heading("Strength in bending about the minor axis", "F6")
    s = case.section
    Mn = f6.flange_local_buckling_minor(
        Fy=case.Fy,
        E=E,
        Sy=s.Wel_minor,
        lambda_f=flange_slenderness(case),
        Mp=f6.plastic_moment_minor(case.Fy, s.Wpl_minor, s.Wel_minor),
        lambda_pf=b4.compact_flange_limit(E, case.Fy),
        lambda_rf=b4.noncompact_flange_limit(E, case.Fy),
    )
    return flexure(case, Mn)


@once_per_case
def shear_strength(case: MemberCase) -> Any:
    """Return the available shear strength of the web (G2.1)."""
    heading("Strength of the web in shear", "G2.1")
    s = case.section
    kv = g2.unstiffened_coefficient()
    Cv1 = g2.web_coefficient(web_slenderness(case), E, case.Fy, kv)
    Aw = g2.web_area(s.d, s.tw)
    return shear(case, g2.web_shear_strength(case.Fy, Aw, Cv1))


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength of the flanges (G6)."""
    heading("Strength of the flanges in shear", "G6")
    s = case.section
    Cv2 = g2.buckling_coefficient(flange_slenderness(case), E, case.Fy)
    return shear(case, g3_g6.flange_shear_strength(case.Fy, s.bf, s.tf, Cv2))


CHANNEL = Family(
    compressive_strength,
    Limit("flexural-torsional buckling", "E4(b)", flexural_torsional_strength),
    (
        Limit("yielding, major axis", "F2.1", yielding_strength),
        Limit("lateral-torsional buckling", "F2.2", lateral_torsional_strength),
    ),
    (Limit("bending, minor axis", "F6", strength_minor),),
    Limit("shear, web", "G2.1", shear_strength),
    Limit("shear, flanges", "G6", shear_strength_minor),
    outside=not_compact,
)
