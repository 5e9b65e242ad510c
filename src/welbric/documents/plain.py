"""Workings as plain text: formulas with their clauses at the right margin."""

from __future__ import annotations

import re
import textwrap

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
from welbric.errors import seen
from welbric.units import DisplayUnits
from welbric.working import Entry, Given, Heading, Note, Step
from welbric.working.typeset import TEXT, write_condition, write_step

NO_BREAK, EM_SPACE = "\u00a0", "\u2003"


def pairs_in_line(pairs: Pairs) -> str:
    """Return names and values as one text; each pair holds together."""
    held = (f"{name} = {value}".replace(" ", NO_BREAK) for name, value in pairs.pairs)
    return f"{EM_SPACE} ".join(held)


def as_plain(document: Document, width: int = 100) -> str:
    """Return a working as plain text."""
    return seen("\n".join(line for block in document for line in _lines(block, width)) + "\n")


def _lines(block: Block, width: int) -> list[str]:
    match block:
        case Title():
            return [block.text, "=" * min(len(block.text), width), ""]
        case Pairs():
            return [
                line.replace(NO_BREAK, " ").replace(EM_SPACE, "  ").rstrip()
                for line in textwrap.wrap(pairs_in_line(block), width - 10)
            ]
        case Notes():
            return [
                line
                for note in block.notes
                for line in textwrap.wrap(f"Note: {note}", width, subsequent_indent="      ")
            ]
        case Section():
            title = f"{block.number}. {block.title}"
            return ["", f"{title}{block.clause.rjust(width - len(title))}", "-" * width]
        case Paragraph():
            return _indented("".join(run.text for run in block.words), width)
        case Steps():
            return [line for e in block.entries for line in _entry(e, block.show, width)]
        case Verdict():
            return [f"   => {block.text}"]
    raise TypeError(f"{type(block).__name__} is for a terminal")


def _indented(text: str, width: int) -> list[str]:
    return textwrap.wrap(text, width - 3, initial_indent="   ", subsequent_indent="   ")


def _entry(entry: Entry, show: DisplayUnits, width: int) -> list[str]:
    match entry:
        case Heading():
            clause = f" ({entry.clause})" if entry.clause else ""
            return ["", f"   {entry.title}{clause}"]
        case Note():
            return _indented(entry.text, width)
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
