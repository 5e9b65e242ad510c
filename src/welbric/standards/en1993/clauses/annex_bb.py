"""BB.1.2: angles as web members."""

from __future__ import annotations

from welbric.standards.en1993.symbols import formula


@formula("BB.1", "lambda_eff")
def about_v(lambda_v):
    """Effective slenderness about the minor principal axis."""
    return 0.35 + 0.7 * lambda_v


@formula("BB.1", "lambda_eff")
def about_leg(lambda_y):
    """Effective slenderness about an axis parallel to a leg."""
    return 0.50 + 0.7 * lambda_y
