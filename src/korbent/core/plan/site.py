"""Bases in the plan: clear of boundaries and obstacles, clear of each other, steps between neighbours."""

from dataclasses import dataclass
from typing import Any

import numpy as np

from korbent.core.bench import Bench
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.geometry import PadGeometry, pad_geometry, table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.site import Outline
from korbent.core.working import Array, Recorder
from korbent.words import say

TOUCH = 1e-6  # m, reach across an outline below which a base only touches it


def corners(g: PadGeometry) -> Array:
    """Points of the outlines in the plan, anticlockwise, shape (candidates, points, 2), m."""
    return _placed(g, *g.footprint.outline(g.offset_x, g.offset_y))


def _placed(g: PadGeometry, u: Array, v: Array) -> Array:
    """Points from the first column, in pad axes, as points of the plan."""
    c, s = np.cos(g.rotation), np.sin(g.rotation)
    return np.stack([g.column[0] + c * u - s * v, g.column[1] + s * u + c * v], axis=-1)


def shape_of(outline: Outline) -> Any:
    """An outline as an area, or as a line where it is open."""
    import shapely

    return shapely.Polygon(outline.points) if outline.closed else shapely.LineString(outline.points)


def clear_of(bases: Array, outline: Outline) -> Array:
    """How far bases (shapely polygons) are clear of an outline, m; negative by how far they reach across it.

    A base held exactly at an outline lies across it by rounding alone: what is less than ``TOUCH`` is no crossing.
    """
    import shapely

    shape = shape_of(outline)
    within = shapely.buffer(bases, -TOUCH, quad_segs=1, join_style="mitre")
    shapely.prepare(shape)
    if outline.kind == "boundary" and outline.closed:
        inside = shapely.covers(shape, within)
        rim = shapely.distance(bases, shape.boundary)
        # outside: how far the base reaches out
        out = shapely.hausdorff_distance(shapely.union(bases, shape), shape)
        clear: Array = np.where(inside, rim, -np.maximum(out, 1e-3))
        return clear
    crossed = shapely.intersects(shape, within)
    free: Array = np.where(crossed, -1e-3, shapely.distance(bases, shape))
    return free


def site_checks(bench: Bench, record: Recorder) -> list[Outcome]:
    """Every base clear of boundaries, obstacles and existing foundations."""
    fixed = [o for o in bench.site if o.kind != "underlay"]
    if not fixed:
        return [does_not_apply("site", say("no boundary and no obstacle is drawn"))]
    import shapely

    bases = shapely.polygons(corners(bench.geometry))
    gaps = np.stack([clear_of(bases, outline) for outline in fixed], axis=-1)
    nearest = gaps.argmin(axis=-1)
    clear = gaps.min(axis=-1)[:, None]
    needed = np.full_like(clear, bench.settings.clearance)
    crosses = clear < -1e-9
    touching = (clear <= 1e-9) & (needed > 1e-9)
    # an edge that is held at its clearance uses nothing up: only what is short counts
    short = (clear < needed - 1e-6) & (clear > 1e-9)
    ratio = np.where(short, needed / np.maximum(clear, 1e-9), 0.0)
    record.given("a_min", needed, "m", note=say("clearance asked for"))
    record.given("a", clear, "m", note=say("clearance; negative: across"))
    record.step("ratio", "where(a > 1e-9, where(a_min - a > 1e-6, a_min/max(a, 1e-9), 0), 0)", ratio)

    def note(candidate: int, column: int) -> str:
        name = fixed[int(nearest[candidate])].name
        return say("{name} is crossed", name=name) if crosses[candidate, 0] else say("nearest: {name}", name=name)

    return [Outcome(CHECKS["site"], needed, np.maximum(clear, 0.0), ratio, unresisted=crosses | touching, note=note)]


@dataclass(frozen=True)
class Conflict:
    """Two bases that clash, stand too near, or step too steeply. ``gap`` in m, negative where they overlap."""

    kind: str
    first: str
    second: str
    gap: float
    text: str


def outlines_of(project: Project) -> Any:
    """The bases in the plan as an array of shapely polygons."""
    import shapely

    found = np.empty(len(project.pads), dtype=object)
    for shape in {pad.shape for pad in project.pads}:
        which = [i for i, pad in enumerate(project.pads) if pad.shape == shape]
        if which:
            pads = [project.pads[i] for i in which]
            points = [project.load_point(pad.load_point) for pad in pads]
            rows = np.concatenate([table(pad) for pad in pads])
            found[which] = shapely.polygons(corners(pad_geometry(pads, points, np.arange(len(pads)), rows)))
    return found


def conflicts(project: Project) -> tuple[Conflict, ...]:
    """Bases that overlap, gaps smaller than asked for, and founding levels that step more steeply than allowed.

    Remembered as long as bases, places of columns, types and settings stay the same: a load changes nothing here.
    """
    if len(project.pads) < 2:
        return ()
    points = {p.name: (p.x, p.y, p.rotation) for p in project.actions.load_points}
    key = (
        *map(id, (project.pads, project.types, project.settings)),
        *(points[p.load_point] for p in project.pads),
    )
    return _known.of(key, project, lambda: _conflicts(project))


_known: Cache[tuple[Conflict, ...]] = Cache(each=4 * MEGABYTE)


def _conflicts(project: Project) -> tuple[Conflict, ...]:
    import shapely

    shapes = outlines_of(project)
    settings = [project.settings_of(p) for p in project.pads]
    levels = [p.underside for p in project.pads]
    # two bases can be in conflict as far apart as their levels differ
    reach = max(max(s.gap_least for s in settings), (max(levels) - min(levels)) / min(s.step_slope for s in settings))
    tree = shapely.STRtree(shapes)
    near = tree.query(shapes, predicate="dwithin", distance=reach)
    pairs = sorted({(int(min(a, b)), int(max(a, b))) for a, b in near.T if a != b})
    found = []
    for i, j in pairs:
        a, b = project.pads[i], project.pads[j]
        overlap = shapely.intersection(shapes[i], shapes[j]).area
        gap = float(shapely.distance(shapes[i], shapes[j]))
        least = max(settings[i].gap_least, settings[j].gap_least)
        if overlap > 1e-6:
            text = say(
                "{a} and {b} overlap by {overlap:.2f} m²: move one, or give both columns one base",
                a=a.name,
                b=b.name,
                overlap=overlap,
            )
            found.append(Conflict("overlap", a.name, b.name, -gap, text))
            continue
        if gap < least - 1e-9:
            text = say(
                "{a} and {b} are {gap:.2f} m apart, {least:.2f} m are asked for",
                a=a.name,
                b=b.name,
                gap=gap,
                least=least,
            )
            found.append(Conflict("gap", a.name, b.name, gap, text))
        step = abs(a.underside - b.underside)
        slope = min(settings[i].step_slope, settings[j].step_slope)
        if step > 0.01 and step > slope * gap + 1e-9:
            lower, upper = (a, b) if a.underside < b.underside else (b, a)
            text = say(
                "{lower} is founded {step:.2f} m below {upper} at {gap:.2f} m from it: at most {slope:.2f} m, "
                "else the upper base loads the lower or loses its ground",
                lower=lower.name,
                step=step,
                upper=upper.name,
                gap=gap,
                slope=slope * gap,
            )
            found.append(Conflict("step", a.name, b.name, gap, text))
    return tuple(found)


def copied(project: Project, source: Pad, names: tuple[str, ...]) -> tuple[Project, tuple[str, ...]]:
    """The project with size and bars of one base given to others, and which of them are frozen and stay.

    Raises:
        pydantic.ValidationError: when a size is not possible for one of them.
    """
    sizes = {"width": source.width, "length": source.length, "thickness": source.thickness}
    kept = tuple(p.name for p in project.pads if p.name in names and p.frozen)
    pads = tuple(
        p.resized(**sizes).replaced(reinforcement=source.reinforcement)
        if p.name in names and not p.frozen and p is not source
        else p
        for p in project.pads
    )
    return project.replaced(pads=pads), kept


def pinned_to_boundary(project: Project, pad: Pad, clearance: float) -> tuple[Pad, str] | None:
    """(the pad moved so that its edge nearest to a boundary keeps the clearance, that edge held; which edge); None
    without one.

    Only the direction in which the edge faces is changed; the column stays.
    """
    import shapely

    lines = [shape_of(o) for o in project.site if o.kind == "boundary"]
    if not lines:
        return None
    rims = shapely.union_all([line.boundary if isinstance(line, shapely.Polygon) else line for line in lines])
    point = project.load_point(pad.load_point)
    c, s = np.cos(np.deg2rad(pad.rotation)), np.sin(np.deg2rad(pad.rotation))
    best: tuple[float, str] | None = None
    far = 1e4
    for side, (nx, ny) in {"+x": (c, s), "-x": (-c, -s), "+y": (-s, c), "-y": (s, -c)}.items():
        ray = shapely.LineString([(point.x, point.y), (point.x + far * nx, point.y + far * ny)])
        hit = ray.intersection(rims)
        if not hit.is_empty:
            distance = float(shapely.distance(hit, shapely.Point(point.x, point.y)))
            if best is None or distance < best[0]:
                best = (distance, side)
    if best is None:
        return None
    distance, side = best
    reach = distance - clearance
    axis, sign = side[1], 1.0 if side[0] == "+" else -1.0
    if pad.kind == "raft":  # the other edges, ribs and regions stay with their columns
        return pad.with_edge(side, round(reach, 6)).replaced(**{f"hold_{axis}": side}), side
    size = pad.width if axis == "x" else pad.length
    # the edge stands at sign * size/2 - offset from the column
    offset = sign * size / 2 - sign * reach
    return pad.replaced(**{f"offset_{axis}": round(offset, 6), f"hold_{axis}": side}), side
