"""Settlement as drawings: depth columns below one foundation, settlement against time, and the plan at a moment."""

import math
from collections.abc import Callable

import numpy as np

from korbent.core.model import Project
from korbent.core.settlement.history import YEAR, History, PadHistory, mark_history
from korbent.core.settlement.limits import limits_of
from korbent.core.settlement.neighbours import neighbours
from korbent.core.units import show, show_length, shown_unit, to_shown
from korbent.core.working import Array
from korbent.drawing.chart import TYPE, Axis, across, axis, ticks, top_axis, up
from korbent.drawing.plan import outline
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.words import say

WIDE = 10.0
NOTHING = Drawing((), (-1.0, -1.0, 1.0, 1.0))
Points = tuple[tuple[float, float], ...]


def said(text: str) -> Drawing:
    """A line where there is nothing to draw."""
    return Drawing((Text((0, 0), text, 12, "soft", "middle"),), (-1.0, -1.0, 1.0, 1.0))


def day_words(day: float) -> str:
    """A time span in the unit that suits it."""
    if not math.isfinite(day):
        return say("never")
    if day < 60:
        return f"{day:.0f} d"
    if day < 2 * YEAR:
        return say("{day:.1f} months", day=day / 30.44) if day < YEAR else say("{day:.1f} years", day=day / YEAR)
    return say("{day:.3g} years", day=day / YEAR)


def depth_columns(project: Project, found: PadHistory, day: float, aspect: float) -> Drawing:
    """Ground, stresses, strain, settlement by stratum and excess pore pressure at one moment, on one level axis."""
    if found.why:
        return said(found.why)
    own = _Depth(project, found, day, WIDE / max(aspect, 0.4))
    _ground_over_depth(own)
    _stresses(own)
    _strains(own)
    _compressions(own)
    _pressures(own.sketch, found, day, own.seen, own.middle, own.high, own.y, project)
    units = project.showing
    mm = shown_unit("mm", units)
    total = say("total {settlement} {mm}", settlement=show(1000 * found.at(day), "mm", units), mm=mm)
    if abs(found.below) > 5e-5:
        total += say(" · deeper {below}", below=show(1000 * found.below, "mm", units))
    own.sketch.add(
        Text((1.95, 0), say("in place"), 10, "ink", dy=15),
        Text((1.95, 0), say("now"), 10, "accent", dx=52, dy=15, bold=True),
        Text((1.95, 0), say("in the end · σ′p dashed"), 10, "soft", dx=80, dy=15),
        Text((6.4, 0), total, 10, "ink", bold=True, dy=15),
    )
    return Drawing(tuple(own.sketch.shapes), (0, 0, WIDE, own.high))


class _Depth:
    """The level axis that all columns share, down to where the added stress hardly counts."""

    def __init__(self, project: Project, found: PadHistory, day: float, high: float) -> None:
        self.found, self.day, self.high, self.units = found, day, high, project.showing
        self.soils = {s.name: s for s in project.ground.soils}
        self.middle = (found.levels[1:] + found.levels[:-1]) / 2
        pressed = np.flatnonzero(np.abs(found.added[-1]) > 0.04 * np.maximum(found.before, 1.0))
        last = min(int(pressed[-1]) + 3, len(self.middle)) if len(pressed) else -1
        self.low = float(found.levels[last])
        self.span = max(float(found.levels[0]) - self.low, 0.5)
        self.seen = self.middle >= self.low - 1e-9
        self.bounds = [bound for bound in _strata(found) if bound[1] > self.low]
        self.sketch = Sketch()

    def y(self, level: float) -> float:
        """Where a level stands."""
        return self.high * (1 - (float(self.found.levels[0]) - level) / self.span)

    def now(self, values: Array) -> Array:
        """Values by time, at the moment."""
        return _between(values, self.found.times, self.day)

    def curve(
        self,
        values: Array,
        unit: str,
        place: Callable[[float], float],
        tone: str,
        width: float,
        dash: bool = False,
    ) -> None:
        """Values over depth; a gap where there is none."""
        points = tuple(
            (place(float(to_shown(float(v), unit, self.units))), self.y(float(z)))
            for v, z in zip(values[self.seen], self.middle[self.seen])
            if np.isfinite(v)
        )
        if len(points) > 1:
            self.sketch.add(Line(points, tone, width, dash))


def _ground_over_depth(own: _Depth) -> None:
    """The log at the left, borders of strata across, levels."""
    log, sketch, units = 1.5, own.sketch, own.units
    for k, top, bottom in own.bounds:
        soil = own.soils.get(own.found.strata[k])
        box = rectangle(0.0, own.y(max(bottom, own.low)), log, own.y(top))
        sketch.add(Polygon(box, soil.pattern if soil else "fill", "soft", 0.8, pattern=soil.pattern if soil else None))
        sketch.add(Text((0.06, own.y(top)), own.found.strata[k], 10, "ink", dy=13, halo=True, room=log - 0.1))
    for _, top, bottom in _strata(own.found):
        for level in (top, bottom):
            if level >= own.low - 1e-6:
                sketch.add(Line(((0.0, own.y(level)), (WIDE, own.y(level))), "line", 0.8))
    for level in ticks(own.low, float(own.found.levels[0]), 6):
        text = f"{to_shown(level, 'm', units) or 0.0:+.6g}".replace("-", "−").removesuffix("+0") or "0"
        sketch.add(Text((0, own.y(level)), text, 9.5, "soft", "right", dx=-6, dy=3))
    sketch.add(Text((0, own.high), shown_unit("m", units), 9.5, "soft", "right", dx=-6, dy=-12))


def _stresses(own: _Depth) -> None:
    """Effective stress in place, now, in the end, and what the ground has borne before."""
    found, units, seen = own.found, own.units, own.seen
    now = found.before + own.now(found.added) - own.now(found.excess)
    end = found.before + found.added[-1]
    most = float(to_shown(float(np.nanmax(np.concatenate([now[seen], end[seen], found.before[seen]]))), "kPa", units))
    title = say("Effective stress, {kpa}", kpa=shown_unit("kPa", units))
    at = top_axis(own.sketch, 1.95, 4.55, own.high, 0.0, 0.0, 1.05 * most, title)
    _depths(own.sketch, found, own.y, own.low)
    own.curve(found.before, "kPa", at, "ink", 1.6)
    for k in np.unique(found.stratum):
        past = np.where(found.stratum == k, found.preconsolidation, np.nan)
        own.curve(np.where(past > found.before * 1.001, past, np.nan), "kPa", at, "soft", 1.2, True)
    own.curve(end, "kPa", at, "soft", 1.0)
    own.curve(now, "kPa", at, "accent", 2.2)


def _strains(own: _Depth) -> None:
    found, seen = own.found, own.seen
    strain = 100 * own.now(found.strain)
    widest = max(float(np.abs(100 * found.strain[-1][seen]).max(initial=0.0)), 1e-3)
    least = 1.1 * min(float(100 * found.strain[-1][seen].min(initial=0.0)), float(strain[seen].min(initial=0.0)), 0.0)
    at = top_axis(own.sketch, 4.95, 6.45, own.high, 0.0, least, 1.1 * widest, say("Strain, %"))
    points = [(at(0.0), own.y(float(own.middle[seen][0])))]
    points += [(at(float(v)), own.y(float(z))) for v, z in zip(strain[seen], own.middle[seen])]
    points.append((at(0.0), own.y(float(own.middle[seen][-1]))))
    own.sketch.add(Polygon(tuple(points), "faint", "ink", 1.2))


def _compressions(own: _Depth) -> None:
    """What every stratum settles, as a bar with its number."""
    found, units, mm = own.found, own.units, shown_unit("mm", own.units)
    shares = own.now(found.by_stratum)
    biggest = float(to_shown(1000 * max(float(found.by_stratum.max(initial=0.0)), 1e-6), "mm", units))
    lowest = float(to_shown(1000 * min(float(found.by_stratum.min(initial=0.0)), 0.0), "mm", units))
    title = say("Compression, {mm}", mm=mm)
    at = top_axis(own.sketch, 6.8, 8.1, own.high, 0.0, 1.35 * lowest, 1.35 * biggest, title)
    for k, top, bottom in own.bounds:
        value = 1000 * float(shares[k])
        soil = own.soils.get(found.strata[k])
        a, b = own.y(top), own.y(max(bottom, own.low))
        box = rectangle(at(0), b + 0.12 * (a - b), at(float(to_shown(value, "mm", units))), a - 0.12 * (a - b))
        own.sketch.add(Polygon(box, soil.pattern if soil else "fill", "ink", 1.0))
        where = (max(box[1][0], at(0)), (a + b) / 2)
        own.sketch.add(Text(where, show(value, "mm", units), 11, "ink", bold=True, dx=5, dy=4, halo=True))


LIMITS = (0.2, 0.1)
"""Added over effective stress at which lines are drawn in the charts over depth."""


def _depths(sketch: Sketch, found: PadHistory, y: Callable[[float], float], low: float) -> None:
    """Where the added stress falls below 20 % and 10 % of the effective stress, and down to where strata are
    counted."""
    for share in LIMITS:
        level = found.level_of(share)
        if level is None or level < low:
            continue
        sketch.add(
            Line(((1.5, y(level)), (WIDE, y(level))), "soft", 1.0, True),
            Text((8.1, y(level)), f"{100 * share:.0f} %", 9, "soft", "right", dx=-3, dy=-3, halo=True),
        )
    counted = float(found.levels[0]) - found.depth
    if counted >= low:
        sketch.add(Line(((1.5, y(counted)), (1.85, y(counted))), "accent", 3.0))


def _pressures(
    sketch: Sketch,
    found: PadHistory,
    day: float,
    seen: np.ndarray,
    middle: np.ndarray,
    high: float,
    y: Callable[[float], float],
    project: Project,
) -> None:
    """Excess pore pressure now, and thin lines at other moments."""
    units = project.showing
    wet = found.excess[:, seen]
    most = float(to_shown(max(float(np.abs(wet).max(initial=0.0)), 1.0), "kPa", units))
    least = float(to_shown(min(float(wet.min(initial=0.0)), 0.0), "kPa", units))
    at = top_axis(
        sketch, 8.5, WIDE, high, 0.0, least, 1.1 * most, say("Excess u, {unit}", unit=shown_unit("kPa", units))
    )
    if not found.consolidating.any():
        sketch.add(Text((9.25, high / 2), say("all strata drain"), 10, "soft", "middle", halo=True))
        return
    level = y  # the place of a level on the page

    def line(row: np.ndarray, tone: str, width: float) -> tuple[float, float]:
        points = tuple(
            (at(float(to_shown(float(v), "kPa", units))), level(float(z))) for v, z in zip(row[seen], middle[seen])
        )
        sketch.add(Line(points, tone, width))
        return max(points, key=lambda p: p[0])

    peak = int(np.abs(found.excess).max(axis=1).argmax())
    shown = {peak}
    for share in (0.5, 0.2):
        later = np.flatnonzero(
            np.abs(found.excess[peak:]).max(axis=1) <= share * max(float(np.abs(found.excess[peak]).max()), 1e-9)
        )
        if len(later):
            shown.add(peak + int(later[0]))
    for row in sorted(shown):
        tip = line(found.excess[row], "soft", 0.9)
        sketch.add(Text(tip, day_words(float(found.times[row])), 9, "soft", dx=3, dy=3, halo=True))
    line(_between(found.excess, found.times, day), "accent", 2.2)


def _row(times: np.ndarray, day: float) -> int:
    return int(np.clip(np.searchsorted(times, day + 1e-9, side="right") - 1, 0, len(times) - 1))


def _between(rows: np.ndarray, times: np.ndarray, day: float) -> np.ndarray:
    """Rows over time, linear between them."""
    i = _row(times, day)
    if i + 1 >= len(times):
        return np.asarray(rows[-1])
    share = (day - times[i]) / max(times[i + 1] - times[i], 1e-12)
    return np.asarray(rows[i] + share * (rows[i + 1] - rows[i]))


def _strata(found: PadHistory) -> list[tuple[int, float, float]]:
    """(stratum, top, bottom) below the underside; slices of one soil one after the other."""
    rows = []
    for k in np.unique(found.stratum):
        cells = np.flatnonzero(found.stratum == k)
        rows.append((int(k), float(found.levels[cells[0]]), float(found.levels[cells[-1] + 1])))
    return rows


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
    high = WIDE / max(aspect, 0.5)
    horizon = float(found.times[-1])
    units = project.showing
    is_pad = found.pad(selected) is own
    names = [n for n, _ in neighbours(project).get(selected, ())][:4] if is_pad else []
    others = [h for n in names if (h := found.pad(n)) is not None and not h.why]
    if is_pad:
        limit: float | None = 1000 * limits_of(project.settings_of(project.pad(selected))).total
    else:
        mark = next((m for m in project.actions.marks if m.name == own.name), None)
        limit = 1000 * mark.limit if mark is not None and mark.limit is not None else None
    deepest = max([1000 * float(h.total.max(initial=0.0)) for h in (own, *others)] + [limit or 0.1, 1000 * own.final])
    lowest = min(1000 * float(h.total.min(initial=0.0)) for h in (own, *others))
    most = float(to_shown(1.08 * deepest, "mm", units))
    least = float(to_shown(1.08 * lowest, "mm", units))
    sketch = Sketch()

    # settlement downwards
    place = axis(least, most, high, 0.0, 4)

    def x(t: float) -> float:
        return WIDE * place_of(t, horizon, scale)

    def y(value: float) -> float:
        return place(float(to_shown(1000 * value, "mm", units)))

    up(sketch, place, 0.0, WIDE)
    marks = tuple((place_of(t, horizon, scale), text) for t, text in _time_ticks(horizon, scale))
    across(sketch, Axis(0.0, 1.0, 0.0, WIDE, marks), 0.0, high)
    sketch.add(Text((0, high), shown_unit("mm", units), TYPE, "soft", "right", dx=-6, dy=-8))
    taken = -9.0
    for step, begins in zip(found.line.steps, found.line.begins):
        at = x(float(begins))
        sketch.add(Polygon(((at, high), (at - 0.06, high + 0.12), (at + 0.06, high + 0.12)), "soft", None))
        if at > taken:
            sketch.add(
                Text(
                    (at, high + 0.12),
                    step.name,
                    9.5,
                    "soft",
                    "left" if at < 8.5 else "right",
                    dx=0,
                    dy=-4,
                    room=2.2,
                )
            )
            taken = at + 0.11 * len(step.name)
    if limit is not None:
        line = place(float(to_shown(limit, "mm", units)))
        sketch.add(
            Line(((0, line), (WIDE, line)), "beyond", 1.4, dash=True),
            Text((0, line), say("limit {limit}", limit=show(limit, "mm", units)), 10, "beyond", dx=5, dy=-4, halo=True),
        )

    def curve(h: PadHistory, tone: str, width: float, dash: bool = False) -> None:
        dense = np.unique(np.concatenate([h.times, [day_of(k / 60, horizon, scale) for k in range(61)]]))
        values = np.interp(dense, h.times, h.total)
        sketch.add(Line(tuple((x(float(t)), y(float(v))) for t, v in zip(dense, values)), tone, width, dash))

    for other in others:
        curve(other, "soft", 1.0)
        sketch.add(Text((WIDE, y(float(other.total[-1]))), other.name, 10, "soft", dx=5, dy=3))
    if compared is not None and not compared.why:
        curve(compared, "ink", 1.4, True)
        sketch.add(Text((WIDE, y(float(compared.total[-1]))), say("no drains"), 10, "ink", dx=5, dy=-8))
    if float(np.abs(own.creep).max(initial=0.0)) > 5e-5:
        primary = tuple((x(float(t)), y(float(v))) for t, v in zip(own.times, own.primary))
        sketch.add(Line(primary, "accent", 1.1, True))
    if 0.0 < own.end_of_primary < horizon:
        end = x(own.end_of_primary)
        there = y(float(np.interp(own.end_of_primary, own.times, own.primary)))
        sketch.add(
            Line(((end, there - 0.1), (end, there + 0.1)), "accent", 1.6),
            Text(
                (end, there),
                say("end of primary"),
                9.5,
                "accent",
                "middle",
                dy=-8 if there < 0.9 * high else 16,
                halo=True,
            ),
        )
    for i, share in enumerate((0.5, 0.9, 0.99)):
        text = say("{share:.0f} % of primary: {days}", share=100 * share, days=day_words(own.time_to(share)))
        sketch.add(Text((0.15, 0.42 * high), text, 9.5, "soft", dy=13 * i, halo=True))
    curve(own, "accent", 2.4)
    sketch.add(Text((WIDE, y(float(own.total[-1]))), own.name, 11, "accent", bold=True, dx=5, dy=3))
    at = x(day)
    sketch.add(
        Line(((at, 0), (at, high)), "accent", 1.6, key="drag:moment"),
        Disc((at, y(own.at(day))), 4.0, "accent", "paper", 1.2, fixed=True),
        Text(
            (at, high if at < 0.75 * WIDE else 0),
            f"{day_words(day)}: {show(1000 * own.at(day), 'mm', units)} {shown_unit('mm', units)}, {100 * own.degree(day):.0f} %",
            10.5,
            "accent",
            "left" if at < 0.6 * WIDE else "right",
            bold=True,
            dx=6 if at < 0.6 * WIDE else -6,
            dy=14 if at < 0.75 * WIDE else -6,
            halo=True,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high + 0.12))


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


def settlement_plan(project: Project, found: History, day: float, selected: str) -> Drawing:
    """The foundations as discs of their settlement at a moment, and the slopes between neighbours beyond their
    limit."""
    if not project.pads and not project.actions.marks:
        return said(say("no foundation and no settlement mark yet"))
    points = {p.name: p for p in project.actions.load_points}
    places, values = {}, {}
    sketch = Sketch()
    for pad in project.pads:
        corners = outline(pad, points[pad.load_point])
        places[pad.name] = (
            sum(c[0] for c in corners) / len(corners),
            sum(c[1] for c in corners) / len(corners),
        )
        own = found.pad(pad.name)
        if own is not None and not own.why:
            values[pad.name] = own.at(day)
        sketch.add(Polygon(corners, None, "line", 1.0, key=f"pad:{pad.name}"))
    everywhere = [*places.values(), *((m.x, m.y) for m in project.actions.marks)]
    xs, ys = [p[0] for p in everywhere], [p[1] for p in everywhere]
    span = max(max(xs) - min(xs), max(ys) - min(ys), 6.0)
    greatest = max([abs(v) for h in found.pads if not h.why for v in (h.total.max(initial=0.0),)] + [1e-6])
    drawn = set()
    worst: tuple[float, str, str] = (0.0, "", "")
    for name, rows in neighbours(project).items():
        for other, distance in rows:
            key = tuple(sorted((name, other)))
            if key in drawn or name not in values or other not in values:
                continue
            drawn.add(key)
            slope = abs(values[name] - values[other]) / distance
            limit = limits_of(project.settings_of(project.pad(name))).slope
            beyond = slope > limit
            worst = max(worst, (slope, name, other))
            sketch.add(Line((places[name], places[other]), "beyond" if beyond else "line", 2.6 if beyond else 1.0))
            if beyond:
                mid = ((places[name][0] + places[other][0]) / 2, (places[name][1] + places[other][1]) / 2)
                sketch.add(Text(mid, f"1/{1 / slope:.0f}", 10, "beyond", "middle", bold=True, dy=-5, halo=True))
    units = project.showing
    for mark in project.actions.marks:
        own = mark_history(project, mark)
        text_of = "?" if own.why else show(1000 * own.at(day), "mm", units)
        sketch.add(
            Line(((mark.x - 0.012 * span, mark.y), (mark.x + 0.012 * span, mark.y)), "ink", 1.4),
            Line(((mark.x, mark.y - 0.012 * span), (mark.x, mark.y + 0.012 * span)), "ink", 1.4),
            Text((mark.x, mark.y), f"{mark.name} {text_of}", 10, "ink", dx=7, dy=4, halo=True),
        )
    for pad in project.pads:
        value = values.get(pad.name)
        chosen = pad.name == selected
        if value is None:
            sketch.add(Text(places[pad.name], "?", 11, "soft", "middle", dy=4))
            continue
        radius = max(0.055 * span * math.sqrt(max(value, 0.0) / greatest), 0.006 * span)
        ratio = value / limits_of(project.settings_of(pad)).total
        sketch.add(
            Disc(
                places[pad.name],
                radius,
                f"ratio:{max(ratio, 0.0):.3f}",
                "accent" if chosen else "ink",
                2.4 if chosen else 0.8,
                key=f"pad:{pad.name}",
            ),
            Text(
                (places[pad.name][0], places[pad.name][1] - radius),
                f"{show(1000 * value, 'mm', units)}",
                10,
                "accent" if chosen else "ink",
                "middle",
                bold=chosen,
                dy=12,
                halo=True,
            ),
        )
    text = say("disc: settlement, {unit}", unit=shown_unit("mm", units))
    x0, x1, y0, y1 = (
        min(xs) - 0.06 * span,
        max(xs) + 0.06 * span,
        min(ys) - 0.09 * span,
        max(ys) + 0.07 * span,
    )
    sketch.add(Text(((x0 + x1) / 2, y0), text, 10, "soft", "middle", dy=14))
    if worst[0] > 0:
        steepest = say(
            "steepest slope 1/{worst:.0f}, {worst_2} to {worst_3}",
            worst=1 / worst[0],
            worst_2=worst[1],
            worst_3=worst[2],
        )
        sketch.add(Text(((x0 + x1) / 2, y0), steepest, 10, "soft", "middle", dy=28))
    return Drawing(tuple(sketch.shapes), (x0, y0, x1, y1))


def sublayer_table(project: Project, found: PadHistory, day: float) -> str:
    """Every sublayer at a moment as lines divided by tabs, with units in the headings: for a spreadsheet."""
    units = project.showing
    added, excess, strain = (_between(v, found.times, day) for v in (found.added, found.excess, found.strain))
    head = (
        say("stratum"),
        say("top, {unit}", unit=shown_unit("m", units)),
        say("bottom, {unit}", unit=shown_unit("m", units)),
        say("σ′ before, {unit}", unit=shown_unit("kPa", units)),
        f"σ′p, {shown_unit('kPa', units)}",
        say("added, {unit}", unit=shown_unit("kPa", units)),
        say("excess pore pressure, {unit}", unit=shown_unit("kPa", units)),
        say("strain, %"),
        say("compression, {unit}", unit=shown_unit("mm", units)),
    )
    lines = ["\t".join(head)]
    for c, k in enumerate(found.stratum):
        top, bottom = float(found.levels[c]), float(found.levels[c + 1])
        pre = found.preconsolidation[c]
        compression = 1000 * float(strain[c]) * (top - bottom)
        row = (
            found.strata[k],
            show_length(top, units),
            show_length(bottom, units),
            f"{to_shown(float(found.before[c]), 'kPa', units):.5g}",
            f"{to_shown(float(pre), 'kPa', units):.5g}" if np.isfinite(pre) else "",
            f"{to_shown(float(added[c]), 'kPa', units):.5g}",
            f"{to_shown(float(excess[c]), 'kPa', units):.5g}",
            f"{100 * float(strain[c]):.5g}",
            f"{to_shown(compression, 'mm', units):.5g}",
        )
        lines.append("\t".join(row))
    return "\n".join(lines)
