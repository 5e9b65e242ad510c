from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

import welbric as wb
from welbric.units import KINDS, METRIC, US, digits, parse

KIP, FT, IN = 4448.2216152605, 304.8, 25.4


@pytest.mark.parametrize(
    ("text", "kind", "internal"),
    [
        ("9.5 m", "length", 9500),
        ("30 ft 6 in", "length", 30 * FT + 6 * IN),
        ("6'-3 1/2\"", "length", 75.5 * IN),
        ("1 1/2 in", "length", 1.5 * IN),
        ("3/8 in", "dimension", 0.375 * IN),
        ("29,000 ksi", "stress", 29000 * KIP / IN**2),
        ("12 kN/m", "line_load", 12),
        ("1.2 kip/ft", "line_load", 1.2 * KIP / FT),
        ("850 plf", "line_load", 0.85 * KIP / FT),
        ("50 ksi", "stress", 50 * KIP / IN**2),
        ("200 N/mm2", "stress", 200),
        ("15 psf", "area_load", 15 * KIP / 1000 / FT**2),
        ("2.5 kPa", "area_load", 0.0025),
        ("80 kip-ft", "moment", 80 * KIP * FT),
        ("80 kN·m", "moment", 80e6),
        ("80 kN m", "moment", 80e6),
        ("-5 kip", "force", -5 * KIP),
        ("−5 kip", "force", -5 * KIP),
        ("180 deg", "angle", 3.141592653589793),
        ("14.7 in²", "area", 14.7 * IN**2),
        ("0.85", "number", 0.85),
        (0.85, "number", 0.85),
    ],
)
def test_reads(text, kind, internal):
    assert parse(text, kind) == pytest.approx(internal, rel=1e-12)


@pytest.mark.parametrize(
    ("given_", "kind", "words"),
    [
        ("12 kN", "length", "'12 kN' is a force; a length is needed, such as '6 m' or '20 ft'"),
        ("5", "length", "has no unit"),
        (5, "length", "has no unit"),
        ("5 furlongs", "length", "not a unit known here"),
        ("5 kNq", "moment", "did you mean kN?"),
        ("nan m", "length", "is not a length"),
        ("inf kN", "force", "is not a force"),
        (float("nan"), "length", "has no unit"),
        ("1e999 m", "length", "not a finite number"),
        ("9,5 m", "length", "is not a unit"),
        ("1/0 in", "length", "is not a"),
        ("", "force", "is not a force"),
        (True, "length", "is not a length"),
        (None, "length", "is not a length"),
        ("__import__('os')", "length", "is not a length"),
        ("5 m; 3", "length", "is not a unit"),
        ("3 m", "number", "a plain number is needed"),
    ],
)
def test_refuses_with_words(given_, kind, words):
    with pytest.raises(wb.InputError, match=".*") as error:
        parse(given_, kind)
    assert words in str(error.value)


def test_bare_numbers_only_with_a_declared_unit():
    assert parse(20, "length", bare_unit="ft") == pytest.approx(20 * FT)
    assert parse("20", "length", bare_unit="ft") == pytest.approx(20 * FT)


@given(
    st.floats(1e-3, 1e6),
    st.sampled_from(["length", "dimension", "force", "moment", "stress", "modulus", "warping"]),
    st.sampled_from([METRIC, US]),
)
def test_shown_values_read_back(value, kind, show):
    text = show.show(value, kind, significant=12)
    if "^" not in text.split(" ")[0]:
        assert parse(text, kind) == pytest.approx(value, rel=1e-10)


@pytest.mark.parametrize(
    ("value", "text"),
    [
        (29000.0, "29,000"),
        (0.65812, "0.6581"),
        (50.0, "50"),
        (-3.2, "−3.2"),
        (1234567.0, "1,234,567"),
        (1.234e-5, "1.234×10^−5"),
        (-1.5e200, "−1.5×10^200"),
        (99.996, "100"),
        (0.0, "0"),
        (float("nan"), "not a number"),
    ],
)
def test_digits(value, text):
    assert digits(value) == text


def test_every_kind_is_shown_with_a_unit():
    for show in (METRIC, US):
        assert set(KINDS) - set(show.labels) == {"number"}


def test_usual_units_are_those_of_the_registry():
    """To the last bit: a job reads the same whichever way its unit was found."""
    from welbric.units import USUAL, _by_registry

    for exponents, sizes in USUAL.items():
        for text, size in sizes.items():
            assert _by_registry(text) == (size, exponents), text


@pytest.mark.parametrize(
    ("written", "kind", "plain"),
    [
        ("80 kNm", "moment", "80 kN m"), ("80 KN m", "moment", "80 kN m"),
        ("9 kNmm", "moment", "9 kN mm"), ("3 N.mm", "moment", "3 N mm"),
        ("3 Nmm", "moment", "3 N mm"), ("5 knm", "moment", "5 kN m"),
        ("12 KN/m", "line_load", "12 kN/m"), ("12 kN/M", "line_load", "12 kN/m"),
        ("50 Kip", "force", "50 kip"), ("3 KIPS", "force", "3 kip"), ("50 KSI", "stress", "50 ksi"),
        ("345 Mpa", "stress", "345 MPa"), ("12 Kpa", "area_load", "12 kPa"),
        ("10 in.", "dimension", "10 in"), ("20 FT", "length", "20 ft"),
        ("60 Kip-Ft", "moment", "60 kip ft"),
        ("0.8 KLF", "line_load", "0.8 klf"),
    ],
)  # fmt: skip
def test_units_as_they_are_also_written(written, kind, plain):
    assert parse(written, kind) == pytest.approx(parse(plain, kind), rel=1e-15)


@pytest.mark.parametrize(("written", "words"), [
    ("3 kNq", "'kNq' is not a unit known here"), ("80 kNm", "a force is needed, such as"),
])  # fmt: skip
def test_what_is_no_unit_stays_none(written, words):
    with pytest.raises(wb.InputError, match=words):
        parse(written, "force")
