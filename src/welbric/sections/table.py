"""`SectionTable`, a struct of arrays of one kind of shape, and `Section`, one row of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
from numpy.typing import NDArray

Column = NDArray[np.float64]

PROPERTIES: dict[str, tuple[str, str]] = {
    "d": ("dimension", "depth"),
    "bf": ("dimension", "flange width"),
    "tw": ("dimension", "web thickness"),
    "tf": ("dimension", "flange thickness"),
    "r": ("dimension", "fillet radius"),
    "mass": ("mass_per_length", "mass per length"),
    "A": ("area", "area"),
    "I_major": ("inertia", "second moment of area, major axis"),
    "Wel_major": ("modulus", "elastic modulus, major axis"),
    "Wpl_major": ("modulus", "plastic modulus, major axis"),
    "r_major": ("dimension", "radius of gyration, major axis"),
    "I_minor": ("inertia", "second moment of area, minor axis"),
    "Wel_minor": ("modulus", "elastic modulus, minor axis"),
    "Wpl_minor": ("modulus", "plastic modulus, minor axis"),
    "r_minor": ("dimension", "radius of gyration, minor axis"),
    "J": ("inertia", "torsion constant"),
    "Cw": ("warping", "warping constant"),
}


class SectionTable:
    """Many sections of one kind of shape, a column an array; internal units.

    Parameters
    ----------
    shape : str
        The kind of shape, such as ``"rolled I"``.
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

    Examples
    --------
    >>> import welbric as wb
    >>> round(wb.section("W18X50").Wpl_major)
    1655093
    """

    def __init__(self, shape: str, name: str, properties: Mapping[str, float]) -> None:
        self.shape = shape
        self.name = name
        self.properties = dict(properties)

    def __getattr__(self, name: str) -> float:
        try:
            return self.__dict__["properties"][name]  # type: ignore[no-any-return]
        except KeyError:
            raise AttributeError(f"{self.shape} section has no {name!r}") from None

    def table(self) -> SectionTable:
        """Return a table of this one section."""
        return SectionTable(
            self.shape, [self.name], {key: [value] for key, value in self.properties.items()}
        )

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
