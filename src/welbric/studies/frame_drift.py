"""Drifts of a frame that are near their limits, and who lets it drift."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from welbric.analysis.diagram import Array
from welbric.checking.drift import drifts_of, levels_of, stands
from welbric.checking.table import CheckTable
from welbric.effects.load_cases import service_combinations
from welbric.frames.model import FREEDOMS
from welbric.frames.shares import Wanted, shares
from welbric.frames.solve import solution
from welbric.inputs.job import Job

NEAR = 0.5  # of a limit of drift from which on it is looked at


@dataclass(frozen=True)
class Drift:
    """A drift near its limit: what each member adds to it, and how much it may be."""

    utilisation: float
    shares: dict[str, Array]
    limit: float


def drifts_near(job: Job, table: CheckTable) -> list[Drift]:
    """Return the drifts that are near their limits, the worst first."""
    rows = [(row, one) for one in table for row in one.rows if row.id.startswith("drift-")]
    rows = [pair for pair in rows if pair[0].utilisation > NEAR]
    if not rows:
        return []
    frame = rows[0][1].member.said.frame
    solved = solution(frame)
    model = solved.model
    levels = levels_of(frame, model)
    found, done = [], set()
    for row, result in sorted(rows, key=lambda pair: -pair[0].utilisation):
        if result.cases is None or row.demand is None or row.capacity is None:
            continue
        kind = row.id.removeprefix("drift-").replace("-", "_")
        service = service_combinations(job, result.cases, kind)
        state = solved.service(service)
        c, chain = row.at[0], model.chains[result.member.mark]
        for bottom, top in itertools.pairwise(levels):
            moves = drifts_of(model, chain, bottom, top, state.moved) if stands(chain) else None
            if moves is None:
                continue
            drift = moves[0, :, c] - moves[1, :, c]
            way = int(np.argmax(np.abs(drift)))
            if abs(abs(drift[way]) - row.demand) > 1e-9 * row.demand:
                continue
            key = (kind, c, bottom, way)
            if key in done:
                continue
            done.add(key)
            places = model.places[chain.nodes, 2]
            high, low = (int(chain.nodes[np.argmin(np.abs(places - z))]) for z in (top, bottom))
            sense = 1.0 if drift[way] > 0 else -1.0
            wanted = Wanted({FREEDOMS * high + way: sense, FREEDOMS * low + way: -sense}, c)
            parts = {m: v[0] for m, v in shares(model, state, [wanted]).items()}
            whole = sum(float(v.sum()) for v in parts.values())
            if whole > 0:  # what goes beyond the first order goes with it
                scaled = {m: v * (row.demand / whole) for m, v in parts.items()}
                found.append(Drift(row.utilisation, scaled, row.capacity))
    return found
