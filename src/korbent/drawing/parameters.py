"""A parameter over level: what the tests of a soil give by each correlation, and the adopted value."""

from collections.abc import Callable
from itertools import pairwise

from korbent.core.ground.correlations import PSEUDO_UNITS, Derived, derived
from korbent.core.ground.estimates import UPPER, Estimate, estimates, lines
from korbent.core.model import Project
from korbent.core.model.frozen import unit_of
from korbent.core.model.ground import LINES, OverLevel, Soil
from korbent.core.units import show, shown_unit, to_shown
from korbent.drawing.chart import Axis, across, number, ticks, up
from korbent.drawing.primitives import Disc, Drawing, Line, Polygon, Sketch, Text
from korbent.words import say

MARKS = ("accent", "steel_y", "steel_x", "good", "beyond")


def unit_for(parameter: str) -> str:
    """The stored unit of a parameter, or of what only tests tell."""
    return PSEUDO_UNITS[parameter] if parameter in PSEUDO_UNITS else unit_of(Soil, parameter)


def parameter_chart(
    project: Project, soil: str, parameter: str, aspect: float, suggested: Estimate | None = None
) -> Drawing:
    """Values over level, the adopted value or line, and a suggested one. Levels are to scale; values fill the width."""
    found = derived(project.ground, soil, parameter)
    unit, units = unit_for(parameter), project.showing
    if not found:
        text = Text(
            (0, 0),
            say("no test in this soil gives this parameter: add tests in the table below"),
            11,
            "soft",
            "middle",
        )
        return Drawing((text,), (-1, -1, 1, 1))
    owner = next((s for s in project.ground.soils if s.name == soil), None)
    adopted = getattr(owner, parameter, None)
    line = owner.over_level.get(parameter) if owner else None
    levels = [d.level for d in found]
    high, low = max(levels) + 0.4, min(levels) - 0.4
    if high - low < 2.0:
        high, low = high + 0.6, low - 0.6
    width = (high - low) * max(aspect, 0.4)
    values = [d.value for d in found] + ([adopted] if adopted else [])
    for over in (line, suggested.line if suggested else None):
        values += [v for _, v in over.points] if over else []
    most = max(values) * 1.08
    sketch = Sketch()

    def at(value: float) -> float:
        return float(value / most * width)

    # round numbers of what is shown
    one, metre = float(to_shown(1.0, unit, units)), float(to_shown(1.0, "m", units))
    marks = tuple((v / one, number(v)) for v in ticks(0.0, most * one, 4))
    across(sketch, Axis(0.0, most, 0.0, width, marks), low, high, above=True)
    heights = tuple((v / metre, f"{v:+g}".replace("-", "−")) for v in ticks(low * metre, high * metre, 6))
    up(sketch, Axis(low, high, low, high, heights), 0.0, width)
    sources = list(dict.fromkeys(d.correlation.source for d in found))
    for d in found:
        colour = MARKS[sources.index(d.correlation.source) % len(MARKS)]
        sketch.add(Disc((at(d.value), d.level), 4, colour if d.in_range else None, colour, 1.4, fixed=True))
    if suggested:
        shape = suggested.line or suggested.value
        sketch.add(Line(_run(shape, at, high, low), "accent", 1.6, dash=True))
    if line:
        sketch.add(Line(_run(line, at, high, low), "ink", 2.0))
        said = say("adopted, in steps over level") if line.kind == "stepwise" else say("adopted, linear over level")
        sketch.add(Text((width / 2, low), said, 11, "ink", "middle", bold=True, dy=14, halo=True))
    elif adopted:
        sketch.add(
            Line(((at(adopted), low), (at(adopted), high)), "ink", 2.0),
            Text(
                (at(adopted), low),
                say("adopted {adopted} {unit}", adopted=show(adopted, unit, units), unit=shown_unit(unit, units)),
                11,
                "ink",
                "middle",
                bold=True,
                dy=14,
                halo=True,
            ),
        )
    for i, source in enumerate(sources):
        sketch.add(
            Disc((0, low), 0.1, None, None, fixed=True),
            Text((0, low), f"● {source}", 10, MARKS[i % len(MARKS)], dx=-38, dy=30 + 14 * i),
        )
    if not all(d.in_range for d in found):
        sketch.add(
            Text((width, low), say("○ marked: does not enter means"), 10, "soft", "right", dy=30 + 14 * len(sources))
        )
    sketch.add(Polygon(((0, low), (width, low), (width, high), (0, high)), None, "line"))
    return Drawing(tuple(sketch.shapes), (0, low, width, high))


def _run(
    shape: OverLevel | float, at: Callable[[float], float], high: float, low: float
) -> tuple[tuple[float, float], ...]:
    """The corners of a value or line over level, from top to bottom of the chart."""
    if isinstance(shape, float):
        return ((at(shape), low), (at(shape), high))
    points = shape.points
    corners = [(at(points[0][1]), max(high, points[0][0]))]
    for (upper, value), (lower, following) in pairwise(points):
        corners += [(at(value), upper), (at(following if shape.kind == "linear" else value), lower)]
    corners += [(at(points[-1][1]), points[-1][0]), (at(points[-1][1]), min(low, points[-1][0]))]
    return tuple(corners)


def by_source(found: list[Derived], variation: float | None = None) -> list[tuple[str, list[Estimate]]]:
    """Estimates of each correlation on its own: values of different relations are not mixed, those that are marked do
    not enter.

    Args:
        variation: the coefficient of variation, where it is known.
    """
    result = []
    for source in dict.fromkeys(d.correlation.source for d in found):
        own = [d for d in found if d.correlation.source == source and d.in_range]
        if not own:
            continue
        upper = own[0].correlation.gives in UPPER
        several = estimates([d.value for d in own], upper, variation)
        if own[0].correlation.gives in LINES:
            several += lines([d.level for d in own], [d.value for d in own], upper)
        result.append((source, several))
    return result
