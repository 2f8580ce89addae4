"""The window: top bar, rail, stops, ledger, size panel, message line."""

from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtGui import QCloseEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QHBoxLayout,
    QMainWindow,
    QMessageBox,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.commands import COMMANDS, keys_and_words
from korbent.app.focus import FocusFrame, InDialogs, next_part
from korbent.app.ledger import Ledger
from korbent.app.places import places
from korbent.app.printing import Printing
from korbent.app.project_files import ProjectFiles
from korbent.app.rail import Rail
from korbent.app.remembered import Remembered, system_theme
from korbent.app.rest import rest
from korbent.app.search import Entry, SearchField
from korbent.app.session import Event, Session
from korbent.app.size_panel import SizePanel
from korbent.app.stops import RAIL, SIGNPOSTS, Stops
from korbent.app.stops.stop import Stop
from korbent.app.style import font, sheet
from korbent.app.tables.titles import OF_TABLES
from korbent.app.top_bar import TopBar
from korbent.app.words import Label, message_box
from korbent.app.workers import pool
from korbent.core.model import Project, edited
from korbent.core.results import Results
from korbent.drawing.theme import DARK, LIGHT, Theme
from korbent.files.atomic import stamp_of
from korbent.files.autosave import Autosave
from korbent.files.faults import kept
from korbent.words import say, say_count

FOLDED = ("ground", "actions")
"""Stops at which sizes are not worked on."""
WITHOUT_SIZES = ("project", "sheets")
"""Where there are none."""

if TYPE_CHECKING:
    from korbent.app.start.page import StartPage
    from korbent.app.tour import Tour


HANDS = (
    QEvent.Type.KeyPress,
    QEvent.Type.ShortcutOverride,
    QEvent.Type.Shortcut,
    QEvent.Type.MouseButtonPress,
    QEvent.Type.MouseButtonDblClick,
    QEvent.Type.Wheel,
    QEvent.Type.ContextMenu,
    QEvent.Type.Drop,
    QEvent.Type.InputMethod,
)
"""What people do, of all events."""


class MainWindow(QMainWindow):
    """The bench."""

    _late = Signal(object)
    session: Session
    search: SearchField
    files: ProjectFiles
    printing: Printing

    def __init__(
        self,
        session: Session,
        theme: Theme = LIGHT,
        autosave: Autosave | None = None,
        remembered: Remembered | None = None,
        awaited: str = "",
    ) -> None:
        """``awaited`` says what will be shown in place of the session's project: no stop is made until then."""
        super().__init__()
        self.session, self.theme = session, theme
        self.remembered = remembered
        """What is kept for the next run; None: nothing is."""
        self.successor: MainWindow | None = None
        self._replaced = False
        session.puts_off = True
        self._late.connect(self._arrived, Qt.ConnectionType.QueuedConnection)
        session.hand_over = self._hand_over
        session.show_place = self.show_table
        session.held_up = self._held_up
        self._plates_for: object = None
        self._fault: QMessageBox | None = None
        self._summed: tuple[Results | None, str] = (None, "")
        self.files, self.printing = ProjectFiles(self, autosave), Printing(self)
        self.setFont(font())
        self.setStyleSheet(sheet(theme))
        self.resize(1280, 800)
        self.stops = Stops(self._make_stop)
        self._places = {post.key: i for i, post in enumerate(SIGNPOSTS)}
        self.rail = Rail(session, self.stops, theme)
        self.stack = QStackedWidget()
        self._nothing = [QWidget() for _ in SIGNPOSTS]
        """Where stops will be."""
        for empty in self._nothing:
            self.stack.addWidget(empty)
        self.ledger = Ledger(session, theme)
        self.ledger.whole.clicked.connect(lambda: self.show_whole())
        self.ledger.helping.connect(lambda: self.ledger.setVisible(self._with_ledger()))
        self.ledger.print.clicked.connect(lambda: self.printing.print_base())
        self.sizes = SizePanel(session, theme)
        self.sizes.tries.clicked.connect(lambda: self.show_tries())
        self.message = Label(objectName="message")
        self._was_at = 0
        """The stop of the rail that was in front last."""
        self._lay_out()
        self._shortcuts()
        self.rail.chosen.connect(self.go_to)
        session.listen(self._heard)
        if awaited:
            self._await(awaited)
        else:
            self.go_to("bearing" if session.project.pads else "actions")
        self.ledger.list.setFocus()

    # ------------------------------------------------------------ layout

    def _make_stop(self, index: int) -> Stop:
        """A stop in its place of the stack, where there was nothing."""
        stop = SIGNPOSTS[index].make(self.session, self.theme)
        if self.remembered is not None:
            stop.shares = self.remembered.dividers
        in_front = self.stack.currentIndex()
        self.stack.insertWidget(index, stop)
        self.stack.removeWidget(self._nothing[index])
        self._nothing[index].deleteLater()
        self.stack.setCurrentIndex(in_front)
        return stop

    def _lay_out(self) -> None:
        middle = QVBoxLayout()
        middle.setSpacing(0)
        middle.addWidget(self.stack, 1)
        middle.addWidget(self.sizes)
        self.body = QWidget(objectName="body")
        body = QHBoxLayout(self.body)
        body.setContentsMargins(0, 0, 0, 0)
        body.setSpacing(0)
        body.addWidget(self.rail)
        body.addLayout(middle, 1)
        body.addWidget(self.ledger)
        self.front = QStackedWidget()
        self.front.addWidget(self.body)
        self.start: StartPage | None = None
        self._awaiting: Label | None = None
        whole = QWidget(objectName="whole")
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.bar = TopBar(self)
        self.search = self.bar.search
        column.addWidget(self.bar)
        column.addWidget(self.front, 1)
        column.addWidget(self.message)
        self._column = column
        self.tour: Tour | None = None
        self.setCentralWidget(whole)
        self.focus_frame = FocusFrame(self, self.theme)
        InDialogs(self, self.theme)

    def _shortcuts(self) -> None:
        for one in COMMANDS:
            for keys in one.keys:
                shortcut = QShortcut(QKeySequence(keys), self)
                shortcut.activated.connect(lambda one=one: one.act(self))

    # ------------------------------------------------------------ the keyboard without a mouse

    def focusNextPrevChild(self, forwards: bool) -> bool:
        """Tab was pressed: what the keyboard is at now is framed. What is hidden or disabled gives it away too."""
        was = self.focusWidget()
        moved = super().focusNextPrevChild(forwards)
        if moved and (was is None or (was.isVisible() and was.isEnabled())):
            self.focus_frame.frame(self.focusWidget())
        return moved

    def to_next_part(self, backwards: bool = False) -> None:
        """From one part of the window to the next: bar, rail, each drawing and table, sizes, ledger."""
        found = next_part(self, backwards)
        if found is not None:
            found.setFocus(Qt.FocusReason.TabFocusReason)
            self.focus_frame.frame(found)

    # ------------------------------------------------------------ showing

    def go_to(self, place: str | int) -> None:
        """Goes to a stop, by its name (that of the rail in small letters) or its number.

        Raises:
            KeyError: when there is none of that name.
        """
        index = place if isinstance(place, int) else self._places[place]
        self.leave_start()
        if self.stack.currentIndex() < len(RAIL):
            self._was_at = self.stack.currentIndex()
        self.sizes.setVisible(SIGNPOSTS[index].key not in WITHOUT_SIZES)
        if index != self.stack.currentIndex() or not self.isVisible():
            self.sizes.fold(SIGNPOSTS[index].key in FOLDED)
        self.stops[index].visit()
        self.stack.setCurrentIndex(index)
        self.ledger.setVisible(self._with_ledger())
        self.rail.choose(index)
        self.refresh()
        self.ledger.show_group(SIGNPOSTS[index].group)

    def _heard(self, event: Event) -> None:
        if event.kind == "changed":
            self.refresh()
        elif event.kind == "looked":
            self.stop.refresh()
        elif event.kind == "said":
            self._read()

    def _with_ledger(self) -> bool:
        """Whether the ledger stands beside the stop: with sheets only while it helps."""
        return SIGNPOSTS[self.stack.currentIndex()].key != "sheets" or self.ledger.helps

    def show_project(self) -> None:
        """What holds for the project as a whole; once more, and one is back where one was."""
        self._there_and_back("project")

    def show_whole(self) -> None:
        """The ledger of the whole plan; once more, and one is back where one was."""
        self._there_and_back("all bases")

    def _there_and_back(self, place: str) -> None:
        self.go_to(self._was_at if self.stack.currentIndex() == self._places[place] else place)

    def take_tour(self) -> None:
        """Begins the first tour on its example."""
        from korbent.app.tour import Tour
        from korbent.demo import lindmere

        if not self.files.may_leave():
            return
        if self.tour is not None:
            self.tour.end()
        self.replace_session(lindmere(), None)
        self.session.follow(lambda: self.go_to("plan"))
        self.tour = Tour(self)
        self._column.insertWidget(self._column.count() - 1, self.tour)
        self.tour.show()

    @property
    def tries_shown(self) -> bool:
        """Whether the comparison of tries is in front."""
        return self.findChild(QDialog, "tries-dialog") is not None

    def show_tries(self) -> None:
        """What was set aside, beside what is there now."""
        from korbent.app.tries_dialog import TriesDialog

        if self.start is not None:
            return  # the project is not in front
        self.tries = TriesDialog(self.session, self)
        self.tries.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        self.tries.open()

    def show_table(self, name: str) -> None:
        """Brings a table to the front; a setting as ``settings:concrete_cover``."""
        self.go_to(next((stop for stop, table, _ in OF_TABLES if table == name.partition(":")[0]), "ground"))
        deck: Any = getattr(self.stop, "deck", self.stop)
        deck.bring(name)

    def show_start(self) -> None:
        """Shows where one begins; what is open stays open behind it."""
        from korbent.app.start.page import StartPage

        self.leave_start()
        self.start = StartPage(self, self.theme)
        self.front.addWidget(self.start)
        self.front.setCurrentWidget(self.start)
        self.bar.speak_of_project(False)
        self._summed = (None, "")
        self.session.announce("")

    def _await(self, words: str) -> None:
        """Says in place of the bench what will be shown there."""
        self._awaiting = Label(words, alignment=Qt.AlignmentFlag.AlignCenter)
        self.front.addWidget(self._awaiting)
        self.front.setCurrentWidget(self._awaiting)
        self.bar.speak_of_project(False)
        self.setWindowTitle("Korbent")
        self.session.announce(words)

    def leave_start(self) -> None:
        """Shows the bench again."""
        for page in (self.start, self._awaiting):
            if page is not None:
                self.front.removeWidget(page)
                page.deleteLater()
                self._summed = (None, "")
                self.bar.speak_of_project(True)
        if self._awaiting is not None:
            self.ledger.list.setFocus()
        self.start = self._awaiting = None

    @property
    def stop(self) -> Stop:
        """The stop in front."""
        return self.stops[self.stack.currentIndex()]

    def refresh(self) -> None:
        """Shows the session as it is now."""
        session = self.session
        project = session.project
        self._ask_for_plates()
        stop = self.stops.made(self.stack.currentIndex())
        if stop is not None:
            stop.refresh()
        self.rail.refresh()
        self.bar.refresh(session, self.theme.soft)
        if not session.is_saved:
            self.files.changed()
        self.setWindowTitle(f"{project.title.project} — Korbent")
        self._read()
        rest().soon()

    def _hand_over(self, found: object) -> None:
        """Called from the thread that evaluates."""
        with suppress(RuntimeError):  # this window is gone meanwhile
            self._late.emit(found)

    def _arrived(self, found: object) -> None:
        self.session.arrived(found)

    def _held_up(self, is_so: bool) -> None:
        """While views are behind the project a hand that comes back to them sees them brought up first."""
        app = QApplication.instance()
        if app is not None:
            (app.installEventFilter if is_so else app.removeEventFilter)(self)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Only in force while views are behind."""
        if event.type() in HANDS:
            self.session.settle()
        return False

    def _ask_for_plates(self) -> None:
        """Rafts whose plates are not known are computed by a worker; what it finds comes back into the session."""
        session = self.session
        if session.waiting and self._plates_for is not session.project:
            self._plates_for = session.project
            pool().run(
                "plates",
                session.project,
                (session.project, session.waiting),
                self._plates_found,
                channel="plates",
                first=True,
            )

    def _plates_found(self, project: object, found: object) -> None:
        if found is None and project is self.session.project:
            self.session.announce(say("! what takes longer could not be computed; the log tells why"))
        self.session.plates_found(project, found)  # type: ignore[arg-type]

    def _read(self) -> None:
        text = self.session.message
        wrong = text.startswith("!")
        if not text:
            text = self._summary()
        self.message.setText(text.removeprefix("! "))
        if self.message.property("wrong") != wrong:
            self.message.setProperty("wrong", wrong)
            self.message.style().unpolish(self.message)
            self.message.style().polish(self.message)

    def _summary(self) -> str:
        """What all results come to, in a line; asked for several times after each change."""
        results = self.session.results
        if self._summed[0] is not results:
            self._summed = (results, self._summed_up(results))
        return self._summed[1]

    def _summed_up(self, results: Results) -> str:
        if self.start is not None:
            return say("Type numbers at the drawing, go on with a project, or begin with an example.")
        if not self.session.project.actions.load_points:
            return say(
                "Begin here: a load case and a column in Actions, a pad in Plan, ground or a presumed pressure. Or open a project."
            )
        from korbent.core.checks import State

        failing = [c for c in results.all_checks if c.state in (State.FAILS, State.UNSTABLE)]
        blocked = sum(c.state is State.CANNOT for c in results.all_checks)
        if results.holds:
            return say("Every check of every foundation holds.")
        parts = []
        if failing:
            names = ", ".join(dict.fromkeys(c.foundation for c in failing))
            parts.append(
                say_count(len(failing), "{number} check fails ({names})", "{number} checks fail ({names})", names=names)
            )
        if blocked:
            parts.append(say("{blocked} cannot be done", blocked=blocked))
        if results.undesigned:
            parts.append(say("{undesigned} not designed", undesigned=len(results.undesigned)))
        return " · ".join(parts) + say(" · F1: help")

    # ------------------------------------------------------------ search and safety

    def places(self) -> list[Entry]:
        """All that the search field can go to."""
        return places(self)

    # ------------------------------------------------------------ commands

    def switch_units(self) -> None:
        """Metric or US customary."""
        units = "us" if self.session.project.units == "metric" else "metric"
        self.session.apply(edited(self.session.project, ("units",), units))

    def switch_theme(self) -> None:
        """Replaces the window by one in the other colours, on the same work; they are remembered."""
        self._show_in(DARK if self.theme is LIGHT else LIGHT)
        if self.remembered is not None:
            self.remembered.theme = self.successor.theme.name if self.successor else ""

    def follow_system(self) -> None:
        """Takes the colours of the system, unless others were chosen."""
        wished = system_theme()
        if self.remembered is not None and not self.remembered.theme and wished is not self.theme:
            self._show_in(wished)

    def _show_in(self, theme: Theme) -> None:
        self.files.rest()
        self.session.forget_listeners()
        other = MainWindow(self.session, theme, self.files.autosave, self.remembered)
        other.files.opened = self.files.opened
        other.setGeometry(self.geometry())
        other.go_to(self.stack.currentIndex())
        other.show()
        self.successor = other  # Qt keeps no reference to a window
        self._replaced = True
        self.close()

    def replace_session(self, project: Project, path: Path | None) -> None:
        """Shows another project in this window."""
        session = self.session
        session.history, session.position = [project], 0
        session.path, session.saved = path, project if path else None
        session.stamp = stamp_of(path) if path else ""
        if path is None:
            self.files.opened.leave()
        session.selected = project.pads[0].name if project.pads else ""
        session.check = ""
        session.start(lambda: self.go_to("bearing" if project.pads else "actions"))

    def fault(self, line: str, text: str) -> None:
        """Tells of a fault of the program: a copy of the work is kept, the details can be copied, and the window goes
        on."""
        with suppress(Exception):  # whatever is broken, this is not to end in a fault of its own
            kept(text)
            self.files.keep_copy()
            self.session.announce(say("! {line}: the work is kept; go on, undo, or save under another name", line=line))
            if self._fault is not None and self._fault.isVisible():
                return
            self._fault = message_box(
                QMessageBox.Icon.Warning,
                say("A fault"),
                say(
                    "Something went wrong: {line}.\n\nNothing of your work is lost: a copy is kept, and you can go "
                    "on. The details below help to mend it.",
                    line=line,
                ),
                self,
            )
            self._fault.setObjectName("fault")
            self._fault.setDetailedText(text)
            self._fault.open()

    def help(self) -> None:
        """Tells of what one is at, beside the work; in front of the start page, of the keys."""
        if self.start is None:
            from korbent.app.help_panel import asked_at

            self.ledger.toggle_help(asked_at(self.session, self.stop.place))
            return
        rows = "".join(f"<tr><td><b>{keys}</b>&nbsp;&nbsp;</td><td>{what}</td></tr>" for keys, what in keys_and_words())
        box = QMessageBox(QMessageBox.Icon.NoIcon, say("Keys"), f"<table>{rows}</table>", parent=self)
        box.setTextFormat(Qt.TextFormat.RichText)
        box.open()

    def show_keys(self) -> None:
        """The list of keys."""
        self.leave_start()
        self.ledger.show_help(("keys", "", ""))

    def closeEvent(self, event: QCloseEvent) -> None:
        if self._replaced:
            event.accept()
        elif self.files.may_leave():
            self.files.leave()
            if self.remembered is not None:
                self.remembered.keep(self)
            event.accept()
        else:
            event.ignore()
