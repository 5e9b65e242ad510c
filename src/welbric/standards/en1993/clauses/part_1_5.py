"""EN 1993-1-5: effective widths (4.4) and shear buckling (5.2, 5.3)."""

from __future__ import annotations

from numpy import maximum, minimum, sqrt

from welbric.standards.en1993.symbols import condition, formula
from welbric.working import either


@formula("EN 1993-1-5, 4.4(2)", "lambda_p")
def plate_slenderness(c, t, epsilon, k_sigma):
    """Plate slenderness."""
    return c / t / (28.4 * epsilon * sqrt(k_sigma))


@formula("EN 1993-1-5, 4.2", "rho")
def internal_reduction(lambda_p, psi):
    """Reduction factor of an internal part; none up to 0.673 where the stress is uniform."""
    return minimum((maximum(lambda_p, 0.5) - 0.055 * (3 + psi)) / maximum(lambda_p, 0.5) ** 2, 1)


@formula("EN 1993-1-5, 4.3", "rho")
def outstand_reduction(lambda_p):
    """Reduction factor of an outstand part; none up to 0.748."""
    return minimum((maximum(lambda_p, 0.5) - 0.188) / maximum(lambda_p, 0.5) ** 2, 1)


@formula("EN 1993-1-5, 4.1", "A_eff")
def effective_area(A, A_lost):
    """Effective area."""
    return A - A_lost


@formula("EN 1993-1-5, 5.5", "lambda_w")
def web_slenderness(h_w, t_w, epsilon):
    """Slenderness in shear of a web with stiffeners at its supports only."""
    return h_w / (86.4 * t_w * epsilon)


@condition("EN 1993-1-5, Table 5.1")
def web_is_stocky(lambda_w, eta):
    """The web does not buckle in shear."""
    return lambda_w < 0.83 / eta


@formula("EN 1993-1-5, Table 5.1", "chi_w")
def web_yields(eta):
    """Reduction factor of a stocky web."""
    return 1.0 * eta


@formula("EN 1993-1-5, Table 5.1", "chi_w")
def web_buckles(lambda_w):
    """Reduction factor of a slender web with a non-rigid end post."""
    return 0.83 / lambda_w


def web_reduction(lambda_w, eta):
    """Return the reduction factor of a web in shear."""
    return either(web_is_stocky, web_yields, web_buckles, lambda_w=lambda_w, eta=eta)


@formula("EN 1993-1-5, 5.2", "V_bw_Rd")
def web_resistance(chi_w, f_y, h_w, t_w, gamma_M1):
    """Shear buckling resistance, of the web alone."""
    return chi_w * f_y * h_w * t_w / (sqrt(3) * gamma_M1)


@formula("EN 1993-1-5, 5.10", "U")
def utilisation(V_Ed, V_bw_Rd):
    """Shear over the shear buckling resistance."""
    return V_Ed / V_bw_Rd
