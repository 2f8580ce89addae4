"""The sheets of a set as a list: ticked, ordered, each with what it comes to and whether it is out of date."""

from PySide6.QtCore import QModelIndex, QPersistentModelIndex, QRect, QSize, Qt, Signal
from PySide6.QtGui import QDropEvent, QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import (
    QAbstractItemView,
    QListWidget,
    QListWidgetItem,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
)

from korbent.app.style import colour, font
from korbent.core.model.labels import label
from korbent.core.model.sheets import SheetChoice
from korbent.drawing.theme import SIZE, Theme
from korbent.sheets.catalogue import KINDS
from korbent.words import say

KEY, SAID, STATE, HEAD = (Qt.ItemDataRole.UserRole + k for k in range(4))
HIGH, HEAD_HIGH, BOX = 40, 30, 14
GROUPS = ("calculation", "drawings", "tables")


class _Drawn(QStyledItemDelegate):
    """A box, the name, what it comes to below it, its state at the right."""

    def __init__(self, theme: Theme, parent: QListWidget) -> None:
        super().__init__(parent)
        self.theme = theme

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        return QSize(200, HEAD_HIGH if index.data(HEAD) else HIGH)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        t, box = self.theme, option.rect
        painter.save()
        if index.data(HEAD):
            painter.setFont(font(SIZE["small"], bold=True))
            painter.setPen(colour("soft", t))
            painter.drawText(
                box.adjusted(14, 8, -8, 0), int(Qt.AlignmentFlag.AlignVCenter), label(str(index.data(HEAD))).upper()
            )
            painter.restore()
            return
        chosen = bool(option.state & QStyle.StateFlag.State_Selected)
        if chosen:
            painter.fillRect(box.adjusted(6, 1, -6, -1), colour("accent_wash", t))
        on = (
            index.data(Qt.ItemDataRole.CheckStateRole) == Qt.CheckState.Checked.value
            or index.data(Qt.ItemDataRole.CheckStateRole) == Qt.CheckState.Checked
        )
        tick = tick_box(box)
        painter.setPen(colour("soft", t))
        painter.setBrush(colour("raised", t))
        painter.drawRoundedRect(tick, 3, 3)
        if on:
            painter.fillRect(tick.adjusted(4, 4, -3, -3), colour("accent", t))
        state = str(index.data(STATE) or "")
        painter.setFont(font(SIZE["small"]))
        wide = painter.fontMetrics().horizontalAdvance(state) + 8 if state else 0
        if state:
            painter.setPen(colour("beyond", t))
            painter.drawText(
                box.adjusted(0, 5, -12, -HIGH // 2 + 2),
                int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter),
                state,
            )
        painter.setFont(font(SIZE["text"], bold=chosen))
        painter.setPen(colour("ink" if on else "soft", t))
        title = painter.fontMetrics().elidedText(
            str(index.data(Qt.ItemDataRole.DisplayRole)), Qt.TextElideMode.ElideRight, box.width() - 46 - wide
        )
        painter.drawText(box.adjusted(36, 4, -10, -HIGH // 2 + 2), int(Qt.AlignmentFlag.AlignVCenter), title)
        painter.setFont(font(SIZE["small"]))
        painter.setPen(colour("soft", t))
        said = painter.fontMetrics().elidedText(
            str(index.data(SAID) or ""), Qt.TextElideMode.ElideRight, box.width() - 50
        )
        painter.drawText(box.adjusted(36, HIGH // 2 - 1, -10, -3), int(Qt.AlignmentFlag.AlignVCenter), said)
        painter.restore()


def tick_box(row: QRect) -> QRect:
    """Where the box of a row is."""
    return QRect(row.left() + 14, row.top() + 6, BOX, BOX)


class SheetList(QListWidget):
    """Emits what the user does; the stop makes it a change of the set."""

    ticked = Signal(str, bool)
    ordered = Signal(list)
    chosen = Signal(str)

    def __init__(self, theme: Theme) -> None:
        super().__init__(objectName="sheet-list")
        self.setAccessibleName(say("Sheets of the set"))
        self.setItemDelegate(_Drawn(theme, self))
        self.setDragDropMode(QAbstractItemView.DragDropMode.InternalMove)
        self.setVerticalScrollMode(QAbstractItemView.ScrollMode.ScrollPerPixel)
        self.setToolTip(say("Space or a click on the box ticks; Alt+Up and Alt+Down, or a drag, order"))
        self.currentItemChanged.connect(self._current)
        self._filling = False

    def fill(self, choices: tuple[SheetChoice, ...], said: dict[str, str], state: dict[str, str]) -> None:
        """Shows the sheets of a set by group, in its order; what is chosen stays chosen."""
        before = [(self.item(i).data(KEY), self.item(i).checkState()) for i in range(self.count())]
        wanted: list[tuple[str | None, Qt.CheckState]] = []
        rows: list[SheetChoice | str] = []
        for group in GROUPS:
            rows.append(group)
            rows += [c for c in choices if KINDS[c.key].group == group]
        wanted = [
            (None, Qt.CheckState.Unchecked)
            if isinstance(r, str)
            else (r.key, Qt.CheckState.Checked if r.on else Qt.CheckState.Unchecked)
            for r in rows
        ]
        if before != wanted:
            self._filling = True
            key = self.key()
            self.clear()
            for row, (_, tick) in zip(rows, wanted):
                item = QListWidgetItem("" if isinstance(row, str) else KINDS[row.key].title)
                if isinstance(row, str):
                    item.setFlags(Qt.ItemFlag.NoItemFlags)
                    item.setData(HEAD, row)
                else:
                    item.setFlags(
                        Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsDragEnabled
                    )
                    item.setData(KEY, row.key)
                    item.setToolTip(KINDS[row.key].says)
                    item.setCheckState(tick)
                self.addItem(item)
            self._filling = False
            self.choose(key or rows_first(rows))
        for i in range(self.count()):
            item = self.item(i)
            key = item.data(KEY)
            if key:
                item.setData(SAID, said.get(key, KINDS[key].says))
                item.setData(STATE, state.get(key, ""))

    def key(self) -> str:
        """The chosen sheet."""
        item = self.currentItem()
        return str(item.data(KEY) or "") if item is not None else ""

    def keys(self) -> list[str]:
        """All sheets in their order."""
        return [str(k) for i in range(self.count()) if (k := self.item(i).data(KEY))]

    def choose(self, key: str) -> None:
        """Chooses a sheet."""
        for i in range(self.count()):
            if self.item(i).data(KEY) == key:
                self.setCurrentRow(i)

    def _current(self, item: QListWidgetItem | None, _: object) -> None:
        if not self._filling and item is not None and item.data(KEY):
            self.chosen.emit(item.data(KEY))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        at = event.position().toPoint()
        item = self.itemAt(at)
        if item is not None and item.data(KEY) and at.x() <= tick_box(self.visualItemRect(item)).right() + 4:
            self.setCurrentItem(item)
            self._toggle(item)
            return
        super().mousePressEvent(event)

    def _toggle(self, item: QListWidgetItem) -> None:
        self.ticked.emit(item.data(KEY), item.checkState() != Qt.CheckState.Checked)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        item = self.currentItem()
        if item is not None and item.data(KEY):
            if event.key() == Qt.Key.Key_Space:
                self._toggle(item)
                return
            by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
            if by and event.modifiers() & Qt.KeyboardModifier.AltModifier:
                self.move_by(by)
                return
        super().keyPressEvent(event)

    def move_by(self, by: int) -> None:
        """Moves the chosen sheet up or down within its group."""
        key, keys = self.key(), self.keys()
        own = [k for k in keys if KINDS[k].group == KINDS[key].group]
        at = own.index(key)
        if not 0 <= at + by < len(own):
            return
        other = own[at + by]
        a, b = keys.index(key), keys.index(other)
        keys[a], keys[b] = keys[b], keys[a]
        self.ordered.emit(keys)

    def dropEvent(self, event: QDropEvent) -> None:
        """Takes the order of what was dragged; a sheet stays in its group."""
        super().dropEvent(event)
        self.ordered.emit(self.keys())


def rows_first(rows: list[SheetChoice | str]) -> str:
    """The first sheet of some rows."""
    return next((r.key for r in rows if not isinstance(r, str)), "")
