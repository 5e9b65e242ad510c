"""Shapes other than W against the AISC Design Examples, by number, as printed.

Editions 14 and 15; each with the strength of steel it was computed for. Tees, double angles and
hollow sections have properties computed from their designations here, the examples take published
ones rounded to three digits: within 1 %. The others within one unit of the last digit.
"""

from __future__ import annotations

import numpy as np
import pytest

from cases import FT, KIP, KIP_FT, capacity

Y, BEND, YIELD = "yielding, major axis", "bending, major axis", "tensile yielding"
LTB = "lateral-torsional buckling"
EXAMPLES = {
    # name: check, section, arguments, LRFD, ASD, unit
    "D.2": (YIELD, "L4X4X1/2", {"Fy": 36}, 122, 80.8, KIP),
    "D.3": (YIELD, "WT6X20", {"Fy": 50}, 263, 175, KIP),
    "D.4": (YIELD, "HSS6X4X3/8", {"Fy": 46}, 256, 170, KIP),
    "D.5": (YIELD, "HSS6.000X0.500", {"Fy": 42}, 306, 203, KIP),
    "D.6": (YIELD, "2L4X4X1/2X3/8", {"Fy": 36}, 243, 162, KIP),
    "E.7": ("flexural buckling, major axis", "WT7X34", {"L": 20 * FT}, 128, None, KIP),
    "F.2-1B": (Y, "C15X33.9", {"Fy": 36}, 137, 91.3, KIP_FT),
    "F.2-2B": (
        "lateral-torsional buckling",
        "C15X33.9",
        {"Fy": 36, "Lb": 5 * FT},
        130,
        None,
        KIP_FT,
    ),
    "F.7B": ("wall local buckling", "HSS10X6X3/16", {"Fy": 46}, 57.0, 37.9, KIP_FT),
    "F.9": (BEND, "Pipe8XS", {"Fy": 35}, 81.4, 54.1, KIP_FT),
    "F.10": (Y, "WT5X6", {"Fy": 50}, 7.32, 4.87, KIP_FT),
    "G.2": ("shear, web", "C15X33.9", {"Fy": 36}, 117, 77.6, KIP),
    "G.3": ("shear, upright leg", "L5X3X1/4", {"Fy": 36}, 24.3, 16.2, KIP),
    "G.4": ("shear, walls along the depth", "HSS6X4X3/8", {"Fy": 46}, 86.0, 57.2, KIP),
    "G.5": ("shear", "HSS16.000X0.375", {"Fy": 46}, 213, 142, KIP),
    "G.7": ("shear, flanges", "C9X20", {"Fy": 36}, 42.6, 28.3, KIP),
}


@pytest.mark.parametrize("name", EXAMPLES)
@pytest.mark.parametrize("method", ["LRFD", "ASD"])
def test_design_example(name, method):
    check, section, fields, lrfd, asd, unit = EXAMPLES[name]
    printed = lrfd if method == "LRFD" else asd
    if printed is None:
        pytest.skip("not remembered with certainty")
    found = capacity(check, section, method=method, **fields) / unit
    last = 10.0 ** (np.floor(np.log10(printed)) - 2)
    tolerance = 0.01 * printed if section[:2] in ("WT", "2L", "HS") else 1.01 * last
    assert found == pytest.approx(printed, abs=tolerance)
