"""A schedule with its results, written as CSV or XLSX."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

from welbric.documents.records import as_csv, as_json
from welbric.documents.workbook import sheet
from welbric.documents.writing import ending_of, save_bytes, save_text
from welbric.errors import InputError
from welbric.files.schedules import SHEETS
from welbric.inputs.schedules import NUMBERS, QUANTITIES, RESULTS, Schedule
from welbric.inputs.text_tables import with_point
from welbric.studies.schedule_checks import CheckedSchedule


def save_schedule(checked: CheckedSchedule, path: str | Path) -> None:
    """Write a schedule with its results, CSV, XLSX or JSON by the name, whole or not at all.

    Raises
    ------
    InputError
        If it is the schedule's own file, or cannot be written.
    """
    ending = ending_of(path, (".csv", ".json", *SHEETS), [checked.schedule.name])
    rows = checked.records()
    if ending == ".json":
        save_text(path, as_json(rows) + "\n")
        return
    if ending == ".csv":
        text, encoding = schedule_csv(checked), checked.schedule.form.encoding
        try:
            save_text(path, text, encoding)
        except UnicodeEncodeError:  # a reason has a sign that the schedule's letters have not
            save_text(path, text, "utf-8-sig")
        return
    heads = list(rows[0])
    cells = [heads, *([row[head] for head in heads] for row in rows)]
    save_bytes(path, sheet_bytes(cells, checked.schedule))


def schedule_csv(checked: CheckedSchedule) -> str:
    """Return a schedule with its results as CSV, written as the schedule is."""
    form = checked.schedule.form
    return as_csv(checked.records(), form.delimiter or ",", form.decimal_comma)


def sheet_bytes(rows: list[list[Any]], schedule: Schedule) -> bytes:
    """Return rows of a schedule, heads first, as an XLSX of one sheet.

    Columns of numbers hold numbers; every other text stays the text it is.
    """
    keys = dict(zip(schedule.cells[0][1], schedule.keys, strict=True))
    numeric = [keys.get(h) in (*QUANTITIES, *NUMBERS) or h == RESULTS[0] for h in rows[0]]
    cells = [
        [_number(value, schedule.form.decimal_comma) if is_number else value
         for value, is_number in zip(row, numeric, strict=False)]
        for row in rows[1:]
    ]  # fmt: skip
    return sheet([rows[0], *cells], "schedule")


def _number(cell: Any, decimal_comma: bool) -> Any:
    """Return the number that a cell of a column of numbers holds; what holds none stays text."""
    if not isinstance(cell, str):
        return cell
    try:
        value = float(with_point(cell) if decimal_comma else cell)
    except (ValueError, InputError):
        return cell
    return value if math.isfinite(value) else cell
