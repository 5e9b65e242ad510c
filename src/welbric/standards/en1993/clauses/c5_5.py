"""5.5: classification of cross-sections (Table 5.2), and 5.2.1: sidesway."""

from __future__ import annotations

import numpy as np
from numpy import maximum, minimum, sqrt

from welbric.standards.en1993.symbols import formula

# Limits of an outstand flange in compression, an internal part all in compression, one in pure
# bending, and a round tube; of classes 1, 2 and 3, over epsilon (of the tube over its square).
OUTSTAND = (9.0, 10.0, 14.0)
COMPRESSED = (33.0, 38.0, 42.0)
ROUND = (50.0, 70.0, 90.0)
# Of angles in compression, class 3: of the longer leg, and of the mean of both.
ANGLE = (15.0, 11.5)


@formula("Table 5.2", "epsilon")
def epsilon(f_y):
    """Square root of 235 MPa over the yield strength."""
    return sqrt(235 / f_y)


@formula("Table 5.2", "c_t")
def slenderness(c, t):
    """Flat width over thickness."""
    return c / t


@formula("Table 5.2", "alpha")
def part_in_compression(N_Ed, c, t_w, f_y):
    """Part of the web in compression at full plasticity; a compression is positive."""
    return maximum(minimum(0.5 * (1 + N_Ed / (c * t_w * f_y)), 1), 0.001)


@formula("Table 5.2", "psi")
def stress_ratio(N_Ed, A, f_y):
    """Ratio of the stresses at the ends of the web, the one in compression at yield."""
    return minimum(2 * N_Ed / (A * f_y) - 1, 1)


@formula("Table 5.2", "alpha")
def part_beyond_plastic_axis(N_Ed, z_1, z_pl, c, t_w, f_y):
    """Part in compression at full plasticity, of a section whose axis is not at mid-depth."""
    return maximum(minimum((z_1 - z_pl + N_Ed / (2 * t_w * f_y)) / c, 1), 0.001)


@formula("Table 5.2", "psi")
def stress_ratio_of(N_Ed, A, f_y, z_1, z_2):
    """Ratio of the stresses at the ends of a part, the one in compression at yield."""
    return minimum(N_Ed / (A * f_y) + (1 - N_Ed / (A * f_y)) * z_2 / z_1, 1)


@formula("Table 5.2", "sigma_1")
def stress_of_compressed_edge(n, nu_a, r_1, nu_b, r_b):
    """Stress over yield at the compressed edge of a part that two moments and a force act on."""
    return n + (1 - n) * (nu_a * r_1 + nu_b * r_b)


@formula("Table 5.2", "sigma_2")
def stress_of_other_edge(n, nu_a, r_2, nu_b, r_b):
    """Stress over yield at the other edge of that part."""
    return n + (1 - n) * (nu_a * r_2 + nu_b * r_b)


@formula("Table 5.2", "psi")
def ratio_of_edges(sigma_1, sigma_2):
    """Ratio of the stresses at the edges of a part."""
    return minimum(sigma_2 / sigma_1, 1)


@formula("5.5.2(9)", "epsilon")
def epsilon_by_stress(epsilon, sigma_1):
    """Value of epsilon for a part that has less than half of the yield stress."""
    return epsilon / sqrt(minimum(2 * sigma_1, 1))


@formula("Table 5.2, angles", "h_t")
def leg_slenderness(h, t):
    """Longer leg over the thickness."""
    return h / t


@formula("Table 5.2, angles", "bh_2t")
def legs_slenderness(b, h, t):
    """Mean of both legs over the thickness."""
    return (b + h) / (2 * t)


def outstand_limits(alpha, psi, eps, tip_compressed):
    """Return the limits of classes 1, 2 and 3 of an outstand in bending and compression."""
    share = alpha if tip_compressed else alpha * sqrt(alpha)
    k_sigma = tip_buckling_factor(psi) if tip_compressed else root_buckling_factor(psi)
    return 9 * eps / share, 10 * eps / share, 21 * eps * sqrt(k_sigma)


def tip_buckling_factor(psi):
    """Return the buckling factor of an outstand whose free edge has the most compression."""
    psi = maximum(psi, -3.0)
    return 0.57 - 0.21 * psi + 0.07 * psi**2


def root_buckling_factor(psi):
    """Return the buckling factor of an outstand whose held edge has the most compression."""
    low = minimum(maximum(psi, -1.0), 0.0)
    held = np.where(
        np.asarray(psi) > 0, 0.578 / (maximum(psi, 0.0) + 0.34), 1.7 - 5 * low + 17.1 * low**2
    )
    return held if held.ndim else float(held)


def web_limits(alpha, psi, eps):
    """Return the limits of classes 1, 2 and 3 of an internal part in bending and compression."""
    more = np.asarray(alpha) > 0.5
    first = np.where(more, 396 * eps / (13 * alpha - 1), 36 * eps / alpha)
    second = np.where(more, 456 * eps / (13 * alpha - 1), 41.5 * eps / alpha)
    low = np.minimum(psi, -1.0)
    third = np.where(
        np.asarray(psi) > -1, 42 * eps / (0.67 + 0.33 * psi), 62 * eps * (1 - low) * sqrt(-low)
    )
    return first, second, third


@formula("5.2.1(4)B", "alpha_cr")
def sway_load_level(H_Ed, V_story, h_story, delta_H):
    """Load level at which a storey buckles by sidesway."""
    return H_Ed / V_story * (h_story / delta_H)


@formula("5.4", "m_sway")
def sway_multiplier(alpha_cr):
    """Multiplier of the effects of sidesway."""
    return 1 / (1 - 1 / alpha_cr)
