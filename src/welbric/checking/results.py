"""What comes of checking a member: rows, segments, and the whole."""

from __future__ import annotations

import functools
import math
from collections.abc import Callable
from dataclasses import dataclass, field

from welbric.checking.verdicts import OK, OUTSIDE, OVER, badness
from welbric.effects.forces import MemberForces
from welbric.effects.support_forces import SupportForces, support_forces
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases
from welbric.members.segments import Segment
from welbric.sections.table import Section
from welbric.standards.case import MemberCase
from welbric.standards.standard import Standard
from welbric.units import METRIC
from welbric.working import Entry


@dataclass(frozen=True, kw_only=True, repr=False)
class Row:
    """One check of one member, at its worst combination and place.

    Attributes
    ----------
    id : str
        What machines call the check, whatever its name.
    name, clause : str
    utilisation : float
        NaN where the case is outside the standard.
    status : str
        ``"ok"``, ``"over"`` or ``"outside"``.
    demand, capacity : float or None
        Internal units; None for an interaction.
    kind : str
        The kind of quantity of demand and capacity.
    combination : str
    place : float
        Along the member, mm.
    segment : Segment or None
    reason : str
        Why it is outside.
    remark : str
        What belongs to the numbers, such as the share of the span.
    at : tuple of int
        Combination and segment, as numbers.
    stretch : Stretch, optional
        What was checked.
    again : callable, optional
        Computes the row once more on single numbers, for its working; None where there is nothing
        to compute.
    """

    id: str
    name: str
    clause: str
    utilisation: float
    status: str
    demand: float | None
    capacity: float | None
    kind: str
    combination: str
    place: float = 0.0
    segment: Segment | None = None
    reason: str = ""
    remark: str = ""
    at: tuple[int, int] = (-1, -1)
    stretch: Stretch | None = field(default=None, compare=False, repr=False)
    again: Callable[[], object] | None = field(default=None, compare=False, repr=False)

    def __repr__(self) -> str:
        if self.status == OUTSIDE:
            return f"<{self.name} ({self.clause}): outside – {self.reason}>"
        of = ""
        if self.demand is not None and self.capacity is not None:
            demand, capacity = (METRIC.show(x, self.kind) for x in (self.demand, self.capacity))
            of = f", {demand} of {capacity}"
        where = f"{self.combination} at {METRIC.show(self.place, 'length', 3)}"
        return f"<{self.name} ({self.clause}): {self.status}, {self.utilisation:.4g}{of}, {where}>"


@dataclass(frozen=True)
class Stretch:
    """The lengths of a member that have one section, as the standard sees them.

    Attributes
    ----------
    section : Section
    code : Standard
    case : MemberCase
    segments : list of Segment
        Those that the section is in, whole or in part.
    only_one_of_many : bool
        Whether the member has other sections too.
    combinations : list of str
        The names of what acts on it.
    """

    section: Section
    code: Standard
    case: MemberCase
    segments: list[Segment]
    only_one_of_many: bool
    combinations: list[str]


@dataclass(frozen=True)
class SegmentRow:
    """A segment at its worst combination.

    Attributes
    ----------
    segment : Segment
    combination : str
    moment : float
        The largest that compresses the segment's flange, N mm.
    moment_shape : float
        The moment-shape factor that was used; NaN where nothing bends the segment.
    utilisation : float
    status : str
    """

    segment: Segment
    combination: str
    moment: float
    moment_shape: float
    utilisation: float
    status: str


@dataclass(frozen=True)
class Part:
    """A row and the entries of its working."""

    row: Row
    entries: tuple[Entry, ...]


@dataclass(frozen=True, repr=False)
class MemberResult:
    """What came of one member.

    Attributes
    ----------
    rows : list of Row
        One for each check that has something to check.
    remarks : function
        Of what stands behind the rows and of that which a designer should act on: found where it
        is asked for, as nothing else goes by it.
    segments : list of Segment
    cases : LoadCases or None
        None where the forces were given.
    forces : MemberForces
    """

    member: DesignMember
    rows: list[Row]
    remarks: Callable[[], tuple[list[str], list[str]]] = field(repr=False)
    segments: list[Segment]
    cases: LoadCases | None
    forces: MemberForces
    case: MemberCase
    stretches: list[Stretch] = field(default_factory=list)

    def __repr__(self) -> str:
        row = self.governing
        why = f", {row.name} {row.utilisation:.3g}" if row else ""
        return f"<{self.member.mark}, {self.member.section_names}: {self.status}{why}>"

    @functools.cached_property
    def _remarks(self) -> tuple[list[str], list[str]]:
        return self.remarks()

    @property
    def notes(self) -> list[str]:
        """What stands behind the rows, the warnings among it."""
        return self._remarks[0]

    @property
    def warnings(self) -> list[str]:
        """Those of the notes that a designer should act on; the table shows them."""
        return self._remarks[1]

    @property
    def governing(self) -> Row | None:
        """The row that decides: the worst that is over, else one outside, else the worst.

        So a utilisation below 1 never stands beside a member that was not verified whole.
        """
        return max(self.rows, key=badness, default=None)

    @property
    def status(self) -> str:
        """``"over"`` where a row is, else ``"outside"`` where a row is, else ``"ok"``.

        A member with nothing to check is outside: no verdict was earned.
        """
        found = {row.status for row in self.rows} or {OUTSIDE}
        return OVER if OVER in found else OUTSIDE if OUTSIDE in found else OK

    def support_forces(self) -> list[SupportForces]:
        """Return what goes to the supports and the forces at the ends, by case and combination.

        Empty where the forces were given.
        """
        if self.cases is None:
            return []
        return support_forces(self.member, self.cases, self.forces)

    def reactions(self) -> dict[str, tuple[float, float]]:
        """Return the smallest and largest upward reaction at each support, N.

        Over all strength combinations, across the major axis; empty where the forces were given.
        """
        if self.cases is None or self.forces.reactions is None or not self.forces.combinations:
            return {}
        R = self.forces.reactions["major"]
        low, high = R.min(axis=0), R.max(axis=0)
        count = len(self.cases.major.places)
        names = ["start", *(f"support {i}" for i in range(2, count)), "end"]
        return {name: (float(a), float(b)) for name, a, b in zip(names, low, high, strict=True)}

    @property
    def utilisation(self) -> float:
        """The governing utilisation; NaN where the verdict is outside."""
        row = self.governing
        return row.utilisation if row is not None else math.nan


def outside_row(
    id: str, name: str, clause: str, reason: str, kind: str = "number", combination: str = ""
) -> Row:
    """Return the row of something that is not covered or cannot be computed."""
    return Row(
        id=id,
        name=name,
        clause=clause,
        utilisation=math.nan,
        status=OUTSIDE,
        demand=None,
        capacity=None,
        kind=kind,
        combination=combination,
        reason=reason,
    )
