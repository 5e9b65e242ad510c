"""The combinations of a job with the factors of each load case: as a table, and as records."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from welbric.checking.deflections import service_combinations
from welbric.checking.results import MemberResult
from welbric.documents.blocks import Column, Document, Table, Words, paragraph
from welbric.inputs.job import Job
from welbric.loads.combinations import CASES, Combination, name_of

STRENGTH = "strength"


def combinations_of(
    job: Job, results: Sequence[MemberResult]
) -> list[tuple[str, Combination, list[str]]]:
    """Return each combination with what it is for, and the marks that it acts on.

    Those of strength first, then of each deflection that a member limits. Forces combined
    elsewhere have none.
    """
    found: dict[tuple[str, str], tuple[Combination, list[str]]] = {}
    for result in results:
        member, cases = result.member, result.cases
        if cases is None:
            continue
        limits = member.said.deflection
        kinds = [kind for kind in type(limits).model_fields if getattr(limits, kind) is not None]
        of_each = {STRENGTH: result.forces.combinations} | {
            f"deflection, {kind.replace('_', '-')}": service_combinations(job, member, cases, kind)
            for kind in kinds
        }
        for use, combinations in of_each.items():
            for one in combinations:
                found.setdefault((use, one.name), (one, []))[1].append(member.mark)
    uses = list(dict.fromkeys(use for use, _ in found))
    return [(use, *found[key]) for use in uses for key in found if key[0] == use]


def _factor(combination: Combination, case: str) -> float:
    """Return the factor of a case, negative where it is reversed."""
    factor = combination.factors.get(case, 0.0)
    return -factor if case in combination.reversed else factor


def _cases(found: Sequence[tuple[str, Combination, list[str]]]) -> list[str]:
    """Return the symbols of the load cases that are in any of them."""
    acting = {case for _, one, _ in found for case in one.factors}
    return [case for case in CASES.values() if case in acting]


def combinations_document(job: Job, results: Sequence[MemberResult]) -> Document:
    """Return a line for each combination, with the factor of every case that has loads."""
    found = combinations_of(job, results)
    cases = _cases(found)
    grid = Table([
        Column("combination", wraps=True, widest=44),
        *(Column(name_of(case), right=True) for case in cases),
        Column("clause", spare=2),
        Column("members", right=True, spare=1),
    ])  # fmt: skip
    before = ""
    for use, one, marks in found:
        if use != before:
            if before:
                grid.rule()
            head = "of strength" if use == STRENGTH else f"of {use}"
            grid.add(Words(head, "strong"), *[""] * (len(cases) + 2))
            before = use
        factors = (f"{_factor(one, case):.4g}".replace("-", "−") for case in cases)
        shown = (text if text != "0" else "–" for text in factors)
        grid.add(f"  {one.name}", *shown, one.clause, str(len(marks)))
    words = (
        f"{job.loading}. Where live loads or snow act on some spans only, the factor is that of "
        "the spans named."
    )
    return [grid, paragraph(), paragraph(words, "dim")]


def combination_records(job: Job, results: Sequence[MemberResult]) -> list[dict[str, Any]]:
    """Return one plain record for each combination."""
    found = combinations_of(job, results)
    cases = _cases(found)
    return [
        {"for": use, "combination": one.name, "clause": one.clause}
        | {case: _factor(one, case) for case in cases}
        | {"members": ", ".join(marks)}
        for use, one, marks in found
    ]
