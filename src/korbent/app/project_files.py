"""What happens to the project as a file: begin, open, save, earlier versions, copies of unsaved work."""

import datetime
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import QObject, Qt, QTimer
from PySide6.QtWidgets import QFileDialog, QInputDialog, QMessageBox, QPushButton

from korbent.app.session import ChangedMeanwhileError
from korbent.app.words import message_box
from korbent.core.model import Project
from korbent.core.model.differences import differences
from korbent.files.autosave import Autosave, Opened, Recovered, remember_file
from korbent.files.kept import Kept
from korbent.files.office import OfficeError
from korbent.files.project_file import ProjectFileError, load
from korbent.words import say, say_count

if TYPE_CHECKING:
    from korbent.app.window import MainWindow

AUTOSAVE_AFTER = 1500
"""Time without a change after which a copy of unsaved work is kept, ms."""
AUTOSAVE_AT_LAST = 4000
"""Time from the first change on after which it is kept in any case, ms."""
FILTER = say("Korbent project (*.korbent)")


class ProjectFiles(QObject):
    """The file of a window, and the copies that are kept of its work."""

    def __init__(self, window: "MainWindow", autosave: Autosave | None, opened: Opened | None = None) -> None:
        super().__init__(window)
        self.window, self.autosave, self.opened = window, autosave, opened or Opened()
        self._keep = QTimer(self, singleShot=True, interval=AUTOSAVE_AFTER)
        self._keep.timeout.connect(self.keep_copy)
        # edits in quick succession put the copy off no longer than this
        self.at_last = QTimer(self, singleShot=True, interval=AUTOSAVE_AT_LAST)
        self.at_last.timeout.connect(self.keep_copy)

    # ------------------------------------------------------------ beginning

    def may_leave(self) -> bool:
        """Asks when there are changes that are not saved."""
        if self.window.session.is_saved or len(self.window.session.history) == 1:
            return True
        kinds = QMessageBox.StandardButton
        answer = QMessageBox.question(
            self.window,
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
            self.window.session.announce(f"! {error}")
            return
        if self.may_leave():
            self.window.replace_session(project, None)
            self.window.session.announce(say("{project}: a new project, not saved yet", project=project.title.project))

    def begin_with(self, tool: str, stop: str) -> None:
        """An empty project, and what brings something into it from a file."""
        from korbent.demo.starter import starter

        if not self.may_leave():
            return
        self.window.replace_session(starter(), None)
        self.window.go_to(stop)
        bar: Any = getattr(self.window.stop, "bar", None) or self.window.stop
        if tool == "dxf":
            bar.open(True)
            return
        button = self.window.stop.findChild(QPushButton, tool)
        if button is not None:
            button.click()

    def ask_template(self) -> None:
        """Asks under which name the project is kept as a template."""
        name, taken = QInputDialog.getText(
            self.window,
            say("Template"),
            say("Settings, units, soils, cases, combinations and types are kept under the name"),
        )
        if taken:
            self.keep_template(name)

    def keep_template(self, name: str) -> None:
        """Keeps the project as a template of the office."""
        from korbent.files.office import keep_template

        try:
            keep_template(self.window.session.project, name)
        except (OfficeError, OSError) as error:
            self.window.session.announce(f"! {error}")
            return
        self.window.session.announce(say("kept as the template '{name}': New offers it", name=name))

    def new(self) -> None:
        """Starts from nothing."""
        from korbent.demo.starter import starter

        if self.may_leave():
            self.window.replace_session(starter(), None)
            self.window.session.announce(
                say(
                    "A new project: load cases and combinations are ready. Add a column, its loads, then a pad in Plan."
                )
            )

    # ------------------------------------------------------------ opening

    def open(self) -> None:
        """Asks for a file and opens it."""
        if not self.may_leave():
            return
        name, _ = QFileDialog.getOpenFileName(self.window, say("Open a project"), self.folder(), FILTER)
        if name:
            self.open_file(Path(name))

    def open_recent(self, path: Path) -> None:
        if self.may_leave():
            self.open_file(path)

    def folder(self) -> str:
        """Where files are looked for first: beside the one that is open, else where the last one was."""
        if self.window.session.path is not None:
            return str(self.window.session.path.parent)
        return self.window.remembered.folder if self.window.remembered is not None else ""

    def take_file(self, path: Path) -> None:
        """Opens a file that another start of the program was called with; this window comes to the front."""
        self.window.setWindowState(self.window.windowState() & ~Qt.WindowState.WindowMinimized)
        self.window.raise_()
        self.window.activateWindow()
        if self.window.session.path is not None and self.window.session.path.resolve() == path.resolve():
            self.window.session.announce(say("{path} is open already", path=path.name))
        elif self.may_leave():
            self.open_file(path)

    def open_file(self, path: Path) -> bool:
        """Opens a file; a wrong one changes nothing and says all that is wrong."""
        try:
            project = load(path)
        except ProjectFileError as error:
            box = message_box(QMessageBox.Icon.Warning, say("Not opened"), str(error).split("\n")[0], self.window)
            box.setDetailedText("\n".join(map(str, error.problems)))
            box.open()
            self.window.session.announce(
                say("! {path} was not opened: {problems}", path=path.name, problems=error.problems[0])
            )
            return False
        self.window.replace_session(project, path)
        remember_file(path)
        if self.window.remembered is not None:
            self.window.remembered.folder = str(path.resolve().parent)
        alone = self.opened.take(path)
        self.window.session.announce(
            say("{path} opened", path=path.name)
            if alone
            else say("! {path} is open in another window too: saving asks when it was changed there", path=path.name)
        )
        self.recover()
        return True

    # ------------------------------------------------------------ saving

    def save(self) -> bool:
        """Saves, asking for a file when there is none yet."""
        path = self.window.session.path
        if path is None:
            name, _ = QFileDialog.getSaveFileName(
                self.window, say("Save the project"), str(Path(self.folder()) / "project.korbent"), FILTER
            )
            if not name:
                return False
            path = Path(name) if name.endswith(".korbent") else Path(name + ".korbent")
        return self.save_file(path)

    def save_file(self, path: Path) -> bool:
        """Saves to a file."""
        try:
            self.window.session.save(path)
        except ChangedMeanwhileError as error:
            if not self._changed_meanwhile(error.path):
                return False
            path = self.window.session.path or path
        except OSError as error:
            self.window.session.announce(say("! not saved: {why}. Choose another folder", why=error.strerror or error))
            return False
        self.opened.take(path)
        remember_file(path)
        if self.autosave:
            self.autosave.drop()
        self.window.refresh()
        return True

    def _changed_meanwhile(self, path: Path) -> bool:
        """Asks what becomes of a file that somebody else has changed; whether the own work is saved then."""
        session = self.window.session
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
            self.window,
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
        session = self.window.session
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
            self.window,
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
            self.window.session.announce(
                say("! that version cannot be read: {splitlines}", splitlines=str(error).splitlines()[0])
            )
            return
        self.window.session.apply(
            project, say("the version of {when:%d %B %H:%M}; undo goes back", when=kept.time.astimezone())
        )

    # ------------------------------------------------------------ copies of unsaved work

    def keep_copy(self) -> None:
        """Keeps a copy of unsaved work, for the case that this run does not end well."""
        self.at_last.stop()
        if self.autosave and not self.window.session.is_saved and len(self.window.session.history) > 1:
            self.autosave.keep(self.window.session.project, self.window.session.path)

    def changed(self) -> None:
        """There is unsaved work: a copy of it is kept soon."""
        self._keep.start()
        if not self.at_last.isActive():
            self.at_last.start()

    def rest(self) -> None:
        """No copy is kept from now on by itself."""
        self._keep.stop()
        self.at_last.stop()

    def leave(self) -> None:
        """The work is done, or given up: its copies go."""
        self.rest()
        self.opened.leave()
        if self.autosave:
            self.autosave.drop()

    def recover(self) -> None:
        """Brings back the newest work of a run that ended without closing, when it belongs to what is open here.

        Where the file was changed after that copy, it is asked which of them counts.
        """
        if not self.autosave:
            return
        found = self.autosave.orphans(self.window.session.path, every=False)
        damaged = ", ".join(self.autosave.damaged)
        if damaged:
            self.window.session.announce(
                say("! a copy of unsaved work is damaged and was passed over: {damaged}", damaged=damaged)
            )
        if not found:
            return
        work = found[0]
        if work.is_newer_than_file or self._wanted(work):
            self.window.session.apply(
                work.project, say("unsaved work of the last run is back; undo shows the file as it was saved")
            )
            # the old copy goes only once the work is kept again
            if self.autosave.keep(work.project, self.window.session.path):
                work.drop()
            self.window.go_to(self.window.stack.currentIndex())

    def _wanted(self, work: Recovered) -> bool:
        """Asks whether an older copy goes over a file that was changed since; refused, it stays where it is."""
        assert self.window.session.path is not None
        saved = datetime.datetime.fromtimestamp(self.window.session.path.stat().st_mtime, datetime.UTC).astimezone()
        lines = differences(self.window.session.project, work.project)
        box = message_box(
            QMessageBox.Icon.Question,
            say("Unsaved work"),
            say(
                "There is unsaved work on {path} from {when:%d %B %H:%M}, but the file was saved at "
                "{saved:%d %B %H:%M}, after that. They differ in {counted}. Show the unsaved work? Undo shows "
                "the file again.",
                path=self.window.session.path.name,
                when=work.time.astimezone(),
                saved=saved,
                counted=say_count(len(lines), "{number} place", "{number} places"),
            ),
            self.window,
        )
        box.setDetailedText("\n".join(lines))
        show = box.addButton(say("Show the unsaved work"), QMessageBox.ButtonRole.AcceptRole)
        box.addButton(say("Leave it"), QMessageBox.ButtonRole.RejectRole)
        box.exec()
        return box.clickedButton() is show
