"""What if: a member with several changes, or by other standards, each checked, side by side."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import TypeAdapter, ValidationError

from welbric.checking.check import check, check_member
from welbric.checking.results import MemberResult
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import badness
from welbric.errors import InputError, Problem, did_you_mean
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.inputs.options import misplaced
from welbric.members.resolve import resolve

AS_IT_IS = "as it is"
# What of a job may be said anew for a member, and what is left out where the standard changes: it
# belongs to the one before.
OF_JOB = ("standard", "design", "loading", "companions")
OF_FRAME = {"through", "span", "spans", "height"}  # which a change of a framed member leaves
KEPT = ("name", "show", "bare_units", "utilisations")


@dataclass(frozen=True)
class Variant:
    """A member with a change.

    Attributes
    ----------
    name : str
    result : MemberResult
    table : CheckTable, optional
        Of the whole job, where the member is part of a frame: its forces follow every member.
    """

    name: str
    result: MemberResult
    table: CheckTable | None = None

    @property
    def mass(self) -> float:
        """Mass of the member, kg."""
        return mass_of(self.result)

    @property
    def worst(self) -> MemberResult | None:
        """The member of the frame that decides; None of a member that stands alone."""
        framed = [one for one in self.table or () if one.member.said.frame is not None]
        return max(framed, key=badness) if framed else None

    @property
    def frame_mass(self) -> float:
        """Mass of all members of the frame, kg; zero of a member that stands alone."""
        return sum(mass_of(one) for one in self.table or () if one.member.said.frame is not None)


def mass_of(result: MemberResult) -> float:
    """Return the mass of a member, kg."""
    return sum((end - start) * s.mass for start, end, s in result.member.stretches)


@dataclass(frozen=True, repr=False)
class Comparison:
    """The variants of a member, the first as it is.

    Attributes
    ----------
    mark : str
    variants : list of Variant
    """

    mark: str
    variants: list[Variant]

    def __repr__(self) -> str:
        found = (f"{one.name} {one.result.utilisation:.3g}" for one in self.variants)
        return f"<{self.mark}: {', '.join(found)}>"

    def checks(self) -> dict[str, str]:
        """Return all checks, those that matter most first: id -> name.

        The same check of two standards has one id, and the name of the first.
        """
        worst: dict[str, float] = {}
        names: dict[str, str] = {}
        for variant in self.variants:
            for row in variant.result.rows:
                value = math.inf if math.isnan(row.utilisation) else row.utilisation
                worst[row.id] = max(worst.get(row.id, 0.0), value)
                names.setdefault(row.id, row.name)
        return {id: names[id] for id in sorted(worst, key=lambda id: -worst[id])}

    def utilisation(self, check: str, variant: Variant) -> float | None:
        """Return a check's utilisation; NaN where it is outside, None where it does not apply."""
        return next((r.utilisation for r in variant.result.rows if r.id == check), None)


def compare(
    job: Job,
    mark: str,
    changes: Mapping[str, Mapping[str, Any]] | Sequence[str] = (),
    under: Sequence[str] = (),
) -> Comparison:
    """Check a member as it is, with each of several changes, and under other standards.

    Parameters
    ----------
    job : Job
    mark : str
    changes : mapping of str to mapping, or sequence of str
        By name: the member's keys and their new values, as a job file has them; or such keys as
        text, ``'section = "W18X55"; steel = "A572 Gr 60"'``.
    under : sequence of str
        Keys of the job in the same way, ``'standard = "EN 1993-1-1"; loading.live_category =
        "B"'``: what of the standard, its design and its loading is not said is as usual there.

    Raises
    ------
    InputError
        If a change cannot be read, or does not fit the member.

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(
    ...     mark="B", section="W18X50", span="20 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    ... )
    >>> found = wb.compare(wb.Job(members=[beam]), "B", ['section = "W18X55"'])
    >>> found.variants[1].result.utilisation < found.variants[0].result.utilisation
    True
    """
    member = job.member(mark)
    named = (
        changes if isinstance(changes, Mapping) else {text: read_change(text) for text in changes}
    )
    if not named and not under:
        raise InputError("say at least one change, such as 'section = \"W18X55\"'")
    own = f"{AS_IT_IS}, {job.code_of(member).id}" if under else AS_IT_IS
    found = [_variant(own, job, member)]
    for name, change in named.items():
        try:
            if member.frame is not None and OF_FRAME & set(change):
                raise InputError(f"{member.mark}: which joints it goes through stays as it is")
            if set(change) - {"steel", "design"}:
                refuse_what_stands(job, member, change)
            found.append(_variant(name, job, changed(member, change, job.words)))
        except InputError as error:
            raise error.under(name) from None
    for text in under:
        try:
            other = _other_job(job, member, read_change(text))
            code = other.code_of(other.members[0])
            taken = Variant(_said(code.id, text), check_member(other, resolve(other.members[0])))
        except InputError as error:
            raise error.under(text) from None
        found.append(taken)
    return Comparison(mark, found)


def refuse_what_stands(job: Job, member: Member, change: Mapping[str, Any]) -> None:
    """Refuse a change beside a choice that holds of the member as it stands alone.

    Raises
    ------
    InputError
        If there is one, and the change does not say it anew.
    """
    name = job.code_of(member).as_it_stands(job.options_of(member))
    if name and "design" not in change:
        raise InputError(
            f"{member.mark}: its {name} is given, and holds of the member as it stands alone: "
            "take it out of 'design', or give it anew there"
        )


def _variant(name: str, job: Job, member: Member) -> Variant:
    """Check a member that may have changed; one of a frame with the whole frame."""
    if member.frame is None:
        return Variant(name, check_member(job, resolve(member)))
    table = check(job.with_members({member.mark: member}))
    return Variant(name, table[member.mark], table)


def _other_job(job: Job, member: Member, change: Mapping[str, Any]) -> Job:
    """Return a job of one member under another standard, design or loading."""
    unknown = [key for key in change if key not in OF_JOB]
    if unknown:
        raise InputError(f"unknown key {unknown[0]!r}; the job's are {', '.join(OF_JOB)}")
    known = {name: getattr(job, name) for name in KEPT}
    if change.get("standard", job.standard) == job.standard:
        # What is said anew stands before what the job says.
        design = {key: getattr(job.design, key) for key in job.design.model_fields_set}
        loading = {"standard": job.loading.standard.id} | {
            key: getattr(job.loading.options, key) for key in job.loading.options.model_fields_set
        }
        known |= {"companions": job.companions, "combinations": job.combinations}
        known |= {"standard": job.standard, "design": design, "loading": loading}
        for key in ("design", "loading"):
            if isinstance(change.get(key), Mapping):
                known[key] |= change[key]
        change = {key: value for key, value in change.items() if key not in ("design", "loading")}
    else:
        member = member.model_copy(update={"design": {}})
    return Job(**known | dict(change), members=[member])


def _said(standard: str, text: str) -> str:
    """Return what a column is called: the standard, and what else is said."""
    others = [part.strip() for part in text.split(";") if not part.strip().startswith("standard")]
    return "; ".join([standard, *(part.partition(".")[2] or part for part in others if part)])


def read_change(text: str) -> dict[str, Any]:
    """Read the keys of a change as TOML; a semicolon outside quotes stands for a new line."""
    parts = text.split('"')
    lines = '"'.join(p.replace(";", "\n") if i % 2 == 0 else p for i, p in enumerate(parts))
    try:
        return tomllib.loads(lines)
    except (tomllib.TOMLDecodeError, RecursionError) as error:
        raise InputError(
            f"{text}: is not a change such as 'section = \"W18X55\"': {error}"
        ) from None


def changed(
    member: Member, change: Mapping[str, Any], words: Mapping[str, Any] | None = None
) -> Member:
    """Return a member with other values of some of its keys, as a job file has them.

    ``words`` is the job's: the units of bare numbers and its own sections.

    Raises
    ------
    InputError
        If a key is not known, or a value cannot be read.
    """
    by_key = {field.alias or name: (name, field) for name, field in Member.model_fields.items()}
    update: dict[str, Any] = {}
    problems: list[Problem] = []
    if not change:
        raise InputError("nothing is changed")
    for key, value in change.items():
        if key not in by_key or key == "mark":
            unknown = [Problem(f"unknown key {key!r}{did_you_mean(key, by_key) or ''}")]
            problems += misplaced([key]) or unknown
            continue
        name, field = by_key[key]
        whole: Any = field.annotation
        if field.metadata:
            whole = Annotated[whole, *field.metadata]
        try:
            update[name] = TypeAdapter(whole).validate_python(value, context=dict(words or {}))
        except ValidationError as error:
            messages = (e["msg"].removeprefix("Value error, ") for e in error.errors())
            problems += [Problem(message, key) for message in messages]
    lengths = {"span", "spans", "height"}
    if lengths & set(update):  # one way to say how long it is takes the place of another
        empty: dict[str, Any] = {"span": None, "spans": [], "height": None}
        update = {k: v for k, v in empty.items() if k not in update} | update
    if problems:
        raise InputError(*problems)
    other: Any = member.model_copy(update=update)
    found: Member = other.with_one_length()
    return found
