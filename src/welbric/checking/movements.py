"""Movements of a frame against their limits: the drift of storeys, joints by themselves."""

from __future__ import annotations

import itertools
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from welbric.analysis.diagram import Array
from welbric.checking import serviceability as s
from welbric.checking.results import Row
from welbric.checking.verdicts import status_of
from welbric.effects.load_cases import service_combinations
from welbric.frames.model import Chain, Model
from welbric.frames.solve import Solved, solution
from welbric.frames.storeys import levels_of, stands, storey_of
from welbric.inputs.deflection_limits import SERVICE_KINDS, DeflectionLimit, DeflectionLimits
from welbric.inputs.job import Job
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases
from welbric.standards.standard import Standard
from welbric.working import given, heading

NOTHING = 1e-9  # of a frame's size, that a joint moves


@dataclass(frozen=True)
class Measure:
    """A movement that is limited, of a node along an axis.

    Attributes
    ----------
    node : int
    against : int or None
        The node whose movement is taken off.
    way : int
        Along x, y or z.
    limits : DeflectionLimits
    span : float or None, mm
        What a share is one of.
    place : float, mm
        Along the member that it belongs to.
    joint : str
        What moves; empty of a storey's drift.
    """

    node: int
    against: int | None
    way: int
    limits: DeflectionLimits
    span: float | None
    place: float
    joint: str = ""

    @property
    def axis(self) -> str:
        """The axis."""
        return "xyz"[self.way]

    def movements(self, model: Model, moved: Array) -> Array:
        """Return how the node and the other one move along the axis, shape (2, C)."""
        along = model.of_nodes(moved)[:, self.way]
        other = np.zeros_like(along[0]) if self.against is None else along[self.against]
        return np.stack([along[self.node], other])

    def least(self, kind: str) -> DeflectionLimit | None:
        """Return the limit of a kind of combination that allows least."""
        limits = getattr(self.limits, kind)
        return min(limits, key=lambda one: one.allowed(self.span or 0.0)) if limits else None


@dataclass(frozen=True)
class MovementSteps:
    """A movement and where it comes from; called, it computes its utilisation in steps."""

    measure: Measure
    values: tuple[float, float]
    combination: str
    limit: DeflectionLimit

    def __call__(self) -> float:
        """Return the utilisation."""
        of, (value, other) = self.measure, self.values
        words = f"along {of.axis}, {self.combination}"
        if not of.joint:
            heading(f"Drift along {of.axis}")
            top = given(s.GLOSSARY, "u_top", value, f"at the top of the storey, {words}")
            bottom = given(s.GLOSSARY, "u_bottom", other, f"at the bottom of the storey, {words}")
            total = s.drift(top, bottom)
        else:
            heading(f"Movement of {of.joint} along {of.axis}")
            joint = given(s.GLOSSARY, "u_joint", value, words)
            total = s.movement(joint)
            if of.against is not None:
                total = s.movement_against(joint, given(s.GLOSSARY, "u_other", other, words))
        delta = s.magnitude(total)
        if self.limit.at_most is not None:
            return float(s.deflection_utilisation(delta, self.limit.at_most))
        return s.deflection_ratio(delta, of.span or 0.0, float(self.limit.over or np.inf))


def drifts(solved: Solved, chain: Chain) -> list[Measure]:
    """Return what is limited of the storeys that a member stands in, along x and y."""
    frame, limits = solved.frame, solved.frame.job.frame.drift
    if not stands(chain) or not any(getattr(limits, kind) for kind in SERVICE_KINDS):
        return []
    found = []
    for bottom, top in itertools.pairwise(levels_of(frame, solved.model)):
        nodes = storey_of(solved.model, chain, bottom, top)
        if nodes is not None:
            place = float(chain.places[chain.nodes.tolist().index(nodes[0])])
            found += [Measure(*nodes, way, limits, top - bottom, place) for way in (0, 1)]
    return found


def limited_joints(solved: Solved, chain: Chain) -> list[Measure]:
    """Return what is limited of the joints that a member goes through.

    A joint belongs to the members that go on beyond it; where none does, to those that end there.
    """
    model, found, nodes = solved.model, [], chain.nodes.tolist()
    for limit in solved.frame.job.joint_limits:
        against = None if limit.against is None else model.joints[limit.against]
        for name in limit.joints:
            node = model.joints[name]
            if node not in nodes or (node in (nodes[0], nodes[-1]) and _goes_on(solved, node)):
                continue
            place = float(chain.places[nodes.index(node)])
            way = "xyz".index(limit.along)
            found.append(Measure(node, against, way, limit, limit.of, place, name))
    return found


def _goes_on(solved: Solved, node: int) -> bool:
    """Whether a member goes through a joint between its ends."""
    known: dict[int, bool] = solved.frame.known.setdefault("goes on", {})
    if node not in known:
        chains = solved.model.chains.values()
        known[node] = any(node in chain.nodes[1:-1] for chain in chains)
    return known[node]


# The rows of a kind of movement: their name, and what is limited.
OF_FRAMES: dict[str, Callable[[Solved, Chain], list[Measure]]] = {
    "drift": drifts, "movement": limited_joints,
}  # fmt: skip


def movement_rows(
    job: Job,
    member: DesignMember,
    cases: LoadCases | None,
    code: Standard,
    under: Combination | None = None,
) -> list[Row]:
    """Return the drift of a member's storeys and the movements of its joints, the worst of a kind.

    Of the frame with its nominal stiffness, on the frame as it leans where that is analysed.
    """
    frame = member.said.frame
    if frame is None or cases is None:
        return []
    solved = solution(frame)
    chain, rows = solved.model.chains[member.mark], []
    for what, limited in OF_FRAMES.items():
        measures = limited(solved, chain)
        for kind in SERVICE_KINDS:
            some = [one for one in measures if getattr(one.limits, kind)]
            if not some:
                continue
            combinations = service_combinations(job, cases, kind)
            if under is not None:
                combinations = [one for one in combinations if one.name == under.name]
            if combinations:
                moved = solved.service(combinations).moved
                row = _worst(some, solved.model, moved, combinations, what, kind, code)
                rows += [row] if row is not None else []
    return rows


def _worst(
    measures: list[Measure],
    model: Model,
    moved: Array,
    combinations: list[Combination],
    what: str,
    kind: str,
    code: Standard,
) -> Row | None:
    worst: Row | None = None
    size, words = float(np.ptp(model.places, axis=0).max()), kind.replace("_", "-")
    for one in measures:
        values, limit = one.movements(model, moved), one.least(kind)
        movement = np.abs(values[0] - values[1])
        c = int(np.argmax(movement))
        largest = float(movement[c])
        if limit is None or largest <= NOTHING * size:
            continue
        allowed = limit.allowed(one.span or 0.0)
        U = largest / allowed
        if worst is not None and worst.utilisation >= U:
            continue
        share = f"{one.span / largest:.0f}" if one.span else ""
        remark = f"h/{share}"
        if one.joint:
            remark = f"{one.joint} along {one.axis}" + (f", 1/{share}" if share else "")
        name = combinations[c].name
        worst = Row(
            id=f"{what}-{words}", name=f"{what}, {words}", clause=code.deflection_clause,
            utilisation=U, status=status_of(U), demand=largest, capacity=allowed,
            kind="dimension", combination=name, place=one.place, remark=remark, at=(c, -1),
            again=MovementSteps(one, (float(values[0, c]), float(values[1, c])), name, limit),
        )  # fmt: skip
    return worst
