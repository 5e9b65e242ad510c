"""The standard's checks of many members at once, each at its worst combination and segment."""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterator, Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.checking.results import Row, Stretch, outside_row
from welbric.checking.verdicts import OUTSIDE, deciding_each, status_of
from welbric.standards.along import Where
from welbric.standards.case import SEVERAL, Check, MemberCase
from welbric.standards.standard import Standard
from welbric.standards.together import alike, size, stacked

LARGEST = 150_000  # numbers in one array: bounds the memory
NO_NUMBER = "the calculation gave no number"


def strength_rows(stretches: Sequence[Stretch]) -> list[list[Row]]:
    """Return the rows of each stretch, in the order of a hand calculation."""
    found: list[list[Row]] = [[] for _ in stretches]
    groups: dict[Any, list[int]] = {}
    for i, stretch in enumerate(stretches):
        code = stretch.code
        if stretch.case.shape in code.shapes:
            groups.setdefault((code.id, alike(stretch.case)), []).append(i)
        else:
            reason = f"the strength of a {stretch.case.shape} is not covered"
            found[i] = [outside_row("strength", "strength", code.id, reason)]
    for group in groups.values():
        for some in _of_like_size(group, stretches):
            rows = _rows([stretches[i] for i in some])
            for i, own in zip(some, rows, strict=True):
                found[i] = own
    return found


def _of_like_size(group: list[int], stretches: Sequence[Stretch]) -> Iterator[list[int]]:
    """Yield members whose arrays, padded to the largest of them, are not mostly padding."""
    sizes = {i: size(stretches[i].case) for i in group}
    some: list[int] = []
    for i in sorted(group, key=lambda i: sizes[i]):
        most = [max(sizes[k][n] for k in (*some[:1], i)) for n in range(3)]
        fits = (len(some) + 1) * int(np.prod(most)) <= LARGEST
        if some and not (fits and sizes[i][0] <= 2 * sizes[some[0]][0]):
            yield some
            some = []
        some.append(i)
    yield some


def _rows(stretches: list[Stretch]) -> list[list[Row]]:
    """Return the rows of stretches that are alike."""
    code = stretches[0].code
    case = stacked([stretch.case for stretch in stretches])
    sizes = np.array([size(stretch.case) for stretch in stretches])
    C, G = int(sizes[:, 2].max()), int(sizes[:, 0].max())
    real = (np.arange(C)[:, None] < sizes[:, 2, None, None]) & (
        np.arange(G) < sizes[:, 0, None, None]
    )
    rows: list[list[Row]] = [[] for _ in stretches]
    with np.errstate(all="ignore"):
        for fn in code.checks(case.shape).values():
            check = fn(case)
            for i, row in _worst(code, fn, check, case, real, stretches):
                rows[i].append(row)
    return rows


def _worst(
    code: Standard,
    fn: Callable[[MemberCase], Check],
    check: Check,
    case: MemberCase,
    real: NDArray[np.bool_],
    stretches: list[Stretch],
) -> Iterator[tuple[int, Row]]:
    """Yield the row of each stretch in which the check has something to check."""
    U = np.broadcast_to(np.asarray(check.utilisation, dtype=float), real.shape)
    U = np.where(U < 0, np.nan, U)  # a strength below zero verifies nothing
    U = np.where(real, U, -np.inf).reshape(len(stretches), -1)
    acting = (np.isnan(U) | (U > 0)).any(axis=1)
    if not acting.any():
        return
    deciding = deciding_each(U)
    members = np.flatnonzero(acting)
    c, g = np.divmod(deciding[members], real.shape[2])

    where = Where(members, c, g, real.shape)

    def picked(array: Any) -> list[Any]:
        found: list[Any] = [None] * len(members) if array is None else where.of(array).tolist()
        return found

    columns = zip(
        members.tolist(),
        c.tolist(),
        g.tolist(),
        U[members, deciding[members]].tolist(),
        picked(check.demand),
        picked(check.capacity),
        code.places(case, check.effect, where).tolist(),
        strict=True,
    )
    for i, combination, segment, value, demand, capacity, place in columns:
        stretch = stretches[i]
        status = status_of(value)
        again = functools.partial(_again, fn, stretch, (combination, segment))
        clause, reason = check.clause, ""
        # Over all of them the clause may be a range; the one that decides goes by one of it.
        if SEVERAL in clause or status == OUTSIDE:
            one = again()
            clause = one.clause
            reason = (one.reason or NO_NUMBER) if status == OUTSIDE else ""
        row = Row(
            id=code.check_ids[check.name],
            name=check.name,
            clause=clause,
            utilisation=value,
            status=status,
            demand=demand,
            capacity=capacity,
            kind=check.kind,
            combination=stretch.combinations[combination],
            place=place,
            segment=stretch.segments[segment],
            reason=reason,
            at=(combination, segment),
            stretch=stretch,
            again=again,
        )
        yield i, row


def _again(fn: Callable[[MemberCase], Check], stretch: Stretch, at: tuple[int, int]) -> Check:
    """Run a check on the single numbers of one combination and segment."""
    with np.errstate(all="ignore"):
        return fn(stretch.case.at(stretch.section, *at))
