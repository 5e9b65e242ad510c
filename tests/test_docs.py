"""The documents say what is so."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

import welbric as wb
from welbric.standards.aisc360.symbols import GLOSSARY

DOCS = Path("docs")


def test_every_clause_of_the_code_is_in_the_standards_page():
    page = (DOCS / "aisc360-22.md").read_text("utf-8")
    ranges = re.findall(r"([A-Z]\d?(?:-8)?-)(\d+) to \1(\d+)", page)
    listed = page + " ".join(f"{a}{n}" for a, i, j in ranges for n in range(int(i), int(j) + 1))
    for formula in GLOSSARY.formulas:
        clause = re.sub(r"(\([^)]*\))+$|[ab]$", "", formula.clause).removeprefix("Table ")
        assert clause in listed, formula


def test_links_and_pictures_exist():
    for page in (Path("README.md"), *DOCS.glob("*.md")):
        for target in re.findall(r"\]\(([^)#]+)\)", page.read_text("utf-8")):
            assert (page.parent / target).exists(), (page, target)


@pytest.mark.parametrize("page", ["README.md", "docs/guide.md", "docs/sections.md"])
def test_code_of_the_pages(page):
    text = Path(page).read_text("utf-8")
    for code in re.findall(r"```python\n(.*?)```", text, re.S):
        exec(compile(code, page, "exec"), {})
    for toml in re.findall(r"```toml\n(welbric = 1.*?)```", text, re.S):
        assert wb.check(wb.parse_job(toml)).results
