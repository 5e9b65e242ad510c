"""What the restraints of a member's flanges must be able to do."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from welbric.checking.results import MemberResult
from welbric.effects.forces import MemberForces
from welbric.inputs.job import Job
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.members.segments import continuous_lengths, counting_places, twist_places
from welbric.sections.table import Section
from welbric.standards.case import MemberCase, Segments, uniform_effects
from welbric.standards.standard import Standard

BRACES = ("restraint", "load", "member")  # of what `held_places` names; supports are another matter


@dataclass(frozen=True)
class BraceNeed:
    """What a restraint of a flange must be able to do.

    Attributes
    ----------
    flange : str
    place : float, mm
    moment : float, N mm
        The largest that compresses the flange in the lengths beside.
    force : float, N
    stiffness : float, N/mm
        Of a point brace.
    panel_shear : float, N
    panel_stiffness : float, N/mm
        Of a panel brace, which controls the movement between it and the next.
    combination : str
    reverses : bool
        Whether the moment changes its sign beside, which doubles both.
    """

    flange: str
    place: float
    moment: float
    force: float
    stiffness: float
    panel_shear: float
    panel_stiffness: float
    combination: str
    reverses: bool


def brace_needs(job: Job, member: DesignMember, forces: MemberForces) -> list[BraceNeed]:
    """Return what each restraint between the supports needs, at its worst combination.

    Parameters
    ----------
    job : Job
    member : DesignMember
        Of an I-shape or a channel; there are none for other shapes, which have no two flanges.
    forces : MemberForces
        Of its `MemberResult`.
    """
    code = job.code_of(member.said)
    if code.bracing is None:
        return []
    method = job.method_of(member.said)
    if not _has_two_flanges(member):
        return []
    ho = min(flange_distance(section) for section in member.sections)
    found = []
    for flange, sign in (("top", 1.0), ("bottom", -1.0)):
        if not forces.combinations:
            continue
        # Continuously restrained, at the flange or against twisting, it needs no brace at a place.
        whole = [
            *continuous_lengths(member, flange),
            *continuous_lengths(member, "twist"),
        ]
        places = counting_places(member, flange)
        stops = sorted({0.0, member.length, *places})
        for before, at, after in zip(stops, stops[1:], stops[2:], strict=False):
            inside = any(a < at < b for a, b in whole)
            if places.get(at) not in BRACES or inside:
                continue
            beside = (forces.x >= before) & (forces.x <= after)
            M = np.where(beside, sign * forces.M_major, 0.0)
            largest = np.maximum(M.max(axis=1), 0.0)
            reverses = M.min(axis=1) < -1e-9 * np.abs(M).max(axis=1)
            Cd = np.where(reverses, 2.0, 1.0)
            unbraced = min(at - before, after - at)
            force, stiffness = code.bracing.beam(method, largest, Cd, unbraced, ho)
            panel = code.bracing.beam(method, largest, Cd, unbraced, ho, panel=True)
            c = int(np.argmax(force))
            if force[c] > 0:
                M_c, F_c, K_c, V_c, panel_c = (
                    float(size[c]) for size in (largest, force, stiffness, *panel)
                )
                name = forces.combinations[c].name
                reversed_here = bool(reverses[c])
                found.append(
                    BraceNeed(flange, at, M_c, F_c, K_c, V_c, panel_c, name, reversed_here)
                )
    return found


@dataclass(frozen=True)
class StabilisingNeed:
    """What the system must carry that a member's restraints belong to, on account of that member.

    Attributes
    ----------
    flange : str
    start, end : float, mm
        The length of the system: between the supports.
    compression : float, N
        Of the flange.
    along : float, N/mm
    force : float, N
        Of it, on the restraint that holds most; zero where there is none at a place.
    moves : float, mm
        How far the system is taken to move in all.
    sheeting : float, N
        The shear stiffness from which on sheeting restrains the flange all along, where something
        does; else zero. NaN where it is not known.
    combination : str
    """

    flange: str
    start: float
    end: float
    compression: float
    along: float
    force: float
    moves: float
    sheeting: float
    combination: str


def stabilising_needs(
    job: Job, member: DesignMember, forces: MemberForces
) -> list[StabilisingNeed]:
    """Return what the restraints of each flange bring to the system that they belong to.

    Of I-shapes and channels, span by span, at the worst combination.
    """
    code = job.code_of(member.said)
    rule = code.stabilising
    if rule is None or not _has_two_flanges(member) or not forces.combinations:
        return []
    depth = min(float(section.d) for section in member.sections)
    found = []
    for flange, sign in (("top", 1.0), ("bottom", -1.0)):
        whole, places = continuous_lengths(member, flange), counting_places(member, flange)
        for start, end in member.span_lengths("minor"):
            inner = [x for x in sorted(places) if start < x < end and places[x] in BRACES]
            all_along = any(a < end and b > start for a, b in whole)
            if not inner and not all_along:
                continue
            there = (forces.x >= start) & (forces.x <= end)
            M = np.where(there, sign * forces.M_major, 0.0).max(axis=1).clip(min=0.0)
            N = np.where(there, -forces.N, 0.0).max(axis=1).clip(min=0.0)
            compression = rule.of_flange(M, depth, N)
            c = int(np.argmax(compression))
            if compression[c] <= 0:
                continue
            length = end - start
            moves = rule.moves * length
            along = float(rule.along(float(compression[c]), length, moves))
            stops = [start, *inner, end]
            widest = max((b - a for a, b in zip(stops, stops[2:], strict=False)), default=0.0) / 2
            sheeting = 0.0
            if all_along:
                sheeting = max(float(rule.sheeting(s, length)) for s in member.sections)
            name = forces.combinations[c].name
            found.append(StabilisingNeed(flange, start, end, float(compression[c]), along,
                                         along * widest, moves, sheeting, name))  # fmt: skip
    return found


def _has_two_flanges(member: DesignMember) -> bool:
    return all({"I", "channel"} & set(section.shape.split()) for section in member.sections)


@dataclass(frozen=True)
class TwistNeed:
    """What a brace against twisting must be able to do.

    Attributes
    ----------
    place : float, mm
    moment : float, N mm
        The largest of the member in the lengths beside.
    strength : float, N mm
    stiffness : float, N mm per radian
        Infinite where the web is too flexible for any brace.
    combination : str
    """

    place: float
    moment: float
    strength: float
    stiffness: float
    combination: str


def _has_a_web(member: DesignMember) -> bool:
    section = member.section
    web = {"I", "channel"} & set(section.shape.split()) and "tw" in section.properties
    return bool(web) and not member.said.pieces


def twist_needs(job: Job, member: DesignMember, forces: MemberForces) -> list[TwistNeed]:
    """Return what each brace against twisting between the supports needs, at its worst.

    Of I-shapes and channels of one section; the moments count as uniform, on the safe side.
    """
    code, places = job.code_of(member.said), twist_places(member)
    method = job.method_of(member.said)
    section = member.section
    if code.bracing is None or not _has_a_web(member) or not forces.combinations:
        return []
    ho, inertia = flange_distance(section), effective_inertia(section)
    found = []
    for start, end in member.span_lengths("minor"):
        inner = [x for x in places if start < x < end]
        stops = [start, *inner, end]
        for before, at, after in zip(stops, stops[1:], stops[2:], strict=False):
            beside = (forces.x >= before) & (forces.x <= after)
            M = np.where(beside, np.abs(forces.M_major), 0.0).max(axis=1)
            c = int(np.argmax(M))
            t, b = _stiffener_at(member, at)
            strength, stiffness = code.bracing.twisting(
                method, float(M[c]), end - start, len(inner), code.elasticity.E, inertia,
                max(at - before, after - at), ho, section.tw, t, b,
            )  # fmt: skip
            if M[c] > 0:
                name = forces.combinations[c].name
                found.append(TwistNeed(at, float(M[c]), float(strength), float(stiffness), name))
    return found


@dataclass(frozen=True)
class ContinuousNeed:
    """What must be able to keep a length from twisting, for each unit of it.

    Attributes
    ----------
    start, end : float, mm
    moment : float, N mm
        The largest of the member there.
    unbraced : float, mm
        The longest unbraced length that this moment allows.
    strength : float, N mm/mm
    stiffness : float, N mm/mm per radian
        Infinite where the web is too flexible for any brace.
    combination : str
    """

    start: float
    end: float
    moment: float
    unbraced: float
    strength: float
    stiffness: float
    combination: str


def continuous_needs(job: Job, member: DesignMember, result: MemberResult) -> list[ContinuousNeed]:
    """Return what holds each length against twisting without a gap must be able to do.

    Of I-shapes and channels of one section; the moments count as uniform, on the safe side.
    """
    code, section, forces = job.code_of(member.said), member.section, result.forces
    method = job.method_of(member.said)
    if code.bracing is None or not _has_a_web(member) or not forces.combinations:
        return []
    found = []
    for start, end in continuous_lengths(member, "twist"):
        there = (forces.x >= start) & (forces.x <= end)
        M = np.where(there, np.abs(forces.M_major), 0.0).max(axis=1)
        c = int(np.argmax(M))
        if M[c] > 0:
            unbraced = _longest_unbraced(code, result.case, float(M[c]), end - start)
            moment, stiffness = code.bracing.twisting_along(
                method, float(M[c]), code.elasticity.E, effective_inertia(section), unbraced,
                flange_distance(section), section.tw,
            )  # fmt: skip
            name = forces.combinations[c].name
            sizes = (float(M[c]), unbraced, float(moment), float(stiffness))
            found.append(ContinuousNeed(start, end, *sizes, name))
    return found


def _longest_unbraced(code: Standard, case: MemberCase, moment: float, most: float) -> float:
    """Return the longest length, at most `most`, over which a uniform moment needs no brace."""
    lengths = np.geomspace(1e-3, 1.0, 400) * most
    one = replace(
        case,
        section=case.section.table().as_axis(),
        segments=Segments(unbraced=lengths),
        moment_shape=1.0,
        effects=uniform_effects(M_major=1.0),
        cache={},
    )
    with np.errstate(all="ignore"):
        strength = np.broadcast_to(np.ravel(code.available["bending"](one)), lengths.shape)
    strength = np.nan_to_num(strength)  # what is outside needs a brace at once
    # A moment beyond every strength has its own row: here it goes by the largest strength.
    moment = min(moment, float(strength.max()) * (1 - 1e-9))
    enough = np.flatnonzero(strength >= moment)
    last = slice(enough[-1], enough[-1] + 2)  # and the first beyond it, where there is one
    return float(np.interp(-moment, -strength[last], lengths[last]))


def _stiffener_at(member: DesignMember, place: float) -> tuple[float, float]:
    """Return thickness and width of a pair of stiffeners at a place, zero where there is none."""
    for pair in member.said.bearing_stiffeners:
        if any(abs(at - place) <= SAME_PLACE * member.length for at in pair.at):
            return pair.thickness, 2 * pair.width + member.section.tw
    return 0.0, 0.0


def effective_inertia(section: Section) -> float:
    """Return Iyeff: Iy, or of unlike flanges that of the worse sense of the moment, mm4."""
    of = section.properties
    if "bf_top" not in of:
        return section.I_minor
    top, bottom = (of[f"tf_{side}"] * of[f"bf_{side}"] ** 3 / 12 for side in ("top", "bottom"))
    above, below = section.I_x / section.Wel_top, section.I_x / section.Wel_bottom
    return float(min(top + below / above * bottom, bottom + above / below * top))


def flange_distance(section: object) -> float:
    """Return the distance between the centroids of the flanges, mm."""
    of = section.properties  # type: ignore[attr-defined]
    top, bottom = (of.get(f"tf_{side}", of.get("tf", 0.0)) for side in ("top", "bottom"))
    return float(of["d"] - (top + bottom) / 2)
