"""Figures made fit for what is written in them, and written into files."""

from __future__ import annotations

import io
from pathlib import Path

from matplotlib.figure import Figure
from matplotlib.text import Text

from welbric.errors import seen
from welbric.files.writing import ending_of, save_bytes

FORMATS = (".png", ".svg", ".pdf")


def as_written(figure: Figure) -> Figure:
    """Return a figure whose texts stand as they were written: no mathematics, no controls."""
    for text in figure.findobj(Text):
        if isinstance(text, Text):
            text.set_parse_math(False)
            text.set_text(seen(text.get_text()))
    return figure


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
