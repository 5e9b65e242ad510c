"""Effects along members, reduced to their segments: what every standard's demands are made of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import first_largest, largest_within
from welbric.standards.case import MemberCase

Indices = NDArray[np.intp]


def compressing(case: MemberCase, top: Any, bottom: Any, either: Any) -> Any:
    """Return what compresses the flange of each segment, (S, C, G).

    Of what compresses the top, what compresses the bottom, and where both flanges are held alike.
    """
    both = np.asarray(case.segments.both)
    return np.where(both, either, np.where(case.segments.top, top, bottom))


def within(case: MemberCase, values: Any) -> Any:
    """Return the largest in each segment of what is given at stations, (S, C, G)."""
    return largest_within(np.asarray(values), case.segments.first, case.segments.last)


def largest(case: MemberCase, values: Any) -> Any:
    """Return the largest in each segment of what is given at stations, at least zero."""
    if not np.any(values):
        return np.zeros((1, 1, 1))
    return within(case, values).clip(min=0.0)


def of_member(values: Any) -> Any:
    """Return the largest along the whole member, at least zero."""
    return np.maximum(values.max(axis=-1), 0.0)[..., None]


def at_quarters(case: MemberCase, values: Any) -> Any:
    """Return values at the quarter points of each segment, the larger side, (S, C, G, 3)."""
    stations = np.asarray(case.segments.quarters)
    inner = stations.shape[2:]
    where = np.broadcast_to(stations, (*values.shape[:2], *inner))
    found = np.take_along_axis(values, where.reshape(*values.shape[:2], -1), axis=-1)
    return found.reshape(*values.shape[:2], *inner).max(axis=-1)


def at_each(values: Any, stations: Any) -> Any:
    """Return values at one station of each segment, (S or 1, C or 1, G): shape (S, C, G)."""
    where = np.broadcast_to(stations, (*values.shape[:2], np.shape(stations)[-1]))
    return np.take_along_axis(values, where, axis=-1)


@dataclass(frozen=True)
class Where:
    """One combination and one segment of each of some members: the number of each, shape (n,).

    ``shape`` is that of all of them: members, combinations, segments.
    """

    members: Indices
    combinations: Indices
    segments: Indices
    shape: tuple[int, ...]

    def of(self, values: Any) -> Any:
        """Return values of members, combinations and segments, any of them one for all, there."""
        at = (self.members, self.combinations, self.segments)
        return np.broadcast_to(values, self.shape)[at]

    def along(self, values: Any) -> Any:
        """Return values at stations, (S or 1, C or 1, X), there: shape (n, X)."""
        shape = (*self.shape[:2], np.shape(values)[-1])
        return np.broadcast_to(values, shape)[self.members, self.combinations]

    def compressing(self, case: MemberCase, M: Any) -> Any:
        """Return moments at stations, positive where they compress the segment's flange."""
        top, both = (self.of(flag)[:, None] for flag in (case.segments.top, case.segments.both))
        M = self.along(M)
        return np.where(both, np.abs(M), np.where(top, M, -M))

    def largest(self, case: MemberCase, values: Any, whole: bool = False) -> Any:
        """Return where values (n, X) are largest in each segment, or along the whole member; mm."""
        at = (self.members, self.combinations)
        if not whole:
            first, last = (self.of(of)[:, None] for of in (case.segments.first, case.segments.last))
            number = np.arange(values.shape[-1])
            values = np.where((number >= first) & (number <= last), values, -np.inf)
        x = np.broadcast_to(case.effects.x, (*self.shape[:2], np.shape(values)[-1]))
        return x[(*at, first_largest(values))]
