"""The checks of a member to EN 1993-1-1, in the order of a hand calculation: the standard's door.

The major axis is y, the minor one z. Every function runs over arrays, and on single numbers inside
a `Working`.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993 import classify
from welbric.standards.en1993.design import partial
from welbric.standards.en1993.limit_states import buckling, sections
from welbric.standards.en1993.limit_states.interaction import interaction


@functools.cache
def checks(shape: str) -> Mapping[str, Callable[[MemberCase], Check]]:
    """Return the checks of a kind of shape, by name, in the order of a hand calculation."""
    found: dict[str, Callable[[MemberCase], Check]] = {
        "tension": sections.tension,
        "tension, net section": sections.net_tension,
        "compression": sections.compression,
        "flexural buckling, y axis": buckling.buckling_y,
        "flexural buckling, z axis": buckling.buckling_z,
    }
    opens = shape in classify.I_SHAPES
    if opens:
        found["torsional buckling"] = buckling.buckling_t
    found["bending, y axis"] = sections.bending_major
    found["bending, z axis"] = sections.bending_minor
    if opens:
        found["lateral-torsional buckling"] = buckling.lateral_torsional
    found |= {
        "shear, z direction": sections.shear_major,
        "shear, y direction": sections.shear_minor,
        "shear buckling": sections.shear_buckling,
        "forces together, cross-section": sections.forces_together,
        "buckling, bending and compression": interaction,
        "torsion": sections.torsion,
    }
    return found


def uses_moment_shape(shape: str) -> bool:
    """Return whether the strength of a shape in lateral-torsional buckling asks for C1."""
    return shape in classify.I_SHAPES


def shear_check(shape: str, axis: str) -> tuple[str, str]:
    """Return the name and the clause of the check in shear along an axis' forces."""
    return f"shear, {'z' if axis == 'major' else 'y'} direction", "6.2.6"


def _bending(case: MemberCase) -> Any:
    """Return the available moment about the y axis."""
    M_c, _ = sections.resistance_major(case)
    if not buckling.twists(case):
        return M_c
    return np.minimum(M_c, buckling.lateral_resistance(case))


def _compression(case: MemberCase) -> Any:
    """Return the available compression."""
    chi = np.minimum(buckling.chi_y(case)[0], buckling.chi_z(case)[0])
    if buckling.twists(case):
        chi = np.minimum(chi, buckling.chi_t(case)[0])
    return chi * sections.area(case) * case.Fy / partial(case, 1)


AVAILABLE: Mapping[str, Callable[[MemberCase], Any]] = {
    "bending": _bending,
    "compression": _compression,
    "shear": sections.shear_resistance_major,
}


def not_covered(what: str, case: MemberCase) -> tuple[Any, str]:
    """Return where bending or compression of a case is outside, and why."""
    if what == "bending":
        return sections.bending_outside(case, "major")
    return sections.is_slender_round(case), sections.CLASS_4_ROUND
