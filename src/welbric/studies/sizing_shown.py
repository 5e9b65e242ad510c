"""Proposals of sizing as blocks: candidates, what is chosen, what else there is."""

from __future__ import annotations

import math
from collections.abc import Sequence

from welbric.checking.shown import STYLE, VERDICT, ratio
from welbric.documents.blocks import Block, Column, Document, Table, Words, paragraph
from welbric.inputs.job import Job
from welbric.inputs.rates import read_objective
from welbric.studies.candidates import Few, Sizing
from welbric.studies.objectives import measure
from welbric.units import DisplayUnits, digits

SHOWN_BEFORE = 6  # candidates before the choice that are listed


def sizing_document(
    job: Job, sizings: Sequence[Sizing], few: Few | None, every: bool = False, sort: str = ""
) -> Document:
    """Return the proposals: the candidates of each member, what is chosen, what else there is.

    ``few`` is a limit on different sections; ``sort`` is ``"mass"``, ``"depth"`` or
    ``"utilisation"``, of all candidates.
    """
    show = job.display
    blocks: list[Block] = []
    for one in sizings:
        blocks += [_sizing_head(one, show), _candidate_table(job, one, show, every, sort)]
        blocks += [paragraph(words) for words in _sizing_words(one, show)]
        blocks.append(paragraph())
    if len(sizings) > 1:
        blocks.append(_proposals(sizings, show))
    if few is not None:
        blocks.append(paragraph(_few_words(sizings, few)))
    return blocks


def _proposals(sizings: Sequence[Sizing], show: DisplayUnits) -> Table:
    """Return the list of changes: from, to, utilisation before and after, mass."""
    names = [Column(name, wraps=True) for name in ("mark", "from", "to")]
    heading = f"mass, {show.labels['mass']}"
    numbers = [Column(name, right=True) for name in ("before", "after", heading)]
    grid = Table([*names, *numbers])
    saved = 0.0
    for one in sizings:
        cells = (one.member.mark, one.member.section.name)
        if one.chosen is None:
            grid.add(*cells, "none passes", ratio(one.before.utilisation), "", "")
            continue
        kilograms = (one.chosen.section.mass - one.member.section.mass) * one.member.length
        change = show.convert(kilograms, "mass")
        is_stage = one.member.stage_of is not None  # its steel counts once
        saved += 0.0 if is_stage else change
        grid.add(
            *cells,
            one.chosen.section.name if one.changes else "stays",
            ratio(one.before.utilisation),
            ratio(one.chosen.utilisation),
            "" if is_stage else f"{change:+,.0f}" if one.changes else "0",
        )
    grid.rule()
    grid.add("", "", "in all", "", "", f"{saved:+,.0f}")
    return grid


def _few_words(sizings: Sequence[Sizing], few: Few) -> str:
    """Return how good a choice of few different sections is."""
    names = list(dict.fromkeys(one.chosen.section.name for one in sizings if one.chosen))
    total, bound = few.total, few.bound
    words = f"{len(names)} different sections of at most {few.most}: {', '.join(names)}"
    if total - bound <= 1e-9 * max(abs(total), 1.0):
        return f"{words}. No other choice is better: this is proved."
    return f"{words}. No other choice is more than {(total - bound) / total:.2%} better."


def _sizing_head(one: Sizing, show: DisplayUnits) -> Block:
    old = one.before
    head = f"{one.member.mark}: {one.member.section.name} at {ratio(old.utilisation)}"
    if one.chosen is None:
        return paragraph(f"{head}; no candidate passes", "bad")
    new = one.chosen
    if not one.changes:
        return paragraph(f"{head} stays: the first that passes by {one.objective}", "strong")
    more = new.section.mass - one.member.section.mass
    change = "as heavy"
    if abs(more) > 1e-9 * new.section.mass:
        sense = "heavier" if more > 0 else "lighter"
        change = f"{show.show(abs(more), 'mass_per_length')} {sense}"
    return paragraph(
        f"{head} -> {new.section.name} at {ratio(new.utilisation)}, {change}", "strong"
    )


def _candidate_table(job: Job, one: Sizing, show: DisplayUnits, every: bool, sort: str) -> Table:
    rated = [term for term in read_objective(one.objective) if term in ("cost", "carbon")]
    units = {"cost": job.prices.currency if job.prices else "", "carbon": "kg CO2e"}
    numbers = [show.labels["mass_per_length"], f"depth, {show.labels['dimension']}", "utilisation"]
    numbers += [f"{term}, {units[term]}".rstrip(", ") for term in rated]
    grid = Table(
        [
            Column(""),
            Column("section"),
            *(Column(name, right=True) for name in numbers),
            Column("verdict"),
            Column("governed by", wraps=True),
        ]
    )
    listed = one.candidates
    if not every and one.chosen is not None:
        listed = listed[max(0, listed.index(one.chosen) - SHOWN_BEFORE) :]
    if sort:
        keys = {"mass": lambda c: c.section.mass, "depth": lambda c: c.depth}
        # What is outside comes last.
        worst = keys.get(sort, lambda c: math.inf if math.isnan(c.utilisation) else c.utilisation)
        listed = sorted(listed, key=worst)
    for candidate in listed:
        mass = show.convert(candidate.section.mass, "mass_per_length")
        depth = show.convert(candidate.depth, "dimension")
        grid.add(
            "->" if candidate is one.chosen else "",
            candidate.section.name,
            digits(mass, 3),
            digits(depth, 3),
            ratio(candidate.utilisation),
            *(f"{measure(term, job, one.member, candidate.section):,.0f}" for term in rated),
            Words(VERDICT[candidate.status], STYLE[candidate.status]),
            candidate.why(),
        )
    return grid


PRAISE = {
    "lightest": "the lightest",
    "shallowest": "the shallowest",
    "most in hand": "the one with the most in hand",
    "stiffest for its mass": "the stiffest for its mass",
    "lightest used elsewhere": "the lightest that is used elsewhere",
    "lightest as deep as a section used elsewhere": "the lightest as deep as one used elsewhere",
}


def _praise(names: str) -> str:
    """Return what speaks for a section as a part of a sentence."""
    said = [PRAISE[name] for name in names.split(", ")]
    return said[0] if len(said) == 1 else f"{', '.join(said[:-1])} and {said[-1]}"


def _sizing_words(one: Sizing, show: DisplayUnits) -> list[str]:
    words = []
    others = [mark for mark in one.group if mark != one.member.mark]
    if others:
        words.append(f"One section with {', '.join(others)}: the first that passes in all of them.")
    skipped = 0 if one.chosen is None else max(0, one.candidates.index(one.chosen) - SHOWN_BEFORE)
    if one.chosen is not None and (skipped or one.unseen):
        parts = [f"{skipped} before these fail as well"] if skipped else []
        parts += [f"{one.unseen} after them were not looked at"] if one.unseen else []
        words.append(f"{'; '.join(parts)} (--all shows and checks every one).")
    for name, other in one.alternatives():
        if one.chosen is None:
            continue
        more = show.show(abs(other.section.mass - one.chosen.section.mass), "mass_per_length", 3)
        sense = "more" if other.section.mass >= one.chosen.section.mass else "less"
        depth = show.show(abs(other.depth - one.chosen.depth), "dimension", 3)
        deeper = "deeper" if other.depth >= one.chosen.depth else "shallower"
        words.append(
            f"{other.section.name} passes too, at {ratio(other.utilisation)}: of the others that "
            f"pass it is {_praise(name)} ({more} {sense}, {depth} {deeper})."
        )
    return words
