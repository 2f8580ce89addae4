"""All bases: the ledger of the whole plan, a row a base, a column a check; each cell leads to its check."""

from typing import Any

from PySide6.QtCore import (
    QAbstractTableModel,
    QModelIndex,
    QPersistentModelIndex,
    QRect,
    QRectF,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QBrush, QKeyEvent, QPainter
from PySide6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QTableView,
    QVBoxLayout,
    QWidget,
)

from korbent.app.session import Session
from korbent.app.stops.signposts import WHOLE
from korbent.app.stops.stop import Stop
from korbent.app.style import colour, font
from korbent.app.words import Label, tip
from korbent.core.checks import CHECKS, GROUPS, Check, CheckResult, State
from korbent.core.evaluate import PadResult
from korbent.core.units import show_ratio
from korbent.drawing.theme import RATIO_WASH, SIZE, Theme
from korbent.words import say, say_count

NARROW, HIGH, HEAD = 26, 22, 180
"""Width of a check, height of a base, height of the names of the checks, px."""
SIGNS = {
    State.UNSTABLE: "✕",
    State.FAILS: "✕",
    State.CANNOT: "?",
    State.NOT_DESIGNED: "?",
    State.COMPUTING: "…",
    State.NOT_APPLICABLE: "",
}
BAD = (State.FAILS, State.UNSTABLE)


class WholeModel(QAbstractTableModel):
    """The results of all bases; the first column is the worst of each."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.rows: list[PadResult] = []
        self.columns: list[Check] = []
        self.by: int | None = None
        """The column by which the bases stand, the worst first; None: as in the plan."""
        self._by_check: dict[str, dict[str, CheckResult]] = {}
        self.failing = False
        """Only bases of which something fails, and only checks that fail somewhere."""

    def refresh(self) -> None:
        """Reads the results again."""
        self.beginResetModel()
        results = self.session.results.pads
        self._by_check = {p.name: {c.check.id: c for c in p.checks} for p in results}
        kept = {
            c.check.id
            for p in results
            for c in p.checks
            if (c.state in BAD if self.failing else c.state is not State.NOT_APPLICABLE)
        }
        self.columns = sorted((CHECKS[i] for i in CHECKS if i in kept), key=lambda check: GROUPS.index(check.group))
        self.rows = [p for p in results if not self.failing or any(c.state in BAD for c in p.checks)]
        by = self.by
        if by is not None and by <= len(self.columns):
            self.rows.sort(key=lambda p: -_weight(self.of(p, by)))
        self.endResetModel()

    def of(self, base: PadResult, column: int) -> CheckResult | None:
        """A check of a base; the worst of it in the first column."""
        if column == 0:
            return base.worst
        return self._by_check[base.name].get(self.columns[column - 1].id)

    def at(self, index: QModelIndex | QPersistentModelIndex) -> CheckResult | None:
        """The check of a cell."""
        return self.of(self.rows[index.row()], index.column())

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def columnCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else 1 + len(self.columns)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation == Qt.Orientation.Vertical:
            return self.rows[section].name if role == Qt.ItemDataRole.DisplayRole else None
        title = say("Worst of all") if section == 0 else self.columns[section - 1].title
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(say("{title}: a click puts the worst first, another one the bases as in the plan", title=title))
        return title if role == Qt.ItemDataRole.DisplayRole else None

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        found = self.at(index)
        if found is None:
            return None
        if role == Qt.ItemDataRole.UserRole:
            return found
        if role == Qt.ItemDataRole.DisplayRole:
            return SIGNS.get(found.state, "") if found.ratio is None else show_ratio(found.ratio)
        if role == Qt.ItemDataRole.ToolTipRole:
            said = show_ratio(found.ratio) if found.ratio is not None else found.state.word
            more = say(", combination {combination}", combination=found.combination) if found.combination else ""
            return tip(
                f"{found.foundation}: {found.check.title.lower()} {said}{more}"
                + (f"\n{found.message}" if found.message else "")
            )
        return None


def _weight(found: CheckResult | None) -> float:
    """By how much it is worse than others."""
    if found is None or found.state is State.NOT_APPLICABLE:
        return -1.0
    if found.ratio is None:
        return 1e9 if found.state in BAD else 0.5
    return found.ratio


class WholeDelegate(QStyledItemDelegate):
    """A cell in the colour of its ratio, hatched where it fails."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self.theme = theme

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        found = index.data(Qt.ItemDataRole.UserRole)
        box = QRectF(option.rect).adjusted(0.5, 0.5, -1.5, -1.5)
        painter.save()
        if found is not None and found.state is not State.NOT_APPLICABLE:
            bad = found.state in BAD
            if found.ratio is not None:
                painter.fillRect(box, colour(f"ratio:{found.ratio}", self.theme, 1.0 if bad else RATIO_WASH))
            elif bad:
                painter.fillRect(box, colour("beyond", self.theme))
            if bad:
                painter.fillRect(box, QBrush(colour("paper", self.theme, 0.35), Qt.BrushStyle.BDiagPattern))
            strong = bad or index.column() == 0
            painter.setFont(font(SIZE["small"] - (0 if strong else 0.5), bold=strong))
            painter.setPen(colour("paper" if bad else "ink", self.theme))
            text = str(index.data() or "")
            painter.drawText(
                box, Qt.AlignmentFlag.AlignCenter, text.removeprefix("0") if text.startswith("0.") else text
            )
        current = index.model().index(index.row(), index.column())
        if option.widget.currentIndex() == current:  # type: ignore[attr-defined]
            painter.setPen(colour("accent", self.theme))
            painter.drawRect(box)
            painter.drawRect(box.adjusted(1, 1, -1, -1))
        painter.restore()


class Upright(QHeaderView):
    """Names of checks, written upwards; a line stands where a group begins."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(Qt.Orientation.Horizontal, parent)
        self.theme = theme
        self.setSectionsClickable(True)
        self.setHighlightSections(False)

    def sizeHint(self) -> QSize:
        return QSize(NARROW, HEAD)

    def paintSection(self, painter: QPainter, rect: QRect, section: int) -> None:
        model: WholeModel = self.model()  # type: ignore[assignment]
        painter.save()
        painter.fillRect(rect, colour("paper", self.theme))
        begins = section == 1 or (section > 1 and model.columns[section - 1].group != model.columns[section - 2].group)
        if begins:
            painter.setPen(colour("line", self.theme))
            painter.drawLine(rect.left(), rect.top() + 20, rect.left(), rect.bottom())
            painter.setFont(font(SIZE["small"], bold=True))
            painter.setPen(colour("soft", self.theme))
        painter.translate(rect.left() + rect.width() / 2 + 4, rect.bottom() - 5)
        painter.rotate(-90)
        by = model.by == section
        painter.setFont(font(SIZE["small"] + 0.5, bold=by or section == 0))
        painter.setPen(colour("accent" if by else "ink", self.theme))
        title = str(model.headerData(section, Qt.Orientation.Horizontal))
        painter.drawText(
            0,
            0,
            painter.fontMetrics().elidedText(("▾ " if by else "") + title, Qt.TextElideMode.ElideRight, HEAD - 10),
        )
        painter.restore()


class WholeView(QTableView):
    """The table: Enter opens the working of a cell."""

    opened = Signal()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.opened.emit()
        else:
            super().keyPressEvent(event)


class WholeStop(Stop):
    """The table; a cell that is chosen selects its base and check, Enter or a double click opens the working."""

    post = WHOLE

    def build(self) -> None:
        session = self.session
        self.model = WholeModel(session)
        self.view = WholeView(objectName="all-bases")
        self.view.setAccessibleName(say("All checks of all bases"))
        self.view.setModel(self.model)
        self.view.setItemDelegate(WholeDelegate(self.view, self.theme))
        head = Upright(self.view, self.theme)
        self.view.setHorizontalHeader(head)
        head.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        head.setDefaultSectionSize(NARROW)
        head.setMinimumSectionSize(NARROW)
        head.sectionClicked.connect(self._sorted)
        side = self.view.verticalHeader()
        side.setDefaultSectionSize(HIGH)
        side.setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.view.setShowGrid(False)
        self.view.setSelectionMode(QTableView.SelectionMode.NoSelection)
        self.view.setFont(font(SIZE["text"]))
        self.view.selectionModel().currentChanged.connect(lambda at, _: self._chosen(at))
        self.view.doubleClicked.connect(lambda _: self._open())
        self.view.opened.connect(self._open)
        self.detail = Label("", objectName="quiet")
        self.failing = QPushButton(say("what fails"), objectName="only-failing", checkable=True)
        self.failing.setToolTip(say("Only bases and checks of which something fails"))
        self.failing.toggled.connect(self._only)
        top = QHBoxLayout()
        top.setContentsMargins(14, 8, 12, 4)
        top.addWidget(Label(say("All bases"), objectName="pane-title"))
        top.addSpacing(8)
        top.addWidget(self.detail, 1)
        top.addWidget(self.failing)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addWidget(self.view, 1)
        self._mine = False
        """The choice comes from here."""

    def refresh(self) -> None:
        """Shows all results as they are now."""
        super().refresh()
        if not self._built or not self.isVisibleTo(self.window()):
            return
        across = self.view.horizontalScrollBar().value()
        self._mine = True
        self.model.refresh()
        self._follow()
        self._mine = False
        self.view.horizontalScrollBar().setValue(across)
        bases, bad = (
            len(self.session.results.pads),
            sum(c.state in BAD for p in self.session.results.pads for c in p.checks),
        )
        self.detail.setText(
            say(
                "{counted}, {columns} kinds of checks, {counted_2} · a cell leads to its check, Enter opens its working",
                counted=say_count(bases, "{number} base", "{number} bases"),
                columns=len(self.model.columns),
                counted_2=say_count(bad, "{number} failure", "{number} failures") if bad else say("none fails"),
            )
        )

    def _follow(self) -> None:
        """The current cell is the selected check of the selected base."""
        names = [p.name for p in self.model.rows]
        if self.session.selected not in names:
            return
        checks = [check.id for check in self.model.columns]
        column = 1 + checks.index(self.session.check) if self.session.check in checks else 0
        self.view.setCurrentIndex(self.model.index(names.index(self.session.selected), column))

    def _chosen(self, at: QModelIndex) -> None:
        found = self.model.at(at) if at.isValid() else None
        if self._mine or found is None:
            return
        self._mine = True
        self.session.select(found.foundation)
        self.session.select_check(found.check.id)
        self._mine = False
        self.view.viewport().update()

    def _open(self) -> None:
        found = self.model.at(self.view.currentIndex()) if self.view.currentIndex().isValid() else None
        if found is not None:
            self._chosen(self.view.currentIndex())
            self.session.open_check()

    def _sorted(self, section: int) -> None:
        self.model.by = None if self.model.by == section else section
        self.refresh()

    def _only(self, on: bool) -> None:
        self.model.failing, self.model.by = on, None
        self.refresh()
