"""What a designer says of the stiffeners of a web."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, WithJsonSchema, model_validator

from welbric.errors import wrong
from welbric.inputs.descriptions import Described, Dimension, Length, Lengths, Stress


class Stiffeners(Described):
    """Transverse stiffeners of a web: a clear distance, or that with more of them.

    ``end_panels`` is the clear distance next to the ends of the member, where that is another one.
    ``width`` (outstanding) and ``thickness`` are of one stiffener, ``Fy`` its steel's where it is
    not the member's. With ``tension_field`` the inner panels go on carrying shear after they
    buckle.
    """

    spacing: Length
    end_panels: Length | None = None
    tension_field: bool = False
    width: Dimension | None = None
    thickness: Dimension | None = None
    sides: Literal["both", "one"] = "both"
    Fy: Stress | None = None

    @model_validator(mode="before")
    @classmethod
    def _from_a_length(cls, value: Any) -> Any:
        return value if isinstance(value, dict | Stiffeners) else {"spacing": value}

    @model_validator(mode="after")
    def _fits_together(self) -> Stiffeners:
        for name in ("spacing", "end_panels", "width", "thickness", "Fy"):
            value = getattr(self, name)
            if value is not None and value <= 0:
                raise ValueError(f"{name}: is greater than zero")
        if (self.width is None) != (self.thickness is None):
            raise ValueError("width and thickness go together")
        if self.width is None and {"sides", "Fy"} & self.model_fields_set:
            raise ValueError("sides and Fy: go with a width and a thickness")
        return self


STIFFENERS = WithJsonSchema(
    {
        "description": "the clear distance between transverse stiffeners, or a table of more",
        "anyOf": [{"type": "string"}, {"type": "object", "required": ["spacing"]}],
    }
)


class BearingStiffeners(Described):
    """A pair of stiffeners, one on each side of the web, at places where a force presses it.

    ``clip`` is what is cut off each one's corner at the web, ``Fy`` its steel's where it is not
    the member's.
    """

    at: Lengths
    width: Dimension
    thickness: Dimension
    clip: Dimension = 0.0
    Fy: Stress | None = None

    @model_validator(mode="after")
    def _fits_together(self) -> BearingStiffeners:
        if min(self.width, self.thickness) <= 0 or (self.Fy is not None and self.Fy <= 0):
            raise ValueError("width, thickness and Fy are greater than zero")
        if not 0 <= self.clip < self.width:
            raise wrong("is not below zero, and less than the width", "clip")
        return self


ClearDistance = Annotated[Stiffeners, STIFFENERS, Field()]
