"""The catalogues as data, and finding a section by the name people write."""

from __future__ import annotations

import csv
import functools
import re
from collections.abc import Iterator
from importlib import resources
from typing import Any

import numpy as np

from welbric.errors import InputError, did_you_mean
from welbric.sections.table import Section, SectionTable

INCH = 25.4
POUND_PER_FOOT = 0.45359237 / 304.8  # in kg/mm, exact by definition

# Published column -> our property and its power of length.
W_COLUMNS = {
    "A": ("A", 2), "d": ("d", 1), "bf": ("bf", 1), "tw": ("tw", 1), "tf": ("tf", 1),
    "Ix": ("I_major", 4), "Zx": ("Wpl_major", 3), "Sx": ("Wel_major", 3), "rx": ("r_major", 1),
    "Iy": ("I_minor", 4), "Zy": ("Wpl_minor", 3), "Sy": ("Wel_minor", 3), "ry": ("r_minor", 1),
    "J": ("J", 4), "Cw": ("Cw", 6),
}  # fmt: skip


def read_published(name: str) -> list[dict[str, str]]:
    """Return the rows of a catalogue file as the text that was published."""
    text = resources.files("welbric.sections").joinpath("data", name).read_text("utf-8")
    lines = (line for line in text.splitlines() if not line.startswith("#"))
    return list(csv.DictReader(lines))


@functools.cache
def w_shapes() -> SectionTable:
    """Return the W-shapes that reconcile, with the published properties.

    The properties are those that were published, because the manuals' tables of strengths stand
    on them; `welbric.sections.reconcile` holds them against those computed from the dimensions.
    """
    from welbric.sections.reconcile import W_LEFT_OUT

    rows = [row for row in read_published("w_shapes.csv") if row["name"] not in W_LEFT_OUT]
    columns: dict[str, Any] = {}
    for published, (ours, power) in W_COLUMNS.items():
        columns[ours] = np.array([float(row[published]) for row in rows]) * INCH**power
    kdes = np.array([float(row["kdes"]) for row in rows]) * INCH
    columns["r"] = kdes - columns["tf"]
    columns["mass"] = np.array([nominal_weight(row["name"]) for row in rows]) * POUND_PER_FOOT
    return SectionTable("rolled I", [row["name"] for row in rows], columns)


def nominal_weight(name: str) -> float:
    """Return the weight in lb/ft that a W-shape's designation states."""
    return float(name.partition("X")[2])


def catalogue() -> SectionTable:
    """Return every catalogued section of the rolled I kind."""
    return w_shapes()


def folded(name: str) -> str:
    """Return a name in one spelling: ``w 14 × 90`` -> ``W14X90``."""
    return re.sub(
        r"[\s_*×-]+", lambda m: "X" if m.group().strip() in {"×", "*"} else "", name
    ).upper()


@functools.cache
def _index() -> dict[str, int]:
    return {folded(name): row for row, name in enumerate(catalogue().names)}


def section(name: str) -> Section:
    """Return a section by its name, however it is written.

    Parameters
    ----------
    name : str
        Such as ``"W18X50"``, ``"w18x50"`` or ``"W 18 × 50"``.

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
        same_depth.sort(key=lambda known: abs(nominal_weight(known) - float(weight)))
        return "; the nearest are " + ", ".join(same_depth[:3])
    return did_you_mean(folded(name), catalogue().names)


def sections_named(pattern: str) -> Iterator[Section]:
    """Yield the sections whose name begins with, or contains, a text."""
    wanted = folded(pattern)
    table = catalogue()
    starting = [i for key, i in _index().items() if key.startswith(wanted)]
    for i in starting or [i for key, i in _index().items() if wanted in key]:
        yield table[i]
