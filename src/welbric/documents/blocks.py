"""The blocks of a document: what a page says, whatever it is written on."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

from welbric.units import DisplayUnits
from welbric.working import Entry

Style = Literal["", "strong", "dim", "good", "bad", "unsure", "note"]


@dataclass(frozen=True)
class Words:
    """A run of text in one style; ``link`` is the anchor of a chapter that it leads to."""

    text: str
    style: Style = ""
    link: str = ""


Cell = str | Words | tuple[Words, ...]


@dataclass(frozen=True)
class Column:
    """A column of a table.

    Attributes
    ----------
    heading : str
    right : bool
        Whether it is set to the right, as numbers are.
    wraps : bool
        Whether long texts may be broken.
    widest : int, optional
        Characters, where it wraps.
    spare : int
        Where the page is too narrow for the words of all, columns are left out: those with the
        largest number first, never those of 0.
    """

    heading: str
    right: bool = False
    wraps: bool = False
    widest: int | None = None
    spare: int = 0


@dataclass(frozen=True)
class Table:
    """Rows under headings.

    Attributes
    ----------
    columns : list of Column
    rows : list of tuple of Cell
    rules : set of int
        The numbers of the rows below which there is a line.
    title : str
    plain : bool
        Whether it has no line below its headings.
    """

    columns: Sequence[Column]
    rows: list[tuple[Cell, ...]] = field(default_factory=list)
    rules: set[int] = field(default_factory=set)
    title: str = ""
    plain: bool = False

    def add(self, *cells: Cell) -> None:
        """Add a row."""
        self.rows.append(cells)

    def rule(self) -> None:
        """Put a line below the rows there are."""
        self.rules.add(len(self.rows) - 1)


@dataclass(frozen=True)
class Paragraph:
    """A paragraph; empty for a gap."""

    words: tuple[Words, ...]


@dataclass(frozen=True)
class Title:
    """What the whole is about."""

    text: str


@dataclass(frozen=True)
class Pairs:
    """Names and values, such as what a calculation starts from; each pair holds together."""

    pairs: Sequence[tuple[str, str]]


@dataclass(frozen=True)
class Notes:
    """Remarks, one to a line."""

    notes: Sequence[str]


@dataclass(frozen=True)
class Section:
    """A heading with the clause it is about, numbered in its document."""

    title: str
    clause: str
    number: int


@dataclass(frozen=True)
class Steps:
    """Entries of a working, with the units to show them in."""

    entries: Sequence[Entry]
    show: DisplayUnits


@dataclass(frozen=True)
class Verdict:
    """The closing words of a section."""

    text: str


# Of a book


@dataclass(frozen=True)
class Cover:
    """The first page: what the book is, and who made it."""

    title: str
    subtitle: str
    pairs: Sequence[tuple[str, str]]


@dataclass(frozen=True)
class Contents:
    """The chapters with their pages."""


@dataclass(frozen=True)
class Chapter:
    """A numbered heading: 1 a chapter, which begins a page, 2 and 3 below it.

    Attributes
    ----------
    title : str
    level : int
    anchor : str
        By which links find it; of letters and digits.
    beside : str
        What stands at its right end, such as a clause.
    """

    title: str
    level: int = 1
    anchor: str = ""
    beside: str = ""


@dataclass(frozen=True)
class Drawing:
    """A figure as SVG, and what it shows."""

    svg: str
    words: str


Block = (
    Table | Paragraph | Title | Pairs | Notes | Section | Steps | Verdict
    | Cover | Contents | Chapter | Drawing
)  # fmt: skip
Document = Sequence[Block]


def paragraph(text: str = "", style: Style = "") -> Paragraph:
    """Return a paragraph in one style."""
    return Paragraph((Words(text, style),))
