"""The calculation book: everything of the job is in it, and nothing in a name does harm."""

from __future__ import annotations

import re
from html.parser import HTMLParser

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.documents.blocks import Chapter, Contents, Cover, Drawing, Steps, Table
from welbric.documents.html import book as as_html
from welbric.documents.typst import as_book, as_pdf
from welbric.files.jobs import demo_text
from welbric.reports.book import book_document, head_and_foot

HOSTILE = '#panic("x") <script>alert(1)</script> $x$ *b* `c` \\ " \u202egnp.exe'
DEMOS = ["saltmarsh_en.toml", "saltmarsh_frame.toml"]


@pytest.fixture(scope="module", params=DEMOS)
def job(request):
    return wb.parse_job(demo_text(request.param))


class Page(HTMLParser):
    """What an HTML page has: ids, links, tags that are open, headings."""

    def __init__(self, text):
        super().__init__()
        self.ids, self.links, self.headings, self.open, self.roles = set(), [], [], [], []
        self.feed(text)

    def handle_starttag(self, tag, attributes):
        of = dict(attributes)
        self.ids |= {of["id"]} if "id" in of else set()
        if tag == "a":
            self.links.append(of.get("href", ""))
        if re.fullmatch(r"h[1-6]", tag):
            self.headings.append(int(tag[1]))
        if tag == "th":
            assert of.get("scope") in ("col", "row")
        if tag == "figure":
            self.roles.append(of.get("aria-label"))
        assert tag != "script"


def test_every_check_of_every_member_is_in_the_full_book(job):
    document = book_document(job, "full", as_paths=False)
    table = wb.check(job)
    chapters = [one for one in document if isinstance(one, Chapter)]
    members = [one for one in chapters if one.level == 2 and one.anchor.startswith("member-")]
    assert [one.title.partition(":")[0] for one in members] == [m.mark for m in job.members]
    checks = [one for one in chapters if one.level == 3]
    assert len(checks) == sum(len(result.rows) for result in table)
    assert len([one for one in document if isinstance(one, Steps)]) == len(checks)
    figures = [one for one in document if isinstance(one, Drawing)]
    framed = any(member.frame is not None for member in job.members)
    assert len(figures) == len(job.members) + framed
    summary = next(one for one in document if isinstance(one, Table))
    assert len(summary.rows) == len(job.members)
    assert [row[2] for row in summary.rows] == [
        "–" if result.status == "outside" else f"{result.utilisation:.2f}" for result in table
    ]


def test_the_page_links_to_what_is_there(job):
    page = Page(as_html(book_document(job, "checks", as_paths=False), job.name))
    assert page.links
    assert {link.removeprefix("#") for link in page.links} <= page.ids
    assert page.headings[0] == 1
    assert all(b - a <= 1 for a, b in zip(page.headings, page.headings[1:], strict=False))
    assert all(page.roles)


def test_a_short_book_has_no_members():
    job = wb.parse_job(demo_text("saltmarsh_en.toml"))
    short = book_document(job, "summary")
    assert not any(isinstance(one, Drawing | Steps) for one in short)
    one = book_document(job, "checks", ("C1",), as_paths=False)
    assert sum(isinstance(block, Drawing) for block in one) == 1


def test_the_cover_says_what_the_job_does():
    text = demo_text("saltmarsh_en.toml").replace(
        "[design]",
        '[book]\nauthor = "R."\nrevision = "B"\nmore = { Gate = "4" }\n[design]',
        1,
    )
    job = wb.parse_job(text)
    cover = next(one for one in book_document(job, "summary") if isinstance(one, Cover))
    assert ("Author", "R.") in cover.pairs
    assert ("Gate", "4") in cover.pairs
    assert "revision B" in head_and_foot(job)[1]
    assert any(isinstance(one, Contents) for one in book_document(job, "summary"))


def test_names_do_no_harm():
    load = [{"case": "live", "line": "5 kN/m"}]
    beam = wb.Member(mark="B <&> $#", section="IPE300", span="5 m", load=load, note=HOSTILE,
                     steel="S355")  # fmt: skip
    job = wb.Job(name=HOSTILE, description=HOSTILE, book={"author": HOSTILE}, members=[beam])
    document = book_document(job, "full", as_paths=False)
    page = as_html(document, job.name)
    Page(page)
    assert "<script" not in page
    assert "\u202e" not in page
    pdf = as_pdf(as_book(document, "a4", *head_and_foot(job)))
    assert pdf.startswith(b"%PDF")


@pytest.mark.parametrize("ending", [".pdf", ".html", ".typ"])
def test_the_command_writes_it(tmp_path, ending):
    path, to = tmp_path / "job.toml", tmp_path / f"book{ending}"
    path.write_text(demo_text("saltmarsh_en.toml"), encoding="utf-8")
    run = CliRunner().invoke
    found = run(main, ["book", str(path), "FB1", "--to", str(to), "--depth", "full"])
    assert found.exit_code == 0, found.output
    assert to.stat().st_size > 10_000
    assert run(main, ["book", str(path), "--to", str(tmp_path / "book.doc")]).exit_code == 2
    assert "no member 'X9'" in run(main, ["book", str(path), "X9", "--to", str(to)]).output
