"""What the standard's equations ask of the effects along a member: the largest, and their shape."""

from __future__ import annotations

import functools
from dataclasses import dataclass
from typing import Any

import numpy as np

from welbric.standards.along import (
    Where,
    at_each,
    at_quarters,
    compressing,
    largest,
    of_member,
)
from welbric.standards.case import MemberCase, once_per_place

SAME_PLACE = 1e-9  # of the member's length


@dataclass(frozen=True)
class Demand:
    """The largest effects in each segment, as magnitudes; shape (S or 1, C, G), or single numbers.

    `compression` and `M_minor` are those of the whole member: lengths for buckling in compression
    need not be the segments of the flanges.
    `M_major` is the largest moment that puts the segment's flange into compression; `M_max`,
    `M_A`, `M_B` and `M_C` are absolute values over the segment and at its quarter points, for Cb.
    `end_ratio_*` is the smaller end moment over the larger, positive in reverse curvature.
    `torsion` is the moment about the member's axis; `M_reverse` the largest moment of the segment
    in the other sense than `M_major`. `M_start`, `M_middle` and `M_end` are positive where they
    compress the segment's flange. `V_ends` is the shear along the web in the panels of a stiffened
    web next to the member's ends, `V_inside` in the others.
    """

    compression: Any = 0.0
    tension: Any = 0.0
    V_major: Any = 0.0
    V_minor: Any = 0.0
    M_major: Any = 0.0
    M_minor: Any = 0.0
    M_max: Any = 0.0
    M_A: Any = 0.0
    M_B: Any = 0.0
    M_C: Any = 0.0
    end_ratio_major: Any = 0.0
    end_ratio_minor: Any = 0.0
    torsion: Any = 0.0
    M_reverse: Any = 0.0
    M_start: Any = 0.0
    M_middle: Any = 0.0
    M_end: Any = 0.0
    V_inside: Any = 0.0
    V_ends: Any = 0.0


@once_per_place
def demand(case: MemberCase) -> Demand:
    """Return the effects of a case, reduced."""
    if case.reduced is not None:
        found: Demand = case.reduced
        return found
    e = case.effects
    segments = case.segments
    most = functools.partial(largest, case)
    M_top, M_bottom = most(e.M_major), most(-np.asarray(e.M_major))
    M_max = np.maximum(M_top, M_bottom)
    quarters = at_quarters(case, np.abs(e.M_major))

    def bending(stations: Any) -> Any:
        M = at_each(e.M_major, stations)
        return compressing(case, M, -M, np.abs(M))

    panels = {}
    if case.stiffeners is not None and case.stiffeners.ends_differ:
        V = np.abs(e.V_major)
        panels = {name: most(np.where(where, V, 0.0)) for name, where in _panels(case).items()}
    values = Demand(
        compression=of_member(-e.N),
        tension=most(e.N),
        V_major=most(np.abs(e.V_major)),
        V_minor=most(np.abs(e.V_minor)),
        M_major=compressing(case, M_top, M_bottom, M_max),
        M_minor=of_member(np.abs(e.M_minor)),
        M_max=M_max,
        M_A=quarters[..., 0],
        M_B=quarters[..., 1],
        M_C=quarters[..., 2],
        end_ratio_major=_end_ratio(e.M_major, e.is_whole("major")),
        end_ratio_minor=_end_ratio(e.M_minor, e.is_whole("minor")),
        torsion=most(np.abs(e.T)),
        M_reverse=compressing(case, M_bottom, M_top, 0.0),
        M_start=bending(segments.first),
        M_middle=bending(np.asarray(segments.quarters)[..., 1, 0]),
        M_end=bending(segments.last),
        **panels,
    )
    return Demand(**{name: case.own(value) for name, value in vars(values).items()})


def _panels(case: MemberCase) -> dict[str, Any]:
    """Return which stations are in the panels next to the member's ends, and in the others."""
    x, L, ends = np.asarray(case.effects.x), case.length, 0.0
    if case.stiffeners is not None:
        ends = case.stiffeners.end_panels
    slack = SAME_PLACE * np.maximum(1.0, L)
    inner = (x >= ends - slack) & (x <= L - ends + slack)
    outer = (x <= ends + slack) | (x >= L - ends - slack)
    return {"V_inside": inner, "V_ends": outer}


def _end_ratio(M: Any, whole: Any) -> Any:
    """Return M1/M2 of the end moments, positive in reverse curvature.

    With no end moments at all the ratio does not matter, and -1 (uniform moment) is the safe one;
    so it is where the member is held between its ends too.
    """
    first, last = np.asarray(M)[..., :1], np.asarray(M)[..., -1:]
    swap = np.abs(first) > np.abs(last)
    small, large = np.where(swap, last, first), np.where(swap, first, last)
    bent = (large != 0) & whole
    return np.where(bent, -small / np.where(bent, large, 1.0), -1.0)


def places(case: MemberCase, effect: str, where: Where) -> Any:
    """Return where along members an effect of `Demand` is largest, mm, shape (n,)."""
    e = case.effects
    if effect == "compression":
        return where.largest(case, -where.along(e.N), whole=True)
    if effect == "M_minor":
        return where.largest(case, np.abs(where.along(e.M_minor)), whole=True)
    if effect in ("M_major", "M_reverse"):
        M = where.compressing(case, e.M_major)
        return where.largest(case, M if effect == "M_major" else -M)
    if effect == "tension":
        return where.largest(case, where.along(e.N))
    if effect in ("V_inside", "V_ends"):
        V = np.abs(where.along(e.V_major))
        return where.largest(case, np.where(where.along(_panels(case)[effect]), V, 0.0))
    name = {"V_major": "V_major", "V_minor": "V_minor", "torsion": "T", "M_max": "M_major"}[effect]
    return where.largest(case, np.abs(where.along(getattr(e, name))))
