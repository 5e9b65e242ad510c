from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

import welbric as wb
from welbric.sections import i_shape, reconcile
from welbric.sections.catalogue import LEFT_OUT, SOURCES, read_published


@pytest.mark.parametrize("source", SOURCES, ids=lambda s: s.file)
def test_double_entry_of_every_row(source):
    """Every shipped row reconciles; the rows left out are exactly those that do not."""
    rows = {row["name"] for row in read_published(source.file)}
    failing = {d.section for d in reconcile.differences(source) if not d.reconciles}
    assert failing == LEFT_OUT & rows
    assert rows - failing <= set(wb.catalogue().names)
    assert not failing & set(wb.catalogue().names)


@pytest.mark.parametrize(
    ("source", "name", "mistypings"),
    [
        (SOURCES[0], "W18X50", {"Ix": "880", "Zx": "110", "tw": ".535", "J": "1.42", "A": "17.4"}),
        (SOURCES[2], "IPE300", {"Iy": "8536", "h": "330", "iz": "3.53", "Iw": "162", "tf": "17"}),
    ],
)
def test_a_mistyped_row_does_not_reconcile(source, name, mistypings):
    row = next(r for r in read_published(source.file) if r["name"] == name)
    for column, wrong in mistypings.items():
        found = reconcile.differences(source, [{**row, column: wrong}])
        assert any(not d.reconciles for d in found), column


@pytest.mark.parametrize(
    ("wish", "names"),
    [
        ("HEB, depth at most 140 mm", ["HEB100", "HEB120", "HEB140"]),
        ("IPE or HEA, mass under 8.1 kg/m", ["IPE80"]),
        ("family W, mass at most 13 lb/ft, flange at least 100 mm, sorted by mass",
         ["W6X8.5", "W6X9", "W8X10", "W10X12", "W4X13", "W12X14", "W8X13"]),
        ("hp, I major over 900 in4, sorted by d descending", ["HP14X117", "HP14X102", "HP14X89"]),
    ],
)  # fmt: skip
def test_wishes(wish, names):
    found = [s.name for s in wb.wished(wish)]
    table = wb.catalogue()
    if "sorted by mass" in wish:
        masses = [table.mass[table.names.index(n)] for n in found]
        assert masses == sorted(masses)
        assert set(found) == {
            n for n, m, b in zip(table.names, table.mass, table.bf, strict=True)
            if n.startswith("W") and m <= 13 * 0.45359237 / 304.8 * (1 + 1e-9) and b >= 100
        }  # fmt: skip
    else:
        assert found == names


def test_wishes_that_cannot_be_read():
    for wish, words in [
        ("W, dept at most 5 in", "did you mean depth"),
        ("W, depth at most 5 kN", "is a force; a length is needed"),
        ("Q, depth at most 5 in", "is no family and no limit; families: W, HP, IPE, HEA, HEB"),
        ("W, depth at most 5 mm", "no section of the catalogue fits"),
    ]:
        with pytest.raises(wb.InputError, match=words):
            wb.wished(wish)


def test_spread_over_every_depth():
    names = [name for name in wb.catalogue().names if name.startswith("W")]
    depths = {int(name[1:].partition("X")[0]) for name in names}
    assert len(names) == 221
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


@pytest.mark.parametrize(
    ("written", "name"),
    [("HE 300 B", "HEB300"), ("heb 300", "HEB300"), ("HE300A", "HEA300"), ("ipe300", "IPE300")],
)
def test_european_names(written, name):
    assert wb.section(written).name == name


def test_near_names_are_offered():
    with pytest.raises(wb.InputError, match="the nearest are W18X50, W18X55"):
        wb.section("W18X51")
    with pytest.raises(
        wb.InputError, match="no section 'IPE310' in the catalogue; did you mean IPE"
    ):
        wb.section("IPE310")


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
