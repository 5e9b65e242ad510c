"""What a job takes, by hand; and one form of output at a time."""

from __future__ import annotations

import csv
import io

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import demo_text
from welbric.studies.take_off import take_off, total

KG, FT = 0.45359237, 304.8


def test_pieces_by_section_and_steel():
    """Three W8X31 of two steels, one of them with another section along four feet of it."""
    of = {"role": "column", "section": "W8X31", "height": "10 ft"}
    piece = [{"section": "W10X49", "start": "0 ft", "end": "4 ft"}]
    members = [
        wb.Member(mark="A", steel="A992", **of), wb.Member(mark="B", steel="A36", **of),
        wb.Member(mark="C", steel="A992", piece=piece, **of),
    ]  # fmt: skip
    prices = {"per_tonne": 1000, "families": {"W": 1200}, "least_per_piece": 100}
    job = wb.Job(members=members, prices=prices, carbon={"per_kg": 1.2})
    found = {(part.section, part.steel): part for part in take_off(job)}
    both = found["W8X31", "A992"]
    assert (both.pieces, both.length / FT) == (2, pytest.approx(16))
    assert both.mass == pytest.approx(16 * 31 * KG)
    assert both.surface == pytest.approx(16 * FT * wb.section("W8X31").surface)
    assert both.carbon == pytest.approx(1.2 * 16 * 31 * KG)
    assert both.cost == pytest.approx(1.2 * 10 * 31 * KG + max(1.2 * 6 * 31 * KG, 100))
    whole = total([*found.values()])
    assert (whole.pieces, whole.mass) == (4, pytest.approx((26 * 31 + 4 * 49) * KG))
    bare = take_off(wb.Job(members=members[:1]))
    assert (bare[0].cost, bare[0].carbon) == (None, None)


@pytest.mark.parametrize("command", ["check", "reactions", "takeoff", "combinations", "size"])
def test_json_and_csv_do_not_go_together(command, tmp_path):
    job = tmp_path / "saltmarsh.toml"
    job.write_text(demo_text(), "utf-8")
    result = CliRunner().invoke(main, [command, str(job), "--json", "--csv"])
    assert result.exit_code == 2
    assert result.output == "welbric: --json and --csv: give one of them\n"


def test_the_demo_takes_what_its_rows_add_up_to(tmp_path):
    job = tmp_path / "saltmarsh.toml"
    job.write_text(demo_text(), "utf-8")

    def run(*words):
        result = CliRunner().invoke(main, ["takeoff", str(job), *words])
        assert result.exit_code == 0, result.output
        return result.output

    rows = list(csv.DictReader(io.StringIO(run("--csv"))))
    assert {row["mass_unit"] for row in rows} == {"lb"}
    text = run()
    (last,) = (line.split() for line in text.splitlines() if line.startswith("in all"))
    assert float(last[4].replace(",", "")) == pytest.approx(
        sum(float(row["mass"]) for row in rows), rel=1e-3
    )
    assert all(len(line) <= 80 for line in text.splitlines())


def test_deflections_are_values(tmp_path):
    """0.64 kip/ft live over 24 ft of the demo's FB2, more towards the end: delta, limit, share."""
    job = tmp_path / "saltmarsh.toml"
    job.write_text(demo_text(), "utf-8")
    text = CliRunner().invoke(main, ["check", str(job), "--details"]).output
    table = wb.check(wb.load_job(job))
    row = next(r for r in table["FB2"].rows if r.id == "deflection-live")
    share = 24 * FT / row.demand
    assert row.remark == f"L/{share:.0f}"
    assert row.remark in text
    assert table["FB2"].member.said.deflection.live
