"""What the limit states of every shape share: moduli, safety, lengths, the moment-shape factor."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import e3, f1, g2, h3_h4
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.limit_states import reversed_curvature
from welbric.standards.aisc360.options import by_curvature
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.units import parse
from welbric.working import given, note

E = parse("29000 ksi", "stress")
G = parse("11200 ksi", "stress")
METHODS = ("LRFD", "ASD")

NOT_FALLING = 0.25  # Cb toward a free end, where the moment is nearly uniform

Strength = Callable[[MemberCase], Any]


@dataclass(frozen=True)
class Limit:
    """A limit state: its name, its clause, and the available strength.

    Attributes
    ----------
    applies : callable, optional
        Where the limit state has to be looked at; everywhere where there is none.
    """

    name: str
    clause: str | Callable[[MemberCase], str]
    strength: Strength
    applies: Strength | None = None

    def clause_of(self, case: MemberCase) -> str:
        """Return the clause that a case goes by."""
        return self.clause if isinstance(self.clause, str) else self.clause(case)


@dataclass(frozen=True)
class Family:
    """How a kind of shape is verified.

    Attributes
    ----------
    compression : callable
        (case, Fn) -> available strength at a nominal stress, with what buckles locally (E7).
    torsional : Limit, optional
        Torsional or flexural-torsional buckling (E4).
    major, minor : tuple of Limit
        In bending about each axis; none where the standard does not cover it.
    shear_major, shear_minor : Limit, optional
    torsion : Limit, optional
        In torsion (H3); none where it is outside.
    principal : bool
        Whether bending is resolved into the principal axes, and verified by H2.
    flexural : tuple of Limit
        Flexural buckling about each axis, where it is not E3's about major and minor.
    outside : callable, optional
        Where bending is not covered: case -> (mask, reason).
    not_minor : str
        Why bending about the minor axis is outside, where it is.
    uncompressed : callable, optional
        Where compression is not covered: case -> (mask, reason).
    resultant : bool
        Whether shear acts as the resultant of both directions.
    shear_ends : Limit, optional
        Of the web next to the member's ends, where its panels there are verified apart.
    compressive : tuple of Limit
        Of compression besides.
    more : mapping of str to callable
        Checks besides, by name.
    """

    compression: Callable[[MemberCase, Any], Any]
    torsional: Limit | None
    major: tuple[Limit, ...]
    minor: tuple[Limit, ...]
    shear_major: Limit | None
    shear_minor: Limit | None
    torsion: Limit | None = None
    principal: bool = False
    flexural: tuple[Limit, ...] = ()
    outside: Callable[[MemberCase], tuple[Any, str]] | None = None
    not_minor: str = ""
    uncompressed: Callable[[MemberCase], tuple[Any, str]] | None = None
    resultant: bool = False
    shear_ends: Limit | None = None
    compressive: tuple[Limit, ...] = ()
    more: Mapping[str, Callable[[MemberCase], Check]] = field(default_factory=dict)


def available(method: str, nominal: Any, design: Any, allowable: Any, phi: Any, omega: Any) -> Any:
    """Return design strength (LRFD) or allowable strength (ASD)."""
    return design(phi, nominal) if method == "LRFD" else allowable(nominal, omega)


def compression(case: MemberCase, Pn: Any) -> Any:
    """Return the available compressive strength (E1)."""
    pair = (e3.design_compression, e3.allowable_compression)
    return available(case.method, Pn, *pair, e3.PHI, e3.OMEGA)


def flexure(case: MemberCase, Mn: Any) -> Any:
    """Return the available flexural strength (F1)."""
    pair = (f1.design_flexure, f1.allowable_flexure)
    return available(case.method, Mn, *pair, f1.PHI, f1.OMEGA)


def shear(case: MemberCase, Vn: Any) -> Any:
    """Return the available shear strength (G1)."""
    pair = (g2.design_shear, g2.allowable_shear)
    return available(case.method, Vn, *pair, g2.PHI, g2.OMEGA)


def torsion(case: MemberCase, Tn: Any) -> Any:
    """Return the available torsional strength (H3.1)."""
    pair = (h3_h4.design_torsion, h3_h4.allowable_torsion)
    return available(case.method, Tn, *pair, 0.90, 1.67)


def pick(mask: Any, yes: Any, no: Any) -> Any:
    """Return one or the other: a choice on single numbers, element by element on arrays."""
    if np.ndim(mask) == 0:
        return yes if mask else no
    return np.where(mask, yes, no)


@once_per_case
def effective_length_major(case: MemberCase) -> Any:
    """Return Lcx."""
    return e3.effective_length(case.buckling.K_major, case.buckling.length_major)


@once_per_case
def effective_length_minor(case: MemberCase) -> Any:
    """Return Lcy."""
    return e3.effective_length(case.buckling.K_minor, case.buckling.length_minor)


@once_per_case
def effective_length_torsion(case: MemberCase) -> Any:
    """Return Lcz."""
    return e3.effective_length(case.buckling.K_torsion, case.buckling.length_torsion)


@once_per_case
def moment_shape_factor(case: MemberCase) -> Any:
    """Return Cb: as given, by the rule chosen, else by the quarter points."""
    if case.moment_shape is not None:
        if np.ndim(case.moment_shape) == 0 and case.moment_shape == case.moment_shape:
            return given(GLOSSARY, "Cb", case.moment_shape, case.moment_shape_source)
        if np.ndim(case.moment_shape) > 0:
            return np.where(np.isnan(case.moment_shape), by_quarter_points(case), case.moment_shape)
    if by_curvature(case):
        return reversed_curvature.pick_rule(case, by_quarter_points)
    return by_quarter_points(case)


def by_quarter_points(case: MemberCase) -> Any:
    """Return Cb by Eq. F1-1; 1.0 at a free tip and where the other flange is compressed more.

    Angles and outlines have no flanges: their moments count whatever their sense. Where one is
    bent about both axes, its moment about a principal axis has another shape, and Cb is 1.0.
    """
    d, resolved = demand(case), case.shape in ("angle", "outline") and not case.geometric
    other = np.asarray(d.M_major < d.M_max * (1 - 1e-9)) & (not (resolved or case.geometric))
    oblique = np.asarray(d.M_minor > 0) & resolved
    if resolved:
        oblique = oblique & np.asarray(np.abs(np.sin(case.section.angle)) > 1e-9)
    if np.ndim(d.M_max) == 0:
        if case.segments.free_tip:
            if does_not_fall(case):
                source = "taken: the moment does not fall toward the free end, as F1 has it"
                return given(GLOSSARY, "Cb", NOT_FALLING, source)
            return given(GLOSSARY, "Cb", 1.0, "F1: the free end is not held")
        if other:
            source = "taken: the larger moment of this segment compresses the other flange"
            return given(GLOSSARY, "Cb", 1.0, source)
        if np.any(oblique):
            return given(GLOSSARY, "Cb", 1.0, "taken: moments act about both axes")
        if d.M_max == 0:
            return 1.0
        return f1.moment_shape_factor(d.M_max, d.M_A, d.M_B, d.M_C)
    Cb = f1.moment_shape_factor(d.M_max, d.M_A, d.M_B, d.M_C)
    plain = np.asarray(case.segments.free_tip) | other | oblique | (d.M_max == 0)
    Cb = np.where(plain, 1.0, Cb)
    return np.where(np.asarray(case.segments.free_tip) & does_not_fall(case), NOT_FALLING, Cb)


def does_not_fall(case: MemberCase) -> Any:
    """Return where the moment falls more slowly than in a straight line toward a free end.

    The Cb = 1.0 of F1 is that of loads which push one way. Uniform moment on a cantilever buckles
    it at half the moment of a length held at both ends, at a quarter where warping counts most.
    """
    d, slack = demand(case), 0.05
    start, end = np.abs(d.M_start), np.abs(d.M_end)
    first = np.asarray(case.segments.tip_first, dtype=bool)
    tip = np.where(first, start, end)
    near, far = np.where(first, d.M_A, d.M_C), np.where(first, d.M_C, d.M_A)
    found: Any = False
    for moment, share in ((far, 0.75), (d.M_B, 0.5), (near, 0.25), (tip, 0.0)):
        found = found | (np.asarray(moment) > (share + slack) * np.asarray(d.M_max))
    return found & (np.asarray(d.M_max) > 0)


def uncovered(name: str, clause: str, demand: Any, kind: str, effect: str, why: str) -> Check:
    """Return a check that is outside wherever something acts."""
    U = np.where(np.asarray(demand) > 0, np.nan, 0.0)
    if np.ndim(U) == 0 and np.isnan(U):
        note(f"Outside: {why}.")
    return Check(name, clause, demand, None, U, kind, effect, np.isnan(U), why)
