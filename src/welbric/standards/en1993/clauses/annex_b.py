"""6.3.3 with Annex B: uniform members in bending and compression, method 2."""

from __future__ import annotations

from numpy import maximum, minimum, ndim, where

from welbric.standards.en1993.symbols import condition, formula
from welbric.working import either


@formula("Table B.3, straight", "C_m")
def linear_moment(psi):
    """Equivalent uniform moment factor of end moments alone; psi is 1 where uniform."""
    return maximum(0.6 + 0.4 * psi, 0.4)


# With loads between the ends: a uniform load, or a force at the middle.


@formula("Table B.3", "alpha_s")
def mid_over_end(M_s, M_h):
    """Moment at the middle over the larger end moment."""
    return M_s / M_h


@formula("Table B.3", "alpha_h")
def end_over_mid(M_h, M_s):
    """Larger end moment over the moment at the middle."""
    return M_h / M_s


@condition("Table B.3")
def middle_has_sense_of_end(alpha_s):
    """The moment at the middle has the sense of the end's."""
    return alpha_s >= 0


@formula("Table B.3", "C_m")
def end_governs_alike(alpha_s):
    """Equivalent uniform moment factor where the end moment is the larger one."""
    return maximum(0.2 + 0.8 * alpha_s, 0.4)


@formula("Table B.3", "C_m")
def end_governs_opposed(alpha_s, psi):
    """Equivalent uniform moment factor where that at the middle has the other sense."""
    return maximum(0.1 * (1 - minimum(psi, 0)) - 0.8 * alpha_s, 0.4)


@condition("Table B.3")
def ends_oppose(alpha_h, psi):
    """The end moments have other senses than the middle, and than one another."""
    return maximum(alpha_h, psi) < 0


@formula("Table B.3", "C_m")
def middle_governs(alpha_h):
    """Equivalent uniform moment factor where the moment at the middle is the larger one."""
    return 0.95 + 0.05 * alpha_h


@formula("Table B.3", "C_m")
def middle_governs_opposed(alpha_h, psi):
    """Equivalent uniform moment factor where end moments oppose the middle and one another."""
    return 0.95 + 0.05 * alpha_h * (1 + 2 * psi)


@formula("Table B.3, point load", "C_m")
def end_governs_opposed_point(alpha_s, psi):
    """Factor of a force at the middle where the moment there has another sense than the end's."""
    return maximum(0.2 * maximum(-psi, 0) - 0.8 * alpha_s, 0.4)


@formula("Table B.3, point load", "C_m")
def middle_governs_point(alpha_h):
    """Factor of a force at the middle where the moment there is the larger one."""
    return 0.90 + 0.10 * alpha_h


@formula("Table B.3, point load", "C_m")
def middle_governs_opposed_point(alpha_h, psi):
    """Factor of a force at the middle where end moments oppose the middle and one another."""
    return 0.90 + 0.10 * alpha_h * (1 + 2 * psi)


def _where_end_governs(M_h, M_s, psi, point):
    alpha_s = mid_over_end(M_s, M_h)
    opposed = end_governs_opposed_point if point else end_governs_opposed
    symbols = {"alpha_s": alpha_s, "psi": psi}
    return either(middle_has_sense_of_end, end_governs_alike, opposed, **symbols)


def _where_middle_governs(M_h, M_s, psi, point):
    alpha_h = end_over_mid(M_h, M_s)
    opposed, alike = middle_governs_opposed, middle_governs
    if point:
        opposed, alike = middle_governs_opposed_point, middle_governs_point
    symbols = {"alpha_h": alpha_h, "psi": psi}
    return either(ends_oppose, opposed, alike, **symbols)


def with_loads(M_h, M_s, psi, point):
    """Return the factor with a uniform load, or a force at the middle, by the larger moment."""
    if ndim(M_h) == 0 and ndim(M_s) == 0:
        governs = _where_end_governs if abs(M_h) >= abs(M_s) else _where_middle_governs
        return governs(M_h, M_s, psi, point)
    return where(
        abs(M_h) >= abs(M_s),
        _where_end_governs(M_h, M_s, psi, point),
        _where_middle_governs(M_h, M_s, psi, point),
    )


@formula("6.3.3(4)", "n_y")
def axial_share_y(N_Ed, chi_y, N_Rk, gamma_M1):
    """Axial force over the buckling resistance about the y axis."""
    return N_Ed / (chi_y * N_Rk / gamma_M1)


@formula("6.3.3(4)", "n_z")
def axial_share_z(N_Ed, chi_z, N_Rk, gamma_M1):
    """Axial force over the buckling resistance about the z axis."""
    return N_Ed / (chi_z * N_Rk / gamma_M1)


# Class 1 and 2


@formula("Table B.1", "k_yy")
def k_yy_plastic(C_my, lambda_y, n_y):
    """Interaction factor."""
    return minimum(C_my * (1 + (lambda_y - 0.2) * n_y), C_my * (1 + 0.8 * n_y))


@formula("Table B.1, I", "k_zz")
def k_zz_plastic_i(C_mz, lambda_z, n_z):
    """Interaction factor of an I."""
    return minimum(C_mz * (1 + (2 * lambda_z - 0.6) * n_z), C_mz * (1 + 1.4 * n_z))


@formula("Table B.1, RHS", "k_zz")
def k_zz_plastic_box(C_mz, lambda_z, n_z):
    """Interaction factor of a hollow section."""
    return minimum(C_mz * (1 + (lambda_z - 0.2) * n_z), C_mz * (1 + 0.8 * n_z))


@formula("Table B.1", "k_yz")
def k_yz_plastic(k_zz):
    """Interaction factor."""
    return 0.6 * k_zz


@formula("Table B.1", "k_zy")
def k_zy_plastic(k_yy):
    """Interaction factor of a member that does not twist."""
    return 0.6 * k_yy


@condition("Table B.2")
def is_stocky_z(lambda_z):
    """The member is stocky about the z axis."""
    return lambda_z < 0.4


@formula("Table B.2", "k_zy")
def k_zy_plastic_stocky(lambda_z, n_z, C_mLT):
    """Interaction factor of a member that twists, stocky about the z axis."""
    return minimum(0.6 + lambda_z, 1 - 0.1 * lambda_z * n_z / (C_mLT - 0.25))


@formula("Table B.2", "k_zy")
def k_zy_plastic_slender(lambda_z, n_z, C_mLT):
    """Interaction factor of a member that twists."""
    return maximum(1 - 0.1 * lambda_z * n_z / (C_mLT - 0.25), 1 - 0.1 * n_z / (C_mLT - 0.25))


def k_zy_plastic_twisting(lambda_z, n_z, C_mLT):
    """Return the interaction factor of a member that twists, in class 1 and 2."""
    symbols = {"lambda_z": lambda_z, "n_z": n_z, "C_mLT": C_mLT}
    return either(is_stocky_z, k_zy_plastic_stocky, k_zy_plastic_slender, **symbols)


# Class 3 and 4


@formula("Table B.1", "k_yy")
def k_yy_elastic(C_my, lambda_y, n_y):
    """Interaction factor in class 3 and 4."""
    return minimum(C_my * (1 + 0.6 * lambda_y * n_y), C_my * (1 + 0.6 * n_y))


@formula("Table B.1", "k_zz")
def k_zz_elastic(C_mz, lambda_z, n_z):
    """Interaction factor in class 3 and 4."""
    return minimum(C_mz * (1 + 0.6 * lambda_z * n_z), C_mz * (1 + 0.6 * n_z))


@formula("Table B.1", "k_yz")
def k_yz_elastic(k_zz):
    """Interaction factor in class 3 and 4."""
    return 1.0 * k_zz


@formula("Table B.1", "k_zy")
def k_zy_elastic(k_yy):
    """Interaction factor in class 3 and 4 of a member that does not twist."""
    return 0.8 * k_yy


@formula("Table B.2", "k_zy")
def k_zy_elastic_twisting(lambda_z, n_z, C_mLT):
    """Interaction factor in class 3 and 4 of a member that twists."""
    return maximum(1 - 0.05 * lambda_z * n_z / (C_mLT - 0.25), 1 - 0.05 * n_z / (C_mLT - 0.25))


# 6.3.3


@formula("6.61", "U_y")
def about_y(N_Ed, chi_y, N_Rk, gamma_M1, k_yy, M_y_Ed, chi_LT, M_y_Rk, k_yz, M_z_Ed, M_z_Rk):
    """Interaction with buckling about the y axis."""
    return (
        N_Ed / (chi_y * N_Rk / gamma_M1)
        + k_yy * M_y_Ed / (chi_LT * M_y_Rk / gamma_M1)
        + k_yz * M_z_Ed / (M_z_Rk / gamma_M1)
    )


@formula("6.62", "U_z")
def about_z(N_Ed, chi_z, N_Rk, gamma_M1, k_zy, M_y_Ed, chi_LT, M_y_Rk, k_zz, M_z_Ed, M_z_Rk):
    """Interaction with buckling about the z axis."""
    return (
        N_Ed / (chi_z * N_Rk / gamma_M1)
        + k_zy * M_y_Ed / (chi_LT * M_y_Rk / gamma_M1)
        + k_zz * M_z_Ed / (M_z_Rk / gamma_M1)
    )


@formula("6.61, 6.62", "U")
def worse(U_y, U_z):
    """The worse of the two."""
    return maximum(U_y, U_z)
