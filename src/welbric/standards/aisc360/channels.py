"""Channels: E3, E4, E7, F2, F6, G2.1, G6."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360 import (
    chapter_b,
    chapter_e,
    chapter_e_shapes,
    chapter_f,
    chapter_g,
    chapter_g_shapes,
    flexural_torsional,
)
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    compression,
    flexure,
    moment_shape_factor,
    shear,
)
from welbric.standards.aisc360.symbols import formula
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import either, heading, holds


@formula("B4.1", "lambda_f")
def flange_ratio(bf, tf):
    """Width-to-thickness ratio of the flange."""
    return bf / tf


@formula("F2-8b", "c")
def warping_coefficient(ho, Iy, Cw):
    """Coefficient of a channel."""
    return ho / 2 * (Iy / Cw) ** 0.5


@once_per_case
def flange_slenderness(case: MemberCase) -> Any:
    """Return lambda_f."""
    return flange_ratio(case.section.bf, case.section.tf)


@once_per_case
def clear_depth(case: MemberCase) -> Any:
    """Return h."""
    s = case.section
    return chapter_b.clear_web_depth(s.d, s.tf, s.r)


@once_per_case
def web_slenderness(case: MemberCase) -> Any:
    """Return lambda_w."""
    return chapter_b.web_slenderness(clear_depth(case), case.section.tw)


def effective_area(case: MemberCase, Fn: Any) -> Any:
    """Return Ae at the stress Fn (E7)."""
    s, Fy = case.section, case.Fy
    lambda_r = chapter_b.web_limit_compression(E, Fy)
    h = clear_depth(case)
    he = either(
        chapter_e.web_is_fully_effective,
        chapter_e.whole_web,
        chapter_e.slender_web,
        h=h,
        lambda_w=web_slenderness(case),
        lambda_rw=lambda_r,
        Fy=Fy,
        Fn=Fn,
    )
    be = either(
        chapter_e.flange_is_fully_effective,
        chapter_e.whole_outstand,
        chapter_e.slender_outstand,
        b=s.bf,
        lambda_f=flange_slenderness(case),
        Fy=Fy,
        Fn=Fn,
        lambda_rc=chapter_b.flange_limit_compression(E, Fy),
    )
    Ae = chapter_e_shapes.effective_area_less(s.A, h, he, s.tw)
    return chapter_e_shapes.effective_area_less(Ae, 2 * s.bf, 2 * be, s.tf)


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7)."""
    Ae = effective_area(case, Fn)
    return compression(case, chapter_e.compressive_strength_slender(Fn, Ae))


@once_per_case
def flexural_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural-torsional buckling; x is the axis of symmetry."""
    heading("Strength in flexural-torsional buckling", "E4(b)")
    Fex = flexural_torsional.stress_about_x(case)
    return compressive_strength(case, flexural_torsional.nominal_stress_symmetric(case, Fex))


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp."""
    return chapter_f.plastic_moment(case.Fy, case.section.Wpl_major)


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
    ho = chapter_f.flange_distance(s.d, s.tf)
    Mn = chapter_f.lateral_torsional_buckling(
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
        c=warping_coefficient(ho, s.I_minor, s.Cw),
    )
    return flexure(case, Mn)


def not_compact(case: MemberCase) -> tuple[Any, str]:
    """Return where the flange or the web is not compact, which F2 leaves out for channels."""
    lambda_pw = chapter_b.compact_web_limit(E, case.Fy)
    lambda_pf = chapter_b.compact_flange_limit(E, case.Fy)
    web = holds(chapter_b.web_is_compact, lambda_w=web_slenderness(case), lambda_pw=lambda_pw)
    flange = holds(
        chapter_b.flange_is_compact, lambda_f=flange_slenderness(case), lambda_pf=lambda_pf
    )
    mask = np.logical_not(np.asarray(web) & np.asarray(flange))
    return mask, "F2 is for channels whose flanges and webs are compact"


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    heading("Strength in bending about the minor axis", "F6")
    s = case.section
    Mn = chapter_f.flange_local_buckling_minor(
        Fy=case.Fy,
        E=E,
        Sy=s.Wel_minor,
        lambda_f=flange_slenderness(case),
        Mp=chapter_f.plastic_moment_minor(case.Fy, s.Wpl_minor, s.Wel_minor),
        lambda_pf=chapter_b.compact_flange_limit(E, case.Fy),
        lambda_rf=chapter_b.noncompact_flange_limit(E, case.Fy),
    )
    return flexure(case, Mn)


@once_per_case
def shear_strength(case: MemberCase) -> Any:
    """Return the available shear strength of the web (G2.1)."""
    heading("Strength of the web in shear", "G2.1")
    s = case.section
    kv = chapter_g_shapes.unstiffened_coefficient()
    Cv1 = chapter_g.web_coefficient(web_slenderness(case), E, case.Fy, kv)
    Aw = chapter_g.web_area(s.d, s.tw)
    return shear(case, chapter_g.web_shear_strength(case.Fy, Aw, Cv1))


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength of the flanges (G6)."""
    heading("Strength of the flanges in shear", "G6")
    s = case.section
    Cv2 = chapter_g.buckling_coefficient(flange_slenderness(case), E, case.Fy)
    return shear(case, chapter_g.flange_shear_strength(case.Fy, s.bf, s.tf, Cv2))


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
