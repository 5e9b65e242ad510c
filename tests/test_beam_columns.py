"""Members of frames that bend under their axial force, in closed form; how frames are solved."""

from __future__ import annotations

import cmath
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.analysis.stiffness import Mechanism, Stiffness

L, E, G = 6000.0, 210_000.0, 81_000.0
SECTION = wb.section("HEA200")
EI, GA = E * SECTION.I_major, G * SECTION.shear_area_y
EULER = math.pi**2 * EI / L**2
PINNED, HELD, FIXED = {"support": "pinned"}, {"support": ["x"]}, {"support": ["x", "turn y"]}


def column(P, feet, head, load=(), down=False, **frame):
    """Return the only member of a frame, P on its head, and which combination is 1.0D.

    ``down`` draws it from its head to its foot.
    """
    joints = [{"name": "A", "at": ["0 mm", "0 mm"]} | feet,
              {"name": "B", "at": ["0 mm", f"{L} mm"]} | head]  # fmt: skip
    member = {"mark": "C", "role": "column", "through": ["B", "A"] if down else ["A", "B"],
              "section": "HEA200", "steel": "S355", "self_weight": False,
              "ends": ["fixed", "fixed"], "load": list(load)}  # fmt: skip
    job = wb.Job(
        standard="EN 1993-1-1", joint=joints, member=[member], combinations=["1.0D"],
        joint_load=[{"joint": "B", "case": "dead", "z": f"{-P} N"}],
        frame={"second_order": "analysed", "imperfections": False} | frame,
    )  # fmt: skip
    found = wb.check(job)["C"].forces
    return found, [one.name for one in found.combinations].index("1.0D")


def moments(found, c, x):
    """Return moments along it, sagging as the load has it."""
    M = found.diagrams["M_major"].at(x, np.r_[True, np.zeros(len(x) - 1, dtype=bool)])[c]
    return M * np.sign(M[len(x) // 2])


@pytest.mark.parametrize("share", [0.1, 0.5, 0.9, -0.5, -3.0])
def test_a_line_load(share):
    """Pinned, and clamped at both ends where that is four times as far from buckling."""
    x, q, close = np.linspace(0, L, 13), 4.0, 1e-3 if share < -1 else 1.5e-4
    line = [{"case": "dead", "line": f"{q} kN/m"}]
    k = cmath.sqrt(share * EULER / EI)
    expected = q / k**2 * (np.cos(k * (L / 2 - x)) / cmath.cos(k * L / 2) - 1)
    found, c = column(share * EULER, PINNED, HELD, line)
    assert moments(found, c, x) == pytest.approx(expected.real, abs=close * expected.real.max())
    u = k * L
    at_ends, middle = q / (2 * k) ** 2 * (u / cmath.tan(u) - 1), q / (2 * k) ** 2 * (
        u / cmath.sin(u) - 1
    )  # fmt: skip
    found, c = column(4 * share * EULER, {"support": "fixed"}, FIXED, line)
    M = moments(found, c, x)
    assert M[[0, 6, 12]] == pytest.approx(
        [at_ends.real, middle.real, at_ends.real], abs=close * abs(at_ends)
    )


@pytest.mark.parametrize("share", [0.1, 0.5, 0.9, -0.5, -2.0])
@pytest.mark.parametrize("place", [0.15, 0.4, 0.5])
def test_a_point_load(share, place):
    x, a, close = np.linspace(0, L, 41), place * L, 2e-3 if share < -1 else 5e-5
    k = cmath.sqrt(share * EULER / EI)
    low, high = np.minimum(x, a), np.maximum(x, a)
    expected = 9e3 / k * np.sin(k * low) * np.sin(k * (L - high)) / cmath.sin(k * L)
    load = [{"case": "dead", "point": "9 kN", "at": f"{a} mm"}]
    found, c = column(share * EULER, PINNED, HELD, load)
    assert moments(found, c, x) == pytest.approx(expected.real, abs=close * expected.real.max())


@pytest.mark.parametrize(
    ("feet", "head", "times"),
    [
        (PINNED, HELD, 1.0), ({"support": "fixed"}, {}, 0.25), ({"support": "fixed"}, FIXED, 4.0),
        ({"support": "fixed"}, HELD, (4.493409457909064 / math.pi) ** 2),
        ({"support": "fixed"}, {"support": ["turn y"]}, 1.0),
    ],
)  # fmt: skip
def test_critical_loads(feet, head, times):
    found, c = column(0.3 * times * EULER, feet, head)
    assert found.share[c] == pytest.approx(0.3, rel=2e-6 if times > 1 else 1e-8)


@pytest.mark.parametrize(("feet", "head", "times"), [(PINNED, HELD, 1), ("fixed", {}, 0.25)])
def test_what_yields_to_shear_buckles_earlier(feet, head, times):
    """Engesser: one over the load is the sum of that over Euler's and over GA."""
    feet = {"support": feet} if feet == "fixed" else feet
    critical = 1 / (1 / (times * EULER) + 1 / GA)
    found, c = column(0.4 * critical, feet, head, shear=True)
    assert found.share[c] == pytest.approx(0.4, rel=1e-9)


@pytest.mark.parametrize("share", [1e-3, 0.1, 0.6])
@pytest.mark.parametrize("down", [False, True])
def test_a_mast_under_its_own_weight(share, down):
    """Greenhill's: the first zero of Bessel's function of order -1/3 is 1.8663509."""
    weight = share * (1.5 * 1.8663508588) ** 2 * EI / L**3
    line = {"case": "dead", "line": f"{weight} kN/m", "direction": "vertical"}
    found, c = column(1e-3, {"support": "fixed"}, {}, [line], down)
    assert found.share[c] == pytest.approx(share, rel=2e-3, abs=1e-4)


@pytest.mark.parametrize("shear", [False, True])
@pytest.mark.parametrize("divisions", [1, 2, 5])
def test_it_is_the_same_however_it_is_cut(shear, divisions):
    """Where compression is little; at both ends, with a point load and a line load that changes."""
    load = [{"case": "dead", "point": "9 kN", "at": "1700 mm"},
            {"case": "dead", "line": ["-3 kN/m", "5 kN/m"]}]  # fmt: skip
    x = np.linspace(0, L, 25)
    fine, cut = (
        moments(*column(0.1 * EULER, {"support": "fixed"}, HELD, load, shear=shear,
                        divisions=count), x)
        for count in (20, divisions)
    )  # fmt: skip
    close = {1: 3e-6, 2: 1e-6, 5: 1e-7}[divisions]
    assert cut == pytest.approx(fine, abs=close * np.abs(fine).max())


# The factor of a large stiffness, in an order that follows from where its freedoms are


def random_stiffness(seed, places):
    """Return springs between random neighbours, all of them held softly, and the dense matrix."""
    pick, n = np.random.default_rng(seed), len(places)
    near = np.argsort(((places[:, None] - places) ** 2).sum(axis=-1), axis=1)[:, 1:5]
    pairs = np.concatenate([np.repeat(np.arange(n), 4)[:, None], near.reshape(-1, 1)], axis=1)
    stiff = pick.uniform(0.1, 10, len(pairs))
    elements = stiff[:, None, None] * np.array([[1.0, -1.0], [-1.0, 1.0]])
    springs = dict(enumerate(pick.uniform(0.01, 0.1, n).tolist()))
    whole = Stiffness.assembled(pairs, elements, springs, n, places)
    return whole, whole.dense(np.zeros(n, dtype=bool))


@settings(max_examples=12, deadline=None)
@given(st.integers(0, 2**20), st.integers(201, 700), st.sampled_from([0, 1, 3, 50]))
def test_a_stiffness_of_many_freedoms(seed, count, kinds):
    """Freedoms scattered in space, or on a few planes, or many at one place."""
    pick = np.random.default_rng(seed)
    places = pick.uniform(0, 10, (count, 3))
    if kinds:
        places[:, 0] = pick.integers(0, kinds, count)
        places[: count // 3] = places[0]
    whole, dense = random_stiffness(seed, places)
    load = pick.standard_normal((count, 3))
    held = {int(i): pick.standard_normal(3) for i in pick.choice(count, 5, replace=False)}
    found = whole.solved(load, held)
    free = np.setdiff1d(np.arange(count), list(held))
    assert found[list(held)] == pytest.approx(np.array(list(held.values())))
    assert (dense @ found)[free] == pytest.approx(load[free], abs=1e-9)


def test_pieces_that_nothing_holds_are_mechanisms():
    """A chain that is cut in the middle, one half of it without springs."""
    pick, n = np.random.default_rng(5), 600
    first = np.setdiff1d(np.arange(n - 1), [n // 2 - 1])
    elements = pick.uniform(0.1, 10, len(first))[:, None, None] * np.array([[1, -1], [-1, 1.0]])
    pairs = pick.permutation(n)[np.stack([first, first + 1], axis=1)]
    loose = pairs[-1, 1]
    springs = {int(i): 0.5 for i in pairs[: n // 2 - 1].ravel()}
    chain = Stiffness.assembled(pairs, elements, springs, n, pick.uniform(0, 10, (n, 3)))
    with pytest.raises(Mechanism):
        chain.solved(np.ones((n, 1)), {})
    found = chain.solved(np.ones((n, 1)), {int(loose): np.zeros(1)})
    # The last spring but one of the loose half takes what acts on all beyond it.
    (a, b), stiff = pairs[-1], elements[-1, 0, 0]
    assert stiff * (found[a, 0] - found[b, 0]) == pytest.approx(n / 2 - 1, rel=1e-9)
