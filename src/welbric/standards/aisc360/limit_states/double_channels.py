"""Two channels with connectors between them: E3, E4, E6, E7 as one, F2, F6, G2.1, G6 each alone.

In bending and shear the strength is twice that of one channel, with all of its length: what the
connectors bring there is left out, on the safe side.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from welbric.sections.compound import channel_of_pair
from welbric.sections.table import Section, SectionAxis
from welbric.standards.aisc360.clauses import e3, e4, e5, e7, f2_f3, g2
from welbric.standards.aisc360.design import (
    E,
    Family,
    G,
    Limit,
    Strength,
    compression,
    effective_length_major,
    effective_length_torsion,
    pick,
)
from welbric.standards.aisc360.limit_states import built_up, channels
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import given, heading


@once_per_case
def one(case: MemberCase) -> MemberCase:
    """Return one of the two channels on its own, under the same forces."""
    s = case.section
    names = ("d", "bf", "tw", "tf", "r", "slope", "r_toe", "tf_from_tip")
    sizes = [np.ravel(np.asarray(getattr(s, name), dtype=float)) for name in names]
    shape = np.shape(s.d)
    found = {k: np.reshape(v, shape) for k, v in channel_of_pair(*sizes)[0].items()}
    if np.ndim(s.d) == 0:
        single: Any = Section("channel", "one", {k: float(v) for k, v in found.items()})
    else:
        single = SectionAxis(found)
    return replace(case, section=single, shape="channel", cache={})


# Compression


@once_per_case
def slenderness_minor(case: MemberCase) -> Any:
    """Return the slenderness about y, with the slip of the connectors (E6.1)."""
    s = case.section
    facing = np.asarray(s.toes_in) != 0
    Ki = pick(facing, built_up.KI["others"], built_up.KI["channels back to back"])
    given(GLOSSARY, "Ki", Ki, "E6.1(b)")
    radius = one(case).section.r_minor
    return built_up.modified_slenderness(case, radius, Ki, "one channel, minor axis")


def compressive_strength(case: MemberCase, Fn: Any) -> Any:
    """Return the available strength at the stress Fn (E7): both channels."""
    Ae = e7.both_effective(channels.effective_area(one(case), Fn))
    return compression(case, e7.compressive_strength_slender(Fn, Ae))


@once_per_case
def major_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about x."""
    heading("Strength in flexural buckling about the major axis", "E3")
    Fe = e3.flexural_buckling_stress(E, effective_length_major(case), case.section.r_major)
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fe))


@once_per_case
def minor_buckling_strength(case: MemberCase) -> Any:
    """Return the available strength in flexural buckling about y."""
    heading("Strength in flexural buckling about the minor axis", "E3, E6")
    Fe = e5.stress_of_slenderness(E, slenderness_minor(case))
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fe))


@once_per_case
def torsional_strength(case: MemberCase) -> Any:
    """Return the available strength in torsional buckling."""
    heading("Strength in torsional buckling", "E4(a)")
    s, Lcz = case.section, effective_length_torsion(case)
    Fe = e4.torsional_buckling_stress(E, s.Cw, Lcz, G, s.J, s.I_x, s.I_y)
    return compressive_strength(case, e3.nominal_stress(case.Fy, Fe))


def connectors_missing(case: MemberCase) -> tuple[Any, str]:
    """Return where the connectors are not given, or are too far apart (E6.2)."""
    return built_up.connectors_missing(case, one(case).section.r_minor, "channel")


# Bending and shear


def _twice(strength: Strength, both: Any) -> Strength:
    """Return twice a strength of one channel."""

    @once_per_case
    def of_both(case: MemberCase) -> Any:
        return both(strength(one(case)))

    return of_both


def not_compact(case: MemberCase) -> tuple[Any, str]:
    """Return where the channels are not compact."""
    return channels.not_compact(one(case))


DOUBLE_CHANNEL = Family(
    compressive_strength,
    Limit("torsional buckling", "E4(a)", torsional_strength),
    (
        Limit("yielding, major axis", "F2.1", _twice(channels.yielding_strength, f2_f3.both_bend)),
        Limit(
            "lateral-torsional buckling",
            "F2.2",
            _twice(channels.lateral_torsional_strength, f2_f3.both_bend),
        ),
    ),
    (Limit("bending, minor axis", "F6", _twice(channels.strength_minor, f2_f3.both_bend)),),
    Limit("shear, web", "G2.1", _twice(channels.shear_strength, g2.both_shear)),
    Limit("shear, flanges", "G6", _twice(channels.shear_strength_minor, g2.both_shear)),
    flexural=(
        Limit("flexural buckling, major axis", "E3", major_buckling_strength),
        Limit("flexural buckling, minor axis", "E3, E6", minor_buckling_strength),
    ),
    outside=not_compact,
    uncompressed=connectors_missing,
)
