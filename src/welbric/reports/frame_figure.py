"""A frame drawn: its members with their utilisations, and how it moves under a combination."""

from __future__ import annotations

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.text import Text

from welbric.checking.frames import FrameResults
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import OK, OVER, sortable
from welbric.errors import InputError, did_you_mean
from welbric.frames.solve import solution
from welbric.inputs.job import Job
from welbric.reports.figure_files import INK, titled
from welbric.reports.figures import LOAD
from welbric.reports.frame_view import View, moves_of, plain, without_overlaps

OVER_INK, UNKNOWN_INK = "#b3261e", "#8a6d1d"
NAMED = 10
SEP = "   \u00b7   "
WIDE = 1.25  # width over height from which the two drawings stand one above the other
SHARE = 0.06  # of the frame's size that it moves by at most, as drawn


def frame_figure(
    job: Job,
    found: FrameResults,
    table: CheckTable,
    under: str | None = None,
    size: tuple[float, float] = (12.8, 8.0),
    plane: str | None = None,
) -> Figure:
    """Return a frame drawn: utilisations, and how it moves under a combination.

    ``size`` is in inches; letters have the same size in each.
    """
    view = View.of(found.frame, plane, job.display)
    c = combination_of(found, under)
    figure = Figure(figsize=size, dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    wide, high = view.extent
    if wide < WIDE * high * (size[0] / size[1]) / 1.6:
        left, right = figure.subplots(1, 2, width_ratios=[1.1, 1.0])
    else:
        left, right = figure.subplots(2, 1)
    titled(figure, SEP.join([job.name, found.combinations[c].name, *([plane] if plane else [])]))
    labels = utilisations(left, view, table)
    _moved(right, view, found, c, job)
    without_overlaps(figure, labels)
    return figure


def combination_of(found: FrameResults, under: str | None) -> int:
    """Return the number of a combination by its name; of the one that leans most by default."""
    if under is None:
        return int(np.argmax(np.abs(found.moved[..., :2]).max(axis=(1, 2))))
    names = [one.name for one in found.combinations]
    folded = [name.casefold() for name in names]
    if under.casefold() not in folded:
        hint = did_you_mean(under, names) or f"; it has {', '.join(names[:6])}"
        raise InputError(f"no combination {under!r}{hint}")
    return folded.index(under.casefold())


def utilisations(ax: Axes, view: View, table: CheckTable) -> list[Text]:
    """Draw the members, each as thick as it is used; return their labels, the worst first."""
    lines = {mark: view.page(view.model.line(chain)) for mark, chain in view.chains.items()}
    rank = {mark: sortable(table[mark].utilisation) for mark in lines}
    order = sorted(lines, key=lambda mark: -rank[mark])
    # Room for the worst alone?
    named = order[:NAMED] if len(lines) > (60 if view.across is not None else 20) else order
    labels = []
    for mark in order:
        line = lines[mark]
        result = table[mark]
        U, status = result.utilisation, result.status
        ink = OVER_INK if status == OVER else INK if status == OK else UNKNOWN_INK
        width = 1.0 + 3.0 * (min(U, 1.2) if np.isfinite(U) else 0.3)
        ax.plot(*line.T, color=ink, lw=width, solid_capstyle="round", zorder=2,
                ls="-" if status != "outside" else (0, (4, 2)))  # fmt: skip
        if mark not in named:
            continue
        (x0, y0), (x1, y1) = line[0], line[-1]
        angle = np.degrees(np.arctan2(y1 - y0, x1 - x0))
        turned = (angle + 90) % 180 - 90
        said = f"{U:.2f}" if np.isfinite(U) else "outside"
        label = ax.text(0.5 * (x0 + x1), 0.5 * (y0 + y1), f"{mark}  {said}", rotation=turned,
                        rotation_mode="anchor", ha="center", va="bottom", fontsize=8, color=ink,
                        zorder=5)  # fmt: skip
        label.set_bbox({"fc": "white", "ec": "none", "pad": 0.6, "alpha": 0.8})
        labels.append(label)
    view.supports(ax)
    view.arms(ax)
    words = "utilisation: the thicker the more; red is over, dashed is outside the standard"
    plain(ax, words if len(named) == len(lines) else f"{words}; the worst are named")
    return labels


def _moved(ax: Axes, view: View, found: FrameResults, c: int, job: Job) -> None:
    """Draw how the joints move, exaggerated, and name them."""
    loading = solution(found.frame).loading
    factors = np.array([[key.factor(found.combinations[c]) for key in loading.keys]])
    moves = moves_of(view.model, loading, found.state.taken([c]), factors)
    most = max(float(np.abs(moved).max()) for _, moved in moves.values())
    scale = SHARE * view.size / most if most > 0 else 0.0
    view.drawn(ax, moves, scale)
    if len(view.joints) <= 40:
        for name, point in view.joints.items():
            ax.annotate(
                name,
                (point[0], point[1]),
                (4, 4),
                textcoords="offset points",
                fontsize=8,
                color=LOAD,
            )
    view.supports(ax)
    words = job.display.show(most, "dimension")
    U = float(found.share[c])
    more = f"; load over critical {U:.2f}" if U else ""
    plain(ax, f"how it moves, {scale:,.0f} times: at most {words}{more}")
