"""The documents say what is so."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

import welbric as wb
from welbric.standards import STANDARDS
from welbric.standards.scope import as_markdown, scope

DOCS = Path("docs")


@pytest.mark.parametrize(
    ("name", "page"), [("AISC 360-22", "aisc360-22.md"), ("EN 1993-1-1", "en1993-1-1.md")]
)
def test_the_standards_page_is_what_the_code_says(name, page):
    assert as_markdown(scope(name)) in (DOCS / page).read_text("utf-8")


def test_links_and_pictures_exist():
    for page in (Path("README.md"), *DOCS.glob("*.md")):
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
            assert (page.parent / target).exists(), (page, target)


@pytest.mark.parametrize("page", ["README.md", "docs/guide.md", "docs/sections.md"])
def test_code_of_the_pages(page):
    text = Path(page).read_text("utf-8")
    for code in re.findall(r"```python\n(.*?)```", text, re.S):
        exec(compile(code, page, "exec"), {})
    for toml in re.findall(r"```toml\n(welbric = 2.*?)```", text, re.S):
        assert wb.check(wb.parse_job(toml)).results


@pytest.mark.parametrize("name", STANDARDS)
def test_what_is_outside_says_why(name):
    assert all(clause.limit for clause in scope(name) if clause.status != "covered")
