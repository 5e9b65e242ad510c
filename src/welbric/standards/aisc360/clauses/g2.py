"""G2: webs of I-shapes and channels, with and without stiffeners."""

from __future__ import annotations

from numpy import maximum, sqrt

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


@condition("G2.2")
def panel_is_short(a_s, h):
    """The panel is short enough for tension field action."""
    return a_s / h <= 3


@condition("G2.2(a)")
def panel_yields(lambda_w, kv, E, Fy):
    """The web yields before it buckles."""
    return lambda_w <= 1.10 * sqrt(kv * E / Fy)


@formula("G2-6", "Vn")
def yielding_panel(Fy, Aw):
    """Nominal shear strength of a panel that yields."""
    return 0.6 * Fy * Aw


@condition("G2.2(b)(1)")
def flanges_anchor(Aw, Afc, Aft, h, bfc, bft):
    """The flanges are strong enough to anchor the whole tension field."""
    return (2 * Aw / (Afc + Aft) <= 2.5) & (h / bfc <= 6.0) & (h / bft <= 6.0)


@formula("G2-7", "Vn")
def tension_field(Fy, Aw, Cv2, a_s, h):
    """Nominal shear strength with tension field action."""
    return 0.6 * Fy * Aw * (Cv2 + (1 - Cv2) / (1.15 * sqrt(1 + (a_s / h) ** 2)))


@formula("G2-8", "Vn")
def part_of_tension_field(Fy, Aw, Cv2, a_s, h):
    """Nominal shear strength with a part of the tension field."""
    return 0.6 * Fy * Aw * (Cv2 + (1 - Cv2) / (1.15 * (a_s / h + sqrt(1 + (a_s / h) ** 2))))


@formula("G2.2", "Vn")
def larger_of_both(Vn1, Vn2):
    """The larger of the strengths without and with tension field action."""
    return maximum(Vn1, Vn2)


@formula("G2.3", "Vn2")
def buckling_strength(Fy, Aw, Cv2):
    """Nominal shear strength when the web buckles."""
    return 0.6 * Fy * Aw * Cv2


@formula("G2.3", "I_st")
def inertia_of_pair(t_st, b_st, tw):
    """Second moment of area of a pair of stiffeners, about the middle of the web."""
    return t_st * (2 * b_st + tw) ** 3 / 12


@formula("G2.3", "I_st")
def inertia_of_one(t_st, b_st):
    """Second moment of area of a stiffener on one side, about the face of the web."""
    return t_st * b_st**3 / 3


@formula("G2-12", "lambda_st")
def slenderness_limit(E, Fy_st):
    """Limit of the stiffener's width over thickness."""
    return 0.56 * sqrt(E / Fy_st)


@formula("G2.3", "rho_st")
def steel_ratio(Fy, Fy_st):
    """Yield stress of the web over that of the stiffener, at least 1."""
    return maximum(Fy / Fy_st, 1.0)


@formula("G2-14", "I_st1")
def inertia_for_tension_field(h, rho_st, Fy, E):
    """Second moment of area needed for the whole strength after buckling."""
    return h**4 * rho_st**1.3 / 40 * (Fy / E) ** 1.5


@formula("G2-15", "I_st2")
def inertia_for_buckling(a_s, h, b_p, tw):
    """Second moment of area needed for the strength when the web buckles."""
    return maximum(2.5 / (a_s / h) ** 2 - 2, 0.5) * b_p * tw**3


@formula("G2.3", "rho_w")
def share_after_buckling(Vr, Vc1, Vc2):
    """Share of the strength after buckling that is needed."""
    return maximum((Vr - Vc2) / (Vc1 - Vc2), 0.0)


@formula("G2.3", "rho_w")
def nothing_after_buckling():
    """The web does not go beyond its buckling strength."""
    return 0.0


@condition("G2.3")
def goes_beyond_buckling(Vr, Vc2):
    """The panel is needed beyond its buckling strength."""
    return Vr > Vc2


@formula("G2-13", "U_b")
def stiffness_utilisation(I_st, I_st1, I_st2, rho_w):
    """Second moment of area needed, over that of the stiffener."""
    return (I_st2 + (I_st1 - I_st2) * rho_w) / I_st


@formula("G2.3", "U")
def worse_of_both(U_a, U_b):
    """The worse of the stiffener's slenderness (a) and stiffness (b)."""
    return maximum(U_a, U_b)


@formula("G2-12", "U_a")
def slenderness_utilisation(b_st, t_st, lambda_st):
    """Width over thickness of the stiffener, over its limit."""
    return b_st / t_st / lambda_st


@condition("G2.1(b)(2)")
def stiffeners_are_far(a_s, h):
    """The stiffeners are too far apart to count."""
    return a_s / h > 3


@formula("G2.1(b)(2)", "kv")
def unstiffened_coefficient():
    """Plate buckling coefficient without stiffeners."""
    return 5.34


@formula("G2-5", "kv")
def stiffened_coefficient(a_s, h):
    """Plate buckling coefficient between stiffeners."""
    return 5 + 5 / (a_s / h) ** 2


@formula("G2", "Vc")
def both_shear(Vc1):
    """Available shear strength of both channels."""
    return 2 * Vc1
