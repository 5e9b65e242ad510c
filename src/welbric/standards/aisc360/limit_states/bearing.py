"""Concentrated forces on the web of a member: what its strength against them is (J10)."""

from __future__ import annotations

import functools
from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b3, b4, e3, g2, j4_j7, j10
from welbric.standards.aisc360.design import E, available
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import Bearing, BearingPair, Check
from welbric.working import apply, either, first_of, given, heading, note

YIELD_LEVEL = {"LRFD": 1.0, "ASD": 1.5}  # on the moment that J10.4 compares with My
SHAPES = ("rolled I", "tapered I", "welded I", "unequal I", "channel", "tapered channel")


def checks(of: Bearing) -> list[Callable[[Bearing], Check]]:
    """Return the limit states of the web under a force that presses it."""
    if of.shape not in SHAPES:
        return [not_covered]
    if of.stiffeners is not None:
        limits = [stiffener_column, stiffener_slenderness]
        limits += [] if of.pulls else [stiffener_contact]
        return [functools.partial(limit, of.stiffeners) for limit in limits]
    if of.pulls:
        return [flange_bending, yielding]
    found: list[Callable[[Bearing], Check]] = [yielding, crippling]
    if of.both_flanges:
        found.append(buckling)
    if of.unbraced > 0 and not of.held_from_turning:
        found.append(sidesway)
    return found


def not_covered(of: Bearing) -> Check:
    """Return a check that is outside."""
    reason = f"J10 is for webs of I-shapes and channels; this is a {of.shape}"
    U = np.where(np.asarray(of.force) > 0, np.nan, 0.0)
    if np.ndim(U) == 0:
        note(f"Outside: {reason}.")
    head = ("concentrated force", "J10", of.force, None, U, "force", "V_major")
    return Check(*head, reason=reason)


def _clear(of: Bearing) -> Any:
    s = of.section
    if of.shape == "unequal I":
        return s.d - s.tf_top - s.tf_bottom
    return b4.clear_web_depth(s.d, s.tf, s.properties.get("r", 0.0))


def _flange(of: Bearing) -> tuple[float, float]:
    """Return the width and the thickness of the flange under the force."""
    s = of.section
    if of.shape != "unequal I":
        return s.bf, s.tf
    return (s.bf_bottom, s.tf_bottom) if of.bottom else (s.bf_top, s.tf_top)


def _check(of: Bearing, name: str, clause: str, Rn: Any, safety: tuple[float, float]) -> Check:
    pair = (j10.design_force, j10.allowable_force)
    Rc = available(of.method, Rn, *pair, *safety)
    Rr = given(GLOSSARY, "Rr", of.force, of.source)
    U = b3.force_utilisation(Rr, Rc)
    return Check(name, clause, Rr, Rc, U, "force", "V_major")


def _symbols(of: Bearing) -> dict[str, Any]:
    s = of.section
    l_b = given(GLOSSARY, "l_b", of.length, "bearing length, given")
    x_f = given(GLOSSARY, "x_f", of.from_end, "from the member's end")
    return {
        "Fy": of.Fy, "tw": s.tw, "tf": _flange(of)[1], "d": s.d, "bf": _flange(of)[0], "E": E,
        "l_b": l_b, "x_f": x_f,
    }  # fmt: skip


def flange_bending(of: Bearing) -> Check:
    """J10.1."""
    heading("Flange local bending", "J10.1")
    branches = (j10.is_ten_flanges_inside, j10.flange_bending, j10.flange_bending_at_end)
    Rn = either(*branches, **_symbols(of))
    return _check(of, "flange local bending", "J10.1", Rn, j10.FLANGE)


def _stiffener_steel(of: Bearing, pair: BearingPair) -> float:
    return of.Fy if pair.Fy is None else min(of.Fy, pair.Fy)


def _sizes(pair: BearingPair) -> tuple[Any, Any]:
    words = "given with the member"
    b_st = given(GLOSSARY, "b_st", pair.width, words)
    return b_st, given(GLOSSARY, "t_st", pair.thickness, words)


def stiffener_column(pair: BearingPair, of: Bearing) -> Check:
    """J10.8."""
    heading("Bearing stiffeners as a column", "J10.8")
    tw = of.section.tw
    b_st, t_st = _sizes(pair)
    half = 25 * tw / 2
    inside = of.from_end >= half
    l_w = j10.strip_inside(tw) if inside else j10.strip_at_end(tw)
    Ag = j10.stiffener_area(b_st, t_st, l_w, tw)
    r = j10.stiffener_radius(j10.stiffener_inertia(b_st, t_st, l_w, tw), Ag)
    Lc = j10.stiffener_length(_clear(of))
    Fy = _stiffener_steel(of, pair)
    Rn = either(j4_j7.is_stocky, j4_j7.stocky_column, _buckling_column, Lc=Lc, r=r, Fy=Fy, Ag=Ag)
    return _check(of, "bearing stiffeners, column", "J10.8", Rn, j10.COLUMN)


def _buckling_column(Fy: Any, Ag: Any, Lc: Any, r: Any) -> Any:
    Fn = e3.nominal_stress(Fy, e3.flexural_buckling_stress(E, Lc, r))
    return j4_j7.buckling_column(Fn, Ag)


def stiffener_slenderness(pair: BearingPair, of: Bearing) -> Check:
    """Table B4.1a, so that the stiffeners do not buckle locally as a column."""
    heading("Slenderness of the bearing stiffeners", "Table B4.1a")
    b_st, t_st = _sizes(pair)
    limit = g2.slenderness_limit(E, _stiffener_steel(of, pair))
    acts = np.asarray(of.force) > 0
    U = np.where(acts, b4.slenderness_of_stiffener(b_st, t_st, limit), 0.0)
    head = ("bearing stiffeners, slenderness", "Table B4.1a", None, None, U)
    return Check(*head, "number", "V_major")


def stiffener_contact(pair: BearingPair, of: Bearing) -> Check:
    """J7."""
    heading("Bearing stiffeners in contact with the flange", "J7")
    b_st, t_st = _sizes(pair)
    t_clip = given(GLOSSARY, "t_clip", pair.clip, "given with the member")
    A_pb = j4_j7.contact_area(b_st, t_clip, t_st)
    Rn = j4_j7.contact(_stiffener_steel(of, pair), A_pb)
    return _check(of, "bearing stiffeners, contact", "J7", Rn, j10.CONTACT)


def yielding(of: Bearing) -> Check:
    """J10.2."""
    heading("Web local yielding", "J10.2")
    s = of.section
    k_des = j10.fillet_depth(_flange(of)[1], s.properties.get("r", 0.0))
    branches = (j10.is_inside, j10.yielding_inside, j10.yielding_at_end)
    Rn = either(*branches, **_symbols(of), k_des=k_des)
    return _check(of, "web local yielding", "J10.2", Rn, j10.YIELDING)


def crippling(of: Bearing) -> Check:
    """J10.3."""
    heading("Web local crippling", "J10.3")
    Rn = first_of(
        (j10.is_half_a_depth_inside, j10.crippling_inside),
        (j10.is_short, j10.crippling_at_end),
        otherwise=j10.crippling_at_end_long,
        **_symbols(of),
    )
    return _check(of, "web local crippling", "J10.3", Rn, j10.CRIPPLING)


def sidesway(of: Bearing) -> Check:
    """J10.4, the loaded flange not held from turning."""
    heading("Web sidesway buckling", "J10.4")
    symbols = _symbols(of) | {"h": _clear(of), "Lb": of.unbraced}
    if np.ndim(of.force) == 0:
        C_r = given(GLOSSARY, "C_r", j10.CR[not of.yields], "J10.4, by the moment at the force")
        Rn = first_of((j10.sways, j10.sidesway_strength), otherwise=_none, **symbols, C_r=C_r)
    else:
        C_r = np.where(np.asarray(of.yields), j10.CR[False], j10.CR[True])
        needed = j10.sways.fn(symbols["h"], symbols["tw"], of.unbraced, symbols["bf"])
        strength = apply(j10.sidesway_strength, symbols | {"C_r": C_r})
        Rn = np.where(needed, strength, np.inf)
    return _check(of, "web sidesway buckling", "J10.4", Rn, j10.SIDESWAY)


def _none() -> float:
    return float("inf")


def buckling(of: Bearing) -> Check:
    """J10.5."""
    heading("Web compression buckling", "J10.5")
    Rn = either(
        j10.is_half_a_depth_inside,
        j10.compression_buckling,
        j10.compression_buckling_at_end,
        **_symbols(of),
        h=_clear(of),
    )
    return _check(of, "web compression buckling", "J10.5", Rn, j10.BUCKLING)
