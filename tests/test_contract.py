"""What every design standard keeps, and one added as the contributing page says."""

from __future__ import annotations

import dataclasses
import re
from pathlib import Path

import numpy as np
import pytest

import welbric as wb
import welbric.standards
from welbric.documents.plain import as_plain
from welbric.loads.standards import LOADING
from welbric.sections.catalogues import shapes
from welbric.standards import STANDARDS, standard
from welbric.standards.aisc360 import AISC_360_22
from welbric.standards.case import Check
from welbric.standards.options import Options
from welbric.units import DISPLAY
from welbric.working import Glossary, Symbol, given

SOURCE = Path(welbric.standards.__file__).parent.parent


@pytest.mark.parametrize("name", STANDARDS)
def test_a_standard_is_whole(name):
    code = standard(name)
    assert code.id == name
    assert code.loading in LOADING
    assert code.units in DISPLAY
    assert code.method(code.job_options()) == code.methods[0]
    assert set(code.second_order.level) == set(code.methods)
    assert set(code.slenderness) == {"compression", "tension"}
    assert code.effective_length_factor("pinned", "pinned", code.job_options()) == 1.0
    for shape in code.shapes:
        found = code.checks(shape)
        assert found
        assert len({code.check_ids[name] for name in found}) == len(found)
        assert all(len(part) > 1 for part in code.shear_check(shape, "major"))
    # What it does not cover it says.
    for shape in set(shapes()) - set(code.shapes):
        loading = {"standard": "EN 1990", "live_category": "B"}
        beam = wb.Member(
            mark="B",
            section=wb.catalogue(shape)[0],
            steel={"Fy": "300 MPa", "Fu": "400 MPa"},
            span="2 m",
            load=[{"case": "live", "line": "1 kN/m"}],
        )
        (row,) = (
            row
            for row in wb.check(wb.Job(standard=name, loading=loading, members=[beam]))["B"].rows
            if row.id == "strength"
        )
        assert (row.status, row.reason) == ("outside", f"the strength of a {shape} is not covered")


@pytest.mark.parametrize("name", LOADING)
def test_a_loading_standard_is_whole(name):
    loading = wb.Job(
        loading={"standard": name} | ({"live_category": "A"} if name == "EN 1990" else {}),
        members=[wb.Member(mark="B", section="IPE300", steel="S355", span="6 m")],
    ).loading
    assert str(loading) == name
    for method in loading.standard.methods:
        assert loading.strength(method, ["D", "L"], [])
    for kind in loading.standard.service_kinds:
        assert loading.service(kind, ["D", "L", "W"])


# A standard of two clauses, as a contributor would add it: an object, and a line in the list.

TOY = Glossary("Toy", {
    "N": Symbol("force", "axial force"), "A": Symbol("area", "area"),
    "f": Symbol("stress", "yield"), "R": Symbol("force", "strength"),
    "U": Symbol("number", "utilisation"),
})  # fmt: skip


@TOY.formula("1.1", "R")
def squash(A, f):
    """Strength of the whole area."""
    return A * f / 1.5


@TOY.formula("1.2", "U")
def used(N, R):
    """Force over strength."""
    return N / R


class ToyOptions(Options):
    """Nothing but a name."""

    inspector: str = ""


def compression(case):
    largest = -case.effects.N.min(axis=-1)[..., None]  # (member, combination, segment)
    N = given(TOY, "N", case.own(largest), "largest of the member")
    R = squash(case.section.A, case.Fy)
    return Check("squashing", "1.1", N, R, used(N, R), "force", "compression")


TOY_STANDARD = dataclasses.replace(
    AISC_360_22,
    id="Toy", edition=1, job_options=ToyOptions, methods=("limit",), method=lambda options: "LRFD",
    of_case=lambda options: {"method": "LRFD"}, shapes=("rolled I",),
    checks=lambda shape: {"squashing": compression}, check_ids={"squashing": "squashing"},
    loading="EN 1990", units="metric",
    effective_length_factor=lambda start, end, options, theoretical=False: 1.0,
    remarks_on_choices=lambda case, options: [],
    length_factors=lambda options: "one", slenderness=AISC_360_22.slenderness,
    second_order=dataclasses.replace(
        AISC_360_22.second_order, load_level=lambda options: 1.0, softens=lambda options: False,
        by_first_order=None,
        sway_limits=lambda options: None, pushed_besides=lambda options: None,
    ),
    not_checked="everything else",
    not_checked_alone="the frame",
)  # fmt: skip


def test_a_standard_of_two_clauses(monkeypatch):
    """No other room knows of it: a job by it is checked, explained and shown in its units."""
    monkeypatch.setitem(STANDARDS, "Toy", ("aisc360", "TOY"))
    monkeypatch.setattr("welbric.standards.aisc360.TOY", TOY_STANDARD, raising=False)
    loads = [{"case": "dead", "compression": "100 kN"}]
    column = wb.Member(mark="C", section="IPE300", steel="S235", height="3 m", role="column",
                       loads=loads, self_weight=False)  # fmt: skip
    job = wb.Job(standard="Toy", design={"inspector": "A. N. Other"}, members=[column])
    table = wb.check(job)
    strength = wb.section("IPE300").A * 235 / 1.5
    assert table["C"].governing.utilisation == pytest.approx(1.35 * 100e3 / strength)
    assert job.display.name == "metric"
    text = as_plain(table.explain("C").document())
    assert "R = A·f/1.5" in text
    assert np.isfinite(table["C"].utilisation)
    with pytest.raises(wb.InputError, match=r"design: unknown key 'method'.*\(Toy\)"):
        wb.Job(standard="Toy", design={"method": "LRFD"}, members=[column])


def test_a_member_of_another_standard(monkeypatch):
    """One member of a job goes by its own standard; the job says so, and what is chosen of it."""
    monkeypatch.setitem(STANDARDS, "Toy", ("aisc360", "TOY"))
    monkeypatch.setattr("welbric.standards.aisc360.TOY", TOY_STANDARD, raising=False)
    of = {"section": "W8X31", "height": "3 m", "role": "column", "self_weight": False,
          "loads": [{"case": "dead", "compression": "100 kN"}]}  # fmt: skip
    own, other = (wb.Member(mark=m, standard=s, **of) for m, s in (("C1", None), ("C2", "Toy")))
    job = wb.Job(members=[own, other], design={"method": "ASD"}, combinations=["1D"])
    table = wb.check(job)
    assert {row.id for row in table["C2"].rows} == {"squashing"}
    assert "buckling-minor" in {row.id for row in table["C1"].rows}
    assert job.method_of(own) == "ASD"
    assert isinstance(job.design_of(other), ToyOptions)
    text = str(table)
    assert "AISC 360-22, ASD; Toy; loads ASCE 7-22" in " ".join(text.split())
    assert "Not checked here by Toy: everything else, the frame." in text
    assert "C2: W8X31, A992, Toy" in table.explain("C2").text()
    tube = wb.Member(mark="C4", **(of | {"section": "HSS6X6X1/4", "steel": "A500"}))
    mixed = wb.Job(standard="Toy", companions=["AISC 360-22"], members=[own, tube])
    assert [mixed.code_of(one).id for one in mixed.members] == ["Toy", "AISC 360-22"]
    assert wb.check(mixed)["C4"].governing.id.startswith("buckling")
    alone = wb.check(wb.Job(standard="Toy", members=[tube]))["C4"]
    assert alone.governing.reason == "the strength of a rectangular tube is not covered"
    with pytest.raises(wb.InputError, match="standard: 'Teddy' is not covered; known: AISC"):
        wb.Member(mark="C3", standard="Teddy", **of)


ITS_WORDS = re.compile(
    r"\b(AISC|LRFD|ASD|Cb|Lbr?|Cm|B[12]|tau_b|Appendix \d|A-8-\d|[A-L]\d{1,2}[.-]\d|J10)\b"
)
NEUTRAL = (
    "analysis",
    "checking",
    "documents",
    "effects",
    "inputs",
    "members",
    "reports",
    "studies",
)


@pytest.mark.parametrize("room", NEUTRAL)
def test_neutral_rooms_have_no_words_of_one_standard(room):
    found = [
        (path.name, number, line.strip())
        for path in (SOURCE / room).rglob("*.py")
        for number, line in enumerate(path.read_text("utf-8").splitlines(), 1)
        if ITS_WORDS.search(line)
    ]
    assert found == []
