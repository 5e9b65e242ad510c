"""How a description is read: quantities with units, and what is said of what is wrong."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from pydantic_core import core_schema

from welbric.errors import InputError, Problem, did_you_mean
from welbric.standards.options import CaseBlind, Quantity

Length = Annotated[float, Quantity("length")]
Dimension = Annotated[float, Quantity("dimension")]
Force = Annotated[float, Quantity("force")]
Pressure = Annotated[float, Quantity("area_load")]
Moment = Annotated[float, Quantity("moment")]
Stress = Annotated[float, Quantity("stress")]
Spring = Annotated[float, Quantity("spring")]
RotationSpring = Annotated[float, Quantity("rotation_spring")]
Area = Annotated[float, Quantity("area")]
Temperature = Annotated[float, Quantity("temperature")]
Angle = Annotated[float, Quantity("angle")]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
Lengths = Annotated[list[float], Quantity("length", many=True)]
LineForces = Annotated[list[float], Quantity("line_load", many=True)]
Forces = Annotated[list[float], Quantity("force", many=True)]
Moments = Annotated[list[float], Quantity("moment", many=True)]


class Described(CaseBlind):
    """A description whose errors are said in Welbric's words."""

    # Built when first used: of most descriptions only the whole that they are part of is.
    model_config = ConfigDict(extra="forbid", frozen=True, populate_by_name=True, defer_build=True)

    def __init__(self, **data: Any) -> None:
        context = {"bare_units": data.get("bare_units") or {}, "sections": {}}
        try:
            self.__pydantic_validator__.validate_python(data, self_instance=self, context=context)
        except ValidationError as error:
            name = type(self).__name__.lower()
            who = f"{name} {data['mark']}" if data.get("mark") else name
            found = problems(error, type(self))
            raise InputError(*(one.under(who) for one in found)) from None

    # Nested descriptions are validated in place, so that each finding keeps its whole address.
    __init__.__pydantic_base_init__ = True  # type: ignore[attr-defined]


def whole_schema(model: type[BaseModel]) -> dict[str, Any]:
    """Return the JSON Schema of a description without references, to stand inside another."""
    schema = model.model_json_schema()
    parts = schema.pop("$defs", {})

    def filled(value: Any) -> Any:
        if isinstance(value, dict):
            if "$ref" in value:
                return filled(parts[value["$ref"].rpartition("/")[2]])
            return {key: filled(inner) for key, inner in value.items()}
        return [filled(inner) for inner in value] if isinstance(value, list) else value

    found: dict[str, Any] = filled(schema)
    return found


class ReadOnItsOwn:
    """Marks a field that a function reads: text, or a table that other models describe."""

    def __init__(self, read: Any, meaning: str, *models: type[BaseModel]) -> None:
        self.read = read
        self.meaning = meaning
        self.models = models

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.with_info_plain_validator_function(self.read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        tables = [whole_schema(model) for model in self.models]
        return {"description": self.meaning, "anyOf": [{"type": "string"}, *tables]}


def problems(
    error: ValidationError, model: type[BaseModel], names: Mapping[str, Sequence[str]] | None = None
) -> list[Problem]:
    """Return each of pydantic's findings: field, what was given, what is accepted.

    ``names`` are those of the tables of a list, to stand beside their numbers.
    """
    lines: list[Problem] = []
    for found in error.errors():
        where = location(found["loc"], names or {})
        message = found["msg"].removeprefix("Value error, ").removeprefix("Assertion failed, ")
        given = found.get("input")
        kind = found["type"]
        if kind == "extra_forbidden":
            known = fields_at(model, found["loc"][:-1])
            message = (
                f"unknown key {found['loc'][-1]!r}{did_you_mean(str(found['loc'][-1]), known)}"
            )
            if "?" not in message:
                message += f"; known here: {', '.join(known)}"
            where = location(found["loc"][:-1], names or {})
        elif kind == "missing":
            message = "is missing"
        elif kind == "literal_error":
            expected = found["ctx"]["expected"]
            choices = re.findall(r"'([^']*)'", expected) or [expected]
            message = f"{given!r} is not accepted{did_you_mean(str(given), choices)}"
            message += f"; accepted: {', '.join(choices)}"
        elif kind not in {"value_error"}:
            message = f"{_short(given)}: {message[0].lower()}{message[1:]}"
        raised = found.get("ctx", {}).get("error")
        said = raised.problems if isinstance(raised, InputError) else [Problem(message)]
        lines += [one.under(*where) for one in said]
    return lines


def _short(value: object) -> str:
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "..."


def location(loc: Sequence[int | str], names: Mapping[str, Sequence[str]]) -> list[str]:
    """Return a place in the description: ``["member 1 (FB1)", "load 2", "point"]``."""
    words: list[str] = []
    for part in loc:
        if isinstance(part, int):
            if words:
                own = names.get(words[-1], [])
                name = own[part] if part < len(own) else ""
                words[-1] += f" {part + 1} ({name})" if name else f" {part + 1}"
        elif part in {"members", "loads"}:
            words.append(part[:-1])
        elif not part.startswith(("function-", "list[", "float", "by ")):  # ways to read a field
            words.append(part)
    return words


def fields_at(model: type[BaseModel], loc: Sequence[int | str]) -> list[str]:
    """Return the keys known at a place in the description."""
    current: Any = model
    for part in loc:
        if isinstance(part, int) or not hasattr(current, "model_fields"):
            continue
        for name, field in current.model_fields.items():
            if part in (name, field.alias):
                current = next(
                    (a for a in _annotations(field.annotation) if hasattr(a, "model_fields")), None
                )
                break
    if current is None or not hasattr(current, "model_fields"):
        return []
    return [field.alias or name for name, field in current.model_fields.items()]


def _annotations(annotation: Any) -> list[Any]:
    inner = getattr(annotation, "__args__", ())
    return [annotation, *(found for part in inner for found in _annotations(part))]
