"""The top bar: the project and whether it is saved, the search field, standards and units in force, beginnings, file and
report, undo."""

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QMenu, QPushButton, QWidget

from korbent.app.beginnings import beginnings
from korbent.app.commands import command
from korbent.app.search import SearchField
from korbent.app.session import Session
from korbent.app.words import Door, Label
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


class TopBar(QWidget):
    """What stands above all stops."""

    def __init__(self, window: "MainWindow") -> None:
        super().__init__(objectName="desk")
        self._window = window
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedHeight(42)
        self.project_label = Door(objectName="project", toolTip=command("project").tip)
        self.project_label.clicked.connect(window.show_project)
        self.saved_label = Label()
        self.standards_label = Door(
            objectName="standards", toolTip=say("The standards in force: a click leads to where they are chosen")
        )
        self.standards_label.clicked.connect(lambda: window.show_table("title"))
        self.units_button = self._button("units")
        self.new_button = QPushButton(say("New ▾"), objectName="new")
        self.new_button.setToolTip(
            say("The start page, an empty project, an example or a template (Ctrl+N: the start page)")
        )
        self.new_button.clicked.connect(lambda: self.show_beginnings())
        open_, save, report = (self._button(key, command(key).name) for key in ("open", "save", "report"))
        self.undo_button, self.redo_button = self._button("undo", "↶"), self._button("redo", "↷")
        self._of_project = (
            *(save, report, self.project_label, self.saved_label, self.standards_label),
            *(self.units_button, self.undo_button, self.redo_button),
        )
        row = QHBoxLayout(self)
        row.setContentsMargins(16, 0, 12, 0)
        row.setSpacing(8)
        row.addWidget(Label("Korbent", objectName="mark"))
        row.addSpacing(8)
        row.addWidget(self.project_label)
        row.addWidget(self.saved_label)
        row.addStretch(1)
        self.search = SearchField(window.places, self)  # the keyboard goes along the bar as it is read
        row.addWidget(self.search)
        row.addStretch(1)
        row.addWidget(self.standards_label)
        row.addWidget(self.units_button)
        row.addSpacing(10)
        for button in (self.new_button, open_, save, report):
            row.addWidget(button)
        row.addSpacing(6)
        for button in (self._button("theme", "◐"), self.undo_button, self.redo_button):
            row.addWidget(button)

    def _button(self, key: str, text: str = "") -> QPushButton:
        """A button of a command; one without a word on it is called as the command is."""
        one = command(key)
        button: QPushButton = QPushButton(text, objectName=key)
        button.setToolTip(one.tip)
        button.setAccessibleName("" if text[:1].isalpha() else one.name)
        button.clicked.connect(lambda: one.act(self._window))
        return button

    def show_beginnings(self) -> None:
        """Shows below the button with what one can begin."""
        menu = QMenu(self)
        for one in beginnings(self._window):
            if one.apart:
                menu.addSeparator()
            menu.addAction(one.text, one.begin)
        self.new_menu = menu
        menu.popup(self.new_button.mapToGlobal(self.new_button.rect().bottomLeft()))

    def speak_of_project(self, on: bool) -> None:
        """Whether the bar shows what belongs to the open project: in front of the start page it would speak of what is
        hidden."""
        for part in self._of_project:
            part.setVisible(on)

    def refresh(self, session: Session, soft: str) -> None:
        """Shows the session as it is now; ``soft``: the colour of what matters less."""
        project = session.project
        self.project_label.setText(project.title.project or say("Project"))
        saved = say("saved") if session.is_saved else say("not saved")
        self.saved_label.setText(say("revision {revision} · {saved}", revision=project.title.revision, saved=saved))
        style = f"color: {soft}; background: transparent;"
        if style != self.saved_label.styleSheet():
            self.saved_label.setStyleSheet(style)
        self.units_button.setText("kN · m · kPa" if project.units == "metric" else "kip · ft · ksf")
        self.standards_label.setText(_standards(project))
        self.undo_button.setEnabled(session.position > 0)
        self.redo_button.setEnabled(session.position + 1 < len(session.history))


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
