"""What a designer gives in place of what would be found: all of it, and what stands out."""

from __future__ import annotations

import itertools
import math
from typing import get_args

import numpy as np

from welbric.checking.deflections import deflection_shape
from welbric.effects.forces import MemberForces
from welbric.inputs.job import Job
from welbric.loads.combinations import Combination
from welbric.members.design_member import DesignMember
from welbric.members.load_cases import LoadCases
from welbric.standards.case import MemberCase
from welbric.standards.options import kind_of
from welbric.units import DisplayUnits

HALF_MORE = 1.5  # of the deflection under dead load: a camber beyond it stays to be seen
SLACK = 1 + 1e-6
MUCH = 0.05  # of a value: below it a difference is not worth a remark


def overrides(job: Job, member: DesignMember) -> list[str]:
    """Return what is given in place of what would be found, in one note."""
    said, show = member.said, job.display
    options = job.options_of(said)
    found = []
    for name, value in options.model_dump(exclude_none=True).items():
        kind = kind_of(type(options).model_fields[name])
        found.append(f"{name} = {show.show(value, kind) if kind else value}")
    for name in type(said.buckling).model_fields:
        value = getattr(said.buckling, name)
        if value is not None:
            shown = f"{value:g}" if name.endswith("_K") else show.show(value, "length")
            found.append(f"{name.replace('_', ' ')} {shown}")
    found += _of_connection(member, show)
    if said.second_order == "included":
        found.append("second order taken to be in the moments")
    if said.camber:
        found.append(f"camber {show.show(said.camber, 'dimension')}")
    return [f"given, in place of what would be found: {'; '.join(found)}"] if found else []


def _of_connection(member: DesignMember, show: DisplayUnits) -> list[str]:
    connection = member.said.connection
    if connection is None:
        return []
    found = []
    if connection.net_area is not None:
        found.append(f"net area {show.show(connection.net_area, 'area')}")
    if isinstance(connection.shear_lag, float):
        found.append(f"shear lag factor {connection.shear_lag:g}")
    return found


def remarkable(
    job: Job,
    member: DesignMember,
    case: MemberCase,
    cases: LoadCases | None,
    forces: MemberForces,
) -> list[str]:
    """Return the overrides that make a member stronger than it is, or that change nothing."""
    code = job.code_of(member.said)
    found = code.remarks_on_choices(case, job.options_of(member.said))
    found += _lengths(job, member, forces) + _bearings(job, member)
    found += _shear_of_moments(job, member) + _very_short(job, member)
    found += _of_two_countries(job, member)
    return found + _camber(job, member, cases)


def _of_two_countries(job: Job, member: DesignMember) -> list[str]:
    """Return where the design goes by the values of one country, and the loads by another's."""
    annex = getattr(job.design_of(member.said), "annex", None)
    national = getattr(job.loading.options, "national_values", None)
    if annex is None or national is None or annex == national or member.said.forces:
        return []
    known = type(job.loading.options).model_fields["national_values"].annotation
    if annex not in get_args(known):  # whose load factors are not known here
        return []
    return [
        f"the design goes by the {annex} annex, the combinations of loads by the {national} "
        "values: [loading] national_values says whose"
    ]


def _shear_of_moments(job: Job, member: DesignMember) -> list[str]:
    """Return where moments vary along a member beside less shear than goes with them, or none."""
    found = []
    for forces in member.said.forces:
        for axis in ("major", "minor"):
            moments, shears = (getattr(forces, f"{of}_{axis}") for of in ("moment", "shear"))
            if len(moments) < 2:
                continue
            apart = member.length / (len(moments) - 1)
            slope = max(abs(b - a) for a, b in itertools.pairwise(moments)) / apart
            given = max(map(abs, shears), default=0.0)
            if slope > given * (1 + MUCH) and slope * member.length > MUCH * max(map(abs, moments)):
                shown, has = (job.display.show(v, "force", 3) for v in (slope, given))
                taken = f"shear_{axis} is {has}, and shear is verified by it"
                if not shears:
                    taken = f"that is taken, as no shear_{axis} is given"
                found.append(
                    f"{forces.name}: moment_{axis} changes as beside a shear of {shown}; {taken}"
                )
    return found


def _very_short(job: Job, member: DesignMember) -> list[str]:
    """Return the buckling lengths that are shorter than the member is deep."""
    depth, show = member.section.d, job.display
    given = {n: getattr(member.said.buckling, n) for n in type(member.said.buckling).model_fields}
    return [
        f"buckling, {name}: {show.show(length, 'length')} is less than the depth of the section: "
        "is the unit right?"
        for name, length in given.items()
        if name.endswith("_length") and length is not None and length < depth
    ]


def _lengths(job: Job, member: DesignMember, forces: MemberForces) -> list[str]:
    """Return what is to be said of buckling lengths, their factors and the end connections."""
    said, show = member.said, job.display
    given = {n: getattr(said.buckling, n) for n in type(said.buckling).model_fields}
    named = [name for name, value in given.items() if value is not None]
    found = []
    if named and not np.any(forces.N < 0):
        found.append(f"buckling ({', '.join(named)}): nothing compresses it, so nothing uses them")
    elif named:
        twisting = [name for name in named if name.startswith("torsional")]
        if twisting and (said.lacing or said.battens):
            found.append(
                f"buckling ({', '.join(twisting)}): chords twist between the joints of their "
                "lacing or battens, so nothing uses it"
            )
        found += _factors(job, member)
        for axis in ("major", "minor"):
            length, name = given[f"{axis}_length"], f"{axis}_length"
            spans = member.span_lengths(axis)
            if length is not None and length > max(end - start for start, end in spans) * SLACK:
                found.append(
                    f"buckling, {name}: {show.show(length, 'length')} is longer than any span "
                    "between its supports"
                )
    own = "connection" not in job.taken_from_defaults(member.mark)
    if said.connection is not None and own and not np.any(forces.N > 0):
        found.append("connection: no combination pulls it, so nothing uses it")
    return found


def _factors(job: Job, member: DesignMember) -> list[str]:
    """Return the effective length factors that are less than theory has for the ends."""
    code, design = job.code_of(member.said), job.design_of(member.said)
    found = []
    for axis in ("major", "minor"):
        K = getattr(member.said.buckling, f"{axis}_K")
        if K is None:
            continue
        ends, spans = member.ends_about(axis), member.span_lengths(axis)
        length = getattr(member.said.buckling, f"{axis}_length")
        if len(spans) > 1 or (length is not None and length < member.length * (1 - 1e-6)):
            ends = ("fixed", "fixed")  # the least there is between places that do not move
        elif ends == ("guided", "guided"):
            continue
        least = code.effective_length_factor(*ends, design, theoretical=True)
        if least / SLACK > K:
            found.append(
                f"buckling, {axis}_K: {K:g} is less than the theoretical {least:g} of ends that "
                f"are {ends[0]} and {ends[1]}: does something else hold it?"
            )
    return found


def _bearings(job: Job, member: DesignMember) -> list[str]:
    """Return the bearing lengths that are long for the member."""
    shortest = min(end - start for start, end in member.span_lengths("major"))
    given = [member.said.bearing, *(support.bearing for support in member.said.supports)]
    given += [load.bearing for load in member.said.loads if load.point is not None]
    return [
        f"bearing: {job.display.show(length, 'dimension')} is long: more than the depth of the "
        "member, and a tenth of its span"
        for length in dict.fromkeys(given)
        if length is not None and length > max(member.section.d, 0.1 * shortest)
    ]


def _camber(job: Job, member: DesignMember, cases: LoadCases | None) -> list[str]:
    """Return what is to be said of a camber beyond the deflection under dead load."""
    camber = member.said.camber
    if not camber or cases is None or member.section.has_rotated_axes:
        return []
    dead = Combination("D", {"D": 1.0}, "") if "D" in cases.present else None
    deflects = 0.0
    if dead is not None:
        _, shape = deflection_shape(member, cases, [dead], "major")
        deflects = float(shape.max(initial=0.0))
    if not math.isfinite(deflects) or camber <= HALF_MORE * deflects:
        return []
    show = job.display
    return [
        f"camber: {show.show(camber, 'dimension', 3)} is much more than the deflection under dead "
        f"load, {show.show(deflects, 'dimension', 3)}: it stays bowed upwards"
    ]
