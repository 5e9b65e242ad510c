"""Tables whose keys are a standard's own: read when it is known which standard that is."""

from __future__ import annotations

import functools
from collections.abc import Callable, Iterable
from typing import Annotated, Any, TypeVar

from pydantic import AfterValidator, BaseModel, ValidationError
from pydantic_core import core_schema

from welbric.errors import InputError, Problem
from welbric.inputs.descriptions import problems, whole_schema
from welbric.standards import STANDARDS, standard

Model = TypeVar("Model", bound=BaseModel)


def options_of(model: type[Model], value: Any, name: str) -> Model:
    """Return options of a standard.

    Raises
    ------
    InputError
        With each that is wrong, and the standard's name.
    """
    if isinstance(value, model):
        return value
    if isinstance(value, BaseModel):
        raise InputError(f"{type(value).__name__} are not what goes with {name}")
    if value == {}:
        usual: Model = _nothing_said(model)
        return usual
    try:
        return model.model_validate(value)
    except ValidationError as error:
        found = problems(error, model)
        raise InputError(*(Problem(f"{one.text} ({name})", *one.path) for one in found)) from None


@functools.cache
def _nothing_said(model: type[BaseModel]) -> Any:
    return model()


class ByStandard:
    """Marks a table whose keys are those of the standard that the job names."""

    def __init__(
        self, read: Any, meaning: str, models: Callable[[], dict[str, Any]], by_name: bool
    ) -> None:
        self.by_name = by_name
        self.read = read
        self.meaning = meaning
        self.models = models

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.with_info_plain_validator_function(self.read)

    def __get_pydantic_json_schema__(self, core: Any, handler: Any) -> dict[str, Any]:
        tables = []
        for name, model in self.models().items():
            tables.append(whole_schema(model) | {"title": name})
        names = [{"enum": list(self.models())}] if self.by_name else []
        return {"description": self.meaning, "anyOf": [*names, *tables]}


def _known(value: str) -> str:
    if value not in STANDARDS:
        raise ValueError(f"{value!r} is not covered; known: {', '.join(STANDARDS)}")
    return value


StandardName = Annotated[str, AfterValidator(_known)]


def member_models() -> dict[str, Any]:
    """Return the options of a member, by the standard that has them."""
    return {name: standard(name).member_options for name in STANDARDS}


def misplaced(keys: Iterable[str]) -> list[Problem]:
    """Return which unknown keys of a member are a standard's, and belong in its table."""
    strange = list(keys)
    if not strange:  # the usual: no standard is loaded for it
        return []
    choices = {key for model in member_models().values() for key in model.model_fields}
    return [Problem("stands in the design table", key) for key in strange if key in choices]


def _table(value: Any, info: Any) -> dict[str, Any]:
    """Return the table as it is: a member does not know its standard."""
    if not isinstance(value, dict):
        raise ValueError(f"{value!r}: give a table")
    return dict(value)


MemberDesign = Annotated[
    dict[str, Any], ByStandard(_table, "by the standard", member_models, by_name=False)
]
