"""A member that stands: what its description says, resolved once, and how it is held."""

from __future__ import annotations

import functools
import itertools
import math
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, ParamSpec, TypeVar

from welbric.analysis import beam
from welbric.analysis.member_loads import AxialLineLoad, LineLoad, Load
from welbric.inputs.member import Member
from welbric.inputs.usual_steel import usual_steel
from welbric.sections.table import Section
from welbric.steels import Band, Steel

GRAVITY = 9.80665  # N per kg, standard gravity
SAME_PLACE = 1e-6  # of the member's length

P = ParamSpec("P")
R = TypeVar("R")


def once(fn: Callable[P, R]) -> Callable[P, R]:
    """Keep with a member what a function finds of how it is held, by the further arguments."""

    @functools.wraps(fn)
    def kept(*args: P.args, **kwargs: P.kwargs) -> R:
        member: Any = args[0]
        key: Any = (fn, args[1:])
        if kwargs:
            key += (tuple(sorted(kwargs.items())),)
        try:
            found: R = member.known[key]
        except KeyError:
            found = member.known[key] = fn(*args, **kwargs)
        return found

    return kept


@dataclass(frozen=True, eq=False)
class DesignMember:
    """A member that stands.

    Attributes
    ----------
    said : Member
        Its description: physical facts that need no resolving are read there.
    length : float, mm
    slope : float
        Above the horizontal, from start to end, radians.
    stretches : tuple of (start, end, Section)
        The lengths with one section, from start to end, mm.
    known : dict
        What has been found of how it is held. It does not depend on the sections, so that the
        same member with another section shares it.
    """

    said: Member
    length: float
    slope: float
    stretches: tuple[tuple[float, float, Section], ...]
    known: dict[Any, Any] = field(default_factory=dict, repr=False)

    @property
    def mark(self) -> str:
        """Its mark."""
        return self.said.mark

    @property
    def section(self) -> Section:
        """Its section, where no piece says otherwise."""
        return self.said.section

    @property
    def is_cold_formed(self) -> bool:
        """Whether a hollow section is cold-formed: so says its name, or else its steel.

        Where neither says that it is finished hot it is, on the safe side.
        """
        named = self.section.name if "EN1" in self.section.name else str(self.steel)
        return "10210" not in named

    @functools.cached_property
    def sections(self) -> tuple[Section, ...]:
        """Its different sections, from start to end."""
        return tuple(dict.fromkeys(section for _, _, section in self.stretches))

    @property
    def section_names(self) -> str:
        """The names of its sections, from start to end."""
        return " / ".join(dict.fromkeys(section.shown for section in self.sections))

    def as_if_all(self, section: Section) -> DesignMember:
        """Return the member with one section all along."""
        if self.stretches == ((0.0, self.length, section),) and section == self.section:
            return self
        said = self.said.model_copy(update={"section": section, "pieces": []})
        whole = ((0.0, self.length, section),)
        return DesignMember(said, self.length, self.slope, whole, self.known)

    # How it is held

    @once
    def ends_about(self, axis: str) -> tuple[str, str]:
        """Return the end conditions for bending about an axis."""
        return self.said.ends_about(axis)

    @once
    def supports_about(self, axis: str) -> tuple[beam.Support, ...]:
        """Return what holds the member against bending about an axis, from start to end."""
        found = {s.at: s for s in beam.end_supports(self.length, *self.ends_about(axis))}
        for place in self.said.inner_supports(axis):
            found[place] = beam.Support(place)
        for own in self.said.supports:
            if own.axis in (axis, "both"):
                near = [at for at in found if abs(at - own.at) <= SAME_PLACE * self.length]
                at = near[0] if near else own.at
                held = own.hold != "none"
                springs = (own.spring or 0.0, own.rotation_spring or 0.0)
                found[at] = beam.Support(at, held, own.hold == "fixed", *springs)
        return tuple(found[at] for at in sorted(found))

    @once
    def span_lengths(self, axis: str) -> tuple[tuple[float, float], ...]:
        """Return the start and the end of each span between supports, and of free ends, mm."""
        held = [s.at for s in self.supports_about(axis) if s.held]
        stops = sorted({0.0, self.length, *held})
        return tuple(itertools.pairwise(stops))

    def longest_span(self, axis: str) -> float:
        """Return the length of the longest of those, mm."""
        return max(end - start for start, end in self.span_lengths(axis))

    @property
    def has_springs(self) -> bool:
        """Whether a spring holds it somewhere."""
        return any(s.spring or s.rotation_spring for s in self.said.supports)

    def buckles_as_a_whole(self, axis: str) -> bool:
        """Whether an overhang or a hinge takes a member's buckling out of the textbook."""
        overhang = "free" in self.ends_about(axis) and len(self.span_lengths(axis)) > 1
        return overhang or bool(self.said.hinges)

    @property
    def held_lengthwise(self) -> list[float]:
        """The ends that hold the member along its axis: the start, unless that is free, or both."""
        if self.said.lengthwise == "both ends held":
            return [0.0, self.length]
        return [self.length if self.ends_about("major")[0] == "free" else 0.0]

    @property
    def panel_ends(self) -> list[float]:
        """The places between the panels of a stiffened web next to the ends and the others, mm."""
        given = self.said.stiffeners
        if given is None:
            return []
        end = given.end_panels or given.spacing
        return [end, self.length - end]

    # What it is made of

    @functools.cached_property
    def steel(self) -> Steel:
        """Its steel: as given, or what is usual for its section."""
        return self.said.steel or usual_steel(self.section)

    @functools.cached_property
    def strengths(self) -> Band:
        """The strengths of the steel for the thickest part of the section."""
        return self.steel.strengths(self.section.thickest, self.section.shape)

    @functools.cached_property
    def web_strengths(self) -> Band | None:
        """Those of the web by its own thickness, or None where the shape has no web."""
        web = self.section.properties.get("tw")
        if web is None:
            return None
        return (self.said.web_steel or self.steel).strengths(web, self.section.shape)

    @property
    def own_weight(self) -> float:
        """Weight per length, N/mm; the mean where sections differ."""
        whole = sum((end - start) * s.mass for start, end, s in self.stretches)
        return whole / self.length * GRAVITY

    def self_weight_loads(self) -> list[tuple[str, Load]]:
        """Return the member's own weight as (axis, load)."""
        shares = self.said.weights.items()
        across, along = math.cos(self.slope), math.sin(self.slope)
        loads: list[tuple[str, Load]] = []
        for start, end, section in self.stretches:
            w = section.mass * GRAVITY
            if abs(across) > 1e-9:
                whole = LineLoad(start, end, w * across, w * across)
                loads += [(axis, whole.times(share)) for axis, share in shares]
            if abs(along) > 1e-9:
                loads.append(("major", AxialLineLoad(start, end, -along * w, -along * w)))
        return loads


def stretches_of(said: Member) -> tuple[tuple[float, float, Section], ...]:
    """Return the start, the end and the section of each length, from start to end."""
    found: list[tuple[float, float, Section]] = []
    at = 0.0
    for piece in sorted(said.pieces, key=lambda piece: piece.start):
        if piece.start > at:
            found.append((at, piece.start, said.section))
        found.append((piece.start, piece.end, piece.section))
        at = piece.end
    if at < said.length:
        found.append((at, said.length, said.section))
    return tuple(found)
