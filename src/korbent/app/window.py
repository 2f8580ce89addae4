"""The window: top bar, rail, stops, ledger, size panel, message line."""

import datetime
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QEvent, QObject, Qt, QTimer, Signal
from PySide6.QtGui import QCloseEvent, QKeySequence, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QDialog,
    QFileDialog,
    QHBoxLayout,
    QInputDialog,
    QMainWindow,
    QMenu,
    QMessageBox,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.beginnings import beginnings
from korbent.app.commands import COMMANDS, command, keys_and_words
from korbent.app.focus import FocusFrame, InDialogs, next_part
from korbent.app.ledger import Ledger
from korbent.app.places import places
from korbent.app.rail import Rail
from korbent.app.remembered import Remembered, system_theme
from korbent.app.rest import rest
from korbent.app.search import Entry, SearchField
from korbent.app.session import ChangedMeanwhileError, Event, Session
from korbent.app.size_panel import SizePanel
from korbent.app.stops import RAIL, SIGNPOSTS, Stops
from korbent.app.stops.stop import Stop
from korbent.app.style import font, sheet
from korbent.app.tables.titles import OF_TABLES
from korbent.app.words import Door, Label, message_box
from korbent.app.workers import pool
from korbent.core.model import Project, edited
from korbent.core.model.differences import differences
from korbent.core.model.labels import label
from korbent.core.results import Results
from korbent.drawing.theme import DARK, LIGHT, Theme
from korbent.files.atomic import stamp_of
from korbent.files.autosave import Autosave, Opened, Recovered, remember_file
from korbent.files.faults import kept
from korbent.files.kept import Kept
from korbent.files.office import OfficeError
from korbent.files.project_file import ProjectFileError, load
from korbent.words import say, say_count


def _standards(project: Project) -> str:
    """The standards in force, in short."""
    ground = (
        f"EN 1997 {label(project.standards.approach)}"
        if any("ultimate" in c.serves for c in project.actions.combinations)
        else say("allowable stress")
    )
    return (
        f"{ground} · {project.standards.concrete.split('-')[0].split(':')[0]}"
        if project.standards.concrete != "none"
        else ground
    )


FOLDED = (0, 1)
"""Stops at which sizes are not worked on: Ground and Actions."""
SHEETS = len(RAIL) - 1
"""Where neither sizes nor checks are worked on."""
PROJECT, WHOLE = len(RAIL), len(RAIL) + 1
"""Places that stand on no rail."""
AUTOSAVE_AFTER = 1500
"""Time without a change after which a copy of unsaved work is kept, ms."""
AUTOSAVE_AT_LAST = 4000
"""Time from the first change on after which it is kept in any case, ms."""

FILTER = say("Korbent project (*.korbent)")
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
        self.session, self.theme, self.autosave = session, theme, autosave
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
        self.opened = Opened()
        self._keep = QTimer(self, singleShot=True, interval=AUTOSAVE_AFTER)
        self._keep.timeout.connect(self.keep_copy)
        # edits in quick succession put the copy off no longer than this
        self._at_last = QTimer(self, singleShot=True, interval=AUTOSAVE_AT_LAST)
        self._at_last.timeout.connect(self.keep_copy)
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
        self.ledger.print.clicked.connect(lambda: self.print_base())
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
        column.addWidget(self._top_bar())
        column.addWidget(self.front, 1)
        column.addWidget(self.message)
        self._column = column
        self.tour: Tour | None = None
        self.setCentralWidget(whole)
        self.focus_frame = FocusFrame(self, self.theme)
        InDialogs(self, self.theme)

    def _top_bar(self) -> QWidget:
        bar = QWidget(objectName="desk")
        bar.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        bar.setFixedHeight(42)
        row = QHBoxLayout(bar)
        row.setContentsMargins(16, 0, 12, 0)
        row.setSpacing(8)
        mark = Label("Korbent", objectName="mark")
        self.project_label = Door(objectName="project", toolTip=command(say("Project")).tip)
        self.project_label.clicked.connect(self.show_project)
        self.saved_label = Label()
        row.addWidget(mark)
        row.addSpacing(8)
        row.addWidget(self.project_label)
        row.addWidget(self.saved_label)
        row.addStretch(1)
        of_project: list[QWidget] = []
        self.search = SearchField(self.places, bar)
        row.addWidget(self.search)
        row.addStretch(1)
        self.units_button = self._button("units", say("Change units"))
        self.standards_label = Door(
            objectName="standards", toolTip=say("The standards in force: a click leads to where they are chosen")
        )
        self.standards_label.clicked.connect(lambda: self.show_table("title"))
        row.addWidget(self.standards_label)
        row.addWidget(self.units_button)
        row.addSpacing(10)
        new = QPushButton(say("New ▾"), objectName="new")
        new.setToolTip(say("The start page, an empty project, an example or a template (Ctrl+N: the start page)"))
        new.clicked.connect(lambda: self.show_beginnings())
        row.addWidget(new)
        for name in (say("Open"), say("Save"), say("Report")):
            made = self._button(name.lower(), name, name)
            row.addWidget(made)
            if name != "Open":
                of_project.append(made)
        row.addSpacing(6)
        row.addWidget(self._button("theme", say("Dark or light"), "◐"))
        self.undo_button = self._button("undo", say("Undo"), "↶")
        self.redo_button = self._button("redo", say("Redo"), "↷")
        row.addWidget(self.undo_button)
        row.addWidget(self.redo_button)
        of_project += [self.project_label, self.saved_label, self.standards_label, self.units_button]
        self._of_project = (*of_project, self.undo_button, self.redo_button)
        return bar

    def _button(self, name: str, of: str, text: str = "") -> QPushButton:
        """A button of a command; one without a word on it is called as the command is."""
        one = command(of)
        button: QPushButton = QPushButton(text, objectName=name)
        button.setToolTip(one.tip)
        button.setAccessibleName("" if text[:1].isalpha() else one.name)
        button.clicked.connect(lambda: one.act(self))
        return button

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
        self.sizes.setVisible(index not in (PROJECT, SHEETS))
        if index != self.stack.currentIndex() or not self.isVisible():
            self.sizes.fold(index in FOLDED)
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
        return self.stack.currentIndex() != SHEETS or self.ledger.helps

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

        if not self.may_leave():
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
        self._speak_of_project(False)
        self._summed = (None, "")
        self.session.announce("")

    def _await(self, words: str) -> None:
        """Says in place of the bench what will be shown there."""
        self._awaiting = Label(words, alignment=Qt.AlignmentFlag.AlignCenter)
        self.front.addWidget(self._awaiting)
        self.front.setCurrentWidget(self._awaiting)
        self._speak_of_project(False)
        self.setWindowTitle("Korbent")
        self.session.announce(words)

    def leave_start(self) -> None:
        """Shows the bench again."""
        for page in (self.start, self._awaiting):
            if page is not None:
                self.front.removeWidget(page)
                page.deleteLater()
                self._summed = (None, "")
                self._speak_of_project(True)
        if self._awaiting is not None:
            self.ledger.list.setFocus()
        self.start = self._awaiting = None

    def _speak_of_project(self, on: bool) -> None:
        """Whether the bar shows what belongs to the open project: in front of the start page it would speak of what is
        hidden."""
        for part in self._of_project:
            part.setVisible(on)

    def begin_with(self, tool: str, stop: str) -> None:
        """An empty project, and what brings something into it from a file."""
        from korbent.demo.starter import starter

        if not self.may_leave():
            return
        self.replace_session(starter(), None)
        self.go_to(stop)
        bar: Any = getattr(self.stop, "bar", None) or self.stop
        if tool == "dxf":
            bar.open(True)
            return
        button = self.stop.findChild(QPushButton, tool)
        if button is not None:
            button.click()

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
        self.project_label.setText(project.title.project or say("Project"))
        saved = say("saved") if session.is_saved else say("not saved")
        self.saved_label.setText(say("revision {revision} · {saved}", revision=project.title.revision, saved=saved))
        soft = f"color: {self.theme.soft}; background: transparent;"
        if soft != self.saved_label.styleSheet():
            self.saved_label.setStyleSheet(soft)
        self.units_button.setText("kN · m · kPa" if project.units == "metric" else "kip · ft · ksf")
        self.standards_label.setText(_standards(project))
        self.undo_button.setEnabled(session.position > 0)
        self.redo_button.setEnabled(session.position + 1 < len(session.history))
        if not session.is_saved:
            self._keep.start()
            if not self._at_last.isActive():
                self._at_last.start()
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

    def open_recent(self, path: Path) -> None:
        if self.may_leave():
            self.open_file(path)

    def keep_copy(self) -> None:
        """Keeps a copy of unsaved work, for the case that this run does not end well."""
        self._at_last.stop()
        if self.autosave and not self.session.is_saved and len(self.session.history) > 1:
            self.autosave.keep(self.session.project, self.session.path)

    def recover(self) -> None:
        """Brings back the newest work of a run that ended without closing, when it belongs to what is open here.

        Where the file was changed after that copy, it is asked which of them counts.
        """
        if not self.autosave:
            return
        found = self.autosave.orphans(self.session.path, every=False)
        damaged = ", ".join(self.autosave.damaged)
        if damaged:
            self.session.announce(
                say("! a copy of unsaved work is damaged and was passed over: {damaged}", damaged=damaged)
            )
        if not found:
            return
        work = found[0]
        if work.is_newer_than_file or self._wanted(work):
            self.session.apply(
                work.project, say("unsaved work of the last run is back; undo shows the file as it was saved")
            )
            # the old copy goes only once the work is kept again
            if self.autosave.keep(work.project, self.session.path):
                work.drop()
            self.go_to(self.stack.currentIndex())

    def _wanted(self, work: Recovered) -> bool:
        """Asks whether an older copy goes over a file that was changed since; refused, it stays where it is."""
        assert self.session.path is not None
        saved = datetime.datetime.fromtimestamp(self.session.path.stat().st_mtime, datetime.UTC).astimezone()
        lines = differences(self.session.project, work.project)
        box = message_box(
            QMessageBox.Icon.Question,
            say("Unsaved work"),
            say(
                "There is unsaved work on {path} from {when:%d %B %H:%M}, but the file was saved at "
                "{saved:%d %B %H:%M}, after that. They differ in {counted}. Show the unsaved work? Undo shows "
                "the file again.",
                path=self.session.path.name,
                when=work.time.astimezone(),
                saved=saved,
                counted=say_count(len(lines), "{number} place", "{number} places"),
            ),
            self,
        )
        box.setDetailedText("\n".join(lines))
        show = box.addButton(say("Show the unsaved work"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(say("Leave it"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        return box.clickedButton() is show

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
        self._keep.stop()
        self._at_last.stop()
        self.session.forget_listeners()
        other = MainWindow(self.session, theme, self.autosave, self.remembered)
        other.opened = self.opened
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
            self.opened.leave()
        session.selected = project.pads[0].name if project.pads else ""
        session.check = ""
        session.start(lambda: self.go_to("bearing" if project.pads else "actions"))

    def may_leave(self) -> bool:
        """Asks when there are changes that are not saved."""
        if self.session.is_saved or len(self.session.history) == 1:
            return True
        kinds = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self,
            say("Not saved"),
            say("There are changes that are not saved. Save them first?"),
            kinds.Save | kinds.Discard | kinds.Cancel,
        )
        return self.save() if answer == kinds.Save else answer == kinds.Discard

    def begin(self, make: Callable[[], Project]) -> None:
        """Starts with a project that is made for it."""
        try:
            project = make()
        except OfficeError as error:
            self.session.announce(f"! {error}")
            return
        if self.may_leave():
            self.replace_session(project, None)
            self.session.announce(say("{project}: a new project, not saved yet", project=project.title.project))

    def show_beginnings(self) -> None:
        """Shows them below the button."""
        menu = QMenu(self)
        for one in beginnings(self):
            if one.apart:
                menu.addSeparator()
            menu.addAction(one.text, one.begin)
        button = self.findChild(QPushButton, "new")
        self.new_menu = menu
        if button is not None:
            menu.popup(button.mapToGlobal(button.rect().bottomLeft()))

    def ask_template(self) -> None:
        """Asks under which name the project is kept as a template."""
        name, taken = QInputDialog.getText(
            self, say("Template"), say("Settings, units, soils, cases, combinations and types are kept under the name")
        )
        if taken:
            self.keep_template(name)

    def keep_template(self, name: str) -> None:
        """Keeps the project as a template of the office."""
        from korbent.files.office import keep_template

        try:
            keep_template(self.session.project, name)
        except (OfficeError, OSError) as error:
            self.session.announce(f"! {error}")
            return
        self.session.announce(say("kept as the template '{name}': New offers it", name=name))

    def new(self) -> None:
        """Starts from nothing."""
        from korbent.demo.starter import starter

        if self.may_leave():
            self.replace_session(starter(), None)
            self.session.announce(
                say(
                    "A new project: load cases and combinations are ready. Add a column, its loads, then a pad in Plan."
                )
            )

    def open(self) -> None:
        """Asks for a file and opens it."""
        if not self.may_leave():
            return
        name, _ = QFileDialog.getOpenFileName(self, say("Open a project"), self._folder(), FILTER)
        if name:
            self.open_file(Path(name))

    def _folder(self) -> str:
        """Where files are looked for first: beside the one that is open, else where the last one was."""
        if self.session.path is not None:
            return str(self.session.path.parent)
        return self.remembered.folder if self.remembered is not None else ""

    def take_file(self, path: Path) -> None:
        """Opens a file that another start of the program was called with; this window comes to the front."""
        self.setWindowState(self.windowState() & ~Qt.WindowState.WindowMinimized)
        self.raise_()
        self.activateWindow()
        if self.session.path is not None and self.session.path.resolve() == path.resolve():
            self.session.announce(say("{path} is open already", path=path.name))
        elif self.may_leave():
            self.open_file(path)

    def open_file(self, path: Path) -> bool:
        """Opens a file; a wrong one changes nothing and says all that is wrong."""
        try:
            project = load(path)
        except ProjectFileError as error:
            box = message_box(QMessageBox.Icon.Warning, say("Not opened"), str(error).split("\n")[0], self)
            box.setDetailedText("\n".join(map(str, error.problems)))
            box.open()
            self.session.announce(
                say("! {path} was not opened: {problems}", path=path.name, problems=error.problems[0])
            )
            return False
        self.replace_session(project, path)
        remember_file(path)
        if self.remembered is not None:
            self.remembered.folder = str(path.resolve().parent)
        alone = self.opened.take(path)
        self.session.announce(
            say("{path} opened", path=path.name)
            if alone
            else say("! {path} is open in another window too: saving asks when it was changed there", path=path.name)
        )
        self.recover()
        return True

    def save(self) -> bool:
        """Saves, asking for a file when there is none yet."""
        path = self.session.path
        if path is None:
            name, _ = QFileDialog.getSaveFileName(
                self, say("Save the project"), str(Path(self._folder()) / "project.korbent"), FILTER
            )
            if not name:
                return False
            path = Path(name) if name.endswith(".korbent") else Path(name + ".korbent")
        return self.save_file(path)

    def save_file(self, path: Path) -> bool:
        """Saves to a file."""
        try:
            self.session.save(path)
        except ChangedMeanwhileError as error:
            if not self._changed_meanwhile(error.path):
                return False
            path = self.session.path or path
        except OSError as error:
            self.session.announce(say("! not saved: {why}. Choose another folder", why=error.strerror or error))
            return False
        self.opened.take(path)
        remember_file(path)
        if self.autosave:
            self.autosave.drop()
        self.refresh()
        return True

    def _changed_meanwhile(self, path: Path) -> bool:
        """Asks what becomes of a file that somebody else has changed; whether the own work is saved then."""
        session = self.session
        try:
            theirs: Project | None = load(path)
            lines = differences(theirs, session.project) if theirs else []
            said = say(
                "Theirs and yours differ in {counted}, which the details list.",
                counted=say_count(len(lines), "{number} place", "{number} places"),
            )
        except ProjectFileError as error:
            theirs, lines, said = (
                None,
                [str(p) for p in error.problems],
                say("What is there now is no project that can be read."),
            )
        box = message_box(
            QMessageBox.Icon.Warning,
            say("Changed meanwhile"),
            say(
                "{path} was changed by somebody else since you opened or saved it. {said}\n\nKeep both saves "
                "yours beside it under a name of its own.",
                path=path.name,
                said=said,
            ),
            self,
        )
        box.setObjectName("changed-meanwhile")
        box.setDetailedText("\n".join(lines) or say("no value differs"))
        role = QMessageBox.ButtonRole
        both = box.addButton(say("Keep both"), role.AcceptRole)
        take = box.addButton(say("Take theirs"), role.ActionRole) if theirs else None
        over = box.addButton(say("Overwrite theirs"), role.DestructiveRole)
        box.addButton(say("Cancel"), role.RejectRole)
        box.setDefaultButton(both)
        box.exec()
        chosen = box.clickedButton()
        try:
            if chosen is both:
                session.keep_beside()
            elif take is not None and chosen is take:
                session.take_theirs()
            elif chosen is over:
                session.save(path, over=True)
            else:
                session.announce(say("! not saved: the file was changed by somebody else"))
                return False
        except (OSError, ProjectFileError) as error:
            session.announce(say("! not saved: {error}", error=error))
            return False
        return True

    def earlier_versions(self) -> None:
        """Offers the last saved states of this project; the one that is chosen is shown, undo goes back."""
        session = self.session
        found = session.store.of(session.path) if session.path else []
        if not found:
            session.announce(say("! there is no earlier version of this project yet: each saving keeps one"))
            return
        lines = [
            say(
                "{when:%d %B %Y %H:%M:%S} · {k} · {what}",
                when=k.time.astimezone(),
                k=k.name or k.reason,
                what="; ".join(k.what[:3]) or say("first saving here"),
            )[:160]
            for k in found
        ]
        line, taken = QInputDialog.getItem(
            self,
            say("Earlier versions"),
            say("The last saved states; undo goes back to what is shown now"),
            lines,
            0,
            False,
        )
        if taken and line in lines:
            self.show_version(found[lines.index(line)])

    def show_version(self, kept: Kept) -> None:
        """Shows a kept state as one step that undo takes back."""
        try:
            project = kept.project()
        except (OSError, ProjectFileError) as error:
            self.session.announce(
                say("! that version cannot be read: {splitlines}", splitlines=str(error).splitlines()[0])
            )
            return
        self.session.apply(
            project, say("the version of {when:%d %B %H:%M}; undo goes back", when=kept.time.astimezone())
        )

    def report(self) -> None:
        """Asks where, and prints the report."""
        name, _ = QFileDialog.getSaveFileName(
            self, say("Print the report"), str(Path(self._folder()) / "report.pdf"), say("PDF (*.pdf)")
        )
        if name:
            self.report_to(Path(name))

    def report_to(self, path: Path) -> None:
        """Prints the report to a file, in the background."""
        self.session.announce(say("the report is being written to {path} …", path=path.name))
        pool().run("report", path, (self.session.project, path.resolve()), self._reported)

    def print_base(self) -> None:
        """Asks where, and prints the calculation of the selected base."""
        base = self.session.selected
        if not base:
            self.session.announce(say("! there is no base to print: add one in Plan"))
            return
        name, _ = QFileDialog.getSaveFileName(
            self, say("Print {base}", base=base), str(Path(self._folder()) / f"{base}.pdf"), say("PDF (*.pdf)")
        )
        if name:
            self.print_base_to(base, Path(name))

    def print_base_to(self, base: str, path: Path) -> None:
        """Prints the calculation of one base to a file, in the background."""
        self.session.announce(say("the calculation of {base} is being written to {path} …", base=base, path=path.name))
        pool().run("base_report", path, (self.session.project, base, path.resolve()), self._reported)

    def _reported(self, path: object, found: object) -> None:
        assert isinstance(path, Path)
        pages, why = found if isinstance(found, tuple) else (0, say("something went wrong; the log tells what"))
        self.session.announce(
            say("! the report was not written: {why}", why=why)
            if why
            else say("report of {pages} pages written to {path}", pages=pages, path=path.name)
        )

    def fault(self, line: str, text: str) -> None:
        """Tells of a fault of the program: a copy of the work is kept, the details can be copied, and the window goes
        on."""
        with suppress(Exception):  # whatever is broken, this is not to end in a fault of its own
            kept(text)
            self.keep_copy()
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
        elif self.may_leave():
            self._keep.stop()
            self._at_last.stop()
            self.opened.leave()
            if self.autosave:
                self.autosave.drop()
            if self.remembered is not None:
                self.remembered.keep(self)
            event.accept()
        else:
            event.ignore()
