"""What is otherwise in a job than it was: said, found, taken; and what stands no more."""

from __future__ import annotations

import json
import os
import subprocess
import sys

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.documents.blocks import Chapter, Table
from welbric.documents.html import book as as_html
from welbric.documents.typst import as_book
from welbric.files.jobs import demo_text
from welbric.reports.book import Beside, book_document, head_and_foot

RUN = CliRunner().invoke
HEAD = 'welbric = 2\nname = "Hide"\nstandard = "EN 1993-1-1"\nshow = "metric"\n'
HEAD += 'loading = { standard = "EN 1990", live_category = "A" }\n'
BEAM = """
[[member]]
mark = "{mark}"
section = "{section}"
steel = "S355"
span = "{span}"
restraint = {{ top = "continuous" }}
deflection = {{ live = 360 }}
load = [{{ case = "live", line = "{line}" }}]
"""


def a_job(*members, head=HEAD):
    usual = {"mark": "B1", "section": "IPE300", "span": "6 m", "line": "10 kN/m"}
    return head + "".join(BEAM.format(**(usual | one)) for one in members)


def written(tmp_path, name, text):
    path = tmp_path / name
    path.write_text(text, encoding="utf-8")
    return str(path)


def compared(tmp_path, old, new):
    paths = [written(tmp_path, "old.toml", old), written(tmp_path, "new.toml", new)]
    found = RUN(main, ["changes", *paths, "--json"])
    return found.exit_code, json.loads(found.output)


def only(records, what):
    return [one for one in records if one["what"] == what]


def test_what_is_alike_is_said_to_be(tmp_path):
    assert compared(tmp_path, a_job({}), a_job({})) == (0, [])
    # The same quantities, written otherwise.
    code, records = compared(tmp_path, a_job({}), a_job({"span": "6000 mm", "line": "10000 N/m"}))
    assert (code, records) == (0, [])


def test_a_load_that_grows(tmp_path):
    """Nothing but the load acts linearly here: ratios of what it alone brings grow with it."""
    old, new = ({"line": line} for line in ("10 kN/m", "12 kN/m"))
    code, records = compared(tmp_path, a_job(old), a_job(new))
    assert code == 1
    (said,) = only(records, "said")
    assert (said["mark"], said["name"]) == ("B1", "load 1.line")
    assert (said["before"], said["after"]) == ("10 kN/m", "12 kN/m")
    (member,) = only(records, "member")
    assert member["name"] == "with other results"
    deflection = next(one for one in only(records, "check") if "deflection" in one["name"])
    assert deflection["after"] / deflection["before"] == pytest.approx(1.2)
    assert not [one for one in records if one["what"].startswith("mass")]


def test_a_section_that_grows(tmp_path):
    code, records = compared(tmp_path, a_job({}), a_job({"section": "IPE330"}))
    assert code == 1
    masses = [one for one in records if one["what"].startswith("mass")]
    assert {one["name"]: (bool(one["before"]), bool(one["after"])) for one in masses} == {
        "IPE330, S355": (False, True), "IPE300, S355": (True, False)
    }  # fmt: skip
    for one in masses:
        kilograms = wb.section(one["name"].partition(",")[0]).mass * 6000
        assert max(one["before"], one["after"]) == pytest.approx(kilograms)
    for one in only(records, "check"):
        assert one["after"] < one["before"]


def test_members_that_come_and_go(tmp_path):
    code, records = compared(tmp_path, a_job({}, {"mark": "B2"}), a_job({}, {"mark": "B3"}))
    assert code == 1
    kinds = {one["mark"]: one["name"] for one in only(records, "member")}
    assert kinds == {"B2": "gone", "B3": "new"}


def test_what_does_not_move_the_results_is_said(tmp_path):
    fine = HEAD + '[utilisations]\n"floor beam" = 0.9\n'
    code, records = compared(tmp_path, a_job({}), a_job({}, head=fine))
    assert code == 1
    (said,) = records
    assert (said["mark"], said["name"], said["after"]) == ("", "utilisations.floor beam", "0.9")


def test_changes_of_the_standard_reach_every_member(tmp_path):
    other = HEAD + '[design]\nannex = "DE"\n'
    _, records = compared(tmp_path, a_job({}), a_job({}, head=other))
    assert {one["name"] for one in only(records, "said")} == {"design.annex"}
    assert {one["mark"] for one in only(records, "member")} == {"B1"}
    # gamma_M1 is 1.1 there and gamma_M0 1.0.
    names = {one["name"] for one in only(records, "check")}
    assert names == {"lateral-torsional buckling"}


@pytest.mark.parametrize("by", ["check", "book"])
def test_results_stand_for_a_job(tmp_path, by):
    old = written(tmp_path, "old.toml", a_job({}, {"mark": "B2"}))
    new = written(tmp_path, "new.toml", a_job({}, {"mark": "B2", "line": "30 kN/m"}))
    results = str(tmp_path / "results.json")
    command = ["check", old, "--to", results] if by == "check" else ["book", old, "--to", results]
    RUN(main, command)
    assert RUN(main, ["changes", results, old]).exit_code == 0
    records = json.loads(RUN(main, ["changes", results, new, "--json"]).output)
    assert {one["mark"] for one in only(records, "member")} == {"B2"}
    assert not only(records, "said")  # which is not known
    assert RUN(main, ["check", new, "--against", results]).exit_code == 1


@pytest.mark.parametrize("name", ["saltmarsh.toml", "saltmarsh_en.toml", "saltmarsh_frame.toml"])
def test_results_stand_in_another_process_too(tmp_path, name):
    path = written(tmp_path, "job.toml", demo_text(name))
    results = written(tmp_path, "results.json", RUN(main, ["check", path, "--json"]).output)
    command = [
        sys.executable,
        "-c",
        "from welbric.cli import main; main()",
        "check",
        path,
        "--against",
        results,
    ]
    found = subprocess.run(
        command,
        env=os.environ | {"PYTHONHASHSEED": "7"},
        capture_output=True,
        text=True,
        check=False,
    )
    assert found.returncode == 0, found.stdout + found.stderr
    assert "stands" in found.stdout


def test_a_member_of_a_frame_stands_with_the_others(tmp_path):
    text = demo_text("saltmarsh_frame.toml")
    changed = text.replace('section = "W16X31"', 'section = "W18X40"', 1)
    assert changed != text
    path, other = written(tmp_path, "a.toml", text), written(tmp_path, "b.toml", changed)
    results = written(tmp_path, "results.json", RUN(main, ["check", path, "--json"]).output)
    found = RUN(main, ["check", other, "--against", results])
    assert len(found.output.splitlines()) == len(wb.load_job(path).members)


@pytest.mark.parametrize(
    ("content", "problem"),
    [
        ("{", "is not what `check --json` writes"),
        ("[]", "the whole"),
        ('{"members": [{"mark": 3}]}', "job: field required"),
        ('{"job": "a", "standard": "b", "ok": true, "members": 3}', "members"),
    ],
)
def test_what_are_no_results(tmp_path, content, problem):
    results = written(tmp_path, "results.json", content)
    job = written(tmp_path, "job.toml", a_job({}))
    book = ["book", job, "--since", results, "--to", str(tmp_path / "b.html")]
    for command in (["changes", results, job], ["check", job, "--against", results], book):
        found = RUN(main, command)
        assert found.exit_code == 2
        assert problem in found.output
        assert "results.json" in found.output


def test_results_of_one_combination_are_none_to_compare(tmp_path):
    job = written(tmp_path, "job.toml", a_job({}))
    one = RUN(main, ["check", job, "--under", "live", "--json"]).output
    results = written(tmp_path, "results.json", one)
    found = RUN(main, ["changes", results, job])
    assert found.exit_code == 2
    assert "no verdict to stand" in found.output


def test_a_book_marks_what_has_changed(tmp_path):
    old = written(tmp_path, "old.toml", a_job({}, {"mark": "B2"}))
    new = written(tmp_path, "new.toml", a_job({}, {"mark": "B2", "line": "30 kN/m"}))
    results = written(tmp_path, "results.json", RUN(main, ["check", old, "--json"]).output)
    to = tmp_path / "book.html"
    command = ["book", new, "--since", old, "--against", results, "--to", str(to)]
    found = RUN(main, command)
    assert found.exit_code == 0, found.output
    page = to.read_text(encoding="utf-8")
    assert page.count("data-changed=") == 2  # its row in the summary, and its chapter
    assert "Changes since old.toml" in page
    assert "Not the results of results.json: B2" in page
    assert "30 kN/m" in page
    # And none where nothing has.
    RUN(main, ["book", old, "--since", old, "--against", results, "--to", str(to)])
    page = to.read_text(encoding="utf-8")
    assert "data-changed=" not in page
    assert "Not the results" not in page
    assert "Nothing is otherwise." in page


def test_marks_are_in_the_margin_of_a_pdf():
    from welbric.studies.changes import changes, side_of

    table, other = (
        wb.check(wb.parse_job(text))
        for text in (a_job({}, {"mark": "B2"}), a_job({}, {"mark": "B2", "line": "30 kN/m"}))
    )
    found = changes(side_of(table.job, table), side_of(other.job, other))
    beside = Beside(found, "old", ("B2",), "results.json")
    document = book_document(other, "checks", beside)
    chapters = [one for one in document if isinstance(one, Chapter) and one.changed]
    assert [one.title.partition(":")[0] for one in chapters] == ["B2"]
    assert next(one for one in document if isinstance(one, Table)).changed == {1}
    source = as_book(document, "a4", *head_and_foot(other.job), beside.warning())
    assert source.count("▌") == 2
    assert "Not the results of results.json: B2" in source
    assert as_html(document, "x").count("data-changed=") == 2
