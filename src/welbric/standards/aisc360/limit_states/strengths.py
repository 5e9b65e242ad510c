"""The available strengths of a member, whatever its shape: the least of its limit states."""

from __future__ import annotations

from importlib import import_module
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import d2_d3, e3
from welbric.standards.aisc360.design import (
    E,
    Family,
    Limit,
    available,
    effective_length_major,
    effective_length_minor,
)
from welbric.standards.aisc360.limit_states import pins, tension
from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.options import Options
from welbric.working import heading

FAMILIES = {  # shape: module and name of its family, imported when it is first needed
    "rolled I": "i_families.EQUAL",
    "tapered I": "i_families.EQUAL",
    "welded I": "i_families.EQUAL",
    "unequal I": "i_families.UNEQUAL",
    "plated I": "i_families.COVERED",
    "capped I": "i_families.COVERED",
    "channel": "channels.CHANNEL",
    "tapered channel": "channels.CHANNEL",
    "double channel": "double_channels.DOUBLE_CHANNEL",
    "rectangular tube": "hollow.RECTANGULAR",
    "welded box": "hollow.BOX",
    "round tube": "hollow.ROUND",
    "tee": "tees.TEE",
    "tapered tee": "tees.TEE",
    "double angle": "tees.PAIR",
    "angle": "angles.ANGLE",
    "outline": "outlines.OUTLINE",
    "flat bar": "bars.FLAT",
    "round bar": "bars.ROUND",
}
SHAPES = tuple(FAMILIES)


def family(shape: str) -> Family:
    """Return how a kind of shape is verified."""
    module, name = FAMILIES[shape].split(".")
    found: Family = getattr(import_module(f"welbric.standards.aisc360.limit_states.{module}"), name)
    return found


WITHOUT_MOMENT_SHAPE = ("tee", "tapered tee", "double angle", "round tube", "round bar")


def uses_moment_shape(shape: str, options: Options | None = None) -> bool:
    """Return whether the strength of a shape in lateral-torsional buckling asks for Cb.

    F9 has none; round shapes do not buckle so.
    """
    return shape.removeprefix("hybrid ") not in WITHOUT_MOMENT_SHAPE


def shear_check(shape: str, axis: str) -> tuple[str, str]:
    """Return the name and the clause of the check in shear along an axis' forces."""
    of = family(shape)
    limit = of.shear_major if axis == "major" or of.resultant else of.shear_minor
    if limit is None:
        return ("shear" if axis == "major" else "shear across"), "G1"
    return limit.name, limit.clause if isinstance(limit.clause, str) else "Chapter G"


# Tension


@once_per_case
def tension_yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding."""
    heading("Strength in yielding of the gross section", "D2(a)")
    Pn = d2_d3.tensile_yielding(case.Fy, case.section.A)
    return available(
        case.method,
        Pn,
        d2_d3.design_tension,
        d2_d3.allowable_tension,
        d2_d3.PHI_YIELDING,
        d2_d3.OMEGA_YIELDING,
    )


@once_per_case
def tension_rupture_strength(case: MemberCase) -> Any:
    """Return the available strength in rupture of the net section."""
    heading("Strength in rupture of the net section", "D2(b)")
    An, U_l = tension.net_area(case), tension.shear_lag_factor(case)
    Ae = d2_d3.effective_net_area(An, U_l)
    return available(
        case.method,
        d2_d3.tensile_rupture(case.Fu, Ae),
        d2_d3.design_tension,
        d2_d3.allowable_tension,
        d2_d3.PHI_RUPTURE,
        d2_d3.OMEGA_RUPTURE,
    )


@once_per_case
def tensile_strength(case: MemberCase) -> Any:
    """Return the lowest available tensile strength."""
    Pc = tension_yielding_strength(case)
    if tension.net_area(case) is not None and tension.shear_lag_factor(case) is not None:
        Pc = np.minimum(Pc, tension_rupture_strength(case))
    if case.ends.pin is not None:
        Pc = np.minimum(Pc, pins.lowest(case))
    return Pc


# Compression


@once_per_case
def major_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the major axis."""
    heading("Strength in flexural buckling about the major axis", "E3")
    Lc = effective_length_major(case)
    Fe = e3.flexural_buckling_stress(E, Lc, case.section.r_major)
    return family(case.shape).compression(case, e3.nominal_stress(case.Fy, Fe))


@once_per_case
def minor_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the minor axis."""
    heading("Strength in flexural buckling about the minor axis", "E3")
    Lc = effective_length_minor(case)
    Fe = e3.flexural_buckling_stress(E, Lc, case.section.r_minor)
    return family(case.shape).compression(case, e3.nominal_stress(case.Fy, Fe))


USUAL_FLEXURAL = (
    Limit("flexural buckling, major axis", "E3", major_buckling_strength),
    Limit("flexural buckling, minor axis", "E3", minor_buckling_strength),
)


def compressive_limits(of: Family) -> tuple[Limit, ...]:
    """Return the limit states of compression."""
    usual = (of.flexural or USUAL_FLEXURAL) + ((of.torsional,) if of.torsional else ())
    return usual + of.compressive


def _lowest(case: MemberCase, limits: tuple[Limit, ...]) -> Any:
    """Return the lowest strength of the limit states that apply."""
    lowest: Any = np.inf
    for limit in limits:
        if limit.applies is None:
            lowest = np.minimum(lowest, limit.strength(case))
        elif np.any(applies := limit.applies(case)):
            lowest = np.where(applies, np.minimum(lowest, limit.strength(case)), lowest)
    return lowest if np.ndim(lowest) else float(lowest)


@once_per_case
def compressive_strength(case: MemberCase) -> Any:
    """Return the lowest available compressive strength."""
    return _lowest(case, compressive_limits(family(case.shape)))


def compression_not_covered(of: Family, case: MemberCase) -> tuple[Any, str]:
    """Return where compression is outside, and why."""
    if case.buckling.lateral_offset is not None and not of.compressive:
        why = "restraint off the shear centre is covered for I-shapes with equal flanges (E4(d))"
        return np.asarray(True), why
    return (np.asarray(False), "") if of.uncompressed is None else of.uncompressed(case)


# Flexure


def bending_not_covered(of: Family, case: MemberCase) -> tuple[Any, str]:
    """Return where bending about the major axis is outside, and why."""
    return (np.asarray(False), "") if of.outside is None else of.outside(case)


def minor_not_covered(of: Family, case: MemberCase) -> tuple[Any, str]:
    """Return where bending about the minor axis is outside, and why."""
    if not of.minor:
        return np.asarray(True), of.not_minor
    mask, reason = bending_not_covered(of, case)
    s = case.section
    # F6 has no lateral-torsional buckling: the axis is taken to be the less stiff one.
    stiffer = np.asarray(s.I_minor > s.I_major * (1 + 1e-6)) & (case.shape not in WIDE)
    if np.any(stiffer):
        reason = "the y axis is the stiffer one: lateral buckling about it is not covered"
    # What is too slender for bending is so about one axis; a round tube has one for both, and of
    # an outline nothing is known about either.
    both = case.shape in ("round tube", "outline") or case.geometric
    return stiffer | (np.asarray(mask) & both), reason


WIDE = ("rectangular tube", "round tube", "welded box", "flat bar", "round bar")


@once_per_case
def flexural_strength_major(case: MemberCase) -> Any:
    """Return the lowest available strength about the major axis."""
    return _lowest(case, family(case.shape).major)


@once_per_case
def flexural_strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    return _lowest(case, family(case.shape).minor)
