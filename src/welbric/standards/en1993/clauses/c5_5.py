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
