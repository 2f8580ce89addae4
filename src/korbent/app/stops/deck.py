"""Several tables, one of them in front."""

from collections.abc import Callable, Sequence
from functools import partial

from PySide6.QtCore import QSize
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from korbent.app.session import Session
from korbent.app.tables import Spec, TablePanel
from korbent.drawing.theme import Theme
from korbent.words import say


class TableDeck(QWidget):
    """Several tables, one of them in front."""

    def __init__(self, session: Session, theme: Theme, specs: Sequence[tuple[str, Spec]]) -> None:
        super().__init__()
        self.panels = [TablePanel(session, spec, theme) for _, spec in specs]
        self.buttons: list[QPushButton] = []
        self.stack = QStackedWidget()
        for i, (title, spec) in enumerate(specs):
            button = QPushButton(title, objectName=f"deck-{spec.name}", checkable=True, autoExclusive=True)
            button.clicked.connect(lambda _=False, i=i: self.stack.setCurrentIndex(i))
            self.buttons.append(button)
            self.stack.addWidget(self.panels[i])
        self.row = ButtonRow(self.buttons, lambda i: self.bring(specs[i][1].name))
        self.buttons[0].setChecked(True)
        self.stack.currentChanged.connect(lambda at: self.panels[at].refresh())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.row)
        column.addWidget(self.stack, 1)

    def bring(self, name: str) -> None:
        """Brings the table of that name to the front."""
        for i, panel in enumerate(self.panels):
            if panel.spec.name == name:
                self.stack.setCurrentIndex(i)
                self.buttons[i].setChecked(True)
                self.row.fit()


class ButtonRow(QWidget):
    """Buttons side by side; those for which there is no room stand in a menu at the end. The checked one is always
    seen."""

    def __init__(self, buttons: Sequence[QPushButton], choose: Callable[[int], None]) -> None:
        super().__init__()
        self.buttons, self.choose = list(buttons), choose
        self.more = QPushButton(say("More"), objectName="deck-more")
        self.more.setToolTip(say("More tables, for which there is no room here"))
        self.menu = QMenu(self.more)
        self.more.setMenu(self.menu)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 7, 12, 5)
        row.setSpacing(4)
        for button in (*self.buttons, self.more):
            row.addWidget(button)
        row.addStretch(1)

    def minimumSizeHint(self) -> QSize:
        return QSize(240, super().minimumSizeHint().height())

    def sizeHint(self) -> QSize:
        return QSize(240, super().sizeHint().height())

    def resizeEvent(self, event: QResizeEvent) -> None:
        self.fit()

    def fit(self) -> None:
        """Decides which buttons are seen."""
        layout = self.layout()
        assert layout is not None
        margins, gap = layout.contentsMargins(), layout.spacing()
        room = self.width() - margins.left() - margins.right()
        widths = [button.sizeHint().width() + gap for button in self.buttons]
        seen = set(range(len(widths)))
        if sum(widths) - gap > room:
            room -= self.more.sizeHint().width()
            checked = next((i for i, button in enumerate(self.buttons) if button.isChecked()), 0)
            left = room - widths[checked]
            seen = {checked}
            for i, width in enumerate(widths):
                if i == checked:
                    continue
                if width > left:
                    break
                seen.add(i)
                left -= width
        self.menu.clear()
        for i, button in enumerate(self.buttons):
            button.setVisible(i in seen)
            if i not in seen:
                self.menu.addAction(button.text(), partial(self.choose, i))
        self.more.setVisible(len(seen) < len(self.buttons))
