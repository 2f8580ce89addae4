"""The ledger: all checks of the selected foundation as a flat list, and their working."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from PySide6.QtCore import (
    QAbstractListModel,
    QEvent,
    QModelIndex,
    QPersistentModelIndex,
    QPointF,
    QRectF,
    QSize,
    Qt,
    Signal,
)
from PySide6.QtGui import QBrush, QKeyEvent, QPainter, QPolygonF
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QListView,
    QPushButton,
    QStackedWidget,
    QStyle,
    QStyledItemDelegate,
    QStyleOptionViewItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.remedies import remedy
from korbent.app.session import Event, Session
from korbent.app.style import colour, font
from korbent.app.words import Label, tip
from korbent.core.checks import CHECKS, GROUPS, CheckResult, State
from korbent.core.model.labels import label
from korbent.core.sources import MARK, MEANING
from korbent.core.units import UnitSet, show, show_ratio, shown_unit
from korbent.drawing.theme import SIZE, Theme
from korbent.drawing.words import size_words, under_words
from korbent.words import say, say_count

if TYPE_CHECKING:
    from korbent.app.help_panel import HelpPanel, Topic
    from korbent.app.working_panel import WorkingPanel
    from korbent.core.explain.working import Working

MARKS = {
    State.HOLDS: "",
    State.WARNS: "△",
    State.FAILS: "✕",
    State.ACCEPTED: "✓",
    State.UNSTABLE: "✕",
    State.CANNOT: "?",
    State.NOT_APPLICABLE: "–",
    State.NOT_DESIGNED: "?",
    State.COMPUTING: "…",
}


def quantities(result: CheckResult, units: UnitSet) -> str:
    """Demand against capacity, or the factor of safety against the required one."""
    if result.demand is None or result.capacity is None:
        return result.state.word
    if result.required_factor is not None:
        factor = result.factor
        actual = "large" if factor is None or factor > 99 else f"{factor:.2f}"
        return f"FS {actual}, ≥ {result.required_factor:.2f}"
    unit = result.check.unit
    demand, capacity = (show(v, unit, units) for v in (result.demand, result.capacity))
    return f"{demand} / {capacity} {shown_unit(unit, units)}".strip()


BY_GROUP, BY_RATIO, FAILING = ORDERS = (say("by group"), say("by ratio"), say("what fails"))
"""How the list can be read."""
OTHERS = "others"
SEEN = 0.005
"""A change of a ratio that is shown."""


@dataclass(frozen=True)
class Fold:
    """Checks that stand in one line until it is opened: those that do not apply, that cannot be done for the same
    reason, or that do not fail where only what fails is asked for."""

    key: str
    """The reason; '' of those that do not apply, ``OTHERS`` of those not asked for."""
    checks: tuple[CheckResult, ...]
    is_open: bool

    @property
    def title(self) -> str:
        """How many, and what is the matter."""
        count = len(self.checks)
        arrow = "▾" if self.is_open else "▸"
        if self.key == OTHERS:
            return say_count(
                count,
                "{arrow} {number} check without failure",
                "{arrow} {number} checks without failure",
                arrow=arrow,
            )
        if self.key:
            return say_count(
                count,
                "{arrow} {number} check cannot be done",
                "{arrow} {number} checks cannot be done",
                arrow=arrow,
            )
        return say_count(
            count, "{arrow} {number} check does not apply", "{arrow} {number} checks do not apply", arrow=arrow
        )


Line = str | Fold | CheckResult


class LedgerModel(QAbstractListModel):
    """Rows: a group name, checks folded together, or a check result."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[Line] = []
        self.opened: set[str] = set()
        """Keys of what is unfolded."""
        self.from_memory: Callable[[CheckResult], tuple[str, ...]] = lambda result: ()
        """References of a result that are known from memory only; asked for when its tooltip is shown."""
        self.former: Callable[[CheckResult], float | None] = lambda result: None
        """The ratio of a check before the last change."""

    def show(self, checks: tuple[CheckResult, ...], order: str) -> None:
        """Shows checks in one of ``ORDERS``."""
        self.beginResetModel()
        folds = self._folds(checks)
        folded = {id(c) for fold in folds for c in fold.checks}
        live = [c for c in checks if id(c) not in folded]
        if order == FAILING:
            bad = (State.FAILS, State.UNSTABLE, State.COMPUTING)
            others = tuple(c for c in live if c.state not in bad)
            folds = [*([Fold(OTHERS, others, OTHERS in self.opened)] if others else []), *folds]
            live = [c for c in live if c.state in bad]
        if order != BY_GROUP:
            self.rows = [*sorted(live, key=lambda c: (c.state is not State.UNSTABLE, -(c.ratio or -1.0)))]
        else:
            self.rows = []
            for group in GROUPS:
                found = [c for c in live if c.check.group == group]
                if found:
                    self.rows += [group, *found]
        for fold in folds:
            self.rows += [fold, *(fold.checks if fold.is_open else ())]
        self.endResetModel()

    def _folds(self, checks: tuple[CheckResult, ...]) -> list[Fold]:
        """What several checks say alike is said once: why they cannot be done, or that they do not apply."""
        reasons: dict[str, list[CheckResult]] = {}
        for check in checks:
            if check.state is State.CANNOT:
                reasons.setdefault(check.message, []).append(check)
        found = [Fold(why, tuple(some), why in self.opened) for why, some in reasons.items() if len(some) > 1]
        idle = tuple(c for c in checks if c.state is State.NOT_APPLICABLE)
        return [*found, Fold("", idle, "" in self.opened)] if idle else found

    def fold_of(self, check: str) -> Fold | None:
        """The closed fold that holds a check."""
        folds = (row for row in self.rows if isinstance(row, Fold) and not row.is_open)
        return next((fold for fold in folds if any(c.check.id == check for c in fold.checks)), None)

    def rowCount(self, parent: QModelIndex | QPersistentModelIndex = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(self.rows)

    def data(self, index: QModelIndex | QPersistentModelIndex, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        row = self.rows[index.row()]
        if role == Qt.ItemDataRole.UserRole:
            return row
        if role == Qt.ItemDataRole.DisplayRole:
            return label(row) if isinstance(row, str) else row.title if isinstance(row, Fold) else row.check.title
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, Fold):
            names = ", ".join(c.check.title.lower() for c in row.checks)
            return tip(f"{row.key}\n{names}" if row.key not in ("", OTHERS) else names)
        if role == Qt.ItemDataRole.ToolTipRole and isinstance(row, CheckResult):
            text = f"{row.check.title}: {row.state.word}" + (f"\n{row.message}" if row.message else "")
            was = self.former(row)
            text += say("\nbefore the last change: {ratio}", ratio=show_ratio(was)) if was is not None else ""
            used = self.from_memory(row)
            more = f"\n{MARK} {MEANING}: {', '.join(used[:6])}{' …' if len(used) > 6 else ''}" if used else ""
            return tip(text + more)
        return None

    def flags(self, index: QModelIndex | QPersistentModelIndex) -> Qt.ItemFlag:
        if isinstance(self.rows[index.row()], str):
            return Qt.ItemFlag.NoItemFlags
        return Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable


class LedgerDelegate(QStyledItemDelegate):
    """Paints a row: title, ratio, bar with the 1.0 mark, quantities, combination."""

    def __init__(self, parent: QWidget, theme: Theme) -> None:
        super().__init__(parent)
        self.theme = theme
        self.units: UnitSet = "metric"
        self.former: dict[str, float] = {}
        """Ratios before the last change, by check."""
        self.pointed = ""
        """The check that the mouse is over, here or in a drawing."""

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex) -> QSize:
        row = index.data(Qt.ItemDataRole.UserRole)
        if isinstance(row, str):
            return QSize(100, 23)
        if isinstance(row, Fold):
            return QSize(100, 38 if row.key not in ("", OTHERS) else 25)
        return QSize(100, 21 if row.ratio is None and row.state is State.NOT_APPLICABLE else 35)

    def paint(
        self, painter: QPainter, option: QStyleOptionViewItem, index: QModelIndex | QPersistentModelIndex
    ) -> None:
        row = index.data(Qt.ItemDataRole.UserRole)
        box = QRectF(option.rect).adjusted(16, 0, -14, 0)
        theme = self.theme
        painter.save()
        if isinstance(row, str):
            painter.setFont(font(SIZE["small"], bold=True))
            painter.setPen(colour("soft", theme))
            painter.drawText(box.adjusted(0, 6, 0, 0), Qt.AlignmentFlag.AlignLeft, label(row).upper())
        elif isinstance(row, Fold):
            self._fold(painter, row, box)
        else:
            if option.state & QStyle.StateFlag.State_Selected:
                painter.fillRect(QRectF(option.rect).adjusted(6, 0, -6, 0), colour("accent_wash", theme))
            if row.check.id == self.pointed:
                painter.fillRect(QRectF(option.rect).adjusted(6, 1, -303, -1), colour("accent", theme))
            self._check(painter, row, box)
        painter.restore()

    def _fold(self, painter: QPainter, row: Fold, box: QRectF) -> None:
        painter.setFont(font(SIZE["text"] + 0.5))
        painter.setPen(colour("ink" if row.key not in ("", OTHERS) else "soft", self.theme))
        painter.drawText(box.adjusted(0, 5, 0, 0), Qt.AlignmentFlag.AlignLeft, row.title)
        if row.key in ("", OTHERS):
            return
        painter.setFont(font(SIZE["small"] + 0.5))
        painter.setPen(colour("soft", self.theme))
        why = painter.fontMetrics().elidedText(row.key, Qt.TextElideMode.ElideRight, int(box.width()) - 14)
        painter.drawText(box.adjusted(14, 21, 0, 0), Qt.AlignmentFlag.AlignLeft, why)

    def _check(self, painter: QPainter, row: CheckResult, box: QRectF) -> None:
        theme = self.theme
        bad = row.state in (State.FAILS, State.UNSTABLE)
        quiet = row.state is State.NOT_APPLICABLE
        painter.setFont(font(SIZE["text"] + 0.5, bold=bad))
        painter.setPen(colour("soft" if quiet else "beyond" if bad else "ink", theme))
        title, named = box.adjusted(0, 2, 0, 0), painter.font()
        mark = MARKS.get(row.state, "")
        if row.ratio is not None:
            text = f"{mark} {show_ratio(row.ratio)}".strip()
            painter.setFont(font(SIZE["strong"], bold=True))
            painter.drawText(title, Qt.AlignmentFlag.AlignRight, text)
            title.setRight(title.right() - painter.fontMetrics().horizontalAdvance(text) - 6)
            change = self._change(row)
            if change:
                pen = painter.pen()
                painter.setFont(font(SIZE["small"] + 0.5))
                painter.setPen(colour("soft", theme))
                painter.drawText(title.adjusted(0, 2, 0, 0), Qt.AlignmentFlag.AlignRight, change)
                title.setRight(title.right() - painter.fontMetrics().horizontalAdvance(change) - 6)
                painter.setPen(pen)
        painter.setFont(named)
        whole = (
            row.check.title
            if row.ratio is None
            else painter.fontMetrics().elidedText(row.check.title, Qt.TextElideMode.ElideRight, int(title.width()))
        )
        painter.drawText(title, Qt.AlignmentFlag.AlignLeft, whole)
        if row.ratio is not None:
            right = quantities(row, self.units)
            if row.combination:
                right += f"  · {row.combination}"
            painter.setFont(font(SIZE["small"] + 0.5))
            # long quantities take of the bar, never of themselves
            room = box.width() - painter.fontMetrics().horizontalAdvance(right) - 8
            self._bar(painter, row, QRectF(box.left(), box.top() + 22, min(max(room, 30.0), 92.0), 4))
            painter.setFont(font(SIZE["small"] + 0.5))
            painter.setPen(colour("soft", theme))
            painter.drawText(box.adjusted(0, 17, 0, 0), Qt.AlignmentFlag.AlignRight, right)
            return
        text = say("does not apply") if quiet else mark if row.state is State.COMPUTING else f"{mark} {row.state.word}"
        painter.setFont(font(SIZE["small"] + 1, bold=not quiet))
        painter.drawText(box.adjusted(0, 3, 0, 0), Qt.AlignmentFlag.AlignRight, text)
        if not quiet:
            painter.setFont(font(SIZE["small"] + 0.5))
            painter.setPen(colour("soft", theme))
            line = painter.fontMetrics().elidedText(row.message, Qt.TextElideMode.ElideRight, int(box.width()))
            painter.drawText(box.adjusted(0, 18, 0, 0), Qt.AlignmentFlag.AlignLeft, line)

    def _change(self, row: CheckResult) -> str:
        """By how much the ratio has changed, where one sees it."""
        was = self.former.get(row.check.id)
        if was is None or row.ratio is None or abs(row.ratio - was) < SEEN:
            return ""
        return f"{'▴' if row.ratio > was else '▾'} {show_ratio(abs(row.ratio - was))}"

    def _bar(self, painter: QPainter, row: CheckResult, box: QRectF) -> None:
        ratio = row.ratio or 0.0
        full = 1.2
        painter.fillRect(box, colour("faint", self.theme))
        filled = QRectF(box.left(), box.top(), box.width() * min(ratio, full) / full, box.height())
        painter.fillRect(filled, colour(f"ratio:{ratio}", self.theme))
        if ratio > 1.0:
            painter.fillRect(filled, QBrush(colour("paper", self.theme), Qt.BrushStyle.BDiagPattern))
        x = box.left() + box.width() / full
        painter.setPen(colour("ink", self.theme))
        painter.drawLine(int(x), int(box.top() - 3), int(x), int(box.bottom() + 3))
        was = self.former.get(row.check.id)
        if was is not None and abs(ratio - was) >= SEEN:
            # where it came from: a small wedge that stands on the bar
            at = box.left() + box.width() * min(was, full) / full
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(colour("accent", self.theme))
            painter.drawPolygon(
                QPolygonF(
                    [
                        QPointF(at, box.bottom() - 1),
                        QPointF(at - 3.5, box.bottom() + 4),
                        QPointF(at + 3.5, box.bottom() + 4),
                    ]
                )
            )


class LedgerList(QListView):
    """The list itself: Enter opens the working."""

    opened = Signal()
    left = Signal()

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.left.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.opened.emit()
        else:
            super().keyPressEvent(event)


class Ledger(QWidget):
    """Right side of the window: heading, list, working, acceptance."""

    helping = Signal()
    """Help came to the front, or left it."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.theme = session, theme
        self.reading = BY_GROUP
        self._followed = ""
        self.setFixedWidth(312)
        self.title = Label(objectName="ledger-title")
        self.size_line = Label(objectName="quiet")
        self.worst = Label(objectName="ledger-worst")
        self.worst.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.worst_line = Label(objectName="quiet")
        self.shown = QPushButton(objectName="flat")
        self.shown.setToolTip(
            say(
                "This combination is shown in every drawing and working; a click, or Alt+Home, shows the governing ones again"
            )
        )
        self.shown.clicked.connect(lambda: session.choose_situation(""))
        self.order = QPushButton(BY_GROUP, objectName="flat")
        self.order.setToolTip(say("How the checks stand; a click goes on: by group, by ratio, only what fails"))
        self.order.clicked.connect(self._reorder)
        self.model = LedgerModel()
        self.model.from_memory = self._from_memory
        self.list = LedgerList(objectName="ledger-list", accessibleName=say("Checks of the selected base"))
        self.list.setModel(self.model)
        self.delegate = LedgerDelegate(self.list, theme)
        self.model.former = lambda result: self.delegate.former.get(result.check.id)
        self.list.setItemDelegate(self.delegate)
        self.list.setVerticalScrollMode(QListView.ScrollMode.ScrollPerPixel)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.selectionModel().currentChanged.connect(self._selected)
        self.list.setMouseTracking(True)
        self.list.entered.connect(self._pointed)
        self.list.left.connect(lambda: session.point_at(""))
        self.list.opened.connect(self.open_working)
        self.list.doubleClicked.connect(lambda _: self.open_working())
        self.list.clicked.connect(lambda _: self._unfold())
        self.helped: HelpPanel | None = None
        self._below_help = 0
        self.open_button = QPushButton(say("Open the working  ⏎"), objectName="flat")
        self.open_button.clicked.connect(self.open_working)
        self.go_button = QPushButton(objectName="flat")
        self.go_button.setToolTip(say("To the table where what is missing can be given"))
        self.go_button.clicked.connect(lambda: session.show_place(remedy(self._why())[1]))
        self.print = QPushButton(say("Print"), objectName="flat")
        self.print.setToolTip(say("The calculation of this base with all its workings, as a PDF"))
        self.print.setAccessibleName(say("Print this base"))
        self.whole = QPushButton(say("All bases"), objectName="flat")
        self.whole.setToolTip(say("The checks of all bases side by side (Ctrl+L)"))
        self.accept_button = QPushButton(say("Accept …"), objectName="flat")
        self.accept_button.setToolTip(say("Accept this check as it is, with a reason, up to its present ratio"))
        self.accept_button.clicked.connect(self._ask_reason)
        self.reason = QLineEdit(objectName="reason", placeholderText=say("the reason, then Enter"))
        self.reason.returnPressed.connect(self._accept)
        self.reason.hide()
        self._lay_out()
        session.listen(self._heard)
        session.open_check = self.open_working
        self.refresh()

    def _lay_out(self) -> None:
        head = QHBoxLayout()
        head.setContentsMargins(16, 6, 14, 0)
        head.addWidget(self.title, 1)
        head.addWidget(self.order)
        head.addSpacing(6)
        head.addWidget(self.worst)
        second = QVBoxLayout()
        second.setContentsMargins(16, 0, 10, 4)
        second.setSpacing(1)
        second.addWidget(self.size_line)
        second.addWidget(self.worst_line)
        second.addWidget(self.shown, 0, Qt.AlignmentFlag.AlignLeft)
        page = QWidget()
        column = QVBoxLayout(page)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(head)
        column.addLayout(second)
        column.addWidget(self.list, 1)
        column.addWidget(self.reason)
        foot = QHBoxLayout()
        foot.setContentsMargins(12, 4, 10, 8)
        foot.addWidget(self.open_button)
        foot.addWidget(self.go_button)
        foot.addStretch(1)
        foot.addWidget(self.accept_button)
        foot.addWidget(self.print)
        foot.addWidget(self.whole)
        column.addLayout(foot)
        self.stack = QStackedWidget()
        self.stack.addWidget(page)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.stack)

    # ------------------------------------------------------------ showing

    def _heard(self, event: Event) -> None:
        if event.kind == "changed":
            self.refresh()
        elif event.kind == "looked":
            self._follow()
        elif event.working is not None:
            self.show_working(event.working)

    def refresh(self) -> None:
        """Shows the selected foundation."""
        session = self.session
        pad, result = session.pad, session.result
        units = session.project.showing
        self.delegate.units = units
        self.shown.setVisible(bool(session.situation))
        self.shown.setText(say("combination {situation} shown  ✕", situation=session.situation))
        if not pad or not result:
            self.title.setText(say("No foundation"))
            self.size_line.setText(say("add a pad in Plan: it needs a column"))
            self.worst.setText("")
            self.worst_line.setText("")
            self.model.show((), "")
            self._buttons()
            return
        self.title.setText(pad.name)
        self.size_line.setText(say("under {under} · {sizes}", under=under_words(pad), sizes=size_words(pad, units)))
        worst = result.worst
        if worst.ratio is not None:
            self.worst.setText(show_ratio(worst.ratio))
        else:
            self.worst.setText({State.UNSTABLE: "unstable", State.FAILS: "fails"}.get(worst.state, "–"))
        computing = any(c.state is State.COMPUTING for c in result.checks)
        if computing:
            self.worst.setText("…")
        bad = worst.state in (State.FAILS, State.UNSTABLE) and not computing
        coloured = f"color: {self.theme.beyond if bad else self.theme.ink};"
        if coloured != self.worst.styleSheet():  # a sheet that is set again is read again
            self.worst.setStyleSheet(coloured)
        was = ""
        self.delegate.former = {}
        if session.before:
            former = next((p for p in session.before.pads if p.name == pad.name), None)
            if former is not None and former is not result:
                self.delegate.former = {c.check.id: c.ratio for c in former.checks if c.ratio is not None}
                if former.worst.ratio is not None:
                    was = say(" · was {ratio}", ratio=show_ratio(former.worst.ratio))
        self.worst_line.setText(
            say("being computed{was}", was=was)
            if computing
            else say("worst: {title}{was}", title=worst.check.title.lower(), was=was)
        )
        at = self.list.verticalScrollBar().value()
        self.model.show(result.checks, self.reading)
        self._follow()
        # what one was looking at stays where it was
        self.list.verticalScrollBar().setValue(at)
        if self.shows_working:
            self.working.show_check(session.check)

    def _unfold(self) -> bool:
        """Opens or closes what is folded in the current line; whether there was something."""
        row = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        if not isinstance(row, Fold):
            return False
        self.model.opened ^= {row.key}
        at, line = self.list.verticalScrollBar().value(), self.list.currentIndex().row()
        self.refresh()
        self.list.verticalScrollBar().setValue(at)
        self.list.setCurrentIndex(self.model.index(min(line, self.model.rowCount() - 1)))
        return True

    def show_group(self, group: str | None) -> None:
        """Brings the checks of a group to the top of the list, where it is sorted by group."""
        if group in self.model.rows:
            index = self.model.index(self.model.rows.index(group))
            self.list.scrollTo(index, QListView.ScrollHint.PositionAtTop)

    def _follow(self) -> None:
        """Marks the selected check in the list, and the one that a drawing points at."""
        self.delegate.pointed = self.session.pointed
        before = self._followed  # what was asked for before may be folded away since
        asked, self._followed = self.session.check, self.session.check
        hidden = self.model.fold_of(asked) if asked and asked != before else None
        if hidden is not None and self.session.result:
            self.model.opened.add(hidden.key)
            self.model.show(self.session.result.checks, self.reading)
        self.list.selectionModel().blockSignals(True)
        for i, row in enumerate(self.model.rows):
            if isinstance(row, CheckResult) and row.check.id == self.session.check:
                self.list.setCurrentIndex(self.model.index(i))
        self.list.selectionModel().blockSignals(False)
        self.list.viewport().update()
        self._buttons()

    def _buttons(self) -> None:
        result = self.chosen()
        self.open_button.setEnabled(result is not None)
        where = remedy(self._why())[0]
        self.go_button.setVisible(bool(where))
        self.go_button.setText(f"→ {where}")
        self.open_button.setVisible(not where)
        self.accept_button.setVisible(result is not None and result.state is State.FAILS and result.ratio is not None)
        if not self.accept_button.isVisible():
            self.reason.hide()

    def chosen(self) -> CheckResult | None:
        """The check that is selected in the list."""
        row = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        return row if isinstance(row, CheckResult) else None

    def _why(self) -> str:
        """Why what is chosen in the list cannot be done; '' where it can."""
        row = self.list.currentIndex().data(Qt.ItemDataRole.UserRole)
        if isinstance(row, Fold):
            return row.key if row.key != OTHERS else ""
        return row.message if isinstance(row, CheckResult) and row.state is State.CANNOT else ""

    def _reorder(self) -> None:
        self.reading = ORDERS[(ORDERS.index(self.reading) + 1) % len(ORDERS)]
        self.order.setText(self.reading)
        self.model.opened.discard(OTHERS)
        self.refresh()

    def _pointed(self, index: QModelIndex) -> None:
        row = index.data(Qt.ItemDataRole.UserRole)
        self.session.point_at(row.check.id if isinstance(row, CheckResult) else "")

    def _from_memory(self, result: CheckResult) -> tuple[str, ...]:
        """References of a check that are known from memory only."""
        project = self.session.project
        pad = next((p for p in project.pads if p.name == result.foundation), None)
        if pad is None or result.ratio is None or result.check.id not in CHECKS:
            return ()
        from korbent.core.explain.working import Working, working

        found = working(project, pad, result.check.id)
        return found.unchecked if isinstance(found, Working) else ()

    def _selected(self) -> None:
        result = self.chosen()
        if result:
            self.session.select_check(result.check.id)
        self._buttons()

    # ------------------------------------------------------------ working and acceptance

    @cached_property
    def working(self) -> "WorkingPanel":
        """Made when the first working is opened."""
        from korbent.app.working_panel import WorkingPanel

        panel = WorkingPanel(self.session, self.theme)
        panel.closed.connect(self.close_working)
        self.stack.addWidget(panel)
        return panel

    @property
    def shows_working(self) -> bool:
        """Whether a working is in front."""
        return "working" in self.__dict__ and self.stack.currentWidget() is self.working

    def open_working(self) -> None:
        """Opens the working of the selected check over the list; what is folded is opened."""
        if self._unfold():
            return
        result = self.chosen()
        if result:
            self.working.show_check(result.check.id)
            self.stack.setCurrentWidget(self.working)
            self.working.setFocus()

    def show_working(self, found: "Working") -> None:
        """Shows a working that belongs to no line of the list."""
        self.working.show_working(found)
        self.stack.setCurrentWidget(self.working)
        self.working.setFocus()

    def show_help(self, topic: "Topic") -> None:
        """Shows help on a topic over the list."""
        from korbent.app.help_panel import HelpPanel

        if self.helped is None:
            self.helped = HelpPanel(self.session, self.theme)
            self.helped.closed.connect(self._close_help)
            self.stack.addWidget(self.helped)
        if self.stack.currentWidget() is not self.helped:
            self._below_help, self.helped.trail = self.stack.currentIndex(), []
        self.helped.show_topic(topic)
        self.stack.setCurrentWidget(self.helped)
        self.helping.emit()

    @property
    def helps(self) -> bool:
        """Whether help is in front."""
        return self.helped is not None and self.stack.currentWidget() is self.helped

    def toggle_help(self, topic: "Topic") -> None:
        """Shows help on a topic; where help is in front, what was there before."""
        if self.helps:
            self._close_help()
        else:
            self.show_help(topic)

    def _close_help(self) -> None:
        self.stack.setCurrentIndex(self._below_help)
        self.helping.emit()

    def close_working(self) -> None:
        """Back to the list."""
        self.stack.setCurrentIndex(0)
        self.list.setFocus()

    def _ask_reason(self) -> None:
        self.reason.clear()
        self.reason.show()
        self.reason.setFocus()

    def _accept(self) -> None:
        result = self.chosen()
        if result:
            wrong = self.session.accept(result.check.id, self.reason.text())
            if wrong:
                self.session.announce(f"! {wrong}")
            else:
                self.reason.hide()
                self.session.announce(
                    say("{title} of {foundation} accepted", title=result.check.title, foundation=result.foundation)
                )
