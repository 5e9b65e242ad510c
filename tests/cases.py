"""Short ways to put a section and its forces to a standard, for the tests."""

from __future__ import annotations

import numpy as np

import welbric as wb
from welbric.standards.aisc360 import CHECKS
from welbric.standards.case import Demand, MemberCase, Segments

KIP, FT, IN, KSI = 4448.2216152605, 304.8, 25.4, 6.894757293168361
KIP_FT = KIP * FT


def case(section="W18X50", Lb=0.0, method="LRFD", L=10 * FT, Fy=50.0, Fu=65.0, demand=None, **more):
    """Return one section as a standard sees it: single numbers."""
    lengths = {"length_major": L, "length_minor": L, "length_torsion": L} | {
        k: more.pop(k) for k in list(more) if k.startswith("length_")
    }
    return MemberCase(
        section=wb.section(section) if isinstance(section, str) else section,
        shape="rolled I",
        Fy=Fy * KSI,
        Fu=Fu * KSI,
        method=method,
        demand=Demand(**({"M_max": 1.0, "M_A": 1.0, "M_B": 1.0, "M_C": 1.0} | (demand or {}))),
        segments=Segments(Lb=Lb),
        **lengths,
        **more,
    )


def capacity(check, *args, **kwargs):
    """Return the available strength of a limit state."""
    with np.errstate(all="ignore"):
        return float(CHECKS[check](case(*args, **kwargs)).capacity)


def utilisation(check, *args, **kwargs):
    """Return the utilisation in a limit state."""
    with np.errstate(all="ignore"):
        return float(CHECKS[check](case(*args, **kwargs)).utilisation)
