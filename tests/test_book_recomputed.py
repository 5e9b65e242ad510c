"""Every number of the book from the page alone: each printed formula with its printed numbers."""

from __future__ import annotations

import html
import io
import math
import re
from collections import Counter
from xml.etree import ElementTree

import numpy as np
import pytest
from pypdf import PdfReader

import welbric as wb
from welbric.documents.html import book as as_html
from welbric.documents.typst import as_book, as_pdf
from welbric.files.jobs import demo_text
from welbric.reports.book import book_document, head_and_foot, part_of
from welbric.units import unit_factor

DEMOS = ["saltmarsh.toml", "saltmarsh_en.toml", "saltmarsh_frame.toml", "saltmarsh_truss.toml"]
DIGITS = 4  # significant ones of a printed value
STEP = re.compile(r"<p class='step'><math displaystyle='true'>(<mtable.*?</mtable>)</math>", re.S)
NAMES = {"min": min, "max": max, "sqrt": math.sqrt, "abs": abs, "exp": math.exp, "log": math.log,
         "ln": math.log, "sin": math.sin, "cos": math.cos, "tan": math.tan, "log10": math.log10,
         "arctan": math.atan, "arccos": math.acos, "arcsin": math.asin, "pi": math.pi}  # fmt: skip
WORDS = {"least root": "least_root", "π": "pi", "−": "-", "·": "*", "×": "*", "∞": "math.inf"}


def least_root(y, z, t, y_0, z_0, i_0):
    """The least root of (N - y)(N - z)(N - t) i0^2 - N^2 (N - z) y0^2 - N^2 (N - y) z0^2."""
    along = np.polynomial.Polynomial
    each = along([-y, 1]), along([-z, 1]), along([-t, 1])
    square = along([0, 0, 1])
    whole = each[0] * each[1] * each[2] * i_0**2
    whole -= square * each[1] * y_0**2 + square * each[0] * z_0**2
    return min(root.real for root in whole.roots())


class Line:
    """A line of a formula as a Python expression of its printed values."""

    def __init__(self, cell):
        self.values = []  # with half of a unit in the last digit of each
        self.source = self.read(cell)

    def __call__(self, changed=None):
        values = [value for value, _ in self.values]
        if changed is not None:
            index, by = changed
            values[index] += by
        known = {"v": values, "math": math, "least_root": least_root}
        return eval(self.source, known | NAMES)

    def read(self, node):
        inner = [*node]
        match node.tag:
            case "mfrac":
                return f"(({self.read(inner[0])})/({self.read(inner[1])}))"
            case "msup":
                power = "".join(inner[1].itertext())  # a whole one is no printed value
                exact = power if power.isdigit() else None
                return f"(({self.read(inner[0])})**({exact or self.read(inner[1])}))"
            case "msqrt":
                return f"sqrt({''.join(self.read(one) for one in inner)})"
            case "mrow" if [one.tag for one in inner] in (["mn"], ["mn", "mspace", "mtext"]):
                return self.value(inner)
            case "mrow" if inner and inner[0].text == "|":
                return f"abs({''.join(self.read(one) for one in inner[1:-1])})"
            case "mrow" | "mtd":
                return "".join(self.read(one) for one in inner)
            case "mn":
                return node.text.replace(",", "").replace("−", "-")
        return WORDS.get(node.text.strip(), node.text.strip())

    def value(self, parts):
        """Read a printed value in the unit beside it."""
        text = parts[0].text
        for words, plain in ((",", ""), ("−", "-"), ("∞", "inf"), ("×10^", "e")):
            text = text.replace(words, plain)
        number = float(text)
        factor = unit_factor(parts[2].text)[0] if len(parts) == 3 else 1.0
        decade = math.floor(math.log10(abs(number))) if number and math.isfinite(number) else 0
        half = 0.5 * 10.0 ** (decade - DIGITS + 1) if number else 0.0
        self.values.append((number * factor, half * factor))
        return f"(v[{len(self.values) - 1}])"


def recomputed(table):
    """Return (value with the printed numbers, what their digits leave open, what is printed)."""
    rows = [row.findall("mtd")[2] for row in table.findall("mtr")]
    numbers, result = Line(rows[-2]), Line(rows[-1])
    value, printed = numbers(), result()
    if math.isinf(value):
        return value, 0.0, printed
    unsure = sum(half for _, half in result.values)
    for i, (_, half) in enumerate(numbers.values):
        found = []
        for by in (-half, half):
            try:
                found.append(abs(numbers((i, by)) - value))
            except (ValueError, ZeroDivisionError):  # beyond what the formula takes
                return value, math.inf, printed
        unsure += max(found)
    return value, 1.05 * unsure + 1e-9, printed


@pytest.fixture(scope="module", params=DEMOS)
def page(request):
    job = wb.parse_job(demo_text(request.param))
    return as_html(book_document(wb.check(job), "full"), job.name)


def test_every_formula_gives_what_is_printed_beside_it(page):
    done = 0
    for text in set(STEP.findall(page)):
        table = ElementTree.fromstring(html.unescape(text).replace("<0", "&lt;0"))
        if len(table.findall("mtr")) < 3:
            continue  # symbol and value: nothing to compute
        value, unsure, printed = recomputed(table)
        words = "".join(table.itertext())
        assert value == pytest.approx(printed, abs=unsure), words
        done += 1
    assert done > 80


def numbers_of(text):
    return Counter(re.findall(r"\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d+(?:\.\d+)?", text))


@pytest.mark.parametrize(("name", "mark"), [("saltmarsh_en.toml", "C1"), ("saltmarsh.toml", "FB2")])
def test_pdf_and_page_hold_the_same_numbers(name, mark):
    job = wb.parse_job(demo_text(name))
    document = book_document(part_of(wb.check(job), [mark]), "full")
    pdf = PdfReader(io.BytesIO(as_pdf(as_book(document, "a4", *head_and_foot(job)))))
    text = "\n".join(one.extract_text() for one in pdf.pages)
    page = re.sub(r"(?s)<style.*?</style>|<title>.*?</title>", "", as_html(document, job.name))
    # An exponent stands close to its base in the text of a PDF.
    page = re.sub(
        r"(?:</mrow>)+<mrow>(<mn>)", r"\1", re.sub(r"</mn>(</mrow>)+<mrow><mn>", "", page)
    )
    found = numbers_of(html.unescape(re.sub(r"<[^>]+>", " ", page)))
    missing = {number for number in found - numbers_of(text) if len(number) > 2}
    assert not missing
