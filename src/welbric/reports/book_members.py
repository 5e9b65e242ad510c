"""A member's part of the book: what is said of it, its picture, its checks, their working."""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from welbric.checking.check import segment_rows
from welbric.checking.results import MemberResult, Row
from welbric.checking.shown import (
    STYLE,
    VERDICT,
    frequency_words,
    place,
    ratio,
    segments_document,
    verdict_of,
    whereabouts,
)
from welbric.checking.supports_shown import supports_table
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import sortable
from welbric.documents.blocks import (
    Abreast,
    Block,
    Chapter,
    Column,
    Drawing,
    Notes,
    Paragraph,
    Steps,
    Table,
    Verdict,
    Words,
    paragraph,
)
from welbric.inputs.actions import MemberLoad
from welbric.inputs.job import Job
from welbric.loads.combinations import name_of
from welbric.reports.captions import restraint_words, value_words
from welbric.reports.member_drawing import member_drawing
from welbric.units import DisplayUnits
from welbric.working import Entry, Given, Heading, Step
from welbric.working.typeset import symbol_parts

AS_ABOVE = ": as above"
# Symbol and value -> the anchor and the name of the check that they were worked out for.
Origins = dict[tuple[str, float], tuple[str, str]]


@dataclass(frozen=True)
class Context:
    """What every part of a book is told.

    Attributes
    ----------
    job : Job
    table : CheckTable
    anchors : mapping of str to str
        Of each member's chapter, and of each section's, by mark and name.
    sections : mapping of str to str
    depth : str
    changed : set of str
        The members with a mark in the margin.
    """

    job: Job
    table: CheckTable
    anchors: Mapping[str, str]
    sections: Mapping[str, str]
    depth: str
    changed: frozenset[str] = frozenset()

    @property
    def show(self) -> DisplayUnits:
        """The units to show results in."""
        return self.job.display

    @functools.cached_property
    def frequencies(self) -> dict[str, str]:
        """How the beams of floors swing, in words, by their marks."""
        return frequency_words(self.job, self.table)


def member_blocks(book: Context, result: MemberResult) -> Iterator[Block]:
    """Yield the part of one member: those of `PARTS`, and at full depth every step."""
    member = result.member
    mark = member.mark
    title = f"{mark}: {member.section_names}, {member.steel}"
    # The first stands below the chapter's own heading.
    first = mark == next(iter(book.table)).member.mark
    anchor, changed = book.anchors[mark], mark in book.changed
    yield Chapter(title, 2, anchor, changed=changed, begins_page=not first)
    for part in PARTS:
        yield from part(book, result)
    if book.depth == "full":
        yield from _working(book, result)


def _verdict(book: Context, result: MemberResult) -> Iterator[Block]:
    row = result.governing
    words = f"{VERDICT[result.status]}: utilisation {ratio(result.utilisation)}"
    if row is not None:
        words += f" in {row.name} ({row.clause}), {row.combination}".removesuffix(", ")
    yield paragraph(words, "strong")
    if result.member.said.note:
        yield paragraph(result.member.said.note)


def _said(book: Context, result: MemberResult) -> Iterator[Block]:
    """Yield what is said of a member: lengths, ends, restraints, buckling lengths; its loads."""
    member, case, show = result.member, result.case, book.show
    said = member.said
    grid = Table([Column("given"), Column("value")])
    grid.add("role", said.role)
    names = dict.fromkeys(section.name for _, _, section in member.stretches)
    cells = [Words(name, link=book.sections.get(name, "")) for name in names]
    parted = [cell for one in cells for cell in (Words(", "), one)][1:]
    grid.add("section", tuple(parted))
    for symbol in ("Fy", "Fu"):
        grid.add(symbol, show.show(float(getattr(case, symbol)), "stress"))
    if said.choose is not None and said.choose.group:
        grid.add("group", said.choose.group)
    lengths = " + ".join(show.show(x, "length", 4) for x in said.spans) or show.show(
        member.length, "length", 4
    )
    grid.add("length" if not said.spans else "spans", lengths)
    if said.through:
        grid.add("through the joints", ", ".join(said.through))
        grid.add("joined", ", ".join(said.joined_about("major")))
    else:
        grid.add("ends", ", ".join(member.ends_about("major")))
    for words in restraint_words(member, show):
        name, _, rest = words.partition(" held ")
        grid.add(f"{name} held" if rest else "held", rest or words)
    for axis in ("major", "minor"):
        length, K = (getattr(case.buckling, f"{of}_{axis}") for of in ("length", "K"))
        words = f"K = {float(K):.3g}, {show.show(float(length), 'length', 4)}"
        grid.add(f"buckling, {axis} axis", words)
    grid.add("own weight", "included" if said.self_weight else "left out")
    loads = _loads(result, show)
    yield Abreast(grid, loads) if loads is not None else grid


def _loads(result: MemberResult, show: DisplayUnits) -> Table | None:
    if not result.member.said.loads:
        return None
    grid = Table([Column("case"), Column("load", wraps=True), Column("where", wraps=True)])
    for load in result.member.said.loads:
        grid.add(name_of(load.case), value_words(load, show), _where(load, show))
    return grid


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
    if load.alternative:
        words.append(load.alternative)
    return ", ".join(words) or "all along"


def _figure(book: Context, result: MemberResult) -> Iterator[Block]:
    if result.rows or result.forces.combinations:
        words = f"{result.member.mark}: how it is held and loaded, and its diagrams"
        yield Drawing(member_drawing(book.job, result), words)


def in_order(result: MemberResult) -> list[Row]:
    """Return the checks of a member, the worst first."""
    return sorted(result.rows, key=lambda row: -sortable(row.utilisation))


def _anchor_of_check(book: Context, result: MemberResult, number: int) -> str:
    return f"{book.anchors[result.member.mark]}-c{number}" if book.depth == "full" else ""


def _checks(book: Context, result: MemberResult) -> Iterator[Block]:
    show = book.show
    heads = ("check", "clause", "demand", "capacity", "ratio", "combination", "at")
    numbers = ("demand", "capacity", "ratio", "at")
    grid = Table([Column(name, right=name in numbers) for name in heads])
    for number, row in enumerate(in_order(result)):
        demand, capacity = (
            show.show(value, row.kind) if value is not None else ""
            for value in (row.demand, row.capacity)
        )
        style = STYLE[row.status]
        name = Words(row.name, link=_anchor_of_check(book, result, number))
        grid.add(name, row.clause, demand, capacity, Words(ratio(row.utilisation), style),
                 row.combination, place(row, result.member, show))  # fmt: skip
    yield grid


def _segments(book: Context, result: MemberResult) -> Iterator[Block]:
    member = result.member
    code = book.job.code_of(member.said)
    by_shape = code.uses_moment_shape(result.case.shape, book.job.design_of(member.said))
    if by_shape and result.segments and result.stretches:
        rows = segment_rows(book.job, member, result)
        yield from segments_document(member.mark, rows, code, book.show)


def _supports(book: Context, result: MemberResult) -> Iterator[Block]:
    if result.cases is not None:
        yield paragraph("Reactions and end forces, by case and combination:", "strong")
        yield supports_table(book.job, [result], marked=False)


def _frequency(book: Context, result: MemberResult) -> Iterator[Block]:
    """Yield how the beam of a floor swings."""
    if words := book.frequencies.get(result.member.mark):
        yield paragraph(f"{words[:1].upper()}{words[1:]}.")


def _notes(book: Context, result: MemberResult) -> Iterator[Block]:
    """Yield what is assumed or overridden; what a designer should act on first."""
    others = [note for note in result.notes if note not in result.warnings]
    if result.warnings:
        yield paragraph("To be looked at:", "strong")
        yield Notes(result.warnings)
    if others:
        yield paragraph("Assumptions and overrides:", "strong")
        yield Notes(others)


# What a member's part holds, in this order. A kind of member with more to show, such as one of
# several stages, adds a function here that yields nothing for the others.
PARTS: tuple[Callable[[Context, MemberResult], Iterator[Block]], ...] = (
    _verdict,
    _said,
    _figure,
    _checks,
    _segments,
    _supports,
    _frequency,
    _notes,
)


def _working(book: Context, result: MemberResult) -> Iterator[Block]:
    """Yield every step of every check; what was found above is linked to where it was."""
    mark, show = result.member.mark, book.show
    headings: dict[tuple[str, str], str] = {}
    values: Origins = {}
    for number, part in enumerate(book.table.explain(mark).parts):
        row, own = part.row, _anchor_of_check(book, result, number)
        yield Chapter(f"{mark}, {row.name}", 3, own, row.clause)
        yield Paragraph((Words(whereabouts(row, result.member, show)),))
        yield from _from_above(part.entries, (own, row.name), values)
        anchors, links = _cross_references(part.entries, own, headings)
        yield Steps(part.entries, show, anchors, links, level=3)
        yield Verdict(verdict_of(row))


def _from_above(entries: Sequence[Entry], own: tuple[str, str], values: Origins) -> Iterator[Block]:
    """Yield where values come from that were worked out for a check above; note those of this."""
    here = {key for key in map(_worked_out, entries) if key is not None}
    used: dict[tuple[str, str], dict[str, None]] = {}
    for entry in entries:
        if isinstance(entry, Step):
            for name, value in entry.arguments.items():
                key = (name, float(value))
                if key in values and key not in here:
                    used.setdefault(values[key], {})["".join(symbol_parts(name))] = None
    words = [
        word
        for (anchor, check), symbols in used.items()
        for word in (Words("; "), Words(f"{', '.join(symbols)} of {check}", link=anchor))
    ]
    if words:
        yield Paragraph((Words("From above: "), *words[1:]))
    for key in here:
        values.setdefault(key, own)


def _worked_out(entry: Entry) -> tuple[str, float] | None:
    """Return the symbol and the value that an entry brings."""
    if isinstance(entry, Step) and entry.formula.symbol is not None:
        return entry.formula.symbol, float(entry.result)
    return (entry.symbol, float(entry.value)) if isinstance(entry, Given) else None


def _cross_references(
    entries: Sequence[Entry], own: str, found: dict[tuple[str, str], str]
) -> tuple[dict[int, str], dict[int, str]]:
    """Return the anchors of the headings among entries, and where those "as above" lead to."""
    anchors: dict[int, str] = {}
    links: dict[int, str] = {}
    for i, entry in enumerate(entries):
        if not isinstance(entry, Heading):
            continue
        title = entry.title.removesuffix(AS_ABOVE)
        key = (title, entry.clause)
        if title != entry.title and key in found:
            links[i] = found[key]
        elif title == entry.title and key not in found:
            anchors[i] = found[key] = f"{own}-s{i}"
    return anchors, links
