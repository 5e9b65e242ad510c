"""What steel costs and what carbon is embodied in it, as a job says; what is to be least."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import Field

from welbric.descriptions import Described, Length
from welbric.errors import InputError, did_you_mean

Amount = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Share = Annotated[float, Field(gt=0, allow_inf_nan=False)]


class LongPiece(Described):
    """A factor on the price of pieces longer than a length."""

    over: Length
    factor: Share


class Prices(Described):
    """Prices of steel: a tonne, by family where they differ, with a floor for each piece."""

    per_tonne: Share
    currency: Annotated[str, Field(max_length=8)] = ""
    families: dict[str, Share] = {}
    long_pieces: list[LongPiece] = []
    least_per_piece: Amount = 0.0

    def of_piece(self, family: str, mass: float, length: float) -> float:
        """Return the price of a piece; kg, mm."""
        price = self.families.get(family, self.per_tonne) * mass / 1000
        passed = [rate for rate in self.long_pieces if length > rate.over]
        if passed:
            price *= max(passed, key=lambda rate: rate.over).factor
        return max(price, self.least_per_piece)


class Carbon(Described):
    """Embodied carbon of steel, kg CO2e for each kg, by family where it differs."""

    per_kg: Share
    families: dict[str, Share] = {}

    def of_piece(self, family: str, mass: float) -> float:
        """Return the embodied carbon of a piece, kg CO2e; kg."""
        return self.families.get(family, self.per_kg) * mass


NAMES = ("mass", "depth", "cost", "carbon")
_TERM = re.compile(r"(?:(\d+(?:\.\d+)?)\s*\*?\s*)?([a-z]+)")


def read_objective(text: str) -> dict[str, float]:
    """Return the weight of each term of an objective: ``"mass"``, ``"0.7 cost + 0.3 depth"``.

    Raises
    ------
    InputError
        If it cannot be understood.
    """
    found: dict[str, float] = {}
    for part in text.split("+"):
        match = _TERM.fullmatch(part.strip().casefold())
        if match is None or match[2] not in NAMES:
            hint = (did_you_mean(match[2], NAMES) if match else "") or ""
            raise InputError(
                f"{text!r} is no objective{hint}; known: {', '.join(NAMES)}, or a mix such as "
                "'0.7 cost + 0.3 depth'"
            )
        weight = float(match[1] or 1.0)
        if weight <= 0 or match[2] in found:
            raise InputError(f"{text!r}: each weight is greater than zero, each term stands once")
        found[match[2]] = weight
    return found
