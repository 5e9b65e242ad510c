"""Results of checking as blocks: the check table, segments, restraints, the working."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Sequence
from typing import Any

from welbric.checking.bracing import BraceNeed, ContinuousNeed, StabilisingNeed, TwistNeed
from welbric.checking.frequency import FLOORS, swings
from welbric.checking.results import MemberResult, Part, Row, SegmentRow
from welbric.checking.verdicts import OK, OUTSIDE, OVER, ROUNDING
from welbric.documents.blocks import (
    Block,
    Cell,
    Column,
    Document,
    Notes,
    Pairs,
    Paragraph,
    Section,
    Steps,
    Style,
    Table,
    Title,
    Verdict,
    Words,
    paragraph,
)
from welbric.effects.critical_load import CriticalLoad
from welbric.effects.load_cases import service_combinations
from welbric.inputs.deflection_limits import SERVICE_KINDS, DeflectionLimits
from welbric.inputs.frame import FrameOf
from welbric.inputs.job import Job
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases
from welbric.members.segments import Segment
from welbric.standards import standard as code_named
from welbric.standards.standard import Standard
from welbric.units import DisplayUnits, digits

STYLE: dict[str, Style] = {OK: "", OVER: "bad", OUTSIDE: "unsure"}
VERDICT = {OK: "ok", OVER: "OVER", OUTSIDE: "outside"}
BAR = 5  # cells that stand for a utilisation of 1
LONGEST_CHECK = 28  # characters of a check's name on one line
MOST_JOINTS = 8  # that are named


def ratio(utilisation: float) -> str:
    """Write a utilisation with two decimals; what is over 1 never reads as 1.00."""
    if math.isnan(utilisation):
        return "–"
    if utilisation >= 100:
        return ">99"
    if 1 + ROUNDING < utilisation < 1.01:
        return "1.01"
    return f"{utilisation:.2f}"


def bar(utilisation: float) -> str:
    """Draw a utilisation as a bar that is full at 1."""
    if math.isnan(utilisation):
        return ""
    filled = int(min(utilisation, 1.0) * BAR)
    return "■" * filled + "·" * (BAR - filled) + ("▸" if utilisation > 1 else " ")


def utilisation_cell(utilisation: float, style: Style) -> Cell:
    """Write a utilisation as number and bar."""
    number = Words(f"{ratio(utilisation):>4}", style)
    return (number, Words(" "), Words(bar(utilisation), style or "dim"))


def place(row: Row, member: DesignMember, show: DisplayUnits, between: str = ", ") -> str:
    """Write where along the member a check governs; of a frame's member the joint that is there.

    ``between`` is what stands before the joint.
    """
    along = show.show(row.place, "length", 3)
    frame = member.said.frame
    joint = None if frame is None else frame.joint_at(member.said, row.place)
    return along if joint is None else f"{along}{between}{joint}"


# The check table


def _member_row(result: MemberResult, show: DisplayUnits) -> tuple[Cell, ...]:
    row, member = result.governing, result.member
    verdict = Words(VERDICT[result.status], STYLE[result.status])
    head: tuple[Cell, ...] = (member.mark, member.section_names)
    if row is None:
        return (*head, "   –", verdict, "nothing acts on it", "", "", "")
    return (
        *head,
        utilisation_cell(row.utilisation, STYLE[result.status]),
        verdict,
        row.name,
        row.clause,
        row.combination,
        place(row, member, show, ",\n") if row.status != OUTSIDE else "",
    )


def _numbers(row: Row, show: DisplayUnits) -> str:
    """Return the deflection and its limit, of a row that is about one."""
    if row.kind != "dimension" or row.demand is None or row.capacity is None:
        return ""
    deflection, limit = (show.show(value, row.kind, 3) for value in (row.demand, row.capacity))
    return f": {deflection} of {limit}, {row.remark}"


def _check_row(row: Row, member: DesignMember, show: DisplayUnits) -> tuple[Cell, ...]:
    return (
        "",
        "",
        utilisation_cell(row.utilisation, STYLE[row.status]),
        Words(VERDICT[row.status], STYLE[row.status] or "dim"),
        Words(f"{row.name}{_numbers(row, show)}", "dim"),
        Words(row.clause, "dim"),
        Words(row.combination, "dim"),
        Words(place(row, member, show, ",\n") if row.status != OUTSIDE else "", "dim"),
    )


def check_document(
    job: Job,
    results: Sequence[MemberResult],
    summary: str,
    details: bool = False,
    below: Document = (),
) -> Document:
    """Return the check table of a job, with every check of every member where wanted.

    ``below`` stands below the summary.
    """
    show = job.display
    grid = Table(
        [
            Column("mark", wraps=True, widest=12),
            Column("section", wraps=True, widest=20),
            Column("utilisation"),
            Column("verdict"),
            Column("governed by", wraps=True, widest=LONGEST_CHECK),
            Column("clause"),
            Column("combination", wraps=True, widest=17, spare=1),
            Column("at", right=True, spare=2),
        ]
    )
    for result in results:
        grid.add(*_member_row(result, show))
        if details:
            for row in result.rows:
                grid.add(*_check_row(row, result.member, show))
            grid.rule()
    codes = {code.id: code for code in (job.code_of(r.member.said) for r in results)}
    named = [code_named(job.standard).by(job.method), *(id for id in codes if id != job.standard)]
    standards = f"  {'; '.join(named)}; loads {job.loading}"
    head = Paragraph((Words(job.name, "strong"), Words(standards)))
    blocks: list[Block] = [head, paragraph(), grid, paragraph()]
    frequencies = frequency_words(job, results) if details else {}
    for result in results:
        mark = result.member.mark
        for row in result.rows:
            if row.status == OUTSIDE:
                reason = f"{mark}, {row.name} ({row.clause}): outside – {row.reason}"
                blocks.append(paragraph(reason, "unsure"))
        blocks += [paragraph(f"{mark}: {warning}", "unsure") for warning in result.warnings]
        if details:
            said = [note for note in result.notes if note not in result.warnings]
            said += reaction_words(result, show)
            said += [frequencies[mark]] if mark in frequencies else []
            blocks += [paragraph(f"{mark}: {note}", "dim") for note in said]
    passed = all(result.status == OK for result in results)
    blocks += [paragraph(summary, "strong" if passed else "bad"), *below]
    return blocks + [paragraph(words, "dim") for words in left_to_others(job, results)]


def left_to_others(job: Job, results: Sequence[MemberResult]) -> list[str]:
    """Return in words what is not checked, and what of a frame is taken as held."""
    codes = {code.id: code for code in (job.code_of(r.member.said) for r in results)}
    alone = any(r.member.said.frame is None for r in results)
    found = []
    for code in codes.values():
        by = "" if len(codes) == 1 else f" by {code.id}"
        left = ", ".join([code.not_checked, *([code.not_checked_alone] if alone else [])])
        found.append(f"Not checked here{by}: {left}.")
    frame = next((r.member.said.frame for r in results if r.member.said.frame is not None), None)
    if frame is None:
        return found
    cases = next((r.cases for r in results if r.member.said.frame is frame), None)
    return [*found, *_of_frame(frame), *_idle_limits(job, cases)]


def _idle_limits(job: Job, cases: LoadCases | None) -> list[str]:
    """Return which limits of a frame's movements have no load of their kind."""
    limits: list[tuple[str, DeflectionLimits]] = [("[frame] drift", job.frame.drift)]
    limits += [(f"joint_limit {i}", of) for i, of in enumerate(job.joint_limits, 1)]
    return [
        f"{name}: the {kind.replace('_', '-')} limit has no load of its kind to look at."
        for name, of in limits
        for kind in SERVICE_KINDS
        if getattr(of, kind) and cases is not None and not service_combinations(job, cases, kind)
    ]


def _of_frame(frame: FrameOf) -> list[str]:
    """Return in words what of a frame nobody says, as it is taken."""
    found = []
    if names := frame.taken_as_held():
        joints = "joint" if len(names) == 1 else "joints"
        found.append(
            "Taken as held across the plane of the frame, though no support says so: "
            f"{joints} {_some(names)}."
        )
    if frame.met:
        met = [f"{mark} at {_some(names)}" for mark, names in frame.met.items()]
        found.append(f"Taken as meeting joints that lie on them: {_some(met, '; ')}.")
    if not frame.job.frame.imperfections:
        found.append(
            "Analysed as it is drawn, neither out of plumb nor with members bowed: [frame] "
            "imperfections is false."
        )
    code, options = frame.code
    if (method := code.second_order.by_first_order) is not None and method.chosen(options):
        found.append(f"Taken for stability by the first order: {method.taken}.")
    from welbric.frames.solve import solution  # a job without a frame does not load it

    if marks := solution(frame).bowing:
        rule = next(
            code.second_order.bows.clause
            for code in (frame.job.code_of(frame.members[mark]) for mark in marks)
            if code.second_order.bows is not None
        )
        bow = "Bow" if len(marks) > 1 else "Bows"
        found.append(f"{bow} from the start, either way, in the analysis ({rule}): {_some(marks)}.")
    if pairs := frame.crossing():
        words = [f"{a} and {b}" for a, b in pairs]
        found.append(f"Cross without meeting, having no joint there: {_some(words, '; ')}.")
    return found


def _some(names: Sequence[str], between: str = ", ") -> str:
    more = f" and {len(names) - MOST_JOINTS} more" if len(names) > MOST_JOINTS else ""
    return between.join(names[:MOST_JOINTS]) + more


def check_summary(job: Job, results: Sequence[MemberResult], summary: str) -> Document:
    """Return the check table of a page: a line a member, and the summary."""
    show = job.display
    names = ("mark", "section", "ratio", "verdict", "governed by", "clause", "combination", "at")
    title = f"{job.name}, {code_named(job.standard).by(job.method, ' ')}"
    grid = Table([Column(name) for name in names], title=title)
    for result in results:
        row = result.governing
        style: Style = STYLE[result.status] or "good"
        grid.add(
            result.member.mark,
            result.member.section_names,
            ratio(result.utilisation),
            Words(VERDICT[result.status], style),
            row.name if row else "nothing acts on it",
            row.clause if row else "",
            row.combination if row else "",
            place(row, result.member, show) if row else "",
        )
    return [grid, paragraph(summary)]


def reaction_words(result: MemberResult, show: DisplayUnits) -> list[str]:
    """Return the range of the upward reactions over the strength combinations, in words."""
    words = []
    for end, (low, high) in result.reactions().items():
        shown = show.show(high, "force")
        if abs(high - low) > 1e-9 * max(abs(high), 1.0):
            shown = f"{digits(show.convert(low, 'force'))} to {shown}"
        if max(abs(low), abs(high)) > 1e-6:
            where = end if end.startswith("support") else f"the {end}"
            words.append(f"reaction at {where} {shown}")
    return words


def other_stages(job: Job, mark: str) -> Document:
    """Return what to say where one stage of a member is looked at alone."""
    others = job.other_stages(mark)
    if not others:
        return []
    return [paragraph(f"Of {job.member(mark).mark} alone; the same steel is also in other stages: "
                      f"{', '.join(others)}.")]  # fmt: skip


def frequency_words(job: Job, results: Iterable[MemberResult]) -> dict[str, str]:
    """Return in words how the beams of floors swing, by their marks."""
    floors = [
        (one.member, one.cases)
        for one in results
        if one.cases is not None
        and one.member.said.role in FLOORS
        and "L" in one.cases.present
        and one.member.said.frame is None
    ]
    found = zip(floors, swings(job, floors), strict=True)
    return {member.mark: str(one) for (member, _), one in found if one is not None}


# Segments and restraints


def lateral_buckling_document(
    critical: CriticalLoad, code: Standard, show: DisplayUnits
) -> Document:
    """Return when a member buckles laterally as a whole."""
    symbol = code.moment_shape_symbol
    if not math.isfinite(critical.factor):
        return [paragraph(f"\n{critical.combination} does not make the member buckle laterally.")]
    of_first = " of the first order" if critical.first_order else ""
    head = (
        f"\nAs a whole the member buckles laterally, elastically, at {digits(critical.factor)} × "
        f"{critical.combination} (eigenvalue):\nlargest moment "
        f"{show.show(critical.moment, 'moment')}{of_first} at "
        f"{show.show(critical.place, 'length', 3)}, Mcr = {show.show(critical.Mcr, 'moment')}."
    )
    names = ("flange", "from", "to", "moment", "Mcr", f"{symbol} by eigenvalue")
    grid = Table([Column(name, right=name != "flange", wraps=True) for name in names])
    for part in critical.segments:
        if critical.tells(part):
            s = part.segment
            ends = (show.show(at, "length", 3) for at in (s.start, s.end))
            moments = (show.show(M, "moment", 3) for M in (part.moment, part.Mcr))
            grid.add(s.flange, *ends, *moments, f"{part.moment_shape:.2f}")
    return [paragraph(head), grid] if grid.rows else [paragraph(head)]


def segments_document(
    mark: str, rows: Sequence[SegmentRow], code: Standard, show: DisplayUnits
) -> Document:
    """Return the segments of a member."""
    symbol = code.moment_shape_symbol
    names = ("flange", "from", "to", "length", "held by", "moment", symbol, "utilisation")
    left = {"flange", "held by", "utilisation"}
    columns = [
        Column(name, name not in left, wraps=name == "held by", spare=int(name == "length"))
        for name in names
    ]
    grid = Table([*columns, Column("combination", wraps=True)])
    for row in rows:
        s = row.segment
        held = "continuous" if s.continuous else f"{s.held_start}, {s.held_end}"
        bends = row.moment > 0
        grid.add(
            s.flange,
            show.show(s.start, "length", 3),
            show.show(s.end, "length", 3),
            show.show(s.unbraced, "length", 3),
            held,
            show.show(row.moment, "moment", 3) if bends else "–",
            f"{row.moment_shape:.2f}" if bends else "–",
            Words(ratio(row.utilisation), STYLE[row.status]) if bends else "–",
            row.combination,
        )
    head = f"{mark}: segments for lateral-torsional buckling, each at its worst combination"
    return [paragraph(head, "strong"), paragraph(), grid]


def _needs(names: Sequence[str]) -> Table:
    columns = [Column(name, right=name != "flange", spare=int(name == "moment")) for name in names]
    return Table([*columns, Column("combination", wraps=True)])


def brace_document(needs: Sequence[BraceNeed], code: Standard, show: DisplayUnits) -> Document:
    """Return what the restraints of the flanges must be able to do."""
    clause = code.bracing.beam_clause if code.bracing else ""
    headings = ("force", "stiffness", "panel shear", "panel stiffness")
    grid = _needs(("flange", "at", "moment", *headings))
    for need in needs:
        grid.add(
            need.flange,
            show.show(need.place, "length", 3),
            show.show(need.moment, "moment", 3),
            show.show(need.force, "force", 3),
            show.show(need.stiffness, "spring", 3),
            show.show(need.panel_shear, "force", 3),
            show.show(need.panel_stiffness, "spring", 3),
            need.combination + (" (the moment reverses beside it)" if need.reverses else ""),
        )
    head = f"What the restraints must be able to do, as point or panel braces ({clause}):"
    return [paragraph(f"\n{head}"), grid]


def stabilising_document(
    needs: Sequence[StabilisingNeed], code: Standard, show: DisplayUnits
) -> Document:
    """Return what the systems must carry that the restraints of the flanges belong to."""
    rule = code.stabilising
    grid = _needs(("flange", "from", "to", "compression", "along it", "a restraint", "moves"))
    for need in needs:
        grid.add(
            need.flange,
            show.show(need.start, "length", 3),
            show.show(need.end, "length", 3),
            show.show(need.compression, "force", 3),
            show.show(need.along, "line_load", 3),
            show.show(need.force, "force", 3) if need.force else "–",
            show.show(need.moves, "dimension", 3),
            need.combination,
        )
    clause, together = (rule.clause, rule.together) if rule else ("", "")
    head = f"What the system that holds a flange must carry of this member ({clause}):"
    words = (
        "It may move so far in all, wind included; where it moves more, the force grows with it. "
        f"{together[:1].upper()}{together[1:]}."
    )
    found: list[Block] = [paragraph(f"\n{head}"), grid, paragraph(words, "dim")]
    for need in needs:
        if need.sheeting > 0 and rule is not None:
            where = " to ".join(show.show(x, "length", 3) for x in (need.start, need.end))
            stiff = show.show(need.sheeting, "force", 3)
            words = (
                f"Sheeting restrains the {need.flange} flange from {where} all along where its "
                f"shear stiffness is at least {stiff} for the width that it gives this member, "
                f"{rule.sheeting_fixed} ({rule.sheeting_clause})."
            )
            found.append(paragraph(words, "dim"))
    return found


NONE_SUFFICES = "none suffices: the web is too flexible"


def twist_document(needs: Sequence[TwistNeed], code: Standard, show: DisplayUnits) -> Document:
    """Return what braces against twisting must be able to do."""
    clause = code.bracing.twisting_clause if code.bracing else ""
    grid = _needs(("at", "moment", "strength", "stiffness"))
    for need in needs:
        stiff = show.show(need.stiffness, "rotation_spring", 3)
        grid.add(
            show.show(need.place, "length", 3),
            show.show(need.moment, "moment", 3),
            show.show(need.strength, "moment", 3),
            stiff if math.isfinite(need.stiffness) else NONE_SUFFICES,
            need.combination,
        )
    head = f"What braces against twisting must be able to do ({clause}):"
    return [paragraph(f"\n{head}"), grid]


def continuous_document(
    needs: Sequence[ContinuousNeed], code: Standard, show: DisplayUnits
) -> Document:
    """Return what must hold a member against twisting all along."""
    clause = code.bracing.twisting_along_clause if code.bracing else ""
    grid = _needs(("from", "to", "moment", "unbraced for it", "strength", "stiffness"))
    for need in needs:
        stiff = show.show(need.stiffness, "rotation_spring_along", 3)
        grid.add(
            show.show(need.start, "length", 3),
            show.show(need.end, "length", 3),
            show.show(need.moment, "moment", 3),
            show.show(need.unbraced, "length", 3),
            show.show(need.strength, "moment_along", 3),
            stiff if math.isfinite(need.stiffness) else NONE_SUFFICES,
            need.combination,
        )
    head = f"What holds it against twisting all along must be able to do ({clause}):"
    return [paragraph(f"\n{head}"), grid]


# Of what restraints need, in the order it is printed.
NEEDS: tuple[Callable[[Any, Standard, DisplayUnits], Document], ...] = (
    brace_document,
    stabilising_document,
    twist_document,
    continuous_document,
)


# The working


def working_document(job: Job, result: MemberResult, parts: Sequence[Part]) -> Document:
    """Return the step-by-step working of checks, a section each."""
    show, member = job.display, result.member
    code = job.code_of(member.said)
    by = code.by(job.method_of(member.said), " ")
    title = f"{member.mark}: {member.section_names}, {member.steel}, {by}"
    blocks: list[Block] = [Title(title), Pairs(givens(result, show)), Notes(result.notes)]
    for number, part in enumerate(parts, 1):
        row = part.row
        blocks += [
            Section(f"{row.name[:1].upper()}{row.name[1:]}", row.clause, number),
            paragraph(whereabouts(row, member, show)),
            Steps(part.entries, show),
            Verdict(verdict_of(row)),
        ]
    return blocks


def givens(result: MemberResult, show: DisplayUnits) -> list[tuple[str, str]]:
    """Return the section and the steel as (name, value)."""
    unused = {"r", "mass", "surface", "thickest", "shear_area_x", "shear_area_y", "r_polar"}
    pairs = [(stretch.section, stretch.case) for stretch in result.stretches]
    found: list[tuple[str, str]] = []
    for section, case in pairs or [(result.member.section, result.case)]:
        if len(pairs) > 1:
            found.append(("section", section.name))
        found += [
            (name.replace("_", " "), show.show(section.properties[name], kind))
            for name, (kind, _) in section.listed().items()
            if name not in unused
        ]
        found += [("Fy", show.show(case.Fy, "stress")), ("Fu", show.show(case.Fu, "stress"))]
    return found


def whereabouts(row: Row, member: DesignMember, show: DisplayUnits) -> str:
    """Return the combination, the place and the segment of a row."""
    words = [row.combination] if row.combination else []
    if row.stretch is not None and row.stretch.only_one_of_many:
        words.insert(0, row.stretch.section.name)
    if row.status != OUTSIDE or row.combination:
        words.append(f"at {place(row, member, show)}")
    if row.segment is not None:
        words.append(segment_words(row.segment, show))
    return "; ".join(words)


def segment_words(segment: Segment, show: DisplayUnits) -> str:
    """Return a segment in words."""
    flange = "both flanges" if segment.flange == "both" else f"{segment.flange} flange"
    if segment.continuous:
        return f"{flange} continuously restrained"
    start = show.show(segment.start, "length", 3)
    end = show.show(segment.end, "length", 3)
    return f"{flange} from {start} ({segment.held_start}) to {end} ({segment.held_end})"


def verdict_of(row: Row) -> str:
    """Return the closing words of a check."""
    if row.status == OUTSIDE:
        return f"outside: {row.reason}"
    verdict = "within the limit" if row.status == OK else "OVER the limit"
    return f"utilisation {row.utilisation:.3f}: {verdict}"
