"""Two standards beside each other: a plausibility check that a misreading of either would fail."""

from __future__ import annotations

import json
import math
import random

import numpy as np
import pytest
from click.testing import CliRunner

import welbric as wb
from eurocode import S235
from welbric.cli import main
from welbric.files.jobs import DEMOS

CHANNELS = ("UPE200", "UPN160")
OTHERS = ("UB457X191X67", "IPE300", "HEA200", "SHS120X120X6 EN10210", "RHS200X100X8 EN10219",
          "CHS168.3X8", "WT6X25", "L100X100X12")  # fmt: skip
BUILT = {"shape": "unequal I", "d": "500 mm", "bf_top": "250 mm", "tf_top": "20 mm",
         "bf_bottom": "150 mm", "tf_bottom": "16 mm", "tw": "12 mm"}  # fmt: skip
SECTIONS = (*CHANNELS, *OTHERS, BUILT)
# What the mean of the ratios of both is, by what acts; phi is 0.9 where the partial factor is 1.
BANDS = {"pull": (0.9, 0.9), "press": (0.9, 1.02), "across": (0.82, 0.95), "bend": (0.9, 1.2),
         "both": (0.9, 1.2)}  # fmt: skip


def members(count):
    pick = random.Random(7)  # noqa: S311
    for i in range(count):
        section, kind = pick.choice(SECTIONS), pick.choice(list(BANDS))
        if section == "L100X100X12":
            kind = pick.choice(["pull", "press"])
        of = wb.Member(mark="M", section=section, span="1 m", forces=[{"name": "x"}
                       | {"tension": "1 kN"}]).section  # fmt: skip
        squash, end = of.A * 235 / 1e3, pick.choice([1.0, 0.0, -1.0])
        forces = {"name": "x"}
        if kind in ("press", "both"):
            forces["compression"] = f"{pick.uniform(0.1, 0.3) * squash} kN"
        if kind == "pull":
            forces["tension"] = f"{pick.uniform(0.2, 0.6) * squash} kN"
        for axis, when in (("major", ("bend", "both")), ("minor", ("across",))):
            if kind in when:
                M = pick.uniform(0.1, 0.4) * getattr(of, f"Wel_{axis}") * 235 / 1e6
                forces |= {f"moment_{axis}": [f"{M} kN m", f"{M * end} kN m"],
                           f"shear_{axis}": "1 kN"}  # fmt: skip
        span = pick.choice(["1.5 m", "3 m"])
        yield kind, wb.Member(mark=f"M{i}", section=section, span=span, steel=S235, forces=[forces])


def test_300_members_by_both_stay_in_a_band():
    """Beyond it are channels, for which Table 6.4 has curve d, and tees by 6.3.4."""
    kinds, made = zip(*members(300), strict=True)
    results = [
        wb.check(wb.Job(standard="AISC 360-22", members=list(made))),
        wb.check(wb.Job(standard="EN 1993-1-1", members=list(made),
                        loading={"standard": "EN 1990", "live_category": "B"})),
    ]  # fmt: skip
    ratios = {kind: [] for kind in BANDS}
    for kind, one in zip(kinds, made, strict=True):
        aisc, en = (
            max(row.utilisation for row in found[one.mark].rows if row.status != "outside")
            for found in results
        )
        ratios[kind].append(en / aisc)
        most = 1.8 if one.section.name in (*CHANNELS, "WT6X25") else 1.45
        assert 0.65 < en / aisc < most, one
    for kind, (low, high) in BANDS.items():
        assert low - 1e-9 <= np.mean(ratios[kind]) <= high + 1e-9, kind


@pytest.fixture(scope="module")
def demo(tmp_path_factory):
    folder = tmp_path_factory.mktemp("demo")
    CliRunner().invoke(main, ["demo", str(folder), "--standard", "EN 1993-1-1"])
    return str(folder / DEMOS["EN 1993-1-1"])


def test_a_member_under_another_standard(demo):
    job = wb.load_job(demo)
    found = wb.compare(
        job,
        "FB2",
        under=['standard = "AISC 360-22"', 'design.annex = "UK"'],
    )
    own, aisc, uk = found.variants
    assert [own.name, aisc.name] == ["as it is, EN 1993-1-1", "AISC 360-22"]
    assert uk.name == 'EN 1993-1-1; annex = "UK"'
    alone = wb.check(job)["FB2"]
    assert own.result.utilisation == alone.utilisation == uk.result.utilisation
    # The same member written under the other standard from the start.
    other = wb.Job(standard="AISC 360-22", members=[job.member("FB2")])
    assert aisc.result.utilisation == wb.check(other)["FB2"].utilisation
    # A check that both have is one row.
    assert list(found.checks()).count("bending-lateral") == 1
    assert all(found.utilisation("bending-lateral", one) for one in found.variants)


def test_the_command_says_what_it_cannot_take(demo):
    run = CliRunner().invoke
    both = run(main, ["compare", demo, "C1", "--under", 'standard = "AISC 360-22"', "--json"])
    first, second = json.loads(both.output)
    assert math.isclose(first["mass_kg"], second["mass_kg"])
    for words, told in (
        ('standrad = "AISC 360-22"', "unknown key 'standrad'"),
        ('standard = "AISC 360-22"; design.metod = "ASD"', "did you mean method?"),
        ("standard", "is not a change"),
    ):
        found = run(main, ["compare", demo, "C1", "--under", words])
        assert found.exit_code == 2
        assert told in found.output
    assert "say at least one change" in run(main, ["compare", demo, "C1"]).output
