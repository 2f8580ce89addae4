"""What a strip bears of two of V, H and M at once, ray by ray."""

from dataclasses import replace
from typing import Any

from korbent.app.asked import Asked, same
from korbent.app.strip.face import Face
from korbent.core.bearing.as_strip import AsStrip, Taken, by_method
from korbent.core.bearing.methods import METHODS
from korbent.core.plasticity.envelope import Plane, along, rays
from korbent.core.plasticity.section import Load, Section
from korbent.core.units import Showing
from korbent.drawing.envelope import Known, envelope_chart, envelope_said
from korbent.drawing.primitives import Drawing
from korbent.words import say

SIDES = ("lower", "upper")
RAY = 900
"""Triangles of the bounds along a ray."""
BESIDE = ("Meyerhof 1963", "EN 1997-1 Annex D")


class Envelope(Face):
    """Of one plane."""

    def __init__(self, panel, plane: Plane, tip: str) -> None:  # type: ignore[no-untyped-def]
        super().__init__(panel)
        self.plane: Plane = plane
        self.name, self.tip = plane, tip
        self.section: Section | None = None
        """The very same as long as it is equal: what is known of it stays known while other faces are seen."""
        self.rays: dict[tuple[str, int], Asked] = {}
        self._loads: tuple[object, ...] = ()
        self._methods: tuple[tuple[object, ...], Any] | None = None
        """What methods carry along the rays, and what that was found for."""

    def taken(self, taken: Taken) -> Taken:
        return replace(taken, load="all")

    def asked(self) -> list[Asked]:
        return list(self.rays.values())

    def _rays(self, strip: AsStrip) -> tuple[Load, ...]:
        return rays(self.plane, strip.section.B, strip.force[0], bool(strip.section.slope))

    def ask(self, strip: AsStrip) -> None:
        if strip.section != self.section:
            self.section = strip.section
        belongs = self._loads = (
            self.section,
            self.plane,
            round(strip.force[0], 6) if self.plane == "H-M" else 0.0,
        )
        loads = self._rays(strip)
        order = sorted(range(len(loads)), key=lambda k: (k % 4 != 0, k % 2 != 0, k))
        for k in order:
            for side in SIDES:
                asked = self.rays.setdefault(
                    (side, k), Asked("ray", self.panel.came, self.panel, f"ray-{self.plane}-{side}-{k}")
                )
                asked.want((*belongs, k), (strip.section, loads[k], side, RAY))

    def known(self) -> Known:
        """What is known so far."""
        strip = self.panel.shown
        if not isinstance(strip, AsStrip) or strip.section != self.section:
            return Known(state=say("being computed …"))
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
        loads, adopted = self._rays(strip), self.panel.adopted()
        key = (self.section, adopted, strip.drainage)
        if not self._methods or not same(key, self._methods[0]):
            own = along(strip.section, loads[0])
            names = dict.fromkeys((*BESIDE, adopted))
            self._methods = (
                key,
                tuple((name, tuple(by_method(METHODS[name], own, loads, strip.drainage))) for name in names),
            )
        return Known(tuple(lower), tuple(upper), self._methods[1], "", 2 * len(loads), done)

    def words(self, strip: AsStrip, units: Showing) -> str:
        return envelope_said(strip, self.plane, units)

    def drawn(self, strip: AsStrip | str, units: Showing, aspect: float) -> Drawing:
        return envelope_chart(strip, self.plane, self.known(), units, aspect)
