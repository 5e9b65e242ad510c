"""The load cases of members, solved, and the combinations of them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from welbric.analysis import beam
from welbric.analysis.beam import BeamResult, Line
from welbric.analysis.diagram import (
    Array,
    distinct,
)
from welbric.analysis.member_loads import (
    Curvature,
    LineLoad,
    Load,
    MomentLoad,
    Movement,
    PointLoad,
    axial,
    breaks_of,
    twisting,
)
from welbric.analysis.second_order import link_nodes
from welbric.errors import InputError, did_you_mean
from welbric.inputs.job import Job
from welbric.loads import combinations as loading
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import (
    CaseKey,
    CombinedResults,
    Links,
    LoadCases,
    applied,
    imposed,
    pattern_spans,
)
from welbric.members.segments import twist_places
from welbric.standards.case import Elasticity

AT_ONCE = 500  # beams solved in one go: bounds the memory
BENDING = (LineLoad, PointLoad, MomentLoad, Curvature, Movement)


def load_cases(member: DesignMember, steel: Elasticity) -> LoadCases:
    """Solve every load case of a member; its own weight is in the dead case.

    Parameters
    ----------
    member : DesignMember
    steel : Elasticity
    """
    return load_cases_of([(member, steel)])[0]


def load_cases_of(members: Sequence[tuple[DesignMember, Elasticity]]) -> list[LoadCases]:
    """Solve every load case of many members, all beams at once; those of frames with the frame."""
    framed = [member.said.frame is not None for member, _ in members]
    if any(framed):
        from welbric.frames.solve import solution

        alone = iter(
            load_cases_of([one for one, of in zip(members, framed, strict=True) if not of])
        )
        return [
            solution(member.said.frame).cases_of(member) if of else next(alone)
            for (member, _), of in zip(members, framed, strict=True)
        ]
    loaded = [_Loaded.of(member, steel) for member, steel in members]
    lines = [line for one in loaded for line in one.lines.values()]
    found: list[BeamResult] = []
    for start in range(0, len(lines), AT_ONCE):
        found += beam.bend_all(lines[start : start + AT_ONCE])
    results = iter(found)
    return [one.solved({axis: next(results) for axis in one.lines}) for one in loaded]


@dataclass(frozen=True)
class _Loaded:
    """A member with its load cases, before they are solved.

    Attributes
    ----------
    cases : dict of CaseKey to list of (axis, load)
    nodes : array
        Where bending of the second order is linked.
    lines : dict of str to Line
        By axis; none about one that nothing bends.
    """

    member: DesignMember
    steel: Elasticity
    cases: dict[CaseKey, list[tuple[str, Load]]]
    breaks: Array
    nodes: Array
    lines: dict[str, Line]

    @classmethod
    def of(cls, member: DesignMember, steel: Elasticity) -> _Loaded:
        """Return what is to be solved."""
        by_case: dict[CaseKey, list[tuple[str, Load]]] = {}
        if member.said.self_weight:
            by_case[CaseKey("D", False)] = member.self_weight_loads()
        for load in member.said.loads:
            for key, axis, part in applied(member, load):
                by_case.setdefault(key, []).extend((axis, p) for p in imposed(part, member, steel))
        supports = {axis: member.supports_about(axis) for axis in ("major", "minor")}
        hinges = member.said.hinges
        places = [s.at for found in supports.values() for s in found] + hinges
        nodes = np.zeros(0)
        if member.said.second_order == "analysed":
            spans = {*member.span_lengths("major"), *member.span_lengths("minor")}
            nodes = distinct(link_nodes(sorted(spans)))
        more = [*places, *(end for _, end, _ in member.stretches), *nodes, *member.panel_ends]
        cases = [[load for _, load in loads] for loads in by_case.values()]
        breaks = breaks_of(member.length, cases, more)
        units: list[list[Load]] = [[PointLoad(float(x), 1.0)] for x in nodes]
        lines = {}
        for axis in ("major", "minor"):
            about = [[load for ax, load in loads if ax == axis] for loads in by_case.values()]
            if units or any(isinstance(load, BENDING) for loads in about for load in loads):
                EI = steel.E * _of_each(member, breaks, f"I_{axis}")
                lines[axis] = Line(breaks, about + units, supports[axis], EI, hinges)
        return cls(member, steel, by_case, breaks, nodes, lines)

    def solved(self, bent: dict[str, BeamResult]) -> LoadCases:
        """Return the cases, with the results of the lines by axis."""
        member, breaks, keys = self.member, self.breaks, list(self.cases)
        for axis in ("major", "minor"):
            if axis not in bent:
                bent[axis] = beam.unbent(breaks, len(keys), member.supports_about(axis))
        own, unit = slice(0, len(keys)), slice(len(keys), None)
        links = None
        if member.said.second_order == "analysed":
            links = Links(self.nodes, bent["major"].taken(unit), bent["minor"].taken(unit))
        cases = [[load for _, load in loads] for loads in self.cases.values()]
        flexible = 1.0 / (self.steel.E * _of_each(member, breaks, "A"))
        along = axial(breaks, cases, member.held_lengthwise, flexible)
        soft = 1.0 / (self.steel.G * _of_each(member, breaks, "J"))
        turned = twisting(breaks, cases, untwisted(member), soft)
        each = CombinedResults(bent["major"].taken(own), bent["minor"].taken(own), along, turned)
        return LoadCases(keys, lambda: each, links)


def _of_each(member: DesignMember, breaks: Array, name: str) -> Array:
    """Return a property of the section in each interval between breaks."""
    middle = 0.5 * (breaks[:-1] + breaks[1:])
    which = np.searchsorted([end for _, end, _ in member.stretches], middle)
    return np.array([getattr(section, name) for _, _, section in member.stretches])[which]


def untwisted(member: DesignMember) -> list[float]:
    """Return the places that hold a member against twisting: its supports, and as it says."""
    held = [s.at for s in member.supports_about("minor") if s.held or s.clamped]
    return sorted({*held, *twist_places(member)})


def strength_combinations(job: Job, member: DesignMember, cases: LoadCases) -> list[Combination]:
    """Return the strength combinations of the cases present, and the designer's own.

    With more than one span, live loads act on patterns of spans too.
    """
    method, frame = job.method_of(member.said), member.said.frame
    if frame is None or frame.job is not job:
        return _strength_combinations(job, member, cases, method)
    # All members of a frame have the same ones.
    known: dict[str, list[Combination]] = frame.known.setdefault("combinations", {})
    if method not in known:
        known[method] = _strength_combinations(job, member, cases, method)
    return list(known[method])


def _strength_combinations(
    job: Job, member: DesignMember, cases: LoadCases, method: str
) -> list[Combination]:
    reversible, spans = cases.reversible, pattern_spans(member)
    found = job.loading.strength(method, cases.present, reversible)
    for text in job.combinations:
        own = loading.parse_recipe(text)
        for turned in loading.senses(reversible & set(own.factors)):
            words = " and ".join(sorted(turned))
            name = f"{own.name}, {words} reversed" if turned else own.name
            found.append(replace(own, name=name, reversed=turned))
    found = loading.with_alternatives(found, cases.alternatives)
    if cases.frame is not None and job.frame.imperfections:
        found = [one for combination in found for one in _leaning(member, combination)]
        found += [
            replace(one, name=f"{one.name}, bows reversed", bows=-1.0)
            for one, bows in zip(found, cases.frame.has_bows(found), strict=True) if bows
        ]  # fmt: skip
    return job.loading.with_patterns(found, spans) if spans > 1 else found


def service_combinations(job: Job, cases: LoadCases, kind: str) -> list[Combination]:
    """Return the service combinations of a kind of the cases present."""
    found = job.loading.service(kind, cases.present, cases.reversible)
    return loading.with_alternatives(found, cases.alternatives)


def _leaning(member: DesignMember, combination: Combination) -> Iterator[Combination]:
    """Yield a combination of a frame for each way it may be out of plumb.

    Where something pushes it sideways it leans that way.
    """
    if {"W", "E"} & set(combination.factors):
        yield combination
        return
    ways = ("x",) if member.said.frame.is_plane else ("x", "y")
    for way in ways:
        for sense, sign in ((1.0, "+"), (-1.0, "−")):
            name = f"{combination.name}, leaning {sign}{way}"
            yield replace(combination, name=name, leaning=(way, sense))


def one_combination(
    member: DesignMember,
    cases: LoadCases | None,
    combinations: Sequence[Combination],
    name: str,
) -> Combination:
    """Return a combination by its name, or a load case alone, unfactored, as one.

    Raises
    ------
    InputError
        If the member has neither.
    """
    folded = name.casefold()
    for one in combinations:
        if one.name.casefold() == folded:
            return one
    alone = cases.alone if cases is not None else []
    for one in alone:
        (symbol,) = one.factors
        chosen = [f", {which}" for which in one.alternatives.values()]
        words = (symbol, loading.name_of(symbol))
        if folded in {"".join([word, *chosen]).casefold() for word in words}:
            return one
    singles = [one.name.replace(" alone", "", 1) for one in alone]
    known = [*(one.name for one in combinations), *singles]
    hint = did_you_mean(name, known) or f"; it has {', '.join(known[:8])}"
    raise InputError(f"{member.mark}: no combination and no load case {name!r}{hint}")
