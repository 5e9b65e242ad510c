"""Effects along members, reduced to their segments: what every standard's demands are made of."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.analysis.diagram import first_largest
from welbric.standards.case import MemberCase


def compressing(case: MemberCase, M: Any) -> Any:
    """Return moments at stations, positive where they compress a segment's flange."""
    top, both = (np.asarray(flag)[..., None] for flag in (case.segments.top, case.segments.both))
    M = np.asarray(M)[:, :, None]
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


def places_of_largest(case: MemberCase, values: Any) -> Any:
    """Return where values (S, C, X), or (S, C, 1, X) of the whole member, are largest; mm."""
    inside = np.asarray(case.segments.inside)[:, None]
    x = np.asarray(case.effects.x)[:, None]
    if values.ndim == 3:
        values = np.where(inside, values[:, :, None], -np.inf)
    where = first_largest(values)
    found = np.take_along_axis(np.broadcast_to(x, (*where.shape[:2], x.shape[-1])), where, axis=-1)
    return np.broadcast_to(found, np.broadcast_shapes(found.shape, (1, 1, inside.shape[2])))
