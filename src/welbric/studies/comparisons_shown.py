"""Curves and variants of a member as blocks."""

from __future__ import annotations

import math
from typing import Any

from welbric.checking.shown import STYLE, VERDICT, bar, ratio
from welbric.checking.verdicts import status_of
from welbric.documents.blocks import Cell, Column, Document, Style, Table, Words, paragraph
from welbric.studies.curves import KINDS, OVER, Curves
from welbric.studies.variants import Comparison, Variant
from welbric.units import DisplayUnits

ROWS = 13  # lengths of a curve that are printed


def curves_document(found: Curves, show: DisplayUnits) -> Document:
    """Return the strengths at a dozen lengths, and what is asked of them."""
    rows = found.records(show, ROWS)
    grid = Table([Column(name, right=True, wraps=True) for name in rows[0]], title=found.title)
    for row in rows:
        grid.add(*("–" if math.isnan(v) else f"{v:,.4g}" for v in row.values()))
    kind = KINDS[found.of]
    words = [
        f"{curve.name}: other equations from "
        + ", ".join(f"{show.show(x, 'length', 3)} ({name})" for x, name in curve.changes)
        for curve in found.curves
        if curve.changes
    ]
    words += [f"{curve.name}: outside – {curve.reason}" for curve in found.curves if curve.reason]
    words += [
        f"{(found.over or OVER[found.of])} {show.show(length, 'length', 3)}: required "
        f"{show.show(value, kind)} ({which})"
        for length, value, which in found.wanted
    ]
    return [grid, *(paragraph(line) for line in words)]


def comparison_document(found: Comparison, show: DisplayUnits) -> Document:
    """Return the utilisation of every check of every variant, and what each one goes by."""
    names = [Column(variant.name, wraps=True, widest=24) for variant in found.variants]
    grid = Table([Column(found.mark, wraps=True), *names])
    for check, name in found.checks().items():
        cells: list[Cell] = []
        for variant in found.variants:
            value = found.utilisation(check, variant)
            style: Style = "" if value is None else STYLE[status_of(value)]
            cells.append(Words("" if value is None else ratio(value), style))
        grid.add(name, *cells)
    grid.rule()
    verdicts = [
        Words(f"{VERDICT[v.result.status]} {bar(v.result.utilisation)}", STYLE[v.result.status])
        for v in found.variants
    ]
    grid.add("verdict", *verdicts)
    grid.add("mass", *_masses([v.mass for v in found.variants], show))
    worst = [v.worst for v in found.variants]
    if all(one is not None for one in worst):
        grid.rule()
        cells = [Words(f"{one.member.mark} {ratio(one.utilisation)}", STYLE[one.status])
                 for one in worst if one is not None]  # fmt: skip
        grid.add("worst of the frame", *cells)
        grid.add("mass of the frame", *_masses([v.frame_mass for v in found.variants], show))
    return [grid]


def _masses(values: list[float], show: DisplayUnits) -> list[str]:
    """Return masses in words, with their changes from the first."""
    masses = [show.convert(value, "mass") for value in values]
    changes = ["", *(f" ({mass - masses[0]:+,.0f})" for mass in masses[1:])]
    return [f"{m:,.0f} {show.labels['mass']}{c}" for m, c in zip(masses, changes, strict=True)]


def _of_frame(variant: Variant) -> dict[str, Any]:
    worst = variant.worst
    if worst is None:
        return {}
    return {"worst_of_frame": worst.member.mark, "utilisation_of_frame": worst.utilisation,
            "status_of_frame": worst.status, "mass_of_frame_kg": variant.frame_mass}  # fmt: skip


def comparison_records(found: Comparison) -> list[dict[str, Any]]:
    """Return the variants as records."""
    return [
        {
            "variant": v.name,
            "status": v.result.status,
            "utilisation": v.result.utilisation,
            "mass_kg": v.mass,
            "checks": {row.name: row.utilisation for row in v.result.rows},
        }
        | _of_frame(v)
        for v in found.variants
    ]
