"""What a frame does as a whole: its stability, its balance, how its joints and storeys move."""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array
from welbric.checking.frame_forces import (
    PLACES,
    WAYS,
    axial_extremes,
    force_records,
    place_records,
)
from welbric.documents import records
from welbric.documents.blocks import Block, Cell, Column, Document, Table, Words, paragraph
from welbric.effects.load_cases import load_cases, strength_combinations
from welbric.errors import InputError
from welbric.frames.loads import Loading
from welbric.frames.model import FREEDOMS, Model
from welbric.frames.second_order import SecondOrder
from welbric.frames.solve import solution
from welbric.frames.states import Stands, State
from welbric.frames.storeys import drifts_of, levels_of, stands
from welbric.inputs.frame import FrameOf
from welbric.inputs.job import Job
from welbric.inputs.member import Member
from welbric.loads.combinations import Combination, name_of
from welbric.members.resolve import resolve
from welbric.units import DisplayUnits, digits

if TYPE_CHECKING:
    import pandas

ROWS = 12  # joints, and members, that are printed
TRACE = 1e-6  # of the largest axial force


@dataclass(frozen=True)
class Storey:
    """A storey: between two levels that columns reach.

    Attributes
    ----------
    bottom, top : float, mm
    drift : array, shape (C,), mm
        The largest movement of its top against its bottom, along x or y.
    first_order : array, shape (C,), mm
        The same without the second order.
    along : array of int, (C,)
        Which way it is: 0 along x, 1 along y.
    load : array, shape (C,), N
        What acts downwards above its middle, less what supports there take.
    shear : array, shape (C, 2), N
        What acts sideways there, along x and y.
    """

    bottom: float
    top: float
    drift: Array
    first_order: Array
    along: NDArray[np.intp]
    load: Array
    shear: Array

    @property
    def stiffness(self) -> Array:
        """The shear that goes with the drift, over it, N/mm, shape (C,); NaN without drift."""
        shear = np.abs(np.take_along_axis(self.shear, self.along[:, None], axis=1)[:, 0])
        return np.where(self.drift > 0, shear / np.where(self.drift > 0, self.drift, 1.0), np.nan)


@dataclass(frozen=True, repr=False)
class FrameResults:
    """What a frame does under each strength combination.

    Attributes
    ----------
    frame : FrameOf
    combinations : list of Combination, C of them
    share : array, shape (C,)
        The load over that at which the frame buckles elastically.
    joints : list of str, n of them
    moved : array, shape (C, n, 6), mm and radians
    supports : list of str, S of them
    reactions : array, shape (C, S, 6), N and N mm
        What the supports do to the frame, along and about x, y and z.
    applied : array, shape (C, 3), N
        What acts on it in all, out of plumb included.
    storeys : list of Storey, from the lowest
    state : State
        Of every node and element.
    on : Stands
        What the second order stands on, axial forces of the elements times its level among it.
    """

    frame: FrameOf
    combinations: list[Combination]
    share: Array
    joints: list[str]
    moved: Array
    supports: list[str]
    reactions: Array
    applied: Array
    storeys: list[Storey]
    state: State
    on: Stands

    def __repr__(self) -> str:
        worst = self.combinations[int(np.argmax(self.share))].name
        return (
            f"<frame of {len(self.frame.members)} members, {len(self.joints)} joints: "
            f"{digits(float(self.share.max()))} of its critical load under {worst}>"
        )

    def moved_frame(self) -> pandas.DataFrame:
        """Return how every joint moves under every combination, mm and radians, in pandas."""
        return records.frame(place_records(self.joints, "joint", self.moved, self.combinations))

    def reaction_frame(self) -> pandas.DataFrame:
        """Return what every support gives under every combination, N and N mm, in pandas."""
        own = place_records(self.supports, "support", self.reactions, self.combinations)
        return records.frame(own)

    def force_frame(self, places: int = PLACES, marks: Sequence[str] = ()) -> pandas.DataFrame:
        """Return the forces along members under every combination, N, mm and N mm, in pandas.

        At so many places along each, its ends among them; of all members by default.
        """
        return records.frame(force_records(self.frame, self.combinations, places, marks))

    @property
    def residual(self) -> Array:
        """What is left of applied forces and reactions, over the largest of them, shape (C,)."""
        left = self.applied + self.reactions[..., :3].sum(axis=1)
        most = np.maximum(np.abs(self.applied).max(axis=1), 1.0)
        return np.asarray(np.abs(left).max(axis=1) / most)


def member_of_frame(job: Job) -> Member:
    """Return the first member of a job's frame.

    Raises
    ------
    InputError
        If the job has no frame.
    """
    found = next((member for member in job.members if member.frame is not None), None)
    if found is None:
        raise InputError("the job has no frame: give joints, and members through them")
    return found


def frame_results(job: Job) -> FrameResults:
    """Return what the frame of a job does as a whole, combination by combination.

    Raises
    ------
    InputError
        If the job has no frame, nothing acts on it, or it is a mechanism.
    """
    said = member_of_frame(job)
    frame: FrameOf = said.frame
    solved, member = solution(frame), resolve(said)
    code = job.code_of(said)
    combinations = strength_combinations(job, member, load_cases(member, code.elasticity))
    if not combinations:
        raise InputError("nothing acts on the frame")
    factors = np.array([[key.factor(c) for key in solved.loading.keys] for c in combinations])
    found = solved.second_order(combinations, code.second_order.load_level(job.design_of(said)))
    model = solved.model
    load = _all_loads(model, solved.loading, factors) + found.pushed
    inner = model.on_nodes(found.state.forces)
    own = model.on_nodes(solved.loading.fixed @ factors.T)
    left = inner - (load + own)  # of nodal loads alone: forces hold those between the nodes
    supports = frame.supports()
    at = [model.joints[name] for name in supports]
    reactions = np.moveaxis(model.of_nodes(left)[at], -1, 0)
    moved = np.moveaxis(model.of_nodes(found.state.moved)[: len(frame.joints)], -1, 0)
    applied = model.of_nodes(load)[:, :3].sum(axis=0).T
    return FrameResults(
        frame, combinations, found.share, list(frame.joints), moved, supports, reactions, applied,
        _storeys(frame, model, found, load, reactions), found.state, found.on,
    )  # fmt: skip


def _all_loads(model: Model, loading: Loading, factors: Array) -> Array:
    """Return what acts on the nodes, that between them included, shape (F, C)."""
    return np.asarray((loading.nodal - model.on_nodes(loading.fixed)) @ factors.T)


def axial_document(found: FrameResults, show: DisplayUnits) -> Document:
    """Return the largest tension and compression of every member, with their combinations."""
    force = show.labels["force"]
    heads = ["member", "section", f"tension, {force}", "under", f"compression, {force}", "under"]
    right = {2, 4}
    grid = Table([Column(head, right=i in right, wraps=True) for i, head in enumerate(heads)],
                 title="Axial forces")  # fmt: skip
    reverse = 0
    for mark, (pull, a, push, b) in axial_extremes(found.frame, found.state).items():
        section = solution(found.frame).model.chains[mark].member.section_names
        reverse += pull > 0 > push
        words: list[Cell] = []
        for value, c in ((pull, a), (-push, b)):
            there = value > 0
            words.append(f"{show.convert(value, 'force'):,.3g}" if there else "–")
            words.append(found.combinations[c].name if there else "")
        grid.add(mark, section, *words)
    both = "1 member is" if reverse == 1 else f"{reverse} members are"
    return [grid, paragraph(f"{both} in tension under some combinations and in compression under "
                            "others; each is checked for both.", "dim")]  # fmt: skip


def _storeys(
    frame: FrameOf, model: Model, of: SecondOrder, load: Array, reactions: Array
) -> list[Storey]:
    """Return the storeys between levels that columns reach, with what acts above, (F, C)."""
    standing = [c for c in model.chains.values() if stands(c)]
    acting = model.of_nodes(load.copy())[:, :3]
    held = [model.joints[name] for name in frame.supports()]
    acting[held] += np.moveaxis(reactions[..., :3], 0, -1)
    found = []
    for bottom, top in itertools.pairwise(levels_of(frame, model)):
        drifts = []
        for moved in (of.state.moved, of.first_moved):
            most = np.zeros((2, len(of.factors)))
            for chain in standing:
                moves = drifts_of(model, chain, bottom, top, moved)
                if moves is not None:
                    most = np.maximum(most, np.abs(moves))
            drifts.append(most)
        second, first = (most.max(axis=0) for most in drifts)
        x, y, z = acting[model.places[:, 2] > 0.5 * (bottom + top)].sum(axis=0)
        along, shear = np.argmax(drifts[0], axis=0), np.stack([x, y], axis=1)
        found.append(Storey(bottom, top, second, first, along, -z, shear))
    return found


# Shown


def frame_document(found: FrameResults, show: DisplayUnits) -> Document:
    """Return the frame as a whole: combinations, storeys, joints."""
    frame = found.frame
    kind = "plane" if frame.is_plane else "space"
    title = f"{frame.job.name}: {kind} frame, {len(frame.members)} members, "
    blocks: list[Block] = [paragraph(title + f"{len(found.joints)} joints", "strong")]
    blocks += [_combinations(found, show), _supports(found, show)]
    if found.storeys:
        blocks.append(_of_storeys(found, show))
    blocks.append(_of_joints(found, show))
    if (lengths := _buckling_lengths(found, show)) is not None:
        blocks.append(lengths)
    if float(found.residual.max()) > 1e-6:
        blocks.append(paragraph("The reactions do not balance what acts: see the residual.", "bad"))
    return blocks


def _combinations(found: FrameResults, show: DisplayUnits) -> Table:
    force = show.labels["force"]
    heads = ["combination", "load over critical", f"down, {force}", f"along x, {force}",
             f"along y, {force}", "residual"]  # fmt: skip
    plane = found.frame.is_plane
    keep = [i for i in range(6) if not (plane and i == 4)]
    grid = Table([Column(heads[i], right=i > 0, wraps=True) for i in keep], title="Balance")
    for c, combination in enumerate(found.combinations):
        U = float(found.share[c])
        x, y, z = (show.convert(v, "force") for v in found.applied[c])
        cells: list[Cell] = [
            combination.name,
            Words(f"{U:.3f}" if U else "–", "bad" if U > 1 else ""),
            f"{-z:,.1f}",
            f"{x:,.2f}",
            f"{y:,.2f}",
            f"{found.residual[c]:.0e}",
        ]
        grid.add(*(cells[i] for i in keep))
    return grid


def _supports(found: FrameResults, show: DisplayUnits) -> Table:
    force, moment = show.labels["force"], show.labels["moment"]
    plane = found.frame.is_plane
    ways = ["x", "z", "about y"] if plane else ["x", "y", "z", "about x", "about y", "about z"]
    which = [0, 2, 4] if plane else list(range(FREEDOMS))
    heads = [f"{way}, {moment if 'about' in way else force}" for way in ways]
    grid = Table([Column("support"), *(Column(h, right=True, wraps=True) for h in heads)],
                 title="Reactions, least and most")  # fmt: skip
    for s, name in enumerate(found.supports):
        cells = []
        for i in which:
            values = found.reactions[:, s, i]
            size = "moment" if i >= 3 else "force"
            low, high = (show.convert(float(v), size) for v in (values.min(), values.max()))
            cells.append("–" if max(abs(low), abs(high)) < 5e-4 else f"{low:,.1f} to {high:,.1f}")
        grid.add(name, *cells)
    return grid


def _of_storeys(found: FrameResults, show: DisplayUnits) -> Table:
    unit, force, spring = (show.labels[kind] for kind in ("dimension", "force", "spring"))
    grid = Table(
        [Column("storey"), Column(f"largest drift, {unit}", right=True, wraps=True),
         Column("of its height", right=True, wraps=True), Column("combination", wraps=True),
         Column("over the first order", right=True, wraps=True),
         Column(f"load above, {force}", right=True, wraps=True),
         Column(f"shear, {force}", right=True, wraps=True),
         Column(f"over the drift, {spring}", right=True, wraps=True)],
        title="Storeys, under strength combinations",
    )  # fmt: skip
    for storey in found.storeys:
        c = int(np.argmax(storey.drift))
        drift, height = float(storey.drift[c]), storey.top - storey.bottom
        at_all = storey.first_order[c] > 1e-9
        ratio = f"{drift / float(storey.first_order[c]):.2f}" if at_all else "–"
        levels = " to ".join(show.show(z, "length", 3) for z in (storey.bottom, storey.top))
        of = f"1/{height / drift:,.0f}" if drift > 0 else "–"
        way, stiff = int(storey.along[c]), float(storey.stiffness[c])
        grid.add(levels, f"{show.convert(drift, 'dimension'):.3g} {'xy'[way]}" if drift else "–",
                 of, found.combinations[c].name, ratio,
                 f"{show.convert(float(storey.load[c]), 'force'):,.1f}",
                 f"{show.convert(float(storey.shear[c, way]), 'force'):,.1f}",
                 digits(show.convert(stiff, "spring")) if stiff > 0 else "–")  # fmt: skip
    return grid


def buckling_factors(found: FrameResults, c: int) -> dict[str, dict[str, float]]:
    """Return for what length a column would buckle alone as the frame does, over its own.

    Of members in compression, about both axes, or ``"in plane"`` of a plane frame: pi / L times the
    root of EI over the critical load, which is the member's axial force over the combination's
    share.

    Parameters
    ----------
    found : FrameResults
    c : int
        The combination's number.
    """
    share = float(found.share[c])
    model, found_of = solution(found.frame).model, {}
    for mark, chain in model.chains.items():
        own = chain.elements
        pressed = -float(found.on.N[own, c].min())
        if share <= 0 or pressed <= TRACE * float(np.abs(found.on.N[:, c]).max()):
            continue
        element = own.start + int(np.argmin(found.on.N[own, c]))
        joined = [i for i, node in enumerate(chain.nodes.tolist()) if node in model.of_joints]
        i = max(k for k in joined if k <= element - own.start)
        j = min(k for k in joined if k > element - own.start)
        length = float(chain.places[j] - chain.places[i])
        own_axis = {"in plane": chain.member.said.axis_in_plane}
        axes = own_axis if found.frame.is_plane else {"major": "major", "minor": "minor"}
        found_of[mark] = {"N": pressed, "length": length} | {
            name: math.pi / length * math.sqrt(float(getattr(model, f"EI_{axis}")[element])
                                               * share / pressed)
            for name, axis in axes.items()
        }  # fmt: skip
    return found_of


def _buckling_lengths(found: FrameResults, show: DisplayUnits) -> Table | None:
    """Return the buckling lengths that the critical load stands for, of what buckles first."""
    c = int(np.argmax(found.share))
    factors = buckling_factors(found, c)
    if not factors:
        return None
    axes = ("in plane",) if found.frame.is_plane else ("major", "minor")
    ranked = sorted(factors, key=lambda mark: min(factors[mark][axis] for axis in axes))[:ROWS]
    grid = Table(
        [Column("member"),
         Column(f"between joints, {show.labels['length']}", right=True, wraps=True),
         *(Column(f"K about {axis}" if len(axes) > 1 else "K", right=True) for axis in axes)],
        title="Buckling lengths over those between joints, for information, as the frame buckles "
              f"under {found.combinations[c].name} (the larger, the less it takes part)",
    )  # fmt: skip
    for mark in ranked:
        own = factors[mark]
        grid.add(mark, f"{show.convert(own['length'], 'length'):.3g}",
                 *(f"{own[axis]:.2f}" for axis in axes))  # fmt: skip
    return grid


def _of_joints(found: FrameResults, show: DisplayUnits) -> Table:
    unit = show.labels["dimension"]
    ways = ("x", "z") if found.frame.is_plane else ("x", "y", "z")
    which = [0, 2] if found.frame.is_plane else [0, 1, 2]
    most = np.abs(found.moved[..., which]).max(axis=(0, 2))
    order = np.argsort(-most, kind="stable")[:ROWS]
    grid = Table([Column("joint"), *(Column(f"{way}, {unit}", right=True) for way in ways)],
                 title="Joints that move most, least and most of all combinations")  # fmt: skip
    for j in sorted(order.tolist()):
        cells = []
        for i in which:
            values = found.moved[:, j, i]
            low, high = (show.convert(float(v), "dimension") for v in (values.min(), values.max()))
            cells.append(f"{low:.3g} to {high:.3g}" if max(abs(low), abs(high)) > 1e-6 else "–")
        grid.add(found.joints[j], *cells)
    return grid


def frame_records(found: FrameResults) -> dict[str, object]:
    """Return the whole as plain values, in N, N mm, mm and radians."""
    return {
        "combinations": [
            {
                "name": one.name,
                "load_over_critical": float(found.share[c]),
                "applied": dict(zip(WAYS, found.applied[c].tolist(), strict=False)),
                "residual": float(found.residual[c]),
                "reactions": {
                    name: dict(zip(WAYS, found.reactions[c, s].tolist(), strict=True))
                    for s, name in enumerate(found.supports)
                },
                "moved": {
                    name: dict(zip(WAYS, found.moved[c, j].tolist(), strict=True))
                    for j, name in enumerate(found.joints)
                },
            }
            for c, one in enumerate(found.combinations)
        ],
        "storeys": [
            {
                "bottom": one.bottom,
                "top": one.top,
            }
            | {
                name: dict(zip((c.name for c in found.combinations), values.tolist(), strict=True))
                for name, values in (
                    ("drift", one.drift), ("load", one.load), ("shear_x", one.shear[:, 0]),
                    ("shear_y", one.shear[:, 1]),
                )
            }
            for one in found.storeys
        ],
        "axial": {
            mark: {
                "tension": max(pull, 0.0), "tension_under": found.combinations[a].name,
                "compression": max(-push, 0.0), "compression_under": found.combinations[b].name,
            }
            for mark, (pull, a, push, b) in axial_extremes(found.frame, found.state).items()
        },
        "cases": sorted({name_of(key.case) for key in solution(found.frame).loading.keys}),
    }  # fmt: skip
