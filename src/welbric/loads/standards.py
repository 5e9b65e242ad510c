"""The loading standards: what each leaves to be said, and its combinations."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from welbric.errors import Problem
from welbric.loads import combinations as recipes
from welbric.loads.combinations import Choices, Combination


class LoadingOptions(BaseModel):
    """Choices that belong to one loading standard; unknown ones are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)


class Asce7Options(LoadingOptions):
    """Of ASCE 7: the companion factor on live load (2.3.1, exception 1), and S_DS (12.4.2.2)."""

    companion_live: Annotated[float, Field(ge=0.5, le=1.0)] = 1.0
    sds: Annotated[float, Field(ge=0, le=5)] = 0.0


class PartialFactors(LoadingOptions):
    """Partial factors of EN 1990 in place of those of its national values."""

    permanent: Annotated[float, Field(ge=1, le=2)] | None = None
    variable: Annotated[float, Field(ge=1, le=2)] | None = None
    xi: Annotated[float, Field(gt=0, le=1)] | None = None


class En1990Options(LoadingOptions):
    """Of EN 1990: expression, category of the live load, snow's altitude, whose values."""

    expression: Literal["6.10", "6.10a/b"] = "6.10"
    live_category: Literal["A", "B", "C", "D", "E", "F", "G"] | None = None
    snow_altitude: Literal["up to 1000 m", "above 1000 m"] = "up to 1000 m"
    national_values: Literal["recommended", "UK"] = "recommended"
    partial_factors: PartialFactors = PartialFactors()


class NoOptions(LoadingOptions):
    """Of a loading standard that leaves nothing to be said here."""


@dataclass(frozen=True)
class LoadingStandard:
    """A loading standard.

    Attributes
    ----------
    id : str
        As a job names it.
    options : type of LoadingOptions
    methods : tuple of str
        For which it has combinations; the first stands for limit states.
    service_kinds : tuple of str
        Of its service combinations.
    misfits : callable
        (options, method, cases present) -> what does not go together.
    """

    id: str
    options: type[LoadingOptions]
    methods: tuple[str, ...]
    service_kinds: tuple[str, ...]
    misfits: Callable[[LoadingOptions, str, set[str]], list[Problem]]


@dataclass(frozen=True)
class Loading:
    """A loading standard with what was chosen of it.

    Many members have the same cases: their combinations are kept in ``known``.
    """

    standard: LoadingStandard
    options: LoadingOptions
    known: dict[Any, list[Combination]] = field(default_factory=dict, repr=False, compare=False)

    def __str__(self) -> str:
        return self.standard.id

    @property
    def service_kinds(self) -> tuple[str, ...]:
        """The kinds of service combinations that there are."""
        return self.standard.service_kinds

    def strength(
        self, method: str, cases: Iterable[str], reversible: Iterable[str]
    ) -> list[Combination]:
        """Return the strength combinations of the cases present."""
        method = FACTORED[0] if method in FACTORED else method
        key = (method, frozenset(cases), frozenset(reversible))
        if key not in self.known:
            of = self.options
            asce = of if isinstance(of, Asce7Options) else Asce7Options()
            self.known[key] = recipes.strength(
                self.standard.id, *key, asce.companion_live, asce.sds, self.choices
            )
        return list(self.known[key])

    def service(
        self, kind: str, cases: Iterable[str], reversible: Iterable[str] = ()
    ) -> list[Combination]:
        """Return the service combinations of a kind."""
        key = ("service", kind, frozenset(cases), frozenset(reversible))
        if key not in self.known:
            _, _, present, both_ways = key
            self.known[key] = recipes.service(
                self.standard.id, kind, present, self.choices, both_ways
            )
        return list(self.known[key])

    def with_patterns(self, found: Iterable[Combination], count: int) -> list[Combination]:
        """Return combinations with live loads and snow on some of so many spans too."""
        return recipes.with_patterns(self.standard.id, found, count)

    @property
    def has_partial_snow(self) -> bool:
        """Whether snow acts on some spans only too."""
        return recipes.partial_snow(self.standard.id) is not None

    @property
    def choices(self) -> Choices:
        """What EN 1990 leaves to be said, for its recipes."""
        of = self.options
        if not isinstance(of, En1990Options):
            return Choices()
        own = of.partial_factors
        return Choices(
            of.expression, of.live_category or "B", of.snow_altitude, of.national_values,
            own.permanent, own.variable, own.xi,
        )  # fmt: skip


def _nothing(options: LoadingOptions, method: str, cases: set[str]) -> list[Problem]:
    return []


def _of_asce7(options: LoadingOptions, method: str, cases: set[str]) -> list[Problem]:
    companion = getattr(options, "companion_live", 1.0)
    if method not in FACTORED and companion != 1.0:
        return [Problem("goes with LRFD only (ASCE 7-22 2.3.1, exception 1)", "companion_live")]
    return []


def _of_en1990(options: LoadingOptions, method: str, cases: set[str]) -> list[Problem]:
    if "L" in cases and getattr(options, "live_category", None) is None:
        return [Problem("EN 1990 needs the category of the live load, A to G", "live_category")]
    return []


FACTORED = ("LRFD", "limit states")  # one thing, as design standards call it
USUAL = ("live", "total", "wind")
OF_EN = (*USUAL, "frequent", "quasi_permanent")
LOADING = {
    one.id: one
    for one in (
        LoadingStandard("ASCE 7-22", Asce7Options, (*FACTORED, "ASD"), USUAL, _of_asce7),
        LoadingStandard("EN 1990", En1990Options, FACTORED, OF_EN, _of_en1990),
        LoadingStandard("NBCC 2020", NoOptions, FACTORED, USUAL, _nothing),
        LoadingStandard("AS/NZS 1170.0", NoOptions, FACTORED, USUAL, _nothing),
    )
}
