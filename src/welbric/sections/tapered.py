"""I-shapes and channels whose flanges taper: exact polygons, for arrays of sizes.

The thickness tf is that at the middle of the flange's overhang, unless it is told to hold at
another distance from the tip (`tf_from_tip`). `slope` is the rise of the flange's inner face over
its run. Round corners are arcs of 24 sides.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.sections.composite import Polygon
from welbric.sections.i_shape import junction_factor
from welbric.sections.shapes import (
    Sizes,
    arcs,
    channel_torsion,
    channel_walls,
    finish,
    i_walls,
    joined,
    require,
    sizes_of,
    tee_shear_areas,
)
from welbric.sections.thin_wall import TIP_LOSS, corner_gain, shear_area, within_proportions

Run = tuple[Any, Any]  # x and y of a point or of a run of points


def _thicknesses(tf: Any, slope: Any, overhang: Any, from_tip: Any) -> tuple[Any, Any]:
    """Return the flange's thickness at the tip and at the face of the web."""
    tip = tf - slope * from_tip
    return tip, tip + slope * overhang


def _inner_face(
    web: Any, tip_x: Any, face_y: Any, tip: Any, slope: Any, r: Any, r_toe: Any
) -> list[Run]:
    """Return the inner face of an upper right flange, from the web's face to the tip.

    `face_y` is the outer face; the fillet and the toe touch the sloping face.
    """
    rise = np.arctan(slope)
    stretch = np.hypot(1.0, slope)

    def height(x: Any) -> Any:
        return face_y - tip - slope * (tip_x - x)

    root, toe = web + r, tip_x - r_toe
    return [
        arcs(root, height(root) - r * stretch, r, np.pi, np.pi / 2 + rise),
        arcs(toe, height(toe) + r_toe * stretch, r_toe, rise - np.pi / 2, 0.0),
    ]


def _flipped(runs: list[Run], x: float = 1.0, y: float = 1.0) -> list[Run]:
    """Return runs of points mirrored, in the opposite order."""

    def back(values: Any) -> Any:
        values = np.asarray(values)
        return values[::-1] if values.ndim > runs[-1][0].ndim else values

    return [(back(px) * x, back(py) * y) for px, py in runs[::-1]]


def _both_sides(inner: list[Run], edge: Any, face: Any) -> list[Run]:
    """Return a flange from the right fillet, around its tips, to the left one."""
    right = [*inner, (edge, face)]
    return [*right, *_flipped(right, x=-1.0)]


def i_polygon(d: Any, bf: Any, tw: Any, tip: Any, slope: Any, r: Any, r_toe: Any) -> Polygon:
    """Return the outline of I-shapes, centred."""
    over = _both_sides(_inner_face(tw / 2, bf / 2, d / 2, tip, slope, r, r_toe), bf / 2, d / 2)
    return joined(*over, *((-np.asarray(x), -np.asarray(y)) for x, y in over))


def channel_polygon(d: Any, bf: Any, tw: Any, tip: Any, slope: Any, r: Any, r_toe: Any) -> Polygon:
    """Return the outline of channels, the web's back at x = 0."""
    inner = _inner_face(tw, bf, d / 2, tip, slope, r, r_toe)
    upper: list[Run] = [*inner, (bf, d / 2), (0.0 * d, d / 2)]
    return joined(*upper, *_flipped(upper, y=-1.0))


def tee_polygon(d: Any, bf: Any, tw: Any, tip: Any, slope: Any, r: Any, r_toe: Any) -> Polygon:
    """Return the outline of tees, flange up, the tip of the stem at y = 0."""
    over = _both_sides(_inner_face(tw / 2, bf / 2, d, tip, slope, r, r_toe), bf / 2, d)
    return joined((tw / 2, 0.0 * d), *over, (-tw / 2, 0.0 * d))


POLYGONS = {
    "tapered I": i_polygon,
    "tapered channel": channel_polygon,
    "tapered tee": tee_polygon,
}


def _perimeter(outline: Polygon) -> Any:
    steps = np.hypot(
        np.roll(outline.x, -1, axis=0) - outline.x, np.roll(outline.y, -1, axis=0) - outline.y
    )
    return steps.sum(axis=0)


def _cubes(tip: Any, root: Any, overhang: Any) -> Any:
    """Return the integral of t3 / 3 over an overhang."""
    return overhang * (tip + root) * (tip**2 + root**2) / 12


def _checked(
    d: Any, width: Any, overhang: Any, tf: Any, slope: Any, r: Any, r_toe: Any, from_tip: Any
) -> tuple[Any, Any, Any]:
    from_tip = overhang / 2 if from_tip is None else np.asarray(from_tip, dtype=float)
    tip, root = _thicknesses(tf, slope, overhang, from_tip)
    require(slope < 0.5, "slope must be less than 1 in 2")
    require(
        (overhang > r + r_toe) & (width > 0), "the web and the fillets must not be wider than bf"
    )
    require(tip > r_toe * (np.hypot(1, slope) - slope), "the flange must not taper to nothing")
    require(2 * (root + r) < d, "two flanges and their fillets must be less deep than d")
    return from_tip + 0.0 * d, tip, root


def tapered_i(
    d: Any,
    bf: Any,
    tw: Any,
    tf: Any,
    slope: Any,
    r: Any = 0.0,
    r_toe: Any = 0.0,
    tf_from_tip: Any = None,
) -> Sizes:
    """Return doubly symmetric I-shapes with tapered flanges, centred."""
    d, bf, tw, tf, slope, r, r_toe = sizes_of(
        d=d, bf=bf, tw=tw, tf=tf, slope=slope, r=r, r_toe=r_toe
    )
    overhang = (bf - tw) / 2
    from_tip, tip, root = _checked(d, bf, overhang, tf, slope, r, r_toe, tf_from_tip)
    outline = i_polygon(d, bf, tw, tip, slope, r, r_toe)
    I_flange = 2 * _flange_inertia(tip, root, overhang, tw)
    # The torsion constant: sloping walls, the web between them, two junctions, four tips.
    J = (
        4 * _cubes(tip, root, overhang)
        + 2 * tw * root**3 / 3
        + (d - 2 * root) * tw**3 / 3
        + 2 * _junction_gain(tw, root, slope, r)
        - 4 * TIP_LOSS * tip**4
    )
    walls = i_walls(d, bf, tf, bf, tf, tw)
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r, "r_toe": r_toe, "slope": slope,
         "tf_from_tip": from_tip},
        [outline],
        J=within_proportions(J, (d - 2 * root, tw), (bf, tf), (bf, tf)),
        Cw=I_flange * (d - tf) ** 2 / 4,
        shear_centre=(0.0, 0.0),
        shear_areas=(shear_area(walls, "x"), shear_area(walls, "y")),
        surface=_perimeter(outline),
        thickest=np.maximum(tw, tf),
        symmetry="xy",
    )  # fmt: skip


def _junction_gain(tw: Any, root: Any, slope: Any, r: Any) -> Any:
    """Return what the junction of a web and a tapered flange adds to J.

    That of parallel flanges as thick as at the web's middle, on the circle that fits into this
    junction; the last factor is fitted to finite elements, and brings J within 2 %.
    """
    t = root + slope * tw / 2
    centre = root - slope * r + r * np.hypot(1, slope)  # of a fillet, from the outer face
    circle = ((tw / 2 + r) ** 2 + centre**2 - r**2) / (centre + r)
    return junction_factor(tw, t, r) * circle**4 / (1 + 1.9 * slope)


def _flange_inertia(tip: Any, root: Any, overhang: Any, tw: Any) -> Any:
    """Return the second moment of one whole tapered flange about the web's plane."""
    w, b = tw / 2, overhang
    # The integral of (w + u)2 t(u) over an overhang, t linear from root to tip.
    fall = root - tip
    one = root * ((w + b) ** 3 - w**3) / 3 - fall * (w**2 * b / 2 + 2 * w * b**2 / 3 + b**3 / 4)
    return 2 * one + root * tw**3 / 12


def tapered_channel(
    d: Any,
    bf: Any,
    tw: Any,
    tf: Any,
    slope: Any,
    r: Any = 0.0,
    r_toe: Any = 0.0,
    tf_from_tip: Any = None,
) -> Sizes:
    """Return channels with tapered flanges; x from the back of the web, y from mid-depth."""
    d, bf, tw, tf, slope, r, r_toe = sizes_of(
        d=d, bf=bf, tw=tw, tf=tf, slope=slope, r=r, r_toe=r_toe
    )
    overhang = bf - tw
    from_tip, tip, root = _checked(d, bf, overhang, tf, slope, r, r_toe, tf_from_tip)
    outline = channel_polygon(d, bf, tw, tip, slope, r, r_toe)
    mean = (tip + root) / 2
    J = (
        2 * _cubes(tip, root, overhang)
        + 2 * tw * root**3 / 3
        + (d - 2 * root) * tw**3 / 3
        + 2 * corner_gain(root, tw, r)
        - 2 * TIP_LOSS * tip**4
    )
    Cw, shear_x = channel_torsion(d, bf, tw, tip, root)
    walls = channel_walls(d, bf, tw, mean)
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r, "r_toe": r_toe, "slope": slope,
         "tf_from_tip": from_tip},
        [outline],
        J=J,
        Cw=Cw,
        shear_centre=(shear_x, 0.0),
        shear_areas=(shear_area(walls, "x"), shear_area(walls, "y")),
        surface=_perimeter(outline),
        thickest=np.maximum(tw, tf),
        symmetry="x",
    )  # fmt: skip


def tapered_tee(
    d: Any,
    bf: Any,
    tw: Any,
    tf: Any,
    slope: Any,
    r: Any = 0.0,
    r_toe: Any = 0.0,
    tf_from_tip: Any = None,
) -> Sizes:
    """Return tees with tapered flanges, flange up: y from the tip of the stem, x from the stem."""
    d, bf, tw, tf, slope, r, r_toe = sizes_of(
        d=d, bf=bf, tw=tw, tf=tf, slope=slope, r=r, r_toe=r_toe
    )
    overhang = (bf - tw) / 2
    from_tip, tip, root = _checked(2 * d, bf, overhang, tf, slope, r, r_toe, tf_from_tip)
    outline = tee_polygon(d, bf, tw, tip, slope, r, r_toe)
    J = (
        2 * _cubes(tip, root, overhang)
        + tw * root**3 / 3
        + (d - root) * tw**3 / 3
        + _junction_gain(tw, root, slope, r)
        - TIP_LOSS * (2 * tip**4 + tw**4)
    )
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r, "r_toe": r_toe, "slope": slope,
         "tf_from_tip": from_tip},
        [outline],
        J=within_proportions(J, (d - root, tw), (bf, tf)),
        Cw=bf**3 * tf**3 / 144 + (d - tf / 2) ** 3 * tw**3 / 36,
        shear_centre=(0.0, d - tf / 2),
        shear_areas=tee_shear_areas(d, bf, tw, tf),
        surface=_perimeter(outline),
        thickest=np.maximum(tw, tf),
        symmetry="y",
    )  # fmt: skip
