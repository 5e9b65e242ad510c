"""Bars that end in a pin: pin-connected plates (D5) and eyebars (D6)."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy import maximum, minimum

from welbric.standards.aisc360.clauses import b3, d2_d3, d5_d6, j4_j7
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import available
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import Check, MemberCase, PinnedEnd, once_per_case
from welbric.working import given, heading

INCH = 25.4
PHI, OMEGA = 0.75, 2.00  # D5.1, J7
PLAY = INCH / 32  # of the hole over the pin
STRONG = 70 * 6.894757293168361  # MPa, D6.2


def _thickness(case: MemberCase) -> Any:
    s = case.section
    return minimum(s.d, s.b) if np.ndim(s.d) else min(s.d, s.b)


def _available(case: MemberCase, Pn: Any) -> Any:
    pair = (d2_d3.design_tension, d2_d3.allowable_tension)
    return available(case.method, Pn, *pair, PHI, OMEGA)


@once_per_case
def rupture(case: MemberCase) -> Any:
    """Return the available strength in rupture beside the hole."""
    heading("Strength in rupture beside the hole", "D5.1(a)")
    pin, t = _pin(case), _thickness(case)
    b_edge = given(GLOSSARY, "b_edge", pin.edge, "given with the pin")
    return _available(
        case, d5_d6.rupture_beside_the_hole(case.Fu, t, d5_d6.effective_edge(t, b_edge))
    )


@once_per_case
def shear(case: MemberCase) -> Any:
    """Return the available strength in shear beyond the pin."""
    heading("Strength in shear beyond the pin", "D5.1(b)")
    pin = _pin(case)
    a_end = given(GLOSSARY, "a_end", pin.end, "given with the pin")
    return _available(
        case, d5_d6.shear_out(case.Fu, d5_d6.shear_area(_thickness(case), a_end, pin.pin))
    )


@once_per_case
def bearing(case: MemberCase) -> Any:
    """Return the available strength in bearing on the pin."""
    heading("Strength in bearing on the pin", "D5.1(c), J7")
    d_pin = given(GLOSSARY, "d_pin", _pin(case).pin, "given with the pin")
    return _available(case, j4_j7.bearing_on_pin(case.Fy, _thickness(case), d_pin))


def _pin(case: MemberCase) -> PinnedEnd:
    return case.ends.pin or PinnedEnd(np.nan, np.nan, np.nan, np.nan)


BEARING = "pin, bearing"
STRENGTHS = {
    "pin, rupture": ("D5.1(a)", rupture),
    "pin, shear-out": ("D5.1(b)", shear),
    BEARING: ("D5.1(c)", bearing),
}


def lowest(case: MemberCase) -> Any:
    """Return the lowest available strength at the pin."""
    found = [strength(case) for _, strength in STRENGTHS.values()]
    return minimum(minimum(found[0], found[1]), found[2])


def _out_of_proportion(case: MemberCase) -> Any:
    """Return where the dimensions of D5.2 are not kept."""
    pin, t = _pin(case), _thickness(case)
    b_e = np.minimum(2 * t + 0.63 * INCH, pin.edge)
    narrow = 2 * pin.edge + pin.hole < 2 * b_e + pin.pin - 1e-9
    return narrow | (pin.end < 1.33 * b_e - 1e-9) | (pin.hole > pin.pin + PLAY + 1e-9)


WHY = "D5.2: an end of at least 1.33 b_e, and a hole no more than 1/32 in wider than its pin"


def _of_pin(name: str) -> Any:
    clause, strength = STRENGTHS[name]

    def check(case: MemberCase) -> Check:
        Pr, words = demand(case).tension, "largest tension of the segment"
        if name == BEARING:  # the pin bears on the plate in either sense
            Pr, words = np.maximum(Pr, demand(case).compression), "largest axial force"
            Pr = Pr if np.ndim(Pr) else float(Pr)
        Pr = given(GLOSSARY, "Pr", Pr, words)
        if case.ends.pin is None:
            return Check(name, clause, Pr, None, 0.0, "force", "tension")
        Pc = strength(case)
        outside = np.asarray(_out_of_proportion(case)) & (np.asarray(Pr) > 0)
        U = np.where(outside, np.nan, b3.utilisation(Pr, Pc))
        return Check(name, clause, Pr, Pc, U, "force", "tension", outside, WHY)

    return check


def eyebar(case: MemberCase) -> Check:
    """D6: its strength is that of its body; its proportions must be kept."""
    Pr, head, s = demand(case).tension, case.ends.eyebar, case.section
    name, clause = "eyebar", "D6"
    if head is None:
        return Check(name, clause, Pr, None, 0.0, "force", "tension")
    t, w = _thickness(case), maximum(s.d, s.b)
    beside = (head.head - head.hole) / 2
    wrong = [
        (t < 0.5 * INCH - 1e-9, "the bar is thinner than 1/2 in"),
        (w > 8 * t + 1e-9, "the body is wider than eight times its thickness"),
        (head.pin < 7 / 8 * w - 1e-9, "the pin is less than 7/8 of the body's width"),
        (head.hole > head.pin + PLAY + 1e-9, "the hole is more than 1/32 in wider than its pin"),
        (head.fillet < head.head - 1e-9, "the fillet's radius is less than the head's diameter"),
        (beside <= 2 / 3 * w, "the head is no wider than 2/3 of the body beside the hole"),
        (beside > 3 / 4 * w + 1e-9, "the head is wider than 3/4 of the body beside the hole"),
        ((case.Fy > STRONG) & (head.hole > 5 * t), "the hole is wider than five thicknesses"),
    ]
    reason = next((words for mask, words in wrong if np.any(mask)), "")
    mask = np.any([np.broadcast_to(m, np.shape(w)) for m, _ in wrong], axis=0)
    outside = np.asarray(mask) & (np.asarray(Pr) > 0)
    U = np.where(outside, np.nan, 0.0 * np.asarray(Pr))
    return Check(name, clause, Pr, None, U, "force", "tension", outside, f"D6.2: {reason}")


CHECKS = {name: _of_pin(name) for name in STRENGTHS} | {"eyebar": eyebar}
