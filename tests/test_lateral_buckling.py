"""Lateral buckling by eigenvalue: closed forms, series solutions, restraints, monosymmetry."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.analysis.lateral_buckling import (
    AllAlong,
    Hold,
    Stiffnesses,
    buckling,
    gauss_places,
    mesh,
)
from welbric.errors import InputError

E, G, L = 200e3, 77e3, 6000.0
S = wb.section("IPE300")
EI, GJ, ECw = E * S.I_minor, G * S.J, E * S.Cw
HALF = S.d / 2
ENDS = [Hold(0, u=True, twist=True), Hold(L, u=True, twist=True)]


def uniform(length=L, s=S, half_wave=1):
    """Timoshenko's critical uniform moment between forks."""
    k = half_wave * np.pi / length
    return k * np.sqrt(E * s.I_minor * (G * s.J + k**2 * E * s.Cw))


def plain(s=S):
    return Stiffnesses(E * s.I_minor, G * s.J, E * s.Cw, s.beta_major, s.shear_y - s.y, s.r_polar)


def solve(moment, holds=ENDS, length=L, N=0.0, lift=0.0, points=(), of=None, least=8, places=()):
    """Return the factor; `lift` is the line load times its height."""
    at = [h.at for h in holds if isinstance(h, Hold)] + [p for p, _ in points] + list(places)
    nodes = mesh(length, at, least)
    x = gauss_places(nodes)
    M = moment(x) + 0.0 * x
    found = buckling(
        nodes, of or plain(), M, np.full_like(x, N), np.full_like(x, lift), points, holds
    )
    return float(found.factor[0])


def even(x):
    return 1.0 + 0.0 * x


def test_uniform_moment_and_convergence():
    """The error falls with the fourth power of the elements; the default's is under 0.1 %."""
    errors = [solve(even, least=n) / uniform() - 1 for n in (2, 4, 8, 16)]
    assert abs(errors[2]) < 1e-3
    for coarse, fine in pairwise(errors):
        assert fine == pytest.approx(coarse / 16, rel=0.3)


@given(st.floats(2000, 15000), st.sampled_from(["W8X24", "W18X50", "HEB300", "W36X135", "IPE600"]))
@settings(max_examples=15)
def test_uniform_moment_of_other_beams(length, name):
    s = wb.section(name)
    ends = [Hold(0, u=True, twist=True), Hold(length, u=True, twist=True)]
    assert solve(even, ends, length, of=plain(s)) == pytest.approx(uniform(length, s), rel=1e-3)


# Moment shape, the lift of its load, points -> Cb. Bare shapes have no lift.
# Salvadori's lower-bound curve and the handbook values of Timoshenko and Gere, within 3 %.
SHAPES = {
    "straight to zero": (lambda x: 1 - x / L, 1.84),
    "reversed": (lambda x: 1 - 2 * x / L, 2.70),
    "uniform load": (lambda x: 4 * x * (L - x) / L**2, 1.13),
    "central force": (lambda x: 2 * np.minimum(x, L - x) / L, 1.36),
}


@pytest.mark.parametrize("name", SHAPES)
def test_moment_shapes(name):
    moment, Cb = SHAPES[name]
    assert solve(moment, places=[L / 2]) / uniform() == pytest.approx(Cb, rel=0.03)


@pytest.mark.parametrize(
    ("C1", "C2", "moment", "lift", "points"),
    [
        (1.13, 0.459, lambda x: x * (L - x) / 2, 1.0, []),
        (1.36, 0.55, lambda x: np.minimum(x, L - x) / 2, 0.0, [(L / 2, 1.0)]),
    ],
)
@pytest.mark.parametrize("height", [HALF, 0.0, -HALF])
def test_load_height(C1, C2, moment, lift, points, height):
    """The three-factor formula (ENV 1993-1-1 annex F): C1 and C2, load at a height."""
    lifted = [(at, P * height) for at, P in points]
    factor = solve(moment, lift=lift * height, points=lifted, places=[L / 2])
    P = np.pi**2 * EI / L**2
    root = np.sqrt(ECw / EI + GJ / P + (C2 * height) ** 2)
    expected = C1 * P * (root - C2 * height)
    largest = moment(np.array(L / 2))
    assert factor * largest == pytest.approx(expected, rel=0.04)


def test_cantilevers():
    """Timoshenko, for a strip that does not warp: P L2 = 4.013 sqrt(EI GJ), w L3 = 12.85 of it."""
    strip = Stiffnesses(EI, GJ, 1e-6 * ECw)
    root = [Hold(0, u=True, twist=True, turn=True)]
    tip = solve(lambda x: -(L - x), root, of=strip, least=24)
    assert tip * L**2 == pytest.approx(4.013 * np.sqrt(EI * GJ), rel=0.003)
    line = solve(lambda x: -((L - x) ** 2) / 2, root, of=strip, least=24)
    assert line * L**3 == pytest.approx(12.85 * np.sqrt(EI * GJ), rel=0.003)


def test_a_hold_at_the_middle():
    """At the shear centre or at the flange in compression: the second mode; at the other: less."""
    whole, second = uniform(), uniform(half_wave=2)
    held = {
        a: solve(even, [*ENDS, Hold(L / 2, height=a)], least=16)
        for a in (HALF, 0.0, -0.3 * HALF, -HALF)
    }
    assert held[HALF] == pytest.approx(second, rel=1e-3)
    assert solve(even, [*ENDS, Hold(L / 2, u=True, twist=True)]) == pytest.approx(second, rel=1e-3)
    assert whole < held[-HALF] < held[-0.3 * HALF] <= held[0.0] * 1.001 <= second * 1.002
    soft, stiff = (solve(even, [*ENDS, Hold(L / 2, spring=k, height=HALF)]) for k in (1e-3, 1e6))
    assert soft == pytest.approx(whole, rel=1e-3)
    assert stiff == pytest.approx(second, rel=1e-3)
    twist_only = solve(even, [*ENDS, Hold(L / 2, twist=True)])
    assert twist_only == pytest.approx(second, rel=1e-3)  # uniform moment: twist is enough


def test_continuous_lengths():
    """The tension flange held: Mcr = (ECw + EI a2) (n pi / L)2 / 2a + GJ / 2a, at its least n."""
    a = HALF
    found = solve(even, [*ENDS, AllAlong(-a)], least=16)
    modes = [((ECw + EI * a**2) * (n * np.pi / L) ** 2 + GJ) / (2 * a) for n in (1, 2, 3)]
    assert found == pytest.approx(min(modes), rel=2e-3)
    assert solve(even, [*ENDS, AllAlong(a)], least=16) > 20 * uniform()


def test_columns():
    """Flexure: Euler; twist: (GJ + pi2 ECw / L2) / r2; a tee: the quadratic of both."""
    P = np.pi**2 * EI / L**2
    assert solve(lambda x: 0 * x, N=-1.0) == pytest.approx(P, rel=1e-3)
    turned = [*ENDS, AllAlong(0.0)]
    twist = (GJ + np.pi**2 * ECw / L**2) / S.r_polar**2
    assert solve(lambda x: 0 * x, turned, N=-1.0) == pytest.approx(twist, rel=2e-3)
    tee = wb.section("WT9X25")
    Py = np.pi**2 * E * tee.I_minor / L**2
    Pz = (G * tee.J + np.pi**2 * E * tee.Cw / L**2) / tee.r_polar**2
    H = 1 - (tee.shear_y - tee.y) ** 2 / tee.r_polar**2
    joint = (Py + Pz) / (2 * H) * (1 - np.sqrt(1 - 4 * Py * Pz * H / (Py + Pz) ** 2))
    assert solve(lambda x: 0 * x, N=-1.0, of=plain(tee)) == pytest.approx(joint, rel=1e-3)


@pytest.mark.parametrize("sense", [1.0, -1.0])
def test_monosymmetry(sense):
    """Uniform moment in either sense: the closed form with the Wagner term."""
    sizes = dict(d=400, bf_top=220, tf_top=16, bf_bottom=120, tf_bottom=12, tw=8)
    s = wb.table_of("unequal I", ["U"], **sizes)[0]
    P = np.pi**2 * E * s.I_minor / L**2
    half = -sense * s.beta_major / 2
    expected = P * (half + np.sqrt(half**2 + s.Cw / s.I_minor + G * s.J / P))
    found = solve(lambda x: sense + 0 * x, of=plain(s))
    assert found == pytest.approx(expected, rel=1e-3)
    assert (half > 0) == (sense > 0)  # the larger flange in compression is the stronger way


def test_moment_and_compression():
    """(M / M0)2 = (1 - P / Py) (1 - P / Pz) (Timoshenko)."""
    Py = np.pi**2 * EI / L**2
    Pz = (GJ + np.pi**2 * ECw / L**2) / S.r_polar**2
    P = 0.4 * Py
    M = uniform() * np.sqrt((1 - P / Py) * (1 - P / Pz))
    assert solve(lambda x: M + 0 * x, N=-P) == pytest.approx(1.0, rel=1e-3)


def test_two_spans_under_uniform_moment_are_the_longer_one_helped():
    holds = [*ENDS, Hold(2500, u=True, twist=True)]
    factor = solve(even, holds)
    assert uniform(3500) < factor < uniform(2500)


def test_many_sections_at_once():
    table = wb.catalogue("channel")
    of = Stiffnesses(E * table.I_minor, G * table.J, E * table.Cw, 0.0, 0.0, table.r_polar)
    nodes = mesh(L, [])
    x = gauss_places(nodes)
    zero = np.zeros_like(x)
    found = buckling(nodes, of, 1.0 + zero, zero, zero, [], ENDS)
    expected = np.pi / L * np.sqrt(of.EI * (of.GJ + np.pi**2 * of.ECw / L**2))
    assert found.factor == pytest.approx(expected, rel=1e-3)
    assert found.u.shape == (len(table), len(nodes))
    assert np.abs(found.u[0] - np.sin(np.pi * nodes / L)).max() < 0.02 or (
        np.abs(found.u[0] + np.sin(np.pi * nodes / L)).max() < 0.02
    )


def test_nothing_that_holds_is_refused():
    with pytest.raises(InputError, match="hold it at its supports"):
        solve(even, [Hold(0, u=True, twist=True)])
    assert np.isinf(solve(lambda x: 0 * x, N=1.0))


def job(**more):
    fields = {"mark": "B", "section": "W18X50", "span": "8 m", "self_weight": False} | more
    loads = fields.pop("loads", [{"case": "dead", "line": "10 kN/m"}])
    member = wb.Member(loads=loads, **fields)
    return wb.Job(members=[member], combinations=["1D"]), member


def test_from_a_member():
    whole, member = job()
    found = wb.lateral_buckling(whole, member.mark, "1D")
    s, modulus, shear = member.section, 29000 * 6.894757293, 11200 * 6.894757293
    k = np.pi / 8000
    M0 = k * np.sqrt(modulus * s.I_minor * (shear * s.J + k**2 * modulus * s.Cw))
    assert found.moment == pytest.approx(10 * 8000**2 / 8)
    assert found.Mcr == pytest.approx(1.13 * M0, rel=0.01)
    assert found.segments[0].moment_shape == pytest.approx(1.13, rel=0.01)
    top = [{"case": "dead", "line": "10 kN/m", "on": "top"}]
    whole, member = job(loads=top)
    assert wb.lateral_buckling(whole, member.mark, "1D").factor < 0.85 * found.factor
    rows = {row.name: row for row in wb.check(whole)["B"].rows}
    assert rows["loads off the shear centre"].status == "outside"
    whole, member = job(loads=top, restraint={"top": "continuous", "bottom": "continuous"})
    assert "loads off the shear centre" not in {row.name for row in wb.check(whole)["B"].rows}


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"section": "C12X20.7"}, "is not symmetric about its web: outside"),
        ({"loads": [], "forces": [{"name": "F", "moment_major": ["9 kN m"]}]}, "needs loads"),
    ],
)
def test_what_the_solution_does_not_cover(fields, words):
    whole, member = job(**fields)
    with pytest.raises(wb.InputError, match=words):
        wb.lateral_buckling(whole, member.mark)


def test_springs_against_turning_and_warping():
    """From free to fixed ends: the factor rises from that of L to that of L / 2."""
    L, EI, GJ, ECw = 6000.0, 1.2e12, 1.6e10, 2.5e16
    nodes = mesh(L, [])
    zero = np.zeros_like(gauss_places(nodes))

    def factor(spring):
        springs = {"turn_spring": spring * EI / L, "warping_spring": spring * ECw / L}
        holds = [Hold(x, u=True, twist=True, **springs) for x in (0.0, L)]
        of = Stiffnesses(EI, GJ, ECw)
        return float(buckling(nodes, of, zero + 1e6, zero, zero, [], holds).factor[0])

    def closed(length):
        P = np.pi**2 * EI / length**2
        return np.sqrt(P * (GJ + np.pi**2 * ECw / length**2)) / 1e6

    found = [factor(spring) for spring in (0.0, 0.1, 1.0, 10.0, 1e6)]
    assert found == sorted(found)
    assert found[0] == pytest.approx(closed(L), rel=1e-3)
    assert found[-1] == pytest.approx(closed(L / 2), rel=2e-3)


@pytest.mark.parametrize("hold", ["continuous", {"at": ["4 m"]}])
def test_close_places_change_nothing(hold):
    """Loads of next to nothing, and places beside restraints and supports, leave the factor."""

    def found(extra, **more):
        member = wb.Member(
            mark="B", section="IPE300", steel="S355", span="8 m", self_weight=False,
            restraint={"top": hold, "bottom": {"at": ["2 m"]}},
            loads=[{"case": "live", "line": "-6 kN/m"}, *extra], **more,
        )  # fmt: skip
        return wb.Job(members=[member], combinations=["1L"])

    def factor(job):
        return wb.lateral_buckling(job, job.members[0].mark, "1L").factor

    plain = factor(found([]))
    for apart in (8e-6, 1e-3, 5e-3, 0.05, 0.7):
        places = [apart, 2 - apart, 2 + apart, 4, 4 + apart, 8 - apart]
        crowd = [{"case": "live", "point": "0.01 N", "at": [f"{x} m" for x in places]}]
        assert factor(found(crowd)) == pytest.approx(plain, rel=3e-4)
    mine, other = (
        wb.check(found(extra, design={"Cb": "eigenvalue"}))["B"] for extra in (crowd, [])
    )
    assert mine.utilisation == pytest.approx(other.utilisation, rel=3e-4)


def test_rigid_holds_are_the_limit_of_stiff_ones():
    """A hold at a height that is exact, against a spring that grows."""
    places = [L / 3, L / 2]
    exact = solve(even, [*ENDS, Hold(L / 3, height=HALF), Hold(L / 2, u=True)], places=places)
    for power in (4, 6):
        soft = [*ENDS, Hold(L / 3, height=HALF, spring=10.0**power), Hold(L / 2, u=True)]
        assert solve(even, soft, places=places) == pytest.approx(exact, rel=10.0 ** (2 - power))
    along = solve(even, [*ENDS, AllAlong(HALF)])
    both = solve(even, [*ENDS, AllAlong(HALF), AllAlong(-HALF, 0.0, L / 2), Hold(L / 2, u=True)],
                 places=[L / 2])  # fmt: skip
    assert both >= along
    assert solve(even, [*ENDS, AllAlong(HALF), AllAlong(-HALF)]) == np.inf
