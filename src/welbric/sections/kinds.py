"""The kinds of shapes: the dimensions each takes, and how it is computed."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import Any

import numpy as np

from welbric.errors import did_you_mean, wrong
from welbric.sections import i_shape
from welbric.sections.table import DENSITY, Section, SectionTable
from welbric.units import both


@dataclass(frozen=True)
class Kind:
    """A kind of shape.

    Attributes
    ----------
    make : callable
        Dimensions as arrays -> every property as arrays.
    sizes : tuple of str
        The dimensions it needs.
    optional : tuple of str
        The dimensions that are zero where they are not given.
    """

    make: Callable[..., dict[str, Any]]
    sizes: tuple[str, ...]
    optional: tuple[str, ...] = ()


def _from(module: str, name: str) -> Callable[..., dict[str, Any]]:
    """Return a maker whose module is imported when it is first needed."""

    def make(**sizes: Any) -> dict[str, Any]:
        found: dict[str, Any] = getattr(import_module(f"welbric.sections.{module}"), name)(**sizes)
        return found

    return make


def _i(**sizes: Any) -> dict[str, Any]:
    return i_shape.complete(i_shape.properties(**sizes))


def _nominal(make: Callable[..., dict[str, Any]]) -> Callable[..., dict[str, Any]]:
    """Return a maker of tubes that takes the nominal thickness along, where it is another one.

    The strength goes by the design wall, the mass by the nominal one.
    """

    def tube(t_nominal: Any = None, **sizes: Any) -> dict[str, Any]:
        found = make(**sizes)
        nominal = found["t"] if t_nominal is None else np.asarray(t_nominal, dtype=float)
        nominal = np.where(nominal > 0, nominal, found["t"])
        if np.any(nominal != found["t"]):
            found["mass"] = make(**_as_rolled(found, nominal))["A"] * DENSITY
        return found | {"t_nominal": nominal, "thickest": nominal}

    return tube


def _as_rolled(found: dict[str, Any], nominal: Any) -> dict[str, Any]:
    """Return the dimensions of tubes with their nominal walls; the corners grow with the wall."""
    sizes = {"d": found["d"], "t": nominal}
    if "b" in found:
        half, more = np.minimum(found["d"], found["b"]) / 2, nominal / found["t"]
        sizes |= {
            "b": found["b"],
            "r_out": np.minimum(found["r_out"] * more, half),
            "r_in": np.minimum(found["r_in"] * more, np.maximum(half - nominal, 0.0)),
        }
    return sizes


_I = ("d", "bf", "tw", "tf")
_TAPER = ("r", "r_toe")
KINDS: dict[str, Kind] = {
    "rolled I": Kind(_i, _I, ("r",)),
    "tapered I": Kind(_from("tapered", "tapered_i"), (*_I, "slope"), _TAPER),
    "welded I": Kind(_i, _I),
    "unequal I": Kind(
        _from("shapes", "unequal_i"), ("d", "bf_top", "tf_top", "bf_bottom", "tf_bottom", "tw")
    ),
    "channel": Kind(_from("shapes", "channel"), _I, ("r",)),
    "tapered channel": Kind(_from("tapered", "tapered_channel"), (*_I, "slope"), _TAPER),
    "angle": Kind(_from("shapes", "angle"), ("d", "b", "t"), ("r", "r_toe")),
    "double angle": Kind(_from("compound", "double_angle"), ("d", "b", "t"), ("r", "r_toe", "gap")),
    "tee": Kind(_from("shapes", "tee"), _I, ("r",)),
    "tapered tee": Kind(_from("tapered", "tapered_tee"), (*_I, "slope"), _TAPER),
    "rectangular tube": Kind(
        _nominal(_from("shapes", "rectangular_tube")),
        ("d", "b", "t"),
        ("r_out", "r_in", "t_nominal"),
    ),
    "round tube": Kind(_nominal(_from("shapes", "round_tube")), ("d", "t"), ("t_nominal",)),
    "welded box": Kind(_from("shapes", "welded_box"), ("d", "b", "tw", "tf")),
    "round bar": Kind(_from("shapes", "round_bar"), ("d",)),
    "flat bar": Kind(_from("shapes", "flat_bar"), ("d", "b")),
    "plated I": Kind(
        _from("compound", "plated_i"), _I, ("r", "b_top", "t_top", "b_bottom", "t_bottom")
    ),
    "capped I": Kind(
        _from("compound", "capped_i"), (*_I, "cap_d", "cap_bf", "cap_tw", "cap_tf"), ("r", "cap_r")
    ),
    "double channel": Kind(
        _from("compound", "double_channel"),
        _I,
        ("r", "gap", "toes_in", "slope", "r_toe", "tf_from_tip"),
    ),
    "double I": Kind(_from("compound", "double_i"), _I, ("r", "gap")),
}


def kind(shape: str) -> Kind:
    """Return a kind of shape by name.

    Raises
    ------
    InputError
        If there is none; the nearest names are offered.
    """
    if shape not in KINDS:
        hint = did_you_mean(shape, KINDS)
        raise wrong(f"no shape {shape!r}{hint}; known: {', '.join(KINDS)}", "shape")
    return KINDS[shape]


def article(word: str) -> str:
    """Return the article that goes before a word."""
    return "an" if word[:1].casefold() in "aeiou" else "a"


def table_of(shape: str, names: Sequence[str], **sizes: Any) -> SectionTable:
    """Return a table of sections by their dimensions, with the mass of steel.

    Parameters
    ----------
    shape : str
        A name of `KINDS`.
    names : sequence of str, shape (S,)
    **sizes : array_like, shape (S,), mm
        The dimensions of the kind.

    Raises
    ------
    InputError
        If there is no such kind of shape.
    ValueError
        If dimensions do not fit into one another.

    Examples
    --------
    >>> plates = table_of("welded I", ["A", "B"], d=[400, 500], bf=200, tw=8, tf=[14, 16])
    >>> [round(A) for A in plates.A]
    [8576, 10144]
    """
    found = kind(shape).make(**sizes)
    columns = {name: np.broadcast_to(value, (len(names),)) for name, value in found.items()}
    columns["mass"] = columns.get("mass", columns["A"] * DENSITY)
    return SectionTable(shape, names, columns)


def own_section(shape: str, name: str, sizes: Mapping[str, float]) -> Section:
    """Return one section by its dimensions, mm.

    Raises
    ------
    InputError
        If a dimension is missing or not one of this kind of shape.
    ValueError
        If the dimensions do not fit into one another.
    """
    wanted = kind(shape)
    missing = [size for size in wanted.sizes if size not in sizes]
    if missing:
        has = f"{article(shape)} {shape} has {', '.join(wanted.sizes)}"
        raise wrong(f"is missing; {has}", missing[0])
    for size in sizes:
        if size not in (*wanted.sizes, *wanted.optional):
            known = (*wanted.sizes, *wanted.optional)
            raise wrong(f"{article(shape)} {shape} has none; it has {', '.join(known)}", size)
    for size, value in sizes.items():
        if not (value > 0 if size in wanted.sizes and size != "slope" else value >= 0):
            rule = "greater than zero" if size in wanted.sizes else "not less than zero"
            given = both(value, "dimension") if np.isfinite(value) else f"{value} mm"
            raise wrong(f"{given} is given; it is {rule}", size)
    return table_of(shape, [name], **{key: [value] for key, value in sizes.items()})[0]


def as_welded_i(section: Section) -> Section:
    """Return an unequal I with like flanges as the welded I that it is; others as they are."""
    s = section.properties
    if section.shape != "unequal I" or any(
        abs(s[f"{of}_top"] - s[f"{of}_bottom"]) > 1e-9 * s[f"{of}_top"] for of in ("bf", "tf")
    ):
        return section
    sizes = {"d": s["d"], "bf": s["bf_top"], "tw": s["tw"], "tf": s["tf_top"]}
    return own_section("welded I", section.name, sizes)
