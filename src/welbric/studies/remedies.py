"""What would mend a member that is over: the next section, restraints closer together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from welbric.checking.check import check_members
from welbric.checking.results import MemberResult
from welbric.checking.verdicts import OK, OVER, sortable
from welbric.documents.blocks import Document, paragraph
from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.members.resolve import resolve
from welbric.sections.table import Section
from welbric.studies.reserves import flanges_in_compression, held_all_along, spaced
from welbric.studies.sizing import size
from welbric.units import METRIC, DisplayUnits

MOST_PARTS = 10  # that restraints divide a span into
MOST_MEMBERS = 3  # that are looked at unasked


@dataclass(frozen=True)
class Remedies:
    """What would do for a member that is over; each was checked whole.

    Attributes
    ----------
    result : MemberResult
        Of the member as it is.
    section : Section or None
        The lightest section of its family, or of its own wish, with which it passes.
    shared_by : tuple of str
        The marks that the section is shared by, where the member is of a group.
    spacing : float or None
        The largest whole part of the longest span, mm, at which restraints of `flanges` do.
    flanges : tuple of str
        Those in compression.
    stands : str
        A choice that holds of the member as it stands alone, so that nothing was looked for.
    """

    result: MemberResult
    section: Section | None = None
    shared_by: tuple[str, ...] = ()
    spacing: float | None = None
    flanges: tuple[str, ...] = ()
    stands: str = ""

    def words(self, show: DisplayUnits) -> str:
        """Return them in a sentence."""
        found = []
        if self.section is not None:
            shared = f" (shared by {', '.join(self.shared_by)})" if len(self.shared_by) > 1 else ""
            found.append(f"{self.section.name}{shared}")
        if self.spacing is not None:
            held = "both flanges" if len(self.flanges) > 1 else f"the {self.flanges[0]} flange"
            found.append(f"{held} restrained every {show.show(self.spacing, 'length')}")
        row = self.result.governing
        governs = f" in {row.name} ({row.clause})" if row is not None else ""
        mark = self.result.member.mark
        if self.stands:
            return (
                f"{mark} is over{governs}; its {self.stands} is given, so no other section or "
                "restraint is looked for."
            )
        if not found and self.result.member.said.frame is not None:
            return (
                f"{mark} is over{governs}; with another section the forces of the whole frame are "
                "others: 'size' chooses those of a frame, 'compare' shows one."
            )
        if not found:
            return f"{mark} is over{governs}; no section of its family passes as it stands."
        return f"{mark} is over{governs}; it passes with {', or with '.join(found)}."

    def __repr__(self) -> str:
        return f"<{self.words(METRIC)}>"


def remedies(job: Job, mark: str) -> Remedies | None:
    """Return what would mend a member; None where it is not over.

    Parameters
    ----------
    job : Job
    mark : str

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(
    ...     mark="B", section="W12X19", span="24 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    ... )
    >>> found = wb.remedies(wb.Job(members=[beam]), "B")
    >>> found.section.mass > wb.section("W12X19").mass, found.flanges
    (True, ('top',))
    """
    member = resolve(job.member(mark))
    (result,) = check_members(job, [member])
    return remedies_of(job, result)


def remedies_of(job: Job, result: MemberResult) -> Remedies | None:
    """Return what would mend a member of which the result is known."""
    if result.status != OVER:
        return None
    said = result.member.said
    if stands := job.code_of(said).as_it_stands(job.options_of(said)):
        return Remedies(result, stands=stands)
    section, group = _section(job, result)
    spacing, flanges = _spacing(job, result)
    return Remedies(result, section, group, spacing, flanges)


def _section(job: Job, result: MemberResult) -> tuple[Section | None, tuple[str, ...]]:
    try:
        sized = size(job, [result.member.mark])[result.member.mark]
    except InputError:  # of no family, or of several sections
        return None, ()
    if sized.chosen is None:
        return None, ()
    return sized.chosen.section, sized.group


def _spacing(job: Job, result: MemberResult) -> tuple[float | None, tuple[str, ...]]:
    """Return the largest spacing that does, where a length between restraints governs."""
    row, member = result.governing, result.member
    if row is None or row.segment is None or row.segment.continuous:
        return None, ()
    flanges = flanges_in_compression(result)
    longest = max(end - start for start, end in member.span_lengths("major"))
    held = row.segment.unbraced
    values = [longest / n for n in range(2, MOST_PARTS + 1)]
    values = [x for x in values if x < held * (1 - 1e-6)]
    if not flanges or not values:
        return None, ()
    try:
        # Where holding them all along does not do, no spacing does.
        (most,) = check_members(job, [resolve(held_all_along(member.said, flanges))])
        if most.status != OK:
            return None, tuple(flanges)
        tried = [resolve(spaced(member.said, flanges)(x)) for x in values]
        found = check_members(job, tried)
    except InputError:
        return None, ()
    enough = next((x for x, one in zip(values, found, strict=True) if one.status == OK), None)
    return enough, tuple(flanges)


def remedies_document(job: Job, results: Sequence[MemberResult], most: int | None) -> Document:
    """Return what would mend the members that are over, the worst first.

    Parameters
    ----------
    job : Job
    results : sequence of MemberResult
    most : int, optional
        Of how many members at most.
    """
    over = sorted((r for r in results if r.status == OVER), key=lambda r: -sortable(r.utilisation))
    found = [remedies_of(job, result) for result in over[:most]]
    blocks = [paragraph(one.words(job.display), "note") for one in found if one is not None]
    if most is not None and len(over) > most:
        blocks.append(paragraph(f"--details says what would mend the other {len(over) - most}."))
    return blocks
