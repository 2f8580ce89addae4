"""The reserve of the selected base, computed beside the window; old values stay in sight, marked, until the new ones are there."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.app.workers import pool
from korbent.core.sizing.reserve import Reserve
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.reserve import reserve_table


class ReservePanel(QWidget):
    """The table, and to which load case the loads are added."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.found: tuple[Reserve, ...] | None = None
        self._asked: tuple[object, ...] = ()
        self.case = QComboBox(objectName="reserve-case")
        self.case.activated.connect(lambda _: self.refresh())
        self.state = Label(objectName="quiet")
        self.view = DrawingView(self._drawing, "Reserve")
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 6)
        row.addWidget(Label("added to", objectName="quiet"))
        row.addWidget(self.case)
        row.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view, 1)
        column.addLayout(row)

    @property
    def current(self) -> bool:
        """What is shown belongs to the project as it is."""
        return self.state.text() == ""

    def refresh(self) -> None:
        """Asks for the reserve of what is selected now."""
        project, pad = self.session.project, self.session.pad
        names = [c.name for c in project.actions.cases]
        if [self.case.itemText(i) for i in range(self.case.count())] != names:
            chosen = self.case.currentText()
            self.case.clear()
            self.case.addItems(names)
            first = next((i for i, c in enumerate(project.actions.cases) if c.nature == "permanent"), 0)
            self.case.setCurrentIndex(names.index(chosen) if chosen in names else first)
        case = self.case.currentText()
        asked = (project, pad, case)
        same = (
            len(self._asked) == 3
            and self._asked[0] is project
            and self._asked[1] is pad
            and self._asked[2] == case
        )
        if pad is None or not case or same:
            return
        self._asked = asked
        self.state.setText("being computed" if self.found is None else "out of date, being computed")
        pool().run("reserve", asked, (project, pad.name, case), self._done, channel="reserve")

    def _done(self, asked: object, found: tuple[Reserve, ...] | None) -> None:
        if asked is self._asked:
            self.found = found
            self.state.setText("" if found is not None else "could not be computed")
            self.view.refresh()

    def _drawing(self, aspect: float) -> Drawing:
        if self.found is None:
            return Drawing((Text((0, 0), "being computed", 11, "soft", "middle"),), (-1, -1, 1, 1))
        return reserve_table(self.found, self.case.currentText(), self.session.project.showing, aspect)
