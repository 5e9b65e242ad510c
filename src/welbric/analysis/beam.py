"""Beams on any number of supports, exactly: reactions, shear, moment, slope and deflection.

The beam is cut into prismatic elements at its supports, hinges and changes of section, and nowhere
else: short elements beside a load would cost accuracy. An element's stiffness and load vector are
exact; so are the polynomials between the places where loads change, which follow by integration
from the forces and movements at its left end. All load cases are solved at once. With
`shear_stiffness` the elements are Timoshenko's, otherwise Bernoulli's.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from operator import attrgetter
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Diagram
from welbric.analysis.member_loads import (
    Curvature,
    LineLoad,
    Load,
    MomentLoad,
    Movement,
    PointLoad,
    add_lines,
    nodes_of,
)
from welbric.analysis.stiffness import Indices, Mechanism, Stiffness
from welbric.errors import InputError


@dataclass(frozen=True)
class Support:
    """What holds a beam at a place.

    Attributes
    ----------
    at : float, mm
    held, clamped : bool
        Against deflection; against rotation.
    spring, rotation_spring : float
        N/mm and N mm per radian, where it is not held or clamped.
    """

    at: float
    held: bool = True
    clamped: bool = False
    spring: float = 0.0
    rotation_spring: float = 0.0


END_SUPPORTS = {  # end condition: held, clamped
    "pinned": (True, False),
    "fixed": (True, True),
    "free": (False, False),
    "guided": (False, True),
}


def end_supports(length: float, start: str, end: str) -> list[Support]:
    """Return the supports of the two ends, such as ``"pinned"``, ``"fixed"``, ``"free"``."""
    return [Support(at, *END_SUPPORTS[kind]) for at, kind in ((0.0, start), (length, end))]


@dataclass(frozen=True)
class BeamResult:
    """The diagrams of a beam about one axis, for L cases (or C combinations).

    Attributes
    ----------
    shear, moment : Diagram
        N and N mm; sagging positive.
    slope, deflection : Diagram
        Radians and mm; deflection positive downwards.
    reactions : array, shape (L, S)
        Upward force of each support, N.
    places : tuple of float, length S
        The supports, mm.
    """

    shear: Diagram
    moment: Diagram
    slope: Diagram
    deflection: Diagram
    reactions: Array
    places: tuple[float, ...]

    def taken(self, cases: slice) -> BeamResult:
        """Return some of the cases."""
        return BeamResult(
            self.shear.taken(cases),
            self.moment.taken(cases),
            self.slope.taken(cases),
            self.deflection.taken(cases),
            self.reactions[cases],
            self.places,
        )

    def plus(self, other: BeamResult) -> BeamResult:
        """Return the sum of two results for the same beam, case by case."""
        return BeamResult(
            self.shear.plus(other.shear),
            self.moment.plus(other.moment),
            self.slope.plus(other.slope),
            self.deflection.plus(other.deflection),
            self.reactions + other.reactions,
            self.places,
        )

    def combine(self, factors: Array) -> BeamResult:
        """Superpose cases into combinations."""
        return BeamResult(
            self.shear.combine(factors),
            self.moment.combine(factors),
            self.slope.combine(factors),
            self.deflection.combine(factors),
            factors @ self.reactions,
            self.places,
        )


def bend(
    breaks: Array,
    cases: Sequence[Sequence[Load]],
    supports: Sequence[Support],
    EI: Any,
    hinges: Sequence[float] = (),
    shear_stiffness: Any = None,
) -> BeamResult:
    """Solve a beam for all load cases at once.

    Parameters
    ----------
    breaks : array, shape (I + 1,), mm
        From `breaks_of`, with the supports, hinges and changes of section among them.
    cases : sequence of sequences of loads, L of them
        Axial loads are passed over.
    supports : sequence of Support, S of them
    EI : array_like, shape (I,) or a number, N mm2
    hinges : sequence of float, mm
        Where the beam may turn freely.
    shear_stiffness : array_like, shape (I,), optional, N
        G times the shear area; without it the beam does not yield to shear.

    Raises
    ------
    InputError
        If the beam is a mechanism: the motion that is free is named.
    """
    intervals, count = len(breaks) - 1, len(cases)
    EI = np.broadcast_to(np.asarray(EI, dtype=float), (intervals,))
    flexible = np.zeros(intervals)
    if shear_stiffness is not None:
        flexible = 1.0 / np.broadcast_to(np.asarray(shear_stiffness, dtype=float), (intervals,))
    nodes = _nodes(breaks, [support.at for support in supports], hinges, EI, flexible)
    first = nodes[:-1]  # interval of each element
    length = np.diff(breaks[nodes])
    freedoms = _freedoms(breaks[nodes], hinges)
    acting = _loads(breaks, cases, nodes, freedoms)
    element = np.searchsorted(nodes, np.arange(intervals), side="right") - 1

    def integrated(V: Any, M: Any, turn: Any, fall: Any) -> list[Diagram]:
        """Return shear, moment, slope and deflection from the elements' values at the left."""

        def running(start: Any, rate: Array, jumps: Array | None = None) -> Diagram:
            return _running(breaks, first, element, start, rate, jumps)

        shear = running(V, -acting.q, -acting.forces)
        moment = running(M, shear.coefficients, acting.moments)
        curving = -moment.coefficients / EI[:, None]
        curving[..., 0] -= acting.kappa
        slope = running(turn, curving)
        falling = slope.coefficients.copy()
        falling[..., : shear.coefficients.shape[-1]] += shear.coefficients * flexible[:, None]
        return [shear, moment, slope, running(fall, falling)]

    last = nodes[1:] - 1
    nothing = np.zeros((count, len(length)))
    alone = [d.coefficients[:, last].sum(axis=-1) for d in integrated(*[nothing] * 4)]
    fixed = _fixed_ends(length, EI[first], flexible[first], *alone)  # (E, L, 4)

    numbers = np.stack(
        [freedoms[:-1, 0], freedoms[:-1, 2], freedoms[1:, 0], freedoms[1:, 1]], axis=1
    )  # deflection and rotation at the start, and at the end: of each element
    total = int(freedoms.max()) + 1
    k = _stiffness(length, EI[first], flexible[first])
    load = acting.at_nodes.copy()  # (N, L)
    for i in range(4):
        np.add.at(load, numbers[:, i], -fixed[:, :, i])

    known: dict[int, Array] = {}
    springs: dict[int, float] = {}
    where = np.searchsorted(nodes, nodes_of(breaks, np.array([s.at for s in supports]))).tolist()
    for support, node in zip(supports, where, strict=True):
        w = int(freedoms[node, 0])
        for turn in {int(freedoms[node, 1]), int(freedoms[node, 2])}:
            if support.clamped:
                known[turn] = np.zeros(count)
            elif support.rotation_spring:
                springs[turn] = support.rotation_spring
        if support.held:
            known[w] = acting.moved[:, nodes[node]]
        elif support.spring:
            springs[w] = support.spring
    try:
        u = Stiffness.assembled(numbers, k, springs, total).solved(load, known)
    except Mechanism as found:
        node, column = np.argwhere(freedoms == found.freedom)[0]
        motion = "fall" if column == 0 else "turn"
        place = breaks[nodes[node]] / 1000
        raise InputError(
            f"nothing keeps it from moving: it is free to {motion} at {place:.4g} m"
        ) from None

    ends = np.einsum("eij,ejl->lei", k, u[numbers]) + fixed.transpose(1, 0, 2)  # (L, E, 4)
    pushed = np.zeros((total, count))
    for i in range(4):
        np.add.at(pushed, numbers[:, i], ends[:, :, i].T)
    reactions = np.zeros((count, len(supports)))
    for s, (support, node) in enumerate(zip(supports, where, strict=True)):
        w = int(freedoms[node, 0])
        # The loads there, less what the elements take of them, press on the support.
        pressing = acting.at_nodes[w] - pushed[w]
        reactions[:, s] = pressing if support.held else support.spring * u[w]
    movements = u[numbers[:, 1]].T, u[numbers[:, 0]].T
    shear, moment, slope, deflection = integrated(-ends[:, :, 0], ends[:, :, 1], *movements)
    places = tuple(support.at for support in supports)
    return BeamResult(shear, moment, slope, deflection, reactions, places)


def unbent(breaks: Array, count: int, supports: Sequence[Support]) -> BeamResult:
    """Return the result of a beam that nothing bends."""
    level = Diagram(breaks, np.zeros((count, len(breaks) - 1, 1)))
    places = tuple(support.at for support in supports)
    return BeamResult(level, level, level, level, np.zeros((count, len(supports))), places)


def _nodes(
    breaks: Array, places: Sequence[float], hinges: Sequence[float], EI: Array, flexible: Array
) -> Indices:
    """Return the breaks at which elements meet."""
    changes = np.flatnonzero((np.diff(EI) != 0) | (np.diff(flexible) != 0)) + 1
    named = nodes_of(breaks, np.array([*places, *hinges], dtype=float))
    return np.unique(np.concatenate([[0, len(breaks) - 1], named, changes]))


def _running(
    breaks: Array,
    first: Indices,
    element: Indices,
    start: Array,
    rate: Array,
    jumps: Array | None,
) -> Diagram:
    """Return the integral of a rate from each element's start, with jumps at the breaks."""
    orders = np.arange(1, rate.shape[-1] + 1)
    inner = rate * np.diff(breaks)[:, None] / orders
    gain = inner.sum(axis=-1)
    before = np.cumsum(gain, axis=-1) - gain
    if jumps is not None:
        before = before + np.cumsum(jumps[:, :-1], axis=-1)
    constant = before + (start - before[:, first])[:, element]
    return Diagram(breaks, np.concatenate([constant[..., None], inner], axis=-1))


def _freedoms(places: Array, hinges: Sequence[float]) -> Indices:
    """Return the numbers of (deflection, rotation on the left, on the right) at each node."""
    hinged = np.zeros(len(places), dtype=bool)
    hinged[nodes_of(places, np.array(hinges, dtype=float))] = True
    first = np.concatenate([[0], np.cumsum(2 + hinged)[:-1]])
    return np.stack([first, first + 1, first + 1 + hinged], axis=1).astype(np.intp)


@dataclass(frozen=True)
class _Loads:
    """Loads as arrays: q (L, I, 2), kappa (L, I); forces, moments, movements at breaks (L, I + 1).

    Forces and moments at nodes stand apart from the others, in at_nodes (N, L).
    """

    q: Array
    kappa: Array
    forces: Array
    moments: Array
    moved: Array
    at_nodes: Array


def _loads(
    breaks: Array, cases: Sequence[Sequence[Load]], nodes: Indices, freedoms: Indices
) -> _Loads:
    count, intervals = len(cases), len(breaks) - 1
    q, kappa = np.zeros((count, intervals, 2)), np.zeros((count, intervals))
    forces, moments, moved = (np.zeros((count, intervals + 1)) for _ in range(3))
    at_nodes = np.zeros((int(freedoms.max()) + 1, count))
    node_at = np.full(intervals + 1, -1)
    node_at[nodes] = np.arange(len(nodes))

    def gathered(kind: type, *names: str) -> list[Array]:
        """Return the cases of one kind of load, as numbers, and its attributes as arrays."""
        rows = [
            (i, *read(load))
            for read in [attrgetter(*names)]
            for i, loads in enumerate(cases)
            for load in loads
            if type(load) is kind
        ]
        return list(np.array(rows).T) if rows else []

    if found := gathered(LineLoad, "start", "end", "w_start", "w_end"):
        add_lines(q, breaks, found[0].astype(int), *found[1:])
    if found := gathered(Curvature, "start", "end", "kappa"):
        middle = 0.5 * (breaks[:-1] + breaks[1:])
        for i, start, end, value in zip(*found, strict=True):
            kappa[int(i)] += value * ((middle > start) & (middle < end))
    if found := gathered(Movement, "at", "down"):
        np.add.at(moved, (found[0].astype(int), nodes_of(breaks, found[1])), found[2])
    for kind, value, apart, freedom in (
        (PointLoad, "P", forces, freedoms[:, 0]),
        # On the right of its place, but at the far end, where there is no right.
        (MomentLoad, "M", moments, np.append(freedoms[:-1, 2], freedoms[-1, 1])),
    ):
        if found := gathered(kind, "at", value):
            case, place = found[0].astype(int), nodes_of(breaks, found[1])
            node = node_at[place]
            at = node >= 0
            np.add.at(apart, (case[~at], place[~at]), found[2][~at])
            np.add.at(at_nodes, (freedom[node[at]], case[at]), found[2][at])
    return _Loads(q, kappa, forces, moments, moved, at_nodes)


def _stiffness(L: Array, EI: Array, flexible: Array) -> Array:
    """Return the stiffness of elements, shape (I, 4, 4), in (deflection, rotation) of both ends."""
    phi = 12 * EI * flexible / L**2
    k = np.empty((len(L), 4, 4))
    one, L2 = np.ones_like(L), L**2
    rows = [
        [12 * one, 6 * L, -12 * one, 6 * L],
        [6 * L, (4 + phi) * L2, -6 * L, (2 - phi) * L2],
        [-12 * one, -6 * L, 12 * one, -6 * L],
        [6 * L, (2 - phi) * L2, -6 * L, (4 + phi) * L2],
    ]
    for i, row in enumerate(rows):
        for j, value in enumerate(row):
            k[:, i, j] = value
    return k * (EI / (L**3 * (1 + phi)))[:, None, None]


def _fixed_ends(
    L: Array, EI: Array, flexible: Array, V: Array, M: Array, turn: Array, fall: Array
) -> Array:
    """Return the end actions of elements held at both ends, shape (E, L, 4).

    V, M, turn and fall are what the loads alone bring to the right end. The left end's shear V0 and
    moment M0 bring rotation and deflection to zero there.
    """
    # They add -(M0 L + V0 L2 / 2) / EI to the rotation, and to the deflection its integral.
    a, b = -L / EI, -(L**2) / (2 * EI)
    c, d = -(L**2) / (2 * EI), -(L**3) / (6 * EI) + L * flexible
    determinant = a * d - b * c
    M0 = (-turn * d + fall * b) / determinant
    V0 = (-fall * a + turn * c) / determinant
    return np.stack([-V0, M0, V0 + V, -(M0 + V0 * L + M)], axis=-1).transpose(1, 0, 2)
