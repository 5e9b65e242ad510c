"""The outline of any section, for drawing it and for the general engine to compute."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from welbric.sections.outline import (
    ARC,
    Outline,
    angle_outline,
    channel_outline,
    i_outline,
    rectangle_outline,
    rectangular_tube_outline,
    tee_outline,
    tube_outline,
    unequal_i_outline,
)
from welbric.sections.table import Section
from welbric.sections.tapered import POLYGONS


def outlines(section: Section, sides: int = ARC) -> list[Outline]:
    """Return the outlines of a section, one for each piece, in the axes of its properties.

    Parameters
    ----------
    section : Section
    sides : int
        Of a quarter circle.

    Raises
    ------
    KeyError
        If the section is an outline itself, whose corners it does not keep.
    """
    return _DRAWN[section.shape](section, sides)


def _i(s: Section, sides: int) -> list[Outline]:
    return [i_outline(s.d, s.bf, s.tw, s.tf, s.r, sides)]


def _unequal_i(s: Section, sides: int) -> list[Outline]:
    return [unequal_i_outline(s.d, s.bf_top, s.tf_top, s.bf_bottom, s.tf_bottom, s.tw)]


def _channel(s: Section, sides: int) -> list[Outline]:
    return [channel_outline(s.d, s.bf, s.tw, s.tf, s.r, sides)]


def _angle(s: Section, sides: int) -> list[Outline]:
    return [angle_outline(s.d, s.b, s.t, s.r, s.r_toe, sides)]


def _double_angle(s: Section, sides: int) -> list[Outline]:
    right = _angle(s, sides)[0].mirrored(y=-1.0).moved(s.gap / 2, s.d)
    return [right, right.mirrored(x=-1.0)]


def _tee(s: Section, sides: int) -> list[Outline]:
    return [tee_outline(s.d, s.bf, s.tw, s.tf, s.r, sides)]


def _tapered(s: Section, sides: int) -> list[Outline]:
    tip = s.tf - s.slope * (s.tf_from_tip or (s.bf - s.tw) / 2)
    polygon = POLYGONS[s.shape.replace("double", "tapered")](
        *(np.array(v) for v in (s.d, s.bf, s.tw, tip, s.slope, s.r, s.r_toe))
    )
    return [Outline(np.column_stack([polygon.x.ravel(), polygon.y.ravel()]))]


def _rectangular_tube(s: Section, sides: int) -> list[Outline]:
    return [rectangular_tube_outline(s.d, s.b, s.t, s.r_out, s.r_in, sides)]


def _round_tube(s: Section, sides: int) -> list[Outline]:
    return [tube_outline(s.d, s.t, 4 * sides)]


def _welded_box(s: Section, sides: int) -> list[Outline]:
    outer, inner = rectangle_outline(s.b, s.d), rectangle_outline(s.b - 2 * s.tw, s.d - 2 * s.tf)
    return [Outline(*outer.rings, *inner.rings)]


def _round_bar(s: Section, sides: int) -> list[Outline]:
    angles = np.linspace(0, 2 * np.pi, 4 * sides, endpoint=False)
    return [Outline(np.column_stack([np.cos(angles), np.sin(angles)]) * s.d / 2)]


def _flat_bar(s: Section, sides: int) -> list[Outline]:
    return [rectangle_outline(s.b, s.d)]


def _plated_i(s: Section, sides: int) -> list[Outline]:
    pieces = [_i(s, sides)[0].moved(0.0, s.d / 2)]
    for b, t, y in (
        (s.b_top, s.t_top, s.d + s.t_top / 2),
        (s.b_bottom, s.t_bottom, -s.t_bottom / 2),
    ):
        if t > 0:
            pieces.append(rectangle_outline(b, t).moved(0.0, y))
    return pieces


def _capped_i(s: Section, sides: int) -> list[Outline]:
    cap = channel_outline(s.cap_d, s.cap_bf, s.cap_tw, s.cap_tf, s.cap_r, sides)
    return [
        _i(s, sides)[0].moved(0.0, s.d / 2),
        cap.turned(-np.pi / 2).moved(0.0, s.d + s.cap_tw),
    ]


def _double_channel(s: Section, sides: int) -> list[Outline]:
    right = (_tapered if s.slope > 0 else _channel)(s, sides)[0]
    if s.toes_in:
        right = right.mirrored(x=-1.0).moved(s.bf, 0.0)
    right = right.moved(s.gap / 2, 0.0)
    return [right, right.mirrored(x=-1.0)]


def _double_i(s: Section, sides: int) -> list[Outline]:
    right = _i(s, sides)[0].moved((s.gap + s.bf) / 2, 0.0)
    return [right, right.mirrored(x=-1.0)]


_DRAWN: dict[str, Callable[[Section, int], list[Outline]]] = {
    "rolled I": _i,
    "welded I": _i,
    "tapered I": _tapered,
    "unequal I": _unequal_i,
    "channel": _channel,
    "tapered channel": _tapered,
    "angle": _angle,
    "double angle": _double_angle,
    "tee": _tee,
    "tapered tee": _tapered,
    "rectangular tube": _rectangular_tube,
    "round tube": _round_tube,
    "welded box": _welded_box,
    "round bar": _round_bar,
    "flat bar": _flat_bar,
    "plated I": _plated_i,
    "capped I": _capped_i,
    "double channel": _double_channel,
    "double I": _double_i,
}
