"""A plan that is seen in space too: the whole with its ground, turned by the mouse or the arrow keys."""

from collections.abc import Callable

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from korbent.app.canvas import NEAR, DrawingView
from korbent.drawing.primitives import Drawing
from korbent.drawing.whole import Eye
from korbent.words import say

PER_PX = 0.4
"""So much the whole turns when the mouse is dragged by a pixel, deg."""
BY_KEY = 5.0
"""And by an arrow key."""
ARROWS = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}


class TurnableView(DrawingView):
    """The plan from above, and the same in space once *In space* is pressed in its corner.

    Args:
        plan: the drawing from above.
        space: the drawing from where the eye is; whether the concrete is seen through, with its bars.

    In space dragging turns it, with Shift or the middle button it moves; the wheel zooms, a click selects, the arrow
    keys turn it too."""

    def __init__(
        self,
        plan: Callable[[float], Drawing],
        name: str,
        space: Callable[[Eye, bool], Drawing],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(self._made, name, parent)
        self._plan, self._space = plan, space
        self.eye: Eye | None = None
        """From where it is seen; None: from above, as a plan."""
        self._last = Eye()
        self._turning: QPointF | None = None
        self._went = 0.0
        self.in_space = QPushButton(say("In space"), objectName="corner", checkable=True)
        self.in_space.setToolTip(
            say("The whole with its ground; drag to turn it, with Shift to move it, arrow keys too")
        )
        self.in_space.toggled.connect(self._switch)
        self.bars = QPushButton(say("Bars"), objectName="corner", checkable=True, visible=False)
        self.bars.setToolTip(say("Concrete that is seen through, with the bars in it"))
        self.bars.toggled.connect(lambda _: self._anew())
        self.corner = QWidget(self)
        row = QHBoxLayout(self.corner)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        row.addWidget(self.bars)
        row.addWidget(self.in_space)
        self._put_corner()

    def _made(self, aspect: float) -> Drawing:
        return self._plan(aspect) if self.eye is None else self._space(self.eye, self.bars.isChecked())

    def from_above(self) -> None:
        """Back to the plan, for what is done in it."""
        self.in_space.setChecked(False)

    def _switch(self, on: bool) -> None:
        self.eye = self._last if on else None
        self.bars.setVisible(on)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if on else Qt.FocusPolicy.ClickFocus)
        if on:
            self.setFocus()
        self.show_all()
        self._anew()
        self._put_corner()

    def turn(self, by: float, up: float) -> None:
        """Goes around by so much, and higher by so much, deg."""
        if self.eye is not None:
            self.eye = self._last = self.eye.turned(by, up)
            self._anew()

    def _anew(self) -> None:
        self._drawing = None
        self.update()

    def _put_corner(self) -> None:
        self.corner.adjustSize()
        self.corner.move(self.width() - self.corner.width() - 10, self.height() - self.corner.height() - 8)

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)
        self._put_corner()

    # ------------------------------------------------------------ mouse and keys in space

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self.eye is None:
            super().mousePressEvent(event)
        elif event.button() in (Qt.MouseButton.LeftButton, Qt.MouseButton.MiddleButton):
            self._turning, self._went = event.position(), 0.0
            self.setFocus()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self.eye is None:
            super().mouseMoveEvent(event)
            return
        if self._turning is None:
            over = self.key_at(event.position())
            self._hover(over)
            self.setCursor(Qt.CursorShape.PointingHandCursor if over else Qt.CursorShape.SizeAllCursor)
            return
        way = event.position() - self._turning
        self._turning = event.position()
        self._went += way.manhattanLength()
        moves = event.modifiers() & Qt.KeyboardModifier.ShiftModifier or event.buttons() & Qt.MouseButton.MiddleButton
        if moves:
            self._shift += way
            self.update()
        else:
            self.turn(-PER_PX * way.x(), PER_PX * way.y())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self.eye is None:
            super().mouseReleaseEvent(event)
            return
        pressed, self._turning = self._turning, None
        key = self.key_at(event.position())
        if pressed is not None and self._went < NEAR and key:
            self.clicked.emit(key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        way = ARROWS.get(Qt.Key(event.key()))
        if self.eye is not None and way is not None:
            self.turn(BY_KEY * way[0], BY_KEY * way[1])
        elif self.eye is not None and event.key() == Qt.Key.Key_Escape:
            self.from_above()
        else:
            super().keyPressEvent(event)
