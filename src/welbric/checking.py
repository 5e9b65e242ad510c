"""Member + actions + standard -> the check table."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any

import numpy as np

from welbric.analysis.diagram import distinct
from welbric.errors import InputError, did_you_mean
from welbric.forces import (
    LoadCases,
    MemberForces,
    given_forces,
    load_cases,
    member_forces,
    segment_demand,
    strength_combinations,
)
from welbric.loads import combinations as loading
from welbric.members import Job, Member
from welbric.restraints import Segment, segments
from welbric.serviceability import deflection_ratio
from welbric.standards import standard
from welbric.standards.case import Check, MemberCase, Segments
from welbric.units import DisplayUnits
from welbric.working import Entry, Working, note

if TYPE_CHECKING:
    import pandas

OK, OVER, OUTSIDE = "ok", "over", "outside"
ROUNDING = 1e-9  # a utilisation of 1 is within the limit; so is one that rounding puts above it


@dataclass(frozen=True)
class Row:
    """One check of one member, at its worst combination and place.

    Attributes
    ----------
    name, clause : str
    utilisation : float
        NaN where the case is outside the standard.
    status : str
        ``"ok"``, ``"over"`` or ``"outside"``.
    demand, capacity : float or None
        Internal units; None for an interaction.
    kind : str
        The kind of quantity of demand and capacity.
    combination : str
    place : float
        Along the member, mm.
    segment : Segment or None
    reason : str
        Why it is outside.
    at : tuple of int
        Combination and segment, as numbers.
    """

    name: str
    clause: str
    utilisation: float
    status: str
    demand: float | None
    capacity: float | None
    kind: str
    combination: str
    place: float
    segment: Segment | None
    reason: str
    at: tuple[int, int]


@dataclass(frozen=True)
class Part:
    """A row and the entries of its working."""

    row: Row
    entries: tuple[Entry, ...]


@dataclass(frozen=True)
class Explanation:
    """The step-by-step working of a member's checks.

    Attributes
    ----------
    member : Member
    parts : list of Part
        One for each check, the governing one first.
    """

    job: Job
    result: MemberResult
    parts: list[Part]

    def text(self, width: int = 100) -> str:
        """Return the working as plain text."""
        from welbric.reports.workings import as_text

        return as_text(self, width)

    def typst(self) -> str:
        """Return the working as a Typst document."""
        from welbric.reports.workings import as_typst

        return as_typst(self)

    def html(self) -> str:
        """Return the working as an HTML fragment with MathML."""
        from welbric.reports.workings import as_html

        return as_html(self)

    def __str__(self) -> str:
        return self.text()

    def _repr_html_(self) -> str:
        return self.html()


@dataclass(frozen=True)
class MemberResult:
    """What came of one member.

    Attributes
    ----------
    rows : list of Row
        One for each check that has something to check.
    notes : list of str
    segments : list of Segment
    cases : LoadCases or None
        None where the forces were given.
    forces : MemberForces
    """

    member: Member
    rows: list[Row]
    notes: list[str]
    segments: list[Segment]
    cases: LoadCases | None
    forces: MemberForces
    case: MemberCase = field(repr=False)

    @property
    def governing(self) -> Row | None:
        """The row with the highest utilisation; a row outside only where there is no other."""
        if not self.rows:
            return None
        return max(self.rows, key=lambda row: -1.0 if row.status == OUTSIDE else row.utilisation)

    @property
    def status(self) -> str:
        """``"over"`` where a row is, else ``"outside"`` where a row is, else ``"ok"``.

        A member with nothing to check is outside: no verdict was earned.
        """
        found = {row.status for row in self.rows} or {OUTSIDE}
        return OVER if OVER in found else OUTSIDE if OUTSIDE in found else OK

    def reactions(self) -> dict[str, tuple[float, float]]:
        """Return the smallest and largest upward reaction at the start and at the end, N.

        Over all strength combinations, across the major axis; empty where the forces were given.
        """
        if self.cases is None or not self.forces.combinations:
            return {}
        R = self.cases.factors(self.forces.combinations) @ self.cases.major.reactions
        low, high = R.min(axis=0), R.max(axis=0)
        return {
            "start": (float(low[0]), float(high[0])),
            "end": (float(low[1]), float(high[1])),
        }

    @property
    def utilisation(self) -> float:
        """The governing utilisation; NaN where nothing could be checked."""
        row = self.governing
        return row.utilisation if row is not None else math.nan


class CheckTable:
    """The checks of every member of a job.

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(
    ...     mark="FB1", section="W18X50", span="20 ft", load=[{"case": "live", "line": "1 kip/ft"}]
    ... )
    >>> table = wb.check(wb.Job(members=[beam]))
    >>> table["FB1"].governing.name
    'lateral-torsional buckling'
    """

    def __init__(self, job: Job, results: list[MemberResult]) -> None:
        self.job = job
        self.results = results

    def __iter__(self) -> Iterator[MemberResult]:
        return iter(self.results)

    def __len__(self) -> int:
        return len(self.results)

    def __getitem__(self, mark: str) -> MemberResult:
        member = self.job.member(mark)
        return next(r for r in self.results if r.member is member)

    def governing(self) -> dict[str, Row | None]:
        """Return the governing row of each member, by mark."""
        return {result.member.mark: result.governing for result in self.results}

    @property
    def ok(self) -> bool:
        """Whether every member is within its limits, and none is outside."""
        return all(result.status == OK for result in self.results)

    def summary(self) -> str:
        """Return the closing line of the table."""
        total = len(self.results)
        within = sum(result.status == OK for result in self.results)
        parts = [f"{within} of {total} within limits"]
        for result in sorted(self.results, key=lambda r: -_sortable(r.utilisation)):
            row = result.governing
            if result.status == OVER and row is not None:
                by = (row.utilisation - 1) * 100
                amount = (
                    f"by {by:.0f}%" if 1 <= by < 1000 else "by less than 1%" if by < 1 else "far"
                )
                parts.append(f"{result.member.mark} is over {amount} in {row.name}")
            elif result.status == OUTSIDE:
                outside = [r for r in result.rows if r.status == OUTSIDE]
                why = outside[0].name if outside else "there is nothing to check"
                parts.append(f"{result.member.mark} is partly outside the scope ({why})")
        return "; ".join(parts)

    def explain(self, mark: str, check: str | None = None) -> Explanation:
        """Return the working of a member's checks, each at its governing combination.

        Parameters
        ----------
        mark : str
            The member's mark.
        check : str, optional
            The name of one check, or the beginning of it, or its clause.

        Raises
        ------
        InputError
            If there is no such member or check.
        """
        result = self[mark]
        rows = sorted(result.rows, key=lambda row: -_sortable(row.utilisation))
        if check is not None:
            wanted = check.casefold()
            rows = [r for r in rows if wanted in (r.name, r.clause.casefold())] or [
                r for r in rows if wanted in r.name or r.clause.casefold().startswith(wanted)
            ]
            if not rows:
                names = [row.name for row in result.rows]
                hint = did_you_mean(check, names)
                listed = ", ".join(repr(name) for name in names)
                raise InputError(f"{mark} has no check {check!r}{hint or '; it has ' + listed}")
        return _explain(self.job, result, rows)

    def to_frame(self) -> pandas.DataFrame:
        """Return one row for each check of each member, in display units, as a pandas frame."""
        from welbric.reports.documents import frame

        return frame(records(self))

    def _repr_html_(self) -> str:
        from welbric.reports.tables import check_table_html

        return check_table_html(self)

    def __str__(self) -> str:
        from welbric.reports.tables import check_table_text

        return check_table_text(self)


def _sortable(utilisation: float) -> float:
    return math.inf if math.isnan(utilisation) else utilisation


def check(job: Job) -> CheckTable:
    """Check every member of a job to its standard.

    Parameters
    ----------
    job : Job

    Returns
    -------
    CheckTable

    Raises
    ------
    InputError
        If a member cannot be analysed.
    """
    return CheckTable(job, [check_member(job, member) for member in job.members])


def check_one(job: Job, mark: str) -> CheckTable:
    """Check one member of a job; the other members are not computed."""
    member = job.member(mark)
    return CheckTable(job, [check_member(job, member)])


def check_member(job: Job, member: Member) -> MemberResult:
    """Check one member of a job."""
    code = standard(job.standard)
    parts = segments(member)
    cases = None if member.forces else load_cases(member)
    if cases is None:
        forces = given_forces(member, parts)
    else:
        forces = member_forces(cases, strength_combinations(job, cases), parts)
    if not forces.combinations:
        case = member_case(job, member, parts, None, forces)
        return MemberResult(member, [], ["nothing acts on it"], parts, cases, forces, case)
    found = segment_demand(forces, parts)
    case = member_case(job, member, parts, found.demand, forces)
    rows = []
    with np.errstate(all="ignore"):
        for fn in code.CHECKS.values():
            row = worst(fn(case), forces, parts, found.places)
            if row is not None:
                rows.append(row)
    rows += _shear_not_given(member, rows)
    rows += deflection_rows(job, member, cases, code)
    return MemberResult(
        member, rows, notes(job, member, parts, case, code), parts, cases, forces, case
    )


def member_case(
    job: Job, member: Member, parts: list[Segment], demand: Any, forces: MemberForces
) -> MemberCase:
    """Return the member as its standard sees it."""
    section = member.properties
    band = member.grade.strengths(max(section.tf, section.tw))
    buckling, L = member.buckling, member.length
    lengths = {
        "major": buckling.major_length or L,
        "minor": buckling.minor_length or L,
    }
    lengths["torsion"] = buckling.torsional_length or lengths["minor"]
    K = {axis: length_factor(job, member, axis) for axis in ("major", "minor")}
    transverse = {load.axis for load in member.loads if load.line or load.area or load.point}
    transverse |= {load.axis for load in member.loads if load.moment is not None}
    if member.self_weight and not member.forces and abs(math.cos(member.slope)) > 1e-9:
        transverse.add("major")
    return MemberCase(
        section=section.table().as_axis(),
        shape=section.shape,
        Fy=band.Fy,
        Fu=band.Fu,
        method=job.method,
        demand=demand,
        segments=Segments(
            Lb=np.array([s.Lb for s in parts]), free_tip=np.array([s.free_tip for s in parts])
        ),
        length_major=lengths["major"],
        length_minor=lengths["minor"],
        length_torsion=lengths["torsion"],
        K_major=K["major"],
        K_minor=K["minor"],
        K_torsion=buckling.torsional_K or K["minor"],
        sways_major=bool({"free", "guided"} & set(member.ends_about("major"))),
        sways_minor=bool({"free", "guided"} & set(member.ends_about("minor"))),
        loaded_major="major" in transverse or bool(member.forces),
        loaded_minor="minor" in transverse or bool(member.forces),
        net_area=member.connection.net_area if member.connection else None,
        shear_lag=member.connection.shear_lag if member.connection else None,
        Cb=member.Cb,
        second_order_included=member.second_order_included,
        separate_planes=job.separate_planes,
    )


def length_factor(job: Job, member: Member, axis: str) -> float:
    """Return K: as given; 1.0 between intermediate supports; else of the textbook ends."""
    given = getattr(member.buckling, f"{axis}_K")
    if given is not None:
        return float(given)
    if getattr(member.buckling, f"{axis}_length") is not None:
        return 1.0
    ends = member.ends_about(axis)
    factor = standard(job.standard).effective_length_factor(*ends, job.effective_lengths)
    return float(factor)


def worst(
    found: Check, forces: MemberForces, parts: list[Segment], places: dict[str, Any]
) -> Row | None:
    """Return a check at its worst combination and segment; None where nothing acts."""
    shape = (len(forces.combinations), len(parts))
    U = np.broadcast_to(np.asarray(found.utilisation, dtype=float), (1, *shape))[0]
    if not np.any(np.nan_to_num(U, nan=1.0) > 0):
        return None
    c, g = np.unravel_index(np.argmax(np.where(np.isnan(U), -1.0, U)), shape)
    outside = np.isnan(U)
    if outside.any():
        c, g = np.unravel_index(np.argmax(outside), shape)
    value = float(U[c, g])

    def pick(array: Any) -> float | None:
        return None if array is None else float(np.broadcast_to(array, (1, *shape))[0, c, g])

    return Row(
        found.name,
        found.clause,
        value,
        status_of(value),
        pick(found.demand),
        pick(found.capacity),
        found.kind,
        forces.combinations[c].name,
        float(places[found.effect][c, g]),
        parts[g],
        (found.reason or "the calculation gave no number") if math.isnan(value) else "",
        (int(c), int(g)),
    )


def status_of(utilisation: float) -> str:
    """Return the status of a utilisation; what is not a number is never ok."""
    if math.isnan(utilisation):
        return OUTSIDE
    return OK if utilisation <= 1 + ROUNDING else OVER


def _shear_not_given(member: Member, rows: list[Row]) -> list[Row]:
    """Return a row outside where moments were given without the shear that goes with them."""
    found = []
    for axis, name, clause in (("major", "shear, web", "G2.1"), ("minor", "shear, flanges", "G6")):
        for forces in member.forces:
            bends = any(getattr(forces, f"moment_{axis}"))
            if bends and not getattr(forces, f"shear_{axis}"):
                reason = f"{forces.name}: a moment is given without its shear_{axis}"
                row = Row(
                    *(name, clause, math.nan, OUTSIDE, None, None, "force"),
                    *(forces.name, 0.0, None, reason, (-1, -1)),
                )
                found.append(row)
                break
    return [row for row in found if row.name not in {r.name for r in rows}] if found else []


# Deflection


def deflection_rows(job: Job, member: Member, cases: LoadCases | None, code: Any) -> list[Row]:
    """Return the deflection checks of a member, one for each kind of limit and axis."""
    rows = []
    for kind in ("live", "total", "wind"):
        n = getattr(member.deflection, kind)
        if n is None:
            continue
        name = f"deflection, {kind}"
        clause = code.DEFLECTION_CLAUSE
        if cases is None:
            reason = "deflections need loads; only combined forces are given"
            rows.append(
                Row(
                    *(name, clause, math.nan, OUTSIDE, None, None, "dimension"),
                    *("", 0.0, None, reason, (-1, -1)),
                )
            )
            continue
        combinations = loading.service(job.loading, kind, [case for case, _ in cases.keys])
        if not combinations:
            continue
        for axis in ("major", "minor"):
            row = _deflection_row(member, cases, combinations, axis, n, code)
            if row is not None:
                named = name if axis == "major" else f"{name}, minor axis"
                rows.append(Row(named, clause, *row))
    return rows


def deflection_shape(
    member: Member, cases: LoadCases, combinations: list[loading.Combination], axis: str, E: float
) -> tuple[Any, Any]:
    """Return stations, shape (X,), and deflections there, shape (C, X); mm, downwards."""
    I = getattr(member.properties, f"I_{axis}")  # noqa: E741
    result = cases.major if axis == "major" else cases.minor
    diagram = result.deflection.combine(cases.factors(combinations)).scaled(1 / (E * I))
    even = np.linspace(0.0, member.length, 101)
    x = distinct(np.concatenate([diagram.breaks, diagram.extreme_places(), even]))
    return x, diagram.at(x, np.zeros(len(x), dtype=bool))


def _deflection_row(
    member: Member,
    cases: LoadCases,
    combinations: list[loading.Combination],
    axis: str,
    n: float,
    code: Any,
) -> tuple[Any, ...] | None:
    x, shape = deflection_shape(member, cases, combinations, axis, code.E)
    c, i = np.unravel_index(np.argmax(np.abs(shape)), shape.shape)
    largest = abs(float(shape[c, i]))
    # Rounding leaves a trace of deflection about an axis that nothing bends.
    if largest < 1e-9 * member.length:
        return None
    U = deflection_ratio(largest, member.length, n)
    return (
        *(U, status_of(U), largest, member.length / n, "dimension"),
        *(combinations[c].name, float(x[i]), None, "", (int(c), -1)),
    )


# Notes


def notes(job: Job, member: Member, parts: list[Segment], case: MemberCase, code: Any) -> list[str]:
    """Return what a designer should know about the assumptions behind the rows."""
    show = job.display
    found = []
    if not member.forces:
        w = show.show(member.own_weight, "line_load")
        found.append(
            f"own weight {w} included" if member.self_weight else f"own weight ({w}) not included"
        )
    bent = np.any(case.demand.M_major > 0)
    if bent and member.restraint.top is None and member.restraint.bottom is None:
        found.append(
            f"no restraint is given: both flanges are held at the supports only, "
            f"Lb = {show.show(member.length, 'length')}"
        )
    squeezed = np.any(case.demand.compression > 0)
    section = member.properties
    if squeezed:
        for axis, K, L in (
            ("major", case.K_major, case.length_major),
            ("minor", case.K_minor, case.length_minor),
        ):
            ends = "–".join(member.ends_about(axis))
            if getattr(member.buckling, f"{axis}_K") is not None:
                source = "given"
            elif getattr(member.buckling, f"{axis}_length") is not None:
                source = "between intermediate supports"
            else:
                source = f"{ends}, {job.effective_lengths}"
            found.append(
                f"{axis} axis: K = {K:g} ({source}), unbraced length {show.show(L, 'length')}, "
                f"Lc/r = {K * L / getattr(section, f'r_{axis}'):.0f}"
            )
    for sense, acts, factor in (
        ("compression", squeezed, True),
        ("tension", np.any(case.demand.tension > 0), False),
    ):
        advised, clause = code.SLENDERNESS_ADVICE[sense]
        slenderness = max(
            (case.K_major if factor else 1.0) * case.length_major / section.r_major,
            (case.K_minor if factor else 1.0) * case.length_minor / section.r_minor,
        )
        if acts and slenderness > advised:
            found.append(
                f"slenderness in {sense} {slenderness:.0f} is more than the {advised:.0f} "
                f"that {clause} advises"
            )
    return found


# The working


def _explain(job: Job, result: MemberResult, rows: list[Row]) -> Explanation:
    code = standard(job.standard)
    working = Working()
    parts = []
    for row in rows:
        first = len(working.entries)
        with working:
            if row.at[0] < 0:
                note(row.reason)
            elif row.name.startswith("deflection"):
                kind = row.name.split(", ")[1]
                n = getattr(result.member.deflection, kind)
                deflection_ratio(row.demand, result.member.length, n)
            else:
                case = result.case.at(result.member.properties, *row.at)
                with np.errstate(all="ignore"):
                    code.CHECKS[row.name](case)
        entries = working.entries[first:]
        if working.latest is not None and (not entries or entries[-1] is not working.latest):
            entries.append(working.latest)
        parts.append(Part(row, tuple(entries)))
    return Explanation(job, result, parts)


def records(table: CheckTable) -> list[dict[str, Any]]:
    """Return one plain record for each check of each member, in display units."""
    show: DisplayUnits = table.job.display
    found = []
    for result in table:
        governing = result.governing
        for row in result.rows:
            found.append(
                {
                    "mark": result.member.mark,
                    "role": result.member.role,
                    "section": result.member.section,
                    "steel": result.member.steel,
                    "check": row.name,
                    "clause": row.clause,
                    "utilisation": row.utilisation,
                    "status": row.status,
                    "governs": row is governing,
                    "demand": _shown(row.demand, row.kind, show),
                    "capacity": _shown(row.capacity, row.kind, show),
                    "unit": show.labels.get(row.kind, ""),
                    "combination": row.combination,
                    "place": show.convert(row.place, "length"),
                    "place_unit": show.labels["length"],
                    "reason": row.reason,
                }
            )
    return found


def _shown(value: float | None, kind: str, show: DisplayUnits) -> float | None:
    return None if value is None else show.convert(value, kind)
