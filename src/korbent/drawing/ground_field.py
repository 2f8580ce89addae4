"""Stresses, the share of the strength that they use, and settlements in a section below a strip: values at any place
and lines of equal value."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from korbent.core.units import Showing, show, to_shown
from korbent.drawing.primitives import Line, Point, Sketch, Text
from korbent.drawing.raft import levels_of
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.plasticity.mesh import Mesh
    from korbent.core.plasticity.section import Section

Array = NDArray[np.float64]
COLUMNS, ROWS = 97, 49
"""Places at which values are kept, over four widths on both sides and three down."""
WORDS = {
    "vertical": say("vertical stress"),
    "shear": say("shear stress"),
    "used": say("share of the strength used"),
    "settlement": say("settlement"),
}
UNITS = {"vertical": "kPa", "shear": "kPa", "used": "%", "settlement": "mm"}


@dataclass(frozen=True)
class GroundField:
    """One value over the section: x (n,) from the middle of the strip, y (m,) from its underside up, m; values (m, n),
    in the unit of :data:`UNITS`, nan where there is no ground. Vertical stress is that of the soil, without the
    pressure of water at rest, compression positive."""

    name: str
    x: NDArray[np.float32]
    y: NDArray[np.float32]
    values: NDArray[np.float32]

    def at(self, x: float, y: float) -> float | None:
        """The value at a place, between the four around it; None beyond."""
        if not (self.x[0] <= x <= self.x[-1] and self.y[0] <= y <= self.y[-1]):
            return None
        i = min(int(np.searchsorted(self.x, x, "right")) - 1, len(self.x) - 2)
        j = min(int(np.searchsorted(self.y, y, "right")) - 1, len(self.y) - 2)
        a = float((x - self.x[i]) / (self.x[i + 1] - self.x[i]))
        b = float((y - self.y[j]) / (self.y[j + 1] - self.y[j]))
        (p, q), (r, s) = self.values[j : j + 2, i : i + 2].tolist()
        value = (1 - b) * ((1 - a) * p + a * q) + b * ((1 - a) * r + a * s)
        return value if math.isfinite(value) else None

    def moved(self, by: float) -> "GroundField":
        """To the right."""
        return replace(self, x=self.x + np.float32(by))

    def said(self, x: float, y: float, units: Showing) -> str:
        """What is at a place; '' where nothing is."""
        value = self.at(x, y)
        if value is None:
            return ""
        return f"{WORDS[self.name]} {_text(value, self.name, units)} {_unit(self.name, units)}"


def fields_of(
    mesh: "Mesh", section: "Section", stress: Sequence[Array], moved: Sequence[Array | None]
) -> list[tuple[GroundField, ...]]:
    """Of each state its fields, from means at the points of the mesh.

    Args:
        stress: p, d, t at the corners of each triangle of each state, kPa (m, 3, 3), tension positive.
        moved: of the points of the mesh of each state, m (n, 2), None: nothing is told of settlements.
    """
    from scipy.interpolate import LinearNDInterpolator  # loaded only where something is solved

    from korbent.core.plasticity.section import strength_of

    half = mesh.points[:, 0].min() > -1e-9
    B = section.B
    x = np.linspace(-4 * B, 4 * B, COLUMNS)
    y = np.linspace(max(-3 * B, float(mesh.points[:, 1].min())), 0.0, ROWS)
    strength = strength_of(section, mesh)
    corner = mesh.triangles.ravel()
    count = np.bincount(corner, minlength=len(mesh.points)).astype(float)

    def mean(value: Array) -> Array:
        return np.asarray(np.bincount(corner, value.ravel(), len(mesh.points)) / count)

    names: list[list[str]] = []
    columns: list[Array] = []
    for state, displacement in zip(stress, moved):
        p, d, t = state[:, :, 0], state[:, :, 1], state[:, :, 2]
        most = np.maximum(strength.cohesion - p * strength.sine, 1e-9)
        own = {
            "vertical": mean(d - p),
            "shear": mean(t),
            "used": 100 * mean(np.minimum(np.hypot(d, t) / most, 1.0)),
        }
        if displacement is not None:
            own["settlement"] = -1000 * displacement[:, 1]
        names.append(list(own))
        columns += list(own.values())
    at = np.stack(np.meshgrid(np.abs(x) if half else x, y), axis=-1).reshape(-1, 2)
    values = LinearNDInterpolator(mesh.points, np.stack(columns, axis=1))(at).T.reshape(-1, len(y), len(x))
    found, k = [], 0
    for own_names in names:
        fields = []
        for name in own_names:
            value = values[k] * np.where(x < 0, -1.0, 1.0) if half and name == "shear" else values[k]
            fields.append(GroundField(name, x.astype(np.float32), y.astype(np.float32), value.astype(np.float32)))
            k += 1
        found.append(tuple(fields))
    return found


def lines_of_equal(sketch: Sketch, field: GroundField, level: float, reach: float, low: float, units: Showing) -> None:
    """Lines of equal value in a section whose underside lies at a level, each with its number where it lies deepest."""
    from contourpy import LineType, contour_generator

    inside = np.abs(field.x) <= reach
    shown = field.y >= low - level
    if inside.sum() < 2 or shown.sum() < 2:
        return
    values = field.values[np.ix_(shown, inside)].astype(float)
    factor = _factor(field.name, units)
    least, most = float(np.nanmin(values)) * factor, float(np.nanmax(values)) * factor
    generator = contour_generator(
        field.x[inside].astype(float),
        field.y[shown].astype(float),
        np.ma.masked_invalid(values),
        line_type=LineType.Separate,
    )
    labelled: list[Point] = []
    for value in (v / factor for v in levels_of(least, most)):
        for line in generator.lines(value) or ():
            points = np.asarray(line, dtype=float)
            if len(points) < 2:
                continue
            sketch.add(
                Line(tuple((float(a), level + float(b)) for a, b in points), "pressure" if value >= 0 else "water", 1.4)
            )
            for k in dict.fromkeys((int(np.argmin(points[:, 1])), int(np.argmax(np.abs(points[:, 0]))))):
                x, y = float(points[k, 0]), level + float(points[k, 1])
                if all(math.dist((x, y), other) > 0.12 * reach for other in labelled):
                    labelled.append((x, y))
                    sketch.add(Text((x, y), _text(value, field.name, units), 9.5, "ink", "middle", dy=4, halo=True))


def _factor(name: str, units: Showing) -> float:
    unit = UNITS[name]
    return 1.0 if unit == "%" else float(to_shown(1.0, unit, units))


def _text(value: float, name: str, units: Showing) -> str:
    unit = UNITS[name]
    return f"{value:.0f}" if unit == "%" else show(value, unit, units)


def _unit(name: str, units: Showing) -> str:
    from korbent.core.units import shown_unit

    unit = UNITS[name]
    return "%" if unit == "%" else shown_unit(unit, units)
