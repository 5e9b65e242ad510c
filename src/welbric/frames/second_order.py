"""The second order of a frame: every combination on the frame as it leans under it, all at once."""

from __future__ import annotations

import functools
from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.analysis.threads import on_one_thread
from welbric.frames.bows import bows
from welbric.frames.critical import critical_shares, stand, sways_beyond
from welbric.frames.imperfections import nudges, out_of_plumb
from welbric.frames.leaning import Leaning, Settled, Softening
from welbric.frames.loads import Loading
from welbric.frames.model import Model
from welbric.frames.states import Loads, Stands, State
from welbric.frames.storeys import largest_drifts
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination
from welbric.members.load_cases import Criticality

LIMP = 1e-3  # of its stiffness in bending that what is crushed keeps; nothing passes then


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
    leaning = Leaning(
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


def _critical(model: Model, found: Settled) -> Criticality:
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
