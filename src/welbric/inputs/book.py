"""What stands on the cover of a calculation book."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from welbric.inputs.descriptions import Described

Line = Annotated[str, Field(max_length=200)]


class Book(Described):
    """Who made the calculation, for whom, and how far it is; ``more`` has lines of one's own.

    ``logo`` is the path of a picture, from where the job is.
    """

    author: Line = ""
    checker: Line = ""
    client: Line = ""
    date: Line = ""
    revision: Line = ""
    status: Line = ""
    logo: Line = ""
    more: dict[Line, Line] = {}

    def lines(self) -> list[tuple[str, str]]:
        """Return what is said, a name and a value each."""
        names = ("client", "author", "checker", "date", "revision", "status")
        found = [(name.capitalize(), getattr(self, name)) for name in names if getattr(self, name)]
        return found + list(self.more.items())
