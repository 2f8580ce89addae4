"""The governing mechanism of bearing failure below a base, to scale: wedge and log spiral, punched block, spread,
squeezing."""

import math

from korbent.core.bearing.layers.adopted import MECHANISMS, PUNCHING, SPREAD, SQUEEZING
from korbent.core.bearing.mechanism import Mechanism
from korbent.drawing.primitives import Line, Point, Polygon, Sketch, Text
from korbent.words import say


def draw_mechanism(sketch: Sketch, shown: Mechanism, underside: float, bounds: tuple[float, float]) -> None:
    """Adds the mechanism. ``bounds``: how far left and right may be drawn, m."""
    x0, x1 = shown.left, shown.right
    label = MECHANISMS[shown.code] if shown.below else say("failure of the stratum")
    if shown.code == PUNCHING:
        bottom = underside - shown.depth
        sketch.add(
            Polygon(
                ((x0, underside), (x1, underside), (x1, bottom), (x0, bottom)),
                "beyond",
                "beyond",
                1.2,
                opacity=0.12,
                key="mechanism",
            ),
            *(Line(((x, underside), (x, bottom)), "beyond", 1.8, dash=True) for x in (x0, x1)),
        )
        _surfaces(sketch, x0, x1, bottom, shown.phi_below, bounds, shown.toward)
    elif shown.code == SPREAD:
        bottom, wide = underside - shown.depth, shown.spread * shown.depth
        sketch.add(
            Polygon(
                ((x0, underside), (x1, underside), (x1 + wide, bottom), (x0 - wide, bottom)),
                "beyond",
                "beyond",
                1.2,
                opacity=0.12,
                key="mechanism",
            ),
            Line(((x0, underside), (x0 - wide, bottom)), "beyond", 1.8, dash=True),
            Line(((x1, underside), (x1 + wide, bottom)), "beyond", 1.8, dash=True),
        )
        _surfaces(sketch, x0 - wide, x1 + wide, bottom, shown.phi_below, bounds, shown.toward)
    elif shown.code == SQUEEZING:
        bottom = underside - shown.depth
        for side, x in ((-1, x0), (1, x1)):
            for k in (0.3, 0.7):
                y = underside - k * shown.depth
                sketch.add(
                    Line(((x - side * 0.25 * (x1 - x0), y), (x + side * 0.2 * (x1 - x0), y)), "beyond", 1.8, arrow=True)
                )
        sketch.add(
            Polygon(
                ((x0, underside), (x1, underside), (x1, bottom), (x0, bottom)),
                "beyond",
                None,
                opacity=0.12,
                key="mechanism",
            )
        )
    else:
        _surfaces(sketch, x0, x1, underside, shown.phi, bounds, shown.toward)
    sketch.add(
        Text(
            ((x0 + x1) / 2, underside - 0.06),
            label,
            11,
            "beyond",
            "middle",
            dy=14,
            halo=True,
        )
    )


def _surfaces(
    sketch: Sketch, x0: float, x1: float, level: float, phi: float, bounds: tuple[float, float], toward: float
) -> None:
    """Wedge at 45 + phi/2, log spiral and passive wedge; on one side where the load leans, else on both."""
    sides = (1.0, -1.0) if abs(toward) < 0.02 else (math.copysign(1.0, toward),)
    for side in sides:
        near, far = (x1, x0) if side > 0 else (x0, x1)
        points = failure_surface(near, far, level, phi)
        inside = tuple(p for p in points if bounds[0] <= p[0] <= bounds[1])
        sketch.add(Line(inside, "beyond", 1.8, dash=True, key="mechanism"))
        apex = points[1]
        sketch.add(Line(((near, level), apex), "beyond", 1.2, dash=True))
        spiral_end = points[-2]
        if bounds[0] <= spiral_end[0] <= bounds[1]:
            sketch.add(Line(((near, level), spiral_end), "beyond", 1.2, dash=True))


def failure_surface(near: float, far: float, level: float, phi: float, steps: int = 24) -> tuple[Point, ...]:
    """The outline below a base from its ``far`` edge: wedge, log spiral about the ``near`` edge, passive wedge to the
    level.

    Prandtl (1920), phi in rad: r = r_0 exp(theta tan(phi)) over 90 degrees; the passive wedge rises at 45 - phi/2.
    """
    side = 1.0 if near > far else -1.0
    width = abs(near - far)
    a = math.pi / 4 + phi / 2
    r0 = width / (2 * math.cos(a))
    points: list[Point] = [(far, level)]
    for i in range(steps + 1):
        theta = math.pi / 2 * i / steps
        r = r0 * math.exp(theta * math.tan(phi))
        # the first radius runs from the near edge to the apex of the wedge, below the middle
        angle = math.pi + a + theta
        points.append((near + side * r * math.cos(angle), level + r * math.sin(angle)))
    x, y = points[-1]
    points.append((x + side * (level - y) / math.tan(math.pi / 4 - phi / 2), level))
    return tuple(points)
