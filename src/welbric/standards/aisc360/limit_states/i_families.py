"""The families of I-shapes, and what those welded of plates ask besides: E4-3 and F13.2."""

from __future__ import annotations

import dataclasses
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, f13
from welbric.standards.aisc360.design import E, Family, Limit
from welbric.standards.aisc360.limit_states import (
    covers,
    flexural_torsional,
    holed,
    i_bending,
    i_shapes,
    i_shear,
)
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import heading, holds


@once_per_case
def flexural_torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural-torsional buckling."""
    heading("Strength in flexural-torsional buckling", "E4(b)")
    Fey = flexural_torsional.stress_about_y(case)
    Fn = flexural_torsional.nominal_stress_symmetric(case, Fey)
    return i_shapes.compressive_strength(case, Fn)


def out_of_proportion(case: MemberCase) -> tuple[Any, str]:
    """Return where the proportions of F13.2 are not kept."""
    heading("Proportions", "F13.2")
    s = case.section
    share = holds(f13.flanges_are_in_proportion, Iyc=i_bending.flange_inertia(case), Iy=s.I_minor)
    web, reason = web_out_of_proportion(case)
    return (share == 0) | web, f"{reason}, or the flanges are out of proportion (F13-2)"


def covered_out_of_proportion(case: MemberCase) -> tuple[Any, str]:
    """Return where the covers of the flanges are not compact, or F13.2 is not kept."""
    wide, why = covers.too_slender(case)
    mask, reason = out_of_proportion(case)
    return mask | wide, why if np.any(wide) else reason


@once_per_case
def web_out_of_proportion(case: MemberCase) -> tuple[Any, str]:
    """Return where the web is more slender, or larger beside its flange, than F13.2 allows."""
    s = case.section
    if i_shapes.is_unequal(case):
        f, h = i_shapes.flanges(case), i_shapes.clear_depth(case)
        Afc = f.bfc * f.tfc if f.Afc is None else f.Afc
    else:  # of nearly every section the ratios are far away: no steps of a working
        h = b4.clear_web_depth.fn(s.d, s.tf, 0.0 if i_shapes.is_built_up(case) else s.r)
        Afc = s.bf * s.tf
    lambda_w = h / s.tw
    if case.stiffeners is None:
        slender = f13.web_is_not_too_slender.fn(lambda_w, E, case.Fy) == 0
        words = " without stiffeners"
    else:
        longest = max(case.stiffeners.spacing, case.stiffeners.end_panels)
        near = np.asarray(longest / h <= 1.5)
        limits = (f13.web_limit_near.fn(E, case.Fy), f13.web_limit_far.fn(E, case.Fy))
        slender, words = lambda_w > np.where(near, *limits), ""
    large = f13.web_is_not_too_large.fn(h, s.tw, Afc) == 0
    reason = f"the web is more slender than F13.2 allows{words}"
    if np.any(large) and not np.any(slender):
        reason = "the web is more than ten times the flange in compression (F13.2)"
    return slender | large, reason


MORE = i_shear.MORE | holed.MORE
UNEQUAL = Family(
    i_shapes.compressive_strength,
    Limit("flexural-torsional buckling", "E4(b)", flexural_torsional_strength),
    (
        *i_bending.MAJOR,
        Limit(
            "tension flange yielding",
            i_bending.TENSION,
            i_bending.tension_flange_strength,
            i_bending.tension_flange_is_first,
        ),
    ),
    i_shapes.MINOR,
    i_shear.SHEAR,
    i_shear.SHEAR_MINOR,
    more=MORE,
    shear_ends=i_shear.ENDS,
    outside=out_of_proportion,
)
COVERED = dataclasses.replace(
    UNEQUAL,
    major=(
        *UNEQUAL.major,
        Limit(
            "cover local buckling",
            i_bending.FLANGE,
            i_bending.cover_buckling_strength,
            covers.is_covered_here,
        ),
    ),
    outside=covered_out_of_proportion,
    uncompressed=covers.too_slender,
)
EQUAL = Family(
    i_shapes.compressive_strength,
    i_shapes.TORSIONAL,
    i_bending.MAJOR,
    i_shapes.MINOR,
    i_shear.SHEAR,
    i_shear.SHEAR_MINOR,
    compressive=(i_shapes.CONSTRAINED,),
    more=MORE,
    shear_ends=i_shear.ENDS,
    outside=web_out_of_proportion,
)
