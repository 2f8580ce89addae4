"""What the stops share: panes with a heading, tables side by side behind names."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QKeySequence, QMouseEvent, QPainter, QPaintEvent, QResizeEvent, QShortcut
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.divided import Divided, Shares, remember
from korbent.app.session import Session
from korbent.app.stops.signposts import Signpost
from korbent.app.words import Label, tip
from korbent.drawing.primitives import Drawing
from korbent.drawing.theme import Theme
from korbent.words import english, say

if TYPE_CHECKING:
    from korbent.app.tables import TablePanel
    from korbent.drawing.whole import Eye


class Stop(QWidget):
    """A place of work, named by its signpost."""

    post: Signpost

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__(objectName=f"stop-{self.place}")
        self.session, self.theme = session, theme
        self.views: list[DrawingView] = []
        self.panels: list[TablePanel] = []
        self._built = False
        self.shares: Shares = {}
        """How its room is shared; the window gives what it remembers."""
        self.large: tuple[QWidget, QWidget] | None = None
        """What is drawn as large as the stop, and what keeps its place."""
        self._back = QShortcut(QKeySequence(say("Esc")), self)
        self._back.setContext(Qt.ShortcutContext.WidgetWithChildrenShortcut)
        self._back.setEnabled(False)
        self._back.activated.connect(lambda: self.enlarge(None))

    @property
    def place(self) -> str:
        """By which it is gone to."""
        return self.post.key

    @property
    def title(self) -> str:
        """What it is called."""
        return self.post.title

    def build(self) -> None:
        """Makes the widgets; called at the first visit."""
        raise NotImplementedError

    def visit(self) -> None:
        """Comes to the front."""
        if not self._built:
            self._built = True
            self.build()
            remember(self, self.shares)
            for view in self.findChildren(DrawingView):
                view.enlarged.connect(lambda v=view: enlarge(v))
            for view in self.views:
                view.theme = self.theme

    def refresh(self) -> None:
        """Shows the project as it is now."""
        for view in self.views:
            view.refresh()  # a view that is not seen makes its drawing when it is
        for panel in self.panels:
            # one that is behind another is read again when it comes to the front
            if panel.isVisibleTo(self):
                panel.refresh()

    def in_space(self, eye: Eye, through: bool) -> Drawing:
        """The whole with its ground from where the eye is."""
        from korbent.drawing.whole import whole_drawing

        session = self.session
        return whole_drawing(
            session.project, eye, session.results, session.selected, session.also, through, steady=True
        )

    def status(self) -> str:
        """A line for the rail."""
        return self.post.line(self.session)

    # ------------------------------------------------------------ one view as large as the stop

    def enlarge(self, part: QWidget | None) -> None:
        """Draws a part as large as the whole stop; the same one once more, or None, puts it back."""
        was = self.large
        if was is not None:
            place, at = was
            _exchange(at, place)
            at.deleteLater()
            place.show()
            self.large = None
            self._back.setEnabled(False)
        if part is None or (was is not None and was[0] is part):
            return
        at = QWidget()
        if not _exchange(part, at):
            at.deleteLater()
            return
        at.show()
        self.large = part, at
        part.setParent(self)
        part.setGeometry(self.rect())
        part.show()
        part.raise_()
        self._back.setEnabled(True)
        self.session.announce(say("Esc, or a double click on its title, puts it back"))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """What is drawn large stays as large as the stop."""
        super().resizeEvent(event)
        if self.large is not None:
            self.large[0].setGeometry(self.rect())


class Elided(Label):
    """A line of text that gives way: what does not fit ends in an ellipsis, and is in the tooltip."""

    def minimumSizeHint(self) -> QSize:
        return QSize(20, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        text = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        self.setToolTip(tip(self.text()) if text != self.text() else "")
        painter = QPainter(self)
        painter.setPen(self.palette().windowText().color())
        painter.drawText(self.rect(), int(Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft), text)
        painter.end()


class Enlarges:
    """A double click on the heading draws it as large as its stop."""

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """On what is no drawing and no table: on its heading."""
        enlarge(self)  # type: ignore[arg-type]


def _exchange(old: QWidget, new: QWidget) -> bool:
    """Puts a widget in the place of another; whether it has a place."""
    parent = old.parentWidget()
    if isinstance(parent, Divided):
        parent.replaceWidget(parent.indexOf(old), new)
        new.show()
        parent.share()
        return True
    layout = None if parent is None else parent.layout()
    return layout is not None and bool(layout.replaceWidget(old, new, Qt.FindChildOption.FindChildrenRecursively))


def enlarge(part: QWidget) -> None:
    """Draws the pane in which a widget stands as large as its stop, or puts it back."""
    pane: QWidget | None = part
    while pane is not None and not isinstance(pane, Enlarges):
        pane = pane.parentWidget()
    stop: QWidget | None = pane
    while stop is not None and not isinstance(stop, Stop):
        stop = stop.parentWidget()
    if isinstance(stop, Stop):
        stop.enlarge(pane)


class Pane(Enlarges, QFrame):
    """A drawing or table with a heading."""

    def __init__(self, title: str, content: QWidget, detail: str = "", tools: QWidget | None = None) -> None:
        super().__init__(objectName="pane")
        self.title = Label(title, objectName="pane-title")
        self.title.setToolTip(say("A double click draws it as large as the middle; Esc puts it back"))
        self.detail = Elided(detail, objectName="quiet")
        head = QHBoxLayout()
        head.setContentsMargins(14, 7, 10, 2)
        head.addWidget(self.title)
        head.addSpacing(8)
        head.addWidget(self.detail, 1)
        if tools:
            head.addWidget(tools)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addWidget(content, 1)


class Choice(Enlarges, QWidget):
    """Several drawings in one place, one of them in front, chosen by their names."""

    def __init__(self, choices: Sequence[tuple[str, QWidget]], tools: QWidget | None = None) -> None:
        super().__init__()
        self.stack = QStackedWidget()
        self.buttons: list[QPushButton] = []
        row = QHBoxLayout()
        row.setContentsMargins(10, 6, 6, 2)
        row.setSpacing(6)
        for i, (title, widget) in enumerate(choices):
            button = QPushButton(
                title, objectName=f"show-{english(title).split()[0].lower()}", checkable=True, autoExclusive=True
            )
            button.clicked.connect(lambda _=False, i=i: self.bring(i))
            row.addWidget(button)
            self.buttons.append(button)
            self.stack.addWidget(widget)
        row.addStretch(1)
        if tools:
            row.addWidget(tools)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(self.stack, 1)
        self.bring(0)

    def bring(self, index: int) -> None:
        """Brings one to the front."""
        self.stack.setCurrentIndex(index)
        self.buttons[index].setChecked(True)
