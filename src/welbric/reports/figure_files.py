"""Figures made fit for what is written in them, and written into files."""

from __future__ import annotations

import io
from pathlib import Path

import matplotlib as mpl
from matplotlib.figure import Figure
from matplotlib.layout_engine import ConstrainedLayoutEngine
from matplotlib.text import Text

from welbric.documents.writing import ending_of, save_bytes
from welbric.errors import seen

FORMATS = (".png", ".svg", ".pdf")
INK = "#1f2d3a"


LINE = 0.03  # of a figure's height, that a line of its title takes
MARGIN = 0.014


def titled(figure: Figure, words: str) -> None:
    """Write a title at the top left of a figure, with a margin around it."""
    figure.text(
        0.014, 1 - MARGIN, words, va="top", ha="left", fontsize=12, color=INK, weight="bold"
    )
    top = 1 - 2 * MARGIN - LINE * (1 + words.count("\n"))
    engine = figure.get_layout_engine()
    if isinstance(engine, ConstrainedLayoutEngine):
        engine.set(rect=(0.004, 0.008, 0.99, top - 0.008))


def as_written(figure: Figure) -> Figure:
    """Return a figure whose texts stand as they were written: no mathematics, no controls."""
    for text in figure.findobj(Text):
        if isinstance(text, Text):
            text.set_parse_math(False)
            text.set_text(seen(text.get_text()))
    return figure


def as_svg(figure: Figure, as_paths: bool = True) -> str:
    """Return a figure as SVG; with its letters as paths, it needs no font."""
    buffer = io.StringIO()
    letters = "path" if as_paths else "none"
    with mpl.rc_context({"svg.fonttype": letters, "svg.hashsalt": "book"}):
        as_written(figure).savefig(buffer, format="svg", metadata={"Date": None, "Creator": None})
    return buffer.getvalue()


def write_figure(figure: Figure, path: str | Path) -> None:
    """Write a figure into a PNG, SVG or PDF file, whole or not at all.

    Raises
    ------
    InputError
        If the ending is none of the three, or the file cannot be written.
    """
    ending = ending_of(path, FORMATS)
    buffer = io.BytesIO()
    as_written(figure).savefig(buffer, format=ending[1:])
    save_bytes(path, buffer.getvalue())
