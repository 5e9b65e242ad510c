"""5.5: classes of cross-sections, for the forces of each combination (Table 5.2).

A class is a number, 1 to 4, or an array of them. Covered are I-sections with two axes of symmetry,
rectangular and circular hollow sections.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.en1993.clauses import c5_5
from welbric.working import note

I_SHAPES = ("rolled I", "welded I")
BOX, ROUND = "rectangular tube", "round tube"
SHAPES = (*I_SHAPES, BOX, ROUND)


@once_per_case
def epsilon(case: MemberCase) -> Any:
    """Return the square root of 235 MPa over the yield strength."""
    return c5_5.epsilon(case.Fy)


def web(case: MemberCase) -> tuple[Any, Any]:
    """Return the flat width and the thickness of the web, or of one web of a box along its depth.

    Of hollow sections the width less three times the thickness (Table 5.2, note).
    """
    s = case.section
    if case.shape == BOX:
        return s.d - 3 * s.t, s.t
    return s.d - 2 * s.tf - 2 * _root(case), s.tw


def flange(case: MemberCase) -> tuple[Any, Any]:
    """Return the flat width and the thickness of an outstand, or of a wall across a box."""
    s = case.section
    if case.shape == BOX:
        return s.b - 3 * s.t, s.t
    return (s.bf - s.tw - 2 * _root(case)) / 2, s.tf


def _root(case: MemberCase) -> Any:
    return getattr(case.section, "r", 0.0) if case.shape == "rolled I" else 0.0


def _class_of(case: MemberCase, what: str, ratio: Any, limits: tuple[Any, Any, Any]) -> Any:
    """Return the class of a part, and say it in a working; limits belong to the better class."""
    found: Any = np.full(np.shape(ratio + sum(limits)), 4.0)
    for number in (3, 2, 1):
        found = np.where(ratio <= limits[number - 1] * (1 + 1e-9), float(number), found)
    if np.ndim(found) == 0 and case.single:
        shown = ", ".join(f"{float(limit):.1f}" for limit in limits)
        words = f"The {what} is of class {int(found)}: c/t = {float(ratio):.1f}, limits {shown}."
        said = case.cache.setdefault("said", set())
        if words not in said:
            said.add(words)
            note(words)
    return found if np.ndim(found) else float(found)


def _compressed(case: MemberCase, what: str, part: tuple[Any, Any], outstand: bool) -> Any:
    """Return the class of a part that is all in compression."""
    eps = epsilon(case)
    limits = c5_5.OUTSTAND if outstand else c5_5.COMPRESSED
    first, second, third = (limit * eps for limit in limits)
    return _class_of(case, what, c5_5.slenderness(*part), (first, second, third))


def _bent_web(case: MemberCase, what: str, part: tuple[Any, Any], N: Any, webs: int) -> Any:
    """Return the class of a web in bending beside an axial force, compression positive."""
    c, t = part
    alpha = c5_5.part_in_compression(N, c, t * webs, case.Fy)
    psi = c5_5.stress_ratio(N, case.section.A, case.Fy)
    return _class_of(case, what, c5_5.slenderness(c, t), c5_5.web_limits(alpha, psi, epsilon(case)))


def round_class(case: MemberCase) -> Any:
    """Return the class of a circular hollow section, whatever acts."""
    eps = epsilon(case)
    first, second, third = (limit * eps**2 for limit in c5_5.ROUND)
    ratio = c5_5.slenderness(case.section.d, case.section.t)
    return _class_of(case, "wall", ratio, (first, second, third))


def in_compression(case: MemberCase) -> Any:
    """Return the class in compression alone."""
    if case.shape == ROUND:
        return round_class(case)
    outstand = case.shape in I_SHAPES
    return np.maximum(
        _compressed(case, "flange" if outstand else "wall across", flange(case), outstand),
        _compressed(case, "web" if outstand else "wall along the depth", web(case), False),
    )


def in_bending(case: MemberCase, axis: str, N: Any = 0.0) -> Any:
    """Return the class in bending about an axis, beside an axial force, compression positive."""
    if case.shape == ROUND:
        return round_class(case)
    outstand = case.shape in I_SHAPES
    if outstand and axis == "minor":  # the tips in compression; the web at the neutral axis
        tips = _compressed(case, "flange", flange(case), True)
        web_too = _compressed(case, "web", web(case), False)
        return np.where(np.asarray(N) > 0, np.maximum(tips, web_too), tips)
    along, across = (web(case), flange(case)) if axis == "major" else (flange(case), web(case))
    what = ("web", "flange") if outstand else ("wall along the bending", "wall in compression")
    return np.maximum(
        _compressed(case, what[1], across, outstand),
        _bent_web(case, what[0], along, N, 1 if outstand else 2),
    )


def parts_in_compression(case: MemberCase) -> Iterator[tuple[Any, Any, int, bool]]:
    """Yield the parts of a section: flat width, thickness, how many, whether it stands out."""
    if case.shape in I_SHAPES:
        yield *flange(case), 4, True
        yield *web(case), 1, False
    elif case.shape == BOX:
        yield *flange(case), 2, False
        yield *web(case), 2, False
