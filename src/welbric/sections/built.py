"""Sections built from catalogued ones, by calls and by words: plates, a channel cap, pairs."""

from __future__ import annotations

import re

from welbric.errors import InputError
from welbric.sections.catalogues import find, section
from welbric.sections.compound import pair_in_line
from welbric.sections.kinds import own_section
from welbric.sections.table import Section
from welbric.units import parse

I_SHAPES = ("rolled I", "welded I")
Plate = tuple[float, float]  # width and thickness, mm
_I_SIZES = ("d", "bf", "tw", "tf", "r")


def plated(base: Section, top: Plate | None = None, bottom: Plate | None = None) -> Section:
    """Return an I-shape with cover plates.

    Parameters
    ----------
    base : Section
    top, bottom : (width, thickness), optional, mm

    Raises
    ------
    InputError
        If the base is no I-shape with parallel flanges, or the plates do not fit.

    Examples
    --------
    >>> from welbric.sections import section
    >>> plated(section("W18X46"), bottom=(180.0, 15.0)).name
    'W18X46 + 180 × 15 mm bottom plate'
    """
    _require_i(base)
    sizes = {name: base.properties[name] for name in _I_SIZES}
    words = []
    for where, plate in (("top", top), ("bottom", bottom)):
        if plate is not None:
            sizes |= {f"b_{where}": plate[0], f"t_{where}": plate[1]}
            words.append(f"{plate[0]:.4g} × {plate[1]:.4g} mm {where} plate")
    if not words:
        raise InputError(f"{base.name}: a plate needs a width and a thickness")
    return _built("plated I", f"{base.name} + {' + '.join(words)}", sizes)


def capped(base: Section, cap: Section) -> Section:
    """Return an I-shape with a channel on its top flange, the channel's flanges down.

    Raises
    ------
    InputError
        If the one is no I-shape with parallel flanges, the other no channel, or they do not fit.
    """
    _require_i(base)
    if "channel" not in cap.shape or cap.shape.startswith("double"):
        raise InputError(f"{cap.name} is a {cap.shape}; a cap is a channel")
    sizes = {name: base.properties[name] for name in _I_SIZES}
    sizes |= {f"cap_{name}": cap.properties[name] for name in ("d", "bf", "tw", "tf")}
    # The cap's tapered flanges count with their mean thickness, and without fillets.
    sizes["cap_r"] = cap.properties["r"] if cap.shape == "channel" else 0.0
    return _built("capped I", f"{base.name} + {cap.name} cap", sizes)


def pair(of: Section, gap: float = 0.0, facing: bool = False, upright: str = "long") -> Section:
    """Return two channels, two I-shapes or two angles side by side.

    Parameters
    ----------
    of : Section
    gap : float, mm
        Between the backs, or between the toes where they face; between the flanges of I-shapes.
    facing : bool
        Whether channels have their toes towards one another.
    upright : {"long", "short"}
        The legs of angles that stand back to back.

    Raises
    ------
    InputError
        If it is no channel, no I-shape with parallel flanges and no angle.
    """
    apart = f", {gap:.4g} mm apart" if gap else ""
    if of.shape in {"channel", "tapered channel"}:
        sizes = {name: of.properties[name] for name in ("d", "bf", "tw", "tf")}
        for name in ("r", "slope", "r_toe", "tf_from_tip"):
            sizes[name] = of.properties.get(name, 0.0)
        sizes |= {"gap": gap, "toes_in": float(facing)}
        words = "toe to toe" if facing else "back to back"
        return _built("double channel", f"2 {of.name} {words}{apart}", sizes)
    if of.shape in I_SHAPES:
        if facing:
            raise InputError(f"{of.name}: two I-shapes stand side by side")
        sizes = {name: of.properties[name] for name in _I_SIZES} | {"gap": gap}
        return _built("double I", f"2 {of.name} side by side{apart}", sizes)
    if of.shape != "angle":
        raise InputError(
            f"{of.name} is a {of.shape}; a pair is of channels, of I-shapes or of angles"
        )
    if facing:
        raise InputError(f"{of.name}: two angles stand back to back")
    p = of.properties
    legs = sorted((p["d"], p["b"]), reverse=upright == "long")
    sizes = {"d": legs[0], "b": legs[1], "t": p["t"], "r": p["r"], "r_toe": p["r_toe"], "gap": gap}
    which = "" if p["d"] == p["b"] else f"{upright} legs "
    made = _built("double angle", f"2 {of.name} {which}back to back{apart}", sizes)
    in_line = pair_in_line(made.properties, p, turned=legs[0] != p["d"])
    return Section(made.shape, made.name, in_line | {"mass": 2 * p["mass"]})


def _require_i(base: Section) -> None:
    if base.shape not in I_SHAPES:
        raise InputError(
            f"{base.name} is a {base.shape}; plates and caps go on {I_SHAPES[0]} shapes"
        )


def _built(shape: str, name: str, sizes: dict[str, float]) -> Section:
    try:
        return own_section(shape, name, sizes)
    except ValueError as error:
        raise InputError(f"{name}: {error}") from None


_WITH = re.compile(r"(.+?)\s+with\s+(.+)", re.IGNORECASE)
_PLATE = re.compile(
    r"(?:an?\s+)?(?P<b>[\d.,/\s-]+?)\s*(?P<first>[a-zA-Z]*?)\s*[x×]\s*(?P<t>[\d.,/\s-]+?)\s*"
    r"(?P<unit>[a-zA-Z]+)\s+plates?\s+(?:on|at|under)\s+(?:the\s+)?"
    r"(?P<where>top|bottom|both)(?:\s+flanges?)?",
    re.IGNORECASE,
)
_CAP = re.compile(r"(?:an?\s+)?(.+?)\s+(?:as\s+a\s+)?cap", re.IGNORECASE)
_PAIR = re.compile(
    r"(?:2|two)\s+(?P<of>.+?)\s+(?:(?P<legs>long|short)\s+legs\s+)?"
    r"(?P<how>back\s+to\s+back|toe\s+to\s+toe|face\s+to\s+face|side\s+by\s+side)(?:,?\s+(?P<gap>.+?)\s+apart)?",
    re.IGNORECASE,
)
SUCH_AS = (
    "'W18X46 with a 180 x 15 mm plate on the bottom flange', 'W21X62 with a C12X20.7 cap', "
    "'2 C10X20 back to back, 10 mm apart'"
)


def in_words(text: str) -> Section | None:
    """Return the built section that words describe, or None where they describe none.

    Raises
    ------
    InputError
        If they begin to describe one and cannot be followed.

    Examples
    --------
    >>> in_words("2 L4X3X1/4 long legs back to back, 3/8 in apart").shape
    'double angle'
    """
    text = " ".join(text.split())
    if match := _PAIR.fullmatch(text):
        gap = parse(match["gap"], "dimension") if match["gap"] else 0.0
        how, of = match["how"].casefold(), section(match["of"])
        if how.startswith("side") != (of.shape in I_SHAPES):
            raise InputError(
                f"{of.name} is a {of.shape}; a pair is of channels or angles back to back, of "
                "channels toe to toe, or of I-shapes side by side"
            )
        facing = how.startswith(("toe", "face"))
        upright = (match["legs"] or "long").casefold()
        return pair(of, gap, facing, upright)
    match = _WITH.fullmatch(text)
    if match is None:
        return None
    base = section(match[1])
    plates: dict[str, Plate] = {}
    for part in re.split(r"\s+and\s+(?=an?\s|\d)", match[2]):
        if plate := _PLATE.fullmatch(part):
            size = (
                parse(f"{plate['b']} {plate['first'] or plate['unit']}", "dimension"),
                parse(f"{plate['t']} {plate['unit']}", "dimension"),
            )
            where = plate["where"].casefold()
            plates |= dict.fromkeys(("top", "bottom") if where == "both" else (where,), size)
        elif (cap := _CAP.fullmatch(part)) and find(cap[1]) and not plates:
            return capped(base, section(cap[1]))
        else:
            raise InputError(f"{part!r} is no plate and no cap; write it like {SUCH_AS}")
    return plated(base, plates.get("top"), plates.get("bottom"))


def part_of_pair(name: str) -> str | None:
    """Return the name of one of the two sections of a pair in words; None of what is no pair.

    Examples
    --------
    >>> part_of_pair("2 UPN160 back to back, 180 mm apart")
    'UPN160'
    """
    match = _PAIR.fullmatch(" ".join(name.split()))
    return match["of"] if match else None


def section_in_words(text: str) -> Section:
    """Return a section by its name, or by the words that build it.

    Raises
    ------
    InputError
        If no catalogue has it and the words cannot be followed.

    Examples
    --------
    >>> section_in_words("W16X40 with a 8 in x 1/2 in plate on both flanges").shape
    'plated I'
    """
    return in_words(text) or section(text)
