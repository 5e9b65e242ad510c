"""Diagrams along a member as piecewise polynomials: exact values and exact extremes.

Between two neighbouring breaks (supports, load points, ends of line loads) every diagram of a
prismatic member is a polynomial. Its coefficients are kept in the local coordinate s, 0 to 1,
of each interval, for all load cases or combinations at once.
"""

from __future__ import annotations

import functools
import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Flags = NDArray[np.bool_]

MOST_STEPS = 80  # more than bisection alone needs to reach the spacing of the numbers


@dataclass(frozen=True)
class Diagram:
    """A quantity along a member for many cases.

    Attributes
    ----------
    breaks : array, shape (I + 1,), mm
    coefficients : array, shape (..., I, K)
        Of s**0 ... s**(K-1) in each interval.
    """

    breaks: Array
    coefficients: Array

    def combine(self, factors: Array) -> Diagram:
        """Superpose: factors of shape (C, L) on L cases give C combinations."""
        if self.is_nothing:
            return self.nothing(len(factors))
        return Diagram(self.breaks, np.tensordot(factors, self.coefficients, axes=(1, 0)))

    @property
    def is_nothing(self) -> bool:
        """Whether it is zero all along."""
        return not self.coefficients.any()

    @property
    def is_curved(self) -> bool:
        """Whether it is other than straight between its breaks."""
        return bool(self.coefficients[..., 2:].any())

    @property
    def varies(self) -> bool:
        """Whether it is other than constant between its breaks."""
        return bool(self.coefficients[..., 1:].any())

    def nothing(self, count: int) -> Diagram:
        """Return so many cases of zero on the same breaks."""
        return Diagram(self.breaks, np.zeros((count, *self.coefficients.shape[1:-1], 1)))

    def taken(self, cases: slice | list[int]) -> Diagram:
        """Return some of the cases."""
        return Diagram(self.breaks, self.coefficients[cases])

    def plus(self, other: Diagram) -> Diagram:
        """Return the sum with a diagram of the same breaks."""
        few, many = sorted((self.coefficients, other.coefficients), key=lambda c: c.shape[-1])
        total = many.copy()
        total[..., : few.shape[-1]] += few
        return Diagram(self.breaks, total)

    def at(self, x: Array, right: NDArray[np.bool_]) -> Array:
        """Return the values at stations.

        Parameters
        ----------
        x : array, shape (X,), or (C, X) where each case has its own; mm
        right : array of bool, of that shape
            Which side of a jump is meant where a station stands on a break.

        Returns
        -------
        array, shape (..., X)
        """
        return self._within(*within(self.breaks, x, right))

    def _within(self, interval: NDArray[np.intp], s: Array) -> Array:
        """Return the values at places within intervals."""
        if self.is_nothing:
            return np.zeros((*self.coefficients.shape[:-2], s.shape[-1]))
        if s.ndim > 1:
            case = np.arange(len(self.coefficients))[:, None]
            return _value(self.coefficients[case, interval], s)
        powers = s[:, None] ** np.arange(self.coefficients.shape[-1])
        return np.asarray(np.einsum("...xk,xk->...x", self.coefficients[..., interval, :], powers))

    def integral(self, start: Any = 0.0, jumps: Array | None = None) -> Diagram:
        """Return the running integral from the left, with jumps at the breaks.

        Parameters
        ----------
        start : array_like, shape (...)
            The value left of the first break.
        jumps : array, shape (..., I + 1), optional
            What is added at each break; the last one lies beyond the diagram.
        """
        lengths = np.diff(self.breaks)
        orders = np.arange(1, self.coefficients.shape[-1] + 1)
        inner = self.coefficients * lengths[:, None] / orders
        gain = inner.sum(axis=-1)
        first = np.zeros_like(gain) if jumps is None else jumps[..., :-1]
        before = np.cumsum(gain, axis=-1) - gain + np.cumsum(first, axis=-1)
        constant = np.asarray(start)[..., None] + before
        return Diagram(self.breaks, np.concatenate([constant[..., None], inner], axis=-1))

    def scaled(self, factor: float) -> Diagram:
        """Return the diagram times a factor."""
        return Diagram(self.breaks, self.coefficients * factor)

    def end_value(self) -> Array:
        """Return the value just left of the last break, shape (...)."""
        return np.asarray(self.coefficients[..., -1, :].sum(axis=-1))

    def extreme_places(self) -> Array:
        """Return every place where the diagram has a local extreme inside an interval, mm."""
        places = self.extremes_of_each()
        return distinct(places[~np.isnan(places)])

    def extremes_of_each(self) -> Array:
        """Return where each case has its local extremes inside the intervals, mm; NaN for none.

        Returns
        -------
        array, shape (..., n)
        """
        return extremes(self.coefficients, self.breaks[:-1], np.diff(self.breaks))


def extremes(c: Array, starts: Array, lengths: Array) -> Array:
    """Return where polynomials in intervals have local extremes inside these, mm; NaN for none.

    Parameters
    ----------
    c : array, shape (..., I, K)
    starts, lengths : array, shape (..., I), mm

    Returns
    -------
    array, shape (..., n)
    """
    terms = np.flatnonzero(c.any(axis=tuple(range(c.ndim - 1))))
    if not terms.size or terms[-1] < 2:  # straight lines
        return np.zeros((*c.shape[:-2], 0))
    s = roots_in_unit_interval(c[..., 1 : terms[-1] + 1] * np.arange(1, terms[-1] + 1))
    place = starts[..., None] + s * lengths[..., None]
    found = np.where((s > 0) & (s < 1), place, np.nan)
    return found.reshape(*c.shape[:-2], found.shape[-2] * found.shape[-1])


def within(breaks: Array, x: Array, right: Flags) -> tuple[NDArray[np.intp], Array]:
    """Return the interval that each station is in, and where in it, 0 to 1."""
    from_left = np.searchsorted(breaks, x, side="left") - 1
    from_right = np.searchsorted(breaks, x, side="right") - 1
    interval = np.clip(np.where(right, from_right, from_left), 0, len(breaks) - 2)
    return interval, (x - breaks[interval]) / np.diff(breaks)[interval]


def values_at(
    coefficients: Mapping[str, Array], breaks: Array, x: Array, interval: NDArray[np.intp]
) -> dict[str, Array]:
    """Return the values of several diagrams at the same stations of M members under C loads.

    Parameters
    ----------
    coefficients : dict of str to array, shape (M, C, I, K)
    breaks : array, shape (M, I + 1), mm
    x : array, shape (M, C, X), mm
    interval : array of int, shape (M, C, X)
        Between which breaks each station is.

    Returns
    -------
    dict of str to array, shape (M, C, X)
    """
    M, C, X = x.shape
    of_member = interval.reshape(M, C * X)
    start = np.take_along_axis(breaks, of_member, -1).reshape(x.shape)
    length = np.take_along_axis(np.diff(breaks), of_member, -1).reshape(x.shape)
    s = (x - start) / length
    rows = np.arange(M * C).reshape(M, C, 1) * (breaks.shape[1] - 1) + interval
    found = {}
    for name, c in coefficients.items():
        found[name] = np.zeros(x.shape)
        if c.any():  # Horner's scheme, one order after another
            for of_order in np.ascontiguousarray(np.moveaxis(c, -1, 0))[::-1]:
                found[name] *= s
                found[name] += of_order.ravel().take(rows)
    return found


ROUNDING = 1e-12  # of a value: less than that apart, two of them are one


def first_largest(values: Array) -> NDArray[np.intp]:
    """Return where the largest is along the last axis: the first of those that rounding parts.

    Examples
    --------
    >>> first_largest(np.array([[1.0, 3.0, 3.0 + 1e-15], [-2.0, 5.0, np.inf], [-4.0, -3.0, -5.0]]))
    array([1, 2, 1])
    """
    most = values.max(axis=-1, keepdims=True)
    slack = np.where(np.isfinite(most), ROUNDING * np.abs(most), 0.0)
    return np.asarray((values >= most - slack).argmax(axis=-1))


def largest_within(values: Array, first: Any, last: Any) -> Array:
    """Return the largest values between stations along the last axis, both of these included.

    Parameters
    ----------
    values : array, shape (..., X)
    first, last : array of int, shape (..., G)
        Their leading axes broadcast with those of the values.

    Returns
    -------
    array, shape (..., G)

    Examples
    --------
    >>> largest_within(np.array([[1.0, 4.0, 2.0, 3.0]]), np.array([[0, 2]]), np.array([[1, 3]]))
    array([[4., 3.]])
    """
    lead = np.broadcast_shapes(values.shape[:-1], np.shape(first)[:-1])
    X, G = values.shape[-1], np.shape(first)[-1]
    values = np.broadcast_to(values, (*lead, X))
    if G == 1 and not np.any(first) and np.all(np.equal(last, X - 1)):
        return np.asarray(values.max(axis=-1, keepdims=True))
    row = X * np.arange(math.prod(lead)).reshape(*lead, 1)
    # From each first to beyond its last; what lies between two such ranges is left out.
    ends = np.stack(np.broadcast_arrays(row + first, row + last + 1), axis=-1).ravel()
    if not len(ends):
        return np.zeros((*lead, G))
    flat = np.append(values.ravel(), 0.0)  # for ranges up to the very end
    return np.asarray(np.maximum.reduceat(flat, ends)[::2].reshape(*lead, G))


def distinct(places: Array) -> Array:
    """Return the different values of an array, ascending."""
    ordered = np.sort(places, axis=None)
    keep = np.ones(ordered.shape, dtype=bool)
    keep[1:] = ordered[1:] > ordered[:-1]
    return ordered[keep]


def roots_in_unit_interval(c: Array) -> Array:
    """Return the places in [0, 1] where polynomials change sign.

    As often as its Bernstein coefficients change sign a polynomial does, or by an even number
    less often. Where they do more than once, each sign change is between two neighbouring roots of
    the derivative, where it is monotonic; these come from the same function, one degree lower.

    Parameters
    ----------
    c : array, shape (..., K)
        Coefficients, ascending.

    Returns
    -------
    array, shape (..., K - 1)
        Roots in ascending order; 1.0 fills the places of those that do not exist.
    """
    flat = c.reshape(-1, c.shape[-1])
    found = np.ones((len(flat), flat.shape[1] - 1))
    if found.shape[1] == 1:
        found[:, 0] = _root_of_line(flat[:, 0], flat[:, 1])
    elif found.shape[1] == 2:
        found[:] = _roots_of_parabola(*flat.T)
    else:
        found[:] = _roots(flat)
    return found.reshape(*c.shape[:-1], c.shape[-1] - 1)


@functools.cache
def _bernstein(count: int) -> Array:
    """Return what makes so many coefficients those of Bernstein's polynomials in [0, 1]."""
    n = count - 1
    each = [[math.comb(i, k) / math.comb(n, k) for k in range(count)] for i in range(count)]
    return np.array(each)


def _roots(c: Array) -> Array:
    """Return the roots of polynomials of shape (N, K), of the third degree or more, (N, K - 1)."""
    found = np.ones((len(c), c.shape[1] - 1))
    signs = np.sign(_bernstein(c.shape[1]) @ c.T)
    before = signs[0].copy()  # the last that is not zero
    first, changes = before.copy(), np.zeros(len(c), dtype=np.intp)
    for sign in signs[1:]:
        changes += sign * before < 0
        np.copyto(before, sign, where=sign != 0)
        np.copyto(first, sign, where=first == 0)
    once, often = np.flatnonzero(changes == 1), np.flatnonzero(changes > 1)
    if len(once):
        one, ends = c[once], np.zeros(len(once))
        before, after = one[:, 0], one.sum(axis=1)
        start = before / np.where(before == after, 1.0, before - after)
        start = np.where((start > 0) & (start < 1), start, 0.5)
        found[once, 0] = _bracketed(one, ends, ends + 1.0, first[once], start)
    if len(often):
        found[often] = _between_turns(c[often])
    return found


def _between_turns(c: Array) -> Array:
    """Return the roots of such polynomials between places where they turn."""
    count, degree = len(c), c.shape[1] - 1
    turning = roots_in_unit_interval(c[:, 1:] * np.arange(1, degree + 1))
    edges = np.concatenate([np.zeros((count, 1)), turning, np.ones((count, 1))], axis=1)
    at_edges = _value(c[:, None, :], edges)
    rows, pieces = np.nonzero(np.sign(at_edges[:, :-1]) * np.sign(at_edges[:, 1:]) < 0)
    roots = np.ones((count, degree))
    if len(rows):
        low, high = edges[rows, pieces], edges[rows, pieces + 1]
        signs = np.sign(at_edges[rows, pieces])
        roots[rows, pieces] = _bracketed(c[rows], low, high, signs, 0.5 * (low + high))
    return np.sort(roots, axis=1)


def _root_of_line(a: Array, b: Array) -> Array:
    """Return where a + b s changes sign between 0 and 1, else 1."""
    crosses = np.sign(a) * np.sign(a + b) < 0
    return np.where(crosses, -a / np.where(crosses, b, 1.0), 1.0)


def _roots_of_parabola(a: Array, b: Array, c: Array) -> Array:
    """Return where a + b s + c s2 changes sign between 0 and 1, ascending, filled with 1."""
    root = np.sqrt(np.maximum(b * b - 4 * a * c, 0.0))
    # The sum of two numbers of one sense, so that nothing is lost of the smaller root.
    q = -0.5 * (b + np.where(b < 0, -root, root))
    with np.errstate(divide="ignore", invalid="ignore"):
        found = np.stack([q / c, a / q], axis=1)
    found = np.where((root[:, None] > 0) & (found > 0) & (found < 1), found, 1.0)
    return np.sort(found, axis=1)


def _value(c: Array, s: Array) -> Array:
    """Return polynomials at places: Horner's scheme over the last axis of the coefficients."""
    total = c[..., -1] + 0.0 * s
    for k in range(c.shape[-1] - 2, -1, -1):
        total = total * s + c[..., k]
    return np.asarray(total)


def _bracketed(c: Array, low: Array, high: Array, sign_low: Array, start: Array) -> Array:
    """Return the one sign change of each polynomial between low and high, to rounding.

    Newton's step, and bisection wherever it would leave the bracket.
    """
    found, going = start.copy(), np.arange(len(c))
    orders, s = np.ascontiguousarray(c.T), start
    for _ in range(MOST_STEPS):
        value, slope = orders[-1], np.zeros_like(s)  # Horner's scheme for both
        for of_order in orders[-2::-1]:
            slope = slope * s + value
            value = value * s + of_order
        left = np.sign(value) == sign_low
        low, high = np.where(left, s, low), np.where(left, high, s)
        with np.errstate(divide="ignore", invalid="ignore"):
            step = s - value / slope
        inside = (step > low) & (step < high)
        following = np.where(inside, step, 0.5 * (low + high))
        rests = (np.abs(following - s) <= 1e-14) | (value == 0)
        s = np.where(value == 0, s, following)
        found[going] = s
        if rests.all():
            break
        if 2 * rests.sum() > len(s):
            more = ~rests
            going, s, low, high, sign_low = (
                one[more] for one in (going, s, low, high, sign_low)
            )  # fmt: skip
            orders = orders[:, more]
    return found
