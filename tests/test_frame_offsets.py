"""Members whose ends hang off their joints: rigid ends, eccentric ends, in closed form."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.optimize import brentq

import welbric as wb
from welbric.checking.frames import frame_results

L, W = 5000.0, 12.0  # mm, N/mm


def joint(name, *at, **more):
    return {"name": name, "at": [f"{x} mm" for x in at]} | more


def piece(mark, *through, section="HEA200", offsets=None, **more):
    own = {"mark": mark, "through": list(through), "section": section, "steel": "S355"}
    off = {"offsets": offsets} if offsets else {}
    return own | {"self_weight": False} | off | more


def frame(joints, members, joint_load=(), second_order="first order", **more):
    return wb.Job(
        standard="EN 1993-1-1", joint=list(joints), member=list(members),
        joint_load=list(joint_load), combinations=["1.0D"],
        frame={"second_order": second_order, "imperfections": False} | more,
    )  # fmt: skip


def along(a, b):
    return [f"{a} mm", f"{b} mm"]


def own(found):
    """Return the number of the combination that has its loads as they are."""
    return [one.name for one in found.combinations].index("1.0D")


def section(job):
    return job.members[0].section


@pytest.mark.parametrize(("a", "b"), [(0, 0), (300, 300), (250, 0), (0, 400)])
def test_a_clamped_beam_with_rigid_ends(a, b):
    load = [{"case": "dead", "line": f"{W} N/mm"}]
    job = frame([joint("A", 0, 0, support="fixed"), joint("B", L, 0, support="fixed")],
                [piece("G", "A", "B", offsets=along(a, b), load=load)])  # fmt: skip
    clear = L - a - b
    forces = wb.check(job)["G"].forces
    face = W * clear**2 / 12
    assert forces.x[0, -1] == pytest.approx(clear)
    assert forces.M_major[own(forces)][[0, -1]] == pytest.approx([-face, -face], rel=1e-9)
    found = frame_results(job)
    # At the joints the shear acts at its arm too.
    turns = dict(zip(found.supports, found.reactions[own(found), :, 4], strict=True))
    assert abs(turns["A"]) == pytest.approx(face + W * clear / 2 * a, rel=1e-9)
    assert abs(turns["B"]) == pytest.approx(face + W * clear / 2 * b, rel=1e-9)


@pytest.mark.parametrize("a", [0.0, 200.0, 600.0])
def test_a_rigid_end_stiffens_what_turns_the_joint(a):
    job = frame([joint("A", 0, 0, support="pinned"), joint("B", L, 0, support="fixed")],
                [piece("G", "A", "B", offsets=along(a, 0))],
                [{"joint": "A", "case": "dead", "about_y": "10 kN m"}])  # fmt: skip
    E, clear = 210_000.0, L - a
    ratio = a / clear
    stiff = 4 * E * section(job).I_major / clear * (1 + 3 * ratio + 3 * ratio**2)
    found = frame_results(job)
    assert found.moved[own(found), 0, 4] == pytest.approx(10e6 / stiff, rel=1e-9)


@pytest.mark.parametrize("e", [-150.0, 80.0])
def test_an_eccentric_load_bends_a_column(e):
    P = 40e3
    job = frame([joint("A", 0, 0, support="fixed"), joint("B", e, L)],
                [piece("C", "A", "B", offsets=[{"x": "0 mm"}, {"x": f"{-e} mm"}], role="column")],
                [{"joint": "B", "case": "dead", "z": f"{-P} N"}])  # fmt: skip
    forces = wb.check(job)["C"].forces
    assert np.abs(forces.M_major[own(forces)]) == pytest.approx(P * abs(e), rel=1e-9)
    assert forces.N[own(forces)] == pytest.approx(-P, rel=1e-9)
    E, s = 210_000.0, section(job)
    turn, short = P * abs(e) * L / (E * s.I_major), P * L / (E * s.A)
    found = frame_results(job)
    assert found.moved[own(found), 1, 2] == pytest.approx(-short - turn * abs(e), rel=1e-9)


@pytest.mark.parametrize("a", [0.0, 150.0, 500.0])
def test_a_column_with_rigid_ends_buckles_as_its_equation_says(a):
    P = 100e3
    pinned = ["x", "z"]
    job = frame([joint("A", 0, 0, support=pinned), joint("B", 0, L, support=["x"])],
                [piece("C", "A", "B", offsets=along(a, a), role="column")],
                [{"joint": "B", "case": "dead", "z": f"{-P} N"}],
                "analysed", divisions=8)  # fmt: skip
    half = L / 2 - a
    # Bowing between rigid arms that turn about the joints: cos(k l) = a k sin(k l).
    k = brentq(
        lambda k: math.cos(k * half) - a * k * math.sin(k * half), 1e-9, 0.501 * math.pi / half
    )
    critical = k**2 * 210_000.0 * section(job).I_major
    found = frame_results(job)
    assert found.share[own(found)] == pytest.approx(P / critical, rel=1e-4)


def space(turn=0.0, order="first order"):
    """A column with a bracket off its axis, and a brace that misses the working point."""
    c, s = math.cos(turn), math.sin(turn)

    def at(name, x, y, z, **more):
        return joint(name, c * x - s * y, s * x + c * y, z, **more)

    def off(x, y, z):
        return {"x": f"{c * x - s * y} mm", "y": f"{s * x + c * y} mm", "z": f"{z} mm"}

    joints = [at("A", 0, 0, 0, support="fixed"), at("B", 0, 0, 4000),
              at("C", 3000, 500, 3600, support="fixed"),
              at("D", -2000, 1500, 0, support="fixed")]  # fmt: skip
    tube = {"section": "SHS120X120X6 EN10210", "steel": "S355H EN 10210"}
    members = [
        piece("K", "A", "B", offsets=[off(40, -30, 0), off(40, -30, -50)], role="column", **tube),
        piece("L", "B", "C", offsets=[off(60, 20, -80), off(-30, 0, 10)], **tube),
        piece("M", "D", "B", offsets=along(100, 150), ends=["pinned", "pinned"], **tube),
    ]
    loads = [{"joint": "B", "case": "dead", "x": f"{20e3 * c} N", "y": f"{20e3 * s} N",
              "z": "-90 kN"}]  # fmt: skip
    return frame_results(frame(joints, members, loads, order, twist="resisted"))


@pytest.mark.parametrize("order", ["first order", "analysed"])
def test_ends_in_space_turn_with_their_frame(order):
    plain, turned = space(0.0, order), space(0.7, order)
    assert plain.residual.max() < 1e-9
    assert turned.moved[0, :, 2] == pytest.approx(plain.moved[0, :, 2], rel=1e-7, abs=1e-9)
    assert turned.share == pytest.approx(plain.share, rel=1e-6)
    size = [np.hypot(f.moved[0, :, 0], f.moved[0, :, 1]) for f in (plain, turned)]
    assert size[1] == pytest.approx(size[0], rel=1e-7, abs=1e-9)


def test_all_moments_about_a_point_balance():
    found = space()
    places = np.array([found.frame.joints[name].place for name in found.supports])
    forces, turns = (found.reactions[own(found), :, way] for way in (slice(3), slice(3, 6)))
    loaded = np.array(found.frame.joints["B"].place)
    total = (np.cross(places, forces) + turns).sum(axis=0) + np.cross(loaded, [20e3, 0, -90e3])
    assert np.abs(total).max() < 1e-6 * 90e3 * 4000


def test_a_deck_brings_all_of_its_load_though_ends_are_off_joints():
    joints = [joint(f"{x}{y}", 6000 * x, 4000 * y, 3000, support="fixed")
              for x in (0, 1) for y in (0, 1)]  # fmt: skip
    job = wb.Job(
        standard="EN 1993-1-1", joint=joints, combinations=["1.0D"],
        member=[piece(f"B{y}", f"0{y}", f"1{y}", offsets=along(200, 350)) for y in (0, 1)],
        deck=[{"level": "3 m", "spans": "along y", "load": [{"case": "dead", "area": "2 kN/m2"}]}],
        frame={"second_order": "first order", "imperfections": False},
    )  # fmt: skip
    found = frame_results(job)
    assert found.applied[own(found), 2] == pytest.approx(-2e-3 * 6000 * 4000, rel=1e-9)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"offsets": ["100 mm"]}, "offsets: two of them"),
        ({"offsets": along(-100, 0)}, "towards the other end"),
        ({"offsets": along(3000, 2500)}, "offsets: nothing of the member is left"),
        ({"offsets": [{"y": "10 mm"}, {"y": "10 mm"}]}, "offsets: y is across the plane"),
        ({"offsets": [{"along": "10 mm", "x": "1 mm"}, "0 mm"]}, "along: does not go with x, y"),
        ({"offsets": along(10, 10), "through": [], "span": "4 m"}, "offsets: goes with through"),
        ({"offsets": [{"z": "90 mm"}, {"z": "90 mm"}], "through": ["A", "M", "B"]},
         "its ends lie beside it"),
    ],
)  # fmt: skip
def test_ends_that_cannot_be(change, words):
    joints = [joint("A", 0, 0, support="fixed"), joint("M", L / 2, 0), joint("B", L, 0)]
    with pytest.raises(wb.InputError, match=words):
        wb.check(frame(joints, [piece("G", "A", "B") | change, piece("H", "A", "M")]))
