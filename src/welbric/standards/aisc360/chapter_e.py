"""Chapter E: members in compression. Flexural (E3), torsional (E4), slender elements (E7)."""

from __future__ import annotations

from numpy import pi, sqrt

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either

PHI, OMEGA = 0.90, 1.67

# Table E7.1, imperfection factor c1; c2 follows from it by Eq. E7-4.
C1_STIFFENED = 0.18  # (a) stiffened elements, except walls of square and rectangular HSS
C1_UNSTIFFENED = 0.22  # (c) all other elements


@formula("E2", "Lc")
def effective_length(K, L):
    """Effective length."""
    return K * L


@formula("E3-4", "Fe")
def flexural_buckling_stress(E, Lc, r):
    """Elastic stress in flexural buckling."""
    return pi**2 * E / (Lc / r) ** 2


@formula("E4-2", "Fe")
def torsional_buckling_stress(E, Cw, Lcz, G, J, Ix, Iy):
    """Elastic stress in torsional buckling of doubly symmetric shapes."""
    return (pi**2 * E * Cw / Lcz**2 + G * J) / (Ix + Iy)


@formula("C-E4-1", "Fe")
def constrained_axis_stress(E, Cw, Iy, y_a, Lcz, G, J, Ix, Ag):
    """Elastic stress in torsional buckling about an axis that lateral restraint holds."""
    return 0.9 * (pi**2 * E * (Cw + Iy * y_a**2) / Lcz**2 + G * J) / (Ix + Iy + Ag * y_a**2)


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


@formula("E7-4", "c2")
def imperfection_factor(c1):
    """Effective width imperfection factor."""
    return (1 - sqrt(1 - 4 * c1)) / (2 * c1)


@formula("E7-5", "Felw")
def web_local_buckling_stress(c2, lambda_rw, lambda_w, Fy):
    """Elastic local buckling stress of the web."""
    return (c2 * lambda_rw / lambda_w) ** 2 * Fy


@formula("E7-5", "Felf")
def flange_local_buckling_stress(c2, lambda_rc, lambda_f, Fy):
    """Elastic local buckling stress of the flange."""
    return (c2 * lambda_rc / lambda_f) ** 2 * Fy


@condition("E7.1(a)")
def web_is_fully_effective(lambda_w, lambda_rw, Fy, Fn):
    """The whole web is effective at the stress Fn."""
    return lambda_w <= lambda_rw * sqrt(Fy / Fn)


@condition("E7.1(a)")
def flange_is_fully_effective(lambda_f, lambda_rc, Fy, Fn):
    """The whole flange is effective at the stress Fn."""
    return lambda_f <= lambda_rc * sqrt(Fy / Fn)


@formula("E7-2", "he")
def whole_web(h):
    """Effective depth of the web."""
    return h


@formula("E7-3", "he")
def reduced_web(h, c1, Felw, Fn):
    """Effective depth of a slender web."""
    return h * (1 - c1 * sqrt(Felw / Fn)) * sqrt(Felw / Fn)


@formula("E7-2", "be")
def whole_outstand(b):
    """Effective width of the flange outstand."""
    return b


@formula("E7-3", "be")
def reduced_outstand(b, c1, Felf, Fn):
    """Effective width of a slender flange outstand."""
    return b * (1 - c1 * sqrt(Felf / Fn)) * sqrt(Felf / Fn)


@formula("B4.1", "b")
def outstand(bf):
    """Width of the flange outstand."""
    return bf / 2


@formula("E7", "Ae")
def effective_area(Ag, b, be, tf, h, he, tw):
    """Effective area: the gross area less what buckles locally."""
    return Ag - 4 * (b - be) * tf - (h - he) * tw


def slender_web(h, lambda_w, lambda_rw, Fy, Fn):
    """Return he by E7-3."""
    c2 = imperfection_factor(c1=C1_STIFFENED)
    Felw = web_local_buckling_stress(c2, lambda_rw, lambda_w, Fy)
    return reduced_web(h, C1_STIFFENED, Felw, Fn)


def slender_outstand(b, lambda_f, lambda_rc, Fy, Fn):
    """Return be by E7-3."""
    c2 = imperfection_factor(c1=C1_UNSTIFFENED)
    Felf = flange_local_buckling_stress(c2, lambda_rc, lambda_f, Fy)
    return reduced_outstand(b, C1_UNSTIFFENED, Felf, Fn)


@formula("E3-1", "Pn")
def compressive_strength(Fn, Ag):
    """Nominal compressive strength."""
    return Fn * Ag


@formula("E7-1", "Pn")
def compressive_strength_slender(Fn, Ae):
    """Nominal compressive strength with slender elements."""
    return Fn * Ae


@formula("E1", "Pc")
def design_compression(phi_c, Pn):
    """Design strength in compression (LRFD)."""
    return phi_c * Pn


@formula("E1", "Pc")
def allowable_compression(Pn, Omega_c):
    """Allowable strength in compression (ASD)."""
    return Pn / Omega_c
