"""6.2.3 and 6.2.4: tension, with its net section, and compression of cross-sections."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, EndConnection, MemberCase, once_per_case
from welbric.standards.en1993 import classify, shapes
from welbric.standards.en1993.clauses import c6_2, part_1_8
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import partial, partial_of_net_section, pick, uncovered
from welbric.standards.en1993.limit_states import effective
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, heading, note

NOT_GIVEN = "the net area of the connection is not given"
PINNED = "ends with a pin or an eye (EN 1993-1-8, 3.13) are not covered"
ONE_BOLT = "a single bolt needs the edge distance (EN 1993-1-8, 3.11), which is not known"
ONE_SIDED = (
    "joined by a part of it, and not alike about the joint (EN 1993-1-8, 3.10.3): give a factor "
    "as shear_lag"
)


def tension(case: MemberCase) -> Check:
    """6.2.3(2)a."""
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).tension, "largest tension of the segment")
    N_Rd = c6_2.plastic_tension(case.section.A, case.Fy, partial(case, 0))
    U = c6_2.tension_utilisation(N_Ed, N_Rd)
    return Check("tension", "6.2.3", N_Ed, N_Rd, U, "force", "tension")


def net_tension(case: MemberCase) -> Check:
    """6.2.3(2)b, where the net area is known; of angles through one leg EN 1993-1-8, 3.10.3."""
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).tension, "largest tension of the segment")
    name, clause = "tension, net section", "6.2.3"
    why = _not_known(case)
    if why:
        return uncovered(name, clause, N_Ed, "force", "tension", why)
    heading("Resistance of the net section", clause)
    joint = case.ends.connection
    A_net = _net_area(case, joint)
    if _by_one_leg(case, joint) and joint is not None:
        clause, N_Rd = "EN 1993-1-8, 3.10.3", _through_one_leg(case, joint, A_net)
    else:
        N_Rd = c6_2.net_tension(A_net, case.Fu, partial_of_net_section(case))
    U = np.where(np.asarray(N_Ed) > 0, c6_2.tension_utilisation(N_Ed, N_Rd), 0.0)
    return Check(name, clause, N_Ed, N_Rd, U, "force", "tension", reason=NOT_GIVEN)


def _by_one_leg(case: MemberCase, joint: EndConnection | None) -> bool:
    bolted = joint is not None and joint.through == "leg" and joint.bolts_in_line is not None
    return case.shape == shapes.ANGLE and bolted


def _not_known(case: MemberCase) -> str:
    """Return why the resistance of the net section is not known."""
    ends, joint = case.ends, case.ends.connection
    if ends.pin is not None or ends.eyebar is not None:
        return PINNED
    if joint is None:
        return NOT_GIVEN if ends.net_area is None else ""
    # Without holes the whole is joined: by welds, or by what says how.
    if ends.net_area is None and not joint.holes and joint.through is None:
        return NOT_GIVEN
    if ends.shear_lag is not None:
        return ""
    if _by_one_leg(case, joint):
        return ONE_BOLT if joint.bolts_in_line == 1 else ""
    if joint.through == "all" or (case.shape in shapes.I_SHAPES and joint.through is not None):
        return "" if not joint.transverse_welds else ONE_SIDED
    return ONE_SIDED


def _net_area(case: MemberCase, joint: EndConnection | None) -> Any:
    """Return A_net: as given, or less holes; times a factor of shear lag where one is given."""
    if case.ends.net_area is not None:
        A_net = case.ends.net_area
        if case.single:
            A_net = given(GLOSSARY, "A_net", float(A_net), "as given")
    else:
        A_net = case.section.A
        if joint is not None:
            for count, diameter, t in joint.holes:
                A_net = c6_2.area_less_holes(A_net, count, diameter, t)
            for pitch, gauge, t in joint.staggers:
                A_net = c6_2.area_of_stagger(A_net, pitch, gauge, t)
    if case.ends.shear_lag is None:
        return A_net
    # Shear lag is no part of the standard; a factor that is given takes of the net area.
    A_net = A_net * case.ends.shear_lag
    if case.single:
        A_net = given(GLOSSARY, "A_net", float(A_net), "times the shear lag factor given")
    return A_net


def _through_one_leg(case: MemberCase, joint: EndConnection, A_net: Any) -> Any:
    """Return N_u,Rd of an angle that is bolted through one leg."""
    s, bolts = case.section, joint.bolts_in_line or 2
    d_0 = max((diameter for _, diameter, _ in joint.holes), default=None)
    if case.one_leg != "longer":  # where nobody says, the shorter leg is joined
        h, b = np.maximum(s.d, s.b), np.minimum(s.d, s.b)
        h, b = (v if np.ndim(v) else float(v) for v in (h, b))
        A_net = part_1_8.as_of_equal_legs(A_net, h, b, s.t)
    gamma = partial_of_net_section(case)
    pitch = None if joint.length is None else joint.length / (bolts - 1)
    if pitch is None or d_0 is None:
        d_0 = given(GLOSSARY, "d_0", d_0 or 1.0, "of the holes")
        pitch = given(GLOSSARY, "p_1", 2.5 * d_0, "taken: no length of the joint is given")
    else:
        pitch = given(GLOSSARY, "p_1", pitch, "length of the joint over the gaps")
    if bolts == 2:
        return part_1_8.by_two_bolts(
            part_1_8.factor_of_two_bolts(pitch, d_0), A_net, case.Fu, gamma
        )
    return part_1_8.by_more_bolts(part_1_8.factor_of_more_bolts(pitch, d_0), A_net, case.Fu, gamma)


@once_per_case
def compression_resistance(case: MemberCase) -> Any:
    """Return N_c,Rd."""
    kind, gamma = classify.in_compression(case), partial(case, 0)
    plain = c6_2.compression(case.section.A, case.Fy, gamma)
    if not np.any(np.asarray(kind) == 4) or case.shape == shapes.ROUND:
        return plain
    return pick(
        np.asarray(kind) == 4, c6_2.compression_class_4(effective.area(case), case.Fy, gamma), plain
    )


def compression(case: MemberCase) -> Check:
    """6.2.4."""
    N_Ed = given(GLOSSARY, "N_Ed", demand(case).compression, "largest compression of the member")
    heading("Resistance of the cross-section in compression", "6.2.4")
    N_Rd = compression_resistance(case)
    mask, reason = effective.compression_outside(case)
    outside = mask & (np.asarray(N_Ed) > 0)
    if case.single and np.all(outside):
        note(f"Outside: {reason}.")
    U = c6_2.compression_utilisation(N_Ed, N_Rd)
    U = np.where(outside, np.nan, U)
    head = ("compression", "6.2.4", N_Ed, N_Rd, U, "force", "compression")
    return Check(*head, outside=outside, reason=reason)
