"""Tables as text: what separates their cells, and which sign stands before decimals."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterable
from dataclasses import dataclass

from welbric.errors import InputError

Cells = list[tuple[int, list[str]]]  # the number of each line, and its cells


@dataclass(frozen=True)
class Form:
    """How a table stands in its file, so that it is written back alike.

    Attributes
    ----------
    delimiter : str
    decimal_comma : bool
        Whether 1,5 is one and a half.
    encoding : str
    """

    delimiter: str = ","
    decimal_comma: bool = False
    encoding: str = "utf-8"


USUAL_FORM = Form()


def delimiter_of(text: str) -> str:
    """Return what separates the cells of a CSV: a comma, a semicolon or a tab."""
    lines = (line for line in text.splitlines() if line.strip() and line[0] != "#")
    return max(",;\t", key=next(lines, "").count)


def csv_cells(text: str, delimiter: str = "") -> Cells:
    """Return the cells of a CSV, whatever it separates them with.

    Raises
    ------
    InputError
        If it is none.
    """
    rows = csv.reader(io.StringIO(text), delimiter=delimiter or delimiter_of(text))
    try:
        return [(rows.line_num, row) for row in rows if row]
    except csv.Error as error:
        raise InputError(f"line {rows.line_num}: is not CSV: {error}") from None


# Three digits behind a sign may be thousands, unless nothing but a zero stands before it.
_THOUSANDS = r"[1-9]\d{{0,2}}(?:{other}\d{{3}})+(?!\d)"
_COMMA = re.compile(
    rf"[+-]?(?:(?!{_THOUSANDS.format(other=',')})\d*,\d+|{_THOUSANDS.format(other='[.]')},\d+)"
)
_POINT = re.compile(
    rf"[+-]?(?:(?!{_THOUSANDS.format(other='[.]')})\d*[.]\d+|{_THOUSANDS.format(other=',')}[.]\d+)"
)
_EITHER = re.compile(rf"[+-]?(?:{_THOUSANDS.format(other=',')}|{_THOUSANDS.format(other='[.]')})")


def has_decimal_comma(cells: Iterable[tuple[int, str]], delimiter: str = ",") -> bool:
    """Whether a comma stands before the decimals of numbers.

    Parameters
    ----------
    cells : iterable of (int, str)
        The texts of columns of numbers, each with its line.
    delimiter : str
        Of the file; where commas separate cells, a point is the decimal sign unless the digits
        say otherwise.

    Raises
    ------
    InputError
        If some numbers have a comma and others a point, or nothing tells which it is.
    """
    comma = point = either = ""
    for line, cell in cells:
        if _COMMA.match(cell):
            comma = comma or f"line {line}: {cell!r}"
        elif _POINT.match(cell):
            point = point or f"line {line}: {cell!r}"
        elif _EITHER.match(cell):
            either = either or f"line {line}: {cell!r}"
    if comma and point:
        raise InputError(
            f"some numbers have a decimal comma ({comma}), others a decimal point ({point}); "
            "write them alike"
        )
    if either and not comma and not point and delimiter != ",":
        raise InputError(
            f"{either} may stand for thousands or for decimals: say whether there are decimal "
            "commas (--decimal-comma, or decimal_comma=True) or points (--decimal-point, False)"
        )
    return bool(comma)


_POINTS = re.compile(r"[+-]?\d{1,3}(\.\d{3})+(,\d*)?(\s.*|[^\d.,].*)?")
_GAPS = re.compile(r"(?<=\d)[ \u00a0\u2009\u202f](?=\d{3}(?!\d))")


def with_point(cell: str) -> str:
    """Return a number with a decimal comma, perhaps with its unit, as one with a decimal point.

    Raises
    ------
    InputError
        If a point in it does not stand between thousands.
    """
    if "." in cell and not _POINTS.fullmatch(cell):
        raise InputError(
            f"{cell!r} has a point that is not one of thousands, where a comma is the decimal sign"
        )
    return _GAPS.sub("", cell).replace(".", "").replace(",", ".")
