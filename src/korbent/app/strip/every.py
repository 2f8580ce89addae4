"""All situations of a base between bounds: the one that governs first, then the others, and the one that then governs
on a finer mesh."""

from korbent.app.asked import Asked
from korbent.app.strip.bracket import SIDES, SIZES
from korbent.app.strip.face import Face
from korbent.core.bearing.as_strip import AsStrip
from korbent.core.plasticity.section import Section
from korbent.core.units import Showing
from korbent.drawing.primitives import Drawing
from korbent.drawing.situations import Situation, situation_said, situations_chart, situations_said
from korbent.words import say

COARSE, FINE = SIZES[:2]


class Every(Face):
    """The load of every situation over what is borne of it."""

    name = say("All")
    tip = say("The load of every combination over what is borne of it, between bounds")

    def __init__(self, panel) -> None:  # type: ignore[no-untyped-def]
        super().__init__(panel)
        self.strips = Asked("strips", panel.came, panel)
        self.sections: list[Section | None] = []
        """Of each situation: the very same as long as it is equal; None: it has none."""
        self.bounds: dict[tuple[int, str, int], Asked] = {}

    def asked(self) -> list[Asked]:
        return [self.strips, *self.bounds.values()]

    def ask(self, strip: AsStrip) -> None:
        session, drainage, taken = self.panel.session, self.panel.drainage(), self.panel.taken
        if session.pad is not None:
            self.strips.want(
                (session.project, session.pad.name, drainage, repr(taken)),
                (session.project, session.pad.name, drainage, taken),
                first=True,
            )

    def came(self) -> None:
        if self.strips.state or not isinstance(self.strips.found, tuple):
            return
        found = self.strips.found
        was = dict(enumerate(self.sections))
        self.sections = []
        for k, (_, strip) in enumerate(found):
            own, before = strip.section if isinstance(strip, AsStrip) else None, was.get(k)
            self.sections.append(before if own == before else own)
        first = self.panel.shown
        order = sorted(
            range(len(found)),
            key=lambda k: (
                not isinstance(first, AsStrip) or found[k][0] != first.combination,
                k % 4 != 0,
                k % 2 != 0,
                k,
            ),
        )
        for k in order:
            self._want(k, COARSE)
        rows = self.rows()
        some = [k for k, row in enumerate(rows) if row.high is not None]
        if some and all(row.high is not None or row.why for row in rows):
            self._want(max(some, key=lambda k: rows[k].high or 0.0), FINE)

    def _want(self, k: int, most: int) -> None:
        section = self.sections[k]
        if section is None:
            return
        for side in SIDES:
            asked = self.bounds.setdefault(
                (k, side, most), Asked("bound", self.panel.came, self.panel, f"every-{side}-{k}-{most}")
            )
            asked.want((section, side, most), (section, side, most))

    def _value(self, k: int, side: str) -> float | str | None:
        """The best bound of a situation so far, or why there is none; None while it is being computed."""
        for most in (FINE, COARSE):
            asked = self.bounds.get((k, side, most))
            if asked is not None and not asked.state and asked.belongs and asked.belongs[0] is self.sections[k]:
                return asked.found if isinstance(asked.found, str) else float(asked.found[0])
        return None

    def rows(self) -> list[Situation]:
        """What is known of each situation."""
        found = self.strips.found if isinstance(self.strips.found, tuple) else ()
        rows = []
        for k, (label, strip) in enumerate(found):
            if not isinstance(strip, AsStrip) or k >= len(self.sections):
                rows.append(Situation(label, why=strip if isinstance(strip, str) else ""))
                continue
            low, high = (self._value(k, side) for side in SIDES)
            why = next((v for v in (low, high) if isinstance(v, str)), "")
            own = strip.pressure - strip.water
            least, most = (own / v if isinstance(v, float) and v > 0 else None for v in (high, low))
            rows.append(Situation(label, strip.pressure, least, most, why))
        return rows

    def picked(self, key: str) -> None:
        if key.startswith("situation:"):
            self.panel.session.choose_situation(key.removeprefix("situation:"))

    def over(self, key: str) -> str:
        name = key.removeprefix("situation:")
        row = next((r for r in self.rows() if r.label == name), None) if key.startswith("situation:") else None
        return situation_said(row, self.panel.session.project.showing) if row else ""

    def words(self, strip: AsStrip, units: Showing) -> str:
        return situations_said(strip)

    def drawn(self, strip: AsStrip | str, units: Showing, aspect: float) -> Drawing:
        why = strip if isinstance(strip, str) else self.strips.found if isinstance(self.strips.found, str) else ""
        return situations_chart(self.rows(), self.panel.session.situation, why, units, aspect)
