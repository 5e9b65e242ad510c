"""What acts on a member: loads by case, or forces combined elsewhere."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from welbric.analysis.member_loads import (
    AxialLineLoad,
    AxialLoad,
    LineLoad,
    Load,
    MomentLoad,
    Movement,
    PointLoad,
    Push,
    Torque,
    Warming,
)
from welbric.errors import InputError, Problem, did_you_mean, wrong
from welbric.inputs.descriptions import (
    Described,
    Dimension,
    Force,
    Forces,
    Length,
    Lengths,
    LineForces,
    Moment,
    Moments,
    Pressure,
    Temperature,
)
from welbric.loads.combinations import CASES

Axis = Literal["major", "minor"]
UPRIGHT = 1e-3  # cosine of the slope: a member nearer to the vertical stands
NONE = 1e-9  # of a load


# Loads of one case with other names never act together; those without one act with all of them.
Alternative = Annotated[str, Field(max_length=40)]


def known_case(value: str) -> str:
    """Return the symbol of a load case by its name or symbol, for a validator."""
    symbols = {symbol.casefold(): symbol for symbol in CASES.values()}
    names = {name.casefold(): symbol for name, symbol in CASES.items()} | symbols
    if value.casefold() not in names:
        hint = did_you_mean(value, CASES)
        raise ValueError(f"{value!r} is no load case{hint}; known: {', '.join(CASES)}")
    return names[value.casefold()]


class MemberLoad(Described):
    """One load: a force, a moment, a settlement or a change of temperature.

    ``alternative`` names what never acts together with others of its case: wind from one side, snow
    that has drifted.
    """

    case: str
    line: LineForces | None = None
    area: Pressure | None = None
    spacing: Length | None = None
    point: Force | None = None
    moment: Moment | None = None
    compression: Force | None = None
    tension: Force | None = None
    end_moments: list[Moment] | None = None
    settlement: Dimension | None = None
    torque: Moment | None = None
    temperature: Temperature | None = None
    temperature_difference: Temperature | None = None
    eccentricity: Dimension | None = None
    bearing: Dimension | None = None
    at: Lengths | None = None
    start: Length | None = None
    end: Length | None = None
    axis: Axis = "major"
    direction: Literal["vertical", "across"] | None = None
    per: Literal["slope length", "plan length"] = "slope length"
    on: Literal["top", "shear centre", "bottom"] = "shear centre"
    reversible: bool | None = None
    alternative: Alternative = ""
    note: str = ""

    @field_validator("case")
    @classmethod
    def _known_case(cls, value: str) -> str:
        return known_case(value)

    @model_validator(mode="after")
    def _one_kind(self) -> MemberLoad:
        kinds: tuple[str, ...] = ("line", "area", "point", "moment", "compression", "tension")
        kinds += ("end_moments", "settlement", "torque", "temperature", "temperature_difference")
        present = [kind for kind in kinds if getattr(self, kind) is not None]
        if len(present) != 1:
            got = " and ".join(present) if present else "none of them"
            raise ValueError(f"give exactly one of {', '.join(kinds)}; found {got}")
        (kind,) = present
        fitting = {"case", kind, "reversible", "alternative", "note"}
        off_axis = kind in {"compression", "tension"}
        along = {"torque", "temperature", "temperature_difference"}
        fitting |= {"eccentricity"} if off_axis else set() if kind in along else {"axis"}
        fitting |= {"axis"} if self.eccentricity is not None else set()
        fitting |= {"on", "direction"} if kind in {"line", "area", "point"} else set()
        fitting |= {"per"} if kind in {"line", "area"} else set()
        ranged = {"line", "area", "temperature", "temperature_difference"}
        fitting |= {"start", "end"} if kind in ranged else set()
        fitting |= {"bearing"} if kind == "point" else set()
        fitting |= {"spacing"} if kind == "area" else set()
        placed = {"point", "moment", "compression", "tension", "settlement", "torque"}
        fitting |= {"at"} if kind in placed else set()
        for field in sorted(self.model_fields_set - fitting):
            raise ValueError(f"{field!r} does not go with {kind!r}")
        if kind == "area" and self.spacing is None:
            raise ValueError("an area load needs the spacing of the members that carry it")
        if kind in {"point", "moment", "settlement", "torque"} and self.at is None:
            raise ValueError(f'a {kind} needs the place it acts at: at = "10 ft"')
        if self.on != "shear centre" and self.axis == "minor":
            raise InputError(
                Problem("goes with loads that bend the member about its major axis", "on")
            )
        if self.direction == "vertical" and self.axis == "minor":
            raise InputError(
                Problem("a vertical load does not bend about the minor axis", "direction")
            )
        if self.per == "plan length" and (self.direction == "across" or self.axis == "minor"):
            raise wrong("a load per plan length is vertical", "per")
        if kind == "line" and len(self.line or []) > 2:
            raise ValueError("line takes one value, or two for its start and its end")
        if kind == "end_moments" and len(self.end_moments or []) != 2:
            raise ValueError("end_moments takes two values, at the start and at the end")
        if self.reversible and self.case not in ("W", "E", "T"):
            raise ValueError("reversible goes with wind, earthquake and temperature only")
        if self.alternative and self.case == "D":
            raise wrong("dead loads act in every combination: they have none", "alternative")
        if self.bearing is not None and (self.bearing <= 0 or self.axis == "minor"):
            raise InputError(
                Problem("is greater than zero, of a load about the major axis", "bearing")
            )
        for name in ("compression", "tension"):
            if (getattr(self, name) or 0.0) < 0:
                raise ValueError(f"{name} is given as a magnitude; use the other word, not a minus")
        return self

    @property
    def is_reversible(self) -> bool:
        """Whether the load acts in both senses: earthquake by default, wind where said."""
        return self.case == "E" if self.reversible is None else self.reversible

    def across_and_along(self, slope: float) -> tuple[float, float]:
        """Return what of a load acts across the member, and what towards its end.

        Parameters
        ----------
        slope : float
            Of the member above the horizontal, from start to end, radians.
        """
        if not self.is_vertical(slope):
            return 1.0, 0.0
        across, along = math.cos(slope), -math.sin(slope)
        if self.per == "plan length":
            return across * abs(across), along * abs(across)
        return across, along

    def is_vertical(self, slope: float) -> bool:
        """Whether a line, area or point load acts downwards whatever the member's slope.

        As its direction says; else gravity loads do, but for those on an upright member, which
        act across it.
        """
        if self.direction is not None:
            return self.direction == "vertical"
        gravity = self.case in ("D", "L", "Lr", "S") and self.axis == "major"
        return gravity and (self.per == "plan length" or abs(math.cos(slope)) > UPRIGHT)

    def is_weight(self, slope: float) -> bool:
        """Whether it is a force that acts downwards, not a moment or a force along the member."""
        forces = self.line is not None or self.area is not None or self.point is not None
        return forces and self.is_vertical(slope)

    def places(self) -> list[float]:
        """Return every place along the member that the load names."""
        return [*(self.at or []), *(x for x in (self.start, self.end) if x is not None)]

    def expanded(self, length: float, far: float, slope: float = 0.0) -> list[tuple[str, Load]]:
        """Return the load as (axis, load) of the analysis.

        Parameters
        ----------
        length : float, mm
        far : float, mm
            Where an axial force acts that names no place: the end that is not held.
        slope : float
            Of the member above the horizontal, radians.
        """
        start = 0.0 if self.start is None else self.start
        end = length if self.end is None else self.end
        across, along = self.across_and_along(slope)
        loads: list[Load] = []
        if self.line is not None or self.area is not None:
            w = self.line or [(self.area or 0.0) * (self.spacing or 0.0)]
            if abs(across) > NONE:
                loads.append(LineLoad(start, end, w[0] * across, w[-1] * across))
            if abs(along) > NONE:
                loads.append(AxialLineLoad(start, end, w[0] * along, w[-1] * along))
        elif self.point is not None:
            if abs(across) > NONE:
                loads += [PointLoad(at, self.point * across) for at in self.at or []]
            if abs(along) > NONE:
                loads += [Push(at, self.point * along) for at in self.at or []]
        elif self.moment is not None:
            loads = [MomentLoad(at, self.moment) for at in self.at or []]
        elif self.settlement is not None:
            loads = [Movement(at, self.settlement) for at in self.at or []]
        elif self.torque is not None:
            loads = [Torque(at, self.torque) for at in self.at or []]
        elif self.temperature is not None:
            loads = [Warming(start, end, mean=self.temperature)]
        elif self.temperature_difference is not None:
            loads = [Warming(start, end, difference=self.temperature_difference)]
        elif self.end_moments is not None:
            first, last = self.end_moments
            loads = [MomentLoad(0.0, first), MomentLoad(length, -last)]
        else:
            N = self.tension if self.tension is not None else -(self.compression or 0.0)
            places = self.at or [far]
            loads = [AxialLoad(at, N) for at in places]
            if self.eccentricity is not None:
                loads += [MomentLoad(at, N * self.eccentricity) for at in places]
        return [(self.axis, load) for load in loads]


class Storey(Described):
    """A storey that sways, by an analysis of the first order: for the second-order multiplier.

    ``load`` is all of its vertical load, ``shear`` and ``drift`` go together.
    """

    load: Force
    shear: Force
    drift: Dimension
    height: Length
    in_moment_frames: Annotated[float, Field(ge=0, le=1)] = 1.0

    @model_validator(mode="after")
    def _positive(self) -> Storey:
        if min(self.load, self.shear, self.drift, self.height) <= 0:
            raise ValueError("load, shear, drift and height are greater than zero")
        return self


class CombinedForces(Described):
    """Forces combined elsewhere: values evenly spaced along the member, or one all along."""

    name: str
    compression: Forces = []
    tension: Forces = []
    moment_major: Moments = []
    moment_minor: Moments = []
    shear_major: Forces = []
    shear_minor: Forces = []
    torsion: Moments = []
    sway_moment_major: Moments = []
    sway_moment_minor: Moments = []
    sway_compression: Forces = []
    storey: Storey | None = None

    @model_validator(mode="after")
    def _one_sense(self) -> CombinedForces:
        if self.compression and self.tension:
            raise ValueError("give compression or tension, not both")
        if any(value < 0 for value in [*self.compression, *self.tension]):
            raise ValueError("compression and tension are given as magnitudes")
        sway = self.sway_moment_major or self.sway_moment_minor or self.sway_compression
        if bool(sway) != (self.storey is not None):
            raise ValueError("forces of sidesway (sway_...) and the storey go together")
        if self.sway_compression and self.tension:
            raise wrong("goes with compression", "sway_compression")
        return self
