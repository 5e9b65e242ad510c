"""A member's diagrams from what the ends of its elements do."""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from math import comb
from typing import Any

import numpy as np

from welbric.analysis.beam import BeamResult
from welbric.analysis.diagram import Array, Diagram, extremes
from welbric.frames.beam_columns import AXES, ORDERS, BeamColumns
from welbric.frames.loads import Clamped, Loading
from welbric.frames.model import Chain, Model
from welbric.frames.states import State
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import CombinedResults

TRACE = 1e-9  # of the forces of a member
WHOLE = 1e-3  # of the largest of the frame, that a member's count as at least
BINOMIAL = np.array([[comb(k, j) for k in range(ORDERS)] for j in range(ORDERS)], dtype=float)


@dataclass(frozen=True)
class Part:
    """A member of a frame whose diagrams are wanted.

    Attributes
    ----------
    member : DesignMember
    chain : Chain
    clamped : Clamped
    """

    member: DesignMember
    chain: Chain
    clamped: Clamped

    @property
    def kind(self) -> Hashable:
        """What is one of members that are recovered together: how they are cut, and loaded."""
        of = self.clamped
        diagrams = (*_three(of.major), *_three(of.minor), of.axial, of.torsion)
        orders = tuple(one.coefficients.shape[-1] for one in diagrams)
        return len(self.chain.nodes), tuple(of.element), orders


def parts_of(model: Model, loading: Loading, marks: Iterable[str]) -> list[Part]:
    """Return members as they are drawn, with what loads do to them clamped."""
    of = ((model.chains[mark], loading.clamped[mark]) for mark in marks)
    return [Part(chain.member, chain, clamped) for chain, clamped in of]


def recovered(
    model: Model,
    parts: Sequence[Part],
    state: State,
    factors: Array,
    N: Array | None = None,
    bowed: Array | None = None,
) -> list[CombinedResults]:
    """Return members' diagrams from what their elements' ends do, exact between them.

    ``factors``, shape (C, L), are those of the cases that the state has in each of its C loads;
    ``N``, shape (E, C), the axial forces of the elements, at the load level of the stiffness, where
    bending is of the second order; ``bowed``, (E, 12, C), those times how the elements' ends stand
    off the straight line, where members bow from the start.
    """
    kinds: dict[Hashable, list[int]] = {}
    for i, part in enumerate(parts):
        kinds.setdefault(part.kind, []).append(i)
    found: dict[int, CombinedResults] = {}
    for alike in kinds.values():
        some = [parts[i] for i in alike]
        found |= zip(alike, _of_like(model, some, state, factors, N, bowed), strict=True)
    return [found[i] for i in range(len(parts))]


def _of_like(
    model: Model,
    parts: Sequence[Part],
    state: State,
    factors: Array,
    N: Array | None,
    bowed: Array | None,
) -> list[CombinedResults]:
    """Return those of members that are alike; the first axis of arrays is the member."""
    first = np.array([part.chain.first for part in parts])
    own = first[:, None] + np.arange(len(parts[0].chain.nodes) - 1)  # (M, e)
    forces, moved, carries = state.forces[own], state.movements[own], state.carries[own]
    places = np.array([part.chain.places for part in parts])
    breaks = np.array([part.clamped.breaks for part in parts])
    element, lengths = parts[0].clamped.element, np.diff(places)
    # An interval in its element's coordinate: alpha + beta s.
    alpha = (breaks[:, :-1] - places[:, element]) / lengths[:, element]
    beta = np.diff(breaks) / lengths[:, element]
    k, j = np.arange(ORDERS), np.arange(ORDERS)[:, None]
    shift = np.where(k >= j, BINOMIAL * alpha[..., None, None] ** np.maximum(k - j, 0), 0.0)
    shift = shift * beta[..., None, None] ** j  # (M, I, 9, 9): from coefficients in the other to s

    uncut = len(element) == lengths.shape[1] and not alpha.any() and bool((beta == 1.0).all())
    bulging = model.kept(BeamColumns).shapes(own)

    def local(c: Array) -> Array:
        """Return polynomials of elements, (M, e, K, C), as those of intervals, (M, C, I, K)."""
        if uncut:
            return np.moveaxis(c, -1, 1)
        K = c.shape[2]
        return np.asarray(np.einsum("mijk,mikc->mcij", shift[..., :K, :K], c[:, element]))

    def combined(diagrams: Sequence[Diagram]) -> Array:
        """Return the same diagram of each member in combinations, (M, C, I, K)."""
        each = np.array([one.coefficients for one in diagrams])
        if not each.any():
            return np.zeros((len(each), len(factors), each.shape[2], 1))
        return np.moveaxis(np.tensordot(factors, each, axes=(1, 1)), 0, 1)

    def bent(axis: str, at: int) -> dict[str, Array]:
        of = [getattr(part.clamped, axis) for part in parts]
        base = [combined(each) for each in zip(*map(_three, of), strict=True)]
        base_shear, base_moment, base_deflection = base
        d1, s1, d2, s2 = (moved[:, :, at + i] for i in (0, 1, 6, 7))
        L = lengths[..., None]
        # Where it yields to shear the axis slopes by so much more than sections turn.
        share = model.yields(axis)[own][..., None]
        strain = share / (1 + share) * ((d2 - d1) / L - (s1 + s2) / 2)
        bent = local(_cubic(d1, (s1 + strain) * L, d2, (s2 + strain) * L))
        deflection = _summed(base_deflection, bent)
        if state.bulges is not None:
            bulges = state.bulges[:, AXES.index(axis), own]
            shapes = np.einsum("bmec,bmek->mekc", bulges, bulging[:, AXES.index(axis)])
            deflection = _summed(deflection, local(shapes))
        M_1, M_2 = forces[:, :, at + 1], -forces[:, :, at + 7]
        ends = _ends_of(base_moment, element, lengths.shape[1])
        line = np.stack([M_1 - ends[0], M_2 - ends[1] - (M_1 - ends[0])], axis=2)
        more = local(line)
        if N is not None:
            # Compression times what the element sags beyond the line of its ends.
            sag = deflection.copy()
            chord = local(np.stack([d1, d2 - d1], axis=2))
            sag[..., : chord.shape[-1]] -= chord
            sag *= -np.moveaxis(N[own][:, element], 1, 2)[..., None]
            more = _summed(more, sag)
        if bowed is not None:
            b1, t1, b2, t2 = (bowed[own][:, :, at + i] for i in (0, 1, 6, 7))
            off = _cubic(b1, t1 * L, b2, t2 * L)
            off[:, :, :2] -= np.stack([b1, b2 - b1], axis=2)
            more = _summed(more, -local(off))
        return {
            "shear": _summed(base_shear, _derived(more, breaks)),
            "moment": _summed(base_moment, more),
            "deflection": deflection,
        }

    stretch = (model.EA / model.lengths)[own][..., None] * (moved[:, :, 6] - moved[:, :, 0])
    twist = (model.GJ / model.lengths)[own][..., None] * (moved[:, :, 11] - moved[:, :, 5])
    pull = _summed(
        combined([part.clamped.axial for part in parts]), local((stretch * carries)[:, :, None])
    )
    turning = _summed(combined([part.clamped.torsion for part in parts]), local(twist[:, :, None]))
    major, minor = bent("major", 1), bent("minor", 3)
    # What rounding leaves of nothing is nothing: beside all moments, and beside all forces; of a
    # member that has hardly any, beside those of the frame. A moment is, too, beside a force with
    # the member's length for its arm.
    whole_pushes, whole_moments = state.largest
    pushes = np.maximum(
        _size(pull) + _size(major["shear"]) + _size(minor["shear"]), WHOLE * whole_pushes
    )
    moments = _size(major["moment"]) + _size(minor["moment"]) + _size(turning)
    moments = np.maximum(moments, WHOLE * whole_moments)
    moments = np.maximum(moments, pushes * places[:, -1:])
    for one in (major, minor):
        one["moment"] = _without_trace(one["moment"], moments)
        one["shear"] = _without_trace(one["shear"], pushes)
    pull, turning = _without_trace(pull, pushes), _without_trace(turning, moments)
    # As their lines turn, and as they themselves do at their ends.
    lines = [(moved[:, :, at + 6] - moved[:, :, at]) / lengths[..., None] for at in (1, 3)]
    turns = [np.hypot(moved[:, :, end + 2], moved[:, :, end + 4]) for end in (0, 6)]
    angle = np.maximum.reduce([np.hypot(*lines), *turns]).max(axis=1)

    starts, spans = breaks[:, None, :-1], np.diff(breaks)[:, None]
    bending = [one[name] for one in (major, minor) for name in ("shear", "moment")]
    places_of = [extremes(c, starts, spans) for c in (*bending, pull)]

    def results(axis: str, of: dict[str, Array]) -> Iterator[BeamResult]:
        held = [[s.at for s in part.member.supports_about(axis)] for part in parts]
        reactions = _jumps(of["shear"], breaks, held)
        for m, (part, places) in enumerate(zip(parts, held, strict=True)):
            along = {name: Diagram(part.clamped.breaks, c[m]) for name, c in of.items()}
            yield BeamResult(
                **along, reactions=reactions[m, :, : len(places)], places=tuple(places)
            )

    each = zip(parts, results("major", major), results("minor", minor), strict=True)
    return [
        CombinedResults(
            of_major, of_minor,
            Diagram(part.clamped.breaks, pull[m]), Diagram(part.clamped.breaks, turning[m]),
            turned=angle[m], turning=tuple(one[m] for one in places_of),
        )
        for m, (part, of_major, of_minor) in enumerate(each)
    ]  # fmt: skip


def _three(result: BeamResult) -> tuple[Diagram, Diagram, Diagram]:
    return result.shear, result.moment, result.deflection


def _cubic(d1: Array, s1: Array, d2: Array, s2: Array) -> Array:
    """Return the cubics with these values and slopes at their ends, (M, e, 4, C)."""
    return np.stack([d1, s1, 3 * (d2 - d1) - 2 * s1 - s2, 2 * (d1 - d2) + s1 + s2], axis=2)


def _size(c: Array) -> Array:
    """Return the largest of diagrams' coefficients in each case, shape (M, C)."""
    most, least = c.max(axis=(2, 3), initial=0.0), c.min(axis=(2, 3), initial=0.0)
    return np.asarray(np.maximum(most, -least))


def _without_trace(c: Array, scale: Array) -> Array:
    """Return diagrams, zero in the cases in which they are nothing beside a scale."""
    counts = _size(c) > TRACE * scale
    return c if counts.all() else c * counts[..., None, None]


def _summed(a: Array, b: Array) -> Array:
    """Return the sum of polynomials, the second of which is given away for it."""
    if a.shape[-1] > b.shape[-1]:
        a, b = b, a.copy()
    b[..., : a.shape[-1]] += a
    return b


def _derived(c: Array, breaks: Array) -> Array:
    """Return the derivative by x of polynomials in the intervals."""
    orders = np.arange(1, c.shape[-1])
    return np.asarray(c[..., 1:] * orders / np.diff(breaks)[:, None, :, None])


def _ends_of(c: Array, element: Any, count: int) -> tuple[Array, Array]:
    """Return diagrams' values at the ends of elements, shape (M, e, C) each."""
    first = np.searchsorted(element, np.arange(count), side="left")
    last = np.searchsorted(element, np.arange(count), side="right") - 1
    return np.moveaxis(c[:, :, first, 0], 1, 2), np.moveaxis(c[:, :, last].sum(axis=-1), 1, 2)


def _jumps(shear: Array, breaks: Array, places: Sequence[list[float]]) -> Array:
    """Return by how much shears jump at the breaks nearest to places, upwards, (M, C, places).

    Of members with fewer places than others those of their start follow.
    """
    most = max(len(of) for of in places)
    at = np.array([[*of, *[0.0] * (most - len(of))] for of in places])
    nearest = np.abs(breaks[:, :, None] - at[:, None]).argmin(axis=1)
    found = np.zeros((*shear.shape[:2], shear.shape[2] + 1))
    found[..., :-1] = shear[..., 0]
    found[..., 1:] -= shear.sum(axis=-1)
    return np.take_along_axis(found, nearest[:, None], axis=-1)
