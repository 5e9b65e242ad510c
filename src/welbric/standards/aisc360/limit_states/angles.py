"""Single angles, about their principal axes (E3, E4, E5, E7, F10, G3, H2)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, e3, e4, e5, e7, f10, g2, g3_g6
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    compression,
    flexure,
    moment_shape_factor,
    pick,
    shear,
)
from welbric.standards.aisc360.limit_states import corners, flexural_torsional
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import either, given, heading


@once_per_case
def leg_slenderness(case: MemberCase) -> Any:
    """Return the longer leg over its thickness."""
    s = case.section
    b = np.maximum(s.d, s.b)
    return b4.leg_slenderness(b if np.ndim(b) else float(b), s.t)


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7)."""
    s, Fy = case.section, case.Fy
    lambda_r = b4.leg_limit_compression(E, Fy)
    Ae = s.A
    for leg in (s.d, s.b):
        slenderness = b4.leg_slenderness(leg, s.t)
        be = e7.effective_width(leg, slenderness, lambda_r, Fy, Fn, e7.C1_OTHER)
        Ae = e7.effective_area_less(Ae, leg, be, s.t)
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


@once_per_case
def major_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the major principal axis."""
    heading("Strength in flexural buckling about the major principal axis", "E3")
    Fe = flexural_torsional.stress_about_x(case)
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fe))


@once_per_case
def minor_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the minor principal axis."""
    heading("Strength in flexural buckling about the minor principal axis", "E3")
    Fe = flexural_torsional.stress_about_y(case)
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fe))


def _centrally(case: MemberCase) -> Any:
    return np.asarray(case.one_leg is None)


def _through_one_leg(case: MemberCase) -> Any:
    return np.asarray(case.one_leg is not None)


@once_per_case
def one_leg_slenderness(case: MemberCase) -> Any:
    """Return the effective slenderness of E5."""
    s = case.section
    longer, shorter = np.maximum(s.d, s.b), np.minimum(s.d, s.b)
    # The x axis is parallel to the horizontal leg b, the y axis to the leg d.
    along = s.d >= s.b if case.one_leg == "longer" else s.d < s.b
    ra = pick(along, s.r_y, s.r_x)
    ra = given(GLOSSARY, "ra", ra, f"axis parallel to the {case.one_leg} leg")
    L = given(GLOSSARY, "L", case.length, "the member's length")
    space = case.in_space_truss
    branches = (
        (e5.is_short_in_space, e5.short_angle_in_space, e5.long_angle_in_space)
        if space
        else (e5.is_short, e5.short_angle, e5.long_angle)
    )
    found = either(*branches, L=L, ra=ra)
    if case.one_leg == "longer":
        return found
    raised = e5.through_the_shorter_leg_in_space if space else e5.through_the_shorter_leg
    b_l, b_s = (v if np.ndim(v) else float(v) for v in (longer, shorter))
    return raised(found, b_l, b_s, L, s.r_minor)


@once_per_case
def one_leg_strength(case: MemberCase) -> Any:
    """Return the available strength of an angle loaded through one leg (E5)."""
    heading("Strength in compression through one leg", "E5")
    s, limit = case.section, e5.ONE_LEG_RATIO
    slenderness = one_leg_slenderness(case)
    Fe = e5.stress_of_slenderness(E, slenderness)
    Pc = compressive_strength(case, e3.nominal_stress(case.Fy, Fe))
    unequal = np.maximum(s.d, s.b) >= limit * np.minimum(s.d, s.b)
    beyond = unequal | (slenderness > e5.ONE_LEG_SLENDEREST)
    return pick(beyond | np.asarray(case.loaded_major | case.loaded_minor), np.nan, Pc)


def not_through_one_leg(case: MemberCase) -> tuple[Any, str]:
    """Return where E5 does not apply."""
    if case.one_leg is None:
        return np.asarray(False), ""
    words = "E5 needs a leg ratio below 1.7, no load (nor own weight) between, slenderness to 200"
    return np.isnan(one_leg_strength(case)), words


@once_per_case
def flexural_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural-torsional buckling (E4-4)."""
    heading("Strength in flexural-torsional buckling", "E4(c)")
    xo, yo = flexural_torsional.shear_centre_in_principal_axes(case)
    Fn = flexural_torsional.nominal_stress_of_no_symmetry(case, xo, yo)
    return compressive_strength(case, Fn)


def is_slender_leg(case: MemberCase) -> Any:
    """Return where E4 has to be looked at."""
    limit = e4.torsion_limit.fn(E, case.Fy)
    s = case.section
    return (np.maximum(s.d, s.b) / s.t > limit) & _centrally(case)


# Bending about the principal axes


@once_per_case
def yield_moment_major(case: MemberCase) -> Any:
    """Return My about the major principal axis, or the geometric one."""
    if case.geometric:
        return f10.angle_yield_moment(case.Fy, geometric_modulus(case))
    return f10.angle_yield_moment(case.Fy, case.section.Wel_major)


@once_per_case
def geometric_modulus(case: MemberCase) -> Any:
    """Return the elastic modulus about the x axis: to the toe, which is the farther fibre."""
    s = case.section
    return pick(s.Wel_top <= s.Wel_bottom, s.Wel_top, s.Wel_bottom)


def toe_in_compression(case: MemberCase) -> Any:
    """Return where the toe of the upright leg is in compression somewhere in the segment."""
    d = demand(case)
    trace = 1e-9 * np.asarray(d.M_max)
    top = np.asarray(case.segments.top)
    mask = np.where(top, np.asarray(d.M_major) > trace, np.asarray(d.M_reverse) > trace)
    return mask if mask.ndim else bool(mask)


def _geometric_buckling(case: MemberCase) -> Any:
    """Return Mn in lateral-torsional buckling about a geometric axis (F10.2(ii))."""
    s = case.section
    Lb = np.maximum(case.segments.unbraced, 1e-3 * s.d)
    Lb = Lb if np.ndim(Lb) else float(Lb)
    Cb = moment_shape_factor(case)
    held, S = case.peak_held, geometric_modulus(case)
    if np.ndim(held) == 0:
        My = (f10.angle_yield_moment if held else f10.reduced_yield_moment)(case.Fy, S)
    else:
        My = np.where(
            held, f10.angle_yield_moment(case.Fy, S), f10.reduced_yield_moment(case.Fy, S)
        )
    compressed = toe_in_compression(case)
    if np.ndim(compressed) == 0:
        critical = (
            f10.equal_angle_toe_in_compression if compressed else f10.equal_angle_toe_in_tension
        )
        Mcr = critical(E, s.d, s.t, Cb, Lb)
    else:
        Mcr = np.where(
            compressed,
            f10.equal_angle_toe_in_compression(E, s.d, s.t, Cb, Lb),
            f10.equal_angle_toe_in_tension(E, s.d, s.t, Cb, Lb),
        )
    if np.any(held):
        Mcr = pick(held, f10.critical_with_restraint_at_the_peak(Mcr), Mcr)
    return f10.angle_lateral_torsional_buckling(My, Mcr)


def bends_freely(case: MemberCase) -> Any:
    """Return where the segment can buckle laterally; about geometric axes it may be held."""
    return np.asarray(case.segments.unbraced) > 0 if case.geometric else np.asarray(True)


def not_about_geometric_axes(case: MemberCase) -> tuple[Any, str]:
    """Return where bending about the geometric axes is not allowed (F10.2(ii))."""
    if not case.geometric:
        return np.asarray(False), ""
    d, s = demand(case), case.section
    unlike = np.asarray(np.abs(s.d - s.b) > 1e-6 * s.d) & np.asarray(case.segments.unbraced > 0)
    mask = unlike | np.asarray(d.compression > 0) | np.asarray(d.M_minor > 0)
    why = "F10.2(ii): geometric axes are for equal legs, or continuously restrained, "
    return mask, why + "bent about x alone and not in compression"


@once_per_case
def yield_moment_minor(case: MemberCase) -> Any:
    """Return My about the minor principal axis."""
    return f10.angle_yield_moment(case.Fy, case.section.Wel_minor)


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding about the major principal axis."""
    heading("Strength in yielding", "F10.1")
    return flexure(case, f10.angle_yielding(yield_moment_major(case)))


@once_per_case
def long_leg_in_tension(case: MemberCase) -> Any:
    """Return where the toe of the longer leg is nowhere in compression by major-axis bending."""
    s = case.section
    if case.reduced is not None:  # not known any more
        return np.asarray(False)
    share = corners.corners(case)
    toe_d, toe_b = (share[f"toe of the {leg} leg, outside"][0] for leg in ("upright", "level"))
    toe = np.where(s.d >= s.b, toe_d, toe_b)
    compressed: Any = False
    for w, _ in corners.resolved(case):
        inside = case.segments.inside(w.shape[-1])
        pressed = np.broadcast_to(toe * w > 0, w.shape)
        compressed = compressed | np.any(pressed[:, :, None] & inside, axis=-1)
    return ~(compressed if np.ndim(demand(case).M_max) else np.any(compressed))


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling (F10.2).

    With unequal legs the long leg counts as in compression, the lesser of the two, unless it is
    known to be in tension all along the segment.
    """
    heading("Strength in lateral-torsional buckling", "F10.2")
    if case.geometric:
        return flexure(case, _geometric_buckling(case))
    s = case.section
    Lb = np.maximum(case.segments.unbraced, 1e-3 * s.d)
    in_tension = long_leg_in_tension(case)
    beta = np.where(in_tension, 1.0, -1.0) * np.abs(s.beta_major)
    Lb, beta = (v if np.ndim(v) else float(v) for v in (Lb, beta))
    if np.ndim(beta) == 0 and beta:
        words = "long leg in tension" if in_tension else "long leg in compression"
        given(GLOSSARY, "beta_w", beta, words)
    beta_w = beta
    Cb = moment_shape_factor(case)
    Mcr = f10.angle_critical_moment(E, s.A, s.r_minor, s.t, Cb, Lb, beta_w)
    Mn = f10.angle_lateral_torsional_buckling(yield_moment_major(case), Mcr)
    return flexure(case, Mn)


def _leg_strength(case: MemberCase, My: Any, Sc: Any) -> Any:
    return f10.leg_local_buckling(leg_slenderness(case), My, case.Fy, Sc, E)


@once_per_case
def leg_strength(case: MemberCase) -> Any:
    """Return the available strength in leg local buckling about the major principal axis."""
    heading("Strength in leg local buckling", "F10.3")
    if case.geometric:
        S, free = geometric_modulus(case), bends_freely(case) & ~np.asarray(case.peak_held)
        Sc = pick(free, f10.toe_modulus(S), S) if np.any(free) else S
        return flexure(case, _leg_strength(case, yield_moment_major(case), Sc))
    return flexure(case, _leg_strength(case, yield_moment_major(case), case.section.Wel_major))


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor principal axis."""
    heading("Strength in bending about the minor principal axis", "F10.1, F10.3")
    My = yield_moment_minor(case)
    Mn = np.minimum(f10.angle_yielding(My), _leg_strength(case, My, case.section.Wel_minor))
    return flexure(case, Mn if np.ndim(Mn) else float(Mn))


# Shear


def _shear_of(case: MemberCase, leg: Any) -> Any:
    s = case.section
    kv = given(GLOSSARY, "kv", g3_g6.KV_LEG, "G3")
    slenderness = b4.leg_slenderness(leg, s.t)
    Cv2 = g2.buckling_coefficient(slenderness, E, case.Fy, kv)
    return shear(case, g3_g6.leg_strength(case.Fy, leg, s.t, Cv2))


@once_per_case
def shear_strength(case: MemberCase) -> Any:
    """Return the available shear strength of the leg along y (G3)."""
    heading("Strength of the upright leg in shear", "G3")
    return _shear_of(case, case.section.d)


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength of the leg along x (G3)."""
    heading("Strength of the level leg in shear", "G3")
    return _shear_of(case, case.section.b)


ANGLE = Family(
    compressive_strength,
    Limit("flexural-torsional buckling", "E4(c)", flexural_torsional_strength, is_slender_leg),
    (
        Limit("yielding, major axis", "F10.1", yielding_strength),
        Limit("lateral-torsional buckling", "F10.2", lateral_torsional_strength, bends_freely),
        Limit("leg local buckling", "F10.3", leg_strength),
    ),
    (Limit("bending, minor axis", "F10", strength_minor),),
    Limit("shear, upright leg", "G3", shear_strength),
    Limit("shear, level leg", "G3", shear_strength_minor),
    principal=True,
    outside=not_about_geometric_axes,
    flexural=(
        Limit("flexural buckling, major axis", "E3", major_buckling_strength, _centrally),
        Limit("flexural buckling, minor axis", "E3", minor_buckling_strength, _centrally),
        Limit("compression through one leg", "E5", one_leg_strength, _through_one_leg),
    ),
    uncompressed=not_through_one_leg,
)
