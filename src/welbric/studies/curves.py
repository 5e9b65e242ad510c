"""Available strength over a length: bending, compression, shear over the stiffeners' distance."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from welbric.checking.check import check_member, segment_rows
from welbric.checking.results import MemberResult, SegmentRow
from welbric.errors import InputError, did_you_mean
from welbric.inputs.job import Job
from welbric.inputs.usual_steel import usual_steel
from welbric.members.design_member import DesignMember
from welbric.members.resolve import resolve
from welbric.sections.table import Section, SectionAxis
from welbric.standards import USUAL
from welbric.standards import standard as standard_of
from welbric.standards.case import (
    BucklingLengths,
    MemberCase,
    Segments,
    Stiffening,
    uniform_effects,
)
from welbric.standards.standard import Standard
from welbric.steels import Steel
from welbric.steels import steel as steel_of
from welbric.working import Step, Working

if TYPE_CHECKING:
    import pandas

Array = NDArray[np.float64]
KINDS = {"bending": "moment", "compression": "force", "shear": "force"}
OVER = {
    "bending": "unbraced length",
    "compression": "effective length, every axis",
    "shear": "clear distance between stiffeners",
}
POINTS = 241
LOOKS = 33  # lengths at which is looked which equations hold
CLOSE = 1e-6  # of the longest length, to which a change is found
MOST_SHAPES = 4  # of moments, that have a curve each
AXES = {"major": "about the major axis", "minor": "about the minor axis", "torsion": "in torsion"}
# What of a member's case its strength depends on besides its section and its lengths.
OF_MEMBER = ("options", "member_options", "critical_moment", "connectors", "webbing", "snug_tight",
             "flange_holes", "geometric", "corners", "cold_formed", "edition")  # fmt: skip
NEXT_TO_NONE = 1e-3  # mm: stands for no length, where nothing buckles


@dataclass(frozen=True)
class Curve:
    """The available strength of a section over a length.

    Attributes
    ----------
    name : str
        Of the section; with what else tells it from others.
    lengths, strengths : array, shape (P,)
        mm; N or N mm. NaN where the standard does not cover it.
    changes : tuple of (float, str)
        The lengths from which on other equations hold: mm, and what the standard calls them, or
        the equation that holds then too.
    reason : str
        Why it is not covered, where it nowhere is.
    """

    name: str
    lengths: Array
    strengths: Array
    changes: tuple[tuple[float, str], ...] = ()
    reason: str = ""


@dataclass(frozen=True, repr=False)
class Curves:
    """Curves of one kind, and what a member asks of them.

    Attributes
    ----------
    of : str
        A key of `KINDS`.
    title : str
    curves : list of Curve
    wanted : list of (float, float, str)
        Length, required strength, and whose it is.
    over : str
        What the length is, where not that of `OVER`.
    """

    of: str
    title: str
    curves: list[Curve]
    wanted: list[tuple[float, float, str]]
    over: str = ""

    def __repr__(self) -> str:
        return f"<{self.title}: {', '.join(curve.name for curve in self.curves)}>"

    def records(self, show: Any, rows: int = POINTS) -> list[dict[str, Any]]:
        """Return the curves as a table in display units, a length a row."""
        lengths = self.curves[0].lengths
        picked = np.unique(np.linspace(0, len(lengths) - 1, rows).round().astype(int))
        head = f"length ({show.labels['length']})"
        unit = show.labels[KINDS[self.of]]
        found = []
        for i in picked:
            length = float(lengths[i]) if lengths[i] > NEXT_TO_NONE else 0.0
            row: dict[str, Any] = {head: show.convert(length, "length")}
            for curve in self.curves:
                value = show.convert(float(curve.strengths[i]), KINDS[self.of])
                row[f"{curve.name} ({unit})"] = value
            found.append(row)
        return found

    def to_frame(self, show: Any) -> pandas.DataFrame:
        """Return the curves as pandas, in display units."""
        from welbric.documents.records import frame

        return frame(self.records(show))


def curves(
    sections: Sequence[Section],
    of: str = "bending",
    steel: str | Steel | None = None,
    upto: float = 12_000.0,
    moment_shape: float = 1.0,
    standard: str = USUAL,
    method: str | None = None,
) -> Curves:
    """Return the available strength of sections over a length.

    Parameters
    ----------
    sections : sequence of Section
    of : {"bending", "compression", "shear"}
        Bending about the major axis over the unbraced length; compression over an effective
        length that is that of every axis; shear of the web over the clear distance between its
        stiffeners, with and without tension field action.
    steel : str or Steel, optional
        What is usual for each section where there is none.
    upto : float, mm
        The longest length.
    moment_shape : float
        Moment-shape factor.
    standard, method : str

    Raises
    ------
    InputError
        If there is no such curve, or a section's kind of shape has none.

    Examples
    --------
    >>> import welbric as wb
    >>> found = wb.curves([wb.section("W18X50")], "bending", upto=6000.0)
    >>> bool(found.curves[0].strengths[0] > found.curves[0].strengths[-1] > 0)
    True
    """
    if of not in KINDS:
        hint = did_you_mean(of, KINDS) or f"; known: {', '.join(KINDS)}"
        raise InputError(f"{of!r} is no curve{hint}")
    code = standard_of(standard)
    method = code.methods[0] if method is None else method
    if method not in code.methods:
        raise InputError(f"{method!r} is no method; accepted: {', '.join(code.methods)}")
    if not sections:
        raise InputError("name at least one section")
    given = steel_of(steel) if isinstance(steel, str) else steel
    return _curves(code, sections, of, given, upto, moment_shape, method, {})


def _curves(
    code: Standard,
    sections: Sequence[Section],
    of: str,
    given: Steel | None,
    upto: float,
    moment_shape: float,
    method: str,
    own: dict[str, Any],
) -> Curves:
    """Return the curves of sections, with what else a member says of its strength."""
    if not 0 < upto < 1e6:
        raise InputError("the longest length is greater than zero, and less than 1 km")
    steels = [given or usual_steel(section) for section in sections]
    lengths = np.linspace(0.0, upto, POINTS)
    lengths[0] = NEXT_TO_NONE
    found: list[Curve] = []
    for section, grade in zip(sections, steels, strict=True):
        if section.shape not in code.shapes:
            raise InputError(f"the strength of a {section.shape} is not covered")
        make = _shear if of == "shear" else _over_length
        found += make(code, section, grade, lengths, of, moment_shape, method, own)
    uniform = f"{code.moment_shape_symbol} = {moment_shape:.3g}"
    words = {
        "bending": f"available moment, {uniform}",
        "compression": "available compression",
        "shear": "available shear",
    }[of]
    return Curves(
        of,
        f"{words}, {' and '.join(dict.fromkeys(map(str, steels)))}, {code.id} {method}",
        found,
        [],
    )


def curves_of_member(
    job: Job, mark: str, of: str = "bending", others: Sequence[Section] = (),
    upto: float | None = None,
) -> Curves:  # fmt: skip
    """Return the curves of a member's section and of others, with what the member asks of them.

    Raises
    ------
    InputError
        As `curves` does; and if the member is not in the job, or has several sections.
    """
    member = job.member(mark)
    if member.pieces:
        raise InputError(f"{mark}: a member of several sections has no curve")
    stands = resolve(member)
    result = check_member(job, stands)
    code, sections = job.code_of(member), [member.section, *others]
    if of == "compression":
        return _compression_of_member(job, stands, result, sections, upto)
    wanted: list[tuple[float, float, str]] = []
    shapes = [1.0]
    if of == "bending":
        symbol, rows = code.moment_shape_symbol, _worst_of_each_shape(job, stands, result)
        wanted = [(row.segment.unbraced, row.moment, f"{symbol} {row.moment_shape:.2f}")
                  for row in rows]  # fmt: skip
        shapes = [row.moment_shape for row in rows if math.isfinite(row.moment_shape)] or shapes
    elif member.stiffeners is not None and result.forces.combinations:
        wanted = [(member.stiffeners.spacing, float(np.abs(result.forces.V_major).max()), mark)]
    longest = max([member.length, *(length for length, _, _ in wanted)])
    longest *= 2.0 if of == "bending" else 1.5
    if of == "shear":  # stiffeners count up to three depths apart
        longest = max(4 * member.section.d, *(1.2 * length for length, _, _ in wanted), 0.0)
    found = [
        _curves(
            code, some, of, stands.steel, upto or longest, shape, job.method_of(member),
            _own_fields(result.case),
        )
        # The other sections are beside that of the segment that governs.
        for shape, some in zip(shapes, [sections, *[sections[:1]] * len(shapes)], strict=False)
    ]  # fmt: skip
    every = [curve for one in found for curve in one.curves]
    if len(found) > 1:
        every = [
            replace(curve, name=f"{curve.name}, {code.moment_shape_symbol} {shape:.2f}")
            for one, shape in zip(found, shapes, strict=True)
            for curve in one.curves
        ]
    return Curves(found[0].of, f"{mark}: {found[0].title}", every, wanted)


def _lengths(of: dict[str, float]) -> BucklingLengths:
    return BucklingLengths(of["major"], of["minor"], of["torsion"])


def _own_fields(case: MemberCase) -> dict[str, Any]:
    """Return what of a member's case its strength depends on besides section and lengths."""
    return {name: getattr(case, name) for name in OF_MEMBER}


def _worst_of_each_shape(job: Job, member: DesignMember, result: MemberResult) -> list[SegmentRow]:
    """Return the worst bent segment of each moment shape, the one that governs first."""
    bent = [
        row
        for row in segment_rows(job, member, result)
        if math.isfinite(row.moment) and row.moment > 0
    ]
    worst: dict[str, SegmentRow] = {}
    for row in sorted(bent, key=lambda row: -np.nan_to_num(row.utilisation, nan=math.inf)):
        worst.setdefault(f"{row.moment_shape:.2f}", row)
    return list(worst.values())[:MOST_SHAPES]


def _compression_of_member(
    job: Job, member: DesignMember, result: MemberResult, sections: list[Section],
    upto: float | None,
) -> Curves:  # fmt: skip
    """Return compression over the length that governs, the others as the member has them."""
    code, case, grade = job.code_of(member.said), result.case, member.steel
    method, own = job.method_of(member.said), _own_fields(result.case)
    lengths = {name: float(np.max(case.buckling.effective(name))) for name in AXES}

    def alone(axis: str) -> float:
        buckling = _lengths(dict.fromkeys(AXES, NEXT_TO_NONE) | {axis: lengths[axis]})
        one = _case(code, member.section, grade, method, **own, buckling=buckling)
        with np.errstate(all="ignore"):
            found = np.ravel(code.available["compression"](one))[0]
        return float(np.nan_to_num(found, nan=math.inf))

    governs = min(AXES, key=alone)
    own["buckling"] = _lengths(lengths)
    own["over"] = f"length_{governs}"
    longest = upto or 1.5 * max(member.length, lengths[governs])
    found = _curves(code, sections, "compression", grade, longest, 1.0, method, own)
    compression = max(-float(result.forces.N.min(initial=0.0)), 0.0)
    mark = member.mark
    wanted = [(lengths[governs], compression, mark)] if compression > 0 else []
    over = f"effective length {AXES[governs]}, others as the member has them"
    return Curves("compression", f"{mark}: {found.title}", found.curves, wanted, over)


def _case(code: Standard, section: Section, grade: Steel, method: str, **fields: Any) -> MemberCase:
    band = grade.strengths(section.thickest, section.shape)
    axis = SectionAxis({k: np.array([[[v]]]) for k, v in section.properties.items()})
    usual: dict[str, Any] = {"buckling": BucklingLengths(1.0, 1.0, 1.0)}
    usual["segments"] = Segments(unbraced=np.zeros(1))
    return MemberCase(
        section=axis, shape=section.shape, Fy=band.Fy, Fu=band.Fu,
        nominal=grade.nominal(section.shape),
        effects=uniform_effects(N=-1.0, M_major=1.0),
        **(code.usual_choices(method) | usual | fields),
    )  # fmt: skip


def _over_length(
    code: Standard,
    section: Section,
    grade: Steel,
    lengths: Array,
    of: str,
    moment_shape: float,
    method: str,
    own: dict[str, Any],
) -> list[Curve]:
    def case_over(lengths: Array) -> MemberCase:
        if of == "bending":
            unbraced = {"segments": Segments(unbraced=lengths), "moment_shape": moment_shape}
            return _case(code, section, grade, method, **own | unbraced)
        along = lengths[None, None, :] if len(lengths) > 1 else float(lengths[0])
        fields = dict(own)
        over, buckling = fields.pop("over", ""), fields.pop("buckling", None)
        buckling = BucklingLengths(along, along, along) if buckling is None else buckling
        if over:
            buckling = replace(buckling, **{over: along})
        return _case(code, section, grade, method, buckling=buckling, length=along, **fields)

    case = case_over(lengths)
    with np.errstate(all="ignore"):
        found = np.asarray(code.available[of](case), dtype=float)
        outside, reason = code.not_covered(of, case)
    found = np.where(outside, np.nan, found)
    strengths = np.broadcast_to(found.ravel(), lengths.shape)

    def ran(length: float) -> Working:
        one = case_over(np.array([length])).at(section, 0, 0)
        with Working() as working, np.errstate(all="ignore"):
            code.available[of](one)
        return working

    known = lengths[np.isfinite(strengths)]
    changes = _changes(ran, float(known[-1])) if len(known) else ()
    return [
        Curve(section.name, lengths, np.array(strengths), changes, "" if len(known) else reason)
    ]


def _changes(ran: Callable[[float], Working], longest: float) -> tuple[tuple[float, str], ...]:
    """Return from which lengths on other equations hold, from what ran at each length."""

    def clauses(working: Working) -> tuple[str, ...]:
        return tuple(step.formula.clause for step in working.steps())

    found: list[tuple[float, str]] = []
    places = np.linspace(NEXT_TO_NONE, longest, LOOKS)
    runs = [ran(float(x)) for x in places]
    for start, end, before, after in zip(places, places[1:], runs, runs[1:], strict=False):
        if clauses(before) == clauses(after):
            continue
        low, high, first = float(start), float(end), clauses(before)
        while high - low > CLOSE * longest:
            middle = 0.5 * (low + high)
            low, high = (middle, high) if clauses(ran(middle)) == first else (low, middle)
        # A limit that does not change with the length, and is what the length is here.
        limits = _lengths_asked(before).items() & _lengths_asked(after).items()
        names = [name for name, value in limits if abs(value - low) < 10 * CLOSE * longest]
        new = [clause for clause in clauses(after) if clause not in first]
        if names or new:
            found.append((low, [*names, *new][0]))
    return tuple(found)


def _lengths_asked(working: Working) -> dict[str, float]:
    """Return the lengths that conditions of a working compare."""
    return {
        name: float(value)
        for entry in working.entries
        if isinstance(entry, Step) and entry.formula.symbol is None
        for name, value in entry.arguments.items()
        if entry.formula.glossary.symbols[name].kind == "length"
    }


def _shear(
    code: Standard,
    section: Section,
    grade: Steel,
    lengths: Array,
    of: str,
    moment_shape: float,
    method: str,
    own: dict[str, Any],
) -> list[Curve]:
    if "I" not in section.shape.split():
        raise InputError(f"{section.name}: stiffeners go with the web of an I-shape")
    # Closer than a fifth of the depth nobody sets stiffeners.
    lengths = np.linspace(0.2 * section.d, max(lengths[-1], 0.4 * section.d), len(lengths))
    found = []
    for words, field in (("", False), (", tension field", True)):
        strengths = []
        for distance in lengths:
            panels = Stiffening(float(distance), float(distance), field)
            case = _case(code, section, grade, method, **own | {"stiffeners": panels})
            with np.errstate(all="ignore"):
                strengths.append(float(np.ravel(code.available["shear"](case))[0]))
        found.append(Curve(f"{section.name}{words}", lengths, np.array(strengths)))
    return found
