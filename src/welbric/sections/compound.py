"""Shapes put together from others: cover plates, a channel cap, two channels, two angles.

The parts act together in bending. In torsion each has its own J, so that J is a lower bound where
they are welded along their edges; Cw and the shear centre follow from the flanges' second moments,
or, for a pair, from the two parts held to one another in the plane of the section.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from welbric.sections import i_shape
from welbric.sections.composite import Part, Rectangle
from welbric.sections.shapes import (
    Sizes,
    angle_parts,
    angle_torsion,
    angle_walls,
    channel,
    channel_parts,
    channel_walls,
    finish,
    i_parts,
    i_walls,
    require,
    sizes_of,
)
from welbric.sections.tapered import channel_polygon, tapered_channel
from welbric.sections.thin_wall import Wall, shear_area


def flipped(parts: Sequence[Part]) -> list[Part]:
    """Return parts with top and bottom exchanged, about y = 0."""
    return [part.turned().mirrored().turned() for part in parts]


def plated_i(
    d: Any,
    bf: Any,
    tw: Any,
    tf: Any,
    r: Any = 0.0,
    b_top: Any = 0.0,
    t_top: Any = 0.0,
    b_bottom: Any = 0.0,
    t_bottom: Any = 0.0,
) -> Sizes:
    """Return I-shapes with cover plates on the flanges, y from the bottom of the I.

    A plate whose thickness is zero is not there.
    """
    d, bf, tw, tf, r = sizes_of(d=d, bf=bf, tw=tw, tf=tf, r=r)
    plates = [np.asarray(v, dtype=float) + 0.0 * d for v in (b_top, t_top, b_bottom, t_bottom)]
    b1, t1, b2, t2 = plates
    require(np.all([p >= 0 for p in plates], axis=0), "a plate's sizes must not be negative")
    require((b1 > 0) == (t1 > 0), "the top plate needs a width and a thickness")
    require((b2 > 0) == (t2 > 0), "the bottom plate needs a width and a thickness")
    bare = i_shape.properties(d, bf, tw, tf, r)
    parts = i_parts(d, bf, tf, bf, tf, tw, r)
    walls = i_walls(d, bf, tf, bf, tf, tw)
    web = walls.pop()
    zero = 0.0 * d
    for b, t, y in ((b1, t1, d + t1 / 2), (b2, t2, -t2 / 2)):
        if np.any(t > 0):
            parts.append(Rectangle(-b / 2, b / 2, y - t / 2, y + t / 2))
    feeders: tuple[int, ...] = (0, 1)
    if np.any(t1 > 0):
        thick = np.maximum(t1, 1e-9)
        walls += [Wall(x, d + t1 / 2, zero, d + t1 / 2, thick) for x in (-b1 / 2, b1 / 2)]
        feeders = (0, 1, len(walls) - 2, len(walls) - 1)
    if np.any(t2 > 0):
        thick = np.maximum(t2, 1e-9)
        walls += [Wall(x, -t2 / 2, zero, -t2 / 2, thick) for x in (-b2 / 2, b2 / 2)]
    walls.append(Wall(web.x0, web.y0, web.x1, web.y1, web.t, feeders))
    flange = bf * tf, tf * bf**3 / 12
    top = _pair(flange, d - tf / 2, (b1 * t1, t1 * b1**3 / 12), d + t1 / 2)
    bottom = _pair(flange, tf / 2, (b2 * t2, t2 * b2**3 / 12), -t2 / 2)
    Cw, shear_y = _two_flanges(top, bottom)
    long = [np.maximum(b, t) * np.minimum(b, t) ** 3 / 3 for b, t in ((b1, t1), (b2, t2))]
    bare_surface = bare["surface"]
    for b, t in ((b1, t1), (b2, t2)):
        bare_surface = bare_surface + 2 * t + 2 * np.maximum(0.0, b - bf) * (t > 0)
    sizes = {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r}
    return finish(
        sizes | {"b_top": b1, "t_top": t1, "b_bottom": b2, "t_bottom": t2},
        parts,
        J=bare["J"] + sum(long),
        Cw=Cw,
        shear_centre=(0.0, shear_y),
        shear_areas=(shear_area(walls, "x"), shear_area(walls, "y")),
        surface=bare_surface,
        thickest=np.maximum(np.maximum(bare["thickest"], t1), t2),
        symmetry="y",
    )


def _pair(first: tuple[Any, Any], y1: Any, second: tuple[Any, Any], y2: Any) -> tuple[Any, Any]:
    """Return the second moment of two flange plates and the height at which it acts."""
    inertia = first[1] + second[1]
    return inertia, (first[1] * y1 + second[1] * y2) / inertia


def _two_flanges(top: tuple[Any, Any], bottom: tuple[Any, Any]) -> tuple[Any, Any]:
    """Return Cw and the height of the shear centre of two flanges on a web."""
    (I1, y1), (I2, y2) = top, bottom
    h = y1 - y2
    return h**2 * I1 * I2 / (I1 + I2), y2 + h * I1 / (I1 + I2)


def capped_i(
    d: Any,
    bf: Any,
    tw: Any,
    tf: Any,
    cap_d: Any,
    cap_bf: Any,
    cap_tw: Any,
    cap_tf: Any,
    r: Any = 0.0,
    cap_r: Any = 0.0,
) -> Sizes:
    """Return I-shapes with a channel on the top flange, its flanges down; y from the bottom."""
    d, bf, tw, tf, r = sizes_of(d=d, bf=bf, tw=tw, tf=tf, r=r)
    cap = sizes_of(d=cap_d, bf=cap_bf, tw=cap_tw, tf=cap_tf, r=cap_r)
    require(cap[0] - 2 * cap[3] >= bf, "the flanges of the cap must reach over the I's flange")
    bare, lid = i_shape.properties(d, bf, tw, tf, r), channel(*cap)
    back = d + cap[2]
    parts = i_parts(d, bf, tf, bf, tf, tw, r)
    parts += [p.mirrored().turned().moved(0.0, back) for p in channel_parts(*cap)]
    walls = i_walls(d, bf, tf, bf, tf, tw)
    web = walls.pop()
    x, y, zero = (cap[0] - cap[3]) / 2, back - cap[2] / 2, 0.0 * d
    for side in (-1, 1):
        walls.append(Wall(side * x, back - cap[1], side * x, y, cap[3]))
        walls.append(Wall(side * x, y, zero, y, cap[2], (len(walls) - 1,)))
    walls.append(Wall(web.x0, web.y0, web.x1, web.y1, web.t, (0, 1, 5, 7)))
    flange = bf * tf, tf * bf**3 / 12
    top = _pair(flange, d - tf / 2, (lid["A"], lid["I_major"]), back - lid["x"])
    Cw, shear_y = _two_flanges(top, (flange[1], tf / 2))
    sizes = {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r}
    names = ("cap_d", "cap_bf", "cap_tw", "cap_tf", "cap_r")
    return finish(
        sizes | dict(zip(names, cap, strict=True)),
        parts,
        J=bare["J"] + lid["J"],
        Cw=Cw,
        shear_centre=(0.0, shear_y),
        shear_areas=(shear_area(walls, "x"), shear_area(walls, "y")),
        surface=bare["surface"] + lid["surface"] - 2 * bf,
        thickest=np.maximum(bare["thickest"], lid["thickest"]),
        symmetry="y",
    )


def channel_of_pair(
    d: Any, bf: Any, tw: Any, tf: Any, r: Any, slope: Any, r_toe: Any, tf_from_tip: Any
) -> tuple[Sizes, list[Part]]:
    """Return one channel of a pair and its parts; with parallel flanges where the slope is zero."""
    if not np.any(np.asarray(slope) > 0):
        return channel(d, bf, tw, tf, r), channel_parts(d, bf, tw, tf, r)
    require(np.asarray(slope) > 0, "slope must be zero for every section, or for none")
    where = np.where(np.asarray(tf_from_tip) > 0, tf_from_tip, (bf - tw) / 2)
    one = tapered_channel(d, bf, tw, tf, slope, r, r_toe, where)
    return one, [channel_polygon(d, bf, tw, tf - slope * where, slope, r, r_toe)]


def double_channel(
    d: Any,
    bf: Any,
    tw: Any,
    tf: Any,
    r: Any = 0.0,
    gap: Any = 0.0,
    toes_in: Any = 0.0,
    slope: Any = 0.0,
    r_toe: Any = 0.0,
    tf_from_tip: Any = 0.0,
) -> Sizes:
    """Return two equal channels, centred, with a gap between their backs.

    With `toes_in` other than zero they face one another, and the gap is between the toes. They are
    connected at intervals, or laced: torsion is that of two open shapes even without a gap. With a
    slope the flanges taper, and `tf` is their thickness at `tf_from_tip` (half the overhang where
    that is zero).
    """
    d, bf, tw, tf, r, gap = sizes_of(d=d, bf=bf, tw=tw, tf=tf, r=r, gap=gap)
    taper = [np.asarray(v, dtype=float) + 0.0 * d for v in (slope, r_toe, tf_from_tip)]
    facing = np.asarray(toes_in, dtype=float) + 0.0 * d
    require(np.all(facing == facing.flat[0]), "toes_in must be the same for every section")
    one, right = channel_of_pair(d, bf, tw, tf, r, *taper)
    back = gap / 2 + np.where(facing != 0, bf, 0.0)
    if facing.flat[0] != 0:
        right = [part.mirrored() for part in right]
    right = [part.moved(back, 0.0) for part in right]
    out = np.abs(back + np.where(facing != 0, -1, 1) * one["shear_x"])  # to each one's shear centre
    walls = channel_walls(d, bf, tw, tf)
    touching = np.where(facing != 0, 4 * tf, 2 * d)
    names = ("slope", "r_toe", "tf_from_tip")
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r, "gap": gap, "toes_in": facing}
        | dict(zip(names, taper, strict=True)),
        [*right, *(part.mirrored() for part in right)],
        J=2 * one["J"],
        Cw=2 * (one["Cw"] + one["I_major"] * out**2),
        shear_centre=(0.0, 0.0),
        shear_areas=(shear_area(walls, "x", copies=2), shear_area(walls, "y", copies=2)),
        surface=2 * one["surface"] - np.where(gap == 0, touching, 0.0),
        thickest=one["thickest"],
        symmetry="xy",
    )


def double_i(d: Any, bf: Any, tw: Any, tf: Any, r: Any = 0.0, gap: Any = 0.0) -> Sizes:
    """Return two equal I-shapes side by side, centred, a gap between their flanges.

    They are connected at intervals, or laced.
    """
    d, bf, tw, tf, r, gap = sizes_of(d=d, bf=bf, tw=tw, tf=tf, r=r, gap=gap)
    one = i_shape.complete(i_shape.properties(d, bf, tw, tf, r))
    out = (gap + bf) / 2
    right = [part.moved(out, -d / 2) for part in i_parts(d, bf, tf, bf, tf, tw, r)]
    walls = i_walls(d, bf, tf, bf, tf, tw)
    return finish(
        {"d": d, "bf": bf, "tw": tw, "tf": tf, "r": r, "gap": gap},
        [*right, *(part.mirrored() for part in right)],
        J=2 * one["J"],
        Cw=2 * (one["Cw"] + one["I_major"] * out**2),
        shear_centre=(0.0, 0.0),
        shear_areas=tuple(2 * shear_area(walls, axis) for axis in ("x", "y")),
        surface=2 * one["surface"] - np.where(gap == 0, 4 * tf, 0.0),
        thickest=one["thickest"],
        symmetry="xy",
    )


def double_angle(d: Any, b: Any, t: Any, r: Any = 0.0, r_toe: Any = 0.0, gap: Any = 0.0) -> Sizes:
    """Return two equal angles with their legs d back to back, a gap between them.

    The legs b point outwards at the top; y from the lower ends of the legs d.
    """
    d, b, t, r, r_toe, gap = sizes_of(d=d, b=b, t=t, r=r, r_toe=r_toe, gap=gap)
    J, Cw, surface = angle_torsion(d, b, t, r, r_toe)
    right = [part.moved(gap / 2, d) for part in flipped(angle_parts(d, b, t, r, r_toe))]
    walls = angle_walls(d, b, t)
    areas = (shear_area(walls, "x", copies=2), shear_area(walls, "y", copies=2))
    return finish(
        {"d": d, "b": b, "t": t, "r": r, "r_toe": r_toe, "gap": gap},
        [*right, *(part.mirrored() for part in right)],
        J=2 * J,
        Cw=2 * Cw,
        shear_centre=(0.0, d - t / 2),
        shear_areas=areas,
        surface=2 * surface - np.where(gap == 0, 2 * d, 0.0),
        thickest=t,
        symmetry="y",
    )


def pair_in_line(
    pair: Mapping[str, Any], one: Mapping[str, Any], turned: bool = False
) -> dict[str, Any]:
    """Return double angles in line with what is published of one of the two angles.

    Parameters
    ----------
    pair : dict of str to array
        From `double_angle`.
    one : mapping of str to array
        The properties of one angle, from its heel.
    turned : bool
        Whether the leg that stands is its leg b.
    """

    def of(name: str, other: str) -> Any:
        return one[other] if turned else one[name]

    A, beside = one["A"], of("x", "y") + pair["gap"] / 2  # from the axis of symmetry
    I_x, low = of("I_x", "I_y"), of("y", "x")
    I_y = of("I_y", "I_x") + A * beside**2
    toe, heel = of("Wel_top", "Wel_right"), of("Wel_bottom", "Wel_left")
    found: dict[str, Any] = dict(pair)
    third = pair["beta_major"] + 2 * (pair["shear_y"] - pair["y"])
    found |= {"A": 2 * A, "y": pair["d"] - low, "I_x": 2 * I_x, "I_y": 2 * I_y}
    found |= {"Wel_top": 2 * heel, "Wel_bottom": 2 * toe, "Wpl_x": 2 * of("Wpl_x", "Wpl_y")}
    found |= dict.fromkeys(("Wel_right", "Wel_left"), 2 * I_y / (pair["b"] + pair["gap"] / 2))
    found |= {"Wpl_y": 2 * A * beside, "J": 2 * one["J"], "Cw": 2 * one["Cw"]}
    out = pair["shear_y"] - found["y"]
    found["beta_major"] = third - 2 * out
    found["r_polar"] = np.sqrt((I_x + I_y) / A + out**2)
    for axis, way in (("major", "x"), ("minor", "y")):
        r = np.sqrt(found[f"I_{way}"] / found["A"])
        found |= {f"I_{axis}": found[f"I_{way}"], f"Wpl_{axis}": found[f"Wpl_{way}"]}
        found |= {f"r_{way}": r, f"r_{axis}": r}
    found["Wel_major"] = np.minimum(found["Wel_top"], found["Wel_bottom"])
    found["Wel_minor"] = found["Wel_right"]
    return found
