"""The forces in a member under every combination, and the largest of them in each segment."""

from __future__ import annotations

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.beam import BeamResult
from welbric.analysis.diagram import (
    Array,
    Diagram,
    distinct,
    extremes,
    largest_within,
    values_at,
)
from welbric.analysis.second_order import nodal_forces
from welbric.effects.stations import Base, Stations
from welbric.inputs.actions import Storey
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.held_lengths import as_shares, quarter_points
from welbric.members.load_cases import (
    CombinedResults,
    Criticality,
    LoadCases,
)
from welbric.members.segments import Segment
from welbric.standards.case import Effects

TRACE = 1e-10  # of the largest value
FORCES = ("N", "V_major", "M_major", "V_minor", "M_minor", "T")
TURNING = ("V_major", "M_major", "V_minor", "M_minor", "N")  # of which extremes are stations
LARGEST = 8_000  # stations that are there whatever acts, of members found at once


@dataclass(frozen=True)
class MemberForces:
    """Axial force, shear and moment at stations along a member.

    Attributes
    ----------
    combinations : list of Combination, C of them
    segments : sequence of Segment, G of them
    x : array, shape (C, X), mm
        Stations of each combination, ascending; a break stands there twice, for its left and its
        right side. Those that a combination has not got stand at the member's end.
    right : array of bool, shape (C, X)
        Whether a station means the right side of a jump.
    first, last : array of int, shape (C, G)
        The stations between which each segment is, with its own side of a jump at either end.
    quarters : array of int, shape (C, G, 3, 2)
        The stations at its quarter points, for either side of a jump.
    N, V_major, M_major, V_minor, M_minor, T : array, shape (C, X)
        N and N mm; tension and sagging positive.
    critical : Criticality, optional
        By the axial forces over those at which the member buckles elastically in a plane in which
        something bends it, or the loads over those at which its frame does, where bending is of
        the second order.
    sway : array, shape (C,), optional
        Of a member of a frame, the load over that at which the frame sways, where its forces are of
        the first order or effective lengths depend on it.
    unbowed : array of bool, shape (C,), optional
        Of a member of a frame, where members of it would have to bow from the start, and do not.
    turned : array, shape (C,), optional
        Of a member of a frame, the largest angle that it turns by as the frame moves, radians.
    diagrams : dict of str to Diagram, optional
        The same between the stations, by the names above; where loads were analysed.
    reactions : dict of str to array, shape (C, S), optional
        Of the supports about each axis, N; where loads were analysed.
    """

    combinations: list[Combination]
    segments: Sequence[Segment]
    x: Array
    right: NDArray[np.bool_]
    first: NDArray[np.intp]
    last: NDArray[np.intp]
    quarters: NDArray[np.intp]
    N: Array
    V_major: Array
    M_major: Array
    V_minor: Array
    M_minor: Array
    T: Array
    critical: Criticality | None = None
    sway: Array | None = None
    unbowed: NDArray[np.bool_] | None = None
    turned: Array | None = None
    diagrams: dict[str, Diagram] | None = None
    reactions: dict[str, Array] | None = None

    def telling(self, named: Collection[str] = ()) -> MemberForces:
        """Return the combinations with the most or the least of something, and those named."""
        found = {c for c, one in enumerate(self.combinations) if one.name in named}
        x = np.unique(self.x)
        left = np.zeros(len(x), dtype=bool)
        for name in FORCES:
            values = getattr(self, name)
            if not values.any():
                continue
            values_along = [values]
            if self.diagrams is not None:  # all of them at the same places
                values_along = [self.diagrams[name].at(x, side) for side in (left, ~left)]
            for one in values_along:
                found |= {*one.argmax(axis=0).tolist(), *one.argmin(axis=0).tolist()}
        kept = sorted(found)
        kept_forces = MemberForces(
            [self.combinations[c] for c in kept], self.segments, self.x[kept], self.right[kept],
            self.first[kept], self.last[kept], self.quarters[kept],
            *(getattr(self, name)[kept] for name in FORCES),
        )  # fmt: skip
        if self.diagrams is None:
            return kept_forces
        along = {name: one.taken(kept) for name, one in self.diagrams.items()}
        return replace(kept_forces, diagrams=along)

    def numbers_of(self, segments: Sequence[Segment]) -> Any:
        """Return the numbers of some of its segments."""
        if segments is self.segments or list(segments) == list(self.segments):
            return slice(None)
        number = {segment: g for g, segment in enumerate(self.segments)}
        return [number[segment] for segment in segments]

    def largest_in(self, values: Array, segments: Sequence[Segment]) -> Array:
        """Return the largest values at its stations, (..., C, X), in some segments, (..., C, G)."""
        which = self.numbers_of(segments)
        return largest_within(values, self.first[:, which], self.last[:, which])

    @property
    def share(self) -> Array | None:
        """The loads over the critical ones, shape (C,); None to the first order."""
        return None if self.critical is None else self.critical.shares


@dataclass(frozen=True)
class Loaded:
    """A loaded member whose forces are asked for.

    Attributes
    ----------
    cases : LoadCases
        With their links bending is of the second order.
    combinations : list of Combination
    segments : sequence of Segment
    level : float
        On the loads, for the second order; 1.6 in allowable stress design.
    stiffer : float, optional
        How much more of a moment about the major axis than about the minor one makes the same
        stress: there are stations where both together are largest, by that.
    places : tuple of float, mm
        Where there are stations whatever acts.
    """

    cases: LoadCases
    combinations: list[Combination]
    segments: Sequence[Segment]
    level: float = 1.0
    stiffer: float | None = None
    places: tuple[float, ...] = ()

    @classmethod
    def of(
        cls,
        member: DesignMember,
        cases: LoadCases,
        combinations: list[Combination],
        segments: Sequence[Segment],
        level: float = 1.0,
    ) -> Loaded:
        """Return a member with its load cases; its section tells how much stiffer it is."""
        known = {"Wel_major", "Wel_minor"} <= set(member.section.properties)
        stiffer = member.section.Wel_major / member.section.Wel_minor if known else None
        return cls(cases, combinations, segments, level, stiffer, quarter_points(member))

    def combined(self) -> CombinedResults:
        """Return what the combinations do."""
        cases, level = self.cases, self.level
        if cases.frame is not None and self.combinations:
            return cases.frame.combined(self.combinations)
        factors = cases.factors(self.combinations)
        found = CombinedResults(
            cases.major.combine(factors), cases.minor.combine(factors),
            cases.axial.combine(factors), cases.torsion.combine(factors),
        )  # fmt: skip
        if cases.frame is not None or cases.links is None:
            return found
        links, major, minor = cases.links, found.major, found.minor
        pull = found.axial.scaled(level)
        of_major = nodal_forces(links.nodes, major.deflection, links.major, pull)
        of_minor = nodal_forces(links.nodes, minor.deflection, links.minor, pull)
        # Where nothing bends about an axis, buckling about it is the standard's, by its lengths.
        shares = [
            np.where(_bends(major), of_major.share, 0.0),
            np.where(_bends(minor), of_minor.share, 0.0),
        ]
        return replace(
            found,
            major=major.plus(links.major.combine(of_major.forces)),
            minor=minor.plus(links.minor.combine(of_minor.forces)),
            critical=Criticality.of(np.maximum(*shares)),
        )


def member_forces(loaded: Loaded) -> MemberForces:
    """Return the forces of a loaded member under the combinations."""
    return member_forces_of([loaded])[0]


def member_forces_of(loaded: Sequence[Loaded]) -> list[MemberForces]:
    """Return the forces of loaded members under their combinations, of those alike at once."""
    bases: dict[Any, Base] = {}
    found: list[MemberForces | None] = [None] * len(loaded)
    alike: dict[Any, list[tuple[int, CombinedResults, Base]]] = {}

    def done(some: list[tuple[int, CombinedResults, Base]]) -> None:
        own = _of_like([(loaded[i], combined, base) for i, combined, base in some])
        for (i, *_), one in zip(some, own, strict=True):
            found[i] = one

    for i, one in enumerate(loaded):
        combined = one.combined()
        breaks = combined.axial.breaks
        diagrams = _along(combined)
        several = _peak_between(diagrams)
        key = breaks.tobytes(), tuple([(s.start, s.end) for s in one.segments]), several, one.places
        base = bases.get(key) or bases.setdefault(
            key, Base.of(breaks, one.segments, several, one.places)
        )
        kind = (
            len(breaks), len(base.x), len(one.segments), len(one.combinations),
            *(diagram.coefficients.shape[-1] for diagram in diagrams.values()),
            combined.turning is None or tuple([of.shape[-1] for of in combined.turning]),
            one.stiffer is None,
        )  # fmt: skip
        some = alike.setdefault(kind, [])
        some.append((i, combined, base))
        if len(some) * len(one.combinations) * len(base.x) >= LARGEST:
            done(alike.pop(kind))
    for some in alike.values():
        done(some)
    return [one for one in found if one is not None]


def _along(combined: CombinedResults) -> dict[str, Diagram]:
    """Return the diagrams of what combinations do, by the names of forces."""
    major, minor = combined.major, combined.minor
    return {
        "N": combined.axial,
        "V_major": major.shear,
        "M_major": major.moment,
        "V_minor": minor.shear,
        "M_minor": minor.moment,
        "T": combined.torsion,
    }


def _peak_between(diagrams: dict[str, Diagram]) -> bool:
    """Return whether what diagrams bring together may be largest where none of them turns.

    So it may where several are curved, or one beside another that is not of its plane and varies.
    """
    curved = sum(diagrams[name].is_curved for name in TURNING)
    planes = sum(diagrams[name].varies for name in ("N", "M_major", "M_minor", "T"))
    return curved > 1 or (curved == 1 and planes > 1)


def _of_like(members: Sequence[tuple[Loaded, CombinedResults, Base]]) -> list[MemberForces]:
    """Return the forces of members that are alike; the first axis of arrays is the member."""
    diagrams = [_along(combined) for _, combined, _ in members]
    breaks = np.array([combined.axial.breaks for _, combined, _ in members])
    each = {name: np.array([one[name].coefficients for one in diagrams]) for name in FORCES}
    if members[0][1].turning is not None:
        known = [combined.turning or () for _, combined, _ in members]
        turning = [np.array(of) for of in zip(*known, strict=True)]
    else:
        starts, spans = breaks[:, None, :-1], np.diff(breaks)[:, None]
        turning = [extremes(each[name], starts, spans) for name in TURNING]
    if members[0][0].stiffer is not None and each["M_minor"].any() and each["M_major"].any():
        turning = [*turning, *_both_together(members, each, breaks)]
    count = len(members[0][0].combinations)
    at = Stations.of([base for *_, base in members], breaks, turning, count)
    values = {name: without_trace(c, axis=(1, 2)) for name, c in
              values_at(each, breaks, at.x, at.interval).items()}  # fmt: skip
    found = []
    for m, ((one, combined, _), along) in enumerate(zip(members, diagrams, strict=True)):
        own = slice(0, int(at.count[m]))
        found.append(MemberForces(
            one.combinations, one.segments, at.x[m, :, own], at.right[m, :, own],
            at.first[m], np.minimum(at.last[m], own.stop - 1), at.quarters[m],
            N=values["N"][m, :, own],
            V_major=values["V_major"][m, :, own], M_major=values["M_major"][m, :, own],
            V_minor=values["V_minor"][m, :, own], M_minor=values["M_minor"][m, :, own],
            T=values["T"][m, :, own],
            critical=combined.critical, sway=combined.sway, unbowed=combined.unbowed,
            turned=combined.turned, diagrams=along,
            reactions={"major": combined.major.reactions, "minor": combined.minor.reactions},
        ))  # fmt: skip
    return found


def _both_together(
    members: Sequence[tuple[Loaded, CombinedResults, Base]], each: dict[str, Array], breaks: Array
) -> list[Array]:
    """Return where the stress of both moments turns, of one sense and of both, (M, C, k)."""
    share = np.array([one.stiffer for one, *_ in members], dtype=float)[:, None, None, None]
    major, minor = each["M_major"], share * each["M_minor"]
    orders = max(major.shape[-1], minor.shape[-1])
    major, minor = (
        np.concatenate([c, np.zeros((*c.shape[:-1], orders - c.shape[-1]))], axis=-1)
        for c in (major, minor)
    )
    starts, spans = breaks[:, None, :-1], np.diff(breaks)[:, None]
    return [extremes(both, starts, spans) for both in (major + minor, major - minor)]


def _bends(result: BeamResult) -> NDArray[np.bool_]:
    """Return which combinations bend a member, shape (C,)."""
    largest = np.abs(result.moment.coefficients).max(axis=(1, 2), initial=0.0)
    return np.asarray(largest > TRACE * max(float(largest.max(initial=0.0)), 1.0))


def without_trace(values: Array, axis: tuple[int, ...]) -> Array:
    """Return values with what rounding leaves of nothing made zero, beside the largest on axes."""
    size = np.abs(values)
    return np.where(size <= TRACE * size.max(axis=axis, initial=0.0, keepdims=True), 0.0, values)


def given_forces(
    member: DesignMember, segments: Sequence[Segment], multiplier: Callable[[Storey], float]
) -> MemberForces:
    """Return the forces that were combined elsewhere, straight between the values given.

    Those of sidesway are multiplied by what ``multiplier`` returns of their storey.
    """
    L = member.length
    lists = {
        "N": [[-v for v in f.compression] or f.tension for f in member.said.forces],
        "V_major": [f.shear_major for f in member.said.forces],
        "M_major": [f.moment_major for f in member.said.forces],
        "V_minor": [f.shear_minor for f in member.said.forces],
        "M_minor": [f.moment_minor for f in member.said.forces],
        "T": [f.torsion for f in member.said.forces],
    }
    sway = {
        "N": [[-v for v in f.sway_compression] for f in member.said.forces],
        "M_major": [f.sway_moment_major for f in member.said.forces],
        "M_minor": [f.sway_moment_minor for f in member.said.forces],
    }
    factors = [multiplier(f.storey) if f.storey else 1.0 for f in member.said.forces]
    counts = {len(values) for rows in [*lists.values(), *sway.values()] for values in rows
              if len(values) > 1}  # fmt: skip
    breaks = distinct(
        np.concatenate([np.linspace(0.0, L, n) for n in counts | {2}] + [member.panel_ends])
    )
    base = Base.of(breaks, segments, more=quarter_points(member))
    at = Stations.of([base], breaks[None], [], len(factors))
    x = base.x
    even = {count: np.linspace(0.0, L, count) for count in counts}

    def along(values: list[float]) -> Array:
        if not values:
            return np.zeros_like(x)
        if len(values) == 1:
            return np.full_like(x, values[0])
        return np.asarray(np.interp(x, even[len(values)], values))

    nothing = np.zeros((len(factors), len(x)))
    columns: dict[str, Any] = {
        name: np.array([along(values) for values in rows]) if any(rows) else nothing
        for name, rows in lists.items()
    }
    for name, rows in sway.items():
        if not any(rows):
            continue
        more = np.array([along(values) for values in rows])
        # A storey beyond its critical load has no finite forces; those without sway have.
        scale = np.array(factors)[:, None]
        columns[name] = columns[name] + np.where(more != 0, more * np.where(more != 0, scale, 1), 0)
    for axis in ("major", "minor"):
        unsaid = np.array([not values for values in lists[f"V_{axis}"]])
        if unsaid.any():  # by statics, between the places that moments are given at
            V = np.where(unsaid[:, None], _slopes(x, columns[f"M_{axis}"]), columns[f"V_{axis}"])
            columns[f"V_{axis}"] = V
    named = [Combination(f.name, {}, "given") for f in member.said.forces]
    return MemberForces(
        named, segments, at.x[0], at.right[0], at.first[0], at.last[0], at.quarters[0], **columns
    )


def _slopes(x: Array, M: Array) -> Array:
    """Return the slope of moments at stations, the steeper of both sides, shape (C, X)."""
    dx = np.diff(x)
    slope = np.abs(np.diff(M, axis=-1)) / np.where(dx > 0, dx, np.inf)
    none = np.zeros((len(M), 1))
    return np.asarray(np.maximum(np.hstack([slope, none]), np.hstack([none, slope])))


def effects_of(member: DesignMember, forces: MemberForces) -> Effects:
    """Return the forces as a standard takes them."""
    return Effects(
        forces.x[None],
        N=forces.N[None],
        V_major=forces.V_major[None],
        M_major=forces.M_major[None],
        V_minor=forces.V_minor[None],
        M_minor=forces.M_minor[None],
        T=forces.T[None],
        parts_major=as_shares(member, "major"),
        parts_minor=as_shares(member, "minor"),
    )


def compressing_moments(
    forces: MemberForces, segments: Sequence[Segment], moments: Array | None = None
) -> Array:
    """Return the largest moments that compress each segment's flange, N mm, shape (C, G).

    Of other moments at the same stations, (..., C, X), where they are given: shape (..., C, G).
    """
    M = forces.M_major if moments is None else moments
    up, down = (forces.largest_in(sign * M, segments).clip(min=0.0) for sign in (1.0, -1.0))
    top, bottom = (np.array([s.flange != other for s in segments]) for other in ("bottom", "top"))
    return np.maximum(np.where(top, up, 0.0), np.where(bottom, down, 0.0))
