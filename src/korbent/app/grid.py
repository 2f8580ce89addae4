"""Rows and columns that are only looked at, however many."""

from collections.abc import Sequence
from typing import Any

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt
from PySide6.QtWidgets import QHeaderView, QTableView

SAMPLE = 60
"""Rows that column widths are taken from."""
WIDEST = 320


class GridModel(QAbstractTableModel):
    """A head and rows; numbers stand at the right."""

    def __init__(self) -> None:
        super().__init__()
        self.head: Sequence[str] = ()
        self.rows: Sequence[Sequence[Any]] = ()

    def show(self, head: Sequence[str], rows: Sequence[Sequence[Any]]) -> None:
        """Shows other rows."""
        self.beginResetModel()
        self.head, self.rows = head, rows
        self.endResetModel()

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.head)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if role == Qt.ItemDataRole.DisplayRole and orientation == Qt.Orientation.Horizontal:
            return str(self.head[section])
        return None

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        value = self.rows[index.row()][index.column()]
        if role == Qt.ItemDataRole.DisplayRole:
            return "" if value is None else f"{value:.6g}" if isinstance(value, float) else str(value)
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(value, str) and len(value) > 40:
            return value
        if role == Qt.ItemDataRole.TextAlignmentRole and isinstance(value, int | float):
            return int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        return None


class Grid(QTableView):
    """The view of such rows: columns as wide as what stands in the first of them."""

    def __init__(self, name: str, says: str, wraps: bool = False) -> None:
        super().__init__(objectName=name)
        self.setAccessibleName(says)
        self.grid = GridModel()
        self.setModel(self.grid)
        self.verticalHeader().setVisible(False)
        self.verticalHeader().setDefaultSectionSize(26)
        self.setWordWrap(wraps)
        self.wraps = wraps
        self.setHorizontalScrollMode(QTableView.ScrollMode.ScrollPerPixel)
        self.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Interactive)
        self.horizontalHeader().setStretchLastSection(True)

    def show_rows(self, head: Sequence[str], rows: Sequence[Sequence[Any]]) -> None:
        """Shows other rows; the very same ones stay as they are."""
        if head is self.grid.head and rows is self.grid.rows:
            return
        self.grid.show(head, rows)
        metrics, heading = self.fontMetrics(), self.horizontalHeader().fontMetrics()
        for k, name in enumerate(head):
            longest = max(
                (str(self.grid.data(self.grid.index(i, k))) for i in range(min(len(rows), SAMPLE))), key=len, default=""
            )
            wide = max(metrics.horizontalAdvance(longest), heading.horizontalAdvance(str(name))) + 18
            self.setColumnWidth(k, min(wide, WIDEST))
        if self.wraps and len(rows) <= SAMPLE:
            self.resizeRowsToContents()

    def text(self, row: int, column: int) -> str:
        """What a cell shows."""
        return str(self.grid.data(self.grid.index(row, column)))
