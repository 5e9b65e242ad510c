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
    largest,
    of_member,
    within,
)
from welbric.standards.case import MemberCase, once_per_place
from welbric.working import unrecorded


@dataclass(frozen=True)
class Demand:
    """The largest effects in each segment, as magnitudes; shape (S or 1, C, G), or single numbers.

    `compression`, `M_whole` and `M_minor` are of the whole member. `M_major` is the largest moment
    that compresses the segment's flange, `M_top` and `M_bottom` the largest of the segment that
    compress the top and the bottom, `M_max` the largest of either sense, `M_2`, `M_3` and `M_4`
    those at its quarter points. `V_both` is the largest of both shear forces as one. `s_start`,
    `s_first`, `s_middle`, `s_last` and `s_end`, at the ends and the quarter points of the segment,
    are positive where they compress its flange, or the top where both are held alike.
    """

    compression: Any = 0.0
    tension: Any = 0.0
    V_major: Any = 0.0
    V_minor: Any = 0.0
    M_major: Any = 0.0
    M_minor: Any = 0.0
    M_whole: Any = 0.0
    M_top: Any = 0.0
    M_bottom: Any = 0.0
    M_max: Any = 0.0
    M_2: Any = 0.0
    M_3: Any = 0.0
    M_4: Any = 0.0
    torsion: Any = 0.0
    V_both: Any = 0.0
    s_start: Any = 0.0
    s_first: Any = 0.0
    s_middle: Any = 0.0
    s_last: Any = 0.0
    s_end: Any = 0.0


@once_per_place
def demand(case: MemberCase) -> Demand:
    """Return the effects of a case, reduced."""
    if case.reduced is not None:
        found: Demand = case.reduced
        return found
    e, segments = case.effects, case.segments
    most = functools.partial(largest, case)
    M_top, M_bottom = most(e.M_major), most(-np.asarray(e.M_major))
    M_max = np.maximum(M_top, M_bottom)
    quarters = at_quarters(case, np.abs(e.M_major))

    def signed(stations: Any) -> Any:
        # Where both flanges are held alike either may be compressed, and the sense tells the shape.
        M = at_each(e.M_major, stations)
        return compressing(case, M, -M, M)

    values = Demand(
        compression=of_member(-e.N),
        tension=most(e.N),
        V_major=most(np.abs(e.V_major)),
        V_minor=most(np.abs(e.V_minor)),
        M_major=compressing(case, M_top, M_bottom, M_max),
        M_minor=of_member(np.abs(e.M_minor)),
        M_whole=of_member(np.abs(e.M_major)),
        M_top=M_top,
        M_bottom=M_bottom,
        M_max=M_max,
        M_2=quarters[..., 0],
        M_3=quarters[..., 1],
        M_4=quarters[..., 2],
        torsion=most(np.abs(e.T)),
        V_both=most(np.hypot(e.V_major, e.V_minor)),
        s_start=signed(segments.first),
        s_first=signed(np.asarray(segments.quarters)[..., 0, 0]),
        s_middle=signed(np.asarray(segments.quarters)[..., 1, 0]),
        s_last=signed(np.asarray(segments.quarters)[..., 2, 0]),
        s_end=signed(segments.last),
    )
    return Demand(**{name: case.own(value) for name, value in vars(values).items()})


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
    """Return the utilisation at the worst station of each segment, and that at all stations.

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
    unknown = np.isnan(U)
    known = np.where(unknown, np.inf, U)
    if case.single:
        first, last = (int(np.ravel(of)[0]) for of in (case.segments.first, case.segments.last))
        at = first + int(first_largest(np.ravel(known)[first : last + 1]))
        here = Station(*(float(np.ravel(force)[at]) for force in forces))
        return utilisation(case, here), known
    found = within(case, np.where(unknown, -np.inf, U))
    if unknown.any():
        found = np.where(within(case, unknown.astype(float)) * (found < np.inf), np.nan, found)
    return found, known


def places(case: MemberCase, effect: str, where: Where) -> Any:
    """Return where along members an effect is largest, mm, shape (n,)."""
    if effect == "station":  # found with the check that asked for it
        return where.largest(case, where.along(case.cache["station"]))
    e = case.effects
    if effect == "V_both":
        return where.largest(case, np.hypot(where.along(e.V_major), where.along(e.V_minor)))
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
