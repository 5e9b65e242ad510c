"""5.3.3: what a system that holds members sideways must carry."""

from __future__ import annotations

from numpy import sqrt

from welbric.standards.en1993.symbols import formula


@formula("5.3.3(1)", "alpha_m")
def of_members(m):
    """Factor for so many members held by one system."""
    return sqrt(0.5 * (1 + 1 / m))


@formula("5.12", "e_0")
def bow(alpha_m, L):
    """Bow imperfection of the members held."""
    return alpha_m * L / 500


@formula("5.3.3(3)", "N_Ed")
def of_flange(M_Ed, h, N_c_Ed):
    """Compression of a beam's flange; of an external compression it takes half."""
    return M_Ed / h + N_c_Ed / 2


@formula("5.13", "q_d")
def line_force(N_Ed, e_0, delta_q, L):
    """Force along the system that stands for the bow of a member."""
    return N_Ed * 8 * (e_0 + delta_q) / L**2
