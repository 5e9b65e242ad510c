"""Appendix 7: effective length factors (Table C-A-7.1), and the first-order analysis method."""

from __future__ import annotations

from typing import Any

from numpy import maximum

# (one end, other end) -> (theoretical, recommended for design)
FACTORS = {
    frozenset({"fixed"}): (0.5, 0.65),
    frozenset({"fixed", "pinned"}): (0.7, 0.80),
    frozenset({"fixed", "guided"}): (1.0, 1.2),
    frozenset({"pinned"}): (1.0, 1.0),
    frozenset({"fixed", "free"}): (2.0, 2.10),
    frozenset({"pinned", "guided"}): (2.0, 2.0),
}


def effective_length_factor(start: str, end: str, values: str) -> float:
    """Return K of a member with these ends.

    Parameters
    ----------
    start, end : str
        ``"pinned"``, ``"fixed"``, ``"free"`` or ``"guided"``.
    values : str
        ``"theoretical"`` or ``"recommended"``.

    Raises
    ------
    KeyError
        If the pair is not one of the six (it would be a mechanism).
    """
    theoretical, recommended = FACTORS[frozenset({start, end})]
    return theoretical if values == "theoretical" else recommended


MOST_COMPRESSION = 0.5  # of what crushes the section (A-7-1)
LEAST = 0.0042  # of gravity loads (A-7-2)


def additional_lateral_load(alpha: float, drift: Any, Y: float) -> Any:
    """Return the load that acts sideways at a level (A-7-2).

    Parameters
    ----------
    alpha : float
        The load level.
    drift : float or array
        The largest drift of a storey over its height, of the first order.
    Y : float
        The gravity load of the level.
    """
    return maximum(2.1 * alpha * drift * Y, LEAST * Y)
