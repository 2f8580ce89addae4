"""The selected base as a strip: how it is taken, which face is seen, and what the section shows of it."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtGui import QActionGroup, QDoubleValidator
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget, QWidgetAction

from korbent.app.asked import Asked
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.stops.stop import Elided
from korbent.app.strip.bracket import Bracket
from korbent.app.strip.envelope import Envelope
from korbent.app.strip.every import Every
from korbent.app.strip.face import Face
from korbent.app.strip.way import SHAPES, Way
from korbent.app.words import Label
from korbent.core.bearing.as_strip import AsStrip, Taken
from korbent.core.plasticity.section import Section
from korbent.drawing.ground_field import WORDS
from korbent.drawing.primitives import Drawing
from korbent.drawing.yielding import Below
from korbent.words import say

CHOICES: tuple[tuple[str, str, tuple[tuple[str, object], ...]], ...] = (
    (
        "load",
        say("Load"),
        (
            (say("V alone grows, in the middle of B′"), "central"),
            (say("V alone grows, H and M held, on all of B"), "V"),
            (say("V, H and M grow together, on all of B"), "all"),
        ),
    ),
    (
        "underside",
        say("Base"),
        ((say("rough"), "rough"), (say("smooth"), "smooth"), (say("friction of the sliding check"), "friction")),
    ),
    ("tension", say("Where it would lift off"), ((say("it lifts off"), False), (say("it holds the ground"), True))),
    ("turns", say("Rotation"), ((say("free to turn"), True), (say("held upright"), False))),
    (
        "across",
        say("Cut"),
        ((say("along the side that governs"), "governing"), (say("along x"), "x"), (say("along y"), "y")),
    ),
    ("strengths", say("Strengths"), ((say("unfactored"), "unfactored"), (say("design"), "design"))),
)
SHOWN = (
    (say("where it yields"), "areas"),
    (say("how it moves"), "arrows"),
    (say("principal stresses of the lower bound"), "crosses"),
    (say("triangles"), "sides"),
    *((word, name) for name, word in WORDS.items()),
)
SAID = {"areas": say("red: yields"), "arrows": say("red: yields and moves"), "sides": say("triangles")}
WITHIN = (("±5 %", 0.05), ("±2 %", 0.02), ("±1 %", 0.01), ("±0.5 %", 0.005))


class StripPanel(QWidget):
    """Computed while it is seen."""

    def __init__(self, session: Session, drainage: Callable[[], str]) -> None:
        super().__init__()
        self.session, self.drainage = session, drainage
        self.taken = Taken()
        self.shows = "areas"
        self.section: Section | None = None
        """What the bounds are asked for: the very same while the ground below the base and its size are equal."""
        self.changed: Callable[[], None] = lambda: None
        """Told when more is known."""
        self.strip = Asked("strip", self._began, self)
        self.bracket, self.way, self.every = Bracket(self), Way(self), Every(self)
        self.faces: tuple[Face, ...] = (
            self.bracket,
            self.every,
            Envelope(self, "V-M", say("What is borne of vertical load and moment at once")),
            Envelope(self, "V-H", say("What is borne of vertical and horizontal load at once")),
            Envelope(
                self,
                "H-M",
                say("What is borne of horizontal load and moment at once, under the vertical load of the combination"),
            ),
            self.way,
        )
        self.face: Face = self.bracket
        self.view = DrawingView(self._drawn, say("Strip"))
        self.view.clicked.connect(self._picked)
        self.view.hovered.connect(self._tell)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(self._tools())
        column.addWidget(self.view, 1)
        self.words = Elided(objectName="quiet")
        below = QHBoxLayout()
        below.setContentsMargins(12, 0, 12, 6)
        below.addWidget(self.words)
        column.addLayout(below)

    # ------------------------------------------------ choices

    def _tools(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(10, 6, 10, 4)
        row.setSpacing(4)
        self.modes: dict[str, QPushButton] = {}
        for face in self.faces:
            button = QPushButton(
                face.name.replace("-", "–"),
                objectName=f"strip-{face.name.lower()}",
                checkable=True,
                autoExclusive=True,
                checked=face is self.face,
                toolTip=face.tip,
            )
            button.clicked.connect(lambda _=False, face=face: self.turn(face))
            row.addWidget(button)
            self.modes[face.name] = button
        row.addStretch(1)
        self.end = QPushButton(
            say("Stop"), objectName="strip-stop", toolTip=say("Ends the refinement; what is known stays")
        )
        self.end.clicked.connect(self.stop)
        self.how = QPushButton(
            say("Taken"),
            objectName="strip-taken",
            toolTip=say("How the base is taken as a strip, and what the section shows"),
        )
        self.menu = self._menu()
        self.how.setMenu(self.menu)
        for button in (self.way.button, self.end, self.how):
            row.addWidget(button)
        return row

    def _menu(self) -> QMenu:
        menu = QMenu(self.how)
        self.groups: list[QActionGroup] = []

        def group(title: str, options: Any, now: object, take: Callable[[Any], None]) -> None:
            own = menu.addMenu(title)
            actions = QActionGroup(self)
            for text, value in options:
                action = own.addAction(text)
                action.setCheckable(True)
                action.setChecked(value == now)
                action.triggered.connect(lambda _=False, value=value: take(value))
                actions.addAction(action)
            self.groups.append(actions)

        for name, title, options in CHOICES:
            group(title, options, getattr(self.taken, name), partial(self._take_one, name))
        psi = menu.addMenu(say("Angle of dilatancy ψ"))
        holder = QWidget()
        inner = QHBoxLayout(holder)
        inner.setContentsMargins(10, 6, 10, 6)
        self.psi = QLineEdit(objectName="strip-psi", placeholderText=say("ψ = φ′, associated flow"))
        self.psi.setValidator(QDoubleValidator(0.0, 50.0, 1, self.psi))
        self.psi.setMinimumWidth(170)
        self.psi.editingFinished.connect(self._dilates)
        inner.addWidget(self.psi)
        inner.addWidget(Label("°", objectName="quiet"))
        action = QWidgetAction(psi)
        action.setDefaultWidget(holder)
        psi.addAction(action)
        menu.addSeparator()
        group(
            say("Bracket to within"),
            WITHIN,
            self.bracket.within,
            lambda value: self._set(self.bracket, "within", value),
        )
        group(say("Curve of"), SHAPES, self.way.shape, lambda value: self._set(self.way, "shape", value))
        group(
            say("Stiffness of the curve"),
            ((say("first loading"), False), (say("reloading"), True)),
            self.way.again,
            lambda value: self._set(self.way, "again", value),
        )
        menu.addSeparator()
        group(say("Section shows"), SHOWN, self.shows, lambda value: self._set(self, "shows", value))
        return menu

    def _take_one(self, name: str, value: object) -> None:
        self.take(**{name: value})

    def take(self, **changes: object) -> None:
        """Takes the base another way."""
        self.taken = replace(self.taken, **changes)  # type: ignore[arg-type]
        self.bracket.stopped = None
        self.refresh()
        self.changed()

    def _dilates(self) -> None:
        text = self.psi.text().replace(",", ".").strip()
        psi = float(text) if text else None
        if psi != self.taken.psi:
            self.take(psi=psi)

    def _set(self, of: object, name: str, value: object) -> None:
        setattr(of, name, value)
        self._began()
        self.changed()

    def turn(self, face: Face) -> None:
        """Shows another face; what is not seen is not waited for."""
        if face is not self.face:
            self.face.leave()
        self.face = face
        self.way.chosen = -1
        self.refresh()
        self._began()
        self.changed()

    def stop(self) -> None:
        """Ends the refinement of the bracket; the best so far stays."""
        self.bracket.stop()
        self.came()

    # ------------------------------------------------ asking

    def refresh(self) -> None:
        """Asks for the selected base, while the panel is seen."""
        self.way.button.setVisible(self.face is self.way)
        pad = self.session.pad
        if pad is None or not self.isVisible():
            return
        drainage, taken = self.drainage(), self.face.taken(self.taken)
        situation = self.session.situation  # the one that is shown everywhere; '' is that which governs
        self.strip.want(
            (self.session.project, pad.name, drainage, repr(taken), situation),
            (self.session.project, pad.name, drainage, taken, situation),
            first=True,
        )
        self.view.refresh()
        self._tell()

    def showEvent(self, event: Any) -> None:
        """What was not asked for while it was not seen is asked for now."""
        super().showEvent(event)
        self.refresh()
        self._began()

    def hideEvent(self, event: Any) -> None:
        """What is not seen is not waited for: others have the workers."""
        super().hideEvent(event)
        for face in self.faces:
            face.leave()

    def _began(self) -> None:
        found = self.strip.found
        if isinstance(found, tuple) and not self.strip.state:
            strip = found[0]
            if strip.section != self.section:
                self.section = strip.section
            self.face.ask(strip)
        self.came()

    def came(self) -> None:
        """A worker has answered."""
        if self.section is not None and not self.strip.state:
            self.face.came()
        self.view.refresh()
        self._tell()
        self.changed()

    # ------------------------------------------------ what is known

    @property
    def shown(self) -> AsStrip | str | None:
        """The strip that is shown, why there is none, or None while it is being computed."""
        own = self.strip.found
        if isinstance(own, tuple):
            return own[0]  # type: ignore[no-any-return]
        return own if isinstance(own, str) and not self.strip.state else None

    def adopted(self) -> str:
        """The method of bearing resistance that the base has."""
        pad = self.session.pad
        return self.session.project.settings_of(pad).bearing_method if pad else ""

    def below(self) -> Below | None:
        """What the section shows of the ground below; None where that is nothing, or the strip does not lie along
        it."""
        strip = self.shown
        if self.strip.state or not self.isVisible() or not isinstance(strip, AsStrip) or not strip.along_x:
            return None
        return self.face.below(strip)

    def value_at(self, x: float, y: float) -> str:
        """What the shown field says at a place: x from the middle of the base, y up from its underside, m."""
        below = self.below()
        return below.fields[0].said(x, y, self.session.project.showing) if below and below.fields else ""

    def said(self) -> str:
        """Of what the section shows, for its title."""
        strip = self.shown
        if not isinstance(strip, AsStrip):
            return ""
        curve = self.face is self.way
        if self.shows in WORDS:
            what = WORDS[self.shows] + (say(" without water") if self.shows in ("vertical", "shear") else "")
            what += "" if curve else say(", lower bound")
            if self.shows == "settlement" and not curve:
                what = say("settlements are those of a point of the curve")
        elif self.shows == "crosses":
            what = "stresses" if curve else say("stresses, lower bound")
        else:
            what = SAID[self.shows]
        return what + (say(" at the chosen point") if curve else "") + f" ({strip.combination})"

    # ------------------------------------------------ drawing

    def _picked(self, key: str) -> None:
        self.face.picked(key)
        self.view.refresh()
        self.changed()

    def _tell(self, over: str = "") -> None:
        self.end.setVisible(self.face is self.bracket and "…" in self.bracket.found().state)
        self.how.setText(say("Taken") if self.taken == Taken() else say("Taken otherwise"))
        strip = self.shown
        words = self.face.words(strip, self.session.project.showing) if isinstance(strip, AsStrip) else ""
        self.words.setText(self.face.over(over) or words)

    def _drawn(self, aspect: float) -> Drawing:
        if self.session.pad is None:
            return Drawing((), (-1.0, -1.0, 1.0, 1.0))
        return self.face.drawn(self.shown or say("being computed …"), self.session.project.showing, aspect)
