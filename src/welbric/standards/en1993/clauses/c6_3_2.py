"""6.3.2: uniform members in bending."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.en1993.symbols import condition, formula
from welbric.working import either


@formula("6.3.2.2(2)", "C_1")
def moment_shape(M_max, M_2, M_3, M_4):
    """Moment-shape factor by quarter points (Lopez, Yong and Serna, 2006); 1 of uniform moment."""
    return sqrt(35 * M_max**2 / (M_max**2 + 9 * M_2**2 + 16 * M_3**2 + 9 * M_4**2))


@formula("6.3.2.2(2)", "M_cr")
def critical_moment(C_1, E, I_z, L, I_w, G, I_t):
    """Elastic critical moment of a doubly symmetric section, loaded at its shear centre."""
    return C_1 * (pi**2 * E * I_z / L**2) * sqrt(I_w / I_z + L**2 * G * I_t / (pi**2 * E * I_z))


@formula("6.3.2.2(2)", "z_j")
def asymmetry(beta_y):
    """Coordinate of the asymmetry, positive where the stiffer flange is compressed."""
    return -beta_y / 2


@formula("6.3.2.2(2)", "M_cr")
def critical_moment_unequal(C_1, E, I_z, L, I_w, G, I_t, z_j):
    """Elastic critical moment of a section symmetric about its web alone, of uniform moment."""
    return (
        C_1
        * (pi**2 * E * I_z / L**2)
        * (sqrt(I_w / I_z + L**2 * G * I_t / (pi**2 * E * I_z) + z_j**2) + z_j)
    )


@formula("6.3.2.2(1)", "lambda_LT")
def slenderness(W_y, f_y, M_cr):
    """Slenderness in lateral-torsional buckling."""
    return sqrt(W_y * f_y / M_cr)


@condition("6.3.2.2(4)")
def is_stocky(lambda_LT, lambda_LT_0):
    """Lateral-torsional buckling need not be looked at."""
    return lambda_LT <= lambda_LT_0


@formula("6.3.2.2(4)", "chi_LT")
def not_reduced(lambda_LT):
    """Nothing is taken off."""
    return 1 + 0 * lambda_LT


STOCKY = 0.4  # of boxes: the slenderness up to which 6.3.2.2(4) need not look at them


@condition("6.3.2.2(4)")
def box_is_stocky(lambda_LT):
    """A box so stocky that lateral-torsional buckling may be ignored."""
    return lambda_LT <= 0.4


@formula("6.3.2.2(1), 6.3.2.3(1)", "Phi_LT")
def Phi_LT(alpha_LT, lambda_LT, lambda_LT_0, beta):
    """Value for the reduction factor; in the general case lambda_LT,0 is 0.2 and beta is 1."""
    return 0.5 * (1 + alpha_LT * (lambda_LT - lambda_LT_0) + beta * lambda_LT**2)


@formula("6.56, 6.57", "chi_LT")
def reduced(Phi_LT, lambda_LT, beta):
    """Reduction factor, at most 1 and 1 over the square of the slenderness."""
    return minimum(
        minimum(1 / (Phi_LT + sqrt(maximum(Phi_LT**2 - beta * lambda_LT**2, 0))), 1),
        1 / lambda_LT**2,
    )


def _by_curve(alpha_LT, lambda_LT, lambda_LT_0, beta):
    return reduced(Phi_LT(alpha_LT, lambda_LT, lambda_LT_0, beta), lambda_LT, beta)


def reduction(alpha_LT, lambda_LT, lambda_LT_0, beta):
    """Return the reduction factor of a curve."""
    symbols = {
        "alpha_LT": alpha_LT, "lambda_LT": lambda_LT, "lambda_LT_0": lambda_LT_0, "beta": beta,
    }  # fmt: skip
    return either(is_stocky, not_reduced, _by_curve, **symbols)


def reduction_of_box(alpha_LT, lambda_LT):
    """Return the reduction factor of a box: 1 up to a slenderness of 0.4."""

    def slender(alpha_LT, lambda_LT):
        return _by_curve(alpha_LT, lambda_LT, 0.2, 1.0)

    symbols = {"alpha_LT": alpha_LT, "lambda_LT": lambda_LT}
    return either(box_is_stocky, not_reduced, slender, **symbols)


# 6.3.2.4: the compressed flange as a strut


@formula("6.3.2.4(1)", "i_f_z")
def flange_radius(I_f, A_f, A_wc):
    """Radius of gyration of the compressed flange with a third of the web in compression."""
    return sqrt(I_f / (A_f + A_wc / 3))


@formula("6.59", "lambda_f")
def flange_slenderness(k_c, L_c, i_f_z, epsilon):
    """Slenderness of the compressed flange between its restraints."""
    return k_c * L_c / (i_f_z * (93.9 * epsilon))


@formula("6.59, 6.60", "chi_LT")
def by_flange(k_fl, chi, lambda_c_0, lambda_f):
    """Reduction factor by the compressed flange: the better of its limit and its buckling."""
    return minimum(maximum(k_fl * chi, lambda_c_0 / lambda_f), 1)


@formula("6.3.2.3(2), by C1", "k_c")
def correction_by_shape(C_1):
    """Correction factor of the moment's shape."""
    return 1 / sqrt(C_1)


@formula("Table 6.6", "k_c")
def correction_straight(psi):
    """Correction factor of a straight moment line; psi is its lesser end over its larger."""
    return 1 / (1.33 - 0.33 * psi)


# Of a beam on two supports, by its moment at the quarters over that at the middle: a uniform load,
# a force at the middle (Table 6.6).
CORRECTION = {0.75: 0.94, 0.5: 0.86}


@formula("6.3.2.3(2)", "f")
def shape_effect(k_c, lambda_LT):
    """What the moment's shape does to the reduction factor."""
    return minimum(1 - 0.5 * (1 - k_c) * (1 - 2 * (lambda_LT - 0.8) ** 2), 1)


@formula("6.58", "chi_LT_mod")
def with_shape(chi_LT, f, lambda_LT):
    """Reduction factor with the moment's shape."""
    return minimum(minimum(chi_LT / f, 1), 1 / lambda_LT**2)


@formula("6.55", "M_b_Rd")
def buckling_resistance(chi_LT, W_y, f_y, gamma_M1):
    """Buckling resistance in bending."""
    return chi_LT * W_y * f_y / gamma_M1


@formula("6.54", "U")
def utilisation(M_Ed, M_b_Rd):
    """Moment over the buckling resistance."""
    return M_Ed / M_b_Rd
