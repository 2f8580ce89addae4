"""Ground: logs side by side, sections, what the tests say, and tables of what it is made of."""

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.divided import below, beside
from korbent.app.stops.signposts import GROUND
from korbent.app.stops.stop import Choice, Stop
from korbent.core.model import Stratum, edited
from korbent.core.units import length_text
from korbent.drawing.ground_section import Stretch, ground_section, holes_plan, usual_line
from korbent.drawing.logs import logs_drawing
from korbent.words import say

SNAP = {"metric": 0.05, "us": 0.3048 / 4}
"""To what a dragged boundary snaps, m."""


class GroundStop(Stop):
    """Boreholes, soils, levels, water and backfill."""

    post = GROUND

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.import_ground import GroundBar
        from korbent.app.oedometer_panel import OedometerPanel
        from korbent.app.parameter_panel import ParameterPanel
        from korbent.app.stops.deck import TableDeck

        session = self.session
        self.line: Stretch | None = None
        self.logs = DrawingView(
            lambda aspect: logs_drawing(session.project, aspect),
            say("Logs"),
            depends=lambda: (session.project.ground, session.project.units, session.project.unit_overrides),
        )
        self.logs.along = "y"
        self.logs.dragged.connect(self.move_boundary)
        self.logs.clicked.connect(self._show)
        self.section = DrawingView(
            lambda aspect: ground_section(session.project, self.stretch(), aspect), say("Ground section")
        )
        self.section.clicked.connect(lambda key: session.select(key.removeprefix("pad:")))
        self.plan = DrawingView(lambda _: holes_plan(session.project, self.stretch()), say("Plan of the holes"))
        self.plan.follows = True
        self.plan.dragged.connect(self.move_end)
        self.plan.lined.connect(self.set_line)
        self.views += [self.logs, self.section, self.plan]
        self.deck = TableDeck(
            session,
            self.theme,
            (
                (say("Soils"), specs.SOILS),
                (say("Boreholes"), specs.HOLES),
                (say("Strata"), specs.STRATA),
                (say("Tests"), specs.TESTS),
                (say("Oedometer"), specs.OEDOMETERS),
                (say("Readings"), specs.READINGS),
                (say("Levels, water, backfill"), specs.LEVELS),
            ),
        )
        self.panels.extend(self.deck.panels)
        self.parameters = ParameterPanel(session)
        self.oedometer = OedometerPanel(session)
        for panel in (self.parameters, self.oedometer):
            panel.view.theme = self.theme
        self.bar = GroundBar(session, self.theme, self.library)
        self.left = Choice(((say("Logs"), self.logs), (say("Section"), self.section)), self.bar)
        self.right = Choice(
            (
                (say("Parameter"), self.parameters),
                (say("Oedometer"), self.oedometer),
                (say("Plan of holes"), self._plan_with_tools()),
            )
        )
        self.left.buttons[1].clicked.connect(lambda: self.right.bring(2))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        upper = beside(self, "ground-top", (self.left, 8), (self.right, 5))
        column.addWidget(below(self, "ground", (upper, 6), (self.deck, 4)))

    def _plan_with_tools(self) -> QWidget:
        whole = QWidget()
        self.draw_button = QPushButton(say("Draw a section line"), objectName="draw-section", checkable=True)
        self.draw_button.setToolTip(say("Press in the plan where the section begins, let go where it ends"))
        self.draw_button.toggled.connect(lambda on: setattr(self.plan, "drawing_line", on))
        row = QHBoxLayout()
        row.setContentsMargins(10, 0, 10, 6)
        row.addStretch(1)
        row.addWidget(self.draw_button)
        column = QVBoxLayout(whole)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.plan, 1)
        column.addLayout(row)
        return whole

    # ------------------------------------------------------------ section

    def stretch(self) -> Stretch:
        """The line of the section: as drawn, else the usual one."""
        return self.line or usual_line(self.session.project)

    def set_line(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """Takes a line drawn in the plan, and shows the section along it."""
        self.line = ((x0, y0), (x1, y1))
        self.draw_button.setChecked(False)
        self.left.bring(1)
        self._redraw()

    def move_end(self, key: str, x: float, y: float) -> None:
        """Moves one end of the line."""
        ends = list(self.stretch())
        ends[int(key[-1])] = (x, y)
        self.line = (ends[0], ends[1])
        self._redraw()

    def _redraw(self) -> None:
        self.section.refresh()
        self.plan.refresh()

    # ------------------------------------------------------------ logs

    def move_boundary(self, key: str, _: float, level: float) -> None:
        """Moves the lower boundary of a stratum to a level; the strata below stay where they are."""
        name, at = ":".join(key.split(":")[1:-1]), int(key.split(":")[-1])
        project = self.session.project
        hole = next(h for h in project.ground.boreholes if h.name == name)
        snap = SNAP[project.units]
        top = hole.ground_level - sum(s.thickness for s in hole.strata[:at])
        level = round(level / snap) * snap
        thickness = round(top - level, 6)
        change = thickness - hole.strata[at].thickness
        following = hole.strata[at + 1] if at + 1 < len(hole.strata) else None
        if thickness < snap / 2 or (following and following.thickness - change < snap / 2):
            self.session.announce(say("! a boundary cannot pass the next one: remove the stratum in the table instead"))
            return
        strata: list[Stratum] = list(hole.strata)
        strata[at] = strata[at].replaced(thickness=thickness)
        if following:
            strata[at + 1] = following.replaced(thickness=round(following.thickness - change, 6))
        path = ("ground", "boreholes", name, "strata")
        units = project.showing
        text = say(
            "{name}: {soil} now ends at {length}",
            name=name,
            soil=strata[at].soil,
            length=length_text(level, units),
        )
        self.session.apply(edited(project, path, tuple(strata)), text)

    def _show(self, key: str) -> None:
        kind, _, rest = key.partition(":")
        if kind == "soil":
            self.parameters.choose(rest)
        elif kind == "oedometer":
            hole, _, sample = rest.partition(":")
            self.right.bring(1)
            self.oedometer.choose(hole, sample)

    def library(self) -> None:
        """Opens the library of soils."""
        from korbent.app.soil_library import SoilLibrary

        self.dialog = SoilLibrary(self.session, self.theme, self.window())
        self.dialog.open()

    def refresh(self) -> None:
        super().refresh()
        for panel in (self.parameters, self.oedometer):
            if panel.isVisible():
                panel.refresh()
