"""Workings as a Typst document, which becomes a PDF."""

from __future__ import annotations

from welbric.documents.blocks import (
    Block,
    Cell,
    Chapter,
    Contents,
    Cover,
    Document,
    Drawing,
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
)
from welbric.documents.plain import pairs_in_line
from welbric.errors import InputError, seen
from welbric.units import DisplayUnits
from welbric.working import Entry, Given, Heading, Note, Step
from welbric.working.typeset import TYPST, given_math, write_condition, write_step


def typst_text(text: str) -> str:
    """Return text of any origin as a Typst string that cannot become markup."""
    escaped = text.replace("\\", "\\\\").replace('"', '\\"')
    return f'#text("{escaped}")'


PAGE = [
    "#set text(size: 9.5pt)",
    "#set par(leading: 0.55em)",
    "#show math.equation.where(block: true): set align(left)",
]


BOOK = [
    '#set heading(numbering: "1.1")',
    "#set par(justify: false)",
    "#show heading.where(level: 1): it => { pagebreak(weak: true); block(below: 1em, it) }",
    "#show heading.where(level: 2): it => block(above: 1.6em, below: 0.8em, it)",
    "#show heading.where(level: 3): it => block(above: 1.2em, below: 0.6em, it)",
    "#set table(stroke: none, inset: (x: 4pt, y: 3pt))",
]
FILLS: dict[Style, str] = {"good": "#1b6e53", "bad": "#b3261e", "unsure": "#8a6d00"}
LONG = 26  # characters from which a column shares the width that is left


def as_typst(document: Document, paper: str = "a4") -> str:
    """Return a working as a Typst document, on ``"a4"`` or ``"us-letter"``."""
    page = f'#set page(paper: "{paper}", margin: 18mm, numbering: "1")'
    return seen("\n".join([page, *PAGE, *(line for block in document for line in _lines(block))]))


def as_book(document: Document, paper: str, head: str, foot: str) -> str:
    """Return a book as a Typst document: numbered chapters, a head and a foot on every page."""
    line = "line(length: 100%, stroke: 0.4pt + luma(150))"
    page = (
        f'#set page(paper: "{paper}", margin: (x: 18mm, top: 24mm, bottom: 20mm), '
        f"header: context if counter(page).get().first() > 1 [#set text(size: 8pt); "
        f"{typst_text(head)} #h(1fr) {typst_text(foot)} #v(-6pt) #{line}], "
        "footer: context [#set text(size: 8pt); #h(1fr) "
        '#counter(page).display("1 of 1", both: true)])'
    )
    lines = [page, *PAGE, *BOOK]
    for block, below in zip(document, [*document[1:], None], strict=True):
        own = _lines(block)
        # What introduces a table stays with it.
        if isinstance(block, Paragraph) and isinstance(below, Table):
            own = [f"#block(sticky: true)[{own[0]}]", ""]
        lines += own
    return seen("\n".join(lines))


def as_pdf(source: str) -> bytes:
    """Return a Typst document as a PDF.

    Raises
    ------
    InputError
        If Typst is not installed.
    """
    try:
        import typst
    except ImportError:
        raise InputError("a PDF needs typst; install it with: pip install typst") from None
    return bytes(typst.compile(source.encode(), format="pdf"))


def _lines(block: Block) -> list[str]:
    match block:
        case Title():
            return [f"= {typst_text(block.text)}"]
        case Pairs():
            return [typst_text(pairs_in_line(block)), ""]
        case Notes():
            return [f"- {typst_text(note)}" for note in block.notes]
        case Section():
            return [f"== {typst_text(block.title)} #h(1fr) {typst_text(block.clause)}"]
        case Paragraph():
            return [typst_text("".join(run.text for run in block.words)), ""]
        case Steps():
            return [line for e in block.entries for line in [*_entry(e, block.show), ""]]
        case Verdict():
            return [f"*{typst_text(block.text)}*", ""]
        case Table():
            return [*_table(block), ""]
        case Cover():
            return _cover(block)
        case Contents():
            return ["#outline(depth: 2)", ""]
        case Chapter():
            label = f" <{block.anchor}>" if block.anchor else ""
            beside = f" #h(1fr) {typst_text(block.beside)}" if block.beside else ""
            return [f"{'=' * block.level} {typst_text(block.title)}{beside}{label}", ""]
        case Drawing():
            picture = (
                f"image(bytes({_quoted(block.svg)}), width: 100%, alt: {_quoted(block.words)})"
            )
            return [f"#block(breakable: false, {picture})", ""]
    raise TypeError(f"{type(block).__name__} is for a terminal")


def _entry(entry: Entry, show: DisplayUnits) -> list[str]:
    match entry:
        case Heading():
            words = f"*{typst_text(entry.title)}* #h(1fr) {typst_text(entry.clause)}"
            return [f"#block(sticky: true, width: 100%)[{words}]"]
        case Note():
            return [typst_text(entry.text)]
        case Given():
            return [
                f"{given_math(entry, TYPST, show, '$', '$')} #h(1em) {typst_text(entry.source)}"
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


def _cell(cell: Cell) -> str:
    if isinstance(cell, str):
        return typst_text(cell)
    return "".join(_run(run) for run in ((cell,) if isinstance(cell, Words) else cell))


def _run(run: Words) -> str:
    text = typst_text(run.text)
    if run.style in FILLS:
        text = f'#text(weight: "bold", fill: rgb("{FILLS[run.style]}"))[{text}]'
    elif run.style == "strong":
        text = f"*{text}*"
    return f"#link(<{run.link}>)[{text}]" if run.link else text


def _length(cell: Cell) -> int:
    if isinstance(cell, str):
        return max(map(len, cell.split("\n")), default=0)
    return sum(len(run.text) for run in ((cell,) if isinstance(cell, Words) else cell))


def _table(table: Table) -> list[str]:
    """Return a table whose head stands again on every page; long columns share the width."""
    widths = [
        max((_length(row[i]) for row in table.rows), default=0) for i in range(len(table.columns))
    ]
    columns = ", ".join("1fr" if width > LONG else "auto" for width in widths)
    sides = ", ".join("right" if column.right else "left" for column in table.columns)
    head = ", ".join(f"[*{_cell(column.heading)}*]" for column in table.columns)
    lines = [f"#block(sticky: true)[*{typst_text(table.title)}*]", ""] if table.title else []
    rule = "table.hline(stroke: 0.5pt)"
    lines.append(f"#block(text(size: 8pt, table(columns: ({columns},), align: ({sides},),")
    lines.append(f"table.header({head}, {rule}),")
    for number, row in enumerate(table.rows):
        lines.append(", ".join(f"[{_cell(cell)}]" for cell in row) + ",")
        if number in table.rules:
            lines.append(f"{rule},")
    lines.append(")))")
    return lines


def _cover(cover: Cover) -> list[str]:
    lines = ["#v(30%)", f'#text(size: 24pt, weight: "bold")[{typst_text(cover.title)}]', ""]
    lines += [f"#text(size: 13pt)[{typst_text(cover.subtitle)}]", "", "#v(2em)"]
    cells = ", ".join(
        f"[*{typst_text(name)}*], [{typst_text(value)}]" for name, value in cover.pairs
    )
    return [*lines, f"#table(columns: (auto, 1fr), {cells})", "#pagebreak()"]
