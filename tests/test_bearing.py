"""Concentrated forces on webs (J10) and braces (Appendix 6): by hand, at the limits, in words."""

import math

import pytest

import welbric as wb
from cases import IN, KIP, KSI
from welbric.checking.bracing import brace_needs, continuous_needs, effective_inertia, twist_needs
from welbric.checking.check import check_member
from welbric.standards.aisc360.design import E
from welbric.standards.aisc360.limit_states.bearing import checks as bearing_checks
from welbric.standards.case import Bearing


def strengths(section="W18X50", **fields):
    found = wb.section(section)
    usual = {
        "section": found, "shape": found.shape, "Fy": 50 * KSI, "method": "LRFD", "force": 1e5,
        "length": 100.0, "from_end": 3000.0, "unbraced": 3000.0, "held_from_turning": False,
        "both_flanges": True, "yields": False, "source": "reaction",
    } | fields  # fmt: skip
    of = Bearing(**usual)
    return {check.name: check for check in (limit(of) for limit in bearing_checks(of))}


def test_bearing_constants_of_the_manual():
    """SCM Table 9-4, W18X50: phi R1 = 43.1 kip and phi R2 = 17.8 kip/in."""
    at_end = {"from_end": 50.0}
    R1 = strengths(length=1e-9, **at_end)["web local yielding"].capacity / KIP
    R2 = strengths(length=IN, **at_end)["web local yielding"].capacity / KIP - R1
    assert (pytest.approx(43.1, abs=0.0501), pytest.approx(17.8, abs=0.0501)) == (R1, R2)


def test_by_hand():
    s = wb.section("W18X50")
    Fy, lb, h = 50 * KSI, 100.0, s.d - 2 * (s.tf + s.r)
    found = strengths()
    crippling = 0.75 * 0.8 * s.tw**2 * (1 + 3 * lb / s.d * (s.tw / s.tf) ** 1.5)
    crippling *= math.sqrt(E * Fy * s.tf / s.tw)
    assert found["web local crippling"].capacity == pytest.approx(crippling, rel=1e-12)
    between = 0.9 * 24 * s.tw**3 * math.sqrt(E * Fy) / h
    assert found["web compression buckling"].capacity == pytest.approx(between, rel=1e-12)
    slender = 0.4 * (h / s.tw / (3000 / s.bf)) ** 3
    assert h / s.tw / (3000 / s.bf) > 1.7
    assert "web sidesway buckling" in found
    assert math.isinf(found["web sidesway buckling"].capacity)
    longer = strengths(unbraced=9000.0)["web sidesway buckling"].capacity
    slender = 0.4 * (h / s.tw / (9000 / s.bf)) ** 3
    expected = 0.85 * 960_000 * KSI * s.tw**3 * s.tf / h**2 * slender
    assert longer == pytest.approx(expected, rel=1e-12)


@pytest.mark.parametrize("name", ["web local crippling", "web local yielding"])
def test_longer_bearings_and_places_inside_are_stronger(name):
    lengths = [strengths(length=x, from_end=50.0)[name].capacity for x in (10, 90, 92, 200)]
    assert lengths == sorted(lengths)
    assert strengths(from_end=1000.0)[name].capacity > strengths(from_end=50.0)[name].capacity
    d = wb.section("W18X50").d
    below, above = (
        strengths(length=0.2 * d * f, from_end=50.0)[name].capacity for f in (1 - 1e-9, 1 + 1e-9)
    )
    assert below == pytest.approx(above, rel=1e-6)


def test_flanges_that_are_alike_by_the_unequal_road():
    sizes = {"d": "400 mm", "tw": "8 mm"}
    flange = {"bf": "200 mm", "tf": "14 mm"}
    both = {f"{k}_{side}": v for side in ("top", "bottom") for k, v in flange.items()}
    equal = {"shape": "welded I", **sizes, "bf": "200 mm", "tf": "14 mm"}
    rows = [
        {r.name: r.utilisation for r in wb.check(wb.Job(members=[beam(section=of)]))["B"].rows
         if r.clause.startswith("J10")}
        for of in (equal, {"shape": "unequal I", **sizes, **both})
    ]  # fmt: skip
    assert rows[0]
    assert rows[0] == pytest.approx(rows[1], rel=1e-9)


def beam(**fields):
    given = {
        "mark": "B", "section": "W16X26", "span": "20 ft", "bearing": "3 in", "self_weight": False,
        "load": [{"case": "live", "point": "60 kip", "at": "8 ft", "bearing": "4 in"}],
    } | fields  # fmt: skip
    return wb.Member(**given)


def test_supports_and_loads_of_a_member():
    table = wb.check(wb.Job(members=[beam()]))
    rows = {row.name: row for row in table["B"].rows}
    # 1.6 x 60 kip at 8 ft: 57.6 kip on the near support, 96 kip under the load.
    assert rows["web local crippling"].demand in (
        pytest.approx(96 * KIP), pytest.approx(57.6 * KIP)
    )  # fmt: skip
    for part in table.explain("B").parts:
        if part.row.name.startswith("web"):
            assert part.entries[-1].result == pytest.approx(part.row.utilisation, rel=1e-12)
    assert any("needs stiffeners that carry" in text for text in table["B"].warnings)
    plain = beam(bearing=None, load=[{"case": "live", "point": "60 kip", "at": "8 ft"}])
    assert not [r for r in wb.check(wb.Job(members=[plain]))["B"].rows if r.name.startswith("web ")]


def test_uplift_pulls_the_flange_and_other_shapes_are_outside():
    up = beam(load=[{"case": "wind", "line": "-1 kip/ft"}])
    rows = {r.name: r for r in wb.check(wb.Job(members=[up]))["B"].rows if r.clause[:3] == "J10"}
    assert set(rows) == {"flange local bending", "web local yielding"}
    s = wb.section("W16X26")  # the whole span's load on two supports, at the very end
    pull = 10 * KIP / (0.9 * 0.5 * 6.25 * 50 * KSI * s.tf**2)
    assert rows["flange local bending"].utilisation == pytest.approx(pull, rel=1e-9)
    tube = beam(section="HSS12X8X3/8", bearing="3 in", load=[{"case": "live", "line": "1 kip/ft"}])
    row = next(r for r in wb.check(wb.Job(members=[tube]))["B"].rows if r.clause == "J10")
    assert row.status == "outside"


def test_a_load_over_a_support_presses_both_flanges():
    load = [{"case": "live", "point": "60 kip", "at": "20 ft", "bearing": "4 in"}]
    member = beam(span=None, spans=["20 ft", "20 ft"], load=load)
    names = {row.name for row in wb.check(wb.Job(members=[member]))["B"].rows}
    assert "web compression buckling" in names


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"bearing": "-3 in"}, "bearing: a length is greater than zero"),
        ({"load": [{"case": "live", "line": "1 kip/ft", "bearing": "3 in"}]}, "does not go with"),
        (
            {"load": [{"case": "live", "point": "1 kip", "at": "1 ft", "bearing": "0 in"}]},
            "greater than zero",
        ),
    ],
)
def test_wrong_bearings(fields, words):
    with pytest.raises(wb.InputError, match=words):
        wb.resolve(beam(**fields))


@pytest.mark.parametrize(("method", "factor"), [("LRFD", 1 / 0.75), ("ASD", 2.0)])
def test_what_braces_must_be(method, factor):
    """A-6-7 and A-6-8 by hand, at the middle of a span and beside an inflection point."""
    s = wb.section("W16X26")
    load = [{"case": "dead", "line": "1 kip/ft"}]
    plain = beam(load=load, bearing=None, restraint={"top": {"at": ["10 ft"]}})
    job = wb.Job(members=[plain], design={"method": method}, combinations=["1.0D"])
    (need,) = brace_needs(job, wb.resolve(plain), check_member(job, wb.resolve(plain)).forces)
    M = (1.4 if method == "LRFD" else 1.0) * KIP / (12 * IN) * (240 * IN) ** 2 / 8
    ho = s.d - s.tf
    assert need.force == pytest.approx(0.02 * M / ho, rel=1e-9)
    assert need.stiffness == pytest.approx(factor * 10 * M / (120 * IN * ho), rel=1e-9)
    assert need.panel_shear == pytest.approx(0.01 * M / ho, rel=1e-9)  # A-6-5, A-6-6
    assert need.panel_stiffness == pytest.approx(factor * 4 * M / (120 * IN * ho), rel=1e-9)
    fixed = beam(
        load=load, bearing=None, ends=["fixed", "fixed"], restraint={"top": {"at": ["4 ft"]}}
    )
    job = wb.Job(members=[fixed], design={"method": method})
    (need,) = brace_needs(job, wb.resolve(fixed), check_member(job, wb.resolve(fixed)).forces)
    assert need.reverses
    assert need.force == pytest.approx(0.04 * need.moment / ho, rel=1e-9)
    tube = beam(section="HSS12X8X3/8", load=load, bearing=None, restraint={"top": {"at": ["4 ft"]}})
    job = wb.Job(members=[tube])
    assert brace_needs(job, wb.resolve(tube), check_member(job, wb.resolve(tube)).forces) == []


def test_loads_at_one_place_press_together():
    at = {"at": "8 ft", "bearing": "4 in"}
    two = [{"case": "dead", "point": "10 kip", **at}, {"case": "live", "point": "20 kip", **at}]
    member = beam(load=two, bearing=None)
    rows = {row.name: row for row in wb.check(wb.Job(members=[member]))["B"].rows}
    assert rows["web local yielding"].demand == pytest.approx((1.2 * 10 + 1.6 * 20) * KIP)


def test_what_holes_take_whole_is_no_candidate():
    holes = {"holes": [{"count": 2, "diameter": "1 in", "thickness": "2 in"}], "shear_lag": 1.0}
    member = wb.Member(
        mark="B", section="W16X57", span="10 ft", connection=holes, self_weight=False,
        load=[{"case": "dead", "tension": "10 kip"}],
    )  # fmt: skip
    sized = wb.size(wb.Job(members=[member]), ["B"], ["W6X9", "W16X57"], every=True)["B"]
    assert [c.status for c in sized.candidates] == ["outside", "ok"]
    wide = {"flange_holes": {"count": 4, "diameter": "1 in"}}
    member = beam(section="W16X57", bearing=None, **wide)
    sized = wb.size(wb.Job(members=[member]), ["B"], ["W6X9", "W24X76"], every=True)["B"]
    assert sized.candidates[0].status == "outside"


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
def test_braces_against_twisting_by_hand(method):
    """6.3.2: stiffness with 3.6 L / (n E Iy) M2, less what the web's distortion takes."""
    load = [{"case": "live", "line": "1 kip/ft"}]
    member = beam(section="W18X50", span="30 ft", restraint={"twist": {"every": "10 ft"}},
                  load=load, bearing=None)  # fmt: skip
    job = wb.Job(members=[member], design={"method": method})
    needs = twist_needs(job, wb.resolve(member), check_member(job, wb.resolve(member)).forces)
    assert [need.place / IN / 12 for need in needs] == pytest.approx([10, 20])
    s = member.section
    M = (1.6 if method == "LRFD" else 1.0) * KIP * 12 * IN * 30**2 / 8
    factor = 1 / 0.75 if method == "LRFD" else 3.0
    ho, L = s.d - s.tf, 360 * IN
    system = factor * 3.6 * L / (2 * E * s.I_minor) * M**2
    web = 3.3 * E / ho * 1.5 * ho * s.tw**3 / 12
    assert needs[0].stiffness == pytest.approx(
        system / (1 - system / web) if web > system else math.inf
    )
    share = 0.75 if method == "LRFD" else 0.5
    assert needs[0].strength == pytest.approx(max(0.02 * M, share * system * 120 * IN / 500 / ho))
    stiffened = beam(section="W18X50", span="30 ft", restraint={"twist": {"every": "10 ft"}},
                     bearing_stiffener=[{"at": ["10 ft"], "width": "3 in", "thickness": "1/2 in"}],
                     load=load, bearing=None)  # fmt: skip
    stiff = twist_needs(
        job, wb.resolve(stiffened), check_member(job, wb.resolve(stiffened)).forces
    )[0].stiffness
    assert stiff < needs[0].stiffness


@pytest.mark.parametrize("method", ["LRFD", "ASD"])
@pytest.mark.parametrize("section", ["W18X50", "W16X26", "W12X14"])
def test_held_continuously_against_twisting_by_hand(method, section):
    """6.3.2b: 3.6 M2 / (E Iy) for each unit of length, and 0.02 M over the length it allows."""
    member = beam(section=section, span="30 ft", restraint={"twist": "continuous"},
                  load=[{"case": "live", "line": "0.4 kip/ft"}], bearing=None)  # fmt: skip
    job = wb.Job(members=[member], design={"method": method})
    (need,) = continuous_needs(job, wb.resolve(member), check_member(job, wb.resolve(member)))
    s = member.section
    M = (1.6 if method == "LRFD" else 1.0) * 0.4 * KIP * 12 * IN * 30**2 / 8
    factor, share = (1 / 0.75, 0.75) if method == "LRFD" else (3.0, 0.5)
    ho = s.d - s.tf
    system, web = factor * 3.6 * M**2 / (E * s.I_minor), 3.3 * E * s.tw**3 / (12 * ho)
    braced = system / (1 - system / web) if web > system else math.inf
    assert need.stiffness == pytest.approx(braced)
    twisted = share * system * need.unbraced / (500 * ho)
    assert need.strength == pytest.approx(max(0.02 * M / need.unbraced, twisted))
    # the length is the one whose strength by F2 is the moment
    bare = beam(section=section, span=f"{need.unbraced} mm", bearing=None,
                restraint={"top": "supports", "bottom": "supports"}, design={"Cb": 1.0},
                load=[{"case": "live", "line": "0.4 kip/ft"}])  # fmt: skip
    rows = {
        row.name: row
        for row in wb.check(wb.Job(members=[bare], design={"method": method}))["B"].rows
    }
    allowed = rows["lateral-torsional buckling"].capacity
    plastic = (0.9 if method == "LRFD" else 1 / 1.67) * 50 * KSI * s.Wpl_major
    if plastic < M:  # no length is short enough: that of the largest strength
        assert allowed == pytest.approx(plastic, rel=1e-3)
    elif need.unbraced < 359.9 * IN:
        assert allowed == pytest.approx(M, rel=1e-3)
    else:  # the whole length needs no brace
        assert allowed > M


def test_held_continuously_against_twisting_no_place_needs_a_brace():
    held = {"twist": "continuous", "bottom": {"every": "3 ft"}}
    member = beam(restraint=held, bearing=None)
    job = wb.Job(members=[member])
    assert brace_needs(job, wb.resolve(member), check_member(job, wb.resolve(member)).forces) == []


def test_panel_braces_of_columns():
    """6.2.1: half a hundredth of the force, and 2 P / (0.75 L)."""
    load = [{"case": "live", "compression": "100 kip"}]
    column = wb.Member(mark="C", section="W8X31", height="12 ft", self_weight=False, load=load,
                       buckling={"minor_length": "6 ft"})  # fmt: skip
    notes = wb.check(wb.Job(members=[column], show="US"))["C"].notes
    (note,) = (n for n in notes if "panel brace" in n)
    assert "1.6 kip and 23.7 kip/in as a point brace" in note
    assert "0.8 kip and 5.93 kip/in as a panel brace" in note


def test_effective_inertia_of_unlike_flanges():
    both = {
        "bf_top": "200 mm",
        "tf_top": "14 mm",
        "bf_bottom": "200.00001 mm",
        "tf_bottom": "14 mm",
    }
    one = beam(section={"shape": "unequal I", "d": "400 mm", "tw": "8 mm", **both}).section
    assert effective_inertia(one) == pytest.approx(2 * 14 * 200**3 / 12)
    thin = beam(section={"shape": "unequal I", "d": "400 mm", "tw": "8 mm",
                         **(both | {"bf_bottom": "120 mm"})}).section  # fmt: skip
    assert effective_inertia(thin) < effective_inertia(one)
