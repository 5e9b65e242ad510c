"""Records as a workbook: numbers stay numbers, and no text becomes a formula.

Sheets are written row by row, so that thousands of members take little memory.
"""

from __future__ import annotations

import io
import math
import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from welbric.documents.records import as_csv
from welbric.errors import seen

WIDEST = 40  # characters of a column
LOOKED_AT = 200  # rows that its width goes by
LONGEST = 32_000  # characters that a cell may have
GOOD, BAD, UNSURE = "DCEBE4", "F6D7D4", "F5EBC8"
RATIO, VERDICT = "utilisation", "verdict"  # columns coloured by what they say


@dataclass(frozen=True)
class Sheet:
    """A sheet: its title, and its records."""

    title: str
    rows: Sequence[Mapping[str, Any]] = field(default_factory=list)

    def heads(self) -> list[str]:
        """Return the names of its columns, in the order in which records bring them."""
        return list(dict.fromkeys(key for row in self.rows for key in row))


def as_xlsx(rows: Sequence[Mapping[str, Any]], title: str = "results") -> bytes:
    """Return records as an XLSX of one sheet, their names in its first row."""
    return workbook([Sheet(title, rows)])


def workbook(sheets: Sequence[Sheet], name: str = "") -> bytes:
    """Return an XLSX of several sheets; ``name`` stands at the head of each printed page."""
    return _written(
        (
            (sheet.title, [heads, *([row.get(head) for head in heads] for row in sheet.rows)])
            for sheet in sheets
            for heads in [sheet.heads()]
        ),
        name,
    )


def csv_files(sheets: Sequence[Sheet]) -> dict[str, str]:
    """Return each sheet as CSV, by the name of its file."""
    return {f"{one.title}.csv": as_csv(one.rows) for one in sheets}


def sheet(rows: Sequence[Sequence[Any]], title: str) -> bytes:
    """Return rows, heads first, as an XLSX of one sheet."""
    return _written([(title, rows)])


def _written(sheets: Iterable[tuple[str, Sequence[Sequence[Any]]]], name: str = "") -> bytes:
    from openpyxl import Workbook
    from openpyxl.cell import WriteOnlyCell
    from openpyxl.styles import Font
    from openpyxl.utils import get_column_letter

    book, bold = Workbook(write_only=True), Font(bold=True)
    for title, rows in sheets:
        page = book.create_sheet(title)
        heads, count = [str(head) for head in rows[0]], len(rows)
        for i, column in enumerate(zip(*rows[:LOOKED_AT], strict=False), 1):
            widest = max(len(_as_seen(cell)) for cell in column)
            page.column_dimensions[get_column_letter(i)].width = min(widest + 2, WIDEST)
        page.freeze_panes = f"{get_column_letter(2)}2"  # the heads, and whose row it is
        for number, row in enumerate(rows):
            cells: list[Any] = []
            for value in row:
                if isinstance(value, float) and not math.isfinite(value):
                    value = None
                if isinstance(value, str):
                    value = seen(value)[:LONGEST]
                    # What begins so would be a formula, or an error.
                    if number == 0 or value[:1] in {"=", "#"}:
                        cell = WriteOnlyCell(page, value)
                        cell.data_type = "s"
                        if number == 0:
                            cell.font = bold
                        value = cell
                cells.append(value)
            page.append(cells)
        if heads:
            last = get_column_letter(len(heads))
            page.auto_filter.ref = f"A1:{last}{max(count, 2)}"
            page.print_title_rows = "1:1"
            page.print_area = f"A1:{last}{count}"
        page.page_setup.orientation = "landscape"
        page.page_setup.fitToHeight = 0
        page.sheet_properties.pageSetUpPr.fitToPage = True
        page.oddHeader.left.text = _plain_header(name)
        page.oddHeader.right.text = title
        page.oddFooter.right.text = "&P of &N"
        _coloured(page, heads, count)
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def _as_seen(cell: Any) -> str:
    return "" if cell is None else f"{cell:.6g}" if isinstance(cell, float) else str(cell)


def _plain_header(text: str) -> str:
    """Return a text for the head of a printed page, in which ``&`` begins a command."""
    return re.sub(r"\s+", " ", seen(text).replace("&", "&&"))[:120]


def _coloured(page: Any, heads: Sequence[str], count: int) -> None:
    """Colour utilisations and verdicts by what they say."""
    from openpyxl.formatting.rule import CellIsRule
    from openpyxl.styles import PatternFill
    from openpyxl.utils import get_column_letter

    fills = {
        colour: PatternFill(start_color=colour, end_color=colour, fill_type="solid")
        for colour in (GOOD, BAD, UNSURE)
    }
    for i, head in enumerate(heads, 1):
        where = f"{get_column_letter(i)}2:{get_column_letter(i)}{max(count, 2)}"
        if head == RATIO:
            over = CellIsRule(operator="greaterThan", formula=["1"], fill=fills[BAD])  # type: ignore[no-untyped-call]
            page.conditional_formatting.add(where, over)
        elif head == VERDICT:
            for word, colour in (("ok", GOOD), ("over", BAD), ("outside", UNSURE)):
                rule = CellIsRule(operator="equal", formula=[f'"{word}"'], fill=fills[colour])  # type: ignore[no-untyped-call]
                page.conditional_formatting.add(where, rule)
