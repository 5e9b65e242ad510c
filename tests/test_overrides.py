"""Overrides that stand out, choices without effect, and the way to a deflection."""

from __future__ import annotations

import json

import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import demo_text

LOADS = [{"case": "dead", "line": "1 kip/ft"}, {"case": "live", "line": "1 kip/ft"}]


def result(**fields):
    given = {"mark": "B", "section": "W18X50", "steel": "A992", "load": LOADS, "span": "20 ft"}
    given |= fields
    if "spans" in fields or "height" in fields:
        given.pop("span")
    return wb.check(wb.Job(members=[wb.Member(**given)]))["B"]


WIND = [{"case": "wind", "line": "0.1 kip/ft"}]
PRESSED = [*LOADS, {"case": "dead", "compression": "20 kip"}]


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"design": {"Cb": 3}}, "Cb = 3 is given, more than the 1.14"),
        ({"design": {"Cb": 1.1}}, None),
        ({"design": {"Cb": "reversed curvature"}}, "so F1-1 holds"),
        ({"design": {"Cb": 2}, "restraint": {"top": "continuous"}}, "Cb: nothing bends a length"),
        (
            {"design": {"Cb": 2}, "section": "HSS6.000X0.250", "steel": "A500 Gr C"},
            "Cb: no strength of a round tube depends on it",
        ),
        ({"buckling": {"minor_K": 0.8}}, "buckling (minor_K): nothing compresses it"),
        ({"buckling": {"minor_K": 0.8}, "load": PRESSED}, "0.8 is less than the theoretical 1"),
        (
            {"buckling": {"minor_K": 0.8, "minor_length": "5 ft"}, "load": PRESSED},
            None,
        ),
        (
            {"buckling": {"minor_K": 0.4, "minor_length": "5 ft"}, "load": PRESSED},
            "0.4 is less than the theoretical 0.5",
        ),
        ({"buckling": {"minor_length": "26 ft"}, "load": PRESSED}, "longer than any span"),
        ({"connection": {"net_area": "10 in2", "shear_lag": 0.9}}, "no combination pulls it"),
        (
            {"role": "column", "self_weight": False, "load": WIND},
            "role column: no combination compresses it",
        ),
        ({"role": "hanger", "load": PRESSED}, "role hanger: no combination pulls it"),
        ({"role": "brace"}, "role brace: there is no axial force in it"),
        ({"role": "beam", "height": "20 ft"}, "role beam: it stands upright"),
        ({"height": "20 ft"}, None),
        ({"section": "SHS150X150X8", "steel": "S355H EN 10219"}, "SHS150X150X8 EN10219 is taken"),
        ({"section": "EN 10210 SHS 150x150x8", "steel": "S355H EN 10210"}, None),
        ({"bearing": "3 ft"}, "bearing: 36 in is long"),
        ({"bearing": "6 in"}, None),
        ({"camber": "1 ft", "deflection": {"total": "L/240"}}, "much more than the deflection"),
        ({"camber": "0.1 in", "deflection": {"total": "L/240"}}, None),
    ],
)
def test_overrides_that_stand_out_are_warned_of(fields, words):
    warned = result(**fields).warnings
    if words is None:
        assert warned == []
    else:
        assert [words in one for one in warned] == [True], warned


def test_every_override_is_listed_with_the_assumptions():
    found = result(
        design={"Cb": 1.1}, camber="0.1 in", deflection={"total": "L/240"},
        connection={"net_area": "10 in2", "shear_lag": 0.9}, buckling={"minor_K": 1.0},
    ).notes  # fmt: skip
    (listed,) = (note for note in found if note.startswith("given, in place"))
    for words in ("Cb = 1.1", "minor K 1", "net area 10 in²", "shear lag factor 0.9",
                  "camber 0.1 in"):  # fmt: skip
        assert words in listed
    assert not any(note.startswith("given") for note in result().notes)


@pytest.mark.parametrize(
    "fields",
    [
        {"camber": "0.3 in"},
        {"spans": ["20 ft", "25 ft"], "pattern": True, "load": [*LOADS, {
            "case": "live", "point": "9 kip", "at": "8 ft"}]},
        {"deflection_from": "chord", "load": [*LOADS, {
            "case": "dead", "settlement": "10 mm", "at": "20 ft"}]},
        {"load": [*LOADS, {"case": "wind", "line": "0.5 kip/ft", "reversible": True}]},
        {"section": "L6X4X1/2", "steel": "A36"},
    ],
)  # fmt: skip
def test_a_deflection_is_explained_from_its_load_cases(fields):
    found = result(deflection={"total": "L/240", "live": "L/360"}, **fields)
    table = wb.CheckTable(wb.Job(members=[found.member.said]), [found])
    rows = [row for row in found.rows if row.id.startswith("deflection")]
    assert rows
    for row in rows:
        if row.again is None:
            continue
        (part,) = table.explain("B", row.name).parts[:1]
        values = {}
        total = 0.0
        for entry in part.entries:
            values[getattr(entry, "symbol", "")] = getattr(entry, "value", None)
            if getattr(entry, "symbol", "") == "gamma":
                total += values["gamma"] * values["delta_case"]
        steps = {e.formula.symbol: e.result for e in part.entries if hasattr(e, "formula")}
        assert steps["U"] == pytest.approx(row.utilisation, rel=1e-9)
        if "delta" in steps:
            assert steps["delta"] == pytest.approx(row.demand, rel=1e-9)
        else:
            assert found.member.section.has_rotated_axes


# One combination, and what would mend


@pytest.mark.parametrize("under", ["1.2D + 1.6L", "live", "D + L"])
def test_one_combination_alone_brings_what_it_brings_of_all(under):
    job = wb.parse_job(demo_text())
    whole, alone = wb.check(job), wb.check(job, under)
    assert f"under {alone.under}, which is no verdict of all" in alone.summary()
    for result in alone:
        for row in result.rows:
            assert row.combination in (alone.under, "")
            of_all = next(r for r in whole[result.member.mark].rows if r.id == row.id)
            if under != "live" and of_all.combination == alone.under:
                assert row.utilisation == pytest.approx(of_all.utilisation, rel=1e-12)
            if under != "live" and row.status == of_all.status == "ok":
                assert row.utilisation <= of_all.utilisation * (1 + 1e-12)
    with pytest.raises(wb.InputError, match=r"no combination and no load case '1\.2X'"):
        wb.check(job, "1.2X")


def test_a_combination_given_by_its_forces_alone():
    forces = [{"name": name, "moment_major": f"{M} kip ft", "shear_major": "1 kip"}
              for name, M in (("first", 50), ("second", 90))]  # fmt: skip
    job = wb.Job(members=[wb.Member(mark="B", section="W18X50", span="20 ft", forces=forces)])
    (one,), (both,) = wb.check(job, "First"), wb.check(job)
    assert one.utilisation == pytest.approx(both.utilisation * 50 / 90, rel=1e-9)


@pytest.mark.parametrize("mark", ["FB2", "EB1"])
def test_what_would_mend_a_member_does(mark):
    job = wb.parse_job(demo_text())
    found = wb.remedies(job, mark)
    member = job.member(mark)
    every = {"every": f"{found.spacing} mm"}
    fields = member.restraint.model_copy(update={
        flange: wb.Restraint(**{flange: every}).top or wb.Restraint(**{flange: every}).bottom
        for flange in found.flanges
    })  # fmt: skip
    for update in ({"section": found.section}, {"restraint": fields}):
        changed = job.model_copy(update={"members": [member.model_copy(update=update)]})
        assert wb.check(changed)[mark].status == "ok"
    assert found.section.name in repr(found)
    assert wb.remedies(job, "FG1") is None


def test_many_over_members_are_not_all_looked_at_unasked(tmp_path):
    path = tmp_path / "job.toml"
    members = "".join(
        f'[[member]]\nmark = "B{i}"\nsection = "W8X10"\nspan = "{20 + i} ft"\n'
        'load = [{ case = "live", line = "2 kip/ft" }]\n'
        for i in range(5)
    )
    path.write_text(f"welbric = 2\n{members}", "utf-8")
    run = CliRunner().invoke
    text = run(main, ["check", str(path)]).output
    assert text.count("it passes with") == 3
    assert "--details says what would mend the other 2" in text
    assert run(main, ["check", str(path), "--details"]).output.count("it passes with") == 5


def test_public_objects_show_themselves_in_words_with_units(tmp_path):
    job = wb.parse_job(demo_text())
    table = wb.check(job)
    result = table["FB2"]
    shown = [
        (result.governing, "lateral-torsional buckling (F2.2): over, 1.046, 178.8 kN·m of 170.9"),
        (wb.lateral_buckling(job, "FB2", "1.2D + 1.6L"), "buckles laterally at 1.057 ×"),
        (wb.reserve(job, "FB2"), "largest load: 0.954"),
        (wb.curves([wb.section("W18X50")]), "available moment, Cb = 1"),
        (wb.compare(job, "FB2", {"more": {"section": "W18X55"}}), "as it is 1.05, more"),
        (result.support_forces()[0], "start, D: up 19.48 kN"),
        (table.explain("FB2"), "working of FB2: "),
        (table, "Saltmarsh Observatory: 19 of 21"),
    ]
    for one, words in shown:
        assert repr(one).startswith("<")
        assert words in repr(one)
        assert "array(" not in repr(one)


def test_results_of_one_combination_say_so_and_are_no_results_to_stand(tmp_path):
    path, out = tmp_path / "job.toml", tmp_path / "out.json"
    path.write_text(demo_text(), "utf-8")
    run = CliRunner().invoke
    assert "it is not there on RB1" in run(main, ["check", str(path), "--under", "live"]).output
    run(main, ["check", str(path), "--under", "live", "--to", str(out)])
    assert json.loads(out.read_text("utf-8"))["under"] == "live alone"
    refused = run(main, ["check", str(path), "--against", str(out)])
    assert (refused.exit_code, "live alone alone" in refused.output) == (2, False)
    assert "no verdict to stand" in refused.output
    both = run(main, ["check", str(path), "--against", str(out), "--under", "live"])
    assert (both.exit_code, "goes with no other option" in both.output) == (2, True)
