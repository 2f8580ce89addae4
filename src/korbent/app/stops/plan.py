"""Plan: foundations, columns and site drawn together, their tables, and proposals for the whole plan."""

from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.plan_bar import PlanBar
from korbent.app.stops.base import Pane, Stop, counted
from korbent.core.plan.site import conflicts
from korbent.drawing.plan import plan_drawing
from korbent.drawing.primitives import Drawing


class PlanStop(Stop):
    """Pads, types and settings below the plan."""

    title = "Plan"

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.proposal_panel import ProposalPanel
        from korbent.app.stops.deck import TableDeck

        session = self.session
        self.marked: tuple[str, ...] = ()
        self.plan = DrawingView(self._plan, "Plan")
        self.plan.clicked.connect(self._clicked)
        self.views.append(self.plan)
        self.bar = PlanBar(session, lambda: self.marked, self.plan.refresh)
        self.proposal = ProposalPanel(session)
        self.proposal.curve.theme = self.theme
        self.deck = TableDeck(
            session, self.theme,
            (("Pads", specs.PADS), ("Ranges", specs.RANGES), ("Types", specs.TYPES), ("Settings", specs.SETTINGS),
             ("Presumed", specs.PRESUMED), ("Site", specs.SITE), ("Grids", specs.GRIDS), ("Conflicts", specs.CONFLICTS),
             ("Rates", specs.RATES), ("Title", specs.TITLE), ("Names", specs.QUANTITIES), ("Units", specs.UNITS)),
        )  # fmt: skip
        self.panels.extend(self.deck.panels)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        top = QHBoxLayout()
        top.setSpacing(0)
        self.pane = Pane("Plan", self.plan, "", self.bar)
        top.addWidget(self.pane, 15)
        top.addWidget(Pane("Proposal", self.proposal), 10)
        column.addLayout(top, 7)
        column.addWidget(self.deck, 5)

    def _plan(self, _: float) -> Drawing:
        session = self.session
        return plan_drawing(
            session.project,
            session.results,
            session.selected,
            by=str(self.bar.colour.currentData()),
            marked=self.marked,
        )

    def _clicked(self, key: str) -> None:
        """Selects a base; a column without one is marked, or no longer."""
        kind, _, name = key.partition(":")
        if kind == "pad":
            self.session.select(name)
        elif kind == "point" and name in self.session.results.undesigned:
            self.marked = (
                tuple(n for n in self.marked if n != name) if name in self.marked else (*self.marked, name)
            )
            self.session.say(
                f"marked: {', '.join(self.marked)}; Place pads puts one under each" if self.marked else ""
            )
            self.plan.refresh()

    def refresh(self) -> None:
        self.marked = tuple(n for n in self.marked if n in self.session.results.undesigned)
        super().refresh()
        self.proposal.refresh()

    def status(self) -> str:
        open_ones = len(self.session.results.undesigned)
        pads = len(self.session.project.pads)
        trouble = len(conflicts(self.session.project))
        first = counted(trouble, "conflict") if trouble else counted(pads, "pad")
        return first + (f", {open_ones} open" if open_ones else "")
