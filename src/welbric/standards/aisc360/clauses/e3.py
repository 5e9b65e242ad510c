"""E1 to E3: flexural buckling."""

from __future__ import annotations

from numpy import pi

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either

PHI, OMEGA = 0.90, 1.67


@formula("E2", "Lc")
def effective_length(K, L):
    """Effective length."""
    return K * L


@formula("E3-4", "Fe")
def flexural_buckling_stress(E, Lc, r):
    """Elastic stress in flexural buckling."""
    return pi**2 * E / (Lc / r) ** 2


@condition("E3(a)")
def buckles_inelastically(Fy, Fe):
    """Inelastic range of buckling."""
    return Fy / Fe <= 2.25


@formula("E3-2", "Fn")
def inelastic_buckling_stress(Fy, Fe):
    """Nominal stress in flexural buckling, inelastic range."""
    return 0.658 ** (Fy / Fe) * Fy


@formula("E3-3", "Fn")
def elastic_buckling_stress(Fe):
    """Nominal stress in flexural buckling, elastic range."""
    return 0.877 * Fe


def nominal_stress(Fy, Fe):
    """Return Fn by E3(a) or E3(b)."""
    return either(
        buckles_inelastically, inelastic_buckling_stress, elastic_buckling_stress, Fy=Fy, Fe=Fe
    )


@formula("E3-1", "Pn")
def compressive_strength(Fn, Ag):
    """Nominal compressive strength."""
    return Fn * Ag


@formula("E1", "Pc")
def design_compression(phi_c, Pn):
    """Design strength in compression (LRFD)."""
    return phi_c * Pn


@formula("E1", "Pc")
def allowable_compression(Pn, Omega_c):
    """Allowable strength in compression (ASD)."""
    return Pn / Omega_c


@formula("E3", "lambda_o")
def slenderness(Lc, r):
    """Slenderness of the built-up member acting as one."""
    return Lc / r
