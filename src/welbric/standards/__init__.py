"""Design standards: one package a standard, one module a chapter, one function an equation."""

from __future__ import annotations

from types import ModuleType

from welbric.errors import InputError, did_you_mean

STANDARDS = {"AISC 360-22": "aisc360", "AISC 360-16": "aisc360_16"}


def standard(name: str) -> ModuleType:
    """Return the package of a design standard.

    Every package offers ``checks(shape)`` (by name, in the order of a hand calculation),
    ``ELASTICITY``, ``METHODS``, ``SHAPES``, ``effective_length_factor`` and a file ``scope.toml``.

    Raises
    ------
    InputError
        If the standard is not covered.
    """
    import importlib

    if name not in STANDARDS:
        hint = did_you_mean(name, STANDARDS) or f"; known: {', '.join(STANDARDS)}"
        raise InputError(f"no design standard {name!r}{hint}")
    return importlib.import_module(f"welbric.standards.{STANDARDS[name]}")
