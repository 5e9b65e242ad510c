"""6.2.3 to 6.2.10: resistance of cross-sections."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.en1993.symbols import condition, formula
from welbric.working import either


@formula("6.6", "N_pl_Rd")
def plastic_tension(A, f_y, gamma_M0):
    """Plastic resistance of the gross area."""
    return A * f_y / gamma_M0


@formula("6.7", "N_u_Rd")
def net_tension(A_net, f_u, gamma_M2):
    """Ultimate resistance of the net area."""
    return 0.9 * A_net * f_u / gamma_M2


@formula("6.2.2.2(3)", "A_net")
def area_less_holes(A_net, n_h, d_0, t):
    """Net area: less holes across the member."""
    return A_net - n_h * d_0 * t


@formula("6.2.2.2(4)", "A_net")
def area_of_stagger(A_net, s_h, p_h, t):
    """Net area with a diagonal of a chain of staggered holes."""
    return A_net + s_h**2 / (4 * p_h) * t


@formula("6.5", "U")
def tension_utilisation(N_Ed, N_t_Rd):
    """Tension over its resistance."""
    return N_Ed / N_t_Rd


@formula("6.10", "N_c_Rd")
def compression(A, f_y, gamma_M0):
    """Resistance in compression of classes 1 to 3."""
    return A * f_y / gamma_M0


@formula("6.11", "N_c_Rd")
def compression_class_4(A_eff, f_y, gamma_M0):
    """Resistance in compression of class 4."""
    return A_eff * f_y / gamma_M0


@formula("6.9", "U")
def compression_utilisation(N_Ed, N_c_Rd):
    """Compression over its resistance."""
    return N_Ed / N_c_Rd


@formula("6.13, 6.14", "M_c_Rd")
def bending(W, f_y, gamma_M0):
    """Resistance in bending: the plastic modulus in class 1 and 2, the elastic one in class 3."""
    return W * f_y / gamma_M0


@formula("6.16", "A_f_eff")
def flange_beside_holes(A_f, n_h, d_0, t_f, f_u, f_y, gamma_M0, gamma_M2):
    """Area of a flange in tension that counts beside its holes: all of it where 6.16 holds."""
    return minimum(A_f, 0.9 * (A_f - n_h * d_0 * t_f) * f_u / gamma_M2 / (f_y / gamma_M0))


@formula("6.2.5(4)", "W")
def modulus_beside_holes(W, A_f, A_f_eff, h, t_f):
    """Section modulus with both flanges so reduced, on the safe side."""
    return W - 2 * (A_f - A_f_eff) * (h - t_f) / 2


@formula("6.2.5(4)", "W")
def modulus_beside_holes_of_unequal(W, A_f, A_f_eff, h_0):
    """Section modulus with as much taken of both unlike flanges, on the safe side."""
    return W - (A_f - A_f_eff) * h_0


@formula("6.2.2.4", "c_w")
def part_of_web(epsilon, t_w):
    """Part of a class 3 web that counts in class 2, on either side of what does not."""
    return 20 * epsilon * t_w


@formula("6.2.2.4", "z_n")
def depth_to_neutral_axis(h_w, c_w, A_f_c, A_f_t, t_w):
    """Depth at which as much is in tension as counts in compression."""
    return h_w - 2 * c_w - (A_f_c - A_f_t) / t_w


@formula("6.2.2.4", "W_pl_eff")
def modulus_in_class_2(A_f_c, t_f_c, A_f_t, t_f_t, h_w, t_w, c_w, z_n):
    """Plastic modulus of the flanges, both parts of the web and what of it is in tension."""
    return (
        A_f_c * (z_n + t_f_c / 2)
        + c_w * t_w * (z_n - c_w / 2)
        + c_w**2 * t_w / 2
        + (h_w - z_n) ** 2 * t_w / 2
        + A_f_t * (h_w - z_n + t_f_t / 2)
    )


@formula("6.12", "U")
def bending_utilisation(M_Ed, M_c_Rd):
    """Moment over its resistance."""
    return M_Ed / M_c_Rd


# Shear


@formula("6.2.6(3)a", "A_v")
def shear_area_rolled(A, b, t_f, t_w, r, h_w, eta):
    """Shear area of a rolled I for forces along the web."""
    return maximum(A - 2 * b * t_f + (t_w + 2 * r) * t_f, eta * h_w * t_w)


@formula("6.2.6(3)d", "A_v")
def shear_area_welded(h_w, t_w, eta):
    """Shear area of a welded I for forces along the web."""
    return eta * h_w * t_w


@formula("6.2.6(3)e", "A_v")
def shear_area_across(A, h_w, t_w):
    """Shear area of a welded I for forces along the flanges."""
    return A - h_w * t_w


@formula("6.2.6(3), taken", "A_v")
def shear_area_across_rolled(b, t_f):
    """Shear area of a rolled I for forces along the flanges, for which none is printed."""
    return 2 * b * t_f


@formula("6.2.6(3)f", "A_v")
def shear_area_box(A, h, b):
    """Shear area of a rectangular hollow section for forces along its depth h."""
    return A * h / (b + h)


@formula("6.2.6(3)g", "A_v")
def shear_area_round(A):
    """Shear area of a circular hollow section."""
    return 2 * A / pi


@formula("6.18", "V_pl_Rd")
def plastic_shear(A_v, f_y, gamma_M0):
    """Plastic shear resistance."""
    return A_v * (f_y / sqrt(3)) / gamma_M0


@formula("6.17", "U")
def shear_utilisation(V_Ed, V_pl_Rd):
    """Shear over its resistance."""
    return V_Ed / V_pl_Rd


@formula("6.2.6(3)b", "A_v")
def shear_area_channel(A, b, t_f, t_w, r):
    """Shear area of a rolled channel for forces along the web."""
    return A - 2 * b * t_f + (t_w + r) * t_f


@formula("6.2.6(3), tees", "A_v")
def shear_area_tee(A, b, t_f, t_w, r):
    """Shear area of a tee for forces along its stem; without roots that of a welded one."""
    return A - b * t_f + (t_w + 2 * r) * t_f / 2


@formula("6.2.6(3), taken", "A_v")
def shear_area_of_tee_flange(b, t_f):
    """Shear area of a tee for forces along its flange, for which none is printed."""
    return b * t_f


@formula("6.20", "A_v")
def shear_area_elastic(n_w, h, t):
    """Area by which a rectangular part has its largest elastic shear stress as the mean one."""
    return n_w * 2 / 3 * h * t


@formula("6.20", "A_v")
def shear_area_elastic_round(A):
    """Area by which a solid round has its largest elastic shear stress as the mean one."""
    return 3 / 4 * A


# Torsion of closed sections


@formula("6.2.7(5), closed", "A_m")
def enclosed_area(h, b, t, r_m):
    """Area that the mid-line of a rectangular hollow section encloses."""
    return (h - t) * (b - t) - (4 - pi) * r_m**2


@formula("6.2.7(5), closed", "A_m")
def enclosed_area_welded(h, b, t_w, t_f):
    """Area that the mid-line of a box of four plates encloses."""
    return (h - t_f) * (b - t_w)


@formula("6.2.7(5), closed", "p_m")
def mid_line(h, b, t, r_m):
    """Length of that mid-line."""
    return 2 * (h - t + b - t) - 2 * (4 - pi) * r_m


@formula("6.2.7(5), closed", "W_t")
def torsion_modulus_box(I_t, t, A_m, p_m):
    """Modulus of torsion of a rectangular hollow section, as EN 10210-2 and EN 10219-2 have it."""
    return I_t / (t + 2 * A_m / p_m)


@formula("6.2.7(5), round", "W_t")
def torsion_modulus_round(W_el):
    """Modulus of torsion of a circular hollow section."""
    return 2 * W_el


@formula("6.2.7(5), closed", "W_t")
def torsion_modulus_welded_box(h, b, t_w, t_f):
    """Modulus of torsion of a box of four plates: twice the area within, by the thinner wall."""
    return 2 * (h - t_f) * (b - t_w) * minimum(t_w, t_f)


@formula("6.2.7(5), solid", "W_t")
def torsion_modulus_solid(d):
    """Modulus of torsion of a solid round."""
    return pi * d**3 / 16


@formula("6.2.7(1)", "T_Rd")
def torsion_resistance(W_t, f_y, gamma_M0):
    """Resistance in torsion of a closed section (St. Venant)."""
    return W_t * (f_y / sqrt(3)) / gamma_M0


@formula("6.23", "U")
def torsion_utilisation(T_Ed, T_Rd):
    """Torsional moment over its resistance."""
    return T_Ed / T_Rd


@formula("6.2.7(5)", "tau_t_Ed")
def torsion_stress(T_Ed, W_t):
    """Shear stress of torsion."""
    return T_Ed / W_t


@formula("6.2.6, resultant", "V_Ed")
def resultant_shear(V_z_Ed, V_y_Ed):
    """Shear of a round section: both directions act on it as one."""
    return sqrt(V_z_Ed**2 + V_y_Ed**2)


@formula("6.28", "V_pl_T_Rd")
def shear_beside_torsion(tau_t_Ed, f_y, gamma_M0, V_pl_Rd):
    """Plastic shear resistance of a hollow section beside torsion; a hundredth stays at least."""
    return maximum(1 - tau_t_Ed / (f_y / sqrt(3) / gamma_M0), 0.01) * V_pl_Rd


# Bending with shear and axial force


@condition("6.2.8(2)")
def shear_is_small(V_Ed, V_pl_Rd):
    """Shear is at most half its resistance."""
    return V_Ed <= 0.5 * V_pl_Rd


@formula("6.2.8(3)", "rho")
def shear_reduction(V_Ed, V_pl_Rd):
    """What shear takes of the yield strength."""
    return minimum((2 * V_Ed / V_pl_Rd - 1) ** 2, 1)


@formula("6.2.8(2)", "rho")
def no_shear_reduction(V_Ed):
    """Nothing where the shear is small."""
    return 0 * V_Ed


def rho(V_Ed, V_pl_Rd):
    """Return what shear takes of the yield strength."""
    symbols = {"V_Ed": V_Ed, "V_pl_Rd": V_pl_Rd}
    return either(shear_is_small, no_shear_reduction, shear_reduction, **symbols)


@formula("6.30", "M_V_Rd")
def bending_with_shear(W_pl_y, rho, h_w, t_w, f_y, gamma_M0, M_c_Rd):
    """Resistance in bending about the y axis of an I with equal flanges beside shear."""
    return minimum((W_pl_y - rho * (h_w * t_w) ** 2 / (4 * t_w)) * f_y / gamma_M0, M_c_Rd)


@formula("6.29", "f_y_red")
def reduced_yield(rho, f_y):
    """Yield strength of the shear area, here taken of the whole section."""
    return (1 - rho) * f_y


@formula("6.2.9.1(5)", "n")
def axial_ratio(N_Ed, N_pl_Rd):
    """Axial force over the plastic resistance."""
    return N_Ed / N_pl_Rd


@formula("6.2.9.1(5)", "a")
def web_share(A, b, t_f):
    """Share of the area that is web."""
    return minimum((A - 2 * b * t_f) / A, 0.5)


@condition("6.33, 6.34")
def axial_force_is_small_y(N_Ed, N_pl_Rd, h_w, t_w, f_y, gamma_M0):
    """An axial force that need not be counted in bending about the y axis."""
    return N_Ed <= minimum(0.25 * N_pl_Rd, 0.5 * h_w * t_w * f_y / gamma_M0)


@condition("6.35")
def axial_force_is_small_z(N_Ed, h_w, t_w, f_y, gamma_M0):
    """An axial force that need not be counted in bending about the z axis."""
    return N_Ed <= h_w * t_w * f_y / gamma_M0


@formula("6.33, 6.34", "M_N_y_Rd")
def not_reduced_y(M_c_y_Rd):
    """Plastic moment that is not reduced."""
    return M_c_y_Rd


@formula("6.36", "M_N_y_Rd")
def reduced_moment_y(M_c_y_Rd, n, a):
    """Plastic moment about the y axis reduced by the axial force."""
    return maximum(minimum(M_c_y_Rd * (1 - n) / (1 - 0.5 * a), M_c_y_Rd), 0)


@formula("6.35", "M_N_z_Rd")
def not_reduced_z(M_c_z_Rd):
    """Plastic moment that is not reduced."""
    return M_c_z_Rd


@formula("6.37, 6.38", "M_N_z_Rd")
def reduced_moment_z(M_c_z_Rd, n, a):
    """Plastic moment about the z axis reduced by the axial force; not where n is at most a."""
    return M_c_z_Rd * (1 - (maximum(minimum(n, 1) - a, 0) / (1 - a)) ** 2)


@formula("6.39", "a_w")
def webs_share(A, b, t):
    """Share of the area of a hollow section that is webs."""
    return minimum((A - 2 * b * t) / A, 0.5)


@formula("6.40", "a_f")
def flanges_share(A, h, t):
    """Share of the area of a hollow section that is flanges."""
    return minimum((A - 2 * h * t) / A, 0.5)


@formula("6.39", "M_N_y_Rd")
def reduced_box_y(M_c_y_Rd, n, a_w):
    """Plastic moment of a rectangular hollow section about the y axis beside an axial force."""
    return maximum(minimum(M_c_y_Rd * (1 - n) / (1 - 0.5 * a_w), M_c_y_Rd), 0)


@formula("6.40", "M_N_z_Rd")
def reduced_box_z(M_c_z_Rd, n, a_f):
    """Plastic moment of a rectangular hollow section about the z axis beside an axial force."""
    return maximum(minimum(M_c_z_Rd * (1 - n) / (1 - 0.5 * a_f), M_c_z_Rd), 0)


@formula("6.2.9.1(5), round", "M_N_y_Rd")
def reduced_round(M_c_y_Rd, n):
    """Plastic moment of a circular hollow section beside an axial force."""
    return M_c_y_Rd * (1 - minimum(n, 1) ** 1.7)


@formula("6.39", "a_w")
def welded_webs_share(A, b, t_f):
    """Share of the area of a welded box that is webs."""
    return minimum((A - 2 * b * t_f) / A, 0.5)


@formula("6.40", "a_f")
def welded_flanges_share(A, h, t_w):
    """Share of the area of a welded box that is flanges."""
    return minimum((A - 2 * h * t_w) / A, 0.5)


@formula("6.32", "M_N_y_Rd")
def reduced_solid(M_c_y_Rd, n):
    """Plastic moment of a solid rectangle about the y axis beside an axial force."""
    return M_c_y_Rd * (1 - minimum(n, 1) ** 2)


@formula("6.32", "M_N_z_Rd")
def reduced_solid_z(M_c_z_Rd, n):
    """Plastic moment of a solid rectangle about the z axis beside an axial force."""
    return M_c_z_Rd * (1 - minimum(n, 1) ** 2)


@formula("6.2.9.1(6)", "alpha_y")
def exponent_box(n):
    """Exponent of a rectangular hollow section."""
    return minimum(1.66 / maximum(1 - 1.13 * n**2, 1e-9), 6)


@formula("6.2.9.1(6)", "beta_z")
def exponent_i(n):
    """Exponent of bending about the z axis of an I."""
    return maximum(5 * n, 1)


@formula("6.41", "U_yz")
def biaxial(M_y_Ed, M_N_y_Rd, M_z_Ed, M_N_z_Rd, alpha_y, beta_z):
    """Bending about both axes beside an axial force."""
    return (M_y_Ed / M_N_y_Rd) ** alpha_y + (M_z_Ed / M_N_z_Rd) ** beta_z


@formula("6.2.1(5), 6.2.1(6)", "U")
def beside_torsion(U_sigma, T_Ed, T_Rd):
    """Direct stresses beside the shear stress of torsion, by the yield criterion of 6.1."""
    return sqrt(U_sigma**2 + (T_Ed / T_Rd) ** 2)


@formula("6.2, 6.28", "U")
def shear_and_torsion(V_Ed, V_pl_Rd, T_Ed, T_Rd):
    """Shear and torsion over their resistances, added, where torsion leaves nothing to shear."""
    return V_Ed / V_pl_Rd + T_Ed / T_Rd


@formula("6.2", "U")
def all_added(U_sigma, U_V, U_T):
    """Direct stresses, shear and torsion over their resistances, where nothing is left for one."""
    return U_sigma + U_V + U_T


@formula("6.31", "U")
def about_y(M_y_Ed, M_N_y_Rd):
    """Bending about the y axis beside an axial force."""
    return M_y_Ed / M_N_y_Rd


@formula("6.31", "U")
def about_z(M_z_Ed, M_N_z_Rd):
    """Bending about the z axis beside an axial force."""
    return M_z_Ed / M_N_z_Rd


@formula("6.41, round", "U")
def resultant_of_moments(M_y_Ed, M_z_Ed, M_N_y_Rd):
    """Resultant moment of a circular hollow section over its resistance: 6.41, squared."""
    return sqrt(M_y_Ed**2 + M_z_Ed**2) / M_N_y_Rd


@formula("6.31, 6.41", "U")
def worst_of_moments(M_y_Ed, M_N_y_Rd, M_z_Ed, M_N_z_Rd, U_yz):
    """The worst of bending about either axis, and about both."""
    return maximum(maximum(M_y_Ed / M_N_y_Rd, M_z_Ed / M_N_z_Rd), U_yz)


@formula("6.42", "U")
def stress_utilisation(sigma_x_Ed, f_y, gamma_M0):
    """Largest longitudinal stress over its resistance."""
    return sigma_x_Ed / (f_y / gamma_M0)


@formula("6.2", "U")
def linear(N_Ed, N_c_Rd, M_y_Ed, M_c_y_Rd, M_z_Ed, M_c_z_Rd):
    """Sum of the utilisations; in class 3 and 4 it is that of the stress (6.42 to 6.44)."""
    return N_Ed / N_c_Rd + M_y_Ed / M_c_y_Rd + M_z_Ed / M_c_z_Rd
