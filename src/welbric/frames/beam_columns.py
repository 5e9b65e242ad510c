"""Elements in bending under axial forces: what they resist, and how they sag between their ends.

Beside the straight line of its ends an element bends in two ways: its ends turn against one another
(an arc), or both alike (an S). Each way begins with the shape that ends alone bring: a parabola, a
cubic. What the axial force adds to that are bulges, of shapes that loads bring to the element
clamped at its ends: with a curvature of Legendre's polynomials from the second to the sixth, the
even ones among arcs, the odd ones among S. Those of one way are mixed so that neither stiffness nor
axial force couples them. How far each bulges follows from the force; condensed out, they leave what
the characteristic functions of a column have: off by 4 in 100 million million where the element has
the load at which it buckles between pins, by 2 in a million where it buckles clamped at both ends.

Yielding to shear (12 EI / (GA L^2) beside one) is part of all shapes.

Arrays begin with the way, the arc before the S, or with the bulge, then with the axis, major before
minor.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.polynomial import Legendre, Polynomial

from welbric.analysis.diagram import Array, Diagram, Flags
from welbric.frames.model import SLIDES, Model, of_loads

AXES = tuple(SLIDES)
ARC, S = 0, 1
WAYS = np.array([ARC, ARC, ARC, S, S])  # of the bulges
CURVED = (2, 4, 6, 3, 5)  # of which of Legendre's polynomials their curvatures are made
MOMENTS = 7  # of how an element sags, that tell what this makes of bulges
ORDERS = 9  # of bulges, as polynomials
NOTHING = 1e-12  # of what resists a bulge without axial force: nothing resists it any longer
GAUSS, WEIGHTS = np.polynomial.legendre.leggauss(8)  # exact for two bulges, and for loads' moments
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
    bulges : array, shape (5, 2, E, C)
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
        chord = None if self.chord is None else of_loads(self.chord, which)
        return Off(chord, of_loads(self.turns, which), of_loads(self.bulges, which))

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
    gives : array, shape (5, 2, E, C), mm
        How far a bulge goes, backwards, under what the axial force makes of an `Off` of one.
    loses : array of bool, shape (C,)
        Under which nothing resists a bulge of some of them.
    """

    turning: Array
    leaning: Array
    pull: Array
    gives: Array
    loses: Flags


@dataclass(frozen=True)
class Shapes:
    """Bulges of elements that yield to shear in some ways, of length and EI of one.

    Attributes
    ----------
    along : array, shape (5, n, 9)
        How far they go, by the place from 0 to 1.
    pulls, couples : array, shape (5, n)
        What an axial force of one makes of a bulge in itself, and of a turn in the bulge. Their
        stiffness is one.
    """

    along: Array
    pulls: Array
    couples: Array

    @classmethod
    def of(cls, y: Array) -> Shapes:
        """Return those of elements of 12 EI / (GA L^2), shape (n,)."""
        x, weights = 0.5 * (1 + GAUSS), 0.5 * WEIGHTS
        turns, along = np.zeros((2, len(CURVED), len(y), ORDERS))
        for b, n in enumerate(CURVED):
            # Its curvature twice integrated is none at both ends.
            bend = Legendre.basis(n, domain=[0, 1]).convert(kind=Polynomial)
            turns[b, :, : n + 2] = bend.integ().coef
            if WAYS[b] == S:  # as much as ends would part by shear
                turns[b, :, 1:3] += (y / (1 + y))[:, None] * [1, -1]
        strain = -y[:, None] / 12 * _derived(_derived(turns))
        slopes = turns + strain
        along[..., 1:] = slopes[..., :-1] / np.arange(1, ORDERS)
        powers = x ** np.arange(ORDERS)[:, None]
        curves, strains, leans = _derived(turns) @ powers, strain @ powers, slopes @ powers
        pulls, couples = np.empty((2, *along.shape[:2]))
        of_ends = [np.ones((len(y), 1)) * (1 - 2 * x), (1 - 6 * x + 6 * x**2) / (1 + y)[:, None]]
        for way, ends in enumerate(of_ends):
            own = way == WAYS
            soft = np.where(y > 0, 12 / np.where(y > 0, y, 1.0), 0.0)
            stiff = np.einsum("ang,bng,g->nab", curves[own], curves[own], weights)
            stiff += soft[:, None, None] * np.einsum(
                "ang,bng,g->nab", strains[own], strains[own], weights
            )
            pressed = np.einsum("ang,bng,g->nab", leans[own], leans[own], weights)
            half = np.linalg.inv(np.linalg.cholesky(stiff))
            found, mixed = np.linalg.eigh(half @ pressed @ np.swapaxes(half, 1, 2))
            mixed = np.swapaxes(half, 1, 2) @ mixed
            pulls[own] = found.T
            couples[own] = np.einsum("ang,ng,g,nab->bn", leans[own], ends, weights, mixed)
            along[own] = np.einsum("ank,nab->bnk", along[own], mixed)
        return cls(along, pulls, couples)


class BeamColumns:
    """The elements of a frame in bending.

    Attributes
    ----------
    lengths : array, shape (E,), mm
    yields : array, shape (2, E)
        12 EI / (GA L^2) of each axis.
    stiff, pulls : array, shape (2, 2, E)
        Stiffness against turning ends, and what an axial force of one adds.
    couples : array, shape (5, 2, E)
        What an axial force of one makes of a turn in the bulge.
    loose : array, shape (2, E)
        0 where an element cannot bend about an axis, and axial forces make nothing of it; else 1.
    """

    def __init__(self, model: Model) -> None:
        L = self.lengths = model.lengths
        EI = self.EI = np.array([model.EI_major, model.EI_minor])
        y = self.yields = np.array([model.yields("major"), model.yields("minor")])
        # What cannot bend out of a plane cannot buckle so.
        goes = np.array([1.0, 0.0, 1.0]) if model.is_plane else np.ones(3)
        moves = np.abs(model.turn[:, list(SLIDES.values()), :3]) @ goes
        self.loose = (moves.T > 0.5).astype(float)
        self.all_loose = bool(self.loose.all())
        self.stiff = np.array([4 * EI / L, 12 * EI / (L * (1 + y))])
        self.pulls = np.array([L / 3 * np.ones_like(y), L / (5 * (1 + y) ** 2)])
        different, kind = np.unique(y, return_inverse=True)
        self.kind = kind.reshape(y.shape)
        self.bulges = Shapes.of(different)
        self.couples = self.bulges.couples[:, self.kind]
        self._bulge_pulls = self.bulges.pulls[:, self.kind]

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
        stiff, pulls, couples, of_bulges = (
            one[..., which, None]
            for one in (self.stiff, self.pulls, self.couples, self._bulge_pulls)
        )
        L = self.lengths[which, None]
        # In place: these are the largest arrays of the second order.
        pressed = pull * (L**2 / self.EI[:, which, None])  # over EI / L^2
        if bends is not None:
            pressed /= bends
        goes = L * pressed
        gives, loses = of_bulges * pressed, np.zeros(N.shape[1], dtype=bool)
        gives += 1.0
        if not gives.min(initial=1.0) > NOTHING:
            sound = gives > NOTHING
            loses |= ~sound.all(axis=(0, 1, 2))
            gives = np.where(sound, gives, np.inf)
        np.divide(goes, gives, out=gives)
        turning, part = np.empty((2, *pull.shape)), np.empty(pull.shape)
        turning[:] = pulls
        for b, way in enumerate(WAYS.tolist()):
            turning[way] -= np.multiply(couples[b] ** 2, gives[b], out=part)
        turning *= pull
        turning += stiff * share
        return Bent(turning, pull / L, pull, gives, loses)

    def off_forces(self, which: Any, bent: Bent, off: Off) -> Array:
        """Return what axial forces make of elements that are off the line, (2, 2, 2, n, C).

        At the start and at the end, force and moment, about each axis.
        """
        couples, moments = self.couples[..., which, None], off.turns[..., which, :].copy()
        part = np.empty(moments.shape[1:])
        for b, way in enumerate(WAYS.tolist()):
            np.multiply(bent.gives[b], off.bulges[b][:, which], out=part)
            part *= couples[b]
            moments[way] -= part
        moments *= bent.pull
        across = None if off.chord is None else bent.leaning * off.chord[:, which]
        return self._at_ends(which, moments, across)

    def ends_and_bulges(
        self, own: Array, N: Array, bends: Array | None, off: Off
    ) -> tuple[Array, Array]:
        """Return what elements' own movements, (E, 12, C), bring: at their ends, and in between.

        Returns
        -------
        tuple of arrays, shapes (2, 2, 2, E, C) and (5, 2, E, C)
            Forces and moments as of `off_forces`, and how far elements bulge.
        """
        every = slice(None)
        bent, (turns, leans) = self.resists(every, N, bends), self._turned(own)
        ends = self._at_ends(every, bent.turning * turns, bent.leaning * leans)
        ends += self.off_forces(every, bent, off)
        bulges = self.couples[..., None] * turns[WAYS]
        bulges += off.bulges
        bulges *= bent.gives
        return ends, np.negative(bulges, out=bulges)

    def shapes(self, which: Any) -> Array:
        """Return the bulges of some elements, polynomials of the place in each, (5, 2, n, 9)."""
        return self.bulges.along[:, self.kind[:, which]]

    def freedoms(self, turn: Array) -> tuple[Array, Array, Array, Array]:
        """Return what axial forces add where bulges are freedoms beside those of elements' ends.

        Parameters
        ----------
        turn : array, shape (E, 12, n)
            From those to elements' own.

        Returns
        -------
        tuple of arrays, shapes (E, n, n), (E, n, 10), (E, 10) and (E, 10)
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
        turned = (self.loose * self.pulls).transpose(2, 0, 1).reshape(-1, 4, 1)
        ways = slopes.reshape(len(turned), 4, -1)
        of_ends += ways.swapaxes(1, 2) @ (turned * ways)
        E, n = len(self.lengths), turn.shape[2]
        couples = (self.loose * self.couples).transpose(2, 0, 1)[..., None] * slopes[:, WAYS]
        pulls = (self.loose * self._bulge_pulls).transpose(2, 0, 1) / self.lengths[:, None, None]
        stiff = np.broadcast_to(self.EI / self.lengths**3, (len(WAYS), 2, E)).transpose(2, 0, 1)
        return (
            of_ends, couples.reshape(E, -1, n).swapaxes(1, 2), pulls.reshape(E, -1),
            stiff.reshape(E, -1),
        )  # fmt: skip

    def bowed(self, ends: Array) -> Off:
        """Return members that bow from the start in parabolas, whose ends are off, (E, 12, C)."""
        turns, leans = self._turned(ends)
        return Off(leans, self.pulls[..., None] * turns, self.couples[..., None] * turns[WAYS])

    def sagging(self, moments: Array) -> Off:
        """Return elements that sag under loads with their ends clamped.

        ``moments``, (7, 2, E, L), are the integrals of their deflections over the place from 0 to
        1, times its powers from 0 to 6.
        """
        w, y = moments, self.yields[..., None]
        turns = np.array([2 * w[0], (6 * w[0] - 12 * w[1]) / (1 + y)])
        curves = _derived(_derived(self.bulges.along))[..., :MOMENTS]
        bulges = np.einsum("baek,kael->bael", curves[:, self.kind], w, order="C")
        return Off(None, turns, -bulges / self.lengths[:, None])

    def mean_sag(self, off: Off, bulges: Array | None, axis: int, which: Any) -> Array:
        """Return how far some elements are on average beside what their ends bend them, (n, C).

        ``off`` is that of loads alone.
        """
        found = 0.5 * off.turns[ARC, axis, which]
        if bulges is None:
            return np.asarray(found)
        means = self.bulges.along[:, self.kind[axis, which]] @ (1.0 / np.arange(1, ORDERS + 1))
        return np.asarray(found + (means[..., None] * bulges[:, axis, which]).sum(axis=0))

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
    """Return the integrals of deflections over elements, (7, E, L).

    Over the place in each from 0 to 1, times its powers from 0 to 6.

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
    powers = s ** np.arange(MOMENTS)[:, None, None] * (weights * share[:, None])
    found = np.zeros((MOMENTS, len(places) - 1, len(c)))
    for power, of in zip(powers, found, strict=True):
        np.add.at(of, element, np.einsum("lig,ig->il", values, power))
    return found


def _derived(c: Array) -> Array:
    """Return the derivatives of polynomials, of as many coefficients."""
    found = np.zeros_like(c)
    found[..., :-1] = c[..., 1:] * np.arange(1, c.shape[-1])
    return found
