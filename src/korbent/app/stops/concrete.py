"""Concrete: the base from above and in section with its bars, steel required against provided."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.stops.base import Pane, Stop
from korbent.app.stops.bearing import NOTHING
from korbent.drawing.primitives import Drawing
from korbent.drawing.reinforcement import bar_section, from_above, steel_demand


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
        right.addWidget(Pane("Steel", steel, "required and provided, worst face"), 1)
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
        settings = project.settings_of(pad)
        self.section_pane.detail.setText(
            f"fck {settings.concrete_strength:g} MPa · fyk {settings.steel_strength:g} MPa · EN 1992-1-1"
        )

    def status(self) -> str:
        worst = self.worst()
        return f"worst {worst.foundation}" if worst else "nothing to check yet"
