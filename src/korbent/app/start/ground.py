"""Quick start of a settlement: a load and a stack of layers typed at their drawing; what it comes to stands beside it
while one types."""

from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QComboBox, QGridLayout, QHBoxLayout, QLineEdit, QVBoxLayout, QWidget

from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.words import Label
from korbent.app.workers import pool
from korbent.core.model import Project
from korbent.core.model.frozen import unit_of
from korbent.core.model.labels import label
from korbent.core.quick.ground_load import ENOUGH, KINDS, GroundLoad, Layer, Settled, in_words
from korbent.core.units import UnitError, show, show_length, shown_unit
from korbent.drawing.on_layers import on_layers
from korbent.drawing.theme import Theme
from korbent.files.project_file import problems_of
from korbent.words import say

WAIT = 200
"""Milliseconds after the last key before it is computed."""
MOST = 4
"""Layers that can be typed."""
LOAD = (
    ("size_x", say("width B")),
    ("size_y", say("length L")),
    ("pressure", say("net pressure")),
    ("height", "height"),
    ("founded", say("at depth")),
    ("water", say("water, deep")),
    ("degree", say("degree asked for")),
)
OF_LAYER = (
    ("thickness", say("thick")),
    ("stiffness", say("stiffness 1/mv")),
    ("consolidation", say("cv; none: drains")),
)
SHOWN = {
    "pad": ("size_x", "size_y", "pressure"),
    "strip": ("size_x", "pressure"),
    "tank": ("size_x", "pressure"),
    "embankment": ("size_x", "size_y", "height"),
}
"""By kind, what its load is made of."""
WIDTHS = {"pad": say("width B"), "strip": say("width B"), "tank": say("diameter"), "embankment": say("crest, wide")}


class OfSettlement(QWidget):
    """At most 20 inputs: the kind, six of the load, three of each layer."""

    changed = Signal()
    came = Signal()
    """There is a project for what is typed, or it is said why there is none."""

    def __init__(self, session: Session, theme: Theme) -> None:
        super().__init__()
        self.session, self.load = session, GroundLoad()
        self.project: Project | None = None
        self.found: Settled | None = None
        self.state = ""
        self.fields: dict[str, QLineEdit] = {}
        self.labels: dict[str, Label] = {}
        self.kind = QComboBox(objectName="ground-kind")
        for kind in KINDS:
            self.kind.addItem(label(kind), kind)
        self.kind.activated.connect(lambda at: self._put(kind=self.kind.itemData(at)))
        self.view = DrawingView(self._drawing, say("Load on layers"))
        self.view.theme = theme
        top = QHBoxLayout()
        top.setSpacing(8)
        first = QVBoxLayout()
        first.setSpacing(0)
        first.addWidget(Label(say("load"), objectName="spot"))
        first.addWidget(self.kind)
        top.addLayout(first)
        for name, text in LOAD:
            top.addWidget(self._field(name, text, self._text(name)))
        top.addStretch(1)
        layers = QGridLayout()
        layers.setHorizontalSpacing(6)
        layers.setVerticalSpacing(3)
        layers.addWidget(Label(say("Layers, from the top"), objectName="heading"), 0, 0, 1, 4)
        for j, (_, text) in enumerate(OF_LAYER):
            layers.addWidget(Label(text, objectName="spot"), 1, j + 1)
        for k in range(MOST):
            layers.addWidget(Label(str(k + 1), objectName="quiet"), k + 2, 0)
            for j, (name, _) in enumerate(OF_LAYER):
                layers.addWidget(self._edit(f"{name}-{k}", self._of_layer(k, name)), k + 2, j + 1)
        self.results = Label("", objectName="ground-results", wordWrap=True)
        self.words = Label("", objectName="quiet", wordWrap=True)
        side = QVBoxLayout()
        side.addLayout(layers)
        side.addSpacing(14)
        side.addWidget(self.results)
        side.addWidget(self.words)
        side.addStretch(1)
        body = QHBoxLayout()
        body.addWidget(self.view, 5)
        holder = QWidget()
        holder.setLayout(side)
        holder.setFixedWidth(318)
        body.addWidget(holder)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.addLayout(top)
        column.addLayout(body, 1)
        self._later = QTimer(self, singleShot=True, interval=WAIT)
        self._later.timeout.connect(self._look)
        self._show_kind()

    @property
    def count(self) -> int:
        """How many inputs there are."""
        of_load = sum(not self.fields[name].isHidden() for name, _ in LOAD)
        return 1 + of_load + MOST * len(OF_LAYER)

    def _field(self, name: str, called: str, text: str) -> QWidget:
        holder = QWidget()
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.labels[name] = Label(called, objectName="spot")
        column.addWidget(self.labels[name])
        column.addWidget(self._edit(name, text))
        return holder

    def _edit(self, name: str, text: str) -> QLineEdit:
        edit: QLineEdit = QLineEdit(text, objectName=f"ground-{name}")
        edit.setFixedWidth(86)
        edit.textEdited.connect(lambda _, n=name: self._typed(n))
        self.fields[name] = edit
        return edit

    # ------------------------------------------------------------ numbers

    def _text(self, name: str) -> str:
        return self._shown(getattr(self.load, name), unit_of(GroundLoad, name))

    def _of_layer(self, k: int, name: str) -> str:
        if k >= len(self.load.layers):
            return ""
        value = getattr(self.load.layers[k], name)
        return "" if value is None else self._shown(value, unit_of(Layer, name))

    def _shown(self, value: float, unit: str) -> str:
        units = self.session.project.showing
        text = show_length(value, units) if unit == "m" else show(value, unit, units)
        return f"{text} {shown_unit(unit, units)}".rstrip()

    def _typed(self, name: str) -> None:
        """A number was typed; a wrong one is marked and changes nothing."""
        field, _, k = name.partition("-")
        try:
            if k:
                self._put(layers=self._layers())
            else:
                self._put(**{field: self.session.parse(self.fields[name].text().strip(), unit_of(GroundLoad, field))})
            self._mark(name, "")
        except UnitError as error:
            self._mark(name, str(error))
        except ValidationError as error:
            self._mark(name, problems_of(error)[0].message)

    def _layers(self) -> tuple[Layer, ...]:
        """The layers as they are typed: those with a thickness, down to the first without."""
        found = []
        for k in range(MOST):
            texts = {name: self.fields[f"{name}-{k}"].text().strip() for name, _ in OF_LAYER}
            if not texts["thickness"]:
                break
            values: dict[str, Any] = {
                name: self.session.parse(text, unit_of(Layer, name)) for name, text in texts.items() if text
            }
            found.append(Layer(**values))
        return tuple(found)

    def _put(self, **changes: Any) -> None:
        self.load = self.load.replaced(**changes)
        self._show_kind()
        self.changed.emit()
        self.begin()

    def _mark(self, name: str, why: str) -> None:
        edit = self.fields[name]
        edit.setProperty("wrong", bool(why))
        edit.style().unpolish(edit)
        edit.style().polish(edit)
        edit.setToolTip(why)
        if why:
            self.session.announce(f"! {why}")

    def _show_kind(self) -> None:
        """Only what the kind of load is made of."""
        shown = {*SHOWN[self.load.kind], "founded", "water", "degree"}
        for name, _ in LOAD:
            holder = self.fields[name].parentWidget()
            self.fields[name].setHidden(name not in shown)
            if holder is not None:
                holder.setVisible(name in shown)
        self.labels["size_x"].setText(WIDTHS[self.load.kind])

    # ------------------------------------------------------------ what it comes to

    def begin(self) -> None:
        """It is computed soon."""
        self.project, self.state = None, say("being computed …")
        self._later.start()
        self.view.refresh()

    def _look(self) -> None:
        pool().run("ground_load", self.load, (self.load,), self._came, channel="ground-load", first=True)

    def _came(self, load: object, found: Any) -> None:
        if load is not self.load:
            return
        if isinstance(found, tuple):
            self.project, self.found = found
            self.state = ""
        else:
            self.project, self.found = None, None
            self.state = found or say("it could not be computed; the log tells why")
        self._say()
        self.view.refresh()
        self.came.emit()

    def _say(self) -> None:
        found, units = self.found, self.session.project.showing
        if found is None:
            self.results.setText("")
            self.words.setText(self.state)
            return
        small = shown_unit("mm", units)
        lines = [f"{name}: {show(1000 * value, 'mm', units)} {small}" for name, value in found.marks]
        self.results.setText(say("Settlement in the end\n") + "\n".join(lines))
        reach = say("{share:.0f} % of the effective stress is added at the end of the layers", share=100 * found.share)
        enough = (
            say("they reach deep enough")
            if found.is_deep_enough
            else say("they should reach deeper: to at most {enough:.0f} %", enough=100 * ENOUGH)
        )
        self.words.setText(
            say(
                "{degree:.0f} % of it: {in_words}. {reach}: {enough}. Stress by Boussinesq, each layer by its "
                "stiffness without sideways strain, water flows up and down.",
                degree=100 * self.load.degree,
                in_words=in_words(found.until),
                reach=reach,
                enough=enough,
            )
        )

    def _drawing(self, aspect: float) -> Any:
        current = self.found if self.project is not None else None
        return on_layers(self.load, current, self.session.project.showing, aspect)
