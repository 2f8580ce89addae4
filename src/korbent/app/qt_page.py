"""A page that is painted by Qt: the window, or a picture."""

import math
from collections.abc import Sequence
from functools import lru_cache

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QFontMetrics, QPainter, QPen, QPixmap, QPolygonF

from korbent.app.style import colour, font
from korbent.drawing.patterns import PERIODS, strokes
from korbent.drawing.primitives import Anchor, Point
from korbent.drawing.theme import THEMES, Theme

SHARP = 3
"""Small marks are painted once, so many times finer than the page, and then copied."""
SMALL = 8.0


class QtPage:
    """Paints by a painter, in the colours of a theme (see korbent.drawing.painting.Page)."""

    px = 1.0

    def __init__(self, painter: QPainter, theme: Theme) -> None:
        self.painter, self.theme = painter, theme

    def area(self, points: Sequence[Point], fill: str, opacity: float) -> None:
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.setBrush(colour(fill, self.theme, opacity))
        self.painter.drawPolygon(_outline(points))

    def pattern(self, points: Sequence[Point], name: str) -> None:
        outline = _outline(points)
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.setBrush(_tile(name, self.theme.name))
        self.painter.setBrushOrigin(outline.boundingRect().topLeft())
        self.painter.drawPolygon(outline)

    def hatch(self, points: Sequence[Point]) -> None:
        self.painter.setPen(Qt.PenStyle.NoPen)
        self.painter.setBrush(QBrush(colour("paper", self.theme, 0.75), Qt.BrushStyle.BDiagPattern))
        self.painter.drawPolygon(_outline(points))

    def line(
        self, points: Sequence[Point], stroke: str, width: float, dash: bool = False, closed: bool = False
    ) -> None:
        self.painter.setPen(_pen(stroke, width, dash, self.theme.name))
        if closed:
            self.painter.setBrush(Qt.BrushStyle.NoBrush)
            self.painter.drawPolygon(_outline(points))
        else:
            self.painter.drawPolyline(_outline(points))

    def disc(self, at: Point, radius: float, fill: str | None, stroke: str | None, width: float) -> None:
        if radius <= SMALL:
            dot, half = _dot(round(radius, 2), fill, stroke, width, self.theme.name)
            self.painter.drawPixmap(QPointF(*at) - half, dot)
        else:
            _disc(self.painter, QPointF(*at), radius, fill, stroke, width, self.theme)

    def text(self, at: Point, text: str, size: float, colour_: str, bold: bool, anchor: Anchor) -> None:
        self.painter.setFont(_face(size, bold)[0])
        self.painter.setPen(colour(colour_, self.theme))
        self.painter.drawText(QPointF(*at), text)

    def halo(self, at: Point, width: float, size: float, bold: bool) -> None:
        metrics = _face(size, bold)[1]
        box = QRectF(at[0] - 3, at[1] - metrics.ascent() + 1, width + 6, metrics.height() - 2)
        self.painter.fillRect(box, colour("paper", self.theme, 0.82))

    def width_of(self, text: str, size: float, bold: bool) -> float:
        return _width(size, bold, text)


class Screen:
    """Widths of texts as the window paints them, without a painter (see korbent.drawing.painting.Measure)."""

    px = 1.0

    def width_of(self, text: str, size: float, bold: bool) -> float:
        return _width(size, bold, text)


SCREEN = Screen()


def _outline(points: Sequence[Point]) -> QPolygonF:
    return QPolygonF([QPointF(x, y) for x, y in points])


@lru_cache(maxsize=256)
def _pen(token: str, width: float, dash: bool, theme: str) -> QPen:
    pen = QPen(colour(token, THEMES[theme]), width)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    if dash:
        pen.setDashPattern([5.0, 3.5])
    return pen


def _disc(
    painter: QPainter,
    at: QPointF,
    radius: float,
    fill: str | None,
    stroke: str | None,
    width: float,
    theme: Theme,
) -> None:
    painter.setPen(QPen(colour(stroke, theme), width) if stroke else Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(colour(fill, theme)) if fill else Qt.BrushStyle.NoBrush)
    painter.drawEllipse(at, radius, radius)


@lru_cache(maxsize=256)
def _dot(radius: float, fill: str | None, stroke: str | None, width: float, theme: str) -> tuple[QPixmap, QPointF]:
    """A picture of a small round mark, and half its size."""
    half = radius + width + 1.0
    picture = QPixmap(math.ceil(2 * half * SHARP), math.ceil(2 * half * SHARP))
    picture.setDevicePixelRatio(SHARP)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _disc(painter, QPointF(half, half), radius, fill, stroke, width, THEMES[theme])
    painter.end()
    return picture, QPointF(half, half)


@lru_cache(maxsize=32)
def _tile(pattern: str, theme: str) -> QBrush:
    """A brush that repeats a soil pattern without seams."""
    dx, dy = PERIODS[pattern]
    width, height = 10 * dx, 12 * dy
    tile = QPixmap(width, height)
    tile.fill(Qt.GlobalColor.transparent)
    painter = QPainter(tile)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    ink = colour("ink", THEMES[theme], 0.42)
    wide = width if pattern == "rock" else width - dx // 2
    for kind, values in strokes(pattern, wide, height - dy // 2):
        for i in (-width, 0, width):
            for j in (-height, 0, height):
                painter.save()
                painter.translate(i, j)
                _stroke(painter, kind, values, ink)
                painter.restore()
    painter.end()
    return QBrush(tile)


def _stroke(painter: QPainter, kind: str, values: tuple[float, ...], ink: QColor) -> None:
    if kind == "line":
        painter.setPen(QPen(ink, 1.0))
        x0, y0, x1, y1 = values
        painter.drawLine(QPointF(x0, y0), QPointF(x1, y1))
    elif kind == "dot":
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ink)
        painter.drawEllipse(QPointF(values[0], values[1]), values[2], values[2])
    else:
        painter.setPen(QPen(ink, 1.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(QPointF(values[0], values[1]), values[2], values[3])


@lru_cache(maxsize=64)
def _face(size: float, bold: bool) -> tuple[QFont, QFontMetrics]:
    face = font(size, bold)
    return face, QFontMetrics(face)


@lru_cache(maxsize=4096)
def _width(size: float, bold: bool, text: str) -> int:
    return _face(size, bold)[1].horizontalAdvance(text)
