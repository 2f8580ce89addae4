"""Bearing: plan, pressure under the base, section through the ground."""

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView, PlaceView
from korbent.app.divided import below, beside
from korbent.app.reserve_panel import ReservePanel
from korbent.app.size_map import SizeMapPanel
from korbent.app.stops.signposts import BEARING
from korbent.app.stops.stop import Pane, Stop
from korbent.app.strip.panel import StripPanel
from korbent.app.turnable import TurnableView
from korbent.core.bearing.methods import METHODS
from korbent.core.bearing.safety import compare
from korbent.core.checks import Check, CheckResult, State
from korbent.core.explain.state import BaseState
from korbent.core.explain.working import Working
from korbent.core.ground.below import profile_below
from korbent.drawing.methods import methods_chart
from korbent.drawing.plan import plan_drawing
from korbent.drawing.pressure import pressure_drawing
from korbent.drawing.primitives import Drawing
from korbent.drawing.section import section_drawing
from korbent.words import say

NOTHING = Drawing((), (-1.0, -1.0, 1.0, 1.0))


class BearingStop(Stop):
    """Where the daily loop is: change a size, look at pressure, section and ledger."""

    post = BEARING

    def build(self) -> None:
        session = self.session
        plan = TurnableView(
            lambda _: plan_drawing(session.project, session.results, session.selected), say("Plan"), self.in_space
        )  # the worst of all checks, so that a step shows at once
        plan.clicked.connect(lambda key: session.select(key.removeprefix("pad:")))
        pressure = DrawingView(self._pressure, say("Pressure"))
        self.section = section = PlaceView(self._section, say("Section"))
        section.at.connect(self._value_at)
        self.methods = DrawingView(self._methods, say("Methods"))
        self.methods.clicked.connect(self._open_method)
        self.views += [plan, pressure, section, self.methods]
        self.stack = QStackedWidget()
        self.stack.addWidget(pressure)
        self.stack.addWidget(self.methods)
        self.map = SizeMapPanel(session)
        self.map.view.theme = self.theme
        self.stack.addWidget(self.map)
        self.reserve = ReservePanel(session)
        self.reserve.view.theme = self.theme
        self.stack.addWidget(self.reserve)
        self.strip = StripPanel(session, self.drainage)
        self.strip.view.theme = self.theme
        self.strip.changed = self.refresh
        self.stack.addWidget(self.strip)
        self.pressure_pane = Pane(say("Pressure below"), self.stack, tools=self._switch())
        self.section_pane = Pane(say("Section"), section)
        seen = Pane(say("Plan"), plan, say("coloured by the worst of all checks"))
        top = beside(self, "bearing-top", (seen, 5), (self.pressure_pane, 4))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(below(self, "bearing", (top, 5), (self.section_pane, 6)))

    def _switch(self) -> QWidget:
        """Which of the two the pane shows."""
        both = QWidget()
        row = QHBoxLayout(both)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(4)
        self.choices = []
        for i, (text, tip) in enumerate(
            (
                (say("Pressure"), say("Linear without tension, below the base")),
                (say("Methods"), say("Ultimate pressure by every method, with its safety factor")),
                (say("Sizes"), say("The worst ratio over two dimensions, and the smallest size that holds")),
                (say("Reserve"), say("How much more of each load component the base can take")),
                (
                    say("Strip"),
                    say("The base as a strip: exact, and bracketed from below and above, beside every method"),
                ),
            )
        ):
            button = QPushButton(
                text, objectName=f"pane-{text.lower()}", checkable=True, autoExclusive=True, checked=i == 0
            )
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, i=i: self._bring(i))
            row.addWidget(button)
            self.choices.append(button)
        return both

    def _bring(self, index: int) -> None:
        self.stack.setCurrentIndex(index)
        self.refresh()

    def drainage(self) -> str:
        """That of the selected check, else the one in which the ground below answers."""
        if "undrained" in self.session.check:
            return "undrained"
        pad = self.session.pad
        if pad and "drained" not in self.session.check and compare(self.session.project, pad, "drained").why:
            return "undrained"
        return "drained"

    def _methods(self, aspect: float) -> Drawing:
        pad, project = self.session.pad, self.session.project
        if not pad:
            return NOTHING
        adopted = project.settings_of(pad).bearing_method
        return methods_chart(compare(project, pad, self.drainage()), adopted, project.showing, aspect)

    def _open_method(self, key: str) -> None:
        """Opens the working of a method in the ledger's place."""
        pad = self.session.pad
        if not pad:
            return
        found = compare(self.session.project, pad, self.drainage())
        method = next((m for m in found.methods if f"method:{m.method}" == key), None)
        if method is None:
            return
        check = Check(
            "",
            f"{method.method}, {found.drainage}",
            "bearing",
            "kPa",
            METHODS[method.method].REFERENCE if method.method in METHODS else say("layered ground"),
        )
        result = CheckResult(
            pad.name,
            check,
            State.NOT_APPLICABLE,
            message=method.remark,
            combination=say("{combination}, unfactored", combination=found.combination),
        )
        self.session.open_working(Working(result, method.recording, method.recording.find("q_ult"), 0))

    def state(self) -> BaseState | None:
        """What is drawn: the governing situation of the selected check."""
        return self.session.shown_state()

    def _pressure(self, _: float) -> Drawing:
        pad = self.session.pad
        if not pad:
            return NOTHING
        return pressure_drawing(self.session.project, pad, self.state(), self.uniform())

    def uniform(self) -> bool:
        """The selected check takes the pressure uniform on the effective area."""
        session = self.session
        if session.check.startswith(("resistance-", "safety-")):
            return True
        return (
            session.check == "presumed-pressure"
            and session.pad is not None
            and session.project.settings_of(session.pad).presumed_compares == "effective_area"
        )

    def _section(self, aspect: float) -> Drawing:
        pad = self.session.pad
        if not pad:
            return NOTHING
        return section_drawing(
            self.session.project,
            pad,
            self.state(),
            self.session.lit,
            aspect,
            self.session.mechanism(),
            self.strip.below(),
        )

    def refresh(self) -> None:
        super().refresh()
        pad, state = self.session.pad, self.state()
        name = pad.name if pad else ""
        self.section_pane.title.setText(say("Section through {name}", name=name).strip())
        shown = self.stack.currentIndex()
        self.pressure_pane.title.setText(
            (
                say("Pressure below {name}", name=name),
                say("Methods, {name}", name=name),
                say("Sizes of {name}", name=name),
                say("Reserve of {name}", name=name),
                say("As a strip: {name}", name=name),
            )[shown].strip()
        )
        if shown == 2:
            self.map.refresh()
        elif shown == 3:
            self.reserve.refresh()
        elif shown == 4:
            self.strip.refresh()
        text = (
            say("combination {label}: {combination}", label=state.label, combination=state.combination.name)
            if state
            else say("no combination")
        )
        place = ""
        if pad:
            point = self.session.project.load_point(pad.load_point)
            profile = profile_below(self.session.project.ground, pad, point)
            place = (
                (
                    say(" · ground of {place}", place=profile.place)
                    if " " not in profile.place
                    else say(" · ground {place}", place=profile.place)
                )
                if profile
                else ""
            )
        yields = f" · {self.strip.said()}" if self.strip.below() is not None else ""
        self._detail = say("{text} · true scale{place}{yields}", text=text, place=place, yields=yields)
        self.section_pane.detail.setText(self._detail)
        model = say("uniform on the effective area") if self.uniform() else say("linear without tension")
        self.pressure_pane.title.setToolTip(model)

    _detail = ""

    def _value_at(self, x: float, z: float) -> None:
        """Says what the ground below a strip has at the mouse."""
        pad = self.session.pad
        said = self.strip.value_at(x, z - pad.underside) if pad else ""
        self.section_pane.detail.setText(f"{said} · {self._detail}" if said else self._detail)
