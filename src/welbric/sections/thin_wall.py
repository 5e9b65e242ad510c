"""Thin walls: shear areas by the energy of the shear flow, and the torsion of junctions."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

# Gauss' rule with three points on (0, 1): exact up to the fifth power.
_OUT = (3 / 20) ** 0.5
GAUSS = ((0.5 - _OUT, 5 / 18), (0.5, 8 / 18), (0.5 + _OUT, 5 / 18))

TIP_LOSS = 0.105  # of t4: what the free end of a wall lacks in J = b t3 / 3

# What a corner of two walls adds to the J of its strips, in t4 of the thicker: a cubic in the share
# s of the thinner wall and in the share q of the fillet's radius. Fitted here to finite-element
# solutions for s from 0.3 to 1 and q up to 2, to 0.1 % of J with legs of five thicknesses.
_CORNER = (
    (0, 0, -0.0933),
    (1, 0, -0.1015),
    (0, 1, 0.0166),
    (1, 1, -0.0266),
    (2, 0, 0.2347),
    (0, 2, -0.0172),
    (2, 1, 0.1482),
    (1, 2, 0.3121),
    (3, 0, 0.0327),
    (0, 3, 0.0512),
)  # fmt: skip


def bar_torsion(a: Any, b: Any) -> Any:
    """Return J of a solid rectangle by its series, to 1e-9."""
    long, short = np.maximum(a, b), np.minimum(a, b)
    k = np.arange(1, 40, 2).reshape(-1, *([1] * np.ndim(long)))
    series = (np.tanh(k * np.pi * long / (2 * short)) / k**5).sum(axis=0)
    # The sum of 1 / k5 beyond the terms that are summed; tanh is 1 there.
    series = series + 31 / 32 * 1.0369277551433699 - (1.0 / k**5).sum(axis=0)
    return long * short**3 * (1 / 3 - 64 / np.pi**5 * short / long * series)


def within_proportions(
    J: Any, web: tuple[Any, Any], *flanges: tuple[Any, Any], thickest_web: float = 2.0
) -> Any:
    """Return J by the theory of thin walls where the walls are such, else a lower bound.

    Strips of walls are for flanges at least twice as wide as thick, and for webs not thicker than
    they are long; what a junction with fillets gains is fitted to webs at most as thick as two
    flanges. Beyond, the formulas may be far too high or below zero. There each part counts as a
    bar of its own: what holds the parts together can only add to that.

    Parameters
    ----------
    J : array
    web, flanges : (length, thickness), mm
    thickest_web : float
        Flanges' thicknesses, up to which the formula holds.
    """
    (h, tw), usual = web, np.asarray(web[0] >= web[1])
    for b, t in flanges:
        usual = usual & (b >= 2 * t) & (tw <= thickest_web * t)
    if usual.all():
        return J
    found = np.array(J, dtype=float)
    shape, odd = found.shape, ~np.broadcast_to(usual, found.shape)

    def of_odd(size: Any) -> Any:
        return np.broadcast_to(size, shape)[odd]

    bars = [(np.maximum(h, 1e-9), tw), *flanges]
    found[odd] = sum(bar_torsion(of_odd(length), of_odd(t)) for length, t in bars)
    return found


@dataclass(frozen=True)
class Wall:
    """A straight wall by its middle line, from its start to its end; `after` are its feeders.

    The shear flow begins with what the walls numbered in `after` bring to its start.
    """

    x0: Any
    y0: Any
    x1: Any
    y1: Any
    t: Any
    after: tuple[int, ...] = ()


def shear_area(walls: Sequence[Wall], along: str, coupled: bool = False, copies: int = 1) -> Any:
    """Return the area that gives the energy of the shear flow: V2 / (2 G area) per length.

    Parameters
    ----------
    walls : sequence of Wall
        Feeders first. A closed section is given by one of two equal halves, cut where the flow is
        zero.
    along : {"x", "y"}
        The direction of the shear force.
    coupled : bool
        Whether neither axis is one of symmetry.
    copies : int
        How many times the walls stand side by side.
    """
    length = [np.hypot(w.x1 - w.x0, w.y1 - w.y0) for w in walls]
    area = [n * w.t for n, w in zip(length, walls, strict=True)]

    def centred(first: str, last: str) -> list[tuple[Any, Any]]:
        ends = [(getattr(w, first), getattr(w, last)) for w in walls]
        middle = sum(a * (p + q) / 2 for a, (p, q) in zip(area, ends, strict=True)) / sum(area)
        return [(p - middle, q - middle) for p, q in ends]

    here, other = centred("y0", "y1"), centred("x0", "x1")
    if along == "x":
        here, other = other, here

    def moment(u: list[tuple[Any, Any]], v: list[tuple[Any, Any]]) -> Any:
        total = 0.0
        for a, (p, q), (r, s) in zip(area, u, v, strict=True):
            total = total + a * (2 * (p * r + q * s) + p * s + q * r) / 6
        return copies * total

    inertia, cross = moment(here, here), 0.0
    if coupled:
        cross = moment(here, other) / moment(other, other)
        inertia = inertia - cross * moment(here, other)
    flows: list[Any] = []
    energy = 0.0
    for wall, n, (p, q), (r, s) in zip(walls, length, here, other, strict=True):
        start = sum((flows[i] for i in wall.after), 0.0)
        first, last = p - cross * r, q - cross * s
        for point, weight in GAUSS:
            flow = start + wall.t * n * (first * point + (last - first) * point**2 / 2)
            energy = energy + copies * weight * n / wall.t * flow**2
        flows.append(start + wall.t * n * (first + last) / 2)
    return inertia**2 / energy


def corner_gain(t1: Any, t2: Any, r: Any) -> Any:
    """Return what a corner adds to J, when the strip of the thicker wall reaches the corner."""
    thick, thin = np.maximum(t1, t2), np.minimum(t1, t2)
    s, q = np.maximum(thin / thick, 0.3), np.minimum(r / thick, 2.0)
    return thick**4 * sum(c * s**i * q**j for i, j, c in _CORNER)
