"""Sidesway of a storey (A-8), reduced stiffness (C2.3), angles about geometric axes, 360-16."""

import math

import numpy as np
import pytest

import welbric as wb
from cases import IN, KIP, KIP_FT, KSI, capacity
from welbric.standards.aisc360.design import E
from welbric.standards.scope import scope

STOREY = {"load": "400 kip", "shear": "20 kip", "drift": "0.4 in", "height": "12 ft"}


def column(forces=None, job=None, **fields):
    forces = {"name": "all", "compression": "150 kip", "shear_major": "5 kip"} | (forces or {})
    given = {"mark": "C", "role": "column", "section": "W10X49", "height": "12 ft",
             "forces": [forces]} | fields  # fmt: skip
    return wb.Job(members=[wb.Member(**given)], **(job or {}))


def combined(job):
    table = wb.check(job)
    for part in table.explain("C").parts:
        assert part.entries[-1].result == pytest.approx(part.row.utilisation, rel=1e-9)
    return {row.name: row for row in table["C"].rows}


@pytest.mark.parametrize(("method", "alpha"), [("LRFD", 1.0), ("ASD", 1.6)])
def test_sway_by_hand(method, alpha):
    """B2 = 1 / (1 - alpha P / (RM H L / drift)), on the moments and the forces of sidesway."""
    sway = {
        "moment_major": ["10 kip ft", "0 kip ft"],
        "sway_moment_major": ["40 kip ft", "0 kip ft"],
        "sway_compression": "6 kip",
        "storey": STOREY | {"in_moment_frames": 0.5},
    }
    given = {"second_order": "included", "job": {"design": {"method": method}}}
    rows = combined(column(sway, **given))
    RM = 1 - 0.15 * 0.5
    B2 = 1 / (1 - alpha * 400 / (RM * 20 * 144 / 0.4))
    assert rows["yielding, major axis"].demand == pytest.approx((10 + 40 * B2) * KIP_FT)
    assert rows["flexural buckling, minor axis"].demand == pytest.approx((150 + 6 * B2) * KIP)
    note = next(n for n in wb.check(column(sway, **given))["C"].notes if "B2" in n)
    assert f"{B2:.3f}" in note


def test_a_storey_beyond_its_critical_load_never_passes():
    storey = STOREY | {"load": "8000 kip"}
    sway = {"sway_moment_major": ["40 kip ft", "0 kip ft"], "storey": storey}
    assert wb.check(column(sway))["C"].status == "over"


@pytest.mark.parametrize("share", [0.3, 0.5, 0.7, 0.95])
def test_reduced_stiffness_by_hand(share):
    """Pe1 with 0.8 tau_b E I: against the same section less stiff by as much."""
    s = wb.section("W10X49")
    P = share * 50 * KSI * s.A
    tau = 1.0 if share <= 0.5 else 4 * share * (1 - share)
    fields = {"buckling": {"minor_length": "1 ft", "major_length": "16 ft"}, "height": "16 ft"}
    forces = {"compression": f"{P} N", "moment_major": ["50 kip ft", "50 kip ft"]}
    job = {"design": {"stability": "direct analysis"}}
    table = wb.check(column(forces, job=job, **fields))
    (part,) = table.explain("C", "compression and bending").parts
    steps = {e.formula.symbol: e.result for e in part.entries if hasattr(e, "formula")}
    Pe1 = math.pi**2 * 0.8 * tau * E * s.I_major / (16 * 12 * IN) ** 2
    found = [e.result for e in part.entries if hasattr(e, "formula") and e.formula.symbol == "Pe1"]
    assert found[0] == pytest.approx(Pe1, rel=1e-6)
    assert "tau_b" in steps
    plain = combined(column(forces, **fields))["compression and bending"].utilisation
    assert part.row.utilisation >= plain


def test_the_analysed_second_order_takes_the_reduced_stiffness():
    """The same growth of the moment as a load 1/0.8 as large brings."""

    def moments(P, **job):
        load = [{"case": "live", "line": "1 kN/m", "axis": "minor"},
                {"case": "live", "compression": f"{P} kN"}]  # fmt: skip
        member = wb.Member(mark="C", role="column", section="W10X49", height="6 m", load=load,
                           self_weight=False, second_order="analysed")  # fmt: skip
        rows = {r.name: r for r in wb.check(
            wb.Job(members=[member], combinations=["1.0L"], **job))["C"].rows}  # fmt: skip
        return rows["elastic stability in bending"].utilisation, rows["bending, minor axis"].demand

    direct, plain = moments(400, design={"stability": "direct analysis"}), moments(500)
    assert direct == pytest.approx(plain, rel=1e-6)
    squashed = wb.Member(
        mark="C", role="column", section="W10X49", height="2 m", second_order="analysed",
        load=[{"case": "live", "compression": "1500 kN"}, {"case": "live", "line": "1 kN/m"}],
    )  # fmt: skip
    result = wb.check(wb.Job(members=[squashed], design={"stability": "direct analysis"}))["C"]
    assert any(r.status == "outside" and r.clause == "C2.3" for r in result.rows)


@pytest.mark.parametrize(
    ("forces", "words"),
    [
        ({"sway_moment_major": ["1 kip ft", "1 kip ft"]}, "go together"),
        ({"storey": STOREY}, "go together"),
        ({"storey": STOREY | {"drift": "0 in"}, "sway_compression": "1 kip"}, "greater than zero"),
    ],
)
def test_wrong_storeys_are_named(forces, words):
    with pytest.raises(wb.InputError, match=words):
        column(forces)


def test_braces_of_columns():
    """6.2.2: a hundredth of the force, and 8 P / (0.75 L)."""
    fields = {"buckling": {"minor_length": "4 ft"}, "job": {"show": "US"}}
    note = next(n for n in wb.check(column(**fields))["C"].notes if "Appendix 6.2" in n)
    assert "1.5 kip" in note
    assert f"{8 * 150 / 48 / 0.75:.1f}"[:2] in note


# Angles about geometric axes


@pytest.mark.parametrize("pressed", [True, False])
@pytest.mark.parametrize("length", [500.0, 2000.0, 6000.0])
def test_equal_angles_about_a_geometric_axis_by_hand(pressed, length):
    s = wb.section("L4X4X1/4")
    Fy, b, t = 36 * KSI, s.d, s.t
    Mcr = 0.58 * E * b**4 * t / length**2
    Mcr *= math.sqrt(1 + 0.88 * (length * t / b**2) ** 2) + (-1 if pressed else 1)
    My = 0.8 * Fy * s.Wel_top
    if My <= Mcr:
        Mn = min((1.92 - 1.17 * math.sqrt(My / Mcr)) * My, 1.5 * My)
    else:
        Mn = (0.92 - 0.17 * Mcr / My) * Mcr
    demand = {"M_max": 1.0, "M_A": 1.0, "M_B": 1.0, "M_C": 1.0, "M_major": 1.0}
    found = capacity("lateral-torsional buckling", "L4X4X1/4", Fy=36, Fu=58, geometric=True,
                     Lb=length, top=pressed, demand=demand)  # fmt: skip
    assert found == pytest.approx(0.9 * Mn, rel=1e-9)


def angle(section="L4X4X1/4", **fields):
    given = {
        "mark": "A", "section": section, "steel": "A36", "span": "6 ft", "self_weight": False,
        "bending_axes": "geometric", "load": [{"case": "live", "line": "0.1 kip/ft"}],
    } | fields  # fmt: skip
    return wb.check(wb.Job(members=[wb.Member(**given)]))["A"]


def test_where_geometric_axes_are_allowed():
    held = {"restraint": {"top": "continuous", "bottom": "continuous"}}
    assert angle().status == "ok"
    assert angle("L6X4X3/8", **held).status == "ok"
    assert angle("L6X4X3/8").status == "outside"
    pressed = [{"case": "live", "line": "0.1 kip/ft"}, {"case": "live", "compression": "1 kip"}]
    assert angle(load=pressed).status == "outside"
    across = [{"case": "live", "line": "0.1 kip/ft", "axis": "minor"}]
    assert angle(load=across).status == "outside"
    with pytest.raises(wb.InputError, match="goes with a single angle"):
        angle("W8X31")


def test_held_angles_do_not_buckle_laterally():
    held = {"restraint": {"top": "continuous", "bottom": "continuous"}}
    names = {row.name for row in angle(**held).rows}
    assert "lateral-torsional buckling" not in names
    assert "bending, minor axis" not in names


# The edition before


def test_the_edition_of_2016_goes_by_the_same_equations():
    rows = [combined(column({"moment_major": ["30 kip ft", "10 kip ft"]}, job={"standard": name}))
            for name in ("AISC 360-22", "AISC 360-16")]  # fmt: skip
    assert {k: r.utilisation for k, r in rows[0].items()} == {
        k: r.utilisation for k, r in rows[1].items()
    }
    scopes = [{c.number: c.limit for c in scope(n)} for n in ("AISC 360-22", "AISC 360-16")]
    differ = {number for number in scopes[0] if scopes[0][number] != scopes[1][number]}
    assert "D3" in differ
    assert np.all([number in scopes[0] for number in scopes[1]])
