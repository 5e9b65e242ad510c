"""Deflection against a share of the span; no standard fixes the shares, designers choose them."""

from __future__ import annotations

from numpy import maximum

from welbric.working import Glossary, Symbol

GLOSSARY = Glossary(
    "serviceability",
    {
        "delta": Symbol("dimension", "largest deflection, as it is compared with its limit"),
        "delta_sum": Symbol("dimension", "deflection of the cases so far, each times its factor"),
        "delta_before": Symbol("dimension", "the same before this load case, or this step"),
        "delta_case": Symbol("dimension", "deflection of one load case alone"),
        "gamma": Symbol("number", "factor of the load case in the combination"),
        "M_case": Symbol("moment", "largest moment of the load case alone"),
        "c": Symbol("dimension", "camber at mid-length"),
        "delta_chord": Symbol("dimension", "straight line between the ends of the span"),
        "x": Symbol("length", "distance from the start"),
        "L_member": Symbol("length", "length of the member"),
        "u_top": Symbol("dimension", "movement of the top of a storey"),
        "u_bottom": Symbol("dimension", "movement of its bottom"),
        "u_joint": Symbol("dimension", "movement of the joint"),
        "u_other": Symbol("dimension", "movement of the joint that it is measured against"),
        "delta_lim": Symbol("dimension", "limit of deflection"),
        "L": Symbol("length", "span"),
        "n": Symbol("number", "the limit is the span over n"),
        "U": Symbol("number", "utilisation"),
    },
)


@GLOSSARY.formula("superposition", "delta_sum")
def with_case(delta_before, gamma, delta_case):
    """Deflection with one load case more."""
    return delta_before + gamma * delta_case


@GLOSSARY.formula("superposition", "delta_sum")
def first_case(gamma, delta_case):
    """Deflection of the first load case."""
    return gamma * delta_case


@GLOSSARY.formula("camber", "delta_sum")
def less_camber(delta_before, c, x, L_member):
    """Deflection less a camber in the shape of a parabola."""
    return delta_before - 4 * c * x * (L_member - x) / L_member**2


@GLOSSARY.formula("chord", "delta_sum")
def from_chord(delta_before, delta_chord):
    """Deflection from the straight line between the ends of its span."""
    return delta_before - delta_chord


@GLOSSARY.formula("drift", "delta_sum")
def drift(u_top, u_bottom):
    """Drift of a storey."""
    return u_top - u_bottom


@GLOSSARY.formula("movement", "delta_sum")
def movement(u_joint):
    """Movement of a joint from where it was drawn."""
    return u_joint


@GLOSSARY.formula("movement", "delta_sum")
def movement_against(u_joint, u_other):
    """Movement of a joint against another."""
    return u_joint - u_other


@GLOSSARY.formula("magnitude", "delta")
def magnitude(delta_sum):
    """Deflection, whichever way it is."""
    return maximum(delta_sum, -delta_sum)


@GLOSSARY.formula("limit", "delta_lim")
def deflection_limit(L, n):
    """Limit of deflection."""
    return L / n


@GLOSSARY.formula("limit", "U")
def deflection_utilisation(delta, delta_lim):
    """Deflection over its limit."""
    return delta / delta_lim


def deflection_ratio(delta: float | None, L: float, n: float) -> float:
    """Return deflection over limit.

    Parameters
    ----------
    delta, L : float, mm
    n : float
        The limit is L / n.
    """
    return float(deflection_utilisation(delta, deflection_limit(L, n)))
