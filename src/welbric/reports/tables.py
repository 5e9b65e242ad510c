"""Sections, catalogues and scopes as blocks."""

from __future__ import annotations

from collections.abc import Sequence

from welbric.documents.blocks import Block, Column, Document, Style, Table, Words, paragraph
from welbric.sections.plates import plates
from welbric.sections.reconcile import Family
from welbric.sections.table import PROPERTIES, Section
from welbric.standards.scope import Clause
from welbric.units import DisplayUnits, digits

# Heading -> the properties that may stand under it, the first that a shape has.
SHOWN = {
    "d": ("d",),
    "b": ("bf", "b", "bf_top"),
    "tw": ("tw", "t"),
    "tf": ("tf", "tf_top"),
    "mass": ("mass",),
    "A": ("A",),
    "I major": ("I_major",),
    "Wpl major": ("Wpl_major",),
    "I minor": ("I_minor",),
    "Wpl minor": ("Wpl_minor",),
}


def section_list(sections: Sequence[Section], show: DisplayUnits) -> Document:
    """Return a table of sections."""
    columns = [Column("section")]
    for heading, names in SHOWN.items():
        unit = show.labels.get(PROPERTIES[names[0]][0], "")
        columns.append(Column(f"{heading}\n{unit}", right=True))
    grid = Table(columns)
    for section in sections:
        cells = []
        for names in SHOWN.values():
            known = [name for name in names if name in section.properties]
            cells.append(
                digits(show.convert(getattr(section, known[0]), PROPERTIES[known[0]][0]))
                if known
                else ""
            )
        grid.add(section.name, *cells)
    return [grid]


def section_sheet(sections: Sequence[Section], show: DisplayUnits) -> Document:
    """Return every property of one section, or of several side by side."""
    named = [Column(section.name, right=True) for section in sections]
    grid = Table([Column("", wraps=True), Column("", wraps=True), *named], plain=True)
    listed = [section.listed() for section in sections]
    for name, (kind, meaning) in PROPERTIES.items():
        if any(name in known for known in listed):
            values = (
                show.show(section.properties[name], kind) if name in section.properties else ""
                for section in sections
            )
            grid.add(meaning, name.replace("_", " "), *values)
    return [grid, *(_plates(sections[0], show) if len(sections) == 1 else [])]


def _plates(section: Section, show: DisplayUnits) -> list[Block]:
    """Return the plate elements of a section, those that are alike in one line."""
    alike: dict[tuple[str, ...], list[str]] = {}
    for plate in plates(section):
        sizes = (show.show(plate.width, "dimension"), show.show(plate.thickness, "dimension"))
        edges = "both edges held" if plate.internal else "one edge free"
        alike.setdefault((*sizes, digits(plate.slenderness), edges), []).append(plate.name)
    if not alike:
        return []
    numbers = [Column(name, right=True) for name in ("flat width", "thickness", "ratio")]
    grid = Table([Column("plate", wraps=True), *numbers, Column("", wraps=True)])
    for (*cells, edges), names in alike.items():
        words = dict.fromkeys(name.partition(",")[0] for name in names)
        grid.add(", ".join(words), *cells, edges)
    return [paragraph(), grid]


def reconciliation(families: Sequence[Family]) -> Document:
    """Return how the catalogues reconcile."""
    blocks: list[Block] = []
    for family in families:
        names = dict.fromkeys(d.section for d in family.left_out)
        head = f"{family.file} ({family.standard}): {family.shipped} shipped"
        blocks.append(paragraph(head + (f", {len(names)} left out" if names else ""), "strong"))
        numbers = [Column(name, right=True) for name in ("computed / published", "allowed", "in")]
        grid = Table([Column("largest deviation"), *numbers])
        for quantity, d in family.largest.items():
            allowed = f"{100 * d.allowed / d.published:.2f} %"
            grid.add(quantity, f"{100 * d.deviation:+.2f} %", allowed, d.section)
        blocks.append(grid)
        for d in family.left_out:
            words = f"  left out: {d.section}, {d.quantity} {d.published:g} published, "
            blocks.append(paragraph(f"{words}{d.computed:.4g} computed, {d.allowed:.2g} allowed"))
        blocks.append(paragraph())
    return blocks


def scope_table(standard: str, clauses: Sequence[Clause]) -> Document:
    """Return what of a standard is covered, clause by clause."""
    grid = Table(
        [
            Column("clause", wraps=True, widest=10),
            Column("", wraps=True, widest=24),
            Column("status", wraps=True, widest=12),
            Column("limit", wraps=True),
            Column("equations", right=True, wraps=True),
        ]
    )
    styles: dict[str, Style] = {"outside": "unsure", "with a limit": "note"}
    for clause in clauses:
        count = str(len(clause.equations)) if clause.equations else ""
        status = Words(clause.status, styles.get(clause.status, ""))
        grid.add(clause.number, clause.title, status, clause.limit.replace("`", ""), count)
    return [paragraph(standard, "strong"), grid]
