"""Candidates + check -> the choice, and why each other one lost."""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING, Any

from welbric.checking.check import check_member
from welbric.checking.fingerprints import fingerprint
from welbric.checking.verdicts import OK
from welbric.documents.blocks import Document
from welbric.errors import InputError, Problem
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.inputs.rates import read_objective
from welbric.members.resolve import resolve
from welbric.sections.table import Section
from welbric.studies.candidates import Candidate, Few, Sizing
from welbric.studies.objectives import depth_of, scores
from welbric.studies.screening import looks
from welbric.studies.variants import refuse_what_stands

if TYPE_CHECKING:
    import pandas

CLEARLY = 1.02  # over by more than what is left out of a look at all sections at once
MORE = 3  # candidates beyond the choice that are checked too, to compare it with


@dataclass(frozen=True, repr=False)
class SizedJob:
    """The proposals for a job.

    Attributes
    ----------
    job : Job
    sizings : list of Sizing
    different : int or None
        How many different sections are allowed.
    total, bound : float or None
        Of the objective then: of the choice, and what no choice goes below.
    rounds : list of dict
        The section of each mark in each round. Members do not press on one another, so that there
        is one; with a limit on different sections another follows where a choice over arrays does
        not hold when it is checked whole.
    """

    job: Job
    sizings: list[Sizing] = field(default_factory=list)
    different: int | None = None
    bound: float | None = None
    total: float | None = None
    rounds: list[dict[str, str]] = field(default_factory=list)

    def __repr__(self) -> str:
        return f"<SizedJob {', '.join(map(repr, self.sizings))}>"

    def __iter__(self) -> Iterator[Sizing]:
        return iter(self.sizings)

    def __getitem__(self, mark: str) -> Sizing:
        member = self.job.member(mark)
        for one in self.sizings:
            if one.member is member:
                return one
        raise InputError(f"{mark} was not sized")

    @property
    def complete(self) -> bool:
        """Whether every member found a section."""
        return all(one.chosen is not None for one in self.sizings)

    def changes(self, marks: Sequence[str] | None = None) -> dict[str, dict[str, Any]]:
        """Return the new sections by mark, as `change_job` takes them.

        Parameters
        ----------
        marks : sequence of str, optional
            Only these; all that change where there are none.

        Raises
        ------
        InputError
            If a mark was not sized, has no section to change to, or comes without its group.
        """
        found: dict[str, dict[str, Any]] = {}
        for mark in marks if marks is not None else [s.member.mark for s in self if s.changes]:
            one = self[mark]
            if one.chosen is None:
                raise InputError(f"{mark}: no candidate passes; there is nothing to accept")
            sharing = {m for m in one.group if self[m].member.stage_of is None}
            apart = sharing - set(marks if marks is not None else one.group)
            if apart:
                raise InputError(
                    f"{mark} shares its section with {', '.join(sorted(apart))}: accept them "
                    "together"
                )
            if one.changes and one.member.stage_of is None:
                found[one.member.mark] = {"section": one.chosen.section.name}
        return found

    def to_frame(self) -> pandas.DataFrame:
        """Return one row for each candidate of each member, a column for each check, as pandas."""
        from welbric.documents.records import frame

        return frame(candidate_table(self))

    def document(self, every: bool = False, sort: str = "") -> Document:
        """Return the proposals as blocks; ``sort`` is of all candidates."""
        from welbric.studies.sizing_shown import sizing_document

        few = None
        if self.different is not None:
            few = Few(self.different, self.total or 0.0, self.bound or 0.0)
        return sizing_document(self.job, self.sizings, few, every, sort)

    def __str__(self) -> str:
        from welbric.documents.terminal import as_text

        return as_text(self.document())


def size(
    job: Job,
    marks: Sequence[str] = (),
    among: str | Sequence[str] | None = None,
    utilisation: float | None = None,
    objective: str | None = None,
    every: bool = False,
    different: int | None = None,
    keep: Sequence[str] = (),
) -> SizedJob:
    """Find the best section of each member: the first in the objective's order that passes.

    Every candidate is checked as the member would be with it: its own weight, its stiffness and
    the deflections are its own.

    Parameters
    ----------
    job : Job
    marks : sequence of str
        The members; those with a `choose` entry where there are none. Members of one group
        are sized together.
    among : str or sequence of str, optional
        A wish in words such as ``"W, depth at most 18 in"``, or names, in place of the members'
        own; without either, the sections of the family and the shape of the member's.
    utilisation : float, optional
        The largest utilisation; 1 unless the member, or the job for its role, says otherwise.
    objective : str, optional
        ``"mass"``, ``"depth"``, ``"cost"``, ``"carbon"`` or a mix such as
        ``"0.7 cost + 0.3 depth"``: the least first.
    every : bool
        Check the whole list, not only as far as the choice and a little beyond.
    different : int, optional
        The most different sections for all of these members together.
    keep : sequence of str
        Marks whose sections stay as they are, and with them those of their groups.

    Raises
    ------
    InputError
        If there is nothing to size, a mark is not in the job, or a wish cannot be understood.

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(
    ...     mark="FB1", section="W18X50", span="20 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    ... )
    >>> sized = wb.size(wb.Job(members=[beam]), ["FB1"], among="W, depth at most 16.5 in")
    >>> sized["FB1"].chosen.status
    'ok'
    """
    wanted = [job.member(mark) for mark in marks] or [m for m in job.members if m.choose]
    if not wanted:
        raise InputError("no member has a 'choose' entry; name the members to size")
    if objective is not None:
        read_objective(objective)
    if different is not None and different < 1:
        raise InputError(f"{different} different sections: at least one is needed")
    if utilisation is not None and not 0 < utilisation <= 1:
        raise InputError(f"a utilisation of {utilisation:g} is not between 0 and 1")
    kept = {job.member(mark).mark for mark in keep}
    framed = [member.mark for member in wanted if member.frame is not None]
    if framed:
        raise InputError(
            f"{framed[0]}: is part of a frame, whose forces follow its sections: size the frame"
        )
    found: dict[str, Sizing] = {}
    for member in wanted:
        if member.mark not in found:
            group = group_of(job, member)
            sized = _size_group(job, group, among, utilisation, objective, every, kept)
            found |= {one.member.mark: one for one in sized}
    sizings = list(found.values())
    if different is not None:
        return _with_few(job, sizings, among, utilisation, objective, different, kept)
    return SizedJob(job, sizings, rounds=[_names(sizings)])


def _names(sizings: Sequence[Sizing]) -> dict[str, str]:
    return {one.member.mark: one.chosen.section.name for one in sizings if one.chosen is not None}


def _with_few(
    job: Job,
    sizings: list[Sizing],
    among: str | Sequence[str] | None,
    utilisation: float | None,
    objective: str | None,
    different: int,
    kept: set[str],
) -> SizedJob:
    """Choose again, with a limit on how many different sections there are."""
    import numpy as np

    from welbric.studies.few_sections import assign

    groups = {one.group: [job.member(mark) for mark in one.group] for one in sizings}
    orders = {objective_of(members, objective) for members in groups.values()}
    if len(orders) > 1:
        raise InputError(
            f"a limit on different sections needs one objective for all; these members have "
            f"{', '.join(sorted(orders))}"
        )
    lists = {
        key: common_sections(members, among, kept, job.own_sections)
        for key, members in groups.items()
    }
    universe = list({s.name: s for some in lists.values() for s in some}.values())
    column = {section.name: i for i, section in enumerate(universe)}
    table = np.full((len(groups), len(universe)), math.nan)
    for row, (key, members) in enumerate(groups.items()):
        order = objective_of(members, objective)
        for section, score in zip(lists[key], scores(order, job, members, lists[key]), strict=True):
            table[row, column[section.name]] = score
        if any(member.mark in kept for member in members):
            continue
        for member in members:
            limit = largest_utilisation(job, member, utilisation)
            seen = looks(job, member, lists[key])
            for section in lists[key]:
                look = seen.get(section.name)
                i = column[section.name]
                if look is not None and not look.utilisation <= limit * CLEARLY:
                    table[row, i] = math.nan
                elif look is None and math.isfinite(table[row, i]):
                    passes = _candidate(job, member, section, limit).status == OK
                    table[row, i] = table[row, i] if passes else math.nan
    none = [
        ", ".join(m.mark for m in members)
        for row, members in zip(table, groups.values(), strict=True)
        if np.isnan(row).all()
    ]
    if none:
        raise InputError(*(f"{marks}: none of its candidates passes" for marks in none))
    rounds: list[dict[str, str]] = []
    while True:
        found = assign(table, different)
        done, held = [], True
        for row, members in enumerate(groups.values()):
            section = universe[found.chosen[row]]
            staying = any(member.mark in kept for member in members)
            for member in members:
                one = _candidate(
                    job, member, section, largest_utilisation(job, member, utilisation)
                )
                if one.status != OK and not staying:  # what was found over arrays does not hold
                    table[row, found.chosen[row]], held = math.nan, False
                before = next(s for s in sizings if s.member is member)
                others = [c for c in before.candidates if c.section.name != section.name]
                listed = sorted([*others, one], key=lambda c: (c.section.mass, c.depth))
                order = objective_of(members, objective)
                done.append(replace(before, candidates=listed, chosen=one, objective=order))
        rounds.append(_names(done))
        if held:
            return SizedJob(job, done, different, found.bound, found.total, rounds)


def largest_utilisation(job: Job, member: Member, utilisation: float | None) -> float:
    """Return the largest utilisation: as asked for, the member's own, or that of its role."""
    if utilisation is not None:
        return utilisation
    own = member.choose.utilisation if member.choose else None
    return job.utilisations.get(member.role, 1.0) if own is None else own


def objective_of(members: Sequence[Member], objective: str | None) -> str:
    """Return by what members are sized that share a section."""
    first = members[0]
    return objective or (first.choose.least if first.choose else "mass")


def common_sections(
    members: Sequence[Member],
    among: str | Sequence[str] | None,
    kept: set[str],
    own: Mapping[str, Section],
) -> list[Section]:
    """Return the sections that are in the lists of all of some members; only those kept."""
    staying = {m.section.name: m.section for m in members if m.mark in kept}
    if len(staying) > 1:
        raise InputError(f"{', '.join(staying)} cannot all be kept: their members share a section")
    if staying:
        return list(staying.values())
    lists = [
        candidates_of(m, among if among is not None else m.choose.among if m.choose else None, own)
        for m in members
    ]
    common = set.intersection(*({s.name for s in one} for one in lists))
    sections = [s for s in lists[0] if s.name in common]
    if not sections:
        marks = ", ".join(m.mark for m in members)
        raise InputError(f"{marks}: no section is in the lists of all of them")
    return sections


def group_of(job: Job, member: Member) -> list[Member]:
    """Return the members that must have one section with a member, and all of their stages."""
    of = member if member.stage_of is None else job.member(member.stage_of)
    name = of.choose.group if of.choose else None
    alike = [m for m in job.members if name and m.choose and m.choose.group == name] or [of]
    marks = {m.mark for m in alike}
    return [m for m in job.members if m.mark in marks or m.stage_of in marks]


def _size_group(
    job: Job,
    members: list[Member],
    among: str | Sequence[str] | None,
    utilisation: float | None,
    objective: str | None,
    every: bool,
    kept: set[str],
) -> list[Sizing]:
    """Size members that share a section: the first that passes in all of them."""
    for member in members:
        if member.pieces:
            raise InputError(f"{member.mark}: a member of several sections cannot be sized")
        refuse_what_stands(job, member, {})
    order = objective_of(members, objective)
    sections = common_sections(members, among, kept, job.own_sections)
    ranked = sorted(
        zip(scores(order, job, members, sections), sections, strict=True),
        key=lambda pair: (pair[0], pair[1].mass, pair[1].I_x),
    )
    sections = [section for _, section in ranked]
    looked_at: list[list[Candidate]] = []
    chosen: int | None = None
    seen = {member.mark: looks(job, member, sections) for member in members}
    for section in sections:
        if chosen is not None and not every and len(looked_at) > chosen + MORE:
            break
        row = []
        for member in members:
            limit = largest_utilisation(job, member, utilisation)
            look = seen[member.mark].get(section.name)
            if look is not None and (look.reason or look.utilisation > limit * CLEARLY):
                row.append(Candidate(section, None, limit, look=look))
            else:
                row.append(_candidate(job, member, section, limit))
        looked_at.append(row)
        stays = any(member.mark in kept for member in members)  # as it is, passing or not
        if chosen is None and (stays or all(candidate.status == OK for candidate in row)):
            chosen = len(looked_at) - 1
    unseen = len(sections) - len(looked_at)
    partners = tuple(m.mark for m in members)
    elsewhere = {
        section.name: depth_of(section)
        for m in job.members
        if m.mark not in partners
        for section in (m.section, *(piece.section for piece in m.pieces))
    }
    return [
        Sizing(
            member, check_member(job, resolve(member)), [row[i] for row in looked_at],
            None if chosen is None else looked_at[chosen][i], unseen, order, partners, elsewhere,
        )
        for i, member in enumerate(members)
    ]  # fmt: skip


def candidates_of(
    member: Member,
    wish: str | Sequence[str | Section] | None,
    own: Mapping[str, Section] | None = None,
) -> list[Section]:
    """Return the sections that a member may have; ``own`` are those of the job, by folded names.

    Raises
    ------
    InputError
        If a name or a wish cannot be understood, or the member's section is of no family.
    """
    from welbric.sections.built import part_of_pair, section_in_words
    from welbric.sections.catalogues import families, family_of, folded
    from welbric.sections.wish import wished

    if wish is None:
        name, part = member.section.name, part_of_pair(member.section.name)
        family = family_of(part or name)
        if family not in families():
            raise InputError(f"{member.mark}: {name} is of no family; say what to choose among")
        if part is None:
            return [s for s in wished(family) if s.shape == member.section.shape]
        shape = section_in_words(part).shape  # pairs of those like it, as far apart
        alike = [s.name for s in wished(family) if s.shape == shape]
        return [section_in_words(name.replace(part, one, 1)) for one in alike]
    if isinstance(wish, str):
        return wished(wish, own)
    known = own or {}
    return [
        one if isinstance(one, Section) else known.get(folded(one)) or section_in_words(one)
        for one in wish
    ]


def _candidate(job: Job, member: Member, section: Section, limit: float) -> Candidate:
    """Check a member with another section."""
    changed = member.model_copy(update={"section": section})
    try:
        return Candidate(section, check_member(job, resolve(changed)), limit)
    except InputError as error:
        reasons = (Problem(one.text, *one.path[1:]) for one in error.problems)  # without its mark
        return Candidate(section, None, limit, "; ".join(reasons))


def candidate_table(sized: SizedJob) -> list[dict[str, Any]]:
    """Return the records of candidates with a column for each check, as a table has them."""
    found = []
    for record in candidate_records(sized):
        checks = record.pop("checks")
        found.append(record | {f"utilisation: {name}": value for name, value in checks.items()})
    return found


def candidate_records(sized: SizedJob) -> list[dict[str, Any]]:
    """Return one plain record for each candidate of each member, in display units."""
    show = sized.job.display
    found = []
    for one in sized:
        for rank, candidate in enumerate(one.candidates, 1):
            U = candidate.utilisation
            found.append(
                {
                    "mark": one.member.mark,
                    "fingerprint": fingerprint(sized.job, one.member),
                    "rank": rank,
                    "section": candidate.section.name,
                    "chosen": candidate is one.chosen,
                    "mass": show.convert(candidate.section.mass, "mass_per_length"),
                    "mass_unit": show.labels["mass_per_length"],
                    "depth": show.convert(candidate.depth, "dimension"),
                    "depth_unit": show.labels["dimension"],
                    "utilisation": U if math.isfinite(U) else None,
                    "status": candidate.status,
                    "why": candidate.why(),
                    "checks": {
                        k: v if math.isfinite(v) else None for k, v in candidate.by_check.items()
                    },
                }
            )
    return found
