"""A user's own catalogue, CSV or TOML: read, held against its dimensions, bad rows reported.

A CSV file has a line of headings: ``name``, perhaps ``shape``, and dimensions and properties with
their units, such as ``d (mm)`` or ``Wpl_major (cm3)``. A TOML file has ``[[section]]`` tables. The
dimensions give the section; a property that is stated too must agree with them, and then holds.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from welbric.errors import InputError, Problem, did_you_mean, wrong
from welbric.inputs.own_shapes import read_own_shape
from welbric.inputs.text_tables import csv_cells, delimiter_of, has_decimal_comma, with_point
from welbric.sections.catalogues import folded
from welbric.sections.reconcile import Difference
from welbric.sections.table import DIMENSIONS, PROPERTIES, Section
from welbric.units import parse

# How far a stated property may be from the computed one: rounding, and for torsion other fits.
ALLOWED = {"J": 0.08, "Cw": 0.03, "mass": 0.025}
ALLOWED_ELSE = 0.015
MOST_ROWS = 20_000
Entry = tuple[str, dict[str, Any], dict[str, str]]  # where it is, what it says, columns of fields


@dataclass(frozen=True)
class OwnCatalogue:
    """The sections of a user's catalogue.

    Attributes
    ----------
    name : str
        The file's.
    sections : dict of str to Section
        By the folded name.
    differences : list of Difference
        Every stated property beside the computed one, in internal units.
    problems : list of str
        What is wrong, with line and column.
    unusable : dict of str to str
        The folded names of bad rows, each with what is wrong.
    """

    name: str
    sections: dict[str, Section]
    differences: list[Difference]
    problems: list[str]
    unusable: dict[str, str]


def read_catalogue(text: str, name: str, keep_good: bool = False) -> OwnCatalogue:
    r"""Read a catalogue.

    Parameters
    ----------
    text : str
    name : str
        The file's; one that ends in ``.toml`` is TOML, any other CSV.
    keep_good : bool
        Whether the good rows may be used although others are bad.

    Raises
    ------
    InputError
        With every problem, unless the good rows may be used.

    Examples
    --------
    >>> own = read_catalogue("name,d (mm),bf (mm),tw (mm),tf (mm)\nY1,400,200,8,14", "yard.csv")
    >>> round(own.sections["Y1"].A)
    8576
    """
    entries = _toml_entries if name.casefold().endswith(".toml") else _csv_entries
    return _read(entries(text, name), name, keep_good, {})


def read_tables(entries: Any, bare_units: Mapping[str, str]) -> dict[str, Section]:
    """Return the sections of a job's own ``[[section]]`` tables, by their folded names.

    Raises
    ------
    InputError
        With every problem.
    """
    return _read(tables_of(entries, ""), "", False, {"bare_units": bare_units}).sections


def _read(
    entries: Iterator[Entry], name: str, keep_good: bool, context: dict[str, Any]
) -> OwnCatalogue:
    name = f"{name}: " if name else ""
    sections: dict[str, Section] = {}
    differences: list[Difference] = []
    wrong: list[str] = []
    unusable: dict[str, str] = {}
    places: dict[str, str] = {}
    for count, (where, table, columns) in enumerate(entries):
        if count >= MOST_ROWS:
            raise InputError(f"{name}more than {MOST_ROWS} sections; split the catalogue")
        try:
            section, found = _entry(table, context)
        except InputError as error:
            for problem in error.problems:
                field = problem.path[0] if problem.path else ""
                wrong.append(f"{name}{where}{columns.get(field, '')}: {problem}")
            unusable[folded(str(table.get("name", "")))] = wrong[-1]
            continue
        off = [d for d in found if not d.reconciles]
        for d in off:
            wrong.append(
                f"{name}{where}{columns.get(d.quantity, '')}: {d.quantity}: stated is "
                f"{1 / (1 + d.deviation):.3f} of what the dimensions give; "
                f"allowed within {ALLOWED.get(d.quantity, ALLOWED_ELSE):.1%}"
            )
        key = folded(section.name)
        if off:
            unusable[key] = wrong[-1]
        if key in places:
            wrong.append(f"{name}{where}: the name {section.name!r} stands at {places[key]} too")
        elif not off:
            places[key] = where
            sections[key] = section
            differences += found
    if wrong and not keep_good:
        raise InputError(*wrong)
    if not sections and not wrong:
        raise InputError(f"{name}has no sections")
    return OwnCatalogue(name.rstrip(": "), sections, differences, wrong, unusable)


def _entry(table: dict[str, Any], context: dict[str, Any]) -> tuple[Section, list[Difference]]:
    """Return a section and what it states beside what its dimensions give."""
    own = dict(table)
    if not str(own.get("name", "")).strip():
        raise wrong("is missing", "name")
    own.setdefault("shape", "rolled I")
    stated: dict[str, float] = {}
    found: list[Problem] = []
    for key in [key for key in own if key in PROPERTIES and key not in DIMENSIONS]:
        kind = PROPERTIES[key][0]
        try:
            text = str(own.pop(key))
            stated[key] = parse(re.sub(r"\blbs?\b", "lbm", text) if key == "mass" else text, kind)
        except InputError as error:
            found += error.under(key).problems
    try:
        section = read_own_shape(own, context)
    except InputError as error:
        raise InputError(*found, *error.problems) from None
    if found:
        raise InputError(*found)
    differences = []
    for key, value in stated.items():
        if key not in section.properties:
            raise InputError(f"{key}: a {section.shape} has no such property")
        computed = section.properties[key]
        allowed = ALLOWED.get(key, ALLOWED_ELSE) * abs(computed)
        differences.append(Difference(section.name, key, value, computed, allowed))
    whole = section.properties | stated
    return Section(section.shape, section.name, whole, section.corners), differences


_HEADING = re.compile(r"\s*([A-Za-z]\w*)\s*(?:[(\[]\s*(.+?)\s*[)\]])?\s*")


def _csv_entries(text: str, name: str) -> Iterator[Entry]:
    """Yield each row: its line, its values as text with units, and the column of each field."""
    delimiter = delimiter_of(text)
    try:
        rows = [
            (line, row)
            for line, row in csv_cells(text, delimiter)
            if any(cell.strip() for cell in row) and not row[0].lstrip().startswith("#")
        ]
        comma = has_decimal_comma(
            ((line, cell.strip()) for line, row in rows[1:] for cell in row[1:]), delimiter
        )
    except InputError as error:
        raise error.under(file=name) from None
    headings: list[tuple[str, str]] | None = None
    columns: dict[str, str] = {}
    for line, row in rows:
        if headings is None:
            headings = _headings(row, name, line)
            columns = {key: f", column {i} ({row[i - 1].strip()})"
                       for i, (key, _) in enumerate(headings, 1)}  # fmt: skip
            continue
        where = f"line {line}"
        if len(row) != len(headings):
            raise InputError(
                f"{name}: {where}: {len(row)} values, but {len(headings)} headings; "
                "is there a comma too many or too few?"
            )
        table: dict[str, Any] = {}
        for (key, unit), cell in zip(headings, row, strict=True):
            value = cell.strip()
            if comma and key not in {"name", "shape"}:
                value = with_point(value)
            if value:
                table[key] = _plain(value) if key == "slope" else f"{value} {unit}".strip()
        yield where, table, columns
    if headings is None:
        raise InputError(f"{name}: is empty; a catalogue has a line of headings, then its rows")


def _plain(value: str) -> Any:
    try:
        return float(value)
    except ValueError:
        return value


def _headings(row: list[str], name: str, line: int) -> list[tuple[str, str]]:
    known = {"name", "shape", *PROPERTIES}
    found: list[tuple[str, str]] = []
    wrong: list[str] = []
    for number, cell in enumerate(row, 1):
        match = _HEADING.fullmatch(cell)
        key, unit = (match[1], match[2] or "") if match else (cell.strip(), "")
        place = f"{name}: line {line}, column {number}"
        if key not in known:
            wrong.append(f"{place}: unknown heading {cell.strip()!r}{did_you_mean(key, known)}")
        elif not unit and key not in {"name", "shape", "slope"}:
            wrong.append(f"{place}: {key} needs its unit, such as '{key} (mm)'")
        elif key in {k for k, _ in found}:
            wrong.append(f"{place}: {key} stands twice")
        found.append((key, unit))
    if "name" not in {key for key, _ in found}:
        wrong.append(f"{name}: line {line}: no heading 'name'")
    if wrong:
        raise InputError(*wrong)
    return found


def _toml_entries(text: str, name: str) -> Iterator[Entry]:
    try:
        data = tomllib.loads(text)
    except (ValueError, RecursionError) as error:
        raise InputError(f"{name}: is not TOML: {error}") from None
    yield from tables_of(data.get("section"), name)
    unknown = set(data) - {"section"}
    if unknown:
        raise InputError(f"{name}: unknown key {sorted(unknown)[0]!r}; known here: section")


def tables_of(entries: Any, name: str) -> Iterator[Entry]:
    """Yield the ``[[section]]`` tables of a TOML file, each with where it is."""
    if not isinstance(entries, list) or not all(isinstance(e, Mapping) for e in entries):
        name = f"{name}: " if name else ""
        raise InputError(f"{name}section: give [[section]] tables")
    for number, entry in enumerate(entries, 1):
        mark = str(entry.get("name", ""))[:40]
        yield f"section {number}" + (f" ({mark})" if mark else ""), dict(entry), {}
