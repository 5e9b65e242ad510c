"""Any outline, by elastic stresses about its principal axes: E3, E4(c), F12, H2.

Local buckling of an outline's parts cannot be told from its corners: it is the designer who says
that there is none, with `stocky`.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import e7, f9, f11_f12
from welbric.standards.aisc360.design import (
    E,
    Family,
    G,
    Limit,
    compression,
    flexure,
    moment_shape_factor,
)
from welbric.standards.aisc360.limit_states import flexural_torsional
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import given, heading


def whole_area(case: MemberCase, Fn: Any) -> Any:
    """Return the available compressive strength at the stress Fn: no part buckles locally."""
    return compression(case, e7.compressive_strength_slender(Fn, case.section.A))


@once_per_case
def flexural_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural-torsional buckling (E4-4)."""
    heading("Strength in flexural-torsional buckling", "E4(c)")
    xo, yo = flexural_torsional.shear_centre_in_principal_axes(case)
    return whole_area(case, flexural_torsional.nominal_stress_of_no_symmetry(case, xo, yo))


@once_per_case
def yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding about the major principal axis."""
    heading("Strength in yielding", "F12.1")
    return flexure(case, f9.yield_moment(case.Fy, case.section.Wel_major))


@once_per_case
def lateral_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in lateral-torsional buckling."""
    heading("Strength in lateral-torsional buckling", "F12.2")
    s = case.section
    # Continuously restrained there is nothing to buckle: a vanishing length stands for none.
    Lb = np.maximum(case.segments.unbraced, 1e-3 * s.d)
    beta = np.abs(s.beta_major)
    Lb, beta = (v if np.ndim(v) else float(v) for v in (Lb, beta))
    beta_w = given(GLOSSARY, "beta_w", beta, "in the sense that buckles first")
    Cb = moment_shape_factor(case)
    Mcr = f11_f12.critical_moment(E, s.I_minor, Lb, beta_w, s.Cw, G, s.J, Cb)
    return flexure(
        case,
        f11_f12.elastic_strength(f11_f12.buckling_stress(Mcr, s.Wel_major, case.Fy), s.Wel_major),
    )


@once_per_case
def strength_minor(case: MemberCase) -> Any:
    """Return the available strength about the minor principal axis."""
    heading("Strength in bending about the minor principal axis", "F12.1")
    return flexure(case, f9.yield_moment(case.Fy, case.section.Wel_minor))


def parts_unknown(case: MemberCase) -> tuple[Any, str]:
    """Return where nobody has said that no part of the outline buckles."""
    why = "local buckling of an outline's parts is not known: say stocky = true where there is none"
    return np.asarray(case.section.stocky == 0), why


OUTLINE = Family(
    whole_area,
    Limit("flexural-torsional buckling", "E4(c)", flexural_torsional_strength),
    (
        Limit("yielding, major axis", "F12.1", yielding_strength),
        Limit("lateral-torsional buckling", "F12.2", lateral_torsional_strength),
    ),
    (Limit("bending, minor axis", "F12.1", strength_minor),),
    None,
    None,
    principal=True,
    outside=parts_unknown,
    uncompressed=parts_unknown,
)
