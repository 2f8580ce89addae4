"""A table with its buttons."""

from typing import Any

from PySide6.QtCore import (
    Qt,
)
from PySide6.QtGui import (
    QFont,
    QFontMetrics,
    QShowEvent,
)
from PySide6.QtWidgets import (
    QAbstractItemView,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.style import font
from korbent.app.tables.column import Spec
from korbent.app.tables.editing import ChoiceDelegate
from korbent.app.tables.model import TableModel
from korbent.app.tables.titles import TITLES
from korbent.app.tables.view import TableView
from korbent.app.words import Label
from korbent.drawing.theme import SIZE, Theme
from korbent.words import say

HIGH = 25
"""Of a row with one line, px."""
MARGIN = 12
"""Beside a text in its cell, px."""
FITTED = 40
"""Rows by whose texts the width of a column is found."""


class TablePanel(QWidget):
    """A table with its buttons."""

    def __init__(self, session: Session, spec: Spec, theme: Theme, view: "type[TableView]" = TableView) -> None:
        super().__init__(objectName=f"panel-{spec.name}")
        self.session, self.spec = session, spec
        self.model = TableModel(session, spec, theme)
        self.view = view(objectName=f"table-{spec.name}")
        self.view.setAccessibleName(TITLES.get(spec.name, ""))
        self.view.setModel(self.model)
        self.view.setItemDelegate(ChoiceDelegate(self.view))
        self.view.setFont(font(SIZE["text"]))
        self.view.horizontalHeader().setFont(font(SIZE["small"] + 0.5))
        self.view.horizontalHeader().setDefaultAlignment(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter)
        self.view.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self.view.verticalHeader().setDefaultSectionSize(HIGH)
        self.view.verticalHeader().hide()
        self.view.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.EditKeyPressed
            | QAbstractItemView.EditTrigger.AnyKeyPressed
        )
        self.hint = Label(spec.empty, objectName="quiet", wordWrap=True)
        self.hint.setContentsMargins(14, 10, 14, 10)
        bar = QHBoxLayout()
        bar.setContentsMargins(8, 4, 8, 4)
        bar.setSpacing(6)
        short = spec.tools is not None  # beside more controls there is less room
        self.add_button = QPushButton(
            say("Add") if short else say("Add {noun}", noun=spec.noun), objectName=f"add-{spec.name}"
        )
        self.remove_button = QPushButton(
            say("Remove") if short else say("Remove {noun}", noun=spec.noun), objectName=f"remove-{spec.name}"
        )
        self.add_button.setToolTip(say("Add a {noun}", noun=spec.noun) if short else "")
        self.remove_button.setToolTip(say("Remove the {noun} of the current row", noun=spec.noun) if short else "")
        self.add_button.clicked.connect(self._add)
        self.remove_button.clicked.connect(self._remove)
        for button, does in ((self.add_button, spec.add), (self.remove_button, spec.remove)):
            bar.addWidget(button)
            if does is None:  # to show one that has no parent yet would make it a window
                button.hide()
        if spec.tools:
            bar.addSpacing(14)
            bar.addWidget(spec.tools(self))
        bar.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.hint)
        column.addWidget(self.view, 1)
        if spec.add or spec.remove or spec.tools:
            column.addLayout(bar)
        self._fits = False
        """The columns are as wide as what stands in them."""
        self.model.modelReset.connect(self._was_reset)
        self.model.dataChanged.connect(lambda *_: self._wrap())
        self._was_reset()

    def _was_reset(self) -> None:
        self.hint.setVisible(bool(self.spec.empty) and not self.model.rows)
        self.remove_button.setEnabled(bool(self.model.rows))
        self._fits = False
        if self.isVisible():
            self._fit()

    def _fit(self) -> None:
        self._fits = True
        self.view.horizontalHeader().setResizeContentsPrecision(FITTED)
        for i, column in enumerate(self.model.columns):
            if not column.width:
                self.view.resizeColumnToContents(i)
            wide = column.width or min(max(self.view.columnWidth(i) + 8, 62), 240)
            self.view.setColumnWidth(i, wide)
        self._wrap()

    def _wrap(self) -> None:
        """Rows whose texts go on in a second line are as high as that asks for."""
        if not self.spec.wraps or not self._fits:
            return
        plain, strong = QFont(self.view.font()), QFont(self.view.font())
        strong.setWeight(QFont.Weight.DemiBold)  # what is in force is
        metrics = {False: QFontMetrics(plain), True: QFontMetrics(strong)}
        room = [self.view.columnWidth(i) - MARGIN for i in range(len(self.model.columns))]
        for row in range(self.model.rowCount()):
            high = HIGH
            for i, wide in enumerate(room):
                index = self.model.index(row, i)
                text = str(index.data() or "")
                if metrics[True].horizontalAdvance(text) > wide:
                    own = metrics[index.data(Qt.ItemDataRole.FontRole) is not None]
                    box = own.boundingRect(0, 0, wide, 10 * HIGH, Qt.TextFlag.TextWordWrap, text)
                    high = max(high, box.height() + 3)
            if self.view.rowHeight(row) != high:
                self.view.setRowHeight(row, high)

    def showEvent(self, event: QShowEvent) -> None:
        """One that was behind another is fitted when it comes to the front."""
        super().showEvent(event)
        if not self._fits:
            self._fit()

    def refresh(self) -> None:
        """Reads the project again."""
        self.model.refresh()

    def current_row(self) -> Any:
        """The row object of the current cell."""
        row = self.view.currentIndex().row()
        return self.model.rows[row] if 0 <= row < len(self.model.rows) else None

    def _add(self) -> None:
        if self.spec.add:
            why = self.spec.add(self.session, self.current_row())
            if why:
                self.session.announce(f"! {why}")
            else:
                self.session.follow(self._go_to_the_last)

    def _go_to_the_last(self) -> None:
        self.view.setCurrentIndex(self.model.index(len(self.model.rows) - 1, 0))

    def _remove(self) -> None:
        row = self.current_row()
        if self.spec.remove:
            if row is None:
                self.session.announce(say("! choose the {noun} to remove first", noun=self.spec.noun))
                return
            why = self.spec.remove(self.session, row)
            if why:
                self.session.announce(f"! {why}")
