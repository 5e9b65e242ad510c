"""A sizing of a frame drawn: utilisations before and after, and the way from one to the other."""

from __future__ import annotations

import math
from pathlib import Path

from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.ticker import MaxNLocator

from welbric.checking.frames import frame_results
from welbric.reports.figure_files import INK, titled, write_figure
from welbric.reports.figures import GOVERNING, LOAD
from welbric.reports.frame_figure import utilisations
from welbric.reports.frame_view import View, without_overlaps
from welbric.studies.frame_proposal import FrameProposal


def save_frame_sizing(found: FrameProposal, path: str | Path) -> None:
    """Draw a sizing into a PNG, SVG or PDF file.

    Raises
    ------
    InputError
        If the file cannot be written.
    """
    write_figure(frame_sizing_figure(found), path)


def frame_sizing_figure(found: FrameProposal) -> Figure:
    """Return the frame before and after, and each analysis with its mass."""
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    grid = figure.add_gridspec(2, 2, height_ratios=[2.6, 1.0])
    titled(figure, f"{found.job.name}   \u00b7   sections of {len(found.groups)} groups")
    labels = []
    sides = [("before", found.job, found.before), ("after", found.proposed, found.after)]
    for column, (word, job, table) in enumerate(sides):
        ax = figure.add_subplot(grid[0, column])
        labels += utilisations(ax, View.of(frame_results(job).frame, None, job.display), table)
        mass = sum(group.total(job.member(group.marks[0]).section) for group in found.groups)
        ax.set_title(f"{word}: {found.job.display.show(mass, 'mass')} in the groups",
                     color=INK, fontsize=10, loc="left")  # fmt: skip
    _rounds(figure.add_subplot(grid[1, :]), found)
    without_overlaps(figure, labels)
    return figure


def _rounds(ax: Axes, found: FrameProposal) -> None:
    """Draw the mass of each analysis: filled where it passes everywhere."""
    show = found.job.display
    for number, one in enumerate(found.rounds, 1):
        worst = f"{one.utilisation:.2f}" if math.isfinite(one.utilisation) else "unstable"
        mass = show.convert(one.mass, "mass")
        ax.plot(number, mass, marker="o", ms=7, color=LOAD if one.passes else GOVERNING,
                mfc=LOAD if one.passes else "white", ls="")  # fmt: skip
        if len(found.rounds) <= 40:
            ax.annotate(worst, (number, mass), (0, 8), textcoords="offset points", fontsize=8,
                        color=INK, ha="center")  # fmt: skip
    ax.set_title("the analyses, each with its worst utilisation: filled where everything passes",
                 color=INK, fontsize=10, loc="left")  # fmt: skip
    ax.set_ylabel(f"mass, {show.labels['mass']}", color=INK)
    ax.margins(0.03, 0.25)
    ax.xaxis.set_major_locator(MaxNLocator(integer=True))
    for side in ("top", "right"):
        ax.spines[side].set_visible(False)
