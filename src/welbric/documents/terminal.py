"""Blocks for the terminal: in colour where it has some, or as plain text."""

from __future__ import annotations

import io
from collections.abc import Mapping, Sequence

from rich import box
from rich.cells import cell_len
from rich.console import Console, ConsoleOptions, Group, RenderableType, RenderResult
from rich.table import Table as Grid
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


class _Fitted:
    """A table in the width there is: columns that wrap give way down to their longest word."""

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
        widths = {i: _width(table, i) for i in shown}
        while _total(widths, shown) > options.max_width:
            giving = [i for i in shown if widths[i] > least[i]]
            if not giving:
                break
            # What may be left out gives way first, then what is widest.
            widths[max(giving, key=lambda i: (table.columns[i].spare, widths[i]))] -= 1
        fits = _total(widths, shown) <= options.max_width
        yield _grid(table, shown, widths if fits else {})
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


def _grid(table: Table, shown: Sequence[int], widths: Mapping[int, int]) -> Grid:
    """Return those columns, of those widths where they are known."""
    if table.plain:
        grid = Grid(box=None, pad_edge=False, padding=(0, GAP, 0, 0), header_style="bold")
    else:
        grid = Grid(
            box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, GAP - 1, 0, 0), show_edge=False
        )
    for i in shown:
        column = table.columns[i]
        grid.add_column(
            Text(column.heading),
            justify="right" if column.right else "left",
            no_wrap=not (column.wraps or widths),
            overflow="fold",
            max_width=column.widest,
            width=widths.get(i),
        )
    for number, row in enumerate(table.rows):
        cells = (_text(row[i]) for i in shown)
        grid.add_row(*cells, end_section=number in table.rules)
    return grid
