"""The checks of a member to EN 1993-1-1, in the order of a hand calculation: the standard's door.

The major axis is y, the minor one z; of angles the principal ones are u and v. Every function runs
over arrays, and on single numbers inside a `Working`.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.design import TOO_STRONG, is_too_strong, partial
from welbric.standards.en1993.limit_states import (
    angles,
    axial,
    bending,
    built_up,
    compression,
    effective,
    lateral,
    shear,
)
from welbric.standards.en1993.limit_states.interaction import interaction
from welbric.standards.en1993.limit_states.senses import BOTTOM, TOP, senses
from welbric.standards.en1993.limit_states.together import forces_together
from welbric.standards.options import Options
from welbric.working import note


@functools.cache
def checks(shape: str) -> Mapping[str, Callable[[MemberCase], Check]]:
    """Return the checks of a kind of shape, by name, in the order of a hand calculation."""
    return {name: _up_to_s700(check) for name, check in _checks(shape).items()}


def _up_to_s700(check: Callable[[MemberCase], Check]) -> Callable[[MemberCase], Check]:
    """Return a check that is outside where something acts on a steel above S700."""

    def run(case: MemberCase) -> Check:
        found, strong = check(case), is_too_strong(case)
        if not np.any(strong):
            return found
        U = np.asarray(found.utilisation, dtype=float)
        outside = strong & ~(U == 0)
        if case.single and np.all(outside):
            note(f"Outside: {TOO_STRONG}.")
        reasons = [TOO_STRONG, "" if np.all(strong) else found.reason]
        return replace(
            found, utilisation=np.where(outside, np.nan, U), outside=outside | found.outside,
            reason="; or ".join(filter(None, reasons)),
        )  # fmt: skip

    return run


def _checks(shape: str) -> dict[str, Callable[[MemberCase], Check]]:
    if shape in shapes.TWO_CHORDS:
        return _of_two_chords()
    angle = shape == shapes.ANGLE
    first, second = ("u", "v") if angle else ("y", "z")
    found: dict[str, Callable[[MemberCase], Check]] = {
        "tension": axial.tension,
        "tension, net section": axial.net_tension,
        "compression": axial.compression,
        f"flexural buckling, {first} axis": compression.flexural_y,
        f"flexural buckling, {second} axis": compression.flexural_z,
    }
    if shapes.twists(shape):
        found[compression.twisting_name(shape)] = compression.twisting
    if angle:
        found["buckling, loaded through one leg"] = compression.web_member
        found["normal stress"] = angles.normal_stress
    else:
        found["bending, y axis"] = bending.bending_major
        found["bending, z axis"] = bending.bending_minor
    if angle:
        found[lateral.NAME] = functools.partial(angles.lateral_torsional, name=lateral.NAME)
    elif shapes.bends_sideways(shape):
        found[lateral.NAME] = lateral.lateral_torsional
    if shear.is_round(shape):
        found["shear"] = shear.shear_round
    else:
        found["shear, z direction"] = shear.shear_major
        found["shear, y direction"] = shear.shear_minor
    if shear.has_webs(shape):
        found["shear buckling"] = shear.shear_buckling
    if shape in shapes.BOXES:
        found["shear buckling, y direction"] = shear.shear_buckling_across
    if shape in shapes.I_SHAPES and shape not in shapes.ROLLED:
        found[shear.FLANGE_INDUCED] = shear.flange_induced
    if not angle:
        found["forces together, cross-section"] = forces_together
    found["buckling, bending and compression"] = interaction
    found["torsion"] = shear.torsion
    return found


def _of_two_chords() -> dict[str, Callable[[MemberCase], Check]]:
    return {
        "tension": axial.tension,
        "tension, net section": axial.net_tension,
        "compression": axial.compression,
        "flexural buckling, y axis": compression.flexural_y,
        "flexural buckling, z axis": compression.flexural_z,
        "torsional buckling": compression.twisting,
        built_up.CHORDS: built_up.chords,
        built_up.LACING: built_up.lacing,
        built_up.BATTENS: built_up.battens,
        "bending, y axis": built_up.bending_major,
        "torsion": shear.torsion,
    }


def uses_moment_shape(shape: str, options: Options) -> bool:
    """Return whether the strength of a shape in lateral-torsional buckling asks for C1."""
    return shapes.bends_sideways(shape) and not lateral.goes_by_flange(shape, options)


def shear_check(shape: str, axis: str) -> tuple[str, str]:
    """Return the name and the clause of the check in shear along an axis' forces."""
    if shear.is_round(shape):
        return "shear", "6.2.6"
    return f"shear, {'z' if axis == 'major' else 'y'} direction", "6.2.6"


def _bending(case: MemberCase) -> Any:
    """Return the available moment about the y axis, of the sense that the segment has."""
    found = [
        np.minimum(bending.resistance(case, "major", sense), lateral.resistance(case, sense))
        for sense in senses(case)
    ]
    if len(found) == 1:
        return found[0]
    both, top = np.asarray(case.segments.both), np.asarray(case.segments.top)
    return np.where(both, np.minimum(*found), np.where(top, found[0], found[1]))


def _compression(case: MemberCase) -> Any:
    """Return the available compression."""
    chi = np.minimum(compression.chi_y(case)[0], compression.chi_z(case)[0])
    if shapes.twists(case.shape):
        chi = np.minimum(chi, compression.chi_t(case)[0])
    return chi * effective.area(case) * case.Fy / partial(case, 1)


AVAILABLE: Mapping[str, Callable[[MemberCase], Any]] = {
    "bending": _bending,
    "compression": _compression,
    "shear": lambda case: shear.resistance(case, "major"),
}


def not_covered(what: str, case: MemberCase) -> tuple[Any, str]:
    """Return where bending or compression of a case is outside, and why."""
    if np.any(is_too_strong(case)):
        return is_too_strong(case), TOO_STRONG
    if what == "bending":
        if case.shape == shapes.ANGLE:
            return np.asarray(True), lateral.OF_ANGLE
        if case.shape in shapes.TWO_CHORDS:
            return np.asarray(True), built_up.BENT_Y
        if len(senses(case)) == 1:
            return bending.bending_outside(case, "major")
        top, why = bending.bending_outside(case, "major", TOP)
        bottom, other = bending.bending_outside(case, "major", BOTTOM)
        return top | bottom, why or other
    return compression.compressed_outside(case, compression.chi_z(case)[0])
