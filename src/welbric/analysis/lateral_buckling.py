"""Lateral-torsional buckling by eigenvalue: the elastic critical load factor of a member.

A thin-walled member under moments about its major axis and axial force, free to move laterally (u),
to twist (phi) and to warp. Both are cubics between nodes (Hermite), so that every node has four
freedoms: u, u', phi, phi'. With the stresses of first-order theory the second-order energy is

    1/2 integral of  EI u''^2 + GJ phi'^2 + ECw phi''^2
      + factor (N u'^2 + 2 ys N u' phi' + (N r^2 - M beta) phi'^2 - 2 M phi u'' - q a phi^2)

with N positive in tension, M in sagging, the load q at the height a above the shear centre, ys the
shear centre's height above the centroid, r the polar radius about it and beta the monosymmetry
constant. Many sections are solved at once, as arrays of small dense matrices.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.errors import InputError

# Gauss' rule with five points on (0, 1): exact up to the ninth power.
_POINTS, _WEIGHTS = (
    np.array([0.04691007703066802, 0.23076534494715845, 0.5, 0.7692346550528415,
              0.953089922969332]),
    np.array([0.11846344252809454, 0.23931433524968324, 0.28444444444444444, 0.23931433524968324,
              0.11846344252809454]),
)  # fmt: skip
SAME_PLACE = 1e-4  # of the length: nearer places share a node, for shorter elements lose digits
LARGEST = 1e100  # N mm: beyond it products of loads are no numbers
LEAST_ELEMENTS = 8  # the factor within 0.002 % under uniform moment


@dataclass(frozen=True)
class Hold:
    """What holds the member laterally at a place.

    Attributes
    ----------
    at : float, mm
    u, twist, turn, warping : bool
        Whether the shear centre is held laterally, against twisting, against turning in plan and
        against warping.
    height : float, optional
        A rigid lateral hold at this height above the shear centre, mm.
    spring, twist_spring, turn_spring, warping_spring : float
        N/mm at the height (or the shear centre); N mm per radian against twisting and against
        turning in plan; N mm3 against warping, for a twist of one radian in a mm.
    """

    at: float
    u: bool = False
    twist: bool = False
    turn: bool = False
    warping: bool = False
    height: float | None = None
    spring: float = 0.0
    twist_spring: float = 0.0
    turn_spring: float = 0.0
    warping_spring: float = 0.0


@dataclass(frozen=True)
class AllAlong:
    """A hold without a gap: lateral, at a height above the shear centre, mm, rigid or a spring.

    `spring` is in N/mm for each mm, `twist_spring` in N mm per radian for each mm; without either
    the lateral hold is rigid.
    """

    height: float
    start: float = 0.0
    end: float = np.inf
    spring: float = 0.0
    twist_spring: float = 0.0


@dataclass(frozen=True)
class Stiffnesses:
    """What a section brings to lateral buckling: arrays of shape (S,), N and mm.

    Where the section changes along the member the arrays have the shape (S, J - 1), a value for
    each element.

    Attributes
    ----------
    EI : array
        About the minor axis.
    GJ, ECw : array
    beta : array
        Monosymmetry constant, negative where the larger flange is up.
    shear_height : array
        Of the shear centre above the centroid.
    r_polar : array
        Polar radius about the shear centre.
    """

    EI: Any
    GJ: Any
    ECw: Any
    beta: Any = 0.0
    shear_height: Any = 0.0
    r_polar: Any = 0.0


@dataclass(frozen=True)
class Buckling:
    """The elastic critical load factor and its mode.

    Attributes
    ----------
    factor : array, shape (S,)
        Infinite where the loads cannot make the member buckle.
    x : array, shape (J,), mm
    u, twist : array, shape (S, J)
        The mode at the nodes, scaled to a largest lateral movement of 1 (or a largest twist).
    """

    factor: Array
    x: Array
    u: Array
    twist: Array


def mesh(length: float, places: Sequence[float], least: int = LEAST_ELEMENTS) -> Array:
    """Return nodes at every place, with at least so many elements in all.

    Places that are as good as one, by `SAME_PLACE`, share a node.
    """
    near = SAME_PLACE * length
    stops = [0.0]
    for place in sorted(places):
        if stops[-1] + near < place < length - near:
            stops.append(place)
    stops.append(length)
    found = [np.zeros(1)]
    for a, b in pairwise(stops):
        share = least * (b - a) / length
        count = max(2 if share > 0.25 else 1, int(np.ceil(share)))
        found.append(a + (b - a) * np.arange(1, count + 1) / count)
    return np.concatenate(found)


def gauss_places(nodes: Array) -> Array:
    """Return the places at which moments and loads are wanted, shape (elements, 5), mm."""
    return np.asarray(nodes[:-1, None] + np.diff(nodes)[:, None] * _POINTS)


def buckling(
    nodes: Array,
    stiffnesses: Stiffnesses,
    moment: Array,
    axial: Array,
    load_height: Array,
    point_height: Sequence[tuple[float, float]],
    holds: Sequence[Hold | AllAlong],
) -> Buckling:
    """Return the factor on all loads at which the member buckles laterally.

    Parameters
    ----------
    nodes : array, shape (J,), mm
        From `mesh`, with the holds and the point loads among them.
    stiffnesses : Stiffnesses
    moment, axial : array, shape (J - 1, 5)
        At `gauss_places`; N mm sagging, N tension.
    load_height : array, shape (J - 1, 5)
        Line load times its height above the shear centre, N.
    point_height : sequence of (place, force times height), mm and N mm
    holds : sequence of Hold and AllAlong

    Raises
    ------
    InputError
        If the holds leave the member free to move laterally or to twist without resistance, or the
        loads are beyond numbers.
    """
    L = np.diff(nodes)
    EI, GJ, ECw, beta, ys, r = (
        np.atleast_1d(np.asarray(v, dtype=float))
        for v in (
            stiffnesses.EI, stiffnesses.GJ, stiffnesses.ECw, stiffnesses.beta,
            stiffnesses.shear_height, stiffnesses.r_polar,
        )
    )  # fmt: skip
    EI, GJ, ECw, beta, ys, r = np.broadcast_arrays(
        *(v[:, None] if v.ndim == 1 else v for v in (EI, GJ, ECw, beta, ys, r))
    )
    H, H1, H2 = _hermite(L)  # (E, 5, 4) each
    weight = L[:, None] * _WEIGHTS

    def integral(factor: Array, a: Array, b: Array) -> Array:
        """Return the integral of factor a_i b_j over each element, shape (E, 4, 4)."""
        return np.asarray(np.einsum("eg,egi,egj->eij", weight * factor, a, b))

    one = np.ones_like(moment)
    total = 4 * len(nodes)
    bend, twist = integral(one, H2, H2), integral(one, H1, H1)
    pull = integral(axial, H1, H1)
    wagner, couple = integral(moment, H1, H1), integral(moment, H2, H)
    lifted = integral(load_height, H, H)
    scatter = _Scatter(len(nodes))
    uu, pp, up = scatter.uu, scatter.pp, scatter.up
    if not max(np.abs(moment).max(), np.abs(axial).max()) < LARGEST:
        raise InputError("the loads are too large to find when the member buckles")

    def times(values: Array, put: Callable[[Array], Array], element: Array) -> Array:
        """Return the whole matrix of elements times values, of the section or of each element."""
        if values.shape[1] == 1:
            return values[:, :, None] * put(element)
        return put(values[:, :, None, None] * element)

    K = times(EI, uu, bend) + times(ECw, pp, bend) + times(GJ, pp, twist)
    G = uu(pull) + times(r**2, pp, pull) - times(beta, pp, wagner)
    coupling = times(ys, up, pull) - up(couple)
    G = G + coupling + coupling.transpose(0, 2, 1) - pp(lifted)
    for place, value in point_height:
        number = 4 * int(np.argmin(np.abs(nodes - place))) + 2
        G[:, number, number] -= value

    middle = 0.5 * (nodes[:-1] + nodes[1:])
    ties = _Ties(len(nodes))
    for hold in holds:
        if isinstance(hold, AllAlong):
            along = (middle > hold.start) & (middle < hold.end)
            if not (hold.spring > 0 or hold.twist_spring > 0):
                # The cubics agree all along where their values and slopes agree at the nodes.
                held_nodes = np.append(along, False) | np.append(False, along)
                for node in np.flatnonzero(held_nodes).tolist():
                    ties.tie(4 * node, hold.height)
                    ties.tie(4 * node + 1, hold.height)
                continue
            mass = integral(one * along[:, None], H, H)
            cross = up(mass) + up(mass).transpose(0, 2, 1)
            held = uu(mass) - hold.height * cross + hold.height**2 * pp(mass)
            K = K + hold.spring * held + hold.twist_spring * pp(mass)
            continue
        first = 4 * int(np.argmin(np.abs(nodes - hold.at)))
        for i, is_held in enumerate((hold.u, hold.turn, hold.twist, hold.warping)):
            if is_held:
                ties.fix(first + i)
        if hold.height is not None and not hold.spring:
            ties.tie(first, hold.height)
        a, k = hold.height or 0.0, hold.spring
        K[:, first, first] += k
        K[:, first, first + 2] -= k * a
        K[:, first + 2, first] -= k * a
        K[:, first + 2, first + 2] += k * a**2 + hold.twist_spring
        K[:, first + 1, first + 1] += hold.turn_spring
        K[:, first + 3, first + 3] += hold.warping_spring
    gone, tied = ties.settled()
    free = np.array([i for i in range(total) if i not in gone and i not in tied])
    if len(free) == 0:
        return Buckling(np.full(len(K), np.inf), nodes, *np.zeros((2, len(K), len(nodes))))
    # A lateral freedom that follows the twist beside it goes into that one.
    follows = np.array(list(tied), dtype=np.intp)
    heights = np.array([tied[i] for i in tied])
    for matrix in (K, G):
        matrix[:, :, follows + 2] += heights * matrix[:, :, follows]
        matrix[:, follows + 2, :] += heights[:, None] * matrix[:, follows, :]
    return _solve(K[:, free][:, :, free], G[:, free][:, :, free], free, nodes, follows, heights)


class _Ties:
    """What rigid holds ask of the freedoms: to be zero, or to follow the twist.

    A lateral freedom stands two before its twist: u and phi, u' and phi'.
    """

    def __init__(self, count: int) -> None:
        self.fixed = np.zeros(4 * count, dtype=bool)
        self.heights: dict[int, set[float]] = {}

    def fix(self, freedom: int) -> None:
        """Ask a freedom to be zero."""
        self.fixed[freedom] = True

    def tie(self, freedom: int, height: float) -> None:
        """Ask a lateral freedom to be its twist times a height."""
        self.heights.setdefault(int(freedom), set()).add(height)

    def settled(self) -> tuple[set[int], dict[int, float]]:
        """Return the freedoms that are zero, and those that follow their twist, with the height."""
        gone = {int(i) for i in np.flatnonzero(self.fixed)}
        tied: dict[int, float] = {}
        for u, heights in self.heights.items():
            twist = u + 2
            if len(heights) > 1 or (u in gone and heights != {0.0}):
                gone |= {u, twist}  # two lines of the section stay where they are
            elif twist in gone or heights == {0.0}:
                gone.add(u)
            else:
                (tied[u],) = heights
        return gone, tied


def _solve(K: Array, G: Array, free: Any, nodes: Array, follows: Any, heights: Array) -> Buckling:
    # Each freedom in units of its own stiffness keeps the matrices well scaled.
    scale = 1.0 / np.sqrt(np.einsum("sii->si", K))
    K = K * scale[:, :, None] * scale[:, None, :]
    G = G * scale[:, :, None] * scale[:, None, :]
    try:
        lower = np.linalg.cholesky(K)
    except np.linalg.LinAlgError:
        raise InputError(
            "nothing keeps the member from moving laterally or twisting: hold it at its supports"
        ) from None
    if np.min(np.einsum("sii->si", lower)) < 1e-7:
        raise InputError(
            "nothing keeps the member from moving laterally or twisting: hold it at its supports"
        )
    # K x = -factor G x  ->  the largest eigenvalue of -inv(L) G inv(L') is one over the factor.
    half = np.linalg.solve(lower, G)
    values, vectors = np.linalg.eigh(-np.linalg.solve(lower, half.transpose(0, 2, 1)))
    largest = values[:, -1]
    with np.errstate(divide="ignore"):
        factor = np.where(largest > 1e-12, 1.0 / np.maximum(largest, 1e-300), np.inf)
    shape = np.linalg.solve(lower.transpose(0, 2, 1), vectors[:, :, -1:])[..., 0] * scale
    whole = np.zeros((len(K), 4 * len(nodes)))
    whole[:, free] = shape
    whole[:, follows] = heights * whole[:, follows + 2]
    u, twist = whole[:, 0::4], whole[:, 2::4]
    size = np.abs(u).max(axis=1)
    size = np.where(size > 1e-9 * np.abs(twist).max(axis=1), size, np.abs(twist).max(axis=1))
    return Buckling(factor, nodes, u / size[:, None], twist / size[:, None])


def _hermite(L: Array) -> tuple[Array, Array, Array]:
    """Return the cubics of (value, slope) at both ends, their first and second derivatives."""
    s, one, zero = _POINTS, np.ones((len(L), 5)), np.zeros((len(L), 5))
    L = L[:, None]
    H = [one * (1 - 3 * s**2 + 2 * s**3), L * (s - 2 * s**2 + s**3), one * (3 * s**2 - 2 * s**3),
         L * (s**3 - s**2)]  # fmt: skip
    H1 = [(6 * s**2 - 6 * s) / L, zero + 1 - 4 * s + 3 * s**2, (6 * s - 6 * s**2) / L,
          zero + 3 * s**2 - 2 * s]  # fmt: skip
    H2 = [(12 * s - 6) / L**2, (6 * s - 4) / L, (6 - 12 * s) / L**2, (6 * s - 2) / L]
    return np.stack(H, axis=-1), np.stack(H1, axis=-1), np.stack(H2, axis=-1)


class _Scatter:
    """Puts element matrices, (E, 4, 4) or (S, E, 4, 4), into the whole, (1 or S, 4 J, 4 J)."""

    def __init__(self, count: int) -> None:
        self.total = 4 * count
        first = 4 * np.arange(count - 1)[:, None]
        self.of_u = first + np.array([0, 1, 4, 5])
        self.of_twist = first + np.array([2, 3, 6, 7])

    def _put(self, element: Array, rows: Any, columns: Any) -> Array:
        element = element if element.ndim == 4 else element[None]
        whole = np.zeros((len(element), self.total, self.total))
        every = np.arange(len(element))[:, None, None, None]
        np.add.at(whole, (every, rows[:, :, None], columns[:, None, :]), element)
        return whole

    def uu(self, element: Array) -> Array:
        """Return a matrix between lateral movements."""
        return self._put(element, self.of_u, self.of_u)

    def pp(self, element: Array) -> Array:
        """Return a matrix between twists."""
        return self._put(element, self.of_twist, self.of_twist)

    def up(self, element: Array) -> Array:
        """Return a matrix between lateral movements and twists."""
        return self._put(element, self.of_u, self.of_twist)
