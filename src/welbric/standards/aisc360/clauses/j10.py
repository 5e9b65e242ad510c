"""J10: concentrated forces."""

from __future__ import annotations

from numpy import sqrt

from welbric.standards.aisc360.symbols import condition, formula

# phi and Omega of web yielding, crippling, sidesway buckling, compression buckling
YIELDING, CRIPPLING, SIDESWAY, BUCKLING = (1.00, 1.50), (0.75, 2.00), (0.85, 1.76), (0.90, 1.67)


FLANGE, COLUMN, CONTACT = (0.90, 1.67), (0.90, 1.67), (0.75, 2.00)  # J10.1, J10.8 and E1, J7


CR = {True: 960_000.0 * 6.894757293168361, False: 480_000.0 * 6.894757293168361}  # MPa


@condition("J10.1")
def is_ten_flanges_inside(x_f, tf):
    """The force is at least ten flange thicknesses from the end."""
    return x_f >= 10 * tf


@formula("J10-1", "Rn")
def flange_bending(Fy, tf):
    """Nominal strength in flange local bending."""
    return 6.25 * Fy * tf**2


@formula("J10.1", "Rn")
def flange_bending_at_end(Fy, tf):
    """Nominal strength in flange local bending near an end."""
    return 0.5 * (6.25 * Fy * tf**2)


@formula("J10.2", "k_des")
def fillet_depth(tf, r_f):
    """Outer face of the flange to the toe of the fillet."""
    return tf + r_f


@condition("J10.2(a)")
def is_inside(x_f, d):
    """The force is farther than the depth from the end."""
    return x_f > d


@formula("J10-2", "Rn")
def yielding_inside(Fy, tw, k_des, l_b):
    """Nominal strength in web local yielding."""
    return Fy * tw * (5 * k_des + l_b)


@formula("J10-3", "Rn")
def yielding_at_end(Fy, tw, k_des, l_b):
    """Nominal strength in web local yielding at an end."""
    return Fy * tw * (2.5 * k_des + l_b)


@condition("J10.3(a)")
def is_half_a_depth_inside(x_f, d):
    """The force is at least half the depth from the end."""
    return x_f >= d / 2


@formula("J10-4", "Rn")
def crippling_inside(tw, l_b, d, tf, E, Fy):
    """Nominal strength in web local crippling."""
    return 0.80 * tw**2 * (1 + 3 * (l_b / d) * (tw / tf) ** 1.5) * sqrt(E * Fy * tf / tw)


@condition("J10.3(b)(1)")
def is_short(l_b, d):
    """The bearing is short."""
    return l_b / d <= 0.2


@formula("J10-5a", "Rn")
def crippling_at_end(tw, l_b, d, tf, E, Fy):
    """Nominal strength in web local crippling at an end, short bearing."""
    return 0.40 * tw**2 * (1 + 3 * (l_b / d) * (tw / tf) ** 1.5) * sqrt(E * Fy * tf / tw)


@formula("J10-5b", "Rn")
def crippling_at_end_long(tw, l_b, d, tf, E, Fy):
    """Nominal strength in web local crippling at an end, long bearing."""
    return 0.40 * tw**2 * (1 + (4 * l_b / d - 0.2) * (tw / tf) ** 1.5) * sqrt(E * Fy * tf / tw)


@condition("J10.4(b)")
def sways(h, tw, Lb, bf):
    """The tension flange may move laterally, the other not held from turning."""
    return h / tw / (Lb / bf) <= 1.7


@formula("J10-7", "Rn")
def sidesway_strength(C_r, tw, tf, h, Lb, bf):
    """Nominal strength in web sidesway buckling."""
    return C_r * tw**3 * tf / h**2 * (0.4 * (h / tw / (Lb / bf)) ** 3)


@formula("J10-8", "Rn")
def compression_buckling(tw, E, Fy, h):
    """Nominal strength of the web between forces on both flanges."""
    return 24 * tw**3 * sqrt(E * Fy) / h


@formula("J10.5", "Rn")
def compression_buckling_at_end(tw, E, Fy, h):
    """Nominal strength of the web between forces on both flanges, near an end."""
    return 0.5 * (24 * tw**3 * sqrt(E * Fy) / h)


@formula("J10.8", "l_w")
def strip_inside(tw):
    """Length of web that acts with the stiffeners."""
    return 25 * tw


@formula("J10.8", "l_w")
def strip_at_end(tw):
    """Length of web that acts with the stiffeners at an end."""
    return 12 * tw


@formula("J10.8", "Ag")
def stiffener_area(b_st, t_st, l_w, tw):
    """Area of the stiffeners and the strip of web."""
    return 2 * b_st * t_st + l_w * tw


@formula("J10.8", "I_st")
def stiffener_inertia(b_st, t_st, l_w, tw):
    """Second moment of area of the stiffeners and the strip, about the middle of the web."""
    return t_st * (2 * b_st + tw) ** 3 / 12 + (l_w - t_st) * tw**3 / 12


@formula("J10.8", "r")
def stiffener_radius(I_st, Ag):
    """Radius of gyration."""
    return sqrt(I_st / Ag)


@formula("J10.8", "Lc")
def stiffener_length(h):
    """Effective length."""
    return 0.75 * h


@formula("J10", "Rc")
def design_force(phi_R, Rn):
    """Design strength against a concentrated force (LRFD)."""
    return phi_R * Rn


@formula("J10", "Rc")
def allowable_force(Rn, Omega_R):
    """Allowable strength against a concentrated force (ASD)."""
    return Rn / Omega_R
