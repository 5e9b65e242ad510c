"""Many sections of one member at once: which of them cannot pass, found over arrays.

The forces in a member of one section follow its own weight alone, in a straight line, as long as
nothing else in them depends on the section. So two analyses give those of every candidate, and the
standard's checks run over all of them together. Deflections go with the weight and 1/I.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Diagram
from welbric.checking.cases import member_case
from welbric.checking.check import given_forces_of
from welbric.checking.deflections import deflection_rows
from welbric.checking.results import MemberResult
from welbric.checking.verdicts import OK, deciding_each, status_of
from welbric.effects.forces import (
    Loaded,
    MemberForces,
    compressing_moments,
    effects_of,
    member_forces,
)
from welbric.effects.load_cases import load_cases, strength_combinations
from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.members.design_member import DesignMember
from welbric.members.resolve import resolve
from welbric.members.segments import Segment, has_like_flanges, segments
from welbric.sections.table import Section, SectionAxis
from welbric.standards.case import Effects
from welbric.standards.standard import Standard
from welbric.studies.schedule_checks import utilisations

AT_LEAST = 8  # sections that are worth it
LARGEST = 4_000_000  # numbers in one array: bounds the memory
KINDS = ("N", "V_major", "M_major", "V_minor", "M_minor", "T")


@dataclass(frozen=True)
class Look:
    """What was found for a section at once: its worst check.

    Where a check is outside and none is over, the utilisation is NaN, and `reason` says why.
    `by_check` has the utilisation of every check that applies.
    """

    utilisation: float
    check: str
    clause: str
    reason: str = ""
    by_check: dict[str, float] = field(default_factory=dict)


def applies(job: Job, member: Member) -> bool:
    """Whether a member's forces depend on its section through its own weight alone."""
    springs = any(s.spring or s.rotation_spring for s in member.supports)
    strained = any(
        load.settlement is not None
        or load.temperature is not None
        or load.temperature_difference is not None
        for load in member.loads
    )
    plain = member.second_order != "analysed"
    return plain and not (springs or strained or member.pieces or member.web_steel)


def looks(job: Job, member: Member, sections: Sequence[Section]) -> dict[str, Look]:
    """Return what the standard's checks and the deflections say of each section, by its name.

    Sections that cannot be looked at so are left out.
    """
    if len(sections) < AT_LEAST or not applies(job, member):
        return {}
    # Of one shape, those whose flanges are alike have other segments than those whose are not.
    alike: dict[tuple[str, bool], list[Section]] = {}
    for section in sections:
        alike.setdefault((section.shape, has_like_flanges(section)), []).append(section)
    code = job.code_of(member)
    found: dict[str, Look] = {}
    for (shape, _), some in alike.items():
        if shape in code.shapes:
            found |= _of_shape(job, resolve(member), some, code)
    return found


def looks_under(
    job: Job, member: DesignMember, result: MemberResult, sections: Sequence[Section]
) -> dict[str, Look]:
    """Return what is said of each section under the forces that a member has now.

    Of the combinations those are looked at that decide now, or have the most or the least of
    something. Its deflections go with 1 / I of what it has; those that cannot be looked at are left
    out.
    """
    code, forces = job.code_of(member.said), result.forces
    if not forces.combinations:
        return {}
    forces = forces.telling({row.combination for row in result.rows})
    alike: dict[tuple[str, bool], list[Section]] = {}
    for section in sections:
        alike.setdefault((section.shape, has_like_flanges(section)), []).append(section)
    found: dict[str, Look] = {}
    for (shape, _), some in alike.items():
        if shape not in code.shapes:
            continue
        limits = []
        for row in result.rows:
            if row.id.startswith("deflection") and math.isfinite(row.utilisation):
                axis = "I_minor" if "minor" in row.name else "I_major"
                share = getattr(member.section, axis) / getattr(some[0], axis)
                limits.append((row.name, row.clause, row.utilisation * share, 0.0))
        found |= _of_shape(job, member, some, code, (forces, limits))
    return found


Limits = list[tuple[str, str, float, float]]  # of deflections: name, clause, a, b


def _of_shape(
    job: Job,
    member: DesignMember,
    sections: list[Section],
    code: Standard,
    under: tuple[MemberForces, Limits] | None = None,
) -> dict[str, Look]:
    least = AT_LEAST if under is None else 1
    if sections[0].shape == "outline":  # whose corners are each one's own
        return {}
    known, strengths = [], []
    for section in sections:
        try:
            band = member.as_if_all(section).strengths
        except InputError:
            continue
        known.append(section)
        strengths.append((band.Fy, band.Fu))
    if len(known) < least:
        return {}
    first = known[0]
    low, high = min(s.mass for s in known), max(s.mass for s in known)
    light, heavy = (_weighing(member, first, mass) for mass in (low, max(high, low * 1.5)))
    parts = segments(light)
    limits: Limits = []
    if under is not None:
        (forces, limits), slopes, bending = under, None, None
    elif member.said.forces:
        forces, slopes, bending = given_forces_of(job, light, parts), None, None
    else:
        forces, slopes, bending, limits = _two_analyses(job, light, heavy, parts, code)
    if not forces.combinations:
        return {}
    case = member_case(job, light, parts, forces)
    C, X, G = len(forces.combinations), forces.x.shape[-1], len(parts)
    found: dict[str, Look] = {}
    step = max(1, LARGEST // (C * X))
    for start in range(0, len(known), step):
        some = known[start : start + step]
        effects = _effects(light, forces, slopes, low, some)
        names = set.intersection(*(set(s.properties) for s in some))
        columns = {n: np.array([s.properties[n] for s in some])[:, None, None] for n in names}
        Fy, Fu = np.array(strengths[start : start + step]).T
        shape = case.moment_shape
        if shape is not None and np.ndim(shape):
            grown = None if bending is None else (bending, low)
            shape = _moment_shapes(light, forces, effects, parts, some, grown, code)
        many = replace(
            case, section=SectionAxis(columns), Fy=Fy[:, None, None], Fu=Fu[:, None, None],
            effects=effects, moment_shape=shape, cache={},
        )  # fmt: skip
        U, checks = utilisations(code, first.shape, many, (len(some), C, G))
        flat = U.reshape(len(checks), len(some), -1)
        outside = np.asarray(np.isnan(flat).any(axis=(0, 2)))
        worst = np.where(np.isnan(flat), -1.0, flat).max(axis=2)
        decides = deciding_each(flat.reshape(-1, flat.shape[2])).reshape(flat.shape[:2])
        of_all = np.take_along_axis(flat, decides[..., None], axis=2)[..., 0].tolist()
        for i, section in enumerate(some):
            k = int(worst[:, i].argmax())
            value, name, clause = float(worst[k, i]), checks[k].name, checks[k].clause
            every = {
                check.name: of[i]
                for check, of in zip(checks, of_all, strict=True)
                if not of[i] <= 0
            }
            for words, rule, a, b in limits:
                axis = "I_minor" if "minor" in words else "I_major"
                share = getattr(first, axis) / getattr(section, axis)
                deflects = every[words] = (a + b * section.mass) * share
                if deflects > value:
                    value, name, clause = deflects, words, rule
            reason = ""
            if outside[i] and status_of(value) == OK:
                k = int(np.isnan(flat[:, i]).any(axis=1).argmax())
                value, name, clause = math.nan, checks[k].name, checks[k].clause
                reason = checks[k].reason or "the calculation gave no number"
            found[section.name] = Look(value, name, clause, reason, every)
    return found


def _weighing(member: DesignMember, section: Section, mass: float) -> DesignMember:
    """Return a member with a section that weighs something else."""
    own = Section(section.shape, section.name, section.properties | {"mass": mass})
    return member.as_if_all(own)


def _two_analyses(
    job: Job, light: DesignMember, heavy: DesignMember, parts: Any, code: Standard
) -> tuple[MemberForces, dict[str, Any], Diagram, Limits]:
    """Return the forces under the lesser weight, what each unit of mass adds, and deflections.

    What it adds at the stations, and of bending about the major axis all along.
    """
    solved = [load_cases(one, code.elasticity) for one in (light, heavy)]
    combined = strength_combinations(job, light, solved[0])
    level = code.second_order.level[job.method_of(light.said)]
    forces, other = (
        member_forces(Loaded.of(light, cases, combined, parts, level)) for cases in solved
    )
    more = heavy.section.mass - light.section.mass
    slopes = {}
    now, then = ((of.diagrams or {})["M_major"] for of in (forces, other))
    difference = then.plus(Diagram(now.breaks, -now.coefficients))
    bending = Diagram(now.breaks, difference.coefficients / more)
    for kind in KINDS:
        there = (other.diagrams or {})[kind].at(forces.x, forces.right)
        slopes[kind] = (there - getattr(forces, kind)) / more
    rows = [
        deflection_rows(job, one, cases, code)
        for one, cases in zip((light, heavy), solved, strict=True)
    ]
    by_name = {row.name: row.utilisation for row in rows[1]}
    limits = []
    for row in rows[0]:
        second = by_name.get(row.name, math.nan)
        plain = not light.said.camber and not light.section.has_rotated_axes
        if math.isfinite(row.utilisation) and math.isfinite(second) and plain:
            slope = (second - row.utilisation) / more
            limits.append(
                (row.name, row.clause, row.utilisation - slope * light.section.mass, slope)
            )
    return forces, slopes, bending, limits


def _moment_shapes(
    member: DesignMember,
    forces: MemberForces,
    effects: Effects,
    parts: list[Segment],
    some: list[Section],
    grown: tuple[Diagram, float] | None,
    code: Standard,
) -> Any:
    """Return the moment-shape factors of every section by eigenvalue, shape (S, C, G).

    ``grown`` is what each unit of mass adds to the moments, and the mass that they have now.
    """
    from welbric.effects.critical_load import critical_factors, moment_shapes

    diagram = (forces.diagrams or {})["M_major"]

    def along(x: Any) -> Any:
        left = np.zeros(len(x), dtype=bool)
        now = diagram.at(x, left)[None]
        if grown is None:
            return np.broadcast_to(now, (len(some), *now.shape[1:]))
        more, low = grown
        extra = np.array([section.mass - low for section in some])[:, None, None]
        return now + more.at(x, left)[None] * extra

    moments = compressing_moments(forces, parts, np.asarray(effects.M_major))
    factors = critical_factors(
        member, forces.combinations, diagram.breaks, along, code.elasticity, some
    )
    return moment_shapes(factors, moments, parts, member.stretches, code.elasticity, some)


def _effects(
    member: DesignMember, forces: MemberForces, slopes: Any, low: float, some: list[Section]
) -> Effects:
    """Return the forces with every section, shape (S, C, X)."""
    extra = np.array([section.mass - low for section in some])[:, None, None]

    def of(kind: str) -> Any:
        base = getattr(forces, kind)[None]
        values = base + (0.0 if slopes is None else slopes[kind][None] * extra)
        return np.broadcast_to(values, (len(some), *base.shape[1:]))

    return replace(effects_of(member, forces), **{kind: of(kind) for kind in KINDS})
