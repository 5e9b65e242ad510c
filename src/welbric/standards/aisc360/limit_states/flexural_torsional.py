"""Flexural-torsional buckling of shapes with one axis of symmetry, or none (E4)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import e3, e4
from welbric.standards.aisc360.design import (
    E,
    G,
    effective_length_major,
    effective_length_minor,
    effective_length_torsion,
)
from welbric.standards.case import MemberCase


def polar(case: MemberCase, xo: Any, yo: Any) -> tuple[Any, Any]:
    """Return ro and H."""
    s = case.section
    ro = e4.polar_radius(xo, yo, s.I_major, s.I_minor, s.A)
    return ro, e4.flexural_constant(xo, yo, ro)


def _twisting(case: MemberCase, ro: Any, warping: bool) -> Any:
    s = case.section
    if not warping:
        return e4.torsional_stress_without_warping(G, s.J, s.A, ro)
    Lcz = effective_length_torsion(case)
    return e4.torsional_stress(E, s.Cw, Lcz, G, s.J, s.A, ro)


def nominal_stress_symmetric(case: MemberCase, Fes: Any, warping: bool = True) -> Any:
    """Return Fn by E4-3, with the flexural buckling stress about the axis of symmetry."""
    s = case.section
    ro, H = polar(case, abs(s.shear_x - s.x), abs(s.shear_y - s.y))
    Fez = _twisting(case, ro, warping)
    return e3.nominal_stress(case.Fy, e4.flexural_torsional_stress(Fes, Fez, H))


def stress_about_x(case: MemberCase) -> Any:
    """Return Fex."""
    return e4.flexural_stress_x(E, effective_length_major(case), case.section.r_major)


def stress_about_y(case: MemberCase) -> Any:
    """Return Fey."""
    return e4.flexural_stress_y(E, effective_length_minor(case), case.section.r_minor)


def shear_centre_in_principal_axes(case: MemberCase) -> tuple[Any, Any]:
    """Return xo and yo, from the centroid along the principal axes."""
    s = case.section
    dx, dy = s.shear_x - s.x, s.shear_y - s.y
    xo = dx * np.cos(s.angle) + dy * np.sin(s.angle)
    yo = dy * np.cos(s.angle) - dx * np.sin(s.angle)
    xo, yo = (v if np.ndim(v) else float(v) for v in (xo, yo))
    return xo, yo


def nominal_stress_of_no_symmetry(case: MemberCase, xo: Any, yo: Any) -> Any:
    """Return Fn by E4-4, the shear centre in principal axes."""
    ro, _ = polar(case, xo, yo)
    Fez = _twisting(case, ro, warping=True)
    stresses = (stress_about_x(case), stress_about_y(case), Fez)
    return e3.nominal_stress(case.Fy, e4.least_root(*stresses, xo, yo, ro))
