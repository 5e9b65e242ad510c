"""5.5: classes of cross-sections, for the forces of each combination (Table 5.2).

A class is a number, 1 to 4, or an array of them. A part is looked at with the stresses at its ends:
at full plasticity for classes 1 and 2, with its compressed end at yield for class 3. A sense is 1
where the top, or the right, is compressed, else -1.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.clauses import c5_5
from welbric.standards.en1993.design import pick
from welbric.standards.en1993.options import member_class
from welbric.standards.en1993.parts import Part, parts, web
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, note

TRACE = 1e-9


@once_per_case
def epsilon(case: MemberCase) -> Any:
    """Return the square root of 235 MPa over the yield strength."""
    return c5_5.epsilon(case.Fy)


def _class_of(case: MemberCase, what: str, ratio: Any, limits: tuple[Any, Any, Any]) -> Any:
    """Return the class of a part, and say it in a working; limits belong to the better class."""
    found: Any = np.full(np.shape(ratio + sum(limits)), 4.0)
    for number in (3, 2, 1):
        found = np.where(ratio <= limits[number - 1] * (1 + TRACE), float(number), found)
    if np.ndim(found) == 0 and case.single:
        shown = ", ".join(f"{float(limit):.1f}" for limit in limits)
        words = f"The {what} is of class {int(found)}: c/t = {float(ratio):.1f}, limits {shown}."
        said = case.cache.setdefault("said", set())
        if words not in said:
            said.add(words)
            note(words)
    return found if np.ndim(found) else float(found)


def _compressed(case: MemberCase, part: Part) -> Any:
    """Return the class of a part that is all in compression."""
    eps = epsilon(case)
    limits = c5_5.COMPRESSED if part.internal else c5_5.OUTSTAND
    first, second, third = (limit * eps for limit in limits)
    return _class_of(case, part.name, c5_5.slenderness(part.c, part.t), (first, second, third))


def round_class(case: MemberCase) -> Any:
    """Return the class of a circular hollow section, whatever acts."""
    eps = epsilon(case)
    first, second, third = (limit * eps**2 for limit in c5_5.ROUND)
    ratio = c5_5.slenderness(case.section.d, case.section.t)
    return _class_of(case, "wall", ratio, (first, second, third))


def _leg_class(case: MemberCase) -> Any:
    """Return the class of legs in compression: 3, or 4 (Table 5.2, angles, both conditions)."""
    s, eps = case.section, epsilon(case)
    longer = np.maximum(s.d, s.b)
    one = c5_5.leg_slenderness(longer if np.ndim(longer) else float(longer), s.t)
    both = c5_5.legs_slenderness(s.b, s.d, s.t)
    first, second = (limit * eps for limit in c5_5.ANGLE)
    stocky = (one <= first * (1 + TRACE)) & (both <= second * (1 + TRACE))
    found = pick(np.asarray(stocky), 3.0, 4.0)
    if case.single:
        note(
            f"The legs are of class {int(found)}: h/t = {float(one):.1f}, limit "
            f"{float(first):.1f}; (b + h)/2t = {float(both):.1f}, limit {float(second):.1f}."
        )
    return found


@once_per_case
def in_compression(case: MemberCase) -> Any:
    """Return the class in compression alone."""
    if case.shape in shapes.BARS:
        return 1.0
    if case.shape == shapes.ROUND:
        return _own(case, round_class(case))
    if case.shape in (shapes.ANGLE, shapes.PAIR):
        return _own(case, _leg_class(case))
    return _own(case, _worst([_compressed(case, part) for part in parts(case)]))


def in_bending(case: MemberCase, axis: str, N: Any = 0.0, sense: int = 1) -> Any:
    """Return the class in bending about an axis, beside an axial force, compression positive."""
    if case.shape in shapes.BARS:
        return 1.0
    if case.shape == shapes.ROUND:
        return _own(case, round_class(case))
    if axis == "minor" and case.shape in shapes.CHANNELS:  # either sense may act
        found = [_of_sense(case, axis, N, one) for one in (1, -1)]
        return _own(case, _worst(found))
    if case.shape == shapes.ANGLE:
        return _own(case, _worst([_compressed(case, part) for part in parts(case)]))
    return _own(case, _of_sense(case, axis, N, sense))


def class_beside_web(case: MemberCase, sense: int = 1) -> Any:
    """Return the class of all parts but the web, in bending about the y axis alone."""
    of_web = web(case)
    others = [one for one in parts(case) if one is not of_web]
    return _worst([_bent(case, one, "major", 0.0, sense) for one in others])


def stem_class(case: MemberCase) -> Any:
    """Return the class of a tee's stem beside a flange in compression, in bending alone."""
    return _bent(case, web(case), "major", 0.0, 1)


def _own(case: MemberCase, found: Any) -> Any:
    """Return the class, or the one that the designer gives where that is worse."""
    least = member_class(case.member_options)
    if least is None:
        return found
    if case.single and float(found) < least:
        said = case.cache.setdefault("said", set())
        words = f"Class {least} is given; by Table 5.2 it is {int(found)}."
        if words not in said:
            said.add(words)
            note(words)
    return np.maximum(found, float(least)) if np.ndim(found) else max(found, float(least))


def _worst(found: list[Any]) -> Any:
    worst: Any = 1.0
    for one in found:
        worst = np.maximum(worst, one)
    return worst if np.ndim(worst) else float(worst)


def _of_sense(case: MemberCase, axis: str, N: Any, sense: int) -> Any:
    closed = case.shape in shapes.BOXES
    # About the z axis of an open shape an axial force presses every part, on the safe side.
    plain = axis == "minor" and not closed
    found = []
    for part in parts(case):
        pressed = np.asarray(N) > 0
        if plain:
            bent = _bent(case, part, axis, 0.0, sense)
            if np.any(pressed):
                bent = pick(pressed, _compressed(case, part), bent)
        else:
            bent = _bent(case, part, axis, N, sense)
        found.append(bent)
    return _worst(found)


def _bent(case: MemberCase, part: Part, axis: str, N: Any, sense: int) -> Any:
    """Return the class of a part in bending beside an axial force, compression positive."""
    start, end = part.levels(axis, sense)
    s = case.section
    slack = TRACE * s.surface
    if not np.any(np.abs(start - end) > slack):  # it lies along the axis
        if np.all(start > slack):
            return _compressed(case, part)
        pressed = np.asarray(N) > 0
        return pick(pressed, _compressed(case, part), 1.0) if np.any(pressed) else 1.0
    high: Any = np.maximum(start, end)
    low: Any = np.minimum(start, end)
    high, low = (v if np.ndim(v) else float(v) for v in (high, low))
    name = "plastic_y" if axis == "major" else "plastic_x"
    plastic = sense * (getattr(s, name) - getattr(s, name[-1]))
    walls = part.t * (1 if case.shape not in (*shapes.BOXES, shapes.PAIR) else 2)
    if (case.shape in shapes.LIKE_FLANGES and axis == "major") or case.shape in shapes.BOXES:
        alpha = c5_5.part_in_compression(N, part.c, walls, case.Fy)
        psi = c5_5.stress_ratio(N, s.A, case.Fy)
        tension: Any = np.asarray(False)
    else:
        if case.single:
            given(GLOSSARY, "z_1", float(high), f"compressed end of the {part.name}")
            given(GLOSSARY, "z_2", float(low), f"other end of the {part.name}")
            given(GLOSSARY, "z_pl", float(plastic), "plastic neutral axis")
        alpha = c5_5.part_beyond_plastic_axis(N, high, plastic, part.c, walls, case.Fy)
        above = np.where(np.asarray(high) > slack, high, np.abs(low) + 1.0)
        above = above if np.ndim(above) else float(above)
        psi = c5_5.stress_ratio_of(N, s.A, case.Fy, above, low)
        # Beyond the axis, and not pressed at full plasticity either: in tension.
        tension = (np.asarray(high) <= slack) & (np.asarray(N) <= 0)
        psi = pick((np.asarray(high) <= slack) & (np.asarray(N) > 0), 1.0, psi)
        psi = psi if np.ndim(psi) else float(psi)
    eps = epsilon(case)
    ratio = c5_5.slenderness(part.c, part.t)
    if part.internal:
        limits = c5_5.web_limits(alpha, psi, eps)
    else:
        tip = bool(np.all(np.asarray(end) > np.asarray(start)))
        limits = c5_5.outstand_limits(alpha, psi, eps, tip)
    found = _class_of(case, part.name, ratio, limits)
    return pick(tension, 1.0, found) if np.any(tension) else found
