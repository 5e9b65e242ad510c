"""How the web of a frame's member stands: in words, or turned by an angle."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import ValidationInfo
from pydantic_core import core_schema

from welbric.errors import InputError
from welbric.units import parse

Words = Literal["upright", "level", "along x", "along y"]
WORDS: dict[str, Words] = {
    "upright": "upright", "level": "level", "along x": "along x", "along y": "along y",
}  # fmt: skip
QUARTER = math.pi / 2
STRAIGHT = 1e-9  # of a quarter turn, that an angle is off a word


class _Read:
    """Reads a word, or an angle with its unit, radians."""

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        def read(value: Any, info: ValidationInfo) -> str | float:
            if isinstance(value, str) and value.casefold() in WORDS:
                return WORDS[value.casefold()]
            bare = (info.context or {}).get("bare_units", {}).get("angle")
            try:
                found = parse(value, "angle", bare)
            except InputError:
                words = f"{str(value)[:60]!r} is not accepted here; accepted: {', '.join(WORDS)}"
                raise ValueError(f"{words}, or an angle such as '30 deg'") from None
            if abs(found) > 2 * QUARTER * (1 + STRAIGHT):
                raise ValueError(f"{str(value)[:60]}: a web is turned by -180 to 180 deg")
            return found

        return core_schema.with_info_plain_validator_function(read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        return {
            "type": ["string", "number"],
            "description": "a word, or the angle that it is turned by",
            "examples": [*WORDS, "30 deg"],
        }


Web = Annotated[Words | float, _Read()]


def turned(web: Words | float | None) -> tuple[float, float]:
    """Return the cosine and the sine of the angle that a web is turned by.

    Of a standing member from along x towards y, of one that lies from upright, by the right hand
    about it from its start to its end.
    """
    if web is None or isinstance(web, str):
        return (0.0, 1.0) if web in ("level", "along y") else (1.0, 0.0)
    cosine, sine = math.cos(web), math.sin(web)
    return (
        0.0 if abs(cosine) < STRAIGHT else cosine,
        0.0 if abs(sine) < STRAIGHT else sine,
    )
