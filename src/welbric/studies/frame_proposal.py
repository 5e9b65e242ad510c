"""What a sizing of a frame proposes: its groups, the analyses that led there, what was found."""

from __future__ import annotations

from dataclasses import dataclass, field

from welbric.checking.table import CheckTable
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.sections.table import Section


@dataclass(frozen=True)
class Group:
    """Members that share a section, and what it may be.

    Attributes
    ----------
    name : str
    members : list of Member
        As they are in the job.
    sections : list of Section
        The best first.
    scores : list of float
        What each counts of the objective, for all members together.
    limits : dict of str to float
        The largest utilisation of each member, by mark.
    """

    name: str
    members: list[Member]
    sections: list[Section]
    scores: list[float]
    limits: dict[str, float]

    @property
    def marks(self) -> list[str]:
        """The marks of its members."""
        return [one.mark for one in self.members]

    def total(self, section: Section) -> float:
        """Return the mass of its members with a section, kg."""
        return sum(section.mass * one.length for one in self.members)


@dataclass(frozen=True)
class Round:
    """One analysis of the frame.

    Attributes
    ----------
    sections : tuple of str
        Of the groups.
    mass : float, kg
        Of the groups' members.
    utilisation : float
        The worst of the job.
    passes : bool
    why : str
        What this round tries.
    """

    sections: tuple[str, ...]
    mass: float
    utilisation: float
    passes: bool
    why: str


@dataclass(frozen=True)
class Buys:
    """What a group lets the frame drift, under the drift nearest its limit.

    Attributes
    ----------
    group : str
    share : float
        Of that drift.
    mass : float, kg
    """

    group: str
    share: float
    mass: float


@dataclass(frozen=True, repr=False)
class FrameProposal:
    """What is proposed for a frame.

    Attributes
    ----------
    job, proposed : Job
        As it is, and as it is proposed; the same where nothing passes.
    before, after : CheckTable
    groups : list of Group
    rounds : list of Round
    complete : bool
        Whether all that is sized passes in what is proposed.
    proved : bool or None
        Whether every assignment with less was checked and fails; None where there are too many.
    less : float or None
        What share of the objective would do less under the forces that it ends with: an estimate of
        what is left to be found, as forces follow the stiffness. None where nobody looked.
    buys : list of Buys
        Where drift is limited, who lets the frame drift.
    said : list of str
        What a designer should know.
    objective : str
    others : list of str
        Members that do not pass in it, that were not sized, and did not pass before.
    """

    job: Job
    proposed: Job
    before: CheckTable
    after: CheckTable
    groups: list[Group]
    rounds: list[Round]
    complete: bool
    proved: bool | None
    buys: list[Buys] = field(default_factory=list)
    said: list[str] = field(default_factory=list)
    objective: str = "mass"
    others: list[str] = field(default_factory=list)
    less: float | None = None
