"""Stiffened webs: tension field (G2.2), stiffeners (G2.3), bearing stiffeners (J10.8), by hand."""

import math

import numpy as np
import pytest

import welbric as wb
from cases import IN, KIP, KSI, capacity, utilisation
from welbric.standards.aisc360.design import E
from welbric.standards.case import Stiffening

GIRDER = {"shape": "welded I", "d": "36 in", "bf": "16 in", "tf": "1.5 in", "tw": "5/16 in"}
Fy, h, tw = 36 * KSI, 33 * IN, 0.3125 * IN


def girder(**sizes):
    return wb.Member(mark="G", section=GIRDER | sizes, span="60 ft", stiffeners="6 ft").section


def panel(a, end=None, **more):
    return Stiffening(a, a if end is None else end, **more)


def shear(a, name="shear, web", section=None, **more):
    given = {"Fy": 36, "Fu": 58, "stiffeners": panel(a, **more), "demand": {"V_inside": 1.0}}
    return capacity(name, section or girder(), **given)


@pytest.mark.parametrize("ratio", [0.4, 1.0, 1.6, 2.5, 3.0])
def test_tension_field_by_hand(ratio):
    kv = 5 + 5 / ratio**2
    lambda_w, root = h / tw, math.sqrt(kv * E / Fy)
    Vy = 0.6 * Fy * 36 * IN * tw
    Cv1 = min(1.0, 1.10 * root / lambda_w)
    Cv2 = 1.0 if lambda_w <= 1.10 * root else 1.10 * root / lambda_w
    if lambda_w > 1.37 * root:
        Cv2 = 1.51 * kv * E / (lambda_w**2 * Fy)
    whole = Vy * (Cv2 + (1 - Cv2) / (1.15 * math.hypot(1, ratio)))
    assert shear(ratio * h) == pytest.approx(0.9 * Vy * Cv1, rel=1e-12)
    expected = 0.9 * max(Vy * Cv1, Vy if Cv2 == 1.0 else whole)
    assert shear(ratio * h, tension_field=True) == pytest.approx(expected, rel=1e-12)
    ends = shear(2 * h, "shear, end panels", end=ratio * h)
    assert ends == pytest.approx(0.9 * Vy * Cv1, rel=1e-12)


def test_tension_field_wants_flanges_and_short_panels():
    weak = girder(bf="5 in", tf="0.5 in")  # h/bf = 7: only a part of the field
    depth = 35 * IN
    kv = 5 + 5 / 1.5**2
    Cv2 = 1.51 * kv * E / ((depth / tw) ** 2 * Fy)
    part = Cv2 + (1 - Cv2) / (1.15 * (1.5 + math.hypot(1, 1.5)))
    Cv1 = 1.10 * math.sqrt(kv * E / Fy) / (depth / tw)
    expected = 0.9 * 0.6 * Fy * 36 * IN * tw * max(part, Cv1)
    assert shear(1.5 * depth, section=weak, tension_field=True) == pytest.approx(expected, rel=1e-9)
    far = 3.001 * h
    assert shear(far, tension_field=True) == pytest.approx(shear(far), rel=1e-12)


def test_closer_stiffeners_never_weaken():
    strengths = [shear(a * h, tension_field=True) for a in np.linspace(0.3, 4.0, 200)]
    assert all(np.diff(strengths) <= 1e-9 * strengths[0])


def test_stiffeners_by_hand():
    sizes = {"width": 4 * IN, "thickness": 0.25 * IN}
    given = {"Fy": 36, "Fu": 58, "stiffeners": panel(1.2 * h, tension_field=True, **sizes)}
    kv = 5 + 5 / 1.2**2
    Vy = 0.6 * Fy * 36 * IN * tw
    Cv2 = min(1.51 * kv * E / ((h / tw) ** 2 * Fy), 1.10 * math.sqrt(kv * E / Fy) / (h / tw))
    Vc2 = 0.9 * Vy * Cv2
    Vc1 = 0.9 * Vy * (Cv2 + (1 - Cv2) / (1.15 * math.hypot(1, 1.2)))
    V = 0.5 * (Vc1 + Vc2)  # half of what lies beyond buckling
    full = h**4 / 40 * (Fy / E) ** 1.5
    least = max(2.5 / 1.2**2 - 2, 0.5) * h * tw**3
    needed = least + (full - least) * 0.5
    pair = sizes["thickness"] * (2 * sizes["width"] + tw) ** 3 / 12
    slender = 16 / (0.56 * math.sqrt(E / Fy))
    U = utilisation("transverse stiffeners", girder(), demand={"V_major": V}, **given)
    assert pytest.approx(max(slender, needed / pair), rel=1e-9) == U
    one = panel(1.2 * h, tension_field=True, pairs=False, width=3 * IN, thickness=0.25 * IN)
    given |= {"stiffeners": one}
    U = utilisation("transverse stiffeners", girder(), demand={"V_major": V}, **given)
    assert pytest.approx(max(0.75 * slender, needed / (0.25 * 9 * IN**4)), rel=1e-9) == U


def job(**fields):
    given = {
        "mark": "G", "section": GIRDER, "steel": "A36", "span": "60 ft", "self_weight": False,
        "stiffeners": {"spacing": "6 ft", "end_panels": "3 ft", "tension_field": True,
                       "width": "6 in", "thickness": "1/2 in"},
        "restraint": {"top": "continuous"},
        "load": [{"case": "live", "line": "2 kip/ft"}],
    } | fields  # fmt: skip
    return wb.Job(members=[wb.Member(**given)])


def test_panels_of_a_member():
    table = wb.check(job())
    rows = {row.name: row for row in table["G"].rows}
    w = 1.6 * 2 * KIP / (12 * IN)
    assert rows["shear, end panels"].demand == pytest.approx(w * 360 * IN, rel=1e-9)
    assert rows["shear, web"].demand == pytest.approx(w * (360 - 36) * IN, rel=1e-9)
    assert (rows["shear, web"].clause, rows["shear, end panels"].clause) == ("G2.2", "G2.1")
    for part in table.explain("G").parts:
        assert part.entries[-1].result == pytest.approx(part.row.utilisation, rel=1e-9)
    unsized = wb.check(job(stiffeners={"spacing": "6 ft", "tension_field": True}))["G"]
    assert {r.name: r.status for r in unsized.rows}["transverse stiffeners"] == "outside"
    assert any("not verified" in text for text in wb.check(job(stiffeners="6 ft"))["G"].warnings)


def test_the_longest_panel_sets_the_limit_of_the_web():
    """F13.2: 12 sqrt(E/Fy) = 340.6 to a/h = 1.5, 0.40 E/Fy = 322.2 beyond, at 36 ksi."""
    thin = GIRDER | {"d": "1000 mm", "tf": "20 mm", "tw": "2.9 mm", "bf": "300 mm"}  # h/tw = 331

    def status(**panels):
        sizes = {"width": "100 mm", "thickness": "12 mm"}
        load = [{"case": "live", "line": "1 kN/m"}]
        found = wb.check(job(section=thin, load=load, stiffeners=panels | sizes))["G"]
        return {r.name: r.status for r in found.rows}["yielding, major axis"]

    assert status(spacing="1.4 m") == "ok"
    assert status(spacing="1.4 m", end_panels="2 m") == "outside"
    assert status(spacing="2 m", end_panels="1 m") == "outside"


def test_a_piece_without_such_a_web_counts_its_whole_shear():
    piece = [{"section": "HSS20X12X1/2", "end": "4 ft"}]
    plain, panels = (
        {r.name: r.demand for r in wb.check(job(piece=piece, stiffeners=of))["G"].rows}
        for of in (None, {"spacing": "6 ft", "end_panels": "5 ft"})
    )
    name = "shear, walls along the depth"
    assert panels[name] == pytest.approx(plain[name], rel=1e-9)


@pytest.mark.parametrize("inside", [True, False])
def test_bearing_stiffeners_by_hand(inside):
    place = "30 ft" if inside else "0 ft"
    load = [{"case": "live", "point": "300 kip", "at": "30 ft"}]
    pair = {"at": [place], "width": "5 in", "thickness": "1/2 in", "clip": "1 in"}
    rows = {r.name: r for r in wb.check(job(load=load, bearing_stiffener=[pair]))["G"].rows}
    R = 1.6 * (300 if inside else 150) * KIP
    strip = (25 if inside else 12) * tw
    A = 2 * 5 * 0.5 * IN**2 + strip * tw
    inertia = 0.5 * IN * (10 * IN + tw) ** 3 / 12 + (strip - 0.5 * IN) * tw**3 / 12
    slenderness = 0.75 * h / math.sqrt(inertia / A)
    assert slenderness < 25
    found = rows["bearing stiffeners, column"].utilisation
    assert found == pytest.approx(R / (0.9 * Fy * A), rel=1e-9)
    contact = R / (0.75 * 1.8 * Fy * 2 * 4 * 0.5 * IN**2)
    assert rows["bearing stiffeners, contact"].utilisation == pytest.approx(contact, rel=1e-9)
    assert not [name for name in rows if name.startswith("web local")]


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"stiffeners": {"spacing": "6 ft", "width": "6 in"}}, "width and thickness go together"),
        ({"stiffeners": {"spacing": "0 ft"}}, "spacing: is greater than zero"),
        ({"stiffeners": {"spacing": "6 ft", "sides": "one"}}, "go with a width"),
        ({"stiffeners": "50 ft"}, "longer than the member"),
        ({"stiffeners": {"spacing": "6 ft", "width": "9 in", "thickness": "1 in"}}, "wider than"),
        ({"bearing_stiffener": [{"at": "70 ft", "width": "5 in", "thickness": "1 in"}]},
         "off the member"),
        ({"bearing_stiffener": [{"at": "7 ft", "width": "5 in", "thickness": "1 in",
                                 "clip": "5 in"}]}, "less than the width"),
        ({"section": "HSS12X8X3/8"}, "go with the web of an I-shape"),
    ],
)  # fmt: skip
def test_wrong_stiffeners_are_named(fields, words):
    with pytest.raises(wb.InputError, match=words):
        wb.check(job(**fields))
