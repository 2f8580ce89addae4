"""A raft in the Concrete stop: a field over its plan, and moment and steel along a line that a click places."""

from math import dist

import numpy as np
from PySide6.QtCore import QPointF
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import (
    QButtonGroup,
    QComboBox,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from korbent.app.asked import Asked
from korbent.app.canvas import DrawingView, LineView
from korbent.app.moment import TOLD, day_from
from korbent.app.session import Session
from korbent.app.stops.stop import Pane
from korbent.app.workers import pool
from korbent.core.actions.construction import timeline
from korbent.core.concrete.demand import BeamLine
from korbent.core.concrete.schedule import weight_of
from korbent.core.explain.ground_cut import ground_cut
from korbent.core.explain.raft import FIELDS, Field, Transect, raft_field, transect
from korbent.core.explain.raft_curve import RaftCurve
from korbent.core.explain.raft_line import SHORTEST, Point, RaftLine, raft_line
from korbent.core.explain.rib import along_rib
from korbent.core.model import Project
from korbent.core.model.foundations import Pad
from korbent.core.model.labels import label
from korbent.core.model.plate import AddedBars
from korbent.core.units import length_text, show, shown_unit
from korbent.drawing.beam_line import beam_line_drawing, place_on
from korbent.drawing.ground_cut import ground_cut_drawing
from korbent.drawing.primitives import Drawing, Text
from korbent.drawing.raft import raft_drawing, transect_drawing
from korbent.drawing.raft_curve import raft_curve_drawing, share_at
from korbent.drawing.settlement import day_words
from korbent.drawing.words import show_weight, weight_unit
from korbent.words import say, say_count

NOTHING = Drawing((Text((0, 0), say("no raft is selected"), 11, "soft", "middle"),), (-1, -1, 1, 1))
NAMES = {
    "pressure": say("Pressure"),
    "settlement": say("Settlement"),
    "subgrade": say("Subgrade k"),
    "m_x": "m_x",
    "m_y": "m_y",
    "m_xy": "m_xy",
    "v": say("Shear v"),
    "bottom_x": say("Steel bottom x"),
    "bottom_y": say("Steel bottom y"),
    "top_x": say("Steel top x"),
    "top_y": say("Steel top y"),
}
SHOWN_FIRST = "m_x"


class FieldView(DrawingView):
    """Tells the value under the mouse; a click places the transect."""

    panel: "RaftPanel"

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self.panel.point_at(event.position())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        still = self._pressed is not None and (event.position() - self._pressed).manhattanLength() < 4
        super().mouseReleaseEvent(event)
        key = self.key_at(event.position()) if still else ""
        if key.startswith("rib:"):
            self.panel.look_along(key.removeprefix("rib:"))
        elif still and not self.drawing_line:
            self.panel.cut_at(event.position())


class RaftPanel(QWidget):
    """The field that is chosen, and the transect."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.axis, self.at = "x", 0.0
        self.free: tuple[Point, Point] | None = None
        """A line drawn anywhere, in the place of one along an axis."""
        self._before: Field | str | None = None
        self._cut: Transect | RaftLine | str | None = None
        self.what = QComboBox(objectName="raft-field")
        self.what.setToolTip(say("What is shown over the raft; the situation that is chosen, else the envelope of all"))
        for name, text in NAMES.items():
            self.what.addItem(text, name)
        self.what.setCurrentIndex(self.what.findData(SHOWN_FIRST))
        self.what.activated.connect(lambda _: self.refresh())
        self.field = FieldView(self._field, say("Raft from above"))
        self.field.panel = self
        self.propose = QPushButton(say("Propose regions"), objectName="propose-added")
        self.propose.setToolTip(
            say(
                "Regions of added bars where the basic bars are too little, in the place of those that there are; the basic bars stay"
            )
        )
        self.propose.clicked.connect(self.ask)
        self.propose.hide()
        self.timed = False
        self.at_day = Asked("raft_day", self.refresh, self)
        self.moment = QLineEdit(
            objectName="raft-moment",
            accessibleName=say("Moment at which the raft is shown"),
            placeholderText=say("at a day"),
        )
        self.moment.setFixedWidth(84)
        self.moment.setToolTip(
            say(
                "The raft at a moment, under the loads that are there then and on the ground as it has settled "
                "until then: {told}. Empty: as the combinations ask",
                told=TOLD,
            )
        )
        self.moment.returnPressed.connect(self.look_at)
        choice = QWidget()
        beside = QHBoxLayout(choice)
        beside.setContentsMargins(0, 0, 0, 0)
        beside.addWidget(self.moment)
        beside.addWidget(self.what)
        self.field_pane = Pane(say("From above"), self.field, "", choice)
        self.line = LineView(self._line, say("Transect"))
        self.line.at.connect(self._value)
        tools = QWidget()
        row = QHBoxLayout(tools)
        row.setContentsMargins(0, 0, 0, 0)
        self.rib = QComboBox(objectName="raft-rib")
        self.rib.setToolTip(say("Shears and moments along a rib, or the plate along a line"))
        self.rib.activated.connect(lambda _: self.refresh())
        self.rib.hide()  # until it is known that there are some
        row.addWidget(self.rib)
        self.axes: dict[str, QPushButton] = {}
        ways = QButtonGroup(self)  # one of them
        for axis in "xy":
            button = QPushButton(axis, objectName=f"transect-{axis}", checkable=True, checked=axis == "x")
            button.setToolTip(
                say(
                    "Bars along {axis}, moments along a line in that direction; a click on the raft moves it", axis=axis
                )
            )
            button.clicked.connect(lambda _=False, axis=axis: self.turn(axis))
            self.axes[axis] = button
            ways.addButton(button)
            row.addWidget(button)
        self.drawn = QPushButton(say("Line"), objectName="transect-line", checkable=True)
        self.drawn.setToolTip(
            say("A line anywhere: draw it over the raft with the mouse, from end to end; x or y leads back")
        )
        self.drawn.toggled.connect(self._draws)
        self.field.lined.connect(self.cut_along)
        ways.addButton(self.drawn)
        row.addWidget(self.drawn)
        self.ground = QPushButton(say("Ground"), objectName="transect-ground", checkable=True)
        self.ground.setToolTip(say("Settlement, pressure and shear along the line, in the place of moment and steel"))
        self.ground.clicked.connect(lambda on: self._only(self.ground, on))
        row.addWidget(self.ground)
        self.deep = QPushButton(say("Depth"), objectName="transect-depth", checkable=True)
        self.deep.setToolTip(say("The ground below the line: strata, added stress, and the base as it bends"))
        self.deep.clicked.connect(lambda on: self._only(self.deep, on))
        row.addWidget(self.deep)
        self.load = QPushButton(say("Load"), objectName="transect-load", checkable=True)
        self.load.setToolTip(say("Settlement of middle, edges and corners while the load grows"))
        self.load.clicked.connect(lambda on: self._only(self.load, on))
        row.addWidget(self.load)
        self.curve = Asked("curve", lambda: self.line.refresh(), self)
        self.line_pane = Pane(say("Transect"), self.line, "", tools)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        whole = QHBoxLayout()
        whole.setSpacing(0)
        whole.addWidget(self.field_pane, 3)
        whole.addWidget(self.line_pane, 2)
        column.addLayout(whole)

    @property
    def band(self) -> float:
        """Over which the transect averages: two thicknesses, at least a metre, m."""
        pad = self.session.pad
        return max(2 * pad.thickness, 1.0) if pad else 1.0

    def ask(self) -> None:
        """Asks a worker for regions of added bars."""
        pad, project = self.session.pad, self.session.project
        if pad is None or pad.kind != "raft":
            return
        if pad.frozen:
            self.session.announce(say("! {pad} is {frozen}: its bars stay", pad=pad.name, frozen=label(pad.frozen)))
            return
        self.propose.setEnabled(False)
        self.session.announce(say("{pad}: looking where the basic bars are too little …", pad=pad.name))
        pool().run("added", (project, pad.name), (project, pad.name), self._came, channel="added")

    def _came(self, asked: tuple[Project, str], found: tuple[AddedBars, ...] | str | None) -> None:
        self.propose.setEnabled(True)
        project, name = asked
        session = self.session
        if project is not session.project:
            session.announce(say("the project has changed meanwhile: propose the bars again"))
        elif found is None or isinstance(found, str):
            session.announce(f"! {found or say('the bars could not be proposed; the log tells why')}")
        else:
            pad = project.pad(name)
            assert pad.plate is not None
            if found == pad.plate.added:
                session.announce(say("{name}: the added bars are those that would be proposed", name=name))
                return
            new = pad.replaced(plate=pad.plate.replaced(added=found))
            pads = tuple(new if p is pad else p for p in project.pads)
            more = project.replaced(pads=pads)
            change = weight_of(more, new) - weight_of(project, pad)
            u = project.showing
            regions = (
                say_count(len(found), "{number} region of added bars", "{number} regions of added bars")
                if found
                else say("the basic bars are enough, none are added")
            )
            session.apply(
                more,
                f"{name}: {regions}, {'+' if change >= 0 else '−'}{show_weight(abs(change), u)} {weight_unit(u)}",
            )

    def _only(self, button: QPushButton, on: bool) -> None:
        """One of ground, depth and load, or none."""
        for other in (self.ground, self.deep, self.load):
            other.setChecked(on and other is button)
        self.refresh()

    def turn(self, axis: str) -> None:
        """The transect runs along this axis."""
        self.axis, self.at, self.free = axis, 0.0, None
        self.refresh()

    def _draws(self, on: bool) -> None:
        """A line is drawn with the mouse from now on, or along an axis again."""
        self.field.drawing_line = on
        if on:
            self.session.announce(say("press on the raft where the line begins, let go where it ends"))

    def cut_along(self, x0: float, y0: float, x1: float, y1: float) -> None:
        """The transect is a line that was drawn."""
        pad = self.session.pad
        if pad is None:
            return
        ends = [
            (min(max(x, -pad.width / 2), pad.width / 2), min(max(y, -pad.length / 2), pad.length / 2))
            for x, y in ((x0, y0), (x1, y1))
        ]
        first, last = ((round(x, 2), round(y, 2)) for x, y in ends)
        if dist(first, last) < SHORTEST:
            self.session.announce(say("! that line is too short: press where it begins, let go where it ends"))
            return
        self.free = first, last
        self.rib.setCurrentIndex(0)
        for other in (self.deep, self.load):
            other.setChecked(False)
        self.refresh()

    def look_at(self) -> None:
        """The raft at the moment that was typed, which is that of all settlements; as the combinations ask where it is
        empty."""
        text = self.moment.text().strip()
        project = self.session.project
        try:
            day = day_from(text, timeline(project).start if project.actions.steps else None) if text else None
        except ValueError as error:
            self.session.announce(f"! {error}")
            return
        self.timed = day is not None
        if day is not None:
            self.session.day = max(day, 0.0)
        self.refresh()

    def look_along(self, name: str) -> None:
        """Shows the forces along a rib."""
        self.rib.setCurrentIndex(max(self.rib.findData(name), 0))
        self.refresh()

    def cut_at(self, position: QPointF) -> None:
        """Moves the transect to a place of the drawing."""
        pad = self.session.pad
        if pad is None:
            return
        x, y = self.field.placement().back(position.x(), position.y())
        half = (pad.length if self.axis == "x" else pad.width) / 2
        at = y if self.axis == "x" else x
        if abs(at) <= half:
            self.at, self.free = round(at, 2), None
            self.rib.setCurrentIndex(0)
            self.refresh()

    def _fill_ribs(self, pad: Pad) -> None:
        """The ribs of the raft, to be looked at along."""
        names = [r.name for r in pad.plate.ribs] if pad.plate else []
        if [self.rib.itemData(i) for i in range(1, self.rib.count())] != names:
            chosen = self.rib.currentData()
            self.rib.clear()
            self.rib.addItem(say("plate"), "")
            for name in names:
                self.rib.addItem(say("rib {name}", name=name), name)
            self.rib.setCurrentIndex(max(self.rib.findData(chosen), 0))
        self.rib.setVisible(bool(names))

    def _along(self) -> BeamLine | str | None:
        """Forces along the rib that is chosen; None where the plate is."""
        pad, name = self.session.pad, self.rib.currentData()
        if pad is None or not name or pad.name in self.session.waiting:
            return say("being computed") if name and pad is not None else None
        return along_rib(self.session.project, pad, _interned(name))

    def _value(self, x: float) -> None:
        """Says the forces of a rib, or the settlements, under the mouse."""
        found = self._along()
        if found is None and self.load.isChecked() and isinstance(self.curve.found, RaftCurve):
            self._settled(self.curve.found, x)
            return
        if not isinstance(found, BeamLine):
            return
        s, u = place_on(found, x), self.session.project.showing
        values = found.value(s)
        if values is None:
            self.session.announce("")
            return
        V, M = (" to ".join(show(v, unit, u) for v in pair) for pair, unit in ((values[:2], "kN"), (values[2:], "kNm")))
        twist = found.twist(s)
        T = "" if twist is None else f", T {' to '.join(show(v, 'kNm', u) for v in twist)} {shown_unit('kNm', u)}"
        self.session.announce(
            say(
                "{title} at {length}: V {V} {unit}, M {M} {other_unit}{T}",
                title=found.title,
                length=length_text(s, u),
                V=V,
                unit=shown_unit("kN", u),
                M=M,
                other_unit=shown_unit("kNm", u),
                T=T,
            )
        )

    def _settled(self, curve: RaftCurve, x: float) -> None:
        """Says what settles least and most under the load at the mouse."""
        share, u = share_at(curve, x), self.session.project.showing
        if share is None:
            self.session.announce("")
            return
        by_place = sorted(
            (float(np.interp(share, curve.shares, s)), name)
            for (name, *_), s in zip(curve.places, curve.settlement)
            if not np.isnan(s).any()
        )
        (least, first), (most, last) = by_place[0], by_place[-1]
        mm = shown_unit("mm", u)
        self.session.announce(
            say(
                "under {share} {unit} ({share_2:.0%}): {first} {least} {mm} to {last} {most} {mm}",
                share=show(share * curve.load, "kN", u),
                unit=shown_unit("kN", u),
                share_2=share,
                first=first,
                least=show(1000 * least, "mm", u),
                mm=mm,
                last=last,
                most=show(1000 * most, "mm", u),
            )
        )

    def point_at(self, position: QPointF) -> None:
        """Says the value under the mouse."""
        field = self._found()
        if not isinstance(field, Field):
            return
        value = field.at(*self.field.placement().back(position.x(), position.y()))
        units = self.session.project.showing
        text = "" if value is None else f"{show(value, field.unit, units)} {shown_unit(field.unit, units)}"
        self.field_pane.detail.setText(f"{self._said_of(field)}  {text}")

    def _found(self) -> Field | str | None:
        pad = self.session.pad
        if pad is None or pad.kind != "raft":
            return None
        if pad.name in self.session.waiting:
            return self._before or say("being computed")
        what = str(self.what.currentData())
        if self.timed and self.session.day is not None:
            return self._then(pad, what, self.session.day)
        self._before = raft_field(self.session.project, pad, what, _interned(self.session.situation))
        return self._before

    def _then(self, pad: Pad, what: str, day: float) -> Field | str:
        """The field at a day, as a worker finds it; that of another day stays meanwhile."""
        project = self.session.project
        if self.at_day.belongs[1:3] != (pad.name, what):
            self.at_day.forget()
        asked = (pad.name, what, day)
        self.at_day.want((project, *asked), (project, *asked))
        found: Field | str | None = self.at_day.found
        return self.at_day.state if found is None else found

    def _said_of(self, found: Field | str | None) -> str:
        """For which situation, or for which moment, the field stands."""
        if not isinstance(found, Field):
            return ""
        if not self.timed or self.session.day is None:
            return found.situation
        return f"{self.at_day.state or 'at'} {day_words(self.session.day)}"

    def _field(self, _: float) -> Drawing:
        pad, result, found = self.session.pad, self.session.result, self._found()
        if pad is None or result is None or found is None:
            return NOTHING
        return raft_drawing(self.session.project, pad, result, found, (*self._ends(pad), self.band), self.session.lit)

    def _ends(self, pad: Pad) -> tuple[Point, Point]:
        """Of the transect, from the middle of the raft, m."""
        if self.free is not None:
            return self.free
        half = (pad.width if self.axis == "x" else pad.length) / 2
        return ((-half, self.at), (half, self.at)) if self.axis == "x" else ((self.at, -half), (self.at, half))

    def _line(self, aspect: float) -> Drawing:
        pad = self.session.pad
        if pad is None or pad.kind != "raft":
            return NOTHING
        along = self._along()
        if isinstance(along, BeamLine):
            return beam_line_drawing(along, self.session.project.showing, aspect)
        if isinstance(along, str):
            return Drawing((Text((0, 0), along, 11, "soft", "middle"),), (-1, -1, 1, 1))
        if self.deep.isChecked():
            late = pad.name in self.session.waiting
            return ground_cut_drawing(
                say("being computed") if late else ground_cut(self.session.project, pad, self.axis, self.at),
                self.session.project.showing,
            )
        if self.load.isChecked():
            return self._under_load(pad, aspect)
        if pad.name not in self.session.waiting:
            self._cut = (
                transect(self.session.project, pad, self.axis, self.at, self.band)
                if self.free is None
                else raft_line(self.session.project, pad, *self.free, self.band)
            )
        return transect_drawing(
            self._cut or say("being computed"), self.session.project.showing, aspect, self.ground.isChecked()
        )

    def _under_load(self, pad: Pad, aspect: float) -> Drawing:
        """Settlement against load, as a worker finds it."""
        project = self.session.project
        if self.curve.belongs[1:] != (pad.name,):
            self.curve.forget()
        self.curve.want((project, pad.name), (project, pad.name))
        found, state = self.curve.found, self.curve.state
        return raft_curve_drawing(state if found is None else found, project.showing, aspect, state)

    def refresh(self) -> None:
        """Shows the raft as it is now."""
        pad = self.session.pad
        if pad is not None and pad.kind == "raft":
            found = self._found()
            late = say("out of date, being computed") if pad.name in self.session.waiting else ""
            self.field_pane.title.setText(say("Raft  {pad}", pad=pad.name))
            self.field_pane.detail.setText(late or self._said_of(found))
            if not self.moment.hasFocus():
                day = self.session.day
                self.moment.setText(day_words(day) if self.timed and day is not None else "")
            units = self.session.project.showing
            self._fill_ribs(pad)
            rib, under_load = self.rib.currentData(), self.load.isChecked()
            for part in (self.ground, self.deep, self.load):
                part.setVisible(not rib)
            for part in (*self.axes.values(), self.drawn):
                part.setVisible(not rib and not under_load)
            # the ground is cut along an axis
            self.deep.setVisible(not rib and self.free is None)
            # where it runs: the title is never cut short
            place = f"{'y' if self.axis == 'x' else 'x'} {length_text(self.at, units)}"
            if self.free is not None:
                place = length_text(dist(*self.free), units)
            self.line_pane.title.setText(say("Rib  {rib}", rib=rib) if rib else "" if under_load else place)
        self.field.refresh()
        self.line.refresh()


_labels: dict[str, str] = {}


def _interned(label: str) -> str:
    """The same object for the same label: what is remembered by it is found again."""
    return _labels.setdefault(label, label)


assert set(NAMES) == set(FIELDS)
