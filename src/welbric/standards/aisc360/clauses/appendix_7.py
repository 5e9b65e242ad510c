"""Appendix 7: effective length factors of the six textbook end conditions (Table C-A-7.1)."""

from __future__ import annotations

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
