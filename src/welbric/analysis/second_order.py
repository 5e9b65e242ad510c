"""Second-order bending of a member, by geometric stiffness: P-delta on it and at its ends.

An axial force N in a bent member acts like transverse loads (N w')'. The member is cut into short
straight links; at each node the links' forces differ by the angle between them, a transverse force
of N times that angle. Unit forces at the nodes are solved once, exactly, with the load cases; what
remains is one small set of linear equations for each combination:

    w = w1 + G r,    r = S(N) w

with w1 the first-order deflections, G the deflections by unit forces, and S the geometric stiffness
of the links. The second-order diagrams are then a superposition like any other. Axial forces are
those of first order. The error falls with the square of the number of links: 0.1 % of what the
second order adds with the default number, for a length that buckles in one half wave.
"""

from __future__ import annotations

import functools
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from welbric.analysis.beam import BeamResult, Support, bend
from welbric.analysis.diagram import Array, Diagram, distinct
from welbric.analysis.member_loads import Load, PointLoad, breaks_of

LINKS = 32  # in each span


@dataclass(frozen=True)
class NodalForces:
    """What the second order adds.

    Attributes
    ----------
    forces : array, shape (C, J)
        Transverse forces at the nodes, N; zero where there is no second-order equilibrium.
    share : array, shape (C,)
        The axial force over the one at which the member buckles elastically in the plane of
        bending; zero in tension.
    """

    forces: Array
    share: Array


def link_nodes(spans: Sequence[tuple[float, float]], links: int = LINKS) -> Array:
    """Return the nodes of the links of all spans, mm."""
    found = [a + (b - a) * np.arange(1, links + 1) / links for a, b in spans]
    return np.concatenate([[spans[0][0]], *found])


def nodal_forces(nodes: Array, first: Diagram, unit: BeamResult, axial: Diagram) -> NodalForces:
    """Return the forces at the nodes that stand for the axial force in the bent member.

    Parameters
    ----------
    nodes : array, shape (J,), mm
        From `link_nodes`.
    first : Diagram of C combinations
        First-order deflections, mm.
    unit : BeamResult of J cases
        By a unit force at each node.
    axial : Diagram of C combinations
        Tension positive, N.
    """
    side = np.zeros(len(nodes), dtype=bool)
    w1 = first.at(nodes, side)
    G = unit.deflection.at(nodes, side)
    middle = 0.5 * (nodes[:-1] + nodes[1:])
    pull = axial.at(middle, side[1:]) / np.diff(nodes)  # (C, J - 1)
    S = _geometric_stiffness(pull)
    share = _shares(S, G)
    forces = np.zeros((len(pull), len(nodes)))
    for c in np.flatnonzero((share < 1) & np.any(pull != 0, axis=1)):
        forces[c] = np.linalg.solve(np.eye(len(nodes)) - S[c] @ G, S[c] @ w1[c])
    return NodalForces(forces, share)


def _geometric_stiffness(pull: Array) -> Array:
    """Return S, shape (C, J, J), of the pull of each link over its length, shape (C, J - 1)."""
    # Force at a node: the pull along the link after it, less that along the link before it.
    links = pull.shape[1]
    S = np.zeros((len(pull), links + 1, links + 1))
    i = np.arange(links)
    for row, column, sign in ((i, i, -1), (i, i + 1, 1), (i + 1, i, 1), (i + 1, i + 1, -1)):
        S[:, row, column] += sign * pull
    return S


def critical_force(
    length: float, supports: Sequence[Support], EI: float, hinges: Sequence[float] = ()
) -> float:
    """Return the compression, the same all along, at which a uniform member buckles in a plane, N.

    Parameters
    ----------
    length : float, mm
    supports : sequence of Support
    EI : float, N mm2
    hinges : sequence of float, mm
    """
    if any(s.spring or s.rotation_spring for s in supports):
        return _critical_force(length, tuple(supports), EI, tuple(hinges))
    # Without springs it goes with the stiffness: one solution serves both axes of every section.
    return EI * _critical_force(length, tuple(supports), 1.0, tuple(hinges))


@functools.lru_cache(maxsize=256)
def _critical_force(
    length: float, supports: tuple[Support, ...], EI: float, hinges: tuple[float, ...]
) -> float:
    stops = distinct(np.array([0.0, length, *(s.at for s in supports), *hinges]))
    nodes = distinct(link_nodes(list(pairwise(stops.tolist()))))
    units: list[list[Load]] = [[PointLoad(float(x), 1.0)] for x in nodes]
    breaks = breaks_of(length, units, nodes.tolist())
    unit = bend(breaks, units, supports, EI, hinges)
    G = unit.deflection.at(nodes, np.zeros(len(nodes), dtype=bool))
    (share,) = _shares(_geometric_stiffness(-1.0 / np.diff(nodes)[None]), G)
    return float(1.0 / share)


def _shares(S: Array, G: Array) -> Array:
    """Return the largest eigenvalue of S G for each combination, at least zero."""
    # A trace of flexibility stands in for none at the supports.
    lower = np.linalg.cholesky(G + 1e-12 * np.diag(G).max() * np.eye(len(G)))
    values = np.linalg.eigvalsh(lower.T @ S @ lower)
    return np.asarray(np.maximum(values.max(axis=-1), 0.0))
