"""Bearing: plan, pressure under the base, section through the ground."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.stops.base import Pane, Stop
from korbent.core.evaluate import BaseState
from korbent.core.ground.profile import profile_at
from korbent.core.units import shown_unit
from korbent.drawing.plan import plan_drawing
from korbent.drawing.pressure import pressure_drawing
from korbent.drawing.primitives import Drawing
from korbent.drawing.section import section_drawing

NOTHING = Drawing((), (-1.0, -1.0, 1.0, 1.0))


class BearingStop(Stop):
    """Where the daily loop is: change a size, look at pressure, section and ledger."""

    title = "Bearing"
    group = "bearing"

    def build(self) -> None:
        session = self.session
        plan = DrawingView(
            lambda _: plan_drawing(session.project, session.results, session.selected), "Plan"
        )  # the worst of all checks, so that a step shows at once
        plan.clicked.connect(lambda key: session.select(key.removeprefix("pad:")))
        pressure = DrawingView(self._pressure, "Pressure")
        section = DrawingView(self._section, "Section")
        self.views += [plan, pressure, section]
        self.pressure_pane = Pane("Pressure below", pressure)
        self.section_pane = Pane("Section", section)
        top = QHBoxLayout()
        top.setSpacing(0)
        top.addWidget(Pane("Plan", plan, "coloured by the worst of all checks"), 5)
        top.addWidget(self.pressure_pane, 4)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top, 5)
        column.addWidget(self.section_pane, 6)

    def state(self) -> BaseState | None:
        """What is drawn: the governing situation of the selected check."""
        return self.session.shown_state()

    def _pressure(self, _: float) -> Drawing:
        pad = self.session.pad
        return pressure_drawing(self.session.project, pad, self.state()) if pad else NOTHING

    def _section(self, aspect: float) -> Drawing:
        pad = self.session.pad
        if not pad:
            return NOTHING
        return section_drawing(self.session.project, pad, self.state(), self.session.lit, aspect)

    def refresh(self) -> None:
        super().refresh()
        pad, state = self.session.pad, self.state()
        name = pad.name if pad else ""
        self.section_pane.title.setText(f"Section through {name}".strip())
        self.pressure_pane.title.setText(f"Pressure below {name}".strip())
        text = f"combination {state.label}: {state.combination.name}" if state else "no combination"
        place = ""
        if pad:
            point = self.session.project.load_point(pad.load_point)
            profile = profile_at(self.session.project.ground, point.x, point.y)
            place = f" · ground {'of ' if ' ' not in profile.place else ''}{profile.place}" if profile else ""
        self.section_pane.detail.setText(f"{text} · true scale{place}")
        share = (
            f"in contact {100 * state.share:.0f} %" if state and state.stable else "unstable" if state else ""
        )
        unit = shown_unit("kPa", self.session.project.showing)
        self.pressure_pane.detail.setText(f"{unit}, linear without tension · {share}")

    def status(self) -> str:
        worst = self.worst()
        return f"worst {worst.foundation}" if worst else "nothing to check yet"
