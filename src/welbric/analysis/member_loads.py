"""Loads on a member, the places where they change, and the axial force."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

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

    def times(self, factor: float) -> LineLoad:
        """Return it, that many times as large."""
        return LineLoad(self.start, self.end, factor * self.w_start, factor * self.w_end)


@dataclass(frozen=True)
class PointLoad:
    """A transverse force; N, positive downwards."""

    at: float
    P: float

    def times(self, factor: float) -> PointLoad:
        """Return it, that many times as large."""
        return PointLoad(self.at, factor * self.P)


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
    """An axial load along part of a member, changing linearly; N/mm, positive towards the end."""

    start: float
    end: float
    n_start: float
    n_end: float


@dataclass(frozen=True)
class Push:
    """A force along the member at a place; N, positive towards the end."""

    at: float
    F: float


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


@dataclass(frozen=True)
class Strain:
    """A strain imposed along part of a member, as by temperature; longer is positive."""

    start: float
    end: float
    epsilon: float


@dataclass(frozen=True)
class Warming:
    """A change of temperature, K: of the whole depth, and of the top over the bottom."""

    start: float
    end: float
    mean: float = 0.0
    difference: float = 0.0


@dataclass(frozen=True)
class Torque:
    """A moment about the member's axis; N mm, positive by the right hand towards the end."""

    at: float
    T: float


Load = (
    LineLoad | PointLoad | MomentLoad | AxialLoad | AxialLineLoad | Push | Movement | Curvature
    | Strain | Warming | Torque
)  # fmt: skip


def breaks_of(length: float, cases: Sequence[Sequence[Load]], more: Sequence[float] = ()) -> Array:
    """Return the places where the loads change, with both ends, in ascending order."""
    places = {0.0, length, *more}
    for loads in cases:
        for load in loads:
            if isinstance(load, LineLoad | AxialLineLoad | Curvature | Strain | Warming):
                places |= {load.start, load.end}
            else:
                places.add(load.at)
    kept: list[float] = []
    for place in sorted(p for p in places if 0 <= p <= length):
        if not kept or place - kept[-1] > 1e-9 * length:
            kept.append(place)
    kept[-1] = length
    return np.array(kept)


def axial(
    breaks: Array,
    cases: Sequence[Sequence[Load]],
    held: Sequence[float] = (0.0,),
    flexibility: Any = 1.0,
) -> Diagram:
    """Return the axial force, tension positive, of a member held lengthwise at some places.

    Parameters
    ----------
    breaks : array, shape (I + 1,), mm
    cases : sequence of sequences of loads
        Transverse loads are passed over.
    held : sequence of float, mm
        An end or both. A force acts between its place and the start, where that is held.
    flexibility : array_like, shape (I,) or a number, 1/N
        1/(E A), where both ends are held.
    """
    if not _has(cases, AxialLoad, Push, AxialLineLoad, Strain):
        return Diagram(breaks, np.zeros((len(cases), len(breaks) - 1, 1)))
    pushes = np.zeros((len(cases), len(breaks)))
    strain = np.zeros((len(cases), len(breaks) - 1))
    rate = np.zeros((len(cases), len(breaks) - 1, 2))
    sign = 1.0 if min(held) <= breaks[0] else -1.0
    middle = 0.5 * (breaks[:-1] + breaks[1:])
    for i, loads in enumerate(cases):
        for load in loads:
            if isinstance(load, AxialLoad):
                pushes[i, node_of(breaks, load.at)] += sign * load.N
            elif isinstance(load, Push):
                pushes[i, node_of(breaks, load.at)] += load.F
            elif isinstance(load, AxialLineLoad):
                ends = (np.array([v]) for v in (load.start, load.end, load.n_start, load.n_end))
                add_lines(rate[i][None], breaks, np.zeros(1, dtype=np.intp), *ends)
            elif isinstance(load, Strain):
                strain[i] += load.epsilon * ((middle > load.start) & (middle < load.end))
    return _lengthwise(breaks, pushes, rate, strain, held, flexibility)


def twisting(
    breaks: Array, cases: Sequence[Sequence[Load]], held: Sequence[float], flexibility: Any
) -> Diagram:
    """Return the torsional moment of a member that is free to warp, held from twisting at places.

    Parameters
    ----------
    breaks : array, shape (I + 1,), mm
    cases : sequence of sequences of loads
        All but torques are passed over.
    held : sequence of float, mm
    flexibility : array_like, shape (I,) or a number
        1/(G J), 1/(N mm2).
    """
    if not _has(cases, Torque):
        return Diagram(breaks, np.zeros((len(cases), len(breaks) - 1, 1)))
    torques = np.zeros((len(cases), len(breaks)))
    for i, loads in enumerate(cases):
        for load in loads:
            if isinstance(load, Torque):
                torques[i, node_of(breaks, load.at)] += load.T
    nothing = np.zeros((len(cases), len(breaks) - 1, 2))
    return _lengthwise(breaks, torques, nothing, nothing[..., 0], held, flexibility)


def _has(cases: Sequence[Sequence[Load]], *kinds: type) -> bool:
    """Return whether there is a load of one of those kinds."""
    return any(isinstance(load, kinds) for loads in cases for load in loads)


def _lengthwise(
    breaks: Array, pushes: Array, rate: Array, strain: Array, held: Sequence[float], flexible: Any
) -> Diagram:
    """Return the force along a member, or the moment about its axis.

    Pushes, shape (L, I + 1), and the rate, (L, I, 2) as value at the interval's start and change
    over it, act towards the end; the strain, (L, I), is free of force. Between two holds the
    elongation is zero; beyond the last nothing pulls.
    """
    lengths = np.diff(breaks)
    flexible = np.broadcast_to(np.asarray(flexible, dtype=float), lengths.shape)
    # Counted from a start with no force there: what is missing is a constant in each bay.
    first_power, second_power = -rate[..., 0] * lengths, -0.5 * rate[..., 1] * lengths
    added = first_power + second_power
    gain = np.zeros_like(added)
    gain[:, 1:] = np.cumsum(added, axis=1)[:, :-1]
    N = gain - np.cumsum(pushes[:, :-1], axis=1)
    at_end = N + added
    mean = N + first_power / 2 + second_power / 3
    stops = [0, *sorted({node_of(breaks, x) for x in held} - {0, len(lengths)}), len(lengths)]
    ends = {node_of(breaks, x) for x in held}
    for first, last in pairwise(stops):
        bay = slice(first, last)
        if {first, last} <= ends:
            stretch = (mean * flexible + strain)[:, bay] @ lengths[bay]
            constant = -stretch / (flexible[bay] @ lengths[bay])
        elif first in ends:
            constant = pushes[:, last] - at_end[:, last - 1]
        else:
            constant = -pushes[:, first] - N[:, first]
        N[:, bay] += constant[:, None]
    return Diagram(breaks, np.stack([N, first_power, second_power], axis=-1))


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
