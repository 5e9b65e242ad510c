"""What a standard is asked, `MemberCase`, and what it answers, `Check`; the same for every one.

All numbers are arrays that broadcast to (section, combination, segment), or single numbers when
one case is worked out step by step. A segment is a part of the member between two points that
hold the flange in compression.
"""

from __future__ import annotations

import functools
from collections.abc import Callable
from dataclasses import dataclass, field, fields, replace
from typing import Any

import numpy as np

from welbric.sections.table import Section


@dataclass(frozen=True)
class Elasticity:
    """A steel under small strains: moduli in MPa, expansion per K."""

    E: float
    G: float
    expansion: float


WHOLE = np.array([[[0.0, 1.0]]])  # one length, that of the member


@dataclass(frozen=True)
class Effects:
    """Internal forces at stations along members; those of a combination act together.

    Attributes
    ----------
    x : array, shape (S or 1, C or 1, X)
        Stations, mm, ascending; where a force jumps, one for either side.
    N, V_major, M_major, V_minor, M_minor, T : array, shape (S or 1, C, X)
        N and N mm; tension positive; moments positive where they compress the top, and the side
        away from the heel or the web.
    parts_major, parts_minor : array, shape (S or 1, P, 2)
        The lengths between what holds a member about each axis: where each starts and ends, as
        shares of the member's length. Both are zero of one that a member has not got, and NaN
        where they are not known.
    """

    x: Any
    N: Any
    V_major: Any
    M_major: Any
    V_minor: Any
    M_minor: Any
    T: Any
    parts_major: Any = field(default_factory=lambda: WHOLE)
    parts_minor: Any = field(default_factory=lambda: WHOLE)

    def is_whole(self, axis: str) -> Any:
        """Return whether a member is held at its ends alone about an axis, shape (S, 1, 1)."""
        parts = np.asarray(getattr(self, f"parts_{axis}"))
        first = (parts[:, 0] == (0.0, 1.0)).all(axis=-1)
        return (first & (parts[:, 1:] == 0).all(axis=(1, 2)))[:, None, None]

    def at(self, combination: int) -> Effects:
        """Return those of one combination of one member."""

        def pick(value: Any) -> Any:
            array = np.asarray(value)[:1]
            return array[:, min(combination, array.shape[1] - 1)][:, None]

        return Effects(
            pick(self.x),
            N=pick(self.N),
            V_major=pick(self.V_major),
            M_major=pick(self.M_major),
            V_minor=pick(self.V_minor),
            M_minor=pick(self.M_minor),
            T=pick(self.T),
            parts_major=self.parts_major[:1],
            parts_minor=self.parts_minor[:1],
        )


def uniform_effects(
    N: Any = 0.0, V_major: Any = 0.0, M_major: Any = 0.0, V_minor: Any = 0.0, M_minor: Any = 0.0,
    T: Any = 0.0,
) -> Effects:  # fmt: skip
    """Return forces that are the same all along members: numbers, or arrays of shape (S, 1, 1)."""
    values = np.broadcast_arrays(*(
        np.reshape(value, np.shape(value) or (1, 1, 1))
        for value in (N, V_major, M_major, V_minor, M_minor, T)
    ))  # fmt: skip
    return Effects(np.zeros((1, 1, 1)), *values)


@dataclass(frozen=True)
class Segments:
    """The segments for lateral-torsional buckling; arrays of shape (G,) or (S, 1, G).

    Attributes
    ----------
    unbraced : float or array
        Unbraced lengths, mm.
    free_tip, tip_first : bool or array
        Whether an end of it is free, and whether that is the start.
    top : bool or array
        Whether it is the top flange that the segment's moment compresses.
    both : bool or array
        Whether it is of both flanges, held alike.
    other_held : bool or array
        Whether the other flange is continuously restrained.
    first, last : array of int, shape (S or 1, C or 1, G)
        The stations between which a segment is.
    quarters : array of int, shape (S or 1, C or 1, G, 3, 2)
        The stations at its quarter points, for either side of a jump.
    """

    unbraced: Any
    free_tip: Any = False
    tip_first: Any = False
    top: Any = True
    both: Any = False
    other_held: Any = False
    first: Any = field(default_factory=lambda: np.zeros((1, 1, 1), dtype=int))
    last: Any = field(default_factory=lambda: np.zeros((1, 1, 1), dtype=int))
    quarters: Any = field(default_factory=lambda: np.zeros((1, 1, 1, 3, 2), dtype=int))

    def inside(self, stations: int) -> Any:
        """Return which of so many stations belong to each segment, (S or 1, C or 1, G, X)."""
        number = np.arange(stations)
        return (number >= self.first[..., None]) & (number <= self.last[..., None])

    def at(self, combination: int, segment: int) -> Segments:
        """Return one segment of one member under one combination."""
        shape = np.shape(self.unbraced)

        def pick(value: Any) -> Any:
            return np.ravel(np.broadcast_to(value, shape))[segment].item()

        def of(value: Any) -> Any:
            c, g = min(combination, value.shape[1] - 1), min(segment, value.shape[2] - 1)
            return value[:1, c : c + 1, g : g + 1]

        return Segments(
            float(pick(self.unbraced)),
            free_tip=bool(pick(self.free_tip)),
            tip_first=bool(pick(self.tip_first)),
            top=bool(pick(self.top)),
            both=bool(pick(self.both)),
            other_held=bool(pick(self.other_held)),
            first=of(self.first),
            last=of(self.last),
            quarters=of(self.quarters),
        )


@dataclass(frozen=True)
class EndConnection:
    """How a member's ends are joined in tension.

    Attributes
    ----------
    holes : tuple of (count, diameter, thickness)
        Across the member, mm.
    staggers : tuple of (pitch, gauge, thickness)
        Of each diagonal of the chain of holes, mm.
    through : str or None
        ``"all"``, ``"flange"``, ``"web"`` or ``"leg"``.
    bolts_in_line : int or None
    eccentricity, length, between_welds : float or None
        Of the joint, mm.
    transverse_welds : bool
        Whether welds across the force alone join the element.
    slot : SlottedTube or None
        A tube over a plate.
    """

    holes: tuple[tuple[int, float, float], ...] = ()
    staggers: tuple[tuple[float, float, float], ...] = ()
    through: str | None = None
    bolts_in_line: int | None = None
    eccentricity: float | None = None
    length: float | None = None
    between_welds: float | None = None
    transverse_welds: bool = False
    slot: SlottedTube | None = None


@dataclass(frozen=True)
class SlottedTube:
    """Slots of a tube over a plate: length of the welds, the plate's thickness, width; mm."""

    length: float
    plate: float
    width: float
    along_depth: bool


@dataclass(frozen=True)
class Webbing:
    """What makes two chords one member: lacing, or battens where there is no diagonal; mm.

    Attributes
    ----------
    spacing : float
        Of neighbouring joints on a chord.
    planes : int
    Fy : float
        The least of its parts, MPa.
    diagonal, post : Section or None
    width, thickness : float
        Of a batten.
    """

    spacing: float
    planes: int
    Fy: float
    diagonal: Section | None = None
    post: Section | None = None
    width: float = 0.0
    thickness: float = 0.0


@dataclass(frozen=True)
class Stiffening:
    """Transverse stiffeners of a web, and of its panels.

    Attributes
    ----------
    spacing, end_panels : float
        Clear distances between stiffeners, inside and next to the member's ends, mm.
    tension_field : bool
        Whether inner panels carry shear after they buckle.
    width, thickness : float or None
        Of one stiffener, mm.
    pairs : bool
        Whether there is one on each side of the web.
    Fy : float or None
        Of the stiffeners, where it is not the member's, MPa.
    """

    spacing: float
    end_panels: float
    tension_field: bool = False
    width: float | None = None
    thickness: float | None = None
    pairs: bool = True
    Fy: float | None = None

    @property
    def ends_differ(self) -> bool:
        """Whether the panels next to the ends are verified apart from the others."""
        return self.tension_field or self.end_panels != self.spacing


@dataclass(frozen=True)
class BucklingLengths:
    """The lengths over which a member buckles in compression.

    Attributes
    ----------
    length_major, length_minor, length_torsion : float or array
        Unbraced lengths, mm.
    K_major, K_minor, K_torsion : float or array
        Buckling length factors.
    sways_major, sways_minor : bool
        Whether one end can move laterally against the other, in bending about each axis.
    lateral_offset : float or None
        From the shear centre to what holds the member laterally, along the web, mm.
    """

    length_major: Any
    length_minor: Any
    length_torsion: Any
    K_major: Any = 1.0
    K_minor: Any = 1.0
    K_torsion: Any = 1.0
    sways_major: bool = False
    sways_minor: bool = False
    lateral_offset: Any = None

    def effective(self, axis: str) -> Any:
        """Return K times the length, mm, about an axis or in ``"torsion"``."""
        return getattr(self, f"K_{axis}") * getattr(self, f"length_{axis}")


@dataclass(frozen=True)
class Ends:
    """How a member is joined in tension.

    Attributes
    ----------
    connection : EndConnection or None
        Where the net area or the shear lag factor follow from it.
    net_area, shear_lag : float or array or None
        Where given.
    pin : PinnedEnd or None
    eyebar : EyebarHead or None
        What ends a bar in place of a connection.
    """

    connection: EndConnection | None = None
    net_area: Any = None
    shear_lag: Any = None
    pin: PinnedEnd | None = None
    eyebar: EyebarHead | None = None


@dataclass(frozen=True)
class MemberCase:
    """One member, or many at once, as a standard sees it.

    Attributes
    ----------
    section : object
        Section properties by the names of `welbric.sections.table.PROPERTIES`.
    shape : str
        The kind of shape, such as ``"rolled I"``.
    Fy, Fu : float or array
        Strengths of the steel, MPa.
    nominal : float or array or None
        Yield strength by which the grade is named, whatever the thickness, MPa; Fy where None.
    method : str
        One of the standard's ``METHODS``.
    buckling : BucklingLengths
    ends : Ends
        How it is joined in tension.
    loaded_major, loaded_minor : bool
        Whether transverse loads act between the ends, in bending about each axis.
    moment_shape : float or array, optional
        Moment-shape factor, where the designer gives one or it is found elsewhere; NaN where not.
    moment_shape_source : str
        Where that comes from.
    critical_moment : float, optional
        In lateral buckling, of every length that is not held, N mm, where the designer gives it.
    second_order_included : bool
        Whether the given moments hold the second-order effects already.
    length : float
        Of the whole member, mm.
    edition : int
        Of the standard, where the rules of its editions differ.
    connectors : float or None
        Distance between the connectors of a built-up member, mm.
    webbing : Webbing or None
        What makes two chords one member.
    snug_tight : bool
        Whether those are bolted snug-tight.
    stiffeners : Stiffening or None
        Transverse stiffeners of the web.
    flange_holes : tuple of int and float, or None
        Holes across a flange in tension, and their diameter, mm.
    one_leg : str or None
        The leg, ``"longer"`` or ``"shorter"``, through which alone an angle is loaded.
    in_space_truss : bool
        Whether such an angle is a web member of a box or space truss.
    geometric : bool
        Whether an angle is taken to bend about its geometric axes.
    peak_held : bool or array
        Whether a segment ends at the only restraint of its span, against moving laterally and
        twisting, and the span's moment is largest there.
    reduced : object, optional
        What a standard reduces the effects to, where they were reduced elsewhere.
    single : bool
        Whether it is one section, combination and segment, in single numbers.
    corners : tuple of (x, y), mm
        Of an outline's convex hull.
    options : Options, optional
        What the standard leaves to be said of a job, where its checks ask for it.
    member_options : Options, optional
        The same of a member.
    cold_formed : bool
        Whether a hollow section is cold-formed; so it is where nobody says.
    """

    section: Any
    shape: str
    Fy: Any
    Fu: Any
    method: str
    effects: Effects
    segments: Segments
    buckling: BucklingLengths
    ends: Ends = field(default_factory=lambda: Ends())
    loaded_major: bool = True
    loaded_minor: bool = True
    moment_shape: Any = None
    moment_shape_source: str = "given with the member"
    critical_moment: Any = None
    second_order_included: bool = False
    length: Any = 0.0
    edition: int = 2022
    connectors: Any = None
    webbing: Webbing | None = None
    snug_tight: bool = False
    stiffeners: Stiffening | None = None
    flange_holes: tuple[int, float] | None = None
    one_leg: str | None = None
    in_space_truss: bool = False
    geometric: bool = False
    peak_held: Any = False
    reduced: Any = None
    single: bool = False
    corners: tuple[tuple[float, float], ...] = ()
    options: Any = None
    member_options: Any = None
    cold_formed: bool = True
    nominal: Any = None
    cache: dict[Any, Any] = field(default_factory=dict, compare=False, repr=False)

    @property
    def grade(self) -> Any:
        """The yield strength by which the steel is named, MPa."""
        return self.Fy if self.nominal is None else self.nominal

    def own(self, values: Any) -> Any:
        """Return values of the case as they are, or as the single number they then are."""
        return float(np.ravel(values)[0]) if self.single else values

    def at(self, section: Any, combination: int, segment: int) -> MemberCase:
        """Return one section, one combination and one segment, as single numbers."""

        def pick(value: Any) -> Any:
            array = np.asarray(value)
            if array.ndim < 3:
                return value
            index = tuple(
                0 if size == 1 else wanted
                for size, wanted in zip(array.shape, (0, combination, segment), strict=True)
            )
            return float(array[index])

        reduced = self.reduced
        if reduced is not None:
            reduced = type(reduced)(**{f.name: pick(getattr(reduced, f.name))
                                       for f in fields(reduced)})  # fmt: skip
        return replace(
            self,
            section=section,
            effects=self.effects.at(combination),
            segments=self.segments.at(combination, segment),
            moment_shape=pick(self.moment_shape),
            peak_held=bool(pick(self.peak_held)),
            reduced=reduced,
            single=True,
            # What is kept of the effects there, every check of the place may have.
            cache={OF_PLACE: self.cache.setdefault((OF_PLACE, combination, segment), {})},
        )


@dataclass(frozen=True)
class BearingPair:
    """A pair of stiffeners, one on each side of the web; mm, and MPa where it is another steel."""

    width: float
    thickness: float
    clip: float
    Fy: float | None


@dataclass(frozen=True)
class Bearing:
    """A force that presses, or pulls, a member's web at a place: a reaction, or a point load.

    Attributes
    ----------
    section : Section
    shape : str
    Fy : float
        Of the web, MPa.
    method : str
    force : float or array, shape (C,)
        N; zero where it does not press.
    length : float
        Bearing length, mm.
    from_end : float
        From the nearer end of the member, mm.
    unbraced : float
        The longest length between points that hold a flange, beside the force, mm.
    held_from_turning : bool
        Whether both flanges are held laterally here.
    both_flanges : bool
        Whether forces press both flanges here.
    yields : bool or array
        Whether the moment here is more than the yield moment, as J10.4 asks.
    source : str
        What the force is, in words.
    bottom : bool
        Whether it acts on the bottom flange.
    pulls : bool
        Whether it pulls that flange.
    stiffeners : BearingPair or None
        A pair of them here.
    moment : float or array
        The magnitude of the moment here, N mm.
    options : Options, optional
        What the standard leaves to be said of a job.
    axial : float or array
        The axial force here, compression positive, N.
    """

    section: Any
    shape: str
    Fy: float
    method: str
    force: Any
    length: float
    from_end: float
    unbraced: float
    held_from_turning: bool
    both_flanges: bool
    yields: Any
    source: str
    bottom: bool = False
    pulls: bool = False
    stiffeners: BearingPair | None = None
    moment: Any = 0.0
    options: Any = None
    axial: Any = 0.0

    def at(self, combination: int) -> Bearing:
        """Return one combination, as single numbers."""
        force = float(np.asarray(self.force)[combination])
        moment = float(np.resize(self.moment, np.size(self.force))[combination])
        yields = bool(np.resize(self.yields, np.size(self.force))[combination])
        axial = float(np.resize(self.axial, np.size(self.force))[combination])
        return replace(self, force=force, yields=yields, moment=moment, axial=axial)


@dataclass(frozen=True)
class PinnedEnd:
    """A plate's end with a pin: diameters of pin and hole, to the end and the edge, mm."""

    pin: float
    hole: float
    end: float
    edge: float


@dataclass(frozen=True)
class EyebarHead:
    """An eyebar's head: diameters of pin, hole and head, and its fillet's radius, mm."""

    pin: float
    hole: float
    head: float
    fillet: float


SEVERAL = " to "


@dataclass(frozen=True)
class Check:
    """One limit state of a member.

    Attributes
    ----------
    name, clause : str
        The clause as a range, with `SEVERAL` in it, where cases go by different ones.
    demand, capacity : float or array
        Required and available strength; None for an interaction.
    utilisation : float or array
    kind : str
        The kind of quantity of demand and capacity, a key of `welbric.units.KINDS`.
    effect : str
        The effect whose place along the member is that of the check.
    outside : bool or array
        Where the standard does not cover the case.
    reason : str
        Why not, or what is missing.
    """

    name: str
    clause: str
    demand: Any
    capacity: Any
    utilisation: Any
    kind: str
    effect: str
    outside: Any = False
    reason: str = ""


OF_PLACE = "of the place"


def once_per_place(fn: Callable[[MemberCase], Any]) -> Callable[[MemberCase], Any]:
    """Keep what a function that records nothing finds of the effects, for all checks of a place.

    A place is one combination and segment; of whole members it is the case.
    """

    @functools.wraps(fn)
    def kept(case: MemberCase) -> Any:
        known = case.cache.get(OF_PLACE, case.cache)
        if fn not in known:
            known[fn] = fn(case)
        return known[fn]

    return kept


def once_per_case(fn: Callable[..., Any]) -> Callable[..., Any]:
    """Keep a function's result with its case, so that checks share strengths.

    What it takes beside the case tells its results apart.
    """

    @functools.wraps(fn)
    def kept(case: MemberCase, *more: Any) -> Any:
        key = (fn, *more)
        if key not in case.cache:
            case.cache[key] = fn(case, *more)
        return case.cache[key]

    return kept
