"""Elements in bending under axial forces: what they resist, and how they sag between their ends.

Beside the straight line of its ends an element bends in two ways: its ends turn against one another
(an arc), or both alike (an S). Each way begins with the shape that ends alone bring: a parabola, a
cubic. What the axial force adds to that is a bulge, of the shape that a load brings to the element
clamped at its ends: an even load bulges the arc, one that changes sense in the middle the S. How
far each bulges follows from the force; condensed out, it leaves nearly the stiffness that the
characteristic functions of a column have: off by 2 in a million where an element of half a length
has the load at which that buckles between pins. What buckles an element clamped at both of its ends
comes 6 % too high, and in strong tension it is a little too stiff: as any shapes that are given.

Yielding to shear (12 EI / (GA L^2) beside one) is part of all shapes.

Arrays begin with the way, the arc before the S, then with the axis, major before minor.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from welbric.analysis.diagram import Array, Diagram, Flags
from welbric.frames.model import SLIDES, Model

AXES = tuple(SLIDES)
ARC, S = 0, 1
NOTHING = 1e-12  # of what resists a bulge without axial force: nothing resists it any longer
GAUSS, WEIGHTS = np.polynomial.legendre.leggauss(6)  # exact for what loads bring, times a cubic
# Of an element's own freedoms, those of bending about each axis.
ENDS = np.array([[at, at + 1, at + 6, at + 7] for at in SLIDES.values()])


@dataclass(frozen=True)
class Off:
    """How elements are off the straight line: bowed from the start, or by loads, clamped.

    It is said by what an axial force of one makes of it.

    Attributes
    ----------
    chord : array, shape (2, E, C), mm, optional
        How far one end is beside the other, about each axis.
    turns : array, shape (2, 2, E, C), mm
        Moments that turn ends.
    bulges : array, shape (2, 2, E, C)
        What bulges.
    """

    chord: Array | None
    turns: Array
    bulges: Array

    def combined(self, factors: Array) -> Off:
        """Return combinations, (C, L), of as many load cases."""
        chord = None if self.chord is None else self.chord @ factors.T
        return Off(chord, self.turns @ factors.T, self.bulges @ factors.T)

    def taken(self, which: Any) -> Off:
        """Return some of the loads."""
        chord = None if self.chord is None else self.chord[..., which]
        return Off(chord, self.turns[..., which], self.bulges[..., which])

    def bowed(self, bows: Off) -> Off:
        """Return both, where members bow from the start besides."""
        both = [one.chord for one in (self, bows) if one.chord is not None]
        chord = np.asarray(sum(both)) if both else None
        return Off(chord, self.turns + bows.turns, self.bulges + bows.bulges)


@dataclass(frozen=True)
class Bent:
    """What some elements resist.

    Attributes
    ----------
    turning : array, shape (2, 2, E, C), N mm
        Stiffness against turning ends.
    leaning : array, shape (2, E, C), N/mm
        Against leaning, of the axial force alone.
    pull : array, shape (2, E, C), N
    gives : array, shape (2, 2, E, C), mm/N
        How far a bulge goes under a force of one.
    swells : array, shape (2, 2, E, C), mm
        How far it goes, backwards, as ends turn by one.
    loses : array of bool, shape (C,)
        Under which nothing resists a bulge of some of them.
    """

    turning: Array
    leaning: Array
    pull: Array
    gives: Array
    swells: Array
    loses: Flags


class BeamColumns:
    """The elements of a frame in bending.

    Attributes
    ----------
    lengths : array, shape (E,), mm
    yields : array, shape (2, E)
        12 EI / (GA L^2) of each axis.
    stiff, pulls : array, shape (2, 2, E)
        Stiffness against turning ends, and what an axial force of one adds.
    bulge_stiff, bulge_pulls : array, shape (2, 2, E)
        The same against bulging.
    couples : array, shape (2, 2, E)
        What an axial force of one makes of a turn in the bulge.
    loose : array, shape (2, E)
        0 where an element cannot bend about an axis, and axial forces make nothing of it; else 1.
    """

    def __init__(self, model: Model) -> None:
        L = self.lengths = model.lengths
        EI = np.array([model.EI_major, model.EI_minor])
        y = self.yields = np.array([model.yields("major"), model.yields("minor")])
        # What cannot bend out of a plane cannot buckle so.
        goes = np.array([1.0, 0.0, 1.0]) if model.is_plane else np.ones(3)
        moves = np.abs(model.turn[:, list(SLIDES.values()), :3]) @ goes
        self.loose = (moves.T > 0.5).astype(float)
        self.all_loose = bool(self.loose.all())
        one = np.ones_like(y)
        m = self._more = y * (6 + 5 * y) / (3 * (1 + y))
        self.stiff = np.array([4 * EI / L, 12 * EI / (L * (1 + y))])
        self.pulls = np.array([L / 3 * one, L / (5 * (1 + y) ** 2)])
        self.bulge_stiff = np.array([
            24 * EI / L**3 * (1 / 30 + y / 6), 120 * EI / L**3 * (1 / 210 + m / 30)
        ])  # fmt: skip
        self.bulge_pulls = np.array([
            (2 / 105 + 2 * y / 15 + y**2 / 3) / L, (2 / 315 + 2 * m / 35 + m**2 / 5) / L
        ])  # fmt: skip
        self.couples = np.array([1 / 15 + y / 3, (1 / 35 + m / 5) / (1 + y)])

    def resists(self, which: Any, N: Array, bends: Array | None) -> Bent:
        """Return what some elements resist.

        Parameters
        ----------
        which : array of int, or slice
        N : array, shape (n, C)
            Their axial forces, tension positive.
        bends : array, shape (n, C), optional
            The share that they have of their stiffness.
        """
        pull = np.broadcast_to(N, (2, *N.shape))
        if not self.all_loose:
            pull = self.loose[:, which, None] * N
        share = 1.0 if bends is None else bends
        stiff, pulls, bulge, bulges, couples = (
            one[..., which, None]
            for one in (self.stiff, self.pulls, self.bulge_stiff, self.bulge_pulls, self.couples)
        )
        # In place: these are the largest arrays of the second order.
        alone, gives = bulge * share, bulges * pull
        gives += alone
        sound = gives > NOTHING * alone
        loses = np.asarray((~sound).any(axis=(0, 1, 2)))
        if loses.any():
            gives = np.where(sound, gives, np.inf)
        np.reciprocal(gives, out=gives)
        swells = couples * pull
        swells *= gives
        turning = couples * swells
        np.subtract(pulls, turning, out=turning)
        turning *= pull
        turning += stiff * share
        return Bent(turning, pull / self.lengths[which, None], pull, gives, swells, loses)

    def off_forces(self, which: Any, bent: Bent, off: Off) -> Array:
        """Return what axial forces make of elements that are off the line, (2, 2, 2, n, C).

        At the start and at the end, force and moment, about each axis.
        """
        moments = bent.swells * off.bulges[..., which, :]
        np.subtract(off.turns[..., which, :], moments, out=moments)
        moments *= bent.pull
        across = None if off.chord is None else bent.leaning * off.chord[:, which]
        return self._at_ends(which, moments, across)

    def ends_and_bulges(
        self, own: Array, N: Array, bends: Array | None, off: Off
    ) -> tuple[Array, Array]:
        """Return what elements' own movements, (E, 12, C), bring: at their ends, and in between.

        Returns
        -------
        tuple of arrays, shapes (2, 2, 2, E, C) and (2, 2, E, C)
            Forces and moments as of `off_forces`, and how far elements bulge.
        """
        every = slice(None)
        bent, (turns, leans) = self.resists(every, N, bends), self._turned(own)
        ends = self._at_ends(every, bent.turning * turns, bent.leaning * leans)
        ends += self.off_forces(every, bent, off)
        return ends, -(bent.swells * turns + bent.pull * bent.gives * off.bulges)

    def shapes(self, which: Any) -> tuple[Array, Array]:
        """Return the shapes of bulges along elements, and how sections turn, (2, 2, n, 6) each.

        Polynomials of the place from 0 to 1, and of that over the length.
        """
        y, m = self.yields[:, which], self._more[:, which]
        alike = y / (3 * (1 + y))  # as much as ends would part by shear
        shape, turn = np.zeros((2, 2, *y.shape, 6))
        shape[ARC] = [0, 0, 1, -2, 1, 0]
        shape[ARC, ..., 1] += y
        shape[ARC, ..., 2] -= y
        shape[S] = [0, 0, 1, -4, 5, -2]
        for order, times in ((1, 1), (2, -3), (3, 2)):
            shape[S, ..., order] += times * m
        turn[ARC] = [0, 2, -6, 4, 0, 0]
        turn[S] = [0, 2, -12, 20, -10, 0]
        turn[S, ..., 1] -= 6 * alike
        turn[S, ..., 2] += 6 * alike
        return shape, turn / self.lengths[which][..., None]

    def freedoms(self, turn: Array) -> tuple[Array, Array, Array, Array]:
        """Return what axial forces add where bulges are freedoms beside those of elements' ends.

        Parameters
        ----------
        turn : array, shape (E, 12, n)
            From those to elements' own.

        Returns
        -------
        tuple of arrays, shapes (E, n, n), (E, n, 4), (E, 4) and (E, 4)
            What an axial force of one adds to those of the ends (as these alone bend elements),
            between them and bulges, and to bulges; the bulges' own stiffness.
        """
        slopes = np.zeros((len(self.lengths), 2, 2, turn.shape[2]))
        of_ends = np.zeros((len(self.lengths), turn.shape[2], turn.shape[2]))
        for axis, (d1, s1, d2, s2) in enumerate(ENDS.tolist()):
            leans = (turn[:, d2] - turn[:, d1]) / self.lengths[:, None]
            of_ends += self.lengths[:, None, None] * leans[:, :, None] * leans[:, None]
            slopes[:, ARC, axis] = 0.5 * (turn[:, s1] - turn[:, s2])
            slopes[:, S, axis] = 0.5 * (turn[:, s1] + turn[:, s2]) - leans
        of_loose = (self.loose * one for one in (self.pulls, self.couples, self.bulge_pulls))
        turned, couples, pulls, stiff = (
            one.transpose(2, 0, 1).reshape(-1, 4, 1) for one in (*of_loose, self.bulge_stiff)
        )
        ways = slopes.reshape(len(couples), 4, -1)
        of_ends += ways.swapaxes(1, 2) @ (turned * ways)
        return of_ends, (couples * ways).swapaxes(1, 2), pulls[..., 0], stiff[..., 0]

    def bowed(self, ends: Array) -> Off:
        """Return members that bow from the start in parabolas, whose ends are off, (E, 12, C)."""
        turns, leans = self._turned(ends)
        return Off(leans, self.pulls[..., None] * turns, self.couples[..., None] * turns)

    def sagging(self, moments: Array) -> Off:
        """Return elements that sag under loads with their ends clamped.

        ``moments``, (4, 2, E, L), are the integrals of their deflections over the place from 0 to
        1, times its powers from 0 to 3.
        """
        w, y, m = moments, self.yields[..., None], self._more[..., None]
        turns = np.array([2 * w[0], (6 * w[0] - 12 * w[1]) / (1 + y)])
        bulges = np.array([
            (2 - 2 * y) * w[0] - 12 * w[1] + 12 * w[2],
            (2 - 6 * m) * w[0] + (12 * m - 24) * w[1] + 60 * w[2] - 40 * w[3],
        ])  # fmt: skip
        return Off(None, turns, -bulges / self.lengths[:, None])

    def _turned(self, own: Array) -> tuple[Array, Array]:
        """Return how far ends turn from their line, (2, 2, E, C), and that leans, (2, E, C)."""
        d1, s1, d2, s2 = own[:, ENDS].transpose(2, 1, 0, 3)
        leans = d2 - d1
        return np.array([0.5 * (s1 - s2), 0.5 * (s1 + s2) - leans / self.lengths[:, None]]), leans

    def _at_ends(self, which: Any, moments: Array, across: Array | None) -> Array:
        """Return forces and moments at ends, of those that turn them and that lean their line."""
        arc, alike = moments
        shear = alike / self.lengths[which, None]
        if across is not None:
            shear -= across
        return np.array([[shear, 0.5 * (alike + arc)], [-shear, 0.5 * (alike - arc)]])


def integrals(deflection: Diagram, places: Array, element: Any) -> Array:
    """Return the integrals of deflections over elements, (4, E, L).

    Over the place in each from 0 to 1, times its powers from 0 to 3.

    Parameters
    ----------
    deflection : Diagram of L cases
    places : array, shape (E + 1,), mm
        Where the elements of the member begin and end.
    element : array of int, shape (I,)
        That each interval of the diagram is in.
    """
    at, weights = 0.5 * (1 + GAUSS), 0.5 * WEIGHTS
    c = deflection.coefficients
    values = c @ at ** np.arange(c.shape[-1])[:, None]  # (L, I, 6)
    share = np.diff(deflection.breaks) / np.diff(places)[element]
    s = ((deflection.breaks[:-1] - places[element]) / np.diff(places)[element])[:, None]
    s = s + share[:, None] * at
    powers = s ** np.arange(4)[:, None, None] * (weights * share[:, None])
    found = np.zeros((4, len(places) - 1, len(c)))
    for power, of in zip(powers, found, strict=True):
        np.add.at(of, element, np.einsum("lig,ig->il", values, power))
    return found
