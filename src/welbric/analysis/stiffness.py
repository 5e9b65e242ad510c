"""Elements into one stiffness, and its solution: for lines of beams, and for frames of any kind.

An element is its stiffness and the numbers of its freedoms; nothing here knows what it is. Few
freedoms are solved as a dense matrix, a narrow band by Cholesky's factor of the band, anything
else by a sparse factorisation.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array

Indices = NDArray[np.intp]
FEW = 200  # freedoms that are solved as a dense matrix
NARROW = 12  # of a band, in freedoms
SINGULAR = 1e-11  # of a pivot over the stiffness it began with


class Mechanism(Exception):
    """Nothing resists a motion.

    Attributes
    ----------
    freedom : int
        The number of the freedom that moves most.
    """

    def __init__(self, freedom: int) -> None:
        super().__init__(f"freedom {freedom} moves without resistance")
        self.freedom = freedom


@dataclass(frozen=True)
class Stiffness:
    """A symmetric stiffness by its entries on and below the diagonal.

    Attributes
    ----------
    rows, columns : array of int, shape (M,)
        Entries at one place add up.
    values : array, shape (M,)
    count : int
        Freedoms.
    """

    rows: Indices
    columns: Indices
    values: Array
    count: int

    @classmethod
    def assembled(
        cls, numbers: Indices, elements: Array, springs: dict[int, float], count: int
    ) -> Stiffness:
        """Put elements together.

        Parameters
        ----------
        numbers : array of int, shape (E, n)
            The freedoms of each element.
        elements : array, shape (E, n, n)
        springs : dict
            Freedom to what else resists it.
        count : int
        """
        rows = np.broadcast_to(numbers[:, :, None], elements.shape)
        columns = np.broadcast_to(numbers[:, None, :], elements.shape)
        lower = rows >= columns
        own = np.array(list(springs), dtype=np.intp)
        return cls(
            np.concatenate([rows[lower], own]),
            np.concatenate([columns[lower], own]),
            np.concatenate([elements[lower], np.array(list(springs.values()), dtype=float)]),
            count,
        )

    def solved(self, load: Array, known: dict[int, Array]) -> Array:
        """Return the movements, shape (N, L).

        Parameters
        ----------
        load : array, shape (N, L)
        known : dict
            Freedom to its movement, shape (L,).

        Raises
        ------
        Mechanism
            If a motion meets no resistance.
        """
        held = np.zeros(self.count, dtype=bool)
        held[list(known)] = True
        movements = np.zeros_like(load)
        if known:
            movements[list(known)] = np.stack(list(known.values()))
        if movements.any():
            coupled = held[self.rows] != held[self.columns]
            rows, columns = self.rows[coupled], self.columns[coupled]
            free, fixed = np.where(held[rows], [columns, rows], [rows, columns])
            load = load.copy()
            np.subtract.at(load, free, self.values[coupled, None] * movements[fixed])
        inner = ~held[self.rows] & ~held[self.columns]
        renumbered = np.cumsum(~held) - 1
        rows, columns = renumbered[self.rows[inner]], renumbered[self.columns[inner]]
        total = int((~held).sum())
        if total:
            free_numbers = np.flatnonzero(~held)
            try:
                movements[~held] = _solve(rows, columns, self.values[inner], load[~held])
            except Mechanism as found:
                raise Mechanism(int(free_numbers[found.freedom])) from None
        return movements


def _solve(rows: Indices, columns: Indices, values: Array, load: Array) -> Array:
    """Solve for every freedom, each in units of its own stiffness."""
    count = len(load)
    diagonal = np.zeros(count)
    np.add.at(diagonal, rows[rows == columns], values[rows == columns])
    # In these units a pivot that vanishes is a motion without resistance.
    scale = 1.0 / np.sqrt(np.where(diagonal > 0, diagonal, 1.0))
    values = values * scale[rows] * scale[columns]
    load = load * scale[:, None]
    try:
        pivots, found = _factored(rows, columns, values, load)
        sound = bool(pivots.min() > SINGULAR)
    except np.linalg.LinAlgError:
        sound = False
    if not sound:
        raise Mechanism(_free_motion(_dense(rows, columns, values, count)))
    return np.asarray(found * scale[:, None])


def _factored(rows: Indices, columns: Indices, values: Array, load: Array) -> tuple[Array, Any]:
    """Return the pivots of a symmetric matrix, and the solution."""
    count = len(load)
    if count <= FEW:
        # SciPy takes longer to import than a beam of a few spans takes to solve.
        whole = _dense(rows, columns, values, count)
        return np.diag(np.linalg.cholesky(whole)) ** 2, np.linalg.solve(whole, load)
    width = int((rows - columns).max())
    if width <= NARROW:
        from scipy.linalg import cho_solve_banded, cholesky_banded

        band = np.zeros((width + 1, count))
        np.add.at(band, (rows - columns, columns), values)
        factor = cholesky_banded(band, lower=True)
        return factor[0] ** 2, cho_solve_banded((factor, True), load)
    from scipy.sparse import coo_array
    from scipy.sparse.linalg import splu

    below = coo_array((values, (rows, columns)), shape=(count, count)).tocsc()
    diagonal = coo_array((below.diagonal(), (range(count), range(count)))).tocsc()
    whole = (below + below.T - diagonal).tocsc()
    try:
        # Pivots stay on the diagonal, so that their signs and sizes tell of the stiffness.
        options = {"SymmetricMode": True}
        factor = splu(whole, "MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options=options)
    except RuntimeError:
        raise np.linalg.LinAlgError from None
    return factor.U.diagonal(), factor.solve(load)


def _dense(rows: Indices, columns: Indices, values: Array, count: int) -> Array:
    """Return the whole symmetric matrix."""
    below = np.zeros((count, count))
    np.add.at(below, (rows, columns), values)
    return below + np.tril(below, -1).T


def _free_motion(whole: Array) -> int:
    """Return the freedom that moves most in the softest motion."""
    _, vectors = np.linalg.eigh(whole)
    return int(np.argmax(np.abs(vectors[:, 0])))
