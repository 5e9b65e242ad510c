"""The second order of a frame: every combination on the frame as it leans under it, all at once.

The equations are those of the joints, and of ends that move apart from these: what stands between
is condensed out of each combination. The elastic stiffness is factored once; conjugate gradients
that begin with it need few steps, for what they invert is one less the shares of the critical
loads. A direction in which the frame has no stiffness left shows itself on the way.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.analysis.threads import on_one_thread
from welbric.frames.beam_columns import ENDS, BeamColumns, Off
from welbric.frames.bows import bows
from welbric.frames.condensed import Condensed
from welbric.frames.critical import critical_shares, stand, sways_beyond
from welbric.frames.imperfections import nudges, out_of_plumb
from welbric.frames.lengths import Standing
from welbric.frames.loads import Loading
from welbric.frames.model import FREEDOMS, TWIST, Indices, Model, of_loads, own_movements
from welbric.frames.slack import Slackened
from welbric.frames.states import Loads, Stands, State
from welbric.frames.storeys import largest_drifts
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination
from welbric.members.load_cases import Criticality

CLOSE = 1e-8  # of the largest axial force: the second order has converged
STEPS = 40
CALM = 8  # steps after which members that carry one way change one by one
EXACT = 1e-11  # of the energy of the loads that a solution leaves, its root
ROUGH = 1e-6  # the same while axial forces, or what is slack, still change
AHEAD = 1e-3  # of what axial forces changed by last, that a solution is as exact as
GRADIENTS = 500
OFTEN = 2  # of those, after which axial forces follow
MOST = 0.99  # of the sway load, that is amplified by: beyond, nothing passes anyway
FAR = 0.02  # of the frame's size, that it moves the way that it gives
SLACK = 1e-6  # of its axial stiffness that a slack member keeps
LIMP = 1e-3  # of its stiffness in bending that what is crushed keeps; nothing passes then
# Axial forces at the level, (E, C) -> what is left of the stiffness in bending.
Softening = Callable[[Array], Array]


@dataclass(frozen=True)
class SecondOrder:
    """Combinations to the second order.

    Attributes
    ----------
    state : State of C combinations
        Of the first order where one is beyond its critical load.
    factors : array, shape (C, L)
    critical : Criticality
        By the loads over those at which the frame buckles, or to the first order sways.
    beyond : array of bool, shape (C,)
        Which combinations are beyond their critical load, to the second order.
    N : array, shape (E, C)
        What its geometric stiffness stands on, times the level; of the first order where there
        is no equilibrium.
    pushed : array, shape (F, C)
        What stands for the frame out of plumb.
    find_first : callable
        Finds how the freedoms move to the first order, out of plumb too, (F, C).
    is_second : bool
        Else the state is of the first order, and critical is where the frame sways.
    bends : array, shape (E, C), optional
        What is left of the elements' stiffness in bending, where compression takes of it.
    bowed : array, shape (E, 12, C), optional
        Where members bow from the start, axial forces times how elements' ends stand off the
        straight line.
    unbowed : array of bool, shape (C,), optional
        Where members would have to bow from the start, and the analysis is none that takes it.
    """

    state: State
    factors: Array
    critical: Criticality
    beyond: Flags
    N: Array
    pushed: Array
    find_first: Callable[[], Array]
    is_second: bool = True
    bends: Array | None = None
    bowed: Array | None = None
    unbowed: Flags | None = None

    @classmethod
    def joined(cls, first: SecondOrder, then: SecondOrder, order: Any) -> SecondOrder:
        """Return the combinations of two results, in an order of them all."""

        def of(one: Any, other: Any) -> Any:
            """Return the columns of both; of what one of them has not, zeros."""
            if one is None and other is None:
                return None
            one = (
                np.zeros((*other.shape[:-1], len(first.beyond)), other.dtype)
                if one is None
                else one
            )
            other = (
                np.zeros((*one.shape[:-1], len(then.beyond)), one.dtype) if other is None else other
            )
            return np.concatenate([one, other], axis=-1)[..., order]

        def states(one: State, other: State) -> State:
            return State(*(of(getattr(one, f.name), getattr(other, f.name)) for f in fields(State)))

        def shares() -> Array:
            return np.asarray(np.concatenate([first.share, then.share])[order])

        critical = Criticality(first.critical.exceeds or then.critical.exceeds, shares)
        return cls(
            states(first.state, then.state),
            np.concatenate([first.factors, then.factors])[order],
            critical,
            of(first.beyond, then.beyond),
            of(first.N, then.N),
            of(first.pushed, then.pushed),
            lambda: of(first.first_moved, then.first_moved),
            first.is_second,
            of(first.bends, then.bends),
            of(first.bowed, then.bowed),
            of(first.unbowed, then.unbowed),
        )

    @functools.cached_property
    def first_moved(self) -> Array:
        """How the freedoms move to the first order, shape (F, C)."""
        return self.find_first()

    @property
    def share(self) -> Array:
        """The load over the critical one, shape (C,)."""
        return self.critical.shares

    @property
    def on(self) -> Stands:
        """What the stiffness stands on."""
        return Stands(self.N, self.state.carries, self.bends)


@on_one_thread
def second_order(
    frame: FrameOf,
    model: Model,
    loading: Loading,
    first: State,
    combinations: Sequence[Combination],
    level: float,
    plumb: bool = False,
) -> SecondOrder:
    """Analyse each combination on the frame as it leans under it.

    The geometric stiffness of the axial forces times the level is found again until they stay, and
    so is which members carry that carry one way only. ``plumb`` leaves out what stands for the
    frame out of plumb. Where the frame is analysed to the first order, it stands as it is drawn.
    ``first`` is what every case does to the first order, in plumb.
    """
    factors = np.array([[key.factor(c) for key in loading.keys] for c in combinations])
    factors = factors.reshape(len(combinations), len(loading.keys))
    loads = Loads.combined(loading, factors)
    pushed = np.zeros_like(loads.nodal)
    N = first.N @ factors.T
    if not plumb:
        pushed = out_of_plumb(
            frame, model, combinations, loading, factors, N,
            _less(frame, model, N, level), _by_drift(frame, model, first, factors),
        )  # fmt: skip
    if model.one_way.any():
        pushed += nudges(frame, model, loading, factors, pushed)
    softening = None if plumb else _softening(frame, model)
    of_cases = loading.nodal - model.on_nodes(loading.fixed)
    leaning = _Leaning(
        model, loads, of_cases @ factors.T + pushed, loading.off.combined(factors), softening
    )
    senses = np.array([one.bows for one in combinations])
    if frame.job.frame.second_order != "analysed":
        state = leaning.first
        N = level * state.N
        share = critical_shares(model, Stands(N, state.carries), swaying=True)
        unbowed = None
        if frame.job.frame.second_order == "amplified sway":
            if frame.job.frame.imperfections:
                off = bows(
                    frame,
                    model,
                    state,
                    leaning.off,
                    senses,
                    lambda which, limit: share[which] > limit,
                )
                unbowed = None if off is None else np.any(off, axis=(0, 1))
            state = leaning.amplified(share)
        return SecondOrder(state, factors, Criticality.of(share), share > 1, N, pushed,
                           leaning.first_moved, is_second=False, unbowed=unbowed)  # fmt: skip
    found, bowed = leaning.settled(level), None
    rests: State | None = None
    if frame.job.frame.imperfections and not plumb:
        rests, on = leaning.state(found.moved, found.on), found.on
        off = bows(frame, model, rests, leaning.off, senses,
                   lambda which, limit: sways_beyond(model, on.taken(which), limit))  # fmt: skip
        if off is not None:
            leaning.bow(off / level)
            found, rests = leaning.settled(level, found), None
            bowed = found.on.N[:, None] * off / level
    critical = _critical(model, found)
    lost = found.lost | (critical.shares >= 1.0 if critical.exceeds else False)
    bowed = None if bowed is None else bowed * ~lost
    state = rests or leaning.state(found.moved, found.on)
    if lost.any():
        first = leaning.first
        bulges = None if state.bulges is None else np.where(lost, 0.0, state.bulges)
        moved, forces, movements, carries = (
            np.where(lost, getattr(first, name), getattr(state, name))
            for name in ("moved", "forces", "movements", "carries")
        )
        state = State(moved, forces, movements, carries, bulges)
    return SecondOrder(state, factors, critical, lost, found.on.N, pushed, leaning.first_moved,
                       bends=found.on.bends, bowed=bowed)  # fmt: skip


def _critical(model: Model, found: _Settled) -> Criticality:
    """Return how near combinations are to their critical loads.

    What compresses every element most, in whichever combination, is nearer than any of them: where
    that stands, all of them do; else each is looked at by itself.
    """
    on = found.on

    def shares() -> Array:
        share = critical_shares(model, on)
        share[found.lost] = np.maximum(share[found.lost], 1.0 + 1e-6)
        return share

    bounded = not model.arms.any() and not found.lost.any()
    if bounded and on.N.size and stand(model, on):
        return Criticality(exceeds=False, find=shares)
    return Criticality.of(shares())


def _softening(frame: FrameOf, model: Model) -> Softening | None:
    """Return what axial forces at the level, (E, C), leave of the stiffness in bending."""
    code, options = frame.code
    share = code.second_order.flexural_share
    if share(options, np.zeros((1, 1)), np.ones((1, 1))) is None:
        return None
    squash = np.zeros((len(model.ends), 1))
    for chain in model.chains.values():
        member = chain.member
        loads = np.array([
            code.second_order.squash(section, member.as_if_all(section).strengths.Fy)
            for _, _, section in member.stretches
        ])  # fmt: skip
        middle = 0.5 * (chain.places[:-1] + chain.places[1:])
        squash[chain.elements, 0] = loads[np.searchsorted([b for _, b, _ in member.stretches],
                                                          middle)]  # fmt: skip
    return lambda N: np.maximum(share(options, N, squash), LIMP)


def _less(frame: FrameOf, model: Model, N: Array, level: float) -> float | None:
    """Return how much combinations that push a frame lean, where its sway lets them lean less."""
    code, options = frame.code
    rule = code.second_order.pushed_besides(options)
    if rule is None or not N.size or model.one_way.any():  # how it sways is found later there
        return None
    most, share = rule
    softening = _softening(frame, model)
    bends = None if softening is None else softening(level * N)
    sways = critical_shares(model, Stands(level * N, np.ones_like(N), bends), swaying=True)
    return share if float(sways.max(initial=0.0)) <= most else None


def _by_drift(frame: FrameOf, model: Model, first: State, factors: Array) -> Array | None:
    """Return the share of gravity loads that acts sideways where it goes by the drift, (C,)."""
    code, options = frame.code
    rule = code.second_order.by_first_order
    if rule is None or not rule.chosen(options):
        return None
    drifts = largest_drifts(frame, model, first.moved @ factors.T)
    return np.asarray(rule.sideways(options, drifts))


def _work(forces: Array, movements: Array) -> Array:
    """Return the work of forces on movements, (C,)."""
    return np.asarray(np.einsum("ic,ic->c", forces, movements))


@dataclass(frozen=True)
class _Settled:
    """Movements, what the stiffness stands on; which found no rest."""

    moved: Array
    on: Stands
    lost: Flags


class _Leaning:
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

    def settled(self, level: float, start: _Settled | None = None) -> _Settled:
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

    def _rested(self, level: float, moved: Array, on: Stands, lost: Flags, todo: Any) -> _Settled:
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
        return _Settled(moved, on, lost)

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
