"""Trusses by their pattern: one in a plane, or two beside one another that make a box."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from welbric.errors import wrong
from welbric.inputs.descriptions import Described, Length, Lengths

Table = dict[str, Any]
MOST = 200  # panels, bays and storeys


class Truss(Described):
    """A truss along x, its bottom chord level.

    ``depth`` is that at its ends, ``rise`` by how much the top chord is higher in the middle of a
    pitched one, or at the far end of one that falls to one side. Chords are one piece of steel each
    (two on top where it is pitched); webs are pinned. ``held_across`` says which chords are held
    across its plane at every joint. ``top``, ``bottom``, ``verticals`` and ``diagonals`` are what a
    member has: its section, its steel, its loads; ``own`` what single members have, by the end of
    their marks.
    """

    mark: Annotated[str, Field(min_length=1, max_length=20)]
    span: Length
    depth: Length
    rise: Length = 0.0
    panels: Annotated[int, Field(ge=2, le=MOST)]
    shape: Literal["parallel", "pitched", "to one side"] = "parallel"
    web: Literal["Pratt", "Howe", "Warren", "Warren with verticals"] = "Pratt"
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
        if self.shape == "pitched" and self.panels % 2:
            raise wrong("of a pitched truss they are even", "panels")
        if self.web == "Warren" and (self.shape != "parallel" or self.supported_at == "top"):
            raise wrong("Warren without verticals is parallel, and supported at the bottom", "web")
        if self.web != "Warren" and self.verticals is None:
            raise wrong("is missing", "verticals")
        if len(self.start) not in (2, 3):
            raise wrong("a place is x and z in a plane, or x, y and z in space", "start")
        return self

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
        panel = self.span / self.panels
        ends = (0, self.panels)
        for k in range(self.panels + 1):
            joint: Table = {"name": f"{self.mark}.b{k}", "at": self.at(k * panel, 0.0)}
            if self.supported_at == "bottom" and k in ends:
                joint["support"] = self._support(k)
            elif self.held_across == "both chords":
                joint["support"] = ["y"]
            yield joint
        if self.web == "Warren":
            for k in range(self.panels):
                x = (k + 0.5) * panel
                yield {"name": f"{self.mark}.t{k}", "at": self.at(x, self.depth)} | self._purlin()
            return
        for k in range(self.panels + 1):
            x = k * panel
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
        n, mark = self.panels, self.mark
        tops = n if self.web == "Warren" else n + 1
        chords = [("bottom", "bottom", [f"{mark}.b{k}" for k in range(n + 1)])]
        top = [f"{mark}.t{k}" for k in range(tops)]
        if self.shape == "pitched":
            half = n // 2
            chords += [("top left", "top", top[: half + 1]), ("top right", "top", top[half:])]
        else:
            chords.append(("top", "top", top))
        for name, part, through in chords:
            yield part, {"mark": f"{mark}.{name}", "through": through} | getattr(self, part)
        webs = [(f"d{i}", "diagonals", pair) for i, pair in enumerate(self._diagonals())]
        if self.web != "Warren":
            webs += [(f"v{k}", "verticals", (f"b{k}", f"t{k}")) for k in range(n + 1)]
        for name, part, pair in webs:
            one = {"mark": f"{mark}.{name}", "role": "brace",
                   "through": [f"{mark}.{end}" for end in pair]}  # fmt: skip
            yield part, one | (getattr(self, part) or {})

    def _diagonals(self) -> Iterator[tuple[str, str]]:
        for k in range(self.panels):
            if self.web == "Warren":
                yield f"b{k}", f"t{k}"
                yield f"t{k}", f"b{k + 1}"
                continue
            left = 2 * k < self.panels
            rises = {"Pratt": not left, "Howe": left, "Warren with verticals": k % 2 == 0}[self.web]
            yield (f"b{k}", f"t{k + 1}") if rises else (f"t{k}", f"b{k + 1}")


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
    panels: Annotated[int, Field(ge=2, le=MOST)]
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
        return self

    def _trusses(self) -> Iterator[Truss]:
        """Yield both trusses."""
        x, y, z = self.start
        for side in (0, 1):
            yield Truss.model_construct(
                mark=f"{self.mark}.{side}", span=self.span, depth=self.depth, rise=0.0,
                panels=self.panels, shape="parallel", web=self.web,
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
                f"{truss.mark}.b{self.panels}": [*across, "z"],
            }
            for joint in truss.joints():
                held = supports.get(joint["name"])
                yield joint | ({"support": held} if held else {})

    def members(self) -> Iterator[tuple[str, Table]]:
        """Yield its members, each after the table that says what it has."""
        n, mark = self.panels, self.mark
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
