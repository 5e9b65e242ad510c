from __future__ import annotations

import csv
import io
import itertools
import re

import numpy as np
import pytest
from click.testing import CliRunner

import welbric as wb
from welbric.cli import main
from welbric.files.jobs import demo_text
from welbric.loads.combinations import Choices, parse_recipe, service, strength

ASCE = "ASCE 7-22"


def names(method, cases, **more):
    return [c.name for c in strength(ASCE, method, cases, **more)]


def test_lrfd_recipes():
    assert names("LRFD", ["D", "L"]) == ["1.4D", "1.2D + 1.6L"]
    found = names("LRFD", ["D", "L", "S", "W"])
    for wanted in ("1.2D + 1.6L + 0.3S", "1.2D + S + L", "1.2D + S + 0.5W", "1.2D + W + L + 0.3S",
                   "1.2D + W", "0.9D + W"):  # fmt: skip
        assert wanted in found
    assert len(found) == len(set(found))


def test_asd_recipes():
    assert names("ASD", ["D", "L", "S"]) == [
        "D", "D + L", "D + 0.7S", "D + 0.75L", "D + 0.75L + 0.525S",
    ]  # fmt: skip
    assert "0.6D + 0.6W" in names("ASD", ["D", "W"])


def test_reversible_and_vertical_earthquake():
    assert "1.2D − W" in names("LRFD", ["D", "W"], reversible=["W"])
    assert "1.2D − W" not in names("LRFD", ["D", "W"])
    found = {c.name: c for c in strength(ASCE, "LRFD", ["D", "E"], ["E"], sds=0.5)}
    assert found["1.3D + E"].factors["D"] == pytest.approx(1.2 + 0.2 * 0.5)
    assert found["0.8D − E"].reversed == {"E"}


def test_companion_live_load():
    found = names("LRFD", ["D", "L", "W"], companion_live=0.5)
    assert "1.2D + W + 0.5L" in found
    assert "1.2D + 1.6L" in found


def test_service():
    assert [c.name for c in service(ASCE, "total", ["D", "L", "S"])] == [
        "D", "D + L", "D + 0.7S", "D + 0.75L", "D + 0.75L + 0.525S",
    ]  # fmt: skip
    assert [c.name for c in service(ASCE, "live", ["D", "Lr"])] == ["Lr"]


def test_own_recipes():
    assert parse_recipe("1.35D + 1.5L").factors == {"D": 1.35, "L": 1.5}
    assert parse_recipe("D - 0.6W").factors == {"D": 1.0, "W": -0.6}
    for wrong in ("", "1.2", "1.2D + ", "1.2X", "D ++ L", "1.2D; L"):
        with pytest.raises(wb.InputError):
            parse_recipe(wrong)


# Standard, choices, cases: combinations that must be there, as the standard's tables have them.
OTHERS = {
    "EN 1990, 6.10, offices": (
        "EN 1990", Choices(), ["D", "L", "S", "W"],
        ["1.35D", "1.35D + 1.5L + 0.75S + 0.9W", "1.35D + 1.5S + 1.05L + 0.9W",
         "1.35D + 1.5W + 1.05L + 0.75S", "D + 1.5W", "1.35D + 1.5L"],
    ),
    "EN 1990, 6.10a/b, storage, high": (
        "EN 1990", Choices("6.10a/b", "E", "above 1000 m"), ["D", "L", "S"],
        ["1.35D + 1.5L + 1.05S", "1.147D + 1.5L + 1.05S", "1.147D + 1.5S + 1.5L"],
    ),
    "EN 1990, roofs": (
        "EN 1990", Choices(), ["D", "Lr", "W"], ["1.35D + 1.5Lr", "1.35D + 1.5W", "D + 1.5W"],
    ),
    "EN 1990, earthquake": ("EN 1990", Choices(), ["D", "L", "E"], ["D + E + 0.3L", "D + E"]),
    "NBCC 2020": (
        "NBCC 2020", Choices(), ["D", "L", "S", "W", "E"],
        ["1.4D", "1.25D + 1.5L + S", "1.25D + 1.5L + 0.4W", "0.9D + 1.5S + 0.4W",
         "1.25D + 1.5S + L", "1.25D + 1.4W + 0.5L", "1.25D + 1.4W + 0.5S", "0.9D + 1.4W",
         "D + E + 0.5L + 0.25S"],
    ),
    "AS/NZS 1170.0": (
        "AS/NZS 1170.0", Choices(), ["D", "L", "W", "E", "S"],
        ["1.35D", "1.2D + 1.5L", "1.2D + W + 0.4L", "0.9D + W", "D + E + 0.3L", "1.2D + S + 0.4L"],
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", OTHERS)
def test_other_loading_standards(name):
    standard, choices, cases, wanted = OTHERS[name]
    found = [c.name for c in strength(standard, "LRFD", cases, choices=choices)]
    assert set(wanted) <= set(found)
    assert len(found) == len(set(found))
    assert not any("Lr" in one and "W" in one for one in found if standard == "EN 1990")
    with pytest.raises(wb.InputError, match="has no combinations for ASD"):
        strength(standard, "ASD", cases)


VARIABLE = ["L", "Lr", "S", "W", "T"]
PSI = {"L": (0.7, 0.5, 0.3), "Lr": (0.0, 0.0, 0.0), "S": (0.5, 0.2, 0.0), "W": (0.6, 0.2, 0.0),
       "T": (0.6, 0.5, 0.0)}  # Table A1.1, category B, up to 1000 m  # fmt: skip
UK_PSI = PSI | {"Lr": (0.7, 0.0, 0.0), "W": (0.5, 0.2, 0.0)}


def enumerated(kind, present, psi, xi):
    """Return the sets of factors of EN 1990, 6.4.3.2 and 6.5.3, written down one by one."""
    variable = [one for one in VARIABLE if one in present]

    def together(some):
        return not ("Lr" in some and {"S", "W"} & set(some))  # EN 1991-1-1, 3.3.2(1)

    found = set()

    def add(*terms):
        found.add(frozenset((case, round(f, 3)) for case, f in terms if f))

    several = [set(c) for n in range(len(variable) + 1)
               for c in itertools.combinations(variable, n) if together(c)]  # fmt: skip
    with_lead = [(lead, some - {lead}) for some in several for lead in some]
    for lead, others in with_lead:
        if kind == "6.10" or kind == "6.10a/b":
            for G in (1.35 * (xi if kind == "6.10a/b" else 1.0), 1.0):
                add(("D", G), (lead, 1.5), *((o, 1.5 * psi[o][0]) for o in others))
        elif kind == "total":
            add(("D", 1.0), (lead, 1.0), *((o, psi[o][0]) for o in others))
        elif kind == "frequent":
            add(("D", 1.0), (lead, psi[lead][1]), *((o, psi[o][2]) for o in others))
    if kind == "6.10a/b":
        for some in several:
            add(("D", 1.35), *((o, 1.5 * psi[o][0]) for o in some))
    elif kind == "quasi_permanent":
        for some in several:
            add(("D", 1.0), *((o, psi[o][2]) for o in some))
    add(("D", 1.35 if "6.10" in kind else 1.0))
    return found


@pytest.mark.parametrize("national", ["recommended", "UK"])
@pytest.mark.parametrize("kind", ["6.10", "6.10a/b", "total", "frequent", "quasi_permanent"])
def test_every_leading_action_with_every_accompanying_one(kind, national):
    """All sets of cases against a plain enumeration."""
    psi, xi = (PSI, 0.85) if national == "recommended" else (UK_PSI, 0.925)
    for n in range(len(VARIABLE) + 1):
        for some in itertools.combinations(VARIABLE, n):
            present = ["D", *some]
            choices = Choices(expression=kind if "6.10" in kind else "6.10", national=national)
            if "6.10" in kind:
                found = strength("EN 1990", "LRFD", present, choices=choices)
            else:
                found = service("EN 1990", kind, present, choices)
            factors = {frozenset((c, round(f, 3)) for c, f in one.factors.items()) for one in found}
            assert factors == enumerated(kind, present, psi, xi), some


@pytest.mark.parametrize(
    ("kind", "wanted"),
    [
        ("total", ["D + L + 0.5S + 0.6W", "D + S + 0.7L + 0.6W"]),
        ("frequent", ["D + 0.5L", "D + 0.2S + 0.3L", "D + 0.2W + 0.3L"]),
        ("quasi_permanent", ["D + 0.3L"]),
    ],
)
def test_serviceability_of_en_1990(kind, wanted):
    found = [c.name for c in service("EN 1990", kind, ["D", "L", "S", "W"])]
    assert set(wanted) <= set(found)
    with pytest.raises(wb.InputError, match="has no frequent combinations"):
        service(ASCE, "frequent", ["D"])


def loaded(loading, design=None, **more):
    options = {k: more.pop(k) for k in list(more) if k != "deflection"}
    member = wb.Member(
        mark="B", section="IPE300", steel="S355", span="6 m", deflection=more.pop("deflection", {}),
        loads=[{"case": "dead", "line": "3 kN/m"}, {"case": "live", "line": "5 kN/m"}],
    )  # fmt: skip
    choices = {"standard": loading, **options}
    return wb.Job(members=[member], loading=choices, design=design or {})


def test_a_job_by_en_1990():
    job = loaded("EN 1990", live_category="C", deflection={"quasi_permanent": 250, "total": 300})
    rows = {row.name: row for row in wb.check(job)["B"].rows}
    assert rows["yielding, major axis"].combination == "1.35D + 1.5L"
    assert rows["deflection, quasi-permanent"].combination == "D + 0.6L"


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"loading": "EN 1990"}, "live_category: EN 1990 needs the category"),
        ({"loading": "ASCE 7-22", "live_category": "A"}, "unknown key 'live_category'"),
        ({"loading": "NBCC 2020", "design": {"method": "ASD"}}, "NBCC 2020 has no combinations"),
        ({"loading": "NBCC 2020", "sds": 0.4}, "unknown key 'sds'"),
        ({"loading": "NBCC 2020", "deflection": {"frequent": 300}}, "frequent: goes with EN 1990"),
    ],
)
def test_what_does_not_go_with_a_loading_standard(fields, words):
    with pytest.raises(wb.InputError, match=words):
        loaded(**fields)


def test_every_sign_of_every_reversible_case():
    """Two of them go four ways, in strength, service and a designer's own."""
    found = [c for c in strength("EN 1990", "LRFD", ["D", "W", "T"], ["W", "T"])
             if set(c.factors) == {"D", "W", "T"} and c.factors["D"] > 1]  # fmt: skip
    for lead in ({"W": 1.5, "T": 0.9}, {"T": 1.5, "W": 0.9}):
        mine = [c for c in found if all(c.factors[k] == v for k, v in lead.items())]
        assert {c.reversed for c in mine} == {
            frozenset(), frozenset("W"), frozenset("T"), frozenset("WT"),
        }  # fmt: skip
    names_found = [c.name for c in found]
    assert {"1.35D + 1.5W − 0.9T", "1.35D − 1.5W + 0.9T", "1.35D − 1.5W − 0.9T"} <= set(names_found)
    service_names = [c.name for c in service("EN 1990", "wind", ["D", "W"], reversible=["W"])]
    assert service_names == ["W", "−W"]
    loads = [
        {"case": "dead", "line": "1 kN/m"},
        {"case": "wind", "line": "2 kN/m", "reversible": True},
        {"case": "temperature", "temperature_difference": "20 K", "reversible": True},
    ]
    member = wb.Member(
        mark="B", section="IPE300", steel="S355", span="6 m", ends=["fixed", "fixed"], loads=loads,
        deflection={"total": 250},
    )  # fmt: skip
    table = wb.check(wb.Job(members=[member], loading="EN 1990", combinations=["D + W + T"]))
    own = {c.name: c.reversed for c in table["B"].forces.combinations if c.name.startswith("D + W")}
    assert own == {
        "D + W + T": frozenset(), "D + W + T, T reversed": frozenset("T"),
        "D + W + T, W reversed": frozenset("W"), "D + W + T, T and W reversed": frozenset("TW"),
    }  # fmt: skip
    assert "temperature and wind are reversible: 4 senses are combined" in table["B"].notes


def test_wind_that_is_reversible_deflects_the_worse_way():
    """Upwards wind is written; downwards it adds to the dead load."""

    def ratio(both):
        loads = [{"case": "dead", "line": "4 kN/m"},
                 {"case": "wind", "line": "-6 kN/m", "reversible": both}]  # fmt: skip
        member = wb.Member(mark="B", section="IPE300", steel="S355", span="6 m", loads=loads,
                           self_weight=False, deflection={"total": 300})  # fmt: skip
        rows = wb.check(wb.Job(members=[member], loading="EN 1990"))["B"].rows
        return next(r for r in rows if r.name == "deflection, total")

    assert ratio(True).utilisation == pytest.approx(10 / 4 * ratio(False).utilisation)
    assert ratio(True).combination == "D − W"


MORE = [
    ("NBCC 2020", "live", ["D", "L", "Lr"], ["L + Lr", "Lr"]),
    ("NBCC 2020", "total", ["D", "L", "Lr"], ["D + L + Lr", "D + Lr"]),
    ("AS/NZS 1170.0", "live", ["L", "Lr"], ["0.7L + 0.7Lr"]),
    ("AS/NZS 1170.0", "total", ["D", "L", "Lr"], ["D + 0.7L + 0.7Lr"]),
    ("EN 1990", "frequent", ["D", "L", "T"], ["D + 0.5T", "D + 0.5T + 0.3L"]),
]


@pytest.mark.parametrize(("standard", "kind", "cases", "wanted"), MORE)
def test_what_service_combinations_have_together(standard, kind, cases, wanted):
    assert set(wanted) <= {c.name for c in service(standard, kind, cases)}


def test_what_relieves_goes_with_every_companion():
    """A dead load that resists takes its lower factor beside the same variable loads."""
    found = {c.name for c in strength("NBCC 2020", "LRFD", ["D", "L", "Lr", "S"])}
    assert {"0.9D + 1.5Lr", "0.9D + 1.5L + 1.5Lr", "0.9D + 1.5S + L"} <= found
    found = {c.name for c in strength("EN 1990", "LRFD", ["D", "L", "S", "W"])}
    assert {"D + 1.5L + 0.75S + 0.9W", "D + 1.5S + 1.05L", "D + 1.5W + 1.05L + 0.75S"} <= found


SNOW = [{"case": "dead", "line": "2 kN/m"}, {"case": "snow", "line": "6 kN/m"}]


def snowed(loading, spans=("5 m", "7 m", "6 m"), loads=SNOW, **more):
    member = wb.Member(
        mark="P", section="IPE300", steel="S355", spans=list(spans), pattern=True, loads=loads,
        self_weight=False, restraint={"top": "continuous", "bottom": "continuous"}, **more,
    )  # fmt: skip
    return wb.check(wb.Job(members=[member], loading=loading))["P"]


@pytest.mark.parametrize(
    ("loading", "full"),
    [
        ("ASCE 7-22", [{1}, {3}, {2, 3}, {1, 2}]),
        ("NBCC 2020", [{1, 3}, {2}, {1, 2}, {3}, {2, 3}, {1}]),
        ("EN 1990", []), ("AS/NZS 1170.0", []),
    ],
)  # fmt: skip
def test_partial_snow(loading, full):
    """ASCE 7-22 7.5.1 and NBCC 4.1.6.3 against the same loads laid on by hand."""
    found = snowed(loading)
    parts = [c for c in found.forces.combinations if "S" in c.patterns]
    assert {c.patterns["S"].spans for c in parts} == {frozenset(s) for s in full}
    warned = any("snow acts on all spans at once" in text for text in found.warnings)
    assert warned == (not full)
    starts, ends = [0, 5, 12], [5, 12, 18]
    for c in parts[:4]:
        loads = [SNOW[0]] + [
            {"case": "snow", "line": f"{6 if i + 1 in c.patterns['S'].spans else 3} kN/m",
             "start": f"{a} m", "end": f"{b} m"}
            for i, (a, b) in enumerate(zip(starts, ends, strict=True))
        ]  # fmt: skip
        by_hand = snowed(loading, loads=loads).forces
        plain = next(i for i, k in enumerate(by_hand.combinations)
                     if k.factors == c.factors and not k.patterns)  # fmt: skip
        mine = found.forces.M_major[found.forces.combinations.index(c)]
        assert mine.max() == pytest.approx(by_hand.M_major[plain].max(), rel=1e-6)
        assert mine.min() == pytest.approx(by_hand.M_major[plain].min(), rel=1e-6)


def test_a_pattern_counts_in_the_height_of_loads():
    """Loads on the top of spans that a pattern leaves out destabilise nothing."""
    loads = [{"case": "live", "line": "8 kN/m", "on": "top"}]
    member = wb.Member(mark="P", section="IPE300", steel="S355", spans=["6 m", "6 m"], pattern=True,
                       loads=loads, self_weight=False)  # fmt: skip
    one = {"case": "live", "line": "8 kN/m", "on": "top", "end": "6 m"}
    alone = member.model_copy(update={"pattern": False, "loads": [wb.MemberLoad(**one)]})
    job = wb.Job(members=[member], combinations=["1L"])
    of_one = wb.lateral_buckling(
        wb.Job(members=[alone], combinations=["1L"]), alone.mark, "1L"
    ).factor
    assert wb.lateral_buckling(job, member.mark, "1L (live on span 1)").factor == pytest.approx(
        of_one, rel=1e-6
    )


def test_the_combinations_as_a_table(tmp_path):
    """Every factor of each, what it is for, and how many members it acts on."""
    job = tmp_path / "saltmarsh.toml"
    job.write_text(demo_text(), "utf-8")

    def run(*words):
        result = CliRunner().invoke(main, ["combinations", str(job), *words])
        assert result.exit_code == 0, result.output
        return result.output

    text = run()
    assert re.search(r"1\.2D − W \+ 0\.3S +1\.2 +– +– +0\.3 +−1 +2\.3\.1\(4\)", text)
    assert "of deflection, live" in text
    assert all(len(line) <= 100 for line in text.splitlines())
    rows = list(csv.DictReader(io.StringIO(run("VB1", "--csv"))))
    (one,) = (row for row in rows if row["combination"] == "1.2D + W + L")
    assert (float(one["D"]), float(one["L"]), float(one["W"])) == (1.2, 1.0, 1.0)
    assert (one["for"], one["members"], one["clause"]) == ("strength", "VB1", "2.3.1(4)")
    assert {row["for"] for row in rows} == {"strength", "deflection, live", "deflection, wind"}


@pytest.mark.parametrize("name", ["saltmarsh.toml", "saltmarsh_frame.toml"])
def test_stations_hold_every_extreme_of_each_combination(name):
    """No place of 1501 along a member has more, or less, than the stations of its segment."""
    for one in wb.check(wb.parse_job(demo_text(name))):
        forces = one.forces
        if forces.diagrams is None or not forces.combinations:
            continue
        x = np.linspace(0.0, one.member.length, 1501)
        for kind, diagram in forces.diagrams.items():
            along, values = diagram.at(x, np.zeros(len(x), dtype=bool)), getattr(forces, kind)
            slack = 1e-9 * np.abs(values).max()
            for segment in one.segments:
                there = along[:, (x > segment.start) & (x < segment.end)]
                most, least = (
                    sign * forces.largest_in(sign * values, [segment]) for sign in (1, -1)
                )
                assert (there.max(axis=1, initial=-np.inf) <= most[:, 0] + slack).all()
                assert (there.min(axis=1, initial=np.inf) >= least[:, 0] - slack).all()
