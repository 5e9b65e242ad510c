"""AISC 360, Specification for Structural Steel Buildings: members, LRFD and ASD.

In its editions of 2022 and of 2016; see docs/aisc360-22.md, clause by clause.
"""

from __future__ import annotations

from dataclasses import replace

from welbric.standards.aisc360 import options
from welbric.standards.aisc360.check_ids import CHECK_IDS
from welbric.standards.aisc360.choices import remarks_on_choices
from welbric.standards.aisc360.clauses import appendix_6, appendix_7, appendix_8
from welbric.standards.aisc360.demands import places
from welbric.standards.aisc360.design import METHODS, E, G, moment_shape_factor
from welbric.standards.aisc360.limit_states import bearing
from welbric.standards.aisc360.limit_states.combined import squash_load_of
from welbric.standards.aisc360.limit_states.strengths import SHAPES, shear_check, uses_moment_shape
from welbric.standards.aisc360.routes import AVAILABLE, checks, not_covered
from welbric.standards.case import Elasticity
from welbric.standards.standard import (
    Advice,
    Bracing,
    ConcentratedForces,
    FirstOrderMethod,
    SecondOrder,
    Standard,
)

__all__ = ["AISC_360_16", "AISC_360_22"]

AISC_360_22 = Standard(
    id="AISC 360-22",
    edition=2022,
    package=__name__,
    elasticity=Elasticity(E, G, expansion=11.7e-6),  # 0.0000065 per degree Fahrenheit
    methods=METHODS,
    shapes=SHAPES,
    checks=checks,
    check_ids=CHECK_IDS,
    lateral_buckling="lateral-torsional buckling",
    moment_shape_factor=moment_shape_factor,
    moment_shape_symbol="Cb",
    uses_moment_shape=uses_moment_shape,
    available=AVAILABLE,
    places=places,
    not_covered=not_covered,
    job_options=options.JobOptions,
    member_options=options.MemberOptions,
    of_member=options.of_member,
    eigenvalue=options.eigenvalue,
    as_it_stands=lambda _: "",
    remarks_on_choices=remarks_on_choices,
    method=options.method,
    of_case=options.of_case,
    loading="ASCE 7-22",
    units="US",
    effective_length_factor=options.effective_length_factor,
    length_factors=options.length_factors,
    shear_check=shear_check,
    second_order=SecondOrder(
        level=appendix_8.ALPHA,
        load_level=options.load_level,
        softens=options.is_direct_analysis,
        squash=squash_load_of,
        flexural_share=options.flexural_share,
        clause="C2.1",
        stiffness_clause="C2.3",
        first_order_up_to=options.first_order_up_to,
        first_order_clause="C2.1",
        by_first_order=FirstOrderMethod(
            chosen=options.is_first_order_analysis,
            sideways=options.sideways_by_drift,
            most=appendix_7.MOST_COMPRESSION,
            limit_clause="Appendix 7, 7.3.1(b)",
            compression_clause="A-7-1",
            taken="gravity loads go down mainly by vertical columns, walls or frames "
            "(Appendix 7, 7.3.1(a))",
        ),
        amplified_up_to=1 / 3,  # a multiplier of 1.5: beyond, taken as too coarse
        amplified_clause="Appendix 8, 8.1.2",
        bows=None,  # they are in the strengths of Chapter E
        sway_limits=options.sway_limits,
        sway_clause="Appendix 7, 7.2",
        out_of_plumb=options.out_of_plumb,
        out_of_plumb_clause="C2.2b",
        pushed_besides=options.pushed_besides,
        storey_multiplier=appendix_8.storey_multiplier,
        storey_symbol="B2",
        storey_clause="A-8-6",
    ),
    concentrated_forces=ConcentratedForces(bearing.checks, bearing.YIELD_LEVEL),
    bracing=Bracing(
        beam=appendix_6.requirement,
        beam_clause="Appendix 6, 6.3.1",
        column=appendix_6.column_requirement,
        column_clause="Appendix 6.2",
        twisting=appendix_6.torsional_requirement,
        twisting_clause="Appendix 6, 6.3.2, Cb = 1",
        twisting_along=appendix_6.continuous_requirement,
        twisting_along_clause="6.3.2b, Cb = 1",
    ),
    stabilising=None,
    slenderness={"compression": Advice(200.0, "E2"), "tension": Advice(300.0, "D1")},
    deflection_clause="L2",
    load_height_clause="F1",
    not_checked=(
        "connections, concentrated forces without a bearing length (J10), holes in flanges "
        "that are not given (F13), loads off the shear centre that do not say so (F2 takes them "
        "there) and the torsion they bring"
    ),
    not_checked_alone="stability of the whole frame (Chapter C)",
)
# The edition before, by the same equations; where the two are known to differ, it says so.
AISC_360_16 = replace(
    AISC_360_22,
    id="AISC 360-16",
    edition=2016,
    differences={
        "D3": "slotted hollow sections (Table D3.1, cases 5 and 6) by the rules of this edition",
        "Appendix 6": "torsional braces need less; what 360-22 asks for is taken",
        "J4": "clauses of connections differ, which are outside in both",
    },
)
