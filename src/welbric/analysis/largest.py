"""The largest eigenvalue of each of many matrices beside one stiffness.

Lanczos' method for K^-1 A, symmetric in the product that K makes: each matrix has vectors of its
own, every one of them orthogonal to all before it, and all matrices take their steps together.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array

EXACT = 1e-5  # of an eigenvalue, what is left beside its vector: its square is in the eigenvalue
SMALL = 1e-3  # below, an eigenvalue is as exact as this one
FIRST = 4  # steps, before it is asked how exact they are
STEPS = 200
CANCELLED = 0.1  # of a vector, that is left of it when it is made orthogonal to others
NOTHING = 1e-9  # the same: there are no other vectors


def largest(
    matrices: Sequence[Any], stiffness: Any, solve: Callable[[Array], Array], start: Array
) -> tuple[Array, Array]:
    """Return the largest eigenvalues of A x = value K x, (C,), and their vectors, (n, C).

    One that is not exact after so many steps is larger by what is left, which it cannot be more.

    Parameters
    ----------
    matrices : sequence of C sparse matrices, (n, n)
        A, symmetric.
    stiffness : sparse matrix, (n, n)
        K, symmetric, of what resists everything.
    solve : callable
        Loads, (n, c), to what K makes of them.
    start : array, shape (n, C)
        With something of every vector in it.
    """
    count = len(matrices)
    values, vectors = np.zeros(count), np.zeros(start.shape)
    going, new = np.arange(count), start
    known: list[Array] = []
    left = np.sqrt((new * (stiffness @ new)).sum(axis=0))
    small = np.zeros((count, STEPS, STEPS))  # A between the vectors that are known
    for step in range(STEPS):
        if step >= FIRST or not left.all():
            found, parts = np.linalg.eigh(small[going, :step, :step])
            top, part = found[:, -1], parts[:, :, -1]
            more = left * np.abs(part[:, -1])
            exact = more <= EXACT * np.maximum(np.abs(top), SMALL)
            done = exact | (step + 1 == STEPS)
            values[going[done]] = np.where(exact, top, top + more)[done]
            vectors[:, going[done]] = sum(
                one[:, done] * part[done, i] for i, one in enumerate(known)
            )
            going, new, left = going[~done], new[:, ~done], left[~done]
            known = [one[:, ~done] for one in known]
            if not len(going):
                break
        known.append(new / left)
        pushed = np.stack(
            [matrices[c] @ known[-1][:, i] for i, c in enumerate(going.tolist())], axis=1
        )
        new = solve(pushed)
        size = np.sqrt(np.maximum((new * pushed).sum(axis=0), 0.0))
        for i, one in enumerate(known):
            of_one = (one * pushed).sum(axis=0)
            small[going, step, i] = small[going, i, step] = of_one
            new -= of_one * one
        resists = stiffness @ new
        left = np.sqrt(np.maximum((new * resists).sum(axis=0), 0.0))
        if (left < CANCELLED * size).any():  # rounding is not orthogonal to what is known
            for one in known:
                new -= (one * resists).sum(axis=0) * one
            left = np.sqrt(np.maximum((new * (stiffness @ new)).sum(axis=0), 0.0))
            left[left < NOTHING * size] = 0.0
    return values, vectors
