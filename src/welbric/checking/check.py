"""Member + actions + standard -> the check table."""

from __future__ import annotations

import functools
import math
from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import numpy as np

from welbric.checking.bearing import bearing_rows
from welbric.checking.cases import member_case, panels_of
from welbric.checking.coverage import uncovered_rows
from welbric.checking.deflections import deflection_rows
from welbric.checking.remarks import notes, warnings
from welbric.checking.results import MemberResult, Row, SegmentRow, Stretch, outside_row
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import OUTSIDE, badness, deciding, status_of
from welbric.effects.forces import (
    LoadCases,
    MemberForces,
    given_forces,
    load_cases,
    member_forces,
    pattern_spans,
    segment_demand,
    strength_combinations,
)
from welbric.errors import InputError, did_you_mean
from welbric.inputs.actions import Storey
from welbric.inputs.job import Job
from welbric.members.design_member import DesignMember
from welbric.members.resolve import resolve, resolve_all
from welbric.members.segments import Segment, segments
from welbric.sections.table import Section
from welbric.standards import standard
from welbric.standards.case import SEVERAL, Check, MemberCase
from welbric.standards.standard import Standard

if TYPE_CHECKING:
    from welbric.effects.critical_load import CriticalLoad


def check(job: Job) -> CheckTable:
    """Check every member of a job to its standard.

    Parameters
    ----------
    job : Job

    Returns
    -------
    CheckTable

    Raises
    ------
    InputError
        If a member cannot be analysed.
    """
    return CheckTable(job, [check_member(job, member) for member in resolve_all(job)])


def check_one(job: Job, mark: str) -> CheckTable:
    """Check one member of a job; the other members are not computed."""
    return CheckTable(job, [check_member(job, resolve(job.member(mark)))])


def check_member(job: Job, member: DesignMember, cases: LoadCases | None = None) -> MemberResult:
    """Check one member of a job; ``cases`` are its solved load cases, where they are known."""
    code = standard(job.standard)
    parts = segments(member)
    if cases is None and not member.said.forces:
        cases = load_cases(member, code.elasticity)
    if cases is None:
        forces = given_forces_of(job, member, parts)
    else:
        combined = strength_combinations(job, cases, pattern_spans(member))
        forces = member_forces(cases, combined, parts, code.second_order.load_level(job.design))
    if not forces.combinations:
        case = member_case(job, member, parts, None, forces)
        return MemberResult(member, [], ["nothing acts on it"], parts, cases, forces, case)
    checked = [_stretch(job, member, section, parts, forces) for section in member.sections]
    case = next((s.case for s, _ in checked if s.section == member.section), checked[0][0].case)
    rows: list[Row] = []
    for stretch, places in checked:
        if stretch.case.shape in code.shapes:
            found = strength_rows(code, stretch, forces, places)
        else:
            reason = f"the strength of a {stretch.case.shape} is not covered"
            found = [outside_row("strength", job.standard, reason)]
        rows = _worse_of(rows, found)
    rows += uncovered_rows(job, member, rows, [stretch for stretch, _ in checked], cases, forces)
    webs, stiffeners = bearing_rows(job, member, cases, forces, parts)
    rows += webs
    rows += deflection_rows(job, member, cases, code)
    warned = warnings(job, member, parts, case, code, forces)
    warned += stiffeners
    said = notes(job, member, parts, case) + warned
    stretches = [stretch for stretch, _ in checked]
    return MemberResult(member, rows, said, parts, cases, forces, case, warned, stretches)


def _stretch(
    job: Job, member: DesignMember, section: Section, parts: list[Segment], forces: MemberForces
) -> tuple[Stretch, dict[str, Any]]:
    """Return the lengths that have a section, and where each largest effect in them is.

    A segment that the section is in counts whole, with its largest moment.
    """
    lengths = [(a, b) for a, b, one in member.stretches if one == section]
    own = [p for p in parts if any(a < p.end and b > p.start for a, b in lengths)]
    panels = panels_of(member)
    end_panels = panels.end_panels if panels and panels.ends_differ else 0.0
    found = segment_demand(forces, own, end_panels)
    demand = found.demand
    if member.has_several_spans:
        # The member's end moments say nothing of its inner spans: uniform moment is the safe side.
        demand = replace(demand, end_ratio_major=-1.0, end_ratio_minor=-1.0)
    case = member_case(job, member.as_if_all(section), own, demand, forces)
    return Stretch(section, case, own, bool(member.said.pieces)), found.places


def _worse_of(rows: list[Row], more: list[Row]) -> list[Row]:
    """Return rows by name, each the worse one where there are two."""
    found = {row.name: row for row in rows}
    for row in more:
        if row.name not in found or badness(row) > badness(found[row.name]):
            found[row.name] = row
    return list(found.values())


def strength_rows(
    code: Standard, stretch: Stretch, forces: MemberForces, places: dict[str, Any]
) -> list[Row]:
    """Return each of the standard's checks at its worst combination and segment."""
    checks = code.checks(stretch.case.shape)
    with np.errstate(all="ignore"):
        found = [
            (fn, worst(fn(stretch.case), forces, stretch.segments, places))
            for fn in checks.values()
        ]
    rows = []
    for fn, row in found:
        if row is None:
            continue
        clause = row.clause
        if SEVERAL in clause:  # over the segments; the governing one goes by one of them
            with np.errstate(all="ignore"):
                clause = _again(fn, stretch, row.at).clause
        again = functools.partial(_again, fn, stretch, row.at)
        rows.append(replace(row, stretch=stretch, clause=clause, again=again))
    return rows


def _again(fn: Callable[[MemberCase], Check], stretch: Stretch, at: tuple[int, int]) -> Check:
    """Run a check on the single numbers of one combination and segment."""
    return fn(stretch.case.at(stretch.section, *at))


def worst(
    found: Check, forces: MemberForces, parts: list[Segment], places: dict[str, Any]
) -> Row | None:
    """Return a check at its worst combination and segment; None where nothing acts."""
    shape = (len(forces.combinations), len(parts))
    U = np.broadcast_to(np.asarray(found.utilisation, dtype=float), (1, *shape))[0]
    U = np.where(U < 0, np.nan, U)  # a strength below zero verifies nothing
    if not np.any(np.nan_to_num(U, nan=1.0) > 0):
        return None
    c, g = np.unravel_index(deciding(U), shape)
    value = float(U[c, g])

    def pick(array: Any) -> float | None:
        return None if array is None else float(np.broadcast_to(array, (1, *shape))[0, c, g])

    return Row(
        name=found.name,
        clause=found.clause,
        utilisation=value,
        status=status_of(value),
        demand=pick(found.demand),
        capacity=pick(found.capacity),
        kind=found.kind,
        combination=forces.combinations[c].name,
        place=float(places[found.effect][c, g]),
        segment=parts[g],
        reason=(found.reason or "the calculation gave no number") if math.isnan(value) else "",
        at=(int(c), int(g)),
    )


def given_forces_of(job: Job, member: DesignMember, parts: list[Segment]) -> MemberForces:
    """Return the forces of a member that were combined elsewhere, with their second order."""
    code = standard(job.standard)
    return given_forces(member, parts, functools.partial(_sway_multiplier, code, job.method))


def _sway_multiplier(code: Standard, method: str, storey: Storey) -> float:
    return float(
        code.second_order.storey_multiplier(
            method, storey.load, storey.shear, storey.drift, storey.height,
            storey.load * storey.in_moment_frames,
        )
    )  # fmt: skip


# Segments


def segment_rows(
    job: Job, member: DesignMember, result: MemberResult | None = None
) -> list[SegmentRow]:
    """Return the segments for lateral-torsional buckling, each at its worst combination.

    ``result`` is the member's, where it is known already.
    """
    code = standard(job.standard)
    result = result or check_member(job, member)
    names = [c.name for c in result.forces.combinations]
    worst_of: dict[Segment, SegmentRow] = {}
    for stretch in result.stretches:
        case = stretch.case
        if case.demand is None or case.shape not in code.shapes:
            continue
        shape = (len(names), len(stretch.segments))
        with np.errstate(all="ignore"):
            known_checks = code.checks(case.shape)
            if code.lateral_buckling not in known_checks:
                continue
            found = known_checks[code.lateral_buckling](case)
            U = np.broadcast_to(np.asarray(found.utilisation, dtype=float), (1, *shape))[0]
            for g, segment in enumerate(stretch.segments):
                c = deciding(U[:, g])
                one = case.at(stretch.section, c, g)
                M = float(one.demand.M_major)
                shape_factor = float(code.moment_shape_factor(one)) if M > 0 else math.nan
                value = float(U[c, g])
                name = names[c] if M > 0 else ""
                row = SegmentRow(segment, name, M, shape_factor, value, status_of(value))
                known = worst_of.get(segment)
                if known is None or badness(row) > badness(known):
                    worst_of[segment] = row
    nothing = ("", math.nan, math.nan, math.nan, OUTSIDE)
    rows = [worst_of.get(segment) or SegmentRow(segment, *nothing) for segment in result.segments]
    return rows


def lateral_buckling(job: Job, mark: str, combination: str | None = None) -> CriticalLoad:
    """Return when a member buckles laterally as a whole, elastically, by eigenvalue.

    Parameters
    ----------
    job : Job
    mark : str
    combination : str, optional
        Its name; by default the one that governs lateral-torsional buckling, or bends it most.

    Raises
    ------
    InputError
        If there is no such member or combination, nothing bends the member, or the solution does
        not cover it.
    """
    from welbric.effects.critical_load import critical_load

    code = standard(job.standard)
    member = resolve(job.member(mark))
    result = check_member(job, member)
    known = {c.name: c for c in result.forces.combinations}
    if combination is None:
        row = next((r for r in result.rows if r.name == code.lateral_buckling), None)
        if not known:
            raise InputError(f"{member.mark}: nothing acts on it")
        largest = int(np.argmax(np.abs(result.forces.M_major).max(axis=1)))
        combination = row.combination if row else list(known)[largest]
    if combination not in known:
        hint = did_you_mean(combination, known) or f"; it has {', '.join(list(known)[:8])}"
        raise InputError(f"{member.mark}: no combination {combination!r}{hint}")
    return critical_load(member, known[combination], code.elasticity)
