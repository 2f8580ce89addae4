"""Paints drawings with Qt."""

import math
from collections.abc import Callable
from dataclasses import replace
from functools import lru_cache
from itertools import pairwise
from operator import is_

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFont,
    QFontMetrics,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPixmap,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QSizePolicy, QWidget

from korbent.app.style import colour, font
from korbent.core.cache import remembered
from korbent.core.working import Array
from korbent.drawing.patterns import PERIODS, strokes
from korbent.drawing.primitives import Disc, Drawing, Line, Placement, Point, Polygon, Shape, Text, placed
from korbent.drawing.theme import LIGHT, THEMES, Theme
from korbent.files.faults import Guard, details, kept, line_of

ALIGN = {"left": 0.0, "middle": -0.5, "right": -1.0}


NEAR = 6.0
"""How near (px) the mouse must come to a line or a handle to take it."""


class DrawingView(QWidget):
    """Shows a drawing to scale. The drawing is made again from ``source`` when asked to refresh.

    The wheel zooms about the mouse, dragging on empty paper moves the sheet, a double click shows all of it again.
    Shapes whose key begins with ``drag:`` can be dragged; with ``drawing_line`` a line can be drawn.
    """

    clicked = Signal(str)
    dragged = Signal(str, float, float)
    """Key, and the world point where it was let go."""
    lined = Signal(float, float, float, float)
    hovered = Signal(str)
    """Key of what the mouse is over now, '' over nothing."""

    def __init__(
        self,
        source: Callable[[float], Drawing],
        name: str,
        parent: QWidget | None = None,
        depends: Callable[[], tuple[object, ...]] | None = None,
    ) -> None:
        super().__init__(parent)
        self.source, self.depends = source, depends
        self._made_from: tuple[object, ...] = ()
        self.theme: Theme = LIGHT
        self.follows = False
        """A drag is told while it goes on, not only at its end."""
        self.along: str = ""
        """Along which axis things are dragged: x, y, or both ('')."""
        self.grabbed: Point = (0.0, 0.0)
        """Where in the world the mouse went down last."""
        self.drawing_line = False
        self._drawing: Drawing | None = None
        self._zoom, self._shift = 1.0, QPointF(0.0, 0.0)
        self._pressed: QPointF | None = None
        self._held = ""
        self._over = ""
        self._ghost: QPointF | None = None
        self.setObjectName(name)
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    def sizeHint(self) -> QSize:
        return QSize(420, 300)

    def refresh(self) -> None:
        """Makes the drawing again at the next paint, unless what it depends on is the same."""
        if self.depends:
            now = self.depends()
            if len(now) == len(self._made_from) and all(map(is_, now, self._made_from)):
                return
            self._made_from = now
        self._drawing = None
        self.update()

    @property
    def drawing(self) -> Drawing:
        """The drawing as shown."""
        if self._drawing is None:
            try:
                self._drawing = self.source(self.width() / max(self.height(), 1))
            except Exception as error:
                if not Guard.on:
                    raise
                # a fault in one drawing shows there alone
                kept(details(type(error), error, error.__traceback__))
                said = f"this drawing cannot be made: {line_of(error)}"
                self._drawing = Drawing((Text((0, 0), said, 12, "beyond", "middle"),), (-1, -1, 1, 1))
        return self._drawing

    def placement(self) -> Placement:
        """Where the drawing lies in the widget."""
        fit = placed(self.drawing, self.width(), self.height())
        if self._zoom == 1.0 and self._shift.isNull():
            return fit
        return replace(
            fit, scale=fit.scale * self._zoom, left=fit.left * self._zoom + self._shift.x(),
            top=fit.top * self._zoom + self._shift.y(),
        )  # fmt: skip

    def resizeEvent(self, event: object) -> None:
        self._drawing = None

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), colour("paper", self.theme))
        paint(painter, self.drawing, self.placement(), self.theme, QRectF(self.rect()))
        if self._ghost is not None and self._pressed is not None:
            painter.setPen(QPen(colour("accent", self.theme), 1.6, Qt.PenStyle.DashLine))
            if self.drawing_line:
                painter.drawLine(self._pressed, self._ghost)
            elif self.along == "y":
                painter.drawLine(QPointF(0, self._ghost.y()), QPointF(self.width(), self._ghost.y()))
        painter.end()

    # ------------------------------------------------------------ mouse

    def wheelEvent(self, event: QWheelEvent) -> None:
        self.zoom_by(1.2 ** (event.angleDelta().y() / 120.0), event.position())

    def zoom_by(self, factor: float, about: QPointF) -> None:
        """Zooms; what lies below ``about`` stays there."""
        zoom = min(max(self._zoom * factor, 0.5), 60.0)
        factor = zoom / self._zoom
        self._shift = about + (self._shift - about) * factor
        self._zoom = zoom
        self.update()

    def show_all(self) -> None:
        """Shows the whole drawing."""
        self._zoom, self._shift = 1.0, QPointF(0.0, 0.0)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        self.show_all()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._pressed = event.position()
        key = self.key_at(event.position())
        self._held = "" if self.drawing_line else key if key.startswith("drag:") else ""
        self.grabbed = self.placement().back(event.position().x(), event.position().y())
        if key and not self._held and not self.drawing_line:
            self.clicked.emit(key)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        if self._pressed is None or not event.buttons() & Qt.MouseButton.LeftButton:
            over = self.key_at(at)
            self._hover(over)
            shape = (
                Qt.CursorShape.CrossCursor
                if self.drawing_line
                else Qt.CursorShape.SizeVerCursor
                if over.startswith("drag:") and self.along == "y"
                else Qt.CursorShape.SizeAllCursor
                if over.startswith("drag:")
                else Qt.CursorShape.ArrowCursor
            )
            self.setCursor(shape)
            return
        if self.drawing_line or self._held:
            self._ghost = at
            if self._held and self.follows:
                self.dragged.emit(self._held.removeprefix("drag:"), *self.placement().back(at.x(), at.y()))
            self.update()
        elif not self.key_at(self._pressed) or self._zoom != 1.0:
            self._shift += at - self._pressed
            self._pressed = at
            self.update()

    def leaveEvent(self, event: QEvent) -> None:
        self._hover("")

    def _hover(self, key: str) -> None:
        if key != self._over:
            self._over = key
            self.hovered.emit(key)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        pressed, held, moved = self._pressed, self._held, self._ghost is not None
        self._pressed, self._held, self._ghost = None, "", None
        if pressed is None or not moved:
            return
        place = self.placement()
        end = place.back(event.position().x(), event.position().y())
        if self.drawing_line:
            self.lined.emit(*place.back(pressed.x(), pressed.y()), *end)
        elif held:
            self.dragged.emit(held.removeprefix("drag:"), *end)
        self.update()

    def key_at(self, position: QPointF) -> str:
        """The key of the topmost shape at a position, '' where there is none."""
        place = self.placement()
        near = QRectF(position.x() - NEAR, position.y() - NEAR, 2 * NEAR, 2 * NEAR)
        for shape in reversed(_within(self.drawing, place, near)):
            match shape:
                case Polygon(key=key) if key:
                    outline = QPolygonF([QPointF(*place(p)) for p in shape.points])
                    if outline.containsPoint(position, Qt.FillRule.OddEvenFill):
                        return shape.key
                case Disc(key=key) if key:
                    radius = shape.radius if shape.fixed else shape.radius * place.scale
                    if _far(position, QPointF(*place(shape.at))) <= max(radius, NEAR):
                        return shape.key
                case Line(key=key) if key:
                    corners = [QPointF(*place(p)) for p in shape.points]
                    if any(_off(position, a, b) <= NEAR for a, b in pairwise(corners)):
                        return shape.key
        return ""


def _far(a: QPointF, b: QPointF) -> float:
    return math.hypot(a.x() - b.x(), a.y() - b.y())


def _off(point: QPointF, a: QPointF, b: QPointF) -> float:
    """Distance of a point from a stretch, px."""
    length2 = (b.x() - a.x()) ** 2 + (b.y() - a.y()) ** 2
    if length2 == 0.0:
        return _far(point, a)
    t = ((point.x() - a.x()) * (b.x() - a.x()) + (point.y() - a.y()) * (b.y() - a.y())) / length2
    t = min(max(t, 0.0), 1.0)
    return _far(point, QPointF(a.x() + t * (b.x() - a.x()), a.y() + t * (b.y() - a.y())))


def paint(
    painter: QPainter, drawing: Drawing, place: Placement, theme: Theme, seen: QRectF | None = None
) -> None:
    """Paints a drawing; of shapes wholly outside what is ``seen``, nothing."""
    for shape in drawing.shapes if seen is None else _within(drawing, place, seen):
        match shape:
            case Polygon():
                _polygon(painter, shape, place, theme)
            case Line():
                _line(painter, shape, place, theme)
            case Disc() if shape.fixed and shape.radius <= 8:
                dot, half = _dot(shape.radius, shape.fill, shape.stroke, shape.width, theme.name)
                painter.drawPixmap(QPointF(*place(shape.at)) - half, dot)
            case Disc():
                _disc(
                    painter,
                    shape,
                    QPointF(*place(shape.at)),
                    shape.radius if shape.fixed else shape.radius * place.scale,
                    theme,
                )
            case Text():
                _text(painter, shape, place, theme)


@remembered(8)
def _extents(drawing: Drawing) -> Array:
    """Bounds of every shape in the world, and how far on the page (px) it may reach beyond them: (shapes, 6)."""
    rows = []
    if len(_rows) > 60_000:
        _rows.clear()
    for shape in drawing.shapes:
        # drawings share shapes with those before them; what a shape spans never changes
        known = _rows.get(id(shape))
        if known is None or known[0] is not shape:
            known = _rows[id(shape)] = (shape, _spans(shape))
        rows.append(known[1])
    return np.array(rows).reshape(-1, 6)


Span = tuple[float, float, float, float, float, float]
_rows: dict[int, tuple[Shape, Span]] = {}


def _spans(shape: Shape) -> Span:
    if isinstance(shape, Text):
        x, y = shape.at
        return (x, y, x, y, 6.2 * len(shape.text) + abs(shape.dx) + 8, 20.0 + abs(shape.dy))
    if isinstance(shape, Disc):
        (x, y), r = shape.at, 0.0 if shape.fixed else shape.radius
        return (x - r, y - r, x + r, y + r, 12.0, 12.0)
    xs, ys = zip(*shape.points)
    return (min(xs), min(ys), max(xs), max(ys), 12.0, 12.0)


def _within(drawing: Drawing, place: Placement, seen: QRectF) -> list[Shape]:
    """The shapes of which something may lie within the area, in their order."""
    e = _extents(drawing)
    left = place.left + (e[:, 0] - place.x0) * place.scale - e[:, 4]
    right = place.left + (e[:, 2] - place.x0) * place.scale + e[:, 4]
    top = place.top + (place.y1 - e[:, 3]) * place.scale - e[:, 5]
    bottom = place.top + (place.y1 - e[:, 1]) * place.scale + e[:, 5]
    inside = (right >= seen.left()) & (left <= seen.right()) & (bottom >= seen.top()) & (top <= seen.bottom())
    return [drawing.shapes[i] for i in np.nonzero(inside)[0]]


def _disc(painter: QPainter, shape: Disc, at: QPointF, radius: float, theme: Theme) -> None:
    painter.setPen(QPen(colour(shape.stroke, theme), shape.width) if shape.stroke else Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(colour(shape.fill, theme)) if shape.fill else Qt.BrushStyle.NoBrush)
    painter.drawEllipse(at, radius, radius)


SHARP = 3
"""Small marks are painted once, so many times finer than the page, and then copied."""


@lru_cache(maxsize=256)
def _dot(
    radius: float, fill: str | None, stroke: str | None, width: float, theme: str
) -> tuple[QPixmap, QPointF]:
    """A picture of a small round mark, and half its size."""
    half = radius + width + 1.0
    picture = QPixmap(math.ceil(2 * half * SHARP), math.ceil(2 * half * SHARP))
    picture.setDevicePixelRatio(SHARP)
    picture.fill(Qt.GlobalColor.transparent)
    painter = QPainter(picture)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    _disc(
        painter,
        Disc((0.0, 0.0), radius, fill, stroke, width, True),
        QPointF(half, half),
        radius,
        THEMES[theme],
    )
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


def _polygon(painter: QPainter, shape: Polygon, place: Placement, theme: Theme) -> None:
    outline = QPolygonF([QPointF(*place(p)) for p in shape.points])
    painter.setBrush(
        QBrush(colour(shape.fill, theme, shape.opacity)) if shape.fill else Qt.BrushStyle.NoBrush
    )
    painter.setPen(Qt.PenStyle.NoPen)
    painter.drawPolygon(outline)
    if shape.pattern:
        painter.setBrush(_tile(shape.pattern, theme.name))
        painter.setBrushOrigin(outline.boundingRect().topLeft())
        painter.drawPolygon(outline)
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


@lru_cache(maxsize=64)
def _face(size: float, bold: bool) -> tuple[QFont, QFontMetrics]:
    face = font(size, bold)
    return face, QFontMetrics(face)


@lru_cache(maxsize=4096)
def _width(size: float, bold: bool, text: str) -> int:
    return _face(size, bold)[1].horizontalAdvance(text)


def _text(painter: QPainter, shape: Text, place: Placement, theme: Theme) -> None:
    face, metrics = _face(shape.size + 1, shape.bold)
    painter.setFont(face)
    x, y = place(shape.at)
    text = shape.text
    width = _width(shape.size + 1, shape.bold, text)
    if shape.room and width > shape.room * place.scale:
        text = metrics.elidedText(text, Qt.TextElideMode.ElideRight, int(shape.room * place.scale))
        if len(text) < 4:
            return
        width = metrics.horizontalAdvance(text)
    x += shape.dx + ALIGN[shape.anchor] * width
    y += shape.dy
    if shape.halo:
        painter.fillRect(
            QRectF(x - 3, y - metrics.ascent() + 1, width + 6, metrics.height() - 2),
            colour("paper", theme, 0.82),
        )
    painter.setPen(colour(shape.colour, theme))
    painter.drawText(QPointF(x, y), text)
