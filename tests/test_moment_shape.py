"""The moment-shape factor by choice: given, by quarter points, reversed curvature, eigenvalue."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import welbric as wb
from welbric.checking.check import segment_rows
from welbric.effects.critical_load import uniform_critical_moment
from welbric.standards.aisc360.design import E, G
from welbric.studies.screening import looks
from welbric.units import METRIC


def beam(Cb=None, ends=("fixed", "fixed"), load=None, **fields):
    load = load or [{"case": "live", "line": "20 kN/m"}]
    given = {
        "mark": "B", "section": "W18X50", "span": "10 m", "ends": list(ends),
        "design": {} if Cb is None else {"Cb": Cb},
        "ends_minor": ["pinned", "pinned"], "restraint": {"top": "continuous"}, "load": load,
        "self_weight": False,
    } | fields  # fmt: skip
    return wb.Job(members=[wb.Member(**given)])


def factors(job):
    return {
        row.segment.flange: row.moment_shape
        for row in segment_rows(job, wb.resolve(job.members[0]))
    }


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
    """A continuous flange: what the commentary gives is reached by the elastic solution."""
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


CANTILEVERS = [  # restraint, loads: force in kN and place in m
    ({"bottom": {"at": ["2.46 m"]}}, [(22.3, 2.68)]),
    ({"bottom": {"at": ["0.78 m", "2.46 m"]}}, [(20.0, 4.0)]),
    ({"top": {"at": ["0.82 m"]}, "twist": {"at": ["2.09 m"]}}, [(-29.5, 3.05)]),
    ({}, [(-27.8, 3.88), (25.5, 3.06)]),
    ({}, [(-21.0, 3.49), (24.1, 1.61)]),
    ({}, [(20.0, 4.0)]),
    ({"top": {"at": ["2 m"]}, "bottom": {"at": ["2 m"]}}, [(20.0, 4.0)]),
]


@pytest.mark.parametrize(("restraint", "loads"), CANTILEVERS)
@pytest.mark.parametrize("span", [4.0, 10.0])
def test_toward_a_free_end_the_eigenvalue_is_not_much_less(restraint, loads, span):
    """Half of these had twice what they can carry, elastically, before free ends were looked at."""
    k = span / 4.0

    def far(at):
        return f"{float(at.split()[0]) * k:.4f} m"

    held = {flange: {"at": [far(at) for at in hold["at"]]} for flange, hold in restraint.items()}
    member = wb.Member(
        mark="B", section="W16X26", span=f"{span} m", ends=["fixed", "free"], self_weight=False,
        restraint=held,
        load=[{"case": "live", "point": f"{P} kN", "at": f"{x * k} m"} for P, x in loads],
    )  # fmt: skip
    job = wb.Job(members=[member], combinations=["1.0L"])
    critical = wb.lateral_buckling(job, member.mark, "1.0L")
    rows = [
        row
        for row in segment_rows(job, wb.resolve(member))
        if row.moment > 0 and row.segment.unbraced > 0
    ]
    elastic = min(
        row.moment_shape * uniform_critical_moment(member.section, row.segment.unbraced, E, G)
        / (row.moment / max(r.moment for r in rows))
        for row in rows
    )  # fmt: skip
    assert elastic <= 1.3 * critical.Mcr


def test_what_does_not_count_toward_a_free_end_is_said():
    load = [{"case": "live", "line": "5 kN/m"}]
    fields = {"mark": "B", "section": "W16X26", "span": "6 m", "ends": ["fixed", "free"]}
    one = wb.Member(restraint={"bottom": {"at": ["3 m"]}}, load=load, **fields)
    warned = wb.check(wb.Job(members=[one], show="metric"))["B"].warnings
    assert any("the bottom flange at 3 m ends no segment" in text for text in warned)
    all_along = wb.Member(restraint={"bottom": "continuous"}, load=load, **fields)
    warned = wb.check(wb.Job(members=[all_along]))["B"].warnings
    assert any("buckles about the flange held" in text for text in warned)


holds = st.one_of(
    st.none(),
    st.lists(st.integers(1, 15).map(lambda i: f"{0.5 * i} m"), min_size=1, max_size=2, unique=True),
)
points = st.lists(
    st.tuples(st.integers(5, 30), st.integers(1, 15).map(lambda i: 0.5 * i)), min_size=1, max_size=2
)


@given(st.sampled_from(["W16X26", "W21X62", "W12X65"]), st.booleans(), holds, holds, points)
@settings(max_examples=60)
def test_segments_and_their_factors_against_the_whole(name, fixed, top, bottom, loads):
    """Each segment apart, with F1-1, is on the safe side of the whole but for F1-1's own error."""
    restraint = {
        flange: {"at": sorted(at)} for flange, at in (("top", top), ("bottom", bottom)) if at
    }
    member = wb.Member(
        mark="B", section=name, span="8 m", ends=["fixed" if fixed else "pinned", "pinned"],
        ends_minor=["pinned", "pinned"], self_weight=False, restraint=restraint,
        load=[{"case": "live", "point": f"{P} kN", "at": f"{x} m"} for P, x in loads],
    )  # fmt: skip
    job = wb.Job(members=[member], combinations=["1.0L"])
    rows = [
        r for r in segment_rows(job, wb.resolve(member)) if r.moment > 0 and r.segment.unbraced > 0
    ]
    factors = [
        r.moment_shape
        * uniform_critical_moment(member.section, r.segment.unbraced, E, G)
        / r.moment
        for r in rows
    ]
    most = 1.6  # of the worst combination, whose moments the rows have
    assert min(factors) * most <= 1.2 * wb.lateral_buckling(job, member.mark, "1.0L").factor


def test_the_eigenvalue_as_a_default_of_the_job():
    """A beam takes it; a channel, which it does not cover, says that it does not."""
    text = """
    welbric = 2
    standard = "EN 1993-1-1"
    loading = { live_category = "B" }
    [defaults]
    steel = "S355"
    design = { C1 = "eigenvalue" }
    [[member]]
    mark = "B"
    section = "IPE300"
    span = "6 m"
    load = [{ case = "dead", line = "8 kN/m" }]
    [[member]]
    mark = "C"
    section = "UPN200"
    span = "6 m"
    load = [{ case = "dead", line = "4 kN/m" }]
    """
    job = wb.parse_job(text)
    beam, channel = (wb.check(job)[mark] for mark in "BC")
    assert beam.case.moment_shape.ndim == 3
    assert channel.case.moment_shape is None
    words = "C1 by eigenvalue, as the job's defaults have it, is not known of it"
    assert any(words in note for note in channel.notes)
    assert not any(words in note for note in beam.notes)
    design = 'section = "UPN200"\n    design = { C1 = "eigenvalue" }'
    own = wb.parse_job(text.replace('section = "UPN200"', design))
    with pytest.raises(wb.InputError, match="UPN200 is not symmetric about its web"):
        wb.check(own)


def european(mark="B", loads=None, **fields):
    load = loads or [{"case": "dead", "line": "8 kN/m"}]
    usual = {"mark": mark, "section": "IPE300", "steel": "S355", "span": "7 m", "load": load}
    return wb.Member(**usual | fields)


def of_europe(*members):
    return wb.Job(standard="EN 1993-1-1", loading={"live_category": "B"}, members=list(members))


@pytest.mark.parametrize(
    "fields",
    [
        {},
        {"restraint": {"top": {"every": "2 m"}}},
        {"spans": ["5 m", "7 m"], "span": None, "restraint": {"top": "continuous"}},
        {"loads": [{"case": "dead", "point": "30 kN", "at": "3 m", "on": "top"},
                   {"case": "live", "line": "4 kN/m", "on": "bottom"}]},
        # Where a moment acts it jumps, and with it which flange is compressed.
        {"loads": [{"case": "wind", "moment": "12 kN m", "at": "5 m"}],
         "restraint": {"top": {"at": ["3 m"]}}},
    ],
)  # fmt: skip
def test_where_nobody_says_c1_is_that_of_the_eigenvalue(fields):
    """Of every combination at once on few elements, as alone on many, and as where it is asked."""
    member = european(**fields)
    result, asked = (
        wb.check(of_europe(one))["B"]
        for one in (member, european(design={"C1": "eigenvalue"}, **fields))
    )
    assert [row.utilisation for row in result.rows] == [row.utilisation for row in asked.rows]
    for c, combination in enumerate(result.forces.combinations):
        alone = wb.lateral_buckling(of_europe(member), "B", combination.name)
        for part, shape in zip(alone.segments, result.case.moment_shape[0, c], strict=True):
            if part.moment > 0.01 * alone.moment and part.segment.unbraced > 0:
                assert shape == pytest.approx(part.moment_shape, rel=5e-4)


def test_holds_near_one_another_clamp_nothing():
    """A hold beside a support does nothing for the strength, two beside one another what one does.

    By elastic theory alone they would clamp the flange in plan.
    """

    def critical(*places):
        held = {"restraint": {"top": {"at": [f"{x} mm" for x in places]}}} if places else {}
        result = wb.check(of_europe(european(**held)))["B"]
        c = [one.name for one in result.forces.combinations].index("1.35D")
        s, shapes = wb.section("IPE300"), result.case.moment_shape[0, c]
        return max(
            shape * uniform_critical_moment(s, part.unbraced, 210e3, 81e3)
            for part, shape in zip(result.segments, shapes, strict=True)
            if part.flange in ("top", "both") and math.isfinite(shape)
        )

    free, one = critical(), critical(3500)
    assert critical(6999) == pytest.approx(free, rel=2e-3)
    assert critical(3490, 3510) == pytest.approx(one, rel=0.02)
    rising = [critical(x) for x in (6999, 6900, 6700, 6300, 5800, 5250, 4500, 3500)]
    assert rising == sorted(rising)
    loads = [{"case": "dead", "line": "11 kN/m"}]
    member = european(loads=loads, restraint={"top": {"every": "3 m"}})
    assert 3000 < wb.reserve(of_europe(member), "B", "spacing").value < 6700
    near = european(loads=loads, restraint={"top": {"at": ["6.999 m"]}})
    assert wb.check(of_europe(near))["B"].status == "over"


def test_sections_looked_at_together_have_the_eigenvalues_of_each_alone():
    load = [{"case": "dead", "line": "6 kN/m"}, {"case": "live", "point": "20 kN", "at": "2 m",
                                                  "on": "top"}]  # fmt: skip
    member = european(loads=load, restraint={"bottom": {"every": "3.5 m"}})
    job, sections = of_europe(member), wb.wished("IPE or HEA")
    found = looks(job, member, sections)
    assert len(found) > 30
    for section in sections[::7]:
        alone = wb.check(of_europe(member.model_copy(update={"section": section})))["B"]
        (row,) = [row for row in alone.rows if row.id == "bending-lateral"]
        together = found[section.name].by_check["lateral-torsional buckling"]
        assert together == pytest.approx(row.utilisation, rel=1e-4)  # at its own peak


def test_the_critical_moment_may_be_given():
    """By the general curve in plain numbers; what would make it another moment is refused."""
    member = european(
        design={"Mcr": "85 kN m"}, loads=[{"case": "dead", "line": "9 kN/m", "on": "top"}]
    )
    job = of_europe(member)
    table = wb.check(job)
    (row,) = [row for row in table["B"].rows if row.id == "bending-lateral"]
    s = wb.section("IPE300")
    slender = math.sqrt(s.Wpl_major * 355 / 85e6)
    phi = 0.5 * (1 + 0.21 * (slender - 0.2) + slender**2)
    chi = 1 / (phi + math.sqrt(phi**2 - slender**2))
    M = 1.35 * (9 + 0.4138) * 7**2 / 8 * 1e6
    assert row.utilisation == pytest.approx(M / (chi * s.Wpl_major * 355), rel=1e-4)
    assert not [row for row in table["B"].rows if math.isnan(row.utilisation)]  # loads on top too
    assert "Mcr = 85 kN·m" in str(table.explain("B"))
    for refused in (
        lambda: wb.size(job, ["B"]),
        lambda: wb.reserve(job, "B", "span"),
        lambda: wb.compare(job, "B", ['section = "IPE400"']),
    ):
        with pytest.raises(wb.InputError, match="its Mcr is given, and holds of the member"):
            refused()
    assert wb.compare(job, "B", ['steel = "S275"']).variants[1].result.utilisation > 1
    assert "its Mcr is given, so no other section" in wb.remedies(job, "B").words(METRIC)
    with pytest.raises(wb.InputError, match="C1: goes without Mcr"):
        wb.check(of_europe(european(design={"Mcr": "85 kN m", "C1": 1.1})))
    of_defaults = """
    welbric = 2
    name = "J"
    standard = "EN 1993-1-1"
    loading = { live_category = "B" }
    defaults = { design = { Mcr = "85 kN m" } }
    [[member]]
    mark = "B"
    section = "IPE300"
    steel = "S355"
    span = "7 m"
    """
    with pytest.raises(wb.InputError, match="Mcr: holds of one member as it stands"):
        wb.check(wb.parse_job(of_defaults))
    for wrong, words in (("85", "no unit"), ("-1 kN m", "greater than 0")):
        with pytest.raises(wb.InputError, match=rf"\(B\), design, Mcr: .*{words}"):
            wb.check(of_europe(european(design={"Mcr": wrong})))
    (remark,) = wb.check(
        of_europe(european(design={"Mcr": "85 kN m"}, restraint={"top": "continuous"}))
    )["B"].warnings
    assert remark.startswith("Mcr: nothing bends a length that is not restrained")
