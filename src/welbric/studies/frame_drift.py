"""Movements of a frame that are near their limits, and who lets it move."""

from __future__ import annotations

from dataclasses import dataclass

from welbric.analysis.diagram import Array
from welbric.checking.movements import OF_FRAMES
from welbric.checking.table import CheckTable
from welbric.effects.load_cases import service_combinations
from welbric.frames.model import FREEDOMS
from welbric.frames.shares import Wanted, shares
from welbric.frames.solve import solution
from welbric.inputs.job import Job

NEAR = 0.5  # of a limit from which on a movement is looked at


@dataclass(frozen=True)
class Drift:
    """A movement near its limit: what each member adds to it, and how much it may be."""

    utilisation: float
    shares: dict[str, Array]
    limit: float


def drifts_near(job: Job, table: CheckTable) -> list[Drift]:
    """Return the drifts of storeys and movements of joints near their limits, the worst first."""
    rows = [
        (row, one)
        for one in table
        for row in one.rows
        if row.id.split("-", 1)[0] in OF_FRAMES and row.utilisation > NEAR
    ]
    if not rows:
        return []
    solved = solution(rows[0][1].member.said.frame)
    model, found, done = solved.model, [], set()
    for row, result in sorted(rows, key=lambda pair: -pair[0].utilisation):
        if result.cases is None or row.demand is None or row.capacity is None:
            continue
        what, _, words = row.id.partition("-")
        kind, c = words.replace("-", "_"), row.at[0]
        state = solved.service(service_combinations(job, result.cases, kind))
        for one in OF_FRAMES[what](solved, model.chains[result.member.mark]):
            high, low = one.movements(model, state.moved)[:, c].tolist()
            of_row = one.least(kind) and abs(abs(high - low) - row.demand) <= 1e-9 * row.demand
            key = (kind, c, one.node, one.against, one.way)
            if not of_row or key in done:
                continue
            done.add(key)
            sense = 1.0 if high > low else -1.0
            at = {FREEDOMS * one.node + one.way: sense}
            if one.against is not None:
                at[FREEDOMS * one.against + one.way] = -sense
            parts = {m: v[0] for m, v in shares(model, state, [Wanted(at, c)]).items()}
            whole = sum(float(v.sum()) for v in parts.values())
            if whole > 0:  # what goes beyond the first order goes with it
                scaled = {m: v * (row.demand / whole) for m, v in parts.items()}
                found.append(Drift(row.utilisation, scaled, row.capacity))
    return found
