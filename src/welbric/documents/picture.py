"""A small picture in SVG for a page of a document: lines, areas and texts, all of few bytes.

One unit is one point on the page. Texts stay texts, so that they are found and read aloud.
"""

from __future__ import annotations

import html
import math
from collections.abc import Iterable
from typing import Any, Literal

import numpy as np

from welbric.errors import seen

FONT = "Libertinus Serif, Source Serif 4, Charter, Georgia, serif"
Anchor = Literal["start", "middle", "end"]
Point = Any  # a pair of numbers, or an array of two
STRAIGHT = 2e-4  # units that a point may lie off its neighbours' chord and be left out
FEW = 9  # points that are drawn as they are
WIDTH_OF_LETTER = 0.47  # of the size of the letters, on average


def short(value: float) -> str:
    """Write a coordinate with one decimal, or none."""
    return f"{value:.1f}".removesuffix(".0")


def width_of(text: str, size: float) -> float:
    """Return about how wide a text is."""
    return WIDTH_OF_LETTER * size * len(text)


class Picture:
    """A picture that grows by what is drawn into it.

    Attributes
    ----------
    width, height : float
        Points; the origin is at the top left.
    """

    def __init__(self, width: float) -> None:
        self.width = width
        self.height = 0.0
        self._parts: list[str] = []

    def line(
        self, points: Iterable[Point], colour: str, thick: float = 0.8, dash: str = ""
    ) -> None:
        """Draw a line through points."""
        dashed = f' stroke-dasharray="{dash}"' if dash else ""
        self._parts.append(
            f'<path d="{_through(points)}" fill="none" stroke="{colour}" '
            f'stroke-width="{thick:g}"{dashed}/>'
        )

    def area(
        self,
        rings: Iterable[Iterable[Point]],
        fill: str,
        stroke: str = "none",
        thick: float = 0.6,
    ) -> None:
        """Fill what closed lines enclose; a ring within another is a hole."""
        d = "".join(f"{_through(ring)}Z" for ring in rings)
        edge = f' stroke="{stroke}" stroke-width="{thick:g}"' if stroke != "none" else ""
        self._parts.append(f'<path d="{d}" fill="{fill}" fill-rule="evenodd"{edge}/>')

    def dot(self, x: float, y: float, fill: str, radius: float = 1.8, stroke: str = "") -> None:
        """Draw a dot."""
        edge = f' stroke="{stroke}"' if stroke else ""
        at = f'cx="{short(x)}" cy="{short(y)}"'
        self._parts.append(f'<circle {at} r="{radius:g}" fill="{fill}"{edge}/>')

    def arrows(self, ends: Iterable[tuple[Point, Point]], colour: str) -> None:
        """Draw arrows, each from its tail to its tip."""
        stems, heads = [], []
        for tail, tip in ends:
            (x, y), (u, v) = tail, tip
            length = max(math.hypot(u - x, v - y), 1e-9)
            c, s = (u - x) / length, (v - y) / length
            stems.append(_through([tail, (u - 3 * c, v - 3 * s)]))
            back = (u - 4 * c, v - 4 * s)
            sides = [(back[0] - k * s, back[1] + k * c) for k in (1.4, -1.4)]
            heads.append(f"{_through([tip, *sides])}Z")
        if stems:
            self._parts.append(
                f'<path d="{"".join(stems)}" stroke="{colour}" stroke-width=".6"/>'
                f'<path d="{"".join(heads)}" fill="{colour}"/>'
            )

    def text(
        self,
        x: float,
        y: float,
        words: str,
        colour: str,
        anchor: Anchor = "start",
        size: float = 7.5,
        bold: bool = False,
    ) -> None:
        """Write a text whose base line is at ``y``; it is kept within the picture."""
        if not words:
            return
        wide = width_of(words, size)
        before = {"start": 0.0, "middle": 0.5 * wide, "end": wide}[anchor]
        x = min(max(x, before + 1.0), max(self.width - wide + before - 1.0, before + 1.0))
        if wide > self.width - 2.0:  # a name of any length
            words = words[: int((self.width - 2.0) / (WIDTH_OF_LETTER * size)) - 1] + "…"
        extra: dict[str, Any] = {} if anchor == "start" else {"text-anchor": anchor}
        extra |= {"font-weight": "bold"} if bold else {}
        more = "".join(f' {name}="{value}"' for name, value in extra.items())
        self._parts.append(
            f'<text x="{short(x)}" y="{short(y)}" fill="{colour}" font-size="{size:g}"{more}>'
            f"{html.escape(seen(words))}</text>"
        )

    def __str__(self) -> str:
        size = f"{short(self.width)} {short(self.height)}"
        return (
            f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {size}" font-family="{FONT}">'
            f"{''.join(self._parts)}</svg>"
        )


def _through(points: Iterable[Point]) -> str:
    """Return a path through points, without those on a straight line between others."""
    given = points if isinstance(points, np.ndarray) else list(points)
    if len(given) < FEW:
        return _path(given)
    at = np.array(given, dtype=float)
    at = at[np.concatenate([[True], np.abs(np.diff(at, axis=0)).max(axis=1) > 0.01])]
    if len(at) > 2:
        a, b, c = at[:-2], at[1:-1], at[2:]
        chord = c - a
        off = np.abs(chord[:, 0] * (b - a)[:, 1] - chord[:, 1] * (b - a)[:, 0])
        off /= np.maximum(np.hypot(chord[:, 0], chord[:, 1]), 1e-9)
        turns = ((b - a) * (c - b)).sum(axis=1) < 0.0
        at = at[np.concatenate([[True], (off > STRAIGHT) | turns, [True]])]
    return _path(at.tolist())


def _path(points: Iterable[Point]) -> str:
    return "M" + "L".join([f"{short(x)} {short(y)}" for x, y in points])
