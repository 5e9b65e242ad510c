"""Reconciliation: catalogue rows held against the properties computed from their dimensions.

Published dimensions (where they are in inches) and properties are rounded. A row reconciles when
every published property lies within what the rounding of its dimensions and of the property
itself allows. The torsion constant stands on a fit, and is allowed 3 to 8 % beyond that by the
shape; the warping constant, which some tables take from the flanges alone, 1 to 2 %. The fillets of
shapes with tapered flanges are the mill's, and may differ by 2 mm. Those of angles are not known,
and angles are compared without them: 2 % of I, 3.5 % of the plastic modulus, 16 % of J. The mass
that is stated is allowed the 2.5 % that a rolled shape may deviate.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

import numpy as np

from welbric.sections.published import SOURCES, Source, nominal_mass, numbers, read_rows
from welbric.sections.table import DENSITY

MASS_TOLERANCE = 0.025
METRIC_DIGITS = 4  # metric tables round numbers of five digits and more to four
LEAST_DIGITS = 3  # that a table gives: closing zeros beyond them may stand for rounding
TIE = 1e-5  # of the value: a number that lies half way may have been rounded up or down


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
    >>> half_last_digit("1350", None), half_last_digit("91900", None), half_last_digit("100", None)
    (5.0, 50.0, 0.5)
    """
    if digits is not None:
        return float(0.5 * 10.0 ** (np.floor(np.log10(abs(float(text)))) - digits + 1))
    decimals = text.partition(".")[2]
    if decimals:
        return float(0.5 * 10.0 ** -len(decimals))
    zeros = min(len(text) - len(text.rstrip("0")), max(0, len(text) - LEAST_DIGITS))
    return float(0.5 * 10.0 ** max(zeros, len(text) - METRIC_DIGITS))


def differences(
    source: Source, rows: Iterable[Mapping[str, str]] | None = None
) -> list[Difference]:
    """Return every published property of a catalogue beside the computed one."""
    rows = list(read_rows(source.file) if rows is None else rows)
    published, sizes = numbers(source, rows)
    computed = source.make(sizes)

    def halves(column: str) -> np.ndarray:
        return np.array([half_last_digit(row[column], source.digits) for row in rows])

    steps = {name: 0.0 * value + source.radius for name, value in sizes.items() if name[0] == "r"}
    if source.digits is not None:
        steps |= {ours: halves(key) * source.length for ours, key in source.sizes.items()}
        if "kdes" in published:
            steps["r"] = halves("kdes") * source.length + steps["tf"]
    spread = {ours: np.zeros(len(rows)) for ours, _ in source.properties.values()}
    for name, step in steps.items():
        if np.any(step > 0):
            other = np.maximum(sizes[name] - step, 0.0)  # downwards: the parts still fit
            moved = source.make({**sizes, name: other})
            for ours in spread:
                spread[ours] = spread[ours] + np.abs(moved[ours] - computed[ours])
    by_row: list[list[Difference]] = [[] for _ in rows]
    for column, (ours, unit) in source.properties.items():
        value = computed[ours] / unit
        allowed = spread[ours] / unit + halves(column)
        allowed += (source.slack.get(ours, 0.0) + TIE) * value
        for i, row in enumerate(rows):
            given = float(row[column]), float(value[i]), float(allowed[i])
            by_row[i].append(Difference(row["name"], column, *given))
    if source.shape == "angle":
        return [difference for row_of in by_row for difference in row_of]  # no mass is stated
    for i, row in enumerate(rows):
        stated = nominal_mass(source, row) * 1000
        weighed = float(row["A"]) * source.properties["A"][1] * DENSITY * 1000
        by_row[i].append(Difference(row["name"], "mass", stated, weighed, MASS_TOLERANCE * stated))
    return [difference for row_of in by_row for difference in row_of]


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


def summary(
    file: str, standard: str, found: list[Difference], shipped: int | None = None
) -> Family:
    """Return how the rows of a catalogue reconcile; `shipped` counts those that state nothing."""
    failing = [d for d in found if not d.reconciles]
    names = {d.section for d in failing}
    largest: dict[str, Difference] = {}
    for d in found:
        if d.section not in names:
            known = largest.get(d.quantity)
            if known is None or abs(d.deviation) > abs(known.deviation):
                largest[d.quantity] = d
    if shipped is None:
        shipped = len({d.section for d in found} - names)
    return Family(file, standard, shipped, failing, largest)


def report() -> list[Family]:
    """Return how every published catalogue reconciles."""
    return [summary(source.file, source.standard, differences(source)) for source in SOURCES]
