"""A schedule with its results, written as CSV or XLSX."""

from __future__ import annotations

import io
import math
from pathlib import Path
from typing import Any

from welbric.documents.records import as_csv
from welbric.errors import InputError
from welbric.files.jobs import save_bytes, save_text
from welbric.files.schedules import SHEETS
from welbric.inputs.schedules import NUMBERS, QUANTITIES, RESULTS, Schedule, with_point
from welbric.studies.schedule_checks import CheckedSchedule


def save_schedule(checked: CheckedSchedule, path: str | Path) -> None:
    """Write a schedule with its results, CSV or XLSX by the name, whole or not at all."""
    rows = checked.records()
    if Path(path).suffix.casefold() not in SHEETS:
        save_text(path, as_csv(rows))
        return
    heads = list(rows[0])
    cells = [heads, *([row[head] for head in heads] for row in rows)]
    save_bytes(path, sheet_bytes(cells, checked.schedule))


def sheet_bytes(rows: list[list[Any]], schedule: Schedule) -> bytes:
    """Return rows of a schedule, heads first, as an XLSX of one sheet.

    Columns of numbers hold numbers; every other text stays the text it is.
    """
    from openpyxl import Workbook
    from openpyxl.styles import Font
    from openpyxl.utils import get_column_letter

    keys = dict(zip(schedule.cells[0][1], schedule.keys, strict=True))
    numeric = [keys.get(h) in (*QUANTITIES, *NUMBERS) or h == RESULTS[0] for h in rows[0]]
    book = Workbook()
    sheet = book.active or book.create_sheet()
    sheet.title = "schedule"
    for i, row in enumerate(rows, 1):
        for j, (value, is_number) in enumerate(zip(row, numeric, strict=False), 1):
            found = _number(value, schedule.decimal_comma) if is_number and i > 1 else value
            cell = sheet.cell(i, j, found)
            if isinstance(found, str):  # no formula, whatever it begins with
                cell.data_type = "s"
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    sheet.freeze_panes = "B2"
    for i, column in enumerate(zip(*rows[:200], strict=False), 1):
        widest = max(len(str(cell)) for cell in column)
        sheet.column_dimensions[get_column_letter(i)].width = min(widest + 2, 40)
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def _number(cell: Any, decimal_comma: bool) -> Any:
    """Return the number that a cell of a column of numbers holds; what holds none stays text."""
    if not isinstance(cell, str):
        return cell
    try:
        value = float(with_point(cell) if decimal_comma else cell)
    except (ValueError, InputError):
        return cell
    return value if math.isfinite(value) else cell
