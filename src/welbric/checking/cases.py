"""A member as its standard sees it: from the words of a designer to a `MemberCase`."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np

from welbric.analysis.member_loads import LineLoad, MomentLoad, PointLoad
from welbric.analysis.second_order import critical_force
from welbric.effects.forces import (
    MemberForces,
    compressing_moments,
    effects_of,
)
from welbric.errors import InputError
from welbric.inputs.actions import MemberLoad
from welbric.inputs.job import Job
from welbric.inputs.joints import Joint
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.members.load_cases import applied
from welbric.members.segments import (
    Segment,
    continuous_lengths,
    held_places,
    twisting_lengths,
)
from welbric.standards.case import (
    BucklingLengths,
    EndConnection,
    Ends,
    EyebarHead,
    MemberCase,
    PinnedEnd,
    Segments,
    SlottedTube,
    Stiffening,
    Webbing,
)
from welbric.standards.options import ASKED, USUAL

HELD_ALL_ALONG = 1.0  # mm, stands for the length in torsion of what cannot twist
STANDS = 0.9  # sine of the slope from which on a member is a column


def is_hybrid(member: DesignMember) -> bool:
    """Return whether the web is of another steel than the flanges."""
    web = member.web_strengths
    return member.said.web_steel is not None and web is not None and web.Fy != member.strengths.Fy


def member_case(
    job: Job, member: DesignMember, parts: list[Segment], forces: MemberForces
) -> MemberCase:
    """Return the member as its standard sees it."""
    code = job.code_of(member.said)
    section = member.section
    band = member.strengths
    buckling = member.said.buckling
    lengths, K = {}, {}
    for axis in ("major", "minor"):
        lengths[axis], K[axis] = buckling_length(job, member, axis)
    lengths["torsion"], K["torsion"] = twisting_length(job, member)
    transverse, which = loaded_between_ends(member), forces.numbers_of(parts)
    return MemberCase(
        section=section,
        shape=f"hybrid {section.shape}" if is_hybrid(member) else section.shape,
        Fy=band.Fy,
        Fu=band.Fu,
        nominal=member.steel.nominal(section.shape),
        **code.of_case(job.design_of(member.said)),
        effects=effects_of(member, forces),
        segments=Segments(
            unbraced=np.array([s.unbraced for s in parts]),
            free_tip=np.array([s.free_tip for s in parts]),
            tip_first=np.array([s.free_tip and s.held_start == "free end" for s in parts]),
            top=np.array([s.flange != "bottom" for s in parts]),
            both=np.array([s.flange == "both" for s in parts]),
            other_held=np.array([_other_held(member, s) for s in parts]),
            first=forces.first[:, which][None],
            last=forces.last[:, which][None],
            quarters=forces.quarters[:, which][None],
        ),
        buckling=BucklingLengths(
            length_major=lengths["major"],
            length_minor=lengths["minor"],
            length_torsion=lengths["torsion"],
            K_major=K["major"],
            K_minor=K["minor"],
            K_torsion=K["torsion"],
            sways_major=_sways(member, "major"),
            sways_minor=_sways(member, "minor"),
            lateral_offset=buckling.lateral_offset,
        ),
        ends=ends_of(member),
        loaded_major="major" in transverse or bool(member.said.forces),
        loaded_minor="minor" in transverse or bool(member.said.forces),
        **_of_member(job, member, parts, forces),
        second_order_included=member.said.second_order != "amplified",
        length=member.length,
        edition=code.edition,
        connectors=member.said.connectors.spacing if member.said.connectors else None,
        webbing=webbing_of(member),
        snug_tight=member.said.connectors is not None
        and member.said.connectors.fastened == "snug-tight",
        stiffeners=panels_of(member),
        flange_holes=(member.said.flange_holes.count, member.said.flange_holes.diameter)
        if member.said.flange_holes
        else None,
        one_leg=member.said.one_leg.leg if member.said.one_leg else None,
        geometric=member.said.bending_axes == "geometric",
        in_space_truss=member.said.one_leg is not None and member.said.one_leg.truss == "space",
        corners=section.corners,
        cold_formed=member.is_cold_formed,
        peak_held=_peak_held(member, parts, forces),
    )


def loaded_between_ends(member: DesignMember) -> set[str]:
    """Return the axes about which something bends a member between its ends.

    Transverse loads and own weight do, moments, those of eccentric forces among them, and supports
    and springs that stand there.
    """
    slack = SAME_PLACE * member.length

    def between(at: float) -> bool:
        return slack < at < member.length - slack

    found = {
        axis
        for load in member.said.loads
        for _, axis, part in applied(member, load)
        if isinstance(part, LineLoad | PointLoad)
        or (isinstance(part, MomentLoad) and between(part.at))
    }
    if member.said.self_weight and not member.said.forces and abs(math.cos(member.slope)) > 1e-9:
        found.add("major")
    for axis in ("major", "minor"):
        if any(between(support.at) for support in member.supports_about(axis)):
            found.add(axis)
    return found


def _sways(member: DesignMember, axis: str) -> bool:
    """Return whether a part of a member can move laterally against another without bending.

    A buckling length factor of more than 1 that is given says so too.
    """
    moves = bool({"free", "guided"} & set(member.ends_about(axis))) or bool(member.said.hinges)
    return moves or (getattr(member.said.buckling, f"{axis}_K") or 1.0) > 1 + 1e-9


def _other_held(member: DesignMember, segment: Segment) -> bool:
    """Return whether the other flange is continuously restrained along a segment."""
    other = {"top": "bottom", "bottom": "top"}.get(segment.flange)
    if other is None:
        return False
    lengths = continuous_lengths(member, other)
    return any(a <= segment.start and segment.end <= b for a, b in lengths)


def _peak_held(member: DesignMember, parts: list[Segment], forces: MemberForces) -> Any:
    """Return where the largest moment of a single span is at its only restraint of both flanges."""
    if member.said.bending_axes != "geometric" or len(member.span_lengths("minor")) > 1:
        return False
    tops, bottoms = (held_places(member, flange) for flange in ("top", "bottom"))
    inner = [x for x in tops if x in bottoms and 0 < x < member.length]
    if len(inner) != 1:
        return False
    M = np.abs(forces.M_major)
    here = np.abs(forces.x - inner[0]) <= SAME_PLACE * member.length
    if not here.any():  # continuously restrained: no segment ends there
        return False
    peak = np.where(here, M, 0.0).max(axis=1) >= M.max(axis=1) * (1 - 1e-9)
    beside = np.array([inner[0] in (part.start, part.end) for part in parts])
    return (peak[:, None] & beside)[None]


def _of_member(
    job: Job, member: DesignMember, parts: list[Segment], forces: MemberForces
) -> dict[str, Any]:
    """Return what the member chooses of its standard; its moment-shape factor by eigenvalue."""
    code, options = job.code_of(member.said), job.options_of(member.said)
    chosen = code.of_member(options)
    way = code.eigenvalue(options)
    asked = way == ASKED and not has_factor_of_defaults(job, member)
    buckles = code.uses_moment_shape(member.section.shape, job.design_of(member.said)) and any(
        not part.continuous for part in parts
    )
    # In a frame, of hundreds of members, only where the closed form has no answer.
    usual = way == ASKED or (
        way == USUAL and (member.said.frame is None or load_that_pushes(member) is not None)
    )
    if not asked and not (usual and buckles):
        return chosen
    from welbric.effects.critical_load import covers, critical_factors, moment_shapes

    if not asked and not covers(member):
        return chosen
    moments, steel = compressing_moments(forces, parts), code.elasticity
    if not np.any(moments):
        return chosen
    diagram = (forces.diagrams or {})["M_major"]
    try:
        factors = critical_factors(
            member,
            forces.combinations,
            diagram.breaks,
            lambda x: diagram.at(x, np.zeros(len(x), dtype=bool))[None],
            steel,
        )
    except InputError:
        if asked:
            raise
        return chosen
    return chosen | {
        "moment_shape": moment_shapes(factors, moments[None], parts, member.stretches, steel),
        "moment_shape_source": "by eigenvalue, of the whole member",
    }


def has_factor_of_defaults(job: Job, member: DesignMember) -> bool:
    """Return whether the job's defaults ask for the moment-shape factor by eigenvalue."""
    of_defaults = "design" in job.taken_from_defaults(member.mark)
    way = job.code_of(member.said).eigenvalue(job.options_of(member.said))
    return of_defaults and way == ASKED


def load_that_pushes(member: DesignMember) -> MemberLoad | None:
    """Return the first load that acts on a flange, can move there, and pushes the member over."""
    for load in member.said.loads:
        pushes = [*(load.line or []), load.area or 0.0, load.point or 0.0]
        down, up = max(pushes) > 0 or load.is_reversible, min(pushes) < 0 or load.is_reversible
        bad = {"top": down, "bottom": up, "shear centre": False}[load.on]
        if bad and continuous_lengths(member, load.on) == ((0.0, member.length),):
            continue  # where it acts it cannot move
        if bad and load.axis == "major":
            return load
    return None


def webbing_of(member: DesignMember) -> Webbing | None:
    """Return what makes two chords one member, as the standard sees it."""
    laced, battened, steel = member.said.lacing, member.said.battens, member.steel
    if laced is not None:
        parts = [one for one in (laced.section, laced.posts) if one is not None]
        Fy = min(steel.strengths(one.thickest, one.shape).Fy for one in parts)
        return Webbing(laced.spacing, laced.planes, Fy, laced.section, laced.posts)
    if battened is not None:
        b, t = battened.width, battened.thickness
        Fy = steel.strengths(t).Fy
        return Webbing(battened.spacing, battened.planes, Fy, width=b, thickness=t)
    return None


def panels_of(member: DesignMember) -> Stiffening | None:
    """Return the transverse stiffeners as the standard sees them."""
    given = member.said.stiffeners
    if given is None:
        return None
    ends = given.end_panels or given.spacing
    sizes = (given.width, given.thickness, given.sides == "both", given.Fy)
    return Stiffening(given.spacing, ends, given.tension_field, *sizes)


def ends_of(member: DesignMember) -> Ends:
    """Return how the member is joined in tension, as the standard sees it."""
    said, given = member.said, member.said.connection
    if said.pin is not None:
        p = said.pin
        return Ends(pin=PinnedEnd(p.diameter, p.hole, p.end, p.edge))
    if said.eyebar is not None:
        e = said.eyebar
        return Ends(eyebar=EyebarHead(e.diameter, e.hole, e.head, e.fillet))
    if given is None:
        return Ends()
    joint = given.shear_lag if isinstance(given.shear_lag, Joint) else None
    connection = EndConnection(
        tuple((h.count, h.diameter, h.thickness) for h in given.holes),
        tuple((s.pitch, s.gauge, s.thickness) for s in given.staggers),
    )
    if joint is not None:
        slot, slotted = joint.slot, None
        if slot is not None:
            along_depth = slot.parallel_to == "depth"
            slotted = SlottedTube(slot.length, slot.plate, slot.width, along_depth)
        connection = replace(
            connection,
            through=joint.through,
            bolts_in_line=joint.bolts_in_line,
            eccentricity=joint.eccentricity,
            length=joint.length,
            between_welds=joint.between_welds,
            transverse_welds=joint.welds is not None,
            slot=slotted,
        )
    factor = None if isinstance(given.shear_lag, Joint) else given.shear_lag
    return Ends(connection, net_area=given.net_area, shear_lag=factor)


def truss_factor(job: Job, member: DesignMember, axis: str) -> tuple[float, str] | None:
    """Return the factor of a buckling length that a standard has of parts of trusses, its clause.

    A truss stands upright: its plane is that in which a member bends about its major axis, unless
    its web lies. Of one that stands itself, in a frame in space, that plane is not known.
    """
    said, rule = member.said, job.code_of(member.said).truss_factor
    others = set(member.ends_about(axis)) - {"pinned", "fixed"}
    if rule is None or others or said.hinges:
        return None
    stands = said.frame is not None and not said.frame.is_plane and abs(
        math.sin(member.slope)
    ) > STANDS  # fmt: skip
    in_plane = not stands and said.axis_in_plane == axis
    return rule(job.options_of(said), member.section.shape, in_plane)


def twisting_length(job: Job, member: DesignMember) -> tuple[float, float]:
    """Return the unbraced length in torsion, mm, and K.

    What holds a member laterally, as a given ``minor_length`` has it, need not hold it against
    twisting: unless a length is given it is the longest between places that do. K is that of
    the ends about the minor axis, or more where a larger one is given about that axis, and 1.0 at
    least of parts of trusses.
    """
    said = member.said.buckling
    length, K = buckling_length(job, member, "minor", as_supported=True)
    free = twisting_lengths(member)
    if len(free) != len(member.span_lengths("minor")):
        tips = {end for end, word in zip((0.0, member.length), member.ends_about("minor"),
                                         strict=True) if word == "free"}  # fmt: skip
        # Between places that hold it K is 1.0; toward a free end 2.0, as of a cantilever.
        found = [((2.0 if tips & {a, b} else 1.0) * (b - a), b - a) for a, b in free]
        product, length = max(found, default=(HELD_ALL_ALONG, HELD_ALL_ALONG))
        K = product / length
    if said.minor_K is not None and said.minor_length is None:
        K = max(K, said.minor_K)
    if truss_factor(job, member, "minor") is not None:
        K = max(K, 1.0)
    if said.torsional_length is not None:
        length, K = said.torsional_length, max(K, 1.0)
    return float(length), float(said.torsional_K or K)


def buckling_length(
    job: Job, member: DesignMember, axis: str, as_supported: bool = False
) -> tuple[float, float]:
    """Return the unbraced length about an axis, mm, and K; ``as_supported``: none is given.

    K is as given, or as the standard has it of a part of a truss; 1.0 between intermediate supports
    that are given; else of the textbook ends. Of several spans the one with the largest product
    counts, its neighbours as pinned supports.
    With an overhang or a hinge, which are not in the textbook, K is that of the whole member's
    elastic buckling, raised as its ends' recommended value is over the theoretical one.
    """
    length = getattr(member.said.buckling, f"{axis}_length")
    given = getattr(member.said.buckling, f"{axis}_K")
    if as_supported:
        length = given = None
    of_truss = truss_factor(job, member, axis)
    if given is None and of_truss is not None:
        given = of_truss[0]
    if length is not None:
        return float(length), 1.0 if given is None else float(given)
    first, last = member.ends_about(axis)
    spans = member.span_lengths(axis)
    if given is None and member.buckles_as_a_whole(axis):
        code = job.code_of(member.said)
        EI = code.elasticity.E * getattr(member.section, f"I_{axis}")
        P = critical_force(member.length, member.supports_about(axis), EI, member.said.hinges)
        pair = ("fixed", "free") if "free" in (first, last) else (first, last)
        if pair == ("guided", "guided"):  # a mechanism, but for what else holds it
            pair = ("fixed", "guided")
        of_ends = code.effective_length_factor(*pair, job.design_of(member.said))
        theoretical = code.effective_length_factor(
            *pair, job.design_of(member.said), theoretical=True
        )
        longest = max(end - start for start, end in spans)
        raised = max(of_ends / theoretical, 1.0)
        return longest, raised * math.pi * math.sqrt(EI / P) / longest
    found = []
    for number, (start, end) in enumerate(spans):
        at_start = first if number == 0 else "pinned"
        at_end = last if number == len(spans) - 1 else "pinned"
        if len(spans) > 1 and "free" in (at_start, at_end):
            at_start, at_end = "free", "fixed"  # an overhang; K is given
        K = given
        if K is None:
            K = job.code_of(member.said).effective_length_factor(
                at_start, at_end, job.design_of(member.said)
            )
        found.append((float(K) * (end - start), end - start, float(K)))
    _, length, K = max(found)
    return length, K
