"""End connections in tension: net area (B4.3), shear lag factors (Table D3.1), rupture (D2)."""

import math

import pytest

import welbric as wb
from cases import IN, KIP, KSI
from welbric.standards.aisc360.clauses import e4
from welbric.standards.aisc360.design import E, G

HOLES = [{"count": 1, "diameter": "13/16 in", "thickness": "0.5 in"}]


def rupture(section, steel, connection, method="LRFD", **job):
    member = wb.Member(
        mark="X", section=section, steel=steel, span="10 ft", self_weight=False,
        connection=connection, load=[{"case": "dead", "tension": "10 kip"}],
    )  # fmt: skip
    table = wb.check(wb.Job(members=[member], design={"method": method}, **job))
    row = next(r for r in table["X"].rows if r.name == "tensile rupture")
    if row.status != "outside":
        (part,) = table.explain("X", "tensile rupture").parts
        assert part.entries[-1].result == pytest.approx(row.utilisation, rel=1e-12)
    return row


@pytest.mark.parametrize(("method", "printed"), [("LRFD", 125), ("ASD", 83.5)])
def test_design_example_of_an_angle(method, printed):
    """DE D.2: L4X4X1/2 of A36, four bolts of 3/4 in in a line, x = 1.18 in over 9 in."""
    joint = {"through": "leg", "bolts_in_line": 4, "eccentricity": "1.18 in", "length": "9 in"}
    row = rupture("L4X4X1/2", "A36", {"holes": HOLES, "shear_lag": joint}, method)
    assert row.capacity / KIP == pytest.approx(printed, rel=0.005)


FOUR, THREE, TWO = ({"bolts_in_line": n} for n in (4, 3, 2))


@pytest.mark.parametrize(
    ("section", "joint", "U"),
    [
        ("W18X50", {"through": "all"}, 1.0),
        ("W8X31", {"through": "flange", **THREE}, 0.90),
        ("W18X50", {"through": "flange", **THREE}, 0.85),
        ("WT4X15.5", {"through": "flange", **THREE}, 0.90),
        ("W18X50", {"through": "web", **FOUR}, 0.70),
        ("L4X4X1/2", {"through": "leg", **FOUR}, 0.80),
        ("L4X4X1/2", {"through": "leg", **THREE}, 0.60),
        ("L4X4X1/2", {"eccentricity": "1.2 in", "length": "6 in"}, 0.8),
        ("L4X4X1/2", {"through": "leg", **THREE, "eccentricity": "1.2 in", "length": "6 in"}, 0.8),
        (
            "HSS6X4X1/4",
            {"eccentricity": "0 in", "length": "6 in", "between_welds": "6 in"},
            0.75,
        ),
    ],
)
def test_shear_lag_factors(section, joint, U):
    row = rupture(section, "A36", {"shear_lag": joint})
    expected = 0.75 * 58 * KSI * wb.section(section).A * U
    assert row.capacity == pytest.approx(expected, rel=1e-9)


def test_staggered_holes():
    """Two holes and one diagonal: An = Ag - 2 (d + 1/16) t + s2 t / 4g."""
    connection = {
        "holes": [{"count": 2, "diameter": "15/16 in", "thickness": "0.5 in"}],
        "staggers": [{"pitch": "2 in", "gauge": "2.5 in", "thickness": "0.5 in"}],
        "shear_lag": 1.0,
    }
    row = rupture("L6X6X1/2", "A36", connection)
    An = wb.section("L6X6X1/2").A - 2 * 1.0 * IN * 0.5 * IN + 4 / 10 * 0.5 * IN**2
    assert row.capacity == pytest.approx(0.75 * 58 * KSI * An, rel=1e-9)


def test_too_few_bolts_are_outside():
    row = rupture("L4X4X1/2", "A36", {"shear_lag": {"through": "leg", **TWO}})
    assert row.status == "outside"
    assert "so few bolts" in row.reason


@pytest.mark.parametrize(
    ("connection", "words"),
    [
        ({"net_area": "1 in2", "holes": HOLES, "shear_lag": 1}, "not both"),
        ({"shear_lag": {"through": "leg"}}, "bolts_in_line goes with"),
        ({"shear_lag": {"through": "web", **FOUR}}, "has no web"),
        ({"shear_lag": {"eccentricity": "9 in", "length": "6 in"}}, "less than the length"),
        ({"holes": [{**HOLES[0], "count": 90}], "shear_lag": 1}, "more than the section has"),
    ],
)
def test_wrong_connections(connection, words):
    with pytest.raises(wb.InputError, match=words):
        rupture("L4X4X1/2", "A36", connection)


PIN = {"diameter": "2 in", "hole": "2.03 in", "end": "3 in", "edge": "2.5 in"}


def bar(**fields):
    given = {
        "mark": "T", "role": "hanger", "section": {"shape": "flat bar", "d": "7 in", "b": "1/2 in"},
        "steel": "A36", "height": "10 ft", "self_weight": False,
        "load": [{"case": "live", "tension": "30 kip"}],
    } | fields  # fmt: skip
    return wb.Job(members=[wb.Member(**given)])


def test_a_pin_by_hand():
    """D5: be = 2t + 0.63 in = 1.63 in; shear-out over a + d/2; 1.8 Fy on the pin."""
    table = wb.check(bar(pin=PIN))
    rows = {row.name: row for row in table["T"].rows}
    Pu = 1.6 * 30
    expected = {
        "pin, rupture": Pu / (0.75 * 58 * 2 * 0.5 * 1.63),
        "pin, shear-out": Pu / (0.75 * 0.6 * 58 * 2 * 0.5 * (3 + 1)),
        "pin, bearing": Pu / (0.75 * 1.8 * 36 * 2 * 0.5),
        "tensile yielding": Pu / (0.9 * 36 * 3.5),
    }
    assert {name: row.utilisation for name, row in rows.items()} == pytest.approx(expected)
    for part in table.explain("T").parts:
        assert part.entries[-1].result == pytest.approx(part.row.utilisation, rel=1e-12)


def test_a_pin_bears_when_it_is_pressed():
    rows = wb.check(bar(pin=PIN, load=[{"case": "live", "compression": "5 kip"}]))["T"].rows
    found = {row.name: row.utilisation for row in rows}
    assert found["pin, bearing"] == pytest.approx(8 / (0.75 * 1.8 * 36 * 2 * 0.5))
    assert "pin, rupture" not in found


HEAD = {"diameter": "6.5 in", "hole": "6.52 in", "head": "16.5 in", "fillet": "17 in"}


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"pin": PIN | {"end": "2 in"}}, "at least 1.33"),
        ({"pin": PIN | {"hole": "2.2 in"}}, "1/32 in wider"),
        ({"eyebar": HEAD | {"diameter": "5 in", "hole": "5.02 in"}}, "7/8 of the body"),
        ({"eyebar": HEAD | {"head": "15 in"}}, "no wider than 2/3"),
        ({"eyebar": HEAD | {"fillet": "10 in"}}, "fillet's radius"),
    ],
)
def test_ends_out_of_proportion_are_outside(fields, words):
    section = {"shape": "flat bar", "d": "7 in", "b": ("0.5 in", "1 in")["eyebar" in fields]}
    found = [
        row for row in wb.check(bar(section=section, **fields))["T"].rows if row.status == "outside"
    ]
    assert found
    assert words in found[0].reason


def test_an_eyebar_is_as_strong_as_its_body():
    section = {"shape": "flat bar", "d": "7 in", "b": "1 in"}
    result = wb.check(bar(section=section, eyebar=HEAD))["T"]
    assert [row.name for row in result.rows] == ["tensile yielding"]


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"pin": PIN | {"hole": "1 in"}}, "not smaller than the pin"),
        ({"pin": PIN, "eyebar": HEAD}, "one of connection, pin and eyebar"),
        ({"pin": PIN, "section": "W8X31"}, "go with a flat bar"),
        ({"eyebar": HEAD | {"head": "1 in"}}, "the hole into the head"),
    ],
)
def test_wrong_ends_are_named(fields, words):
    with pytest.raises(wb.InputError, match=words):
        wb.check(bar(**fields))


def test_restraint_off_the_shear_centre_is_the_eigenvalue_problem_of_a_held_axis():
    """E4(d) without its factor of 0.9: a column with a continuous restraint, by eigenvalue."""
    member = wb.Member(
        mark="C", role="column", section="W12X40", height="9 m", self_weight=False,
        restraint={"top": "continuous"}, load=[{"case": "live", "compression": "1 kN"}],
    )  # fmt: skip
    job = wb.Job(members=[member], combinations=["1.0L"])
    critical = wb.lateral_buckling(job, member.mark, "1.0L").factor * 1000
    s = member.section
    args = (E, s.Cw, s.I_minor, s.d / 2, 9000.0, G, s.J, s.I_major, s.A)
    assert e4.constrained_axis_stress(*args) * s.A / 0.9 == pytest.approx(critical, rel=2e-3)


def test_girts_on_one_flange():
    """The girts halve the minor length; the column may still turn about them."""
    fields = {
        "mark": "C", "role": "column", "section": "W12X40", "height": "9 m",
        "load": [{"case": "live", "compression": "300 kN"}],
    }  # fmt: skip
    lengths = {"minor_length": "1.5 m", "torsional_length": "9 m"}
    found = {}
    for offset in ("", "0 in", "6 in"):
        more = {"lateral_offset": offset} if offset else {}
        job = wb.Job(members=[wb.Member(**fields, buckling=lengths | more)])
        found[offset] = {row.name: row for row in wb.check(job)["C"].rows}
    held = found["6 in"]["torsional buckling, axis held"]
    assert "torsional buckling" not in found["6 in"]
    assert held.clause == "E4(d)"
    # Turning about the shear centre is E4-2 but for the factor.
    assert (
        0.9 < found[""]["torsional buckling"].utilisation / found["0 in"][held.name].utilisation < 1
    )
    short = {"minor_length": "1.5 m", "lateral_offset": "6 in"}  # and free to twist all along
    job = wb.Job(members=[wb.Member(**fields, buckling=short)])
    rows = {row.name: row for row in wb.check(job)["C"].rows}
    assert rows[held.name].utilisation == held.utilisation
    with pytest.raises(wb.InputError, match="goes with a minor_length"):
        wb.resolve(wb.Member(**fields, buckling={"lateral_offset": "6 in"}))
    other = wb.Member(**(fields | {"section": "HSS8X8X1/4"}), buckling=lengths | {
        "lateral_offset": "6 in"})  # fmt: skip
    assert wb.check(wb.Job(members=[other]))["C"].status == "outside"


# Tubes over a plate (Table D3.1 cases 5 and 6), transverse welds alone (case 3)

SLOT = {"length": "8 in", "plate": "0.5 in", "width": "0.625 in"}


def half_centroid(d, b, t, plate):
    """Return the centroid of half a rectangular tube, from the plate's face, by rectangles."""
    half = (b - plate) / 2
    pieces = [(d * t, half - t / 2), *[((half - t) * t, (half - t) / 2)] * 2]
    return sum(A * x for A, x in pieces) / sum(A for A, _ in pieces)


@pytest.mark.parametrize("along", ["depth", "width"])
@pytest.mark.parametrize("edition", ["AISC 360-22", "AISC 360-16"])
def test_a_rectangular_tube_over_a_plate(along, edition):
    """Case 6: 1 - x/l, x the centroid of half the tube; of thin walls in the edition before."""
    section = "HSS6X4X1/4"
    joint = {"slot": SLOT | {"parallel_to": along}}
    row = rupture(section, "A500 Gr. C", {"shear_lag": joint}, standard=edition)
    s = wb.section(section)
    H, B = (s.d, s.b) if along == "depth" else (s.b, s.d)
    An = s.A - 2 * 0.625 * IN * s.t
    x_bar = half_centroid(H, B, s.t, 0.5 * IN)
    if edition == "AISC 360-16":
        x_bar = (B**2 + 2 * B * H) / (4 * (B + H))
        assert x_bar == pytest.approx(half_centroid(H + 0.01, B + 0.01, 0.01, 0.0), rel=1e-3)
    U = row.capacity / (0.75 * 62 * KSI * An)
    assert pytest.approx(1 - x_bar / (8 * IN), rel=1e-9) == U


@pytest.mark.parametrize(("length", "x_of_length"), [(6.0, 0.30), (8.0, 0.22), (12.0, 0.15)])
def test_a_round_tube_over_a_plate(length, x_of_length):
    """Case 5: (1 + (x/l)^3.2)^-10 with the centroid of the arc, by summing over it."""
    s, slot = wb.section("HSS6.000X0.250"), SLOT | {"length": f"{length} in"}
    row = rupture(s.name, "A500 Gr. C", {"shear_lag": {"slot": slot}})
    R, n = 3.0, 200_000
    half = math.acos(0.625 / 2 / R)
    x_bar = sum(R * math.cos((i + 0.5) / n * half) for i in range(n)) / n - 0.25
    assert x_bar / length == pytest.approx(x_of_length, abs=0.02)
    U = (1 + (x_bar / length) ** 3.2) ** -10
    An = s.A - 2 * 0.625 * IN * s.t
    assert row.capacity == pytest.approx(0.75 * 62 * KSI * An * U, rel=1e-6)


@pytest.mark.parametrize(("length", "U"), [(6.0, 1 - 1 / math.pi), (7.8, 1.0), (5.9, None)])
def test_round_tubes_by_the_edition_before(length, U):
    s, slot = wb.section("HSS6.000X0.250"), SLOT | {"length": f"{length} in"}
    row = rupture(s.name, "A500 Gr. C", {"shear_lag": {"slot": slot}}, standard="AISC 360-16")
    if U is None:
        assert row.status == "outside"
        assert "at least its own depth" in row.reason
        return
    An = s.A - 2 * 0.625 * IN * s.t
    assert row.capacity == pytest.approx(0.75 * 62 * KSI * An * U, rel=1e-9)


@pytest.mark.parametrize(
    ("section", "through", "area"),
    [
        ("WT6X25", "flange", lambda s: s.bf * s.tf),
        ("W8X31", "flange", lambda s: 2 * s.bf * s.tf),
        ("W8X31", "web", lambda s: (s.d - 2 * s.tf) * s.tw),
        ("L6X4X3/8", "leg", lambda s: s.b * s.t),
        ("2L6X4X3/8X3/8LLBB", "leg", lambda s: 2 * s.b * s.t),
    ],
)
def test_transverse_welds_alone(section, through, area):
    """Case 3: U = 1 on the area of the elements joined."""
    row = rupture(section, "A36", {"shear_lag": {"through": through, "welds": "transverse"}})
    assert row.capacity == pytest.approx(0.75 * 58 * KSI * area(wb.section(section)), rel=1e-9)


def test_one_message_for_one_mistake():
    for shear_lag, words in (
        ({"slot": SLOT | {"paralel_to": "depth"}}, "did you mean parallel_to"),
        (1.5, "less than or equal to 1"),
    ):
        with pytest.raises(wb.InputError, match=words) as found:
            rupture("HSS6X4X1/4", "A36", {"shear_lag": shear_lag})
        assert len(found.value.problems) == 1
        assert found.value.problems[0].startswith("member X, connection, shear_lag")
        assert "by joint" not in str(found.value)


@pytest.mark.parametrize(
    ("section", "connection", "words"),
    [
        ("W8X31", {"shear_lag": {"slot": SLOT}}, "no walls to be slotted"),
        ("HSS6X4X1/4", {"shear_lag": {"slot": SLOT | {"width": "0.4 in"}}}, "not narrower"),
        ("HSS6X4X1/4", {"shear_lag": {"slot": SLOT | {"width": "5 in"}}}, "wider than the tube"),
        ("HSS6X4X1/4", {"shear_lag": {"slot": SLOT, "through": "all"}}, "goes alone"),
        ("HSS6X4X1/4", {"shear_lag": {"slot": SLOT}, "holes": HOLES}, "do not go with a slot"),
        ("W8X31", {"shear_lag": {"welds": "transverse"}}, "go with through"),
        ("W8X31", {"shear_lag": {"through": "all", "welds": "transverse"}}, "go with through"),
    ],
)
def test_wrong_slots_and_welds(section, connection, words):
    with pytest.raises(wb.InputError, match=words):
        rupture(section, "A36", connection)
