"""Double entry: catalogue rows held against the properties computed from their dimensions.

Published dimensions and properties are rounded. A row reconciles when every published property
lies within what the rounding of its dimensions and of the property itself allows; J, whose
computation is a fit, is allowed 3 % more. The mass stated in the designation is allowed the
2.5 % that ASTM A6 allows a rolled shape.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from welbric.sections import i_shape
from welbric.sections.catalogue import W_COLUMNS, nominal_weight, read_published

POUND_PER_FOOT_PER_SQUARE_INCH = 490 / 144  # steel at 490 lb/ft3
J_FIT = 0.03
MASS_TOLERANCE = 0.025

# Rows of w_shapes.csv that do not reconcile, and are not shipped; a test holds this to the data.
W_LEFT_OUT = frozenset({"W30X99"})


@dataclass(frozen=True)
class Difference:
    """A published property and the same computed from the dimensions."""

    section: str
    quantity: str
    published: float
    computed: float
    allowed: float

    @property
    def reconciles(self) -> bool:
        """Whether the two agree within what rounding allows."""
        return bool(abs(self.computed - self.published) <= self.allowed)


def half_last_digit(text: str) -> float:
    """Return half a unit in the last of the three digits that are published.

    >>> half_last_digit("18.0"), half_last_digit("3040"), half_last_digit(".355")
    (0.05, 5.0, 0.0005)
    """
    value = float(text)
    return float(0.5 * 10.0 ** (np.floor(np.log10(abs(value))) - 2))


def differences(rows: list[dict[str, str]] | None = None) -> list[Difference]:
    """Return every published property of the W-shapes beside the computed one, in inches."""
    rows = read_published("w_shapes.csv") if rows is None else rows
    found: list[Difference] = []
    for row in rows:
        size = {k: float(row[k]) for k in ("d", "bf", "tw", "tf")}
        size["r"] = float(row["kdes"]) - size["tf"]
        half = {k: half_last_digit(row[k]) for k in ("d", "bf", "tw", "tf")}
        half["r"] = half_last_digit(row["kdes"]) + half["tf"]
        computed = i_shape.properties(**size)
        spread = dict.fromkeys(computed, 0.0)
        for k, step in half.items():
            moved = i_shape.properties(**{**size, k: size[k] + step})
            for key in spread:
                spread[key] += abs(float(moved[key] - computed[key]))
        for published, (ours, _) in W_COLUMNS.items():
            if published in size:
                continue
            value = float(computed[ours])
            allowed = spread[ours] + half_last_digit(row[published]) + 1e-9 * value
            allowed += J_FIT * value if published == "J" else 0.0
            found.append(Difference(row["name"], published, float(row[published]), value, allowed))
        stated = nominal_weight(row["name"])
        weight = float(row["A"]) * POUND_PER_FOOT_PER_SQUARE_INCH
        found.append(Difference(row["name"], "mass", stated, weight, MASS_TOLERANCE * stated))
    return found
