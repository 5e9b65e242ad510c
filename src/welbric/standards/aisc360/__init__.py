"""AISC 360-22, Specification for Structural Steel Buildings: members, first set.

Covered: rolled doubly symmetric I-shapes, LRFD and ASD, B4, D2, E2, E3, E4(b), E7, F1 to F3, F6,
G2.1, G6, H1.1 to H1.3, Appendix 7 (textbook ends) and Appendix 8 (multipliers).
"""

from welbric.standards.aisc360.appendix_7 import effective_length_factor
from welbric.standards.aisc360.appendix_8 import ALPHA
from welbric.standards.aisc360.member import CHECKS, METHODS, SHAPES, E, G, moment_shape_factor
from welbric.standards.case import Elasticity

ELASTICITY = Elasticity(E, G, expansion=11.7e-6)  # 0.0000065 per degree Fahrenheit
DEFLECTION_CLAUSE = "L2"
LOAD_HEIGHT_CLAUSE = "F1"
SEGMENT_CHECK = "lateral-torsional buckling"
SECOND_ORDER_LEVEL = ALPHA
STABILITY_CLAUSE = "C2.1"
SLENDERNESS_ADVICE = {"compression": (200.0, "E2"), "tension": (300.0, "D1")}
NOT_CHECKED = (
    "connections, concentrated forces on webs and flanges (J10), torsion, holes in tension flanges "
    "(F13), loads off the shear centre that do not say so (F2 takes them there), stability of the "
    "whole frame (Chapter C)"
)

__all__ = [
    "CHECKS",
    "DEFLECTION_CLAUSE",
    "ELASTICITY",
    "LOAD_HEIGHT_CLAUSE",
    "METHODS",
    "NOT_CHECKED",
    "SECOND_ORDER_LEVEL",
    "SEGMENT_CHECK",
    "SHAPES",
    "SLENDERNESS_ADVICE",
    "STABILITY_CLAUSE",
    "E",
    "G",
    "effective_length_factor",
    "moment_shape_factor",
]
