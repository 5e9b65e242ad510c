"""What the equations ask of the effects along a member: the largest, their shape, a station."""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import first_largest
from welbric.standards.along import (
    Where,
    at_each,
    at_quarters,
    compressing,
    ends_and_middle,
    largest,
    of_member,
)
from welbric.standards.case import MemberCase, once_per_place
from welbric.working import unrecorded


@dataclass(frozen=True)
class Demand:
    """The largest effects in each segment, as magnitudes; shape (S or 1, C, G), or single numbers.

    `compression`, `M_minor` and the moments at the ends and the middle of the member, `y_*` and
    `z_*`, are of the whole member. `M_major` is the largest moment that compresses the segment's
    flange, `M_top` and `M_bottom` the largest of the segment that compress the top and the bottom,
    `M_max` the largest of either sense, `M_2`, `M_3` and `M_4` those at its quarter points.
    `s_start`, `s_middle` and `s_end` are positive where they compress the segment's flange, or the
    top where both are held alike.
    """

    compression: Any = 0.0
    tension: Any = 0.0
    V_major: Any = 0.0
    V_minor: Any = 0.0
    M_major: Any = 0.0
    M_minor: Any = 0.0
    M_top: Any = 0.0
    M_bottom: Any = 0.0
    M_max: Any = 0.0
    M_2: Any = 0.0
    M_3: Any = 0.0
    M_4: Any = 0.0
    torsion: Any = 0.0
    y_start: Any = 0.0
    y_middle: Any = 0.0
    y_end: Any = 0.0
    y_max: Any = 0.0
    z_start: Any = 0.0
    z_middle: Any = 0.0
    z_end: Any = 0.0
    z_max: Any = 0.0
    s_start: Any = 0.0
    s_middle: Any = 0.0
    s_end: Any = 0.0


@once_per_place
def demand(case: MemberCase) -> Demand:
    """Return the effects of a case, reduced."""
    if case.reduced is not None:
        found: Demand = case.reduced
        return found
    e, inside = case.effects, np.asarray(case.segments.inside)
    M = np.abs(e.M_major)
    bending = compressing(case, e.M_major)
    # Where both flanges are held alike either may be compressed, and the sense tells the shape.
    both = np.asarray(case.segments.both)[..., None]
    signed = np.where(both, e.M_major[:, :, None], bending)
    most = functools.partial(largest, case)
    quarters = at_quarters(case, M)
    first, middle, last = ends_and_middle(case)
    along: dict[str, Any] = {}
    for letter, of in (("y", e.M_major), ("z", e.M_minor)):
        along |= {
            f"{letter}_start": of[..., :1],
            f"{letter}_middle": _at_middle(e.x, of),
            f"{letter}_end": of[..., -1:],
            f"{letter}_max": np.abs(of).max(axis=-1)[..., None],
        }
    values = Demand(
        compression=of_member(-e.N),
        tension=most(e.N),
        V_major=most(np.abs(e.V_major)),
        V_minor=most(np.abs(e.V_minor)),
        M_major=np.where(inside, bending, 0.0).max(axis=-1).clip(min=0.0),
        M_minor=of_member(np.abs(e.M_minor)),
        M_top=most(e.M_major),
        M_bottom=most(-np.asarray(e.M_major)),
        M_max=most(M),
        M_2=quarters[..., 0],
        M_3=quarters[..., 1],
        M_4=quarters[..., 2],
        torsion=most(np.abs(e.T)),
        s_start=at_each(signed, first),
        s_middle=at_each(signed, middle),
        s_end=at_each(signed, last),
        **along,
    )
    return Demand(**{name: case.own(value) for name, value in vars(values).items()})


def _at_middle(x: Any, values: Any) -> Any:
    """Return values at the middle of each member, straight between stations, (S, C, 1)."""
    x = np.broadcast_to(x, values.shape)
    half = 0.5 * (x[..., :1] + x[..., -1:])
    high = np.minimum((x < half).sum(axis=-1, keepdims=True), x.shape[-1] - 1)
    low = np.maximum(high - 1, 0)

    def at(of: Any, station: Any) -> Any:
        return np.take_along_axis(of, station, axis=-1)

    gap = at(x, high) - at(x, low)
    share = np.where(gap > 0, (half - at(x, low)) / np.where(gap > 0, gap, 1.0), 0.0)
    return at(values, low) + (at(values, high) - at(values, low)) * share


# Cross-sections: forces that act together at a station


@dataclass(frozen=True)
class Station:
    """Effects that act together: magnitudes, but for the axial force, tension positive.

    `signed_major` and `signed_minor` are the moments with their signs, positive where they compress
    the top and the side away from the heel.
    """

    N: Any
    V_major: Any
    V_minor: Any
    M_major: Any
    M_minor: Any
    T: Any
    signed_major: Any
    signed_minor: Any


def worst_station(
    case: MemberCase, utilisation: Callable[[MemberCase, Station], Any]
) -> tuple[Any, Any]:
    """Return the utilisation at the worst station of each segment, and where that is, mm.

    In single numbers it is worked out there, in the working.
    """
    e = case.effects
    forces = (
        np.asarray(e.N), np.abs(e.V_major), np.abs(e.V_minor), np.abs(e.M_major),
        np.abs(e.M_minor), np.abs(e.T), np.asarray(e.M_major), np.asarray(e.M_minor),
    )  # fmt: skip
    # What the search finds out is not kept: the working finds it out again, step by step.
    looking = replace(case, cache=dict(case.cache)) if case.single else case
    with unrecorded():
        U = np.broadcast_to(utilisation(looking, Station(*forces)), forces[0].shape)
    known = np.where(np.isnan(U), np.inf, U)
    masked = np.where(case.segments.inside, known[:, :, None], -np.inf)
    where = first_largest(masked)
    if case.single:
        at = int(np.ravel(where)[0])
        here = Station(*(float(np.ravel(force)[at]) for force in forces))
        return utilisation(case, here), float(np.ravel(e.x)[at])
    found = np.take_along_axis(
        np.broadcast_to(U[:, :, None], masked.shape), where[..., None], axis=-1
    )[..., 0]
    x = np.broadcast_to(np.asarray(e.x)[:, :, None], masked.shape)
    return found, np.take_along_axis(x, where[..., None], axis=-1)[..., 0]


def places(case: MemberCase, effect: str, where: Where) -> Any:
    """Return where along members an effect is largest, mm, shape (n,)."""
    if effect == "station":  # found with the check that asked for it
        return where.of(case.cache["station"])
    e = case.effects
    if effect == "compression":
        return where.largest(case, -where.along(e.N), whole=True)
    if effect == "M_minor":
        return where.largest(case, np.abs(where.along(e.M_minor)), whole=True)
    if effect == "M_major":
        return where.largest(case, where.compressing(case, e.M_major))
    if effect in ("tension", "M_top", "M_bottom"):
        name, sense = {"tension": ("N", 1), "M_top": ("M_major", 1), "M_bottom": ("M_major", -1)}[
            effect
        ]
        return where.largest(case, sense * where.along(getattr(e, name)))
    name = {"V_major": "V_major", "V_minor": "V_minor", "torsion": "T", "M_max": "M_major"}[effect]
    return where.largest(case, np.abs(where.along(getattr(e, name))))
