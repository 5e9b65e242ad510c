"""The national values: those that are known with certainty, each with its clause."""

from __future__ import annotations

import functools
import tomllib
from dataclasses import dataclass, fields
from importlib import resources
from typing import Any

PARTIAL = ("gamma_M0", "gamma_M1", "gamma_M2")
FLANGE = ("flange_plateau", "flange_factor")
CURVES = ("rolled_curves", "welded_curves")


@dataclass(frozen=True)
class NationalValues:
    """Values that EN 1993-1-1 leaves to the national annexes; None where one is not known.

    Attributes
    ----------
    gamma_M0, gamma_M1, gamma_M2 : float
        Partial factors (6.1).
    rolled_plateau, rolled_beta, welded_plateau, welded_beta : float
        Lengths of the plateau and correction factors of 6.3.2.3(1).
    rolled_curves, welded_curves : tuple of (float, str)
        Up to which depth over width each curve of Table 6.5 holds.
    flange_plateau, flange_factor : float
        The limit and the factor of 6.3.2.4.
    eta : float or None
        Of shear areas and of webs in shear (EN 1993-1-5, 5.1(2)), up to S460; where it is not known
        the 1.0 that 6.2.6(3), note, allows everywhere.
    """

    gamma_M0: Any = None
    gamma_M1: Any = None
    gamma_M2: Any = None
    rolled_plateau: Any = None
    rolled_beta: Any = None
    welded_plateau: Any = None
    welded_beta: Any = None
    rolled_curves: Any = None
    welded_curves: Any = None
    flange_plateau: Any = None
    flange_factor: Any = None
    eta: Any = None


NAMES = tuple(field.name for field in fields(NationalValues))
SPECIAL = tuple(name for name in NAMES if name not in (*PARTIAL, *FLANGE, "eta"))


@functools.cache
def national_values(annex: str) -> NationalValues:
    """Return the values of an annex."""
    text = resources.files(__package__).joinpath("national.toml").read_text("utf-8")
    tables: dict[str, dict[str, Any]] = tomllib.loads(text)
    values = tables[annex]
    for name in CURVES:
        if name in values:
            values[name] = tuple((float(most), curve) for most, curve in values[name])
    return NationalValues(**values)
