"""`SectionTable`, a struct of arrays of one kind of shape, and `Section`, one row of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray

Column = NDArray[np.float64]

DENSITY = 7850e-9  # of steel, kg/mm3

# Property -> (kind of quantity, meaning). First the dimensions; each shape has its own of them.
DIMENSIONS: dict[str, tuple[str, str]] = {
    "d": ("dimension", "depth"),
    "bf": ("dimension", "flange width"),
    "b": ("dimension", "width"),
    "tw": ("dimension", "web thickness"),
    "tf": ("dimension", "flange thickness"),
    "t": ("dimension", "thickness"),
    "t_nominal": ("dimension", "nominal thickness"),
    "bf_top": ("dimension", "top flange width"),
    "tf_top": ("dimension", "top flange thickness"),
    "bf_bottom": ("dimension", "bottom flange width"),
    "tf_bottom": ("dimension", "bottom flange thickness"),
    "b_top": ("dimension", "top plate width"),
    "t_top": ("dimension", "top plate thickness"),
    "b_bottom": ("dimension", "bottom plate width"),
    "t_bottom": ("dimension", "bottom plate thickness"),
    "cap_d": ("dimension", "depth of the cap"),
    "cap_bf": ("dimension", "flange width of the cap"),
    "cap_tw": ("dimension", "web thickness of the cap"),
    "cap_tf": ("dimension", "flange thickness of the cap"),
    "cap_r": ("dimension", "fillet radius of the cap"),
    "gap": ("dimension", "gap"),
    "r": ("dimension", "fillet radius"),
    "r_toe": ("dimension", "toe radius"),
    "r_out": ("dimension", "outer corner radius"),
    "r_in": ("dimension", "inner corner radius"),
    "slope": ("number", "slope of the flange"),
}
PROPERTIES: dict[str, tuple[str, str]] = DIMENSIONS | {
    "mass": ("mass_per_length", "mass per length"),
    "surface": ("dimension", "painted surface per length"),
    "A": ("area", "area"),
    "x": ("dimension", "centroid, x"),
    "y": ("dimension", "centroid, y"),
    "I_major": ("inertia", "second moment of area, major axis"),
    "Wel_major": ("modulus", "elastic modulus, major axis"),
    "Wpl_major": ("modulus", "plastic modulus, major axis"),
    "r_major": ("dimension", "radius of gyration, major axis"),
    "I_minor": ("inertia", "second moment of area, minor axis"),
    "Wel_minor": ("modulus", "elastic modulus, minor axis"),
    "Wpl_minor": ("modulus", "plastic modulus, minor axis"),
    "r_minor": ("dimension", "radius of gyration, minor axis"),
    "angle": ("angle", "angle of the major axis"),
    "I_x": ("inertia", "second moment of area, x axis"),
    "I_y": ("inertia", "second moment of area, y axis"),
    "I_xy": ("inertia", "product of area, x and y"),
    "Wel_top": ("modulus", "elastic modulus, top"),
    "Wel_bottom": ("modulus", "elastic modulus, bottom"),
    "Wel_right": ("modulus", "elastic modulus, right"),
    "Wel_left": ("modulus", "elastic modulus, left"),
    "Wpl_x": ("modulus", "plastic modulus, x axis"),
    "Wpl_y": ("modulus", "plastic modulus, y axis"),
    "plastic_x": ("dimension", "plastic axis, x"),
    "plastic_y": ("dimension", "plastic axis, y"),
    "r_x": ("dimension", "radius of gyration, x axis"),
    "r_y": ("dimension", "radius of gyration, y axis"),
    "J": ("inertia", "torsion constant"),
    "Cw": ("warping", "warping constant"),
    "shear_x": ("dimension", "shear centre, x"),
    "shear_y": ("dimension", "shear centre, y"),
    "r_polar": ("dimension", "polar radius about the shear centre"),
    "beta_major": ("dimension", "monosymmetry constant, major axis"),
    "beta_minor": ("dimension", "monosymmetry constant, minor axis"),
    "shear_area_y": ("area", "shear area along y"),
    "shear_area_x": ("area", "shear area along x"),
    "thickest": ("dimension", "thickest part"),
}

# What says nothing of a shape with this axis of symmetry, or with both of them.
_OF_NO_SYMMETRY = {"angle", "I_x", "I_y", "I_xy", "Wpl_x", "Wpl_y", "r_x", "r_y"}
_TRIVIAL = {
    "x": {"y", "plastic_y", "shear_y", "Wel_top", "Wel_bottom", "beta_major"},
    "y": {"x", "plastic_x", "shear_x", "Wel_right", "Wel_left", "beta_minor"},
}


class SectionTable:
    """Many sections of one kind of shape, a column an array; internal units.

    Parameters
    ----------
    shape : str
        The kind of shape, such as ``"rolled I"``; see `welbric.sections.kinds`.
    names : sequence of str, shape (S,)
    columns : mapping of str to array, each of shape (S,)
        See `PROPERTIES` for the names; they are attributes of the table too.
    """

    def __init__(self, shape: str, names: Any, columns: Mapping[str, Any]) -> None:
        self.shape = shape
        self.names: tuple[str, ...] = tuple(names)
        self.columns: dict[str, Column] = {
            key: np.asarray(value, dtype=float) for key, value in columns.items()
        }
        for key, column in self.columns.items():
            if column.shape != (len(self.names),):
                raise ValueError(f"column {key} has shape {column.shape}, not ({len(self.names)},)")

    def __len__(self) -> int:
        return len(self.names)

    def __getattr__(self, name: str) -> Column:
        try:
            return self.__dict__["columns"][name]  # type: ignore[no-any-return]
        except KeyError:
            raise AttributeError(f"a table of {self.shape} shapes has no {name!r}") from None

    def __getitem__(self, index: int) -> Section:
        return Section(
            self.shape,
            self.names[index],
            {key: float(column[index]) for key, column in self.columns.items()},
        )

    def take(self, rows: Any) -> SectionTable:
        """Return the rows given by an index array or a mask."""
        picked = np.arange(len(self))[rows]
        return SectionTable(
            self.shape,
            [self.names[i] for i in picked],
            {key: column[picked] for key, column in self.columns.items()},
        )

    def as_axis(self) -> SectionAxis:
        """Return the columns with shape (S, 1, 1), to broadcast over combinations and segments."""
        return SectionAxis({key: column[:, None, None] for key, column in self.columns.items()})

    def __repr__(self) -> str:
        return f"<{len(self)} sections, {self.shape}: {self.names[0]} ... {self.names[-1]}>"


class SectionAxis:
    """The columns of a table as arrays of shape (S, 1, 1), by the same names."""

    def __init__(self, columns: Mapping[str, Column]) -> None:
        self.__dict__.update(columns)

    def __getattr__(self, name: str) -> Any:
        raise AttributeError(f"these sections have no {name!r}")


class Section:
    """One section; its properties are attributes, in internal units.

    Attributes
    ----------
    corners : tuple of (x, y), mm
        Of a polygon's convex hull; none for other shapes, whose dimensions tell them.
    written : str
        What it was asked for by, where that is another name than its own.

    Examples
    --------
    >>> import welbric as wb
    >>> round(wb.section("W18X50").Wpl_major)
    1655093
    """

    def __init__(
        self,
        shape: str,
        name: str,
        properties: Mapping[str, float],
        corners: tuple[tuple[float, float], ...] = (),
        written: str = "",
    ) -> None:
        self.shape = shape
        self.written = written
        self.name = name
        self.properties = dict(properties)
        self.corners = corners

    def __getattr__(self, name: str) -> float:
        try:
            return self.__dict__["properties"][name]  # type: ignore[no-any-return]
        except KeyError:
            raise AttributeError(f"{self.shape} section has no {name!r}") from None

    def asked_for_by(self, written: str) -> Section:
        """Return it with the name that it was asked for by."""
        return Section(self.shape, self.name, self.properties, self.corners, written)

    @property
    def lacks_standard(self) -> bool:
        """Whether it was asked for without the product standard that its name has."""
        own, written = self.name.partition(" ")[2], self.written.upper().replace(" ", "")
        return bool(self.written and own.startswith("EN") and "EN1" not in written)

    @property
    def shown(self) -> str:
        """The name that it was asked for by with its own beside it, or its own alone."""
        if not self.written or self.lacks_standard:
            return self.name
        return f"{self.written} ({self.name})"

    @property
    def has_rotated_axes(self) -> bool:
        """Whether its principal axes are turned against x and y."""
        return abs(self.I_xy) > 1e-6 * self.I_major

    def table(self) -> SectionTable:
        """Return a table of this one section."""
        return SectionTable(
            self.shape, [self.name], {key: [value] for key, value in self.properties.items()}
        )

    def listed(self) -> dict[str, tuple[str, str]]:
        """Return the properties that say something of this shape: name -> (quantity, meaning)."""
        symmetric = [way for way in "xy" if all(self._vanishes(name) for name in _TRIVIAL[way])]
        trivial = {name for way in symmetric for name in _TRIVIAL[way]}
        trivial |= _OF_NO_SYMMETRY if symmetric else set()
        return {
            name: of
            for name, of in PROPERTIES.items()
            if name in self.properties and name not in trivial
        }

    def _vanishes(self, name: str) -> bool:
        """Whether a coordinate is zero, or a modulus the same at both fibres."""
        pairs = {"Wel_top": "Wel_bottom", "Wel_right": "Wel_left"}
        pairs |= {other: name for name, other in pairs.items()}
        value = self.properties.get(name, 0.0)
        if name in pairs:
            return abs(value - self.properties.get(pairs[name], value)) <= 1e-9 * abs(value)
        return abs(value) <= 1e-9 * self.properties.get("surface", 1.0)

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Section)
            and self.name == other.name
            and self.properties == other.properties
        )

    def __hash__(self) -> int:
        return hash(self.name)

    def __repr__(self) -> str:
        return f"<Section {self.name}>"
