"""Many members as one case: those that are alike but for their numbers, padded to one size.

The first axis of every array is the member. Stations, combinations and segments that a member has
not got hold zeros and belong to no segment; what is found there is not looked at.
"""

from __future__ import annotations

import functools
from collections.abc import Hashable, Sequence
from dataclasses import fields, replace
from typing import Any

import numpy as np

from welbric.sections.table import SectionAxis
from welbric.standards.case import Effects, MemberCase, Segments

NUMBERS = ("Fy", "Fu", "nominal", "connectors", "length")
# Parts of plain values, and which of those are numbers of each member.
PLAIN = {
    "buckling": ("length_major", "length_minor", "length_torsion", "K_major", "K_minor",
                 "K_torsion", "lateral_offset"),
    "ends": ("net_area", "shear_lag"),
}  # fmt: skip
BY_SEGMENT = ("moment_shape", "peak_held")  # a number, or one for each combination and segment
PARTS = ("section", "effects", "segments", "cache", "reduced", "single", *PLAIN)
FORCES = ("N", "V_major", "M_major", "V_minor", "M_minor", "T")
PARTS_OF = ("parts_major", "parts_minor")
FLAGS = ("free_tip", "tip_first", "top", "both", "other_held")


def alike(case: MemberCase) -> Hashable:
    """Return what cases have in common that can be stacked."""
    varies = [getattr(case, name) for name in BY_SEGMENT]
    return (
        _plain(case, (*NUMBERS, *BY_SEGMENT, *PARTS), NUMBERS),
        *(_plain(getattr(case, part), names, names) for part, names in PLAIN.items()),
        tuple("array" if np.ndim(value) else value for value in varies),
        frozenset(case.section.properties),
    )


def _plain(part: Any, without: tuple[str, ...], numbers: Sequence[str]) -> Hashable:
    """Return the values of a part but for its numbers, and which of those there are."""
    same = tuple([getattr(part, name) for name in _names(part.__class__, without)])
    return same, tuple([getattr(part, name) is None for name in numbers])


@functools.cache
def _names(part: type, without: tuple[str, ...]) -> list[str]:
    return [f.name for f in fields(part) if f.name not in without]


def _parts(values: Sequence[Any]) -> Any:
    """Return the lengths between holds of each member, padded by those of no length."""
    found = np.zeros((len(values), max(map(len, values)), 2))
    for row, value in zip(found, values, strict=True):
        row[: len(value)] = value
    return found


def size(case: MemberCase) -> tuple[int, int, int]:
    """Return the numbers of segments, stations and combinations of a member."""
    _, combinations, stations = np.shape(case.effects.N)
    return len(case.segments.unbraced), stations, combinations


def stacked(cases: Sequence[MemberCase]) -> MemberCase:
    """Return members that are alike as one case."""
    G, X, C = (max(sizes) for sizes in zip(*map(size, cases), strict=True))
    first = cases[0]

    def numbers(values: Sequence[Any]) -> Any:
        return np.array(values, dtype=float).reshape(-1, 1, 1)

    def padded(values: Sequence[Any], *shape: int, edge: bool = False) -> Any:
        """Return arrays of each member one under another, each of up to that shape."""
        found = np.zeros((len(values), *shape), dtype=np.asarray(values[0]).dtype)
        for row, value in zip(found, values, strict=True):
            array = np.asarray(value)
            row[tuple(slice(n) for n in array.shape)] = array
            if edge:
                row[..., array.shape[-1] :] = row[..., array.shape[-1] - 1, None]
        return found

    section = SectionAxis({
        name: numbers([case.section.properties[name] for case in cases])
        for name in first.section.properties
    })  # fmt: skip
    # The last station stands for those beyond it, as the end of the member.
    forces = {
        name: padded([getattr(case.effects, name)[0] for case in cases], C, X, edge=True)
        for name in FORCES
    }
    effects = Effects(
        padded([case.effects.x[0] for case in cases], C, X, edge=True),
        **forces,
        **{name: _parts([getattr(case.effects, name)[0] for case in cases]) for name in PARTS_OF},
    )
    parts = [case.segments for case in cases]
    segments = Segments(
        padded([part.unbraced for part in parts], G)[:, None],
        **{name: padded([getattr(one, name) for one in parts], G)[:, None] for name in FLAGS},
        first=padded([part.first[0] for part in parts], C, G),
        last=padded([part.last[0] for part in parts], C, G),
        quarters=padded([part.quarters[0] for part in parts], C, G, 3, 2),
    )
    own: dict[str, Any] = {
        f.name: getattr(first, f.name) for f in fields(first) if f.name not in PARTS
    }
    for name in NUMBERS:
        if getattr(first, name) is not None:
            own[name] = numbers([getattr(case, name) for case in cases])
    for part, names in PLAIN.items():
        of = getattr(first, part)
        known = [name for name in names if getattr(of, name) is not None]
        own[part] = replace(of, **{
            name: numbers([getattr(getattr(case, part), name) for case in cases])
            for name in known
        })  # fmt: skip
    for name in BY_SEGMENT:
        if np.ndim(getattr(first, name)):
            own[name] = padded([getattr(case, name)[0] for case in cases], C, G)
    return MemberCase(section=section, effects=effects, segments=segments, **own)
