"""A fingerprint of what a member's result stands on: other input, another fingerprint."""

from __future__ import annotations

import dataclasses
import hashlib
from collections.abc import Mapping
from importlib.metadata import version
from typing import Any

from pydantic import BaseModel

from welbric.checking.results_file import Results
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.loads.standards import Loading
from welbric.sections.table import Section
from welbric.steels import Steel

LENGTH = 16  # hexadecimal digits
OF_WORDS = {
    "name", "description", "book", "note", "show", "members", "choose", "prices", "carbon",
    "utilisations", "sections", "catalogue", "bare_units",
}  # fmt: skip


def fingerprint(job: Job, member: Member) -> str:
    """Return the fingerprint of a member in its job: of all that its checks depend on.

    Names, notes, what the section may be chosen among, and the units of display leave it as it is.
    """
    # The forces in a member of a frame come of all that are joined.
    others = [_plain(one) for one in job.members if one.frame is not None]
    return _digest(_plain(job), _plain(member), others if member.frame is not None else [])


def _digest(*parts: Any) -> str:
    text = repr((version("welbric"), *parts))
    return hashlib.sha256(text.encode()).hexdigest()[:LENGTH]


def _plain(value: Any) -> Any:
    """Return a description as plain values whose text is always the same."""
    if isinstance(value, Section):
        return value.shape, value.name, sorted(value.properties.items())
    if isinstance(value, Steel):
        return value.name, value.bands
    if isinstance(value, BaseModel):
        return [
            (name, _plain(getattr(value, name)))
            for name in sorted(type(value).model_fields)
            if name not in OF_WORDS
        ]
    if isinstance(value, Mapping):
        return sorted((key, _plain(inner)) for key, inner in value.items())
    if isinstance(value, list | tuple):
        return [_plain(inner) for inner in value]
    if isinstance(value, Loading):
        return value.standard.id, _plain(value.options)
    if dataclasses.is_dataclass(value) and not isinstance(value, type):
        fields = [one.name for one in dataclasses.fields(value) if one.compare]
        return type(value).__name__, [(name, _plain(getattr(value, name))) for name in fields]
    if value is None or isinstance(value, str | int | float):
        return value
    # The text of anything else may be another one next time.
    raise TypeError(f"no fingerprint of a {type(value).__name__}")


def stale(job: Job, results: Results) -> dict[str, str]:
    """Return which of earlier results do not stand any more: mark and why.

    Parameters
    ----------
    job : Job
        As it is now.
    results : Results
        What ``welbric check --json`` wrote.
    """
    written = {entry.mark: entry.fingerprint for entry in results.members}
    found = {}
    for member in job.members:
        if member.mark not in written:
            found[member.mark] = "is not in the results"
        elif written[member.mark] != fingerprint(job, member):
            found[member.mark] = "has changed since the results were written"
    gone = set(written) - {member.mark for member in job.members}
    return found | {str(mark): "is not in the job" for mark in gone}
