"""Choosing sections the way a designer asks for them, in words."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

import numpy as np

from welbric.errors import InputError, did_you_mean
from welbric.sections.catalogues import GROUPS, Group, families, family_of, find, folded
from welbric.sections.published import INCH
from welbric.sections.table import PROPERTIES, Section, SectionTable
from welbric.units import KINDS, parse

# What people call a property -> its name.
WORDS = {
    "depth": "d",
    "height": "d",
    "diameter": "diameter",
    "flange": "bf",
    "flange width": "bf",
    "width": "width",
    "leg": "b",
    "wall": "wall",
    "thickness": "wall",
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
    several = "," in text or re.search(r"\s+or\s+", text)
    return bool(several or _LIMIT.fullmatch(text) or _SORTED.fullmatch(text))


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


def wished(text: str, own: Mapping[str, Section] | None = None) -> list[Section]:
    """Return the sections that a wish describes.

    Parameters
    ----------
    text : str
        Names of sections, with commas or "or" between; or clauses with commas between: families
        (``"W or HP"``) or nominal depths (``"W12 or W14"``), limits (``"depth at most 360 mm"``,
        ``"nominal depth at most 14 in"``, ``"mass under 40 lb/ft"``), an order
        (``"sorted by mass"``, ``"sorted by depth descending"``).
    own : mapping of str to Section, optional
        Sections that may be named besides those of the catalogues, by their folded names.

    Raises
    ------
    InputError
        If a clause cannot be understood, or nothing fits.

    Examples
    --------
    >>> [s.name for s in wished("W, depth at most 8 in, I major at least 110 in4, sorted by mass")]
    ['W8X31']
    """
    if named := _named(text, own or {}):
        return named
    limits: list[tuple[str, str, float]] = []
    nominal: list[tuple[str, float]] = []
    sizes: list[tuple[frozenset[str], tuple[str, ...]]] = []
    wanted: set[str] | None = None
    order, backwards = None, False
    for clause in (part.strip() for part in text.split(",")):
        if not clause:
            continue
        if match := _SORTED.fullmatch(clause):
            order, backwards = property_named(match[1]), "descending" in (match[2] or "")
        elif match := _LIMIT.fullmatch(clause):
            if match[1].strip().casefold() == "nominal depth":
                nominal.append((match[2], parse(match[3], "dimension")))
                continue
            name = property_named(match[1])
            limits.append((name, match[2], _limit(match[3], name)))
        else:
            listed, beginnings = _kinds(clause)
            if beginnings:
                sizes.append((frozenset(listed), beginnings))
                letters = {_begins(beginning) for beginning in beginnings}
                listed |= {f for f in families() if f.partition(" ")[0] in letters}
            wanted = listed if wanted is None else wanted & listed
    asked = [name for name, *_ in limits] + ([] if order is None else [order])
    found: list[tuple[float, Section]] = []
    measured = wanted is None
    for group in GROUPS:
        if wanted is not None and not wanted & set(group.families):
            continue
        table = group.table()
        if not all(_column(table, name) is not None for name in asked):
            continue  # a shape without what is asked for
        measured = True
        keep = np.ones(len(table), dtype=bool)
        for name, sense, limit in limits:
            keep &= _fits(_column(table, name), sense, limit)
        if wanted is not None and not set(group.families) <= wanted:
            starts = tuple(sorted(wanted, key=len, reverse=True))
            keep &= np.array([_begins(name) in starts for name in table.names])
        for kinds, beginnings in sizes:
            keep &= np.array([
                family_of(name) in kinds or _begins_with(name, beginnings) for name in table.names
            ])  # fmt: skip
        for sense, limit in nominal:
            keep &= _fits(_nominal_depths(group), sense, limit)
        values = np.zeros(len(table)) if order is None else _column(table, order)
        found += [(float(values[row]), table[int(row)]) for row in np.flatnonzero(keep)]
    if not measured:
        raise InputError(f"none of these families has all of {', '.join(dict.fromkeys(asked))}")
    if not found:
        raise InputError(f"no section of the catalogue fits {text!r}")
    if order is not None:
        found.sort(key=lambda one: one[0], reverse=backwards)
    return [section for _, section in found]


def _named(text: str, own: Mapping[str, Section]) -> list[Section]:
    """Return the sections that a text names one by one; none where it is another wish."""
    found: list[Section] = []
    for part in re.split(r"\s*,\s*|\s+or\s+", text.strip()):
        if (section := own.get(folded(part))) is not None:
            found.append(section)
        elif part and re.search(r"\d", part) and (listed := find(part)) is not None:
            found.append(listed[0].table()[listed[1]])
        else:
            return []
    return found


def _begins(name: str) -> str:
    return re.match(r"2?[A-Z]*", name).group()  # type: ignore[union-attr]


# One word for dimensions that shapes call otherwise: the first that a shape has.
_ALIKE = {"width": ("bf", "b", "d"), "wall": ("t_nominal", "t"), "diameter": ("d",)}


def _column(table: SectionTable, name: str | None) -> Any:
    """Return the values of a property, or None where the shapes have none of that name."""
    if name == "diameter" and "round" not in table.shape:
        return None
    names = _ALIKE.get(str(name), (str(name),))
    return next((table.columns[known] for known in names if known in table.columns), None)


def _kinds(clause: str) -> tuple[set[str], tuple[str, ...]]:
    """Return the families that a clause names, and the beginnings of names: W or W14."""
    words = re.split(r"\s+(?:or|and)\s+", clause)
    of_standards = {folded(family) for family in families()}
    beginnings = tuple(
        folded(word)
        for word in words
        if re.fullmatch(r"2?[A-Z]+\d[\d.X]*", folded(word)) and folded(word) not in of_standards
    )
    for one in beginnings:
        names = (name for group in GROUPS for name in group.table().names)
        if not any(_begins_with(name, (one,)) for name in names):
            raise InputError(f"no section of the catalogue begins with {one!r}")
    others = [word for word in words if folded(word) not in beginnings]
    return _families(" or ".join(others)) if others else set(), beginnings


def _begins_with(name: str, beginnings: tuple[str, ...]) -> bool:
    """Whether a name begins with one of these, no number in it cut short."""
    whole, _, standard = folded(name).partition("A1085")
    if standard or whole != folded(name):
        return False  # a name without its standard is that of A500, as everywhere
    return any(
        whole.startswith(one) and not re.match(r"[\d.]", whole[len(one) :]) for one in beginnings
    )


def _nominal_depths(group: Group) -> Any:
    """Return the depths in the names of a group's sections: W14X90 14 in, IPE 360 360 mm."""
    unit = INCH if group.standard.startswith("ASTM") else 1.0
    firsts = (re.match(r"2?[A-Z]+([\d.]+)", folded(name)) for name in group.table().names)
    return np.array([float(first[1]) * unit if first else np.nan for first in firsts])


def _families(clause: str) -> set[str]:
    words = re.sub(r"^famil(y|ies)\s+", "", clause, flags=re.IGNORECASE)
    by_spelling: dict[str, set[str]] = {}
    for family in families():
        letters, _, standard = family.partition(" ")
        for spelling in {folded(family), letters} if standard else {letters}:
            by_spelling.setdefault(spelling, set()).add(family)
    found: set[str] = set()
    for word in (folded(word) for word in re.split(r"\s+(?:or|and)\s+", words)):
        if word not in by_spelling:
            raise InputError(
                f"{clause!r} is no family and no limit; families: {', '.join(families())}; "
                "a limit reads like 'depth at most 360 mm'"
            )
        # HSS alone is ASTM A500's; SHS or L alone are those of every standard.
        exact = word in families() and word == "HSS"
        found |= {word} if exact else by_spelling[word]
    return found


def _limit(text: str, name: str) -> float:
    kind = PROPERTIES[_ALIKE.get(name, (name,))[0]][0]
    if KINDS[kind].mass:
        text = re.sub(r"\blbs?\b", "lbm", text)  # a pound of mass here, not of force
    return parse(text, kind)


def _fits(value: Any, sense: str, limit: float) -> Any:
    slack = 1e-9 * abs(limit)
    if sense in {"at most", "under", "below"}:
        return value <= limit + slack if sense == "at most" else value < limit - slack
    if sense == "exactly":
        return np.abs(value - limit) <= 1e-6 * abs(limit)
    return value >= limit - slack if sense == "at least" else value > limit + slack
