"""Settlement against time: the moment as a line to drag."""

import math
from dataclasses import dataclass

import numpy as np

from korbent.core.model import Project
from korbent.core.settlement.history import YEAR, History, PadHistory
from korbent.core.settlement.limits import limits_of
from korbent.core.settlement.neighbours import neighbours
from korbent.core.units import UnitSet, show, shown_unit, to_shown
from korbent.drawing.chart import TYPE, Axis, across, axis, ticks, up
from korbent.drawing.primitives import Anchor, Disc, Drawing, Line, Point, Polygon, Sketch, Text
from korbent.drawing.settlement.words import WIDE, day_words, said
from korbent.words import say

SCALES = ("log", "root", "plain")


def place_of(day: float, horizon: float, scale: str) -> float:
    """Where a day stands on the axis of time, 0 to 1."""
    if scale == "log":
        return max(0.0, math.log10(max(day, 1.0)) / math.log10(max(horizon, 10.0)))
    return float((day / horizon) ** (0.5 if scale == "root" else 1.0))


def day_of(place: float, horizon: float, scale: str) -> float:
    """The day at a place of the axis."""
    place = min(max(place, 0.0), 1.0)
    if scale == "log":
        return float(10 ** (place * math.log10(max(horizon, 10.0))))
    return float(horizon * place ** (2.0 if scale == "root" else 1.0))


@dataclass(frozen=True)
class _TimeAxes:
    """Where days and settlements (m) stand in a chart of settlement against time; ``place``: of a shown value."""

    horizon: float
    scale: str
    units: UnitSet
    high: float
    place: Axis

    def x(self, day: float) -> float:
        return WIDE * place_of(day, self.horizon, self.scale)

    def y(self, settled: float) -> float:
        return self.place(float(to_shown(1000 * settled, "mm", self.units)))

    def line(self, h: PadHistory, tone: str, width: float, dash: bool = False) -> Line:
        """A history, with as many points as a curve needs that bends over a logarithm."""
        dense = np.unique(np.concatenate([h.times, [day_of(k / 60, self.horizon, self.scale) for k in range(61)]]))
        values = np.interp(dense, h.times, h.total)
        return Line(tuple((self.x(float(t)), self.y(float(v))) for t, v in zip(dense, values)), tone, width, dash)

    def at_end(self, h: PadHistory) -> Point:
        """Where its line ends."""
        return WIDE, self.y(float(h.total[-1]))


def time_chart(
    project: Project,
    found: History,
    selected: str,
    day: float,
    scale: str,
    aspect: float,
    compared: PadHistory | None = None,
    own: PadHistory | None = None,
) -> Drawing:
    """Settlement against time: the selected foundation (or another point, ``own``), its neighbours, steps marked, the
    moment as a line to drag; dashed the primary part, with the end of primary."""
    own = found.pad(selected) if own is None else own
    if own is None:
        return said(say("not computed yet"))
    if own.why:
        return said(own.why)
    high, units = WIDE / max(aspect, 0.5), project.showing
    is_pad = found.pad(selected) is own
    names = [n for n, _ in neighbours(project).get(selected, ())][:4] if is_pad else []
    others = [h for n in names if (h := found.pad(n)) is not None and not h.why]
    limit = _limit(project, selected if is_pad else "", own.name)
    deepest = max([1000 * float(h.total.max(initial=0.0)) for h in (own, *others)] + [limit or 0.1, 1000 * own.final])
    lowest = min(1000 * float(h.total.min(initial=0.0)) for h in (own, *others))
    most, least = (float(to_shown(1.08 * v, "mm", units)) for v in (deepest, lowest))
    # settlement downwards
    axes = _TimeAxes(float(found.times[-1]), scale, units, high, axis(least, most, high, 0.0, 4))
    sketch = Sketch()
    _axes(sketch, axes, found)
    if limit is not None:
        at = axes.y(limit / 1000)
        sketch.add(
            Line(((0, at), (WIDE, at)), "beyond", 1.4, dash=True),
            Text((0, at), say("limit {limit}", limit=show(limit, "mm", units)), 10, "beyond", dx=5, dy=-4, halo=True),
        )
    for other in others:
        sketch.add(axes.line(other, "soft", 1.0), Text(axes.at_end(other), other.name, 10, "soft", dx=5, dy=3))
    if compared is not None and not compared.why:
        sketch.add(
            axes.line(compared, "ink", 1.4, True),
            Text(axes.at_end(compared), say("no drains"), 10, "ink", dx=5, dy=-8),
        )
    _primary(sketch, axes, own)
    sketch.add(axes.line(own, "accent", 2.4), Text(axes.at_end(own), own.name, 11, "accent", bold=True, dx=5, dy=3))
    _moment(sketch, axes, own, day)
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high + 0.12))


def _limit(project: Project, pad: str, mark: str) -> float | None:
    """The limit of settlement of a base, else of a mark where it has one, mm."""
    if pad:
        return 1000 * limits_of(project.settings_of(project.pad(pad))).total
    found = next((m for m in project.actions.marks if m.name == mark), None)
    return 1000 * found.limit if found is not None and found.limit is not None else None


def _axes(sketch: Sketch, axes: _TimeAxes, found: History) -> None:
    """Both axes, and the construction steps along the upper one."""
    high = axes.high
    up(sketch, axes.place, 0.0, WIDE)
    marks = tuple((place_of(t, axes.horizon, axes.scale), text) for t, text in _time_ticks(axes.horizon, axes.scale))
    across(sketch, Axis(0.0, 1.0, 0.0, WIDE, marks), 0.0, high)
    sketch.add(Text((0, high), shown_unit("mm", axes.units), TYPE, "soft", "right", dx=-6, dy=-8))
    taken = -9.0
    for step, begins in zip(found.line.steps, found.line.begins):
        at = axes.x(float(begins))
        sketch.add(Polygon(((at, high), (at - 0.06, high + 0.12), (at + 0.06, high + 0.12)), "soft", None))
        if at > taken:
            side: Anchor = "left" if at < 8.5 else "right"
            sketch.add(Text((at, high + 0.12), step.name, 9.5, "soft", side, dx=0, dy=-4, room=2.2))
            taken = at + 0.11 * len(step.name)


def _primary(sketch: Sketch, axes: _TimeAxes, own: PadHistory) -> None:
    """Dashed what of it is primary, where that ends, and when how much of it is there."""
    if float(np.abs(own.creep).max(initial=0.0)) > 5e-5:
        points = tuple((axes.x(float(t)), axes.y(float(v))) for t, v in zip(own.times, own.primary))
        sketch.add(Line(points, "accent", 1.1, True))
    if 0.0 < own.end_of_primary < axes.horizon:
        end = axes.x(own.end_of_primary)
        there = axes.y(float(np.interp(own.end_of_primary, own.times, own.primary)))
        down = -8 if there < 0.9 * axes.high else 16
        sketch.add(
            Line(((end, there - 0.1), (end, there + 0.1)), "accent", 1.6),
            Text((end, there), say("end of primary"), 9.5, "accent", "middle", dy=down, halo=True),
        )
    for i, share in enumerate((0.5, 0.9, 0.99)):
        text = say("{share:.0f} % of primary: {days}", share=100 * share, days=day_words(own.time_to(share)))
        sketch.add(Text((0.15, 0.42 * axes.high), text, 9.5, "soft", dy=13 * i, halo=True))


def _moment(sketch: Sketch, axes: _TimeAxes, own: PadHistory, day: float) -> None:
    """The moment, a line to drag, with what it has settled then."""
    at, units = axes.x(day), axes.units
    in_front, above = at < 0.6 * WIDE, at < 0.75 * WIDE
    sketch.add(
        Line(((at, 0), (at, axes.high)), "accent", 1.6, key="drag:moment"),
        Disc((at, axes.y(own.at(day))), 4.0, "accent", "paper", 1.2, fixed=True),
        Text(
            (at, axes.high if above else 0),
            f"{day_words(day)}: {show(1000 * own.at(day), 'mm', units)} {shown_unit('mm', units)}, {100 * own.degree(day):.0f} %",
            10.5,
            "accent",
            "left" if in_front else "right",
            bold=True,
            dx=6 if in_front else -6,
            dy=14 if above else -6,
            halo=True,
        ),
    )


def _time_ticks(horizon: float, scale: str) -> list[tuple[float, str]]:
    marks = [
        (1.0, "1 d"),
        (10.0, "10 d"),
        (30.44, say("1 month")),
        (100.0, "100 d"),
        (YEAR, "1 y"),
        (3 * YEAR, "3 y"),
        (10 * YEAR, "10 y"),
        (30 * YEAR, "30 y"),
        (50 * YEAR, "50 y"),
        (100 * YEAR, "100 y"),
    ]
    if scale == "log":
        within = [(t, s) for t, s in marks if t <= horizon and s != "1 month"]
        # the last one stands, not one close before it
        return [m for m, after in zip(within, [*within[1:], (math.inf, "")]) if after[0] > 1.8 * m[0]]
    if scale == "root":
        return [(0.0, "0"), *[(t, s) for t, s in marks[4:] if t <= horizon]]
    return [(v * YEAR, f"{v:g} y" if v else "0") for v in ticks(0.0, horizon / YEAR, 5)]
