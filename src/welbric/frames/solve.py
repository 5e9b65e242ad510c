"""The analysis of a frame: every case to the first order, combinations to the second."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array
from welbric.analysis.stiffness import Mechanism
from welbric.errors import InputError
from welbric.frames.critical import critical_shares
from welbric.frames.loads import Loading, loading_of
from welbric.frames.model import Model, loose, model_of
from welbric.frames.recovery import Part, parts_of, recovered
from welbric.frames.second_order import SecondOrder, second_order
from welbric.frames.spinning import refuse_loads_on_what_spins, without_spinning
from welbric.frames.states import Loads, State, solve
from welbric.inputs.frame import FrameOf
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import CombinedResults, LoadCases

# What of a member a frame's forces depend on, beside its sections.
TELLING = (
    "through", "loads", "ends", "ends_minor", "end_springs", "end_releases", "carries", "web",
    "self_weight", "offsets", "role", "standard", "pattern",
)  # fmt: skip
TOGETHER = 6_000  # combinations of members of which what happens along them is found at once


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
    known: dict[Any, SecondOrder] = field(default_factory=dict)
    sways: dict[Any, Array] = field(default_factory=dict)
    along: dict[tuple[int, str], CombinedResults] = field(default_factory=dict)

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
        keys = self.loading.keys

        def alone() -> CombinedResults:
            part = Part(member, chain, self.loading.clamped[member.mark])
            return recovered(self.model, [part], self.first, np.eye(len(keys)))[0]

        return LoadCases(keys, alone, frame=CombinedOf(self, member))

    def second_order(
        self, combinations: Sequence[Combination], level: float, plumb: bool = False
    ) -> SecondOrder:
        """Return what the combinations do, each once, to the order that the frame asks for.

        ``plumb`` leaves out what stands for the frame out of plumb.
        """
        names = tuple(one.name for one in combinations)
        key = (names, level, plumb)
        if key not in self.known:
            self.known[key] = self._analysed(names, combinations, level, plumb)
        return self.known[key]

    def _analysed(
        self, names: tuple[str, ...], combinations: Sequence[Combination], level: float, plumb: bool
    ) -> SecondOrder:
        """Analyse combinations; those that the whole of another list has are taken from there."""

        def found(some: Sequence[Combination]) -> SecondOrder:
            return second_order(
                self.frame, self.model, self.loading, self.first, some, level, plumb
            )

        code, options = self.frame.code
        # How much a frame leans may follow from all combinations together.
        alone = code.second_order.pushed_besides(options) is None
        of_level = {known: of for (known, *how), of in self.known.items() if how == [level, plumb]}
        before = max((one for one in of_level if set(one) < set(names)), key=len, default=())
        if not alone or not before:
            return found(combinations)
        rest = [one for one in combinations if one.name not in before]
        every = [*before, *(one.name for one in rest)]
        order = [every.index(name) for name in names]
        return SecondOrder.joined(of_level[before], found(rest), order)

    def sway(self, combinations: Sequence[Combination], level: float) -> Array:
        """Return the loads over those at which the frame sways, its members straight, (C,)."""
        key = (tuple(one.name for one in combinations), level)
        if key not in self.sways:
            found = self.second_order(combinations, level)
            self.sways[key] = critical_shares(self.model, found.on, swaying=True)
        return self.sways[key]

    def recovered(self, found: SecondOrder, mark: str) -> CombinedResults:
        """Return what combinations do along a member; it is found of some members at once."""
        key = (id(found), mark)
        if key not in self.along:
            marks = list(self.model.chains)
            count = max(TOGETHER // max(len(found.factors), 1), 1)
            first = marks.index(mark) // count * count
            some = marks[first : first + count]
            parts = parts_of(self.model, self.loading, some)
            N = None
            if found.is_second:  # beyond the critical load forces are of the first order
                N = found.N * ~found.beyond
            results = recovered(self.model, parts, found.state, found.factors, N, found.bowed)
            self.along |= {(id(found), one): of for one, of in zip(some, results, strict=True)}
        return self.along[key]

    @property
    def bowing(self) -> list[str]:
        """The members that bow from the start under some combination that was asked for."""
        found = [one.bowed for one in self.known.values() if one.bowed is not None]
        chains = self.model.chains.items()
        return [mark for mark, c in chains if any(np.any(one[c.elements]) for one in found)]

    @property
    def may_bow(self) -> bool:
        """Whether a standard of its members wants their bows in the analysis, where they count."""
        job = self.frame.job
        return any(
            job.code_of(said).second_order.bows is not None for said in self.frame.members.values()
        )

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
class CombinedOf:
    """A member's forces in combinations, as its frame is analysed."""

    solved: Solved
    member: DesignMember

    def combined(self, combinations: Sequence[Combination]) -> CombinedResults:
        """Return them."""
        job = self.solved.frame.job
        code = job.code_of(self.member.said)
        options = job.design_of(self.member.said)
        level = code.second_order.load_level(options)
        found = self.solved.second_order(combinations, level)
        results = self._recovered(found)
        if found.is_second and code.second_order.sway_limits(options) is not None:
            return replace(results, sway=self.solved.sway(combinations, level))
        return results

    def service(self, combinations: Sequence[Combination]) -> CombinedResults:
        """Return them under service combinations, of the frame in plumb."""
        return self._recovered(self.solved.second_order(combinations, 1.0, plumb=True))

    def has_bows(self, combinations: Sequence[Combination]) -> Sequence[bool]:
        """Return under which of them a member of the frame bows from the start."""
        job, said = self.solved.frame.job, self.member.said
        if job.frame.second_order != "analysed" or not self.solved.may_bow:
            return [False] * len(combinations)
        level = job.code_of(said).second_order.load_level(job.design_of(said))
        bowed = self.solved.second_order(combinations, level).bowed
        if bowed is None:
            return [False] * len(combinations)
        return [bool(np.any(bowed[..., c])) for c in range(len(combinations))]

    @property
    def superposes(self) -> bool:
        """Whether load cases to the first order may be added."""
        return self.solved.superposes

    def _recovered(self, found: SecondOrder) -> CombinedResults:
        results = self.solved.recovered(found, self.member.mark)
        if found.is_second:
            return replace(results, critical=found.critical)
        return replace(results, sway=found.share, unbowed=found.unbowed)


def _solved(model: Model, loads: Loads) -> tuple[Model, State]:
    """Solve a model; where it moves without resistance, with what merely spins held."""
    try:
        return model, solve(model, loads)
    except Mechanism:
        calm = without_spinning(model)
        if calm is None:
            raise
        return calm, solve(calm, loads)


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
            calm, first = _solved(model, Loads.combined(loading, np.eye(len(loading.keys))))
        except Mechanism as found:
            where, way = loose(model, found.freedom)
            what = f"turns about {way[-1]}" if way.startswith("turn") else f"moves along {way}"
            raise InputError(
                f"{where}: {what} without resistance: the frame is a mechanism"
            ) from None
        refuse_loads_on_what_spins(calm, loading, first)
        frame.known["solved"] = Solved(frame, calm, loading, first)
    solved: Solved = frame.known["solved"]
    return solved


def free_motion(frame: FrameOf) -> tuple[Model, Loading, State] | None:
    """Return a frame as elements and how it moves without resistance; None if it does not."""
    model = model_of(frame)
    loading = loading_of(frame, model)
    try:
        _solved(model, Loads.combined(loading, np.eye(len(loading.keys))))
    except Mechanism as found:
        return model, loading, State.of_motion(model, found.motion[:, None])
    return None
