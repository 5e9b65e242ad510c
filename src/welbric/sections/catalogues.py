"""Finding a section by the name people write, in the catalogues and in a user's own."""

from __future__ import annotations

import functools
import re
from collections.abc import Iterator
from dataclasses import dataclass

from welbric.errors import InputError, did_you_mean
from welbric.sections.generated import COLD, GENERATORS, HOT, Generator
from welbric.sections.published import INCH, POUND_PER_FOOT, SOURCES, Source, published_table
from welbric.sections.table import Section, SectionTable

LONGEST_NAME = 60  # of what is repeated in a message


@dataclass(frozen=True)
class Group:
    """The sections of one catalogue: one kind of shape, one or several families."""

    number: int
    families: tuple[str, ...]
    shape: str
    standard: str

    def table(self) -> SectionTable:
        """Return its sections."""
        return _table(self.number)

    def index(self) -> dict[str, int]:
        """Return the folded names and their rows."""
        return _index(self.number)


_ENTRIES: tuple[Source | Generator, ...] = (*SOURCES, *GENERATORS)
GROUPS: tuple[Group, ...] = tuple(
    Group(number, entry.families, entry.shape, entry.standard)
    for number, entry in enumerate(_ENTRIES)
)


@functools.cache
def _table(number: int) -> SectionTable:
    if number < len(SOURCES):
        return published_table(SOURCES[number])
    return GENERATORS[number - len(SOURCES)].table()


@functools.cache
def _index(number: int) -> dict[str, int]:
    return {folded(name): row for row, name in enumerate(_table(number).names)}


@functools.cache
def catalogue(shape: str = "rolled I") -> SectionTable:
    """Return every catalogued section of one kind of shape.

    Parameters
    ----------
    shape : str
        Such as ``"rolled I"``, ``"channel"``, ``"rectangular tube"``; see `shapes`.

    Raises
    ------
    InputError
        If no catalogue has such shapes.
    """
    groups = [group for group in GROUPS if group.shape == shape]
    if not groups:
        raise InputError(
            f"no catalogue has the shape {shape!r}{did_you_mean(shape, shapes())}; "
            f"there are {', '.join(shapes())}"
        )
    return joined([group.table() for group in groups])


def joined(tables: list[SectionTable]) -> SectionTable:
    """Return tables of one kind of shape as one."""
    import numpy as np

    first = tables[0]
    columns = {
        key: np.concatenate([table.columns[key] for table in tables]) for key in first.columns
    }
    return SectionTable(first.shape, [name for table in tables for name in table.names], columns)


def shapes() -> list[str]:
    """Return the kinds of shapes that are catalogued."""
    return list(dict.fromkeys(group.shape for group in GROUPS))


def families() -> list[str]:
    """Return the families of the catalogues."""
    return list(dict.fromkeys(family for group in GROUPS for family in group.families))


def family_of(name: str) -> str:
    """Return the family of a section: how its name begins, and its standard.

    Of one that is built from others, that of the first of them.
    """
    name = re.sub(r"^2 (?=[A-Z])|,? (back to|toe to|long legs|short legs).*| \+ .*", "", name)
    letters, _, standard = name.partition(" ")
    begins = re.match(r"2?[A-Z]*", letters).group()  # type: ignore[union-attr]
    if not standard and begins == "L" and folded(name) in _european_angles().index():
        standard = "EN"
    return f"{begins} {standard}".strip()


def _european_angles() -> Group:
    (group,) = (group for group in GROUPS if "L EN" in group.families)
    return group


_MIXED = re.compile(r"(\d+)[\s-]+(\d+)/(\d+)")
_FRACTION = re.compile(r"(\d+)/(\d+)")
_DECIMAL = re.compile(r"\d*\.\d+")


def folded(name: str) -> str:
    """Return a name in one spelling.

    >>> folded("w 14 × 90"), folded("HE 300 B"), folded("L3-1/2x3 1/2 x .25"), folded("hss 6*6*1/4")
    ('W14X90', 'HEB300', 'L3.5X3.5X0.25', 'HSS6X6X0.25')
    """
    text = re.sub(r"\s*[×*]\s*", "X", name.upper())
    text = _MIXED.sub(lambda m: _number(int(m[1]) + _share(m[2], m[3])), text)
    text = _FRACTION.sub(lambda m: _number(_share(m[1], m[2])), text)
    text = _DECIMAL.sub(lambda m: _number(float(m[0])), text)
    plain = re.sub(r"[\s_-]+", "", text)
    return re.sub(r"^HE(\d+)(AA|[ABM])$", r"HE\2\1", plain)


def _share(over: str, under: str) -> float:
    return int(over) / int(under) if int(under) else float("nan")


def _number(value: float) -> str:
    return f"{value:.10g}"


_BRITISH = {"UKB": "UB", "UKC": "UC", "UKBP": "UBP", "UKPFC": "PFC", "UKA": "L"}


def _spellings(key: str) -> Iterator[str]:
    """Yield a folded name, and what it may stand for."""
    yield key
    # The product standard, or the size, may stand first; and some families have two names.
    turned = re.fullmatch(
        r"(EN\d{5,6})([SRC]HS.*)|(\d[\dX.]*)(UK[A-Z]+|U[BC]|UBP|PFC|[SRC]HS)", key
    )
    if turned:
        first, body, sizes, letters = turned.groups()
        yield from _spellings(body + first if body else letters + sizes)
        return
    if british := re.fullmatch(r"(UKB|UKC|UKBP|UKPFC|UKA)(\d.*)", key):
        yield from _spellings(_BRITISH[british[1]] + british[2])
        return
    tube = re.fullmatch(r"([SRC]HS)((?:[\d.]+X)+[\d.]+)(.*)", key)
    if tube:
        letters, sizes, standard = tube[1], tube[2].split("X"), tube[3]
        if letters == "SHS" and len(sizes) == 2:
            sizes = [sizes[0], *sizes]
        if len(sizes) == 3:
            letters = "SHS" if sizes[0] == sizes[1] else "RHS"
        if letters == "CHS":
            yield letters + "X".join(sizes)
        # A name without its standard is the cold-formed section where both are made: its corners
        # are the rounder ones, and it has the lesser properties.
        for suffix in (COLD, HOT):
            wanted = re.sub(r"(?<=\d{5})[12]$", "", standard)
            if not standard or wanted == suffix.strip():
                yield letters + "X".join(sizes) + suffix.strip()
    if angle := re.fullmatch(r"L([\d.]+)X([\d.]+)", key):
        yield f"L{angle[1]}X{angle[1]}X{angle[2]}"


def find(name: str) -> tuple[Group, int] | None:
    """Return where a name is, however it is written, or None."""
    key = folded(str(name)[:LONGEST_NAME])
    for spelling in _spellings(key):
        begins = re.match(r"2?[A-Z]*", spelling).group()  # type: ignore[union-attr]
        for group in GROUPS:
            if any(family.partition(" ")[0] == begins for family in group.families):
                row = group.index().get(spelling)
                if row is not None:
                    return group, row
    return _metric_twin(key)


# Nominal depths of American shapes: inches to millimetres, as metric designations have them.
_METRIC_DEPTHS = {
    3: 75, 4: 100, 5: 130, 6: 150, 7: 180, 8: 200, 9: 230, 10: 250, 12: 310, 13: 330, 14: 360,
    15: 380, 16: 410, 18: 460, 20: 510, 21: 530, 24: 610, 27: 690, 30: 760, 33: 840, 36: 920,
    40: 1000, 44: 1100,
}  # fmt: skip
_BY_MASS = ("W", "HP", "S", "C", "MC")
_BY_SIZE = ("L", "HSS")


def _metric_twin(key: str) -> tuple[Group, int] | None:
    """Return where a metric designation of an American section is: W360X134, HSS152X152X6.4."""
    match = re.fullmatch(r"([A-Z]+)([\d.]+(?:X[\d.]+)+)", key)
    if match is None or match[1] not in (*_BY_MASS, *_BY_SIZE):
        return None
    family = match[1]
    try:
        given = [float(part) for part in match[2].split("X")]
    except ValueError:
        return None
    near: list[tuple[float, Group, int]] = []
    for group in GROUPS:
        if family in group.families:
            for known, row in group.index().items():
                sizes = [float(part) for part in re.findall(r"[\d.]+", known)]
                if len(sizes) != len(given):
                    continue
                away = (_by_mass if family in _BY_MASS else _by_size)(given, sizes)
                if away is not None:
                    near.append((away, group, row))
    near.sort(key=lambda found: found[0])
    if not near or (len(near) > 1 and near[0][0] > near[1][0] / 3):
        return None
    return near[0][1], near[0][2]


def _by_mass(given: list[float], sizes: list[float]) -> float | None:
    depth = _METRIC_DEPTHS.get(round(sizes[0]))
    mass = sizes[1] * POUND_PER_FOOT * 1000
    away = abs(given[1] / mass - 1)
    return away if depth == given[0] and away < 0.015 else None


def _by_size(given: list[float], sizes: list[float]) -> float | None:
    *outer, wall = (abs(g - s * INCH) for g, s in zip(given, sizes, strict=True))
    return max(*outer, 5 * wall) if max(outer) < 0.6 and wall < 0.1 else None


def section(name: str) -> Section:
    """Return a section by its name, however it is written.

    Parameters
    ----------
    name : str
        Such as ``"W18X50"``, ``"w 18 × 50"``, ``"W460X74"``, ``"IPE 300"``, ``"HE 300 B"``,
        ``"L4x4x1/4"``, ``"HSS10X6X3/8"`` or ``"SHS 100x100x5"``.

    Raises
    ------
    InputError
        If no catalogue has it; the nearest names are offered.
    """
    found = find(name)
    if found is None:
        shown = str(name)[:LONGEST_NAME]
        raise InputError(f"no section {shown!r} in the catalogue{_hint(shown)}")
    group, row = found
    return group.table()[row]


def _hint(name: str) -> str:
    """Offer the same size's nearest weights or walls, or the names that look most alike."""
    key = folded(name)
    begins = re.match(r"2?[A-Z]*", key).group()  # type: ignore[union-attr]
    of_family = [
        known
        for group in GROUPS
        if any(family.partition(" ")[0] == begins for family in group.families)
        for known in group.table().names
    ]
    size, _, last = key.rpartition("X")
    same = [known for known in of_family if folded(known).startswith(size + "X")] if size else []
    if same and re.fullmatch(r"\d+(\.\d*)?", last):
        ends = {
            known: float(number.group())
            for known in same
            if (number := re.match(r"[\d.]+", folded(known)[len(size) + 1 :]))
        }
        nearest = sorted(ends, key=lambda known: abs(ends[known] - float(last)))
        return "; the nearest are " + ", ".join(nearest[:3])
    if not of_family:
        return f"; its families are {', '.join(families())}"
    return did_you_mean(key, of_family)


def sections_named(pattern: str) -> Iterator[Section]:
    """Yield the sections whose name begins with, or contains, a text."""
    wanted = folded(pattern)
    everywhere = [(group, key, row) for group in GROUPS for key, row in group.index().items()]
    starting = [(group, row) for group, key, row in everywhere if key.startswith(wanted)]
    exactly = [(group, row) for group, row in starting if _begins(group, row) == wanted]
    for group, row in (
        exactly or starting or [(group, row) for group, key, row in everywhere if wanted in key]
    ):
        yield group.table()[row]


def _begins(group: Group, row: int) -> str:
    """Return the letters a section's name begins with."""
    return re.match(r"2?[A-Z]*", group.table().names[row]).group()  # type: ignore[union-attr]
