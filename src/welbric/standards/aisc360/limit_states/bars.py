"""Round and flat bars (E3, F11); their shear has no clause."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import e3, f7_f8, f11_f12
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    compression,
    flexure,
    moment_shape_factor,
    pick,
)
from welbric.standards.aisc360.limit_states import pins
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import first_of, heading


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn; nothing buckles locally."""
    return compression(case, e3.compressive_strength(Fn, case.section.A))


@once_per_case
def plastic_moment(case: MemberCase) -> Any:
    """Return Mp about the major axis."""
    s = case.section
    return f11_f12.plastic_moment_of_bar(case.Fy, s.Wpl_major, s.Wel_major)


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding."""
    heading("Strength in yielding", "F11.1")
    return flexure(case, plastic_moment(case))


def _buckling(case: MemberCase, d: Any, t: Any, S: Any, Mp: Any, Cb: Any) -> Any:
    return first_of(
        (f11_f12.bar_yields, f7_f8.no_wall_buckling),
        (f11_f12.bar_buckles_inelastically, f11_f12.inelastic_bar),
        otherwise=f11_f12.elastic_bar,
        Lb=case.segments.unbraced,
        d=d,
        t=t,
        E=E,
        Fy=case.Fy,
        Cb=Cb,
        S=S,
        Mp=Mp,
    )


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling of a flat bar."""
    heading("Strength in lateral-torsional buckling", "F11.2")
    s, Mp, Cb = case.section, plastic_moment(case), moment_shape_factor(case)
    return flexure(case, _buckling(case, s.d, s.b, s.Wel_major, Mp, Cb))


def stands_on_edge(case: MemberCase) -> Any:
    """Return where a flat bar is bent about its stiff axis."""
    return np.asarray(case.section.d > case.section.b)


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the available strength about the minor axis."""
    heading("Strength in bending about the minor axis", "F11.1")
    s = case.section
    Mp = f11_f12.plastic_moment_of_bar(case.Fy, s.Wpl_minor, s.Wel_minor)
    return flexure(case, Mp)


@once_per_case
def strength_across(case: MemberCase) -> Any:
    """Return the available strength of a flat bar about the y axis, which may be the stiff one."""
    heading("Strength in bending about the minor axis", "F11")
    s = case.section
    Mp = f11_f12.plastic_moment_of_bar(case.Fy, s.Wpl_minor, s.Wel_minor)
    wide = np.asarray(s.b > s.d)
    if not wide.any():
        return flexure(case, Mp)
    return flexure(case, pick(wide, _buckling(case, s.b, s.d, s.Wel_minor, Mp, 1.0), Mp))


_YIELDING = Limit("yielding, major axis", "F11.1", yielding_strength)
_MINOR = (Limit("bending, minor axis", "F11.1", strength_minor),)
_LATERAL = Limit("lateral-torsional buckling", "F11.2", lateral_torsional_strength, stands_on_edge)
_ACROSS = (Limit("bending, minor axis", "F11", strength_across),)
FLAT = Family(
    compressive_strength, None, (_YIELDING, _LATERAL), _ACROSS, None, None, more=pins.CHECKS
)
ROUND = Family(compressive_strength, None, (_YIELDING,), _MINOR, None, None)
