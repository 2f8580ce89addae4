"""The logs of all boreholes side by side on one level axis."""

from itertools import pairwise

from korbent.core.model import Borehole, Project
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle


def _joined(sketch: Sketch, left: Borehole, right: Borehole, x0: float, x1: float) -> None:
    """Lines between two logs at the lower bounds of the strata that both have."""
    bounds = []
    for hole in (left, right):
        seen: dict[str, int] = {}
        level = hole.ground_level
        found = {}
        for stratum in hole.strata:
            seen[stratum.soil] = seen.get(stratum.soil, -1) + 1
            level -= stratum.thickness
            found[(stratum.soil, seen[stratum.soil])] = level
        bounds.append(found)
    for unit in bounds[0].keys() & bounds[1].keys():
        sketch.add(Line(((x0, bounds[0][unit]), (x1, bounds[1][unit])), "line", 1.0))


def logs_drawing(project: Project, aspect: float = 2.0) -> Drawing:
    """Boreholes in the order of their x, to scale in depth, with water levels and surfaces."""
    holes = sorted(project.ground.boreholes, key=lambda h: (h.x, h.y))
    if not holes:
        text = Text((0, 0), "no borehole yet: add one in the table below", 12, "soft", "middle")
        return Drawing((text,), (-1, -1, 1, 1))
    soils = {s.name: s for s in project.ground.soils}
    tops = [h.ground_level for h in holes]
    ends = [h.ground_level - sum(s.thickness for s in h.strata) for h in holes]
    high = max(*tops, project.ground.surfaces.finished) + 0.3
    low = min(ends)
    span = (high - low) * aspect
    pitch = span / len(holes)
    width = pitch * 0.3
    sketch = Sketch()
    unit = "m" if project.units == "metric" else "ft"
    factor = 1.0 if unit == "m" else 1 / 0.3048
    lines = [("finished", project.ground.surfaces.finished, "ink")]
    water = project.ground.water
    if water:
        lines += [
            ("high", water.high, "water"),
            ("normal", water.normal, "water"),
            ("low", water.low, "water"),
        ]
    for name, level, colour in lines:
        text = f"{name} {level * factor:+.2f}".replace("-", "−")
        sketch.add(Line(((0, level), (span, level)), colour, 1.1, dash=colour == "water"))
        sketch.add(Text((span, level), text, 10, colour, dx=4, dy=4))
    for i, (left, right) in enumerate(pairwise(holes)):
        _joined(sketch, left, right, i * pitch + 0.06 * pitch + width, (i + 1) * pitch + 0.06 * pitch)
    for i, hole in enumerate(holes):
        x = i * pitch + 0.06 * pitch
        z = hole.ground_level
        sketch.add(Text((x, z), hole.name, 13, "ink", bold=True, dy=-20))
        sketch.add(Text((x, z), f"{z * factor:+.2f} {unit}".replace("-", "−"), 10, "soft", dy=-7))
        last = written = 1e9
        for stratum in hole.strata:
            soil = soils[stratum.soil]
            below = z - stratum.thickness
            sketch.add(
                Polygon(
                    rectangle(x, below, x + width, z),
                    soil.pattern,
                    "ink",
                    1.0,
                    pattern=soil.pattern,
                    key=f"soil:{soil.name}",
                )
            )
            label = soil.name
            middle = min((z + below) / 2, last - 0.035 * (high - low))
            sketch.add(Text((x + width, middle), label, 11, "ink", dx=7, dy=4, halo=True))
            if written - below > 0.05 * (high - low) or stratum is hole.strata[-1]:
                level = f"{below * factor:+.2f}".replace("-", "−")
                sketch.add(Text((x, below), level, 10, "soft", "right", dx=-5, dy=4))
                written = below
            last, z = middle, below
        for test in hole.tests:
            if test.kind in ("SPT N", "CPT qc"):
                at = hole.ground_level - test.depth
                sketch.add(
                    Text(
                        (x + width, at),
                        f"{'N' if test.kind == 'SPT N' else 'qc'} {test.value:g}",
                        9,
                        "soft",
                        "right",
                        dx=-3,
                        dy=3,
                        halo=True,
                    )
                )
        if hole.rigid_below:
            sketch.add(Text((x, z), "does not settle below", 10, "soft", dy=13))
    return Drawing(tuple(sketch.shapes), (0, low, span, high), (44.0, 26.0, 74.0, 16.0))
