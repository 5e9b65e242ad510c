"""Diagrams along a member as piecewise polynomials: exact values and exact extremes.

Between two neighbouring breaks (supports, load points, ends of line loads) every diagram of a
prismatic member is a polynomial. Its coefficients are kept in the local coordinate s, 0 to 1,
of each interval, for all load cases or combinations at once.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

BISECTIONS = 60  # halves the interval down to the spacing of floating-point numbers


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
        return Diagram(self.breaks, np.tensordot(factors, self.coefficients, axes=(1, 0)))

    def at(self, x: Array, right: NDArray[np.bool_]) -> Array:
        """Return the values at stations.

        Parameters
        ----------
        x : array, shape (X,), mm
        right : array of bool, shape (X,)
            Which side of a jump is meant where a station stands on a break.

        Returns
        -------
        array, shape (..., X)
        """
        count = len(self.breaks) - 1
        from_left = np.searchsorted(self.breaks, x, side="left") - 1
        from_right = np.searchsorted(self.breaks, x, side="right") - 1
        interval = np.clip(np.where(right, from_right, from_left), 0, count - 1)
        s = (x - self.breaks[interval]) / np.diff(self.breaks)[interval]
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
        orders = np.arange(1, self.coefficients.shape[-1])
        s = roots_in_unit_interval(self.coefficients[..., 1:] * orders)
        place = self.breaks[:-1, None] + s * np.diff(self.breaks)[:, None]
        return np.unique(place[(s > 0) & (s < 1)])


def roots_in_unit_interval(c: Array) -> Array:
    """Return the places in [0, 1] where polynomials change sign.

    Between two neighbouring roots of its derivative a polynomial is monotonic, so that bisection
    finds each sign change; the derivative's roots come from the same function, one degree lower.

    Parameters
    ----------
    c : array, shape (..., K)
        Coefficients, ascending.

    Returns
    -------
    array, shape (..., K - 1)
        Roots in ascending order; 1.0 fills the places of those that do not exist.
    """
    degree = c.shape[-1] - 1
    if degree < 1:
        return np.ones((*c.shape[:-1], 0))
    turning = roots_in_unit_interval(c[..., 1:] * np.arange(1, degree + 1))
    ends = np.zeros((*c.shape[:-1], 1))
    edges = np.concatenate([ends, turning, ends + 1.0], axis=-1)
    low, high = edges[..., :-1].copy(), edges[..., 1:].copy()

    def value(s: Array) -> Array:
        total = np.zeros_like(s)
        for k in range(degree, -1, -1):
            total = total * s + c[..., k : k + 1]
        return total

    at_low = value(low)
    changes = (np.sign(at_low) * np.sign(value(high)) < 0) & (high > low)
    for _ in range(BISECTIONS):
        middle = 0.5 * (low + high)
        same_side = np.sign(value(middle)) == np.sign(at_low)
        low, high = np.where(same_side, middle, low), np.where(same_side, high, middle)
    return np.sort(np.where(changes, 0.5 * (low + high), 1.0), axis=-1)
