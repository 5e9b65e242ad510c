"""What a standard leaves to be said: the base of every standard's options."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict


class Options(BaseModel):
    """Choices that belong to one standard; unknown ones are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)
