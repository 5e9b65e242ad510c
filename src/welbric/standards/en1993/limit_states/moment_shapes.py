"""Equivalent uniform moment factors: of each length between holds, by the shape of its moments."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from welbric.standards.case import MemberCase, once_per_case, once_per_place
from welbric.standards.en1993.clauses import annex_a, annex_b
from welbric.standards.en1993.demands import demand
from welbric.standards.en1993.design import E, pick
from welbric.standards.en1993.symbols import GLOSSARY
from welbric.working import given, unrecorded

SWAY = 0.9  # Table B.3, of a member that sways
NOT_OF_TABLE = 1.1  # of the moments at the ends and the middle: beyond, the table does not fit
FULLER = 1e-3  # of the largest moment, beyond those of a parabola: a fuller diagram
TRACE = 1e-6  # of the largest moment
SAG_OF_UNIFORM = 5 / 48  # times the largest moment, L2 / EI: of a uniform load
FINE = 33  # places between holds at which a diagram is integrated, its quarter points among them


@dataclass(frozen=True)
class Shape:
    """Moments of lengths between holds, signed; arrays of one shape, or single numbers.

    Attributes
    ----------
    start, first, middle, last, end : float or array
        At the ends and the quarter points, N mm.
    most : float or array
        The largest of either sense.
    sag : float or array
        How far a length bows by its moments, times EI, over its length squared and `most`.
    """

    start: Any
    first: Any
    middle: Any
    last: Any
    end: Any
    most: Any
    sag: Any = 0.0

    @property
    def is_straight(self) -> Any:
        """Whether the diagram is a straight line."""
        slack = TRACE * np.maximum(self.most, 1e-300)
        found = np.asarray(self.most) <= np.maximum(np.abs(self.start), np.abs(self.end)) + slack
        for value, share in ((self.first, 0.25), (self.middle, 0.5), (self.last, 0.75)):
            line = self.start + share * (self.end - self.start)
            found = found & (np.abs(value - line) <= slack)
        return found

    @property
    def is_of_point_load(self) -> Any:
        """Whether the diagram is two straight lines that meet at the middle."""
        slack = TRACE * np.maximum(self.most, 1e-300)
        first, last = (np.abs(a - 0.5 * (b + self.middle)) <= slack
                       for a, b in ((self.first, self.start), (self.last, self.end)))  # fmt: skip
        return first & last & ~self.is_straight

    @property
    def is_fuller(self) -> Any:
        """Whether the diagram is fuller than the parabola of a uniform load, towards its middle."""
        sense = np.where(np.asarray(self.middle) < 0, -1.0, 1.0)
        found: Any = np.asarray(False)
        for value, near, far in (
            (self.first, self.start, self.end),
            (self.last, self.end, self.start),
        ):
            parabola = 0.375 * near + 0.75 * self.middle - 0.125 * far
            found = found | (sense * (value - parabola) > FULLER * np.maximum(self.most, 1e-300))
        return found

    @property
    def ends(self) -> tuple[Any, Any]:
        """The larger end moment, and the ratio of the other one to it."""
        first_larger = np.abs(self.start) >= np.abs(self.end)
        big = pick(first_larger, self.start, self.end)
        small = pick(first_larger, self.end, self.start)
        if np.ndim(big) == 0:
            return big, small / big if big else 1.0
        bent = np.asarray(big) != 0
        return big, np.where(bent, small / np.where(bent, big, 1.0), 1.0)

    def at(self, index: int) -> Shape:
        """Return one of a row of lengths, in single numbers."""
        found = {name: np.ravel(v) for name, v in vars(self).items()}
        return Shape(**{name: float(v[min(index, len(v) - 1)]) for name, v in found.items()})


@once_per_place
def _at_quarters(case: MemberCase) -> dict[str, Shape]:
    """Return the moments of each length between holds about both axes, shape (S, C, P)."""
    found = {}
    for axis in ("major", "minor"):
        values, most = _between_holds(case, axis, 5)
        start, first, middle, last, end = np.moveaxis(values, -1, 0)
        found[axis] = Shape(start, first, middle, last, end, most)
    return found


@once_per_place
def _with_sag(case: MemberCase) -> dict[str, Shape]:
    """Return the same with how far each length bows."""
    found = {}
    for axis, of in _at_quarters(case).items():
        values, most = _between_holds(case, axis, FINE)
        at = np.stack([of.start, of.first, of.middle, of.last, of.end], axis=-1)
        # Straight between stations, or a curve through the quarter points: whichever bows more.
        bows = [np.abs(v @ by.T).max(axis=-1)
                for v, by in ((values, INTEGRAL), (at, INTEGRAL @ QUARTIC))]  # fmt: skip
        found[axis] = replace(of, sag=np.maximum(*bows) / np.maximum(most, 1e-300))
    return found


def _between_holds(case: MemberCase, axis: str, count: int) -> tuple[Any, Any]:
    """Return moments at so many places of each length between holds, and the largest of each."""
    e = case.effects
    M, parts = (np.asarray(getattr(e, f"{of}_{axis}"), dtype=float) for of in ("M", "parts"))
    x = np.broadcast_to(e.x, M.shape)
    span = (x[..., -1:] - x[..., :1])[..., None]
    low, high = parts[:, None, :, :1], parts[:, None, :, 1:]
    places = x[..., :1, None] + span * (low + (high - low) * np.linspace(0.0, 1.0, count))
    values = _at(x, M, places)
    inside = (x[..., None, :] >= places[..., :1]) & (x[..., None, :] <= places[..., -1:])
    most = np.where(inside, np.abs(M)[..., None, :], 0.0).max(axis=-1)
    # At its ends a length has its own side of a jump.
    jumps = (x[..., 1:] == x[..., :-1]).any() and M.any()
    if jumps:
        within = (x[..., None, :] > places[..., :1]) & (x[..., None, :] < places[..., -1:])
        most = np.where(within, np.abs(M)[..., None, :], 0.0).max(axis=-1)
    most = np.where(np.isnan(places[..., 0]), np.nan, np.maximum(most, np.abs(values).max(axis=-1)))
    # One that a member has not got has no moments.
    none = (high <= low)[..., 0]
    return np.where(none[..., None], 0.0, values), np.where(none, 0.0, most)


def _at(x: Any, M: Any, places: Any) -> Any:
    """Return values at places of each length, (S, C, P, n), straight between stations.

    Where they jump those are taken that are on the length's side.
    """
    flat = np.nan_to_num(np.broadcast_to(places, (*x.shape[:-1], *places.shape[-2:])))
    starts = np.broadcast_to(np.arange(flat.shape[-1]) == 0, flat.shape[-2:]).ravel()
    flat = flat.reshape(*x.shape[:-1], -1)
    slack = 1e-9 * np.maximum(x[..., -1:], 1.0)
    each = np.moveaxis(flat, -1, 0)[..., None]
    after = np.stack([(x < one - slack).sum(axis=-1) for one in each], axis=-1)
    upto = np.stack([(x <= one + slack).sum(axis=-1) for one in each], axis=-1) - 1
    last = x.shape[-1] - 1
    on = upto >= after  # a station stands here: its right side where a length starts, else its left
    high = np.clip(np.where(on & starts, upto, after), 0, last)
    low = np.clip(np.where(on, high, high - 1), 0, last)
    x_low, x_high = np.take_along_axis(x, low, -1), np.take_along_axis(x, high, -1)
    M_low, M_high = np.take_along_axis(M, low, -1), np.take_along_axis(M, high, -1)
    gap = x_high - x_low
    share = np.where(gap > 0, (flat - x_low) / np.where(gap > 0, gap, 1.0), 0.0)
    return (M_low + (M_high - M_low) * share).reshape(*x.shape[:-1], *places.shape[-2:])


def _integral() -> Any:
    """Return what gives the bow at places of a length of 1 that is held at its ends, by moments."""
    x = np.linspace(0.0, 1.0, FINE)
    at, load = np.meshgrid(x, x, indexing="ij")
    influence = np.minimum(at, load) * (1 - np.maximum(at, load))
    weights = np.full(FINE, 1 / (FINE - 1))
    weights[[0, -1]] /= 2
    return influence * weights


INTEGRAL = _integral()
# What gives the values of a polynomial through the ends and the quarter points, at those places.
QUARTIC = np.vander(np.linspace(0, 1, FINE), 5) @ np.linalg.inv(np.vander(np.linspace(0, 1, 5), 5))


def _of_worst_length(
    case: MemberCase,
    symbol: str,
    axis: str,
    shapes: dict[str, Shape],
    of_length: Callable[[MemberCase, str, Shape], Any],
) -> Any:
    """Return the factor that, with the member's largest moment, is that of its worst length."""
    of = shapes[axis]
    largest = np.asarray(of.most).max(axis=-1)
    with unrecorded():
        factors = np.asarray(of_length(case, symbol, of), dtype=float)
        weighed = factors * of.most / np.maximum(largest, 1e-300)[..., None]
    if not case.single:
        unknown = np.isnan(of.most).any(axis=-1)
        return np.where(unknown | (largest <= 0), 1.0, weighed.max(axis=-1))[..., None]
    if np.isnan(largest).any():
        return given(GLOSSARY, symbol, 1.0, "taken: where it is held in between is not known")
    if not np.any(largest > 0):
        return 1.0
    worst = int(np.argmax(np.ravel(weighed)))
    found = of_length(case, symbol, of.at(worst))
    share = float(np.ravel(of.most)[worst] / np.ravel(largest)[0])
    if share < 1 - TRACE:
        found = given(GLOSSARY, symbol, float(found * share), "times its own moment over M_Ed")
    return float(found)


# Table B.3


def of_table_b3(case: MemberCase, symbol: str, of: Shape) -> Any:
    """Return the factor of a length by Table B.3; 1 of a diagram that it has not."""
    M_h, psi = of.ends
    middle, most = of.middle, of.most
    strange = most > NOT_OF_TABLE * np.maximum(np.abs(M_h), np.abs(middle)) * (1 + 1e-9)
    strange = strange | (of.is_fuller & ~of.is_straight)
    if np.ndim(most) == 0:
        if strange:
            return given(GLOSSARY, symbol, 1.0, "taken: Table B.3 has no such moments")
        psi = given(GLOSSARY, "psi", float(psi), "of the moments at the ends")
        if of.is_straight:
            found = annex_b.linear_moment(psi)
        else:
            point = bool(of.is_of_point_load)
            found = annex_b.with_loads(float(M_h), float(middle), psi, point)
        return given(GLOSSARY, symbol, float(found), "Table B.3")
    safe_h = np.where(np.abs(M_h) > 0, M_h, 1e-30)
    safe_s = np.where(np.abs(middle) > 0, middle, 1e-30)
    loaded = np.where(
        of.is_of_point_load,
        annex_b.with_loads(safe_h, safe_s, psi, True),
        annex_b.with_loads(safe_h, safe_s, psi, False),
    )
    found = np.where(of.is_straight, annex_b.linear_moment(psi), loaded)
    return np.where(strange | (most <= 0), 1.0, found)


def _of_axis(case: MemberCase, axis: str, sways: bool) -> Any:
    symbol = "C_my" if axis == "major" else "C_mz"
    own = getattr(case.member_options, symbol.replace("_", ""), None)
    if own is not None:
        return given(GLOSSARY, symbol, own, "given with the member")
    if sways:
        return given(GLOSSARY, symbol, SWAY, "Table B.3, note: the member sways")
    return _of_worst_length(case, symbol, axis, _at_quarters(case), of_table_b3)


@once_per_case
def C_my(case: MemberCase) -> Any:
    """Return C_my, between what holds the member about the y axis."""
    return _of_axis(case, "major", case.buckling.sways_major)


@once_per_case
def C_mz(case: MemberCase) -> Any:
    """Return C_mz, between what holds the member about the z axis."""
    return _of_axis(case, "minor", case.buckling.sways_minor)


@once_per_case
def C_mLT(case: MemberCase) -> Any:
    """Return C_mLT, between the lateral restraints of the segment; 1 toward a free end."""
    own = getattr(case.member_options, "CmLT", None)
    if own is not None:
        return given(GLOSSARY, "C_mLT", own, "given with the member")
    d, tip = demand(case), np.asarray(case.segments.free_tip, dtype=bool)
    if case.single:
        if tip:
            return given(GLOSSARY, "C_mLT", 1.0, "taken: toward a free end")
        if d.M_max <= 0:
            return 1.0
    shape = Shape(d.s_start, d.s_first, d.s_middle, d.s_last, d.s_end, d.M_max)
    return pick(tip, 1.0, of_table_b3(case, "C_mLT", shape))


# Table A.2


def base_factor(case: MemberCase, axis: str, N: Any, N_cr: Any) -> Any:
    """Return C_m,0 (Table A.2), between what holds the member about an axis."""
    I, L = getattr(case.section, f"I_{axis}"), getattr(case.buckling, f"length_{axis}")

    def of_length(case: MemberCase, symbol: str, of: Shape) -> Any:
        M_h, psi = of.ends
        free = np.abs(M_h) <= TRACE * of.most
        parabola = ~of.is_fuller & (np.abs(of.first - 0.75 * of.middle) <= FULLER * of.most)
        uniform = free & parabola & (np.abs(of.first - of.last) <= FULLER * of.most)
        uniform = uniform & (np.abs(of.sag - SAG_OF_UNIFORM) <= 2 * FULLER * SAG_OF_UNIFORM)
        point = free & of.is_of_point_load
        if np.ndim(of.most) == 0:
            if of.is_straight:
                psi = given(GLOSSARY, "psi", float(psi), "of the moments at the ends")
                return annex_a.straight_moment(psi, N, N_cr)
            if uniform:
                return annex_a.uniform_load(N, N_cr)
            if point:
                return annex_a.point_load(N, N_cr)
            M = given(GLOSSARY, "M_x", float(of.most), "largest between what holds it")
            delta = of.sag * of.most * L**2 / (E * I)
            delta = given(GLOSSARY, "delta_x", float(delta), "by the moments, of the first order")
            return annex_a.any_load(E, I, delta, L, M, N, N_cr)
        found = annex_a.any_load(1.0, 1.0, of.sag, 1.0, 1.0, N, N_cr)
        found = np.where(uniform, annex_a.uniform_load(N, N_cr), found)
        found = np.where(point, annex_a.point_load(N, N_cr), found)
        return np.where(of.is_straight, annex_a.straight_moment(psi, N, N_cr), found)

    return _of_worst_length(case, "C_m", axis, _with_sag(case), of_length)
