"""Short ways to put a section and its forces to a standard, for the tests."""

from __future__ import annotations

import numpy as np

import welbric as wb
from welbric.standards.aisc360.demands import Demand
from welbric.standards.aisc360.options import JobOptions
from welbric.standards.aisc360.routes import checks
from welbric.standards.case import BucklingLengths, Ends, MemberCase, Segments, uniform_effects

KIP, FT, IN, KSI = 4448.2216152605, 304.8, 25.4, 6.894757293168361
KIP_FT = KIP * FT


def case(section="W18X50", Lb=0.0, method="LRFD", L=10 * FT, Fy=50.0, Fu=65.0, demand=None, Cb=None,
         **more):  # fmt: skip
    """Return one section as a standard sees it: single numbers."""
    length = more.pop("length", L)
    lengths = {"length_major": L, "length_minor": L, "length_torsion": L} | {
        k: more.pop(k) for k in list(more) if k in vars(BucklingLengths(0, 0, 0))
    }
    ends = {k: more.pop(k) for k in list(more) if k in vars(Ends())}
    found = wb.section(section) if isinstance(section, str) else section
    if "separate_planes" in more:
        more["options"] = JobOptions(separate_planes=more.pop("separate_planes"))
    segments = {name: more.pop(name) for name in ("top", "free_tip") if name in more}
    return MemberCase(
        section=found,
        shape=found.shape,
        Fy=Fy * KSI,
        Fu=Fu * KSI,
        method=method,
        effects=uniform_effects(),
        reduced=Demand(**({"M_max": 1.0, "M_A": 1.0, "M_B": 1.0, "M_C": 1.0} | (demand or {}))),
        segments=Segments(unbraced=Lb, **segments),
        buckling=BucklingLengths(**lengths),
        ends=Ends(**ends),
        moment_shape=Cb,
        length=length,
        **more,
    )


def capacity(check, *args, **kwargs):
    """Return the available strength of a limit state."""
    with np.errstate(all="ignore"):
        one = case(*args, **kwargs)
        found = checks(one.shape)[check](one).capacity
        return float("nan") if found is None else float(found)


def utilisation(check, *args, **kwargs):
    """Return the utilisation in a limit state."""
    with np.errstate(all="ignore"):
        one = case(*args, **kwargs)
        return float(checks(one.shape)[check](one).utilisation)
