"""Every property of a section of any outline."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.spatial import ConvexHull

from welbric.sections.outline import Array, Outline
from welbric.sections.table import DENSITY, Section
from welbric.sections.torsion import torsion

ELEMENTS_ACROSS = 3  # a wall of mean thickness: J within about 0.3 %
MOST_ELEMENTS = 60_000
# What the engine calls otherwise than a section does; None is left out.
RENAMED = {
    "Ixx": "I_x", "Iyy": "I_y", "Ixy": "I_xy", "perimeter": "surface", "beta_x": None,
    "beta_y": None,
}  # fmt: skip


@dataclass(frozen=True)
class GeneralProperties:
    """The properties of an outline; x to the right and y upwards in its own axes.

    Attributes
    ----------
    A, perimeter : float
        mm2, mm (the outer boundary).
    x, y : float
        Centroid.
    Ixx, Iyy, Ixy : float
        Second moments about the centroid: of y2, of x2, of xy; mm4.
    I_major, I_minor : float
        Principal second moments.
    angle : float
        From the x axis to the major principal axis, counterclockwise, radians.
    Wel_top, Wel_bottom, Wel_right, Wel_left : float
        Elastic moduli of the four extreme fibres, for bending about x and about y; mm3.
    Wpl_x, Wpl_y : float
        Plastic moduli about horizontal and vertical axes, each at its own plastic axis; mm3.
    plastic_y, plastic_x : float
        Where the plastic axes are.
    J, Cw : float
        Torsion and warping constants; mm4, mm6.
    shear_x, shear_y : float
        Shear centre.
    r_polar : float
        Polar radius of gyration about the shear centre, mm.
    beta_x, beta_y : float
        Monosymmetry constants about x and y, with the shear centre; mm. Zero for double symmetry.
    """

    A: float
    perimeter: float
    x: float
    y: float
    Ixx: float
    Iyy: float
    Ixy: float
    I_major: float
    I_minor: float
    angle: float
    Wel_top: float
    Wel_bottom: float
    Wel_right: float
    Wel_left: float
    Wpl_x: float
    Wpl_y: float
    plastic_y: float
    plastic_x: float
    J: float
    Cw: float
    shear_x: float
    shear_y: float
    r_polar: float
    beta_x: float
    beta_y: float


def general_properties(outline: Outline, size: float) -> GeneralProperties:
    """Return every property of an outline.

    Parameters
    ----------
    outline : Outline
    size : float, mm
        Side of the finite elements for torsion: a quarter of the thinnest wall is enough for
        0.1 % of J.

    Examples
    --------
    >>> from welbric.sections.outline import rectangle_outline
    >>> bar = general_properties(rectangle_outline(20.0, 60.0), 4.0)
    >>> round(bar.A), round(bar.Wpl_x)
    (1200, 18000)
    """
    shape = outline.integrals()
    twist = torsion(outline, size)
    corners = np.concatenate(outline.rings)
    x, y = corners[:, 0] - shape.x, corners[:, 1] - shape.y
    mean, half = (shape.Ixx + shape.Iyy) / 2, (shape.Ixx - shape.Iyy) / 2
    radius = float(np.hypot(half, shape.Ixy))
    # Ixx cos2 + Iyy sin2 - 2 Ixy sin cos is largest at this angle from the x axis.
    angle = 0.5 * float(np.arctan2(-shape.Ixy, half)) if radius > 1e-12 * mean else 0.0
    Wpl_x, plastic_y = outline.plastic_modulus()
    Wpl_y, turned_axis = outline.turned(np.pi / 2).plastic_modulus()
    xs, ys = twist.x - shape.x, twist.y - shape.y
    polar = (shape.Ixx + shape.Iyy) / shape.A + xs**2 + ys**2
    y3, x2y, x3, xy2 = _third_moments(outline.moved(-shape.x, -shape.y))
    return GeneralProperties(
        shape.A,
        outline.perimeter(),
        shape.x,
        shape.y,
        shape.Ixx,
        shape.Iyy,
        shape.Ixy,
        mean + radius,
        mean - radius,
        angle,
        shape.Ixx / float(y.max()),
        shape.Ixx / -float(y.min()),
        shape.Iyy / float(x.max()),
        shape.Iyy / -float(x.min()),
        Wpl_x,
        Wpl_y,
        plastic_y,
        turned_axis,
        twist.J,
        twist.Cw,
        twist.x,
        twist.y,
        float(np.sqrt(polar)),
        (y3 + x2y) / shape.Ixx - 2 * ys,
        (x3 + xy2) / shape.Iyy - 2 * xs,
    )


def outline_section(name: str, outline: Outline, thickest: float, stocky: bool = False) -> Section:
    """Return a section of any outline; its axes are the principal ones.

    Parameters
    ----------
    name : str
    outline : Outline
    thickest : float, mm
        The thickest part, which the strength of the steel goes by.
    stocky : bool
        Whether no part of it buckles locally, as the designer says.

    Raises
    ------
    ValueError
        If the outline crosses itself, or is too slender for the finite elements.
    """
    if any(ring_crosses_itself(ring) for ring in outline.rings):
        raise ValueError("the sides of an outline must not cross one another")
    shape = outline.integrals()
    if shape.A <= 0:
        raise ValueError("the holes must be smaller than the outline")
    wall = 2 * shape.A / outline.perimeter()
    size = wall / ELEMENTS_ACROSS
    if shape.A / size**2 > MOST_ELEMENTS:
        raise ValueError("the outline is too slender for the finite elements of its torsion")
    g = general_properties(outline, size)
    level = outline.moved(-g.x, -g.y).turned(-g.angle)
    corners = np.concatenate(level.rings)
    Wpl_major = level.plastic_modulus()[0]
    Wpl_minor = level.turned(np.pi / 2).plastic_modulus()[0]
    y3, x2y, x3, xy2 = _third_moments(level)
    c, s = np.cos(g.angle), np.sin(g.angle)
    xs, ys = g.shear_x - g.x, g.shear_y - g.y
    u, v = xs * c + ys * s, ys * c - xs * s
    properties = {
        **{key: value for key, value in g.__dict__.items() if key not in RENAMED},
        **{ours: getattr(g, theirs) for theirs, ours in RENAMED.items() if ours},
        "Wel_major": g.I_major / float(np.abs(corners[:, 1]).max()),
        "Wel_minor": g.I_minor / float(np.abs(corners[:, 0]).max()),
        "Wpl_major": Wpl_major,
        "Wpl_minor": Wpl_minor,
        "beta_major": (y3 + x2y) / g.I_major - 2 * v,
        "beta_minor": (x3 + xy2) / g.I_minor - 2 * u,
        "r_x": (g.Ixx / g.A) ** 0.5,
        "r_y": (g.Iyy / g.A) ** 0.5,
        "r_major": (g.I_major / g.A) ** 0.5,
        "r_minor": (g.I_minor / g.A) ** 0.5,
        "d": float(np.ptp(outline.rings[0][:, 1])),
        "b": float(np.ptp(outline.rings[0][:, 0])),
        "thickest": thickest,
        "stocky": float(stocky),
        "mass": g.A * DENSITY,
    }
    outer = outline.rings[0]
    hull = outer[np.sort(ConvexHull(outer).vertices)]
    return Section("outline", name, properties, tuple((float(x), float(y)) for x, y in hull))


def ring_crosses_itself(ring: Array) -> bool:
    """Return whether two sides of a polygon that are not neighbours meet."""
    a, b = ring, np.roll(ring, -1, axis=0)
    n = len(ring)

    def side(p: Array, q: Array, r: Array) -> Array:
        return np.asarray((q[..., 0] - p[..., 0]) * (r[..., 1] - p[..., 1])
                          - (q[..., 1] - p[..., 1]) * (r[..., 0] - p[..., 0]))  # fmt: skip

    p, q = a[:, None], b[:, None]
    crossing = (side(p, q, a[None]) * side(p, q, b[None]) < 0) & (
        side(a[None], b[None], p) * side(a[None], b[None], q) < 0
    )
    i, j = np.indices((n, n))
    apart = (np.abs(i - j) > 1) & (np.abs(i - j) < n - 1)
    return bool(np.any(crossing & apart))


def _third_moments(outline: Outline) -> tuple[float, float, float, float]:
    """Return the integrals of y3, x2 y, x3 and x y2: exact, by Gauss' rule along each side."""
    s, w = np.polynomial.legendre.leggauss(3)
    s, w = (s + 1) / 2, w / 2
    total = np.zeros(4)
    for ring in outline.rings:
        following = np.roll(ring, -1, axis=0)
        step = following - ring
        x = ring[:, 0, None] + step[:, 0, None] * s
        y = ring[:, 1, None] + step[:, 1, None] * s
        dx, dy = step[:, 0, None] * w, step[:, 1, None] * w
        total += [
            -(y**4 / 4 * dx).sum(),
            (x**3 * y / 3 * dy).sum(),
            (x**4 / 4 * dy).sum(),
            -(x * y**3 / 3 * dx).sum(),
        ]
    return float(total[0]), float(total[1]), float(total[2]), float(total[3])
