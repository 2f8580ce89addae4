"""The rail: the work in its order, each stop with its state in a line and its worst ratio as a bar."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QVBoxLayout, QWidget

from korbent.app.session import Session
from korbent.app.stops import RAIL, Signpost, Stops
from korbent.app.style import colour, font
from korbent.core.checks import State
from korbent.core.units import show_ratio
from korbent.drawing.theme import SIZE, Theme


class RailButton(QAbstractButton):
    """One stop on the rail."""

    def __init__(self, post: Signpost, number: int, session: Session, stops: Stops, theme: Theme) -> None:
        super().__init__(objectName=f"rail-{post.key}", checkable=True)
        self.post, self.number, self.session, self.stops, self.theme = post, number, session, stops, theme
        self.setText(post.title)
        self.setToolTip(f"Alt+{number}")
        self.setAccessibleName(post.title)
        self.setFixedHeight(74)

    def status(self) -> str:
        """The line below the name: of the stop where it was made, it may know more."""
        stop = self.stops.made(self.number - 1)
        return self.post.line(self.session) if stop is None else stop.status()

    def sizeHint(self) -> QSize:
        return QSize(148, 74)

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        t, chosen = self.theme, self.isChecked()
        painter.fillRect(self.rect(), colour("desk", t))
        painter.setPen(colour("line", t))
        painter.drawLine(22, 0, 22, self.height())
        if chosen:
            painter.setPen(colour("line", t))
            painter.setBrush(colour("paper", t))
            painter.drawRoundedRect(QRectF(8, 4, self.width() + 10, self.height() - 10), 6, 6)
        elif self.underMouse() or self.hasFocus():
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("faint", t))
            painter.drawRoundedRect(QRectF(8, 4, self.width() + 10, self.height() - 10), 6, 6)
        painter.setPen(colour("accent" if chosen else "soft", t))
        painter.setBrush(colour("accent" if chosen else "desk", t))
        painter.drawEllipse(QRectF(17, 16, 10, 10))
        painter.setFont(font(SIZE["title"], bold=chosen))
        painter.setPen(colour("accent" if chosen else "ink", t))
        painter.drawText(38, 27, self.post.title)
        painter.setFont(font(SIZE["small"] + 0.5))
        painter.setPen(colour("soft", t))
        painter.drawText(38, 43, painter.fontMetrics().elidedText(self.status(), Qt.TextElideMode.ElideRight, 108))
        worst = self.post.worst(self.session)
        if worst is not None:
            self._bar(painter, worst.ratio, worst.state)
        painter.end()

    def _bar(self, painter: QPainter, ratio: float | None, state: State) -> None:
        t = self.theme
        text = show_ratio(ratio) if ratio is not None else "?" if state is State.CANNOT else "!"
        bad = state in (State.FAILS, State.UNSTABLE)
        painter.setFont(font(SIZE["text"], bold=True))
        painter.setPen(colour("beyond" if bad else "ink", t))
        painter.drawText(QRectF(96, 30, 44, 18), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, text)
        box = QRectF(38, 52, 102, 4)
        painter.fillRect(box, colour("faint", t))
        share = min(ratio, 1.2) if ratio is not None else 1.2 if bad else 0.0  # what cannot be done fails nothing
        filled = QRectF(box.left(), box.top(), box.width() * share / 1.2, box.height())
        painter.fillRect(filled, colour(f"ratio:{ratio}" if ratio is not None else "beyond", t))
        x = box.left() + box.width() / 1.2
        painter.setPen(colour("ink", t))
        painter.drawLine(int(x), 49, int(x), 59)


class Rail(QWidget):
    """Left side of the window."""

    chosen = Signal(int)

    def __init__(self, session: Session, stops: Stops, theme: Theme) -> None:
        super().__init__(objectName="desk")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(150)
        self.buttons = [RailButton(post, i, session, stops, theme) for i, post in enumerate(RAIL, 1)]
        self.group = group = QButtonGroup(self)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 8, 0, 0)
        column.setSpacing(0)
        for i, button in enumerate(self.buttons):
            group.addButton(button, i)
            column.addWidget(button)
        column.addStretch(1)
        group.idClicked.connect(self.chosen)

    def choose(self, index: int) -> None:
        """Marks a stop as the current one; none where what is in front stands on no rail."""
        self.group.setExclusive(False)
        for i, button in enumerate(self.buttons):
            button.setChecked(i == index)
        self.group.setExclusive(True)

    def refresh(self) -> None:
        """Paints the states again."""
        for button in self.buttons:
            button.update()
