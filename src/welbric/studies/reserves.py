"""What is left, and what suffices: loads, spacings, lengths, yield stress, cover plates."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from welbric.checking.check import check_member
from welbric.checking.results import MemberResult
from welbric.checking.verdicts import OK
from welbric.effects.load_cases import load_cases
from welbric.errors import InputError, did_you_mean
from welbric.inputs.actions import MemberLoad
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.inputs.restraints import FlangeRestraint
from welbric.loads.combinations import CASES
from welbric.members.resolve import resolve
from welbric.sections.built import I_SHAPES, plated
from welbric.steels import Band, Steel
from welbric.studies.variants import refuse_what_stands
from welbric.units import METRIC

# Each question, and the kind of its answer; of the last two the least is wanted.
QUESTIONS = {
    "load": "number",
    "spacing": "length",
    "span": "length",
    "buckling length": "length",
    "yield stress": "stress",
    "plate": "dimension",
}
LEAST = ("yield stress", "plate")
SCALED = (
    "line", "area", "point", "moment", "compression", "tension", "end_moments", "settlement",
    "torque", "temperature", "temperature_difference",
)  # fmt: skip
STEPS = 48  # of the scan
FINEST = 8  # spacings to a length: beyond, a restraint more or less changes little
MOST_PLACES = 6  # that restraints may pass
BESIDE = 1e-3  # of a value where the utilisation may jump: how far beside it is looked at

Numbers = NDArray[np.float64]
CLOSE = 1e-6  # of the answer


@dataclass(frozen=True, repr=False)
class Reserve:
    """The largest value of something at which a member still passes, or the least (`LEAST`).

    Attributes
    ----------
    question : str
        Of `QUESTIONS`.
    value : float
        A factor, mm or MPa; zero where nothing passes, infinite where nothing fails. Of the least,
        zero where nothing needs to be, infinite where nothing suffices.
    below, above : MemberResult or None
        The member just within, and just beyond.
    passes_again : bool
        Whether larger values pass again: the answer is the first limit, not the only one. Of the
        least, whether larger values fail again.
    searched : tuple of float
        The range that was scanned.
    failing : tuple of (float, float)
        The ranges beyond the answer that fail, from where to where, the first one first.
    said : str
        What was changed of the member besides, for the question to make sense.
    """

    question: str
    value: float
    below: MemberResult | None
    above: MemberResult | None
    passes_again: bool
    searched: tuple[float, float]
    failing: tuple[tuple[float, float], ...] = ()
    said: str = ""

    def __repr__(self) -> str:
        what = "least" if self.question in LEAST else "largest"
        return f"<{what} {self.question}: {METRIC.show(self.value, QUESTIONS[self.question])}>"


def reserve(
    job: Job,
    mark: str,
    question: str = "load",
    case: str | None = None,
    on: str = "both",
    width: float | None = None,
) -> Reserve:
    """Return the largest load factor, spacing of restraints or span at which a member passes.

    The range is scanned, and the nearest change from passing to failing refined: upwards from the
    member as it is, or down from it where it fails. Every value is checked whole.

    Parameters
    ----------
    job : Job
    mark : str
    question : str
        ``"load"``: a factor on the loads of a case, or on all but own weight; 0.01 to 100.
        ``"spacing"``: of the restraints of the flanges that have any, or else of the flanges in
        compression; up to the length.
        ``"span"``: of a member of one span whose loads and restraints name no places.
        ``"buckling length"``: about the minor axis, and in torsion where that is the same.
        ``"yield stress"``: the least that suffices, up to the steel's tensile strength.
        ``"plate"``: the least thickness of cover plates that suffices, up to four flanges.
    case : str, optional
        Such as ``"live"``, for ``"load"``.
    on : {"top", "bottom", "both"}
        The flanges that get a plate.
    width : float, optional, mm
        Of the plate; by default the flange less 25 mm.

    Raises
    ------
    InputError
        If the question does not fit the member.

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(
    ...     mark="B", section="W18X50", span="20 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    ... )
    >>> wb.reserve(wb.Job(members=[beam]), "B").value > 1
    True
    """
    member = job.member(mark)
    if question not in QUESTIONS:
        raise InputError(f"{question!r}: known: {', '.join(QUESTIONS)}")
    if case is not None and question != "load":
        raise InputError("a case goes with the load")
    if member.frame is not None and question in ("load", "span", "plate"):
        raise InputError(
            f"{mark}: its forces follow the whole frame: ask for the load that the frame carries, "
            "or compare changes of it"
        )
    if question in ("spacing", "span", "plate"):
        refuse_what_stands(job, member, {})
    if question == "plate":
        return _least(job, _by_plate(member, on, width), 0.0, 4 * _flange(member), question)
    if question == "yield stress":
        Fu = resolve(member).strengths.Fu
        return _least(job, _by_strength(member), 0.1 * Fu, Fu, question)
    flanges, said = _spaced(job, member) if question == "spacing" else ([], "")
    changed, low, start, high = _variants(member, question, case, flanges)
    jumps = [x for x in _jumps(job, member, question) if low < x < high]
    values = np.unique([*np.geomspace(low, high, STEPS), start, *jumps])
    # Neither restraints nor buckling lengths change what the loads do.
    same = question in ("spacing", "buckling length") and not member.forces
    cases = load_cases(resolve(member), job.code_of(member).elasticity) if same else None

    def checked(x: float) -> MemberResult:
        return check_member(job, resolve(changed(x)), cases)

    results = [checked(float(x)) for x in values]
    passing = [result.status == OK for result in results]
    searched = (float(low), float(high))
    begin = int(np.searchsorted(values, start))
    failing = [i for i in range(begin, len(values)) if not passing[i]]
    if not failing:
        return Reserve(question, math.inf, results[-1], None, False, searched, said=said)
    within = [i for i in range(failing[0]) if passing[i]]
    if not within:
        return Reserve(question, 0.0, None, results[begin], any(passing), searched, said=said)
    # Upwards from what is, or down from it where it fails, to the nearest change.
    first = within[-1] + 1
    below, above = float(values[first - 1]), float(values[first])
    ends = results[first - 1], results[first]
    below, inside, beyond = _refined(checked, below, above, *ends)
    ranges = _failing(checked, values, results, first, below)
    again = any(passing[first:])
    return Reserve(question, below, inside, beyond, again, searched, ranges, said)


def _failing(
    checked: Callable[[float], MemberResult],
    values: Numbers,
    results: list[MemberResult],
    first: int,
    begins: float,
) -> tuple[tuple[float, float], ...]:
    """Return the ranges that fail from a place of a scan on, their ends refined."""
    found: list[tuple[float, float]] = []
    start: float | None = begins
    for i in range(first + 1, len(values)):
        before, here = results[i - 1], results[i]
        if (before.status == OK) == (here.status == OK):
            continue
        pair = float(values[i - 1]), float(values[i])
        if here.status == OK:  # it passes again
            edge = _refined(checked, pair[1], pair[0], here, before)[0]
            found.append((start if start is not None else pair[0], edge))
            start = None
        else:
            start = _refined(checked, *pair, before, here)[0]
    if start is not None:
        found.append((start, float(values[-1])))
    return tuple(found)


def _jumps(job: Job, member: Member, question: str) -> list[float]:
    """Return values about which the utilisation may jump: a restraint passes a place that matters.

    Those places are the supports, the point loads and where moments are largest.
    """
    if question == "spacing":
        L = member.length
        stands = resolve(member)
        forces = check_member(job, stands).forces
        M, x = forces.M_major, forces.x
        c = np.arange(len(M))
        peaks = [*x[c, M.argmax(axis=1)].tolist(), *x[c, M.argmin(axis=1)].tolist()]
        points = [x for load in member.loads if load.point for x in load.at or []]
        places = [L, *(s.at for s in stands.supports_about("minor")), *points, *peaks]
        distinct = sorted({round(place / L, 6) for place in places} - {0.0})[:MOST_PLACES]
        critical = {L * p / i for p in distinct for i in range(1, FINEST + 1) if p / i > 1 / FINEST}
    elif question == "span":
        holds = [getattr(member.restraint, f) for f in ("top", "bottom", "twist")]
        every = [hold.every for hold in holds if hold is not None and hold.every]
        critical = {e * i for e in every for i in range(1, 20 * FINEST)}
        critical = {x for x in critical if member.length < x < 4 * member.length}
    else:
        return []
    return [x * (1 + side * BESIDE) for x in critical for side in (-1, 1)]


def _least(
    job: Job, changed: Callable[[float], Member], low: float, high: float, question: str
) -> Reserve:
    """Return the least value that passes: the first of a scan from the lowest, refined."""
    values = np.linspace(low, high, STEPS)

    def checked(x: float) -> MemberResult:
        return check_member(job, resolve(changed(x)))

    results = [checked(float(x)) for x in values]
    passing = [result.status == OK for result in results]
    searched = (float(low), float(high))
    if not any(passing):
        return Reserve(question, math.inf, None, results[-1], False, searched)
    first = passing.index(True)
    again = not all(passing[first:])
    if first == 0:
        return Reserve(question, float(values[0]), results[0], None, again, searched)
    below, above = float(values[first - 1]), float(values[first])
    ends = results[first], results[first - 1]
    value, inside, beyond = _refined(checked, above, below, *ends)
    return Reserve(question, value, inside, beyond, again, searched)


def _refined(
    checked: Callable[[float], MemberResult],
    passes: float,
    fails: float,
    inside: MemberResult,
    beyond: MemberResult,
) -> tuple[float, MemberResult, MemberResult]:
    """Return the last value that passes towards one that fails, the results there and beyond."""
    while abs(passes - fails) > CLOSE * max(passes, fails):
        middle = 0.5 * (passes + fails)
        result = checked(middle)
        if result.status == OK:
            passes, inside = middle, result
        else:
            fails, beyond = middle, result
    return passes, inside, beyond


def _by_strength(member: Member) -> Callable[[float], Member]:
    if member.pieces or member.web_steel is not None:
        raise InputError(f"{member.mark}: has several sections or steels; one is needed")
    Fu = resolve(member).strengths.Fu

    def stronger(Fy: float) -> Member:
        steel = Steel(f"steel with Fy = {Fy:.4g} MPa", (Band(math.inf, Fy, Fu),))
        return member.model_copy(update={"steel": steel})

    return stronger


def _flange(member: Member) -> float:
    section = member.section
    if section.shape not in I_SHAPES or member.pieces:
        raise InputError(
            f"{member.mark}: plates go on a member of one I-shape with parallel flanges, not on "
            f"{section.name}"
        )
    return section.tf


def _by_plate(member: Member, on: str, width: float | None) -> Callable[[float], Member]:
    _flange(member)
    sides = {"top": ("top",), "bottom": ("bottom",), "both": ("top", "bottom")}
    if on not in sides:
        raise InputError(f"{on!r}: plates go on the top, the bottom or both")
    b = member.section.bf - 25.0 if width is None else width
    if b <= 0:
        raise InputError("the plate's width is greater than zero")

    def with_plates(t: float) -> Member:
        if t == 0:
            return member
        section = plated(member.section, **dict.fromkeys(sides[on], (b, t)))
        return member.model_copy(update={"section": section})

    return with_plates


def _variants(
    member: Member, question: str, case: str | None, flanges: list[str]
) -> tuple[Callable[[float], Member], float, float, float]:
    """Return what makes the member with another value; the least, what to start at, the largest."""
    L = member.length
    if question == "load":
        return _by_load(member, case), 0.01, 1.0, 100.0
    if question == "buckling length":
        return _by_buckling(member), L / 100, member.buckling.minor_length or L, 4 * L
    if question == "spacing":
        return spaced(member, flanges), L / 100, L / 100, L
    return _by_span(member), L / 20, L, 20 * L


def _by_load(member: Member, case: str | None) -> Callable[[float], Member]:
    if member.forces:
        raise InputError(f"{member.mark}: needs loads, not forces combined elsewhere")
    symbol = symbol_of(case)
    if not any(symbol in (None, load.case) for load in member.loads):
        raise InputError(f"{member.mark}: has no {case or 'load'}")

    return lambda x: with_loads_times(member, x, symbol)


def symbol_of(case: str | None) -> str | None:
    """Return the symbol of a load case by its name."""
    if case is not None and case not in CASES:
        hint = did_you_mean(case, CASES)
        raise InputError(f"{case!r} is no load case{hint}; known: {', '.join(CASES)}")
    return None if case is None else CASES[case]


def with_loads_times(member: Member, factor: float, symbol: str | None) -> Member:
    """Return a member with its loads, or those of one case, times a factor."""

    def scaled(load: MemberLoad) -> MemberLoad:
        if symbol not in (None, load.case):
            return load
        values = {name: getattr(load, name) for name in SCALED}
        return load.model_copy(
            update={
                name: [v * factor for v in value] if isinstance(value, list) else value * factor
                for name, value in values.items()
                if value is not None
            }
        )

    return member.model_copy(update={"loads": [scaled(one) for one in member.loads]})


def _by_buckling(member: Member) -> Callable[[float], Member]:
    lengths = member.buckling
    torsion = lengths.torsional_length
    together = torsion is not None and torsion == lengths.minor_length

    def longer(x: float) -> Member:
        update = {"minor_length": x, "torsional_length": x if together else torsion}
        return member.model_copy(update={"buckling": lengths.model_copy(update=update)})

    return longer


def _spaced(job: Job, member: Member) -> tuple[list[str], str]:
    """Return the flanges whose restraints are spaced, and what to say of it.

    A flange continuously restrained stays so, unless there is no other restraint to space; where
    there is none at all, the flanges in compression are held.
    """
    holds = {f: getattr(member.restraint, f) for f in ("top", "bottom")}
    kinds = {f: hold.kind for f, hold in holds.items() if hold and hold.kind != "supports"}
    if not kinds:
        flanges = flanges_in_compression(check_member(job, resolve(member)))
        if not flanges:
            raise InputError(f"{member.mark}: nothing bends it, so no flange needs a restraint")
        held = "both flanges" if len(flanges) > 1 else f"the {flanges[0]} flange"
        return flanges, f"{held}, in compression and not restrained, with that spacing"
    flanges = [f for f, kind in kinds.items() if kind != "continuous"] or list(kinds)
    words = []
    for flange, kind in kinds.items():
        if flange not in flanges:
            words.append(f"the {flange} flange stays continuously restrained")
        elif kind == "continuous":
            words.append(
                f"the {flange} flange, continuously restrained, is held at this spacing instead"
            )
        elif kind == "by_span":
            words.append(f"the {flange} flange has one spacing in place of its restraint by span")
        elif kind in ("at", "loads"):
            words.append(f"the {flange} flange has a spacing in place of the places it is held at")
    return flanges, "; ".join(words)


def flanges_in_compression(result: MemberResult) -> list[str]:
    """Return the flanges that some combination compresses by bending."""
    M = result.forces.M_major
    return [f for f, sign in (("top", 1.0), ("bottom", -1.0)) if np.any(sign * M > 0)]


def spaced(member: Member, flanges: list[str]) -> Callable[[float], Member]:
    """Return what holds flanges of a member at a spacing."""
    return lambda x: _held(member, flanges, FlangeRestraint(kind="every", every=f"{x!r} mm"))


def held_all_along(member: Member, flanges: list[str]) -> Member:
    """Return a member with flanges that are continuously restrained."""
    return _held(member, flanges, FlangeRestraint(kind="continuous"))


def _held(member: Member, flanges: list[str], how: FlangeRestraint) -> Member:
    restraint = member.restraint.model_copy(update=dict.fromkeys(flanges, how))
    return member.model_copy(update={"restraint": restraint})


def _by_span(member: Member) -> Callable[[float], Member]:
    placed = any(load.places() for load in member.loads)
    at = [getattr(member.restraint, f) for f in ("top", "bottom", "twist")]
    placed = placed or any(hold is not None and hold.at for hold in at)
    lengths = member.buckling
    named = (lengths.major_length, lengths.minor_length, lengths.torsional_length)
    placed = placed or any(named)
    fixed = [member.spans, member.supports, member.hinges, member.pieces, member.braces]
    if placed or any(fixed):
        raise InputError(
            f"{member.mark}: its span can change where no load, restraint, support or "
            "buckling length names a place"
        )
    name = "span" if member.span is not None else "height"
    return lambda x: member.model_copy(update={name: x})
