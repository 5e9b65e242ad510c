"""Members that bow from the start, where their standard wants that in the analysis of the frame."""

from __future__ import annotations

import functools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Flags
from welbric.frames.beam_columns import AXES, BeamColumns, Off
from welbric.frames.model import OWN, SLIDES, Chain, Indices, Model
from welbric.frames.states import State
from welbric.inputs.frame import FrameOf
from welbric.members.design_member import DesignMember
from welbric.sections.table import Section
from welbric.standards.standard import Bows

SAME = 1e-9  # of a limit
STRAIGHT = 1e-9  # of its length that a member sags by and is as good as straight


@dataclass(frozen=True)
class _Span:
    """A length of a member that may bow about an axis between what holds it."""

    chain: Chain
    axis: str
    start: float
    end: float
    rule: Bows
    bow: float  # mm
    critical: float  # N, between hinges

    @functools.cached_property
    def elements(self) -> Indices:
        """The numbers of its elements."""
        places, slack = self.chain.places, 1e-6 * (self.end - self.start)
        first, last = np.searchsorted(places, [self.start - slack, self.end - slack])
        return self.chain.first + np.arange(int(first), int(last))

    @property
    def x(self) -> Array:
        """Where their nodes are along the member, mm."""
        first = int(self.elements[0]) - self.chain.first
        return np.asarray(self.chain.places[first : first + len(self.elements) + 1])


def bows(
    frame: FrameOf,
    model: Model,
    state: State,
    off: Off,
    senses: Array,
    sways: Callable[[Flags, float], Flags],
) -> Array | None:
    """Return how elements' ends stand off the straight members, (E, 12, C); None where none bow.

    A member bows where compression is a good part of what buckles it between hinges, a joint takes
    moments of it, and the frame is not far from the load at which it sways.

    Parameters
    ----------
    frame : FrameOf
    model : Model
    state : State of C combinations
        Without bows.
    off : Off
        How far loads have elements sag, clamped.
    senses : array, shape (C,)
        1 where members bow the way they sag, -1 where the other way.
    sways : callable
        (which of the combinations, a share) -> which of these are beyond that share of the loads at
        which the frame sways.
    """
    compressed = _compressed(list(_spans(frame, model, state)), state)
    if not compressed:
        return None
    some = np.any([which for _, which in compressed], axis=0)
    near: dict[float, Flags] = {}
    found = None
    for span, which in compressed:
        limit = span.rule.sway_from
        if limit not in near:
            near[limit] = np.zeros(len(senses), dtype=bool)
            near[limit][some] = sways(some, limit * (1 + SAME))
        bowed = which & near[limit]
        if not bowed.any():
            continue
        elements, x = span.elements, span.x
        at, length = SLIDES[span.axis], span.end - span.start
        sag = _sag(model, span, elements, state, off)
        sense = np.where(sag < -STRAIGHT * length, -1.0, 1.0) * senses * bowed
        if found is None:
            found = np.zeros((len(model.ends), OWN, len(senses)))
        # A parabola, by its deflection and slope at the nodes.
        bow = 4 * span.bow / length**2 * (x - span.start) * (span.end - x)
        slope = 4 * span.bow / length**2 * (span.start + span.end - 2 * x)
        ends = ((at, bow[:-1]), (at + 1, slope[:-1]), (at + 6, bow[1:]), (at + 7, slope[1:]))
        for freedom, values in ends:
            found[elements, freedom] += np.outer(values, sense)
    return found


def _compressed(spans: Sequence[_Span], state: State) -> list[tuple[_Span, Flags]]:
    """Return those of lengths that are compressed so far that they would bow, and under which."""
    if not spans or not state.N.size:
        return []
    first = np.array([int(span.elements[0]) for span in spans])
    # Of each length the most, up to where the next begins; the elements between count for none.
    ends = np.stack([first, first + [len(span.elements) for span in spans]], axis=1).ravel()
    pushed = np.concatenate([np.maximum(-state.N, 0.0), np.zeros_like(state.N[:1])])
    most = np.maximum.reduceat(pushed, ends, axis=0)[::2]
    limits = np.array([span.rule.compression_from * span.critical for span in spans])
    found = most > limits[:, None] * (1 + SAME)
    return [(spans[i], found[i]) for i in np.flatnonzero(found.any(axis=1)).tolist()]


def _spans(frame: FrameOf, model: Model, state: State) -> Iterator[_Span]:
    """Yield the lengths of members that would bow, where these may be compressed enough."""
    known: dict[Any, float] = {}
    chains = list(model.chains.values())
    first = [chain.first for chain in chains]
    pushes = -np.minimum.reduceat(state.N.min(axis=1, initial=0.0), first)
    lengths = np.array([chain.member.length for chain in chains])
    weakest = np.minimum.reduceat(np.minimum(model.EI_major, model.EI_minor), first)
    wholes = (math.pi / lengths) ** 2 * weakest

    def over_length(rule: Bows, member: DesignMember, section: Section, axis: str) -> float:
        Fy, cold_formed = member.as_if_all(section).strengths.Fy, member.is_cold_formed
        key = (id(rule), section, Fy, cold_formed, axis)
        if key not in known:
            known[key] = rule.of_length(section, Fy, cold_formed, axis)
        return known[key]

    for chain, pushed, least in zip(chains, pushes.tolist(), wholes.tolist(), strict=True):
        member, said = chain.member, chain.member.said
        code = frame.job.code_of(said)
        rule = code.second_order.bows
        if rule is None or pushed <= rule.compression_from * least:
            continue
        for axis in [said.axis_in_plane] if frame.is_plane else ["major", "minor"]:
            weakest = min(getattr(section, f"I_{axis}") for section in member.sections)
            whole = (math.pi / member.length) ** 2 * code.elasticity.E * weakest
            if pushed <= rule.compression_from * whole:  # no part of it buckles under less
                continue
            spans = member.span_lengths(axis)
            if "fixed" not in said.joined_about(axis) and len(spans) == 1:
                continue
            for start, end in spans:
                sections = [s for a, b, s in member.stretches if a < end and b > start]
                stiff = code.elasticity.E * min(getattr(one, f"I_{axis}") for one in sections)
                most = max(over_length(rule, member, one, axis) for one in sections)
                bow = most * (end - start)
                critical = (math.pi / (end - start)) ** 2 * stiff
                yield _Span(chain, axis, start, end, rule, bow, critical)


def _sag(model: Model, span: _Span, elements: Indices, state: State, off: Off) -> Array:
    """Return how far a length is off the line of its ends on average, (C,)."""
    at, L = SLIDES[span.axis], model.lengths[elements, None]
    d1, s1, d2, s2 = (state.movements[elements, at + i] for i in (0, 1, 6, 7))
    mean = 0.5 * (d1 + d2) + L / 12 * (s1 - s2)
    mean += model.kept(BeamColumns).mean_sag(off, state.bulges, AXES.index(span.axis), elements)
    share = (np.cumsum(L, axis=0) - 0.5 * L) / L.sum()
    chord = d1[:1] + share * (d2[-1:] - d1[:1])
    return np.asarray(((mean - chord) * L).sum(axis=0) / L.sum())
