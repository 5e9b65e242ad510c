"""A frame by its joints alone: put together of what its lengths resist between them."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.analysis.stiffness import Mechanism, Stiffness, Summed, matrix, transposed
from welbric.frames.beam_columns import Off
from welbric.frames.lengths import (
    ALIKE,
    APART,
    BENDING,
    BESIDE,
    LEANS,
    ORDER,
    Between,
    Lengths,
    Standing,
)
from welbric.frames.model import FREEDOMS, OWN, Indices, Model


class Condensed(Lengths):
    """A frame whose lengths between joints are one element each.

    Attributes
    ----------
    kept : array of int
        The model's freedoms that are those of joints, and of ends left free.
    numbers, held, springs
        As of a `Model`, of these freedoms alone.
    places : array, shape (f, 3)
        Where these are.
    turn : array, shape (S, 12, 24)
    """

    def __init__(self, model: Model) -> None:
        super().__init__(model)
        joints, inner = FREEDOMS * len(model.joints), FREEDOMS * len(model.places)
        self.kept = np.concatenate([np.arange(joints), np.arange(inner, model.freedoms)])
        self.held = model.held[self.kept]
        self.places = model.freedom_places[self.kept]
        self.springs = model.springs
        self.numbers, self.turn, self.joined = model.numbers, model.turn, model.joined
        if len(self.cut):
            start, end = np.r_[0:6, 12:18], np.r_[6:12, 18:24]
            own = np.empty((len(self.first), 2 * OWN), dtype=np.intp)
            own[:, start], own[:, end] = (
                model.numbers[self.first][:, start], model.numbers[self.last][:, end]
            )  # fmt: skip
            self.numbers = np.where(own < joints, own, own - (inner - joints))
            self.turn = np.zeros((len(self.first), OWN, 2 * OWN))
            self.turn[:, :6], self.turn[:, 6:] = (
                model.turn[self.first, :6], model.turn[self.last, 6:]
            )  # fmt: skip
            apart = (self.count > 1)[:, None, None]
            self.joined = model.joined[self.first] + model.joined[self.last] * apart
        self.has_springs = bool(self.joined.any())
        self.one_way = model.one_way[self.first]
        self._summed: dict[int, Summed] = {}

    @property
    def freedoms(self) -> int:
        """How many freedoms there are, held or not."""
        return len(self.held)

    @functools.cached_property
    def free(self) -> Indices:
        """Those that are not held."""
        return np.flatnonzero(~self.held)

    @property
    def stretches(self) -> Array:
        """By how much each length stretches as one of its freedoms moves by one, (S, 24)."""
        return np.asarray(self.turn[:, 6] - self.turn[:, 0])

    def whole(
        self, moved: Array, N: Array, carries: Array, bends: Array | None, between: Between,
        off: Off | None = None,
    ) -> Array:  # fmt: skip
        """Return the movements of all of the model's freedoms, (F, C), of those kept, (f, C)."""
        model = self.model
        inner = self.inner_movements(self.own(moved), N, carries, bends, between, off)
        found = np.zeros((model.freedoms, moved.shape[1]))
        found[self.kept] = moved
        at = FREEDOMS * self.nodes[:, None] + np.arange(FREEDOMS)
        found[at] = np.where(
            model.held[at][..., None], 0.0, np.swapaxes(self.directions, 1, 2) @ inner
        )
        return found

    @functools.cached_property
    def _turning(self) -> Any:
        """From the freedoms to those of the lengths, in `ORDER`: a matrix, (12 S, f)."""
        S = len(self.first)
        rows = np.arange(OWN * S).reshape(OWN, S).T[:, :, None]
        return matrix(rows, self.numbers[:, None], self.turn[:, list(ORDER)],
                      (OWN * S, self.freedoms))  # fmt: skip

    @functools.cached_property
    def _turning_free(self) -> tuple[Any, Any]:
        """The same of the free freedoms, and back."""
        own = self._turning[:, self.free]
        return own, transposed(own)

    @functools.cached_property
    def _beside(self) -> list[tuple[Any, Any, int | None]]:
        """What resists beside the lengths, of all freedoms and of the free ones.

        Springs, and the arms that axial forces at the start and at the end of lengths turn: these
        to the parts, (24 S, f), and back, with the end whose force counts.
        """
        model, f, S = self.model, self.freedoms, len(self.first)
        found: list[tuple[Any, Any, int | None]] = []
        if self.springs or self.has_springs:
            n = self.numbers
            own = list(self.springs)
            springs = (
                np.concatenate([np.broadcast_to(n[:, :, None], self.joined.shape).ravel(), own]),
                np.concatenate([np.broadcast_to(n[:, None], self.joined.shape).ravel(), own]),
                np.concatenate([self.joined.ravel(), list(self.springs.values())]),
            )
            rows, columns, values = springs
            whole = matrix(rows.astype(np.intp), columns.astype(np.intp), values, (f, f))
            found.append((whole, whole[self.free], None))
        if model.arms.any():
            rows = np.arange(2 * OWN * S).reshape(S, 2 * OWN, 1)
            shape = (2 * OWN * S, f)
            to = matrix(rows[..., 0], self.numbers, np.ones(self.numbers.shape), shape)
            back = transposed(to[:, self.free])
            for end, arms in enumerate(self.arms):
                found.append((matrix(rows, self.numbers[:, None], arms, shape), back, end))
        return found

    @functools.cached_property
    def arms(self) -> tuple[Array, Array]:
        """What an axial force of one at the start, and at the end, adds as arms turn, (S, 24, 24).

        A length of one element has all of it at its start.
        """
        of = self.model.arms
        return of[self.first], of[self.last] * (self.count > 1)[:, None, None]

    def own(self, moved: Array) -> Array:
        """Return the movements of the lengths' ends, (12, S, C), of all freedoms, (f, C)."""
        return np.asarray(self._turning @ moved).reshape(OWN, len(self.first), moved.shape[1])

    @functools.cached_property
    def stretching(self) -> Any:
        """From the freedoms to the lengths' stretches: a matrix, (S, f)."""
        rows = np.arange(len(self.first))[:, None, None]
        return matrix(rows, self.numbers[:, None], self.stretches[:, None],
                      (len(self.first), self.freedoms))  # fmt: skip

    def stretch(self, moved: Array) -> Array:
        """Return by how much movements of all freedoms, (f, C), stretch lengths, (S, C)."""
        return np.asarray(self.stretching @ moved)

    def resistance(self, moved: Array, standing: Standing) -> Array:
        """Return what the free freedoms resist movements with, (n, C); these of all, (f, C)."""
        found = self.on_free(standing.forces(self.own(moved)))
        self._add_beside(found, moved, standing)
        return found

    def left(self, load: Array, moved: Array, standing: Standing) -> Array:
        """Return what movements leave of loads on all of the model's freedoms, (n, C).

        What acts between joints is among these.
        """
        forces = standing.forces(self.own(moved))
        forces -= standing.ends
        found = self.on_free(forces)
        self._add_beside(found, moved, standing)
        found *= -1.0
        found += load[self.kept[self.free]]
        return found

    def _add_beside(self, found: Array, moved: Array, standing: Standing) -> None:
        """Add what resists movements beside the lengths."""
        for of_lengths, back, end in self._beside:
            if end is None:
                found += np.asarray(back @ moved)
                continue
            parts = np.asarray(of_lengths @ moved)
            each = parts.reshape(len(self.first), 2 * OWN, moved.shape[1])
            each *= standing.pulls[end][:, None]
            found += np.asarray(back @ parts)

    def resistance_of_free(self, moved: Array, standing: Standing) -> Array:
        """Return the same, of movements of the free freedoms alone, (n, C)."""
        if self._beside:
            whole = np.zeros((self.freedoms, moved.shape[1]))
            whole[self.free] = moved
            return self.resistance(whole, standing)
        own = np.asarray(self._turning_free[0] @ moved).reshape(
            OWN, len(self.first), moved.shape[1]
        )
        return self.on_free(standing.forces(own))

    def on_free(self, forces: Array) -> Array:
        """Return what forces at the lengths' ends, (12, S, C), are in the free freedoms, (n, C)."""
        flat = forces.reshape(OWN * len(self.first), forces.shape[-1])
        return np.asarray(self._turning_free[1] @ flat)

    def in_freedoms(self, standing: Standing) -> Array:
        """Return the stiffness of lengths under one load in their freedoms, (S, 24, 24)."""
        k = np.zeros((len(self.first), OWN, OWN))
        ways = np.zeros((len(self.first), 3, 4))  # of deflections and slopes of both ends
        ways[:, APART, [1, 3]], ways[:, LEANS, [0, 2]] = (1, -1), (-1, 1)
        ways[:, ALIKE] = np.array([1, 0, -1, 0]) * (2 / standing.spans) + np.array([0, 1, 0, 1])
        stiff = np.zeros((len(self.first), 3, 3))
        for axis, own in enumerate(np.array(ORDER[BENDING]).reshape(4, 2).T):
            stiff[:, range(3), range(3)] = standing.bending[:, axis, :, 0].T
            for (i, j), beside in zip(BESIDE, standing.beside[:, axis, :, 0], strict=True):
                stiff[self.cut, i, j] = stiff[self.cut, j, i] = beside
            k[:, own[:, None], own] = np.swapaxes(ways, 1, 2) @ stiff @ ways
        for at, stiff in ((0, standing.axial[:, 0]), (5, standing.torsion[:, 0])):
            k[:, at, at] = k[:, at + 6, at + 6] = stiff
            k[:, at, at + 6] = k[:, at + 6, at] = -stiff
        found = np.swapaxes(self.turn, 1, 2) @ k @ self.turn
        return found + self.joined if self.has_springs else found

    @functools.cached_property
    def _elastic_in_freedoms(self) -> Array:
        return self.in_freedoms(self.standing(*self.at_ease))

    def first_order(self, load: Array, imposed: Array, between: Between) -> tuple[Array, Array]:
        """Return how the freedoms move to the first order, (f, C), and with what energy, (C,).

        Parameters
        ----------
        load, imposed : array, shape (F, C)
            On the model's freedoms, and how far its supports move.
        between : Between
            What the loads bring between joints.

        Raises
        ------
        Mechanism
            If a motion meets no resistance, in the model's freedoms.
        """
        standing = self.standing(*self.at_ease, between=between)
        moved = imposed[self.kept] * self.held[:, None]
        acts = self.on_joints(load, standing)
        if moved.any():
            acts -= self.resistance(moved, standing)
        try:
            found = self.elastic.factored(self.held)(acts)
        except Mechanism as mechanism:
            raise Mechanism(functools.partial(self._of_model, mechanism.found)) from None
        moved[self.free] = found
        return moved, (acts * found).sum(axis=0) + standing.energy

    def _of_model(self, found: Callable[[], tuple[int, Array]]) -> tuple[int, Array]:
        """Return a motion without resistance in the model's freedoms."""
        freedom, motion = found()
        still = self.between(np.zeros((self.model.freedoms, 1)))
        whole = self.whole(motion[:, None], *self.at_ease, None, still)
        return int(self.kept[freedom]), whole[:, 0]

    def on_joints(self, load: Array, standing: Standing) -> Array:
        """Return loads on the free freedoms, (n, C), what is brought there from between too."""
        return np.asarray(load[self.kept[self.free]] + self.on_free(standing.ends))

    @functools.cached_property
    def elastic(self) -> Stiffness:
        """The stiffness of the whole, where nothing is slack nor softened."""
        return self.assembled(self._elastic_in_freedoms)

    def assembled(self, of_lengths: Array) -> Stiffness:
        """Return the stiffness of the whole of lengths', (S, 24, 24), springs among it."""
        return Stiffness.assembled(
            self.numbers, of_lengths, self.springs, self.freedoms, self.places
        )

    def summed(self, numbers: Indices) -> Summed:
        """Return where entries of parts between freedoms go in matrices of the free ones."""
        if id(numbers) not in self._summed:
            self._summed[id(numbers)] = Summed(numbers, self.held)
        return self._summed[id(numbers)]

    def matrix(self, of_lengths: Array) -> Any:
        """Return the stiffness of the free freedoms, CSC, of lengths', springs among it."""
        springs = np.zeros(self.freedoms)
        springs[list(self.springs)] = list(self.springs.values())
        return self.summed(self.numbers).of(of_lengths, springs[self.free])

    def carrying(self, carries: Array) -> Array:
        """Return the stiffness of the lengths in their freedoms, with what elements carry, (E,)."""
        less = (1.0 - carries[self.first]) * self.axial
        slack, stretch = np.flatnonzero(less), self.stretches
        found = self._elastic_in_freedoms
        if len(slack):
            found = found.copy()
            along = stretch[slack]
            found[slack] -= less[slack, None, None] * along[:, :, None] * along[:, None]
        return found
