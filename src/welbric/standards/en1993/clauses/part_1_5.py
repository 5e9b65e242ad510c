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
    return minimum(
        (maximum(lambda_p, 0.5) - 0.055 * (3 + maximum(psi, -3))) / maximum(lambda_p, 0.5) ** 2, 1
    )


@formula("EN 1993-1-5, 4.3", "rho")
def outstand_reduction(lambda_p):
    """Reduction factor of an outstand part; none up to 0.748."""
    return minimum((maximum(lambda_p, 0.5) - 0.188) / maximum(lambda_p, 0.5) ** 2, 1)


@formula("EN 1993-1-5, Table 4.1", "psi")
def effective_stress_ratio(c, b_c):
    """Ratio of the stresses at the ends of a web, of which b_c is in compression."""
    return 1 - c / b_c


@condition("EN 1993-1-5, Table 4.1")
def is_mostly_in_tension(psi):
    """More of the web is in tension than in compression."""
    return psi < -1


@formula("EN 1993-1-5, Table 4.1", "k_sigma")
def buckling_factor_in_tension(psi):
    """Buckling factor of an internal part in bending, psi from -1 to -3."""
    return 5.98 * (1 - maximum(psi, -3)) ** 2


@formula("EN 1993-1-5, Table 4.1", "k_sigma")
def buckling_factor_bent(psi):
    """Buckling factor of an internal part in bending, psi from 0 to -1."""
    return 7.81 - 6.29 * psi + 9.78 * psi**2


def buckling_factor(psi):
    """Return the buckling factor of an internal part in bending, psi from 0 to -3."""
    return either(is_mostly_in_tension, buckling_factor_in_tension, buckling_factor_bent, psi=psi)


@formula("EN 1993-1-5, Table 4.2", "k_sigma")
def buckling_factor_of_tip(psi):
    """Buckling factor of an outstand with the most compression at its free edge."""
    return 0.57 - 0.21 * psi + 0.07 * psi**2


@formula("EN 1993-1-5, Table 4.1", "b_c")
def compressed_depth(z_1, e):
    """Part of a web in compression, whose neutral axis has moved by e."""
    return z_1 + e


@formula("EN 1993-1-5, 4.4", "e")
def moved_by_flange(A_f, z_f, A):
    """How far the neutral axis moves where the compressed flange loses an area A_f."""
    return A_f * z_f / (A - A_f)


@formula("EN 1993-1-5, Table 4.1", "A_w")
def lost_of_web(rho, b_c, t):
    """Area that a web, or the webs of a box, lose."""
    return (1 - rho) * b_c * t


@formula("EN 1993-1-5, Table 4.1", "z_w")
def place_of_loss(b_c, e, rho):
    """Where it lies from the centroid: 0.6 of what is effective stands at the neutral axis."""
    return b_c * (1 + 0.2 * rho) / 2 - e


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
def effective_modulus(I_eff, z_c, z_t, z_eff):
    """Effective section modulus, of the farther fibre."""
    return I_eff / maximum(z_c + z_eff, z_t - z_eff)


@formula("EN 1993-1-5, 4.1", "A_eff")
def effective_area(A, A_lost):
    """Effective area."""
    return A - A_lost


@formula("6.2.2.5(4)", "e_N")
def shift_of_axis(S_lost, A_eff):
    """How far a compression acts above the axis of the effective area."""
    return S_lost / A_eff


@formula("6.2.2.5(4)", "M_y_Ed")
def moment_with_shift(M_y_Ed, N_Ed, e_N):
    """Moment with that of the shift, where this adds to it."""
    return M_y_Ed + N_Ed * maximum(e_N, 0)


@formula("6.2.7(5), EN 1993-1-5, 5.2", "V_w_Ed")
def shear_of_walls(V_Ed, T_Ed, h_w, A_m):
    """Shear of two walls of a box with that of torsion, by the wall where they add up."""
    return V_Ed + T_Ed * h_w / A_m


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


# 6: concentrated forces on webs


@formula("EN 1993-1-5, Figure 6.1(a)", "k_F")
def through_one_flange():
    """Buckling factor of a force through one flange, far from stiffeners."""
    return 6.0


@formula("EN 1993-1-5, Figure 6.1(b)", "k_F")
def through_both_flanges():
    """Buckling factor of a force from one flange to the other, far from stiffeners."""
    return 3.5


@formula("EN 1993-1-5, Figure 6.1(c)", "k_F")
def near_an_end(s_s, c_e, h_w):
    """Buckling factor of a force near an end without a stiffener."""
    return minimum(2 + 6 * (s_s + c_e) / h_w, 6)


@formula("EN 1993-1-5, 6.8", "m_1")
def m_1(b, t_w):
    """What the flange adds to the loaded length, of one steel."""
    return b / t_w


@formula("EN 1993-1-5, 6.9", "m_2")
def m_2(h_w, t_f):
    """What the web adds to the loaded length where it is slender."""
    return 0.02 * (h_w / t_f) ** 2


@formula("EN 1993-1-5, 6.10", "l_y")
def loaded_length(s_s, t_f, m_1, m_2):
    """Effective loaded length away from an end."""
    return s_s + 2 * t_f * (1 + sqrt(m_1 + m_2))


@formula("EN 1993-1-5, 6.13", "l_e")
def length_at_end(k_F, E, t_w, f_y, h_w, s_s, c_e):
    """Length that counts at an end."""
    return minimum(k_F * E * t_w**2 / (2 * f_y * h_w), s_s + c_e)


@formula("EN 1993-1-5, 6.10 to 6.12", "l_y")
def loaded_length_at_end(s_s, t_f, m_1, m_2, l_e):
    """Effective loaded length near an end: the least of three."""
    return minimum(
        minimum(l_e + t_f * sqrt(m_1 / 2 + (l_e / t_f) ** 2 + m_2), l_e + t_f * sqrt(m_1 + m_2)),
        s_s + 2 * t_f * (1 + sqrt(m_1 + m_2)),
    )


@formula("EN 1993-1-5, 6.5", "F_cr")
def critical_patch_load(k_F, E, t_w, h_w):
    """Elastic critical force."""
    return 0.9 * k_F * E * t_w**3 / h_w


@formula("EN 1993-1-5, 6.4", "lambda_F")
def patch_slenderness(l_y, t_w, f_y, F_cr):
    """Slenderness under a concentrated force."""
    return sqrt(l_y * t_w * f_y / F_cr)


@formula("EN 1993-1-5, 6.3", "chi_F")
def patch_reduction(lambda_F):
    """Reduction factor under a concentrated force."""
    return minimum(0.5 / lambda_F, 1)


@formula("EN 1993-1-5, 6.1, 6.2", "F_Rd")
def patch_resistance(chi_F, l_y, t_w, f_y, gamma_M1):
    """Resistance of the web to a concentrated force."""
    return f_y * (chi_F * l_y) * t_w / gamma_M1


@formula("EN 1993-1-5, 6.14", "U")
def patch_utilisation(F_Ed, F_Rd):
    """Concentrated force over its resistance."""
    return F_Ed / F_Rd


@formula("EN 1993-1-5, 4.14", "eta_1")
def longitudinal_stress(N_Ed, A_eff, M_y_Ed, W_y, f_y, gamma_M0):
    """Axial force and bending over what the section can do."""
    return N_Ed / (A_eff * f_y / gamma_M0) + M_y_Ed / (W_y * f_y / gamma_M0)


@formula("EN 1993-1-5, 7.2", "U")
def patch_beside_stress(F_Ed, F_Rd, eta_1):
    """Concentrated force beside bending and axial force, over 1.4."""
    return (F_Ed / F_Rd + 0.8 * eta_1) / 1.4


@formula("EN 1993-1-5, 8.1", "h_t_limit")
def web_beside_flange(k_f, E, f_y, A_w, A_fc):
    """Largest slenderness of a web that keeps its compressed flange from buckling into it."""
    return k_f * E / f_y * sqrt(A_w / A_fc)


@formula("EN 1993-1-5, 8.1", "U")
def flange_induced(h_w, t_w, h_t_limit):
    """Slenderness of a web over its limit."""
    return h_w / t_w / h_t_limit
