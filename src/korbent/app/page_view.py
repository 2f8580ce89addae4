"""Pages of a PDF as they will print: painted beside the window, zoomed and moved by mouse and keys."""

from threading import Lock
from typing import Any

from PySide6.QtCore import QPoint, QRect, Qt, Signal
from PySide6.QtGui import (
    QColor,
    QImage,
    QKeyEvent,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QResizeEvent,
    QWheelEvent,
)
from PySide6.QtWidgets import QWidget

from korbent.app import background
from korbent.app.style import colour, font
from korbent.drawing.theme import SIZE, Theme
from korbent.words import say

LEAST, MOST = 0.1, 8.0
"""Zoom: px of the screen to a pt of paper, at its finest as far as ``PIXELS`` go."""
PIXELS = 16_000_000
"""Of a picture, at most."""
ROOM = 18
"""Around the page, px."""
STEP = 1.25

_one_at_a_time = Lock()
"""The library that paints pages is not to be used by two threads at once."""


def painted(pdf: bytes, page: int, scale: float) -> tuple[bytes, int, int, tuple[float, float]]:
    """(pixels of four bytes, width, height, size of the page in pt) of one page of a PDF."""
    import pypdfium2

    document = pypdfium2.PdfDocument(pdf)
    try:
        own = document[page]
        size = own.get_size()
        scale = min(scale, (PIXELS / (size[0] * size[1])) ** 0.5)
        bitmap = own.render(scale=scale, rev_byteorder=False)
        # four bytes to a pixel, whatever the page was made of
        data = bitmap.to_pil().convert("RGBA").tobytes("raw", "BGRA")
        return data, bitmap.width, bitmap.height, size
    finally:
        document.close()


class PageView(QWidget):
    """Shows a page; the wheel zooms, a drag moves, Page up and down turn over."""

    turned = Signal()
    """Another page, or another zoom, is shown."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(objectName="page-view")
        self.theme = theme
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName(say("The sheet as it will print"))
        self.pdf, self.pages, self.page = b"", 0, 0
        self.size_: tuple[float, float] = (595.0, 842.0)
        """Of the page, pt."""
        self.zoom = 0.0
        """px to a pt; 0: as large as there is room for."""
        self.middle = (0.5, 0.5)
        """What of the page stands in the middle, in shares."""
        self.said = ""
        """What is written where there is no page."""
        self.failed = ""
        """Why a page that is there cannot be shown."""
        self.stale = False
        self._image: QImage | None = None
        self._shown: tuple[Any, ...] = ()
        self._asked: tuple[Any, ...] = ()
        self._latest: list[tuple[Any, ...]] = []
        """What was asked for last, as the thread sees it: that must not hold the view itself, or it would go there."""
        self._held: QPoint | None = None

    # ------------------------------------------------------------ what is shown

    def show_pdf(self, pdf: bytes, pages: int) -> None:
        """Shows a PDF; the same page of it as before where it has one."""
        if pdf == self.pdf:
            return
        self.pdf, self.pages, self.failed = pdf, pages, ""
        self.page = min(self.page, max(pages - 1, 0))
        self._ask()
        self.turned.emit()
        self.update()

    def begin(self) -> None:
        """Another sheet comes: from its first page, as large as there is room for."""
        self.pdf, self.pages, self.page, self.zoom, self.middle = b"", 0, 0, 0.0, (0.5, 0.5)
        self._image, self._shown, self._asked = None, (), ()
        self.update()

    def turn(self, by: int) -> None:
        """Goes on by so many pages."""
        to = max(0, min(self.page + by, self.pages - 1))
        if to != self.page:
            self.page = to
            self._ask()
            self.turned.emit()

    def scale(self) -> float:
        """px to a pt."""
        return self.zoom or self.fitting()

    def fitting(self) -> float:
        """The scale at which the whole page is seen."""
        wide, high = max(self.width() - 2 * ROOM, 50), max(self.height() - 2 * ROOM, 50)
        return min(wide / self.size_[0], high / self.size_[1])

    def percent(self) -> int:
        """The zoom against the size on paper, as a screen of 96 dots to the inch has it."""
        return round(100 * self.scale() * 72 / 96)

    def zoom_by(self, factor: float, about: QPoint | None = None) -> None:
        """Zooms about a point of the view; its middle where none is given."""
        before, box = self.scale(), self._box()
        at = about or self.rect().center()
        share = ((at.x() - box.x()) / max(box.width(), 1), (at.y() - box.y()) / max(box.height(), 1))
        self.zoom = max(LEAST, min(before * factor, MOST))
        if self.zoom < 1.02 * self.fitting() and factor < 1:
            self.zoom, self.middle = 0.0, (0.5, 0.5)
        else:
            wide, high = self.size_[0] * self.zoom, self.size_[1] * self.zoom
            self.middle = (
                share[0] - (at.x() - self.width() / 2) / wide,
                share[1] - (at.y() - self.height() / 2) / high,
            )
        self._bound()
        self._ask()
        self.turned.emit()
        self.update()

    def fit(self) -> None:
        """As large as there is room for."""
        self.zoom, self.middle = 0.0, (0.5, 0.5)
        self._ask()
        self.turned.emit()
        self.update()

    def _bound(self) -> None:
        self.middle = (min(max(self.middle[0], 0.0), 1.0), min(max(self.middle[1], 0.0), 1.0))

    def _box(self) -> QRect:
        """Where the page stands in the view."""
        scale = self.scale()
        wide, high = self.size_[0] * scale, self.size_[1] * scale
        return QRect(
            round(self.width() / 2 - self.middle[0] * wide),
            round(self.height() / 2 - self.middle[1] * high),
            round(wide),
            round(high),
        )

    def _ask(self) -> None:
        """Has the page painted at the scale that is shown."""
        if not self.pdf or not self.width():
            return
        ratio = self.devicePixelRatioF()
        wanted = (id(self.pdf), self.page, round(self.scale() * ratio, 4))
        if wanted in (self._asked, self._shown):
            return
        self._asked = wanted
        pdf, page, scale = self.pdf, self.page, self.scale() * ratio

        latest = self._latest
        latest[:] = [wanted]

        def work() -> object:
            with _one_at_a_time:
                if latest != [wanted]:
                    return None  # something else is wanted meanwhile
                try:
                    return painted(pdf, page, scale)
                except Exception as error:  # a page that cannot be painted is said, not hidden
                    return str(error)

        background.start(wanted, work, self._came)

    def _came(self, wanted: object, found: object) -> None:
        if found is not None:
            self._arrived((wanted, found))

    def without(self) -> str:
        """What stands where there is no page yet, or none at all."""
        return self.failed or (say("being painted …") if self.pdf else self.said)

    def _arrived(self, found: object) -> None:
        assert isinstance(found, tuple)
        wanted, made = found
        if wanted[:1] != (id(self.pdf),) or wanted[1] != self.page:
            return
        if isinstance(made, str):
            self.failed = say("This page cannot be shown: {made}", made=made)
            self.update()
            return
        data, width, height, size = made
        # the picture keeps its own copy: what came from the thread may go
        self._image = QImage(data, width, height, 4 * width, QImage.Format.Format_RGB32).copy()
        self._shown = wanted
        if size != self.size_:
            self.size_ = size
            self._ask()
            self.turned.emit()
        self.update()

    @property
    def settled(self) -> bool:
        """What is asked for is what is shown."""
        return bool(self._shown) and self._shown == self._asked

    # ------------------------------------------------------------ by hand

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.fillRect(self.rect(), colour("desk", self.theme))
        painter.setFont(font(SIZE["text"]))
        if self._image is None or not self.pdf:
            painter.setPen(colour("soft", self.theme))
            painter.drawText(self.rect(), int(Qt.AlignmentFlag.AlignCenter), self.without())
            painter.end()
            return
        box = self._box()
        painter.fillRect(box.translated(3, 3), QColor(0, 0, 0, 40))
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.drawImage(box, self._image)
        painter.setPen(colour("line", self.theme))
        painter.drawRect(box.adjusted(0, 0, -1, -1))
        if self.stale:
            painter.fillRect(box, QColor(255, 255, 255, 110))
        painter.end()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self.zoom:
            self._ask()
        self.turned.emit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        turn = event.angleDelta().y()
        if turn:
            self.zoom_by(STEP if turn > 0 else 1 / STEP, event.position().toPoint())
        event.accept()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._held = event.position().toPoint()
        self.setCursor(Qt.CursorShape.ClosedHandCursor)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._held is None:
            return
        now = event.position().toPoint()
        self.move_by(now - self._held)
        self._held = now

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._held = None
        self.unsetCursor()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Large, and as it was."""
        if self.zoom:
            self.fit()
        else:
            self.zoom_by(3.0, event.position().toPoint())

    def move_by(self, way: QPoint) -> None:
        """Moves the page; what is wholly seen stays."""
        if not self.zoom:
            return
        scale = self.scale()
        self.middle = (
            self.middle[0] - way.x() / (self.size_[0] * scale),
            self.middle[1] - way.y() / (self.size_[1] * scale),
        )
        self._bound()
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = event.key()
        ways = {
            Qt.Key.Key_Left: QPoint(60, 0),
            Qt.Key.Key_Right: QPoint(-60, 0),
            Qt.Key.Key_Up: QPoint(0, 60),
            Qt.Key.Key_Down: QPoint(0, -60),
        }
        if key == Qt.Key.Key_PageDown:
            self.turn(1)
        elif key == Qt.Key.Key_PageUp:
            self.turn(-1)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal):
            self.zoom_by(STEP)
        elif key == Qt.Key.Key_Minus:
            self.zoom_by(1 / STEP)
        elif key == Qt.Key.Key_0:
            self.fit()
        elif key in ways:
            self.move_by(ways[Qt.Key(key)])
        else:
            super().keyPressEvent(event)
