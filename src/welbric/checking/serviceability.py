"""Deflection against a share of the span; no standard fixes the shares, designers choose them."""

from __future__ import annotations

from welbric.working import Glossary, Symbol

GLOSSARY = Glossary(
    "serviceability",
    {
        "delta": Symbol("dimension", "largest deflection from the undeformed line"),
        "delta_lim": Symbol("dimension", "limit of deflection"),
        "L": Symbol("length", "span"),
        "n": Symbol("number", "the limit is the span over n"),
        "U": Symbol("number", "utilisation"),
    },
)


@GLOSSARY.formula("limit", "delta_lim")
def deflection_limit(L, n):
    """Limit of deflection."""
    return L / n


@GLOSSARY.formula("limit", "U")
def deflection_utilisation(delta, delta_lim):
    """Deflection over its limit."""
    return delta / delta_lim


def deflection_ratio(delta: float | None, L: float, n: float) -> float:
    """Return deflection over limit.

    Parameters
    ----------
    delta, L : float, mm
    n : float
        The limit is L / n.
    """
    return float(deflection_utilisation(delta, deflection_limit(L, n)))
