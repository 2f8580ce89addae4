"""A small outline of the selected base: the edges that are held are bold; a click on an edge holds it, or lets it
go."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QWidget

from korbent.app.session import Session
from korbent.app.style import colour
from korbent.drawing.theme import Theme
from korbent.words import say

SIDES = {Qt.Key.Key_Left: "-x", Qt.Key.Key_Right: "+x", Qt.Key.Key_Up: "+y", Qt.Key.Key_Down: "-y"}
WIDE, HIGH, AWAY = 46, 28, 6.0
"""Of the outline with what is around it, px."""


class EdgeOutline(QWidget):
    """The base in its own axes, x to the right; the dot is its column."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(objectName="held-edges")
        self.session, self.theme = session, theme
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFixedSize(WIDE, HIGH)
        self.setAccessibleName(say("Edges that are held"))
        self.setToolTip(
            say(
                "Edges that stay when the size changes: a click (or an arrow key) on an edge holds it, once more lets it go; without one the middle stays"
            )
        )

    def sizeHint(self) -> QSize:
        return QSize(WIDE, HIGH)

    @property
    def box(self) -> QRectF:
        """Where the base is drawn."""
        return QRectF(self.rect()).adjusted(AWAY + 4, AWAY, -AWAY - 4, -AWAY)

    def edges(self) -> dict[str, tuple[QPointF, QPointF]]:
        """By side, where its edge is drawn."""
        b = self.box
        return {
            "-x": (b.topLeft(), b.bottomLeft()),
            "+x": (b.topRight(), b.bottomRight()),
            "-y": (b.bottomLeft(), b.bottomRight()),
            "+y": (b.topLeft(), b.topRight()),
        }

    def held(self) -> tuple[str, ...]:
        """The edges that are held."""
        pad = self.session.pad
        return tuple(h for h in (pad.hold_x, pad.hold_y) if h != "middle") if pad else ()

    def hold(self, side: str) -> None:
        """Holds an edge, or lets it go."""
        pad = self.session.pad
        if pad is None or pad.is_round:
            return
        field = f"hold_{side[1]}"
        wrong = self.session.edit(("pads", pad.name, field), "middle" if getattr(pad, field) == side else side)
        if wrong:
            self.session.announce(f"! {wrong}")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at, b = event.position(), self.box
        near = {
            "-x": abs(at.x() - b.left()),
            "+x": abs(at.x() - b.right()),
            "-y": abs(at.y() - b.bottom()),
            "+y": abs(at.y() - b.top()),
        }
        self.hold(min(near, key=near.__getitem__))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        side = SIDES.get(Qt.Key(event.key()))
        if side is not None:
            self.hold(side)
        else:
            super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent) -> None:
        pad = self.session.pad
        if pad is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, b = self.theme, self.box
        painter.setPen(QPen(colour("accent" if self.hasFocus() else "soft", t), 1.2))
        painter.setBrush(colour("raised", t))
        painter.drawEllipse(b) if pad.is_round else painter.drawRect(b)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(colour("ink", t))
        x = b.center().x() + b.width() * max(min(pad.offset_x / pad.width, 0.42), -0.42)
        y = b.center().y() - b.height() * max(min(pad.offset_y / pad.length, 0.42), -0.42)
        painter.drawEllipse(QPointF(x, y), 2.2, 2.2)
        painter.setPen(QPen(colour("accent", t), 3.6, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        for side in self.held():
            painter.drawLine(*self.edges()[side])
        painter.end()
