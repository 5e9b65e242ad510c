"""EN 1993-1-8, 3.10.3: angles in tension, bolted through one leg."""

from __future__ import annotations

from numpy import maximum, minimum

from welbric.standards.en1993.symbols import formula


@formula("EN 1993-1-8, Table 3.8", "beta_2")
def factor_of_two_bolts(p_1, d_0):
    """Reduction factor of two bolts in line: 0.4 up to 2.5 diameters, 0.7 from 5 on."""
    return minimum(maximum(0.4 + 0.3 * (p_1 / d_0 - 2.5) / 2.5, 0.4), 0.7)


@formula("EN 1993-1-8, Table 3.8", "beta_3")
def factor_of_more_bolts(p_1, d_0):
    """Reduction factor of three bolts in line or more: 0.5 up to 2.5 diameters, 0.7 from 5 on."""
    return minimum(maximum(0.5 + 0.2 * (p_1 / d_0 - 2.5) / 2.5, 0.5), 0.7)


@formula("EN 1993-1-8, 3.12", "N_u_Rd")
def by_two_bolts(beta_2, A_net, f_u, gamma_M2):
    """Ultimate resistance of an angle through one leg, two bolts in line."""
    return beta_2 * A_net * f_u / gamma_M2


@formula("EN 1993-1-8, 3.13", "N_u_Rd")
def by_more_bolts(beta_3, A_net, f_u, gamma_M2):
    """Ultimate resistance of an angle through one leg, three bolts in line or more."""
    return beta_3 * A_net * f_u / gamma_M2


@formula("EN 1993-1-8, 3.10.3(2)", "A_net")
def as_of_equal_legs(A_net, h, b, t):
    """Net area of the angle with two legs as long as the shorter one, which is joined."""
    return A_net - (h - b) * t
