"""Storeys of a frame between the levels that its columns reach, and how they drift."""

from __future__ import annotations

import itertools

import numpy as np

from welbric.analysis.diagram import Array
from welbric.frames.model import Chain, Model
from welbric.inputs.frame import SAME_LEVEL, FrameOf

STANDS = 0.9  # of its length that a member rises, which then stands in storeys


def levels_of(frame: FrameOf, model: Model) -> list[float]:
    """Return the heights of the levels between storeys, mm, the lowest first.

    As they are said, or those that standing members reach.
    """
    if frame.job.frame.levels:
        return frame.job.frame.levels
    if "levels" not in frame.known:
        standing = [c for c in model.chains.values() if stands(c)]
        names = {name for c in standing for name in c.member.said.through}
        heights = sorted({frame.joints[name].place[2] for name in names})
        frame.known["levels"] = [
            z for i, z in enumerate(heights) if i == 0 or z - heights[i - 1] > SAME_LEVEL
        ]
    levels: list[float] = frame.known["levels"]
    return levels


def stands(chain: Chain) -> bool:
    """Whether a member stands."""
    return abs(float(chain.axes[0, 2])) > STANDS


def storey_of(model: Model, chain: Chain, bottom: float, top: float) -> tuple[int, int] | None:
    """Return the nodes of a member at the top and at the bottom of a storey.

    None where it does not reach both.
    """
    places = model.places[chain.nodes, 2]
    pair = [int(np.argmin(np.abs(places - z))) for z in (top, bottom)]
    if np.abs(places[pair] - (top, bottom)).max() > SAME_LEVEL:
        return None
    return int(chain.nodes[pair[0]]), int(chain.nodes[pair[1]])


def drifts_of(model: Model, chain: Chain, bottom: float, top: float, moved: Array) -> Array | None:
    """Return the drift of a storey at a member along x and y, shape (2, C); None as above."""
    nodes = storey_of(model, chain, bottom, top)
    if nodes is None:
        return None
    high, low = model.of_nodes(moved)[list(nodes), :2]
    return np.asarray(high - low)


def largest_drifts(frame: FrameOf, model: Model, moved: Array) -> Array:
    """Return the largest drift of any storey over its height, along x or y, shape (C,)."""
    found = np.zeros(moved.shape[1])
    standing = [chain for chain in model.chains.values() if stands(chain)]
    for bottom, top in itertools.pairwise(levels_of(frame, model)):
        for chain in standing:
            drifts = drifts_of(model, chain, bottom, top, moved)
            if drifts is not None:
                found = np.maximum(found, np.abs(drifts).max(axis=0) / (top - bottom))
    return found
