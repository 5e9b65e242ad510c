"""The book as sheets of numbers: for a workbook, CSV, and together with the workings as JSON."""

from __future__ import annotations

import dataclasses
from collections.abc import Mapping
from typing import Any

from welbric.checking.combinations_shown import combination_records
from welbric.checking.frames import frame_records, frame_results
from welbric.checking.supports_shown import support_records
from welbric.checking.table import CheckTable, records
from welbric.documents.records import finite
from welbric.documents.workbook import Sheet
from welbric.inputs.job import Job
from welbric.inputs.listing import Said, listing
from welbric.reports.book import NOTHING, Beside, Depth
from welbric.reports.documents import check_document, explanation_document
from welbric.studies.changes_shown import changes_records
from welbric.studies.take_off import take_off
from welbric.studies.take_off_shown import take_off_records

Rows = list[dict[str, Any]]
RATIO, VERDICT = "utilisation", "verdict"
OF_JOB = frozenset({"members", "bare_units"})


def book_sheets(table: CheckTable, beside: Beside = NOTHING) -> list[Sheet]:
    """Return the sheets of a book: every number with its unit in the head of its column."""
    job = table.job
    checks = [_with_heads(_verdict(one)) for one in records(table)]
    sheets = [
        Sheet("summary", _summary(table)),
        Sheet("members", _members(table)),
        Sheet("checks", checks),
        Sheet("combinations", combination_records(job, [*table])),
        Sheet("reactions", [_with_heads(one) for one in support_records(job, [*table])]),
        Sheet("deflections", _deflections(table)),
        Sheet("take-off", [_with_heads(one) for one in _taken(table)]),
        Sheet("inputs", input_records(job, {one.member.mark for one in table})),
    ]
    if beside.changes is not None:
        sheets.append(Sheet("changes", changes_records(beside.changes)))
    return [dataclasses.replace(one, rows=finite(one.rows)) for one in sheets]


def _verdict(record: Mapping[str, Any]) -> dict[str, Any]:
    """Return a record of a check whose verdict has one name everywhere."""
    return {(VERDICT if key == "status" else key): value for key, value in record.items()}


def _with_heads(record: Mapping[str, Any]) -> dict[str, Any]:
    """Return a record whose units, the same in every row, stand in the heads."""
    units = {key[:-5]: value for key, value in record.items() if key.endswith("_unit")}
    of_kind = {"N": "force", "up": "force", "across": "force", "T": "moment"}
    of_kind |= {"M_major": "moment", "M_minor": "moment"}
    found = {}
    for key, value in record.items():
        if key.endswith("_unit"):
            continue
        unit = units.get(key) or units.get(of_kind.get(key, ""))
        found[f"{key} ({unit})" if unit else key] = value
    return found


def _summary(table: CheckTable) -> Rows:
    show, found = table.job.display, []
    for result in table:
        member, row = result.member, result.governing
        group = member.said.choose.group if member.said.choose is not None else None
        found.append(
            {
                "mark": member.mark,
                "role": member.said.role,
                "group": group or "",
                "section": member.section_names,
                "steel": str(member.steel),
                RATIO: result.utilisation,
                VERDICT: result.status,
                "governed by": row.name if row else "",
                "clause": row.clause if row else "",
                "combination": row.combination if row else "",
                f"at ({show.labels['length']})": show.convert(row.place, "length") if row else None,
            }
        )
    return found


def _members(table: CheckTable) -> Rows:
    show, found = table.job.display, []
    for result in table:
        member, case = result.member, result.case
        mass = sum(section.mass * (end - start) for start, end, section in member.stretches)
        record: dict[str, Any] = {
            "mark": member.mark,
            "standard": table.job.code_of(member.said).id,
            "section": member.section_names,
            "steel": str(member.steel),
            f"length ({show.labels['length']})": show.convert(member.length, "length"),
            f"mass ({show.labels['mass']})": show.convert(mass, "mass"),
            f"Fy ({show.labels['stress']})": show.convert(float(case.Fy), "stress"),
            f"Fu ({show.labels['stress']})": show.convert(float(case.Fu), "stress"),
            "ends": ", ".join(member.ends_about("major")),
            "through": ", ".join(member.said.through or ()),
        }
        for axis in ("major", "minor"):
            length, K = (float(getattr(case.buckling, f"{of}_{axis}")) for of in ("length", "K"))
            record[f"K {axis}"] = K
            head = f"length for buckling {axis} ({show.labels['length']})"
            record[head] = show.convert(length, "length")
        found.append(record | {"notes": "; ".join(result.notes), "note": member.said.note})
    return found


def _deflections(table: CheckTable) -> Rows:
    show, found = table.job.display, []
    unit, length = show.labels["dimension"], show.labels["length"]
    for result in table:
        for row in result.rows:
            if row.kind == "dimension" and row.demand is not None and row.capacity is not None:
                found.append(
                    {
                        "mark": result.member.mark,
                        "of": row.name,
                        f"deflection ({unit})": show.convert(row.demand, "dimension"),
                        f"limit ({unit})": show.convert(row.capacity, "dimension"),
                        RATIO: row.utilisation,
                        VERDICT: row.status,
                        "combination": row.combination,
                        f"at ({length})": show.convert(row.place, "length"),
                        "remark": row.remark,
                    }
                )
    return found


def _taken(table: CheckTable) -> Rows:
    parts = take_off(table.job, [one.member.mark for one in table])
    return take_off_records(table.job, parts)


def input_records(job: Job, marks: set[str]) -> Rows:
    """Return what is said of a job and of members, leaf by leaf, in display units."""
    show = job.display
    said = [("", Said("standard", job.standard))]
    said += [("", one) for one in listing(job, show, OF_JOB | {"standard"})]
    for member in job.members:
        if member.mark in marks:
            said += [(member.mark, one) for one in listing(member, show, frozenset({"mark"}))]
    return [
        {"mark": mark, "field": one.field, "value": one.value, "unit": one.unit}
        for mark, one in said
    ]


def book_data(
    table: CheckTable, depth: Depth = "checks", beside: Beside = NOTHING
) -> dict[str, Any]:
    """Return a book as plain data, for JSON; `welbric schema --of results` describes it."""
    job = table.job
    data = check_document(table)
    data["cover"] = dict(job.book.lines())
    data["combinations"] = combination_records(job, [*table])
    data["inputs"] = input_records(job, {one.member.mark for one in table})
    if depth == "full":
        marks = [one.member.mark for one in table]
        data["workings"] = [explanation_document(table.explain(mark)) for mark in marks]
    if any(member.frame is not None for member in job.members):
        data["frame"] = frame_records(frame_results(job))
    if beside.changes is not None:
        data["changes"] = changes_records(beside.changes)
    cleaned: dict[str, Any] = finite(data)
    return cleaned
