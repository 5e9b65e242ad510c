"""The limit states of a member to AISC 360-22, in the order of a hand calculation.

This is the standard's door: it takes a `MemberCase` in Welbric's words, maps the axes to the
standard's letters, and answers with a `Check` for each limit state of its kind of shape. Every
function here runs over arrays, and on single numbers inside a `Working`.
"""

from __future__ import annotations

import functools
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import b3
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import METHODS, Limit, moment_shape_factor, uncovered
from welbric.standards.aisc360.limit_states import tension
from welbric.standards.aisc360.limit_states.combined import (
    compression_and_bending,
    no_torsion,
    required_moments,
    tension_and_bending,
    with_torsion,
)
from welbric.standards.aisc360.limit_states.strengths import (
    SHAPES,
    bending_not_covered,
    compression_not_covered,
    compressive_limits,
    compressive_strength,
    family,
    flexural_strength_major,
    minor_not_covered,
    tension_rupture_strength,
    tension_yielding_strength,
)
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import Check, MemberCase
from welbric.working import given

__all__ = ["CHECKS", "METHODS", "SHAPES", "checks", "moment_shape_factor"]


# Tension


def tension_yielding(case: MemberCase) -> Check:
    """D2(a)."""
    required = given(GLOSSARY, "Pr", demand(case).tension, "largest tension of the segment")
    Pc = tension_yielding_strength(case)
    U = b3.axial_utilisation(required, Pc)
    return Check("tensile yielding", "D2(a)", required, Pc, U, "force", "tension")


def tension_rupture(case: MemberCase) -> Check:
    """D2(b)."""
    required = given(GLOSSARY, "Pr", demand(case).tension, "largest tension of the segment")
    if case.ends.pin is not None or case.ends.eyebar is not None:  # D5 and D6 take its place
        return Check("tensile rupture", "D2(b)", required, None, 0.0, "force", "tension")
    reason = "the net area and the shear lag factor U of the connection are not given"
    if case.ends.connection is not None:
        reason = "Table D3.1 has none for this, or so few bolts: give eccentricity and length"
        if case.ends.connection.slot is not None:
            reason = "Table D3.1: a tube is joined to its plate over at least its own depth"
    if tension.net_area(case) is None or tension.shear_lag_factor(case) is None:
        return uncovered("tensile rupture", "D2(b)", required, "force", "tension", reason)
    Pc = tension_rupture_strength(case)
    U = b3.axial_utilisation(required, Pc)
    head = ("tensile rupture", "D2(b)", required, Pc, U, "force", "tension")
    return Check(*head, reason=reason)


# Compression


def _compression_check(limit: Limit, case: MemberCase) -> Check:
    of = family(case.shape)
    required = given(GLOSSARY, "Pr", demand(case).compression, "largest compression of the member")
    mask, reason = compression_not_covered(of, case)
    applies = True if limit.applies is None else limit.applies(case)
    if not np.any(applies):
        return Check(limit.name, limit.clause_of(case), required, None, 0.0, "force", "compression")
    Pc = limit.strength(case)
    U = np.where(applies, b3.axial_utilisation(required, Pc), 0.0)
    U = np.where(np.asarray(mask) & (np.asarray(required) > 0), np.nan, U)
    head = (limit.name, limit.clause_of(case), required, Pc, U, "force", "compression")
    return Check(*head, reason=reason)


# Flexure


def _major_check(limit: Limit, case: MemberCase) -> Check:
    of = family(case.shape)
    source = "largest major-axis moment of the segment"
    if of.principal:
        axis = "x axis" if case.geometric else "major principal axis"
        source = f"largest moment about the {axis}"
    Mr = given(GLOSSARY, "Mr", required_moments(case)[0], source)
    mask, reason = bending_not_covered(of, case)
    applies = True if limit.applies is None else limit.applies(case)
    Mc = limit.strength(case)
    U = b3.flexural_utilisation(Mr, Mc)
    if applies is not True:
        U = np.where(applies, U, 0.0)
    outside: Any = False
    if np.any(mask):
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
    mask, reason = minor_not_covered(of, case)
    Mc = limit.strength(case)
    outside = np.asarray(mask) & (np.asarray(Mr) > 0)
    U = np.where(outside, np.nan, b3.flexural_utilisation(Mr, Mc))
    effect = "M_major" if of.principal else "M_minor"
    return Check(limit.name, limit.clause_of(case), Mr, Mc, U, "moment", effect, outside, reason)


def _no_minor(case: MemberCase) -> Check:
    why = family(case.shape).not_minor
    Mr = demand(case).M_minor
    return uncovered("bending, minor axis", "F12", Mr, "moment", "M_minor", why)


# Shear and torsion


def _shear_check(limit: Limit, axis: str, case: MemberCase) -> Check:
    of, d = family(case.shape), demand(case)
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
    U = b3.shear_utilisation(Vr, Vc)
    return Check(limit.name, limit.clause_of(case), Vr, Vc, U, "force", effect)


def _ends_check(limit: Limit, case: MemberCase) -> Check:
    Vr = demand(case).V_ends
    apart = case.stiffeners is not None and case.stiffeners.ends_differ
    if not apart:
        return Check(limit.name, limit.clause_of(case), Vr, None, 0.0, "force", "V_ends")
    Vr = given(GLOSSARY, "Vr", Vr, "largest shear in the panels next to the ends")
    Vc = limit.strength(case)
    return Check(
        limit.name, limit.clause_of(case), Vr, Vc, b3.shear_utilisation(Vr, Vc), "force", "V_ends"
    )


def _no_shear(axis: str, case: MemberCase) -> Check:
    name = "shear" if axis == "major" else "shear across"
    why = f"Chapter G has no clause for the shear of a {case.shape}"
    Vr = getattr(demand(case), f"V_{axis}")
    return uncovered(name, "G1", Vr, "force", f"V_{axis}", why)


def _torsion_check(limit: Limit, case: MemberCase) -> Check:
    Tr = given(GLOSSARY, "Tr", demand(case).torsion, "largest torsional moment of the segment")
    Tc = limit.strength(case)
    U = b3.torsional_utilisation(Tr, Tc)
    return Check(limit.name, limit.clause_of(case), Tr, Tc, U, "moment", "torsion")


@functools.cache
def checks(shape: str) -> Mapping[str, Callable[[MemberCase], Check]]:
    """Return the checks of a kind of shape, by name, in the order of a hand calculation."""
    of = family(shape)
    found: dict[str, Callable[[MemberCase], Check]] = {
        "tensile yielding": tension_yielding,
        "tensile rupture": tension_rupture,
    }
    for limit in compressive_limits(of):
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
        found["torsion"] = no_torsion
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
        return bending_not_covered(of, case)
    return compression_not_covered(of, case) if what == "compression" else (False, "")
