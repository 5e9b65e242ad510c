"""Where concentrated forces act on a member's web: its supports and point loads with a bearing."""

from __future__ import annotations

import functools
from collections.abc import Iterator
from typing import Any

import numpy as np

from welbric.analysis.member_loads import PointLoad
from welbric.checking.results import Row
from welbric.checking.verdicts import badness, deciding, status_of
from welbric.effects.forces import MemberForces
from welbric.inputs.job import Job
from welbric.loads.combinations import name_of
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.members.load_cases import LoadCases, applied
from welbric.members.segments import Segment, held_places
from welbric.standards.case import Bearing, BearingPair


def bearing_rows(
    job: Job,
    member: DesignMember,
    cases: LoadCases | None,
    forces: MemberForces,
    parts: list[Segment],
) -> tuple[list[Row], list[str]]:
    """Return a row for each limit state at its worst place, and what stiffeners must carry."""
    if cases is None or not forces.combinations:
        return [], []
    code, show = job.code_of(member.said), job.display
    rows: dict[str, Row] = {}
    words = []
    for place, of in _places(job, member, cases, forces, parts):
        missing = 0.0
        for limit in code.concentrated_forces.checks(of):
            check = limit(of)
            U = np.asarray(check.utilisation, dtype=float)
            c = deciding(U)
            if not (np.isnan(U[c]) or U[c] > 0):
                continue
            capacity = None if check.capacity is None else _at(check.capacity, c)
            row = Row(
                id=code.check_ids[check.name],
                name=check.name,
                clause=check.clause,
                utilisation=float(U[c]),
                status=status_of(float(U[c])),
                demand=float(np.asarray(of.force)[c]),
                capacity=capacity,
                kind="force",
                combination=forces.combinations[c].name,
                place=place,
                reason=check.reason if np.isnan(U[c]) else "",
                at=(c, -1),
                again=functools.partial(limit, of.at(c)),
            )
            if capacity is not None:
                missing = max(missing, float(np.max(np.asarray(of.force) - check.capacity)))
            worse = rows.get(check.name)
            if worse is None or badness(row) > badness(worse):
                rows[check.name] = row
        if missing > 0:
            words.append(
                f"at {show.show(place, 'length', 3)} the web needs stiffeners that carry "
                f"{show.show(missing, 'force')} ({of.source})"
            )
    return list(rows.values()), words


def _at(value: Any, c: int) -> float:
    return float(np.ravel(np.broadcast_to(value, np.shape(value) or (c + 1,)))[c])


def _places(
    job: Job, member: DesignMember, cases: LoadCases, forces: MemberForces, parts: list[Segment]
) -> Iterator[tuple[float, Bearing]]:
    code = job.code_of(member.said)
    method = job.method_of(member.said)
    L, slack = member.length, SAME_PLACE * member.length
    supports = member.supports_about("major")
    if forces.reactions is None:  # nothing was analysed
        return
    reactions = forces.reactions["major"]  # (C, S), upwards, of the order that is analysed
    ends = {0.0, L}
    own = {s.at: s.bearing for s in member.said.supports if s.bearing is not None}
    stiffened = {x: p for p in member.said.bearing_stiffeners for x in p.at}
    found: list[tuple[float, Any, float, str, bool]] = []

    def pair_at(at: float) -> BearingPair | None:
        for x, pair in stiffened.items():
            if abs(x - at) <= slack:
                return BearingPair(pair.width, pair.thickness, pair.clip, pair.Fy)
        return None

    for s, support in enumerate(supports):
        near = [b for at, b in own.items() if abs(at - support.at) <= slack]
        length = near[0] if near else member.said.bearing
        # Stiffeners that carry the force need no bearing length.
        known = length is not None or pair_at(support.at) is not None
        if known and support.held and not support.clamped:
            found.append((support.at, reactions[:, s], length or 0.0, "reaction", True))
    points = [(at, load) for load in member.said.loads if load.point and load.axis == "major"
              for at in load.at or []]  # fmt: skip
    borne = {
        (at, load.on == "bottom")
        for at, load in points
        if load.bearing is not None or pair_at(at) is not None
    }
    for place, low in sorted(borne):
        # Everything at one place on a flange presses together, on the shortest bearing given.
        pressing = {
            id(load): load
            for at, load in points
            if abs(at - place) <= slack and (load.on == "bottom") == low
        }
        here = list(pressing.values())
        total = np.zeros(len(forces.combinations))
        for load in here:
            for key, axis, part in applied(member, load):
                if axis != "major" or not isinstance(part, PointLoad):
                    continue
                if abs(part.at - place) <= slack:
                    total += np.array([key.factor(c) for c in forces.combinations]) * part.P
        shortest = min((b for b in (load.bearing for load in here) if b is not None), default=0.0)
        cases_here = " and ".join(dict.fromkeys(name_of(load.case) for load in here))
        # What hangs from the bottom flange pulls it.
        force = -total if low else total
        found.append((place, force, shortest, f"{cases_here} point loads", low))
    under_reaction = [s.at for s in supports if s.held]
    held = [set(held_places(member, flange)) for flange in ("top", "bottom")]
    for at, force, length, source, low in found:
        beside = [p.unbraced for p in parts if p.start - slack <= at <= p.end + slack]
        both = all(any(abs(at - x) <= slack for x in places) for places in held)
        on_support = any(abs(at - x) <= slack for x in under_reaction)
        at_place = np.abs(forces.x - at) <= 1e-9 * max(1.0, L)
        moment = np.where(at_place, np.abs(forces.M_major), 0.0).max(axis=1)
        N = np.where(at_place, forces.N, 0.0)
        compressed, pulled = (-N).max(axis=1, initial=0.0), N.max(axis=1, initial=0.0)
        axial = np.where(pulled > compressed, -pulled, compressed)
        level = code.concentrated_forces.yield_level[method]
        touching = {s for a, b, s in member.stretches if a - slack <= at <= b + slack}
        for section in touching:
            own_member = member.as_if_all(section)
            flange_Fy = own_member.strengths.Fy
            web = own_member.web_strengths if member.said.web_steel is not None else None
            Fy = web.Fy if web else flange_Fy
            for pulls in (False, True):
                acting = np.maximum(-force if pulls else force, 0.0)
                if not acting.any():
                    continue
                yield place_of(at, L, ends), Bearing(
                    section, section.shape, min(Fy, flange_Fy) if pulls else Fy, method, acting,
                    length, min(at, L - at), max(beside, default=0.0), both,
                    on_support and source != "reaction",
                    level * moment >= flange_Fy * section.Wel_major, source, low, pulls,
                    pair_at(at), moment, job.design_of(member.said), axial,
                )  # fmt: skip


def place_of(at: float, length: float, ends: set[float]) -> float:
    """Return a place, an end as the end itself."""
    return next((x for x in ends if abs(at - x) <= SAME_PLACE * length), at)
