"""The selected base as a strip: bounds from below and above in two workers, coarse first, then refined, with the exact value where there is
one; what it bears of V, H and M at once; and load against settlement up to collapse."""

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Any

from PySide6.QtGui import QActionGroup, QDoubleValidator, QGuiApplication
from PySide6.QtWidgets import QHBoxLayout, QLineEdit, QMenu, QPushButton, QVBoxLayout, QWidget, QWidgetAction

from korbent.app.asked import Asked, same
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.app.stops.base import Elided
from korbent.app.words import Label
from korbent.core.bearing.as_strip import AsStrip, Taken, by_method
from korbent.core.bearing.methods import METHODS
from korbent.core.explain.collapse import SeenCurve, Shape, base_of
from korbent.core.plasticity.envelope import Plane, along, rays
from korbent.core.plasticity.section import Section
from korbent.drawing.collapse import Beside, beside_of, collapse_chart, collapse_said
from korbent.drawing.envelope import Known, envelope_chart, envelope_said
from korbent.drawing.ground_field import WORDS
from korbent.drawing.primitives import Drawing
from korbent.drawing.strip_chart import Found, strip_chart, strip_said
from korbent.drawing.yielding import Below
from korbent.files.pasted import pairs_of

if TYPE_CHECKING:
    from korbent.core.plasticity.path import Base

SIDES = ("lower", "upper")
SIZES = (500, 1500, 4000, 10000)
"""Triangles of the brackets, one after the other, until both bounds are as near as asked."""
RAY = 900
"""Triangles of the bounds of an envelope."""
CURVE = (300, 900)
MODES = ("Bracket", "V-M", "V-H", "H-M", "Curve")
TIPS = (
    "Exact, and bracketed from below and above, beside every method",
    "What is borne of vertical load and moment at once",
    "What is borne of vertical and horizontal load at once",
    "What is borne of horizontal load and moment at once, under the vertical load of the combination",
    "Load against settlement up to collapse",
)
CHOICES: tuple[tuple[str, str, tuple[tuple[str, object], ...]], ...] = (
    ("load", "Load", (("V alone grows, in the middle of B′", "central"), ("V alone grows, H and M held, on all of B", "V"), ("V, H and M grow together, on all of B", "all"))),
    ("underside", "Base", (("rough", "rough"), ("smooth", "smooth"), ("friction of the sliding check", "friction"))),
    ("tension", "Where it would lift off", (("it lifts off", False), ("it holds the ground", True))),
    ("turns", "Rotation", (("free to turn", True), ("held upright", False))),
    ("across", "Cut", (("along the side that governs", "governing"), ("along x", "x"), ("along y", "y"))),
    ("strengths", "Strengths", (("unfactored", "unfactored"), ("design", "design"))),
)  # fmt: skip
SHAPES: tuple[tuple[str, Shape], ...] = (("rigid strip", "rigid strip"), ("flexible strip", "flexible strip"), ("circle of equal area", "circle"))  # fmt: skip
SHOWN = (("where it yields", "areas"), ("how it moves", "arrows"), ("principal stresses of the lower bound", "crosses"), ("triangles", "sides"), *((word, name) for name, word in WORDS.items()))  # fmt: skip
WITHIN = (("±5 %", 0.05), ("±2 %", 0.02), ("±1 %", 0.01), ("±0.5 %", 0.005))


class StripPanel(QWidget):
    """Computed while it is seen."""

    def __init__(self, session: Session, drainage: Callable[[], str]) -> None:
        super().__init__()
        self.session, self.drainage = session, drainage
        self.taken = Taken()
        self.mode = MODES[0]
        self.shape: Shape = "rigid strip"
        self.again, self.shows, self.within = False, "areas", 0.02
        self.stopped: Section | None = None
        """The section whose bracket is not to be refined any more."""
        self.section: Section | None = None
        """What the bounds are asked for: the very same while the ground below the base and its size are equal."""
        self.base: Base | str | None = None
        self.chosen = -1
        self.kept: tuple[tuple[str, SeenCurve], ...] = ()
        self.pasted: tuple[tuple[float, float], ...] = ()
        self.changed: Callable[[], None] = lambda: None
        """Told when more is known."""
        self.view = DrawingView(self._drawn, "Strip")
        self.view.clicked.connect(self._picked)
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
        self.strip = Asked("strip", self._began, self)
        self.bounds = {side: {most: Asked("bound", self._came, self, f"bound-{side}") for most in SIZES} for side in SIDES}  # fmt: skip
        self.curves = {most: Asked("collapse", self._came, self, f"collapse-{most}") for most in CURVE}
        self.rays: dict[tuple[str, int], Asked] = {}
        self._loads: tuple[object, ...] = ()
        self._methods: tuple[tuple[object, ...], Any] | None = None
        """What methods carry along the rays, and what that was found for."""

    # ------------------------------------------------ choices

    def _tools(self) -> QHBoxLayout:
        row = QHBoxLayout()
        row.setContentsMargins(10, 6, 10, 4)
        row.setSpacing(4)
        self.modes = []
        for mode, tip in zip(MODES, TIPS):
            button = QPushButton(mode.replace("-", "–"), objectName=f"strip-{mode.lower()}", checkable=True, autoExclusive=True, checked=mode == self.mode, toolTip=tip)  # fmt: skip
            button.clicked.connect(lambda _=False, mode=mode: self._turn(mode))
            row.addWidget(button)
            self.modes.append(button)
        row.addStretch(1)
        self.points = QPushButton("Points", objectName="strip-points", toolTip="The points of the curve to the clipboard, or a measured one from it")  # fmt: skip
        menu = QMenu(self.points)
        menu.addAction("Keep this curve, for another beside it", self.keep_curve)
        menu.addAction("Take kept curves away", self.forget_kept)
        menu.addSeparator()
        menu.addAction("Copy the points", self.copy_points)
        menu.addAction("Paste a measured curve (settlement, load)", self.paste_curve)
        menu.addAction("Take the pasted curve away", self.forget_pasted)
        self.points.setMenu(menu)
        self.end = QPushButton("Stop", objectName="strip-stop", toolTip="Ends the refinement; what is known stays")  # fmt: skip
        self.end.clicked.connect(self.stop)
        self.how = QPushButton("Taken", objectName="strip-taken", toolTip="How the base is taken as a strip, and what the section shows")  # fmt: skip
        self.menu = self._menu()
        self.how.setMenu(self.menu)
        for button in (self.points, self.end, self.how):
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
            group(
                title, options, getattr(self.taken, name), lambda value, name=name: self.take(**{name: value})
            )
        psi = menu.addMenu("Angle of dilatancy ψ")
        holder = QWidget()
        inner = QHBoxLayout(holder)
        inner.setContentsMargins(10, 6, 10, 6)
        self.psi = QLineEdit(objectName="strip-psi", placeholderText="ψ = φ′, associated flow")
        self.psi.setValidator(QDoubleValidator(0.0, 50.0, 1, self.psi))
        self.psi.setMinimumWidth(170)
        self.psi.editingFinished.connect(self._dilates)
        inner.addWidget(self.psi)
        inner.addWidget(Label("°", objectName="quiet"))
        action = QWidgetAction(psi)
        action.setDefaultWidget(holder)
        psi.addAction(action)
        menu.addSeparator()
        group("Bracket to within", WITHIN, self.within, lambda value: self._set("within", value))
        group("Curve of", SHAPES, self.shape, lambda value: self._set("shape", value))
        group("Stiffness of the curve", (("first loading", False), ("reloading", True)), self.again, lambda value: self._set("again", value))  # fmt: skip
        menu.addSeparator()
        group("Section shows", SHOWN, self.shows, lambda value: self._set("shows", value))
        return menu

    def take(self, **changes: object) -> None:
        """Takes the base another way."""
        self.taken = replace(self.taken, **changes)  # type: ignore[arg-type]
        self.stopped = None
        self.refresh()
        self.changed()

    def _dilates(self) -> None:
        text = self.psi.text().replace(",", ".").strip()
        psi = float(text) if text else None
        if psi != self.taken.psi:
            self.take(psi=psi)

    def _set(self, name: str, value: object) -> None:
        setattr(self, name, value)
        self._began()
        self.changed()

    def _turn(self, mode: str) -> None:
        self.mode, self.chosen = mode, -1
        for asked in self.rays.values():  # what is not seen is not waited for
            asked.leave()
        self._loads = ()
        self.refresh()
        self._began()
        self.changed()

    def stop(self) -> None:
        """Ends the refinement of the bracket; the best so far stays."""
        self.stopped = self.section
        for by_size in self.bounds.values():
            for asked in by_size.values():
                asked.leave()
        self._came()

    # ------------------------------------------------ asking

    def _own(self) -> Taken:
        """How the base is taken by what is shown: on the way to collapse V, H and M grow together, envelopes are of all of the base."""
        if self.mode == "Bracket" or (self.mode == "Curve" and self.taken.load == "central"):
            return self.taken
        return replace(self.taken, load="all")

    def refresh(self) -> None:
        """Asks for the selected base, while the panel is seen."""
        curve = self.mode == "Curve"
        self.points.setVisible(curve)
        pad = self.session.pad
        if pad is None or not self.isVisible():
            return
        drainage, taken = self.drainage(), self._own()
        self.strip.want((self.session.project, pad.name, drainage, repr(taken)), (self.session.project, pad.name, drainage, taken), first=True)  # fmt: skip
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
        every = [*self.rays.values(), *self.curves.values(), *(a for by_size in self.bounds.values() for a in by_size.values())]  # fmt: skip
        for asked in every:
            asked.leave()
        self._loads = ()

    def _began(self) -> None:
        found = self.strip.found
        if isinstance(found, tuple) and not self.strip.state:
            strip = found[0]
            if strip.section != self.section:
                self.section = strip.section
            if self.mode == "Curve":
                self._ask_curve(strip)
            elif self.mode == "Bracket":
                for side, by_size in self.bounds.items():
                    by_size[SIZES[0]].want((self.section,), (self.section, side, SIZES[0]), first=True)
            else:
                self._ask_rays(strip)
        self._came()

    def _ask_curve(self, strip: AsStrip) -> None:
        base = base_of(strip, self.shape, self.again)
        if base != self.base:
            self.base, self.chosen = base, -1
        if not isinstance(self.base, str):
            working = strip.pressure - strip.water
            for most, first in zip(CURVE, (True, False)):
                self.curves[most].want((self.base, round(working, 6)), (self.base, strip.water, most, (working,), first), first=first)  # fmt: skip

    def _ask_rays(self, strip: AsStrip) -> None:
        plane: Plane = self.mode  # type: ignore[assignment]
        held = round(strip.force[0], 6) if plane == "H-M" else 0.0
        belongs = (self.section, plane, held)
        if not same(belongs, self._loads):
            self._loads = belongs
            loads = rays(plane, strip.section.B, strip.force[0], bool(strip.section.slope))
            order = sorted(range(len(loads)), key=lambda k: (k % 4 != 0, k % 2 != 0, k))
            for k in order:
                for side in SIDES:
                    asked = self.rays.setdefault((side, k), Asked("ray", self._came, self, f"ray-{side}-{k}"))
                    asked.forget()
                    asked.want((*belongs, k), (strip.section, loads[k], side, RAY))

    def _came(self) -> None:
        section = self.section
        if (
            section is not None
            and not self.strip.state
            and self.mode == "Bracket"
            and self.stopped is not section
        ):
            for k, most in enumerate(SIZES[:-1]):
                both = [by_size[most] for by_size in self.bounds.values()]
                if not all(self._belongs(a) for a in both):
                    break
                values = [a.found for a in both]
                if any(isinstance(v, str) for v in values):
                    break
                low, high = (v[0] for v in values)
                if high - low <= self.within * (high + low):
                    break
                for side, by_size in self.bounds.items():
                    by_size[SIZES[k + 1]].want((section,), (section, side, SIZES[k + 1]))
        self.view.refresh()
        self._tell()
        self.changed()

    def _belongs(self, asked: Asked) -> bool:
        """It is there, for what is shown."""
        return not asked.state and bool(asked.belongs) and asked.belongs[0] is self.section

    # ------------------------------------------------ what is known

    @property
    def shown(self) -> AsStrip | str | None:
        """The strip that is shown, why there is none, or None while it is being computed."""
        own = self.strip.found
        if isinstance(own, tuple):
            return own[0]  # type: ignore[no-any-return]
        return own if isinstance(own, str) and not self.strip.state else None

    def found(self) -> Found:
        """What is known of the bracket so far."""
        own = self.strip.found
        if not isinstance(own, tuple):
            return Found(state="being computed …")
        strip, value = own
        best: dict[str, float] = {}
        why, on_the_way = "", False
        for side, by_size in self.bounds.items():
            for asked in by_size.values():
                if not asked.belongs or asked.belongs[0] is not self.section or self.section != strip.section:
                    continue
                if asked.state:
                    on_the_way = True
                elif isinstance(asked.found, str):
                    why = asked.found
                else:
                    pressure = asked.found[0] + strip.water
                    best[side] = pressure if side not in best else (max if side == "lower" else min)(pressure, best[side])  # fmt: skip
        state = why if why and len(best) < 2 else "" if not (on_the_way or self.strip.state) else "being refined …" if len(best) == 2 else "being computed …"  # fmt: skip
        return Found(best.get("lower"), best.get("upper"), value, state)

    def envelope(self) -> Known:
        """What is known of the envelope so far."""
        strip = self.shown
        if not isinstance(strip, AsStrip) or (
            strip.section is not self.section and strip.section != self.section
        ):
            return Known(state="being computed …")
        lower, upper, done = [], [], 0
        for (side, _), asked in self.rays.items():
            if asked.state or not self._loads or not same(asked.belongs[:3], self._loads):
                continue
            done += 1
            if isinstance(asked.found, tuple):
                if side == "lower":
                    lower.append(asked.found[0])
                else:
                    upper.append(asked.found)
        plane: Plane = self.mode  # type: ignore[assignment]
        loads = rays(plane, strip.section.B, strip.force[0], bool(strip.section.slope))
        key = (self.section, plane, self._adopted(), strip.drainage)
        if not self._methods or not same(key, self._methods[0]):
            own = along(strip.section, loads[0])
            names = dict.fromkeys(("Meyerhof 1963", "EN 1997-1 Annex D", self._adopted()))
            self._methods = (
                key,
                tuple((name, tuple(by_method(METHODS[name], own, loads, strip.drainage))) for name in names),
            )
        methods = self._methods[1]
        return Known(tuple(lower), tuple(upper), methods, "", 2 * len(loads), done)

    def _curve(self) -> tuple[SeenCurve, tuple[Below, ...]] | str | None:
        if isinstance(self.base, str):
            return self.base
        for most in reversed(CURVE):
            asked = self.curves[most]
            if not asked.state and asked.belongs and asked.belongs[0] is self.base:
                return asked.found  # type: ignore[no-any-return]
        return None

    def curve(self) -> SeenCurve | str | None:
        """The best curve for what is shown, or why there is none; None while it is being computed."""
        found = self._curve()
        return found[0] if isinstance(found, tuple) else found

    def below(self) -> Below | None:
        """What the section shows of the ground below; None where that is nothing, or the strip does not lie along it."""
        strip = self.shown
        if self.strip.state or not self.isVisible() or not isinstance(strip, AsStrip) or not strip.along_x:
            return None
        if self.mode == "Curve":
            found = self._curve()
            if isinstance(found, tuple) and 0 <= self.chosen < len(found[1]):
                return found[1][self.chosen].showing(self.shows).moved(strip.shift)
            return None
        if self.mode != "Bracket":
            return None
        side = "lower" if self.shows == "crosses" or self.shows in WORDS else "upper"
        for most in reversed(SIZES):
            asked = self.bounds[side][most]
            if self._belongs(asked) and isinstance(asked.found, tuple):
                shown: Below = asked.found[1]
                return shown.showing(self.shows).moved(strip.shift)
        return None

    def said(self) -> str:
        """Of what the section shows, for its title."""
        strip = self.shown
        if not isinstance(strip, AsStrip):
            return ""
        curve = self.mode == "Curve"
        what = {"areas": "red: yields", "arrows": "red: yields and moves", "crosses": "stresses" if curve else "stresses, lower bound", "sides": "triangles"}.get(self.shows)  # fmt: skip
        if what is None:
            what = WORDS[self.shows] + ("" if curve else ", lower bound")
            if self.shows == "settlement" and not curve:
                what = "settlements are those of a point of the curve"
            if self.shows in ("vertical", "shear"):
                what += " without water"
        if curve:
            what += " at the chosen point"
        return f"{what} ({strip.combination})"

    def value_at(self, x: float, y: float) -> str:
        """What the shown field says at a place: x from the middle of the base, y up from its underside, m."""
        below = self.below()
        return below.fields[0].said(x, y, self.session.project.showing) if below and below.fields else ""

    # ------------------------------------------------ the curve's tools

    def _picked(self, key: str) -> None:
        if key.startswith("point:"):
            self.chosen = int(key.removeprefix("point:"))
            self.view.refresh()
            self.changed()

    def keep_curve(self) -> None:
        """Keeps the curve on the chart, for those of other bases and combinations."""
        curve, strip, pad = self.curve(), self.shown, self.session.pad
        if not isinstance(curve, SeenCurve) or not isinstance(strip, AsStrip) or pad is None:
            return
        name = f"{pad.name}, {self.shape}" + ("" if strip.drainage == "drained" else ", undrained")
        self.kept = (*(k for k in self.kept if k[0] != name), (name, curve))
        self.view.refresh()

    def forget_kept(self) -> None:
        """All kept curves are taken away."""
        self.kept = ()
        self.view.refresh()

    def copy_points(self) -> None:
        """The points of the curve to the clipboard, with their units."""
        curve = self.curve()
        if isinstance(curve, SeenCurve):
            rows = ["settlement (mm)\tpressure (kPa)\tcentre (mm)\tedge (mm)\ttilt (‰)\tslides (mm)"]
            rows += [f"{1000 * p.settlement:.4g}\t{p.pressure:.6g}\t{1000 * p.centre:.4g}\t{1000 * p.edge:.4g}\t{1000 * p.tilt:.4g}\t{1000 * p.slide:.4g}" for p in curve.points]  # fmt: skip
            QGuiApplication.clipboard().setText("\n".join(rows))
            self.session.say(f"{len(curve.points)} points are on the clipboard")

    def paste_curve(self) -> None:
        """A measured or published curve from the clipboard: settlement and pressure in two columns, mm and kPa where nothing is said."""
        strip = self.shown
        try:
            self.pasted = pairs_of(QGuiApplication.clipboard().text(), strip.area if isinstance(strip, AsStrip) else 0.0)  # fmt: skip
        except ValueError as error:
            self.session.say(f"! {error}")
        self.view.refresh()

    def forget_pasted(self) -> None:
        """The pasted curve is taken away."""
        self.pasted = ()
        self.view.refresh()

    # ------------------------------------------------ drawing

    def _adopted(self) -> str:
        pad = self.session.pad
        return self.session.project.settings_of(pad).bearing_method if pad else ""

    def _tell(self) -> None:
        self.end.setVisible(self.mode == "Bracket" and "…" in self.found().state)
        self.how.setText("Taken" if self.taken == Taken() else "Taken otherwise")
        strip, units = self.shown, self.session.project.showing
        if not isinstance(strip, AsStrip):
            self.words.setText("")
        elif self.mode == "Bracket":
            self.words.setText(strip_said(strip, units))
        elif self.mode == "Curve":
            self.words.setText(collapse_said(strip, self.shape, units))
        else:
            plane: Plane = self.mode  # type: ignore[assignment]
            self.words.setText(envelope_said(strip, plane, units))

    def _beside(self, strip: AsStrip) -> Beside:
        result, found = self.session.result, self.found()
        bracket = None
        if self.shape == "rigid strip" and found.lower is not None and found.upper is not None:
            bracket = (found.lower, found.upper)
        return beside_of(strip, result.checks if result else (), bracket, self.kept, self.pasted)

    def _drawn(self, aspect: float) -> Drawing:
        pad = self.session.pad
        if pad is None:
            return Drawing((), (-1.0, -1.0, 1.0, 1.0))
        strip: AsStrip | str = self.shown or "being computed …"
        units = self.session.project.showing
        if self.mode == "Bracket":
            return strip_chart(strip, self.found(), self._adopted(), units, aspect)
        if self.mode == "Curve":
            curve = self.curve()
            if not isinstance(strip, AsStrip) or curve is None or isinstance(curve, str):
                return collapse_chart(
                    strip, curve or "being computed …", Beside(0.0), -1, 1.0, "", units, aspect
                )
            fine = self.curves[CURVE[-1]]
            state = (
                "" if not fine.state and fine.belongs and fine.belongs[0] is self.base else "being refined …"
            )
            B = 1.0 if self.base is None or isinstance(self.base, str) else self.base.section.B
            return collapse_chart(strip, curve, self._beside(strip), self.chosen, B, state, units, aspect)
        plane: Plane = self.mode  # type: ignore[assignment]
        return envelope_chart(strip, plane, self.envelope(), units, aspect)
