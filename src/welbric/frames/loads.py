"""What acts on a frame: the loads between its nodes as if these were clamped, and on the nodes."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from welbric.analysis import beam
from welbric.analysis.beam import BeamResult, Line, Support
from welbric.analysis.diagram import Array, Diagram
from welbric.analysis.member_loads import (
    AxialLoad,
    Curvature,
    LineLoad,
    Load,
    MomentLoad,
    PointLoad,
    Push,
    Torque,
    axial,
    breaks_of,
    twisting,
)
from welbric.frames.beam_columns import MOMENTS, BeamColumns, Off, integrals
from welbric.frames.model import FREEDOMS, OWN, SLIDES, SLOPES, TWIST, Chain, Model
from welbric.inputs.frame import FrameOf
from welbric.members.load_cases import CaseKey, applied, imposed

BENDING = (LineLoad, PointLoad, MomentLoad, Curvature)
STIFFNESSES = ("EA", "GJ", "EI_major", "EI_minor", "GA_major", "GA_minor")
AT_NODE = 1e-6  # of a member's length
AT_ONCE = 500  # beams solved in one go


@dataclass(frozen=True)
class Clamped:
    """A member clamped at all of its nodes, under each case: what its elements do then.

    Attributes
    ----------
    breaks : array, shape (I + 1,), mm
    element : array of int, shape (I,)
        Of the member's elements, the one that each interval is in.
    major, minor : BeamResult of L cases
    axial, torsion : Diagram
    """

    breaks: Array
    element: Any
    major: BeamResult
    minor: BeamResult
    axial: Diagram
    torsion: Diagram


@dataclass(frozen=True)
class Loading:
    """The load cases of a frame.

    Attributes
    ----------
    keys : list of CaseKey, L of them
    clamped : dict of str to Clamped
        By member.
    fixed : array, shape (E, 12, L)
        What the elements' ends take where their nodes are clamped.
    nodal : array, shape (F, L)
        What acts on the nodes themselves.
    imposed : array, shape (F, L)
        How far supports move.
    off : Off
        How far elements sag, clamped.
    """

    keys: list[CaseKey]
    clamped: dict[str, Clamped]
    fixed: Array
    nodal: Array
    imposed: Array
    off: Off


def loading_of(frame: FrameOf, model: Model) -> Loading:
    """Return the load cases of a frame, own weight among the dead one."""
    by_member: dict[str, dict[CaseKey, list[tuple[str, Load]]]] = {}
    for mark, chain in model.chains.items():
        member, cases = chain.member, dict[CaseKey, list[tuple[str, Load]]]()
        if member.said.self_weight:
            cases[CaseKey("D", False)] = member.self_weight_loads()
        steel = frame.job.code_of(member.said).elasticity
        for load in member.said.loads:
            for key, axis, part in applied(member, load):
                cases.setdefault(key, []).extend((axis, p) for p in imposed(part, member, steel))
        by_member[mark] = cases
    joint_keys = [
        CaseKey(load.case, load.is_reversible, alternative=load.alternative)
        for load in frame.job.joint_loads
    ]
    keys = list(dict.fromkeys([*(k for c in by_member.values() for k in c), *joint_keys]))
    nodal = np.zeros((model.freedoms, len(keys)))
    imposed_moves = np.zeros_like(nodal)
    for one, key in zip(frame.job.joint_loads, joint_keys, strict=True):
        base = FREEDOMS * model.joints[one.joint]
        nodal[base : base + FREEDOMS, keys.index(key)] += one.values
        imposed_moves[base : base + 3, keys.index(key)] += one.moves
    between: dict[str, list[list[tuple[str, Load]]]] = {}
    for mark, chain in model.chains.items():
        rows = [by_member[mark].get(key, []) for key in keys]
        between[mark] = [_on_nodes(model, chain, row, nodal[:, i]) for i, row in enumerate(rows)]
    clamped = _clamp(frame, model, between)
    fixed = np.zeros((len(model.ends), OWN, len(keys)))
    sags = np.zeros((MOMENTS, 2, len(model.ends), len(keys)))
    alike: dict[int, tuple[Array, Array]] = {}  # what their ends take, and how they sag, is one
    for mark, chain in model.chains.items():
        of = clamped[mark]
        if id(of) not in alike:
            ends = _end_forces(of, len(chain.nodes) - 1, len(keys))
            alike[id(of)] = ends, _sags(of, chain.places, len(keys))
        fixed[chain.elements], sags[:, :, chain.elements] = alike[id(of)]
    off = model.kept(BeamColumns).sagging(sags)
    return Loading(keys, clamped, fixed, nodal, imposed_moves, off)


def _on_nodes(
    model: Model, chain: Chain, loads: list[tuple[str, Load]], nodal: Array
) -> list[tuple[str, Load]]:
    """Put loads that stand at a node on it, and return the others.

    What acts at an end that moves apart from its joint that way stays with the member.
    """
    if not loads:
        return []
    e1, e2, e3 = chain.axes
    left: list[tuple[str, Load]] = []
    arms = {0: chain.arms[0], len(chain.nodes) - 1: chain.arms[1]}
    for axis, load in loads:
        at = getattr(load, "at", None)
        near = None if at is None else int(np.argmin(np.abs(chain.places - at)))
        slack = AT_NODE * chain.member.length
        if near is None or at is None or abs(chain.places[near] - at) > slack:
            left.append((axis, load))
            continue
        down, slope = (-e3, e2) if axis == "major" else (-e2, -e3)
        force, moment = np.zeros(3), np.zeros(3)
        if near in arms and isinstance(load, PointLoad | MomentLoad | Torque):
            own = _own_freedom(model, chain, near, axis, load)
            if own is not None:
                nodal[own] += _size(load)
                continue
        if isinstance(load, PointLoad):
            force = load.P * down
        elif isinstance(load, MomentLoad):
            moment = load.M * slope
        elif isinstance(load, Push):
            force = load.F * e1
        elif isinstance(load, AxialLoad):
            force = load.N * e1
        elif isinstance(load, Torque):
            moment = load.T * e1
        else:
            left.append((axis, load))
            continue
        if near in arms:  # at an end that hangs on its joint
            moment = moment + np.cross(arms[near], force)
        base = FREEDOMS * int(chain.nodes[near])
        nodal[base : base + FREEDOMS] += np.concatenate([force, moment])
    return left


def _size(load: PointLoad | MomentLoad | Torque) -> float:
    match load:
        case PointLoad():
            return load.P
        case MomentLoad():
            return load.M
    return load.T


def _own_freedom(
    model: Model, chain: Chain, node: int, axis: str, load: PointLoad | MomentLoad | Torque
) -> int | None:
    """Return the freedom of an end that a load acts on, where its joint does not move so."""
    if isinstance(load, Torque):
        at = TWIST
    else:
        at = (SLIDES if isinstance(load, PointLoad) else SLOPES)[axis]
    return model.own_freedom(chain, node > 0, at)


def _clamp(
    frame: FrameOf, model: Model, between: dict[str, list[list[tuple[str, Load]]]]
) -> dict[str, Clamped]:
    """Solve every member clamped at its nodes, all at once; of those that are alike one."""
    lines: list[Line] = []
    wanted: list[tuple[str, str]] = []
    breaks: dict[str, Array] = {}
    first: dict[Any, str] = {}
    like = {mark: first.setdefault(_what_tells(model, chain, between[mark]), mark)
            for mark, chain in model.chains.items()}  # fmt: skip
    kinds = {mark: model.chains[mark] for mark in first.values()}
    for mark, chain in kinds.items():
        cases = [[load for _, load in row] for row in between[mark]]
        breaks[mark] = breaks_of(chain.member.length, cases, chain.places.tolist())
        supports = [Support(float(x), True, True) for x in chain.places]
        for axis in ("major", "minor"):
            about = [[load for ax, load in row if ax == axis] for row in between[mark]]
            if any(isinstance(load, BENDING) for row in about for load in row):
                EI, GA = (
                    _along(chain, breaks[mark], getattr(model, f"{stiff}_{axis}"))
                    for stiff in ("EI", "GA")
                )
                yields = GA if np.all(np.isfinite(GA)) else None
                lines.append(Line(breaks[mark], about, supports, EI, [], yields))
                wanted.append((mark, axis))
    solved: list[BeamResult] = []
    for start in range(0, len(lines), AT_ONCE):
        solved += beam.bend_all(lines[start : start + AT_ONCE])
    bent = dict(zip(wanted, solved, strict=True))
    found = {}
    for mark, chain in kinds.items():
        cases = [[load for _, load in row] for row in between[mark]]
        own, places = breaks[mark], chain.places.tolist()
        supports = [Support(float(x), True, True) for x in places]
        major, minor = (
            bent.get((mark, axis)) or beam.unbent(own, len(cases), supports)
            for axis in ("major", "minor")
        )
        pushes = [[_as_push(load) for load in row] for row in cases]
        flexible = 1.0 / _along(chain, own, model.EA)
        soft = 1.0 / _along(chain, own, model.GJ)
        found[mark] = Clamped(
            own,
            _elements_of(chain, own),
            major,
            minor,
            axial(own, pushes, places, flexible),
            twisting(own, cases, places, soft),
        )
    return {mark: found[one] for mark, one in like.items()}


def _what_tells(model: Model, chain: Chain, between: list[list[tuple[str, Load]]]) -> Any:
    """Return what members have in common that do the same where they are clamped at their nodes."""
    stiff = (getattr(model, name)[chain.elements].tobytes() for name in STIFFNESSES)
    return chain.member.length, chain.places.tobytes(), *stiff, tuple(map(tuple, between))


def _as_push(load: Load) -> Load:
    """Return an axial force between nodes as a push towards the end."""
    return Push(load.at, load.N) if isinstance(load, AxialLoad) else load


def _elements_of(chain: Chain, breaks: Array) -> Any:
    middle = 0.5 * (breaks[:-1] + breaks[1:])
    return np.clip(np.searchsorted(chain.places, middle) - 1, 0, len(chain.places) - 2)


def _along(chain: Chain, breaks: Array, values: Array) -> Array:
    """Return what elements have, for each interval of their member."""
    return np.asarray(values[chain.elements][_elements_of(chain, breaks)])


def _sags(of: Clamped, places: Array, cases: int) -> Array:
    """Return the integrals of how far a clamped member's elements sag, shape (7, 2, count, L)."""
    found = np.zeros((MOMENTS, 2, len(places) - 1, cases))
    for axis, bent in enumerate((of.major, of.minor)):
        if not bent.deflection.is_nothing:
            found[:, axis] = integrals(bent.deflection, places, of.element)
    return found


def _end_forces(of: Clamped, count: int, cases: int) -> Array:
    """Return what the ends of a clamped member's elements take, shape (count, 12, L)."""
    first = np.searchsorted(of.element, np.arange(count), side="left")
    last = np.searchsorted(of.element, np.arange(count), side="right") - 1
    found = np.zeros((count, OWN, cases))

    def ends(diagram: Diagram) -> tuple[Array, Array]:
        c = np.broadcast_to(diagram.coefficients, (cases, *diagram.coefficients.shape[1:]))
        return c[:, first, 0].T, c[:, last].sum(axis=-1).T

    for diagram, at in ((of.axial, 0), (of.torsion, 5)):
        start, end = ends(diagram)
        found[:, at], found[:, at + 6] = -start, end
    for bent, at in ((of.major, 1), (of.minor, 3)):
        start, end = ends(bent.shear)
        found[:, at], found[:, at + 6] = -start, end
        start, end = ends(bent.moment)
        found[:, at + 1], found[:, at + 7] = start, -end
    return found
