"""The settings on which an opened check rests, above its working: read there, changed there."""

from collections.abc import Mapping
from types import MappingProxyType

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, Qt, QTimer
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.asked import FAILED, Asked
from korbent.app.session import Session
from korbent.app.style import colour, font
from korbent.app.tables import ChoiceDelegate, Spec, TablePanel, TableView
from korbent.core.explain.deciding import Deciding
from korbent.drawing.theme import SIZE, Theme
from korbent.words import say, say_count

ROW, MOST = 38, 4
"""Height of a setting, px, and how many are seen at a time."""
PAUSE = 350
"""So long a change rests before the settings are looked for again, ms."""
NONE = Deciding((), ())
OWN_TABLE = "presumed_table"


class TitledDelegate(ChoiceDelegate):
    """Values stand in the lower half of their row."""

    def initStyleOption(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> None:
        super().initStyleOption(option, index)
        option.displayAlignment = Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignBottom
        option.text = option.text or "–"


class TitledView(TableView):
    """Across each row stands what it is, above its values."""

    titles: Mapping[str, str] = MappingProxyType({})

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        model = self.model_()
        painter = QPainter(self.viewport())
        painter.setFont(font(SIZE["small"] + 0.5))
        wide = self.viewport().width()
        for row, name in enumerate(model.rows):
            top = self.rowViewportPosition(row)
            if -ROW < top < self.viewport().height():
                painter.setPen(colour("line", model.theme))
                painter.drawLine(0, top + ROW - 1, wide, top + ROW - 1)
                painter.setPen(colour("soft", model.theme))
                room = QRect(4, top + 3, wide - 8, ROW // 2 - 2)
                text = painter.fontMetrics().elidedText(self.titles[name], Qt.TextElideMode.ElideRight, room.width())
                painter.drawText(room, Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop, text)
        painter.end()


class DecidingPanel(QWidget):
    """A line that opens a table: each setting with its value for the project, the type and the base; what is in force
    is bold. A worker finds which they are (see :mod:`korbent.core.explain.deciding`)."""

    def __init__(self, session: Session, theme: Theme) -> None:
        from korbent.app.specs.project import SETTING_LABELS, setting_columns

        super().__init__(objectName="deciding")
        self.session, self.known = session, SETTING_LABELS
        self.check = ""
        self.is_open, self.with_read = True, False
        self.asked = Asked("deciding", self._show, self)
        self.later = QTimer(self, singleShot=True, interval=PAUSE)
        self.later.timeout.connect(self._ask)
        self.fold = QPushButton(objectName="flat")
        self.fold.clicked.connect(self._fold)
        self.more = QPushButton(objectName="flat", checkable=True)
        self.more.setToolTip(say("Settings that were read on the way to this check, without effect on it now"))
        self.more.clicked.connect(self._more)
        self.own_table = QPushButton(say("table …"), objectName="flat")
        self.own_table.setToolTip(say("Presumed pressures by depth and width: a table of its own"))
        self.own_table.clicked.connect(lambda: session.show_place("presumed"))
        bar = QHBoxLayout()
        bar.setContentsMargins(12, 0, 10, 0)
        bar.setSpacing(2)
        for button in (self.fold, self.more, self.own_table):
            bar.addWidget(button)
        bar.addStretch(1)
        spec = Spec("deciding", lambda _: self.names, lambda s: [c for c in setting_columns(s) if not c.derived])
        self.table = TablePanel(session, spec, theme, TitledView)
        view = self.table.view
        assert isinstance(view, TitledView)
        view.titles = SETTING_LABELS
        view.setShowGrid(False)
        view.setItemDelegate(TitledDelegate(view))
        view.verticalHeader().setDefaultSectionSize(ROW)
        view.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        view.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(bar)
        column.addWidget(self.table)
        self._show()

    @property
    def found(self) -> Deciding:
        """What is known of the check; nothing while another one is asked for."""
        known = self.asked.found
        mine = self.asked.belongs[1:] == (self.session.selected, self.check)
        return known if isinstance(known, Deciding) and mine and known is not None else NONE

    @property
    def names(self) -> tuple[str, ...]:
        """The settings that are listed."""
        found = self.found
        listed = found.changing + (found.read if self.with_read or not found.changing else ())
        return tuple(name for name in listed if name in self.known)

    def show_check(self, check: str) -> None:
        """Asks for the settings of a check of the selected base; those of '' are none."""
        other = check != self.check or self.asked.belongs[1:2] != (self.session.selected,)
        self.check = check
        if not check:
            self.later.stop()
            self._show()
        elif other:
            self.asked.forget()
            self._ask()
        else:
            self.later.start()
        self._show()

    def _ask(self) -> None:
        pad = self.session.pad
        if pad is not None and self.check:
            self.asked.want((self.session.project, pad.name, self.check), (self.session.project, pad.name, self.check))

    def _show(self) -> None:
        found, names = self.found, self.names
        self.setVisible(bool(self.check))
        arrow = "▾" if self.is_open and names else "▸"
        if found is NONE:
            self.fold.setText(
                say("settings … being looked for") if self.asked.state != FAILED else say("settings could not be found")
            )
        elif found.changing:
            count = len(found.changing)
            self.fold.setText(
                say_count(
                    count,
                    "{arrow} {number} setting decides this",
                    "{arrow} {number} settings decide this",
                    arrow=arrow,
                )
            )
        else:
            self.fold.setText(
                say("{arrow} {read} settings are read", arrow=arrow, read=len(found.read))
                if found.read
                else say("no setting decides this")
            )
        self.fold.setEnabled(bool(names))
        self.more.setText(say("{read} more read", read=len(found.read)))
        self.more.setVisible(bool(found.changing and found.read) and self.is_open)
        self.own_table.setVisible(OWN_TABLE in found.changing)
        self.table.refresh()
        shown = bool(names) and self.is_open
        self.table.setVisible(shown)
        if shown:
            head = self.table.view.horizontalHeader().sizeHint().height()
            high = head + ROW * min(len(names), MOST) + 2 + (ROW // 2 if len(names) > MOST else 0)
            self.table.setFixedHeight(high)

    def _fold(self) -> None:
        self.is_open = not self.is_open
        self._show()

    def _more(self) -> None:
        self.with_read = self.more.isChecked()
        self._show()
