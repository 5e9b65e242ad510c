"""How members of a frame meet: what lies on them, what crosses them, what holds them."""

from __future__ import annotations

import itertools
import math
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from typing import TYPE_CHECKING, Protocol

import numpy as np

from welbric.errors import Problem
from welbric.inputs.webs import Words, turned

if TYPE_CHECKING:
    from welbric.inputs.member import Member

Vector = tuple[float, float, float]
UNIT: Mapping[str, Vector] = {"x": (1.0, 0.0, 0.0), "y": (0.0, 1.0, 0.0), "z": (0.0, 0.0, 1.0)}
STRAIGHT = 1e-3  # of a member's length that a joint may lie off its line
KEEPS = 0.2  # of its length that what keeps a member from moving runs that way at least
UPRIGHT = 1e-3  # of its length that a member may be off the vertical and still stand
APART = 1.0  # mm that members which cross lie apart at most
AT_ONCE = 256  # members whose crossings are looked for at once


class Joint(Protocol):
    """Where a joint is, and what holds it."""

    @property
    def place(self) -> Vector:
        """x, y and z, mm."""

    @property
    def held(self) -> tuple[str, ...]:
        """What its support holds."""


def off_line(places: Sequence[Vector]) -> float:
    """Return how far the farthest of places is off the line from the first to the last, mm."""
    start, end = np.array(places[0]), np.array(places[-1])
    e1 = (end - start) / np.linalg.norm(end - start)
    beside = np.array(places) - start
    return float(np.linalg.norm(beside - np.outer(beside @ e1, e1), axis=1).max())


def line_through(start: Sequence[float], end: Sequence[float]) -> tuple[tuple[float, ...], float]:
    """Return what members on one line have in common, and where along it the middle of one is."""
    length = math.dist(start, end)
    way = [(b - a) / length for a, b in zip(start, end, strict=True)]
    if next(v for v in way if abs(v) > 1e-9) < 0:
        way = [-v for v in way]
    along = sum(v * (a + b) / 2 for v, a, b in zip(way, start, end, strict=True))
    foot = [(a + b) / 2 - along * v for v, a, b in zip(way, start, end, strict=True)]
    return (*(round(v, 6) + 0.0 for v in way), *(round(v) + 0.0 for v in foot)), along


def ends_of(member: Member, joints: Mapping[str, Joint]) -> tuple[Vector, Vector]:
    """Return where a member's ends are: at its first and last joint, or off them as it says."""
    a, b = (joints[member.through[i]].place for i in (0, -1))
    if not member.offsets:
        return a, b
    way = way_between(a, b)
    first, last = member.offsets
    return first.from_joint(a, way), last.from_joint(b, (-way[0], -way[1], -way[2]))


def way_between(start: Sequence[float], end: Sequence[float]) -> Vector:
    """Return the direction from one place to another, of length 1; nothing where they are one."""
    length = math.dist(start, end) or 1.0
    x, y, z = ((b - a) / length for a, b in zip(start, end, strict=True))
    return x, y, z


def directions(web: Words | float | None, e1: Vector) -> tuple[Vector, Vector, Vector]:
    """Return e1 along a member, e2 across its web and e3 up along it."""
    stands = math.hypot(e1[0], e1[1]) < UPRIGHT
    cosine, sine = turned(web)
    towards = (-cosine, -sine, 0.0) if stands else (0.0, 0.0, 1.0)
    along = sum(a * b for a, b in zip(towards, e1, strict=True))
    up = [t - along * e for t, e in zip(towards, e1, strict=True)]
    length = math.hypot(*up) or 1.0
    e3: Vector = (up[0] / length, up[1] / length, up[2] / length)
    if sine and not stands:
        beside = _cross(e1, e3)
        x, y, z = (cosine * a + sine * b for a, b in zip(e3, beside, strict=True))
        e3 = (x, y, z)
    return e1, _cross(e3, e1), e3


def _cross(a: Vector, b: Vector) -> Vector:
    return (
        a[1] * b[2] - a[2] * b[1],
        a[2] * b[0] - a[0] * b[2],
        a[0] * b[1] - a[1] * b[0],
    )


def holds_of(
    member: Member, joints: Mapping[str, Joint], firm: Mapping[str, set[str]],
    ways: Mapping[str, Vector], members: Mapping[str, Member],
) -> dict[str, list[float]]:  # fmt: skip
    """Return where a member is kept from moving, along its web and across it, between its ends.

    By a support, or by what it meets that runs that way: a beam along x keeps no column from
    moving along y, and what carries tension alone keeps it from moving away from its other end,
    which takes another one on the other side. Those places at which no support does are named
    again.
    """
    _, e2, e3 = directions(member.web, ways[member.mark])
    found: dict[str, list[float]] = {"major": [], "minor": []}
    found |= {f"{axis} by members": [] for axis in found}
    start, _ = ends_of(member, joints)

    def keeps(those: Iterable[tuple[Vector, int]], towards: Vector) -> bool:
        senses = set()
        for way, sense in those:
            kept = sum(a * b for a, b in zip(way, towards, strict=True))
            if abs(kept) >= KEEPS:
                senses |= {1, -1} if not sense else {sense if kept > 0 else -sense}
        return len(senses) == 2

    for name in member.through[1:-1]:
        others = [
            (ways[mark], _one_sense(members[mark], name))
            for mark in firm.get(name, ())
            if mark != member.mark and mark in ways
        ]
        held = [(UNIT[way], 0) for way in joints[name].held if way in UNIT]
        at = math.dist(start, joints[name].place)
        for axis, towards in (("major", e3), ("minor", e2)):
            if keeps(held, towards):
                found[axis].append(at)
            elif keeps(others, towards):
                found[axis].append(at)
                found[f"{axis} by members"].append(at)
    return found


def _one_sense(member: Member, joint: str) -> int:
    """Return in which sense of its way a member keeps a joint from moving; 0 in both.

    What carries tension alone keeps its end from moving on beyond it, its start from moving back.
    """
    if member.carries == "both" or joint not in (member.through[0], member.through[-1]):
        return 0
    sense = 1 if joint == member.through[-1] else -1
    return sense if member.carries == "tension" else -sense


def firm_members(members: Sequence[Member], held: set[str]) -> dict[str, set[str]]:
    """Return the members that hold what they meet, by joint: by their marks.

    What ends in the air holds nothing, nor does what such a thing alone meets.
    """
    edges = {
        (member.mark, *pair) for member in members for pair in itertools.pairwise(member.through)
    }
    while True:
        ends = Counter(name for _, a, b in edges for name in (a, b))
        loose = {
            edge for edge in edges if any(ends[name] == 1 and name not in held for name in edge[1:])
        }
        if not loose:
            break
        edges -= loose
    found: dict[str, set[str]] = {}
    for mark, *names in edges:
        for name in names:
            found.setdefault(name, set()).add(mark)
    return found


def in_line(
    members: Mapping[str, Member], joints: Mapping[str, Joint], held: set[str],
    firm: Mapping[str, set[str]],
) -> list[Problem]:  # fmt: skip
    """Return members that go on in a line as another one, where nothing holds them."""
    found = []
    for name, marks in firm.items():
        if name in held or len(marks) != 2:
            continue
        first, second = (members[mark] for mark in sorted(marks))
        ways = []
        for one in (first, second):
            if name not in (one.through[0], one.through[-1]):
                break  # it goes through, and the other one meets it
            far = one.through[-1] if one.through[0] == name else one.through[0]
            here, there = joints[name].place, joints[far].place
            length = math.dist(here, there)
            ways.append([(b - a) / length for a, b in zip(here, there, strict=True)])
        if (
            len(ways) == 2
            and sum(a * b for a, b in zip(*ways, strict=True)) < 0.5 * STRAIGHT**2 - 1
        ):
            words = (
                f"goes on in a line as {second.mark} at {name}, where nothing holds it: say one "
                "member through all of the joints, with pieces where the section changes"
            )
            found.append(Problem(words, f"member {first.mark}", "through"))
    return found


def lying_on(
    members: Sequence[Member], joints: Mapping[str, Joint]
) -> dict[str, tuple[list[str], list[str]]]:
    """Return members that meet joints without naming them: all in their order, and those alone."""
    names = list(joints)
    places = np.array([joints[name].place for name in names]).reshape(-1, 3)
    found = {}
    for member in members:
        if len(member.through) < 2 or not set(member.through) <= set(names):
            continue
        start, end = (np.array(place) for place in ends_of(member, joints))
        length = float(np.linalg.norm(end - start))
        if length < APART:
            continue
        e1 = (end - start) / length
        along = (places - start) @ e1
        off = np.linalg.norm(places - start - along[:, None] * e1, axis=1)
        slack = STRAIGHT * length
        on = (off <= slack) & (along > slack) & (along < length - slack)
        more = [names[i] for i in np.flatnonzero(on) if names[i] not in member.through]
        if more:
            at = dict(zip(names, along.tolist(), strict=True))
            found[member.mark] = (sorted([*member.through, *more], key=at.__getitem__), more)
    return found


def crossings(members: Sequence[Member], joints: Mapping[str, Joint]) -> list[tuple[str, str]]:
    """Return the marks of members whose lines cross between their ends, with no joint there."""
    start, end = (
        np.array([joints[member.through[i]].place for member in members]).reshape(-1, 3)
        for i in (0, -1)
    )
    ways = end - start
    length = np.linalg.norm(ways, axis=1)
    low, high = np.minimum(start, end) - APART, np.maximum(start, end) + APART
    found = []
    for first in range(0, len(members), AT_ONCE):
        rows = slice(first, first + AT_ONCE)
        near = (low[rows, None] <= high[None]) & (low[None] <= high[rows, None])
        i, j = np.nonzero(near.all(axis=-1))
        once = i + first < j
        i, j = i[once] + first, j[once]
        d1, d2, between = ways[i], ways[j], start[j] - start[i]
        # The places nearest to each other on two lines: p1 + s d1 and p2 + t d2.
        a, c, b = (d1**2).sum(-1), (d2**2).sum(-1), (d1 * d2).sum(-1)
        u, v = (between * d1).sum(-1), (between * d2).sum(-1)
        sine = a * c - b**2
        askew = sine > STRAIGHT**2 * a * c
        sine = np.where(askew, sine, 1.0)
        s, t = (u * c - v * b) / sine, (u * b - v * a) / sine
        gap = np.linalg.norm(between + t[:, None] * d2 - s[:, None] * d1, axis=-1)
        inside = np.ones(len(i), dtype=bool)
        for share, which in ((s, i), (t, j)):
            at = share * length[which]
            inside &= (at > APART) & (at < length[which] - APART)
        cross = askew & inside & (gap <= APART)
        for one, other in zip(i[cross].tolist(), j[cross].tolist(), strict=True):
            if not set(members[one].through) & set(members[other].through):
                found.append((members[one].mark, members[other].mark))
    return found
