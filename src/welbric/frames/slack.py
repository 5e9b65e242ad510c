"""The inverse of a frame's stiffness where some members are slack, from that of the whole frame.

A slack member takes its axial stiffness away: what is left differs from the elastic stiffness by
as many vectors as there are slack elements, and its inverse follows from the elastic one by a small
matrix (Sherman, Morrison and Woodbury), without another factor for each pattern of what is slack.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.analysis.stiffness import Solve, transposed
from welbric.frames.condensed import Condensed


class Slackened:
    """What inverts the elastic stiffness of a frame under loads that leave other members slack.

    Parameters
    ----------
    joints : Condensed
    invert : callable
        What inverts its stiffness with nothing slack, on free freedoms.
    """

    def __init__(self, joints: Condensed, invert: Solve) -> None:
        self.invert = invert
        self.one_way = np.flatnonzero(joints.one_way)
        self.axial = joints.axial[self.one_way]
        self.of_free = joints.stretching[self.one_way][:, joints.free]
        self.pulls = transposed(self.of_free)
        dense = self.pulls if isinstance(self.pulls, np.ndarray) else self.pulls.toarray()
        self.moves = invert(dense)  # under a pair of forces that stretches each
        self.stretches = np.asarray(self.of_free @ self.moves)
        self.known: dict[bytes, tuple[Any, Array] | None] = {}

    def inverse(self, carries: Array) -> Callable[[Array, Any], Array]:
        """Return what inverts some columns, as which lengths carry in each, (S, C)."""
        own = carries[self.one_way]
        keys = [column.tobytes() for column in own.T]
        kinds = list(dict.fromkeys(keys))
        label = np.array([kinds.index(key) for key in keys])
        small = [self._small(key, own[:, keys.index(key)]) for key in kinds]

        def inverse(load: Array, which: Any) -> Array:
            found, of = self.invert(load), label[which]
            stretch = np.asarray(self.of_free @ found)
            more = np.zeros_like(stretch)
            for kind in np.unique(of):
                if (known := small[kind]) is not None:
                    slack, adds = known
                    at = np.ix_(slack, np.flatnonzero(of == kind))
                    more[at] = adds @ stretch[at]
            return np.asarray(found + self.moves @ more)

        return inverse

    def _small(self, key: bytes, carries: Array) -> tuple[Any, Array] | None:
        """Return which are slack, and by what their stretches add to movements; None where nothing.

        Where the frame is as good as a mechanism without them, what it is with them has to do.
        """
        if key not in self.known:
            slack = np.flatnonzero(carries < 1.0)
            lost = (1.0 - carries[slack]) * self.axial[slack]
            left = np.diag(1.0 / lost) - self.stretches[np.ix_(slack, slack)]
            try:
                np.linalg.cholesky(left)
                inverse = np.asarray(np.linalg.inv(left), dtype=float)
                self.known[key] = (slack, inverse) if len(slack) else None
            except np.linalg.LinAlgError:
                self.known[key] = None
        return self.known[key]
