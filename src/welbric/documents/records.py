"""Plain rows: for pandas, CSV and JSON."""

from __future__ import annotations

import csv
import io
import json
import math
import re
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, Any

from welbric.errors import UNSEEN, InputError, seen

if TYPE_CHECKING:
    import pandas


def frame(rows: Sequence[Mapping[str, Any]]) -> pandas.DataFrame:
    """Return records as a pandas frame."""
    try:
        import pandas
    except ImportError:
        raise InputError("a frame needs pandas; install it with: pip install pandas") from None
    return pandas.DataFrame(rows)


def as_csv(
    rows: Sequence[Mapping[str, Any]], delimiter: str = ",", decimal_comma: bool = False
) -> str:
    """Return records as CSV; a text that a spreadsheet would take for a formula is defused."""
    if not rows:
        return ""
    buffer = io.StringIO()
    headings = list(dict.fromkeys(key for row in rows for key in row))
    writer = csv.DictWriter(buffer, headings, lineterminator="\n", delimiter=delimiter)
    writer.writeheader()

    def cell(value: Any) -> Any:
        if decimal_comma and isinstance(value, float):
            return str(value).replace(".", ",")
        return defused(value)

    for row in rows:
        writer.writerow({key: cell(value) for key, value in row.items()})
    return buffer.getvalue()


_UNSEEN = re.compile(f"[{UNSEEN}]")


def as_json(what: Any) -> str:
    """Return plain data as JSON; what would steer a terminal or turn text around is escaped."""
    text = json.dumps(what, indent=2, ensure_ascii=False, allow_nan=False)
    return _UNSEEN.sub(lambda one: f"\\u{ord(one[0]):04x}", text)


def defused(value: Any) -> Any:
    """Return a text that a spreadsheet would take for a formula with a mark before it.

    A number is none, and stays what it is. What would steer a terminal is taken out.
    """
    if isinstance(value, str):
        value = seen(value)
    if isinstance(value, str) and value[:1] in {"=", "+", "-", "@", "\t", "\r"}:
        return value if re.fullmatch(r"[+-]?[\d.,]+([eE][+-]?\d+)?", value) else "'" + value
    return value


def finite(value: Any) -> Any:
    """Return a value with what JSON cannot hold, NaN and infinity, as null."""
    if isinstance(value, float) and not math.isfinite(value):
        return None
    if isinstance(value, dict):
        return {key: finite(inner) for key, inner in value.items()}
    if isinstance(value, list):
        return [finite(inner) for inner in value]
    return value
