"""What the limit states share: moduli, partial factors, what is not covered."""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.standards.case import Check, MemberCase
from welbric.standards.en1993.national import NationalValues
from welbric.standards.en1993.options import job_options
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, note

E, G = 210_000.0, 81_000.0  # MPa (3.2.6)
STRONGEST = 460.0  # MPa: S460, the strongest steel of Table 3.1
HIGH_STRENGTH = 700.0  # MPa: S700, the strongest of EN 1993-1-12
TOO_STRONG = "steels above S700 are in neither EN 1993-1-1 nor EN 1993-1-12"
GAMMA_M12 = 1.25  # recommended, of net sections of steels above S460 (EN 1993-1-12, 2.1)


def values(case: MemberCase) -> NationalValues:
    """Return the national values of a case."""
    return job_options(case.options).values


def partial(case: MemberCase, number: int) -> Any:
    """Return a partial factor, and where it comes from."""
    name = f"gamma_M{number}"
    options = job_options(case.options)
    source = "recommended, 6.1" if options.annex == "recommended" else f"{options.annex} annex, 6.1"
    if getattr(options.national, name) is not None:
        source = "given, 6.1"
    return given(GLOSSARY, name, getattr(values(case), name), source)


def eta(case: MemberCase) -> Any:
    """Return eta of shear areas and of webs in shear (EN 1993-1-5, 5.1(2)): 1.0 beyond S460."""
    known = values(case).eta
    found = pick(is_high_strength(case), 1.0, 1.0 if known is None else known)
    if not case.single:
        return found
    options = job_options(case.options)
    source = "EN 1993-1-5, 5.1(2)"
    if options.national.eta is not None:
        source += ", given"
    elif known is None:
        source = f"taken: the {options.annex} annex's own is not known"
    elif options.annex != "recommended":
        source += f", {options.annex} annex"
    return given(GLOSSARY, "eta", float(found), source)


def is_high_strength(case: MemberCase) -> Any:
    """Return where a steel is above S460: EN 1993-1-12 has it."""
    return np.asarray(case.grade) > STRONGEST + 1e-6


def is_too_strong(case: MemberCase) -> Any:
    """Return where a steel is above S700, which no part of the standard has."""
    return np.asarray(case.grade) > HIGH_STRENGTH + 1e-6


def partial_of_net_section(case: MemberCase) -> Any:
    """Return gamma_M2, of steels above S460 no less than gamma_M12 (EN 1993-1-12, 2.1)."""
    if not np.any(is_high_strength(case)):
        return partial(case, 2)
    less = values(case).gamma_M2
    found = pick(is_high_strength(case), max(less, GAMMA_M12), less)
    if case.single:
        return given(GLOSSARY, "gamma_M2", float(found), "gamma_M12 of EN 1993-1-12, 2.1")
    return found


def uncovered(name: str, clause: str, demand: Any, kind: str, effect: str, why: str) -> Check:
    """Return a check that is outside wherever something acts."""
    U = np.where(np.asarray(demand) > 0, np.nan, 0.0)
    if np.ndim(U) == 0 and np.isnan(U):
        note(f"Outside: {why}.")
    return Check(name, clause, demand, None, U, kind, effect, np.isnan(U), why)


def pick(mask: Any, yes: Any, no: Any) -> Any:
    """Return one or the other: a choice on single numbers, element by element on arrays."""
    if np.ndim(mask) == 0:
        return yes if mask else no
    return np.where(mask, yes, no) if np.any(mask) else no
