"""I-shapes, rolled, tapered and welded, with equal or unequal flanges: E3, E4, E7, F2 to F6, G2."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, e3, e4, e7, f2_f3, f6
from welbric.standards.aisc360.design import (
    E,
    G,
    Limit,
    compression,
    effective_length_minor,
    effective_length_torsion,
    flexure,
    pick,
)
from welbric.standards.aisc360.limit_states import covers
from welbric.standards.aisc360.limit_states.covers import Flanges
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import either, given, heading

COVERED = ("plated I", "capped I")
UNEQUAL = ("unequal I", *COVERED)
BUILT_UP = ("welded I", *UNEQUAL)


def is_built_up(case: MemberCase) -> bool:
    """Return whether the shape is welded together; one with cover plates counts as such."""
    return case.shape in BUILT_UP


def is_unequal(case: MemberCase) -> bool:
    """Return whether the flanges may differ: F4 and F5, with each flange's own modulus."""
    return case.shape in UNEQUAL


def is_covered(case: MemberCase) -> bool:
    """Return whether a flange has a cover plate or a channel on it."""
    return case.shape in COVERED


# Classification


@once_per_case
def clear_depth(case: MemberCase) -> Any:
    """Return h."""
    s = case.section
    if case.shape == "unequal I":
        return s.d - s.tf_top - s.tf_bottom
    plates = is_built_up(case) and not is_covered(case)
    return b4.clear_web_depth(s.d, s.tf, 0.0 if plates else s.r)


@once_per_case
def web_slenderness(case: MemberCase) -> Any:
    """Return lambda_w of the clear depth."""
    return b4.web_slenderness(clear_depth(case), case.section.tw)


@once_per_case
def flanges(case: MemberCase) -> Flanges:
    """Return the flange that the segment's moment compresses."""
    s, h = case.section, clear_depth(case)
    if is_covered(case):
        return covers.flanges(case)
    if case.shape != "unequal I":
        ho = f2_f3.flange_distance(s.d, s.tf)
        return Flanges(s.bf, s.tf, s.Wel_major, s.Wel_major, h, h, ho)
    top = case.segments.top
    above, below = s.I_x / s.Wel_top, s.I_x / s.Wel_bottom  # centroid to the outer faces
    tfc = pick(top, s.tf_top, s.tf_bottom)
    y_c = pick(top, above, below) - tfc
    # The plastic axis is measured from the same origin as the centroid.
    y_p = pick(top, above - (s.plastic_y - s.y), below + (s.plastic_y - s.y)) - tfc
    hc = b4.depth_in_compression(covers.in_web(y_c, s.d))
    hp = b4.plastic_depth_in_compression(covers.in_web(y_p, s.d))
    Sxc, Sxt = pick(top, s.Wel_top, s.Wel_bottom), pick(top, s.Wel_bottom, s.Wel_top)
    ho = s.d - (s.tf_top + s.tf_bottom) / 2
    return Flanges(pick(top, s.bf_top, s.bf_bottom), tfc, Sxc, Sxt, hc, hp, ho)


@once_per_case
def flange_slenderness(case: MemberCase) -> Any:
    """Return lambda_f of the flange in compression."""
    f = flanges(case)
    return b4.flange_slenderness(f.bfc, f.tfc)


# Compression


@once_per_case
def flange_coefficient(case: MemberCase) -> Any:
    """Return kc."""
    return f2_f3.slender_flange_coefficient(web_slenderness(case))


def _flange_limit_compression(case: MemberCase) -> Any:
    if is_built_up(case):
        kc = flange_coefficient(case)
        return b4.built_up_flange_limit_compression(kc, E, case.Fy)
    return b4.flange_limit_compression(E, case.Fy)


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn, with the parts that buckle locally (E7)."""
    s, Fy, h = case.section, case.Fy, clear_depth(case)
    lambda_w = web_slenderness(case)
    lambda_rw = b4.web_limit_compression(E, Fy)
    lambda_rc = _flange_limit_compression(case)
    he = either(
        e7.web_is_fully_effective,
        e7.whole_web,
        e7.slender_web,
        h=h,
        lambda_w=lambda_w,
        lambda_rw=lambda_rw,
        Fy=Fy,
        Fn=Fn,
    )

    def outstand(bf: Any, tf: Any) -> tuple[Any, Any]:
        b = b4.outstand(bf)
        return b, either(
            e7.flange_is_fully_effective,
            e7.whole_outstand,
            e7.slender_outstand,
            b=b,
            lambda_f=b4.flange_slenderness(bf, tf),
            lambda_rc=lambda_rc,
            Fy=Fy,
            Fn=Fn,
        )

    if is_covered(case):
        b, be = outstand(s.bf, s.tf)
        Ae = e7.effective_area_less(s.A, h, he, s.tw)
        Ae = e7.effective_area_less(Ae, 4 * b, 4 * be, s.tf)
    elif case.shape == "unequal I":
        Ae = e7.effective_area_less(s.A, h, he, s.tw)
        for bf, tf in ((s.bf_top, s.tf_top), (s.bf_bottom, s.tf_bottom)):
            b, be = outstand(bf, tf)
            Ae = e7.effective_area_less(Ae, 2 * b, 2 * be, tf)
    else:
        b, be = outstand(s.bf, s.tf)
        Ae = e7.effective_area(s.A, b, be, s.tf, h, he, s.tw)
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


def _torsional_stress(Lcz: Any, Fy: Any, Cw: Any, J: Any, Ix: Any, Iy: Any) -> Any:
    Fe = e4.torsional_buckling_stress(E, Cw, Lcz, G, J, Ix, Iy)
    return e3.nominal_stress(Fy, Fe)


@once_per_case
def torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in torsional buckling, where E4 asks for it."""
    heading("Strength in torsional buckling", "E4")
    s, Lcz = case.section, effective_length_torsion(case)
    if is_built_up(case):
        return compressive_strength(
            case, _torsional_stress(Lcz, case.Fy, s.Cw, s.J, s.I_major, s.I_minor)
        )
    Fn = either(
        e4.torsional_length_is_longer,
        _torsional_stress,
        e4.torsion_not_governing,
        Lcz=Lcz,
        Lcy=effective_length_minor(case),
        Fy=case.Fy,
        Cw=s.Cw,
        J=s.J,
        Ix=s.I_major,
        Iy=s.I_minor,
    )
    return compressive_strength(case, Fn)


@once_per_case
def constrained_strength(case: MemberCase) -> Any:
    """Return the available strength in torsional buckling about the axis held laterally (E4(d))."""
    heading("Strength in torsional buckling about the axis held laterally", "E4(d)")
    s, Lcz = case.section, effective_length_torsion(case)
    y_a = given(GLOSSARY, "y_a", case.buckling.lateral_offset or 0.0, "given with the member")
    Fe = e4.constrained_axis_stress(E, s.Cw, s.I_minor, y_a, Lcz, G, s.J, s.I_major, s.A)
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fe))


def is_held_off_axis(case: MemberCase) -> Any:
    """Return where lateral restraint acts off the shear centre."""
    return np.asarray(case.buckling.lateral_offset is not None)


def torsion_is_looked_at(case: MemberCase) -> Any:
    """Return where E4 applies: built-up shapes, and a torsional length that is the longer one."""
    if case.buckling.lateral_offset is not None:  # it turns about another axis
        return np.asarray(False)
    if is_built_up(case):
        return np.asarray(True)
    return np.asarray(case.buckling.effective("torsion") > case.buckling.effective("minor"))


# About the minor axis


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    heading("Strength in bending about the minor axis", "F6")
    s = case.section
    Mp = f6.plastic_moment_minor(case.Fy, s.Wpl_minor, s.Wel_minor)
    lambda_pf = b4.compact_flange_limit(E, case.Fy)
    lambda_rf = b4.noncompact_flange_limit(E, case.Fy)
    if case.shape == "unequal I":
        top, bottom = (
            b4.flange_slenderness(s.bf_top, s.tf_top),
            b4.flange_slenderness(s.bf_bottom, s.tf_bottom),
        )
        lambda_f = np.maximum(top, bottom)
    else:
        lambda_f = flange_slenderness(case)
    Mn = f6.flange_local_buckling_minor(
        Mp=Mp,
        Fy=case.Fy,
        E=E,
        Sy=s.Wel_minor,
        lambda_f=lambda_f,
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
    )
    return flexure(case, Mn)


MINOR = (Limit("bending, minor axis", "F6", strength_minor),)
TORSIONAL = Limit("torsional buckling", "E4", torsional_strength, torsion_is_looked_at)
CONSTRAINED = Limit(
    "torsional buckling, axis held", "E4(d)", constrained_strength, is_held_off_axis
)
