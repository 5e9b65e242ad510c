"""Members of frames that meet, cross, hold one another, and frames that move far."""

from __future__ import annotations

import numpy as np
import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.checking.bracing import brace_needs
from welbric.cli import main


def joint(name, *at, **more):
    return {"name": name, "at": [f"{x} m" for x in at]} | more


def piece(mark, *through, section="IPE300", **more):
    own = {"mark": mark, "through": list(through), "section": section, "steel": "S355"}
    return own | more


LOAD = [{"case": "dead", "line": "8 kN/m"}, {"case": "live", "line": "12 kN/m"}]


def grid(through=("A", "B"), crossed=False, off=0.0, **more):
    """A girder from A to B, two beams that meet it at its thirds."""
    joints = [
        joint("A", 0, 0, 4, support=["x", "y", "z", "turn x"]),
        joint("B", 9, 0, 4, support=["y", "z", "turn x"]),
        joint("C", 3, off, 4), joint("D", 6, 0.0004, 4),
        joint("C1", 3, 6, 4, support="pinned"), joint("D1", 6, 6, 4, support="pinned"),
    ]  # fmt: skip
    ends = {"ends": ["pinned", "pinned"], "restraint": {"top": "continuous"}}
    members = [
        piece("G", *through, section="IPE450"),
        piece("S1", "C", "C1", load=LOAD, **ends),
        piece("S2", "D", "D1", load=LOAD, **ends),
    ]
    if crossed:
        bare = ends | {"self_weight": False}
        members += [piece("X", "C", "D1", **bare), piece("Y", "D", "C1", **bare)]
    said = {"standard": "EN 1993-1-1", "loading": {"live_category": "B"}} | more
    return wb.Job(joint=joints, member=members, **said)


def ratios(job):
    return {(r.member.mark, row.id): row.utilisation for r in wb.check(job) for row in r.rows}


def test_a_joint_that_lies_on_a_member_is_met_though_it_is_not_named():
    unnamed, named = grid(), grid(("A", "C", "D", "B"))
    assert ratios(unnamed) == pytest.approx(ratios(named), rel=1e-12, nan_ok=True)
    said = " ".join(str(wb.check(unnamed)).split())
    assert "Taken as meeting joints that lie on them: G at C, D." in said
    assert "Taken as meeting" not in str(wb.check(named))


def test_a_joint_beside_a_member_is_not_met():
    with pytest.raises(wb.InputError, match="without resistance: the frame is a mechanism"):
        wb.check(grid(off=0.1))


def test_what_crosses_without_a_joint_is_said():
    said = " ".join(str(wb.check(grid(crossed=True))).split())
    assert "Cross without meeting, having no joint there: X and Y." in said
    assert "Cross without" not in str(wb.check(grid()))


def test_members_that_nothing_acts_on_have_no_traces_of_rounding():
    table = wb.check(grid(crossed=True))
    for mark in "XY":
        forces = table[mark].forces
        assert not any(np.any(getattr(forces, n)) for n in ("N", "M_major", "M_minor", "T"))


def test_beams_that_meet_a_girder_hold_it_and_what_they_need_is_said():
    job = grid()
    girder = wb.check(job)["G"]
    assert [(round(s.start), round(s.end)) for s in girder.segments] == [
        (0, 3000), (3000, 6000), (6000, 9000)
    ]  # fmt: skip
    aisc = grid(standard="AISC 360-22", loading={}, design={"stability": "direct analysis"})
    found = wb.check(aisc)["G"]
    needs = [need for need in brace_needs(aisc, found.member, found.forces) if need.flange == "top"]
    assert [round(need.place) for need in needs] == [3000, 6000]
    M = max(np.abs(found.forces.M_major).max(axis=1))
    ho = found.member.section.d - found.member.section.tf
    # Appendix 6, A-6-7: a point brace takes 0.02 Mr Cd / ho.
    assert max(need.force for need in needs) == pytest.approx(0.02 * M / ho, rel=1e-9)


def test_a_frame_that_moves_far_is_outside():
    joints = [joint("A", 0, 0, support="fixed"), joint("B", 0, 5, support=["y"])]
    load = {"joint": "B", "case": "wind", "x": "1 kN"}

    def worst(push):
        job = wb.Job(standard="EN 1993-1-1", loading={"standard": "EN 1990"}, joint=joints,
                     member=[piece("C", "A", "B", section="IPE100", role="column")],
                     joint_load=[load | {"x": f"{push} kN"}])  # fmt: skip
        result = wb.check(job)["C"]
        return float(result.forces.turned.max()), {row.id: row for row in result.rows}

    small, rows = worst(0.1)
    assert "large-movements" not in rows
    # The chord of a cantilever: P L^2 / 3 EI at its tip, of its last quarter more.
    assert 0 < small < 0.1
    large, rows = worst(10)
    assert large > 0.1
    assert rows["large-movements"].status == "outside"
    assert f"{large:.3g} rad" in rows["large-movements"].reason


def test_it_is_said_on_the_command_line(tmp_path):
    path = tmp_path / "grid.toml"
    source = """welbric = 2
name = "Crossing"
standard = "EN 1993-1-1"
loading = { live_category = "B" }
"""
    for one in grid(crossed=True).joints:
        at = ", ".join(f'"{x} mm"' for x in one.at)
        source += f'[[joint]]\nname = "{one.name}"\nat = [{at}]\n'
        if one.support:
            source += f"support = {list(one.held)!r}\n".replace("'", '"')
    for mark, a, b in (("G", "A", "B"), ("S1", "C", "C1"), ("S2", "D", "D1"), ("X", "C", "D1"),
                       ("Y", "D", "C1")):  # fmt: skip
        source += f'[[member]]\nmark = "{mark}"\nsection = "IPE300"\nsteel = "S355"\n'
        source += f'through = ["{a}", "{b}"]\nrestraint = {{ top = "continuous" }}\n'
    path.write_text(source)
    shown = CliRunner().invoke(main, ["check", str(path)]).output
    words = " ".join(shown.split())
    assert "G at C, D" in words
    assert "X and Y" in words


@pytest.mark.parametrize(
    ("braces", "held"),
    [
        ([("L", "both")], True),
        ([("L", "tension")], False),
        ([("L", "compression")], False),
        ([("L", "tension"), ("R", "tension")], True),
        ([("L", "compression"), ("R", "compression")], True),
        ([("L", "tension"), ("R", "compression")], False),  # both keep it from moving to the right
    ],
)
def test_what_carries_one_way_holds_one_way(braces, held):
    """A column between its ends, by braces from the ground on its left and on its right."""
    joints = [joint("A", 0, 0, support="fixed"), joint("M", 0, 3), joint("B", 0, 6),
              joint("L", -4, 0, support="pinned"), joint("R", 4, 0, support="pinned")]  # fmt: skip
    used = {side for side, _ in braces}
    joints = [one for one in joints if one["name"] not in {"L", "R"} - used]
    members = [piece("C", "A", "M", "B", role="column", section="HEB200")]
    for number, (side, carries) in enumerate(braces):
        ends = (side, "M") if number == 0 else ("M", side)  # whichever way they are drawn
        members.append(piece(f"X{side}", *ends, role="brace", carries=carries,
                             section="CHS76.1X4"))  # fmt: skip
    job = wb.Job(standard="EN 1993-1-1", joint=joints, member=members,
                 joint_load=[{"joint": "B", "case": "dead", "z": "-50 kN"}])  # fmt: skip
    assert job.member("C").inner_supports("major") == ([3000.0] if held else [])
