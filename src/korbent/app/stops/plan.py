"""Plan: the foundations and their settings."""

from PySide6.QtWidgets import QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.stops.base import Pane, Stop, counted
from korbent.drawing.plan import plan_drawing


class PlanStop(Stop):
    """Pads, types and settings below the plan."""

    title = "Plan"

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.stops.deck import TableDeck

        session = self.session
        plan = DrawingView(lambda _: plan_drawing(session.project, session.results, session.selected), "Plan")
        plan.clicked.connect(lambda key: session.select(key.removeprefix("pad:")))
        self.views.append(plan)
        self.deck = TableDeck(
            session, self.theme,
            (("Pads", specs.PADS), ("Settings", specs.SETTINGS), ("Presumed pressure", specs.PRESUMED), ("Types", specs.TYPES), ("Title", specs.TITLE),
             ("Named values", specs.QUANTITIES), ("Units", specs.UNITS)),
        )  # fmt: skip
        self.panels.extend(self.deck.panels)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(Pane("Plan", plan, "coloured by the worst of all checks"), 5)
        column.addWidget(self.deck, 4)

    def status(self) -> str:
        open_ones = len(self.session.results.undesigned)
        pads = len(self.session.project.pads)
        return counted(pads, "pad") + (f", {open_ones} open" if open_ones else "")
