"""Shapes made of rectangles and rounded corners: exact properties, for arrays of sizes.

A corner piece is what lies between a square of side r and the quarter circle inscribed at the
opposite corner: added, it is a fillet; taken away, it rounds an outer corner.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.sections.i_shape import FILLET_AREA, FILLET_CENTROID, FILLET_INERTIA

Array = NDArray[np.float64]

# Of the corner piece with r = 1, about its centroid: the integral of u v, both from the corner.
CORNER_PRODUCT = 1 / 4 - np.pi / 4 + 2 / 3 - 1 / 8 - FILLET_AREA * FILLET_CENTROID**2
BISECTIONS = 60


@dataclass(frozen=True)
class Rectangle:
    """A rectangle from (x0, y0) to (x1, y1); `sign` −1 takes it away."""

    x0: Any
    x1: Any
    y0: Any
    y1: Any
    sign: float = 1.0

    def integrals(self) -> tuple[Any, ...]:
        """Return A, x, y and the second moments about the centroid."""
        b, h = self.x1 - self.x0, self.y1 - self.y0
        A = self.sign * b * h
        middle = (self.x0 + self.x1) / 2, (self.y0 + self.y1) / 2
        return A, *middle, A * h**2 / 12, A * b**2 / 12, 0.0 * A

    def above(self, level: Any) -> tuple[Any, Any]:
        """Return the area above a level and its first moment about y = 0."""
        low = np.clip(level, self.y0, self.y1)
        A = self.sign * (self.x1 - self.x0) * (self.y1 - low)
        return A, A * (self.y1 + low) / 2

    def turned(self) -> Rectangle:
        """Return it with x and y exchanged."""
        return Rectangle(self.y0, self.y1, self.x0, self.x1, self.sign)


@dataclass(frozen=True)
class Corner:
    """A corner piece of radius r with its corner at (x, y), reaching towards (sx, sy)."""

    x: Any
    y: Any
    sx: float
    sy: float
    r: Any
    sign: float = 1.0

    def integrals(self) -> tuple[Any, ...]:
        """Return A, x, y and the second moments about the centroid."""
        r = self.r
        A = self.sign * FILLET_AREA * r**2
        x, y = self.x + self.sx * FILLET_CENTROID * r, self.y + self.sy * FILLET_CENTROID * r
        inertia = self.sign * FILLET_INERTIA * r**4
        return A, x, y, inertia, inertia, self.sign * self.sx * self.sy * CORNER_PRODUCT * r**4

    def above(self, level: Any) -> tuple[Any, Any]:
        """Return the area above a level and its first moment about y = 0."""
        A, _, y, *_ = self.integrals()
        # The part farther from the corner than v, along y: its area and moment from the corner.
        v = np.clip((level - self.y) * self.sy, 0.0, self.r)
        far, moment = _far_part(np.asarray(self.r, dtype=float), v)
        far, moment = self.sign * far, self.sign * (far * self.y + self.sy * moment)
        return (far, moment) if self.sy > 0 else (A - far, A * y - moment)

    def turned(self) -> Corner:
        """Return it with x and y exchanged."""
        return Corner(self.y, self.x, self.sy, self.sx, self.r, self.sign)


def _far_part(r: Array, v: Array) -> tuple[Array, Array]:
    """Return area and first moment, from the corner, of a corner piece beyond the distance v."""
    w = r - v
    chord = np.sqrt(np.maximum(r**2 - w**2, 0.0))
    with np.errstate(invalid="ignore", divide="ignore"):
        sector = 0.5 * (w * chord + r**2 * np.where(r > 0, np.arcsin(np.clip(w / r, 0, 1)), 0.0))
    area = r * w - sector
    moment = r**2 * w - r * w**2 / 2 - (r * sector - (r**3 - chord**3) / 3)
    return area, moment


Part = Rectangle | Corner


def composite(parts: Sequence[Part]) -> dict[str, Array]:
    """Return the properties of shapes made of parts, except those of torsion.

    Parameters
    ----------
    parts : sequence of Rectangle and Corner
        Their numbers are arrays of shape (S,) or single numbers; mm.

    Returns
    -------
    dict of str to array, shape (S,)
        A; x, y (centroid); I_x, I_y, I_xy about it; I_major, I_minor and angle (from the x axis to
        the major axis); Wel_top, Wel_bottom, Wel_right, Wel_left; Wpl_x, Wpl_y; r_x, r_y, r_minor.
    """
    pieces = [part.integrals() for part in parts]
    A = sum(p[0] for p in pieces)
    x = sum(p[0] * p[1] for p in pieces) / A
    y = sum(p[0] * p[2] for p in pieces) / A
    I_x = sum(p[3] + p[0] * (p[2] - y) ** 2 for p in pieces)
    I_y = sum(p[4] + p[0] * (p[1] - x) ** 2 for p in pieces)
    I_xy = sum(p[5] + p[0] * (p[1] - x) * (p[2] - y) for p in pieces)
    mean, half = (I_x + I_y) / 2, (I_x - I_y) / 2
    radius = np.hypot(half, I_xy)
    turned = [part.turned() for part in parts]
    edges_x, edges_y = _extent(parts, "x0", "x1"), _extent(parts, "y0", "y1")
    found = {
        "A": A,
        "x": x,
        "y": y,
        "I_x": I_x,
        "I_y": I_y,
        "I_xy": I_xy,
        "I_major": mean + radius,
        "I_minor": mean - radius,
        "angle": np.where(radius > 1e-12 * mean, 0.5 * np.arctan2(-I_xy, half), 0.0),
        "Wel_top": I_x / (edges_y[1] - y),
        "Wel_bottom": I_x / (y - edges_y[0]),
        "Wel_right": I_y / (edges_x[1] - x),
        "Wel_left": I_y / (x - edges_x[0]),
        "Wpl_x": _plastic(parts, A, y * A, *edges_y),
        "Wpl_y": _plastic(turned, A, x * A, *edges_x),
        "r_x": np.sqrt(I_x / A),
        "r_y": np.sqrt(I_y / A),
        "r_minor": np.sqrt((mean - radius) / A),
    }
    return {name: np.asarray(value, dtype=float) for name, value in found.items()}


def _extent(parts: Sequence[Part], low: str, high: str) -> tuple[Any, Any]:
    rectangles = [p for p in parts if isinstance(p, Rectangle) and p.sign > 0]

    def fold(of: Callable[..., Any], name: str) -> Any:
        total = getattr(rectangles[0], name)
        for rectangle in rectangles[1:]:
            total = of(total, getattr(rectangle, name))
        return total

    return fold(np.minimum, low), fold(np.maximum, high)


def _plastic(parts: Sequence[Part], A: Any, S: Any, low: Any, high: Any) -> Array:
    """Return the plastic modulus about the horizontal line that halves the area."""
    low, high = (np.asarray(v + 0.0 * A, dtype=float) for v in (low, high))

    def above(level: Any) -> tuple[Any, Any]:
        pieces = [part.above(level) for part in parts]
        return sum(p[0] for p in pieces), sum(p[1] for p in pieces)

    # Between two neighbouring edges of rectangles the area above a level is linear in the level.
    edges = [e for p in parts if isinstance(p, Rectangle) for e in (p.y0, p.y1)]
    for edge in edges:
        too_much = above(edge)[0] > A / 2
        low = np.where(too_much, np.maximum(low, edge), low)
        high = np.where(too_much, high, np.minimum(high, edge))
    if any(isinstance(part, Corner) and np.any(part.r > 0) for part in parts):
        for _ in range(BISECTIONS):
            middle = 0.5 * (low + high)
            too_much = above(middle)[0] > A / 2
            low, high = np.where(too_much, middle, low), np.where(too_much, high, middle)
    upper, lower = above(low)[0], above(high)[0]
    with np.errstate(invalid="ignore", divide="ignore"):
        share = np.where(upper > lower, (upper - A / 2) / (upper - lower), 0.5)
    axis = low + share * (high - low)
    area, moment = above(axis)
    return np.asarray(2 * (moment - area * axis) + A * axis - S)
