"""A frame as elements: nodes, freedoms, stiffness; members cut at joints and between them.

Every joint has six freedoms: moving along x, y and z, turning about them. Along a member e1 points
from its start to its end, e3 upwards as its web does, e2 across. An element's own freedoms at an
end are u along it, then deflection and slope in bending about its major and its minor axis, as
beams have them (deflection against e3, and against e2), and its twist.
"""

from __future__ import annotations

import functools
import itertools
import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from welbric.analysis.diagram import Array
from welbric.analysis.member_loads import AxialLineLoad, AxialLoad, Push
from welbric.analysis.stiffness import Stiffness, matrix, transposed
from welbric.errors import InputError
from welbric.inputs.frame import WAYS, FrameOf
from welbric.inputs.meeting import directions, ends_of
from welbric.inputs.member import Member
from welbric.members.design_member import DesignMember, stretches_of
from welbric.sections.table import Section
from welbric.standards.case import Elasticity

FREEDOMS = 6
OWN = 12  # freedoms of an element
# Sections that twist without warping: the others are open.
CLOSED = ("rectangular tube", "round tube", "welded box", "flat bar", "round bar")
LEVEL = 1e-6  # of its slope
# Of what buckles a length between pins, by which loads along it may change the axial force of an
# element: of one that is the whole length, and of several.
WHOLE, PART = 4.5e-4, 1.2e-4
MOST_PARTS = 16
PINS = 25.0  # times as much, where pins let it buckle in a shape that is even about its middle
WAY = {"both": 0, "tension": 1, "compression": -1}
# Of the six freedoms of an end: across the member, slopes, and about it.
SLIDES, SLOPES, TWIST = {"major": 1, "minor": 3}, {"major": 2, "minor": 4}, 5
Indices = NDArray[np.intp]
Kept = TypeVar("Kept")


@dataclass(frozen=True)
class Chain:
    """A member of a frame as a row of elements.

    Attributes
    ----------
    member : DesignMember
    nodes : array of int, shape (J + 1,)
        The numbers of its nodes, joints and those between them.
    places : array, shape (J + 1,), mm
        Where these are along it.
    first : int
        The number of its first element; the others follow.
    axes : array, shape (3, 3)
        e1, e2, e3 as rows.
    arms : array, shape (2, 3), mm
        From its first and last joint to its ends, which hang on them rigidly.
    """

    member: DesignMember
    nodes: Indices
    places: Array
    first: int
    axes: Array
    arms: Array

    @property
    def elements(self) -> slice:
        """The numbers of its elements."""
        return slice(self.first, self.first + len(self.nodes) - 1)


@dataclass(frozen=True)
class Model:
    """A frame cut into elements.

    Attributes
    ----------
    places : array, shape (n, 3), mm
        Of the nodes: the joints first, in their order.
    joints : dict of str to int
        Name -> node.
    chains : dict of str to Chain
        By the member's mark.
    ends : array of int, shape (E, 2)
        The nodes of each element.
    numbers : array of int, shape (E, 24)
        The freedoms of each element's nodes, and of its own that its ends leave free; the last
        freedom of the frame, which is held, where there is none.
    turn : array, shape (E, 12, 24)
        From those to an element's own freedoms.
    lengths : array, shape (E,), mm
    EA, GJ, EI_major, EI_minor : array, shape (E,)
    GA_major, GA_minor : array, shape (E,)
        In shear by bending about each axis; infinite where members do not yield to it.
    held : array of bool, shape (F,)
        Of all freedoms: six of each node, those left free at ends, and the one that is none.
    idle : array of bool, shape (F,)
        Of these, those that are held because nothing resists them: they take no part.
    springs : dict of int to float
    joined : array, shape (E, 24, 24)
        What springs between the elements' ends and their joints add to their stiffness.
    arms : array, shape (E, 24, 24)
        What an axial force of one, tension positive, adds as it turns the arms at their ends.
    one_way : array of int, shape (E,)
        1 of those that carry tension alone, -1 compression alone, 0 both.
    is_plane : bool
        Whether nothing moves along y.
    """

    places: Array
    joints: dict[str, int]
    chains: dict[str, Chain]
    ends: Indices
    numbers: Indices
    turn: Array
    lengths: Array
    EA: Array
    GJ: Array
    EI_major: Array
    EI_minor: Array
    GA_major: Array
    GA_minor: Array
    held: NDArray[np.bool_]
    idle: NDArray[np.bool_]
    springs: dict[int, float]
    joined: Array
    arms: Array
    one_way: Indices
    is_plane: bool
    known: dict[Any, Any] = field(default_factory=dict, init=False, repr=False)

    def kept(self, make: Callable[[Model], Kept]) -> Kept:
        """Return what is made of the model once, and kept with it."""
        if make not in self.known:
            self.known[make] = make(self)
        found: Kept = self.known[make]
        return found

    @property
    def of_joints(self) -> set[int]:
        """The nodes that are joints."""
        return set(self.joints.values())

    @property
    def freedoms(self) -> int:
        """How many freedoms there are, held or not."""
        return len(self.held)

    @functools.cached_property
    def freedom_places(self) -> Array:
        """Where the freedoms are, (F, 3): those that ends leave free, at their nodes."""
        found = np.zeros((self.freedoms, 3))
        found[self.numbers] = np.repeat(self.places[np.tile(self.ends, 2)], FREEDOMS, axis=1)
        return found

    @property
    def resisting(self) -> Array:
        """What springs add to the stiffness of each freedom, shape (F,)."""
        found = np.zeros(self.freedoms)
        found[list(self.springs)] = list(self.springs.values())
        return found

    def own_freedom(self, chain: Chain, last: bool, at: int) -> int | None:
        """Return the freedom of a member's end that moves apart from its joint, if it does.

        ``at`` is that of the six of an end: a key of `SLIDES` and `SLOPES`, or `TWIST`.
        """
        element = chain.elements.stop - 1 if last else chain.elements.start
        freedom = int(self.numbers[element, OWN + at + (6 if last else 0)])
        return freedom if freedom < self.freedoms - 1 else None

    def line(self, chain: Chain, x: Array | None = None) -> Array:
        """Return where places along a member are, (n, 3), mm; of its nodes by default."""
        start = self.places[chain.nodes[0]] + chain.arms[0]
        return np.asarray(start + np.outer(chain.places if x is None else x, chain.axes[0]))

    def of_nodes(self, values: Array) -> Array:
        """Return values of all freedoms, (F, ...), as those of nodes, (n, 6, ...), to write to."""
        count = FREEDOMS * len(self.places)
        return values[:count].reshape(-1, FREEDOMS, *values.shape[1:])

    def stiffness(self, carries: Array | float = 1.0, bends: Array | float = 1.0) -> Array:
        """Return the elements' own stiffness, shape (E, 12, 12).

        ``carries`` is the share of its axial stiffness that each has, shape (E,), and ``bends``
        that of its stiffness in bending.
        """
        k = np.zeros((len(self.ends), OWN, OWN))
        L = self.lengths
        for stiff, at in ((self.EA * carries, 0), (self.GJ, 5)):
            k[:, at, at] += stiff / L
            k[:, at + 6, at + 6] += stiff / L
            k[:, at, at + 6] -= stiff / L
            k[:, at + 6, at] -= stiff / L
        for axis, at in (("major", 1), ("minor", 3)):
            own = np.array([at, at + 1, at + 6, at + 7])
            EI, yields = getattr(self, f"EI_{axis}"), self.yields(axis)
            scale = bends * EI / (1 + yields) / L**3
            k[:, own[:, None], own] += _bending(scale, 12, 6, 4 + yields, 2 - yields, L)
        return k

    def yields(self, axis: str) -> Array:
        """Return 12 EI / (GA L^2) of bending about an axis: zero without yielding to shear."""
        EI, GA = getattr(self, f"EI_{axis}"), getattr(self, f"GA_{axis}")
        return np.asarray(12 * EI / (GA * self.lengths**2))

    def in_all(self, of_elements: Array) -> Any:
        """Return matrices of elements, (E, n, 24), one under another, of all freedoms, (E n, F)."""
        rows = np.arange(of_elements.shape[0] * of_elements.shape[1])
        rows = rows.reshape(*of_elements.shape[:2], 1)
        shape = (rows.size, self.freedoms)
        return matrix(rows, self.numbers[:, None], of_elements, shape)

    @functools.cached_property
    def turning(self) -> Any:
        """From all freedoms to those of the elements, one after another: a matrix, (12 E, F)."""
        return self.in_all(self.turn)

    @functools.cached_property
    def _turning_back(self) -> Any:
        return transposed(self.turning)

    def on_nodes(self, forces: Array) -> Array:
        """Return what forces at elements' ends, (E, 12, C), are in all freedoms, (F, C)."""
        flat = forces.reshape(len(self.ends) * OWN, forces.shape[-1])
        return np.asarray(self._turning_back @ flat)

    @functools.cached_property
    def elastic(self) -> Stiffness:
        """The stiffness of the whole, where nothing is slack nor softened."""
        return self._of_elements(self.elastic_in_freedoms)

    def assembled(self, k: Array) -> Stiffness:
        """Return the stiffness of the whole of elements of stiffness k, springs among them."""
        return self._of_elements(self.in_freedoms(k) + self.joined)

    def _of_elements(self, of_elements: Array) -> Stiffness:
        return Stiffness.assembled(
            self.numbers, of_elements, self.springs, self.freedoms, self.freedom_places
        )

    def in_freedoms(self, k: Array) -> Array:
        """Return stiffness of elements, (E, 12, 12), in the frame's freedoms, (E, 24, 24)."""
        return np.asarray(np.swapaxes(self.turn, 1, 2) @ k @ self.turn)

    @functools.cached_property
    def elastic_in_freedoms(self) -> Array:
        """The elements' stiffness in the frame's freedoms, springs at their ends too."""
        return self.in_freedoms(self.stiffness()) + self.joined

    @functools.cached_property
    def swaying(self) -> tuple[Indices, Array]:
        """What axial forces add where only the lines from joint to joint turn.

        That is what makes a frame sway; what makes its members bow is left out. Numbers, shape
        (S, 6), are the movements of the joints at the ends of each length between joints;
        stiffness, (S, 6, 6), is of a mean axial force of one.
        """
        joints = self.of_joints
        numbers, stiffness = [], []
        for chain in self.chains.values():
            stops = [i for i, node in enumerate(chain.nodes.tolist()) if node in joints]
            across = np.eye(3) - np.outer(chain.axes[0], chain.axes[0])
            for i, j in itertools.pairwise(stops):
                length = chain.places[j] - chain.places[i]
                ends = FREEDOMS * chain.nodes[[i, j]][:, None] + np.arange(3)
                numbers.append(ends.ravel())
                stiffness.append(np.kron([[1.0, -1.0], [-1.0, 1.0]], across) / length)
        return np.array(numbers), np.array(stiffness)


def _bending(scale: Array, a: Any, b: Any, c: Any, d: Any, L: Array) -> Array:
    """Return the stiffness of beams in bending by its coefficients."""
    one = np.ones_like(L)
    rows = [
        [a * one, b * L, -a * one, b * L],
        [b * L, c * L**2, -b * L, d * L**2],
        [-a * one, -b * L, a * one, -b * L],
        [b * L, d * L**2, -b * L, c * L**2],
    ]
    return np.asarray(scale[:, None, None] * np.moveaxis(np.array(rows), -1, 0))


def model_of(frame: FrameOf) -> Model:
    """Return a frame cut into elements."""
    joints = {name: number for number, name in enumerate(frame.joints)}
    places: list[tuple[float, ...]] = [joint.place for joint in frame.joints.values()]
    divisions = frame.job.frame.divisions
    leans = frame.job.frame.second_order == "analysed"
    if not leans:
        divisions = 1
    chains: dict[str, Chain] = {}
    ends: list[tuple[int, int]] = []
    for mark, said in frame.members.items():
        member = DesignMember(said, said.length, said.slope, stretches_of(said))
        start, end = (np.array(place) for place in ends_of(said, frame.joints))
        axis, length = end - start, member.length
        hung = [np.array(frame.joints[said.through[i]].place) for i in (0, -1)]
        arms = np.array([start - hung[0], end - hung[1]])
        known = {0.0: joints[said.through[0]], length: joints[said.through[-1]]}
        for name in said.through[1:-1]:
            known[math.dist(start, frame.joints[name].place)] = joints[name]
        fixed = _fixed(member, list(known))
        more = _parts(frame, member, fixed) if leans else 1
        stops = _stops(fixed, divisions * more)
        nodes = []
        for x in stops:
            near = next((node for at, node in known.items() if abs(at - x) < 1e-6 * length), None)
            if near is None:
                near = len(places)
                places.append(tuple(start + axis * (x / length)))
            nodes.append(near)
        chains[mark] = Chain(member, np.array(nodes), np.array(stops), len(ends),
                             axes_of(said, axis / length), arms)  # fmt: skip
        ends += list(itertools.pairwise(nodes))
    return _with_stiffness(frame, joints, np.array(places), chains, np.array(ends))


def _fixed(member: DesignMember, joints: list[float]) -> list[float]:
    """Return where a member is cut in any case: at its joints, and changes of section."""
    found = sorted({*joints, *(end for _, end, _ in member.stretches)})
    kept = [found[0]]
    for x in found[1:]:
        if x - kept[-1] > 1e-6 * member.length:
            kept.append(x)
    kept[-1] = member.length
    return kept


def _stops(fixed: list[float], divisions: int) -> list[float]:
    """Return these places, and those that divide the lengths between them."""
    found = [0.0]
    for a, b in itertools.pairwise(fixed):
        found += [a + (b - a) * k / divisions for k in range(1, divisions)] + [b]
    return found


def _parts(frame: FrameOf, member: DesignMember, fixed: list[float]) -> int:
    """Return into how many elements lengths are cut at least, for the loads along a member.

    The axial force is one in each element. What is wrong by that falls with the square of their
    number; in one that is the whole length, the load over the critical one is wrong by up to eight
    tenths of the change over what buckles the length.
    """
    longest = max(b - a for a, b in itertools.pairwise(fixed))
    slopes, share = abs(math.sin(member.slope)) > LEVEL, longest / member.length
    changes = 0.0
    if slopes and member.said.self_weight:
        changes += member.own_weight * longest * abs(math.sin(member.slope))
    for load in member.said.loads:
        if not slopes and load.compression is None and load.tension is None:
            continue
        for _, part in load.expanded(member.length, member.length, member.slope):
            match part:
                case AxialLineLoad():
                    most = max(abs(part.n_start), abs(part.n_end))
                    changes += most * (part.end - part.start) * share
                case Push():
                    changes += abs(part.F)
                case AxialLoad() if 0 < part.at < member.length:
                    changes += abs(part.N)
    if not changes:
        return 1
    axes = [member.said.axis_in_plane] if frame.is_plane else ["major", "minor"]
    weakest = min(getattr(s, f"I_{axis}") for s in member.sections for axis in axes)
    stiff = frame.job.code_of(member.said).elasticity.E * weakest
    buckles = (math.pi / longest) ** 2 * stiff
    counts = changes / buckles / (PINS if member.said.is_between_pins else 1.0)
    return 1 if counts <= WHOLE else min(math.ceil(math.sqrt(counts / PART)), MOST_PARTS)


def axes_of(said: Member, e1: Array) -> Array:
    """Return e1, e2 and e3 of a member along e1, its web as it says."""
    return np.array(directions(said.web, (float(e1[0]), float(e1[1]), float(e1[2]))))


def _with_stiffness(
    frame: FrameOf, joints: dict[str, int], places: Array, chains: dict[str, Chain], ends: Indices
) -> Model:
    every = list(chains.values())
    count, counts = len(ends), np.array([len(chain.nodes) - 1 for chain in every])
    of = np.repeat(np.arange(len(every)), counts)  # the chain of each element
    last = np.cumsum(counts) - 1
    first = last - counts + 1
    lengths = np.diff(np.concatenate([chain.places for chain in every]))
    lengths = np.delete(lengths, (last + np.arange(len(every)) + 1)[:-1])
    e1, e2, e3 = np.array([chain.axes for chain in every]).transpose(1, 0, 2)
    end = np.zeros((len(every), FREEDOMS, FREEDOMS))
    for at, way in ((0, e1), (1, -e3), (3, -e2)):
        end[:, at, :3] = way
    for at, way in ((2, e2), (4, -e3), (5, e1)):
        end[:, at, 3:] = way
    turn = np.zeros((count, OWN, OWN))
    turn[:, :6, :6] = turn[:, 6:, 6:] = end[of]
    arms: list[tuple[int, int, Array, Array]] = []
    for chain in every:
        if chain.arms.any():
            arms += _hung(chain, turn)
    released = np.zeros((count, OWN), dtype=bool)
    # Between joints, so that none twists what goes on beyond it.
    free = not frame.is_plane and frame.job.frame.twist == "free where open"
    untwisted = np.array([free and not _is_closed(chain.member) for chain in every])[of]
    released[:, 11] = untwisted & (ends[:, 1] < len(joints))
    springy: list[tuple[int, int, float]] = []
    for axis, at in SLOPES.items():
        pinned = np.array([chain.member.said.joined_about(axis) for chain in every]) == "pinned"
        released[first, at], released[last, at + 6] = pinned.T
    for chain in every:
        said, own = chain.member.said, (chain.elements.start, chain.elements.stop - 1)
        for element, at, words in zip(own, (0, 6), said.end_releases, strict=False):
            for word in words:
                kind, _, axis = word.partition(" ")
                released[element, at + (TWIST if kind == "torsion" else SLIDES[axis])] = True
        for element, at, spring in zip(own, (2, 8), said.end_springs, strict=False):
            released[element, at] = True
            springy.append((element, at, spring))
    one_way = np.array([WAY[chain.member.said.carries] for chain in every], dtype=np.intp)[of]
    held = np.zeros(FREEDOMS * len(places) + int(released.sum()) + 1, dtype=bool)
    held[-1] = True
    springs: dict[int, float] = {}
    for name, joint in frame.joints.items():
        base = FREEDOMS * joints[name]
        for way in joint.held:
            held[base + WAYS.index(way)] = True
        if joint.springs is not None:
            for way, freedom in zip(WAYS, range(FREEDOMS), strict=True):
                value = getattr(joint.springs, way.replace(" ", "_"))
                if value:
                    springs[base + freedom] = float(value)
    if frame.is_plane:  # nothing moves out of the plane, nor turns but within it
        held[: FREEDOMS * len(places)].reshape(-1, FREEDOMS)[:, [1, 3, 5]] = True
    stiff_ends = released.copy()
    for element, at, spring in springy:  # these resist what turns the joint
        stiff_ends[element, at] = not spring
    # Nor does a length that twists freely hold the joint at its start, that it ends as it would.
    starts = ends[:, 0] < len(joints)
    stiff_ends[:, 5] |= untwisted & starts
    by_supports = held.copy()
    _hold_what_nothing_turns(len(places), held, springs, ends, stiff_ends, turn)
    numbers, whole = _with_releases(len(places), len(held), ends, released, turn)
    joined = np.zeros((count, 2 * OWN, 2 * OWN))
    for element, at, spring in springy:  # between the end of the element and its joint
        apart = -np.concatenate([turn[element, at], np.zeros(OWN)])
        apart[OWN + at] = 1.0
        joined[element] += spring * np.outer(apart, apart)
    return Model(places, joints, chains, ends, numbers, whole, lengths, held=held,
                 idle=held & ~by_supports, springs=springs, joined=joined,
                 arms=_turning(arms, count), one_way=one_way, is_plane=frame.is_plane,
                 **_stiffnesses(frame, every))  # fmt: skip


def _stiffnesses(frame: FrameOf, chains: Sequence[Chain]) -> dict[str, Array]:
    """Return what elements resist with, one after another, by names of a `Model`, (E,) each."""
    known: dict[Any, tuple[float, ...]] = {}

    def of(mark: str, section: Section, steel: Elasticity, askew: bool) -> tuple[float, ...]:
        key = (section, steel, askew)
        if key not in known:
            # What bends about axes turned against these, between pins: as weakly as it may.
            major = section.I_minor if askew else section.I_major
            stiff = (steel.E * section.A, steel.G * section.J, steel.E * major,
                     steel.E * section.I_minor)  # fmt: skip
            areas = (np.inf, np.inf)
            if frame.job.frame.shear:
                if not hasattr(section, "shear_area_y"):
                    raise InputError(
                        f"{mark}: the shear area of {section.name} is not known: "
                        "leave [frame] shear out"
                    )
                areas = (section.shear_area_y, section.shear_area_x)
            known[key] = *stiff, steel.G * areas[0], steel.G * areas[1]
        return known[key]

    rows: list[tuple[float, ...]] = []
    for chain in chains:
        member = chain.member
        steel, askew = frame.job.code_of(member.said).elasticity, _bends_askew(member)
        own = [of(member.mark, section, steel, askew) for _, _, section in member.stretches]
        if len(own) == 1:
            rows += own * (len(chain.nodes) - 1)
            continue
        middle = 0.5 * (chain.places[:-1] + chain.places[1:])
        which = np.searchsorted([b for _, b, _ in member.stretches], middle)
        rows += [own[i] for i in which.tolist()]
    names = ("EA", "GJ", "EI_major", "EI_minor", "GA_major", "GA_minor")
    return dict(zip(names, np.array(rows).T.copy(), strict=True))


def _is_closed(member: DesignMember) -> bool:
    return all(section.shape in CLOSED for section in member.sections)


def _hung(chain: Chain, turn: Array) -> Iterator[tuple[int, int, Array, Array]]:
    """Yield each of a member's arms: its element, from which of its freedoms, and what pulls it.

    The element's ``turn`` is made to have it.
    """
    own, e1 = chain.elements, chain.axes[0]
    for element, at, arm in zip((own.start, own.stop - 1), (0, 6), chain.arms, strict=True):
        if arm.any():
            across = turn[element, at : at + 6, at : at + 3]
            turn[element, at : at + 6, at + 3 : at + 6] += np.cross(arm, across)
            yield element, at, arm, e1 if at == 0 else -e1


def _turning(arms: Sequence[tuple[int, int, Array, Array]], count: int) -> Array:
    """Return what an axial force of one adds as the arms turn that it acts on, (E, 24, 24).

    Turned by t, an arm r moves its end by t x (t x r) / 2 beyond what is linear in t; the force
    pulls at it along the member.
    """
    found = np.zeros((count, 2 * OWN, 2 * OWN))
    for element, at, arm, pull in arms:
        turns = slice(at + 3, at + 6)
        both = np.outer(pull, arm)
        found[element, turns, turns] = float(pull @ arm) * np.eye(3) - 0.5 * (both + both.T)
    return found


def _bends_askew(member: DesignMember) -> bool:
    rotated = any(section.has_rotated_axes for section in member.sections)
    return rotated and member.said.is_between_pins


def _with_releases(
    nodes: int, freedoms: int, ends: Indices, released: NDArray[np.bool_], turn: Array
) -> tuple[Indices, Array]:
    """Return the freedoms of each element, those that its ends leave free among them."""
    own = (FREEDOMS * ends[:, :, None] + np.arange(FREEDOMS)).reshape(len(ends), OWN)
    more = np.full((len(ends), OWN), freedoms - 1)
    more[released] = FREEDOMS * nodes + np.arange(int(released.sum()))
    whole = np.zeros((len(ends), OWN, 2 * OWN))
    whole[:, :, :OWN] = np.where(released[:, :, None], 0.0, turn)
    rows = np.arange(OWN)
    whole[:, rows, OWN + rows] = released
    return np.concatenate([own, more], axis=1), whole


def _hold_what_nothing_turns(
    nodes: int, held: NDArray[np.bool_], springs: dict[int, float], ends: Indices,
    released: NDArray[np.bool_], turn: Array,
) -> None:  # fmt: skip
    """Hold what turns at joints where every member is pinned: it takes no part, nor moves.

    Only a joint's turning about an axis that no element's end there resists is held.
    """
    resists = np.zeros((nodes, 3, 3))
    for end, first in enumerate((0, 6)):
        own = slice(first, first + 6)
        axes = turn[:, own, first + 3 : first + 6] * ~released[:, own, None]
        np.add.at(resists, ends[:, end], np.swapaxes(axes, 1, 2) @ axes)
    free = FREEDOMS * np.arange(nodes)[:, None] + np.arange(3, 6)
    idle = free[~resists.any(axis=2)]
    held[np.setdiff1d(idle, list(springs))] = True


def loose(model: Model, freedom: int) -> tuple[str, str]:
    """Return the joint, or the member, and the way that a freedom is of."""
    node, way = divmod(freedom, FREEDOMS)
    if node >= len(model.places):
        element = int(np.flatnonzero((model.numbers == freedom).any(axis=1))[0])
        mark = next(
            m for m, c in model.chains.items() if c.elements.start <= element < c.elements.stop
        )
        return f"member {mark}", "turn at an end"
    names = {number: name for name, number in model.joints.items()}
    if node in names:
        return f"joint {names[node]}", WAYS[way]
    mark = next(m for m, chain in model.chains.items() if node in chain.nodes)
    return f"member {mark}", WAYS[way]


def of_loads(values: Array, which: Any) -> Array:
    """Return the values of some loads, the last axis, in the order of memory that all have.

    Numpy's indexing leaves each load's apart: an order that slows down all that follows.
    """
    if isinstance(which, slice) or np.ndim(which) == 0:
        return values[..., which]
    which = np.asarray(which)
    if which.dtype == bool:
        which = np.flatnonzero(which)
    count = values.shape[-1]
    every = len(which) == count and bool((which == np.arange(count)).all())
    return values.copy() if every else values.take(which, axis=-1)


def own_movements(model: Model, moved: Any) -> Array:
    """Return the elements' own movements, shape (E, 12, L), of those of all freedoms, (F, L)."""
    return np.asarray(model.turning @ moved).reshape(len(model.ends), OWN, moved.shape[-1])
