"""Paints drawings on a PDF page."""

import math

from reportlab.lib.colors import Color, HexColor
from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas

from korbent.drawing.patterns import strokes
from korbent.drawing.primitives import Disc, Drawing, Line, Placement, Polygon, Text, placed
from korbent.drawing.theme import LIGHT, font_file, mixed

REGULAR, BOLD = "Korbent", "Korbent-Bold"
TYPE = 0.78
"""Type on the sheet over type on the screen."""


def register_fonts() -> None:
    """Makes the typeface known to reportlab, once."""
    if REGULAR not in pdfmetrics.getRegisteredFontNames():
        pdfmetrics.registerFont(TTFont(REGULAR, str(font_file("Regular"))))
        pdfmetrics.registerFont(TTFont(BOLD, str(font_file("Semibold"))))
        pdfmetrics.registerFontFamily(REGULAR, normal=REGULAR, bold=BOLD, italic=REGULAR, boldItalic=BOLD)


def ink(token: str, opacity: float = 1.0) -> Color:
    """The colour of a token on paper."""
    if token.startswith("ratio:"):
        value = token.removeprefix("ratio:")
        text = LIGHT.ratio(None if value == "None" else float(value))
    elif token.startswith("field:"):
        share = max(0.0, min(1.0, float(token.removeprefix("field:"))))
        text = mixed("#ffffff", LIGHT.pressure, 0.08 + 0.72 * share)
    else:
        text = "#ffffff" if token == "paper" else LIGHT.colour(token)
    colour = HexColor(text)
    return Color(colour.red, colour.green, colour.blue, opacity)


def paint(canvas: Canvas, drawing: Drawing, x: float, y: float, width: float, height: float) -> None:
    """Paints a drawing into the box with its lower left corner at (x, y), sizes in pt."""
    left, top, right, bottom = (m * TYPE for m in drawing.margins)
    place = placed(Drawing(drawing.shapes, drawing.bounds, (left, top, right, bottom)), width, height)
    canvas.saveState()
    canvas.translate(x, y + height)
    canvas.scale(1, 1)
    outline = canvas.beginPath()
    outline.rect(0, -height, width, height)
    canvas.clipPath(outline, stroke=0, fill=0)
    for shape in drawing.shapes:
        match shape:
            case Polygon():
                _polygon(canvas, shape, place)
            case Line():
                _line(canvas, shape, place)
            case Disc():
                px, py = place(shape.at)
                radius = shape.radius * TYPE if shape.fixed else shape.radius * place.scale
                if shape.fill:
                    canvas.setFillColor(ink(shape.fill))
                if shape.stroke:
                    canvas.setStrokeColor(ink(shape.stroke))
                    canvas.setLineWidth(shape.width * TYPE)
                canvas.setDash()
                canvas.circle(px, -py, radius, stroke=int(bool(shape.stroke)), fill=int(bool(shape.fill)))
            case Text():
                _text(canvas, shape, place)
    canvas.restoreState()


def _path(canvas: Canvas, points: list[tuple[float, float]], closed: bool) -> object:
    path = canvas.beginPath()
    path.moveTo(points[0][0], -points[0][1])
    for px, py in points[1:]:
        path.lineTo(px, -py)
    if closed:
        path.close()
    return path


def _polygon(canvas: Canvas, shape: Polygon, place: Placement) -> None:
    points = [place(p) for p in shape.points]
    canvas.setDash(4, 3) if shape.dash else canvas.setDash()
    if shape.fill:
        canvas.setFillColor(ink(shape.fill, shape.opacity))
        canvas.drawPath(_path(canvas, points, True), stroke=0, fill=1)
    if shape.pattern or shape.hatch:
        _filling(canvas, shape, points)
    if shape.stroke:
        canvas.setStrokeColor(ink(shape.stroke))
        canvas.setLineWidth(shape.width * TYPE)
        canvas.drawPath(_path(canvas, points, True), stroke=1, fill=0)


def _filling(canvas: Canvas, shape: Polygon, points: list[tuple[float, float]]) -> None:
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    x0, y0, width, height = min(xs), min(ys), max(xs) - min(xs), max(ys) - min(ys)
    canvas.saveState()
    canvas.clipPath(_path(canvas, points, True), stroke=0, fill=0)
    if shape.pattern:
        canvas.setStrokeColor(ink("ink", 0.4))
        canvas.setFillColor(ink("ink", 0.4))
        canvas.setLineWidth(0.5)
        for kind, v in strokes(shape.pattern, math.ceil(width / TYPE), math.ceil(height / TYPE)):
            v = tuple(n * TYPE for n in v)
            if kind == "line":
                canvas.line(x0 + v[0], -(y0 + v[1]), x0 + v[2], -(y0 + v[3]))
            elif kind == "dot":
                canvas.circle(x0 + v[0], -(y0 + v[1]), v[2], stroke=0, fill=1)
            else:
                canvas.ellipse(x0 + v[0] - v[2], -(y0 + v[1] - v[3]), x0 + v[0] + v[2], -(y0 + v[1] + v[3]))
    if shape.hatch:
        canvas.setStrokeColor(ink("paper"))
        canvas.setLineWidth(0.8)
        at = -height
        while at < width:
            canvas.line(x0 + at, -(y0 + height), x0 + at + height, -y0)
            at += 4.0
    canvas.restoreState()


def _line(canvas: Canvas, shape: Line, place: Placement) -> None:
    points = [place(p) for p in shape.points]
    canvas.setDash(4, 3) if shape.dash else canvas.setDash()
    canvas.setStrokeColor(ink(shape.stroke))
    canvas.setLineWidth(shape.width * TYPE)
    if shape.arrow:
        (tx, ty), (fx, fy) = points[-1], points[-2]
        length = math.hypot(tx - fx, ty - fy) or 1.0
        ux, uy = (tx - fx) / length, (ty - fy) / length
        size = (4.5 + 2.2 * shape.width) * TYPE
        foot = (tx - ux * size, ty - uy * size)
        canvas.drawPath(_path(canvas, [*points[:-1], foot], False), stroke=1, fill=0)
        canvas.setFillColor(ink(shape.stroke))
        sides = [(tx, ty), (foot[0] - uy * size * 0.45, foot[1] + ux * size * 0.45), (foot[0] + uy * size * 0.45, foot[1] - ux * size * 0.45)]  # fmt: skip
        canvas.drawPath(_path(canvas, sides, True), stroke=0, fill=1)
    else:
        canvas.drawPath(_path(canvas, points, False), stroke=1, fill=0)


def _text(canvas: Canvas, shape: Text, place: Placement) -> None:
    face, size = BOLD if shape.bold else REGULAR, (shape.size + 1) * TYPE
    text = shape.text
    while (
        shape.room and len(text) > 4 and pdfmetrics.stringWidth(text, face, size) > shape.room * place.scale
    ):
        text = text.rstrip("…")[:-1] + "…"
    width = pdfmetrics.stringWidth(text, face, size)
    x, y = place(shape.at)
    x += shape.dx * TYPE + {"left": 0.0, "middle": -0.5, "right": -1.0}[shape.anchor] * width
    y += shape.dy * TYPE
    if shape.halo:
        canvas.setFillColor(ink("paper", 0.8))
        canvas.rect(x - 1.5, -y - 0.22 * size, width + 3, size, stroke=0, fill=1)
    canvas.setFillColor(ink(shape.colour))
    canvas.setFont(face, size)
    canvas.drawString(x, -y, text)
