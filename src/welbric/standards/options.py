"""What a standard leaves to be said: the base of its options, and how their values are read."""

from __future__ import annotations

import functools
from collections.abc import Iterator, Mapping
from types import UnionType
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin

from pydantic import BaseModel, ConfigDict, ValidationInfo, model_validator
from pydantic.fields import FieldInfo
from pydantic_core import core_schema

from welbric.errors import InputError
from welbric.units import KINDS, parse

# Whether a factor is that of the member's elastic buckling: asked for, where nobody says, never.
ASKED, USUAL, NEVER = "asked", "usual", "never"


class CaseBlind(BaseModel):
    """A description whose choices among words may be written with capitals or without."""

    @model_validator(mode="before")
    @classmethod
    def _as_accepted(cls, data: Any) -> Any:
        if not isinstance(data, Mapping):
            return data
        known = choices_of(cls)
        return {k: _accepted(v, known[k]) if k in known else v for k, v in data.items()}


def _accepted(value: Any, words: Mapping[str, str]) -> Any:
    """Return a word, those of a list, or the keys of a table, as they are accepted."""
    if isinstance(value, str):
        return words.get(value.casefold(), value)
    if isinstance(value, list | tuple):
        return [_accepted(one, words) for one in value]
    if isinstance(value, Mapping):
        return {_accepted(key, words): one for key, one in value.items()}
    return value


class Quantity:
    """Marks a number as a quantity of a kind: text with a unit, read into internal units.

    With ``many``, one value or a list of them; a single value becomes a list of one.
    """

    def __init__(self, kind: str, many: bool = False) -> None:
        self.kind = kind
        self.many = many

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        def read(value: object, info: ValidationInfo) -> float | list[float]:
            bare = (info.context or {}).get("bare_units", {}).get(self.kind)
            if not self.many:
                return parse(value, self.kind, bare)
            values = value if isinstance(value, list | tuple) else [value]
            if not values:
                raise InputError("the list is empty")
            return [parse(one, self.kind, bare) for one in values]

        return core_schema.with_info_plain_validator_function(read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        wanted = KINDS[self.kind]
        one = {
            "type": ["string", "number"],
            "description": f"{wanted} with its unit, such as {wanted.examples[0]!r}",
            "examples": list(wanted.examples),
        }
        return {"anyOf": [one, {"type": "array", "items": one}]} if self.many else one


def kind_of(field: FieldInfo) -> str:
    """Return the kind of quantity of a field; empty where it is none."""
    found = [one.kind for one in field.metadata if isinstance(one, Quantity)]
    return found[0] if found else _within(field.annotation)


def _within(annotation: Any) -> str:
    if get_origin(annotation) is Annotated:
        for one in get_args(annotation)[1:]:
            if isinstance(one, Quantity):
                return one.kind
    return next(filter(None, map(_within, get_args(annotation))), "")


@functools.cache
def choices_of(model: type[BaseModel]) -> dict[str, dict[str, str]]:
    """Return the words accepted by each key of a model: without capitals -> as they are."""
    found: dict[str, dict[str, str]] = {}
    for name, field in model.model_fields.items():
        words = {word.casefold(): word for word in _words(field.annotation)}
        if words:
            found[name] = words
            if field.alias:
                found[field.alias] = words
    return found


def _words(annotation: Any) -> Iterator[str]:
    origin = get_origin(annotation)
    if origin is Literal:
        yield from (word for word in get_args(annotation) if isinstance(word, str))
    elif origin is Annotated:
        yield from _words(get_args(annotation)[0])
    elif origin in (Union, UnionType, list, tuple):
        for part in get_args(annotation):
            yield from _words(part)
    elif origin is dict:
        yield from _words(get_args(annotation)[0])


Own = TypeVar("Own", bound="Options")


def as_own(options: Options, model: type[Own]) -> Own:
    """Return options as those of a standard's own model.

    Raises
    ------
    TypeError
        If they are another standard's.
    """
    if not isinstance(options, model):
        raise TypeError(f"{type(options).__name__} are no {model.__module__} options")
    return options


class Options(CaseBlind):
    """Choices that belong to one standard; unknown ones are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
