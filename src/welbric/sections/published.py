"""Catalogues that were published with their properties: the files, and how each is read.

A row carries the nominal dimensions and the published properties. What a file does not publish is
computed from the dimensions.
"""

from __future__ import annotations

import csv
import functools
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from welbric.sections.i_shape import FILLET_AREA
from welbric.sections.kinds import KINDS
from welbric.sections.table import DENSITY, SectionTable

INCH = 25.4
POUND_PER_FOOT = 0.45359237 / 304.8  # in kg/mm, exact by definition

DATA = Path(__file__).with_name("data")

Columns = dict[str, Any]


@dataclass(frozen=True)
class Source:
    """A catalogue file, and how its columns are to be read.

    Attributes
    ----------
    file : str
    standard : str
        The public standard that fixes the dimensions.
    families : tuple of str
        How the names in it begin.
    shape : str
        The kind of shape.
    sizes : dict of str to str
        Dimension of ours -> published column.
    properties : dict of str to (str, float)
        Published column -> property of ours and the size of its unit in mm to the right power.
    length : float
        Size of the unit of the dimensions, mm.
    mass : str or None
        The column of the mass in kg/m; None where the designation states it in lb/ft.
    derive : callable
        Published numbers (columns in mm) and the sizes -> the dimensions that are not columns.
    slack : dict of str to float
        Property of ours -> share of it allowed beyond rounding, because the published value stands
        on another formula.
    digits : int or None
        Significant digits to which dimensions are rounded; None where they are exact.
    radius : float
        By how much a fillet's radius may differ, mm.
    governs : bool
        Whether the checks go by the published properties, as the manuals' tables of strengths do.
        Where dimensions are exact and few properties are given, these only prove the dimensions.
    """

    file: str
    standard: str
    families: tuple[str, ...]
    shape: str
    sizes: dict[str, str]
    properties: dict[str, tuple[str, float]]
    length: float = 1.0
    mass: str | None = "G"
    derive: Callable[[Columns, Columns], Columns] = field(default=lambda columns, sizes: {})
    slack: dict[str, float] = field(default_factory=dict)
    digits: int | None = None
    radius: float = 0.0
    governs: bool = True

    def make(self, sizes: Mapping[str, Any]) -> Columns:
        """Return the properties computed from dimensions, on the terms of the published tables."""
        found = KINDS[self.shape].make(**sizes)
        if "x" in {ours for ours, _ in self.properties.values()}:
            from welbric.sections.shapes import channel_torsion

            # The torsion of American channels is published for flanges of one thickness.
            before = found["shear_x"]
            lines = (found[name] for name in ("d", "bf", "tw", "tf", "tf"))
            found["Cw"], found["shear_x"] = channel_torsion(*lines)
            found["beta_minor"] = found["beta_minor"] - 2 * (found["shear_x"] - before)
        return found


def _in_inches(**names: str) -> dict[str, tuple[str, float]]:
    powers = {"A": 2, "J": 4, "Cw": 6, "r": 1, "x": 1, "y": 1, "I": 4, "W": 3}
    ours = {name: powers.get(name, powers.get(name[0], 0)) for name in names.values()}
    return {column: (name, INCH ** ours[name]) for column, name in names.items()}


_INCH_SIZES = {"d": "d", "bf": "bf", "tw": "tw", "tf": "tf"}
_INCH_PROPERTIES = _in_inches(
    A="A", Ix="I_major", Zx="Wpl_major", Sx="Wel_major", rx="r_major", Iy="I_minor",
    Zy="Wpl_minor", Sy="Wel_minor", ry="r_minor", J="J", Cw="Cw",
)  # fmt: skip
_METRIC_PROPERTIES = {
    "A": ("A", 1e2),
    "Iy": ("I_major", 1e4),
    "Wply": ("Wpl_major", 1e3),
    "Wely": ("Wel_major", 1e3),
    "iy": ("r_major", 10.0),
    "Iz": ("I_minor", 1e4),
    "Wplz": ("Wpl_minor", 1e3),
    "Welz": ("Wel_minor", 1e3),
    "iz": ("r_minor", 10.0),
    "It": ("J", 1e4),
    "Iw": ("Cw", 1e9),
}
_METRIC_SIZES = {"d": "h", "bf": "b", "tw": "tw", "tf": "tf"}
_THREE = {key: _METRIC_PROPERTIES[key] for key in ("A", "Iy", "Iz")}


def _fillet_below_flange(columns: Columns, sizes: Columns) -> Columns:
    return {"r": columns["kdes"] - sizes["tf"]}


def _fillet_from_area(columns: Columns, sizes: Columns) -> Columns:
    d, bf, tw, tf = (sizes[name] for name in ("d", "bf", "tw", "tf"))
    left = columns["A"] * INCH**2 - (2 * bf * tf + (d - 2 * tf) * tw)
    return {"r": np.sqrt(np.maximum(left, 0.0) / (4 * FILLET_AREA))}


def _american_taper(columns: Columns, sizes: Columns) -> Columns:
    overhang = (sizes["bf"] - sizes["tw"]) / (1 if "x" in columns else 2)
    tip = sizes["tf"] - overhang / 12
    # The slope of the file is a number, not a length.
    return {
        "slope": columns["slope"] / INCH if "slope" in columns else np.full_like(tip, 1 / 6),
        "r": columns["tmin"] + 0.1 * INCH,
        "r_toe": np.minimum(0.6 * columns["tmin"], tip),
    }


def _european_taper(columns: Columns, sizes: Columns) -> Columns:
    deep = sizes["d"] > 300
    return {
        "slope": np.where(deep, 0.05, 0.08),
        "r": columns["r"],
        "r_toe": columns["r2"],
        "tf_from_tip": np.where(deep, sizes["bf"] - sizes["tw"], sizes["bf"]) / 2,
    }


def _quarter_taper(columns: Columns, sizes: Columns) -> Columns:
    return {
        "slope": np.full_like(sizes["d"], 0.14),
        "r": columns["r"],
        "r_toe": columns["r2"],
        "tf_from_tip": sizes["bf"] / 4,
    }


def _fillet(columns: Columns, sizes: Columns) -> Columns:
    return {"r": columns["r"]}


_ASTM: dict[str, Any] = {
    "standard": "ASTM A6/A6M",
    "sizes": _INCH_SIZES,
    "properties": _INCH_PROPERTIES,
    "length": INCH,
    "mass": None,
    "digits": 3,
}
_EN: dict[str, Any] = {"standard": "EN 10365", "sizes": _METRIC_SIZES, "derive": _fillet}
# The published torsion of tapered shapes stands on other fits; their radii are the mill's.
_TAPERED: dict[str, Any] = {
    "derive": _american_taper,
    "radius": 2.0,
    "slack": {"J": 0.08, "Cw": 0.02},
}
_LEGS = {"d": "d", "b": "b", "t": "t"}
_ANGLE = _in_inches(A="A", Ix="I_x", Sx="Wel_top", y="y", Zx="Wpl_x", rz="r_minor", J="J", Cw="Cw")
_CHANNEL = _ASTM | {"properties": _INCH_PROPERTIES | _in_inches(x="x")}

SOURCES = (
    # Two areas of W-shapes lie 0.02 and 0.04 % beyond what the rounding in inches allows.
    Source("w_shapes.csv", families=("W",), shape="rolled I", derive=_fillet_below_flange,
           slack={"J": 0.03, "A": 0.0005}, **_ASTM),
    Source("hp_shapes.csv", families=("HP",), shape="rolled I", derive=_fillet_below_flange,
           slack={"J": 0.03}, **_ASTM),
    Source("m_shapes.csv", families=("M",), shape="rolled I", derive=_fillet_from_area,
           slack={"J": 0.05}, **_ASTM),
    Source("en10365_i.csv", families=("IPE", "HEA", "HEB"), shape="rolled I",
           properties=_METRIC_PROPERTIES, slack={"J": 0.04, "Cw": 0.012}, **_EN),
    Source("en10365_h.csv", families=("HEM", "HEAA", "HD", "HL"), shape="rolled I",
           properties=_THREE, governs=False, **_EN),
    Source("en10365_ub.csv", families=("UB", "UC", "UBP"), shape="rolled I",
           properties=_THREE, governs=False, **_EN),
    Source("s_shapes.csv", families=("S",), shape="tapered I", **_ASTM, **_TAPERED),
    Source("c_shapes.csv", families=("C",), shape="tapered channel", **_CHANNEL, **_TAPERED),
    Source("mc_shapes.csv", families=("MC",), shape="tapered channel",
           **_CHANNEL, **_TAPERED | {"slack": {"J": 0.08, "Cw": 0.02, "Wpl_minor": 0.004}}),
    Source("l_shapes.csv", families=("L",), shape="angle",
           slack={"A": 0.016, "I_x": 0.02, "Wel_top": 0.025, "Wpl_x": 0.035, "y": 0.02,
                  "r_minor": 0.025, "J": 0.16, "Cw": 0.01},
           **_ASTM | {"sizes": _LEGS, "properties": _ANGLE, "digits": None}),
    Source("en10365_upn.csv", families=("UPN",), shape="tapered channel", properties=_THREE,
           governs=False, slack={"A": 0.003, "I_major": 0.004, "I_minor": 0.007},
           **_EN | {"derive": _european_taper}),
    Source("en10365_channels.csv", families=("PFC", "UPE"), shape="channel", properties=_THREE,
           slack={"I_major": 0.001, "I_minor": 0.003},
           governs=False, **_EN),
    Source("en10365_ipe.csv", families=("IPEAA", "IPEA", "IPEO"), shape="rolled I",
           properties=_THREE, governs=False, **_EN),
    Source("en10024_ipn.csv", families=("IPN",), shape="tapered I", properties=_THREE,
           governs=False, slack={"A": 0.003, "I_major": 0.004, "I_minor": 0.007},
           **_EN | {"standard": "EN 10024", "derive": _quarter_taper}),
)  # fmt: skip

# Rows that do not reconcile with their dimensions, and are not shipped; a test holds this to
# what `welbric.sections.reconcile` finds.
LEFT_OUT = frozenset(
    {"HP12X53", "HP10X57", "HP10X42", "HP8X36", "M3X2.9", "C3X4.1", "MC6X12",
     "MC6X15.3", "HL1000AA", "HL1000B", "L2-1/2X2-1/2X3/16", "L2X2X1/8", "IPEAA120"}
)  # fmt: skip


@functools.cache
def read_rows(file: str) -> tuple[dict[str, str], ...]:
    """Return the rows of a catalogue file as text."""
    text = DATA.joinpath(file).read_text("utf-8")
    lines = (line for line in text.splitlines() if not line.startswith("#"))
    return tuple(csv.DictReader(lines))


def numbers(source: Source, rows: Iterable[Mapping[str, str]]) -> tuple[Columns, Columns]:
    """Return the columns of a file as numbers, and the dimensions in mm."""
    rows = list(rows)
    published = {
        key: np.array([float(row[key]) for row in rows]) for key in rows[0] if key != "name"
    }
    columns = {
        key: value if key in source.properties else value * source.length
        for key, value in published.items()
    }
    sizes = {ours: columns[key] for ours, key in source.sizes.items()}
    return published, sizes | source.derive(columns, sizes)


def published_table(source: Source) -> SectionTable:
    """Return the sections of a file that reconcile, with their properties."""
    rows = [row for row in read_rows(source.file) if row["name"] not in LEFT_OUT]
    published, sizes = numbers(source, rows)
    columns = source.make(sizes)
    if source.governs:
        found = {ours: published[key] * unit for key, (ours, unit) in source.properties.items()}
        in_line = _angles_in_line if "y" in found else _in_line
        columns = in_line(columns | found, "x" in found)
    columns["mass"] = np.array([nominal_mass(source, row) for row in rows])
    return SectionTable(source.shape, [row["name"] for row in rows], columns)


def _in_line(columns: Columns, channel: bool) -> Columns:
    """Return the columns with what follows from the published ones in line with them."""
    columns |= dict.fromkeys(("Wel_top", "Wel_bottom"), columns["Wel_major"])
    if channel:
        columns["Wel_right"] = columns["Wel_minor"]
        columns["Wel_left"] = columns["I_minor"] / columns["x"]
    else:
        columns |= dict.fromkeys(("Wel_right", "Wel_left"), columns["Wel_minor"])
    for way, axis in (("x", "major"), ("y", "minor")):
        columns |= {f"{name}_{way}": columns[f"{name}_{axis}"] for name in ("I", "Wpl", "r")}
    out = columns["shear_x"] - columns["x"]
    inertia = columns["I_major"] + columns["I_minor"]
    columns["r_polar"] = np.sqrt(inertia / columns["A"] + out**2)
    return columns


def _angles_in_line(columns: Columns, _: bool) -> Columns:
    """Return the columns of equal leg angles in line with the published ones."""
    A, I_x = columns["A"], columns["I_x"]
    columns |= {"x": columns["y"], "I_y": I_x, "Wpl_y": columns["Wpl_x"]}
    columns |= {"Wel_right": columns["Wel_top"], "r_x": np.sqrt(I_x / A), "r_y": np.sqrt(I_x / A)}
    columns |= dict.fromkeys(("Wel_bottom", "Wel_left"), I_x / columns["y"])
    before = {axis: columns[f"I_{axis}"] for axis in ("major", "minor")}
    columns["I_minor"] = A * columns["r_minor"] ** 2
    columns["I_major"] = 2 * I_x - columns["I_minor"]
    columns["I_xy"] = (columns["I_minor"] - columns["I_major"]) / 2
    columns["r_major"] = np.sqrt(columns["I_major"] / A)
    for axis, inertia in before.items():
        share = columns[f"I_{axis}"] / inertia
        columns |= {f"{W}_{axis}": columns[f"{W}_{axis}"] * share for W in ("Wel", "Wpl")}
    out = columns["shear_x"] - columns["x"]
    columns["r_polar"] = np.sqrt(2 * I_x / A + 2 * out**2)
    return columns


def nominal_mass(source: Source, row: Mapping[str, str]) -> float:
    """Return the mass that a row or its designation states, kg/mm."""
    if source.mass is not None:
        return float(row[source.mass]) / 1000.0
    if source.shape == "angle":
        return float(row["A"]) * INCH**2 * DENSITY
    return float(row["name"].rpartition("X")[2]) * POUND_PER_FOOT
