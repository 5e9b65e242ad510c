"""Second-order bending against the exact beam-column functions; the stiffness of frames."""

import math
from itertools import pairwise

import numpy as np
import pytest
import scipy.linalg
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.analysis.beam import Support, bend
from welbric.analysis.largest import largest
from welbric.analysis.member_loads import AxialLoad, LineLoad, PointLoad, axial, breaks_of
from welbric.analysis.second_order import critical_force, link_nodes, nodal_forces
from welbric.analysis.stiffness import Mechanism, Stiffness
from welbric.checking.check import check_member

L, EI = 6000.0, 9.0e12


def second_order(loads, supports, N, spans=((0.0, L),)):
    nodes = link_nodes(spans)
    cases = [[*loads, AxialLoad(L, N)], *([PointLoad(float(x), 1.0)] for x in nodes)]
    breaks = breaks_of(L, cases)
    found = bend(breaks, cases, supports, EI)
    first, unit = found.taken(slice(0, 1)), found.taken(slice(1, None))
    along = axial(breaks, cases[:1], (0.0,))
    forces = nodal_forces(nodes, first.deflection, unit, along)
    return first.plus(unit.combine(forces.forces)), float(forces.share[0])


def value(diagram, x):
    return float(diagram.at(np.array([x]), np.array([False]))[0, 0])


PINNED = [Support(0), Support(L)]
EULER = math.pi**2 * EI / L**2


@pytest.mark.parametrize("share", [0.05, 0.3, 0.6, 0.9])
def test_uniform_load_between_pins(share):
    q, P = 5.0, share * EULER
    k = math.sqrt(P / EI)
    found, ratio = second_order([LineLoad(0, L, q, q)], PINNED, -P)
    exact = q / k**2 * (1 / math.cos(k * L / 2) - 1)
    first = q * L**2 / 8
    assert ratio == pytest.approx(share, rel=1e-3)
    added = value(found.moment, L / 2) - first
    assert added == pytest.approx(exact - first, rel=1e-3 / (1 - share))


@pytest.mark.parametrize("share", [0.3, 0.9])
def test_point_load_and_tip_load(share):
    P, F = share * EULER, 2e4
    k = math.sqrt(P / EI)
    found, _ = second_order([PointLoad(L / 2, F)], PINNED, -P)
    exact = F / (2 * k) * math.tan(k * L / 2)
    assert value(found.moment, L / 2) == pytest.approx(exact, rel=1e-3 / (1 - share))
    # A cantilever has a quarter of the critical force.
    k = math.sqrt(P / 4 / EI)
    found, ratio = second_order(
        [PointLoad(L, F)], [Support(0, clamped=True), Support(L, held=False)], -P / 4
    )
    assert value(found.moment, 1e-9) == pytest.approx(
        -F * math.tan(k * L) / k, rel=1e-3 / (1 - share)
    )
    assert ratio == pytest.approx(share, rel=1e-3)


def test_tension_relieves():
    q, T = 5.0, 3e6
    k = math.sqrt(T / EI)
    found, share = second_order([LineLoad(0, L, q, q)], PINNED, T)
    assert share < 1e-12
    assert value(found.moment, L / 2) == pytest.approx(
        q / k**2 * (1 - 1 / math.cosh(k * L / 2)), rel=1e-3
    )


def test_a_fixed_and_a_continuous_column():
    fixed = [Support(0, clamped=True), Support(L, clamped=True)]
    assert second_order([], fixed, -EULER)[1] == pytest.approx(0.25, rel=5e-3)
    spans = ((0.0, L / 2), (L / 2, L))
    middle = [Support(0), Support(L / 2), Support(L)]
    assert second_order([], middle, -EULER, spans)[1] == pytest.approx(0.25, rel=1e-3)


def column(load=(), **more):
    return wb.Member(
        mark="K1", section="W8X31", role="beam", span="6 m", self_weight=False,
        load=[{"case": "dead", "line": "5 kN/m"}, {"case": "dead", "compression": "400 kN"}, *load],
        **more,
    )  # fmt: skip


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
def test_analysed_and_amplified_agree_for_a_sine_like_moment(method):
    ratios = [
        check_member(job, wb.resolve(job.members[0]))
        for job in (
            wb.Job(members=[column(second_order=how)], design={"method": method})
            for how in ("amplified", "analysed")
        )
    ]
    by_name = [{row.name: row.utilisation for row in result.rows} for result in ratios]
    assert by_name[1]["compression and bending"] == pytest.approx(
        by_name[0]["compression and bending"], rel=0.01
    )
    assert "elastic stability in bending" in by_name[1]


def test_beyond_the_critical_load_it_is_over():
    loads = [{"case": "dead", "line": "1 kN/m"}, {"case": "dead", "compression": "900 kN"}]
    weak = wb.Member(mark="K2", section="W8X31", span="9 m", second_order="analysed", load=loads)
    row = next(r for r in wb.check(wb.Job(members=[weak]))["K2"].rows if "stability" in r.name)
    assert row.status == "over"


# Elements in any direction


def in_plane(a, b, EA, EI):
    """Stiffness of a frame's member from a to b, in global (u, v, turn) of both ends."""
    dx, dy = b[0] - a[0], b[1] - a[1]
    length = math.hypot(dx, dy)
    c, s = dx / length, dy / length
    t = np.array([[c, s, 0], [-s, c, 0], [0, 0, 1]])
    T = np.kron(np.eye(2), t)
    p, q = EA / length, EI / length**3
    k = np.zeros((6, 6))
    k[np.ix_([0, 3], [0, 3])] = p * np.array([[1, -1], [-1, 1]])
    k[np.ix_([1, 2, 4, 5], [1, 2, 4, 5])] = q * np.array(
        [[12, 6 * length, -12, 6 * length], [6 * length, 4 * length**2, -6 * length, 2 * length**2],
         [-12, -6 * length, 12, -6 * length],
         [6 * length, 2 * length**2, -6 * length, 4 * length**2]]
    )  # fmt: skip
    return T.T @ k @ T


@given(st.integers(0, 2**32 - 1))
@settings(max_examples=30)
def test_largest_eigenvalues_of_many_matrices(seed):
    random, n = np.random.default_rng(seed), 30
    root = random.standard_normal((n, n))
    stiffness = root @ root.T + np.eye(n)
    halves = random.standard_normal((5, n, n))
    matrices = [one + one.T for one in halves[:3]]  # then nothing, and what is never positive
    matrices += [np.zeros((n, n)), -halves[3] @ halves[3].T, halves[4][:2].T @ halves[4][:2]]
    start = random.standard_normal((n, len(matrices)))
    values, vectors = largest(matrices, stiffness, lambda b: np.linalg.solve(stiffness, b), start)
    for one, value, vector in zip(matrices, values, vectors.T, strict=True):
        assert value == pytest.approx(scipy.linalg.eigh(one, stiffness)[0][-1], rel=1e-6, abs=1e-7)
        apart = one @ vector - value * stiffness @ vector
        assert np.abs(apart).max() < 1e-3 * np.abs(stiffness @ vector).max()


def test_a_portal_frame():
    """Fixed feet, equal members, a force at the eaves: the feet take 2/7 H h each, 3/14 above."""
    h = 4000.0
    places = [(0, 0), (0, h), (h, h), (h, 0)]
    pairs = [(0, 1), (1, 2), (2, 3)]
    k = np.array([in_plane(places[a], places[b], 1e12, EI) for a, b in pairs])
    numbers = np.array([[*range(3 * a, 3 * a + 3), *range(3 * b, 3 * b + 3)] for a, b in pairs])
    load = np.zeros((12, 1))
    load[3] = 10_000.0
    held = {i: np.zeros(1) for i in (0, 1, 2, 9, 10, 11)}
    u = Stiffness.assembled(numbers, k, {}, 12).solved(load, held)
    feet = k[0] @ u[numbers[0], 0]
    assert abs(feet[2]) == pytest.approx(2 / 7 * 10_000 * h, rel=1e-4)
    assert abs(feet[5]) == pytest.approx(3 / 14 * 10_000 * h, rel=1e-4)


def test_many_freedoms_in_a_wide_band():
    """A cantilever of 120 members numbered at random is one of a single member."""
    count, F = 120, 1000.0
    order = np.random.default_rng(1).permutation(count + 1)
    k = np.array([in_plane((i, 0), (i + 1, 0), 1e6, 1e9) for i in range(count)])
    numbers = np.array(
        [[*range(3 * a, 3 * a + 3), *range(3 * b, 3 * b + 3)] for a, b in pairwise(order)]
    )
    load = np.zeros((3 * (count + 1), 1))
    load[3 * order[-1] + 1] = F
    held = {int(3 * order[0] + i): np.zeros(1) for i in range(3)}
    whole = Stiffness.assembled(numbers, k, {}, len(load))
    assert whole.solved(load, held)[3 * order[-1] + 1, 0] == pytest.approx(
        F * count**3 / 3e9, rel=1e-6
    )
    del held[int(3 * order[0] + 2)]
    with pytest.raises(Mechanism):
        whole.solved(load, held)


@pytest.mark.parametrize(
    ("ends", "K"),
    [
        (["free", "fixed"], 2.0), (["fixed", "free"], 2.0), (["fixed", "guided"], 1.0),
        (["guided", "pinned"], 2.0), (["fixed", "pinned"], 0.6992), (["fixed", "fixed"], 0.5),
    ],
)  # fmt: skip
def test_critical_share_by_the_ends(ends, K):
    beside = [{"case": "dead", "line": "1 N/m", "axis": "minor"}]
    member = column(beside, second_order="analysed", ends=ends)
    result = check_member(wb.Job(members=[member]), wb.resolve(member))
    euler = math.pi**2 * 199_948 * member.section.I_minor / (K * member.length) ** 2
    assert result.forces.share[0] == pytest.approx(1.4 * 400e3 / euler, rel=4e-3)


# Members whose buckling is in no textbook


@pytest.mark.parametrize("share", [0.2, 0.5, 1.0, 2.0])
def test_an_overhang_by_its_characteristic_equation(share):
    """tan v (1 - u cot u) = u, with v of the overhang and u of the pinned span beside it."""
    b, a = 6000.0, 6000.0 * share
    low, high = 1e-6, min(math.pi, math.pi / 2 / share) * (1 - 1e-9)
    for _ in range(200):
        u = 0.5 * (low + high)
        low, high = (u, high) if math.tan(u * share) * (1 - u / math.tan(u)) < u else (low, u)
    P = critical_force(a + b, [Support(0), Support(b)], EI)
    assert pytest.approx((u / b) ** 2 * EI, rel=3e-3) == P


@pytest.mark.parametrize("place", [0.5, 0.3])
def test_a_hinge_by_its_characteristic_equation(place):
    """Each part is a cantilever: V = EI k3 w / (tan u - u) at its tip; the two add to nothing."""
    a, b = place * L, (1 - place) * L

    def shears(k):
        return sum(k**3 / (math.tan(k * part) - k * part) for part in (a, b))

    low = math.pi / 2 / max(a, b) * (1 + 1e-9)
    high = math.pi / 2 / min(a, b) * (1 - 1e-9) if place != 0.5 else None
    fixed = [Support(0, clamped=True), Support(L, clamped=True)]
    P = critical_force(L, fixed, EI, [a])
    if high is None:  # each is a cantilever of its own
        assert pytest.approx(math.pi**2 / 4 * EI / a**2, rel=3e-3) == P
        return
    for _ in range(200):
        k = 0.5 * (low + high)
        low, high = (k, high) if shears(k) * shears(low) > 0 else (low, k)
    assert pytest.approx(k**2 * EI, rel=3e-3) == P


def held_so(**fields):
    load = [{"case": "dead", "compression": "200 kN"}]
    member = wb.Member(mark="C", section="W8X31", self_weight=False, load=load, **fields)
    return check_member(wb.Job(members=[member]), wb.resolve(member))


def test_columns_outside_the_textbook():
    over = held_so(spans=["3 m", "3 m"], ends=["pinned", "free"])
    v = 1.1655611852072114  # tan v = 2 v
    assert math.tan(v) == pytest.approx(2 * v)
    assert over.case.buckling.K_minor == pytest.approx(math.pi / v * 2.10 / 2.0, rel=1e-3)
    assert over.case.buckling.sways_minor
    hinged = held_so(span="6 m", ends=["fixed", "fixed"], hinges=["3 m"])
    assert hinged.case.buckling.K_minor == pytest.approx(0.65 / 0.5, rel=1e-3)
    assert any("whole member's elastic buckling" in note for note in hinged.notes)
    given = held_so(span="6 m", ends=["fixed", "fixed"], hinges=["3 m"], buckling={"minor_K": 1.5})
    assert given.case.buckling.K_minor == 1.5


def test_a_hinge_between_restraints_is_outside():
    fields = {"mark": "G", "section": "W16X31", "spans": ["6 m", "8 m"], "hinges": ["8 m"],
              "load": [{"case": "live", "line": "5 kN/m"}]}  # fmt: skip
    loose = wb.Member(**fields)
    held = wb.Member(restraint={"top": {"at": ["8 m"]}, "bottom": {"at": ["8 m"]}}, **fields)
    rows = [
        {r.name for r in check_member(wb.Job(members=[m]), wb.resolve(m)).rows}
        for m in (loose, held)
    ]
    assert ["lateral buckling at a hinge" in names for names in rows] == [True, False]
    with pytest.raises(wb.InputError, match="hinges is outside"):
        wb.lateral_buckling(wb.Job(members=[held]), held.mark)


kinds = st.sampled_from(["pinned", "fixed", "free", "guided"])
places = st.lists(st.integers(1, 19).map(lambda i: f"{0.3 * i:.1f} m"), max_size=1)


@given(
    kinds, kinds, st.sampled_from([["6 m"], ["2 m", "4 m"], ["3 m", "1 m", "2 m"]]), places, places
)
@settings(max_examples=150)
def test_no_effective_length_is_shorter_than_the_elastic_one(first, last, spans, hinges, supports):
    """Under the same force all along the member buckles no earlier than its K says."""
    more = {"spans": spans} if len(spans) > 1 else {"span": spans[0]}
    try:
        member = wb.resolve(wb.Member(
            mark="C", section="W8X31", ends=[first, last], hinges=hinges, self_weight=False,
            support=[{"at": at, "axis": "minor"} for at in supports],
            load=[{"case": "dead", "compression": "10 kN"}], **more,
        ))  # fmt: skip
    except wb.InputError:
        return  # a mechanism, or a hinge over a support
    case = check_member(
        wb.Job(members=[member.said], design={"effective_lengths": "theoretical"}), member
    ).case
    for axis in ("major", "minor"):
        stiff = 2e5 * getattr(member.section, f"I_{axis}")
        P = critical_force(member.length, member.supports_about(axis), stiff, member.said.hinges)
        of = case.buckling
        KL = getattr(of, f"K_{axis}") * getattr(of, f"length_{axis}")
        assert math.pi**2 * stiff / KL**2 * (1 - 5e-3) <= P


def test_a_length_beside_a_free_end_says_too_little():
    fields = {"span": "6 m", "ends": ["fixed", "free"]}
    with pytest.raises(wb.InputError, match="give minor_K too"):
        held_so(buckling={"minor_length": "3 m"}, **fields)
    given = held_so(buckling={"minor_length": "3 m", "minor_K": 2.7}, **fields).case
    assert (given.buckling.length_minor, given.buckling.K_minor) == (3000, 2.7)
