"""Several limits of deflection, camber, places that cannot twist, loads off the column's axis."""

from __future__ import annotations

import numpy as np
import pytest

import welbric as wb

E = 29000 * 6.894757293168361


def member(**more):
    fields = {"mark": "B", "section": "W16X31", "span": "8 m", "self_weight": False} | more
    usual = [{"case": "dead", "line": "4 kN/m"}, {"case": "live", "line": "6 kN/m"}]
    loads = fields.pop("loads", usual)
    return wb.Member(loads=loads, **fields)


def check(one, **job):
    return wb.check(wb.Job(members=[one], **job))


def rows(one, **job):
    return {row.name: row for row in check(one, **job)["B"].rows}


def sag(w):
    return 5 * w * 8000**4 / (384 * E * wb.section("W16X31").I_major)


@pytest.mark.parametrize(
    ("limit", "allowed"),
    [(360, 8000 / 360), ("25 mm", 25), ("1 in", 25.4), ([300, "20 mm"], 20), ([500, "20 mm"], 16)],
)
def test_several_limits_at_once(limit, allowed):
    row = rows(member(deflection={"live": limit}))["deflection, live"]
    assert row.capacity == pytest.approx(allowed)
    assert row.utilisation == pytest.approx(sag(6) / allowed, rel=1e-9)


def test_the_working_of_a_limit_is_the_tables():
    table = check(member(spans=["5 m", "8 m"], span=None, deflection={"live": [300, "20 mm"]}))
    row = next(r for r in table["B"].rows if r.name == "deflection, live")
    text = str(table.explain("B", "deflection, live"))
    assert f"{row.utilisation:.3f}"[:4] in text


def test_camber_counts_against_the_total():
    row = rows(member(deflection={"total": 240}, camber="20 mm"))["deflection, total"]
    assert row.demand == pytest.approx(max(abs(sag(10) - 20), abs(sag(4) - 20)), rel=1e-6)


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"deflection": {"live": 0}}, "a limit is greater than zero, such as 360"),
        ({"deflection": {"live": "0 mm"}}, "greater than zero"),
        ({"deflection": {"live": []}}, "the list is empty"),
        ({"deflection": {"live": "5 kN"}}, "is a force; a length is needed"),
        ({"camber": "-3 mm"}, "camber: is not less than zero"),
        ({"spans": ["4 m", "4 m"], "span": None, "camber": "3 mm"}, "goes with one span"),
        (
            {"loads": [{"case": "dead", "line": "4 kN/m", "eccentricity": "9 mm"}]},
            "does not go with",
        ),
    ],
)
def test_wrong_limits(fields, words):
    with pytest.raises(wb.InputError, match=words):
        wb.resolve(member(**fields))


def test_places_that_cannot_twist_end_segments():
    plain = wb.segments(wb.resolve(member()))
    held = wb.segments(wb.resolve(member(restraint={"twist": {"at": ["4 m"]}})))
    assert [s.unbraced for s in plain] == [8000]
    assert [(s.unbraced, s.held_end) for s in held] == [(4000, "twist held"), (4000, "support")]

    def factor(*held):
        one = member(restraint={name: {"at": ["4 m"]} for name in held})
        return wb.lateral_buckling(wb.Job(members=[one], combinations=["1D"]), "B", "1D").factor

    assert 1.5 * factor() < factor("twist") <= factor("top", "bottom") * (1 + 1e-6)
    along = wb.segments(wb.resolve(member(restraint={"twist": "continuous"})))
    assert all(s.continuous for s in along)


@pytest.mark.parametrize("at", [None, "2 m"])
def test_a_load_off_the_columns_axis(at):
    load = {"case": "dead", "compression": "200 kN", "eccentricity": "100 mm"}
    load |= {"at": at} if at else {}
    column = member(role="column", span=None, height="4 m", loads=[load])
    forces = check(column, combinations=["1D"])["B"].forces
    M = forces.M_major[-1]
    largest = 200e3 * 100 * (1.0 if at is None else 0.5)
    assert np.abs(M).max() == pytest.approx(largest, rel=1e-9)
    assert forces.N[-1].min() == pytest.approx(-200e3)


def test_a_stepped_member_is_its_worst_section():
    """Each section is checked with the largest effects of its segments, the deflection exactly."""
    heavy = {"section": "W16X50", "end": "3 m"}
    stepped = rows(member(piece=[heavy], deflection={"live": 360}))
    light, strong = rows(member(deflection={"live": 360})), rows(member(section="W16X50"))
    for name in ("yielding, major axis", "shear, web"):
        worst = max(light[name].utilisation, strong[name].utilisation)
        assert stepped[name].utilisation == pytest.approx(worst, rel=1e-9)
    I1, I2 = (wb.section(name).I_major for name in ("W16X50", "W16X31"))
    x = np.linspace(0, 8000, 200001)
    M = 6 * x * (8000 - x) / 2
    curvature = M / (E * np.where(x < 3000, I1, I2))
    h = x[1] - x[0]
    slope = np.concatenate([[0], np.cumsum((curvature[1:] + curvature[:-1]) / 2 * h)])
    fall = np.concatenate([[0], np.cumsum((slope[1:] + slope[:-1]) / 2 * h)])
    sag_exact = (fall[-1] * x / 8000 - fall).max()
    assert stepped["deflection, live"].demand == pytest.approx(sag_exact, rel=1e-5)
    weights = [
        check(member(piece=[heavy], self_weight=True))["B"].cases.major.reactions[0].sum(),
        (3000 * wb.section("W16X50").mass + 5000 * wb.section("W16X31").mass) * 9.80665 + 4 * 8000,
    ]
    assert weights[0] == pytest.approx(weights[1], rel=1e-9)
    table = check(member(piece=[heavy]))
    assert str(table.explain("B"))
    assert table["B"].member.section_names == "W16X50 / W16X31"


def test_twenty_sections():
    pieces = [
        {"section": f"W16X{weight}", "start": f"{i * 0.4} m", "end": f"{(i + 1) * 0.4} m"}
        for i, weight in enumerate([26, 31, 36, 40, 45] * 4)
    ]
    found = check(member(piece=pieces, restraint={"top": "continuous"}))["B"]
    assert len(found.member.stretches) == 20
    assert found.status == "ok"


@pytest.mark.parametrize(
    ("pieces", "words"),
    [
        ([{"section": "W16X50", "end": "9 m"}], "is off the member"),
        ([{"section": "W16X50", "start": "3 m", "end": "2 m"}], "its end is not beyond its start"),
        ([{"section": "W16X50", "end": "3 m"}, {"section": "W16X57", "start": "2 m", "end": "4 m"}],
         "W16X50 and W16X57 overlap from 2 m .6.562 ft. to 3 m"),
    ],
)  # fmt: skip
def test_pieces_that_do_not_fit(pieces, words):
    with pytest.raises(wb.InputError, match=words):
        wb.resolve(member(piece=pieces))


def test_a_restraint_of_the_tension_flange_is_warned_of():
    table = check(member(restraint={"bottom": {"every": "2 m"}}))
    assert any("nothing compresses the bottom flange" in text for text in table["B"].warnings)
    table = check(member(restraint={"top": {"every": "2 m"}}))
    assert not any("nothing compresses" in text for text in table["B"].warnings)


def test_what_changes_nothing_is_said():
    found = check(member(camber="9 mm", spans=["8 m"], span=None))["B"].warnings
    assert any("camber has no total deflection limit" in text for text in found)
    dead = [{"case": "dead", "line": "4 kN/m"}]
    found = check(member(spans=["4 m", "4 m"], span=None, pattern=True, loads=dead))["B"].warnings
    assert any("pattern: there is no load to put on some spans" in text for text in found)
    with pytest.raises(wb.InputError, match="on: goes with loads that bend"):
        member(loads=[{"case": "dead", "line": "4 kN/m", "axis": "minor", "on": "top"}])


def test_the_working_of_a_stepped_member_names_the_section():
    table = check(member(piece=[{"section": "W16X50", "end": "3 m"}]))
    text = str(table.explain("B"))
    assert "section = W16X50" in text
    assert "W16X31; 1.2D + 1.6L" in text
