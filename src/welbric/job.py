"""What a designer says of a job: its standards, its own sections, its members."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationInfo, field_validator, model_validator

from welbric.descriptions import Described
from welbric.errors import InputError, did_you_mean
from welbric.loads.combinations import LOADING_STANDARDS, Choices, parse_recipe
from welbric.members import Member, Role
from welbric.rates import Carbon, Prices
from welbric.standards import STANDARDS
from welbric.units import DISPLAY, KINDS, DisplayUnits, parse

EN_1990 = (
    "expression", "live_category", "snow_altitude", "national_values", "partial_factors"
)  # fmt: skip


class CatalogueFile(Described):
    """A catalogue of the user's own, and whether its good rows may be used beside bad ones."""

    file: str
    keep_good_rows: bool = False


class PartialFactors(Described):
    """Partial factors of EN 1990 in place of those of its national values."""

    permanent: Annotated[float, Field(ge=1, le=2)] | None = None
    variable: Annotated[float, Field(ge=1, le=2)] | None = None
    xi: Annotated[float, Field(gt=0, le=1)] | None = None


class Job(Described):
    """A job: the standards it is checked to, and its members."""

    welbric: Literal[1] = 1
    name: str = "Untitled job"
    description: str = ""
    standard: str = "AISC 360-22"
    method: str = "LRFD"
    loading: str = "ASCE 7-22"
    show: Literal["metric", "US"] = "US"
    effective_lengths: Literal["recommended", "theoretical"] = "recommended"
    companion_live: Annotated[float, Field(ge=0.5, le=1.0)] = 1.0
    sds: Annotated[float, Field(ge=0, le=5)] = 0.0
    expression: Literal["6.10", "6.10a/b"] | None = None
    live_category: Literal["A", "B", "C", "D", "E", "F", "G"] | None = None
    snow_altitude: Literal["up to 1000 m", "above 1000 m"] | None = None
    national_values: Literal["recommended", "UK"] | None = None
    partial_factors: PartialFactors | None = None
    separate_planes: bool = False
    ceilings: dict[Role, Annotated[float, Field(gt=0, le=1)]] = {}
    prices: Prices | None = None
    carbon: Carbon | None = None
    stability: Literal["effective lengths", "direct analysis"] = "effective lengths"
    combinations: list[str] = []
    bare_units: dict[str, str] = {}
    catalogue: list[str | CatalogueFile] = []
    sections: list[dict[str, Any]] = Field(default=[], alias="section")
    members: list[Member] = Field(default=[], alias="member")

    @model_validator(mode="before")
    @classmethod
    def _own_sections(cls, data: Any, info: ValidationInfo) -> Any:
        """Read the job's own sections first, for its members to name them."""
        entries = (data.get("section") or data.get("sections")) if isinstance(data, dict) else None
        if entries and info.context is not None:
            from welbric.own_catalogues import read_tables

            try:
                found = read_tables(entries, info.context.get("bare_units", {}))
            except InputError as error:
                raise ValueError("\n".join(error.problems)) from None
            info.context["sections"] = info.context.get("sections", {}) | found
        return data

    @field_validator("standard", "loading")
    @classmethod
    def _known_standard(cls, value: str, info: ValidationInfo) -> str:
        known = STANDARDS if info.field_name == "standard" else LOADING_STANDARDS
        if value not in known:
            raise ValueError(f"{value!r} is not covered; known: {', '.join(known)}")
        return value

    @field_validator("method")
    @classmethod
    def _known_method(cls, value: str) -> str:
        if value not in ("LRFD", "ASD"):
            raise ValueError(f"{value!r} is no method of AISC 360; accepted: LRFD, ASD")
        return value

    @field_validator("combinations")
    @classmethod
    def _readable(cls, value: list[str]) -> list[str]:
        for text in value:
            parse_recipe(text)
        return value

    @field_validator("bare_units", mode="before")
    @classmethod
    def _known_units(cls, value: Any) -> Any:
        return check_bare_units(value)

    @model_validator(mode="after")
    def _distinct_marks(self) -> Job:
        found = []
        found += self._loading_problems()
        if self.method != "LRFD" and self.companion_live != 1.0:
            found.append("companion_live: goes with LRFD only (ASCE 7-22 2.3.1, exception 1)")
        if not self.members:
            found.append("member: the job has no members; add a [[member]] table")
        marks = [member.mark for member in self.members]
        for mark in sorted({mark for mark in marks if marks.count(mark) > 1}):
            places = [str(i) for i, m in enumerate(marks, 1) if m == mark]
            found.append(f"member: the mark {mark!r} is used by members {' and '.join(places)}")
        if found:
            raise ValueError("\n".join(found))
        return self

    def _loading_problems(self) -> list[str]:
        """Return what does not go with the loading standard."""
        found = []
        if self.loading == "EN 1990":
            live = any(load.case == "L" for member in self.members for load in member.loads)
            if live and self.live_category is None:
                found.append("live_category: EN 1990 needs the category of the live load, A to G")
        else:
            for name in EN_1990:
                if getattr(self, name) is not None:
                    found.append(f"{name}: goes with EN 1990, not with {self.loading}")
        if self.loading != "ASCE 7-22":
            for name, plain in (("companion_live", 1.0), ("sds", 0.0)):
                if getattr(self, name) != plain:
                    found.append(f"{name}: goes with ASCE 7-22, not with {self.loading}")
            if self.method == "ASD":
                found.append(f"method: {self.loading} has no combinations for ASD")
        for member in self.members:
            for kind in ("frequent", "quasi_permanent"):
                if getattr(member.deflection, kind) and self.loading != "EN 1990":
                    found.append(
                        f"member {member.mark}, deflection, {kind}: goes with EN 1990, not with "
                        f"{self.loading}"
                    )
        return found

    @property
    def choices(self) -> Choices:
        """What EN 1990 leaves to be said."""
        usual = Choices()
        own = self.partial_factors or PartialFactors()
        return Choices(
            self.expression or usual.expression,
            self.live_category or usual.category,
            self.snow_altitude or usual.altitude,
            self.national_values or usual.national,
            *(own.permanent, own.variable, own.xi),
        )

    def member(self, mark: str) -> Member:
        """Return a member by its mark.

        Raises
        ------
        InputError
            If there is none; the nearest marks are offered.
        """
        for member in self.members:
            if member.mark == mark:
                return member
        marks = [member.mark for member in self.members]
        by_case = {known.casefold(): known for known in marks}
        if mark.casefold() in by_case:
            return self.member(by_case[mark.casefold()])
        hint = did_you_mean(mark, marks) or f"; the job has {', '.join(marks[:12])}"
        raise InputError(f"no member {mark!r}{hint}")

    @property
    def display(self) -> DisplayUnits:
        """The units to show results in."""
        return DISPLAY[self.show]


def check_bare_units(value: Any) -> dict[str, str]:
    """Validate the units a job declares for bare numbers: kind of quantity -> unit."""
    if not isinstance(value, dict):
        raise ValueError('give a table such as {length = "ft", force = "kip"}')
    for kind, unit in value.items():
        if kind not in KINDS:
            raise ValueError(
                f"{kind!r} is no kind of quantity{did_you_mean(str(kind), KINDS)}; "
                f"known: {', '.join(KINDS)}"
            )
        parse(f"1 {unit}", kind)
    return value
