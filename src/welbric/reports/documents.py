"""Results as plain records: JSON and CSV. No terminal, no figures."""

from __future__ import annotations

import dataclasses
import math
from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING, Any

from welbric.checking.fingerprints import fingerprint
from welbric.checking.results import SegmentRow
from welbric.checking.supports_shown import support_records
from welbric.checking.table import CheckTable, Explanation, records
from welbric.documents.records import finite
from welbric.sections.table import Section
from welbric.studies.reserves import QUESTIONS
from welbric.studies.take_off import take_off
from welbric.studies.take_off_shown import take_off_records
from welbric.units import DisplayUnits
from welbric.working import Given, Heading, Note, Step
from welbric.working.typeset import TEXT, write_condition, write_step

if TYPE_CHECKING:
    from welbric.effects.critical_load import CriticalLoad
    from welbric.sections.reconcile import Difference, Family
    from welbric.studies.reserves import Reserve


def check_document(table: CheckTable) -> dict[str, Any]:
    """Return a check table for JSON; a utilisation that is not a finite number is null."""
    rows: dict[str, list[dict[str, Any]]] = {}
    for record in records(table):
        rows.setdefault(record["mark"], []).append(record)
    members = []
    for result in table:
        row = result.governing
        own = rows.get(result.member.mark, [])
        common = ("mark", "role", "section", "steel")
        members.append(
            {
                "mark": result.member.mark,
                "role": result.member.said.role,
                "fingerprint": fingerprint(table.job, result.member.said),
                "standard": table.job.code_of(result.member.said).id,
                "section": result.member.section_names,
                "steel": str(result.member.steel),
                "verdict": result.status,
                "utilisation": result.utilisation,
                "governing": row.name if row else None,
                "checks": [{k: v for k, v in r.items() if k not in common} for r in own],
                "reactions": {
                    end: [table.job.display.convert(value, "force") for value in pair]
                    for end, pair in result.reactions().items()
                },
                "support_forces": [
                    {k: v for k, v in record.items() if k != "mark"}
                    for record in support_records(table.job, [result])
                ],
                "notes": result.notes,
                "warnings": result.warnings,
            }
        )
    job = table.job
    parts = take_off(job, [result.member.mark for result in table])
    document: dict[str, Any] = finite(
        {
            "job": job.name,
            "standard": job.standard,
            "method": job.method,
            "loading": str(job.loading),
            "ok": table.ok,
            "summary": table.summary(),
            "members": members,
            "take_off": take_off_records(job, parts),
        }
    )
    if table.under:
        document["under"] = table.under
    return document


def explanation_document(explanation: Explanation) -> dict[str, Any]:
    """Return a working for JSON: each step with its clause, formula, numbers and result."""
    show = explanation.job.display
    parts = []
    for part in explanation.parts:
        steps: list[dict[str, Any]] = []
        for entry in part.entries:
            match entry:
                case Heading():
                    steps.append({"heading": entry.title, "clause": entry.clause})
                case Note():
                    steps.append({"note": entry.text})
                case Given():
                    kind = entry.glossary.symbols[entry.symbol].kind
                    value = show.show(entry.value, kind)
                    steps.append({"symbol": entry.symbol, "value": value, "source": entry.source})
                case Step() if entry.formula.symbol is None:
                    text = write_condition(entry, TEXT, show)
                    steps.append({"since": text, "clause": entry.formula.clause})
                case Step():
                    line = write_step(entry, TEXT, show)
                    steps.append(
                        {
                            "symbol": entry.formula.symbol,
                            "clause": line.clause,
                            "title": line.title,
                            "formula": line.equals[0],
                            "with_numbers": line.equals[-2] if len(line.equals) > 2 else None,
                            "result": line.equals[-1],
                        }
                    )
        row = part.row
        parts.append(
            {
                "id": row.id,
                "check": row.name,
                "clause": row.clause,
                "combination": row.combination,
                "utilisation": row.utilisation,
                "verdict": row.status,
                "steps": steps,
            }
        )
    member = explanation.result.member
    document: dict[str, Any] = finite(
        {"mark": member.mark, "section": member.section_names, "checks": parts}
    )
    return document


def section_records(sections: Iterable[Section], show: DisplayUnits) -> list[dict[str, Any]]:
    """Return one record for each section, in display units named in the keys."""
    found = []
    for section in sections:
        record: dict[str, Any] = {"section": section.name, "shape": section.shape}
        for name, (kind, _) in section.listed().items():
            unit = show.labels.get(kind)
            heading = f"{name} ({unit})" if unit else name
            record[heading] = show.convert(section.properties[name], kind)
        found.append(record)
    return found


def segment_records(rows: Sequence[SegmentRow], show: DisplayUnits) -> list[dict[str, Any]]:
    """Return one record for each segment, in display units; what is no number is null."""
    found: list[dict[str, Any]] = finite(
        [
            {
                "flange": row.segment.flange,
                "from": show.convert(row.segment.start, "length"),
                "to": show.convert(row.segment.end, "length"),
                "unbraced_length": show.convert(row.segment.unbraced, "length"),
                "length_unit": show.labels["length"],
                "held_at_start": row.segment.held_start,
                "held_at_end": row.segment.held_end,
                "moment": show.convert(row.moment, "moment"),
                "moment_unit": show.labels["moment"],
                "moment_shape": row.moment_shape,
                "utilisation": row.utilisation,
                "verdict": row.status,
                "combination": row.combination,
            }
            for row in rows
        ]
    )
    return found


NEEDS = {  # fields of what restraints need, and the kind of each
    **dict.fromkeys(("place", "start", "end", "unbraced"), "length"),
    **dict.fromkeys(("force", "panel_shear", "compression", "sheeting"), "force"),
    "along": "line_load",
    "moves": "dimension",
    **dict.fromkeys(("stiffness", "panel_stiffness"), "spring"),
    "moment": "moment",
}
OF_TWIST = {"strength": "moment", "stiffness": "rotation_spring"}
OF_TWIST_ALONG = {"strength": "moment_along", "stiffness": "rotation_spring_along"}


def segments_document(
    rows: Sequence[SegmentRow],
    needs: Mapping[str, Sequence[Any]],
    critical: CriticalLoad | None,
    show: DisplayUnits,
) -> dict[str, Any]:
    """Return the segments, what restraints need and the critical load, for JSON.

    ``needs`` has the restraints of flanges by ``"restraints"``, the systems that they belong to by
    ``"restraint_systems"``, those against twisting by ``"twist_restraints"`` and
    ``"continuous_twist_restraints"``.
    """
    own = {"twist_restraints": OF_TWIST, "continuous_twist_restraints": OF_TWIST_ALONG}
    document: dict[str, Any] = {"segments": segment_records(rows, show)}
    for words, found in needs.items():
        kinds = NEEDS | own.get(words, {})
        document[words] = [
            {
                key: show.convert(value, kinds[key]) if key in kinds else value
                for key, value in dataclasses.asdict(need).items()
            }
            for need in found
        ]
        units = {key: show.labels[kinds[key]] for need in document[words][:1] for key in need
                 if key in kinds}  # fmt: skip
        document[f"{words}_units"] = units
    if critical is not None:
        document["lateral_buckling"] = {
            "combination": critical.combination,
            "factor": critical.factor,
            "moment": show.convert(critical.moment, "moment"),
            "moment_unit": show.labels["moment"],
            "moment_shape": [
                part.moment_shape if critical.tells(part) else None for part in critical.segments
            ],
        }
    done: dict[str, Any] = finite(document)
    return done


def reconciliation_document(families: Sequence[Family]) -> list[dict[str, Any]]:
    """Return how the catalogues reconcile, for JSON."""

    def one(d: Difference) -> dict[str, Any]:
        return {
            "section": d.section,
            "property": d.quantity,
            "published": d.published,
            "computed": d.computed,
            "allowed_difference": d.allowed,
        }

    return [
        {
            "catalogue": family.file,
            "standard": family.standard,
            "shipped": family.shipped,
            "left_out": [one(d) for d in family.left_out],
            "largest_deviations": [one(d) for d in family.largest.values()],
        }
        for family in families
    ]


def reserve_document(mark: str, found: Reserve, show: DisplayUnits) -> dict[str, Any]:
    """Return how much is left for JSON; a value that is not finite is null."""
    kind = QUESTIONS[found.question]
    row = found.above.governing if found.above else None
    return {
        "mark": mark,
        "question": found.question,
        "value": show.convert(found.value, kind) if math.isfinite(found.value) else None,
        "unit": show.labels.get(kind, ""),
        "decides": row.name if row else None,
        "clause": row.clause if row else None,
        "passes_again": found.passes_again,
        "failing": [[show.convert(x, kind) for x in pair] for pair in found.failing],
        "searched": [show.convert(x, kind) for x in found.searched],
        "besides": found.said,
    }
