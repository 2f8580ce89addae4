"""Paints drawings with Qt."""

import math
from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QBrush, QColor, QMouseEvent, QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QSizePolicy, QWidget

from korbent.app.style import colour, font
from korbent.drawing.patterns import strokes
from korbent.drawing.primitives import Disc, Drawing, Line, Placement, Polygon, Text, placed
from korbent.drawing.theme import LIGHT, Theme

ALIGN = {"left": 0.0, "middle": -0.5, "right": -1.0}


class DrawingView(QWidget):
    """Shows a drawing to scale. The drawing is made again from ``source`` when asked to refresh."""

    clicked = Signal(str)

    def __init__(self, source: Callable[[float], Drawing], name: str, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.source = source
        self.theme: Theme = LIGHT
        self._drawing: Drawing | None = None
        self.setObjectName(name)
        self.setAccessibleName(name)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(420, 300)

    def refresh(self) -> None:
        """Makes the drawing again at the next paint."""
        self._drawing = None
        self.update()

    @property
    def drawing(self) -> Drawing:
        """The drawing as shown."""
        if self._drawing is None:
            self._drawing = self.source(self.width() / max(self.height(), 1))
        return self._drawing

    def placement(self) -> Placement:
        """Where the drawing lies in the widget."""
        return placed(self.drawing, self.width(), self.height())

    def resizeEvent(self, event: object) -> None:
        self._drawing = None

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour("paper", self.theme))
        paint(painter, self.drawing, self.placement(), self.theme)
        painter.end()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        key = self.key_at(event.position())
        if key:
            self.clicked.emit(key)

    def key_at(self, position: QPointF) -> str:
        """The key of the topmost shape at a position, '' where there is none."""
        place = self.placement()
        for shape in reversed(self.drawing.shapes):
            if isinstance(shape, Polygon) and shape.key:
                outline = QPolygonF([QPointF(*place(p)) for p in shape.points])
                if outline.containsPoint(position, Qt.FillRule.OddEvenFill):
                    return shape.key
        return ""


def paint(painter: QPainter, drawing: Drawing, place: Placement, theme: Theme) -> None:
    """Paints a drawing."""
    for shape in drawing.shapes:
        match shape:
            case Polygon():
                _polygon(painter, shape, place, theme)
            case Line():
                _line(painter, shape, place, theme)
            case Disc():
                radius = shape.radius if shape.fixed else shape.radius * place.scale
                painter.setPen(
                    QPen(colour(shape.stroke, theme), shape.width) if shape.stroke else Qt.PenStyle.NoPen
                )
                painter.setBrush(QBrush(colour(shape.fill, theme)) if shape.fill else Qt.BrushStyle.NoBrush)
                painter.drawEllipse(QPointF(*place(shape.at)), radius, radius)
            case Text():
                _text(painter, shape, place, theme)


def _polygon(painter: QPainter, shape: Polygon, place: Placement, theme: Theme) -> None:
    outline = QPolygonF([QPointF(*place(p)) for p in shape.points])
    painter.setBrush(
        QBrush(colour(shape.fill, theme, shape.opacity)) if shape.fill else Qt.BrushStyle.NoBrush
    )
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawPolygon(outline)
    box = outline.boundingRect()
    if shape.pattern:
        painter.save()
        painter.setClipRect(box)
        painter.translate(box.topLeft())
        ink = colour("ink", theme, 0.42)
        for kind, values in strokes(shape.pattern, math.ceil(box.width()), math.ceil(box.height())):
            _stroke(painter, kind, values, ink)
        painter.restore()
    if shape.hatch:
        brush = QBrush(colour("paper", theme, 0.75), Qt.BrushStyle.BDiagPattern)
        painter.setBrush(brush)
        painter.drawPolygon(outline)
    if shape.stroke:
        painter.setPen(_pen(shape.stroke, shape.width, shape.dash, theme))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(outline)


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


def _pen(token: str, width: float, dash: bool, theme: Theme) -> QPen:
    pen = QPen(colour(token, theme), width)
    pen.setJoinStyle(Qt.PenJoinStyle.MiterJoin)
    pen.setCapStyle(Qt.PenCapStyle.FlatCap)
    if dash:
        pen.setDashPattern([5.0, 3.5])
    return pen


def _line(painter: QPainter, shape: Line, place: Placement, theme: Theme) -> None:
    points = [QPointF(*place(p)) for p in shape.points]
    painter.setPen(_pen(shape.stroke, shape.width, shape.dash, theme))
    if shape.arrow:
        tip, tail = points[-1], points[-2]
        dx, dy = tip.x() - tail.x(), tip.y() - tail.y()
        length = math.hypot(dx, dy) or 1.0
        ux, uy = dx / length, dy / length
        size = 4.5 + 2.2 * shape.width
        foot = QPointF(tip.x() - ux * size, tip.y() - uy * size)
        painter.drawPolyline(QPolygonF([*points[:-1], foot]))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour(shape.stroke, theme))
        side = QPointF(-uy * size * 0.45, ux * size * 0.45)
        painter.drawPolygon(QPolygonF([tip, foot + side, foot - side]))
    else:
        painter.drawPolyline(QPolygonF(points))


def _text(painter: QPainter, shape: Text, place: Placement, theme: Theme) -> None:
    face = font(shape.size + 1, shape.bold)
    painter.setFont(face)
    metrics = painter.fontMetrics()
    x, y = place(shape.at)
    width = metrics.horizontalAdvance(shape.text)
    x += shape.dx + ALIGN[shape.anchor] * width
    y += shape.dy
    if shape.halo:
        painter.fillRect(
            QRectF(x - 3, y - metrics.ascent() + 1, width + 6, metrics.height() - 2),
            colour("paper", theme, 0.82),
        )
    painter.setPen(colour(shape.colour, theme))
    painter.drawText(QPointF(x, y), shape.text)
