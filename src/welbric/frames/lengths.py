"""What stands between the joints of a frame, along its members: one length for each.

A length between two joints is cut into several elements, for its axial force bends it further where
it sags. Their inner nodes touch nothing else: one after another they are eliminated, exactly,
whatever axial forces there are, and leave what the length resists at its ends, and what the loads
on it bring there. Where nothing is left at an inner node, the length buckles between its joints.
"""

from __future__ import annotations

import functools
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.frames.beam_columns import BeamColumns, Bent, Off
from welbric.frames.model import FREEDOMS, OWN, Indices, Model, of_loads

# An element's freedoms in the order of arrays here: deflections about both axes, and slopes, of its
# start and of its end; along it; its twist.
ORDER = (1, 3, 2, 4, 7, 9, 8, 10, 0, 6, 5, 11)
BENDING, ALONG, TWISTING = slice(0, 8), slice(8, 10), slice(10, 12)
# How a length bends: by how much its ends turn apart, both turn alike, and its line leans.
APART, ALIKE, LEANS = 0, 1, 2
BESIDE = ((APART, ALIKE), (APART, LEANS), (ALIKE, LEANS))
AT_ONCE = 16_000  # lengths and loads that are condensed at once: what stays near the processor
NOTHING = 1e-12  # of its parts that a determinant is, of what resists no longer


@dataclass(frozen=True)
class Between:
    """What acts between joints under C loads: on inner nodes, in the members' own directions.

    Attributes
    ----------
    bending : array, shape (2, 2, I, C)
        Forces and moments, about each axis.
    axial : array, shape (E, C)
        The axial force that it brings in elements, where the ends of their length are held.
    torsion : array, shape (E, C)
        The same of the torsional moment.
    """

    bending: Array
    axial: Array
    torsion: Array

    def taken(self, which: Any) -> Between:
        """Return some of the loads."""
        return Between(*(of_loads(one, which) for one in (self.bending, self.axial, self.torsion)))


@dataclass(frozen=True)
class Standing:
    """What S lengths resist, under C loads and the axial forces that these bring.

    Attributes
    ----------
    spans : array, shape (S, 1), mm
        How long they are.
    bending : array, shape (3, 2, S, C)
        Stiffness against bending in each way, about each axis: s1 - s2, s1 + s2 - 2 (d2 - d1) / L
        and d2 - d1, by deflections and slopes of the start and the end.
    cut : array of int, shape (K,)
        Lengths of several elements.
    beside : array, shape (3, 2, K, C)
        Their stiffness between two ways, as `BESIDE` has these.
    axial : array, shape (S, C)
    torsion : array, shape (S, 1)
    ends : array, shape (12, S, C)
        What acts between joints, brought to the ends, in `ORDER`.
    pulls : array, shape (2, S, C)
        The axial force at either end.
    buckled : array of bool, shape (C,)
        Under which a length buckles between its joints.
    energy : array, shape (C,)
        Of what acts between joints, while these stay.
    """

    spans: Array
    bending: Array
    cut: Any
    beside: Array
    axial: Array
    torsion: Array
    ends: Array
    pulls: Array
    buckled: Flags
    energy: Array

    def taken(self, which: Indices) -> Standing:
        """Return some of the loads."""
        own = ("bending", "beside", "axial", "ends", "pulls", "buckled", "energy")
        found: dict[str, Any] = {name: of_loads(getattr(self, name), which) for name in own}
        return replace(self, **found)

    def forces(self, own: Array) -> Array:
        """Return the forces at the ends that their movements bring, (12, S, C), in `ORDER`.

        In place of these movements: no other arrays are as large.
        """
        d1, s1, d2, s2 = own[BENDING].reshape(4, 2, *own.shape[1:])
        leans, apart, alike, part = (np.empty_like(d1) for _ in range(4))
        np.subtract(d2, d1, out=leans)
        np.subtract(s1, s2, out=apart)
        np.add(s1, s2, out=alike)
        alike -= np.multiply(leans, 2 / self.spans, out=part)
        ways, cut = (apart, alike, leans), self.cut
        if len(self.beside[0, 0]):
            more = np.zeros((len(ways), *leans[:, cut].shape))
            for stiff, (i, j) in zip(self.beside, BESIDE, strict=True):
                more[i] += stiff * ways[j][:, cut]
                more[j] += stiff * ways[i][:, cut]
        for stiff, way in zip(self.bending, ways, strict=True):
            way *= stiff
        if len(self.beside[0, 0]):
            for way, beside in zip(ways, more, strict=True):
                way[:, cut] += beside
        np.add(alike, apart, out=s1)
        np.subtract(alike, apart, out=s2)
        np.multiply(alike, 2 / self.spans, out=d1)
        d1 -= leans
        np.negative(d1, out=d2)
        for (start, end), stiff in ((own[ALONG], self.axial), (own[TWISTING], self.torsion)):
            end -= start
            end *= stiff
            np.negative(end, out=start)
        return own


@dataclass(frozen=True)
class _Eliminated:
    """What is left of lengths in bending.

    Attributes
    ----------
    start, across, end : array, shape (2, 2, 2, S, C)
        Stiffness of the start, between start and end, and of the end.
    ends : array, shape (2, 2, 2, S, C)
        What the loads on inner nodes bring to the start and the end: force and moment, about each
        axis.
    buckled : array of bool, shape (C,)
    energy : array, shape (C,)
    steps : list
        Of each node how it moves by itself, with the length's start, and with the node that
        follows.
    """

    start: Array
    across: Array
    end: Array
    ends: Array
    buckled: Flags
    energy: Array
    steps: list[tuple[Array, Array, Array]]

    def ways(self, spans: Array) -> tuple[Array, Array]:
        """Return the stiffness against each way of bending, and between them, (3, 2, S, C) each."""
        L = spans[:, None]
        (_, s1s1), (across, s1s2), (d2d2, d2s2), s2s2 = (
            self.start[1], self.across[1], self.end[0], self.end[1, 1]
        )  # fmt: skip
        # What leaning by one, with its ends turned as the line does, brings to these.
        on_s1, on_s2 = (s1s1 + s1s2) / L + across, (s1s2 + s2s2) / L + d2s2
        leans = (on_s1 + on_s2 + across + d2s2) / L + d2d2
        of_ways = [0.25 * (s1s1 + s2s2) - 0.5 * s1s2, 0.25 * (s1s1 + s2s2) + 0.5 * s1s2, leans]
        between = [0.25 * (s1s1 - s2s2), 0.5 * (on_s1 - on_s2), 0.5 * (on_s1 + on_s2)]
        return np.array(of_ways), np.array(between)


class Lengths:
    """The lengths between joints of a frame.

    Attributes
    ----------
    first, last : array of int, shape (S,)
        Their elements.
    before, nodes : array of int, shape (I,)
        The elements that end at inner nodes, and these.
    axial, torsion : array, shape (S,)
        EA, and GJ, over the length.
    """

    def __init__(self, model: Model) -> None:
        self.model = model
        self.first = np.flatnonzero(model.ends[:, 0] < len(model.joints))
        self.last = np.append(self.first[1:], len(model.ends)) - 1
        self.count = self.last - self.first + 1
        self.single, self.cut = np.flatnonzero(self.count == 1), np.flatnonzero(self.count > 1)
        self.spans = np.add.reduceat(model.lengths, self.first)
        # The inner nodes, by the element that ends there.
        self.before = np.setdiff1d(np.arange(len(model.ends)), self.last, assume_unique=True)
        self.nodes = model.ends[self.before, 1]
        self.directions = model.turn[self.before, 6:, 6:OWN]
        self.flexible = model.lengths / model.EA
        self.soft = model.lengths / model.GJ
        self.axial = 1.0 / np.add.reduceat(self.flexible, self.first)
        self.torsion = 1.0 / np.add.reduceat(self.soft, self.first)
        self.bending = model.kept(BeamColumns)

    @functools.cached_property
    def at_ease(self) -> tuple[Array, Array]:
        """No axial forces, and the axial stiffness that elements then have, (E, 1) each."""
        none = np.zeros((len(self.model.ends), 1))
        return none, none + 1.0

    def _steps(self, some: Any) -> list[tuple[Any, Indices, Indices]]:
        """Return one after another of some lengths' elements that follow on another.

        Which of the lengths have so many, the element of each, and the inner node it begins at.
        """
        count, first = self.count[some], self.first[some]
        found: list[tuple[Any, Indices, Indices]] = []
        for k in range(1, int(count.max(initial=1))):
            which: Any = np.flatnonzero(count > k)
            element = first[which] + k
            node = np.searchsorted(self.before, element - 1)
            found.append((slice(None) if len(which) == len(first) else which, element, node))
        return found

    def _element(
        self, which: Indices, N: Array, bends: Array | None
    ) -> tuple[tuple[Array, Array, Array], Bent]:
        """Return some elements' stiffness: start, across and end, (2, 2, 2, len(which), C) each."""
        bent = self.bending.resists(which, N[which], None if bends is None else bends[which])
        arc, alike = bent.turning
        L = self.bending.lengths[which, None]
        b = alike / (2 * L)
        a, less = 2 * b / L + bent.leaning, -b
        c, d = 0.25 * (alike + arc), 0.25 * (alike - arc)
        start, across = np.array([[a, b], [b, c]]), np.array([[-a, b], [less, d]])
        return (start, across, np.array([[a, less], [less, c]])), bent

    # Elimination

    def between(self, load: Array) -> Between:
        """Return what loads on all of the model's freedoms, (F, C), bring between joints."""
        model, C = self.model, load.shape[1]
        at = FREEDOMS * self.nodes[:, None] + np.arange(FREEDOMS)
        own = self.directions @ np.where(model.held[at][..., None], 0.0, load[at])
        along, about = np.zeros((2, len(model.ends), C))
        along[self.before], about[self.before] = own[:, 0], own[:, 5]
        bending = np.moveaxis(own[:, [[1, 3], [2, 4]]], 0, 2)
        return Between(
            np.ascontiguousarray(bending),
            self._held_at_ends(along, self.flexible),
            self._held_at_ends(about, self.soft),
        )

    def _held_at_ends(self, pushes: Array, flexible: Array) -> Array:
        """Return the force in each element, (E, C), of lengths that are held at their ends.

        ``pushes`` act where elements end. Together they stretch nothing, and the forces on either
        side of a node differ by what pushes there.
        """
        before = np.zeros_like(pushes)
        for _, element, _ in self._steps(slice(None)):
            before[element] = before[element - 1] + pushes[element - 1]
        stretch = np.add.reduceat(flexible[:, None] * before, self.first, axis=0)
        most = stretch / np.add.reduceat(flexible, self.first)[:, None]
        return np.asarray(np.repeat(most, self.count, axis=0) - before)

    def _portions(self, lengths: Indices, loads: int) -> list[Indices]:
        """Return lengths in portions of which so many loads stay near the processor."""
        height = max(AT_ONCE // max(loads, 1), 1)
        return [lengths[start : start + height] for start in range(0, len(lengths), height)]

    def standing(
        self, N: Array, carries: Array, bends: Array | None = None,
        between: Between | None = None, off: Off | None = None,
    ) -> Standing:  # fmt: skip
        """Return what the lengths resist under axial forces, and what acts between their ends.

        Parameters
        ----------
        N : array, shape (E, C)
            Axial forces of the elements, times the level, tension positive.
        carries : array, shape (E, C)
            The share of its axial stiffness that each has.
        bends : array, shape (E, C), optional
            The share of its stiffness in bending.
        between : Between, optional
            Of as many loads, or of any number where the axial forces are one for all.
        off : Off, optional
            How elements are off the straight line, of as many loads; with ``between`` alone.
        """
        S, C = len(self.first), N.shape[1]
        loads = C if between is None else between.axial.shape[1]
        bending, ends = np.empty((3, 2, S, C)), np.zeros((OWN, S, loads))
        beside, on_ends = np.empty((3, 2, len(self.cut), C)), ends[BENDING].reshape(4, 2, S, loads)
        buckled, energy = np.zeros(C, dtype=bool), np.zeros(loads)
        for some in self._portions(self.single, loads):
            which = self.first[some]
            bent = self.bending.resists(which, N[which], None if bends is None else bends[which])
            bending[:LEANS, :, some] = 0.25 * bent.turning
            bending[LEANS][:, some] = bent.leaning
            buckled |= bent.loses
            if off is not None:
                of_off = self.bending.off_forces(which, bent, off)
                on_ends[:, :, some] = -of_off.reshape(4, *of_off.shape[2:])
        for some in self._portions(self.cut, loads):
            own = self._eliminated(some, N, bends, between, off)
            place = np.searchsorted(self.cut, some)
            bending[:, :, some], beside[:, :, place] = own.ways(self.spans[some])
            on_ends[:, :, some] = own.ends.reshape(4, *own.ends.shape[2:])
            buckled |= own.buckled
            energy += own.energy
        if between is not None:
            for at, of, flexible in (
                (ALONG.start, between.axial, self.flexible),
                (TWISTING.start, between.torsion, self.soft),
            ):
                ends[at], ends[at + 1] = of[self.first], -of[self.last]
                energy += flexible @ of**2
        return Standing(
            self.spans[:, None], bending, self.cut, beside,
            self.axial[:, None] * carries[self.first], self.torsion[:, None], ends,
            np.stack([N[self.first], N[self.last]]), buckled, energy,
        )  # fmt: skip

    def _eliminated(
        self, some: Indices, N: Array, bends: Array | None, between: Between | None,
        off: Off | None, remember: bool = False,
    ) -> _Eliminated:  # fmt: skip
        """Eliminate the inner nodes of some lengths in bending, one after another.

        ``remember`` keeps how they move.
        """
        (start, across, end), bent = self._element(self.first[some], N, bends)
        loads = N.shape[1] if between is None else between.axial.shape[1]
        ends = np.zeros((2, 2, 2, start.shape[3], loads))
        if off is not None:
            ends -= self.bending.off_forces(self.first[some], bent, off)
        buckled, steps = bent.loses, []
        energy = np.zeros(loads)
        for which, element, node in self._steps(some):
            to_start, ((own, to_next, far), bent) = (
                across[..., which, :], self._element(element, N, bends)
            )  # fmt: skip
            own += end[..., which, :]
            buckled |= bent.loses
            product = own[0, 0] * own[1, 1]
            inner = product - own[0, 1] ** 2
            sound = (own[0, 0] > 0) & (inner > NOTHING * product)
            buckled |= ~sound.all(axis=(0, 1))
            inner = np.where(sound, 1.0 / np.where(sound, inner, 1.0), 0.0)  # held, where it is not
            cross = -own[0, 1] * inner
            back = np.array([[own[1, 1] * inner, cross], [cross, own[0, 0] * inner]])
            with_start, with_next = _times(back, to_start.swapaxes(0, 1)), _times(back, to_next)
            far -= _times(to_next.swapaxes(0, 1), with_next)
            start[..., which, :] -= _times(to_start, with_start)
            across[..., which, :], end[..., which, :] = -_times(to_start, with_next), far
            alone = np.zeros(0)
            if between is not None:
                acts = between.bending[:, :, node] + ends[1][..., which, :]
                of_next: Any = 0.0
                if off is not None:
                    of_start, of_next = self.bending.off_forces(element, bent, off)
                    acts -= of_start
                ends[0][..., which, :] -= _on(with_start.swapaxes(0, 1), acts)
                ends[1][..., which, :] = -_on(with_next.swapaxes(0, 1), acts) - of_next
                alone = _on(back, acts)
                energy += (alone * acts).sum(axis=(0, 1, 2))
            if remember:
                steps.append((alone, with_start, with_next))
        return _Eliminated(start, across, end, ends, buckled, energy, steps)

    def inner_movements(
        self, own: Array, N: Array, carries: Array, bends: Array | None, between: Between,
        off: Off | None = None,
    ) -> Array:  # fmt: skip
        """Return how inner nodes move, (I, 6, C), in the members' own directions.

        ``own``, (12, S, C), are the movements of the lengths' ends.
        """
        inner = np.zeros((len(self.nodes), FREEDOMS, own.shape[-1]))
        ends = own[BENDING].reshape(2, 2, 2, *own.shape[1:])
        for some in self._portions(self.cut, own.shape[-1]):
            start, after = ends[..., some, :]
            known = self._eliminated(some, N, bends, between, off, remember=True).steps
            for (which, _, node), (alone, with_start, with_next) in zip(
                reversed(self._steps(some)), reversed(known), strict=True
            ):
                moves = alone - _on(with_start, start[..., which, :])
                moves -= _on(with_next, after[..., which, :])
                after[..., which, :] = moves
                # Deflection and slope about one axis, then about the other.
                turned = moves.swapaxes(0, 1).reshape(4, *moves.shape[2:])
                inner[node[:, None], [1, 2, 3, 4]] = np.moveaxis(turned, 0, 1)
        stretch = own[ALONG.start + 1] - own[ALONG.start]
        for at, flexible, force, freedom in (
            (ALONG.start, self.flexible, self.axial_forces(stretch, carries, between), 0),
            (TWISTING.start, self.soft, self._torsion(own, between), 5),
        ):
            share = carries if freedom == 0 else 1.0
            strain = flexible[:, None] * force / share
            moves = np.zeros_like(strain)
            moves[self.first] = own[at] + strain[self.first]
            for _, element, _ in self._steps(slice(None)):
                moves[element] = moves[element - 1] + strain[element]
            inner[:, freedom] = moves[self.before]
        return inner

    def axial_forces(self, stretch: Array, carries: Array, between: Between) -> Array:
        """Return what lengths' stretches, (S, C), and loads bring along elements, (E, C)."""
        pull = self.axial[:, None] * carries[self.first] * stretch
        return np.asarray(np.repeat(pull, self.count, axis=0) + between.axial)

    def _torsion(self, own: Array, between: Between) -> Array:
        turns = self.torsion[:, None] * (own[TWISTING.start + 1] - own[TWISTING.start])
        return np.asarray(np.repeat(turns, self.count, axis=0) + between.torsion)

    def at_joints(self, loads: Array) -> Array:
        """Return loads on nodes, (n, 6, C), those between joints brought to these by statics."""
        model, found = self.model, loads.copy()
        of = np.searchsorted(self.first, self.before, side="right") - 1
        stops = np.concatenate([[0.0], np.cumsum(model.lengths)])
        start, end = stops[self.first[of]], stops[self.last[of] + 1]
        share = ((stops[self.before + 1] - start) / (end - start))[:, None, None]
        found[self.nodes] = 0.0
        np.add.at(found, model.ends[self.first[of], 0], (1 - share) * loads[self.nodes])
        np.add.at(found, model.ends[self.last[of], 1], share * loads[self.nodes])
        return found

    def mean(self, N: Array) -> Array:
        """Return the mean axial forces of lengths, (S, C), of those of elements, (E, C)."""
        lengths = self.model.lengths[:, None]
        return np.asarray(
            np.add.reduceat(lengths * N, self.first) / np.add.reduceat(lengths, self.first)
        )

    def of(self, elements: slice) -> slice:
        """Return the lengths that some elements of a member make."""
        return slice(*np.searchsorted(self.first, [elements.start, elements.stop]).tolist())


def _times(a: Array, b: Array) -> Array:
    """Return products of matrices of two rows and columns, the first axes of arrays."""
    return np.asarray(a[:, 0, None] * b[0] + a[:, 1, None] * b[1])


def _on(a: Array, b: Array) -> Array:
    """Return such matrices times vectors, (2, ...)."""
    return np.asarray(a[:, 0] * b[0] + a[:, 1] * b[1])
