"""Speed of EN 1993-1-1 as ratios in one run. Run with: pytest benchmarks -n 0."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

import bare_en
import welbric as wb
from welbric.sections.table import SectionAxis
from welbric.standards.case import BucklingLengths, Ends, MemberCase, Segments, uniform_effects
from welbric.standards.en1993.demands import Demand
from welbric.standards.en1993.options import LIMIT_STATES, JobOptions
from welbric.standards.en1993.routes import checks

SECTIONS, COMBINATIONS, SEGMENTS = 495, 10, 6
FAMILIES = ("IPE", "HEA", "HEB", "HEM", "UB", "UC", "HL", "HD", "W")
# What the kernel has not: stations along members, torsion of open sections, webs that buckle.
ELSEWHERE = ("forces together, cross-section", "torsion", "shear buckling")
CHECKS = {name: fn for name, fn in checks("rolled I").items() if name not in ELSEWHERE}


@pytest.fixture(scope="module")
def case():
    rng = np.random.default_rng(1)
    members, parts = (1, COMBINATIONS, 1), (1, COMBINATIONS, SEGMENTS)
    listed = [s for family in FAMILIES for s in wb.wished(family) if s.shape == "rolled I"]
    some = listed[:SECTIONS]
    names = set.intersection(*(set(section.properties) for section in some))
    columns = {n: np.array([s.properties[n] for s in some])[:, None, None] for n in names}
    M = rng.uniform(-4e8, 4e8, (5, *parts))
    most = np.abs(M).max(axis=0)
    along = {
        f"{axis}_{place}": rng.uniform(-size, size, members)
        for axis, size in (("y", 1e8), ("z", 1e7))
        for place in ("start", "middle", "end")
    }
    demand = Demand(
        compression=rng.uniform(0, 5e5, members),
        V_major=rng.uniform(0, 2e5, parts),
        V_minor=rng.uniform(0, 2e5, parts),
        tension=0.0 * most,
        M_major=most,
        M_minor=rng.uniform(0, 5e7, members),
        M_top=most,
        M_bottom=most,
        M_max=most,
        M_2=np.abs(M[1]),
        M_3=np.abs(M[2]),
        M_4=np.abs(M[3]),
        y_max=rng.uniform(3e8, 4e8, members),
        z_max=rng.uniform(3e7, 4e7, members),
        s_start=M[0],
        s_middle=M[2],
        s_end=M[4],
        **along,
    )
    return MemberCase(
        section=SectionAxis(columns),
        shape="rolled I",
        Fy=355.0,
        Fu=490.0,
        method=LIMIT_STATES,
        options=JobOptions(),
        effects=uniform_effects(),
        reduced=demand,
        segments=Segments(unbraced=rng.uniform(500, 9000, SEGMENTS)),
        buckling=BucklingLengths(6000.0, 3000.0, 3000.0),
        ends=Ends(net_area=3000.0, shear_lag=0.9),
    )


def welbric_checks(case):
    fresh = replace(case, cache={})
    return [fn(fresh).utilisation for fn in CHECKS.values()]


def bare_checks(c):
    lengths = (c.segments.unbraced, c.buckling.length_major, c.buckling.length_minor)
    ends = (c.ends.net_area, c.ends.shear_lag)
    return bare_en.all_checks(c.section, c.reduced, c.Fy, c.Fu, *lengths, *ends)


def test_the_kernel_is_the_same_arithmetic(case):
    with np.errstate(all="ignore"):
        pairs = zip(CHECKS, welbric_checks(case), bare_checks(case), strict=True)
    for name, ours, plain in pairs:
        found, expected = np.broadcast_arrays(ours, plain)
        np.testing.assert_allclose(found, expected, rtol=1e-9, err_msg=name)


@pytest.mark.benchmark(group="EN 1993-1-1: 495 sections, 10 combinations x 6 segments")
@pytest.mark.parametrize("kernel", [bare_checks, welbric_checks], ids=["bare NumPy", "welbric"])
def test_checks_over_arrays(benchmark, case, kernel):
    with np.errstate(all="ignore"):
        benchmark(kernel, case)
