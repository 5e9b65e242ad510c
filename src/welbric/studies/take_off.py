"""What steel a job takes, by section and steel: pieces, masses, surfaces, cost and carbon."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, fields
from typing import Any

from welbric.inputs.job import Job
from welbric.members.resolve import resolve_all
from welbric.sections.catalogues import family_of


@dataclass(frozen=True)
class TakeOff:
    """What is taken of one section in one steel.

    Attributes
    ----------
    section, steel : str
    pieces : int
        Lengths of members; a member of several sections is as many.
    length, mass, surface : float
        mm, kg, mm2 to be painted.
    cost, carbon : float or None
        As the job's prices and rates say; kg CO2e. None where it has none.
    """

    section: str
    steel: str
    pieces: int
    length: float
    mass: float
    surface: float
    cost: float | None
    carbon: float | None

    def plus(self, other: TakeOff, name: str = "") -> TakeOff:
        """Return the sum of two."""
        values: dict[str, Any] = {}
        for one in fields(self)[2:]:
            a, b = getattr(self, one.name), getattr(other, one.name)
            values[one.name] = None if a is None or b is None else a + b
        return TakeOff(name or self.section, "" if name else self.steel, **values)


def take_off(job: Job, marks: Collection[str] | None = None) -> list[TakeOff]:
    """Return what a job takes, the heaviest first.

    Parameters
    ----------
    job : Job
    marks : collection of str, optional
        Those of the members that count; all by default.

    Raises
    ------
    InputError
        If what is said of a member does not fit together.

    Examples
    --------
    >>> import welbric as wb
    >>> post = wb.Member(mark="P1", role="post", section="W8X31", steel="A992", height="10 ft")
    >>> round(take_off(wb.Job(members=[post]))[0].mass / 0.45359237)
    310
    """
    found: dict[tuple[str, str], TakeOff] = {}
    for member in resolve_all(job):
        if marks is not None and member.mark not in marks:
            continue
        if member.said.stage_of is not None:  # the steel of another one
            continue
        for start, end, section in member.stretches:
            length, family = end - start, family_of(section.name)
            mass = section.mass * length
            one = TakeOff(
                section.name,
                str(member.steel),
                1,
                length,
                mass,
                section.surface * length,
                None if job.prices is None else job.prices.of_piece(family, mass, length),
                None if job.carbon is None else job.carbon.of_piece(family, mass),
            )
            key = (one.section, one.steel)
            found[key] = found[key].plus(one) if key in found else one
    return sorted(found.values(), key=lambda one: -one.mass)


def total(parts: list[TakeOff]) -> TakeOff:
    """Return the sum of all."""
    whole = parts[0]
    for part in parts[1:]:
        whole = whole.plus(part)
    return TakeOff("in all", "", *(getattr(whole, one.name) for one in fields(whole)[2:]))
