"""Reactions and end forces: by statics, closed forms, and what is printed of them."""

from __future__ import annotations

import csv
import io
import json

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.checking.supports_shown import supports_document
from welbric.cli import main
from welbric.documents.terminal import as_text
from welbric.files.jobs import demo_text


def found(member, combinations=("1D", "1.2D + 1.6L"), **job):
    table = wb.check(wb.Job(members=[member], combinations=list(combinations), **job))
    rows = table.results[0].support_forces()
    return {(row.support, row.of): row for row in rows}, table


def beam(**fields):
    given = {"mark": "B", "section": "W16X31", "steel": "A992", "span": "6 m", "self_weight": False}
    return wb.Member(**(given | fields))


LINE = [{"case": "dead", "line": "10 kN/m"}, {"case": "live", "point": "12 kN", "at": "2 m"}]


def test_a_beam_by_statics():
    rows, _ = found(beam(load=LINE))
    assert rows["start", "D"].up == pytest.approx(30e3)
    assert (rows["start", "L"].up, rows["end", "L"].up) == pytest.approx((8e3, 4e3))
    assert rows["start", "D"].is_case
    assert rows["end", "1.2D + 1.6L"].up == pytest.approx(1.2 * 30e3 + 1.6 * 4e3)
    assert rows["end", "1.2D + 1.6L"].M_major == 0


def test_fixed_ends_have_moments():
    rows, _ = found(beam(load=LINE[:1], ends=["fixed", "fixed"], ends_minor=["pinned", "pinned"]))
    assert rows["start", "D"].M_major == pytest.approx(-10 * 6000**2 / 12)
    assert rows["end", "D"].M_major == pytest.approx(-10 * 6000**2 / 12)


def test_a_column_and_its_foot():
    loads = [
        {"case": "dead", "compression": "200 kN"}, {"case": "wind", "line": "2 kN/m"},
        {"case": "wind", "line": "1 kN/m", "axis": "minor"},
    ]  # fmt: skip
    column = beam(role="column", span=None, height="4 m", ends=["fixed", "free"], load=loads)
    rows, _ = found(column, ["1D + 1W"])
    foot = rows["start", "1D + 1W"]
    assert (foot.N, foot.up, foot.across) == pytest.approx((-200e3, 8e3, 4e3))
    assert (foot.M_major, foot.M_minor) == pytest.approx((-2 * 4000**2 / 2, -1 * 4000**2 / 2))
    assert pytest.approx(-200e3) == rows["end", "D"].N
    assert ("end", "W") not in rows  # nothing there


def test_torsion_goes_to_the_forks():
    rows, _ = found(beam(load=[{"case": "dead", "torque": "3 kN m", "at": "2 m"}]), ["1D"])
    assert pytest.approx(3e6) == rows["start", "D"].T - rows["end", "D"].T


@pytest.mark.parametrize("second_order", ["amplified", "analysed"])
def test_supports_carry_all_of_the_load(second_order):
    """Three spans and an overhang: the sum of the reactions is the load, of either order."""
    loads = [{"case": "dead", "line": "8 kN/m"}, {"case": "dead", "compression": "90 kN"}]
    member = beam(span=None, spans=["5 m", "6 m", "4 m", "1.5 m"], ends=["pinned", "free"],
                  load=loads, second_order=second_order)  # fmt: skip
    rows, table = found(member, ["1.4D"])
    for of, factor in (("D", 1.0), ("1.4D", 1.4)):
        up = sum(row.up for (_, name), row in rows.items() if name == of)
        assert up == pytest.approx(factor * 8 * 16500, rel=1e-9)
    low, high = table.results[0].reactions()["support 2"]
    assert high == pytest.approx(rows["support 2", "1.4D"].up)
    assert low <= high


def test_webs_bear_the_reactions_of_the_second_order():
    """Over the middle support of two spans in compression, which take more of it then."""
    loads = [{"case": "dead", "line": "12 kN/m"}, {"case": "dead", "compression": "900 kN"}]
    found_by = {}
    for order in ("amplified", "analysed"):
        held = {"top": "continuous", "bottom": "continuous"}
        member = beam(span=None, spans=["6 m", "6 m"], load=loads, second_order=order,
                      bearing="100 mm", restraint=held)  # fmt: skip
        rows, table = found(member, ["1.4D"])
        (own,) = (row for row in table["B"].rows if row.id == "web-yielding")
        largest = max(row.up for row in rows.values() if not row.is_case)
        assert own.demand == pytest.approx(largest, rel=1e-12)
        found_by[order] = largest
    assert found_by["analysed"] != pytest.approx(found_by["amplified"], rel=1e-4)


def test_of_the_demo_as_it_is_printed(tmp_path):
    job = tmp_path / "saltmarsh.toml"
    job.write_text(demo_text(), "utf-8")

    def run(*words):
        result = CliRunner().invoke(main, [*map(str, words)])
        assert result.exit_code in (0, 1), result.output
        return result.output

    text = run("reactions", job, "FB2", "C1")
    assert "FB2   start  dead" in text
    assert all(len(line) <= 100 for line in text.splitlines())
    every = list(csv.DictReader(io.StringIO(run("reactions", job, "FB2", "--csv"))))
    assert [r["support"] for r in every] == ["start"] * 4 + ["end"] * 4
    assert [r["case"] for r in every[:2]] == ["D", "L"]
    assert json.loads(run("reactions", job, "FB2", "--json"))[0]["up"] == float(every[0]["up"])
    assert "case or combination" in run("check", job, "--details")
    whole = json.loads(run("check", job, "--json"))
    (own,) = (m["support_forces"] for m in whole["members"] if m["mark"] == "FB2")
    assert len(own) == 8
    frame = wb.check(wb.load_job(job)).support_frame()
    assert set(frame["mark"]) >= {"FB2", "C1"}
    forces = [{"name": "F", "moment_major": "9 kN m", "shear_major": "9 kN"}]
    table = wb.check(wb.Job(members=[beam(forces=forces)]))
    assert not table.results[0].support_forces()
    words = as_text(supports_document(table.job, table.results))
    assert "B: forces combined elsewhere say nothing of the supports." in words
