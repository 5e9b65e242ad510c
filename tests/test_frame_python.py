"""Frames from Python, and their forces for others."""

from __future__ import annotations

import csv

import numpy as np
import pytest
from click.testing import CliRunner
from openpyxl import load_workbook

import welbric as wb
from welbric.checking.frame_forces import axial_extremes
from welbric.cli import main
from welbric.files.jobs import demo_text

LINE, L, H = 9.0, 6000.0, 4000.0  # N/mm, mm


def portal(**more):
    load = [{"case": "dead", "line": f"{LINE} N/mm"}]
    frame = wb.Frame("A portal", standard="EN 1993-1-1", combinations=["1.0D"],
                     defaults={"self_weight": False, "steel": "S355"}, **more)  # fmt: skip
    for name, x in (("A", 0), ("B", L)):
        frame.joint(f"{name}0", f"{x} mm", "0 m", support="pinned")
        frame.joint(f"{name}1", f"{x} mm", f"{H} mm", support=["y"])
        frame.member(f"C{name}", f"{name}0", f"{name}1", section="HEB200", role="column")
    return frame.member("G", "A1", "B1", section="IPE300", load=load)


def test_what_is_built_up_is_a_job():
    frame = portal()
    assert repr(frame) == "<frame of 4 joints, 3 members>"
    assert [one.mark for one in frame.job.members] == ["CA", "CB", "G"]
    assert frame.check()["G"].status == "ok"
    before = frame.job
    assert frame.job is before
    frame.load("A1", "wind", x="5 kN")
    assert frame.job is not before
    assert any("W" in one.name for one in frame.analyse().combinations)


def test_what_a_generator_makes_stands_in_it():
    frame = wb.Frame(standard="EN 1993-1-1").made(
        "portal", mark="P", spans=["12 m"], height="5 m",
        columns={"section": "HEB200"}, rafters={"section": "IPE300"},
    )  # fmt: skip
    assert {one.mark for one in frame.job.members} == {"P.C0", "P.C1", "P.R0"}


def test_what_is_wrong_is_said_of_all():
    frame = portal().member("G", "A1", "B9", section="IPE30O")
    with pytest.raises(wb.InputError) as found:
        frame.analyse()
    assert "IPE30O" in str(found.value)


def test_forces_along_members_balance_what_acts():
    found = portal(frame={"second_order": "first order", "imperfections": False}).analyse()
    forces = found.force_frame(places=3)
    own = forces[forces.combination == "1.0D"].set_index("member")
    assert own.loc["CA", "N"].tolist() == pytest.approx([-LINE * L / 2] * 3)
    assert own.loc["G", "V_major"].tolist() == pytest.approx([LINE * L / 2, 0, -LINE * L / 2],
                                                             abs=1e-6)  # fmt: skip
    ends, middle = own.loc["G", "M_major"].iloc[[0, 2]], own.loc["G", "M_major"].iloc[1]
    assert middle - ends.mean() == pytest.approx(LINE * L**2 / 8)
    assert own.loc["G", "joint"].tolist() == ["A1", "", "B1"]
    both = forces[forces.member.isin(["CA", "CB"]) & (forces.combination == "1.0D")]
    assert both.groupby("member").V_major.first().sum() == pytest.approx(0, abs=1e-6)


def test_a_force_that_jumps_has_both_of_its_sides():
    frame = wb.Frame(standard="EN 1993-1-1", combinations=["1.0D"],
                     frame={"second_order": "first order", "imperfections": False})  # fmt: skip
    for name, x in (("A", 0), ("B", 8)):
        frame.joint(name, f"{x} m", "0 m", support="pinned")
    load = [{"case": "dead", "point": "20 kN", "at": "4 m"}]
    frame.member("G", "A", "B", section="IPE300", steel="S355", self_weight=False, load=load,
                 ends=["pinned", "pinned"])  # fmt: skip
    own = frame.analyse().force_frame(places=3)
    shears = own[own.combination == "1.0D"].V_major.tolist()
    assert shears == pytest.approx([10e3, 10e3, -10e3, -10e3])
    with pytest.raises(wb.InputError, match="no member 'g'"):
        frame.analyse().force_frame(marks=["g"])


def test_forces_are_written_for_others(tmp_path):
    job = tmp_path / "frame.toml"
    job.write_text(demo_text("saltmarsh_frame.toml"), encoding="utf-8")
    run = CliRunner().invoke
    book, folder = tmp_path / "forces.xlsx", tmp_path / "forces"
    assert run(main, ["frame", str(job), "--to", str(book)]).exit_code == 0
    assert run(main, ["frame", str(job), "--to", str(folder)]).exit_code == 0
    sheets = load_workbook(book)
    assert sheets.sheetnames == ["forces", "reactions", "movements"]
    heads = [cell.value for cell in sheets["forces"][1]]
    assert heads[:5] == ["combination", "member", "x (ft)", "joint", "N (kip)"]
    with (folder / "reactions.csv").open(encoding="utf-8-sig") as file:
        rows = list(csv.DictReader(file))
    found = wb.frame_results(wb.load_job(job))
    first = found.combinations[0].name
    up = sum(float(row["z (kip)"]) for row in rows if row["combination"] == first)
    assert up == pytest.approx(np.abs(found.applied[0, 2]) / 4448.2216152605, rel=1e-6)


@pytest.mark.parametrize("demo", ["saltmarsh_truss.toml", "saltmarsh_frame.toml"])
def test_the_most_that_pulls_and_presses_is_that_of_the_checks(demo, tmp_path):
    job = wb.parse_job(demo_text(demo))
    found, table = wb.frame_results(job), wb.check(job)
    extremes = axial_extremes(found.frame, found.state)
    for result in table:
        N, names = result.forces.N, [one.name for one in result.forces.combinations]
        most, a, least, b = extremes[result.member.mark]
        scale = np.abs(N).max()
        assert most == pytest.approx(N.max(), abs=1e-6 * scale)
        assert least == pytest.approx(N.min(), abs=1e-6 * scale)
        assert N[names.index(found.combinations[a].name)].max() == pytest.approx(
            most, abs=1e-6 * scale
        )
        assert N[names.index(found.combinations[b].name)].min() == pytest.approx(
            least, abs=1e-6 * scale
        )
    path = tmp_path / demo
    path.write_text(demo_text(demo), encoding="utf-8")
    shown = CliRunner().invoke(main, ["frame", str(path), "--forces"])
    assert shown.exit_code == 0
    assert all(result.member.mark in shown.output for result in table)
    assert CliRunner().invoke(main, ["frame", str(path), "--forces", "--json"]).exit_code == 2
