"""What EN 1993-1-1 leaves to be said of a job, and of a member."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from welbric.errors import wrong
from welbric.standards.en1993.national import (
    FLANGE,
    NAMES,
    PARTIAL,
    SPECIAL,
    NationalValues,
    national_values,
)
from welbric.standards.en1993.shapes import ANGLE, I_SHAPES, ROUND, TUBE
from welbric.standards.options import ASKED, NEVER, USUAL, Options, Quantity, as_own

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


Factor = Annotated[float, Field(gt=0, le=5)]
Curves = tuple[tuple[Annotated[float, Field(gt=0)], Literal["a0", "a", "b", "c", "d"]], ...]


class OwnValues(Options):
    """National values that the designer gives: they stand before those of the annex.

    The plateaus, the beta and the curves are of 6.3.2.3, of each curve up to which depth over width
    it holds; those of the flange are of 6.3.2.4.
    """

    gamma_M0: Factor | None = None
    gamma_M1: Factor | None = None
    gamma_M2: Factor | None = None
    rolled_plateau: Annotated[float, Field(ge=0, le=0.6)] | None = None
    rolled_beta: Annotated[float, Field(gt=0, le=1)] | None = None
    welded_plateau: Annotated[float, Field(ge=0, le=0.6)] | None = None
    welded_beta: Annotated[float, Field(gt=0, le=1)] | None = None
    rolled_curves: Curves | None = None
    welded_curves: Curves | None = None
    flange_plateau: Annotated[float, Field(ge=0, le=1)] | None = None
    flange_factor: Annotated[float, Field(gt=0, le=1.2)] | None = None
    eta: Annotated[float, Field(ge=1, le=1.2)] | None = None


BY_TABLE_6_5 = ("rolled or welded", "rolled or welded without f")  # 6.3.2.3


class JobOptions(Options):
    """The choices of a job.

    ``annex`` is whose national values are taken, ``national`` has values of one's own before
    them; ``lateral_buckling`` says whether the general curves of 6.3.2.2, those of 6.3.2.3 for
    rolled and equivalent welded sections, with the factor f of the moment's shape or without, or
    the compressed flange of 6.3.2.4 hold;
    ``interaction`` by which annex the factors of 6.3.3 are found, or that 6.3.4 holds where it can.
    """

    annex: Literal[
        "recommended", "UK", "BE", "DE", "DK", "ES", "FI", "FR", "IT", "NL", "NO", "SE"
    ] = "recommended"
    national: OwnValues = OwnValues()
    lateral_buckling: Literal[
        "general", "rolled or welded", "rolled or welded without f", "compressed flange"
    ] = "general"
    interaction: Literal["Annex A", "Annex B", "general method"] = "Annex B"

    @model_validator(mode="after")
    def _all_known(self) -> JobOptions:
        of_method = dict.fromkeys(BY_TABLE_6_5, SPECIAL) | {"compressed flange": FLANGE}
        needed = (*PARTIAL, *of_method.get(self.lateral_buckling, ()))
        missing = [name for name in needed if getattr(self.values, name) is None]
        if missing:
            are = "is" if len(missing) == 1 else "are"
            raise wrong(
                f"{self.annex}: {', '.join(missing)} of this annex {are} not known with certainty; "
                "give what it says in [design.national]",
                "annex",
            )
        return self

    @property
    def values(self) -> NationalValues:
        """The national values."""
        own = {name: getattr(self.national, name) for name in NAMES}
        known = {name: value for name, value in own.items() if value is not None}
        return replace(national_values(self.annex), **known)


class MemberOptions(Options):
    """The choices of a member.

    ``C1`` is a number, that of the member's elastic buckling, or of the moments at the quarter
    points of each segment. By default it is the second of a member that stands alone, and the
    third in a frame unless a load on a flange pushes the member over. ``Mcr`` is the critical
    moment itself, of every length that is not held. ``section_class`` says that no better class
    is taken, ``class_3_web`` that a web of class 3 between flanges of class 1 or 2 counts in
    class 2 by its effective parts, in bending alone (6.2.2.4); ``thick_welds`` that the welds of
    a box are thicker than half its flange (Table 6.2); ``made`` how a hollow section is, whatever
    its name says; ``Cmy``, ``Cmz`` and ``CmLT`` are factors of Table B.3 in place of the own
    ones; ``truss`` what it is of a truss, where its buckling lengths are shorter (BB.1): a chord;
    a web member that is welded, or bolted with two bolts or more, to chords which hold its ends;
    ``narrow`` where it is less than 0.6 of parallel hollow chords.
    """

    C1: Annotated[float, Field(gt=0, le=20)] | Literal["eigenvalue", "quarter points"] | None = None
    Mcr: Annotated[float, Quantity("moment"), Field(gt=0, allow_inf_nan=False)] | None = None
    section_class: Literal[2, 3] | None = None
    class_3_web: Literal["effective class 2"] | None = None
    thick_welds: bool | None = None
    made: Literal["hot finished", "cold formed"] | None = None
    Cmy: Annotated[float, Field(ge=0.4, le=1)] | None = None
    Cmz: Annotated[float, Field(ge=0.4, le=1)] | None = None
    CmLT: Annotated[float, Field(ge=0.4, le=1)] | None = None
    truss: (
        Literal["chord", "bolted web member", "welded web member", "narrow welded web member"]
        | None
    ) = None

    @model_validator(mode="after")
    def _one_of_them(self) -> MemberOptions:
        if self.C1 is not None and self.Mcr is not None:
            raise wrong("goes without Mcr, which holds in its place", "C1")
        return self


def job_options(options: Options) -> JobOptions:
    """Return options as those of this standard."""
    return as_own(options, JobOptions)


def method(options: Options) -> str:
    """Return the one method."""
    return LIMIT_STATES


def load_level(options: Options) -> float:
    """Return what multiplies the loads where a member's second order is analysed: nothing does."""
    return 1.0


def out_of_plumb(options: Options, height: float, columns: int) -> float:
    """Return the initial sway (5.3.2(3)a): of the height, and of columns in a row."""
    by_height = min(max(2 / math.sqrt(height / 1000), 2 / 3), 1.0)
    return by_height * math.sqrt(0.5 * (1 + 1 / max(columns, 1))) / 200


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
    found: dict[str, Any] = {"member_options": options}
    found["critical_moment"] = getattr(options, "Mcr", None)
    return found | ({"moment_shape": C1} if isinstance(C1, float) else {})


def member_class(options: Options | None) -> int | None:
    """Return the class that the designer gives, where one is given."""
    return getattr(options, "section_class", None)


def truss_factor(options: Options, shape: str, in_plane: bool) -> tuple[float, str] | None:
    """Return the factor of the buckling length of a part of a truss, and its clause (BB.1)."""
    part = getattr(options, "truss", None)
    if part is None:
        return None
    if shape in (TUBE, ROUND):
        factors = {
            "chord": (0.9, "BB.1.3(1)"),
            "bolted web member": (1.0, "BB.1.3(2)"),
            "narrow welded web member": (0.75, "BB.1.3(3)"),
        }
        if part in factors:
            return factors[part]
    if part == "chord":
        return (0.9, "BB.1.1(2)") if shape in I_SHAPES and in_plane else (1.0, "BB.1.1(1)")
    # Angles go by BB.1.2 where they are said to be loaded through one leg.
    return (0.9, "BB.1.1(4)") if in_plane and shape != ANGLE else (1.0, "BB.1.1(1)")


def web_in_class_2(options: Options | None) -> bool:
    """Return whether a class 3 web counts in class 2 by its effective parts."""
    return getattr(options, "class_3_web", None) is not None


def has_thick_welds(options: Options | None) -> bool:
    """Return whether the welds of a box are thick."""
    return bool(getattr(options, "thick_welds", False))


def as_it_stands(options: Options) -> str:
    """Return the name of a choice that holds of the member as it stands alone: Mcr."""
    return "" if getattr(options, "Mcr", None) is None else "Mcr"


def eigenvalue(options: Options) -> str:
    """Return whether C1 is that of the member's elastic buckling: so it is where nobody says."""
    C1 = getattr(options, "C1", None)
    if getattr(options, "Mcr", None) is not None:
        return NEVER
    return ASKED if C1 == "eigenvalue" else USUAL if C1 is None else NEVER
