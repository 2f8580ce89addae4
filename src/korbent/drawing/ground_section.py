"""The section through the ground along a line of the plan: units between the boreholes, holes, water, foundations."""

import math
from itertools import pairwise

from korbent.core.ground.profile import Profile, profile_at, strata_of
from korbent.core.model import Project
from korbent.core.model.labels import label
from korbent.core.units import show_length, shown_unit
from korbent.drawing.logs import signed
from korbent.drawing.plan import outline
from korbent.drawing.primitives import Disc, Drawing, Line, Point, Polygon, Sketch, Text, rectangle
from korbent.words import english, say

Stretch = tuple[Point, Point]
STATIONS = 81
Unit = tuple[str, int]


def usual_line(project: Project) -> Stretch:
    """A line to begin with: along the longer extent of holes and columns, through their middle."""
    places = [(h.x, h.y) for h in project.ground.boreholes] + [(p.x, p.y) for p in project.actions.load_points]
    xs, ys = [x for x, _ in places] or [0.0, 10.0], [y for _, y in places] or [0.0, 0.0]
    margin = 0.06 * max(max(xs) - min(xs), max(ys) - min(ys), 5.0)
    if max(xs) - min(xs) >= max(ys) - min(ys):
        middle = (max(ys) + min(ys)) / 2
        return ((min(xs) - margin, middle), (max(xs) + margin, middle))
    middle = (max(xs) + min(xs)) / 2
    return ((middle, min(ys) - margin), (middle, max(ys) + margin))


def _stations(project: Project, line: Stretch) -> tuple[list[float], list[Profile]]:
    """Places along a line, and the ground below them."""
    (x0, y0), (x1, y1) = line
    length = math.hypot(x1 - x0, y1 - y0)
    stations = [length * i / (STATIONS - 1) for i in range(STATIONS)]
    profiles = []
    for s in stations:
        profile = profile_at(project.ground, x0 + (x1 - x0) * s / length, y0 + (y1 - y0) * s / length)
        assert profile is not None
        profiles.append(profile)
    return stations, profiles


def _heights(project: Project, profiles: list[Profile]) -> tuple[float, float]:
    high = max(max(float(p.top[0]) for p in profiles), project.ground.surfaces.finished) + 0.4
    return high, min(float(p.end) for p in profiles)


def exaggerated(project: Project, line: Stretch, aspect: float) -> int:
    """How many times heights are drawn larger than lengths, where the line is long; there is at least one borehole."""
    _, profiles = _stations(project, line)
    high, low = _heights(project, profiles)
    length = math.dist(*line)
    return max((n for n in (1, 2, 5, 10, 20) if n <= length / ((high - low) * aspect) * 1.35), default=1)


def ground_section(project: Project, line: Stretch, aspect: float = 2.0) -> Drawing:
    """The section, looking so that the first point lies left. Heights are exaggerated where the line is long."""
    (x0, y0), (x1, y1) = line
    length = math.hypot(x1 - x0, y1 - y0)
    if not project.ground.boreholes or length < 0.1:
        text = say("no borehole yet") if not project.ground.boreholes else say("the line is too short: draw it again")
        return Drawing((Text((0, 0), text, 12, "soft", "middle"),), (-1, -1, 1, 1))
    stations, profiles = _stations(project, line)
    high, low = _heights(project, profiles)
    times = exaggerated(project, line, aspect)
    sketch = Sketch()

    def at(s: float, z: float) -> Point:
        return (s, z * times)

    ux, uy = (x1 - x0) / length, (y1 - y0) / length
    holes = [(h.x - x0) * ux + (h.y - y0) * uy for h in project.ground.boreholes]
    _units(sketch, stations, profiles, times, holes)
    finished = project.ground.surfaces.finished
    water = project.ground.water
    gap = 0.042 * (high - low)
    levels = [(say("finished"), finished, "ink")]
    if water:
        levels += [
            (label("high"), water.high, "water"),
            (label("normal"), water.normal, "water"),
            (label("low"), water.low, "water"),
        ]
    last = 1e9
    for name, level, colour in sorted(levels, key=lambda item: -item[1]):
        last = min(level, last - gap)
        sketch.add(Line((at(0, level), at(length, level)), colour, 1.1, dash=colour == "water"))
        sketch.add(Text(at(length, last), f"{name} {signed(level, project.showing)}", 10, colour, dx=5, dy=4))
    _pads(sketch, project, line, length, times)
    _holes(sketch, project, line, length, times)
    units = project.showing
    unit = shown_unit("m", units)
    ends = (
        f"({show_length(round(x0, 1), units)}, {show_length(round(y0, 1), units)})",
        f"({show_length(round(x1, 1), units)}, {show_length(round(y1, 1), units)}) {unit}",
    )
    sketch.add(
        Text(at(0, low), ends[0], 10, "soft", dy=16),
        Text(at(length, low), ends[1], 10, "soft", "right", dy=16),
        Text(
            at(length / 2, low),
            say("{length} {unit} long", length=show_length(round(length, 1), units), unit=unit)
            + (say(", heights {times} times", times=times) if times > 1 else say(", to scale"))
            + say(
                ", ground {interpolation}",
                interpolation=say("of the nearest borehole")
                if project.ground.interpolation == "nearest"
                else label(project.ground.interpolation),
            ),
            10,
            "soft",
            "middle",
            dy=31,
        ),
    )
    return Drawing(tuple(sketch.shapes), (0, low * times, length, high * times))


def _keys(profile: Profile) -> dict[Unit, tuple[float, float]]:
    seen: dict[str, int] = {}
    found = {}
    for soil, top, bottom in strata_of(profile):
        seen[soil.name] = seen.get(soil.name, -1) + 1
        found[(soil.name, seen[soil.name])] = (top, bottom)
    return found


def _units(sketch: Sketch, stations: list[float], profiles: list[Profile], times: int, holes: list[float]) -> None:
    """One area for each unit and each stretch in which it has a thickness."""
    found = [_keys(p) for p in profiles]
    soils = {s.name: s for p in profiles for s in p.soils}
    jumps = [not (a.place == b.place or english(a.place).startswith("between")) for a, b in pairwise(profiles)]
    for unit in dict.fromkeys(u for f in found for u in f):
        run: list[int] = []
        for i in range(len(stations) + 1):
            here = i < len(stations) and unit in found[i]
            if here and run and jumps[i - 1]:
                _area(sketch, stations, found, unit, run, times, soils[unit[0]].pattern, holes)
                run = []
            if here:
                run.append(i)
            elif run:
                _area(sketch, stations, found, unit, run, times, soils[unit[0]].pattern, holes)
                run = []


def _area(
    sketch: Sketch,
    stations: list[float],
    found: list[dict[Unit, tuple[float, float]]],
    unit: Unit,
    run: list[int],
    times: int,
    pattern: str,
    holes: list[float],
) -> None:
    step = stations[1] - stations[0]
    top = [(stations[i], found[i][unit][0] * times) for i in run]
    bottom = [(stations[i], found[i][unit][1] * times) for i in run]
    for edge in (top, bottom):
        # a run ends half way to the station where something else begins
        if run[0] > 0:
            edge.insert(0, (edge[0][0] - step / 2, edge[0][1]))
        if run[-1] < len(stations) - 1:
            edge.append((edge[-1][0] + step / 2, edge[-1][1]))
    sketch.add(Polygon((*top, *reversed(bottom)), pattern, "soft", 0.8, pattern=pattern))
    if len(run) > 8:
        # where the label stands clear of the boreholes
        places = [run[len(run) * k // 8] for k in (2, 3, 5, 6)]
        i = max(places, key=lambda k: min((abs(stations[k] - h) for h in holes), default=0.0))
        z = sum(found[i][unit]) / 2 * times
        room = 0.4 * (len(run) - 1) * step
        sketch.add(Text((stations[i], z), unit[0], 11, "ink", "middle", dy=4, halo=True, room=room))


def _holes(sketch: Sketch, project: Project, line: Stretch, length: float, times: int) -> None:
    """Boreholes near the line, moved onto it square to it."""
    (x0, y0), (x1, y1) = line
    ux, uy = (x1 - x0) / length, (y1 - y0) / length
    width = 0.012 * length
    soils = {s.name: s for s in project.ground.soils}
    unit = shown_unit("m", project.showing)
    for hole in project.ground.boreholes:
        s = (hole.x - x0) * ux + (hole.y - y0) * uy
        off = abs((hole.y - y0) * ux - (hole.x - x0) * uy)
        if not -0.02 * length <= s <= 1.02 * length or off > 0.35 * length:
            continue
        z = hole.ground_level
        for stratum in hole.strata:
            pattern = soils[stratum.soil].pattern
            sketch.add(
                Polygon(
                    rectangle(s - width / 2, (z - stratum.thickness) * times, s + width / 2, z * times),
                    pattern,
                    "ink",
                    1.2,
                )
            )
            z -= stratum.thickness
        text = hole.name + (
            say(", {length} {unit} off", length=show_length(round(off, 1), project.showing), unit=unit)
            if off > 0.05
            else ""
        )
        sketch.add(Text((s, hole.ground_level * times), text, 11, "ink", "middle", bold=True, dy=-9, halo=True))
        for test in hole.tests:
            if test.kind == "SPT N":
                at = (s + width / 2, (hole.ground_level - test.depth) * times)
                sketch.add(Text(at, f"N {test.value:g}", 9, "soft", dx=4, dy=3, halo=True))


def _pads(sketch: Sketch, project: Project, line: Stretch, length: float, times: int) -> None:
    """Foundations that the line crosses."""
    from shapely import LineString
    from shapely import Polygon as Area

    cut = LineString(line)
    (x0, y0), (x1, y1) = line
    ux, uy = (x1 - x0) / length, (y1 - y0) / length
    points = {p.name: p for p in project.actions.load_points}
    for pad in project.pads:
        part = cut.intersection(Area(outline(pad, points[pad.load_point])))
        if part.is_empty or part.length < 1e-6:
            continue
        stations = [(x - x0) * ux + (y - y0) * uy for x, y in part.coords]
        box = rectangle(min(stations), pad.underside * times, max(stations), pad.top * times)
        sketch.add(Polygon(box, "concrete", "concrete_line", 1.2, key=f"pad:{pad.name}"))
        middle = (sum(stations) / len(stations), pad.top * times)
        sketch.add(Text(middle, pad.name, 10, "ink", "middle", dy=-4, halo=True))


def holes_plan(project: Project, line: Stretch) -> Drawing:
    """Where the boreholes and the columns are, and the line of the section. Its ends can be dragged."""
    sketch = Sketch()
    places = [(h.x, h.y) for h in project.ground.boreholes] + [(p.x, p.y) for p in project.actions.load_points]
    places += list(line)
    xs, ys = [x for x, _ in places], [y for _, y in places]
    points = {p.name: p for p in project.actions.load_points}
    for pad in project.pads:
        sketch.add(Polygon(outline(pad, points[pad.load_point]), "faint", "line"))
    for point in project.actions.load_points:
        sketch.add(Disc((point.x, point.y), 1.6, "soft", None, fixed=True))
    for hole in project.ground.boreholes:
        sketch.add(
            Disc((hole.x, hole.y), 6, None, "water", 1.4, fixed=True),
            Disc((hole.x, hole.y), 2, "water", None, fixed=True),
            Text((hole.x, hole.y), hole.name, 11, "water", dx=9, dy=4, halo=True),
        )
    sketch.add(Line(line, "accent", 2.0))
    for i, end in enumerate(line):
        sketch.add(Disc(end, 5, "accent", None, fixed=True, key=f"drag:end:{i}"))
    return Drawing(tuple(sketch.shapes), (min(xs), min(ys), max(xs), max(ys)))
