"""Double entry: catalogue rows held against the properties computed from their dimensions.

Published dimensions (where they are in inches) and properties are rounded. A row reconciles when
every published property lies within what the rounding of its dimensions and of the property
itself allows. The torsion constant stands on a fit, and is allowed 3 % beyond that, or 4 % in the
European tables, whose fit is another one; their warping constant, taken from the flanges alone, is
allowed 1.2 %. The mass that is stated is allowed the 2.5 % that a rolled shape may deviate.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from welbric.sections import i_shape
from welbric.sections.catalogue import SOURCES, Source, nominal_mass, read_published

MASS_TOLERANCE = 0.025
METRIC_DIGITS = 4  # metric tables round numbers of five digits and more to four
TIE = 1e-5  # of the value: a number that lies half way may have been rounded either way


@dataclass(frozen=True)
class Difference:
    """A published property and the same computed from the dimensions, in the published unit."""

    section: str
    quantity: str
    published: float
    computed: float
    allowed: float

    @property
    def reconciles(self) -> bool:
        """Whether the two agree within what rounding allows."""
        return bool(abs(self.computed - self.published) <= self.allowed)

    @property
    def deviation(self) -> float:
        """Computed over published, less one."""
        return self.computed / self.published - 1


def half_last_digit(text: str, digits: int | None) -> float:
    """Return half a unit in the last digit that is published.

    >>> half_last_digit("18.0", 3), half_last_digit("3040", 3), half_last_digit(".355", 3)
    (0.05, 5.0, 0.0005)
    >>> half_last_digit("80.1", None), half_last_digit("1317", None), half_last_digit("11770", None)
    (0.05, 0.5, 5.0)
    """
    if digits is not None:
        return float(0.5 * 10.0 ** (np.floor(np.log10(abs(float(text)))) - digits + 1))
    decimals = text.partition(".")[2]
    if decimals:
        return float(0.5 * 10.0 ** -len(decimals))
    return float(0.5 * 10.0 ** max(0, len(text) - METRIC_DIGITS))


def differences(
    source: Source, rows: Iterable[Mapping[str, str]] | None = None
) -> list[Difference]:
    """Return every published property of a catalogue beside the computed one."""
    found: list[Difference] = []
    for row in read_published(source.file) if rows is None else rows:
        size = {ours: float(row[key]) for ours, key in source.sizes.items()}
        size["r"] = float(row[source.fillet]) - (size["tf"] if source.fillet_from_face else 0.0)
        computed = i_shape.properties(**size)
        spread = dict.fromkeys(computed, 0.0)
        if source.digits is not None:
            half = {k: half_last_digit(row[v], source.digits) for k, v in source.sizes.items()}
            half["r"] = half_last_digit(row[source.fillet], source.digits) + half["tf"]
            for k, step in half.items():
                moved = i_shape.properties(**{**size, k: size[k] + step})
                for key in spread:
                    spread[key] += abs(float(moved[key] - computed[key]))
        for published, (ours, unit) in source.properties.items():
            power = {"A": 2, "J": 4, "Cw": 6, "r": 1}.get(ours.split("_")[0])
            power = power or (4 if ours.startswith("I") else 3)
            scale = source.length**power / unit
            value = float(computed[ours]) * scale
            allowed = spread[ours] * scale + half_last_digit(row[published], source.digits)
            allowed += (source.slack.get(ours, 0.0) + TIE) * value
            found.append(Difference(row["name"], published, float(row[published]), value, allowed))
        stated = nominal_mass(source, dict(row)) * 1000
        area = float(row["A"]) * source.properties["A"][1]
        allowed = MASS_TOLERANCE * stated
        found.append(
            Difference(row["name"], "mass", stated, area * i_shape.DENSITY * 1000, allowed)
        )
    return found


@dataclass(frozen=True)
class Family:
    """How one catalogue reconciles.

    Attributes
    ----------
    file, standard : str
    shipped : int
    left_out : list of Difference
        What does not reconcile; their sections are not shipped.
    largest : dict of str to Difference
        By property, the largest deviation among the rows that are shipped.
    """

    file: str
    standard: str
    shipped: int
    left_out: list[Difference]
    largest: dict[str, Difference]


def report() -> list[Family]:
    """Return how every catalogue reconciles."""
    families = []
    for source in SOURCES:
        found = differences(source)
        failing = [d for d in found if not d.reconciles]
        names = {d.section for d in failing}
        largest: dict[str, Difference] = {}
        for d in found:
            if d.section not in names:
                known = largest.get(d.quantity)
                if known is None or abs(d.deviation) > abs(known.deviation):
                    largest[d.quantity] = d
        shipped = len({d.section for d in found} - names)
        families.append(Family(source.file, source.standard, shipped, failing, largest))
    return families
