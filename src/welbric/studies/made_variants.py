"""What if of a truss or a building: what makes it said otherwise, each checked whole."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from welbric.checking.check import check
from welbric.checking.results import MemberResult
from welbric.checking.shown import STYLE, VERDICT, bar, ratio
from welbric.checking.table import CheckTable
from welbric.checking.verdicts import badness
from welbric.documents.blocks import Column, Document, Table, Words
from welbric.inputs.job import Job
from welbric.studies.variants import mass_of
from welbric.units import DisplayUnits


@dataclass(frozen=True)
class MadeVariant:
    """A job with a truss or a building as one change has it.

    Attributes
    ----------
    name : str
    table : CheckTable
    parts : dict of str to list of MemberResult
        What is made, by the table that says what it has: ``"top"``, ``"columns"`` ...
    """

    name: str
    table: CheckTable
    parts: dict[str, list[MemberResult]]

    @property
    def made(self) -> list[MemberResult]:
        """All that is made."""
        return [one for part in self.parts.values() for one in part]

    @property
    def worst(self) -> MemberResult:
        """The member that decides."""
        return max(self.made, key=badness)

    @property
    def mass(self) -> float:
        """Mass of all that is made, kg."""
        return sum(mass_of(one) for one in self.made)

    @property
    def share(self) -> float:
        """The largest load over the critical one; NaN to the first order."""
        found = [one.forces.critical.shares for one in self.made if one.forces.critical]
        return max((float(share.max(initial=0.0)) for share in found), default=math.nan)


def compare_made(jobs: Mapping[str, tuple[Job, Mapping[str, str]]]) -> list[MadeVariant]:
    """Check jobs that differ in what makes a truss or a building.

    Parameters
    ----------
    jobs : mapping of str to (Job, mapping of str to str)
        By the words of the change: the job, and of each mark that is made the table it has.
    """
    found = []
    for name, (job, made) in jobs.items():
        table = check(job)
        parts: dict[str, list[MemberResult]] = {}
        for mark, part in made.items():
            parts.setdefault(part, []).append(table[mark])
        found.append(MadeVariant(name, table, parts))
    return found


def made_document(mark: str, found: list[MadeVariant], show: DisplayUnits) -> Document:
    """Return the variants side by side: the worst of every part, the whole, its mass."""
    names = [Column(one.name, wraps=True, widest=26) for one in found]
    grid = Table([Column(mark, wraps=True), *names])
    for part in dict.fromkeys(part for one in found for part in one.parts):
        cells = []
        for one in found:
            if part not in one.parts:
                cells.append(Words("", ""))
                continue
            worst = max(one.parts[part], key=badness)
            words = f"{ratio(worst.utilisation)}  {worst.member.mark}"
            cells.append(Words(words, STYLE[worst.status]))
        grid.add(part.replace("_", " "), *cells)
    grid.rule()
    grid.add("verdict", *(
        Words(f"{VERDICT[one.worst.status]} {bar(one.worst.utilisation)}", STYLE[one.worst.status])
        for one in found
    ))  # fmt: skip
    grid.add("governed by", *(
        one.worst.governing.name if one.worst.governing is not None else "" for one in found
    ))  # fmt: skip
    if not all(math.isnan(one.share) for one in found):
        grid.add("load over critical", *(f"{one.share:.3g}" for one in found))
    grid.add("members", *(str(len(one.made)) for one in found))
    first = show.convert(found[0].mass, "mass")
    masses = [show.convert(one.mass, "mass") for one in found]
    unit = show.labels["mass"]
    grid.add("mass", *(
        f"{mass:,.0f} {unit}" + (f" ({mass - first:+,.0f})" if i else "")
        for i, mass in enumerate(masses)
    ))  # fmt: skip
    return [grid]


def made_records(found: list[MadeVariant]) -> list[dict[str, Any]]:
    """Return the variants as records."""
    return [
        {
            "variant": one.name,
            "status": one.worst.status,
            "utilisation": one.worst.utilisation,
            "worst": one.worst.member.mark,
            "parts": {
                part: max(results, key=badness).utilisation for part, results in one.parts.items()
            },
            "load_over_critical": one.share,
            "members": len(one.made),
            "mass_kg": one.mass,
        }
        for one in found
    ]
