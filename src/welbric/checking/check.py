"""Member + actions + standard -> the check table."""

from __future__ import annotations

import functools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from welbric.checking.bearing import bearing_rows
from welbric.checking.cases import member_case
from welbric.checking.coverage import uncovered_rows
from welbric.checking.deflections import deflection_rows, service_combinations
from welbric.checking.overrides import overrides, remarkable
from welbric.checking.remarks import notes, warnings
from welbric.checking.results import MemberResult, Row, SegmentRow, Stretch
from welbric.checking.strengths import strength_rows
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import OUTSIDE, badness, deciding, status_of
from welbric.effects.forces import (
    Loaded,
    MemberForces,
    compressing_moments,
    given_forces,
    member_forces,
    member_forces_of,
)
from welbric.effects.load_cases import (
    load_cases,
    load_cases_of,
    one_combination,
    strength_combinations,
)
from welbric.errors import InputError, did_you_mean
from welbric.inputs.actions import Storey
from welbric.inputs.job import Job
from welbric.inputs.lasting import lasting
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases
from welbric.members.resolve import resolve, resolve_all
from welbric.members.segments import Segment, segments
from welbric.sections.table import Section
from welbric.standards.case import MemberCase
from welbric.standards.standard import Standard
from welbric.standards.together import stacked

if TYPE_CHECKING:
    from welbric.effects.critical_load import CriticalLoad


def check(job: Job, under: str | None = None) -> CheckTable:
    """Check every member of a job to its standard.

    Parameters
    ----------
    job : Job
    under : str, optional
        One combination, or a load case alone, unfactored: what it brings, not a verdict of the
        members. Those on which it does not act are left out.

    Returns
    -------
    CheckTable

    Raises
    ------
    InputError
        If what is said of a member does not fit together, or it cannot be analysed; or if the
        combination acts on none of them.
    """
    if under is not None:
        return _check_under(job, under)
    with lasting():
        return CheckTable(job, check_members(job, resolve_all(job)))


def _check_under(job: Job, under: str) -> CheckTable:
    loaded, unknown = [], []
    for member in resolve_all(job):
        try:
            loaded.append(_loaded_under(job, member, under))
        except InputError as error:
            unknown += error.problems
    if not loaded:
        raise InputError(*unknown[:1]) if unknown else InputError("the job has no members")
    return CheckTable(job, _checked(job, loaded), loaded[0].forces.combinations[0].name)


def _loaded_under(job: Job, member: DesignMember, under: str) -> _Loaded:
    """Return a member with the forces of one combination, or of a load case alone, in it."""
    if member.said.forces:
        given = [Combination(one.name, {}, "") for one in member.said.forces]
        named = one_combination(member, None, given, under).name
        said = member.said.model_copy(
            update={"forces": [one for one in member.said.forces if one.name == named]}
        )
        return _loaded(job, resolve(said))
    code, parts = job.code_of(member.said), segments(member)
    cases = load_cases(member, code.elasticity)
    own = strength_combinations(job, member, cases)
    service = [
        one
        for kind in type(member.said.deflection).model_fields
        if getattr(member.said.deflection, kind) is not None
        for one in service_combinations(job, member, cases, kind)
    ]
    combination = one_combination(member, cases, [*own, *service], under)
    if combination not in own:  # unfactored loads are never there in the second order
        cases = replace(cases, links=None, frame=None)
    level = code.second_order.load_level(job.design_of(member.said))
    forces = member_forces(Loaded.of(member, cases, [combination], parts, level))
    stretches = [_stretch(job, member, one, parts, forces) for one in member.sections]
    if combination in service:  # of which no strength is asked
        stretches = []
    return _Loaded(member, parts, cases, forces, stretches, combination)


def check_one(job: Job, mark: str) -> CheckTable:
    """Check one member of a job; the other members are not computed."""
    return CheckTable(job, [check_member(job, resolve(job.member(mark)))])


def check_member(job: Job, member: DesignMember, cases: LoadCases | None = None) -> MemberResult:
    """Check one member of a job; ``cases`` are its solved load cases, where they are known."""
    if member.said.forces:
        return _checked(job, [_loaded(job, member)])[0]
    if cases is None:
        cases = load_cases(member, job.code_of(member.said).elasticity)
    asked = _asked(job, member, cases)
    return _checked(job, [_loaded(job, member, asked, member_forces(asked))])[0]


def check_members(job: Job, members: Sequence[DesignMember]) -> list[MemberResult]:
    """Check members of a job, those that are alike at once."""
    with lasting():
        loaded = [member for member in members if not member.said.forces]
        solved = load_cases_of([(one, job.code_of(one.said).elasticity) for one in loaded])
        asked = [_asked(job, *one) for one in zip(loaded, solved, strict=True)]
        forces = member_forces_of(asked)
        known = {id(one): of for one, *of in zip(loaded, asked, forces, strict=True)}
        return _checked(
            job, [_loaded(job, member, *known.get(id(member), ())) for member in members]
        )


@dataclass(frozen=True)
class _Loaded:
    """A member with the forces in it."""

    member: DesignMember
    parts: list[Segment]
    cases: LoadCases | None
    forces: MemberForces
    stretches: list[Stretch]
    under: Combination | None = None


def _asked(job: Job, member: DesignMember, cases: LoadCases) -> Loaded:
    """Return a loaded member with the combinations of which its forces are asked for."""
    level = job.code_of(member.said).second_order.load_level(job.design_of(member.said))
    combined = strength_combinations(job, member, cases)
    return Loaded.of(member, cases, combined, segments(member), level)


def _loaded(
    job: Job, member: DesignMember, asked: Loaded | None = None, forces: MemberForces | None = None
) -> _Loaded:
    """Return a member with its forces: given with it, where no loads are ``asked``."""
    if forces is None:
        forces = given_forces_of(job, member, segments(member))
    parts, acting = list(forces.segments), bool(forces.combinations)
    stretches = [_stretch(job, member, one, parts, forces) for one in member.sections if acting]
    return _Loaded(member, parts, None if asked is None else asked.cases, forces, stretches)


def _checked(job: Job, loaded: Sequence[_Loaded]) -> list[MemberResult]:
    rows = iter(strength_rows([stretch for one in loaded for stretch in one.stretches]))
    return [_result(job, one, [next(rows) for _ in one.stretches]) for one in loaded]


def _result(job: Job, of: _Loaded, strength: list[list[Row]]) -> MemberResult:
    """Return the rows of the standard's checks with what stands beside them."""
    member, forces = of.member, of.forces
    code = job.code_of(member.said)
    if of.under is not None and not of.stretches:
        case = member_case(job, member, of.parts, forces)
        rows = deflection_rows(job, member, of.cases, code, of.under)
        return MemberResult(member, rows, _nothing, of.parts, of.cases, forces, case)
    if not of.stretches:
        case = member_case(job, member, of.parts, forces)
        return MemberResult(member, [], _idle, of.parts, of.cases, forces, case)
    case = next((s.case for s in of.stretches if s.section == member.section), of.stretches[0].case)
    rows = []
    for found in strength:
        rows = _worse_of(rows, found)
    rows += uncovered_rows(job, member, rows, of.stretches, of.cases, forces)
    webs, stiffeners = bearing_rows(job, member, of.cases, forces, of.parts)
    rows += webs
    rows += deflection_rows(job, member, of.cases, code, of.under)
    if member.said.frame is not None:
        from welbric.checking.movements import movement_rows  # members alone load no frames

        rows += movement_rows(job, member, of.cases, code, of.under)
    remarks = functools.partial(_remarks, job, of, case, stiffeners)
    return MemberResult(member, rows, remarks, of.parts, of.cases, forces, case, of.stretches)


def _remarks(
    job: Job, of: _Loaded, case: MemberCase, stiffeners: list[str]
) -> tuple[list[str], list[str]]:
    """Return what stands behind the rows of a member, and what its designer should act on."""
    member, forces = of.member, of.forces
    warned = warnings(job, member, of.parts, case, job.code_of(member.said), forces)
    warned += remarkable(job, member, case, of.cases, forces) + stiffeners
    return notes(job, member, of.parts, case, forces) + overrides(job, member) + warned, warned


def _nothing() -> tuple[list[str], list[str]]:
    return [], []


def _idle() -> tuple[list[str], list[str]]:
    return ["nothing acts on it"], []


def _stretch(
    job: Job, member: DesignMember, section: Section, parts: list[Segment], forces: MemberForces
) -> Stretch:
    """Return the lengths that have a section.

    A segment that the section is in counts whole, with its largest moment.
    """
    lengths = [(a, b) for a, b, one in member.stretches if one == section]
    own = [p for p in parts if any(a < p.end and b > p.start for a, b in lengths)]
    case = member_case(job, member.as_if_all(section), own, forces)
    names = [combination.name for combination in forces.combinations]
    code = job.code_of(member.said)
    return Stretch(section, code, case, own, bool(member.said.pieces), names)


def _worse_of(rows: list[Row], more: list[Row]) -> list[Row]:
    """Return rows by name, each the worse one where there are two."""
    found = {row.name: row for row in rows}
    for row in more:
        if row.name not in found or badness(row) > badness(found[row.name]):
            found[row.name] = row
    return list(found.values())


def given_forces_of(job: Job, member: DesignMember, parts: list[Segment]) -> MemberForces:
    """Return the forces of a member that were combined elsewhere, with their second order."""
    code = job.code_of(member.said)
    return given_forces(
        member, parts, functools.partial(_sway_multiplier, code, job.method_of(member.said))
    )


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
    code = job.code_of(member.said)
    result = result or check_member(job, member)
    names = [c.name for c in result.forces.combinations]
    worst_of: dict[Segment, SegmentRow] = {}
    for stretch in result.stretches:
        case = stretch.case
        if case.shape not in code.shapes:
            continue
        shape = (len(names), len(stretch.segments))
        moments = compressing_moments(result.forces, stretch.segments)
        with np.errstate(all="ignore"):
            check_of = code.checks(case.shape).get(code.lateral_buckling)
            if check_of is None:
                continue
            own = (row for row in result.rows if row.stretch is stretch)
            whole = next((one for one in own if one.name == code.lateral_buckling), None)
            if whole is not None and shape[1] == 1:  # of one segment it has what decides
                at, U = [whole.at[0]], np.full(shape, whole.utilisation)
            else:
                found = check_of(stacked([case]))
                U = np.broadcast_to(np.asarray(found.utilisation, dtype=float), (1, *shape))[0]
                at = [deciding(U[:, g]) for g in range(shape[1])]
            for g, (segment, c) in enumerate(zip(stretch.segments, at, strict=True)):
                one = case.at(stretch.section, c, g)
                M = float(moments[c, g])
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

    member = resolve(job.member(mark))
    code = job.code_of(member.said)
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
    found = critical_load(member, known[combination], code.elasticity)
    largest_there = float(np.abs(result.forces.M_major[list(known).index(combination)]).max())
    # What it multiplies is of the first order, whatever the moments that are checked have in them.
    same = math.isclose(found.moment, largest_there, rel_tol=1e-3)
    return replace(found, first_order=not same)
