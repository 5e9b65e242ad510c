"""Shapes made of parts: exact properties, for arrays of sizes.

A part is a rectangle, a polygon or a corner piece. A corner piece is what lies between a square of
side r and the quarter circle inscribed at the opposite corner: added, it is a fillet; taken away,
it rounds an outer corner.

Every part tells the same of itself: its `integrals`; the area `above` a level; its extreme
coordinates; itself `moved`, and `turned` by a right angle or `mirrored`.
"""

from __future__ import annotations

import functools
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.sections.i_shape import FILLET_AREA, FILLET_CENTROID, FILLET_INERTIA
from welbric.sections.thin_wall import GAUSS

Array = NDArray[np.float64]

# Of the corner piece with r = 1, about its centroid: the integral of u v, both from the corner.
CORNER_PRODUCT = 1 / 4 - np.pi / 4 + 2 / 3 - 1 / 8 - FILLET_AREA * FILLET_CENTROID**2
# Near the line that halves the area the modulus is flat: halves to 1e-9 give it to 1e-16.
HALVES, ROUNDS = 1e-9, 60


@dataclass(frozen=True)
class Rectangle:
    """A rectangle from (x0, y0) to (x1, y1); `sign` −1 takes it away."""

    x0: Any
    x1: Any
    y0: Any
    y1: Any
    sign: float = 1.0

    def integrals(self) -> tuple[Any, ...]:
        """Return A, x, y and the second and third moments about the centroid."""
        b, h = self.x1 - self.x0, self.y1 - self.y0
        A = self.sign * b * h
        middle = (self.x0 + self.x1) / 2, (self.y0 + self.y1) / 2
        return A, *middle, A * h**2 / 12, A * b**2 / 12, 0.0 * A, 0.0, 0.0

    def above(self, level: Any) -> tuple[Any, Any]:
        """Return the area above a level and its first moment about y = 0."""
        low = np.clip(level, self.y0, self.y1)
        A = self.sign * (self.x1 - self.x0) * (self.y1 - low)
        return A, A * (self.y1 + low) / 2

    def turned(self) -> Rectangle:
        """Return it with x and y exchanged."""
        return Rectangle(self.y0, self.y1, self.x0, self.x1, self.sign)

    def moved(self, x: Any, y: Any) -> Rectangle:
        """Return it moved."""
        return Rectangle(self.x0 + x, self.x1 + x, self.y0 + y, self.y1 + y, self.sign)

    def mirrored(self) -> Rectangle:
        """Return it with left and right exchanged, about x = 0."""
        return Rectangle(-self.x1, -self.x0, self.y0, self.y1, self.sign)

    def levels(self) -> tuple[Any, ...]:
        """Return the heights at which its width changes."""
        return (self.y0, self.y1)


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
        """Return A, x, y and the second and third moments about the centroid.

        The third are of the order of r5, and taken as zero.
        """
        r = self.r
        A = self.sign * FILLET_AREA * r**2
        x, y = self.x + self.sx * FILLET_CENTROID * r, self.y + self.sy * FILLET_CENTROID * r
        inertia = self.sign * FILLET_INERTIA * r**4
        product = self.sign * self.sx * self.sy * CORNER_PRODUCT * r**4
        return A, x, y, inertia, inertia, product, 0.0, 0.0

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

    def moved(self, x: Any, y: Any) -> Corner:
        """Return it moved."""
        return Corner(self.x + x, self.y + y, self.sx, self.sy, self.r, self.sign)

    def mirrored(self) -> Corner:
        """Return it with left and right exchanged, about x = 0."""
        return Corner(-self.x, self.y, -self.sx, self.sy, self.r, self.sign)

    def levels(self) -> tuple[Any, ...]:
        """Return no height: the width of a corner piece changes all along it."""
        return ()


@dataclass(frozen=True)
class Polygon:
    """A polygon with its corners counterclockwise, x and y of shape (N, S)."""

    x: Array
    y: Array

    def integrals(self) -> tuple[Any, ...]:
        """Return A, x, y and the second and third moments about the centroid (Green)."""
        x, y = self.x, self.y
        u, v = np.roll(x, -1, axis=0), np.roll(y, -1, axis=0)
        cross = x * v - u * y
        A = cross.sum(axis=0) / 2
        xc = ((x + u) * cross).sum(axis=0) / (6 * A)
        yc = ((y + v) * cross).sum(axis=0) / (6 * A)
        x, y, u, v = x - xc, y - yc, u - xc, v - yc
        cross = x * v - u * y
        I_x = ((y**2 + y * v + v**2) * cross).sum(axis=0) / 12
        I_y = ((x**2 + x * u + u**2) * cross).sum(axis=0) / 12
        I_xy = ((x * v + 2 * x * y + 2 * u * v + u * y) * cross).sum(axis=0) / 24
        return A, xc, yc, I_x, I_y, I_xy, *_third_moments(x, y, u, v)

    def above(self, level: Any) -> tuple[Any, Any]:
        """Return the area above a level and its first moment about y = 0."""
        x, y = self.x, self.y
        u, v = np.roll(x, -1, axis=0), np.roll(y, -1, axis=0)
        top, low = np.maximum(y, v), np.minimum(y, v)
        # The share of each side above the level, and what it carries over the level there.
        with np.errstate(invalid="ignore", divide="ignore"):
            share = np.clip(np.where(top > low, (top - level) / (top - low), top > level), 0, 1)
        from_here, to_there = np.maximum(low, level), np.maximum(top, level)
        run = -(u - x) * share
        A = (run * ((from_here + to_there) / 2 - level)).sum(axis=0)
        squares = (from_here**2 + from_here * to_there + to_there**2) / 3
        return A, (run * (squares - level**2)).sum(axis=0) / 2

    def turned(self) -> Polygon:
        """Return it with x and y exchanged."""
        return Polygon(self.y[::-1], self.x[::-1])

    def moved(self, x: Any, y: Any) -> Polygon:
        """Return it moved."""
        return Polygon(self.x + x, self.y + y)

    def mirrored(self) -> Polygon:
        """Return it with left and right exchanged, about x = 0."""
        return Polygon(-self.x[::-1], self.y[::-1])

    def levels(self) -> tuple[Any, ...]:
        """Return the heights of its corners."""
        return tuple(self.y)


def _third_moments(x: Any, y: Any, u: Any, v: Any) -> tuple[Any, Any]:
    """Return the integrals of y (x2 + y2) and x (x2 + y2), exact, by Gauss' rule on each side."""
    about_x = about_y = 0.0
    for point, weight in GAUSS:
        px, py = x + (u - x) * point, y + (v - y) * point
        about_x = about_x + weight * (px**3 * py / 3 * (v - y) - py**4 / 4 * (u - x)).sum(axis=0)
        about_y = about_y + weight * (px**4 / 4 * (v - y) - px * py**3 / 3 * (u - x)).sum(axis=0)
    return about_x, about_y


def _far_part(r: Array, v: Array) -> tuple[Array, Array]:
    """Return area and first moment, from the corner, of a corner piece beyond the distance v."""
    w = r - v
    chord = np.sqrt(np.maximum(r**2 - w**2, 0.0))
    with np.errstate(invalid="ignore", divide="ignore"):
        sector = 0.5 * (w * chord + r**2 * np.where(r > 0, np.arcsin(np.clip(w / r, 0, 1)), 0.0))
    area = r * w - sector
    moment = r**2 * w - r * w**2 / 2 - (r * sector - (r**3 - chord**3) / 3)
    return area, moment


Part = Rectangle | Corner | Polygon


def composite(parts: Sequence[Part], symmetry: str = "") -> dict[str, Array]:
    """Return the properties of shapes made of parts, except those of torsion.

    Parameters
    ----------
    parts : sequence of Rectangle, Corner and Polygon
        Their numbers are arrays of shape (S,) or single numbers; mm.
    symmetry : str
        The axes of symmetry, of x and y: their plastic axes need no search.

    Returns
    -------
    dict of str to array, shape (S,)
        A; x, y (centroid); I_x, I_y, I_xy about it; Wel_top, Wel_bottom, Wel_right, Wel_left;
        Wpl_x, Wpl_y and where their plastic axes are, plastic_y and plastic_x; third_x, third_y:
        the integrals of y (x2 + y2) and x (x2 + y2).
    """
    pieces = [part.integrals() for part in parts]
    A = sum(p[0] for p in pieces)
    x = sum(p[0] * p[1] for p in pieces) / A
    y = sum(p[0] * p[2] for p in pieces) / A
    I_x = I_y = I_xy = third_x = third_y = 0.0
    for a, px, py, ix, iy, ixy, tx, ty in pieces:
        u, v = px - x, py - y
        I_x, I_y, I_xy = I_x + ix + a * v**2, I_y + iy + a * u**2, I_xy + ixy + a * u * v
        third_x = third_x + tx + v * (3 * ix + iy + a * (u**2 + v**2)) + 2 * u * ixy
        third_y = third_y + ty + u * (ix + 3 * iy + a * (u**2 + v**2)) + 2 * v * ixy
    turned = [part.turned() for part in parts]
    (left, right), (bottom, top) = extent(turned), extent(parts)
    Wpl_x, plastic_y = _plastic(parts, A, y, bottom, top, "x" in symmetry)
    Wpl_y, plastic_x = _plastic(turned, A, x, left, right, "y" in symmetry)
    found = {
        "A": A,
        "x": x,
        "y": y,
        "I_x": I_x,
        "I_y": I_y,
        "I_xy": I_xy,
        "Wel_top": I_x / (top - y),
        "Wel_bottom": I_x / (y - bottom),
        "Wel_right": I_y / (right - x),
        "Wel_left": I_y / (x - left),
        "Wpl_x": Wpl_x,
        "Wpl_y": Wpl_y,
        "plastic_y": plastic_y,
        "plastic_x": plastic_x,
        "third_x": third_x,
        "third_y": third_y,
    }
    return {name: np.asarray(value, dtype=float) for name, value in found.items()}


def extent(parts: Sequence[Part]) -> tuple[Any, Any]:
    """Return the lowest and the highest y."""
    # Corner pieces lie within what they round or fill.
    levels = [y for part in parts if getattr(part, "sign", 1) > 0 for y in part.levels()]
    return functools.reduce(np.minimum, levels), functools.reduce(np.maximum, levels)


def _plastic(
    parts: Sequence[Part], A: Any, centroid: Any, low: Any, high: Any, symmetric: bool
) -> tuple[Array, Array]:
    """Return the plastic modulus about the horizontal line that halves the area, and the line."""

    def above(level: Any) -> tuple[Any, Any]:
        pieces = [part.above(level) for part in parts]
        return sum(p[0] for p in pieces), sum(p[1] for p in pieces)

    axis = centroid if symmetric else _halving_line(parts, above, A, low, high)
    area, moment = above(axis)
    return np.asarray(2 * (moment - area * axis) + A * (axis - centroid)), axis


def _halving_line(parts: Sequence[Part], above: Any, A: Any, low: Any, high: Any) -> Array:
    low, high = (np.asarray(v + 0.0 * A, dtype=float) for v in (low, high))
    if all(isinstance(part, Rectangle) for part in parts):
        # Between two neighbouring edges the area above a level is linear in the level.
        for edge in (level for part in parts for level in part.levels()):
            too_much = above(edge)[0] > A / 2
            low = np.where(too_much, np.maximum(low, edge), low)
            high = np.where(too_much, high, np.minimum(high, edge))
        upper, lower = above(low)[0], above(high)[0]
        with np.errstate(invalid="ignore", divide="ignore"):
            share = np.where(upper > lower, (upper - A / 2) / (upper - lower), 0.5)
        return np.asarray(low + share * (high - low))
    # Regula falsi in Illinois' form: the end that stays twice counts half.
    over, under = A / 2 + 0.0 * low, -A / 2 + 0.0 * low
    stayed = np.zeros(low.shape)
    axis = 0.5 * (low + high)
    for _ in range(ROUNDS):
        excess = above(axis)[0] - A / 2
        if np.all(np.abs(excess) <= HALVES * A):
            break
        upwards = excess > 0
        under = np.where(upwards & (stayed > 0), under / 2, np.where(upwards, under, excess))
        over = np.where(~upwards & (stayed < 0), over / 2, np.where(upwards, excess, over))
        low, high = np.where(upwards, axis, low), np.where(upwards, high, axis)
        stayed = np.where(upwards, 1.0, -1.0)
        axis = low + over / (over - under) * (high - low)
    return np.asarray(axis)
