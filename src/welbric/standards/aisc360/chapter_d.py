"""Chapter D: members in tension."""

from __future__ import annotations

from welbric.standards.aisc360.symbols import formula

PHI_YIELDING, OMEGA_YIELDING = 0.90, 1.67
PHI_RUPTURE, OMEGA_RUPTURE = 0.75, 2.00


@formula("D2-1", "Pn")
def tensile_yielding(Fy, Ag):
    """Nominal strength in yielding of the gross section."""
    return Fy * Ag


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
