"""Curves and variants of a member for the terminal."""

from __future__ import annotations

import math
from typing import Any

from rich import box
from rich.console import Group, RenderableType
from rich.table import Table
from rich.text import Text

from welbric.reports.tables import STYLE, VERDICT, bar, ratio
from welbric.results import status_of
from welbric.strength_curves import KINDS, OVER, Curves
from welbric.units import DisplayUnits
from welbric.variants import Comparison

ROWS = 13  # lengths of a curve that are printed


def curve_table(found: Curves, show: DisplayUnits) -> RenderableType:
    """Return the strengths at a dozen lengths, and what is asked of them."""
    grid = Table(title=found.title, title_justify="left", box=box.SIMPLE_HEAD, pad_edge=False)
    rows = found.records(show, ROWS)
    for name in rows[0]:
        grid.add_column(Text(name), justify="right")
    for row in rows:
        grid.add_row(*("–" if math.isnan(v) else f"{v:,.4g}" for v in row.values()))
    kind = KINDS[found.of]
    words = [
        f"{OVER[found.of]} {show.show(length, 'length', 3)}: required "
        f"{show.show(value, kind)} ({which})"
        for length, value, which in found.wanted
    ]
    return Group(grid, *(Text(line) for line in words))


def comparison_table(found: Comparison) -> RenderableType:
    """Return the utilisation of every check of every variant."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False)
    grid.add_column(found.mark, overflow="fold")
    for variant in found.variants:
        grid.add_column(Text(variant.name), overflow="fold", max_width=24)
    for check in found.checks():
        cells = []
        for variant in found.variants:
            value = found.utilisation(check, variant)
            style = "" if value is None else STYLE[status_of(value)]
            cells.append(Text("" if value is None else ratio(value), style))
        grid.add_row(check, *cells)
    grid.add_section()
    verdicts = [
        Text(f"{VERDICT[v.result.status]} {bar(v.result.utilisation)}", STYLE[v.result.status])
        for v in found.variants
    ]
    grid.add_row("verdict", *verdicts)
    first = found.variants[0].mass
    masses = [
        f"{v.mass:,.0f} kg" + (f" ({v.mass - first:+,.0f})" if i else "")
        for i, v in enumerate(found.variants)
    ]
    grid.add_row("mass", *masses)
    return grid


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
        for v in found.variants
    ]
