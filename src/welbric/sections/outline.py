"""Any section from its outline: exact integrals over polygons, and plastic moduli.

This is the general engine: it takes any outline, with holes, and it is the independent check of
every closed form. Curved parts are polygons of many short sides.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
ARC = 48  # sides of a quarter circle; its area is short by 2e-4 of r2


@dataclass(frozen=True)
class Integrals:
    """Integrals over an area, about given axes.

    Attributes
    ----------
    A : float
        Area, mm2.
    x, y : float
        Centroid, mm.
    Ixx, Iyy, Ixy : float
        Second moments about the centroid: of y2, of x2 and of xy, mm4.
    """

    A: float
    x: float
    y: float
    Ixx: float
    Iyy: float
    Ixy: float


class Outline:
    """A plane area bounded by closed polygons.

    Parameters
    ----------
    rings : arrays of shape (N, 2), mm
        The first is the outer boundary, the others are holes; either sense of rotation.

    Raises
    ------
    ValueError
        If a ring has fewer than three corners or no area.
    """

    def __init__(self, *rings: Any) -> None:
        self.rings: list[Array] = []
        for position, ring in enumerate(rings):
            corners = np.asarray(ring, dtype=float)
            if corners.ndim != 2 or corners.shape[1] != 2 or len(corners) < 3:
                raise ValueError("a ring of an outline has at least three corners (x, y)")
            area = _ring_integrals(corners)[0]
            if not np.isfinite(area) or area == 0:
                raise ValueError("a ring of an outline encloses no area")
            outer = position == 0
            self.rings.append(corners if (area > 0) == outer else corners[::-1])

    def integrals(self) -> Integrals:
        """Return area, centroid and second moments; exact for the polygon."""
        A, Sx, Sy, Ixx, Iyy, Ixy = np.sum([_ring_integrals(r) for r in self.rings], axis=0)
        x, y = Sy / A, Sx / A
        return Integrals(A, x, y, Ixx - A * y**2, Iyy - A * x**2, Ixy - A * x * y)

    def perimeter(self) -> float:
        """Return the length of the outer boundary."""
        outer = self.rings[0]
        return float(np.linalg.norm(np.roll(outer, -1, axis=0) - outer, axis=1).sum())

    def moved(self, x: float, y: float) -> Outline:
        """Return the outline moved by (x, y)."""
        return Outline(*(ring + np.array([x, y]) for ring in self.rings))

    def mirrored(self, x: float = 1.0, y: float = 1.0) -> Outline:
        """Return the outline with left and right (x = -1) or top and bottom (y = -1) exchanged."""
        return Outline(*(ring * np.array([x, y]) for ring in self.rings))

    def turned(self, angle: float) -> Outline:
        """Return the outline turned about the origin, counterclockwise, radians."""
        c, s = np.cos(angle), np.sin(angle)
        return Outline(*(ring @ np.array([[c, s], [-s, c]]) for ring in self.rings))

    def above(self, level: float) -> list[Array]:
        """Return the parts of the rings above a horizontal line."""
        return [part for ring in self.rings if len(part := _clip(ring, level)) >= 3]

    def plastic_modulus(self) -> tuple[float, float]:
        """Return the plastic modulus for bending about a horizontal axis, and the axis' height.

        The axis halves the area; the modulus is the first moment of both halves about it.
        """
        whole = self.integrals()
        y = np.concatenate([ring[:, 1] for ring in self.rings])
        low, high = float(y.min()), float(y.max())
        for _ in range(200):
            middle = 0.5 * (low + high)
            area = sum(_ring_integrals(part)[0] for part in self.above(middle))
            low, high = (middle, high) if area > whole.A / 2 else (low, middle)
            if high - low <= 1e-13 * max(abs(low), abs(high), 1e-300):
                break
        axis = 0.5 * (low + high)
        upper = np.sum([_ring_integrals(part)[:2] for part in self.above(axis)], axis=0)
        first_above = upper[1] - upper[0] * axis
        first_below = (upper[0] - whole.A) * axis + whole.A * whole.y - upper[1]
        return float(first_above - first_below), axis

    def contains(self, points: Array) -> NDArray[np.bool_]:
        """Return which points, shape (N, 2), lie inside."""
        inside = np.zeros(len(points), dtype=bool)
        x, y = points[:, 0], points[:, 1]
        for ring in self.rings:
            a, b = ring, np.roll(ring, -1, axis=0)
            for (xa, ya), (xb, yb) in zip(a, b, strict=True):
                crosses = (ya > y) != (yb > y)
                if not crosses.any():
                    continue
                with np.errstate(divide="ignore", invalid="ignore"):
                    at = xa + (y - ya) * (xb - xa) / (yb - ya)
                inside ^= crosses & (x < at)
        return inside


def _ring_integrals(ring: Array) -> Array:
    """Return (A, Sx, Sy, Ixx, Iyy, Ixy) of a polygon by Green's theorem, signed."""
    x, y = ring[:, 0], ring[:, 1]
    u, v = np.roll(x, -1), np.roll(y, -1)
    cross = x * v - u * y
    return np.array(
        [
            cross.sum() / 2,
            ((y + v) * cross).sum() / 6,
            ((x + u) * cross).sum() / 6,
            ((y**2 + y * v + v**2) * cross).sum() / 12,
            ((x**2 + x * u + u**2) * cross).sum() / 12,
            ((x * v + 2 * x * y + 2 * u * v + u * y) * cross).sum() / 24,
        ]
    )


def _clip(ring: Array, level: float) -> Array:
    """Return the part of a polygon above a level (edges along it may be walked twice)."""
    corners: list[tuple[float, float]] = []
    for (xa, ya), (xb, yb) in zip(ring, np.roll(ring, -1, axis=0), strict=True):
        if ya >= level:
            corners.append((xa, ya))
        if (ya >= level) != (yb >= level):
            share = (level - ya) / (yb - ya)
            corners.append((xa + share * (xb - xa), level))
    return np.array(corners).reshape(-1, 2)


def arc(x: float, y: float, r: float, start: float, end: float, sides: int = ARC) -> Array:
    """Return points along an arc about (x, y), from one angle to another, degrees."""
    if r == 0:
        return np.array([[x, y]])
    angles = np.radians(np.linspace(start, end, sides + 1))
    return np.column_stack([x + r * np.cos(angles), y + r * np.sin(angles)])


def i_outline(d: float, bf: float, tw: float, tf: float, r: float, sides: int = ARC) -> Outline:
    """Return the outline of a doubly symmetric I-shape with fillets, centred."""
    h, b, w = d / 2, bf / 2, tw / 2
    fillet = arc(w + r, h - tf - r, r, 180, 90, sides)  # from the web up to the flange
    upper_right = np.concatenate([fillet, [[b, h - tf], [b, h]]])
    upper_left = upper_right[::-1] * [-1, 1]
    return Outline(np.concatenate([upper_right, upper_left, -upper_right, -upper_left]))


def rectangle_outline(width: float, height: float) -> Outline:
    """Return a centred rectangle."""
    b, h = width / 2, height / 2
    return Outline([[-b, -h], [b, -h], [b, h], [-b, h]])


def ellipse_outline(a: float, b: float, sides: int = 4 * ARC) -> Outline:
    """Return a centred ellipse with half axes a (along x) and b."""
    return Outline(arc(0, 0, 1, 0, 360, sides)[:-1] * [a, b])


def tube_outline(diameter: float, t: float, sides: int = 4 * ARC) -> Outline:
    """Return a centred round tube."""
    outer = arc(0, 0, diameter / 2, 0, 360, sides)[:-1]
    return Outline(outer, arc(0, 0, diameter / 2 - t, 0, 360, sides)[:-1])


def channel_outline(
    d: float, bf: float, tw: float, tf: float, r: float = 0.0, sides: int = ARC
) -> Outline:
    """Return a channel with parallel flanges; the web's back is at x = 0."""
    h = d / 2
    fillet = arc(tw + r, tf - h + r, r, 270, 180, sides)
    lower = np.concatenate([[[0, -h], [bf, -h], [bf, tf - h]], fillet])
    return Outline(np.concatenate([lower, lower[::-1] * [1, -1]]))


def angle_outline(
    d: float, b: float, t: float, r: float = 0.0, r_toe: float = 0.0, sides: int = ARC
) -> Outline:
    """Return an angle: leg d upwards, leg b to the right, heel at the origin."""
    root = arc(t + r, t + r, r, 270, 180, sides)
    right = arc(b - r_toe, t - r_toe, r_toe, 0, 90, sides)
    top = arc(t - r_toe, d - r_toe, r_toe, 0, 90, sides)
    return Outline(np.concatenate([[[0, 0], [b, 0]], right, root, top, [[0, d]]]))


def tee_outline(
    d: float, bf: float, tw: float, tf: float, r: float = 0.0, sides: int = ARC
) -> Outline:
    """Return a tee, flange up, with the tip of its stem at y = 0."""
    fillet = arc(tw / 2 + r, d - tf - r, r, 180, 90, sides)
    right = np.concatenate([[[tw / 2, 0]], fillet, [[bf / 2, d - tf], [bf / 2, d]]])
    return Outline(np.concatenate([right, right[::-1] * [-1, 1]]))


def unequal_i_outline(
    d: float, bf_top: float, tf_top: float, bf_bottom: float, tf_bottom: float, tw: float
) -> Outline:
    """Return an I of three plates with its bottom at y = 0."""
    b1, b2, w = bf_top / 2, bf_bottom / 2, tw / 2
    below = [[b2, 0], [b2, tf_bottom], [w, tf_bottom]]
    right = np.array([*below, [w, d - tf_top], [b1, d - tf_top], [b1, d]], dtype=float)
    return Outline(np.concatenate([right, right[::-1] * [-1, 1]]))


def rounded_outline(width: float, height: float, r: float, sides: int = ARC) -> Outline:
    """Return a centred rectangle with round corners."""
    corner = arc(width / 2 - r, height / 2 - r, r, 0, 90, sides)
    right = np.concatenate([corner, (corner * [-1, 1])[::-1]])
    return Outline(np.concatenate([right, (right * [1, -1])[::-1]]))


def rectangular_tube_outline(
    d: float, b: float, t: float, r_out: float = 0.0, r_in: float = 0.0, sides: int = ARC
) -> Outline:
    """Return a centred rectangular tube."""
    outer = rounded_outline(b, d, r_out, sides)
    return Outline(*outer.rings, *rounded_outline(b - 2 * t, d - 2 * t, r_in, sides).rings)


def z_outline(d: float, bf: float, tw: float, tf: float) -> Outline:
    """Return a Z with sharp corners, centred on its web."""
    h, w = d / 2, tw / 2
    right = [[w, -h + tf], [w, h], [w - bf, h], [w - bf, h - tf]]
    return Outline([*right, [-w, h - tf], [-w, -h], [bf - w, -h], [bf - w, -h + tf]])
