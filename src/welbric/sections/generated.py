"""Catalogues whose geometry is fixed by the designation: computed, not typed.

The data files list what is made; what follows from it is the standards' own:

- ASTM A500 and A53: the design wall is 0.93 of the nominal one (AISC 360 B4.2), to three decimals
  of an inch, and the mass that of the nominal wall; A1085: the nominal wall. Outer corners have a
  radius of two design walls, inner ones of one.
- EN 10210-2: outer corners 1.5 walls, inner ones 1. EN 10219-2: 2 and 1 up to 6 mm, 2.5 and 1.5 up
  to 10 mm, 3 and 2 above.
- ASTM angles without published properties, and double angles of such: two plates with toes
  rounded by half their thickness and no fillet: the mills' radii are not standard, and this is the
  safe side. EN 10056-1: its root radius, and half of it at the toes.
- WT, MT and ST are W, M and S cut at mid-depth.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any

import numpy as np

from welbric.sections.kinds import table_of
from welbric.sections.published import INCH, SOURCES, published_table, read_rows
from welbric.sections.table import SectionTable

DESIGN_WALL = 0.93  # of the nominal wall of hollow sections of ASTM A500 and A53 (AISC 360 B4.2)
GAPS = ("", "3/8", "3/4")  # between the backs of double angles, inches


@dataclass(frozen=True)
class Generator:
    """A catalogue that is computed.

    Attributes
    ----------
    families : tuple of str
        How the names in it begin.
    shape : str
    standard : str
    table : callable
    """

    families: tuple[str, ...]
    shape: str
    standard: str
    table: Callable[[], SectionTable]


def inches(text: str) -> float:
    """Return ``3-1/2``, ``5/16`` or ``.25`` in mm."""
    return float(sum(Fraction(part) for part in text.split("-"))) * INCH


def _walls(file: str) -> Iterable[tuple[dict[str, str], str]]:
    for row in read_rows(file):
        for wall in row["walls"].split():
            yield row, wall


def _design_wall(nominal: Any, share: float) -> Any:
    if share == 1:
        return nominal
    # Halves up, as the tables round: 0.2325 is 0.233.
    return np.floor(nominal / INCH * share * 1000 + 0.5 + 1e-9) / 1000 * INCH


def _hss_rectangular(share: float, suffix: str) -> SectionTable:
    made = list(_walls("hss_rectangular.csv"))
    names = [f"HSS{row['d']}X{row['b']}X{wall}{suffix}" for row, wall in made]
    d, b, nominal = (
        np.array([inches(text) for text in column])
        for column in zip(*((row["d"], row["b"], wall) for row, wall in made), strict=True)
    )
    t = _design_wall(nominal, share)
    # Walls that stand too close for these corners have corners as round as they allow.
    r_out = np.minimum(2 * t, np.minimum(d, b) / 2)
    return table_of(
        "rectangular tube", names, d=d, b=b, t=t, r_out=r_out, r_in=r_out - t, t_nominal=nominal
    )


def _hss_round(share: float, suffix: str) -> SectionTable:
    made = list(_walls("hss_round.csv"))
    names = [f"HSS{row['d']}X{wall}{suffix}" for row, wall in made]
    d = np.array([inches(row["d"]) for row, _ in made])
    nominal = np.array([inches(wall) for _, wall in made])
    return table_of("round tube", names, d=d, t=_design_wall(nominal, share), t_nominal=nominal)


def _pipe() -> SectionTable:
    made = [
        (f"PIPE{row['size']}{weight}", row["d"], row[weight])
        for row in read_rows("pipe.csv")
        for weight in ("STD", "XS", "XXS")
        if row[weight]
    ]
    names, d, wall = zip(*made, strict=True)
    nominal = np.array([inches(text) for text in wall])
    t = _design_wall(nominal, DESIGN_WALL)
    return table_of("round tube", names, d=[inches(text) for text in d], t=t, t_nominal=nominal)


def _angles() -> SectionTable:
    """Return the angles for which no properties are published here."""
    published = {row["name"] for row in read_rows("l_shapes.csv")}
    made = [
        (row, wall)
        for row, wall in _walls("angles.csv")
        if f"L{row['d']}X{row['b']}X{wall}" not in published
    ]
    names = [f"L{row['d']}X{row['b']}X{wall}" for row, wall in made]
    sizes = {key: [inches(row[key]) for row, _ in made] for key in ("d", "b")}
    t = np.array([inches(wall) for _, wall in made])
    return table_of("angle", names, t=t, r_toe=t / 2, **sizes)


def _double_angles() -> SectionTable:
    names, sizes = [], []
    for row, wall in _walls("angles.csv"):
        d, b, t = inches(row["d"]), inches(row["b"]), inches(wall)
        for gap in GAPS:
            name = f"2L{row['d']}X{row['b']}X{wall}" + (f"X{gap}" if gap else "")
            between = inches(gap) if gap else 0.0
            if d == b:
                names.append(name)
                sizes.append((d, b, t, between))
            else:
                names += [name + "LLBB", name + "SLBB"]
                sizes += [(d, b, t, between), (b, d, t, between)]
    d, b, t, between = np.array(sizes).T
    table = table_of("double angle", names, d=d, b=b, t=t, r_toe=t / 2, gap=between)
    # What is published of one angle holds for two of them.
    from welbric.sections.compound import pair_in_line

    (source,) = (source for source in SOURCES if source.file == "l_shapes.csv")
    single = published_table(source)
    places = {name: i for i, name in enumerate(single.names)}
    singles = np.array([places.get(_single_of(name), -1) for name in names])
    known = singles >= 0
    some = {name: column[known] for name, column in table.columns.items()}
    one = {name: column[singles[known]] for name, column in single.columns.items()}
    in_line = pair_in_line(some, one) | {"mass": 2 * one["mass"]}
    columns = {name: column.copy() for name, column in table.columns.items()}
    for name, column in columns.items():
        column[known] = in_line[name]
    return SectionTable("double angle", names, columns)


def _single_of(name: str) -> str:
    """Return the name of one of the two angles: 2L4X4X3/8X3/4 -> L4X4X3/8."""
    return "X".join(name.removeprefix("2").split("X")[:3])


def _cut(file: str, names: Callable[[str], str], shape: str) -> SectionTable:
    """Return the tees cut at mid-depth from the shapes of a file."""
    (source,) = (source for source in SOURCES if source.file == file)
    whole = published_table(source)
    tapered = ("slope", "r_toe", "tf_from_tip") if shape == "tapered tee" else ()
    sizes = {key: whole.columns[key] for key in ("bf", "tw", "tf", "r", *tapered)}
    halves = table_of(shape, [names(name) for name in whole.names], d=whole.d / 2, **sizes)
    return SectionTable(shape, halves.names, halves.columns | {"mass": whole.mass / 2})


def _half(letters: str) -> Callable[[str], str]:
    def named(whole: str) -> str:
        depth, _, weight = whole.lstrip("WMS").partition("X")
        return f"{letters}{float(depth) / 2:g}X{float(weight) / 2:g}"

    return named


def _european_angles() -> SectionTable:
    made = list(_walls("en10056_angles.csv"))
    names = [f"L{row['d']}X{row['b']}X{wall}" for row, wall in made]
    sizes = {key: np.array([float(row[key]) for row, _ in made]) for key in ("d", "b", "r")}
    t = [float(wall) for _, wall in made]
    return table_of("angle", names, t=t, r_toe=sizes["r"] / 2, **sizes)


def _european_tubes(
    file: str, suffix: str, square: bool, radii: Callable[[Any], tuple[Any, Any]]
) -> SectionTable:
    made = [(row, wall) for row, wall in _walls(file) if (row["d"] == row["b"]) == square]
    letters = "SHS" if square else "RHS"
    names = [f"{letters}{row['d']}X{row['b']}X{wall}{suffix}" for row, wall in made]
    d, b = (np.array([float(row[key]) for row, _ in made]) for key in ("d", "b"))
    t = np.array([float(wall) for _, wall in made])
    r_out, r_in = radii(t)
    return table_of("rectangular tube", names, d=d, b=b, t=t, r_out=r_out, r_in=r_in)


def _hot_finished(t: Any) -> tuple[Any, Any]:
    return 1.5 * t, 1.0 * t


def _cold_formed(t: Any) -> tuple[Any, Any]:
    outer = np.select([t <= 6, t <= 10], [2.0, 2.5], 3.0)
    return outer * t, (outer - 1) * t


def _european_round() -> SectionTable:
    made = list(_walls("en_round.csv"))
    names = [f"CHS{row['d']}X{wall}" for row, wall in made]
    d, t = [float(row["d"]) for row, _ in made], [float(wall) for _, wall in made]
    return table_of("round tube", names, d=d, t=t)


_TUBE = "rectangular tube"
HOT, COLD = " EN10210", " EN10219"
GENERATORS = (
    Generator(("WT",), "tee", "ASTM A6/A6M", lambda: _cut("w_shapes.csv", _half("WT"), "tee")),
    Generator(("MT",), "tee", "ASTM A6/A6M", lambda: _cut("m_shapes.csv", _half("MT"), "tee")),
    Generator(("ST",), "tapered tee", "ASTM A6/A6M",
              lambda: _cut("s_shapes.csv", _half("ST"), "tapered tee")),
    Generator(("L",), "angle", "ASTM A6/A6M", _angles),
    Generator(("2L",), "double angle", "ASTM A6/A6M", _double_angles),
    Generator(("HSS",), _TUBE, "ASTM A500", lambda: _hss_rectangular(DESIGN_WALL, "")),
    Generator(("HSS",), "round tube", "ASTM A500", lambda: _hss_round(DESIGN_WALL, "")),
    Generator(("PIPE",), "round tube", "ASTM A53", _pipe),
    Generator(("HSS A1085",), _TUBE, "ASTM A1085", lambda: _hss_rectangular(1.0, " A1085")),
    Generator(("HSS A1085",), "round tube", "ASTM A1085", lambda: _hss_round(1.0, " A1085")),
    Generator(("L EN",), "angle", "EN 10056-1", _european_angles),
    Generator(("SHS" + COLD,), _TUBE, "EN 10219-2",
              lambda: _european_tubes("en10219_rectangular.csv", COLD, True, _cold_formed)),
    Generator(("RHS" + COLD,), _TUBE, "EN 10219-2",
              lambda: _european_tubes("en10219_rectangular.csv", COLD, False, _cold_formed)),
    Generator(("SHS" + HOT,), _TUBE, "EN 10210-2",
              lambda: _european_tubes("en10210_rectangular.csv", HOT, True, _hot_finished)),
    Generator(("RHS" + HOT,), _TUBE, "EN 10210-2",
              lambda: _european_tubes("en10210_rectangular.csv", HOT, False, _hot_finished)),
    Generator(("CHS",), "round tube", "EN 10210-2, EN 10219-2", _european_round),
)  # fmt: skip
