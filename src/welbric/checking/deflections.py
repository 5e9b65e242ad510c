"""Deflections of a member against its limits."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from welbric.analysis.diagram import distinct, first_largest
from welbric.checking.deflection_steps import DeflectionSteps
from welbric.checking.results import Row, outside_row
from welbric.checking.serviceability import deflection_ratio, deflection_utilisation
from welbric.checking.verdicts import status_of
from welbric.effects.load_cases import service_combinations as of_service
from welbric.inputs.deflection_limits import DeflectionLimit
from welbric.inputs.job import Job
from welbric.loads import combinations as loading
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases, pattern_spans
from welbric.members.segments import continuous_lengths
from welbric.standards.standard import Standard

SOFT_IN_SHEAR = "lacing and battens let the member move in shear, which this deflection has not"


def deflection_rows(
    job: Job,
    member: DesignMember,
    cases: LoadCases | None,
    code: Standard,
    under: loading.Combination | None = None,
) -> list[Row]:
    """Return the deflection checks of a member, one for each kind of limit and axis.

    Under one combination alone where there is one: those of that name.
    """
    rows = []
    section = member.section
    for kind in type(member.said.deflection).model_fields:
        limits = getattr(member.said.deflection, kind)
        if limits is None:
            continue
        words = kind.replace("_", "-")
        name, own_id = f"deflection, {words}", f"deflection-{words}"
        clause = code.deflection_clause
        if cases is None:
            reason = "deflections need loads; only combined forces are given"
            rows.append(outside_row(own_id, name, clause, reason, "dimension"))
            continue
        if section.has_rotated_axes and not alike_about_both_axes(member):
            reason = (
                f"{section.name} has rotated principal axes: its supports have to be the same "
                "about both axes, without springs"
            )
            rows.append(outside_row(own_id, name, clause, reason, "dimension"))
            continue
        combinations = service_combinations(job, member, cases, kind)
        if under is not None:
            combinations = [one for one in combinations if one.name == under.name]
        if not combinations:
            continue
        for axis in ("major", "minor"):
            camber = (member.said.camber or 0.0) if (kind, axis) == ("total", "major") else 0.0
            named = (own_id, name)
            if axis == "minor":
                named = (f"{own_id}-minor", f"{name}, minor axis")
            row = _deflection_row(member, cases, combinations, axis, limits, camber, named, clause)
            if row is not None and axis == "minor" and (member.said.lacing or member.said.battens):
                row = outside_row(*named, clause, SOFT_IN_SHEAR, "dimension")
            if row is not None:
                rows.append(row)
    return rows


def service_combinations(
    job: Job, member: DesignMember, cases: LoadCases, kind: str
) -> list[loading.Combination]:
    """Return the service combinations of a kind, with live loads on patterns where asked for."""
    found = of_service(job, cases, kind)
    spans = pattern_spans(member)
    return job.loading.with_patterns(found, spans) if spans > 1 else found


def alike_about_both_axes(member: DesignMember) -> bool:
    """Whether what holds a member holds it alike about both axes, firmly."""
    major, minor = member.supports_about("major"), member.supports_about("minor")
    return major == minor and not any(s.spring or s.rotation_spring for s in major)


def deflection_shape(
    member: DesignMember,
    cases: LoadCases,
    combinations: list[loading.Combination],
    axis: str,
    count: int = 101,
) -> tuple[Any, Any]:
    """Return stations, shape (X,), and deflections there, shape (C, X); mm, downwards.

    Beside where they are largest there are ``count`` even ones.

    A section whose principal axes are turned moves across the load too, unless both its flanges
    are continuously restrained: what loads in either plane bring is added, as if both had the
    worse sense.
    """
    diagrams = cases.service_deflections(combinations)
    diagram = diagrams[axis]
    even = np.linspace(0.0, member.length, count)
    x = distinct(np.concatenate([diagram.breaks, diagram.extreme_places(), even]))
    if not member.section.has_rotated_axes:
        return x, diagram.at(x, np.zeros(len(x), dtype=bool))
    extremes = [one.extreme_places() for one in diagrams.values()]
    x = distinct(np.concatenate([x, *extremes]))
    left = np.zeros(len(x), dtype=bool)
    by_major, by_minor = (diagrams[name].at(x, left) for name in ("major", "minor"))
    s = member.section
    if held_laterally(member):
        return x, by_major * s.I_major / s.I_x if axis == "major" else 0.0 * by_minor
    if axis == "major":
        own, other = by_major * s.I_y / s.I_minor, by_minor * abs(s.I_xy) / s.I_major
    else:
        own, other = by_minor * s.I_x / s.I_major, by_major * abs(s.I_xy) / s.I_minor
    return x, own + np.where(own < 0, -1.0, 1.0) * np.abs(other)


def held_laterally(member: DesignMember) -> bool:
    """Whether both flanges are continuously restrained, so that bending about x is in its plane."""
    return all(
        continuous_lengths(member, flange) == ((0.0, member.length),)
        for flange in ("top", "bottom")
    )


def from_chords(member: DesignMember, axis: str, x: Any, shape: Any) -> Any:
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


def limit_ratio(limit: DeflectionLimit, delta: float, span: float) -> float:
    """Return a deflection over its limit in a span."""
    if limit.at_most is not None:
        return float(deflection_utilisation(delta, limit.at_most))
    return deflection_ratio(delta, span, float(limit.over or math.inf))


def _deflection_row(
    member: DesignMember,
    cases: LoadCases,
    combinations: list[loading.Combination],
    axis: str,
    limits: tuple[DeflectionLimit, ...],
    camber: float,
    named: tuple[str, str],
    clause: str,
) -> Row | None:
    about = {"major": cases.major, "minor": cases.minor}
    if about[axis].deflection.is_nothing and not camber and not member.section.has_rotated_axes:
        return None
    x, shape = deflection_shape(member, cases, combinations, axis)
    shape = shape - 4 * camber * x * (member.length - x) / member.length**2
    worst_span: tuple[Any, ...] | None = None
    undeformed = shape
    if member.said.deflection_from == "chord":
        shape = from_chords(member, axis, x, shape)
    for start, end in member.span_lengths(axis):
        inside = np.flatnonzero((x >= start) & (x <= end))
        most = first_largest(np.abs(shape[:, inside]).ravel())
        c, i = np.unravel_index(int(most), (len(shape), len(inside)))
        largest = abs(float(shape[c, inside[i]]))
        limit = min(limits, key=lambda one: one.allowed(end - start))
        U = limit_ratio(limit, largest, end - start)
        if worst_span is None or math.isnan(U) or worst_span[0] < U:
            worst_span = (U, largest, end - start, limit, int(c), int(inside[i]))
    if worst_span is None:
        return None
    U, largest, span, limit, c, i = worst_span
    # Rounding leaves a trace of deflection about an axis that nothing bends.
    if largest < 1e-9 * member.length:
        return None
    return Row(
        id=named[0],
        name=named[1],
        clause=clause,
        utilisation=U,
        status=status_of(U),
        demand=largest,
        capacity=limit.allowed(span),
        kind="dimension",
        combination=combinations[c].name,
        place=float(x[i]),
        remark=f"L/{span / largest:.0f}",
        at=(c, -1),
        again=DeflectionSteps(
            cases=cases,
            combination=combinations[c],
            axis=axis,
            place=float(x[i]),
            length=member.length,
            camber=camber,
            chord=float(undeformed[c, i] - shape[c, i]),
            resolved=member.section.has_rotated_axes,
            deflection=largest,
            limit=limit,
            span=span,
        ),
    )
