"""What goes to the supports, and the forces at the ends: as a table, and as records."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from welbric.checking.results import MemberResult
from welbric.documents.blocks import Block, Column, Document, Table, Words, paragraph
from welbric.effects.support_forces import COMPONENTS, extremes
from welbric.inputs.job import Job
from welbric.loads.combinations import name_of
from welbric.units import DisplayUnits, digits

KIND = {name: "force" if name in COMPONENTS[:3] else "moment" for name in COMPONENTS}
WORDS = {
    "up": "up", "across": "across", "N": "tension", "M_major": "moment", "M_minor": "minor moment",
    "T": "torsion",
}  # fmt: skip


def _case(label: str) -> str:
    """Return a case in words, with the alternative of it: its symbol stands first."""
    symbol, comma, which = label.partition(", ")
    return name_of(symbol) + comma + which


def supports_table(job: Job, results: Sequence[MemberResult], marked: bool = True) -> Table:
    """Return each load case, and the combinations with the most or the least; ``marked`` or not."""
    show = job.display
    of_each = [(result, extremes(result.support_forces())) for result in results]
    every = [row for _, rows in of_each for row in rows]
    shown = [name for name in COMPONENTS if any(getattr(row, name) for row in every)]
    grid = Table([
        *([Column("mark", wraps=True, widest=12)] if marked else []),
        Column("at"),
        Column("case or combination", wraps=True, widest=26),
        *(Column(f"{WORDS[name]}\n{show.labels[KIND[name]]}", right=True) for name in shown),
    ])  # fmt: skip
    for result, rows in of_each:
        mark, before = result.member.mark, ""
        for row in rows:
            of = Words(_case(row.of) if row.is_case else row.of, "dim" if row.is_case else "")
            cells = (_number(getattr(row, name), name, show) for name in shown)
            at = "" if row.support == before else row.support
            grid.add(*([mark] if marked else []), at, of, *cells)
            mark, before = "", row.support
        if rows:
            grid.rule()
    return grid


def supports_document(job: Job, results: Sequence[MemberResult]) -> Document:
    """Return what goes to the supports, and how to read it."""
    blocks: list[Block] = [supports_table(job, results), paragraph()]
    given = [result.member.mark for result in results if result.cases is None]
    if given:
        words = f"{', '.join(given)}: forces combined elsewhere say nothing of the supports."
        blocks.append(paragraph(words, "unsure"))
    head = (
        "Load cases are unfactored; of the strength combinations those stand here with the most or "
        "the least of something, --csv and --json have all. Up and across is what a support does "
        "to the member; tension, sagging moments and torsion are in the member at its end."
    )
    return [*blocks, paragraph(head, "dim")]


def _number(value: float, name: str, show: DisplayUnits) -> str:
    return digits(show.convert(value, KIND[name])) if value else "–"


def support_records(job: Job, results: Sequence[MemberResult]) -> list[dict[str, Any]]:
    """Return one plain record for each support under each case and combination."""
    show = job.display
    found = []
    for result in results:
        for row in result.support_forces():
            record: dict[str, Any] = {
                "mark": result.member.mark,
                "support": row.support,
                "place": show.convert(row.place, "length"),
                "place_unit": show.labels["length"],
                "case": row.of if row.is_case else "",
                "combination": "" if row.is_case else row.of,
            }
            for name in COMPONENTS:
                record[name] = show.convert(getattr(row, name), KIND[name])
            record |= {"force_unit": show.labels["force"], "moment_unit": show.labels["moment"]}
            found.append(record)
    return found
