"""The sections of a frame: analysed, chosen under its forces, analysed again until nothing changes.

Forces follow stiffness, so that a choice stands only once the frame as chosen was checked whole.
The candidates of every group are looked at over arrays with today's forces; where drift is limited,
the groups are chosen together, so that what is least in all lets the frame drift no further.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

from welbric.checking.check import check
from welbric.checking.verdicts import OK
from welbric.documents.blocks import Document
from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.sections.table import Section
from welbric.studies.frame_drift import drifts_near
from welbric.studies.frame_proposal import Buys, FrameProposal, Group, Round
from welbric.studies.frame_search import Search
from welbric.studies.frame_sizing_shown import frame_sizing_document, frame_sizing_records
from welbric.studies.objectives import scores


@dataclass(frozen=True, repr=False)
class SizedFrame(FrameProposal):
    """A proposal for a frame, to be shown or to be accepted."""

    def __repr__(self) -> str:
        found = "complete" if self.complete else "nothing passes everywhere"
        return f"<frame of {len(self.groups)} groups sized in {len(self.rounds)} rounds: {found}>"

    def changes(self, marks: Sequence[str] | None = None) -> dict[str, dict[str, Any]]:
        """Return the new sections by mark, as `change_job` takes them.

        Raises
        ------
        InputError
            If nothing passes everywhere, a mark was not sized, or comes without its group.
        """
        if not self.complete:
            raise InputError("what was found does not pass everywhere; there is nothing to accept")
        known = {mark: group for group in self.groups for mark in group.marks}
        wanted = list(known) if marks is None else [self.job.member(one).mark for one in marks]
        for mark in wanted:
            if mark not in known:
                raise InputError(f"{mark} was not sized")
            apart = set(known[mark].marks) - set(wanted)
            if apart:
                raise InputError(
                    f"{mark} shares its section with {', '.join(sorted(apart))}: accept them "
                    "together"
                )
        new = {one.mark: one.section.name for one in self.proposed.members}
        return {
            mark: {"section": new[mark]}
            for mark in wanted
            if new[mark] != self.job.member(mark).section.name
        }

    def document(self) -> Document:
        """Return the proposals as blocks."""
        return frame_sizing_document(self)

    def records(self) -> list[dict[str, Any]]:
        """Return one plain record for each member that was sized."""
        return frame_sizing_records(self)

    def __str__(self) -> str:
        from welbric.documents.terminal import as_text

        return as_text(self.document())


def ranked(
    name: str, job: Job, members: list[Member], sections: list[Section], objective: str,
    limits: dict[str, float],
) -> Group:  # fmt: skip
    """Return a group with its candidates in the objective's order."""
    pairs = sorted(
        zip(scores(objective, job, members, sections), sections, strict=True),
        key=lambda pair: (pair[0], pair[1].mass, -pair[1].I_x),
    )
    return Group(name, members, [s for _, s in pairs], [score for score, _ in pairs], limits)


def nothing(_: Round) -> None:
    """Let a round pass without a word."""


def size_frame(
    job: Job, groups: list[Group], objective: str,
    watch: Callable[[Round], object] = nothing, different: int | None = None,
) -> SizedFrame:  # fmt: skip
    """Find the least sections of the groups of a frame's members that pass everywhere.

    Parameters
    ----------
    job : Job
    groups : list of Group
    objective : str
    watch : callable
        Called with each round as it is done.
    different : int, optional
        The most different sections for all of the groups.

    Returns
    -------
    SizedFrame
        Of the better of two searches: from the sections of today, and from the least of each list.
    """
    before = check(job)
    search = Search(job, groups, before, watch, different)
    said = []
    if different is not None:
        said.append(f"no more than {different} different sections for all groups, as asked")
    less = None
    try:
        said += search.searched()
        proved = search.improved()
        less = search.left() if proved is None and search.found() else None
    except KeyboardInterrupt:  # whatever is known by then stands
        if not search.found():
            raise
        said.append("stopped before its end: this is the best so far")
        proved = None
    if not search.found():
        return SizedFrame(job, job, before, before, groups, search.rounds, False, None,
                          said=_why_not(search), objective=objective)  # fmt: skip
    choice = search.found()[0]
    proposed, after, _ = search.checked(choice, "chosen")
    others = [one.member.mark for one in after if one.status != OK]
    drifts = drifts_near(proposed, after)
    buys = []
    if drifts:
        parts = drifts[0].shares
        whole = sum(float(v.sum()) for v in parts.values())
        for group in groups:
            own = sum(float(parts[m].sum()) for m in group.marks if m in parts)
            section = proposed.member(group.marks[0]).section
            buys.append(Buys(group.name, own / whole, group.total(section)))
    return SizedFrame(job, proposed, before, after, groups, search.rounds, True, proved, buys,
                      said, objective, others, less)  # fmt: skip


def _why_not(search: Search) -> list[str]:
    """Return what does not pass in what came nearest."""
    if search.stuck:
        return [search.stuck]
    if search.different is not None and any(not one[2] for one in search.known.values()):
        return [f"nothing that passes has so few as {search.different} different sections"]
    job, table, failing = min(search.known.values(), key=lambda one: len(one[2]))
    del job
    lines = []
    for mark in failing[:8]:
        row = table[mark].governing
        words = f"{row.name} ({row.clause})" if row is not None else "nothing acts on it"
        lines.append(f"{mark} does not pass in the nearest that was found: {words}")
    return lines or ["the search did not come to rest"]
