"""Available strength over a length, and what a member asks of it, as a figure."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from matplotlib.figure import Figure

from welbric.errors import InputError
from welbric.reports.figure_files import INK, as_written, titled, write_figure
from welbric.reports.figures import GOVERNING, quiet
from welbric.studies.curves import KINDS, OVER, Curve, Curves
from welbric.units import DisplayUnits, digits

COLOURS = ("#2f6690", "#2e6f57", "#b07a00", "#7a4d8b", "#4c5b61", "#a14a76")
DASHES = ("-", "--", "-.", ":")


def draw_curves(found: Curves, show: DisplayUnits) -> Figure:
    """Return the figure of curves, each named at its end."""
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    ax: Any = figure.subplots()
    quiet(ax)
    kind = KINDS[found.of]
    ends = []
    for i, curve in enumerate(found.curves):
        x = np.array([show.convert(float(v), "length") for v in curve.lengths])
        y = np.array([show.convert(float(v), kind) for v in curve.strengths])
        style = DASHES[(i // len(COLOURS)) % len(DASHES)]
        colour = COLOURS[i % len(COLOURS)]
        ax.plot(x, y, style, color=colour, lw=1.8)
        _changes(ax, curve, show, kind, colour)
        known = np.flatnonzero(np.isfinite(y))
        if len(known):
            ends.append((float(x[known[-1]]), float(y[known[-1]]), curve.name, colour))
    for length, value, words in found.wanted:
        place = show.convert(length, "length"), show.convert(value, kind)
        ax.plot(*place, "D", color=GOVERNING, ms=7, zorder=5)
        ax.annotate(f"required: {words}", place, (8, 6), textcoords="offset points",
                    color=GOVERNING, fontsize=9,
                    bbox={"fc": "white", "ec": "none", "pad": 1.5})  # fmt: skip
    ax.set_ylim(0, None)
    low, high = ax.get_ylim()
    _names(ax, ends, 0.028 * (high - low))
    longest = show.convert(float(found.curves[0].lengths[-1]), "length")
    ax.set_xlim(0, longest * 1.16)
    ax.set_xlabel(f"{found.over or OVER[found.of]}, {show.labels['length']}", color=INK)
    ax.set_ylabel(f"{found.of}, {show.labels[kind]}", color=INK)
    ax.grid(axis="y", color="#e6ecea", lw=0.8)
    titled(figure, found.title)
    return as_written(figure)


def _changes(ax: Any, curve: Curve, show: DisplayUnits, kind: str, colour: str) -> None:
    """Mark the lengths from which on other equations hold."""
    for length, name in curve.changes:
        x = show.convert(length, "length")
        y = show.convert(float(np.interp(length, curve.lengths, curve.strengths)), kind)
        ax.plot([x], [y], "o", ms=6, mfc="white", mec=colour, mew=1.5, zorder=4)
        ax.annotate(f"{name}  {digits(x, 3)}", (x, y), (5, 7), textcoords="offset points",
                    color=colour, fontsize=9)  # fmt: skip


def _names(ax: Any, ends: list[tuple[float, float, str, str]], gap: float) -> None:
    """Write each curve's name at its end, those that would cover one another apart."""
    lowest = -np.inf
    for x, y, name, colour in sorted(ends, key=lambda end: end[1]):
        lowest = max(y, lowest + gap)
        ax.annotate(name, (x, y), xytext=(x * 1.01, lowest), textcoords="data",
                    va="center", color=colour, fontsize=9)  # fmt: skip


def save_curves(found: Curves, show: DisplayUnits, path: str | Path) -> None:
    """Draw curves into a PNG, SVG or PDF file, whole or not at all.

    Raises
    ------
    InputError
        If the standard covers none of them.
    """
    if not any(np.isfinite(one.strengths).any() for one in found.curves):
        raise InputError(*(f"{one.name}: outside: {one.reason}" for one in found.curves))
    write_figure(draw_curves(found, show), path)
