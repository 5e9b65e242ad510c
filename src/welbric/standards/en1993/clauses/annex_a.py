"""6.3.3 with Annex A: interaction factors of method 1."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.en1993.symbols import condition, formula
from welbric.working import either


@formula("Table A.1", "mu_y")
def mu_y(N_Ed, N_cr_y, chi_y):
    """Value of the y axis."""
    return (1 - N_Ed / N_cr_y) / (1 - chi_y * N_Ed / N_cr_y)


@formula("Table A.1", "mu_z")
def mu_z(N_Ed, N_cr_z, chi_z):
    """Value of the z axis."""
    return (1 - N_Ed / N_cr_z) / (1 - chi_z * N_Ed / N_cr_z)


@formula("Table A.1", "w_y")
def w_y(W_pl_y, W_el_y):
    """Shape factor about the y axis, at most 1.5."""
    return minimum(W_pl_y / W_el_y, 1.5)


@formula("Table A.1", "w_z")
def w_z(W_pl_z, W_el_z):
    """Shape factor about the z axis, at most 1.5."""
    return minimum(W_pl_z / W_el_z, 1.5)


@formula("Table A.1", "n_pl")
def axial_share(N_Ed, N_Rk, gamma_M1):
    """Axial force over the resistance of the section."""
    return N_Ed / (N_Rk / gamma_M1)


@formula("Table A.1", "a_LT")
def torsion_share(I_t, I_y):
    """How far the section gives way to torsion."""
    return maximum(1 - I_t / I_y, 0)


@formula("Table A.1", "lambda_max")
def larger_slenderness(lambda_y, lambda_z):
    """The larger slenderness."""
    return maximum(lambda_y, lambda_z)


@formula("Table A.2", "C_m")
def straight_moment(psi, N_Ed, N_cr):
    """Equivalent uniform moment factor of end moments alone."""
    return 0.79 + 0.21 * psi + 0.36 * (psi - 0.33) * N_Ed / N_cr


@formula("Table A.2", "C_m")
def uniform_load(N_Ed, N_cr):
    """Equivalent uniform moment factor of a uniform load alone."""
    return 1 + 0.03 * N_Ed / N_cr


@formula("Table A.2", "C_m")
def point_load(N_Ed, N_cr):
    """Equivalent uniform moment factor of a force at the middle alone."""
    return 1 - 0.18 * N_Ed / N_cr


@formula("Table A.2", "C_m")
def any_load(E, I, delta_x, L, M_x, N_Ed, N_cr):
    """Equivalent uniform moment factor of any loads, by how far they deflect the member."""
    return 1 + (pi**2 * E * I * delta_x / (L**2 * M_x) - 1) * N_Ed / N_cr


# With lateral-torsional buckling


@formula("Table A.1", "lambda_0_lim")
def slenderness_limit(C_1, N_Ed, N_cr_z, N_cr_T):
    """Slenderness under uniform moment up to which twisting need not be looked at."""
    return 0.2 * sqrt(C_1) * ((1 - N_Ed / N_cr_z) * (1 - N_Ed / N_cr_T)) ** 0.25


@condition("Table A.1")
def does_not_twist(lambda_0, lambda_0_lim):
    """Twisting need not be looked at."""
    return lambda_0 <= lambda_0_lim


@formula("Table A.1", "epsilon_y")
def eccentricity(M_y_Ed, N_Ed, A, W_el_y):
    """Moment over the axial force, by the area over the modulus."""
    return M_y_Ed / N_Ed * (A / W_el_y)


@formula("Table A.1", "C_my")
def C_my_plain(C_my_0):
    """Equivalent uniform moment factor where nothing twists."""
    return 1.0 * C_my_0


@formula("Table A.1", "C_my")
def C_my_twisting(C_my_0, epsilon_y, a_LT):
    """Equivalent uniform moment factor of a member that twists."""
    return C_my_0 + (1 - C_my_0) * (sqrt(epsilon_y) * a_LT) / (1 + sqrt(epsilon_y) * a_LT)


@formula("Table A.1", "C_mLT")
def C_mLT_plain(C_my):
    """Factor of a member that does not twist."""
    return 1 + 0 * C_my


@formula("Table A.1", "C_mLT")
def C_mLT_twisting(C_my, a_LT, N_Ed, N_cr_z, N_cr_T):
    """Factor of a member that twists."""
    return maximum(C_my**2 * a_LT / sqrt((1 - N_Ed / N_cr_z) * (1 - N_Ed / N_cr_T)), 1)


def C_my(lambda_0, lambda_0_lim, C_my_0, epsilon_y, a_LT):
    """Return C_my."""
    symbols = {
        "lambda_0": lambda_0, "lambda_0_lim": lambda_0_lim, "C_my_0": C_my_0,
        "epsilon_y": epsilon_y, "a_LT": a_LT,
    }  # fmt: skip
    return either(does_not_twist, C_my_plain, C_my_twisting, **symbols)


def C_mLT(lambda_0, lambda_0_lim, C_my, a_LT, N_Ed, N_cr_z, N_cr_T):
    """Return C_mLT."""
    symbols = {
        "lambda_0": lambda_0, "lambda_0_lim": lambda_0_lim, "C_my": C_my, "a_LT": a_LT,
        "N_Ed": N_Ed, "N_cr_z": N_cr_z, "N_cr_T": N_cr_T,
    }  # fmt: skip
    return either(does_not_twist, C_mLT_plain, C_mLT_twisting, **symbols)


# Plasticity, in class 1 and 2; the moments are shares of the plastic ones


@formula("Table A.1", "b_LT")
def b_LT(a_LT, lambda_0, m_y, m_z):
    """Value of C_yy."""
    return 0.5 * a_LT * lambda_0**2 * m_y * m_z


@formula("Table A.1", "c_LT")
def c_LT(a_LT, lambda_0, lambda_z, C_my, m_y):
    """Value of C_yz."""
    return 10 * a_LT * lambda_0**2 / (5 + lambda_z**4) * (m_y / C_my)


@formula("Table A.1", "d_LT")
def d_LT(a_LT, lambda_0, lambda_z, C_my, m_y, C_mz, m_z):
    """Value of C_zy."""
    return 2 * a_LT * lambda_0 / (0.1 + lambda_z**4) * (m_y / C_my) * (m_z / C_mz)


@formula("Table A.1", "e_LT")
def e_LT(a_LT, lambda_0, lambda_z, C_my, m_y):
    """Value of C_zz."""
    return 1.7 * a_LT * lambda_0 / (0.1 + lambda_z**4) * (m_y / C_my)


@formula("Table A.1", "C_yy")
def C_yy(w_y, C_my, lambda_max, n_pl, b_LT, W_el_y, W_pl_y):
    """Plasticity factor."""
    return maximum(
        1
        + (w_y - 1)
        * (
            (2 - 1.6 / w_y * C_my**2 * lambda_max - 1.6 / w_y * C_my**2 * lambda_max**2) * n_pl
            - b_LT
        ),
        W_el_y / W_pl_y,
    )


@formula("Table A.1", "C_yz")
def C_yz(w_y, w_z, C_mz, lambda_max, n_pl, c_LT, W_el_z, W_pl_z):
    """Plasticity factor."""
    return maximum(
        1 + (w_z - 1) * ((2 - 14 * C_mz**2 * lambda_max**2 / w_z**5) * n_pl - c_LT),
        0.6 * sqrt(w_z / w_y) * W_el_z / W_pl_z,
    )


@formula("Table A.1", "C_zy")
def C_zy(w_y, w_z, C_my, lambda_max, n_pl, d_LT, W_el_y, W_pl_y):
    """Plasticity factor."""
    return maximum(
        1 + (w_y - 1) * ((2 - 14 * C_my**2 * lambda_max**2 / w_y**5) * n_pl - d_LT),
        0.6 * sqrt(w_y / w_z) * W_el_y / W_pl_y,
    )


@formula("Table A.1", "C_zz")
def C_zz(w_z, C_mz, lambda_max, n_pl, e_LT, W_el_z, W_pl_z):
    """Plasticity factor."""
    return maximum(
        1 + (w_z - 1) * (2 - 1.6 / w_z * C_mz**2 * (lambda_max + lambda_max**2) - e_LT) * n_pl,
        W_el_z / W_pl_z,
    )


# Interaction factors, elastic; in class 1 and 2 over the plasticity factors


@formula("Table A.1", "k_yy")
def k_yy(C_my, C_mLT, mu_y, N_Ed, N_cr_y):
    """Interaction factor of class 3 and 4."""
    return C_my * C_mLT * mu_y / (1 - N_Ed / N_cr_y)


@formula("Table A.1", "k_yz")
def k_yz(C_mz, mu_y, N_Ed, N_cr_z):
    """Interaction factor of class 3 and 4."""
    return C_mz * mu_y / (1 - N_Ed / N_cr_z)


@formula("Table A.1", "k_zy")
def k_zy(C_my, C_mLT, mu_z, N_Ed, N_cr_y):
    """Interaction factor of class 3 and 4."""
    return C_my * C_mLT * mu_z / (1 - N_Ed / N_cr_y)


@formula("Table A.1", "k_zz")
def k_zz(C_mz, mu_z, N_Ed, N_cr_z):
    """Interaction factor of class 3 and 4."""
    return C_mz * mu_z / (1 - N_Ed / N_cr_z)


@formula("Table A.1, class 1 and 2", "k_yy")
def k_yy_plastic(k_yy, C_yy):
    """Interaction factor of class 1 and 2."""
    return k_yy / C_yy


@formula("Table A.1, class 1 and 2", "k_yz")
def k_yz_plastic(k_yz, C_yz, w_z, w_y):
    """Interaction factor of class 1 and 2."""
    return k_yz / C_yz * 0.6 * sqrt(w_z / w_y)


@formula("Table A.1, class 1 and 2", "k_zy")
def k_zy_plastic(k_zy, C_zy, w_y, w_z):
    """Interaction factor of class 1 and 2."""
    return k_zy / C_zy * 0.6 * sqrt(w_y / w_z)


@formula("Table A.1, class 1 and 2", "k_zz")
def k_zz_plastic(k_zz, C_zz):
    """Interaction factor of class 1 and 2."""
    return k_zz / C_zz
