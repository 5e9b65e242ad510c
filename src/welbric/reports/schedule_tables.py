"""A checked schedule for the terminal: its worst rows, or all, and the total."""

from __future__ import annotations

import math

from rich import box
from rich.console import Group, RenderableType
from rich.table import Table
from rich.text import Text

from welbric.bulk import CheckedSchedule, Verdict
from welbric.reports.tables import STYLE, VERDICT, bar, ratio
from welbric.results import OK, OUTSIDE, OVER
from welbric.schedules import Entry

MOST = 25  # rows that are shown of a long schedule


def schedule_table(done: CheckedSchedule, every: bool = False) -> RenderableType:
    """Return the rows of a schedule, the worst first unless all are wanted."""
    pairs = list(zip(done.schedule.entries, done.verdicts, strict=True))
    shown = pairs if every else sorted(pairs, key=_badness)[:MOST]
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    grid.add_column("line", justify="right")
    grid.add_column("mark", overflow="fold", max_width=12)
    grid.add_column("section", overflow="fold", max_width=18)
    grid.add_column("combination", overflow="fold", max_width=16)
    for heading in ("utilisation", "verdict"):
        grid.add_column(heading, no_wrap=True)
    grid.add_column("governed by", overflow="fold", max_width=30)
    grid.add_column("clause", no_wrap=True)
    for entry, verdict in shown:
        style = STYLE[verdict.status]
        section = verdict.section or entry.section
        grid.add_row(
            str(entry.line),
            Text(entry.mark),
            Text(section.name if section else "–"),
            Text(entry.combination),
            Text.assemble((f"{ratio(verdict.utilisation):>4}", style), " ",
                          (bar(verdict.utilisation), style or "dim")),
            Text(VERDICT[verdict.status], style),
            Text(verdict.reason if verdict.status == OUTSIDE else verdict.check),
            verdict.clause,
        )  # fmt: skip
    return Group(grid, Text(total(done, len(shown), every)))


def _badness(pair: tuple[Entry, Verdict]) -> tuple[int, float, int]:
    entry, verdict = pair
    order = {OVER: 0, OUTSIDE: 1, OK: 2}[verdict.status]
    value = verdict.utilisation
    return order, 0.0 if math.isnan(value) else -value, entry.line


def total(done: CheckedSchedule, shown: int, every: bool) -> str:
    """Return the counts in words."""
    rows = len(done.verdicts)
    marks = len({entry.mark for entry in done.schedule.entries})
    words = f"\n{rows} rows of {marks} members: {done.count(OK)} within limits"
    for status, name in ((OVER, "over"), (OUTSIDE, "outside")):
        if done.count(status):
            words += f", {done.count(status)} {name}"
    if done.mass > 0:
        words += f"; {done.mass / 1000:,.1f} t in all"
    if shown < rows and not every:
        words += f". The {shown} worst are shown (--all shows every row)"
    return (
        f"{words}.\nA schedule has no deflections, no concentrated forces on webs, and no "
        "connections but the net section given."
    )
