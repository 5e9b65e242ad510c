"""Whole members, through `wb.check`: restraints, combinations, verdicts, deflections."""

from __future__ import annotations

import sys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

import welbric as wb
from cases import FT, KIP, KIP_FT
from welbric.checking.verdicts import status_of
from welbric.members.design_member import DesignMember
from welbric.members.segments import counting_places, held_places
from welbric.standards.aisc360.demands import demand
from welbric.steels import Steel

LTB = "lateral-torsional buckling"


def beam(loads=({"case": "live", "line": "1.5 kip/ft"},), **more):
    given_ = {"mark": "B", "section": "W18X50", "span": "24 ft", "self_weight": False}
    return wb.Member(**{**given_, "loads": list(loads), **more})


def result(member, **job):
    return wb.check(wb.Job(members=[member], **job))[member.mark]


def rows(member, **job):
    return {row.name: row for row in result(member, **job).rows}


def test_a_beam_by_hand():
    """W18X50, 24 ft, 1.5 kip/ft live: Mu = 1.6 x 1.5 x 24^2 / 8 = 172.8 kip ft, Vu = 28.8 kip."""
    found = rows(beam(deflection={"live": 360}))
    assert found[LTB].demand == pytest.approx(172.8 * KIP_FT)
    assert found[LTB].place == pytest.approx(12 * FT)
    assert found["shear, web"].demand == pytest.approx(28.8 * KIP)
    # Lb = 24 ft is beyond Lr: F2-4 with Cb = 1.14, rts = 1.982 in, ho = 17.43 in.
    x = (24 * 12 / 1.9817) ** 2
    Fcr = 1.1364 * np.pi**2 * 29000 / x * np.sqrt(1 + 0.078 * 1.24 / (88.9 * 17.43) * x)
    assert found[LTB].capacity == pytest.approx(0.9 * Fcr * 88.9 / 12 * KIP_FT, rel=1e-4)
    # 5 w L^4 / 384 E I against L / 360.
    delta = 5 * (1.5 / 12) * 288**4 / (384 * 29000 * 800)
    assert found["deflection, live"].utilisation == pytest.approx(delta / (288 / 360), rel=1e-9)


@pytest.mark.parametrize(
    ("restraint", "segments"),
    [
        ({}, [("both", 0, 24)]),
        ({"top": "continuous", "bottom": "continuous"}, [("both", 0, 24)]),
        ({"top": "continuous"}, [("top", 0, 24), ("bottom", 0, 24)]),
        ({"top": {"every": "8 ft"}, "bottom": {"every": "8 ft"}},
         [("both", 0, 8), ("both", 8, 16), ("both", 16, 24)]),
        ({"top": {"every": "10 ft"}},
         [("top", 0, 10), ("top", 10, 20), ("top", 20, 24), ("bottom", 0, 24)]),
        ({"top": {"at": ["6 ft", "24 ft"]}}, [("top", 0, 6), ("top", 6, 24), ("bottom", 0, 24)]),
        ({"bottom": "loads"}, [("top", 0, 24), ("bottom", 0, 9), ("bottom", 9, 24)]),
    ],
)  # fmt: skip
def test_segments(restraint, segments):
    member = beam([{"case": "live", "point": "5 kip", "at": "9 ft"}], restraint=restraint)
    found = [(s.flange, s.start / FT, s.end / FT) for s in wb.segments(wb.resolve(member))]
    for got, wanted in zip(found, segments, strict=True):
        assert got[0] == wanted[0]
        assert got[1:] == pytest.approx(wanted[1:])


def test_continuous_restraint_of_the_compression_flange_leaves_yielding():
    found = rows(beam(restraint={"top": "continuous"}))
    assert found[LTB].utilisation == found["yielding, major axis"].utilisation
    uplift = rows(beam([{"case": "wind", "line": "-1.5 kip/ft"}], restraint={"top": "continuous"}))
    assert uplift[LTB].utilisation > 1.5 * uplift["yielding, major axis"].utilisation
    assert uplift[LTB].segment.flange == "bottom"


def test_a_free_tip_takes_no_moment_gradient():
    tip = [{"case": "live", "point": "5 kip", "at": "12 ft"}]
    one = {"role": "cantilever", "span": "12 ft"}
    text = str(wb.check(wb.Job(members=[beam(tip, **one)])).explain("B", LTB))
    assert "Cb = 1   (F1: the free end is not held)" in text
    held = beam(tip, **one, restraint={"top": {"at": ["12 ft"]}, "bottom": {"at": ["12 ft"]}})
    assert "F1-1" in str(wb.check(wb.Job(members=[held])).explain("B", LTB))


def test_a_smaller_moment_of_the_other_sense_takes_no_gradient():
    """Continuous at the top; the hogging end moment is smaller than the sagging one."""
    loads = [
        {"case": "live", "line": "1.5 kip/ft"},
        {"case": "live", "end_moments": ["-60 kip ft", "0 kip ft"]},
    ]
    found = wb.check(wb.Job(members=[beam(loads, restraint={"top": "continuous"})]))
    assert "compresses the other flange" in str(found.explain("B", LTB))
    assert demand(found["B"].case).M_major.shape == (1, 1, 2)


places = st.floats(0.05, 0.95).map(lambda share: round(share * 24, 3))
point = st.builds(
    lambda at, P: {"case": "live", "point": f"{P} kip", "at": f"{at} ft"},
    places,
    st.floats(-30, 30).map(lambda p: round(p, 2)),
)


@given(st.lists(point, min_size=1, max_size=3), st.lists(places, max_size=3))
def test_mirrored_and_reversed_members_have_the_same_ratios(loads, held):
    def at(x):
        return f"{x} ft"

    def turned(load):
        return {**load, "at": at(24 - float(load["at"].split()[0]))}

    def reversed_(load):
        return {**load, "point": f"{-float(load['point'].split()[0])} kip"}

    first = rows(beam(loads, restraint={"top": {"at": [at(x) for x in held]}} if held else {}))
    mirror = {"top": {"at": [at(24 - x) for x in held]}} if held else {}
    other = {"bottom": {"at": [at(x) for x in held]}} if held else {}
    for second in (
        rows(beam([turned(x) for x in loads], restraint=mirror)),
        rows(beam([reversed_(x) for x in loads], restraint=other)),
    ):
        assert set(first) == set(second)
        for name, row in first.items():
            assert row.utilisation == pytest.approx(second[name].utilisation, rel=1e-6)


@given(st.floats(0.1, 3.0))
def test_forces_grow_with_the_loads_and_ratios_with_them(k):
    one = rows(beam())
    more = rows(beam([{"case": "live", "line": f"{1.5 * k} kip/ft"}]))
    for name, row in one.items():
        assert more[name].utilisation == pytest.approx(k * row.utilisation, rel=1e-9)


def test_lrfd_and_asd_agree_where_live_is_three_times_dead():
    """1.2 + 1.6 x 3 = 1.5 (1 + 3): the two methods differ by 0.9 x 1.67 / 1.5 only."""
    loads = [{"case": "dead", "line": "0.4 kip/ft"}, {"case": "live", "line": "1.2 kip/ft"}]
    lrfd, asd = rows(beam(loads)), rows(beam(loads), design={"method": "ASD"})
    for name in ("yielding, major axis", LTB):
        assert asd[name].utilisation / lrfd[name].utilisation == pytest.approx(1.67 * 0.9 / 1.5)
    assert asd["shear, web"].utilisation == pytest.approx(lrfd["shear, web"].utilisation)


def test_own_weight_counts_once_and_is_said():
    without, with_ = result(beam()), result(beam(self_weight=True))
    extra = 1.2 * 0.050 * 24**2 / 8 * KIP_FT
    assert with_.rows[0].demand - without.rows[0].demand == pytest.approx(extra, rel=1e-6)
    assert "own weight 0.05 kip/ft included" in with_.notes
    assert "own weight (0.05 kip/ft) not included" in without.notes


def test_own_weight_follows_the_slope():
    def axial(role):
        member = wb.Member(mark="M", role=role, section="W8X31", height="20 ft")
        x = result(member).forces
        return x.N.min(), x.N.max(), np.abs(x.M_major).max()

    weight = 1.4 * 31 * 20 / 1000 * KIP
    assert axial("column") == pytest.approx((-weight, 0, 0), rel=1e-6)
    assert axial("hanger") == pytest.approx((0, weight, 0), rel=1e-6)


@pytest.mark.parametrize(
    ("ends", "recommended", "theoretical"),
    [
        (("fixed", "fixed"), 0.65, 0.5),
        (("fixed", "pinned"), 0.80, 0.7),
        (("fixed", "guided"), 1.2, 1.0),
        (("pinned", "pinned"), 1.0, 1.0),
        (("fixed", "free"), 2.1, 2.0),
        (("pinned", "guided"), 2.0, 2.0),
    ],
)
def test_effective_length_factors_of_the_textbook_ends(ends, recommended, theoretical):
    """AISC 360-22 Commentary, Table C-A-7.1."""
    column = wb.Member(
        mark="C", role="column", section="W10X49", height="12 ft", ends=ends,
        loads=[{"case": "dead", "compression": "50 kip"}],
    )  # fmt: skip
    for values, K in (("recommended", recommended), ("theoretical", theoretical)):
        found = result(column, design={"effective_lengths": values})
        assert found.case.buckling.K_major == found.case.buckling.K_minor == K
        assert any(f"K = {K:g}" in note for note in found.notes)


def test_a_brace_both_ways(demo_table):
    found = {row.name: row.combination for row in demo_table["WB1"].rows}
    assert found["tensile yielding"] == "0.9D + W"
    assert found["flexural buckling, minor axis"] == "1.2D − W"


def test_a_cantilever_column_sways():
    column = wb.Member(
        mark="C", role="column", section="W10X49", height="15 ft", ends=("fixed", "free"),
        loads=[{"case": "dead", "compression": "60 kip"},
               {"case": "wind", "point": "2 kip", "at": "15 ft"}],
    )  # fmt: skip
    text = str(wb.check(wb.Job(members=[column])).explain("C", "H1.1"))
    assert "B2 = max(1/(1 − α·Pr/Pe1), 1)" in text


FORCES = {"name": "from the frame", "compression": "180 kip", "moment_major": "60 kip ft"}


def test_a_member_held_at_its_other_end_is_its_mirror():
    loads = [
        {"case": "dead", "compression": "60 kip"},
        {"case": "wind", "point": "2 kip", "at": "15 ft"},
    ]
    one = {"mark": "C", "section": "W10X49", "height": "15 ft", "inclination": "90 deg"}
    standing = wb.Member(**one, ends=("fixed", "free"), loads=loads)
    turned = [loads[0], {**loads[1], "at": "0 ft"}]
    hanging = wb.Member(**{**one, "inclination": "-90 deg"}, ends=("free", "fixed"), loads=turned)
    first, second = rows(standing), rows(hanging)
    assert set(first) == set(second)
    for name, row in first.items():
        assert second[name].utilisation == pytest.approx(row.utilisation, rel=1e-9)


def test_forces_combined_elsewhere():
    column = {"role": "column", "span": None, "height": "14 ft", "section": "W12X65"}
    found = result(beam([], forces=[{**FORCES, "shear_major": "8 kip"}], **column))
    assert {row.combination for row in found.rows} == {"from the frame"}
    assert found.status == "ok"
    varying = {**FORCES, "shear_major": "8 kip", "moment_major": ["-60 kip ft", "60 kip ft"]}
    reverse = result(beam([], forces=[varying], **column))
    text = wb.check(wb.Job(members=[reverse.member.said])).explain("B", LTB).text()
    assert "2.273" in text  # Cb of a straight diagram in reverse curvature


def test_what_cannot_be_checked_is_a_row():
    column = {"role": "column", "span": None, "height": "14 ft"}
    found = result(beam([], forces=[FORCES], deflection={"live": 360}, **column))
    outside = {row.name: row.reason for row in found.rows if row.status == "outside"}
    assert "shear, web" not in outside
    assert "deflections need loads" in outside["deflection, live"]
    assert found.status == "outside"
    pulled = result(beam([{"case": "dead", "tension": "20 kip"}]))
    assert pulled.status == "outside"
    assert result(beam([])).status == "outside"


def test_a_moment_without_a_shear_has_the_one_that_goes_with_it():
    """Uniform moments have none; of others it is the slope between the places they are given at."""
    column = {"role": "column", "span": None, "height": "14 ft", "section": "W12X65"}
    uniform = result(beam([], forces=[{**FORCES, "moment_major": "60 kip ft"}], **column))
    assert all(row.utilisation == 0 for row in uniform.rows if row.id == "shear-major")
    assert not any("shear_major" in note for note in uniform.notes)
    given = {**FORCES, "moment_major": ["-60 kip ft", "24 kip ft"]}
    varying = result(beam([], forces=[given], **column))
    shear = next(row for row in varying.rows if row.id == "shear-major")
    assert shear.demand == pytest.approx(84 / 14 * 4448.2216, rel=1e-6)
    assert any("that is taken, as no shear_major is given" in note for note in varying.notes)


def test_nan_is_never_ok():
    assert [status_of(x) for x in (float("nan"), 1.0, 1.0000001, float("inf"), 0.0)] == [
        "outside", "ok", "over", "over", "ok",
    ]  # fmt: skip


def test_a_column_beyond_its_critical_load_is_shown():
    loads = [
        {"case": "dead", "compression": "900 kip"},
        {"case": "live", "line": "0.1 kip/ft"},
        {"case": "live", "line": "0.01 kip/ft", "axis": "minor"},
    ]
    table = wb.check(wb.Job(members=[beam(loads)]))
    assert table["B"].utilisation == np.inf
    assert "B is far over in compression and bending" in str(table)
    assert ">99" in str(table)
    assert "utilisation inf: OVER" in str(table.explain("B"))


def test_both_axes_and_the_planes_apart():
    loads = [{"case": "dead", "compression": "100 kip"}, {"case": "live", "line": "0.5 kip/ft"}]
    name = "compression and bending"
    together, apart = rows(beam(loads)), rows(beam(loads), design={"separate_planes": True})
    assert apart[name].clause == "H1.3"
    assert apart[name].utilisation <= together[name].utilisation
    minor = rows(beam([{"case": "live", "line": "0.2 kip/ft", "axis": "minor"}]))
    assert minor["bending, minor axis"].utilisation > 0
    assert minor["shear, flanges"].demand == pytest.approx(1.6 * 0.2 * 12 * KIP)


def test_a_pattern_with_one_restraint_left_out():
    found = result(beam(restraint={"top": {"at": ["6 ft"]}}))
    assert any("is one missing?" in note and "18 ft" in note for note in found.notes)
    whole = result(beam(restraint={"top": {"at": ["6 ft", "12 ft", "18 ft"]}}))
    assert not any("is one missing?" in note for note in whole.notes)


def test_what_changes_nothing_is_said():
    hold = {"top": "loads", "bottom": {"every": "40 ft"}}
    member = beam(restraint=hold, deflection={"wind": 200, "live": 360})
    said = " ".join(str(wb.check(wb.Job(members=[member]))).split())
    assert "restraint of the top flange (loads) adds no place" in said
    assert "restraint of the bottom flange (every) adds no place" in said
    assert "the wind deflection limit has no load" in said
    assert "the live deflection" not in said
    assert "own weight is taken to be in the forces" in " ".join(
        result(beam([], forces=[{**FORCES, "shear_major": "8 kip"}])).notes
    )
    with pytest.raises(wb.InputError, match="cannot be added to forces"):
        wb.resolve(beam([], forces=[FORCES], self_weight=True))


def test_slenderness_advice():
    brace = beam([{"case": "dead", "compression": "1 kip"}], section="W8X10", span="20 ft")
    assert any("more than the 200 that E2 advises" in note for note in result(brace).notes)


def test_own_combinations_are_added():
    found = result(beam(), combinations=["2.0L"])
    assert found.governing.combination == "2.0L"
    wind = [{"case": "wind", "compression": "9 kip", "reversible": True}]
    member = beam(wind, connection={"net_area": "12 in2", "shear_lag": 0.9})
    pulled = rows(member, combinations=["3.0W"])["tensile yielding"]
    assert (pulled.combination, pulled.demand) == ("3.0W, W reversed", pytest.approx(27 * KIP))


def test_a_shape_by_its_dimensions():
    """The dimensions of IPE 300 give its ratios; a hybrid shape is outside, and said so."""
    sizes = {"d": "300 mm", "bf": "150 mm", "tw": "7.1 mm", "tf": "10.7 mm", "r": "15 mm"}
    own = rows(beam(section={"shape": "rolled I", **sizes}, steel="S355"))
    listed = rows(beam(section="IPE300", steel="S355"))
    assert set(own) == set(listed)
    for name, row in own.items():
        assert row.utilisation == pytest.approx(listed[name].utilisation, rel=0.01)
    del sizes["r"]
    section = {"shape": "welded I", **sizes}
    member = beam(section=section, steel="S355", web_steel="S235", deflection={"live": 60})
    found = result(member)
    assert found.status == "outside"
    assert found.rows[0].reason == "the strength of a hybrid welded I is not covered"
    assert found.rows[1].name == "deflection, live"
    assert "a hybrid welded I is not covered" in str(
        wb.check(wb.Job(members=[member])).explain("B")
    )


def test_what_stands_is_found_once():
    """Supports and restrained places are computed once an axis or flange, strengths once."""
    once = (DesignMember.supports_about, DesignMember.span_lengths, held_places, counting_places)
    counted = {fn.__wrapped__.__code__: 0 for fn in once}
    counted[Steel.strengths.__code__] = 0
    job = wb.Job(members=[beam(restraint={"top": {"every": "5 ft"}})])

    def count(frame, event, _):
        if event == "call" and frame.f_code in counted:
            counted[frame.f_code] += 1

    sys.setprofile(count)
    try:
        wb.check(job)
    finally:
        sys.setprofile(None)
    assert list(counted.values()) == [2, 2, 2, 2, 2]  # a flange and its web are looked up apart


def test_the_thickness_band_is_said():
    thick = result(beam(section="HEB300", steel="S355"))
    assert any("Fy = 50.04 ksi" in note and "0.748 in" in note for note in thick.notes)
    with pytest.raises(wb.InputError, match="S460N has no strengths for a thickness of 124.7 mm"):
        wb.resolve(beam(section="W14X730", steel="S460N"))


@pytest.mark.parametrize(
    ("section", "grade"),
    [
        ("W18X50", "A992"), ("WT6X20", "A992"), ("C12X20.7", "A36"), ("HP14X102", "A572 Gr 50"),
        ("HSS6X6X1/4", "A500 Gr C"), ("Pipe4STD", "A53 Gr B"), ("IPE300", "S355"),
        ("W18X46 with a 180 x 15 mm plate on the bottom flange", "A992"),
    ],
)  # fmt: skip
def test_a_steel_is_never_taken_in_silence(section, grade):
    taken = result(beam(section=section))
    assert str(taken.member.steel) == grade
    words = f"no steel is given: {grade} is taken, as is usual for "
    assert any(warning.startswith(words) for warning in taken.warnings)
    given = result(beam(section=section, steel=grade))
    assert not any("no steel is given" in note for note in given.notes)
    assert given.utilisation == taken.utilisation


def test_a_grade_is_refused_where_it_is_not_made():
    words = "A992 is a steel of rolled sections, not of a rectangular tube"
    with pytest.raises(wb.InputError, match=rf"member 1 \(B\), steel: {words}"):
        result(beam(section="HSS6X6X1/4", steel="A992"))


def test_a_load_on_a_support_is_remarked_on():
    on = [{"case": "live", "line": "1 kip/ft"}, {"case": "live", "point": "9 kip", "at": "24 ft"}]
    words = "load 2: it stands on a support, which takes it at once: it bends nothing"
    assert words in result(beam(on)).warnings
    tip = beam([on[1]], role="cantilever")  # at a free end it bends
    assert not any("stands on a support" in note for note in result(tip).notes)


def test_capitals_do_not_matter():
    loads = [{"case": "Live", "line": "1 kip/ft", "axis": "Major"}]
    words = {"role": "Floor Beam", "section": "w18x50", "steel": "a992"}
    written = beam(loads, ends=["Fixed", "PINNED"], **words)
    assert (written.role, written.ends) == ("floor beam", ("fixed", "pinned"))
    plain = beam([{"case": "live", "line": "1 kip/ft"}], steel="A992", ends=["fixed", "pinned"])
    method = {"method": "asd", "stability": "Effective Lengths"}
    assert wb.Job(members=[plain], design=method).method == "ASD"
    assert rows(written)[LTB].utilisation == rows(plain)[LTB].utilisation
    with pytest.raises(wb.InputError, match="'flor beam' is not accepted; did you mean floor beam"):
        beam(role="flor beam")
