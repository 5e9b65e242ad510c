"""The moment-shape factor by choice: given, by quarter points, reversed curvature, eigenvalue."""

import math

import pytest

import welbric as wb
from welbric.checking import segment_rows


def beam(Cb=None, ends=("fixed", "fixed"), load=None, **fields):
    load = load or [{"case": "live", "line": "20 kN/m"}]
    given = {
        "mark": "B", "section": "W18X50", "span": "10 m", "ends": list(ends), "Cb": Cb,
        "ends_minor": ["pinned", "pinned"], "restraint": {"top": "continuous"}, "load": load,
        "self_weight": False,
    } | fields  # fmt: skip
    return wb.Job(members=[wb.Member(**given)])


def factors(job):
    return {row.segment.flange: row.Cb for row in segment_rows(job, job.members[0])}


@pytest.mark.parametrize(
    ("ends", "Cb"), [(("fixed", "fixed"), 3.0), (("fixed", "pinned"), 3 + 4 / 3)]
)
def test_reversed_curvature_by_hand(ends, Cb):
    """3 - 2/3 + 8/3 x 1/4; and with one end moment, 3 + 8/3 x 1/2: uniform loads."""
    assert factors(beam("reversed curvature", ends))["bottom"] == pytest.approx(Cb, rel=1e-6)


def test_reversed_curvature_asks_for_a_held_flange():
    apart = {"restraint": {"top": {"every": "2 m"}}}
    assert factors(beam("reversed curvature", **apart)) == factors(beam(None, **apart))
    up = [{"case": "live", "line": "-20 kN/m"}]  # the middle compresses the bottom flange most
    plain, by_rule = (
        factors(beam(way, ("pinned", "pinned"), up))["bottom"]
        for way in (None, "reversed curvature")
    )
    assert by_rule == plain


def test_a_free_tip_is_not_held():
    tip = {"role": "cantilever", "ends": ["fixed", "free"], "ends_minor": ["fixed", "free"]}
    assert factors(beam("reversed curvature", **tip))["bottom"] == 1.0


@pytest.mark.parametrize(("ends", "low"), [(("fixed", "fixed"), 3.0), (("fixed", "pinned"), 4.3)])
def test_the_rule_is_not_above_the_eigenvalue(ends, low):
    """A flange held all along: what the commentary gives is reached by the elastic solution."""
    by_eigenvalue = factors(beam("eigenvalue", ends))["bottom"]
    assert by_eigenvalue >= 0.95 * low


def test_the_eigenvalue_is_the_quarter_points_within_their_error():
    for load in ([{"case": "live", "line": "10 kN/m"}],
                 [{"case": "live", "point": "50 kN", "at": "5 m"}]):  # fmt: skip
        fields = {"ends": ("pinned", "pinned"), "load": load, "restraint": {}}
        by_rule, by_eigenvalue = (next(iter(factors(beam(way, **fields)).values()))
                                  for way in (None, "eigenvalue"))  # fmt: skip
        assert by_eigenvalue == pytest.approx(by_rule, rel=0.05)


def test_loads_on_the_top_flange_are_covered_by_the_eigenvalue():
    load = [{"case": "live", "line": "3 kN/m", "on": "top"}]
    fields = {"ends": ("pinned", "pinned"), "load": load, "restraint": {}}
    outside, inside = (wb.check(beam(way, **fields))["B"] for way in (None, "eigenvalue"))
    assert outside.status == "outside"
    assert inside.status in ("ok", "over")
    middle = beam("eigenvalue", **(fields | {"load": [load[0] | {"on": "shear centre"}]}))
    low = {r.name: r.utilisation for r in inside.rows}["lateral-torsional buckling"]
    high = {r.name: r.utilisation for r in wb.check(middle)["B"].rows}["lateral-torsional buckling"]
    assert low > 1.1 * high
    table = wb.check(beam("eigenvalue", **fields))
    for part in table.explain("B").parts:
        assert part.entries[-1].result == pytest.approx(part.row.utilisation, rel=1e-9)
    assert "by eigenvalue" in str(table.explain("B"))


def test_axial_force_does_not_count_in_the_moments_factor():
    load = [{"case": "live", "line": "10 kN/m"}, {"case": "live", "compression": "200 kN"}]
    fields = {"ends": ("pinned", "pinned"), "restraint": {}}
    pressed = next(iter(factors(beam("eigenvalue", load=load, **fields)).values()))
    alone = next(iter(factors(beam("eigenvalue", load=load[:1], **fields)).values()))
    assert pressed == pytest.approx(alone, rel=1e-6)
    assert math.isfinite(pressed)


@pytest.mark.parametrize("Cb", [0, -1, "F1", True, float("nan")])
def test_other_factors_are_refused(Cb):
    with pytest.raises(wb.InputError, match="reversed curvature"):
        beam(Cb)
