"""Quick starts: a drawing with the numbers to type right at it; the result stands beside it while one types."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import QTimer, Signal
from PySide6.QtGui import QHideEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import (
    QComboBox,
    QHBoxLayout,
    QHeaderView,
    QLineEdit,
    QPushButton,
    QStackedWidget,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from korbent.app.asked import Asked
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.start.ground import OfSettlement
from korbent.app.stops.stop import Elided
from korbent.app.words import Label
from korbent.app.workers import pool
from korbent.core.explain.state import base_state
from korbent.core.ground.library import LIBRARY
from korbent.core.model import Backfill, Project
from korbent.core.model.frozen import unit_of
from korbent.core.model.labels import label
from korbent.core.plasticity.section import Section
from korbent.core.quick.ground_load import GroundLoad
from korbent.core.quick.habits import HABITS, habit_of
from korbent.core.quick.starts import BareStrip, Corner, OneBase, Start, Tied, TwoColumns, Wall
from korbent.core.quick.strip import of_all_methods, parts_of, section_of
from korbent.core.units import System, UnitError, show, show_length, shown_unit, sizes_text, to_shown
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.section import section_drawing
from korbent.drawing.theme import Theme
from korbent.drawing.tied import tied_drawing
from korbent.files.project_file import problems_of
from korbent.words import say

WAIT = 250
"""Milliseconds after the last key before a size is looked for."""
PLAN = ("width", "length", "thickness")
"""What is proposed where nothing is typed."""


@dataclass(frozen=True)
class Spot:
    """A number of a start, and where it stands at the drawing (shares of its width and height)."""

    field: str
    label: str
    x: float
    y: float


COMMON = (
    Spot("founded", say("underside, deep"), 0.01, 0.34),
    Spot("thickness", say("thickness"), 0.01, 0.50),
    Spot("pressure", say("allowable pressure"), 0.01, 0.86),
    Spot("width", say("width along x"), 0.34, 0.86),
    Spot("length", say("length along y"), 0.50, 0.86),
    Spot("concrete", label("concrete"), 0.67, 0.86),
    Spot("steel", say("steel"), 0.83, 0.86),
)
SPOTS: dict[type[Start], tuple[Spot, ...]] = {
    OneBase: (
        Spot("permanent", say("permanent V"), 0.01, 0.0),
        Spot("imposed", say("imposed V"), 0.17, 0.0),
        Spot("horizontal", say("H along x"), 0.33, 0.0),
        Spot("moment", say("M about y"), 0.49, 0.0),
        Spot("column_x", say("column, along x"), 0.67, 0.0),
        Spot("column_y", say("along y"), 0.83, 0.0),
        *COMMON,
    ),
    Corner: (
        Spot("permanent", say("permanent V"), 0.01, 0.0),
        Spot("imposed", say("imposed V"), 0.17, 0.0),
        Spot("edge_x", say("boundary, along x"), 0.33, 0.0),
        Spot("edge_y", say("boundary, along y"), 0.49, 0.0),
        Spot("column_x", say("column, along x"), 0.67, 0.0),
        Spot("column_y", say("along y"), 0.83, 0.0),
        *COMMON,
    ),
    Wall: (
        Spot("permanent", say("permanent, a metre"), 0.01, 0.0),
        Spot("imposed", say("imposed, a metre"), 0.17, 0.0),
        Spot("wall", say("wall, thick"), 0.49, 0.0),
        *(s for s in COMMON if s.field != "length"),
    ),
    TwoColumns: (
        Spot("permanent", say("left: permanent V"), 0.01, 0.0),
        Spot("imposed", say("imposed V"), 0.17, 0.0),
        Spot("permanent_2", say("right: permanent V"), 0.67, 0.0),
        Spot("imposed_2", say("imposed V"), 0.83, 0.0),
        Spot("left", say("overhang left"), 0.17, 0.12),
        Spot("apart", say("column to column"), 0.42, 0.12),
        Spot("right", say("overhang right"), 0.67, 0.12),
        Spot("column_x", say("columns, along x"), 0.34, 0.0),
        Spot("column_y", say("along y"), 0.50, 0.0),
        *(s for s in COMMON if s.field != "width"),
    ),
    Tied: (
        Spot("permanent", say("edge: permanent V"), 0.01, 0.0),
        Spot("imposed", say("imposed V"), 0.17, 0.0),
        Spot("permanent_2", say("inner: permanent V"), 0.67, 0.0),
        Spot("imposed_2", say("imposed V"), 0.83, 0.0),
        Spot("edge", say("axis to boundary"), 0.01, 0.12),
        Spot("apart", say("column to column"), 0.42, 0.12),
        Spot("strap_width", say("strap, wide"), 0.67, 0.12),
        Spot("strap_depth", say("strap, deep"), 0.83, 0.12),
        Spot("column_x", say("columns, along x"), 0.34, 0.0),
        Spot("column_y", say("along y"), 0.50, 0.0),
        *COMMON,
    ),
}
FLANK = 0.17
"""Where the drawing begins, share of the width."""
WIDE = 92
"""Of a field, px."""


def _open(value: float, units: System, decimals: int = 3) -> str:
    """What stands in a field in which nothing was typed: what is proposed, as long as there is room for the word."""
    text = show_length(value, units) if decimals > 2 else f"{to_shown(value, 'm', units):.2f}"
    return say("proposed {text}", text=text) if len(text) <= 4 else f"{text} {shown_unit('m', units)}"


class Field(QWidget):
    """A number with its label above and what it comes to below."""

    def __init__(self, label: str, name: str, parent: QWidget) -> None:
        super().__init__(parent)
        self.label = Label(label, objectName="spot")
        self.edit = QLineEdit(objectName=f"quick-{name}")
        self.edit.setFixedHeight(27)
        self.note = Label(objectName="spot")
        column = QVBoxLayout(self)
        column.setContentsMargins(4, 2, 4, 2)
        column.setSpacing(0)
        for part in (self.label, self.edit, self.note):
            column.addWidget(part)
        self.setFixedWidth(WIDE + 20)
        self.adjustSize()


class AtDrawing(QWidget):
    """The drawing of one start, with its fields laid over it."""

    changed = Signal()

    def __init__(self, kind: type[Start], session: Session, theme: Theme) -> None:
        super().__init__()
        self.kind, self.session = kind, session
        self.start: Start = kind()
        self.wrong: dict[str, str] = {}
        self.view = DrawingView(self._drawing, label(kind.name), self)
        self.view.theme = theme
        self.fields: dict[str, Field] = {}
        for spot in SPOTS[kind]:
            field = Field(spot.label, spot.field, self)
            field.edit.setText(self._text(spot.field))
            if getattr(self.start, spot.field) is None:
                field.edit.setPlaceholderText(say("proposed"))
            field.edit.textEdited.connect(lambda _, name=spot.field: self._typed(name))
            self.fields[spot.field] = field
        self.soil = QComboBox(self, objectName="quick-soil")
        self.soil.addItem(say("no soil: the pressure alone"), "")
        for entry in LIBRARY:
            self.soil.addItem(entry.soil.name, entry.soil.name)
        self.soil.setFixedWidth(WIDE + 110)
        self.soil.activated.connect(lambda _: self._put("soil", self.soil.currentData()))
        self.habits = QComboBox(self, objectName="quick-habit")
        self.habits.addItems([habit.name for habit in HABITS])
        self.habits.setFixedWidth(WIDE + 110)
        self.habits.activated.connect(lambda k: self._work_by(HABITS[k].name))

    @property
    def count(self) -> int:
        """How many inputs there are."""
        return len(self.fields) + 2

    @property
    def units(self) -> System:
        """The set of units in which its numbers are shown and, without a unit, understood."""
        return habit_of(self.start.habit).units

    def _work_by(self, name: str) -> None:
        """Rules, standard and units of another place: what was typed stays, the rest is what is usual there."""
        if name == self.start.habit:
            return
        self.start = self.start.at(habit_of(name))
        for field, shown in self.fields.items():
            shown.edit.setText(self._text(field))
            shown.note.setText("")
            self._mark(field, "")
        self.changed.emit()

    def _text(self, name: str) -> str:
        value, unit = getattr(self.start, name), unit_of(self.kind, name)
        if value is None:
            return ""
        units = self.units
        text = show_length(value, units) if unit == "m" else show(value, unit, units)
        return f"{text} {shown_unit(unit, units)}"

    def _typed(self, name: str) -> None:
        """One number was typed: wrong ones are marked and change nothing."""
        text, unit = self.fields[name].edit.text().strip(), unit_of(self.kind, name)
        optional = getattr(self.kind(), name) is None
        if not text and optional:
            self._put(name, None)
            return
        try:
            value = self.session.parse(text, unit, self.units)
        except UnitError as error:
            self._mark(name, str(error))
            return
        self._put(name, value)
        units = self.units
        plain = f"{show(value, unit, units)} {shown_unit(unit, units)}"
        other = any(c.isalpha() for c in text) and not text.endswith(shown_unit(unit, units))
        self.fields[name].note.setText(f"= {plain}" if other and not self.wrong.get(name) else "")

    def _put(self, name: str, value: Any) -> None:
        try:
            self.start = self.start.replaced(**{name: value})
        except ValidationError as error:
            self._mark(name, problems_of(error)[0].message)
            return
        self._mark(name, "")
        self.changed.emit()

    def _mark(self, name: str, why: str) -> None:
        self.wrong[name] = why
        field = self.fields.get(name)
        if field is not None:
            field.edit.setProperty("wrong", bool(why))
            field.edit.style().unpolish(field.edit)
            field.edit.style().polish(field.edit)
            field.edit.setToolTip(why)
        if why:
            self.session.announce(f"! {why}")

    def refresh(self) -> None:
        """Shows what is proposed."""
        pads, units = self.session.project.pads, self.units
        for name in PLAN:
            field = self.fields.get(name)
            if field is not None and pads:
                field.edit.setPlaceholderText(_open(getattr(pads[0], name), units))
        if isinstance(self.start, TwoColumns) and pads:
            for name, value in (
                ("left", pads[0].edge("-x")),
                ("right", pads[0].edge("+x") - self.start.apart),
            ):
                self.fields[name].edit.setPlaceholderText(_open(value, units, 2))
        if isinstance(self.start, Tied) and self.session.project.straps:
            strap = self.session.project.straps[0]
            for name, value in (("strap_width", strap.width), ("strap_depth", strap.depth)):
                self.fields[name].edit.setPlaceholderText(_open(value, units, 2))
        self.view.refresh()

    def _drawing(self, aspect: float) -> Drawing:
        project = self.session.project
        if not project.pads:
            return Drawing(
                (Text((0.0, 0.0), say("a size is being looked for …"), 12, "soft", "middle"),), (-1, -1, 1, 1)
            )
        if project.straps:
            return tied_drawing(
                project,
                project.straps[0],
                {p.name: base_state(project, p, "allowable", 0) for p in project.pads},
            )
        pad = project.pads[0]
        return section_drawing(project, pad, base_state(project, pad, "allowable", 0), "", aspect)

    def resizeEvent(self, event: QResizeEvent) -> None:
        wide, high = self.width(), self.height()
        # right of the field for the depth: levels stand at the drawing's edge
        left = round(FLANK * wide)
        self.view.setGeometry(left, round(0.13 * high), wide - left, round(0.64 * high))
        for spot in SPOTS[self.kind]:
            field = self.fields[spot.field]
            field.move(
                min(round(spot.x * wide), wide - field.width()),
                min(round(spot.y * high), high - field.height()),
            )
        self.soil.move(round(0.01 * wide) + 4, round(0.78 * high))
        self.habits.move(min(round(0.67 * wide) + 4, wide - self.habits.width()), round(0.78 * high))


class OfStrip(QWidget):
    """A bare strip: its numbers, and what it bears by every method."""

    HEADS = (say("Method"), "Nc", "Nq", "Nγ", say("ultimate, kPa"))
    LABELS = (
        ("cohesion", say("c′ or cu")),
        ("friction", say("φ′, 0: undrained")),
        ("weight", say("γ below")),
        ("surcharge", say("surcharge q")),
        ("width", say("width B")),
        ("roughness", say("roughness, 0 to 1")),
    )

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session, self.strip = session, BareStrip()
        self.sections = _sections(self.strip)
        self.exact = Asked("bare_strip", self._fill, self)
        self.bounds = {
            (part, side): Asked("bound", self._came, self, f"bare-{part}-{side}")
            for part in ("", "N_c", "N_q", "N_gamma")
            for side in SIDES
        }
        self.fields: dict[str, Field] = {}
        row = QHBoxLayout()
        for name, called in self.LABELS:
            field = Field(called, f"strip-{name}", self)
            unit = unit_of(BareStrip, name)
            field.edit.setText(f"{getattr(self.strip, name):g} {shown_unit(unit, session.project.showing)}".strip())
            field.edit.textEdited.connect(lambda _, name=name: self._typed(name))
            self.fields[name] = field
            row.addWidget(field)
        row.addStretch(1)
        self.table = QTableWidget(0, len(self.HEADS), objectName="quick-strip")
        self.table.setHorizontalHeaderLabels(list(self.HEADS))
        self.table.verticalHeader().hide()
        self.table.setEditTriggers(QTableWidget.EditTrigger.NoEditTriggers)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        words = Label(
            say(
                "The factors are those of a strip without end on even ground; c′ and φ′ as they are, no partial factors. Exact: slip lines, of the whole at "
                "once, not the sum of three parts. Bounds: from below and above, for associated flow."
            ),
            objectName="quiet",
            wordWrap=True,
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 12, 10, 10)
        column.addLayout(row)
        column.addWidget(self.table, 1)
        column.addWidget(words)
        self._fill()

    def _typed(self, name: str) -> None:
        edit = self.fields[name].edit
        try:
            value = self.session.parse(edit.text().strip(), unit_of(BareStrip, name))
            self.strip = self.strip.replaced(**{name: value})
            why = ""
        except UnitError as error:
            why = str(error)
        except ValidationError as error:
            why = problems_of(error)[0].message
        edit.setProperty("wrong", bool(why))
        edit.style().unpolish(edit)
        edit.style().polish(edit)
        edit.setToolTip(why)
        if not why:
            self.sections = _sections(self.strip)
            self._ask()
            self._fill()

    def showEvent(self, event: QShowEvent) -> None:
        """What takes seconds is asked for once it is seen."""
        super().showEvent(event)
        self._ask()

    def hideEvent(self, event: QHideEvent) -> None:
        """What is not seen is not waited for: others have the workers."""
        super().hideEvent(event)
        for asked in (self.exact, *self.bounds.values()):
            asked.leave()

    def _ask(self) -> None:
        if self.isVisible():
            self.exact.want((self.strip,), (self.strip,), first=True)
            own = [self.bounds["", side] for side in SIDES]
            for part, section in self.sections.items():
                # those of single factors when the strip itself is bracketed
                known = all(not a.state and a.belongs and a.belongs[0] is self.sections[""] for a in own)
                for side in SIDES if known or not part else ():
                    self.bounds[part, side].want((section,), (section, side, FEWER if part else TRIANGLES))

    def _came(self) -> None:
        self._ask()
        self._fill()

    def _fill(self) -> None:
        rows = []
        for one in of_all_methods(self.strip):
            rows.append((one.method, *(_factor(v) for v in (one.N_c, one.N_q, one.N_gamma)), f"{one.ultimate:.1f}"))
        for roughness in sorted({1.0, 0.0, self.strip.roughness}, reverse=True):
            name, found = say("Exact, {base}", base=_base(roughness)), self.exact.found
            if self.exact.state or found is None:
                rows.append((name, "", "", "", self.exact.state if self.exact.belongs else ""))
            else:
                own = found[roughness]
                rows.append(
                    (name, *(_factor(v, 4) for v in (own.N_c, own.N_q, own.N_gamma)), own.why or f"{own.ultimate:.1f}")
                )
        factors = (self._between(name, 2) for name in ("N_c", "N_q", "N_gamma"))
        rows.append((say("Bounds, {base}", base=_base(self.strip.roughness)), *factors, self._between("", 1)))
        self.table.setRowCount(len(rows))
        for i, row in enumerate(rows):
            for j, text in enumerate(row):
                self.table.setItem(i, j, QTableWidgetItem(text))

    def _between(self, part: str, digits: int) -> str:
        """Both bounds of a factor, or of the pressure, or why there are none."""
        if part and part not in self.sections:
            return ""
        asked = tuple(self.bounds[part, side] for side in SIDES)
        if not all(a.belongs and a.belongs[0] is self.sections[part] for a in asked):
            return ""
        if any(a.state for a in asked):
            return next(a.state for a in asked if a.state) if self.exact.belongs else ""
        low, high = (a.found for a in asked)
        if isinstance(low, str) or isinstance(high, str):
            return low if isinstance(low, str) else str(high)
        return f"{low[0]:.{digits}f} to {high[0]:.{digits}f}"


def _factor(value: float | None, digits: int = 2) -> str:
    return "" if value is None else f"{value:.{digits}f}"


def _base(roughness: float) -> str:
    return {1.0: say("rough base"), 0.0: say("smooth base")}.get(
        roughness, say("roughness {roughness:g}", roughness=roughness)
    )


def _sections(strip: BareStrip) -> dict[str, Section]:
    """What bounds are asked for: the strip, and its factors one by one."""
    return {"": section_of(strip), **parts_of(strip)}


TRIANGLES, FEWER = 1500, 600
"""Of the bounds of a bare strip, and of those of each factor."""
SIDES = ("lower", "upper")
NARROWEST = 680
"""px; with what stands beside it in a window of 1280."""


class QuickStarts(QWidget):
    """All of them, one in front."""

    turned = Signal(bool)
    """Whether that in front has a base with its checks."""

    def __init__(self, session: Session, theme: Theme, take: Callable[[Project], None]) -> None:
        super().__init__(objectName="quick")
        self.session, self.take = session, take
        self.go: QPushButton
        self.pages: list[AtDrawing | OfSettlement | OfStrip] = [AtDrawing(kind, session, theme) for kind in SPOTS]
        ground = OfSettlement(session, theme)
        ground.changed.connect(lambda: self.go.setEnabled(False))
        ground.came.connect(self._ground_came)
        self.pages += [ground, OfStrip(session)]
        self.stack = QStackedWidget()
        self.stack.setMinimumWidth(NARROWEST)  # of the page in front; that of a bare strip has the ledger's room too
        row = QHBoxLayout()
        row.setSpacing(8)
        self.buttons: list[QPushButton] = []
        for k, page in enumerate(self.pages):
            self.stack.addWidget(page)
            name = (
                page.kind.name
                if isinstance(page, AtDrawing)
                else GroundLoad.name
                if isinstance(page, OfSettlement)
                else BareStrip.name
            )
            button = QPushButton(
                label(name), objectName=f"start-{name.replace(' ', '-')}", checkable=True, autoExclusive=True
            )
            button.clicked.connect(lambda _=False, k=k: self.choose(k))
            self.buttons.append(button)
            row.addWidget(button)
            if isinstance(page, AtDrawing):
                page.changed.connect(self._soon)
        row.addStretch(1)
        head = QHBoxLayout()
        head.addWidget(Label(say("Start with a drawing"), objectName="heading"))
        head.addSpacing(6)
        head.addWidget(
            Elided(say("type the numbers you have, in any unit; what is left open is proposed"), objectName="quiet")
        )
        head.addStretch(1)
        self.go = QPushButton(say("Go on with this base"), objectName="start-go")
        self.go.clicked.connect(self._go_on)
        self.state = Elided("", objectName="quiet")
        self.assumed = Label("", objectName="quiet")
        self.assumed.setWordWrap(True)
        foot = QHBoxLayout()
        foot.addWidget(self.go)
        foot.addSpacing(10)
        foot.addWidget(self.state, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 14, 14, 10)
        column.setSpacing(8)
        column.addLayout(head)
        column.addLayout(row)
        column.addWidget(self.stack, 1)
        column.addWidget(self.assumed)
        column.addLayout(foot)
        self._later = QTimer(self, singleShot=True, interval=WAIT)
        self._later.timeout.connect(self._look)
        self._asked: object = None
        session.listen(lambda _: self._refresh(), "changed")
        session.listen(lambda _: self._said(), "said")
        self.choose(0)

    @property
    def page(self) -> AtDrawing | OfSettlement | OfStrip:
        """The one in front."""
        return self.pages[self.stack.currentIndex()]

    def choose(self, k: int) -> None:
        """Brings one in front and looks for its size."""
        self.stack.setCurrentIndex(k)
        self.buttons[k].setChecked(True)
        of_base = isinstance(self.page, AtDrawing)
        of_ground = isinstance(self.page, OfSettlement)
        self.go.setVisible(of_base or of_ground)
        self.go.setText(say("Go on with this ground") if of_ground else say("Go on with this base"))
        self.assumed.setVisible(of_base)
        self.turned.emit(of_base)
        self._soon()

    def _go_on(self) -> None:
        page = self.page
        project = page.project if isinstance(page, OfSettlement) else self.session.project
        if project is not None:
            self.take(project)

    def _ground_came(self) -> None:
        page = self.page
        if isinstance(page, OfSettlement):
            self.go.setEnabled(page.project is not None)
            self.state.setText(say("{count} inputs", count=page.count) + (f" · {page.state}" if page.state else ""))

    def _soon(self) -> None:
        if isinstance(self.page, OfSettlement):
            self.go.setEnabled(False)
            self.page.begin()
        elif isinstance(self.page, AtDrawing):
            self.go.setEnabled(False)
            habit = habit_of(self.page.start.habit)
            backfill = f"{show(Backfill().weight, 'kN/m³', habit.units)} {shown_unit('kN/m³', habit.units)}"
            self.assumed.setText(
                say(
                    "Assumed, and changed at any time: {assumed}, backfill {backfill}, no water.",
                    assumed=habit.assumed,
                    backfill=backfill,
                )
            )
            self.state.setText(say("{count} inputs · a size that holds is being looked for …", count=self.page.count))
            self._later.start()
        else:
            self.state.setText("")

    def _look(self) -> None:
        page = self.page
        if isinstance(page, AtDrawing):
            self._asked = page.start
            pool().run("quick", page.start, (page.start,), self._came, channel="quick", first=True)

    def _came(self, start: object, found: Any) -> None:
        page = self.page
        if start is not self._asked or not isinstance(page, AtDrawing) or page.start is not start:
            return  # another page is in front by now
        if not isinstance(found, Project):
            self.state.setText(found or say("no size could be found; the log tells why"))
            return
        self.session.history, self.session.position = [found], 0
        self.session.saved, self.session.selected = found, found.pads[0].name
        self.session.check = ""
        self.session.start()
        self.go.setEnabled(True)

    def _refresh(self) -> None:
        page, project = self.page, self.session.project
        if not isinstance(page, AtDrawing) or not project.pads:
            return
        page.refresh()
        pad, worst = project.pads[0], self.session.results.pad(project.pads[0].name).worst
        units = project.showing
        size = f"{sizes_text((pad.width, pad.length, pad.thickness), units)}"
        holds = worst.ratio is not None and worst.ratio <= 1.0
        self.state.setText(
            say("{count} inputs · {size} · ", count=page.count, size=size)
            + (
                say("every check that can be done holds")
                if holds
                else say("{title} does not hold", title=worst.check.title)
            )
        )

    def _said(self) -> None:
        if self.session.message.startswith("!"):
            self.state.setText(self.session.message.removeprefix("! "))
