"""What a designer says of what holds a member: flanges, braces, supports, buckling lengths."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, WithJsonSchema, field_validator, model_validator

from welbric.errors import did_you_mean, wrong
from welbric.inputs.descriptions import (
    Described,
    Dimension,
    Force,
    Length,
    Pressure,
    RotationSpring,
    Spring,
)
from welbric.standards.options import Quantity


class FlangeRestraint(Described):
    """Where a flange is held laterally, besides the supports."""

    kind: Literal["continuous", "supports", "loads", "every", "at", "by_span"]
    every: Length | None = None
    at: list[Length] = []
    by_span: list[FlangeRestraint] = []

    @model_validator(mode="before")
    @classmethod
    def _from_words(cls, value: Any) -> Any:
        if isinstance(value, FlangeRestraint):
            return value
        if isinstance(value, str):
            words = ("continuous", "supports", "loads")
            if value not in words:
                hint = did_you_mean(value, words)
                raise ValueError(
                    f"{value!r} is no restraint{hint or ''}; accepted: 'continuous', 'supports', "
                    '\'loads\', {every = "6 ft"} or {at = ["10 ft", "20 ft"]}'
                )
            return {"kind": value}
        if isinstance(value, dict) and len(value) == 1 and set(value) <= {"every", "at", "by_span"}:
            (kind,) = value
            return {"kind": kind, **value}
        if isinstance(value, dict) and "kind" in value:
            return value
        raise ValueError(
            "accepted: 'continuous', 'supports', 'loads', {every = \"6 ft\"}, "
            '{at = ["10 ft", "20 ft"]} or {by_span = ["continuous", "supports"]}'
        )

    @field_validator("by_span")
    @classmethod
    def _one_level(cls, value: list[FlangeRestraint]) -> list[FlangeRestraint]:
        if any(one.by_span for one in value):
            raise ValueError("a span's restraint is not by span again")
        return value

    @field_validator("every")
    @classmethod
    def _positive(cls, value: float | None) -> float | None:
        if value is not None and value <= 0:
            raise ValueError("a spacing is greater than zero")
        return value


_RESTRAINT_SCHEMA = WithJsonSchema(
    {
        "description": "where the flange is held laterally, besides the supports",
        "anyOf": [
            {"enum": ["continuous", "supports", "loads"]},
            {"type": "object", "required": ["every"], "properties": {"every": {"type": "string"}}},
            {
                "type": "object",
                "required": ["by_span"],
                "properties": {"by_span": {"type": "array"}},
            },
            {
                "type": "object",
                "required": ["at"],
                "properties": {"at": {"type": "array", "items": {"type": "string"}}},
            },
        ],
    }
)


class Restraint(Described):
    """Lateral restraint of each flange, and places that cannot twist."""

    twist: Annotated[FlangeRestraint, _RESTRAINT_SCHEMA] | None = None

    top: Annotated[FlangeRestraint, _RESTRAINT_SCHEMA] | None = None
    bottom: Annotated[FlangeRestraint, _RESTRAINT_SCHEMA] | None = None


class Brace(Described):
    """What holds a member laterally elastically; it counts in the critical load by eigenvalue.

    At places ``stiffness`` is in N/mm and ``twist_stiffness`` in N mm per radian; without a gap,
    ``along`` a member, both are for each mm.
    """

    at: Annotated[list[float], Quantity("length", many=True)] = []
    start: Length | None = None
    end: Length | None = None
    stiffness_along: Pressure | None = None
    twist_stiffness_along: Force | None = None
    on: Literal["top", "shear centre", "bottom"] = "shear centre"
    stiffness: Spring | None = None
    twist_stiffness: RotationSpring | None = None
    warping: bool = False

    @model_validator(mode="after")
    def _holds(self) -> Brace:
        at = [v for v in (self.stiffness, self.twist_stiffness) if v is not None]
        along = [v for v in (self.stiffness_along, self.twist_stiffness_along) if v is not None]
        given = at + along
        if not given and not self.warping:
            raise ValueError("give a stiffness, a twist_stiffness or warping = true")
        if bool(self.at) != bool(at or self.warping):
            raise wrong("goes with a stiffness, a twist_stiffness or warping", "at")
        if not along and (self.start is not None or self.end is not None):
            raise ValueError("start and end: go with a stiffness along the member")
        if any(value <= 0 for value in given):
            raise ValueError("a stiffness is greater than zero")
        if self.on != "shear centre" and self.stiffness is None and self.stiffness_along is None:
            raise wrong("goes with a stiffness", "on")
        return self


Factor = Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]


class Buckling(Described):
    """Unbraced lengths and effective length factors of a member in compression.

    ``lateral_offset`` is the distance, along the web, from the shear centre to what holds the
    member laterally between its supports, where that does not hold it from twisting.
    """

    major_length: Length | None = None
    minor_length: Length | None = None
    torsional_length: Length | None = None
    major_K: Factor | None = None
    minor_K: Factor | None = None
    torsional_K: Factor | None = None
    lateral_offset: Dimension | None = None


class SupportAt(Described):
    """What holds a member between its ends, besides the joints of its spans.

    ``hold`` is ``"pinned"`` (against moving), ``"fixed"`` (against turning too) or ``"none"``,
    where a spring, in N/mm, or a rotation spring, in N mm per radian, holds it.
    """

    at: Length
    hold: Literal["pinned", "fixed", "none"] = "pinned"
    spring: Spring | None = None
    rotation_spring: RotationSpring | None = None
    axis: Literal["major", "minor", "both"] = "both"
    bearing: Dimension | None = None

    @model_validator(mode="after")
    def _fits_together(self) -> SupportAt:
        for name in ("spring", "rotation_spring"):
            value = getattr(self, name)
            if value is not None and value <= 0:
                raise ValueError(f"{name}: a stiffness is greater than zero")
        if self.bearing is not None and self.bearing <= 0:
            raise wrong("a length is greater than zero", "bearing")
        if self.hold == "none" and self.spring is None and self.rotation_spring is None:
            raise wrong("'none' needs a spring or a rotation_spring", "hold")
        if self.spring is not None and self.hold != "none":
            raise ValueError('spring: goes with hold = "none"')
        if self.rotation_spring is not None and self.hold == "fixed":
            raise ValueError('rotation_spring: does not go with hold = "fixed"')
        return self
