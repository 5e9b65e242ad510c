"""The check table of a job, and the working behind it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING, Any

import numpy as np

from welbric.checking.results import MemberResult, Part, Row
from welbric.checking.verdicts import OK, OUTSIDE, OVER, sortable
from welbric.documents.blocks import Document, paragraph
from welbric.errors import InputError, did_you_mean
from welbric.inputs.job import Job
from welbric.units import DisplayUnits
from welbric.working import Entry, Heading, Step, Working, note

if TYPE_CHECKING:
    import pandas


@dataclass(frozen=True, repr=False)
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

    def document(self) -> Document:
        """Return the working as blocks."""
        from welbric.checking.shown import working_document

        return working_document(self.job, self.result, self.parts)

    def text(self, width: int = 100) -> str:
        """Return the working as plain text."""
        from welbric.documents.plain import as_plain

        return as_plain(self.document(), width)

    def typst(self) -> str:
        """Return the working as a Typst document."""
        from welbric.documents.typst import as_typst

        paper = "us-letter" if self.job.display.name == "US" else "a4"
        return as_typst(self.document(), paper)

    def pdf(self) -> bytes:
        """Return the working as a PDF.

        Raises
        ------
        InputError
            If Typst, which makes it, is not installed.
        """
        from welbric.documents.typst import as_pdf

        return as_pdf(self.typst())

    def html(self) -> str:
        """Return the working as an HTML fragment with MathML."""
        from welbric.documents.html import as_html

        return f"<section>{as_html(self.document())}</section>"

    def page(self) -> str:
        """Return the working as a whole HTML page."""
        from welbric.documents.html import page

        return page(self.document())

    def __str__(self) -> str:
        return self.text()

    def __repr__(self) -> str:
        return f"<working of {self.result.member.mark}: {len(self.parts)} checks>"

    def _repr_html_(self) -> str:
        return self.html()


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

    def __init__(self, job: Job, results: list[MemberResult], under: str = "") -> None:
        self.job = job
        self.results = results
        self.under = under  # the one combination that is looked at; else all of them

    def __repr__(self) -> str:
        return f"<{self.job.name}: {self.summary()}>"

    def __iter__(self) -> Iterator[MemberResult]:
        return iter(self.results)

    def document(self, details: bool = False, below: Document = ()) -> Document:
        """Return the table as blocks, with every check where ``details`` are wanted.

        ``below`` stands below the summary.
        """
        from welbric.checking.shown import check_document

        document = [*check_document(self.job, self.results, self.summary(), details, below)]
        if details:
            from welbric.checking.supports_shown import supports_document

            document += [paragraph(), *supports_document(self.job, self.results)]
        return document

    def __len__(self) -> int:
        return len(self.results)

    def __getitem__(self, mark: str) -> MemberResult:
        found = self.job.member(mark).mark
        return next(r for r in self.results if r.member.mark == found)

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
        alone = f" under {self.under}, which is no verdict of all" if self.under else ""
        parts = [f"{within} of {total} within limits{alone}"]
        if self.under:
            known = {result.member.mark for result in self.results}
            others = [one.mark for one in self.job.members if one.mark not in known]
            if others:
                more = f" and {len(others) - 8} more" if len(others) > 8 else ""
                parts.append(f"it is not there on {', '.join(others[:8])}{more}")
        together: dict[str, list[str]] = {}
        for result in sorted(self.results, key=lambda r: -sortable(r.utilisation)):
            row = result.governing
            if result.status == OVER and row is not None:
                by = (row.utilisation - 1) * 100
                amount = "far over" if by >= 1000 else f"over by {by:.0f}%"
                amount = "over by less than 1%" if by < 1 else amount
                parts.append(f"{result.member.mark} is {amount} in {row.name}")
            elif result.status == OUTSIDE:
                outside = [r for r in result.rows if r.status == OUTSIDE]
                why = outside[0].name if outside else "there is nothing to check"
                together.setdefault(why, []).append(result.member.mark)
        for why, marks in together.items():
            few = ", ".join(marks[:8]) + (f" and {len(marks) - 8} more" if len(marks) > 8 else "")
            verb = "is" if len(marks) == 1 else "are"
            parts.append(f"{few} {verb} partly outside the scope ({why})")
        return "; ".join(parts)

    def explain(self, mark: str, check: str | None = None) -> Explanation:
        """Return the working of a member's checks, each at its governing combination.

        Parameters
        ----------
        mark : str
            The member's mark.
        check : str, optional
            One check: its id, or its name, or a part of it, or its clause.

        Raises
        ------
        InputError
            If there is no such member or check.
        """
        result = self[mark]
        rows = sorted(result.rows, key=lambda row: -sortable(row.utilisation))
        if check is not None:
            wanted = check.casefold()
            rows = [r for r in rows if wanted in (r.id, r.name, r.clause.casefold())] or [
                r for r in rows if wanted in r.name or r.clause.casefold().startswith(wanted)
            ]
            if not rows:
                names = [row.name for row in result.rows]
                hint = did_you_mean(check, names)
                listed = ", ".join(repr(name) for name in names)
                raise InputError(f"{mark} has no check {check!r}{hint or '; it has ' + listed}")
        return _explained(self.job, result, rows)

    def to_frame(self) -> pandas.DataFrame:
        """Return one row for each check of each member, in display units, as a pandas frame."""
        from welbric.documents.records import frame

        return frame(records(self))

    def support_frame(self) -> pandas.DataFrame:
        """Return the reactions and end forces by case and combination, as a pandas frame."""
        from welbric.checking.supports_shown import support_records
        from welbric.documents.records import frame

        return frame(support_records(self.job, self.results))

    def _repr_html_(self) -> str:
        from welbric.checking.shown import check_summary
        from welbric.documents.html import as_html

        return as_html(check_summary(self.job, self.results, self.summary()))

    def __str__(self) -> str:
        from welbric.documents.terminal import as_text

        return as_text(self.document())


def _explained(job: Job, result: MemberResult, rows: list[Row]) -> Explanation:
    """Run rows again inside a working."""
    working = Working()
    parts = []
    for row in rows:
        first = len(working.entries)
        with working, np.errstate(all="ignore"):
            if row.again is None:
                note(row.reason)
            else:
                row.again()
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
                    "role": result.member.said.role,
                    "section": row.stretch.section.name
                    if row.stretch
                    else result.member.section_names,
                    "steel": str(result.member.steel),
                    "id": row.id,
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
                    "remark": row.remark,
                    "reason": row.reason,
                }
            )
    return found


def _shown(value: float | None, kind: str, show: DisplayUnits) -> float | None:
    return None if value is None else show.convert(value, kind)
