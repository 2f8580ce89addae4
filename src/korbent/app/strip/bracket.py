"""The bracket: bounds from below and above in two workers, coarse first, then refined, with the exact value where there
is one."""

from korbent.app.asked import Asked
from korbent.app.strip.face import Face
from korbent.core.bearing.as_strip import AsStrip
from korbent.core.plasticity.section import Section
from korbent.core.units import Showing
from korbent.drawing.ground_field import WORDS
from korbent.drawing.primitives import Drawing
from korbent.drawing.strip_chart import Found, strip_chart, strip_said
from korbent.drawing.yielding import Below
from korbent.words import say

SIDES = ("lower", "upper")
SIZES = (500, 1500, 4000, 10000)
"""Triangles, one after the other, until both bounds are as near as asked."""


class Bracket(Face):
    """Exact, and between bounds, beside every method."""

    name = say("Bracket")
    tip = say("Exact, and bracketed from below and above, beside every method")

    def __init__(self, panel) -> None:  # type: ignore[no-untyped-def]
        super().__init__(panel)
        self.within = 0.02
        self.section: Section | None = None
        """The very same as long as it is equal: what is known of it stays known while other faces are seen."""
        self.stopped: Section | None = None
        """The section whose bracket is not to be refined any more."""
        self.bounds = {
            side: {most: Asked("bound", panel.came, panel, f"bound-{side}") for most in SIZES} for side in SIDES
        }

    def asked(self) -> list[Asked]:
        return [a for by_size in self.bounds.values() for a in by_size.values()]

    def ask(self, strip: AsStrip) -> None:
        if strip.section != self.section:
            self.section = strip.section
        for side, by_size in self.bounds.items():
            by_size[SIZES[0]].want((self.section,), (self.section, side, SIZES[0]), first=True)

    def came(self) -> None:
        section = self.section
        if self.stopped is section:
            return
        for k, most in enumerate(SIZES[:-1]):
            both = [by_size[most] for by_size in self.bounds.values()]
            if not all(self.belongs(a) for a in both):
                break
            values = [a.found for a in both]
            if any(isinstance(v, str) for v in values):
                break
            low, high = (v[0] for v in values)
            if high - low <= self.within * (high + low):
                break
            for side, by_size in self.bounds.items():
                by_size[SIZES[k + 1]].want((section,), (section, side, SIZES[k + 1]))

    def belongs(self, asked: Asked) -> bool:
        """It is there, for the section that is shown."""
        return not asked.state and bool(asked.belongs) and asked.belongs[0] is self.section

    def stop(self) -> None:
        """Ends the refinement; the best so far stays."""
        self.stopped = self.section
        self.leave()

    def found(self) -> Found:
        """What is known so far."""
        own = self.panel.strip.found
        if not isinstance(own, tuple):
            return Found(state=say("being computed …"))
        strip, value = own
        section = self.section
        best: dict[str, float] = {}
        why, on_the_way = "", False
        for side, by_size in self.bounds.items():
            for asked in by_size.values():
                if not asked.belongs or asked.belongs[0] is not section or section != strip.section:
                    continue
                if asked.state:
                    on_the_way = True
                elif isinstance(asked.found, str):
                    why = asked.found
                else:
                    pressure = asked.found[0] + strip.water
                    best[side] = (
                        pressure if side not in best else (max if side == "lower" else min)(pressure, best[side])
                    )
        state = (
            why
            if why and len(best) < 2
            else ""
            if not (on_the_way or self.panel.strip.state)
            else say("being refined …")
            if len(best) == 2
            else say("being computed …")
        )
        return Found(best.get("lower"), best.get("upper"), value, state, self.panel.way.plateau())

    def words(self, strip: AsStrip, units: Showing) -> str:
        return strip_said(strip, units)

    def drawn(self, strip: AsStrip | str, units: Showing, aspect: float) -> Drawing:
        return strip_chart(strip, self.found(), self.panel.adopted(), units, aspect)

    def below(self, strip: AsStrip) -> Below | None:
        shows = self.panel.shows
        side = "lower" if shows == "crosses" or shows in WORDS else "upper"
        for most in reversed(SIZES):
            asked = self.bounds[side][most]
            if self.belongs(asked) and isinstance(asked.found, tuple):
                found: Below = asked.found[1]
                return found.showing(shows).moved(strip.shift)
        return None
