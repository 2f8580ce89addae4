"""Shows drawings: to scale, to zoom, to click and to drag in."""

import math
from collections.abc import Callable, Mapping
from dataclasses import replace
from itertools import pairwise
from operator import is_
from pathlib import Path

import numpy as np
from PySide6.QtCore import QEvent, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QContextMenuEvent,
    QGuiApplication,
    QImage,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
    QWheelEvent,
)
from PySide6.QtWidgets import QFileDialog, QMenu, QSizePolicy, QWidget

from korbent.app.qt_page import SCREEN, QtPage
from korbent.app.style import colour
from korbent.core.cache import remembered
from korbent.core.working import Array
from korbent.drawing.painting import fitted, paint
from korbent.drawing.placing import arranged, given_way
from korbent.drawing.primitives import (
    Dimension,
    Disc,
    Drawing,
    Leader,
    Line,
    Placement,
    Point,
    Polygon,
    Shape,
    Text,
)
from korbent.drawing.theme import LIGHT, PRINT, Theme
from korbent.files.atomic import replacing
from korbent.files.faults import Guard, details, kept, line_of
from korbent.words import say

FILTER = say("Drawing (*.svg);;Sheet (*.pdf);;Picture (*.png)")
NEAR = 6.0
"""How near (px) the mouse must come to a line or a handle to take it."""


class DrawingView(QWidget):
    """Shows a drawing to scale. The drawing is made again from ``source`` when asked to refresh.

    The wheel zooms about the mouse, dragging on empty paper moves the sheet, a double click shows all of it again.
    Shapes whose key begins with ``drag:`` can be dragged; with ``drawing_line`` a line can be drawn, with a ``ring``
    its corners are clicked."""

    clicked = Signal(str)
    added = Signal(str)
    """Clicked with Shift: one more."""
    dragged = Signal(str, float, float)
    """Key, and the world point where it was let go."""
    lined = Signal(float, float, float, float)
    cornered = Signal(float, float)
    """A corner of the ring that is drawn was set, at a point of the world."""
    ringed = Signal()
    """The ring is closed."""
    enlarged = Signal()
    """It is to be drawn larger, or put back."""
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
        self.ring: tuple[Point, ...] | None = None
        """Corners of a ring that is being drawn; None: none is."""
        self.snaps: Callable[[float, float, float], tuple[float, float, str]] = lambda x, y, _: (x, y, "")
        """Where a corner goes that is set at a point of the world, as near as so much, and in words onto what."""
        self._aim: tuple[float, float, str] | None = None
        self._drawing: Drawing | None = None
        self._fits: tuple[Drawing, tuple[int, int], Placement] | None = None
        self._given_way: tuple[Drawing, tuple[int, int], float, dict[int, Shape | None]] | None = None
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
                said = say("this drawing cannot be made: {line_of}", line_of=line_of(error))
                self._drawing = Drawing((Text((0, 0), said, 12, "beyond", "middle"),), (-1, -1, 1, 1))
        return self._drawing

    def placement(self) -> Placement:
        """Where the drawing lies in the widget."""
        fit = self._fit()
        if self._zoom == 1.0 and self._shift.isNull():
            return fit
        return replace(
            fit,
            scale=fit.scale * self._zoom,
            left=fit.left * self._zoom + self._shift.x(),
            top=fit.top * self._zoom + self._shift.y(),
        )

    def _fit(self) -> Placement:
        """Where all of it has room; found once for a drawing and a size."""
        drawing, size = self.drawing, (self.width(), self.height())
        if self._fits is None or self._fits[0] is not drawing or self._fits[1] != size:
            self._fits = (drawing, size, fitted(SCREEN, drawing, *size))
        return self._fits[2]

    def given_way(self) -> dict[int, Shape | None]:
        """What becomes of labels that would lie on others, found once for a drawing, a size and a scale."""
        drawing, size, place = self.drawing, (self.width(), self.height()), self.placement()
        known = self._given_way
        if known is None or known[0] is not drawing or known[1] != size or known[2] != place.scale:
            whole = self._zoom == 1.0 and self._shift.isNull()
            found = given_way(SCREEN, drawing, place, size if whole else None)
            known = self._given_way = (drawing, size, place.scale, found)
        return known[3]

    def resizeEvent(self, event: object) -> None:
        self._drawing = None

    # ------------------------------------------------------------ taking it elsewhere

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.menu().exec(event.globalPos())

    def menu(self) -> QMenu:
        """What can be done with the whole drawing."""
        menu = QMenu(self)
        menu.addAction(say("Save this drawing …"), self.ask_where)
        menu.addAction(say("Copy as a picture"), lambda: QGuiApplication.clipboard().setImage(self.picture()))
        menu.addAction(say("Show all of it\tdouble click"), self.show_all)
        menu.addAction(say("Draw it larger, or back\tdouble click on its title"), self.enlarged.emit)
        return menu

    def ask_where(self) -> None:
        """Asks for a file to save the drawing to."""
        title = self.accessibleName() or say("Drawing")
        name, _ = QFileDialog.getSaveFileName(
            self, say("Save: {title}", title=title), f"{title.lower().replace(' ', '-')}.svg", FILTER
        )
        if name:
            self.save(Path(name))

    def save(self, path: Path) -> None:
        """Writes the drawing as SVG, PDF or a picture, by the ending; says so in the window."""
        from korbent.files.pdf_page import write_pdf
        from korbent.files.svg_page import write_svg

        path = path if path.suffix else path.with_suffix(".svg")
        size = (self.width(), self.height())
        try:
            if path.suffix.lower() == ".svg":
                write_svg(self.drawing, path, *size, self.accessibleName())
            elif path.suffix.lower() == ".pdf":
                write_pdf(self.drawing, path, *size)
            elif path.suffix.lower() == ".png":
                with replacing(path) as part:
                    if not self.picture().save(str(part), "PNG"):
                        raise OSError(5, say("the picture could not be written"))
            else:
                self._say(say("! {path}: a drawing is saved as .svg, .pdf or .png", path=path.name))
                return
        except OSError as error:
            self._say(f"! {path}: {error.strerror or error}")
            return
        self._say(say("drawing saved to {path}", path=path.name))

    def picture(self) -> QImage:
        """The whole drawing on white paper, three times as fine as the screen."""
        fine = 3
        image = QImage(self.width() * fine, self.height() * fine, QImage.Format.Format_RGB32)
        image.fill(Qt.GlobalColor.white)
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.scale(fine, fine)
        place = self._fit()
        whole = arranged(SCREEN, self.drawing, place, (self.width(), self.height()))
        paint(QtPage(painter, PRINT), whole.shapes, place)
        painter.end()
        return image

    def _say(self, text: str) -> None:
        session = getattr(self.window(), "session", None)
        if session is not None:
            session.announce(text)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.fillRect(self.rect(), colour("paper", self.theme))
        place = self.placement()
        # of shapes wholly outside what is seen, nothing
        paint(
            QtPage(painter, self.theme),
            _within(self.drawing, place, QRectF(self.rect()), self.given_way()),
            place,
        )
        if self._ghost is not None and self._pressed is not None:
            painter.setPen(QPen(colour("accent", self.theme), 1.6, Qt.PenStyle.DashLine))
            if self.drawing_line:
                painter.drawLine(self._pressed, self._ghost)
            elif self.along == "y":
                painter.drawLine(QPointF(0, self._ghost.y()), QPointF(self.width(), self._ghost.y()))
        if self.ring is not None:
            self._paint_ring(painter, place)
        painter.end()

    def _paint_ring(self, painter: QPainter, place: Placement) -> None:
        """The corners so far, the way to the mouse and back, and what the mouse snaps to."""
        assert self.ring is not None
        corners = [QPointF(*place(p)) for p in self.ring]
        accent = colour("accent", self.theme)
        painter.setPen(QPen(accent, 2.2))
        for a, b in pairwise(corners):
            painter.drawLine(a, b)
        if self._aim is not None:
            at = QPointF(*place(self._aim[:2]))
            painter.setPen(QPen(accent, 1.4, Qt.PenStyle.DashLine))
            if corners:
                painter.drawLine(corners[-1], at)
            if len(corners) > 1:
                painter.drawLine(at, corners[0])
            painter.setPen(QPen(accent, 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(at, 6.0, 6.0)
            if self._aim[2]:
                room = QRectF(painter.fontMetrics().boundingRect(self._aim[2])).translated(at + QPointF(12, -10))
                painter.fillRect(room.adjusted(-3, -1, 3, 1), colour("paper", self.theme))
                painter.setPen(colour("ink", self.theme))
                painter.drawText(at + QPointF(12, -10), self._aim[2])
        painter.setPen(QPen(colour("paper", self.theme), 1.2))
        painter.setBrush(accent)
        for corner in corners:
            painter.drawEllipse(corner, 4.5, 4.5)

    def _snapped(self, position: QPointF) -> tuple[float, float, str]:
        place = self.placement()
        x, y = place.back(position.x(), position.y())
        return self.snaps(x, y, 1.4 * NEAR / place.scale)

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
        if self.ring is not None:
            self.ringed.emit()
        else:
            self.show_all()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if event.button() != Qt.MouseButton.LeftButton:
            return
        if self.ring is not None:
            self._corner(event.position())
            return
        self._pressed = event.position()
        key = self.key_at(event.position())
        self._held = "" if self.drawing_line else key if key.startswith("drag:") else ""
        self.grabbed = self.placement().back(event.position().x(), event.position().y())
        if key and not self._held and not self.drawing_line:
            with_shift = bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier)
            (self.added if with_shift else self.clicked).emit(key)

    def _corner(self, position: QPointF) -> None:
        """A corner where the mouse was pressed; on the first one the ring is closed."""
        assert self.ring is not None
        place, (x, y, _) = self.placement(), self._snapped(position)
        if len(self.ring) > 2 and _far(position, QPointF(*place(self.ring[0]))) <= 1.5 * NEAR:
            self.ringed.emit()
        elif not self.ring or math.dist(self.ring[-1], (x, y)) > 1e-6:
            self.cornered.emit(x, y)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        at = event.position()
        if self.ring is not None:
            self._aim = self._snapped(at)
            self.setCursor(Qt.CursorShape.CrossCursor)
            self.update()
            return
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


class PlaceView(DrawingView):
    """Tells where the mouse is, in the world."""

    at = Signal(float, float)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self.at.emit(*self.placement().back(event.position().x(), event.position().y()))


class LineView(DrawingView):
    """Forces along something: tells where along it the mouse is."""

    at = Signal(float)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self.at.emit(self.placement().back(event.position().x(), event.position().y())[0])


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
    if isinstance(shape, Dimension | Leader):
        ends = (shape.start, shape.end, *shape.line) if isinstance(shape, Dimension) else (shape.at, shape.to)
        xs, ys = zip(*ends)
        return (min(xs), min(ys), max(xs), max(ys), 6.2 * len(shape.text) + 24, 32.0)
    if isinstance(shape, Disc):
        (x, y), r = shape.at, 0.0 if shape.fixed else shape.radius
        return (x - r, y - r, x + r, y + r, 12.0, 12.0)
    xs, ys = zip(*shape.points)
    return (min(xs), min(ys), max(xs), max(ys), 12.0, 12.0)


def _within(
    drawing: Drawing, place: Placement, seen: QRectF, changed: Mapping[int, Shape | None] | None = None
) -> list[Shape]:
    """The shapes of which something may lie within the area, in their order; ``changed``: by their place what stands
    there instead."""
    e = _extents(drawing)
    left = place.left + (e[:, 0] - place.x0) * place.scale - e[:, 4]
    right = place.left + (e[:, 2] - place.x0) * place.scale + e[:, 4]
    top = place.top + (place.y1 - e[:, 3]) * place.scale - e[:, 5]
    bottom = place.top + (place.y1 - e[:, 1]) * place.scale + e[:, 5]
    inside = (right >= seen.left()) & (left <= seen.right()) & (bottom >= seen.top()) & (top <= seen.bottom())
    found = np.nonzero(inside)[0].tolist()
    if not changed:
        return [drawing.shapes[i] for i in found]
    shapes = (changed.get(i, drawing.shapes[i]) for i in found)
    return [shape for shape in shapes if shape is not None]
