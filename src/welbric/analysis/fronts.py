"""Cholesky's factor of a sparse symmetric matrix whose freedoms stand at places, front by front.

The places are parted in two again and again, each time where the fewest freedoms lie between the
halves; these are eliminated after both (nested dissection). Each set of them is one front: a dense
matrix of its own freedoms and of those that come later and meet it, which takes what the fronts
before it leave (the multifrontal method). Nearly all of the work is in products of dense matrices.
"""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array, Flags
from welbric.analysis.threads import on_one_thread

Indices = NDArray[np.intp]
LEAF = 80  # freedoms that are not parted further
SKEWED = 0.1  # of how many more there are on one side than on the other, that counts as between


@dataclass(frozen=True)
class _Front:
    """Freedoms that are eliminated together; all are numbered in the order of elimination.

    Attributes
    ----------
    first, last : int
        Its own freedoms, the last not among them.
    border : array of int
        Those later ones that it meets.
    entries : slice
        What of the matrix comes with it.
    to : array of int
        Where in the front, column by column.
    children : list of (int, array of int, array of int)
        The fronts that leave something to it, and where; bounds of what of that follows on one
        another.
    """

    first: int
    last: int
    border: Indices
    entries: slice
    to: Indices
    children: list[tuple[int, Indices, Indices]]


@dataclass(frozen=True)
class Factor:
    """A matrix that is factored.

    Attributes
    ----------
    order : array of int, shape (n,)
    parts : list of (slice, array of int, array)
        Of each front: its freedoms; these, and its border; the inverse of its own factor, and below
        it what that leaves to the border.
    """

    order: Indices
    parts: list[tuple[slice, Indices, Array]]

    @property
    def pivots(self) -> Array:
        """What is left on the diagonal as each freedom is eliminated, shape (n,)."""
        return np.concatenate([1.0 / np.diag(inverse) ** 2 for _, _, inverse in self.parts])

    @on_one_thread
    def solve(self, load: Array) -> Array:
        """Return what the matrix makes of loads, shape (n, C)."""
        x = load.take(self.order, axis=0)
        for own, every, inverse in self.parts:
            count = own.stop - own.start
            found = inverse @ x[own]
            x[own] = found[:count]
            if count < len(every):
                x[every[count:]] += found[count:]
        for own, every, inverse in reversed(self.parts):
            x[own] = inverse.T @ x.take(every, axis=0)
        found = np.empty_like(x)
        found[self.order] = x
        return found


class Fronts:
    """In which order matrices of one pattern are factored.

    Parameters
    ----------
    starts, rows : array of int, shape (n + 1,) and (m,)
        The pattern of the whole symmetric matrix, column by column.
    places : array, shape (n, 3)
        Of the freedoms.
    """

    def __init__(self, starts: Indices, rows: Indices, places: Array) -> None:
        n = len(places)
        columns = np.repeat(np.arange(n), np.diff(starts))
        front, parents = _dissected(rows, columns, places)
        self.order = np.argsort(front, kind="stable")
        number = np.empty(n, dtype=np.intp)
        number[self.order] = np.arange(n)
        rows, columns = number[rows], number[columns]
        below = np.flatnonzero(rows >= columns)
        rows, columns = rows[below], columns[below]
        by_column = np.lexsort((rows, columns))
        self.entries = below[by_column]
        rows, columns = rows[by_column], columns[by_column]
        firsts = np.searchsorted(columns, np.arange(n + 1))
        bounds = np.searchsorted(front[self.order], np.arange(len(parents) + 1)).tolist()
        self.fronts: list[_Front] = []
        children: list[list[int]] = [[] for _ in parents]
        for i, parent in enumerate(parents):
            if parent >= 0:
                children[parent].append(i)
        met, within = np.zeros(n, dtype=bool), np.zeros(n, dtype=np.intp)
        for i in range(len(parents)):
            first, last = bounds[i], bounds[i + 1]
            some = slice(firsts[first], firsts[last])
            meets = np.concatenate([rows[some], *(self.fronts[c].border for c in children[i])])
            met[meets] = True
            border = last + np.flatnonzero(met[last:])
            met[meets] = False
            size = last - first + len(border)
            within[first:last], within[border] = np.arange(last - first), np.arange(
                last - first, size
            )  # fmt: skip
            to = within[rows[some]] + size * (columns[some] - first)
            left = [(c, at, _runs(at)) for c in children[i]
                    for at in [within[self.fronts[c].border]]]  # fmt: skip
            self.fronts.append(_Front(first, last, border, some, to, left))

    @on_one_thread
    def factored(self, values: Array) -> Factor:
        """Factor a matrix.

        Parameters
        ----------
        values : array, shape (m,)
            Of the pattern.

        Raises
        ------
        numpy.linalg.LinAlgError
            If it is not positive definite.
        """
        from scipy.linalg.lapack import dpotrf, dtrtri

        values = values[self.entries]
        leaves: list[Any] = []  # of each front, to the one it leaves it to
        parts: list[tuple[slice, Indices, Array]] = []
        for front in self.fronts:
            own, size = front.last - front.first, front.last - front.first + len(front.border)
            flat = np.zeros(size * size)
            flat[front.to] = values[front.entries]
            whole = flat.reshape(size, size)  # its upper half counts alone
            for child, at, runs in front.children:
                for a, b in itertools.pairwise(runs.tolist()):
                    whole[at[:b], at[a] : at[a] + b - a] += leaves[child][:b, a:b]
                leaves[child] = None
            whole = whole.T
            root, failed = dpotrf(whole[:own, :own], lower=1, clean=1)
            if failed:
                raise np.linalg.LinAlgError
            inverse, _ = dtrtri(root, lower=1)
            rows = whole[own:, :own] @ inverse.T
            left = rows @ rows.T
            leaves.append(np.subtract(whole[own:, own:].T, left, out=left))
            every = np.concatenate([np.arange(front.first, front.last), front.border])
            both = np.concatenate([inverse, rows @ -inverse])
            parts.append((slice(front.first, front.last), every, both))
        return Factor(self.order, parts)


def _runs(at: Indices) -> Indices:
    """Return where numbers begin that follow on one another, and the end."""
    return np.flatnonzero(np.diff(at, prepend=-2, append=-2) != 1)


def _dissected(rows: Indices, columns: Indices, places: Array) -> tuple[Indices, Sequence[int]]:
    """Return the front that each freedom is in, and each front's parent; -1 where it has none.

    Fronts are in the order in which they are eliminated. Those that are parted have numbers of a
    binary tree on the way: 1, its halves 2 and 3, theirs 4 to 7.
    """
    n = len(places)
    levels = np.stack([np.unique(one, return_inverse=True)[1] for one in places.T])
    part, parted = np.ones(n, dtype=np.intp), np.ones(n, dtype=bool)
    below = rows < columns
    one, other = rows[below], columns[below]
    while True:
        counts = np.bincount(part[parted])
        parted &= np.append(counts, np.zeros(part.max() + 1))[part] > LEAF
        if not parted.any():
            break
        inside = parted[one] & parted[other] & (part[one] == part[other])
        one, other = one[inside], other[inside]
        ways = [_halved(part, parted, level, one, other) for level in levels]
        costs = np.array([cost for cost, _, _ in ways])
        fails, way = ~np.isfinite(costs.min(axis=0)), costs.argmin(axis=0)[part]
        right, between = (np.choose(way, [of[k] for of in ways]) for k in (1, 2))
        parted &= ~fails[part] & ~between
        part[parted] = 2 * part[parted] + right[parted]
    # After both of its halves comes what is between them.
    numbers = np.unique(part)
    deepest = int(numbers[-1]).bit_length()
    lengths = np.array([int(k).bit_length() for k in numbers])
    by_end = np.lexsort((-lengths, (numbers + 1) << (deepest - lengths)))
    fronts = {int(k): i for i, k in enumerate(numbers[by_end])}
    parents = []
    for k in fronts:
        above = k >> 1
        while above and above not in fronts:
            above >>= 1
        parents.append(fronts.get(above, -1))
    of_number = np.zeros(numbers[-1] + 1, dtype=np.intp)
    of_number[list(fronts)] = list(fronts.values())
    return of_number[part], parents


def _halved(
    part: Indices, parted: Flags, level: Indices, one: Indices, other: Indices
) -> tuple[Array, Flags, Flags]:
    """Part every part in two at the middle of its levels along an axis.

    Returns
    -------
    tuple
        What each costs, by its number, infinite where it is not parted so; which freedoms are on
        the right, and which of these are between.
    """
    most = part.max() + 1
    some = np.flatnonzero(parted)
    ordered = some[np.argsort(part[some] * (level.max() + 1) + level[some])]
    counts = np.bincount(part[some], minlength=most)
    starts = np.cumsum(counts) - counts
    middle = np.zeros(most, dtype=np.intp)
    there = counts > 0
    middle[there] = level[ordered[starts[there] + counts[there] // 2]]
    right = parted & (level >= middle[part])
    between = np.zeros(len(part), dtype=bool)
    between[one[right[one] & ~right[other]]] = True
    between[other[right[other] & ~right[one]]] = True
    separate = np.bincount(part[between], minlength=most)
    left = counts - np.bincount(part[right], minlength=most)
    beyond = counts - left - separate
    costs = separate + SKEWED * np.abs(left - beyond)
    return np.where((left > 0) & (beyond > 0), costs, np.inf), right, between
