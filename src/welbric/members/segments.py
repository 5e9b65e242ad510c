"""From restraints to segments: the lengths over which a flange can buckle laterally."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from itertools import pairwise
from types import MappingProxyType

from welbric.inputs.restraints import FlangeRestraint
from welbric.members.design_member import SAME_PLACE, DesignMember, once
from welbric.sections.table import Section


@dataclass(frozen=True)
class Segment:
    """A length between two points that hold a flange.

    Attributes
    ----------
    flange : str
        ``"top"``, ``"bottom"``, or ``"both"`` where the two are held alike.
    start, end : float
        Places along the member, mm.
    held_start, held_end : str
        What holds the flange there.
    continuous : bool
        Continuously restrained: no lateral-torsional buckling.
    free_tip : bool
        One end is a free end that nothing holds.
    """

    flange: str
    start: float
    end: float
    held_start: str
    held_end: str
    continuous: bool = False
    free_tip: bool = False

    @property
    def unbraced(self) -> float:
        """Unbraced length, mm; zero where continuously restrained."""
        return 0.0 if self.continuous else self.end - self.start


@once
def held_places(member: DesignMember, flange: str) -> Mapping[float, str]:
    """Return the places where a flange is held laterally, in order, and what holds it there.

    A support holds both flanges, and so does a member of its frame that meets it and runs across
    it; a spring or a free end neither. What keeps the member from twisting holds both.
    """
    L = member.length
    places: dict[float, str] = {}
    meeting = member.said.held_by_members("minor")
    for support in member.supports_about("minor"):
        if support.held or support.clamped:
            places[support.at] = "member" if support.at in meeting else "support"
    lateral = getattr(member.said.restraint, flange)
    named = _named_places(member, lateral, "restraint")
    for x, why in named + _named_places(member, member.said.restraint.twist, "twist held"):
        x = min(max(x, 0.0), L)
        if all(abs(x - known) > SAME_PLACE * L for known in places):
            places[x] = why
    return MappingProxyType(dict(sorted(places.items())))


def by_length(
    member: DesignMember, hold: FlangeRestraint | None
) -> list[tuple[float, float, FlangeRestraint]]:
    """Return the start, the end and the restraint of each length: of the member, or its spans."""
    if hold is None:
        return []
    if hold.kind != "by_span":
        return [(0.0, member.length, hold)]
    spans = member.span_lengths("minor")
    return [(a, b, one) for (a, b), one in zip(spans, hold.by_span, strict=True)]


@once
def continuous_lengths(member: DesignMember, flange: str) -> tuple[tuple[float, float], ...]:
    """Return the lengths that a flange, or ``"twist"``, is held on without a gap, mm."""
    hold = getattr(member.said.restraint, flange)
    return tuple((a, b) for a, b, one in by_length(member, hold) if one.kind == "continuous")


def _named_places(
    member: DesignMember, hold: FlangeRestraint | None, why: str
) -> list[tuple[float, str]]:
    """Return the places a restraint names, and what it is."""
    found: list[tuple[float, str]] = []
    slack = SAME_PLACE * member.length
    for start, end, one in by_length(member, hold):
        if one.kind == "every" and one.every:
            count = int((end - start) / one.every + SAME_PLACE)
            found += [(start + i * one.every, why) for i in range(1, count + 1)]
        elif one.kind == "at":
            found += [(start + x, why) for x in one.at]
        elif one.kind == "loads":
            points = [load for load in member.said.loads if load.point and load.axis == "major"]
            places = [x for load in points for x in load.at or []]
            found += [(x, "load") for x in places if start - slack <= x <= end + slack]
        elif one.kind == "continuous" and hold is not one:
            found += [(start, "continuous"), (end, "continuous")]
    return found


@once
def twist_places(member: DesignMember) -> tuple[float, ...]:
    """Return the places between supports that cannot twist, mm."""
    return tuple(sorted({x for x, _ in _named_places(member, member.said.restraint.twist, "")}))


def segments(member: DesignMember) -> list[Segment]:
    """Return the segments of both flanges, from start to end."""
    top, bottom = _segments_of(member, "top"), _segments_of(member, "bottom")
    alike = [(s.start, s.end, s.continuous) for s in top] == [
        (s.start, s.end, s.continuous) for s in bottom
    ]
    if alike and all(has_like_flanges(section) for section in member.sections):
        return [replace(segment, flange="both") for segment in top]
    return [*top, *bottom]


@once
def towards_free_ends(member: DesignMember) -> tuple[tuple[float, float], ...]:
    """Return the last place that holds both flanges laterally, and the free end beyond it.

    What holds one flange between them, or keeps the member from twisting there, does not end a
    segment: the free end moves about it, and the member buckles nearly as if it were not there.
    """
    slack = SAME_PLACE * member.length
    top, bottom = held_places(member, "top"), held_places(member, "bottom")
    both = []
    for x, why in top.items():
        here = {of for y, of in bottom.items() if abs(x - y) <= slack}
        if here and {why, *here} != {"twist held"}:
            both.append(x)
    if not both:
        return ()
    ends = [(both[0], 0.0), (both[-1], member.length)]
    return tuple((held, free) for held, free in ends if abs(free - held) > slack)


@once
def twisting_lengths(member: DesignMember) -> tuple[tuple[float, float], ...]:
    """Return the start and the end of each length that is free to twist, from start to end, mm.

    What holds a member against twisting are its supports about the minor axis, places that are said
    to hold it so, and those at which both flanges are held laterally.
    """
    slack = SAME_PLACE * member.length
    stops = {x for span in member.span_lengths("minor") for x in span}
    top, bottom = held_places(member, "top"), held_places(member, "bottom")
    stops |= {x for x in top if any(abs(x - y) <= slack for y in bottom)}
    for held, free in towards_free_ends(member):  # beyond the last hold nothing else counts
        low, high = sorted((held, free))
        stops = {x for x in stops if not low < x < high}
    held_on = list(continuous_lengths(member, "twist"))
    on_top, on_bottom = (continuous_lengths(member, flange) for flange in ("top", "bottom"))
    held_on += [(max(a, c), min(b, d)) for a, b in on_top for c, d in on_bottom]
    stops |= {x for a, b in held_on if b > a for x in (a, b)}
    lengths = pairwise(sorted(stops))
    return tuple((a, b) for a, b in lengths if not any(c <= a and b <= d for c, d in held_on))


@once
def counting_places(member: DesignMember, flange: str) -> Mapping[float, str]:
    """Return the places of `held_places` that end a segment of the flange."""
    places = dict(held_places(member, flange))
    for held, free in towards_free_ends(member):
        low, high = sorted((held, free))
        places = {x: why for x, why in places.items() if not low <= x <= high or x == held}
    return MappingProxyType(places)


def has_like_flanges(section: Section) -> bool:
    """Whether it does not matter to a section which of its flanges is compressed."""
    fibres = abs(section.Wel_top - section.Wel_bottom) <= 1e-9 * section.Wel_top
    return fibres and abs(section.shear_y - section.y) <= 1e-9 * section.surface


@once
def _segments_of(member: DesignMember, flange: str) -> tuple[Segment, ...]:
    L = member.length
    whole = [length for of in (flange, "twist") for length in continuous_lengths(member, of)]
    places = counting_places(member, flange)
    stops = sorted({0.0, L, *places, *(x for length in whole for x in length)})
    found: list[Segment] = []
    for start, end in pairwise(stops):
        if any(a <= start and end <= b for a, b in whole):
            if found and found[-1].continuous:
                start = found.pop().start
            held = ("continuous", "continuous")
            found.append(Segment(flange, start, end, *held, continuous=True))
            continue
        held = (places.get(start, "free end"), places.get(end, "free end"))
        found.append(Segment(flange, start, end, *held, free_tip="free end" in held))
    return tuple(found)
