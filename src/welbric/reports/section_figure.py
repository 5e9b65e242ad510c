"""A section drawn to scale, with its axes and dimensions."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure

from welbric.reports.figures import GOVERNING, INK, LOAD, PALE, write_figure
from welbric.sections.outline import i_outline
from welbric.sections.table import PROPERTIES, Section
from welbric.units import DisplayUnits


def draw_section(ax: Axes, section: Section, show: DisplayUnits) -> Axes:
    """Draw a rolled I-shape to scale: outline, axes, dimensions.

    Parameters
    ----------
    ax : Axes
    section : Section
    show : DisplayUnits
    """
    s = section
    corners = i_outline(s.d, s.bf, s.tw, s.tf, s.r, 16).rings[0]
    closed = np.concatenate([corners, corners[:1]])
    ax.fill(closed[:, 0], closed[:, 1], facecolor=PALE, edgecolor=INK, lw=1.5, zorder=2)
    reach = 0.62 * max(s.d, s.bf)
    for x, y in (((-reach, reach), (0, 0)), ((0, 0), (-reach, reach))):
        ax.plot(x, y, color=GOVERNING, lw=0.9, ls=(0, (9, 3, 2, 3)), zorder=3)
    ax.plot([0], [0], "o", ms=5, color=GOVERNING, zorder=4)
    words = {"fontsize": 9, "color": GOVERNING}
    ax.text(reach, 0.01 * s.d, "major axis", ha="right", va="bottom", **words)  # type: ignore[arg-type]
    ax.text(0.01 * s.d, reach, "minor axis", ha="left", va="top", **words)  # type: ignore[arg-type]
    note = "centroid, shear centre and both\nplastic axes fall together"
    ax.text(0.04 * s.d, -0.03 * s.d, note, ha="left", va="top", **words)  # type: ignore[arg-type]
    out = 0.1 * max(s.d, s.bf)
    left, below = -s.bf / 2 - out, -s.d / 2 - out
    _dimension(ax, (left, -s.d / 2), (left, s.d / 2), f"d = {show.show(s.d, 'dimension')}")
    _dimension(ax, (-s.bf / 2, below), (s.bf / 2, below), f"bf = {show.show(s.bf, 'dimension')}")
    arrow = {"arrowstyle": "-|>", "color": LOAD, "lw": 0.9}
    for text, tip, tail in (
        (f"tf = {show.show(s.tf, 'dimension')}", (s.bf / 2, s.d / 2 - s.tf / 2), (out, 0.4 * out)),
        (f"tw = {show.show(s.tw, 'dimension')}", (s.tw / 2, s.d / 5), (1.5 * out, 0.0)),
        (
            f"r = {show.show(s.r, 'dimension')}",
            (s.tw / 2 + 0.3 * s.r, s.tf + 0.3 * s.r - s.d / 2),
            (1.5 * out, out),
        ),
    ):
        place = (tip[0] + tail[0], tip[1] + tail[1])
        ax.annotate(
            text, tip, place, arrowprops=arrow, fontsize=9, color=LOAD, va="center", zorder=5
        )
    ax.set_aspect("equal")
    ax.axis("off")
    return ax


def _dimension(ax: Axes, a: tuple[float, float], b: tuple[float, float], text: str) -> None:
    ax.annotate("", a, b, arrowprops={"arrowstyle": "<|-|>", "color": LOAD, "lw": 0.9})
    upright = a[0] == b[0]
    share = 0.7 if upright else 0.5  # clear of the axes
    ax.annotate(
        text,
        (a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])),
        xytext=(-6, 0) if upright else (0, -7),
        textcoords="offset points",
        rotation=90 if upright else 0,
        ha="right" if upright else "center",
        va="center" if upright else "top",
        fontsize=9,
        color=LOAD,
        bbox={"facecolor": "white", "edgecolor": "none", "pad": 1},
        zorder=6,
    )


def save_section(section: Section, show: DisplayUnits, path: str | Path) -> None:
    """Draw a section, with a table of its properties, into a PNG, SVG or PDF file.

    Raises
    ------
    InputError
        If the ending is none of the three, or the file cannot be written.
    """
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    left, right = figure.subplots(1, 2, width_ratios=[1.35, 1.0])
    figure.suptitle(
        f"{section.name}   {section.shape}",
        x=0.01,
        ha="left",
        fontsize=13,
        color=INK,
        weight="bold",
    )
    draw_section(left, section, show)
    right.axis("off")
    for row, (name, (kind, meaning)) in enumerate(PROPERTIES.items()):
        y = 0.96 - 0.054 * row
        right.text(0.0, y, meaning, fontsize=9.5, color=INK, transform=right.transAxes)
        value = show.show(section.properties[name], kind)
        right.text(0.98, y, value, fontsize=9.5, color=INK, ha="right", transform=right.transAxes)
    write_figure(figure, path)
