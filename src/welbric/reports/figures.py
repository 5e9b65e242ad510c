"""One figure of a member: how it is held and loaded, and its diagrams.

Every function that draws takes a Matplotlib ``Axes`` and returns it; `draw` makes the whole
figure. Colours can be told apart by colour-blind readers, and no line is told by colour alone.
"""

from __future__ import annotations

import textwrap
from pathlib import Path
from typing import Any

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.patches import Polygon

from welbric.checking.results import MemberResult
from welbric.checking.shown import ratio
from welbric.checking.table import CheckTable
from welbric.members.design_member import DesignMember
from welbric.members.segments import continuous_lengths, held_places
from welbric.reports.captions import end_words, load_words, restraint_words
from welbric.reports.diagrams import extremes, panels_of
from welbric.reports.figure_files import INK, as_written, titled, write_figure
from welbric.units import DisplayUnits, digits

PALE = "#c9d6d3"  # envelope
GOVERNING = "#8a3b12"  # dark rust, solid line
LOAD = "#2f6690"
HOLD = "#b07a00"
MOST_PANELS = 4  # in a figure of the usual height
PANEL = 1.25  # in, that each more takes


def draw(table: CheckTable, mark: str, under: str | None = None) -> Figure:
    """Return the figure of a member.

    Parameters
    ----------
    table : CheckTable
    mark : str
    under : str, optional
        A combination, drawn in place of the governing one; or a load case, drawn alone.

    Raises
    ------
    InputError
        If there is no such member, combination or case.
    """
    result = table[mark]
    job, member = table.job, result.member
    panels = panels_of(job, result, under)
    sketch = 1.6 + 0.22 * _load_rows(member)
    heights = [sketch, *(1.0 for _ in panels)]
    high = 8.0 + PANEL * max(len(panels) - MOST_PANELS, 0)
    figure = Figure(figsize=(12.8, high), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    axes = figure.subplots(len(heights), 1, sharex=True, gridspec_kw={"height_ratios": heights})
    axes = np.atleast_1d(axes)
    row = result.governing
    words = f"{member.mark}   {member.said.role}, {member.section_names}, {member.steel}"
    if row is not None:
        words += "\n" if len(words) > 60 else "   ·   "
        words += f"utilisation {ratio(row.utilisation)} in {row.name} ({row.clause})"
        words += f", {row.combination}" if row.combination else ""
    titled(figure, words)
    draw_member(axes[0], result, job.display)
    for ax, panel in zip(axes[1:], panels, strict=True):
        draw_panel(ax, member, job.display, **panel)
    axes[-1].set_xlabel(f"along the member, {job.display.labels['length']}", color=INK)
    return as_written(figure)


def save(table: CheckTable, mark: str, path: str | Path, under: str | None = None) -> None:
    """Draw a member into a PNG, SVG or PDF file, whole or not at all; ``under`` as `draw` has it.

    Raises
    ------
    InputError
        If the ending is none of the three, or the file cannot be written.
    """
    write_figure(draw(table, mark, under), path)


def draw_panel(
    ax: Axes,
    member: DesignMember,
    show: DisplayUnits,
    *,
    title: str,
    kind: str,
    x: Any,
    values: Any,
    governing: int,
    name: str,
) -> Axes:
    """Draw one diagram: the envelope of all combinations and the governing one.

    Parameters
    ----------
    ax : Axes
    x : array, shape (X,), mm
    values : array, shape (C, X), internal units
    governing : int
        The combination drawn as a line.
    """
    places = x / show.factor("length")
    shown = values / show.factor(kind)
    high, low = np.maximum(shown.max(axis=0), 0), np.minimum(shown.min(axis=0), 0)
    ax.fill_between(places, low, high, color=PALE, lw=0, zorder=1)
    line = shown[governing]
    ax.plot(places, line, color=GOVERNING, lw=1.8, zorder=3)
    ax.axhline(0, color=INK, lw=0.8, zorder=2)
    span = max(high.max() - low.min(), 1e-12)
    ax.set_ylim(low.min() - 0.42 * span, high.max() + 0.42 * span)
    downward = kind == "dimension"
    if downward:
        ax.invert_yaxis()
    of_line = extremes(line, span)
    # The envelope's extremes, where they are larger than the line's.
    beyond = [
        (edge, int(edge.argmax() if sign > 0 else edge.argmin()))
        for edge, sign in ((high, 1.0), (low, -1.0))
        if sign * (edge.max() if sign > 0 else edge.min()) > 0.02 * span
        and (sign * (edge - line[np.argmax(sign * line)])).max() > 0.02 * span
    ]
    for edge, index in beyond:
        _label(ax, show, kind, places[index], edge[index], places[-1], INK, downward)
    for index in of_line:
        # Where the envelope's label would stand on it, the line's stands on its other side.
        inside = any(
            abs(places[index] - places[other]) < 0.16 * places[-1]
            and abs(edge[other] - line[index]) < 0.25 * span
            and edge[other] * line[index] > 0
            for edge, other in beyond
        )
        _label(ax, show, kind, places[index], line[index], places[-1], GOVERNING, downward, inside)
    unit = show.labels[kind]
    ax.set_ylabel(f"{title}\n{unit}", color=INK, fontsize=9)
    words = f"line: {name}" + ("   ·   band: every combination" if len(values) > 1 else "")
    ax.set_title(words, loc="right", fontsize=8, color=INK, pad=2)
    quiet(ax)
    return ax


def _label(
    ax: Axes,
    show: DisplayUnits,
    kind: str,
    at: float,
    value: float,
    length: float,
    colour: str,
    downward: bool,
    inside: bool = False,
) -> None:
    """Mark a place of a diagram with its value and where it is, outside of the line or inside."""
    up = ((value >= 0) != downward) != inside
    share = at / length
    ax.plot([at], [value], "o", ms=4, color=colour, zorder=4)
    ax.annotate(
        f"{digits(value, 3)} {show.labels[kind]} at {digits(at, 3)} {show.labels['length']}",
        (at, value),
        xytext=(0, 5 if up else -5),
        textcoords="offset points",
        ha="left" if share < 0.08 else "right" if share > 0.92 else "center",
        va="bottom" if up else "top",
        fontsize=9,
        color=colour,
        zorder=5,
    )


def quiet(ax: Axes) -> None:
    """Leave of the axes what a diagram needs."""
    for side in ("top", "right", "bottom"):
        ax.spines[side].set_visible(False)
    ax.spines["left"].set_color(PALE)
    ax.tick_params(colors=INK, labelsize=8, length=3)
    ax.grid(axis="x", color="#e6ecea", lw=0.8)
    ax.set_axisbelow(True)


def _load_rows(member: DesignMember) -> int:
    """Return how many rows of line loads stand above the member."""
    return sum(load.line is not None or load.area is not None for load in member.said.loads)


def draw_member(ax: Axes, result: MemberResult, show: DisplayUnits) -> Axes:
    """Draw a member with its supports, its loads, and what holds each flange."""
    member = result.member
    unit = show.factor("length")
    L = member.length / unit
    depth, step = 1.0, 1.15  # of the sketch; not to scale
    for y in (0.0, depth):
        ax.plot([0, L], [y, y], color=INK, lw=2.2, zorder=3)
    ax.fill_between([0, L], 0, depth, color="#eef2f1", zorder=1)
    _draw_restraints(ax, member, unit, depth)
    for x, end, inward in zip((0.0, L), member.ends_about("major"), (1, -1), strict=True):
        _draw_support(ax, x, end_words(member, x, end), end, inward, L)
    for support in member.supports_about("major")[1:-1]:
        kind = "pinned" if support.held else "spring"
        words = "fixed" if support.clamped else "" if support.held else "spring"
        _draw_support(ax, support.at / unit, words, kind, 1, L)
    hinges = [x / unit for x in member.said.hinges]
    ax.plot(hinges, [0.5] * len(hinges), "o", ms=9, mfc="white", mec=INK, mew=1.6, zorder=6)
    top = depth + 0.8
    for load in member.said.loads:
        top = _draw_load(ax, load, member, show, top, step, L)
    ax.set_ylim(-2.3, top + 0.4)
    ax.set_xlim(-0.06 * L, 1.06 * L)
    ax.set_yticks([])
    for side in ("top", "right", "left", "bottom"):
        ax.spines[side].set_visible(False)
    ax.tick_params(axis="x", length=0)
    held = "; ".join(restraint_words(member, show))
    weight = "own weight included" if member.said.self_weight else "own weight not included"
    if member.said.forces:
        weight = "forces combined elsewhere"
    caption = "\n".join(textwrap.wrap(f"{held}; {weight}", 150))
    ax.text(0.5 * L, -2.2, caption, fontsize=8.5, color=INK, ha="center", va="bottom")
    return ax


def _draw_restraints(ax: Axes, member: DesignMember, unit: float, depth: float) -> None:
    for flange, y in (("top", depth), ("bottom", 0.0)):
        hold = getattr(member.said.restraint, flange)
        whole = continuous_lengths(member, flange)
        for start, end in whole:
            ax.plot([start / unit, end / unit], [y, y], color=HOLD, lw=6, alpha=0.55, zorder=2)
        if whole and hold.kind == "continuous":
            continue
        places = [x / unit for x in held_places(member, flange)]
        ax.plot(places, [y] * len(places), "D", color=HOLD, ms=6, mec=INK, mew=0.7, zorder=5)


def _draw_support(ax: Axes, x: float, words: str, end: str, inward: int, L: float) -> None:
    w = 0.013 * L
    if end == "pinned":
        corners = [(x, 0.0), (x - w, -0.75), (x + w, -0.75)]
        ax.add_patch(Polygon(corners, closed=True, fc="white", ec=INK, lw=1.4, zorder=4))
    elif end == "spring":
        zigzag = np.array([0, 0, 1, -1, 1, -1, 0, 0]) * 0.6 * w
        ax.plot(x + zigzag, np.linspace(0.0, -0.9, 8), color=INK, lw=1.2, zorder=4)
    elif end in {"fixed", "guided"}:
        ax.plot([x, x], [-0.6, 1.5], color=INK, lw=3, zorder=4)
        for y in np.linspace(-0.4, 1.4, 6):
            ax.plot([x, x - inward * 0.7 * w], [y, y - 0.25], color=INK, lw=0.9, zorder=4)
        if end == "guided":
            ax.plot([x + inward * 0.3 * w] * 2, [-0.6, 1.5], color=INK, lw=1, ls=":", zorder=4)
    ax.text(x, -0.95, words, ha="center", va="top", fontsize=8, color=INK)


def _draw_load(
    ax: Axes,
    load: Any,
    member: DesignMember,
    show: DisplayUnits,
    top: float,
    step: float,
    L: float,
) -> float:
    """Draw one load above what is drawn already; return the new top."""
    unit = show.factor("length")
    words = load_words(load, show)
    style: dict[str, Any] = {"color": LOAD, "lw": 1.2}
    text: dict[str, Any] = {"fontsize": 8.5, "color": LOAD, "va": "center"}
    if load.line is not None or load.area is not None:
        start = (load.start or 0.0) / unit
        end = (member.length if load.end is None else load.end) / unit
        values = [load.line[0], load.line[-1]] if load.line else [load.area * load.spacing] * 2
        scale = max(abs(v) for v in values) or 1.0
        heights = [0.08 + 0.72 * abs(v) / scale for v in values]
        ax.fill(
            [start, end, end, start],
            [top, top, top + heights[1], top + heights[0]],
            fc="#dbe7f0",
            ec=LOAD,
            lw=1,
            zorder=2,
        )
        for x, height in zip(
            np.linspace(start, end, 13), np.linspace(heights[0], heights[1], 13), strict=True
        ):
            tail, tip = (top + height, top) if values[0] + values[1] >= 0 else (top, top + height)
            ax.annotate(
                "", (x, tip), (x, tail), arrowprops={"arrowstyle": "-|>", "color": LOAD, "lw": 0.6}
            )
        ax.text(
            *(0.5 * (start + end), top + 0.5 * sum(heights) / 2 + 0.05, words),
            ha="center",
            bbox={"facecolor": "white", "edgecolor": "none", "alpha": 0.85, "pad": 1},
            zorder=6,
            **text,
        )
        return top + step
    if load.point is not None:
        for at in load.at:
            x = at / unit
            ends = (top, top + 0.85) if load.point >= 0 else (top + 0.85, top)
            ax.annotate("", (x, ends[0]), (x, ends[1]), arrowprops={"arrowstyle": "-|>", **style})
        right = load.at[0] / unit < 0.85 * L
        ax.text(
            load.at[0] / unit + (0.008 if right else -0.008) * L,
            top + 0.6,
            words,
            ha="left" if right else "right",
            **text,
        )
        return top + step
    if load.compression is not None or load.tension is not None:
        pulls = load.tension is not None
        for at in load.at or [0.0 if member.held_lengthwise == [member.length] else member.length]:
            x = at / unit
            tail, tip = (x + 0.005 * L, x + 0.05 * L)
            ends = (tip, tail) if pulls else (tail, tip)
            ax.annotate(
                "", (ends[0], top), (ends[1], top), arrowprops={"arrowstyle": "-|>", **style}
            )
            if load.eccentricity:  # the arm, from the axis of the member
                ax.plot([x, x], [0.5, top], ":", color=LOAD, lw=1.2, zorder=4)
                ax.plot([x], [0.5], "o", ms=5, color=LOAD, zorder=4)
        first = min(load.at) / unit if load.at else L
        beside = (first + 0.06 * L, "left") if first < 0.6 * L else (L * 0.995, "right")
        ax.text(beside[0], top, words, ha=beside[1], **text)
        return top + 0.65 * step
    if load.moment is not None:
        for at in load.at:
            ax.text(at / unit, top + 0.3, "↻" if load.moment > 0 else "↺", fontsize=14, color=LOAD,
                    ha="center", va="center")  # fmt: skip
        ax.text(load.at[0] / unit + 0.015 * L, top + 0.3, words, ha="left", **text)
        return top + 0.8 * step
    start = load.start or 0.0
    end = member.length if load.end is None else load.end
    places = load.at or [0.5 * (start + end)]
    ax.text(places[0] / unit, top, words, ha="center", **text)
    return top + 0.65 * step
