"""What is read and written: encodings, decimal signs, links, locks, forms, and what is refused."""

from __future__ import annotations

import json
import multiprocessing
import os
import stat
import subprocess
import sys

import openpyxl
import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.documents.records import as_csv, as_json
from welbric.documents.writing import locked, save_text
from welbric.errors import InputError, Problem, folded_alike
from welbric.files.jobs import accept_sizes, change_job, demo_text
from welbric.files.schedule_results import save_schedule
from welbric.inputs.own_catalogues import read_catalogue
from welbric.inputs.text_tables import has_decimal_comma

ROWS = "mark;section;length (m);compression (kN);note\nC1;W12X65;4,5;1.250,5;Träger\n"
BEAM = 'welbric = 2\n[[member]]\nmark = "B1"\nsection = "W18X50"\nspan = "10 ft"\n'


def run(*arguments):
    return CliRunner().invoke(main, [str(a) for a in arguments], catch_exceptions=False)


@pytest.fixture
def job(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text(BEAM, "utf-8")
    return path


# Reading


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "cp1252", "utf-16", "utf-16-le"])
def test_schedules_are_read_as_spreadsheets_write_them_and_written_back_alike(tmp_path, encoding):
    path, out = tmp_path / "s.csv", tmp_path / "out.csv"
    path.write_text(ROWS, encoding)
    schedule = wb.load_schedule(path)
    (entry,) = schedule.entries
    assert entry.values["length"] == pytest.approx(4500)
    assert entry.values["compression"] == pytest.approx(1250.5e3)
    checked = wb.check_schedule(schedule)
    save_schedule(checked, out)
    again = wb.load_schedule(out)
    assert again.form == schedule.form
    assert again.entries == schedule.entries
    written = out.read_bytes().decode(encoding)
    assert "Träger" in written
    assert ";4,5;1.250,5;" in written
    assert f"{checked.records()[0]['utilisation']}".replace(".", ",") in written


@pytest.mark.parametrize(
    ("cells", "delimiter", "found"),
    [
        (["4,5", "12"], ";", True),
        (["4.5", "12"], ";", False),
        (["1,250", "4.5"], ";", False),
        (["1.250", "4,5 m"], ";", True),
        (["0,125"], ";", True),
        (["1,250"], ",", False),
        (["1.250"], ",", False),
        (["1250", ""], ";", False),
        (["1,250,000.5"], "\t", False),
        (["1,250"], ";", "may stand for thousands or for decimals"),
        (["1.250"], "\t", "may stand for thousands or for decimals"),
        (["4,5", "4.5"], ";", "others a decimal point"),
    ],
)
def test_the_decimal_sign_is_told_by_the_numbers(cells, delimiter, found):
    texts = list(enumerate(cells, 2))
    if isinstance(found, bool):
        assert has_decimal_comma(texts, delimiter) is found
    else:
        with pytest.raises(InputError, match=found):
            has_decimal_comma(texts, delimiter)


def test_a_catalogue_with_semicolons_and_decimal_commas():
    text = "name;d (mm);bf (mm);tw (mm);tf (mm)\nY1;400;200;8,5;14\n"
    assert read_catalogue(text, "yard.csv").sections["Y1"].tw == 8.5


def test_formulas_without_values_are_said(tmp_path):
    path = tmp_path / "s.xlsx"
    book = openpyxl.Workbook()
    for row in (["mark", "section", "length (m)", "compression (kN)"], ["C1", "W12X65", 4, "=2*3"]):
        book.active.append(row)
    book.save(path)
    result = run("schedule", path)
    assert result.exit_code == 2
    assert "D2: a formula whose value is not in the file" in result.output


@pytest.mark.parametrize("name", ["/dev/zero", "pipe", "folder", "missing.toml"])
def test_what_is_no_file_gets_one_message(tmp_path, name):
    os.mkfifo(tmp_path / "pipe")
    (tmp_path / "folder").mkdir()
    for command in ("check", "schedule"):
        result = run(command, tmp_path / name)
        assert result.exit_code == 2
        assert len(result.output.strip().splitlines()) == 1


def test_problems_alike_are_said_once():
    rows = "mark,section,length (m),compression (kN)\n" + "C,W12X65,4,x kN\n" * 200
    rows += "D,W12X66,4,5\n"
    with pytest.raises(InputError) as error:
        wb.Job(members=[{"mark": "B", "section": "W18X50", "span": "1 m", "role": "x"}] * 2)
    assert len(folded_alike(error.value.problems)) == len(error.value.problems)
    problems = [Problem("is wrong", f"member {i}", "span") for i in range(1, 9)]
    assert folded_alike([*problems, Problem("is odd", "member 9", "span")]) == [
        "member 1, span: is wrong (and 7 more like it: member 2, member 3, member 4, member 5, "
        "member 6, ...)",
        "member 9, span: is odd",
    ]


# Numbers and texts that try something

DIGITS = "9" * 400


@pytest.mark.parametrize(
    "line",
    [
        f"span = {DIGITS}",
        f'span = "{DIGITS} m"',
        'span = "1e-300 m"',
        f'span = "1 m"\ncamber = {DIGITS}',
        f'span = "1 m"\ndesign = {{ Cb = {DIGITS} }}',
        f'span = "1 m"\nbuckling = {{ minor_K = {DIGITS} }}',
        f'span = "1 m"\nforces = [{{ name = "a", compression = {DIGITS} }}]',
        f"span = {'9' * 5000}",
    ],
)
def test_numbers_of_hundreds_of_digits_get_one_message(job, line):
    job.write_text(BEAM.replace('span = "10 ft"', line), "utf-8")
    result = run("check", job)
    assert (result.exit_code, len(result.output.splitlines())) == (2, 1)
    assert len(result.output) < 600


NASTY = "a\x1b[31mb\u202ec\u2028d\x9be"


@pytest.mark.parametrize("field", ["name", "note", "mark", "steel"])
def test_nothing_a_user_wrote_steers_the_terminal(job, tmp_path, field):
    quoted = json.dumps(NASTY)
    where = BEAM if field != "name" else f"name = {quoted}\n{BEAM}"
    job.write_text(where if field == "name" else where + f"{field} = {quoted}\n", "utf-8")
    outputs = [run("check", job, *form).output for form in ([], ["--json"], ["--csv"])]
    outputs += [run("explain", job, "B1", "--form", f).output for f in ("text", "html", "typst")]
    for text in [*outputs, run("check", tmp_path / NASTY).output]:
        assert not set("\x1b\u202e\u2028\x9b") & set(text)


def test_records_keep_their_text_in_json_and_show_a_mark_in_csv():
    assert json.loads(as_json({"a": NASTY})) == {"a": NASTY}
    assert "\u202e" not in as_json({"a": NASTY})
    assert as_csv([{"a": "b\u202ec"}]) == "a\nb\ufffdc\n"


# Writing


def test_links_are_followed_and_modes_kept(job, tmp_path):
    link = tmp_path / "link.toml"
    link.symlink_to(job)
    job.chmod(0o640)
    save_text(link, "a")
    assert link.is_symlink()
    assert (job.read_text(), stat.S_IMODE(job.stat().st_mode)) == ("a", 0o640)
    job.chmod(0o440)
    with pytest.raises(InputError, match="link.toml: is read-only"):
        save_text(link, "b")
    assert job.read_text() == "a"
    assert sorted(p.name for p in tmp_path.iterdir()) == ["job.toml", "link.toml"]


@pytest.mark.parametrize(
    ("arguments", "words"),
    [
        (
            ["explain", "J", "B1", "--to", "x.doc"],
            "it says the form: .txt, .typ, .html, .pdf, .json",
        ),
        (["explain", "J", "B1", "--to", "x"], "has no ending"),
        (["explain", "J", "B1", "--form", "html", "--to", "x.pdf"], "would be PDF, but html"),
        (["explain", "J", "B1", "--form", "html", "--json"], "give one of them"),
        (["check", "J", "--to", "x.png"], "it says the form: .txt, .html, .csv, .xlsx, .json"),
        (["takeoff", "J", "--to", "own.csv"], "is read here, and is not written over"),
        (["schedule", "own.csv", "--to", "own.csv"], "is read here, and is not written over"),
        (["draw", "J", "B1", "--to", "J"], "it says the form: .png, .svg, .pdf"),
    ],
)
def test_what_is_not_written(job, tmp_path, monkeypatch, arguments, words):
    monkeypatch.chdir(tmp_path)
    own = "name,d (mm),bf (mm),tw (mm),tf (mm)\nY1,400,200,8,14\n"
    (tmp_path / "own.csv").write_text(own)
    job.write_text('catalogue = "own.csv"\n' + BEAM, "utf-8")
    before = {p: p.read_bytes() for p in tmp_path.iterdir()}
    result = run(*(job.name if a == "J" else a for a in arguments))
    assert (result.exit_code, words in result.output) == (2, True), result.output
    assert before == {p: p.read_bytes() for p in tmp_path.iterdir()}


@pytest.mark.parametrize("ending", ["txt", "html", "csv", "xlsx", "json"])
@pytest.mark.parametrize("command", ["check", "reactions", "combinations", "takeoff"])
def test_the_ending_chooses_the_form(job, tmp_path, command, ending):
    target = tmp_path / f"x.{ending}"
    result = run(command, job, "--to", target)
    assert (result.exit_code, result.output) == (0, f"Wrote {target}.\n")
    match ending:
        case "json":
            assert json.loads(target.read_text())
        case "xlsx":
            rows = list(openpyxl.load_workbook(target).active.iter_rows(values_only=True))
            assert len(rows) > 1
        case "html":
            assert target.read_text("utf-8").startswith("<!DOCTYPE html>")
        case _:
            printed = run(command, job, *(["--csv"] if ending == "csv" else [])).output
            assert target.read_text("utf-8") == printed


@pytest.mark.parametrize(("units", "size"), [("US", b"612"), ("metric", b"595.27")])
def test_a_working_becomes_a_pdf_of_the_paper_of_its_units(job, tmp_path, units, size):
    job.write_text(f'show = "{units}"\n{BEAM}', "utf-8")
    assert run("explain", job, "B1", "--to", tmp_path / "x.pdf").exit_code == 0
    pdf = (tmp_path / "x.pdf").read_bytes()
    assert pdf.startswith(b"%PDF")
    assert b"MediaBox[0 0 " + size in pdf


def test_a_full_disk_is_one_message(job):
    with open("/dev/full", "w") as full:
        found = subprocess.run(
            [sys.executable, "-c", "from welbric.cli import main; main()", "check", str(job)],
            stdout=full, stderr=subprocess.PIPE, text=True, check=False,
        )  # fmt: skip
    assert found.returncode == 2
    assert found.stderr.splitlines() == [
        "welbric: what was found cannot be printed: No space left on device"
    ]


def _accept(path, mark, times):
    for i in range(times):
        with locked(path):
            text = path.read_text("utf-8")
            section = f"W18X{(50, 55)[i % 2]}"
            save_text(path, change_job(text, {mark: {"section": section, "note": f"{mark} {i}"}}))


def test_two_writers_never_lose_an_edit(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text(BEAM + BEAM.replace("welbric = 2\n", "").replace("B1", "B2"), "utf-8")
    times = 25
    context = multiprocessing.get_context("spawn")
    writers = [context.Process(target=_accept, args=(path, m, times)) for m in ("B1", "B2")]
    for one in writers:
        one.start()
    for one in writers:
        one.join()
    notes = [member.note for member in wb.load_job(path).members]
    assert notes == [f"B1 {times - 1}", f"B2 {times - 1}"]
    assert [p.name for p in tmp_path.iterdir()] == ["job.toml"]


def test_accepting_keeps_what_another_wrote_meanwhile(tmp_path):
    path = tmp_path / "saltmarsh.toml"
    path.write_text(demo_text(), "utf-8")
    sized = wb.size(wb.load_job(path), ["FB2"])
    save_text(path, change_job(path.read_text("utf-8"), {"C1": {"note": "of another"}}))
    accept_sizes(path, sized)
    after = wb.load_job(path)
    assert after.member("C1").note == "of another"
    assert after.member("FB2").section.name == sized["FB2"].chosen.section.name
