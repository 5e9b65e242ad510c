"""Deflections of a member against its limits."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.analysis.diagram import distinct
from welbric.forces import LoadCases, pattern_spans
from welbric.job import Job
from welbric.limits import DeflectionLimit
from welbric.loads import combinations as loading
from welbric.members import Member
from welbric.restraints import held_all_along
from welbric.results import Row, limit_ratio, outside_row, status_of


def deflection_rows(job: Job, member: Member, cases: LoadCases | None, code: Any) -> list[Row]:
    """Return the deflection checks of a member, one for each kind of limit and axis."""
    rows = []
    section = member.section
    for kind in type(member.deflection).model_fields:
        limits = getattr(member.deflection, kind)
        if limits is None:
            continue
        name = f"deflection, {kind.replace('_', '-')}"
        clause = code.DEFLECTION_CLAUSE
        if cases is None:
            reason = "deflections need loads; only combined forces are given"
            rows.append(outside_row(name, clause, reason, "dimension"))
            continue
        if section.askew and not alike_about_both_axes(member):
            reason = (
                f"{section.name} bends askew: its supports have to be the same about both axes, "
                "without springs"
            )
            rows.append(outside_row(name, clause, reason, "dimension"))
            continue
        combinations = service_combinations(job, member, cases, kind)
        if not combinations:
            continue
        for axis in ("major", "minor"):
            camber = (member.camber or 0.0) if (kind, axis) == ("total", "major") else 0.0
            row = _deflection_row(member, cases, combinations, axis, limits, camber)
            if row is not None:
                named = name if axis == "major" else f"{name}, minor axis"
                rows.append(Row(named, clause, *row))
    return rows


def service_combinations(
    job: Job, member: Member, cases: LoadCases, kind: str
) -> list[loading.Combination]:
    """Return the service combinations of a kind, with live loads on patterns where asked for."""
    found = loading.service(job.loading, kind, cases.present, job.choices)
    spans = pattern_spans(member)
    return loading.with_patterns(found, spans) if spans > 1 else found


def alike_about_both_axes(member: Member) -> bool:
    """Whether what holds a member holds it alike about both axes, firmly."""
    major, minor = member.supports_about("major"), member.supports_about("minor")
    return major == minor and not any(s.spring or s.rotation_spring for s in major)


def deflection_shape(
    member: Member, cases: LoadCases, combinations: list[loading.Combination], axis: str
) -> tuple[Any, Any]:
    """Return stations, shape (X,), and deflections there, shape (C, X); mm, downwards.

    A section whose principal axes are turned moves across the load too, unless both its flanges
    are held all along: what loads in either plane bring is added, as if both had the worse sense.
    """
    factors = cases.factors(combinations)
    about = {"major": cases.major.deflection, "minor": cases.minor.deflection}
    diagram = about[axis].combine(factors)
    even = np.linspace(0.0, member.length, 101)
    x = distinct(np.concatenate([diagram.breaks, diagram.extreme_places(), even]))
    if not member.section.askew:
        return x, diagram.at(x, np.zeros(len(x), dtype=bool))
    diagrams = {name: one.combine(factors) for name, one in about.items()}
    extremes = [one.extreme_places() for one in diagrams.values()]
    x = distinct(np.concatenate([x, *extremes]))
    left = np.zeros(len(x), dtype=bool)
    by_major, by_minor = (diagrams[name].at(x, left) for name in ("major", "minor"))
    s = member.section
    if held_sideways(member):
        return x, by_major * s.I_major / s.I_x if axis == "major" else 0.0 * by_minor
    if axis == "major":
        own, other = by_major * s.I_y / s.I_minor, by_minor * abs(s.I_xy) / s.I_major
    else:
        own, other = by_minor * s.I_x / s.I_major, by_major * abs(s.I_xy) / s.I_minor
    return x, own + np.where(own < 0, -1.0, 1.0) * np.abs(other)


def held_sideways(member: Member) -> bool:
    """Whether both flanges are held all along, so that bending about x is in its plane."""
    return all(
        held_all_along(member, getattr(member.restraint, flange)) == [(0.0, member.length)]
        for flange in ("top", "bottom")
    )


def from_chords(member: Member, axis: str, x: Any, shape: Any) -> Any:
    """Return deflections less the straight line between the ends of each span.

    A free end has no chord: an overhang's line is the chord of the span beside it, carried on; a
    cantilever's is that of nothing, and its deflection stays what it is.
    """
    result = shape.copy()
    spans = member.span_lengths(axis)
    held = {s.at for s in member.supports_about(axis) if s.held}

    def at(place: float) -> Any:
        return np.array([np.interp(place, x, row) for row in shape])

    def line(start: float, end: float, places: Any) -> Any:
        slope = (at(end) - at(start)) / (end - start)
        return at(start)[:, None] + slope[:, None] * (places - start)

    for number, (start, end) in enumerate(spans):
        inside = (x >= start) & (x <= end)
        ends = (start, end)
        if not {start, end} <= held:
            if len(spans) == 1:
                continue
            ends = spans[1] if number == 0 else spans[number - 1]
        # A place over a support belongs to both spans; on both lines it is zero.
        result[:, inside] = shape[:, inside] - line(*ends, x[inside])
    return result


def _deflection_row(
    member: Member,
    cases: LoadCases,
    combinations: list[loading.Combination],
    axis: str,
    limits: tuple[DeflectionLimit, ...],
    camber: float,
) -> tuple[Any, ...] | None:
    x, shape = deflection_shape(member, cases, combinations, axis)
    shape = shape - 4 * camber * x * (member.length - x) / member.length**2
    worst_span: tuple[Any, ...] = (-1.0,)
    if member.deflection_from == "chord":
        shape = from_chords(member, axis, x, shape)
    for start, end in member.span_lengths(axis):
        inside = np.flatnonzero((x >= start) & (x <= end))
        c, i = np.unravel_index(np.argmax(np.abs(shape[:, inside])), (len(shape), len(inside)))
        largest = abs(float(shape[c, inside[i]]))
        limit = min(limits, key=lambda one: one.allowed(end - start))
        U = limit_ratio(limit, largest, end - start)
        if worst_span[0] < U:
            worst_span = (U, largest, end - start, limit, int(c), int(inside[i]))
    U, largest, span, limit, c, i = worst_span
    # Rounding leaves a trace of deflection about an axis that nothing bends.
    if largest < 1e-9 * member.length:
        return None
    return (
        *(U, status_of(U), largest, limit.allowed(span), "dimension"),
        *(combinations[c].name, float(x[i]), None, "", (int(c), -1)),
    )
