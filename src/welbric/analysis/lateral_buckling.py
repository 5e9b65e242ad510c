"""Lateral-torsional buckling by eigenvalue: the elastic critical load factor of a member.

A thin-walled member under moments about its major axis and axial force, free to move laterally (u),
to twist (phi) and to warp. Both are cubics between nodes (Hermite), so that every node has four
freedoms: u, u', phi, phi'. With the stresses of first-order theory the second-order energy is

    1/2 integral of  EI u''^2 + GJ phi'^2 + ECw phi''^2
      + factor (N u'^2 + 2 ys N u' phi' + (N r^2 - M beta) phi'^2 - 2 M phi u'' - q a phi^2)

with N positive in tension, M in sagging, the load q at the height a above the shear centre, ys the
shear centre's height above the centroid, r the polar radius about it and beta the monosymmetry
constant. Many sections and loads are solved at once, as arrays of small dense matrices.
"""

from __future__ import annotations

from collections.abc import Sequence
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
    height : float or array, shape (B,), optional
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
    height: Any = None
    spring: float = 0.0
    twist_spring: float = 0.0
    turn_spring: float = 0.0
    warping_spring: float = 0.0


@dataclass(frozen=True)
class AllAlong:
    """A hold without a gap: lateral, at a height above the shear centre, mm, rigid or a spring.

    `height` is a number or an array of shape (B,). `spring` is in N/mm for each mm, `twist_spring`
    in N mm per radian for each mm; without either the lateral hold is rigid.
    """

    height: Any
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
    factor : array, shape (B,)
        Infinite where the loads cannot make the member buckle.
    x : array, shape (J,), mm
    u, twist : array, shape (B, J)
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
    point_height: Sequence[tuple[float, Any]],
    holds: Sequence[Hold | AllAlong],
    mode: bool = True,
) -> Buckling:
    """Return the factor on all loads at which the member buckles laterally.

    Of S sections under B loads: the same number of loads for each section, one section after the
    other.

    Parameters
    ----------
    nodes : array, shape (J,), mm
        From `mesh`, with the holds and the point loads among them.
    stiffnesses : Stiffnesses
    moment, axial : array, shape (J - 1, 5) or (B, J - 1, 5)
        At `gauss_places`; N mm sagging, N tension.
    load_height : array, shape (J - 1, 5) or (B, J - 1, 5)
        Line load times its height above the shear centre, N.
    point_height : sequence of (place, force times height), mm and N mm
        The second a number, or an array of shape (B,).
    holds : sequence of Hold and AllAlong
    mode : bool
        Whether the mode is wanted; else it is empty.

    Raises
    ------
    InputError
        If the holds leave the member free to move laterally or to twist without resistance, or the
        loads are beyond numbers.
    """
    if not max(np.abs(moment).max(), np.abs(axial).max()) < LARGEST:
        raise InputError("the loads are too large to find when the member buckles")
    parts = _Elements(nodes)
    K = parts.stiffness(stiffnesses)
    loads = [np.size(value) for _, value in point_height]
    loads += [len(of) for of in (moment, axial, load_height) if of.ndim == 3]
    B = max([len(K), *loads])
    G = np.zeros((B, *K.shape[1:]))
    parts.load(G, stiffnesses, moment, axial, load_height)
    for place, value in point_height:
        number = 4 * int(np.argmin(np.abs(nodes - place))) + 2
        G[:, number, number] -= value
    ties = _Ties(len(nodes))
    for hold in holds:
        parts.hold(K, ties, hold)
    gone, tied = ties.settled()
    left = [i for i in range(len(K[0])) if i not in gone and i not in tied]
    free = np.array(sorted(left, key=lambda i: (i % 4 >= 2, i)))  # those that move, then the twists
    if len(free) == 0:
        return Buckling(np.full(B, np.inf), nodes, *np.zeros((2, B, len(nodes))))
    # A lateral freedom that follows the twist beside it goes into that one.
    follows = np.array(list(tied), dtype=np.intp)
    heights = np.array([np.broadcast_to(tied[i], len(K)) for i in tied]).reshape(-1, len(K)).T
    for matrix in (K, G):
        each = _for_each(heights, matrix)
        matrix[:, :, follows + 2] += each[:, None, :] * matrix[:, :, follows]
        matrix[:, follows + 2, :] += each[:, :, None] * matrix[:, follows, :]
    K, G = (of[:, free[:, None], free] for of in (K, G))
    largest, vectors = _largest(K, G, int((free % 4 < 2).sum()), mode)
    with np.errstate(divide="ignore"):
        factor = np.where(largest > 1e-12, 1.0 / np.maximum(largest, 1e-300), np.inf)
    if vectors is None:
        return Buckling(factor, nodes, *np.zeros((2, B, 0)))
    whole = np.zeros((B, 4 * len(nodes)))
    whole[:, free] = vectors
    whole[:, follows] = _for_each(heights, whole) * whole[:, follows + 2]
    u, twist = whole[:, 0::4], whole[:, 2::4]
    size = np.abs(u).max(axis=1)
    size = np.where(size > 1e-9 * np.abs(twist).max(axis=1), size, np.abs(twist).max(axis=1))
    return Buckling(factor, nodes, u / size[:, None], twist / size[:, None])


def _for_each(of_sections: Array, loads: Array) -> Array:
    """Return what is of each section for each of the loads, that are so many for every section."""
    return np.repeat(of_sections, max(len(loads) // max(len(of_sections), 1), 1), axis=0)


class _Elements:
    """The elements of a member, and what each brings to the whole matrices."""

    def __init__(self, nodes: Array) -> None:
        L = np.diff(nodes)
        self.nodes = nodes
        self.H, self.H1, self.H2 = _hermite(L)  # (E, 5, 4) each
        self.weight = L[:, None] * _WEIGHTS
        self.one = np.ones_like(self.weight)
        first = 4 * np.arange(len(L))[:, None]
        self.of_u = first + np.array([0, 1, 4, 5])
        self.of_twist = first + np.array([2, 3, 6, 7])

    def integral(self, factor: Array, a: Array, b: Array) -> Array:
        """Return the integral of factor a_i b_j over each element, shape (B or 1, E, 4, 4)."""
        count = len(self.weight)
        products = (a[..., :, None] * b[..., None, :]).reshape(count, len(_POINTS), 16)
        values = (self.weight * factor).reshape(-1, count, len(_POINTS))
        found = np.matmul(values.transpose(1, 0, 2), products)  # (E, B, 16)
        return np.asarray(found.transpose(1, 0, 2).reshape(-1, count, 4, 4))

    def put(self, whole: Array, element: Array, rows: Any, columns: Any) -> None:
        """Add matrices of elements to the whole ones."""
        for first in (0, 1):  # every second element: no two of them share a freedom
            some = slice(first, None, 2)
            whole[:, rows[some, :, None], columns[some, None, :]] += element[:, some]

    def stiffness(self, of: Stiffnesses) -> Array:
        """Return the stiffness of the member that nothing holds, (S, 4 J, 4 J)."""
        EI, GJ, ECw = (_each_element(v) for v in (of.EI, of.GJ, of.ECw))
        bend = self.integral(self.one, self.H2, self.H2)
        twist = self.integral(self.one, self.H1, self.H1)
        S, total = max(len(EI), len(GJ), len(ECw)), 4 * len(self.nodes)
        K = np.zeros((S, total, total))
        self.put(K, EI * bend, self.of_u, self.of_u)
        self.put(K, ECw * bend + GJ * twist, self.of_twist, self.of_twist)
        return K

    def load(
        self, G: Array, of: Stiffnesses, moment: Array, axial: Array, load_height: Array
    ) -> None:
        """Add what the loads do, to (B, 4 J, 4 J)."""
        u, phi, H, H1 = self.of_u, self.of_twist, self.H, self.H1
        couple = self.integral(moment, self.H2, H)
        self.put(G, -couple, u, phi)
        self.put(G, -couple.transpose(0, 1, 3, 2), phi, u)
        beta, height, r = (
            _for_each(_each_element(v), G) for v in (of.beta, of.shear_height, of.r_polar)
        )
        if beta.any():
            self.put(G, -beta * self.integral(moment, H1, H1), phi, phi)
        if axial.any():
            pull = self.integral(axial, H1, H1)
            self.put(G, pull, u, u)
            self.put(G, r**2 * pull, phi, phi)
            self.put(G, height * pull, u, phi)
            self.put(G, (height * pull).transpose(0, 1, 3, 2), phi, u)
        if load_height.any():
            self.put(G, -self.integral(load_height, H, H), phi, phi)

    def hold(self, K: Array, ties: _Ties, hold: Hold | AllAlong) -> None:
        """Add what holds the member: to its stiffness where it gives way, else to the ties."""
        nodes, u, phi = self.nodes, self.of_u, self.of_twist
        if isinstance(hold, AllAlong):
            middle = 0.5 * (nodes[:-1] + nodes[1:])
            along = (middle > hold.start) & (middle < hold.end)
            if not (hold.spring > 0 or hold.twist_spring > 0):
                # The cubics agree all along where their values and slopes agree at the nodes.
                held_nodes = np.append(along, False) | np.append(False, along)
                for node in np.flatnonzero(held_nodes).tolist():
                    ties.tie(4 * node, hold.height)
                    ties.tie(4 * node + 1, hold.height)
                return
            mass = self.integral(self.one * along[:, None], self.H, self.H)
            up_there = np.reshape(hold.height, (-1, 1, 1, 1))
            self.put(K, hold.spring * mass, u, u)
            self.put(K, -hold.spring * up_there * mass, u, phi)
            self.put(K, -hold.spring * up_there * mass, phi, u)
            self.put(K, (hold.spring * up_there**2 + hold.twist_spring) * mass, phi, phi)
            return
        first = 4 * int(np.argmin(np.abs(nodes - hold.at)))
        for i, is_held in enumerate((hold.u, hold.turn, hold.twist, hold.warping)):
            if is_held:
                ties.fix(first + i)
        if hold.height is not None and not hold.spring:
            ties.tie(first, hold.height)
        a, k = 0.0 if hold.height is None else hold.height, hold.spring
        K[:, first, first] += k
        K[:, first, first + 2] -= k * a
        K[:, first + 2, first] -= k * a
        K[:, first + 2, first + 2] += k * a**2 + hold.twist_spring
        K[:, first + 1, first + 1] += hold.turn_spring
        K[:, first + 3, first + 3] += hold.warping_spring


def _each_element(values: Any) -> Array:
    """Return values of sections, (S,), or of their elements, (S, E), as (S, 1 or E, 1, 1)."""
    found = np.atleast_1d(np.asarray(values, dtype=float))
    return found.reshape(len(found), -1, 1, 1)


class _Ties:
    """What rigid holds ask of the freedoms: to be zero, or to follow the twist.

    A lateral freedom stands two before its twist: u and phi, u' and phi'.
    """

    def __init__(self, count: int) -> None:
        self.fixed = np.zeros(4 * count, dtype=bool)
        self.heights: dict[int, list[Any]] = {}

    def fix(self, freedom: int) -> None:
        """Ask a freedom to be zero."""
        self.fixed[freedom] = True

    def tie(self, freedom: int, height: Any) -> None:
        """Ask a lateral freedom to be its twist times a height."""
        known = self.heights.setdefault(int(freedom), [])
        if not any(np.array_equal(height, one) for one in known):
            known.append(height)

    def settled(self) -> tuple[set[int], dict[int, Any]]:
        """Return the freedoms that are zero, and those that follow their twist, with the height."""
        gone = {int(i) for i in np.flatnonzero(self.fixed)}
        tied: dict[int, Any] = {}
        for u, heights in self.heights.items():
            twist = u + 2
            at_centre = len(heights) == 1 and not np.any(heights[0])
            if len(heights) > 1 or (u in gone and not at_centre):
                gone |= {u, twist}  # two lines of the section stay where they are
            elif twist in gone or at_centre:
                gone.add(u)
            else:
                (tied[u],) = heights
        return gone, tied


def _largest(K: Array, G: Array, moving: int, mode: bool) -> tuple[Array, Array | None]:
    """Return the largest eigenvalue of -G x = value K x, (B,), and its vectors where wanted.

    K is (S, n, n), G (B, n, n); of the freedoms so many move, and the others twist.
    """
    # Each freedom in units of its own stiffness keeps the matrices well scaled.
    scale = 1.0 / np.sqrt(np.einsum("sii->si", K))
    try:
        lower = np.linalg.cholesky(K * scale[:, :, None] * scale[:, None, :])
    except np.linalg.LinAlgError:
        raise InputError(
            "nothing keeps the member from moving laterally or twisting: hold it at its supports"
        ) from None
    if np.min(np.einsum("sii->si", lower)) < 1e-7:
        raise InputError(
            "nothing keeps the member from moving laterally or twisting: hold it at its supports"
        )
    half = np.linalg.inv(lower) * scale[:, None, :]
    G = G.reshape(len(K), -1, *G.shape[1:])
    u, phi = slice(None, moving), slice(moving, None)
    if not (mode or K[:, u, phi].any() or G[..., u, u].any() or G[..., phi, phi].any()):
        # Loads couple what moves with what twists and nothing else: the eigenvalues come in pairs
        # of both signs, and their squares are those of a matrix of half the size.
        coupled = half[:, None, u, u] @ G[..., u, phi] @ _turned(half[:, None, phi, phi])
        few = coupled if moving < len(K[0]) - moving else _turned(coupled)
        squares = few @ _turned(few)
        values = np.linalg.eigvalsh(squares.reshape(-1, *squares.shape[2:]))
        return np.asarray(np.sqrt(np.maximum(values[:, -1], 0.0))), None
    whole = -(half[:, None] @ G @ _turned(half[:, None]))
    whole = whole.reshape(-1, *whole.shape[2:])
    if not mode:
        return np.asarray(np.linalg.eigvalsh(whole)[:, -1]), None
    values, vectors = np.linalg.eigh(whole)
    back = _turned(_for_each(half, whole)) @ vectors[:, :, -1:]
    return np.asarray(values[:, -1]), back[..., 0]


def _turned(matrices: Array) -> Array:
    """Return matrices with rows and columns exchanged."""
    return np.swapaxes(matrices, -1, -2)


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
