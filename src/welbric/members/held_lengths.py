"""The lengths of a member between what holds it against bending about an axis."""

from __future__ import annotations

import itertools
from typing import Any

import numpy as np

from welbric.members.design_member import DesignMember, once

NEARLY = 1e-3  # of a length: how far parts of a span may be from equal ones


@once
def held_lengths(member: DesignMember, axis: str) -> tuple[tuple[float, float], ...] | None:
    """Return the start and the end of each length between what holds a member about an axis, mm.

    These are its spans; where a buckling length is given that divides them, equal parts of them.
    None where it does not: what holds the member then stands at places that are not known.
    """
    given = getattr(member.said.buckling, f"{axis}_length")
    found: list[tuple[float, float]] = []
    for start, end in member.span_lengths(axis):
        parts = max((end - start) / given, 1.0) if given else 1.0
        count = round(parts)
        if abs(parts - count) > NEARLY * count:
            return None
        stops = np.linspace(start, end, count + 1)
        found += [(float(a), float(b)) for a, b in itertools.pairwise(stops)]
    return tuple(found)


def as_shares(member: DesignMember, axis: str) -> Any:
    """Return those lengths as shares of the member's, shape (1, P, 2); NaN where not known."""
    found = held_lengths(member, axis)
    shares = [(np.nan, np.nan)] if found is None else found
    return np.array([shares]) / (1.0 if found is None else member.length)


def quarter_points(member: DesignMember) -> tuple[float, ...]:
    """Return the quarter points of those lengths, about both axes, where they are not the whole."""
    places: set[float] = set()
    for axis in ("major", "minor"):
        found = held_lengths(member, axis) or ()
        if len(found) > 1:
            places |= {float(x) for a, b in found for x in np.linspace(a, b, 5)}
    return tuple(sorted(places))
