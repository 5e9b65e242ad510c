"""A take-off as a table, and as records."""

from __future__ import annotations

from typing import Any

from welbric.documents.blocks import Column, Document, Table, Words, paragraph
from welbric.inputs.job import Job
from welbric.studies.take_off import TakeOff, total
from welbric.units import digits


def take_off_document(job: Job, parts: list[TakeOff]) -> Document:
    """Return a line for each section and steel, and the sum."""
    show = job.display
    heads = [("length", "length"), ("mass", "mass"), ("surface", "surface")]
    columns = [Column("section", wraps=True), Column("steel", wraps=True)]
    columns += [Column("pieces", right=True)]
    columns += [Column(f"{name}\n{show.labels[kind]}", right=True) for name, kind in heads]
    rates = [name for name in ("cost", "carbon") if getattr(parts[0], name) is not None]
    currency = job.prices.currency if job.prices else ""
    units = {"cost": currency, "carbon": "kg CO2e"}
    columns += [Column(f"{name}\n{units[name]}".strip(), right=True) for name in rates]
    grid = Table(columns)
    for part in [*parts, total(parts)]:
        if part.section == "in all":
            grid.rule()
        name = Words(part.section, "strong" if part.section == "in all" else "")
        numbers = (digits(show.convert(getattr(part, one), kind)) for one, kind in heads)
        more = (f"{getattr(part, one):,.0f}" for one in rates)
        grid.add(name, part.steel, str(part.pieces), *numbers, *more)
    words = "Members as described: no connections, stiffeners, lacing, battens or waste."
    return [grid, paragraph(), paragraph(words, "dim")]


def take_off_records(job: Job, parts: list[TakeOff]) -> list[dict[str, Any]]:
    """Return one plain record for each section and steel, in display units."""
    show = job.display
    found = []
    for part in parts:
        record: dict[str, Any] = {
            "section": part.section,
            "steel": part.steel,
            "pieces": part.pieces,
        }
        for name in ("length", "mass", "surface"):
            record[name] = show.convert(getattr(part, name), name)
            record[f"{name}_unit"] = show.labels[name]
        record |= {"cost": part.cost, "currency": job.prices.currency if job.prices else ""}
        found.append(record | {"carbon_kg": part.carbon})
    return found
