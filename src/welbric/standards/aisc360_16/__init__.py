"""AISC 360-16: the edition before, by the equations of 360-22.

Where the two are known to differ, `DIFFERENCES` says so.
"""

from welbric.standards import aisc360
from welbric.standards.aisc360 import *  # noqa: F403
from welbric.standards.aisc360 import __all__ as __all__

BASE = aisc360.__name__
EDITION = 2016
DIFFERENCES = {
    "D3": "slotted hollow sections (Table D3.1, cases 5 and 6) by the rules of this edition",
    "Appendix 6": "torsional braces need less; what 360-22 asks for is taken",
    "J4": "clauses of connections differ, which are outside in both",
}
