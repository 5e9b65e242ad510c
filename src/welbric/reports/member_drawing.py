"""A member as a small drawing for a page: how it is held and loaded, and its diagrams."""

from __future__ import annotations

import textwrap
from typing import Any

import numpy as np

from welbric.checking.results import MemberResult
from welbric.documents.picture import Picture, Point, width_of
from welbric.inputs.actions import MemberLoad
from welbric.inputs.job import Job
from welbric.members.design_member import DesignMember
from welbric.members.segments import continuous_lengths, held_places
from welbric.reports.captions import end_words, load_words, restraint_words
from welbric.reports.diagrams import extremes, panels_of
from welbric.units import DisplayUnits, digits

INK, PALE, GOVERNING, LOAD, HOLD = "#1f2d3a", "#c9d6d3", "#8a3b12", "#2f6690", "#b07a00"
WIDTH = 480.0  # pt, of the page between its margins
LEFT, RIGHT = 30.0, 30.0
DEEP = 9.0  # of the member; not to scale
ROW = 21.0  # of a load
TALL, ALL_TALL = 40.0, 150.0  # of a diagram, without its title; of all together
MOST_TICKS = 7
STATIONS = 30  # of a diagram in each span, beside those where something changes


def member_drawing(job: Job, result: MemberResult) -> str:
    """Return a member as SVG: supports, restraints, loads; its diagrams below.

    Parameters
    ----------
    job : Job
    result : MemberResult

    Returns
    -------
    str
        An ``<svg>`` element, 480 points wide.
    """
    picture = Picture(WIDTH)
    member, show = result.member, job.display
    top = _sketch(picture, result, show)
    spans = len(member.span_lengths("major"))
    panels = panels_of(job, result, stations=STATIONS * spans + 1)
    tall = min(TALL, ALL_TALL / max(len(panels), 1))
    for panel in panels:
        top = _diagram(picture, member, show, top, tall, **panel)
    picture.height = _scale(picture, member, show, top)
    return str(picture)


def _x(member: DesignMember, at: Any) -> Any:
    return LEFT + (WIDTH - LEFT - RIGHT) * at / member.length


def _sketch(picture: Picture, result: MemberResult, show: DisplayUnits) -> float:
    """Draw the member with what holds and loads it; return where the next may begin."""
    member = result.member
    top = 2.0
    for load in member.said.loads:
        top = _load(picture, load, member, show, top)
    first, last, y = _x(member, 0.0), _x(member, member.length), top + 3.0
    low = y + DEEP
    ring = [(first, y), (last, y), (last, low), (first, low)]
    picture.area([ring], "#eef2f1", INK, 1.2)
    _restraints(picture, member, y)
    for x, end, inward in zip((0.0, member.length), member.ends_about("major"), (1, -1),
                              strict=True):  # fmt: skip
        _support(picture, _x(member, x), y, end_words(member, x, end), end, inward)
    for support in member.supports_about("major")[1:-1]:
        words = "fixed" if support.clamped else "" if support.held else "spring"
        kind = "pinned" if support.held else "spring"
        _support(picture, _x(member, support.at), y, words, kind, 1)
    for hinge in member.said.hinges:
        picture.dot(_x(member, hinge), y + 0.5 * DEEP, "white", 3.0, INK)
    weight = "own weight included" if member.said.self_weight else "own weight not included"
    if member.said.forces:
        weight = "forces combined elsewhere"
    words = "; ".join([*restraint_words(member, show), weight])
    y = low + 26.0
    for line in textwrap.wrap(words, 130):
        picture.text(0.5 * WIDTH, y, line, INK, "middle", 7)
        y += 8.5
    return y


def _restraints(picture: Picture, member: DesignMember, y: float) -> None:
    for flange, edge in (("top", y), ("bottom", y + DEEP)):
        hold = getattr(member.said.restraint, flange)
        whole = continuous_lengths(member, flange)
        for start, end in whole:
            picture.line([(_x(member, start), edge), (_x(member, end), edge)], HOLD, 2.6)
        if whole and hold.kind == "continuous":
            continue
        for place in held_places(member, flange):
            x = _x(member, place)
            diamond = [(x - 2.6, edge), (x, edge - 2.6), (x + 2.6, edge), (x, edge + 2.6)]
            picture.area([diamond], HOLD, INK, 0.4)


def _support(picture: Picture, x: float, y: float, words: str, end: str, inward: int) -> None:
    low = y + DEEP
    if end == "pinned":
        picture.area([[(x, low), (x - 4.5, low + 8), (x + 4.5, low + 8)]], "white", INK, 0.8)
    elif end == "spring":
        zigzag = np.array([0, 0, 1, -1, 1, -1, 0, 0]) * 2.5
        picture.line(zip(x + zigzag, np.linspace(low, low + 9, 8), strict=True), INK)
    elif end in {"fixed", "guided"}:
        picture.line([(x, y - 5), (x, low + 5)], INK, 1.8)
        for at in np.linspace(y - 3, low + 3, 5):
            picture.line([(x, at), (x - inward * 4, at + 2.5)], INK, 0.5)
        if end == "guided":
            picture.line([(x + inward * 2.5, y - 5), (x + inward * 2.5, low + 5)], INK, 0.6, "1 1")
    picture.text(x, low + 16.0, words, INK, "middle", 7)


def _load(
    picture: Picture, load: MemberLoad, member: DesignMember, show: DisplayUnits, top: float
) -> float:
    """Draw a load in a row of its own; return where the next row begins."""
    words = load_words(load, show)
    base = top + ROW - 3.0
    start = _x(member, load.start or 0.0)
    end = _x(member, member.length if load.end is None else load.end)
    if load.line is not None or load.area is not None:
        values = [load.line[0], load.line[-1]] if load.line else [load.area or 0.0] * 2
        largest = max(abs(v) for v in values) or 1.0
        highs = [2.0 + 11.0 * abs(v) / largest for v in values]
        ring = [(start, base), (end, base), (end, base - highs[1]), (start, base - highs[0])]
        picture.area([ring], "#e4edf4", LOAD, 0.6)
        count = max(int((end - start) / 36.0), 1) + 1
        places = np.linspace(start, end, count)
        tall = np.linspace(highs[0], highs[1], count)
        ends = [((x, base - high), (x, base)) for x, high in zip(places, tall, strict=True)
                if high > 4.0]  # fmt: skip
        _arrows(picture, ends, sum(values) >= 0)
        middle, wide = 0.5 * (start + end), width_of(words, 7.5) + 4.0
        left = min(max(middle - 0.5 * wide, 0.0), WIDTH - wide)
        back = [(left, base - 10.5), (left + wide, base - 10.5),
                (left + wide, base - 2.0), (left, base - 2.0)]  # fmt: skip
        picture.area([back], "white")
        picture.text(left + 0.5 * wide, base - 4.0, words, LOAD, "middle")
        return top + ROW
    if load.point is not None:
        marked = [_x(member, at) for at in load.at or []]
        _arrows(picture, [((x, base - 15.0), (x, base)) for x in marked], load.point >= 0)
        _beside(picture, marked[0], base - 7.0, words)
        return top + ROW
    if load.compression is not None or load.tension is not None:
        usual = 0.0 if member.held_lengthwise == [member.length] else member.length
        marked = [_x(member, at) for at in load.at or [usual]]
        ends = [((x + 22.0, base - 4.0), (x + 3.0, base - 4.0)) for x in marked]
        _arrows(picture, ends, load.tension is None)
        first = marked[0]
        if first > 0.6 * WIDTH:
            picture.text(first - 3.0, base - 2.0, words, LOAD, "end")
        else:
            picture.text(first + 26.0, base - 2.0, words, LOAD)
        return top + 0.6 * ROW
    marked = [_x(member, at) for at in load.at or []]
    if load.moment is not None:
        for x in marked:
            _turn(picture, x, base - 5.0, clockwise=load.moment > 0)
    if marked:
        _beside(picture, marked[0] + 5.0, base - 3.0, words)
    else:
        picture.text(0.5 * (start + end), base - 3.0, words, LOAD, "middle")
    return top + 0.75 * ROW


def _arrows(picture: Picture, ends: list[tuple[Point, Point]], forward: bool) -> None:
    """Draw the arrows of a load, turned around where it is not forward."""
    picture.arrows([(a, b) if forward else (b, a) for a, b in ends], LOAD)


def _beside(picture: Picture, x: float, y: float, words: str) -> None:
    right = x < 0.75 * WIDTH
    picture.text(x + 4.0 if right else x - 4.0, y, words, LOAD, "start" if right else "end")


def _turn(picture: Picture, x: float, y: float, clockwise: bool) -> None:
    """Draw a moment as an arc with a head."""
    angles = np.linspace(-0.2 * np.pi, 1.2 * np.pi, 11)
    sense = 1.0 if clockwise else -1.0
    arc = [(x + sense * 4.5 * np.cos(a), y - 4.5 * np.sin(a)) for a in angles[::-1]]
    picture.line(arc, LOAD)
    picture.arrows([(arc[-3], arc[-1])], LOAD)


def _diagram(
    picture: Picture,
    member: DesignMember,
    show: DisplayUnits,
    top: float,
    tall: float,
    *,
    title: str,
    kind: str,
    x: Any,
    values: Any,
    governing: int,
    name: str,
) -> float:
    """Draw a diagram, the envelope of all combinations and the governing one's line."""
    shown = values / show.factor(kind)
    high, low = np.maximum(shown.max(axis=0), 0), np.minimum(shown.min(axis=0), 0)
    line = shown[governing]
    span = max(float(high.max() - low.min()), 1e-12)
    down = kind == "dimension"
    title_at = top + 9.0
    over, under = (high.max(), low.min()) if not down else (-low.min(), -high.max())
    first = title_at + (13.0 if over > 0.02 * span else 5.0)
    factor = tall / span
    sense = -1.0 if down else 1.0

    def y(value: Any) -> Any:
        return first + factor * (over - sense * value)

    places = _x(member, x)
    words = f"line: {name}" + ("; band: every combination" if len(values) > 1 else "")
    heading = f"{title.replace(chr(10), ' ')}, {show.labels[kind]}"
    picture.text(0.0, title_at, heading, INK, size=8, bold=True)
    picture.text(WIDTH, title_at, words, INK, "end", 7)
    band = [np.column_stack([places, y(high)]), np.column_stack([places, y(low)])[::-1]]
    picture.area([np.concatenate(band)], PALE)
    picture.line([(places[0], y(0.0)), (places[-1], y(0.0))], INK, 0.6)
    values_at = np.concatenate([[0.0], line, [0.0]])
    picture.line(
        np.column_stack([places[[0, *range(len(places)), -1]], y(values_at)]), GOVERNING, 1.2
    )
    taken: list[tuple[float, float, float]] = []
    marks = [(index, line[index], GOVERNING) for index in extremes(line, span)]
    for edge, sign in ((high, 1.0), (low, -1.0)):
        index = int(np.argmax(sign * edge))
        beyond = sign * edge[index] - (sign * line).max()
        if sign * edge[index] > 0.02 * span and beyond > 0.02 * span:
            marks.append((index, edge[index], INK))
    for index, value, colour in marks:
        at = f"{show.labels['length']}"
        label = f"{digits(value, 3)} at {digits(show.convert(x[index], 'length'), 3)} {at}"
        px, py = float(places[index]), float(y(value))
        picture.dot(px, py, colour, 1.5)
        above = (value >= 0) != down
        ty = py - 3.0 if above else py + 8.0
        half = 0.5 * width_of(label, 7)
        ty = _free(taken, px, ty, half, -8.0 if above else 8.0)
        taken.append((px, ty, half))
        picture.text(px, ty, label, colour, "middle", 7)
    lowest = first + factor * (over - under)
    return float(max([lowest + 3.0, *(ty + 2.0 for _, ty, _ in taken)]))


def _free(
    taken: list[tuple[float, float, float]], x: float, y: float, half: float, step: float
) -> float:
    """Return where a label may stand beside those that stand already."""
    for _ in range(3):
        if not any(abs(x - a) < half + b and abs(y - c) < 7.0 for a, c, b in taken):
            break
        y += step
    return y


def _scale(picture: Picture, member: DesignMember, show: DisplayUnits, top: float) -> float:
    """Draw the places along the member; return how tall the whole is."""
    length = show.convert(member.length, "length")
    step = 10.0 ** np.floor(np.log10(length))
    for finer in (1.0, 0.5, 0.2, 0.1):
        if length / (step * finer) >= MOST_TICKS - 3:
            step *= finer
            break
    y = top + 4.0
    picture.line([(_x(member, 0.0), y), (_x(member, member.length), y)], "#8fa3a0", 0.4)
    for at in np.arange(0.0, length * 1.0001, step):
        x = LEFT + (WIDTH - LEFT - RIGHT) * at / length
        picture.line([(x, y), (x, y + 2.5)], "#8fa3a0", 0.4)
        picture.text(x, y + 9.5, f"{at:g}", INK, "middle", 7)
    picture.text(WIDTH, y + 9.5, show.labels["length"], INK, "end", 7)
    return y + 12.0
