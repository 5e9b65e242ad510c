"""The calculation book: a job as a document that a checker can follow."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from typing import Literal

from welbric.checking.combinations_shown import combinations_document
from welbric.checking.results import MemberResult
from welbric.checking.shown import STYLE, VERDICT, left_to_others, place, ratio, verdict_of
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import sortable
from welbric.documents.blocks import (
    Abreast,
    Block,
    Chapter,
    Column,
    Contents,
    Cover,
    Document,
    Drawing,
    Logo,
    Notes,
    Table,
    Words,
    paragraph,
)
from welbric.errors import InputError, did_you_mean
from welbric.inputs.job import Job
from welbric.inputs.lasting import lasting
from welbric.inputs.listing import listing
from welbric.reports.book_members import Context, member_blocks
from welbric.reports.section_drawing import section_drawing
from welbric.sections.table import DIMENSIONS, Section
from welbric.standards import standard
from welbric.studies.changes import Changes
from welbric.studies.changes_shown import changes_document
from welbric.studies.take_off import take_off
from welbric.studies.take_off_shown import take_off_document

Depth = Literal["summary", "checks", "full"]
DEPTHS: tuple[Depth, ...] = ("summary", "checks", "full")
FRAME = (8.6, 8.6)  # in, of its figure, which is then a fifth smaller on the page
MOST_NAMED = 6  # members in the line of every page that says what is stale


def unwatched(result: MemberResult) -> None:
    """Let a member be written without a word."""


@dataclass(frozen=True)
class Beside:
    """What a book takes from elsewhere than the job.

    Attributes
    ----------
    changes : Changes, optional
        Since an earlier state; they get a chapter, and marks in the margin.
    since : str
        What that state is called.
    stale : sequence of str
        Members whose results in the file named ``against`` do not stand any more.
    against : str
    logo : Logo, optional
    done : callable
        Called with each member whose part is written, to show how far it is.
    """

    changes: Changes | None = None
    since: str = ""
    stale: tuple[str, ...] = ()
    against: str = ""
    logo: Logo | None = None
    done: Callable[[MemberResult], object] = unwatched

    def warning(self) -> str:
        """Return what stands on every page where earlier results do not stand any more."""
        if not self.stale:
            return ""
        more = len(self.stale) - MOST_NAMED
        named = ", ".join(self.stale[:MOST_NAMED]) + (f" and {more} more" if more > 0 else "")
        return f"Not the results of {self.against}: {named}"


NOTHING = Beside()


def marks_wanted(job: Job, marks: Iterable[str], group: str | None = None) -> list[str]:
    """Return the marks of the members that are wanted, in the job's order; all by default.

    Raises
    ------
    InputError
        If there is no such member or group.
    """
    wanted = {job.member(mark).mark for mark in marks}
    if group is not None:
        of = {one.mark: one.choose.group for one in job.members if one.choose and one.choose.group}
        found = {mark for mark, name in of.items() if name.casefold() == group.casefold()}
        if not found:
            known = ", ".join(dict.fromkeys(of.values())) or "none"
            hint = did_you_mean(group, of.values()) or f"; the job has {known}"
            raise InputError(f"no group {group!r}{hint}")
        wanted |= found
    return [one.mark for one in job.members if one.mark in wanted or not wanted]


def part_of(table: CheckTable, marks: Iterable[str] = (), group: str | None = None) -> CheckTable:
    """Return the results of the members that are wanted, as `marks_wanted` has them."""
    wanted = set(marks_wanted(table.job, marks, group))
    return CheckTable(table.job, [one for one in table if one.member.mark in wanted])


def book_document(
    table: CheckTable, depth: Depth = "checks", beside: Beside = NOTHING, as_paths: bool = True
) -> Document:
    """Return results as a book.

    Parameters
    ----------
    table : CheckTable
        Of all members of a job, or of some.
    depth : str
        ``"summary"``; ``"checks"``: every member with its figure and all of its checks;
        ``"full"``: with the working of each.
    beside : Beside
        Changes, a logo.
    as_paths : bool
        Whether the letters of the frame's figure are drawn, so that no font is asked for.
    """
    job = table.job
    marks = [one.member.mark for one in table]
    sections = _sections(table)
    short = depth == "summary"
    changed = frozenset(beside.changes.marks) if beside.changes is not None else frozenset()
    book = Context(
        job,
        table,
        {} if short else {mark: _anchor("member", i, mark) for i, mark in enumerate(marks)},
        {} if short else {name: _anchor("section", i, name) for i, name in enumerate(sections)},
        depth,
        changed,
    )
    blocks: list[Block] = [_cover(table, depth, beside), Contents()]
    blocks += [Chapter("Summary", anchor="summary"), _summary(book)]
    blocks += [paragraph(table.summary(), "strong"), *_not_passed(table), *_groups(book)]
    left = [paragraph(words) for words in left_to_others(job, list(table))]
    blocks += [Chapter("What it is checked by", 2, "basis"), _basis(job), *left]
    parts = take_off(job, marks)
    blocks += [Chapter("Take-off", 2, "take-off"), *take_off_document(job, parts)]
    blocks += [Chapter("Combinations", 2, "combinations"), *combinations_document(job, [*table])]
    if beside.changes is not None:
        blocks.append(Chapter(f"Changes since {beside.since}", anchor="changes"))
        blocks += changes_document(beside.changes)
    blocks += _frame(table, as_paths)
    if not short:
        blocks += [Chapter("Sections", anchor="sections"), *_section_blocks(book, sections)]
        blocks.append(Chapter("Members", anchor="members"))
        for result in table:
            blocks += member_blocks(book, result)
            beside.done(result)
    return blocks


def head_and_foot(job: Job) -> tuple[str, str]:
    """Return what stands at the top of every page: the job; standards, choices, revision, date."""
    code = standard(job.standard)
    right = [code.by(job.method, " ")]
    right += [f"annex {one}" for one in [getattr(job.design, "annex", None)] if one]
    right.append(str(job.loading))
    if job.book.revision:
        right.append(f"revision {job.book.revision}")
    return job.name, " \u00b7 ".join([*right, *filter(None, [job.book.date])])


def _anchor(kind: str, number: int, name: str) -> str:
    """Return an anchor of letters and digits, whatever the name."""
    plain = re.sub(r"[^A-Za-z0-9]+", "-", name).strip("-")
    return f"{kind}-{number}-{plain}".rstrip("-")


def _cover(table: CheckTable, depth: str, beside: Beside) -> Cover:
    job = table.job
    of_all = f"{len(table)} of {len(job.members)}" if len(table) < len(job.members) else len(table)
    pairs = job.book.lines()
    pairs += [
        ("Standard", standard(job.standard).by(job.method, " ")),
        ("Loading", str(job.loading)),
        ("Members", str(of_all)),
        ("Depth", depth),
        ("Verdict", table.summary().partition(";")[0]),
    ]
    if beside.warning():
        pairs.append(("Stale", beside.warning()))
    return Cover(job.name, job.description or "Steel members, checked", pairs, beside.logo)


def _summary(book: Context) -> Table:
    show = book.show
    heads = ("mark", "section", "ratio", "verdict", "governed by", "clause", "combination", "at")
    grid = Table([Column(name, right=name in ("ratio", "at")) for name in heads])
    for number, result in enumerate(book.table):
        row, mark = result.governing, result.member.mark
        grid.add(
            Words(mark, link=book.anchors.get(mark, "")),
            result.member.section_names,
            ratio(result.utilisation),
            Words(VERDICT[result.status], STYLE[result.status] or "good"),
            row.name if row else "nothing acts on it",
            row.clause if row else "",
            row.combination if row else "",
            place(row, result.member, show) if row else "",
        )
        if mark in book.changed:
            grid.changed.add(number)
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


def _groups(book: Context) -> Iterator[Block]:
    """Yield the groups of members that share a section, each with its worst."""
    groups: dict[str, list[MemberResult]] = {}
    for result in book.table:
        choose = result.member.said.choose
        if choose is not None and choose.group:
            groups.setdefault(choose.group, []).append(result)
    if not groups:
        return
    grid = Table([Column("group"), Column("section"), Column("members", right=True),
                  Column("ratio", right=True), Column("worst")])  # fmt: skip
    for name, results in groups.items():
        worst = max(results, key=lambda one: sortable(one.utilisation))
        sections = ", ".join(dict.fromkeys(one.member.section_names for one in results))
        mark = worst.member.mark
        link = Words(mark, link=book.anchors.get(mark, ""))
        grid.add(name, sections, str(len(results)), ratio(worst.utilisation), link)
    yield paragraph("Groups:", "strong")
    yield grid


def _basis(job: Job) -> Table:
    """Return the standards with what is chosen of them."""
    code = standard(job.standard)
    grid = Table([Column("given"), Column("value")])
    grid.add("standard", code.id)
    if len(code.methods) > 1:
        grid.add("method", job.method)
    for one in listing(job.design, job.display, usual=True):
        if one.field != "method":
            grid.add(one.field.replace("_", " "), str(one))
    for name in job.companions:
        grid.add("companion", name)
    grid.add("loading", str(job.loading))
    for one in listing(job.loading.options, job.display, usual=True):
        grid.add(one.field.replace("_", " "), str(one))
    for recipe in job.combinations:
        grid.add("own combination", recipe)
    for role, most in job.utilisations.items():
        grid.add(f"largest utilisation, {role}", f"{most:g}")
    return grid


def _sections(table: CheckTable) -> dict[str, Section]:
    """Return the sections of the members, by name."""
    return {one.name: one for result in table for _, _, one in result.member.stretches}


def _section_blocks(book: Context, sections: dict[str, Section]) -> Iterator[Block]:
    show = book.show
    for name, section in sections.items():
        yield Chapter(f"{name}, {section.shape}", 2, book.sections[name])
        grid = Table([Column("property"), Column("value", right=True)] * 2)
        cells = [
            (f"{meaning}, {symbol}" if symbol in DIMENSIONS else meaning,
             show.show(section.properties[symbol], kind))
            for symbol, (kind, meaning) in section.listed().items()
        ]  # fmt: skip
        half = -(-len(cells) // 2)
        for i in range(half):
            grid.add(*cells[i], *(cells[i + half] if i + half < len(cells) else ("", "")))
        drawn = section_drawing(section, show)
        if drawn is None:
            yield grid
        else:
            yield Abreast(Drawing(drawn, f"{name}, to scale", 0.28), grid)


def _frame(table: CheckTable, as_paths: bool) -> Iterator[Block]:
    """Yield the frame: its members with their ratios, balance, storeys, stability."""
    job = table.job
    if not any(member.frame is not None for member in job.members):
        return
    from welbric.checking.frames import frame_document, frame_results
    from welbric.reports.figure_files import as_svg
    from welbric.reports.frame_figure import frame_figure

    found = frame_results(job)
    yield Chapter("The frame", anchor="frame")
    yield Drawing(as_svg(frame_figure(job, found, table, size=FRAME), as_paths), "The frame")
    yield from frame_document(found, job.display)


def book_bytes(
    table: CheckTable, ending: str, depth: Depth = "checks", beside: Beside = NOTHING
) -> bytes:
    """Return results as a book: ``".pdf"``, ``".html"`` or ``".typ"``.

    Raises
    ------
    InputError
        If a PDF is asked for without Typst.
    """
    from welbric.documents.html import book as as_html
    from welbric.documents.typst import as_book, as_pdf

    job = table.job
    with lasting():
        document = book_document(table, depth, beside, as_paths=ending != ".html")
        if ending == ".html":
            return as_html(document, job.name, beside.warning()).encode()
        paper = "us-letter" if job.display.name == "US" else "a4"
        source = as_book(document, paper, *head_and_foot(job), beside.warning())
    return as_pdf(source) if ending == ".pdf" else source.encode()
