"""Chapter G: shear. Webs of rolled I-shapes (G2.1) and flanges in minor-axis shear (G6)."""

from __future__ import annotations

from numpy import sqrt

from welbric.standards.aisc360.symbols import condition, formula
from welbric.working import either, first_of

PHI, OMEGA = 0.90, 1.67
PHI_STOCKY, OMEGA_STOCKY = 1.00, 1.50  # G2.1(a), webs of rolled I-shapes
KV_UNSTIFFENED = 5.34  # G2.1(b)(2)(i)
KV_FLANGE = 1.2  # G6


@formula("G2.1", "Aw")
def web_area(d, tw):
    """Area of the web."""
    return d * tw


@condition("G2.1(a)")
def web_is_stocky(lambda_w, E, Fy):
    """The web yields in shear, with the higher resistance factor."""
    return lambda_w <= 2.24 * sqrt(E / Fy)


@formula("G2-2", "Cv1")
def stocky_web_coefficient():
    """Web shear coefficient of a stocky rolled web."""
    return 1.0


@condition("G2.1(b)(1)(i)")
def web_yields(lambda_w, kv, E, Fy):
    """The web yields in shear."""
    return lambda_w <= 1.10 * sqrt(kv * E / Fy)


@formula("G2-3", "Cv1")
def yielding_web_coefficient():
    """Web shear coefficient without shear buckling."""
    return 1.0


@formula("G2-4", "Cv1")
def buckling_web_coefficient(kv, E, Fy, lambda_w):
    """Web shear coefficient with shear buckling."""
    return 1.10 * sqrt(kv * E / Fy) / lambda_w


@formula("G2-1", "Vn")
def web_shear_strength(Fy, Aw, Cv1):
    """Nominal shear strength of the web."""
    return 0.6 * Fy * Aw * Cv1


def web_coefficient(lambda_w, E, Fy, kv=KV_UNSTIFFENED):
    """Return Cv1, of an unstiffened web unless kv is said (G2.1(b))."""
    return either(
        web_yields,
        yielding_web_coefficient,
        buckling_web_coefficient,
        lambda_w=lambda_w,
        kv=kv,
        E=E,
        Fy=Fy,
    )


@condition("G2.2(b)(1)")
def yields_in_shear(lambda_v, kv, E, Fy):
    """The element yields in shear."""
    return lambda_v <= 1.10 * sqrt(kv * E / Fy)


@condition("G2.2(b)(2)")
def buckles_inelastically_in_shear(lambda_v, kv, E, Fy):
    """The element buckles inelastically in shear."""
    return lambda_v <= 1.37 * sqrt(kv * E / Fy)


@formula("G2-9", "Cv2")
def yielding_coefficient():
    """Shear buckling coefficient, yielding."""
    return 1.0


@formula("G2-10", "Cv2")
def inelastic_coefficient(kv, E, Fy, lambda_v):
    """Shear buckling coefficient, inelastic buckling."""
    return 1.10 * sqrt(kv * E / Fy) / lambda_v


@formula("G2-11", "Cv2")
def elastic_coefficient(kv, E, Fy, lambda_v):
    """Shear buckling coefficient, elastic buckling."""
    return 1.51 * kv * E / (lambda_v**2 * Fy)


@formula("G6-1", "Vn")
def flange_shear_strength(Fy, bf, tf, Cv2):
    """Nominal shear strength of both flanges."""
    return 2 * (0.6 * Fy * bf * tf * Cv2)


def buckling_coefficient(lambda_v, E, Fy, kv=KV_FLANGE):
    """Return Cv2 (G2.2), of an outstanding flange unless kv is said (G6)."""
    return first_of(
        (yields_in_shear, yielding_coefficient),
        (buckles_inelastically_in_shear, inelastic_coefficient),
        otherwise=elastic_coefficient,
        lambda_v=lambda_v,
        kv=kv,
        E=E,
        Fy=Fy,
    )


@formula("G1", "Vc")
def design_shear(phi_v, Vn):
    """Design strength in shear (LRFD)."""
    return phi_v * Vn


@formula("G1", "Vc")
def allowable_shear(Vn, Omega_v):
    """Allowable strength in shear (ASD)."""
    return Vn / Omega_v
