"""Single angles with the sense of their stresses: H2 at the corners, F10.2 and its restraints."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

import welbric as wb
from welbric.effects.critical_load import uniform_critical_moment
from welbric.sections.table import Section
from welbric.standards.aisc360.design import E, G

ANGLES = ["L4X4X3/8", "L8X6X3/4", "L6X3-1/2X3/8", "L100x75x8"]
MAJOR = ("yielding, major axis", "lateral-torsional buckling", "leg local buckling")


def rows_of(section, axial, Mx, My, **fields):
    """Return the rows under forces in kN and kN m; `axial` pulls where it is positive."""
    forces = {
        "name": "one",
        ("tension" if axial > 0 else "compression"): f"{abs(axial)} kN",
        "moment_major": [f"{M} kN m" for M in Mx], "moment_minor": [f"{M} kN m" for M in My],
        "shear_major": "0 kN", "shear_minor": "0 kN",
    }  # fmt: skip
    given = {
        "mark": "A", "section": section, "steel": "A36", "span": "2 m", "self_weight": False,
        "second_order": "included", "connection": {"shear_lag": 1.0},
        "forces": [forces],
    } | fields  # fmt: skip
    return {row.name: row for row in wb.check(wb.Job(members=[wb.Member(**given)]))["A"].rows}


def principal(s):
    """Return corners in principal axes and the second moments, by the eigenvectors of inertia."""
    inertia, axes = np.linalg.eigh([[s.I_x, s.I_xy], [s.I_xy, s.I_y]])  # of y and x
    corners = np.array([(0, 0), (s.d, 0), (s.d, s.t), (0, s.b), (s.t, s.b)], dtype=float)
    return (corners - [s.y, s.x]) @ axes, inertia, axes


def by_hand(s, axial, pressed, available, Mx, My):
    """Return H2-1 with each stress's own share, and by the letter, at the worst corner."""
    places, _, axes = principal(s)
    share = places / np.abs(places).max(axis=0)
    ratio = (np.array([Mx, My]) @ axes) * 1e6 / available
    stress = share * ratio  # compression positive
    whole = np.where(np.abs(share) > 1e-6, np.sign(stress) * np.abs(ratio), 0.0)
    by_share, by_letter, ours = [], [], []
    for sense in (1, -1):
        a = axial if (sense > 0) == pressed else 0.0
        by_share.append(a + (sense * stress).sum(axis=1).max())
        by_letter.append(a + (sense * whole).sum(axis=1).max())
        ours.append(
            a + np.where(sense * stress > 0, sense * whole, sense * stress).sum(axis=1).max()
        )
    return max(by_share), max(by_letter), max(ours)


moments = st.floats(-2.0, 2.0).map(lambda M: round(M, 3)).filter(lambda M: abs(M) > 0.01)


@given(st.sampled_from(ANGLES), st.floats(-80, 80).filter(lambda N: abs(N) > 1), moments, moments)
def test_the_worst_corner_under_uniform_moments(name, N, Mx, My):
    s = wb.section(name)
    rows = rows_of(name, N, [Mx], [My])
    bent = rows["compression and bending" if N < 0 else "tension and bending"]
    axial = [r for k, r in rows.items() if k.startswith(("flexural", "tensile"))]
    a = max(r.utilisation for r in axial)
    low, high = (
        min(rows[k].capacity for k in names) for names in (("bending, minor axis",), MAJOR)
    )
    available = np.array([low, high])  # in the order of the eigenvalues
    both = [by_hand(s, a, N < 0, available, Mx, sense * My) for sense in (1, -1)]
    physical, letter, ours = (max(values) for values in zip(*both, strict=True))
    assert bent.utilisation == pytest.approx(ours, rel=1e-9)
    assert bent.utilisation >= max(physical, letter) - 1e-9
    Mw, Mz = abs(rows[MAJOR[0]].demand), abs(rows["bending, minor axis"].demand)
    assert bent.utilisation <= a + Mw / high + Mz / low + 1e-9


@given(st.sampled_from(ANGLES), st.floats(-60, -5), moments, moments, moments, moments)
def test_no_place_along_the_member_is_worse(name, N, Mx1, Mx2, My1, My2):
    """Straight moments from end to end: at each place the corners by hand are not worse."""
    s = wb.section(name)
    rows = rows_of(name, N, [Mx1, Mx2], [My1, My2])
    a = max(r.utilisation for k, r in rows.items() if k.startswith("flexural"))
    available = np.array(
        [rows["bending, minor axis"].capacity, min(rows[k].capacity for k in MAJOR)]
    )
    for share in np.linspace(0, 1, 11):
        Mx, My = Mx1 + share * (Mx2 - Mx1), My1 + share * (My2 - My1)
        for sense in (1, -1):
            there = by_hand(s, a, True, available, Mx, sense * My)
            assert rows["compression and bending"].utilisation >= max(there) - 1e-9


def test_what_relieves_is_not_counted_where_it_does_not_act():
    """The y moment fades out where the x moment is largest: nothing is relieved there."""
    whole = rows_of("L4X4X3/8", -60, [-1.0, -1.0], [0.0, 0.0])["compression and bending"]
    ends = rows_of("L4X4X3/8", -60, [-1.0, -1.0], [0.6, 0.0])["compression and bending"]
    assert ends.utilisation >= whole.utilisation


def test_the_working_names_the_corner():
    forces = {"compression": "60 kN", "moment_major": "-1 kN m", "shear_major": "0 kN"}
    member = wb.Member(mark="A", section="L4X4X3/8", steel="A36", span="2 m", self_weight=False,
                       second_order="included", forces=[{"name": "one"} | forces])  # fmt: skip
    text = str(wb.check(wb.Job(members=[member])).explain("A", "compression and bending"))
    assert "The worst corner is the heel, in compression" in text
    assert "no stress there" in text


@pytest.mark.parametrize("name", ["L8X6X3/4", "L6X3-1/2X3/8", "L8X4X1/2"])
@pytest.mark.parametrize("length", [3.0, 6.0])
def test_a_long_leg_in_tension_raises_the_critical_moment(name, length):
    """F10-4 with either sign of the monosymmetry term, against the uniform critical moment."""
    s = wb.section(name)
    turned = Section(s.shape, s.name, {**s.properties, "Cw": 0.0})
    mirrored = Section(s.shape, s.name, {**turned.properties, "beta_major": -s.beta_major})
    exact = sorted(uniform_critical_moment(one, length * 1e3, E, G) for one in (turned, mirrored))
    found = []
    for sense in (1, -1):
        row = rows_of(name, -1, [sense * 0.2], [0.0], span=f"{length} m")[MAJOR[1]]
        found.append(row.capacity / 0.9)
    My = 36 * 6.894757293168361 * s.Wel_major

    def strength(Mcr):
        if My <= Mcr:
            return min((1.92 - 1.17 * math.sqrt(My / Mcr)) * My, 1.5 * My)
        return (0.92 - 0.17 * Mcr / My) * Mcr

    assert found == pytest.approx([strength(M) for M in exact], rel=0.03)
    assert found[0] < found[1]


def test_a_leg_pressed_anywhere_counts_as_pressed():
    both = rows_of("L8X6X3/4", -1, [0.2, -0.2], [0.0], span="5 m", design={"Cb": 1.0})[MAJOR[1]]
    pressed = rows_of("L8X6X3/4", -1, [0.2], [0.0], span="5 m", design={"Cb": 1.0})[MAJOR[1]]
    assert both.capacity == pytest.approx(pressed.capacity)


def test_bent_about_both_axes_the_moment_counts_as_uniform():
    """Mx fades out, My does not: about the principal axis the moment is nearly uniform."""
    rows = rows_of("L4X4X3/8", -1, [0.1, 0.0], [1.0], span="5 m")
    uniform = rows_of("L4X4X3/8", -1, [0.1], [1.0], span="5 m")
    assert rows[MAJOR[1]].capacity == pytest.approx(uniform[MAJOR[1]].capacity)


@pytest.mark.parametrize(("Mx", "My"), [([1, -1], [1, 1]), ([1, 1], [1, -1])])
def test_the_worse_shape_of_two_end_moments_counts(Mx, My):
    """A-8-4: either moment in reverse curvature, the other uniform: Cm = 1 about both axes."""
    ends = [
        {"case": "dead", "end_moments": [f"{M} kN m" for M in moments], "axis": axis}
        for axis, moments in (("major", Mx), ("minor", My))
    ]
    load = [*ends, {"case": "dead", "compression": "40 kN"}]
    member = wb.Member(mark="A", section="L4X4X3/8", steel="A36", span="2.5 m", load=load,
                       self_weight=False)  # fmt: skip
    table = wb.check(wb.Job(members=[member]))
    (part,) = table.explain("A", "compression and bending").parts
    factors = [e.result for e in part.entries if getattr(e, "formula", None)
               and e.formula.symbol == "Cm"]  # fmt: skip
    assert factors
    assert all(Cm == pytest.approx(1.0) for Cm in factors)


# Deflections, and forces that depend on the stiffness


def ledger(section="L6X4X1/2", **fields):
    given = {
        "mark": "A", "section": section, "steel": "A36", "span": "3 m", "self_weight": False,
        "load": [{"case": "live", "line": "2 kN/m"}], "deflection": {"live": 360},
    } | fields  # fmt: skip
    return {row.name: row for row in wb.check(wb.Job(members=[wb.Member(**given)]))["A"].rows}


@pytest.mark.parametrize("name", ["L6X4X1/2", "L5X5X5/16", "L100x75x8"])
@pytest.mark.parametrize("across", [0.0, 0.7])
def test_an_angle_moves_across_its_load(name, across):
    """By components along the principal axes, whose moments are I, and back."""
    s = wb.section(name)
    load = [{"case": "live", "line": "2 kN/m"}]
    if across:
        load.append({"case": "live", "line": f"{across} kN/m", "axis": "minor"})
    rows = ledger(name, load=load)
    cos, sin = math.cos(s.angle), math.sin(s.angle)
    down, aside = [], []
    for sense in (1, -1):
        w_y, w_x = 2.0, sense * across
        v = 5 * (w_y * cos - w_x * sin) * 3000**4 / (384 * E * s.I_major)
        u = 5 * (w_y * sin + w_x * cos) * 3000**4 / (384 * E * s.I_minor)
        down.append(abs(v * cos + u * sin))
        aside.append(abs(u * cos - v * sin))
    assert rows["deflection, live"].demand == pytest.approx(max(down), rel=2e-4)
    assert rows["deflection, live, minor axis"].demand == pytest.approx(max(aside), rel=2e-4)


def test_an_angle_continuous_lengths_bends_in_the_plane_of_its_load():
    rows = ledger(restraint={"top": "continuous", "bottom": "continuous"})
    plain = 5 * 2 * 3000**4 / (384 * E * wb.section("L6X4X1/2").I_x)
    assert rows["deflection, live"].demand == pytest.approx(plain, rel=1e-6)
    assert "deflection, live, minor axis" not in rows


def test_what_is_not_known_of_sections_with_rotated_axes_is_outside():
    fixed = ledger(support=[{"at": "1 m", "axis": "major"}])
    assert "the same about both axes" in fixed["deflection, live"].reason
    assert "analysis" not in fixed
    assert "has rotated principal axes" in ledger(second_order="analysed")["analysis"].reason
    sprung = ledger(support=[{"at": "1 m", "hold": "none", "spring": "5 kN/mm"}])
    assert sprung["analysis"].status == "outside"


# F10.2(ii): held where the moment is largest


def held(restraint, **fields):
    given = {
        "mark": "A", "section": "L4X4X1/4", "steel": "A36", "span": "6 ft", "self_weight": False,
        "bending_axes": "geometric", "load": [{"case": "live", "line": "0.1 kip/ft"}],
        "restraint": restraint,
    } | fields  # fmt: skip
    result = wb.check(wb.Job(members=[wb.Member(**given)]))["A"]
    return {row.name: row for row in result.rows}


def test_restraint_at_the_largest_moment_by_hand():
    """F10.2(ii) at mid-span, toe in compression: 1.25 Mcr of 3 ft, and My not reduced."""
    at = {"at": ["3 ft"]}
    row = held({"top": at, "bottom": at})["lateral-torsional buckling"]
    s, Lb = wb.section("L4X4X1/4"), 36 * 25.4
    Cb = 12.5 / (2.5 + 3 * 7 / 16 + 4 * 12 / 16 + 3 * 15 / 16)
    ratio = (Lb * s.t / s.d**2) ** 2
    Mcr = 1.25 * 0.58 * E * s.d**4 * s.t * Cb / Lb**2 * (math.sqrt(1 + 0.88 * ratio) - 1)
    My = 36 * 6.894757293168361 * s.Wel_top
    assert My < Mcr
    assert row.capacity == pytest.approx(0.9 * (1.92 - 1.17 * math.sqrt(My / Mcr)) * My, rel=1e-9)


@pytest.mark.parametrize(
    "restraint",
    [
        {"top": {"at": ["3 ft"]}},  # the other flange is free: it can twist
        {"top": {"at": ["2 ft"]}, "bottom": {"at": ["2 ft"]}},  # not at the largest moment
        {"top": {"at": ["2 ft", "3 ft"]}, "bottom": {"at": ["2 ft", "3 ft"]}},  # not there alone
    ],
)
def test_restraint_elsewhere_does_not_count_so(restraint):
    """Without it the yield moment is reduced, and the toe's modulus for local buckling."""
    at = {"at": ["3 ft"]}
    full = held({"top": at, "bottom": at})["leg local buckling"].capacity
    assert held(restraint)["leg local buckling"].capacity == pytest.approx(0.8 * full)


def test_the_moment_shape_of_angles_counts_to_one_and_a_half():
    """F10.2: a point load at a restraint at mid-span has 1.67 by F1-1, and 1.5 counts."""
    at = {"at": ["3 ft"]}
    both, point = {"top": at, "bottom": at}, [{"case": "live", "point": "0.3 kip", "at": "3 ft"}]
    shaped = held(both, load=point)["lateral-torsional buckling"].capacity
    capped = held(both, load=point, design={"Cb": 1.5})["lateral-torsional buckling"].capacity
    higher = held(both, load=point, design={"Cb": 3.0})["lateral-torsional buckling"].capacity
    assert shaped == capped == higher
    assert (
        held(both, load=point, design={"Cb": 1.2})["lateral-torsional buckling"].capacity < capped
    )
