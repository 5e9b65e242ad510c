"""The elastic critical load of a frame: its share, its mode, and whether the frame stands."""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.analysis.largest import largest as largest_of
from welbric.analysis.stiffness import Mechanism, Solve, Stiffness, Summed, resists, sparse_factor
from welbric.frames.beam_columns import AXES, BeamColumns
from welbric.frames.condensed import Condensed
from welbric.frames.model import Model
from welbric.frames.states import Stands, State

MORE = 0.05  # of the largest axial force, that every element is pressed by besides
SCATTER = 0.03  # of a mode, of every other, that a search begins with
NEW = 1e-6  # of a mode's energy, that others have not
APART = 8  # loads, of which one is looked at first
AT_ONCE = 24  # loads
HARDLY = 1e-13  # of its own, that keeps a stiffness from being none by rounding
FEW = 400  # freedoms of which the critical load is found as a dense problem
# The largest eigenvalues of K^-1 (-Kg), (C,), and their vectors, (n, C), of forces, (parts, C).
Largest = Callable[[Array], tuple[Array, Array]]


def critical_shares(model: Model, on: Stands, swaying: bool = False) -> Array:
    """Return the load over that at which the frame buckles elastically; 0 where nothing presses.

    One over the least factor of (K + factor Kg) v = 0, for each of C loads; of its sway alone
    where members stay straight between joints.
    """
    found = np.zeros(on.N.shape[1])
    pressed = np.flatnonzero((on.N < 0).any(axis=0))
    patterns = [(one.carries.tobytes(), b"" if one.bends is None else one.bends.tobytes())
                for one in (on.taken(c) for c in pressed)]  # fmt: skip
    N = on.N
    if swaying:
        N = model.kept(Condensed).mean(N)
    for pattern in dict.fromkeys(patterns):
        some = [c for c, one in zip(pressed.tolist(), patterns, strict=True) if one == pattern]
        largest, _ = _largest(model, on.taken(some[0]), swaying)(N[:, some])
        found[some] = largest.clip(min=0.0)
    return found


def stand(model: Model, on: Stands) -> bool:
    """Return whether the frame resists every movement under each of C loads: none is critical.

    What is slack, softened and compressed in any of some loads leaves no more stiffness than each
    of them does: where the frame stands so, it does under all; else each half of them is looked at.
    """
    joints = model.kept(Condensed)
    known: list[Stands] = model.known.setdefault("stands", [])

    def stands(some: Any) -> bool:
        least = on.taken(some).least
        if any(one <= least for one in known):
            return True  # as it did under what presses it more
        # Where it stands under a little more, it does in other lists of loads too.
        more = [MORE * np.abs(least.N).max()] if len(some) == on.N.shape[1] else []
        for push in (*more, 0.0):
            pressed = replace(least, N=least.N - push)
            standing = joints.standing(*pressed.parts)
            if not standing.buckled.any() and _resists(joints, joints.in_freedoms(standing)):
                known.append(pressed)
                return True
        half = len(some) // 2
        return half > 0 and stands(some[:half]) and stands(some[half:])

    # Loads in which much the same is slack stand beside one another.
    return stands(np.lexsort(on.carries)) if on.N.size else True


def sways_beyond(model: Model, on: Stands, share: float) -> Flags:
    """Return which of C loads are more than a share of those at which the frame sways.

    Its members stay straight between joints. Of loads in which the same is slack, what presses most
    tells of all that they are less, and what presses least that they are more.
    """
    joints, (numbers, unit) = model.kept(Condensed), model.swaying
    pushes = joints.mean(on.N) / share
    found = np.zeros(on.N.shape[1], dtype=bool)

    def told(some: Any) -> None:
        def stays(push: Array) -> bool:
            adds = unit * push[:, None, None]
            return _resists(joints, joints.carrying(on.carries[:, some[0]]), numbers, adds)

        if stays(pushes[:, some].min(axis=1)):
            return
        if len(some) == 1 or not stays(pushes[:, some].max(axis=1)):
            found[some] = True
            return
        ordered = some[np.argsort(pushes[:, some].sum(axis=0), kind="stable")]
        told(ordered[: len(some) // 2])
        told(ordered[len(some) // 2 :])

    keys = [column.tobytes() for column in on.carries.T]
    for key in dict.fromkeys(keys):
        told(np.array([c for c, one in enumerate(keys) if one == key]))
    return found


def _resists(
    joints: Condensed, of_lengths: Array, numbers: Any = None, adds: Array | None = None
) -> bool:
    """Return whether a frame resists every movement, with lengths of a stiffness, (S, 24, 24).

    ``adds``, (n, k, k), is the stiffness of more parts between the freedoms ``numbers``, (n, k).
    """
    if len(joints.free) <= FEW:  # SciPy takes longer to import
        whole = joints.assembled(of_lengths)
        if adds is not None:
            whole = whole.plus(Stiffness.assembled(numbers, adds, {}, joints.freedoms))
        try:
            whole.factored(joints.held)
        except Mechanism:
            return False
        return True
    of_all = joints.matrix(of_lengths)
    whole = of_all if adds is None else of_all + joints.summed(numbers).of(adds)
    return resists(whole, joints.places[joints.free])


def critical_mode(model: Model, on: Stands) -> State:
    """Return how the frame moves as it buckles under one load."""
    _, modes = _largest(model, on)(on.N[:, None])
    bulges = modes[model.freedoms :].reshape(len(model.ends), -1, len(AXES), 1)
    return State.of_motion(model, modes[: model.freedoms], np.moveaxis(bulges, 0, 2))


@dataclass(frozen=True)
class _Pressed:
    """What axial forces press, and what they add to its stiffness.

    Attributes
    ----------
    held : array of bool, shape (n,)
        Of its freedoms.
    numbers : array of int, shape (P, k)
        The freedoms of each part.
    unit : array, shape (P, k, k)
        What an axial force of one adds to them.
    stiff : array, shape (n - F,)
        What resists its freedoms beyond those of the model.
    places : array, shape (n, 3)
        Where the freedoms are.
    """

    held: Flags
    numbers: Any
    unit: Array
    stiff: Array
    places: Array

    @functools.cached_property
    def summed(self) -> Summed:
        """Where what forces add goes in matrices of the free freedoms."""
        return Summed(self.numbers, self.held, self.unit != 0)

    def resisting(self, elastic: Stiffness, bends: Array | None) -> Stiffness:
        """Return the stiffness of all freedoms, with what is left of that in bending, (E,)."""
        stiff, own = self.stiff, elastic.count + np.arange(len(self.stiff))
        if bends is not None:
            stiff = stiff * np.repeat(bends, len(stiff) // len(bends))
        rows, columns = np.append(elastic.rows, own), np.append(elastic.columns, own)
        values, count = np.append(elastic.values, stiff), len(self.held)
        return Stiffness(rows, columns, values, count, self.places)


def _swaying(model: Model) -> tuple[_Pressed, Stiffness]:
    """Return a frame whose members stay straight between joints, and its elastic stiffness."""
    numbers, unit = model.swaying
    return _Pressed(model.held, numbers, unit, np.zeros(0), model.freedom_places), model.elastic


def _bulging(model: Model) -> tuple[_Pressed, Stiffness]:
    """Return a frame whose elements bulge, by freedoms of their own, and its elastic stiffness."""
    E, k = model.numbers.shape
    of_ends, between, pulls, stiff = model.kept(BeamColumns).freedoms(model.turn)
    count = pulls.shape[1]
    own = model.freedoms + np.arange(pulls.size).reshape(pulls.shape)
    numbers = np.append(model.numbers, own, axis=1)
    unit = np.zeros((E, k + count, k + count))
    unit[:, :k, :k] = of_ends + model.arms
    unit[:, :k, k:], unit[:, k:, :k] = between, between.swapaxes(1, 2)
    unit[:, range(k, k + count), range(k, k + count)] = pulls
    held = np.append(model.held, pulls.ravel() == 0)
    of_elements = np.repeat(model.places[model.ends[:, 0]], count, axis=0)
    places = np.concatenate([model.freedom_places, of_elements])
    pressed = _Pressed(held, numbers, unit, stiff.ravel(), places)
    return pressed, pressed.resisting(model.elastic, None)


def _largest(model: Model, on: Stands, swaying: bool = False) -> Largest:
    """Return what finds the largest eigenvalue, of the elastic stiffness under one load, (E,)."""
    pressed, stiffness = model.kept(_swaying if swaying else _bulging)
    whole = model.elastic if on.bends is None and (on.carries == 1.0).all() else None
    if whole is None:
        bends: Any = 1.0 if on.bends is None else on.bends
        left = model.assembled(model.stiffness(on.carries, bends))
        stiffness = pressed.resisting(left, on.bends)
    find = _dense if int((~pressed.held).sum()) <= FEW else _sparse
    return find(pressed, stiffness, whole)


def _dense(pressed: _Pressed, stiffness: Stiffness, _: Stiffness | None) -> Largest:
    from scipy.linalg import eigh, solve_triangular

    free = np.flatnonzero(~pressed.held)
    place = np.full(len(pressed.held), len(free))
    place[free] = np.arange(len(free))
    side, last = len(free) + 1, len(free) - 1
    own = place[pressed.numbers]
    flat = (own[:, :, None] * side + own[:, None, :]).ravel()
    root = np.linalg.cholesky(stiffness.dense(pressed.held))

    def of_one(N: Array) -> tuple[float, Array]:
        of_parts = pressed.unit * N[:, None, None]
        summed = np.bincount(flat, of_parts.ravel(), side * side).reshape(side, side)[:-1, :-1]
        half = solve_triangular(root, -summed, lower=True)
        both = solve_triangular(root, half.T, lower=True)
        found, modes = eigh(both, subset_by_index=[last, last])
        return float(found[0]), solve_triangular(root, modes[:, 0], lower=True, trans="T")

    def largest(N: Array) -> tuple[Array, Array]:
        modes = np.zeros((len(pressed.held), N.shape[1]))
        found = [of_one(push) for push in N.T]
        modes[free] = np.stack([mode for _, mode in found], axis=1)
        return np.array([one for one, _ in found]), modes

    return largest


def _sparse(pressed: _Pressed, stiffness: Stiffness, whole: Stiffness | None) -> Largest:
    from scipy.sparse import diags_array

    free = np.flatnonzero(~pressed.held)
    K = stiffness.sparse(pressed.held)
    size = np.sqrt(K.diagonal())
    K = (diags_array(1.0 / size) @ K @ diags_array(1.0 / size)).tocsr()
    of_all = np.ones(len(pressed.held))
    of_all[free] = 1.0 / size
    # Bulges resist by themselves: in these units as their number.
    own = int(np.searchsorted(free, len(pressed.held) - len(pressed.stiff)))
    of_own = size[:own, None]
    solve_own: Solve
    if whole is not None:
        known = whole.factored(pressed.held[: whole.count])
        solve_own = lambda load: known(load * of_own) * of_own  # noqa: E731
    else:  # what is slack leaves hardly any stiffness, and no mechanism is looked for
        firm = K[:own][:, :own] + diags_array(np.full(own, HARDLY))
        solve_own = sparse_factor(firm.tocsc(), pressed.places[free[:own]]).solve

    def solve(load: Array) -> Array:
        return np.concatenate([solve_own(load[:own]), load[own:]])

    scatter = solve(np.random.default_rng(0).standard_normal((len(size), 1)))
    scatter /= np.sqrt((scatter * (K @ scatter)).sum())
    of_ends, summed = of_all[pressed.numbers], pressed.summed
    scaled = -pressed.unit * of_ends[:, :, None] * of_ends[:, None, :]
    entries, part = scaled.ravel()[summed.kept], summed.kept // scaled[0].size

    def largest(N: Array) -> tuple[Array, Array]:
        values, modes = np.zeros(N.shape[1]), np.zeros((len(size), N.shape[1]))
        before = scatter
        # Some first: what buckles under one combination is near to what does under others.
        every = np.arange(N.shape[1])
        first = every[::APART]
        rest = np.setdiff1d(every, first)
        for some in (first, *(rest[k : k + AT_ONCE] for k in range(0, len(rest), AT_ONCE))):
            if not len(some):
                continue
            # Transposed they are what they were, by rows: faster to multiply by.
            of_some = [summed.of_entries(entries * N[part, c]).T for c in some.tolist()]
            small = np.array([before.T @ (one @ before) for one in of_some])
            start = before @ np.linalg.eigh(small)[1][:, :, -1].T + SCATTER * scatter
            values[some], modes[:, some] = found = largest_of(of_some, K, solve, start)
            before = np.column_stack([before, found[1]])
            within, of_before = np.linalg.eigh(before.T @ (K @ before))
            told = within > NEW
            before = before @ (of_before[:, told] / np.sqrt(within[told]))
        of_freedoms = np.zeros((len(pressed.held), N.shape[1]))
        of_freedoms[free] = modes / size[:, None]
        return values, of_freedoms

    return largest
