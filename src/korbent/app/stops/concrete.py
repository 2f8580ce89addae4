"""Concrete: the base from above and in section with its bars, steel required against provided."""

from pathlib import Path

from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.stops.base import Pane, Stop
from korbent.app.stops.bearing import NOTHING
from korbent.core.concrete.choose import DIRECTIONS, bar_table, taken
from korbent.core.concrete.pedestal import interaction_line
from korbent.core.concrete.schedule import HEADER, schedule_rows
from korbent.core.units import show, shown_unit
from korbent.drawing.bar_table import bar_table_drawing
from korbent.drawing.pedestal import pedestal_drawing
from korbent.drawing.primitives import Drawing
from korbent.drawing.reinforcement import bar_section, from_above, steel_demand
from korbent.drawing.words import bar_words
from korbent.files.sheet import write_sheets


class ConcreteStop(Stop):
    """Thickness and bars."""

    title = "Concrete"
    group = "concrete"

    def build(self) -> None:
        above = DrawingView(self._above, "Base from above")
        section = DrawingView(self._section, "Bar section")
        steel = DrawingView(self._steel, "Steel")
        self.views += [above, section, steel]
        self.above_pane = Pane("Base from above", above)
        self.section_pane = Pane("Section along x", section)
        right = QVBoxLayout()
        right.setSpacing(0)
        right.addWidget(self.section_pane, 1)
        self.choose = DrawingView(self._choose, "Bars that would do")
        self.choose.clicked.connect(self._take)
        self.views.append(self.choose)
        self.direction = QComboBox(objectName="bar-direction")
        for name in DIRECTIONS:
            self.direction.addItem(name, name)
        self.direction.setCurrentIndex(len(DIRECTIONS) - 1)
        self.direction.activated.connect(lambda _: self.choose.refresh())
        self.stack = QStackedWidget()
        self.stack.addWidget(steel)
        self.stack.addWidget(self.choose)
        self.pedestal = DrawingView(self._pedestal, "Pedestal")
        self.views.append(self.pedestal)
        self.stack.addWidget(self.pedestal)
        self.choices = []
        for i, (text, tip) in enumerate(
            (
                ("Steel", "Required and provided, worst face"),
                ("Bars", "Which diameters and spacings would do; a click takes them for all of the type"),
                ("Pedestal", "Axial force and moment of the pedestal, all situations as points"),
            )
        ):
            button = QPushButton(
                text, objectName=f"steel-{text.lower()}", checkable=True, autoExclusive=True, checked=i == 0
            )
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, i=i: self._bring(i))
            self.choices.append(button)
        self.export = QPushButton("Schedule…", objectName="bar-schedule")
        self.export.setToolTip(
            "All bars of the project by mark, shape (ISO 3766), length and weight, as CSV or XLSX"
        )
        self.export.clicked.connect(self._ask_schedule)
        tools = QWidget()
        row_of_tools = QHBoxLayout(tools)
        row_of_tools.setContentsMargins(0, 0, 0, 0)
        row_of_tools.setSpacing(6)
        for widget in (*self.choices, self.direction, self.export):
            row_of_tools.addWidget(widget)
        self.direction.setVisible(False)
        self.steel_pane = Pane("Steel", self.stack, "", tools)
        right.addWidget(self.steel_pane, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self.above_pane, 1)
        row.addLayout(right, 1)

    def _above(self, _: float) -> Drawing:
        pad, result = self.session.pad, self.session.result
        return from_above(self.session.project, pad, result, self.session.lit) if pad and result else NOTHING

    def _section(self, _: float) -> Drawing:
        return bar_section(self.session.project, self.session.pad) if self.session.pad else NOTHING

    def _pedestal(self, aspect: float) -> Drawing:
        pad, project = self.session.pad, self.session.project
        return pedestal_drawing(interaction_line(project, pad) if pad else None, project.showing, aspect)

    def _bring(self, index: int) -> None:
        self.stack.setCurrentIndex(index)
        self.direction.setVisible(index == 1)
        self.choose.refresh()
        self.pedestal.refresh()

    def _choose(self, aspect: float) -> Drawing:
        pad, project = self.session.pad, self.session.project
        if pad is None:
            return NOTHING
        direction = str(self.direction.currentData())
        self.table = bar_table(project, pad, direction)
        now = pad.reinforcement.bottom_y if direction == "bottom y" else pad.reinforcement.bottom_x
        return bar_table_drawing(self.table, now, project.showing, aspect)

    def _take(self, key: str) -> None:
        """Takes bars for the base and all others of its type."""
        pad = self.session.pad
        if pad is None or not key.startswith("bars:"):
            return
        i, j = map(int, key.split(":")[1:])
        choice = self.table.rows[i][j]
        diameter, spacing = bar_words(choice.bars, self.session.project.showing)
        others = sum(p.type == pad.type for p in self.session.project.pads) if pad.type else 1
        alike = f", {others} of type {pad.type}" if others > 1 else ""
        self.session.apply(
            taken(self.session.project, pad, self.table.direction, choice.bars),
            f"{pad.name}{alike}: {self.table.direction} {diameter} at {spacing}",
        )

    def _ask_schedule(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Bar schedule", "bars.xlsx", "Tables (*.xlsx *.csv)")
        if name:
            self.write_schedule(Path(name))

    def write_schedule(self, path: Path) -> None:
        """Writes the bar schedule of the project."""
        try:
            write_sheets(path, {"Bars": (HEADER, schedule_rows(self.session.project))})
        except OSError as error:
            self.session.say(f"! {path}: {error.strerror or error}")
            return
        self.session.say(f"bar schedule written to {path.name}")

    def _steel(self, _: float) -> Drawing:
        return steel_demand(self.session.project, self.session.result) if self.session.result else NOTHING

    def refresh(self) -> None:
        super().refresh()
        pad = self.session.pad
        if not pad:
            return
        self.above_pane.title.setText(f"Base from above  {pad.name}")
        self.above_pane.detail.setText("bottom bars, critical sections and perimeter to scale")
        project = self.session.project
        settings, u = project.settings_of(pad), project.showing
        self.section_pane.detail.setText(
            f"concrete {show(settings.concrete_strength, 'MPa', u)}, steel {show(settings.steel_strength, 'MPa', u)} {shown_unit('MPa', u)} · {project.standards.concrete}"
        )

    def status(self) -> str:
        worst = self.worst()
        return f"worst {worst.foundation}" if worst else "nothing to check yet"
