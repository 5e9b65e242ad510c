"""End connections in tension: net area (B4.3), shear lag factors (Table D3.1), rupture (D2)."""

import pytest

import welbric as wb
from cases import IN, KIP, KSI

HOLES = [{"count": 1, "diameter": "13/16 in", "thickness": "0.5 in"}]


def rupture(section, steel, connection, method="LRFD"):
    member = wb.Member(
        mark="X", section=section, steel=steel, span="10 ft", self_weight=False,
        connection=connection, load=[{"case": "dead", "tension": "10 kip"}],
    )  # fmt: skip
    table = wb.check(wb.Job(members=[member], method=method))
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
