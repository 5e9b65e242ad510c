"""The catalogues as data, and finding a section by the name people write."""

from __future__ import annotations

import csv
import functools
import re
from collections.abc import Iterator
from dataclasses import dataclass
from importlib import resources

import numpy as np

from welbric.errors import InputError, did_you_mean
from welbric.sections.table import Section, SectionTable

INCH = 25.4
POUND_PER_FOOT = 0.45359237 / 304.8  # in kg/mm, exact by definition


@dataclass(frozen=True)
class Source:
    """A catalogue file of doubly symmetric I-shapes, and how its columns are to be read.

    Attributes
    ----------
    file : str
    standard : str
        The public standard that fixes the dimensions.
    sizes : dict of str to str
        Dimension of ours (d, bf, tw, tf) -> published column.
    fillet : str
        The published column of the fillet radius, or of the flange with its fillet.
    fillet_from_face : bool
        Whether `fillet` is measured from the outer face of the flange.
    properties : dict of str to (str, float)
        Published column -> property of ours and the size of its unit in mm to the right power.
    length : float
        Size of the unit of the dimensions, mm.
    mass : str or None
        The column of the mass in kg/m; None where the designation states it in lb/ft.
    slack : dict of str to float
        Property of ours -> share of it allowed beyond rounding, because the published value stands
        on another formula.
    digits : int or None
        Significant digits to which dimensions are rounded; None where they are exact.
    """

    file: str
    standard: str
    sizes: dict[str, str]
    fillet: str
    fillet_from_face: bool
    properties: dict[str, tuple[str, float]]
    length: float
    mass: str | None
    slack: dict[str, float]
    digits: int | None


_INCH_SIZES = {"d": "d", "bf": "bf", "tw": "tw", "tf": "tf"}
_INCH_PROPERTIES = {
    "A": ("A", INCH**2),
    "Ix": ("I_major", INCH**4),
    "Zx": ("Wpl_major", INCH**3),
    "Sx": ("Wel_major", INCH**3),
    "rx": ("r_major", INCH),
    "Iy": ("I_minor", INCH**4),
    "Zy": ("Wpl_minor", INCH**3),
    "Sy": ("Wel_minor", INCH**3),
    "ry": ("r_minor", INCH),
    "J": ("J", INCH**4),
    "Cw": ("Cw", INCH**6),
}
_METRIC_PROPERTIES = {
    "A": ("A", 1e2),
    "Iy": ("I_major", 1e4),
    "Wply": ("Wpl_major", 1e3),
    "Wely": ("Wel_major", 1e3),
    "iy": ("r_major", 10.0),
    "Iz": ("I_minor", 1e4),
    "Wplz": ("Wpl_minor", 1e3),
    "Welz": ("Wel_minor", 1e3),
    "iz": ("r_minor", 10.0),
    "It": ("J", 1e4),
    "Iw": ("Cw", 1e9),
}
_METRIC_SIZES = {"d": "h", "bf": "b", "tw": "tw", "tf": "tf"}

_INCH = (_INCH_SIZES, "kdes", True, _INCH_PROPERTIES, INCH, None, {"J": 0.03}, 3)
_METRIC = (_METRIC_SIZES, "r", False, _METRIC_PROPERTIES, 1.0, "G", {"J": 0.04, "Cw": 0.012}, None)
SOURCES = (
    Source("w_shapes.csv", "ASTM A6/A6M", *_INCH),
    Source("hp_shapes.csv", "ASTM A6/A6M", *_INCH),
    Source("en10365_i.csv", "EN 10365", *_METRIC),
)

# Rows that do not reconcile with their dimensions, and are not shipped; a test holds this to
# what `welbric.sections.reconcile` finds.
LEFT_OUT = frozenset({"W30X99", "HP12X53", "HP10X57", "HP10X42", "HP8X36"})


@functools.cache
def read_published(file: str) -> tuple[dict[str, str], ...]:
    """Return the rows of a catalogue file as the text that was published."""
    text = resources.files("welbric.sections").joinpath("data", file).read_text("utf-8")
    lines = (line for line in text.splitlines() if not line.startswith("#"))
    return tuple(csv.DictReader(lines))


@functools.cache
def catalogue() -> SectionTable:
    """Return every catalogued section of the rolled I kind that reconciles.

    The properties are those that were published, because the manuals' tables of strengths stand
    on them; `welbric.sections.reconcile` holds them against those computed from the dimensions.
    """
    names: list[str] = []
    parts: list[dict[str, np.ndarray]] = []
    for source in SOURCES:
        rows = [row for row in read_published(source.file) if row["name"] not in LEFT_OUT]
        names += [row["name"] for row in rows]
        numbers = {
            key: np.array([float(row[key]) for row in rows])
            for key in (*source.sizes.values(), source.fillet, *source.properties)
        }
        part = {ours: numbers[key] * source.length for ours, key in source.sizes.items()}
        part["r"] = numbers[source.fillet] * source.length
        if source.fillet_from_face:
            part["r"] = part["r"] - part["tf"]
        part |= {ours: numbers[key] * size for key, (ours, size) in source.properties.items()}
        part["mass"] = np.array([nominal_mass(source, row) for row in rows])
        parts.append(part)
    columns = {key: np.concatenate([part[key] for part in parts]) for key in parts[0]}
    return SectionTable("rolled I", names, columns)


def nominal_mass(source: Source, row: dict[str, str]) -> float:
    """Return the mass that a row or its designation states, kg/mm."""
    if source.mass is not None:
        return float(row[source.mass]) / 1000.0
    return float(row["name"].rpartition("X")[2]) * POUND_PER_FOOT


def family_of(name: str) -> str:
    """Return the family of a section: the letters its name begins with."""
    return re.match(r"[A-Z]*", name).group()  # type: ignore[union-attr]


def folded(name: str) -> str:
    """Return a name in one spelling: ``w 14 × 90`` -> ``W14X90``, ``HE 300 B`` -> ``HEB300``."""
    plain = re.sub(r"[\s_-]+", "", re.sub(r"\s*[×*]\s*", "X", name)).upper()
    return re.sub(r"^HE(\d+)([ABM])$", r"HE\2\1", plain)


@functools.cache
def _index() -> dict[str, int]:
    return {folded(name): row for row, name in enumerate(catalogue().names)}


def section(name: str) -> Section:
    """Return a section by its name, however it is written.

    Parameters
    ----------
    name : str
        Such as ``"W18X50"``, ``"w 18 × 50"``, ``"IPE 300"`` or ``"HE 300 B"``.

    Raises
    ------
    InputError
        If no catalogue has it; the nearest names are offered.
    """
    row = _index().get(folded(str(name)[:60]))
    if row is None:
        raise InputError(f"no section {str(name)[:60]!r} in the catalogue{_hint(str(name)[:60])}")
    return catalogue()[row]


def _hint(name: str) -> str:
    """Offer the same depth's nearest weights, or the names that look most alike."""
    depth, _, weight = folded(name).partition("X")
    same_depth = [known for known in catalogue().names if known.startswith(depth + "X")]
    if same_depth and re.fullmatch(r"\d+(\.\d*)?", weight):
        same_depth.sort(key=lambda known: abs(float(known.rpartition("X")[2]) - float(weight)))
        return "; the nearest are " + ", ".join(same_depth[:3])
    return did_you_mean(folded(name), catalogue().names)


def sections_named(pattern: str) -> Iterator[Section]:
    """Yield the sections whose name begins with, or contains, a text."""
    wanted = folded(pattern)
    table = catalogue()
    starting = [i for key, i in _index().items() if key.startswith(wanted)]
    for i in starting or [i for key, i in _index().items() if wanted in key]:
        yield table[i]
