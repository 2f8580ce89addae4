"""Actions: columns and walls, their loads by case, the combinations, totals, and the resultant of the selected pad."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QVBoxLayout

from korbent.app.canvas import DrawingView
from korbent.app.divided import below, beside
from korbent.app.stops.bearing import NOTHING
from korbent.app.stops.signposts import ACTIONS
from korbent.app.stops.stop import Pane, Stop
from korbent.app.words import Label
from korbent.core.plan.totals import building
from korbent.core.units import show, shown_unit
from korbent.drawing.primitives import Drawing
from korbent.drawing.resultant import resultant_drawing
from korbent.drawing.timeline import timeline
from korbent.words import say


class ActionsStop(Stop):
    """Loads and how they combine."""

    post = ACTIONS

    def build(self) -> None:
        # tables are only loaded at the first visit: the window opens sooner
        from korbent.app import specs
        from korbent.app.stops.deck import TableDeck
        from korbent.app.tables import TablePanel

        self.deck = TableDeck(
            self.session,
            self.theme,
            (
                (say("Loads"), specs.LOADS),
                (say("Matrix"), specs.matrix()),
                (say("Columns and walls"), specs.POINTS),
                (say("Load cases"), specs.CASES),
                (say("Combinations"), specs.COMBINATIONS),
                (say("Totals"), specs.TOTALS),
                (say("Area loads"), specs.AREAS),
                (say("Construction steps"), specs.CONSTRUCTION),
                (say("Drains"), specs.DRAINS),
                (say("Settlement marks"), specs.MARKS),
            ),
        )
        self.panels.extend(self.deck.panels)
        resultant = DrawingView(lambda _: self._resultant(), say("Resultant"))
        self.views.append(resultant)
        times = DrawingView(lambda aspect: timeline(self.session.project, aspect), say("Timeline"))
        self.views.append(times)
        self.pane = Pane(say("Loads and resultant"), resultant)
        self.own = TablePanel(self.session, specs.OWN_LOADS, self.theme)
        self.panels.append(self.own)
        self.own_pane = Pane(say("Loads"), self.own)
        self.time_pane = Pane(say("Construction steps"), times, say("the share that acts, over time"))
        self.deck.stack.currentChanged.connect(lambda _: self._choose())
        self.whole = Label(objectName="quiet", wordWrap=True)
        self.whole.setContentsMargins(14, 6, 14, 6)
        whole = Pane(say("Whole building"), self.whole)
        self.below = beside(self, "actions-lower", (self.pane, 3), (self.own_pane, 3), (self.time_pane, 3), (whole, 2))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(below(self, "actions", (self.deck, 3), (self.below, 2)))
        self._choose()
        self.whole.setAlignment(Qt.AlignmentFlag.AlignTop)

    def _choose(self) -> None:
        """Below the steps and the area loads the timeline, else the resultant."""
        timed = self.deck.panels[self.deck.stack.currentIndex()].spec.name in ("steps", "areas")
        self.pane.setVisible(not timed)
        self.own_pane.setVisible(not timed)
        self.time_pane.setVisible(timed)
        self.below.share()

    def _resultant(self) -> Drawing:
        pad = self.session.pad
        return resultant_drawing(self.session.project, pad, self.session.shown_state()) if pad else NOTHING

    def refresh(self) -> None:
        super().refresh()
        pad, state = self.session.pad, self.session.shown_state()
        self.pane.title.setText(say("Resultant below {pad}", pad=pad.name) if pad else say("Resultant"))
        self.own_pane.title.setText(say("Loads of {carries}", carries=", ".join(pad.carries)) if pad else say("Loads"))
        self.pane.detail.setText(
            say("combination {label}: {combination}", label=state.label, combination=state.combination.name)
            if state
            else ""
        )
        self.whole.setText(self._whole())

    def _whole(self) -> str:
        found = building(self.session.project)
        if found is None:
            return say("Nothing to sum yet: it takes columns with loads and a combination that serves 'allowable'.")
        units = self.session.project.showing
        area = shown_unit("m²", units)
        text = say(
            "All columns and walls together: {V} {unit} (combination {combination}). ",
            V=show(found.V, "kN", units, 5),
            unit=shown_unit("kN", units),
            combination=found.combination,
        )
        if found.needed is None:
            return text + say("Set a presumed pressure to see the area that it needs.")
        pressure = f"{show(found.presumed or 0, 'kPa', units)} {shown_unit('kPa', units)}"
        text += say(
            "At {pressure} that needs {needed} {area}",
            pressure=pressure,
            needed=show(found.needed, "m²", units),
            area=area,
        )
        if found.share is None:
            return text + "."
        text += say(
            " of {footprint} {area} within the outline of the columns: {share:.0f} %. ",
            footprint=show(found.footprint, "m²", units),
            area=area,
            share=100 * found.share,
        )
        return text + (say("A raft is worth a look beyond about a half.") if found.share > 0.4 else "")
