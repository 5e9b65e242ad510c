"""Tees and double angles, bent in their plane of symmetry (E3, E4, E6, E7, F9, G3, G6)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.sections.shapes import angle
from welbric.standards.aisc360.clauses import b4, e3, e5, e7, f2_f3, f9, f10, g2, g3_g6
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    compression,
    effective_length_minor,
    flexure,
    pick,
    shear,
)
from welbric.standards.aisc360.limit_states import built_up, flexural_torsional
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import first_of, given, heading


def _is_pair(case: MemberCase) -> bool:
    return case.shape == "double angle"


@once_per_case
def flange_slenderness(case: MemberCase) -> Any:
    """Return lambda_f: of half the flange, or of an outstanding leg."""
    s = case.section
    if _is_pair(case):
        return b4.leg_slenderness(s.b, s.t)
    return b4.flange_slenderness(s.bf, s.tf)


@once_per_case
def stem_slenderness(case: MemberCase) -> Any:
    """Return the depth over the thickness of the stem, or of a web leg."""
    s = case.section
    return b4.stem_slenderness(s.d, s.t if _is_pair(case) else s.tw)


@once_per_case
def stem_in_compression(case: MemberCase) -> Any:
    """Return where the stem is in compression somewhere in the segment."""
    d = demand(case)
    trace = 1e-9 * np.asarray(d.M_max)
    other = np.asarray(d.M_reverse) > trace
    mask = np.logical_not(np.asarray(case.segments.top)) | other
    return mask if mask.ndim else bool(mask)


# Compression


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7)."""
    s, Fy = case.section, case.Fy
    lambda_f, lambda_s = flange_slenderness(case), stem_slenderness(case)
    if _is_pair(case):
        # Case 1 is for outstanding legs, and only of angles in contact all along; the legs back to
        # back, and both legs where a gap parts the angles, go by case 3.
        alone = b4.leg_limit_compression(E, Fy)
        together = b4.flange_limit_compression.fn(E, Fy)
        source = "outstanding legs: Table B4.1a(3), or (1) without a gap"
        outstanding = given(
            GLOSSARY, "lambda_rc", pick(s.gap > 0, b4.leg_limit_compression.fn(E, Fy),
                                        together), source
        )  # fmt: skip
        de = e7.effective_width(s.d, lambda_s, alone, Fy, Fn, e7.C1_OTHER)
        be = e7.effective_width(s.b, lambda_f, outstanding, Fy, Fn, e7.C1_OTHER)
        Ae = e7.effective_area_less(s.A, 2 * s.d, 2 * de, s.t)
        Ae = e7.effective_area_less(Ae, 2 * s.b, 2 * be, s.t)
    else:
        stem = b4.stem_limit_compression(E, Fy)
        flange = b4.flange_limit_compression(E, Fy)
        de = e7.effective_width(s.d, lambda_s, stem, Fy, Fn, e7.C1_OTHER)
        be = e7.effective_width(s.bf / 2, lambda_f, flange, Fy, Fn, e7.C1_OTHER)
        Ae = e7.effective_area_less(s.A, s.d, de, s.tw)
        Ae = e7.effective_area_less(Ae, s.bf, 2 * be, s.tf)
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


@once_per_case
def modified_slenderness(case: MemberCase) -> Any:
    """Return the slenderness about y, of a pair with the slip of its connectors (E6.1)."""
    s = case.section
    if not _is_pair(case):
        return e3.slenderness(effective_length_minor(case), s.r_minor)
    words = "one angle, minor principal axis"
    return built_up.modified_slenderness(case, least_radius(case), built_up.KI["angles"], words)


@once_per_case
def least_radius(case: MemberCase) -> Any:
    """Return ri of one of the two angles."""
    s = case.section
    found = np.asarray(angle(d=s.d, b=s.b, t=s.t, r=s.r, r_toe=s.r_toe)["r_minor"])
    return found if found.ndim else float(found)


@once_per_case
def stress_about_y(case: MemberCase) -> Any:
    """Return Fey."""
    if not _is_pair(case):
        return flexural_torsional.stress_about_y(case)
    return e5.stress_of_slenderness(E, modified_slenderness(case))


@once_per_case
def minor_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about y."""
    heading("Strength in flexural buckling about the minor axis", "E3")
    return compressive_strength(case, e3.nominal_stress(case.Fy, stress_about_y(case)))


@once_per_case
def major_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about x."""
    heading("Strength in flexural buckling about the major axis", "E3")
    Fex = flexural_torsional.stress_about_x(case)
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fex))


@once_per_case
def flexural_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural-torsional buckling; warping is left out."""
    heading("Strength in flexural-torsional buckling", "E4(b)")
    Fn = flexural_torsional.nominal_stress_symmetric(case, stress_about_y(case), warping=False)
    return compressive_strength(case, Fn)


# Bending in the plane of symmetry


@once_per_case
def yield_moment(case: MemberCase) -> Any:
    """Return My."""
    return f9.yield_moment(case.Fy, case.section.Wel_major)


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp, with the stem in tension or in compression."""
    My = yield_moment(case)
    compressed = stem_in_compression(case)
    if np.ndim(compressed) == 0:
        if not compressed:
            return f9.plastic_moment_stem_in_tension(case.Fy, case.section.Wpl_x, My)
        return _plastic_in_compression(case, My)
    stretched = f9.plastic_moment_stem_in_tension(case.Fy, case.section.Wpl_x, My)
    return np.where(compressed, _plastic_in_compression(case, My), stretched)


def _plastic_in_compression(case: MemberCase, My: Any) -> Any:
    if _is_pair(case):
        return f9.plastic_moment_legs_in_compression(My)
    return f9.plastic_moment_stem_in_compression(My)


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding."""
    heading("Strength in yielding", "F9.1")
    return flexure(case, plastic_moment(case))


def _stem_in_tension(case: MemberCase) -> Any:
    s, Lb = case.section, case.segments.unbraced

    def elastic(E: Any, Lb: Any, Iy: Any, J: Any, d: Any, Mp: Any) -> Any:
        return f9.elastic_buckling(
            f9.critical_moment(E, Lb, Iy, J, f9.stem_term_in_tension(d, Lb, Iy, J)), Mp
        )

    return first_of(
        (f2_f3.held_closely, f9.no_flange_buckling),
        (f2_f3.buckles_inelastically, f9.inelastic_buckling),
        otherwise=elastic,
        Lb=Lb,
        Mp=plastic_moment(case),
        My=yield_moment(case),
        E=E,
        Iy=s.I_y,
        J=s.J,
        d=s.d,
        Lp=f9.yielding_length_limit(s.r_y, E, case.Fy),
        Lr=f9.inelastic_length_limit(E, case.Fy, s.I_y, s.J, s.Wel_major, s.d),
    )


def _stem_in_compression(case: MemberCase) -> Any:
    s = case.section
    # Continuously restrained there is nothing to buckle: a vanishing length stands for none.
    Lb = np.maximum(case.segments.unbraced, 1e-3 * s.d)
    Lb = Lb if np.ndim(Lb) else float(Lb)
    B = f9.stem_term_in_compression(s.d, Lb, s.I_y, s.J)
    Mcr, My = f9.critical_moment(E, Lb, s.I_y, s.J, B), yield_moment(case)
    if not _is_pair(case):
        return f9.stem_in_compression(Mcr, My)
    return f10.angle_lateral_torsional_buckling(My, Mcr)


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling (F9.2)."""
    heading("Strength in lateral-torsional buckling", "F9.2")
    compressed = stem_in_compression(case)
    if np.ndim(compressed) == 0:
        return flexure(case, _stem_in_compression(case) if compressed else _stem_in_tension(case))
    with np.errstate(all="ignore"):
        Mn = np.where(compressed, _stem_in_compression(case), _stem_in_tension(case))
    return flexure(case, Mn)


def _leg(case: MemberCase, slenderness: Any, Sc: Any) -> Any:
    """Return Mn of a leg of a pair, by F10.3; where it is compact, yielding (F9.1) alone counts."""
    return f9.leg_buckling_of_pair(slenderness, plastic_moment(case), case.Fy, Sc, E)


@once_per_case
def flange_strength(case: MemberCase) -> Any:
    """Return the available strength in local buckling of the flange or the flange legs (F9.3)."""
    heading("Strength in flange local buckling", "F9.3")
    s = case.section
    if _is_pair(case):
        return flexure(case, _leg(case, flange_slenderness(case), s.Wel_top))
    return flexure(
        case,
        first_of(
            (b4.flange_is_compact, f9.no_flange_buckling),
            (b4.flange_is_noncompact, f9.noncompact_flange),
            otherwise=f9.slender_flange,
            Mp=plastic_moment(case),
            My=yield_moment(case),
            Fy=case.Fy,
            E=E,
            Sxc=s.Wel_top,
            lambda_f=flange_slenderness(case),
            lambda_pf=b4.compact_flange_limit(E, case.Fy),
            lambda_rf=b4.noncompact_flange_limit(E, case.Fy),
        ),
    )


@once_per_case
def stem_strength(case: MemberCase) -> Any:
    """Return the available strength in local buckling of the stem or the web legs (F9.4)."""
    heading("Strength in local buckling of the stem", "F9.4")
    s = case.section
    if _is_pair(case):
        return flexure(case, _leg(case, stem_slenderness(case), s.Wel_bottom))
    Fcr = first_of(
        (f9.stem_is_stocky, f9.stocky_stem),
        (f9.stem_is_noncompact, f9.noncompact_stem),
        otherwise=f9.slender_stem,
        lambda_s=stem_slenderness(case),
        E=E,
        Fy=case.Fy,
    )
    return flexure(case, f9.stem_strength(Fcr, s.Wel_bottom))


def where_flange_in_compression(case: MemberCase) -> Any:
    """Return where the segment's moment compresses the flange."""
    return np.asarray(case.segments.top)


def where_stem_in_compression(case: MemberCase) -> Any:
    """Return where the segment's moment compresses the stem."""
    return np.logical_not(np.asarray(case.segments.top))


# Shear


@once_per_case
def shear_strength(case: MemberCase) -> Any:
    """Return the available shear strength of the stem, or of both web legs (G3)."""
    heading("Strength of the stem in shear", "G3")
    s = case.section
    t = 2 * s.t if _is_pair(case) else s.tw
    kv = given(GLOSSARY, "kv", g3_g6.KV_LEG, "G3")
    Cv2 = g2.buckling_coefficient(stem_slenderness(case), E, case.Fy, kv)
    return shear(case, g3_g6.leg_strength(case.Fy, s.d, t, Cv2))


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength of the flange, or of both flange legs (G6, G3)."""
    heading("Strength of the flange in shear", "G6")
    s = case.section
    A_v = 2 * s.b * s.t if _is_pair(case) else s.bf * s.tf
    kv = given(GLOSSARY, "kv", g3_g6.KV_LEG, "G6")
    Cv2 = g2.buckling_coefficient(flange_slenderness(case), E, case.Fy, kv)
    return shear(case, g3_g6.element_strength(case.Fy, A_v, Cv2))


def connectors_missing(case: MemberCase) -> tuple[Any, str]:
    """Return where the connectors of a pair are not given, or are too far apart (E6.2)."""
    return built_up.connectors_missing(case, least_radius(case), "angle")


_MAJOR = (
    Limit("yielding, major axis", "F9.1", yielding_strength),
    Limit("lateral-torsional buckling", "F9.2", lateral_torsional_strength),
    Limit("flange local buckling", "F9.3", flange_strength, where_flange_in_compression),
    Limit("stem local buckling", "F9.4", stem_strength, where_stem_in_compression),
)
_FLEXURAL = (
    Limit("flexural buckling, major axis", "E3", major_buckling_strength),
    Limit("flexural buckling, minor axis", "E3", minor_buckling_strength),
)
_SHEAR = (
    Limit("shear, stem", "G3", shear_strength),
    Limit("shear, flange", "G6", shear_strength_minor),
)
_TORSIONAL = Limit("flexural-torsional buckling", "E4(b)", flexural_torsional_strength)
_WHY = "F9 is for bending in the plane of symmetry; out of it there is no clause but F12"
TEE = Family(
    compressive_strength, _TORSIONAL, _MAJOR, (), *_SHEAR, flexural=_FLEXURAL, not_minor=_WHY
)
PAIR = Family(
    compressive_strength,
    _TORSIONAL,
    _MAJOR,
    (),
    *_SHEAR,
    flexural=_FLEXURAL,
    not_minor=_WHY,
    uncompressed=connectors_missing,
)
