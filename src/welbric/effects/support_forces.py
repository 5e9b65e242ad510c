"""What goes from a member to its supports, and the forces at its ends: by case, by combination."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from welbric.analysis.diagram import Array, Diagram
from welbric.effects.forces import TRACE, MemberForces
from welbric.members.design_member import SAME_PLACE, DesignMember
from welbric.members.load_cases import LoadCases
from welbric.units import METRIC

COMPONENTS = ("up", "across", "N", "M_major", "M_minor", "T")


@dataclass(frozen=True, repr=False)
class SupportForces:
    """The forces at a support, or at an end, under a load case or a combination; N and N mm.

    Attributes
    ----------
    support : str
        ``"start"``, ``"support 2"``, ``"end"``.
    place : float, mm
    of : str
        The symbol of the case, with its alternative, or the name of the combination.
    is_case : bool
        Whether it is a load case: unfactored, and in the sense given.
    up, across : float
        What the support does to the member, against loads about the major axis (upwards) and about
        the minor one.
    N, M_major, M_minor, T : float
        In the member at its end: tension, sagging moments, torsion; zero between the ends.
    """

    support: str
    place: float
    of: str
    is_case: bool
    up: float
    across: float
    N: float
    M_major: float
    M_minor: float
    T: float

    def __repr__(self) -> str:
        kinds = {"up": "force", "across": "force", "N": "force", "T": "moment"}
        kinds |= {"M_major": "moment", "M_minor": "moment"}
        acting = [
            f"{name.replace('_', ' ')} {METRIC.show(getattr(self, name), kind)}"
            for name, kind in kinds.items()
            if getattr(self, name)
        ]
        return f"<{self.support}, {self.of}: {', '.join(acting) or 'nothing'}>"


def support_forces(
    member: DesignMember, cases: LoadCases, forces: MemberForces
) -> list[SupportForces]:
    """Return the forces at every support and end, by case and by strength combination."""
    rows = [*_of_cases(member, cases), *_of_combinations(member, forces)]
    clean = []
    forces_kind, moments_kind = COMPONENTS[:3], COMPONENTS[3:]
    most = max((abs(getattr(row, name)) for row in rows for name in forces_kind), default=0.0)
    trace = dict.fromkeys(forces_kind, TRACE * most)
    trace |= dict.fromkeys(moments_kind, TRACE * most * member.length)
    for row in rows:
        values = {name: getattr(row, name) for name in COMPONENTS}
        acting = {name: value for name, value in values.items() if abs(value) > trace[name]}
        if acting:
            clean.append(replace(row, **(dict.fromkeys(COMPONENTS, 0.0) | acting)))
    order = {place: i for i, place in enumerate(_places(member))}
    return sorted(clean, key=lambda row: (order[row.place], not row.is_case))


def extremes(rows: Sequence[SupportForces]) -> list[SupportForces]:
    """Return the load cases, and of the combinations those with the most or the least of something.

    At each support: of what acts there, each component's.
    """
    found = [row for row in rows if row.is_case]
    for place in dict.fromkeys(row.place for row in rows):
        here = [row for row in rows if row.place == place and not row.is_case]
        for name in COMPONENTS:
            values = [getattr(row, name) for row in here]
            if any(values):
                found += [here[values.index(max(values))], here[values.index(min(values))]]
    return [row for row in rows if row in found]


def _places(member: DesignMember) -> dict[float, str]:
    """Return the ends and the supports between them, with their names."""
    inner = {s.at for axis in ("major", "minor") for s in member.supports_about(axis)}
    L, slack = member.length, SAME_PLACE * member.length
    between = sorted(x for x in inner if slack < x < L - slack)
    names = [f"support {number}" for number in range(2, len(between) + 2)]
    return {0.0: "start", **dict(zip(between, names, strict=True)), L: "end"}


def _at_supports(
    member: DesignMember, reactions: dict[str, Array], ends: dict[str, Array]
) -> Iterator[tuple[str, float, Array]]:
    """Yield name, place and components, shape (rows, 6), of each support and end."""
    L, slack = member.length, SAME_PLACE * member.length
    count = len(ends["N"])
    for place, name in _places(member).items():
        found = np.zeros((count, len(COMPONENTS)))
        for column, axis in enumerate(("major", "minor")):
            for s, support in enumerate(member.supports_about(axis)):
                if abs(support.at - place) <= slack:
                    found[:, column] += reactions[axis][:, s]
        if place in (0.0, L):
            for column, kind in enumerate(COMPONENTS[2:], 2):
                found[:, column] = ends[kind][:, 0 if place == 0.0 else 1]
        yield name, place, found


def _of_cases(member: DesignMember, cases: LoadCases) -> Iterator[SupportForces]:
    """Yield those of each load case: all of its loads, on every span."""
    alone = cases.alone
    if not alone:
        return
    whole = cases.factors(alone)
    places, right = np.array([0.0, member.length]), np.array([True, False])

    def at_ends(diagram: Diagram) -> Array:
        return diagram.combine(whole).at(places, right)

    reactions = {"major": whole @ cases.major.reactions, "minor": whole @ cases.minor.reactions}
    ends = {
        "N": at_ends(cases.axial),
        "M_major": at_ends(cases.major.moment),
        "M_minor": at_ends(cases.minor.moment),
        "T": at_ends(cases.torsion),
    }
    for name, place, found in _at_supports(member, reactions, ends):
        for one, row in zip(alone, found.tolist(), strict=True):
            label = ", ".join([*one.factors, *one.alternatives.values()])
            yield SupportForces(name, place, label, True, *row)


def _of_combinations(member: DesignMember, forces: MemberForces) -> Iterator[SupportForces]:
    """Yield those of each strength combination, of the second order where it is analysed."""
    if forces.reactions is None or not forces.combinations:
        return
    ends = {kind: getattr(forces, kind)[:, [0, -1]] for kind in COMPONENTS[2:]}
    for name, place, found in _at_supports(member, forces.reactions, ends):
        for combination, row in zip(forces.combinations, found.tolist(), strict=True):
            yield SupportForces(name, place, combination.name, False, *row)
