"""The first natural frequency of a beam under what it carries for good: as information."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from welbric.analysis.member_loads import LineLoad, Load, PointLoad
from welbric.effects.frequency import flexibilities
from welbric.effects.load_cases import load_cases, service_combinations
from welbric.inputs.job import Job
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import CaseKey, LoadCases, applied
from welbric.members.resolve import resolve

FLOORS = ("beam", "floor beam", "girder", "cantilever")
LONG = "quasi_permanent"


@dataclass(frozen=True)
class NaturalFrequency:
    """How a beam swings.

    Attributes
    ----------
    hertz : float
        In its first mode, in the plane of gravity.
    mass_of : str
        The combination of loads whose mass swings with it.
    """

    hertz: float
    mass_of: str

    def __str__(self) -> str:
        return (
            f"first natural frequency {self.hertz:.3g} Hz on supports that do not move, with the "
            f"mass of {self.mass_of}"
        )


def natural_frequency(job: Job, mark: str) -> NaturalFrequency | None:
    """Return the first natural frequency of a beam, with the mass of what acts for long.

    That is the quasi-permanent combination where the loading standard has one, else the dead load.
    None of what is not level, has no loads, or is part of a frame, which swings as a whole.

    Raises
    ------
    InputError
        If the job has no such member.
    """
    member = resolve(job.member(mark))
    if member.said.frame is not None or member.said.forces:
        return None
    cases = load_cases(member, job.code_of(member.said).elasticity)
    return swings(job, [(member, cases)])[0]


def swings(
    job: Job, members: Sequence[tuple[DesignMember, LoadCases]]
) -> list[NaturalFrequency | None]:
    """Return how members that stand alone swing, of their load cases."""
    give_way = flexibilities([(one, job.code_of(one.said).elasticity) for one, _ in members])
    found: list[NaturalFrequency | None] = []
    for (member, cases), flexible in zip(members, give_way, strict=True):
        modes = []
        for combination in _long(job, cases):
            weights = _weights(member, combination)
            hertz = None if flexible is None else flexible.frequency(weights)
            if hertz is not None:
                modes.append(NaturalFrequency(hertz, combination.name))
        found.append(min(modes, key=lambda one: one.hertz, default=None))
    return found


def _long(job: Job, cases: LoadCases) -> list[Combination]:
    """Return the combinations of what acts for long."""
    known: list[Combination] = []
    if LONG in job.loading.service_kinds:
        known = service_combinations(job, cases, LONG)
    return known or [Combination("D", {"D": 1.0}, "")]


def _weights(member: DesignMember, combination: Combination) -> list[Load]:
    """Return the weights of a combination, those of its own among them."""
    found: list[Load] = []
    parts = [
        (key.factor(combination), about, part)
        for load in member.said.loads
        if load.is_weight(member.slope)
        for key, about, part in applied(member, load)
    ]
    if member.said.self_weight:
        factor = CaseKey("D", False).factor(combination)
        parts += [(factor, about, part) for about, part in member.self_weight_loads()]
    for factor, about, part in parts:
        if about != "major" or not factor:
            continue
        if isinstance(part, LineLoad):
            found.append(LineLoad(part.start, part.end, factor * part.w_start,
                                  factor * part.w_end))  # fmt: skip
        elif isinstance(part, PointLoad):
            found.append(PointLoad(part.at, factor * part.P))
    return found
