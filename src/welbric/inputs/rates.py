"""What steel costs and what carbon is embodied in it, as a job says; what is to be least."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import AfterValidator, Field

from welbric.errors import InputError, did_you_mean
from welbric.inputs.descriptions import Described, Length

Amount = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Share = Annotated[float, Field(gt=0, allow_inf_nan=False)]


def _known_families(value: dict[str, float]) -> dict[str, float]:
    """Return rates by family as the catalogues write it; refuse one that they do not have."""
    from welbric.sections.catalogues import families

    known = {name.casefold(): name for name in families()}
    known |= {name.partition(" ")[0].casefold(): name.partition(" ")[0] for name in families()}
    found = {}
    for key, rate in value.items():
        plain = key.strip().casefold()
        if plain not in known:
            listed = ", ".join(sorted(set(known.values())))
            hint = did_you_mean(key, known.values()) or ""
            raise ValueError(f"no family {key!r}{hint}; known: {listed}")
        if known[plain] in found:
            raise ValueError(f"{known[plain]} stands twice")
        found[known[plain]] = rate
    return found


ByFamily = Annotated[dict[str, Share], AfterValidator(_known_families)]


def _of_family(rates: dict[str, float], family: str, otherwise: float) -> float:
    """Return the rate of a family: its own, that of its letters in any standard, or another."""
    return rates.get(family, rates.get(family.partition(" ")[0], otherwise))


class LongPiece(Described):
    """A factor on the price of pieces longer than a length."""

    over: Length
    factor: Share


class Prices(Described):
    """Prices of steel: a tonne, by family where they differ, with a floor for each piece."""

    per_tonne: Share
    currency: Annotated[str, Field(max_length=8)] = ""
    families: ByFamily = {}
    long_pieces: list[LongPiece] = []
    least_per_piece: Amount = 0.0

    def of_piece(self, family: str, mass: float, length: float) -> float:
        """Return the price of a piece; kg, mm."""
        price = _of_family(self.families, family, self.per_tonne) * mass / 1000
        passed = [rate for rate in self.long_pieces if length > rate.over]
        if passed:
            price *= max(passed, key=lambda rate: rate.over).factor
        return max(price, self.least_per_piece)


class Carbon(Described):
    """Embodied carbon of steel, kg CO2e for each kg, by family where it differs."""

    per_kg: Share
    families: ByFamily = {}

    def of_piece(self, family: str, mass: float) -> float:
        """Return the embodied carbon of a piece, kg CO2e; kg."""
        return _of_family(self.families, family, self.per_kg) * mass


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
