"""Shear of I-shapes: the web with its stiffeners (G2), the flanges across (G6)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b4, g2, g3_g6
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import E, Limit, available, pick, shear
from welbric.standards.aisc360.limit_states.i_shapes import (
    clear_depth,
    flange_slenderness,
    is_built_up,
    web_slenderness,
)
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import Check, MemberCase, Stiffening, once_per_case
from welbric.working import either, first_of, given, heading


@once_per_case
def shear_strength(case: MemberCase) -> Any:
    """Return the available shear strength of the web (G2.1)."""
    if case.stiffeners is not None and case.stiffeners.tension_field:
        return inner_strength(case, case.stiffeners)
    return buckling_strength(case, case.stiffeners.spacing if case.stiffeners else None)


@once_per_case
def shear_strength_of_ends(case: MemberCase) -> Any:
    """Return the available shear strength of the panels next to the member's ends (G2.1)."""
    return buckling_strength(case, case.stiffeners.end_panels if case.stiffeners else None)


def buckling_strength(case: MemberCase, distance: float | None) -> Any:
    """Return the available shear strength of a web with stiffeners so far apart (G2.1)."""
    heading("Strength of the web in shear", "G2.1")
    s = case.section
    lambda_w = web_slenderness(case)
    Aw = g2.web_area(s.d, s.tw)
    stocky = g2.web_is_stocky.fn(lambda_w, E, case.Fy)
    if is_built_up(case) or (distance is not None and not np.any(stocky)):
        kv = plate_coefficient(clear_depth(case), distance)
        Cv1 = g2.web_coefficient(lambda_w, E, case.Fy, kv)
        return shear(case, g2.web_shear_strength(case.Fy, Aw, Cv1))
    return either(
        g2.web_is_stocky,
        _stocky_web,
        _other_web,
        lambda_w=lambda_w,
        E=E,
        Fy=case.Fy,
        Aw=Aw,
        method=case.method,
    )


def _stocky_web(Fy: Any, Aw: Any, method: str) -> Any:
    Vn = g2.web_shear_strength(Fy, Aw, g2.stocky_web_coefficient())
    pair = (g2.design_shear, g2.allowable_shear)
    return available(method, Vn, *pair, g2.PHI_STOCKY, g2.OMEGA_STOCKY)


def _other_web(Fy: Any, Aw: Any, lambda_w: Any, E: Any, method: str) -> Any:
    Vn = g2.web_shear_strength(Fy, Aw, g2.web_coefficient(lambda_w, E, Fy))
    pair = (g2.design_shear, g2.allowable_shear)
    return available(method, Vn, *pair, g2.PHI, g2.OMEGA)


@once_per_case
def shear_strength_minor(case: MemberCase) -> Any:
    """Return the available shear strength of the flanges (G6)."""
    heading("Strength of the flanges in shear", "G6")
    s = case.section
    if case.shape == "unequal I":
        total: Any = 0.0
        for bf, tf in ((s.bf_top, s.tf_top), (s.bf_bottom, s.tf_bottom)):
            lambda_f = b4.flange_slenderness(bf, tf)
            Cv2 = g2.buckling_coefficient(lambda_f, E, case.Fy)
            total = total + g3_g6.element_strength(case.Fy, bf * tf, Cv2)
        return shear(case, total)
    Cv2 = g2.buckling_coefficient(flange_slenderness(case), E, case.Fy)
    return shear(case, g3_g6.flange_shear_strength(case.Fy, s.bf, s.tf, Cv2))


# Panels between stiffeners


def plate_coefficient(h: Any, distance: float | None) -> Any:
    """Return kv of a panel with stiffeners so far apart."""
    if distance is None:
        return g2.unstiffened_coefficient()
    a_s = given(GLOSSARY, "a_s", distance, "given with the member")
    return g3_g6.plate_coefficient(a_s, h)


@once_per_case
def buckling_coefficient(case: MemberCase) -> Any:
    """Return Cv2 of an inner panel."""
    distance = case.stiffeners.spacing if case.stiffeners else None
    kv = plate_coefficient(clear_depth(case), distance)
    return g2.buckling_coefficient(web_slenderness(case), E, case.Fy, kv)


def inner_strength(case: MemberCase, panels: Stiffening) -> Any:
    """Return the available shear strength of an inner panel (G2.2)."""
    s, h = case.section, clear_depth(case)
    heading("Strength of the inner panels in shear, with tension field action", "G2.2")
    lambda_w, Aw = web_slenderness(case), g2.web_area(s.d, s.tw)
    kv = plate_coefficient(h, panels.spacing)
    a_s = panels.spacing
    Cv1 = g2.web_coefficient(lambda_w, E, case.Fy, kv)
    Vn1 = g2.web_shear_strength(case.Fy, Aw, Cv1)
    Cv2 = buckling_coefficient(case)
    bf = [s.bf_top, s.bf_bottom] if case.shape == "unequal I" else [s.bf, s.bf]
    tf = [s.tf_top, s.tf_bottom] if case.shape == "unequal I" else [s.tf, s.tf]
    top = case.segments.top
    bfc, bft = pick(top, bf[0], bf[1]), pick(top, bf[1], bf[0])
    Afc, Aft = bfc * pick(top, tf[0], tf[1]), bft * pick(top, tf[1], tf[0])
    field = {"Fy": case.Fy, "Aw": Aw, "Cv2": Cv2, "a_s": a_s, "h": h}
    Vn2 = first_of(
        (g2.panel_yields, g2.yielding_panel),
        (g2.flanges_anchor, g2.tension_field),
        otherwise=g2.part_of_tension_field,
        lambda_w=lambda_w,
        kv=kv,
        E=E,
        Afc=Afc,
        Aft=Aft,
        bfc=bfc,
        bft=bft,
        **field,
    )
    # Beyond three depths apart, stiffeners bring no tension field.
    Vn2 = either(g2.panel_is_short, _with_field, _without_field, a_s=a_s, h=h, Vn1=Vn1, Vn2=Vn2)
    return shear(case, Vn2)


def _with_field(Vn1: Any, Vn2: Any) -> Any:
    return g2.larger_of_both(Vn1, Vn2)


def _without_field(Vn1: Any) -> Any:
    return Vn1


def transverse_stiffeners(case: MemberCase) -> Check:
    """G2.3."""
    panels, h = case.stiffeners, clear_depth(case)
    Vr = given(GLOSSARY, "Vr", demand(case).V_major, "largest shear along the web")
    name, clause = "transverse stiffeners", "G2.3"
    if panels is None or panels.width is None or panels.thickness is None:
        U = 0.0 * np.asarray(Vr)
        if panels is not None and panels.tension_field:
            U = np.where(np.asarray(Vr) > 0, np.nan, 0.0)
        reason = "tension field action needs the width and the thickness of the stiffeners"
        return Check(name, clause, None, None, U, "number", "V_major", np.isnan(U), reason)
    Vc1 = shear_strength(case)
    heading("Transverse stiffeners", "G2.3")
    b_st = given(GLOSSARY, "b_st", panels.width, "given with the member")
    t_st = given(GLOSSARY, "t_st", panels.thickness, "given with the member")
    a_s, tw = min(panels.spacing, panels.end_panels), case.section.tw
    Fy_st = case.Fy if panels.Fy is None else panels.Fy
    slender = g2.slenderness_utilisation(b_st, t_st, g2.slenderness_limit(E, Fy_st))
    I_st = g2.inertia_of_pair(t_st, b_st, tw) if panels.pairs else g2.inertia_of_one(t_st, b_st)
    I_st1 = g2.inertia_for_tension_field(h, g2.steel_ratio(case.Fy, Fy_st), case.Fy, E)
    I_st2 = g2.inertia_for_buckling(a_s, h, np.minimum(a_s, h), tw)
    Aw = g2.web_area(case.section.d, tw)
    Vc2 = shear(case, g2.buckling_strength(case.Fy, Aw, buckling_coefficient(case)))
    rho_w = either(
        g2.goes_beyond_buckling,
        g2.share_after_buckling,
        g2.nothing_after_buckling,
        Vr=Vr,
        Vc1=Vc1,
        Vc2=Vc2,
    )
    stiff = g2.stiffness_utilisation(I_st, I_st1, I_st2, rho_w)
    U = np.where(np.asarray(Vr) > 0, g2.worse_of_both(slender, stiff), 0.0)
    return Check(name, clause, None, None, U, "number", "V_major")


def clause_of_shear(case: MemberCase) -> str:
    """Return the clause that the shear of the web goes by."""
    return "G2.2" if case.stiffeners is not None and case.stiffeners.tension_field else "G2.1"


SHEAR = Limit("shear, web", clause_of_shear, shear_strength)
ENDS = Limit("shear, end panels", "G2.1", shear_strength_of_ends)
SHEAR_MINOR = Limit("shear, flanges", "G6", shear_strength_minor)
MORE = {"transverse stiffeners": transverse_stiffeners}
