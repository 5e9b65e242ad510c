"""The segments of a member under its moment, and the mode in which it buckles laterally."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure

from welbric.checking.check import check_member
from welbric.effects.critical_load import CriticalLoad
from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.members.design_member import DesignMember
from welbric.reports.figure_files import INK, titled, write_figure
from welbric.reports.figures import GOVERNING, LOAD, draw_member, quiet
from welbric.units import DisplayUnits, digits

SHADES = ("#dbe7e4", "#eef4f2")


def draw_segments(
    ax: Axes,
    critical: CriticalLoad,
    x: np.ndarray,
    moment: np.ndarray,
    show: DisplayUnits,
    symbol: str,
) -> Axes:
    """Draw the moment under a combination over the segments of the flange it compresses.

    Parameters
    ----------
    ax : Axes
    critical : CriticalLoad
    x : array, shape (X,), mm
    moment : array, shape (X,), N mm
    show : DisplayUnits
    symbol : str
        Of the standard's moment-shape factor.
    """
    unit, size = show.factor("length"), show.factor("moment")
    ax.plot(x / unit, moment / size, color=GOVERNING, lw=1.8, zorder=3)
    ax.axhline(0, color=INK, lw=0.8, zorder=2)
    high, low = max(0.0, moment.max() / size), min(0.0, moment.min() / size)
    span = max(high - low, 1e-12)
    ax.set_ylim(low - 0.45 * span, high + 0.45 * span)
    for number, part in enumerate(p for p in critical.segments if np.isfinite(p.moment_shape)):
        s = part.segment
        above = s.flange != "bottom"
        edge = (high + 0.4 * span, 0.0) if above else (0.0, low - 0.4 * span)
        ax.fill_between(
            [s.start / unit, s.end / unit], *edge, color=SHADES[number % 2], lw=0, zorder=1
        )
        if not critical.tells(part):
            continue
        words = f"{symbol} {part.moment_shape:.2f}"
        middle = 0.5 * (s.start + s.end) / unit
        place = high + 0.28 * span if above else low - 0.28 * span
        ax.text(middle, place, words, ha="center", va="center", fontsize=8.5, color=LOAD, zorder=4)
    ax.set_ylabel(f"moment\n{show.labels['moment']}", color=INK, fontsize=9)
    quiet(ax)
    return ax


def draw_mode(ax: Axes, critical: CriticalLoad, show: DisplayUnits) -> Axes:
    """Draw the mode: lateral movement and twist, each to its own scale."""
    x = critical.x / show.factor("length")
    for values, style, colour, words in (
        (critical.u, "-", GOVERNING, "lateral movement"), (critical.twist, "--", LOAD, "twist")
    ):  # fmt: skip
        most = np.abs(values).max()
        if most > 0:
            ax.plot(x, values / most, style, color=colour, lw=1.8, zorder=3)
            peak = int(np.abs(values).argmax())
            up = values[peak] > 0
            ax.annotate(
                words, (x[peak], values[peak] / most), (0, 6 if up else -6),
                textcoords="offset points", ha="center", va="bottom" if up else "top",
                color=colour, fontsize=9, zorder=4,
            )  # fmt: skip
    ax.axhline(0, color=INK, lw=0.8, zorder=2)
    ax.set_ylim(-1.5, 1.5)
    ax.set_yticks([])
    ax.set_ylabel("mode, each to its\nown scale", color=INK, fontsize=9)
    quiet(ax)
    return ax


def save_mode(job: Job, member: DesignMember, critical: CriticalLoad, path: str | Path) -> None:
    """Draw a member, its segments and its mode into a PNG, SVG or PDF file.

    Raises
    ------
    InputError
        If the ending is none of the three, or the file cannot be written.
    """
    show, code = job.display, job.code_of(member.said)
    result = check_member(job, member)
    combination = next(c for c in result.forces.combinations if c.name == critical.combination)
    cases = result.cases
    if cases is None:
        raise InputError(f"{member.mark}: the mode needs loads, not combined forces")
    x = np.unique(np.concatenate([result.forces.x.ravel(), np.linspace(0.0, member.length, 241)]))
    along = cases.major.moment.combine(cases.factors([combination]))
    moment = along.at(x, np.zeros(len(x), dtype=bool))[0]
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    top, middle, bottom = figure.subplots(3, 1, height_ratios=[1.6, 1.3, 1.0])
    words = f"{member.mark}   {member.section_names}, {member.steel}   ·   {critical.combination}"
    if np.isfinite(critical.factor):
        words += f" buckles it laterally at {digits(critical.factor)} times"
    titled(figure, words)
    draw_member(top, result, show)
    top.tick_params(axis="x", labelbottom=False)
    draw_segments(middle, critical, x, moment, show, code.moment_shape_symbol)
    draw_mode(bottom, critical, show)
    for ax in (middle, bottom):
        ax.set_xlim(top.get_xlim())
    bottom.set_xlabel(f"along the member, {show.labels['length']}", color=INK)
    write_figure(figure, path)
