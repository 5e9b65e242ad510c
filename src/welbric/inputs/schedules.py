"""A schedule: many members, a row each, with forces from elsewhere.

A row is one member under one combination; rows with one mark are one member. The heads of the
columns are the words of the job file, with their units: in the head, ``moment_major (kip ft)``, in
a row of units below, or in the cells.
"""

from __future__ import annotations

import functools
import math
import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from welbric.errors import InputError, Problem, did_you_mean, wrong
from welbric.inputs.text_tables import USUAL_FORM, Cells, Form, has_decimal_comma, with_point
from welbric.inputs.usual_steel import usual_steel
from welbric.sections.table import Section
from welbric.steels import Steel
from welbric.steels import steel as steel_by_name
from welbric.units import BEYOND, KINDS, parse

Array = NDArray[np.float64]

WORDS = ("mark", "section", "steel", "combination", "choose")
QUANTITIES = {
    "length": "length", "major_length": "length", "minor_length": "length",
    "torsional_length": "length", "unbraced_length": "length",
    "compression": "force", "tension": "force", "shear_major": "force", "shear_minor": "force",
    "moment_major": "moment", "moment_minor": "moment", "torsion": "moment",
    "net_area": "area",
}  # fmt: skip
NUMBERS = ("major_K", "minor_K", "torsional_K", "moment_shape", "shear_lag")
FORCES = ("compression", "tension", "shear_major", "shear_minor", "moment_major", "moment_minor",
          "torsion")  # fmt: skip
SIGNED = ("moment_major", "moment_minor", "shear_major", "shear_minor", "torsion")
RESULTS = ("utilisation", "status", "governing check", "clause", "reason")
CHOSEN = "chosen section"
OWN_HEADS = {head.replace(" ", "_") for head in (*RESULTS, CHOSEN)}
CHUNK = 20_000  # rows checked at once: bounds the memory
MOST_ROWS = 1_000_000


@dataclass(frozen=True)
class Entry:
    """A row that could be read.

    Attributes
    ----------
    line : int
        In the file.
    mark, combination, choose : str
    section : Section or None
        None where it is to be chosen.
    Fy, Fu, nominal : float
        Strengths, and the yield strength that names the grade, MPa; NaN where the section is to
        be chosen.
    steel : str
        The grade; empty where none is given, and what is usual for the section is taken.
    values : dict of str to float
        In internal units; what the row leaves empty is not there.
    """

    line: int
    mark: str
    combination: str
    choose: str
    section: Section | None
    Fy: float
    Fu: float
    nominal: float
    steel: str
    values: dict[str, float]


@dataclass(frozen=True, repr=False)
class Schedule:
    """The rows of a schedule.

    Attributes
    ----------
    name : str
        The file's.
    cells : list of (line, cells)
        As they stand in the file, heads first.
    entries : list of Entry
    problems : list of str
        What is wrong, with line and column; those rows are no entries.
    bad : dict of int to str
        The lines of those rows.
    keys : list of str
        What each column holds; empty where it is a note or a result of before.
    form : Form
        How it is written down.
    """

    name: str
    cells: Cells
    entries: list[Entry]
    problems: list[str]
    bad: dict[int, str]
    keys: list[str]
    form: Form = USUAL_FORM

    def __repr__(self) -> str:
        bad = f", {len(self.bad)} not read" if self.bad else ""
        return f"<{self.name}: {len(self.entries)} rows{bad}>"


# Reading


def read_schedule(
    cells: Sequence[tuple[int, Sequence[str | float]]],
    name: str,
    steel: str = "",
    decimal_comma: bool | None = None,
    form: Form = USUAL_FORM,
) -> Schedule:
    """Read the cells of a schedule; bad rows are reported, the others stand.

    Parameters
    ----------
    cells : list of (int, list of str or float)
        Each line's number and cells; blank lines and those that begin with # may be among them.
    name : str
        The file's, for messages.
    steel : str
        Of the rows that name none; what is usual for their sections where there is none either.
    decimal_comma : bool, optional
        Whether 1,5 is one and a half; as the numbers themselves tell where it is not said.
    form : Form
        How they stand in the file.

    Raises
    ------
    InputError
        If the heads or the decimals cannot be understood, or there are no rows.
    """
    given = [(n, [_text(c) if isinstance(c, str) else c for c in row]) for n, row in cells]
    given = [(n, r) for n, r in given if any(c != "" for c in r) and not f"{r[0]}".startswith("#")]
    if not given:
        raise InputError(f"{name}: is empty; a schedule has a line of heads, then its rows")
    if len(given) > MOST_ROWS:
        raise InputError(f"{name}: more than {MOST_ROWS} rows; split the schedule")
    first = (given[0][0], [str(cell) for cell in given[0][1]])
    heads, units = _heads(first, name)
    if decimal_comma is None:
        numbers = [i for i, key in enumerate(heads) if key in QUANTITIES or key in NUMBERS]
        texts = (
            (line, cell)
            for line, row in given[1:]
            for cell in (row[i] for i in numbers if i < len(row))
            if isinstance(cell, str)
        )
        try:
            decimal_comma = has_decimal_comma(texts, form.delimiter)
        except InputError as error:
            raise error.under(file=name) from None
    sign = "," if decimal_comma else "."
    body = [
        (n, [c if isinstance(c, str) else str(c).replace(".", sign) for c in row])
        for n, row in given[1:]
    ]
    if body and _is_units_row(body[0][1], heads):
        below = [*body[0][1], *[""] * len(heads)]
        units = [under or unit for unit, under in zip(units, below, strict=False)]
        first = (first[0], _with_units(first[1], heads, below))
        body = body[1:]
    readers = [
        _reader(key, unit, f"{name}: line {first[0]}, column {i}", decimal_comma)
        for i, (key, unit) in enumerate(zip(heads, units, strict=True), 1)
    ]
    entries: list[Entry] = []
    problems: list[str] = []
    bad: dict[int, str] = {}
    for line, row in body:
        try:
            entries.append(_entry(line, row, heads, readers, steel))
        except InputError as error:
            bad[line] = "; ".join(error.problems)
            problems += error.under(file=f"{name}: line {line}").problems
    if not body:
        raise InputError(f"{name}: has heads, but no rows")
    form = replace(form, decimal_comma=decimal_comma)
    return Schedule(name, [first, *body], entries, problems, bad, heads, form)


def _text(cell: str) -> str:
    """Return a cell without spaces around it, and without the mark that keeps it from a formula."""
    cell = cell.strip()
    return cell[1:] if cell[:1] == "'" and cell[1:2] in set("=+-@") else cell


_HEAD = re.compile(r"\s*([^()\[\]]+?)\s*(?:[(\[]\s*(.+?)\s*[)\]])?\s*")


def _heads(row: tuple[int, list[str]], name: str) -> tuple[list[str], list[str]]:
    """Return the key and the unit of each column; an empty key where it is a note."""
    known = {key.casefold(): key for key in (*WORDS, *QUANTITIES, *NUMBERS)}
    keys, units, wrong = [], [], []
    for number, cell in enumerate(row[1], 1):
        match = _HEAD.fullmatch(cell)
        word = re.sub(r"[\s\-]+", "_", match[1]).casefold() if match else cell.casefold()
        place = f"{name}: line {row[0]}, column {number}"
        if not word or word.startswith("note") or word in OWN_HEADS:
            keys.append("")
        elif word not in known:
            hint = did_you_mean(word, known) or f"; known: {', '.join(known.values())}, note"
            wrong.append(f"{place}: unknown head {cell!r}{hint}")
            keys.append("")
        elif known[word] in keys:
            wrong.append(f"{place}: {known[word]} stands twice")
            keys.append("")
        else:
            keys.append(known[word])
        units.append((match[2] or "") if match else "")
    for needed in ("mark",):
        if needed not in keys and not wrong:
            wrong.append(f"{name}: line {row[0]}: no column {needed!r}")
    if not {"section", "choose"} & set(keys) and not wrong:
        wrong.append(f"{name}: line {row[0]}: no column 'section'")
    if wrong:
        raise InputError(*wrong)
    return keys, units


def _is_units_row(row: list[str], heads: list[str]) -> bool:
    """Whether a row below the heads only names units."""
    by_key = dict(zip(heads, row, strict=False))
    if by_key.get("mark") or by_key.get("section"):
        return False
    cells = [cell for key, cell in zip(heads, row, strict=False) if key in QUANTITIES and cell]
    return bool(cells) and all(not re.match(r"[+-]?[\d.,]", cell) for cell in cells)


def _with_units(row: list[str], heads: list[str], below: list[str]) -> list[str]:
    """Return the heads with the units that stand in the row below them."""
    found = []
    for cell, key, unit in zip(row, heads, below, strict=False):
        match = _HEAD.fullmatch(cell)
        found.append(f"{match[1]} ({unit})" if match and unit and key in QUANTITIES else cell)
    return found


Reader = Callable[[str], "float | str"]


def _reader(key: str, unit: str, place: str, decimal_comma: bool) -> Reader:
    """Return what reads the cells of a column."""
    if key in WORDS or not key:
        return str
    if key in NUMBERS:
        return functools.partial(_number, key, decimal_comma)
    kind = QUANTITIES[key]
    try:
        factor = parse(f"1 {unit}", kind) if unit else None
    except InputError as error:
        raise wrong("; ".join(error.problems), key, file=place) from None

    def quantity(cell: str) -> float:
        text = with_point(cell) if decimal_comma else cell
        try:
            value = float(text)
        except ValueError:
            return parse(text, kind)
        if factor is None:
            unit = KINDS[kind].examples[0].partition(" ")[2]
            raise InputError(f"{cell!r} has no unit: give it in the head, such as '{key} ({unit})'")
        if not abs(value * factor) < BEYOND:
            raise InputError(f"{cell!r} is not a finite number of a sensible size")
        return value * factor

    def named(cell: str) -> float:
        try:
            return quantity(cell)
        except InputError as error:
            raise error.under(key) from None

    return named


def _number(key: str, decimal_comma: bool, cell: str) -> float:
    try:
        value = float(with_point(cell) if decimal_comma else cell)
    except InputError as error:
        raise error.under(key) from None
    except ValueError:
        value = math.nan
    if not 0 < value < math.inf or (key == "shear_lag" and value > 1):
        least = "a number greater than zero" + (", at most 1" if key == "shear_lag" else "")
        raise InputError(f"{key}: {cell!r} is given; it is {least}")
    return value


def _entry(line: int, row: list[str], heads: list[str], readers: list[Reader], steel: str) -> Entry:
    if len(row) > len(heads) and any(row[len(heads) :]):
        raise InputError(f"{len(row)} cells, but {len(heads)} heads")
    words: dict[str, str] = {}
    values: dict[str, float] = {}
    problems: list[str] = []
    for key, read, cell in zip(heads, readers, row, strict=False):
        if not cell or not key:
            continue
        try:
            found = read(cell)
        except InputError as error:
            problems += error.problems
            continue
        if isinstance(found, str):
            words[key] = found
        else:
            values[key] = found
    if not words.get("mark"):
        problems.append(Problem("is missing", "mark"))
    section = None
    strengths = (math.nan, math.nan, math.nan)
    grade = words.get("steel", steel)
    try:
        if "section" in words:
            section = _section(words["section"])
            strengths = _strengths(grade, words["section"])
        elif "choose" not in words:
            problems.append(Problem("is missing", "section"))
        elif grade:
            steel_named(grade)
    except InputError as error:
        problems += error.problems
    given = dict(zip(heads, row, strict=False))
    problems += _misfits(given, values, section) if not problems else []
    if problems:
        raise InputError(*problems)
    combination, choose = words.get("combination", ""), words.get("choose", "")
    return Entry(line, words["mark"], combination, choose, section, *strengths, grade, values)


@functools.lru_cache(maxsize=20_000)
def _section(name: str) -> Section:
    from welbric.sections.built import section_in_words

    return section_in_words(name)


@functools.lru_cache(maxsize=1_000)
def steel_named(name: str) -> Steel:
    """Return a steel by its name."""
    return steel_by_name(name)


def steel_of(grade: str, section: Section) -> Steel:
    """Return the steel of a grade, or what is usual for a section where none is given."""
    return steel_named(grade) if grade else usual_steel(section)


@functools.lru_cache(maxsize=50_000)
def _strengths(grade: str, name: str) -> tuple[float, float, float]:
    section = _section(name)
    steel = steel_of(grade, section)
    band = steel.strengths(section.thickest, section.shape)
    return band.Fy, band.Fu, steel.nominal(section.shape)


def _misfits(given: dict[str, str], values: dict[str, float], section: Section | None) -> list[str]:
    """Return what of a row does not go together, in the words that it is given in."""
    found: list[str] = [
        Problem(f"{given[key]!r} is less than zero; give a magnitude", key)
        for key in ("compression", "tension")
        if values.get(key, 0.0) < 0
    ]
    for key in QUANTITIES:
        if key.endswith("length") and not 0 < values.get(key, 1.0) < 1e6:
            words = f"{given[key]!r} is given; it is greater than zero, and less than 1 km"
            found.append(Problem(words, key))
    if values.get("compression") and values.get("tension"):
        found.append(Problem("one row has one of them", "compression", "tension"))
    forces = ("compression", "moment_major", "moment_minor", "torsion")
    needs = [key for key in forces if values.get(key)]
    if needs and "length" not in values:
        found.append(Problem(f"is missing; {needs[0]} needs it", "length"))
    if ("net_area" in values) != ("shear_lag" in values):
        found.append("net_area and shear_lag go together")
    if section is not None and not 0 < values.get("net_area", 1.0) <= section.A * (1 + 1e-9):
        words = "it is greater than zero, and not greater than the gross area"
        found.append(Problem(f"{given['net_area']!r} is given; {words}", "net_area"))
    if not any(values.get(key) for key in FORCES):
        found.append("no force is given")
    return found
