"""Plan: foundations, columns and site drawn together, their tables, and proposals for the whole plan."""

from pydantic import ValidationError
from PySide6.QtCore import QEvent, QObject, Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.plan_bar import PlanBar
from korbent.app.stops.base import Pane, Stop, counted
from korbent.core.model import Pad
from korbent.core.plan.move import RASTER, edge_moved, moved, nudged
from korbent.core.plan.site import conflicts
from korbent.core.units import show_length, shown_unit
from korbent.drawing.plan import plan_drawing
from korbent.drawing.primitives import Drawing
from korbent.files.project_file import problems_of

NUDGES = {Qt.Key.Key_Left: (-1, 0), Qt.Key.Key_Right: (1, 0), Qt.Key.Key_Up: (0, 1), Qt.Key.Key_Down: (0, -1)}


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
        self.plan.dragged.connect(self._dragged)
        self.plan.setFocusPolicy(Qt.FocusPolicy.ClickFocus)
        self.plan.installEventFilter(self)
        self.views.append(self.plan)
        self.bar = PlanBar(session, lambda: self.marked, self._unmark, self.plan.refresh)
        self.proposal = ProposalPanel(session)
        self.proposal.curve.theme = self.theme
        self.proposal.kinds.clicked.connect(lambda _=False: self.bar.compare(self.proposal.chosen_objective))
        self.deck = TableDeck(
            session, self.theme,
            (("Pads", specs.PADS), ("Rafts", specs.RAFTS), ("Ribs", specs.RIBS), ("Straps", specs.STRAPS), ("Ranges", specs.RANGES), ("Types", specs.TYPES), ("Settings", specs.SETTINGS),
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
        """Selects a base; a column is marked, or no longer."""
        kind, _, name = key.partition(":")
        if kind == "pad":
            self.session.select(name)
        elif kind == "point":
            self.marked = (
                tuple(n for n in self.marked if n != name) if name in self.marked else (*self.marked, name)
            )
            free = any(n in self.session.results.undesigned for n in self.marked)
            more = "Place puts one under each, " if free else ""
            self.session.say(
                f"marked: {', '.join(self.marked)}; {more}Join a common one" if self.marked else ""
            )
            self.plan.refresh()

    def _unmark(self) -> None:
        self.marked = ()

    def _dragged(self, key: str, x: float, y: float) -> None:
        """The selected base, or one of its edges, was dragged; the column stays."""
        what, _, name = key.partition(":")
        session = self.session
        pad = session.project.pad(name)
        if what == "pad":
            self._move(pad, x - self.plan.grabbed[0], y - self.plan.grabbed[1])
            return
        try:
            new = edge_moved(session.project, pad, what.removeprefix("edge"), x, y)
        except ValidationError:
            session.say("! an edge cannot pass the opposite one")
            return
        units = session.project.showing
        size = f"{show_length(new.width, units)} x {show_length(new.length, units)} {shown_unit('m', units)}"
        self._take(pad, new, f"{name}: {size}")

    def _move(self, pad: Pad, dx: float, dy: float) -> None:
        new, aligned = moved(self.session.project, pad, dx, dy)
        if new != pad:
            self._take(pad, new, f"{pad.name} moved, its column stays" + (f"; {aligned}" if aligned else ""))

    def _take(self, old: Pad, new: Pad, text: str) -> None:
        pads = tuple(new if p is old else p for p in self.session.project.pads)
        try:
            self.session.apply(self.session.project.replaced(pads=pads), text)
        except ValidationError as error:
            self.session.say(f"! {problems_of(error)[0]}")

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Arrow keys on the plan nudge the selected base by one step of the raster, with Shift by five."""
        pad = self.session.pad
        if (
            watched is not self.plan
            or not isinstance(event, QKeyEvent)
            or event.type() != QEvent.Type.KeyPress
        ):
            return super().eventFilter(watched, event)
        way = NUDGES.get(Qt.Key(event.key()))
        if way is None or pad is None:
            return super().eventFilter(watched, event)
        if pad.frozen:
            self.session.say(f"! {pad.name} is {pad.frozen}: it stays where it is")
            return True
        step = RASTER[self.session.project.units] * (
            5 if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        )
        new = nudged(pad, step * way[0], step * way[1])
        self._take(pad, new, f"{pad.name} moved, its column stays")
        return True

    def refresh(self) -> None:
        known = {p.name for p in self.session.project.actions.load_points}
        self.marked = tuple(n for n in self.marked if n in known)
        super().refresh()
        self.proposal.refresh()

    def status(self) -> str:
        open_ones = len(self.session.results.undesigned)
        pads = len(self.session.project.pads)
        trouble = len(conflicts(self.session.project))
        first = counted(trouble, "conflict") if trouble else counted(pads, "pad")
        return first + (f", {open_ones} open" if open_ones else "")
