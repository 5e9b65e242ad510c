"""A checked schedule as blocks: its worst rows, or all, and the total."""

from __future__ import annotations

import math

from welbric.checking.shown import STYLE, VERDICT, utilisation_cell
from welbric.checking.verdicts import OK, OUTSIDE, OVER
from welbric.documents.blocks import Column, Document, Table, Words, paragraph
from welbric.inputs.schedules import Entry, steel_of
from welbric.studies.schedule_checks import CheckedSchedule, Verdict

MOST = 25  # rows that are shown of a long schedule


def schedule_document(done: CheckedSchedule, every: bool = False) -> Document:
    """Return the rows of a schedule, the worst first unless all are wanted."""
    pairs = list(zip(done.schedule.entries, done.verdicts, strict=True))
    shown = pairs if every else sorted(pairs, key=_badness)[:MOST]
    grid = Table(
        [
            Column("line", right=True, wraps=True),
            Column("mark", wraps=True, widest=12),
            Column("section", wraps=True, widest=18),
            Column("combination", wraps=True, widest=16),
            Column("utilisation"),
            Column("verdict"),
            Column("governed by", wraps=True, widest=30),
            Column("clause"),
        ]
    )
    for entry, verdict in shown:
        style = STYLE[verdict.status]
        section = verdict.section or entry.section
        grid.add(
            str(entry.line),
            entry.mark,
            section.name if section else "–",
            entry.combination,
            utilisation_cell(verdict.utilisation, style),
            Words(VERDICT[verdict.status], style),
            verdict.reason if verdict.status == OUTSIDE else verdict.check,
            verdict.clause,
        )
    return [grid, paragraph(total(done, len(shown), every))]


def _badness(pair: tuple[Entry, Verdict]) -> tuple[int, float, int]:
    entry, verdict = pair
    order = {OVER: 0, OUTSIDE: 1, OK: 2}[verdict.status]
    value = verdict.utilisation
    return order, 0.0 if math.isnan(value) else -value, entry.line


def steels_taken(done: CheckedSchedule) -> str:
    """Return which steels were taken for the rows that name none."""
    taken: dict[str, int] = {}
    for entry, verdict in zip(done.schedule.entries, done.verdicts, strict=True):
        section = verdict.section or entry.section
        if not entry.steel and section is not None:
            name = str(steel_of(entry.steel, section))
            taken[name] = taken.get(name, 0) + 1
    if not taken:
        return ""
    rows = sum(taken.values())
    grades = ", ".join(f"{name} in {count}" for name, count in taken.items())
    return f".\n{rows} rows name no steel: what is usual for their sections is taken ({grades})"


def total(done: CheckedSchedule, shown: int, every: bool) -> str:
    """Return the counts in words."""
    rows = len(done.verdicts)
    marks = len({entry.mark for entry in done.schedule.entries})
    words = f"\n{rows} rows of {marks} members: {done.count(OK)} within limits"
    for status, name in ((OVER, "over"), (OUTSIDE, "outside")):
        if done.count(status):
            words += f", {done.count(status)} {name}"
    if done.mass > 0:
        mass = done.display.convert(done.mass, "mass")
        words += f"; {mass:,.0f} {done.display.labels['mass']} in all"
    if shown < rows and not every:
        words += f". The {shown} worst are shown (--all shows every row)"
    words += steels_taken(done)
    return (
        f"{words}.\nA schedule has no deflections, no concentrated forces on webs, and no "
        "connections but the net section given."
    )
