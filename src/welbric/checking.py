"""Member + actions + standard -> the check table."""

from __future__ import annotations

import functools
import math
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import numpy as np

from welbric.actions import Storey
from welbric.analysis.second_order import critical_force
from welbric.bearing import bearing_rows
from welbric.deflections import deflection_rows
from welbric.errors import InputError, did_you_mean
from welbric.forces import (
    LoadCases,
    MemberForces,
    given_forces,
    inside_of,
    load_cases,
    member_forces,
    pattern_spans,
    segment_demand,
    strength_combinations,
)
from welbric.job import Job
from welbric.joints import Joint
from welbric.members import Member
from welbric.remarks import notes, warnings
from welbric.restraints import SAME_PLACE, Segment, held_all_along, held_places, segments
from welbric.results import (
    OK,
    OUTSIDE,
    OVER,
    CheckTable,
    MemberResult,
    Row,
    SegmentRow,
    Stretch,
    outside_row,
    status_of,
)
from welbric.sections.table import Section
from welbric.standards import standard
from welbric.standards.case import (
    SEVERAL,
    Check,
    EndConnection,
    EyebarHead,
    MemberCase,
    PinnedEnd,
    Segments,
    SlottedTube,
    Stations,
    Stiffening,
)

if TYPE_CHECKING:
    from welbric.lateral import CriticalLoad


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
    return CheckTable(job, [check_member(job, member) for member in job.members])


def check_one(job: Job, mark: str) -> CheckTable:
    """Check one member of a job; the other members are not computed."""
    member = job.member(mark)
    return CheckTable(job, [check_member(job, member)])


def check_member(job: Job, member: Member) -> MemberResult:
    """Check one member of a job."""
    code = standard(job.standard)
    parts = segments(member)
    cases = None if member.forces else load_cases(member, code.ELASTICITY)
    if cases is None:
        forces = given_forces_of(job, member, parts)
    else:
        combined = strength_combinations(job, cases, pattern_spans(member))
        forces = member_forces(cases, combined, parts, _level(job, code))
    if not forces.combinations:
        case = member_case(job, member, parts, None, forces)
        return MemberResult(member, [], ["nothing acts on it"], parts, cases, forces, case)
    checked = [
        _stretch(job, member, section, parts, forces)
        for section in dict.fromkeys(section for _, _, section in member.stretches())
    ]
    case = next((s.case for s, _ in checked if s.section == member.section), checked[0][0].case)
    rows: list[Row] = []
    for stretch, places in checked:
        if stretch.case.shape in code.SHAPES:
            found = strength_rows(code, stretch, forces, places)
        else:
            reason = f"the strength of a {stretch.case.shape} is not covered"
            found = [outside_row("strength", job.standard, reason)]
        rows = _worse_of(rows, found)
    rows += _shear_not_given(member, rows)
    rows += _destabilised(member, parts, code)
    rows += _unheld_hinges(member, parts, forces, code)
    rows += _bending_stability(forces, code)
    rows += _imposed_strains(job, cases, forces)
    rows += _softened(job, member, forces, code)
    rows += _askew(member, code)
    pressed, stiffeners = bearing_rows(job, member, cases, forces, parts)
    rows += pressed
    rows += deflection_rows(job, member, cases, code)
    warned = warnings(job, member, parts, case, code, forces)
    warned += stiffeners
    said = notes(job, member, parts, case) + warned
    stretches = [stretch for stretch, _ in checked]
    return MemberResult(member, rows, said, parts, cases, forces, case, warned, stretches)


def _stretch(
    job: Job, member: Member, section: Section, parts: list[Segment], forces: MemberForces
) -> tuple[Stretch, dict[str, Any]]:
    """Return the lengths that have a section, and where each largest effect in them is.

    A segment that the section is in counts whole, with its largest moment.
    """
    lengths = [(a, b) for a, b, one in member.stretches() if one == section]
    own = [p for p in parts if any(a < p.end and b > p.start for a, b in lengths)]
    panels = panels_of(member)
    end_panels = panels.end_panels if panels and panels.ends_differ else 0.0
    found = segment_demand(forces, own, end_panels)
    demand = found.demand
    if len(member.span_lengths("major")) > 1 or len(member.span_lengths("minor")) > 1:
        # The member's end moments say nothing of its inner spans: uniform moment is the safe side.
        demand = replace(demand, end_ratio_major=-1.0, end_ratio_minor=-1.0)
    case = member_case(job, member.as_if_all(section), own, demand, forces)
    return Stretch(section, case, own, bool(member.pieces)), found.places


def _worse_of(rows: list[Row], more: list[Row]) -> list[Row]:
    """Return rows by name, each the worse one where there are two."""
    weight = {OVER: 2, OUTSIDE: 1, OK: 0}

    def badness(row: Row) -> tuple[int, float]:
        return weight[row.status], -1.0 if row.status == OUTSIDE else row.utilisation

    found = {row.name: row for row in rows}
    for row in more:
        if row.name not in found or badness(row) > badness(found[row.name]):
            found[row.name] = row
    return list(found.values())


def strength_rows(
    code: Any, stretch: Stretch, forces: MemberForces, places: dict[str, Any]
) -> list[Row]:
    """Return each of the standard's checks at its worst combination and segment."""
    with np.errstate(all="ignore"):
        found = [
            worst(fn(stretch.case), forces, stretch.segments, places)
            for fn in code.checks(stretch.case.shape).values()
        ]
    rows = []
    for row in found:
        if row is None:
            continue
        clause = row.clause
        if SEVERAL in clause:  # over the segments; the governing one goes by one of them
            one = stretch.case.at(stretch.section, *row.at)
            with np.errstate(all="ignore"):
                clause = code.checks(stretch.case.shape)[row.name](one).clause
        rows.append(replace(row, stretch=stretch, clause=clause))
    return rows


def is_hybrid(member: Member) -> bool:
    """Return whether the web is of another steel than the flanges."""
    web = member.web_strengths()
    return member.web_steel is not None and web is not None and web.Fy != member.strengths().Fy


def member_case(
    job: Job, member: Member, parts: list[Segment], demand: Any, forces: MemberForces
) -> MemberCase:
    """Return the member as its standard sees it."""
    code = standard(job.standard)
    section = member.section
    band = member.strengths()
    buckling = member.buckling
    lengths, K = {}, {}
    for axis in ("major", "minor"):
        lengths[axis], K[axis] = buckling_length(job, member, axis)
    lengths["torsion"] = buckling.torsional_length or lengths["minor"]
    if buckling.torsional_length is None and buckling.lateral_offset is not None:
        # What holds the member off its shear centre leaves it free to twist between its supports.
        lengths["torsion"] = max(end - start for start, end in member.span_lengths("minor"))
    transverse = {load.axis for load in member.loads if load.line or load.area or load.point}
    transverse |= {load.axis for load in member.loads if load.moment is not None}
    if member.self_weight and not member.forces and abs(math.cos(member.slope)) > 1e-9:
        transverse.add("major")
    return MemberCase(
        section=section.table().as_axis(),
        shape=f"hybrid {section.shape}" if is_hybrid(member) else section.shape,
        Fy=band.Fy,
        Fu=band.Fu,
        method=job.method,
        demand=demand,
        segments=Segments(
            Lb=np.array([s.Lb for s in parts]),
            free_tip=np.array([s.free_tip for s in parts]),
            tip_first=np.array([s.free_tip and s.held_start == "free end" for s in parts]),
            top=np.array([s.flange != "bottom" for s in parts]),
            other_held=np.array([_other_held(member, s) for s in parts]),
        ),
        length_major=lengths["major"],
        length_minor=lengths["minor"],
        length_torsion=lengths["torsion"],
        K_major=K["major"],
        K_minor=K["minor"],
        K_torsion=buckling.torsional_K or K["minor"],
        sways_major=_sways(member, "major"),
        sways_minor=_sways(member, "minor"),
        loaded_major="major" in transverse or bool(member.forces),
        loaded_minor="minor" in transverse or bool(member.forces),
        **_connection(member),
        **_moment_shape(job, member, parts, forces),
        lateral_offset=buckling.lateral_offset,
        reversed_curvature=member.Cb == "reversed curvature",
        second_order_included=member.second_order != "amplified",
        separate_planes=job.separate_planes,
        reduced_stiffness=job.stability == "direct analysis",
        length=member.length,
        edition=code.EDITION,
        **_pinned(member),
        connectors=member.connectors.spacing if member.connectors else None,
        snug_tight=member.connectors is not None and member.connectors.fastened == "snug-tight",
        stiffeners=panels_of(member),
        flange_holes=(member.flange_holes.count, member.flange_holes.diameter)
        if member.flange_holes
        else None,
        one_leg=member.one_leg.leg if member.one_leg else None,
        geometric=member.bending_axes == "geometric",
        in_space_truss=member.one_leg is not None and member.one_leg.truss == "space",
        corners=section.corners,
        peak_held=_peak_held(member, parts, forces),
        stations=Stations(
            forces.M_major[None],
            forces.M_minor[None],
            np.array([inside_of(forces, part) for part in parts]),
        ),
    )


def _sways(member: Member, axis: str) -> bool:
    """Return whether a part of a member can move sideways against another without bending."""
    return bool({"free", "guided"} & set(member.ends_about(axis))) or bool(member.hinges)


def _other_held(member: Member, segment: Segment) -> bool:
    """Return whether the other flange is held all along a segment."""
    other = {"top": "bottom", "bottom": "top"}.get(segment.flange)
    if other is None:
        return False
    lengths = held_all_along(member, getattr(member.restraint, other))
    return any(a <= segment.start and segment.end <= b for a, b in lengths)


def _peak_held(member: Member, parts: list[Segment], forces: MemberForces) -> Any:
    """Return where the largest moment of a single span is at its only restraint of both flanges."""
    if member.bending_axes != "geometric" or len(member.span_lengths("minor")) > 1:
        return False
    tops, bottoms = (held_places(member, flange) for flange in ("top", "bottom"))
    inner = [x for x in tops if x in bottoms and 0 < x < member.length]
    if len(inner) != 1:
        return False
    M = np.abs(forces.M_major)
    here = np.abs(forces.x - inner[0]) <= SAME_PLACE * member.length
    if not here.any():  # held all along: no segment ends there
        return False
    peak = M[:, here].max(axis=1) >= M.max(axis=1) * (1 - 1e-9)
    beside = np.array([inner[0] in (part.start, part.end) for part in parts])
    return (peak[:, None] & beside)[None]


def _moment_shape(
    job: Job, member: Member, parts: list[Segment], forces: MemberForces
) -> dict[str, Any]:
    """Return the moment-shape factor as the standard sees it, where the member chooses one."""
    if isinstance(member.Cb, float):
        return {"Cb": member.Cb}
    if member.Cb != "eigenvalue":
        return {}
    from welbric.lateral import critical_load

    steel = standard(job.standard).ELASTICITY
    found = np.full((1, len(forces.combinations), len(parts)), np.nan)
    for c, combination in enumerate(forces.combinations):
        if np.any(forces.M_major[c]):
            load = critical_load(member, combination, steel, bending_alone=True)
            known = {part.segment: part.Cb for part in load.segments}
            found[0, c] = [known.get(part, np.nan) for part in parts]
    return {"Cb": found, "Cb_source": "by eigenvalue, of the whole member"}


def panels_of(member: Member) -> Stiffening | None:
    """Return the transverse stiffeners as the standard sees them."""
    given = member.stiffeners
    if given is None:
        return None
    ends = given.end_panels or given.spacing
    sizes = (given.width, given.thickness, given.sides == "both", given.Fy)
    return Stiffening(given.spacing, ends, given.tension_field, *sizes)


def _pinned(member: Member) -> dict[str, Any]:
    """Return a bar's pinned end as the standard sees it."""
    if member.pin is not None:
        p = member.pin
        return {"pin": PinnedEnd(p.diameter, p.hole, p.end, p.edge)}
    if member.eyebar is not None:
        e = member.eyebar
        return {"eyebar": EyebarHead(e.diameter, e.hole, e.head, e.fillet)}
    return {}


def _connection(member: Member) -> dict[str, Any]:
    """Return the end connection as the standard sees it."""
    given = member.connection
    if given is None:
        return {}
    joint = given.shear_lag if isinstance(given.shear_lag, Joint) else None
    slotted = None
    if joint and joint.slot:
        of = joint.slot
        slotted = SlottedTube(of.length, of.plate, of.width, of.parallel_to == "depth")
    ends = EndConnection(
        tuple((h.count, h.diameter, h.thickness) for h in given.holes),
        tuple((s.pitch, s.gauge, s.thickness) for s in given.staggers),
        *(
            (joint.through, joint.bolts_in_line, joint.eccentricity, joint.length,
             joint.between_welds, joint.welds is not None, slotted)
            if joint
            else ()
        ),
    )  # fmt: skip
    factor = None if joint else given.shear_lag
    return {"connection": ends, "net_area": given.net_area, "shear_lag": factor}


def buckling_length(job: Job, member: Member, axis: str) -> tuple[float, float]:
    """Return the unbraced length about an axis, mm, and K.

    K is as given; 1.0 between intermediate supports that are given; else of the textbook ends. Of
    several spans the one with the largest product counts, its neighbours as pinned supports.
    With an overhang or a hinge, which are not in the textbook, K is that of the whole member's
    elastic buckling, raised as its ends' recommended value is over the theoretical one.
    """
    length = getattr(member.buckling, f"{axis}_length")
    given = getattr(member.buckling, f"{axis}_K")
    if length is not None:
        return float(length), 1.0 if given is None else float(given)
    first, last = member.ends_about(axis)
    spans = member.span_lengths(axis)
    if given is None and member.buckles_as_a_whole(axis):
        code = standard(job.standard)
        EI = code.ELASTICITY.E * getattr(member.section, f"I_{axis}")
        P = critical_force(member.length, member.supports_about(axis), EI, member.hinges)
        pair = ("fixed", "free") if "free" in (first, last) else (first, last)
        if pair == ("guided", "guided"):  # a mechanism, but for what else holds it
            pair = ("fixed", "guided")
        of_ends, theoretical = (
            code.effective_length_factor(*pair, values)
            for values in (job.effective_lengths, "theoretical")
        )
        longest = max(end - start for start, end in spans)
        raised = max(of_ends / theoretical, 1.0)
        return longest, raised * math.pi * math.sqrt(EI / P) / longest
    found = []
    for number, (start, end) in enumerate(spans):
        ends = [first if number == 0 else "pinned", last if number == len(spans) - 1 else "pinned"]
        if len(spans) > 1 and "free" in ends:
            ends = ["free", "fixed"]  # an overhang; K is given
        K = given
        if K is None:
            K = standard(job.standard).effective_length_factor(*ends, job.effective_lengths)
        found.append((float(K) * (end - start), end - start, float(K)))
    _, length, K = max(found)
    return length, K


def worst(
    found: Check, forces: MemberForces, parts: list[Segment], places: dict[str, Any]
) -> Row | None:
    """Return a check at its worst combination and segment; None where nothing acts."""
    shape = (len(forces.combinations), len(parts))
    U = np.broadcast_to(np.asarray(found.utilisation, dtype=float), (1, *shape))[0]
    U = np.where(U < 0, np.nan, U)  # a strength below zero verifies nothing
    if not np.any(np.nan_to_num(U, nan=1.0) > 0):
        return None
    c, g = np.unravel_index(np.argmax(np.where(np.isnan(U), -1.0, U)), shape)
    outside = np.isnan(U)
    if outside.any():
        c, g = np.unravel_index(np.argmax(outside), shape)
    value = float(U[c, g])

    def pick(array: Any) -> float | None:
        return None if array is None else float(np.broadcast_to(array, (1, *shape))[0, c, g])

    return Row(
        found.name,
        found.clause,
        value,
        status_of(value),
        pick(found.demand),
        pick(found.capacity),
        found.kind,
        forces.combinations[c].name,
        float(places[found.effect][c, g]),
        parts[g],
        (found.reason or "the calculation gave no number") if math.isnan(value) else "",
        (int(c), int(g)),
    )


def _shear_not_given(member: Member, rows: list[Row]) -> list[Row]:
    """Return a row outside where moments were given without the shear that goes with them."""
    found = []
    for axis, name, clause in (("major", "shear, web", "G2.1"), ("minor", "shear, flanges", "G6")):
        for forces in member.forces:
            bends = any(getattr(forces, f"moment_{axis}"))
            if bends and not getattr(forces, f"shear_{axis}"):
                reason = f"{forces.name}: a moment is given without its shear_{axis}"
                found.append(outside_row(name, clause, reason, "force", forces.name))
                break
    return [row for row in found if row.name not in {r.name for r in rows}] if found else []


def given_forces_of(job: Job, member: Member, parts: list[Segment]) -> MemberForces:
    """Return the forces of a member that were combined elsewhere, with their second order."""
    code = standard(job.standard)
    return given_forces(member, parts, functools.partial(_sway_multiplier, code, job.method))


def _level(job: Job, code: Any) -> float:
    """Return what multiplies loads for the second order: more where the stiffness is reduced."""
    level = float(code.SECOND_ORDER_LEVEL[job.method])
    return level / code.STIFFNESS_SHARE if job.stability == "direct analysis" else level


def _sway_multiplier(code: Any, method: str, storey: Storey) -> float:
    return float(
        code.storey_multiplier(
            method, storey.load, storey.shear, storey.drift, storey.height,
            storey.load * storey.in_moment_frames,
        )
    )  # fmt: skip


def _softened(job: Job, member: Member, forces: MemberForces, code: Any) -> list[Row]:
    """Return a row outside where compression softens a member more than its analysis takes."""
    if job.stability != "direct analysis" or member.second_order != "analysed":
        return []
    squash = min(
        member.as_if_all(section).strengths().Fy * section.A for _, _, section in member.stretches()
    )
    pressed = code.SECOND_ORDER_LEVEL[job.method] * float(np.max(-forces.N, initial=0.0))
    if pressed <= 0.5 * squash:
        return []
    reason = "beyond half the squash load the stiffness is less than the analysis takes (tau_b)"
    return [outside_row("second order", code.STIFFNESS_CLAUSE, reason)]


def _askew(member: Member, code: Any) -> list[Row]:
    """Return a row outside where the forces depend on how a turned section bends as a whole."""
    turned = [section for _, _, section in member.stretches() if section.askew]
    strained = any(
        load.settlement is not None or load.temperature_difference is not None
        for load in member.loads
    )
    springs = any(s.spring or s.rotation_spring for s in member.supports)
    analysed = member.second_order == "analysed"
    if not turned or not (strained or springs or analysed or member.pieces):
        return []
    reason = (
        f"{turned[0].name} bends askew, and is analysed about x and y apart: its forces are not "
        "known with the second order analysed, springs, settlements, changes of temperature or "
        "several sections"
    )
    return [outside_row("analysis", code.STABILITY_CLAUSE, reason)]


def _imposed_strains(job: Job, cases: LoadCases | None, forces: MemberForces) -> list[Row]:
    """Return a row outside where no strength combination has the change of temperature."""
    if cases is None or "T" not in cases.present:
        return []
    if any(combination.factors.get("T") for combination in forces.combinations):
        return []
    reason = (
        f"{job.loading} leaves the factors of a change of temperature to the designer: give them "
        "in the job's combinations"
    )
    return [outside_row("change of temperature", job.loading, reason)]


def _bending_stability(forces: MemberForces, code: Any) -> list[Row]:
    """Return how near the member is to buckling in a plane of bending, by second-order analysis."""
    if forces.share is None or not np.any(forces.share > 1e-9):
        return []
    c = int(np.argmax(forces.share))
    U = float(forces.share[c])
    reason = "the axial force over the one at which it buckles elastically, by geometric stiffness"
    head = ("elastic stability in bending", code.STABILITY_CLAUSE, U, status_of(U), None, None)
    return [Row(*head, "number", forces.combinations[c].name, 0.0, None, reason, (-1, -1))]


def _destabilised(member: Member, parts: list[Segment], code: Any) -> list[Row]:
    """Return a row outside where loads on a flange press it sideways, and nothing holds it."""
    if all(part.continuous for part in parts) or member.Cb == "eigenvalue":
        return []  # the eigenvalue takes the loads where they act
    for load in member.loads:
        pushes = [*(load.line or []), load.area or 0.0, load.point or 0.0]
        down, up = max(pushes) > 0 or load.acts_either_way, min(pushes) < 0 or load.acts_either_way
        bad = {"top": down, "bottom": up, "shear centre": False}[load.on]
        if bad and load.axis == "major":
            reason = (
                f"loads on the {load.on} flange push it over; the standard's equation takes them "
                "at the shear centre (`segments` has the critical factor with them there)"
            )
            return [outside_row("loads off the shear centre", code.LOAD_HEIGHT_CLAUSE, reason)]
    return []


def _unheld_hinges(
    member: Member, parts: list[Segment], forces: MemberForces, code: Any
) -> list[Row]:
    """Return a row outside where a hinge lies within a length that can buckle sideways."""
    slack = SAME_PLACE * member.length
    for part in parts:
        within = [x for x in member.hinges if part.start + slack < x < part.end - slack]
        if not within or part.continuous:
            continue
        sign = {"top": 1.0, "bottom": -1.0}.get(part.flange)
        M = forces.M_major[:, inside_of(forces, part)]
        if np.any(np.abs(M) > 0 if sign is None else sign * M > 0):
            reason = (
                "a hinge lies within an unbraced length, which the standard's equations take to be "
                "of one piece: hold both flanges there"
            )
            return [outside_row("sideways buckling at a hinge", code.LOAD_HEIGHT_CLAUSE, reason)]
    return []


# Segments


def segment_rows(job: Job, member: Member, result: MemberResult | None = None) -> list[SegmentRow]:
    """Return the segments for lateral-torsional buckling, each at its worst combination.

    ``result`` is the member's, where it is known already.
    """
    code = standard(job.standard)
    result = result or check_member(job, member)
    names = [c.name for c in result.forces.combinations]
    worst_of: dict[Segment, SegmentRow] = {}
    for stretch in result.stretches:
        case = stretch.case
        if case.demand is None or case.shape not in code.SHAPES:
            continue
        shape = (len(names), len(stretch.segments))
        with np.errstate(all="ignore"):
            known_checks = code.checks(case.shape)
            if code.SEGMENT_CHECK not in known_checks:
                continue
            found = known_checks[code.SEGMENT_CHECK](case)
            U = np.broadcast_to(np.asarray(found.utilisation, dtype=float), (1, *shape))[0]
            for g, segment in enumerate(stretch.segments):
                c = int(np.argmax(np.where(np.isnan(U[:, g]), np.inf, U[:, g])))
                one = case.at(stretch.section, c, g)
                M = float(one.demand.M_major)
                Cb = float(code.moment_shape_factor(one)) if M > 0 else math.nan
                value = float(U[c, g])
                name = names[c] if M > 0 else ""
                row = SegmentRow(segment, name, M, Cb, value, status_of(value))
                known = worst_of.get(segment)
                if known is None or not value <= known.utilisation:
                    worst_of[segment] = row
    nothing = ("", math.nan, math.nan, math.nan, OUTSIDE)
    rows = [worst_of.get(segment) or SegmentRow(segment, *nothing) for segment in result.segments]
    return rows


def sideways(job: Job, member: Member, combination: str | None = None) -> CriticalLoad:
    """Return when a member buckles sideways as a whole, elastically, by eigenvalue.

    Parameters
    ----------
    job : Job
    member : Member
    combination : str, optional
        Its name; by default the one that governs lateral-torsional buckling, or bends it most.

    Raises
    ------
    InputError
        If there is no such combination, nothing bends the member, or the solution does not cover
        it.
    """
    from welbric.lateral import critical_load

    code = standard(job.standard)
    result = check_member(job, member)
    known = {c.name: c for c in result.forces.combinations}
    if combination is None:
        row = next((r for r in result.rows if r.name == code.SEGMENT_CHECK), None)
        if not known:
            raise InputError(f"{member.mark}: nothing acts on it")
        largest = int(np.argmax(np.abs(result.forces.M_major).max(axis=1)))
        combination = row.combination if row else list(known)[largest]
    if combination not in known:
        hint = did_you_mean(combination, known) or f"; it has {', '.join(list(known)[:8])}"
        raise InputError(f"{member.mark}: no combination {combination!r}{hint}")
    return critical_load(member, known[combination], code.ELASTICITY)
