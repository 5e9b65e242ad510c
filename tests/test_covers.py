"""Cover plates, channel caps and pairs of channels: against plainer shapes, and by hand."""

import math

import numpy as np
import pytest

import welbric as wb
from cases import KSI, capacity
from welbric.sections.kinds import own_section
from welbric.sections.table import SectionAxis
from welbric.standards.aisc360.design import E
from welbric.standards.aisc360.routes import checks

LTB = "lateral-torsional buckling"
PLATED = {"d": 500.0, "bf": 200.0, "tw": 8.0, "tf": 16.0, "b_top": 200.0, "t_top": 12.0}
THICK = {"d": 512.0, "bf_top": 200.0, "tf_top": 28.0, "bf_bottom": 200.0, "tf_bottom": 16.0}


def plated(**sizes):
    return own_section("plated I", "P", PLATED | sizes)


@pytest.mark.parametrize("top", [True, False])
@pytest.mark.parametrize("tw", [8.0, 4.0, 3.2])
@pytest.mark.parametrize("length", [1000.0, 4000.0, 12000.0])
def test_a_plate_as_wide_as_the_flange_thickens_it(length, tw, top):
    """The same steel in the same places: an unequal I-shape, but for what J leaves out."""
    thick = own_section("unequal I", "U", THICK | {"tw": tw})
    fields = {"L": length, "Lb": length, "top": top, "demand": {"M_major": 1.0}}
    for name in ("yielding, major axis", "tension flange yielding", "bending, minor axis",
                 "flexural buckling, major axis", "flexural buckling, minor axis"):  # fmt: skip
        own, plain = (capacity(name, s, **fields) for s in (plated(tw=tw), thick))
        assert own == pytest.approx(plain, rel=2e-3), name
    own, plain = (capacity(LTB, s, **fields) for s in (plated(tw=tw), thick))
    least = math.sqrt(plated(tw=tw).J / thick.J)  # where all of the strength is Saint-Venant's
    assert least * plain <= own <= plain * 1.002


def test_no_plate_is_the_bare_shape():
    """F4 with a compact web is a little below F2, never above."""
    bare = plated(b_top=0.0, t_top=0.0)
    plain = own_section("welded I", "W", {k: PLATED[k] for k in ("d", "bf", "tw", "tf")})
    for length in np.linspace(500, 12000, 12):
        own, usual = (capacity(LTB, s, Lb=length, demand={"M_major": 1.0}) for s in (bare, plain))
        assert 0.9 * usual <= own <= usual * 1.001
    for name in ("flexural buckling, minor axis", "bending, minor axis", "shear, web"):
        assert capacity(name, bare) == pytest.approx(capacity(name, plain), rel=1e-9)


def test_a_thin_cover_buckles_by_its_own_limits():
    """Table B4.1b(18): whole to 1.12, 0.7 of yield at 1.40, outside beyond."""
    root = math.sqrt(E / (50 * KSI))
    name = "cover local buckling"

    def strength(ratio):
        return capacity(name, plated(t_top=200.0 / (ratio * root)), demand={"M_major": 1.0})

    whole = capacity("yielding, major axis", plated(t_top=200.0 / (1.11 * root)))
    assert strength(1.11) == pytest.approx(whole, rel=1e-9)
    edge = plated(t_top=200.0 / (1.40 * root))
    FL = max(edge.Wel_bottom / edge.Wel_top, 0.5) if edge.Wel_bottom < 0.7 * edge.Wel_top else 0.7
    expected = 0.9 * FL * 50 * KSI * edge.Wel_top
    assert strength(1.40 * (1 - 1e-9)) == pytest.approx(expected, rel=1e-6)
    section = {"shape": "plated I", **{k: f"{v} mm" for k, v in PLATED.items()}, "t_top": "5 mm"}
    load = [{"case": "live", "line": "10 kN/m"}]
    member = wb.Member(mark="P", section=section, span="6 m", load=load)
    rows = {row.name: row for row in wb.check(wb.Job(members=[member]))["P"].rows}
    assert rows["yielding, major axis"].status == "outside"
    assert "slender between its welds" in rows["yielding, major axis"].reason


def test_a_cap_helps_and_is_one_flange_with_the_flange():
    """Never weaker than without; rt of flange, channel and a third of the web in compression."""
    sizes = {"d": 536.0, "bf": 210.0, "tw": 11.0, "tf": 17.4}
    cap = {"cap_d": 305.0, "cap_bf": 75.0, "cap_tw": 9.0, "cap_tf": 12.7}
    capped, bare = own_section("capped I", "C", sizes | cap), own_section("plated I", "B", sizes)
    for length in (2000.0, 5000.0, 9000.0, 14000.0):
        with_cap, without = (
            capacity(LTB, s, Lb=length, demand={"M_major": 1.0}) for s in (capped, bare)
        )
        assert with_cap > without
    A_cap = 305 * 9.0 + 2 * 66 * 12.7
    I_cap = 9 * 305**3 / 12 + 2 * (66 * 12.7 * (152.5 - 6.35) ** 2 + 0 * 12.7)
    y_c = 536 - 17.4 - capped.y
    rt = math.sqrt((I_cap + 17.4 * 210**3 / 12) / (A_cap + 17.4 * 210 + y_c * 11 / 3))
    # At 1.1 rt sqrt(E/Fy) yielding ends.
    Lp = 1.1 * rt * math.sqrt(E / (50 * KSI))
    whole = capacity("yielding, major axis", capped)
    below, above = (capacity(LTB, capped, Lb=Lp * f) for f in (0.999, 1.01))
    assert below == pytest.approx(whole, rel=1e-9)
    assert above < whole


PAIR = {"d": 254.0, "bf": 69.6, "tw": 9.6, "tf": 11.1}


@pytest.mark.parametrize("name", ["yielding, major axis", LTB, "bending, minor axis",
                                  "shear, web", "shear, flanges"])  # fmt: skip
def test_two_channels_bend_as_two(name):
    two = own_section("double channel", "2", PAIR | {"gap": 10.0})
    one = own_section("channel", "1", PAIR)
    fields = {"Lb": 3000.0, "demand": {"M_major": 1.0}}
    assert capacity(name, two, **fields) == pytest.approx(2 * capacity(name, one, **fields))


@pytest.mark.parametrize(("toes_in", "Ki"), [(0.0, 0.75), (1.0, 0.86)])
@pytest.mark.parametrize("snug", [True, False])
def test_two_channels_in_compression_by_hand(toes_in, Ki, snug):
    two = own_section("double channel", "2", PAIR | {"gap": 10.0, "toes_in": toes_in})
    one = own_section("channel", "1", PAIR)
    a, L = 1000.0, 4000.0
    as_one, apart = L / two.r_minor, a / one.r_minor
    if snug:
        slenderness = math.hypot(as_one, apart)
    else:
        slenderness = math.hypot(as_one, Ki * apart) if apart > 40 else as_one
    Fe = math.pi**2 * E / slenderness**2
    Fy = 36 * KSI
    Fcr = 0.658 ** (Fy / Fe) * Fy if Fy <= 2.25 * Fe else 0.877 * Fe
    found = capacity("flexural buckling, minor axis", two, Fy=36, Fu=58, L=L, connectors=a,
                     snug_tight=snug)  # fmt: skip
    assert found == pytest.approx(0.9 * Fcr * two.A, rel=1e-9)


def test_tapered_channels_make_a_pair_of_themselves():
    """Twice the published channel, about both axes."""
    one = wb.section("C10X20")
    two = wb.Member(mark="X", section="2 C10X20 back to back, 10 mm apart", span="3 m").section
    assert pytest.approx(2 * one.A, rel=0.01) == two.A
    assert two.I_major == pytest.approx(2 * one.I_major, rel=0.01)
    about_y = 2 * (one.I_minor + one.A * (one.x + 5) ** 2)
    assert two.I_minor == pytest.approx(about_y, rel=0.015)


@pytest.mark.parametrize("shape", ["plated I", "capped I", "double channel"])
def test_arrays_are_the_single_numbers(shape):
    cap = {"cap_d": 305.0, "cap_bf": 75.0, "cap_tw": 9.0, "cap_tf": 12.7}
    own = {"plated I": PLATED, "capped I": {k: PLATED[k] for k in ("d", "bf", "tw", "tf")} | cap,
           "double channel": PAIR}  # fmt: skip
    one = own_section(shape, "S", own[shape])
    many = SectionAxis({k: np.full((3, 1, 1), v) for k, v in one.properties.items()})
    many.shape = shape
    for name in checks(shape):
        fields = {"Lb": 3000.0, "L": 3000.0, "connectors": 500.0, "demand": {"M_major": 1.0}}
        single = capacity(name, one, **fields)
        with np.errstate(all="ignore"):
            found = checks(shape)[name](case_of(many, fields)).capacity
        if found is not None and math.isfinite(single):
            assert np.allclose(found, single, rtol=1e-9), name


def case_of(section, fields):
    from cases import case

    demand = {k: np.full((1, 1, 1), 1.0) for k in ("M_major", "M_max", "M_A", "M_B", "M_C")}
    return case(section, **(fields | {"demand": demand, "Lb": np.array([3000.0])}))
