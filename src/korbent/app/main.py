"""Starts the application."""

import sys
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QLibraryInfo, Qt, QThread, QTimer, QTranslator
from PySide6.QtWidgets import QApplication

from korbent.app import background
from korbent.app.remembered import Remembered, begin_log
from korbent.app.running import Listening, handed_over
from korbent.app.session import Session
from korbent.app.style import load_fonts
from korbent.app.window import MainWindow
from korbent.app.workers import pool
from korbent.core.model import Project
from korbent.entry import searching_again
from korbent.files.autosave import Autosave, remember_file
from korbent.files.faults import Guard, details, line_of
from korbent.words import say, spoken


def application() -> QApplication:
    """The Qt application, with its typeface."""
    app = QApplication.instance() or QApplication(sys.argv[:1])
    assert isinstance(app, QApplication)
    app.setApplicationName("Korbent")
    app.setDesktopFileName("org.korbent.Korbent")
    load_fonts()
    _in_its_language(app)
    return app


def _in_its_language(app: QApplication) -> None:
    """What Qt says itself (files, answers to questions) in the language of the program."""
    name = spoken()
    if name and app.findChild(QTranslator) is None:
        translator = QTranslator(app)
        if translator.load(f"qtbase_{name}", QLibraryInfo.path(QLibraryInfo.LibraryPath.TranslationsPath)):
            app.installTranslator(translator)


def run(project: Project, path: Path | None, said: str = "") -> int:
    """Opens the window and stays until it is closed; ``said`` stands in its message line."""
    if path is not None and handed_over(path):
        return 0
    app = application()
    begin_log()
    window = first_window(project, path, said)
    guard(window)
    listening = Listening(lambda file: newest(window).files.take_file(file), window)
    app.styleHints().colorSchemeChanged.connect(lambda _: newest(window).follow_system())
    app.aboutToQuit.connect(listening.end)
    return app.exec()


def newest(window: MainWindow) -> MainWindow:
    """The window that has taken its place in other colours, where there is one."""
    while window.successor is not None:
        window = window.successor
    return window


def first_window(project: Project, path: Path | None, said: str = "") -> MainWindow:
    """A window that is there at once; the project follows as soon as it is computed."""
    remembered = Remembered()
    session = Session(Project(), puts_off=True, patience=PATIENCE)
    nothing = path is None and not project.actions.load_points
    awaited = (
        say("One moment …")
        if nothing
        else say("{project} is being computed …", project=project.title.project or say("The project"))
    )
    window = MainWindow(session, remembered.chosen_theme(), Autosave(), remembered, awaited)
    remembered.place(window)
    window.show()
    searching_again()
    QTimer.singleShot(0, window, lambda: _take(window, project, path, said))
    return window


def _take(window: MainWindow, project: Project, path: Path | None, said: str) -> None:
    window.replace_session(project, path)
    if path is None and not project.actions.load_points:
        window.show_start()
    if path:
        remember_file(path)
        if not window.files.opened.take(path):
            window.session.announce(
                say("! {path} is open in another window too: saving asks when it was changed there", path=path.name)
            )
    window.files.recover()
    if said:
        window.session.announce(said)


PATIENCE = 0.06
"""Seconds that the window waits for the results of a change before it goes on without them."""


def guard(window: MainWindow) -> None:
    """From now on a fault of the program is told in the window, which goes on with a copy of the work kept."""

    def told(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        newest(window).fault(line_of(error), details(kind, error, trace))

    sys.excepthook = told
    Guard.on = True


def pictures(project: Project, folder: Path, pad: str = "") -> list[Path]:
    """PNG pictures of the main views at 1280 x 800, without showing a window."""
    app = application()
    session = Session(project, puts_off=True)
    if pad:
        session.select(pad)
    window = MainWindow(session)
    window.setAttribute(Qt.WidgetAttribute.WA_DontShowOnScreen)
    window.resize(1280, 800)
    window.show()
    written = []
    on_rail = len(window.rail.buttons)
    for i, stop in enumerate(window.stops):
        window.go_to(i)
        _wait(app)
        number = i + 1 if i < on_rail else 16 + i - on_rail
        target = folder / f"{number}-{stop.place.replace(' ', '-')}.png"
        window.grab().save(str(target))
        written.append(target)
    session.select_check(session.result.worst.check.id if session.result else "")
    window.go_to("bearing")
    window.ledger.open_working()
    _wait(app)
    target = folder / "11-working.png"
    window.grab().save(str(target))
    written.append(target)
    raft = next((p for p in project.pads if p.kind == "raft"), None)
    if raft is not None:
        window.ledger.close_working()
        session.select(raft.name)
        window.go_to("concrete")
        _wait(app)
        target = folder / "13-raft.png"
        window.grab().save(str(target))
        written.append(target)
    window.session.saved = window.session.project
    window.close()
    return written


def _wait(app: QApplication) -> None:
    """Until what a stop asks for in the background is there."""
    for _ in range(12):
        app.processEvents()
        QThread.msleep(10)
    while background.busy() or pool().busy():
        app.processEvents()
        QThread.msleep(10)
    app.processEvents()
