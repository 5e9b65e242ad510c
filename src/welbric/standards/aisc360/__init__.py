"""AISC 360-22, Specification for Structural Steel Buildings: members, LRFD and ASD.

`SHAPES` are covered; see docs/aisc360-22.md, clause by clause.
"""

from welbric.standards.aisc360.appendix_6 import column_requirement as column_brace_requirement
from welbric.standards.aisc360.appendix_6 import continuous_requirement, torsional_requirement
from welbric.standards.aisc360.appendix_6 import requirement as brace_requirement
from welbric.standards.aisc360.appendix_7 import effective_length_factor
from welbric.standards.aisc360.appendix_8 import ALPHA, STIFFNESS_SHARE, storey_multiplier
from welbric.standards.aisc360.bearing import checks as bearing_checks
from welbric.standards.aisc360.design import METHODS, E, G, moment_shape_factor
from welbric.standards.aisc360.member import AVAILABLE, CHECKS, SHAPES, checks, not_covered
from welbric.standards.case import Elasticity

EDITION = 2022
ELASTICITY = Elasticity(E, G, expansion=11.7e-6)  # 0.0000065 per degree Fahrenheit
DEFLECTION_CLAUSE = "L2"
LOAD_HEIGHT_CLAUSE = "F1"
SEGMENT_CHECK = "lateral-torsional buckling"
SECOND_ORDER_LEVEL = ALPHA
STABILITY_CLAUSE = "C2.1"
STIFFNESS_CLAUSE = "C2.3"
COLUMN_BRACE_CLAUSE = "Appendix 6.2"
SLENDERNESS_ADVICE = {"compression": (200.0, "E2"), "tension": (300.0, "D1")}
NOT_CHECKED = (
    "connections, concentrated forces without a bearing length (J10), holes in flanges "
    "that are not given (F13), loads off the shear centre that do not say so (F2 takes them there) "
    "and the torsion they bring, stability of the whole frame (Chapter C)"
)

__all__ = [
    "AVAILABLE",
    "CHECKS",
    "COLUMN_BRACE_CLAUSE",
    "DEFLECTION_CLAUSE",
    "EDITION",
    "ELASTICITY",
    "LOAD_HEIGHT_CLAUSE",
    "METHODS",
    "NOT_CHECKED",
    "SECOND_ORDER_LEVEL",
    "SEGMENT_CHECK",
    "SHAPES",
    "SLENDERNESS_ADVICE",
    "STABILITY_CLAUSE",
    "STIFFNESS_CLAUSE",
    "STIFFNESS_SHARE",
    "E",
    "G",
    "bearing_checks",
    "brace_requirement",
    "checks",
    "column_brace_requirement",
    "continuous_requirement",
    "effective_length_factor",
    "moment_shape_factor",
    "not_covered",
    "storey_multiplier",
    "torsional_requirement",
]
