"""Records as a workbook of one sheet: numbers stay numbers, and no text becomes a formula."""

from __future__ import annotations

import io
import math
from collections.abc import Mapping, Sequence
from typing import Any

from welbric.errors import seen

WIDEST = 40  # characters of a column
LOOKED_AT = 200  # rows that its width goes by


def as_xlsx(rows: Sequence[Mapping[str, Any]], title: str = "results") -> bytes:
    """Return records as an XLSX, their names in its first row."""
    heads = list(dict.fromkeys(key for row in rows for key in row))
    return sheet([heads, *([row.get(head, "") for head in heads] for row in rows)], title)


def sheet(rows: Sequence[Sequence[Any]], title: str) -> bytes:
    """Return rows, heads first, as an XLSX of one sheet."""
    from openpyxl import Workbook
    from openpyxl.styles import Font
    from openpyxl.utils import get_column_letter

    book = Workbook()
    page = book.active or book.create_sheet()
    page.title = title
    for i, row in enumerate(rows, 1):
        for j, value in enumerate(row, 1):
            if isinstance(value, float) and not math.isfinite(value):
                value = None
            cell = page.cell(i, j, seen(value) if isinstance(value, str) else value)
            if isinstance(value, str):  # no formula, whatever it begins with
                cell.data_type = "s"
    for cell in page[1]:
        cell.font = Font(bold=True)
    page.freeze_panes = page.cell(2, 2)
    for i, column in enumerate(zip(*rows[:LOOKED_AT], strict=False), 1):
        widest = max(len(str(cell)) for cell in column)
        page.column_dimensions[get_column_letter(i)].width = min(widest + 2, WIDEST)
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()
