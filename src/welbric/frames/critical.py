"""The elastic critical load of a frame: its share, its mode, and whether the frame stands."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.analysis.stiffness import Mechanism, Stiffness, resists, sparse_factor
from welbric.frames.condensed import Condensed, condensed
from welbric.frames.model import Model
from welbric.frames.states import Stands

MORE = 0.05  # of the largest axial force, that every element is pressed by besides
SPACE = 6  # vectors that a mode is sought with at once
CLOSE = 1e-5  # of an eigenvalue, what is left beside its mode: its square is in the eigenvalue
SCATTER = 0.03  # of a mode, of every other, that a search begins with
NEW = 1e-3  # of a mode, that others have not
FEW = 400  # freedoms of which the critical load is found as a dense problem
# The largest eigenvalue of K^-1 (-Kg), and its vector, of freedoms' numbers and what adds to them.
Largest = Callable[[Any, Array], tuple[float, Array]]


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
        numbers, unit = model.swaying
        N = condensed(model).mean(N)
    else:
        numbers, unit = model.numbers, model.geometric_in_freedoms
    for pattern in dict.fromkeys(patterns):
        some = [c for c, one in zip(pressed.tolist(), patterns, strict=True) if one == pattern]
        largest = _largest(model, on.taken(some[0]))
        for c in some:
            found[c] = max(largest(numbers, unit * N[:, c, None, None])[0], 0.0)
    return found


def stand(model: Model, on: Stands) -> bool:
    """Return whether the frame resists every movement under each of C loads: none is critical.

    What is slack, softened and compressed in any of some loads leaves no more stiffness than each
    of them does: where the frame stands so, it does under all; else each half of them is looked at.
    """
    joints = condensed(model)
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
    joints, (numbers, unit) = condensed(model), model.swaying
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
    return resists(of_all if adds is None else of_all + joints.summed(numbers).of(adds))


def critical_mode(model: Model, on: Stands) -> Array:
    """Return how the freedoms move, (F,), as the frame buckles under one load, (E,)."""
    unit = model.geometric_in_freedoms
    _, mode = _largest(model, on)(model.numbers, unit * on.N[:, None, None])
    moved = np.zeros(model.freedoms)
    moved[~model.held] = mode
    return moved


def _largest(model: Model, on: Stands) -> Largest:
    """Return what finds the largest eigenvalue, of the elastic stiffness under one load, (E,)."""
    if on.bends is None and (on.carries == 1.0).all():
        whole = model.elastic
    else:
        whole = model.assembled(model.stiffness(on.carries, 1.0 if on.bends is None else on.bends))
    return (_dense if int((~model.held).sum()) <= FEW else _sparse)(model, whole)


def _dense(model: Model, stiffness: Stiffness) -> Largest:
    from scipy.linalg import eigh, solve_triangular

    free = np.flatnonzero(~model.held)
    place = np.full(model.freedoms, len(free))
    place[free] = np.arange(len(free))
    side = len(free) + 1

    def whole(numbers: Any, of_elements: Array) -> Array:
        own = place[numbers]
        flat = (own[:, :, None] * side + own[:, None, :]).ravel()
        summed = np.bincount(flat, of_elements.ravel(), side * side)
        return np.asarray(summed.reshape(side, side)[:-1, :-1])

    root = np.linalg.cholesky(stiffness.dense(model.held))

    def largest(numbers: Any, of_elements: Array) -> tuple[float, Array]:
        half = solve_triangular(root, -whole(numbers, of_elements), lower=True)
        both = solve_triangular(root, half.T, lower=True)
        last = len(free) - 1
        found, modes = eigh(both, subset_by_index=[last, last])
        return float(found[0]), solve_triangular(root, modes[:, 0], lower=True, trans="T")

    return largest


def _sparse(model: Model, stiffness: Stiffness) -> Largest:
    from scipy.sparse import diags_array
    from scipy.sparse.linalg import LinearOperator, eigsh

    count = int((~model.held).sum())
    K = stiffness.sparse(model.held)
    size = np.sqrt(K.diagonal())
    scale = diags_array(1.0 / size)
    K = (scale @ K @ scale).tocsc()
    if stiffness is model.elastic:
        known = stiffness.factored(model.held)

        def solve(load: Array) -> Array:
            return np.asarray(known((load * size)[:, None])[:, 0] * size)

    else:  # what is slack leaves hardly any stiffness, and no mechanism is looked for
        solve = sparse_factor(K).solve
    # The largest of K^-1 (-Kg), symmetric in the product that K makes.
    inverse = LinearOperator((count, count), solve)
    scatter = solve(np.random.default_rng(0).standard_normal(count))
    scatter /= np.sqrt(scatter @ (K @ scatter))
    before = scatter[:, None]  # modes found before, orthogonal as K has it

    def largest(numbers: Any, of_elements: Array) -> tuple[float, Array]:
        nonlocal before
        Kg = scale @ model.summed(numbers).of(of_elements) @ scale
        # What buckles under one combination is near to what does under others.
        start = before @ np.linalg.eigh(-before.T @ (Kg @ before))[1][:, -1] + SCATTER * scatter
        found, modes = eigsh(
            -Kg, k=1, M=K, Minv=inverse, which="LA", v0=start, ncv=SPACE, tol=CLOSE
        )
        mode = modes[:, 0]
        new = mode - before @ (before.T @ (K @ mode))
        size = np.sqrt(new @ (K @ new))
        if size > NEW:
            before = np.column_stack([before, new / size])
        return float(found[0]), scale @ mode

    return largest
