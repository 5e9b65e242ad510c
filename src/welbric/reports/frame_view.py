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
from welbric.frames.loads import Loading
from welbric.frames.model import Chain, Model
from welbric.frames.recovery import parts_of, recovered
from welbric.frames.solve import solution
from welbric.frames.states import State
from welbric.inputs.frame import FrameOf
from welbric.reports.figure_files import INK
from welbric.reports.figures import GOVERNING
from welbric.units import DisplayUnits, parse

ACROSS = np.array([[0.87, -0.5, 0.0], [0.25, 0.43, 1.0]])  # of space onto the page
PLANE = re.compile(r"\s*([xyz])\s*=\s*(.+)", re.IGNORECASE)
IN_PLANE = 1.0  # mm that a joint may be off a plane
BETWEEN = 17  # points of an element as it is drawn bent
Moves = tuple[Array, Array]  # of points along a member: where, (n,), and how they move, (n, 3), mm


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

    def drawn(self, ax: Axes, moves: dict[str, Moves], scale: float) -> None:
        """Draw the members as they stand, and as points along them move, so many times."""
        for mark, chain in self.chains.items():
            x, moved = moves[mark]
            ax.plot(*self.page(self.model.line(chain)).T, color="#b8c2c0", lw=1.2, zorder=1)
            after = self.page(self.model.line(chain, x) + scale * moved)
            ax.plot(*after.T, color=GOVERNING, lw=1.8, zorder=2)

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


def moves_of(model: Model, loading: Loading, state: State, factors: Array) -> dict[str, Moves]:
    """Return how points along each member move under one load; loads and bulges bend it too.

    ``factors``, shape (1, L), are those of the load cases in it.
    """
    s, found = np.linspace(0.0, 1.0, BETWEEN), {}
    along = recovered(model, parts_of(model, loading, model.chains), state, factors)
    for (mark, chain), of in zip(model.chains.items(), along, strict=True):
        own, e = state.movements[chain.elements, :, 0], chain.axes
        x = (chain.places[:-1, None] + np.diff(chain.places)[:, None] * s).ravel()
        right = np.tile(s < 1.0, len(own))
        ways = (
            ((own[:, :1] * (1 - s) + own[:, 6:7] * s).ravel(), e[0]),
            (of.major.deflection.at(x, right)[0], -e[2]),
            (of.minor.deflection.at(x, right)[0], -e[1]),
        )
        found[mark] = x, np.sum([np.outer(by, way) for by, way in ways], axis=0)
    return found


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
