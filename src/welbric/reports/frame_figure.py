"""A frame drawn: its members with their utilisations, and how it moves under a combination."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.text import Text
from matplotlib.transforms import Bbox

from welbric.analysis.diagram import Array
from welbric.checking.check import check
from welbric.checking.frames import FrameResults, frame_results
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import OK, OVER, sortable
from welbric.errors import InputError, did_you_mean
from welbric.frames.model import Chain, Model
from welbric.frames.solve import solution
from welbric.inputs.job import Job
from welbric.reports.figure_files import INK, titled, write_figure
from welbric.reports.figures import GOVERNING, LOAD

OVER_INK, UNKNOWN_INK = "#b3261e", "#8a6d1d"
ACROSS = np.array([[0.87, -0.5, 0.0], [0.25, 0.43, 1.0]])  # of space onto the page
NAMED = 10
WIDE = 1.25  # width over height from which the two drawings stand one above the other
BETWEEN = 9  # points of an element as it is drawn bent
SHARE = 0.06  # of the frame's size that it moves by at most, as drawn


def save_frame(job: Job, path: str | Path, under: str | None = None) -> None:
    """Draw the frame of a job into a PNG, SVG or PDF file.

    Raises
    ------
    InputError
        If the job has no frame, there is no such combination, or the file cannot be written.
    """
    write_figure(frame_figure(job, frame_results(job), check(job), under), path)


def frame_figure(
    job: Job,
    found: FrameResults,
    table: CheckTable,
    under: str | None = None,
    size: tuple[float, float] = (12.8, 8.0),
) -> Figure:
    """Return a frame drawn: utilisations, and how it moves under a combination.

    ``size`` is in inches; letters have the same size in each.
    """
    c = _combination(found, under)
    figure = Figure(figsize=size, dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    wide, high = np.ptp(_on_page(found, _places(found)), axis=0)
    if wide < WIDE * high * (size[0] / size[1]) / 1.6:
        left, right = figure.subplots(1, 2, width_ratios=[1.1, 1.0])
    else:
        left, right = figure.subplots(2, 1)
    titled(figure, f"{job.name}   \u00b7   {found.combinations[c].name}")
    labels = _utilisations(left, found, table)
    _moved(right, found, c, job)
    _without_overlaps(figure, labels)
    return figure


def _without_overlaps(figure: Figure, labels: list[Text]) -> None:
    """Leave out labels that stand over others before them."""
    figure.draw_without_rendering()
    kept: list[Bbox] = []
    for label in labels:
        box = label.get_window_extent()
        if any(box.overlaps(other) for other in kept):
            label.set_visible(False)
        else:
            kept.append(box)


def _combination(found: FrameResults, under: str | None) -> int:
    if under is None:
        return int(np.argmax(np.abs(found.moved[..., :2]).max(axis=(1, 2))))
    names = [one.name for one in found.combinations]
    folded = [name.casefold() for name in names]
    if under.casefold() not in folded:
        hint = did_you_mean(under, names) or f"; it has {', '.join(names[:6])}"
        raise InputError(f"no combination {under!r}{hint}")
    return folded.index(under.casefold())


def _on_page(found: FrameResults, places: Array) -> Array:
    """Return places, (n, 3), as points on the page, (n, 2)."""
    if found.frame.is_plane:
        return np.asarray(places[:, [0, 2]])
    return np.asarray(places @ ACROSS.T)


def _places(found: FrameResults) -> Array:
    return np.array([joint.place for joint in found.frame.joints.values()])


def _lines(found: FrameResults) -> dict[str, list[int]]:
    """Return the numbers of the joints that each member goes through, by mark."""
    number = {name: i for i, name in enumerate(found.joints)}
    return {
        mark: [number[name] for name in member.through]
        for mark, member in found.frame.members.items()
    }


def _plain(ax: Axes, words: str) -> None:
    ax.set_aspect("equal", adjustable="datalim")
    ax.set_axis_off()
    ax.set_title(words, color=INK, fontsize=10, loc="left")
    ax.margins(0.12)


def _supports(ax: Axes, found: FrameResults, points: Array) -> None:
    """Mark what holds joints: a square where they may not turn, a wedge where they may.

    A ring where a joint of a plane frame is held across the plane alone.
    """
    supports = set(found.frame.supports())
    for point, (name, joint) in zip(points, found.frame.joints.items(), strict=True):
        if not joint.held:
            continue
        clamped = any(way.startswith("turn") for way in joint.held)
        marker, size = ("s" if clamped else "^", 8.0) if name in supports else ("o", 4.0)
        ax.plot(*point, marker=marker, color=INK, ms=size, mfc="white", mew=1.0, zorder=4)


def _utilisations(ax: Axes, found: FrameResults, table: CheckTable) -> list[Text]:
    """Draw the members, each as thick as it is used; return their labels, the worst first."""
    points = _on_page(found, _places(found))
    lines = _lines(found)
    rank = {mark: sortable(table[mark].utilisation) for mark in lines}
    order = sorted(lines, key=lambda mark: -rank[mark])
    # Room for the worst alone?
    named = order[:NAMED] if len(lines) > (60 if found.frame.is_plane else 20) else order
    labels = []
    for mark in order:
        line = lines[mark]
        result = table[mark]
        U, status = result.utilisation, result.status
        ink = OVER_INK if status == OVER else INK if status == OK else UNKNOWN_INK
        width = 1.0 + 3.0 * (min(U, 1.2) if np.isfinite(U) else 0.3)
        ax.plot(*points[line].T, color=ink, lw=width, solid_capstyle="round", zorder=2,
                ls="-" if status != "outside" else (0, (4, 2)))  # fmt: skip
        if mark not in named:
            continue
        (x0, y0), (x1, y1) = points[line[0]], points[line[-1]]
        angle = np.degrees(np.arctan2(y1 - y0, x1 - x0))
        turned = (angle + 90) % 180 - 90
        said = f"{U:.2f}" if np.isfinite(U) else "outside"
        label = ax.text(0.5 * (x0 + x1), 0.5 * (y0 + y1), f"{mark}  {said}", rotation=turned,
                        rotation_mode="anchor", ha="center", va="bottom", fontsize=8, color=ink,
                        zorder=5)  # fmt: skip
        label.set_bbox({"fc": "white", "ec": "none", "pad": 0.6, "alpha": 0.8})
        labels.append(label)
    _supports(ax, found, points)
    words = "utilisation: the thicker the more; red is over, dashed is outside the standard"
    _plain(ax, words if len(named) == len(lines) else f"{words}; the worst are named")
    return labels


def _moved(ax: Axes, found: FrameResults, c: int, job: Job) -> None:
    """Draw how the joints move, exaggerated, and name them."""
    points = _on_page(found, _places(found))
    model = solution(found.frame).model
    moves = model.of_nodes(found.state.moved)[:, :3, c]
    size = float(np.ptp(points, axis=0).max())
    most = float(np.abs(moves).max())
    scale = SHARE * size / most if most > 0 else 0.0
    before = _on_page(found, model.places)
    for chain in model.chains.values():
        after = _on_page(found, _curve(model, chain, found.state.movements[..., c], scale))
        ax.plot(*before[chain.nodes].T, color="#b8c2c0", lw=1.2, zorder=1)
        ax.plot(*after.T, color=GOVERNING, lw=1.8, zorder=2)
    if len(found.joints) <= 40:
        for name, point in zip(found.joints, points, strict=True):
            ax.annotate(name, point, (4, 4), textcoords="offset points", fontsize=8, color=LOAD)
    _supports(ax, found, points)
    words = job.display.show(most, "dimension")
    U = float(found.share[c])
    more = f"; load over critical {U:.2f}" if U else ""
    _plain(ax, f"how it moves, {scale:,.0f} times: at most {words}{more}")


def _curve(model: Model, chain: Chain, moved: Array, scale: float) -> Array:
    """Return places along a member as it moves, (n, 3): a cubic between the ends of elements."""
    s = np.linspace(0.0, 1.0, BETWEEN)
    own, e = moved[chain.elements], chain.axes
    ends = model.places[chain.nodes]
    L = np.diff(chain.places)[:, None]
    along = own[:, :1] * (1 - s) + own[:, 6:7] * s
    found = ends[:-1, None] * (1 - s)[:, None] + ends[1:, None] * s[:, None]
    found = found + scale * along[..., None] * e[0]
    for at, axis in ((1, -e[2]), (3, -e[1])):
        d1, s1, d2, s2 = (own[:, at + i : at + i + 1] for i in (0, 1, 6, 7))
        across = (
            d1 * (1 - 3 * s**2 + 2 * s**3) + s1 * L * (s - 2 * s**2 + s**3)
            + d2 * (3 * s**2 - 2 * s**3) + s2 * L * (s**3 - s**2)
        )  # fmt: skip
        found = found + scale * across[..., None] * axis
    return np.asarray(found.reshape(-1, 3))
