"""Beams on any number of supports, exactly: reactions, shear, moment and deflection.

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
from welbric.units import both


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
    deflection : Diagram
        mm, positive downwards.
    reactions : array, shape (L, S)
        Upward force of each support, N.
    places : tuple of float, length S
        The supports, mm.
    """

    shear: Diagram
    moment: Diagram
    deflection: Diagram
    reactions: Array
    places: tuple[float, ...]

    def taken(self, cases: slice) -> BeamResult:
        """Return some of the cases."""
        return BeamResult(
            self.shear.taken(cases),
            self.moment.taken(cases),
            self.deflection.taken(cases),
            self.reactions[cases],
            self.places,
        )

    def plus(self, other: BeamResult) -> BeamResult:
        """Return the sum of two results for the same beam, case by case."""
        return BeamResult(
            self.shear.plus(other.shear),
            self.moment.plus(other.moment),
            self.deflection.plus(other.deflection),
            self.reactions + other.reactions,
            self.places,
        )

    def combine(self, factors: Array) -> BeamResult:
        """Superpose cases into combinations."""
        return BeamResult(
            self.shear.combine(factors),
            self.moment.combine(factors),
            self.deflection.combine(factors),
            factors @ self.reactions,
            self.places,
        )


@dataclass(frozen=True)
class Line:
    """A beam and its load cases.

    Attributes
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
    """

    breaks: Array
    cases: Sequence[Sequence[Load]]
    supports: Sequence[Support]
    EI: Any
    hinges: Sequence[float] = ()
    shear_stiffness: Any = None


def bend(
    breaks: Array,
    cases: Sequence[Sequence[Load]],
    supports: Sequence[Support],
    EI: Any,
    hinges: Sequence[float] = (),
    shear_stiffness: Any = None,
) -> BeamResult:
    """Solve a beam for all load cases at once; the parameters are those of a `Line`.

    Raises
    ------
    InputError
        If the beam is a mechanism: the motion that is free is named.
    """
    return bend_all([Line(breaks, cases, supports, EI, hinges, shear_stiffness)])[0]


def bend_all(lines: Sequence[Line]) -> list[BeamResult]:
    """Solve beams at once, each for its own load cases: one stiffness of parts apart.

    Raises
    ------
    InputError
        If one is a mechanism: the motion that is free is named.
    """
    many = _Many.of(lines)
    nothing = np.zeros((many.count, len(many.length)))
    alone = [c[:, many.last].sum(axis=-1) for c in many.integrated(*[nothing] * 4)]
    first = many.first
    fixed = _fixed_ends(many.length, many.EI[first], many.flexible[first], *alone)  # (E, L, 4)
    k = _stiffness(many.length, many.EI[first], many.flexible[first])
    load = many.at_nodes.copy()  # (N, L)
    for i in range(4):
        np.add.at(load, many.numbers[:, i], -fixed[:, :, i])
    try:
        whole = Stiffness.assembled(many.numbers, k, many.springs, len(load))
        u = whole.solved(load, many.known)
    except Mechanism as mechanism:
        motion, place = many.motion(mechanism.freedom)
        raise InputError(
            f"nothing keeps it from moving: it is free to {motion} at {both(place, 'length')}"
        ) from None

    ends = np.einsum("eij,ejl->lei", k, u[many.numbers]) + fixed.transpose(1, 0, 2)  # (L, E, 4)
    pushed = np.zeros_like(load)
    for i in range(4):
        np.add.at(pushed, many.numbers[:, i], ends[:, :, i].T)
    # The loads there, less what the elements take of them, press on what holds a node.
    pressing = many.at_nodes - pushed
    movements = u[many.numbers[:, 1]].T, u[many.numbers[:, 0]].T
    found = many.integrated(-ends[:, :, 0], ends[:, :, 1], *movements)
    return [many.result(line, found, pressing, u) for line in range(len(lines))]


@dataclass(frozen=True)
class _Many:
    """Lines one after another: intervals, elements and freedoms counted through.

    Lines with fewer cases than the most are without load in those they have not got.
    """

    lines: Sequence[Line]
    count: int  # cases
    interval_of: Indices  # where each line's intervals start, and the end
    lengths: Array
    EI: Array
    flexible: Array
    q: Array
    kappa: Array
    forces: Array  # at the start of each interval
    moments: Array
    at_nodes: Array
    first: Indices  # interval of each element
    last: Indices
    length: Array  # of each element
    numbers: Indices  # deflection and rotation at the start, and at the end: of each element
    within: Indices  # of each interval: its element, and its place in it
    freedoms: list[Indices]
    nodes: list[Indices]
    support_nodes: list[list[int]]
    known: dict[int, Array]
    springs: dict[int, float]

    @classmethod
    def of(cls, lines: Sequence[Line]) -> _Many:
        """Put lines one after another."""
        count = max(len(line.cases) for line in lines)
        parts: dict[str, list[Any]] = {name: [] for name in (
            "lengths", "EI", "flexible", "q", "kappa", "forces", "moments", "at_nodes",
            "first", "last", "length", "numbers", "element", "place",
        )}  # fmt: skip
        all_freedoms, all_nodes, all_supports = [], [], []
        known: dict[int, Array] = {}
        springs: dict[int, float] = {}
        intervals = elements = total = 0
        starts = [0]
        for line in lines:
            breaks = line.breaks
            own = len(breaks) - 1
            EI = np.broadcast_to(np.asarray(line.EI, dtype=float), (own,))
            flexible = np.zeros(own)
            if line.shear_stiffness is not None:
                yielding = np.asarray(line.shear_stiffness, dtype=float)
                flexible = 1.0 / np.broadcast_to(yielding, (own,))
            places = [support.at for support in line.supports]
            nodes = _nodes(breaks, places, line.hinges, EI, flexible)
            freedoms = _freedoms(breaks[nodes], line.hinges)
            acting = _loads(breaks, line.cases, nodes, freedoms)
            freedoms = freedoms + total
            missing = count - len(line.cases)
            for name, value in (
                ("q", acting.q), ("kappa", acting.kappa), ("forces", acting.forces[:, :-1]),
                ("moments", acting.moments[:, :-1]), ("at_nodes", acting.at_nodes.T),
            ):  # fmt: skip
                if missing:
                    value = np.concatenate([value, np.zeros((missing, *value.shape[1:]))])
                parts[name].append(value)
            element = np.searchsorted(nodes, np.arange(own), side="right") - 1
            parts["lengths"].append(np.diff(breaks))
            parts["EI"].append(EI)
            parts["flexible"].append(flexible)
            parts["first"].append(nodes[:-1] + intervals)
            parts["last"].append(nodes[1:] - 1 + intervals)
            parts["length"].append(np.diff(breaks[nodes]))
            parts["element"].append(element + elements)
            parts["place"].append(np.arange(own) - nodes[:-1][element])
            parts["numbers"].append(np.stack(
                [freedoms[:-1, 0], freedoms[:-1, 2], freedoms[1:, 0], freedoms[1:, 1]], axis=1
            ))  # fmt: skip
            where = np.searchsorted(nodes, nodes_of(breaks, np.array(places))).tolist()
            for support, node in zip(line.supports, where, strict=True):
                w = int(freedoms[node, 0])
                for turn in {int(freedoms[node, 1]), int(freedoms[node, 2])}:
                    if support.clamped:
                        known[turn] = np.zeros(count)
                    elif support.rotation_spring:
                        springs[turn] = support.rotation_spring
                if support.held:
                    known[w] = np.concatenate([acting.moved[:, nodes[node]], np.zeros(missing)])
                elif support.spring:
                    springs[w] = support.spring
            all_freedoms.append(freedoms)
            all_nodes.append(nodes)
            all_supports.append(where)
            intervals, elements = intervals + own, elements + len(nodes) - 1
            total += acting.at_nodes.shape[0]
            starts.append(intervals)
        by_case = {"q", "kappa", "forces", "moments", "at_nodes"}
        whole: dict[str, Any] = {
            name: np.concatenate(values, axis=1 if name in by_case else 0)
            for name, values in parts.items()
        }
        within = np.stack([whole.pop("element"), whole.pop("place")])
        whole["at_nodes"] = whole["at_nodes"].T
        return cls(
            lines, count, np.array(starts), **whole, within=within, freedoms=all_freedoms,
            nodes=all_nodes, support_nodes=all_supports, known=known, springs=springs,
        )  # fmt: skip

    def integrated(self, V: Any, M: Any, turn: Any, fall: Any) -> list[Array]:
        """Return the coefficients of shear, moment, slope and deflection, shape (L, I, K).

        From the elements' values at the left, shape (L, E).
        """
        shear = self._running(V, -self.q, -self.forces)
        moment = self._running(M, shear, self.moments)
        curving = -moment / self.EI[:, None]
        curving[..., 0] -= self.kappa
        slope = self._running(turn, curving)
        falling = slope.copy()
        falling[..., : shear.shape[-1]] += shear * self.flexible[:, None]
        return [shear, moment, slope, self._running(fall, falling)]

    def _running(self, start: Array, rate: Array, jumps: Array | None = None) -> Array:
        """Return the integral of a rate from each element's start, with jumps at the breaks.

        What jumps where an element starts is the node's.
        """
        element, place = self.within
        inner = rate * self.lengths[:, None] / np.arange(1, rate.shape[-1] + 1)
        constant = start[:, element]
        if place.any():
            most = int(place.max()) + 1
            before = np.zeros((self.count, len(self.first), most))
            gain = inner.sum(axis=-1)
            following = np.append(place[1:], 0)  # zero where the next interval is another element's
            inside = following > 0
            before[:, element[inside], following[inside]] = gain[:, inside]
            if jumps is not None:
                later = place > 0
                before[:, element[later], place[later]] += jumps[:, later]
            constant = constant + np.cumsum(before, axis=-1)[:, element, place]
        return np.concatenate([constant[..., None], inner], axis=-1)

    def motion(self, freedom: int) -> tuple[str, float]:
        """Return what a freedom does, and where, mm."""
        for line, nodes, freedoms in zip(self.lines, self.nodes, self.freedoms, strict=True):
            if freedoms.min() <= freedom <= freedoms.max():
                node, column = np.argwhere(freedoms == freedom)[0]
                return "fall" if column == 0 else "turn", float(line.breaks[nodes[node]])
        raise LookupError(freedom)

    def result(self, number: int, found: list[Array], pressing: Array, u: Array) -> BeamResult:
        """Return what is one line's of the whole."""
        line, count = self.lines[number], len(self.lines[number].cases)
        own = slice(*self.interval_of[number : number + 2])
        shear, moment, _, deflection = (
            Diagram(line.breaks, coefficients[:count, own]) for coefficients in found
        )
        reactions = np.zeros((count, len(line.supports)))
        for s, (support, node) in enumerate(
            zip(line.supports, self.support_nodes[number], strict=True)
        ):
            w = int(self.freedoms[number][node, 0])
            held = pressing[w] if support.held else support.spring * u[w]
            reactions[:, s] = held[:count]
        places = tuple(support.at for support in line.supports)
        return BeamResult(shear, moment, deflection, reactions, places)


def unbent(breaks: Array, count: int, supports: Sequence[Support]) -> BeamResult:
    """Return the result of a beam that nothing bends."""
    level = Diagram(breaks, np.zeros((count, len(breaks) - 1, 1)))
    places = tuple(support.at for support in supports)
    return BeamResult(level, level, level, np.zeros((count, len(supports))), places)


def _nodes(
    breaks: Array, places: Sequence[float], hinges: Sequence[float], EI: Array, flexible: Array
) -> Indices:
    """Return the breaks at which elements meet."""
    changes = np.flatnonzero((np.diff(EI) != 0) | (np.diff(flexible) != 0)) + 1
    named = nodes_of(breaks, np.array([*places, *hinges], dtype=float))
    return np.unique(np.concatenate([[0, len(breaks) - 1], named, changes]))


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
