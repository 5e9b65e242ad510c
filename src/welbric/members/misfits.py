"""What of a member's description does not fit together: each thing with its address."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Iterator

from welbric.analysis import beam
from welbric.analysis.member_loads import breaks_of
from welbric.errors import InputError, Problem
from welbric.inputs.joints import Joint
from welbric.inputs.restraints import FlangeRestraint
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.units import both

MOST_RESTRAINTS = 1000
COVERED = {"plated I", "capped I"}
LACINGS = ("angle", "flat bar", "round bar")


def misfits(member: DesignMember) -> list[Problem]:
    """Return everything that does not fit."""
    pieces = list(_pieces(member))
    if pieces:  # nothing else can be said of lengths that overlap
        return pieces
    found = [*_places_between_ends(member), *_spans(member)]
    if not found:
        found += _mechanisms(member)
    found += [*_loads(member), *_braces(member), *_restraints(member), *_buckling(member)]
    found += _steels(member)
    if not any(problem.path[:1] in {("steel",), ("web_steel",)} for problem in found):
        found += _ends_and_webs(member)
    return [*found, *_actions(member)]


def _m(value: float) -> str:
    return both(value, "length")


def _slack(member: DesignMember) -> float:
    return SAME_PLACE * max(member.length, 1.0)


def _off(member: DesignMember, places: Iterable[float], *path: str) -> Iterator[Problem]:
    """Yield the places that are off the member."""
    slack, L = _slack(member), member.length
    for place in places:
        if not -slack <= place <= L + slack:
            yield Problem(f"{_m(place)} is off the member, which is {_m(L)} long", *path)


def _pieces(member: DesignMember) -> Iterator[Problem]:
    """Yield what is wrong with the lengths of other sections."""
    slack, L = _slack(member), member.length
    for number, piece in enumerate(member.said.pieces, 1):
        if piece.end <= piece.start:
            yield Problem("its end is not beyond its start", f"piece {number}")
        elif piece.start < -slack or piece.end > L + slack:
            words = f"{_m(piece.start)} to {_m(piece.end)} is off the member, which is "
            yield Problem(f"{words}{_m(L)} long", f"piece {number}")
    ordered = sorted(member.said.pieces, key=lambda piece: piece.start)
    for first, second in itertools.pairwise(ordered):
        if second.start < first.end - slack:
            yield Problem(
                f"{first.section.name} and {second.section.name} overlap from "
                f"{_m(second.start)} to {_m(min(first.end, second.end))}",
                "piece",
            )


def _places_between_ends(member: DesignMember) -> Iterator[Problem]:
    """Yield the supports and hinges that are not between the ends."""
    slack, L, said = _slack(member), member.length, member.said
    for what, places in (("support", [s.at for s in said.supports]), ("hinges", said.hinges)):
        for place in places:
            if not slack < place < L - slack:
                words = f"{_m(place)} is not between the ends of the member, which is {_m(L)} long"
                yield Problem(words, what)


def _spans(member: DesignMember) -> Iterator[Problem]:
    """Yield what goes with one span, or with several."""
    said, spans = member.said, len(member.span_lengths("major"))
    row = spans if said.frame is None else said.frame.bays().get(said.mark, (0, spans))[1]
    if said.camber is not None and (spans != 1 or said.camber < 0):
        yield Problem("is not less than zero, and goes with one span", "camber")
    if said.pattern and row < 2:
        yield Problem("needs more than one span", "pattern")


def _holds_a_rigid_bar(supports: Iterable[beam.Support]) -> bool:
    """Whether supports keep a bar without hinges from moving: at two places, or at one and turned.

    The rest is left to the analysis, which names the motion.
    """
    at = [s for s in supports if s.held or s.spring > 0]
    turns = any(s.clamped or s.rotation_spring > 0 for s in supports)
    return len(at) > 1 or (bool(at) and turns)


def _mechanisms(member: DesignMember) -> Iterator[Problem]:
    """Yield what is free to move."""
    hinges = member.said.hinges
    for axis in ("major", "minor"):
        supports = member.supports_about(axis)
        if not hinges and _holds_a_rigid_bar(supports):
            continue
        places = [s.at for s in supports] + hinges
        try:
            beam.bend(breaks_of(member.length, [[]], places), [[]], supports, 1.0, hinges)
        except InputError as error:
            first, last = member.ends_about(axis)
            yield Problem(
                f"{first} at the start and {last} at the end leave the member free to move "
                f"({axis} axis): a mechanism; {error}",
                "ends",
            )


def _loads(member: DesignMember) -> Iterator[Problem]:
    """Yield the loads that are off the member, or settle no support."""
    slack, L = _slack(member), member.length
    for number, load in enumerate(member.said.loads, 1):
        where = f"load {number}"
        if load.settlement is not None:
            held = [s.at for s in member.supports_about(load.axis) if s.held]
            for place in load.at or []:
                if all(abs(place - at) > slack for at in held):
                    yield Problem(f"no support settles at {_m(place)}", where)
        yield from _off(member, load.places(), where)
        if load.per == "plan length" and abs(math.cos(member.slope)) < 1e-9:
            yield Problem("an upright member has no plan length", where)
        if (L if load.end is None else load.end) <= (load.start or 0.0):
            yield Problem("its end is not beyond its start", where)


def _braces(member: DesignMember) -> Iterator[Problem]:
    """Yield the braces that are off the member."""
    for number, brace in enumerate(member.said.braces, 1):
        where = f"brace {number}"
        if (member.length if brace.end is None else brace.end) <= (brace.start or 0.0):
            yield Problem("its end is not beyond its start", where)
        named = [x for x in (brace.start, brace.end) if x is not None]
        yield from _off(member, [*brace.at, *named], where)


def _restraints(member: DesignMember) -> Iterator[Problem]:
    """Yield the restraints that do not fit the spans, or are off the member."""
    for flange in ("top", "bottom", "twist"):
        hold: FlangeRestraint | None = getattr(member.said.restraint, flange)
        if hold is None:
            continue
        path = ("restraint", flange)
        spans = member.span_lengths("minor") if hold.by_span else ()
        if hold.by_span and len(hold.by_span) != len(spans):
            words = f"{len(hold.by_span)} restraints by span, for {len(spans)} spans and overhangs"
            yield Problem(words, *path)
        for (start, end), one in zip(spans, hold.by_span, strict=False):
            for place in one.at:
                if not -_slack(member) <= place <= end - start + _slack(member):
                    words = f"{_m(place)} is off its span, which is {_m(end - start)} long"
                    yield Problem(words, *path)
        yield from _off(member, hold.at, *path)
        every = [one.every for one in (hold, *hold.by_span) if one.every]
        if every and member.length / min(every) > MOST_RESTRAINTS:
            yield Problem(f"more than {MOST_RESTRAINTS} restraints; is the unit right?", *path)


def _buckling(member: DesignMember) -> Iterator[Problem]:
    """Yield the unbraced lengths that cannot be."""
    buckling = member.said.buckling
    for name in ("major_length", "minor_length", "torsional_length"):
        value = getattr(buckling, name)
        if value is not None and value <= 0:
            yield Problem("a length is greater than zero", "buckling", name)
        elif value is not None and value > 1e6:
            yield Problem("longer than 1 km; is the unit right?", "buckling", name)
    off = buckling.lateral_offset
    if off is not None and (off < 0 or buckling.minor_length is None):
        words = "is not less than zero, and goes with a minor_length"
        yield Problem(words, "buckling", "lateral_offset")
    for axis in ("major", "minor"):
        length, K = (getattr(buckling, f"{axis}_{what}") for what in ("length", "K"))
        loose = {"free", "guided"} & set(member.ends_about(axis))
        if length is not None and K is None and loose:
            words = f"beside a {loose.pop()} end K is not 1, and does not follow from a length: "
            yield Problem(f"{words}give {axis}_K too", "buckling", f"{axis}_length")


def _steels(member: DesignMember) -> Iterator[Problem]:
    """Yield the sections that the steel has no strengths for."""
    try:
        for section in member.sections:
            _ = member.as_if_all(section).strengths
        if member.said.web_steel is not None and member.web_strengths is None:
            yield Problem(f"a {member.section.shape} has no web of its own", "web_steel")
    except InputError as error:
        yield from error.under("steel").problems


def _ends_and_webs(member: DesignMember) -> Iterator[Problem]:
    """Yield what does not fit the shapes of the sections."""
    said, shapes = member.said, {section.shape for section in member.sections}
    if said.connectors is not None:
        if said.connectors.spacing > member.length:
            yield Problem("farther apart than the member is long", "connectors")
        if not shapes & {"double angle", "double channel"}:
            yield Problem("go with a double angle or a double channel", "connectors")
    yield from _webbing(member, shapes)
    if (said.pin or said.eyebar) and shapes != {"flat bar"}:
        yield Problem("go with a flat bar", "pin" if said.pin else "eyebar")
    if sum(end is not None for end in (said.pin, said.eyebar, said.connection)) > 1:
        yield Problem("give one of connection, pin and eyebar", "connection")
    if said.bearing is not None and said.bearing <= 0:
        yield Problem("a length is greater than zero", "bearing")
    yield from _stiffeners(member, shapes)
    if said.bending_axes == "geometric" and shapes != {"angle"}:
        yield Problem("goes with a single angle", "bending_axes")
    if said.one_leg is not None and "angle" not in shapes:
        yield Problem("goes with a single angle", "one_leg")
    yield from _holes(member, shapes)
    yield from _connection(member)


def _webbing(member: DesignMember, shapes: set[str]) -> Iterator[Problem]:
    """Yield what does not fit lacing and battens."""
    said = member.said
    for name, found in (("lacing", said.lacing), ("battens", said.battens)):
        if found is None:
            continue
        if not shapes <= {"double channel", "double I"}:
            yield Problem("goes with two channels or two I-shapes, such as '2 UPN200 back to back, "
                          "200 mm apart'", name)  # fmt: skip
        if found.spacing > member.length:
            yield Problem("farther apart than the member is long", name, "spacing")
        if said.frame is not None:
            yield Problem("goes with a member that stands alone, not one of a frame, whose shear "
                          "stiffness the analysis has not", name)  # fmt: skip
    if sum(one is not None for one in (said.lacing, said.battens, said.connectors)) > 1:
        yield Problem("give one of lacing, battens and connectors", "lacing")
    thicknesses: list[tuple[str, str, float, str]] = []
    if said.lacing is not None:
        for key, section in (("section", said.lacing.section), ("posts", said.lacing.posts)):
            if section is None:
                continue
            if section.shape not in LACINGS:
                words = f"{section.name} is a {section.shape}; accepted: {', '.join(LACINGS)}"
                yield Problem(words, "lacing", key)
            thicknesses.append(("lacing", key, section.thickest, section.shape))
    if said.battens is not None:
        thicknesses.append(("battens", "thickness", said.battens.thickness, ""))
    for name, key, thickness, shape in thicknesses:
        try:
            _ = member.steel.strengths(thickness, shape)
        except InputError as error:
            yield from error.under(name, key).problems


def _has_flanges(shape: str) -> bool:
    return "I" in shape.split() and shape != "double I"


def _stiffeners(member: DesignMember, shapes: set[str]) -> Iterator[Problem]:
    """Yield what is wrong with the stiffeners of the web."""
    said, given, widest = member.said, member.said.stiffeners, 0.0
    if given is not None:
        if not any(map(_has_flanges, shapes)):
            yield Problem("go with the web of an I-shape", "stiffeners")
        if 2 * (given.end_panels or given.spacing) > member.length:
            words = "the panels next to the ends are longer than the member"
            yield Problem(words, "stiffeners")
        widest = given.width or 0.0
    for number, pair in enumerate(said.bearing_stiffeners, 1):
        widest = max(widest, pair.width)
        yield from _off(member, pair.at, f"bearing_stiffener {number}")
    if said.bearing_stiffeners and not all(map(_has_flanges, shapes)):
        yield Problem("goes with the web of an I-shape", "bearing_stiffener")
    names = ("bf", "bf_top", "bf_bottom")
    for section in member.sections:
        widths = [section.properties[name] for name in names if name in section.properties]
        if widths and 2 * widest + section.properties.get("tw", 0.0) > max(widths) + 25.4:
            yield Problem("a pair of them is wider than the flanges", "stiffeners")
            break


def _holes(member: DesignMember, shapes: set[str]) -> Iterator[Problem]:
    """Yield what of the holes in the flanges does not fit."""
    holes = member.said.flange_holes
    if holes is None:
        return
    widths = [member.section.properties.get(n) for n in ("bf", "bf_top", "bf_bottom")]
    lost = holes.count * (holes.diameter + 25.4 / 16)
    if not all(map(_has_flanges, shapes)):
        yield Problem("go with an I-shape", "flange_holes")
    elif shapes & COVERED:
        yield Problem("of flanges with covers are not verified", "flange_holes")
    elif lost >= min(width for width in widths if width):
        yield Problem("they take more than the flange has", "flange_holes")


def _connection(member: DesignMember) -> Iterator[Problem]:
    """Yield what of the connection does not fit the sections."""
    given = member.said.connection
    if given is None:
        return
    gross, net = member.section.A, given.net_area
    lost = sum(h.count * h.diameter * h.thickness for h in given.holes)
    if lost >= gross:
        yield Problem("they take more than the section has", "connection", "holes")
    if isinstance(given.shear_lag, Joint):
        for section in member.sections:
            for why in given.shear_lag.misfits(section):
                yield Problem(why, "connection", "shear_lag")
    if net is not None and not 0 < net <= gross * (1 + 1e-9):
        yield Problem(
            "the net area is greater than zero and not greater than the gross area, "
            f"{gross:.0f} mm²",
            "connection",
            "net_area",
        )


def _actions(member: DesignMember) -> Iterator[Problem]:
    """Yield what does not go with loads, or with forces combined elsewhere."""
    said = member.said
    if said.forces and said.self_weight and "self_weight" in said.model_fields_set:
        yield Problem("own weight cannot be added to forces combined elsewhere", "self_weight")
    if said.forces and said.second_order == "analysed":
        yield Problem("'analysed' needs loads, not forces combined elsewhere", "second_order")
    if said.loads and said.second_order == "included":
        yield Problem(
            "'included' goes with forces combined elsewhere; loads are analysed to the first "
            "order here unless 'analysed' is said",
            "second_order",
        )
    if said.loads and said.forces:
        yield Problem("give loads, or forces combined elsewhere, and not both", "forces")
