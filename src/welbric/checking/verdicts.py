"""The one policy of verdicts: over before outside before ok, and with what tolerance."""

from __future__ import annotations

import math
from typing import Any, Protocol

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import first_largest

OK, OVER, OUTSIDE = "ok", "over", "outside"
ROUNDING = 1e-9  # a utilisation of 1 is within the limit; so is one that rounding puts above it


class Judged(Protocol):
    """What has a utilisation and a status."""

    @property
    def utilisation(self) -> float:
        """NaN where it is outside."""

    @property
    def status(self) -> str:
        """One of the three."""


def status_of(utilisation: float) -> str:
    """Return the status of a utilisation; what is not a number is never ok."""
    if math.isnan(utilisation):
        return OUTSIDE
    return OK if utilisation <= 1 + ROUNDING else OVER


def deciding(utilisations: Any) -> int:
    """Return which of many utilisations decides, as an index into them flattened."""
    return int(deciding_each(np.ravel(np.asarray(utilisations, dtype=float))[None])[0])


def deciding_each(utilisations: Any) -> NDArray[np.intp]:
    """Return which utilisation of each row decides, shape (rows,).

    The largest that is over; else the first that is not a number, since the case was not verified
    whole; else the largest. What is not there is given as minus infinity.
    """
    U = np.asarray(utilisations, dtype=float)
    outside = np.isnan(U)
    finite = np.where(outside, -1.0, U)
    over = finite.max(axis=1) > 1 + ROUNDING
    first = outside.argmax(axis=1)
    return np.where(outside.any(axis=1) & ~over, first, first_largest(finite))


def badness(row: Judged) -> tuple[int, float]:
    """Return what rows are ordered by: over before outside before ok, then by utilisation."""
    order = {OVER: 2, OUTSIDE: 1, OK: 0}[row.status]
    return order, -1.0 if row.status == OUTSIDE else row.utilisation


def sortable(utilisation: float) -> float:
    """Return a utilisation for sorting; what is outside stands before everything."""
    return math.inf if math.isnan(utilisation) else utilisation
