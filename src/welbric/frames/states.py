"""What acts on a frame, and what it does: loads and states, and the solution of one stiffness."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.frames.condensed import Condensed
from welbric.frames.loads import Loading
from welbric.frames.model import Model, of_loads, own_movements


@dataclass(frozen=True)
class State:
    """What a frame does under each of C loads.

    Attributes
    ----------
    moved : array, shape (6 n, C)
    forces : array, shape (E, 12, C)
        At the elements' ends, in their own freedoms.
    movements : array, shape (E, 12, C)
        Of the ends themselves, releases among them.
    carries : array, shape (E, C)
        The share of its axial stiffness that each element has: nearly none where it would carry
        what it does not.
    bulges : array, shape (5, 2, E, C), optional
        How far elements bulge beyond what ends and loads bend them, to the second order.
    """

    moved: Array
    forces: Array
    movements: Array
    carries: Array
    bulges: Array | None = None

    @cached_property
    def N(self) -> Array:
        """The mean axial force of each element, tension positive, shape (E, C)."""
        return np.asarray(0.5 * (self.forces[:, 6] - self.forces[:, 0]))

    @cached_property
    def largest(self) -> tuple[Array, Array]:
        """The largest force and moment at any element's end, shape (C,) each."""
        size = np.abs(self.forces).max(axis=0, initial=0.0)
        turns = [at + end for end in (0, 6) for at in (2, 4, 5)]
        moves = [at + end for end in (0, 6) for at in (0, 1, 3)]
        return size[moves].max(axis=0), size[turns].max(axis=0)

    @classmethod
    def of_motion(cls, model: Model, moved: Array, bulges: Array | None = None) -> State:
        """Return movements of the freedoms, (F, C), and bulges, without any forces."""
        own = own_movements(model, moved)
        whole = np.ones((len(own), moved.shape[1]))
        return cls(moved, np.zeros_like(own), own, whole, bulges)

    def taken(self, which: Any) -> State:
        """Return some of the loads."""
        bulges = None if self.bulges is None else of_loads(self.bulges, which)
        moved, carries = of_loads(self.moved, which), of_loads(self.carries, which)
        forces, movements = of_loads(self.forces, which), of_loads(self.movements, which)
        return State(moved, forces, movements, carries, bulges)


@dataclass(frozen=True)
class Stands:
    """What the stiffness of a frame stands on under each of C loads, of its E elements.

    Attributes
    ----------
    N : array, shape (E, C)
        Axial forces times the level, tension positive.
    carries : array, shape (E, C)
        The share of its axial stiffness that each has.
    bends : array, shape (E, C), optional
        The share of its stiffness in bending; all of it by default.
    """

    N: Array
    carries: Array
    bends: Array | None = None

    def taken(self, which: Any) -> Stands:
        """Return some of the loads."""
        bends = None if self.bends is None else of_loads(self.bends, which)
        return Stands(of_loads(self.N, which), of_loads(self.carries, which), bends)

    @property
    def least(self) -> Stands:
        """What leaves no more stiffness than any of the loads does, of one load."""
        bends = None if self.bends is None else self.bends.min(axis=1, keepdims=True)
        N, carries = (one.min(axis=1, keepdims=True) for one in (self.N, self.carries))
        return Stands(N, carries, bends)

    def __le__(self, other: Stands) -> bool:
        """Whether nothing of it leaves more stiffness than of another of as many loads."""
        own, others = (1.0 if one.bends is None else one.bends for one in (self, other))
        return bool(
            (self.N <= other.N).all()
            and (self.carries <= other.carries).all()
            and np.all(own <= others)
        )

    @property
    def parts(self) -> tuple[Array, Array, Array | None]:
        """Its parts, in their order."""
        return self.N, self.carries, self.bends

    def put(self, which: Any, other: Stands) -> None:
        """Have others in place of some."""
        self.N[:, which], self.carries[:, which] = other.N, other.carries
        if self.bends is not None:
            self.bends[:, which] = other.bends


@dataclass(frozen=True)
class Loads:
    """What C loads do: at clamped ends of elements, on nodes, and how far supports move.

    Attributes
    ----------
    fixed : array, shape (E, 12, C)
    nodal, imposed : array, shape (F, C)
    """

    fixed: Array
    nodal: Array
    imposed: Array

    @classmethod
    def combined(cls, loading: Loading, factors: Array) -> Loads:
        """Return combinations of load cases; ``factors`` has shape (C, L)."""
        return cls(loading.fixed @ factors.T, loading.nodal @ factors.T,
                   loading.imposed @ factors.T)  # fmt: skip

    def taken(self, which: Any) -> Loads:
        """Return some of them."""
        return Loads(*(of_loads(one, which) for one in (self.fixed, self.nodal, self.imposed)))


def solve(model: Model, loads: Loads) -> State:
    """Return what a frame does under loads to the first order.

    Raises
    ------
    Mechanism
        If something moves without resistance.
    """
    k, joints = model.stiffness(), model.kept(Condensed)
    load = loads.nodal - model.on_nodes(loads.fixed)
    between = joints.between(load)
    moved, _ = joints.first_order(load, loads.imposed, between)
    moved = joints.whole(moved, *joints.at_ease, None, between)
    own = own_movements(model, moved)
    return State(moved, k @ own + loads.fixed, own, np.ones((len(model.ends), load.shape[1])))
