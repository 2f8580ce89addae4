"""Settlement: the ground below the selected foundation, settlement against time, and the plan, all at one moment in
time."""

from collections.abc import Sequence

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import (
    QApplication,
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from korbent.app.canvas import DrawingView
from korbent.app.divided import below, beside
from korbent.app.moment import TOLD, day_from
from korbent.app.stops.signposts import SETTLEMENT
from korbent.app.stops.stop import Pane, Stop
from korbent.app.workers import pool
from korbent.core.explain.settlement import curve, springs
from korbent.core.explain.settlement import methods as compared
from korbent.core.model import Project, SettlementMark
from korbent.core.model.labels import label
from korbent.core.quantity_text import parse
from korbent.core.settlement.history import (
    YEAR,
    History,
    PadHistory,
    mark_history,
)
from korbent.core.settlement.limits import limits_of
from korbent.core.units import UnitError, show_length, shown_unit
from korbent.drawing.primitives import Drawing
from korbent.drawing.settlement import (
    SCALES,
    day_of,
    day_words,
    depth_columns,
    said,
    settlement_plan,
    sublayer_table,
    time_chart,
)
from korbent.drawing.settlement.compared import curve_drawing, curve_table, methods_drawing, springs_drawing
from korbent.files.settlement_tables import time_header, time_rows
from korbent.words import say


class SettlementStop(Stop):
    """One moment in time drives depth columns, chart and plan; a drag in the chart moves it."""

    post = SETTLEMENT

    def build(self) -> None:
        session = self.session
        self.found: History | None = None
        self.plain: PadHistory | None = None
        self.belongs: Project | None = None
        self.computing: Project | None = None
        self.columns = DrawingView(self._columns, say("Ground below the foundation"))
        self.chart = DrawingView(self._chart, say("Settlement against time"))
        self.chart.follows = True
        self.chart.along = "x"
        self.chart.dragged.connect(self._drag)
        self.plan = DrawingView(self._plan, say("Settlement in the plan"))
        self.plan.clicked.connect(lambda key: session.select(key.removeprefix("pad:")))
        self.views += [self.columns, self.chart, self.plan]
        self.scale = QComboBox(objectName="time-scale", accessibleName=say("Scale of time"))
        for name in SCALES:
            self.scale.addItem(say("{name} time", name=label(name)), name)
        self.scale.activated.connect(lambda _: self.chart.refresh())
        self.moment = QLineEdit(
            objectName="moment", accessibleName=say("Moment that is shown"), placeholderText=say("moment")
        )
        self.moment.setFixedWidth(96)
        self.moment.setToolTip(say("The moment that is shown: {told}", told=TOLD))
        self.moment.returnPressed.connect(self._typed)
        self.point = QComboBox(objectName="point")
        self.point.setToolTip(say("What is looked at: the selected foundation, or a settlement mark"))
        self.point.activated.connect(lambda _: self._show())
        self.degree = QLineEdit(
            objectName="degree",
            accessibleName=say("Degree of consolidation, at a level"),
            placeholderText=say("90 % at −4.0"),
        )
        self.degree.setFixedWidth(96)
        self.degree.setToolTip(
            say(
                "When is a degree of consolidation reached: type 90 % for the settlement, or 90 % at a level for the pore pressure there"
            )
        )
        self.degree.returnPressed.connect(self._asked)
        self.time_button = QPushButton(say("Copy"), objectName="copy-time")
        self.time_button.setToolTip(say("Settlement over time with its parts, with units, for a spreadsheet"))
        self.time_button.clicked.connect(self.copy_time)
        self.copy_button = QPushButton(say("Copy sublayers"), objectName="copy-sublayers")
        self.copy_button.setToolTip(say("All cells at this moment, with units, for a spreadsheet"))
        self.copy_button.clicked.connect(self.copy)
        self.methods = DrawingView(self._methods, say("Settlement by methods"))
        self.curve = DrawingView(self._curve, say("Load and settlement"))
        self.springs = DrawingView(self._springs, say("The ground as springs"))
        self.views += [self.methods, self.curve, self.springs]
        self.stack = QStackedWidget()
        self.choices: list[QPushButton] = []
        for i, (text, view, tip) in enumerate(
            (
                (say("Over depth"), self.columns, say("Stress, strain, settlement and pore pressure over level")),
                (
                    say("Methods"),
                    self.methods,
                    say("The settlement of the base alone by every method that its strata allow"),
                ),
                (say("Curve"), self.curve, say("Settlement over load up to the ultimate pressure")),
                (say("Springs"), self.springs, say("The stiffness that the strata imply, beside rules of thumb")),
            )
        ):
            self.stack.addWidget(view)
            button = QPushButton(
                text,
                objectName=f"ground-{text.split()[-1].lower()}",
                checkable=True,
                autoExclusive=True,
                checked=i == 0,
            )
            button.setToolTip(tip)
            button.clicked.connect(lambda _=False, i=i: self._bring(i))
            self.choices.append(button)
        self.columns_pane = Pane(
            say("Ground below"), self.stack, tools=self._tools(self.point, *self.choices, self.copy_button)
        )
        self.chart_pane = Pane(
            say("Over time"),
            self.chart,
            tools=self._tools(self.degree, self.moment, self.scale, self.time_button),
        )
        self.plan_pane = Pane(say("Plan"), self.plan)
        bottom = beside(self, "settlement-bottom", (self.chart_pane, 11), (self.plan_pane, 9))
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(below(self, "settlement", (self.columns_pane, 6), (bottom, 5)))
        # asked for once the edits of the moment are done, so that a row of steps is computed once
        self._later = QTimer(self, singleShot=True, interval=60)
        self._later.timeout.connect(self._compute)

    @staticmethod
    def _tools(*widgets: QWidget) -> QWidget:
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(6)
        for widget in widgets:
            row.addWidget(widget)
        return box

    # ------------------------------------------------------------ the moment

    @property
    def day(self) -> float:
        """The moment that is shown, days from the first step."""
        horizon = float(self.found.times[-1]) if self.found else self.session.project.settings.settlement_years * YEAR
        return horizon if self.session.day is None else min(self.session.day, horizon)

    def set_day(self, day: float) -> None:
        """Moves the moment; everything follows."""
        self.session.day = max(day, 0.0)
        self._show()

    def _drag(self, key: str, x: float, _: float) -> None:
        if key == "moment" and self.found:
            day = day_of(x / 10.0, float(self.found.times[-1]), str(self.scale.currentData()))
            self.set_day(round(day) if day > 20 else day)

    def _typed(self) -> None:
        text = self.moment.text()
        try:
            self.set_day(day_from(text, self.found.start if self.found else None))
        except ValueError as error:
            self.session.announce(f"! {error}")

    def _bring(self, index: int) -> None:
        self.stack.setCurrentIndex(index)
        self.copy_button.setVisible(index in (0, 2))
        self.copy_button.setText(say("Copy curve") if index == 2 else say("Copy sublayers"))
        self._show()

    def _methods(self, aspect: float) -> Drawing:
        project, pad = self.session.project, self.session.pad
        if pad is None:
            return said(say("no foundation is selected"))
        return methods_drawing(
            *compared(project, pad), 1000 * limits_of(project.settings_of(pad)).total, project.showing, aspect
        )

    def _curve(self, aspect: float) -> Drawing:
        project, pad = self.session.project, self.session.pad
        return (
            curve_drawing(curve(project, pad), project.showing, aspect)
            if pad
            else said(say("no foundation is selected"))
        )

    def _springs(self, aspect: float) -> Drawing:
        pad = self.session.pad
        return (
            springs_drawing(*springs(self.session.project, pad), self.session.project.showing, aspect)
            if pad
            else said(say("no foundation is selected"))
        )

    def copy(self) -> None:
        """Puts the sublayers, or the curve, on the clipboard."""
        pad = self.session.pad
        if pad and self.stack.currentIndex() == 2:
            QApplication.clipboard().setText(
                curve_table(curve(self.session.project, pad), self.session.project.showing)
            )
            self.session.announce(say("{pad}: the curve is copied", pad=pad.name))
            return
        own = self._own()
        if own is None or own.why:
            self.session.announce(say("! there is no settlement to copy yet"))
            return
        QApplication.clipboard().setText(sublayer_table(self.session.project, own, self.day))
        self.session.announce(say("{own}: {stratum} sublayers copied", own=own.name, stratum=len(own.stratum)))

    # ------------------------------------------------------------ computing and showing

    def _compute(self) -> None:
        project, name = self.session.project, self.session.selected
        if self.belongs is project and (not project.actions.drains or self.plain is None or self.plain.name == name):
            return
        if self.computing is project:
            return
        self.computing = project
        pool().run("settled", (project, name), (project, name), self._computed, channel="settled")

    def _computed(self, token: tuple[Project, str], found: tuple[History, PadHistory | None] | None) -> None:
        self.computing = None
        if found is None:
            self.session.announce(say("! the settlement over time could not be computed; see the log"))
            return
        if token[0] is not self.session.project:
            self._later.start()  # something changed meanwhile
            if self.belongs is None:
                self.found, self.plain = found
            self._show()
            return
        self.found, self.plain = found
        self.belongs = token[0]
        self._show()

    def _own(self) -> PadHistory | None:
        mark = self._mark()
        if mark is not None:
            return mark_history(self.session.project, mark)
        return self.found.pad(self.session.selected) if self.found else None

    def _mark(self) -> SettlementMark | None:
        """The mark that is looked at; none where it is the selected foundation."""
        name = self.point.currentData()
        marks = self.session.project.actions.marks
        if name is None and not self.session.project.pads and marks:
            return marks[0]
        return next((m for m in marks if m.name == name), None)

    def _points(self) -> None:
        """Offers the marks that there are."""
        names = [m.name for m in self.session.project.actions.marks]
        if [self.point.itemData(i) for i in range(1, self.point.count())] == names and self.point.count():
            return
        chosen = self.point.currentData()
        self.point.clear()
        self.point.addItem(say("foundation"), None)
        for name in names:
            self.point.addItem(say("mark {name}", name=name), name)
        self.point.setCurrentIndex(max(self.point.findData(chosen), 0) if chosen else 0)
        self.point.setVisible(bool(names))

    def _asked(self) -> None:
        """Says when a degree is reached."""
        own, text = self._own(), self.degree.text().strip()
        if own is None or own.why:
            self.session.announce(say("! there is no settlement over time yet"))
            return
        share, _, level = text.replace("−", "-").partition("at")
        try:
            degree = parse(share.replace("%", "").strip(), "") / 100.0
            at = parse(level.strip(), "m", self.session.project.showing) if level.strip() else None
        except (UnitError, ValueError):
            degree, at = 0.0, None
        if not 0.0 < degree < 1.0:
            self.session.announce(
                say("! '{text}' is no degree: type 90 %, or 90 % at a level such as 90 % at -4.0", text=text)
            )
            return
        if at is None:
            several = own.crossings(degree)
            before = (
                say("; passed before at {days}", days=", ".join(day_words(d) for d in several[:-1]))
                if len(several) > 1
                else ""
            )
            self.session.announce(
                say(
                    "{own}: {degree:g} % of primary at {days}{before}",
                    own=own.name,
                    degree=100 * degree,
                    days=day_words(own.time_to(degree)),
                    before=before,
                )
            )
        else:
            shown = show_length(at, self.session.project.showing)
            self.session.announce(
                say(
                    "{own}: {degree:g} % at {shown} {unit} after {days}",
                    own=own.name,
                    degree=100 * degree,
                    shown=shown,
                    unit=shown_unit("m", self.session.project.showing),
                    days=day_words(own.time_at_level(degree, at)),
                )
            )

    def copy_time(self) -> None:
        """Puts the settlement over time of what is looked at on the clipboard."""
        own = self._own()
        if own is None or own.why or self.found is None:
            self.session.announce(say("! there is no settlement to copy yet"))
            return
        project = self.session.project
        rows: list[Sequence[object]] = [
            time_header(project),
            *time_rows(project, self.found, own, every=True),
        ]
        QApplication.clipboard().setText("\n".join("\t".join(str(v) for v in row) for row in rows))
        self.session.announce(say("{own}: {rows} moments copied", own=own.name, rows=len(rows) - 1))

    def _columns(self, aspect: float) -> Drawing:
        own = self._own()
        return depth_columns(self.session.project, own, self.day, aspect) if own else said(say("computing …"))

    def _chart(self, aspect: float) -> Drawing:
        if not self.found or (not self.session.pad and self._mark() is None):
            return said(say("computing …"))
        plain = self.plain if self.plain is not None and self.plain.name == self.session.selected else None
        return time_chart(
            self.session.project,
            self.found,
            self.session.selected,
            self.day,
            str(self.scale.currentData()),
            aspect,
            plain,
            self._own(),
        )

    def _plan(self, _: float) -> Drawing:
        return (
            settlement_plan(self.session.project, self.found, self.day, self.session.selected)
            if self.found
            else said(say("computing …"))
        )

    def refresh(self) -> None:
        self._later.start()
        self._show()

    def _show(self) -> None:
        self._points()
        for view in self.views:
            view.refresh()
        if not self.moment.hasFocus():
            self.moment.setText(day_words(self.day))
        stale = self.found is not None and self.belongs is not self.session.project
        step = _construction_at(self.found, self.day) if self.found else ""
        date = (
            f" · {self.found.date(self.day).isoformat()}" if self.found and self.session.project.actions.steps else ""
        )
        old = say("out of date, being computed · ") if stale else ""
        mark = self._mark()
        self.columns_pane.title.setText(
            say("Ground below {mark}", mark=mark.name if mark else self.session.selected).strip()
        )
        if self.stack.currentIndex():
            old, date, step = say("the base alone · "), "", ""
        self.columns_pane.detail.setText(
            say("{old}all loads{step} · {days}{date}", old=old, step=step, days=day_words(self.day), date=date)
        )
        self.plan_pane.detail.setText(say("at {days}", days=day_words(self.day)))


def _construction_at(found: History, day: float) -> str:
    """The construction step in force at a day, in words."""
    begun = [step.name for step, day0 in zip(found.line.steps, found.line.begins) if day0 <= day + 1e-9]
    return f" · {begun[-1]}" if begun else ""
