"""The elastic critical load of a frame: its share, its mode, and whether the frame stands."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.analysis.stiffness import Mechanism, Stiffness, sparse_factor
from welbric.frames.model import Model
from welbric.frames.states import Stands

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
        numbers, unit, share = model.swaying()
        N = share @ N
    else:
        numbers, unit = model.numbers, model.geometric_in_freedoms()
    for pattern in dict.fromkeys(patterns):
        some = [c for c, one in zip(pressed.tolist(), patterns, strict=True) if one == pattern]
        largest = _largest(model, on.taken(some[0]))
        for c in some:
            found[c] = max(largest(numbers, unit * N[:, c, None, None])[0], 0.0)
    return found


def stand(model: Model, on: Stands) -> bool:
    """Return whether the frame resists every movement under each of C loads: none is critical."""
    unit = model.geometric()
    return all(
        _resists(model, model.assembled(
            model.stiffness(on.carries[:, c]) + on.N[:, c, None, None] * unit
        ))
        for c in range(on.N.shape[1])
    )  # fmt: skip


def _resists(model: Model, whole: Stiffness) -> bool:
    try:
        whole.factored(model.held)
    except Mechanism:
        return False
    return True


def envelope(on: Stands) -> tuple[Stands, list[list[int]]]:
    """Return what presses most of loads in which the same is slack, and which loads these are."""
    keys = [column.tobytes() for column in on.carries.T]
    alike = [[c for c, one in enumerate(keys) if one == key] for key in dict.fromkeys(keys)]
    most = Stands(
        np.stack([on.N[:, some].min(axis=1) for some in alike], axis=1),
        np.stack([on.carries[:, some[0]] for some in alike], axis=1),
    )
    return most, alike


def sways_beyond(model: Model, on: Stands, share: float) -> Flags:
    """Return which of C loads are more than a share of those at which the frame sways.

    Its members stay straight between joints. What presses most tells of all that it is less.
    """
    numbers, unit, parts = model.swaying()

    def beyond(N: Array, carries: Array) -> bool:
        adds = unit * (parts @ N / share)[:, None, None]
        more = Stiffness.assembled(numbers, adds, {}, model.freedoms)
        return not _resists(model, model.assembled(model.stiffness(carries)).plus(more))

    found = np.zeros(on.N.shape[1], dtype=bool)
    if not found.size:
        return found
    most, alike = envelope(on)
    for k, some in enumerate(alike):
        if beyond(most.N[:, k], most.carries[:, k]):
            found[some] = [beyond(on.N[:, c], on.carries[:, c]) for c in some]
    return found


def critical_mode(model: Model, on: Stands) -> Array:
    """Return how the freedoms move, (F,), as the frame buckles under one load, (E,)."""
    unit = model.geometric_in_freedoms()
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
    from scipy.sparse import csc_array, diags_array
    from scipy.sparse.linalg import LinearOperator, eigsh

    free = ~model.held
    place, count = np.where(free, np.cumsum(free) - 1, -1), int(free.sum())

    def whole(numbers: Any, of_elements: Array) -> Any:
        """Put elements together; where each of their numbers goes is found once."""
        if id(numbers) not in patterns:
            patterns[id(numbers)] = _pattern(place[numbers], count)
        kept, to, rows, starts = patterns[id(numbers)]
        values = np.bincount(to, of_elements.ravel()[kept], len(rows))
        return csc_array((values, rows, starts), shape=(count, count))

    patterns: dict[int, tuple[Any, Any, Any, Any]] = {}
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
    scatter = 1e-3 * np.random.default_rng(0).standard_normal(count)
    start = scatter

    def largest(numbers: Any, of_elements: Array) -> tuple[float, Array]:
        nonlocal start
        Kg = scale @ whole(numbers, of_elements) @ scale
        found, modes = eigsh(-Kg, k=1, M=K, Minv=inverse, which="LA", v0=start, tol=1e-6)
        # What buckles under one combination is near to what does under the next.
        start = modes[:, 0] / np.linalg.norm(modes) + scatter
        return float(found[0]), scale @ modes[:, 0]

    return largest


def _pattern(own: Any, count: int) -> tuple[Any, Any, Any, Any]:
    """Return which numbers of elements count, where each goes, and the rows and starts of a CSC."""
    shape = (*own.shape, own.shape[1])
    rows = np.broadcast_to(own[:, :, None], shape).ravel()
    columns = np.broadcast_to(own[:, None, :], shape).ravel()
    kept = np.flatnonzero((rows >= 0) & (columns >= 0))
    places, to = np.unique(columns[kept] * count + rows[kept], return_inverse=True)
    starts = np.searchsorted(places // count, np.arange(count + 1))
    return kept, to, places % count, starts
