"""The step-by-step working of a member: terminal text, Typst, HTML with MathML."""

from __future__ import annotations

import html
import re
import textwrap

from welbric.restraints import Segment
from welbric.results import Explanation, Row
from welbric.typeset import MATHML, TEXT, TYPST, Dialect, write_condition, write_step
from welbric.units import DisplayUnits
from welbric.working import Entry, Given, Heading, Note, Step

NO_BREAK, EM_SPACE = "\u00a0", "\u2003"


def title_of(explanation: Explanation) -> str:
    """Return what is worked out: mark, section, steel, standard and method."""
    job, member = explanation.job, explanation.result.member
    return f"{member.mark}: {member.section_names}, {member.steel}, {job.standard} {job.method}"


def givens(explanation: Explanation) -> list[tuple[str, str]]:
    """Return the section and the steel as (name, value)."""
    show = explanation.job.display
    result = explanation.result
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


def pairs_of(explanation: Explanation) -> str:
    """Return the section and the steel as one text; each pair holds together."""
    pairs = (f"{name} = {value}".replace(" ", NO_BREAK) for name, value in givens(explanation))
    return f"{EM_SPACE} ".join(pairs)


def whereabouts(row: Row, show: DisplayUnits) -> str:
    """Return the combination, the place and the segment of a row."""
    words = [row.combination] if row.combination else []
    if row.stretch is not None and row.stretch.only_one_of_many:
        words.insert(0, row.stretch.section.name)
    if row.status != "outside" or row.combination:
        words.append(f"at {show.show(row.place, 'length', 3)}")
    if row.segment is not None:
        words.append(segment_words(row.segment, show))
    return "; ".join(words)


def segment_words(segment: Segment, show: DisplayUnits) -> str:
    """Return a segment in words."""
    flange = "both flanges" if segment.flange == "both" else f"{segment.flange} flange"
    if segment.continuous:
        return f"{flange} held all along"
    start = show.show(segment.start, "length", 3)
    end = show.show(segment.end, "length", 3)
    return f"{flange} from {start} ({segment.held_start}) to {end} ({segment.held_end})"


def verdict_of(row: Row) -> str:
    """Return the closing words of a check."""
    if row.status == "outside":
        return f"outside: {row.reason}"
    verdict = "within the limit" if row.status == "ok" else "OVER the limit"
    return f"utilisation {row.utilisation:.3f}: {verdict}"


def as_text(explanation: Explanation, width: int = 100) -> str:
    """Return the working as plain text."""
    show = explanation.job.display
    lines = [title_of(explanation), "=" * min(len(title_of(explanation)), width), ""]
    lines += [
        line.replace(NO_BREAK, " ").replace(EM_SPACE, "  ").rstrip()
        for line in textwrap.wrap(pairs_of(explanation), width - 10)
    ]
    lines += [f"Note: {note}" for note in explanation.result.notes]
    for number, part in enumerate(explanation.parts, 1):
        row = part.row
        title = f"{number}. {row.name[:1].upper()}{row.name[1:]}"
        lines += ["", f"{title}{row.clause.rjust(width - len(title))}"]
        lines += ["-" * width]
        lines += textwrap.wrap(
            whereabouts(row, show), width - 3, initial_indent="   ", subsequent_indent="   "
        )
        for entry in part.entries:
            lines += _entry_text(entry, show, width)
        lines.append(f"   => {verdict_of(row)}")
    return "\n".join(lines) + "\n"


def _entry_text(entry: Entry, show: DisplayUnits, width: int) -> list[str]:
    match entry:
        case Heading():
            return ["", f"   {entry.title} ({entry.clause})"]
        case Note():
            return textwrap.wrap(
                entry.text, width - 3, initial_indent="   ", subsequent_indent="   "
            )
        case Given():
            kind = entry.glossary.symbols[entry.symbol].kind
            symbol = TEXT.symbol(entry.symbol).text
            return [f"   {symbol} = {show.show(entry.value, kind)}   ({entry.source})"]
        case Step() if entry.formula.symbol is None:
            text = f"   since {write_condition(entry, TEXT, show)}"
            return [_beside(text, entry.formula.clause, width)]
    line = write_step(entry, TEXT, show)
    first, *others = line.equals
    written = [_beside(f"   {line.symbol} = {first}", line.clause, width)]
    for other in others:
        indent = " " * (3 + len(line.symbol))
        written += textwrap.wrap(
            f"{indent} = {_tied(other)}",
            width,
            subsequent_indent=indent + "   ",
            break_long_words=False,
        )
    return [text.replace(NO_BREAK, " ") for text in written]


def _tied(text: str) -> str:
    """Keep a number and its unit on one line."""
    return re.sub(r"(?<=\d) (?=[a-z%°(A-Z])", NO_BREAK, text)


def _beside(text: str, clause: str, width: int) -> str:
    gap = width - len(text) - len(clause)
    if gap >= 2:
        return text + " " * gap + clause
    broken = textwrap.wrap(text, width, subsequent_indent=" " * 8, break_long_words=False)
    last = broken[-1]
    if width - len(last) - len(clause) >= 2:
        broken[-1] = last + " " * (width - len(last) - len(clause)) + clause
    else:
        broken.append(clause.rjust(width))
    return "\n".join(["   " + broken[0].lstrip(), *broken[1:]])


# Typst


def typst_text(text: str) -> str:
    """Return text of any origin as a Typst string that cannot become markup."""
    escaped = text.replace("\\", "\\\\").replace('"', '\\"')
    return f'#text("{escaped}")'


def as_typst(explanation: Explanation) -> str:
    """Return the working as a Typst document."""
    show = explanation.job.display
    lines = [
        '#set page(paper: "a4", margin: 18mm, numbering: "1")',
        "#set text(size: 9.5pt)",
        "#set par(leading: 0.55em)",
        "#show math.equation.where(block: true): set align(left)",
        f"= {typst_text(title_of(explanation))}",
        typst_text(pairs_of(explanation)),
        "",
    ]
    lines += [f"- {typst_text(note)}" for note in explanation.result.notes]
    for part in explanation.parts:
        row = part.row
        lines.append(
            f"== {typst_text(row.name[:1].upper() + row.name[1:])} #h(1fr) {typst_text(row.clause)}"
        )
        lines += [typst_text(whereabouts(row, show)), ""]
        for entry in part.entries:
            lines += [*_entry_typst(entry, show), ""]
        lines += [f"*{typst_text(verdict_of(row))}*", ""]
    return "\n".join(lines)


def _entry_typst(entry: Entry, show: DisplayUnits) -> list[str]:
    match entry:
        case Heading():
            return [f"*{typst_text(entry.title)}* #h(1fr) {typst_text(entry.clause)}"]
        case Note():
            return [typst_text(entry.text)]
        case Given():
            return [
                f"{_given_math(entry, TYPST, show, '$', '$')} #h(1em) {typst_text(entry.source)}"
            ]
        case Step() if entry.formula.symbol is None:
            clause = typst_text(entry.formula.clause)
            return [f"since ${write_condition(entry, TYPST, show)}$ #h(1fr) {clause}"]
    line = write_step(entry, TYPST, show)
    first, *others = line.equals
    rows = [f"{line.symbol} &= {first}", *(f"&= {other}" for other in others)]
    math = " \\\n".join(rows)
    return [f"#grid(columns: (1fr, auto), $ {math} $, {_quoted(line.clause)})"]


def _quoted(text: str) -> str:
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'


def _given_math(entry: Given, dialect: Dialect, show: DisplayUnits, before: str, after: str) -> str:
    kind = entry.glossary.symbols[entry.symbol].kind
    value = dialect.value(entry.value, kind, show).text
    return before + dialect.symbol(entry.symbol).text + dialect.operator("=") + value + after


# HTML


def as_html(explanation: Explanation) -> str:
    """Return the working as an HTML fragment with MathML; all text is escaped."""
    show = explanation.job.display
    given = html.escape(pairs_of(explanation))
    lines = [f"<section><h2>{html.escape(title_of(explanation))}</h2><p>{given}</p>"]
    if explanation.result.notes:
        items = "".join(f"<li>{html.escape(note)}</li>" for note in explanation.result.notes)
        lines.append(f"<ul>{items}</ul>")
    for part in explanation.parts:
        row = part.row
        lines.append(f"<h3>{html.escape(row.name[:1].upper() + row.name[1:])} ({row.clause})</h3>")
        lines.append(f"<p>{html.escape(whereabouts(row, show))}</p>")
        for entry in part.entries:
            lines.append(_entry_html(entry, show))
        lines.append(f"<p class='verdict'>{html.escape(verdict_of(row))}</p>")
    return "\n".join([*lines, "</section>"])


PAGE_STYLE = """
body { max-width: 56rem; margin: 2rem auto; padding: 0 1rem; color: #1f2d3a;
       font: 16px/1.45 "Source Serif 4", Charter, Georgia, serif; }
h2 { border-bottom: 2px solid #1f2d3a; } h3 { margin-top: 2rem; border-bottom: 1px solid #c9d6d3; }
h4 { margin-bottom: 0.3rem; font-weight: 600; } math { font-size: 1.05em; }
mtd { padding: 0.15em 0.1em; }
p.step { display: flex; justify-content: space-between; gap: 2rem; margin: 0.35rem 0; }
p.step > span { color: #56707a; white-space: nowrap; } p.verdict { font-weight: bold; }
"""


def page(explanation: Explanation) -> str:
    """Return the working as a whole HTML page."""
    title = html.escape(title_of(explanation))
    return (
        f"<!DOCTYPE html>\n<html lang='en'><head><meta charset='utf-8'><title>{title}</title>"
        f"<style>{PAGE_STYLE}</style></head>\n<body>{as_html(explanation)}</body></html>\n"
    )


def _entry_html(entry: Entry, show: DisplayUnits) -> str:
    match entry:
        case Heading():
            return f"<h4>{html.escape(entry.title)} ({html.escape(entry.clause)})</h4>"
        case Note():
            return f"<p>{html.escape(entry.text)}</p>"
        case Given():
            math = _given_math(entry, MATHML, show, "<math>", "</math>")
            return f"<p class='step'>{math}<span>{html.escape(entry.source)}</span></p>"
        case Step() if entry.formula.symbol is None:
            clause = html.escape(entry.formula.clause)
            condition = write_condition(entry, MATHML, show)
            return (
                f"<p class='step'><math><mtext>since&ensp;</mtext>{condition}</math>"
                f"<span>{clause}</span></p>"
            )
    line = write_step(entry, MATHML, show)
    left = "<mtd style='text-align:left'>"
    equals = f"</mtd></mtr><mtr><mtd></mtd><mtd><mo>=</mo></mtd>{left}".join(line.equals)
    table = (
        f"<mtable displaystyle='true'><mtr><mtd>{line.symbol}</mtd>"
        f"<mtd><mo>=</mo></mtd>{left}{equals}</mtd></mtr></mtable>"
    )
    return (
        f"<p class='step'><math displaystyle='true'>{table}</math>"
        f"<span>{html.escape(line.clause)}</span></p>"
    )
