"""What if: a member with several changes, each checked, side by side."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import TypeAdapter, ValidationError

from welbric.checking.check import check_member
from welbric.checking.results import MemberResult
from welbric.errors import InputError, Problem, did_you_mean
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.inputs.options import misplaced
from welbric.members.resolve import resolve

AS_IT_IS = "as it is"


@dataclass(frozen=True)
class Variant:
    """A member with a change.

    Attributes
    ----------
    name : str
    result : MemberResult
    """

    name: str
    result: MemberResult

    @property
    def mass(self) -> float:
        """Mass of the member, kg."""
        return sum((end - start) * s.mass for start, end, s in self.result.member.stretches)


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

    def checks(self) -> list[str]:
        """Return the names of all checks, those that matter most first."""
        worst: dict[str, float] = {}
        for variant in self.variants:
            for row in variant.result.rows:
                value = math.inf if math.isnan(row.utilisation) else row.utilisation
                worst[row.name] = max(worst.get(row.name, 0.0), value)
        return sorted(worst, key=lambda name: -worst[name])

    def utilisation(self, check: str, variant: Variant) -> float | None:
        """Return a check's utilisation; NaN where it is outside, None where it does not apply."""
        return next((r.utilisation for r in variant.result.rows if r.name == check), None)


def compare(
    job: Job, mark: str, changes: Mapping[str, Mapping[str, Any]] | Sequence[str]
) -> Comparison:
    """Check a member as it is and with each of several changes.

    Parameters
    ----------
    job : Job
    mark : str
    changes : mapping of str to mapping, or sequence of str
        By name: the member's keys and their new values, as a job file has them; or such keys as
        text, ``'section = "W18X55"; steel = "A572 Gr 60"'``.

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
    named = changes if isinstance(changes, Mapping) else {text: _read(text) for text in changes}
    if not named:
        raise InputError("say at least one change, such as 'section = \"W18X55\"'")
    found = [Variant(AS_IT_IS, check_member(job, resolve(member)))]
    for name, change in named.items():
        try:
            said = changed(member, change, job.words)
            found.append(Variant(name, check_member(job, resolve(said))))
        except InputError as error:
            raise error.under(name) from None
    return Comparison(mark, found)


def _read(text: str) -> dict[str, Any]:
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
