"""A page of a PDF on which drawings are painted."""

import math
from collections.abc import Sequence
from pathlib import Path

from reportlab import rl_config
from reportlab.lib.colors import Color, HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from korbent.drawing import painting
from korbent.drawing.patterns import strokes
from korbent.drawing.placing import arranged
from korbent.drawing.primitives import Anchor, Drawing, Point
from korbent.drawing.theme import PRINT, font_file
from korbent.files.atomic import replacing

# bytes as they are: no second coding as letters, which takes a fifth of the time
rl_config.useA85 = 0

REGULAR, BOLD = "Korbent", "Korbent-Bold"
TYPE = 0.78
"""Type on the sheet over type on the screen: pt of a px."""


def register_fonts() -> None:
    """Makes the typeface known to reportlab, once."""
    if REGULAR not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(REGULAR, str(font_file("Regular"))))
        pdfmetrics.registerFont(TTFont(BOLD, str(font_file("Semibold"))))
        pdfmetrics.registerFontFamily(REGULAR, normal=REGULAR, bold=BOLD, italic=REGULAR, boldItalic=BOLD)


def width_of(text: str, size: float, bold: bool) -> float:
    """Width of a text, in the units of its size."""
    register_fonts()
    return float(pdfmetrics.stringWidth(text, BOLD if bold else REGULAR, size))


def ink(token: str, opacity: float = 1.0) -> Color:
    """The colour of a token on paper."""
    colour = HexColor(PRINT.resolved(token))
    return Color(colour.red, colour.green, colour.blue, opacity)


def paint(canvas: Canvas, drawing: Drawing, x: float, y: float, width: float, height: float) -> None:
    """Paints a drawing into the box with its lower left corner at (x, y), sizes in pt."""
    canvas.saveState()
    canvas.translate(x, y + height)
    box = canvas.beginPath()
    box.rect(0, -height, width, height)
    canvas.clipPath(box, stroke=0, fill=0)
    page = PdfPage(canvas)
    place = painting.fitted(page, drawing, width, height)
    painting.paint(page, arranged(page, drawing, place, (width, height)).shapes, place)
    canvas.restoreState()


def write_pdf(drawing: Drawing, path: Path, width: float, height: float) -> None:
    """Writes one drawing as a PDF of that size (px of the screen).

    Raises:
        OSError: when it cannot be written; an old file stays then.
    """
    register_fonts()
    size = (width * TYPE, height * TYPE)
    with replacing(path) as part:
        canvas = Canvas(str(part), pagesize=size, invariant=1)
        paint(canvas, drawing, 0, 0, *size)
        canvas.save()


class PdfPage:
    """Paints by a canvas whose origin lies at the upper left (see korbent.drawing.painting.Page)."""

    px = TYPE

    def __init__(self, canvas: Canvas) -> None:
        self.canvas = canvas

    def area(self, points: Sequence[Point], fill: str, opacity: float) -> None:
        self.canvas.setFillColor(ink(fill, opacity))
        self.canvas.drawPath(self._path(points, True), stroke=0, fill=1)

    def pattern(self, points: Sequence[Point], name: str) -> None:
        canvas = self.canvas
        x0, y0, width, height = self._clipped(points)
        canvas.setStrokeColor(ink("ink", 0.4))
        canvas.setFillColor(ink("ink", 0.4))
        canvas.setLineWidth(0.5)
        canvas.setDash()
        for kind, v in strokes(name, math.ceil(width / TYPE), math.ceil(height / TYPE)):
            v = tuple(n * TYPE for n in v)
            if kind == "line":
                canvas.line(x0 + v[0], -(y0 + v[1]), x0 + v[2], -(y0 + v[3]))
            elif kind == "dot":
                canvas.circle(x0 + v[0], -(y0 + v[1]), v[2], stroke=0, fill=1)
            else:
                canvas.ellipse(x0 + v[0] - v[2], -(y0 + v[1] - v[3]), x0 + v[0] + v[2], -(y0 + v[1] + v[3]))
        canvas.restoreState()

    def hatch(self, points: Sequence[Point]) -> None:
        canvas = self.canvas
        x0, y0, width, height = self._clipped(points)
        canvas.setStrokeColor(ink("paper"))
        canvas.setLineWidth(0.8)
        canvas.setDash()
        at = -height
        while at < width:
            canvas.line(x0 + at, -(y0 + height), x0 + at + height, -y0)
            at += 4.0
        canvas.restoreState()

    def line(
        self, points: Sequence[Point], stroke: str, width: float, dash: bool = False, closed: bool = False
    ) -> None:
        self.canvas.setDash(4, 3) if dash else self.canvas.setDash()
        self.canvas.setStrokeColor(ink(stroke))
        self.canvas.setLineWidth(width * TYPE)
        self.canvas.drawPath(self._path(points, closed), stroke=1, fill=0)

    def disc(self, at: Point, radius: float, fill: str | None, stroke: str | None, width: float) -> None:
        if fill:
            self.canvas.setFillColor(ink(fill))
        if stroke:
            self.canvas.setStrokeColor(ink(stroke))
            self.canvas.setLineWidth(width * TYPE)
        self.canvas.setDash()
        self.canvas.circle(at[0], -at[1], radius, stroke=int(bool(stroke)), fill=int(bool(fill)))

    def text(self, at: Point, text: str, size: float, colour: str, bold: bool, anchor: Anchor) -> None:
        self.canvas.setFillColor(ink(colour))
        self.canvas.setFont(BOLD if bold else REGULAR, size * TYPE)
        self.canvas.drawString(at[0], -at[1], text)

    def halo(self, at: Point, width: float, size: float, bold: bool) -> None:
        self.canvas.setFillColor(ink("paper", 0.8))
        self.canvas.rect(at[0] - 1.5, -at[1] - 0.22 * size * TYPE, width + 3, size * TYPE, stroke=0, fill=1)

    def width_of(self, text: str, size: float, bold: bool) -> float:
        return width_of(text, size * TYPE, bold)

    def _path(self, points: Sequence[Point], closed: bool) -> object:
        path = self.canvas.beginPath()
        path.moveTo(points[0][0], -points[0][1])
        for px, py in points[1:]:
            path.lineTo(px, -py)
        if closed:
            path.close()
        return path

    def _clipped(self, points: Sequence[Point]) -> tuple[float, float, float, float]:
        """Paints only within a polygon until the state is restored; its box (x, y, width, height)."""
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        self.canvas.saveState()
        self.canvas.clipPath(self._path(points, True), stroke=0, fill=0)
        return min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)
