"""What a standard leaves to be said: the base of every standard's options."""

from __future__ import annotations

import functools
from collections.abc import Iterator, Mapping
from types import UnionType
from typing import Annotated, Any, Literal, TypeVar, Union, get_args, get_origin

from pydantic import BaseModel, ConfigDict, model_validator


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
