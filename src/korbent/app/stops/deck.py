"""Several tables, one of them in front."""

from collections.abc import Sequence

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from korbent.app.session import Session
from korbent.app.tables import Spec, TablePanel
from korbent.drawing.theme import Theme


class TableDeck(QWidget):
    """Several tables, one of them in front."""

    def __init__(self, session: Session, theme: Theme, specs: Sequence[tuple[str, Spec]]) -> None:
        super().__init__()
        self.panels = [TablePanel(session, spec, theme) for _, spec in specs]
        self.buttons: list[QPushButton] = []
        self.stack = QStackedWidget()
        row = QHBoxLayout()
        row.setContentsMargins(12, 7, 12, 5)
        row.setSpacing(4)
        for i, (title, spec) in enumerate(specs):
            button = QPushButton(title, objectName=f"deck-{spec.name}", checkable=True, autoExclusive=True)
            button.clicked.connect(lambda _=False, i=i: self.stack.setCurrentIndex(i))
            row.addWidget(button)
            self.buttons.append(button)
            self.stack.addWidget(self.panels[i])
        row.addStretch(1)
        self.buttons[0].setChecked(True)
        self.stack.currentChanged.connect(lambda at: self.panels[at].refresh())
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(self.stack, 1)

    def bring(self, name: str) -> None:
        """Brings the table of that name to the front."""
        for i, panel in enumerate(self.panels):
            if panel.spec.name == name:
                self.stack.setCurrentIndex(i)
                self.buttons[i].setChecked(True)
