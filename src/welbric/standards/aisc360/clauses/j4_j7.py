"""J4 and J7: stiffeners as columns, and contact."""

from __future__ import annotations

from welbric.standards.aisc360.symbols import condition, formula


@condition("J4.4(a)")
def is_stocky(Lc, r):
    """The column is too stocky to buckle."""
    return Lc / r <= 25


@formula("J4-6", "Rn")
def stocky_column(Fy, Ag):
    """Nominal strength of a stocky column."""
    return Fy * Ag


@formula("J4.4(b)", "Rn")
def buckling_column(Fn, Ag):
    """Nominal strength of a column that buckles (E3)."""
    return Fn * Ag


@formula("J7", "A_pb")
def contact_area(b_st, t_clip, t_st):
    """Area of a pair of stiffeners in contact with the flange."""
    return 2 * (b_st - t_clip) * t_st


@formula("J7-1", "Rn")
def contact(Fy, A_pb):
    """Nominal strength in contact."""
    return 1.8 * Fy * A_pb


@formula("J7-1", "Pn")
def bearing_on_pin(Fy, t, d_pin):
    """Nominal strength in bearing on the pin."""
    return 1.8 * Fy * (d_pin * t)
