"""The candidates of a member: utilisation against mass, and which of them are efficient."""

from __future__ import annotations

import math
from pathlib import Path
from typing import Any

from matplotlib.backends.backend_agg import FigureCanvasAgg
from matplotlib.figure import Figure

from welbric.checking.verdicts import OK, OUTSIDE
from welbric.errors import InputError
from welbric.reports.figure_files import INK, as_written, titled, write_figure
from welbric.reports.figures import quiet
from welbric.studies.candidates import Candidate, Sizing
from welbric.studies.sizing import SizedJob

PASSES, FAILS, CHOSEN = "#2e6f57", "#b9c3c0", "#8a3b12"
HIGHEST = 2.0  # utilisation that is still drawn in its place


def draw_sizing(sized: SizedJob, mark: str) -> Figure:
    """Return the figure of a member's candidates.

    The front is drawn through those that no lighter candidate beats in utilisation.

    Raises
    ------
    InputError
        If the member was not sized, or nothing of it can be drawn.
    """
    one, show = sized[mark], sized.job.display
    drawn = [c for c in one.candidates if math.isfinite(c.utilisation) and c.status != OUTSIDE]
    if not drawn:
        raise InputError(f"{mark}: no candidate has a utilisation to draw")
    figure = Figure(figsize=(12.8, 8.0), dpi=100, layout="constrained")
    canvas = FigureCanvasAgg(figure)
    ax = figure.subplots()
    quiet(ax)

    def at(candidate: Candidate) -> tuple[float, float]:
        mass = show.convert(candidate.section.mass, "mass_per_length")
        return mass, min(candidate.utilisation, HIGHEST)

    for passes, color in ((False, FAILS), (True, PASSES)):
        places = [at(c) for c in drawn if (c.status == OK) == passes]
        label = "passes" if passes else "fails"
        ax.plot(*zip(*places, strict=True) if places else ([], []), "o", color=color, ms=5,
                label=label)  # fmt: skip
    front = efficient(drawn)
    ax.plot(*zip(*map(at, front), strict=True), color=PASSES, lw=1.2, label="efficient")
    limit = drawn[0].limit
    ax.axhline(limit, color=INK, lw=1)
    if one.chosen is not None:
        ax.plot(*at(one.chosen), "o", ms=11, mfc="none", mec=CHOSEN, mew=2, label="chosen")
    ax.set_ylim(0, HIGHEST * 1.04)
    masses = [at(c)[0] for c in drawn]
    if one.chosen is not None:  # what is far lighter or heavier says nothing of the choice
        middle = at(one.chosen)[0]
        masses = [m for m in masses if 0.6 * middle <= m <= 2 * middle]
    low, high = min(masses), max(masses)
    beyond = sum(not low <= at(c)[0] <= high for c in drawn)
    ax.set_xlim(low - 0.03 * (high - low) - 0.1, high + 0.06 * (high - low) + 0.1)
    words = f"; {beyond} candidates farther off are not drawn" if beyond else ""
    ax.set_xlabel(f"mass, {show.labels['mass_per_length']}{words}", color=INK)
    front = [c for c in front if low <= at(c)[0] <= high]
    ax.set_ylabel(f"utilisation (more than {HIGHEST:g} is drawn at {HIGHEST:g})", color=INK)
    ax.legend(loc="upper right", frameon=False)
    titled(figure, _title(one))
    canvas.draw()  # type: ignore[no-untyped-call]
    wanted = ([one.chosen] if one.chosen else []) + front
    _label(ax, canvas, [(c.section.name, at(c), c is one.chosen) for c in dict.fromkeys(wanted)])
    return as_written(figure)


def efficient(candidates: list[Candidate]) -> list[Candidate]:
    """Return the candidates that no lighter one beats in utilisation, by mass."""
    front: list[Candidate] = []
    for one in sorted(candidates, key=lambda c: (c.section.mass, c.utilisation)):
        if not front or one.utilisation < front[-1].utilisation:
            front.append(one)
    return front


def save_sizing(sized: SizedJob, mark: str, path: str | Path) -> None:
    """Draw a member's candidates into a PNG, SVG or PDF file, whole or not at all."""
    write_figure(draw_sizing(sized, mark), path)


def _title(one: Sizing) -> str:
    words = f"{one.member.mark}: {len(one.candidates)} candidates"
    return words + (f", chosen {one.chosen.section.name}" if one.chosen else ", none passes")


def _label(ax: Any, canvas: Any, labels: list[tuple[str, tuple[float, float], bool]]) -> None:
    """Write the names, those first that come first; one that would cover another stays out."""
    renderer = canvas.get_renderer()
    taken: list[Any] = []
    corners = ((-7, -13, "right"), (7, 5, "left"), (-7, 5, "right"), (7, -13, "left"))
    for name, place, is_chosen in labels:
        for dx, dy, align in corners:
            text = ax.annotate(
                name, place, (dx, dy), textcoords="offset points", ha=align, fontsize=9,
                color=CHOSEN if is_chosen else INK, weight="bold" if is_chosen else "normal",
            )  # fmt: skip
            box = text.get_window_extent(renderer).padded(1)
            inside = ax.bbox.contains(box.x0, box.y0) and ax.bbox.contains(box.x1, box.y1)
            if inside and not any(box.overlaps(other) for other in taken):
                taken.append(box)
                break
            text.remove()
