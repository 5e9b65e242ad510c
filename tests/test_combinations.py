from __future__ import annotations

import pytest

import welbric as wb
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


def test_either_way_and_vertical_earthquake():
    assert "1.2D − W" in names("LRFD", ["D", "W"], either_way=["W"])
    assert "1.2D − W" not in names("LRFD", ["D", "W"])
    found = {c.name: c for c in strength(ASCE, "LRFD", ["D", "E"], ["E"], sds=0.5)}
    assert found["1.3D + E"].factors["D"] == pytest.approx(1.2 + 0.2 * 0.5)
    assert found["0.8D − E"].sign == -1


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


def loaded(loading, **more):
    member = wb.Member(
        mark="B", section="IPE300", steel="S355", span="6 m", deflection=more.pop("deflection", {}),
        loads=[{"case": "dead", "line": "3 kN/m"}, {"case": "live", "line": "5 kN/m"}],
    )  # fmt: skip
    return wb.Job(members=[member], loading=loading, **more)


def test_a_job_by_en_1990():
    job = loaded("EN 1990", live_category="C", deflection={"quasi_permanent": 250, "total": 300})
    rows = {row.name: row for row in wb.check(job)["B"].rows}
    assert rows["yielding, major axis"].combination == "1.35D + 1.5L"
    assert rows["deflection, quasi-permanent"].combination == "D + 0.6L"


@pytest.mark.parametrize(
    ("fields", "words"),
    [
        ({"loading": "EN 1990"}, "live_category: EN 1990 needs the category"),
        ({"loading": "ASCE 7-22", "live_category": "A"}, "live_category: goes with EN 1990"),
        ({"loading": "NBCC 2020", "method": "ASD"}, "NBCC 2020 has no combinations for ASD"),
        ({"loading": "NBCC 2020", "sds": 0.4}, "sds: goes with ASCE 7-22"),
        ({"loading": "NBCC 2020", "deflection": {"frequent": 300}}, "frequent: goes with EN 1990"),
    ],
)
def test_what_does_not_go_with_a_loading_standard(fields, words):
    with pytest.raises(wb.InputError, match=words):
        loaded(**fields)
