"""Schedules in files, CSV and XLSX, read as cells."""

from __future__ import annotations

from pathlib import Path

from welbric.errors import InputError
from welbric.files.reading import read_table_text, regular_file
from welbric.inputs.schedules import Schedule, read_schedule
from welbric.inputs.text_tables import Form, csv_cells, delimiter_of

SHEETS = (".xlsx", ".xlsm")
LARGEST = 200 * 1024 * 1024  # bytes


def load_schedule(
    path: str | Path,
    steel: str = "",
    decimal_comma: bool | None = None,
    sheet: str | None = None,
) -> Schedule:
    """Read a schedule, CSV (with commas, semicolons or tabs) or XLSX.

    Parameters
    ----------
    path : str or Path
    steel : str
        Of the rows that name none; what is usual for their sections where there is none either.
    decimal_comma : bool, optional
        Whether 1,5 is one and a half; as the numbers tell where it is not said. Of an XLSX in cells
        that are text.
    sheet : str, optional
        Of an XLSX; the first one by default.

    Raises
    ------
    InputError
        If it cannot be read, or its heads cannot be understood. Bad rows are in the schedule.
    """
    if Path(path).suffix.casefold() in SHEETS:
        cells = sheet_cells(regular_file(path, LARGEST), sheet)
        return read_schedule(cells, str(path), steel, decimal_comma, Form(delimiter=""))
    if sheet is not None:
        raise InputError(f"{path}: a sheet goes with an XLSX")
    found = read_table_text(path, LARGEST)
    delimiter = delimiter_of(found.text)
    try:
        rows = csv_cells(found.text, delimiter)
    except InputError as error:
        raise error.under(file=str(path)) from None
    form = Form(delimiter, encoding=found.encoding)
    return read_schedule(rows, str(path), steel, decimal_comma, form)


def sheet_cells(path: Path, sheet: str | None) -> list[tuple[int, list[str | float]]]:
    """Return the cells of a sheet: numbers as numbers, all else as text."""
    from zipfile import BadZipFile

    from openpyxl import load_workbook
    from openpyxl.utils import get_column_letter
    from openpyxl.utils.exceptions import InvalidFileException

    def values(of_formulas: bool) -> list[tuple[object, ...]]:
        book = load_workbook(path, read_only=True, data_only=not of_formulas)
        if sheet is not None and sheet not in book.sheetnames:
            raise InputError(f"{path}: no sheet {sheet!r}; it has {', '.join(book.sheetnames)}")
        found = book[sheet] if sheet is not None else book[book.sheetnames[0]]
        return list(found.iter_rows(values_only=True))

    try:
        rows = values(of_formulas=False)
        formulas = values(of_formulas=True) if _may_have_formulas(path) else []
    except InputError:
        raise
    except OSError as error:
        raise InputError(f"{path}: cannot be read: {error.strerror}") from None
    except (BadZipFile, InvalidFileException, KeyError, ValueError, TypeError, AttributeError):
        raise InputError(f"{path}: is no XLSX") from None
    empty = [
        f"{get_column_letter(j)}{i}"
        for i, (found, written) in enumerate(zip(rows, formulas, strict=False), 1)
        for j, (value, formula) in enumerate(zip(found, written, strict=False), 1)
        if value is None and formula is not None
    ]
    if empty:
        many = f" and {len(empty) - 3} more" if len(empty) > 3 else ""
        raise InputError(
            f"{path}: {', '.join(empty[:3])}{many}: a formula whose value is not in the file; "
            "open it in a spreadsheet and save it there"
        )

    def cell_of(cell: object) -> str | float:
        if isinstance(cell, float):
            return cell
        return "" if cell is None else str(cell)

    return [(number, [cell_of(cell) for cell in row]) for number, row in enumerate(rows, 1)]


def sheet_names(path: Path) -> list[str]:
    """Return the names of the sheets of an XLSX.

    Raises
    ------
    InputError
        If it is none.
    """
    from zipfile import BadZipFile

    from openpyxl import load_workbook
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        return list(load_workbook(path, read_only=True).sheetnames)
    except (BadZipFile, InvalidFileException, KeyError, ValueError, OSError):
        raise InputError(f"{path}: is no XLSX") from None


def _may_have_formulas(path: Path) -> bool:
    """Whether a sheet of an XLSX holds a formula, by a look at its text alone."""
    from zipfile import ZipFile

    with ZipFile(path) as parts:
        sheets = [name for name in parts.namelist() if name.startswith("xl/worksheets/")]
        return any(b"<f>" in parts.read(name) or b"<f " in parts.read(name) for name in sheets)
