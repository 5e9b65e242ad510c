"""A section as a small drawing for a page: to scale, with its principal axes and centres."""

from __future__ import annotations

import numpy as np

from welbric.documents.picture import Anchor, Picture
from welbric.reports.member_drawing import GOVERNING, INK, LOAD, PALE
from welbric.sections.drawn import outlines
from welbric.sections.table import Section
from welbric.units import DisplayUnits

WIDTH, SIZE = 150.0, 84.0  # pt; of the picture, and of the section's larger side


def section_drawing(section: Section, show: DisplayUnits) -> str | None:
    """Return a section as SVG, 150 points wide; None for an outline of one's own.

    Its corners are not kept, so that it cannot be drawn.
    """
    if section.shape == "outline":
        return None
    pieces = outlines(section, 6)
    corners = np.concatenate([ring for piece in pieces for ring in piece.rings])
    (left, bottom), (right, top) = corners.min(axis=0), corners.max(axis=0)
    scale = SIZE / max(right - left, top - bottom)
    reach = 0.56 * SIZE / scale
    middle = 0.5 * WIDTH + 8.0
    high = 10.0 + scale * max(section.y + reach - top, 0.0)

    def at(x: float, y: float) -> tuple[float, float]:
        return middle + scale * (x - 0.5 * (left + right)), high + scale * (top - y)

    picture = Picture(WIDTH)
    for piece in pieces:
        picture.area([[at(*point) for point in ring] for ring in piece.rings], PALE, INK, 0.8)
    for name, angle in (("major", section.angle), ("minor", section.angle + np.pi / 2)):
        c, s = np.cos(angle), np.sin(angle)
        ends = [at(section.x + t * reach * c, section.y + t * reach * s) for t in (-1.0, 1.0)]
        picture.line(ends, GOVERNING, 0.6, "5 1.5 1 1.5")
        x, y = ends[1]
        anchor: Anchor = "middle" if s > 0.8 else "start"
        picture.text(x + 3.0 * c, y - 2.0 * s - 1.0, name, GOVERNING, anchor, 6.5)
    picture.dot(*at(section.x, section.y), GOVERNING)
    apart = np.hypot(section.shear_x - section.x, section.shear_y - section.y)
    shear = at(section.shear_x, section.shear_y)
    if apart > 0.005 * (SIZE / scale):
        x, y = shear
        picture.line([(x - 2.2, y - 2.2), (x + 2.2, y + 2.2)], LOAD, 1.0)
        picture.line([(x - 2.2, y + 2.2), (x + 2.2, y - 2.2)], LOAD, 1.0)
    low = at(0.0, bottom)[1]
    deep = show.show(top - bottom, "dimension")
    wide = show.show(right - left, "dimension")
    lowest = max(low, shear[1], at(0.0, section.y - reach)[1]) + 10.0
    picture.text(0.5 * WIDTH, lowest, f"{wide} wide, {deep} deep", LOAD, "middle", 7)
    picture.height = lowest + 3.0
    return str(picture)
