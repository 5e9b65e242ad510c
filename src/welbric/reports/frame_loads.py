"""The loads of one case drawn on a frame: bands along members, arrows at points and joints."""

from __future__ import annotations

import numpy as np
from matplotlib.axes import Axes
from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure
from matplotlib.text import Text

from welbric.analysis.diagram import Array
from welbric.checking.frames import FrameResults
from welbric.errors import InputError, did_you_mean
from welbric.frames.model import Chain
from welbric.frames.solve import solution
from welbric.inputs.actions import MemberLoad
from welbric.inputs.frame import JointLoad
from welbric.inputs.job import Job
from welbric.loads.combinations import Combination, name_of
from welbric.members.load_cases import cases_alone
from welbric.reports.captions import value_words
from welbric.reports.figure_files import INK, titled
from welbric.reports.figures import LOAD
from welbric.reports.frame_figure import SEP
from welbric.reports.frame_view import View, plain, without_overlaps

BAND, ARROW = 0.05, 0.08  # of the frame's size: the largest band, and every arrow
NAMED = 40  # loads that are written, of a frame in space seen whole
FORCES = ("x", "y", "z")
TURNS = ("about_x", "about_y", "about_z")


def loads_figure(
    job: Job, found: FrameResults, case: str | None = None, plane: str | None = None
) -> Figure:
    """Return the loads of a case drawn on a frame, its own weight left out.

    Parameters
    ----------
    job : Job
    found : FrameResults
    case : str, optional
        Such as ``"wind"`` or ``"wind, from the sea"``; the first one by default.
    plane : str, optional
        Such as ``"y = 5 m"``.

    Raises
    ------
    InputError
        If there is no such case, or nothing lies in the plane.
    """
    view = View.of(found.frame, plane, job.display)
    alone = _case(found, case)
    (symbol,) = alone.factors
    which = alone.alternatives.get(symbol, "")

    def acts(load: MemberLoad | JointLoad) -> bool:
        return load.case == symbol and load.alternative in ("", which)

    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    FigureCanvasAgg(figure)
    ax = figure.subplots()
    words = ", ".join([name_of(symbol), *([which] if which else [])])
    titled(figure, SEP.join([job.name, words, *([plane] if plane else [])]))
    points = view.page(view.model.places)
    on_members = [
        (chain, load)
        for chain in view.chains.values()
        for load in chain.member.said.loads
        if acts(load)
    ]
    most = max((max(map(abs, _line(load))) for _, load in on_members if _line(load)), default=0.0)
    labels: list[tuple[float, Text]] = []
    for chain in view.chains.values():
        ax.plot(*points[chain.nodes].T, color=INK, lw=1.6, zorder=3)
    for chain, load in on_members:
        labels.append(_on_member(ax, view, job, chain, load, most))
    for at in job.joint_loads:
        if acts(at) and at.joint in view.joints:
            labels += _on_joint(ax, view, job, at)
    view.supports(ax)
    plain(ax, f"loads of one case, unfactored, own weight left out: {words}")
    worst = [text for _, text in sorted(labels, key=lambda one: -one[0])]
    shown = worst if view.across is not None else worst[:NAMED]
    for text in worst[len(shown) :]:
        text.set_visible(False)
    without_overlaps(figure, shown)
    return figure


def _case(found: FrameResults, name: str | None) -> Combination:
    """Return a case alone by its name; the first one by default."""
    every = cases_alone(solution(found.frame).loading.keys)
    alone = {one.name.replace(" alone", "", 1): one for one in every}
    if name is None:
        return next(iter(alone.values()))
    folded = {words.casefold(): one for words, one in alone.items()}
    if name.casefold() not in folded:
        hint = did_you_mean(name, alone) or f"; it has {', '.join(alone)}"
        raise InputError(f"no load case {name!r}{hint}")
    return folded[name.casefold()]


def _line(load: MemberLoad) -> list[float]:
    """Return what a load along a member is at its start and end, N/mm; nothing of others."""
    if load.line:
        return [load.line[0], load.line[-1]]
    if load.area is not None:
        return [load.area * (load.spacing or 0.0)] * 2
    return []


def _on_member(
    ax: Axes, view: View, job: Job, chain: Chain, load: MemberLoad, most: float
) -> tuple[float, Text]:
    """Draw a load of a member; return its label, and how much it matters."""
    e1, e2, e3 = chain.axes
    towards = np.array([0.0, 0.0, -1.0])
    if not load.is_vertical(chain.member.slope):
        said = chain.member.said
        towards = -e2 * said.frame.minor_sense(said) if load.axis == "minor" else -e3
    start, length = view.model.line(chain)[0], chain.member.length
    values = _line(load)
    words = value_words(load, job.display)
    if values:
        x = np.array([load.start or 0.0, length if load.end is None else load.end])
        along = start + np.outer(x, e1)
        high = np.array(values) / most * BAND * view.size if most else np.zeros(2)
        base, top = view.page(along), view.page(along - np.outer(high, towards))
        ax.fill(*np.concatenate([base, top[::-1]]).T, color=LOAD, alpha=0.15, lw=0, zorder=1)
        ax.plot(*np.concatenate([base[:1], top, base[-1:]]).T, color=LOAD, lw=1.0, zorder=2)
        for share in (0.1, 0.5, 0.9):
            tail, head = (one[0] + share * (one[1] - one[0]) for one in (top, base))
            _arrow(ax, tail, head)
        return float(max(map(abs, values))), _label(ax, top[0] + 0.35 * (top[1] - top[0]), words)
    places = load.at or [length / 2]
    matters = 0.0
    for place in places:
        head = view.page(start[None] + place * e1)[0]
        if load.point is not None:
            sense = 1.0 if load.point >= 0 else -1.0
            back = start + place * e1 - sense * ARROW * view.size * towards
            tail = view.page(back[None])[0]
            _arrow(ax, tail, head)
            matters, head = abs(load.point), tail
        else:
            ax.plot(*head, marker="o", ms=5, color=LOAD, zorder=4)
    return matters, _label(ax, head, words)


def _on_joint(ax: Axes, view: View, job: Job, load: JointLoad) -> list[tuple[float, Text]]:
    """Draw what acts on a joint; return the labels, and how much each matters."""
    place = np.array(view.frame.joints[load.joint].place)
    head = view.joints[load.joint]
    labels = []
    for axis, name in enumerate(FORCES):
        value = getattr(load, name)
        if not value or axis == view.across:
            continue
        way = np.zeros(3)
        way[axis] = np.sign(value)
        tail = view.page((place - ARROW * view.size * way)[None])[0]
        _arrow(ax, tail, head)
        labels.append((abs(value), _label(ax, tail, job.display.show(abs(value), "force"))))
    for name in TURNS:
        value = getattr(load, name)
        if value:
            words = f"{job.display.show(value, 'moment')} {name.replace('_', ' ')}"
            ax.plot(*head, marker="o", ms=5, color=LOAD, zorder=4)
            labels.append((abs(value), _label(ax, head, words)))
    moves = [
        f"{job.display.show(value, 'dimension')} along {way}"
        for way, value in zip(FORCES, load.moves, strict=True)
        if value
    ]
    if moves:
        labels.append((1.0, _label(ax, head, "moved " + ", ".join(moves))))
    return labels


def _arrow(ax: Axes, tail: Array, head: Array) -> None:
    ax.annotate("", (head[0], head[1]), (tail[0], tail[1]), zorder=4,
                arrowprops={"arrowstyle": "-|>", "color": LOAD, "lw": 1.0})  # fmt: skip


def _label(ax: Axes, at: Array, words: str) -> Text:
    label = ax.annotate(words, (at[0], at[1]), (0, 4), textcoords="offset points", fontsize=8,
                        color=LOAD, ha="center", va="bottom", zorder=5)  # fmt: skip
    label.set_bbox({"fc": "white", "ec": "none", "pad": 0.5, "alpha": 0.8})
    return label
