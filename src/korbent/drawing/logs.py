"""The logs of all boreholes side by side on one level axis."""

from korbent.core.model import Project
from korbent.drawing.primitives import Drawing, Line, Polygon, Sketch, Text, rectangle


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
    water = project.ground.water
    if water:
        for name, level in (("high", water.high), ("normal", water.normal), ("low", water.low)):
            sketch.add(Line(((0, level), (span, level)), "water", 1.1, dash=True))
            sketch.add(
                Text(
                    (span, level),
                    f"{name} {level * factor:+.2f}".replace("-", "−"),
                    10,
                    "water",
                    "right",
                    dy=-3,
                    halo=True,
                )
            )
    finished = project.ground.surfaces.finished
    sketch.add(Line(((0, finished), (span, finished)), "ink", 1.2))
    sketch.add(
        Text(
            (span, finished),
            f"finished {finished * factor:+.2f}".replace("-", "−"),
            10,
            "ink",
            "right",
            dy=-4,
            halo=True,
        )
    )
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
            sketch.add(
                Text((x, below), f"{below * factor:+.2f}".replace("-", "−"), 10, "soft", "right", dx=-5, dy=4)
            )
            last, z = middle, below
        if hole.rigid_below:
            sketch.add(Text((x, z), "does not settle below", 10, "soft", dy=13))
    return Drawing(tuple(sketch.shapes), (0, low, span, high), (44.0, 26.0, 74.0, 16.0))
