"""The section through a pad: strata, water, levels, the base, its pressure and loads, all to scale."""

import math

from korbent.core.bearing.mechanism import Mechanism
from korbent.core.bench import finished_at
from korbent.core.explain.state import BaseState
from korbent.core.geometry import local_place
from korbent.core.ground.below import profile_below
from korbent.core.ground.profile import DRY, Profile, strata_of
from korbent.core.model import Pad, Project
from korbent.core.model.labels import label
from korbent.core.units import Showing, length_text, show, shown_unit
from korbent.drawing.ground_field import lines_of_equal
from korbent.drawing.mechanism import draw_mechanism
from korbent.drawing.primitives import Anchor, Dimension, Drawing, Line, Polygon, Sketch, Text, rectangle
from korbent.drawing.yielding import Below, within
from korbent.words import say

PRESSURE_HEIGHT = 0.45
"""Height at which the greater edge pressure is drawn, as a share of the width of the base."""


def section_drawing(
    project: Project,
    pad: Pad,
    state: BaseState | None,
    highlight: str = "",
    aspect: float = 2.0,
    mechanism: Mechanism | None = None,
    below: Below | None = None,
) -> Drawing:
    """The section along the pad's x axis, looking along +y.

    Args:
        aspect: width over height of the page.
        below: what bounds or a curve show of the ground, from the middle of the base, m.
    """
    point = project.load_point(pad.load_point)
    profile = profile_below(project.ground, pad, point)
    finished = finished_at(project, project.settings_of(pad))
    half = pad.width / 2
    levels = [project.load_point(name).level for name in pad.carries]
    high = max(finished, pad.top, *levels, *(p.top for p in pad.all_pedestals.values())) + 0.75
    low = pad.underside - max(1.6 * pad.width, 2.2)
    if profile:
        low = max(low, float(profile.end))
        low = min(low, pad.underside - 1.0)
    reach = max(2.2 * pad.width, (high - low) * aspect / 2)
    sketch = Sketch()
    sketch.layer = "ground"
    if profile:
        _strata(sketch, project, profile, reach, low, highlight == "strata")
    else:
        sketch.add(
            Polygon(rectangle(-reach, low, reach, finished), "fill"),
            Text((0, low), say("no borehole yet: the ground is not known"), 11, "soft", "middle", dy=-10),
        )
    sketch.layer = "fill"
    _pit(sketch, pad, finished)
    sketch.layer = "results"
    if below is not None:
        _below(sketch, below, pad.underside, low, reach, project.showing)
    if state:
        _water(sketch, project, state, reach, low)
        if mechanism and state.stable:
            draw_mechanism(sketch, mechanism, pad.underside, (-reach, reach))
        elif below is None:
            _pressure(sketch, project, pad, state, highlight in ("pressure", "contact"))
    sketch.layer = "foundations"
    _base(sketch, project, pad, half, finished, highlight)
    sketch.layer = "levels"
    _levels(sketch, project, pad, profile, reach, low, high, finished)
    sketch.layer = "loads"
    if state:
        _loads(sketch, project, pad, state, high)
    return Drawing(tuple(sketch.shapes), (-reach, low, reach, high))


def _below(sketch: Sketch, below: Below, level: float, low: float, reach: float, units: Showing) -> None:
    for ring in below.areas:
        shown = within(ring, reach, low - level)
        if len(shown) > 2:
            sketch.add(Polygon(tuple((x, level + y) for x, y in shown), "beyond", None, opacity=0.1))
    for strokes, tone, width, arrow in (
        (below.sides.tolist(), "soft", 0.4, False),
        (below.crosses, "accent", 1.2, False),
        (below.arrows, "beyond", 1.2, True),
    ):
        for x0, y0, x1, y1 in strokes:
            if max(abs(x0), abs(x1)) < reach and min(y0, y1) > low - level:
                sketch.add(Line(((x0, level + y0), (x1, level + y1)), tone, width, arrow=arrow))
    for field in below.fields:
        lines_of_equal(sketch, field, level, reach, low, units)
    for x0, y0, x1, y1 in below.slope:
        share = min(1.0, (reach - abs(x0)) / max(abs(x1 - x0), 1e-9), (level - low) / max(-y1, 1e-9))
        end = (x0 + share * (x1 - x0), level + y0 + share * (y1 - y0))
        angle = math.degrees(math.atan2(-y1, abs(x1 - x0)))
        sketch.add(
            Line(((x0, level + y0), end), "ink", 2.0, dash=True),
            Text(
                ((x0 + end[0]) / 2, (level + y0 + end[1]) / 2),
                say("ground falls away by {angle:.0f}°", angle=angle),
                11,
                "ink",
                "middle",
                dy=-8,
                halo=True,
            ),
        )


def _strata(sketch: Sketch, project: Project, profile: Profile, reach: float, low: float, lit: bool) -> None:
    strata = strata_of(profile)
    for i, (soil, top, bottom) in enumerate(strata):
        bottom = max(bottom, low)
        if i == 0:
            top = max(top, float(profile.existing))
        if top <= low:
            break
        sketch.add(Polygon(rectangle(-reach, bottom, reach, top), soil.pattern, None, pattern=soil.pattern))
        sketch.add(Line(((-reach, bottom), (reach, bottom)), "soft", 0.8))
    for soil, top, bottom in strata:
        bottom = max(bottom, low)
        if top - bottom > 0.3 and top > low:
            label = f"{soil.name}" + (f", {soil.description}" if soil.description else "")
            sketch.add(
                Text(
                    (reach, (top + bottom) / 2),
                    label,
                    11,
                    "accent" if lit else "ink",
                    "right",
                    dx=-8,
                    dy=4,
                    halo=True,
                )
            )
    sketch.add(Line(((-reach, float(profile.existing)), (reach, float(profile.existing))), "soft", 1.0, dash=True))
    formation = project.ground.surfaces.excavated
    if formation is not None and formation > low:
        sketch.add(
            Line(((-reach, formation), (-reach * 0.62, formation)), "soft", 1.0, dash=True),
            Text((-reach, formation), say("excavated"), 10, "soft", dx=6, dy=-3, halo=True),
        )


def _pit(sketch: Sketch, pad: Pad, finished: float) -> None:
    """The backfill: above the base, and between existing and finished ground."""
    half = pad.width / 2
    x0, x1 = -half - 0.15, half + 0.15
    top = max(finished, pad.underside)
    slope = 0.35 * max(top - pad.underside, 0.0)
    sketch.add(
        Polygon(
            ((x0, pad.underside), (x1, pad.underside), (x1 + slope, top), (x0 - slope, top)),
            "fill",
            "soft",
            0.7,
        )
    )


def _base(sketch: Sketch, project: Project, pad: Pad, half: float, finished: float, highlight: str) -> None:
    point = project.load_point(pad.load_point)
    strong = 2.4 if highlight in ("underside", "edge", "top", "frost") else 1.4
    stroke = "accent" if strong > 2 else "concrete_line"
    sketch.add(Polygon(rectangle(-half, pad.underside, half, pad.top), "concrete", stroke, strong, key="pad"))
    for part in pad.plate.lower if pad.plate else ():  # as if all were cut
        t = part.wall or pad.thickness
        (x0, x1), (low, high) = (part.x_from, part.x_to), (pad.underside - part.drop, pad.top - part.drop)
        outside = (
            (x0, pad.top),
            (x0, low),
            (x1, low),
            (x1, pad.top),
            (x1 - t, pad.top),
            (x1 - t, high),
            (x0 + t, high),
            (x0 + t, pad.top),
        )
        sketch.add(
            Polygon(rectangle(x0 + t, high, x1 - t, pad.top), "paper", None),
            Polygon(outside, "concrete", stroke, strong, key="pad"),
        )
    for rib in pad.plate.ribs if pad.plate else ():
        if rib.axis == "y":  # cut across
            low, high = (
                (pad.underside - rib.depth + pad.thickness, pad.underside)
                if rib.side == "below"
                else (pad.top, pad.top + rib.depth - pad.thickness)
            )
            sketch.add(
                Polygon(
                    rectangle(rib.at - rib.width / 2, low, rib.at + rib.width / 2, high),
                    "concrete",
                    stroke,
                    strong,
                )
            )
    for name in pad.carries:
        other, pedestal = project.load_point(name), pad.pedestal_under(name)
        x, top = local_place(pad, point, other)[0], pad.top
        if pedestal:
            w, top = pedestal.size_x / 2, pedestal.top
            sketch.add(Polygon(rectangle(x - w, pad.top, x + w, top), "concrete", "concrete_line", 1.2))
        w = other.size_x / 2
        up = max(other.level, top)
        sketch.add(Polygon(rectangle(x - w, top, x + w, up + 0.35), "concrete", "concrete_line", 1.2))
    held = "underside" if pad.held == "underside" else "top"
    where = pad.underside if held == "underside" else pad.top
    sketch.add(
        Dimension(
            (-half, pad.underside),
            (-half, pad.top),
            f"h {length_text(pad.thickness, project.showing)}",
            0.2,
            left=True,
            size=11,
        ),
        Polygon(((half + 0.05, where), (half + 0.2, where + 0.06), (half + 0.2, where - 0.06)), "accent"),
        Text((half + 0.2, where), say("{held} held", held=label(held)), 10, "accent", dx=4, dy=4, halo=True),
    )


def _water(sketch: Sketch, project: Project, state: BaseState, reach: float, low: float) -> None:
    if state.water <= max(low, DRY / 2):
        return
    x = -reach * 0.86
    sketch.add(
        Line(((-reach, state.water), (reach, state.water)), "water", 1.4, dash=True),
        Polygon(((x - 0.09, state.water + 0.16), (x + 0.09, state.water + 0.16), (x, state.water)), "water"),
        Text(
            (x, state.water),
            say("{water} water {level}", water=label(state.combination.water), level=_level(state.water, project)),
            11,
            "water",
            dx=10,
            dy=-4,
            halo=True,
        ),
    )


def _level(z: float, project: Project) -> str:
    value = abs(z) if project.units == "metric" else abs(z) / 0.3048
    text = f"{value:.2f}"
    return text if abs(z) < 0.005 else f"{'−' if z < 0 else '+'}{text}"


def _pressure(sketch: Sketch, project: Project, pad: Pad, state: BaseState, lit: bool) -> None:
    if not state.stable:
        sketch.add(
            Text(
                (0, pad.underside),
                say("unstable: the resultant lies outside the base"),
                12,
                "beyond",
                "middle",
                dy=22,
                bold=True,
                halo=True,
            )
        )
        return
    a, b, _ = state.plane
    half = pad.width / 2
    # on the middle line of the base: the pressure at both edges, cut off where contact is lost
    left, right = a - b * half, a + b * half
    ends = [(-half, left), (half, right)]
    if left < 0 < right or right < 0 < left:
        zero = -a / b
        ends = [(zero, 0.0), (half, right)] if left < 0 else [(-half, left), (zero, 0.0)]
    peak = max(p for _, p in ends)
    scale = PRESSURE_HEIGHT * pad.width / max(peak, 1e-9)
    outline = [(x, pad.underside) for x, _ in ends] + [(x, pad.underside - p * scale) for x, p in reversed(ends)]
    sketch.add(Polygon(tuple(outline), "pressure", "pressure", 2.2 if lit else 1.4, opacity=0.28))
    unit = shown_unit("kPa", project.showing)
    for x, p in ends:
        if p > 0.02 * peak:
            anchor: Anchor = "right" if x < 0 else "left"
            sketch.add(
                Text(
                    (x, pad.underside - p * scale),
                    f"{show(p, 'kPa', project.showing)} {unit}",
                    12,
                    "pressure",
                    anchor,
                    bold=True,
                    dx=-5 if x < 0 else 5,
                    dy=4,
                    halo=True,
                )
            )


def _loads(sketch: Sketch, project: Project, pad: Pad, state: BaseState, high: float) -> None:
    x = pad.offset_x
    point = project.load_point(pad.load_point)
    top = max(point.level, pad.pedestal.top if pad.pedestal else pad.top) + 0.35
    unit = shown_unit("kN", project.showing)
    down = state.column >= 0
    ends = ((x, high - 0.02), (x, top)) if down else ((x, top), (x, high - 0.02))
    sketch.add(
        Line(ends, "ink", 2.4, arrow=True),
        Text(
            (x, high),
            f"V {show(abs(state.column), 'kN', project.showing)} {unit}" + ("" if down else " up"),
            13,
            "ink",
            bold=True,
            dx=10,
            dy=10,
            halo=True,
        ),
    )
    if abs(state.Hx) > 0.05:
        sign = 1.0 if state.Hx > 0 else -1.0
        length = 0.55
        y = point.level + 0.2
        tip = x - sign * (point.size_x / 2 + 0.03)
        sketch.add(
            Line(((tip - sign * length, y), (tip, y)), "ink", 2.0, arrow=True),
            Text(
                (tip - sign * length, y),
                f"Hx {show(abs(state.Hx), 'kN', project.showing)} {unit}",
                12,
                "ink",
                "right" if sign > 0 else "left",
                dx=-6 * sign,
                dy=4,
                halo=True,
            ),
        )


def _levels(
    sketch: Sketch,
    project: Project,
    pad: Pad,
    profile: Profile | None,
    reach: float,
    low: float,
    high: float,
    finished: float,
) -> None:
    sketch.add(
        Line(((-reach, finished), (reach, finished)), "ink", 1.6),
        Text(
            (reach, finished),
            say("finished ground {level}", level=_level(finished, project)),
            11,
            "ink",
            "right",
            dx=-8,
            dy=-5,
            halo=True,
        ),
    )
    marks = {round(finished, 3): "", round(pad.top, 3): "", round(pad.underside, 3): ""}
    if profile:
        marks |= {round(float(z), 3): "" for z in (*profile.top, *profile.bottom) if low <= z <= high}
        marks[round(float(profile.existing), 3)] = ""
    height = high - low
    # levels that matter most keep their text where two would touch
    first = [round(pad.underside, 3), round(finished, 3), round(pad.top, 3)]
    kept: list[float] = []
    for z in first + sorted(set(marks) - set(first), reverse=True):
        if all(abs(z - k) > 0.04 * height for k in kept):
            kept.append(z)
    for z in kept:
        strong = z == round(pad.underside, 3)
        sketch.add(
            Line(((-reach, z), (-reach - 0.012 * height, z)), "ink", 1.0),
            Text((-reach, z), _level(z, project), 11, "ink", "right", bold=strong, dx=-9, dy=4, fixed=True),
        )
    sketch.add(Line(((-reach, low), (-reach, high)), "line", 1.0))
