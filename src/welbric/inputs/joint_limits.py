"""How far a designer lets joints of a frame move."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from welbric.errors import Problem, did_you_mean, wrong
from welbric.inputs.deflection_limits import SERVICE_KINDS, DeflectionLimits
from welbric.inputs.descriptions import Length
from welbric.inputs.meeting import Joint


class JointLimit(DeflectionLimits):
    """How far joints may move along x, y or z, by kind of service combination.

    From where they were drawn, or ``against`` another joint; a share is one ``of`` a length.
    """

    joints: Annotated[list[str], Field(alias="joint", min_length=1)]
    along: Literal["x", "y", "z"]
    against: str | None = None
    of: Length | None = None

    @field_validator("joints", mode="before")
    @classmethod
    def _one_or_several(cls, value: object) -> object:
        return [value] if isinstance(value, str) else value

    @model_validator(mode="after")
    def _fits_together(self) -> JointLimit:
        given = [limit for kind in SERVICE_KINDS for limit in getattr(self, kind) or ()]
        if not given:
            raise ValueError(f"say a limit: {', '.join(SERVICE_KINDS[:-1])} or {SERVICE_KINDS[-1]}")
        shares = any(limit.over is not None for limit in given)
        if shares and self.of is None:
            raise wrong("a share is one of a length: of = '15 m'", "of")
        if self.of is not None and self.of <= 0:
            raise wrong("a length is greater than zero", "of")
        if self.of is not None and not shares:
            raise wrong("goes with a limit that is a share, such as 'L/300'", "of")
        if self.against in self.joints:
            raise wrong("a joint does not move against itself", "against")
        return self


def limit_problems(
    limits: Sequence[JointLimit], joints: Mapping[str, Joint], plane: bool
) -> list[Problem]:
    """Return what of limits does not fit a frame's joints."""
    found: list[Problem] = []
    for number, limit in enumerate(limits, 1):
        where = f"joint_limit {number}"
        for name in (*limit.joints, *([limit.against] if limit.against else [])):
            if name not in joints:
                hint = did_you_mean(name, joints) or f"; known: {', '.join(list(joints)[:8])}"
                key = "against" if name == limit.against else "joint"
                found.append(Problem(f"no joint {name!r}{hint}", where, key))
            elif limit.along in joints[name].held and limit.against is None:
                words = f"{name} is held along {limit.along} by its support: it does not move"
                found.append(Problem(words, where, "joint"))
        if plane and limit.along == "y":
            found.append(Problem("is across the plane of the frame", where, "along"))
    return found
