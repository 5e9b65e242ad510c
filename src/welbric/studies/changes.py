"""What is otherwise in a job than it was: what is said, what came of it, what steel it takes."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from welbric.checking.fingerprints import fingerprint
from welbric.checking.results_file import Results
from welbric.checking.shown import ratio
from welbric.checking.table import CheckTable
from welbric.inputs.job import Job
from welbric.inputs.listing import listing
from welbric.studies.take_off import take_off
from welbric.units import DisplayUnits

Kind = Literal["new", "gone", "moved", "changed", "same"]
OF_OTHERS = frozenset({"members", "name", "description", "book", "bare_units"})


@dataclass(frozen=True)
class CheckThen:
    """A check as it came out."""

    name: str
    clause: str
    utilisation: float | None
    status: str
    combination: str


@dataclass(frozen=True)
class MemberThen:
    """A member as it came out; ``said`` is what was said of it, None where it is not known."""

    section: str
    steel: str
    verdict: str
    utilisation: float | None
    fingerprint: str | None
    checks: Mapping[str, CheckThen]
    said: Mapping[str, str] | None = None


@dataclass(frozen=True)
class Side:
    """A job with its results, as one of two that are compared.

    Attributes
    ----------
    members : mapping of str to MemberThen
    said : mapping of str to str or None
        What is said of the job as a whole; None where only results are known.
    masses : mapping of (section, steel) to float
        In ``unit``; empty where they are not known.
    show : DisplayUnits, optional
        What the values of ``said`` are in.
    """

    members: Mapping[str, MemberThen]
    said: Mapping[str, str] | None
    masses: Mapping[tuple[str, str], float]
    unit: str
    show: DisplayUnits | None = None


@dataclass(frozen=True)
class SaidOtherwise:
    """A value that is said otherwise; empty on the side where nothing was said."""

    mark: str
    field: str
    before: str
    after: str


@dataclass(frozen=True)
class Moved:
    """A check whose ratio, as it is printed, or verdict is another."""

    name: str
    clause: str
    before: CheckThen | None
    after: CheckThen | None


@dataclass(frozen=True)
class MemberChange:
    """A member, before and after.

    Attributes
    ----------
    kind : str
        ``"new"``, ``"gone"``; ``"moved"`` where results are others; ``"changed"`` where only what
        is said is; ``"same"``.
    before, after : MemberThen or None
    checks : list of Moved
    """

    mark: str
    kind: Kind
    before: MemberThen | None
    after: MemberThen | None
    checks: list[Moved] = field(default_factory=list)


@dataclass(frozen=True)
class Changes:
    """Everything that is otherwise.

    Attributes
    ----------
    said : list of SaidOtherwise or None
        None where one side has results only, so that what was said is not known.
    members : list of MemberChange
        All of them; those that are the same too.
    masses : list of (section, steel, before, after)
        Those that are others.
    total : (float, float) or None
        Mass before and after, in ``unit``.
    """

    said: list[SaidOtherwise] | None
    members: list[MemberChange]
    masses: list[tuple[str, str, float, float]]
    total: tuple[float, float] | None
    unit: str

    @property
    def alike(self) -> bool:
        """Whether nothing is otherwise."""
        return not self.said and not self.marks and not self.masses

    @property
    def marks(self) -> set[str]:
        """The members that have changed in what is said of them or in what came out."""
        return {one.mark for one in self.members if one.kind != "same"}


def side_of(job: Job, table: CheckTable, show: DisplayUnits | None = None) -> Side:
    """Return a job as one side of a comparison, in its display units or in others.

    Parameters
    ----------
    job : Job
    table : CheckTable
        Its results.
    show : DisplayUnits, optional
    """
    show = show or job.display
    members = {}
    for result in table:
        said, member = result.member.said, result.member
        rows = ((row.id, CheckThen(row.name, row.clause, row.utilisation, row.status,
                                   row.combination)) for row in result.rows)  # fmt: skip
        members[member.mark] = MemberThen(
            member.section_names,
            str(member.steel),
            result.status,
            result.utilisation,
            fingerprint(job, said),
            dict(_numbered(rows)),
            {one.field: str(one) for one in listing(said, show, frozenset({"mark"}))},
        )
    whole = {one.field: str(one) for one in listing(job, show, OF_OTHERS | {"standard"})}
    masses = {(one.section, one.steel): show.convert(one.mass, "mass") for one in take_off(job)}
    return Side(members, {"standard": job.standard} | whole, masses, show.labels["mass"], show)


def side_of_results(results: Results) -> Side:
    """Return results that were written as one side of a comparison."""
    members = {
        one.mark: MemberThen(
            one.section,
            one.steel,
            one.verdict,
            one.utilisation,
            one.fingerprint,
            dict(
                _numbered(
                    (c.id, CheckThen(c.check, c.clause, c.utilisation, c.status, c.combination))
                    for c in one.checks
                )
            ),
        )
        for one in results.members
    }
    masses = {(one.section, one.steel): one.mass for one in results.take_off}
    unit = next((one.mass_unit for one in results.take_off), "")
    return Side(members, None, masses, unit)


def _numbered(rows: Any) -> Iterator[tuple[str, CheckThen]]:
    """Yield checks under their ids; a second of one id has a number."""
    seen: dict[str, int] = {}
    for id, row in rows:
        seen[id] = seen.get(id, 0) + 1
        yield (id if seen[id] == 1 else f"{id} {seen[id]}"), row


def changes(old: Side, new: Side) -> Changes:
    """Return what is otherwise.

    Parameters
    ----------
    old, new : Side
        In the same display units.
    """
    marks = list(dict.fromkeys([*new.members, *old.members]))
    found = [_of_member(mark, old.members.get(mark), new.members.get(mark)) for mark in marks]
    said = None
    if old.said is not None and new.said is not None:
        said = _otherwise("", old.said, new.said)
        for mark in marks:
            a, b = old.members.get(mark), new.members.get(mark)
            if a is not None and b is not None:
                said += _otherwise(mark, a.said or {}, b.said or {})
    both = bool(old.masses and new.masses) and old.unit == new.unit
    masses = [
        (*key, old.masses.get(key, 0.0), new.masses.get(key, 0.0))
        for key in dict.fromkeys([*new.masses, *old.masses])
        if both
        and abs(old.masses.get(key, 0.0) - new.masses.get(key, 0.0))
        > 1e-6 * max(old.masses.get(key, 0.0), new.masses.get(key, 0.0))
    ]
    total = (sum(old.masses.values()), sum(new.masses.values())) if both else None
    return Changes(said, found, masses, total, new.unit)


def _of_member(mark: str, old: MemberThen | None, new: MemberThen | None) -> MemberChange:
    if old is None or new is None:
        return MemberChange(mark, "new" if old is None else "gone", old, new)
    moved = []
    for id in dict.fromkeys([*new.checks, *old.checks]):
        a, b = old.checks.get(id), new.checks.get(id)
        if a is None or b is None or (_printed(a), a.status) != (_printed(b), b.status):
            one = new.checks[id] if b is not None else old.checks[id]
            moved.append(Moved(one.name, one.clause, a, b))
    kind: Kind = "same"
    if moved or old.verdict != new.verdict:
        kind = "moved"
    elif (old.fingerprint, old.section, old.steel) != (new.fingerprint, new.section, new.steel):
        kind = "changed"
    return MemberChange(mark, kind, old, new, moved)


def _printed(check: CheckThen) -> str:
    return ratio(float("nan") if check.utilisation is None else check.utilisation)


def _otherwise(mark: str, old: Mapping[str, str], new: Mapping[str, str]) -> list[SaidOtherwise]:
    return [
        SaidOtherwise(mark, key, old.get(key, ""), new.get(key, ""))
        for key in dict.fromkeys([*new, *old])
        if old.get(key) != new.get(key)
    ]


def stale_marks(members: Sequence[MemberChange]) -> list[str]:
    """Return the members whose earlier results do not stand any more."""
    return [one.mark for one in members if one.kind != "same"]
