"""Sections by their dimensions, in place of a name of the catalogue."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field, ValidationError, ValidationInfo, model_validator

from welbric.errors import InputError
from welbric.inputs.descriptions import Described, Dimension, ReadOnItsOwn, problems
from welbric.sections.catalogues import LONGEST_NAME, find, folded
from welbric.sections.kinds import KINDS, as_welded_i, own_section
from welbric.sections.table import Section

Name = Annotated[str, Field(max_length=40)]
Size = Dimension | None
Point = tuple[Dimension, Dimension]
MOST_CORNERS = 400
_WORDS = ("name", "shape", "toes_in")


class OwnShape(Described):
    """A shape by its dimensions; which it has, `welbric.sections.kinds` tells."""

    shape: str
    name: Name = ""
    d: Size = None
    bf: Size = None
    b: Size = None
    tw: Size = None
    tf: Size = None
    t: Size = None
    t_nominal: Size = None
    bf_top: Size = None
    tf_top: Size = None
    bf_bottom: Size = None
    tf_bottom: Size = None
    b_top: Size = None
    t_top: Size = None
    b_bottom: Size = None
    t_bottom: Size = None
    cap_d: Size = None
    cap_bf: Size = None
    cap_tw: Size = None
    cap_tf: Size = None
    cap_r: Size = None
    gap: Size = None
    r: Size = None
    r_toe: Size = None
    r_out: Size = None
    r_in: Size = None
    slope: Annotated[float, Field(ge=0, lt=0.5)] | None = None
    toes_in: bool = False

    @model_validator(mode="after")
    def _fits_together(self) -> OwnShape:
        self.section()  # says what does not fit
        return self

    def section(self) -> Section:
        """Return the section, with computed properties."""
        sizes = {
            name: float(getattr(self, name))
            for name in type(self).model_fields
            if name not in _WORDS and getattr(self, name) is not None
        }
        if self.toes_in:
            sizes["toes_in"] = 1.0
        shown = (
            [f"{sizes[size]:.4g}" for size in KINDS[self.shape].sizes if size in sizes]
            if (self.shape in KINDS)
            else []
        )
        letters = "I" if self.shape in {"rolled I", "welded I"} else self.shape
        name = self.name or f"{letters} {'x'.join(shown)}"
        return as_welded_i(own_section(self.shape, name, sizes))


class OwnOutline(Described):
    """Any shape by the corners of its outline, x to the right and y upwards.

    ``stocky`` says that no part of it buckles before it yields, which its corners do not tell.
    """

    shape: Literal["outline"]
    name: Name = "outline"
    points: Annotated[list[Point], Field(min_length=3, max_length=MOST_CORNERS)]
    holes: list[Annotated[list[Point], Field(min_length=3, max_length=MOST_CORNERS)]] = []
    thickest: Dimension
    stocky: bool = False

    @model_validator(mode="after")
    def _fits_together(self) -> OwnOutline:
        self.section()
        return self

    def section(self) -> Section:
        """Return the section, with the properties of its polygon."""
        from welbric.sections.general import outline_section
        from welbric.sections.outline import Outline

        if self.thickest <= 0:
            raise ValueError("thickest must be greater than zero")
        outline = Outline(self.points, *self.holes)
        return outline_section(self.name, outline, self.thickest, self.stocky)


def read_own_shape(value: dict[str, Any], context: dict[str, Any] | None) -> Section:
    """Return the section that a table describes.

    Raises
    ------
    InputError
        With each problem.
    """
    model = OwnOutline if value.get("shape") == "outline" else OwnShape
    try:
        return model.model_validate(value, context=context).section()
    except ValidationError as error:
        raise InputError(*problems(error, model)) from None


def read_section(value: Any, info: ValidationInfo) -> Section:
    """Return the section that a name, words or a table of dimensions stand for."""
    if isinstance(value, Section):
        return value
    if isinstance(value, OwnShape | OwnOutline):
        return value.section()
    if isinstance(value, dict):
        return read_own_shape(value, info.context)
    if not isinstance(value, str):
        raise ValueError(f"{value!r}: give a name such as 'W18X50', or a table of dimensions")
    context, key = info.context or {}, folded(value[:LONGEST_NAME])
    if key in context.get("unusable", {}):
        raise ValueError(f"{value!r} is a bad row: {context['unusable'][key]}")
    if key in context.get("sections", {}):
        own: Section = context["sections"][key]
        return own
    if listed := find(value):
        found = listed[0].table()[listed[1]]
        return found if key == folded(found.name) else found.asked_for_by(value.strip())
    from welbric.sections.built import section_in_words

    return section_in_words(value)


_MEANING = (
    "a section by name, by words such as 'W18X46 with a 180 x 15 mm plate on the bottom flange', "
    "or by its dimensions"
)
SectionChoice = Annotated[Section, ReadOnItsOwn(read_section, _MEANING, OwnShape, OwnOutline)]
