"""Frames said by their grid or their pattern: tables that stand for joints and members.

A table is written out as plain tables before the job is read, so that whatever a generator makes
may be named, loaded and said otherwise like anything written by hand.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, model_validator

from welbric.errors import InputError, Problem, wrong
from welbric.inputs.descriptions import Described, Length, Lengths, problems
from welbric.inputs.trusses import MOST, BoxTruss, Table, Truss


class Building(Described):
    """A regular frame: columns at the lines of a grid, beams on every level.

    ``bays_x``, ``bays_y`` and ``storeys`` are lengths from line to line; without ``bays_y`` it is
    plane, and ``held_across`` says whether its joints are held across the plane. ``columns``,
    ``beams_x`` and ``beams_y`` are what a member has; ``own`` what single members have, by the end
    of their marks.
    """

    mark: Annotated[str, Field(min_length=1, max_length=20)]
    bays_x: Lengths
    bays_y: Lengths = []
    storeys: Lengths
    start: Lengths | None = None
    supports: Literal["fixed", "pinned"] = "fixed"
    held_across: bool = False
    columns: Table
    beams_x: Table
    beams_y: Table | None = None
    own: dict[str, Table] = {}

    @model_validator(mode="after")
    def _fits_together(self) -> Building:
        for name in ("bays_x", "bays_y", "storeys"):
            values = getattr(self, name)
            if min(values, default=1.0) <= 0 or len(values) > MOST:
                raise wrong(f"lengths greater than zero, at most {MOST} of them", name)
        if not self.bays_x or not self.storeys:
            raise wrong("one length at least", "bays_x" if self.storeys else "storeys")
        if bool(self.bays_y) != (self.beams_y is not None):
            raise wrong("goes with bays_y", "beams_y")
        wanted = 3 if self.bays_y else 2
        if self.start is not None and len(self.start) != wanted:
            raise wrong(f"it has {wanted} coordinates here", "start")
        return self

    def _lines(self) -> tuple[list[float], list[float], list[float]]:
        x0, *y0, z0 = self.start or [0.0, 0.0]
        return (
            _summed(x0, self.bays_x),
            _summed(y0[0] if y0 else 0.0, self.bays_y),
            _summed(z0, self.storeys),
        )

    def _name(self, i: int, j: int, k: int) -> str:
        return f"{self.mark}.{i}.{j}.{k}" if self.bays_y else f"{self.mark}.{i}.{k}"

    def joints(self) -> Iterator[Table]:
        """Yield its joints."""
        xs, ys, zs = self._lines()
        for i, x in enumerate(xs):
            for j, y in enumerate(ys):
                for k, z in enumerate(zs):
                    at = (x, y, z) if self.bays_y else (x, z)
                    joint: Table = {"name": self._name(i, j, k), "at": [f"{v} mm" for v in at]}
                    if k == 0:
                        joint["support"] = self.supports
                    elif self.held_across and not self.bays_y:
                        joint["support"] = ["y"]
                    yield joint

    def members(self) -> Iterator[tuple[str, Table]]:
        """Yield its members, each after the table that says what it has."""
        xs, ys, zs = (range(len(lines)) for lines in self._lines())
        for i in xs:
            for j in ys:
                at = f"{i}.{j}" if self.bays_y else f"{i}"
                through = [self._name(i, j, k) for k in zs]
                column = {"mark": f"{self.mark}.C{at}", "role": "column", "through": through}
                yield "columns", column | self.columns
        for k in zs[1:]:
            for i in xs:
                for j in ys:
                    at = f"{i}.{j}.{k}" if self.bays_y else f"{i}.{k}"
                    here, mark = self._name(i, j, k), self.mark
                    if i + 1 < len(xs):
                        through = [here, self._name(i + 1, j, k)]
                        beam = {"mark": f"{mark}.X{at}", "through": through}
                        yield "beams_x", beam | self.beams_x
                    if j + 1 < len(ys) and self.beams_y is not None:
                        through = [here, self._name(i, j + 1, k)]
                        beam = {"mark": f"{mark}.Y{at}", "through": through}
                        yield "beams_y", beam | self.beams_y


def made_by(data: Mapping[str, Any]) -> dict[str, tuple[str, int, str]]:
    """Return what makes each member that a generator makes: the kind, its number and the table."""
    found = {}
    for kind, model in GENERATORS.items():
        for number, table in enumerate(data.get(kind) or []):
            for part, member in model.model_validate(table).members():
                found[member["mark"]] = kind, number, part
    return found


class Haunch(Described):
    """What a rafter has beside each column: another section, over a length along it."""

    length: Length
    section: Any


class Portal(Described):
    """A portal frame: columns, and rafters that are rigid with them, over one span or several.

    ``height`` is that of the eaves, ``rise`` by how much each ridge is higher; without it the
    rafters are level. ``held_across`` says whether eaves and ridges are held across the plane.
    ``columns``, ``inner_columns`` (by default as the others) and ``rafters`` are what a member has;
    ``haunch`` what rafters have beside their columns; ``own`` what single members have, by the end
    of their marks.
    """

    mark: Annotated[str, Field(min_length=1, max_length=20)]
    spans: Lengths
    height: Length
    rise: Length = 0.0
    start: Lengths = [0.0, 0.0]
    supports: Literal["fixed", "pinned"] = "pinned"
    held_across: bool = True
    columns: Table
    inner_columns: Table | None = None
    rafters: Table
    haunch: Haunch | None = None
    own: dict[str, Table] = {}

    @model_validator(mode="after")
    def _fits_together(self) -> Portal:
        if not self.spans or min(self.spans) <= 0 or len(self.spans) > MOST:
            raise wrong(f"lengths greater than zero, at most {MOST} of them", "spans")
        if self.height <= 0 or self.rise < 0:
            raise ValueError("the height is greater than zero, the rise not less")
        if len(self.start) != 2:
            raise wrong("a place is x and z", "start")
        shortest = min(math.hypot(span / self._halves, self.rise) for span in self.spans)
        room = shortest if self.rise else shortest / 2
        if self.haunch is not None and not 0 < self.haunch.length < room:
            raise wrong("is greater than zero, and less than its rafter has room for", "haunch")
        if self.haunch is not None and {"piece", "pieces"} & set(self.rafters):
            raise wrong("goes without pieces of the rafters", "haunch")
        return self

    @property
    def _halves(self) -> int:
        return 2 if self.rise else 1

    def joints(self) -> Iterator[Table]:
        """Yield its joints."""
        x0, z0 = self.start
        xs = _summed(x0, self.spans)
        across = {"support": ["y"]} if self.held_across else {}
        for i, x in enumerate(xs):
            at = [f"{x} mm", f"{z0} mm"]
            yield {"name": f"{self.mark}.{i}.0", "at": at, "support": self.supports}
            yield {"name": f"{self.mark}.{i}.1", "at": [at[0], f"{z0 + self.height} mm"]} | across
        for i, span in enumerate(self.spans if self.rise else []):
            at = [f"{xs[i] + span / 2} mm", f"{z0 + self.height + self.rise} mm"]
            yield {"name": f"{self.mark}.r{i}", "at": at} | across

    def members(self) -> Iterator[tuple[str, Table]]:
        """Yield its members, each after the table that says what it has."""
        mark, count = self.mark, len(self.spans)
        for i in range(count + 1):
            inner = 0 < i < count and self.inner_columns is not None
            part = "inner_columns" if inner else "columns"
            column = {"mark": f"{mark}.C{i}", "role": "column",
                      "through": [f"{mark}.{i}.0", f"{mark}.{i}.1"]}  # fmt: skip
            yield part, column | (getattr(self, part) or {})
        for i, span in enumerate(self.spans):
            left, right = f"{mark}.{i}.1", f"{mark}.{i + 1}.1"
            length = math.hypot(span / self._halves, self.rise)
            if self.rise:
                ridge = f"{mark}.r{i}"
                pairs = [(f"R{i} left", [left, ridge], (True, False)),
                         (f"R{i} right", [ridge, right], (False, True))]  # fmt: skip
            else:
                pairs = [(f"R{i}", [left, right], (True, True))]
            for name, through, haunched in pairs:
                rafter = {"mark": f"{mark}.{name}", "through": through}
                yield "rafters", rafter | self._haunched(length, *haunched) | self.rafters

    def _haunched(self, length: float, first: bool, last: bool) -> Table:
        """Return the pieces of a rafter that are haunches."""
        if self.haunch is None:
            return {}
        section, reach = self.haunch.section, self.haunch.length
        ends = [(0.0, reach)] * first + [(length - reach, length)] * last
        return {"piece": [{"section": section, "start": f"{a} mm", "end": f"{b} mm"}
                           for a, b in ends]}  # fmt: skip


def _summed(start: float, lengths: Sequence[float]) -> list[float]:
    found = [start]
    for length in lengths:
        found.append(found[-1] + length)
    return found


GENERATORS: Mapping[str, type[Truss | BoxTruss | Building | Portal]] = {
    "truss": Truss, "box_truss": BoxTruss, "building": Building, "portal": Portal,
}  # fmt: skip


def written_out(data: Mapping[str, Any], context: Any = None) -> dict[str, Any]:
    """Return a job's description with the joints and members of its generators written out.

    Raises
    ------
    InputError
        With everything that is wrong in their tables.
    """
    found = dict(data)
    joints, members = [], []
    wrongs: list[Problem] = []
    for kind, model in GENERATORS.items():
        tables = found.pop(kind, None) or []
        for number, table in enumerate(tables if isinstance(tables, list) else [tables], 1):
            where = f"{kind} {number}"
            try:
                one = model.model_validate(table, context=context)
            except ValidationError as error:
                wrongs += [p.under(where) for p in problems(error, model)]
                continue
            made = [member for _, member in one.members()]
            own = {f"{one.mark}.{name}": table for name, table in one.own.items()}
            marks = {member["mark"] for member in made}
            strange = [name for name in own if name not in marks]
            if strange:
                words = f"there is no member {strange[0]}"
                wrongs.append(Problem(words, f"{where} ({one.mark})", "own"))
            joints += [*one.joints()]
            members += [member | own.get(member["mark"], {}) for member in made]
    if wrongs:
        raise InputError(*wrongs)
    for key, other, more in (("joint", "joints", joints), ("member", "members", members)):
        if more:
            name = other if other in found else key
            found[name] = [*(found.get(name) or []), *more]
    return found
