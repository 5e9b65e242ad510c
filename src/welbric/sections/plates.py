"""The plate elements of a section: what buckles locally, and how it is stressed.

A plate is flat between the fillets, corners or welds that end it. Its coordinates are those of the
section's drawing and properties; of an angle the heel is at zero, of a tee the tip of the stem.
Round shapes have none, nor has an outline, whose plates are not known.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

Point = tuple[Any, Any]


@dataclass(frozen=True)
class Plate:
    """A flat part of a section.

    Attributes
    ----------
    name : str
        Such as ``"top flange, left"``.
    internal : bool
        Whether both of its edges are held by other plates; else the one at its end is free.
    thickness : float or array, mm
    start, end : (x, y), mm
        The ends of its flat width, in the middle of its thickness.
    """

    name: str
    internal: bool
    thickness: Any
    start: Point
    end: Point

    @property
    def width(self) -> Any:
        """The flat width, mm."""
        return np.hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])

    @property
    def slenderness(self) -> Any:
        """The flat width over the thickness."""
        return self.width / self.thickness

    def moved(self, x: Any = 0.0, y: Any = 0.0, mirror: bool = False, name: str = "") -> Plate:
        """Return it elsewhere, first mirrored at the y axis where wanted."""
        side = -1.0 if mirror else 1.0
        ends = [(side * one[0] + x, one[1] + y) for one in (self.start, self.end)]
        return Plate(name or self.name, self.internal, self.thickness, *ends)


def stresses(
    section: Any, plate: Plate, N: Any = 0.0, M_x: Any = 0.0, M_y: Any = 0.0
) -> tuple[Any, Any]:
    """Return the elastic stresses at the start and the end of a plate, MPa.

    Parameters
    ----------
    section : Section or SectionAxis
    plate : Plate
    N : float or array, N
        Tension positive, as the stresses are.
    M_x, M_y : float or array, N mm
        About the axes of the drawing; they compress the top, and the right.
    """
    s = section
    together = s.I_x * s.I_y - s.I_xy**2
    by_y = (M_x * s.I_y - M_y * s.I_xy) / together
    by_x = (M_y * s.I_x - M_x * s.I_xy) / together
    start, end = (
        N / s.A - by_y * (y - s.y) - by_x * (x - s.x) for x, y in (plate.start, plate.end)
    )
    return start, end


def plates(section: Any, shape: str | None = None) -> tuple[Plate, ...]:
    """Return the plates of a section; none of a round one, or of an outline.

    Parameters
    ----------
    section : Section or SectionAxis
    shape : str, optional
        Its kind, where the section does not say.
    """
    make = _PLATES.get(shape or section.shape)
    return () if make is None else tuple(make(section))


def _both_ways(plate: Plate) -> Iterator[Plate]:
    """Yield an outstand to the right, and its like to the left."""
    yield plate.moved(mirror=True, name=f"{plate.name}, left")
    yield plate.moved(name=f"{plate.name}, right")


def _outstand(name: str, t: Any, start: Point, end: Point) -> Plate:
    return Plate(name, False, t, start, end)


def _i(s: Any, middle: Any = 0.0) -> Iterator[Plate]:
    """Yield those of an I with like flanges, its middle at a height."""
    r = getattr(s, "r", 0.0)
    root, y = s.tw / 2 + r, s.d / 2 - s.tf / 2
    for name, level in (("top flange", middle + y), ("bottom flange", middle - y)):
        yield from _both_ways(_outstand(name, s.tf, (root, level), (s.bf / 2, level)))
    clear = s.d / 2 - s.tf - r
    yield Plate("web", True, s.tw, (0.0, middle + clear), (0.0, middle - clear))


def _unequal_i(s: Any) -> Iterator[Plate]:
    top, bottom = s.d - s.tf_top / 2, s.tf_bottom / 2
    half = s.tw / 2
    yield from _both_ways(_outstand("top flange", s.tf_top, (half, top), (s.bf_top / 2, top)))
    yield from _both_ways(
        _outstand("bottom flange", s.tf_bottom, (half, bottom), (s.bf_bottom / 2, bottom))
    )
    yield Plate("web", True, s.tw, (0.0, s.d - s.tf_top), (0.0, s.tf_bottom))


def _covered_i(s: Any) -> Iterator[Plate]:
    """Yield those of an I on the ground, and of its covers between and beyond their welds."""
    yield from _i(s, s.d / 2)
    for name, b, t, y in (
        ("top cover", s.b_top, s.t_top, s.d + s.t_top / 2),
        ("bottom cover", s.b_bottom, s.t_bottom, -s.t_bottom / 2),
    ):
        if np.any(t > 0):
            weld = np.minimum(b, s.bf) / 2
            yield Plate(name, True, t, (-weld, y), (weld, y))
            if np.any(b > s.bf):
                yield from _both_ways(
                    _outstand(f"{name}, beyond the weld", t, (weld, y), (b / 2, y))
                )


def _capped_i(s: Any) -> Iterator[Plate]:
    yield from _i(s, s.d / 2)
    y, half = s.d + s.cap_tw / 2, s.cap_d / 2
    root = s.cap_tf + s.cap_r
    yield Plate("cap, web", True, s.cap_tw, (root - half, y), (half - root, y))
    x = half - s.cap_tf / 2
    start = s.d - s.cap_r
    tip = s.d + s.cap_tw - s.cap_bf
    yield from _both_ways(_outstand("cap, flange", s.cap_tf, (x, start), (x, tip)))


def _channel(s: Any) -> Iterator[Plate]:
    root, y = s.tw + s.r, s.d / 2 - s.tf / 2
    yield _outstand("top flange", s.tf, (root, y), (s.bf, y))
    yield _outstand("bottom flange", s.tf, (root, -y), (s.bf, -y))
    clear = s.d / 2 - s.tf - s.r
    yield Plate("web", True, s.tw, (s.tw / 2, clear), (s.tw / 2, -clear))


def _double_channel(s: Any) -> Iterator[Plate]:
    for plate in _channel(s):
        right = plate.moved(s.gap / 2)
        if np.any(s.toes_in):
            right = plate.moved(s.gap / 2 + s.bf, mirror=True)
        yield from _both_ways(right)


def _double_i(s: Any) -> Iterator[Plate]:
    for plate in _i(s):
        name, _, _ = plate.name.partition(",")
        yield from _both_ways(plate.moved((s.gap + s.bf) / 2, name=name))


def _angle(s: Any) -> Iterator[Plate]:
    root, middle = s.t + s.r, s.t / 2
    yield _outstand("upright leg", s.t, (middle, root), (middle, s.d))
    yield _outstand("level leg", s.t, (root, middle), (s.b, middle))


def _double_angle(s: Any) -> Iterator[Plate]:
    for plate in _angle(s):
        (x, y), (u, v) = plate.start, plate.end
        down = _outstand(plate.name, s.t, (x, s.d - y), (u, s.d - v))
        yield from _both_ways(down.moved(s.gap / 2))


def _tee(s: Any) -> Iterator[Plate]:
    y, root = s.d - s.tf / 2, s.tw / 2 + s.r
    yield from _both_ways(_outstand("flange", s.tf, (root, y), (s.bf / 2, y)))
    yield _outstand("stem", s.tw, (0.0, s.d - s.tf - s.r), (0.0, 0.0))


def _walls(b: Any, d: Any, tw: Any, tf: Any, corner: Any) -> Iterator[Plate]:
    """Yield four walls, flat between corners of that size beyond the walls themselves."""
    x, y = b / 2 - tw - corner, d / 2 - tf - corner
    for name, level in (("top wall", d / 2 - tf / 2), ("bottom wall", tf / 2 - d / 2)):
        yield Plate(name, True, tf, (-x, level), (x, level))
    for name, at in (("left wall", tw / 2 - b / 2), ("right wall", b / 2 - tw / 2)):
        yield Plate(name, True, tw, (at, y), (at, -y))


def _rectangular_tube(s: Any) -> Iterator[Plate]:
    # Flat from the outer corner's end: never more than what the inner corner leaves.
    return _walls(s.b, s.d, s.t, s.t, np.maximum(s.r_out - s.t, s.r_in))


def _welded_box(s: Any) -> Iterator[Plate]:
    return _walls(s.b, s.d, s.tw, s.tf, 0.0)


def _flat_bar(s: Any) -> Iterator[Plate]:
    # Both long edges are free: half of it stands out from the middle, either way.
    yield _outstand("upper half", s.b, (0.0, 0.0), (0.0, s.d / 2))
    yield _outstand("lower half", s.b, (0.0, 0.0), (0.0, -s.d / 2))


_PLATES: dict[str, Callable[[Any], Iterator[Plate]]] = {
    "rolled I": _i,
    "tapered I": _i,
    "welded I": _i,
    "unequal I": _unequal_i,
    "plated I": _covered_i,
    "capped I": _capped_i,
    "channel": _channel,
    "tapered channel": _channel,
    "double channel": _double_channel,
    "double I": _double_i,
    "angle": _angle,
    "double angle": _double_angle,
    "tee": _tee,
    "tapered tee": _tee,
    "rectangular tube": _rectangular_tube,
    "welded box": _welded_box,
    "flat bar": _flat_bar,
}
