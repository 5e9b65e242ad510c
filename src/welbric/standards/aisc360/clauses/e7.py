"""E7: members with slender elements."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either

# Table E7.1, imperfection factor c1; c2 follows from it by Eq. E7-4.


# Table E7.1: (a) stiffened elements, (b) walls of square and rectangular HSS, (c) all others.
C1_STIFFENED, C1_TUBE, C1_OTHER = 0.18, 0.20, 0.22


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
    c2 = imperfection_factor(c1=C1_OTHER)
    Felf = flange_local_buckling_stress(c2, lambda_rc, lambda_f, Fy)
    return reduced_outstand(b, C1_OTHER, Felf, Fn)


@formula("E7-1", "Pn")
def compressive_strength_slender(Fn, Ae):
    """Nominal compressive strength with slender elements."""
    return Fn * Ae


@condition("E7.1(a)")
def is_fully_effective(lambda_b, lambda_r, Fy, Fn):
    """The element is effective as a whole at the stress Fn."""
    return lambda_b <= lambda_r * sqrt(Fy / Fn)


@formula("E7-2", "be")
def whole_width(b_flat):
    """Effective width of the element."""
    return b_flat


@formula("E7-5", "Fel")
def local_buckling_stress(c2, lambda_r, lambda_b, Fy):
    """Elastic local buckling stress."""
    return (c2 * lambda_r / lambda_b) ** 2 * Fy


@formula("E7-3", "be")
def reduced_width(b_flat, c1, Fel, Fn):
    """Effective width of a slender element."""
    return minimum(b_flat * (1 - c1 * sqrt(Fel / Fn)) * sqrt(Fel / Fn), b_flat)


def effective_width(b_flat, lambda_b, lambda_r, Fy, Fn, c1):
    """Return be of an element with the factors of Table E7.1."""
    return either(
        is_fully_effective,
        whole_width,
        slender_width,
        b_flat=b_flat,
        lambda_b=lambda_b,
        lambda_r=lambda_r,
        Fy=Fy,
        Fn=Fn,
        c1=c1,
    )


def slender_width(b_flat, lambda_b, lambda_r, Fy, Fn, c1):
    """Return be by E7-3."""
    c2 = imperfection_factor(c1=c1)
    return reduced_width(b_flat, c1, local_buckling_stress(c2, lambda_r, lambda_b, Fy), Fn)


@formula("E7", "Ae")
def effective_area_of_walls(Ag, b_flat, be_b, h_flat, be_h, t):
    """Effective area: the gross area less what buckles locally in the four walls."""
    return Ag - 2 * (b_flat - be_b) * t - 2 * (h_flat - be_h) * t


@formula("E7", "Ae")
def effective_area_of_box(Ag, b_flat, be_b, tf, h_flat, be_h, tw):
    """Effective area: the gross area less what buckles locally in the four plates."""
    return Ag - 2 * (b_flat - be_b) * tf - 2 * (h_flat - be_h) * tw


@formula("E7", "Ae")
def effective_area_less(Ae, b, be, t):
    """Effective area less what buckles locally of one element."""
    return Ae - (b - be) * t


@condition("E7.2(a)")
def tube_is_effective(lambda_t, E, Fy):
    """The round tube does not buckle locally."""
    return lambda_t <= 0.11 * E / Fy


@formula("E7-6", "Ae")
def whole_tube(Ag):
    """Effective area of a round tube."""
    return Ag


@formula("E7-7", "Ae")
def slender_tube(E, Fy, lambda_t, Ag):
    """Effective area of a slender round tube."""
    return (0.038 * E / (Fy * lambda_t) + 2 / 3) * Ag


@formula("E7", "Ae")
def both_effective(Ae1):
    """Effective area of both channels."""
    return 2 * Ae1
