"""What stands for a frame that is not as it is drawn: out of plumb, and never in exact symmetry."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from welbric.analysis.diagram import Array
from welbric.frames.model import Chain, Model
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination

NUDGE = 1e-4  # of the gravity loads


def out_of_plumb(
    frame: FrameOf, model: Model, combinations: Sequence[Combination], fixed: Array, nodal: Array
) -> Array:
    """Return the forces that stand for a frame out of plumb, shape (6 n, C)."""
    found = np.zeros_like(nodal)
    if not frame.job.frame.imperfections:
        return found
    code = next(frame.job.code_of(member) for member in frame.members.values())
    z = model.places[:, 2]
    columns = [chain for chain in model.chains.values() if abs(chain.axes[0, 2]) > 0.9]
    tall = float(z.max() - z.min())
    if tall <= 0 or not columns:
        return found
    share = code.second_order.out_of_plumb(frame.job.design, tall, _in_a_row(columns))
    load = nodal - model.on_nodes(fixed)
    acting, leaning = model.of_nodes(load), model.of_nodes(found)
    down = -acting[:, 2]
    for c, combination in enumerate(combinations):
        if combination.leaning is not None:
            way, sense = combination.leaning
            at = "xy".index(way)
        else:  # as the loads push it
            sideways = acting[:, :2, c].sum(axis=0)
            at = int(np.argmax(np.abs(sideways)))
            sense = -1.0 if sideways[at] < 0 else 1.0
        leaning[:, at, c] += share * sense * down[:, c]
    return found


def nudges(frame: FrameOf, model: Model, fixed: Array, nodal: Array) -> Array:
    """Return a trace of the gravity loads along x and along y, where nothing else pushes so.

    A bay whose braces gravity slackens stands as soon as it leans on one of them. In exact symmetry
    it would never find out.
    """
    acting = model.of_nodes(nodal - model.on_nodes(fixed))
    found = np.zeros_like(nodal)
    down = -acting[:, 2]
    least = NUDGE * np.abs(down).sum(axis=0)
    for at in (0,) if frame.is_plane else (0, 1):
        still = np.abs(acting[:, at].sum(axis=0)) < least
        model.of_nodes(found)[:, at] += NUDGE * down * still
    return found


def _in_a_row(columns: Sequence[Chain]) -> int:
    """Return how many columns stand side by side: places in plan, of a frame in space its rows."""
    plan = {(round(c.member.said.frame.joints[c.member.said.through[0]].place[0]),
             round(c.member.said.frame.joints[c.member.said.through[0]].place[1]))
            for c in columns}  # fmt: skip
    return max(1, min(len({x for x, _ in plan}), len(plan)))
