"""Parts of frames: springs in ends, supports that move, members that carry one way, drift."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from test_frames import E, frame, joint, piece, result, under
from welbric.checking.frames import frame_results

L, W = 6000.0, 20.0  # mm, N/mm
EI = E * wb.section("IPE300").I_major
SPRING = "{:.9g} N mm / rad"


def spanning(springs=None, ends=("fixed", "fixed"), **more):
    """Return a frame of one beam between two rigid supports."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", L, 0, support="fixed")]
    load = [{"case": "dead", "line": f"{W} kN/m"}]
    if springs is not None:
        more["end_springs"] = [SPRING.format(k) for k in springs]
    return frame(
        joints, [piece("M", "A", "B", section="IPE300", load=load, ends=list(ends), **more)]
    )


@pytest.mark.parametrize("ratio", [0.2, 1.0, 5.0, 40.0])
def test_springs_at_both_ends(ratio):
    """End moments of a beam with k = ratio EI / L at each end: w L^2 / 12 / (1 + 2 / ratio)."""
    k = ratio * EI / L
    _, _, V, M = result(spanning((k, k)), "M")
    end = -W * L**2 / 12 / (1 + 2 / ratio)
    assert M[0] == pytest.approx(end, rel=1e-9)
    assert M[-1] == pytest.approx(end, rel=1e-9)
    assert M.max() == pytest.approx(W * L**2 / 8 + end, rel=1e-9)
    assert V[0] == pytest.approx(W * L / 2)


def test_a_spring_at_one_end():
    """Held firmly at its start, by k at its end: slope-deflection with M = k theta there."""
    k = 3.0 * EI / L
    fixed = W * L**2 / 12
    theta = fixed / (4 * EI / L + k)  # of the end
    _, _, _, M = result(spanning((1e6 * EI / L, k)), "M")
    assert M[-1] == pytest.approx(-k * theta, rel=1e-5)
    assert M[0] == pytest.approx(-(fixed + 2 * EI / L * theta), rel=1e-5)


def test_springs_from_pinned_to_fixed():
    for stiff, ends in ((0.0, ("pinned", "pinned")), (1e9 * EI / L, ("fixed", "fixed"))):
        _, _, _, M = result(spanning((stiff, stiff)), "M")
        _, _, _, plain = result(spanning(ends=ends), "M")
        assert np.allclose(M, plain, rtol=1e-6, atol=1e-6 * W * L**2)


@pytest.mark.parametrize("second_order", ["first order", "analysed"])
def test_an_end_that_slides(second_order):
    """Held at its start, free to slide but not to turn at its end, by closed form."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", L, 0, support="fixed")]
    P = 10e3
    load = [{"case": "dead", "line": f"{W} kN/m"},
            {"case": "dead", "point": f"{P} N", "at": f"{L} mm"}]  # fmt: skip
    one = piece("M", "A", "B", section="IPE300", load=load, end_releases=[[], ["shear major"]])
    job = frame(joints, [one], second_order=second_order)
    _, N, V, M = result(job, "M")
    assert M[0] == pytest.approx(-W * L**2 / 3 - P * L / 2, rel=1e-9)
    assert M[-1] == pytest.approx(W * L**2 / 6 + P * L / 2, rel=1e-9)
    assert V[[0, -1]] == pytest.approx([W * L + P, P], rel=1e-9, abs=1e-3)
    assert not N.any()
    solved = wb.check(job)["M"]
    assert not any(row.id == "sliding-end" for row in solved.rows)  # nothing compresses it
    deflection = solved.cases.frame.combined(solved.forces.combinations).major.deflection
    c = under(solved)
    end = deflection.at(np.array([L]), np.array([False]))[c, 0]
    assert end == pytest.approx(W * L**4 / (24 * EI) + P * L**3 / (12 * EI), rel=1e-9)
    pressed = one | {"load": [*load, {"case": "dead", "compression": "5 kN", "at": "3 m"}]}
    rows = wb.check(frame(joints, [pressed], second_order=second_order))["M"].rows
    assert any(row.id == "sliding-end" and row.status == "outside" for row in rows)


@pytest.mark.parametrize(
    ("releases", "at_start"), [([], 0.5), ([[], ["torsion"]], 1.0), ([["torsion"], []], 0.0)]
)
def test_an_end_that_twists_apart(releases, at_start):
    """A torque in the middle goes to both ends, or to the one that holds it."""
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", L, 0, 0, support="fixed")]
    load = [{"case": "dead", "torque": "4 kN m", "at": "3 m"}]
    one = piece("M", "A", "B", section="SHS150X150X8 EN10210", load=load, end_releases=releases)
    found = wb.check(frame(joints, [one]))["M"]
    T = found.forces.T[under(found)]
    assert abs(T[0]) == pytest.approx(at_start * 4e6, rel=1e-9, abs=1e-3)
    assert abs(T[-1]) == pytest.approx((1 - at_start) * 4e6, rel=1e-9, abs=1e-3)
    assert abs(T[0] - T[-1]) == pytest.approx(4e6, rel=1e-9)
    assert any("twists apart" in note for note in found.notes) == bool(releases)


@pytest.mark.parametrize(
    ("releases", "words"),
    [
        ([["torsion"], ["torsion"]], "torsion at both ends: nothing would hold it"),
        ([["torsion"]], "two lists, of its start and of its end"),
        ([["torsion"], []], "torsion: nothing moves so within a plane frame"),
        ([["shear minor"], []], "shear minor: nothing moves so within a plane frame"),
        ([["shear"], []], "end_releases"),
    ],
)
def test_releases_that_are_none(releases, words):
    joints = [joint("A", 0, 0, support="fixed"), joint("B", L, 0, support="fixed")]
    with pytest.raises(wb.InputError, match="member 1.*end_releases") as caught:
        frame(joints, [piece("M", "A", "B", end_releases=releases)])
    assert words in str(caught.value)


def test_a_sway_frame_with_springs_buckles_as_its_equation_says():
    """A column, fixed at its foot, with a spring to a rigid link that slides at its head.

    k L / EI = -a / tan(a) with a = L sqrt(P / EI): free to turn at 0, guided at infinity.
    """
    from scipy.optimize import brentq

    I = wb.section("HEA200").I_major  # noqa: E741
    k = 2.0 * E * I / L
    a = brentq(lambda a: 2.0 * math.tan(a) + a, 0.5 * math.pi + 1e-9, math.pi - 1e-9)
    # The head moves sideways; a stiff, pinned-free beam on a roller keeps the joint from turning.
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["turn y"])]
    column = piece("C", "A", "B", role="column", end_springs=[SPRING.format(v) for v in (1e16, k)])
    P = 0.5 * a**2 * E * I / L**2
    push = [{"joint": "B", "case": "dead", "z": f"{-P} N"}]
    job = frame(joints, [column], push, second_order="analysed", divisions=8)
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0D")
    level = 1.0 / 0.8 if job.design.stability == "direct analysis" else 1.0
    assert found.share[c] == pytest.approx(0.5 * level, rel=1e-3)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"end_springs": ["1 kN m/rad"]}, "two springs"),
        ({"end_springs": ["-1 kN m/rad", "1 kN m/rad"]}, "none less than zero"),
        ({"end_springs": ["1 kN m/rad"] * 2, "ends": ["pinned", "fixed"]}, "are its springs"),
        ({"carries": "tension"}, "combination by combination"),
    ],
)
def test_parts_that_do_not_fit(change, words):
    joints = [joint("A", 0, 0, support="fixed"), joint("B", L, 0, support="fixed")]
    with pytest.raises(wb.InputError, match=words):
        frame(joints, [piece("M", "A", "B") | change])


@pytest.mark.parametrize("key", ["carries", "end_springs"])
def test_parts_of_frames_do_not_go_with_members_alone(key):
    value = {"carries": "tension", "end_springs": ["1 kN m/rad"] * 2}[key]
    with pytest.raises(wb.InputError, match="goes with through"):
        wb.Member(mark="M", section="IPE300", span="5 m", **{key: value})


# Supports that move


def test_a_support_that_settles():
    """Two equal spans over a middle support that sinks by d: M = 3 EI d / L^2 there."""
    d = 12.0
    joints = [joint("A", 0, 0, support="pinned"), joint("B", L, 0, support=["z"]),
              joint("C", 2 * L, 0, support=["z"])]  # fmt: skip
    moves = [{"joint": "B", "case": "dead", "move_z": f"{-d} mm"}]
    job = frame(joints, [piece("M", "A", "B", "C", section="IPE300")], moves)
    _, _, V, M = result(job, "M")
    assert M.max() == pytest.approx(3 * EI * d / L**2, rel=1e-9)
    assert V[0] == pytest.approx(3 * EI * d / L**3, rel=1e-9)
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0D")
    assert found.moved[c, 1, 2] == pytest.approx(-d)
    assert found.residual.max() < 1e-9
    # To the second order where nothing is pressed: the same.
    job = frame(joints, [piece("M", "A", "B", "C", section="IPE300")], moves,
                second_order="analysed")  # fmt: skip
    assert result(job, "M")[3].max() == pytest.approx(3 * EI * d / L**2, rel=1e-6)


def test_all_supports_that_move_alike_do_nothing():
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000), joint("C", L, 4000),
              joint("D", L, 0, support="pinned")]  # fmt: skip
    members = [piece("AB", "A", "B", role="column"), piece("BC", "B", "C"),
               piece("DC", "D", "C", role="column")]  # fmt: skip
    moves = [{"joint": name, "case": "dead", "move_z": "-30 mm", "move_x": "8 mm"}
             for name in "AD"]  # fmt: skip
    for mark in ("AB", "BC", "DC"):
        forces = wb.check(frame(joints, members, moves))[mark].forces
        assert not forces.combinations or np.abs(forces.M_major).max() < 1e-3


@pytest.mark.parametrize(
    ("load", "words"),
    [
        ({"joint": "B", "move_z": "1 mm"}, "B is not held along z"),
        ({"joint": "A", "move_y": "1 mm"}, "across the plane"),
    ],
)
def test_movements_of_what_is_not_held(load, words):
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000)]
    with pytest.raises(wb.InputError, match=words):
        frame(joints, [piece("M", "A", "B")], [load | {"case": "dead"}])


# Members that carry one way only

H, WIDE, TALL = 40e3, 5000.0, 3000.0


def braced(carries="tension", push=H, loads=None, **more):
    """Return a pin-jointed bay with crossed braces, pushed at its top."""
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, TALL),
              joint("C", WIDE, TALL), joint("D", WIDE, 0, support="pinned")]  # fmt: skip
    pins = {"ends": ["pinned", "pinned"]}
    members = [
        piece("AB", "A", "B", role="column", **pins), piece("BC", "B", "C", **pins),
        piece("DC", "D", "C", role="column", **pins),
        piece("AC", "A", "C", role="brace", section="SHS90X90X5 EN10219", carries=carries),
        piece("DB", "D", "B", role="brace", section="SHS90X90X5 EN10219", carries=carries),
    ]  # fmt: skip
    pushed = [{"joint": "B", "case": "wind", "x": f"{push} N"}]
    return frame(joints, members, loads or pushed, second_order="analysed", **more)


@pytest.mark.parametrize("push", [H, -H])
def test_crossed_braces_that_carry_tension_alone(push):
    """The one that is pulled takes it all, by statics to the first order; the other nothing."""
    table = wb.check(braced(push=push))
    pulled, slack = ("AC", "DB") if push > 0 else ("DB", "AC")
    cosine = WIDE / math.hypot(WIDE, TALL)
    c = under(table[pulled], "1.0W")
    assert table[pulled].forces.N[c].max() == pytest.approx(H / cosine, rel=0.01)
    assert abs(table[slack].forces.N[c]).max() < 1e-3 * H
    assert not any("compression" in row.name for row in table[slack].rows if row.utilisation > 0.01)


def test_a_bay_whose_braces_gravity_slackens_leans_on_one_of_them():
    """In exact symmetry, nothing pushing: it stands by P-delta of what it leans, and no more."""
    table = wb.check(
        braced(loads=[{"joint": name, "case": "dead", "z": "-400 kN"} for name in "BC"])
    )
    assert not any(row.id == "stability" for one in table for row in one.rows)
    c = under(table["AC"], "1.0D")
    N = {mark: table[mark].forces.N[c].max() for mark in ("AC", "DB")}
    assert min(abs(one) for one in N.values()) < 1.0
    # Columns shorten by PL/EA; the bay leans until one brace is as long as it was.
    shorter = 400e3 * TALL / (E * wb.section("HEA200").A)
    lean = shorter * TALL / WIDE
    pushed = 800e3 * (lean / TALL + 1e-4)  # and the trace that pushes it
    assert max(N.values()) == pytest.approx(pushed * math.hypot(WIDE, TALL) / WIDE, rel=0.02)


@pytest.mark.parametrize(("carries", "mark"), [("tension", "DB"), ("compression", "AC")])
def test_how_often_a_brace_takes_nothing_is_said(carries, mark):
    """One of a pair under each sense of wind, and what gravity leaves."""
    table = wb.check(braced(carries))
    found = table[mark]
    N = found.forces.N[:, len(found.forces.x[0]) // 2]
    nothing = int((np.abs(N) < 1e-3 * np.abs(N).max()).sum())
    words = f"carries {carries} alone: takes nothing under {nothing} of {len(N)} combinations"
    assert words in found.notes
    assert not [one for one in wb.check(braced("both"))[mark].notes if "alone: takes" in one]


def test_they_carry_what_they_would_without_the_slack_one():
    whole = braced()
    left = wb.Job(standard=whole.standard, joint=whole.joints, joint_load=whole.joint_loads,
                  frame=whole.frame, combinations=whole.combinations,
                  member=[piece("AB", "A", "B", role="column", ends=["pinned", "pinned"]),
                          piece("BC", "B", "C", ends=["pinned", "pinned"]),
                          piece("DC", "D", "C", role="column", ends=["pinned", "pinned"]),
                          piece("AC", "A", "C", role="brace",
                                section="SHS90X90X5 EN10219")])  # fmt: skip
    a, b = wb.check(whole), wb.check(left)
    for mark in ("AB", "BC", "DC", "AC"):
        c = under(a[mark], "1.0W")
        # The slack one keeps a millionth of its stiffness.
        ends = [one[mark].forces.N[c][[0, -1]] for one in (a, b)]
        assert np.allclose(*ends, atol=2e-5 * H)
    assert frame_results(whole).residual.max() < 1e-6


def test_compression_alone_is_the_mirror_of_tension_alone():
    table = wb.check(braced("compression"))
    cosine = WIDE / math.hypot(WIDE, TALL)
    c = under(table["DB"], "1.0W")
    assert table["DB"].forces.N[c].min() == pytest.approx(-H / cosine, rel=0.01)
    assert abs(table["AC"].forces.N[c]).max() < 1e-3 * H


def test_both_share_where_both_carry():
    table = wb.check(braced("both"))
    cosine = WIDE / math.hypot(WIDE, TALL)
    c = under(table["AC"], "1.0W")
    N = [table[mark].forces.N[c].mean() for mark in ("AC", "DB")]
    assert N[0] - N[1] == pytest.approx(H / cosine, rel=0.01)
    assert N[1] < -0.3 * H


# Drift


def cantilever(**more):
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, TALL), joint("C", 0, 2 * TALL)]
    push = [{"joint": "C", "case": "wind", "x": "10 kN"}]
    job = {"standard": "EN 1993-1-1", "loading": {"standard": "EN 1990", "live_category": "A"}}
    return wb.Job(joint=joints, member=[piece("M", "A", "B", "C", role="column")], joint_load=push,
                  **(job | {"frame": {"second_order": "first order"}} | more))  # fmt: skip


def test_drift_of_the_storey_that_drifts_most():
    """A cantilever of one column: its one storey is all of it, P h^3 / 3 EI."""
    job = cantilever(frame={"second_order": "first order", "drift": {"wind": "H/300"}})
    (row,) = [row for row in wb.check(job)["M"].rows if row.id == "drift-wind"]
    column = 210_000 * wb.section("HEA200").I_major
    P, h = 10e3, TALL
    upper = P * (2 * h) ** 3 / (3 * column) - P * h**2 / (6 * column) * (3 * 2 * h - h)
    assert row.demand == pytest.approx(upper, rel=1e-6)
    assert row.capacity == pytest.approx(h / 300)
    assert row.utilisation == pytest.approx(upper * 300 / h, rel=1e-6)
    assert row.status == "over"
    assert row.place == pytest.approx(2 * h)


def test_storeys_between_levels_that_are_said():
    """Half of the column is a storey: its top moves P h^2 / 6 EI * 5 h against its foot."""
    said = {"second_order": "first order", "drift": {"wind": 300}}
    job = cantilever(frame=said | {"levels": ["0 m", f"{TALL} mm"]})
    (row,) = [row for row in wb.check(job)["M"].rows if row.id == "drift-wind"]
    moves = 10e3 * TALL**2 / (6 * 210_000 * wb.section("HEA200").I_major) * 5 * TALL
    assert (row.demand, row.place) == pytest.approx((moves, TALL), rel=1e-6)
    for levels, words in (
        (["0 m", "1 m"], r"frame, levels: no joint is at 1,?000 mm|1 m"),
        (["0 m"], "two heights at least"),
        (["4 m", "0 m"], "the lowest first"),
    ):
        with pytest.raises(wb.InputError, match=words):
            cantilever(frame=said | {"levels": levels})


@given(st.floats(50, 900), st.sampled_from(["wind", "total"]))
@settings(max_examples=8, deadline=None)
def test_drift_is_worked_out_as_it_is_compared(n, kind):
    job = cantilever(frame={"second_order": "analysed", "drift": {kind: n}})
    table = wb.check(job)
    rows = [row for row in table["M"].rows if row.id.startswith("drift")]
    for row in rows:
        part = next(p for p in table.explain("M", row.id).parts if p.row.id == row.id)
        assert part.entries[-1].result == pytest.approx(row.utilisation)
    assert rows


def test_drift_goes_with_the_second_order():
    """Weight on the head of a column amplifies what pushes it by 1 / (1 - P / Pcr), nearly."""
    column = 210_000 * wb.section("HEA200").I_major
    critical = math.pi**2 * column / (4 * (2 * TALL) ** 2)
    weight = [{"joint": "C", "case": "dead", "z": f"{-0.4 * critical} N"}]
    drifts = []
    for order in ("first order", "analysed"):
        job = cantilever(frame={"second_order": order, "drift": {"total": 300}})
        more = wb.Job(standard=job.standard, loading={"standard": "EN 1990", "live_category": "A"},
                      joint=job.joints, frame=job.frame,
                      member=[piece("M", "A", "B", "C", role="column")],
                      joint_load=[*job.joint_loads, *weight])  # fmt: skip
        rows = [row for row in wb.check(more)["M"].rows if row.id == "drift-total"]
        drifts.append(rows[0].demand)
    assert drifts[1] / drifts[0] == pytest.approx(1 / (1 - 0.4), rel=0.06)


def test_slack_braces_count_in_drift():
    """With one brace slack the bay gives way as one brace lets it, not two."""
    more = {"standard": "EN 1993-1-1", "loading": {"standard": "EN 1990", "live_category": "A"}}
    found = {}
    for carries in ("tension", "both"):
        one = braced(carries)
        chosen = {"second_order": "analysed", "drift": {"wind": 300}, "imperfections": False}
        job = wb.Job(joint=one.joints, joint_load=one.joint_loads, frame=chosen,
                     member=[m.model_dump(exclude_defaults=True, by_alias=True) | {
                         "section": m.section.name, "steel": "S355", "spans": [],
                         "span": None, "second_order": "amplified", "inclination": None}
                         for m in one.members], **more)  # fmt: skip
        rows = [row for r in wb.check(job) for row in r.rows if row.id == "drift-wind"]
        found[carries] = max(row.demand for row in rows)
    assert 1.6 < found["tension"] / found["both"] < 2.3


def test_a_kind_of_drift_that_the_loading_does_not_have():
    with pytest.raises(wb.InputError, match=r"frame, drift, frequent: goes with other loading"):
        wb.Job(standard="AISC 360-22", frame={"drift": {"frequent": 300}},
               joint=[joint("A", 0, 0, support="fixed"), joint("B", 0, TALL)],
               member=[piece("M", "A", "B", role="column")])  # fmt: skip


# Joints that may not move far


def two_bars(*limits, order="first order", **more):
    """Two bars from supports 8 m apart to a joint 3 m below them, and a weight on it."""
    joints = [joint("A", 0, 3000, support="pinned"), joint("B", 4000, 0),
              joint("C", 8000, 3000, support="pinned")]  # fmt: skip
    bars = [piece(mark, *ends, role="hanger", connection={"shear_lag": {"through": "all"}})
            for mark, ends in (("AB", "AB"), ("BC", "BC"))]  # fmt: skip
    weight = [{"joint": "B", "case": "live", "z": "-90 kN"}]
    job = {"standard": "EN 1993-1-1", "loading": {"standard": "EN 1990", "live_category": "A"}}
    chosen = {"second_order": order, "imperfections": False}
    return wb.Job(joint=joints, member=bars, joint_load=weight, joint_limit=list(limits),
                  frame=chosen, **(job | more))  # fmt: skip


def test_a_joint_that_two_bars_carry():
    """Each bar stretches by P / (2 sin a) L / EA; the joint sinks by that over sin a."""
    sine, length = 0.6, 5000.0
    sinks = 90e3 * length / (2 * 210_000 * wb.section("HEA200").A * sine**2)
    table = wb.check(two_bars({"joint": "B", "along": "z", "of": "8 m", "live": ["L/500", "1 mm"],
                               "total": "L/400"}))  # fmt: skip
    for bar in ("AB", "BC"):  # none goes on beyond it
        live, total = (row for row in table[bar].rows if row.id.startswith("movement"))
        assert (live.id, total.id) == ("movement-live", "movement-total")
        assert live.demand == total.demand == pytest.approx(sinks, rel=1e-4)
        assert (live.capacity, total.capacity) == pytest.approx((1.0, 20.0))
        assert live.utilisation == pytest.approx(sinks, rel=1e-4)
        assert live.remark == f"B along z, 1/{8000 / sinks:.0f}"
        part = next(p for p in table.explain(bar, live.id).parts if p.row.id == live.id)
        assert part.entries[-1].result == pytest.approx(live.utilisation)
    assert table["AB"].rows[-1].place == pytest.approx(length)
    assert table["BC"].rows[-1].place == pytest.approx(0.0)


def test_a_joint_against_another():
    """A cantilever of one column: what its middle is behind its head."""
    limit = {"joint": ["C", "B"], "along": "x", "wind": "10 mm"}
    column = 210_000 * wb.section("HEA200").I_major
    P, h = 10e3, TALL
    head, middle = P * (2 * h) ** 3 / (3 * column), P * h**2 / (6 * column) * 5 * h
    for more, moves in (({}, head), ({"joint": "B", "against": "C"}, head - middle)):
        table = wb.check(cantilever(joint_limit=[limit | more]))
        (row,) = [row for row in table["M"].rows if row.id == "movement-wind"]
        assert row.demand == pytest.approx(moves, rel=1e-6)
        part = next(p for p in table.explain("M", row.id).parts if p.row.id == row.id)
        assert part.entries[-1].result == pytest.approx(row.utilisation)


@pytest.mark.parametrize(
    ("limit", "words"),
    [
        ({"joint": "X", "live": "9 mm"}, "joint_limit 1, joint: no joint 'X'"),
        ({"against": "X", "live": "9 mm"}, "joint_limit 1, against: no joint 'X'"),
        ({"against": "B", "live": "9 mm"}, "against: a joint does not move against itself"),
        ({"joint": "A", "live": "9 mm"}, "joint_limit 1, joint: A is held along z"),
        ({"along": "y", "live": "9 mm"}, "along: is across the plane of the frame"),
        ({"live": "L/300"}, "of: a share is one of a length"),
        ({"live": "9 mm", "of": "8 m"}, "of: goes with a limit that is a share"),
        ({}, "say a limit: live, total"),
        ({"frequent": "9 mm"}, None),
        ({"live": "0 mm"}, "a limit is greater than zero"),
    ],
)
def test_limits_of_joints_that_cannot_be(limit, words):
    given = {"joint": "B", "along": "z"} | limit
    if words is None:
        assert two_bars(given)
        with pytest.raises(wb.InputError, match="joint_limit 1, frequent: goes with other"):
            two_bars(given, standard="AISC 360-22", loading={})
        return
    with pytest.raises(wb.InputError, match=words):
        two_bars(given)


def test_a_limit_without_a_load_of_its_kind_is_said(tmp_path):
    job = two_bars({"joint": "B", "along": "z", "wind": "9 mm", "live": "9 mm"})
    table = wb.check(job)
    assert "joint_limit 1: the wind limit has no load of its kind" in str(table)
    assert "the live limit" not in str(table)


# Yielding to shear


def yielding(joints, members, loads, **more):
    chosen = {"second_order": "first order", "imperfections": False, "shear": True} | more
    return wb.Job(joint=joints, member=members, joint_load=loads, standard="EN 1993-1-1",
                  frame=chosen, combinations=["1.0D"])  # fmt: skip


@pytest.mark.parametrize("web", ["along x", "along y"])
def test_a_short_cantilever_yields_to_shear(web):
    """P h3 / 3 EI + P h / GA, about either axis."""
    h, push = 900.0, 50e3
    s = wb.section("HEA200")
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, h)]
    job = yielding(joints, [piece("M", "A", "B", role="column", web=web)],
                   [{"joint": "B", "case": "dead", "x": f"{push} N"}])  # fmt: skip
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0D")
    inertia, area = (s.I_major, s.shear_area_y) if web == "along x" else (s.I_minor, s.shear_area_x)
    expected = push * h**3 / (3 * 210_000 * inertia) + push * h / (81_000 * area)
    assert found.moved[c, 1, 0] == pytest.approx(expected, rel=1e-9)
    # Between the ends too, and the section does not turn by what shear does.
    axis = "major" if web == "along x" else "minor"
    cases = wb.check(job)["M"].cases
    bent = getattr(cases, axis)
    x = np.array([h / 2])
    middle = push * (h / 2) ** 2 * (3 * h - h / 2) / (6 * 210_000 * inertia) + push * h / 2 / (
        81_000 * area
    )
    assert abs(bent.deflection.at(x, np.array([False]))[0, 0]) == pytest.approx(middle, rel=1e-9)
    turn = push * h**2 / 2 / (210_000 * inertia)
    assert abs(found.moved[c, 1, 3:]).max() == pytest.approx(turn, rel=1e-9)


@pytest.mark.parametrize("divisions", [1, 3])
def test_a_beam_in_a_frame_yields_as_one_alone_would(divisions):
    """Clamped, a uniform load: w L4 / 384 EI + w L2 / 8 GA, however it is cut."""
    L, w = 2000.0, 200.0
    s = wb.section("IPE300")
    joints = [joint("A", 0, 0, support="fixed"), joint("B", L, 0, support="fixed")]
    beam = piece("M", "A", "B", section="IPE300", load=[{"case": "dead", "line": f"{w} kN/m"}])
    job = yielding(joints, [beam], [], divisions=divisions, second_order="analysed")
    bent = wb.check(job)["M"].cases.major
    expected = w * L**4 / (384 * 210_000 * s.I_major) + w * L**2 / (8 * 81_000 * s.shear_area_y)
    found = bent.deflection.at(np.array([L / 2]), np.array([False]))[0, 0]
    assert found == pytest.approx(expected, rel=1e-9)
    plain = yielding(joints, [beam], [], shear=False)
    less = wb.check(plain)["M"].cases.major.deflection.at(np.array([L / 2]), np.array([False]))[
        0, 0
    ]
    assert less == pytest.approx(w * L**4 / (384 * 210_000 * s.I_major), rel=1e-9)


def test_a_section_whose_shear_area_is_not_known():
    corners = [[f"{x} mm", f"{y} mm"] for x, y in ((0, 0), (90, 0), (90, 150), (0, 150))]
    block = {"shape": "outline", "name": "block", "thickest": "90 mm", "points": corners}
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 3000, 0)]
    job = yielding(joints, [piece("M", "A", "B", section=block)],
                   [{"joint": "B", "case": "dead", "z": "-1 kN"}])  # fmt: skip
    with pytest.raises(wb.InputError, match="shear area of block is not known"):
        wb.check(job)


# What turns without resistance


PINNED = {"ends": ["pinned", "pinned"]}


def test_a_moment_where_every_member_is_pinned_is_refused():
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 3000, 3000, support=["y"]),
              joint("C", 6000, 0, support="pinned")]  # fmt: skip
    members = [piece("1", "A", "B", **PINNED), piece("2", "B", "C", **PINNED)]
    push = [{"joint": "B", "case": "dead", "x": "10 kN"}]
    assert frame_results(frame(joints, members, push)).residual.max() < 1e-9
    turn = [{"joint": "B", "case": "dead", "about_y": "50 kN m"}]
    with pytest.raises(wb.InputError, match="joint B: turns about y without.* and loads turn it"):
        wb.check(frame(joints, members, push + turn))


@pytest.mark.parametrize("axis", ["major", "minor"])
@pytest.mark.parametrize("at", ["0 m", "5 m"])
def test_a_moment_at_a_pinned_end_stays_with_the_member(at, axis):
    load = [{"case": "dead", "moment": "30 kN m", "at": at, "axis": axis}]
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", 5000, 0, 0, support="fixed")]
    job = frame(joints, [piece("G", "A", "B", load=load, **PINNED)])
    alone = wb.Job(standard=job.standard, combinations=job.combinations, member=[
        {"mark": "G", "span": "5 m", "section": "HEA200", "steel": "S355", "self_weight": False,
         "load": load}])  # fmt: skip
    name = "M_major" if axis == "major" else "M_minor"
    for a, b in zip(wb.check(job), wb.check(alone), strict=True):
        row = [under(one, "1.0D") for one in (a, b)]
        own = [getattr(one.forces, name)[c] for one, c in zip((a, b), row, strict=True)]
        largest = np.abs(own[1]).max()
        assert largest == pytest.approx(30e6)
        for x in (0.0, 2500.0, 5000.0):
            values = [
                np.interp(x, one.forces.x[c], moments)
                for one, c, moments in zip((a, b), row, own, strict=True)
            ]
            assert values[0] == pytest.approx(values[1], abs=1e-6 * largest)


def test_what_merely_spins_is_held_and_changes_nothing():
    """Chords that are free to twist, webs that are pinned: joints spin, and nothing comes of it."""
    table = {
        "mark": "B", "span": "12 m", "depth": "1.6 m", "width": "2 m", "panels": 4, "web": "Howe",
        "top": {"section": "HEB200"}, "bottom": {"section": "IPE300"},
        "diagonals": {"section": "CHS76.1X4"}, "verticals": {"section": "IPE200"},
        "cross_beams": {"section": "HEA160"}, "struts": {"section": "CHS76.1X4"},
        "bracing": {"section": "IPE200"},
    }  # fmt: skip
    load = [{"joint": f"B.{side}.b2", "case": "dead", "z": "-40 kN"} for side in (0, 1)]
    found = frame_results(wb.Job(standard="EN 1993-1-1", box_truss=[table], joint_load=load,
                                 defaults={"self_weight": False, "steel": "S355"}))  # fmt: skip
    assert found.residual.max() < 1e-9
    assert np.abs(found.moved).max() < 50


def test_a_mechanism_whose_last_pivot_is_not_small_is_found():
    """Columns pinned at their feet, beams across pinned: nothing keeps it from falling over."""
    grid = {"mark": "H", "bays_x": ["5.4 m"], "bays_y": ["5 m"], "storeys": ["4.8 m", "3.8 m"],
            "supports": "pinned", "columns": {"section": "L80X80X8"},
            "beams_x": {"section": "IPE300"},
            "beams_y": {"section": "CHS76.1X4", **PINNED}}  # fmt: skip
    with pytest.raises(wb.InputError, match="moves along y without resistance"):
        wb.check(wb.Job(standard="EN 1993-1-1", building=[grid], defaults={"steel": "S355"}))


# Which way loads act


@pytest.mark.parametrize("slope", [0.0, 1500.0])
@pytest.mark.parametrize("web", ["upright", "level"])
def test_weights_act_downwards_however_a_member_lies(web, slope):
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", 4000, 3000, slope, support="fixed")]
    load = [{"case": "dead", "line": "6 N/mm"}, {"case": "dead", "point": "8 kN", "at": "2 m"}]
    found = frame_results(frame(joints, [piece("G", "A", "B", web=web, load=load)
                                         | {"self_weight": True}]))  # fmt: skip
    c = [one.name for one in found.combinations].index("1.0D")
    length = math.dist((0, 0, 0), (4000, 3000, slope))
    weight = wb.section("HEA200").mass * 9.80665 * length  # kg/mm
    assert found.applied[c] == pytest.approx([0, 0, -(6 * length + 8e3 + weight)], abs=1.0)
    forces = wb.check(found.frame.job)["G"].forces
    bent, other = ("M_major", "M_minor") if web == "upright" else ("M_minor", "M_major")
    assert np.abs(getattr(forces, bent)).max() > 1e6
    assert not np.any(getattr(forces, other))


@pytest.mark.parametrize("drawn", [1, -1])
@pytest.mark.parametrize(
    ("end", "web", "axis", "towards"),
    [((4000, 0, 0), "upright", "minor", (0, 1, 0)), ((0, 4000, 0), "upright", "minor", (1, 0, 0)),
     ((3200, -2400, 0), "upright", "minor", (0.6, 0.8, 0)),
     ((2400, 3200, 0), "upright", "minor", (0.8, -0.6, 0)),
     ((3200, 0, 2400), "upright", "minor", (0, 1, 0)),
     ((3200, 0, 2400), "upright", "major", (0.6, 0, -0.8)),
     ((3200, 0, 2400), "level", "minor", (0.6, 0, -0.8)),
     ((0, 0, 4000), "along x", "major", (1, 0, 0)), ((0, 0, 4000), "along x", "minor", (0, 1, 0)),
     ((0, 0, 4000), "along y", "major", (0, 1, 0)), ((0, 0, 4000), "along y", "minor", (1, 0, 0))],
)  # fmt: skip
def test_wind_acts_one_way_however_a_member_is_drawn(end, web, axis, towards, drawn):
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", *end, support="fixed")]
    load = [{"case": "wind", "line": "6 N/mm", "axis": axis},
            {"case": "wind", "point": "8 kN", "at": "2 m", "axis": axis}]  # fmt: skip
    found = frame_results(frame(joints, [piece("G", *"AB"[::drawn], web=web, load=load)]))
    c = [one.name for one in found.combinations].index("1.0W")
    assert found.applied[c] == pytest.approx(32e3 * np.array(towards), abs=1e-3)


@pytest.mark.parametrize(
    ("end", "web"),
    [((5000, 0, 0), "along y"), ((5000, 0, 0), "along x"), ((3000, 0, 3000), "along y"),
     ((0, 0, 4000), "upright"), ((0, 0, 4000), "level")],
)  # fmt: skip
def test_a_web_that_is_of_another_kind_of_member_is_refused(end, web):
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", *end, support="fixed")]
    with pytest.raises(wb.InputError, match=f"web: '{web}' is of one that .*; accepted here"):
        frame(joints, [piece("G", "A", "B", web=web)])


@pytest.mark.parametrize("drawn", [1, -1])
@pytest.mark.parametrize("degrees", [12.0, -35.0, 90.0, 160.0])
def test_a_purlin_turned_with_its_roof(degrees, drawn):
    """Weights bend it about both axes, by the cosine and the sine of its angle."""
    joints = [joint(name, 0, y, 3000, support="fixed") for name, y in (("A", 0), ("B", 5000))]
    load = [{"case": "dead", "line": "4 N/mm"}, {"case": "live", "point": "6 kN", "at": "2.5 m"},
            {"case": "wind", "line": "-3 N/mm"}]  # fmt: skip
    purlin = piece("P", *"AB"[::drawn], web=f"{degrees} deg", load=load,
                   ends=["pinned", "pinned"])  # fmt: skip
    found = frame_results(frame(joints, [purlin | {"self_weight": True}]))
    names = [one.name for one in found.combinations]
    weight = 5000 * (4 + wb.section("HEA200").mass * 9.80665)
    assert found.applied[names.index("1.0D")] == pytest.approx([0, 0, -weight], rel=1e-4, abs=1)
    forces = wb.check(found.frame.job)["P"].forces
    cosine, sine = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    for c, whole in (("1.0D", weight * 5000 / 8), ("1.0L", 6e3 * 5000 / 4)):
        c = names.index(c)
        for M, share in ((forces.M_major, cosine), (forces.M_minor, sine)):
            assert np.abs(M[c]).max() == pytest.approx(abs(whole * share), rel=1e-4, abs=1.0)
            assert M[c].sum() * share >= 0
    wind = names.index("1.0W")  # square to the roof, from below
    assert forces.M_major[wind].min() == pytest.approx(-3 * 5000**2 / 8)
    assert not np.any(forces.M_minor[wind])


@pytest.mark.parametrize("angle", ["30 deg", "-120 deg", "90 deg", "0.5 rad"])
def test_a_column_whose_web_stands_askew(angle):
    """Pushed along its web it bends about its major axis alone, across it about its minor."""
    value, unit = angle.split()
    turned = float(value) if unit == "rad" else math.radians(float(value))
    way = np.array([math.cos(turned), math.sin(turned)])
    for push, axis in ((way, "M_major"), (np.array([-way[1], way[0]]), "M_minor")):
        joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", 0, 0, 4000)]
        load = [{"joint": "B", "case": "wind", "x": f"{9 * push[0]} kN", "y": f"{9 * push[1]} kN"}]
        column = piece("C", "A", "B", role="column", web=angle)
        forces = wb.check(frame(joints, [column], load))["C"].forces
        c = [one.name for one in forces.combinations].index("1.0W")
        assert np.abs(getattr(forces, axis)[c]).max() == pytest.approx(36e6)
        other = forces.M_minor if axis == "M_major" else forces.M_major
        assert np.abs(other[c]).max() < 1.0


@pytest.mark.parametrize(
    ("word", "angle", "end"),
    [("level", "90 deg", (4000, 3000, 1000)), ("upright", "0 deg", (4000, 3000, 1000)),
     ("along y", "90 deg", (0, 0, 4000)), ("along x", "0 deg", (0, 0, 4000))],
)  # fmt: skip
def test_words_for_webs_are_angles(word, angle, end):
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", *end, support="fixed")]
    load = [{"case": "dead", "line": "6 N/mm"}, {"case": "wind", "line": "2 N/mm", "axis": "minor"}]
    one, other = (
        wb.check(frame(joints, [piece("G", "A", "B", web=web, load=load)]))["G"].rows
        for web in (word, angle)
    )
    assert one
    for a, b in zip(one, other, strict=True):
        assert (a.id, a.combination) == (b.id, b.combination)
        assert a.utilisation == pytest.approx(b.utilisation, rel=1e-9, nan_ok=True)


@pytest.mark.parametrize(
    ("web", "words"),
    [("30 ft", "web: '30 ft' is not accepted here; accepted: upright, level, along x"),
     ("aslant", "or an angle such as '30 deg'"), (30, "or an angle such as '30 deg'"),
     ("190 deg", "190 deg: a web is turned by -180 to 180 deg")],
)  # fmt: skip
def test_webs_that_are_none(web, words):
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", 4000, 0, 0, support="fixed")]
    with pytest.raises(wb.InputError, match=words):
        frame(joints, [piece("G", "A", "B", web=web)])


def test_a_plane_frame_has_no_webs_askew():
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 4000, 0, support="fixed")]
    with pytest.raises(wb.InputError, match="web: a frame in a plane has no webs askew"):
        frame(joints, [piece("G", "A", "B", web="30 deg")])
    assert frame(joints, [piece("G", "A", "B", web="90 deg")])


def test_decks_act_downwards_on_what_lies_flat():
    joints = [joint(f"{x}{y}", 6000 * x, 4000 * y, 3000, support="fixed")
              for x in (0, 1) for y in (0, 1)]  # fmt: skip
    job = wb.Job(
        standard="EN 1993-1-1", joint=joints, combinations=["1.0W"],
        member=[piece(f"B{y}", f"0{y}", f"1{y}", web="level") for y in (0, 1)],
        deck=[{"level": "3 m", "spans": "along y", "load": [{"case": "wind", "area": "2 kN/m2"}]}],
        frame={"second_order": "first order", "imperfections": False},
    )  # fmt: skip
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0W")
    assert found.applied[c] == pytest.approx([0, 0, -2e-3 * 6000 * 4000])


@pytest.mark.parametrize(
    ("more", "load", "words"),
    [
        ({"load": [{"case": "wind", "line": "3 kN/m", "axis": "minor"}]}, {}, "axis = 'major'"),
        ({"load": [{"case": "wind", "line": "3 kN/m"}], "web": "level"}, {}, "axis = 'minor'"),
        ({"load": [{"case": "dead", "torque": "2 kN m", "at": "1 m"}]}, {}, "a torque turns"),
        ({"load": [{"case": "dead", "moment": "2 kN m", "at": "1 m", "axis": "minor"}]}, {},
         "across the plane"),
        ({}, {"y": "4 kN"}, "y: is across the plane"),
        ({}, {"about_x": "4 kN m"}, "about_x: turns out of the plane"),
        ({}, {"about_z": "4 kN m"}, "about_z: turns out of the plane"),
    ],
)  # fmt: skip
def test_a_plane_frame_has_no_loads_across_its_plane(more, load, words):
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 5000, 0)]
    loads = [{"joint": "B", "case": "dead"} | load] if load else []
    with pytest.raises(wb.InputError, match=words):
        frame(joints, [piece("G", "A", "B") | more], loads)


def test_a_plane_frame_has_no_springs_across_its_plane():
    joints = [joint("A", 0, 0, support="fixed", springs={"y": "2 kN/mm"}), joint("B", 5000, 0)]
    with pytest.raises(wb.InputError, match="joint A, springs, y: is across the plane"):
        frame(joints, [piece("G", "A", "B")])


def test_on_a_column_of_a_plane_frame_whose_web_lies_across_it():
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 5000)]
    load = {"case": "wind", "line": "3 kN/m"}
    with pytest.raises(wb.InputError, match="axis = 'minor'"):
        frame(joints, [piece("G", "A", "B", role="column", web="along y", load=[load])])
    job = frame(joints, [piece("G", "A", "B", role="column", web="along y",
                               load=[load | {"axis": "minor"}])])  # fmt: skip
    forces = wb.check(job)["G"].forces
    assert np.abs(forces.M_minor[under(wb.check(job)["G"], "1.0W")]).max() == pytest.approx(
        3 * 5000**2 / 2
    )


# Angles, whose principal axes are turned


@pytest.mark.parametrize("order", ["first order", "analysed"])
@pytest.mark.parametrize(("role", "outside"), [("brace", False), ("beam", True)])
def test_angles_between_pins_and_angles_that_are_fixed(order, role, outside):
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000, support=["y"]),
              joint("C", 5000, 4000, support=["y"]),
              joint("D", 5000, 0, support="pinned")]  # fmt: skip
    members = [piece("AB", "A", "B", role="column"), piece("BC", "B", "C"),
               piece("DC", "D", "C", role="column"),
               piece("X", "A", "C", role=role, section="L80X80X8")]  # fmt: skip
    push = [{"joint": "B", "case": "wind", "x": "10 kN"}]
    table = wb.check(frame(joints, members, push, order))
    assert any(row.id == "analysis" for row in table["X"].rows) == outside


def test_an_angle_between_pins_sags_as_its_weak_axis_lets_it():
    """Compression on what self-weight and its own second order bend: not less than the truth."""
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 3000, 0, support=["z"])]
    w, P, L = 0.5, 20e3, 3000.0
    load = [{"case": "dead", "line": f"{w} N/mm"}]
    push = [{"joint": "B", "case": "dead", "x": f"{-P} N"}]
    angle = piece("X", "A", "B", role="brace", section="L80X80X8", load=load)
    job = frame(joints, [angle], push, "analysed", divisions=8)
    found = wb.check(job)["X"]
    k = math.sqrt(P / (E * wb.section("L80X80X8").I_minor))
    M = w / k**2 * (1 / math.cos(k * L / 2) - 1)
    assert np.abs(found.forces.M_major[under(found)]).max() == pytest.approx(M, rel=1e-4)
