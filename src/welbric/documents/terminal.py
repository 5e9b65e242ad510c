"""Blocks for the terminal: in colour where it has some, or as plain text."""

from __future__ import annotations

import io
from collections.abc import Iterator, Mapping, Sequence

from rich.cells import cell_len
from rich.console import Console, ConsoleOptions, Group, RenderableType, RenderResult
from rich.segment import Segment
from rich.text import Text

from welbric.documents.blocks import Block, Cell, Document, Paragraph, Style, Table, Words
from welbric.errors import seen

STYLES: dict[Style, str] = {
    "": "", "strong": "bold", "dim": "dim", "good": "", "bad": "bold red", "unsure": "bold magenta",
    "note": "cyan",
}  # fmt: skip


def rendered(document: Document) -> RenderableType:
    """Return a document of paragraphs and tables for a console to print."""
    return Group(*(_block(block) for block in document))


def as_text(document: Document, width: int = 100) -> str:
    """Return a document of paragraphs and tables as plain text."""
    buffer = io.StringIO()
    console = Console(file=buffer, width=width, color_system=None, legacy_windows=False)
    console.print(rendered(document))
    return buffer.getvalue()


def _text(cell: Cell) -> Text:
    if isinstance(cell, str):
        return Text(seen(cell))
    runs = (cell,) if isinstance(cell, Words) else cell
    return Text.assemble(*((seen(run.text), STYLES[run.style]) for run in runs))


def _block(block: Block) -> RenderableType:
    if isinstance(block, Paragraph):
        return _text(block.words)
    if isinstance(block, Table):
        # A title of the table's own would wrap at the width of its columns.
        return Group(Text(seen(block.title)), _Fitted(block)) if block.title else _Fitted(block)
    raise TypeError(f"{type(block).__name__} is for a page")


GAP = 2  # between columns
RULE = "─"
WORD = 4  # characters of a word, at least, that stay together


class _Fitted:
    """A table in the width there is: columns that wrap give way to their longest word, or less.

    Rows are put together here, for of a thousand rich's own table measures every cell many times.
    """

    def __init__(self, table: Table) -> None:
        self.table = table

    def __rich_console__(self, console: Console, options: ConsoleOptions) -> RenderResult:
        table, shown = self.table, list(range(len(self.table.columns)))
        # A heading may always break between words where that is all that is too wide.
        least = {i: _width(table, i, broken=True) for i in shown}
        while _total(least, shown) > options.max_width:
            spare = max(shown, key=lambda i: table.columns[i].spare)
            if table.columns[spare].spare == 0:
                break
            shown.remove(spare)
        # Then words break; numbers never do: rather the last of them are left out.
        broken = {i: w if table.columns[i].right else min(w, WORD) for i, w in least.items()}
        while _total(broken, shown) > options.max_width and len(shown) > 1:
            shown.remove(max(shown, key=lambda i: (table.columns[i].right, i)))
        widths = {i: _width(table, i) for i in shown}
        for narrowest in (least, broken):
            while _total(widths, shown) > options.max_width:
                giving = [i for i in shown if widths[i] > narrowest[i]]
                if not giving:
                    break
                # What may be left out gives way first, then what is widest.
                widths[max(giving, key=lambda i: (table.columns[i].spare, widths[i]))] -= 1
        yield from _rows(table, shown, widths, console)
        missing = [c.heading for i, c in enumerate(table.columns) if i not in shown]
        if missing:
            yield Text(f"left out at this width: {', '.join(missing)}", "dim")


def _width(table: Table, number: int, broken: bool = False) -> int:
    """Return what a column needs, whole or broken between words where it may be."""
    column = table.columns[number]

    def of(text: str, breaks: bool) -> int:
        return max(map(cell_len, text.split() if breaks else text.split("\n")), default=0)

    cells = (_text(row[number]).plain for row in table.rows)
    widest = max((of(cell, broken and column.wraps) for cell in cells), default=0)
    widest = max(widest, of(column.heading, broken))
    return widest if column.widest is None else min(widest, column.widest)


def _total(widths: Mapping[int, int], shown: Sequence[int]) -> int:
    return sum(widths[i] for i in shown) + GAP * (len(shown) - 1)


def _rows(
    table: Table, shown: Sequence[int], widths: Mapping[int, int], console: Console
) -> Iterator[Segment]:
    """Yield the lines of those columns, of those widths."""
    columns = [(i, widths[i], table.columns[i].right) for i in shown]
    headings = [_cell(Text(table.columns[i].heading, "bold"), width, right, console)
                for i, width, right in columns]  # fmt: skip
    tall = max(map(len, headings), default=0)
    # Headings of fewer lines stand just above the rows.
    headings = [[[Segment(" " * width)]] * (tall - len(lines)) + lines
                for lines, (_, width, _) in zip(headings, columns, strict=True)]  # fmt: skip
    yield from _lines(headings, columns)
    total = _total(widths, shown)
    if not table.plain:
        yield Segment(f"{RULE * total}\n")
    for number, row in enumerate(table.rows):
        yield from _lines([_cell(_text(row[i]), width, right, console)
                           for i, width, right in columns], columns)  # fmt: skip
        if number in table.rules and not table.plain and number < len(table.rows) - 1:
            yield Segment(f"{' ' * total}\n")


def _lines(
    cells: Sequence[list[list[Segment]]], columns: Sequence[tuple[int, int, bool]]
) -> Iterator[Segment]:
    """Yield the lines of a row."""
    for number in range(max(map(len, cells), default=0)):
        for place, (lines, (_, width, _)) in enumerate(zip(cells, columns, strict=True)):
            if place:
                yield Segment(" " * GAP)
            yield from lines[number] if number < len(lines) else [Segment(" " * width)]
        yield Segment("\n")


def _cell(text: Text, width: int, right: bool, console: Console) -> list[list[Segment]]:
    """Return the lines of a cell, as wide as its column."""
    found = []
    fits = "\n" not in text.plain and text.cell_len <= width
    for line in [text] if fits else text.wrap(console, width, overflow="fold"):
        line.rstrip()
        blank = Segment(" " * (width - line.cell_len))
        own = list(line.render(console))
        found.append([blank, *own] if right else [*own, blank])
    return found
