"""Shapes other than rolled I against independent methods, limiting cases and invariances."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from cases import FT, KSI, capacity, case
from welbric.analysis.lateral_buckling import Hold, Stiffnesses, buckling, gauss_places, mesh
from welbric.files.jobs import demo_text
from welbric.sections.catalogues import GROUPS
from welbric.standards.aisc360.clauses import e4, f7_f8
from welbric.standards.aisc360.design import E, G
from welbric.standards.aisc360.routes import SHAPES, checks
from welbric.standards.elastic import least_root_of_cubic

LTB = "lateral-torsional buckling"
MAJOR, MINOR = "flexural buckling, major axis", "flexural buckling, minor axis"
FTB = "flexural-torsional buckling"
NAMES = [
    "W18X50", "S12X35", "C10X20", "MC10X22", "PFC200X75X23", "HSS6X4X1/4", "HSS12X12X3/16",
    "HSS6.000X0.250", "Pipe4STD", "WT6X25", "WT18X67.5", "ST6X25", "L4X4X1/2", "L8X4X1/2",
    "2L4X4X1/2X3/8", "2L6X4X3/8X3/8LLBB",
]  # fmt: skip
OWN = [
    {"shape": "welded I", "d": "900 mm", "bf": "300 mm", "tw": "8 mm", "tf": "20 mm"},
    {"shape": "welded I", "d": "1400 mm", "bf": "350 mm", "tw": "8 mm", "tf": "25 mm"},
    {"shape": "unequal I", "d": "600 mm", "bf_top": "300 mm", "tf_top": "20 mm",
     "bf_bottom": "200 mm", "tf_bottom": "16 mm", "tw": "8 mm"},
    {"shape": "welded box", "d": "400 mm", "b": "300 mm", "tw": "10 mm", "tf": "12 mm"},
    {"shape": "flat bar", "d": "120 mm", "b": "20 mm"},
    {"shape": "flat bar", "d": "20 mm", "b": "120 mm"},
    {"shape": "round bar", "d": "60 mm"},
    {"shape": "plated I", "d": "300 mm", "bf": "150 mm", "tw": "7 mm", "tf": "11 mm",
     "b_top": "150 mm", "t_top": "10 mm"},
    {"shape": "capped I", "d": "535.9 mm", "bf": "210 mm", "tw": "10.9 mm", "tf": "17.4 mm",
     "r": "12 mm", "cap_d": "304.8 mm", "cap_bf": "74.7 mm", "cap_tw": "7.2 mm",
     "cap_tf": "12.7 mm"},
    {"shape": "double channel", "d": "254 mm", "bf": "69.6 mm", "tw": "9.6 mm", "tf": "11.1 mm",
     "gap": "10 mm"},
]  # fmt: skip


def a_section(of):
    return wb.Member(mark="X", section=of, span="3 m", self_weight=False).section


ACTIONS = {
    "compression": "200 kN", "tension": "200 kN", "moment_major": "10 kN m",
    "moment_minor": "2 kN m", "shear_major": "20 kN", "shear_minor": "5 kN", "torsion": "1 kN m",
}  # fmt: skip


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
@pytest.mark.parametrize("section", [*NAMES, *OWN], ids=str)
def test_no_shape_ends_without_an_answer(section, method):
    """Every action, and every mix of them, has a ratio or a row outside with its clause."""
    pair = "double" in str(section) or str(section).startswith("2L")
    more = {"connectors": {"spacing": "600 mm"}} if pair else {}
    mixes = [[name] for name in ACTIONS]
    mixes += [
        [axial, *others] for axial in ("compression", "tension")
        for others in (["moment_major"], ["moment_minor"], ["moment_major", "moment_minor"],
                       ["torsion"], ["moment_major", "shear_major", "torsion"])
    ]  # fmt: skip
    for mix in mixes:
        forces = [{"name": "all", **{name: ACTIONS[name] for name in mix}}]
        member = wb.Member(
            mark="X", section=section, span="3 m", forces=forces, ends_minor=["pinned", "pinned"],
            connection={"net_area": "500 mm2", "shear_lag": 0.8}, **more,
        )  # fmt: skip
        job = wb.Job(members=[member], design={"method": method})
        table = wb.check(job)
        rows = table["X"].rows
        assert rows, mix
        for row in rows:
            assert row.clause
            if row.status == "outside":
                assert row.reason
            else:
                assert row.utilisation > 0
        # The working ends in the table's number, for every row.
        for part in table.explain("X").parts:
            numbers = [e.result for e in part.entries if getattr(e, "result", None) is not None]
            if part.row.at[0] >= 0 and part.row.status != "outside":
                assert float(numbers[-1]) == pytest.approx(part.row.utilisation, rel=1e-9)


def sample(shape):
    for group in GROUPS:
        if group.shape == shape:
            yield group.table()


@pytest.mark.parametrize("shape", SHAPES)
def test_whole_catalogues(shape):
    """Over arrays and one by one the same; never NaN where it is covered, never negative."""
    for table in sample(shape):
        table = table.take(slice(None, None, max(1, len(table) // 25)))
        demand = {"compression": 1e5, "M_major": 1e7, "M_minor": 1e6, "V_major": 1e4}
        demand |= {"V_minor": 1e4, "M_max": 1e7, "M_A": 5e6, "M_B": 1e7, "M_C": 5e6}
        for top in (True, False):
            fields = {"demand": demand, "Lb": 2500.0, "top": top, "connectors": 500.0, "L": 2500.0}
            one = case(table[0], **fields)
            many = case(table[0], **fields)
            object.__setattr__(many, "section", table.as_axis())
            with np.errstate(all="ignore"):
                for name, fn in checks(shape).items():
                    found = fn(many)
                    if found.capacity is None:
                        continue
                    covered = np.broadcast_to(found.outside, (len(table), 1, 1))
                    values = np.broadcast_to(found.capacity, (len(table), 1, 1))
                    assert np.all((values > 0) | covered), name
                    if (alone := fn(one).capacity) is not None:
                        assert float(alone) == pytest.approx(float(values[0, 0, 0])), name


@given(st.sampled_from(NAMES), st.floats(0.5, 12), st.floats(1.01, 2), st.booleans())
@settings(max_examples=60)
def test_longer_is_never_stronger(name, metres, factor, top):
    shape = wb.section(name).shape
    fields = {"top": top, "connectors": 500.0}
    for check in checks(shape):
        if "buckling" not in check or "local" in check:
            continue
        short, long = (
            capacity(check, name, L=x, Lb=x, **fields)
            for x in (1000 * metres, 1000 * metres * factor)
        )
        assert math.isnan(long) or long <= short * (1 + 4e-4), check


@pytest.mark.parametrize("name", [*NAMES[1:]])
def test_allowable_is_design_over_one_and_a_half(name):
    shape = wb.section(name).shape
    for check in checks(shape):
        lrfd, asd = (
            capacity(check, name, L=3000.0, Lb=3000.0, method=m, connectors=500.0)
            if checks(shape)[check](case(name, connectors=500.0)).capacity is not None
            else math.nan
            for m in ("LRFD", "ASD")
        )
        if not math.isnan(lrfd):
            assert lrfd / asd == pytest.approx(0.9 * 1.67, rel=3e-3)


# Flexural-torsional buckling: the cubic as an eigenvalue problem


@given(
    st.floats(50, 2000), st.floats(50, 2000), st.floats(50, 2000), st.floats(-0.6, 0.6),
    st.floats(-0.6, 0.6),
)  # fmt: skip
def test_least_root_of_the_cubic(a, b, c, x, y):
    """(K - F M) v = 0 in (u, v, twist): the stresses on the diagonal, the offsets beside."""
    K = np.diag([b, a, c])  # u bends about y, v about x
    M = np.array([[1, 0, y], [0, 1, -x], [y, -x, 1.0]])
    roots = np.linalg.eigvals(np.linalg.solve(M, K)).real
    assert least_root_of_cubic(a, b, c, x, y, 1.0) == pytest.approx(roots.min(), rel=1e-6)


@given(st.floats(50, 2000), st.floats(50, 2000), st.floats(0.05, 0.6))
def test_one_axis_of_symmetry_is_the_cubic_without_the_other(a, c, y):
    by_cubic = least_root_of_cubic(1e9, a, c, 0.0, y, 1.0)
    H = 1 - y**2
    assert e4.flexural_torsional_stress(a, c, H) == pytest.approx(by_cubic, rel=1e-4)


# Lateral-torsional buckling by the eigenvalue solution


def critical_moment(s, L, sign, EI, warping):
    nodes = mesh(L, [])
    zero = np.zeros_like(gauss_places(nodes))
    of = Stiffnesses(EI, G * s.J, E * s.Cw * warping, s.beta_major)
    holds = [Hold(x, u=True, twist=True) for x in (0.0, L)]
    return float(buckling(nodes, of, zero + sign, zero, zero, [], holds).factor[0])


@pytest.mark.parametrize("name", ["WT6X25", "WT12X31", "WT18X67.5"])
@pytest.mark.parametrize(("top", "sign"), [(True, 1.0), (False, -1.0)])
def test_tees_buckle_as_the_eigenvalue_says(name, top, sign):
    """F9-10 stands for the Wagner term by 2.3 d: within 16 % where it is elastic."""
    s = wb.section(name)
    L = 40 * s.d
    by_code = capacity(LTB, name, Lb=L, top=top, Fy=5000.0, demand={"M_major": 1.0}) / 0.9
    by_eigenvalue = critical_moment(s, L, sign, E * s.I_y, warping=0.0)
    assert by_code == pytest.approx(by_eigenvalue, rel=0.16)


def test_an_equal_angle_buckles_as_the_eigenvalue_says():
    """F10-4 without the monosymmetry term, elastic range: 0.46 E b2 t2 / L, within 5 %."""
    name = "L6X6X5/16"
    s = wb.section(name)
    L = 60 * s.d
    Mcr = critical_moment(s, L, 1.0, E * s.I_minor, warping=0.0)
    My = 500 * KSI * s.Wel_major
    by_code = capacity(LTB, name, Lb=L, Fy=500.0, demand={"M_major": 1.0}) / 0.9
    assert Mcr < My
    assert by_code == pytest.approx((0.92 - 0.17 * Mcr / My) * Mcr, rel=0.05)


@pytest.mark.parametrize("shape", [*OWN[:3], *OWN[7:9]], ids=lambda of: of["shape"])
def test_girders_buckle_no_later_than_the_eigenvalue_says(shape):
    """F4 and F5 take rt and leave much torsion out: never above the elastic moment."""
    s = a_section(shape)
    L = 25 * s.d
    for top, sign in ((True, 1.0), (False, -1.0)):
        by_code = capacity(LTB, s, Lb=L, top=top, Fy=500.0, demand={"M_major": 1.0}) / 0.9
        exact = critical_moment(s, L, sign, E * s.I_minor, warping=1.0)
        assert 0.25 * exact < by_code < 1.03 * exact


def test_a_tube_buckles_as_the_closed_form_says():
    """F7-11 has 2 E for pi sqrt(E G): within 3 %."""
    s = wb.section("HSS12X2X1/4")
    L = 30_000.0
    exact = math.pi / L * math.sqrt(E * s.I_minor * G * s.J)
    by_code = capacity(LTB, s, Lb=L, Fy=500.0) / 0.9
    assert by_code == pytest.approx(exact, rel=0.03)


# Continuity, limits, mirrors


@pytest.mark.parametrize(("ratio", "name"), [(2.42, "sides"), (1.12, "walls"), (1.40, "walls")])
def test_walls_are_continuous_at_their_limits(ratio, name):
    b = ratio * math.sqrt(E / (50 * KSI))

    def strength(factor):
        flat = b * factor * 6.0
        d, w = (flat + 18, 100) if name == "sides" else (100, flat + 18)
        sizes = {"d": f"{d} mm", "b": f"{w} mm", "t": "6 mm", "r_out": "12 mm", "r_in": "6 mm"}
        return capacity("wall local buckling", a_section({"shape": "rectangular tube", **sizes}))

    assert strength(1 - 1e-7) == pytest.approx(strength(1 + 1e-7), rel=0.01)


def test_effective_modulus_by_rectangles():
    """A tube less two strips of its top wall, by its parts."""
    H, B, t, be = 300.0, 300.0, 5.0, 180.0
    flat = B - 2 * t
    parts = [(B - (flat - be), t, H - t / 2), (B, t, t / 2)] + [(t, H - 2 * t, H / 2)] * 2
    A = sum(b * h for b, h, _ in parts)
    y = sum(b * h * at for b, h, at in parts) / A
    inertia = sum(b * h**3 / 12 + b * h * (at - y) ** 2 for b, h, at in parts)
    gross = (B * H**3 - flat * (H - 2 * t) ** 3) / 12
    area = B * H - flat * (H - 2 * t)
    found = f7_f8.effective_modulus(gross, area, H, t, flat, be)
    assert found == pytest.approx(inertia / (H - y), rel=1e-4)


def test_unequal_flanges_turned_over_are_the_same():
    names = ("d", "bf_top", "tf_top", "bf_bottom", "tf_bottom", "tw")
    up = dict(zip(names, ("600 mm", "300 mm", "20 mm", "200 mm", "16 mm", "8 mm"), strict=True))
    down = dict(zip(names, ("600 mm", "200 mm", "16 mm", "300 mm", "20 mm", "8 mm"), strict=True))
    for check in checks("unequal I"):
        values = [
            capacity(
                check, a_section({"shape": "unequal I", **sizes}), Lb=6000.0, L=6000.0, top=top
            )
            if checks("unequal I")[check](case(a_section({"shape": "unequal I", **sizes}))).capacity
            is not None
            else 0.0
            for sizes, top in ((up, True), (down, False))
        ]
        assert values[0] == pytest.approx(values[1], rel=1e-9), check


def test_each_row_names_the_clause_of_its_segment():
    """The demo's girder: a noncompact web for the top flange, a slender one for the bottom."""
    rows = {row.name: row.clause for row in wb.check(wb.parse_job(demo_text()))["PG1"].rows}
    assert rows[LTB] == "F4.2"
    assert rows["tension flange yielding"] == "F4.4"


def test_equal_flanges_by_the_unequal_road():
    """F4 for flanges that are alike is near F2: within 10 % at every length, never far above."""
    sizes = {"d": "600 mm", "tw": "10 mm"}
    equal = a_section({"shape": "welded I", **sizes, "bf": "250 mm", "tf": "20 mm"})
    flanges = {f"{k}_{side}": v for side in ("top", "bottom")
               for k, v in (("bf", "250 mm"), ("tf", "20 mm"))}  # fmt: skip
    alike = a_section({"shape": "unequal I", **sizes, **flanges})
    for L in (1000.0, 4000.0, 8000.0, 15000.0):
        assert capacity(LTB, alike, Lb=L) == pytest.approx(capacity(LTB, equal, Lb=L), rel=0.1)
    for check in (MAJOR, MINOR):
        assert capacity(check, alike, L=5000.0) == pytest.approx(capacity(check, equal, L=5000.0))


@pytest.mark.parametrize("fastened", ["snug-tight", "welded or pretensioned"])
def test_connectors_far_apart_weaken_a_pair(fastened):
    def found(spacing):
        member = wb.Member(
            mark="X", section="2L4X4X1/2X3/8", span="3 m", self_weight=False,
            connectors={"spacing": spacing, "fastened": fastened},
            load=[{"case": "dead", "compression": "100 kN"}],
        )  # fmt: skip
        rows = wb.check(wb.Job(members=[member]))["X"].rows
        return {row.name: row.capacity for row in rows}

    near, far = found("100 mm"), found("1.4 m")
    assert far[MINOR] < near[MINOR]
    assert far[FTB] < near[FTB]
    assert far[MAJOR] == pytest.approx(near[MAJOR])


def angle_rows(**fields):
    member = wb.Member(
        mark="X", section=fields.pop("section", "L4X4X1/2"), span="3 m", self_weight=False,
        load=[{"case": "dead", "compression": "20 kN"}], **fields,
    )  # fmt: skip
    return {row.name: row for row in wb.check(wb.Job(members=[member]))["X"].rows}


def test_an_angle_through_one_leg():
    """E5-1 by hand: L/ra below 80 gives 72 + 0.75 L/ra in place of Lc/r."""
    s = wb.section("L4X4X1/2")
    ratio = 72 + 0.75 * 3000 / s.r_x
    Fe = (
        math.pi**2 * E / ratio**2
        if 3000 / s.r_x <= 80
        else (math.pi**2 * E / (32 + 1.25 * 3000 / s.r_x) ** 2)
    )
    rows = angle_rows(one_leg={"leg": "longer"})
    row = rows["compression through one leg"]
    Fy = 50 * KSI
    Fn = 0.658 ** (Fy / Fe) * Fy if Fy / Fe <= 2.25 else 0.877 * Fe
    assert row.capacity == pytest.approx(0.9 * Fn * s.A, rel=1e-9)
    assert MINOR not in rows
    assert angle_rows()[MINOR].status == "ok"
    beyond = angle_rows(section="L8X4X1/2", one_leg={"leg": "longer"})
    assert beyond["compression through one leg"].status == "outside"


def test_torsion_of_hollow_sections():
    """H3-6 by hand, and the torsional strength by the thin-walled closed form."""
    forces = [
        {"name": "a", "torsion": "20 kN m", "moment_major": "30 kN m", "shear_major": "40 kN"}
    ]
    member = wb.Member(mark="X", section="HSS8X6X3/8", span="3 m", forces=forces)
    rows = {row.name: row for row in wb.check(wb.Job(members=[member]))["X"].rows}
    s = member.section
    enclosed = (s.b - s.t) * (s.d - s.t)
    T = 0.9 * 0.6 * wb.resolve(member).strengths.Fy * 2 * enclosed * s.t
    assert rows["torsion"].capacity == pytest.approx(T, rel=0.03)
    strengths = [
        rows["lateral-torsional buckling"], rows["shear, walls along the depth"], rows["torsion"],
    ]  # fmt: skip
    _, V, T = (row.utilisation for row in strengths)
    lowest = max(rows[n].utilisation for n in ("yielding, major axis", "wall local buckling", LTB))
    assert rows["forces with torsion"].utilisation == pytest.approx(lowest + (V + T) ** 2, rel=1e-9)


# By hand: the standard's arithmetic written out once more, in ksi and inches


IN, K = 25.4, 4448.2216152605


def inches(s, *names):
    powers = {"A": 2, "I_major": 4, "I_minor": 4, "I_x": 4, "I_y": 4, "J": 4}
    return [getattr(s, n) / IN ** powers.get(n, 3 if n.startswith("W") else 1) for n in names]


def column_stress(Fe, Fy):
    return 0.658 ** (Fy / Fe) * Fy if Fy / Fe <= 2.25 else 0.877 * Fe


def effective(b, ratio, limit, Fn, Fy, c1):
    c2 = (1 - math.sqrt(1 - 4 * c1)) / (2 * c1)
    if ratio <= limit * math.sqrt(Fy / Fn):
        return b
    Fel = (c2 * limit / ratio) ** 2 * Fy
    return b * (1 - c1 * math.sqrt(Fel / Fn)) * math.sqrt(Fel / Fn)


@pytest.mark.parametrize("feet", [4, 10, 25])
def test_slender_walls_in_compression_by_hand(feet):
    s, Fy = wb.section("HSS12X8X3/16"), 50.0
    A, d, b, t, r = inches(s, "A", "d", "b", "t", "r_minor")
    Fn = column_stress(math.pi**2 * 29000 / (12 * feet / r) ** 2, Fy)
    limit = 1.40 * math.sqrt(29000 / Fy)
    Ae = A
    for width in (d - 3 * t, b - 3 * t):
        Ae -= 2 * t * (width - effective(width, width / t, limit, Fn, Fy, 0.20))
    found = capacity(MINOR, s, L=feet * FT, Fy=Fy) / K
    assert found == pytest.approx(0.9 * Fn * Ae, rel=1e-6)


@pytest.mark.parametrize("feet", [4, 12])
def test_a_slender_stem_in_compression_by_hand(feet):
    s, Fy = wb.section("WT18X67.5"), 50.0
    A, d, bf, tw, tf, rx = inches(s, "A", "d", "bf", "tw", "tf", "r_major")
    Fn = column_stress(math.pi**2 * 29000 / (12 * feet / rx) ** 2, Fy)
    root = math.sqrt(29000 / Fy)
    Ae = A - tw * (d - effective(d, d / tw, 0.75 * root, Fn, Fy, 0.22))
    Ae -= 2 * tf * (bf / 2 - effective(bf / 2, bf / 2 / tf, 0.56 * root, Fn, Fy, 0.22))
    assert d / tw > 0.75 * root
    found = capacity(MAJOR, s, L=feet * FT, Fy=Fy) / K
    assert found == pytest.approx(0.9 * Fn * Ae, rel=1e-6)


def test_a_slender_angle_by_hand():
    """L6X6X5/16: E7 for both legs, and E4-4 by bisection of the cubic as it is printed."""
    s, Fy, L = wb.section("L6X6X5/16"), 50.0, 96.0
    A, b, t, rz, rw, J = inches(s, "A", "d", "t", "r_minor", "r_major", "J")
    limit = 0.45 * math.sqrt(29000 / Fy)

    def strength(Fe):
        Fn = column_stress(Fe, Fy)
        Ae = A - 2 * t * (b - effective(b, b / t, limit, Fn, Fy, 0.22))
        return 0.9 * Fn * Ae

    found = capacity(MINOR, s, L=L * IN, Fy=Fy) / K
    assert found == pytest.approx(strength(math.pi**2 * 29000 / (L / rz) ** 2), rel=1e-6)
    x, y = inches(s, "x", "y")
    offset = math.hypot(x - t / 2, y - t / 2)  # along the major principal axis
    ro2 = offset**2 + rz**2 + rw**2
    Few, Fezz = (math.pi**2 * 29000 / (L / r) ** 2 for r in (rw, rz))
    Fet = (math.pi**2 * 29000 * s.Cw / IN**6 / L**2 + 11200 * J) / (A * ro2)

    def cubic(F):
        return (F - Few) * (F - Fezz) * (F - Fet) - F**2 * (F - Fezz) * offset**2 / ro2

    low, high = 1e-6, min(Few, Fezz, Fet)
    for _ in range(200):
        middle = (low + high) / 2
        low, high = (middle, high) if cubic(middle) < 0 else (low, middle)
    found = capacity(FTB, s, L=L * IN, Fy=Fy) / K
    assert found == pytest.approx(strength(low), rel=1e-6)


@pytest.mark.parametrize("top", [True, False])
@pytest.mark.parametrize("feet", [3, 15, 40])
def test_a_tee_in_bending_by_hand(top, feet):
    s, Fy, L = wb.section("WT8X25"), 50.0, 12.0 * feet
    d, tw, Iy, J, ry = inches(s, "d", "tw", "I_y", "J", "r_y")
    Sx, Zx = inches(s, "Wel_bottom", "Wpl_x")
    My, root = Fy * Sx, math.sqrt(29000 / Fy)
    B = (1 if top else -1) * 2.3 * d / L * math.sqrt(Iy / J)
    Mcr = 1.95 * 29000 / L * math.sqrt(Iy * J) * (B + math.sqrt(1 + B**2))
    if top:
        Mp, Lp = min(Fy * Zx, 1.6 * My), 1.76 * ry * root
        Lr = 1.95 * 29000 / Fy * math.sqrt(Iy * J) / Sx
        Lr *= math.sqrt(2.36 * Fy / 29000 * d * Sx / J + 1)
        inelastic = Mp - (Mp - My) * (L - Lp) / (Lr - Lp)
        Mn = Mp if Lp >= L else inelastic if Lr >= L else min(Mcr, Mp)
    else:
        Mn = min(Mcr, My)
        ratio = d / tw
        Fcr = Fy if ratio <= 0.84 * root else (1.43 - 0.515 * ratio / root) * Fy
        stem = capacity("stem local buckling", s, top=False, Fy=Fy) / K / IN
        assert stem == pytest.approx(0.9 * Fcr * Sx, rel=1e-9)
    found = capacity(LTB, s, Lb=L * IN, top=top, Fy=Fy) / K / IN
    assert found == pytest.approx(0.9 * Mn, rel=1e-9)


@pytest.mark.parametrize("feet", [2, 8, 30])
def test_an_angle_in_bending_by_hand(feet):
    """DE style, L8X4X1/2 with the long leg in compression: F10-4, F10-2 or F10-3, F10-6."""
    s, Fy, L = wb.section("L8X4X1/2"), 36.0, 12.0 * feet
    A, t, rz, Sw, Sz = inches(s, "A", "t", "r_minor", "Wel_major", "Wel_minor")
    beta = -abs(s.beta_major) / IN
    term = 4.4 * beta * rz / (L * t)
    Mcr = 9 * 29000 * A * rz * t * 1.0 / (8 * L) * (math.sqrt(1 + term**2) + term)
    My = Fy * Sw
    Mn = (
        min((1.92 - 1.17 * math.sqrt(My / Mcr)) * My, 1.5 * My)
        if My <= Mcr
        else ((0.92 - 0.17 * Mcr / My) * Mcr)
    )
    assert capacity(LTB, s, Lb=L * IN, Fy=Fy) / K / IN == pytest.approx(0.9 * Mn, rel=1e-9)
    local = Fy * Sw * (2.43 - 1.72 * 16 * math.sqrt(Fy / 29000))
    assert 0.54 * math.sqrt(29000 / Fy) < 16 < 0.91 * math.sqrt(29000 / Fy)
    assert capacity("leg local buckling", s, Fy=Fy) / K / IN == pytest.approx(0.9 * local, rel=1e-9)
    minor = min(1.5 * Fy * Sz, Fy * Sz * (2.43 - 1.72 * 16 * math.sqrt(Fy / 29000)))
    found = capacity("bending, minor axis", s, Fy=Fy) / K / IN
    assert found == pytest.approx(0.9 * minor, rel=1e-9)


@pytest.mark.parametrize("feet", [5, 15, 40])
@pytest.mark.parametrize(("web", "slender"), [(0.3125, False), (0.1875, True)])
def test_a_welded_girder_by_hand(web, slender, feet):
    """36 in deep, flanges 12 by 3/4: F4 with a noncompact web, F5 with a slender one."""
    sizes = {"d": "36 in", "bf": "12 in", "tf": "0.75 in", "tw": f"{web} in"}
    s, Fy, L, root = a_section({"shape": "welded I", **sizes}), 50.0, 12.0 * feet, math.sqrt(580)
    Sx, Zx, J = inches(s, "Wel_major", "Wpl_major", "J")
    h, ho, My = 34.5, 35.25, 50.0 * Sx
    aw = h * web / (12 * 0.75)
    rt = 12 / math.sqrt(12 * (1 + aw / 6))
    Lp = 1.1 * rt * root
    assert (h / web > 5.70 * root) == slender
    if slender:
        Rpg = min(1 - aw / (1200 + 300 * aw) * (h / web - 5.7 * root), 1)
        Lr = math.pi * rt * math.sqrt(29000 / (0.7 * Fy))
        inelastic = min(Fy - 0.3 * Fy * (L - Lp) / (Lr - Lp), Fy)
        elastic = min(math.pi**2 * 29000 / (L / rt) ** 2, Fy)
        Fcr = Fy if Lp >= L else inelastic if Lr >= L else elastic
        Mn = Rpg * Fcr * Sx
    else:
        ratio = (h / web - 3.76 * root) / (5.70 * root - 3.76 * root)
        Mp = min(Fy * Zx, 1.6 * My)
        Rpc = Mp / My - (Mp / My - 1) * ratio
        JSh, FL = J / (Sx * ho), 0.7 * Fy
        Lr = 1.95 * rt * 29000 / FL * math.sqrt(JSh + math.sqrt(JSh**2 + 6.76 * (FL / 29000) ** 2))
        inelastic = min(Rpc * My - (Rpc * My - FL * Sx) * (L - Lp) / (Lr - Lp), Rpc * My)
        Fcr = math.pi**2 * 29000 / (L / rt) ** 2 * math.sqrt(1 + 0.078 * JSh * (L / rt) ** 2)
        Mn = Rpc * My if Lp >= L else inelastic if Lr >= L else min(Fcr * Sx, Rpc * My)
    found = capacity(LTB, s, Lb=L * IN, Fy=Fy) / K / IN
    assert found == pytest.approx(0.9 * Mn, rel=1e-6)


@pytest.mark.parametrize("metres", [4.0, 20.0, 40.0])
def test_a_thin_tube_in_shear_by_hand(metres):
    """G5-2a over the whole length, G5-2b whatever it is: the larger of the two."""
    s = a_section({"shape": "round tube", "d": "600 mm", "t": "4 mm"})
    of_length = 1.60 * E / (math.sqrt(metres * 1000 / 600) * 150**1.25)
    whatever = 0.78 * E / 150**1.5
    assert (of_length > whatever) == (metres < 30)
    Fcr = min(max(of_length, whatever), 0.6 * 50 * KSI)
    found = capacity("shear", s, L=metres * 1000)
    assert found == pytest.approx(0.9 * Fcr * s.A / 2, rel=1e-9)


def test_welded_shapes_twist_whatever_their_lengths():
    """E4 names built-up shapes: E4-2 by hand, below E3 about the minor axis of a short column."""
    s = a_section(
        {"shape": "welded I", "d": "14 in", "bf": "14 in", "tf": "0.5 in", "tw": "0.4 in"}
    )
    A, Ix, Iy, J, Cw, L = *inches(s, "A", "I_major", "I_minor", "J"), s.Cw / IN**6, 100.0
    Fe = (math.pi**2 * 29000 * Cw / L**2 + 11200 * J) / (Ix + Iy)
    Fey = math.pi**2 * 29000 * Iy / A / L**2
    assert Fe < Fey
    names = ("torsional buckling", "flexural buckling, minor axis")
    twisting, bending = (
        capacity(name, s, L=L * IN, demand={"compression": 1.0}, Fy=36) / K for name in names
    )
    assert twisting == pytest.approx(0.9 * 0.658 ** (36 / Fe) * 36 * A, rel=1e-6)
    assert twisting < bending


@pytest.mark.parametrize("count", [2, 4, 6])
def test_holes_in_the_tension_flange_by_hand(count):
    """W21X62 of A992, holes of 13/16 in: F13-1 where Fu Afn is below Fy Afg."""
    s, diameter = wb.section("W21X62"), 13 / 16
    bf, tf, Sx, Zx = inches(s, "bf", "tf", "Wel_major", "Wpl_major")
    net = bf * tf - count * (diameter + 1 / 16) * tf
    Mn = 50 * Zx if 65 * net >= 50 * bf * tf else 65 * net / (bf * tf) * Sx
    found = capacity("tension flange rupture", s, flange_holes=(count, diameter * IN)) / K / IN
    assert found == pytest.approx(0.9 * Mn, rel=1e-9)
    member = wb.Member(
        mark="X", section="W21X62", span="6 m", load=[{"case": "live", "line": "10 kN/m"}],
        flange_holes={"count": count, "diameter": "13/16 in"},
    )  # fmt: skip
    names = [row.name for row in wb.check(wb.Job(members=[member]))["X"].rows]
    assert "tension flange rupture" in names


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
def test_tension_and_bending_at_flange_holes_by_hand(method):
    """H4-1: net section of both flanges' holes, and F13-1; nothing where nothing pulls."""
    s, holes = wb.section("W21X62"), {"count": 4, "diameter": "13/16 in"}
    load = [{"case": "live", "line": "2 kip/ft"}, {"case": "live", "tension": "90 kip"}]

    def rows_of(load):
        member = wb.Member(mark="X", section="W21X62", steel="A992", span="20 ft", load=load,
                           flange_holes=holes, self_weight=False)  # fmt: skip
        table = wb.check(wb.Job(members=[member], design={"method": method}))
        return {row.name: row for row in table["X"].rows}

    A, bf, tf, Sx = inches(s, "A", "bf", "tf", "Wel_major")
    lost, factor = 4 * (13 / 16 + 1 / 16) * tf, 1.6 if method == "LRFD" else 1.0
    phi_t, phi_b = (0.75, 0.9) if method == "LRFD" else (0.5, 1 / 1.67)
    Mn = 65 * (1 - lost / (bf * tf)) * Sx
    U = factor * 90 / (phi_t * 65 * (A - 2 * lost)) + factor * 2 * 400 / 8 * 12 / (phi_b * Mn)
    assert rows_of(load)["rupture at flange holes"].utilisation == pytest.approx(U, rel=1e-9)
    assert "rupture at flange holes" not in rows_of(load[:1])


def test_a_box_with_slender_walls_by_hand():
    """Walls of 1000 by 4 mm, flanges of 300 by 12 mm: F7-7 and F7-8."""
    sizes = {"d": "1024 mm", "b": "308 mm", "tw": "4 mm", "tf": "12 mm"}
    s = a_section({"shape": "welded box", **sizes})
    root = math.sqrt(29000 / 50)
    aw = 2 * 1000 * 4 / (300 * 12)
    Rpg = min(1 - aw / (1200 + 300 * aw) * (250 - 5.7 * root), 1.0)
    assert 5.7 * root < 250
    assert 1.12 * root > 25
    found = capacity("wall local buckling", s) / 0.9
    assert found == pytest.approx(Rpg * 50 * KSI * s.Wel_major, rel=1e-9)


# How far a strength may fall where the steel gets stronger: the jumps of the standard itself
JUMPS = {
    "flexural buckling": 6e-4,  # E3-2 to E3-3
    "flexural-torsional buckling": 6e-4,
    "shear, web": 0.07,  # G2.1(a) to (b): phi from 1.00 to 0.90
    "bending": 0.008,  # F8 and F10.3 at their limits, printed rounded
    "leg local buckling": 0.008,
    "stem local buckling": 0.008,
}
LOST_TORSION = 0.28  # from F4 to F5 a welded I loses its torsion constant at once


@pytest.mark.parametrize("section", [*NAMES, *OWN[:-3]], ids=str)
def test_stronger_steel_is_never_weaker_but_for_the_jumps(section):
    s = wb.section(section) if isinstance(section, str) else a_section(section)
    for length, top in ((500.0, True), (6000.0, True), (6000.0, False)):
        fields = {"L": length, "Lb": length, "top": top, "connectors": 300.0}
        for check in checks(s.shape):
            found = [capacity(check, s, Fy=Fy, Fu=Fy + 15, **fields) for Fy in range(30, 101, 5)]
            allowed = next((v for name, v in JUMPS.items() if check.startswith(name)), 1e-9)
            if check == LTB and s.shape == "welded I":
                allowed = LOST_TORSION
            known = [value for value in found if not math.isnan(value)]
            for weaker, stronger in pairwise(known):
                assert stronger >= weaker * (1 - allowed), check


@pytest.mark.parametrize("size", ["tw", "tf", "bf"])
def test_thicker_plates_are_never_weaker(size):
    """But for the flange's share of the web, which kc and aw take from it: 2 %."""
    base = {"d": 900.0, "bf": 300.0, "tw": 10.0, "tf": 20.0}
    for check in (MAJOR, MINOR, "yielding, major axis", LTB, "shear, web", "bending, minor axis"):
        found = []
        for factor in (0.7, 0.8, 0.9, 1.0, 1.15, 1.3, 1.6):
            sizes = {k: f"{v * (factor if k == size else 1)} mm" for k, v in base.items()}
            s = a_section({"shape": "welded I", **sizes})
            found.append(capacity(check, s, L=6000.0, Lb=6000.0))
        for thin, thick in pairwise(found):
            assert thick >= thin * 0.98, (check, size, found)
