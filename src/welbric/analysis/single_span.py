"""One prismatic span, exactly: reactions, shear, moment, slope and deflection.

The four end values on the left are the unknowns; two follow from the left end's condition and two
from the right end's. Shear and moment then follow by integration of the load, slope and deflection
(times EI) by integration of the moment: Bernoulli's beam, first order.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from welbric.analysis.diagram import Array, Diagram
from welbric.errors import InputError


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


Load = LineLoad | PointLoad | MomentLoad | AxialLoad | AxialLineLoad

# Which of (shear, moment, slope, deflection) an end condition holds at zero.
HELD = {
    "pinned": (False, True, False, True),
    "fixed": (False, False, True, True),
    "free": (True, True, False, False),
    "guided": (True, False, True, False),
}


@dataclass(frozen=True)
class SpanResult:
    """The diagrams of one span about one axis, for L cases (or C combinations).

    Attributes
    ----------
    shear, moment : Diagram
        N and N mm; sagging positive.
    slope, deflection : Diagram
        Times EI (N mm2); deflection positive downwards.
    reactions : array, shape (L, 2)
        Upward force at the start and at the end, N.
    """

    shear: Diagram
    moment: Diagram
    slope: Diagram
    deflection: Diagram
    reactions: Array

    def combine(self, factors: Array) -> SpanResult:
        """Superpose cases into combinations."""
        return SpanResult(
            self.shear.combine(factors),
            self.moment.combine(factors),
            self.slope.combine(factors),
            self.deflection.combine(factors),
            factors @ self.reactions,
        )


def breaks_of(length: float, cases: Sequence[Sequence[Load]], more: Sequence[float] = ()) -> Array:
    """Return the places where the loads change, with both ends, in ascending order."""
    places = {0.0, length, *more}
    for loads in cases:
        for load in loads:
            if isinstance(load, LineLoad):
                places |= {load.start, load.end}
            elif not isinstance(load, AxialLineLoad):
                places.add(load.at)
    kept: list[float] = []
    for place in sorted(p for p in places if 0 <= p <= length):
        if not kept or place - kept[-1] > 1e-9 * length:
            kept.append(place)
    kept[-1] = length
    return np.array(kept)


def bend(breaks: Array, cases: Sequence[Sequence[Load]], start: str, end: str) -> SpanResult:
    """Solve a span for all load cases at once.

    Parameters
    ----------
    breaks : array, shape (I + 1,), mm
        From `breaks_of`.
    cases : sequence of sequences of loads, L of them
        Axial loads are passed over.
    start, end : str
        ``"pinned"``, ``"fixed"``, ``"free"`` or ``"guided"`` (may move, may not turn).

    Raises
    ------
    InputError
        If the span with these ends is a mechanism.
    """
    length = breaks[-1]
    intervals, count = len(breaks) - 1, len(cases)
    q = np.zeros((count, intervals, 2))
    forces = np.zeros((count, intervals + 1))
    moments = np.zeros((count, intervals + 1))
    for i, loads in enumerate(cases):
        for load in loads:
            if isinstance(load, LineLoad):
                _add_line(q[i], breaks, load)
            elif isinstance(load, PointLoad):
                forces[i, _node(breaks, load.at)] += load.P
            elif isinstance(load, MomentLoad):
                moments[i, _node(breaks, load.at)] += load.M

    def integrate(initial: Array) -> tuple[Diagram, Diagram, Diagram, Diagram, Array]:
        shear = Diagram(breaks, -q).integral(initial[:, 0], -forces)
        moment = shear.integral(initial[:, 1], moments)
        slope = moment.scaled(-1.0).integral(initial[:, 2])
        deflection = slope.integral(initial[:, 3])
        ends = [shear.end_value() - forces[:, -1], moment.end_value() + moments[:, -1]]
        ends += [slope.end_value(), deflection.end_value()]
        return shear, moment, slope, deflection, np.stack(ends, axis=-1)

    # In units of (moment / length, moment, moment x length, moment x length2) the transfer
    # from the left end's values to the right end's is made of pure numbers.
    scale = length ** np.array([-1.0, 0.0, 1.0, 2.0])
    transfer = np.array(
        [[1, 0, 0, 0], [1, 1, 0, 0], [-1 / 2, -1, 1, 0], [-1 / 6, -1 / 2, 1, 1]], dtype=float
    )
    unknown = ~np.array(HELD[start])
    wanted = np.array(HELD[end])
    system = transfer[np.ix_(wanted, unknown)]
    if abs(np.linalg.det(system)) < 1e-9:
        raise InputError(
            f"{start} at the start and {end} at the end leave the member free to move: a mechanism"
        )
    particular = integrate(np.zeros((count, 4)))[-1] / scale
    initial = np.zeros((count, 4))
    initial[:, unknown] = np.linalg.solve(system, -particular[:, wanted].T).T
    shear, moment, slope, deflection, ends = integrate(initial * scale)
    reactions = np.stack([initial[:, 0] * scale[0], -ends[:, 0]], axis=-1)
    return SpanResult(shear, moment, slope, deflection, reactions)


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
                node = _node(breaks, load.at)
                N[i, slice(None, node) if from_start else slice(node, None), 0] += load.N
            elif isinstance(load, AxialLineLoad):
                N[i, :, 0] += load.n * beyond[:-1]
                N[i, :, 1] += load.n * np.diff(beyond)
    return Diagram(breaks, N)


def _node(breaks: Array, at: float) -> int:
    return int(np.argmin(np.abs(breaks - at)))


def _add_line(q: Array, breaks: Array, load: LineLoad) -> None:
    """Add a line load to the load per interval, shape (I, 2)."""
    if load.end <= load.start:
        return
    middle = 0.5 * (breaks[:-1] + breaks[1:])
    inside = (middle > load.start) & (middle < load.end)
    slope = (load.w_end - load.w_start) / (load.end - load.start)
    q[inside, 0] += load.w_start + slope * (breaks[:-1][inside] - load.start)
    q[inside, 1] += slope * np.diff(breaks)[inside]
