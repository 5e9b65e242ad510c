"""Elastic stability in numbers alone, as more than one standard asks for it."""

from __future__ import annotations

from typing import Any

import numpy as np


def least_root_of_cubic(y: Any, z: Any, twist: Any, y_0: Any, z_0: Any, i_0: Any) -> Any:
    """Return at which of the three modes of a section of no symmetry a bar buckles first.

    Parameters
    ----------
    y, z, twist : float or array
        Critical forces, or stresses, in bending about each principal axis and in torsion.
    y_0, z_0 : float or array, mm
        The shear centre from the centroid, along the axes about which `y` and `z` bend.
    i_0 : float or array, mm
        Polar radius about the shear centre.

    The least root of (F - y)(F - z)(F - twist) i0² - F²(F - z) y0² - F²(F - y) z0² = 0, with
    y0 along the y axis; all three are real.
    """
    p, q = (y_0 / i_0) ** 2, (z_0 / i_0) ** 2
    a = 1 - p - q
    b = -(y + z + twist) + p * z + q * y
    c = y * z + y * twist + z * twist
    d = -y * z * twist
    # Viete's cosines: the symmetric eigenvalue problem behind the cubic has real roots.
    b, c, d = b / a, c / a, d / a
    shift = b**2 - 3 * c
    angle = (2 * b**3 - 9 * b * c + 27 * d) / (2 * np.maximum(shift, 1e-20 * b**2) ** 1.5)
    turn = np.arccos(np.clip(-angle, -1.0, 1.0)) / 3
    root = (-b + 2 * np.sqrt(np.maximum(shift, 0.0)) * np.cos(turn + 2 * np.pi / 3)) / 3
    # Where one mode is far above the others the cosine has lost digits; Newton finds them again.
    for _ in range(4):
        rise = (3 * root + 2 * b) * root + c
        value = ((root + b) * root + c) * root + d
        steep = np.abs(rise) > 1e-9 * b**2
        root = root - np.where(steep, value / np.where(steep, rise, 1.0), 0.0)
    return root
