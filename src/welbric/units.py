"""Text with units <-> the internal units N, mm, MPa, radian (and kg for mass).

Inside Welbric every number is in internal units and no formula converts anything. Quantities
cross the border here: `parse` on the way in, `DisplayUnits.show` on the way out.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from welbric.errors import InputError, did_you_mean

BASES = ("length", "force", "mass", "temperature")
BEYOND = 1e30  # of what is built, in internal units: products of such numbers overflow
INTERNAL_BASE = """
millimetre = [length] = mm
newton = [force] = N
kilogram = [mass] = kg
kelvin = [temperature] = K = degC
radian = [] = rad
second = [time] = s
"""

# Exact by definition: 1 in = 25.4 mm, 1 lbf = 4.4482216152605 N.
DERIVED_UNITS = """
metre = 1000 * millimetre = m = meter
centimetre = 10 * millimetre = cm = centimeter
inch = 25.4 * millimetre = in = inches
foot = 304.8 * millimetre = ft = feet
kilonewton = 1000 * newton = kN
meganewton = 1e6 * newton = MN
pound = 4.4482216152605 * newton = lb = lbf = lbs = pounds
kip = 1000 * pound = kips = k
tonne = 1000 * kilogram = t
poundmass = 0.45359237 * kilogram = lbm
pascal = newton / metre ** 2 = Pa
kilopascal = 1000 * pascal = kPa
megapascal = newton / millimetre ** 2 = MPa
gigapascal = 1000 * megapascal = GPa
ksi = kip / inch ** 2
psi = pound / inch ** 2
ksf = kip / foot ** 2
psf = pound / foot ** 2
klf = kip / foot
plf = pound / foot
milliradian = 1e-3 * radian = mrad
degF = kelvin / 1.8  # differences only: there is no zero to mistake
degree = 0.017453292519943295 * radian = deg = degrees
"""


# The units that people write most: exponents -> spelling -> size. A test holds each against the
# registry below, which is loaded only for others.
USUAL: dict[tuple[int, ...], dict[str, float]] = {
    (1, 0, 0, 0): {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4, "ft": 304.8},
    (0, 1, 0, 0): {
        "N": 1.0,
        "kN": 1000.0,
        "MN": 1000000.0,
        "lb": 4.4482216152605,
        "kip": 4448.2216152605,
        "kN·m/m/rad": 1000.0,
        "kN·m/m": 1000.0,
        "kip·ft/ft/rad": 4448.2216152605,
        "kip·ft/ft": 4448.2216152605,
    },
    (-1, 1, 0, 0): {
        "N/mm": 1.0,
        "kN/m": 1.0,
        "kip/ft": 14.593902937206364,
        "lb/ft": 0.014593902937206363,
        "N/m": 0.001,
        "kN/mm": 1000.0,
        "kip/in": 175.12683524647636,
    },
    (-2, 1, 0, 0): {
        "Pa": 1e-06,
        "kPa": 0.001,
        "MPa": 1.0,
        "GPa": 1000.0,
        "psf": 4.7880258980335836e-05,
        "ksf": 0.047880258980335835,
        "psi": 0.006894757293168362,
        "ksi": 6.894757293168362,
        "N/mm2": 1.0,
        "kN/m2": 0.001,
    },
    (1, 1, 0, 0): {
        "N mm": 1.0,
        "kN m": 1000000.0,
        "kip ft": 1355817.9483314003,
        "kip-ft": 1355817.9483314003,
        "kip in": 112984.82902761668,
        "kip-in": 112984.82902761668,
        "lb ft": 1355.8179483314004,
        "kN·m/rad": 1000000.0,
        "kN·m": 1000000.0,
        "kip·ft/rad": 1355817.9483314003,
        "kip·ft": 1355817.9483314003,
    },
    (2, 0, 0, 0): {"mm2": 1.0, "cm2": 100.0, "in2": 645.16, "mm²": 1.0, "in²": 645.16},
    (3, 0, 0, 0): {"mm3": 1.0, "cm3": 1000.0, "in3": 16387.064, "cm³": 1000.0, "in³": 16387.064},
    (4, 0, 0, 0): {
        "mm4": 1.0,
        "cm4": 10000.0,
        "in4": 416231.4255999999,
        "cm⁴": 10000.0,
        "in⁴": 416231.4255999999,
    },
    (6, 0, 0, 0): {
        "cm6": 1000000.0,
        "in6": 268535866.5400959,
        "cm⁶": 1000000.0,
        "in⁶": 268535866.5400959,
    },
    (0, 0, 0, 0): {"deg": 0.017453292519943295, "rad": 1.0},
    (0, 0, 0, 1): {"K": 1.0, "degF": 0.5555555555555556},
    (-1, 0, 1, 0): {"kg/m": 0.001, "lbm/ft": 0.001488163943569554},
    (0, 0, 1, 0): {"kg": 1.0, "lbm": 0.45359237},
}


@dataclass(frozen=True)
class Kind:
    """A kind of quantity: what it is called, its dimensions, and how people write it."""

    name: str
    article: str
    length: int
    force: int
    examples: tuple[str, str]
    mass: int = 0
    temperature: int = 0

    @property
    def exponents(self) -> tuple[int, ...]:
        """The powers of length, force, mass and temperature."""
        return (self.length, self.force, self.mass, self.temperature)

    def __str__(self) -> str:
        return f"{self.article} {self.name}"


KINDS: dict[str, Kind] = {
    "length": Kind("length", "a", 1, 0, ("6 m", "20 ft")),
    "dimension": Kind("length", "a", 1, 0, ("250 mm", "10 in")),
    "force": Kind("force", "a", 0, 1, ("12 kN", "2.7 kip")),
    "line_load": Kind("line load", "a", -1, 1, ("12 kN/m", "0.8 kip/ft")),
    "spring": Kind("spring", "a", -1, 1, ("12 kN/mm", "70 kip/in")),
    "rotation_spring": Kind("rotation spring", "a", 1, 1, ("5000 kN m", "45000 kip in")),
    "moment_along": Kind("moment per length", "a", 0, 1, ("5 kN m/m", "1.1 kip ft/ft")),
    "rotation_spring_along": Kind(
        "rotation spring per length", "a", 0, 1, ("50 kN m/m/rad", "11 kip ft/ft/rad")
    ),
    "area_load": Kind("load on an area", "a", -2, 1, ("2.5 kPa", "50 psf")),
    "stress": Kind("stress", "a", -2, 1, ("345 MPa", "50 ksi")),
    "moment": Kind("moment", "a", 1, 1, ("80 kN m", "60 kip ft")),
    "area": Kind("area", "an", 2, 0, ("9500 mm2", "14.7 in2")),
    "surface": Kind("surface", "a", 2, 0, ("12 m2", "130 ft2")),
    "modulus": Kind("section modulus", "a", 3, 0, ("1655 cm3", "101 in3")),
    "inertia": Kind("second moment of area", "a", 4, 0, ("33300 cm4", "800 in4")),
    "warping": Kind("warping constant", "a", 6, 0, ("816000 cm6", "3040 in6")),
    "angle": Kind("angle", "an", 0, 0, ("30 deg", "0.5 rad")),
    "number": Kind("plain number", "a", 0, 0, ("1.0", "0.85")),
    "mass": Kind("mass", "a", 0, 0, ("490 kg", "490 kg"), mass=1),
    "mass_per_length": Kind("mass per length", "a", -1, 0, ("74 kg/m", "74 kg/m"), mass=1),
    "temperature": Kind("change of temperature", "a", 0, 0, ("20 K", "36 degF"), temperature=1),
}

_NUMBER = r"(?:\d{1,3}(?:,\d{3})+(?:\.\d*)?|\d+(?:\.\d*)?|\.\d+)(?:[eE][-+]?\d+)?"
_FRACTION = r"\d+\s*/\s*[1-9]\d*"
_MIXED = (
    rf"(?:(?P<{{0}}whole>\d+)[\s-]+(?P<{{0}}part>{_FRACTION})|(?P<{{0}}only>{_FRACTION}|{_NUMBER}))"
)
_QUANTITY = re.compile(_MIXED.replace("{0}", "") + r"\s*(?P<unit>.*)")
_FEET_INCHES = re.compile(
    _MIXED.replace("{0}", "ft_")
    + r"\s*(?:ft|feet|foot|')[\s-]*"
    + _MIXED.replace("{0}", "in_")
    + r"\s*(?:in|inch|inches|\")"
)
_SIGN = re.compile(r"\s*([-+−])\s*")
_POWERS = str.maketrans(
    {"°": "deg", "²": "^2", "³": "^3", "⁴": "^4", "⁶": "^6", "·": "*", "⋅": "*", "×": "*"}
)


@cache
def _registry() -> Any:
    """Build the registry of our own units; pint is loaded only when text is first parsed."""
    import pint

    registry: Any = pint.UnitRegistry(None, cache_folder=None)
    registry.load_definitions(INTERNAL_BASE.strip().splitlines())
    registry.load_definitions(DERIVED_UNITS.strip().splitlines())
    return registry


@cache
def unit_factor(text: str) -> tuple[float, tuple[int, ...]]:
    """Return a unit's size in internal units and its exponents, as `Kind.exponents` has them.

    Parameters
    ----------
    text : str
        Such as ``"kN/m"``, ``"kip-ft"``, ``"N/mm2"``.

    Raises
    ------
    InputError
        If the unit is not known.
    """
    for exponents, sizes in USUAL.items():
        if text in sizes:
            return sizes[text], exponents
    return _by_registry(text)


# Units as they are also written: with other capitals, or a force and a length in one word.
_SPELLINGS = {
    unit.casefold(): unit
    for unit in ("kN", "MN", "kPa", "MPa", "GPa", "kip", "kips", "ksi", "ksf", "klf", "plf", "psf",
                 "psi", "lb", "lbf", "ft", "mm", "cm", "m", "kg")
} | {"in": "in", "inch": "inch", "feet": "feet"}  # fmt: skip
_GLUED = re.compile(r"(?i)\b(k?n|mn)(m|mm|cm)\b")


def _respelled(text: str) -> str:
    """Return a unit with its words as they are known."""
    text = _GLUED.sub(lambda match: f"{match[1]} {match[2]}", text.strip().removesuffix("."))
    text = re.sub(r"(?<=[A-Za-z])\.(?=[A-Za-z])", " ", text)

    def known(match: re.Match[str]) -> str:
        word = match[0]
        return "N" if word == "n" else _SPELLINGS.get(word.casefold(), word)

    return re.sub(r"[A-Za-z]+", known, text)


def _by_registry(text: str) -> tuple[float, tuple[int, ...]]:
    """Return a unit by the registry: as it is written, or else as it is also written."""
    try:
        return _registered(text)
    except InputError:
        other = _respelled(text)
        if other == text:
            raise
        try:
            return unit_factor(other)
        except InputError:
            pass
        raise


def _registered(text: str) -> tuple[float, tuple[int, ...]]:
    import pint

    registry = _registry()
    tidy = text.strip().translate(_POWERS).replace("'", "ft").replace('"', "in")
    tidy = re.sub(r"(?<=[A-Za-z])\s*-\s*(?=[A-Za-z])", "*", tidy)
    tidy = re.sub(r"(?<=[A-Za-z])\^?(\d)", r"**\1", tidy)
    tidy = re.sub(r"(?<=[A-Za-z\d])\s+(?=[A-Za-z])", "*", tidy)
    if not re.fullmatch(r"[A-Za-z0-9*/() ]+", tidy):
        raise InputError(f"{text!r} is not a unit")
    try:
        quantity = registry.Quantity(1, tidy).to_root_units()
    except (pint.errors.UndefinedUnitError, pint.errors.DefinitionSyntaxError) as error:
        units = [u for u in dir(registry) if not u.startswith("_")]
        hint = did_you_mean(text, [u for u in units if len(u) < 8])
        raise InputError(f"{text!r} is not a unit known here{hint}") from error
    except Exception as error:
        raise InputError(f"{text!r} is not a unit") from error
    powers = {str(name): power for name, power in quantity.dimensionality.items()}
    exponents = tuple(powers.pop(f"[{name}]", 0) for name in BASES)
    if powers or any(int(e) != e for e in exponents):
        raise InputError(f"{text!r} is not a unit used here")
    return float(quantity.magnitude), tuple(int(e) for e in exponents)


def _article(exponents: tuple[int, ...]) -> str:
    for kind in KINDS.values():
        if kind.exponents == exponents:
            return str(kind)
    return "of another kind"


def _mixed(match: re.Match[str], prefix: str = "") -> float:
    """Return the number that `_MIXED` matched: '6', '1/2' or '6 1/2'."""
    total = 0.0
    for group in ("whole", "part", "only"):
        text = match.group(prefix + group)
        if text:
            top, _, bottom = text.replace(",", "").partition("/")
            total += float(top) / float(bottom or 1)
    return total


def _split(text: str) -> tuple[float, str] | None:
    """Split '9.5 m' into (9.5, 'm') and '30 ft 6 1/2 in' into (366.5, 'in'), or return None."""
    sign = _SIGN.match(text)
    factor = -1.0 if sign and sign.group(1) != "+" else 1.0
    text = (text[sign.end() :] if sign else text).strip()
    if match := _FEET_INCHES.fullmatch(text):
        return factor * (12 * _mixed(match, "ft_") + _mixed(match, "in_")), "in"
    if match := _QUANTITY.fullmatch(text):
        return factor * _mixed(match), match.group("unit").strip()
    return None


def parse(value: object, kind: str, bare_unit: str | None = None) -> float:
    """Turn a quantity as people write it into internal units.

    Parameters
    ----------
    value : str, int or float
        Text such as ``"9.5 m"``, ``"30 ft 6 in"``, ``"1.2 kip/ft"``, ``"50 ksi"``; a bare number
        only where `bare_unit` says what it is in.
    kind : str
        A key of `KINDS`.
    bare_unit : str, optional
        The unit of bare numbers of this kind.

    Returns
    -------
    float
        In N, mm, MPa, radian.

    Raises
    ------
    InputError
        If it is not a quantity of this kind, not finite, or a bare number without a unit.

    Examples
    --------
    >>> parse("30 ft 6 in", "length")
    9296.4
    """
    wanted = KINDS[kind]
    such_as = f"such as {wanted.examples[0]!r} or {wanted.examples[1]!r}"
    if isinstance(value, str):
        split = _split(value[:200])
    elif isinstance(value, (int, float)) and not isinstance(value, bool):
        # An integer may have more digits than a number of the machine holds.
        split = (float(value) if abs(value) < 1e300 else math.inf, "")
    else:
        split = None
    if split is None:
        raise InputError(f"{str(value)[:60]!r} is not {wanted}; give one {such_as}")
    number, unit = split
    unit = unit or bare_unit or ""
    if not unit and kind != "number":
        raise InputError(f"{str(value)[:60]!r} has no unit; give {wanted} {such_as}")
    factor, exponents = unit_factor(unit) if unit else (1.0, (0,) * len(BASES))
    if exponents != wanted.exponents or (unit and kind == "number"):
        raise InputError(
            f"{str(value)[:60]!r} is {_article(exponents)}; {wanted} is needed, {such_as}"
        )
    if not abs(number * factor) < BEYOND:
        raise InputError(
            f"{str(value)[:60]!r} is not a finite number of a sensible size; "
            f"give {wanted} {such_as}"
        )
    return number * factor


def both(value: float, kind: str) -> str:
    """Return a length or a dimension in metres or millimetres, and in feet or inches beside it.

    For messages that do not know which the user thinks in.

    >>> both(9144.0, "length"), both(12.7, "dimension")
    ('9.144 m (30 ft)', '12.7 mm (0.5 in)')
    """
    return f"{METRIC.show(value, kind)} ({US.show(value, kind)})"


def digits(value: float, significant: int = 4) -> str:
    """Return a number as engineers read it: 4 significant digits, thousands grouped.

    >>> digits(29000.0), digits(0.65812), digits(5.83012)
    ('29,000', '0.6581', '5.83')
    """
    if not math.isfinite(value):
        return "not a number" if math.isnan(value) else ("∞" if value > 0 else "−∞")
    if value == 0:
        return "0"
    value *= 1 + 1e-12  # a tie that rounding has split reads as the tie
    places = max(0, significant - 1 - math.floor(math.log10(abs(value))))
    if not 1e-4 <= abs(value) < 1e12:
        mantissa, exponent = f"{value:.{significant - 1}e}".split("e")
        text = f"{mantissa.rstrip('0').rstrip('.')}×10^{int(exponent)}"
    else:
        text = f"{value:,.{places}f}"
        if "." in text:
            text = text.rstrip("0").rstrip(".")
    return text.replace("-", "−")


@dataclass(frozen=True)
class DisplayUnits:
    """A set of units to show results in."""

    name: str
    labels: Mapping[str, str]

    def factor(self, kind: str) -> float:
        """Return the size of the display unit of a kind in internal units."""
        label = self.labels.get(kind, "")
        if not label:
            return 1.0  # a plain number
        # The pound of a mass is one; elsewhere it is a force.
        return _display_factor(label.replace("lb", "lbm") if KINDS[kind].mass else label)

    def convert(self, value: float, kind: str) -> float:
        """Return an internal value in display units."""
        return value / self.factor(kind)

    def show(self, value: float, kind: str, significant: int = 4) -> str:
        """Return an internal value as text with its unit, such as ``'379.2 kip·ft'``."""
        label = self.labels.get(kind, "")
        text = digits(self.convert(float(value), kind), significant)
        return f"{text} {label}" if label else text


@cache
def _display_factor(label: str) -> float:
    return unit_factor(label)[0] if label else 1.0


METRIC = DisplayUnits(
    "metric",
    {
        "length": "m",
        "dimension": "mm",
        "force": "kN",
        "spring": "kN/mm",
        "rotation_spring": "kN·m/rad",
        "rotation_spring_along": "kN·m/m/rad",
        "moment_along": "kN·m/m",
        "line_load": "kN/m",
        "area_load": "kPa",
        "stress": "MPa",
        "moment": "kN·m",
        "area": "mm²",
        "surface": "m²",
        "modulus": "cm³",
        "inertia": "cm⁴",
        "warping": "cm⁶",
        "angle": "deg",
        "mass": "kg",
        "mass_per_length": "kg/m",
        "temperature": "K",
    },
)
US = DisplayUnits(
    "US",
    {
        "length": "ft",
        "dimension": "in",
        "force": "kip",
        "spring": "kip/in",
        "rotation_spring": "kip·ft/rad",
        "rotation_spring_along": "kip·ft/ft/rad",
        "moment_along": "kip·ft/ft",
        "line_load": "kip/ft",
        "area_load": "psf",
        "stress": "ksi",
        "moment": "kip·ft",
        "area": "in²",
        "surface": "ft²",
        "modulus": "in³",
        "inertia": "in⁴",
        "warping": "in⁶",
        "angle": "deg",
        "mass": "lb",
        "mass_per_length": "lb/ft",
        "temperature": "degF",
    },
)
DISPLAY = {"metric": METRIC, "US": US}
