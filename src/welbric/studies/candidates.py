"""A section that was looked at for a member, and what was found for the member."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

from welbric.checking.results import MemberResult, Row
from welbric.checking.verdicts import OK, OUTSIDE, OVER, ROUNDING
from welbric.inputs.member import Member
from welbric.sections.table import Section
from welbric.studies.objectives import depth_of
from welbric.studies.screening import Look

LEVEL = 3.0  # mm: two depths that pass for one


@dataclass(frozen=True, eq=False)
class Candidate:
    """A section that was looked at for a member.

    Attributes
    ----------
    section : Section
    result : MemberResult or None
        None where the member cannot have the section; `reason` says why.
    limit : float
        The largest utilisation allowed.
    reason : str
    look : Look or None
        What was found over arrays, of one that is outside or clearly over; it has no result then.
    """

    section: Section
    result: MemberResult | None
    limit: float
    reason: str = ""
    look: Look | None = None

    @property
    def governing(self) -> Row | None:
        """The row that decides."""
        return None if self.result is None else self.result.governing

    @property
    def utilisation(self) -> float:
        """The governing utilisation; NaN where it is outside."""
        if self.look is not None:
            return self.look.utilisation
        return math.nan if self.result is None else self.result.utilisation

    @property
    def by_check(self) -> dict[str, float]:
        """The utilisation of every check that applies; NaN where it is outside."""
        if self.look is not None:
            return self.look.by_check
        return {} if self.result is None else {r.name: r.utilisation for r in self.result.rows}

    @property
    def status(self) -> str:
        """``"ok"``, ``"over"`` (of the limit) or ``"outside"``."""
        if self.look is not None:
            return OUTSIDE if self.look.reason else OVER
        if self.result is None:
            return OUTSIDE
        if self.result.status == OK and self.utilisation > self.limit + ROUNDING:
            return OVER
        return self.result.status

    @property
    def depth(self) -> float:
        """Overall depth, mm."""
        return depth_of(self.section)

    def why(self) -> str:
        """Return what decides, in words."""
        if self.look is not None:
            look = self.look
            return (
                f"{look.check}: {look.reason}" if look.reason else f"{look.check} ({look.clause})"
            )
        row = self.governing
        if row is None:
            return self.reason or "nothing acts on it"
        outside = [r for r in (self.result.rows if self.result else []) if r.status == OUTSIDE]
        if self.status == OUTSIDE and outside:
            return f"{outside[0].name}: {outside[0].reason}"
        return f"{row.name} ({row.clause})"


@dataclass(frozen=True, repr=False)
class Sizing:
    """What was found for one member.

    Attributes
    ----------
    member : Member
        As it is in the job.
    before : MemberResult
    candidates : list of Candidate
        In the order of the objective, as far as they were looked at.
    chosen : Candidate or None
        None where no candidate passes.
    unseen : int
        Candidates after those, that were not looked at.
    objective : str
    group : tuple of str
        The marks that share the section.
    elsewhere : dict of str to float
        The sections of the job's other members, with their depths, mm.
    """

    member: Member
    before: MemberResult
    candidates: list[Candidate]
    chosen: Candidate | None
    unseen: int
    objective: str
    group: tuple[str, ...] = ()
    elsewhere: dict[str, float] = field(default_factory=dict)

    def __repr__(self) -> str:
        found = self.chosen.section.name if self.chosen else "nothing passes"
        return f"<{self.member.mark}: {self.before.member.section_names} -> {found}>"

    def _is_level(self, candidate: Candidate) -> bool:
        """Whether a section is as deep as one used elsewhere."""
        return any(abs(candidate.depth - d) <= LEVEL for d in self.elsewhere.values())

    @property
    def changes(self) -> bool:
        """Whether another section is proposed."""
        return self.chosen is not None and self.chosen.section != self.member.section

    def alternatives(self) -> list[tuple[str, Candidate]]:
        """Return others that pass, and what speaks for each, such as ``"lightest"``."""
        passing = [c for c in self.candidates if c.status == OK and c is not self.chosen]
        if self.chosen is None or not passing or len(self.group) > 1:
            return []  # what passes here need not pass in the rest of the group
        found = {
            "lightest": min(passing, key=lambda c: (c.section.mass, c.depth)),
            "shallowest": min(passing, key=lambda c: (c.depth, c.section.mass)),
            "most in hand": min(passing, key=lambda c: c.utilisation),
            "stiffest for its mass": max(passing, key=lambda c: c.section.I_x / c.section.mass),
        }
        if found["shallowest"].depth >= self.chosen.depth * (1 - 1e-9):
            del found["shallowest"]
        own = self.chosen.section
        if (
            found["stiffest for its mass"].section.I_x / found["stiffest for its mass"].section.mass
            <= own.I_x / own.mass
        ):
            del found["stiffest for its mass"]
        used = [c for c in passing if c.section.name in self.elsewhere]
        if used and own.name not in self.elsewhere:
            found["lightest used elsewhere"] = min(used, key=lambda c: c.section.mass)
        level = [c for c in passing if self._is_level(c)]
        if level and not self._is_level(self.chosen):
            found["lightest as deep as a section used elsewhere"] = min(
                level, key=lambda c: c.section.mass
            )
        different = list(dict.fromkeys(found.values()))
        return [(", ".join(n for n, c in found.items() if c is one), one) for one in different]


@dataclass(frozen=True)
class Few:
    """A limit on different sections, and how good the choice under it is.

    Attributes
    ----------
    most : int
    total, bound : float
        Of the objective: of the choice, and what no choice goes below.
    """

    most: int
    total: float
    bound: float
