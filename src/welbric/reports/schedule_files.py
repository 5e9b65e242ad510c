"""A schedule with its results, written as CSV or XLSX."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

from welbric.bulk import CheckedSchedule
from welbric.jobs import save_bytes, save_text
from welbric.jobs.schedule_files import SHEETS
from welbric.reports.documents import as_csv, defused


def save_schedule(checked: CheckedSchedule, path: str | Path) -> None:
    """Write a schedule with its results, CSV or XLSX by the name, whole or not at all."""
    rows = checked.records()
    if Path(path).suffix.casefold() not in SHEETS:
        save_text(path, as_csv(rows))
        return
    save_bytes(
        path, sheet_bytes([list(rows[0]), *([defused(v) for v in r.values()] for r in rows)])
    )


def sheet_bytes(rows: list[list[Any]]) -> bytes:
    """Return rows as an XLSX of one sheet, numbers as numbers."""
    from openpyxl import Workbook
    from openpyxl.styles import Font
    from openpyxl.utils import get_column_letter

    book = Workbook()
    sheet = book.active or book.create_sheet()
    sheet.title = "schedule"
    for row in rows:
        sheet.append([_number(cell) for cell in row])
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    sheet.freeze_panes = "B2"
    for i, column in enumerate(zip(*rows[:200], strict=False), 1):
        widest = max(len(str(cell)) for cell in column)
        sheet.column_dimensions[get_column_letter(i)].width = min(widest + 2, 40)
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def _number(cell: Any) -> Any:
    try:
        return float(cell) if isinstance(cell, str) and cell.strip() else cell
    except ValueError:
        return cell
