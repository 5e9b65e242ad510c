"""A member's stages: the same steel, held and loaded otherwise."""

from __future__ import annotations

import copy

import jsonschema
import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import schema

LINE = [{"case": "dead", "line": "0.5 kip/ft"}, {"case": "live", "line": "0.2 kip/ft"}]
JOB = {
    "standard": "AISC 360-22",
    "defaults": {"steel": "A992", "restraint": {"top": "continuous"}},
    "member": [
        {"mark": "FB1", "section": "W16X50", "span": "30 ft",
         "load": [*LINE, {"case": "live", "line": "0.6 kip/ft"}], "deflection": {"total": 240}},
        {"mark": "FB1 poured", "stage_of": "FB1", "load": LINE},
    ],
}  # fmt: skip


def job(stage=None, **base):
    data = copy.deepcopy(JOB)
    data["member"][0] |= base
    data["member"][1] |= stage or {}
    return wb.Job(**data)


def test_a_stage_is_the_same_steel_held_at_its_supports_alone():
    table = wb.check(job())
    alone = {"mark": "A", "section": "W16X50", "steel": "A992", "span": "30 ft", "load": LINE}
    found = wb.check(wb.Job(member=[alone]))["A"]
    for ours, theirs in zip(table["FB1 poured"].rows, found.rows, strict=True):
        assert ours.utilisation == pytest.approx(theirs.utilisation, rel=1e-12)
    assert table["FB1 poured"].governing.id == "bending-lateral" != table["FB1"].governing.id
    assert any("a stage of FB1" in note for note in table["FB1 poured"].notes)


def test_a_prop_is_of_the_stage_alone():
    table = wb.check(job({"support": [{"at": "15 ft"}]}))
    assert len(table["FB1 poured"].reactions()) == 3
    assert len(table["FB1"].reactions()) == 2


@pytest.mark.parametrize("mark", ["FB1", "FB1 poured"])
def test_sizing_one_sizes_all_stages_and_the_steel_counts_once(mark):
    small = job(section="W16X26", choose="W, depth at most 18 in")
    sized = wb.size(small, [mark])
    assert {one.member.mark for one in sized} == {"FB1", "FB1 poured"}
    assert len({one.chosen.section.name for one in sized}) == 1
    passing = wb.size(job(section="W16X26", choose="W, depth at most 18 in"), ["FB1"])
    assert passing["FB1"].chosen.section.mass >= wb.section("W16X45").mass
    assert passing.changes() == {"FB1": {"section": passing["FB1"].chosen.section.name}}
    assert sum(one.pieces for one in wb.take_off(small)) == 1


@pytest.mark.parametrize(
    ("stage", "words"),
    [
        ({"section": "W18X50"}, "section: is that of FB1, of which this is a stage"),
        ({"span": "20 ft"}, "span: is that of FB1"),
        ({"stage_of": "FB2"}, "'FB2' is no member that has stages; did you mean FB1?"),
        ({"stage_of": "FB1 poured"}, "is no member that has stages"),
    ],
)
def test_what_does_not_go_with_a_stage(stage, words):
    with pytest.raises(wb.InputError, match=r"member 2 \(FB1 poured\), ") as caught:
        job(stage)
    assert words in str(caught.value)


def test_a_piece_by_either_of_its_names_is_in_both():
    piece = {"section": "W16X67", "start": "10 ft", "end": "20 ft"}
    for name in ("piece", "pieces"):
        table = wb.check(job(**{name: [piece]}))
        assert len(table["FB1 poured"].member.sections) == 2
    table = wb.check(job({"supports": [{"at": "10 ft"}]}, support=[{"at": "15 ft"}]))
    assert [s.at for s in table["FB1 poured"].member.supports_about("major")][1] == 3048.0


def test_choices_of_a_standard_are_said_of_each_stage():
    with pytest.raises(wb.InputError, match=r"\(FB1 poured\), design: FB1 has one"):
        job(design={"Cb": 1.3})
    table = wb.check(job({"design": {}}, design={"Cb": 1.3}))
    assert table["FB1 poured"].case.moment_shape is None


def test_members_made_in_python_say_their_section_themselves():
    base = wb.Member(mark="A", section="W16X50", span="30 ft", load=LINE)
    for section, works in (("W16X50", True), ("W16X57", False)):
        stage = wb.Member(mark="B", stage_of="A", section=section, span="30 ft", load=LINE)
        if works:
            assert wb.check(wb.Job(members=[base, stage]))["B"].status == "ok"
        else:
            with pytest.raises(wb.InputError, match="are not those of A"):
                wb.Job(members=[base, stage])
    with pytest.raises(wb.InputError, match="'A' is no member that has stages"):
        wb.Job(members=[base, {"mark": "B", "stage_of": "A", "load": LINE}])


def test_a_file_with_a_stage(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text(
        'welbric = 2\nname = "t"\n[[member]]\nmark = "A"\nsection = "W16X26"\nspan = "20 ft"\n'
        'choose = "W16"\nload = [{ case = "live", line = "1 kip/ft" }]\n'
        '[[member]]\nmark = "B"\nstage_of = "A"\nload = [{ case = "live", line = "2 kip/ft" }]\n'
    )
    done = CliRunner().invoke(main, ["size", str(path), "--accept", "A"])
    assert done.exit_code == 0, done.output
    assert path.read_text().count("section =") == 1
    assert "W16X26" not in path.read_text()
    for command in (["reserve"], ["compare"]):
        more = ["--change", 'section = "W16X50"'] if command == ["compare"] else []
        for mark, other in (("A", "B"), ("B", "A")):
            said = CliRunner().invoke(main, [*command, str(path), mark, *more]).output
            words = f"Of {mark} alone; the same steel is also in other stages: {other}."
            assert words in " ".join(said.split())
    jsonschema.validate(JOB | {"welbric": 2}, schema())
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate({"welbric": 2, "member": [{"mark": "A", "span": "3 m"}]}, schema())
