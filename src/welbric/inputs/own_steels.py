"""Steels by their strengths, in place of a grade."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Annotated, Any

from pydantic import Field, ValidationError, ValidationInfo, model_validator

from welbric.errors import InputError, Problem, wrong
from welbric.inputs.descriptions import Described, Dimension, ReadOnItsOwn, Stress, problems
from welbric.steels import Band, Steel, steel


class OwnBand(Described):
    """The strengths of a steel, up to a thickness."""

    thickness: Dimension | None = None
    Fy: Stress
    Fu: Stress

    @model_validator(mode="after")
    def _fits_together(self) -> OwnBand:
        if self.thickness is not None and self.thickness <= 0:
            raise wrong("is greater than zero", "thickness")
        _sound(self.Fy, self.Fu)
        return self


def _sound(Fy: float, Fu: float) -> None:
    if not 0 < Fy <= Fu:
        raise wrong("is greater than zero and not greater than Fu", "Fy")


class OwnSteel(Described):
    """A steel by its strengths: one pair for every thickness, or bands."""

    name: Annotated[str, Field(max_length=40)] = ""
    Fy: Stress | None = None
    Fu: Stress | None = None
    bands: list[OwnBand] = []

    @model_validator(mode="after")
    def _fits_together(self) -> OwnSteel:
        if (self.Fy is None) != (self.Fu is None) or (self.Fy is None) == (not self.bands):
            raise ValueError("give Fy and Fu, or bands with a thickness, Fy and Fu each")
        if self.Fy is not None and self.Fu is not None:
            _sound(self.Fy, self.Fu)
        limits = [math.inf if b.thickness is None else b.thickness for b in self.bands]
        if any(low >= high for low, high in pairwise(limits)):
            raise InputError(
                Problem("from thin to thick, only the last without a thickness", "bands")
            )
        return self

    def steel(self) -> Steel:
        """Return the steel."""
        if self.Fy is not None and self.Fu is not None:
            bands: tuple[Band, ...] = (Band(math.inf, self.Fy, self.Fu),)
        else:
            bands = tuple(
                Band(math.inf if b.thickness is None else b.thickness, b.Fy, b.Fu)
                for b in self.bands
            )
        return Steel(self.name or f"steel with Fy = {bands[0].Fy:.4g} MPa", bands)


def read_steel(value: Any, info: ValidationInfo) -> Steel:
    """Return the steel that a grade's name or a table of strengths stands for."""
    if isinstance(value, Steel):
        return value
    if isinstance(value, OwnSteel):
        return value.steel()
    try:
        if isinstance(value, dict):
            return OwnSteel.model_validate(value, context=info.context).steel()
        if isinstance(value, str):
            return steel(value)
    except ValidationError as error:
        raise InputError(*problems(error, OwnSteel)) from None
    raise ValueError(f'{value!r}: give a grade such as "A992", or {{Fy = "..", Fu = ".."}}')


_MEANING = "a grade such as 'A992' or 'S355', or a steel by its strengths"
SteelChoice = Annotated[Steel, ReadOnItsOwn(read_steel, _MEANING, OwnSteel)]
