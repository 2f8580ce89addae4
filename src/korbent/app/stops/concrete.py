"""Concrete: the base from above and in section with its bars, steel asked for against provided, forces along it, bars
that would do."""

from collections.abc import Callable, Sequence
from functools import partial
from pathlib import Path

from PySide6.QtWidgets import (
    QComboBox,
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.asked import Asked
from korbent.app.bars_panel import BarsPanel
from korbent.app.canvas import DrawingView, LineView
from korbent.app.divided import below, beside
from korbent.app.raft_panel import RaftPanel
from korbent.app.stops.bearing import NOTHING
from korbent.app.stops.signposts import CONCRETE
from korbent.app.stops.stop import Pane, Stop
from korbent.core.concrete.bar_text import words
from korbent.core.concrete.choose import DIRECTIONS, FACES_OF, BarTable, alike, taken
from korbent.core.concrete.demand import BeamLine, along_base, steel_along
from korbent.core.concrete.pedestal import interaction_line
from korbent.core.explain.strap import along_strap, beside_words
from korbent.core.model.labels import label
from korbent.core.rafts.stiffness import stiffness_of
from korbent.core.units import length_text, show, show_ratio, shown_unit
from korbent.drawing.bar_section import bar_section
from korbent.drawing.bar_table import bar_table_drawing
from korbent.drawing.beam_line import beam_line_drawing, place_on
from korbent.drawing.pedestal import pedestal_drawing
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.reinforcement import from_above, steel_demand
from korbent.drawing.words import show_weight, weight_unit
from korbent.files.bar_schedule import write_schedule
from korbent.words import english, say


class ConcreteStop(Stop):
    """Thickness and bars."""

    post = CONCRETE

    def build(self) -> None:
        self.face = "bottom"
        self.would_do = Asked("bars", lambda: self.choose.refresh(), self)
        above = DrawingView(self._above, say("Base from above"))
        faces, self.face_buttons = _switch(
            (
                (say("Bottom"), "face-bottom", say("The lower bars, seen from above")),
                (say("Top"), "face-top", say("The upper bars")),
            ),
            self._turn,
        )
        self.above_pane = Pane(say("From above"), above, "", faces)
        self.section_axis = "x"
        self.sections = [DrawingView(partial(self._section_of, a), say("Section {a}", a=a)) for a in "xy"]
        self.lines = [
            LineView(partial(self._line, a), say("Forces along {a}", a=a)) for a in ("x", "y", say("the strap"))
        ]
        for line in self.lines:
            line.at.connect(self._say_forces)
        self.middle = QStackedWidget()
        for view in (*self.sections, *self.lines):
            self.middle.addWidget(view)
        cuts = (
            (say("Section x"), "section-x", say("Cut along x: bars, hooks, dowels")),
            (say("Section y"), "section-y", say("Cut along y")),
            (say("Along x"), "along-x", say("Shears and moments along x")),
            (say("Along y"), "along-y", say("Shears and moments along y")),
            (say("Strap"), "along-strap", say("Shears and moments along the strap that ties this base")),
        )
        ways, self.section_buttons = _switch(cuts, self.middle.setCurrentIndex)
        self.section_pane = Pane("", self.middle, "", ways)
        self.steel = DrawingView(self._steel, say("Steel"))
        self.choose = DrawingView(self._choose, say("Bars that would do"))
        self.choose.clicked.connect(self._take)
        self.pedestal = DrawingView(self._pedestal, say("Pedestal"))
        self.direction = QComboBox(objectName="bar-direction")
        for name in DIRECTIONS:
            self.direction.addItem(label(name), name)
        self.direction.setCurrentIndex(DIRECTIONS.index("bottom x and y"))
        self.direction.activated.connect(lambda _: self.choose.refresh())
        self.column = QComboBox(objectName="pedestal-column")
        self.column.setToolTip(say("Under which column: each pedestal has its own curve"))
        self.column.activated.connect(lambda _: self.pedestal.refresh())
        self.stack = QStackedWidget()
        for view in (self.steel, self.choose, self.pedestal):
            self.stack.addWidget(view)
        names = (
            (say("Steel"), "steel-steel", say("Required and provided, worst face")),
            (
                say("Bars"),
                "steel-bars",
                say("Which diameters and spacings would do; a click takes them for all of the type"),
            ),
            (
                say("Pedestal"),
                "steel-pedestal",
                say("Axial force and moment of the pedestal, all situations as points"),
            ),
        )
        tabs, self.choices = _switch(names, self._bring)
        self.export = QPushButton(say("Schedule…"), objectName="bar-schedule")
        self.export.setToolTip(
            say("All bars of the project and of each type by mark, shape (ISO 3766), length and weight, as CSV or XLSX")
        )
        self.export.clicked.connect(self._ask_schedule)
        tools = QWidget()
        row_of_tools = QHBoxLayout(tools)
        row_of_tools.setContentsMargins(0, 0, 0, 0)
        row_of_tools.setSpacing(6)
        for widget in (tabs, self.direction, self.column, self.export):
            row_of_tools.addWidget(widget)
        self.direction.setVisible(False)
        self.column.setVisible(False)
        self.steel_pane = Pane("", self.stack, "", tools)
        self.views += [above, *self.sections, *self.lines, self.steel, self.choose, self.pedestal]
        for view in self.views:
            view.hovered.connect(self._pointed)
        right = below(self, "concrete-right", (self.section_pane, 5), (self.steel_pane, 6))
        rigid = beside(self, "concrete", (self.above_pane, 1), (right, 1))
        self.raft = RaftPanel(self.session)
        self.raft.field.hovered.connect(self._pointed)
        self.views += [self.raft.field, self.raft.line]
        self.kinds = QStackedWidget()
        self.kinds.addWidget(rigid)
        self.kinds.addWidget(self.raft)
        self.bars = BarsPanel(self.session, self.raft.propose)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.kinds, 1)
        column.addWidget(self.bars)

    def _turn(self, index: int) -> None:
        self.face = ("bottom", "top")[index]
        self.views[0].refresh()

    def _pointed(self, key: str) -> None:
        """What the mouse is over in a drawing lights up in the ledger, and the other way round."""
        self.session.point_at(key.removeprefix("check:") if key.startswith("check:") else "")
        if key.startswith("bars:") and self.table is not None:
            choice = self.table.choices[int(key.split(":")[1])]
            why = choice.why or say("holds with {ratio}", ratio=show_ratio(choice.ratio))
            u = self.session.project.showing
            name = words(choice.bars, self.session.project.units == "us")
            self.session.announce(
                f"{label(self.table.direction)} {name}: {show_weight(choice.weight, u)} {weight_unit(u)}, {why}"
            )

    def _above(self, _: float) -> Drawing:
        pad, result, project = self.session.pad, self.session.result, self.session.project
        if not pad or not result:
            return NOTHING
        demands = {axis: steel_along(project, pad, self.face, axis) for axis in "xy"}
        return from_above(project, pad, result, self.session.lit, self.face, demands)

    def _section_of(self, axis: str, _: float) -> Drawing:
        return self._section(axis)

    def _section(self, axis: str) -> Drawing:
        pad = self.session.pad
        return bar_section(self.session.project, pad, axis, self.session.lit) if pad else NOTHING

    def _line(self, axis: str, aspect: float) -> Drawing:
        pad, project = self.session.pad, self.session.project
        said = ""
        if pad is not None and axis in "xy" and (found := stiffness_of(project, pad)):
            value = found.along(axis)
            said = f"λL {value:.2f}: {found.word(value)}"
        elif pad is not None and axis == "the strap":
            said = "\n" + "\n".join(beside_words(project, pad))
        return beam_line_drawing(self._forces(axis), project.showing, aspect, said)

    def _forces(self, axis: str) -> BeamLine | None:
        pad, project = self.session.pad, self.session.project
        if pad is None:
            return None
        return along_strap(project, pad) if axis == "the strap" else along_base(project, pad, axis)

    def _say_forces(self, x: float) -> None:
        """Shear and moment at the place under the mouse."""
        axis = ("x", "y", say("the strap"))[self.middle.currentIndex() - 2]
        found, u = self._forces(axis), self.session.project.showing
        s = place_on(found, x) if found else 0.0
        values = found.value(s) if found else None
        if found is None or values is None:
            self.session.announce("")
            return
        parts = [
            " to ".join(show(v, unit, u) for v in pair) for pair, unit in ((values[:2], "kN"), (values[2:], "kNm"))
        ]
        also = found.other.value(s) if found.other else None
        plates = say(" · as plates M {v}", v=" to ".join(show(v, "kNm", u) for v in also[2:])) if also else ""
        self.session.announce(
            say(
                "{title} at {length}: V {parts} {unit}, M {parts_2} {other_unit}{plates}",
                title=found.title or say("along {axis}", axis=axis),
                length=length_text(s, u),
                parts=parts[0],
                unit=shown_unit("kN", u),
                parts_2=parts[1],
                other_unit=shown_unit("kNm", u),
                plates=plates,
            )
        )

    def _pedestal(self, aspect: float) -> Drawing:
        pad, project = self.session.pad, self.session.project
        name = self.column.currentText() if pad and self.column.currentText() in pad.all_pedestals else ""
        return pedestal_drawing(interaction_line(project, pad, name) if pad else None, project.showing, aspect)

    def _fill_columns(self) -> None:
        """The columns whose pedestals have a curve; the worst one until another is chosen."""
        pad, result = self.session.pad, self.session.result
        names = list(pad.all_pedestals) if pad else []
        if names != [self.column.itemText(i) for i in range(self.column.count())]:
            self.column.clear()
            self.column.addItems(names)
            if result and len(names) > 1:
                worst = english(result.check("pedestal").message).partition(" ")[0]
                self.column.setCurrentIndex(max(self.column.findText(worst), 0))
        self.column.setVisible(self.stack.currentIndex() == 2 and len(names) > 1)

    def _bring(self, index: int) -> None:
        self.stack.setCurrentIndex(index)
        self._fill_columns()
        self.direction.setVisible(index == 1)
        self.choose.refresh()
        self.pedestal.refresh()

    @property
    def table(self) -> BarTable | None:
        """Bars that would do: what was found last for this base and direction."""
        found, pad = self.would_do.found, self.session.pad
        keeps = found and pad and pad.name in found.alike and found.direction == self.direction.currentData()
        return found if keeps else None

    def _choose(self, _: float) -> Drawing:
        pad, project = self.session.pad, self.session.project
        if pad is None:
            return NOTHING
        direction = str(self.direction.currentData())
        every = self.bars.all.isChecked()
        self.would_do.want((project, pad, direction, every), (project, pad.name, direction, every), first=True)
        if self.table is None:
            return Drawing((Text((0, 0), self.would_do.state, 11, "soft", "middle"),), (-1, -1, 1, 1))
        # as wide and as high as the view without its margins
        room = max(self.choose.width() - 60, 10) / max(self.choose.height() - 62, 10)
        now = pad.reinforcement.bars(FACES_OF[direction][0])
        return bar_table_drawing(self.table, now, project.showing, room, self.would_do.state)

    def _take(self, key: str) -> None:
        """Takes bars for the base and all others of its type."""
        pad, project = self.session.pad, self.session.project
        if pad is None or not key.startswith("bars:") or self.table is None:
            return
        if pad.frozen:
            self.session.announce(say("! {pad} is {frozen}: its bars stay", pad=pad.name, frozen=label(pad.frozen)))
            return
        if self.would_do.state:
            self.session.announce(say("the bars are being computed again for what is there now: a moment"))
            return
        choice = self.table.choices[int(key.split(":")[1])]
        every = self.bars.all.isChecked()
        others = len(alike(project, pad)) if every else 1
        alike_words = say(", {others} of type {type}", others=others, type=pad.type) if others > 1 else ""
        self.session.apply(
            taken(project, pad, self.table.direction, choice.bars, every),
            f"{pad.name}{alike_words}: {label(self.table.direction)} {words(choice.bars, project.units == 'us')}",
        )

    def _ask_schedule(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, say("Bar schedule"), "bars.xlsx", say("Tables (*.xlsx *.csv)"))
        if name:
            self.write_schedule(Path(name))

    def write_schedule(self, path: Path) -> None:
        """Writes the bar schedule of the project; into a workbook also one of each type."""
        try:
            write_schedule(self.session.project, path)
        except OSError as error:
            self.session.announce(f"! {path}: {error.strerror or error}")
            return
        self.session.announce(say("bar schedule written to {path}", path=path.name))

    def _steel(self, _: float) -> Drawing:
        return steel_demand(self.session.project, self.session.result) if self.session.result else NOTHING

    def refresh(self) -> None:
        self._fill_columns()
        super().refresh()
        pad = self.session.pad
        self.bars.refresh()
        self.kinds.setCurrentIndex(1 if pad and pad.kind == "raft" else 0)
        tied = pad is not None and any(pad.name in (s.edge, s.inner) for s in self.session.project.straps)
        self.section_buttons[-1].setVisible(tied)
        if not tied and self.section_buttons[-1].isChecked():
            self.section_buttons[0].click()
        if not pad:
            return
        if pad.kind == "raft":
            self.raft.refresh()
        project = self.session.project
        settings, u = project.settings_of(pad), project.showing
        self.above_pane.title.setText(say("From above  {pad}", pad=pad.name))
        self.above_pane.detail.setText(
            say(
                "concrete {concrete_strength}, steel {steel_strength} {unit}",
                concrete_strength=show(settings.concrete_strength, "MPa", u),
                steel_strength=show(settings.steel_strength, "MPa", u),
                unit=shown_unit("MPa", u),
            )
        )


def _switch(
    names: Sequence[tuple[str, str, str]], chosen: Callable[[int], object]
) -> tuple[QWidget, list[QPushButton]]:
    """A row of buttons of which one is down; ``chosen`` is called with its number."""
    box = QWidget()
    row = QHBoxLayout(box)
    row.setContentsMargins(0, 0, 0, 0)
    row.setSpacing(6)
    buttons = []
    for i, (text, name, tip) in enumerate(names):
        button = QPushButton(text, objectName=name, checkable=True, autoExclusive=True, checked=i == 0)
        button.setToolTip(tip)
        button.clicked.connect(lambda _=False, i=i: chosen(i))
        row.addWidget(button)
        buttons.append(button)
    return box, buttons
