"""What the standard's checks of a member do not see: rows outside, each with its reason."""

from __future__ import annotations

import math

import numpy as np

from welbric.checking.cases import STANDS, load_that_pushes
from welbric.checking.results import Row, Stretch, outside_row
from welbric.checking.verdicts import OVER, status_of
from welbric.effects.forces import MemberForces, compressing_moments
from welbric.inputs.job import Job
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.members.load_cases import LoadCases
from welbric.members.segments import Segment
from welbric.standards.options import Options
from welbric.standards.standard import Standard

SMALL_ANGLE = 0.1  # rad of which sine and tangent are still the angle, to half a percent


def uncovered_rows(
    job: Job,
    member: DesignMember,
    rows: list[Row],
    stretches: list[Stretch],
    cases: LoadCases | None,
    forces: MemberForces,
) -> list[Row]:
    """Return a row for each thing of a member that its checks do not cover, and its stability.

    ``rows`` are those of the standard's checks of ``stretches``.
    """
    code = job.code_of(member.said)
    parts = [part for stretch in stretches for part in stretch.segments]
    return [
        *_destabilised(job, member, stretches, forces, code),
        *_unheld_hinges(member, parts, forces, code),
        *_bending_stability(forces, code, member.said.frame is not None),
        *_first_order(job, member, forces, code),
        *_crushed(job, member, forces, code),
        *_unbowed(forces, code),
        *_turned(forces, code),
        *_sliding(member, forces, code),
        *_sway_lengths(job, member, forces, code),
        *_shorter_than_it_buckles(member, forces, code),
        *_imposed_strains(job, cases, forces),
        *_softened(job, member, forces, code),
        *_rotated_axes(member, code),
        *_webbing(member, code),
    ]


def _webbing(member: DesignMember, code: Standard) -> list[Row]:
    """Return a row outside for lacing or battens that a standard has no rules for here."""
    if code.webbing or not (member.said.lacing or member.said.battens):
        return []
    reason = f"members of two chords with lacing or battens are not covered by {code.id} here"
    return [outside_row("built-up", "built-up member", "", reason)]


def _destabilised(
    job: Job, member: DesignMember, stretches: list[Stretch], forces: MemberForces, code: Standard
) -> list[Row]:
    """Return a row outside where loads on a flange push it laterally, and nothing holds it."""
    options = job.design_of(member.said)
    if all(_held_or_by_eigenvalue(stretch, forces, code, options) for stretch in stretches):
        return []
    load = load_that_pushes(member)
    if load is None:
        return []
    reason = (
        f"loads on the {load.on} flange push it over; the standard's equation takes them "
        "at the shear centre (`segments` has the critical factor with them there)"
    )
    name = "loads off the shear centre"
    return [outside_row("load-height", name, code.load_height_clause, reason)]


def _held_or_by_eigenvalue(
    stretch: Stretch, forces: MemberForces, code: Standard, options: Options
) -> bool:
    """Return whether nothing can buckle laterally, or its factor is of loads where they act.

    That factor has to be known wherever a segment is bent, and the strength has to ask for it.
    """
    case = stretch.case
    if all(part.continuous for part in stretch.segments):
        return True
    if case.shape not in code.shapes:
        return False
    if case.critical_moment is not None:  # with the loads where the designer took them
        return code.uses_moment_shape(case.shape, options)
    if np.ndim(case.moment_shape) == 0:
        return False
    bent = (compressing_moments(forces, stretch.segments) > 0) & (
        np.asarray(case.segments.unbraced) > 0
    )
    known = not np.any(np.isnan(case.moment_shape) & bent)
    return known and code.uses_moment_shape(case.shape, options)


def _unheld_hinges(
    member: DesignMember, parts: list[Segment], forces: MemberForces, code: Standard
) -> list[Row]:
    """Return a row outside where a hinge lies within a length that can buckle laterally."""
    slack = SAME_PLACE * member.length
    for part in parts:
        within = [x for x in member.said.hinges if part.start + slack < x < part.end - slack]
        if not within or part.continuous:
            continue
        sign = {"top": 1.0, "bottom": -1.0}.get(part.flange)
        M = np.abs(forces.M_major) if sign is None else sign * forces.M_major
        if np.any(forces.largest_in(M, [part]) > 0):
            reason = (
                "a hinge lies within an unbraced length, which the standard's equations take to be "
                "of one piece: hold both flanges there"
            )
            name = "lateral buckling at a hinge"
            return [outside_row("hinge-lateral", name, code.load_height_clause, reason)]
    return []


def _bending_stability(forces: MemberForces, code: Standard, framed: bool) -> list[Row]:
    """Return how near the member is to buckling in a plane of bending, by second-order analysis."""
    # Of each member of a frame it is said only where it is over: `frame` has it for all.
    if forces.critical is None or (framed and not forces.critical.exceeds):
        return []
    share = forces.critical.shares
    if not np.any(share > 1e-9):
        return []
    c = int(np.argmax(share))
    U = float(share[c])
    reason = "the axial force over the one at which it buckles elastically, by geometric stiffness"
    if framed:
        reason = "the loads over those at which the frame buckles elastically"
    return [
        Row(
            id="elastic-stability",
            name="stability of the frame" if framed else "elastic stability in bending",
            clause=code.second_order.clause,
            utilisation=U,
            status=status_of(U),
            demand=None,
            capacity=None,
            kind="number",
            combination=forces.combinations[c].name,
            reason=reason,
        )
    ]


def _first_order(job: Job, member: DesignMember, forces: MemberForces, code: Standard) -> list[Row]:
    """Return a row where the first order does not suffice for a frame that sways, nor amplified."""
    if forces.sway is None or forces.critical is not None or not len(forces.sway):
        return []
    c = int(np.argmax(forces.sway))
    amplified = job.frame.second_order == "amplified sway"
    found = code.second_order
    share, limit = float(forces.sway[c]), found.first_order_up_to(job.design_of(member.said))
    if amplified:
        limit = found.amplified_up_to
    name = "second-order effects of the frame"
    where = forces.combinations[c].name
    if share > 1:
        return [
            Row(
                id="elastic-stability",
                name="stability of the frame",
                clause=code.second_order.clause,
                utilisation=share,
                status=OVER,
                demand=None,
                capacity=None,
                kind="number",
                combination=where,
                reason="the loads over those at which the frame sways elastically",
            )
        ]
    if share <= limit * (1 + 1e-9):
        return []
    reason = (
        f"its forces are of the first order{', its sway amplified' if amplified else ''}, and the "
        f"loads {share:.3g} of those at which the frame sways, more than {limit:.3g}: say [frame] "
        "second_order = 'analysed'"
    )
    clause = found.amplified_clause if amplified else found.first_order_clause
    method = found.by_first_order
    if method is not None and method.chosen(job.design_of(member.said)):
        clause, reason = method.limit_clause, f"{reason}, and another way to stability"
    return [outside_row("second-order", name, clause, reason, "number", where)]


def _unbowed(forces: MemberForces, code: Standard) -> list[Row]:
    """Return a row outside where members' own bows belong into another analysis of the frame."""
    rule = code.second_order.bows
    if rule is None or forces.unbowed is None or not forces.unbowed.any():
        return []
    reason = (
        f"the loads are more than {rule.sway_from:g} of those at which the frame sways, and a "
        f"member of it is compressed by more than {rule.compression_from:g} of what buckles it "
        "between hinges: its own bow belongs into the analysis: say [frame] second_order = "
        "'analysed'"
    )
    where = forces.combinations[int(np.argmax(forces.unbowed))].name
    return [outside_row("bow", "bow imperfection in the analysis", rule.clause, reason, "number",
                        where)]  # fmt: skip


def _turned(forces: MemberForces, code: Standard) -> list[Row]:
    """Return a row outside where a frame moves so far that its joints are no longer as drawn."""
    if forces.turned is None or not np.any(forces.turned > SMALL_ANGLE):
        return []
    c = int(np.argmax(forces.turned))
    reason = (
        f"as the frame moves it turns by {float(forces.turned[c]):.3g} rad, more than "
        f"{SMALL_ANGLE:g}: forces are found on the frame nearly as it is drawn (are the units "
        "right?)"
    )
    name, where = "large movements of the frame", forces.combinations[c].name
    return [outside_row("large-movements", name, code.second_order.clause, reason, "number", where)]


def _sliding(member: DesignMember, forces: MemberForces, code: Standard) -> list[Row]:
    """Return a row outside where an end slides across its joint, and what buckles is not held."""
    words = {one for end in member.said.end_releases for one in end if one != "torsion"}
    compressed, bent = np.any(forces.N < 0), np.any(forces.M_major)
    if not words or not (compressed or (bent and "shear minor" in words)):
        return []
    reason = (
        "an end is free to slide across its joint, which does not hold it there against buckling: "
        "the standard's equations take both ends as held"
    )
    name = "buckling with an end that slides"
    return [outside_row("sliding-end", name, code.second_order.clause, reason)]


def _sway_lengths(
    job: Job, member: DesignMember, forces: MemberForces, code: Standard
) -> list[Row]:
    """Return a row outside where a column sways more than its effective length takes."""
    limits = code.second_order.sway_limits(job.design_of(member.said))
    pressed = np.any(forces.N < 0) and abs(math.sin(member.slope)) > STANDS
    if limits is None or forces.sway is None or not pressed:
        return []
    c = int(np.argmax(forces.sway))
    share, (own_length, most) = float(forces.sway[c]), limits
    lengths = member.said.buckling
    longer = (lengths.major_K or 1.0) > 1 or (lengths.minor_K or 1.0) > 1
    longer = longer or lengths.major_length is not None
    if share <= own_length * (1 + 1e-9) or (longer and share <= most * (1 + 1e-9)):
        return []
    drift = 1 / (1 - share) if share < 1 else math.inf
    reason = (
        f"the second order multiplies the drift by {drift:.3g}: beyond "
        f"{1 / (1 - own_length):.3g} a column's own length is not its effective one, beyond "
        f"{1 / (1 - most):.3g} none may be used: say [design] stability = 'direct analysis'"
        + ("" if share > most else ", or give K")
    )
    name = "effective length in a frame that sways"
    where = forces.combinations[c].name
    return [outside_row("sway-length", name, code.second_order.sway_clause, reason, "number",
                        where)]  # fmt: skip


def _shorter_than_it_buckles(
    member: DesignMember, forces: MemberForces, code: Standard
) -> list[Row]:
    """Return a row outside where the second order is analysed over less than the length given."""
    if forces.critical is None or not np.any(forces.N < 0):
        return []
    for axis in ("major", "minor"):
        given = getattr(member.said.buckling, f"{axis}_length")
        longest = max(end - start for start, end in member.span_lengths(axis))
        bends = np.any(getattr(forces, f"M_{axis}"))
        if given is not None and bends and given > longest * (1 + SAME_PLACE):
            reason = (
                f"{axis}_length is more than the longest span about that axis: the analysis, which "
                "goes by the supports, does not see the longer length buckle"
            )
            return [outside_row("second-order", "second order", code.second_order.clause, reason)]
    return []


def _imposed_strains(job: Job, cases: LoadCases | None, forces: MemberForces) -> list[Row]:
    """Return a row outside where no strength combination has the change of temperature."""
    if cases is None or "T" not in cases.present:
        return []
    if any(combination.factors.get("T") for combination in forces.combinations):
        return []
    reason = (
        f"{job.loading} leaves the factors of a change of temperature to the designer: give them "
        "in the job's combinations"
    )
    return [outside_row("temperature", "change of temperature", str(job.loading), reason)]


def _crushed(job: Job, member: DesignMember, forces: MemberForces, code: Standard) -> list[Row]:
    """Return a row outside where compression is too much for a method of the first order.

    Of members that help the frame to stand: not those between pins.
    """
    method = code.second_order.by_first_order
    if method is None or not method.chosen(job.design_of(member.said)):
        return []
    if member.said.frame is None or member.said.is_between_pins or not np.any(forces.N < 0):
        return []
    squash = _squash(member, code)
    level = code.second_order.level[job.method_of(member.said)]
    c = int(np.argmax(-forces.N.min(axis=1)))
    share = level * float(-forces.N[c].min()) / squash
    if share <= method.most * (1 + 1e-9):
        return []
    reason = (
        f"compression is {share:.3g} of what crushes it, more than {method.most:g}: its stiffness "
        "is less than the analysis of the first order takes; say another way to stability"
    )
    name, where = "compression for a method of the first order", forces.combinations[c].name
    return [outside_row("first-order", name, method.compression_clause, reason, "number", where)]


def _squash(member: DesignMember, code: Standard) -> float:
    """Return what crushes the weakest section of a member, N."""
    return min(
        code.second_order.squash(section, member.as_if_all(section).strengths.Fy)
        for _, _, section in member.stretches
    )


def _softened(job: Job, member: DesignMember, forces: MemberForces, code: Standard) -> list[Row]:
    """Return a row outside where compression softens a member more than its analysis takes."""
    if (
        not code.second_order.softens(job.design_of(member.said))
        or member.said.second_order != "analysed"
    ):
        return []
    by_itself = np.zeros((1, 1)), np.ones((1, 1))
    found_again = code.second_order.flexural_share(job.design_of(member.said), *by_itself)
    leans = member.said.frame is not None and job.frame.imperfections
    if found_again is not None or leans:  # what compression takes is in either
        return []
    squash = min(
        member.as_if_all(section).strengths.Fy * section.A for _, _, section in member.stretches
    )
    compression = code.second_order.level[job.method_of(member.said)] * float(
        np.max(-forces.N, initial=0.0)
    )
    if compression <= 0.5 * squash:
        return []
    reason = "beyond half the squash load the stiffness is less than the analysis takes"
    return [outside_row("second-order", "second order", code.second_order.stiffness_clause, reason)]


def _rotated_axes(member: DesignMember, code: Standard) -> list[Row]:
    """Return a row outside where the forces depend on how a turned section bends as a whole."""
    turned = [section for _, _, section in member.stretches if section.has_rotated_axes]
    strained = any(
        load.settlement is not None or load.temperature_difference is not None
        for load in member.said.loads
    )
    springs = any(s.spring or s.rotation_spring for s in member.said.supports)
    if member.said.through:
        # Between two pins its forces are those of statics; it sags as its weak axis lets it.
        depends = not member.said.is_between_pins
    else:
        depends = member.said.second_order == "analysed"
    if not turned or not (strained or springs or depends or member.said.pieces):
        return []
    reason = (
        f"{turned[0].name} has rotated principal axes, and is analysed about x and y apart: its "
        "forces are not known with the second order analysed, springs, settlements, changes of "
        "temperature, several sections or ends that are fixed in a frame"
    )
    return [outside_row("analysis", "analysis", code.second_order.clause, reason)]
