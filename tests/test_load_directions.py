"""Loads on members that are not level: statics by hand, both ways to measure, both ends held."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.checking.check import check_member


def rafter(loads, slope=30.0, **more):
    return wb.Member(
        mark="R", section="IPE300", steel="S355", span="8 m", inclination=f"{slope} deg",
        self_weight=False, loads=loads, **more,
    )  # fmt: skip


def forces_of(member, combination="1D + 1L + 1S + 1W"):
    job = wb.Job(members=[member], combinations=[combination])
    forces = check_member(job, wb.resolve(member)).forces
    (row,) = [i for i, c in enumerate(forces.combinations) if c.name == combination]
    return forces.N[row], forces.V_major[row], forces.M_major[row], forces


SLOPES = st.floats(-80, 80)


@given(SLOPES, st.sampled_from(["D", "L", "S"]), st.booleans())
@settings(max_examples=25, deadline=None)
def test_a_vertical_load_is_its_weight_in_two_directions(slope, case, plan):
    """w L is carried whole: across w L cos / 2 at each end, along w L sin at the held start."""
    w, L, a = 5.0, 8000.0, np.radians(slope)
    load = {"case": case, "line": "5 kN/m", **({"per": "plan length"} if plan else {})}
    N, V, M, _ = forces_of(rafter([load], slope))
    w *= np.cos(a) if plan else 1.0
    assert np.abs(V).max() == pytest.approx(w * L * np.cos(a) / 2, rel=1e-9)
    assert M.max() == pytest.approx(w * L**2 * np.cos(a) / 8, rel=1e-9)
    assert N[0] == pytest.approx(-w * L * np.sin(a), rel=1e-9, abs=1e-6)
    assert N[-1] == pytest.approx(0.0, abs=1e-6)


def test_wind_acts_across_and_what_is_said_holds():
    for load in ({"case": "wind", "line": "5 kN/m"},
                 {"case": "dead", "line": "5 kN/m", "direction": "across"}):  # fmt: skip
        N, _, M, _ = forces_of(rafter([load]))
        assert not N.any()
        assert M.max() == pytest.approx(5 * 8000**2 / 8)
    down = {"case": "wind", "line": "5 kN/m", "direction": "vertical"}
    assert forces_of(rafter([down]))[0].min() == pytest.approx(-5 * 8000 * 0.5)


def test_points_and_parts_of_the_member():
    """A vertical force and a partial trapezoid; the axial force by sums from the free end."""
    loads = [
        {"case": "dead", "point": "12 kN", "at": "3 m"},
        {"case": "dead", "line": ["2 kN/m", "6 kN/m"], "start": "4 m", "end": "7 m"},
    ]
    N, _, M, forces = forces_of(rafter(loads))
    sin, cos = 0.5, np.cos(np.pi / 6)
    total = 12e3 + 4 * 3000
    assert N[0] == pytest.approx(-total * sin)
    # Beyond 5.5 m stands what the trapezoid has from there on: 4 to 6 kN/m.
    there = forces.diagrams["N"].at(np.array([5500.0]), np.array([True]))
    assert there[-1] == pytest.approx(-(4 + 6) / 2 * 1500 * sin)
    centre = 4000 + 3000 * (2 + 2 * 6) / (3 * (2 + 6))
    R = (12e3 * 5000 + 12e3 * (8000 - centre)) * cos / 8000
    assert M.max() >= R * 3000 * (1 - 1e-9)
    free = rafter(loads, ends=["free", "fixed"])
    assert forces_of(free)[0][-1] == pytest.approx(total * sin)  # hung from its upper end


def test_both_ends_held_share_the_axial_part():
    """A uniform load along a bar with both ends held: half is in tension, half in compression."""
    member = rafter([{"case": "dead", "line": "5 kN/m"}], lengthwise="both ends held")
    N = forces_of(member)[0]
    assert [N[0], N[-1]] == pytest.approx([-10e3, 10e3])
    steep = [{"case": "dead", "line": ["0 kN/m", "6 kN/m"]}]
    N = forces_of(rafter(steep, lengthwise="both ends held"))[0]
    assert [N[0], N[-1]] == pytest.approx([-24e3 * 0.5 / 3, 24e3 * 0.5 * 2 / 3])


def test_the_height_of_a_load_counts_with_its_part_across():
    def factor(slope):
        load = {"case": "dead", "line": "5 kN/m", "on": "top"}
        member = rafter([load], slope, lengthwise="one end held")
        job = wb.Job(members=[member], combinations=["1D"])
        return wb.lateral_buckling(job, member.mark, "1D").factor

    across = [{"case": "dead", "line": f"{5 * np.cos(np.radians(60))} kN/m", "on": "top",
               "direction": "across"}]  # fmt: skip
    member = rafter(across, 60)
    job = wb.Job(members=[member], combinations=["1D"])
    # The axial part makes it buckle a little earlier.
    assert factor(60) < wb.lateral_buckling(job, member.mark, "1D").factor < 1.2 * factor(60)


def test_gravity_loads_on_an_upright_member_act_across_unless_said():
    def column(**more):
        return wb.Member(
            mark="C", section="W8X31", steel="A992", role="column", height="4 m", self_weight=False,
            loads=[{"case": "live", "line": "3 kN/m", **more}],
        )  # fmt: skip

    N, _, M, _ = forces_of(column(), "1L")
    assert M.max() == pytest.approx(3 * 4000**2 / 8)
    assert not N.any()
    N, _, M, _ = forces_of(column(direction="vertical"), "1L")
    assert N[0] == pytest.approx(-12e3)
    assert not M.any()
    notes = wb.check(wb.Job(members=[column()]))["C"].notes
    assert any("not said to be vertical act across" in note for note in notes)
    with pytest.raises(wb.InputError, match="an upright member has no plan length"):
        wb.resolve(column(per="plan length"))


@pytest.mark.parametrize(
    ("load", "words"),
    [
        ({"line": "1 kN/m", "direction": "down"}, "'down' is not accepted"),
        ({"line": "1 kN/m", "per": "plan length", "direction": "across"}, "is vertical"),
        ({"line": "1 kN/m", "axis": "minor", "direction": "vertical"}, "minor axis"),
        ({"moment": "1 kN m", "at": "1 m", "direction": "vertical"}, "does not go with 'moment'"),
        ({"point": "1 kN", "at": "1 m", "per": "plan length"}, "does not go with 'point'"),
    ],
)
def test_directions_that_make_no_sense(load, words):
    with pytest.raises(wb.InputError, match=words):
        rafter([{"case": "dead", **load}])


def test_what_changes_nothing_on_a_level_member_is_said():
    member = rafter([{"case": "dead", "line": "1 kN/m", "per": "plan length"}], 0.0)
    found = wb.check(wb.Job(members=[member]))["R"].warnings
    assert any("change nothing on a level member" in text for text in found)
