"""Decks: loads on an area at a level of a frame in space, spread one way onto its beams."""

from __future__ import annotations

import bisect
import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, Any, Literal

from pydantic import Field, field_validator

from welbric.errors import Problem, did_you_mean
from welbric.inputs.actions import Alternative, MemberLoad, known_case
from welbric.inputs.descriptions import Described, Length, Pressure

if TYPE_CHECKING:
    from welbric.inputs.member import Member

Place = tuple[float, float, float]
SAME = 1.0  # mm that a beam may be off the level
ALONG = 0.999  # of its length that a beam runs along an axis


class DeckLoad(Described):
    """A load on the area of a deck, downwards, in a load case."""

    case: str
    area: Pressure
    alternative: Alternative = ""

    @field_validator("case")
    @classmethod
    def _known_case(cls, value: str) -> str:
        return known_case(value)


class Deck(Described):
    """A floor or a roof at a level, that spans along x or along y from beam to beam.

    Each beam that runs the other way at this level carries half of the way to the next one on
    either side; where there is none, nothing. A part of a floor lies ``onto`` some of them alone.
    """

    level: Length
    spans: Literal["along x", "along y"]
    onto: list[str] = []
    loads: Annotated[list[DeckLoad], Field(alias="load", min_length=1)]

    @property
    def across(self) -> str:
        """The axis along which the beams run that carry it."""
        return "x" if self.spans == "along y" else "y"


@dataclass(frozen=True)
class _Beam:
    """A beam that carries a deck: from joint to joint, where it lies across that, its ends, mm.

    ``askew`` is whether its web is not upright.
    """

    mark: str
    start: float
    end: float
    at: float
    own: tuple[float, float]
    askew: bool

    @property
    def low(self) -> float:
        """The lesser of both ends."""
        return min(self.start, self.end)

    @property
    def high(self) -> float:
        """The larger of both ends."""
        return max(self.start, self.end)


def spread(
    decks: Sequence[Deck],
    places: Mapping[str, Place],
    members: Mapping[str, Member],
    ends: Mapping[str, tuple[Place, Place]],
) -> tuple[dict[str, list[MemberLoad]], list[Problem]]:
    """Return what decks bring onto members, by their marks, and what does not fit.

    Parameters
    ----------
    decks : sequence of Deck
    places : mapping of str to tuple
        Of the joints, mm.
    members : mapping of str to Member
    ends : mapping of str to (tuple, tuple)
        Where the ends of each are, mm: what lies between a joint and such an end goes to that end.
    """
    found: dict[str, list[MemberLoad]] = {}
    wrongs: list[Problem] = []
    for number, deck in enumerate(decks, 1):
        beams, strange = _chosen(deck, _carrying(deck, places, members, ends))
        wrongs += [one.under(f"deck {number}") for one in strange]
        ends_of_all = sorted({x for beam in beams for x in (beam.low, beam.high)})
        brought = {beam.mark: _widths(beam, beams, ends_of_all) for beam in beams}
        if not strange and not any(brought.values()):
            words = f"no two beams along {deck.across} lie at its level, beside one another, to "
            wrongs.append(Problem(f"{words}carry it", f"deck {number}", "level"))
        for beam in beams:
            for load in deck.loads:
                for low, high, width in brought[beam.mark]:
                    found.setdefault(beam.mark, []).extend(_on(beam, load, low, high, width))
    return found, wrongs


def _chosen(deck: Deck, beams: list[_Beam]) -> tuple[list[_Beam], list[Problem]]:
    """Return the beams that a deck lies on, of those it could, and names that are none of them."""
    if not deck.onto:
        return beams, []
    known, wrongs = [beam.mark for beam in beams], []
    for mark in deck.onto:
        if mark not in known:
            hint = did_you_mean(mark, known) or f"; there are {', '.join(known[:8])}"
            words = f"{mark!r} is no beam along {deck.across} at its level{hint if known else ''}"
            wrongs.append(Problem(words, "onto"))
    return [beam for beam in beams if beam.mark in deck.onto], wrongs


def _carrying(
    deck: Deck,
    places: Mapping[str, Place],
    members: Mapping[str, Member],
    ends: Mapping[str, tuple[Place, Place]],
) -> list[_Beam]:
    """Return the beams at a deck's level that run across the way it spans."""
    along, across = (0, 1) if deck.spans == "along y" else (1, 0)
    found = []
    for mark, member in members.items():
        a, b = places[member.through[0]], places[member.through[-1]]
        level = max(abs(a[2] - deck.level), abs(b[2] - deck.level)) <= SAME
        if level and abs(b[along] - a[along]) >= ALONG * member.length:
            own = (ends[mark][0][along], ends[mark][1][along])
            at, askew = 0.5 * (a[across] + b[across]), "minor" in member.weights
            found.append(_Beam(mark, a[along], b[along], at, own, askew))
    return found


def _widths(
    beam: _Beam, beams: Sequence[_Beam], ends: Sequence[float]
) -> list[tuple[float, float, float]]:
    """Return what width a beam carries: from where to where along the axis, and how wide.

    ``ends``, of all beams, are ascending.
    """
    inside = ends[bisect.bisect_right(ends, beam.low) : bisect.bisect_left(ends, beam.high)]
    found: list[tuple[float, float, float]] = []
    for low, high in itertools.pairwise([beam.low, *inside, beam.high]):
        if high - low <= SAME:
            continue
        middle = 0.5 * (low + high)
        beside = [one.at - beam.at for one in beams if one.low < middle < one.high]
        left = min((-gap for gap in beside if gap < -SAME), default=0.0)
        right = min((gap for gap in beside if gap > SAME), default=0.0)
        width = 0.5 * (left + right)
        if width <= 0:
            continue
        if found and found[-1][1] == low and abs(found[-1][2] - width) <= SAME:
            low = found.pop()[0]
        found.append((low, high, width))
    return found


def _on(beam: _Beam, load: DeckLoad, low: float, high: float, width: float) -> list[MemberLoad]:
    """Return the load of a width on a length of a beam, what is beyond its ends at these."""
    first, last = min(beam.own), max(beam.own)
    backwards = beam.start > beam.end
    about = {"case": load.case, "note": "of a deck"}
    given: dict[str, Any] = {"alternative": load.alternative}
    if beam.askew:  # of others at a level what is vertical is across
        given["direction"] = "vertical"
    found = []
    inner = max(low, first), min(high, last)
    if inner[1] - inner[0] > SAME:
        whole = inner[1] - inner[0] >= last - first - SAME
        start, end = inner[0] - first, inner[1] - first
        if backwards:
            start, end = last - inner[1], last - inner[0]
        within = {"start": None, "end": None} if whole else {"start": start, "end": end}
        line = {"line": [load.area * width]}
        found.append(MemberLoad(**about, line="1 N/m").model_copy(update=line | within | given))
    for beyond, at_end in ((first - low, backwards), (high - last, not backwards)):
        if beyond > SAME:
            place = {"point": load.area * width * beyond, "at": [last - first if at_end else 0.0]}
            one = MemberLoad(**about, point="1 N", at="1 mm")
            found.append(one.model_copy(update=place | given))
    return found
