"""What a description says, leaf by leaf: for listing it, and for comparing it with another."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel

from welbric.inputs.deflection_limits import DeflectionLimit
from welbric.loads.standards import Loading
from welbric.sections.table import Section
from welbric.standards.options import kind_of
from welbric.units import DisplayUnits

EXACT = 7  # digits of a value that is compared
ROUNDED = 10  # digits that its conversion to display units leaves as they were


@dataclass(frozen=True)
class Said:
    """One value that is said.

    Attributes
    ----------
    field : str
        Where it stands, such as ``load 2.line``.
    value : object
        A number in display units, or text.
    unit : str
        Of the number; empty where it has none.
    """

    field: str
    value: Any
    unit: str = ""

    def __str__(self) -> str:
        value = f"{self.value:.{EXACT}g}" if isinstance(self.value, float) else str(self.value)
        return f"{value} {self.unit}" if self.unit else value


def listing(
    description: BaseModel,
    show: DisplayUnits,
    left_out: frozenset[str] = frozenset(),
    usual: bool = False,
) -> list[Said]:
    """Return what a description says, in display units.

    Parameters
    ----------
    description : Described or Options
    show : DisplayUnits
    left_out : frozenset of str
        Fields of its own that are not wanted.
    usual : bool
        Whether what is as usual counts too; else only what is said beyond it.
    """
    return list(_of_model(description, "", show, left_out, usual))


def _of_model(
    model: BaseModel,
    path: str,
    show: DisplayUnits,
    left_out: frozenset[str] = frozenset(),
    usual: bool = False,
) -> Iterator[Said]:
    for name, field in type(model).model_fields.items():
        value = getattr(model, name)
        if name in left_out or value is None:
            continue
        if not usual and value == field.get_default(call_default_factory=True):
            continue
        yield from _of(value, f"{path}{field.alias or name}", kind_of(field), show)


def _of(value: Any, path: str, kind: str, show: DisplayUnits) -> Iterator[Said]:
    match value:
        case Section():
            yield Said(path, value.name)
        case Loading():
            yield Said(path, value.standard.id)
            yield from _of_model(value.options, f"{path}.", show)
        case BaseModel():
            yield from _of_model(value, f"{path}.", show)
        case list() | tuple() if value and all(isinstance(one, BaseModel) for one in value):
            for i, one in enumerate(value, 1):
                yield from _of_model(one, f"{path} {i}.", show)
        case list() | tuple():
            if len(value) == 1:
                yield from _of(value[0], path, kind, show)
                return
            for i, one in enumerate(value, 1):
                yield from _of(one, f"{path} {i}", kind, show)
        case Mapping():
            for key, one in value.items():
                yield from _of(one, f"{path}.{key}", kind, show)
        case DeflectionLimit():
            if value.over is not None:
                yield Said(path, f"span/{value.over:g}")
            if value.at_most is not None:
                yield from _of(value.at_most, f"{path}.at_most", "dimension", show)
        case bool():
            yield Said(path, "yes" if value else "no")
        case float() | int() if kind:
            number = show.convert(float(value), kind)
            yield Said(path, float(f"{number:.{ROUNDED}g}"), show.labels.get(kind, ""))
        case float() | int():
            yield Said(path, float(value))
        case _:
            yield Said(path, str(value))
