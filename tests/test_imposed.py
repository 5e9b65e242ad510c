"""Temperature, torsion, chords, restraint by span, braces, national values."""

import math
from itertools import pairwise

import numpy as np
import pytest

import welbric as wb
from welbric.analysis.member_loads import Torque, breaks_of, twisting
from welbric.checking.check import check_member
from welbric.effects.load_cases import load_cases
from welbric.errors import InputError
from welbric.loads.combinations import Choices, service, strength
from welbric.members.segments import segments
from welbric.standards import aisc360

STEEL = aisc360.AISC_360_22.elasticity
ALPHA = STEEL.expansion


def beam(**fields):
    return wb.Member(**{"mark": "T1", "section": "W12X26", "self_weight": False, **fields})


def extremes(diagram):
    x = np.linspace(0, diagram.breaks[-1], 41)
    return diagram.at(x, np.zeros(41, dtype=bool))[0]


@pytest.mark.parametrize(
    ("fields", "N"),
    [
        ({"lengthwise": "both ends held"}, -1.0),
        ({}, 0.0),
        ({"ends": ["fixed", "free"]}, 0.0),
    ],
)
def test_warming_between_held_ends(fields, N):
    member = beam(span="6 m", load=[{"case": "temperature", "temperature": "30 K"}], **fields)
    found = extremes(load_cases(wb.resolve(member), STEEL).axial)
    EA = STEEL.E * member.section.A
    assert found == pytest.approx(N * EA * ALPHA * 30, abs=1e-6)


def test_a_force_between_held_ends_goes_to_both():
    load = [{"case": "dead", "compression": "90 kN", "at": "2 m"}]
    member = beam(height="6 m", role="column", lengthwise="both ends held", load=load)
    found = extremes(load_cases(wb.resolve(member), STEEL).axial)
    # The stiffer, shorter part takes the larger share.
    assert (found[1], found[-1]) == (pytest.approx(-60e3), pytest.approx(30e3))


@pytest.mark.parametrize("ends", [["pinned", "pinned"], ["fixed", "fixed"], ["fixed", "pinned"]])
def test_a_warmer_top_bows_upwards(ends):
    load = [{"case": "temperature", "temperature_difference": "20 K"}]
    member = beam(span="6 m", ends=ends, load=load)
    cases = load_cases(wb.resolve(member), STEEL)
    EI, kappa = STEEL.E * member.section.I_major, ALPHA * 20 / member.section.d
    # The depth follows from the published inertia and modulus, rounded as they are.
    M, w = extremes(cases.major.moment), extremes(cases.major.deflection)
    if ends == ["pinned", "pinned"]:
        assert w.min() == pytest.approx(-kappa * 6000**2 / 8, rel=2e-3)
        assert np.abs(M).max() < 1e-3
    elif ends == ["fixed", "fixed"]:
        assert pytest.approx(EI * kappa, rel=2e-3) == M  # straight, held from hogging
    else:
        assert M[1] == pytest.approx(1.5 * EI * kappa * (1 - 1 / 40), rel=2e-3)


def test_degrees_fahrenheit_are_differences():
    one, other = (
        beam(span="6 m", load=[{"case": "temperature", "temperature": t}]).loads[0].temperature
        for t in ("36 degF", "20 °C")
    )
    assert one == pytest.approx(other) == pytest.approx(20)


def test_without_factors_temperature_is_outside():
    load = [{"case": "temperature", "temperature_difference": "20 K"}]
    member = beam(span="6 m", load=load)
    result = wb.check(wb.Job(members=[member]))["T1"]
    assert result.status == "outside"
    job = wb.Job(members=[member], combinations=["1.2D + 1.2T"])
    assert "change of temperature" not in {row.name for row in wb.check(job)["T1"].rows}


def test_what_does_nothing_is_said():
    warmed = [{"case": "temperature", "temperature": "20 K"}]
    member = beam(span="6 m", load=warmed, deflection_from="chord")
    said = wb.check(wb.Job(members=[member], combinations=["1.2T"]))["T1"].warnings
    assert any("presses nothing" in text for text in said)
    assert any("no deflection limit" in text for text in said)
    held = beam(span="6 m", load=warmed, lengthwise="both ends held")
    said = wb.check(wb.Job(members=[held], combinations=["1.2T"]))["T1"].warnings
    assert not any("presses nothing" in text for text in said)


def test_torsion_between_forks_and_beyond():
    breaks = breaks_of(6000.0, [[Torque(2000.0, 3e6)]])
    between = twisting(breaks, [[Torque(2000.0, 3e6)]], [0.0, 6000.0], 1.0)
    assert extremes(between)[1] == pytest.approx(2e6)
    assert extremes(between)[-2] == pytest.approx(-1e6)
    free = twisting(breaks, [[Torque(2000.0, 3e6)]], [0.0], 1.0)
    assert extremes(free)[1] == pytest.approx(3e6)
    assert extremes(free)[-2] == pytest.approx(0)


def test_torsion_of_an_open_section_is_outside():
    load = [{"case": "dead", "torque": "2 kN m", "at": "3 m"}]
    rows = wb.check(wb.Job(members=[beam(span="6 m", load=load)]))["T1"].rows
    (row,) = [row for row in rows if row.name == "torsion"]
    assert row.status == "outside"
    assert row.demand == pytest.approx(1.4e6)


def test_deflection_from_the_chord():
    load = [
        {"case": "dead", "settlement": "30 mm", "at": "6 m"},
        {"case": "dead", "line": "4 kN/m"},
    ]
    settled = {"span": "6 m", "load": load, "deflection": {"total": 360}}
    level = {"span": "6 m", "load": load[1:], "deflection": {"total": 360}}
    found = [
        wb.check(wb.Job(members=[beam(**fields, **more)]))["T1"].rows[-1].demand
        for fields, more in ((settled, {"deflection_from": "chord"}), (settled, {}), (level, {}))
    ]
    assert found[0] == pytest.approx(found[2], rel=1e-6)
    assert found[1] == pytest.approx(30.0, rel=0.3)


def test_restraint_by_span():
    member = beam(
        spans=["4 m", "6 m"],
        restraint={"top": {"by_span": ["continuous", {"every": "2 m"}]}},
        load=[{"case": "dead", "line": "4 kN/m"}],
    )
    both = segments(wb.resolve(member))
    top = [(s.start, s.end, s.continuous) for s in both if s.flange == "top"]
    assert top == [
        (0, 4000, True), (4000, 6000, False), (6000, 8000, False), (8000, 10000, False),
    ]  # fmt: skip
    assert wb.lateral_buckling(wb.Job(members=[member]), member.mark).factor > 1
    with pytest.raises(InputError, match="1 restraints by span, for 2 spans"):
        wb.resolve(beam(spans=["4 m", "6 m"], restraint={"top": {"by_span": ["continuous"]}}))


def factor(**fields):
    load = [{"case": "dead", "end_moments": ["10 kN m", "10 kN m"]}]
    member = beam(span="8 m", load=load, **fields)
    return wb.lateral_buckling(wb.Job(members=[member]), member.mark, "1.4D").factor


def test_braces_in_the_critical_load():
    free = factor()
    stiffnesses = ["0.01 kN/mm", "0.1 kN/mm", "1 kN/mm", "100 kN/mm"]
    found = [factor(brace=[{"at": "4 m", "on": "top", "stiffness": k}]) for k in stiffnesses]
    assert all(a <= b * (1 + 1e-9) for a, b in pairwise([free, *found]))
    rigid = factor(restraint={"top": {"at": ["4 m"]}})
    assert found[-1] == pytest.approx(rigid, rel=0.01)
    turned = factor(brace=[{"at": "4 m", "twist_stiffness": "1e5 kN m"}])
    assert turned == pytest.approx(factor(restraint={"twist": {"at": ["4 m"]}}), rel=1e-3)


def test_ends_held_from_warping():
    """Uniform moment, warping fixed at both ends and the minor axis too: half the length."""
    ends = {"ends_minor": ["fixed", "fixed"]}
    found = factor(brace=[{"at": ["0 m", "8 m"], "warping": True}], **ends)
    s, half = wb.section("W12X26"), 4000.0
    P = math.pi**2 * STEEL.E * s.I_minor / half**2
    exact = math.sqrt(P * (STEEL.G * s.J + math.pi**2 * STEEL.E * s.Cw / half**2))
    assert found * 1.4 * 10e6 == pytest.approx(exact, rel=2e-3)


def test_braces_without_a_gap():
    """Many springs are one without a gap; a stiff one is a restraint all along."""
    places = [f"{(i + 0.5) / 4} m" for i in range(32)]
    many = factor(brace=[{"at": places, "on": "top", "stiffness": "0.01 kN/mm"}])
    along = factor(brace=[{"on": "top", "stiffness_along": "0.04 N/mm2"}])
    assert along == pytest.approx(many, rel=2e-3)
    twisting = factor(brace=[{"at": places, "twist_stiffness": "20 kN m"}])
    smeared = factor(brace=[{"twist_stiffness_along": "80 kN"}])
    assert smeared == pytest.approx(twisting, rel=2e-3)
    stiff = factor(brace=[{"on": "bottom", "stiffness_along": "1e5 N/mm2"}])
    assert stiff == pytest.approx(factor(restraint={"bottom": "continuous"}), rel=1e-3)
    half = factor(brace=[{"on": "top", "stiffness_along": "0.04 N/mm2", "end": "4 m"}])
    assert factor() < half < along


def test_a_stepped_beam_buckles_between_its_sections():
    piece = [{"section": "W12X40", "start": "2 m", "end": "6 m"}]
    small, stepped, large = factor(), factor(piece=piece), factor(section="W12X40")
    assert small < stepped < large
    same = [{"section": "W12X26", "start": "2 m", "end": "6 m"}]
    assert factor(piece=same) == pytest.approx(small, rel=1e-9)


def test_national_values():
    uk = Choices(national="UK")
    names = {c.name for c in strength("EN 1990", "LRFD", "DLW", choices=uk)}
    assert "1.35D + 1.5L + 0.75W" in names
    both = Choices(expression="6.10a/b", national="UK")
    names = {c.name for c in strength("EN 1990", "LRFD", "DL", choices=both)}
    assert "1.249D + 1.5L" in names  # 0.925 x 1.35
    own = Choices(permanent=1.25, variable=1.6)
    assert "1.25D + 1.6L" in {c.name for c in strength("EN 1990", "LRFD", "DL", choices=own)}
    names = {c.name for c in strength("EN 1990", "LRFD", "DLT")}
    assert {"1.35D + 1.5L + 0.9T", "1.35D + 1.5T + 1.05L"} <= names
    assert "D + T + 0.7L" in {c.name for c in service("EN 1990", "total", "DLT")}


def test_what_does_not_go_together():
    for fields, words in [
        (
            {"second_order": "analysed", "forces": [{"name": "a", "moment_major": "1 kN m"}]},
            "needs loads",
        ),
        ({"brace": [{"at": "9 m", "stiffness": "1 kN/mm"}]}, "off the member"),
        ({"brace": [{"at": "1 m"}]}, "give a stiffness"),
        ({"brace": [{"at": "1 m", "stiffness_along": "1 N/mm2"}]}, "at: goes with"),
        ({"brace": [{"stiffness_along": "1 N/mm2", "end": "7 m"}]}, "off the member"),
        ({"load": [{"case": "dead", "torque": "1 kN m"}]}, "needs the place"),
        ({"load": [{"case": "dead", "temperature": "20 mm"}]}, "change of temperature is needed"),
    ]:
        with pytest.raises(InputError, match=words):
            wb.resolve(beam(span="6 m", **fields))
    with pytest.raises(InputError, match="unknown key 'national_values'.*ASCE 7-22"):
        wb.Job(members=[beam(span="6 m")], loading={"national_values": "UK"})


def test_result_shapes_are_kept():
    job = wb.Job(
        members=[beam(span="6 m", load=[{"case": "dead", "torque": "1 kN m", "at": "1 m"}])]
    )
    forces = check_member(job, wb.resolve(job.members[0])).forces
    assert forces.T.shape == forces.N.shape
