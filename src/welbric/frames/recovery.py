"""A member's diagrams from what the ends of its elements do."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import comb
from typing import Any

import numpy as np

from welbric.analysis.beam import BeamResult
from welbric.analysis.diagram import Array, Diagram
from welbric.frames.loads import Clamped
from welbric.frames.model import Chain, Model
from welbric.frames.states import State
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import CombinedResults

TRACE = 1e-9  # of the forces of a member
WHOLE = 1e-3  # of the largest of the frame, that a member's count as at least
BINOMIAL = np.array([[comb(k, j) for k in range(4)] for j in range(4)], dtype=float)


def recovered(
    model: Model,
    chain: Chain,
    clamped: Clamped,
    state: State,
    factors: Array,
    member: DesignMember,
    N: Array | None = None,
    bowed: Array | None = None,
) -> CombinedResults:
    """Return a member's diagrams from what its elements' ends do, exact between them.

    ``factors``, shape (C, L), are those of the cases that the state has in each of its C loads;
    ``N``, shape (e, C), the axial forces of its elements, at the load level of the stiffness, where
    bending is of the second order; ``bowed``, (E, 12, C), those of all elements times how their
    ends stand off the straight line, where members bow from the start.
    """
    own = chain.elements
    forces, moved, carries = state.forces[own], state.movements[own], state.carries[own]
    places, lengths = chain.places, np.diff(chain.places)
    breaks, element = clamped.breaks, clamped.element
    # An interval in its element's coordinate: alpha + beta s.
    alpha = (breaks[:-1] - places[element]) / lengths[element]
    beta = np.diff(breaks) / lengths[element]
    k, j = np.arange(4), np.arange(4)[:, None]
    shift = np.where(k >= j, BINOMIAL * alpha[:, None, None] ** np.maximum(k - j, 0), 0.0)
    shift = shift * beta[:, None, None] ** j  # (I, 4, 4): coefficients in s from those in the other

    def local(c: Array) -> Array:
        """Return polynomials of elements, (e, K, C), as those of intervals, (C, I, K)."""
        K = c.shape[1]
        return np.asarray(np.einsum("ijk,ikc->cij", shift[:, :K, :K], c[element]))

    def bent(axis: str, at: int) -> BeamResult:
        base: BeamResult = getattr(clamped, axis).combine(factors)
        d1, s1, d2, s2 = (moved[:, at + i] for i in (0, 1, 6, 7))
        L = lengths[:, None]
        # Where it yields to shear the axis slopes by so much more than sections turn.
        share = model.yields(axis)[own, None]
        strain = share / (1 + share) * ((d2 - d1) / L - (s1 + s2) / 2)
        bent = local(_cubic(d1, (s1 + strain) * L, d2, (s2 + strain) * L))
        deflection = _plus(base.deflection, bent)
        turned = _derived(bent, breaks)
        turned[..., 0] -= local(strain[:, None])[..., 0]
        slope = _plus(base.slope, turned)
        M_1, M_2 = forces[:, at + 1], -forces[:, at + 7]
        ends = _ends_of(base.moment, element, len(lengths))
        line = np.stack([M_1 - ends[0], M_2 - ends[1] - (M_1 - ends[0])], axis=1)
        more = local(line)
        if N is not None:
            # Compression times what the element sags beyond the line of its ends.
            sag = deflection.coefficients.copy()
            chord = local(np.stack([d1, d2 - d1], axis=1))
            sag[..., : chord.shape[-1]] -= chord
            more = _summed(more, -N[element].T[..., None] * sag)
        if bowed is not None:
            b1, t1, b2, t2 = (bowed[own][:, at + i] for i in (0, 1, 6, 7))
            off = _cubic(b1, t1 * L, b2, t2 * L)
            off[:, :2] -= np.stack([b1, b2 - b1], axis=1)
            more = _summed(more, -local(off))
        moment = _plus(base.moment, more)
        shear = _plus(base.shear, _derived(more, breaks))
        held = [s.at for s in member.supports_about(axis)]
        return BeamResult(shear, moment, slope, deflection, _reactions(shear, held), tuple(held))

    along = clamped.axial.combine(factors)
    pull = _plus(along, local((_gain(model, own, moved, 0, "EA") * carries)[:, None]))
    turning = _plus(
        clamped.torsion.combine(factors), local((_gain(model, own, moved, 5, "GJ"))[:, None])
    )
    major, minor = bent("major", 1), bent("minor", 3)
    # What rounding leaves of nothing is nothing: beside all moments, and beside all forces; of a
    # member that has hardly any, beside those of the frame.
    whole_pushes, whole_moments = state.largest
    moments = np.maximum(
        _size(major.moment) + _size(minor.moment) + _size(turning), WHOLE * whole_moments
    )
    pushes = np.maximum(_size(pull) + _size(major.shear) + _size(minor.shear), WHOLE * whole_pushes)
    major, minor = (
        replace(
            one, moment=_without_trace(one.moment, moments), shear=_without_trace(one.shear, pushes)
        )
        for one in (major, minor)
    )
    pull, turning = _without_trace(pull, pushes), _without_trace(turning, moments)
    return CombinedResults(major, minor, pull, turning)


def _cubic(d1: Array, s1: Array, d2: Array, s2: Array) -> Array:
    """Return the cubic with these values and slopes at its ends, (e, 4, C)."""
    return np.stack([d1, s1, 3 * (d2 - d1) - 2 * s1 - s2, 2 * (d1 - d2) + s1 + s2], axis=1)


def turned(model: Model, chain: Chain, state: State) -> Array:
    """Return the largest angle that the line of an element's ends turns by, shape (C,), radians."""
    own = chain.elements
    moved, lengths = state.movements[own], model.lengths[own, None]
    angles = [(moved[:, at + 6] - moved[:, at]) / lengths for at in (1, 3)]
    return np.asarray(np.hypot(*angles).max(axis=0))


def _size(diagram: Diagram) -> Array:
    """Return the largest of a diagram's coefficients in each case, shape (C,)."""
    return np.asarray(np.abs(diagram.coefficients).max(axis=(1, 2), initial=0.0))


def _without_trace(diagram: Diagram, scale: Array) -> Diagram:
    """Return a diagram, zero in the cases in which it is nothing beside a scale."""
    there = _size(diagram) > TRACE * scale
    return Diagram(diagram.breaks, diagram.coefficients * there[:, None, None])


def _gain(model: Model, own: slice, moved: Array, at: int, stiff: str) -> Array:
    """Return what the movement of an element's ends adds along it, shape (e, C)."""
    stretch = moved[:, at + 6] - moved[:, at]
    return np.asarray((getattr(model, stiff)[own] / model.lengths[own])[:, None] * stretch)


def _summed(a: Array, b: Array) -> Array:
    few, many = sorted((a, b), key=lambda c: c.shape[-1])
    total = many.copy()
    total[..., : few.shape[-1]] += few
    return total


def _plus(diagram: Diagram, more: Array) -> Diagram:
    """Return a diagram with polynomials added, of shape (C, I, K)."""
    return Diagram(diagram.breaks, _summed(np.asarray(diagram.coefficients), more))


def _derived(c: Array, breaks: Array) -> Array:
    """Return the derivative by x of polynomials in the intervals."""
    orders = np.arange(1, c.shape[-1])
    return np.asarray(c[..., 1:] * orders / np.diff(breaks)[:, None])


def _ends_of(diagram: Diagram, element: Any, count: int) -> tuple[Array, Array]:
    """Return a diagram's values at the ends of elements, shape (e, C) each."""
    first = np.searchsorted(element, np.arange(count), side="left")
    last = np.searchsorted(element, np.arange(count), side="right") - 1
    c = diagram.coefficients
    return c[:, first, 0].T, c[:, last].sum(axis=-1).T


def _reactions(shear: Diagram, places: Sequence[float]) -> Array:
    """Return the upward force at places: by how much the shear jumps there, shape (C, S)."""
    c, breaks = shear.coefficients, shear.breaks
    found = np.zeros((len(c), len(places)))
    for i, at in enumerate(places):
        node = int(np.argmin(np.abs(breaks - at)))
        right = c[:, node, 0] if node < len(breaks) - 1 else 0.0
        left = c[:, node - 1].sum(axis=-1) if node > 0 else 0.0
        found[:, i] = right - left
    return found
