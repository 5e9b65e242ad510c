"""What a designer should know of a result, and what to look at."""

from __future__ import annotations

import math

import numpy as np

from welbric.checking.cases import has_factor_of_defaults, truss_factor
from welbric.effects.forces import MemberForces
from welbric.inputs.job import Job
from welbric.inputs.member import EndOffset
from welbric.loads import combinations as loading
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.members.segments import (
    Segment,
    continuous_lengths,
    counting_places,
    held_places,
    towards_free_ends,
    twisting_lengths,
)
from welbric.standards.case import MemberCase
from welbric.standards.standard import Standard
from welbric.units import DisplayUnits

# The checks that go by the length in torsion, as machines call them.
TWISTING = {"buckling-torsional", "buckling-torsional-held", "buckling-flexural-torsional"}
SECOND_ORDER = {
    "amplified": "second-order moments by multipliers of the first-order ones",
    "analysed": "second-order moments by geometric stiffness; deflections are of the first order",
    "included": "second-order moments as given",
}


def _never_in_compression(member: DesignMember, forces: MemberForces) -> list[str]:
    """Return the restraints of a flange that no combination compresses."""
    found = []
    for flange, sign in (("top", 1.0), ("bottom", -1.0)):
        hold = getattr(member.said.restraint, flange)
        named = hold is not None and hold.kind in {"every", "at", "loads"}
        if named and np.any(forces.M_major) and not np.any(sign * forces.M_major > 0):
            found.append(
                f"nothing compresses the {flange} flange, which its restraint holds ({hold.kind})"
            )
    return found


def _steel_taken(member: DesignMember) -> list[str]:
    """Return which steel was taken where none is given."""
    if member.said.steel is not None:
        return []
    return [f"no steel is given: {member.steel} is taken, as is usual for {member.section.name}"]


def _standard_taken(member: DesignMember) -> list[str]:
    """Return which product standard was taken for a tube that is named without one."""
    found = dict.fromkeys(section for section in member.sections if section.lacks_standard)
    return [
        f"{one.written} is named without its standard: {one.name} is taken"
        + (", the cold-formed one, whose corners are rounder" if "EN10219" in one.name else "")
        for one in found
    ]


def _role(member: DesignMember, forces: MemberForces) -> list[str]:
    """Return where a role is not what acts on the member."""
    role, upright = member.said.role, member.said.height is not None
    presses, pulls = bool(np.any(forces.N < 0)), bool(np.any(forces.N > 0))
    bends = bool(np.any(forces.M_major) or np.any(forces.M_minor))
    if role in ("column", "post", "strut") and not presses:
        return [f"role {role}: no combination compresses it"]
    if role == "hanger" and not pulls:
        return [f"role {role}: no combination pulls it"]
    if role == "brace" and not (presses or pulls):
        return [f"role {role}: there is no axial force in it"]
    if role in ("beam", "roof beam", "floor beam", "girder", "purlin") and (not bends or upright):
        why = "it stands upright" if upright else "nothing bends it"
        return [f"role {role}: {why}"]
    return []


def _on_supports(member: DesignMember) -> list[str]:
    """Return the point loads that stand on a support, and bend nothing."""
    slack, found = SAME_PLACE * member.length, []
    for number, load in enumerate(member.said.loads, 1):
        if load.point is None:
            continue
        held = [s.at for s in member.supports_about(load.axis) if s.held]
        on = [x for x in load.at or [] if any(abs(x - at) <= slack for at in held)]
        if on:
            found.append(
                f"load {number}: it stands on a support, which takes it at once: it bends nothing"
            )
    return found


def _off_centre(member: DesignMember) -> list[str]:
    """Return where loads in the plane of the web would twist the member."""
    section = member.section
    off = abs(section.shear_x - section.x) > 1e-6 * section.surface
    bends = any(load.line or load.area or load.point for load in member.said.loads)
    if not (off and bends):
        return []
    return [
        f"{section.name}: loads are taken through the shear centre; those elsewhere twist it, "
        "which is not verified"
    ]


def _patterns(job: Job, member: DesignMember) -> list[str]:
    """Return what of the loads a pattern does not put on some spans only."""
    if not member.said.pattern:
        return []
    cases = {load.case for load in member.said.loads}
    partly = loading.LIVE | ({"S"} if job.loading.has_partial_snow else set())
    found = []
    if not partly & cases:
        found.append("pattern: there is no load to put on some spans only")
    if "S" in cases - partly:
        found.append(
            f"pattern: snow acts on all spans at once; {job.loading} is not taken to have it on "
            "some of them only"
        )
    return found


def _directions(member: DesignMember) -> list[str]:
    """Return what is said of the direction of loads on a level member, where it changes nothing."""
    if abs(math.sin(member.slope)) > 1e-9 or "minor" in member.said.weights:
        return []
    found = []
    for number, load in enumerate(member.said.loads, 1):
        if load.direction is not None or load.per == "plan length":
            found.append(f"load {number}: direction and per change nothing on a level member")
    return found


def _without_effect(job: Job, member: DesignMember) -> list[str]:
    """Return what the member says that changes nothing, so that no input is lost in silence."""
    found = []
    for flange in ("top", "bottom"):
        hold = getattr(member.said.restraint, flange)
        if hold is None or hold.kind == "supports" or continuous_lengths(member, flange):
            continue
        if set(held_places(member, flange).values()) <= {"support", "member"}:
            found.append(
                f"the restraint of the {flange} flange ({hold.kind}) adds no place to the supports"
            )
    lengths = [member.said.bearing, *(s.bearing for s in member.said.supports)]
    if any(lengths) and (
        member.said.forces
        or not any(s.held and not s.clamped for s in member.supports_about("major"))
    ):
        found.append("bearing: there is no reaction to look at")
    places = [s.at for s in member.supports_about("major") if s.held and not s.clamped]
    places += [x for load in member.said.loads if load.point is not None for x in load.at or []]
    for pair in member.said.bearing_stiffeners:
        idle = [
            x for x in pair.at if all(abs(x - at) > SAME_PLACE * member.length for at in places)
        ]
        if idle or member.said.forces:
            found.append("bearing_stiffener: no reaction and no point load is known at its place")
    if member.said.stiffeners is not None and member.said.stiffeners.width is None:
        found.append(
            "stiffeners: their own width and thickness are not given, so they are not verified"
        )
    if member.said.camber and member.said.deflection.total is None:
        found.append("the camber has no total deflection limit to count against")
    found += _patterns(job, member) + _directions(member)
    if member.said.second_order == "analysed":
        for axis in ("major", "minor"):
            given = getattr(member.said.buckling, f"{axis}_length")
            longest = max(end - start for start, end in member.span_lengths(axis))
            if (
                given is not None
                and given < longest
                and any(load.axis == axis for load in member.said.loads)
            ):
                found.append(
                    f"buckling, {axis}_length: the analysed second order goes by the supports, not "
                    f'by this length; a [[member.support]] with axis = "{axis}" holds it in both'
                )
    warmed = any(load.temperature for load in member.said.loads)
    if warmed and len(member.held_lengthwise) < 2 and not member.said.pieces:
        found.append(
            "a change of temperature of the whole depth presses nothing: one end is free to move "
            "lengthwise"
        )
    if member.said.deflection_from == "chord" and not any(
        getattr(member.said.deflection, kind) for kind in type(member.said.deflection).model_fields
    ):
        found.append("deflection_from: there is no deflection limit")
    if member.said.braces:
        found.append(
            "braces count in the critical load by eigenvalue (`segments`), not as restraints in "
            "the standard's checks"
        )
    present = {load.case for load in member.said.loads} | (
        {"D"} if member.said.self_weight else set()
    )
    if member.said.frame is not None:  # what acts on the others bends it too
        from welbric.frames.solve import solution  # a job without a frame does not load it

        present = {key.case for key in solution(member.said.frame).loading.keys}
    for kind in type(member.said.deflection).model_fields:
        limited = getattr(member.said.deflection, kind) is not None and not member.said.forces
        if limited and not job.loading.service(kind, present):
            found.append(f"the {kind} deflection limit has no load of its kind to look at")
    return found


def _vertical(member: DesignMember) -> list[str]:
    """Return how loads act on a member that is not level."""
    if abs(math.sin(member.slope)) <= 1e-9:
        return []
    own = [load for load in member.said.loads if load.line or load.area or load.point]
    found = []
    if any(load.is_vertical(member.slope) for load in own):
        plan = any(load.per == "plan length" for load in own)
        words = (
            ", per length of the member where not said to be per plan length"
            if plan
            else (", per length of the member")
        )
        found.append(f"gravity loads act vertically{words}, and bring axial force too")
    across = [load for load in own if not load.is_vertical(member.slope)]
    if any(load.case in ("D", "L", "Lr", "S") and load.axis == "major" for load in across):
        found.append("gravity loads that are not said to be vertical act across this member")
    return found


def _senses(member: DesignMember) -> list[str]:
    """Return which cases are reversible, and how many combinations that makes of one."""
    cases = sorted({load.case for load in member.said.loads if load.is_reversible})
    if not cases:
        return []
    names = " and ".join(loading.name_of(case) for case in cases)
    count = 2 ** len(cases)
    return [f"{names} {'is' if len(cases) == 1 else 'are'} reversible: {count} senses are combined"]


def _alternatives(member: DesignMember) -> list[str]:
    """Return alternatives that have nothing to alternate with."""
    if member.said.frame is not None:  # other members may have the others
        return []
    found: dict[str, set[str]] = {}
    for load in member.said.loads:
        if load.alternative:
            found.setdefault(load.case, set()).add(load.alternative)
    return [
        f"{loading.name_of(case)}: {next(iter(names))!r} is its only alternative, so that changes "
        "nothing"
        for case, names in found.items()
        if len(names) == 1
    ]


def _off_joint(one: EndOffset, show: DisplayUnits) -> list[str]:
    if one.along is not None:
        return [f"{show.show(one.along, 'dimension')} within"]
    return [" ".join(f"{way} {show.show(v, 'dimension')}" for way, v in
                     (("x", one.x), ("y", one.y), ("z", one.z)) if v) or "nothing"]  # fmt: skip


def _where_held(member: DesignMember) -> str:
    met = [x for x, why in held_places(member, "top").items() if why == "member"]
    if not met:
        return "at the supports only"
    return "at the supports and where members of the frame meet them"


def _one_way(job: Job, member: DesignMember, forces: MemberForces) -> list[str]:
    """Return under how many combinations a member that carries one way only takes nothing."""
    said = member.said
    if said.carries == "both" or said.frame is None or not forces.combinations:
        return []
    from welbric.frames.solve import solution  # a job without a frame does not load it

    solved, rules = solution(said.frame), job.code_of(said).second_order
    found = solved.second_order(forces.combinations, rules.load_level(job.design_of(said)))
    share = found.state.carries[solved.model.chains[member.mark].first]
    nothing, count = int((share < 1.0).sum()), len(share)
    return [f"carries {said.carries} alone: takes nothing under {nothing} of {count} combinations"]


def _second_order(member: DesignMember) -> str:
    """Return where its second-order moments come from."""
    said = member.said
    if said.frame is None or said.second_order != "analysed":
        return SECOND_ORDER[said.second_order]
    words = "second-order moments of the frame as it leans under each combination; deflections "
    if any(one.carries != "both" for one in said.frame.members.values()):
        return words + "too, with what is slack"
    return words + "are of the first order"


def notes(
    job: Job, member: DesignMember, parts: list[Segment], case: MemberCase, forces: MemberForces
) -> list[str]:
    """Return what a designer should know about the assumptions behind the rows."""
    show, code = job.display, job.code_of(member.said)
    found = []
    if member.said.stage_of is not None:
        found.append(
            f"a stage of {member.said.stage_of}: the same steel, held and loaded otherwise"
        )
    if taken := job.taken_from_defaults(member.mark):
        found.append(f"from the job's defaults: {', '.join(taken)}")
    of_shape = code.uses_moment_shape(case.shape, job.design_of(member.said))
    if has_factor_of_defaults(job, member) and of_shape:
        from welbric.effects.critical_load import covers

        if not covers(member):
            found.append(
                f"{code.moment_shape_symbol} by eigenvalue, as the job's defaults have it, is not "
                "known of it: it is found as where nobody says"
            )
    if member.said.forces:
        found.append("own weight is taken to be in the forces given")
        for given in member.said.forces:
            if given.storey is not None:
                s = given.storey
                shared = s.load * s.in_moment_frames
                numbers = (s.load, s.shear, s.drift, s.height, shared)
                rules = code.second_order
                multiplier = rules.storey_multiplier(job.method_of(member.said), *numbers)
                found.append(
                    f"{given.name}: forces of sidesway times {rules.storey_symbol} = "
                    f"{multiplier:.3f} ({rules.storey_clause})"
                )
    else:
        w = show.show(member.own_weight, "line_load")
        found.append(
            f"own weight {w} included"
            if member.said.self_weight
            else f"own weight ({w}) not included"
        )
        if member.said.self_weight and (member.said.lacing or member.said.battens):
            found.append("the own weight is that of the chords, without their lacing or battens")
        found += [*_vertical(member), *_senses(member), *_alternatives(member)]
        found += _one_way(job, member, forces)
    if member.said.pieces:
        lengths = (
            f"{s.name} from {show.show(a, 'length', 3)} to {show.show(b, 'length', 3)}"
            for a, b, s in member.stretches
        )
        found.append(
            "; ".join(lengths) + "; each is checked with the largest effects of the segments it is "
            "in, and with the whole buckling lengths"
        )
    if len(member.steel.bands_of(member.section.shape)) > 1:
        thickest = show.show(member.section.thickest, "dimension")
        Fy, Fu = (show.show(value, "stress") for value in (case.Fy, case.Fu))
        words = f"{member.steel}: Fy = {Fy} and Fu = {Fu} for a thickness of {thickest}"
        web = member.web_strengths
        if web is not None and web.Fy != case.Fy and member.said.web_steel is None:
            thickness = show.show(member.section.tw, "dimension")
            words += f"; the web alone, {thickness}, would have {show.show(web.Fy, 'stress')}"
        found.append(words)
    if any("torsion" in end for end in member.said.end_releases):
        found.append("an end twists apart from its joint: what keeps it from rolling over there is "
                     "taken to be in its connection")  # fmt: skip
    if off := [place for one in member.said.offsets for place in _off_joint(one, show)]:
        found.append(f"its ends hang on their joints rigidly: {off[0]} at its start, {off[1]} at "
                     "its end; what is checked is between them")  # fmt: skip
    if member.said.web_steel is not None:
        Fyw = member.said.web_steel.strengths(member.section.tw, member.section.shape).Fy
        found.append(f"web of {member.said.web_steel}: Fy = {show.show(Fyw, 'stress')}")
    bent = np.any(forces.M_major)
    if bent and member.said.restraint.top is None and member.said.restraint.bottom is None:
        found.append(
            f"no restraint is given: both flanges are held {_where_held(member)}, "
            f"unbraced {show.show(max(part.unbraced for part in parts), 'length')}"
        )
    squeezed = np.any(forces.N < 0)
    section = member.section
    if squeezed:
        found.append(_second_order(member))
        for axis, K, L in (
            ("major", case.buckling.K_major, case.buckling.length_major),
            ("minor", case.buckling.K_minor, case.buckling.length_minor),
        ):
            ends = "–".join(member.ends_about(axis))
            of_truss = truss_factor(job, member, axis)
            if getattr(member.said.buckling, f"{axis}_K") is not None:
                source = "given"
            elif of_truss is not None:
                source = f"of a truss, {of_truss[1]}"
            elif getattr(member.said.buckling, f"{axis}_length") is not None:
                source = "between intermediate supports"
            elif member.buckles_as_a_whole(axis):
                source = "of the whole member's elastic buckling"
            else:
                source = f"{ends}, {code.length_factors(job.design_of(member.said))}"
            between = axis == "minor" and member.said.buckling.minor_length is not None
            if between and code.bracing is not None and member.length * (1 - 1e-6) > L:
                P = float(-forces.N.min())
                needs = [
                    " and ".join((show.show(force, "force", 3), show.show(stiff, "spring", 3)))
                    for force, stiff in (
                        code.bracing.column(job.method_of(member.said), P, L, panel=panel)
                        for panel in (False, True)
                    )
                ]
                found.append(
                    f"what holds the minor axis between the supports needs {needs[0]} as a point "
                    f"brace, {needs[1]} as a panel brace ({code.bracing.column_clause})"
                )
            if between and code.stabilising is not None and member.length * (1 - 1e-6) > L:
                rule, whole = code.stabilising, member.length
                force = rule.along(float(-forces.N.min()), whole, rule.moves * whole) * L
                found.append(
                    "what holds the minor axis between the supports must carry "
                    f"{show.show(force, 'force', 3)} at each place, and belong to a system that "
                    f"moves by no more than {show.show(rule.moves * whole, 'dimension', 3)} in all "
                    f"({rule.clause})"
                )
            found.append(
                f"{axis} axis: K = {K:.4g} ({source}), unbraced length {show.show(L, 'length')}, "
                f"Lc/r = {K * L / getattr(section, f'r_{axis}'):.0f}"
            )
        checks = code.checks(case.shape) if case.shape in code.shapes else {}
        if TWISTING & {code.check_ids[name] for name in checks}:
            found.append(_in_torsion(member, case, show))
    return found


def _in_torsion(member: DesignMember, case: MemberCase, show: DisplayUnits) -> str:
    """Return the length in torsion, and where it comes from."""
    K, L = case.buckling.K_torsion, case.buckling.length_torsion
    words = "between places that hold it against twisting"
    if member.said.buckling.torsional_length is not None:
        words = "given"
    elif not twisting_lengths(member):
        return "torsion: held against twisting all along"
    return f"torsion: K = {K:.4g}, unbraced length {show.show(L, 'length')} ({words})"


LONG_CANTILEVER = 12.0  # depths; held at one flange it may then buckle before it yields


def _towards_free_ends(job: Job, member: DesignMember) -> list[str]:
    """Return which restraints of one flange do not count, as a free end lies beyond them."""
    found = []
    for held, free in towards_free_ends(member):
        low, high = sorted((held, free))
        for flange in ("top", "bottom"):
            counting = counting_places(member, flange)
            idle = [
                x for x in held_places(member, flange) if low <= x <= high and x not in counting
            ]
            if idle:
                places = ", ".join(job.display.show(x, "length", 3) for x in idle)
                found.append(
                    f"what holds the {flange} flange at {places} ends no segment: the free end "
                    "moves about it; hold both flanges laterally"
                )
        whole = [
            any(a <= low and high <= b for a, b in continuous_lengths(member, flange))
            for flange in ("top", "bottom")
        ]
        if whole[0] != whole[1] and high - low > LONG_CANTILEVER * member.section.d:
            found.append(
                "one flange is continuously restrained toward a free end, the other is not, "
                "and the length is great: `segments` has the load at which it buckles about the "
                "flange held"
            )
    return found


def warnings(
    job: Job,
    member: DesignMember,
    parts: list[Segment],
    case: MemberCase,
    code: Standard,
    forces: MemberForces,
) -> list[str]:
    """Return what a designer should look at: input without effect, gaps, slenderness."""
    show, section = job.display, member.section
    bent = np.any(forces.M_major)
    squeezed = np.any(forces.N < 0)
    found = _steel_taken(member) + _standard_taken(member)
    if "role" in member.said.model_fields_set:
        found += _role(member, forces)
    found += _on_supports(member)
    found += _without_effect(job, member) + _towards_free_ends(job, member)
    for part in parts:
        hold = getattr(member.said.restraint, part.flange, None)
        length = part.unbraced
        most = length > 0.6 * member.length and hold is not None and hold.kind != "supports"
        if bent and most and length < member.length:
            found.append(
                f"the restraints leave {show.show(length, 'length')} of the {part.flange} flange, "
                "most of the member, as one segment: is one missing?"
            )
    for sense, acts, factor in (
        ("compression", squeezed, True),
        ("tension", np.any(forces.N > 0), False),
    ):
        advice = code.slenderness[sense]
        of = case.buckling
        slenderness = max(
            (of.effective("major") if factor else of.length_major) / section.r_major,
            (of.effective("minor") if factor else of.length_minor) / section.r_minor,
        )
        if acts and slenderness > advice.most:
            found.append(
                f"slenderness in {sense} {slenderness:.0f} is more than the {advice.most:.0f} "
                f"that {advice.clause} advises"
            )
    return found + _never_in_compression(member, forces) + _off_centre(member)
