"""Load against settlement up to collapse: the curve, others kept beside it, and its points to and from the
clipboard."""

from dataclasses import replace
from typing import TYPE_CHECKING

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QMenu, QPushButton

from korbent.app.asked import Asked
from korbent.app.strip.face import Face
from korbent.core.bearing.as_strip import AsStrip, Taken
from korbent.core.explain.collapse import SeenCurve, Shape, base_of
from korbent.core.units import Showing
from korbent.drawing.collapse import Beside, beside_of, collapse_chart, collapse_said
from korbent.drawing.primitives import Drawing
from korbent.drawing.yielding import Below
from korbent.files.pasted import pairs_of
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.plasticity.way import Base

SIZES = (300, 900)
"""Triangles of the first curve and of the last."""
SHAPES: tuple[tuple[str, Shape], ...] = (
    (say("rigid strip"), "rigid strip"),
    (say("flexible strip"), "flexible strip"),
    (say("circle of equal area"), "circle"),
)


class Way(Face):
    """Load against settlement."""

    name = say("Curve")
    tip = say("Load against settlement up to collapse")

    def __init__(self, panel) -> None:  # type: ignore[no-untyped-def]
        super().__init__(panel)
        self.shape: Shape = "rigid strip"
        self.again = False
        """As stiff as on reloading."""
        self.base: Base | str | None = None
        self.chosen = -1
        self.kept: tuple[tuple[str, SeenCurve], ...] = ()
        self.pasted: tuple[tuple[float, float], ...] = ()
        self.curves = {most: Asked("collapse", panel.came, panel, f"collapse-{most}") for most in SIZES}
        self.button = QPushButton(
            say("Points"),
            objectName="strip-points",
            toolTip=say("The points of the curve to the clipboard, or a measured one from it"),
        )
        menu = QMenu(self.button)
        menu.addAction(say("Keep this curve, for another beside it"), self.keep)
        menu.addAction(say("Take kept curves away"), self.forget_kept)
        menu.addSeparator()
        menu.addAction(say("Copy the points"), self.copy)
        menu.addAction(say("Paste a measured curve (settlement, load)"), self.paste)
        menu.addAction(say("Take the pasted curve away"), self.forget_pasted)
        self.button.setMenu(menu)

    def taken(self, taken: Taken) -> Taken:
        return taken if taken.load == "central" else replace(taken, load="all")

    def asked(self) -> list[Asked]:
        return list(self.curves.values())

    def ask(self, strip: AsStrip) -> None:
        base = base_of(strip, self.shape, self.again)
        if base != self.base:
            self.base, self.chosen = base, -1
        if not isinstance(self.base, str):
            working = strip.pressure - strip.water
            for most, first in zip(SIZES, (True, False)):
                self.curves[most].want(
                    (self.base, round(working, 6)), (self.base, strip.water, most, (working,), first), first=first
                )

    def picked(self, key: str) -> None:
        if key.startswith("point:"):
            self.chosen = int(key.removeprefix("point:"))

    def _found(self) -> tuple[SeenCurve, tuple[Below, ...]] | str | None:
        if isinstance(self.base, str):
            return self.base
        for most in reversed(SIZES):
            if self._known(most):
                return self.curves[most].found  # type: ignore[no-any-return]
        return None

    def _known(self, most: int) -> bool:
        asked = self.curves[most]
        return not asked.state and bool(asked.belongs) and asked.belongs[0] is self.base

    def curve(self) -> SeenCurve | str | None:
        """The best curve for what is shown, or why there is none; None while it is being computed."""
        found = self._found()
        return found[0] if isinstance(found, tuple) else found

    def plateau(self) -> float | None:
        """The pressure at which the curve of the section that is shown ends, kPa; None where there is none, or another
        is shown."""
        curve, base = self.curve(), self.base
        if base is None or isinstance(base, str) or not isinstance(curve, SeenCurve) or base.flexible or base.round:
            return None
        section = self.panel.bracket.section
        same = section is not None and replace(base.section, load=section.load) == section
        return curve.limit if same else None

    def below(self, strip: AsStrip) -> Below | None:
        found = self._found()
        if isinstance(found, tuple) and 0 <= self.chosen < len(found[1]):
            return found[1][self.chosen].showing(self.panel.shows).moved(strip.shift)
        return None

    # ------------------------------------------------ points

    def keep(self) -> None:
        """Keeps the curve on the chart, for those of other bases and combinations."""
        curve, strip, pad = self.curve(), self.panel.shown, self.panel.session.pad
        if not isinstance(curve, SeenCurve) or not isinstance(strip, AsStrip) or pad is None:
            return
        name = f"{pad.name}, {self.shape}, {strip.combination}" + (
            "" if strip.drainage == "drained" else say(", undrained")
        )
        self.kept = (*(k for k in self.kept if k[0] != name), (name, curve))
        self.panel.view.refresh()

    def forget_kept(self) -> None:
        """All kept curves are taken away."""
        self.kept = ()
        self.panel.view.refresh()

    def copy(self) -> None:
        """The points of the curve to the clipboard, with their units."""
        curve = self.curve()
        if isinstance(curve, SeenCurve):
            rows = [say("settlement (mm)\tpressure (kPa)\tcentre (mm)\tedge (mm)\ttilt (‰)\tslides (mm)")]
            rows += [
                f"{1000 * p.settlement:.4g}\t{p.pressure:.6g}\t{1000 * p.centre:.4g}\t{1000 * p.edge:.4g}\t{1000 * p.tilt:.4g}\t{1000 * p.slide:.4g}"
                for p in curve.points
            ]
            QGuiApplication.clipboard().setText("\n".join(rows))
            self.panel.session.announce(say("{points} points are on the clipboard", points=len(curve.points)))

    def paste(self) -> None:
        """A measured or published curve from the clipboard: settlement and pressure in two columns, mm and kPa where
        nothing is said."""
        strip = self.panel.shown
        try:
            self.pasted = pairs_of(
                QGuiApplication.clipboard().text(), strip.area if isinstance(strip, AsStrip) else 0.0
            )
        except ValueError as error:
            self.panel.session.announce(f"! {error}")
        self.panel.view.refresh()

    def forget_pasted(self) -> None:
        """The pasted curve is taken away."""
        self.pasted = ()
        self.panel.view.refresh()

    # ------------------------------------------------ drawing

    def words(self, strip: AsStrip, units: Showing) -> str:
        return collapse_said(strip, self.shape, units)

    def drawn(self, strip: AsStrip | str, units: Showing, aspect: float) -> Drawing:
        curve = self.curve()
        if not isinstance(strip, AsStrip) or not isinstance(curve, SeenCurve):
            return collapse_chart(strip, curve or say("being computed …"), Beside(0.0), -1, 1.0, "", units, aspect)
        result, found = self.panel.session.result, self.panel.bracket.found()
        bracket = None
        if self.shape == "rigid strip" and found.lower is not None and found.upper is not None:
            bracket = (found.lower, found.upper)
        beside = beside_of(strip, result.checks if result else (), bracket, self.kept, self.pasted)
        B = 1.0 if self.base is None or isinstance(self.base, str) else self.base.section.B
        return collapse_chart(
            strip,
            curve,
            beside,
            self.chosen,
            B,
            "" if self._known(SIZES[-1]) else say("being refined …"),
            units,
            aspect,
        )
