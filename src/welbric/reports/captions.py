"""Words beside a member's picture: its ends, what holds its flanges, its loads."""

from __future__ import annotations

from collections.abc import Sequence

from welbric.inputs.actions import MemberLoad
from welbric.inputs.restraints import FlangeRestraint
from welbric.loads.combinations import name_of
from welbric.members.design_member import DesignMember
from welbric.members.segments import held_places
from welbric.units import DisplayUnits


def _held(
    member: DesignMember, flange: str, hold: FlangeRestraint | None, show: DisplayUnits
) -> str:
    if hold is None or hold.kind == "supports":
        met = [x for x, why in held_places(member, flange).items() if why == "member"]
        if met:
            return f"at supports, and by members at {places_in_words(met, show)}"
        return "at supports only"
    if hold.kind == "continuous":
        return "all along"
    if hold.kind == "every":
        return f"every {show.show(hold.every or 0.0, 'length', 3)}"
    inner = [x for x, why in held_places(member, flange).items() if why != "support"]
    of_a_span = hold is not getattr(member.said.restraint, flange) and hold.kind == "at"
    return f"at {places_in_words(hold.at if of_a_span else inner, show)}"


def restraint_words(member: DesignMember, show: DisplayUnits) -> list[str]:
    """Return what holds each flange."""
    words = []
    for flange in ("top", "bottom"):
        hold = getattr(member.said.restraint, flange)
        parts = hold.by_span if hold is not None and hold.kind == "by_span" else [hold]
        said = [_held(member, flange, one, show) for one in parts]
        of_spans = " (by span)" if len(parts) > 1 else ""
        words.append(f"{flange} flange held {', '.join(said)}{of_spans}")
    if braces := sorted({x for brace in member.said.braces for x in brace.at}):
        words.append(f"elastic braces at {places_in_words(braces, show)}")
    return words


def places_in_words(places: Sequence[float], show: DisplayUnits) -> str:
    """Return places along a member, or that there are none."""
    return " and ".join(show.show(x, "length", 3) for x in places) or "supports only"


def end_words(member: DesignMember, x: float, end: str) -> str:
    """Name an end, and for a member that stands or hangs, which one it is."""
    if abs(member.slope) < 0.8:
        return end
    lower = (x == 0.0) == (member.slope > 0)
    return f"{end}, {'foot' if lower else 'head'}"


def load_words(load: MemberLoad, show: DisplayUnits) -> str:
    """Return a load with its case, such as ``live 5 kN/m``."""
    words = name_of(load.case) + (" ±" if load.is_reversible else "")
    words += ", minor axis" if load.axis == "minor" else ""
    words += f", {load.alternative}," if load.alternative else ""
    return f"{words} {value_words(load, show)}"


def value_words(load: MemberLoad, show: DisplayUnits) -> str:
    """Return what a load is, without its case, such as ``5 kN/m``."""
    if load.line is not None:
        return " to ".join(dict.fromkeys(show.show(w, "line_load") for w in load.line))
    if load.area is not None:
        spacing = load.spacing or 0.0
        of = f"{show.show(load.area, 'area_load')} × {show.show(spacing, 'length', 3)}"
        return f"{of} = {show.show(load.area * spacing, 'line_load')}"
    if load.point is not None:
        return show.show(load.point, "force") + (" each" if len(load.at or []) > 1 else "")
    if load.compression is not None or load.tension is not None:
        pulls = load.tension is not None
        value = load.tension if pulls else load.compression
        off = ""
        if load.eccentricity:
            off = f", {show.show(load.eccentricity, 'dimension', 3)} off the axis"
        sense = "tension" if pulls else "compression"
        return f"{sense} {show.show(value or 0.0, 'force')}{off}"
    if load.moment is not None:
        return f"moment {show.show(load.moment, 'moment')}"
    if load.end_moments is not None:
        first, last = (show.show(M, "moment") for M in load.end_moments)
        return f"end moments {first} (start) and {last} (end)"
    at = f" at {places_in_words(load.at, show)}" if load.at else ""
    for name, words, kind in WITHOUT_ARROWS:
        value = getattr(load, name)
        if value is not None:
            return f"{words} {show.show(value, kind)}{at}"
    return ""


WITHOUT_ARROWS = (
    ("settlement", "settlement", "dimension"),
    ("torque", "torsional moment", "moment"),
    ("temperature", "warmer by", "temperature"),
    ("temperature_difference", "top warmer than bottom by", "temperature"),
)
