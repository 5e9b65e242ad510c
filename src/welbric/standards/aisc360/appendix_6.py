"""Appendix 6: what point braces of beams (6.3.1b) and columns (6.2.2) must be able to do."""

from __future__ import annotations

from typing import Any

from welbric.standards.aisc360.symbols import formula

PHI, OMEGA = 0.75, 2.00


@formula("A-6-7", "Pbr")
def brace_force(Mr, Cd, ho):
    """Required strength of a point brace."""
    return 0.02 * (Mr * Cd / ho)


@formula("A-6-8a", "beta_br")
def design_stiffness(phi_br, Mr, Cd, Lbr, ho):
    """Required stiffness of a point brace (LRFD)."""
    return 1 / phi_br * (10 * Mr * Cd / (Lbr * ho))


@formula("A-6-8b", "beta_br")
def allowable_stiffness(Omega_br, Mr, Cd, Lbr, ho):
    """Required stiffness of a point brace (ASD)."""
    return Omega_br * (10 * Mr * Cd / (Lbr * ho))


@formula("A-6-3", "Pbr")
def column_brace_force(Pr):
    """Required strength of a point brace of a column."""
    return 0.01 * Pr


@formula("A-6-4a", "beta_br")
def design_stiffness_of_column(phi_br, Pr, Lbr):
    """Required stiffness of a point brace of a column (LRFD)."""
    return 1 / phi_br * (8 * Pr / Lbr)


@formula("A-6-4b", "beta_br")
def allowable_stiffness_of_column(Omega_br, Pr, Lbr):
    """Required stiffness of a point brace of a column (ASD)."""
    return Omega_br * (8 * Pr / Lbr)


def column_requirement(method: str, Pr: Any, Lbr: Any) -> tuple[Any, Any]:
    """Return the strength and the stiffness that a point brace of a column needs (6.2.2)."""
    if method == "LRFD":
        return column_brace_force(Pr), design_stiffness_of_column(PHI, Pr, Lbr)
    return column_brace_force(Pr), allowable_stiffness_of_column(OMEGA, Pr, Lbr)


def requirement(method: str, Mr: Any, Cd: Any, Lbr: Any, ho: Any) -> tuple[Any, Any]:
    """Return the strength and the stiffness that a point brace needs."""
    if method == "LRFD":
        return brace_force(Mr, Cd, ho), design_stiffness(PHI, Mr, Cd, Lbr, ho)
    return brace_force(Mr, Cd, ho), allowable_stiffness(OMEGA, Mr, Cd, Lbr, ho)
