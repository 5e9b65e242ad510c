"""What a designer says of a member's end joints and of what makes two angles one."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Discriminator, Field, Tag, field_validator, model_validator

from welbric.errors import InputError, Problem, wrong
from welbric.inputs.descriptions import Area, Described, Dimension, Length
from welbric.sections.table import Section


class Holes(Described):
    """Holes across the member: how many, the diameter of each, and through what."""

    count: Annotated[int, Field(ge=1, le=100)]
    diameter: Dimension
    thickness: Dimension

    @model_validator(mode="after")
    def _positive(self) -> Holes:
        if min(self.diameter, self.thickness) <= 0:
            raise ValueError("a diameter and a thickness are greater than zero")
        return self


class FlangeHoles(Described):
    """Holes across a flange where it is in tension."""

    count: Annotated[int, Field(ge=1, le=100)]
    diameter: Dimension

    @model_validator(mode="after")
    def _positive(self) -> FlangeHoles:
        if self.diameter <= 0:
            raise ValueError("a diameter is greater than zero")
        return self


class Stagger(Described):
    """One diagonal of a chain of staggered holes."""

    pitch: Dimension
    gauge: Dimension
    thickness: Dimension

    @model_validator(mode="after")
    def _positive(self) -> Stagger:
        if min(self.pitch, self.gauge, self.thickness) <= 0:
            raise ValueError("a pitch, a gauge and a thickness are greater than zero")
        return self


class Slot(Described):
    """Slots in two opposite walls of a tube, over a plate that is welded along them.

    ``length`` is that of the welds, ``plate`` the plate's thickness, ``width`` the slot's;
    of a rectangular tube the plate is parallel to the ``"depth"`` or to the ``"width"``.
    """

    length: Dimension
    plate: Dimension
    width: Dimension
    parallel_to: Literal["depth", "width"] = "depth"

    @model_validator(mode="after")
    def _fits_together(self) -> Slot:
        if min(self.length, self.plate) <= 0:
            raise ValueError("the length and the plate are greater than zero")
        if self.width < self.plate:
            raise ValueError("the slot is not narrower than the plate")
        return self


class Joint(Described):
    """How the end joint takes the force, for the shear lag factor.

    ``through`` is ``"all"`` the elements, or the ``"flange"``, the ``"web"`` or the ``"leg"`` with
    so many bolts in a line, or with ``"transverse"`` welds alone; ``eccentricity`` and ``length``
    of the joint give 1 - x/l, with ``between_welds`` the factor of longitudinal welds alone;
    ``slot`` is of a tube over a plate.
    """

    through: Literal["all", "flange", "web", "leg"] | None = None
    bolts_in_line: Annotated[int, Field(ge=1, le=100)] | None = None
    eccentricity: Dimension | None = None
    length: Dimension | None = None
    between_welds: Dimension | None = None
    welds: Literal["transverse"] | None = None
    slot: Slot | None = None

    @model_validator(mode="after")
    def _fits_together(self) -> Joint:
        by_element = self.through in ("flange", "web", "leg")
        if self.slot is not None:
            if self.model_fields_set != {"slot"}:
                raise wrong("goes alone", "slot")
            return self
        if self.welds is not None:
            if not by_element or self.model_fields_set != {"through", "welds"}:
                raise InputError(
                    Problem("go with through = 'flange', 'web' or 'leg' alone", "welds")
                )
            return self
        if (self.eccentricity is None) != (self.length is None):
            raise ValueError("eccentricity and length go together")
        if self.through is None and self.length is None:
            raise ValueError("give through, or eccentricity and length, or slot")
        if self.length is not None and not 0 <= (self.eccentricity or 0.0) < self.length:
            raise ValueError("the eccentricity is less than the length, and not below zero")
        if (self.bolts_in_line is None) == by_element:
            raise ValueError("bolts_in_line goes with through = 'flange', 'web' or 'leg'")
        if self.between_welds is not None and (self.length is None or self.between_welds <= 0):
            raise ValueError("between_welds is greater than zero, and goes with length")
        return self

    def misfits(self, section: Section) -> list[str]:
        """Return what of the joint a section has not got."""
        words, of = section.shape.split(), section.properties
        fits = {"flange": "I tee channel", "web": "I channel", "leg": "angle"}
        if self.through in fits and not set(fits[self.through].split()) & set(words):
            return [f"a {section.shape} has no {self.through} to be fastened by"]
        if self.slot is None:
            return []
        if section.shape not in ("round tube", "rectangular tube", "welded box"):
            return [f"a {section.shape} has no walls to be slotted"]
        across = of.get("b", of["d"]) if self.slot.parallel_to == "depth" else of["d"]
        if self.slot.width >= across - 2 * section.thickest:
            return ["the slot is wider than the tube is inside"]
        return []


def _number_or_joint(value: object) -> str:
    """Return which of the two a factor is given by, so that only that one's problems are said."""
    return "by joint" if isinstance(value, dict | Joint) else "by number"


class Connection(Described):
    """What the member's end connection leaves of the section in tension."""

    net_area: Area | None = None
    holes: list[Holes] = []
    staggers: list[Stagger] = []
    shear_lag: Annotated[
        Annotated[float, Field(gt=0, le=1), Tag("by number")] | Annotated[Joint, Tag("by joint")],
        Discriminator(_number_or_joint),
    ]

    @model_validator(mode="after")
    def _one_way(self) -> Connection:
        if self.net_area is not None and (self.holes or self.staggers):
            raise ValueError("give the net area, or the holes, not both")
        if self.staggers and not self.holes:
            raise wrong("go with holes", "staggers")
        joint = self.shear_lag
        if self.holes and isinstance(joint, Joint) and (joint.slot or joint.welds):
            raise InputError(
                Problem("do not go with a slot, nor with transverse welds alone", "holes")
            )
        return self


class Pin(Described):
    """A plate's end with a hole for a pin.

    ``end`` is from the edge of the hole to the end of the plate along the force, ``edge`` from the
    hole to the edge of the plate across it.
    """

    diameter: Dimension
    hole: Dimension
    end: Dimension
    edge: Dimension

    @model_validator(mode="after")
    def _fits_together(self) -> Pin:
        if min(self.diameter, self.end, self.edge) <= 0:
            raise ValueError("diameter, end and edge are greater than zero")
        if self.hole < self.diameter:
            raise wrong("is not smaller than the pin", "hole")
        return self


class Eyebar(Described):
    """A bar with a round head at its ends, and a pin through it."""

    diameter: Dimension
    hole: Dimension
    head: Dimension
    fillet: Dimension

    @model_validator(mode="after")
    def _fits_together(self) -> Eyebar:
        if min(self.diameter, self.fillet) <= 0:
            raise ValueError("diameter and fillet are greater than zero")
        if not self.diameter <= self.hole < self.head:
            raise ValueError("the pin fits into the hole, and the hole into the head")
        return self


class Connectors(Described):
    """What makes two angles act as one."""

    spacing: Length
    fastened: Literal["snug-tight", "welded or pretensioned"] = "snug-tight"

    @field_validator("spacing")
    @classmethod
    def _positive(cls, value: float) -> float:
        if value <= 0:
            raise ValueError("a spacing is greater than zero")
        return value


class OneLeg(Described):
    """An angle loaded through one leg, alone or in a planar truss, or in a box or space truss."""

    leg: Literal["longer", "shorter"]
    truss: Literal["planar", "space"] = "planar"
