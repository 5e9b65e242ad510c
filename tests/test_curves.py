"""Curves over a length, and variants side by side."""

import json
import math

import numpy as np
import pytest
from click.testing import CliRunner

import welbric as wb
from cases import FT, KIP, KIP_FT, capacity
from welbric.cli import main
from welbric.files.jobs import DEMOS, demo_text
from welbric.reports.curve_figure import draw_curves, save_curves
from welbric.sections.kinds import own_section
from welbric.units import METRIC


@pytest.fixture(scope="module")
def job_file(tmp_path_factory):
    path = tmp_path_factory.mktemp("job") / "job.toml"
    path.write_text(demo_text())
    return path


def run(*args):
    return CliRunner().invoke(main, list(map(str, args)))


@pytest.mark.parametrize("name", ["W18X50", "C10X20", "WT7X24", "HSS12X2X1/4", "L4X4X1/4"])
@pytest.mark.parametrize("method", ["LRFD", "ASD"])
def test_bending_is_what_single_lengths_give(name, method):
    (curve,) = wb.curves([wb.section(name)], steel="A36", upto=9000.0, method=method).curves
    for i in (1, 60, 140, 240):
        Lb = float(curve.lengths[i])
        checks = [f"{w}, major axis" if w == "yielding" else w
                  for w in ("yielding", "lateral-torsional buckling", "flange local buckling",
                            "leg local buckling", "wall local buckling")]  # fmt: skip
        found = []
        for check in checks:
            try:
                found.append(capacity(check, name, Lb=Lb, Fy=36, Fu=58, method=method, Cb=1.0,
                                      demand={"M_major": 1.0}))  # fmt: skip
            except KeyError:
                continue
        assert curve.strengths[i] == pytest.approx(min(found), rel=1e-9)
    known = curve.strengths[np.isfinite(curve.strengths)]
    assert np.all(np.diff(known) <= 1e-9 * known[0])


def test_numbers_of_the_manual():
    """SCM Table 3-2: W18X50 379 kip-ft; Table 4-1a: W14X90 at 0 ft 1190 kip; no length to go by."""
    (bending,) = wb.curves([wb.section("W18X50")], upto=10_000.0).curves
    assert bending.strengths[0] / KIP_FT == pytest.approx(379, abs=0.501)
    (pressed,) = wb.curves([wb.section("W14X90")], "compression", upto=10_000.0).curves
    assert pressed.strengths[0] / KIP == pytest.approx(0.9 * 50 * 26.5, rel=1e-3)


def test_shear_over_the_distance_of_stiffeners():
    s = own_section("welded I", "G", {"d": 900.0, "bf": 300.0, "tw": 8.0, "tf": 25.0})
    plain, field = wb.curves([s], "shear", upto=4000.0).curves
    assert np.all(field.strengths >= plain.strengths - 1e-6)
    far = plain.lengths > 3 * (900 - 50)
    assert np.allclose(field.strengths[far], plain.strengths[far])
    assert np.ptp(plain.strengths[far]) == 0
    assert plain.strengths[0] == pytest.approx(0.9 * 0.6 * capacity_Fy() * 900 * 8, rel=1e-9)


def capacity_Fy():
    return wb.steel("A572 Gr 50").strengths(25.0, "welded I").Fy


def test_what_is_not_covered_has_no_strength():
    slender = own_section("channel", "S", {"d": 300.0, "bf": 200.0, "tw": 6.0, "tf": 6.0})
    (curve,) = wb.curves([slender]).curves
    assert np.all(np.isnan(curve.strengths))
    for args, words in (
        (([wb.section("HSS8X8X1/4")], "shear"), "go with the web of an I-shape"),
        (([wb.section("W18X50")], "torsion"), "is no curve"),
        (([], "bending"), "at least one"),
    ):
        with pytest.raises(wb.InputError, match=words):
            wb.curves(*args)


def test_a_members_curve_and_what_it_asks(job_file, tmp_path):
    job = wb.load_job(job_file)
    found = wb.curves_of_member(job, "FB2", "bending", [wb.section("W21X50")])
    (point,) = found.wanted
    result = wb.check(job)["FB2"]
    assert point[0] == pytest.approx(24 * FT)
    assert point[1] == pytest.approx(float(np.abs(result.forces.M_major).max()))
    figure = draw_curves(found, job.display)
    words = [text.get_text() for text in figure.axes[0].texts]
    assert any(text.startswith("required") for text in words)
    assert any(text.startswith("Lp") for text in words)
    assert run("curve", job_file, "FB2", "--to", tmp_path / "c.svg").exit_code == 0
    assert (tmp_path / "c.svg").stat().st_size > 5000
    rows = json.loads(run("curve", job_file, "C1", "--of", "compression", "--json").output)
    assert rows[0]["length (ft)"] == 0
    assert "required" in run("curve", job_file, "PG1", "--of", "shear").output
    assert len(run("curve", job_file, "FB2", "--csv").output.splitlines()) == 242


@pytest.mark.parametrize(("mark", "of", "id"), [
    ("FB2", "bending", "bending-lateral"), ("RB1", "bending", "bending-lateral"),
    ("C1", "compression", ""), ("C2", "compression", ""),
])  # fmt: skip
@pytest.mark.parametrize("name", ["AISC 360-22", "EN 1993-1-1"])
def test_what_is_required_over_the_curve_is_the_check(name, mark, of, id):
    """At the length that governs, with the member's own moments, it is what is checked."""
    job = wb.parse_job(demo_text(DEMOS[name]))
    if mark not in {one.mark for one in job.members}:
        return
    found = wb.curves_of_member(job, mark, of)
    buckles = [row.utilisation for row in wb.check(job)[mark].rows
               if row.id == id or (not id and row.id.startswith("buckling"))]  # fmt: skip
    if not found.wanted:
        return
    length, demand, _ = found.wanted[0]
    strength = np.interp(length, found.curves[0].lengths, found.curves[0].strengths)
    assert demand / strength == pytest.approx(max(buckles), rel=2e-3)


# Variants


def beam(**fields):
    given = {"mark": "B", "section": "W18X50", "span": "20 ft",
             "load": [{"case": "live", "line": "1 kip/ft"}]} | fields  # fmt: skip
    return wb.Job(members=[wb.Member(**given)])


CHANGES = {
    "section": {"section": "W18X55"},
    "steel": {"steel": "A572 Gr 60"},
    "restraint": {"restraint": {"top": {"every": "5 ft"}}},
    "ends": {"ends": ["fixed", "pinned"]},
    "span": {"span": "24 ft"},
    "spans": {"spans": ["10 ft", "10 ft"]},
    "plate": {"section": "W18X50 with a 6 in x 1/2 in plate on both flanges"},
    "two at once": {"section": "W21X50", "design": {"Cb": 1.5}},
}


@pytest.mark.parametrize("name", CHANGES)
def test_a_variant_is_the_member_written_so(name):
    change = CHANGES[name]
    found = wb.compare(beam(), "B", {name: change}).variants
    fields = change | ({"span": None} if "spans" in change else {})
    for variant, job in zip(found, (beam(), beam(**fields)), strict=True):
        plain = wb.check(job)["B"]
        assert {r.name: r.utilisation for r in variant.result.rows} == {
            r.name: r.utilisation for r in plain.rows
        }
    assert found[1].mass == pytest.approx(
        sum((b - a) * s.mass for a, b, s in wb.resolve(beam(**fields).members[0]).stretches)
    )


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ('sction = "W18X55"', "unknown key 'sction'; did you mean section"),
        ('section = "W18X56"', "no section 'W18X56'"),
        ("section = W18X55", "is not a change such as"),
        ('mark = "C"', "unknown key 'mark'"),
        ('span = "0 ft"', "greater than zero"),
        ("design.Cb = 0", "member B, design, Cb: 0"),
        ("Cb = 1.5", "Cb: stands in the design table"),
        ("", "nothing is changed"),
    ],
)
def test_wrong_changes_are_named(text, words):
    with pytest.raises(wb.InputError, match=words):
        wb.compare(beam(), "B", [text])


def test_variants_from_the_command_line(job_file):
    change = 'section = "W18X55"; steel = "A572 Gr 60"'
    result = run("compare", job_file, "FB2", "--change", change)
    assert result.exit_code == 0
    assert "OVER" in result.output
    assert "1,080 lb" in result.output  # 45 lb/ft over 24 ft, and 10 lb/ft more
    assert "(+240)" in result.output
    records = json.loads(run("compare", job_file, "FB2", "--change", change, "--json").output)
    assert [r["variant"] for r in records] == ["as it is", change]
    assert records[1]["utilisation"] < records[0]["utilisation"]
    assert not any(math.isnan(r["mass_kg"]) for r in records)


def test_the_lengths_from_which_other_equations_hold():
    section = wb.section("W18X50")
    (bending,) = wb.curves([section], "bending").curves
    assert [name for _, name in bending.changes] == ["Lp", "Lr"]
    assert bending.changes[0][0] == pytest.approx(
        1.76 * section.r_minor * (29000 / 50) ** 0.5, rel=1e-4
    )
    (compression,) = wb.curves([section], "compression").curves
    (at,) = (length for length, name in compression.changes if name == "E3-3")
    assert at / section.r_minor == pytest.approx(4.71 * (29000 / 50) ** 0.5, rel=1e-3)


def test_a_strength_that_is_nowhere_covered_is_said(tmp_path):
    two = wb.section("2 UPN160 back to back, 180 mm apart")
    found = wb.curves([two], steel="S275", standard="EN 1993-1-1", upto=8000)
    assert np.all(np.isnan(found.curves[0].strengths))
    assert "6.4 is for compression" in found.curves[0].reason
    with pytest.raises(wb.InputError, match="outside: bending of two chords about the y axis"):
        save_curves(found, METRIC, tmp_path / "c.png")
    assert not (tmp_path / "c.png").exists()
