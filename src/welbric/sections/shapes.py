"""Parametric shapes, for arrays of sizes: from dimensions to properties.

Area, centroid, second moments, elastic and plastic moduli are exact, rounded corners included
(`welbric.sections.composite`). Torsion has closed forms by the theory of thin walls; how far each
is from the finite-element solution is measured in the tests and stated in the documents.

x points to the right and y upwards. Each function returns a dict of arrays of shape (S,), mm to
the power each property has: what `composite` returns, and J, Cw, shear_x, shear_y (the shear
centre in the same axes as the centroid) and r_polar (about the shear centre).
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from welbric.sections.composite import Array, Corner, Part, Rectangle, composite
from welbric.sections.i_shape import TIP_LOSS, junction_gain

Sizes = dict[str, Array]


def _sizes(**given: Any) -> Any:
    """Return the dimensions as float arrays of one shape, in the order given."""
    arrays = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in given.values()))
    for name, array in zip(given, arrays, strict=True):
        least = 0.0 if name.startswith("r") else np.nextafter(0.0, 1.0)
        if not np.all(array >= least) or not np.all(np.isfinite(array)):
            rule = "not negative" if name.startswith("r") else "greater than zero"
            raise ValueError(f"{name} must be {rule}")
    return arrays


def _require(holds: Any, words: str) -> None:
    if not np.all(holds):
        raise ValueError(words)


def _whole(parts: Sequence[Part], J: Any, Cw: Any, shear_x: Any, shear_y: Any) -> Sizes:
    found = composite(parts)
    xs, ys = shear_x - found["x"], shear_y - found["y"]
    polar = (found["I_x"] + found["I_y"]) / found["A"] + xs**2 + ys**2
    zero = 0.0 * found["A"]
    torsion = {"J": J, "Cw": Cw, "shear_x": shear_x, "shear_y": shear_y, "r_polar": np.sqrt(polar)}
    return found | {name: np.asarray(value + zero) for name, value in torsion.items()}


def welded_i(d: Any, b_top: Any, t_top: Any, b_bottom: Any, t_bottom: Any, tw: Any) -> Sizes:
    """Return I-shapes of three plates, flanges equal or not; y from the bottom, x from the web.

    J is the sum of b t3 / 3 less what the flanges' tips lack; Cw and the shear centre follow from
    the flanges' second moments.
    """
    d, b1, t1, b2, t2, tw = _sizes(
        d=d, b_top=b_top, t_top=t_top, b_bottom=b_bottom, t_bottom=t_bottom, tw=tw
    )
    _require(t1 + t2 < d, "the two flanges must be less deep than d")
    _require((tw <= b1) & (tw <= b2), "the web must not be wider than a flange")
    parts = [
        Rectangle(-b1 / 2, b1 / 2, d - t1, d),
        Rectangle(-b2 / 2, b2 / 2, 0.0 * d, t2),
        Rectangle(-tw / 2, tw / 2, t2, d - t1),
    ]
    I1, I2, h = t1 * b1**3 / 12, t2 * b2**3 / 12, d - (t1 + t2) / 2
    J = (b1 * t1**3 + b2 * t2**3 + (d - t1 - t2) * tw**3) / 3 - 2 * TIP_LOSS * (t1**4 + t2**4)
    return _whole(parts, J, h**2 * I1 * I2 / (I1 + I2), 0.0, t2 / 2 + h * I1 / (I1 + I2))


def channel(d: Any, bf: Any, tw: Any, tf: Any, r: Any = 0.0) -> Sizes:
    """Return channels with parallel flanges; x from the back of the web, y from mid-depth.

    Torsion is that of the thin-walled middle lines; J leaves the fillets out, and is low by that.
    """
    d, bf, tw, tf, r = _sizes(d=d, bf=bf, tw=tw, tf=tf, r=r)
    _require(2 * (tf + r) < d, "two flanges and their fillets must be less deep than d")
    _require(tw + r <= bf, "the web and its fillet must not be wider than bf")
    h = d / 2
    parts: list[Part] = [
        Rectangle(0.0 * d, tw, -h, h),
        Rectangle(tw, bf, h - tf, h),
        Rectangle(tw, bf, -h, tf - h),
        Corner(tw, h - tf, 1, -1, r),
        Corner(tw, tf - h, 1, 1, r),
    ]
    b, a = bf - tw / 2, d - tf
    out = 3 * b**2 * tf / (6 * b * tf + a * tw)
    Cw = tf * b**3 * a**2 / 12 * (3 * b * tf + 2 * a * tw) / (6 * b * tf + a * tw)
    J = (2 * b * tf**3 + a * tw**3) / 3 - 2 * TIP_LOSS * tf**4
    return _whole(parts, J, Cw, tw / 2 - out, 0.0)


def angle(a: Any, b: Any, t: Any, r_root: Any = 0.0, r_toe: Any = 0.0) -> Sizes:
    """Return angles: leg a upwards, leg b to the right, heel at the origin.

    The shear centre is where the legs' middle lines meet; J leaves the fillets out, and is low by
    that.
    """
    a, b, t, r1, r2 = _sizes(a=a, b=b, t=t, r_root=r_root, r_toe=r_toe)
    _require((t + r1 + r2 <= a) & (t + r1 + r2 <= b), "a leg must be longer than t and its fillets")
    _require(r2 <= t, "the toe's radius must not be greater than t")
    parts: list[Part] = [
        Rectangle(0.0 * a, t, 0.0 * a, a),
        Rectangle(t, b, 0.0 * a, t),
        Corner(t, t, 1, 1, r1),
        Corner(t, a, -1, -1, r2, sign=-1),
        Corner(b, t, -1, -1, r2, sign=-1),
    ]
    la, lb = a - t / 2, b - t / 2
    return _whole(
        parts, (la + lb) * t**3 / 3 - 2 * TIP_LOSS * t**4, t**3 * (la**3 + lb**3) / 36, t / 2, t / 2
    )


def tee(d: Any, bf: Any, tw: Any, tf: Any, r: Any = 0.0) -> Sizes:
    """Return tees, flange up: y from the tip of the stem, x from the stem.

    The junction adds to J as in the I-shape it is cut from.
    """
    d, bf, tw, tf, r = _sizes(d=d, bf=bf, tw=tw, tf=tf, r=r)
    _require(tf + r < d, "the flange and its fillets must be less deep than d")
    _require(tw + 2 * r <= bf, "the stem and its fillets must not be wider than bf")
    parts: list[Part] = [
        Rectangle(-bf / 2, bf / 2, d - tf, d),
        Rectangle(-tw / 2, tw / 2, 0.0 * d, d - tf),
        Corner(tw / 2, d - tf, 1, -1, r),
        Corner(-tw / 2, d - tf, -1, -1, r),
    ]
    ends = TIP_LOSS * (2 * tf**4 + tw**4)
    J = (bf * tf**3 + (d - tf) * tw**3) / 3 + junction_gain(tw, tf, r) - ends
    Cw = bf**3 * tf**3 / 144 + (d - tf / 2) ** 3 * tw**3 / 36
    return _whole(parts, J, Cw, 0.0, d - tf / 2)


def rectangular_tube(h: Any, b: Any, t: Any, r_out: Any = 0.0, r_in: Any = 0.0) -> Sizes:
    """Return rectangular and square hollow sections, centred.

    J is Bredt's with the walls' own torsion, as EN 10210-2 and EN 10219-2 give it. Cw is small and
    taken as zero.
    """
    h, b, t, ro, ri = _sizes(h=h, b=b, t=t, r_out=r_out, r_in=r_in)
    _require(2 * t < np.minimum(h, b), "two walls must be thinner than the section")
    _require(2 * ro <= np.minimum(h, b), "r_out must not be greater than half a side")
    _require(2 * ri <= np.minimum(h, b) - 2 * t, "r_in must not be greater than half an inner side")
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
    J = t**3 * line / 3 + 4 * inside**2 * t / line
    return _whole(parts, J, 0.0, 0.0, 0.0)


def round_tube(diameter: Any, t: Any) -> Sizes:
    """Return round hollow sections, centred; exact. t = diameter / 2 is a solid round bar."""
    D, t = _sizes(diameter=diameter, t=t)
    _require(2 * t <= D, "t must not be greater than the radius")
    inner = D - 2 * t
    inertia = np.pi / 64 * (D**4 - inner**4)
    A = np.pi / 4 * (D**2 - inner**2)
    Wel, Wpl, zero = 2 * inertia / D, (D**3 - inner**3) / 6, 0.0 * D
    r = np.sqrt(inertia / A)
    found = dict.fromkeys(("x", "y", "I_xy", "angle", "Cw", "shear_x", "shear_y"), zero)
    found |= dict.fromkeys(("I_x", "I_y", "I_major", "I_minor"), inertia)
    found |= dict.fromkeys(("Wel_top", "Wel_bottom", "Wel_right", "Wel_left"), Wel)
    found |= {"A": A, "Wpl_x": Wpl, "Wpl_y": Wpl, "r_x": r, "r_y": r, "r_minor": r}
    return found | {"J": 2 * inertia, "r_polar": np.sqrt(2.0) * r}


def flat_bar(h: Any, b: Any) -> Sizes:
    """Return solid rectangles, centred; J by its series, to 1e-9. Cw is taken as zero."""
    h, b = _sizes(h=h, b=b)
    long, short = np.maximum(h, b), np.minimum(h, b)
    k = np.arange(1, 40, 2).reshape(-1, *([1] * h.ndim))
    series = (np.tanh(k * np.pi * long / (2 * short)) / k**5).sum(axis=0)
    # The sum of 1 / k5 beyond the terms that are summed; tanh is 1 there.
    series = series + 31 / 32 * 1.0369277551433699 - (1.0 / k**5).sum(axis=0)
    J = long * short**3 * (1 / 3 - 64 / np.pi**5 * short / long * series)
    return _whole([Rectangle(-b / 2, b / 2, -h / 2, h / 2)], J, 0.0, 0.0, 0.0)
