"""6.3.1: uniform members in compression."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.elastic import least_root_of_cubic
from welbric.standards.en1993.symbols import condition, formula
from welbric.working import either

# Imperfection factors of the buckling curves (Table 6.1).
IMPERFECTION = {"a0": 0.13, "a": 0.21, "b": 0.34, "c": 0.49, "d": 0.76}


@formula("6.3.1.2", "N_cr")
def critical_force(E, I_y, L_cr):
    """Elastic critical force in flexural buckling about the y axis."""
    return pi**2 * E * I_y / L_cr**2


@formula("6.3.1.2", "N_cr")
def critical_force_z(E, I_z, L_cr):
    """Elastic critical force in flexural buckling about the z axis."""
    return pi**2 * E * I_z / L_cr**2


@formula("6.3.1.4", "N_cr_T")
def critical_force_torsion(G, I_t, E, I_w, L_cr_T, i_0):
    """Elastic critical force in torsional buckling."""
    return (G * I_t + pi**2 * E * I_w / L_cr_T**2) / i_0**2


@formula("6.3.1.4", "N_cr")
def critical_force_symmetric(N_cr, N_cr_T, y_0, i_0):
    """Elastic critical force in torsional-flexural buckling, with one axis of symmetry."""
    return (
        (N_cr + N_cr_T - sqrt((N_cr + N_cr_T) ** 2 - 4 * N_cr * N_cr_T * (1 - (y_0 / i_0) ** 2)))
        / (2 * (1 - (y_0 / i_0) ** 2))
    )  # fmt: skip


@formula("6.3.1.4", "N_cr")
def critical_force_of_no_symmetry(N_cr_y, N_cr_z, N_cr_T, y_0, z_0, i_0):
    """Elastic critical force without an axis of symmetry: the least root of the cubic."""
    return least_root_of_cubic(N_cr_y, N_cr_z, N_cr_T, y_0, z_0, i_0)


@formula("6.49, 6.50", "lambda_")
def slenderness(A, f_y, N_cr):
    """Slenderness; of class 4 by the effective area."""
    return sqrt(A * f_y / N_cr)


@condition("6.3.1.2(4)")
def is_stocky(lambda_):
    """Buckling need not be looked at."""
    return lambda_ <= 0.2


@formula("6.3.1.2(4)", "chi")
def not_reduced(lambda_):
    """Nothing is taken off."""
    return 1 + 0 * lambda_


@formula("6.3.1.2(1)", "Phi")
def Phi(alpha_i, lambda_):
    """Value for the reduction factor."""
    return 0.5 * (1 + alpha_i * (lambda_ - 0.2) + lambda_**2)


@formula("6.49", "chi")
def reduced(Phi, lambda_):
    """Reduction factor."""
    return minimum(1 / (Phi + sqrt(maximum(Phi**2 - lambda_**2, 0))), 1)


def _by_curve(alpha_i, lambda_):
    return reduced(Phi(alpha_i, lambda_), lambda_)


def reduction(alpha_i, lambda_):
    """Return the reduction factor of a buckling curve."""
    return either(is_stocky, not_reduced, _by_curve, alpha_i=alpha_i, lambda_=lambda_)


@formula("6.47, 6.48", "N_b_Rd")
def buckling_resistance(chi, A, f_y, gamma_M1):
    """Buckling resistance; of class 4 by the effective area."""
    return chi * A * f_y / gamma_M1


@formula("6.46", "U")
def utilisation(N_Ed, N_b_Rd):
    """Compression over the buckling resistance."""
    return N_Ed / N_b_Rd
