"""Steel grades as data, with thickness bands."""

from __future__ import annotations

import csv
import functools
import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path

from welbric.errors import InputError, did_you_mean
from welbric.units import both, parse


@dataclass(frozen=True)
class Band:
    """The strengths of a grade up to a thickness; mm and MPa.

    Attributes
    ----------
    thickness, Fy, Fu : float
    shape : str
        The kind of shape that the strengths hold for, ``"plates"`` or ``"shapes"`` for those of
        `PLATES` and the others, ``"rolled"`` for these but hollow ones, and for rolled ones with
        plates; empty for every one.
    """

    thickness: float
    Fy: float
    Fu: float
    shape: str = ""


# Kinds of shapes that are bars, or built of plates at least in part; others are rolled or formed.
PLATES = frozenset(
    {"", "welded I", "unequal I", "welded box", "flat bar", "round bar", "plated I", "outline"}
)

HOLLOW = frozenset({"rectangular tube", "round tube"})


@dataclass(frozen=True)
class Steel:
    """A steel grade.

    Examples
    --------
    >>> steel("A992").strengths(20.0, "rolled I").Fy > 344
    True
    >>> steel("S355").strengths(16.0).Fy, steel("S355").strengths(16.1).Fy
    (355.0, 345.0)
    """

    name: str
    bands: tuple[Band, ...]

    def __str__(self) -> str:
        return self.name

    def bands_of(self, shape: str) -> list[Band]:
        """Return the bands that hold for a kind of shape, the thinnest first."""
        made_of = {"", shape, "plates" if shape in PLATES else "shapes"}
        if shape == "plated I" or shape not in PLATES | HOLLOW:
            made_of.add("rolled")
        return [band for band in self.bands if band.shape in made_of]

    def nominal(self, shape: str = "") -> float:
        """Return the yield strength by which the grade is named: that of its thinnest band, MPa."""
        return max((band.Fy for band in self.bands_of(shape)), default=math.nan)

    def strengths(self, thickness: float, shape: str = "") -> Band:
        """Return the strengths of a part of a section.

        Parameters
        ----------
        thickness : float, mm
        shape : str
            The kind of shape; a plate where none is said.

        Raises
        ------
        InputError
            If the grade is not made that thick, or not for such shapes.
        """
        bands = self.bands_of(shape)
        for band in bands:
            if thickness <= band.thickness * (1 + 1e-9):
                return band
        if not bands:
            kinds = " and ".join(dict.fromkeys(band.shape for band in self.bands))
            raise InputError(f"{self.name} is a steel of {kinds} sections, not of a {shape}")
        raise InputError(
            f"{self.name} has no strengths for a thickness of {both(thickness, 'dimension')}; "
            f"its thickest band ends at {both(bands[-1].thickness, 'dimension')}"
        )


FILES = (
    ("astm.csv", "ksi", "in"),
    ("en10025.csv", "MPa", "mm"),
    ("en10210_10219.csv", "MPa", "mm"),
    ("en1993_1_1.csv", "MPa", "mm"),
)


@functools.cache
def _rows(file: str) -> tuple[Mapping[str, str], ...]:
    text = Path(__file__).with_name(file).read_text("utf-8")
    return tuple(csv.DictReader(line for line in text.splitlines() if not line.startswith("#")))


@functools.cache
def _spellings() -> dict[str, tuple[str, int]]:
    """Return each spelling -> the grade's name and the number of its file."""
    found: dict[str, tuple[str, int]] = {}
    for number, (file, _, _) in enumerate(FILES):
        for row in _rows(file):
            for spelling in (row["grade"], *filter(None, row["aliases"].split(";"))):
                found.setdefault(folded(spelling), (row["grade"], number))
    return found


@functools.cache
def _steel(name: str, number: int) -> Steel:
    file, stress, length = FILES[number]
    bands = []
    for row in _rows(file):
        if row["grade"] == name:
            limit = row["thickness"]
            bands.append(
                Band(
                    parse(f"{limit} {length}", "dimension") if limit else math.inf,
                    parse(f"{row['Fy']} {stress}", "stress"),
                    parse(f"{row['Fu']} {stress}", "stress"),
                    row["shape"],
                )
            )
    return Steel(name, tuple(bands))


_PRODUCT = re.compile(r"en10025[2-6]?$")  # the standard that EN grades follow anyway


def folded(name: str) -> str:
    """Return a grade's name without spaces, dashes and case."""
    plain = name.casefold().replace("grade", "gr").replace("table 3.1", "en 1993-1-1")
    return "".join(c for c in plain if c.isalnum())


def grades() -> tuple[str, ...]:
    """Return the names of the grades."""
    return tuple(dict.fromkeys(name for name, _ in _spellings().values()))


def steel(name: str) -> Steel:
    """Return a grade by name.

    Raises
    ------
    InputError
        If it is not known; the nearest names are offered.
    """
    plain = folded(name)
    found = _spellings().get(plain) or _spellings().get(_PRODUCT.sub("", plain))
    if found is None:
        hint = did_you_mean(name[:60], grades()) or f"; known: {', '.join(grades())}"
        raise InputError(f"no steel {name[:60]!r}{hint}")
    return _steel(*found)
