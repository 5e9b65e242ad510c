"""The first natural frequency of a level beam that carries masses, in bending about one axis."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from welbric.analysis.beam import Line, bend_all
from welbric.analysis.diagram import Array, distinct
from welbric.analysis.member_loads import LineLoad, Load, PointLoad, breaks_of
from welbric.analysis.second_order import link_nodes
from welbric.members.design_member import GRAVITY, DesignMember
from welbric.standards.case import Elasticity

AT_ONCE = 100  # beams solved in one go: bounds the memory
STEEP = 1e-3  # sine of the slope from which on a beam is not level


@dataclass(frozen=True)
class Flexibility:
    """How the places of a level beam give way to forces at them.

    Attributes
    ----------
    nodes : array, shape (J,), mm
        The ends of 32 lengths of each span, at which the masses stand.
    G : array, shape (J, J), mm/N
    """

    nodes: Array
    G: Array

    def frequency(self, weights: Sequence[Load]) -> float | None:
        """Return the first natural frequency, Hz; None of what weighs nothing.

        Its square is one over the largest eigenvalue of flexibility times mass.

        Parameters
        ----------
        weights : sequence of LineLoad and PointLoad
            N/mm and N, downwards.
        """
        mass = _masses(self.nodes, weights) / (1000 * GRAVITY)
        if not mass.any():
            return None
        root = np.sqrt(mass)
        largest = float(np.linalg.eigvalsh(root[:, None] * self.G * root)[-1])
        return 1.0 / (2 * math.pi * math.sqrt(largest)) if largest > 0 else None


def flexibilities(
    members: Sequence[tuple[DesignMember, Elasticity]],
) -> list[Flexibility | None]:
    """Return how members give way in the plane of gravity; None of those that are not level."""
    level = [i for i, (one, _) in enumerate(members) if abs(math.sin(one.slope)) <= STEEP]
    found: list[Flexibility | None] = [None] * len(members)
    for some in (level[at : at + AT_ONCE] for at in range(0, len(level), AT_ONCE)):
        nodes = [_nodes(members[i][0]) for i in some]
        lines = [_line(*members[i], places) for i, places in zip(some, nodes, strict=True)]
        for i, places, unit in zip(some, nodes, bend_all(lines), strict=True):
            G = unit.deflection.at(places, np.zeros(len(places), dtype=bool))[: len(places)]
            found[i] = Flexibility(places, 0.5 * (G + G.T))
    return found


def _nodes(member: DesignMember) -> Array:
    return np.asarray(distinct(link_nodes(sorted({*member.span_lengths("major")}))))


def _line(member: DesignMember, steel: Elasticity, nodes: Array) -> Line:
    """Return a member under a unit force at each of its nodes."""
    units: list[list[Load]] = [[PointLoad(float(x), 1.0)] for x in nodes]
    supports, hinges = member.supports_about("major"), member.said.hinges
    ends = [end for _, end, _ in member.stretches]
    places = [*(s.at for s in supports), *hinges, *ends, *nodes]
    breaks = breaks_of(member.length, units, places)
    middle = 0.5 * (breaks[:-1] + breaks[1:])
    inertia = np.array([section.I_major for _, _, section in member.stretches])
    return Line(breaks, units, supports, steel.E * inertia[np.searchsorted(ends, middle)], hinges)


def _masses(nodes: Array, weights: Sequence[Load]) -> Array:
    """Return the weights as forces at nodes, to which they go as to the ends of simple beams."""
    found = np.zeros(len(nodes))
    for load in weights:
        if isinstance(load, PointLoad):
            _share(found, nodes, np.array([load.at]), np.array([load.P]))
        elif isinstance(load, LineLoad):
            inside = nodes[(nodes > load.start) & (nodes < load.end)]
            stops = np.array([load.start, *inside, load.end])
            a, b = stops[:-1], stops[1:]
            # Two Gauss points of each length between nodes are exact for a load that changes along.
            for share in (0.5 - math.sqrt(1 / 12), 0.5 + math.sqrt(1 / 12)):
                x = a + share * (b - a)
                along = (x - load.start) / (load.end - load.start)
                w = load.w_start + along * (load.w_end - load.w_start)
                _share(found, nodes, x, 0.5 * w * (b - a))
    return np.maximum(found, 0.0)


def _share(found: Array, nodes: Array, x: Array, forces: Array) -> None:
    """Add forces to the nodes on either side of them."""
    right = np.clip(np.searchsorted(nodes, x), 1, len(nodes) - 1)
    share = (x - nodes[right - 1]) / (nodes[right] - nodes[right - 1])
    np.add.at(found, right, share * forces)
    np.add.at(found, right - 1, (1 - share) * forces)
