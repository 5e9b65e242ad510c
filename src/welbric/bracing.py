"""What the restraints of a member's flanges must be able to do."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from welbric.forces import MemberForces
from welbric.job import Job
from welbric.members import Member
from welbric.restraints import held_all_along, held_places, twist_places
from welbric.sections.table import Section
from welbric.standards import standard

BRACES = ("restraint", "load")  # of what `held_places` names; supports are another matter


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
    combination : str
    reverses : bool
        Whether the moment changes its sign beside, which doubles both.
    """

    flange: str
    place: float
    moment: float
    force: float
    stiffness: float
    combination: str
    reverses: bool


def brace_needs(job: Job, member: Member, forces: MemberForces) -> list[BraceNeed]:
    """Return what each restraint between the supports needs, at its worst combination.

    Parameters
    ----------
    job : Job
    member : Member
        Of an I-shape or a channel; there are none for other shapes, which have no two flanges.
    forces : MemberForces
        Of its `MemberResult`.
    """
    code = standard(job.standard)
    sections = {section for _, _, section in member.stretches()}
    if not all({"I", "channel"} & set(s.shape.split()) for s in sections):
        return []
    ho = min(flange_distance(section) for section in sections)
    found = []
    for flange, sign in (("top", 1.0), ("bottom", -1.0)):
        hold = getattr(member.restraint, flange)
        if hold is None or not forces.combinations:
            continue
        whole = held_all_along(member, hold)
        places = held_places(member, flange)
        stops = sorted({0.0, member.length, *places})
        for before, at, after in zip(stops, stops[1:], stops[2:], strict=False):
            inside = any(a < at < b for a, b in whole)
            if places.get(at) not in BRACES or inside:
                continue
            beside = (forces.x >= before) & (forces.x <= after)
            M = sign * forces.M_major[:, beside]
            largest = np.maximum(M.max(axis=1), 0.0)
            reverses = M.min(axis=1) < -1e-9 * np.abs(M).max(axis=1)
            Cd = np.where(reverses, 2.0, 1.0)
            Lbr = min(at - before, after - at)
            force, stiffness = code.brace_requirement(job.method, largest, Cd, Lbr, ho)
            c = int(np.argmax(force))
            if force[c] > 0:
                found.append(
                    BraceNeed(
                        flange, at, float(largest[c]), float(force[c]), float(stiffness[c]),
                        forces.combinations[c].name, bool(reverses[c]),
                    )
                )  # fmt: skip
    return found


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


def twist_needs(job: Job, member: Member, forces: MemberForces) -> list[TwistNeed]:
    """Return what each brace against twisting between the supports needs, at its worst.

    Of I-shapes and channels of one section; Cb counts as 1, on the safe side.
    """
    code, places = standard(job.standard), twist_places(member)
    section = member.section
    known = {"I", "channel"} & set(section.shape.split()) and "tw" in section.properties
    if not known or not forces.combinations or member.pieces:
        return []
    ho, inertia = flange_distance(section), effective_inertia(section)
    found = []
    for start, end in member.span_lengths("minor"):
        inner = [x for x in places if start < x < end]
        stops = [start, *inner, end]
        for before, at, after in zip(stops, stops[1:], stops[2:], strict=False):
            beside = (forces.x >= before) & (forces.x <= after)
            M = np.abs(forces.M_major[:, beside]).max(axis=1)
            c = int(np.argmax(M))
            t, b = _stiffener_at(member, at)
            strength, stiffness = code.torsional_requirement(
                job.method, float(M[c]), end - start, len(inner), code.E, inertia,
                max(at - before, after - at), ho, section.tw, t, b,
            )  # fmt: skip
            if M[c] > 0:
                name = forces.combinations[c].name
                found.append(TwistNeed(at, float(M[c]), float(strength), float(stiffness), name))
    return found


def _stiffener_at(member: Member, place: float) -> tuple[float, float]:
    """Return thickness and width of a pair of stiffeners at a place, zero where there is none."""
    for pair in member.bearing_stiffeners:
        if any(abs(at - place) <= 1e-6 * member.length for at in pair.at):
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
