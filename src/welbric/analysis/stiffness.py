"""Elements into one stiffness, and its solution: for lines of beams, and for frames of any kind.

An element is its stiffness and the numbers of its freedoms; nothing here knows what it is. Few
freedoms are solved as a dense matrix, a narrow band by Cholesky's factor of the band, anything
else by that of a sparse matrix, in an order that follows from where freedoms are.
"""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array
from welbric.analysis.fronts import Factor, Fronts

Indices = NDArray[np.intp]
Solve = Callable[[Array], Array]
FEW = 200  # freedoms that are solved as a dense matrix
NARROW = 12  # of a band, in freedoms
SINGULAR = 1e-11  # of a pivot over the stiffness it began with
SOFT = 1e-13  # the least eigenvalue, in those units: below it rounding is what resists


class Mechanism(Exception):
    """Nothing resists a motion.

    Parameters
    ----------
    found : callable
        Finds the freedom that moves most, and how all move: it takes long, and not everybody asks.
    """

    def __init__(self, found: Callable[[], tuple[int, Array]]) -> None:
        super().__init__("something moves without resistance")
        self.found = found

    @functools.cached_property
    def _moves(self) -> tuple[int, Array]:
        return self.found()

    @property
    def freedom(self) -> int:
        """The number of the freedom that moves most, each in a unit of its own stiffness."""
        return self._moves[0]

    @property
    def motion(self) -> Array:
        """How the freedoms move, shape (N,)."""
        return self._moves[1]


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
    places : array, shape (count, 3), optional
        Where they are; by their numbers in a row by default. It tells how to factor, nothing else.
    """

    rows: Indices
    columns: Indices
    values: Array
    count: int
    places: Array | None = None
    known: dict[bytes, Solve] = field(default_factory=dict, repr=False, compare=False)

    @classmethod
    def assembled(
        cls, numbers: Indices, elements: Array, springs: dict[int, float], count: int,
        places: Array | None = None,
    ) -> Stiffness:  # fmt: skip
        """Put elements together.

        Parameters
        ----------
        numbers : array of int, shape (E, n)
            The freedoms of each element.
        elements : array, shape (E, n, n)
        springs : dict
            Freedom to what else resists it.
        count : int
        places : array, shape (count, 3), optional
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
            places,
        )

    def plus(self, other: Stiffness) -> Stiffness:
        """Return the sum with one of the same freedoms."""
        return Stiffness(
            np.concatenate([self.rows, other.rows]),
            np.concatenate([self.columns, other.columns]),
            np.concatenate([self.values, other.values]),
            self.count,
            self.places,
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
        if not held.all():
            movements[~held] = self.factored(held)(load[~held])
        return movements

    def _free(self, held: NDArray[np.bool_]) -> tuple[Indices, Indices, Array]:
        """Return the rows, columns and values of the entries of free freedoms alone."""
        inner = ~held[self.rows] & ~held[self.columns]
        renumbered = np.cumsum(~held) - 1
        return renumbered[self.rows[inner]], renumbered[self.columns[inner]], self.values[inner]

    def whole(self) -> Any:
        """Return the whole symmetric matrix of all freedoms, sparse where it is large."""
        lower, count = self.rows > self.columns, self.count
        return matrix(
            np.concatenate([self.rows, self.columns[lower]]),
            np.concatenate([self.columns, self.rows[lower]]),
            np.concatenate([self.values, self.values[lower]]),
            (count, count),
        )

    def dense(self, held: NDArray[np.bool_]) -> Array:
        """Return the whole symmetric matrix of the free freedoms."""
        return _dense(*self._free(held), int((~held).sum()))

    def sparse(self, held: NDArray[np.bool_]) -> Any:
        """Return it as a sparse one, CSC."""
        return _sparse(*self._free(held), int((~held).sum()))

    def factored(self, held: NDArray[np.bool_]) -> Solve:
        """Return what gives the movements of the free freedoms under loads on these, (n, L).

        It is kept, by which freedoms are held.

        Raises
        ------
        Mechanism
            If a motion meets no resistance.
        """
        key = held.tobytes()
        if key in self.known:
            return self.known[key]
        free = np.flatnonzero(~held)
        try:
            places = None if self.places is None else self.places[free]
            solve = _scaled(*self._free(held), len(free), places)
        except Mechanism as mechanism:
            found = mechanism.found

            def moves() -> tuple[int, Array]:
                most, own = found()
                motion = np.zeros(len(held))
                motion[free] = own
                return int(free[most]), motion

            raise Mechanism(moves) from None
        self.known[key] = solve
        return solve


def _scaled(
    rows: Indices, columns: Indices, values: Array, count: int, places: Array | None
) -> Solve:
    """Factor a stiffness, every freedom in units of its own."""
    diagonal = np.bincount(rows, np.where(rows == columns, values, 0.0), count)
    # In these units a pivot that vanishes is a motion without resistance.
    scale = 1.0 / np.sqrt(np.where(diagonal > 0, diagonal, 1.0))
    values = values * scale[rows] * scale[columns]
    try:
        pivots, solve = _factored(rows, columns, values, count, places)
        sound = _is_sound(pivots, solve, count)
    except np.linalg.LinAlgError:
        sound = False
    if not sound:
        raise Mechanism(lambda: _free_motion(_dense(rows, columns, values, count), scale))
    return lambda load: np.asarray(solve(load * scale[:, None]) * scale[:, None])


def _factored(
    rows: Indices, columns: Indices, values: Array, count: int, places: Array | None
) -> tuple[Array, Solve]:
    """Return the pivots of a symmetric matrix, and what solves it."""
    if count <= FEW:
        # SciPy takes longer to import than a beam of a few spans takes to solve.
        whole = _dense(rows, columns, values, count)
        pivots = np.diag(np.linalg.cholesky(whole)) ** 2
        return pivots, lambda load: np.asarray(np.linalg.solve(whole, load))
    width = int((rows - columns).max())
    if width <= NARROW:
        from scipy.linalg import cho_solve_banded, cholesky_banded

        band = np.zeros((width + 1, count))
        np.add.at(band, (rows - columns, columns), values)
        factor = cholesky_banded(band, lower=True)
        return factor[0] ** 2, lambda load: np.asarray(cho_solve_banded((factor, True), load))
    factor = sparse_factor(_sparse(rows, columns, values, count), places)
    return factor.pivots, factor.solve


def _is_sound(pivots: Array, solve: Solve, count: int) -> bool:
    """Whether a factor is of what resists every movement.

    A pivot need not be small where the freedom it belongs to takes little part in the motion.
    """
    return bool(pivots.min(initial=1.0) > SINGULAR) and _softest(solve, count) > SOFT


def _softest(solve: Solve, count: int) -> float:
    """Return an estimate of the least eigenvalue, from above, by inverse iteration."""
    way = np.random.default_rng(0).standard_normal((count, 1))
    least = np.inf
    for _ in range(3):
        way = way / max(float(np.linalg.norm(way)), 1e-300)
        way = solve(way)
        least = 1.0 / max(float(np.linalg.norm(way)), 1e-300)
        if not np.isfinite(least):
            return 0.0
    return least


def matrix(rows: Any, columns: Any, values: Array, shape: tuple[int, int]) -> Any:
    """Return a matrix of its entries, those at one place added up: sparse where it is wide.

    The arguments are arrays of one shape.
    """
    rows, columns, values = (np.ravel(one) for one in np.broadcast_arrays(rows, columns, values))
    if shape[1] <= FEW:  # SciPy takes longer to import than that to multiply
        found = np.zeros(shape)
        np.add.at(found, (rows, columns), values)
        return found
    from scipy.sparse import coo_array

    there = values != 0.0
    return coo_array((values[there], (rows[there], columns[there])), shape=shape).tocsr()


class Summed:
    """Matrices of free freedoms as sums over elements: where the entries go is found once.

    Parameters
    ----------
    numbers : array of int, shape (E, n)
        The freedoms of each element.
    held : array of bool, shape (F,)
    there : array of bool, shape (E, n, n), optional
        Which entries of elements there are at all.
    """

    def __init__(
        self, numbers: Indices, held: NDArray[np.bool_], there: NDArray[np.bool_] | None = None
    ) -> None:
        self.count = count = int((~held).sum())
        own = np.where(held, -1, np.cumsum(~held) - 1)[numbers]
        shape = (*own.shape, own.shape[1])
        rows = np.broadcast_to(own[:, :, None], shape).ravel()
        columns = np.broadcast_to(own[:, None, :], shape).ravel()
        kept = (rows >= 0) & (columns >= 0)
        self.kept = np.flatnonzero(kept if there is None else kept & there.ravel())
        places, self.to = np.unique(
            columns[self.kept] * count + rows[self.kept], return_inverse=True
        )
        self.rows = places % count
        self.starts = np.searchsorted(places // count, np.arange(count + 1))

    def of(self, elements: Array, springs: Array | None = None) -> Any:
        """Return the matrix of elements, (E, n, n), CSC; ``springs``, (free,), on its diagonal."""
        from scipy.sparse import diags_array

        found = self.of_entries(elements.ravel()[self.kept])
        if springs is None or not springs.any():
            return found
        return (found + diags_array(springs)).tocsc()

    def of_entries(self, entries: Array) -> Any:
        """Return the matrix of the elements' entries that are kept."""
        from scipy.sparse import csc_array

        values = np.bincount(self.to, entries, len(self.rows))
        return csc_array((values, self.rows, self.starts), shape=(self.count, self.count))


def resists(whole: Any, places: Array | None = None) -> bool:
    """Return whether a symmetric stiffness, CSC, resists every movement."""
    diagonal = whole.diagonal()
    if not (diagonal > 0).all():
        return False
    from scipy.sparse import csc_array

    # In these units a pivot that vanishes is a motion without resistance.
    scale = 1.0 / np.sqrt(diagonal)
    columns = np.repeat(np.arange(len(scale)), np.diff(whole.indptr))
    values = whole.data * scale[whole.indices] * scale[columns]
    try:
        scaled = csc_array((values, whole.indices, whole.indptr), shape=whole.shape)
        factor = sparse_factor(scaled, places)
    except np.linalg.LinAlgError:
        return False
    return _is_sound(factor.pivots, factor.solve, len(scale))


def transposed(one: Any) -> Any:
    """Return the transpose of such a matrix, its rows in order."""
    return one.T if isinstance(one, np.ndarray) else one.T.tocsr()


def sparse_factor(whole: Any, places: Array | None = None) -> Factor:
    """Return the factor of a sparse symmetric matrix, CSC, whose freedoms are at places, (n, 3).

    Raises
    ------
    numpy.linalg.LinAlgError
        If it is not positive definite.
    """
    if places is None:
        places = np.arange(3.0 * whole.shape[0]).reshape(-1, 3)
    if not whole.data.all():
        whole = whole.copy()  # others have its pattern too
        whole.eliminate_zeros()
    pattern = (np.asarray(one, dtype=np.intp).tobytes() for one in (whole.indptr, whole.indices))
    return _fronts(*pattern, np.ascontiguousarray(places).tobytes()).factored(whole.data)


@functools.lru_cache(maxsize=4)
def _fronts(starts: bytes, rows: bytes, places: bytes) -> Fronts:
    return Fronts(
        np.frombuffer(starts, dtype=np.intp),
        np.frombuffer(rows, dtype=np.intp),
        np.frombuffer(places).reshape(-1, 3),
    )


def _dense(rows: Indices, columns: Indices, values: Array, count: int) -> Array:
    """Return the whole symmetric matrix."""
    below = np.zeros((count, count))
    np.add.at(below, (rows, columns), values)
    return below + np.tril(below, -1).T


def _sparse(rows: Indices, columns: Indices, values: Array, count: int) -> Any:
    """Return the whole symmetric matrix as a sparse one, CSC."""
    from scipy.sparse import coo_array

    below = coo_array((values, (rows, columns)), shape=(count, count)).tocsc()
    diagonal = coo_array((below.diagonal(), (range(count), range(count)))).tocsc()
    return (below + below.T - diagonal).tocsc()


def _free_motion(whole: Array, scale: Array) -> tuple[int, Array]:
    """Return the freedom that moves most in the softest motion, and that in its own units."""
    _, vectors = np.linalg.eigh(whole)
    return int(np.argmax(np.abs(vectors[:, 0]))), vectors[:, 0] * scale
