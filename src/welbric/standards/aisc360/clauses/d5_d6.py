"""D5 and D6: pins and eyebars."""

from __future__ import annotations

from numpy import minimum

from welbric.standards.aisc360.symbols import formula


@formula("D5.1(a)", "b_e")
def effective_edge(t, b_edge):
    """Effective width beside the hole."""
    return minimum(2 * t + 0.63 * 25.4, b_edge)


@formula("D5-1", "Pn")
def rupture_beside_the_hole(Fu, t, b_e):
    """Nominal strength in rupture beside the hole."""
    return Fu * 2 * t * b_e


@formula("D5.1(b)", "A_sf")
def shear_area(t, a_end, d_pin):
    """Area in shear beyond the pin."""
    return 2 * t * (a_end + d_pin / 2)


@formula("D5-2", "Pn")
def shear_out(Fu, A_sf):
    """Nominal strength in shear beyond the pin."""
    return 0.6 * Fu * A_sf
