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
from welbric.analysis.stiffness import Solve
from welbric.frames.model import Model


class Slackened:
    """What inverts the elastic stiffness of a frame under loads that leave other members slack.

    Parameters
    ----------
    model : Model
    invert : callable
        What inverts its stiffness with nothing slack, on free freedoms.
    """

    def __init__(self, model: Model, invert: Solve) -> None:
        self.invert = invert
        self.one_way = np.flatnonzero(model.one_way)
        self.axial = (model.EA / model.lengths)[self.one_way]
        stretch = model.turn[self.one_way, 6] - model.turn[self.one_way, 0]  # (m, 24)
        along = np.zeros((model.freedoms, len(self.one_way)))
        each = np.broadcast_to(np.arange(len(self.one_way))[:, None], stretch.shape)
        np.add.at(along, (model.numbers[self.one_way], each), stretch)
        self.along = along[~model.held]
        self.moves = invert(self.along)  # under a pair of forces that stretches each
        self.stretches = self.along.T @ self.moves
        self.known: dict[bytes, tuple[Any, Array] | None] = {}

    def inverse(self, carries: Array) -> Callable[[Array, Any], Array]:
        """Return what inverts some columns, as which elements carry in each, (E, C)."""
        own = carries[self.one_way]
        keys = [column.tobytes() for column in own.T]
        kinds = list(dict.fromkeys(keys))
        label = np.array([kinds.index(key) for key in keys])
        small = [self._small(key, own[:, keys.index(key)]) for key in kinds]

        def inverse(load: Array, which: Any) -> Array:
            found, of = self.invert(load), label[which]
            for kind in np.unique(of):
                if (known := small[kind]) is not None:
                    slack, matrix = known
                    some = of == kind
                    stretch = self.along[:, slack].T @ found[:, some]
                    found[:, some] += self.moves[:, slack] @ (matrix @ stretch)
            return found

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
