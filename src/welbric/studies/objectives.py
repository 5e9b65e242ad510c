"""What the best section is: the least of mass, depth, cost or carbon, or of a mix of them."""

from __future__ import annotations

import math
from collections.abc import Sequence

from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.inputs.rates import read_objective
from welbric.sections.table import Section


def measure(name: str, job: Job, member: Member, section: Section) -> float:
    """Return what a member with a section weighs (kg), is deep (mm), costs or embodies (kg CO2e).

    Raises
    ------
    InputError
        If the job has no prices, or no carbon.
    """
    from welbric.sections.catalogues import family_of

    mass = section.mass * member.length
    if name == "mass":
        return mass
    if name == "depth":
        return depth_of(section)
    rates = job.prices if name == "cost" else job.carbon
    if rates is None:
        key = "prices" if name == "cost" else "carbon"
        raise InputError(f"{name}: the job has no {key}; add a [{key}] table")
    family = family_of(section.name)
    if job.prices is not None and name == "cost":
        return job.prices.of_piece(family, mass, member.length)
    return job.carbon.of_piece(family, mass) if job.carbon is not None else math.nan


ONE_SHAPE = {
    "rolled I", "tapered I", "welded I", "unequal I", "channel", "tapered channel", "angle", "tee",
    "tapered tee", "rectangular tube", "round tube", "welded box", "round bar", "flat bar",
}  # fmt: skip


def depth_of(section: Section) -> float:
    """Return the overall depth, mm.

    Of a section of several shapes, whose own depth is that of its base, by its elastic moduli.
    """
    if section.shape in ONE_SHAPE:
        return float(section.d)
    return section.I_x / section.Wel_top + section.I_x / section.Wel_bottom


def scores(
    objective: str, job: Job, members: Sequence[Member], sections: Sequence[Section]
) -> list[float]:
    """Return what each section counts for members that share it; the least is the best.

    A member counts once, whatever stages it has.
    A mix counts each term over its least value among the sections.
    """
    terms = read_objective(objective)
    members = [member for member in members if member.stage_of is None] or members
    total = [0.0] * len(sections)
    for name, weight in terms.items():
        values = [sum(measure(name, job, m, section) for m in members) for section in sections]
        least = min(values) if len(terms) > 1 else 1.0
        total = [t + weight * v / (least or 1.0) for t, v in zip(total, values, strict=True)]
    return total
