"""Steel grades as data, with thickness bands."""

from __future__ import annotations

import csv
import functools
import math
from dataclasses import dataclass
from importlib import resources

from welbric.errors import InputError, did_you_mean
from welbric.units import parse


@dataclass(frozen=True)
class Band:
    """The strengths of a grade up to a thickness; mm and MPa."""

    thickness: float
    Fy: float
    Fu: float


@dataclass(frozen=True)
class Steel:
    """A steel grade.

    Examples
    --------
    >>> steel("A992").strengths(20.0).Fy > 344
    True
    """

    name: str
    bands: tuple[Band, ...]

    def strengths(self, thickness: float) -> Band:
        """Return the band that holds for the thickest part of a section.

        Raises
        ------
        InputError
            If the grade is not made that thick.
        """
        for band in self.bands:
            if thickness <= band.thickness:
                return band
        raise InputError(
            f"{self.name} has no strengths for a thickness of {thickness:.4g} mm; its thickest "
            f"band ends at {self.bands[-1].thickness:.4g} mm"
        )


FILES = (("astm.csv", "ksi", "in"), ("en10025_2.csv", "MPa", "mm"))


@functools.cache
def _grades() -> tuple[dict[str, Steel], dict[str, str]]:
    steels: dict[str, Steel] = {}
    spellings: dict[str, str] = {}
    for file, stress, length in FILES:
        text = resources.files("welbric.steels").joinpath(file).read_text("utf-8")
        for row in csv.DictReader(line for line in text.splitlines() if not line.startswith("#")):
            thickness = row["thickness"]
            limit = parse(f"{thickness} {length}", "dimension") if thickness else math.inf
            strengths = (parse(f"{row[key]} {stress}", "stress") for key in ("Fy", "Fu"))
            name = row["grade"]
            bands = steels[name].bands if name in steels else ()
            steels[name] = Steel(name, (*bands, Band(limit, *strengths)))
            for spelling in (name, *filter(None, row["aliases"].split(";"))):
                spellings[folded(spelling)] = name
    return steels, spellings


def folded(name: str) -> str:
    """Return a grade's name without spaces, dashes and case."""
    return "".join(c for c in name.casefold().replace("grade", "gr") if c.isalnum())


def grades() -> tuple[str, ...]:
    """Return the names of the grades."""
    return tuple(_grades()[0])


def steel(name: str) -> Steel:
    """Return a grade by name.

    Raises
    ------
    InputError
        If it is not known; the nearest names are offered.
    """
    steels, spellings = _grades()
    found = spellings.get(folded(name))
    if found is None:
        hint = did_you_mean(name[:60], grades()) or f"; known: {', '.join(grades())}"
        raise InputError(f"no steel {name[:60]!r}{hint}")
    return steels[found]
