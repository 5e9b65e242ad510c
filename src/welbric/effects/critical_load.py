"""A member's elastic critical load factor: lateral buckling of the whole, by eigenvalue."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, distinct
from welbric.analysis.lateral_buckling import (
    AllAlong,
    Hold,
    Stiffnesses,
    buckling,
    gauss_places,
    mesh,
)
from welbric.analysis.member_loads import LineLoad, PointLoad
from welbric.analysis.threads import on_one_thread
from welbric.effects.load_cases import load_cases
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
TRACE = 1e-9  # of the largest moment of all combinations
ELEMENTS = 40  # more than the factor needs: the mode is drawn
# What the factor needs within 0.2 %: in each span, in each where a flange is held without a gap,
# in each gap between holds.
IN_SPAN, IN_HELD_SPAN, IN_GAP = 14, 28, 5
NEAR = 0.5  # of a neighbouring length: holds that are nearer to one another do not clamp it


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
    first_order : bool
        Whether the moments that are checked have second-order effects in them that it has not.
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
    first_order: bool = False

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
    plain = not (member.said.forces or member.said.hinges or member.said.pieces)
    return plain and all(is_symmetric(section) for _, _, section in member.stretches)


def is_symmetric(section: Section) -> bool:
    """Return whether a section is symmetric about its web."""
    return not section.angle and abs(section.shear_x - section.x) <= 1e-6 * section.surface


def _refuse(member: DesignMember) -> None:
    """Raise what keeps the solution from taking a member, where something does."""
    if member.said.forces:
        raise InputError(f"{member.mark}: the critical factor needs loads, not combined forces")
    if member.said.hinges:
        raise InputError(f"{member.mark}: a member with hinges is outside this solution")
    for _, _, one in member.stretches:
        if not is_symmetric(one):
            raise InputError(
                f"{member.mark}: {one.name} is not symmetric about its web: outside this solution"
            )
        off = abs(one.shear_y - one.y) > 1e-6 * one.surface
        if member.said.pieces and (off or abs(one.beta_major) > 1e-6 * one.surface):
            raise InputError(
                f"{member.mark}: {one.name} is not symmetric about both axes: of several sections "
                "this solution takes those that are"
            )


def critical_load(
    member: DesignMember, combination: Combination, steel: Elasticity
) -> CriticalLoad:
    """Return the elastic critical load factor of a member under a combination.

    Parameters
    ----------
    member : DesignMember
        Its supports hold it laterally and against twisting; its restraints hold the flanges they
        name; loads act where `on` says.
    combination : Combination
    steel : Elasticity

    Raises
    ------
    InputError
        If forces are given in place of loads, or a section is not symmetric about its web.
    """
    _refuse(member)
    stretches = member.stretches
    E, G = steel.E, steel.G
    cases = load_cases(member, steel)
    held = _Held.of(member, max(ELEMENTS, _few(member)), cases.axial.breaks)
    points, lines = held.high_loads([combination])
    nodes, x = held.nodes, held.x
    flat, side = x.ravel(), np.zeros(x.size, dtype=bool)
    factors = cases.factors([combination])
    moment = cases.major.moment.combine(factors)
    along_axis = cases.axial.combine(factors)
    found = buckling(
        nodes,
        along(nodes, stretches, E, G),
        moment.at(flat, side)[0].reshape(x.shape),
        along_axis.at(flat, side)[0].reshape(x.shape),
        lines[0],
        [(at, value.ravel()) for at, value in points],
        held.holds,
    )
    factor = float(found.factor[0])
    stations = np.unique(np.concatenate([nodes, moment.extreme_places(), flat]))
    axial = along_axis.at(stations, np.zeros(len(stations), dtype=bool))
    squeezed = bool(axial.min() < 0)
    # Both sides of each station: where a moment acts it jumps.
    right = np.repeat([False, True], len(stations))
    stations = np.tile(stations, 2)
    values = moment.at(stations, right)[0]
    parts = [
        _of_segment(segment, stations, right, values, factor, stretches, E, G, squeezed)
        for segment in segments(member)
    ]
    at = int(np.argmax(np.abs(values)))
    largest, place = float(abs(values[at])), float(stations[at])
    mode = (found.x, found.u[0], found.twist[0])
    return CriticalLoad(combination.name, factor, largest, place, parts, *mode)


@on_one_thread
def critical_factors(
    member: DesignMember,
    combinations: Sequence[Combination],
    breaks: Array,
    moments: Callable[[Array], Array],
    steel: Elasticity,
    sections: Sequence[Section] = (),
) -> Array:
    """Return by what factor on its loads a member buckles laterally in bending, (S or 1, C).

    Of all combinations at once, for strengths: axial forces, what holds the member elastically and
    the clamping of holds that are near to one another are left out.

    Parameters
    ----------
    member : DesignMember
        Where no other sections are given one that `critical_load` takes.
    combinations : sequence of Combination, C of them
    breaks : array, mm
        Where loads begin, end or stand.
    moments : callable
        Places along the member, shape (X,), mm -> the moments there, shape (S or 1, C, X), N mm.
    steel : Elasticity
    sections : sequence of Section, optional
        S of them, each symmetric about its web: those that it may have in place of its own.

    Raises
    ------
    InputError
        If nothing keeps the member from moving laterally or twisting, or `critical_load` does not
        take it.
    """
    if not sections:
        _refuse(member)
    E, G = steel.E, steel.G
    held = _Held.of(member, _few(member), breaks, False, sections)
    if sections:
        every = [stiffnesses(one, E, G) for one in sections]
        stiff = Stiffnesses(
            *(np.array([getattr(one, f.name) for one in every]) for f in fields(Stiffnesses))
        )
    else:
        stiff = along(held.nodes, member.stretches, E, G)
    x = held.x
    M = moments(x.ravel())
    points, lines = held.high_loads(combinations)
    rows = [M, lines.reshape(*lines.shape[:2], -1), *(of[..., None] for _, of in points)]
    some, which, size = _shapes(rows)
    S, U = len(M), len(some)

    def of_shape(values: Array) -> Array:
        """Return loads of each shape, of a largest moment of one, (S * U, ...)."""
        values = np.broadcast_to(values, (S, *values.shape[1:]))[:, some]
        each = size[:, some].reshape(S, U, *(1,) * (values.ndim - 2))
        return np.asarray(values / each).reshape(S * U, *values.shape[2:])

    found = buckling(
        held.nodes,
        held.as_held(stiff),
        of_shape(M.reshape(*M.shape[:2], *x.shape)),
        np.zeros(x.shape),
        of_shape(lines),
        [(at, of_shape(of)) for at, of in points],
        held.holds,
        mode=False,
    )
    return np.asarray(found.factor.reshape(S, U)[:, which] / size)


def _few(member: DesignMember) -> int:
    """Return how many elements the factor needs."""
    spans = len(member.span_lengths("minor"))
    places = {x for flange in ("top", "bottom") for x in held_places(member, flange)}
    all_along = any(continuous_lengths(member, of) for of in ("top", "bottom", "twist"))
    return max((IN_HELD_SPAN if all_along else IN_SPAN) * spans, IN_GAP * (len(places) - 1))


def _shapes(rows: Sequence[Array]) -> tuple[Any, Any, Array]:
    """Return which combinations stand for all whose loads differ by a factor alone.

    Parameters
    ----------
    rows : sequence of array, shape (S or 1, C, n)
        The moments, and what else there is in proportion with them.

    Returns
    -------
    array, shape (U,)
        The combinations that stand for others.
    array, shape (C,)
        Which of them stands for each.
    array, shape (S, C)
        The largest moment of each, N mm; where nothing bends that of all.
    """
    M = rows[0]
    size = np.abs(M).max(axis=-1)
    most = float(size.max(initial=0.0)) or 1.0
    size = np.where(size > TRACE * most, size, most)  # what is left of loads that cancel is nothing
    scaled = []
    for values in rows:
        each = values / size[..., None]
        scaled.append(each / max(float(np.abs(each).max(initial=0.0)), 1e-300))
    every = np.concatenate([one.transpose(1, 0, 2).reshape(M.shape[1], -1) for one in scaled], 1)
    # To a hundred-millionth of the largest they are one: the rest is rounding, and so is -0.
    known: dict[bytes, int] = {}
    which = [known.setdefault(row.tobytes(), len(known)) for row in np.round(every, 8) + 0.0]
    some = [which.index(shape) for shape in range(len(known))]
    return np.array(some), np.array(which), size


def moment_shapes(
    factors: Array,
    moments: Array,
    parts: Sequence[Segment],
    stretches: Sequence[tuple[float, float, Section]],
    steel: Elasticity,
    sections: Sequence[Section] = (),
) -> Array:
    """Return the moment over the critical uniform one when the whole member buckles, (S, C, G).

    NaN where nothing bends a segment, where it cannot buckle, or has several sections.

    Parameters
    ----------
    factors : array, shape (S, C)
        From `critical_factors`.
    moments : array, shape (S or 1, C, G), N mm
        The largest that compress each segment's flange.
    parts : sequence of Segment, G of them
    stretches : sequence of (start, end, Section)
        The member's own sections.
    steel : Elasticity
    sections : sequence of Section, optional
        S of them, in place of its own.
    """
    uniform = np.full((max(len(sections), 1), 1, len(parts)), np.nan)
    for g, part in enumerate(parts):
        if part.unbraced <= 0:
            continue
        of = sections or {s for a, b, s in stretches if a < part.end and b > part.start}
        if sections or len(of) == 1:
            uniform[:, 0, g] = [
                uniform_critical_moment(s, part.unbraced, steel.E, steel.G, part.flange == "bottom")
                for s in of
            ]
    with np.errstate(invalid="ignore"):
        found = factors[..., None] * moments / uniform
    return np.where((moments > 0) & np.isfinite(found), found, np.nan)


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
    right: Array,
    M: Array,
    factor: float,
    stretches: Sequence[tuple[float, float, Section]],
    E: float,
    G: float,
    squeezed: bool,
) -> SegmentMoment:
    # The left side of its start is its neighbour's, and the right side of its end.
    first, last = segment.start + np.where(right, -1e-6, 1e-6), segment.end
    inside = (x >= first) & (x <= last + np.where(right, -1e-6, 1e-6))
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
    member: DesignMember, heights: dict[str, Array], braces: Sequence[Brace]
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


@dataclass(frozen=True)
class _Held:
    """A member as it is held laterally, divided into elements.

    Attributes
    ----------
    nodes : array, shape (J,), mm
    holds : sequence of Hold and AllAlong
    heights : dict of str to array, shape (S,)
        Of loads above the shear centre, mm.
    """

    member: DesignMember
    nodes: Array
    holds: Sequence[Hold | AllAlong]
    heights: dict[str, Array]

    @classmethod
    def of(
        cls,
        member: DesignMember,
        elements: int,
        breaks: Array,
        braces: bool = True,
        sections: Sequence[Section] = (),
    ) -> _Held:
        """Return a member with a node at each break; braces count by choice."""
        stretches = member.stretches
        # The loads of several sections in a row act at the height of the deepest.
        tall = sections or [max((s for _, _, s in stretches), key=lambda s: s.d)]
        each = [flange_heights(section) for section in tall]
        heights = {name: np.array([one[name] for one in each]) for name in each[0]}
        holds = _holds(member, heights, member.said.braces if braces else [])
        stops = [*breaks, *(h.at for h in holds if isinstance(h, Hold))]
        stops += [end for _, end, _ in stretches]
        stops += [x for h in holds if isinstance(h, AllAlong) for x in (h.start, h.end)]
        return cls(member, mesh(member.length, stops, elements), holds, heights)

    @property
    def x(self) -> Array:
        """Where moments and loads are wanted, (J - 1, 5), mm."""
        return gauss_places(self.nodes)

    def as_held(self, of: Stiffnesses) -> Stiffnesses:
        """Return stiffnesses without the clamping of holds that are near to one another.

        Two rigid holds a hand apart would keep a flange from turning in plan, by forces that no
        restraint is made for. What lies between them is taken as so much less stiff in bending and
        warping that it does no more for its neighbours the nearer they are, and in the end nothing.
        """
        points = [hold for hold in self.holds if isinstance(hold, Hold)]
        rigid = [h for h in points if h.u or (h.height is not None and not h.spring)]
        L = self.member.length
        stops = distinct(np.array([0.0, L, *(hold.at for hold in rigid)]))
        gaps = np.diff(stops)
        beside = np.concatenate([[0.0], gaps, [0.0]])
        ratio = gaps / (NEAR * np.maximum(beside[:-2], beside[2:]).clip(min=1e-9 * L))
        turning = [hold.at for hold in points if hold.turn]
        clamped = np.isin(stops[:-1], turning) | np.isin(stops[1:], turning)
        # As if it buckled at the load of a length that is not near.
        share = np.where(clamped, 1.0, np.minimum(ratio, 1.0) ** 2)
        if (share == 1.0).all():
            return of
        middle = 0.5 * (self.nodes[:-1] + self.nodes[1:])
        each = share[np.searchsorted(stops, middle) - 1]
        bends = {n: np.asarray(getattr(of, n), dtype=float) for n in ("EI", "ECw")}
        by_element = {n: v.reshape(v.shape[0] if v.ndim else 1, -1) for n, v in bends.items()}
        return replace(of, **{name: value * each for name, value in by_element.items()})

    def high_loads(
        self, combinations: Sequence[Combination]
    ) -> tuple[list[tuple[float, Array]], Array]:
        """Return point loads times heights, (S, C) each, and line loads so, (S, C, J - 1, 5)."""
        x, S = self.x, len(self.heights["top"])
        points: list[tuple[float, Array]] = []
        total = np.zeros((S, len(combinations), *x.shape))
        for load in self.member.said.loads:
            height = self.heights[load.on]
            if not height.any():
                continue
            for key, axis, one in applied(self.member, load):
                if axis != "major":
                    continue
                factor = np.outer(height, [key.factor(of) for of in combinations])
                if isinstance(one, PointLoad):
                    points.append((one.at, factor * one.P))
                elif isinstance(one, LineLoad):
                    slope = (one.w_end - one.w_start) / (one.end - one.start)
                    inside = (x > one.start) & (x < one.end)
                    w = np.where(inside, one.w_start + slope * (x - one.start), 0.0)
                    total += factor[..., None, None] * w
        return points, total
