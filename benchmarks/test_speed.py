"""Speed as ratios in one run. Run with: pytest benchmarks --benchmark-columns=min,median,ops"""

from __future__ import annotations

import subprocess
import sys
from dataclasses import replace

import numpy as np
import pytest

import welbric as wb
from bare import all_checks
from welbric.jobs import demo_text
from welbric.standards.aisc360 import CHECKS
from welbric.standards.case import Demand, MemberCase, Segments

COMBINATIONS, SEGMENTS = 10, 6  # with 221 sections: 13,000 members, arrays that stay in cache


@pytest.fixture(scope="module")
def case():
    rng = np.random.default_rng(1)
    shape = (1, COMBINATIONS, SEGMENTS)
    M = rng.uniform(0, 4e8, (3, *shape))
    demand = Demand(
        compression=rng.uniform(0, 5e5, shape),
        tension=rng.uniform(0, 5e5, shape),
        V_major=rng.uniform(0, 2e5, shape),
        V_minor=rng.uniform(0, 2e5, shape),
        M_major=M.max(axis=0),
        M_minor=rng.uniform(0, 5e7, shape),
        M_max=M.max(axis=0),
        M_A=M[0],
        M_B=M[1],
        M_C=M[2],
    )
    return MemberCase(
        section=wb.catalogue().as_axis(),
        shape="rolled I",
        Fy=345.0,
        Fu=450.0,
        method="LRFD",
        demand=demand,
        segments=Segments(Lb=rng.uniform(500, 9000, SEGMENTS), free_tip=np.zeros(SEGMENTS, bool)),
        length_major=6000.0,
        length_minor=3000.0,
        length_torsion=3000.0,
        net_area=3000.0,
        shear_lag=0.9,
    )


def welbric_checks(case):
    fresh = replace(case, cache={})
    return [fn(fresh).utilisation for fn in CHECKS.values()]


def bare_checks(c):
    s = c.segments
    return all_checks(
        c.section, c.demand, c.Fy, c.Fu, s.Lb, s.free_tip, c.length_major, c.length_minor,
        c.net_area, c.shear_lag,
    )  # fmt: skip


def test_the_kernel_is_the_same_arithmetic(case):
    with np.errstate(all="ignore"):
        pairs = list(zip(CHECKS, welbric_checks(case), bare_checks(case), strict=True))
    for name, ours, bare in pairs:
        np.testing.assert_allclose(
            ours, np.broadcast_to(bare, np.shape(ours)), rtol=1e-9, err_msg=name
        )


@pytest.mark.benchmark(group="all checks of the catalogue, 10 combinations x 6 segments")
@pytest.mark.parametrize("kernel", [bare_checks, welbric_checks], ids=["bare NumPy", "welbric"])
def test_checks_over_arrays(benchmark, case, kernel):
    with np.errstate(all="ignore"):
        benchmark(kernel, case)
    members = len(wb.catalogue()) * COMBINATIONS * SEGMENTS
    benchmark.extra_info["member checks per second"] = members / benchmark.stats["median"]


@pytest.mark.benchmark(group="one job")
def test_check_the_demo(benchmark):
    job = wb.parse_job(demo_text())
    benchmark(wb.check, job)


@pytest.mark.benchmark(group="one job")
def test_explain_one_member(benchmark):
    table = wb.check(wb.parse_job(demo_text()))
    benchmark(lambda: table.explain("C1").text())


START_UP = {
    "the packages it stands on": "import numpy, scipy.sparse.linalg, pydantic, click, rich",
    "welbric check": (
        "import sys; from welbric.cli import main;"
        "sys.argv = ['welbric', 'check', sys.argv[1]]; main()"
    ),
}


@pytest.mark.benchmark(group="start-up")
@pytest.mark.parametrize("name", START_UP)
def test_start_up(benchmark, tmp_path, name):
    job = tmp_path / "saltmarsh.toml"
    job.write_text(demo_text(), "utf-8")
    command = [sys.executable, "-c", START_UP[name], str(job)]
    run = lambda: subprocess.run(command, capture_output=True, check=False)  # noqa: E731
    benchmark.pedantic(run, rounds=9, warmup_rounds=1)
