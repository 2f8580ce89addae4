"""A table as a spreadsheet: keys, blocks, filling, copying, sorting, notes."""

import re
from typing import Any

from PySide6.QtCore import (
    QItemSelection,
    QItemSelectionModel,
    QModelIndex,
    QRect,
    Qt,
)
from PySide6.QtGui import (
    QContextMenuEvent,
    QGuiApplication,
    QKeyEvent,
    QKeySequence,
    QMouseEvent,
    QPainter,
    QPaintEvent,
)
from PySide6.QtWidgets import (
    QInputDialog,
    QLineEdit,
    QMenu,
    QStyledItemDelegate,
    QTableView,
    QWidget,
)

from korbent.app.naming import naming
from korbent.app.style import colour
from korbent.app.tables.model import TableModel
from korbent.core.model import noted
from korbent.core.model.expressions import spoken
from korbent.words import say, say_count

HANDLE = 4
"""Half the side of the square by which a block is dragged to fill, px."""
WAYS = {Qt.Key.Key_Up: (-1, 0), Qt.Key.Key_Down: (1, 0), Qt.Key.Key_Left: (0, -1), Qt.Key.Key_Right: (0, 1)}


class TableView(QTableView):
    """As a spreadsheet: Enter takes an entry and goes on down, Ctrl with arrows goes to the end of what is filled, a
    block is copied, pasted, filled down, or dragged by its corner to fill what lies beyond; what is typed below the
    last row makes another one. Delete empties optional cells. Each is one step of undo."""

    def __init__(self, parent: QWidget | None = None, **properties: Any) -> None:
        super().__init__(parent, **properties)
        self.below = False
        """Below the last row: what is typed now makes one more."""
        self._block: tuple[int, int, int, int] | None = None
        """From row to row and column to column, what is being dragged to fill."""

    def model_(self) -> TableModel:
        """The model, as what it is."""
        model: TableModel = self.model()  # type: ignore[assignment]
        return model

    def keyPressEvent(self, event: QKeyEvent) -> None:
        control = bool(event.modifiers() & Qt.KeyboardModifier.ControlModifier)
        key, at_last = Qt.Key(event.key()), self._is_last()
        if self.below and event.text().isprintable() and event.text() and not control:
            self._one_more(event)
            return
        self._stand_below(False)
        if event.matches(QKeySequence.StandardKey.Copy):
            self.copy()
        elif event.matches(QKeySequence.StandardKey.Paste):
            self.paste(QGuiApplication.clipboard().text())
        elif key == Qt.Key.Key_Delete:
            with self.model_().session.together():
                for index in self.selectedIndexes():
                    self.model().setData(index, "")
        elif control and key == Qt.Key.Key_D:
            self.fill()
        elif control and key == Qt.Key.Key_M:
            self.ask_note()
        elif control and key in WAYS:
            self._jump(WAYS[key], bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self.state() != QTableView.State.EditingState:
            self.go_on()
        elif key == Qt.Key.Key_Down and at_last and not event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
            self._stand_below(True)
        else:
            super().keyPressEvent(event)

    def closeEditor(self, editor: QWidget, hint: QStyledItemDelegate.EndEditHint) -> None:
        at = self.currentIndex()
        super().closeEditor(editor, hint)
        taken = hint == QStyledItemDelegate.EndEditHint.SubmitModelCache and isinstance(editor, QLineEdit)
        # a wrong entry stays in front
        if taken and (at.row(), at.column()) not in self.model_().wrong:
            self.go_on()

    def go_on(self) -> None:
        """To the cell below; from the last row to below it."""
        at = self.currentIndex()
        if self._is_last():
            self._stand_below(True)
        elif at.isValid():
            self.setCurrentIndex(self.model().index(at.row() + 1, at.column()))

    def _is_last(self) -> bool:
        at = self.currentIndex()
        return at.isValid() and at.row() == self.model().rowCount() - 1

    def _stand_below(self, is_so: bool) -> None:
        is_so = is_so and self.model_().spec.add is not None
        if is_so != self.below:
            self.below = is_so
            self.viewport().update()

    def _one_more(self, event: QKeyEvent) -> None:
        """Adds a row like the last one and begins to type into it."""
        model, column = self.model_(), self.currentIndex().column()
        self._stand_below(False)
        why = model.spec.add(model.session, model.rows[-1] if model.rows else None) if model.spec.add else ""
        if why:
            model.session.announce(f"! {why}")
            return
        model.refresh()
        self.setCurrentIndex(self.model().index(self.model().rowCount() - 1, column))
        super().keyPressEvent(event)

    def _jump(self, way: tuple[int, int], extends: bool) -> None:
        """To the end of what is filled, or to where something is filled again."""
        model, at = self.model_(), self.currentIndex()
        rows, columns = model.rowCount(), model.columnCount()
        row, column = at.row(), at.column()

        def filled(r: int, c: int) -> bool:
            return 0 <= r < rows and 0 <= c < columns and bool(model.text(r, c))

        beside = filled(row + way[0], column + way[1])
        while 0 <= row + way[0] < rows and 0 <= column + way[1] < columns:
            if beside and not filled(row + way[0], column + way[1]):
                break
            row, column = row + way[0], column + way[1]
            if not beside and filled(row, column):
                break
        to = self.model().index(row, column)
        flag = QItemSelectionModel.SelectionFlag
        if not extends:
            self.selectionModel().setCurrentIndex(to, flag.ClearAndSelect)
            return
        self.selectionModel().select(QItemSelection(at, to), flag.Select)
        self.selectionModel().setCurrentIndex(to, flag.NoUpdate)

    # ------------------------------------------------------------ a block dragged to fill

    def _chosen_block(self) -> tuple[int, int, int, int] | None:
        """Rows and columns of what is chosen, where it is a block."""
        chosen = self.selectedIndexes()
        if not chosen:
            return None
        rows, columns = {i.row() for i in chosen}, {i.column() for i in chosen}
        block = (min(rows), max(rows), min(columns), max(columns))
        whole = (block[1] - block[0] + 1) * (block[3] - block[2] + 1) == len(chosen)
        return block if whole else None

    def handle(self) -> QRect:
        """The square at the corner of what is chosen; empty where that is no block."""
        block = self._chosen_block()
        if block is None or self.state() == QTableView.State.EditingState:
            return QRect()
        corner = self.visualRect(self.model().index(block[1], block[3])).bottomRight()
        return QRect(corner.x() - HANDLE, corner.y() - HANDLE, 2 * HANDLE, 2 * HANDLE)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if naming().is_on:  # an expression is typed: the click is an answer to it
            at = self.indexAt(event.position().toPoint())
            if at.isValid() and not naming().take(self.model_().path_at(at.row(), at.column())):
                naming().take(())
            return
        self._stand_below(False)
        block = self._chosen_block()
        if (
            event.button() == Qt.MouseButton.LeftButton
            and block
            and self.handle().adjusted(-2, -2, 2, 2).contains(event.position().toPoint())
        ):
            self._block = block
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._block is None:
            super().mouseMoveEvent(event)
            return
        at = self.indexAt(event.position().toPoint())
        if at.isValid():
            top, left = self.model().index(self._block[0], self._block[2]), self._end_of_fill(at)
            self.selectionModel().select(QItemSelection(top, left), QItemSelectionModel.SelectionFlag.ClearAndSelect)
            self.viewport().update()

    def _end_of_fill(self, at: QModelIndex) -> QModelIndex:
        """The corner of the block that is filled: down or to the right, whichever is further."""
        assert self._block is not None
        down, right = at.row() - self._block[1], at.column() - self._block[3]
        if down >= right:
            return self.model().index(max(at.row(), self._block[1]), self._block[3])
        return self.model().index(self._block[1], max(at.column(), self._block[3]))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._block is None:
            super().mouseReleaseEvent(event)
            return
        source, self._block = self._block, None
        to = self._chosen_block()
        if to is not None and to != source:
            self._filled_from(source, to)

    def _filled_from(self, source: tuple[int, int, int, int], to: tuple[int, int, int, int]) -> None:
        """Gives a block what another one within it holds, over and over."""
        model = self.model_()
        high, wide = source[1] - source[0] + 1, source[3] - source[2] + 1
        with model.session.together("filled"):
            for row in range(to[0], to[1] + 1):
                for column in range(to[2], to[3] + 1):
                    if row <= source[1] and column <= source[3]:
                        continue
                    of = (source[0] + (row - source[0]) % high, source[2] + (column - source[2]) % wide)
                    model.setData(model.index(row, column), model.expression(*of) or model.text(*of))
                    model.reread()
        model.refresh()

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        painter = QPainter(self.viewport())
        accent = colour("accent", self.model_().theme)
        square = self.handle()
        if not square.isEmpty():
            painter.fillRect(square, accent)
        if self.below:
            last = self.visualRect(self.model().index(self.model().rowCount() - 1, 0))
            painter.fillRect(QRect(0, last.bottom() + 1, self.viewport().width(), 2), accent)
        painter.end()

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        self.menu().exec(event.globalPos())

    def menu(self) -> QMenu:
        """What can be done with the chosen cells."""
        menu = QMenu(self)
        at = self.currentIndex()
        title = self.model_().columns[at.column()].title if at.isValid() else ""
        for text, action in (
            ("Copy\tCtrl+C", self.copy),
            ("Paste\tCtrl+V", lambda: self.paste(QGuiApplication.clipboard().text())),
            (say("Fill down\tCtrl+D"), self.fill),
            (say("Sort rows by {title}", title=title), lambda: self.sort_by(at.column())),
            (say("Note on this value …\tCtrl+M"), self.ask_note),
        ):
            menu.addAction(text, action)
        return menu

    def copy(self) -> None:
        """Puts the selected cells onto the clipboard, tab-separated."""
        chosen = self.selectedIndexes()
        if not chosen:
            return
        rows = sorted({i.row() for i in chosen})
        columns = sorted({i.column() for i in chosen})
        model = self.model_()
        lines = ["\t".join(model.text(r, c) for c in columns) for r in rows]
        QGuiApplication.clipboard().setText("\n".join(lines))

    def paste(self, text: str) -> None:
        """Writes a block from the current cell on; cells that are wrong are marked, rows that are missing are added.

        A header row of the table is recognised and left out.
        """
        start = self.currentIndex()
        model = self.model_()
        if not start.isValid():
            return
        lines = [line.rstrip("\r").split("\t") for line in text.rstrip("\n").split("\n")]
        titles = {c.title.lower() for c in model.columns}
        if (
            len(lines) > 1
            and all(not cell or cell.split("[")[0].strip().lower() in titles for cell in lines[0])
            and any(lines[0])
        ):
            lines = lines[1:]
        taken = refused = 0
        with model.session.together("pasted"):
            need = start.row() + len(lines)
            while (
                need > len(model.rows)
                and model.spec.add
                and not model.spec.add(model.session, model.rows[-1] if model.rows else None)
            ):
                model.reread()
            cells = [
                (start.row() + i, start.column() + j, typed)
                for i, line in enumerate(lines)
                for j, typed in enumerate(line)
            ]
            inside = [(r, c, t) for r, c, t in cells if r < len(model.rows) and c < len(model.columns)]
            # a row is found by its name: names change when all else is in place
            for row, column, typed in sorted(inside, key=lambda cell: model.is_name(cell[0], cell[1])):
                if model.setData(model.index(row, column), typed):
                    taken += 1
                else:
                    refused += 1
                model.reread()
        model.refresh()
        outside = len(cells) - len(inside)
        parts = [say_count(taken, "{number} cell pasted", "{number} cells pasted")]
        parts += [say("{refused} refused: the marked ones say why", refused=refused)] * bool(refused)
        parts += [say("{outside} beyond the table", outside=outside)] * bool(outside)
        model.session.announce(("! " if refused or outside else "") + ", ".join(parts))

    def fill(self) -> None:
        """Gives the chosen cells below the uppermost of each column its content."""
        model = self.model_()
        columns: dict[int, list[int]] = {}
        for index in self.selectedIndexes():
            columns.setdefault(index.column(), []).append(index.row())
        with model.session.together(say("filled down")):
            for column, rows in columns.items():
                first, *others = sorted(rows)
                typed = model.expression(first, column) or model.text(first, column)
                for row in others:
                    model.setData(model.index(row, column), typed)
                    model.reread()
        model.refresh()

    def sort_by(self, position: int) -> None:
        """Sorts the rows of the project by a column; a second time the other way round."""
        model = self.model_()
        if not model.spec.order or position < 0 or not model.rows:
            model.session.announce(say("! the rows of this table have an order of their own"))
            return
        column = model.columns[position]

        def key(row: Any) -> tuple[int, Any]:
            value = column.get(row)
            if value is None:
                return (2, "")
            return (0, float(value)) if isinstance(value, (int, float)) else (1, _natural(str(value)))

        rows = sorted(model.rows, key=key)
        if rows == model.rows:
            rows.reverse()
        why = model.spec.order(model.session, rows)
        if why:
            model.session.announce(f"! {why}")

    def ask_note(self) -> None:
        """Asks for a note on the current value."""
        at, model = self.currentIndex(), self.model_()
        path = model.path_at(at.row(), at.column()) if at.isValid() else ()
        if not path:
            model.session.announce(say("! choose a value to note something on"))
            return
        title = say("Note on {title}, {spoken}", title=model.columns[at.column()].title, spoken=spoken(path[:-1]))
        text, taken = QInputDialog.getMultiLineText(self, say("Note"), title, model.session.note(path))
        if taken:
            model.session.apply(noted(model.session.project, path, text), say("note kept"))


def _natural(text: str) -> tuple[tuple[int, Any], ...]:
    """A key by which P2 comes before P10."""
    parts = re.findall(r"\d+|\D+", text.lower())
    return tuple((0, int(p)) if p.isdigit() else (1, p) for p in parts)
