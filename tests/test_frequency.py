"""Natural frequencies of beams against closed forms."""

from __future__ import annotations

import math

import pytest
from click.testing import CliRunner
from hypothesis import given
from hypothesis import strategies as st

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import DEMOS, demo_text

L, E, G = 8000.0, 210_000.0, 9.80665
IPE = wb.section("IPE400")


def swings(span=f"{L} mm", standard="EN 1993-1-1", weight=False, **more):
    loads = more.pop("load", [{"case": "dead", "line": "12 kN/m"}])
    beam = {"mark": "B", "section": "IPE400", "steel": "S355", "self_weight": weight,
            "load": loads} | more  # fmt: skip
    beam |= {"span": span} if isinstance(span, str) else {"spans": span}
    job = wb.Job(standard=standard, loading={"live_category": "B"} if "EN" in standard else {},
                 member=[beam])  # fmt: skip
    return wb.natural_frequency(job, "B")


def of_line(root, w=12.0, length=L, inertia=IPE.I_major):
    """Return root^2 / (2 pi) sqrt(EI / (m L^4)) of a weight in N/mm."""
    mass = w / (1000 * G)
    return root**2 / (2 * math.pi) * math.sqrt(E * inertia / (mass * length**4))


@pytest.mark.parametrize(
    ("more", "root"),
    [
        ({}, math.pi),
        ({"ends": ["fixed", "fixed"]}, 4.730041),
        ({"ends": ["fixed", "pinned"]}, 3.926602),
        ({"role": "cantilever"}, 1.875104),
    ],
)
def test_even_masses(more, root):
    assert swings(**more).hertz == pytest.approx(of_line(root), rel=1e-3)


def test_two_like_spans_swing_as_one_does():
    """In the first mode the moment over the support is zero."""
    assert swings(["8 m", "8 m"]).hertz == pytest.approx(of_line(math.pi), rel=1e-3)


def test_a_mass_at_midspan_and_one_at_a_tip():
    point = [{"case": "dead", "point": "50 kN", "at": "4 m"}]
    k = 48 * E * IPE.I_major / L**3
    assert swings(load=point).hertz == pytest.approx(
        math.sqrt(k * 1000 * G / 50e3) / (2 * math.pi), rel=1e-6
    )
    tip = [{"case": "dead", "point": "50 kN", "at": "8 m"}]
    assert swings(load=tip, role="cantilever").hertz == pytest.approx(
        math.sqrt(3 * E * IPE.I_major / L**3 * 1000 * G / 50e3) / (2 * math.pi), rel=1e-6
    )


def test_the_mass_of_what_acts_for_long():
    """EN 1990: dead loads and 0.3 of an office's live load; ASCE 7: dead loads."""
    loads = [{"case": "dead", "line": "9 kN/m"}, {"case": "live", "line": "10 kN/m"},
             {"case": "wind", "line": "7 kN/m"}]  # fmt: skip
    found = swings(load=loads)
    assert found.mass_of == "D + 0.3L"
    assert found.hertz == pytest.approx(of_line(math.pi, 12.0), rel=1e-3)
    other = swings(load=loads, standard="AISC 360-22")
    assert other.mass_of == "D"
    assert other.hertz == pytest.approx(
        of_line(math.pi, 9.0) * math.sqrt(29_000 * 6.894757293 / E), rel=1e-3
    )
    own = swings(load=loads[:1], weight=True)
    w = 9.0 + IPE.mass * G
    assert own.hertz == pytest.approx(of_line(math.pi, w), rel=1e-3)


@given(st.floats(1.0, 40.0), st.floats(0.05, 0.95))
def test_a_load_that_is_split_swings_the_same(w, share):
    at = f"{share * L} mm"
    parts = [{"case": "dead", "line": f"{w} kN/m", "end": at},
             {"case": "dead", "line": f"{w} kN/m", "start": at}]  # fmt: skip
    whole = swings(load=[{"case": "dead", "line": f"{w} kN/m"}])
    assert swings(load=parts).hertz == pytest.approx(whole.hertz, rel=1e-9)


@pytest.mark.parametrize(
    "more",
    [
        {"load": [{"case": "wind", "line": "5 kN/m"}]},
        {"role": "column"},
        {"inclination": "10 deg"},
    ],
)
def test_what_does_not_swing(more):
    assert swings(**more) is None


def test_it_stands_with_the_details(tmp_path):
    path = tmp_path / "job.toml"
    path.write_text(demo_text(DEMOS["EN 1993-1-1"]), encoding="utf-8")
    shown = CliRunner().invoke(main, ["check", str(path), "--details"]).output
    found = wb.natural_frequency(wb.load_job(path), "FB1")
    assert f"first natural frequency {found.hertz:.3g} Hz on supports" in " ".join(shown.split())
