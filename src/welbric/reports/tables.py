"""The check table and the section tables: terminal, HTML, CSV."""

from __future__ import annotations

import html
import io
import math
import textwrap
from collections.abc import Callable, Sequence
from typing import TYPE_CHECKING, Any

from rich import box
from rich.console import Console, Group, RenderableType
from rich.table import Table
from rich.text import Text

from welbric.results import OK, OUTSIDE, OVER, ROUNDING, CheckTable, MemberResult, Row, SegmentRow
from welbric.sections.table import PROPERTIES, Section
from welbric.standards import standard
from welbric.units import DisplayUnits, digits

if TYPE_CHECKING:
    from welbric.bracing import BraceNeed, ContinuousNeed, TwistNeed
    from welbric.lateral import CriticalLoad
    from welbric.sections.reconcile import Family
    from welbric.standards.scope import Clause

STYLE = {OK: "", OVER: "bold red", OUTSIDE: "bold magenta"}
VERDICT = {OK: "ok", OVER: "OVER", OUTSIDE: "outside"}
BAR = 6  # cells that stand for a utilisation of 1


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


def utilisation(row: Row, style: str) -> Text:
    """Write a utilisation as number and bar."""
    return Text.assemble(
        (f"{ratio(row.utilisation):>4}", style), " ", (bar(row.utilisation), style or "dim")
    )


def place(row: Row, show: DisplayUnits) -> str:
    """Write where along the member a check governs."""
    return show.show(row.place, "length", 3)


def _folded(name: str) -> str:
    return "\n".join(textwrap.wrap(name, LONGEST_CHECK))


def _member_row(result: MemberResult, show: DisplayUnits) -> list[str | Text]:
    row = result.governing
    member = result.member
    verdict = Text(VERDICT[result.status], STYLE[result.status])
    if row is None:
        return [
            member.mark,
            Text(member.section_names),
            "   –",
            verdict,
            "nothing acts on it",
            "",
            "",
            "",
        ]
    return [
        Text(member.mark),
        Text(member.section_names),
        utilisation(row, STYLE[result.status]),
        verdict,
        _folded(row.name),
        row.clause,
        Text(row.combination),
        place(row, show) if row.status != OUTSIDE else "",
    ]


def check_table(table: CheckTable, details: bool = False) -> RenderableType:
    """Return the check table of a job, for rich to print.

    Parameters
    ----------
    table : CheckTable
    details : bool
        Show every check of every member, not only what governs.
    """
    job, show = table.job, table.job.display
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    grid.add_column("mark", overflow="fold", max_width=12)
    grid.add_column("section", overflow="fold", max_width=18)
    for heading in ("utilisation", "verdict"):
        grid.add_column(heading, no_wrap=True)
    # Folded by hand: what is squeezed where the page is narrow are the sections and combinations.
    grid.add_column("governed by", no_wrap=True)
    grid.add_column("clause", no_wrap=True)
    grid.add_column("combination", overflow="fold", max_width=17)
    grid.add_column("at", justify="right", no_wrap=True)
    for result in table:
        grid.add_row(*_member_row(result, show))
        if details:
            for row in result.rows:
                grid.add_row(
                    "",
                    "",
                    utilisation(row, STYLE[row.status]),
                    Text(VERDICT[row.status], STYLE[row.status] or "dim"),
                    Text(_folded(row.name), "dim"),
                    Text(row.clause, "dim"),
                    Text(row.combination, "dim"),
                    Text(place(row, show) if row.status != OUTSIDE else "", "dim"),
                )
            grid.add_section()
    head = Text.assemble(
        (job.name, "bold"), f"  {job.standard}, {job.method}; loads {job.loading}", style=""
    )
    lines: list[RenderableType] = [head, Text(""), grid, Text("")]
    for result in table:
        for row in result.rows:
            if row.status == OUTSIDE:
                reason = f"{result.member.mark}, {row.name} ({row.clause}): outside – {row.reason}"
                lines.append(Text(reason, STYLE[OUTSIDE]))
        for warning in result.warnings:
            lines.append(Text(f"{result.member.mark}: {warning}", STYLE[OUTSIDE]))
        if details:
            said = [note for note in result.notes if note not in result.warnings]
            said += reaction_words(result, show)
            lines += [Text(f"{result.member.mark}: {note}", "dim") for note in said]
    style = "bold" if table.ok else STYLE[OVER]
    lines.append(Text(table.summary(), style))
    lines.append(Text(f"Not checked here: {standard(table.job.standard).NOT_CHECKED}.", "dim"))
    return Group(*lines)


def sideways_words(critical: CriticalLoad, show: DisplayUnits) -> RenderableType:
    """Return in words when a member buckles sideways as a whole."""
    if not math.isfinite(critical.factor):
        return Text(f"\n{critical.combination} does not make the member buckle sideways.")
    head = (
        f"\nAs a whole the member buckles sideways, elastically, at {digits(critical.factor)} × "
        f"{critical.combination} (eigenvalue):\nlargest moment "
        f"{show.show(critical.moment, 'moment')} at {show.show(critical.place, 'length', 3)}, "
        f"Mcr = {show.show(critical.Mcr, 'moment')}."
    )
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for heading in ("flange", "from", "to", "moment", "Mcr", "Cb by eigenvalue"):
        grid.add_column(heading, justify="left" if heading == "flange" else "right")
    for part in critical.segments:
        if critical.tells(part):
            s = part.segment
            ends = (show.show(at, "length", 3) for at in (s.start, s.end))
            moments = (show.show(M, "moment", 3) for M in (part.moment, part.Mcr))
            grid.add_row(s.flange, *ends, *moments, f"{part.Cb:.2f}")
    return Group(Text(head), grid) if grid.row_count else Text(head)


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


def segment_table(mark: str, rows: Sequence[SegmentRow], show: DisplayUnits) -> RenderableType:
    """Return the segments of a member, for rich to print."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for heading in ("flange", "from", "to", "Lb", "held by", "moment", "Cb", "utilisation"):
        left = heading in {"flange", "held by", "utilisation"}
        grid.add_column(heading, justify="left" if left else "right", no_wrap=heading != "held by")
    grid.add_column("combination", overflow="fold")
    for row in rows:
        s = row.segment
        held = "all along" if s.continuous else f"{s.held_start}, {s.held_end}"
        bends = row.moment > 0
        grid.add_row(
            s.flange,
            show.show(s.start, "length", 3),
            show.show(s.end, "length", 3),
            show.show(s.Lb, "length", 3),
            held,
            show.show(row.moment, "moment", 3) if bends else "–",
            f"{row.Cb:.2f}" if bends else "–",
            Text(ratio(row.utilisation), STYLE[row.status]) if bends else "–",
            row.combination,
        )
    head = f"{mark}: segments for lateral-torsional buckling, each at its worst combination"
    return Group(Text(head, "bold"), Text(""), grid)


def brace_table(needs: Sequence[BraceNeed], show: DisplayUnits) -> RenderableType:
    """Return what the restraints of the flanges must be able to do, for rich to print."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    headings = ("force", "stiffness", "panel shear", "panel stiffness")
    for heading in ("flange", "at", "moment", *headings):
        left = heading == "flange"
        grid.add_column(heading, justify="left" if left else "right", no_wrap=True)
    grid.add_column("combination", overflow="fold")
    for need in needs:
        grid.add_row(
            need.flange,
            show.show(need.place, "length", 3),
            show.show(need.moment, "moment", 3),
            show.show(need.force, "force", 3),
            show.show(need.stiffness, "spring", 3),
            show.show(need.panel_shear, "force", 3),
            show.show(need.panel_stiffness, "spring", 3),
            need.combination + (" (the moment reverses beside it)" if need.reverses else ""),
        )
    head = "What the restraints must be able to do, as point or panel braces (Appendix 6, 6.3.1):"
    return Group(Text(f"\n{head}"), grid)


def twist_table(needs: Sequence[TwistNeed], show: DisplayUnits) -> RenderableType:
    """Return what braces against twisting must be able to do, for rich to print."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for heading in ("at", "moment", "strength", "stiffness"):
        grid.add_column(heading, justify="right", no_wrap=True)
    grid.add_column("combination", overflow="fold")
    for need in needs:
        stiff = show.show(need.stiffness, "rotation_spring", 3)
        grid.add_row(
            show.show(need.place, "length", 3),
            show.show(need.moment, "moment", 3),
            show.show(need.strength, "moment", 3),
            stiff if math.isfinite(need.stiffness) else "none suffices: the web is too flexible",
            need.combination,
        )
    head = "What braces against twisting must be able to do (Appendix 6, 6.3.2, Cb = 1):"
    return Group(Text(f"\n{head}"), grid)


def continuous_table(needs: Sequence[ContinuousNeed], show: DisplayUnits) -> RenderableType:
    """Return what must hold a member against twisting all along, for rich to print."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for heading in ("from", "to", "moment", "unbraced for it", "strength", "stiffness"):
        grid.add_column(heading, justify="right", no_wrap=True)
    grid.add_column("combination", overflow="fold")
    for need in needs:
        stiff = show.show(need.stiffness, "rotation_spring_along", 3)
        grid.add_row(
            show.show(need.start, "length", 3),
            show.show(need.end, "length", 3),
            show.show(need.moment, "moment", 3),
            show.show(need.unbraced, "length", 3),
            show.show(need.strength, "moment_along", 3),
            stiff if math.isfinite(need.stiffness) else "none suffices: the web is too flexible",
            need.combination,
        )
    head = "What holds it against twisting all along must be able to do (6.3.2b, Cb = 1):"
    return Group(Text(f"\n{head}"), grid)


# Of what restraints need, in the order it is printed.
NEEDS: tuple[Callable[[Any, DisplayUnits], RenderableType], ...] = (
    brace_table,
    twist_table,
    continuous_table,
)


def check_table_text(table: CheckTable, width: int = 100) -> str:
    """Return the check table as plain text."""
    buffer = io.StringIO()
    Console(file=buffer, width=width, color_system=None, legacy_windows=False).print(
        check_table(table)
    )
    return buffer.getvalue()


def check_table_html(table: CheckTable) -> str:
    """Return the check table as an HTML table; text of the user is escaped."""
    show = table.job.display
    colour = {OK: "#1b6e53", OVER: "#b3261e", OUTSIDE: "#8a6d00"}
    head = "".join(
        f"<th style='text-align:left'>{name}</th>"
        for name in (
            *("mark", "section", "ratio", "verdict", "governed by", "clause", "combination", "at"),
        )
    )
    body = ""
    for result in table:
        row = result.governing
        name, clause = (row.name, row.clause) if row else ("nothing acts on it", "")
        cells = [
            result.member.mark,
            result.member.section_names,
            ratio(result.utilisation),
            VERDICT[result.status],
            name,
            clause,
            row.combination if row else "",
            place(row, show) if row else "",
        ]
        written = [f"<td style='text-align:left'>{html.escape(cell)}</td>" for cell in cells]
        written[3] = written[3].replace(
            "text-align:left", f"text-align:left;font-weight:bold;color:{colour[result.status]}"
        )
        body += "<tr>" + "".join(written) + "</tr>"
    return (
        f"<table><caption style='text-align:left'><b>{html.escape(table.job.name)}</b>, "
        f"{html.escape(table.job.standard)} {table.job.method}</caption>"
        f"<thead><tr>{head}</tr></thead><tbody>{body}</tbody></table>"
        f"<p>{html.escape(table.summary())}</p>"
    )


LONGEST_CHECK = 28  # characters of a check's name on one line

# Heading -> the properties that may stand under it, the first that a shape has.
SHOWN = {
    "d": ("d",),
    "b": ("bf", "b", "bf_top"),
    "tw": ("tw", "t"),
    "tf": ("tf", "tf_top"),
    "mass": ("mass",),
    "A": ("A",),
    "I major": ("I_major",),
    "Wpl major": ("Wpl_major",),
    "I minor": ("I_minor",),
    "Wpl minor": ("Wpl_minor",),
}


def section_list(sections: Sequence[Section], show: DisplayUnits) -> RenderableType:
    """Return a table of sections, for rich to print."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    grid.add_column("section", no_wrap=True)
    for heading, names in SHOWN.items():
        unit = show.labels.get(PROPERTIES[names[0]][0], "")
        grid.add_column(f"{heading}\n{unit}", justify="right", no_wrap=True)
    for section in sections:
        cells = []
        for names in SHOWN.values():
            known = [name for name in names if name in section.properties]
            cells.append(
                digits(show.convert(getattr(section, known[0]), PROPERTIES[known[0]][0]))
                if known
                else ""
            )
        grid.add_row(section.name, *cells)
    return grid


def section_sheet(sections: Sequence[Section], show: DisplayUnits) -> RenderableType:
    """Return every property of one section, or of several side by side, for rich to print."""
    grid = Table(box=None, pad_edge=False, padding=(0, 2, 0, 0), header_style="bold")
    grid.add_column("")
    grid.add_column("")
    for section in sections:
        grid.add_column(section.name, justify="right", no_wrap=True)
    listed = [section.listed() for section in sections]
    for name, (kind, meaning) in PROPERTIES.items():
        if any(name in known for known in listed):
            values = (
                show.show(section.properties[name], kind) if name in section.properties else ""
                for section in sections
            )
            grid.add_row(meaning, name.replace("_", " "), *values)
    return grid


def reconciliation(families: Sequence[Family]) -> RenderableType:
    """Return how the catalogues reconcile, for rich to print."""
    lines: list[RenderableType] = []
    for family in families:
        names = dict.fromkeys(d.section for d in family.left_out)
        head = f"{family.file} ({family.standard}): {family.shipped} shipped"
        lines.append(Text(head + (f", {len(names)} left out" if names else ""), "bold"))
        grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
        grid.add_column("largest deviation", no_wrap=True)
        for heading in ("computed / published", "allowed", "in"):
            grid.add_column(heading, justify="right", no_wrap=True)
        for quantity, d in family.largest.items():
            allowed = f"{100 * d.allowed / d.published:.2f} %"
            grid.add_row(quantity, f"{100 * d.deviation:+.2f} %", allowed, d.section)
        lines.append(grid)
        for d in family.left_out:
            words = f"  left out: {d.section}, {d.quantity} {d.published:g} published, "
            lines.append(Text(f"{words}{d.computed:.4g} computed, {d.allowed:.2g} allowed"))
        lines.append(Text(""))
    return Group(*lines)


def scope_table(standard: str, clauses: Sequence[Clause]) -> RenderableType:
    """Return what of a standard is covered, clause by clause, for rich to print."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for name, width in (("clause", 10), ("", 24), ("status", 12), ("limit", None)):
        grid.add_column(name, overflow="fold", max_width=width)
    grid.add_column("equations", justify="right")
    for clause in clauses:
        style = {"outside": "magenta", "with a limit": "cyan"}.get(clause.status, "")
        count = str(len(clause.equations)) if clause.equations else ""
        limit = clause.limit.replace("`", "")
        grid.add_row(
            Text(clause.number), clause.title, Text(clause.status, style), Text(limit), count
        )
    return Group(Text(standard, "bold"), grid)
