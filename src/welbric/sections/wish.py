"""Choosing sections the way a designer asks for them, in words."""

from __future__ import annotations

import re
from collections.abc import Iterable

from welbric.errors import InputError, did_you_mean
from welbric.sections.catalogue import catalogue, family_of, folded
from welbric.sections.table import PROPERTIES, Section
from welbric.units import KINDS, parse

# What people call a property -> its name.
WORDS = {
    "depth": "d",
    "height": "d",
    "flange": "bf",
    "flange width": "bf",
    "width": "bf",
    "web": "tw",
    "web thickness": "tw",
    "flange thickness": "tf",
    "fillet": "r",
    "mass": "mass",
    "weight": "mass",
    "area": "A",
    "torsion constant": "J",
    "warping constant": "Cw",
} | {name.replace("_", " ").casefold(): name for name in PROPERTIES}

_LIMIT = re.compile(r"(.+?)\s+(at most|at least|under|over|below|above|exactly)\s+(.+)")
_SORTED = re.compile(r"sorted by\s+(.+?)(\s+descending|\s+ascending)?")


def is_wish(text: str) -> bool:
    """Return whether a text is more than the beginning of a name."""
    return "," in text or bool(_LIMIT.fullmatch(text)) or bool(_SORTED.fullmatch(text))


def property_named(words: str) -> str:
    """Return the property that words name.

    Raises
    ------
    InputError
        If none is called so.
    """
    found = WORDS.get(words.strip().casefold())
    if found is None:
        raise InputError(f"no property {words.strip()!r}{did_you_mean(words, WORDS)}")
    return found


def families() -> list[str]:
    """Return the families of the catalogue, in its order."""
    return list(dict.fromkeys(family_of(name) for name in catalogue().names))


def wished(text: str) -> list[Section]:
    """Return the sections that a wish describes.

    Parameters
    ----------
    text : str
        Clauses with commas between: families (``"W or HP"``), limits (``"depth at most 360 mm"``,
        ``"mass under 40 lb/ft"``), an order (``"sorted by mass"``, ``"sorted by depth
        descending"``).

    Raises
    ------
    InputError
        If a clause cannot be understood, or nothing fits.

    Examples
    --------
    >>> [s.name for s in wished("W, depth at most 8 in, I major at least 110 in4, sorted by mass")]
    ['W8X31']
    """
    table = catalogue()
    keep = list(range(len(table)))
    order, backwards = None, False
    for clause in (part.strip() for part in text.split(",")):
        if not clause:
            continue
        if match := _SORTED.fullmatch(clause):
            order, backwards = property_named(match[1]), "descending" in (match[2] or "")
        elif match := _LIMIT.fullmatch(clause):
            name = property_named(match[1])
            limit = _limit(match[3], name)
            column = table.columns[name]
            keep = [i for i in keep if _fits(float(column[i]), match[2], limit)]
        else:
            wanted = _families(clause)
            keep = [i for i in keep if family_of(table.names[i]) in wanted]
    if order is not None:
        keep.sort(key=lambda i: float(table.columns[order][i]), reverse=backwards)
    if not keep:
        raise InputError(f"no section of the catalogue fits {text!r}")
    return [table[i] for i in keep]


def _families(clause: str) -> Iterable[str]:
    words = re.sub(r"^famil(y|ies)\s+", "", clause, flags=re.IGNORECASE)
    wanted = [folded(word) for word in re.split(r"\s+(?:or|and)\s+", words)]
    for word in wanted:
        if word not in families():
            raise InputError(
                f"{clause!r} is no family and no limit; families: {', '.join(families())}; "
                "a limit reads like 'depth at most 360 mm'"
            )
    return wanted


def _limit(text: str, name: str) -> float:
    kind = PROPERTIES[name][0]
    if KINDS[kind].mass:
        text = re.sub(r"\blbs?\b", "lbm", text)  # a pound of mass here, not of force
    return parse(text, kind)


def _fits(value: float, sense: str, limit: float) -> bool:
    slack = 1e-9 * abs(limit)
    if sense in {"at most", "under", "below"}:
        return value <= limit + slack if sense == "at most" else value < limit - slack
    if sense == "exactly":
        return abs(value - limit) <= 1e-6 * abs(limit)
    return value >= limit - slack if sense == "at least" else value > limit + slack
