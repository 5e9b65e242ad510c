from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

import welbric as wb
from welbric.sections import i_shape, reconcile
from welbric.sections.catalogue import read_published


def test_double_entry_of_every_row():
    """Every shipped row reconciles; the rows left out are exactly those that do not."""
    failing = {d.section for d in reconcile.differences() if not d.reconciles}
    assert failing == reconcile.W_LEFT_OUT
    assert not failing & set(wb.catalogue().names)
    assert len(wb.catalogue()) == len(read_published("w_shapes.csv")) - len(failing)


def test_a_mistyped_row_does_not_reconcile():
    row = next(r for r in read_published("w_shapes.csv") if r["name"] == "W18X50")
    for column, wrong in [
        ("Ix", "880"),
        ("Zx", "110"),
        ("tw", ".535"),
        ("J", "1.42"),
        ("A", "17.4"),
    ]:
        assert any(not d.reconciles for d in reconcile.differences([{**row, column: wrong}])), (
            column
        )


def test_spread_over_every_depth():
    depths = {int(name[1:].partition("X")[0]) for name in wb.catalogue().names}
    assert depths == {4, 5, 6, 8, 10, 12, 14, 16, 18, 21, 24, 27, 30, 33, 36, 40, 44}


def width_at(y, d, bf, tw, tf, r):
    """Width of a filleted I-shape at a height above mid-depth."""
    y = abs(y)
    if y > d / 2 - tf:
        return bf
    rise = y - (d / 2 - tf - r)
    return tw if rise <= 0 else tw + 2 * (r - np.sqrt(max(r**2 - rise**2, 0.0)))


sizes = st.tuples(
    st.floats(100, 1100), st.floats(0.3, 1.05), st.floats(0.01, 0.1), st.floats(0.02, 0.15),
    st.floats(0.0, 0.05),
)  # fmt: skip


@given(sizes)
def test_closed_forms_against_integration(size):
    d, *shares = size
    bf, tw, tf, r = (share * d for share in shares)
    found = i_shape.properties(d, bf, tw, tf, r)
    edges = [0.0, d / 2 - tf - r, d / 2 - tf, d / 2]

    def integral(f):
        pieces = pairwise(edges)
        return 2 * sum(quad(f, a, b, epsrel=1e-10)[0] for a, b in pieces if b > a)

    def width(y):
        return width_at(y - 1e-12 * d, d, bf, tw, tf, r)

    expected = {
        "A": integral(width),
        "I_major": integral(lambda y: width(y) * y**2),
        "I_minor": integral(lambda y: width(y) ** 3 / 12),
        "Wpl_major": integral(lambda y: width(y) * y),
        "Wpl_minor": integral(lambda y: width(y) ** 2 / 4),
    }
    for name, value in expected.items():
        assert found[name] == pytest.approx(value, rel=1e-6), name


def test_torsion_of_a_thin_section_is_that_of_its_plates():
    thin = i_shape.properties(1000.0, 500.0, 2.0, 2.0)
    assert thin["J"] == pytest.approx((2 * 500 + 996) * 2**3 / 3, rel=0.005)


@pytest.mark.parametrize("written", ["W18X50", "w18x50", "W 18 x 50", "W18×50", " w18*50 "])
def test_a_name_is_found_however_it_is_written(written):
    assert wb.section(written).name == "W18X50"


def test_near_names_are_offered():
    with pytest.raises(wb.InputError, match="the nearest are W18X50, W18X55"):
        wb.section("W18X51")
    with pytest.raises(wb.InputError, match="no section 'IPE300'"):
        wb.section("IPE300")


def test_impossible_dimensions_are_refused():
    for size in [(0, 100, 5, 8), (100, 100, 5, 60), (100, 10, 12, 5), (float("nan"), 1, 1, 1)]:
        with pytest.raises(ValueError, match="must"):
            i_shape.properties(*size)


def test_table_and_section_have_the_same_names():
    table = wb.catalogue()
    row = table.names.index("W14X90")
    assert wb.section("W14X90").Wpl_major == table.Wpl_major[row]
    assert table.take(slice(row, row + 1))[0] == wb.section("W14X90")
    with pytest.raises(AttributeError, match="no 'Zx'"):
        _ = wb.section("W14X90").Zx


@pytest.mark.parametrize(
    ("grade", "Fy", "Fu"),
    [("A992", 50, 65), ("a36", 36, 58), ("A572 Grade 50", 50, 65), ("A913 Gr. 65", 65, 80)],
)
def test_steels(grade, Fy, Fu):
    ksi = 6.894757293168361
    band = wb.steel(grade).strengths(25.0)
    assert (band.Fy, band.Fu) == pytest.approx((Fy * ksi, Fu * ksi))


def test_unknown_steel():
    with pytest.raises(wb.InputError, match="did you mean A992"):
        wb.steel("A993")
