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
    field_validator,
    model_validator,
)

from welbric.analysis import beam
from welbric.analysis.member_loads import AxialLineLoad, LineLoad, Load, breaks_of
from welbric.errors import InputError
from welbric.inputs.actions import CombinedForces, MemberLoad
from welbric.inputs.choices import Choose
from welbric.inputs.deflection_limits import DeflectionLimits
from welbric.inputs.descriptions import (
    Angle,
    Described,
    Dimension,
    Length,
)
from welbric.inputs.joints import Connection, Connectors, Eyebar, FlangeHoles, Joint, OneLeg, Pin
from welbric.inputs.options import MemberDesign, misplaced
from welbric.inputs.own_shapes import SectionChoice
from welbric.inputs.own_steels import SteelChoice
from welbric.inputs.restraints import Brace, Buckling, Restraint, SupportAt
from welbric.inputs.stiffeners import BearingStiffeners, ClearDistance
from welbric.sections.table import Section
from welbric.steels import Band, steel

GRAVITY = 9.80665  # N per kg, standard gravity


End = Literal["pinned", "fixed", "free", "guided"]

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


def _holds_a_rigid_bar(supports: list[beam.Support]) -> bool:
    """Whether supports keep a bar without hinges from moving: at two places, or at one and turned.

    The rest is left to the analysis, which names the motion.
    """
    at = [s for s in supports if s.held or s.spring > 0]
    turns = any(s.clamped or s.rotation_spring > 0 for s in supports)
    return len(at) > 1 or (bool(at) and turns)


class Piece(Described):
    """A length of a member that has another section."""

    section: SectionChoice
    start: Length = 0.0
    end: Length


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
    steel: SteelChoice = steel("A992")
    web_steel: SteelChoice | None = None
    choose: Choose | None = None
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
    one_leg: OneLeg | None = None
    bending_axes: Literal["principal", "geometric"] = "principal"
    stiffeners: ClearDistance | None = None
    bearing_stiffeners: list[BearingStiffeners] = Field(default=[], alias="bearing_stiffener")
    flange_holes: FlangeHoles | None = None
    bearing: Dimension | None = None
    design: MemberDesign = {}
    second_order: Literal["amplified", "analysed", "included"] = "amplified"
    deflection: DeflectionLimits = DeflectionLimits()
    deflection_from: Literal["undeformed line", "chord"] = "undeformed line"
    camber: Dimension | None = None
    loads: list[MemberLoad] = Field(default=[], alias="load")
    forces: list[CombinedForces] = []
    note: str = ""

    @model_validator(mode="before")
    @classmethod
    def _misplaced(cls, data: Any) -> Any:
        """Say of a standard's choice that stands outside its table where it belongs."""
        known = {*cls.model_fields, *(field.alias for field in cls.model_fields.values())}
        strange = [key for key in data if key not in known] if isinstance(data, dict) else []
        if found := misplaced(strange):
            raise ValueError("\n".join(found))
        return data

    @field_validator("mark")
    @classmethod
    def _one_line(cls, value: str) -> str:
        if not value.strip() or re.search(r"[\x00-\x1f\x7f]", value):
            raise ValueError("a mark is a short text on one line, such as 'FB1'")
        return value.strip()

    @model_validator(mode="after")
    def _fits_together(self) -> Member:
        found: list[str] = []
        given = [name for name in ("span", "spans", "height") if getattr(self, name)]
        given += [name for name in ("span", "height") if getattr(self, name) == 0]
        if len(given) != 1:
            found.append(
                "span: give a span, or the spans of a continuous member, or a height for an "
                "upright one; one of the three"
            )
            raise ValueError("\n".join(found))
        (name,) = given
        L = self.length
        if any(one <= 0 for one in self.spans):
            found.append("spans: a length is greater than zero")
            raise ValueError("\n".join(found))
        if L <= 0:
            found.append(f"{name}: a length is greater than zero")
        elif L > 1e6:
            found.append(f"{name}: longer than 1 km; is the unit right?")
        slack = 1e-6 * max(L, 1.0)
        for what, places in (("support", [s.at for s in self.supports]), ("hinges", self.hinges)):
            for place in places:
                if not slack < place < L - slack:
                    found.append(
                        f"{what}: {place / 1000:.4g} m is not between the ends of the member, "
                        f"which is {L / 1000:.4g} m long"
                    )
        found += self._piece_problems()
        if self.camber is not None and (len(self.span_lengths("major")) != 1 or self.camber < 0):
            found.append("camber: is not less than zero, and goes with one span")
        if self.pattern and len(self.span_lengths("major")) < 2:
            found.append("pattern: needs more than one span")
        found += self._mechanisms() if L > 0 and not found else []
        for number, load in enumerate(self.loads, 1):
            for place in load.at or [] if load.settlement is not None else []:
                held = [s.at for s in self.supports_about(load.axis) if s.held]
                if all(abs(place - at) > slack for at in held):
                    found.append(f"load {number}: no support settles at {place / 1000:.4g} m")
        for number, load in enumerate(self.loads, 1):
            for place in load.places():
                if not -slack <= place <= L + slack:
                    found.append(
                        f"load {number}: {place / 1000:.4g} m is off the member, "
                        f"which is {L / 1000:.4g} m long"
                    )
            if load.per == "plan length" and abs(math.cos(self.slope)) < 1e-9:
                found.append(f"load {number}: an upright member has no plan length")
            if (L if load.end is None else load.end) <= (load.start or 0.0):
                found.append(f"load {number}: its end is not beyond its start")
        for number, brace in enumerate(self.braces, 1):
            if (L if brace.end is None else brace.end) <= (brace.start or 0.0):
                found.append(f"brace {number}: its end is not beyond its start")
            for place in [*brace.at, *(x for x in (brace.start, brace.end) if x is not None)]:
                if not -slack <= place <= L + slack:
                    found.append(
                        f"brace {number}: {place / 1000:.4g} m is off the member, "
                        f"which is {L / 1000:.4g} m long"
                    )
        for flange in ("top", "bottom", "twist"):
            hold = getattr(self.restraint, flange)
            spans = self.span_lengths("minor") if hold and hold.by_span else []
            if hold and hold.by_span and len(hold.by_span) != len(spans):
                found.append(
                    f"restraint, {flange}: {len(hold.by_span)} restraints by span, for "
                    f"{len(spans)} spans and overhangs"
                )
            for (start, end), one in zip(spans, hold.by_span if hold else [], strict=False):
                for place in one.at:
                    if not -slack <= place <= end - start + slack:
                        found.append(
                            f"restraint, {flange}: {place / 1000:.4g} m is off its span, which is "
                            f"{(end - start) / 1000:.4g} m long"
                        )
            for place in hold.at if hold else []:
                if not -slack <= place <= L + slack:
                    found.append(
                        f"restraint, {flange}: {place / 1000:.4g} m is off the member, "
                        f"which is {L / 1000:.4g} m long"
                    )
            every = [one.every for one in ([hold, *hold.by_span] if hold else []) if one.every]
            if every and L / min(every) > 1000:
                found.append(f"restraint, {flange}: more than 1000 restraints; is the unit right?")
        for field in ("major_length", "minor_length", "torsional_length"):
            value = getattr(self.buckling, field)
            if value is not None and value <= 0:
                found.append(f"buckling, {field}: a length is greater than zero")
            elif value is not None and value > 1e6:
                found.append(f"buckling, {field}: longer than 1 km; is the unit right?")
        off = self.buckling.lateral_offset
        if off is not None and (off < 0 or self.buckling.minor_length is None):
            found.append(
                "buckling, lateral_offset: is not less than zero, and goes with a minor_length"
            )
        try:
            self.strengths()
            for piece in self.pieces:
                self.as_if_all(piece.section).strengths()
            if self.web_steel is not None and self.web_strengths() is None:
                found.append(f"web_steel: a {self.section.shape} has no web of its own")
        except InputError as error:
            found.append(f"steel: {error}")
        if self.forces and self.self_weight and "self_weight" in self.model_fields_set:
            found.append("self_weight: own weight cannot be added to forces combined elsewhere")
        shapes = {one.shape for _, _, one in self.stretches()} if not found else set()
        if self.connectors is not None and self.connectors.spacing > self.length:
            found.append("connectors: farther apart than the member is long")
        pairs = {"double angle", "double channel"}
        if self.connectors is not None and shapes and not shapes & pairs:
            found.append("connectors: go with a double angle or a double channel")
        ends = [self.pin, self.eyebar, self.connection]
        if (self.pin or self.eyebar) and shapes and shapes != {"flat bar"}:
            found.append("pin, eyebar: go with a flat bar")
        if sum(end is not None for end in ends) > 1:
            found.append("connection: give one of connection, pin and eyebar")
        for axis in ("major", "minor"):
            length, K = (getattr(self.buckling, f"{axis}_{what}") for what in ("length", "K"))
            loose = {"free", "guided"} & set(self.ends_about(axis))
            if length is not None and K is None and loose:
                found.append(
                    f"buckling, {axis}_length: beside a {loose.pop()} end K is not 1, and does not "
                    f"follow from a length: give {axis}_K too"
                )
        if self.bearing is not None and self.bearing <= 0:
            found.append("bearing: a length is greater than zero")
        if self.stiffeners is not None and shapes and not any("I" in s.split() for s in shapes):
            found.append("stiffeners: go with the web of an I-shape")
        found += self._stiffener_problems(shapes)
        if self.bending_axes == "geometric" and shapes and shapes != {"angle"}:
            found.append("bending_axes: goes with a single angle")
        if self.one_leg is not None and shapes and "angle" not in shapes:
            found.append("one_leg: goes with a single angle")
        if self.forces and self.second_order == "analysed":
            found.append("second_order: 'analysed' needs loads, not forces combined elsewhere")
        if self.loads and self.second_order == "included":
            found.append(
                "second_order: 'included' goes with forces combined elsewhere; loads are analysed "
                "to the first order here unless 'analysed' is said"
            )
        if self.loads and self.forces:
            found.append("forces: give loads, or forces combined elsewhere, and not both")
        found += self.end_problems()
        if found:
            raise ValueError("\n".join(found))
        return self

    def end_problems(self) -> list[str]:
        """Return what of the connection and of the holes does not fit the section."""
        found: list[str] = []
        shapes = {one.shape for _, _, one in self.stretches()}
        if self.flange_holes is not None and shapes:
            widths = [self.section.properties.get(n) for n in ("bf", "bf_top", "bf_bottom")]
            lost = self.flange_holes.count * (self.flange_holes.diameter + 25.4 / 16)
            if not all("I" in s.split() for s in shapes):
                found.append("flange_holes: go with an I-shape")
            elif shapes & {"plated I", "capped I"}:
                found.append("flange_holes: of flanges with covers are not verified")
            elif lost >= min(width for width in widths if width):
                found.append("flange_holes: they take more than the flange has")
        if self.connection is not None:
            gross, net = self.section.A, self.connection.net_area
            lost = sum(h.count * h.diameter * h.thickness for h in self.connection.holes)
            if lost >= gross:
                found.append("connection, holes: they take more than the section has")
            joint = self.connection.shear_lag
            if isinstance(joint, Joint):
                for section in dict.fromkeys(one for _, _, one in self.stretches()):
                    found += [f"connection, shear_lag: {why}" for why in joint.misfits(section)]
            if net is not None and not 0 < net <= gross * (1 + 1e-9):
                found.append(
                    "connection, net_area: the net area is greater than zero and not greater "
                    f"than the gross area, {gross:.0f} mm²"
                )
        return found

    def _stiffener_problems(self, shapes: set[str]) -> list[str]:
        """Return what is wrong with the stiffeners of the web."""
        found: list[str] = []
        given = self.stiffeners
        if given is not None and 2 * (given.end_panels or given.spacing) > self.length:
            found.append("stiffeners: the panels next to the ends are longer than the member")
        widest = 0.0
        if given is not None and given.width is not None:
            widest = given.width
        slack = 1e-6 * max(self.length, 1.0)
        for number, pair in enumerate(self.bearing_stiffeners, 1):
            widest = max(widest, pair.width)
            for place in pair.at:
                if not -slack <= place <= self.length + slack:
                    found.append(
                        f"bearing_stiffener {number}: {place / 1000:.4g} m is off the member, "
                        f"which is {self.length / 1000:.4g} m long"
                    )
        if self.bearing_stiffeners and not all("I" in s.split() for s in shapes):
            found.append("bearing_stiffener: goes with the web of an I-shape")
        names = ("bf", "bf_top", "bf_bottom")
        for _, _, section in self.stretches():
            widths = [section.properties[name] for name in names if name in section.properties]
            if widths and 2 * widest + section.properties.get("tw", 0.0) > max(widths) + 25.4:
                found.append("stiffeners: a pair of them is wider than the flanges")
                break
        return found

    def _piece_problems(self) -> list[str]:
        """Return what is wrong with the lengths of other sections."""
        found = []
        slack = 1e-6 * max(self.length, 1.0)
        for number, piece in enumerate(self.pieces, 1):
            if piece.end <= piece.start:
                found.append(f"piece {number}: its end is not beyond its start")
            elif piece.start < -slack or piece.end > self.length + slack:
                found.append(
                    f"piece {number}: {piece.start / 1000:.4g} to {piece.end / 1000:.4g} m is off "
                    f"the member, which is {self.length / 1000:.4g} m long"
                )
        ordered = sorted(self.pieces, key=lambda piece: piece.start)
        for first, second in itertools.pairwise(ordered):
            if second.start < first.end - slack:
                found.append(
                    f"piece: {first.section.name} and {second.section.name} overlap from "
                    f"{second.start / 1000:.4g} to {min(first.end, second.end) / 1000:.4g} m"
                )
        return found

    def stretches(self) -> list[tuple[float, float, Section]]:
        """Return the start, the end and the section of each length, from start to end."""
        found: list[tuple[float, float, Section]] = []
        at = 0.0
        for piece in sorted(self.pieces, key=lambda piece: piece.start):
            if piece.start > at:
                found.append((at, piece.start, self.section))
            found.append((piece.start, piece.end, piece.section))
            at = piece.end
        if at < self.length:
            found.append((at, self.length, self.section))
        return found

    @property
    def section_names(self) -> str:
        """The names of its sections, from start to end."""
        return " / ".join(dict.fromkeys(section.name for _, _, section in self.stretches()))

    def as_if_all(self, section: Section) -> Member:
        """Return the member with one section all along."""
        return self.model_copy(update={"section": section, "pieces": []})

    def _mechanisms(self) -> list[str]:
        """Return what is free to move, in words."""
        found = []
        for axis in ("major", "minor"):
            supports = self.supports_about(axis)
            if not self.hinges and _holds_a_rigid_bar(supports):
                continue
            places = [s.at for s in supports] + self.hinges
            try:
                beam.bend(breaks_of(self.length, [[]], places), [[]], supports, 1.0, self.hinges)
            except InputError as error:
                first, last = self.ends_about(axis)
                found.append(
                    f"ends: {first} at the start and {last} at the end leave the member free to "
                    f"move ({axis} axis): a mechanism; {error}"
                )
        return found

    @property
    def length(self) -> float:
        """Length, mm."""
        if self.spans:
            return float(sum(self.spans))
        return float(self.span if self.span is not None else self.height or 0.0)

    def supports_about(self, axis: str) -> list[beam.Support]:
        """Return what holds the member against bending about an axis, from start to end."""
        found = {s.at: s for s in beam.end_supports(self.length, *self.ends_about(axis))}
        for place in itertools.accumulate(self.spans[:-1]):
            found[float(place)] = beam.Support(float(place))
        for own in self.supports:
            if own.axis in (axis, "both"):
                near = [at for at in found if abs(at - own.at) <= 1e-6 * self.length]
                at = near[0] if near else own.at
                held = own.hold != "none"
                springs = (own.spring or 0.0, own.rotation_spring or 0.0)
                found[at] = beam.Support(at, held, own.hold == "fixed", *springs)
        return [found[at] for at in sorted(found)]

    def span_lengths(self, axis: str) -> list[tuple[float, float]]:
        """Return the start and the end of each span between supports, and of free ends, mm."""
        held = [s.at for s in self.supports_about(axis) if s.held]
        stops = sorted({0.0, self.length, *held})
        return list(itertools.pairwise(stops))

    def buckles_as_a_whole(self, axis: str) -> bool:
        """Whether an overhang or a hinge takes a member's buckling out of the textbook."""
        overhang = "free" in self.ends_about(axis) and len(self.span_lengths(axis)) > 1
        return overhang or bool(self.hinges)

    @property
    def panel_ends(self) -> list[float]:
        """The places between the panels of a stiffened web next to the ends and the others, mm."""
        if self.stiffeners is None:
            return []
        end = self.stiffeners.end_panels or self.stiffeners.spacing
        return [end, self.length - end]

    def strengths(self) -> Band:
        """Return the strengths of the steel for the thickest part of the section."""
        return self.steel.strengths(self.section.thickest, self.section.shape)

    def web_strengths(self) -> Band | None:
        """Return those of the web by its own thickness, or None where the shape has no web."""
        web = self.section.properties.get("tw")
        if web is None:
            return None
        return (self.web_steel or self.steel).strengths(web, self.section.shape)

    def ends_about(self, axis: str) -> tuple[str, str]:
        """Return the end conditions for bending about an axis."""
        default = ("fixed", "free") if self.role == "cantilever" else ("pinned", "pinned")
        major = self.ends or default
        return (self.ends_minor or major) if axis == "minor" else major

    @property
    def slope(self) -> float:
        """Angle of the member above the horizontal, from start to end, radians."""
        if self.inclination is not None:
            return self.inclination
        return math.radians(ROLES[self.role])

    @property
    def held_lengthwise(self) -> list[float]:
        """The ends that hold the member along its axis: the start, unless that is free, or both."""
        if self.lengthwise == "both ends held":
            return [0.0, self.length]
        return [self.length if self.ends_about("major")[0] == "free" else 0.0]

    @property
    def own_weight(self) -> float:
        """Weight per length, N/mm; the mean where sections differ."""
        whole = sum((end - start) * s.mass for start, end, s in self.stretches())
        return whole / self.length * GRAVITY

    def self_weight_loads(self) -> list[tuple[str, Load]]:
        """Return the member's own weight as (axis, load)."""
        across, along = math.cos(self.slope), math.sin(self.slope)
        loads: list[tuple[str, Load]] = []
        for start, end, section in self.stretches():
            w = section.mass * GRAVITY
            if abs(across) > 1e-9:
                loads.append(("major", LineLoad(start, end, w * across, w * across)))
            if abs(along) > 1e-9:
                loads.append(("major", AxialLineLoad(start, end, -along * w, -along * w)))
        return loads
