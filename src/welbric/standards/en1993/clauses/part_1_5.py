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


@formula("EN 1993-1-5, Table 4.1", "psi")
def stress_ratio(c, e):
    """Ratio of the stresses at the ends of a web, whose neutral axis has moved by e."""
    return -(c / 2 - e) / (c / 2 + e)


@formula("EN 1993-1-5, Table 4.1", "k_sigma")
def buckling_factor(psi):
    """Buckling factor of an internal part in bending, psi from 0 to -1."""
    return 7.81 - 6.29 * psi + 9.78 * psi**2


@formula("EN 1993-1-5, Table 4.1", "b_c")
def part_in_compression(c, e):
    """Part of a web in compression, whose neutral axis has moved by e."""
    return c / 2 + e


@formula("EN 1993-1-5, 4.4", "e")
def moved_by_flange(A_f, z_f, A):
    """How far the neutral axis moves where the compressed flange loses an area A_f."""
    return A_f * z_f / (A - A_f)


@formula("EN 1993-1-5, Table 4.1", "A_w")
def lost_of_web(rho, b_c, t):
    """Area that a web, or the webs of a box, lose."""
    return (1 - rho) * b_c * t


@formula("EN 1993-1-5, Table 4.1", "z_w")
def place_of_loss(c, e, rho, b_c):
    """Where that area lies from mid-depth: 0.6 of what is effective stands at the neutral axis."""
    return (c / 2 - e + 0.2 * rho * b_c) / 2


@formula("EN 1993-1-5, 4.3(4)", "z_eff")
def effective_axis(A_f, z_f, A_w, z_w, A):
    """How far the neutral axis of the effective section lies from mid-depth."""
    return (A_f * z_f + A_w * z_w) / (A - A_f - A_w)


@formula("EN 1993-1-5, 4.3(4)", "I_eff")
def effective_inertia(I, A, A_f, z_f, A_w, z_w, rho, b_c, z_eff):
    """Second moment of area of the effective section."""
    return (
        I - A_f * z_f**2 - A_w * (z_w**2 + ((1 - rho) * b_c) ** 2 / 12) - (A - A_f - A_w) * z_eff**2
    )


@formula("EN 1993-1-5, 4.3(4)", "W_eff")
def effective_modulus(I_eff, h, z_eff):
    """Effective section modulus, of the fibre in compression."""
    return I_eff / (h / 2 + z_eff)


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


@formula("EN 1993-1-5, 7.1", "M_f_Rd")
def flanges_alone(b, t_f, h, f_y, gamma_M0):
    """Plastic moment of the flanges alone."""
    return b * t_f * (h - t_f) * f_y / gamma_M0


@formula("EN 1993-1-5, 7.1", "M_pl_Rd")
def plastic_moment(W_pl_y, f_y, gamma_M0):
    """Plastic moment of the whole section, whatever its class."""
    return W_pl_y * f_y / gamma_M0


@condition("EN 1993-1-5, 7.1(1)")
def flanges_suffice(M_y_Ed, M_f_Rd):
    """The flanges alone carry the moment."""
    return M_y_Ed <= M_f_Rd


@formula("EN 1993-1-5, 7.1(1)", "U")
def by_flanges(M_y_Ed, M_f_Rd):
    """Moment over that of the flanges alone, which leave the web to the shear."""
    return M_y_Ed / M_f_Rd


@formula("EN 1993-1-5, 7.1(1)", "U")
def beside_shear_buckling(M_y_Ed, M_pl_Rd, M_f_Rd, V_Ed, V_bw_Rd):
    """Bending beside shear of more than half the resistance in shear buckling."""
    return M_y_Ed / M_pl_Rd + (1 - M_f_Rd / M_pl_Rd) * (2 * V_Ed / V_bw_Rd - 1) ** 2


def bending_beside_shear_buckling(M_y_Ed, M_pl_Rd, M_f_Rd, V_Ed, V_bw_Rd):
    """Return the ratio of 7.1."""
    symbols = {
        "M_y_Ed": M_y_Ed, "M_pl_Rd": M_pl_Rd, "M_f_Rd": M_f_Rd, "V_Ed": V_Ed, "V_bw_Rd": V_bw_Rd,
    }  # fmt: skip
    return either(flanges_suffice, by_flanges, beside_shear_buckling, **symbols)
