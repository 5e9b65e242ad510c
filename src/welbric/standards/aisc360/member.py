"""The limit states of a member to AISC 360-22, in the order of a hand calculation.

This is the standard's door: it takes a `MemberCase` in Welbric's words, maps the axes to the
standard's letters, and answers with a `Check` for each limit state of its kind of shape. Every
function here runs over arrays, and on single numbers inside a `Working`.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Mapping
from importlib import import_module
from typing import Any

import numpy as np

from welbric.standards.aisc360 import (
    appendix_8,
    chapter_d,
    chapter_e,
    chapter_h,
    pins,
    tension,
)
from welbric.standards.aisc360.design import (
    METHODS,
    E,
    Family,
    G,
    Limit,
    available,
    effective_length_major,
    effective_length_minor,
    flexure,
    moment_shape_factor,
)
from welbric.standards.aisc360.symbols import GLOSSARY, formula
from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.working import either, given, heading, holds, note

__all__ = ["CHECKS", "METHODS", "SHAPES", "E", "G", "checks", "moment_shape_factor"]

FAMILIES = {  # shape: module and name of its family, imported when it is first needed
    "rolled I": "i_families.EQUAL",
    "tapered I": "i_families.EQUAL",
    "welded I": "i_families.WELDED",
    "unequal I": "i_families.UNEQUAL",
    "plated I": "i_families.COVERED",
    "capped I": "i_families.COVERED",
    "channel": "channels.CHANNEL",
    "tapered channel": "channels.CHANNEL",
    "double channel": "double_channels.DOUBLE_CHANNEL",
    "rectangular tube": "hollow.RECTANGULAR",
    "welded box": "hollow.BOX",
    "round tube": "hollow.ROUND",
    "tee": "tees.TEE",
    "tapered tee": "tees.TEE",
    "double angle": "tees.PAIR",
    "angle": "angles.ANGLE",
    "outline": "outlines.OUTLINE",
    "flat bar": "bars.FLAT",
    "round bar": "bars.ROUND",
}
SHAPES = tuple(FAMILIES)


def family(shape: str) -> Family:
    """Return how a kind of shape is verified."""
    module, name = FAMILIES[shape].split(".")
    found: Family = getattr(import_module(f"welbric.standards.aisc360.{module}"), name)
    return found


@formula("B3", "U")
def axial_utilisation(Pr, Pc):
    """Required over available axial strength."""
    return Pr / Pc


@formula("B3", "U")
def flexural_utilisation(Mr, Mc):
    """Required over available flexural strength."""
    return Mr / Mc


@formula("B3", "U")
def shear_utilisation(Vr, Vc):
    """Required over available shear strength."""
    return Vr / Vc


@formula("B3", "U")
def torsional_utilisation(Tr, Tc):
    """Required over available torsional strength."""
    return Tr / Tc


def _not_covered(name: str, clause: str, demand: Any, kind: str, effect: str, why: str) -> Check:
    """Return a check that is outside wherever something acts."""
    U = np.where(np.asarray(demand) > 0, np.nan, 0.0)
    if np.ndim(U) == 0 and np.isnan(U):
        note(f"Outside: {why}.")
    return Check(name, clause, demand, None, U, kind, effect, np.isnan(U), why)


# Tension


def tension_yielding(case: MemberCase) -> Check:
    """D2(a)."""
    required = given(GLOSSARY, "Pr", case.demand.tension, "largest tension of the segment")
    Pc = tension_yielding_strength(case)
    U = axial_utilisation(required, Pc)
    return Check("tensile yielding", "D2(a)", required, Pc, U, "force", "tension")


@once_per_case
def tension_yielding_strength(case: MemberCase) -> Any:
    """Return the available strength in yielding."""
    heading("Strength in yielding of the gross section", "D2(a)")
    Pn = chapter_d.tensile_yielding(case.Fy, case.section.A)
    return available(
        case.method,
        Pn,
        chapter_d.design_tension,
        chapter_d.allowable_tension,
        chapter_d.PHI_YIELDING,
        chapter_d.OMEGA_YIELDING,
    )


def tension_rupture(case: MemberCase) -> Check:
    """D2(b)."""
    required = given(GLOSSARY, "Pr", case.demand.tension, "largest tension of the segment")
    if case.pin is not None or case.eyebar is not None:  # D5 and D6 take its place
        return Check("tensile rupture", "D2(b)", required, None, 0.0, "force", "tension")
    if tension.net_area(case) is None or tension.shear_lag_factor(case) is None:
        reason = "the net area and the shear lag factor U of the connection are not given"
        if case.connection is not None:
            reason = "Table D3.1 has none for this, or so few bolts: give eccentricity and length"
        return _not_covered("tensile rupture", "D2(b)", required, "force", "tension", reason)
    Pc = tension_rupture_strength(case)
    U = axial_utilisation(required, Pc)
    return Check("tensile rupture", "D2(b)", required, Pc, U, "force", "tension")


@once_per_case
def tension_rupture_strength(case: MemberCase) -> Any:
    """Return the available strength in rupture of the net section."""
    heading("Strength in rupture of the net section", "D2(b)")
    An, U_l = tension.net_area(case), tension.shear_lag_factor(case)
    Ae = chapter_d.effective_net_area(An, U_l)
    return available(
        case.method,
        chapter_d.tensile_rupture(case.Fu, Ae),
        chapter_d.design_tension,
        chapter_d.allowable_tension,
        chapter_d.PHI_RUPTURE,
        chapter_d.OMEGA_RUPTURE,
    )


# Compression


@once_per_case
def major_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the major axis."""
    heading("Strength in flexural buckling about the major axis", "E3")
    Lc = effective_length_major(case)
    Fe = chapter_e.flexural_buckling_stress(E, Lc, case.section.r_major)
    return family(case.shape).compression(case, chapter_e.nominal_stress(case.Fy, Fe))


@once_per_case
def minor_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about the minor axis."""
    heading("Strength in flexural buckling about the minor axis", "E3")
    Lc = effective_length_minor(case)
    Fe = chapter_e.flexural_buckling_stress(E, Lc, case.section.r_minor)
    return family(case.shape).compression(case, chapter_e.nominal_stress(case.Fy, Fe))


USUAL_FLEXURAL = (
    Limit("flexural buckling, major axis", "E3", major_buckling_strength),
    Limit("flexural buckling, minor axis", "E3", minor_buckling_strength),
)


def _compressive(of: Family) -> tuple[Limit, ...]:
    usual = (of.flexural or USUAL_FLEXURAL) + ((of.torsional,) if of.torsional else ())
    return usual + of.compressive


def _lowest(case: MemberCase, limits: tuple[Limit, ...]) -> Any:
    """Return the lowest strength of the limit states that apply."""
    lowest: Any = np.inf
    for limit in limits:
        if limit.applies is None:
            lowest = np.minimum(lowest, limit.strength(case))
        elif np.any(applies := limit.applies(case)):
            lowest = np.where(applies, np.minimum(lowest, limit.strength(case)), lowest)
    return lowest if np.ndim(lowest) else float(lowest)


@once_per_case
def compressive_strength(case: MemberCase) -> Any:
    """Return the lowest available compressive strength."""
    return _lowest(case, _compressive(family(case.shape)))


def _compression_not_covered(of: Family, case: MemberCase) -> tuple[Any, str]:
    """Return where compression is outside, and why."""
    if case.lateral_offset is not None and not of.compressive:
        why = "restraint off the shear centre is covered for I-shapes with equal flanges (E4(d))"
        return np.asarray(True), why
    return (np.asarray(False), "") if of.uncompressed is None else of.uncompressed(case)


def _compression_check(limit: Limit, case: MemberCase) -> Check:
    of = family(case.shape)
    required = given(GLOSSARY, "Pr", case.demand.compression, "largest compression of the member")
    mask, reason = _compression_not_covered(of, case)
    applies = True if limit.applies is None else limit.applies(case)
    if not np.any(applies):
        return Check(limit.name, limit.clause_of(case), required, None, 0.0, "force", "compression")
    Pc = limit.strength(case)
    U = np.where(applies, axial_utilisation(required, Pc), 0.0)
    U = np.where(np.asarray(mask) & (np.asarray(required) > 0), np.nan, U)
    head = (limit.name, limit.clause_of(case), required, Pc, U, "force", "compression")
    return Check(*head, reason=reason)


# Flexure


def _bending_not_covered(of: Family, case: MemberCase) -> tuple[Any, str]:
    """Return where bending about the major axis is outside, and why."""
    return (np.asarray(False), "") if of.outside is None else of.outside(case)


def _minor_not_covered(of: Family, case: MemberCase) -> tuple[Any, str]:
    """Return where bending about the minor axis is outside, and why."""
    if not of.minor:
        return np.asarray(True), of.not_minor
    mask, reason = _bending_not_covered(of, case)
    s = case.section
    # F6 has no lateral-torsional buckling: the axis is taken to be the less stiff one.
    stiffer = np.asarray(s.I_minor > s.I_major * (1 + 1e-6)) & (case.shape not in WIDE)
    if np.any(stiffer):
        reason = "the y axis is the stiffer one: buckling sideways about it is not covered"
    # What is too slender for bending is so about one axis; a round tube has one for both, and of
    # an outline nothing is known about either.
    both = case.shape in ("round tube", "outline") or case.geometric
    return stiffer | (np.asarray(mask) & both), reason


WIDE = ("rectangular tube", "round tube", "welded box", "flat bar", "round bar")


@once_per_case
def required_moments(case: MemberCase) -> tuple[Any, Any]:
    """Return the required moments about the axes of the strengths.

    For a single angle they are principal axes: each geometric moment counts in both, whatever its
    sense.
    """
    d = case.demand
    if not family(case.shape).principal:
        return d.M_major, d.M_minor
    if case.geometric:
        return np.maximum(d.M_max, d.M_major), d.M_minor
    s = case.section
    cos, sin = np.abs(np.cos(s.angle)), np.abs(np.sin(s.angle))
    about_x = np.maximum(d.M_max, d.M_major)
    major, minor = about_x * cos + d.M_minor * sin, about_x * sin + d.M_minor * cos
    return (major, minor) if np.ndim(major) else (float(major), float(minor))


def _major_check(limit: Limit, case: MemberCase) -> Check:
    of = family(case.shape)
    source = "largest major-axis moment of the segment"
    if of.principal:
        axis = "x axis" if case.geometric else "major principal axis"
        source = f"largest moment about the {axis}"
    Mr = given(GLOSSARY, "Mr", required_moments(case)[0], source)
    mask, reason = _bending_not_covered(of, case)
    applies = True if limit.applies is None else limit.applies(case)
    Mc = limit.strength(case)
    U = np.where(applies, flexural_utilisation(Mr, Mc), 0.0)
    outside = np.asarray(mask) & (np.asarray(Mr) > 0) & np.asarray(applies)
    U = np.where(outside, np.nan, U)
    head = (limit.name, limit.clause_of(case), Mr, Mc, U, "moment", "M_major")
    return Check(*head, outside=outside, reason=reason)


def _minor_check(limit: Limit, case: MemberCase) -> Check:
    of = family(case.shape)
    source = "largest minor-axis moment of the member"
    if of.principal:
        source = "largest moment about the minor principal axis"
    Mr = given(GLOSSARY, "Mr", required_moments(case)[1], source)
    mask, reason = _minor_not_covered(of, case)
    Mc = limit.strength(case)
    outside = np.asarray(mask) & (np.asarray(Mr) > 0)
    U = np.where(outside, np.nan, flexural_utilisation(Mr, Mc))
    effect = "M_major" if of.principal else "M_minor"
    return Check(limit.name, limit.clause_of(case), Mr, Mc, U, "moment", effect, outside, reason)


def _no_minor(case: MemberCase) -> Check:
    why = family(case.shape).not_minor
    Mr = case.demand.M_minor
    return _not_covered("bending, minor axis", "F12", Mr, "moment", "M_minor", why)


@once_per_case
def flexural_strength_major(case: MemberCase) -> Any:
    """Return the lowest available strength about the major axis."""
    return _lowest(case, family(case.shape).major)


@once_per_case
def flexural_strength_minor(case: MemberCase) -> Any:
    """Return the lowest available strength about the minor axis."""
    return _lowest(case, family(case.shape).minor)


# Shear and torsion


def _shear_check(limit: Limit, axis: str, case: MemberCase) -> Check:
    of, d = family(case.shape), case.demand
    effect = f"V_{axis}"
    Vr = getattr(d, effect)
    words = "largest shear along the web" if axis == "major" else "largest shear along the flanges"
    apart = case.stiffeners is not None and case.stiffeners.ends_differ
    if axis == "major" and apart and of.shear_ends is not None:
        Vr, words = d.V_inside, "largest shear along the web, but for the panels next to the ends"
        effect = "V_inside"
    if of.resultant:
        Vr, words = np.hypot(d.V_major, d.V_minor), "largest shear, both directions together"
    Vr = given(GLOSSARY, "Vr", Vr, words)
    Vc = limit.strength(case)
    U = shear_utilisation(Vr, Vc)
    return Check(limit.name, limit.clause_of(case), Vr, Vc, U, "force", effect)


def _ends_check(limit: Limit, case: MemberCase) -> Check:
    Vr = case.demand.V_ends
    apart = case.stiffeners is not None and case.stiffeners.ends_differ
    if not apart:
        return Check(limit.name, limit.clause_of(case), Vr, None, 0.0, "force", "V_ends")
    Vr = given(GLOSSARY, "Vr", Vr, "largest shear in the panels next to the ends")
    Vc = limit.strength(case)
    return Check(
        limit.name, limit.clause_of(case), Vr, Vc, shear_utilisation(Vr, Vc), "force", "V_ends"
    )


def _no_shear(axis: str, case: MemberCase) -> Check:
    name = "shear" if axis == "major" else "shear across"
    why = f"Chapter G has no clause for the shear of a {case.shape}"
    Vr = getattr(case.demand, f"V_{axis}")
    return _not_covered(name, "G1", Vr, "force", f"V_{axis}", why)


def _torsion_check(limit: Limit, case: MemberCase) -> Check:
    Tr = given(GLOSSARY, "Tr", case.demand.torsion, "largest torsional moment of the segment")
    Tc = limit.strength(case)
    U = torsional_utilisation(Tr, Tc)
    return Check(limit.name, limit.clause_of(case), Tr, Tc, U, "moment", "torsion")


def _no_torsion(case: MemberCase) -> Check:
    why = f"torsion of a {case.shape} is not covered: H3.1 is for hollow sections"
    return _not_covered("torsion", "H3", case.demand.torsion, "moment", "torsion", why)


# Combined forces


@once_per_case
def squash_load(case: MemberCase) -> Any:
    """Return the compressive strength of the cross-section, nominal (C2.3)."""
    Pc = family(case.shape).compression(case, case.Fy)
    return Pc / chapter_e.PHI if case.method == "LRFD" else Pc * chapter_e.OMEGA


def _second_order(case: MemberCase, axis: str, M: Any) -> Any:
    """Return the moment about an axis with its second-order effects (Appendix 8)."""
    d, s = case.demand, case.section
    major = axis == "major"
    if case.second_order_included:
        return M
    heading(f"Second-order moment about the {axis} axis", "Appendix 8")
    alpha = given(GLOSSARY, "alpha", appendix_8.ALPHA[case.method], f"{case.method}, C2.1")
    I = s.I_major if major else s.I_minor
    if case.reduced_stiffness:
        Pns = given(GLOSSARY, "Pns", squash_load(case), "Fy on the effective area (E7)")
        I = appendix_8.softened(alpha, d.compression, Pns, I)
    if case.sways_major if major else case.sways_minor:
        Lc1 = effective_length_major(case) if major else effective_length_minor(case)
        return appendix_8.second_order_sway_moment(E, I, Lc1, d.compression, M, alpha)
    Lc1 = case.length_major if major else case.length_minor
    given(GLOSSARY, "Lc1", Lc1, f"unbraced length, {axis} axis, ends held in position")
    if case.loaded_major if major else case.loaded_minor:
        Cm = given(GLOSSARY, "Cm", 1.0, "loads act between the ends (A-8.2.1)")
    else:
        Cm = appendix_8.end_moment_factor(d.end_ratio_major if major else d.end_ratio_minor)
    return appendix_8.second_order_moment(E, I, Lc1, d.compression, M, alpha, Cm)


def _several(*effects: Any) -> Any:
    """Return where two or more of the effects act together."""
    acting: Any = 0
    for effect in effects:
        acting = acting + (np.asarray(effect) > 0)
    return acting >= 2


def _interaction(of: Family, *forces: Any) -> tuple[str, Any]:
    if of.principal:
        return "H2", chapter_h.stresses_added(*forces)
    return "H1", chapter_h.interaction(*forces)


def _combined_outside(of: Family, case: MemberCase, Mrx: Any, Mry: Any) -> tuple[Any, str]:
    """Return where a part of the interaction is outside, and why."""
    major, why_major = _bending_not_covered(of, case)
    minor, why_minor = _minor_not_covered(of, case)
    mask = (np.asarray(major) & (np.asarray(Mrx) > 0)) | (np.asarray(minor) & (np.asarray(Mry) > 0))
    by_minor = np.any(np.asarray(minor) & (np.asarray(Mry) > 0))
    return mask, why_minor if by_minor else why_major


def compression_and_bending(case: MemberCase) -> Check:
    """H1.1, or by choice H1.3 where it applies and is the more favourable; H2 for angles."""
    d, of = case.demand, family(case.shape)
    Pr = given(GLOSSARY, "Pr", d.compression, "largest compression of the member")
    Pc = compressive_strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mx, My = required_moments(case)
    Mrx, Mry = _second_order(case, "major", Mx), _second_order(case, "minor", My)
    mask, reason = _combined_outside(of, case, Mx, My)
    alone, why = _compression_not_covered(of, case)
    if np.any(alone):
        alone = np.asarray(alone) & (np.asarray(d.compression) > 0)
        mask, reason = mask | alone, why if np.any(alone) else reason
    if of.flexural and case.one_leg is not None:
        # The eccentricity is in the slenderness of E5; bending beside it is not.
        mask = mask | _several(Mx + My, d.compression)
        reason = "E5 is for axial force alone; bending besides is outside"
    heading("Interaction", "H2" if of.principal else "H1.1")
    letter, U = _interaction(of, Pr, Pc, Mrx, Mcx, Mry, Mcy)
    clause = "H2" if letter == "H2" else "H1.1"
    if case.separate_planes and case.shape == "rolled I":
        U = chapter_h.more_favourable(U, _separate_planes(case, Pr, Mrx, Mry, Mcy, U))
        clause = "H1.3"
    together = _several(d.compression, Mx, My)
    return _combined("compression and bending", clause, U, together, mask, reason, "M_major")


def _separate_planes(case: MemberCase, Pr: Any, Mrx: Any, Mry: Any, Mcy: Any, H1_1: Any) -> Any:
    """Return the ratio of H1.3 where it applies, else that of H1.1."""
    from welbric.standards.aisc360 import i_bending, i_shapes

    heading("In-plane and out-of-plane verified apart", "H1.3")
    Mcx_in_plane = np.minimum(
        i_bending.yielding_strength(case), i_bending.flange_buckling_strength(case)
    )
    in_plane = chapter_h.interaction(Pr, major_buckling_strength(case), Mrx, Mcx_in_plane, 0.0, Mcy)
    Cb = moment_shape_factor(case)
    with_Cb_1 = flexure(case, i_bending.nominal_lateral_torsional(case, 1.0))
    out = chapter_h.interaction_out_of_plane(Pr, minor_buckling_strength(case), Mrx, Cb, with_Cb_1)
    compact = i_shapes.flange_slenderness(case) <= i_bending.flange_limits(case)[0]
    short = case.K_torsion * case.length_torsion <= case.K_minor * case.length_minor
    one_plane = holds(chapter_h.bends_in_one_plane, Mry=Mry, Mcy=Mcy)
    applies = np.asarray(one_plane) & np.asarray(compact) & np.asarray(short)
    if np.ndim(applies) == 0 and not applies:
        note("H1.3 does not apply here; the ratio of H1.1 stands.")
        return H1_1
    return np.where(applies, chapter_h.planes_apart(in_plane, out), H1_1)


@once_per_case
def tensile_strength(case: MemberCase) -> Any:
    """Return the lowest available tensile strength."""
    Pc = tension_yielding_strength(case)
    if tension.net_area(case) is not None and tension.shear_lag_factor(case) is not None:
        Pc = np.minimum(Pc, tension_rupture_strength(case))
    if case.pin is not None:
        Pc = np.minimum(Pc, pins.lowest(case))
    return Pc


def tension_and_bending(case: MemberCase) -> Check:
    """H1.2; H2 for angles."""
    d, of = case.demand, family(case.shape)
    Pr = given(GLOSSARY, "Pr", d.tension, "largest tension of the segment")
    Pc = tensile_strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mx, My = required_moments(case)
    mask, reason = _combined_outside(of, case, Mx, My)
    heading("Interaction", "H2" if of.principal else "H1.2")
    letter, U = _interaction(of, Pr, Pc, Mx, Mcx, My, Mcy)
    together = _several(d.tension, Mx, My) & (np.asarray(d.tension) > 0)
    clause = "H2" if letter == "H2" else "H1.2"
    return _combined("tension and bending", clause, U, together, mask, reason, "tension")


def _combined(
    name: str, clause: str, U: Any, together: Any, outside: Any, reason: str, effect: str
) -> Check:
    outside = np.asarray(outside) & together
    U = np.where(outside, np.nan, np.where(together, U, 0.0))
    return Check(name, clause, None, None, U, "number", effect, outside, reason)


def with_torsion(case: MemberCase) -> Check:
    """H3.2, where torsion is more than a fifth of its strength."""
    d, of = case.demand, family(case.shape)
    if of.torsion is None or of.shear_major is None:
        return _no_torsion(case)
    Tr, Tc = given(GLOSSARY, "Tr", d.torsion, "of the segment"), of.torsion.strength(case)
    Mcx, Mcy = flexural_strength_major(case), flexural_strength_minor(case)
    Mx, My = required_moments(case)
    axial: Any = 0.0
    Pr: Any = d.compression
    Pc = compressive_strength(case)
    if np.any(np.asarray(d.tension) > 0):
        pulled = np.asarray(d.tension) / tensile_strength(case) > np.asarray(Pr) / Pc
        Pr = np.where(pulled, d.tension, Pr)
        Pc = np.where(pulled, tensile_strength(case), Pc)
    Mrx, Mry = _second_order(case, "major", Mx), _second_order(case, "minor", My)
    Vr, Vc = d.V_major, of.shear_major.strength(case)
    if of.shear_minor is not None:
        other = of.shear_minor.strength(case)
        Vr = np.where(d.V_minor / other > Vr / Vc, d.V_minor * Vc / other, Vr)
    else:
        Vr = np.hypot(d.V_major, d.V_minor)
    mask, reason = _combined_outside(of, case, Mx, My)
    heading("Interaction with torsion", "H3.2")
    symbols = {
        "Pr": Pr, "Pc": Pc, "Mrx": Mrx, "Mcx": Mcx, "Mry": Mry, "Mcy": Mcy,
        "Vr": Vr, "Vc": Vc, "Tr": Tr, "Tc": Tc, "U_1": axial,
    }  # fmt: skip
    symbols = {k: v if np.ndim(v) else float(v) for k, v in symbols.items()}
    U = either(
        chapter_h.torsion_is_small,
        chapter_h.torsion_left_out,
        chapter_h.with_torsion,
        **symbols,
    )
    acting = np.asarray(d.torsion) > 0
    return _combined("forces with torsion", "H3.2", U, acting, mask, reason, "torsion")


@functools.cache
def checks(shape: str) -> Mapping[str, Callable[[MemberCase], Check]]:
    """Return the checks of a kind of shape, by name, in the order of a hand calculation."""
    of = family(shape)
    found: dict[str, Callable[[MemberCase], Check]] = {
        "tensile yielding": tension_yielding,
        "tensile rupture": tension_rupture,
    }
    for limit in _compressive(of):
        found[limit.name] = functools.partial(_compression_check, limit)
    for limit in of.major:
        found[limit.name] = functools.partial(_major_check, limit)
    for limit in of.minor:
        found[limit.name] = functools.partial(_minor_check, limit)
    if not of.minor:
        found["bending, minor axis"] = _no_minor
    for axis, shear in (("major", of.shear_major), ("minor", of.shear_minor)):
        if shear is not None:
            found[shear.name] = functools.partial(_shear_check, shear, axis)
        elif not of.resultant:
            found["shear" if axis == "major" else "shear across"] = functools.partial(
                _no_shear, axis
            )
    if of.shear_ends is not None:
        found[of.shear_ends.name] = functools.partial(_ends_check, of.shear_ends)
    found |= of.more
    found["compression and bending"] = compression_and_bending
    found["tension and bending"] = tension_and_bending
    if of.torsion is None:
        found["torsion"] = _no_torsion
    else:
        found["torsion"] = functools.partial(_torsion_check, of.torsion)
        found["forces with torsion"] = with_torsion
    return found


CHECKS = checks("rolled I")


def _web_shear(case: MemberCase) -> Any:
    """Return the available shear strength along the web."""
    limit = family(case.shape).shear_major
    return np.nan if limit is None else limit.strength(case)


AVAILABLE: Mapping[str, Callable[[MemberCase], Any]] = {
    "bending": flexural_strength_major,
    "compression": compressive_strength,
    "shear": _web_shear,
}


def not_covered(what: str, case: MemberCase) -> tuple[Any, str]:
    """Return where bending or compression of a case is outside, and why."""
    of = family(case.shape)
    if what == "bending":
        return _bending_not_covered(of, case)
    return _compression_not_covered(of, case) if what == "compression" else (False, "")
