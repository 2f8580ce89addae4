"""Oedometer tests: choose one, look at its constructions, drag their lines, give the results to the soil."""

from PySide6.QtCore import Qt
from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QComboBox, QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.core.ground.correlations import state_at
from korbent.core.ground.oedometer import (
    OedometerError,
    Rate,
    Straight,
    casagrande,
    curve_of,
    log_time,
    recompression_index,
    root_time,
    schmertmann,
    silva,
    virgin_line,
)
from korbent.core.model import Borehole, Oedometer
from korbent.core.units import show, shown_unit
from korbent.drawing.oedometer import Constructions, curve_axes, curve_chart, time_chart
from korbent.drawing.primitives import Drawing, Text
from korbent.words import say

VIEWS = (say("e over log p"), say("cv, log time"), say("cv, root time"))


class OedometerPanel(QWidget):
    """The chart of one test with its choices and results."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.test = QComboBox(objectName="oedometer-test")
        self.kind = QComboBox(objectName="oedometer-view")
        self.kind.addItems(VIEWS)
        self.load_step = QComboBox(objectName="oedometer-step")
        self.result = Label(objectName="quiet", wordWrap=True)
        self.result.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.adopt_button = QPushButton(say("Give to the soil"), objectName="oedometer-adopt")
        self.reset_button = QPushButton(say("Lines back"), objectName="oedometer-reset")
        self.reset_button.setToolTip(say("The constructions as they were found, without what was dragged"))
        self.virgin: dict[str, Straight] = {}
        self.bend: dict[str, float] = {}
        self.view = DrawingView(self._chart, say("Oedometer"))
        self.view.follows = True
        self.view.dragged.connect(self.drag)
        self.test.activated.connect(lambda _: self.refresh())
        self.kind.activated.connect(lambda _: self.refresh())
        self.load_step.activated.connect(lambda _: self.refresh())
        self.adopt_button.clicked.connect(self.adopt)
        self.reset_button.clicked.connect(self.reset)
        top = QHBoxLayout()
        top.setContentsMargins(10, 2, 10, 0)
        for box in (self.test, self.kind, self.load_step):
            top.addWidget(box)
        top.addStretch(1)
        self.result.setContentsMargins(12, 0, 12, 2)
        self.result.setFixedHeight(58)
        low = QHBoxLayout()
        low.setContentsMargins(10, 0, 10, 6)
        low.addStretch(1)
        low.addWidget(self.reset_button)
        low.addWidget(self.adopt_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(2)
        column.addLayout(top)
        column.addWidget(self.view, 1)
        column.addWidget(self.result)
        column.addLayout(low)

    def showEvent(self, event: QShowEvent) -> None:
        """Behind another it is not read."""
        self.refresh()
        super().showEvent(event)

    # ------------------------------------------------------------ what is chosen

    def tests(self) -> list[tuple[Borehole, Oedometer]]:
        """All tests of the project."""
        return [(h, o) for h in self.session.project.ground.boreholes for o in h.oedometers]

    def chosen(self) -> tuple[Borehole, Oedometer] | None:
        """The test in front."""
        found = self.tests()
        at = self.test.currentIndex()
        return found[at] if 0 <= at < len(found) else None

    def choose(self, hole: str, sample: str) -> None:
        """Brings a test to the front."""
        for i, (h, o) in enumerate(self.tests()):
            if (h.name, o.sample) == (hole, sample):
                self.test.setCurrentIndex(i)
                self.refresh()

    def _key(self) -> str:
        return self.test.currentText()

    def soil(self) -> str:
        """The soil in which the test lies."""
        chosen = self.chosen()
        if not chosen:
            return ""
        hole, test = chosen
        depth = 0.0
        for stratum in hole.strata:
            depth += stratum.thickness
            if test.depth < depth:
                return stratum.soil
        return ""

    def effective(self) -> float:
        """Effective stress at the sample, kPa."""
        chosen = self.chosen()
        assert chosen
        hole, test = chosen
        return state_at(self.session.project.ground, hole, hole.ground_level - test.depth).effective

    def constructions(self) -> Constructions:
        """The constructions, with what was dragged."""
        chosen = self.chosen()
        assert chosen
        _, test = chosen
        try:
            curve = curve_of(test)
            virgin = self.virgin.get(self._key()) or virgin_line(curve)
            second = silva(curve, virgin)
        except OedometerError as error:
            return Constructions(why=str(error))
        try:
            first = casagrande(curve, virgin, self.bend.get(self._key()))
            index, _ = recompression_index(curve)
            field = schmertmann(virgin, test.void_ratio, self.effective(), first.stress, index)
        except OedometerError as error:
            return Constructions(curve, None, second, None, str(error))
        return Constructions(curve, first, second, field)

    def rate(self) -> Rate | OedometerError | None:
        """cv of the chosen load step by the chosen construction; None without readings."""
        chosen = self.chosen()
        if not chosen or not chosen[1].readings:
            return None
        readings = chosen[1].readings[max(self.load_step.currentIndex(), 0)]
        try:
            return root_time(readings) if self.kind.currentText() == VIEWS[2] else log_time(readings)
        except OedometerError as error:
            return error

    # ------------------------------------------------------------ showing

    def _chart(self, aspect: float) -> Drawing:
        chosen = self.chosen()
        if not chosen:
            text = say("no oedometer test yet: import one, or add its steps in the table below")
            return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
        if self.kind.currentText() == VIEWS[0]:
            return curve_chart(chosen[1], self.constructions(), self.effective(), self.session.project.showing, aspect)
        rate = self.rate()
        if rate is None:
            text = say("no readings over time for this test: add them in the table 'Readings' below")
            return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
        readings = chosen[1].readings[max(self.load_step.currentIndex(), 0)]
        return time_chart(readings, rate, self.kind.currentText() == VIEWS[2], aspect)

    def refresh(self) -> None:
        """Reads the project again; the choice stays where it can."""
        names = [f"{h.name}, {o.sample}" for h, o in self.tests()]
        if [self.test.itemText(i) for i in range(self.test.count())] != names:
            current = self.test.currentText()
            self.test.clear()
            self.test.addItems(names)
            self.test.setCurrentIndex(max(names.index(current) if current in names else 0, 0))
        chosen = self.chosen()
        timed = self.kind.currentText() != VIEWS[0]
        load_steps = [say("to {stress:g} kPa", stress=r.stress) for r in chosen[1].readings] if chosen else []
        if [self.load_step.itemText(i) for i in range(self.load_step.count())] != load_steps:
            self.load_step.clear()
            self.load_step.addItems(load_steps)
        self.load_step.setVisible(timed and bool(load_steps))
        self.reset_button.setVisible(not timed)
        self.result.setText(self.words())
        self.adopt_button.setEnabled(bool(chosen and self.results()))
        self.view.refresh()

    def words(self) -> str:
        """The results in a line."""
        chosen = self.chosen()
        if not chosen:
            return ""
        units = self.session.project.showing
        if self.kind.currentText() != VIEWS[0]:
            rate = self.rate()
            if not isinstance(rate, Rate):
                return ""
            unit = shown_unit("m²/day", units)
            return say(
                "cv {value} {unit} by {method}, drainage path {drainage:.1f} mm",
                value=show(rate.value, "m²/day", units),
                unit=unit,
                method=rate.method,
                drainage=rate.drainage,
            )
        found = self.constructions()
        parts = []
        kpa = shown_unit("kPa", units)
        if found.casagrande:
            parts.append(
                say("σ′p {stress} {kpa} (Casagrande)", stress=show(found.casagrande.stress, "kPa", units), kpa=kpa)
            )
        if found.silva:
            parts.append(say("{stress} {kpa} (Silva)", stress=show(found.silva.stress, "kPa", units), kpa=kpa))
        if found.curve:
            index, where = recompression_index(found.curve)
            parts.append(f"Cr {index:.3f} ({where})")
        if found.silva:
            parts.append(say("Cc {index:.3f} of the sample", index=found.silva.virgin.index))
        if found.field:
            parts.append(say("{compression_index:.3f} corrected", compression_index=found.field.compression_index))
        return ", ".join(parts)

    # ------------------------------------------------------------ dragging and adopting

    def drag(self, key: str, x: float, y: float) -> None:
        """Moves a handle: an end of the virgin line, or the point of greatest curvature."""
        chosen = self.chosen()
        found = self.constructions()
        if not chosen or not found.curve:
            return
        axes = curve_axes(chosen[1], self.effective(), self.view.width() / max(self.view.height(), 1))
        log, void = axes.back(x, y)
        stress = 10.0 ** min(max(log, axes.x0), axes.x1)
        if key == "bend":
            low, high = float(found.curve.stress[0]), float(found.curve.stress[-1])
            self.bend[self._key()] = min(max(stress, low * 1.01), high * 0.99)
        elif key.startswith("virgin:") and found.silva:
            virgin = found.silva.virgin
            ends = [virgin.reaches(axes.y1 - 0.02), virgin.reaches(axes.y0 + 0.02)]
            ends = [min(max(v, 10**axes.x0), 10**axes.x1) for v in ends]
            handles = [ends[0] ** 0.65 * ends[1] ** 0.35, ends[0] ** 0.15 * ends[1] ** 0.85]
            other = handles[1 - int(key[-1])]
            held = (other, virgin.at(other))
            # the line must keep falling: the dragged end may not pass the other one
            if (stress - other) * (1 if key[-1] == "1" else -1) <= 0 or (held[1] - void) * (stress - other) <= 0:
                return
            self.virgin[self._key()] = Straight.through(held, (stress, void))
        self.refresh()

    def reset(self) -> None:
        """Takes back what was dragged in this test."""
        self.virgin.pop(self._key(), None)
        self.bend.pop(self._key(), None)
        self.refresh()

    def results(self) -> dict[str, tuple[float, str]]:
        """What the soil would get: value and source by field."""
        chosen = self.chosen()
        if not chosen or not self.soil():
            return {}
        hole, test = chosen
        where = say("oedometer {hole}, {sample} at {depth:g} m", hole=hole.name, sample=test.sample, depth=test.depth)
        if self.kind.currentText() != VIEWS[0]:
            rate = self.rate()
            return (
                {"consolidation_coefficient": (rate.value, f"{where}: {rate.method}")} if isinstance(rate, Rate) else {}
            )
        found = self.constructions()
        if not (found.casagrande and found.field and found.curve):
            return {}
        by_hand = say(", lines by hand") if self._key() in self.virgin or self._key() in self.bend else ""
        _, index_from = recompression_index(found.curve)
        return {
            "compression_index": (
                found.field.compression_index,
                say("{where}: corrected by Schmertmann 1955{by_hand}", where=where, by_hand=by_hand),
            ),
            "recompression_index": (found.field.recompression_index, f"{where}: {index_from}"),
            "void_ratio": (test.void_ratio, where),
            "overconsolidation_ratio": (
                max(found.casagrande.stress / self.effective(), 1.0),
                say("{where}: σ′p by Casagrande 1936{by_hand}", where=where, by_hand=by_hand),
            ),
        }

    def adopt(self) -> None:
        """Gives the results to the soil with their source, one step of undo."""
        soil, results = self.soil(), self.results()
        with self.session.together(
            say("{soil}: {results} values from {key}", soil=soil, results=len(results), key=self._key())
        ):
            for field, (value, source) in results.items():
                why = self.session.adopt(soil, field, float(f"{value:.3g}"), source)
                if why:
                    self.session.announce(f"! {why}")
                    return
            if "compression_index" in results:
                self.session.edit(("ground", "soils", soil, "compression"), "oedometer")
