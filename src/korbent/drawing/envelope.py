"""What a strip bears of two of V, H and M: the safe hull of lower bounds, the line beyond which nothing is borne,
methods, all combinations."""

from dataclasses import dataclass, field

from korbent.core.bearing.as_strip import AsStrip
from korbent.core.plasticity.envelope import AXES, Plane, Vector, beyond, hull, mirrored
from korbent.core.units import UnitSet, show, shown_unit, to_shown
from korbent.drawing.chart import Axis, across, number, ticks, up
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text
from korbent.words import say

WIDE = 10.0
UNITS = ("kN/m", "kN/m", "kNm/m")
NAMES = ("V", "H", "M")


@dataclass(frozen=True)
class Known:
    """What is known so far."""

    lower: tuple[Vector, ...] = ()
    upper: tuple[tuple[Vector, Vector], ...] = ()
    methods: tuple[tuple[str, tuple[Vector, ...]], ...] = ()
    state: str = ""
    rays: int = 0
    done: int = field(default=0)


def inside(ring: list[tuple[float, float]], point: tuple[float, float]) -> bool:
    """Whether a convex ring holds a point."""
    signs = set()
    for (ax, ay), (bx, by) in zip(ring, [*ring[1:], *ring[:1]]):
        cross = (bx - ax) * (point[1] - ay) - (by - ay) * (point[0] - ax)
        if abs(cross) > 1e-12:
            signs.add(cross > 0)
    return len(signs) == 1 and bool(ring)


def envelope_said(strip: AsStrip, plane: Plane, units: UnitSet) -> str:
    """What the chart is of, below it."""
    i, j = AXES[plane]
    held = (
        say("at V {force} {unit}", force=show(strip.force[0], "kN/m", units), unit=shown_unit("kN/m", units))
        if plane == "H-M"
        else say("without {names}", names=NAMES[3 - i - j])
    )
    return say(
        "{names}, {unit}, over {names_2}, {other_unit}, {held}. Filled: certainly borne; dashed: beyond it "
        "nothing is; grey: methods on the first stratum alone. Points: all combinations, seen along "
        "what is not drawn. {said}.",
        names=NAMES[j],
        unit=shown_unit(UNITS[j], units),
        names_2=NAMES[i],
        other_unit=shown_unit(UNITS[i], units),
        held=held,
        said=strip.said,
    )


def envelope_chart(strip: AsStrip | str, plane: Plane, known: Known, units: UnitSet, aspect: float) -> Drawing:
    """Two of V, H and M across and up; ``aspect``: width over height of the page."""
    if isinstance(strip, str):
        return Drawing((Text((0, 0), strip, 11, "soft", "middle"),), (-1, -1, 1, 1))
    i, j = AXES[plane]
    high = WIDE / max(aspect, 0.5)
    level = not strip.section.slope
    safe = hull(plane, known.lower, level)
    outer = beyond(plane, known.upper, level) if known.upper else []
    points = [(label, (V, H, M)[i], (V, H, M)[j]) for label, V, H, M in strip.others]
    reach = safe + [(p[i], p[j]) for p, _ in known.upper] + [(x, y) for _, x, y in points]
    reach += [(p[i], p[j]) for _, line in known.methods for p in line]
    most_x = 1.15 * max((abs(x) for x, _ in reach), default=1.0) or 1.0
    most_y = 1.12 * max((abs(y) for _, y in reach), default=1.0) or 1.0
    low_y = -most_y if plane == "H-M" else 0.0
    ux, uy = UNITS[i], UNITS[j]
    kx, ky = float(to_shown(1.0, ux, units)), float(to_shown(1.0, uy, units))
    x = Axis(-most_x, most_x, 0.0, WIDE, tuple((v / kx, number(v)) for v in ticks(-most_x * kx, most_x * kx, 5)))
    y = Axis(low_y, most_y, 0.0, high, tuple((v / ky, number(v)) for v in ticks(low_y * ky, most_y * ky, 5)))
    sketch = Sketch()
    across(sketch, x, 0.0, high, strong=0.0)
    up(sketch, y, 0.0, WIDE, strong=0.0)

    def at(a: float, b: float) -> tuple[float, float]:
        return min(max(x(a), 0.0), WIDE), min(max(y(b), 0.0), high)

    if len(outer) > 2:
        sketch.add(Polygon(tuple(at(*p) for p in outer), None, "accent", 1.2, dash=True))
    if len(safe) > 2:
        sketch.add(Polygon(tuple(at(*p) for p in safe), "accent_wash", "accent", 1.8, opacity=0.8))
    for k, (name, line) in enumerate(known.methods):
        left = [mirrored(plane, p) for p in line[1:]][::-1] if level else []
        ring = [(p[i], p[j]) for p in (*left, *line) if p[i] or p[j]]
        if ring:
            sketch.add(Line(tuple(at(*p) for p in ring), "soft", 1.4))
            end = line[min(2 * k + 1, len(line) - 1) if level else max(len(line) - 4 * k - 4, 0)]
            sketch.add(Text(at(end[i], end[j]), name, 10, "soft", dx=6, dy=0, halo=True))
    for label, a, b in points:
        own = label == strip.combination
        beyond_it = bool(safe) and not inside(safe, (a, b))
        sketch.add(Disc(at(a, b), 4.0 if own else 2.6, "beyond" if own or beyond_it else "ink", None, fixed=True))
        if own:
            sketch.add(
                Text(
                    at(a, b), say("combination {label}", label=label), 10.5, "beyond", bold=True, dx=8, dy=-4, halo=True
                )
            )
    state = known.state or (
        "" if known.done == known.rays else say("{done} of {rays} rays", done=known.done, rays=known.rays)
    )
    sketch.add(
        Text((WIDE, 0), f"{NAMES[i]}, {shown_unit(ux, units)}", 10, "soft", "right", dy=29),
        Text((0, high), f"{NAMES[j]}, {shown_unit(uy, units)}", 10, "soft", "right", dx=-6, dy=-6),
    )
    if state:
        sketch.add(Text((0, high), state, 11, "accent", dx=6, dy=14, halo=True))
    return Drawing(tuple(sketch.shapes), (0, 0, WIDE, high))
