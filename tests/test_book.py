"""The calculation book: everything of the job is in it, and nothing in a name does harm."""

from __future__ import annotations

import base64
import csv
import html
import io
import json
import re
from html.parser import HTMLParser

import jsonschema
import openpyxl
import pytest
from click.testing import CliRunner
from PIL import Image

import welbric as wb
from welbric.cli import main
from welbric.documents.blocks import (
    Abreast,
    Chapter,
    Contents,
    Cover,
    Drawing,
    Paragraph,
    Steps,
    Table,
)
from welbric.documents.html import book as as_html
from welbric.documents.typst import as_book, as_pdf
from welbric.documents.workbook import workbook
from welbric.files.jobs import demo_text
from welbric.reports.book import Beside, book_document, head_and_foot, part_of
from welbric.reports.book_sheets import book_data, book_sheets
from welbric.working import Given, Step

HOSTILE = '#panic("x") <script>alert(1)</script> $x$ *b* `c` \\ " \u202egnp.exe'
DEMOS = ["saltmarsh_en.toml", "saltmarsh_frame.toml"]


RUN = CliRunner().invoke


@pytest.fixture(scope="module", params=DEMOS)
def table(request):
    return wb.check(wb.parse_job(demo_text(request.param)))


@pytest.fixture(scope="module")
def full(table):
    return book_document(table, "full", as_paths=False)


class Page(HTMLParser):
    """What an HTML page has: ids, links, tags that are open, headings."""

    def __init__(self, text):
        super().__init__()
        self.ids, self.links, self.headings, self.open, self.roles = set(), [], [], [], []
        self.counted, self.language = 0, None
        self.feed(text)

    def handle_starttag(self, tag, attributes):
        of = dict(attributes)
        self.ids |= {of["id"]} if "id" in of else set()
        self.counted += "id" in of
        self.language = of.get("lang", self.language)
        if tag == "a":
            self.links.append(of.get("href", ""))
        if re.fullmatch(r"h[1-6]", tag):
            self.headings.append(int(tag[1]))
        if tag == "th":
            assert of.get("scope") in ("col", "row")
        if tag == "figure":
            self.roles.append(of.get("aria-label"))
        assert tag != "script"


def test_every_check_of_every_member_is_in_the_full_book(table, full):
    job = table.job
    chapters = [one for one in full if isinstance(one, Chapter)]
    members = [one for one in chapters if one.level == 2 and one.anchor.startswith("member-")]
    assert [one.title.partition(":")[0] for one in members] == [m.mark for m in job.members]
    checks = [one for one in chapters if one.level == 3]
    assert len(checks) == sum(len(result.rows) for result in table)
    assert len([one for one in full if isinstance(one, Steps)]) == len(checks)
    figures = [one for one in full if isinstance(one, Drawing)]
    framed = any(member.frame is not None for member in job.members)
    assert len(figures) == len(job.members) + framed
    assert max(len(one.svg) for one in figures[framed:]) < 30_000
    summary = next(one for one in full if isinstance(one, Table))
    assert len(summary.rows) == len(job.members)
    assert [row[2] for row in summary.rows] == [
        "–" if result.status == "outside" else f"{result.utilisation:.2f}" for result in table
    ]
    words = as_html(full, job.name)
    acting = {one.name for result in table for one in result.forces.combinations}
    missing = {name for name in acting if html.escape(name) not in words}
    assert not missing
    sections = {one.name for result in table for one in result.member.sections}
    beside = [one.left for one in full if isinstance(one, Abreast)]
    drawn = {one.words.removesuffix(", to scale") for one in beside if isinstance(one, Drawing)}
    assert sections == drawn


def test_the_page_can_be_read_without_seeing_it(table, full):
    page = Page(as_html(full, table.job.name))
    assert page.links
    assert {link.removeprefix("#") for link in page.links} <= page.ids
    assert len(page.ids) == page.counted
    assert page.headings[0] == 1
    assert page.headings.count(1) == 1
    assert all(b - a <= 1 for a, b in zip(page.headings, page.headings[1:], strict=False))
    assert all(page.roles)
    assert page.language == "en"


def test_what_was_found_above_leads_there(table, full):
    """Every value of a formula stands in its own check, or the check that it is of is linked."""
    anchors = {one.anchor for one in full if isinstance(one, Chapter)}
    checks, linked, own = {}, set(), ""
    for one in full:
        if isinstance(one, Chapter):
            own, linked = one.anchor, set()
        if isinstance(one, Paragraph):
            linked |= {word.link for word in one.words if word.link}
        if isinstance(one, Steps):
            here = {(e.formula.symbol, float(e.result)) for e in one.entries
                    if isinstance(e, Step) and e.formula.symbol}  # fmt: skip
            here |= {(e.symbol, e.value) for e in one.entries if isinstance(e, Given)}
            member = own.rpartition("-c")[0]
            for entry in one.entries:
                for item in entry.arguments.items() if isinstance(entry, Step) else ():
                    origin = checks.get((member, *item))
                    assert item in here or origin is None or origin in linked
            for item in here:
                checks.setdefault((member, *item), own)
            assert linked <= anchors
            links = set(one.links.values())
            assert links <= {a for s in full if isinstance(s, Steps) for a in s.anchors.values()}
    assert any(isinstance(one, Paragraph) and one.words[0].text.startswith("From above")
               for one in full)  # fmt: skip


def test_a_short_book_has_no_members(table):
    short = book_document(table, "summary", as_paths=False)
    assert not any(isinstance(one, Steps | Abreast) for one in short)
    assert all(not link for one in short if isinstance(one, Table) for row in one.rows
               for cell in row for link in [getattr(cell, "link", "")])  # fmt: skip


def test_a_part_of_a_job():
    text = demo_text("saltmarsh.toml")
    table = wb.check(wb.parse_job(text))
    groups = {m.choose.group for m in table.job.members if m.choose and m.choose.group}
    name = min(groups)
    part = part_of(table, ["FB2"], name.upper())
    marks = [one.member.mark for one in part]
    assert len(marks) > 1
    document = book_document(part, "checks")
    cover = next(one for one in document if isinstance(one, Cover))
    assert ("Members", f"{len(marks)} of {len(table)}") in cover.pairs
    with pytest.raises(wb.InputError, match="no group 'x'; the job has"):
        part_of(table, [], "x")


def test_the_cover_says_what_the_job_does():
    text = demo_text("saltmarsh_en.toml").replace(
        "[design]",
        '[book]\nauthor = "R."\nrevision = "B"\nmore = { Gate = "4" }\n[design]',
        1,
    )
    text = text.replace('annex = "recommended"', 'annex = "UK"')
    table = wb.check(wb.parse_job(text))
    document = book_document(table, "summary")
    cover = next(one for one in document if isinstance(one, Cover))
    assert ("Author", "R.") in cover.pairs
    assert ("Gate", "4") in cover.pairs
    assert "UK" in head_and_foot(table.job)[1]
    assert "revision B" in head_and_foot(table.job)[1]
    assert any(isinstance(one, Contents) for one in document)


def a_beam(**more):
    load = [{"case": "live", "line": "5 kN/m"}]
    usual = {"mark": "B1", "section": "IPE300", "span": "5 m", "load": load, "steel": "S355"}
    return wb.Member(**usual | more)


def test_names_do_no_harm():
    beam = a_beam(mark="=B <&> $#", note=HOSTILE)
    job = wb.Job(name=HOSTILE, description=HOSTILE, book={"author": HOSTILE}, members=[beam])
    table = wb.check(job)
    beside = Beside(stale=(HOSTILE,), against=HOSTILE, since=HOSTILE)
    document = book_document(table, "full", beside, as_paths=False)
    page = as_html(document, job.name, beside.warning())
    Page(page)
    assert "<script" not in page
    assert "\u202e" not in page
    source = as_book(document, "a4", *head_and_foot(job), beside.warning())
    assert as_pdf(source).startswith(b"%PDF")
    book = openpyxl.load_workbook(io.BytesIO(workbook(book_sheets(table), job.name)))
    cells = [cell for sheet in book for row in sheet.iter_rows() for cell in row]
    assert all(cell.data_type != "f" for cell in cells)
    assert any(cell.value == "=B <&> $#" for cell in cells)


def test_a_long_name_stays_on_the_page():
    beam = a_beam(mark="M" * 40, note="n" * 200)
    table = wb.check(wb.Job(name="J" * 200, members=[beam]))
    assert as_pdf(as_book(book_document(table), "a4", *head_and_foot(table.job)))


@pytest.mark.parametrize("ending", [".pdf", ".html", ".typ", ".xlsx", ".json", ""])
def test_the_command_writes_it(tmp_path, ending):
    path, to = tmp_path / "job.toml", tmp_path / f"book{ending}"
    path.write_text(demo_text("saltmarsh_en.toml"), encoding="utf-8")
    found = RUN(main, ["book", str(path), "FB1", "--to", str(to), "--depth", "full"])
    assert found.exit_code == 0, found.output
    if ending:
        assert to.stat().st_size > 10_000
    else:
        files = {one.name for one in to.iterdir()}
        assert {"summary.csv", "checks.csv", "take-off.csv", "inputs.csv"} <= files
        again = RUN(main, ["book", str(path), "--to", str(to)])
        assert again.exit_code == 2
        assert "is there already" in again.output
    assert RUN(main, ["book", str(path), "--to", str(tmp_path / "book.doc")]).exit_code == 2
    assert "no member 'X9'" in RUN(main, ["book", str(path), "X9", "--to", str(to)]).output


def test_sheets_hold_numbers_under_heads_with_units(table):
    sheets = {one.title: one.rows for one in book_sheets(table)}
    checks = [row for result in table for row in result.rows]
    assert len(sheets["checks"]) == len(checks)
    assert {row["mark"] for row in sheets["summary"]} == {m.mark for m in table.job.members}
    show = table.job.display
    for row, one in zip(sheets["deflections"], [r for r in checks if r.kind == "dimension"],
                        strict=True):  # fmt: skip
        of = show.labels["dimension"]
        ratio = row[f"deflection ({of})"] / row[f"limit ({of})"]
        assert ratio == pytest.approx(one.utilisation)
    mass = f"mass ({show.labels['mass']})"
    by_member = sum(row[mass] for row in sheets["members"])
    assert by_member == pytest.approx(sum(row[mass] for row in sheets["take-off"]), rel=1e-9)
    for rows in sheets.values():
        assert rows
        assert not any(key.endswith("_unit") for row in rows for key in row)


def test_a_workbook_is_read_as_it_was_written(table):
    sheets = book_sheets(table)
    book = openpyxl.load_workbook(io.BytesIO(workbook(sheets, "x & y")))
    assert book.sheetnames == [one.title for one in sheets]
    for one in sheets:
        page = book[one.title]
        first, *rows = page.iter_rows(values_only=True)
        assert list(first) == one.heads()
        assert len(rows) == len(one.rows)
        assert page.freeze_panes == "B2"
        assert page.auto_filter.ref
        for written, given in zip(rows, one.rows, strict=True):
            for head, value in zip(first, written, strict=True):
                if isinstance(given.get(head), float):
                    assert value == pytest.approx(given[head])


def test_csv_of_a_sheet_is_the_sheet(table, tmp_path):
    path, to = tmp_path / "job.toml", tmp_path / "sheets"
    path.write_text(demo_text("saltmarsh_en.toml"), encoding="utf-8")
    RUN(main, ["book", str(path), "--to", str(to)])
    text = (to / "summary.csv").read_text(encoding="utf-8-sig")
    rows = [*csv.DictReader(io.StringIO(text))]
    assert [row["mark"] for row in rows] == [m.mark for m in wb.load_job(path).members]


@pytest.mark.parametrize("depth", ["checks", "full"])
def test_results_as_json_are_as_their_schema_says(table, depth):
    schema = json.loads(RUN(main, ["schema", "--of", "results"]).output)
    jsonschema.Draft202012Validator.check_schema(schema)
    data = json.loads(json.dumps(book_data(table, depth), allow_nan=False))
    jsonschema.validate(data, schema)
    assert ("workings" in data) == (depth == "full")
    assert len(data["members"]) == len(table)
    # What is not described there is not written either.
    known = schema["properties"].keys(), schema["$defs"]["MemberOfResults"]["properties"].keys()
    assert data.keys() <= known[0]
    assert data["members"][0].keys() <= known[1]


SVG = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'>{}</svg>"


def picture(kind):
    buffer = io.BytesIO()
    Image.new("RGB", (30, 20), "red").save(buffer, kind)
    return buffer.getvalue()


@pytest.mark.parametrize(
    ("name", "content", "problem"),
    [
        ("logo.png", picture("PNG"), None),
        ("logo.jpg", picture("JPEG"), None),
        ("logo.svg", SVG.format("<rect width='9' height='9'/>").encode(), None),
        ("logo.svg", SVG.format("<script>alert(1)</script>").encode(), None),
        ("logo.svg", b"<!DOCTYPE svg [<!ENTITY a 'b'>]><svg/>", "document type"),
        ("logo.svg", b"<p/>", "is no SVG"),
        ("logo.svg", b"\xff\xfe", "is no SVG"),
        ("logo.png", picture("JPEG"), "is a JPEG"),
        ("logo.png", b"none", "cannot be read as a picture"),
        ("logo.gif", b"GIF89a", "is no picture that is read"),
        ("logo.png", None, "there is no such file"),
    ],
)
def test_a_logo(tmp_path, name, content, problem):
    path = tmp_path / "job.toml"
    text = demo_text("saltmarsh_en.toml")
    path.write_text(f'{text}\n[book]\nlogo = "{name}"\n', encoding="utf-8")
    if content is not None:
        (tmp_path / name).write_bytes(content)
    for ending in (".html", ".pdf"):
        to = tmp_path / f"book{ending}"
        found = RUN(main, ["book", str(path), "--to", str(to), "--depth", "summary"])
        if problem is not None:
            assert found.exit_code == 2
            assert "book, logo: " in found.output
            assert problem in found.output
            assert not to.exists()
        else:
            assert found.exit_code == 0, found.output
    if problem is None:
        page = (tmp_path / "book.html").read_text(encoding="utf-8")
        assert base64.b64encode(content).decode() in page
        assert "<script" not in page
