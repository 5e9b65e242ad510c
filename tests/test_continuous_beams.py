"""Beams on several supports: tables, the three-moment equation, reciprocity, mesh, springs."""

from __future__ import annotations

import itertools

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.analysis.beam import Support, bend, end_supports
from welbric.analysis.member_loads import (
    Curvature,
    LineLoad,
    MomentLoad,
    Movement,
    PointLoad,
    breaks_of,
)
from welbric.errors import InputError
from welbric.loads.combinations import patterns

EI, w, P, L = 2.0e13, 12.0, 40e3, 6000.0


def solve(loads, supports, length, EI=EI, hinges=(), more=(), GA=None):
    breaks = breaks_of(length, [loads], [*(s.at for s in supports), *hinges, *more])
    if callable(EI):
        EI = EI(0.5 * (breaks[:-1] + breaks[1:]))
    return bend(breaks, [loads], supports, EI, hinges, GA)


def at(diagram, x, right=False):
    return float(diagram.at(np.array([x]), np.array([right]))[0, 0])


def pinned(*places):
    return [Support(float(x)) for x in places]


def equal(count, length=L):
    return pinned(*(i * length for i in range(count + 1)))


# Equal spans under a uniform load: support moments over w L2 and reactions over w L, from the
# three-moment equation (textbook tables).
EQUAL = {
    2: ([0, -1 / 8, 0], [3 / 8, 10 / 8, 3 / 8]),
    3: ([0, -1 / 10, -1 / 10, 0], [4 / 10, 11 / 10, 11 / 10, 4 / 10]),
    4: ([0, -3 / 28, -2 / 28, -3 / 28, 0], [11 / 28, 32 / 28, 26 / 28, 32 / 28, 11 / 28]),
    5: ([0, -4 / 38, -3 / 38, -3 / 38, -4 / 38, 0],
        [15 / 38, 43 / 38, 37 / 38, 37 / 38, 43 / 38, 15 / 38]),
}  # fmt: skip


@pytest.mark.parametrize("count", EQUAL)
def test_equal_spans(count):
    moments, reactions = EQUAL[count]
    found = solve([LineLoad(0, count * L, w, w)], equal(count), count * L)
    assert found.reactions[0] == pytest.approx(np.array(reactions) * w * L, rel=1e-9)
    for i, moment in enumerate(moments):
        near = pytest.approx(moment * w * L**2, abs=1e-9 * w * L**2)
        assert at(found.moment, i * L) == near


# loads, supports, length: what is known at a place.
KNOWN = {
    "two spans, force in the first middle": (
        [PointLoad(L / 2, P)], equal(2), 2 * L, "moment", L, -3 / 32 * P * L),
    "two spans, one loaded": (
        [LineLoad(0, L, w, w)], equal(2), 2 * L, "moment", L, -w * L**2 / 16),
    "two spans, sinking middle": (
        [Movement(L, 10.0)], equal(2), 2 * L, "moment", L, 3 * EI * 10 / L**2),
    "fixed, one end sinks": (
        [Movement(L, 10.0)], end_supports(L, "fixed", "fixed"), L,
        "moment", 0, -6 * EI * 10 / L**2),
    "overhang, force at the tip": (
        [PointLoad(L + 2000, P)], [*pinned(0, L), Support(L + 2000, held=False)], L + 2000,
        "deflection", L + 2000, P * 2000**2 * (L + 2000) / (3 * EI)),
    "overhang, the span's uplift": (
        [PointLoad(L + 2000, P)], pinned(0, L), L + 2000,
        "deflection", L / np.sqrt(3), -P * 2000 * L**2 / (9 * np.sqrt(3) * EI)),
    "fixed, with a curvature": (
        [Curvature(0, L, 1e-6)], end_supports(L, "fixed", "fixed"), L, "moment", L / 3, -EI * 1e-6),
    "pinned, with a curvature": (
        [Curvature(0, L, 1e-6)], pinned(0, L), L, "deflection", L / 2, 1e-6 * L**2 / 8),
    "on a spring at the tip": (
        [PointLoad(L, P)],
        [Support(0, clamped=True), Support(L, held=False, spring=3 * EI / L**3)], L,
        "deflection", L, P * L**3 / (6 * EI)),
    "rotation spring at an end": (
        [LineLoad(0, L, w, w)],
        [Support(0, rotation_spring=3 * EI / L), Support(L)], L, "moment", 0, -w * L**2 / 16),
    "hinge beside a fixed end": (
        [LineLoad(0, 2 * L, w, w)], [Support(0, clamped=True), Support(2 * L)], 2 * L,
        "moment", 0, -w * L**2, [L]),
    "portal lintel: moment at a fixed far end": (
        [MomentLoad(0, 1e6)], [Support(0), Support(L, clamped=True)], L, "moment", L, -0.5e6),
}  # fmt: skip


@pytest.mark.parametrize("name", KNOWN)
def test_known_beams(name):
    loads, supports, length, kind, place, expected, *hinges = KNOWN[name]
    found = solve(loads, supports, length, hinges=hinges[0] if hinges else ())
    assert at(getattr(found, kind), place) == pytest.approx(expected, rel=1e-9)


@given(
    st.lists(st.floats(1000, 12000), min_size=2, max_size=7),
    st.lists(st.floats(-20, 20), min_size=7, max_size=7),
)
def test_three_moment_equation(spans, line):
    """Uniform loads of each span: M1 L1 + 2 M2 (L1 + L2) + M3 L2 = -(w1 L1^3 + w2 L2^3) / 4."""
    joints = [0.0, *itertools.accumulate(spans)]
    loads = [
        LineLoad(a, b, q, q) for (a, b), q in zip(itertools.pairwise(joints), line, strict=False)
    ]
    found = solve(loads, pinned(*joints), joints[-1])
    M = [at(found.moment, x) for x in joints]
    for i in range(1, len(spans)):
        a, b = spans[i - 1], spans[i]
        left = M[i - 1] * a + 2 * M[i] * (a + b) + M[i + 1] * b
        right = -(line[i - 1] * a**3 + line[i] * b**3) / 4
        assert left == pytest.approx(right, abs=1e-9 * 20 * 12000**3)
    total = sum(q * s for q, s in zip(line, spans, strict=False))
    assert found.reactions.sum() == pytest.approx(total, abs=1e-7 * 20 * sum(spans))


@given(st.floats(100, 17900), st.floats(100, 17900), st.sampled_from([(), (9000.0,)]))
@settings(max_examples=30)
def test_reciprocity_and_mesh_independence(a, b, hinges):
    """Maxwell and Betti; and nodes that need not be there change nothing."""
    supports = [Support(0, clamped=True), Support(6000), Support(11000, False, spring=900.0),
                Support(18000, rotation_spring=1e9)]  # fmt: skip
    one = solve([PointLoad(a, P)], supports, 18000, hinges=hinges, more=[b])
    other = solve([PointLoad(b, P)], supports, 18000, hinges=hinges, more=[a])
    scale = P * 6000**3 / EI
    assert at(one.deflection, b) == pytest.approx(at(other.deflection, a), abs=1e-9 * scale)
    extra = [Support(x, held=False) for x in (2500.0, 7000.0, 15000.0)]
    fine = solve([PointLoad(a, P)], [*supports, *extra], 18000, hinges=hinges, more=[b])
    x = np.linspace(0, 18000, 37)
    side = np.zeros(37, bool)
    assert fine.moment.at(x, side) == pytest.approx(one.moment.at(x, side), abs=1e-8 * P * 6000)


def test_a_stepped_cantilever():
    """Mohr: the tip's deflection is the first moment of M / EI."""

    def stiffness(x):
        return np.where(x < 2000, 3 * EI, EI)

    found = solve([PointLoad(L, P)], [Support(0, clamped=True)], L, EI=stiffness, more=[2000])
    expected = P * ((L**3 - 4000**3) / (3 * 3 * EI) + 4000**3 / (3 * EI))
    assert at(found.deflection, L) == pytest.approx(expected, rel=1e-12)


def test_shear_deflection():
    """Timoshenko: a central force adds P L / (4 GA), a uniform load w L2 / (8 GA)."""
    GA = 5e7
    point = solve([PointLoad(L / 2, P)], pinned(0, L), L, GA=GA)
    assert at(point.deflection, L / 2) == pytest.approx(P * L**3 / (48 * EI) + P * L / (4 * GA))
    line = solve([LineLoad(0, L, w, w)], end_supports(L, "fixed", "fixed"), L, GA=GA)
    expected = w * L**4 / (384 * EI) + w * L**2 / (8 * GA)
    assert at(line.deflection, L / 2) == pytest.approx(expected, rel=1e-9)


@pytest.mark.parametrize(
    ("supports", "hinges", "words"),
    [
        ([Support(0)], (), "free to (fall|turn)"),
        (equal(1), (L / 2,), "free to fall at 3 m"),
        (equal(2), (2000.0, 4000.0), "free to fall at (2|4) m"),
    ],
)
def test_mechanisms_are_named(supports, hinges, words):
    with pytest.raises(InputError, match=words):
        solve([], supports, supports[-1].at or L, hinges=hinges)


def member(**more):
    fields = {"mark": "M", "section": "W16X31", "spans": ["6 m", "8 m", "6 m"]} | more
    loads = fields.pop(
        "loads", [{"case": "dead", "line": "5 kN/m"}, {"case": "live", "line": "9 kN/m"}]
    )
    return wb.Member(loads=loads, self_weight=False, **fields)


def result(one, **job):
    return wb.check(wb.Job(members=[one], **job))["M"]


def test_patterns_envelope_every_loading():
    """Of all ways to load the spans, the patterns hold the largest moments and reactions."""
    assert [sorted(p) for p in patterns(3)] == [[1, 3], [2], [1, 2], [3], [2, 3], [1]]
    found = result(member(pattern=True), combinations=["1L"])
    mine = [c for c in found.forces.combinations if c.name.startswith("1L")]
    keep = [found.forces.combinations.index(c) for c in mine]
    places = np.array([3000.0, 6000.0, 10000.0, 14000.0])  # quarter points and supports
    spans = [(0, 6000), (6000, 14000), (14000, 20000)]
    every = []
    for chosen in itertools.product((0, 1), repeat=3):
        loads = [LineLoad(a, b, 9 * k, 9 * k) for (a, b), k in zip(spans, chosen, strict=True)]
        one = solve(loads, pinned(0, 6000, 14000, 20000), 20000)
        every.append(one.moment.at(places, places < 0)[0])
    mine = [np.interp(places, found.forces.x[c], found.forces.M_major[c]) for c in keep]
    assert np.max(mine, axis=0) == pytest.approx(np.max(every, axis=0), rel=1e-6, abs=1)
    assert np.min(mine, axis=0) == pytest.approx(np.min(every, axis=0), rel=1e-6, abs=1)


def test_a_continuous_member_from_the_outside():
    found = result(member(deflection={"live": 360}, restraint={"top": {"every": "2 m"}}))
    assert list(found.reactions()) == ["start", "support 2", "support 3", "end"]
    lengths = {s.end - s.start for s in found.segments if s.flange == "bottom"}
    assert lengths == {6000.0, 8000.0}
    live = next(row for row in found.rows if row.name == "deflection, live")
    assert live.capacity == pytest.approx(8000 / 360)
    assert live.place == pytest.approx(10000)
    squeezed = result(
        member(section="W12X58", height=None, loads=[{"case": "dead", "compression": "300 kN"}])
    )
    assert any("unbraced length 26.25 ft" in note for note in squeezed.notes)  # the longest span


def test_supports_hinges_springs_and_settlement():
    hinged = result(member(spans=["6 m", "8 m"], hinges=["7.5 m"]))
    assert at_station(hinged, 7500) == pytest.approx(0, abs=1e-3)
    held = result(member(spans=["12 m"], support=[{"at": "6 m"}]))
    twice = result(member(spans=["6 m", "6 m"]))
    assert held.forces.M_major.min() == pytest.approx(twice.forces.M_major.min(), rel=1e-9)
    soft = {"at": "6 m", "hold": "none", "spring": "0.001 kN/mm"}
    loose = result(member(spans=["12 m"], support=[soft]))
    alone = result(member(spans=["12 m"]))
    assert loose.forces.M_major.max() == pytest.approx(alone.forces.M_major.max(), rel=2e-3)
    sinking = [{"case": "dead", "settlement": "10 mm", "at": "6 m"}]
    sunk = result(member(spans=["6 m", "6 m"], loads=sinking), combinations=["1D"])
    I = wb.section("W16X31").I_major  # noqa: E741
    E = 29000 * 6.894757293168361
    assert sunk.forces.M_major[-1].max() == pytest.approx(3 * E * I * 10 / 6000**2, rel=1e-6)


def at_station(found, place):
    here = np.abs(found.forces.x - place) < 1e-6
    return np.abs(found.forces.M_major[here]).max()


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"spans": ["6 m", "0 m"]}, "spans: a length is greater than zero"),
        ({"span": "6 m"}, "one of the three"),
        ({"hinges": ["2 m", "4 m"]}, "mechanism; .* free to fall"),
        ({"hinges": ["25 m"]}, "hinges: 25 m .82.02 ft. is not between the ends"),
        ({"support": [{"at": "30 m"}]}, "support: 30 m .98.43 ft. is not between"),
        ({"support": [{"at": "3 m", "spring": "-1 kN/mm", "hold": "none"}]}, "greater than zero"),
        ({"support": [{"at": "3 m", "hold": "none"}]}, "needs a spring"),
        ({"spans": ["6 m"], "pattern": True}, "pattern: needs more than one span"),
        ({"loads": [{"case": "dead", "settlement": "9 mm", "at": "3 m"}]},
         "no support settles at 3 m"),
    ],
)  # fmt: skip
def test_what_cannot_stand_is_refused(fields, words):
    with pytest.raises(wb.InputError, match=words):
        wb.resolve(member(**fields))
