"""Design standards: `standard` has what one is, each package one of them in its editions."""

from __future__ import annotations

import functools
from importlib import import_module

from welbric.errors import InputError, did_you_mean
from welbric.standards.standard import Standard

# By name: the package, and what its `__init__` calls that edition. Imported when first needed.
STANDARDS = {
    "AISC 360-22": ("aisc360", "AISC_360_22"),
    "AISC 360-16": ("aisc360", "AISC_360_16"),
    "EN 1993-1-1": ("en1993", "EN_1993_1_1"),
}
USUAL = "AISC 360-22"  # where a job names none


@functools.cache
def standard(name: str) -> Standard:
    """Return a design standard.

    Raises
    ------
    InputError
        If the standard is not covered.
    """
    if name not in STANDARDS:
        hint = did_you_mean(name, STANDARDS) or f"; known: {', '.join(STANDARDS)}"
        raise InputError(f"no design standard {name!r}{hint}")
    return _edition(*STANDARDS[name])


@functools.cache
def _edition(package: str, name: str) -> Standard:
    found: Standard = getattr(import_module(f"welbric.standards.{package}"), name)
    return found
