"""Load against settlement up to collapse: the curve, what it is compared with, and points to pick."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from korbent.core.bearing.as_strip import AsStrip
from korbent.core.checks import CheckResult
from korbent.core.explain.collapse import SeenCurve
from korbent.core.model.labels import label
from korbent.core.units import UnitSet, show, shown_unit, to_shown
from korbent.drawing.chart import Axis, across, axis, up
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0
SHOWN = 0.97
"""Of the limit load: settlements are shown to somewhat beyond it."""


@dataclass(frozen=True)
class Beside:
    """What the curve is compared with: kPa and m."""

    working: float
    limit_settlement: float | None = None
    settled: float | None = None
    """By the Settlement stop, under its own load."""
    bracket: tuple[float, float] | None = None
    kept: tuple[tuple[str, SeenCurve], ...] = ()
    pasted: tuple[tuple[float, float], ...] = ()
    """(settlement, pressure) of a measured or published curve."""


def beside_of(
    strip: AsStrip,
    checks: Sequence[CheckResult],
    bracket: tuple[float, float] | None,
    kept: tuple[tuple[str, SeenCurve], ...] = (),
    pasted: tuple[tuple[float, float], ...] = (),
) -> Beside:
    """With the settlement that the checks of the base have, and its limit."""
    settled = limit = None
    for check in checks:
        if check.check.id == "settlement" and check.demand is not None:
            settled, limit = check.demand / 1000.0, check.capacity / 1000.0 if check.capacity else None
    return Beside(strip.pressure, limit, settled, bracket, kept, pasted)


def difference(curve: SeenCurve, pasted: tuple[tuple[float, float], ...]) -> float | None:
    """Mean of the differences in pressure over those of the pasted curve, where both are; None where they are not."""
    parts = [(own - p) / p for u, p in pasted if p > 0 and (own := curve.at_settlement(u)) is not None and u >= 0]
    return float(np.mean(parts)) if parts else None


def collapse_said(strip: AsStrip, shape: str, units: UnitSet, clicks: bool = True) -> str:
    """What the chart is of, below it; ``clicks``: it is not on paper."""
    return (
        say(
            "Settlement, {unit}, over pressure, {other_unit}, of a {shape}: elastic, perfectly plastic, from "
            "stresses at rest, without consolidation. ",
            unit=shown_unit("mm", units),
            other_unit=shown_unit("kPa", units),
            shape=label(shape),
        )
        + (say("A click on a point shows where it yields there. ") if clicks else "")
        + strip.said
        + (say("; the base is taken as smooth") if strip.section.underside.rubs and shape != "rigid strip" else "")
        + "."
    )


@dataclass(frozen=True)
class _Axes:
    """Pressure to the right, settlement downwards, and lines between them."""

    sketch: Sketch
    units: UnitSet
    most: float
    deepest: float
    high: float

    @cached_property
    def x(self) -> Axis:
        """Along the top."""
        return axis(0.0, float(to_shown(self.most, "kPa", self.units)), 0.0, WIDE, 6)

    @cached_property
    def y(self) -> Axis:
        """Down the side."""
        return axis(0.0, float(to_shown(1000 * self.deepest, "mm", self.units)), self.high, 0.0, 5)

    def place(self, pressure: float, settlement: float) -> tuple[float, float]:
        """In the drawing."""
        return (
            self.x(float(to_shown(pressure, "kPa", self.units))),
            self.y(float(to_shown(1000 * settlement, "mm", self.units))),
        )

    def line(self, points: list[tuple[float, float]], tone: str, width: float, dash: bool = False) -> None:
        """Through (settlement, pressure), to the edge."""
        shown = [(u, p) for u, p in points if u <= self.deepest]
        after = next(((u, p) for u, p in points if u > self.deepest), None)
        if after and shown:
            u0, p0 = shown[-1]
            shown.append((self.deepest, p0 + (after[1] - p0) * (self.deepest - u0) / (after[0] - u0)))
        self.sketch.add(Line(tuple(self.place(p, u) for u, p in shown), tone, width, dash=dash))


def collapse_chart(
    strip: AsStrip | str,
    found: SeenCurve | str,
    beside: Beside,
    chosen: int,
    B: float,
    state: str,
    units: UnitSet,
    aspect: float,
) -> Drawing:
    """Settlement downwards over pressure. Points of the curve are discs with keys ``point:n``.

    Args:
        chosen: the point whose zones are shown in the section; -1: none.
        B: width or diameter of the base, m.
    """
    if isinstance(strip, str) or isinstance(found, str):
        text = strip if isinstance(strip, str) else str(found)
        return Drawing((Text((0, 0), text, 11, "soft", "middle"),), (-1, -1, 1, 1))
    high = WIDE / max(aspect, 0.5)
    reached = next(
        (p.settlement for p in found.points if p.pressure >= SHOWN * found.limit), found.points[-1].settlement
    )
    deepest = 1.15 * max(
        reached, beside.limit_settlement or 0.0, min(B / 10, 2 * reached), *(u for u, _ in beside.pasted), 1e-4
    )
    most = 1.08 * max(
        found.limit,
        beside.working,
        *(c.limit for _, c in beside.kept),
        *(p for _, p in beside.pasted),
        *((beside.bracket[1],) if beside.bracket else ()),
    )
    sketch = Sketch()
    axes = _Axes(sketch, units, most, deepest, high)
    place, line = axes.place, axes.line
    across(sketch, axes.x, 0.0, high, above=True)
    up(sketch, axes.y, 0.0, WIDE)
    if beside.bracket:
        a, b = (place(p, 0.0)[0] for p in beside.bracket)
        sketch.add(Polygon(rectangle(a, 0, b, high), "accent_wash", None, 0.8))
        sketch.add(Text((b, 0), say("bounds"), 10, "accent", dx=4, dy=-6, halo=True))
    kpa, mm = shown_unit("kPa", units), shown_unit("mm", units)
    end = place(found.limit, 0.0)[0]
    sketch.add(
        Line(((end, 0), (end, high)), "accent", 1.2, dash=True),
        Text(
            (end, 0),
            say("collapse {limit} {kpa}", limit=show(found.limit, "kPa", units), kpa=kpa),
            10.5,
            "accent",
            dx=6,
            dy=-20,
            halo=True,
        ),
    )
    for name, curve in beside.kept:
        line([(p.settlement, p.pressure) for p in curve.points], "soft", 1.4)
        at = next((p for p in reversed(curve.points) if p.settlement <= deepest), curve.points[0])
        sketch.add(Text(place(at.pressure, at.settlement), name, 10, "soft", "right", dx=-6, dy=4, halo=True))
    if beside.pasted:
        line(list(beside.pasted), "ink", 1.4, dash=True)
        gap = difference(found, beside.pasted)
        u, p = beside.pasted[-1]
        text = (
            say("pasted")
            if gap is None
            else say("pasted: the curve lies {gap:.0f} % above", gap=100 * gap)
            if gap > 0
            else say("pasted: the curve lies {gap:.0f} % below", gap=-100 * gap)
        )
        sketch.add(Text(place(p, min(u, deepest)), text, 10.5, "ink", "right", dx=-6, dy=-6, halo=True))
    line([(p.settlement, p.pressure) for p in found.points], "accent", 2.4)
    if found.points[-1].edge != found.points[-1].centre:
        tilts = any(p.tilt for p in found.points)
        for name, pick in (
            ((say("lower edge"), "edge"),) if tilts else ((say("centre"), "centre"), (say("edge"), "edge"))
        ):
            own = [(getattr(p, pick), p.pressure) for p in found.points]
            line(own, "soft", 1.2)
            seen = [(u, p) for u, p in own if u <= deepest]
            sketch.add(Text(place(seen[-1][1], seen[-1][0]), name, 10, "soft", "right", dx=-6, dy=14, halo=True))
    for k, point in enumerate(found.points):
        if point.settlement <= deepest:
            sketch.add(
                Disc(
                    place(point.pressure, point.settlement),
                    6.0 if k == chosen else 4.0,
                    "accent" if k == chosen else "paper",
                    "accent",
                    1.6,
                    fixed=True,
                    key=f"point:{k}",
                )
            )
    _asked(axes, found, beside, strip.central, B)
    sketch.add(Text((WIDE, high), kpa, 10, "soft", dx=6, dy=-6), Text((0, 0), mm, 10, "soft", "right", dx=-6, dy=14))
    if state:
        sketch.add(Text((WIDE, high), state, 11, "accent", "right", dx=-6, dy=14, halo=True))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))


def _asked(axes: _Axes, found: SeenCurve, beside: Beside, central: bool, B: float) -> None:
    """The pressure of the situation, what the Settlement stop says, and the limits of settlement."""
    sketch, units, place, high, deepest = axes.sketch, axes.units, axes.place, axes.high, axes.deepest
    kpa, mm = shown_unit("kPa", units), shown_unit("mm", units)
    w = place(beside.working, 0.0)[0]
    settled = found.at_pressure(beside.working)
    name = "N/A′" if central else "V/B"
    text = f"{name} {show(beside.working, 'kPa', units)} {kpa}" + (
        f": {show(1000 * settled, 'mm', units)} {mm}" if settled is not None else say(" is beyond collapse")
    )
    tilt = found.tilt_at(beside.working)
    if settled is not None and abs(tilt) > 5e-6:
        text += say(", tilts {tilt:.2g} ‰", tilt=1000 * abs(tilt))
    sketch.add(
        Line(((w, 0), (w, high)), "beyond", 1.6), Text((w, 0), text, 10.5, "beyond", dx=6, dy=-36, bold=True, halo=True)
    )
    if beside.settled is not None and beside.settled <= deepest:
        spot = place(beside.working, beside.settled)
        sketch.add(
            Disc(spot, 4.5, "paper", "ink", 1.6, fixed=True),
            Text(
                spot,
                say(
                    "Settlement stop, long term: {settled} {mm}",
                    settled=show(1000 * beside.settled, "mm", units),
                    mm=mm,
                ),
                10,
                "ink",
                dx=9,
                dy=4,
                halo=True,
            ),
        )
    for name, limit in ((say("limit"), beside.limit_settlement), ("B/10", B / 10)):
        if limit is None or limit > deepest:
            continue
        carried = found.at_settlement(limit)
        spot = place(0.0, limit)
        borne = f": {show(carried, 'kPa', units)} {kpa}" if carried is not None else ""
        sketch.add(
            Line((spot, (WIDE, spot[1])), "beyond" if name != "B/10" else "soft", 1.0, dash=True),
            Text(
                spot,
                f"{name} {show(1000 * limit, 'mm', units)} {mm}{borne}",
                10,
                "beyond" if name != "B/10" else "soft",
                dx=6,
                dy=-4,
                halo=True,
            ),
        )
