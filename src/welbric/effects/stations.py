"""The stations along members at which forces are known, of many members that are alike at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array, Flags, distinct
from welbric.members.segments import Segment

Indices = NDArray[np.intp]
QUARTERS = np.array([0.0, 0.25, 0.5, 0.75, 1.0])
BETWEEN = np.arange(1, 6) / 6  # of the gap between neighbouring places
SAME = 1e-9  # of a length, or of a millimetre


@dataclass(frozen=True)
class Base:
    """The stations of a member whatever acts: jumps, quarter points of segments, and between.

    Attributes
    ----------
    x : array, shape (n,), mm
        Stations, ascending; an inner break, and the end of a segment, twice.
    right : array of bool, shape (n,)
        Whether one means the right side of a jump.
    first, last : array of int, shape (G,)
        The stations between which each segment is.
    quarters : array of int, shape (G, 3, 2)
        Those at its quarter points, for either side of a jump.
    breaks : array of int, shape (I - 1,)
        Those on the right side of the inner breaks.
    """

    x: Array
    right: Flags
    first: Indices
    last: Indices
    quarters: Indices
    breaks: Indices

    @classmethod
    def of(
        cls,
        breaks: Array,
        segments: Sequence[Segment],
        several: bool = False,
        more: Sequence[float] = (),
    ) -> Base:
        """Return those of a member with breaks in its diagrams, mm, segments, and ``more``.

        Where ``several`` diagrams are curved, what they bring together may be largest where none of
        them turns: the gap between two neighbouring places has five more stations.
        """
        start, end = np.array([(s.start, s.end) for s in segments]).reshape(-1, 2).T[..., None]
        points = start + QUARTERS * (end - start)
        points[:, -1:] = end
        # The sides of the inner breaks, and of the segments' ends, are stations apart.
        sides = distinct(np.concatenate([breaks, points[:, [0, -1]].ravel()]))
        inner = sides[(sides > breaks[0]) & (sides < breaks[-1])]
        places = distinct(np.concatenate([points.ravel(), breaks, more]))
        between = places[:-1, None] + BETWEEN * np.diff(places)[:, None] if several else places[:0]
        x = np.concatenate([places, between.ravel(), inner])
        right = np.concatenate([places <= breaks[0], np.zeros(between.size, dtype=bool),
                                np.ones(len(inner), dtype=bool)])  # fmt: skip
        order = np.argsort(x, kind="stable")
        x, right = x[order], right[order]
        slack = SAME * max(1.0, float(breaks[-1]))
        # A segment has its own side of a jump at either end.
        at_start = (np.abs(x - start) <= slack) & ~right & (start > 0)
        at_end = (np.abs(x - end) <= slack) & right & (end < breaks[-1])
        inside = (x >= start - slack) & (x <= end + slack) & ~at_start & ~at_end
        last = len(x) - 1
        near = np.abs(x - points[:, 1:-1, None]) <= slack
        return cls(
            x, right, inside.argmax(axis=-1), last - inside[:, ::-1].argmax(axis=-1),
            np.stack([near.argmax(axis=-1), last - near[..., ::-1].argmax(axis=-1)], axis=-1),
            np.searchsorted(x, breaks[1:-1], side="right") - 1,
        )  # fmt: skip


@dataclass(frozen=True)
class Stations:
    """Stations of M members under C combinations, of each its own.

    Attributes
    ----------
    x : array, shape (M, C, X), mm
        Ascending; those that a combination has not got stand at the member's end.
    right : array of bool, shape (M, C, X)
        Whether a station means the right side of a jump.
    interval : array of int, shape (M, C, X)
        Between which breaks it is.
    first, last : array of int, shape (M, C, G)
        The stations between which each segment is.
    quarters : array of int, shape (M, C, G, 3, 2)
        The stations at its quarter points, for either side of a jump.
    count : array of int, shape (M,)
        Beyond so many a member has none of its own.
    """

    x: Array
    right: Flags
    interval: Indices
    first: Indices
    last: Indices
    quarters: Indices
    count: Indices

    @classmethod
    def of(cls, bases: Sequence[Base], breaks: Array, turning: Sequence[Array], C: int) -> Stations:
        """Return those of members that are alike: with as many stations whatever acts.

        They hold these, and where the diagrams of each combination turn.

        Parameters
        ----------
        bases : sequence of Base, M of them
        breaks : array, shape (M, I + 1), mm
        turning : sequence of array, shape (M, C, k), mm
            Where each diagram turns; NaN for none.
        C : int
        """
        M, n = len(bases), len(bases[0].x)
        x = np.broadcast_to(np.array([one.x for one in bases])[:, None], (M, C, n))
        right = np.broadcast_to(np.array([one.right for one in bases])[:, None], (M, C, n))
        at: Indices = np.broadcast_to(np.arange(n), (M, C, n))
        count = np.full(M, n)
        turning = [places for places in turning if places.shape[-1]]
        if turning:
            own = np.sort(np.concatenate(turning, axis=-1), axis=-1)  # those that are none are last
            own = own[..., : int((~np.isnan(own)).sum(axis=-1).max(initial=0))]
            real = ~np.isnan(own)
            count += real.sum(axis=-1).max(axis=-1, initial=0)
            own = np.where(real, own, breaks[:, None, -1:])
            x = np.concatenate([x, own], axis=-1)
            order = np.argsort(x, axis=-1, kind="stable")
            x = np.take_along_axis(x, order, -1)
            mixed = np.concatenate([right, np.zeros(own.shape, dtype=bool)], axis=-1)
            right = np.take_along_axis(mixed, order, -1)
            where = np.empty_like(order)
            every = np.broadcast_to(np.arange(order.shape[-1]), order.shape)
            np.put_along_axis(where, order, every, -1)
            at = where[..., :n]
        X = x.shape[-1]

        def of_each(name: str) -> Indices:
            """Return where the stations of a kind are, (M, C, ...)."""
            which = np.array([getattr(one, name) for one in bases])
            flat = np.broadcast_to(which.reshape(M, 1, -1), (M, C, which[0].size))
            return np.take_along_axis(at, flat, -1).reshape(M, C, *which.shape[1:])

        beyond = np.zeros((M, C, X), dtype=np.intp)
        np.put_along_axis(beyond, of_each("breaks"), 1, -1)
        interval = np.cumsum(beyond, axis=-1)
        # One that merely falls on a break means the side that its interval is on.
        lower = np.take_along_axis(breaks, interval.reshape(M, -1), -1).reshape(x.shape)
        last = of_each("last")
        # Those that there are none stand at the end of the segment that ends there.
        last = np.where(last == at[..., -1:], X - 1, last)
        return cls(x, right | ((x == lower) & (interval > 0)), interval, of_each("first"), last,
                   of_each("quarters"), count)  # fmt: skip
