"""Net area and shear lag factor of the ends of a member in tension (B4.3, D3)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360 import chapter_d
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, once_per_case
from welbric.working import either, given

FEWEST = {"flange": 3, "web": 4, "leg": 3}  # bolts in a line, Table D3.1 cases 7 and 8


@once_per_case
def net_area(case: MemberCase) -> Any:
    """Return An, or None where nothing is said of it."""
    joined = case.connection
    if case.net_area is not None:
        return given(GLOSSARY, "An", case.net_area, "given with the member's connection")
    if joined is None:
        return None
    An = case.section.A
    if not joined.holes:
        return given(GLOSSARY, "An", An, "no holes: the gross area") if np.ndim(An) == 0 else An
    for count, diameter, thickness in joined.holes:
        An = chapter_d.area_less_holes(An, count, diameter, thickness)
    for pitch, gauge, thickness in joined.staggers:
        An = chapter_d.area_of_stagger(An, pitch, gauge, thickness)
    return An


@once_per_case
def shear_lag_factor(case: MemberCase) -> Any:
    """Return U, or None where nothing is said of it."""
    joined = case.connection
    if case.shear_lag is not None:
        return given(GLOSSARY, "U_l", case.shear_lag, "given with the member's connection")
    if joined is None:
        return None
    if joined.through == "all":
        return chapter_d.all_elements_joined()
    by_length = None
    if joined.length is not None:
        x, length = joined.eccentricity or 0.0, joined.length
        if joined.between_welds is not None:
            by_length = chapter_d.by_longitudinal_welds(length, joined.between_welds, x)
        else:
            by_length = chapter_d.by_eccentricity(x, length)
    by_element = _by_element(case)
    if by_element is None or by_length is None:
        return by_length if by_element is None else by_element
    return chapter_d.larger_factor(by_length, by_element)


def _by_element(case: MemberCase) -> Any:
    """Return U by the element that is joined, or None where the table has none."""
    joined, s = case.connection, case.section
    if joined is None or joined.through is None or joined.through == "all":
        return None
    bolts = joined.bolts_in_line or 0
    if bolts < FEWEST[joined.through] or "channel" in case.shape.split():
        return None
    if joined.through == "web":
        return chapter_d.through_the_web()
    if joined.through == "leg":
        return chapter_d.leg_of_four_bolts() if bolts >= 4 else chapter_d.leg_of_three_bolts()
    bf = s.bf if "bf" in _columns(s) else np.minimum(s.bf_top, s.bf_bottom)
    branches = (chapter_d.through_a_wide_flange, chapter_d.through_a_narrow_flange)
    depth = s.d * (2 if "tee" in case.shape.split() else 1)  # of the shape the tee is cut from
    return either(chapter_d.flange_is_wide, *branches, **{"bf": bf, "d": depth})


def _columns(section: Any) -> Any:
    return getattr(section, "properties", None) or vars(section)
