"""What a frame resists movements with, under many loads at once: sums over its elements.

The elastic stiffness is one for all loads. What axial forces add to it, and what is left of it
where compression softens bending, is each load's own: it is found at the elements, from movements
to what these bring, by matrices of the whole frame with hardly an entry in a row.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.analysis.stiffness import transposed
from welbric.frames.model import OWN, Model
from welbric.frames.states import Stands


class Resistance:
    """What the free freedoms of a frame with nothing slack resist movements with.

    Parameters
    ----------
    model : Model
    unit : array, shape (E, 12, 12)
        What an axial force of one adds to the elements' stiffness.
    bending : array, shape (E, 12, 12), optional
        Their stiffness in bending, where compression takes of it.
    """

    def __init__(self, model: Model, unit: Array, bending: Array | None) -> None:
        free = np.flatnonzero(~model.held)
        self.elastic = model.elastic.whole()[free]
        self.parts = [(model.in_all(unit @ model.turn), transposed(model.turning[:, free]), "N")]
        if bending is not None:
            self.parts.append((model.in_all(bending @ model.turn), self.parts[0][1], "bends"))
        if model.arms.any():  # which turn with the elements' ends
            own = np.broadcast_to(np.eye(2 * OWN), model.arms.shape)
            back = transposed(model.in_all(own)[:, free])
            self.parts.append((model.in_all(model.arms), back, "N"))

    def __call__(self, moved: Array, on: Stands) -> Array:
        """Return that under movements, (F, C), of what stands on C loads: shape (n, C)."""
        found = np.asarray(self.elastic @ moved)
        for of_elements, back, by in self.parts:
            share: Any = on.N if by == "N" else on.bends
            if share is None:
                continue
            own = np.asarray(of_elements @ moved)
            each = own.reshape(len(share), len(own) // len(share), moved.shape[-1])
            each *= share[:, None] if by == "N" else share[:, None] - 1.0
            found += np.asarray(back @ own)
        return found
