"""A member's elastic critical load factor: lateral buckling of the whole, by eigenvalue."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields

import numpy as np

from welbric.analysis.diagram import Array
from welbric.analysis.lateral_buckling import (
    AllAlong,
    Hold,
    Stiffnesses,
    buckling,
    gauss_places,
    mesh,
)
from welbric.analysis.member_loads import LineLoad, PointLoad
from welbric.effects.forces import load_cases
from welbric.errors import InputError
from welbric.inputs.restraints import Brace
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import applied
from welbric.members.segments import (
    Segment,
    continuous_lengths,
    held_places,
    segments,
    twist_places,
)
from welbric.sections.table import Section
from welbric.standards.case import Elasticity
from welbric.units import METRIC, digits

TELLING = (
    0.5  # of the largest moment: below it an equivalent factor of its moment shape says nothing
)
ELEMENTS = 40  # more than the factor needs: the mode is drawn


@dataclass(frozen=True)
class SegmentMoment:
    """The largest moment of a segment, its critical value, and what it is of uniform moment's.

    Attributes
    ----------
    segment : Segment
    moment : float, N mm
        That compresses the segment's flange.
    Mcr : float, N mm
        The same when the whole member buckles.
    moment_shape : float
        Mcr over the critical uniform moment of the segment's own length; NaN without a length.
    """

    segment: Segment
    moment: float
    Mcr: float
    moment_shape: float


@dataclass(frozen=True, repr=False)
class CriticalLoad:
    """When a member buckles laterally, elastically, as a whole.

    Attributes
    ----------
    combination : str
    factor : float
        On all loads of the combination; infinite where they cannot make it buckle.
    moment, place : float
        The largest moment under the combination, N mm, and where, mm.
    segments : list of SegmentMoment
    x, u, twist : array, shape (J,)
        The mode: lateral movement and twist at nodes along the member.
    """

    combination: str
    factor: float
    moment: float
    place: float
    segments: list[SegmentMoment]
    x: Array
    u: Array
    twist: Array

    def __repr__(self) -> str:
        moment, place = METRIC.show(self.moment, "moment"), METRIC.show(self.place, "length", 3)
        return (
            f"<buckles laterally at {digits(self.factor)} × {self.combination}, whose largest "
            f"moment is {moment} at {place}>"
        )

    def tells(self, part: SegmentMoment) -> bool:
        """Whether a segment's moment is large enough for its equivalent factor to say something."""
        return math.isfinite(part.moment_shape) and part.moment >= TELLING * self.moment

    @property
    def Mcr(self) -> float:
        """The largest moment when the member buckles, N mm."""
        return self.factor * self.moment


def covers(member: DesignMember) -> bool:
    """Return whether the solution takes a member: see `critical_load` for what it does not."""
    symmetric = all(
        not s.angle and abs(s.shear_x - s.x) <= 1e-6 * s.surface for _, _, s in member.stretches
    )
    plain = not (member.said.forces or member.said.hinges or member.said.pieces)
    return symmetric and plain


def critical_load(
    member: DesignMember,
    combination: Combination,
    steel: Elasticity,
    bending_alone: bool = False,
    braces: bool = True,
) -> CriticalLoad:
    """Return the elastic critical load factor of a member under a combination.

    Parameters
    ----------
    member : DesignMember
        Its supports hold it laterally and against twisting; its restraints hold the flanges they
        name; loads act where `on` says.
    combination : Combination
    steel : Elasticity
    bending_alone : bool
        Whether axial forces are left out.
    braces : bool
        Whether what holds the member elastically counts.

    Raises
    ------
    InputError
        If forces are given in place of loads, or a section is not symmetric about its web.
    """
    if member.said.forces:
        raise InputError(f"{member.mark}: the critical factor needs loads, not combined forces")
    if member.said.hinges:
        raise InputError(f"{member.mark}: a member with hinges is outside this solution")
    stretches = member.stretches
    for _, _, one in stretches:
        if one.angle or abs(one.shear_x - one.x) > 1e-6 * one.surface:
            raise InputError(
                f"{member.mark}: {one.name} is not symmetric about its web: outside this solution"
            )
        off = abs(one.shear_y - one.y) > 1e-6 * one.surface
        if member.said.pieces and (off or abs(one.beta_major) > 1e-6 * one.surface):
            raise InputError(
                f"{member.mark}: {one.name} is not symmetric about both axes: of several sections "
                "this solution takes those that are"
            )
    section = max((s for _, _, s in stretches), key=lambda s: s.d)  # loads act at its height
    E, G = steel.E, steel.G
    cases = load_cases(member, steel)
    heights = flange_heights(section)
    holds = _holds(member, heights, member.said.braces if braces else [])
    points, lines = _high_loads(member, combination, heights)
    stops = [*cases.axial.breaks, *(h.at for h in holds if isinstance(h, Hold))]
    stops += [end for _, end, _ in stretches]
    stops += [x for h in holds if isinstance(h, AllAlong) for x in (h.start, h.end)]
    nodes = mesh(member.length, stops, ELEMENTS)
    x = gauss_places(nodes)
    flat, side = x.ravel(), np.zeros(x.size, dtype=bool)
    factors = cases.factors([combination])
    moment = cases.major.moment.combine(factors)
    along_axis = cases.axial.combine(0.0 * factors if bending_alone else factors)
    found = buckling(
        nodes,
        along(nodes, stretches, E, G),
        moment.at(flat, side)[0].reshape(x.shape),
        along_axis.at(flat, side)[0].reshape(x.shape),
        lines(x),
        points,
        holds,
    )
    factor = float(found.factor[0])
    stations = np.unique(np.concatenate([nodes, moment.extreme_places(), flat]))
    both = [moment.at(stations, np.full(len(stations), right))[0] for right in (False, True)]
    values = np.where(np.abs(both[0]) > np.abs(both[1]), both[0], both[1])
    at = int(np.argmax(np.abs(values)))
    axial = along_axis.at(stations, np.zeros(len(stations), dtype=bool))
    squeezed = bool(axial.min() < 0)
    parts = [
        _of_segment(segment, stations, values, factor, stretches, E, G, squeezed)
        for segment in segments(member)
    ]
    largest = float(abs(values[at]))
    place = float(stations[at])
    mode = (found.x, found.u[0], found.twist[0])
    return CriticalLoad(combination.name, factor, largest, place, parts, *mode)


def stiffnesses(section: Section, E: float, G: float) -> Stiffnesses:
    """Return what a section brings to lateral buckling."""
    height = section.shear_y - section.y
    return Stiffnesses(
        E * section.I_minor, G * section.J, E * section.Cw, section.beta_major, height,
        section.r_polar,
    )  # fmt: skip


def along(
    nodes: Array, stretches: Sequence[tuple[float, float, Section]], E: float, G: float
) -> Stiffnesses:
    """Return what each element's section brings, or the one section of all."""
    found = [stiffnesses(section, E, G) for _, _, section in stretches]
    if len(found) == 1:
        return found[0]
    middle = 0.5 * (nodes[:-1] + nodes[1:])
    which = np.searchsorted([end for _, end, _ in stretches], middle)
    names = [f.name for f in fields(Stiffnesses)]
    return Stiffnesses(*(np.array([[getattr(found[i], n) for i in which]]) for n in names))


def flange_heights(section: Section) -> dict[str, float]:
    """Return the heights of the extreme fibres above the shear centre, mm."""
    shift = section.y - section.shear_y
    return {
        "top": section.I_x / section.Wel_top + shift,
        "bottom": -section.I_x / section.Wel_bottom + shift,
        "shear centre": 0.0,
    }


def uniform_critical_moment(
    section: Section, length: float, E: float, G: float, hogging: bool = False
) -> float:
    """Return the critical uniform moment of a length held at its ends, N mm, in its sense."""
    P = math.pi**2 * E * section.I_minor / length**2
    twisting = (G * section.J + math.pi**2 * E * section.Cw / length**2) / P
    half = (section.beta_major if hogging else -section.beta_major) / 2
    return P * (half + math.sqrt(half**2 + twisting))


def _of_segment(
    segment: Segment,
    x: Array,
    M: Array,
    factor: float,
    stretches: Sequence[tuple[float, float, Section]],
    E: float,
    G: float,
    squeezed: bool,
) -> SegmentMoment:
    inside = (x >= segment.start - 1e-6) & (x <= segment.end + 1e-6)
    sign = {"top": 1.0, "bottom": -1.0}.get(segment.flange)
    pressing = np.abs(M[inside]) if sign is None else np.maximum(sign * M[inside], 0.0)
    moment = float(pressing.max(initial=0.0))
    Mcr = factor * moment if moment > 0 else math.nan
    equivalent = math.nan
    sections = {s for a, b, s in stretches if a < segment.end and b > segment.start}
    # Of several sections none has a critical uniform moment of its own, and where the member is
    # in compression the moment does not buckle it alone.
    if segment.unbraced > 0 and moment > 0 and len(sections) == 1 and not squeezed:
        equivalent = Mcr / uniform_critical_moment(
            sections.pop(), segment.unbraced, E, G, hogging=segment.flange == "bottom"
        )
    return SegmentMoment(segment, moment, Mcr, equivalent)


def _holds(
    member: DesignMember, heights: dict[str, float], braces: Sequence[Brace]
) -> Sequence[Hold | AllAlong]:
    found: list[Hold | AllAlong] = []
    supports = {s.at: s for s in member.supports_about("minor") if s.held or s.clamped}
    for at, support in supports.items():
        found.append(Hold(at, u=support.held, twist=True, turn=support.clamped))
    places: dict[float, set[str]] = {}
    for flange in ("top", "bottom"):
        whole = continuous_lengths(member, flange)
        found += [AllAlong(heights[flange], *length) for length in whole]
        for at, why in held_places(member, flange).items():
            if at not in supports and why not in {"twist held", "continuous"}:
                places.setdefault(at, set()).add(flange)
    for at, flanges in sorted(places.items()):
        if len(flanges) == 2:
            found.append(Hold(at, u=True, twist=True))
        else:
            found.append(Hold(at, height=heights[min(flanges)]))
    for start, end in continuous_lengths(member, "twist"):
        found += [Hold(at, twist=True) for at in np.linspace(start, end, 21)]
    found += [Hold(at, twist=True) for at in twist_places(member)]
    for brace in braces:
        height = heights[brace.on] if brace.stiffness else None
        springs = (brace.stiffness or 0.0, brace.twist_stiffness or 0.0)
        found += [Hold(x, False, False, False, brace.warping, height, *springs) for x in brace.at]
        smeared = (brace.stiffness_along or 0.0, brace.twist_stiffness_along or 0.0)
        if any(smeared):
            start = brace.start or 0.0
            end = member.length if brace.end is None else brace.end
            found.append(AllAlong(heights[brace.on], start, end, *smeared))
    return found


def _high_loads(
    member: DesignMember, combination: Combination, heights: dict[str, float]
) -> tuple[list[tuple[float, float]], Callable[[Array], Array]]:
    """Return point loads times their heights, and a function for line loads times theirs."""
    points: list[tuple[float, float]] = []
    lines: list[tuple[LineLoad, float]] = []
    for load in member.said.loads:
        height = heights[load.on]
        for key, axis, one in applied(member, load):
            factor = key.factor(combination) * height
            if axis != "major" or not factor:
                continue
            if isinstance(one, PointLoad):
                points.append((one.at, factor * one.P))
            elif isinstance(one, LineLoad):
                lines.append((one, factor))

    def along(x: Array) -> Array:
        total = np.zeros_like(x)
        for one, factor in lines:
            slope = (one.w_end - one.w_start) / (one.end - one.start)
            inside = (x > one.start) & (x < one.end)
            total += np.where(inside, factor * (one.w_start + slope * (x - one.start)), 0.0)
        return total

    return points, along
