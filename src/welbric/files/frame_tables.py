"""A frame as tables, CSV in a folder or sheets of an XLSX: joints, members and loads, both ways.

The heads of columns are the keys of a job file, with a point for what stands within another
(``buckling.minor_length``), and the unit of bare numbers behind a comma (``x, m``). A cell that
begins with a bracket is what a job file would have there.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from welbric.errors import InputError, Problem, did_you_mean
from welbric.files.reading import read_table_text, regular_file
from welbric.files.schedules import LARGEST, SHEETS, sheet_cells, sheet_names
from welbric.inputs.generators import GENERATORS
from welbric.inputs.text_tables import csv_cells, delimiter_of

Row = dict[str, Any]
JOINTS, MEMBERS, JOINT_LOADS, LOADS = "joints", "members", "joint loads", "member loads"
TABLES = (JOINTS, MEMBERS, JOINT_LOADS, LOADS)
AT = ("x", "y", "z")  # columns of the places of joints
LISTS = ("through", "support")  # whose cells may have several words
# Keys that are names and words, whatever their cells look like.
TEXTS = {"mark", "name", "joint", "case", "role", "steel", "group", "alternative", "note"}
WAYS = re.compile(r"turn [xyz]|[xyz]")
GUARDED = re.compile(r"'(?=[-+=@])")  # a mark before what a spreadsheet would take for a formula
HEAD = re.compile(r"([^,\[(]+?)\s*(?:,\s*(.+)|\[(.+)\]|\((.+)\))?\s*")
NUMBER = re.compile(r"[+-]?(\d+([.,]\d*)?|[.,]\d+)([eE][+-]?\d+)?")
TRUE, FALSE = {"true", "yes"}, {"false", "no"}


# In


def gathered(path: str | Path, base: str = "welbric = 2\n") -> str:
    """Return the text of a job of the tables of a frame.

    Parameters
    ----------
    path : str or Path
        A folder with ``joints.csv``, ``members.csv`` and, where there are any, ``joint loads.csv``
        and ``member loads.csv``; or an XLSX with sheets of these names.
    base : str
        A job file that has all else: its standard, loading, frame, defaults. Joints and members
        of its own, and what makes such, are left out.

    Raises
    ------
    InputError
        With what cannot be read, by table and line.
    """
    import tomlkit

    tables = _read(Path(path))
    wrongs: list[Problem] = []
    rows = {name: _rows(name, cells, wrongs) for name, cells in tables.items()}
    if wrongs:
        raise InputError(*wrongs).under(file=str(path))
    members = rows.get(MEMBERS, [])
    by_mark = {row["mark"]: row for row in members if "mark" in row}
    for number, load in enumerate(rows.get(LOADS, []), 2):
        mark = str(load.pop("mark", ""))
        if mark not in by_mark:
            hint = did_you_mean(mark, by_mark) or ""
            words = f"no member {mark!r}{hint}"
            raise InputError(Problem(words, LOADS, f"row {number}")).under(file=str(path))
        by_mark[mark].setdefault("load", []).append(load)
    document = tomlkit.parse(base)
    for key in {"joint", "member", "joint_load", *GENERATORS} & set(document):
        document.remove(key)
    for key, name in (("joint", JOINTS), ("member", MEMBERS), ("joint_load", JOINT_LOADS)):
        if rows.get(name):
            document[key] = rows[name]
    return tomlkit.dumps(document)


def _read(path: Path) -> dict[str, list[tuple[int, list[Any]]]]:
    """Return the cells of each table that is there."""
    if path.suffix.casefold() in SHEETS:
        file = regular_file(path, LARGEST)
        sheets = {name.casefold(): name for name in sheet_names(file)}
        found = {n: sheet_cells(file, sheets[n]) for n in TABLES if n in sheets}
    elif path.is_dir():
        files = {one.stem.casefold().replace("_", " "): one for one in sorted(path.glob("*.csv"))}
        found = {}
        for name in TABLES:
            if name in files:
                text = read_table_text(files[name], LARGEST).text
                found[name] = [
                    (line, list(row)) for line, row in csv_cells(text, delimiter_of(text))
                ]
    else:
        raise InputError(f"{path}: is no XLSX, and no folder of CSV")
    for name in (JOINTS, MEMBERS):
        if name not in found:
            raise InputError(f"{path}: has no table {name!r}; known: {', '.join(TABLES)}")
    return found


def _rows(
    name: str, cells: Sequence[tuple[int, Sequence[Any]]], wrongs: list[Problem]
) -> list[Row]:
    """Return the rows of a table as a job file has them."""
    lines = [(line, row) for line, row in cells if any(str(cell).strip() for cell in row)]
    if not lines:
        return []
    heads = [_head(str(cell)) for cell in lines[0][1]]
    found = []
    for line, row in lines[1:]:
        record: Row = {}
        for (key, unit), cell in zip(heads, row, strict=False):
            text = _plain(cell)
            if not key or not text:
                continue
            try:
                _put(record, key.split("."), _value(key, text, unit))
            except (tomllib.TOMLDecodeError, InputError):
                words = f"{text[:60]!r} cannot be read"
                wrongs.append(Problem(words, f"{name}, row {line}", key))
        if name == JOINTS:
            record["at"] = [record.pop(axis) for axis in AT if axis in record]
        found.append(record)
    return found


def _plain(cell: Any) -> str:
    if isinstance(cell, float):
        return repr(int(cell)) if cell.is_integer() else repr(cell)
    return GUARDED.sub("", str(cell).strip(), count=1)


def _head(text: str) -> tuple[str, str]:
    """Return the key of a column, and the unit of its bare numbers."""
    match = HEAD.fullmatch(text.strip())
    if match is None:
        return text.strip(), ""
    return match[1].strip(), next((one.strip() for one in match.groups()[1:] if one), "")


def _value(key: str, text: str, unit: str) -> Any:
    """Return a cell as a job file would have it."""
    if key.rpartition(".")[2] in TEXTS:
        return text
    if text[0] in "[{":
        return tomllib.loads(f"value = {text}")["value"]
    if key in LISTS and text not in ("pinned", "fixed"):
        return WAYS.findall(text) if key == "support" else _split(text)
    if NUMBER.fullmatch(text):
        plain = text.replace(",", ".")
        if unit:
            return f"{plain} {unit}"
        return float(plain) if set(plain) & set(".eE") else int(plain)
    if text.casefold() in TRUE | FALSE:
        return text.casefold() in TRUE
    return text


def _split(text: str) -> list[str]:
    """Return names that stand in one cell, with semicolons or else blanks between them."""
    return [one.strip() for one in (text.split(";") if ";" in text else text.split())]


def _put(record: Row, keys: Sequence[str], value: Any) -> None:
    for key in keys[:-1]:
        record = record.setdefault(key, {})
        if not isinstance(record, dict):
            raise InputError("is a value, and has others within")
    record[keys[-1]] = value


# Out


def tables_of(data: Mapping[str, Any]) -> dict[str, list[Row]]:
    """Return the joints, members and loads of a job's description as rows, by table.

    ``data`` is what a job file has, generators written out.
    """
    found: dict[str, list[Row]] = {name: [] for name in TABLES}
    for joint in data.get("joint") or data.get("joints") or []:
        places = dict(zip(AT if len(joint["at"]) == 3 else ("x", "z"), joint["at"], strict=True))
        rest = {key: value for key, value in joint.items() if key != "at"}
        found[JOINTS].append({"name": rest.pop("name")} | places | _flat(rest))
    for member in data.get("member") or data.get("members") or []:
        rest = {key: value for key, value in member.items() if key not in ("load", "loads")}
        found[MEMBERS].append(_flat(rest))
        for load in member.get("load") or member.get("loads") or []:
            found[LOADS].append({"mark": member["mark"]} | _flat(load))
    for load in data.get("joint_load") or data.get("joint_loads") or []:
        found[JOINT_LOADS].append(_flat(load))
    return {name: rows for name, rows in found.items() if rows}


def _flat(record: Mapping[str, Any], before: str = "") -> Row:
    """Return a record with a point between the keys of what stands within another."""
    found: Row = {}
    for key, value in record.items():
        if isinstance(value, dict) and value:
            found |= _flat(value, f"{before}{key}.")
        elif isinstance(value, bool):
            found[before + key] = "true" if value else "false"
        elif key in LISTS and isinstance(value, list):
            blank = any(" " in one for one in value)
            found[before + key] = ("; " if blank else " ").join(value)
        elif isinstance(value, list | dict):
            found[before + key] = _inline(value)
        else:
            found[before + key] = value
    return found


def _inline(value: Any) -> str:
    """Return a list as a job file has it on one line."""
    import tomlkit

    if isinstance(value, list) and all(isinstance(one, str) for one in value):
        array = tomlkit.array()
        array.extend(value)
        return array.as_string()
    return _written(value)


def _written(value: Any) -> str:
    import tomlkit

    if isinstance(value, list):
        return f"[{', '.join(_written(one) for one in value)}]"
    if isinstance(value, Mapping):
        inner = ", ".join(f"{tomlkit.key(key).as_string()} = {_written(one)}"
                          for key, one in value.items())  # fmt: skip
        return f"{{ {inner} }}"
    return str(tomlkit.item(value).as_string())
