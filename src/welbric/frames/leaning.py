"""A frame that leans: the movements of many loads, each with a stiffness of its own, at rest.

The equations are those of the joints, and of ends that move apart from these: what stands between
is condensed out of each combination. The elastic stiffness is factored once; conjugate gradients
that begin with it need few steps, for what they invert is one less the shares of the critical
loads. A direction in which the frame has no stiffness left shows itself on the way.
"""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.frames.beam_columns import ENDS, BeamColumns, Off
from welbric.frames.condensed import Condensed
from welbric.frames.lengths import Standing
from welbric.frames.model import FREEDOMS, TWIST, Indices, Model, of_loads, own_movements
from welbric.frames.slack import Slackened
from welbric.frames.states import Loads, Stands, State

CLOSE = 1e-8  # of the largest axial force: the second order has converged
STEPS = 40
CALM = 8  # steps after which members that carry one way change one by one
EXACT = 1e-12  # of the energy of the loads that a solution leaves, its root
ROUGH = 1e-6  # the same while axial forces, or what is slack, still change
AHEAD = 1e-3  # of what axial forces changed by last, that a solution is as exact as
GRADIENTS = 500
OFTEN = 2  # of those, after which axial forces follow
MOST = 0.99  # of the sway load, that is amplified by: beyond, nothing passes anyway
FAR = 0.02  # of the frame's size, that it moves the way that it gives
SLACK = 1e-6  # of its axial stiffness that a slack member keeps
# Axial forces at the level, (E, C) -> what is left of the stiffness in bending.
Softening = Callable[[Array], Array]


def _work(forces: Array, movements: Array) -> Array:
    """Return the work of forces on movements, (C,)."""
    return np.asarray(np.einsum("ic,ic->c", forces, movements))


@dataclass(frozen=True)
class Settled:
    """Movements, what the stiffness stands on; which found no rest."""

    moved: Array
    on: Stands
    lost: Flags


class Leaning:
    """A frame under C loads, with a stiffness of its own under each.

    Parameters
    ----------
    model : Model
    loads : Loads
    load : array, shape (F, C)
        These on the freedoms, and what stands for the frame out of plumb.
    off : Off
    softening : callable, optional
    """

    def __init__(
        self, model: Model, loads: Loads, load: Array, off: Off, softening: Softening | None
    ) -> None:
        self.model, self.loads, self.load = model, loads, load
        self.off, self.softening = off, softening
        self.bending = model.kept(BeamColumns)
        self.joints = model.kept(Condensed)
        self.invert = self.joints.elastic.factored(self.joints.held)
        self.slackened = Slackened(self.joints, self.invert) if model.one_way.any() else None
        self.between = self.joints.between(self.load)
        self.pulls = 0.5 * (loads.fixed[:, 6] - loads.fixed[:, 0])
        self.moved, self.energy = self.joints.first_order(self.load, loads.imposed, self.between)

    @functools.cached_property
    def first(self) -> State:
        """What the loads do to the first order."""
        none = np.zeros((len(self.model.ends), self.load.shape[1]))
        return self.state(self.moved, Stands(none, none + 1.0))

    def first_moved(self) -> Array:
        """Return how all freedoms move to the first order, (F, C)."""
        return self.joints.whole(self.moved, *self.joints.at_ease, None, self.between)

    def _ends(self, own: Array, on: Stands) -> tuple[Array, Array]:
        """Return the forces that elements' own movements bring at their ends, (E, 12, C).

        And how far elements bulge, (5, 2, E, C).
        """
        model, forces = self.model, np.empty_like(own)
        bent, bulges = self.bending.ends_and_bulges(own, on.N, on.bends, self.off)
        forces[:, ENDS] = bent.reshape(4, 2, *bent.shape[3:]).transpose(2, 1, 0, 3)
        for at, stiff in ((0, model.EA[:, None] * on.carries), (TWIST, model.GJ[:, None])):
            forces[:, at + 6] = stiff / model.lengths[:, None] * (own[:, at + 6] - own[:, at])
            forces[:, at] = -forces[:, at + 6]
        return forces, bulges

    def state(self, moved: Array, on: Stands) -> State:
        """Return the state of movements of joints."""
        whole = self.joints.whole(moved, *on.parts, self.between, self.off)
        own = own_movements(self.model, whole)
        forces, bulges = self._ends(own, on)
        forces += self.loads.fixed
        return State(whole, forces, own, on.carries, bulges if on.N.any() else None)

    def bow(self, off: Array) -> None:
        """Have members bow from the start: how elements' ends stand off the line, (E, 12, C)."""
        self.off = self.off.bowed(self.bending.bowed(off))

    def solved(
        self, which: Indices, start: Array, on: Stands, exact: Any = EXACT,
        level: float | None = None,
    ) -> tuple[Array, Flags]:  # fmt: skip
        """Solve some of the loads, from movements to start with; say which have no solution.

        Those are moved far the way that they give. ``exact`` is the root of the energy that is
        left, over that of the loads: of all, or of each, (C,). With a ``level`` the axial forces
        follow the movements on the way: what the stiffness stands on in the end is put in ``on``.
        """
        joints, moved = self.joints, start.copy()
        standing, left = self._left(which, moved, on)
        inverse: Callable[[Array, Any], Array] = lambda load, _: self.invert(load)  # noqa: E731
        if self.slackened is not None:
            inverse = self.slackened.inverse(on.carries[joints.first])
        towards = inverse(left, np.arange(left.shape[1]))
        size = _work(left, towards)
        # What supports that move bring is work too.
        least = exact**2 * np.maximum(self.energy[which], size)
        lost = standing.buckled.copy()
        going, step, way = np.arange(len(size)), towards, np.zeros_like(left)
        stands = going  # of which the stiffness is at hand: fewer where half of them have gone
        for k in range(GRADIENTS):
            goes = (size[going] > least[going]) & ~lost[going]
            if not goes.all():
                going, step, left = going[goes], of_loads(step, goes), of_loads(left, goes)
            if not len(going):
                break
            if 2 * len(going) <= len(stands):
                standing = standing.taken(np.searchsorted(stands, going))
                stands = going
            some: Any = going if len(going) < len(size) else slice(None)  # a view, no copy
            if len(going) < len(stands):
                at = np.searchsorted(stands, going)
                whole = np.zeros((len(step), len(stands)))
                whole[:, at] = step
                resists = of_loads(joints.resistance_of_free(whole, standing), at)
            else:
                resists = joints.resistance_of_free(step, standing)
            work = _work(step, resists)
            loose = work <= 0
            if loose.any():
                lost[going[loose]] = True
                way[:, going[loose]] += self._away(step[:, loose])
            share = np.where(work > 0, size[going] / np.where(work > 0, work, 1.0), 0.0)
            part = share * step
            way[:, some] += part
            left -= np.multiply(share, resists, out=part)
            if level is not None and k % OFTEN == 1:
                now = of_loads(moved, going)
                now[joints.free] += way[:, going]
                if self._follow(level, which[going], going, now, on):
                    standing, left = self._left(which[going], now, on.taken(going))
                    lost[going] |= standing.buckled
                    stands = going
                else:
                    level = None
            towards = inverse(left, going)
            # Conjugate to the step before, though axial forces have changed since.
            step *= -share / size[going] * _work(resists, towards)
            step += towards
            size[going] = _work(left, towards)
        moved[joints.free] += way
        return moved, lost | (size > least)

    def _left(self, which: Any, moved: Array, on: Stands) -> tuple[Standing, Array]:
        """Return what lengths resist, and what of the loads movements leave, (n, C)."""
        if len(on.N.T) == self.load.shape[1]:
            which = slice(None)  # all of them: no copies
        between, off = self.between.taken(which), self.off.taken(which)
        standing = self.joints.standing(*on.parts, between, off)
        left = self.joints.left(of_loads(self.load, which), moved, standing)
        return standing, left

    def _follow(self, level: float, which: Any, at: Indices, moved: Array, on: Stands) -> bool:
        """Have the stiffness stand on the axial forces of movements; return whether they changed.

        ``at`` is where the loads stand in ``on``.
        """
        before = on.taken(at)
        new = level * self.axial_forces(moved, before.carries, which)
        on.put(at, self._on(new, before.carries))
        return not self._stay(new, before.N, 0.1 * CLOSE).all()

    @staticmethod
    def _stay(new: Array, before: Array, close: float) -> Flags:
        """Return in which loads axial forces, (E, C), are the same."""
        largest = np.maximum(np.abs(new).max(axis=0, initial=0.0), 1.0)
        return np.asarray(np.abs(new - before).max(axis=0, initial=0.0) <= close * largest)

    def _away(self, way: Array) -> Array:
        """Return a movement far along a way in which nothing resists."""
        model = self.model
        whole = np.zeros((self.joints.freedoms, way.shape[1]))
        whole[self.joints.free] = way
        of_joints = whole[: FREEDOMS * len(model.joints)].reshape(-1, FREEDOMS, way.shape[1])
        most = np.abs(of_joints[:, :3]).max(axis=(0, 1), initial=0.0)
        tall = float(np.ptp(model.places, axis=0).max())
        return np.asarray(way * (FAR * tall / np.where(most > 0, most, 1.0)))

    def amplified(self, share: Array) -> State:
        """Return the first order, with what makes the frame sway times 1 / (1 - share).

        That is what it does beyond what it would, were all of its joints held along x and y.
        """
        model = self.model
        held = model.held.copy()
        joints = np.array(list(model.joints.values()))
        held[(FREEDOMS * joints[:, None] + np.array([0, 1])).ravel()] = True
        known = {i: self.loads.imposed[i] for i in np.flatnonzero(held).tolist()}
        none = np.zeros_like(self.first.N)
        moved = model.elastic.solved(self.load, known)
        still = self.state(moved[self.joints.kept], Stands(none, none + 1.0))
        more = 1 / (1 - np.minimum(share, MOST)) - 1
        beyond = {
            name: getattr(self.first, name)
            + more * (getattr(self.first, name) - getattr(still, name))
            for name in ("moved", "forces", "movements")
        }
        return replace(self.first, **beyond)

    def axial_forces(self, moved: Array, carries: Array, which: Any) -> Array:
        """Return the mean axial force of each element, tension positive, (E, C)."""
        stretch, between = self.joints.stretch(moved), self.between.taken(which)
        return self.joints.axial_forces(stretch, carries, between) + of_loads(self.pulls, which)

    def settled(self, level: float, start: Settled | None = None) -> Settled:
        """Return the movements in which axial forces stay, and what is slack.

        ``start`` is what to start with, of which what is lost stays so.
        """
        every = np.arange(self.moved.shape[1])
        if start is not None:
            lost = start.lost.copy()
            return self._rested(level, start.moved.copy(), start.on, lost, every[~lost])
        moved = self.moved.copy()
        carries, todo = self._carrying(moved, np.ones((len(self.model.ends), len(every)))), every
        none = np.zeros_like(carries)
        for _ in range(STEPS if self.model.one_way.any() else 0):
            # To the first order to begin with: where gravity slackens both braces of a bay, what
            # sways then tightens one; without it the frame would seem beyond its critical load.
            own = of_loads(carries, todo)
            first = Stands(of_loads(none, todo), own)
            found, _ = self.solved(todo, of_loads(moved, todo), first, ROUGH)
            moved[:, todo], carries[:, todo] = found, self._carrying(found, own)
            todo = todo[(carries[:, todo] != own).any(axis=0)]
            if not len(todo):
                break
        on = self._on(level * self.axial_forces(moved, carries, every), carries)
        return self._rested(level, moved, on, np.zeros(len(every), dtype=bool), every)

    def _rested(self, level: float, moved: Array, on: Stands, lost: Flags, todo: Any) -> Settled:
        todo = self._followed(level, moved, on, todo)
        exact = np.full(moved.shape[1], ROUGH)
        for step in range(STEPS):
            if not len(todo):
                break
            at = on.taken(todo)
            found, out = self.solved(todo, of_loads(moved, todo), at, exact[todo])
            moved[:, todo] = found
            new = level * self.axial_forces(found, at.carries, todo)
            now = self._carrying(found, at.carries, one_by_one=step >= CALM)
            apart = np.abs(new - at.N).max(axis=0, initial=0.0)
            largest = np.maximum(np.abs(new).max(axis=0, initial=0.0), 1.0)
            stays = (now == at.carries).all(axis=0)
            rests = stays & (apart <= CLOSE * largest) & (exact[todo] <= EXACT)
            ahead = np.clip(AHEAD * apart / largest, EXACT, ROUGH)
            exact[todo] = np.where(stays & (apart <= ROUGH * largest), EXACT, ahead)
            # What gives way does so until something slack is tight: then it may stand again.
            caught = out & (now != at.carries).any(axis=0)
            moved[:, todo[out]] = self.moved[:, todo[out]]
            lost[todo[out & ~caught]] = True
            on.carries[:, todo[caught]] = now[:, caught]
            more = ~out & ~rests
            on.put(todo[more], self._on(of_loads(new, more), of_loads(now, more)))
            todo = todo[more | caught]
        lost[todo] = True
        if lost.any():
            self._as_first(level, np.flatnonzero(lost), on)
        return Settled(moved, on, lost)

    def _as_first(self, level: float, which: Indices, on: Stands) -> None:
        """Have what finds no rest stand on the axial forces of the first order.

        The last that were tried tell nothing: how far beyond its critical load a frame is would
        go by how the search went.
        """
        carries = of_loads(on.carries, which)
        N = level * self.axial_forces(of_loads(self.moved, which), np.ones_like(carries), which)
        on.put(which, self._on(np.where(carries < 1.0, 0.0, N), carries))

    def _followed(self, level: float, moved: Array, on: Stands, todo: Indices) -> Indices:
        """Put in place what comes to rest as axial forces follow it; return what does not.

        That begins anew: axial forces on the way may be beyond what the frame carries.
        """
        if not len(todo):
            return todo
        at = on.taken(todo)
        found, out = self.solved(todo, of_loads(moved, todo), at, EXACT, level)
        new = level * self.axial_forces(found, at.carries, todo)
        rests = ~out & self._stay(new, at.N, CLOSE)
        rests &= (self._carrying(found, at.carries) == at.carries).all(axis=0)
        moved[:, todo[rests]] = found[:, rests]
        on.put(todo[rests], at.taken(rests))
        return todo[~rests]

    def _on(self, N: Array, carries: Array) -> Stands:
        """Return what the stiffness stands on, with what compression leaves of it."""
        return Stands(N, carries, None if self.softening is None else self.softening(N))

    def _carrying(self, moved: Array, before: Array, one_by_one: bool = False) -> Array:
        """Return the share of its axial stiffness that each element has, (E, C).

        A member that carries one way only is slack where the line of its ends is shorter (or
        longer). ``one_by_one`` changes the member alone that is farthest from what it was taken
        as, where all at once would go round in circles.
        """
        model = self.model
        found = before.copy()
        if not model.one_way.any():
            return found
        longer_by = self.joints.stretch(moved)
        ways = [
            (chain.elements, int(model.one_way[chain.elements.start]))
            for chain in model.chains.values()
        ]
        ways = [(elements, way) for elements, way in ways if way]
        longer = np.array([
            way * longer_by[self.joints.of(elements)].sum(axis=0) for elements, way in ways
        ])  # fmt: skip
        wanted = np.where(longer < 0, SLACK, 1.0)
        if one_by_one:
            now = np.array([before[elements.start] for elements, _ in ways])
            off = np.where(wanted != now, np.abs(longer), 0.0)
            farthest = off == off.max(axis=0)
            wanted = np.where(farthest & (off > 0), wanted, now)
        for (elements, _), share in zip(ways, wanted, strict=True):
            found[elements] = share
        return found
