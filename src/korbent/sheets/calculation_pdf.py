"""A calculation as a PDF: selectable text, bookmarks, links from numbers to their lines, page n of m."""

import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    Flowable,
    Frame,
    KeepTogether,
    PageBreak,
    PageTemplate,
    Paragraph,
    Spacer,
    TableStyle,
)
from reportlab.platypus import Table as PdfTable

from korbent.drawing.theme import LIGHT
from korbent.files.atomic import replacing
from korbent.files.formula_line import FormulaLine, Run, with_indices
from korbent.files.pdf_page import BOLD, REGULAR, paint, register_fonts
from korbent.sheets.calculation.blocks import (
    Block,
    Calculation,
    Cell,
    Contents,
    Entry,
    Figure,
    Heading,
    Para,
    Row,
    Step,
    Table,
    headings,
)
from korbent.words import say

MARGIN = 18 * mm
SMALL = 7.6
GAP = 4 * mm


def _head_and_foot(canvas: Canvas, own: Calculation, pages: int) -> None:
    """What stands on every page."""
    width, height = canvas._pagesize
    top, foot = height - 11 * mm, 10 * mm
    canvas.saveState()
    canvas.setStrokeColor(HexColor(LIGHT.line))
    canvas.setLineWidth(0.6)
    canvas.line(MARGIN, top - 4, width - MARGIN, top - 4)
    canvas.line(MARGIN, foot + 9, width - MARGIN, foot + 9)
    canvas.setFillColor(HexColor(LIGHT.ink))
    canvas.setFont(BOLD, 8.5)
    canvas.drawString(MARGIN, top, own.title)
    canvas.setFont(REGULAR, 8)
    canvas.drawRightString(width - MARGIN, top, own.head)
    canvas.drawString(MARGIN, foot, own.foot)
    canvas.drawRightString(
        width - MARGIN, foot, say("page {getPageNumber} of {pages}", getPageNumber=canvas.getPageNumber(), pages=pages)
    )
    canvas.restoreState()


class _Measuring(Canvas):  # type: ignore[misc]
    """Of the first time, when only places are asked for: what is drawn and written is left out."""

    def save(self) -> None:
        """Nothing is kept."""


class _Drawn(Flowable):  # type: ignore[misc]
    """A drawing with a title and a thin frame."""

    def __init__(self, figure: Figure, width: float) -> None:
        super().__init__()
        self.figure, self.width, self.height = figure, width, figure.height * mm

    def wrap(self, *_: float) -> tuple[float, float]:
        return self.width, self.height + (12 if self.figure.title else 0)

    def draw(self) -> None:
        if isinstance(self.canv, _Measuring):
            return
        if self.figure.title:
            self.canv.setFont(BOLD, 8.5)
            self.canv.setFillColor(HexColor(LIGHT.ink))
            self.canv.drawString(0, self.height + 3, self.figure.title)
        paint(self.canv, self.figure.drawing, 0, 0, self.width, self.height)
        self.canv.setStrokeColor(HexColor(LIGHT.line))
        self.canv.setLineWidth(0.5)
        self.canv.rect(0, 0, self.width, self.height)


class _Place(Flowable):  # type: ignore[misc]
    """Where links and bookmarks go to: no height of its own."""

    def __init__(self, name: str, title: str = "", level: int = 0) -> None:
        super().__init__()
        self.name, self.title, self.level = name, title, level
        self.keepWithNext = True

    def wrap(self, *_: float) -> tuple[float, float]:
        return 0.0, 0.0

    def draw(self) -> None:
        self.canv.bookmarkHorizontal(self.name, 0, 14)
        if self.title:
            self.canv.addOutlineEntry(self.title, self.name, self.level, closed=self.level == 0)


class _Line(FormulaLine):
    """A line of a working that links go to, with links in it."""

    name = ""

    def draw(self) -> None:
        if self.name:
            self.canv.bookmarkHorizontal(self.name, 0, self.height)
        if not isinstance(self.canv, _Measuring):
            super().draw()

    def split(self, width: float, height: float) -> list[Any]:
        parts = super().split(width, height)
        found = [_Line((), self.style, part.lines) for part in parts]
        if found:
            found[0].name = self.name
        return found


def _style(name: str, size: float, bold: bool = False, **more: Any) -> ParagraphStyle:
    return ParagraphStyle(
        name,
        fontName=BOLD if bold else REGULAR,
        fontSize=size,
        leading=size * 1.28,
        textColor=HexColor(LIGHT.ink),
        **more,
    )


STYLES = {
    0: ("title", 20.0, 4.0),
    1: ("h1", 14.0, 4.0),
    2: ("h2", 10.5, 3.0),
    3: ("h3", 9.0, 2.0),
}


def write_calculation(own: Calculation, path: Path) -> int:
    """Writes a calculation as a PDF. Returns the number of pages.

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    data, pages = calculation_pdf(own)
    with replacing(Path(path)) as part:
        part.write_bytes(data)
    return pages


def calculation_pdf(own: Calculation) -> tuple[bytes, int]:
    """(the bytes of the PDF, the number of its pages)."""
    register_fonts()
    size = tuple(side * mm for side in own.page)
    width = size[0] - 2 * MARGIN
    pages_of: dict[str, int] = {}
    pages = 0
    # how many pages there are, and on which the headings stand, is known when all is laid out: the second time it is written
    for canvas in (_Measuring, Canvas):
        out = io.BytesIO()
        document = _Document(
            out,
            pagesize=size,
            invariant=1,
            title=say("{title}: foundations", title=own.title),
            author=own.author,
            leftMargin=MARGIN,
            rightMargin=MARGIN,
            topMargin=17 * mm,
            bottomMargin=17 * mm,
        )
        document.pages_of = pages_of
        frame = Frame(MARGIN, 15 * mm, width, size[1] - 31 * mm, 0, 0, 0, 0)

        def on_page(canvas: Canvas, _: object, count: int = pages) -> None:
            _head_and_foot(canvas, own, count)

        document.addPageTemplates(PageTemplate("page", [frame], onPageEnd=on_page))
        document.build(list(_story(own, width, pages_of)), canvasmaker=canvas)
        pages = int(document.page)
    return out.getvalue(), pages


class _Document(BaseDocTemplate):  # type: ignore[misc]
    """Remembers the page of every heading."""

    pages_of: dict[str, int]

    def afterFlowable(self, flowable: Flowable) -> None:
        if isinstance(flowable, _Place):
            self.pages_of.setdefault(flowable.name, self.page)
            self.pages_of[flowable.name] = self.page


def _story(own: Calculation, width: float, pages_of: dict[str, int]) -> Iterator[Flowable]:
    text, small, bold = _style("text", 9), _style("small", SMALL), _style("bold", 9, True)
    step = _style("step", 8.2, spaceAfter=1.5)
    begun = False
    pending: list[Flowable] = []
    deepest = -1
    for k, block in enumerate(own.blocks):
        if isinstance(block, Heading):
            if (block.level == 1 or block.page) and begun and not _just_begun(own.blocks, k):
                yield from pending
                pending = []
                yield PageBreak()
            name, size, after = STYLES[min(block.level, 3)]
            style = _style(name, size, True, spaceAfter=after, spaceBefore=0 if block.level < 2 else 7, keepWithNext=1)
            if block.anchor:
                level = min(max(block.level - 1, 0), deepest + 1)
                deepest = level
                pending.append(_Place(block.anchor, block.text, level))
            pending.append(Paragraph(escape(block.text), style))
            begun = True
            continue
        flowables = list(_flowables(block, own, width, pages_of, text, small, bold, step))
        if pending and flowables:
            yield (
                KeepTogether([*pending, flowables[0]]) if not isinstance(block, Table) else _kept(pending, flowables[0])
            )
            yield from flowables[1:]
            pending = []
        else:
            yield from flowables
        begun = True
    yield from pending


def _kept(pending: list[Flowable], table: Flowable) -> Flowable:
    """A heading stays with the table below it unless that is longer than a page."""
    return KeepTogether([*pending, table])


def _just_begun(blocks: tuple[Block, ...], k: int) -> bool:
    """A chapter whose first heading follows at once begins no second page."""
    return k > 0 and isinstance(blocks[k - 1], Heading)


def _flowables(
    block: Block,
    own: Calculation,
    width: float,
    pages_of: dict[str, int],
    text: ParagraphStyle,
    small: ParagraphStyle,
    bold: ParagraphStyle,
    step: ParagraphStyle,
) -> Iterator[Flowable]:
    match block:
        case Para():
            said = escape(block.text)
            if block.link:
                said = f'<a href="#{escape(block.link)}" color="{LIGHT.accent}">{said}</a>'
            yield Paragraph(said, bold if block.bold else small if block.small else text)
            yield Spacer(1, 2)
        case Table():
            yield _table(block, width)
            yield Spacer(1, 5)
        case Figure():
            yield Spacer(1, 2)
            yield _Drawn(own.fitted(block), width)
            yield Spacer(1, 6)
        case Row():
            each = (width - GAP * (len(block.figures) - 1)) / len(block.figures)
            cells = PdfTable(
                [[_Drawn(own.fitted(f), each) for f in block.figures]],
                colWidths=[*([each + GAP] * (len(block.figures) - 1)), each],
            )
            cells.setStyle(TableStyle([("LEFTPADDING", (0, 0), (-1, -1), 0), ("RIGHTPADDING", (0, 0), (-1, -1), 0)]))
            yield cells
        case Step():
            yield _step(block, step)
        case Contents():
            rows = tuple(
                (Cell("     " * (h.level - 1) + h.text, h.anchor), str(pages_of.get(h.anchor, "")))
                for h in headings(own.blocks)
            )
            yield Paragraph(say("Contents"), _style("h2", 10.5, True, spaceBefore=10, spaceAfter=3))
            yield _table(Table(("", ""), rows, (160, 14), (1,), tight=True), width)


def _step(block: Step, style: ParagraphStyle) -> _Line:
    size = style.fontSize
    runs: list[Run] = []
    for piece in block.pieces:
        if piece.look == "value":
            runs.append(Run(piece.text, BOLD, size, 0.0, LIGHT.ink))
        elif piece.look == "soft":
            runs.append(Run(piece.text, REGULAR, 7.0, 0.0, LIGHT.soft))
        elif piece.link:
            runs.append(Run(piece.text, REGULAR, size, 0.0, LIGHT.ink, piece.link))
        else:
            runs += with_indices(piece.text, REGULAR, size, LIGHT.ink)
    line = _Line(runs, style)
    line.name = block.anchor
    return line


def _entry(value: Entry, style: ParagraphStyle, wide: float) -> Any:
    """A plain text where it fits and has no link; a paragraph else."""
    from korbent.files.pdf_page import width_of

    shown = value.text if isinstance(value, Cell) else value
    link = value.link if isinstance(value, Cell) else ""
    if not link and width_of(shown, SMALL, False) < wide - 6:
        return shown
    said = escape(shown).replace("     ", "&nbsp;" * 5)
    return Paragraph(f'<a href="#{escape(link)}">{said}</a>' if link else said, style)


def _table(block: Table, width: float) -> PdfTable:
    share = width / sum(block.widths)
    widths = [w * share for w in block.widths]
    plain, strong = _style("cell", SMALL), _style("head", SMALL, True)
    right = {k: _style("right", SMALL, alignment=2) for k in block.right}
    head = [
        Paragraph(escape(h), _style("headright", SMALL, True, alignment=2) if k in block.right else strong)
        for k, h in enumerate(block.head)
    ]
    with_head = any(block.head)
    rows: list[list[Any]] = [head] if with_head else []
    marks: list[tuple[int, int]] = []
    for row in block.rows:
        for k, value in enumerate(row):
            if isinstance(value, Cell) and value.beyond:
                marks.append((k, len(rows)))
        rows.append([_entry(v, right.get(k, plain), widths[k]) for k, v in enumerate(row)])
    if not rows:
        rows = [[""] * len(widths)]
    table = PdfTable(rows, colWidths=widths, repeatRows=1 if with_head else 0)
    above, below = (0.7, 1.1) if block.tight else (1.6, 2.2)
    rules: list[Any] = [
        ("FONT", (0, 0), (-1, -1), REGULAR, SMALL),
        ("TEXTCOLOR", (0, 0), (-1, -1), HexColor(LIGHT.ink)),
        ("LINEBELOW", (0, 0), (-1, -1), 0.3, HexColor(LIGHT.line)),
        ("TOPPADDING", (0, 0), (-1, -1), above),
        ("BOTTOMPADDING", (0, 0), (-1, -1), below),
        ("LEFTPADDING", (0, 0), (-1, -1), 2),
        ("RIGHTPADDING", (0, 0), (-1, -1), 4),
        ("VALIGN", (0, 0), (-1, -1), "MIDDLE"),
        *(("ALIGN", (k, 0), (k, -1), "RIGHT") for k in block.right),
    ]
    if with_head:
        rules += [("BACKGROUND", (0, 0), (-1, 0), HexColor(LIGHT.desk))]
    rules += [("TEXTCOLOR", at, at, HexColor(LIGHT.beyond)) for at in marks]
    rules += [("FONT", at, at, BOLD, SMALL) for at in marks]
    table.setStyle(TableStyle(rules))
    table.hAlign = "LEFT"
    return table
