from __future__ import annotations

import csv
import json
import re

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import demo_text


@pytest.fixture
def run():
    def invoke(*arguments, status=0):
        found = CliRunner().invoke(main, [str(a) for a in arguments], catch_exceptions=False)
        assert found.exit_code == status, found.output
        return found.output

    return invoke


@pytest.fixture
def job(tmp_path):
    path = tmp_path / "saltmarsh.toml"
    path.write_text(demo_text(), "utf-8")
    return path


def test_demo_writes_runs_and_keeps(run, tmp_path):
    folder = tmp_path / "demo"
    text = run("demo", folder)
    assert "Saltmarsh Observatory" in text
    assert (folder / "saltmarsh.toml").read_text("utf-8") == demo_text()
    (folder / "saltmarsh.toml").write_text(demo_text().replace("W16X45", "W16X50"), "utf-8")
    assert "kept as it is" in run("demo", folder)
    assert "W16X50" in (folder / "saltmarsh.toml").read_text("utf-8")


def test_check_table(run, job):
    text = run("check", job, status=1)
    assert all(len(line) <= 100 for line in text.splitlines())
    assert re.search(r"RB1 .* 0\.9D \+ W +15 ft", text)  # the last column is whole
    assert re.search(r"FB2 +W16X45 +1\.05 .*OVER +lateral-torsional buckling +F2\.2", text)
    assert "19 of 21 within limits; EB1 is over by 106% in lateral-torsional buckling" in text
    assert "Not checked here: connections" in text
    assert "reaction at the start" in run("check", job, "--details", status=1)


def test_verdicts_of_the_demo(run, job):
    document = json.loads(run("check", job, "--json", status=1))
    verdicts = {m["mark"]: m["verdict"] for m in document["members"]}
    assert len(verdicts) == 21
    assert verdicts == dict.fromkeys(verdicts, "ok") | {
        "FB2": "over",
        "EB1": "over",
    }


def test_csv_and_json_say_the_same(run, job):
    document = json.loads(run("check", job, "--json", status=1))
    lines = list(csv.DictReader(run("check", job, "--csv", status=1).splitlines()))
    checks = [c for member in document["members"] for c in member["checks"]]
    assert len(lines) == len(checks) > 50
    for line, found in zip(lines, checks, strict=True):
        assert line["check"] == found["check"]
        assert float(line["utilisation"]) == found["utilisation"]


def test_a_job_within_limits_leaves_with_0(run, tmp_path):
    path = tmp_path / "fine.toml"
    path.write_text(
        'welbric = 2\n[[member]]\nmark = "B1"\nsection = "W18X50"\nspan = "10 ft"\n', "utf-8"
    )
    assert "1 of 1 within limits" in run("check", path)


@pytest.mark.parametrize(("form", "ending"), [("text", "txt"), ("typst", "typ"), ("html", "html")])
def test_explain(run, job, tmp_path, form, ending):
    target = tmp_path / f"fb2.{ending}"
    run("explain", job, "FB2", "--to", target)
    assert target.read_text("utf-8") == run("explain", job, "FB2", "--form", form)
    assert "F2-4" in target.read_text("utf-8")


def test_explain_one_check(run, job):
    text = run("explain", job, "FB2", "--check", "F2.2")
    assert "since Lb = 24 ft > Lr" in text
    assert "Shear" not in text
    assert all(len(line) <= 100 for line in text.splitlines())
    steps = json.loads(run("explain", job, "FB2", "--check", "F2.2", "--json"))["checks"][0][
        "steps"
    ]
    assert {"symbol", "clause", "title", "formula", "with_numbers", "result"} <= set(steps[-1])


def test_segments(run, job):
    document = json.loads(run("segments", job, "FG1", "--json"))
    found = document["segments"]
    assert [need["place"] for need in document["restraints"]] == pytest.approx([10, 20])
    assert document["restraints_units"]["panel_stiffness"] == "kip/in"
    assert document["lateral_buckling"]["factor"] == pytest.approx(3.12, abs=0.01)
    assert [(s["flange"], round(s["unbraced_length"], 6)) for s in found] == [
        ("top", 10), ("top", 10), ("top", 10), ("bottom", 30),
    ]  # fmt: skip
    # Point loads at the thirds: the middle is all but uniform, the outer thirds are triangles.
    assert [round(s["moment_shape"], 1) for s in found[:3]] == [1.7, 1.0, 1.7]
    assert found[3]["moment_shape"] is None  # nothing compresses the bottom flange
    worst = json.loads(run("check", job, "--json", status=1))["members"][1]
    assert max(s["utilisation"] or 0 for s in found) == pytest.approx(worst["utilisation"])
    assert re.search(
        r"top +10 ft +20 ft +10 ft +load, load +434 kip·ft", run("segments", job, "FG1")
    )
    assert run("segments", job, "RB1", "--csv").startswith("flange,from,to,unbraced_length")


def test_sections(run):
    assert "W8X31" in run("sections", "w8")
    assert "W44X335" in run("sections")
    sheet = run("sections", "w 8x31", "--units", "metric")
    assert re.search(r"depth +d +203\.2 mm", sheet)
    assert json.loads(run("sections", "W8X31", "--json"))[0]["A (in²)"] == pytest.approx(9.13)
    assert run("sections", "W4", "--csv").startswith("section,shape,d (in)")
    beside = run("sections", "W14X90", "HE 360 B", "--units", "metric")
    assert re.search(r"depth +d +355\.6 mm +360 mm", beside)
    wish = json.loads(run("sections", "IPE, depth at most 120 mm, sorted by mass", "--json"))
    assert [s["section"] for s in wish] == ["IPE80", "IPE100", "IPE120"]


def test_a_section_drawn(run, tmp_path):
    target = tmp_path / "w18.svg"
    run("sections", "W18X50", "--to", target)
    assert "7.5 in" in re.sub(r"<!-- (.*?) -->", r"\1", target.read_text("utf-8"))


def test_reconcile(run):
    text = run("reconcile")
    assert "w_shapes.csv (ASTM A6/A6M): 280 shipped" in text
    assert "en10365_i.csv (EN 10365): 66 shipped" in text
    found = json.loads(run("reconcile", "--json"))
    assert {d["section"] for d in found[1]["left_out"]} >= {"HP12X53"}


def test_schema_and_help(run):
    assert json.loads(run("schema"))["title"].startswith("Welbric job file")
    for command in ("demo", "check", "explain", "sections", "draw", "segments", "schema"):
        assert "Usage" in run(command, "--help")


@pytest.mark.parametrize("ending", ["png", "svg", "pdf"])
def test_draw(run, job, tmp_path, ending):
    target = tmp_path / f"c1.{ending}"
    run("draw", job, "C1", "--to", target)
    start = target.read_bytes()[:5]
    assert start[:4] in (b"\x89PNG", b"<?xm", b"%PDF")


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (["check", "none.toml"], "none.toml: there is no such file"),
        (["check", "."], "is a folder"),
        (["explain", "JOB", "FB9"], "no member 'FB9'; did you mean FB2"),
        (["explain", "JOB", "FB2", "--check", "torsion of the moon"], "has no check"),
        (["explain", "JOB", "FB2", "--to", "no/such/folder/x.txt"], "cannot be written"),
        (["draw", "JOB", "FB2", "--to", "x.bmp"], "it says the form: .png, .svg, .pdf"),
        (["draw", "JOB", "FB2", "--to", "no/such/folder/x.png"], "cannot be written"),
        (["sections", "W, depth at"], "is no family and no limit"),
        (["sections", "W8", "--to", "w8.png"], "--to draws one section; 13 are wanted"),
        (["sections", "W8X31", "Q1"], "no section 'Q1'"),
        (["sections", "W8X32"], "no section 'W8X32' in the catalogue; the nearest are W8X31"),
        (["demo", "JOB"], "cannot be made"),
    ],
)
def test_wrong_input_leaves_with_2_and_one_line(run, job, arguments, words):
    text = run(*(job if a == "JOB" else a for a in arguments), status=2)
    assert words in text
    assert len(text.strip().splitlines()) == 1
    assert text.startswith("welbric: ")


def test_results_that_do_not_stand_any_more(tmp_path):
    job, results = tmp_path / "job.toml", tmp_path / "results.json"
    job.write_text(demo_text())
    run = CliRunner().invoke
    results.write_text(run(main, ["check", str(job), "--json"]).output)
    again = ["check", str(job), "--against", str(results)]
    stands = run(main, again)
    assert (stands.exit_code, "stands" in stands.output) == (0, True)
    words = demo_text().replace("# Roof:", "# The roof:").replace('show = "US"', 'show = "metric"')
    job.write_text(words)
    assert run(main, again).exit_code == 0
    job.write_text(demo_text().replace('area = "18 psf"', 'area = "19 psf"', 1))
    changed = run(main, again)
    assert (changed.exit_code, changed.output) == (
        1, "RB1 has changed since the results were written.\n"
    )  # fmt: skip
    job.write_text(demo_text().replace('method = "LRFD"', 'method = "ASD"'))
    assert len(run(main, again).output.splitlines()) == 21
    job.write_text(demo_text().replace('mark = "RB1"', 'mark = "RB9"'))
    assert run(main, again).output.splitlines() == [
        "RB9 is not in the results.", "RB1 is not in the job."
    ]  # fmt: skip
    results.write_text("{")
    broken = run(main, again)
    assert (broken.exit_code, "is not what" in broken.output) == (2, True)


@pytest.mark.parametrize("units", ["US", "metric"])
def test_a_job_to_begin_with(run, tmp_path, units):
    """It checks as it stands, warns of nothing, and is never written over a file."""
    path = tmp_path / "job.toml"
    assert f"welbric check {path}" in run("new", path, "--units", units)
    table = wb.check(wb.load_job(path))
    assert [result.status for result in table] == ["ok"] * 3
    assert [result.warnings for result in table] == [[], [], []]
    assert min(result.utilisation for result in table) > 0.3
    assert table.job.display.name == units
    kept = path.read_text("utf-8")
    assert kept.count("#") > 8
    assert "@" not in kept
    assert "is there already, and is kept" in run("new", path, status=2)
    assert path.read_text("utf-8") == kept
    other = tmp_path / "other.toml"
    assert "no design standard 'AISC 360-99'; did you mean" in run(
        "new", other, "--standard", "AISC 360-99", status=2
    )
    assert not other.exists()


def test_the_width_that_columns_asks_for(run, job, monkeypatch):
    monkeypatch.setenv("COLUMNS", "80")
    for text in (run("check", job, status=1), run("explain", job, "FB2", "--check", "F2.2")):
        assert 60 < max(map(len, text.splitlines())) <= 80
    monkeypatch.setenv("COLUMNS", "nonsense")
    assert max(map(len, run("check", job, status=1).splitlines())) == 100
