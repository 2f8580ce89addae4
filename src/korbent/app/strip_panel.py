"""The selected base as a strip: bounds from below and above in two workers, coarse first, then refined; the exact value where there is one."""

from collections.abc import Callable
from typing import Any

from PySide6.QtWidgets import QVBoxLayout, QWidget

from korbent.app.asked import Asked, same
from korbent.app.canvas import DrawingView
from korbent.app.session import Session
from korbent.core.explain.bracket import AsStrip
from korbent.core.plasticity.section import Section
from korbent.drawing.primitives import Drawing
from korbent.drawing.strip_chart import Found, strip_chart
from korbent.drawing.yielding import Ring

COARSE, FINE = 500, 3000
"""Triangles of the first bracket and of the refined one."""


class StripPanel(QWidget):
    """Computed while it is seen."""

    def __init__(self, session: Session, drainage: Callable[[], str]) -> None:
        super().__init__()
        self.session, self.drainage = session, drainage
        self.section: Section | None = None
        """What the bounds are asked for: the very same while the ground below the base and its size are equal."""
        self.changed: Callable[[], None] = lambda: None
        """Told when more is known."""
        self.view = DrawingView(self._drawn, "Strip")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.view)
        self.strip = Asked("strip", self._began, self)
        self.bounds = {side: {most: Asked("bound", self._came, self, f"bound-{side}") for most in (COARSE, FINE)} for side in ("lower", "upper")}  # fmt: skip

    def refresh(self) -> None:
        """Asks for the selected base, while the panel is seen."""
        pad = self.session.pad
        if pad is None or not self.isVisible():
            return
        drainage = self.drainage()
        self.strip.want((self.session.project, pad.name, drainage), (self.session.project, pad.name, drainage), first=True)  # fmt: skip
        self.view.refresh()

    def showEvent(self, event: Any) -> None:
        """What was not asked for while it was not seen is asked for now."""
        super().showEvent(event)
        self.refresh()

    def _began(self) -> None:
        found = self.strip.found
        if isinstance(found, tuple):
            if found[0].section != self.section:
                self.section = found[0].section
            section = self.section
            for side, by_size in self.bounds.items():
                by_size[COARSE].want((section,), (section, side, COARSE), first=True)
        self.view.refresh()

    def _came(self) -> None:
        section = self.section
        if section is not None and not self.strip.state:
            for side, by_size in self.bounds.items():
                if not by_size[COARSE].state and same(by_size[COARSE].belongs, (section,)):
                    by_size[FINE].want((section,), (section, side, FINE))
        self.view.refresh()
        self.changed()

    def found(self) -> Found:
        """What is known of the strip so far."""
        own = self.strip.found
        if not isinstance(own, tuple):
            return Found(state="being computed …")
        strip, value = own
        pressures: list[float | None] = []
        fine, why = not self.strip.state, ""
        for by_size in self.bounds.values():
            best = None
            for most in (COARSE, FINE):
                asked = by_size[most]
                if (
                    asked.belongs
                    and asked.belongs[0] is self.section
                    and self.section == strip.section
                    and not asked.state
                ):
                    if isinstance(asked.found, str):
                        why = asked.found
                    else:
                        best = asked.found[0] + strip.water
                elif most == FINE:
                    fine = False
            pressures.append(best)
        state = why or ("" if fine else "being refined …" if None not in pressures else "being computed …")
        return Found(pressures[0], pressures[1], value, state)

    def yielding(self) -> tuple[Ring, ...]:
        """Where the ground yields by the upper bound, as far as it is known for what is shown."""
        if self.strip.state or not self.isVisible():
            return ()
        for most in (FINE, COARSE):
            asked = self.bounds["upper"][most]
            if not asked.state and same(asked.belongs, (self.section,)) and isinstance(asked.found, tuple):
                return tuple(asked.found[1])
        return ()

    def _drawn(self, aspect: float) -> Drawing:
        pad, own = self.session.pad, self.strip.found
        if pad is None:
            return Drawing((), (-1.0, -1.0, 1.0, 1.0))
        strip: AsStrip | str = own[0] if isinstance(own, tuple) else own if isinstance(own, str) else "being computed …"  # fmt: skip
        if self.strip.state and not isinstance(own, tuple):
            strip = "being computed …"
        adopted = self.session.project.settings_of(pad).bearing_method
        return strip_chart(strip, self.found(), adopted, self.session.project.showing, aspect)
