"""What a design standard is: one typed, frozen object, and everything the other rooms ask of it.

A package under `welbric.standards` builds a `Standard` for each of its editions, and
`welbric.standards` finds it by its name. Whoever adds a standard provides what stands here, and
nothing else.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Protocol

from welbric.sections.table import Section
from welbric.standards.along import Where
from welbric.standards.case import Bearing, Check, Elasticity, MemberCase
from welbric.standards.options import Options

Strength = Callable[[MemberCase], Any]


class Requirement(Protocol):
    """The strength and the stiffness that a brace needs; arrays or numbers, N and mm."""

    def __call__(
        self, method: str, Mr: Any, Cd: Any, Lbr: Any, ho: Any, panel: bool = False
    ) -> tuple[Any, Any]:
        """Return them for a moment, as a point brace or as a panel brace."""


class ColumnRequirement(Protocol):
    """The strength and the stiffness that what holds a column needs."""

    def __call__(self, method: str, Pr: Any, Lbr: Any, panel: bool = False) -> tuple[Any, Any]:
        """Return them for a compression, as a point brace or as a panel brace."""


@dataclass(frozen=True)
class Bracing:
    """What restraints must be able to do, and the clauses that say so.

    Attributes
    ----------
    beam, column : callable
    twisting : callable
        (method, moment, span, number of braces, E, Iyeff, length to the next, distance of the
        flanges, web, stiffener's thickness, its width) -> moment, stiffness.
    twisting_along : callable
        (method, moment, E, Iyeff, unbraced length, distance of the flanges, web) -> moment and
        stiffness for each unit of length.
    """

    beam: Requirement
    beam_clause: str
    column: ColumnRequirement
    column_clause: str
    twisting: Callable[..., tuple[Any, Any]]
    twisting_clause: str
    twisting_along: Callable[..., tuple[Any, Any]]
    twisting_along_clause: str


@dataclass(frozen=True)
class Stabilising:
    """What a system that holds members sideways must carry from each of them.

    Attributes
    ----------
    of_flange : callable
        (moment, depth, compression) -> the compression of a beam's flange, N.
    along : callable
        (compression, length of the system, how far it moves, mm) -> force for each mm.
    sheeting : callable
        (section, length) -> the shear stiffness of sheeting that restrains a flange all along, N.
    sheeting_fixed : str
        How it has to be fixed for that.
    sheeting_clause : str
    moves : float
        How far the system is taken to move, of its length.
    together : str
        What to do where the system holds several members.
    clause : str
    """

    of_flange: Callable[[Any, float, Any], Any]
    along: Callable[[Any, float, float], Any]
    sheeting: Callable[[Section, float], Any]
    sheeting_fixed: str
    sheeting_clause: str
    moves: float
    together: str
    clause: str


class StoreyMultiplier(Protocol):
    """The multiplier of a storey's sidesway; infinite beyond its critical load."""

    def __call__(
        self,
        method: str,
        P_story: float,
        shear: float,
        drift: float,
        height: float,
        in_moment_frames: float,
    ) -> Any:
        """Return it, from an analysis of the first order; N and mm."""


@dataclass(frozen=True)
class Bows:
    """When members bow from the start in the analysis of their frame, and how far.

    Attributes
    ----------
    sway_from : float
        The loads over those at which the frame sways, beyond which they do.
    compression_from : float
        The compression of a member, over that at which it buckles between hinges, beyond which it
        does, where a joint takes moments of it.
    of_length : callable
        (section, its yield stress, whether it is cold-formed, axis) -> the bow, of the length.
    clause : str
    """

    sway_from: float
    compression_from: float
    of_length: Callable[[Section, float, bool, str], float]
    clause: str


@dataclass(frozen=True)
class FirstOrderMethod:
    """Forces of the first order with gravity loads that act sideways as the frame drifts.

    Attributes
    ----------
    chosen : callable
        Options -> whether it is taken.
    sideways : callable
        (options, drift of a storey over its height, (C,)) -> the share of gravity loads, (C,).
    most : float
        Of what crushes a member's section, that compresses it at the load level.
    limit_clause, compression_clause : str
    taken : str
        What it stands on that nobody says, in words.
    """

    chosen: Callable[[Options], bool]
    sideways: Callable[[Options, Any], Any]
    most: float
    limit_clause: str
    compression_clause: str
    taken: str


@dataclass(frozen=True)
class SecondOrder:
    """How second-order effects are found.

    Attributes
    ----------
    level : mapping of str to float
        By method: what multiplies the loads where stability is analysed.
    load_level : callable
        Options -> the same with what they say of the stiffness.
    softens : callable
        Options -> whether compression softens a member more than its analysis takes.
    squash : callable
        (section, its yield stress) -> what crushes it, N, as the stiffness goes by.
    flexural_share : callable
        (options, axial forces at the load level, squash) -> what is left of the stiffness in
        bending of members in compression, beyond what the level stands for; None where all is.
    clause, stiffness_clause : str
    first_order_up_to : callable
        Options -> the loads over those at which a frame sways up to which the first order suffices.
    first_order_clause : str
    by_first_order : FirstOrderMethod or None
        How drift of the first order stands for the second, where a standard has such a method.
    amplified_up_to : float
        The same up to which it suffices to amplify what makes it sway.
    amplified_clause : str
    bows : Bows or None
        None where members' own bows never need be in the analysis.
    sway_limits : callable
        Options -> the loads over those at which a frame sways, up to which the length of a column
        between its joints is its effective length, and up to which a longer one may be given; None
        where the analysis takes the sway into account whole.
    sway_clause : str
    out_of_plumb : callable
        (options, height of a frame, mm, its columns in a row) -> how much it leans under gravity
        loads, as a share of the height.
    out_of_plumb_clause : str
    pushed_besides : callable
        Options -> up to which of the loads over those at which a frame sways combinations that push
        it sideways lean by a share of their own, and that share; None where they lean as others.
    storey_multiplier : StoreyMultiplier
    storey_symbol, storey_clause : str
    """

    level: Mapping[str, float]
    load_level: Callable[[Options], float]
    softens: Callable[[Options], bool]
    squash: Callable[[Section, float], float]
    flexural_share: Callable[[Options, Any, Any], Any]
    clause: str
    stiffness_clause: str
    first_order_up_to: Callable[[Options], float]
    first_order_clause: str
    by_first_order: FirstOrderMethod | None
    amplified_up_to: float
    amplified_clause: str
    bows: Bows | None
    sway_limits: Callable[[Options], tuple[float, float] | None]
    sway_clause: str
    out_of_plumb: Callable[[Options, float, int], float]
    out_of_plumb_clause: str
    pushed_besides: Callable[[Options], tuple[float, float] | None]
    storey_multiplier: StoreyMultiplier
    storey_symbol: str
    storey_clause: str


class EffectiveLengthFactor(Protocol):
    """K of the textbook ends."""

    def __call__(self, start: str, end: str, options: Options, theoretical: bool = False) -> float:
        """Return it, as the options say or the theoretical one."""


@dataclass(frozen=True)
class ConcentratedForces:
    """The limit states of a web under a force that presses or pulls it.

    Attributes
    ----------
    checks : callable
        Bearing -> its limit states.
    yield_level : mapping of str to float
        By method: what multiplies a moment that is compared with the yield moment.
    """

    checks: Callable[[Bearing], list[Callable[[Bearing], Check]]]
    yield_level: Mapping[str, float]


@dataclass(frozen=True)
class Advice:
    """A limit that is advised, not required, and the clause that has it."""

    most: float
    clause: str


@dataclass(frozen=True)
class Standard:
    """A design standard in one edition.

    Attributes
    ----------
    id : str
        As a job names it.
    edition : int
    package : str
        Of its code, with its glossary in `symbols` and its `scope.toml`.
    elasticity : Elasticity
    methods : tuple of str
        The first is the usual one.
    shapes : tuple of str
        The kinds of shapes that it covers.
    checks : callable
        Shape -> its checks by name, in the order of a hand calculation.
    check_ids : mapping of str to str
        What machines call a check, by its name: the same for what is the same in every shape.
    lateral_buckling : str
        The name of the check that goes segment by segment.
    moment_shape_factor : callable
        Of a segment, for its table.
    moment_shape_symbol : str
        Of that factor, for tables and figures.
    uses_moment_shape : callable
        (shape, options of the job) -> whether the strength asks for that factor.
    available : mapping of str to callable
        The strength in ``"bending"``, ``"compression"`` and ``"shear"``, for curves.
    places : callable
        (case, an effect that a check names, `Where` of n members) -> where along these it is
        largest, mm, shape (n,).
    not_covered : callable
        (what, case) -> where that is outside, and why.
    job_options : type of Options
        What a job may say in its ``[design]`` table.
    member_options : type of Options
        What a member may say in its ``design`` table.
    of_member : callable
        Those -> the fields of a `MemberCase` that they fill.
    eigenvalue : callable
        Those -> whether the moment-shape factor is that of the member's elastic buckling: ``ASKED``
        for, ``USUAL`` where loads are known and nobody says otherwise, or ``NEVER``.
    as_it_stands : callable
        Those -> the name of a choice that holds of the member as it stands alone, its section, its
        restraint and its loads; empty where there is none.
    remarks_on_choices : callable
        (case, what a member may say) -> what of it changes nothing, or makes the member stronger
        than its own moments say.
    method : callable
        Options -> one of the methods.
    of_case : callable
        Options -> the fields of a `MemberCase` that they fill.
    loading, units : str
        The loading standard and the display units that go with it where nothing is said.
    effective_length_factor : EffectiveLengthFactor
    length_factors : callable
        Options -> in a word, which factors those are.
    shear_check : callable
        (shape, axis) -> the name and the clause of its check in shear.
    second_order : SecondOrder
    concentrated_forces : ConcentratedForces
    bracing : Bracing or None
        None where a standard has no rule for what each restraint must be able to do.
    stabilising : Stabilising or None
        None where it has none for the system that restraints belong to.
    slenderness : mapping of str to Advice
        In ``"compression"`` and in ``"tension"``.
    deflection_clause, load_height_clause : str
    not_checked : str
        What no check of it looks at, in words.
    not_checked_alone : str
        What else is not looked at where members stand alone, without their frame.
    truss_factor : callable or None
        (what a member may say, its shape, whether it buckles in the plane of its truss) -> the
        factor of its length and its clause; None of what is no part of a truss. None where a
        standard has no rule for them.
    webbing : bool
        Whether it has members of two chords with lacing or battens.
    differences : mapping of str to str
        Of an edition that goes by the equations of another: clause -> in what it differs.
    """

    id: str
    edition: int
    package: str
    elasticity: Elasticity
    methods: tuple[str, ...]
    shapes: tuple[str, ...]
    checks: Callable[[str], Mapping[str, Callable[[MemberCase], Check]]]
    check_ids: Mapping[str, str]
    lateral_buckling: str
    moment_shape_factor: Strength
    moment_shape_symbol: str
    uses_moment_shape: Callable[[str, Options], bool]
    available: Mapping[str, Strength]
    places: Callable[[MemberCase, str, Where], Any]
    not_covered: Callable[[str, MemberCase], tuple[Any, str]]
    job_options: type[Options]
    member_options: type[Options]
    of_member: Callable[[Options], dict[str, Any]]
    eigenvalue: Callable[[Options], str]
    as_it_stands: Callable[[Options], str]
    remarks_on_choices: Callable[[MemberCase, Options], list[str]]
    method: Callable[[Options], str]
    of_case: Callable[[Options], dict[str, Any]]
    loading: str
    units: str
    effective_length_factor: EffectiveLengthFactor
    length_factors: Callable[[Options], str]
    shear_check: Callable[[str, str], tuple[str, str]]
    second_order: SecondOrder
    concentrated_forces: ConcentratedForces
    bracing: Bracing | None
    stabilising: Stabilising | None
    slenderness: Mapping[str, Advice]
    deflection_clause: str
    load_height_clause: str
    not_checked: str
    not_checked_alone: str
    truss_factor: Callable[[Options, str, bool], tuple[float, str] | None] | None = None
    webbing: bool = False
    differences: Mapping[str, str] = field(default_factory=dict)

    def usual_choices(self, method: str) -> dict[str, Any]:
        """Return the fields of a `MemberCase` that the usual choices of a job fill."""
        return self.of_case(self.job_options()) | {"method": method}

    def by(self, method: str, between: str = ", ") -> str:
        """Return its name with the method, where it has several."""
        return f"{self.id}{between}{method}" if len(self.methods) > 1 else self.id
