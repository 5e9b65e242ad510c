"""Trusses by their pattern: one in a plane, or two beside one another that make a box."""

from __future__ import annotations

import itertools
from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field, ValidationInfo, model_validator
from pydantic_core import core_schema

from welbric.errors import wrong
from welbric.inputs.descriptions import Described, Length, Lengths
from welbric.units import both, parse

Table = dict[str, Any]
MOST = 200  # panels, bays and storeys
SAME = 1.0  # mm
PLACES = ("at", "start", "end")  # what a load has along a member


class _Panels:
    """Reads how many panels there are, or the length of each, mm."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        def read(value: Any, info: ValidationInfo) -> int | list[float]:
            if isinstance(value, list | tuple):
                bare = (info.context or {}).get("bare_units", {}).get("length")
                found = [parse(one, "length", bare) for one in value]
                if not 2 <= len(found) <= MOST or min(found) <= 0:
                    raise ValueError(f"2 to {MOST} lengths, each greater than zero")
                return found
            if isinstance(value, bool) or not isinstance(value, int) or not 2 <= value <= MOST:
                raise ValueError(
                    f"{str(value)[:60]!r} is not accepted here; accepted: their number, 2 to "
                    f"{MOST}, or a list of their lengths"
                )
            return value

        return core_schema.with_info_plain_validator_function(read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        lengths = {"type": "array", "items": {"type": ["string", "number"]}}
        return {"anyOf": [{"type": "integer", "minimum": 2, "maximum": MOST}, lengths]}


Panels = Annotated[int | list[float], _Panels()]


def stops_of(panels: int | list[float], span: float) -> list[float]:
    """Return where panels begin and end along a truss, mm.

    Raises
    ------
    InputError
        If they are not as long as its span.
    """
    if isinstance(panels, int):
        return [span * k / panels for k in range(panels + 1)]
    whole = sum(panels)
    if abs(whole - span) > SAME:
        words = f"they add up to {both(whole, 'length')}, the span is {both(span, 'length')}"
        raise wrong(words, "panels")
    return [0.0, *itertools.accumulate(panels[:-1]), span]


class Truss(Described):
    """A truss along x, its bottom chord level.

    ``depth`` is that at its ends, ``rise`` by how much the top chord is higher in the middle of a
    pitched one, or at the far end of one that falls to one side. ``panels`` is how many there are,
    or the length of each. Chords are one piece of steel each (two on top where it is pitched), or
    ``"jointed"``: pinned from joint to joint; webs are pinned. ``held_across`` says which chords
    are held across its plane at every joint. ``top``, ``bottom``, ``verticals`` and ``diagonals``
    are what a member has: its section, its steel, its loads; ``own`` what single members have, by
    the end of their marks.
    """

    mark: Annotated[str, Field(min_length=1, max_length=20)]
    span: Length
    depth: Length
    rise: Length = 0.0
    panels: Panels
    shape: Literal["parallel", "pitched", "to one side"] = "parallel"
    web: Literal["Pratt", "Howe", "Warren", "Warren with verticals"] = "Pratt"
    chords: Literal["continuous", "jointed"] = "continuous"
    start: Lengths = [0.0, 0.0]
    supported_at: Literal["bottom", "top", "nothing"] = "bottom"
    held_across: Literal["ends", "top chord", "both chords"] = "ends"
    top: Table
    bottom: Table
    diagonals: Table
    verticals: Table | None = None
    own: dict[str, Table] = {}

    @model_validator(mode="after")
    def _fits_together(self) -> Truss:
        if min(self.span, self.depth) <= 0:
            raise ValueError("span and depth are greater than zero")
        if (self.rise > 0) != (self.shape != "parallel"):
            raise wrong("goes with shape = 'pitched' or 'to one side'", "rise")
        if self.shape == "pitched" and isinstance(self.panels, int) and self.panels % 2:
            raise wrong("of a pitched truss they are even", "panels")
        middle = min(abs(x - self.span / 2) for x in self.stops)
        if self.shape == "pitched" and middle > SAME:
            raise wrong("a pitched truss has a joint below its ridge, in the middle", "panels")
        for part in ("top", "bottom") if self.chords == "jointed" else ():
            loads = getattr(self, part).get("load") or []
            for load in loads if isinstance(loads, list) else [loads]:
                if isinstance(load, dict) and (named := [key for key in PLACES if key in load]):
                    words = "a chord that is jointed has no places along all of it"
                    raise wrong(f"{words}: put loads on its joints, or its pieces by own", part,
                                "load", named[0])  # fmt: skip
        if self.web == "Warren" and (self.shape != "parallel" or self.supported_at == "top"):
            raise wrong("Warren without verticals is parallel, and supported at the bottom", "web")
        if self.web != "Warren" and self.verticals is None:
            raise wrong("is missing", "verticals")
        if len(self.start) not in (2, 3):
            raise wrong("a place is x and z in a plane, or x, y and z in space", "start")
        return self

    @property
    def stops(self) -> list[float]:
        """Where its panels begin and end, mm."""
        return stops_of(self.panels, self.span)

    def at(self, x: float, z: float) -> list[str]:
        """Return a place from the truss' start, as a job file has it."""
        first, *middle, last = self.start
        return [f"{value} mm" for value in (first + x, *middle, last + z)]

    def depth_at(self, x: float) -> float:
        """Return the depth at a place, mm."""
        share = x / self.span
        if self.shape == "pitched":
            return self.depth + self.rise * (1 - abs(2 * share - 1))
        return self.depth + (self.rise * share if self.shape == "to one side" else 0.0)

    def joints(self) -> Iterator[Table]:
        """Yield its joints."""
        stops = self.stops
        ends = (0, len(stops) - 1)
        for k, x in enumerate(stops):
            joint: Table = {"name": f"{self.mark}.b{k}", "at": self.at(x, 0.0)}
            if self.supported_at == "bottom" and k in ends:
                joint["support"] = self._support(k)
            elif self.held_across == "both chords":
                joint["support"] = ["y"]
            yield joint
        if self.web == "Warren":
            for k, (a, b) in enumerate(itertools.pairwise(stops)):
                x = 0.5 * (a + b)
                yield {"name": f"{self.mark}.t{k}", "at": self.at(x, self.depth)} | self._purlin()
            return
        for k, x in enumerate(stops):
            joint = {"name": f"{self.mark}.t{k}", "at": self.at(x, self.depth_at(x))}
            if self.supported_at == "top" and k in ends:
                yield joint | {"support": self._support(k)}
            else:
                yield joint | self._purlin()

    def _purlin(self) -> Table:
        return {} if self.held_across == "ends" else {"support": ["y"]}

    def _support(self, k: int) -> Any:
        if k == 0:
            return "pinned"
        return ["y", "z"]

    def members(self) -> Iterator[tuple[str, Table]]:
        """Yield its members, each after the table that says what it has."""
        n, mark = len(self.stops) - 1, self.mark
        tops = n if self.web == "Warren" else n + 1
        chords = [("bottom", "bottom", [f"{mark}.b{k}" for k in range(n + 1)])]
        top = [f"{mark}.t{k}" for k in range(tops)]
        if self.chords == "jointed":
            chords.append(("top", "top", top))
            chords = [
                (f"{name} {k}", part, list(pair))
                for name, part, through in chords
                for k, pair in enumerate(itertools.pairwise(through))
            ]
        elif self.shape == "pitched":
            half = min(range(n + 1), key=lambda k: abs(self.stops[k] - self.span / 2))
            chords += [("top left", "top", top[: half + 1]), ("top right", "top", top[half:])]
        else:
            chords.append(("top", "top", top))
        for name, part, through in chords:
            chord = {"mark": f"{mark}.{name}", "through": through}
            if self.chords == "jointed":
                chord |= {"ends": ["pinned", "pinned"]} | _in_one_group(getattr(self, part), part)
            yield part, chord | (getattr(self, part) if self.chords == "continuous" else {})
        webs = [(f"d{i}", "diagonals", pair) for i, pair in enumerate(self._diagonals())]
        if self.web != "Warren":
            webs += [(f"v{k}", "verticals", (f"b{k}", f"t{k}")) for k in range(n + 1)]
        for name, part, pair in webs:
            one = {"mark": f"{mark}.{name}", "role": "brace",
                   "through": [f"{mark}.{end}" for end in pair]}  # fmt: skip
            yield part, one | (getattr(self, part) or {})

    def _diagonals(self) -> Iterator[tuple[str, str]]:
        for k, (a, b) in enumerate(itertools.pairwise(self.stops)):
            if self.web == "Warren":
                yield f"b{k}", f"t{k}"
                yield f"t{k}", f"b{k + 1}"
                continue
            left = a + b <= self.span * (1 + 1e-9)
            rises = {"Pratt": not left, "Howe": left, "Warren with verticals": k % 2 == 0}[self.web]
            yield (f"b{k}", f"t{k + 1}") if rises else (f"t{k}", f"b{k + 1}")


def _in_one_group(table: Table, name: str) -> Table:
    """Return what pieces of a chord have: what is chosen of one is of all, unless they say so."""
    choose = table.get("choose")
    if choose is None:
        return table
    said = choose if isinstance(choose, dict) else {"among": choose}
    return table | {"choose": {"group": f"{name} chord"} | said}


class BoxTruss(Described):
    """Two parallel trusses along x, ``width`` apart along y, that make a box.

    Cross beams join their bottom joints, struts their top joints; ``bracing`` zigzags from one to
    the other at either level. Its ends are frames: ``posts``, the verticals there, are rigid with
    what they meet. It stands on the four corners of its bottom: one holds it along x, y and z, the
    one beside it along x and z, the others along z, and along y at the first truss. Chords are one
    piece of steel each, webs, struts, cross beams between the ends and bracing are pinned. Each of
    these tables is what a member has; ``own`` what single ones have, by the end of their marks.
    """

    mark: Annotated[str, Field(min_length=1, max_length=20)]
    span: Length
    depth: Length
    width: Length
    panels: Panels
    web: Literal["Pratt", "Howe", "Warren with verticals"] = "Pratt"
    start: Lengths = [0.0, 0.0, 0.0]
    top: Table
    bottom: Table
    diagonals: Table
    verticals: Table
    posts: Table | None = None
    cross_beams: Table
    struts: Table
    bracing: Table
    own: dict[str, Table] = {}

    @model_validator(mode="after")
    def _fits_together(self) -> BoxTruss:
        if min(self.span, self.depth, self.width) <= 0:
            raise ValueError("span, depth and width are greater than zero")
        if len(self.start) != 3:
            raise wrong("a place is x, y and z", "start")
        stops_of(self.panels, self.span)
        return self

    def _trusses(self) -> Iterator[Truss]:
        """Yield both trusses."""
        x, y, z = self.start
        for side in (0, 1):
            yield Truss.model_construct(
                mark=f"{self.mark}.{side}", span=self.span, depth=self.depth, rise=0.0,
                panels=self.panels, shape="parallel", web=self.web, chords="continuous",
                start=[x, y + side * self.width, z], supported_at="nothing", held_across="ends",
                top=self.top, bottom=self.bottom, diagonals=self.diagonals,
                verticals=self.verticals, own={},
            )  # fmt: skip

    def joints(self) -> Iterator[Table]:
        """Yield its joints."""
        for side, truss in enumerate(self._trusses()):
            across = ["y"] if side == 0 else []
            supports = {
                f"{truss.mark}.b0": ["x", *across, "z"],
                f"{truss.mark}.b{len(truss.stops) - 1}": [*across, "z"],
            }
            for joint in truss.joints():
                held = supports.get(joint["name"])
                yield joint | ({"support": held} if held else {})

    def members(self) -> Iterator[tuple[str, Table]]:
        """Yield its members, each after the table that says what it has."""
        n, mark = len(stops_of(self.panels, self.span)) - 1, self.mark
        ends = {f"{mark}.{side}.v{k}" for side in (0, 1) for k in (0, n)}
        for truss in self._trusses():
            for part, member in truss.members():
                if member["mark"] in ends:
                    post = {key: member[key] for key in ("mark", "through")} | {"role": "post"}
                    yield ("posts" if self.posts else part), post | (self.posts or self.verticals)
                else:
                    yield part, member
        pinned = {"ends": ["pinned", "pinned"]}
        for k in range(n + 1):
            for name, part, letter in (("beam", "cross_beams", "b"), ("strut", "struts", "t")):
                through = [f"{mark}.{side}.{letter}{k}" for side in (0, 1)]
                rigid = {} if k in (0, n) else pinned
                cross = {"mark": f"{mark}.{name} {k}", "through": through} | rigid
                yield part, cross | getattr(self, part)
        for k in range(n):
            side = k % 2
            for name, letter in (("low", "b"), ("high", "t")):
                through = [f"{mark}.{side}.{letter}{k}", f"{mark}.{1 - side}.{letter}{k + 1}"]
                one = {"mark": f"{mark}.{name} {k}", "role": "brace", "through": through}
                yield "bracing", one | self.bracing
