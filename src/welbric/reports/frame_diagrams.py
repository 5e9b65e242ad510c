"""Diagrams of a frame: axial force, shear and moments on its members; the shape it buckles into."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.text import Text

from welbric.analysis.diagram import Array
from welbric.checking.check import check
from welbric.checking.frames import FrameResults, frame_results, member_of_frame
from welbric.checking.table import CheckTable
from welbric.errors import InputError
from welbric.frames.critical import critical_mode
from welbric.frames.loads import Loading
from welbric.frames.model import Chain
from welbric.frames.solve import free_motion, solution
from welbric.frames.states import State
from welbric.inputs.job import Job
from welbric.reports.figure_files import INK, titled, write_figure
from welbric.reports.figures import GOVERNING, LOAD
from welbric.reports.frame_figure import SEP, combination_of, frame_figure
from welbric.reports.frame_loads import loads_figure
from welbric.reports.frame_view import View, moves_of, plain, without_overlaps

# What is drawn along members: the letter of the forces, the kind of unit, the words.
ALONG = {
    "axial": ("N", "force", "axial forces, tension blue, compression red"),
    "shear": ("V", "force", "shear"),
    "moments": ("M", "moment", "moments, on the side that they pull"),
}
STATIONS = 25  # points between two breaks of a diagram
SHARE = 0.10  # of the frame's size that the largest value is drawn with
LEAN = 0.05  # of the frame's size, that a mode is drawn with
STILL = 0.02  # of what moves most: as good as nothing
SMALL = 0.02  # of the largest: below it no number is written
NAMED = 24  # numbers on a frame in space seen whole
SHOWN = ("utilisation", *ALONG, "mode", "loads", "motion")


def save_frame(
    job: Job,
    path: str | Path,
    under: str | None = None,
    what: str = "utilisation",
    plane: str | None = None,
) -> None:
    """Draw the frame of a job into a PNG, SVG or PDF file.

    Parameters
    ----------
    job : Job
    path : str or Path
    under : str, optional
        A combination; of loads a case.
    what : str
        Of `SHOWN`.
    plane : str, optional
        Such as ``"y = 5 m"``: the members in this plane alone.

    Raises
    ------
    InputError
        If the job has no frame, there is no such combination, or the file cannot be written.
    """
    if what == "motion":
        if under is not None:
            raise InputError("a mechanism moves under no combination: leave --under out")
        write_figure(motion_figure(job, plane), path)
        return
    found = frame_results(job)
    if what == "loads":
        figure = loads_figure(job, found, under, plane)
    elif what == "mode":
        figure = mode_figure(job, found, under, plane)
    elif what in ALONG:
        figure = diagram_figure(job, found, check(job), what, under, plane)
    else:
        figure = frame_figure(job, found, check(job), under, plane=plane)
    write_figure(figure, path)


def diagram_figure(
    job: Job, found: FrameResults, table: CheckTable, what: str, under: str | None = None,
    plane: str | None = None,
) -> Figure:  # fmt: skip
    """Return a diagram on every member: of a combination, or between what all of them bring.

    Raises
    ------
    InputError
        If there is no such combination.
    """
    letter, kind, words = ALONG[what]
    view = View.of(found.frame, plane, job.display)
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    ax = figure.subplots()
    chosen = None if under is None else combination_of(found, under)
    name = "least and most of all combinations"
    if chosen is not None:
        name = found.combinations[chosen].name
    titled(figure, SEP.join([job.name, name, *([plane] if plane else [])]))
    one = None if chosen is None else name
    lines = {mark: _values(view, table, chain, letter, one)
             for mark, chain in view.chains.items()}  # fmt: skip
    most = max((float(np.abs(v).max()) for _, v, _ in lines.values()), default=0.0)
    scale = SHARE * view.size / most if most > 0 else 0.0
    labels: list[tuple[float, Text]] = []
    for mark, chain in view.chains.items():
        labels += _draw(ax, view, chain, *lines[mark], scale, SMALL * most,
                        lambda value: job.display.show(value, kind, 3), what)  # fmt: skip
    view.supports(ax)
    flat = view.across is not None or what == "axial"
    note = "" if flat else "; about the major axis of each"
    plain(ax, f"{words}{note}; at most {job.display.show(most, kind, 3)}")
    worst = [text for _, text in sorted(labels, key=lambda one: -one[0])]
    for text in [] if flat else worst[NAMED:]:
        text.set_visible(False)
    without_overlaps(figure, worst if flat else worst[:NAMED])
    return figure


def _values(
    view: View, table: CheckTable, chain: Chain, letter: str, chosen: str | None
) -> tuple[Array, Array, Array]:
    """Return places along a member, values there, (1 or 2, X), and the side they are drawn on."""
    forces = table[chain.member.mark].forces
    # Where the page is a plane, the axis that bends in it.
    upright = view.across is None or abs(chain.axes[2][view.across]) < 0.5
    side = chain.axes[2] if upright else chain.axes[1]
    name = letter if letter == "N" else f"{letter}_{'major' if upright else 'minor'}"
    diagrams = forces.diagrams or {}
    diagram = diagrams[name]
    breaks = diagram.breaks
    s = np.linspace(0.0, 1.0, STATIONS)
    x = (breaks[:-1, None] + np.diff(breaks)[:, None] * s).ravel()
    right = np.tile(s < 1.0, len(breaks) - 1)
    turns = diagram.extreme_places()  # where the numbers that are written stand
    x, right = np.append(x, turns), np.append(right, np.ones(len(turns), dtype=bool))
    order = np.lexsort((right, x))
    x, right = x[order], right[order]
    values = np.asarray(diagram.at(x, right))
    names = [one.name for one in forces.combinations]
    if chosen is not None:
        wanted = chosen
        values = values[names.index(wanted)][None] if wanted in names else 0 * values[:1]
    else:
        values = np.stack([values.min(axis=0), values.max(axis=0)])
    # Moments stand on the side that they pull.
    return x, values, -side if letter == "M" else side


def _draw(
    ax: Axes, view: View, chain: Chain, x: Array, values: Array, side: Array, scale: float,
    least: float, words: Callable[[float], str], what: str,
) -> list[tuple[float, Text]]:  # fmt: skip
    line = view.model.line(chain, x)
    base = view.page(line)
    ends = base[[0, -1]]
    ax.plot(*ends.T, color=INK, lw=1.4, zorder=3)
    labels: list[tuple[float, Text]] = []
    for row in values:
        tip = view.page(line + scale * np.outer(row, side))
        ink = GOVERNING
        if what == "axial":
            ink = LOAD if row[int(np.argmax(np.abs(row)))] >= 0 else "#b3261e"
        outline = np.concatenate([base, tip[::-1]])
        ax.fill(*outline.T, color=ink, alpha=0.12, lw=0, zorder=1)
        ax.plot(*np.concatenate([base[:1], tip, base[-1:]]).T, color=ink, lw=1.1, zorder=2)
        at = int(np.argmax(np.abs(row)))
        value = float(row[at])
        if abs(value) > least:
            # Away from the member, on the side where the diagram is.
            away = np.sign(tip[at] - base[at] + 1e-12)
            label = ax.annotate(
                words(value), tip[at], xytext=(6 * away[0], 6 * away[1]),
                textcoords="offset points", ha="left" if away[0] >= 0 else "right",
                va="bottom" if away[1] >= 0 else "top", fontsize=8, color=ink, zorder=5,
            )  # fmt: skip
            labels.append((abs(value), label))
    return labels


def mode_figure(
    job: Job, found: FrameResults, under: str | None = None, plane: str | None = None
) -> Figure:
    """Return the shape that the frame buckles into under a combination, its nearest by default.

    Raises
    ------
    InputError
        If nothing presses the frame, its second order is not analysed, or there is no such
        combination.
    """
    if job.frame.second_order != "analysed":
        raise InputError("the frame has no critical load: say [frame] second_order = 'analysed'")
    c = int(np.argmax(found.share)) if under is None else combination_of(found, under)
    if not found.share[c] > 0:
        raise InputError(f"nothing presses the frame under {found.combinations[c].name}")
    view = View.of(found.frame, plane, job.display)
    mode, loading = critical_mode(view.model, found.on.taken(c)), solution(found.frame).loading
    share = float(found.share[c])
    words = f"how it buckles: load over critical {share:.3g}, at {1 / share:.3g} of the load"
    title = SEP.join([job.name, found.combinations[c].name, *([plane] if plane else [])])
    return _shape(view, loading, mode, title, words)


def motion_figure(job: Job, plane: str | None = None) -> Figure:
    """Return how a frame moves that is a mechanism.

    Raises
    ------
    InputError
        If the job has no frame, or nothing of it moves without resistance.
    """
    frame = member_of_frame(job).frame
    found = free_motion(frame)
    if found is None:
        raise InputError("nothing of the frame moves without resistance")
    model, loading, motion = found
    words = "how it moves without resistance"
    title = SEP.join([job.name, *([plane] if plane else [])])
    view = View.of(frame, plane, job.display, model)
    return _shape(view, loading, motion, title, words)


def _shape(view: View, loading: Loading, motion: State, title: str, words: str) -> Figure:
    """Return the frame and the shape that a motion without loads gives it."""
    moves = moves_of(view.model, loading, motion, np.zeros((1, len(loading.keys))))
    largest = {mark: float(np.abs(moved).max()) for mark, (_, moved) in moves.items()}
    most = max(*largest.values(), 1e-300)
    scale = LEAN * view.size / most
    if max(largest[mark] for mark in view.chains) < STILL * most:
        words += "; what is drawn here hardly takes part"
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    ax = figure.subplots()
    titled(figure, title)
    view.drawn(ax, moves, scale)
    view.supports(ax)
    plain(ax, words)
    return figure
