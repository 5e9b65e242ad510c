"""A section drawn to scale, with its axes, centres and dimensions."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.patches import PathPatch
from matplotlib.path import Path as Curve

from welbric.errors import InputError
from welbric.reports.figure_files import INK, titled, write_figure
from welbric.reports.figures import GOVERNING, LOAD, PALE
from welbric.sections.drawn import outlines
from welbric.sections.outline import Outline
from welbric.sections.table import DIMENSIONS, Section
from welbric.units import DisplayUnits

PLASTIC = "#3f7d4e"  # plastic axes
ONE_COLUMN = 24  # properties that stand in one column


def draw_section(ax: Axes, section: Section, show: DisplayUnits) -> Axes:
    """Draw a section to scale: outline, axes, centroid, shear centre, plastic axes, dimensions.

    Parameters
    ----------
    ax : Axes
    section : Section
    show : DisplayUnits

    Raises
    ------
    InputError
        If the section was given by its outline, whose corners it does not keep.
    """
    if section.shape == "outline":
        raise InputError(f"{section.name}: an outline of one's own is not drawn")
    s = section
    pieces = outlines(s, 16)
    for piece in pieces:
        ax.add_patch(PathPatch(_curve(piece), facecolor=PALE, edgecolor=INK, lw=1.5, zorder=2))
    corners = np.concatenate([ring for piece in pieces for ring in piece.rings])
    (left, bottom), (right, top) = corners.min(axis=0), corners.max(axis=0)
    size = max(right - left, top - bottom)
    reach = 0.62 * size
    _axes(ax, s, reach)
    _centres(ax, s, size)
    out = 0.1 * size
    aside = out if s.angle == 0 else 0.3 * size  # clear of the words at an axis that slants
    _dimension(
        ax, (left - aside, bottom), (left - aside, top), show.show(top - bottom, "dimension")
    )
    _dimension(
        ax, (left, bottom - out), (right, bottom - out), show.show(right - left, "dimension")
    )
    margin = 0.22 * size
    low = min(left - 2 * out, s.shear_x, s.x - reach) - margin
    high = max(right, s.shear_x, s.x + reach) + margin
    ax.set_xlim(low, high)
    ax.set_ylim(
        min(bottom, s.shear_y, s.y - reach) - margin, max(top, s.shear_y, s.y + reach) + margin
    )
    ax.set_aspect("equal")
    ax.axis("off")
    return ax


def _curve(piece: Outline) -> Curve:
    """Return an outline with its holes as one curve."""
    points, codes = [], []
    for ring in piece.rings:
        points += [*ring, ring[0]]
        codes += [Curve.MOVETO, *[Curve.LINETO] * (len(ring) - 1), Curve.CLOSEPOLY]
    return Curve(np.array(points), codes)


def _axes(ax: Axes, s: Section, reach: float) -> None:
    """Draw the principal axes through the centroid, and the plastic axes where they differ."""
    style: dict[str, Any] = {"color": GOVERNING, "lw": 0.9, "ls": (0, (9, 3, 2, 3)), "zorder": 3}
    words: dict[str, Any] = {"fontsize": 9, "color": GOVERNING, "zorder": 6}
    for name, angle in (("major", s.angle), ("minor", s.angle + np.pi / 2)):
        c, d = np.cos(angle), np.sin(angle)
        ax.plot([s.x - reach * c, s.x + reach * c], [s.y - reach * d, s.y + reach * d], **style)
        beyond = (s.x + 1.02 * reach * c, s.y + 1.02 * reach * d)
        where: dict[str, Any] = {
            "ha": "left" if c > 0.3 else "center",
            "va": "bottom" if d > 0.3 else "center",
        }
        ax.text(beyond[0], beyond[1], f"{name} axis", **where, **words)
    near = 0.005 * reach
    line: dict[str, Any] = {"color": PLASTIC, "lw": 1.0, "ls": (0, (4, 3)), "zorder": 3}
    note: dict[str, Any] = {"fontsize": 9, "color": PLASTIC, "zorder": 6}
    if abs(s.plastic_y - s.y) > near:
        ax.plot([s.x - reach, s.x + reach], [s.plastic_y] * 2, **line)
        ax.text(s.x - reach, s.plastic_y, "plastic axis ", ha="right", va="center", **note)
    if abs(s.plastic_x - s.x) > near:
        ax.plot([s.plastic_x] * 2, [s.y - 1.2 * reach, s.y + reach], **line)
        ax.text(s.plastic_x, s.y - 1.21 * reach, "plastic axis", ha="center", va="top", **note)


def _centres(ax: Axes, s: Section, size: float) -> None:
    ax.plot([s.x], [s.y], "o", ms=6, color=GOVERNING, zorder=5)
    apart = np.hypot(s.shear_x - s.x, s.shear_y - s.y) > 0.005 * size
    if apart:
        ax.plot([s.shear_x], [s.shear_y], "X", ms=8, color=LOAD, mec="white", zorder=5)
    arrow: dict[str, Any] = {"arrowstyle": "-", "lw": 0.7}
    box = {"facecolor": "white", "edgecolor": "none", "pad": 1, "alpha": 0.9}
    label = "centroid" if apart else "centroid and shear centre"
    # Of two parts side by side between them, above both; else within the section.
    out = (0.16, -0.12) if not s.shape.startswith("double") else (0.04, 0.5 * s.d / size + 0.05)
    marks = [(label, (s.x, s.y), out, GOVERNING)]
    if apart:
        out = (-0.16, 0.12) if s.shear_x <= s.x else (0.16, 0.12)
        marks.append(("shear centre", (s.shear_x, s.shear_y), out, LOAD))
    for text, tip, (dx, dy), colour in marks:
        place = (tip[0] + dx * size, tip[1] + dy * size)
        side: dict[str, Any] = {"ha": "left" if dx > 0 else "right", "va": "center"}
        style: dict[str, Any] = {"color": colour, "fontsize": 9, "bbox": box, "zorder": 6}
        ax.annotate(text, tip, place, arrowprops=arrow | {"color": colour}, **side, **style)


def _dimension(ax: Axes, a: tuple[float, float], b: tuple[float, float], text: str) -> None:
    ax.annotate("", a, b, arrowprops={"arrowstyle": "<|-|>", "color": LOAD, "lw": 0.9})
    upright = a[0] == b[0]
    share = 0.7 if upright else 0.3  # clear of the axes
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
        If the section cannot be drawn, the ending is none of the three, or the file cannot be
        written.
    """
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    listed = section.listed()
    columns = 1 if len(listed) <= ONE_COLUMN else 2
    left, right = figure.subplots(1, 2, width_ratios=[1.35, 1.0] if columns == 1 else [1.0, 1.1])
    titled(figure, f"{section.name}   {section.shape}")
    draw_section(left, section, show)
    right.axis("off")
    rows = -(-len(listed) // columns)
    step = min(0.046, 0.98 / rows)
    words: dict[str, Any] = {
        "fontsize": 9.5 if columns == 1 else 8.5, "color": INK, "transform": right.transAxes
    }  # fmt: skip
    for number, (name, (kind, meaning)) in enumerate(listed.items()):
        column, row = divmod(number, rows)
        start, y = column / columns, 0.98 - step * row
        right.text(start, y, f"{meaning}, {name}" if name in DIMENSIONS else meaning, **words)
        value = show.show(section.properties[name], kind)
        end = start + (0.98 if columns == 1 else 0.46)
        right.text(end, y, value, ha="right", **words)
    write_figure(figure, path)
