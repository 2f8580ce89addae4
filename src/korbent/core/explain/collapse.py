"""The way to collapse of a base as a strip or a circle: its stiffness from the strata, and the curve as it is shown."""

from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np

from korbent.core.bearing.as_strip import AsStrip
from korbent.core.model.ground import Soil
from korbent.core.plasticity.section import Layer, Load, Section
from korbent.core.settlement.laws.oedometer import compression_ratio, recompression_ratio
from korbent.words import say

if TYPE_CHECKING:
    from korbent.core.plasticity.path import Curve
    from korbent.core.plasticity.way import Base, Stiffness

Shape = Literal["rigid strip", "flexible strip", "circle"]
LOOKED_AT = 2.0
"""Strata are as stiff as their stress is in the middle of what lies within so many widths below the base."""
UNDRAINED_NU = 0.5


@dataclass(frozen=True)
class Seen:
    """A point of the curve: kPa, m, and what yields there: triangles (x, y of each corner) with 1."""

    pressure: float
    settlement: float
    centre: float
    edge: float
    """Of a rigid base that tilts: of the edge that goes down most."""
    yields: tuple[tuple[tuple[float, ...], float], ...]
    tilt: float = 0.0
    """To the right."""
    slide: float = 0.0
    """To the right, m."""


@dataclass(frozen=True)
class SeenCurve:
    """A curve as it is shown."""

    points: tuple[Seen, ...]
    limit: float
    slope: float
    water: float
    """Pore pressure below the base that is in all pressures, kPa."""

    def at_settlement(self, settlement: float) -> float | None:
        """The pressure at which it has settled so much, kPa; None beyond the curve."""
        u, p = np.array([x.settlement for x in self.points]), np.array([x.pressure for x in self.points])
        return float(np.interp(settlement, u, p)) if settlement <= u[-1] else None

    def tilt_at(self, pressure: float) -> float:
        """The tilt at a pressure, as far as the curve goes."""
        return float(np.interp(pressure, [x.pressure for x in self.points], [x.tilt for x in self.points]))

    def at_pressure(self, pressure: float) -> float | None:
        """The settlement at a pressure, m; None beyond the plateau."""
        u, p = np.array([x.settlement for x in self.points]), np.array([x.pressure for x in self.points])
        rising = np.r_[True, np.diff(p) > 1e-6 * self.limit]
        return float(np.interp(pressure, p[rising], u[rising])) if pressure <= p[rising][-1] else None


def stiffness_of(soil: Soil, layer: Layer, above: float, B: float, again: bool) -> "Stiffness | str":
    """Of a stratum, or what it lacks.

    Drained: E' as typed, else from mv, else from the compression line at the stress in the middle, E = Eoed (1 + nu)(1
    - 2 nu)/(1 - nu); ``again``, and in overconsolidated ground: along the recompression line. Undrained: Eu as typed,
    else that of the same shear modulus as along the recompression line, as nothing consolidates. K0 = 1 - sin(phi')
    (Jaky 1944) where phi' is known, else 1.

    Args:
        above: effective stress at its top, kPa.
    """
    from korbent.core.plasticity.way import Stiffness  # loaded only where something is solved

    nu = soil.poisson
    E = soil.modulus
    undrained = layer.phi == 0.0 and layer.c > 0.0
    past = soil.overconsolidation_ratio > 1 or soil.preconsolidation is not None or bool(soil.preconsolidation_margin)
    again = again or undrained or past
    if E is None or again:
        deep = min(layer.bottom, max(LOOKED_AT * B, layer.top + 0.5 * B))
        stress = max(above + layer.gamma * (deep - layer.top) / 2, 1.0)
        confined = None
        if soil.compressibility:
            confined = 1000.0 / soil.compressibility
        ratio = recompression_ratio(soil) if again else compression_ratio(soil)
        if ratio:
            confined = stress * float(np.log(10.0)) / ratio
        if confined is not None and (E is None or ratio):
            E = confined * (1 + nu) * (1 - 2 * nu) / (1 - nu)
    if undrained:
        E = soil.undrained_modulus or (E * (1 + UNDRAINED_NU) / (1 + nu) if E else None)
        nu = UNDRAINED_NU
    if E is None:
        return say("{soil} has no stiffness: give E′, mv or its compression line", soil=soil.name) + (
            say(", or Eu") if undrained else ""
        )
    angle = soil.friction_angle
    K0 = 1.0 - float(np.sin(np.deg2rad(angle))) if angle else 1.0
    return Stiffness(E, nu, K0)


def base_of(strip: AsStrip, shape: Shape, again: bool = False) -> "Base | str":
    """What the curve is made of; or why there is none."""
    from korbent.core.plasticity.way import Base  # loaded only where something is solved

    section = strip.section
    load, under = section.load, section.underside
    if section.slope and shape != "rigid strip":
        return say("a {shape} has no curve beside a slope: choose the rigid strip", shape=shape)
    if load is not None and shape != "rigid strip":
        return say("a {shape} has its curve under a central load: choose that, or the rigid strip", shape=shape)
    if load is not None and any(load.held):
        return say("on the way to collapse V, H and M grow together: choose that, or a central load")
    if load is None and shape == "rigid strip" and under.rubs:
        load = Load(
            (max(strip.pressure - strip.water, 1.0) * section.B, 0.0, 0.0)
        )  # what slides needs the whole section
    B = section.B
    layers = section.layers
    if shape == "circle":
        B = float(np.sqrt(4 * strip.area / np.pi))
    found = []
    above = section.q
    for layer, soil in zip(layers, strip.soils):
        one = stiffness_of(soil, layer, above, B, again)
        if isinstance(one, str):
            return one
        found.append(one)
        above += layer.gamma * (layer.bottom - layer.top)
    return Base(
        Section(B, layers, section.q, under, load, section.firm, section.slope),
        tuple(found),
        shape == "circle",
        shape == "flexible strip",
        strip.rigid,
    )


def seen(curve: "Curve", water: float) -> SeenCurve:
    """The curve as it is shown: of the stresses only where they have reached the strength."""
    corners = curve.mesh.points[curve.mesh.triangles].reshape(-1, 6)
    points = []
    for point in curve.points:
        own = np.flatnonzero(point.used > YIELDS)
        rings = tuple((tuple(float(v) for v in corners[k]), 1.0) for k in own)
        points.append(
            Seen(
                point.pressure + water,
                point.settlement,
                point.centre,
                point.edge,
                rings,
                point.tilt,
                point.slide,
            )
        )
    return SeenCurve(tuple(points), curve.limit + water, curve.slope, water)


YIELDS = 0.995
"""Share of the strength used at which a triangle is said to yield."""
