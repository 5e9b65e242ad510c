"""What a designer says of a member and of a job: the one description, for Python and for files.

Quantities are text with a unit; after validation every number is in internal units.
"""

from __future__ import annotations

import itertools
import math
import re
from typing import Annotated, Any, Literal

from pydantic import (
    Field,
    PrivateAttr,
    field_validator,
    model_validator,
)

from welbric.errors import InputError, wrong
from welbric.inputs.actions import UPRIGHT, CombinedForces, MemberLoad
from welbric.inputs.built_up import Battens, Lacing
from welbric.inputs.choices import Choose
from welbric.inputs.deflection_limits import DeflectionLimits
from welbric.inputs.descriptions import (
    Angle,
    Described,
    Dimension,
    Length,
    RotationSpring,
)
from welbric.inputs.joints import Connection, Connectors, Eyebar, FlangeHoles, OneLeg, Pin
from welbric.inputs.options import MemberDesign, StandardName, misplaced
from welbric.inputs.own_shapes import SectionChoice
from welbric.inputs.own_steels import SteelChoice
from welbric.inputs.restraints import Brace, Buckling, Restraint, SupportAt
from welbric.inputs.stiffeners import BearingStiffeners, ClearDistance
from welbric.inputs.webs import Web, turned

End = Literal["pinned", "fixed", "free", "guided"]
Release = Literal["torsion", "shear major", "shear minor"]

Role = Literal[
    "beam",
    "roof beam",
    "floor beam",
    "girder",
    "purlin",
    "cantilever",
    "strut",
    "brace",
    "column",
    "post",
    "hanger",
]
ROLES: dict[Role, float] = {  # the direction from start to end, degrees above the horizontal
    "beam": 0.0,
    "roof beam": 0.0,
    "floor beam": 0.0,
    "girder": 0.0,
    "purlin": 0.0,
    "cantilever": 0.0,
    "strut": 0.0,
    "brace": 0.0,
    "column": 90.0,
    "post": 90.0,
    "hanger": -90.0,
}


SHORTEST = 1.0  # mm that a member or a span may be


class Piece(Described):
    """A length of a member that has another section."""

    section: SectionChoice
    start: Length = 0.0
    end: Length


class EndOffset(Described):
    """Where an end of a member is, off the joint that it hangs on rigidly.

    ``along`` is a length towards its other end, such as half of a column's depth; a text is one.
    Else x, y and z are those from the joint to the end.
    """

    along: Dimension | None = None
    x: Dimension = 0.0
    y: Dimension = 0.0
    z: Dimension = 0.0

    @model_validator(mode="before")
    @classmethod
    def _from_words(cls, value: Any) -> Any:
        return value if isinstance(value, (dict, EndOffset)) else {"along": value}

    @model_validator(mode="after")
    def _one_way(self) -> EndOffset:
        if self.along is not None and (self.x or self.y or self.z):
            raise wrong("does not go with x, y and z", "along")
        if self.along is not None and self.along < 0:
            raise wrong("a length towards the other end, zero or more", "along")
        return self

    def from_joint(
        self, joint: tuple[float, float, float], towards: tuple[float, float, float]
    ) -> tuple[float, float, float]:
        """Return where the end is, of a joint and the way to the other one."""
        along = self.along or 0.0
        x, y, z = (
            a + off + along * e
            for a, off, e in zip(joint, (self.x, self.y, self.z), towards, strict=True)
        )
        return x, y, z


class Member(Described):
    """A steel member: what it is, how it is held, what it carries, what it must satisfy.

    Examples
    --------
    >>> import welbric as wb
    >>> beam = wb.Member(mark="FB1", section="W18X50", steel="A992", span="30 ft")
    >>> beam.length
    9144.0
    """

    mark: Annotated[str, Field(min_length=1, max_length=40)]
    role: Role = "beam"
    section: SectionChoice
    steel: SteelChoice | None = None
    web_steel: SteelChoice | None = None
    choose: Choose | None = None
    stage_of: Annotated[str, Field(min_length=1, max_length=40)] | None = None
    through: list[str] = []
    web: Web | None = None
    carries: Literal["both", "tension", "compression"] = "both"
    end_springs: list[RotationSpring] = []
    end_releases: list[list[Release]] = []
    offsets: list[EndOffset] = []
    span: Length | None = None
    spans: list[Length] = []
    height: Length | None = None
    ends: tuple[End, End] | None = None
    ends_minor: tuple[End, End] | None = None
    supports: list[SupportAt] = Field(default=[], alias="support")
    hinges: list[Length] = []
    lengthwise: Literal["one end held", "both ends held"] = "one end held"
    pieces: list[Piece] = Field(default=[], alias="piece")
    pattern: bool = False
    inclination: Angle | None = None
    self_weight: bool = True
    restraint: Restraint = Restraint()
    braces: list[Brace] = Field(default=[], alias="brace")
    buckling: Buckling = Buckling()
    connection: Connection | None = None
    pin: Pin | None = None
    eyebar: Eyebar | None = None
    connectors: Connectors | None = None
    lacing: Lacing | None = None
    battens: Battens | None = None
    one_leg: OneLeg | None = None
    bending_axes: Literal["principal", "geometric"] = "principal"
    stiffeners: ClearDistance | None = None
    bearing_stiffeners: list[BearingStiffeners] = Field(default=[], alias="bearing_stiffener")
    flange_holes: FlangeHoles | None = None
    bearing: Dimension | None = None
    standard: StandardName | None = None
    design: MemberDesign = {}
    second_order: Literal["amplified", "analysed", "included"] = "amplified"
    deflection: DeflectionLimits = DeflectionLimits()
    deflection_from: Literal["undeformed line", "chord"] = "undeformed line"
    camber: Dimension | None = None
    loads: list[MemberLoad] = Field(default=[], alias="load")
    forces: list[CombinedForces] = []
    note: str = ""
    _frame: Any = PrivateAttr(default=None)

    @classmethod
    def __get_pydantic_json_schema__(cls, core: Any, handler: Any) -> dict[str, Any]:
        """Return the schema: a stage has the section of its member."""
        found: dict[str, Any] = handler.resolve_ref_schema(handler(core))
        found["required"] = [key for key in found["required"] if key != "section"]
        found["anyOf"] = [{"required": [key]} for key in ("section", "stage_of")]
        return found

    @model_validator(mode="before")
    @classmethod
    def _misplaced(cls, data: Any) -> Any:
        """Say of a standard's choice that stands outside its table where it belongs."""
        known = {*cls.model_fields, *(field.alias for field in cls.model_fields.values())}
        strange = [key for key in data if key not in known] if isinstance(data, dict) else []
        if found := misplaced(strange):
            raise InputError(*found)
        return data

    @field_validator("mark")
    @classmethod
    def _one_line(cls, value: str) -> str:
        if not value.strip() or re.search(r"[\x00-\x1f\x7f]", value):
            raise ValueError("a mark is a short text on one line, such as 'FB1'")
        return value.strip()

    @model_validator(mode="after")
    def with_one_length(self) -> Member:
        """Return the member; its length is said once, and is a length.

        Of a member of a frame the joints say it, once they are known.
        """
        if self.end_springs and (len(self.end_springs) != 2 or min(self.end_springs) < 0):
            raise wrong("two springs, of its start and its end, none less than zero", "end_springs")
        if self.end_releases and len(self.end_releases) != 2:
            raise wrong("two lists, of its start and of its end", "end_releases")
        if both := set.intersection(*map(set, self.end_releases or [[]])):
            raise wrong(f"{min(both)} at both ends: nothing would hold it", "end_releases")
        if self.offsets and len(self.offsets) != 2:
            raise wrong("two of them, of its start and its end", "offsets")
        if self.through and self.length == 0:
            return self
        if self.web is not None and not self.through:
            raise wrong("goes with through", "web")
        if self.carries != "both" and not self.through:
            raise wrong("goes with through", "carries")
        if self.offsets and not self.through:
            raise wrong("goes with through", "offsets")
        if self.end_springs and not self.through:
            raise wrong("goes with through; of a member alone give a support", "end_springs")
        if self.end_releases and not self.through:
            raise wrong("goes with through", "end_releases")
        given = [name for name in ("span", "spans", "height") if getattr(self, name)]
        given += [name for name in ("span", "height") if getattr(self, name) == 0]
        if len(given) != 1:
            raise wrong(
                "give a span, or the spans of a continuous member, or a height for an "
                "upright one; one of the three",
                "span",
            )
        (name,) = given
        if self.length <= 0 or any(one <= 0 for one in self.spans):
            raise wrong("a length is greater than zero", name)
        if self.length > 1e6:
            raise wrong("longer than 1 km; is the unit right?", name)
        if min(self.spans, default=self.length) < SHORTEST:
            raise wrong("shorter than 1 mm; is the unit right?", name)
        return self

    @property
    def length(self) -> float:
        """Length, mm."""
        if self.spans:
            return float(sum(self.spans))
        return float(self.span if self.span is not None else self.height or 0.0)

    @property
    def frame(self) -> Any:
        """The frame that it is part of, a `FrameOf`; None where it stands alone."""
        return self._frame

    def part_of(self, frame: Any) -> None:
        """Say of what frame it is part."""
        self._frame = frame

    @property
    def weights(self) -> dict[str, float]:
        """What share of weights across it bends it about each axis, as its web is turned."""
        if abs(math.cos(self.slope)) < UPRIGHT:
            return {"major": 1.0}
        cosine, sine = turned(self.web)
        return {axis: share for axis, share in (("major", cosine), ("minor", sine)) if share}

    @property
    def axis_in_plane(self) -> str:
        """The axis about which it bends in the plane of x and z; none where its web is askew."""
        cosine, sine = turned(self.web)
        return "" if cosine and sine else "minor" if sine else "major"

    def inner_supports(self, axis: str) -> list[float]:
        """Return the places between its ends that hold it against bending about an axis, mm.

        Of a member of a frame, the joints at which a support, or something that it meets and that
        runs that way, keeps it from moving so.
        """
        if self.through and self._frame is not None:
            return list(self._frame.holds[self.mark][axis])
        return [float(x) for x in itertools.accumulate(self.spans[:-1])]

    def held_by_members(self, axis: str) -> set[float]:
        """Return those of the inner supports that other members of its frame are, no support."""
        if not self.through or self._frame is None:
            return set()
        return {float(x) for x in self._frame.holds[self.mark][f"{axis} by members"]}

    def joined_about(self, axis: str) -> tuple[str, str]:
        """Return how its ends are joined to a frame about an axis: ``"pinned"`` or ``"fixed"``.

        Where nobody says, braces and hangers are pinned and other members fixed.
        """
        usual = "pinned" if self.role in ("brace", "strut", "hanger") else "fixed"
        major = self.ends or (usual, usual)
        return (self.ends_minor or major) if axis == "minor" else major

    @property
    def is_between_pins(self) -> bool:
        """Whether a member of a frame is pinned at both of its two joints, about both axes."""
        joined = [*self.joined_about("major"), *self.joined_about("minor")]
        return len(self.through) == 2 and set(joined) == {"pinned"} and not self.end_springs

    def ends_about(self, axis: str) -> tuple[str, str]:
        """Return the end conditions for bending about an axis.

        A member of a frame buckles between its joints as if these were pins.
        """
        if self.through:
            tips = self._frame.tips[self.mark] if self._frame is not None else (False, False)
            if not any(tips):
                return ("pinned", "pinned")
            return ("free", "fixed") if tips[0] else ("fixed", "free")
        default = ("fixed", "free") if self.role == "cantilever" else ("pinned", "pinned")
        major = self.ends or default
        return (self.ends_minor or major) if axis == "minor" else major

    @property
    def slope(self) -> float:
        """Angle of the member above the horizontal, from start to end, radians."""
        if self.inclination is not None:
            return self.inclination
        return math.radians(ROLES[self.role])
