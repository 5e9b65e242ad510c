"""The blocks of a document: what a page says, whatever it is written on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
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
        largest number first. Of those of 0 words break before the last of the numbers are left out.
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
    changed : set of int
        The numbers of the rows that have a mark in the margin of a book.
    """

    columns: Sequence[Column]
    rows: list[tuple[Cell, ...]] = field(default_factory=list)
    rules: set[int] = field(default_factory=set)
    title: str = ""
    plain: bool = False
    changed: set[int] = field(default_factory=set)

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

    @property
    def is_gap(self) -> bool:
        """Whether there is nothing in it."""
        return not any(run.text.strip() for run in self.words)


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
    """Entries of a working, with the units to show them in.

    Attributes
    ----------
    entries : sequence of Entry
    show : DisplayUnits
    anchors, links : mapping of int to str
        Of the headings among them, by number: what links find them by, and where they lead to.
    level : int
        Of the heading that they stand below.
    """

    entries: Sequence[Entry]
    show: DisplayUnits
    anchors: Mapping[int, str] = field(default_factory=dict)
    links: Mapping[int, str] = field(default_factory=dict)
    level: int = 2


@dataclass(frozen=True)
class Verdict:
    """The closing words of a section."""

    text: str


# Of a book


@dataclass(frozen=True)
class Logo:
    """A picture as it stands in its file.

    Attributes
    ----------
    kind : str
        ``"svg+xml"``, ``"png"`` or ``"jpeg"``.
    content : bytes
    shape : float
        Width over height.
    """

    kind: str
    content: bytes
    shape: float


@dataclass(frozen=True)
class Cover:
    """The first page: what the book is, and who made it; ``logo`` is a picture at its top."""

    title: str
    subtitle: str
    pairs: Sequence[tuple[str, str]]
    logo: Logo | None = None


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
    changed : bool
        Whether it has a mark in the margin.
    begins_page : bool
        As a chapter always does. Pages that begin anew can be set at the same time.
    """

    title: str
    level: int = 1
    anchor: str = ""
    beside: str = ""
    changed: bool = False
    begins_page: bool = False


@dataclass(frozen=True)
class Drawing:
    """A figure as SVG, what it shows, and the share of the page's width that it takes."""

    svg: str
    words: str
    share: float = 1.0


@dataclass(frozen=True)
class Abreast:
    """A drawing or a table, with a table at its right."""

    left: Drawing | Table
    right: Table


Block = (
    Table | Paragraph | Title | Pairs | Notes | Section | Steps | Verdict
    | Cover | Contents | Chapter | Drawing | Abreast
)  # fmt: skip
Document = Sequence[Block]


def paragraph(text: str = "", style: Style = "") -> Paragraph:
    """Return a paragraph in one style."""
    return Paragraph((Words(text, style),))
