"""The analysis of a frame: every case to the first order, combinations to the second."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from math import comb
from typing import Any

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.beam import BeamResult
from welbric.analysis.diagram import Array, Diagram
from welbric.analysis.stiffness import Mechanism, Stiffness
from welbric.errors import InputError
from welbric.frames.loads import Clamped, Loading, loading_of
from welbric.frames.model import (
    Chain,
    Model,
    loose,
    model_of,
    own_movements,
)
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import CombinedResults, LoadCases

TRACE = 1e-9  # of the forces of a member
CLOSE = 1e-8  # of the largest axial force: the second order has converged
STEPS = 30
SLACK = 1e-6  # of its axial stiffness that a slack member keeps
FEW = 400  # freedoms of which the critical load is found as a dense problem
GRAVITY_CASES = ("D", "L", "Lr", "S")
# What of a member a frame's forces depend on, beside its sections.
TELLING = (
    "through", "loads", "ends", "ends_minor", "end_springs", "carries", "web", "self_weight",
    "role", "standard",
)  # fmt: skip
BINOMIAL = np.array([[comb(k, j) for k in range(4)] for j in range(4)], dtype=float)


@dataclass(frozen=True)
class State:
    """What a frame does under each of C loads.

    Attributes
    ----------
    moved : array, shape (6 n, C)
    forces : array, shape (E, 12, C)
        At the elements' ends, in their own freedoms.
    movements : array, shape (E, 12, C)
        Of the ends themselves, releases among them.
    carries : array, shape (E, C)
        The share of its axial stiffness that each element has: nearly none where it would carry
        what it does not.
    """

    moved: Array
    forces: Array
    movements: Array
    carries: Array

    @property
    def N(self) -> Array:
        """The mean axial force of each element, tension positive, shape (E, C)."""
        return np.asarray(0.5 * (self.forces[:, 6] - self.forces[:, 0]))

    def taken(self, which: Any) -> State:
        """Return some of the loads."""
        return State(self.moved[:, which], self.forces[..., which], self.movements[..., which],
                     self.carries[:, which])  # fmt: skip

    @classmethod
    def of(cls, states: Sequence[State]) -> State:
        """Return the states of several loads as one."""
        return cls(*(
            np.concatenate([getattr(one, name) for one in states], axis=-1)
            for name in ("moved", "forces", "movements", "carries")
        ))  # fmt: skip


@dataclass(frozen=True)
class Loads:
    """What C loads do: at clamped ends of elements, on nodes, and how far supports move.

    Attributes
    ----------
    fixed : array, shape (E, 12, C)
    nodal, imposed : array, shape (F, C)
    """

    fixed: Array
    nodal: Array
    imposed: Array

    @classmethod
    def combined(cls, loading: Loading, factors: Array) -> Loads:
        """Return combinations of load cases; ``factors`` has shape (C, L)."""
        return cls(loading.fixed @ factors.T, loading.nodal @ factors.T,
                   loading.imposed @ factors.T)  # fmt: skip

    def taken(self, which: Any) -> Loads:
        """Return some of them."""
        return Loads(self.fixed[..., which], self.nodal[:, which], self.imposed[:, which])


def solve(model: Model, k: Array, loads: Loads, carries: Array | None = None) -> State:
    """Return what a frame of elements of stiffness k does under loads.

    Raises
    ------
    Mechanism
        If something moves without resistance, or is beyond its critical load.
    """
    load = loads.nodal - model.on_nodes(loads.fixed)
    whole = Stiffness.assembled(
        model.numbers, model.in_freedoms(k) + model.joined, model.springs, model.freedoms
    )
    moved = whole.solved(load, {i: loads.imposed[i] for i in np.flatnonzero(model.held).tolist()})
    own = own_movements(model, moved)
    share = np.ones((len(model.ends), load.shape[1]))
    if carries is not None:
        share *= carries[:, None]
    return State(moved, k @ own + loads.fixed, own, share)


@dataclass(eq=False)
class Solved:
    """A frame that is solved.

    Attributes
    ----------
    frame : FrameOf
    model : Model
    loading : Loading
    first : State
        Every case to the first order.
    """

    frame: FrameOf
    model: Model
    loading: Loading
    first: State
    known: dict[Any, Any] = field(default_factory=dict)

    def cases_of(self, member: DesignMember) -> LoadCases:
        """Return the load cases of a member of the frame.

        Raises
        ------
        InputError
            If it has another section than in the frame: its forces would be others.
        """
        chain = self.model.chains[member.mark]
        own = chain.member.said
        same = all(getattr(member.said, name) == getattr(own, name) for name in TELLING)
        if member.stretches != chain.member.stretches or not same:
            raise InputError(
                f"{member.mark}: its forces follow the whole frame, which has it as the job says: "
                "write the change of section, loads or ends into the job"
            )
        results = recovered(self.model, chain, self.loading.clamped[member.mark], self.first,
                            np.eye(len(self.loading.keys)), member)  # fmt: skip
        second = None
        if self.frame.job.frame.second_order == "analysed":
            second = SecondOrderOf(self, member)
        return LoadCases(
            self.loading.keys, results.major, results.minor, results.axial, results.torsion,
            frame=second,
        )  # fmt: skip

    def second_order(
        self, combinations: Sequence[Combination], level: float, plumb: bool = False
    ) -> SecondOrder:
        """Return what the combinations do to the second order, each once.

        ``plumb`` leaves out what stands for the frame out of plumb.
        """
        key = (tuple(one.name for one in combinations), level, plumb)
        if key not in self.known:
            self.known[key] = second_order(self, combinations, level, plumb)
        found: SecondOrder = self.known[key]
        return found

    @property
    def superposes(self) -> bool:
        """Whether load cases to the first order may be added: no member carries one way only."""
        return not self.model.one_way.any()

    def service(self, combinations: Sequence[Combination]) -> State:
        """Return what service combinations do to the frame in plumb, with its nominal stiffness.

        Where the second order is analysed, on the frame as it leans.
        """
        if self.frame.job.frame.second_order == "analysed":
            return self.second_order(combinations, 1.0, plumb=True).state
        factors = np.array([[key.factor(c) for key in self.loading.keys] for c in combinations])
        first = self.first
        whole = np.ones((len(self.model.ends), len(combinations)))
        return State(first.moved @ factors.T, first.forces @ factors.T,
                     first.movements @ factors.T, whole)  # fmt: skip


@dataclass(frozen=True)
class SecondOrder:
    """Combinations to the second order.

    Attributes
    ----------
    state : State of C combinations
        Of the first order where one is beyond its critical load.
    factors : array, shape (C, L)
    share : array, shape (C,)
        The load over the critical one.
    N : array, shape (E, C)
        What its geometric stiffness stands on, times the level.
    pushed : array, shape (F, C)
        What stands for the frame out of plumb.
    """

    state: State
    factors: Array
    share: Array
    N: Array
    pushed: Array


@dataclass(frozen=True)
class SecondOrderOf:
    """A member's forces to the second order."""

    solved: Solved
    member: DesignMember

    def combined(self, combinations: Sequence[Combination]) -> CombinedResults:
        """Return them."""
        job = self.solved.frame.job
        code = job.code_of(self.member.said)
        level = code.second_order.load_level(job.design_of(self.member.said))
        return self._recovered(self.solved.second_order(combinations, level), level)

    def service(self, combinations: Sequence[Combination]) -> CombinedResults:
        """Return them under service combinations, of the frame in plumb."""
        return self._recovered(self.solved.second_order(combinations, 1.0, plumb=True), 1.0)

    @property
    def superposes(self) -> bool:
        """Whether load cases to the first order may be added."""
        return self.solved.superposes

    def _recovered(self, found: SecondOrder, level: float) -> CombinedResults:
        mark = self.member.mark
        chain = self.solved.model.chains[mark]
        return recovered(
            self.solved.model, chain, self.solved.loading.clamped[mark], found.state,
            found.factors, self.member, found.N[chain.elements] / level, found.share,
        )  # fmt: skip


def solution(frame: FrameOf) -> Solved:
    """Return a frame solved for all its cases, kept with it.

    Raises
    ------
    InputError
        If something of it moves without resistance.
    """
    if "solved" not in frame.known:
        model = model_of(frame)
        loading = loading_of(frame, model)
        try:
            loads = Loads.combined(loading, np.eye(len(loading.keys)))
            first = solve(model, model.stiffness(), loads)
        except Mechanism as found:
            where, way = loose(model, found.freedom)
            what = f"turns about {way[-1]}" if way.startswith("turn") else f"moves along {way}"
            raise InputError(
                f"{where}: {what} without resistance: the frame is a mechanism"
            ) from None
        frame.known["solved"] = Solved(frame, model, loading, first)
    solved: Solved = frame.known["solved"]
    return solved


# The second order


def second_order(
    solved: Solved, combinations: Sequence[Combination], level: float, plumb: bool = False
) -> SecondOrder:
    """Analyse each combination on the frame as it leans under it.

    The geometric stiffness of the axial forces times the level is found again until they stay, and
    so is which members carry that carry one way only.
    """
    model, loading = solved.model, solved.loading
    factors = np.array([[key.factor(c) for key in loading.keys] for c in combinations])
    factors = factors.reshape(len(combinations), len(loading.keys))
    loads = Loads.combined(loading, factors)
    pushed = np.zeros_like(loads.nodal)
    if not plumb:
        pushed = _imperfections(solved, combinations, loads.fixed, loads.nodal)
    loads = replace(loads, nodal=loads.nodal + pushed)
    plain = model.stiffness()
    first = solve(model, plain, loads)
    columns: list[State] = []
    share = np.zeros(len(combinations))
    forces = np.zeros((len(model.ends), len(combinations)))
    for c in range(len(combinations)):
        one = slice(c, c + 1)
        start = first.taken(one)
        state, N, carries = _converged(model, plain, loads.taken(one), start, level)
        columns.append(state if state is not None else start)
        stiff = plain if carries is None else model.stiffness(carries)
        share[c] = critical_share(model, stiff, N, beyond=state is None)
        forces[:, c] = N if state is not None else 0.0
    return SecondOrder(State.of(columns), factors, share, forces, pushed)


def _converged(
    model: Model, plain: Array, loads: Loads, state: State, level: float
) -> tuple[State | None, Array, Array | None]:
    """Return the state in which the axial forces stay, None beyond the critical load; and these.

    Last comes what share of its axial stiffness each element has, None where all have it whole.
    """
    N = level * state.N[:, 0]
    carries = _carrying(model, state, None)
    stiff = plain if carries is None else model.stiffness(carries)
    for _ in range(STEPS):
        try:
            state = solve(model, stiff + model.geometric(N), loads, carries)
        except Mechanism:
            return None, N, carries
        new, now = level * state.N[:, 0], _carrying(model, state, carries)
        settled = carries is None or now is None or bool((now == carries).all())
        if settled and np.abs(new - N).max() <= CLOSE * max(float(np.abs(new).max()), 1.0):
            return state, new, carries
        N = new
        if not settled and now is not None:
            carries, stiff = now, model.stiffness(now)
    return None, N, carries


def _carrying(model: Model, state: State, before: Array | None) -> Array | None:
    """Return the share of its axial stiffness that each element has; None where all have it whole.

    A member that carries one way only is slack where the line of its ends is shorter (or longer).
    """
    if not model.one_way.any():
        return None
    found = np.ones(len(model.ends)) if before is None else before.copy()
    for chain in model.chains.values():
        own = chain.elements
        way = int(model.one_way[own.start])
        if way:
            moved = state.movements[own, :, 0]
            stretch = float((moved[:, 6] - moved[:, 0]).sum())
            found[own] = SLACK if way * stretch < 0 else 1.0
    return found


def critical_share(model: Model, plain: Array, N: Array, beyond: bool) -> float:
    """Return the load over that at which the frame buckles elastically; 0 where nothing presses.

    The least factor of (K + factor Kg) v = 0.
    """
    if not np.any(N < 0):
        return 0.0
    numbers, free = model.numbers, ~model.held
    springs = np.zeros(model.freedoms)
    for freedom, spring in model.springs.items():
        springs[freedom] = spring
    elements = [model.in_freedoms(plain) + model.joined, model.in_freedoms(model.geometric(N))]
    if int(free.sum()) <= FEW:
        share = _largest_dense(elements, numbers, springs, free)
    else:
        share = _largest_sparse(elements, numbers, springs, free)
    share = max(share, 0.0)
    return max(share, 1.0 + 1e-6) if beyond else share


def _largest_dense(
    elements: Sequence[Array], numbers: Any, springs: Array, free: NDArray[np.bool_]
) -> float:
    from scipy.linalg import eigh

    whole = []
    for own in elements:
        K = np.zeros((len(free), len(free)))
        np.add.at(K, (numbers[:, :, None], numbers[:, None, :]), own)
        whole.append(K[np.ix_(free, free)])
    K, Kg = whole[0] + np.diag(springs[free]), whole[1]
    scale = 1.0 / np.sqrt(np.diag(K))
    last = len(K) - 1
    found = eigh(-Kg * scale[:, None] * scale, K * scale[:, None] * scale,
                 eigvals_only=True, subset_by_index=[last, last])  # fmt: skip
    return float(found[0])


def _largest_sparse(
    elements: Sequence[Array], numbers: Any, springs: Array, free: NDArray[np.bool_]
) -> float:
    from scipy.sparse import coo_array, diags_array
    from scipy.sparse.linalg import LinearOperator, eigsh, splu

    renumbered = np.where(free, np.cumsum(free) - 1, -1)[numbers]
    rows = np.broadcast_to(renumbered[:, :, None], elements[0].shape).ravel()
    columns = np.broadcast_to(renumbered[:, None, :], elements[0].shape).ravel()
    kept, count = (rows >= 0) & (columns >= 0), int(free.sum())
    K, Kg = (
        coo_array((own.ravel()[kept], (rows[kept], columns[kept])), shape=(count, count)).tocsc()
        for own in elements
    )
    K = K + diags_array(springs[free]).tocsc()
    scale = diags_array(1.0 / np.sqrt(K.diagonal()))
    K, Kg = (scale @ K @ scale).tocsc(), scale @ Kg @ scale
    factor = splu(K)
    # The largest of K^-1 (-Kg), symmetric in the product that K makes.
    inverse = LinearOperator((count, count), factor.solve)
    start = np.random.default_rng(0).standard_normal(count)
    found = eigsh(-Kg, k=1, M=K, Minv=inverse, which="LA", v0=start, tol=1e-8,
                  return_eigenvectors=False)  # fmt: skip
    return float(found[0])


def _imperfections(
    solved: Solved, combinations: Sequence[Combination], fixed: Array, nodal: Array
) -> Array:
    """Return the forces that stand for a frame out of plumb, shape (6 n, C)."""
    frame, model = solved.frame, solved.model
    found = np.zeros_like(nodal)
    if not frame.job.frame.imperfections:
        return found
    code = next(frame.job.code_of(member) for member in frame.members.values())
    z = model.places[:, 2]
    columns = [chain for chain in model.chains.values() if abs(chain.axes[0, 2]) > 0.9]
    tall = float(z.max() - z.min())
    if tall <= 0 or not columns:
        return found
    share = code.second_order.out_of_plumb(frame.job.design, tall, _in_a_row(columns))
    load = nodal - model.on_nodes(fixed)
    acting, leaning = model.of_nodes(load), model.of_nodes(found)
    down = -acting[:, 2]
    for c, combination in enumerate(combinations):
        if combination.leaning is not None:
            way, sense = combination.leaning
            at = "xy".index(way)
        else:  # as the loads push it
            sideways = acting[:, :2, c].sum(axis=0)
            at = int(np.argmax(np.abs(sideways)))
            sense = -1.0 if sideways[at] < 0 else 1.0
        leaning[:, at, c] += share * sense * down[:, c]
    return found


def _in_a_row(columns: Sequence[Chain]) -> int:
    """Return how many columns stand side by side: places in plan, of a frame in space its rows."""
    plan = {(round(c.member.said.frame.joints[c.member.said.through[0]].place[0]),
             round(c.member.said.frame.joints[c.member.said.through[0]].place[1]))
            for c in columns}  # fmt: skip
    return max(1, min(len({x for x, _ in plan}), len(plan)))


# Recovery


def recovered(
    model: Model,
    chain: Chain,
    clamped: Clamped,
    state: State,
    factors: Array,
    member: DesignMember,
    N: Array | None = None,
    share: Array | None = None,
) -> CombinedResults:
    """Return a member's diagrams from what its elements' ends do, exact between them.

    ``factors``, shape (C, L), are those of the cases that the state has in each of its C loads;
    ``N``, shape (e, C), the axial forces of its elements where bending is of the second order.
    """
    own = chain.elements
    forces, moved, carries = state.forces[own], state.movements[own], state.carries[own]
    places, lengths = chain.places, np.diff(chain.places)
    breaks, element = clamped.breaks, clamped.element
    # An interval in its element's coordinate: alpha + beta s.
    alpha = (breaks[:-1] - places[element]) / lengths[element]
    beta = np.diff(breaks) / lengths[element]
    k, j = np.arange(4), np.arange(4)[:, None]
    shift = np.where(k >= j, BINOMIAL * alpha[:, None, None] ** np.maximum(k - j, 0), 0.0)
    shift = shift * beta[:, None, None] ** j  # (I, 4, 4): coefficients in s from those in the other

    def local(c: Array) -> Array:
        """Return polynomials of elements, (e, K, C), as those of intervals, (C, I, K)."""
        K = c.shape[1]
        return np.asarray(np.einsum("ijk,ikc->cij", shift[:, :K, :K], c[element]))

    def bent(axis: str, at: int) -> BeamResult:
        base: BeamResult = getattr(clamped, axis).combine(factors)
        d1, s1, d2, s2 = (moved[:, at + i] for i in (0, 1, 6, 7))
        L = lengths[:, None]
        hermite = np.stack(
            [d1, s1 * L, 3 * (d2 - d1) - (2 * s1 + s2) * L, 2 * (d1 - d2) + (s1 + s2) * L], axis=1
        )
        deflection = _plus(base.deflection, local(hermite))
        slope = _plus(base.slope, _derived(local(hermite), breaks))
        M_1, M_2 = forces[:, at + 1], -forces[:, at + 7]
        if N is None:
            ends = _ends_of(base.moment, element, len(lengths))
            line = np.stack([M_1 - ends[0], M_2 - ends[1] - (M_1 - ends[0])], axis=1)
            more = local(line)
        else:
            # Compression times what the element sags beyond the line of its ends.
            sag = deflection.coefficients.copy()
            chord = local(np.stack([d1, d2 - d1], axis=1))
            sag[..., : chord.shape[-1]] -= chord
            P = -N[element].T
            ends = _ends_of(base.moment, element, len(lengths))
            line = np.stack([M_1 - ends[0], M_2 - ends[1] - (M_1 - ends[0])], axis=1)
            more = _summed(local(line), P[..., None] * sag)
        moment = _plus(base.moment, more)
        shear = _plus(base.shear, _derived(more, breaks))
        held = [s.at for s in member.supports_about(axis)]
        return BeamResult(shear, moment, slope, deflection, _reactions(shear, held), tuple(held))

    along = clamped.axial.combine(factors)
    pull = _plus(along, local((_gain(model, own, moved, 0, "EA") * carries)[:, None]))
    turning = _plus(
        clamped.torsion.combine(factors), local((_gain(model, own, moved, 5, "GJ"))[:, None])
    )
    major, minor = bent("major", 1), bent("minor", 3)
    # What rounding leaves of nothing is nothing: beside all moments, and beside all forces.
    moments = _size(major.moment) + _size(minor.moment) + _size(turning)
    pushes = _size(pull) + _size(major.shear) + _size(minor.shear)
    major, minor = (
        replace(
            one, moment=_without_trace(one.moment, moments), shear=_without_trace(one.shear, pushes)
        )
        for one in (major, minor)
    )
    pull, turning = _without_trace(pull, pushes), _without_trace(turning, moments)
    none = np.zeros(len(factors)) if share is None else share
    return CombinedResults(major, minor, pull, turning, none)


def _size(diagram: Diagram) -> Array:
    """Return the largest of a diagram's coefficients in each case, shape (C,)."""
    return np.asarray(np.abs(diagram.coefficients).max(axis=(1, 2), initial=0.0))


def _without_trace(diagram: Diagram, scale: Array) -> Diagram:
    """Return a diagram, zero in the cases in which it is nothing beside a scale."""
    there = _size(diagram) > TRACE * scale
    return Diagram(diagram.breaks, diagram.coefficients * there[:, None, None])


def _gain(model: Model, own: slice, moved: Array, at: int, stiff: str) -> Array:
    """Return what the movement of an element's ends adds along it, shape (e, C)."""
    stretch = moved[:, at + 6] - moved[:, at]
    return np.asarray((getattr(model, stiff)[own] / model.lengths[own])[:, None] * stretch)


def _summed(a: Array, b: Array) -> Array:
    few, many = sorted((a, b), key=lambda c: c.shape[-1])
    total = many.copy()
    total[..., : few.shape[-1]] += few
    return total


def _plus(diagram: Diagram, more: Array) -> Diagram:
    """Return a diagram with polynomials added, of shape (C, I, K)."""
    return Diagram(diagram.breaks, _summed(np.asarray(diagram.coefficients), more))


def _derived(c: Array, breaks: Array) -> Array:
    """Return the derivative by x of polynomials in the intervals."""
    orders = np.arange(1, c.shape[-1])
    return np.asarray(c[..., 1:] * orders / np.diff(breaks)[:, None])


def _ends_of(diagram: Diagram, element: Any, count: int) -> tuple[Array, Array]:
    """Return a diagram's values at the ends of elements, shape (e, C) each."""
    first = np.searchsorted(element, np.arange(count), side="left")
    last = np.searchsorted(element, np.arange(count), side="right") - 1
    c = diagram.coefficients
    return c[:, first, 0].T, c[:, last].sum(axis=-1).T


def _reactions(shear: Diagram, places: Sequence[float]) -> Array:
    """Return the upward force at places: by how much the shear jumps there, shape (C, S)."""
    c, breaks = shear.coefficients, shear.breaks
    found = np.zeros((len(c), len(places)))
    for i, at in enumerate(places):
        node = int(np.argmin(np.abs(breaks - at)))
        right = c[:, node, 0] if node < len(breaks) - 1 else 0.0
        left = c[:, node - 1].sum(axis=-1) if node > 0 else 0.0
        found[:, i] = right - left
    return found
