"""The flat parts of cross-sections as Table 5.2 has them: what buckles locally, and how many."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from welbric.sections.plates import Plate, plates
from welbric.standards.case import MemberCase, once_per_case
from welbric.standards.en1993 import shapes

WORDS = {"top wall": "wall across", "right wall": "wall along the depth"}


@dataclass(frozen=True)
class Part:
    """A flat part, which stands for all that are like it.

    Attributes
    ----------
    name : str
    internal : bool
        Whether both of its edges are held; else it starts at the one that is.
    c, t : float or array, mm
    count : int
        How many are like it.
    start, end : (x, y), mm
        Of its flat width, from the centroid.
    """

    name: str
    internal: bool
    c: Any
    t: Any
    count: int
    start: tuple[Any, Any]
    end: tuple[Any, Any]

    def levels(self, axis: str, sense: int) -> tuple[Any, Any]:
        """Return how far its ends are on the compressed side of an axis, mm."""
        at = 1 if axis == "major" else 0
        return sense * self.start[at], sense * self.end[at]


@once_per_case
def parts(case: MemberCase) -> tuple[Part, ...]:
    """Return the parts of a section; none of bars and of circular hollow sections."""
    if case.shape in (*shapes.BARS, shapes.ROUND):
        return ()
    found: dict[str, tuple[Plate, int]] = {}
    for plate in plates(case.section, case.shape):
        name = plate.name
        if case.shape in shapes.LIKE_FLANGES:
            name = name.replace("bottom", "top")
        if case.shape in shapes.LIKE_SIDES:
            name = name.replace("left", "right")
        first, count = found.get(name, (plate, 0))
        found[name] = (plate if plate.name == name else first, count + 1)
    return tuple(_part(case, name, *one) for name, one in found.items())


def _part(case: MemberCase, name: str, plate: Plate, count: int) -> Part:
    s, internal = case.section, plate.internal
    c, t = plate.width, plate.thickness
    ends = (plate.start, plate.end)
    if case.shape == shapes.TUBE:  # Table 5.2: the width less three times the thickness
        across = name == "top wall"
        c = (s.b if across else s.d) - 3 * s.t
        x, y = (c / 2, s.d / 2 - s.t / 2) if across else (s.b / 2 - s.t / 2, c / 2)
        ends = ((-x, y), (x, y)) if across else ((x, y), (x, -y))
    start, end = ((x - s.x, y - s.y) for x, y in ends)
    if case.shape in shapes.LIKE_SIDES:
        name = name.removesuffix(", right")
    if case.shape in shapes.LIKE_FLANGES and case.shape not in shapes.BOXES:
        name = name.removeprefix("top ")
    return Part(WORDS.get(name, name), internal, _plain(c), _plain(t), count, start, end)


def _plain(value: Any) -> Any:
    return value if np.ndim(value) else float(value)


def web(case: MemberCase) -> Part:
    """Return the web, the stem, or one web of a box."""
    names = ("web", "stem", "wall along the depth", "upright leg")
    found: Part = next(part for part in parts(case) if part.name in names)
    return found


def outstands(case: MemberCase) -> tuple[Part, ...]:
    """Return the parts that stand out."""
    return tuple(part for part in parts(case) if not part.internal)
