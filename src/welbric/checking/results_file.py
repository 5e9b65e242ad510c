"""What results are as a file: what ``check --json`` and a book in JSON write, and its schema.

Other programs, and later runs, read results by these descriptions.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from welbric.errors import InputError, Problem

Number = Annotated[float | None, Field(description="null where there is no number")]
Status = Literal["ok", "over", "outside"]


class _Written(BaseModel):
    model_config = ConfigDict(extra="allow")


class CheckResult(_Written):
    """One check of one member, at its worst combination and place."""

    id: Annotated[str, Field(description="stable; what machines call the check")]
    check: str
    clause: str
    utilisation: Number
    status: Status
    governs: bool = False
    demand: Number = None
    capacity: Number = None
    unit: Annotated[str, Field(description="of demand and capacity")] = ""
    combination: str = ""
    place: Annotated[float, Field(description="along the member")] = 0.0
    place_unit: str = ""
    remark: str = ""
    reason: Annotated[str, Field(description="why it is outside")] = ""


class MemberOfResults(_Written):
    """What came of one member."""

    mark: str
    role: str = ""
    fingerprint: Annotated[
        str | None, Field(description="of all that the results depend on; another input, another")
    ] = None
    standard: str = ""
    section: str = ""
    steel: str = ""
    verdict: Status
    utilisation: Number
    governing: str | None = None
    checks: list[CheckResult] = []
    reactions: dict[str, list[float]] = {}
    support_forces: list[dict[str, Any]] = []
    notes: list[str] = []
    warnings: list[str] = []


class TakenOff(_Written):
    """What is taken of one section in one steel."""

    section: str
    steel: str
    pieces: int
    length: float
    length_unit: str = ""
    mass: float
    mass_unit: str = ""


class Results(_Written):
    """The results of a job; a book in JSON has what is below ``take_off`` too."""

    job: str
    standard: str
    method: str = ""
    loading: str = ""
    ok: bool
    summary: str = ""
    under: Annotated[str, Field(description="the one combination looked at; not there for all")] = (
        ""
    )
    members: list[MemberOfResults]
    take_off: list[TakenOff] = []
    cover: Annotated[dict[str, str], Field(description="of a book: its first page")] = {}
    combinations: list[dict[str, Any]] = []
    inputs: Annotated[
        list[dict[str, Any]], Field(description="what is said, leaf by leaf, in display units")
    ] = []
    workings: Annotated[
        list[dict[str, Any]], Field(description="of a full book: every step of every check")
    ] = []
    frame: dict[str, Any] | None = None
    changes: list[dict[str, Any]] = []


def results_schema() -> dict[str, Any]:
    """Return the JSON Schema of results."""
    schema = Results.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema"} | schema


def read_results(data: Any) -> Results:
    """Return results that were written as JSON.

    Raises
    ------
    InputError
        If they are none, or those of one combination alone.
    """
    try:
        found = Results.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "the whole"
        words = f"is not what check --json writes: {where}: {first['msg'].lower()}"
        raise InputError(Problem(words)) from None
    if found.under:
        raise InputError(f"the results are of {found.under} only, which is no verdict to stand")
    return found
