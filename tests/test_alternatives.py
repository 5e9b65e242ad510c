"""Loads of one case that never act together: wind from one side or the other, drifted snow."""

from __future__ import annotations

import pytest
from click.testing import CliRunner
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from test_frames import joint, piece
from welbric.cli import main

EN = {"standard": "EN 1993-1-1", "loading": {"standard": "EN 1990", "live_category": "A"}}
JOBS = [EN, {"standard": "AISC 360-22"}, {"standard": "AISC 360-22", "design": {"method": "ASD"}}]


def beam(loads, **more):
    one = {"mark": "B", "section": "IPE240", "steel": "S355", "span": "7 m",
           "deflection": {"wind": 200, "total": 250}, "restraint": {"top": "continuous"},
           "load": [{"case": "dead", "line": "2 kN/m"}, *loads]}  # fmt: skip
    return wb.Job(member=[one | more], **EN)


def worst(tables):
    """Return the largest utilisation of each check of several tables."""
    found = {}
    for table in tables:
        for row in table["B"].rows:
            found[row.id] = max(found.get(row.id, 0.0), row.utilisation)
    return found


def only(loads, name):
    """Return the loads of one alternative, said without it, and those that act with all."""
    return [
        {key: value for key, value in load.items() if key != "alternative"}
        for load in loads
        if load.get("alternative", name) == name
    ]


line = st.floats(-8, 8).map(lambda w: f"{w:.3f} kN/m")
load = st.fixed_dictionaries(
    {"case": st.sampled_from(["wind", "snow"]), "line": line,
     "alternative": st.sampled_from(["a", "b", "c"])},
)  # fmt: skip


@given(st.lists(load, min_size=1, max_size=4), st.booleans())
@settings(max_examples=12, deadline=None)
def test_alternatives_are_jobs_of_their_own(loads, turns):
    """Each check is the worst of the jobs that have one alternative each."""
    loads = [
        one | ({"reversible": True} if turns and one["case"] == "wind" else {}) for one in loads
    ]
    cases = {case: sorted({one["alternative"] for one in loads if one["case"] == case})
             for case in ("wind", "snow")}  # fmt: skip
    together = wb.check(beam(loads))
    apart = []
    for wind in cases["wind"] or ["-"]:
        for snow in cases["snow"] or ["-"]:
            chosen = [*only([one for one in loads if one["case"] == "wind"], wind),
                      *only([one for one in loads if one["case"] == "snow"], snow)]  # fmt: skip
            apart.append(wb.check(beam(chosen)))
    assert worst([together]) == pytest.approx(worst(apart), rel=1e-9, abs=1e-12, nan_ok=True)


@pytest.mark.parametrize("job", JOBS, ids=str)
def test_what_is_common_acts_with_each(job):
    loads = [{"case": "dead", "line": "1 kN/m"}, {"case": "wind", "line": "1 kN/m"},
             {"case": "wind", "line": "3 kN/m", "alternative": "in"},
             {"case": "wind", "line": "-5 kN/m", "alternative": "out"}]  # fmt: skip
    member = {"mark": "B", "section": "IPE240", "steel": "S355" if "EN" in job["standard"] else
              "A992", "span": "6 m", "load": loads, "self_weight": False}  # fmt: skip
    forces = wb.check(wb.Job(member=[member], **job))["B"].forces
    for c, one in enumerate(forces.combinations):
        w = one.factors.get("D", 0.0)
        w += (
            one.factors.get("W", 0.0)
            * {"in": 4.0, "out": -4.0, None: 0.0}[one.alternatives.get("W")]
        )
        extreme = forces.M_major[c][abs(forces.M_major[c]).argmax()]
        assert extreme == pytest.approx(w * 6**2 / 8 * 1e6, rel=1e-9, abs=1e-3)
    assert {one.alternatives["W"] for one in forces.combinations if "W" in one.factors} == {
        "in", "out"}  # fmt: skip


def test_winds_on_a_frame_of_either_side():
    """Only one of them can be reversed; each pushes the frame the way that it blows."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 4000, support=["y"])]
    loads = [{"joint": "B", "case": "dead", "z": "-50 kN"},
             {"joint": "B", "case": "wind", "x": "5 kN", "alternative": "west"},
             {"joint": "B", "case": "wind", "x": "-8 kN", "alternative": "east"},
             {"joint": "B", "case": "wind", "x": "2 kN", "alternative": "gusts",
              "reversible": True}]  # fmt: skip
    job = wb.Job(joint=joints, member=[piece("C", "A", "B", role="column")], joint_load=loads,
                 frame={"second_order": "first order", "imperfections": False,
                        "drift": {"wind": 300}}, **EN)  # fmt: skip
    found = wb.check(job)["C"]
    pushes = {}
    for c, one in enumerate(found.forces.combinations):
        if one.factors.get("W") == 1.5:
            way = (one.alternatives["W"], "W" in one.reversed)
            pushes[way] = found.forces.M_major[c][0] / 4000 / 1.5 / 1e3
    assert set(pushes) == {("west", False), ("east", False), ("gusts", False), ("gusts", True)}
    assert pushes["west", False] / pushes["east", False] == pytest.approx(-5 / 8)
    assert pushes["gusts", True] == pytest.approx(-pushes["gusts", False])
    (drift,) = [row for row in found.rows if row.id == "drift-wind"]
    assert drift.combination.endswith("east")


def test_what_is_said_of_them(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text("""
welbric = 2
[[member]]
mark = "B"
section = "W16X26"
steel = "A992"
span = "20 ft"
load = [
  { case = "wind", line = "0.4 kip/ft", alternative = "from the sea" },
  { case = "wind", line = "-0.7 kip/ft", alternative = "from the land" },
]
""", encoding="utf-8")  # fmt: skip
    run = CliRunner().invoke
    reactions = run(main, ["reactions", str(path)]).output
    assert "wind, from the sea" in reactions
    alone = run(main, ["check", str(path), "--under", "wind, from the land"])
    assert "wind alone, from the land" in " ".join(alone.output.split())
    assert "no load case 'wind'" in run(main, ["check", str(path), "--under", "wind"]).output


@pytest.mark.parametrize(
    ("loads", "words"),
    [
        ([{"case": "dead", "line": "1 kN/m", "alternative": "x"}], "they have none"),
        ([{"case": "wind", "line": "1 kN/m", "alternative": "x" * 41}], "at most 40"),
    ],
)
def test_alternatives_that_cannot_be(loads, words):
    with pytest.raises(wb.InputError, match=words):
        beam(loads)


def test_one_alternative_changes_nothing_and_that_is_said():
    found = wb.check(beam([{"case": "wind", "line": "1 kN/m", "alternative": "up"}]))
    assert any("only alternative" in words for words in found["B"].notes)
