"""Loads on a member, the places where they change, and the axial force."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array, Diagram


@dataclass(frozen=True)
class LineLoad:
    """A load along part of a member, changing linearly; N/mm, positive downwards."""

    start: float
    end: float
    w_start: float
    w_end: float


@dataclass(frozen=True)
class PointLoad:
    """A transverse force; N, positive downwards."""

    at: float
    P: float


@dataclass(frozen=True)
class MomentLoad:
    """A moment applied at a point; N mm, positive where it adds to sagging on its right."""

    at: float
    M: float


@dataclass(frozen=True)
class AxialLoad:
    """An axial force; N, positive where it pulls the member."""

    at: float
    N: float


@dataclass(frozen=True)
class AxialLineLoad:
    """A uniform axial load over the whole member; N/mm, positive away from the start."""

    n: float


@dataclass(frozen=True)
class Movement:
    """A support that settles; mm, positive downwards."""

    at: float
    down: float


@dataclass(frozen=True)
class Curvature:
    """A curvature imposed along part of a member, as by a difference in temperature; 1/mm.

    Positive where it curves the member as a sagging moment does.
    """

    start: float
    end: float
    kappa: float


Load = LineLoad | PointLoad | MomentLoad | AxialLoad | AxialLineLoad | Movement | Curvature


def breaks_of(length: float, cases: Sequence[Sequence[Load]], more: Sequence[float] = ()) -> Array:
    """Return the places where the loads change, with both ends, in ascending order."""
    places = {0.0, length, *more}
    for loads in cases:
        for load in loads:
            if isinstance(load, LineLoad | Curvature):
                places |= {load.start, load.end}
            elif not isinstance(load, AxialLineLoad):
                places.add(load.at)
    kept: list[float] = []
    for place in sorted(p for p in places if 0 <= p <= length):
        if not kept or place - kept[-1] > 1e-9 * length:
            kept.append(place)
    kept[-1] = length
    return np.array(kept)


def axial(breaks: Array, cases: Sequence[Sequence[Load]], held: str = "start") -> Diagram:
    """Return the axial force, tension positive, of a member held along its axis at one end.

    Parameters
    ----------
    breaks : array, shape (I + 1,), mm
    cases : sequence of sequences of loads
        Transverse loads are passed over.
    held : str
        ``"start"`` or ``"end"``. A force acts between its place and that end.
    """
    N = np.zeros((len(cases), len(breaks) - 1, 2))
    from_start = held == "start"
    # A line load that points away from the start pulls what hangs from the start, and pushes
    # what stands on the end.
    beyond = breaks[-1] - breaks if from_start else -breaks
    for i, loads in enumerate(cases):
        for load in loads:
            if isinstance(load, AxialLoad):
                node = node_of(breaks, load.at)
                N[i, slice(None, node) if from_start else slice(node, None), 0] += load.N
            elif isinstance(load, AxialLineLoad):
                N[i, :, 0] += load.n * beyond[:-1]
                N[i, :, 1] += load.n * np.diff(beyond)
    return Diagram(breaks, N)


def nodes_of(breaks: Array, at: Array) -> NDArray[np.intp]:
    """Return the numbers of the breaks nearest to places."""
    after = np.clip(np.searchsorted(breaks, at), 1, len(breaks) - 1)
    return np.where(at - breaks[after - 1] < breaks[after] - at, after - 1, after)


def node_of(breaks: Array, at: float) -> int:
    """Return the number of the break nearest to a place."""
    return int(nodes_of(breaks, np.array([at]))[0])


def add_lines(
    q: Array, breaks: Array, case: NDArray[np.intp], start: Array, end: Array, a: Array, b: Array
) -> None:
    """Add line loads from a to b to the load per interval, shape (L, I, 2)."""
    first, last = nodes_of(breaks, start), nodes_of(breaks, end)
    count = np.maximum(last - first, 0)
    load = np.repeat(np.arange(len(case)), count)  # one row for each interval of each load
    interval = np.arange(len(load)) - np.repeat(np.cumsum(count) - count - first, count)
    slope = ((b - a) / np.where(end > start, end - start, 1.0))[load]
    here, there = breaks[interval], breaks[interval + 1]
    rows = case[load]
    np.add.at(q[..., 0], (rows, interval), a[load] + slope * (here - start[load]))
    np.add.at(q[..., 1], (rows, interval), slope * (there - here))
