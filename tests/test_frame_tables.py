"""Frames as tables: out and in again, and tables that somebody else made."""

from __future__ import annotations

import pytest
from click.testing import CliRunner
from openpyxl import Workbook

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import demo_text

RUN = CliRunner().invoke
DEMOS = ["saltmarsh_frame.toml", "saltmarsh_bridge.toml", "saltmarsh_building.toml"]


@pytest.mark.parametrize("name", DEMOS)
@pytest.mark.parametrize("ending", ["", ".xlsx"])
def test_what_goes_out_comes_in_again(tmp_path, name, ending):
    """The same members, joints and loads: the same job, but for what made it."""
    job, tables, again = (tmp_path / one for one in ("job.toml", f"tables{ending}", "again.toml"))
    job.write_text(demo_text(name), encoding="utf-8")
    assert RUN(main, ["expand", str(job), "--to", str(tables)]).exit_code == 0
    found = RUN(main, ["gather", str(tables), "--with", str(job), "--to", str(again)])
    assert found.exit_code == 0, found.output
    one, other = wb.load_job(job), wb.load_job(again)
    assert one.joints == other.joints
    assert one.joint_loads == other.joint_loads
    assert sorted(m.mark for m in one.members) == sorted(m.mark for m in other.members)
    for member in one.members:
        same = other.member(member.mark)
        for field in wb.Member.model_fields:
            assert getattr(member, field) == getattr(same, field)
    assert one.decks == other.decks


MEMBERS = [["mark", "role", "section", "steel", "through", "self_weight",
            "buckling.minor_length, m"],
           ["C1", "column", "HEA200", "S355", "A B", "no", 2.5],
           ["B1", "beam", "IPE300", "S355", "B; C", "yes", None]]  # fmt: skip
JOINTS = [["name", "x, m", "z [mm]", "support"], ["A", 0, 0, "fixed"], ["B", 0, 4000, "y"],
          ["C", 6.5, 4000, "x; y; z; turn y"]]  # fmt: skip
LOADS = [["mark", "case", "line, kN/m", "at, m", "point, kN"], ["B1", "dead", 4.5, None, None],
         ["B1", "live", None, 3, 12]]  # fmt: skip
JOINT_LOADS = [["joint", "case", "x, kN", "reversible"], ["B", "wind", "-3,5", "true"]]
BASE = """# kept
welbric = 2
standard = "EN 1993-1-1"
loading = { standard = "EN 1990", live_category = "A" }
"""
SHEETS = {"Joints": JOINTS, "Members": MEMBERS, "Member loads": LOADS, "Joint loads": JOINT_LOADS}


def made(tmp_path, ending=".xlsx", **changed):
    """Write the tables, with some rows changed, and return their path."""
    sheets = SHEETS | {name.replace("_", " "): rows for name, rows in changed.items()}
    if ending:
        path, book = tmp_path / "model.xlsx", Workbook()
        book.remove(book.active)
        for name, rows in sheets.items():
            page = book.create_sheet(name)
            for row in rows:
                page.append(row)
        book.save(path)
        return path
    path = tmp_path / "model"
    path.mkdir()
    for name, rows in sheets.items():
        text = "\n".join("\t".join("" if c is None else str(c) for c in row) for row in rows)
        (path / f"{name.replace(' ', '_')}.csv").write_text(text, encoding="utf-8")
    return path


@pytest.mark.parametrize("ending", ["", ".xlsx"])
def test_tables_that_somebody_else_made(tmp_path, ending):
    base = tmp_path / "base.toml"
    base.write_text(BASE, encoding="utf-8")
    out = tmp_path / "job.toml"
    found = RUN(
        main, ["gather", str(made(tmp_path, ending)), "--with", str(base), "--to", str(out)]
    )
    assert found.exit_code == 0, found.output
    assert out.read_text(encoding="utf-8").startswith("# kept\n")
    job = wb.load_job(out)
    assert [joint.at for joint in job.joints] == [[0, 0], [0, 4000], [6500, 4000]]
    assert [joint.held for joint in job.joints][1:] == [("y",), ("x", "y", "z", "turn y")]
    column, beam = job.members
    assert (column.through, column.self_weight, beam.self_weight) == (["A", "B"], False, True)
    assert column.buckling.minor_length == 2500
    assert [load.line or load.point for load in beam.loads] == [[4.5], 12e3]
    assert beam.loads[1].at == [3000]
    assert (job.joint_loads[0].x, job.joint_loads[0].reversible) == (-3500, True)
    assert wb.check(job).results


def test_names_that_are_numbers(tmp_path):
    """Joints 1, 2 ... and members 101, 102 ...: names all the same."""
    joints = [["name", "x, m", "z, m", "support"], [1, 0, 0, "fixed"], [2, 0, 4, "y"]]
    members = [["mark", "role", "section", "steel", "through"],
               [101, "column", "HEA200", "S355", "1 2"]]  # fmt: skip
    path = made(tmp_path, Joints=joints, Members=members, Member_loads=[["mark"]],
                Joint_loads=[["joint", "case", "z, kN"], [2, "dead", -50]])  # fmt: skip
    base = tmp_path / "base.toml"
    base.write_text(BASE, encoding="utf-8")
    out = tmp_path / "job.toml"
    found = RUN(main, ["gather", str(path), "--with", str(base), "--to", str(out)])
    assert found.exit_code == 0, found.output
    job = wb.load_job(out)
    assert job.member("101").through == ["1", "2"]
    assert job.joint_loads[0].joint == "2"


@pytest.mark.parametrize(
    ("changed", "words"),
    [
        ({"Member_loads": [["mark", "case"], ["B9", "dead"]]},
         "member loads, row 2: no member 'B9'"),
        ({"Members": [["mark", "through"], ["C1", "[\"A\""]]}, "cannot be read"),
        ({"Joints": [["name", "x, m"], ["A", 0]]}, "a place is x and z"),
        ({"Members": [["mark", "section", "through", "colour"], ["C1", "IPE300", "A B", "red"]],
          "Member_loads": [["mark"]]}, "colour"),
    ],
)  # fmt: skip
def test_tables_that_cannot_be(tmp_path, changed, words):
    base = tmp_path / "base.toml"
    base.write_text(BASE, encoding="utf-8")
    out = tmp_path / "job.toml"
    found = RUN(main, ["gather", str(made(tmp_path, **changed)), "--with", str(base), "--to",
                       str(out)])  # fmt: skip
    assert found.exit_code == 2
    assert words in found.output
    assert not out.exists()


def test_where_there_are_none(tmp_path):
    (tmp_path / "joints.csv").write_text("name,x\n", encoding="utf-8")
    assert "has no table 'members'" in RUN(main, ["gather", str(tmp_path)]).output
    assert "no folder of CSV" in RUN(main, ["gather", str(tmp_path / "joints.csv")]).output
    text = tmp_path / "no.xlsx"
    text.write_text("no", encoding="utf-8")
    assert "is no XLSX" in RUN(main, ["gather", str(text)]).output
