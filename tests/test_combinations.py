from __future__ import annotations

import pytest

import welbric as wb
from welbric.loads.combinations import parse_recipe, service, strength

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
