"""Workings as a Typst document, which becomes a PDF."""

from __future__ import annotations

from welbric.documents.blocks import (
    Block,
    Document,
    Notes,
    Pairs,
    Paragraph,
    Section,
    Steps,
    Title,
    Verdict,
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


def as_typst(document: Document, paper: str = "a4") -> str:
    """Return a working as a Typst document, on ``"a4"`` or ``"us-letter"``."""
    page = f'#set page(paper: "{paper}", margin: 18mm, numbering: "1")'
    return seen("\n".join([page, *PAGE, *(line for block in document for line in _lines(block))]))


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
    raise TypeError(f"{type(block).__name__} is for a terminal")


def _entry(entry: Entry, show: DisplayUnits) -> list[str]:
    match entry:
        case Heading():
            return [f"*{typst_text(entry.title)}* #h(1fr) {typst_text(entry.clause)}"]
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
