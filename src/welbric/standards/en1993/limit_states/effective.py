"""6.2.2.5 and EN 1993-1-5, 4.4: what counts of sections of class 4."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import part_1_5
from welbric.standards.en1993.design import pick
from welbric.standards.en1993.parts import Part, parts, web
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given

ROUND = "the section is of class 4: a matter of EN 1993-1-6"
BENT = "the section is of class 4 in this bending, whose effective section is not covered"
SHIFTED = (
    "the section is of class 4 and not alike about its z axis: the moment of the shift of its axis "
    "(6.2.2.5(4)) is not covered"
)


def _reduction(case: MemberCase, part: Part, width: Any) -> Any:
    """Return rho of a part that is all in compression."""
    eps = classify.epsilon(case)
    if part.internal:
        return part_1_5.internal_reduction(part_1_5.plate_slenderness(width, part.t, eps, 4.0), 1.0)
    return part_1_5.outstand_reduction(part_1_5.plate_slenderness(width, part.t, eps, 0.43))


# Compression


def _lost(case: MemberCase) -> Iterator[tuple[Any, Any]]:
    """Yield what each part loses in compression: area, and its level from the centroid, upwards."""
    legs = case.shape in (shapes.ANGLE, shapes.PAIR)
    for part in parts(case):
        width = part.c
        if legs:  # 4.4(2): of angles the whole leg
            width = case.section.d if part.name == "upright leg" else case.section.b
        rho = np.maximum(_reduction(case, part, width), 0.0)
        lost = (1 - rho) * width
        start, end = part.levels("major", 1)
        level = (start + end) / 2
        if not part.internal:  # it loses its tip
            level = end + np.sign(start - end) * lost / 2
        yield part.count * lost * part.t, level


@once_per_case
def area(case: MemberCase) -> Any:
    """Return the area that counts in compression: of class 4 the effective one."""
    kind, A = classify.in_compression(case), case.section.A
    if not np.any(np.asarray(kind) == 4) or case.shape == shapes.ROUND:
        return A
    lost: Any = sum(area for area, _ in _lost(case))
    lost = given(GLOSSARY, "A_lost", lost if np.ndim(lost) else float(lost), "of all its parts")
    return pick(np.asarray(kind) == 4, part_1_5.effective_area(A, lost), A)


@once_per_case
def shift(case: MemberCase) -> Any:
    """Return e_N, from the effective area's axis up to where compression acts (6.2.2.5(4)).

    It is zero but in class 4 of sections that are not alike about the y axis.
    """
    slender = np.asarray(classify.in_compression(case)) == 4
    if case.shape not in shapes.BY_SENSE or not np.any(slender):
        return 0.0
    first: Any = sum(area * level for area, level in _lost(case))
    first = given(GLOSSARY, "S_lost", first if np.ndim(first) else float(first), "of all its parts")
    return pick(slender, part_1_5.shift_of_axis(first, area(case)), 0.0)


@once_per_case
def angle(case: MemberCase) -> dict[str, Any]:
    """Return the properties of an angle as it counts: in class 4 its legs without what they lose.

    Both lose what they do in compression alone, on the safe side in bending.
    """
    s = case.section
    names = ("A", "x", "y", "I_x", "I_y", "I_xy", "d", "b", "t")
    gross = {name: getattr(s, name) for name in names}
    slender = np.asarray(classify.in_compression(case)) == 4
    if not np.any(slender):
        return gross
    from welbric.sections.shapes import angle as of_legs

    legs = {}
    for part in parts(case):
        name = "d" if part.name == "upright leg" else "b"
        rho = np.clip(_reduction(case, part, gross[name]), 0.0, 1.0)
        legs[name] = np.maximum(rho * gross[name], 2 * s.t)
    sizes = [legs["d"], legs["b"], s.t, s.r, np.minimum(s.r_toe, s.t / 2)]
    flat = [np.ravel(np.broadcast_to(v, np.shape(s.d) or (1,))).astype(float) for v in sizes]
    found = of_legs(*flat)
    counts: dict[str, Any] = {name: np.reshape(found[name], np.shape(s.d)) for name in names}
    counts = {name: value if np.ndim(value) else float(value) for name, value in counts.items()}
    counts["A"] = area(case)
    return {name: pick(slender, counts[name], gross[name]) for name in names}


@once_per_case
def shift_minor(case: MemberCase) -> Any:
    """Return e_N about the z axis of a channel, from the axis of what counts towards its web.

    Positive where its web loses more than its toes; zero but in class 4.
    """
    slender = np.asarray(classify.in_compression(case)) == 4
    if case.shape not in shapes.CHANNELS or not np.any(slender):
        return 0.0
    area_lost, first, _ = _lost_across(case)
    first = given(GLOSSARY, "S_lost", first if np.ndim(first) else float(first), "across, of all")
    e_N = part_1_5.shift_of_axis(first, case.section.A - area_lost)
    return pick(slender, e_N, 0.0)


def _lost_across(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return what a channel loses in compression: area, and its moments about z, away from the web.

    First and second, of web and toes.
    """
    total: Any = 0.0
    first: Any = 0.0
    second: Any = 0.0
    for part in parts(case):
        lost = (1 - np.maximum(_reduction(case, part, part.c), 0.0)) * part.c
        area_lost = part.count * lost * part.t
        start, end = part.levels("minor", 1)
        if part.internal:
            level, own = (start + end) / 2, 0.0
        else:
            level, own = end + np.sign(start - end) * lost / 2, lost**2 / 12
        total, first = total + area_lost, first + area_lost * level
        second = second + area_lost * (level**2 + own)
    return total, first, second


def _of_channel_across(case: MemberCase) -> Any:
    """Return W_eff of a channel about z, without what web and toes lose in compression alone."""
    s = case.section
    lost, first, second = _lost_across(case)
    rest = s.A - lost
    e = first / rest
    I_eff = s.I_minor - second - rest * e**2
    toes, back = s.bf - s.x, s.x
    if case.single:
        given(GLOSSARY, "A_f", float(lost), "of the web and the toes")
        e = given(GLOSSARY, "z_eff", float(e), "away from the toes")
        I_eff = given(GLOSSARY, "I_eff", float(I_eff), "of what is left")
    return part_1_5.effective_modulus(I_eff, toes, back, e)


def compression_outside(case: MemberCase) -> tuple[Any, str]:
    """Return where the compression of a section is not covered, and why."""
    slender = np.asarray(classify.in_compression(case)) == 4
    if case.shape == shapes.ROUND:
        return slender, ROUND
    known = (*shapes.DOUBLY_SYMMETRIC, *shapes.BY_SENSE, shapes.ANGLE, *shapes.CHANNELS)
    if case.shape in known or case.one_leg is not None or not np.any(slender):
        return np.asarray(False), ""
    return slender & np.asarray(area(case) < case.section.A * (1 - 1e-9)), SHIFTED


# Bending


def modulus_covered(case: MemberCase, axis: str) -> bool:
    """Return whether the effective section of a shape in bending about an axis is covered."""
    if axis == "major":
        return case.shape not in (shapes.ANGLE, shapes.ROUND)
    return case.shape in (*shapes.I_SHAPES, *shapes.BOXES, *shapes.CHANNELS)


def modulus(case: MemberCase, axis: str, sense: int = 1) -> Any:
    """Return W_eff in bending alone (EN 1993-1-5, 4.4): first the flange loses, then the web."""
    if axis == "minor" and case.shape in shapes.I_SHAPES:
        return _without_tips(case)
    if axis == "minor" and case.shape in shapes.CHANNELS:
        return _of_channel_across(case)
    if case.shape in (*shapes.TEES, shapes.PAIR):
        return _of_stem(case, sense)
    s, eps = case.section, classify.epsilon(case)
    half = 2 if case.shape in shapes.LIKE_FLANGES or axis == "minor" else 1
    A_f: Any = 0.0
    z_f: Any = 0.0
    of_web = _along(case, axis)
    for part in parts(case):
        level, _ = part.levels(axis, sense)
        if part is of_web or not np.all(np.asarray(level) > 0):
            continue
        A_f = (1 - _reduction(case, part, part.c)) * part.c * part.t * (part.count / half)
        z_f = level
    if case.single:
        A_f = given(GLOSSARY, "A_f", float(A_f), "of the flange in compression")
        z_f = given(GLOSSARY, "z_f", float(z_f), "of that flange")
    start, end = of_web.levels(axis, sense)
    z_1 = np.maximum(start, end)
    z_1 = given(GLOSSARY, "z_1", z_1 if np.ndim(z_1) else float(z_1), "compressed end of the web")
    c, t = of_web.c, of_web.t
    if axis == "major":
        name, at, depth, I = "y", s.y, s.d, s.I_major
    else:
        name, at, depth, I = "x", s.x, s.b, s.I_minor
    middle = depth / 2 if case.shape == shapes.UNEQUAL_I and name == "y" else 0.0
    z_c, z_t = depth / 2 + sense * (middle - at), depth / 2 - sense * (middle - at)
    e = part_1_5.moved_by_flange(A_f, z_f, s.A)
    b_c = part_1_5.compressed_depth(z_1, e)
    psi = part_1_5.effective_stress_ratio(c, b_c)
    lambda_w = part_1_5.plate_slenderness(c, t, eps, part_1_5.buckling_factor(psi))
    rho = part_1_5.internal_reduction(lambda_w, psi)
    A_w = part_1_5.lost_of_web(rho, b_c, t * of_web.count)
    z_w = part_1_5.place_of_loss(b_c, e, rho)
    z_eff = part_1_5.effective_axis(A_f, z_f, A_w, z_w, s.A)
    I_eff = part_1_5.effective_inertia(I, s.A, A_f, z_f, A_w, z_w, rho, b_c, z_eff)
    found = part_1_5.effective_modulus(I_eff, z_c, z_t, z_eff)
    # A web all in compression has other factors, which are not covered.
    return pick(np.asarray(b_c) <= c, found, np.nan)


def _of_stem(case: MemberCase, sense: int) -> Any:
    """Return W_eff of a tee: its flange is compressed, or the tip of its stem, which is lost.

    NaN where the stem would buckle beside a compressed flange.
    """
    s, stem = case.section, web(case)
    compressed, tense = (s.d - s.y, s.y) if sense > 0 else (s.y, s.d - s.y)
    if sense > 0:
        flange = next(part for part in parts(case) if part is not stem)
        lost = (1 - _reduction(case, flange, flange.c)) * flange.c
        A_f, z_f, width = lost * flange.t * flange.count, flange.start[1], 0.0 * lost
        beside = classify.stem_class(case)
        A_f = pick(np.asarray(beside) == 4, np.nan, A_f)
        A_f = A_f if np.ndim(A_f) else float(A_f)
    else:
        tip, root = sense * stem.end[1], sense * stem.start[1]
        psi = root / tip
        k_sigma = part_1_5.buckling_factor_of_tip(np.maximum(psi, -3.0))
        lambda_p = part_1_5.plate_slenderness(stem.c, stem.t, classify.epsilon(case), k_sigma)
        rho = np.maximum(part_1_5.outstand_reduction(lambda_p), 0.0)
        width = (1 - rho) * np.minimum(tip, stem.c)  # of what is in compression
        A_f, z_f = width * stem.t * stem.count, tip - width / 2
    if case.single:
        A_f = given(GLOSSARY, "A_f", float(A_f), "of what is compressed")
        z_f = given(GLOSSARY, "z_f", float(z_f), "of what is lost")
    z_eff = part_1_5.moved_by_flange(A_f, z_f, s.A)
    I_eff = s.I_major - A_f * (z_f**2 + width**2 / 12) - (s.A - A_f) * z_eff**2
    I_eff = given(GLOSSARY, "I_eff", I_eff if np.ndim(I_eff) else float(I_eff), "of what is left")
    return part_1_5.effective_modulus(I_eff, compressed, tense, z_eff)


def _along(case: MemberCase, axis: str) -> Part:
    """Return what spans from the compressed side to the other: a web, or the walls across."""
    if axis == "major":
        return web(case)
    across: Part = next(part for part in parts(case) if part.name == "wall across")
    return across


def _without_tips(case: MemberCase) -> Any:
    """Return W_eff about the z axis of an I: the compressed tips of its flanges are lost."""
    s, eps = case.section, classify.epsilon(case)
    A_f: Any = 0.0
    first: Any = 0.0
    second: Any = 0.0
    for part in parts(case):
        if part.internal:
            continue
        root, tip = part.levels("minor", 1)
        psi = root / tip
        k_sigma = part_1_5.buckling_factor_of_tip(psi)
        rho = part_1_5.outstand_reduction(part_1_5.plate_slenderness(part.c, part.t, eps, k_sigma))
        lost = (1 - rho) * part.c
        area = lost * part.t * (part.count / 2)
        A_f = A_f + area
        first = first + area * (tip - lost / 2)
        second = second + area * ((tip - lost / 2) ** 2 + lost**2 / 12)
    half = np.maximum(s.bf_top, s.bf_bottom) / 2 if case.shape == shapes.UNEQUAL_I else s.bf / 2
    half = half if np.ndim(half) else float(half)
    rest = s.A - A_f
    z_eff = first / rest
    I_eff = s.I_minor - second - rest * z_eff**2
    if case.single:
        given(GLOSSARY, "A_f", float(A_f), "of the compressed tips")
        z_eff = given(GLOSSARY, "z_eff", float(z_eff), "towards the other tips")
        I_eff = given(GLOSSARY, "I_eff", float(I_eff), "without those tips")
    return part_1_5.effective_modulus(I_eff, half, half, z_eff)
