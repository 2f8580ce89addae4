"""What a calculation consists of, as values: written to PDF, DOCX and HTML in the same order with the same words."""

from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from korbent.drawing.primitives import Drawing


@dataclass(frozen=True)
class Heading:
    """A heading; ``anchor`` is what links go to, level 1 begins a page and a chapter."""

    text: str
    level: int = 2
    anchor: str = ""
    page: bool = False
    """Begins a page though it is no chapter."""


@dataclass(frozen=True)
class Para:
    """A paragraph; ``link`` makes all of it a link."""

    text: str
    small: bool = False
    bold: bool = False
    link: str = ""


@dataclass(frozen=True)
class Cell:
    """A text in a table with a link, or one that stands out."""

    text: str
    link: str = ""
    beyond: bool = False


Entry = str | Cell


@dataclass(frozen=True)
class Table:
    """Rows under a head; widths are shares, the columns named in ``right`` are set to the right."""

    head: tuple[str, ...]
    rows: tuple[tuple[Entry, ...], ...]
    widths: tuple[float, ...]
    right: tuple[int, ...] = ()
    tight: bool = False
    """Many rows on a page."""


@dataclass(frozen=True)
class Figure:
    """A drawing as wide as the page (or its share of a row), ``height`` mm high, with a title."""

    drawing: Drawing
    height: float
    title: str = ""


@dataclass(frozen=True)
class Row:
    """Figures beside each other."""

    figures: tuple[Figure, ...]


@dataclass(frozen=True)
class Piece:
    """Letters of a line of a working: numbers that were put in link to where they come from."""

    text: str
    link: str = ""
    look: str = ""
    """'' , 'value' or 'soft'."""


@dataclass(frozen=True)
class Step:
    """A line of a working, with the name that links go to."""

    pieces: tuple[Piece, ...]
    anchor: str = ""

    @property
    def text(self) -> str:
        """The line as plain text."""
        return "".join(p.text for p in self.pieces)


@dataclass(frozen=True)
class Contents:
    """The table of contents."""


Block = Heading | Para | Table | Figure | Row | Step | Contents


@dataclass(frozen=True)
class Calculation:
    """A calculation with what stands at the head and foot of every page."""

    title: str
    head: str
    foot: str
    author: str
    blocks: tuple[Block, ...] = field(default=())
    page: tuple[float, float] = (210.0, 297.0)
    """Width and height of the paper, mm."""

    def fitted(self, figure: "Figure") -> "Figure":
        """A drawing no higher than a page less its heading."""
        return replace(figure, height=min(figure.height, self.page[1] - 65))


def entry(value: Entry) -> str:
    """The text of an entry of a table."""
    return value.text if isinstance(value, Cell) else value


def headings(blocks: Sequence[Block], deepest: int = 2) -> list[Heading]:
    """The headings that the contents list."""
    return [b for b in blocks if isinstance(b, Heading) and b.level <= deepest and b.anchor]
