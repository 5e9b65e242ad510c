"""How a frame stands on a page: flat, in space, or one of its planes; what its drawings share."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from matplotlib.axes import Axes
from matplotlib.figure import Figure
from matplotlib.text import Text
from matplotlib.transforms import Bbox

from welbric.analysis.diagram import Array
from welbric.errors import InputError
from welbric.frames.model import Chain, Model
from welbric.frames.solve import solution
from welbric.inputs.frame import FrameOf
from welbric.reports.figure_files import INK
from welbric.units import DisplayUnits, parse

ACROSS = np.array([[0.87, -0.5, 0.0], [0.25, 0.43, 1.0]])  # of space onto the page
PLANE = re.compile(r"\s*([xyz])\s*=\s*(.+)", re.IGNORECASE)
IN_PLANE = 1.0  # mm that a joint may be off a plane
BETWEEN = 9  # points of an element as it is drawn bent


@dataclass(frozen=True)
class View:
    """What of a frame is drawn, and how it stands on the page.

    Attributes
    ----------
    frame : FrameOf
    model : Model
    cut : (int, float), optional
        The axis that is constant, and where it is, mm: the members of that plane alone.
    """

    frame: FrameOf
    model: Model
    cut: tuple[int, float] | None = None

    @classmethod
    def of(
        cls, frame: FrameOf, plane: str | None, show: DisplayUnits, model: Model | None = None
    ) -> View:
        """Return a view of the whole, or of a plane such as ``"y = 5 m"``.

        ``model`` is that of the frame as it is solved, where nobody says.

        Raises
        ------
        InputError
            If it cannot be read, or nothing lies in it.
        """
        if model is None:
            model = solution(frame).model
        if plane is None:
            return cls(frame, model)
        match = PLANE.fullmatch(plane)
        if match is None:
            raise InputError(f"{plane!r} is no plane such as 'y = 5 m' or 'z = 12 ft'")
        axis = "xyz".index(match[1].casefold())
        view = cls(frame, model, (axis, parse(match[2], "length")))
        if not view.chains:
            places = sorted({round(joint.place[axis], 3) for joint in frame.joints.values()})
            known = ", ".join(show.show(place, "length") for place in places[:12])
            raise InputError(f"no member lies in {plane}; joints are at {match[1]} = {known}")
        return view

    @property
    def across(self) -> int | None:
        """The axis that the page has not; None of a frame in space seen whole."""
        if self.cut is not None:
            return self.cut[0]
        return 1 if self.frame.is_plane else None

    @cached_property
    def chains(self) -> dict[str, Chain]:
        """The members that are seen, by mark."""
        every = self.model.chains
        if self.cut is None:
            return every
        axis, at = self.cut
        return {
            mark: chain
            for mark, chain in every.items()
            if np.all(np.abs(self.model.places[chain.nodes, axis] - at) <= IN_PLANE)
        }

    @cached_property
    def joints(self) -> dict[str, Array]:
        """Where the joints that are seen stand on the page."""
        through = {name for mark in self.chains for name in self._through(mark)}
        return {
            name: self.page(np.array([joint.place]))[0]
            for name, joint in self.frame.joints.items()
            if name in through
        }

    def _through(self, mark: str) -> list[str]:
        return list(self.frame.members[mark].through)

    def arms(self, ax: Axes) -> None:
        """Draw what is rigid from joints to the ends of members."""
        for chain in self.chains.values():
            ends = self.model.line(chain)[[0, -1]]
            for end, arm in zip(ends, chain.arms, strict=True):
                if arm.any():
                    line = self.page(np.array([end - arm, end]))
                    ax.plot(*line.T, color=INK, lw=3.0, solid_capstyle="butt", zorder=3)

    def page(self, places: Array) -> Array:
        """Return places, (n, 3), as points on the page, (n, 2)."""
        if self.across is None:
            return np.asarray(places @ ACROSS.T)
        return np.asarray(np.delete(places, self.across, axis=1))

    @property
    def extent(self) -> Array:
        """How wide and how high it is on the page, mm."""
        return np.asarray(np.ptp(np.array(list(self.joints.values())), axis=0))

    @property
    def size(self) -> float:
        """The larger of both."""
        return float(self.extent.max())

    def moved(self, chain: Chain, movements: Array, scale: float) -> Array:
        """Return points along a member as it moves: a cubic between the ends of elements.

        ``movements`` are those of all elements' ends, (E, 12).
        """
        s = np.linspace(0.0, 1.0, BETWEEN)
        own, e = movements[chain.elements], chain.axes
        ends = self.model.line(chain)
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
        return self.page(found.reshape(-1, 3))

    def supports(self, ax: Axes) -> None:
        """Mark what holds joints: a square where they may not turn, a wedge where they may.

        A ring where a joint of a plane frame is held across the plane alone.
        """
        supports = set(self.frame.supports())
        for name, point in self.joints.items():
            joint = self.frame.joints[name]
            if not joint.held:
                continue
            clamped = any(way.startswith("turn") for way in joint.held)
            marker, size = ("s" if clamped else "^", 8.0) if name in supports else ("o", 4.0)
            ax.plot(*point, marker=marker, color=INK, ms=size, mfc="white", mew=1.0, zorder=4)


def plain(ax: Axes, words: str) -> None:
    """Leave a drawing without axes, its words above it."""
    ax.set_aspect("equal", adjustable="datalim")
    ax.set_axis_off()
    ax.set_title(words, color=INK, fontsize=10, loc="left")
    ax.margins(0.12)


def without_overlaps(figure: Figure, labels: list[Text]) -> None:
    """Leave out labels that stand over others before them."""
    figure.draw_without_rendering()
    kept: list[Bbox] = []
    for label in labels:
        box = label.get_window_extent()
        if any(box.overlaps(other) for other in kept):
            label.set_visible(False)
        else:
            kept.append(box)
