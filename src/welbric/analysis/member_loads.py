"""Loads on a member, the places where they change, and the axial force."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

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


def node_of(breaks: Array, at: float) -> int:
    """Return the number of the break nearest to a place."""
    after = int(np.searchsorted(breaks, at))
    if after == 0:
        return 0
    if after == len(breaks) or at - breaks[after - 1] < breaks[after] - at:
        return after - 1
    return after


def add_line(q: Array, breaks: Array, load: LineLoad) -> None:
    """Add a line load to the load per interval, shape (I, 2); it begins and ends at breaks."""
    if load.end <= load.start:
        return
    inside = slice(node_of(breaks, load.start), node_of(breaks, load.end))
    slope = (load.w_end - load.w_start) / (load.end - load.start)
    here = breaks[inside.start : inside.stop + 1]
    q[inside, 0] += load.w_start + slope * (here[:-1] - load.start)
    q[inside, 1] += slope * np.diff(here)
