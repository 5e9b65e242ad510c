from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from welbric.analysis.beam import bend, end_supports
from welbric.analysis.diagram import roots_in_unit_interval
from welbric.analysis.member_loads import (
    AxialLineLoad,
    AxialLoad,
    LineLoad,
    MomentLoad,
    PointLoad,
    axial,
    breaks_of,
)
from welbric.errors import InputError

L, w, P, M0 = 8000.0, 12.0, 40e3, 30e6
PIN, FIX, FREE = "pinned", "fixed", "free"
UDL = [LineLoad(0, L, w, w)]
MID = [PointLoad(L / 2, P)]


def extremes(loads, start, end):
    span = bend(breaks_of(L, [loads]), [loads], end_supports(L, start, end), 1.0)
    values = {}
    for name in ("shear", "moment", "deflection"):
        diagram = getattr(span, name)
        x = np.unique(np.concatenate([diagram.breaks, diagram.extreme_places()]))
        both = np.concatenate([diagram.at(x, np.full(len(x), side))[0] for side in (False, True)])
        values[name] = (both.min(), both.max())
    return values, span.reactions[0]


# (loads, start, end, largest sagging, largest hogging, start reaction, EI x largest deflection)
TEXTBOOK = {
    "uniform, pinned": (UDL, PIN, PIN, w * L**2 / 8, 0, w * L / 2, 5 * w * L**4 / 384),
    "uniform, fixed": (UDL, FIX, FIX, w * L**2 / 24, w * L**2 / 12, w * L / 2, w * L**4 / 384),
    "uniform, propped": (UDL, FIX, PIN, 9 * w * L**2 / 128, w * L**2 / 8, 5 * w * L / 8, None),
    "uniform, propped at the start": (
        UDL, PIN, FIX, 9 * w * L**2 / 128, w * L**2 / 8, 3 * w * L / 8, None,
    ),
    "uniform, cantilever": (UDL, FIX, FREE, 0, w * L**2 / 2, w * L, w * L**4 / 8),
    "uniform, cantilever from the end": (UDL, FREE, FIX, 0, w * L**2 / 2, 0, w * L**4 / 8),
    "central force, pinned": (MID, PIN, PIN, P * L / 4, 0, P / 2, P * L**3 / 48),
    "central force, fixed": (MID, FIX, FIX, P * L / 8, P * L / 8, P / 2, P * L**3 / 192),
    "central force, propped": (MID, FIX, PIN, 5 * P * L / 32, 3 * P * L / 16, 11 * P / 16, None),
    "force at the tip": ([PointLoad(L, P)], FIX, FREE, 0, P * L, P, P * L**3 / 3),
    "force at a guided end": (
        [PointLoad(L, P)], FIX, "guided", P * L / 2, P * L / 2, P, P * L**3 / 12,
    ),
    "uniform, pinned and guided": (UDL, PIN, "guided", w * L**2 / 2, 0, w * L, 5 * w * L**4 / 24),
    "force at a quarter": (
        [PointLoad(L / 4, P)], PIN, PIN, 3 * P * L / 16, 0, 3 * P / 4, None,
    ),
    "triangle": (
        [LineLoad(0, L, 0, w)], PIN, PIN, w * L**2 / (9 * np.sqrt(3)), 0, w * L / 6,
        0.006522 * w * L**4,
    ),
    "moment at the start": (
        [MomentLoad(0, M0)], PIN, PIN, M0, 0, -M0 / L, M0 * L**2 / (9 * np.sqrt(3)),
    ),
    "moment at mid-span": (
        [MomentLoad(L / 2, M0)], PIN, PIN, M0 / 2, M0 / 2, -M0 / L,
        M0 * L**2 / (72 * np.sqrt(3)),
    ),
    "uniform over half": (
        [LineLoad(0, L / 2, w, w)], PIN, PIN, 9 * w * L**2 / 128, 0, 3 * w * L / 8, None,
    ),
    "force at a third, fixed": (
        [PointLoad(L / 3, P)], FIX, FIX, 8 * P * L / 81, 4 * P * L / 27, 20 * P / 27, None,
    ),
    "force at a third, propped": (
        [PointLoad(L / 3, P)], FIX, PIN, 8 * P * L / 81, 5 * P * L / 27, 23 * P / 27, None,
    ),
    "triangle, fixed": (
        [LineLoad(0, L, 0, w)], FIX, FIX, (0.1 * np.sqrt(0.3) - 1 / 30) * w * L**2, w * L**2 / 20,
        3 * w * L / 20, None,
    ),
    "triangle, cantilever": (
        [LineLoad(0, L, w, 0)], FIX, FREE, 0, w * L**2 / 6, w * L / 2, w * L**4 / 30,
    ),
    "triangle, largest at the tip": (
        [LineLoad(0, L, 0, w)], FIX, FREE, 0, w * L**2 / 3, w * L / 2, 11 * w * L**4 / 120,
    ),
    "two triangles": (
        [LineLoad(0, L / 2, 0, w), LineLoad(L / 2, L, w, 0)], PIN, PIN, w * L**2 / 12, 0, w * L / 4,
        w * L**4 / 120,
    ),
    "two forces at the thirds": (
        [PointLoad(L / 3, P), PointLoad(2 * L / 3, P)], PIN, PIN, P * L / 3, 0, P,
        23 * P * L**3 / 648,
    ),
    "two forces at the quarters": (
        [PointLoad(L / 4, P), PointLoad(3 * L / 4, P)], PIN, PIN, P * L / 4, 0, P,
        11 * P * L**3 / 384,
    ),
    "uniform over half, fixed": (
        [LineLoad(0, L / 2, w, w)], FIX, FIX, (169 / 2048 - 11 / 192) * w * L**2,
        11 * w * L**2 / 192, 13 * w * L / 32, None,
    ),
    "uniform over half, cantilever": (
        [LineLoad(0, L / 2, w, w)], FIX, FREE, 0, w * L**2 / 8, w * L / 2, 7 * w * L**4 / 384,
    ),
    "moment at the tip": ([MomentLoad(L, M0)], FIX, FREE, -M0, M0, 0, M0 * L**2 / 2),
    "force in the middle of a cantilever": (
        MID, FIX, FREE, 0, P * L / 2, P, 5 * P * L**3 / 48,
    ),
    "uniform, fixed and guided": (
        UDL, FIX, "guided", w * L**2 / 6, w * L**2 / 3, w * L, w * L**4 / 24,
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", TEXTBOOK)
def test_textbook_beams(name):
    loads, start, end, sagging, hogging, reaction, deflection = TEXTBOOK[name]
    values, reactions = extremes(loads, start, end)
    small = 1e-9 * w * L**2
    assert values["moment"][1] == pytest.approx(sagging, rel=1e-9, abs=small)
    assert values["moment"][0] == pytest.approx(-hogging, rel=1e-9, abs=small)
    assert reactions[0] == pytest.approx(reaction, rel=1e-9, abs=1e-6)
    if deflection is not None:
        largest = max(abs(v) for v in values["deflection"])
        assert largest == pytest.approx(deflection, rel=2e-4 if name == "triangle" else 1e-9)


places = st.floats(0.02, 0.98)
loads_strategy = st.lists(
    st.one_of(
        st.tuples(places, places, st.floats(-20, 20), st.floats(-20, 20)).map(
            lambda t: LineLoad(min(t[:2]) * L, max(t[:2]) * L + 1, t[2], t[3])
        ),
        st.builds(PointLoad, places.map(lambda a: a * L), st.floats(-5e4, 5e4)),
        st.builds(MomentLoad, places.map(lambda a: a * L), st.floats(-5e7, 5e7)),
    ),
    min_size=1,
    max_size=4,
)
ends_strategy = st.sampled_from(
    [("pinned", "pinned"), ("fixed", "fixed"), ("fixed", "pinned"), ("fixed", "free"),
     ("free", "fixed"), ("pinned", "fixed"), ("fixed", "guided"), ("guided", "pinned")]
)  # fmt: skip


def resultant(loads):
    force = moment = 0.0
    for load in loads:
        if isinstance(load, LineLoad):
            a, b = load.start, load.end
            W = (load.w_start + load.w_end) / 2 * (b - a)
            force += W
            first = (b - a) ** 2 * (load.w_start + 2 * load.w_end) / 6
            moment += W * a + first
        elif isinstance(load, PointLoad):
            force += load.P
            moment += load.P * load.at
        else:
            moment += load.M
    return force, moment


@given(loads_strategy, ends_strategy)
def test_equilibrium_and_the_curvature_of_the_deflected_shape(loads, ends):
    breaks = breaks_of(L, [loads])
    span = bend(breaks, [loads], end_supports(L, *ends), 1.0)
    force, moment = resultant(loads)
    assert span.reactions[0].sum() == pytest.approx(force, abs=1e-6 * 1e5)
    left = np.array([0.0]), np.array([False])
    right = np.array([L]), np.array([True])
    M_left, M_right = span.moment.at(*left)[0, 0], span.moment.at(*right)[0, 0]
    # Moments about the start: end moments, the end reaction and the loads balance.
    jump = sum(m.M for m in loads if isinstance(m, MomentLoad) and m.at <= 0)
    assert M_right - M_left + jump == pytest.approx(
        moment - span.reactions[0, 1] * L, abs=1e-5 * 1e8
    )
    # Second differences of the deflection give back the moment inside an interval.
    i = int(np.argmax(np.diff(breaks)))
    h = np.diff(breaks)[i] / 8
    x = breaks[i] + np.diff(breaks)[i] / 2 + h * np.array([-1.0, 0.0, 1.0])
    y = span.deflection.at(x, np.zeros(3, bool))[0]
    m = span.moment.at(x, np.zeros(3, bool))[0]
    q = span.shear.at(x, np.zeros(3, bool))[0]
    scale = max(np.abs(m).max(), np.abs(q).max() * h, 1e4)
    curvature = (y[0] - 2 * y[1] + y[2]) / h**2
    mean = (m[0] + 10 * m[1] + m[2]) / 12  # Numerov: exact for a moment of third degree
    assert -curvature == pytest.approx(mean, abs=1e-6 * scale + 1e-9 * np.abs(y).max() / h**2)


@given(loads_strategy, loads_strategy, ends_strategy, st.floats(-2, 2), st.floats(-2, 2))
def test_superposition(first, second, ends, a, b):
    breaks = breaks_of(L, [first, second])
    both = bend(breaks, [first, second], end_supports(L, *ends), 1.0).combine(np.array([[a, b]]))
    alone = [bend(breaks, [loads], end_supports(L, *ends), 1.0) for loads in (first, second)]
    x = np.linspace(0, L, 17)
    side = np.zeros(17, bool)
    expected = a * alone[0].moment.at(x, side) + b * alone[1].moment.at(x, side)
    assert both.moment.at(x, side) == pytest.approx(expected, abs=1.0)


@given(st.lists(st.floats(-1, 1), min_size=5, max_size=5))
def test_extremes_are_not_exceeded_anywhere(c):
    coefficients = np.array([c])
    s = np.linspace(0, 1, 2001)
    powers = s[:, None] ** np.arange(5)
    values = powers @ coefficients[0]
    derivative = coefficients[:, 1:] * np.arange(1, 5)
    roots = roots_in_unit_interval(derivative)[0]
    at = np.concatenate([[0.0, 1.0], roots])
    found = (at[:, None] ** np.arange(5)) @ coefficients[0]
    assert found.max() >= values.max() - 1e-9
    assert found.min() <= values.min() + 1e-9


def test_axial_force_is_held_at_the_start():
    loads = [AxialLoad(L, -100e3), AxialLoad(L / 2, -50e3), AxialLineLoad(0.0, L, -0.5, -0.5)]
    breaks = breaks_of(L, [loads])
    N = axial(breaks, [loads]).at(np.array([0.0, L / 4, 3 * L / 4, L]), np.zeros(4, bool))[0]
    assert pytest.approx(N) == [-154e3, -153e3, -101e3, -100e3]


@pytest.mark.parametrize("ends", [("pinned", "free"), ("free", "free"), ("guided", "guided")])
def test_mechanisms_are_refused(ends):
    with pytest.raises(InputError, match="it is free to (fall|turn) at"):
        bend(np.array([0.0, L]), [[]], end_supports(L, *ends), 1.0)
