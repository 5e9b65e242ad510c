"""Sizing and reserves for the terminal: candidates, what is chosen, what is left."""

from __future__ import annotations

import io
import math
from typing import TYPE_CHECKING

from rich import box
from rich.console import Console, Group, RenderableType
from rich.table import Table
from rich.text import Text

from welbric.objectives import measure
from welbric.rates import read_objective
from welbric.reports.tables import STYLE, VERDICT, ratio
from welbric.reserves import LEAST, QUESTIONS
from welbric.units import DisplayUnits, digits

if TYPE_CHECKING:
    from welbric.job import Job
    from welbric.reserves import Reserve
    from welbric.sizing import SizedJob, Sizing

SHOWN_BEFORE = 6  # candidates before the choice that are listed


def sizing_text(sized: SizedJob) -> str:
    """Return the proposals as text."""
    buffer = io.StringIO()
    Console(file=buffer, width=100, color_system=None).print(sizing_tables(sized))
    return buffer.getvalue()


def sizing_tables(sized: SizedJob, every: bool = False, sort: str = "") -> RenderableType:
    """Return the proposals: the candidates of each member, what is chosen, what else there is.

    ``sort`` is ``"mass"``, ``"depth"`` or ``"utilisation"``, of all candidates.
    """
    show = sized.job.display
    lines: list[RenderableType] = []
    for one in sized:
        lines += [_sizing_head(one, show), _candidate_table(sized.job, one, show, every, sort)]
        lines += [Text(words) for words in _sizing_words(one, show)]
        lines.append(Text(""))
    if len(sized.sizings) > 1:
        lines.append(_proposals(sized, show))
    if sized.different is not None:
        lines.append(Text(_few_words(sized)))
    return Group(*lines)


def _proposals(sized: SizedJob, show: DisplayUnits) -> Table:
    """Return the list of changes: from, to, utilisation before and after, mass."""
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for name in ("mark", "from", "to"):
        grid.add_column(name, overflow="fold")
    for name in ("before", "after", "mass, kg"):
        grid.add_column(name, justify="right", no_wrap=True)
    saved = 0.0
    for one in sized:
        cells = [Text(one.member.mark), Text(one.member.section.name)]
        if one.chosen is None:
            grid.add_row(*cells, "none passes", ratio(one.before.utilisation), "", "")
            continue
        change = (one.chosen.section.mass - one.member.section.mass) * one.member.length
        saved += change
        grid.add_row(
            *cells,
            Text(one.chosen.section.name if one.changes else "stays"),
            ratio(one.before.utilisation),
            ratio(one.chosen.utilisation),
            f"{change:+,.0f}" if one.changes else "0",
        )
    grid.add_section()
    grid.add_row("", "", "in all", "", "", f"{saved:+,.0f}")
    return grid


def _few_words(sized: SizedJob) -> str:
    """Return how good a choice of few different sections is."""
    names = list(dict.fromkeys(one.chosen.section.name for one in sized if one.chosen))
    total, bound = sized.total or 0.0, sized.bound or 0.0
    words = f"{len(names)} different sections of at most {sized.different}: {', '.join(names)}"
    if total - bound <= 1e-9 * max(abs(total), 1.0):
        return f"{words}. No other choice is better: this is proved."
    return f"{words}. No other choice is more than {(total - bound) / total:.2%} better."


def _sizing_head(one: Sizing, show: DisplayUnits) -> Text:
    old = one.before
    head = f"{one.member.mark}: {one.member.section.name} at {ratio(old.utilisation)}"
    if one.chosen is None:
        return Text(f"{head}; no candidate passes", "bold red")
    new = one.chosen
    if not one.changes:
        return Text(f"{head} stays: the first that passes by {one.objective}", "bold")
    change = show.show(abs(new.section.mass - one.member.section.mass), "mass_per_length")
    sense = "lighter" if new.section.mass < one.member.section.mass else "heavier"
    return Text(
        f"{head} -> {new.section.name} at {ratio(new.utilisation)}, {change} {sense}", "bold"
    )


def _candidate_table(job: Job, one: Sizing, show: DisplayUnits, every: bool, sort: str) -> Table:
    grid = Table(box=box.SIMPLE_HEAD, pad_edge=False, padding=(0, 1, 0, 0), show_edge=False)
    for name in ("", "section"):
        grid.add_column(name, no_wrap=True)
    for name in (
        show.labels["mass_per_length"],
        f"depth, {show.labels['dimension']}",
        "utilisation",
    ):
        grid.add_column(name, justify="right", no_wrap=True)
    rated = [term for term in read_objective(one.objective) if term in ("cost", "carbon")]
    units = {"cost": job.prices.currency if job.prices else "", "carbon": "kg CO2e"}
    for term in rated:
        grid.add_column(Text(f"{term}, {units[term]}".rstrip(", ")), justify="right", no_wrap=True)
    grid.add_column("verdict", no_wrap=True)
    grid.add_column("governed by", overflow="fold")
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
        grid.add_row(
            "->" if candidate is one.chosen else "",
            Text(candidate.section.name),
            digits(mass, 3),
            digits(depth, 3),
            ratio(candidate.utilisation),
            *(f"{measure(term, job, one.member, candidate.section):,.0f}" for term in rated),
            Text(VERDICT[candidate.status], STYLE[candidate.status]),
            Text(candidate.why()),
        )
    return grid


def _sizing_words(one: Sizing, show: DisplayUnits) -> list[str]:
    words = []
    others = [mark for mark in one.group if mark != one.member.mark]
    if others:
        words.append(f"One section with {', '.join(others)}: the first that passes in all of them.")
    skipped = 0 if one.chosen is None else max(0, one.candidates.index(one.chosen) - SHOWN_BEFORE)
    if one.chosen is not None and (skipped or one.unseen):
        words.append(
            f"{skipped} before these fail as well; {one.unseen} after them were not looked at "
            "(--all shows and checks every one)."
        )
    for name, other in one.alternatives():
        if one.chosen is None:
            continue
        more = show.show(abs(other.section.mass - one.chosen.section.mass), "mass_per_length", 3)
        sense = "more" if other.section.mass >= one.chosen.section.mass else "less"
        depth = show.show(abs(other.depth - one.chosen.depth), "dimension", 3)
        deeper = "deeper" if other.depth >= one.chosen.depth else "shallower"
        words.append(
            f"{name[0].upper()}{name[1:]} of the others: {other.section.name} at "
            f"{ratio(other.utilisation)}, {more} {sense}, {depth} {deeper}."
        )
    return words


def _least_words(what: str, kind: str, found: Reserve, show: DisplayUnits) -> str:
    low, high = (show.show(x, kind) for x in found.searched)
    row = found.above.governing if found.above else None
    decides = f"; with less {row.name} ({row.clause}) decides" if row else ""
    if math.isinf(found.value):
        failing = f": {row.name} ({row.clause})" if row else ""
        return f"no {what.removeprefix('the ')} up to {high} suffices{failing}"
    if found.above is None:
        return f"{what} need not be more than {low}"
    words = f"{what} must be at least {show.show(found.value, kind)}{decides}"
    return words + ("; larger values fail again" if found.passes_again else "")


def reserve_words(mark: str, found: Reserve, case: str | None, show: DisplayUnits) -> str:
    """Return in words how much is left."""
    kind = QUESTIONS[found.question]
    what = {
        "load": f"the factor on {f'the {case} loads' if case else 'all loads but own weight'}",
        "spacing": "the spacing of the restraints",
        "span": "the span",
        "buckling length": "the buckling length about the minor axis",
        "yield stress": "the yield stress",
        "plate": "the thickness of the cover plates",
    }[found.question]
    if found.question in LEAST:
        return f"{mark}: {_least_words(what, kind, found, show)}."
    low, high = (show.show(x, kind) for x in found.searched)
    if found.below is None:
        words = f"{mark}: {what} has no value that passes from {low} up to what it is"
        row = found.above.governing if found.above else None
        words += f": {row.name} ({row.clause})" if row else ""
    elif math.isinf(found.value):
        words = f"{mark}: {what} has no limit up to {high}"
    else:
        words = f"{mark}: {what} may be up to {show.show(found.value, kind)}"
        row = found.above.governing if found.above else None
        words += f"; beyond it {row.name} ({row.clause}) decides" if row else ""
    if found.passes_again:
        words += "; larger values pass again, this is the first limit"
    return words + "."
