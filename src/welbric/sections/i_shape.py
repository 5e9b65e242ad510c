"""Doubly symmetric I-shapes: properties from the dimensions, fillets included.

Each of the four fillets is a square of side r less a quarter circle. Its area, centroid and
second moment are exact; the torsion constant of a filleted shape has no closed form and is
El Darwish and Johnston's fit (Torsion of structural shapes, Journal of the Structural Division,
ASCE, vol. 91, 1965), good to about 1 % of membrane-analogy solutions.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from welbric.sections.thin_wall import TIP_LOSS, Wall, shear_area, within_proportions

# Of the fillet with r = 1: area, centroid from either straight side, second moment about it.
FILLET_AREA = 1 - np.pi / 4
FILLET_CENTROID = (10 - 3 * np.pi) / (12 - 3 * np.pi)
FILLET_INERTIA = 1 / 3 - np.pi / 16 - 1 / (36 * FILLET_AREA)


def properties(d: Any, bf: Any, tw: Any, tf: Any, r: Any = 0.0) -> dict[str, Any]:
    """Return the section properties of doubly symmetric I-shapes.

    Parameters
    ----------
    d, bf, tw, tf, r : array_like, shape (S,), mm
        Depth, flange width, web and flange thickness, fillet radius.

    Returns
    -------
    dict of str to array, shape (S,)
        By the names of `welbric.sections.table.PROPERTIES`, in mm to their power.

    Raises
    ------
    ValueError
        If a dimension is not positive, or the parts do not fit into one another.
    """
    d, bf, tw, tf, r = np.broadcast_arrays(
        *(np.asarray(x, dtype=float) for x in (d, bf, tw, tf, r))
    )
    if not np.all((d > 0) & (bf > 0) & (tw > 0) & (tf > 0) & (r >= 0)):
        raise ValueError("d, bf, tw and tf must be greater than zero, and r not less")
    if not np.all(2 * (tf + r) < d):
        raise ValueError("two flanges and their fillets must be less deep than d")
    if not np.all(tw + 2 * r <= bf):
        raise ValueError("the web and its fillets must not be wider than bf")

    web = d - 2 * tf
    fillet_area = FILLET_AREA * r**2
    fillet_inertia = FILLET_INERTIA * r**4
    up = web / 2 - FILLET_CENTROID * r  # from the major axis to a fillet's centroid
    out = tw / 2 + FILLET_CENTROID * r  # from the minor axis

    A = 2 * bf * tf + web * tw + 4 * fillet_area
    I_major = (bf * d**3 - (bf - tw) * web**3) / 12 + 4 * (fillet_inertia + fillet_area * up**2)
    I_minor = (2 * tf * bf**3 + web * tw**3) / 12 + 4 * (fillet_inertia + fillet_area * out**2)
    return {
        "d": d,
        "bf": bf,
        "tw": tw,
        "tf": tf,
        "r": r,
        "A": A,
        "I_major": I_major,
        "Wel_major": 2 * I_major / d,
        "Wpl_major": bf * tf * (d - tf) + tw * web**2 / 4 + 4 * fillet_area * up,
        "r_major": np.sqrt(I_major / A),
        "I_minor": I_minor,
        "Wel_minor": 2 * I_minor / bf,
        "Wpl_minor": tf * bf**2 / 2 + web * tw**2 / 4 + 4 * fillet_area * out,
        "r_minor": np.sqrt(I_minor / A),
        "J": torsion_constant(d, bf, tw, tf, r),
        "Cw": I_minor * (d - tf) ** 2 / 4,
        "r_polar": np.sqrt((I_major + I_minor) / A),
        "surface": 2 * d + 4 * bf - 2 * tw - (8 - 2 * np.pi) * r,
        "thickest": np.maximum(tw, tf),
    }


def complete(found: dict[str, Any]) -> dict[str, Any]:
    """Return the properties with those that follow from double symmetry, and the shear areas."""
    d, bf, tw, tf = (found[name] for name in ("d", "bf", "tw", "tf"))
    top, zero = (d - tf) / 2, 0.0 * d
    walls = [Wall(x, y, zero, y, tf) for y in (top, -top) for x in (-bf / 2, bf / 2)]
    walls.append(Wall(zero, top, zero, -top, tw, (0, 1)))
    vanishing = ("x", "y", "plastic_x", "plastic_y", "shear_x", "shear_y", "I_xy", "angle")
    whole = found | dict.fromkeys((*vanishing, "beta_major", "beta_minor"), zero)
    for axis, way in (("major", "x"), ("minor", "y")):
        whole |= {f"{name}_{way}": found[f"{name}_{axis}"] for name in ("I", "Wpl", "r")}
        whole[f"shear_area_{way}"] = shear_area(walls, way)
    whole |= dict.fromkeys(("Wel_top", "Wel_bottom"), found["Wel_major"])
    return whole | dict.fromkeys(("Wel_right", "Wel_left"), found["Wel_minor"])


def junction_gain(tw: Any, tf: Any, r: Any) -> Any:
    """Return what a junction of web and flange with fillets adds to J (El Darwish, Johnston)."""
    circle = ((tf + r) ** 2 + tw * (r + tw / 4)) / (2 * r + tf)
    return junction_factor(tw, tf, r) * circle**4


def junction_factor(tw: Any, tf: Any, r: Any) -> Any:
    """Return the gain of a junction over the fourth power of the circle that fits into it."""
    return (
        -0.042
        + 0.2204 * tw / tf
        + 0.1355 * r / tf
        - 0.0865 * r * tw / tf**2
        - 0.0725 * (tw / tf) ** 2
    )


def torsion_constant(d: Any, bf: Any, tw: Any, tf: Any, r: Any) -> Any:
    """Return J: three rectangles, the loss at four flange tips, the gain at two junctions."""
    rectangles = (2 * bf * tf**3 + (d - 2 * tf) * tw**3) / 3
    J = rectangles + 2 * junction_gain(tw, tf, r) - 4 * TIP_LOSS * tf**4
    return within_proportions(J, (d - 2 * tf, tw), (bf, tf), (bf, tf))
