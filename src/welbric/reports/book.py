"""The calculation book: a job as a document that a checker can follow."""

from __future__ import annotations

import io
import re
from collections.abc import Iterator
from typing import Literal

import matplotlib as mpl
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure

from welbric.checking.check import check, segment_rows
from welbric.checking.combinations_shown import combinations_document
from welbric.checking.frames import frame_document, frame_results
from welbric.checking.results import MemberResult, Row
from welbric.checking.shown import (
    STYLE,
    VERDICT,
    givens,
    place,
    ratio,
    segments_document,
    verdict_of,
    whereabouts,
)
from welbric.checking.supports_shown import supports_document
from welbric.checking.table import CheckTable
from welbric.documents.blocks import (
    Block,
    Chapter,
    Column,
    Contents,
    Cover,
    Document,
    Drawing,
    Notes,
    Pairs,
    Paragraph,
    Steps,
    Table,
    Verdict,
    Words,
    paragraph,
)
from welbric.errors import InputError
from welbric.inputs.actions import MemberLoad
from welbric.inputs.job import Job
from welbric.loads.combinations import name_of
from welbric.reports.figure_files import as_written
from welbric.reports.figures import draw
from welbric.reports.frame_figure import frame_figure
from welbric.standards import standard
from welbric.studies.take_off import take_off
from welbric.studies.take_off_shown import take_off_document
from welbric.units import DisplayUnits

Depth = Literal["summary", "checks", "full"]
DEPTHS: tuple[Depth, ...] = ("summary", "checks", "full")
LOADS = {  # what a load may be, and the kind of its number
    "line": "line_load", "area": "pressure", "point": "force", "moment": "moment",
    "compression": "force", "tension": "force", "end_moments": "moment",
    "settlement": "dimension", "torque": "moment", "temperature": "temperature",
    "temperature_difference": "temperature",
}  # fmt: skip


def book_document(
    job: Job, depth: Depth = "checks", marks: tuple[str, ...] = (), as_paths: bool = True
) -> Document:
    """Return a job as a book.

    Parameters
    ----------
    job : Job
    depth : str
        ``"summary"``; ``"checks"``: every member with its figure and all of its checks;
        ``"full"``: with the working of each.
    marks : tuple of str
        The members, in the job's order; all where there are none.
    as_paths : bool
        Whether the letters of figures are drawn, so that no font is asked for.
    """
    table = check(job)
    if marks:
        wanted = {job.member(mark).mark for mark in marks}
        table = CheckTable(job, [one for one in table if one.member.mark in wanted])
    anchors = {one.member.mark: _anchor(i, one.member.mark) for i, one in enumerate(table)}
    blocks: list[Block] = [_cover(job, table, depth), Contents()]
    blocks += [Chapter("Summary", anchor="summary"), _summary(job, table, anchors, depth)]
    blocks += [paragraph(table.summary(), "strong"), *_not_passed(table)]
    if not marks:
        blocks += [Chapter("Take-off", 2, "take-off"), *take_off_document(job, take_off(job))]
    blocks += [Chapter("Combinations", 2, "combinations"), *combinations_document(job, [*table])]
    if any(member.frame is not None for member in job.members):
        found = frame_results(job)
        blocks += [Chapter("The frame", anchor="frame")]
        blocks.append(Drawing(_svg(frame_figure(job, found, table), as_paths), "The frame"))
        blocks += frame_document(found, job.display)
    if depth != "summary":
        blocks.append(Chapter("Members", anchor="members"))
        for result in table:
            blocks += _member(job, table, result, anchors, depth, as_paths)
    return blocks


def head_and_foot(job: Job) -> tuple[str, str]:
    """Return what stands at the top of every page: the job; standard, revision and date."""
    code = standard(job.standard)
    right = [code.by(job.method, " "), str(job.loading)]
    if job.book.revision:
        right.append(f"revision {job.book.revision}")
    return job.name, " \u00b7 ".join([*right, *filter(None, [job.book.date])])


def _anchor(number: int, mark: str) -> str:
    """Return an anchor of letters and digits, whatever the mark."""
    plain = re.sub(r"[^A-Za-z0-9]+", "-", mark).strip("-")
    return f"member-{number}-{plain}".rstrip("-")


def _cover(job: Job, table: CheckTable, depth: str) -> Cover:
    code = standard(job.standard)
    pairs = job.book.lines()
    pairs += [
        ("Standard", code.by(job.method, " ")),
        ("Loading", str(job.loading)),
        ("Members", str(len(table))),
        ("Depth", depth),
        ("Verdict", table.summary().partition(";")[0]),
    ]
    return Cover(job.name, job.description or "Steel members, checked", pairs)


def _summary(job: Job, table: CheckTable, anchors: dict[str, str], depth: str) -> Table:
    show = job.display
    heads = ("mark", "section", "ratio", "verdict", "governed by", "clause", "combination", "at")
    grid = Table([Column(name, right=name in ("ratio", "at")) for name in heads])
    for result in table:
        row, mark = result.governing, result.member.mark
        link = anchors[mark] if depth != "summary" else ""
        grid.add(
            Words(mark, link=link),
            result.member.section_names,
            ratio(result.utilisation),
            Words(VERDICT[result.status], STYLE[result.status] or "good"),
            row.name if row else "nothing acts on it",
            row.clause if row else "",
            row.combination if row else "",
            place(row, show) if row else "",
        )
    return grid


def _not_passed(table: CheckTable) -> Iterator[Block]:
    """Yield each row that is over or outside, with its reason."""
    lines = [
        f"{result.member.mark}, {row.name} ({row.clause}): {verdict_of(row)}"
        for result in table
        for row in result.rows
        if row.status != "ok"
    ]
    if lines:
        yield paragraph("Over, or outside the standard:", "strong")
        yield Notes(lines)


def _member(
    job: Job,
    table: CheckTable,
    result: MemberResult,
    anchors: dict[str, str],
    depth: str,
    as_paths: bool,
) -> Iterator[Block]:
    show, member = job.display, result.member
    title = f"{member.mark}: {member.section_names}, {member.steel}"
    yield Chapter(title, 2, anchors[member.mark])
    row = result.governing
    words = f"{VERDICT[result.status]}: utilisation {ratio(result.utilisation)}"
    if row is not None:
        words += f" in {row.name} ({row.clause}), {row.combination}"
    yield paragraph(words, "strong")
    if member.said.note:
        yield paragraph(member.said.note)
    yield _said(result, show)
    yield from _loads(result, show)
    if result.rows or result.forces.combinations:
        yield Drawing(
            _svg(draw(table, member.mark), as_paths), f"{member.mark}: loads and diagrams"
        )
    yield _checks(result, show)
    code = job.code_of(member.said)
    if code.uses_moment_shape(result.case.shape) and result.segments and result.stretches:
        rows = segment_rows(job, member, result)
        yield from segments_document(member.mark, rows, code, show)
    if result.cases is not None:
        yield from (b for b in supports_document(job, [result]) if isinstance(b, Table))
    yield Notes(result.notes)
    if depth == "full":
        yield Pairs(givens(result, show))
        for part in table.explain(member.mark).parts:
            row = part.row
            name = f"{member.mark}, {row.name}"
            yield Chapter(name, 3, beside=row.clause)
            yield Paragraph((Words(whereabouts(row, show)),))
            yield Steps(part.entries, show)
            yield Verdict(verdict_of(row))


def _said(result: MemberResult, show: DisplayUnits) -> Table:
    """Return what is said of a member: lengths, ends, restraints, lengths for buckling."""
    member, case = result.member, result.case
    said = member.said
    grid = Table([Column("given"), Column("")])
    grid.add("role", said.role)
    lengths = " + ".join(show.show(x, "length", 4) for x in said.spans) or show.show(
        member.length, "length", 4
    )
    grid.add("length" if not said.spans else "spans", lengths)
    if said.through:
        grid.add("through the joints", ", ".join(said.through))
        grid.add("joined", ", ".join(said.joined_about("major")))
    else:
        grid.add("ends", ", ".join(member.ends_about("major")))
    for flange in ("top", "bottom"):
        hold = getattr(said.restraint, flange)
        grid.add(f"{flange} flange held", _held(hold, show) if hold else "at its supports")
    for axis in ("major", "minor"):
        length, K = (getattr(case.buckling, f"{of}_{axis}") for of in ("length", "K"))
        words = f"K = {float(K):.3g}, {show.show(float(length), 'length', 4)}"
        grid.add(f"buckling, {axis} axis", words)
    grid.add("own weight", "included" if said.self_weight else "left out")
    return grid


def _held(hold: object, show: DisplayUnits) -> str:
    kind = getattr(hold, "kind", "")
    if kind == "every":
        return f"every {show.show(hold.every, 'length', 4)}"  # type: ignore[attr-defined]
    if kind == "at":
        places = (show.show(x, "length", 4) for x in hold.at)  # type: ignore[attr-defined]
        return f"at {', '.join(places)}"
    words = {"continuous": "all along", "supports": "at its supports", "loads": "at the loads"}
    return words.get(kind, "span by span")


def _loads(result: MemberResult, show: DisplayUnits) -> Iterator[Block]:
    loads = result.member.said.loads
    if not loads:
        return
    grid = Table([Column("case"), Column("load"), Column("value", right=True), Column("where")])
    for load in loads:
        for kind, of in LOADS.items():
            value = getattr(load, kind)
            if value is not None:
                values = value if isinstance(value, list) else [value]
                shown = " to ".join(dict.fromkeys(show.show(v, of) for v in values))
                grid.add(name_of(load.case), kind.replace("_", " "), shown, _where(load, show))
    yield grid


def _where(load: MemberLoad, show: DisplayUnits) -> str:
    words = []
    if load.at:
        words.append("at " + ", ".join(show.show(x, "length", 4) for x in load.at))
    if load.start is not None or load.end is not None:
        first = show.show(load.start or 0.0, "length", 4)
        last = "its end" if load.end is None else show.show(load.end, "length", 4)
        words.append(f"from {first} to {last}")
    if load.spacing is not None:
        words.append(f"every {show.show(load.spacing, 'length', 4)}")
    if load.axis == "minor":
        words.append("minor axis")
    if load.on != "shear centre":
        words.append(f"on the {load.on} flange")
    if load.is_reversible:
        words.append("both ways")
    return ", ".join(words) or "all along"


def _checks(result: MemberResult, show: DisplayUnits) -> Table:
    heads = ("check", "clause", "demand", "capacity", "ratio", "combination", "at")
    numbers = ("demand", "capacity", "ratio", "at")
    grid = Table([Column(name, right=name in numbers) for name in heads])
    for row in sorted(result.rows, key=lambda row: -_sortable(row)):
        demand, capacity = (
            show.show(value, row.kind) if value is not None else ""
            for value in (row.demand, row.capacity)
        )
        style = STYLE[row.status]
        grid.add(row.name, row.clause, demand, capacity, Words(ratio(row.utilisation), style),
                 row.combination, place(row, show))  # fmt: skip
    return grid


def _sortable(row: Row) -> float:
    return row.utilisation if row.utilisation == row.utilisation else float("inf")


def _svg(figure: Figure, as_paths: bool) -> str:
    """Return a figure as SVG."""
    FigureCanvasAgg(figure)
    buffer = io.StringIO()
    letters = "path" if as_paths else "none"
    with mpl.rc_context({"svg.fonttype": letters, "svg.hashsalt": f"{id(figure)}"}):
        as_written(figure).savefig(buffer, format="svg", metadata={"Date": None, "Creator": None})
    return buffer.getvalue()


def book_bytes(job: Job, ending: str, depth: Depth, marks: tuple[str, ...] = ()) -> bytes:
    """Return a job as a book: ``".pdf"``, ``".typ"`` or ``".html"``.

    Raises
    ------
    InputError
        If nothing acts on any member, or a PDF is asked for without Typst.
    """
    from welbric.documents.html import book as as_html
    from welbric.documents.typst import as_book, as_pdf

    if not job.members:
        raise InputError("the job has no members")
    document = book_document(job, depth, marks, as_paths=ending != ".html")
    if ending == ".html":
        return as_html(document, job.name).encode()
    paper = "us-letter" if job.display.name == "US" else "a4"
    source = as_book(document, paper, *head_and_foot(job))
    return as_pdf(source) if ending == ".pdf" else source.encode()
