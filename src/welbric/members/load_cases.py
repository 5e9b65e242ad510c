"""The load cases of a member: what acts in each, and what each one does."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Protocol

import numpy as np

from welbric.analysis.beam import BeamResult
from welbric.analysis.diagram import Array, Diagram, Flags
from welbric.analysis.member_loads import (
    AxialLineLoad,
    Curvature,
    LineLoad,
    Load,
    PointLoad,
    Push,
    Strain,
    Warming,
)
from welbric.inputs.actions import MemberLoad
from welbric.loads import combinations as loading
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.standards.case import Elasticity


@dataclass(frozen=True)
class CaseKey:
    """What is solved as one: a case, the reversible loads of it, those of one span.

    Attributes
    ----------
    case : str
        The symbol.
    reversible : bool
    span : int, optional
        Counted from 1, where live loads and snow are taken span by span.
    alternative : str
        Of loads of the case that never act together; empty of those that act with all of them.
    """

    case: str
    reversible: bool
    span: int | None = None
    alternative: str = ""

    def factor(self, combination: Combination) -> float:
        """Return the factor of these loads in a combination."""
        if self.alternative and combination.alternatives.get(self.case) != self.alternative:
            return 0.0
        factor = combination.factors.get(self.case, 0.0)
        where = combination.patterns.get(self.case)
        if where is not None and self.span is not None and self.span not in where.spans:
            factor *= where.elsewhere
        return -factor if self.reversible and self.case in combination.reversed else factor


@dataclass(frozen=True)
class Links:
    """Nodes along a member, and what a unit force at each of them does about each axis.

    Attributes
    ----------
    nodes : array, shape (J,), mm
    major, minor : BeamResult of J cases
    """

    nodes: Array
    major: BeamResult
    minor: BeamResult


@dataclass(frozen=True)
class Criticality:
    """How near C combinations are to where something buckles elastically.

    Attributes
    ----------
    exceeds : bool
        Whether any of them is beyond.
    find : callable
        Returns the loads over the critical ones, (C,); asked for once, and only where wanted.
    """

    exceeds: bool
    find: Callable[[], Array]

    @classmethod
    def of(cls, shares: Array) -> Criticality:
        """Return that of loads over the critical ones, (C,)."""
        return cls(bool(np.any(shares > 1)), lambda: shares)

    @cached_property
    def shares(self) -> Array:
        """The loads over the critical ones, shape (C,)."""
        return self.find()


@dataclass(frozen=True)
class CombinedResults:
    """What combinations do to a member.

    Attributes
    ----------
    major, minor : BeamResult
    axial, torsion : Diagram
    critical : Criticality, optional
        Of the second order.
    sway : array, shape (C,), optional
        The load over that at which the frame sways, its members straight; of the first order, and
        where effective lengths depend on it.
    unbowed : array of bool, shape (C,), optional
        Where members of the frame would have to bow from the start, and do not.
    turned : array, shape (C,), optional
        The largest angle that it turns by, radians: its line between nodes, or itself at these.
    turning : tuple of array, shape (C, n), optional
        Where its diagrams of bending, and the axial force, have extremes, mm, NaN for none; where
        they were found for many members at once.
    """

    major: BeamResult
    minor: BeamResult
    axial: Diagram
    torsion: Diagram
    critical: Criticality | None = None
    sway: Array | None = None
    unbowed: Flags | None = None
    turned: Array | None = None
    turning: tuple[Array, ...] | None = None


class FrameForces(Protocol):
    """A member's forces from the analysis of its frame, combination by combination."""

    def combined(self, combinations: Sequence[Combination]) -> CombinedResults:
        """Return them, to the order that the frame is analysed to."""

    def service(self, combinations: Sequence[Combination]) -> CombinedResults:
        """Return them under service combinations."""

    def has_bows(self, combinations: Sequence[Combination]) -> Sequence[bool]:
        """Return under which of them a member of the frame bows from the start."""

    @property
    def superposes(self) -> bool:
        """Whether load cases may be added."""


@dataclass(frozen=True)
class LoadCases:
    """The solved load cases of a member.

    Attributes
    ----------
    keys : list of CaseKey, L of them
    results : callable
        What each case does; asked for once, and of a member of a frame only where it is needed.
    links : Links, optional
        For bending of the second order.
    frame : FrameForces, optional
        Where the member is part of a frame.
    """

    keys: list[CaseKey]
    results: Callable[[], CombinedResults]
    links: Links | None = None
    frame: FrameForces | None = None

    @cached_property
    def _each(self) -> CombinedResults:
        return self.results()

    @property
    def major(self) -> BeamResult:
        """Bending about the major axis."""
        return self._each.major

    @property
    def minor(self) -> BeamResult:
        """Bending about the minor axis."""
        return self._each.minor

    @property
    def axial(self) -> Diagram:
        """Axial force, tension positive."""
        return self._each.axial

    @property
    def torsion(self) -> Diagram:
        """Moment about the member's axis."""
        return self._each.torsion

    def factors(self, combinations: Sequence[Combination]) -> Array:
        """Return the load factors, shape (C, L)."""
        rows = [[key.factor(c) for key in self.keys] for c in combinations]
        return np.array(rows).reshape(len(combinations), len(self.keys))

    def service_deflections(self, combinations: Sequence[Combination]) -> dict[str, Diagram]:
        """Return the deflections under service combinations, about each axis.

        Those of the cases are added, unless the member's frame has members that carry one way.
        """
        if self.frame is not None and not self.frame.superposes:
            found = self.frame.service(combinations)
            return {"major": found.major.deflection, "minor": found.minor.deflection}
        factors = self.factors(combinations)
        about = {"major": self.major.deflection, "minor": self.minor.deflection}
        return {axis: one.combine(factors) for axis, one in about.items()}

    @property
    def present(self) -> list[str]:
        """The symbols of the cases."""
        return list(dict.fromkeys(key.case for key in self.keys))

    @property
    def reversible(self) -> set[str]:
        """The symbols of those with reversible loads."""
        return {key.case for key in self.keys if key.reversible}

    @property
    def alone(self) -> list[Combination]:
        """Each case by itself, unfactored; with alternatives each of these."""
        return cases_alone(self.keys)

    @property
    def alternatives(self) -> dict[str, dict[str, bool]]:
        """By case: its alternatives, and whether any load is reversible that acts in each."""
        return alternatives_of(self.keys)


def cases_alone(keys: Sequence[CaseKey]) -> list[Combination]:
    """Return each case by itself, unfactored; with alternatives each of these."""
    plain = [
        Combination(f"{loading.name_of(case)} alone", {case: 1.0}, "unfactored")
        for case in dict.fromkeys(key.case for key in keys)
    ]
    return loading.with_alternatives(plain, alternatives_of(keys))


def alternatives_of(keys: Sequence[CaseKey]) -> dict[str, dict[str, bool]]:
    """Return by case its alternatives, and whether any load is reversible that acts in each."""
    found: dict[str, dict[str, bool]] = {}
    for key in keys:
        if key.alternative:
            found.setdefault(key.case, {}).setdefault(key.alternative, False)
    for key in keys:
        if key.reversible and key.case in found:
            for name in [key.alternative] if key.alternative else list(found[key.case]):
                found[key.case][name] = True
    return found


def applied(member: DesignMember, load: MemberLoad) -> Iterator[tuple[CaseKey, str, Load]]:
    """Yield the parts of a load with what each is solved with, and the axis it bends about."""
    far = 0.0 if member.held_lengthwise == [member.length] else member.length
    spans = member.span_lengths("major") if member.said.pattern else []
    before = _spans_before(member) if spans else 0
    whole = CaseKey(load.case, load.is_reversible, alternative=load.alternative)
    down = load.is_weight(member.slope)
    sense = 1.0
    if load.axis == "minor" and not down and member.said.frame is not None:
        sense = member.said.frame.minor_sense(member.said)
    parts: list[tuple[str, Load]] = []
    for said, part in load.expanded(member.length, far, member.slope):
        if isinstance(part, LineLoad | PointLoad):
            shares = member.said.weights if down else {said: sense}
            parts += [(axis, part.times(share)) for axis, share in shares.items()]
        else:
            parts.append((said, part))
    for axis, one in parts:
        if load.case in loading.PATTERNED and isinstance(one, LineLoad | AxialLineLoad | Push
                                                         | PointLoad):  # fmt: skip
            for span, part in span_by_span(one, spans):
                yield replace(whole, span=span and span + before), axis, part
        else:
            yield whole, axis, one


def imposed(load: Load, member: DesignMember, steel: Elasticity) -> list[Load]:
    """Return a change of temperature as the strains and curvatures of each length; others alone."""
    if not isinstance(load, Warming):
        return [load]
    found: list[Load] = []
    for start, end, section in member.stretches:
        a, b = max(start, load.start), min(end, load.end)
        if b > a:
            depth = section.I_x / section.Wel_top + section.I_x / section.Wel_bottom
            # A warmer top is the longer one: the member hogs.
            found.append(Curvature(a, b, -steel.expansion * load.difference / depth))
            found.append(Strain(a, b, steel.expansion * load.mean))
    return found


def pattern_spans(member: DesignMember) -> int:
    """Return how many spans live loads are taken by, one where they act on all at once.

    Of a frame the most that one of its rows of members has with such loads.
    """
    said = member.said
    if said.frame is None:
        return len(member.span_lengths("major")) if said.pattern else 1
    return max((whole for _, whole in said.frame.bays().values()), default=1)


def _spans_before(member: DesignMember) -> int:
    """Return how many spans stand before it in its row, where it is one of a frame."""
    frame = member.said.frame
    return 0 if frame is None else int(frame.bays().get(member.mark, (0, 0))[0])


def span_by_span(
    load: LineLoad | AxialLineLoad | PointLoad | Push, spans: Sequence[tuple[float, float]]
) -> list[tuple[int | None, Load]]:
    """Return a load as the parts of it on each span, with the span's number."""
    if not spans:
        return [(None, load)]
    if isinstance(load, PointLoad | Push):
        number = next((i for i, (_, end) in enumerate(spans, 1) if load.at <= end), len(spans))
        return [(number, load)]
    kind, first, last = (
        (LineLoad, load.w_start, load.w_end)
        if isinstance(load, LineLoad)
        else (AxialLineLoad, load.n_start, load.n_end)
    )
    parts: list[tuple[int | None, Load]] = []
    for number, (start, end) in enumerate(spans, 1):
        a, b = max(start, load.start), min(end, load.end)
        if b > a:
            slope = (last - first) / (load.end - load.start)
            values = (first + slope * (x - load.start) for x in (a, b))
            parts.append((number, kind(a, b, *values)))
    return parts
