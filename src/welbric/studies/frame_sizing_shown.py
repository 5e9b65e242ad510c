"""Proposals for a frame as blocks, and as records."""

from __future__ import annotations

import math
from typing import Any

from welbric.checking.shown import STYLE, ratio
from welbric.checking.verdicts import sortable
from welbric.documents.blocks import Block, Column, Document, Table, Words, paragraph
from welbric.studies.frame_proposal import FrameProposal, Group
from welbric.units import digits

LAST = 8  # rounds that are shown
LITTLE = 5e-4  # of what is looked for: no less


def frame_sizing_document(found: FrameProposal) -> Document:
    """Return the proposals: groups, rounds, drift, and what is known of how good they are."""
    show = found.job.display
    unit = show.labels["mass"]
    count = len(found.groups)
    head = f"{found.job.name}: sections of {count} group{'s' if count > 1 else ''}"
    blocks: list[Block] = [paragraph(head, "strong")]  # fmt: skip
    grid = Table([
        Column("group", wraps=True, widest=20), Column("members", right=True),
        Column("from", wraps=True), Column("to", wraps=True), Column("before", right=True),
        Column("after", right=True), Column("governed by", wraps=True, widest=26, spare=1),
        Column(f"mass, {unit}", right=True),
    ])  # fmt: skip
    total = [0.0, 0.0]
    for group in found.groups:
        old, new = (job.member(group.marks[0]).section for job in (found.job, found.proposed))
        masses = [show.convert(group.total(one), "mass") for one in (old, new)]
        total = [a + b for a, b in zip(total, masses, strict=True)]
        results = [found.after[mark] for mark in group.marks]
        worst = max(results, key=lambda one: sortable(one.utilisation))
        row = worst.governing
        change = masses[1] - masses[0]
        grid.add(
            group.name, str(len(group.members)), old.name,
            new.name if new.name != old.name else "stays", ratio(_worst(found, group, False)),
            Words(ratio(_worst(found, group, True)), STYLE[worst.status]),
            f"{worst.member.mark}, {row.name}" if row is not None else "",
            f"{change:+,.0f}" if abs(change) > 1e-9 else "0",
        )  # fmt: skip
    grid.rule()
    grid.add(Words("in all", "strong"), "", digits(total[0]), digits(total[1]), "", "", "",
             f"{total[1] - total[0]:+,.0f}")  # fmt: skip
    blocks += [grid, paragraph()]
    blocks += [_rounds(found), paragraph()]
    if found.buys:
        blocks += [_drift(found), paragraph()]
    blocks += [paragraph(words, "unsure") for words in found.said]
    good = found.complete and not found.others
    blocks.append(paragraph(_verdict(found), "strong" if good else "bad"))
    return blocks


def _worst(found: FrameProposal, group: Group, after: bool) -> float:
    table = found.after if after else found.before
    values = [table[mark].utilisation for mark in group.marks]
    return math.nan if any(map(math.isnan, values)) else max(values)


def _rounds(found: FrameProposal) -> Table:
    show = found.job.display
    grid = Table([Column("round", right=True), Column("what"),
                  Column(f"mass, {show.labels['mass']}", right=True),
                  Column("worst", right=True), Column("passes")],
                 title="Analyses of the frame")  # fmt: skip
    first = max(len(found.rounds) - LAST, 0)
    for number, one in enumerate(found.rounds, 1):
        if number > first:
            grid.add(str(number), one.why, digits(show.convert(one.mass, "mass")),
                     ratio(one.utilisation), "yes" if one.passes else "")  # fmt: skip
    return grid


def _drift(found: FrameProposal) -> Table:
    show = found.job.display
    grid = Table([Column("group"), Column("of the movement", right=True),
                  Column(f"mass, {show.labels['mass']}", right=True),
                  Column("of it by a tonne", right=True)],
                 title="Who lets the frame move, where it is nearest its limit")  # fmt: skip
    for one in sorted(found.buys, key=lambda one: -one.share):
        a_tonne = one.share / (one.mass / 1000.0) if one.mass else 0.0
        grid.add(one.group, f"{one.share:.0%}", digits(show.convert(one.mass, "mass")),
                 f"{a_tonne:.0%}")  # fmt: skip
    return grid


def _verdict(found: FrameProposal) -> str:
    count = len(found.rounds)
    if not found.complete:
        return f"Nothing that was found in {count} analyses passes everywhere."
    if found.proved:
        how = "proved: every choice with less was analysed, and fails"
    else:
        how = "not proved to be the least: choices with less of several groups were not all tried"
        if found.less is not None:
            some = f"{found.less:.1%} less" if found.less > LITTLE else "nothing less"
            how += (
                f"; under the forces that it ends with {some} would do (an estimate: forces follow "
                "the stiffness)"
            )
    where = "Passes everywhere, checked whole"
    if found.others:
        where = f"What was sized passes; {', '.join(found.others)} did not before, and does not now"
    return f"{where}; {count} analyses; {how}."


def frame_sizing_records(found: FrameProposal) -> list[dict[str, Any]]:
    """Return one plain record for each member that was sized."""
    show = found.job.display
    records = []
    for group in found.groups:
        for mark in group.marks:
            a, b = found.before[mark], found.after[mark]
            old, new = a.member.section, b.member.section
            row = b.governing
            records.append({
                "group": group.name, "mark": mark, "from": old.name, "to": new.name,
                "utilisation_before": _number(a.utilisation),
                "utilisation_after": _number(b.utilisation),
                "verdict": b.status, "governed_by": row.name if row else "",
                "mass_before": show.convert(old.mass * a.member.length, "mass"),
                "mass_after": show.convert(new.mass * b.member.length, "mass"),
                "mass_unit": show.labels["mass"], "complete": found.complete,
                "proved": found.proved, "less_under_its_forces": found.less,
            })  # fmt: skip
    return records


def _number(value: float) -> float | None:
    return value if math.isfinite(value) else None
