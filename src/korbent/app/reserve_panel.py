"""The reserve of the selected base, computed beside the window; old values stay in sight, marked, until the new ones
are there."""

from PySide6.QtWidgets import QComboBox, QHBoxLayout, QVBoxLayout, QWidget

from korbent.app.asked import Asked
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.sizing.reserve import Reserve
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.reserve import reserve_table
from korbent.words import say


class ReservePanel(QWidget):
    """The table, and to which load case the loads are added."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.asked = Asked("reserve", self._show, self)
        self.case = QComboBox(objectName="reserve-case")
        self.case.activated.connect(lambda _: self.refresh())
        self.state = Label(objectName="quiet")
        self.view = DrawingView(self._drawing, say("Reserve"))
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 6)
        row.addWidget(Label(say("added to"), objectName="quiet"))
        row.addWidget(self.case)
        row.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view, 1)
        column.addLayout(row)

    @property
    def found(self) -> tuple[Reserve, ...] | None:
        """What was found last."""
        return self.asked.found  # type: ignore[no-any-return]

    @property
    def current(self) -> bool:
        """What is shown belongs to the project as it is."""
        return self.asked.state == ""

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
        if pad is None or not case:
            return
        self.asked.want((project, pad, case), (project, pad.name, case))
        self._show()

    def _show(self) -> None:
        self.state.setText(self.asked.state)
        self.view.refresh()

    def _drawing(self, aspect: float) -> Drawing:
        if self.found is None:
            return Drawing((Text((0, 0), self.asked.state, 11, "soft", "middle"),), (-1, -1, 1, 1))
        return reserve_table(self.found, self.case.currentText(), self.session.project.showing, aspect)
