"""Walks through the whole window in the language that is made up and writes what is still to be read in English.

Run as a program of its own, with ``KORBENT_LANGUAGE=made-up``: the language of a process is chosen before anything is
loaded. Writes a JSON list of (demo, where, as what, text)."""

import json
import os
import re
import sys
import time
from pathlib import Path
from typing import Any

from PySide6.QtCore import QThread
from PySide6.QtWidgets import QAbstractButton, QApplication, QMenu

from korbent.app import background
from korbent.app.main import application
from korbent.app.session import Session
from korbent.app.window import MainWindow
from korbent.app.workers import pool
from korbent.core.evaluate import evaluate
from korbent.core.model import Project
from korbent.demo import DEMOS
from korbent.files.project_file import content_of, project_of
from korbent.sheets.calculation import calculation
from korbent.sheets.calculation_html import calculation_html
from korbent.sheets.catalogue import usual_sets
from korbent.sheets.drawings import drawings
from korbent.words.languages import made_up
from tests.attacks.hands import Hands
from tests.words.reading import Painted, everything

WORD = re.compile(r"[A-Za-z]{3,}")
SAME = re.compile(
    r"(EN|ACI|AS|ASCE|AISC|AS/NZS|ISO|ASTM)\s\d[^,;·†]*|in Foundation Engineering Handbook, chapter 3|table \d"
    r"|Korbent|Lindmere ferry terminal|Redstem packing shed|Coombe Hollow workshop|Hollin Court|[A-Z]\w+ and [A-Z]\w+ (18|19|20)\d\d|[A-Z]\w+ (18|19|20)\d\d"
    r"|Terzaghi|Meyerhof|Brinch Hansen|Vesic|Skempton|Burland and Burbidge|Christian and Carrier|Casagrande|Schmertmann|Silva|Taylor"
    r"|ANSI|Arch|Letter|EQU|UPL|SPT|CPT|OCR"
    r"|tan|sin|cos|kip|ksf|psi|pcf|pci|ksi|kPa|kNm?|MPa|deg|rad|min|day|year|sat|mm"
    r"|Ctrl|Shift|Alt|Home|Enter|Esc|Tab|Left|Right|\.?korbent|PDF|DXF|SVG|DOCX|XLSX|CSV|HTML|AGS4?"
    r"|[\w-]+\.(pdf|korbent|svg|png|log)"
    r"|Python|numpy|scipy|pydantic|gmsh|shapely"
)
"""What is the same in every language: names of people, standards, papers, keys, files; units."""
QUICK = bool(os.environ.get("KORBENT_QUICK"))
"""One base, nothing switched on."""
SEED = int(os.environ.get("KORBENT_SEED", "1"))
FORMULA = "="
"""Symbols are letters too: what stands in a formula is not read as words."""
FREE = {"description", "project", "client", "author", "checker", "note", "revision", "sample", "reason"}
"""Fields that hold what somebody wrote."""


def foreign(project: Project) -> Project:
    """The project with all names and descriptions in other letters: what can be read afterwards is Korbent's."""
    content = content_of(project)
    names: set[str] = set()

    def collect(value: Any) -> None:
        for key, part in value.items() if isinstance(value, dict) else ():
            if isinstance(part, str) and key == "name" and WORD.search(part):
                names.add(part)
        for part in value.values() if isinstance(value, dict) else value if isinstance(value, list) else ():
            collect(part)

    def renamed(value: Any, key: str = "") -> Any:
        if isinstance(value, dict):
            return {made_up(k) if k in names else k: renamed(v, k) for k, v in value.items()}
        if isinstance(value, list):
            return [renamed(part, key) for part in value]
        return made_up(value) if isinstance(value, str) and (value in names or key in FREE) else value

    collect(content)
    return project_of(renamed(content), Path("foreign.korbent"))


def wait(app: QApplication, most: float = 2.0) -> None:
    """Until what is asked for is there, or long enough: what takes minutes says the same on its way."""
    for _ in range(6):
        app.processEvents()
        QThread.msleep(5)
    end = time.monotonic() + most
    while (background.busy() or pool().busy()) and time.monotonic() < end:
        app.processEvents()
        QThread.msleep(10)
    app.processEvents()


class Walk:
    """What is read on the way."""

    def __init__(self, demo: str) -> None:
        self.demo = demo
        self.found: dict[str, tuple[str, str, str, str]] = {}
        self.switched: set[tuple[int, str, str]] = set()

    def note(self, painted: Painted, tables: bool = True) -> None:
        for where, kind, text in everything(tables):
            self.keep(where, kind, text)
        for text in painted.texts:
            self.keep("", "painted", text)
        painted.texts.clear()

    def keep(self, where: str, kind: str, text: str) -> None:
        for line in text.split("\n"):
            if line not in self.found and FORMULA not in line and WORD.search(SAME.sub("", line)):
                self.found[line] = (self.demo, where, kind, line)


def walked(demo: str) -> list[tuple[str, str, str, str]]:
    app = application()
    walk = Walk(demo)
    project = foreign(DEMOS[demo]()) if demo else Project()
    session = Session(project, puts_off=True)
    window = MainWindow(session)
    window.resize(1280, 800)
    with Painted() as painted:
        window.show()
        wait(app)
        walk.note(painted)
        if not demo:
            _start(app, window, walk, painted)
        kinds = {(p.kind, p.shape): p.name for p in reversed(project.pads)}
        names = [*kinds.values(), *([] if kinds else [""])]
        for name in names[:1] if QUICK else names:
            if name:
                session.select(name)
            _stops(app, window, walk, painted)
            for check in session.results.pad(name).checks if name else ():
                session.select_check(check.check.id)
                window.ledger.open_working()
                app.processEvents()
                walk.note(painted, tables=False)
            window.ledger.close_working()
    window.session.saved = window.session.project
    window.close()
    return list(walk.found.values())


def _start(app: QApplication, window: MainWindow, walk: Walk, painted: Painted) -> None:
    """The start page with every quick start, the list of keys, the help."""
    window.show_start()
    wait(app)
    walk.note(painted)
    start = window.start
    assert start is not None
    for button in start.findChildren(QAbstractButton):
        if button.isCheckable() and button.isVisible() and button.isEnabled():
            button.click()
            wait(app)
            walk.note(painted)
    window.leave_start()
    window.show_keys()
    wait(app)
    walk.note(painted)


def _stops(app: QApplication, window: MainWindow, walk: Walk, painted: Painted) -> None:
    """Every stop, with all that can be switched on in it."""
    for i in range(len(window.stops)):
        window.go_to(i)
        wait(app)
        walk.note(painted)
        for button in [] if QUICK else window.stop.findChildren(QAbstractButton):
            named = (i, button.objectName(), button.text())
            if named in walk.switched or not (button.isVisible() and button.isEnabled()):
                continue
            if button.isCheckable() and not button.isChecked():
                walk.switched.add(named)
                button.click()
                wait(app)
                walk.note(painted)
                if button.isChecked() and not button.group() and not button.autoExclusive():
                    button.click()
    for menu in window.findChildren(QMenu):
        for action in menu.actions():
            walk.keep("menu", "action", action.text())


def by_chance(demo: str, steps: int = 400) -> list[tuple[str, str, str, str]]:
    """What is read while random hands work: menus, dialogs, messages."""
    app = application()
    walk = Walk(demo)
    hands = Hands(MainWindow(Session(foreign(DEMOS[demo]()), puts_off=True)), SEED)
    hands.window.resize(1280, 800)
    put = MainWindow.replace_session
    MainWindow.replace_session = lambda self, new, path: put(self, foreign(new), path)  # type: ignore[method-assign]
    with Painted() as painted:
        hands.window.show()
        # dialogs and menus are there while a question is answered
        answer = hands._answer
        hands._answer = lambda: (walk.note(painted, tables=False), answer())  # type: ignore[method-assign]
        for _ in range(steps):
            hands.step()
            while hands.window.successor is not None:
                hands.window = hands.window.successor
            walk.note(painted, tables=False)
    hands.stop()
    for widget in app.topLevelWidgets():
        if isinstance(widget, MainWindow):
            widget.session.saved = widget.session.project
    return list(walk.found.values())


def sheets(demo: str) -> list[tuple[str, str, str, str]]:
    """What is read on the sheets: the calculation with all workings, drawings, tables."""
    project = foreign(DEMOS[demo]())
    results = evaluate(project)
    walk = Walk(demo)
    for chosen in usual_sets(project):
        chosen = chosen.replaced(workings="governing", sheets=tuple(s.replaced(on=True) for s in chosen.sheets))
        page = calculation_html(calculation(project, results, chosen))
        # without styles, steps of workings (symbols and formulas) and indices
        page = re.sub(r"<(style|sub)\b.*?</\1>|<p class=.step.*?</p>", "", page, flags=re.DOTALL)
        for text in re.findall(r">([^<>]+)<", page):
            walk.keep("calculation", "text", text)
        for sheet in drawings(project, chosen, chosen.sheets):
            for drawing in (sheet.frame, *(v.drawing for v in sheet.views)):
                for shape in drawing.shapes:
                    walk.keep(f"drawing {sheet.key}", "text", getattr(shape, "text", ""))
    return list(walk.found.values())


if __name__ == "__main__":
    what = {"window": walked, "sheets": sheets, "by_chance": by_chance}[sys.argv[1]]
    json.dump([row for demo in sys.argv[2:] for row in what(demo)], sys.stdout, ensure_ascii=False)
