"""F13: proportions, and holes in flanges."""

from __future__ import annotations

from numpy import minimum, sqrt

from welbric.standards.aisc360.symbols import condition, formula


@condition("F13-2")
def flanges_are_in_proportion(Iyc, Iy):
    """The flanges are in proportion."""
    return (Iyc / Iy >= 0.1) & (Iyc / Iy <= 0.9)


@formula("F13-3", "lambda_r")
def web_limit_near(E, Fy):
    """Most slender web, stiffeners within one and a half depths."""
    return 12.0 * sqrt(E / Fy)


@formula("F13-4", "lambda_r")
def web_limit_far(E, Fy):
    """Most slender web, stiffeners farther apart."""
    return 0.40 * E / Fy


@condition("F13.2")
def web_is_not_too_slender(lambda_w, E, Fy):
    """The web of a girder without stiffeners, or with stiffeners far apart, is not too slender."""
    return lambda_w <= minimum(0.40 * E / Fy, 260.0)


@condition("F13.2")
def web_is_not_too_large(h, tw, Afc):
    """The web's area is at most ten times that of the flange in compression."""
    return h * tw / Afc <= 10.0


@formula("F13.1", "Afg")
def gross_flange(bft, tft):
    """Gross area of the tension flange."""
    return bft * tft


@formula("F13.1", "Afn")
def net_flange(Afg, n_h, d_h, c_h, tft):
    """Net area of the tension flange, holes a sixteenth of an inch wider than they are."""
    return Afg - n_h * (d_h + c_h) * tft


@condition("F13.1")
def steel_is_ductile(Fy, Fu):
    """The yield stress is low against the strength."""
    return Fy / Fu <= 0.8


@formula("F13.1", "Yt")
def usual_factor():
    """Factor on yielding of the gross flange."""
    return 1.0


@formula("F13.1", "Yt")
def raised_factor():
    """Factor on yielding of the gross flange, yield stress near the strength."""
    return 1.1


@condition("F13.1(a)")
def holes_do_not_count(Fu, Afn, Yt, Fy, Afg):
    """Rupture of the net flange need not be looked at."""
    return Fu * Afn >= Yt * Fy * Afg


@formula("F13-1", "Mn")
def rupture_of_flange(Fu, Afn, Afg, Sxt):
    """Nominal strength, rupture of the tension flange through its holes."""
    return Fu * Afn / Afg * Sxt


@formula("F13.1(a)", "Mn")
def yielding_of_flange(Mp):
    """No reduction for holes: the plastic moment."""
    return 1.0 * Mp
