"""Ground: logs side by side, and tables of what they are made of."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.stops.base import Pane, Stop, counted
from korbent.drawing.logs import logs_drawing


class GroundStop(Stop):
    """Boreholes, soils, levels, water and backfill."""

    title = "Ground"

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.parameter_panel import ParameterPanel
        from korbent.app.stops.deck import TableDeck

        logs = DrawingView(lambda aspect: logs_drawing(self.session.project, aspect), "Logs")
        self.views.append(logs)
        self.deck = TableDeck(
            self.session, self.theme,
            (("Soils", specs.SOILS), ("Boreholes", specs.HOLES), ("Strata", specs.STRATA), ("Tests", specs.TESTS), ("Levels, water, backfill", specs.LEVELS)),
        )  # fmt: skip
        self.panels.extend(self.deck.panels)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.parameters = ParameterPanel(self.session)
        self.parameters.view.theme = self.theme
        upper = QHBoxLayout()
        upper.setSpacing(0)
        upper.addWidget(Pane("Boreholes", logs, "levels in one scale"), 3)
        upper.addWidget(Pane("Parameter over level", self.parameters), 2)
        column.addLayout(upper, 6)
        column.addWidget(self.deck, 4)

    def refresh(self) -> None:
        super().refresh()
        self.parameters.refresh()

    def status(self) -> str:
        ground = self.session.project.ground
        if not ground.boreholes:
            return "no borehole yet"
        return f"{counted(len(ground.boreholes), 'borehole')}, {counted(len(ground.soils), 'soil')}"
