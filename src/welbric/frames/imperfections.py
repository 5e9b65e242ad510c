"""What stands for a frame that is not as it is drawn: out of plumb, and never in exact symmetry."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from welbric.analysis.diagram import Array
from welbric.frames.condensed import Condensed
from welbric.frames.loads import Loading
from welbric.frames.model import SLIDES, Chain, Model
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination

NUDGE = 1e-4  # of the gravity loads
STANDS = 0.9  # sine of the slope from which on a member is a column
HEAVY = 0.5  # of the average of a row (5.3.2(3) of EN 1993-1-1)


def out_of_plumb(
    frame: FrameOf,
    model: Model,
    combinations: Sequence[Combination],
    loading: Loading,
    factors: Array,
    N: Array,
    pushed: float | None = None,
    by_drift: Array | None = None,
) -> Array:
    """Return the forces that stand for a frame out of plumb, shape (F, C).

    ``factors``, shape (C, L), are those of the load cases in the combinations; ``N``, shape (E, C),
    the axial forces of the elements in plumb, to the first order; ``pushed`` the share of gravity
    loads of combinations that push it sideways, where that is another one; ``by_drift``, shape
    (C,), that of each combination, where it goes by its drift.
    """
    found = np.zeros((model.freedoms, len(factors)))
    if not frame.job.frame.imperfections:
        return found
    code, options = frame.code
    z = model.places[:, 2]
    columns = [chain for chain in model.chains.values() if abs(chain.axes[0, 2]) > STANDS]
    tall = float(z.max() - z.min())
    if tall <= 0 or not columns:
        return found
    acting, leaning = _at_joints(model, loading) @ factors.T, model.of_nodes(found)
    down = -acting[:, 2]
    rows = _Rows(model, columns, N)
    for c, combination in enumerate(combinations):
        if combination.leaning is not None:
            way, sense = combination.leaning
            at = "xy".index(way)
        else:  # as the loads push it
            sideways = acting[:, :2, c].sum(axis=0)
            at = int(np.argmax(np.abs(sideways)))
            sense = -1.0 if sideways[at] < 0 else 1.0
        share = code.second_order.out_of_plumb(options, tall, rows.columns(at, c))
        if combination.leaning is None and pushed is not None:
            share = pushed
        if by_drift is not None:
            share = float(by_drift[c])
        leaning[:, at, c] += share * sense * down[:, c]
    return found


def _at_joints(model: Model, loading: Loading) -> Array:
    """Return what acts on nodes, (n, 6, L), all of it brought to joints by the lever."""
    load = loading.nodal - model.on_nodes(_by_lever(model, loading.fixed))
    return model.kept(Condensed).at_joints(model.of_nodes(load))


def _by_lever(model: Model, fixed: Array) -> Array:
    """Return what ends of elements take, (E, 12, C), with what ends that turn freely would take."""
    found = fixed.copy()
    for at in SLIDES.values():
        turned = (fixed[:, at + 1] + fixed[:, at + 7]) / model.lengths[:, None]
        found[:, at] -= turned
        found[:, at + 6] += turned
    return found


class _Rows:
    """The columns of a frame by their places in plan, with what presses each."""

    def __init__(self, model: Model, columns: Sequence[Chain], N: Array) -> None:
        by_place: dict[tuple[int, int], Array] = {}
        for chain in columns:
            low = chain.nodes[int(np.argmin(model.places[chain.nodes, 2]))]
            place = (round(model.places[low, 0]), round(model.places[low, 1]))
            pressed = np.maximum(-N[chain.elements], 0.0).max(axis=0)
            by_place[place] = np.maximum(by_place.get(place, pressed), pressed)
        self.places = np.array(list(by_place))
        self.pressed = np.array(list(by_place.values()))

    def columns(self, along: int, c: int) -> int:
        """Return how many columns stand in a row along x or y: the least of all rows.

        Those count that carry half of what the columns of their row carry on average.
        """
        fewest = len(self.places)
        across = self.places[:, 1 - along]
        for line in np.unique(across):
            row = self.pressed[across == line, c]
            fewest = min(fewest, int((row >= HEAVY * row.mean()).sum()))
        return max(fewest, 1)


def nudges(frame: FrameOf, model: Model, loading: Loading, factors: Array, pushed: Array) -> Array:
    """Return a trace of the gravity loads along x and along y, where nothing else pushes so.

    A bay whose braces gravity slackens stands as soon as it leans on one of them. In exact symmetry
    it would never find out. ``pushed``, (F, C), is what stands for it out of plumb.
    """
    acting = _at_joints(model, loading) @ factors.T + model.of_nodes(pushed)
    found = np.zeros_like(pushed)
    down = -acting[:, 2]
    least = NUDGE * np.abs(down).sum(axis=0)
    for at in (0,) if frame.is_plane else (0, 1):
        still = np.abs(acting[:, at].sum(axis=0)) < least
        model.of_nodes(found)[:, at] += NUDGE * down * still
    return found
