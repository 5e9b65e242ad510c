"""A fingerprint of what a member's result stands on: other input, another fingerprint."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from importlib.metadata import version
from typing import Any

from pydantic import BaseModel

from welbric.errors import InputError
from welbric.inputs.job import Job
from welbric.inputs.member import Member
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
    return _digest(_plain(job), _plain(member))


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
    return value


def stale(job: Job, document: Any) -> dict[str, str]:
    """Return what of a results document does not stand any more: mark and why.

    Parameters
    ----------
    job : Job
        As it is now.
    document : mapping
        What ``welbric check --json`` wrote.

    Raises
    ------
    InputError
        If those are the results of one combination alone.
    """
    if isinstance(document, Mapping) and document.get("under"):
        raise InputError(
            f"the results are of {document['under']} only, which is no verdict to stand"
        )
    written = {
        entry.get("mark"): entry.get("fingerprint")
        for entry in (document.get("members") if isinstance(document, Mapping) else None) or []
        if isinstance(entry, Mapping)
    }
    found = {}
    for member in job.members:
        if member.mark not in written:
            found[member.mark] = "is not in the results"
        elif written[member.mark] != fingerprint(job, member):
            found[member.mark] = "has changed since the results were written"
    gone = set(written) - {member.mark for member in job.members}
    return found | {str(mark): "is not in the job" for mark in gone}
