"""Frames: closed forms, published benchmarks, two methods, invariances, what does not fit."""

from __future__ import annotations

import itertools
import json
import math

import numpy as np
import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st
from matplotlib.text import Text

import welbric as wb
from welbric.checking.frames import buckling_factors, frame_results
from welbric.cli import main
from welbric.files.jobs import demo_text
from welbric.frames.beam_columns import BeamColumns
from welbric.frames.critical import critical_mode
from welbric.frames.solve import free_motion, solution
from welbric.reports.frame_diagrams import diagram_figure, motion_figure, save_frame
from welbric.reports.frame_loads import loads_figure

E = 200_000.0 * 0 + 29_000 * 6.894757293168361  # MPa, of AISC
LOADS = ("top", "shear centre")


def joint(name, *at, **more):
    return {"name": name, "at": [f"{x} mm" for x in at]} | more


def piece(mark, *through, section="HEA200", **more):
    return {"mark": mark, "through": list(through), "section": section, "steel": "S355",
            "self_weight": False} | more  # fmt: skip


def frame(joints, members, joint_load=(), second_order="first order", imperfections=False,
          standard="AISC 360-22", divisions=4, **more):  # fmt: skip
    return wb.Job(
        standard=standard, joint=list(joints), member=list(members), joint_load=list(joint_load),
        frame={"second_order": second_order, "imperfections": imperfections,
               "divisions": divisions},
        combinations=["1.0D", "1.0L", "1.0W"], **more,
    )  # fmt: skip


def result(job, mark, combination="1.0D"):
    """Return a member's forces under one combination: x, N, V, M."""
    forces = wb.check(job)[mark].forces
    c = [one.name for one in forces.combinations].index(combination)
    return forces.x[c], forces.N[c], forces.V_major[c], forces.M_major[c]


def under(found, name="1.0D"):
    """Return the number of a combination."""
    return [one.name for one in found.forces.combinations].index(name)


def portal(support, load, joint_load=(), h=4000.0, L=6000.0, **more):
    joints = [joint("A", 0, 0, support=support), joint("B", 0, h), joint("C", L, h),
              joint("D", L, 0, support=support)]  # fmt: skip
    members = [
        piece("AB", "A", "B", role="column"),
        piece("BC", "B", "C", section="IPE300", load=load),
        piece("DC", "D", "C", role="column"),
    ]
    return frame(joints, members, joint_load, **more)


# Closed forms, of members that do not shorten


def stiffness_ratio(h=4000.0, L=6000.0):
    return wb.section("IPE300").I_major / wb.section("HEA200").I_major * h / L


@pytest.mark.parametrize("support", ["pinned", "fixed"])
def test_a_portal_under_a_uniform_load(support):
    w, L, k = 20.0, 6000.0, stiffness_ratio()
    _, N, V, M = result(portal(support, [{"case": "dead", "line": "20 kN/m"}]), "BC")
    knee = -w * L**2 / (4 * (2 * k + 3)) if support == "pinned" else -w * L**2 / (6 * (k + 2))
    assert M[0] == pytest.approx(knee, rel=0.01)
    assert M.max() == pytest.approx(w * L**2 / 8 + knee, rel=0.01)
    assert V[0] == pytest.approx(w * L / 2)
    thrust = -knee / 4000 if support == "pinned" else -1.5 * knee / 4000
    assert N[0] == pytest.approx(-thrust, rel=0.01)
    _, N, _, M = result(portal(support, [{"case": "dead", "line": "20 kN/m"}]), "AB")
    assert N[0] == pytest.approx(-w * L / 2)
    assert abs(M[-1]) == pytest.approx(-knee, rel=0.01)


@pytest.mark.parametrize("support", ["pinned", "fixed"])
def test_a_portal_pushed_sideways(support):
    H, h, k = 30e3, 4000.0, stiffness_ratio()
    push = [{"joint": "B", "case": "dead", "x": "30 kN"}]
    _, N, _, M = result(portal(support, [], push), "AB")
    top = H * h / 2 * (1.0 if support == "pinned" else 3 * k / (6 * k + 1))
    assert abs(M[-1]) == pytest.approx(top, rel=0.01)
    if support == "fixed":
        assert abs(M[0]) == pytest.approx(H * h / 2 * (3 * k + 1) / (6 * k + 1), rel=0.01)
    assert N[0] == pytest.approx(2 * top / 6000, rel=0.01)  # the windward column is pulled
    _, N, _, _ = result(portal(support, [], push), "DC")
    assert N[0] == pytest.approx(-2 * top / 6000, rel=0.01)


def test_a_truss_by_statics():
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 3000, 0), joint("T", 3000, 2000),
              joint("C", 6000, 0, support=["z"])]  # fmt: skip
    bars = {
        "AT": ("A", "T"),
        "TC": ("T", "C"),
        "AB": ("A", "B"),
        "BC": ("B", "C"),
        "BT": ("B", "T"),
    }
    members = [piece(mark, *ends, section="SHS80X80X5 EN10219", role="brace")
               for mark, ends in bars.items()]  # fmt: skip
    job = frame(joints, members, [{"joint": "T", "case": "dead", "z": "-60 kN"}])
    slanted = math.hypot(3000, 2000)
    expected = {"AT": -30e3 * slanted / 2000, "TC": -30e3 * slanted / 2000, "AB": 45e3, "BC": 45e3,
                "BT": 0.0}  # fmt: skip
    for mark, N in expected.items():
        assert result(job, mark)[1][0] == pytest.approx(N, abs=1.0), mark


def test_ends_that_are_pinned_leave_a_simple_beam():
    members = [piece("AB", "A", "B", role="column"),
               piece("BC", "B", "C", section="IPE300", ends=["pinned", "pinned"],
                     load=[{"case": "dead", "line": "20 kN/m"}]),
               piece("DC", "D", "C", role="column")]  # fmt: skip
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000), joint("C", 6000, 4000),
              joint("D", 6000, 0, support="fixed")]  # fmt: skip
    M = result(frame(joints, members), "BC")[3]
    assert np.abs(M[[0, -1]]).max() < 1
    assert M.max() == pytest.approx(20 * 6000**2 / 8, rel=1e-9)


# The same thing said otherwise


CONTINUOUS = [
    {"case": "dead", "line": "12 kN/m"},
    {"case": "live", "point": "40 kN", "at": "2.2 m"},
    {"case": "live", "line": "6 kN/m", "start": "5 m", "end": "9 m"},
    {"case": "wind", "moment": "15 kN m", "at": "7 m"},
    {"case": "live", "compression": "30 kN", "at": "6 m"},
]


@pytest.mark.parametrize("pattern", [False, True])
def test_a_beam_on_three_supports_is_the_same_alone_and_in_a_frame(pattern):
    of = {"mark": "B", "section": "IPE300", "steel": "S355", "load": CONTINUOUS, "pattern": pattern}
    alone = wb.Job(members=[wb.Member(spans=["5 m", "6 m"], deflection={"live": "L/360"}, **of)])
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 5000, 0, support=["y", "z"]),
              joint("C", 11000, 0, support=["z"])]  # fmt: skip
    beam = piece("B", "A", "B", "C", section="IPE300", load=CONTINUOUS, self_weight=True,
                 pattern=pattern, deflection={"live": "L/360"},
                 ends=["pinned", "pinned"])  # fmt: skip
    framed = frame(joints, [beam], divisions=3).model_copy(update={"combinations": []})
    one, other = wb.check(alone)["B"], wb.check(framed)["B"]
    names = [[c.name for c in found.forces.combinations] for found in (one, other)]
    assert names[0] == names[1]
    assert any("on span 2" in name for name in names[0]) == pattern
    assert {row.id for row in one.rows} == {row.id for row in other.rows}
    for row, same in zip(one.rows, other.rows, strict=True):
        assert same.utilisation == pytest.approx(row.utilisation, rel=1e-6), row.id
        assert same.place == pytest.approx(row.place, abs=0.1)
    assert one.reactions() == {
        name: pytest.approx(values, rel=1e-6) for name, values in other.reactions().items()
    }


def two_bays(*beams):
    """Return two bays under dead and live loads; each beam with its joints and its loads."""
    joints = [joint(f"{n}{k}", 6000 * i, 4000 * k, support=["y"] if k else "fixed")
              for i, n in enumerate("ABC") for k in (0, 1)]  # fmt: skip
    members = [piece(f"C{n}", f"{n}0", f"{n}1", role="column") for n in "ABC"]
    members += [piece("".join(of), *of, section="IPE300", load=load, **more)
                for of, load, more in beams]  # fmt: skip
    return wb.check(frame(joints, members, standard="EN 1993-1-1", loading={"live_category": "B"}))


def test_bays_of_one_line_are_loaded_in_patterns():
    """Two bays as one beam or as two of them, and by hand with the live load in one of them."""
    loads = [{"case": "dead", "line": "10 kN/m"}, {"case": "live", "line": "20 kN/m"}]
    by_spans = {"pattern": True}
    one = two_bays((("A1", "B1", "C1"), loads, by_spans))
    two = two_bays((("A1", "B1"), loads, by_spans), (("B1", "C1"), loads, by_spans))
    for column in ("CA", "CB", "CC"):
        a, b = one[column].forces, two[column].forces
        assert [c.name for c in a.combinations] == [c.name for c in b.combinations]
        assert a.M_major == pytest.approx(b.M_major, rel=1e-9, abs=1e-3)
    only = [{"case": "dead", "line": f"{w} kN/m"} for w in (13.5, 43.5)]
    hand = two_bays((("A1", "B1"), only[:1], {}), (("B1", "C1"), only[1:], {}))["CB"]
    c = under(one["CB"], "1.35D + 1.5L (live on span 2)")
    wanted = hand.forces.M_major[under(hand)]
    assert one["CB"].forces.M_major[c] == pytest.approx(wanted, rel=1e-9)


@pytest.mark.parametrize("divisions", [1, 3, 8])
def test_divisions_change_nothing_to_the_first_order(divisions):
    load = [{"case": "dead", "line": "20 kN/m"}, {"case": "dead", "point": "9 kN", "at": "1 m"}]
    push = [{"joint": "B", "case": "dead", "x": "30 kN"}]
    job = portal("pinned", load, push, divisions=divisions)
    usual = portal("pinned", load, push, divisions=4)
    for mark in ("AB", "BC", "DC"):
        a, b = wb.check(job)[mark], wb.check(usual)[mark]
        found, wanted = ([row.utilisation for row in one.rows] for one in (a, b))
        assert found == pytest.approx(wanted, rel=1e-8, nan_ok=True)


@settings(max_examples=15)
@given(angle=st.floats(0, 6.2), load=st.sampled_from(["line", "point"]))
def test_a_frame_turned_about_the_vertical_is_the_same(angle, load):
    """A plane portal in space, its columns' webs turned with it by its own plane."""
    c, s = math.cos(angle), math.sin(angle)
    if min(abs(c), abs(s)) > 1e-6:
        c, s = (1.0, 0.0) if abs(c) > abs(s) else (0.0, 1.0)
    at = {"A": (0, 0), "B": (0, 4000), "C": (6000, 4000), "D": (6000, 0)}
    hold = {"A": "fixed", "D": "fixed"}
    joints = [joint(n, x * c, x * s, z, **({"support": hold[n]} if n in hold else {}))
              for n, (x, z) in at.items()]  # fmt: skip
    web = "along x" if c else "along y"
    acts = {"line": {"line": "20 kN/m"}, "point": {"point": "60 kN", "at": "2 m"}}[load]
    members = [piece("AB", "A", "B", role="column", web=web),
               piece("BC", "B", "C", section="IPE300", load=[{"case": "dead"} | acts]),
               piece("DC", "D", "C", role="column", web=web)]  # fmt: skip
    space = frame(joints, members)
    plane = portal("fixed", [{"case": "dead"} | acts])
    for mark in ("AB", "BC", "DC"):
        for a, b in zip(result(space, mark)[1:], result(plane, mark)[1:], strict=True):
            for of in (np.max, np.min, lambda v: v[0], lambda v: v[-1]):
                assert abs(of(np.abs(a))) == pytest.approx(abs(of(np.abs(b))), rel=1e-6, abs=1)


# The second order


@pytest.mark.parametrize(
    ("P", "M", "tip"), [(0, 336, 0.901), (100, 469, 1.33), (150, 598, 1.75), (200, 848, 2.56)]
)
def test_the_cantilever_benchmark(P, M, tip):
    """AISC 360 Commentary, Figure C-C2.3, shear deformations neglected: kips and inches."""
    joints = [{"name": "A", "at": ["0 ft", "0 ft"], "support": "fixed"},
              {"name": "B", "at": ["0 ft", "28 ft"]}]  # fmt: skip
    column = {"mark": "C", "role": "column", "section": "W14X48", "steel": "A992",
              "self_weight": False, "through": ["A", "B"]}  # fmt: skip
    loads = [{"joint": "B", "case": "dead", "x": "1 kip"}]
    if P:
        loads.append({"joint": "B", "case": "dead", "z": f"-{P} kip"})
    found = wb.check(frame(joints, [column], loads, second_order="analysed"))["C"]
    c = under(found)
    assert np.abs(found.forces.M_major[c]).max() / 112_984.8 == pytest.approx(M, rel=0.01)
    solved = found.member.said.frame.known["solved"]
    (state,) = solved.known.values()
    moved = solved.model.of_nodes(state.state.moved)[1, 0, c]
    assert moved / 25.4 == pytest.approx(tip, rel=0.01)
    if P:
        critical = math.pi**2 * E * wb.section("W14X48").I_major / (4 * (28 * 304.8) ** 2)
        assert found.forces.share[c] == pytest.approx(P * 4448.222 / critical, rel=1e-3)


@pytest.mark.parametrize(
    ("P", "M", "middle"), [(0, 235, 0.197), (150, 269, 0.224), (300, 313, 0.261), (450, 375, 0.311)]
)
def test_the_simple_column_benchmark(P, M, middle):
    """The same, Figure C-C2.2: 0.2 kip/ft along it."""
    joints = [{"name": "A", "at": ["0 ft", "0 ft"], "support": "pinned"},
              {"name": "B", "at": ["0 ft", "28 ft"], "support": ["x"]}]  # fmt: skip
    load = [{"case": "dead", "line": "0.2 kip/ft"}]
    column = {"mark": "C", "role": "column", "section": "W14X48", "steel": "A992", "load": load,
              "self_weight": False, "through": ["A", "B"]}  # fmt: skip
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} kip"}] if P else []
    found = wb.check(frame(joints, [column], loads, second_order="analysed", divisions=4))["C"]
    c = under(found)
    assert np.abs(found.forces.M_major[c]).max() / 112_984.8 == pytest.approx(M, rel=0.01)
    solved = found.member.said.frame.known["solved"]
    (state,) = solved.known.values()
    moved = np.abs(solved.model.of_nodes(state.state.moved)[:, 0, c]).max()
    assert moved / 25.4 == pytest.approx(middle, rel=0.01)


def test_beyond_the_critical_load_is_over():
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 5000)]
    s = wb.section("HEA200")
    critical = math.pi**2 * E * s.I_major / (4 * 5000**2)
    loads = [{"joint": "B", "case": "dead", "z": f"-{1.3 * critical} N"}]
    column = piece("C", "A", "B", role="column")
    found = wb.check(frame(joints, [column], loads, second_order="analysed"))["C"]
    row = next(row for row in found.rows if row.id == "elastic-stability")
    assert row.status == "over"
    assert found.forces.share[under(found)] == pytest.approx(1.3, rel=1e-3)


def test_a_leaning_column_takes_part_of_the_frame_it_leans_on():
    """A rigid cantilever and a pinned column tied to it: the frame's factor by both loads."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000), joint("C", 5000, 0,
              support="pinned"), joint("D", 5000, 4000)]  # fmt: skip
    members = [piece("AB", "A", "B", role="column"),
               piece("CD", "C", "D", role="column", ends=["pinned", "pinned"]),
               piece("BD", "B", "D", ends=["pinned", "pinned"])]  # fmt: skip
    P = 100e3
    loads = [{"joint": "D", "case": "dead", "z": f"-{P} N"}]
    found = wb.check(frame(joints, members, loads, second_order="analysed", divisions=6))["CD"]
    # The cantilever's sway stiffness 3 EI/h3 carries P/h of the leaning load.
    critical = 3 * E * wb.section("HEA200").I_major / 4000**2
    assert found.forces.share[under(found)] == pytest.approx(P / critical, rel=2e-3)


def test_buckling_lengths_that_the_critical_load_stands_for():
    """A cantilever has K = 2, one that something rigid keeps from turning at its top K = 1."""
    top = {"A": ["y"], "B": ["y", "turn y"]}
    for name, K, web in (("A", 2.0, "along x"), ("A", 2.0, "along y"), ("B", 1.0, "along x")):
        joints = [joint("F", 0, 0, support="fixed"), joint("T", 0, 4000, support=top[name])]
        load = [{"joint": "T", "case": "dead", "z": "-100 kN"}]
        job = frame(joints, [piece("C", "F", "T", role="column", web=web)], load, "analysed")
        found = frame_results(job)
        for c in np.flatnonzero(found.share).tolist():
            assert buckling_factors(found, c)["C"]["in plane"] == pytest.approx(K, rel=1e-3)


def test_out_of_plumb_pushes_a_frame():
    """5.3.2(3): h = 4 m, two columns; the sum of horizontal reactions is none, the moments are."""
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000), joint("C", 6000, 4000),
              joint("D", 6000, 0, support="pinned")]  # fmt: skip
    members = [piece("AB", "A", "B", role="column"), piece("BC", "B", "C", section="IPE300"),
               piece("DC", "D", "C", role="column")]  # fmt: skip
    loads = [{"joint": name, "case": "dead", "z": "-200 kN"} for name in "BC"]
    job = frame(joints, members, loads, imperfections=True, second_order="analysed",
                standard="EN 1993-1-1", loading={"standard": "EN 1990"})  # fmt: skip
    table = wb.check(job)
    forces = table["AB"].forces
    c, other = (under(table["AB"], f"1.0D, leaning {sign}x") for sign in "+−")
    phi = math.sqrt(0.5 * 1.5) / 200 * 1.0  # alpha_h = 2/sqrt(4) = 1
    first = phi * 400e3 * 4000 / 2
    share = forces.share[c]
    assert np.abs(forces.M_major[c]).max() == pytest.approx(first / (1 - share), rel=0.03)
    mirrored = table["DC"].forces.M_major[other]
    assert np.abs(mirrored) == pytest.approx(np.abs(forces.M_major[c]), rel=1e-6, abs=10)


# The first-order analysis method (Appendix 7, 7.3 of AISC 360)


def post(P, H, method="LRFD", **frame_says):
    """A cantilever in the plane, with a weight and a push on its head."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"{-P} N"},
             {"joint": "B", "case": "wind", "x": f"{H} N"}]  # fmt: skip
    return wb.Job(
        standard="AISC 360-22", joint=joints, joint_load=loads, combinations=["D", "D + W"],
        member=[piece("C", "A", "B", role="column")],
        design={"method": method, "stability": "first-order analysis"},
        frame={"second_order": "first order"} | frame_says,
    )  # fmt: skip


@pytest.mark.parametrize(("method", "level"), [("LRFD", 1.0), ("ASD", 1.6)])
@pytest.mark.parametrize("H", [1e3, 30e3])
def test_drift_pushes_by_the_first_order_method(method, level, H):
    """A-7-2: 2.1 alpha (H h^2 / 3 EI) of the weight, 0.0042 of it at least; moments by hand."""
    P, h = 200e3, 4000
    found = frame_results(post(P, H, method))
    drift = H * h**2 / (3 * E * wb.section("HEA200").I_major)
    share = max(2.1 * level * drift, 0.0042)
    assert (share > 0.0042) == (H > 1e4)
    forces = wb.check(found.frame.job)["C"].forces
    for name, push in (("D, leaning +x", 0.0042 * P), ("D + W", H + share * P)):
        c = [one.name for one in found.combinations].index(name)
        assert found.applied[c, 0] == pytest.approx(push, rel=1e-6)
        assert np.abs(forces.M_major[c]).max() == pytest.approx(push * h, rel=1e-6)
        (storey,) = found.storeys
        assert (storey.load[c], storey.shear[c, 0]) == pytest.approx((P, push), rel=1e-6)
        stiff = 3 * E * wb.section("HEA200").I_major / h**3
        assert storey.stiffness[c] == pytest.approx(stiff, rel=1e-6)


@pytest.mark.parametrize("share", [0.32, 0.34])
def test_how_far_the_first_order_method_suffices(share):
    """7.3.1(b): drifts grow by 1.5 at a third of the load at which the member, straight, sways."""
    sways = 3 * E * wb.section("HEA200").I_major / 4000**2  # P / h = the stiffness of its head
    rows = wb.check(post(share * sways / 1.4, 1e3))["C"].rows  # 1.4D
    outside = [row for row in rows if row.status == "outside" and row.clause.endswith("7.3.1(b)")]
    assert bool(outside) == (share > 1 / 3)


@pytest.mark.parametrize(("share", "method"), [(0.49, "LRFD"), (0.51, "LRFD"), (0.32, "ASD")])
def test_what_may_press_by_the_first_order_method(share, method):
    """A-7-1, at the load level."""
    P = share * 355 * wb.section("HEA200").A / (1.4 if method == "LRFD" else 1.0)  # 1.4D, D
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 1000, support=["x", "y"])]
    job = wb.Job(standard="AISC 360-22", joint=joints, member=[piece("C", "A", "B", role="column")],
                 joint_load=[{"joint": "B", "case": "dead", "z": f"{-P} N"}], combinations=["D"],
                 design={"method": method, "stability": "first-order analysis"},
                 frame={"second_order": "first order"})  # fmt: skip
    table = wb.check(job)
    outside = [row for row in table["C"].rows if row.clause == "A-7-1"]
    assert bool(outside) == (share * (1.6 if method == "ASD" else 1.0) > 0.5)
    assert "Taken for stability by the first order: gravity loads go down" in str(table)


def test_what_the_first_order_method_does_not_go_with():
    for more, words in (
        ({"second_order": "analysed"}, "frame, second_order: 'first order' is"),
        ({"imperfections": False}, "frame, imperfections: the loads sideways"),
    ):
        with pytest.raises(wb.InputError, match=words):
            post(1e5, 1e3, **more)
    with pytest.raises(wb.InputError, match="design, stability: goes with a frame"):
        wb.Job(
            standard="AISC 360-22",
            design={"stability": "first-order analysis"},
            member=[{"mark": "B", "section": "W16X40", "steel": "A992", "span": "5 m"}],
        )
    with pytest.raises(wb.InputError, match="notional_loads: goes with other ways to stability"):
        wb.Job(
            standard="AISC 360-22",
            member=[piece("C", "A", "B")],
            design={"stability": "first-order analysis", "notional_loads": "by ratio"},
        )


@pytest.mark.parametrize("tau_b", ["1 with notional loads", "by compression"])
def test_what_softens_in_the_analysis_is_not_outside(tau_b):
    """C2.3: either way takes compression beyond half of the squash load."""
    job = softening(0.55 * 345 * wb.section("W10X49").A, 0.0, imperfections=True, tau_b=tau_b)
    assert not [row for r in wb.check(job) for row in r.rows if row.id == "second-order"]


@pytest.mark.parametrize(("standard", "share"), [("AISC 360-22", 0.002), ("EN 1993-1-1", None)])
@pytest.mark.parametrize("at", [1500, 3000])
def test_leaning_pushes_the_joints_not_what_lies_between(standard, share, at):
    """A beam of one bay in space: what stands on it pushes its ends sideways, by the lever."""
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", 0, 0, 4000),
              joint("C", 6000, 0, 4000), joint("D", 6000, 0, 0, support="fixed")]  # fmt: skip
    load = [{"case": "dead", "point": "90 kN", "at": f"{at} mm"}]
    members = [piece("AB", "A", "B", role="column"), piece("DC", "D", "C", role="column"),
               piece("BC", "B", "C", ends=["fixed", "fixed"], ends_minor=["pinned", "pinned"],
                     load=load)]  # fmt: skip
    job = frame(joints, members, imperfections=True, standard=standard)
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0D, leaning +y")
    share = share or 1 / 200  # alpha_h of 4 m is 1, and in a row across stands one column
    near, far = (found.supports.index(name) for name in "AD")
    pushes = -found.reactions[c, [near, far], 1]
    assert pushes == pytest.approx(share * 90e3 * np.array([1 - at / 6000, at / 6000]), rel=1e-3)
    assert np.abs(wb.check(job)["BC"].forces.M_minor[c]).max() < 1.0


# Balance


@settings(max_examples=25)
@given(
    bays=st.integers(1, 3), storeys=st.integers(1, 3), seed=st.integers(0, 10**6),
    support=st.sampled_from(["fixed", "pinned"]),
)  # fmt: skip
def test_reactions_balance_what_acts(bays, storeys, seed, support):
    pick = np.random.default_rng(seed)
    joints, members, loads = [], [], []
    for i, j in itertools.product(range(bays + 1), range(storeys + 1)):
        more = {"support": support} if j == 0 else {}
        joints.append(joint(f"{i}-{j}", 5000 * i, 3500 * j, **more))
    down = sideways = 0.0
    for i in range(bays + 1):
        names = [f"{i}-{j}" for j in range(storeys + 1)]
        members.append(piece(f"C{i}", *names, role="column"))
    for i, j in itertools.product(range(bays), range(1, storeys + 1)):
        w = float(pick.uniform(1, 20))
        down += w * 5000
        ends = ["pinned", "pinned"] if pick.random() < 0.3 and bays > 1 else ["fixed", "fixed"]
        members.append(piece(f"B{i}{j}", f"{i}-{j}", f"{i + 1}-{j}", section="IPE300", ends=ends,
                             load=[{"case": "dead", "line": f"{w} kN/m"}]))  # fmt: skip
    for j in range(1, storeys + 1):
        H = float(pick.uniform(1, 30))
        sideways += H * 1e3
        loads.append({"joint": f"0-{j}", "case": "dead", "x": f"{H} kN"})
    table = wb.check(frame(joints, members, loads))
    N = V = 0.0
    for i in range(bays + 1):
        forces, c = table[f"C{i}"].forces, under(table[f"C{i}"])
        N, V = N - forces.N[c, 0], V + forces.V_major[c, 0]
    assert pytest.approx(down, rel=1e-6) == N
    assert abs(V) == pytest.approx(sideways, rel=1e-6)


# What does not fit


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"through": ["A", "X"]}, "no joint 'X'"),
        ({"through": ["A"]}, "two different joints at least"),
        ({"through": ["A", "B", "D"]}, "do not lie on a line"),
        ({"span": "3 m"}, "does not go with through"),
        ({"hinges": ["1 m"]}, "does not go with through"),
    ],
)
def test_members_that_do_not_fit_their_joints(change, words):
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000), joint("D", 3000, 0)]
    with pytest.raises(wb.InputError, match=words):
        frame(joints, [piece("M", "A", "B") | change, piece("N", "A", "D")])


def test_joints_that_do_not_fit():
    good = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000)]
    for more, words in (
        ([joint("A", 1000, 0)], "used twice"),
        ([joint("E", 0, 4000.2)], "at the same place as B"),
        ([joint("E", 9000, 0, support="fixed")], "its support holds nothing"),
        ([joint("E", 0, 0, 4000)], "all have three"),
    ):
        with pytest.raises(wb.InputError, match=words):
            frame([*good, *more], [piece("M", "A", "B")])
    with pytest.raises(wb.InputError, match="no joint 'Z'"):
        frame(good, [piece("M", "A", "B")], [{"joint": "Z", "case": "dead", "x": "1 kN"}])
    with pytest.raises(wb.InputError, match="say a force, a moment or a movement"):
        frame(good, [piece("M", "A", "B")], [{"joint": "B", "case": "dead"}])


def test_a_mechanism_is_said_where_it_moves():
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000), joint("C", 6000, 4000),
              joint("D", 6000, 0, support="pinned")]  # fmt: skip
    members = [piece("AB", "A", "B", role="column"),
               piece("BC", "B", "C", ends=["pinned", "pinned"]),
               piece("DC", "D", "C", role="column")]  # fmt: skip
    job = frame(joints, members, [{"joint": "B", "case": "dead", "x": "1 kN"}])
    with pytest.raises(wb.InputError, match="mechanism"):
        wb.check(job)
    model, _, motion = free_motion(job.members[0].frame)
    moves = model.of_nodes(motion.moved[:, 0])[[model.joints[name] for name in "ABCD"]]
    assert moves[[0, 1, 2, 3], 0] / moves[1, 0] == pytest.approx([0, 1, 1, 0], abs=1e-6)
    assert np.abs(moves[:, 1:3] / moves[1, 0]).max() < 1e-6
    assert moves[:, 4] / moves[1, 0] == pytest.approx(1 / 4000, rel=1e-6)  # columns turn as bars
    assert "without resistance" in motion_figure(job).axes[0].get_title(loc="left")
    stands = frame([joints[0] | {"support": "fixed"}, *joints[1:]], members)
    with pytest.raises(wb.InputError, match="nothing of the frame moves without resistance"):
        motion_figure(stands)


# What holds a member where others meet it


def tall(more_joints=(), more=(), through=("A", "C")):
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000),
              joint("C", 0, 8000, support=["x", "y"]), *more_joints]  # fmt: skip
    loads = [{"joint": "C", "case": "dead", "z": "-200 kN"}]
    return frame(joints, [piece("M", "A", "B", "C", role="column"), *more], loads,
                 second_order="analysed")  # fmt: skip


@pytest.mark.parametrize(
    ("more_joints", "more", "holds"),
    [
        ([], [], False),
        # A bracket, and a bracket on a bracket, end in the air.
        ([joint("D", 800, 4000)], [piece("X", "B", "D")], False),
        ([joint("D", 800, 4000), joint("E", 800, 4500)],
         [piece("X", "B", "D"), piece("Y", "D", "E")], False),
        # A strut to a support holds it, and so does what has a bracket besides.
        ([joint("D", 3000, 4000, support="pinned")], [piece("X", "B", "D")], True),
        ([joint("D", 3000, 4000, support="pinned"), joint("E", 3000, 5000)],
         [piece("X", "B", "D"), piece("Y", "D", "E")], True),
    ],
)  # fmt: skip
def test_what_ends_in_the_air_holds_nothing(more_joints, more, holds):
    job = tall(more_joints, more)
    assert job.member("M").inner_supports("major") == ([4000.0] if holds else [])
    half = tall([joint("D", 3000, 4000, support="pinned")], [piece("X", "B", "D")])
    ours, other = (
        next(row for row in wb.check(one)["M"].rows if row.name == "flexural buckling, major axis")
        for one in (job, half)
    )
    assert (ours.capacity == pytest.approx(other.capacity, rel=1e-6)) == holds


@pytest.mark.parametrize("web", ["along x", "along y"])
def test_in_space_a_member_is_held_the_way_that_others_run(web):
    """A beam along x holds a column along x alone; one that frames into it holds it sideways."""
    joints = [joint("A", 0, 0, 0, support="fixed"), joint("B", 0, 0, 4000), joint("C", 0, 0, 8000),
              joint("D", 6000, 0, 0, support="fixed"), joint("E", 6000, 0, 4000),
              joint("F", 6000, 0, 8000), joint("G", 3000, 0, 8000),
              joint("H", 3000, 3000, 8000, support="pinned")]  # fmt: skip
    members = [
        piece("L", "A", "B", "C", role="column", web=web), piece("R", "D", "E", "F", role="column"),
        piece("X", "B", "E"), piece("T", "C", "G", "F"), piece("S", "G", "H"),
    ]  # fmt: skip
    job = frame(joints, members, [{"joint": "C", "case": "dead", "z": "-9 kN"}])
    held, free = ("major", "minor") if web == "along x" else ("minor", "major")
    assert job.member("L").inner_supports(held) == [4000.0]
    assert job.member("L").inner_supports(free) == []
    assert job.member("T").inner_supports("major") == []
    assert job.member("T").inner_supports("minor") == [3000.0]
    table = wb.check(job)
    lengths = {axis: table["L"].member.span_lengths(axis) for axis in (held, free)}
    assert len(lengths[held]) == 2
    assert len(lengths[free]) == 1


def test_a_roller_holds_the_way_that_it_is_held():
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000, support=["z"]),
              joint("C", 0, 8000, support=["x"])]  # fmt: skip
    job = frame(joints, [piece("M", "A", "B", "C", role="column")])
    assert job.member("M").inner_supports("major") == []


def test_a_member_in_two_lengths_is_one_member():
    """Else each half would buckle by itself, where nothing holds them."""
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000),
              joint("C", 0, 8000, support=["x", "y"])]  # fmt: skip
    halves = [piece("L", "A", "B", role="column"), piece("U", "B", "C", role="column")]
    with pytest.raises(wb.InputError, match="goes on in a line as U at B, where nothing holds it"):
        frame(joints, halves)
    # A ridge is no line, and a strut holds what is.
    bent = [joints[0], joint("B", 100, 4000), joints[2]]
    assert frame(bent, halves).members
    strut = piece("S", "B", "D")
    assert frame([*joints, joint("D", 3000, 4000, support="pinned")], [*halves, strut]).members


def test_what_is_taken_as_held_across_the_plane_is_said():
    """A joint where members end, and whose support does not name y."""
    said = "Taken as held across the plane of the frame, though no support says so: joint B."
    loads = [{"joint": "B", "case": "dead", "z": "-9 kN"}]
    for more, words in (({}, True), ({"support": ["y"]}, False)):
        joints = [joint("A", 0, 0, support="pinned"), joint("B", 3000, 4000, **more),
                  joint("C", 6000, 0, support="pinned")]  # fmt: skip
        members = [piece("L", "A", "B"), piece("R", "B", "C")]
        assert (said in " ".join(str(wb.check(frame(joints, members, loads))).split())) == words


# The first order, and how far it suffices


@pytest.mark.parametrize("standard", ["AISC 360-22", "EN 1993-1-1"])
@pytest.mark.parametrize("share", [0.005, 0.09, 0.11, 1.2])
def test_how_far_the_first_order_suffices(standard, share):
    """A cantilever sways at 3EI/L^2 where it may not bow; beyond its share the standard says so."""
    L, inertia = 5000.0, wb.section("HEA200").I_major
    modulus = E if standard.startswith("AISC") else 210_000.0
    P = share * 3 * modulus * inertia / L**2
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} N"}]
    found = wb.check(frame(joints, [piece("C", "A", "B", role="column")], loads,
                           standard=standard))["C"]  # fmt: skip
    c = under(found)
    assert found.forces.sway[c] == pytest.approx(share, rel=1e-6)
    rows = {row.id: row for row in found.rows}
    limit = 0.01 if standard.startswith("AISC") else 0.1
    most = float(found.forces.sway.max())
    assert ("second-order" in rows) == (limit < most <= 1)
    assert ("elastic-stability" in rows) == (most > 1)
    assert (found.status == "ok") == (most <= limit)


@pytest.mark.parametrize("share", [0.05, 0.2, 0.5])
@pytest.mark.parametrize("given", [{}, {"major_K": 2.1}])
@pytest.mark.parametrize("stability", ["effective lengths", "direct analysis"])
def test_how_far_effective_lengths_suffice(share, given, stability):
    """Appendix 7: K of 1 while drifts grow by less than 1.1, any K by less than 1.5."""
    L = 5000.0
    P = share * 3 * E * wb.section("HEA200").I_major / L**2 / 1.4
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} N"}]
    column = piece("C", "A", "B", role="column", buckling=given)
    job = frame(joints, [column], loads, second_order="analysed", design={"stability": stability})
    rows = {row.id: row for row in wb.check(job)["C"].rows}
    most = 1 / (1 - share)
    bad = stability == "effective lengths" and (most > 1.5 or (most > 1.1 and not given))
    assert ("sway-length" in rows) == bad
    if bad:
        assert f"by {most:.3g}:" in rows["sway-length"].reason


@pytest.mark.parametrize(("loads", "count"), [((100, 100, 100), 3), ((100, 100, 5), 2),
                                              ((100, 60, 100), 3), ((300, 20, 20), 1)])  # fmt: skip
def test_columns_that_carry_little_do_not_count_in_the_sway(loads, count):
    """5.3.2(3): those with half of the average of their row at least."""
    L = 4000.0
    joints, members, down = [], [], []
    for i, P in enumerate(loads):
        joints += [joint(f"{i}a", 6000 * i, 0, support="fixed"), joint(f"{i}b", 6000 * i, L)]
        members.append(piece(f"C{i}", f"{i}a", f"{i}b", role="column"))
        down.append({"joint": f"{i}b", "case": "dead", "z": f"-{P} kN"})
    members += [piece(f"B{i}", f"{i}b", f"{i + 1}b", ends=["pinned", "pinned"])
                for i in range(len(loads) - 1)]  # fmt: skip
    found = frame_results(frame(joints, members, down, imperfections=True,
                                standard="EN 1993-1-1"))  # fmt: skip
    c = [one.name for one in found.combinations].index("1.0D, leaning +x")
    lean = 1 / 200 * 1.0 * math.sqrt(0.5 * (1 + 1 / count))  # 2 over the root of 4 m is 1
    assert found.applied[c, 0] == pytest.approx(lean * 1e3 * sum(loads), rel=1e-9)


def swaying_portal(order, W=12.0, w=14.0, **more):
    """Return a portal with a load on one half of its beam, and a push."""
    across = {"support": ["y"]}
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000, **across),
              joint("C", 7000, 4000, **across), joint("D", 7000, 0, support="pinned")]  # fmt: skip
    load = [{"case": "dead", "line": f"{w} kN/m", "end": "3 m"},
            {"case": "dead", "line": "20 kN/m"}]  # fmt: skip
    members = [piece("AB", "A", "B", role="column"), piece("DC", "D", "C", role="column"),
               piece("BC", "B", "C", section="IPE300", load=load)]  # fmt: skip
    push = [{"joint": "B", "case": "wind", "x": f"{W} kN"}]
    return frame(joints, members, push, second_order=order, standard="EN 1993-1-1", **more)


def test_sway_amplified_beside_the_second_order():
    """5.2.2(5): near to the second order where the sway load is far; what sways not, is not."""
    first, amplified, second = (
        wb.check(swaying_portal(order)) for order in ("first order", "amplified sway", "analysed")
    )
    for mark in ("AB", "DC"):
        c = under(first[mark], "1.35D + 1.5W")
        values = [table[mark].forces.M_major[c] for table in (first, amplified, second)]
        low, ours, exact = (np.abs(M).max() for M in values)
        assert ours == pytest.approx(exact, rel=0.02)
        assert abs(ours - exact) < 0.35 * abs(low - exact)
    # A cantilever: the moment of the push times one over one less the share, exactly.
    L, P, H = 5000.0, 90e3, 5e3
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} N", "x": f"{H} N"}]
    column = piece("C", "A", "B", role="column", load=[{"case": "dead", "line": "2 kN/m"}])
    found = wb.check(frame(joints, [column], loads, second_order="amplified sway",
                           standard="EN 1993-1-1"))["C"]  # fmt: skip
    c = under(found)
    share = P / (3 * 210_000 * wb.section("HEA200").I_major / L**2)
    assert found.forces.sway[c] == pytest.approx(share, rel=1e-9)
    # Held at its top the line load leaves w L2 / 8 at the foot: that part does not sway.
    w = 2.0
    sways = H * L + w * L**2 / 2 - w * L**2 / 8
    expected = w * L**2 / 8 + sways / (1 - share)
    assert np.abs(found.forces.M_major[c]).max() == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize("standard", ["AISC 360-22", "EN 1993-1-1"])
@pytest.mark.parametrize("share", [0.2, 0.32, 0.4])
def test_how_far_amplified_sway_suffices(standard, share):
    L, inertia = 5000.0, wb.section("HEA200").I_major
    modulus, factor = (E, 1.4) if standard.startswith("AISC") else (210_000.0, 1.35)
    P = share * 3 * modulus * inertia / L**2 / factor
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} N"}]
    column = piece("C", "A", "B", role="column")
    found = wb.check(frame(joints, [column], loads, second_order="amplified sway",
                           standard=standard, design={"stability": "direct analysis"} if
                           standard.startswith("AISC") else {}))["C"]  # fmt: skip
    most = float(found.forces.sway.max())
    assert most == pytest.approx(share / (0.8 if standard.startswith("AISC") else 1), rel=1e-6)
    rows = {row.id for row in found.rows}
    assert ("second-order" in rows) == (most > 1 / 3)
    assert "sway-length" not in rows


@pytest.mark.parametrize(("share", "leans"), [(0.05, False), (0.3, False), (0.38, True),
                                              (0.6, True)])  # fmt: skip
@pytest.mark.parametrize("stability", ["effective lengths", "direct analysis"])
def test_notional_loads_by_the_ratio(share, leans, stability):
    """C2.2b(d): with wind only where drifts grow by more than 1.5, 1.7 with reduced stiffness."""
    reduced = stability == "direct analysis"
    L = 5000.0
    P = share * 3 * E * wb.section("HEA200").I_major / L**2 / 1.4 * (0.8 if reduced else 1.0)
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} N"},
             {"joint": "B", "case": "wind", "x": "3 kN"}]  # fmt: skip
    column = piece("C", "A", "B", role="column")
    for rule in ("in every combination", "by ratio"):
        job = frame(joints, [column], loads, second_order="analysed", imperfections=True,
                    design={"stability": stability, "notional_loads": rule})  # fmt: skip
        found = frame_results(job)
        beyond = leans if not reduced else share > 1 - 1 / 1.7
        for c, one in enumerate(found.combinations):
            gravity = -found.applied[c, 2]
            lean = 0.003 if reduced else 0.002
            if one.leaning is None and rule == "by ratio" and not beyond:
                lean -= 0.002
            sense = 1.0 if one.leaning is None else one.leaning[1]
            expected = sense * lean * gravity + 3e3 * one.factors.get("W", 0.0)
            assert found.applied[c, 0] == pytest.approx(expected, rel=1e-9, abs=1e-6)


def test_a_frame_of_the_first_order_leans_too():
    """The initial sway pushes it: the moment at its base is what leans, by statics."""
    L, P = 5000.0, 20e3
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, L, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": f"-{P} N"}]
    job = frame(joints, [piece("C", "A", "B", role="column")], loads, imperfections=True,
                standard="EN 1993-1-1")  # fmt: skip
    found = wb.check(job)["C"]
    # 5.3.2(3): 1/200, a height of 5 m, one column.
    lean = 1 / 200 * 2 / math.sqrt(L / 1000)
    for sign in "+−":
        moments = found.forces.M_major[under(found, f"1.0D, leaning {sign}x")]
        assert np.abs(moments).max() == pytest.approx(lean * P * L, rel=1e-9)


def test_the_joint_is_named_where_a_check_governs():
    """A cantilever column is bent most at its foot; a beam between its joints, nowhere named."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000), joint("C", 0, 6000)]
    column = piece("M", "A", "B", "C", role="column")
    table = wb.check(frame(joints, [column], [{"joint": "C", "case": "wind", "x": "9 kN"}]))
    assert " 0 ft,\n" in str(table)
    assert "; at 0 ft, A" in str(table.explain("M"))
    ends = [joint("A", 0, 0, support="fixed"), joint("B", 6000, 0, support="fixed")]
    load = [{"case": "dead", "line": "9 N/mm"}]
    beam = piece("M", "A", "B", ends=["pinned", "pinned"], load=load)
    assert " 9.84 ft\n" in str(wb.check(frame(ends, [beam])))


# Out of the plane


def test_joints_of_a_plane_frame_hold_across_it_where_that_is_said():
    """A column past a floor: in its plane it is held there, across it where somebody says so."""

    def column(support):
        at_floor = {"support": support} if support else {}
        joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000, **at_floor),
                  joint("C", 0, 8000, support=["x", "y"]),
                  joint("D", 6000, 4000, support="pinned")]  # fmt: skip
        members = [piece("C", "A", "B", "C", role="column"), piece("B", "B", "D")]
        loads = [{"joint": "C", "case": "dead", "z": "-200 kN"}]
        return {row.id: row for row in wb.check(frame(joints, members, loads))["C"].rows}

    s, fy = wb.section("HEA200"), 355.0
    for support, length in ((None, 8000.0), (["y"], 4000.0)):
        rows = column(support)
        for axis, L, r in (
            ("major", 4000.0, s.r_major),
            ("minor", length, s.r_minor),
        ):
            Fe = math.pi**2 * E / (L / r) ** 2
            Fn = 0.658 ** (fy / Fe) * fy if fy / Fe <= 2.25 else 0.877 * Fe
            found = rows[f"buckling-{axis}"].capacity
            assert found == pytest.approx(0.9 * Fn * s.A, rel=1e-3), (support, axis)


# Generators


PLAIN = {"second_order": "first order", "imperfections": False}
TRUSS = {"mark": "T", "span": "12 m", "depth": "1.5 m", "panels": 6, "web": "Pratt",
         "top": {"section": "HEA120"}, "bottom": {"section": "HEA120"},
         "diagonals": {"section": "SHS60X60X5 EN10219"},
         "verticals": {"section": "SHS60X60X5 EN10219"}}  # fmt: skip


@pytest.mark.parametrize("web", ["Pratt", "Howe", "Warren with verticals", "Warren"])
@pytest.mark.parametrize("shape", ["parallel", "pitched", "to one side"])
def test_a_truss_carries_its_load_as_a_beam_would(web, shape):
    """The chords' forces by the moment of a beam over the depth, one joint loaded at a time."""
    if web == "Warren" and shape != "parallel":
        return
    more = {} if shape == "parallel" else {"rise": "1 m", "shape": shape}
    job = wb.Job(
        truss=[TRUSS | {"web": web} | more], frame=PLAIN,
        joint_load=[{"joint": "T.b2", "case": "dead", "z": "-30 kN"}], combinations=["1.0D"],
        defaults={"self_weight": False},
    )  # fmt: skip
    results = frame_results(job)
    c = [one.name for one in results.combinations].index("1.0D")
    assert results.reactions[c, :2, 2] == pytest.approx([20e3, 10e3], rel=1e-9)
    assert results.residual[c] < 1e-9
    depth = 1500.0 + (
        0.0 if shape == "parallel" else 1000 * (8 / 12 if shape == "pitched" else 4 / 12)
    )
    # Pinned webs, continuous chords: near the truss of pins, which bends them little.
    table = wb.check(job)
    marks = [r.member.mark for r in table if r.member.mark.startswith("T.bottom")]
    forces = table[marks[0]].forces
    near = int(np.argmin(np.abs(forces.x[c] - (3900.0 if web != "Howe" else 4100.0))))
    pull = forces.N[c, near]
    assert 0 < pull < 1.25 * 20e3 * 4000 / depth


@pytest.mark.parametrize("start", ["x first", "from the middle"])
def test_a_truss_of_pins_with_unequal_panels(start):
    """Cut through a panel: a chord carries the moment of a beam over the depth, exactly."""
    lengths = [1500, 2500, 2000, 2500, 3500]
    stops = np.cumsum([0, *lengths])
    P = {2: 40e3, 4: 25e3} if start == "x first" else {3: 60e3}
    job = wb.Job(
        truss=[TRUSS | {"panels": [f"{v} mm" for v in lengths], "chords": "jointed"}], frame=PLAIN,
        joint_load=[{"joint": f"T.b{k}", "case": "dead", "z": f"{-v} N"} for k, v in P.items()],
        combinations=["1.0D"], defaults={"self_weight": False},
    )  # fmt: skip
    up = sum(v * (12000 - stops[k]) / 12000 for k, v in P.items())

    def moment(x):
        return up * x - sum(v * max(x - stops[k], 0) for k, v in P.items())

    table = wb.check(job)
    for k, (a, b) in enumerate(itertools.pairwise(stops)):
        falls = a + b < 12000  # its diagonal: from the top on the left to the bottom on the right
        at = {"bottom": a if falls else b, "top": b if falls else a}
        for chord, sign in (("bottom", 1), ("top", -1)):
            forces = table[f"T.{chord} {k}"].forces
            c = [one.name for one in forces.combinations].index("1.0D")
            assert forces.N[c] == pytest.approx(sign * moment(at[chord]) / 1500, rel=1e-6, abs=1.0)
            assert not np.any(forces.M_major)
    assert job.member("T.bottom 2").length == 2000


def test_pieces_of_a_jointed_chord_are_chosen_as_one():
    chosen = {name: TRUSS[name] | {"choose": "HEA"} for name in ("top", "bottom")}
    job = wb.Job(truss=[TRUSS | chosen | {"chords": "jointed"}], frame=PLAIN)
    groups = {one.mark: one.choose.group for one in job.members if one.choose}
    assert len(groups) == 12
    assert {groups[f"T.top {k}"] for k in range(6)} == {"top chord"}
    pitched = TRUSS | {"shape": "pitched", "rise": "1 m",
                       "panels": ["2 m", "4 m", "3 m", "3 m"]}  # fmt: skip
    made = wb.Job(truss=[pitched], frame=PLAIN)
    assert made.member("T.top left").through == ["T.t0", "T.t1", "T.t2"]


def test_a_building_is_what_its_grid_says():
    grid = {"mark": "H", "bays_x": ["6 m", "7 m"], "bays_y": ["5 m"], "storeys": ["4 m", "3.5 m"],
            "columns": {"section": "HEB200"}, "beams_x": {"section": "IPE300"},
            "beams_y": {"section": "IPE240"}, "own": {"X0.0.1": {"section": "IPE360"}}}  # fmt: skip
    job = wb.Job(building=[grid])
    assert len(job.joints) == 3 * 2 * 3
    assert len(job.members) == 6 + 2 * (2 * 2 + 3)
    assert job.member("H.X0.0.1").section.name == "IPE360"
    assert job.member("H.X1.0.1").length == 7000
    assert job.member("H.C0.0").spans == [4000, 3500]
    plane = {key: value for key, value in grid.items() if not key.endswith("_y") and key != "own"}
    job = wb.Job(building=[plane | {"held_across": True}])
    assert len(job.members) == 3 + 4
    assert job.members[0].inner_supports("minor") == [4000]


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"panels": 1}, "truss 1, panels: '1' is not accepted here; accepted: their number"),
        ({"panels": "six"}, "truss 1, panels: 'six' is not accepted here"),
        ({"panels": ["2 m"]}, "panels: 2 to 200 lengths, each greater than zero"),
        ({"panels": ["6 m", "7 m"]}, r"panels: they add up to 13 m .*, the span is 12 m"),
        ({"panels": ["6 m", "0 m", "6 m"]}, "each greater than zero"),
        ({"panels": ["5 m", "7 m"], "shape": "pitched", "rise": "1 m"}, "a joint below its ridge"),
        (
            {
                "chords": "jointed",
                "top": {
                    "section": "HEA120",
                    "load": [{"case": "dead", "point": "1 kN", "at": "1 m"}],
                },
            },
            "top, load, at: a chord that is jointed has no places",
        ),
        ({"shape": "pitched", "rise": "1 m", "panels": 5}, "are even"),
        ({"rise": "1 m"}, "goes with shape"),
        ({"verticals": None}, "is missing"),
        ({"depht": "1 m"}, "did you mean depth"),
        ({"own": {"d99": {"section": "HEA100"}}}, "no member T.d99"),
        ({"top": {"section": "HEA12"}}, "no section 'HEA12'"),
    ],
)
def test_trusses_that_cannot_be(change, words):
    with pytest.raises(wb.InputError, match=words):
        wb.Job(truss=[TRUSS | change])


BOX = {key: value for key, value in TRUSS.items() if key != "web"} | {
    "mark": "B", "width": "2 m", "web": "Pratt", "cross_beams": {"section": "IPE160"},
    "struts": {"section": "SHS60X60X5 EN10219"}, "bracing": {"section": "SHS60X60X5 EN10219"},
}  # fmt: skip


def box(load, **change):
    job = wb.Job(box_truss=[BOX | change], frame=PLAIN, combinations=["1.0D"],
                 joint_load=load, defaults={"self_weight": False})  # fmt: skip
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0D")
    assert found.residual[c] < 1e-9
    return job, dict(zip(found.supports, found.reactions[c], strict=True))


@pytest.mark.parametrize("web", ["Pratt", "Howe", "Warren with verticals"])
def test_a_box_of_trusses_stands_on_its_corners(web):
    load = [{"joint": "B.0.b2", "case": "dead", "z": "-30 kN"},
            {"joint": "B.1.b2", "case": "dead", "z": "-30 kN"}]  # fmt: skip
    job, corners = box(load, web=web)
    assert len(job.members) == 2 * (6 + 7 + 2) + 2 * 7 + 2 * 6
    for side in (0, 1):
        assert corners[f"B.{side}.b0"][2] == pytest.approx(20e3, rel=1e-3)
    for k, share in ((0, 40e3), (6, 20e3)):
        total = corners[f"B.0.b{k}"][2] + corners[f"B.1.b{k}"][2]
        assert total == pytest.approx(share, rel=1e-9)


def test_wind_on_a_box_of_trusses_goes_down_its_end_frames():
    load = [{"joint": f"B.{side}.t3", "case": "dead", "y": "8 kN"} for side in (0, 1)]
    _, corners = box(load)
    # All that holds it along y are the corners of the first truss, a half each.
    assert [corners[f"B.0.b{k}"][1] for k in (0, 6)] == pytest.approx([-8e3, -8e3], rel=0.02)
    # It turns it over by its height over its width.
    lifted = sum(corners[f"B.1.b{k}"][2] for k in (0, 6))
    assert lifted == pytest.approx(16e3 * 1500 / 2000, rel=1e-9)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"width": "0 m"}, "width are greater than zero"),
        ({"start": ["0 m", "0 m"]}, "a place is x, y and z"),
        ({"posts": {"section": "HEA12"}}, "no section 'HEA12'"),
        ({"own": {"low 6": {"section": "HEA100"}}}, "no member B.low 6"),
    ],
)
def test_boxes_that_cannot_be(change, words):
    with pytest.raises(wb.InputError, match=words):
        wb.Job(box_truss=[BOX | change])


SIX = [{"case": "dead", "line": "6 kN/m", "per": "plan length"}]
PORTAL = {"mark": "P", "spans": ["18 m"], "height": "5 m", "rise": "2 m",
          "columns": {"section": "IPE400", "steel": "S355"},
          "rafters": {"section": "IPE360", "steel": "S355", "load": SIX}}  # fmt: skip


def made_portal(**more):
    return wb.Job(portal=[PORTAL | more], frame=PLAIN, combinations=["1.0D"],
                  defaults={"self_weight": False}, standard="EN 1993-1-1")  # fmt: skip


def test_a_pitched_portal_by_its_closed_form():
    """Two hinges, a load along the whole span: the moments at eaves and ridge (Kleinlogel)."""
    table = wb.check(made_portal())
    w, L, h, f = 6.0, 18000.0, 5000.0, 2000.0
    column, rafter = (wb.section(name).I_major for name in ("IPE400", "IPE360"))
    k, m = rafter / column * h / math.hypot(L / 2, f), 1 + f / h
    N = 2 * (k + 1) + m + m * (1 + 2 * m)
    eaves = -w * L**2 * (3 + 5 * m) / (16 * N)
    c = under(table["P.R0 left"])
    M = table["P.R0 left"].forces.M_major[c]
    assert M[0] == pytest.approx(eaves, rel=0.01)
    assert M[-1] == pytest.approx(w * L**2 / 8 + m * eaves, rel=0.01)
    mirrored = table["P.R0 right"].forces.M_major[c]
    assert (M[0], M[-1], M.max()) == pytest.approx((mirrored[-1], mirrored[0], mirrored.max()))


@pytest.mark.parametrize(
    ("change", "marks", "pieces"),
    [
        ({}, ["P.C0", "P.C1", "P.R0 left", "P.R0 right"], 1),
        ({"rise": "0 m"}, ["P.C0", "P.C1", "P.R0"], 1),
        ({"haunch": {"length": "1.8 m", "section": "IPE550"}},
         ["P.C0", "P.C1", "P.R0 left", "P.R0 right"], 2),
        ({"rise": "0 m", "haunch": {"length": "1.8 m", "section": "IPE550"}},
         ["P.C0", "P.C1", "P.R0"], 3),
        ({"spans": ["12 m", "9 m"], "inner_columns": {"section": "HEA240", "steel": "S355"}},
         ["P.C0", "P.C1", "P.C2", "P.R0 left", "P.R0 right", "P.R1 left", "P.R1 right"], 1),
    ],
)  # fmt: skip
def test_what_a_portal_is_made_of(change, marks, pieces):
    job = made_portal(**change)
    assert sorted(one.mark for one in job.members) == marks
    found = frame_results(job)
    c = [one.name for one in found.combinations].index("1.0D")
    span = sum(float(text.split()[0]) for text in (PORTAL | change)["spans"])
    assert found.reactions[c, :, 2].sum() == pytest.approx(6e3 * span, rel=1e-9)
    rafter = wb.check(job)[next(mark for mark in marks if ".R" in mark)].member
    assert len(rafter.stretches) == pieces
    # A haunch stiffens: less moment in the span than without.
    if "haunch" in change:
        plain = {key: value for key, value in change.items() if key != "haunch"}
        without = wb.check(made_portal(**plain))[rafter.mark].forces.M_major[c].max()
        assert wb.check(job)[rafter.mark].forces.M_major[c].max() < without


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"spans": []}, "spans"),
        ({"height": "0 m"}, "greater than zero"),
        ({"haunch": {"length": "20 m", "section": "IPE550"}}, "room for"),
        ({"own": {"C7": {}}}, "there is no member P.C7"),
        ({"start": ["0 m"]}, "a place is x and z"),
    ],
)
def test_portals_that_cannot_be(change, words):
    with pytest.raises(wb.InputError, match=words):
        made_portal(**change)


# Commands


@pytest.fixture(scope="module", params=["saltmarsh_frame.toml", "saltmarsh_truss.toml",
                                        "saltmarsh_bridge.toml"])  # fmt: skip
def file(request, tmp_path_factory):
    path = tmp_path_factory.mktemp("frame") / request.param
    path.write_text(demo_text(request.param), encoding="utf-8")
    return path


def test_the_demo_frames_are_within_limits_and_balance(file):
    job = wb.load_job(file)
    assert {result.status for result in wb.check(job)} == {"ok"}
    assert frame_results(job).residual.max() < 1e-8
    for result in wb.check(job):
        for part in wb.check(job).explain(result.member.mark).parts[:1]:
            assert part.row.utilisation <= 1


def test_what_is_drawn_is_what_is_checked():
    """The largest number of a diagram is that of the table; a mode has its critical load."""
    job = wb.parse_job(demo_text("saltmarsh_frame.toml"))
    found, table = frame_results(job), wb.check(job)
    most = max(float(np.abs(one.forces.M_major).max()) for one in table)
    figure = diagram_figure(job, found, table, "moments")
    words = " ".join(text.get_text() for text in figure.findobj(Text))
    assert job.display.show(most, "moment", 3) in words.replace("\u2212", "-") or (
        job.display.show(-most, "moment", 3) in words
    )
    for mark in ("F1", "F2", "G2"):
        assert job.display.show(float(table[mark].forces.M_major.max()), "moment", 3) in words
    drawn = " ".join(text.get_text() for text in loads_figure(job, found, "wind").findobj(Text))
    for load in job.joint_loads:
        if load.case == "W":
            assert job.display.show(abs(load.x), "force") in drawn
    assert "0.22 kip/ft" in drawn
    model = solution(found.frame).model
    for c in (0, int(np.argmax(found.share))):
        mode = critical_mode(model, found.on.taken(c))
        own, bulges = mode.movements[..., 0], mode.bulges[..., 0].transpose(2, 0, 1)
        bulges = bulges.reshape(len(own), -1)
        elastic = np.einsum("ei,eij,ej->", own, model.stiffness(found.state.carries[:, c]), own)
        alone = np.broadcast_to(np.eye(12), (len(own), 12, 12))
        adds, between, pulls, stiff = model.kept(BeamColumns).freedoms(alone)
        elastic += (stiff * bulges**2).sum()
        N = found.on.N[:, c]
        pressed = np.einsum("ei,eij,ej,e->", own, adds, own, N)
        pressed += 2 * np.einsum("ei,eij,ej,e->", own, between, bulges, N)
        pressed += (pulls * bulges**2).sum(axis=1) @ N
        assert -pressed / elastic == pytest.approx(found.share[c], rel=1e-6)


def test_what_a_frame_does_as_tables():
    found = frame_results(wb.parse_job(demo_text("saltmarsh_frame.toml")))
    moved, given = found.moved_frame(), found.reaction_frame()
    assert len(moved) == len(found.combinations) * len(found.joints)
    up = given.groupby("combination")["z"].sum()
    for one, applied in zip(found.combinations, found.applied, strict=True):
        assert up[one.name] == pytest.approx(-applied[2], rel=1e-6)
    # Storeys lean more than to the first order, out of plumb both.
    for storey in found.storeys:
        pushed = storey.first_order > 1e-3 * storey.drift
        assert (storey.drift[pushed] > 0.99 * storey.first_order[pushed]).all()


@pytest.mark.parametrize(
    ("name", "mark", "words"),
    [("frame", "CA", "deflections are of the first order"),
     ("building", "H.X0.1.1", "deflections too, with what is slack")],
)  # fmt: skip
def test_where_second_order_moments_come_from_is_said(name, mark, words):
    table = wb.check(wb.parse_job(demo_text(f"saltmarsh_{name}.toml")))
    said = f"second-order moments of the frame as it leans under each combination; {words}"
    assert said in table[mark].notes


def test_the_hall_in_space_is_within_limits_and_balances():
    """Pinned columns of open sections, and braces that carry tension alone."""
    job = wb.parse_job(demo_text("saltmarsh_building.toml"))
    table = wb.check(job)
    assert {result.status for result in table} == {"ok"}
    found = frame_results(job)
    assert found.residual.max() < 1e-8
    assert 0 < found.share.max() < 1
    slack = [abs(table[f"W{i}"].forces.N).min() for i in range(1, 25)]
    assert max(slack) < 1.0


def test_commands_on_frames(file, tmp_path):
    run = CliRunner().invoke
    whole = run(main, ["frame", str(file)])
    assert whole.exit_code == 0
    assert "Balance" in whole.output
    assert "Reactions" in whole.output
    found = json.loads(run(main, ["frame", str(file), "--json"]).output)
    assert all(one["residual"] < 1e-8 for one in found["combinations"])
    picture = tmp_path / "frame.png"
    assert run(main, ["draw", str(file), "--to", str(picture)]).exit_code == 0
    assert picture.stat().st_size > 10_000
    for command in ("frame", "draw"):
        assert run(main, [command, str(file), "--to", str(tmp_path / "frame.txt")]).exit_code == 2
    told = run(main, ["frame", str(file), "--to", str(picture)])
    assert "welbric draw JOB draws the frame" in told.output
    for drawn in ("axial", "shear", "moments", "mode", "loads"):
        drawing = tmp_path / f"{drawn}.svg"
        found = run(main, ["draw", str(file), "--to", str(drawing), "--drawn", drawn])
        assert found.exit_code == 0, found.output
        assert drawing.stat().st_size > 10_000
    nothing = run(main, ["draw", str(file), "--to", str(picture), "--drawn", "loads",
                         "--under", "rain"])  # fmt: skip
    assert "no load case 'rain'; it has dead" in nothing.output
    nowhere = run(main, ["draw", str(file), "--to", str(picture), "--plane", "z = 77 mm"])
    assert "no member lies in z = 77 mm; joints are at" in nowhere.output
    mark = wb.load_job(file).members[0].mark
    assert "leave MARK out" in run(main, ["draw", str(file), mark, "--drawn", "mode"]).output
    under = run(main, ["draw", str(file), "--to", str(picture), "--under", "1.2X"])
    assert "no combination '1.2X'" in under.output
    for command, words in (
        (["reserve", str(file), mark, "--span"], "forces follow the whole frame"),
        (["check", str(file), "--under", "dead"], "dead alone"),
    ):
        assert words in run(main, command).output


def test_what_is_written_out_is_the_same_job(tmp_path):
    path, plain = tmp_path / "truss.toml", tmp_path / "plain.toml"
    path.write_text(demo_text("saltmarsh_truss.toml"), encoding="utf-8")
    run = CliRunner().invoke
    assert run(main, ["expand", str(path), "--to", str(plain)]).exit_code == 0
    assert "[[truss]]" not in plain.read_text(encoding="utf-8")
    one, other = wb.check(wb.load_job(path)), wb.check(wb.load_job(plain))
    for a, b in zip(one, other, strict=True):
        assert a.utilisation == pytest.approx(b.utilisation, rel=1e-9)
    assert "has no truss and no box_truss" in run(main, ["expand", str(plain)]).output
    alone = tmp_path / "alone.toml"
    alone.write_text(demo_text(), encoding="utf-8")
    assert "the job has no frame" in run(main, ["frame", str(alone)]).output


# Stiffness that goes by compression

H = 1000.0  # mm, of a column that is crushed before it buckles


def softening(P, W=2e3, section="W10X49", method="LRFD", steel="A992", imperfections=False,
              tau_b="by compression", order="analysed", stability="direct analysis"):  # fmt: skip
    """A cantilever column under P and a push W at its top."""
    return wb.Job(
        standard="AISC 360-22", combinations=["1.0D"],
        design={"method": method, "stability": stability, "tau_b": tau_b},
        joint=[joint("A", 0, 0, support="fixed"), joint("B", 0, H, support=["y"])],
        member=[piece("C", "A", "B", section=section, role="column", steel=steel)],
        joint_load=[{"joint": "B", "case": "dead", "x": f"{W} N", "z": f"{-P} N"}],
        frame={"imperfections": imperfections, "divisions": 8, "second_order": order},
    )  # fmt: skip


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
@pytest.mark.parametrize("share", [0.2, 0.499, 0.6, 0.8, 0.95])
def test_a_column_softens_with_its_compression(share, method):
    s, steel = wb.section("W10X49"), 50 * 6.894757293168361
    alpha = {"LRFD": 1.0, "ASD": 1.6}[method]
    found = wb.check(softening(share * steel * s.A / alpha, method=method))["C"]
    tau = 1.0 if share <= 0.5 else 4 * share * (1 - share)  # C2-2
    k = math.sqrt(share * steel * s.A / (0.8 * tau * E * s.I_major))
    found_M = np.abs(found.forces.M_major[under(found)]).max()
    assert found_M == pytest.approx(2e3 * math.tan(k * H) / k, rel=1e-5)


def test_what_is_crushed_does_not_stand():
    s = wb.section("W10X49")
    assert wb.check(softening(1.01 * 50 * 6.894757293168361 * s.A))["C"].status == "over"


def test_a_slender_section_is_crushed_on_its_effective_area():
    s, Fy = wb.section("HSS12X12X1/4"), 50 * 6.894757293168361
    # E7-3 to E7-5 with Fn = Fy and c1 = 0.20, of four walls between the corners.
    b = s.d - 3 * s.t
    c2 = (1 - math.sqrt(1 - 4 * 0.20)) / (2 * 0.20)
    root = math.sqrt((c2 * 1.40 * math.sqrt(E / Fy) / (b / s.t)) ** 2)
    effective = b * (1 - 0.20 * root) * root
    squash = Fy * (s.A - 4 * (b - effective) * s.t)
    share = 0.7
    found = wb.check(softening(share * squash, section="HSS12X12X1/4", steel="A500 C"))["C"]
    k = math.sqrt(share * squash / (0.8 * 4 * share * (1 - share) * E * s.I_major))
    found_M = np.abs(found.forces.M_major[under(found)]).max()
    assert found_M == pytest.approx(2e3 * math.tan(k * H) / k, rel=1e-5)


def test_what_softens_by_compression_leans_less():
    def push(tau_b):
        found = frame_results(softening(1e5, 0.0, imperfections=True, tau_b=tau_b))
        return found.applied[0, 0] / -found.applied[0, 2]

    assert abs(push("by compression")) == pytest.approx(0.002, rel=1e-9)  # C2.2b(a)
    assert abs(push("1 with notional loads")) == pytest.approx(0.003, rel=1e-9)  # C2.3(c)


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"stability": "effective lengths"}, 'tau_b: goes with stability = "direct analysis"'),
        ({"order": "first order"}, "frame, second_order: 'analysed' is needed"),
    ],
)
def test_what_softens_has_to_be_analysed(more, words):
    with pytest.raises(wb.InputError, match=words):
        softening(1e5, **more)


BOWING = 0.3 * math.pi**2 * 210_000 / 4000**2 * wb.section("HEA120").I_major


def bowing(P=BOWING, other="HEA120", ends=("pinned", "fixed"), order="analysed", drawn=0.0,
           lean=0.0, of="HEA120", web=None):  # fmt: skip
    """Return a portal with a slender column; ``drawn`` with its bow as 32 straight pieces."""
    across = {"support": ["y"]}
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000, **across),
              joint("C", 6000, 4000, **across), joint("D", 6000, 0, support="fixed")]  # fmt: skip
    own = {"section": of} | ({"web": web} if web else {})
    column = [piece("AB", "A", "B", role="column", ends=list(ends), **own)]
    if drawn:
        z = np.arange(1, 32) / 32
        joints += [joint(f"P{i}", drawn * 4 * x * (1 - x), 4000 * x, **across)
                   for i, x in enumerate(z)]  # fmt: skip
        places = ["A", *(f"P{i}" for i in range(31)), "B"]
        # All but those in the middle lean.
        webs = [own if i in (15, 16) or not web else own | {"web": "level"} for i in range(32)]
        column = [piece(f"AB{i}", *two, role="column", ends=["fixed", "fixed"], **webs[i])
                  for i, two in enumerate(itertools.pairwise(places))]  # fmt: skip
    members = [*column, piece("BC", "B", "C", section="IPE300"),
               piece("DC", "D", "C", section=other, role="column")]  # fmt: skip
    loads = [{"joint": "B", "case": "dead", "z": f"{-P} N", "x": f"{1000 + lean * P} N"},
             {"joint": "C", "case": "dead", "z": "-100 kN", "x": f"{lean * 1e5} N"}]  # fmt: skip
    return frame(joints, members, loads, second_order=order, imperfections=not drawn,
                 standard="EN 1993-1-1", divisions=8)  # fmt: skip


@pytest.mark.parametrize("ends", [["pinned", "fixed"], ["pinned", "pinned"]])
@pytest.mark.parametrize("share", [0.15, 0.3])
@pytest.mark.parametrize("other", ["HEA120", "HEB300"])
@pytest.mark.parametrize("order", ["analysed", "amplified sway"])
def test_the_bow_of_a_slender_member_in_a_frame_that_sways(order, other, share, ends):
    """EN 1993-1-1, 5.3.2(6): a slenderness of more than half the root of A fy / N."""
    job = bowing(share / 0.3 * BOWING, other, ends, order)
    found = wb.check(job)["AB"]
    names = [one.name for one in found.forces.combinations]
    factors = {"1.35D, leaning +x": 1.35, "1.0D, leaning +x": 1.0}
    for name, factor in factors.items():
        # The stiff column sways at far more than ten times the loads, the slender ones do not.
        bows = factor * share > 0.25 and other == "HEA120" and "fixed" in ends
        assert (f"{name}, bows reversed" in names) == (bows and order == "analysed")
    bows = 1.35 * share > 0.25 and other == "HEA120" and "fixed" in ends
    outside = bows and order == "amplified sway"
    assert any(row.id == "bow" for row in found.rows) == outside
    assert ("Bows from the start" in str(wb.check(job))) == (bows and order == "analysed")


@pytest.mark.parametrize(
    ("section", "axis", "bow"), [("HEA120", "major", 200), ("HEB160", "minor", 150)]
)
@pytest.mark.parametrize("sense", ["+", "−"])
def test_a_bow_as_if_it_were_drawn(sense, section, axis, bow):
    """Moments with the plastic bow of Table 5.1 (curves b and c), and with pieces along it."""
    own = {"of": section, "web": None if axis == "major" else "along y"}
    stiff = getattr(wb.section(section), f"I_{axis}") / wb.section("HEA120").I_major
    own["P"] = BOWING * stiff
    # The other column counts in the lean where it carries half of the average.
    counting = 2 if axis == "major" else 1
    lean = math.sqrt(0.5 * (1 + 1 / counting)) / 200 * (1 if sense == "+" else -1)
    ours = wb.check(bowing(**own))["AB"].forces
    drawn = [wb.check(bowing(drawn=way * 4000 / bow, lean=lean, **own)) for way in (1, -1)]
    found = []
    for name in (f"1.35D, leaning {sense}x", f"1.35D, leaning {sense}x, bows reversed"):
        c = [one.name for one in ours.combinations].index(name)
        places = np.linspace(0, 4000, 33)[1:]
        found.append(ours.diagrams[f"M_{axis}"].at(places, np.zeros(32, bool))[c])
    expected = []
    for table in drawn:
        c = under(table["AB0"], "1.35D")
        ends = [getattr(table[f"AB{i}"].forces, f"M_{axis}")[c, -1] for i in range(32)]
        expected.append(np.array(ends))
    for M in found:
        # A piece of a polygon has its top to either side of where it leans to.
        apart = [np.abs(np.abs(M) - np.abs(one)).max() for one in expected]
        assert min(apart) < 3e-3 * np.abs(M).max()
    assert np.abs(found[0] - found[1]).max() > 4e6


@pytest.mark.parametrize(("method", "level"), [("LRFD", 1.25), ("ASD", 2.0)])
def test_moments_between_the_nodes_stand_at_the_load_level_too(method, level):
    """A beam-column with an even load, in closed form at eighths of its length."""
    L, w, P = 6000.0, 10.0, 9e5
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, L, support=["x", "y"])]
    column = piece("C", "A", "B", section="W12X40", steel="A992", role="column",
                   ends=["pinned", "pinned"],
                   load=[{"case": "dead", "line": f"{w} kN/m", "axis": "major"}])  # fmt: skip
    loads = [{"joint": "B", "case": "dead", "z": f"{-P} N"}]
    design = {"method": method, "stability": "direct analysis"}
    job = frame(joints, [column], loads, second_order="analysed", design=design)
    found = wb.check(job)["C"].forces
    c = [one.name for one in found.combinations].index("1.0D")
    x = L * np.arange(1, 8) / 8
    M = found.diagrams["M_major"].at(x, np.zeros(7, bool))[c]
    k = math.sqrt(level * P / (E * wb.section("W12X40").I_major))
    exact = w / k**2 * (np.cos(k * (L / 2 - x)) / math.cos(k * L / 2) - 1)
    assert np.abs(M) == pytest.approx(exact, rel=4e-4)


def test_a_motion_has_no_combination_and_its_own_plane(tmp_path):
    joints = [joint(f"{n}{k}{j}", x, 5000 * j, 4000 * k, support=["y"] if k else "pinned")
              for n, x in (("A", 0), ("B", 6000)) for k in (0, 1) for j in (0, 1)]  # fmt: skip
    pinned = ["pinned", "pinned"]
    members = [piece(f"C{n}{j}", f"{n}0{j}", f"{n}1{j}", role="column", web="along x",
                     ends=["fixed", "fixed"]) for n in "AB" for j in (0, 1)]  # fmt: skip
    members += [piece(f"X{j}", f"A1{j}", f"B1{j}", ends=["fixed", "fixed"] if j else pinned)
                for j in (0, 1)]  # fmt: skip
    members += [piece(f"Y{n}", f"{n}10", f"{n}11", ends=pinned) for n in "AB"]
    job = frame(joints, members, [{"joint": "A10", "case": "dead", "z": "-1 kN"}])
    assert "without resistance" in motion_figure(job).axes[0].get_title(loc="left")
    with pytest.raises(wb.InputError, match="leave --under out"):
        save_frame(job, tmp_path / "motion.png", "1.0D", "motion")
    for plane, still in (("y = 0 m", False), ("y = 5 m", True)):  # whose beam is pinned sways
        words = motion_figure(job, plane).axes[0].get_title(loc="left")
        assert ("hardly takes part" in words) == still


@pytest.mark.parametrize("share", [0.98, 1.02])
def test_a_length_buckles_between_its_joints(share):
    """Clamped at both joints it does so at 4 pi2 EI/L2, though no joint moves."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 6000, support=["x", "turn y"])]
    critical = 4 * math.pi**2 * E * wb.section("HEA200").I_major / 6000**2
    loads = [{"joint": "B", "case": "dead", "z": f"-{share * critical} N"}]
    column = piece("C", "A", "B", role="column")
    found = wb.check(frame(joints, [column], loads, "analysed", divisions=8))["C"]
    assert found.forces.share[under(found)] == pytest.approx(share, rel=1e-3)
    (state,) = found.member.said.frame.known["solved"].known.values()
    assert state.beyond[under(found)] == (share > 1)


@pytest.mark.parametrize("name", ["saltmarsh_frame.toml", "saltmarsh_building.toml"])
def test_what_is_condensed_balances_at_every_node(name):
    """The stiffness of nodes and bulges, axial forces among it, times their movements is the load.

    What acts on bulges is how far the loads, and bows, have them off the straight line already.
    """
    job = wb.parse_job(demo_text(name))
    wb.check(job)
    solved = job.members[-1].frame.known["solved"]
    model, loading, beams = solved.model, solved.loading, solved.model.kept(BeamColumns)
    adds, couples, pulls, stiff = beams.freedoms(model.turn)
    for found in solved.known.values():
        acts = (loading.nodal - model.on_nodes(loading.fixed)) @ found.factors.T + found.pushed
        for c in np.flatnonzero(~found.beyond)[:3].tolist():
            N = found.N[:, c]
            off = loading.off.combined(found.factors[[c]])
            turns, bulges, leans = N[:, None] * off.turns, N[:, None] * off.bulges, np.zeros(2)
            if found.bowed is not None:
                bows = beams.bowed(found.bowed[..., [c]])
                turns, bulges, leans = turns + bows.turns, bulges + bows.bulges, leans + bows.chord
            ends = np.zeros((len(N), 12, 1))
            for axis, at in enumerate((1, 3)):
                (arc, alike), L = turns[:, axis], model.lengths[:, None]
                ends[:, at], ends[:, at + 6] = (alike - leans[axis]) / L, (leans[axis] - alike) / L
                ends[:, at + 1], ends[:, at + 7] = (alike + arc) / 2, (alike - arc) / 2
            bulge = found.state.bulges[..., c].transpose(2, 0, 1).reshape(-1, 10)
            between = couples * N[:, None, None]
            k = model.in_freedoms(model.stiffness(found.state.carries[:, c])) + model.joined
            k += (adds + model.arms) * N[:, None, None]
            moved = found.state.moved[:, c][model.numbers]
            parts = np.einsum("eij,ej->ei", k, moved) + np.einsum("eij,ej->ei", between, bulge)
            load = np.zeros(model.freedoms)
            np.add.at(load, model.numbers, parts)
            load += model.resisting * found.state.moved[:, c] + model.on_nodes(ends)[:, 0]
            free = ~model.held
            assert load[free] == pytest.approx(acts[free, c], abs=1e-7 * np.abs(acts[:, c]).max())
            rest = np.einsum("eij,ei->ej", between, moved) + (stiff + pulls * N[:, None]) * bulge
            on_bulges = bulges[..., 0].transpose(2, 0, 1).reshape(-1, 10)
            largest = np.abs(stiff * bulge).max() + np.abs(between * moved[..., None]).max()
            assert rest == pytest.approx(-on_bulges, abs=1e-9 * largest)
