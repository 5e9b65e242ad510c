"""What turns in a frame without resistance, and moves no joint: it takes no part, and is held.

A brace that is pinned at both ends may spin about itself, and the joint with it whose chord is left
free to twist. Nothing comes of it, unless a load works on it: then the frame is a mechanism.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from welbric.analysis.diagram import Array
from welbric.analysis.stiffness import sparse_factor
from welbric.errors import InputError
from welbric.frames.loads import Loading
from welbric.frames.model import FREEDOMS, Model, loose
from welbric.frames.states import State

AT_ONCE, PASSES = 32, 40  # motions that are found at once, and how often
EPSILON = 1e-9  # of its stiffness that each freedom gets to begin with
NOTHING = 1e-10  # of its stiffness that a motion without resistance meets, by rounding
TRACE = 1e-6  # of the largest moment


def without_spinning(model: Model) -> Model | None:
    """Return a model in which what spins without resistance is held; None where nothing does."""
    from scipy.linalg import qr
    from scipy.sparse import csc_array, diags_array

    count = FREEDOMS * len(model.places)
    turns = np.ones(model.freedoms, dtype=bool)
    turns[:count] = np.tile([False, False, False, True, True, True], len(model.places))
    at_ends = np.ones(model.freedoms, dtype=bool)
    at_ends[FREEDOMS * len(model.joints) : count] = False
    held, idle = model.held.copy(), model.idle.copy()
    elements = model.in_freedoms(model.stiffness()) + model.joined
    rows = np.broadcast_to(model.numbers[:, :, None], elements.shape).ravel()
    columns = np.broadcast_to(model.numbers[:, None, :], elements.shape).ravel()
    shape = (model.freedoms, model.freedoms)
    whole = csc_array((elements.ravel(), (rows, columns)), shape=shape)
    whole = whole + diags_array(model.resisting).tocsc()
    random = np.random.default_rng(0)
    for _ in range(PASSES):
        own = np.flatnonzero(turns & ~held)
        if not len(own):
            break
        K = whole[own][:, own]
        scale = 1.0 / np.sqrt(np.maximum(K.diagonal(), 1e-300))
        K = (diags_array(scale) @ K @ diags_array(scale)).tocsc()
        stiffer = (K + diags_array(np.full(len(own), EPSILON))).tocsc()
        found = random.standard_normal((len(own), min(AT_ONCE, len(own))))
        solve = sparse_factor(stiffer, model.freedom_places[own]).solve
        for _ in range(3):
            found, _ = np.linalg.qr(solve(found))
        resists, mixed = np.linalg.eigh(found.T @ (K @ found))
        free = found @ mixed[:, resists < NOTHING]
        if not free.shape[1]:
            break
        # Of joints and of ends: nothing spins between joints alone.
        own, free = own[at_ends[own]], free[at_ends[own]]
        _, _, order = qr(free.T, mode="economic", pivoting=True)
        taken = own[order[: free.shape[1]]]
        held[taken] = idle[taken] = True
    if (idle == model.idle).all():
        return None
    return replace(model, held=held, idle=idle)


def refuse_loads_on_what_spins(model: Model, loading: Loading, first: State) -> None:
    """Refuse loads that turn what nothing resists.

    Raises
    ------
    InputError
        Where one works on what was held because it takes no part.
    """
    if not model.idle.any():
        return
    left: Array = model.on_nodes(first.forces) - loading.nodal
    _, moments = first.largest
    scale = np.maximum(moments, np.abs(loading.nodal).max(axis=0, initial=0.0))
    off = np.where(model.idle[:, None], np.abs(left), 0.0) > TRACE * np.maximum(scale, 1e-9)
    if off.any():
        where, way = loose(model, int(np.flatnonzero(off.any(axis=1))[0]))
        what = f"turns about {way[-1]}" if way.startswith("turn ") and len(way) == 6 else "turns"
        raise InputError(
            f"{where}: {what} without resistance, and loads turn it: nothing there takes a moment"
        )
