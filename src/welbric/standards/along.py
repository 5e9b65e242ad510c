"""Effects along members, reduced to their segments: what every standard's demands are made of."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import first_largest
from welbric.standards.case import MemberCase

Indices = NDArray[np.intp]


def compressing(case: MemberCase, M: Any) -> Any:
    """Return moments at stations, positive where they compress a segment's flange."""
    top, both = (np.asarray(flag)[..., None] for flag in (case.segments.top, case.segments.both))
    return _compressing(np.asarray(M)[:, :, None], top, both)


def _compressing(M: Any, top: Any, both: Any) -> Any:
    return np.where(both, np.abs(M), np.where(top, M, -M))


def largest(case: MemberCase, values: Any) -> Any:
    """Return the largest in each segment of what is given at stations, at least zero."""
    if not np.any(values):
        return np.zeros((1, 1, 1))
    inside = np.asarray(case.segments.inside)[:, None]
    return np.where(inside, values[:, :, None], 0.0).max(axis=-1).clip(min=0.0)


def of_member(values: Any) -> Any:
    """Return the largest along the whole member, at least zero."""
    return np.maximum(values.max(axis=-1), 0.0)[..., None]


def at_quarters(case: MemberCase, values: Any) -> Any:
    """Return values at the quarter points of each segment, the larger side, (S, C, G, 3)."""
    count = np.asarray(case.segments.inside).shape[1]
    stations = np.asarray(case.segments.quarters)
    found = _at(values, stations.reshape(len(stations), -1))
    return found.reshape(*found.shape[:2], count, 3, 2).max(axis=-1)


def _at(values: Any, stations: Any) -> Any:
    """Return values (S, C, X) at stations (S or 1, n) of each member, shape (S, C, n)."""
    where = np.broadcast_to(stations[:, None], (*values.shape[:2], stations.shape[-1]))
    return np.take_along_axis(values, where, axis=-1)


def ends_and_middle(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return the stations at the start, the middle and the end of each segment, (S or 1, G)."""
    inside = np.asarray(case.segments.inside)
    last = inside.shape[-1] - 1 - inside[..., ::-1].argmax(axis=-1)
    return inside.argmax(axis=-1), np.asarray(case.segments.quarters)[:, :, 1, 0], last


def at_each(values: Any, stations: Any) -> Any:
    """Return values (S, C, G, X) at one station of each segment, (S or 1, G)."""
    where = np.broadcast_to(stations[:, None], values.shape[:3])[..., None]
    return np.take_along_axis(values, where, axis=-1)[..., 0]


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
        return _compressing(self.along(M), top, both)

    def largest(self, case: MemberCase, values: Any, whole: bool = False) -> Any:
        """Return where values (n, X) are largest in each segment, or along the whole member; mm."""
        if not whole:
            inside = np.asarray(case.segments.inside)
            each = np.broadcast_to(inside, (self.shape[0], *inside.shape[1:]))
            values = np.where(each[self.members, self.segments], values, -np.inf)
        x = np.broadcast_to(case.effects.x, (self.shape[0], np.shape(values)[-1]))
        return x[self.members, first_largest(values)]
