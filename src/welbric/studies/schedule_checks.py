"""Schedules over arrays: every row at once against the standard, or the lightest section for each.

Rows with one kind of shape go through the standard's checks together, in chunks.
"""

from __future__ import annotations

import functools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from welbric.checking.verdicts import OK, OUTSIDE, OVER, ROUNDING, deciding_each
from welbric.errors import InputError
from welbric.inputs.schedules import (
    CHOSEN,
    NUMBERS,
    QUANTITIES,
    RESULTS,
    Entry,
    Schedule,
    steel_of,
)
from welbric.sections.table import Section, SectionAxis
from welbric.standards import USUAL
from welbric.standards import standard as standard_of
from welbric.standards.case import BucklingLengths, Ends, MemberCase, Segments, uniform_effects
from welbric.standards.standard import Standard
from welbric.units import DISPLAY, METRIC, DisplayUnits

if TYPE_CHECKING:
    import pandas

Array = NDArray[np.float64]
CHUNK = 20_000  # rows checked at once: bounds the memory


class Verdict(NamedTuple):
    """What was found for a row; a section where one was chosen."""

    utilisation: float
    status: str
    check: str
    clause: str
    reason: str
    section: Section | None = None


@dataclass(frozen=True, repr=False)
class CheckedSchedule:
    """A schedule with a verdict for each of its entries.

    Attributes
    ----------
    schedule : Schedule
    verdicts : list of Verdict, as the entries
    display : DisplayUnits
        Those of the standard.
    """

    schedule: Schedule
    verdicts: list[Verdict] = field(default_factory=list)
    display: DisplayUnits = METRIC

    def __repr__(self) -> str:
        within = sum(one.status == OK for one in self.verdicts)
        return f"<{self.schedule.name}: {within} of {len(self.verdicts)} rows within limits>"

    def count(self, status: str) -> int:
        """Return how many rows have a status."""
        return sum(verdict.status == status for verdict in self.verdicts)

    @property
    def ok(self) -> bool:
        """Whether every row could be read and is within limits."""
        return not self.schedule.problems and self.count(OK) == len(self.verdicts)

    @property
    def mass(self) -> float:
        """Mass of the members whose length is given, kg; each mark once."""
        seen: dict[str, float] = {}
        for entry, verdict in zip(self.schedule.entries, self.verdicts, strict=True):
            section = verdict.section or entry.section
            if section is not None:
                seen[entry.mark] = section.mass * entry.values.get("length", 0.0)
        return sum(seen.values())

    def records(self) -> list[dict[str, Any]]:
        """Return every row as it was given, with its results."""
        by_line = {
            entry.line: verdict
            for entry, verdict in zip(self.schedule.entries, self.verdicts, strict=True)
        }
        heads = self.schedule.cells[0][1]
        chosen = any(verdict.section for verdict in self.verdicts)
        found = []
        for line, cells in self.schedule.cells[1:]:
            record: dict[str, Any] = dict(zip(heads, [*cells, *[""] * len(heads)], strict=False))
            verdict = by_line.get(line)
            extra: tuple[Any, ...] = ("", "", "", "", "")
            if verdict is not None:
                number = verdict.utilisation
                shown = round(number, 4) if math.isfinite(number) else ""
                extra = (shown, verdict.status, verdict.check, verdict.clause, verdict.reason)
            elif line in self.schedule.bad:
                extra = ("", "not read", "", "", self.schedule.bad[line])
            if chosen:
                picked = verdict.section if verdict is not None else None
                record[CHOSEN] = picked.name if picked is not None else ""
            found.append(record | dict(zip(RESULTS, extra, strict=True)))
        return found

    def to_frame(self) -> pandas.DataFrame:
        """Return every row with its results, as pandas."""
        from welbric.documents.records import frame

        return frame(self.records())


STRENGTHS = ("Fy", "Fu", "nominal")


def check_schedule(
    schedule: Schedule,
    standard: str = USUAL,
    method: str | None = None,
    second_order: str = "amplified",
    progress: Callable[[int], None] | None = None,
) -> CheckedSchedule:
    """Check every row of a schedule to a standard.

    Parameters
    ----------
    schedule : Schedule
    standard : str
    method : str, optional
        The standard's usual one where none is said.
    second_order : {"amplified", "included"}
        Whether the moments are of the first order, and amplified, or hold the second already.
    progress : callable, optional
        Told how many rows are done.

    Notes
    -----
    What a row does not say is taken on the safe side: the unbraced lengths are the member's
    length, K and the moment-shape factor are 1, loads act between the ends.

    Examples
    --------
    >>> from welbric.inputs.schedules import read_schedule
    >>> heads = ["mark", "section", "length (ft)", "compression (kip)"]
    >>> rows = read_schedule([(1, heads), (2, ["C1", "W12X65", "14", "300"])], "columns.csv")
    >>> check_schedule(rows).verdicts[0].status
    'ok'
    """
    code = standard_of(standard)
    method = _method(code, method, second_order)
    verdicts: list[Verdict | None] = [None] * len(schedule.entries)
    groups: dict[tuple[str, bool], list[int]] = {}
    for i, entry in enumerate(schedule.entries):
        if entry.section is not None:
            key = (entry.section.shape, "net_area" in entry.values)
            groups.setdefault(key, []).append(i)
        else:
            verdicts[i] = _not_given()
    done = 0
    for (shape, _), rows in groups.items():
        for start in range(0, len(rows), CHUNK):
            some = rows[start : start + CHUNK]
            entries = [schedule.entries[i] for i in some]
            for i, verdict in zip(some, _check_alike(code, shape, entries, method, second_order),
                                  strict=True):  # fmt: skip
                verdicts[i] = verdict
            done += len(some)
            if progress is not None:
                progress(done)
    return CheckedSchedule(schedule, [v for v in verdicts if v is not None], DISPLAY[code.units])


def _method(code: Standard, method: str | None, second_order: str) -> str:
    """Return the method, the standard's usual one where none is said."""
    method = code.methods[0] if method is None else method
    if method not in code.methods:
        raise InputError(f"{method!r} is no method; accepted: {', '.join(code.methods)}")
    if second_order not in ("amplified", "included"):
        raise InputError(f"second_order: {second_order!r}; accepted: amplified, included")
    return method


def _not_given() -> Verdict:
    return Verdict(math.nan, OUTSIDE, "", "", "the section is to be chosen")


def _check_alike(
    code: Standard, shape: str, entries: list[Entry], method: str, second_order: str
) -> Iterator[Verdict]:
    """Yield the verdicts of rows with one kind of shape."""
    if shape not in code.shapes:
        for _ in entries:
            reason = f"the strength of a {shape} is not covered"
            yield Verdict(math.nan, OUTSIDE, "strength", "", reason)
        return
    unique: dict[int, int] = {}
    tables: list[dict[str, float]] = []
    order = []
    for entry in entries:
        key = id(entry.section)
        if key not in unique and entry.section is not None:
            unique[key] = len(tables)
            tables.append(entry.section.properties)
        order.append(unique[key])
    which = np.array(order)
    names = set.intersection(*(set(t) for t in tables))
    axis = SectionAxis({n: np.array([t[n] for t in tables])[which][:, None, None] for n in names})
    strengths = {n: np.array([getattr(e, n) for e in entries])[:, None, None] for n in STRENGTHS}
    values = _columns(entries)
    case = _case(code, axis, shape, strengths, method, second_order, {
        k: v[:, None, None] for k, v in values.items()})  # fmt: skip
    for entry, verdict in zip(entries, _verdicts(code, shape, case, len(entries)), strict=True):
        yield _with_shear(entry, verdict)


def _with_shear(entry: Entry, verdict: Verdict) -> Verdict:
    """Return a verdict; outside where a moment is given without the shear that goes with it."""
    for axis in ("major", "minor"):
        moment, shear = f"moment_{axis}", f"shear_{axis}"
        if entry.values.get(moment) and shear not in entry.values and verdict.status == OK:
            why = f"{moment} is given without {shear}; give 0 where there is none"
            return Verdict(math.nan, OUTSIDE, "shear", "", why)
    return verdict


def _columns(entries: Sequence[Entry]) -> dict[str, Array]:
    """Return the values of rows as arrays, with what they leave empty filled in."""
    present = set().union(*(entry.values for entry in entries))
    empty = np.full(len(entries), math.nan)
    given = {
        key: np.array([entry.values.get(key, math.nan) for entry in entries])
        for key in (*QUANTITIES, *NUMBERS)
        if key in present
    }

    def column(key: str, otherwise: Any) -> Array:
        found = given.get(key, empty)
        return np.where(np.isnan(found), otherwise, found)

    # A row that needs no length may leave it out: it is then never so short that this would help.
    found = {"length": column("length", 1.0), "whole_length": column("length", math.inf)}
    for key in ("major_length", "minor_length", "unbraced_length"):
        found[key] = column(key, found["length"])
    # What holds a member laterally need not hold it against twisting.
    found["torsional_length"] = column("torsional_length", found["length"])
    found |= {key: column(key, 1.0) for key in ("major_K", "minor_K", "moment_shape")}
    longer = np.where(np.isnan(given.get("minor_length", empty)), found["minor_K"], 1.0)
    found["torsional_K"] = column("torsional_K", np.maximum(longer, 1.0))
    found |= {key: column(key, math.nan) for key in ("net_area", "shear_lag")}
    return found | {key: column(key, 0.0) for key in QUANTITIES if key not in found}


def _case(
    code: Standard,
    axis: Any,
    shape: str,
    strengths: dict[str, Any],
    method: str,
    second_order: str,
    v: dict[str, Any],
) -> MemberCase:
    """Return rows as a standard sees them."""
    effects = uniform_effects(
        N=v["tension"] - v["compression"], V_major=v["shear_major"], M_major=v["moment_major"],
        V_minor=v["shear_minor"], M_minor=v["moment_minor"], T=v["torsion"],
    )  # fmt: skip
    ends = not np.any(np.isnan(v["net_area"]))
    return MemberCase(
        section=axis,
        shape=shape,
        Fy=strengths["Fy"],
        Fu=strengths["Fu"],
        nominal=strengths["nominal"],
        **code.usual_choices(method),
        effects=effects,
        segments=Segments(unbraced=v["unbraced_length"], top=v["moment_major"] >= 0),
        buckling=BucklingLengths(
            length_major=v["major_length"],
            length_minor=v["minor_length"],
            length_torsion=v["torsional_length"],
            K_major=v["major_K"],
            K_minor=v["minor_K"],
            K_torsion=v["torsional_K"],
        ),
        ends=Ends(net_area=v["net_area"], shear_lag=v["shear_lag"]) if ends else Ends(),
        moment_shape=v["moment_shape"],
        second_order_included=second_order == "included",
        length=v["whole_length"],
    )


def utilisations(
    code: Standard, shape: str, case: MemberCase, form: tuple[int, ...]
) -> tuple[Array, list[Any]]:
    """Return every check's utilisation, shape (checks, *form); NaN is outside; and the checks."""
    with np.errstate(all="ignore"):
        checks = [fn(case) for fn in code.checks(shape).values()]
    U = np.empty((len(checks), *form))
    for i, check in enumerate(checks):
        found = np.asarray(check.utilisation, dtype=float)
        U[i] = np.broadcast_to(found.reshape(found.shape or (1,) * len(form)), form)
    return np.where(U < 0, np.nan, U), checks


def _verdicts(code: Standard, shape: str, case: MemberCase, count: int) -> Iterator[Verdict]:
    U, checks = utilisations(code, shape, case, (count, 1, 1))
    U = U[:, :, 0, 0].T
    governs = deciding_each(U)
    value = np.take_along_axis(U, governs[:, None], axis=1)[:, 0]
    status = np.where(np.isnan(value), OUTSIDE, np.where(value > 1 + ROUNDING, OVER, OK))
    said = [(check.name, check.clause, check.reason) for check in checks]
    for number, word, which in zip(value.tolist(), status.tolist(), governs.tolist(), strict=True):
        name, clause, reason = said[which]
        yield Verdict(number, word, name, clause, reason if word == OUTSIDE else "")


# Choosing


def size_schedule(
    schedule: Schedule,
    among: str | None = None,
    utilisation: float = 1.0,
    standard: str = USUAL,
    method: str | None = None,
    second_order: str = "amplified",
    progress: Callable[[int], None] | None = None,
) -> CheckedSchedule:
    """Choose the lightest section for every mark that passes in all of its rows.

    Parameters
    ----------
    schedule : Schedule
    among : str, optional
        A wish in words for the rows that have none of their own in a column ``choose``; rows
        without either keep their section.
    utilisation : float
        The largest utilisation.
    standard, method, second_order, progress
        As `check_schedule` takes them.

    Raises
    ------
    InputError
        If a wish cannot be understood.
    """
    code = standard_of(standard)
    method = _method(code, method, second_order)
    if not 0 < utilisation <= 1:
        raise InputError(f"a utilisation of {utilisation:g} is not between 0 and 1")
    marks: dict[str, list[int]] = {}
    for i, entry in enumerate(schedule.entries):
        marks.setdefault(entry.mark, []).append(i)
    verdicts: list[Verdict] = [_not_given()] * len(schedule.entries)
    for done, rows in enumerate(marks.values(), 1):
        entries = [schedule.entries[i] for i in rows]
        wishes = list(dict.fromkeys(e.choose or among or "" for e in entries))
        if len(wishes) > 1:
            raise InputError(f"{schedule.name}: {entries[0].mark}: its rows choose unlike")
        found = _chosen(code, entries, wishes[0], utilisation, method, second_order)
        for i, verdict in zip(rows, found, strict=True):
            verdicts[i] = verdict
        if progress is not None:
            progress(done)
    return CheckedSchedule(schedule, verdicts, DISPLAY[code.units])


@functools.lru_cache(maxsize=64)
def _candidates(wish: str) -> tuple[tuple[str, tuple[Section, ...]], ...]:
    """Return the sections of a wish by their shape, each lightest first."""
    from welbric.sections.wish import wished

    by_shape: dict[str, list[Section]] = {}
    for section in wished(wish):
        by_shape.setdefault(section.shape, []).append(section)
    return tuple(
        (shape, tuple(sorted(found, key=lambda s: s.mass))) for shape, found in by_shape.items()
    )


@functools.lru_cache(maxsize=256)
def _axis_of(wish: str, shape: str, grade: str) -> tuple[SectionAxis, dict[str, Array], Array]:
    """Return the candidates of a shape as arrays: properties, strengths, those there are, mass."""
    sections = dict(_candidates(wish))[shape]
    names = set.intersection(*(set(s.properties) for s in sections))
    columns = {n: np.array([s.properties[n] for s in sections])[:, None, None] for n in names}
    strengths = []
    for section in sections:
        try:
            steel = steel_of(grade, section)
            band = steel.strengths(section.thickest, section.shape)
            strengths.append((band.Fy, band.Fu, steel.nominal(section.shape)))
        except InputError:  # no strengths for such a thickness
            strengths.append((math.nan, math.nan, math.nan))
    by_name = dict(zip(STRENGTHS, np.array(strengths).T[..., None, None], strict=True))
    return SectionAxis(columns), by_name, columns["mass"][:, 0, 0]


def _chosen(
    code: Standard,
    entries: list[Entry],
    wish: str,
    utilisation: float,
    method: str,
    second_order: str,
) -> list[Verdict]:
    if not wish:
        found: list[Verdict] = []
        for entry in entries:
            if entry.section is None:
                found.append(_not_given())
            else:
                shape = entry.section.shape
                found += _check_alike(code, shape, [entry], method, second_order)
        return found
    best: tuple[float, Section, Array, list[Any]] | None = None
    # Rows that say their net area are verified in rupture, and those that do not are not.
    alike = [
        [i for i, entry in enumerate(entries) if ("net_area" in entry.values) == known]
        for known in (True, False)
    ]
    alike = [rows for rows in alike if rows]
    largest = max((entry.values.get("net_area", 0.0) for entry in entries), default=0.0)
    for shape, sections in _candidates(wish):
        if shape not in code.shapes:
            continue
        fits = np.ones(len(sections), dtype=bool)
        U: Array | None = None
        for rows in alike:
            some = [entries[i] for i in rows]
            of_each = [_axis_of(wish, shape, entry.steel) for entry in some]
            axis, mass = of_each[0][0], of_each[0][2]
            strengths = {
                n: np.concatenate([one[1][n] for one in of_each], axis=1) for n in STRENGTHS
            }
            values = {k: v[None, :, None] for k, v in _columns(some).items()}
            case = _case(code, axis, shape, strengths, method, second_order, values)
            form = (len(sections), len(some), 1)
            found_here, checks = utilisations(code, shape, case, form)
            if U is None:
                U = np.empty((len(checks), len(sections), len(entries)))
            U[:, :, rows] = found_here[..., 0]
            fits &= ~np.isnan(strengths["Fy"]).any(axis=(1, 2)) & (
                axis.A[:, 0, 0] >= largest * (1 - 1e-9)
            )
        if U is None:
            continue
        fits &= np.all(utilisation + ROUNDING >= U, axis=(0, 2))
        if fits.any():
            first = int(np.argmax(fits))
            if best is None or mass[first] < best[0]:
                best = (float(mass[first]), sections[first], U[:, first], checks)
    if best is None:
        why = f"no section of {wish!r} passes"
        return [Verdict(math.nan, OVER, why, "", why)] * len(entries)
    _, section, U, checks = best
    governs = U.argmax(axis=0)
    return [
        _with_shear(
            entries[i], Verdict(float(U[g, i]), OK, checks[g].name, checks[g].clause, "", section)
        )
        for i, g in enumerate(governs)
    ]
