"""What a frame does, row by row: forces along its members, its joints, its supports."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.errors import InputError, did_you_mean
from welbric.frames.solve import solution
from welbric.frames.states import State
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination

PLACES = 5  # along each member, evenly spaced
JUMP = 1e-3  # of the largest along a member: less is what the second order leaves at nodes
WAYS = ("x", "y", "z", "about_x", "about_y", "about_z")
FORCES = ("N", "V_major", "M_major", "V_minor", "M_minor", "T")
Record = dict[str, Any]


def force_records(
    frame: FrameOf,
    combinations: Sequence[Combination],
    places: int = PLACES,
    marks: Sequence[str] = (),
) -> list[Record]:
    """Return the forces along members under every combination, N, mm and N mm.

    Tension and sagging are positive. Where a force jumps at a place, both of its sides have a row.

    Parameters
    ----------
    frame : FrameOf
    combinations : sequence of Combination
    places : int
        How many along each member, its ends among them.
    marks : sequence of str
        Of members; of all by default.
    """
    if places < 2:
        raise InputError("two places along each member at least: its ends")
    solved = solution(frame)
    records = []
    for mark in marks or frame.members:
        if mark not in frame.members:
            hint = did_you_mean(mark, frame.members) or ""
            raise InputError(f"no member {mark!r} in the frame{hint}")
        member = solved.model.chains[mark].member
        cases = solved.cases_of(member)
        if cases.frame is None:
            continue
        of = cases.frame.combined(combinations)
        even = np.linspace(0.0, member.length, places)
        x = np.repeat(even, 2)
        right = np.tile([False, True], places)
        diagrams = (of.axial, of.major.shear, of.major.moment, of.minor.shear, of.minor.moment,
                    of.torsion)  # fmt: skip
        values = np.array([diagram.at(x, right) for diagram in diagrams])  # (6, C, X)
        through = member.said.through
        for c, combination in enumerate(combinations):
            for i in _sides(values[:, c]):
                joint = {0: through[0], places - 1: through[-1]}.get(i // 2, "")
                row: Record = {"combination": combination.name, "member": mark,
                               "x": float(x[i]), "joint": joint}  # fmt: skip
                found_here = values[:, c, i].tolist()
                records.append(row | dict(zip(FORCES, found_here, strict=True)))
    return records


def _sides(values: Array) -> list[int]:
    """Return the columns to be shown: beyond the ends none, of like sides the left one."""
    count = values.shape[1]
    scale = np.abs(values).max(axis=1, keepdims=True)
    apart = np.abs(values[:, 1::2] - values[:, ::2]) > JUMP * np.maximum(scale, 1e-9)
    jumps = apart.any(axis=0)
    shown = [1]  # just beyond the start, just before the end
    for k in range(1, count // 2 - 1):
        shown += [2 * k, 2 * k + 1] if jumps[k] else [2 * k]
    return [*shown, count - 2]


def place_records(
    names: Sequence[str], kind: str, of: Array, combinations: Sequence[Combination]
) -> list[Record]:
    """Return values along and about x, y and z, (C, n, 6), of joints or supports."""
    return [
        {"combination": one.name, kind: name} | dict(zip(WAYS, row.tolist(), strict=True))
        for one, of_one in zip(combinations, of, strict=True)
        for name, row in zip(names, of_one, strict=True)
    ]


def axial_extremes(frame: FrameOf, state: State) -> dict[str, tuple[float, int, float, int]]:
    """Return the most that pulls and presses each member anywhere, N, each with its combination.

    The largest and the least axial force, tension positive, over C combinations of a state.
    """
    ends = np.stack([-state.forces[:, 0], state.forces[:, 6]])  # (2, E, C)
    found = {}
    for mark, chain in solution(frame).model.chains.items():
        own = ends[:, chain.elements]
        most, least = own.max(axis=(0, 1)), own.min(axis=(0, 1))
        a, b = int(np.argmax(most)), int(np.argmin(least))
        found[mark] = float(most[a]), a, float(least[b]), b
    return found
