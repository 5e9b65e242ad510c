"""Hollow sections and boxes: E3, E7, F7, F8, G4, G5, H3."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, e7, f2_f3, f4_f5, f7_f8, g2, g3_g6, h3_h4
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    compression,
    flexure,
    moment_shape_factor,
    shear,
    torsion,
)
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import either, first_of, given, heading

KC_BOX = 4.0  # F7.3(c)


def _is_box(case: MemberCase) -> bool:
    return case.shape == "welded box"


def _across(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return flat width, thickness and slenderness of the walls across (top and bottom)."""
    s = case.section
    if _is_box(case):
        b_flat, t = s.b - 2 * s.tw, s.tf
    else:
        b_flat, t = b4.flat_width(s.b, s.t, s.r_in), s.t
    return b_flat, t, b4.wall_slenderness_across(b_flat, t)


def _deep(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return flat depth, thickness and slenderness of the deep walls."""
    s = case.section
    if _is_box(case):
        h_flat, t = s.d - 2 * s.tf, s.tw
    else:
        h_flat, t = b4.flat_depth(s.d, s.t, s.r_in), s.t
    return h_flat, t, b4.wall_slenderness_deep(h_flat, t)


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7)."""
    s, Fy = case.section, case.Fy
    (b, tb, lambda_b), (h, th, lambda_h) = _across(case), _deep(case)
    box = _is_box(case)
    limit = b4.plate_limit_compression if box else b4.wall_limit_compression
    lambda_r = limit(E, Fy)
    c1 = e7.C1_STIFFENED if box else e7.C1_TUBE
    be_b = e7.effective_width(b, lambda_b, lambda_r, Fy, Fn, c1)
    be_h = e7.effective_width(h, lambda_h, lambda_r, Fy, Fn, c1)
    if _is_box(case):
        Ae = e7.effective_area_of_box(s.A, b, be_b, tb, h, be_h, th)
    else:
        Ae = e7.effective_area_of_walls(s.A, b, be_b, h, be_h, tb)
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


# Bending


def _local(case: MemberCase, axis: str) -> tuple[Any, Any]:
    """Return Mp and the nominal strength in local buckling of the walls, about an axis."""
    s, Fy = case.section, case.Fy
    major = axis == "major"
    (b, t, lambda_b), (_, _, lambda_h) = (
        (_across(case), _deep(case)) if major else (_deep(case), _across(case))
    )
    S, I = (s.Wel_major, s.I_major) if major else (s.Wel_minor, s.I_minor)
    Z, depth = (s.Wpl_major, s.d) if major else (s.Wpl_minor, s.b)
    Mp = f7_f8.plastic_moment(Fy, Z)
    box = _is_box(case)
    limit = b4.noncompact_plate_limit if box else b4.noncompact_wall_limit
    effective = f7_f8.effective_plate if box else f7_f8.effective_wall

    def slender(t: Any, E: Any, Fy: Any, lambda_b: Any, b_flat: Any) -> Any:
        be = effective(t, E, Fy, lambda_b, b_flat)
        return f7_f8.slender_wall(Fy, f7_f8.effective_modulus(I, s.A, depth, t, b_flat, be))

    walls = first_of(
        (f7_f8.wall_is_compact, f7_f8.no_wall_buckling),
        (f7_f8.wall_is_noncompact, f7_f8.noncompact_wall),
        otherwise=slender,
        lambda_b=lambda_b,
        lambda_p=b4.compact_wall_limit(E, Fy),
        lambda_r=limit(E, Fy),
        Mp=Mp,
        Fy=Fy,
        S=S,
        E=E,
        t=t,
        b_flat=b,
    )
    th = s.t if not box else (s.tw if major else s.tf)

    def slender_sides(Fy: Any, S: Any, E: Any, lambda_h: Any) -> Any:
        aw = f7_f8.walls_to_flange(lambda_h * th, th, b, t)
        Rpg = f4_f5.bending_reduction(aw, lambda_h * th, th, E, Fy)
        yielding = f7_f8.slender_side(Rpg, Fy, S)
        local = f7_f8.slender_side_and_flange(
            Rpg, f7_f8.slender_flange_stress(E, KC_BOX, lambda_b), S
        )
        return np.where(lambda_b > limit.fn(E, Fy), np.minimum(yielding, local), yielding)

    sides = first_of(
        (f7_f8.side_is_compact, f7_f8.no_wall_buckling),
        (f7_f8.side_is_noncompact, f7_f8.noncompact_side),
        otherwise=slender_sides,
        lambda_h=lambda_h,
        lambda_p=b4.compact_side_limit(E, Fy),
        lambda_r=b4.noncompact_side_limit(E, Fy),
        Mp=Mp,
        Fy=Fy,
        S=S,
        E=E,
    )
    return Mp, np.minimum(walls, sides)


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp about the major axis."""
    return f7_f8.plastic_moment(case.Fy, case.section.Wpl_major)


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding, major axis."""
    heading("Strength in yielding", "F7.1")
    return flexure(case, plastic_moment(case))


@once_per_case
def wall_strength(case: MemberCase) -> Any:
    """Return the available strength in local buckling of the walls, major axis."""
    heading("Strength in local buckling of the walls", "F7.2")
    return flexure(case, _local(case, "major")[1])


def _buckling(case: MemberCase, r: Any, S: Any, Mp: Any, Cb: Any) -> Any:
    """Return Mn in lateral-torsional buckling, r about the axis that is not bent."""
    s = case.section
    return first_of(
        (f2_f3.held_closely, f7_f8.no_wall_buckling),
        (f2_f3.buckles_inelastically, f7_f8.inelastic_buckling),
        otherwise=f7_f8.elastic_buckling,
        Lb=case.segments.unbraced,
        Mp=Mp,
        Fy=case.Fy,
        Sx=S,
        E=E,
        Cb=Cb,
        J=s.J,
        Ag=s.A,
        ry=r,
        Lp=f7_f8.yielding_length_limit(E, r, s.J, s.A, Mp),
        Lr=f7_f8.inelastic_length_limit(E, r, s.J, s.A, case.Fy, S),
    )


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling."""
    heading("Strength in lateral-torsional buckling", "F7.4")
    s, Cb = case.section, moment_shape_factor(case)
    return flexure(case, _buckling(case, s.r_minor, s.Wel_major, plastic_moment(case), Cb))


def is_deep(case: MemberCase) -> Any:
    """Return where lateral-torsional buckling is looked at: not for square sections."""
    s = case.section
    return np.asarray(s.I_minor < s.I_major * (1 - 1e-9))


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    heading("Strength in bending about the minor axis", "F7.1, F7.2")
    s = case.section
    Mp, Mn = _local(case, "minor")
    wide = np.asarray(s.I_minor > s.I_major * (1 + 1e-9))
    if wide.any():  # bent about the stiffer axis after all
        with np.errstate(all="ignore"):
            lateral = _buckling(case, s.r_major, s.Wel_minor, Mp, 1.0)
        Mn = np.where(wide, np.minimum(Mn, lateral), Mn)
    return flexure(case, Mn if np.ndim(Mn) else float(Mn))


# Shear and torsion


def _shear_along(case: MemberCase, walls: tuple[Any, Any, Any]) -> Any:
    h, t, slenderness = walls
    Aw = g3_g6.area_of_walls(h, t)
    kv = given(GLOSSARY, "kv", g3_g6.KV_WALL, "G4")
    Cv2 = g2.buckling_coefficient(slenderness, E, case.Fy, kv)
    return shear(case, g3_g6.wall_strength(case.Fy, Aw, Cv2))


@once_per_case
def shear_strength(case: MemberCase) -> Any:
    """Return the available shear strength along the depth (G4)."""
    heading("Strength of the deep walls in shear", "G4")
    return _shear_along(case, _deep(case))


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength along the width (G4)."""
    heading("Strength of the walls across in shear", "G4")
    return _shear_along(case, _across(case))


@once_per_case
def torsional_strength(case: MemberCase) -> Any:
    """Return the available torsional strength (H3.1)."""
    heading("Strength in torsion", "H3.1")
    s = case.section
    slenderness = np.maximum(_deep(case)[2], _across(case)[2])
    Fcr = first_of(
        (h3_h4.walls_yield_in_torsion, h3_h4.yielding_walls),
        (h3_h4.walls_buckle_inelastically, h3_h4.inelastic_walls),
        otherwise=h3_h4.elastic_walls,
        lambda_h=slenderness,
        E=E,
        Fy=case.Fy,
    )
    C_t = h3_h4.torsional_constant_walls(s.b, s.d, s.t)
    return torsion(case, h3_h4.torsional_strength(Fcr, C_t))


# Round tubes


@once_per_case
def tube_slenderness(case: MemberCase) -> Any:
    """Return D/t."""
    return b4.tube_slenderness(case.section.d, case.section.t)


def compressive_strength_round(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7.2)."""
    Ae = either(
        e7.tube_is_effective,
        e7.whole_tube,
        e7.slender_tube,
        lambda_t=tube_slenderness(case),
        E=E,
        Fy=case.Fy,
        Ag=case.section.A,
    )
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


@once_per_case
def strength_round(case: MemberCase) -> Any:
    """Return the available flexural strength of a round tube (F8)."""
    heading("Strength in bending", "F8")
    s = case.section
    Mn = first_of(
        (f7_f8.tube_is_compact, f7_f8.no_wall_buckling),
        (f7_f8.tube_is_noncompact, f7_f8.noncompact_tube),
        otherwise=f7_f8.slender_tube,
        lambda_t=tube_slenderness(case),
        E=E,
        Fy=case.Fy,
        S=s.Wel_major,
        lambda_p=b4.compact_tube_limit(E, case.Fy),
        lambda_r=b4.noncompact_tube_limit(E, case.Fy),
        Mp=f7_f8.plastic_moment(case.Fy, s.Wpl_major),
    )
    return flexure(case, Mn)


def tube_too_slender(case: MemberCase) -> tuple[Any, str]:
    """Return where a round tube is beyond the standard."""
    mask = np.asarray(tube_slenderness(case) > 0.45 * E / case.Fy)
    return mask, "D/t is more than 0.45 E/Fy, beyond E7.2 and F8"


@once_per_case
def shear_strength_round(case: MemberCase) -> Any:
    """Return the available shear strength of a round tube (G5)."""
    heading("Strength in shear", "G5")
    slenderness = tube_slenderness(case)
    Lv = given(GLOSSARY, "Lv", case.length, "the whole member, which is the most it can be")
    Fcr_a = g3_g6.tube_stress_of_length(E, Lv, case.section.d, slenderness)
    Fcr = g3_g6.larger_tube_stress(Fcr_a, g3_g6.tube_stress(E, slenderness), case.Fy)
    return shear(case, g3_g6.tube_strength(Fcr, case.section.A))


@once_per_case
def torsional_strength_round(case: MemberCase) -> Any:
    """Return the available torsional strength of a round tube (H3.1)."""
    heading("Strength in torsion", "H3.1")
    s = case.section
    L = given(GLOSSARY, "L", case.length, "the member's length")
    Fcr = h3_h4.torsion_stress_round(E, L, s.d, s.t, case.Fy)
    return torsion(
        case, h3_h4.torsional_strength(Fcr, h3_h4.torsional_constant_round(s.d, s.t, s.J))
    )


RECTANGULAR = Family(
    compressive_strength,
    None,
    (
        Limit("yielding, major axis", "F7.1", yielding_strength),
        Limit("wall local buckling", "F7.2, F7.3", wall_strength),
        Limit("lateral-torsional buckling", "F7.4", lateral_torsional_strength, is_deep),
    ),
    (Limit("bending, minor axis", "F7", strength_minor),),
    Limit("shear, walls along the depth", "G4", shear_strength),
    Limit("shear, walls across", "G4", shear_strength_minor),
    Limit("torsion", "H3.1", torsional_strength),
)
BOX = Family(
    compressive_strength,
    None,
    RECTANGULAR.major,
    RECTANGULAR.minor,
    RECTANGULAR.shear_major,
    RECTANGULAR.shear_minor,
)
ROUND = Family(
    compressive_strength_round,
    None,
    (Limit("bending, major axis", "F8", strength_round),),
    (Limit("bending, minor axis", "F8", strength_round),),
    Limit("shear", "G5", shear_strength_round),
    None,
    Limit("torsion", "H3.1", torsional_strength_round),
    outside=tube_too_slender,
    resultant=True,
)
