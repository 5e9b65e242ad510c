"""Frames sized: against all assignments, by closed forms, and what is written of it."""

from __future__ import annotations

import itertools
import json
import math

import pytest
from click.testing import CliRunner

import welbric as wb
from test_frames import joint, piece
from welbric.cli import main
from welbric.files.jobs import change_job, demo_text
from welbric.frames.shares import Wanted, shares
from welbric.frames.solve import solution
from welbric.studies.frame_groups import size_in_frame

RUN = CliRunner().invoke
COLUMNS = ["HEA120", "HEA140", "HEA160", "HEA180", "HEA200", "HEA220"]
BEAMS = ["IPE200", "IPE220", "IPE240", "IPE270", "IPE300", "IPE330"]
LISTS = (COLUMNS, BEAMS)
STIFF = (["HEA200", "HEA220", "HEA240", "HEA260", "HEA280"],
         ["IPE300", "IPE330", "IPE360", "IPE400", "IPE450"])  # fmt: skip
EN = {"standard": "EN 1993-1-1", "loading": {"standard": "EN 1990", "live_category": "A"}}


def portal(w=14.0, H=12.0, drift=None, order="analysed", columns="HEA200", beam="IPE300",
           lists=LISTS, limits=()):  # fmt: skip
    """Return a portal whose columns share a section; its beam is held all along.

    Where joints are limited there is one, E, in the middle of the beam.
    """
    across = {"support": ["y"]}
    joints = [joint("A", 0, 0, support="pinned"), joint("B", 0, 4000, **across),
              joint("C", 7000, 4000, **across), joint("D", 7000, 0, support="pinned")]  # fmt: skip
    middle = ["E"] if limits else []
    joints += [joint("E", 3500, 4000)] if limits else []
    chosen = {"choose": {"among": lists[0], "group": "columns"}, "role": "column",
              "connection": {"shear_lag": {"through": "all"}}}  # fmt: skip
    held = {"top": "continuous", "bottom": "continuous"}
    members = [
        piece("AB", "A", "B", section=columns, **chosen),
        piece("DC", "D", "C", section=columns, **chosen),
        piece("BC", "B", *middle, "C", section=beam, choose={"among": lists[1]}, restraint=held,
              load=[{"case": "dead", "line": f"{w} kN/m"}, {"case": "live", "line": f"{w} kN/m"}]),
    ]  # fmt: skip
    push = [{"joint": "B", "case": "wind", "x": f"{H} kN"}]
    chosen = {"second_order": order, "divisions": 2} | ({"drift": drift} if drift else {})
    return wb.Job(joint=joints, member=members, joint_load=push, joint_limit=list(limits),
                  frame=chosen, **EN)  # fmt: skip


def mass(job):
    return sum(one.section.mass * one.length for one in job.members if one.choose)


def exhausted(job, lists=LISTS, different=2):
    """Return the least mass of all assignments that pass, by checking every one of them whole."""
    least = math.inf
    for column, beam in itertools.product(*lists):
        if len({column, beam}) > different:
            continue
        sections = dict.fromkeys(("AB", "DC"), wb.section(column)) | {"BC": wb.section(beam)}
        one = job.with_sections(sections)
        if mass(one) < least and wb.check(one).ok:
            least = mass(one)
    return least


@pytest.mark.parametrize(
    ("w", "H", "drift", "lists"),
    [
        (14.0, 12.0, None, LISTS),
        (6.0, 25.0, None, LISTS),
        (10.0, 12.0, {"wind": 300}, STIFF),
        (5.0, 16.0, {"wind": 350}, STIFF),
    ],
)
def test_the_least_of_all_assignments(w, H, drift, lists):
    job = portal(w, H, drift, lists=lists)
    found = size_in_frame(job)
    assert found.complete
    assert found.proved
    assert wb.check(found.proposed).ok
    assert mass(found.proposed) == pytest.approx(exhausted(job, lists))
    assert found.proposed.member("AB").section.name == found.proposed.member("DC").section.name
    # Where drift is limited it is said who lets the frame drift.
    assert {one.group for one in found.buys} == ({"columns", "BC"} if drift else set())
    assert sum(one.share for one in found.buys) == pytest.approx(float(bool(drift)), abs=1e-6)
    assert ("Who lets the frame move" in str(found)) == bool(drift)


@pytest.mark.parametrize(
    "limit",
    [{"joint": "B", "along": "x", "wind": "L/300", "of": "4 m"},
     {"joint": "E", "along": "z", "live": "7 mm"},
     {"joint": "E", "along": "z", "against": "B", "live": "7 mm"}],
)  # fmt: skip
def test_what_joints_may_move_is_sized_for(limit):
    """Sideways as a storey may drift; downwards the middle of the beam."""
    job = portal(10.0, 12.0, lists=STIFF, limits=[limit])
    found = size_in_frame(job)
    assert found.complete
    assert wb.check(found.proposed).ok
    assert mass(found.proposed) == pytest.approx(exhausted(job, STIFF))
    assert mass(found.proposed) > mass(size_in_frame(portal(10.0, 12.0, lists=STIFF)).proposed)
    if limit["along"] == "x":
        drift = size_in_frame(portal(10.0, 12.0, {"wind": 300}, lists=STIFF)).proposed
        assert mass(found.proposed) == pytest.approx(mass(drift))
    assert sum(one.share for one in found.buys) == pytest.approx(1.0, abs=1e-6)


def test_what_may_be_left_where_nothing_is_proved():
    """Among hundreds of assignments: no single group can have the next section with less."""
    tubes = [f"SHS{b}X{b}X{t} EN10219" for b in (120, 150, 180, 200, 250) for t in (5, 6, 8, 10)]
    deep = [f"IPE{h}" for h in (200, 220, 240, 270, 300, 330, 360, 400, 450, 500, 550, 600)]
    found = size_in_frame(portal(14.0, 12.0, {"wind": 300}, columns=tubes[4], lists=(tubes, deep)))
    assert found.complete
    assert found.proved is None
    assert 0 <= found.less < 0.1
    assert "under the forces that it ends with" in str(found)
    assert mass(found.proposed) == pytest.approx(
        min(one.mass for one in found.rounds if one.passes)
    )
    chosen = {name: found.proposed.member(name).section for name in ("AB", "BC")}
    for marks, lists in ((("AB", "DC"), tubes), (("BC",), deep)):
        now = chosen[marks[0]].mass
        less = [s for s in map(wb.section, lists) if s.mass < now * (1 - 1e-9)]
        next_one = max(less, key=lambda s: s.mass)
        job = found.proposed.with_sections(dict.fromkeys(marks, next_one))
        assert not wb.check(job).ok


@pytest.mark.parametrize("drift", [None, {"wind": 350}])
def test_the_least_of_few_sections(drift):
    both = ["HEA180", "IPE300", "HEA200", "IPE330", "IPE360", "HEA240", "IPE450"]
    job = portal(8.0, 16.0, drift, lists=(both, both))
    found = size_in_frame(job, different=1)
    assert found.complete
    assert found.proved
    assert len({one.section.name for one in found.proposed.members}) == 1
    assert mass(found.proposed) == pytest.approx(exhausted(job, (both, both), 1))
    assert mass(size_in_frame(job).proposed) < mass(found.proposed)
    apart = portal(10.0, 16.0)  # lists that have nothing in common
    none = size_in_frame(apart, different=1)
    assert not none.complete
    assert "so few as 1 different sections" in str(none)


def test_the_way_does_not_depend_on_luck():
    a, b = (size_in_frame(portal()) for _ in range(2))
    assert [one.sections for one in a.rounds] == [one.sections for one in b.rounds]
    # Nor does the answer on the sections that it begins with.
    c = size_in_frame(portal(columns="HEA120", beam="IPE330"))
    assert a.proved
    assert mass(a.proposed) == mass(c.proposed)


def test_drift_by_virtual_work():
    """The shares of all members add up to the movement, in each part of their stiffness."""
    job = portal(order="first order")
    frame = job.members[0].frame
    solved = solution(frame)
    model = solved.model
    wind = next(i for i, key in enumerate(solved.loading.keys) if key.case == "W")
    head = 6 * model.joints["B"]
    parts = shares(model, solved.first, [Wanted({head: 1.0}, wind)])
    moved = solved.first.moved[head, wind]
    assert sum(float(one.sum()) for one in parts.values()) == pytest.approx(moved, rel=1e-9)
    # Pinned bases: the closed form of a portal, column and beam apart, of members that do not
    # shorten: H h^3 / 12 EI of columns, H h^2 L / 12 EI of the beam, for half of H each.
    E, h, L, H = 210_000.0, 4000.0, 7000.0, 12e3
    column, beam = (wb.section(name).I_major for name in ("HEA200", "IPE300"))
    of_columns = sum(float(parts[mark][0, 2]) for mark in ("AB", "DC"))
    assert of_columns == pytest.approx(H * h**3 / (6 * E * column), rel=2e-3)
    assert float(parts["BC"][0, 2]) == pytest.approx(H * h**2 * L / (12 * E * beam), rel=2e-3)


def test_members_that_stay_and_others():
    found = size_in_frame(portal(), keep=["BC"])
    assert found.proposed.member("BC").section.name == "IPE300"
    only = size_in_frame(portal(), ["AB"])
    assert {one.name for one in only.groups} == {"columns"}
    assert only.proposed.member("BC").section.name == "IPE300"
    tight = size_in_frame(portal(), utilisation=0.8)
    marks = ("AB", "DC", "BC")
    assert all(tight.after[mark].utilisation <= 0.8 for mark in marks)


def test_what_is_not_sized_is_never_made_worse():
    """The beam is over and stays; the columns may not make it worse, and it is said."""
    job = portal(15.0, 4.0, beam="IPE240", columns="HEA220")
    before = wb.check(job)["BC"]
    assert before.status == "over"
    found = size_in_frame(job, ["AB"])
    assert found.complete
    assert found.others == ["BC"]
    assert found.after["BC"].utilisation <= before.utilisation
    assert "did not before, and does not now" in str(found)


def test_stopped_before_its_end_leaves_the_best_so_far():
    count = 0

    def stop(_):
        nonlocal count
        count += 1
        if count > 3:
            raise KeyboardInterrupt

    found = size_in_frame(portal(), watch=stop)
    assert found.complete
    assert found.proved is None
    assert "stopped before its end" in str(found)
    assert wb.check(found.proposed).ok


def test_how_much_more_a_frame_carries():
    """To the first order everything goes with the loads: tension of a hanger is 1 / utilisation."""
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 4000, 0, support="fixed"),
              joint("C", 2000, -3000, support=["y"])]  # fmt: skip
    hang = {"role": "hanger", "connection": {"shear_lag": {"through": "all"}}}
    members = [piece("AC", "A", "C", section="CHS76.1X4", **hang),
               piece("BC", "B", "C", section="CHS76.1X4", **hang)]  # fmt: skip
    loads = [{"joint": "C", "case": "live", "z": "-60 kN"}, {"joint": "C", "case": "dead",
                                                             "z": "-20 kN"}]  # fmt: skip
    job = wb.Job(joint=joints, member=members, joint_load=loads,
                 frame={"second_order": "first order", "imperfections": False}, **EN)  # fmt: skip
    U = wb.check(job)["AC"].utilisation
    found = wb.frame_reserve(job, "AC")
    assert found.value == pytest.approx(1 / U, rel=2e-4)
    # Under 1.35 D + 1.5 L the live load alone may grow by what is left for it.
    whole, live = 1.35 * 20 + 1.5 * 60, 1.5 * 60
    alone = wb.frame_reserve(job, case="live")
    assert alone.value == pytest.approx((whole / U - 1.35 * 20) / live, rel=2e-4)
    with pytest.raises(wb.InputError, match="has no wind"):
        wb.frame_reserve(job, case="wind")


def test_a_frame_is_used_up_at_its_critical_load():
    """A slender portal buckles before it yields: beyond the factor stability decides."""
    job = portal(4.0, 0.5, columns="HEA120")
    found = wb.frame_reserve(job)
    below, above = (
        wb.check(portal(4.0 * x, 0.5 * x, columns="HEA120"))
        for x in (found.value * (1 - 1e-4), found.value * (1 + 3e-4))
    )
    assert below.ok
    assert not above.ok


def test_what_if_one_member_of_a_frame_changed():
    job = portal()
    found = wb.compare(job, "BC", {"deeper": {"section": "IPE330"}})
    other = wb.check(job.with_sections({"BC": wb.section("IPE330")}))
    (as_is, deeper) = found.variants
    assert as_is.result.utilisation == pytest.approx(wb.check(job)["BC"].utilisation)
    assert deeper.result.utilisation == pytest.approx(other["BC"].utilisation)
    assert deeper.worst.utilisation == pytest.approx(max(m.utilisation for m in other))
    assert deeper.frame_mass - as_is.frame_mass == pytest.approx(deeper.mass - as_is.mass)
    with pytest.raises(wb.InputError, match="which joints it goes through"):
        wb.compare(job, "BC", {"other": {"through": ["A", "C"]}})


def test_what_if_of_a_truss(tmp_path):
    """Deeper, or of other panels, beside the same written by hand."""
    text = demo_text("saltmarsh_truss.toml")
    path = written(tmp_path, text)
    changes = ['depth = "1.6 m"', 'bottom.section = "SHS80X80X4 EN10219"']
    options = [word for change in changes for word in ("--change", change)]
    found = json.loads(RUN(main, ["compare", str(path), "T", *options, "--json"]).stdout)
    by_hand = [text, text.replace('depth = "1.2 m"', changes[0]),
               text.replace("SHS100X100X5 EN10219", "SHS80X80X4 EN10219")]  # fmt: skip
    for one, other in zip(found, by_hand, strict=True):
        table = wb.check(wb.parse_job(other))
        assert one["utilisation"] == pytest.approx(max(m.utilisation for m in table))
        bottom = table["T.bottom"]
        assert one["parts"]["bottom"] == pytest.approx(bottom.utilisation)
        masses = [m.member.section.mass * m.member.length for m in table]
        assert one["mass_kg"] == pytest.approx(sum(masses))
    shown = RUN(main, ["compare", str(path), "T", *options])
    assert "load over" in shown.output
    wrong = RUN(main, ["compare", str(path), "T", "--change", "panels = 1"])
    assert wrong.exit_code == 2
    assert "panels = 1" in wrong.output
    nothing = RUN(main, ["compare", str(path), "T"])
    assert "at least one --change" in nothing.output


@pytest.mark.parametrize(
    ("marks", "more", "words"),
    [
        (["X"], {}, "no member 'X'"),
        ([], {"utilisation": 1.4}, "not between 0 and 1"),
        ([], {"objective": "beauty"}, "beauty"),
        ([], {"objective": "cost"}, "no prices"),
    ],
)
def test_what_cannot_be_sized(marks, more, words):
    with pytest.raises(wb.InputError, match=words):
        size_in_frame(portal(), marks, **more)


def test_nothing_passes():
    found = size_in_frame(portal(60.0, 12.0))
    assert not found.complete
    assert "does not pass" in str(found)
    with pytest.raises(wb.InputError, match="nothing to accept"):
        found.changes()


def written(tmp_path, text):
    path = tmp_path / "job.toml"
    path.write_text(text, encoding="utf-8")
    return path


PORTAL = """# kept
welbric = 2
standard = "EN 1993-1-1"
loading = { standard = "EN 1990", live_category = "A" }
frame = { second_order = "analysed", divisions = 2 }
joint = [
  { name = "A", at = ["0 m", "0 m"], support = "pinned" },
  { name = "B", at = ["0 m", "4 m"], support = ["y"] },
  { name = "C", at = ["7 m", "4 m"], support = ["y"] },
  { name = "D", at = ["7 m", "0 m"], support = "pinned" },
]

[defaults]
steel = "S355"

[[member]]
mark = "AB"
role = "column"
through = ["A", "B"]
section = "HEA200" # of the first shed
choose = { among = ["HEA160", "HEA180", "HEA200"], group = "columns" }

[[member]]
mark = "DC"
role = "column"
through = ["D", "C"]
section = "HEA200"
choose = { among = ["HEA160", "HEA180", "HEA200"], group = "columns" }

[[member]]
mark = "BC"
role = "beam"
through = ["B", "C"]
section = "IPE300"
restraint = { top = "continuous", bottom = "continuous" }
load = [{ case = "dead", line = "6 kN/m" }, { case = "live", line = "6 kN/m" }]
"""


def test_the_command_writes_what_it_found(tmp_path):
    path = written(tmp_path, PORTAL)
    half = RUN(main, ["size", str(path), "--accept", "AB"])
    assert half.exit_code == 2
    assert "shares its section with DC" in half.output
    assert path.read_text(encoding="utf-8") == PORTAL
    picture = tmp_path / "sized.svg"
    found = RUN(main, ["size", str(path), "--accept", "all", "--json", "--to", str(picture)])
    assert found.exit_code == 0, found.output
    assert picture.stat().st_size > 10_000
    records = json.loads(found.stdout)
    assert {one["mark"] for one in records} == {"AB", "DC"}
    new = records[0]["to"]
    assert path.read_text(encoding="utf-8") == PORTAL.replace('"HEA200" # of', f'"{new}" # of'
        ).replace('section = "HEA200"\n', f'section = "{new}"\n')  # fmt: skip
    table = wb.check(wb.load_job(path))
    assert table.ok
    for one in records:
        assert table[one["mark"]].utilisation == pytest.approx(one["utilisation_after"])


def test_what_does_not_go_with_a_frame(tmp_path):
    path = written(tmp_path, PORTAL)
    for option in (["--sort", "mass"], ["--all"]):
        found = RUN(main, ["size", str(path), "AB", *option])
        assert found.exit_code == 2
        assert "does not go with the members of a frame" in found.output
    found = RUN(main, ["size", str(path), "AB", "--different", "0"])
    assert found.exit_code == 2
    assert "at least one is needed" in found.output


def test_a_truss_is_written_where_it_is_made():
    """All that a table makes change in it; some of them apart, under their own ends."""
    text = demo_text("saltmarsh_truss.toml")
    new = {"section": "SHS90X90X5 EN10219"}
    marks = [one.mark for one in wb.parse_job(text).members]
    tops = [mark for mark in marks if mark.startswith("T.top")]
    whole = change_job(text, dict.fromkeys(tops, new))
    assert whole == text.replace('"SHS100X100X6 EN10219"', '"SHS90X90X5 EN10219"')
    apart = change_job(text, {"T.d0": new, "T.bottom": new})
    job = wb.parse_job(apart)
    assert {one.mark for one in job.members if one.section.name == new["section"]} == {
        "T.d0", "T.bottom"}  # fmt: skip
    # What is said of one alone is not written over by what is said of all.
    again = change_job(apart, {mark: {"section": "SHS70X70X5 EN10219"}
                               for mark in marks if mark.startswith("T.d")})  # fmt: skip
    changed = {one.mark for one in wb.parse_job(again).members if "70X70X5" in one.section.name}
    assert changed == {mark for mark in marks if mark.startswith("T.d")}


def test_members_alone_and_of_a_frame_are_sized_apart():
    beam = {"mark": "Z", "section": "IPE300", "steel": "S355", "span": "5 m"}
    base = portal()
    job = wb.Job(joint=base.joints, frame=base.frame, joint_load=base.joint_loads,
                 member=[beam, piece("AB", "A", "B", role="column"), piece("BC", "B", "C"),
                         piece("DC", "D", "C", role="column")], **EN)  # fmt: skip
    with pytest.raises(wb.InputError, match="Z: stands alone"):
        size_in_frame(job, ["Z", "AB"])
    with pytest.raises(wb.InputError, match="AB: is part of a frame"):
        wb.size(job, ["Z", "AB"])
