"""Workings as a Typst document, which becomes a PDF."""

from __future__ import annotations

import base64

from welbric.documents.blocks import (
    Abreast,
    Block,
    Cell,
    Chapter,
    Contents,
    Cover,
    Document,
    Drawing,
    Logo,
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
    return f"#{_quoted(text)};"


PAGE = [
    "#set text(size: 9.5pt)",
    "#set par(leading: 0.55em)",
    "#show math.equation.where(block: true): set align(left)",
]


AS_CHANGED = "[changed]"
CHANGED = 'place(left, dx: -4mm, text(size: 7pt, fill: rgb("#8a6d00"))[▌])'
BOOK = [
    '#set heading(numbering: "1.1")',
    "#set par(justify: false)",
    "#show heading.where(level: 1): it => { pagebreak(weak: true); block(below: 1em, it) }",
    "#show heading.where(level: 2): it => block(above: 1.6em, below: 0.8em, "
    f"{{ if it.supplement == {AS_CHANGED} {{ {CHANGED} }}; it }})",
    "#show heading.where(level: 3): it => block(above: 1.2em, below: 0.6em, it)",
    "#set table(stroke: none, inset: (x: 4pt, y: 3pt))",
]
FILLS: dict[Style, str] = {"good": "#1b6e53", "bad": "#b3261e", "unsure": "#8a6d00"}
ACROSS, GAP = 125, 3  # characters across a page, and between columns
LONG = 26  # characters from which a column shares the width that is left


def as_typst(document: Document, paper: str = "a4") -> str:
    """Return a working as a Typst document, on ``"a4"`` or ``"us-letter"``."""
    page = f'#set page(paper: "{paper}", margin: 18mm, numbering: "1")'
    return seen("\n".join([page, *PAGE, *(line for block in document for line in _lines(block))]))


def as_book(document: Document, paper: str, head: str, foot: str, said: str = "") -> str:
    """Return a book as a Typst document: numbered chapters, a head and a foot on every page.

    ``said`` stands at the foot of every page, in bold.
    """
    warning = f"*{typst_text(said)}*" if said else ""
    line = "line(length: 100%, stroke: 0.4pt + luma(150))"
    page = (
        f'#set page(paper: "{paper}", margin: (x: 18mm, top: 24mm, bottom: 20mm), '
        f"header: context if counter(page).get().first() > 1 [#set text(size: 8pt); "
        f"{typst_text(head)} #h(1fr) {typst_text(foot)} #v(-6pt) #{line}], "
        f"footer: context [#set text(size: 8pt); {warning} #h(1fr) "
        '#counter(page).display("1 of 1", both: true)])'
    )
    lines = [page, *PAGE, *BOOK]
    blocks = [one for one in document if not (isinstance(one, Paragraph) and one.is_gap)]
    for block, below in zip(blocks, [*blocks[1:], None], strict=True):
        own = _lines(block)
        # What introduces a table or a working stays with it.
        if isinstance(block, Paragraph) and isinstance(below, Table | Steps | Abreast):
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
            return [_cell(block.words), ""]
        case Steps():
            return [
                line
                for i, e in enumerate(block.entries)
                for line in [*_entry(e, block.show, block.anchors.get(i), block.links.get(i)), ""]
            ]
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
            words = f"{typst_text(block.title)}{beside}"
            heading = f"{'=' * block.level} {words}{label}"
            if block.changed:
                heading = (
                    f"#heading(level: {block.level}, supplement: {AS_CHANGED})[{words}]{label}"
                )
            lines = [heading, ""]
            return ["#pagebreak(weak: true)", *lines] if block.begins_page else lines
        case Abreast():
            left = block.left
            if isinstance(left, Drawing):
                wide, own = f"{left.share:.0%}", _lines(Drawing(left.svg, left.words))
            else:
                wide, own = "auto", _table(left)
            grid = f"grid(columns: ({wide}, 1fr), column-gutter: 2em, ["
            right = _table(block.right)
            return [f"#block(breakable: false, {grid}", *own, "], [", *right, "]))", ""]
        case Drawing():
            picture = (
                f"image(bytes({_quoted(block.svg)}), width: {block.share:.0%}, "
                f"alt: {_quoted(block.words)})"
            )
            return [f"#block(breakable: false, {picture})", ""]
    raise TypeError(f"{type(block).__name__} is for a terminal")


def _entry(
    entry: Entry, show: DisplayUnits, anchor: str | None = None, link: str | None = None
) -> list[str]:
    match entry:
        case Heading():
            title = f"*{typst_text(entry.title)}*"
            title = f"#link(<{link}>)[{title}]" if link else title
            label = f" <{anchor}>" if anchor else ""
            words = f"{title} #h(1fr) {typst_text(entry.clause)}"
            return [f"#block(sticky: true, width: 100%)[{words}]{label}"]
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
    # The clause is placed beside it: a grid of two columns takes twice as long.
    return [
        f"#block(breakable: false, width: 100%)[#place(right, {_quoted(line.clause)}) $ {math} $]"
    ]


def _quoted(text: str) -> str:
    return '"' + text.replace("\\", "\\\\").replace('"', '\\"') + '"'


def _cell(cell: Cell) -> str:
    if isinstance(cell, str):
        return typst_text(cell)
    return "".join(_run(run) for run in ((cell,) if isinstance(cell, Words) else cell))


def _argument(cell: Cell) -> str:
    """Return a cell as what a table is given: plain text as it is, which is much faster."""
    if isinstance(cell, Words) and not cell.link and cell.style not in {*FILLS, "strong"}:
        cell = cell.text
    return _quoted(cell) if isinstance(cell, str) else f"[{_cell(cell)}]"


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
    heads = [_length(column.heading) for column in table.columns]
    fits = sum(max(both) + GAP for both in zip(widths, heads, strict=True)) <= ACROSS
    columns = ", ".join("1fr" if width > LONG and not fits else "auto" for width in widths)
    sides = ", ".join("right" if column.right else "left" for column in table.columns)
    head = ", ".join(f"strong({_quoted(column.heading)})" for column in table.columns)
    lines = [f"#block(sticky: true)[*{typst_text(table.title)}*]", ""] if table.title else []
    rule = "table.hline(stroke: 0.5pt)"
    lines.append(f"#block(text(size: 8pt, table(columns: ({columns},), align: ({sides},),")
    lines.append(f"table.header({head}, {rule}),")
    for number, row in enumerate(table.rows):
        cells = [_argument(cell) for cell in row]
        if number in table.changed:
            cells[0] = f"[#{CHANGED}{_cell(row[0])}]"
        lines.append(", ".join(cells) + ",")
        if number in table.rules:
            lines.append(f"{rule},")
    lines.append(")))")
    return lines


def _cover(cover: Cover) -> list[str]:
    above = [f'#image({_logo(cover.logo)}, height: 18mm, alt: "logo")'] if cover.logo else []
    lines = [*above, "#v(30%)", f'#text(size: 24pt, weight: "bold")[{typst_text(cover.title)}]', ""]
    lines += [f"#text(size: 13pt)[{typst_text(cover.subtitle)}]", "", "#v(2em)"]
    cells = ", ".join(
        f"[*{typst_text(name)}*], [{typst_text(value)}]" for name, value in cover.pairs
    )
    return [*lines, f"#table(columns: (auto, 1fr), {cells})", "#pagebreak()"]


def _logo(logo: Logo) -> str:
    """Return a picture as Typst reads it; what is no SVG stands in one."""
    if logo.kind == "svg+xml":
        return f"bytes({_quoted(logo.content.decode())})"
    data, wide = base64.b64encode(logo.content).decode(), 100.0 * logo.shape
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {wide:g} 100"><image '
        f'width="{wide:g}" height="100" href="data:image/{logo.kind};base64,{data}"/></svg>'
    )
    return f"bytes({_quoted(svg)})"
