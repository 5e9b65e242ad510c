"""EN 1993-1-1:2005, Eurocode 3: the standard as the rest of Welbric takes it.

What stands here is all that a design standard provides; `welbric.standards.standard` says what each
of it is for.
"""

from __future__ import annotations

import math
from typing import Any

from welbric.sections.table import Section
from welbric.standards.case import Elasticity
from welbric.standards.en1993 import options
from welbric.standards.en1993.check_ids import CHECK_IDS
from welbric.standards.en1993.choices import remarks_on_choices
from welbric.standards.en1993.clauses import annex_bb, c5_3_3, c5_5
from welbric.standards.en1993.demands import places
from welbric.standards.en1993.design import E, G
from welbric.standards.en1993.limit_states import patch_loads
from welbric.standards.en1993.limit_states.compression import bow_of_length
from welbric.standards.en1993.limit_states.lateral import C_1
from welbric.standards.en1993.routes import (
    AVAILABLE,
    checks,
    not_covered,
    shear_check,
    uses_moment_shape,
)
from welbric.standards.en1993.shapes import SHAPES
from welbric.standards.standard import (
    Advice,
    Bows,
    ConcentratedForces,
    SecondOrder,
    Stabilising,
    Standard,
)

LEVEL = {options.LIMIT_STATES: 1.0}
NO_ADVICE = Advice(math.inf, "")


def _storey_multiplier(
    method: str, P_story: float, shear: float, drift: float, height: float, in_moment_frames: float
) -> Any:
    """Return the multiplier of sidesway (5.2.2(5)B); infinite below three times the load."""
    alpha_cr = c5_5.sway_load_level(shear, P_story, height, drift)
    return c5_5.sway_multiplier(alpha_cr) if alpha_cr >= 3.0 else math.inf


def _stabilising_force(compression: Any, length: float, moved: float) -> Any:
    """Return what stands for the bow of one member along the system that holds it (5.13)."""
    e_0 = c5_3_3.bow(c5_3_3.of_members(1), length)
    return c5_3_3.line_force(compression, e_0, moved, length)


def _sheeting(section: Section, length: float) -> Any:
    """Return the shear stiffness of sheeting that restrains a flange all along (BB.2.1).

    NaN where the section's warping constant is not known.
    """
    s, of = section, section.properties
    J, Cw = (float(of.get(name, math.nan)) for name in ("J", "Cw"))
    return annex_bb.sheeting(E, Cw, length, G, J, s.I_minor, s.d)


EN_1993_1_1 = Standard(
    id="EN 1993-1-1",
    edition=2005,
    package=__name__,
    elasticity=Elasticity(E, G, expansion=12e-6),
    methods=(options.LIMIT_STATES,),
    shapes=SHAPES,
    checks=checks,
    check_ids=CHECK_IDS,
    lateral_buckling="lateral-torsional buckling",
    moment_shape_factor=C_1,
    moment_shape_symbol="C1",
    uses_moment_shape=uses_moment_shape,
    available=AVAILABLE,
    places=places,
    not_covered=not_covered,
    job_options=options.JobOptions,
    member_options=options.MemberOptions,
    of_member=options.of_member,
    eigenvalue=options.eigenvalue,
    as_it_stands=options.as_it_stands,
    remarks_on_choices=remarks_on_choices,
    method=options.method,
    of_case=options.of_case,
    loading="EN 1990",
    units="metric",
    effective_length_factor=options.effective_length_factor,
    length_factors=options.length_factors,
    truss_factor=options.truss_factor,
    webbing=True,
    shear_check=shear_check,
    second_order=SecondOrder(
        level=LEVEL,
        load_level=options.load_level,
        softens=options.softens,
        squash=lambda section, fy: section.A * fy,
        flexural_share=lambda _, N, squash: None,  # the stiffness is the nominal one
        clause="5.2.2",
        stiffness_clause="5.2.2",
        first_order_up_to=lambda _: 0.1,
        first_order_clause="5.2.1(3)",
        by_first_order=None,
        amplified_up_to=1 / 3,
        amplified_clause="5.2.2(5)",
        # Compression from a slenderness of half the root of A fy / N.
        bows=Bows(sway_from=0.1, compression_from=0.25, of_length=bow_of_length, clause="5.3.2(6)"),
        sway_limits=lambda _: None,  # 5.2.2(7)a: the frame leans, and so do its imperfections
        sway_clause="5.2.2(7)",
        out_of_plumb=options.out_of_plumb,
        out_of_plumb_clause="5.3.2",
        pushed_besides=lambda _: None,
        storey_multiplier=_storey_multiplier,
        storey_symbol="1/(1 − 1/αcr)",
        storey_clause="5.4",
    ),
    concentrated_forces=ConcentratedForces(patch_loads.checks, LEVEL),
    bracing=None,
    stabilising=Stabilising(
        of_flange=c5_3_3.of_flange,
        along=_stabilising_force,
        sheeting=_sheeting,
        sheeting_fixed="fixed at each rib; fixed at every second one it counts as a fifth",
        sheeting_clause="BB.2.1",
        moves=1 / 2500,
        together="where one system holds m members alike, the bow of each counts "
        "sqrt(0.5 (1 + 1/m)) of the L/500 that is taken here",
        clause="5.3.3",
    ),
    slenderness={"compression": NO_ADVICE, "tension": NO_ADVICE},
    deflection_clause="7.2",
    load_height_clause="6.3.2.2",
    not_checked="connections, fatigue, fire, and what holds the whole down (EQU of EN 1990, Table "
    "A1.2(A))",
    not_checked_alone="imperfections and stability of the whole frame (5.2, 5.3)",
)
