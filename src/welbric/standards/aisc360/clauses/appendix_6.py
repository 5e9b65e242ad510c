"""Appendix 6: what braces of beams (6.3) and of columns (6.2) must be able to do."""

from __future__ import annotations

from typing import Any

from numpy import inf, maximum

from welbric.standards.aisc360.symbols import formula

PHI, OMEGA = 0.75, 2.00


@formula("A-6-5", "Pbr")
def panel_shear(Mr, Cd, ho):
    """Required shear strength of a panel brace."""
    return 0.01 * (Mr * Cd / ho)


@formula("A-6-6a", "beta_br")
def design_stiffness_of_panel(phi_br, Mr, Cd, Lbr, ho):
    """Required stiffness of a panel brace (LRFD)."""
    return 1 / phi_br * (4 * Mr * Cd / (Lbr * ho))


@formula("A-6-6b", "beta_br")
def allowable_stiffness_of_panel(Omega_br, Mr, Cd, Lbr, ho):
    """Required stiffness of a panel brace (ASD)."""
    return Omega_br * (4 * Mr * Cd / (Lbr * ho))


@formula("A-6-1", "Pbr")
def column_panel_shear(Pr):
    """Required shear strength of a panel brace of a column."""
    return 0.005 * Pr


@formula("A-6-2a", "beta_br")
def design_stiffness_of_column_panel(phi_br, Pr, Lbr):
    """Required stiffness of a panel brace of a column (LRFD)."""
    return 1 / phi_br * (2 * Pr / Lbr)


@formula("A-6-2b", "beta_br")
def allowable_stiffness_of_column_panel(Omega_br, Pr, Lbr):
    """Required stiffness of a panel brace of a column (ASD)."""
    return Omega_br * (2 * Pr / Lbr)


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


def column_requirement(method: str, Pr: Any, Lbr: Any, panel: bool = False) -> tuple[Any, Any]:
    """Return the strength and the stiffness that a brace of a column needs.

    As a point brace (6.2.2), or as a panel brace (6.2.1), whose strength is a shear.
    """
    if panel:
        if method == "LRFD":
            return column_panel_shear(Pr), design_stiffness_of_column_panel(PHI, Pr, Lbr)
        return column_panel_shear(Pr), allowable_stiffness_of_column_panel(OMEGA, Pr, Lbr)
    if method == "LRFD":
        return column_brace_force(Pr), design_stiffness_of_column(PHI, Pr, Lbr)
    return column_brace_force(Pr), allowable_stiffness_of_column(OMEGA, Pr, Lbr)


# Torsional braces (6.3.2). Editions differ in the stiffness and in the moment: the larger of what
# they ask for is taken.

OMEGA_T = 3.00


@formula("A-6-11", "beta_T")
def system_stiffness(phi_br, L_span, n_br, E, I_yeff, Mr, Cb):
    """Required stiffness of the bracing system (LRFD)."""
    return 1 / phi_br * (3.6 * L_span / (n_br * E * I_yeff)) * (Mr / Cb) ** 2


@formula("A-6-11", "beta_T")
def system_stiffness_allowable(Omega_br, L_span, n_br, E, I_yeff, Mr, Cb):
    """Required stiffness of the bracing system (ASD)."""
    return Omega_br * (3.6 * L_span / (n_br * E * I_yeff)) * (Mr / Cb) ** 2


@formula("A-6-12", "beta_sec")
def web_stiffness(E, ho, tw, t_st, b_st):
    """Stiffness of the web against distortion, with a stiffener or without."""
    return 3.3 * E / ho * (1.5 * ho * tw**3 / 12 + t_st * b_st**3 / 12)


@formula("A-6-10", "beta_br_T")
def torsional_brace_stiffness(beta_T, beta_sec):
    """Required stiffness of a torsional brace."""
    return beta_T / (1 - beta_T / beta_sec)


@formula("A-6-9", "Mbr")
def torsional_brace_moment(Mr, beta_T, phi_br, Lbr, ho):
    """Required strength of a torsional brace: 0.02 Mr, or what an initial twist brings."""
    return maximum(0.02 * Mr, phi_br * beta_T * (Lbr / (500 * ho)))


def torsional_requirement(
    method: str, Mr: Any, L_span: Any, n_br: Any, E: Any, I_yeff: Any, Lbr: Any, ho: Any,
    tw: Any, t_st: Any, b_st: Any,
) -> tuple[Any, Any]:  # fmt: skip
    """Return the moment and the stiffness that a torsional brace needs (6.3.2), with Cb = 1."""
    if method == "LRFD":
        beta_T, share = system_stiffness(PHI, L_span, n_br, E, I_yeff, Mr, 1.0), PHI
    else:
        beta_T = system_stiffness_allowable(OMEGA_T, L_span, n_br, E, I_yeff, Mr, 1.0)
        share = 1.5 / OMEGA_T  # at the level of the loads, not of their squares
    beta_sec = web_stiffness(E, ho, tw, t_st, b_st)
    moment = torsional_brace_moment(Mr, beta_T, share, Lbr, ho)
    # Where the web is more flexible than the whole may be, no brace is stiff enough.
    return moment, torsional_brace_stiffness(beta_T, beta_sec) if beta_T < beta_sec else inf


# Held against twisting all along (6.3.2b): the same for each unit of length


@formula("A-6-11", "beta_T_1")
def continuous_stiffness(phi_br, E, I_yeff, Mr, Cb):
    """Required stiffness of the bracing for each unit of length (LRFD), L/n = 1."""
    return 1 / phi_br * (3.6 / (E * I_yeff)) * (Mr / Cb) ** 2


@formula("A-6-11", "beta_T_1")
def continuous_stiffness_allowable(Omega_br, E, I_yeff, Mr, Cb):
    """Required stiffness of the bracing for each unit of length (ASD), L/n = 1."""
    return Omega_br * (3.6 / (E * I_yeff)) * (Mr / Cb) ** 2


@formula("A-6-13", "beta_sec_1")
def web_stiffness_along(E, tw, ho):
    """Stiffness of the web against distortion, for each unit of length."""
    return 3.3 * E * tw**3 / (12 * ho)


@formula("A-6-10", "beta_br_1")
def continuous_brace_stiffness(beta_T_1, beta_sec_1):
    """Required stiffness of a continuous torsional brace, for each unit of length."""
    return beta_T_1 / (1 - beta_T_1 / beta_sec_1)


@formula("A-6-9", "Mbr_1")
def continuous_brace_moment(Mr, beta_T_1, phi_br, Lbr, ho):
    """Required strength for each unit of length: 0.02 Mr over Lbr, or of an initial twist."""
    return maximum(0.02 * Mr / Lbr, phi_br * beta_T_1 * (Lbr / (500 * ho)))


def continuous_requirement(
    method: str, Mr: Any, E: Any, I_yeff: Any, Lbr: Any, ho: Any, tw: Any
) -> tuple[Any, Any]:
    """Return the moment and the stiffness for each unit of length (6.3.2b), with Cb = 1.

    ``Lbr`` is the longest unbraced length that the moment allows.
    """
    if method == "LRFD":
        beta_T, share = continuous_stiffness(PHI, E, I_yeff, Mr, 1.0), PHI
    else:
        beta_T = continuous_stiffness_allowable(OMEGA_T, E, I_yeff, Mr, 1.0)
        share = 1.5 / OMEGA_T
    beta_sec = web_stiffness_along(E, tw, ho)
    moment = continuous_brace_moment(Mr, beta_T, share, Lbr, ho)
    return moment, continuous_brace_stiffness(beta_T, beta_sec) if beta_T < beta_sec else inf


def requirement(
    method: str, Mr: Any, Cd: Any, Lbr: Any, ho: Any, panel: bool = False
) -> tuple[Any, Any]:
    """Return the strength and the stiffness that a brace needs.

    As a point brace (6.3.1b), or as a panel brace (6.3.1a), whose strength is a shear.
    """
    if panel:
        if method == "LRFD":
            return panel_shear(Mr, Cd, ho), design_stiffness_of_panel(PHI, Mr, Cd, Lbr, ho)
        return panel_shear(Mr, Cd, ho), allowable_stiffness_of_panel(OMEGA, Mr, Cd, Lbr, ho)
    if method == "LRFD":
        return brace_force(Mr, Cd, ho), design_stiffness(PHI, Mr, Cd, Lbr, ho)
    return brace_force(Mr, Cd, ho), allowable_stiffness(OMEGA, Mr, Cd, Lbr, ho)
