"""H4: rupture of a flange at its holes, under axial tension and bending together."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.aisc360.clauses import d2_d3, h3_h4
from welbric.standards.aisc360.demands import demand
from welbric.standards.aisc360.design import available
from welbric.standards.aisc360.limit_states.i_bending import holed_flange_strength
from welbric.standards.aisc360.symbols import GLOSSARY
from welbric.standards.case import Check, MemberCase, once_per_case
from welbric.working import given, heading

NAME, CLAUSE = "rupture at flange holes", "H4"


@once_per_case
def net_section_strength(case: MemberCase) -> Any:
    """Return the available strength in rupture of the section less the holes of both flanges."""
    heading("Strength in rupture of the section with its holes", "D2(b)")
    s, (count, diameter) = case.section, case.flange_holes or (0, 0.0)
    An = s.A
    both = ("tf", "tf") if case.shape != "unequal I" else ("tf_top", "tf_bottom")
    for thickness in both:
        An = d2_d3.area_less_holes(An, count, diameter, d2_d3.DAMAGE, getattr(s, thickness))
    return available(
        case.method,
        d2_d3.tensile_rupture(case.Fu, d2_d3.effective_net_area(An, 1.0)),
        d2_d3.design_tension,
        d2_d3.allowable_tension,
        d2_d3.PHI_RUPTURE,
        d2_d3.OMEGA_RUPTURE,
    )


def rupture_at_holes(case: MemberCase) -> Check:
    """H4-1; an axial force that presses the holes relieves them, and is left out."""
    Pr = given(GLOSSARY, "Pr", demand(case).tension, "largest tension of the segment")
    head = (NAME, CLAUSE, None, None)
    if case.flange_holes is None:
        return Check(*head, 0.0, "number", "tension")
    Pc, Mcx = net_section_strength(case), holed_flange_strength(case)
    heading("Interaction", CLAUSE)
    U = h3_h4.rupture_at_flange_holes(Pr, Pc, demand(case).M_major, Mcx)
    return Check(*head, np.where(np.asarray(Pr) > 0, U, 0.0), "number", "tension")


MORE = {NAME: rupture_at_holes}
