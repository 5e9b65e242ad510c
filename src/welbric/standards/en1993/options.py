"""What EN 1993-1-1 leaves to be said of a job, and of a member."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from welbric.standards.en1993.national import NationalValues, national_values
from welbric.standards.options import Options, as_own

LIMIT_STATES = "limit states"
# Elastic theory: (one end, other end) -> factor of the buckling length.
FACTORS = {
    frozenset({"fixed"}): 0.5,
    frozenset({"fixed", "pinned"}): 0.7,
    frozenset({"fixed", "guided"}): 1.0,
    frozenset({"pinned"}): 1.0,
    frozenset({"fixed", "free"}): 2.0,
    frozenset({"pinned", "guided"}): 2.0,
}


class JobOptions(Options):
    """The choices of a job.

    ``annex`` is whose national values are taken; ``lateral_buckling`` says whether the general
    curves of 6.3.2.2 or those of 6.3.2.3 for rolled and equivalent welded sections hold;
    ``interaction`` by which annex the factors of 6.3.3 are found.
    """

    annex: Literal["recommended", "UK"] = "recommended"
    lateral_buckling: Literal["general", "rolled or welded"] = "general"
    interaction: Literal["Annex A", "Annex B"] = "Annex B"

    @property
    def values(self) -> NationalValues:
        """The national values."""
        return national_values(self.annex)


class MemberOptions(Options):
    """The choices of a member: C1, a number or that of its elastic buckling.

    By default it follows from the moments at the quarter points of each segment.
    """

    C1: Annotated[float, Field(gt=0, le=20)] | Literal["eigenvalue"] | None = None


def job_options(options: Options) -> JobOptions:
    """Return options as those of this standard."""
    return as_own(options, JobOptions)


def method(options: Options) -> str:
    """Return the one method."""
    return LIMIT_STATES


def load_level(options: Options) -> float:
    """Return what multiplies the loads where a member's second order is analysed: nothing does."""
    return 1.0


def softens(options: Options) -> bool:
    """Whether compression softens a member more than its analysis takes: not here."""
    return False


def effective_length_factor(
    start: str, end: str, options: Options, theoretical: bool = False
) -> float:
    """Return the factor of the buckling length of the textbook ends, by elastic theory."""
    return FACTORS[frozenset({start, end})]


def length_factors(options: Options) -> str:
    """Return in a word which factors of the textbook ends are taken."""
    return "theoretical"


def of_case(options: Options) -> dict[str, Any]:
    """Return the choices as the fields of a `MemberCase`."""
    return {"method": LIMIT_STATES, "options": job_options(options)}


def of_member(options: Options) -> dict[str, Any]:
    """Return the choices as the fields of a `MemberCase`."""
    C1 = getattr(options, "C1", None)
    return {"moment_shape": C1} if isinstance(C1, float) else {}


def by_eigenvalue(options: Options) -> bool:
    """Return whether C1 is that of the member's elastic buckling."""
    return getattr(options, "C1", None) == "eigenvalue"
