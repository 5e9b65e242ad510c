"""Clauses that are easily misread, each against arithmetic of its own or a limiting case."""

from __future__ import annotations

import numpy as np
import pytest

import welbric as wb
from cases import FT, IN, KIP, KIP_FT, KSI, capacity, case, utilisation
from welbric.sections.kinds import own_section
from welbric.standards.aisc360.routes import checks

E, G = 29000 * KSI, 11200 * KSI


def test_a_flange_beside_a_slender_web_has_the_limit_of_0_7_fy():
    """Table B4.1b note b: the tension flange's share is for compact and noncompact webs."""
    sizes = {"d": 1490, "bf_top": 460, "tf_top": 14, "bf_bottom": 350, "tf_bottom": 8, "tw": 6}
    s, Fy = own_section("unequal I", "G", sizes), 50 * KSI
    web = 1490 - 14 - 8
    A = 460 * 14 + 350 * 8 + web * 6
    y = (460 * 14 * (1490 - 7) + 350 * 8 * 4 + web * 6 * (8 + web / 2)) / A
    inertia = 460 * 14**3 / 12 + 350 * 8**3 / 12 + 6 * web**3 / 12
    inertia += 460 * 14 * (1483 - y) ** 2 + 350 * 8 * (y - 4) ** 2
    inertia += web * 6 * (8 + web / 2 - y) ** 2
    Sxc = inertia / (1490 - y)
    hc = 2 * (1490 - 14 - y)
    assert hc / 6 > 5.7 * (E / Fy) ** 0.5
    aw = min(hc * 6 / (460 * 14), 10)
    Rpg = min(1 - aw / (1200 + 300 * aw) * (hc / 6 - 5.7 * (E / Fy) ** 0.5), 1)
    kc = min(max(4 / (web / 6) ** 0.5, 0.35), 0.76)
    lam, lp = 460 / 28, 0.38 * (E / Fy) ** 0.5
    lr = 0.95 * (kc * E / (0.7 * Fy)) ** 0.5
    assert lam > lr > lp
    Mn = Rpg * 0.9 * E * kc / lam**2 * Sxc
    assert capacity("flange local buckling", s, L=10_000.0, top=True) == pytest.approx(0.9 * Mn)
    assert 0.9 * Mn / 1e6 == pytest.approx(2101, abs=1)


@pytest.mark.parametrize(("method", "printed"), [("LRFD", 180), ("ASD", 120)])
def test_round_tubes_in_torsion_of_example_h5b(method, printed):
    """AISC Design Examples v15.0, H.5B: HSS5.000X0.250, Fy = 42 ksi."""
    found = capacity("torsion", "HSS5.000X0.250", Fy=42, Fu=58, method=method, L=10 * FT)
    assert found / (KIP * IN) == pytest.approx(printed, abs=0.5)


def test_a_web_beyond_ten_flanges_is_outside():
    """F13.2, in the segment whose compression flange is the small one."""
    for bf, status in ((155, "covered"), (150, "outside")):
        sizes = {"d": 1000, "bf_top": 200, "tf_top": 8, "bf_bottom": bf, "tf_bottom": 6.0,
                 "tw": 9.4}  # fmt: skip
        s = own_section("unequal I", "G", sizes)
        ratio = (1000 - 14) * 9.4 / (bf * 6)
        assert (ratio > 10) == (status == "outside")
        demand = {"M_major": 1e6, "M_max": 1e6}
        found = utilisation("yielding, major axis", s, L=3000.0, top=False, demand=demand)
        assert np.isnan(found) == (status == "outside")
        assert np.isfinite(utilisation("yielding, major axis", s, L=3000.0, demand=demand))


def test_legs_back_to_back_are_no_outstanding_legs():
    """Table B4.1a: case 1 for outstanding legs in contact, case 3 for every other leg."""
    Fy = 36 * KSI
    rest = {"L": 1.0, "Fy": 36, "Fu": 58, "connectors": 1e-3}
    for gap in (0.0, 10.0):
        s = own_section("double angle", "2L", {"d": 150, "b": 100, "t": 6.0, "gap": gap})
        found = capacity("flexural buckling, major axis", s, **rest) / 0.9
        Ae = s.A
        for width, limit in ((150, 0.45), (100, 0.56 if gap == 0 else 0.45)):
            lam, limit = width / 6, limit * (E / Fy) ** 0.5
            if lam > limit:
                c2 = (1 - (1 - 4 * 0.22) ** 0.5) / (2 * 0.22)
                Fel = (c2 * limit / lam) ** 2 * Fy
                Ae -= 2 * 6 * (width - width * (1 - 0.22 * (Fel / Fy) ** 0.5) * (Fel / Fy) ** 0.5)
        assert found == pytest.approx(Fy * Ae, rel=1e-6)


def test_compact_flange_legs_leave_the_plastic_moment():
    """F9.3(b) by F10.3(a): no leg local buckling, so that Mp of F9-2 stands."""
    s = wb.section("2L4X4X1/2X3/8")
    Mp = min(36 * KSI * s.Wpl_x, 1.6 * 36 * KSI * s.Wel_major)
    found = capacity("flange local buckling", s, Fy=36, Fu=58, top=True)
    assert found == pytest.approx(0.9 * Mp)
    assert found > 0.9 * 1.5 * 36 * KSI * s.Wel_major * 1.01


def test_plates_of_boxes_are_other_stiffened_elements():
    """Table B4.1a case 8: 1.49, with the constants of Table E7.1(a)."""
    Fy = 50 * KSI
    s = own_section("welded box", "B", {"d": 400, "b": 300, "tw": 9.0, "tf": 9.0})
    limit = 1.49 * (E / Fy) ** 0.5
    Ae = s.A
    for width in (400 - 18, 300 - 18):
        lam = width / 9
        if lam > limit:
            c2 = (1 - (1 - 4 * 0.18) ** 0.5) / (2 * 0.18)
            F = (c2 * limit / lam) ** 2 * Fy
            Ae -= 2 * 9 * width * (1 - (1 - 0.18 * (F / Fy) ** 0.5) * (F / Fy) ** 0.5)
    assert Ae < s.A
    found = capacity("flexural buckling, major axis", s, L=1.0) / 0.9
    assert found == pytest.approx(Fy * Ae, rel=1e-6)
    assert 34.6 / limit < 1  # a plate between 1.40 and 1.49 counts whole
    whole = own_section("welded box", "B", {"d": 320, "b": 300, "tw": 9.0, "tf": 9.0})
    assert capacity("flexural buckling, major axis", whole, L=1.0) / 0.9 == pytest.approx(
        Fy * whole.A, rel=1e-6
    )


def bent_column(section="W10X49", **more):
    forces = {"name": "all", "compression": "250 kip", "moment_major": "10 kip ft",
              "shear_major": "0 kip"}  # fmt: skip
    return wb.Member(
        mark="C", section=section, steel="A992", role="column", height="30 ft", forces=[forces],
        **more,
    )  # fmt: skip


def rows_of(member, **job):
    return {row.name: row for row in wb.check(wb.Job(members=[member], **job))["C"].rows}


def test_an_axis_that_nothing_bends_has_no_multiplier():
    """Beyond pi2 EI/L2 about the minor axis, whose K = 0.5 E3 takes: A-8-3 has nothing to say."""
    row = rows_of(bent_column(buckling={"minor_K": 0.5}))["compression and bending"]
    s = wb.section("W10X49")
    assert np.pi**2 * E * s.I_minor / (30 * FT) ** 2 < 250 * KIP
    Pe1 = np.pi**2 * E * s.I_major / (30 * FT) ** 2
    Mr = 10 * KIP_FT / (1 - 250 * KIP / Pe1)
    rows = rows_of(bent_column(buckling={"minor_K": 0.5}))
    Pc = min(rows[f"flexural buckling, {axis} axis"].capacity for axis in ("major", "minor"))
    Mc = min(rows[n].capacity for n in ("yielding, major axis", "lateral-torsional buckling",
                                        "flange local buckling"))  # fmt: skip
    assert row.utilisation == pytest.approx(250 * KIP / Pc + 8 / 9 * Mr / Mc)
    assert row.utilisation == pytest.approx(0.74, abs=0.01)
    lengths = {"L": 30 * FT, "K_minor": 0.1, "K_torsion": 0.1}
    one = case("WT10.5X22", demand={"compression": 60 * KIP, "M_major": 1e6}, **lengths)
    with np.errstate(all="ignore"):
        assert np.isfinite(checks("tee")["compression and bending"](one).utilisation)


def test_the_analysed_second_order_leaves_an_unbent_axis_to_its_length():
    loads = [{"case": "dead", "line": "1 kN/m"}, {"case": "dead", "compression": "400 kN"}]

    def member(**more):
        return wb.Member(
            mark="C", section="W8X31", steel="A992", span="9 m", second_order="analysed",
            loads=loads, self_weight=False, **more,
        )  # fmt: skip

    rows = rows_of(member(buckling={"minor_length": "3 m"}), combinations=["1D"])
    s = wb.section("W8X31")
    share = 1.4 * 400e3 / (np.pi**2 * E * s.I_major / 9000**2)
    assert rows["elastic stability in bending"].utilisation == pytest.approx(share, rel=2e-3)
    longer = rows_of(member(buckling={"major_length": "12 m"}))
    assert "major_length is more than the longest span" in longer["second order"].reason


def test_moments_between_the_ends_take_cm_of_1():
    """A-8.2.1(b): an eccentric load at mid-height is none of A-8.2.1(a)'s end moments."""

    def column(at, **more):
        loads = [
            {"case": "dead", "compression": "60 kip"},
            {"case": "live", "compression": "90 kip", "at": at, "eccentricity": "6 in"},
        ]
        return wb.Member(mark="C", section="W8X31", steel="A992", role="column", height="18 ft",
                         loads=loads, self_weight=False, **more)  # fmt: skip

    for at, Cm in (("9 ft", "Cm = 1 "), ("18 ft", "= 0.6\n")):
        text = str(wb.check(wb.Job(members=[column(at)])).explain("C", "compression and bending"))
        assert Cm in text
    sprung = column("18 ft", support=[{"at": "9 ft", "hold": "none", "rotation_spring": "50 kN m"}])
    text = str(wb.check(wb.Job(members=[sprung])).explain("C", "compression and bending"))
    assert "Cm = 1 " in text


UNLIKE = {
    "shape": "unequal I", "d": "24 in", "bf_top": "6 in", "tf_top": "5/8 in", "bf_bottom": "12 in",
    "tf_bottom": "5/8 in", "tw": "3/8 in",
}  # fmt: skip


@pytest.mark.parametrize("turned", [False, True])
def test_uniform_moment_has_cb_1_in_either_sense(turned):
    """Between forks the eigenvalue is the uniform moment's own, whichever flange it presses."""
    moments = ["-100 kip ft"] * 2 if not turned else ["100 kip ft"] * 2
    member = wb.Member(
        mark="C", section=UNLIKE, steel="A572 Gr 50", span="45 ft", self_weight=False,
        design={"Cb": "eigenvalue"}, loads=[{"case": "dead", "end_moments": moments}],
    )  # fmt: skip
    job = wb.Job(members=[member])
    plain = wb.Job(members=[member.model_copy(update={"design": {"Cb": 1.0}})])
    for part in wb.lateral_buckling(job, member.mark).segments:
        if part.moment > 0:
            assert part.moment_shape == pytest.approx(1.0, rel=1e-4)
    found, expected = (
        {r.name: r.utilisation for r in wb.check(one)["C"].rows} for one in (job, plain)
    )
    name = "lateral-torsional buckling"
    assert found[name] == pytest.approx(expected[name], rel=1e-4)


def test_elastic_braces_are_never_better_than_rigid_ones():
    def beam(**more):
        return wb.Member(
            mark="C", section="W18X50", steel="A992", span="40 ft", design={"Cb": "eigenvalue"},
            loads=[{"case": "live", "line": "1 kip/ft"}], **more,
        )  # fmt: skip

    at = ["10 ft", "20 ft", "30 ft"]
    stiff = [{"at": at, "stiffness": "100000 kN/mm", "on": "top"}]
    name = "lateral-torsional buckling"
    bare, sprung, rigid = (
        rows_of(one)[name].utilisation
        for one in (beam(), beam(brace=stiff), beam(restraint={"top": {"at": at}}))
    )
    assert sprung == bare > rigid


@pytest.mark.parametrize(
    ("section", "steel", "lifted"),
    [("W18X50", "A992", True), ("WT6X20", "A992", False), ("C10X20", "A36", None)],
)
def test_only_a_strength_that_asks_for_cb_takes_loads_where_they_act(section, steel, lifted):
    member = wb.Member(
        mark="C", section=section, steel=steel, span="12 ft", design={"Cb": "eigenvalue"},
        loads=[{"case": "live", "line": "0.2 kip/ft", "on": "top"}],
    )  # fmt: skip
    if lifted is None:  # no symmetry about the web: the eigenvalue does not cover it
        with pytest.raises(wb.InputError, match="not symmetric about its web"):
            rows_of(member)
    else:
        assert ("loads off the shear centre" in rows_of(member)) != lifted


def test_over_is_never_hidden_by_what_is_outside():
    """An angle bent about geometric axes: compression is outside there, yielding is over."""
    forces = [
        {"name": "pressed", "compression": "2 kip", "moment_major": "0.1 kip ft",
         "shear_major": "0 kip"},
        {"name": "bent", "moment_major": "30 kip ft", "shear_major": "1 kip"},
    ]  # fmt: skip
    for order in (forces, forces[::-1]):
        member = wb.Member(mark="C", section="L4X4X1/2", steel="A36", span="4 ft", forces=order,
                           bending_axes="geometric")  # fmt: skip
        result = wb.check(wb.Job(members=[member]))["C"]
        row = next(r for r in result.rows if r.name == "yielding, major axis")
        assert (row.status, row.combination) == ("over", "bent")
        assert result.status == "over"
        assert result.utilisation > 3
