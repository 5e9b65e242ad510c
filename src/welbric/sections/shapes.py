"""Parametric shapes, for arrays of sizes: from dimensions to properties.

Area, centroid, second moments, elastic and plastic moduli are exact, rounded corners included
(`welbric.sections.composite`). Torsion has closed forms by the theory of thin walls; how far each
is from the finite-element solution is measured in the tests and stated in the documents.

x points to the right and y upwards. Each function takes arrays or numbers in mm and returns a dict
of arrays of shape (S,) by the names of `welbric.sections.table.PROPERTIES`.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from welbric.sections.composite import Array, Corner, Part, Polygon, Rectangle, composite
from welbric.sections.i_shape import junction_gain
from welbric.sections.thin_wall import (
    GAUSS,
    TIP_LOSS,
    Wall,
    bar_torsion,
    corner_gain,
    shear_area,
    within_proportions,
)

Sizes = dict[str, Array]
ROUNDING = 2 - np.pi / 2  # of r: by how much a quarter circle is shorter than its two tangents
COORDINATES = ("x", "y", "plastic_x", "plastic_y", "shear_x", "shear_y", "beta_major", "beta_minor")
LEAST_CORNER = 0.25  # of the wall
ARC_SIDES = 24  # of a quarter circle, where a round corner is part of a polygon


def sizes_of(**given: Any) -> Any:
    """Return dimensions as float arrays of one shape, in the order given.

    Raises
    ------
    ValueError
        If one is not greater than zero (a radius, a gap: negative), or not a number.
    """
    arrays = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in given.values()))
    for name, array in zip(given, arrays, strict=True):
        may_vanish = name.startswith("r") or name in {"gap", "slope"}
        least = 0.0 if may_vanish else np.nextafter(0.0, 1.0)
        if not np.all(array >= least) or not np.all(np.isfinite(array)):
            rule = "not negative" if may_vanish else "greater than zero"
            raise ValueError(f"{name} must be {rule}")
    return arrays


def require(holds: Any, words: str) -> None:
    """Refuse dimensions that do not fit into one another.

    Raises
    ------
    ValueError
        If the condition does not hold everywhere.
    """
    if not np.all(holds):
        raise ValueError(words)


def finish(
    sizes: dict[str, Any],
    parts: Sequence[Part],
    *,
    J: Any,
    Cw: Any,
    shear_centre: tuple[Any, Any],
    shear_areas: tuple[Any, Any],
    surface: Any,
    thickest: Any,
    symmetry: str,
    outline: Polygon | None = None,
) -> Sizes:
    """Return every property of shapes: those of their parts, and those given.

    Parameters
    ----------
    sizes : dict of str to array
        The dimensions, which are properties too.
    parts : sequence of Part
    J, Cw : array, mm4 and mm6
    shear_centre : (x, y), mm
    shear_areas : (along x, along y), mm2
    surface : array, mm
        The painted surface per length.
    thickest : array, mm
        The thickest wall, which the strength of the steel goes by.
    symmetry : str
        The axes of symmetry, of x and y.
    outline : Polygon, optional
        Of shapes without an axis of symmetry, for the moduli about their principal axes.
    """
    found = composite(parts, symmetry)
    third_x, third_y = found.pop("third_x"), found.pop("third_y")
    A, I_x, I_y = found["A"], found["I_x"], found["I_y"]
    xs, ys = shear_centre[0] - found["x"], shear_centre[1] - found["y"]
    if outline is None:
        principal = {
            "angle": 0.0,
            "I_major": I_x,
            "I_minor": I_y,
            "Wel_major": np.minimum(found["Wel_top"], found["Wel_bottom"]),
            "Wel_minor": np.minimum(found["Wel_right"], found["Wel_left"]),
            "Wpl_major": found["Wpl_x"],
            "Wpl_minor": found["Wpl_y"],
            "beta_major": third_x / I_x - 2 * ys,
            "beta_minor": third_y / I_y - 2 * xs,
        }
    else:
        principal = _principal(outline, found, (xs, ys))
    whole = (
        sizes
        | found
        | principal
        | {
            "r_x": np.sqrt(I_x / A),
            "r_y": np.sqrt(I_y / A),
            "r_major": np.sqrt(principal["I_major"] / A),
            "r_minor": np.sqrt(principal["I_minor"] / A),
            "J": J,
            "Cw": Cw,
            "shear_x": shear_centre[0],
            "shear_y": shear_centre[1],
            "r_polar": np.sqrt((I_x + I_y) / A + xs**2 + ys**2),
            "shear_area_x": shear_areas[0],
            "shear_area_y": shear_areas[1],
            "surface": surface,
            "thickest": thickest,
        }
    )
    zero = 0.0 * A
    arrays = {name: np.asarray(value + zero, dtype=float) for name, value in whole.items()}
    for name in COORDINATES:  # what symmetry makes zero is zero
        arrays[name] = np.where(np.abs(arrays[name]) < 1e-9 * np.sqrt(A), 0.0, arrays[name])
    return arrays


def _principal(outline: Polygon, found: Sizes, shear: tuple[Any, Any]) -> dict[str, Any]:
    """Return the properties about the principal axes, of outlines turned until these are level."""
    half = (found["I_x"] - found["I_y"]) / 2
    # I_x cos2 + I_y sin2 - 2 I_xy sin cos is largest at this angle from the x axis.
    turned = np.hypot(half, found["I_xy"]) > 1e-12 * found["I_x"]
    angle = np.where(turned, 0.5 * np.arctan2(-found["I_xy"], half), 0.0)
    c, s = np.cos(angle), np.sin(angle)
    x, y = outline.x - found["x"], outline.y - found["y"]
    level = composite([Polygon(x * c + y * s, y * c - x * s)])
    u, v = shear[0] * c + shear[1] * s, shear[1] * c - shear[0] * s
    return {
        "angle": angle,
        "I_major": level["I_x"],
        "I_minor": level["I_y"],
        "Wel_major": np.minimum(level["Wel_top"], level["Wel_bottom"]),
        "Wel_minor": np.minimum(level["Wel_right"], level["Wel_left"]),
        "Wpl_major": level["Wpl_x"],
        "Wpl_minor": level["Wpl_y"],
        "beta_major": level["third_x"] / level["I_x"] - 2 * v,
        "beta_minor": level["third_y"] / level["I_y"] - 2 * u,
    }


def arcs(x: Any, y: Any, r: Any, start: Any, end: Any) -> tuple[Array, Array]:
    """Return the points of arcs about (x, y) between two angles, radians; each (N, S).

    Where no arc has a radius they are single points.
    """
    x, y, r, start, end = np.broadcast_arrays(x, y, r, start, end)
    if not np.any(r > 0):
        return x[None], y[None]
    share = np.linspace(0, 1, ARC_SIDES + 1).reshape(-1, *([1] * x.ndim))
    angle = start + (end - start) * share
    return x + r * np.cos(angle), y + r * np.sin(angle)


def joined(*pieces: tuple[Any, Any]) -> Polygon:
    """Return a polygon from points (x, y) and runs of points, in their order."""
    width = np.broadcast_shapes(*(np.shape(p[0])[1:] for p in pieces if np.ndim(p[0]) > 1), ())
    flat = []
    for px, py in pieces:
        run = np.ndim(px) > len(width)
        shape = (np.shape(px)[0] if run else 1, *width)
        flat.append((np.broadcast_to(px, shape), np.broadcast_to(py, shape)))
    return Polygon(np.concatenate([p[0] for p in flat]), np.concatenate([p[1] for p in flat]))


def i_parts(d: Any, b1: Any, t1: Any, b2: Any, t2: Any, tw: Any, r: Any = 0.0) -> list[Part]:
    """Return an I with its bottom at y = 0; the top flange is b1 by t1."""
    parts: list[Part] = [
        Rectangle(-b1 / 2, b1 / 2, d - t1, d),
        Rectangle(-b2 / 2, b2 / 2, 0.0 * d, t2),
        Rectangle(-tw / 2, tw / 2, t2, d - t1),
    ]
    if np.any(r > 0):
        for side in (1.0, -1.0):
            parts.append(Corner(side * tw / 2, d - t1, side, -1, r))
            parts.append(Corner(side * tw / 2, t2, side, 1, r))
    return parts


def i_walls(d: Any, b1: Any, t1: Any, b2: Any, t2: Any, tw: Any) -> list[Wall]:
    """Return the walls of an I: four half flanges, the upper ones first, and the web."""
    top, bottom, zero = d - t1 / 2, t2 / 2, 0.0 * d
    return [
        Wall(-b1 / 2, top, zero, top, t1),
        Wall(b1 / 2, top, zero, top, t1),
        Wall(-b2 / 2, bottom, zero, bottom, t2),
        Wall(b2 / 2, bottom, zero, bottom, t2),
        Wall(zero, top, zero, bottom, tw, (0, 1)),
    ]


def unequal_i(d: Any, bf_top: Any, tf_top: Any, bf_bottom: Any, tf_bottom: Any, tw: Any) -> Sizes:
    """Return I-shapes of three plates, flanges equal or not; y from the bottom, x from the web.

    J is the sum of b t3 / 3 less what the flanges' tips lack; Cw and the shear centre follow from
    the flanges' second moments.
    """
    d, b1, t1, b2, t2, tw = sizes_of(
        d=d, bf_top=bf_top, tf_top=tf_top, bf_bottom=bf_bottom, tf_bottom=tf_bottom, tw=tw
    )
    require(t1 + t2 < d, "the two flanges must be less deep than d")
    require((tw <= b1) & (tw <= b2), "the web must not be wider than a flange")
    I1, I2, h = t1 * b1**3 / 12, t2 * b2**3 / 12, d - (t1 + t2) / 2
    walls = i_walls(d, b1, t1, b2, t2, tw)
    return finish(
        {"d": d, "bf_top": b1, "tf_top": t1, "bf_bottom": b2, "tf_bottom": t2, "tw": tw},
        i_parts(d, b1, t1, b2, t2, tw),
        J=within_proportions(
            (b1 * t1**3 + b2 * t2**3 + (d - t1 - t2) * tw**3) / 3 - 2 * TIP_LOSS * (t1**4 + t2**4),
            (d - t1 - t2, tw),
            (b1, t1),
            (b2, t2),
            thickest_web=np.inf,
        ),
        Cw=h**2 * I1 * I2 / (I1 + I2),
        shear_centre=(0.0, t2 / 2 + h * I1 / (I1 + I2)),
        shear_areas=(shear_area(walls, "x"), shear_area(walls, "y")),
        surface=2 * (d + b1 + b2 - tw),
        thickest=np.maximum(np.maximum(t1, t2), tw),
        symmetry="y",
    )


def channel_parts(d: Any, bf: Any, tw: Any, tf: Any, r: Any) -> list[Part]:
    """Return a channel with its back at x = 0 and its middle at y = 0."""
    h = d / 2
    return [
        Rectangle(0.0 * d, tw, -h, h),
        Rectangle(tw, bf, h - tf, h),
        Rectangle(tw, bf, -h, tf - h),
        Corner(tw, h - tf, 1, -1, r),
        Corner(tw, tf - h, 1, 1, r),
    ]


def channel_walls(d: Any, bf: Any, tw: Any, tf: Any) -> list[Wall]:
    """Return the walls of a channel: the upper flange, the lower one, the web."""
    x, y = tw / 2, (d - tf) / 2
    return [Wall(bf, y, x, y, tf), Wall(bf, -y, x, -y, tf), Wall(x, y, x, -y, tw, (0,))]


def channel_torsion(d: Any, bf: Any, tw: Any, tip: Any, root: Any) -> tuple[Any, Any]:
    """Return Cw, and x of the shear centre, of thin walls; flanges from `tip` to `root` thick."""
    b, a = bf - tw / 2, d - (tip + root) / 2
    inertia = a**2 * b * (tip + root) / 4 + tw * a**3 / 12
    # The flange's shear flow and the warping, summed over the flange.
    out = a**2 * b**2 * (2 * tip + root) / 12 / inertia
    warping = 0.0
    for s, weight in GAUSS:
        warping = warping + weight * b * (out - s * b) ** 2 * (root + (tip - root) * s)
    return a**2 / 2 * warping + out**2 * a**3 * tw / 12, tw / 2 - out


def channel(d: Any, bf: Any, tw: Any, tf: Any, r: Any = 0.0) -> Sizes:
    """Return channels with parallel flanges; x from the back of the web, y from mid-depth.

    Torsion is that of the thin-walled middle lines, J with what the corners and fillets add.
    """
    d, bf, tw, tf, r = sizes_of(d=d, bf=bf, tw=tw, tf=tf, r=r)
    require(2 * (tf + r) < d, "two flanges and their fillets must be less deep than d")
    require(tw + r <= bf, "the web and its fillet must not be wider than bf")
    walls = channel_walls(d, bf, tw, tf)
    Cw, shear_x = channel_torsion(d, bf, tw, tf, tf)
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r},
        channel_parts(d, bf, tw, tf, r),
        J=_corners_and_strips((bf, tf, 2), (d, tw), r),
        Cw=Cw,
        shear_centre=(shear_x, 0.0),
        shear_areas=(shear_area(walls, "x"), shear_area(walls, "y")),
        surface=2 * d + 4 * bf - 2 * tw - 2 * r * ROUNDING,
        thickest=np.maximum(tw, tf),
        symmetry="x",
    )


def _corners_and_strips(flanges: tuple[Any, Any, int], web: tuple[Any, Any], r: Any) -> Any:
    """Return J of walls that meet at corners: `flanges` on one web, each with a free tip."""
    (b, tf, count), (d, tw) = flanges, web
    # The corner belongs to the strip of the thicker wall.
    of_flange = tf >= tw
    b = np.where(of_flange, b, b - tw)
    d = np.where(of_flange, d - count * tf, d)
    strips = (count * b * tf**3 + d * tw**3) / 3
    free = count * tf**4 + (2 - count) * tw**4
    return strips + count * corner_gain(tf, tw, r) - TIP_LOSS * free


def angle_parts(d: Any, b: Any, t: Any, r: Any, r_toe: Any) -> list[Part]:
    """Return an angle: leg d upwards, leg b to the right, heel at the origin."""
    return [
        Rectangle(0.0 * d, t, 0.0 * d, d),
        Rectangle(t, b, 0.0 * d, t),
        Corner(t, t, 1, 1, r),
        Corner(t, d, -1, -1, r_toe, sign=-1),
        Corner(b, t, -1, -1, r_toe, sign=-1),
    ]


def angle_walls(d: Any, b: Any, t: Any) -> list[Wall]:
    """Return the walls of an angle: the upright leg downwards, then the other outwards."""
    m = t / 2
    return [Wall(m, d, m, m, t), Wall(m, m, b, m, t, (0,))]


def angle_torsion(d: Any, b: Any, t: Any, r: Any, r_toe: Any) -> tuple[Any, Any, Any]:
    """Return J, Cw and the painted surface of angles, once they are seen to fit together."""
    require((t + r + r_toe <= d) & (t + r + r_toe <= b), "a leg must be longer than t and r")
    require(r_toe <= t, "the toe's radius must not be greater than t")
    J = _corners_and_strips((b, t, 1), (d, t), r)
    Cw = t**3 * ((d - t / 2) ** 3 + (b - t / 2) ** 3) / 36
    return J, Cw, 2 * (d + b) - (r + 2 * r_toe) * ROUNDING


def angle(d: Any, b: Any, t: Any, r: Any = 0.0, r_toe: Any = 0.0) -> Sizes:
    """Return angles: leg d upwards, leg b to the right, heel at the origin.

    The major and minor axes are the principal ones. The shear centre is where the legs' middle
    lines meet.
    """
    d, b, t, r, r_toe = sizes_of(d=d, b=b, t=t, r=r, r_toe=r_toe)
    J, Cw, surface = angle_torsion(d, b, t, r, r_toe)
    quarter = np.pi / 2
    outline = joined(
        (0.0 * d, 0.0 * d),
        (b, 0.0 * d),
        arcs(b - r_toe, t - r_toe, r_toe, 0.0, quarter),
        arcs(t + r, t + r, r, 3 * quarter, 2 * quarter),
        arcs(t - r_toe, d - r_toe, r_toe, 0.0, quarter),
        (0.0 * d, d),
    )
    walls = angle_walls(d, b, t)
    areas = (shear_area(walls, "x", coupled=True), shear_area(walls, "y", coupled=True))
    return finish(
        {"d": d, "b": b, "t": t, "r": r, "r_toe": r_toe},
        angle_parts(d, b, t, r, r_toe),
        J=J,
        Cw=Cw,
        shear_centre=(t / 2, t / 2),
        shear_areas=areas,
        surface=surface,
        thickest=t,
        symmetry="",
        outline=outline,
    )


def tee_parts(d: Any, bf: Any, tw: Any, tf: Any, r: Any) -> list[Part]:
    """Return a tee, flange up, with the tip of its stem at y = 0."""
    return [
        Rectangle(-bf / 2, bf / 2, d - tf, d),
        Rectangle(-tw / 2, tw / 2, 0.0 * d, d - tf),
        Corner(tw / 2, d - tf, 1, -1, r),
        Corner(-tw / 2, d - tf, -1, -1, r),
    ]


def tee(d: Any, bf: Any, tw: Any, tf: Any, r: Any = 0.0) -> Sizes:
    """Return tees, flange up: y from the tip of the stem, x from the stem.

    The junction adds to J as in the I-shape it is cut from.
    """
    d, bf, tw, tf, r = sizes_of(d=d, bf=bf, tw=tw, tf=tf, r=r)
    require(tf + r < d, "the flange and its fillets must be less deep than d")
    require(tw + 2 * r <= bf, "the stem and its fillets must not be wider than bf")
    ends = TIP_LOSS * (2 * tf**4 + tw**4)
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r},
        tee_parts(d, bf, tw, tf, r),
        J=within_proportions(
            (bf * tf**3 + (d - tf) * tw**3) / 3 + junction_gain(tw, tf, r) - ends,
            (d - tf, tw),
            (bf, tf),
        ),
        Cw=bf**3 * tf**3 / 144 + (d - tf / 2) ** 3 * tw**3 / 36,
        shear_centre=(0.0, d - tf / 2),
        shear_areas=tee_shear_areas(d, bf, tw, tf),
        surface=2 * (d + bf) - 2 * r * ROUNDING,
        thickest=np.maximum(tw, tf),
        symmetry="y",
    )


def tee_shear_areas(d: Any, bf: Any, tw: Any, tf: Any) -> tuple[Any, Any]:
    """Return the shear areas of tees, across the stem and along it."""
    y, zero = d - tf / 2, 0.0 * d
    walls = [
        Wall(-bf / 2, y, zero, y, tf),
        Wall(bf / 2, y, zero, y, tf),
        Wall(zero, y, zero, zero, tw, (0, 1)),
    ]
    return shear_area(walls, "x"), shear_area(walls, "y")


def rectangular_tube(d: Any, b: Any, t: Any, r_out: Any = 0.0, r_in: Any = 0.0) -> Sizes:
    """Return rectangular and square hollow sections, centred, d upright.

    J is Bredt's with the walls' own torsion, as EN 10210-2 and EN 10219-2 give it. Cw is small and
    taken as zero.
    """
    h, b, t, ro, ri = sizes_of(d=d, b=b, t=t, r_out=r_out, r_in=r_in)
    require(2 * t < np.minimum(h, b), "two walls must be thinner than the section")
    require(2 * ro <= np.minimum(h, b), "r_out must not be greater than half a side")
    require(2 * ri <= np.minimum(h, b) - 2 * t, "r_in must not be greater than half an inner side")
    # Along the diagonal of a corner its wall is thinner the more the outer arc cuts off.
    at_corner = 2**0.5 * t - (2**0.5 - 1) * (ro - ri)
    require(
        at_corner >= LEAST_CORNER * t,
        "r_out and r_in must leave a quarter of the wall at the corners; r_out less t is usual "
        "for r_in",
    )
    parts: list[Part] = [
        Rectangle(-b / 2, b / 2, -h / 2, h / 2),
        Rectangle(t - b / 2, b / 2 - t, t - h / 2, h / 2 - t, sign=-1),
    ]
    for sx in (1.0, -1.0):
        for sy in (1.0, -1.0):
            parts.append(Corner(sx * b / 2, sy * h / 2, -sx, -sy, ro, sign=-1))
            parts.append(Corner(sx * (b / 2 - t), sy * (h / 2 - t), -sx, -sy, ri))
    r = (ro + ri) / 2
    line = 2 * ((b - t) + (h - t)) - 2 * r * (4 - np.pi)
    inside = (b - t) * (h - t) - r**2 * (4 - np.pi)
    return finish(
        {"d": h, "b": b, "t": t, "r_out": ro, "r_in": ri},
        parts,
        J=t**3 * line / 3 + 4 * inside**2 * t / line,
        Cw=0.0,
        shear_centre=(0.0, 0.0),
        shear_areas=(_box_shear_area(b, h, t, t), _box_shear_area(h, b, t, t)),
        surface=2 * (h + b) - 4 * ro * ROUNDING,
        thickest=t,
        symmetry="xy",
    )


def _box_shear_area(h: Any, b: Any, t_side: Any, t_across: Any) -> Any:
    """Return the shear area of a box along h, by one of its halves."""
    x, y, zero = (b - t_side) / 2, (h - t_across) / 2, 0.0 * h
    walls = [
        Wall(zero, y, x, y, t_across),
        Wall(x, y, x, -y, t_side, (0,)),
        Wall(x, -y, zero, -y, t_across, (1,)),
    ]
    return shear_area(walls, "y", copies=2)


def welded_box(d: Any, b: Any, tw: Any, tf: Any) -> Sizes:
    """Return boxes of four plates, centred: flanges b wide over the whole width, webs at the edges.

    J is Bredt's with the plates' own torsion. Cw is taken as zero.
    """
    d, b, tw, tf = sizes_of(d=d, b=b, tw=tw, tf=tf)
    require((2 * tf < d) & (2 * tw < b), "two plates must be thinner than the section")
    parts = [
        Rectangle(-b / 2, b / 2, -d / 2, d / 2),
        Rectangle(tw - b / 2, b / 2 - tw, tf - d / 2, d / 2 - tf, sign=-1),
    ]
    u, v = b - tw, d - tf
    own = 2 * (u * tf**3 + v * tw**3) / 3
    return finish(
        {"d": d, "b": b, "tw": tw, "tf": tf},
        parts,
        J=2 * (u * v) ** 2 / (u / tf + v / tw) + own,
        Cw=0.0,
        shear_centre=(0.0, 0.0),
        shear_areas=(_box_shear_area(b, d, tf, tw), _box_shear_area(d, b, tw, tf)),
        surface=2 * (d + b),
        thickest=np.maximum(tw, tf),
        symmetry="xy",
    )


def round_tube(d: Any, t: Any) -> Sizes:
    """Return round hollow sections of diameter d, centred; exact."""
    D, t = sizes_of(d=d, t=t)
    require(2 * t < D, "t must be less than the radius")
    return _round(D, t, {"d": D, "t": t})


def round_bar(d: Any) -> Sizes:
    """Return solid round bars, centred; exact."""
    (D,) = sizes_of(d=d)
    found = _round(D, D / 2, {"d": D})
    return found | {"thickest": D + 0.0}


def _round(D: Any, t: Any, sizes: Sizes) -> Sizes:
    inner = D - 2 * t
    inertia = np.pi / 64 * (D**4 - inner**4)
    A = np.pi / 4 * (D**2 - inner**2)
    Wel, Wpl, zero = 2 * inertia / D, (D**3 - inner**3) / 6, 0.0 * D
    r = np.sqrt(inertia / A)
    names = ("x", "y", "I_xy", "angle", "Cw", "shear_x", "shear_y", "beta_major", "beta_minor")
    found = dict.fromkeys((*names, "plastic_x", "plastic_y"), zero)
    for direction in ("x", "y"):
        found |= {f"I_{direction}": inertia, f"Wpl_{direction}": Wpl, f"r_{direction}": r}
        # Cowper's coefficient without Poisson's ratio: the energy of the shear flow.
        m = (1 + (inner / D) ** 2) ** 2
        found[f"shear_area_{direction}"] = A * 6 * m / (7 * m + 20 * (inner / D) ** 2)
    for axis in ("major", "minor"):
        found |= {f"I_{axis}": inertia, f"Wpl_{axis}": Wpl, f"Wel_{axis}": Wel, f"r_{axis}": r}
    found |= dict.fromkeys(("Wel_top", "Wel_bottom", "Wel_right", "Wel_left"), Wel)
    found |= {"A": A, "J": 2 * inertia, "r_polar": np.sqrt(2 * inertia / A)}
    return sizes | found | {"surface": np.pi * D, "thickest": t}


def flat_bar(d: Any, b: Any) -> Sizes:
    """Return solid rectangles, centred, d upright; J by its series to 1e-9, Cw taken as zero."""
    h, b = sizes_of(d=d, b=b)
    short = np.minimum(h, b)
    return finish(
        {"d": h, "b": b},
        [Rectangle(-b / 2, b / 2, -h / 2, h / 2)],
        J=bar_torsion(h, b),
        Cw=0.0,
        shear_centre=(0.0, 0.0),
        shear_areas=(5 / 6 * b * h, 5 / 6 * b * h),
        surface=2 * (h + b),
        thickest=short,
        symmetry="xy",
    )
