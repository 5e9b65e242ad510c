"""6.4: uniform built-up compression members, of two chords with lacing or battens."""

from __future__ import annotations

from numpy import maximum, minimum, pi, sqrt

from welbric.standards.en1993.symbols import formula


@formula("6.4.1(1)", "e_0")
def bow(L):
    """Bow imperfection of the member."""
    return L / 500


@formula("6.4.1(6)", "M_Ed_II")
def moment(N_Ed, e_0, M_Ed_I, N_cr, S_v):
    """Largest moment at the middle, to the second order."""
    return (N_Ed * e_0 + M_Ed_I) / (1 - N_Ed / N_cr - N_Ed / S_v)


@formula("6.69", "N_ch_Ed")
def chord_force(N_Ed, M_Ed_II, h_0, A_ch, I_eff):
    """Force of a chord at the middle of the member; of tension to the first order."""
    return 0.5 * N_Ed + M_Ed_II * h_0 * A_ch / (2 * I_eff)


@formula("6.70", "V_Ed")
def shear(M_Ed_II, L):
    """Shear force of the member."""
    return pi * M_Ed_II / L


@formula("6.70", "V_Ed")
def shear_beside_loads(V_Ed, V_Ed_I, M_Ed_II, M_Ed_I, L):
    """Shear force of the member: not less than that of its loads and of what bends it more."""
    return maximum(V_Ed, V_Ed_I + pi * (M_Ed_II - M_Ed_I) / L)


# 6.4.2: lacing


@formula("6.72", "I_eff")
def inertia_laced(h_0, A_ch):
    """Second moment of area of a laced member."""
    return 0.5 * h_0**2 * A_ch


@formula("Figure 6.9", "d_l")
def diagonal_of_zigzag(h_0, a_l):
    """Length of a diagonal that spans half of the distance of the joints on a chord."""
    return sqrt(h_0**2 + (a_l / 2) ** 2)


@formula("Figure 6.9", "d_l")
def diagonal_beside_posts(h_0, a_l):
    """Length of a diagonal between posts."""
    return sqrt(h_0**2 + a_l**2)


@formula("Figure 6.9", "S_v")
def stiffness_of_zigzag(n_l, E, A_d, a_l, h_0, d_l):
    """Shear stiffness of a zigzag of diagonals."""
    return n_l * E * A_d * a_l * h_0**2 / (2 * d_l**3)


@formula("Figure 6.9", "S_v")
def stiffness_beside_posts(n_l, E, A_d, a_l, h_0, d_l, A_p):
    """Shear stiffness of diagonals with posts."""
    return n_l * E * A_d * a_l * h_0**2 / (d_l**3 * (1 + A_d * h_0**3 / (A_p * d_l**3)))


@formula("6.4.2.1(2)", "N_l_Ed")
def diagonal_force(V_Ed, d_l, n_l, h_0):
    """Force of a diagonal, in compression or in tension."""
    return V_Ed * d_l / (n_l * h_0)


@formula("6.4.2.1(2)", "N_l_Ed")
def post_force(V_Ed, n_l):
    """Force of a post."""
    return V_Ed / n_l


# 6.4.3: battens


@formula("Table 6.8", "i_0")
def radius_whole(I_1, A_ch):
    """Radius of gyration of the chords that act together."""
    return sqrt(I_1 / (2 * A_ch))


@formula("Table 6.8", "mu")
def efficiency(L, i_0):
    """Efficiency factor of the chords' own bending: 1 up to a slenderness of 75, 0 from 150 on."""
    return minimum(maximum(2 - (L / i_0) / 75, 0), 1)


@formula("6.74", "I_eff")
def inertia_battened(h_0, A_ch, mu, I_ch):
    """Second moment of area of a battened member."""
    return 0.5 * h_0**2 * A_ch + 2 * mu * I_ch


@formula("6.73", "S_v")
def stiffness_of_battens(E, I_ch, a_l, n_l, I_b, h_0):
    """Shear stiffness of battens and chords."""
    return minimum(
        24 * E * I_ch / (a_l**2 * (1 + 2 * I_ch * h_0 / (n_l * I_b * a_l))),
        2 * pi**2 * E * I_ch / a_l**2,
    )


@formula("Figure 6.11", "M_ch_Ed")
def chord_moment(V_Ed, a_l):
    """Moment of a chord beside a batten."""
    return V_Ed * a_l / 4


@formula("6.4.3.1(1)", "U")
def battened_chord_utilisation(N_ch_Ed, N_b_Rd, M_ch_Ed, M_ch_Rd):
    """Compression and moment of a chord over its resistances."""
    return N_ch_Ed / N_b_Rd + M_ch_Ed / M_ch_Rd


@formula("Figure 6.11", "V_b_Ed")
def batten_shear(V_Ed, a_l, n_l, h_0):
    """Shear force of a batten."""
    return V_Ed * a_l / (n_l * h_0)


@formula("Figure 6.11", "M_b_Ed")
def batten_moment(V_Ed, a_l, n_l):
    """Moment of a batten at the axis of a chord."""
    return V_Ed * a_l / (2 * n_l)


@formula("6.4.3.1(1)", "W_b")
def batten_modulus(b_b, t_b):
    """Elastic modulus of a batten."""
    return t_b * b_b**2 / 6


@formula("6.4.3.1(1)", "U")
def batten_utilisation(V_b_Ed, V_b_Rd, M_b_Ed, M_b_Rd_V, M_b_Rd):
    """Shear and bending of a batten over its resistances, of the section and as it buckles."""
    return maximum(maximum(V_b_Ed / V_b_Rd, M_b_Ed / M_b_Rd_V), M_b_Ed / M_b_Rd)
