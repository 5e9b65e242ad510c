"""6.3.4: the general method for lateral buckling of members bent in one plane."""

from __future__ import annotations

from numpy import maximum, minimum, sqrt

from welbric.standards.en1993.symbols import formula

# Bow imperfections, length over e0, by imperfection factor: elastic; plastic ones are 50 less
# (Table 5.1).
BOW = {0.13: 350.0, 0.21: 300.0, 0.34: 250.0, 0.49: 200.0, 0.76: 150.0}
PLASTIC = 50.0


@formula("Table 5.1", "e_0")
def bow(L_cr, n_bow):
    """Bow imperfection in the plane of the moment."""
    return L_cr / n_bow


@formula("6.3.4(2)", "M_II")
def in_plane_moment(M_y_Ed, N_Ed, e_0, N_cr_y):
    """Moment with the bow and second-order effects in the plane."""
    return (M_y_Ed + N_Ed * e_0) / (1 - N_Ed / N_cr_y)


@formula("6.3.4(4)", "alpha_ult_k")
def load_level_in_plane(N_Ed, N_Rk, M_II, M_y_Rk):
    """Load level at which the cross-section reaches its resistance, without lateral buckling."""
    return 1 / (N_Ed / N_Rk + M_II / M_y_Rk)


@formula("6.3.4(3)", "alpha_cr_op")
def critical_load_level(N_Ed, N_cr_op, M_y_Ed, M_cr):
    """Load level of lateral buckling: not above the true one, whose boundary is convex."""
    return 1 / maximum(N_Ed / N_cr_op + M_y_Ed / M_cr, 1e-9)


@formula("6.64", "lambda_op")
def slenderness(alpha_ult_k, alpha_cr_op):
    """Global slenderness out of the plane."""
    return sqrt(alpha_ult_k / alpha_cr_op)


@formula("6.3.4(4)a", "chi_op")
def lesser(chi, chi_LT):
    """The lesser of both reduction factors."""
    return minimum(chi, chi_LT)


@formula("6.2.1(7), taken", "M_z_II")
def minor_moment(M_z_Ed, N_Ed, N_cr_op):
    """Moment about z with its second-order effects."""
    return M_z_Ed / (1 - N_Ed / N_cr_op)


@formula("6.2.1(7), taken", "U")
def with_minor_moment(U_plane, M_z_II, M_z_Rk, gamma_M1):
    """Ratio of the general method, and that of the moment about z, elastic."""
    return U_plane + M_z_II / (M_z_Rk / gamma_M1)


@formula("6.2.1(7), taken", "U")
def of_stresses(N_Ed, N_b_Rd, N_cr_op, U_sigma, chi_LT):
    """Compression over its resistance, and stresses of bending with second-order effects."""
    return N_Ed / N_b_Rd + U_sigma / chi_LT / (1 - N_Ed / N_cr_op)


@formula("6.3.2.2, taken", "U")
def lateral_stresses(U_sigma, chi_LT):
    """Stresses of bending over the reduction factor in lateral-torsional buckling."""
    return U_sigma / chi_LT


@formula("6.63", "U")
def utilisation(chi_op, alpha_ult_k, gamma_M1):
    """Verification out of the plane."""
    return gamma_M1 / (chi_op * alpha_ult_k)
