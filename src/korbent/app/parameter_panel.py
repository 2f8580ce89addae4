"""Parameters over level: choose a soil and a parameter, see what the tests say, adopt a value."""

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.ground.correlations import derived, parameters_of
from korbent.core.ground.estimates import Estimate
from korbent.core.model.ground import Soil
from korbent.core.units import show, shown_unit
from korbent.drawing.parameters import by_source, parameter_chart, unit_for
from korbent.drawing.primitives import Drawing
from korbent.words import say

LABELS = {
    "friction_angle": "φ′",
    "undrained_strength": "cu",
    "modulus": "E′",
    "compression_index": "Cc",
    "recompression_index": "Cr",
    "void_ratio": "e0",
    "weight_saturated": say("γ sat"),
    "relative_density": "Dr",
    "compressibility": "mv",
    "consolidation_coefficient": "cv",
}


class ParameterPanel(QWidget):
    """The chart with its choices and suggestions."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.soil = QComboBox(objectName="chart-soil", accessibleName=say("Soil"))
        self.parameter = QComboBox(objectName="chart-parameter", accessibleName=say("Parameter"))
        self.estimate = QComboBox(objectName="chart-estimate", accessibleName=say("Suggested value"))
        self.adopt_button = QPushButton(say("Adopt"), objectName="adopt")
        self.soil.activated.connect(self._soil_chosen)
        self.parameter.activated.connect(lambda _: self.refresh())
        self.adopt_button.clicked.connect(self.adopt)
        self.view = DrawingView(self._chart, say("Parameter"))
        self.estimate.activated.connect(lambda _: self.view.refresh())
        self.suggestions: list[tuple[str, Estimate]] = []
        top = QHBoxLayout()
        top.setContentsMargins(10, 2, 10, 0)
        top.addWidget(self.soil, 1)
        top.addWidget(self.parameter)
        low = QHBoxLayout()
        low.setContentsMargins(10, 0, 10, 6)
        low.addWidget(Label(say("Suggested"), objectName="quiet"))
        low.addWidget(self.estimate, 1)
        low.addWidget(self.adopt_button)
        self.estimate.setMinimumContentsLength(12)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(top)
        column.addWidget(self.view, 1)
        column.addLayout(low)

    def showEvent(self, event: QShowEvent) -> None:
        """Behind another it is not read."""
        self.refresh()
        super().showEvent(event)

    def _chart(self, aspect: float) -> Drawing:
        at = self.estimate.currentIndex()
        suggested = self.suggestions[at][1] if 0 <= at < len(self.suggestions) else None
        return parameter_chart(self.session.project, self.soil.currentText(), self.chosen(), aspect, suggested)

    def chosen(self) -> str:
        """The parameter as a field of the soil."""
        return str(self.parameter.currentData() or "friction_angle")

    def choose(self, soil: str) -> None:
        """Brings a soil to the front."""
        at = self.soil.findText(soil)
        if at >= 0 and at != self.soil.currentIndex():
            self.soil.setCurrentIndex(at)
            self._soil_chosen()

    def _soil_chosen(self) -> None:
        self.parameter.clear()
        self.refresh()

    def refresh(self) -> None:
        """Reads the project again; choices stay where they can."""
        ground = self.session.project.ground
        names = [s.name for s in ground.soils if parameters_of(ground, s.name)] or [s.name for s in ground.soils]
        _refill(self.soil, [(n, n) for n in names])
        given = parameters_of(ground, self.soil.currentText()) or ("friction_angle",)
        _refill(self.parameter, [(LABELS[p], p) for p in given])
        parameter = self.chosen()
        unit, units = unit_for(parameter), self.session.project.showing
        found = derived(ground, self.soil.currentText(), parameter)
        self.suggestions = [
            (source, e) for source, several in by_source(found, ground.known_variation.get(parameter)) for e in several
        ]
        _refill(
            self.estimate,
            [
                (
                    (say("about ") if e.line else "")
                    + f"{show(e.value, unit, units)} {shown_unit(unit, units)}, {e.name}: {source}",
                    f"{e.name}: {source}",
                )
                for source, e in self.suggestions
            ],
        )
        self.adopt_button.setEnabled(bool(self.suggestions) and parameter in Soil.model_fields)
        self.view.refresh()

    def adopt(self) -> None:
        """Gives the soil the suggested value, with its source."""
        at = self.estimate.currentIndex()
        name, parameter = self.soil.currentText(), self.chosen()
        if not 0 <= at < len(self.suggestions):
            return
        source, e = self.suggestions[at]
        value = float(f"{e.value:.3g}")
        why = self.session.adopt(
            name,
            parameter,
            value,
            say("{e} ({formula}) of {source}", e=e.name, formula=e.formula, source=source),
            e.line,
        )
        if why:
            self.session.announce(f"! {LABELS[parameter]}: {why}")


def _refill(box: QComboBox, items: list[tuple[str, str]]) -> None:
    """New items, keeping the current one where it is among them."""
    if [(box.itemText(i), box.itemData(i)) for i in range(box.count())] == items:
        return
    current = box.currentData()
    box.clear()
    for text, data in items:
        box.addItem(text, data)
    at = box.findData(current)
    box.setCurrentIndex(max(at, 0))
