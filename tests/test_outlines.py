"""Outlines by elastic stresses (F12, H2): against plainer shapes, closed forms, corner stresses."""

import math

import numpy as np
import pytest

import welbric as wb
from cases import KSI, capacity
from welbric.effects.critical_load import uniform_critical_moment
from welbric.sections.general import outline_section
from welbric.sections.outline import Outline, i_outline
from welbric.standards.aisc360.design import E, G

Z = [(0, 0), (80, 0), (80, 10), (10, 10), (10, 200), (-70, 200), (-70, 190), (0, 190)]
BAR = [(0, 0), (30, 0), (30, 120), (0, 120)]
LTB = "lateral-torsional buckling"


def outline(points, stocky=True):
    return outline_section("O", Outline(np.array(points, dtype=float)), 10.0, stocky)


@pytest.mark.parametrize("length", [500.0, 2500.0, 6000.0])
def test_a_column_is_that_of_the_bar(length):
    bar = wb.Member(
        mark="B", section={"shape": "flat bar", "d": "120 mm", "b": "30 mm"}, span="3 m"
    )
    for axis in ("major", "minor"):
        name = f"flexural buckling, {axis} axis"
        found = [capacity(name, s, Fy=36, Fu=58, L=length) for s in (outline(BAR), bar.section)]
        assert found[0] == pytest.approx(found[1], rel=1e-9)


def test_an_i_shape_buckles_as_the_closed_form_says():
    s = outline_section("I", i_outline(400, 180, 9, 14, 0), 14.0, True)
    for length in (6000.0, 12000.0):
        Mcr = uniform_critical_moment(s, length, E, G)
        found = capacity(LTB, s, Lb=length, Fy=500.0, demand={"M_major": 1.0}) / 0.9
        assert found == pytest.approx(min(Mcr, 500 * KSI * s.Wel_major), rel=1e-6)
    short = capacity(LTB, s, Lb=0.0)
    assert short == pytest.approx(0.9 * 50 * KSI * s.Wel_major, rel=1e-9)


def member(**fields):
    given = {
        "mark": "Z", "span": "2 m", "steel": "A572", "self_weight": False, "section": {
            "shape": "outline", "thickest": "10 mm", "stocky": True,
            "points": [[f"{x} mm", f"{y} mm"] for x, y in Z],
        },
    } | fields  # fmt: skip
    return wb.Member(**given)


@pytest.mark.parametrize(("Mx", "My"), [(6.0, 0.0), (0.0, 2.0), (5.0, 1.5), (5.0, -1.5)])
def test_never_less_than_the_worst_corner(Mx, My):
    """The whole formula of unsymmetrical bending, corner by corner, on the short Z."""
    forces = [{"name": "f", "moment_major": f"{Mx} kN m", "moment_minor": f"{My} kN m",
               "shear_major": "0 kN", "shear_minor": "0 kN"}]  # fmt: skip
    one = member(forces=forces, restraint={"top": "continuous", "bottom": "continuous"})
    found = max(r.utilisation for r in wb.check(wb.Job(members=[one]))["Z"].rows)
    s = one.section
    corners = np.array(Z, dtype=float) - [s.x, s.y]
    det = s.I_x * s.I_y - s.I_xy**2

    def worst(Mx, My):
        stresses = (((Mx * s.I_y - My * s.I_xy) * y + (My * s.I_x - Mx * s.I_xy) * x) * 1e6 / det
                    for x, y in corners)  # fmt: skip
        return max(map(abs, stresses)) / (0.9 * 50 * KSI)

    assert worst(Mx, My) * (1 - 1e-9) <= found
    assert found <= 1.5 * max(worst(Mx, My), worst(Mx, -My))


@pytest.mark.parametrize("sense", [1, -1])
def test_what_relieves_a_corner_of_an_outline(sense):
    """A tee of plates in compression: bent one way it relieves the tip, the other way not."""
    points = [(-60, 100), (60, 100), (60, 90), (5, 90), (5, 0), (-5, 0), (-5, 90), (-60, 90)]
    of = {"shape": "outline", "thickest": "10 mm", "stocky": True,
          "points": [[f"{x} mm", f"{y} mm"] for x, y in points]}  # fmt: skip
    forces = [{"name": "f", "compression": "80 kN", "moment_major": f"{2 * sense} kN m",
               "moment_minor": "1 kN m", "shear_major": "0 kN", "shear_minor": "0 kN"}]  # fmt: skip
    one = member(section=of, forces=forces, second_order="included",
                 restraint={"top": "continuous", "bottom": "continuous"})  # fmt: skip
    rows = {r.name: r.utilisation for r in wb.check(wb.Job(members=[one]))["Z"].rows}
    s = one.section
    assert s.I_major == pytest.approx(s.I_x)
    a = max(v for k, v in rows.items() if "buckling" in k and "lateral" not in k)
    w, z = rows["yielding, major axis"], rows["bending, minor axis"]
    below, above = s.y, 100 - s.y
    tip, toe = below / max(below, above), above / max(below, above)
    # The tip of the stem lies beside the minor axis: its 5 mm count whole.
    places = [
        a + w + z if sense > 0 else a - toe * w + z,
        a - tip * w + z if sense > 0 else a + w + z,
    ]
    assert rows["compression and bending"] == pytest.approx(max(*places, w + z), rel=1e-9)


def test_what_the_corners_do_not_tell_is_outside():
    pressed = [{"case": "live", "compression": "10 kN"}]
    said = wb.check(wb.Job(members=[member(load=pressed)]))["Z"]
    assert said.status == "ok"
    unsaid = member(load=pressed, section=member().section.__class__(
        "outline", "Z", member().section.properties | {"stocky": 0.0}))  # fmt: skip
    result = wb.check(wb.Job(members=[unsaid]))["Z"]
    assert result.status == "outside"
    assert "stocky" in next(r.reason for r in result.rows if r.status == "outside")
    bent = wb.check(wb.Job(members=[member(load=[{"case": "live", "line": "1 kN/m"}])]))
    row = {r.name: r for r in bent["Z"].rows}["shear"]
    assert row.status == "outside"
    for part in bent.explain("Z").parts:
        if math.isfinite(part.row.utilisation):
            assert part.entries[-1].result == pytest.approx(part.row.utilisation, rel=1e-9)
