"""E6: built-up members."""

from __future__ import annotations

from numpy import sqrt

from welbric.standards.aisc360.symbols import condition, formula


@formula("E6-1", "lambda_c")
def snug_tight_slenderness(lambda_o, a_c, ri):
    """Modified slenderness, connectors bolted snug-tight."""
    return sqrt(lambda_o**2 + (a_c / ri) ** 2)


@condition("E6.1(b)")
def connectors_are_near(a_c, ri):
    """The connectors are near each other."""
    return a_c / ri <= 40


@formula("E6-2a", "lambda_c")
def slenderness_as_one(lambda_o):
    """Modified slenderness, connectors welded or pretensioned and near."""
    return lambda_o


@formula("E6-2b", "lambda_c")
def fastened_slenderness(lambda_o, Ki, a_c, ri):
    """Modified slenderness, connectors welded or pretensioned."""
    return sqrt(lambda_o**2 + (Ki * a_c / ri) ** 2)
