"""Speed as ratios in one run. Run with: pytest benchmarks -n 0."""

from __future__ import annotations

import subprocess
import sys
import tracemalloc
from dataclasses import fields, replace

import numpy as np
import pytest
from scipy.linalg import solveh_banded
from scipy.sparse.linalg import splu

import bare
import welbric as wb
from welbric.analysis.beam import Support, bend
from welbric.analysis.lateral_buckling import Hold, Stiffnesses, buckling, gauss_places, mesh
from welbric.analysis.member_loads import LineLoad, breaks_of
from welbric.documents.typst import as_pdf
from welbric.documents.workbook import workbook
from welbric.files.jobs import demo_text
from welbric.frames.loads import loading_of
from welbric.frames.model import model_of
from welbric.frames.second_order import second_order
from welbric.frames.states import Loads, solve
from welbric.inputs.schedules import read_schedule
from welbric.reports.book import book_bytes
from welbric.reports.book_sheets import book_sheets
from welbric.sections import shapes
from welbric.sections.catalogues import GROUPS, _table
from welbric.sections.published import read_rows
from welbric.sections.table import SectionAxis
from welbric.standards.aisc360.demands import Demand
from welbric.standards.aisc360.routes import CHECKS
from welbric.standards.case import BucklingLengths, Ends, MemberCase, Segments, uniform_effects
from welbric.studies.screening import looks

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
        effects=uniform_effects(),
        reduced=demand,
        segments=Segments(
            unbraced=rng.uniform(500, 9000, SEGMENTS), free_tip=np.zeros(SEGMENTS, bool)
        ),
        buckling=BucklingLengths(6000.0, 3000.0, 3000.0),
        ends=Ends(net_area=3000.0, shear_lag=0.9),
    )


def welbric_checks(case):
    fresh = replace(case, cache={})
    return [fn(fresh).utilisation for fn in CHECKS.values()]


def bare_checks(c):
    s = c.segments
    return bare.all_checks(
        c.section, c.reduced, c.Fy, c.Fu, s.unbraced, s.free_tip,
        c.buckling.length_major, c.buckling.length_minor,
        c.ends.net_area, c.ends.shear_lag,
    )  # fmt: skip


def test_the_kernel_is_the_same_arithmetic(case):
    with np.errstate(all="ignore"):
        ours = dict(zip(CHECKS, welbric_checks(case), strict=True))
        # The kernel has what acts here: no torsion, no holes, no stiffeners.
        idle = {
            *("torsion", "torsional buckling, axis held", "tension flange rupture"),
            *("rupture at flange holes", "shear, end panels", "transverse stiffeners"),
        }
        names = [name for name in ours if name not in idle]
        pairs = list(zip(names, bare_checks(case), strict=True))
    for name, plain in pairs:
        found, expected = np.broadcast_arrays(ours[name], plain)
        np.testing.assert_allclose(found, expected, rtol=1e-9, err_msg=name)


@pytest.mark.benchmark(group="all checks of the catalogue, 10 combinations x 6 segments")
@pytest.mark.parametrize("kernel", [bare_checks, welbric_checks], ids=["bare NumPy", "welbric"])
def test_checks_over_arrays(benchmark, case, kernel):
    with np.errstate(all="ignore"):
        benchmark(kernel, case)
    members = len(wb.catalogue()) * COMBINATIONS * SEGMENTS
    benchmark.extra_info["member checks per second"] = members / benchmark.stats["median"]


CHAPTERS = {  # the checks of each, and the kernel's function
    "D": (("tensile",), lambda c: bare.tension(
        c.section, c.reduced, c.Fy, c.Fu, c.ends.net_area, c.ends.shear_lag)),
    "E": (("flexural buckling", "torsional buckling"), lambda c: bare.compression(
        c.section, c.reduced, c.Fy, c.buckling.length_major, c.buckling.length_minor)),
    "F": (("yielding", "lateral", "flange local", "bending"), lambda c: bare.bending(
        c.section, c.reduced, c.Fy, c.segments.unbraced, c.segments.free_tip)),
    "G": (("shear, web", "shear, flanges"), lambda c: bare.shear(c.section, c.reduced, c.Fy)),
    "H": (("compression and", "tension and"), lambda c: bare_checks(c)),
}  # fmt: skip


@pytest.mark.parametrize("how", ["bare NumPy", "welbric"])
@pytest.mark.parametrize("chapter", CHAPTERS)
def test_by_chapter(benchmark, case, chapter, how):
    """Chapter H needs the strengths of D to F: its kernel is the whole one."""
    benchmark.group = f"chapter {chapter}, the catalogue, 10 combinations x 6 segments"
    heads, kernel = CHAPTERS[chapter]
    checks = [fn for name, fn in CHECKS.items() if name.startswith(heads)]
    assert len(checks) >= 2

    def ours():
        fresh = replace(case, cache={})
        return [fn(fresh).utilisation for fn in checks]

    with np.errstate(all="ignore"):
        benchmark(ours if how == "welbric" else lambda: kernel(case))


@pytest.mark.benchmark(group="one job")
def test_check_the_demo(benchmark):
    job = wb.parse_job(demo_text())
    benchmark(wb.check, job)


@pytest.mark.benchmark(group="one job")
def test_explain_one_member(benchmark):
    table = wb.check(wb.parse_job(demo_text()))
    benchmark(lambda: table.explain("C1").text())


def bare_welded_i(d, b1, t1, b2, t2, tw):
    """The arithmetic of `shapes.unequal_i`, written out for three plates."""
    h = d - t1 - t2
    A1, A2, Aw = b1 * t1, b2 * t2, h * tw
    A = A1 + A2 + Aw
    y = (A1 * (d - t1 / 2) + A2 * t2 / 2 + Aw * (t2 + h / 2)) / A
    Ix = A1 * t1**2 / 12 + A1 * (d - t1 / 2 - y) ** 2 + A2 * t2**2 / 12 + A2 * (t2 / 2 - y) ** 2
    Ix += Aw * h**2 / 12 + Aw * (t2 + h / 2 - y) ** 2
    Iy = (t1 * b1**3 + t2 * b2**3 + h * tw**3) / 12
    below = (A / 2 - A2) / tw
    axis = np.where(
        A / 2 <= A2, A / (2 * b2), np.where(A2 + Aw <= A / 2, d - A / (2 * b1), t2 + below)
    )

    def about(low, high, b):
        up = np.maximum(high - axis, 0) ** 2 - np.maximum(low - axis, 0) ** 2
        down = np.maximum(axis - low, 0) ** 2 - np.maximum(axis - high, 0) ** 2
        return b * (up + down) / 2

    Zx = about(d - t1, d, b1) + about(0.0, t2, b2) + about(t2, d - t1, tw)
    Zy = (t1 * b1**2 + t2 * b2**2 + h * tw**2) / 4
    I1, I2, ho = t1 * b1**3 / 12, t2 * b2**3 / 12, d - (t1 + t2) / 2
    J = (b1 * t1**3 + b2 * t2**3 + h * tw**3) / 3 - 0.21 * (t1**4 + t2**4)
    Cw, shear = ho**2 * I1 * I2 / (I1 + I2), t2 / 2 + ho * I1 / (I1 + I2)
    polar = np.sqrt((Ix + Iy) / A + (shear - y) ** 2)
    half = np.maximum(b1, b2) / 2
    moduli = (Ix / (d - y), Ix / y, Iy / half)
    return {"A": A, "I_x": Ix, "I_y": Iy, "Wpl_x": Zx, "Wpl_y": Zy, "J": J, "Cw": Cw}, polar, moduli


@pytest.fixture(scope="module")
def sweep():
    rng = np.random.default_rng(2)
    ranges = ((300, 1500), (100, 400), (8, 40), (100, 400), (8, 40), (5, 25))
    return [rng.uniform(*r, 100_000) for r in ranges]


def test_the_sweep_is_the_same_arithmetic(sweep):
    found = shapes.unequal_i(*sweep)
    for name, value in bare_welded_i(*sweep)[0].items():
        np.testing.assert_allclose(found[name], value, rtol=1e-9, err_msg=name)


@pytest.mark.benchmark(group="100,000 welded I-shapes")
@pytest.mark.parametrize("kernel", [bare_welded_i, shapes.unequal_i], ids=["bare NumPy", "welbric"])
def test_a_sweep_of_shapes(benchmark, sweep, kernel):
    benchmark(kernel, *sweep)


@pytest.mark.benchmark(group="catalogues")
@pytest.mark.parametrize("family", ["W", "UB", "HSS", "2L"])
def test_load_a_catalogue(benchmark, family):
    """W and UB are read; HSS and 2L are computed from their designations."""
    (group, *_) = (group for group in GROUPS if family in group.families)

    def load():
        _table.cache_clear()
        read_rows.cache_clear()
        return group.table()

    benchmark(load)


SPANS, EVERY = 1000, 50


def continuous():
    """A thousand spans under ten load cases, and fifty combinations of them."""
    rng = np.random.default_rng(3)
    joints = np.concatenate([[0.0], np.cumsum(rng.uniform(4000, 9000, SPANS))])
    cases = [
        [LineLoad(a, b, q, q) for a, b, q in zip(joints, joints[1:], row, strict=False)]
        for row in rng.uniform(-5, 20, (10, SPANS))
    ]
    return joints, cases, rng.uniform(0, 1.6, (EVERY, 10))


@pytest.fixture(scope="module")
def beam():
    joints, cases, factors = continuous()
    breaks = breaks_of(joints[-1], cases, joints)
    supports = [Support(float(x)) for x in joints]
    L = np.diff(joints)
    K = np.zeros((2, SPANS + 1))  # slope-deflection: the rotations over the supports
    K[0, :-1] += 4 * 2e13 / L
    K[0, 1:] += 4 * 2e13 / L
    K[1, :-1] = 2 * 2e13 / L
    loads = np.zeros((SPANS + 1, EVERY))
    for c, loaded in enumerate(cases):
        for i, load in enumerate(loaded):
            fixed = load.w_start * L[i] ** 2 / 12
            loads[i] += fixed * factors[:, c]
            loads[i + 1] -= fixed * factors[:, c]
    return breaks, cases, supports, factors, K, loads


def bare_solution(breaks, cases, supports, factors, K, loads):
    return solveh_banded(K, loads, lower=True)


def solved_and_enveloped(breaks, cases, supports, factors, K, loads):
    found = bend(breaks, cases, supports, 2e13).combine(factors)
    x = np.sort(np.concatenate([breaks, found.moment.extreme_places()]))[:: EVERY // 2]
    values = found.moment.at(x, np.zeros(len(x), dtype=bool))
    return values.max(axis=0), values.min(axis=0), values.argmax(axis=0), found


def test_the_thousand_spans_are_the_same(beam):
    *_, found = solved_and_enveloped(*beam)
    turned = found.deflection.coefficients[..., 1] / np.diff(beam[0])
    np.testing.assert_allclose(turned, bare_solution(*beam)[:-1].T, rtol=1e-6, atol=1e-12)


@pytest.mark.benchmark(group="1000 spans, 50 combinations")
@pytest.mark.parametrize(
    "kernel", [bare_solution, solved_and_enveloped], ids=["bare SciPy solution", "welbric"]
)
def test_a_thousand_spans(benchmark, beam, kernel):
    benchmark(kernel, *beam)


@pytest.mark.benchmark(group="critical moment of 300 sections of one member")
@pytest.mark.parametrize("count", [1, 300])
def test_critical_moments(benchmark, count):
    table = wb.catalogue().take(slice(0, count))
    of = Stiffnesses(2e5 * table.I_minor, 77e3 * table.J, 2e5 * table.Cw)
    nodes = mesh(6000.0, [])
    zero = np.zeros_like(gauss_places(nodes))
    holds = [Hold(x, u=True, twist=True) for x in (0.0, 6000.0)]
    benchmark(buckling, nodes, of, zero + 1.0, zero, zero, [], holds)


@pytest.mark.benchmark(group="critical moment of 300 sections of one member")
def test_one_dense_eigenvalue_solution(benchmark):
    """Of the size of one member's matrices, for the ratio."""
    matrix = np.random.default_rng(4).normal(size=(32, 32))
    benchmark(np.linalg.eigh, matrix + matrix.T)


def beam_of_ten_segments():
    """A member with 50 combinations and ten segments, for the whole catalogue."""
    member = wb.Member(
        mark="B", section="W18X50", span="40 ft", restraint={"top": {"every": "4 ft"},
                                                             "bottom": {"every": "4 ft"}},
        load=[{"case": case, "line": "0.5 kip/ft"} for case in ("dead", "live", "snow", "wind")]
        + [{"case": "wind", "compression": "20 kip", "reversible": True}],
    )  # fmt: skip
    more = [f"{1 + i / 50:.2f}D + {1.6 - i / 50:.2f}L" for i in range(60)]
    job = wb.Job(members=[member], combinations=more)
    count = len(wb.check(job)["B"].forces.combinations)
    return wb.Job(members=[member], combinations=more[: 60 - (count - 50)]), member


def bare_catalogue(case):
    """Return the bare kernel's case of the same size: all W, 50 combinations, 10 segments."""
    rng = np.random.default_rng(2)
    shape = (1, 50, 10)
    values = {f.name: rng.uniform(1e4, 1e6, shape) for f in fields(Demand)}
    sections = wb.wished("W")
    names = sections[0].properties
    axis = SectionAxis(
        {n: np.array([s.properties[n] for s in sections])[:, None, None] for n in names}
    )
    held = Segments(unbraced=np.full(10, 1219.2), free_tip=np.zeros(10, bool))
    return replace(case, section=axis, reduced=Demand(**values), segments=held)


@pytest.mark.benchmark(group="one member, all W, 50 combinations x 10 segments")
@pytest.mark.parametrize("how", ["bare NumPy, demands given", "welbric, from the loads"])
def test_one_member_and_the_whole_catalogue(benchmark, case, how):
    if how.startswith("bare"):
        many = bare_catalogue(case)
        with np.errstate(all="ignore"):
            benchmark(bare_checks, many)
        return
    job, member = beam_of_ten_segments()
    sections = wb.wished("W")
    assert len(wb.check(job)["B"].forces.combinations) == 50
    found = benchmark(looks, job, member, sections)
    assert len(found) == len(sections)


@pytest.mark.benchmark(group="one member, all W, 50 combinations x 10 segments")
def test_choosing_for_it(benchmark):
    job, _ = beam_of_ten_segments()
    benchmark(wb.size, job, ["B"], "W")


def members_of(count, given):
    """Return beams that differ in section, span and loads; or in forces combined elsewhere."""
    rng = np.random.default_rng(5)
    names = [s.name for s in wb.wished("W")]
    found = []
    for i in range(count):
        span, w, P = rng.uniform(15, 35), rng.uniform(0.2, 1.0), rng.uniform(1, 9)
        fields = {"mark": f"M{i}", "section": names[rng.integers(len(names))]}
        if given:
            forces = {"moment_major": f"{9 * w:.2f} kip ft", "shear_major": f"{P:.2f} kip"}
            fields["forces"] = [{"name": "F", "compression": f"{9 * P:.2f} kip", **forces}]
        else:
            fields["load"] = [
                {"case": "dead", "line": f"{w:.3f} kip/ft"},
                {"case": "live", "line": f"{w:.3f} kip/ft"},
                {"case": "live", "point": f"{P:.2f} kip", "at": "8 ft"},
            ]
            fields["deflection"] = {"live": 360}
        found.append(wb.Member(span=f"{span:.2f} ft", **fields))
    return found


@pytest.mark.benchmark(group="200 members")
@pytest.mark.parametrize("given", [False, True], ids=["loaded", "with given forces"])
@pytest.mark.parametrize("how", ["one by one", "together"])
def test_members(benchmark, given, how):
    members = members_of(200, given)
    jobs = [members] if how == "together" else [[member] for member in members]
    jobs = [wb.Job(members=some) for some in jobs]
    benchmark.pedantic(lambda: [wb.check(job) for job in jobs], rounds=3, warmup_rounds=1)


def schedule_of(count):
    rng = np.random.default_rng(3)
    names = wb.catalogue().names
    heads = ["mark", "section", "length (ft)", "unbraced_length (ft)", "compression (kip)",
             "moment_major (kip ft)", "shear_major (kip)", "moment_shape"]  # fmt: skip
    rows = [
        [
            f"M{i}",
            names[rng.integers(len(names))],
            *(f"{v:.2f}" for v in rng.uniform(1, 50, 5)),
            "1.1",
        ]
        for i in range(count)
    ]
    return [(i, row) for i, row in enumerate([heads, *rows], 1)]


@pytest.mark.benchmark(group="a schedule of 10,000 rows")
@pytest.mark.parametrize("what", ["read", "check"])
def test_a_schedule(benchmark, what):
    cells = schedule_of(10_000)
    if what == "read":
        benchmark.pedantic(read_schedule, (cells, "s.csv"), rounds=5)
    else:
        benchmark.pedantic(wb.check_schedule, (read_schedule(cells, "s.csv"),), rounds=5)
    benchmark.extra_info["rows per second"] = 10_000 / benchmark.stats["median"]


@pytest.mark.benchmark(group="a schedule of 100,000 rows")
def test_a_long_schedule(benchmark):
    schedule = read_schedule(schedule_of(100_000), "s.csv")
    benchmark.pedantic(wb.check_schedule, (schedule,), rounds=2)
    tracemalloc.start()
    wb.check_schedule(schedule)
    benchmark.extra_info["peak MB while checking"] = tracemalloc.get_traced_memory()[1] / 1e6
    tracemalloc.stop()


@pytest.mark.benchmark(group="a full book of 60 members")
@pytest.mark.parametrize("what", ["Typst alone", "whole, from members"])
def test_a_book(benchmark, what):
    job = wb.Job(members=members_of(60, False))
    source = book_bytes(wb.check(job), ".typ", "full").decode()
    if what == "Typst alone":
        benchmark.pedantic(as_pdf, (source,), rounds=1)
    else:
        benchmark.pedantic(lambda: book_bytes(wb.check(job), ".pdf", "full"), rounds=1)


@pytest.mark.benchmark(group="a workbook of 500 members")
def test_a_workbook(benchmark):
    table = wb.check(wb.Job(members=members_of(500, False)))
    benchmark.pedantic(lambda: workbook(book_sheets(table)), rounds=2)


def frame_of(bays, storeys, order, divisions=1, ways=({},)):
    """Return a frame in space of so many bays each way, its model and its loads.

    ``ways`` is what each load of the wind has besides.
    """
    loads = [{"case": case, "line": "8 kN/m"} for case in ("dead", "live")]
    beam = {"section": "IPE400", "steel": "S355", "role": "beam", "load": loads}
    hall = {"mark": "H", "bays_x": ["6 m"] * bays, "bays_y": ["5 m"] * bays,
            "storeys": ["4 m"] * storeys, "beams_x": beam, "beams_y": beam,
            "columns": {"section": "HEB300", "steel": "S355"}}  # fmt: skip
    push = [{"joint": f"H.0.{j}.{k}", "case": "wind", "x": "10 kN"}
            for j in range(bays + 1) for k in range(1, storeys + 1)]  # fmt: skip
    push = [load | more for load in push for more in ways]
    job = wb.Job(standard="EN 1993-1-1", building=[hall], joint_load=push,
                 loading={"standard": "EN 1990", "live_category": "B"},
                 frame={"second_order": order, "divisions": divisions})  # fmt: skip
    frame = job.members[0].frame
    model = model_of(frame)
    return job, model, loading_of(frame, model)


def factored(model):
    """Return how many freedoms a frame has, and what bare SciPy solves it with, at its fastest."""
    matrix = model.elastic.sparse(model.held)

    def solve_bare(loads):
        # Pivots on the diagonal, ordered for symmetric matrices, columns not taken together early.
        found = splu(matrix, "MMD_AT_PLUS_A", diag_pivot_thresh=0.0, relax=1, panel_size=10,
                     options={"SymmetricMode": True})  # fmt: skip
        return found.solve(loads)

    return matrix.shape[0], solve_bare


@pytest.mark.benchmark(group="a frame of 10,000 freedoms, 20 loads, to the first order")
@pytest.mark.parametrize("how", ["factor and solves alone", "model, loads and movements"])
def test_a_frame(benchmark, how):
    job, model, loading = frame_of(9, 12, "first order")
    benchmark.extra_info["members"] = len(job.members)
    if how.startswith("factor"):
        count, bare_solve = factored(model)
        loads = np.random.default_rng(0).standard_normal((count, 20))
        benchmark.pedantic(bare_solve, (loads,), rounds=2)
        return
    factors = np.resize(np.eye(len(loading.keys)), (20, len(loading.keys)))
    loads, frame = Loads.combined(loading, factors), job.members[0].frame
    benchmark.pedantic(solve, setup=lambda: ((model_of(frame), loads), {}), rounds=2)


@pytest.mark.benchmark(group="a frame of 2,000 freedoms, its combinations to the second order")
@pytest.mark.parametrize("how", ["one factor and solve of each, three times", "all of them"])
def test_a_second_order(benchmark, how):
    job, model, loading = frame_of(5, 6, "analysed")
    table = wb.check(job)
    found = table.results[0].forces.combinations
    if how.startswith("one"):
        count, bare_solve = factored(model)
        loads = np.random.default_rng(0).standard_normal((count, 1))
        benchmark.pedantic(lambda: [bare_solve(loads) for _ in range(3 * len(found))], rounds=1)
        return
    frame = job.members[0].frame
    first = solve(model, Loads.combined(loading, np.eye(len(loading.keys))))
    anew = lambda: ((frame, model_of(frame), loading, first, found, 1.0), {})  # noqa: E731
    benchmark.pedantic(second_order, setup=anew, rounds=2)


@pytest.mark.benchmark(group="1,900 members of a frame under 48 combinations to the second order")
@pytest.mark.parametrize("how", ["checked, its forces known", "analysed and checked"])
def test_a_large_frame(benchmark, how):
    ways = [{"alternative": f"from {n}", "reversible": True} for n in range(3)]

    def anew():
        return (frame_of(9, 10, "analysed", ways=ways)[0],), {}

    if how.startswith("checked"):  # once more: the analysis is there
        (job,), _ = anew()
        known = wb.check(job)
        benchmark.extra_info["combinations"] = len(known.results[0].forces.combinations)
        benchmark.pedantic(wb.check, (job,), rounds=2)
        return
    benchmark.pedantic(wb.check, setup=anew, rounds=2)


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
