"""A sheet as a value: drawings at their scales on paper, with a frame and a title block; painted on any page, or
written to a file."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from korbent.core.model.project import Title
from korbent.core.model.sheets import Revision
from korbent.drawing import painting
from korbent.drawing.painting import Measure, Page
from korbent.drawing.placing import arranged
from korbent.drawing.primitives import Drawing, Line, Placement, Polygon, Sketch, Text, rectangle
from korbent.files.office import logo_file, title_block
from korbent.files.pdf_page import width_of
from korbent.sheets.logo import svg_shapes
from korbent.sheets.paper import MM
from korbent.words import say

EDGE = 10.0
"""From the edge of the paper to the frame, mm."""
BLOCK = 68.0
"""Width of the title block at the right side, mm."""
PX = 0.2751667
"""mm of paper to a px of the screen: type and lines on a sheet (0.78 pt)."""


class Paper:
    """Widths of texts on paper, mm (see korbent.drawing.painting.Measure)."""

    px = PX

    def width_of(self, text: str, size: float, bold: bool) -> float:
        """Width of a text, mm."""
        return width_of(text, size * PX, bold)


@dataclass(frozen=True)
class View:
    """A drawing at a scale of 1 to ``scale``; its bounds begin at ``left``, ``top`` of the paper (mm from the upper
    left)."""

    name: str
    drawing: Drawing
    scale: float
    left: float
    top: float
    part_of: Drawing | None = None
    """The whole drawing, where this is a part cut out of it."""

    @property
    def size(self) -> tuple[float, float]:
        """What its bounds take of the paper, mm."""
        x0, y0, x1, y1 = self.drawing.bounds
        return 1000 * (x1 - x0) / self.scale, 1000 * (y1 - y0) / self.scale

    def placement(self, per_mm: float) -> Placement:
        """Where the drawing falls on a page of so many units to a mm."""
        x0, _, _, y1 = self.drawing.bounds
        return Placement(1000 * per_mm / self.scale, self.left * per_mm, self.top * per_mm, x0, y1)


@dataclass(frozen=True)
class Sheet:
    """Views on paper (width and height in mm); ``frame`` is drawn in m of paper from its lower left corner, at 1:1."""

    key: str
    title: str
    width: float
    height: float
    views: tuple[View, ...]
    frame: Drawing
    paper: str = ""
    scales: str = ""
    """The scales of its views in words."""
    number: int = 1
    of: int = 1

    @property
    def whole(self) -> tuple[View, ...]:
        """The views with the frame as the last of them."""
        return (*self.views, View("frame", self.frame, 1.0, 0.0, 0.0))


@dataclass(frozen=True)
class Block:
    """What stands in the title block."""

    title: Title
    revisions: tuple[Revision, ...] = ()
    sheet: str = ""
    scales: str = ""
    paper: str = ""
    number: int = 1
    of: int = 1
    notes: tuple[tuple[str, tuple[str, ...]], ...] = ()
    """Texts above the block, by their headings."""
    logo: bool = False


def paint(sheet: Sheet, page: Page, per_mm: float) -> None:
    """Paints a sheet on a page of ``per_mm`` units to a mm of paper."""
    size = (sheet.width * per_mm, sheet.height * per_mm)
    for view in sheet.whole:
        place = view.placement(per_mm)
        painting.paint(page, arranged(page, view.drawing, place, size).shapes, place)


def laid(sheet: Sheet, measure: Measure, per_mm: float) -> Sheet:
    """The sheet with its labels where none lies on another."""
    size = (sheet.width * per_mm, sheet.height * per_mm)
    return replace(
        sheet,
        views=tuple(replace(v, drawing=arranged(measure, v.drawing, v.placement(per_mm), size)) for v in sheet.views),
    )


def room(width: float, height: float, block: bool = True) -> tuple[float, float, float, float]:
    """What the frame leaves for views on a paper: left, top, width, height, mm."""
    inner = 4.0
    return (
        EDGE + inner,
        EDGE + inner,
        width - 2 * EDGE - 2 * inner - (BLOCK if block else 0.0),
        height - 2 * EDGE - 2 * inner,
    )


def px(mm: float) -> float:
    """Size of type for a height of capitals of so many mm."""
    return mm / 0.66 / PX - 1


def wrapped(text: str, size: float, wide: float) -> list[str]:
    """A text in lines of at most ``wide`` mm."""
    lines: list[str] = []
    for part in text.splitlines() or [""]:
        line = ""
        for word in part.split(" "):
            more = f"{line} {word}".strip()
            if line and width_of(more, (size + 1) * PX, False) > wide:
                lines.append(line)
                line = word
            else:
                line = more
        lines.append(line)
    return lines


@dataclass
class _Block:
    """The title block as it grows upwards, in mm of paper."""

    sketch: Sketch
    left: float
    right: float
    y: float

    @property
    def wide(self) -> float:
        """Of a line of text."""
        return BLOCK - 6

    def line(self, a: float, b: float, c: float, d: float, wide: float = 1.0) -> None:
        """From a place to another."""
        self.sketch.add(Line(((a * MM, b * MM), (c * MM, d * MM)), "ink", wide))

    def text(
        self, x: float, y: float, said: str, mm: float = 2.2, bold: bool = False, tone: str = "ink", wide: float = 0.0
    ) -> None:
        """From the left of the block on."""
        if said:
            self.sketch.add(
                Text(((self.left + x) * MM, y * MM), said, px(mm), tone, bold=bold, fixed=True, room=wide * MM)
            )

    def rule(self) -> None:
        """Across the block where it has come to."""
        self.line(self.left, self.y, self.right, self.y, 0.8)

    def row(self, fields: tuple[tuple[str, str], ...]) -> None:
        """Fields side by side."""
        each = BLOCK / len(fields)
        for k, (name, said) in enumerate(fields):
            self.text(k * each + 3, self.y + 8.2, name, 1.5, tone="soft")
            self.text(k * each + 3, self.y + 3, said or "–", 2.2, True, wide=each - 4)
            if k:
                self.line(self.left + k * each, self.y, self.left + k * each, self.y + 11.5, 0.6)
        self.y += 11.5
        self.rule()

    def named(self, name: str, said: str, mm: float) -> None:
        """A field over the whole width, in as many lines as it takes; nothing where it is empty."""
        if not said:
            return
        lines = wrapped(said, px(mm), self.wide)
        for k, part in enumerate(reversed(lines)):
            self.text(3, self.y + 3.2 + k * mm * 1.9, part, mm, True)
        self.y += 3.2 + len(lines) * mm * 1.9
        self.text(3, self.y + 0.6, name, 1.5, tone="soft")
        self.y += 4.2
        self.rule()

    def office(self, name: str, logo: bool) -> None:
        """Whose sheet it is."""
        if not name and not logo:
            return
        if logo:
            box = ((self.left + 3) * MM, (self.y + 9) * MM, (self.right - 3) * MM, (self.y + 25) * MM)
            self.sketch.add(Polygon(rectangle(*box), None, None, key="logo"))
            path = logo_file()
            if path is not None and path.suffix == ".svg":
                self.sketch.add(*svg_shapes(path, box))
        self.text(3, self.y + 3.2, name, 2.6, True, wide=self.wide)
        self.y += 28 if logo else 10
        self.rule()

    def revisions(self, rows: Sequence[Revision]) -> None:
        """The last ones, the newest on top."""
        if not rows:
            return
        for revision in reversed(rows[-8:]):
            lines = wrapped(revision.reason or "–", px(1.8), self.wide - 30)
            for k, part in enumerate(reversed(lines)):
                self.text(28, self.y + 2 + k * 3.4, part, 1.8)
            at = self.y + 2 + (len(lines) - 1) * 3.4
            self.text(3, at, revision.name, 1.8, True)
            self.text(10, at, revision.date, 1.8, wide=17)
            self.y += 1.8 + 3.4 * len(lines)
        self.text(3, self.y + 1.6, "revisions", 1.5, tone="soft")
        self.y += 5
        self.rule()

    def notes(self, notes: Sequence[tuple[str, Sequence[str]]], top: float) -> None:
        """From the top down, as many as there is room for."""
        for heading, said_of in notes:
            body = [part for said in said_of for part in wrapped(said, px(1.9), self.wide)]
            if top - 4.5 - 3.7 * len(body) < self.y:
                body = [*body[: max(int((top - 4.5 - self.y) / 3.7) - 1, 0)], "…"]
            if top - 5 < self.y:
                break
            self.text(3, top - 1, heading, 1.9, True, tone="soft")
            top -= 5.5
            for said in body:
                self.text(3, top, said, 1.9)
                top -= 3.7
            top -= 3


def frame(width: float, height: float, block: Block) -> Drawing:
    """The frame of a sheet with its title block at the right side, in m of paper."""
    sketch = Sketch(layer="frame")
    x0, y0, x1, y1 = EDGE, EDGE, width - EDGE, height - EDGE
    sketch.add(Polygon(rectangle(x0 * MM, y0 * MM, x1 * MM, y1 * MM), None, "ink", 2.4))
    own, title = _Block(sketch, x1 - BLOCK, x1, y0), block.title
    own.line(own.left, y0, own.left, y1, 1.6)
    own.row(((say("number"), title.number), (say("revision"), title.revision)))
    own.row(((say("drawn"), title.author), (say("checked"), title.checker), (say("date"), title.date)))
    own.row(((say("scale"), block.scales), (say("paper"), block.paper)))
    own.row(((say("sheet"), say("{number} of {of}", number=block.number, of=block.of)),))
    own.named(say("sheet"), block.sheet, 3.2)
    own.named(say("client"), title.client, 2.2)
    own.named(say("project"), title.project, 3.2)
    own.office(title.office or title_block().get("office", ""), bool(block.logo))
    own.revisions(block.revisions)
    own.notes(block.notes, y1 - 6)
    return Drawing(tuple(sketch.shapes), (0.0, 0.0, width * MM, height * MM))
