"""Net area and shear lag factor of the ends of a member in tension (B4.3, D3)."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import d2_d3
from welbric.standards.aisc360.design import pick
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import MemberCase, SlottedTube, once_per_case
from welbric.working import either, given

FEWEST = {"flange": 3, "web": 4, "leg": 3}  # bolts in a line, Table D3.1 cases 7 and 8


@once_per_case
def net_area(case: MemberCase) -> Any:
    """Return An, or None where nothing is said of it."""
    joined = case.ends.connection
    if case.ends.net_area is not None:
        return given(GLOSSARY, "An", case.ends.net_area, "given with the member's connection")
    if joined is None:
        return None
    if joined.transverse_welds:
        return d2_d3.area_joined(*_element(case))
    An = case.section.A
    if joined.slot is not None:
        return d2_d3.area_less_slots(An, joined.slot.width, _wall(case))
    if not joined.holes:
        return given(GLOSSARY, "An", An, "no holes: the gross area") if np.ndim(An) == 0 else An
    for count, diameter, thickness in joined.holes:
        An = d2_d3.area_less_holes(An, count, diameter, d2_d3.DAMAGE, thickness)
    for pitch, gauge, thickness in joined.staggers:
        An = d2_d3.area_of_stagger(An, pitch, gauge, thickness)
    return An


@once_per_case
def shear_lag_factor(case: MemberCase) -> Any:
    """Return U, or None where nothing is said of it."""
    joined = case.ends.connection
    if case.ends.shear_lag is not None:
        return given(GLOSSARY, "U_l", case.ends.shear_lag, "given with the member's connection")
    if joined is None:
        return None
    if joined.through == "all":
        return d2_d3.all_elements_joined()
    if joined.transverse_welds:
        return d2_d3.by_transverse_welds()
    if joined.slot is not None:
        return _over_a_plate(case, joined.slot)
    by_length = None
    if joined.length is not None:
        x, length = joined.eccentricity or 0.0, joined.length
        if joined.between_welds is not None:
            by_length = d2_d3.by_longitudinal_welds(length, joined.between_welds, x)
        else:
            by_length = d2_d3.by_eccentricity(x, length)
    by_element = _by_element(case)
    if by_element is None or by_length is None:
        return by_length if by_element is None else by_element
    return d2_d3.larger_factor(by_length, by_element)


def _by_element(case: MemberCase) -> Any:
    """Return U by the element that is joined, or None where the table has none."""
    joined, s = case.ends.connection, case.section
    if joined is None or joined.through is None or joined.through == "all":
        return None
    bolts = joined.bolts_in_line or 0
    if bolts < FEWEST[joined.through] or "channel" in case.shape.split():
        return None
    if joined.through == "web":
        return d2_d3.through_the_web()
    if joined.through == "leg":
        return d2_d3.leg_of_four_bolts() if bolts >= 4 else d2_d3.leg_of_three_bolts()
    bf = s.bf if "bf" in _columns(s) else np.minimum(s.bf_top, s.bf_bottom)
    branches = (d2_d3.through_a_wide_flange, d2_d3.through_a_narrow_flange)
    depth = s.d * (2 if "tee" in case.shape.split() else 1)  # of the shape the tee is cut from
    return either(d2_d3.flange_is_wide, *branches, bf=bf, d=depth)


def _element(case: MemberCase) -> tuple[Any, Any, Any]:
    """Return how many elements transverse welds join, their width and thickness."""
    s, words = case.section, case.shape.split()
    through = case.ends.connection.through if case.ends.connection else None
    if through == "leg":  # which of the two is not said: the shorter
        return 2 if "double" in words else 1, np.minimum(s.d, s.b), s.t
    columns = _columns(s)
    if through == "web":
        top, bottom = (s.tf, s.tf) if "tf" in columns else (s.tf_top, s.tf_bottom)
        return 2 if "double" in words else 1, s.d - top - bottom, s.tw
    count = 1 if "tee" in words else 4 if "double" in words else 2
    if "bf" in columns:
        return count, s.bf, s.tf
    return count, np.minimum(s.bf_top, s.bf_bottom), np.minimum(s.tf_top, s.tf_bottom)


def _wall(case: MemberCase) -> Any:
    """Return the thickness of a tube's walls, of a box's thicker ones."""
    return case.section.t if "t" in _columns(case.section) else case.section.thickest


def _over_a_plate(case: MemberCase, slot: SlottedTube) -> Any:
    """Return U of a tube over a plate: none where it is joined over less than its depth."""
    s = case.section
    parallel, across = (s.d, s.d) if case.shape == "round tube" else (s.d, s.b)
    if not slot.along_depth:
        parallel, across = across, parallel
    short = slot.length < parallel * (1 - 1e-9)
    if np.ndim(short) == 0 and short:
        return None
    factor = _round_over_a_plate if case.shape == "round tube" else _box_over_a_plate
    return pick(short, np.nan, factor(case, slot, parallel, across))


def _round_over_a_plate(case: MemberCase, slot: SlottedTube, D: Any, _: Any) -> Any:
    if case.edition >= 2022:
        x_bar = d2_d3.eccentricity_of_a_round_half(D, d2_d3.half_arc(slot.width, D), slot.plate)
        return d2_d3.round_over_a_plate(x_bar, slot.length)
    x_bar = d2_d3.eccentricity_of_a_ring(D)
    return either(
        d2_d3.joint_is_long,
        d2_d3.long_joint,
        d2_d3.by_eccentricity,
        l_j=slot.length,
        D=D,
        x_bar=x_bar,
    )


def _box_over_a_plate(case: MemberCase, slot: SlottedTube, H_out: Any, B: Any) -> Any:
    if case.edition >= 2022:
        b_c = d2_d3.from_the_plate(B, slot.plate)
        x_bar = d2_d3.eccentricity_of_half_a_box(b_c, _wall(case), H_out)
    else:
        x_bar = d2_d3.eccentricity_of_a_thin_box(B, H_out)
    return d2_d3.by_eccentricity(x_bar, slot.length)


def _columns(section: Any) -> Any:
    return getattr(section, "properties", None) or vars(section)
