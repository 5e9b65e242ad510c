"""What the standard's checks of a member do not see: rows outside, each with its reason."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.forces import LoadCases, MemberForces, inside_of
from welbric.job import Job
from welbric.members import Member
from welbric.restraints import SAME_PLACE, Segment
from welbric.results import Row, outside_row, status_of
from welbric.standards import standard


def uncovered_rows(
    job: Job,
    member: Member,
    rows: list[Row],
    parts: list[Segment],
    cases: LoadCases | None,
    forces: MemberForces,
) -> list[Row]:
    """Return a row for each thing of a member that its checks do not cover, and its stability.

    ``rows`` are those of the standard's checks.
    """
    code = standard(job.standard)
    return [
        *_shear_not_given(member, rows),
        *_destabilised(member, parts, code),
        *_unheld_hinges(member, parts, forces, code),
        *_bending_stability(forces, code),
        *_imposed_strains(job, cases, forces),
        *_softened(job, member, forces, code),
        *_askew(member, code),
    ]


def _shear_not_given(member: Member, rows: list[Row]) -> list[Row]:
    """Return a row outside where moments were given without the shear that goes with them."""
    found = []
    for axis, name, clause in (("major", "shear, web", "G2.1"), ("minor", "shear, flanges", "G6")):
        for forces in member.forces:
            bends = any(getattr(forces, f"moment_{axis}"))
            if bends and not getattr(forces, f"shear_{axis}"):
                reason = f"{forces.name}: a moment is given without its shear_{axis}"
                found.append(outside_row(name, clause, reason, "force", forces.name))
                break
    return [row for row in found if row.name not in {r.name for r in rows}] if found else []


def _destabilised(member: Member, parts: list[Segment], code: Any) -> list[Row]:
    """Return a row outside where loads on a flange press it sideways, and nothing holds it."""
    if all(part.continuous for part in parts) or member.Cb == "eigenvalue":
        return []  # the eigenvalue takes the loads where they act
    for load in member.loads:
        pushes = [*(load.line or []), load.area or 0.0, load.point or 0.0]
        down, up = max(pushes) > 0 or load.acts_either_way, min(pushes) < 0 or load.acts_either_way
        bad = {"top": down, "bottom": up, "shear centre": False}[load.on]
        if bad and load.axis == "major":
            reason = (
                f"loads on the {load.on} flange push it over; the standard's equation takes them "
                "at the shear centre (`segments` has the critical factor with them there)"
            )
            return [outside_row("loads off the shear centre", code.LOAD_HEIGHT_CLAUSE, reason)]
    return []


def _unheld_hinges(
    member: Member, parts: list[Segment], forces: MemberForces, code: Any
) -> list[Row]:
    """Return a row outside where a hinge lies within a length that can buckle sideways."""
    slack = SAME_PLACE * member.length
    for part in parts:
        within = [x for x in member.hinges if part.start + slack < x < part.end - slack]
        if not within or part.continuous:
            continue
        sign = {"top": 1.0, "bottom": -1.0}.get(part.flange)
        M = forces.M_major[:, inside_of(forces, part)]
        if np.any(np.abs(M) > 0 if sign is None else sign * M > 0):
            reason = (
                "a hinge lies within an unbraced length, which the standard's equations take to be "
                "of one piece: hold both flanges there"
            )
            return [outside_row("sideways buckling at a hinge", code.LOAD_HEIGHT_CLAUSE, reason)]
    return []


def _bending_stability(forces: MemberForces, code: Any) -> list[Row]:
    """Return how near the member is to buckling in a plane of bending, by second-order analysis."""
    if forces.share is None or not np.any(forces.share > 1e-9):
        return []
    c = int(np.argmax(forces.share))
    U = float(forces.share[c])
    reason = "the axial force over the one at which it buckles elastically, by geometric stiffness"
    head = ("elastic stability in bending", code.STABILITY_CLAUSE, U, status_of(U), None, None)
    return [Row(*head, "number", forces.combinations[c].name, 0.0, None, reason, (-1, -1))]


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
    return [outside_row("change of temperature", job.loading, reason)]


def _softened(job: Job, member: Member, forces: MemberForces, code: Any) -> list[Row]:
    """Return a row outside where compression softens a member more than its analysis takes."""
    if job.stability != "direct analysis" or member.second_order != "analysed":
        return []
    squash = min(
        member.as_if_all(section).strengths().Fy * section.A for _, _, section in member.stretches()
    )
    pressed = code.SECOND_ORDER_LEVEL[job.method] * float(np.max(-forces.N, initial=0.0))
    if pressed <= 0.5 * squash:
        return []
    reason = "beyond half the squash load the stiffness is less than the analysis takes (tau_b)"
    return [outside_row("second order", code.STIFFNESS_CLAUSE, reason)]


def _askew(member: Member, code: Any) -> list[Row]:
    """Return a row outside where the forces depend on how a turned section bends as a whole."""
    turned = [section for _, _, section in member.stretches() if section.askew]
    strained = any(
        load.settlement is not None or load.temperature_difference is not None
        for load in member.loads
    )
    springs = any(s.spring or s.rotation_spring for s in member.supports)
    analysed = member.second_order == "analysed"
    if not turned or not (strained or springs or analysed or member.pieces):
        return []
    reason = (
        f"{turned[0].name} bends askew, and is analysed about x and y apart: its forces are not "
        "known with the second order analysed, springs, settlements, changes of temperature or "
        "several sections"
    )
    return [outside_row("analysis", code.STABILITY_CLAUSE, reason)]
