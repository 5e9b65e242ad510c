"""Drift of a frame's storeys against its limits, by the members that stand in them."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from welbric.analysis.diagram import Array
from welbric.checking import serviceability as s
from welbric.checking.results import Row
from welbric.checking.verdicts import status_of
from welbric.effects.load_cases import service_combinations
from welbric.frames.model import Chain, Model
from welbric.frames.solve import solution
from welbric.inputs.deflection_limits import DeflectionLimit
from welbric.inputs.frame import FrameOf
from welbric.inputs.job import Job
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases
from welbric.standards.standard import Standard
from welbric.working import given, heading

LEVEL = 1.0  # mm: joints this near in height are of one level
STANDS = 0.9  # of its length that a member rises, which then stands in storeys
NOTHING = 1e-9  # of a storey's height


@dataclass(frozen=True)
class DriftSteps:
    """A drift and where it comes from; called, it computes its utilisation in steps."""

    top: float
    bottom: float
    way: str
    combination: str
    height: float
    limit: DeflectionLimit

    def __call__(self) -> float:
        """Return the utilisation."""
        heading(f"Drift along {self.way}")
        words = f"at the {{}} of the storey, along {self.way}, {self.combination}"
        top = given(s.GLOSSARY, "u_top", self.top, words.format("top"))
        bottom = given(s.GLOSSARY, "u_bottom", self.bottom, words.format("bottom"))
        delta = s.magnitude(s.drift(top, bottom))
        if self.limit.at_most is not None:
            return float(s.deflection_utilisation(delta, self.limit.at_most))
        return s.deflection_ratio(delta, self.height, float(self.limit.over or np.inf))


def levels_of(frame: FrameOf, model: Model) -> list[float]:
    """Return the heights of the levels that standing members reach, mm, the lowest first."""
    if "levels" not in frame.known:
        standing = [c for c in model.chains.values() if stands(c)]
        names = {name for c in standing for name in c.member.said.through}
        heights = sorted({frame.joints[name].place[2] for name in names})
        frame.known["levels"] = [
            z for i, z in enumerate(heights) if i == 0 or z - heights[i - 1] > LEVEL
        ]
    levels: list[float] = frame.known["levels"]
    return levels


def stands(chain: Chain) -> bool:
    """Whether a member stands."""
    return abs(float(chain.axes[0, 2])) > STANDS


def drifts_of(model: Model, chain: Chain, bottom: float, top: float, moved: Array) -> Array | None:
    """Return how the top and the bottom of a storey move at a member, shape (2, 2, C).

    First the top, along x and y; None where the member does not reach both.
    """
    places = model.places[chain.nodes, 2]
    pair = [int(np.argmin(np.abs(places - z))) for z in (top, bottom)]
    if np.abs(places[pair] - (top, bottom)).max() > LEVEL:
        return None
    return np.asarray(model.of_nodes(moved)[chain.nodes[pair], :2])


def drift_rows(
    job: Job,
    member: DesignMember,
    cases: LoadCases | None,
    code: Standard,
    under: Combination | None = None,
) -> list[Row]:
    """Return the drift of the storeys that a member stands in, one row for each kind of limit.

    Of the frame with its nominal stiffness, on the frame as it leans where that is analysed.
    """
    frame, limits = member.said.frame, job.frame.drift
    if frame is None or cases is None:
        return []
    solved = solution(frame)
    model, chain = solved.model, solved.model.chains[member.mark]
    if not stands(chain):
        return []
    rows = []
    for kind in type(limits).model_fields:
        allowed = getattr(limits, kind)
        if allowed is None:
            continue
        combinations = service_combinations(job, cases, kind)
        if under is not None:
            combinations = [one for one in combinations if one.name == under.name]
        if not combinations:
            continue
        row = _row(chain, solved.service(combinations).moved, model, frame, combinations, allowed,
                   kind.replace("_", "-"), code.deflection_clause)  # fmt: skip
        if row is not None:
            rows.append(row)
    return rows


def _row(
    chain: Chain,
    moved: Array,
    model: Model,
    frame: FrameOf,
    combinations: list[Combination],
    limits: tuple[DeflectionLimit, ...],
    words: str,
    clause: str,
) -> Row | None:
    worst: tuple[float, Row] | None = None
    for bottom, top in itertools.pairwise(levels_of(frame, model)):
        moves = drifts_of(model, chain, bottom, top, moved)
        if moves is None:
            continue
        height = top - bottom
        limit = min(limits, key=lambda one: one.allowed(height))
        drift = np.abs(moves[0] - moves[1])
        way, c = np.unravel_index(int(np.argmax(drift)), drift.shape)
        largest = float(drift[way, c])
        if largest <= NOTHING * height:
            continue
        U = largest / limit.allowed(height)
        if worst is not None and worst[0] >= U:
            continue
        start = frame.joints[chain.member.said.through[0]].place[2]
        name = combinations[c].name
        row = Row(
            id=f"drift-{words}",
            name=f"drift, {words}",
            clause=clause,
            utilisation=U,
            status=status_of(U),
            demand=largest,
            capacity=limit.allowed(height),
            kind="dimension",
            combination=name,
            place=abs(top - start) / max(abs(float(chain.axes[0, 2])), STANDS),
            remark=f"h/{height / largest:.0f}",
            at=(int(c), -1),
            again=DriftSteps(float(moves[0, way, c]), float(moves[1, way, c]), "xy"[way], name,
                             height, limit),
        )  # fmt: skip
        worst = (U, row)
    return worst[1] if worst is not None else None
