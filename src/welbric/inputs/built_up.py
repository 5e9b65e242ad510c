"""What makes two channels or two I-shapes apart from one another one member."""

from __future__ import annotations

from typing import Literal

from pydantic import model_validator

from welbric.errors import wrong
from welbric.inputs.descriptions import Described, Dimension, Length
from welbric.inputs.own_shapes import SectionChoice


class _Webbing(Described):
    """What all webbing has.

    ``spacing`` is the distance of neighbouring joints on one chord, ``planes`` how many planes of
    it there are side by side.
    """

    spacing: Length
    planes: Literal[1, 2] = 2

    @model_validator(mode="after")
    def _positive(self) -> _Webbing:
        for name in ("spacing", "width", "thickness"):
            if not getattr(self, name, 1.0) > 0:
                raise wrong("is greater than zero", name)
        return self


class Lacing(_Webbing):
    """Diagonals between two chords, one after the other as a zigzag, or with posts."""

    section: SectionChoice
    posts: SectionChoice | None = None


class Battens(_Webbing):
    """Plates across two chords, stiffly joined to them; ``width`` is along the member."""

    width: Dimension
    thickness: Dimension
