"""Schedules: read in any spreadsheet's habits, checked as single members are, chosen, written."""

import csv
import io
import json

import numpy as np
import pytest
from click.testing import CliRunner
from openpyxl import Workbook, load_workbook

import welbric as wb
from cases import KIP
from welbric.cli import main
from welbric.documents.terminal import as_text
from welbric.files.jobs import MEMBERS, demo_text
from welbric.files.schedules import csv_cells, load_schedule
from welbric.inputs.schedules import read_schedule
from welbric.studies.schedule_checks import check_schedule, size_schedule
from welbric.studies.schedule_shown import schedule_document

HEADS = (
    "mark,section,steel,length (ft),unbraced_length (ft),compression (kip),tension (kip),"
    "moment_major (kip ft),moment_minor (kip ft),shear_major (kip),moment_shape,shear_minor (kip)"
)


def read(text, **options):
    return read_schedule(csv_cells(text), "s.csv", **options)


def row(text):
    return check_schedule(read(f"{HEADS}\n{text}\n")).verdicts[0]


SINGLE = [
    ("W12X65", "A992", "300", "", "60", "5", "12"),
    ("W12X65", "A992", "", "200", "60", "5", "12"),
    ("HSS8X6X1/4", "A500 Gr C", "80", "", "30", "10", "8"),
    ("HSS6.000X0.250", "A500 Gr C", "60", "", "8", "3", "2"),
    ("C10X20", "A36", "10", "", "10", "0.5", "3"),
    ("WT7X24", "A992", "40", "", "6", "", "2"),
    ("WT7X24", "A992", "40", "", "-6", "", "2"),
    ("L6X4X1/2", "A36", "10", "", "3", "1", "1"),
    ("IPE300", "S355", "100", "", "40", "4", "6"),
]


@pytest.mark.parametrize("given", SINGLE, ids=[f"{s[0]} {s[2]} {s[3]} {s[4]}" for s in SINGLE])
def test_a_row_is_the_member_it_describes(given):
    """The same member from a job: given forces, Cb given, loads between the ends."""
    section, steel, P, T, Mx, My, V = given
    found = row(f"X,{section},{steel},14,7,{P},{T},{Mx},{My},{V},1.1,1")
    forces = {
        "name": "all",
        "shear_minor": "1 kip",
        "shear_major": f"{V} kip",
        "moment_major": f"{Mx} kip ft",
    }
    forces |= {"moment_minor": f"{My} kip ft"} if My else {}
    forces |= {"compression": f"{P} kip"} if P else {}
    forces |= {"tension": f"{T} kip"} if T else {}
    member = wb.Member(
        mark="X", section=section, steel=steel, span="14 ft", design={"Cb": 1.1},
        forces=[forces],
        restraint={"twist": {"every": "7 ft"}},
    )  # fmt: skip
    result = wb.check(wb.Job(members=[member]))["X"]
    rows = {r.name: r for r in result.rows if "outside" not in r.status or T}
    assert found.status == result.status
    if result.status != "outside":
        assert found.utilisation == pytest.approx(result.utilisation, rel=1e-9)
        assert found.check == result.governing.name
        assert rows


SPELLINGS = {
    "units in the heads": "mark,section,length (m),compression (kN)\nC1,W12X65,4,500\n",
    "a row of units": "mark,section,length,compression\n,,m,kN\nC1,W12X65,4,500\n",
    "units in the cells": "mark,section,length,compression\nC1,W12X65,4 m,500 kN\n",
    "semicolons": "Mark;Section;Length [m];Compression [kN];note\nC1;W12X65;4;500;a, b\n",
    "tabs and blank lines":
        "mark\tsection\tlength (m)\tcompression (kN)\n\n# c\n\t\nC1\tW12X65\t4\t500\n",
    "a byte order mark and spaces":
        "\ufeffmark , section , length (m) , compression (kN)\n C1 , w12x65 , 4 , 500 \n",
}  # fmt: skip


@pytest.mark.parametrize("text", SPELLINGS.values(), ids=SPELLINGS)
def test_habits_of_spreadsheets(text, tmp_path):
    path = tmp_path / "s.csv"
    path.write_text(text, encoding="utf-8")
    schedule = load_schedule(path)
    (entry,) = schedule.entries
    assert (entry.mark, entry.section.name) == ("C1", "W12X65")
    assert entry.values == pytest.approx({"length": 4000.0, "compression": 500e3})


def test_decimal_commas():
    text = "mark;section;length (m);compression (kN);moment_shape\nC1;W12X65;4,5;1.250,5;1,1\n"
    (entry,) = read(text, decimal_comma=True).entries
    assert entry.values == pytest.approx(
        {"length": 4500.0, "compression": 1250.5e3, "moment_shape": 1.1}
    )


@pytest.mark.parametrize(
    ("line", "words"),
    [
        ("X,W99X99,,10,,5,,,,,", "no section 'W99X99'"),
        ("X,W12X65,A999,10,,5,,,,,", "A999"),
        ("X,W12X65,,ten,,5,,,,,", "length"),
        ("X,W12X65,,,,5,,,,,", "length: is missing; compression needs it"),
        ("X,W12X65,,10,,-5,,,,,", "give a magnitude"),
        ("X,W12X65,,10,,5,6,,,,", "one row has one of them"),
        ("X,W12X65,,10,,5,,,,,0", "moment_shape: '0' is given"),
        ("X,W12X65,,-10,,5,,,,,", "greater than zero"),
        ("X,W12X65,,10,,nan,,,,,", "not a finite number"),
        (",W12X65,,10,,5,,,,,", "mark: is missing"),
        ("X,,,10,,5,,,,,", "section: is missing"),
        ("X,W12X65,,10,,,,,,,", "no force is given"),
        ("X,W12X65,,10,,5,,,,,1,7,7", "13 cells, but 12 heads"),
    ],
)
def test_bad_rows_are_named_and_the_rest_done(line, words):
    schedule = read(f"{HEADS}\n{line}\nGOOD,W12X65,,14,,100,,,,,\n")
    assert len(schedule.problems) == 1
    assert schedule.problems[0].startswith("s.csv: line 2: ")
    assert words in schedule.problems[0]
    done = check_schedule(schedule)
    assert [v.status for v in done.verdicts] == ["ok"]
    assert not done.ok
    assert [r["status"] for r in done.records()] == ["not read", "ok"]


def test_rows_without_a_steel_take_the_usual_one_and_say_so():
    given = read(
        "mark,section,length (ft),compression (kip)\nC1,W12X40,12,50\nC2,HSS6X6X1/4,12,9\n"
    )
    done = check_schedule(given)
    named = read(
        "mark,section,steel,length (ft),compression (kip)\n"
        "C1,W12X40,A992,12,50\nC2,HSS6X6X1/4,A500 Gr C,12,9\n"
    )
    values = [v.utilisation for v in check_schedule(named).verdicts]
    assert [v.utilisation for v in done.verdicts] == values
    said = as_text(schedule_document(done, True))
    assert "2 rows name no steel" in said
    assert "(A992 in 1, A500 Gr C in 1)" in " ".join(said.split())
    refused = read("mark,section,steel,length (ft),compression (kip)\nC2,HSS6X6X1/4,A992,12,9\n")
    assert "A992 is a steel of rolled sections" in refused.problems[0]


def test_torsion_needs_its_length():
    """H3-2 has it: without, a thin tube would yield where it buckles."""
    schedule = read("mark,section,torsion (kN m)\nX,HSS20.000X0.375,50\n")
    assert "length: is missing; torsion needs it" in schedule.problems[0]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "is empty"),
        ("mark,section,length (ft)\n", "no rows"),
        ("mark,section,lenght (ft)\nA,B,1\n", "did you mean length"),
        ("mark,section,length (kip)\nA,B,1\n", "length"),
        ("mark,mark,section\nA,A,B\n", "stands twice"),
        ("section\nB\n", "no column 'mark'"),
        ("mark\nB\n", "no column 'section'"),
    ],
)
def test_bad_heads_are_named(text, words):
    with pytest.raises(wb.InputError, match=words):
        read(text)


def test_choosing_is_proved_by_checking_each():
    heads = "mark,choose,combination,length (ft),unbraced_length (ft),compression (kip)," \
            "moment_major (kip ft),shear_major (kip)"  # fmt: skip
    lists = {"B1": "W", "B2": "HP or M"}
    lines = ["B1,W,1.2D,20,10,40,90,9", "B1,W,0.9D,20,10,5,120,9", "B2,HP or M,1.2D,20,5,,200,9"]
    done = size_schedule(read("\n".join([heads, *lines])), utilisation=0.95).verdicts
    assert done[0].section is done[1].section
    for mark, chosen in (("B1", done[0].section), ("B2", done[2].section)):
        lighter = [s for s in wb.wished(lists[mark]) if s.mass < chosen.mass * (1 - 1e-9)]
        mine = [line for line in lines if line.startswith(mark)]
        for section in [chosen, *lighter]:
            body = [line.replace(lists[mark], section.name, 1) for line in mine]
            plain = read("\n".join([heads.replace("choose", "section"), *body]))
            found = check_schedule(plain).verdicts
            fits = all(v.status == "ok" and v.utilisation <= 0.95 for v in found)
            assert fits == (section.name == chosen.name)
    lines[2] = lines[2].replace(",200,", ",9000,")
    none = size_schedule(read("\n".join([heads, *lines]))).verdicts[2]
    assert none.status == "over"
    assert "passes" in none.check


def test_chunks_change_nothing(monkeypatch):
    schedule = read(demo_text(MEMBERS))
    whole = size_schedule(schedule).verdicts
    monkeypatch.setattr("welbric.studies.schedule_checks.CHUNK", 7)
    assert [v[:4] for v in size_schedule(schedule).verdicts if v.status != "outside"] == [
        v[:4] for v in whole if v.status != "outside"
    ]
    seen = []
    check_schedule(schedule, progress=seen.append)
    assert seen[-1] == sum(e.section is not None for e in schedule.entries)


def test_what_is_not_covered_is_outside():
    done = check_schedule(read(
        "mark,section,length (m),compression (kN),torsion (kN m)\n"
        "A,2L4X4X1/2X3/8,3,10,\nB,W12X65,3,,5\n"))  # fmt: skip
    assert [v.status for v in done.verdicts] == ["outside", "outside"]
    assert "connectors" in done.verdicts[0].reason
    assert np.isnan(done.verdicts[1].utilisation)


def run(*args):
    return CliRunner().invoke(main, ["schedule", *map(str, args)])


@pytest.mark.parametrize("name", ["out.csv", "out.xlsx"])
def test_written_back_and_read_again(tmp_path, name):
    source = tmp_path / "in.csv"
    source.write_text(
        f"{HEADS},note\n=1+1,W12X65,A992,14,7,300,,60,,0,1,,@x\nC2,W12X40,,14,,,,9,,0,1,,\n"
    )
    out = tmp_path / name
    assert run(source, "--to", out).exit_code == 0
    again = load_schedule(out)
    assert not again.problems
    done, first = check_schedule(again), check_schedule(load_schedule(source))
    assert [v.utilisation for v in done.verdicts] == [v.utilisation for v in first.verdicts]
    if name.endswith("xlsx"):
        sheet = load_workbook(out).active
        assert sheet["A2"].data_type == "s"
        assert sheet["D2"].value == 14
        assert all(cell.data_type != "f" for line in sheet.iter_rows() for cell in line)


def test_a_sheet_of_a_workbook(tmp_path):
    book = Workbook()
    book.active.append(["nothing"])
    sheet = book.create_sheet("beams")
    for line in (
        ["mark", "section", "length (ft)", "moment_major (kip ft)"],
        ["B", "W12X40", 14, 90],
    ):
        sheet.append(line)
    path = tmp_path / "b.xlsx"
    book.save(path)
    assert load_schedule(path, sheet="beams").entries[0].values["length"] == pytest.approx(
        14 * 304.8
    )
    for options, words in (({"sheet": "x"}, "no sheet 'x'; it has Sheet, beams"), ({}, "nothing")):
        with pytest.raises(wb.InputError, match=words):
            load_schedule(path, **options)
    (tmp_path / "c.xlsx").write_text("no")
    with pytest.raises(wb.InputError, match="is no XLSX"):
        load_schedule(tmp_path / "c.xlsx")


def test_the_demos_schedule_from_the_command_line(tmp_path):
    path = tmp_path / MEMBERS
    path.write_text(demo_text(MEMBERS))
    result = run(path)
    assert result.exit_code == 1
    assert "of 60 members" in result.output
    assert "BB06" in result.output
    rows = json.loads(run(path, "--json").output)
    assert len(rows) == 80
    table = list(csv.DictReader(io.StringIO(run(path, "--csv", "--all").output)))
    joist = next(r for r in table if r["mark"] == "FJ01")
    assert joist["chosen section"]
    assert float(joist["utilisation"]) <= 1
    path.write_text(demo_text(MEMBERS).replace("W10X33", "W10X34"))
    broken = run(path)
    assert broken.exit_code == 2
    assert "line 3: no section 'W10X34'" in broken.output
    assert "of 56 members" in broken.output


def test_masses_are_of_marks_once():
    text = "mark,section,length (ft),shear_major (kip)\nA,W12X50,10,1\nA,W12X50,10,2\n"
    assert check_schedule(read(text)).mass == pytest.approx(500 * KIP / 1000 / 9.80665, rel=2e-3)


MIXED = """mark,choose,steel,length (m),compression (kip),tension (kip),net_area (in2),shear_lag
T1,W,A36,3.6,90,,,
T1,W,A992,3.6,,80,6.5,0.85
T1,W,A992,3.6,,200,5.0,0.9
T1,W,,3.6,60,,,
"""


def test_the_order_of_rows_never_matters():
    """Each row by its own steel and net area: a choice that passes in every one of them."""
    heads, *lines = MIXED.strip().split("\n")
    rng = np.random.default_rng(2)
    chosen = set()
    for _ in range(6):
        rng.shuffle(lines)
        done = size_schedule(read("\n".join([heads, *lines])))
        chosen.add(done.verdicts[0].section.name)
        (name,) = {v.section.name for v in done.verdicts}
        body = [line.replace(",W,", f",{name},", 1) for line in lines]
        plain = check_schedule(read("\n".join([heads.replace("choose", "section"), *body])))
        governing = max(v.utilisation for v in plain.verdicts if v.status == "ok")
        assert max(v.utilisation for v in done.verdicts if v.status == "ok") == pytest.approx(
            governing)  # fmt: skip
    assert len(chosen) == 1
    assert wb.section(chosen.pop()).A >= 6.5 * 25.4**2


@pytest.mark.parametrize("cell", ["4.5", "4.5 m", "1.25,5", "12.3456"])
def test_a_point_that_is_not_of_thousands_is_refused(cell):
    text = f"mark;section;length (m);compression (kN)\nC1;W12X65;{cell};500\n"
    schedule = read(text, decimal_comma=True)
    assert not schedule.entries
    assert "has a point that is not one of thousands" in schedule.problems[0]


def test_units_of_the_message_fit_the_column():
    schedule = read("mark,section,length,compression\nC1,W12X65,4,500 kN\n")
    assert "such as 'length (m)'" in schedule.problems[0]


STAYS = """mark;section;length;moment_major;shear_major;moment_shape;note
;;m;kN m;kN;;
007;W12X40;4,5;-60;8;1,1;1E2
7;W12X40;4,5;60;8;1,1;INF
1E2;W12X40;4,5;60;8;;-x
INF;W12X40;4,5;60;8;;=1+1
"""


@pytest.mark.parametrize("name", ["out.csv", "out.xlsx"])
def test_what_is_written_back_reads_again(tmp_path, name):
    """Units of a row of their own, marks that look like numbers, signs and commas stay."""
    source, out = tmp_path / "in.csv", tmp_path / name
    source.write_text(STAYS)
    assert run(source, "--decimal-comma", "--to", out).exit_code == 0
    first, again = (load_schedule(path, decimal_comma=True) for path in (source, out))
    assert not again.problems
    assert [e.mark for e in again.entries] == ["007", "7", "1E2", "INF"]
    assert [e.values for e in again.entries] == [pytest.approx(e.values) for e in first.entries]
    notes = [row[first.cells[0][1].index("note")] for _, row in again.cells[1:]]
    assert notes == ["1E2", "INF", "-x", "=1+1"]
    if name.endswith("xlsx"):
        sheet = load_workbook(out).active
        assert [sheet.cell(2, 1).data_type, sheet.cell(2, 3).value] == ["s", 4.5]
