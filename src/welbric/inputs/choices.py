"""What a designer leaves to be found: the section."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field, ValidationInfo, field_validator, model_validator

from welbric.inputs.descriptions import Described
from welbric.inputs.own_shapes import read_section


class Choose(Described):
    """What a member's section may be chosen among, and by what."""

    among: str | list[Any] | None = None
    least: Annotated[str, Field(max_length=80)] = "mass"
    utilisation: Annotated[float, Field(gt=0, le=1)] | None = None
    group: Annotated[str, Field(min_length=1, max_length=40)] | None = None

    @model_validator(mode="before")
    @classmethod
    def _from_words(cls, value: Any) -> Any:
        return {"among": value} if isinstance(value, str | list) else value

    @classmethod
    def __get_pydantic_json_schema__(cls, core: Any, handler: Any) -> dict[str, Any]:
        names = {"type": "array", "items": {"type": "string"}}
        wish = {"type": "string", "examples": ["W, depth at most 18 in"]}
        return {"anyOf": [wish, names, handler(core)]}

    @field_validator("least")
    @classmethod
    def _an_objective(cls, value: str) -> str:
        from welbric.inputs.rates import read_objective

        read_objective(value)
        return value

    @field_validator("among", mode="before")
    @classmethod
    def _understood(cls, value: Any, info: ValidationInfo) -> Any:
        """Read a wish, or names; those of the job's own sections become the sections."""
        from welbric.sections.wish import wished

        if isinstance(value, str):
            wished(value, (info.context or {}).get("sections"))
        if not isinstance(value, list):
            return value
        return [read_section(one, info) for one in value]
