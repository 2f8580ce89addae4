"""A raft in the Concrete stop: a field over its plan, and moment and steel along a line that a click places."""

from PySide6.QtCore import QPointF
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.stops.base import Pane
from korbent.app.workers import pool
from korbent.core.concrete.schedule import weight_of
from korbent.core.explain.raft import FIELDS, Field, Transect, raft_field, transect
from korbent.core.model import Project
from korbent.core.model.foundations import AddedBars
from korbent.core.units import show, show_length, shown_unit
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.raft import raft_drawing, transect_drawing
from korbent.drawing.words import show_weight, weight_unit

NOTHING = Drawing((Text((0, 0), "no raft is selected", 11, "soft", "middle"),), (-1, -1, 1, 1))
NAMES = {
    "pressure": "Pressure", "settlement": "Settlement", "subgrade": "Subgrade k", "m_x": "m_x", "m_y": "m_y", "m_xy": "m_xy", "v": "Shear v", "bottom_x": "Steel bottom x",
    "bottom_y": "Steel bottom y", "top_x": "Steel top x", "top_y": "Steel top y",
}  # fmt: skip
SHOWN_FIRST = "m_x"


class FieldView(DrawingView):
    """Tells the value under the mouse; a click places the transect."""

    panel: "RaftPanel"

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self.panel.point_at(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        still = self._pressed is not None and (event.position() - self._pressed).manhattanLength() < 4
        super().mouseReleaseEvent(event)
        if still:
            self.panel.cut_at(event.position())


class RaftPanel(QWidget):
    """The field that is chosen, and the transect."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.axis, self.at = "x", 0.0
        self._before: Field | str | None = None
        self._cut: Transect | str | None = None
        self.what = QComboBox(objectName="raft-field")
        self.what.setToolTip(
            "What is shown over the raft; the situation that is chosen, else the envelope of all"
        )
        for name, text in NAMES.items():
            self.what.addItem(text, name)
        self.what.setCurrentIndex(self.what.findData(SHOWN_FIRST))
        self.what.activated.connect(lambda _: self.refresh())
        self.field = FieldView(self._field, "Raft from above")
        self.field.panel = self
        self.propose = QPushButton("Propose bars", objectName="propose-added")
        self.propose.setToolTip(
            "Regions of added bars where the basic bars are too little, in the place of those that there are; the basic bars stay"
        )
        self.propose.clicked.connect(self.ask)
        choice = QWidget()
        beside = QHBoxLayout(choice)
        beside.setContentsMargins(0, 0, 0, 0)
        beside.addWidget(self.propose)
        beside.addWidget(self.what)
        self.field_pane = Pane("From above", self.field, "", choice)
        self.line = DrawingView(self._line, "Transect")
        tools = QWidget()
        row = QHBoxLayout(tools)
        row.setContentsMargins(0, 0, 0, 0)
        self.axes: dict[str, QPushButton] = {}
        for axis in "xy":
            button = QPushButton(
                f"Along {axis}",
                objectName=f"transect-{axis}",
                checkable=True,
                autoExclusive=True,
                checked=axis == "x",
            )
            button.setToolTip(
                f"Bars along {axis}, moments along a line in that direction; a click on the raft moves it"
            )
            button.clicked.connect(lambda _=False, axis=axis: self.turn(axis))
            self.axes[axis] = button
            row.addWidget(button)
        self.ground = QPushButton("Ground", objectName="transect-ground", checkable=True)
        self.ground.setToolTip(
            "Settlement, pressure and shear along the line, in the place of moment and steel"
        )
        self.ground.clicked.connect(lambda _: self.line.refresh())
        row.addWidget(self.ground)
        self.line_pane = Pane("Transect", self.line, "", tools)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        whole = QHBoxLayout()
        whole.setSpacing(0)
        whole.addWidget(self.field_pane, 3)
        whole.addWidget(self.line_pane, 2)
        column.addLayout(whole)

    @property
    def band(self) -> float:
        """Over which the transect averages: two thicknesses, at least a metre, m."""
        pad = self.session.pad
        return max(2 * pad.thickness, 1.0) if pad else 1.0

    def ask(self) -> None:
        """Asks a worker for regions of added bars."""
        pad, project = self.session.pad, self.session.project
        if pad is None or pad.kind != "raft":
            return
        if pad.frozen:
            self.session.say(f"! {pad.name} is {pad.frozen}: its bars stay")
            return
        self.propose.setEnabled(False)
        self.session.say(f"{pad.name}: looking where the basic bars are too little …")
        pool().run("added", (project, pad.name), (project, pad.name), self._came, channel="added")

    def _came(self, asked: tuple[Project, str], found: tuple[AddedBars, ...] | str | None) -> None:
        self.propose.setEnabled(True)
        project, name = asked
        session = self.session
        if project is not session.project:
            session.say("the project has changed meanwhile: propose the bars again")
        elif found is None or isinstance(found, str):
            session.say(f"! {found or 'the bars could not be proposed; the log tells why'}")
        else:
            pad = project.pad(name)
            assert pad.plate is not None
            if found == pad.plate.added:
                session.say(f"{name}: the added bars are those that would be proposed")
                return
            new = pad.replaced(plate=pad.plate.replaced(added=found))
            pads = tuple(new if p is pad else p for p in project.pads)
            more = project.replaced(pads=pads)
            change = weight_of(more, new) - weight_of(project, pad)
            u = project.showing
            regions = (
                f"{len(found)} {'region' if len(found) == 1 else 'regions'} of added bars"
                if found
                else "the basic bars are enough, none are added"
            )
            session.apply(
                more,
                f"{name}: {regions}, {'+' if change >= 0 else '−'}{show_weight(abs(change), u)} {weight_unit(u)}",
            )

    def turn(self, axis: str) -> None:
        """The transect runs along this axis."""
        self.axis, self.at = axis, 0.0
        self.refresh()

    def cut_at(self, position: QPointF) -> None:
        """Moves the transect to a place of the drawing."""
        pad = self.session.pad
        if pad is None:
            return
        x, y = self.field.placement().back(position.x(), position.y())
        half = (pad.length if self.axis == "x" else pad.width) / 2
        at = y if self.axis == "x" else x
        if abs(at) <= half:
            self.at = round(at, 2)
            self.refresh()

    def point_at(self, position: QPointF) -> None:
        """Says the value under the mouse."""
        field = self._found()
        if not isinstance(field, Field):
            return
        value = field.at(*self.field.placement().back(position.x(), position.y()))
        units = self.session.project.showing
        text = "" if value is None else f"{show(value, field.unit, units)} {shown_unit(field.unit, units)}"
        self.field_pane.detail.setText(f"{field.situation}  {text}")

    def _found(self) -> Field | str | None:
        pad = self.session.pad
        if pad is None or pad.kind != "raft":
            return None
        if pad.name in self.session.waiting:
            return self._before or "being computed"
        what = str(self.what.currentData())
        self._before = raft_field(self.session.project, pad, what, _interned(self.session.situation))
        return self._before

    def _field(self, _: float) -> Drawing:
        pad, result, found = self.session.pad, self.session.result, self._found()
        if pad is None or result is None or found is None:
            return NOTHING
        return raft_drawing(
            self.session.project, pad, result, found, (self.axis, self.at, self.band), self.session.lit
        )

    def _line(self, aspect: float) -> Drawing:
        pad = self.session.pad
        if pad is None or pad.kind != "raft":
            return NOTHING
        if pad.name not in self.session.waiting:
            self._cut = transect(self.session.project, pad, self.axis, self.at, self.band)
        return transect_drawing(
            self._cut or "being computed", self.session.project.showing, aspect, self.ground.isChecked()
        )

    def refresh(self) -> None:
        """Shows the raft as it is now."""
        pad = self.session.pad
        found = self._found()
        if pad is not None and isinstance(found, Field):
            self.field_pane.title.setText(f"Raft  {pad.name}")
            late = pad.name in self.session.waiting
            self.field_pane.detail.setText("out of date, being computed" if late else found.situation)
            units = self.session.project.showing
            # where it runs: the title is never cut short
            self.line_pane.title.setText(
                f"{'y' if self.axis == 'x' else 'x'} {show_length(self.at, units)} {shown_unit('m', units)}"
            )
        self.field.refresh()
        self.line.refresh()


_labels: dict[str, str] = {}


def _interned(label: str) -> str:
    """The same object for the same label: what is remembered by it is found again."""
    return _labels.setdefault(label, label)


assert set(NAMES) == set(FIELDS)
