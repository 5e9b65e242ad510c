"""The national values: those that are known with certainty, each with its clause."""

from __future__ import annotations

import functools
import tomllib
from dataclasses import dataclass
from importlib import resources
from typing import Any


@dataclass(frozen=True)
class NationalValues:
    """Values that EN 1993-1-1 leaves to the national annexes.

    Attributes
    ----------
    gamma_M0, gamma_M1, gamma_M2 : float
        Partial factors (6.1).
    eta : float
        Of the shear area (6.2.6(3)).
    rolled_plateau, rolled_beta, welded_plateau, welded_beta : float
        Lengths of the plateau and correction factors of 6.3.2.3(1).
    rolled_curves, welded_curves : tuple of (float, str)
        Up to which depth over width each curve of Table 6.5 holds.
    """

    gamma_M0: float
    gamma_M1: float
    gamma_M2: float
    eta: float
    rolled_plateau: float
    rolled_beta: float
    welded_plateau: float
    welded_beta: float
    rolled_curves: tuple[tuple[float, str], ...]
    welded_curves: tuple[tuple[float, str], ...]


@functools.cache
def national_values(annex: str) -> NationalValues:
    """Return the values of an annex."""
    text = resources.files(__package__).joinpath("national.toml").read_text("utf-8")
    tables: dict[str, Any] = tomllib.loads(text)
    fields: dict[str, Any] = tables["recommended"] | tables[annex]
    for name, value in fields.items():
        if isinstance(value, list):
            fields[name] = tuple((float(most), curve) for most, curve in value)
    return NationalValues(**fields)
