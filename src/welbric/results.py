"""What comes of checking: rows, member results, the check table, and its working."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any

import numpy as np

from welbric.errors import InputError, did_you_mean
from welbric.forces import LoadCases, MemberForces
from welbric.job import Job
from welbric.limits import DeflectionLimit
from welbric.members import Member
from welbric.restraints import Segment
from welbric.sections.table import Section
from welbric.serviceability import deflection_ratio, deflection_utilisation
from welbric.standards import standard
from welbric.standards.case import MemberCase
from welbric.units import DisplayUnits
from welbric.working import Entry, Heading, Step, Working, note

if TYPE_CHECKING:
    import pandas

OK, OVER, OUTSIDE = "ok", "over", "outside"
ROUNDING = 1e-9  # a utilisation of 1 is within the limit; so is one that rounding puts above it


@dataclass(frozen=True)
class Row:
    """One check of one member, at its worst combination and place.

    Attributes
    ----------
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
    at : tuple of int
        Combination and segment, as numbers.
    stretch : Stretch, optional
        What was checked.
    again : callable, optional
        Computes the row once more, for its working.
    """

    name: str
    clause: str
    utilisation: float
    status: str
    demand: float | None
    capacity: float | None
    kind: str
    combination: str
    place: float
    segment: Segment | None
    reason: str
    at: tuple[int, int]
    stretch: Stretch | None = field(default=None, compare=False, repr=False)
    again: Callable[[], object] | None = field(default=None, compare=False, repr=False)


@dataclass(frozen=True)
class Stretch:
    """The lengths of a member that have one section, as the standard sees them.

    Attributes
    ----------
    section : Section
    case : MemberCase
    segments : list of Segment
        Those that the section is in, whole or in part.
    only_one_of_many : bool
        Whether the member has other sections too.
    """

    section: Section
    case: MemberCase
    segments: list[Segment]
    only_one_of_many: bool


@dataclass(frozen=True)
class SegmentRow:
    """A segment at its worst combination.

    Attributes
    ----------
    segment : Segment
    combination : str
    moment : float
        The largest that compresses the segment's flange, N mm.
    Cb : float
        The moment-shape factor that was used; NaN where nothing bends the segment.
    utilisation : float
    status : str
    """

    segment: Segment
    combination: str
    moment: float
    Cb: float
    utilisation: float
    status: str


@dataclass(frozen=True)
class Part:
    """A row and the entries of its working."""

    row: Row
    entries: tuple[Entry, ...]


@dataclass(frozen=True)
class Explanation:
    """The step-by-step working of a member's checks.

    Attributes
    ----------
    member : Member
    parts : list of Part
        One for each check, the governing one first.
    """

    job: Job
    result: MemberResult
    parts: list[Part]

    def text(self, width: int = 100) -> str:
        """Return the working as plain text."""
        from welbric.reports.workings import as_text

        return as_text(self, width)

    def typst(self) -> str:
        """Return the working as a Typst document."""
        from welbric.reports.workings import as_typst

        return as_typst(self)

    def html(self) -> str:
        """Return the working as an HTML fragment with MathML."""
        from welbric.reports.workings import as_html

        return as_html(self)

    def __str__(self) -> str:
        return self.text()

    def _repr_html_(self) -> str:
        return self.html()


@dataclass(frozen=True, repr=False)
class MemberResult:
    """What came of one member.

    Attributes
    ----------
    rows : list of Row
        One for each check that has something to check.
    notes : list of str
        What stands behind the rows.
    warnings : list of str
        Those of the notes that a designer should act on; the table shows them.
    segments : list of Segment
    cases : LoadCases or None
        None where the forces were given.
    forces : MemberForces
    """

    member: Member
    rows: list[Row]
    notes: list[str]
    segments: list[Segment]
    cases: LoadCases | None
    forces: MemberForces
    case: MemberCase
    warnings: list[str] = field(default_factory=list)
    stretches: list[Stretch] = field(default_factory=list)

    def __repr__(self) -> str:
        row = self.governing
        why = f", {row.name} {row.utilisation:.3g}" if row else ""
        return f"<{self.member.mark}, {self.member.section_names}: {self.status}{why}>"

    @property
    def governing(self) -> Row | None:
        """The row that decides: the worst that is over, else one outside, else the worst.

        So a utilisation below 1 never stands beside a member that was not verified whole.
        """
        weight = {OVER: 2, OUTSIDE: 1, OK: 0}
        return max(
            self.rows,
            key=lambda row: (
                weight[row.status],
                -1.0 if row.status == OUTSIDE else row.utilisation,
            ),
            default=None,
        )

    @property
    def status(self) -> str:
        """``"over"`` where a row is, else ``"outside"`` where a row is, else ``"ok"``.

        A member with nothing to check is outside: no verdict was earned.
        """
        found = {row.status for row in self.rows} or {OUTSIDE}
        return OVER if OVER in found else OUTSIDE if OUTSIDE in found else OK

    def reactions(self) -> dict[str, tuple[float, float]]:
        """Return the smallest and largest upward reaction at each support, N.

        Over all strength combinations, across the major axis; empty where the forces were given.
        """
        if self.cases is None or not self.forces.combinations:
            return {}
        R = self.cases.factors(self.forces.combinations) @ self.cases.major.reactions
        low, high = R.min(axis=0), R.max(axis=0)
        count = len(self.cases.major.places)
        names = ["start", *(f"support {i}" for i in range(2, count)), "end"]
        return {name: (float(a), float(b)) for name, a, b in zip(names, low, high, strict=True)}

    @property
    def utilisation(self) -> float:
        """The governing utilisation; NaN where the verdict is outside."""
        row = self.governing
        return row.utilisation if row is not None else math.nan


def limit_ratio(limit: DeflectionLimit, delta: float, span: float) -> float:
    """Return a deflection over its limit in a span."""
    if limit.at_most is not None:
        return float(deflection_utilisation(delta, limit.at_most))
    return deflection_ratio(delta, span, float(limit.over or math.inf))


def _deflection_again(member: Member, row: Row) -> None:
    """Compute a deflection's ratio once more, for its working."""
    axis = "minor" if "minor axis" in row.name else "major"
    kind = row.name.split(", ")[1].replace("-", "_")
    for start, end in member.span_lengths(axis):
        for limit in getattr(member.deflection, kind):
            inside = start <= row.place <= end
            if inside and math.isclose(limit.allowed(end - start), row.capacity or 0.0):
                limit_ratio(limit, float(row.demand or 0.0), end - start)
                return


class CheckTable:
    """The checks of every member of a job.

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(
    ...     mark="FB1", section="W18X50", span="20 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    ... )
    >>> table = wb.check(wb.Job(members=[beam]))
    >>> table["FB1"].governing.name
    'lateral-torsional buckling'
    """

    def __init__(self, job: Job, results: list[MemberResult]) -> None:
        self.job = job
        self.results = results

    def __iter__(self) -> Iterator[MemberResult]:
        return iter(self.results)

    def __len__(self) -> int:
        return len(self.results)

    def __getitem__(self, mark: str) -> MemberResult:
        member = self.job.member(mark)
        return next(r for r in self.results if r.member is member)

    def governing(self) -> dict[str, Row | None]:
        """Return the governing row of each member, by mark."""
        return {result.member.mark: result.governing for result in self.results}

    @property
    def ok(self) -> bool:
        """Whether every member is within its limits, and none is outside."""
        return all(result.status == OK for result in self.results)

    def summary(self) -> str:
        """Return the closing line of the table."""
        total = len(self.results)
        within = sum(result.status == OK for result in self.results)
        parts = [f"{within} of {total} within limits"]
        for result in sorted(self.results, key=lambda r: -_sortable(r.utilisation)):
            row = result.governing
            if result.status == OVER and row is not None:
                by = (row.utilisation - 1) * 100
                amount = "far over" if by >= 1000 else f"over by {by:.0f}%"
                amount = "over by less than 1%" if by < 1 else amount
                parts.append(f"{result.member.mark} is {amount} in {row.name}")
            elif result.status == OUTSIDE:
                outside = [r for r in result.rows if r.status == OUTSIDE]
                why = outside[0].name if outside else "there is nothing to check"
                parts.append(f"{result.member.mark} is partly outside the scope ({why})")
        return "; ".join(parts)

    def explain(self, mark: str, check: str | None = None) -> Explanation:
        """Return the working of a member's checks, each at its governing combination.

        Parameters
        ----------
        mark : str
            The member's mark.
        check : str, optional
            The name of one check, or the beginning of it, or its clause.

        Raises
        ------
        InputError
            If there is no such member or check.
        """
        result = self[mark]
        rows = sorted(result.rows, key=lambda row: -_sortable(row.utilisation))
        if check is not None:
            wanted = check.casefold()
            rows = [r for r in rows if wanted in (r.name, r.clause.casefold())] or [
                r for r in rows if wanted in r.name or r.clause.casefold().startswith(wanted)
            ]
            if not rows:
                names = [row.name for row in result.rows]
                hint = did_you_mean(check, names)
                listed = ", ".join(repr(name) for name in names)
                raise InputError(f"{mark} has no check {check!r}{hint or '; it has ' + listed}")
        return _explain(self.job, result, rows)

    def to_frame(self) -> pandas.DataFrame:
        """Return one row for each check of each member, in display units, as a pandas frame."""
        from welbric.reports.documents import frame

        return frame(records(self))

    def _repr_html_(self) -> str:
        from welbric.reports.tables import check_table_html

        return check_table_html(self)

    def __str__(self) -> str:
        from welbric.reports.tables import check_table_text

        return check_table_text(self)


def _sortable(utilisation: float) -> float:
    return math.inf if math.isnan(utilisation) else utilisation


def status_of(utilisation: float) -> str:
    """Return the status of a utilisation; what is not a number is never ok."""
    if math.isnan(utilisation):
        return OUTSIDE
    return OK if utilisation <= 1 + ROUNDING else OVER


def outside_row(
    name: str, clause: str, reason: str, kind: str = "number", combination: str = ""
) -> Row:
    """Return the row of something that is not covered or cannot be computed."""
    head = (name, clause, math.nan, OUTSIDE, None, None, kind)
    return Row(*head, combination, 0.0, None, reason, (-1, -1))


def _explain(job: Job, result: MemberResult, rows: list[Row]) -> Explanation:
    code = standard(job.standard)
    working = Working()
    parts = []
    for row in rows:
        first = len(working.entries)
        with working:
            if row.again is not None:
                row.again()
            elif row.at[0] < 0:
                note(row.reason)
            elif row.name.startswith("deflection"):
                _deflection_again(result.member, row)
            else:
                section, whole = result.member.section, result.case
                if row.stretch is not None:
                    section, whole = row.stretch.section, row.stretch.case
                case = whole.at(section, *row.at)
                with np.errstate(all="ignore"):
                    code.checks(case.shape)[row.name](case)
        entries = working.entries[first:]
        if working.latest is not None and (not entries or entries[-1] is not working.latest):
            entries.append(working.latest)
        parts.append(Part(row, tuple(_pointing_back(entries))))
    return Explanation(job, result, parts)


def _pointing_back(entries: list[Entry]) -> list[Entry]:
    """Return the entries, a heading whose steps were all written before saying so."""
    found: list[Entry] = []
    for entry, following in zip(entries, [*entries[1:], None], strict=True):
        if isinstance(entry, Heading):
            # The ratio itself is another clause's, unless the heading is about it.
            again = isinstance(following, Heading | None)
            if isinstance(following, Step) and following.formula.symbol == "U":
                again = not (entry.clause and following.formula.clause.startswith(entry.clause))
            if again:
                entry = Heading(f"{entry.title}: as above", entry.clause)
        found.append(entry)
    return found


def records(table: CheckTable) -> list[dict[str, Any]]:
    """Return one plain record for each check of each member, in display units."""
    show: DisplayUnits = table.job.display
    found = []
    for result in table:
        governing = result.governing
        for row in result.rows:
            found.append(
                {
                    "mark": result.member.mark,
                    "role": result.member.role,
                    "section": row.stretch.section.name
                    if row.stretch
                    else result.member.section_names,
                    "steel": str(result.member.steel),
                    "check": row.name,
                    "clause": row.clause,
                    "utilisation": row.utilisation,
                    "status": row.status,
                    "governs": row is governing,
                    "demand": _shown(row.demand, row.kind, show),
                    "capacity": _shown(row.capacity, row.kind, show),
                    "unit": show.labels.get(row.kind, ""),
                    "combination": row.combination,
                    "place": show.convert(row.place, "length"),
                    "place_unit": show.labels["length"],
                    "reason": row.reason,
                }
            )
    return found


def _shown(value: float | None, kind: str, show: DisplayUnits) -> float | None:
    return None if value is None else show.convert(value, kind)
