"""By how much each member lets a frame move somewhere: virtual work, element by element."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from welbric.analysis.diagram import Array
from welbric.frames.model import OWN, Model
from welbric.frames.states import Loads, State, solve

STIFF = ("EA", "GJ", "EI_major", "EI_minor")
# Which of an element's own freedoms each stiffness is about.
ABOUT = {"EA": (0, 6), "GJ": (5, 11), "EI_major": (1, 2, 7, 8), "EI_minor": (3, 4, 9, 10)}


@dataclass(frozen=True)
class Wanted:
    """A movement of a frame that is looked at: a sum of freedoms' movements under one load.

    Attributes
    ----------
    freedoms : dict of int to float
        Freedom -> what its movement counts.
    load : int
        The number of the load.
    """

    freedoms: dict[int, float]
    load: int


def shares(model: Model, state: State, wanted: list[Wanted]) -> dict[str, Array]:
    """Return what each member adds to movements, by its stiffnesses: shape (movements, 4).

    The sum over all members is the movement that the state would have without what goes beyond the
    first order; springs take the rest.
    """
    nodal = np.zeros((model.freedoms, len(wanted)))
    for i, one in enumerate(wanted):
        for freedom, counts in one.freedoms.items():
            nodal[freedom, i] += counts
    still = np.zeros_like(nodal)
    fixed = np.zeros((len(model.ends), OWN, len(wanted)))
    virtual = solve(model, Loads(fixed, nodal, still))
    k = model.stiffness()
    which = [one.load for one in wanted]
    real = state.movements[..., which]
    found: dict[str, Array] = {}
    for mark, chain in model.chains.items():
        own = chain.elements
        parts = []
        for name in STIFF:
            about = np.array(ABOUT[name])
            part = k[own][:, about[:, None], about]
            parts.append(
                np.einsum("eil,eij,ejl->l", virtual.movements[own][:, about], part,
                          real[own][:, about])
            )  # fmt: skip
        found[mark] = np.stack(parts, axis=-1)
    return found
