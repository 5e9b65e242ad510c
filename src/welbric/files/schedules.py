"""Schedules in files, CSV and XLSX, read as cells."""

from __future__ import annotations

import csv
import io
from pathlib import Path

from welbric.errors import InputError
from welbric.files.jobs import read_text
from welbric.inputs.schedules import Cells, Schedule, read_schedule

SHEETS = (".xlsx", ".xlsm")
LARGEST = 200 * 1024 * 1024  # bytes


def load_schedule(
    path: str | Path, steel: str = "", decimal_comma: bool = False, sheet: str | None = None
) -> Schedule:
    """Read a schedule, CSV (with commas, semicolons or tabs) or XLSX.

    Parameters
    ----------
    path : str or Path
    steel : str
        Of the rows that name none; what is usual for their sections where there is none either.
    decimal_comma : bool
        Whether 1,5 is one and a half; of an XLSX in cells that are text.
    sheet : str, optional
        Of an XLSX; the first one by default.

    Raises
    ------
    InputError
        If it cannot be read, or its heads cannot be understood. Bad rows are in the schedule.
    """
    if Path(path).suffix.casefold() in SHEETS:
        cells = _sheet_cells(Path(path), sheet, decimal_comma)
        return read_schedule(cells, str(path), steel, decimal_comma)
    if sheet is not None:
        raise InputError(f"{path}: a sheet goes with an XLSX")
    return read_schedule(csv_cells(read_text(path, LARGEST)), str(path), steel, decimal_comma)


def csv_cells(text: str) -> Cells:
    """Return the cells of a CSV, whatever it separates them with."""
    lines = (line for line in text.splitlines() if line.strip() and line[0] != "#")
    first = next(lines, "")
    delimiter = max(",;\t", key=first.count)
    rows = csv.reader(io.StringIO(text), delimiter=delimiter)
    try:
        return [(rows.line_num, row) for row in rows if row]
    except csv.Error as error:
        raise InputError(f"line {rows.line_num}: is not CSV: {error}") from None


def _sheet_cells(path: Path, sheet: str | None, decimal_comma: bool) -> Cells:
    from zipfile import BadZipFile

    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        book = load_workbook(path, read_only=True, data_only=True)
    except OSError as error:
        raise InputError(f"{path}: cannot be read: {error.strerror}") from None
    except (BadZipFile, InvalidFileException, KeyError, ValueError):
        raise InputError(f"{path}: is no XLSX") from None
    if sheet is not None and sheet not in book.sheetnames:
        raise InputError(f"{path}: no sheet {sheet!r}; it has {', '.join(book.sheetnames)}")
    found = book[sheet] if sheet is not None else book[book.sheetnames[0]]

    def text(cell: object) -> str:
        if decimal_comma and isinstance(cell, float):  # a number, whatever its sign
            return str(cell).replace(".", ",")
        return "" if cell is None else str(cell)

    return [
        (number, [text(cell) for cell in row])
        for number, row in enumerate(found.iter_rows(values_only=True), 1)
    ]
