"""What a designer says of a frame: its joints, what acts on them, how it is analysed."""

from __future__ import annotations

import itertools
import math
from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Annotated, Any, Literal, Protocol

import numpy as np
from pydantic import Field, field_validator, model_validator

from welbric.errors import InputError, Problem, did_you_mean, wrong
from welbric.inputs.actions import Alternative, known_case
from welbric.inputs.decks import Deck, spread
from welbric.inputs.deflection_limits import DeflectionLimits
from welbric.inputs.descriptions import (
    Described,
    Dimension,
    Force,
    Lengths,
    Moment,
    RotationSpring,
    Spring,
)
from welbric.inputs.joint_limits import JointLimit, limit_problems
from welbric.inputs.meeting import (
    STRAIGHT,
    UPRIGHT,
    crossings,
    directions,
    ends_of,
    firm_members,
    holds_of,
    in_line,
    line_through,
    lying_on,
    off_line,
    way_between,
)
from welbric.inputs.webs import turned
from welbric.units import both

if TYPE_CHECKING:
    from welbric.inputs.member import Member
    from welbric.standards.options import Options
    from welbric.standards.standard import Standard

Way = Literal["x", "y", "z", "turn x", "turn y", "turn z"]
WAYS: tuple[Way, ...] = ("x", "y", "z", "turn x", "turn y", "turn z")
SUPPORTS: Mapping[str, tuple[Way, ...]] = {"fixed": WAYS, "pinned": ("x", "y", "z")}
SAME_JOINT = SAME_LEVEL = 1.0  # mm
EVEN = 1e-9  # of a direction that is as near to x as to y


class JointSprings(Described):
    """Springs that hold a joint, to move along an axis or to turn about one."""

    x: Spring | None = None
    y: Spring | None = None
    z: Spring | None = None
    turn_x: RotationSpring | None = None
    turn_y: RotationSpring | None = None
    turn_z: RotationSpring | None = None


class Joint(Described):
    """A joint: where it is, and what holds it.

    ``at`` is x and z of a plane frame, or x, y and z of one in space; z is upwards. ``support`` is
    ``"fixed"``, ``"pinned"`` or a list of what it holds: ``"x"``, ``"z"``, ``"turn y"``, ...; in a
    plane frame ``"y"`` says that something holds the joint across the plane.
    """

    name: Annotated[str, Field(min_length=1, max_length=40)]
    at: Lengths
    support: Literal["fixed", "pinned"] | list[Way] | None = None
    springs: JointSprings | None = None

    @field_validator("at")
    @classmethod
    def _two_or_three(cls, value: list[float]) -> list[float]:
        if len(value) not in (2, 3):
            raise ValueError("a place is x and z in a plane, or x, y and z in space")
        return value

    @property
    def place(self) -> tuple[float, float, float]:
        """x, y and z, mm."""
        x, *y, z = self.at
        return (x, y[0] if y else 0.0, z)

    @property
    def held(self) -> tuple[Way, ...]:
        """What the support holds."""
        if self.support is None:
            return ()
        return SUPPORTS[self.support] if isinstance(self.support, str) else tuple(self.support)


class JointLoad(Described):
    """What acts on a joint in a load case: forces along x, y and z, moments about them.

    z is upwards, so that a weight is negative; a moment is positive by the right hand. A joint that
    a support holds may be moved with it: a settlement is a ``move_z`` less than zero.
    """

    joint: str
    case: str
    x: Force = 0.0
    y: Force = 0.0
    z: Force = 0.0
    about_x: Moment = 0.0
    about_y: Moment = 0.0
    about_z: Moment = 0.0
    move_x: Dimension = 0.0
    move_y: Dimension = 0.0
    move_z: Dimension = 0.0
    reversible: bool | None = None
    alternative: Alternative = ""

    @field_validator("case")
    @classmethod
    def _known_case(cls, value: str) -> str:
        return known_case(value)

    @model_validator(mode="after")
    def _acts(self) -> JointLoad:
        if not any(self.values) and not any(self.moves):
            raise ValueError(
                "say a force, a moment or a movement: x, y, z, about_x, about_y, about_z, "
                "move_x, move_y or move_z"
            )
        if self.reversible and self.case not in ("W", "E", "T"):
            raise wrong("goes with wind, earthquake and temperature only", "reversible")
        if self.alternative and self.case == "D":
            raise wrong("dead loads act in every combination: they have none", "alternative")
        return self

    @property
    def values(self) -> tuple[float, ...]:
        """The three forces and the three moments, N and N mm."""
        return (self.x, self.y, self.z, self.about_x, self.about_y, self.about_z)

    @property
    def moves(self) -> tuple[float, ...]:
        """How far its support moves, along x, y and z, mm."""
        return (self.move_x, self.move_y, self.move_z)

    @property
    def is_reversible(self) -> bool:
        """Whether it acts in both senses: earthquake by default, wind where said."""
        return self.case == "E" if self.reversible is None else self.reversible


class FrameChoices(Described):
    """How a frame is analysed.

    ``second_order`` says whether every combination is analysed on the frame as it leans under it,
    as it is drawn, or so that what makes it sway is amplified;
    ``imperfections`` whether gravity loads push it over by the standard's share of them;
    ``divisions`` into how many elements each length between joints is cut at least;
    ``twist`` whether open sections are left free to twist at one of their ends, so that a frame in
    space does not twist them where it need not, or resist it; ``shear`` whether members yield to
    shear, besides to bending; ``drift`` limits what the storeys move by, of their heights (400 or
    ``"L/400"``) or a dimension, by kind of service combination; storeys are between
    ``levels``, the heights of joints, by default all that standing members reach.
    """

    second_order: Literal["analysed", "first order", "amplified sway"] = "analysed"
    imperfections: bool = True
    divisions: Annotated[int, Field(ge=1, le=20)] = 1
    twist: Literal["free where open", "resisted"] = "free where open"
    shear: bool = False
    drift: DeflectionLimits = DeflectionLimits()
    levels: Lengths = []

    @field_validator("levels")
    @classmethod
    def _upwards(cls, value: list[float]) -> list[float]:
        if value and (len(value) < 2 or sorted(set(value)) != value):
            raise ValueError("two heights at least, the lowest first")
        return value


class JobOfFrame(Protocol):
    """What a frame asks of its job."""

    @property
    def name(self) -> str:
        """Its name."""

    @property
    def frame(self) -> FrameChoices:
        """How its frame is analysed."""

    @property
    def joints(self) -> list[Joint]:
        """Its joints."""

    @property
    def joint_loads(self) -> list[JointLoad]:
        """What acts on them."""

    @property
    def joint_limits(self) -> list[JointLimit]:
        """How far its joints may move."""

    @property
    def decks(self) -> list[Deck]:
        """The decks that its beams carry."""

    @property
    def members(self) -> list[Member]:
        """All of its members."""

    @property
    def design(self) -> Any:
        """What is chosen of its standard."""

    def code_of(self, member: Member) -> Standard:
        """Return the standard that a member is checked to."""

    def design_of(self, member: Member) -> Options:
        """Return what is chosen of that standard."""


@dataclass(eq=False)
class FrameOf:
    """The frame that a member is part of; what is found of it is kept here.

    Attributes
    ----------
    job : JobOfFrame
    joints : dict of str to Joint
    members : dict of str to Member
        Those of the frame, by mark.
    tips : dict of str to (bool, bool)
        Whether an end of a member meets nothing.
    holds : dict of str to dict
        By mark and axis: where along it, between its ends, something keeps it from moving as it
        buckles about the axis, mm.
    met : dict of str to list of str
        By mark: joints that lie on a member which does not name them.
    """

    job: JobOfFrame
    joints: dict[str, Joint]
    members: dict[str, Member]
    tips: dict[str, tuple[bool, bool]]
    holds: dict[str, dict[str, list[float]]]
    met: dict[str, list[str]] = field(default_factory=dict)
    known: dict[Any, Any] = field(default_factory=dict)

    def taken_as_held(self) -> list[str]:
        """Return joints of a plane frame at which members end, and that nobody says is held across.

        Members are taken as held there, across the plane and against twisting.
        """
        if not self.is_plane:
            return []
        ends = {name for one in self.members.values() for name in (one.through[0], one.through[-1])}
        return [
            name for name, joint in self.joints.items() if name in ends and "y" not in joint.held
        ]

    @property
    def code(self) -> tuple[Standard, Options]:
        """The standard that it is analysed by, its first member's, and what is chosen of it."""
        first = next(iter(self.members.values()))
        return self.job.code_of(first), self.job.design_of(first)

    def crossing(self) -> list[tuple[str, str]]:
        """Return members that cross where they have no joint in common, by their marks.

        Crossed braces are meant to.
        """
        if "crossing" not in self.known:
            braces = {m.mark for m in self.members.values() if m.role in ("brace", "hanger")}
            found = crossings(list(self.members.values()), self.joints)
            self.known["crossing"] = [pair for pair in found if not set(pair) <= braces]
        return list(self.known["crossing"])

    def bays(self) -> dict[str, tuple[int, int]]:
        """Return by mark how many spans stand before a member in its row, and in the whole row.

        Of members that take live loads by spans; in a row are those that lie on one line.
        """
        if "bays" not in self.known:
            rows: dict[tuple[float, ...], list[tuple[float, str, int]]] = {}
            for one in self.members.values():
                if one.pattern:
                    start, end = ends_of(one, self.joints)
                    line, along = line_through(start, end)
                    count = len(one.inner_supports("major")) + 1
                    rows.setdefault(line, []).append((along, one.mark, count))
            found: dict[str, tuple[int, int]] = {}
            for row in rows.values():
                before, whole = 0, sum(count for _, _, count in row)
                for _, mark, count in sorted(row):
                    found[mark] = (before, whole)
                    before += count
            self.known["bays"] = found
        bays: dict[str, tuple[int, int]] = self.known["bays"]
        return bays

    def joint_at(self, member: Member, x: float) -> str | None:
        """Return the joint that a member goes through at a place along it, mm, if one is there."""
        start, _ = ends_of(member, self.joints)
        for name in member.through:
            if abs(math.dist(start, self.joints[name].place) - x) <= SAME_JOINT:
                return name
        return None

    def minor_sense(self, member: Member) -> float:
        """Return 1 where loads about a member's minor axis act against its e2, -1 along it.

        They act downwards where that is near, with a level web; else towards larger x, or larger y
        where that is nearer, whichever way the member is drawn.
        """
        start, end = ends_of(member, self.joints)
        _, (x, y, z), _ = directions(member.web, way_between(start, end))
        if member.web == "level" or abs(z) > math.hypot(x, y) + EVEN:
            return math.copysign(1.0, z)
        return -math.copysign(1.0, x if abs(x) >= abs(y) - EVEN else y)

    def supports(self) -> list[str]:
        """Return the joints that something holds, in the plane where it is a plane one."""
        across = {"y"} if self.is_plane else set()
        return [
            name
            for name, joint in self.joints.items()
            if set(joint.held) - across or joint.springs is not None
        ]

    @property
    def is_plane(self) -> bool:
        """Whether all of it is in the plane of x and z."""
        return all(len(joint.at) == 2 for joint in self.joints.values())


def frame_of(job: JobOfFrame) -> tuple[FrameOf | None, list[Problem]]:
    """Return a job's frame with the lengths of its members, and what does not fit together."""
    joints, found = _named(job.joints)
    through = [member for member in job.members if member.through]
    if not through:
        if job.joints:
            found.append(Problem("no member goes through them: say through = [...]", "joint"))
        return None, found
    if len({len(joint.at) for joint in job.joints}) > 1:
        found.append(Problem("all joints have two coordinates, or all have three", "joint"))
    meets = lying_on(through, joints)
    through = [
        member.model_copy(update={"through": meets[member.mark][0]})
        if member.mark in meets
        else member
        for member in through
    ]
    order = "analysed" if job.frame.second_order == "analysed" else "amplified"
    if job.frame.second_order != "analysed" and through:
        rules = job.code_of(through[0]).second_order
        if (
            rules.flexural_share(job.design_of(through[0]), np.zeros((1, 1)), np.ones((1, 1)))
            is not None
        ):
            words = "'analysed' is needed where stiffness goes by compression, as the design says"
            found.append(Problem(words, "frame", "second_order"))
    if through and chosen_first_order(job.code_of(through[0]), job.design_of(through[0])):
        if job.frame.second_order != "first order":
            words = "'first order' is what the method is of that the design has for stability"
            found.append(Problem(words, "frame", "second_order"))
        if not job.frame.imperfections:
            words = "the loads sideways are a part of the method that the design has for stability"
            found.append(Problem(words, "frame", "imperfections"))
    count = Counter(name for member in through for name in set(member.through))
    plane = all(len(joint.at) == 2 for joint in joints.values())
    held = {name for name, joint in joints.items() if set(joint.held) - ({"y"} if plane else set())}
    meeting = held | {name for name in joints if count[name] > 1}
    firm = firm_members(through, held)
    by_mark = {one.mark: one for one in through}
    ways = {
        one.mark: way_between(*ends_of(one, joints))
        for one in through
        if all(name in joints for name in one.through)
    }
    holds: dict[str, dict[str, list[float]]] = {}
    members: dict[str, Member] = {}
    numbers = [number for number, member in enumerate(job.members, 1) if member.through]
    for number, member in zip(numbers, through, strict=True):
        where = f"member {number} ({member.mark})"
        try:
            placed = _placed(member, joints, order)
            if plane:
                found += [one.under(where) for one in _across_the_plane(placed)]
            holds[member.mark] = holds_of(member, joints, firm, ways, by_mark)
            members[member.mark] = _in_spans(placed, holds[member.mark]["major"])
        except InputError as error:
            found += [one.under(where) for one in error.problems]
    if not found:
        found += in_line(members, joints, held, firm)
    touched = {name for member in through for name in member.through}
    for name, joint in joints.items():
        if name not in touched:
            more = "; its support holds nothing" if joint.held else ""
            found.append(Problem(f"no member goes through it{more}", f"joint {name}"))
        across = [way for way in ("y", "turn_x", "turn_z") if getattr(joint.springs, way, None)]
        if plane and across:
            words = "is across the plane of the frame: it does nothing there"
            found.append(Problem(words, f"joint {name}", "springs", across[0]))
    for load in job.joint_loads:
        if load.joint not in joints:
            hint = did_you_mean(load.joint, joints) or f"; known: {', '.join(list(joints)[:8])}"
            found.append(Problem(f"no joint {load.joint!r}{hint}", "joint_load", "joint"))
            continue
        for way in ("about_x", "about_z") if plane else ():
            if getattr(load, way):
                words = "turns out of the plane of the frame: give its joints x, y and z"
                found.append(Problem(words, "joint_load", way))
        for way, force, moves in zip("xyz", load.values[:3], load.moves, strict=True):
            if moves and way not in joints[load.joint].held:
                words = f"{load.joint} is not held along {way} by a support that could move it"
                found.append(Problem(words, "joint_load", f"move_{way}"))
            if force and way == "y" and plane:
                words = "is across the plane of the frame: give its joints x, y and z"
                found.append(Problem(words, "joint_load", "y"))
            if moves and way == "y" and plane:
                found.append(Problem("is across the plane of the frame", "joint_load", "move_y"))
    for level in job.frame.levels:
        if all(abs(joint.place[2] - level) > SAME_LEVEL for joint in joints.values()):
            words = f"no joint is at {both(level, 'length')}"
            found.append(Problem(words, "frame", "levels"))
    found += limit_problems(job.joint_limits, joints, plane)
    if job.decks and plane:
        found.append(Problem("a deck lies on a frame in space: its joints have x, y and z", "deck"))
    elif not found:
        places = {name: joint.place for name, joint in joints.items()}
        ends = {mark: ends_of(member, joints) for mark, member in members.items()}
        brought, wrongs = spread(job.decks, places, members, ends)
        found += wrongs
        for mark, loads in brought.items():
            every = [*members[mark].loads, *loads]
            members[mark] = members[mark].model_copy(update={"loads": every})
    tips = {
        mark: (member.through[0] not in meeting, member.through[-1] not in meeting)
        for mark, member in members.items()
    }
    met = {mark: more for mark, (_, more) in meets.items()}
    return FrameOf(job, joints, members, tips, holds, met), found


def chosen_first_order(code: Standard, options: Options) -> bool:
    """Return whether a method of the first order is chosen, that a frame's drift goes into."""
    rule = code.second_order.by_first_order
    return rule is not None and rule.chosen(options)


def _named(joints: Sequence[Joint]) -> tuple[dict[str, Joint], list[Problem]]:
    """Return joints by name, and those of one name or at one place."""
    found: list[Problem] = []
    named: dict[str, Joint] = {}
    boxes: dict[tuple[int, ...], list[Joint]] = {}  # as wide as joints are apart that are two
    for joint in joints:
        if joint.name in named:
            found.append(Problem(f"the name {joint.name!r} is used twice", "joint"))
        place = joint.place
        box = tuple(math.floor(value / SAME_JOINT) for value in place)
        around = itertools.product(*((n - 1, n, n + 1) for n in box))
        others = [other for one in around for other in boxes.get(one, ())]
        near = next((o for o in others if math.dist(o.place, place) < SAME_JOINT), None)
        if near is not None:
            words = f"is at the same place as {near.name}"
            found.append(Problem(words, f"joint {joint.name}", "at"))
        named[joint.name] = joint
        boxes.setdefault(box, []).append(joint)
    return named, found


def _placed(member: Member, joints: Mapping[str, Joint], order: str) -> Member:
    """Return a member of a frame with its length and its slope, by the joints it goes through.

    ``order`` is how its second order is found.
    """
    if len(member.through) < 2 or len(set(member.through)) < len(member.through):
        raise wrong("goes through two different joints at least", "through")
    for name in member.through:
        if name not in joints:
            hint = did_you_mean(name, joints) or f"; known: {', '.join(list(joints)[:8])}"
            raise wrong(f"no joint {name!r}{hint}", "through")
    given = [key for key in ("span", "spans", "height", "inclination") if getattr(member, key)]
    if given:
        raise wrong("does not go with through: the joints say it", given[0])
    for key in ("supports", "hinges", "forces"):
        if getattr(member, key):
            raise wrong("does not go with through", key.removesuffix("s"))
    if any(load.settlement is not None for load in member.loads):
        raise wrong("a settlement does not go with through", "load")
    if member.carries != "both" and order != "analysed":
        raise wrong(
            'needs [frame] second_order = "analysed": whether it carries is found combination by '
            "combination", "carries",
        )  # fmt: skip
    if member.end_springs and "pinned" in member.joined_about("major"):
        raise wrong(
            "goes with ends that are fixed to the joint: they are its springs", "end_springs"
        )
    in_plane = all(len(joint.at) == 2 for joint in joints.values())
    across = {"torsion", "shear minor" if member.axis_in_plane == "major" else "shear major"}
    if in_plane and (lost := across & {one for end in member.end_releases for one in end}):
        raise wrong(f"{min(lost)}: nothing moves so within a plane frame", "end_releases")
    if member.second_order != "amplified":
        raise wrong("does not go with through: [frame] says it", "second_order")
    joined = [joints[name].place for name in member.through]
    if math.dist(joined[0], joined[-1]) < SAME_JOINT:
        raise wrong("its first and last joint are at one place", "through")
    first, last = ends_of(member, joints)
    if in_plane and any(abs(a[1] - b[1]) > 0 for a, b in ((first, joined[0]), (last, joined[-1]))):
        raise wrong("y is across the plane of the frame", "offsets")
    places = [first, *joined[1:-1], last]
    length = math.dist(first, last)
    ahead = (way_between(joined[0], joined[-1]), way_between(first, last))
    if length < SAME_JOINT or sum(a * b for a, b in zip(*ahead, strict=True)) <= 0:
        raise wrong("nothing of the member is left between its ends", "offsets")
    stands = math.hypot(*ahead[1][:2]) < UPRIGHT
    webs = ("along x", "along y") if stands else ("upright", "level")
    if isinstance(member.web, float) and in_plane and all(turned(member.web)):
        raise wrong("a frame in a plane has no webs askew: give its joints x, y and z", "web")
    if isinstance(member.web, str) and member.web not in webs:
        words = f"{member.web!r} is of one that {'lies' if stands else 'stands'}"
        raise wrong(f"{words}; accepted here: {webs[0]!r} or {webs[1]!r}", "web")
    along = [math.dist(first, place) for place in places]
    if off_line(places) > STRAIGHT * length or along != sorted(along):
        more = ": its ends lie beside it, so that it goes through two joints alone"
        words = f"its joints do not lie on a line, in their order{more if member.offsets else ''}"
        raise wrong(words, "through")
    slope = math.asin(max(-1.0, min(1.0, (last[2] - first[2]) / length)))
    said: dict[str, Any] = {"inclination": slope, "second_order": order, "span": length}
    return member.model_copy(update=said)


def _across_the_plane(member: Member) -> list[Problem]:
    """Return the loads of a member of a plane frame that act across its plane: nothing has them."""
    within, found = member.axis_in_plane, []
    for number, load in enumerate(member.loads, 1):
        along = load.tension is not None or load.compression is not None
        bends = not along or load.eccentricity is not None
        if load.torque is not None:
            words = "a torque turns a member out of the plane of the frame: give joints x, y and z"
        elif load.temperature is not None or load.is_weight(member.slope) or not bends:
            continue
        elif load.axis != within:
            words = (
                f"acts across the plane of the frame, about the {load.axis} axis: say axis = "
                f"{within!r}, or give joints x, y and z"
            )
        else:
            continue
        found.append(Problem(words, f"load {number}"))
    return found


def _in_spans(member: Member, stops: Sequence[float]) -> Member:
    """Return a member with spans between what keeps it from moving along its web."""
    if not stops:
        return member
    spans = [b - a for a, b in itertools.pairwise([0.0, *stops, member.length])]
    return member.model_copy(update={"span": None, "spans": spans})
