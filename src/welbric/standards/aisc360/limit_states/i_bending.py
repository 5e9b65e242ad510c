"""I-shapes in bending about the major axis: F2 and F3, F4 or F5, as the web asks, and F13.1."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, d2_d3, f2_f3, f4_f5, f13
from welbric.standards.aisc360.design import (
    E,
    Limit,
    Strength,
    flexure,
    moment_shape_factor,
    pick,
)
from welbric.standards.aisc360.limit_states import covers
from welbric.standards.aisc360.limit_states.i_shapes import (
    flange_coefficient,
    flange_slenderness,
    flanges,
    is_built_up,
    is_unequal,
    web_slenderness,
)
from welbric.standards.case import SEVERAL, MemberCase, once_per_case
from welbric.working import either, first_of, heading, holds


@once_per_case
def bending_web(case: MemberCase) -> Any:
    """Return lambda_w in flexure: of hc where the flanges differ."""
    if is_unequal(case):
        return b4.unequal_web_slenderness(flanges(case).hc, case.section.tw)
    return web_slenderness(case)


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp about the major axis."""
    return f2_f3.plastic_moment(case.Fy, case.section.Wpl_major)


@once_per_case
def limited_plastic_moment(case: MemberCase) -> Any:
    """Return Mp of F4, at most 1.6 times the yield moment."""
    s, f = case.section, flanges(case)
    Z = s.Wpl_x if is_unequal(case) else s.Wpl_major
    return f4_f5.plastic_moment_limited(case.Fy, Z, f.Sxc)


@once_per_case
def web_limits(case: MemberCase) -> tuple[Any, Any]:
    """Return lambda_pw and lambda_rw."""
    Fy = case.Fy
    lambda_rw = b4.noncompact_web_limit(E, Fy)
    if not is_unequal(case):
        return b4.compact_web_limit(E, Fy), lambda_rw
    f = flanges(case)
    My = Fy * np.minimum(f.Sxc, f.Sxt)
    Mp = Fy * case.section.Wpl_x
    return (
        b4.compact_web_limit_unequal(f.hc, f.hp, E, Fy, Mp, My, lambda_rw),
        lambda_rw,
    )


def _by_web(case: MemberCase, compact: Strength, noncompact: Strength, slender: Strength) -> Any:
    """Return a strength by F2 and F3, F4 or F5, as the web asks."""
    lambda_w = bending_web(case)
    if is_unequal(case):
        is_compact: Any = np.zeros(np.shape(lambda_w), dtype=bool)  # F4 takes compact webs too
    else:
        lambda_pw = b4.compact_web_limit(E, case.Fy)
        is_compact = holds(b4.web_is_compact, lambda_w=lambda_w, lambda_pw=lambda_pw)
        if np.all(is_compact):
            return compact(case)
    lambda_rw = b4.noncompact_web_limit(E, case.Fy)
    is_noncompact = holds(b4.web_is_noncompact, lambda_w=lambda_w, lambda_rw=lambda_rw)
    if np.ndim(is_noncompact) == 0:
        return noncompact(case) if is_noncompact else slender(case)
    found = np.where(is_noncompact, noncompact(case), slender(case))
    if not np.any(is_compact):
        return found
    return np.where(is_compact, compact(case), found)


@once_per_case
def flange_limits(case: MemberCase) -> tuple[Any, Any]:
    """Return lambda_pf and lambda_rf."""
    lambda_pf = b4.compact_flange_limit(E, case.Fy)
    if is_built_up(case):
        kc, FL = flange_coefficient(case), flange_limit_stress(case)
        return lambda_pf, b4.built_up_flange_limit(kc, E, FL)
    return lambda_pf, b4.noncompact_flange_limit(E, case.Fy)


@once_per_case
def flange_limit_stress(case: MemberCase) -> Any:
    """Return FL of the flange's limit: 0.7 Fy beside a slender web (Table B4.1b, note b)."""
    if not is_unequal(case):
        return limit_stress(case)
    lambda_rw = b4.noncompact_web_limit(E, case.Fy)
    slender = bending_web(case) > lambda_rw
    if np.ndim(slender) == 0:
        FL = f4_f5.usual_limit_stress
        return FL(case.Fy) if slender else limit_stress(case)
    return np.where(slender, f4_f5.usual_limit_stress(case.Fy), limit_stress(case))


def _compact_lateral_torsional(case: MemberCase, Cb: Any) -> Any:
    s = case.section
    return f2_f3.lateral_torsional_buckling(
        Cb=Cb,
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
    )


def _compact_flange_buckling(case: MemberCase) -> Any:
    lambda_pf, lambda_rf = flange_limits(case)
    return f2_f3.flange_local_buckling(
        Mp=plastic_moment(case),
        Fy=case.Fy,
        E=E,
        Sx=case.section.Wel_major,
        lambda_f=flange_slenderness(case),
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
        lambda_w=web_slenderness(case),
    )


@once_per_case
def limit_stress(case: MemberCase) -> Any:
    """Return FL."""
    f = flanges(case)
    if not is_unequal(case):
        return f4_f5.usual_limit_stress(case.Fy)
    return either(
        f4_f5.tension_flange_is_large,
        f4_f5.usual_limit_stress,
        f4_f5.limit_stress_by_tension_flange,
        Fy=case.Fy,
        Sxt=f.Sxt,
        Sxc=f.Sxc,
    )


@once_per_case
def flange_inertia(case: MemberCase) -> Any:
    """Return Iyc."""
    f = flanges(case)
    if f.Iyc is not None:
        return f.Iyc
    return f4_f5.compression_flange_inertia(f.tfc, f.bfc)


@once_per_case
def area_ratio(case: MemberCase) -> Any:
    """Return aw."""
    f = flanges(case)
    if f.Afc is not None:
        return f4_f5.web_to_flange_parts(f.hc, case.section.tw, f.Afc)
    return f4_f5.web_to_flange(f.hc, case.section.tw, f.bfc, f.tfc)


@once_per_case
def buckling_radius(case: MemberCase) -> Any:
    """Return rt."""
    f = flanges(case)
    if f.Iyc is not None:
        return f4_f5.radius_of_flange_parts(f.Iyc, f.Afc, area_ratio(case))
    return f4_f5.effective_radius(flanges(case).bfc, area_ratio(case))


def _yield_moment(case: MemberCase) -> Any:
    return f4_f5.yield_moment_compression(case.Fy, flanges(case).Sxc)


@once_per_case
def plastification(case: MemberCase) -> Any:
    """Return Rpc."""
    (lambda_pw, lambda_rw) = web_limits(case)

    def with_share(**of: Any) -> Any:
        return either(
            f4_f5.web_is_compact,
            f4_f5.compact_plastification,
            f4_f5.noncompact_plastification,
            **of,
        )

    symbols = {
        "Mp": limited_plastic_moment(case),
        "Myc": _yield_moment(case),
        "lambda_w": bending_web(case),
        "lambda_pw": lambda_pw,
        "lambda_rw": lambda_rw,
    }
    share = holds(f4_f5.flange_has_its_share, Iyc=flange_inertia(case), Iy=case.section.I_minor)
    if np.ndim(share) == 0:
        return with_share(**symbols) if share else f4_f5.no_plastification()
    return np.where(share, with_share(**symbols), f4_f5.no_plastification())


@once_per_case
def plastification_tension(case: MemberCase) -> Any:
    """Return Rpt."""
    (lambda_pw, lambda_rw) = web_limits(case)
    symbols = {
        "Mp": f4_f5.plastic_moment_limited(case.Fy, case.section.Wpl_x, flanges(case).Sxt),
        "Myt": f4_f5.yield_moment_tension(case.Fy, flanges(case).Sxt),
        "lambda_w": bending_web(case),
        "lambda_pw": lambda_pw,
        "lambda_rw": lambda_rw,
    }
    share = holds(f4_f5.flange_has_its_share, Iyc=flange_inertia(case), Iy=case.section.I_minor)
    branches = (f4_f5.compact_plastification_tension, f4_f5.noncompact_plastification_tension)
    if np.ndim(share) == 0:
        if not share:
            return f4_f5.no_plastification_tension()
        return either(f4_f5.web_is_compact, *branches, **symbols)
    found = either(f4_f5.web_is_compact, *branches, **symbols)
    return np.where(share, found, f4_f5.no_plastification_tension())


def _noncompact_yielding(case: MemberCase) -> Any:
    return f4_f5.compression_flange_yielding(plastification(case), _yield_moment(case))


def _noncompact_lateral_torsional(case: MemberCase, Cb: Any) -> Any:
    s, f = case.section, flanges(case)
    share = flange_inertia(case) / s.I_minor > f4_f5.LEAST_SHARE
    J = pick(share, s.J, 0.0)
    rt, FL = buckling_radius(case), limit_stress(case)
    Rpc, Myc = plastification(case), _yield_moment(case)
    return first_of(
        (f4_f5.held_closely, f4_f5.compression_flange_yielding),
        (f4_f5.buckles_inelastically, f4_f5.inelastic_buckling),
        otherwise=f4_f5.elastic_buckling,
        Cb=Cb,
        Rpc=Rpc,
        Myc=Myc,
        FL=FL,
        Sxc=f.Sxc,
        Lb=case.segments.unbraced,
        Lp=f4_f5.yielding_length_limit(rt, E, case.Fy),
        E=E,
        rt=rt,
        J=J,
        ho=f.ho,
        Lr=f4_f5.inelastic_length_limit(rt, E, FL, J, f.Sxc, f.ho),
    )


def _noncompact_flange_buckling(case: MemberCase) -> Any:
    return _noncompact_buckling_of(case, flange_slenderness(case), flange_limits(case))


def _noncompact_buckling_of(case: MemberCase, lambda_f: Any, limits: tuple[Any, Any]) -> Any:
    f = flanges(case)
    lambda_pf, lambda_rf = limits
    return first_of(
        (b4.flange_is_compact, f4_f5.compression_flange_yielding),
        (b4.flange_is_noncompact, f4_f5.noncompact_flange),
        otherwise=f4_f5.slender_flange,
        Rpc=plastification(case),
        Myc=_yield_moment(case),
        FL=limit_stress(case),
        Sxc=f.Sxc,
        lambda_f=lambda_f,
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
        E=E,
        kc=flange_coefficient(case),
    )


@once_per_case
def reduction(case: MemberCase) -> Any:
    """Return Rpg."""
    f = flanges(case)
    return f4_f5.bending_reduction(area_ratio(case), f.hc, case.section.tw, E, case.Fy)


def _girder_yielding(case: MemberCase) -> Any:
    return f4_f5.girder_yielding(reduction(case), case.Fy, flanges(case).Sxc)


def _girder_lateral_torsional(case: MemberCase, Cb: Any) -> Any:
    rt = buckling_radius(case)
    Fcr = first_of(
        (f4_f5.held_closely, f4_f5.girder_yield_stress),
        (f4_f5.buckles_inelastically, f4_f5.girder_inelastic_stress),
        otherwise=f4_f5.girder_elastic_stress,
        Cb=Cb,
        Fy=case.Fy,
        Lb=case.segments.unbraced,
        E=E,
        rt=rt,
        Lp=f4_f5.yielding_length_limit(rt, E, case.Fy),
        Lr=f4_f5.girder_inelastic_limit(rt, E, case.Fy),
    )
    return f4_f5.girder_buckling(reduction(case), Fcr, flanges(case).Sxc)


def _girder_flange_buckling(case: MemberCase) -> Any:
    return _girder_buckling_of(case, flange_slenderness(case), flange_limits(case))


def _girder_buckling_of(case: MemberCase, lambda_f: Any, limits: tuple[Any, Any]) -> Any:
    lambda_pf, lambda_rf = limits
    Fcr = first_of(
        (b4.flange_is_compact, f4_f5.girder_yield_stress),
        (b4.flange_is_noncompact, f4_f5.girder_noncompact_flange),
        otherwise=f4_f5.girder_slender_flange,
        Fy=case.Fy,
        lambda_f=lambda_f,
        lambda_pf=lambda_pf,
        lambda_rf=lambda_rf,
        E=E,
        kc=flange_coefficient(case),
    )
    return f4_f5.girder_buckling(reduction(case), Fcr, flanges(case).Sxc)


def clause_of(number: int) -> Callable[[MemberCase], str]:
    """Return the clause of a limit state (1 yielding, 2 lateral buckling, 3 of the flange)."""

    def clause(case: MemberCase) -> str:
        lambda_w = bending_web(case)
        lambda_rw = b4.noncompact_web_limit.fn(E, case.Fy)
        compact = lambda_w <= b4.compact_web_limit.fn(E, case.Fy)
        if is_unequal(case):
            compact = np.zeros(np.shape(lambda_w), dtype=bool)
        if np.all(compact):
            return f"F3.{number - 1}" if number == 3 else f"F2.{number}"
        if np.all(lambda_w > lambda_rw):
            return f"F5.{number}"
        return f"F4.{number}" if not np.any(compact | (lambda_w > lambda_rw)) else f"F2{SEVERAL}F5"

    return clause


YIELDING, LATERAL, FLANGE, TENSION = (clause_of(number) for number in (1, 2, 3, 4))


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding, major axis."""
    heading("Strength in yielding", YIELDING(case))
    Mn = _by_web(case, plastic_moment, _noncompact_yielding, _girder_yielding)
    return flexure(case, Mn)


def nominal_lateral_torsional(case: MemberCase, Cb: Any) -> Any:
    """Return Mn in lateral-torsional buckling with a moment-shape factor."""
    return _by_web(
        case,
        lambda one: _compact_lateral_torsional(one, Cb),
        lambda one: _noncompact_lateral_torsional(one, Cb),
        lambda one: _girder_lateral_torsional(one, Cb),
    )


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling."""
    heading("Strength in lateral-torsional buckling", LATERAL(case))
    return flexure(case, nominal_lateral_torsional(case, moment_shape_factor(case)))


@once_per_case
def flange_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flange local buckling, major axis."""
    heading("Strength in flange local buckling", FLANGE(case))
    branches = (_compact_flange_buckling, _noncompact_flange_buckling, _girder_flange_buckling)
    return flexure(case, _by_web(case, *branches))


@once_per_case
def cover_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in local buckling of a cover of the compressed flange."""
    heading("Strength in local buckling of the cover", FLANGE(case))
    limits = (
        b4.compact_cover_limit(E, case.Fy),
        b4.noncompact_cover_limit(E, case.Fy),
    )
    lambda_f = covers.slenderness(case)

    def by_F4(one: MemberCase) -> Any:
        return _noncompact_buckling_of(one, lambda_f, limits)

    def by_F5(one: MemberCase) -> Any:
        return _girder_buckling_of(one, lambda_f, limits)

    return flexure(case, _by_web(case, by_F4, by_F4, by_F5))


@once_per_case
def tension_flange_strength(case: MemberCase) -> Any:
    """Return the available strength in tension flange yielding (F4.4, F5.4)."""
    heading("Strength in yielding of the tension flange", TENSION(case))
    f = flanges(case)

    def by_F4(one: MemberCase) -> Any:
        Myt = f4_f5.yield_moment_tension(one.Fy, f.Sxt)
        return f4_f5.tension_flange_yielding(plastification_tension(one), Myt)

    def by_F5(one: MemberCase) -> Any:
        return f4_f5.girder_tension_yielding(one.Fy, f.Sxt)

    return flexure(case, _by_web(case, by_F4, by_F4, by_F5))


@once_per_case
def holed_flange_strength(case: MemberCase) -> Any:
    """Return the available strength with holes in the tension flange (F13.1)."""
    heading("Strength with holes in the tension flange", "F13.1")
    f, s = flanges(case), case.section
    if case.shape == "unequal I":
        top = case.segments.top
        bft, tft = pick(top, s.bf_bottom, s.bf_top), pick(top, s.tf_bottom, s.tf_top)
        Mp = case.Fy * s.Wpl_x
    else:
        bft, tft, Mp = s.bf, s.tf, plastic_moment(case)
    count, diameter = case.flange_holes or (0, 0.0)
    Afg = f13.gross_flange(bft, tft)
    Yt = either(f13.steel_is_ductile, f13.usual_factor, f13.raised_factor, Fy=case.Fy, Fu=case.Fu)
    Mn = either(
        f13.holes_do_not_count,
        f13.yielding_of_flange,
        f13.rupture_of_flange,
        Fu=case.Fu,
        Fy=case.Fy,
        Afg=Afg,
        Yt=Yt,
        Sxt=f.Sxt,
        Mp=Mp,
        Afn=f13.net_flange(Afg, count, diameter, d2_d3.DAMAGE, tft),
    )
    return flexure(case, Mn)


def has_flange_holes(case: MemberCase) -> Any:
    """Return whether the flanges have holes."""
    return np.asarray(case.flange_holes is not None)


def tension_flange_is_first(case: MemberCase) -> Any:
    """Return where the tension flange yields before the other."""
    f = flanges(case)
    return np.asarray(f.Sxt < f.Sxc)


MAJOR = (
    Limit("yielding, major axis", YIELDING, yielding_strength),
    Limit("lateral-torsional buckling", LATERAL, lateral_torsional_strength),
    Limit("flange local buckling", FLANGE, flange_buckling_strength),
    Limit("tension flange rupture", "F13.1", holed_flange_strength, has_flange_holes),
)
