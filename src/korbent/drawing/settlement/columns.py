"""What lies below one foundation over the depth: strata, stresses, strains and compressions, as columns and as a table."""

from collections.abc import Callable

import numpy as np

from korbent.core.model import Project
from korbent.core.settlement.history import PadHistory
from korbent.core.units import show, show_length, shown_unit, to_shown
from korbent.core.working import Array
from korbent.drawing.chart import Axis, ticks, top_axis
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.drawing.settlement.words import WIDE, day_words, said
from korbent.words import say


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
        place: Axis,
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
