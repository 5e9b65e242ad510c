"""What a designer says of the deflections that are allowed."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import ValidationInfo
from pydantic_core import core_schema

from welbric.inputs.descriptions import Described
from welbric.units import parse


class Limits:
    """Marks limits of deflection: span over a number, a dimension, or a list of such."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        def read(value: Any, info: ValidationInfo) -> tuple[DeflectionLimit, ...]:
            values = value if isinstance(value, list | tuple) else [value]
            if not values:
                raise ValueError("the list is empty")
            return tuple(DeflectionLimit.read(one, info) for one in values)

        return core_schema.with_info_plain_validator_function(read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        one = {"type": ["number", "string"], "description": "360 or 'L/360', or '25 mm'"}
        return {"anyOf": [one, {"type": "array", "items": one}]}


_SHARE = re.compile(r"\s*(?:L|H|span)\s*/\s*(\d+(?:\.\d+)?)\s*", re.IGNORECASE)


@dataclass(frozen=True)
class DeflectionLimit:
    """A limit of deflection: the span over a number, or a dimension in mm."""

    over: float | None = None
    at_most: float | None = None

    @classmethod
    def read(cls, value: Any, info: ValidationInfo) -> DeflectionLimit:
        """Read a number or a dimension."""
        if isinstance(value, DeflectionLimit):
            return value
        if isinstance(value, str) and (share := _SHARE.fullmatch(value)):
            value = float(share[1])
        if isinstance(value, int | float) and not isinstance(value, bool):
            if not 0 < value < 1e300:
                raise ValueError(
                    f"{str(value)[:60]}: a limit is greater than zero, such as 360 for span/360"
                )
            return cls(over=float(value))
        found = parse(value, "dimension")
        if found <= 0:
            raise ValueError(f"{value!r}: a limit is greater than zero")
        return cls(at_most=found)

    def allowed(self, span: float) -> float:
        """Return the deflection allowed in a span, mm."""
        return self.at_most if self.at_most is not None else span / (self.over or math.inf)


class DeflectionLimits(Described):
    """Limits of deflection by kind of service combination.

    360 or ``"L/360"`` of the span, ``"25 mm"``, or both in a list.
    """

    live: Annotated[tuple[DeflectionLimit, ...], Limits()] | None = None
    total: Annotated[tuple[DeflectionLimit, ...], Limits()] | None = None
    wind: Annotated[tuple[DeflectionLimit, ...], Limits()] | None = None
    frequent: Annotated[tuple[DeflectionLimit, ...], Limits()] | None = None
    quasi_permanent: Annotated[tuple[DeflectionLimit, ...], Limits()] | None = None


SERVICE_KINDS = tuple(DeflectionLimits.model_fields)
