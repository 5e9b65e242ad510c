"""D2 and D3: tension, holes and the shear lag factor."""

from __future__ import annotations

from numpy import arccos, maximum, pi, sin

from welbric.standards.aisc360.symbols import condition, formula

PHI_YIELDING, OMEGA_YIELDING = 0.90, 1.67


PHI_RUPTURE, OMEGA_RUPTURE = 0.75, 2.00


DAMAGE = 25.4 / 16  # what a hole counts wider than it is, mm (B4.3b)


@formula("D2-1", "Pn")
def tensile_yielding(Fy, Ag):
    """Nominal strength in yielding of the gross section."""
    return Fy * Ag


@formula("B4.3b", "An")
def area_less_holes(An, n_h, d_h, c_h, t):
    """Net area: holes count a sixteenth of an inch wider than they are."""
    return An - n_h * (d_h + c_h) * t


@formula("B4.3b", "An")
def area_of_stagger(An, s_h, g_h, t):
    """Net area with a diagonal of the chain of holes."""
    return An + s_h**2 / (4 * g_h) * t


@formula("Table D3.1(1)", "U_l")
def all_elements_joined():
    """Shear lag factor, every element joined."""
    return 1.0


@formula("Table D3.1(2)", "U_l")
def by_eccentricity(x_bar, l_j):
    """Shear lag factor by the eccentricity and the length of the joint."""
    return 1 - x_bar / l_j


@formula("Table D3.1(3)", "U_l")
def by_transverse_welds():
    """Shear lag factor of transverse welds alone."""
    return 1.0


@formula("Table D3.1(3)", "An")
def area_joined(n_j, b_j, t_j):
    """Net area with transverse welds alone: of the elements they join."""
    return n_j * b_j * t_j


@formula("Table D3.1(4)", "U_l")
def by_longitudinal_welds(l_j, w_j, x_bar):
    """Shear lag factor of longitudinal welds alone."""
    return 3 * l_j**2 / (3 * l_j**2 + w_j**2) * (1 - x_bar / l_j)


@formula("B4.3", "An")
def area_less_slots(Ag, w_s, t):
    """Net area of a tube with two slots."""
    return Ag - 2 * w_s * t


@formula("Table D3.1(5)", "theta")
def half_arc(w_s, D):
    """Half of the arc between the slots, outside."""
    return arccos(w_s / D)


@formula("Table D3.1(5)", "x_bar")
def eccentricity_of_a_round_half(D, theta, t_p):
    """Eccentricity of half a round tube from the plate's face."""
    return D / 2 * sin(theta) / theta - t_p / 2


@formula("Table D3.1(5)", "U_l")
def round_over_a_plate(x_bar, l_j):
    """Shear lag factor of a round tube over a plate."""
    return (1 + (x_bar / l_j) ** 3.2) ** -10


@formula("Table D3.1(6)", "b_c")
def from_the_plate(B, t_p):
    """Distance from the plate's face to the outside of the tube."""
    return (B - t_p) / 2


@formula("Table D3.1(6)", "x_bar")
def eccentricity_of_half_a_box(b_c, t, H_out):
    """Eccentricity of half a rectangular tube from the plate's face."""
    return b_c - (2 * b_c**2 + t * H_out - 2 * t**2) / (2 * H_out + 4 * b_c - 4 * t)


@condition("Table D3.1(5)")
def joint_is_long(l_j, D):
    """The joint is at least 1.3 diameters long."""
    return l_j >= 1.3 * D


@formula("Table D3.1(5)", "U_l")
def long_joint():
    """Shear lag factor of a round tube over a plate, long joint."""
    return 1.0


@formula("Table D3.1(5)", "x_bar")
def eccentricity_of_a_ring(D):
    """Eccentricity of half a thin ring."""
    return D / pi


@formula("Table D3.1(6)", "x_bar")
def eccentricity_of_a_thin_box(B, H_out):
    """Eccentricity of half a thin rectangular tube."""
    return (B**2 + 2 * B * H_out) / (4 * (B + H_out))


@formula("Table D3.1(7)", "U_l")
def through_a_wide_flange():
    """Shear lag factor, flange joined, at least two thirds of the depth wide."""
    return 0.90


@formula("Table D3.1(7)", "U_l")
def through_a_narrow_flange():
    """Shear lag factor, flange joined, less than two thirds of the depth wide."""
    return 0.85


@condition("Table D3.1(7)")
def flange_is_wide(bf, d):
    """The flange is at least two thirds of the depth wide."""
    return bf >= 2 / 3 * d


@formula("Table D3.1(7)", "U_l")
def through_the_web():
    """Shear lag factor, web joined by four bolts in a line or more."""
    return 0.70


@formula("Table D3.1(8)", "U_l")
def leg_of_four_bolts():
    """Shear lag factor of angles, four bolts in a line or more."""
    return 0.80


@formula("Table D3.1(8)", "U_l")
def leg_of_three_bolts():
    """Shear lag factor of angles, three bolts in a line."""
    return 0.60


@formula("Table D3.1", "U_l")
def larger_factor(U_a1, U_a2):
    """The larger of the two shear lag factors, as the table allows."""
    return maximum(U_a1, U_a2)


@formula("D3-1", "Ae")
def effective_net_area(An, U_l):
    """Effective net area."""
    return An * U_l


@formula("D2-2", "Pn")
def tensile_rupture(Fu, Ae):
    """Nominal strength in rupture of the net section."""
    return Fu * Ae


@formula("D2", "Pc")
def design_tension(phi_t, Pn):
    """Design strength in tension (LRFD)."""
    return phi_t * Pn


@formula("D2", "Pc")
def allowable_tension(Pn, Omega_t):
    """Allowable strength in tension (ASD)."""
    return Pn / Omega_t
