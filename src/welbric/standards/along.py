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
    return np.where(case.segments.inside, values[:, :, None], 0.0).max(axis=-1).clip(min=0.0)


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


def ends_and_middle(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return the stations at start, middle and end of each segment, shape (S or 1, C or 1, G)."""
    inside = np.asarray(case.segments.inside)
    last = inside.shape[-1] - 1 - inside[..., ::-1].argmax(axis=-1)
    return inside.argmax(axis=-1), np.asarray(case.segments.quarters)[..., 1, 0], last


def at_each(values: Any, stations: Any) -> Any:
    """Return values (S, C, G, X) at one station of each segment, (S or 1, C or 1, G)."""
    where = np.broadcast_to(stations, values.shape[:3])[..., None]
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
        at = (self.members, self.combinations)
        if not whole:
            inside = np.asarray(case.segments.inside)
            each = np.broadcast_to(inside, (*self.shape[:2], *inside.shape[2:]))
            values = np.where(each[(*at, self.segments)], values, -np.inf)
        x = np.broadcast_to(case.effects.x, (*self.shape[:2], np.shape(values)[-1]))
        return x[(*at, first_largest(values))]
