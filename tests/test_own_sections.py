"""A job's own shapes, steels and catalogues, through the job file and the command line."""

from __future__ import annotations

import json

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main

JOB = """
welbric = 2
show = "metric"
catalogue = [{{file = "yard.csv"{keep}}}]
[[section]]
name = "PG1"
shape = "unequal I"
d = "800 mm"
bf_top = "250 mm"
tf_top = "20 mm"
bf_bottom = "300 mm"
tf_bottom = "25 mm"
tw = "10 mm"
[[member]]
mark = "B1"
section = {section}
steel = {steel}
span = "6 m"
deflection = {{ live = 360 }}
load = [{{ case = "live", line = "10 kN/m" }}]
"""
YARD = """# our yard
name,shape,d (mm),bf (mm),tw (mm),tf (mm),r (mm),A (cm2),I_major (cm4)
Y400,rolled I,400,180,8.6,13.5,21,84.5,23130
Y2,rolled I,-400,200,8.6,13.5,21,,
Y3,rolled I,400,180,8.6,13.5,21,94.5,
Y4,rolled X,400,200,8.6,13.5,21,,
Y5,rolled I,400,abc,8.6,13.5,21,,
y 400,rolled I,400,180,8.6,13.5,21,,
"""
GOOD = "\n".join(YARD.splitlines()[:3]) + "\n"


@pytest.fixture
def job(tmp_path):
    def load(section='"Y400"', steel='"S355"', keep="", yard=GOOD):
        (tmp_path / "yard.csv").write_text(yard, "utf-8")
        text = JOB.format(section=section, steel=steel, keep=keep)
        (tmp_path / "job.toml").write_text(text, "utf-8")
        return wb.load_job(tmp_path / "job.toml")

    return load


def test_sections_of_the_job_and_of_its_catalogue(job):
    own = wb.check(job())["B1"]
    assert own.member.section.I_major == 23130e4  # what is stated holds
    listed = wb.check(job('"IPE400"'))["B1"]
    for a, b in zip(own.rows, listed.rows, strict=True):
        assert a.utilisation == pytest.approx(b.utilisation, rel=0.01)
    girder = job('"pg 1"').members[0].section
    assert (girder.shape, girder.A) == ("unequal I", 250 * 20 + 300 * 25 + 755 * 10)


def test_bad_rows_are_said_with_line_and_column(job):
    with pytest.raises(wb.InputError) as error:
        job(yard=YARD)
    said = [text.partition("yard.csv: ")[2] for text in error.value.problems]
    assert [text.partition(": ")[0] for text in said] == [
        "line 4, column 3 (d (mm))", "line 5, column 8 (A (cm2))", "line 6, column 2 (shape)",
        "line 7, column 4 (bf (mm))", "line 8",
    ]  # fmt: skip
    assert "d: −400 mm (−15.75 in) is given; it is greater than zero" in said[0]
    assert "A: stated is 1.119 of what the dimensions give; allowed within 1.5%" in said[1]
    assert "the name 'y 400' stands at line 3 too" in said[4]
    keep = ", keep_good_rows = true"
    assert job(keep=keep, yard=YARD).members[0].section.name == "Y400"
    with pytest.raises(wb.InputError, match=r"'Y3' is a bad row: .*line 5, column 8"):
        job('"Y3"', keep=keep, yard=YARD)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "is empty; a catalogue has a line of headings"),
        ("name,d\nA,4", "line 1, column 2: d needs its unit, such as 'd .mm.'"),
        ("name,dd (mm)\nA,4", "unknown heading 'dd \\(mm\\)'; did you mean d"),
        ("d (mm),d (mm)\n1,2", "d stands twice"),
        ("d (mm)\n4", "no heading 'name'"),
        ("name,d (mm)\nA,4,5", "line 2: 3 values, but 2 headings"),
        ("name,d (mm)\nA,400", "line 2: bf: is missing; a rolled I has d, bf, tw, tf"),
        ("name,shape,d (kN)\nA,round bar,4", "is a force; a length is needed"),
        ("name,shape,d (mm)\n,round bar,4", "name: is missing"),
        ("name,shape,d (mm),x_bar (mm)\nA,round bar,4,1", "unknown heading"),
    ],
)
def test_catalogues_that_cannot_be_read(tmp_path, text, words):
    (tmp_path / "own.csv").write_text(text, "utf-8")
    with pytest.raises(wb.InputError, match=words):
        wb.load_catalogue(tmp_path / "own.csv")


def test_catalogues_in_toml(tmp_path):
    path = tmp_path / "own.toml"
    path.write_text(
        '[[section]]\nname = "T1"\nshape = "channel"\nd = "200 mm"\nbf = "75 mm"\ntw = "6 mm"\n'
        'tf = "12.5 mm"\nr = "12 mm"\nmass = "23.4 kg/m"\nI_minor = "170 cm4"\n'
        '[[section]]\nname = "T2"\nshape = "angle"\nd = "60 mm"\n', "utf-8",
    )  # fmt: skip
    own = wb.load_catalogue(path, keep_good=True)
    assert own.sections["T1"].I_minor == 170e4
    assert own.problems == [f"{path}: section 2 (T2): b: is missing; an angle has d, b, t"]
    path.write_text("section = 3", "utf-8")
    with pytest.raises(wb.InputError, match=r"give \[\[section\]\] tables"):
        wb.load_catalogue(path)


def test_commands_with_a_catalogue(tmp_path):
    path = tmp_path / "yard.csv"
    path.write_text(YARD, "utf-8")
    run = CliRunner().invoke
    found = run(main, ["reconcile", str(path)])
    assert found.exit_code == 2
    assert "1 shipped" in found.output
    assert "line 4, column 3" in found.output
    path.write_text(GOOD, "utf-8")
    found = run(main, ["sections", "--catalogue", str(path), "Y400", "IPE400", "--json"])
    own, listed = json.loads(found.output)
    assert own["A (in²)"] == pytest.approx(listed["A (in²)"], rel=0.002)
    built = run(main, ["sections", "W18X46 with a 180 x 15 mm plate on the bottom flange"])
    assert "monosymmetry constant, major axis" in built.output
    drawn = tmp_path / "built.svg"
    for name in ("2 L4X3X1/4 long legs back to back", "HSS6X6X1/4", "C12X20.7", "W21X62 with a "
                 "C12X20.7 cap", "ST12X60.5", "L6X4X1/2"):  # fmt: skip
        assert run(main, ["sections", name, "--to", str(drawn)]).exit_code == 0
        assert "centroid" in drawn.read_text("utf-8")


CORNERS = '[["0 mm", "0 mm"], ["90 mm", "0 mm"], ["90 mm", "10 mm"], ["0 mm", "10 mm"]]'


@pytest.mark.parametrize(
    ("section", "words"),
    [
        ('{shape = "outline", thickest = "0 mm", points = ' + CORNERS + "}", "thickest must be"),
        ('{shape = "outline", points = ' + CORNERS + "}", "section, thickest: is missing"),
        ('{shape = "outline", thickest = "9 mm", points = [["0 mm", "1 mm"]]}', "section, points"),
        ('{shape = "welded I", d = "9 mm"}', "section, bf: is missing; a welded I has d, bf"),
        ('{shape = "flat bar", d = "9 mm", b = "5 mm", tw = "1 mm"}', "section, tw: a flat bar"),
        ('{shape = "flat bar", d = "9", b = "5 mm"}', "section, d: '9' has no unit"),
        ('{shape = "flat bar", d = "9 mm", bb = "5 mm"}', "unknown key 'bb'; did you mean b"),
        ('"W16X40 with a hat"', "member 1 \\(B1\\), section: 'a hat' is no plate"),
        ("{d = 3}", "section, shape: is missing"),
    ],
)
def test_own_shapes_that_are_refused(job, section, words):
    with pytest.raises(wb.InputError, match=words):
        job(section)


def test_an_outline_in_a_job(job):
    section = '{shape = "outline", thickest = "10 mm", points = ' + CORNERS + "}"
    found = wb.check(job(section))["B1"]
    assert found.member.section.Wpl_major == pytest.approx(10 * 90**2 / 4)
    # Whether its parts buckle nobody has said; its deflection is known all the same.
    assert {row.status for row in found.rows if "deflection" not in row.name} == {"outside"}
    assert {row.status for row in found.rows if "deflection" in row.name} == {"over"}


@pytest.mark.parametrize(
    ("steel", "Fy"),
    [
        ('{Fy = "345 MPa", Fu = "450 MPa"}', 345),
        ('{name = "Mill", Fy = "50 ksi", Fu = "65 ksi"}', 344.738),
        ('{bands = [{thickness = "10 mm", Fy = "355 MPa", Fu = "470 MPa"}, '
         '{Fy = "345 MPa", Fu = "470 MPa"}]}', 345),
    ],
)  # fmt: skip
def test_own_steels(job, steel, Fy):
    assert wb.resolve(job(steel=steel).members[0]).strengths.Fy == pytest.approx(Fy)


@pytest.mark.parametrize(
    ("steel", "words"),
    [
        ('{Fy = "345 MPa"}', "give Fy and Fu, or bands"),
        ('{Fy = "500 MPa", Fu = "450 MPa"}', "steel, Fy: is greater than zero and not greater"),
        ('{Fy = "345", Fu = "450 MPa"}', "steel, Fy: '345' has no unit"),
        ('{bands = [{Fy = "3 MPa", Fu = "4 MPa"}, {Fy = "3 MPa", Fu = "4 MPa"}]}', "thin to thick"),
        ('"A53"', "A53 Gr B is a steel of round tube sections"),
        ("[1]", "give a grade such as"),
    ],
)
def test_own_steels_that_are_refused(job, steel, words):
    with pytest.raises(wb.InputError, match=words):
        job(steel=steel)


def test_a_web_of_another_steel_is_outside():
    member = wb.Member(mark="B", section="W18X50", span="6 m", web_steel="A36",
                       loads=[{"case": "live", "line": "1 kN/m"}])  # fmt: skip
    (row,) = wb.check(wb.Job(members=[member]))["B"].rows
    assert row.reason == "the strength of a hybrid rolled I is not covered"
    with pytest.raises(wb.InputError, match="a rectangular tube has no web of its own"):
        wb.resolve(wb.Member(mark="B", section="HSS6X6X1/4", span="6 m", web_steel="A36"))
