"""The page on which one begins."""

import datetime
from collections.abc import Callable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QFrame, QGridLayout, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.beginnings import beginnings
from korbent.app.canvas import DrawingView
from korbent.app.ledger import Ledger
from korbent.app.session import Session
from korbent.app.start.quick import QuickStarts
from korbent.app.stops.stop import Elided
from korbent.app.words import Label
from korbent.app.workers import pool
from korbent.core.model import Project
from korbent.core.units import show_ratio
from korbent.drawing.primitives import Drawing, Point, Polygon
from korbent.drawing.theme import Theme
from korbent.files.autosave import recent_files
from korbent.words import say, say_count

if TYPE_CHECKING:
    from korbent.app.window import MainWindow

CARDS = 4
"""Projects that can be gone on with, at most."""


class Card(QFrame):
    """A project worked on lately: its plan in small, and its worst ratio."""

    chosen = Signal(object)

    def __init__(self, path: Path, theme: Theme) -> None:
        super().__init__(objectName="card")
        self.path, self.glance = path, None
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(say("open {path}", path=path.name))
        self.setToolTip(str(path))
        self.plan = DrawingView(self._drawing, path.name)
        self.plan.theme = theme
        self.plan.setFixedSize(62, 54)
        self.plan.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        when = datetime.datetime.fromtimestamp(path.stat().st_mtime, datetime.UTC).astimezone()
        self.title, self.detail, self.worst = (
            Elided(path.stem, objectName="card-title"),
            Label(f"{when:%d %B}", objectName="quiet"),
            Label(),
        )
        words = QVBoxLayout()
        words.setSpacing(1)
        for part in (self.title, self.detail, self.worst):
            words.addWidget(part)
        row = QHBoxLayout(self)
        row.setContentsMargins(8, 6, 8, 6)
        row.addWidget(self.plan)
        row.addSpacing(6)
        row.addLayout(words, 1)
        self.when = when
        pool().run("glance", path, (path,), self._came, channel=say("glance {path}", path=path))

    def _came(self, path: object, found: Any) -> None:
        self.glance = found
        if found is None:
            self.worst.setText(say("cannot be read"))
            return
        title, count, ratio, _ = found
        self.title.setText(title or self.path.stem)
        self.detail.setText(
            say_count(count, "{when:%d %B} · {number} base", "{when:%d %B} · {number} bases", when=self.when)
        )
        self.worst.setText("" if ratio is None else say("worst {ratio}", ratio=show_ratio(ratio)))
        self.plan.refresh()

    def _drawing(self, _: float) -> Drawing:
        bases: Sequence[tuple[tuple[Point, ...], float | None]] = self.glance[3] if self.glance else ()
        shapes = tuple(
            Polygon(ring, "faint" if ratio is None else f"ratio:{ratio}", "ink", 0.6) for ring, ratio in bases
        )
        places = [p for ring, _ in bases for p in ring] or [(0.0, 0.0), (1.0, 1.0)]
        xs, ys = zip(*places)
        return Drawing(shapes, (min(xs), min(ys), max(xs), max(ys)))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.chosen.emit(self.path)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Space):
            self.chosen.emit(self.path)
        else:
            super().keyPressEvent(event)


class StartPage(QWidget):
    """Work to go on with and files at the left, quick starts in the middle, their checks at the right."""

    def __init__(self, window: "MainWindow", theme: Theme) -> None:
        super().__init__(objectName="start")
        self.window_ = window
        # a bench of its own: what is open in the window stays as it is until something is taken
        self.session = Session(Project(), puts_off=True)
        self.session.saved = self.session.project
        self.quick = QuickStarts(self.session, theme, self._take)
        self.ledger = Ledger(self.session, theme)
        self.ledger.setFixedWidth(296)
        self.ledger.whole.hide()  # it has one base
        self.quick.turned.connect(self.ledger.setVisible)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.cards: list[Card] = []
        side = QWidget(objectName="start-side")
        side.setFixedWidth(262)
        self._beside(side, theme)
        row.addWidget(side)
        row.addWidget(self.quick, 1)
        row.addWidget(self.ledger)

    def _beside(self, side: QWidget, theme: Theme) -> None:
        window = self.window_
        self.back: QPushButton | None = None
        column = QVBoxLayout(side)
        column.setContentsMargins(16, 14, 12, 10)
        column.setSpacing(6)
        column.addWidget(Label(say("Go on"), objectName="heading"))
        open_now = window.session.project
        if open_now.pads or open_now.actions.load_points or open_now.ground.boreholes:
            back = QPushButton(
                say("← {project}, as it is", project=open_now.title.project),
                objectName="flat",
                toolTip=say("What is open (Esc)"),
            )
            back.clicked.connect(lambda: window.leave_start())
            self.back = back
            column.addWidget(back, 0, Qt.AlignmentFlag.AlignLeft)
        for path in recent_files()[:CARDS]:
            card = Card(path, theme)
            card.chosen.connect(lambda p: window.files.open_recent(p))
            self.cards.append(card)
            column.addWidget(card)
        if not self.cards:
            column.addWidget(Label(say("what you save stands here"), objectName="quiet"))
        column.addSpacing(6)
        column.addWidget(Label(say("From files"), objectName="heading"))
        self._links(
            column,
            (
                (say("Open a project …"), "korbent", window.files.open),
                (
                    say("Ground investigation …"),
                    "AGS4, XLSX, CSV",
                    lambda: window.files.begin_with("import-ground", "ground"),
                ),
                (
                    say("Column loads …"),
                    say("XLSX, CSV, text"),
                    lambda: window.files.begin_with("import-loads", "actions"),
                ),
                (say("Columns …"), "DXF", lambda: window.files.begin_with("dxf", "plan")),
            ),
        )
        column.addSpacing(6)
        column.addWidget(Label(say("New"), objectName="heading"))
        self._links(
            column,
            tuple((one.short, one.kind, one.begin) for one in beginnings(window) if one.short),
        )
        column.addStretch(1)

    @staticmethod
    def _links(column: QVBoxLayout, links: tuple[tuple[str, str, Callable[[], object]], ...]) -> None:
        grid = QGridLayout()
        grid.setVerticalSpacing(1)
        for k, (text, detail, action) in enumerate(links):
            button = QPushButton(text, objectName="flat")
            button.clicked.connect(lambda _=False, a=action: a())
            grid.addWidget(button, k, 0, Qt.AlignmentFlag.AlignLeft)
            grid.addWidget(Label(detail, objectName="spot"), k, 1, Qt.AlignmentFlag.AlignRight)
        column.addLayout(grid)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape and self.back is not None:
            self.window_.leave_start()
        else:
            super().keyPressEvent(event)

    def _take(self, project: Project) -> None:
        self.window_.files.begin(lambda: project.replaced(title=project.title.replaced(project=say("New project"))))
