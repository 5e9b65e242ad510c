"""5.5: classes of cross-sections, for the forces of each combination (Table 5.2).

A class is a number, 1 to 4, or an array of them. A part is looked at with the stresses at its ends:
at full plasticity for classes 1 and 2, with its compressed end at yield for class 3. A sense is 1
where the top, or the right, is compressed, else -1.
"""

from __future__ import annotations

import contextlib
import functools
from typing import Any

import numpy as np

from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.en1993 import shapes
from welbric.standards.en1993.clauses import c5_5
from welbric.standards.en1993.design import pick
from welbric.standards.en1993.options import member_class
from welbric.standards.en1993.parts import Part, parts, web
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, note, unrecorded

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
    return _under(case, N, 1.0 if axis == "major" else 0.0, sense)


def together(case: MemberCase, N: Any, M_y: Any, M_z: Any, sense: int = 1) -> Any:
    """Return the class under forces that act together; compression positive, moments magnitudes.

    Beside the axial force both moments bring a section to yield in the ratio that they have. Where
    none acts it is that of the compression, and 1 where nothing compresses.
    """
    s = case.section
    by_y, by_z = M_y / s.Wel_major, M_z / s.Wel_minor
    bent = np.asarray(by_y + by_z) > 0
    if np.ndim(by_y + by_z + N) == 0:
        if not bent:
            return in_compression(case) if np.all(np.asarray(N) > 0) else 1.0
        source = "My,Ed/Wel,y of My,Ed/Wel,y + Mz,Ed/Wel,z"
        share = given(GLOSSARY, "nu_y", by_y / (by_y + by_z), source)
        return _under(case, N, float(share), sense)
    share = by_y / np.where(bent, by_y + by_z, 1.0)
    found = _under(case, N, share, sense)
    alone = np.where(np.asarray(N) > 0, in_compression(case), 1.0)
    return np.where(bent, found, alone)


def _under(case: MemberCase, N: Any, nu_y: Any, sense: int) -> Any:
    """Return the class where bending about the y axis has a share nu_y of the stress of both."""
    if case.shape in shapes.BARS:
        return 1.0
    if case.shape == shapes.ROUND:
        return _own(case, round_class(case))
    if case.shape == shapes.ANGLE:
        return _own(case, _worst([_compressed(case, part) for part in parts(case)]))
    # About the z axis of a channel either sense may act.
    either = (1, -1) if case.shape in shapes.CHANNELS and np.any(np.asarray(nu_y) < 1) else (1,)
    found = [
        _part_under(case, part, N, nu_y, sense, side) for part in parts(case) for side in either
    ]
    return _own(case, _worst(found))


def class_beside_web(case: MemberCase, sense: int = 1) -> Any:
    """Return the class of all parts but the web, in bending about the y axis alone."""
    of_web = web(case)
    others = [one for one in parts(case) if one is not of_web]
    return _worst([_part_under(case, one, 0.0, 1.0, sense, 1) for one in others])


def stem_class(case: MemberCase) -> Any:
    """Return the class of a tee's stem beside a flange in compression, in bending alone."""
    return _part_under(case, web(case), 0.0, 1.0, 1, 1)


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


def _extent(case: MemberCase, axis: str, sense: int) -> Any:
    """Return how far the parts of a section reach on the compressed side of an axis, mm."""
    return functools.reduce(np.maximum, (v for one in parts(case) for v in one.levels(axis, sense)))


def _part_under(case: MemberCase, part: Part, N: Any, nu_y: Any, sense: int, side: int) -> Any:
    """Return the class of a part in bending beside an axial force, compression positive.

    Its ends have the stress of the axial force and, at the compressed edge, what is left to yield,
    shared by both moments. Where the part itself has less than half of the yield stress, limits
    are those of that stress (5.5.2(9)): what a part hardly has of a force does not put it into
    a worse class.
    """
    s, slack = case.section, TRACE * case.section.surface
    of_y, of_z = part.levels("major", sense), part.levels("minor", side)
    upright = bool(np.any(np.abs(of_y[0] - of_y[1]) > slack))
    along, across = (of_y, of_z) if upright else (of_z, of_y)
    axis, other, turn = ("major", "minor", sense) if upright else ("minor", "major", side)
    nu_a = nu_y if upright else 1.0 - nu_y
    nu_b = 1.0 - nu_a
    start, end = along
    high, low = _plain(np.maximum(start, end)), _plain(np.minimum(start, end))
    # Levels over that of the part's compressed end, or where it has none of the section's edge.
    edge = _plain(np.where(np.asarray(high) > slack, high, _extent(case, axis, turn)))
    r_1, r_2 = high / edge, low / edge
    level = _plain(np.asarray(across[0]))
    reach = _extent(case, other, side if upright else sense)
    r_b = np.where(np.asarray(level) > slack, 1.0, np.minimum(level, 0.0) / reach)
    r_b = _plain(np.where(np.abs(level) <= slack, 0.0, r_b))
    n = _plain(np.minimum(N / (s.A * case.Fy), 1.0))
    one = case.single and np.ndim(n + nu_y) == 0
    both = one and 0 < nu_a < 1
    with contextlib.nullcontext() if both else unrecorded():
        if both:
            n = given(GLOSSARY, "n", n, f"the {part.name} under these forces")
        sigma_1 = c5_5.stress_of_compressed_edge(n, nu_a, r_1, nu_b, r_b)
        sigma_2 = c5_5.stress_of_other_edge(n, nu_a, r_2, nu_b, r_b)
        pressed = np.asarray(sigma_1) > TRACE
        safe = _plain(np.where(pressed, sigma_1, 1.0))
        other_edge = _plain(np.where(pressed, sigma_2, 1.0))
        psi = c5_5.ratio_of_edges(safe, other_edge) if np.any(pressed) else 1.0
    eps = epsilon(case)
    if one:
        if not pressed:
            return 1.0
        if safe < 0.5:
            eps = c5_5.epsilon_by_stress(eps, safe)
    else:
        eps = c5_5.epsilon_by_stress(eps, np.maximum(safe, TRACE))
    if one and nu_a == 1:
        psi = _ratio_beside_force(case, part, N, high, low, psi)
    alpha = _in_compression_at_yield(case, part, N, axis, turn, high) if np.any(nu_a) else 1.0
    # What both edges have alike moves the axis of the other bending.
    alike, slope = nu_b * (np.maximum(r_b, 0.0) + np.maximum(n, 0.0)), nu_a * (r_1 - r_2)
    moved = alike / np.where(np.asarray(slope) > 0, slope, 1.0)
    shifted = np.where(np.asarray(slope) > 0, np.minimum(alpha + moved, 1.0), 1.0)
    shifted = _plain(np.where(psi >= 1.0, 1.0, shifted))
    if one and shifted != alpha and nu_a:
        given(GLOSSARY, "alpha", shifted, "with the other moment")
    alpha = shifted
    if part.internal:
        limits = c5_5.web_limits(alpha, psi, eps)
    else:
        tip = bool(np.all(np.asarray(end) >= np.asarray(start)))
        first, second, third = c5_5.outstand_limits(alpha, psi, eps, tip)
        limits = first, second, np.maximum(third, c5_5.OUTSTAND[2] * eps)
    found = _class_of(case, part.name, c5_5.slenderness(part.c, part.t), limits)
    return found if np.all(pressed) else pick(pressed, found, 1.0)


def _in_compression_at_yield(
    case: MemberCase, part: Part, N: Any, axis: str, sense: int, high: Any
) -> Any:
    """Return alpha of a part in bending about one axis beside an axial force."""
    s = case.section
    walls = part.t * (1 if case.shape not in (*shapes.BOXES, shapes.PAIR) else 2)
    if _goes_by_middle(case, axis):
        return c5_5.part_in_compression(N, part.c, walls, case.Fy)
    name = "plastic_y" if axis == "major" else "plastic_x"
    plastic = sense * (getattr(s, name) - getattr(s, name[-1]))
    if case.single and np.ndim(N) == 0:
        given(GLOSSARY, "z_1", float(high), f"compressed end of the {part.name}")
        plastic = given(GLOSSARY, "z_pl", float(plastic), "plastic neutral axis")
    return c5_5.part_beyond_plastic_axis(N, high, plastic, part.c, walls, case.Fy)


def _goes_by_middle(case: MemberCase, axis: str) -> bool:
    """Return whether a part reaches as far to one side of an axis as to the other."""
    return (case.shape in shapes.LIKE_FLANGES and axis == "major") or case.shape in shapes.BOXES


def _ratio_beside_force(case: MemberCase, part: Part, N: Any, high: Any, low: Any, psi: Any) -> Any:
    """Return psi of a part in bending about one axis alone, as its working has it."""
    s = case.section
    if abs(high + low) <= TRACE * s.surface:
        return c5_5.stress_ratio(N, s.A, case.Fy)
    if high <= TRACE * s.surface:
        return given(GLOSSARY, "psi", float(psi), "by the axial force")
    z_1 = given(GLOSSARY, "z_1", float(high), f"compressed end of the {part.name}")
    z_2 = given(GLOSSARY, "z_2", float(low), f"other end of the {part.name}")
    return c5_5.stress_ratio_of(N, s.A, case.Fy, z_1, z_2)


def _plain(value: Any) -> Any:
    return value if np.ndim(value) else float(value)
