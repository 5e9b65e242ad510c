"""Every property of a section of any outline."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from welbric.sections.outline import Outline
from welbric.sections.torsion import torsion


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
