"""What a strip stands on and carries, as the bounds look at it: strata, surcharge, the underside, the load."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from korbent.core.plasticity.mesh import Mesh
from korbent.words import say

Array = NDArray[np.float64]
MOST_FRICTION = 50.0
"""Degrees: beyond it nothing is solved."""
STEEPEST = 45.0
"""Degrees by which the ground may fall away."""


@dataclass(frozen=True)
class Layer:
    """A stratum below the base: from ``top`` to ``bottom`` (m below the underside), c at its top (kPa) and its growth
    with depth (kPa/m), phi (degrees), the weight that counts (kN/m3; buoyant below water)."""

    top: float
    bottom: float
    c: float
    phi: float
    gamma: float
    growth: float = 0.0


@dataclass(frozen=True)
class Underside:
    """What passes between base and ground: shear up to adhesion (kPa) + pressure x tan(delta) (delta in degrees); both
    None: as much as the ground itself takes (rough). ``tension``: the base holds the ground, else it lifts off where
    nothing presses."""

    delta: float | None = None
    adhesion: float | None = None
    tension: bool = True

    @property
    def rough(self) -> bool:
        """No limit but that of the ground."""
        return self.delta is None

    @property
    def rubs(self) -> bool:
        """Some shear passes, but not as much as the ground takes."""
        return bool(self.delta or self.adhesion)


ROUGH, SMOOTH = Underside(), Underside(0.0, 0.0)


@dataclass(frozen=True)
class Load:
    """Per metre of strip, at the middle of the underside: (V down kN/m, H to the right kN/m, M = V e with e to the
    right, kNm/m), what is held and what grows. ``turns``: the base is free to rotate, else whatever moment that takes
    holds it upright."""

    growing: tuple[float, float, float]
    held: tuple[float, float, float] = (0.0, 0.0, 0.0)
    turns: bool = True


@dataclass(frozen=True)
class Section:
    """What a strip of width B (m) stands on, with a surcharge q (kPa) beside it. Without a load: vertical and central,
    so that half of the section is enough."""

    B: float
    layers: tuple[Layer, ...]
    q: float = 0.0
    underside: Underside = ROUGH
    load: Load | None = None
    firm: float | None = None
    """Depth below the underside at which rock begins that does not yield, m."""
    slope: float = 0.0
    """Degrees by which the ground falls away from the right edge of the base on, as far as the box; less than 0: from
    the left edge on. The surcharge is then a weight on each metre of the level, as of a cover of even depth."""

    @property
    def mirrored(self) -> bool:
        """Whether half of it is enough: what it carries is central, and both sides are alike."""
        return self.load is None and not self.slope


def uniform(B: float, c: float, phi: float, gamma: float, q: float, roughness: float = 1.0) -> Section:
    """A strip on uniform ground; roughness: the share of tan(phi) and of c that acts below the base, 1 rough, 0
    smooth."""
    return Section(B, (Layer(0.0, 1e6, c, phi, gamma),), q, underside_of(c, phi, roughness))


def underside_of(c: float, phi: float, roughness: float, tension: bool = True) -> Underside:
    """The underside that takes a share of the strength of the ground below it.

    Raises:
        ValueError: when the share is not between 0 and 1.
    """
    if not 0 <= roughness <= 1:
        raise ValueError(say("a roughness of {roughness:g} is beyond 0 (smooth) to 1 (rough)", roughness=roughness))
    if roughness == 1:
        return Underside(tension=tension)
    return Underside(float(np.rad2deg(np.arctan(roughness * np.tan(np.deg2rad(phi))))), roughness * c, tension)


def layered(B: float, strata: Sequence[Layer], q: float = 0.0, roughness: float = 1.0) -> Section:
    """A strip on strata."""
    return Section(B, tuple(strata), q, underside_of(strata[0].c, strata[0].phi, roughness))


def checked(section: Section) -> Section:
    """The section, when it can be looked at.

    Raises:
        ValueError: what is missing or beyond what is solved.
    """
    if section.B <= 0 or section.q < 0:
        raise ValueError(say("the width must be greater than zero and the surcharge not negative"))
    if not section.layers or abs(section.layers[0].top) > 1e-9:
        raise ValueError(say("the strata must begin at the underside of the base"))
    for a, b in zip(section.layers, section.layers[1:]):
        if abs(a.bottom - b.top) > 1e-9:
            raise ValueError(say("there is a gap between the strata at {bottom:g} m", bottom=a.bottom))
    for layer in section.layers:
        if layer.bottom <= layer.top:
            raise ValueError(
                say("a stratum ends at {bottom:g} m, above its top at {top:g} m", bottom=layer.bottom, top=layer.top)
            )
        if not 0 <= layer.phi <= MOST_FRICTION or layer.c < 0 or layer.gamma < 0:
            raise ValueError(say("φ must lie between 0 and 50°, c and γ must not be negative"))
    if all(
        layer.c == 0 and layer.growth == 0 and (layer.phi == 0 or (layer.gamma == 0 and section.q == 0))
        for layer in section.layers
    ):
        raise ValueError(say("there is no strength: give c, or φ with γ or q"))
    if section.firm is not None and section.firm <= 0:
        raise ValueError(say("the base stands on firm ground: there is nothing that yields"))
    delta, adhesion = section.underside.delta, section.underside.adhesion
    if (delta is None) != (adhesion is None):
        raise ValueError(say("give the underside both δ and an adhesion, or neither"))
    if delta is not None and adhesion is not None and (not 0 <= delta <= MOST_FRICTION or adhesion < 0):
        raise ValueError(say("δ must lie between 0 and 50°, the adhesion must not be negative"))
    if not -STEEPEST <= section.slope <= STEEPEST:
        raise ValueError(say("the ground must fall away by at most {steepest:g}°", steepest=STEEPEST))
    if section.slope and section.load is None:
        raise ValueError(say("beside a slope both halves differ: give the load"))
    if section.load is not None and not any(section.load.growing):
        raise ValueError(say("nothing of the load grows: give it a direction"))
    return section


def box(section: Section) -> tuple[float, float]:
    """(width from the middle, depth) of the part that is looked at, m: somewhat beyond the straight-lined mechanism of
    the strongest stratum that it reaches; the last stratum goes on as deep as it takes."""
    depth, reach = 0.0, 0.0
    for layer in section.layers:
        f = np.deg2rad(layer.phi)
        spiral = section.B * float(np.tan(np.pi / 4 + f / 2) * np.exp(np.pi / 2 * np.tan(f)))
        down = section.B / (2 * np.cos(np.pi / 4 + f / 2)) * float(np.exp((np.pi / 4 + f / 2) * np.tan(f)) * np.cos(f))
        if layer.top <= max(depth, 0.6 * section.B):
            reach, depth = max(reach, spiral), max(depth, down)
    width = section.B / 2 + 1.25 * reach
    down = abs(float(np.tan(np.deg2rad(section.slope)))) * (width - section.B / 2)
    return width, min(1.35 * depth + down, section.firm or np.inf)


@dataclass(frozen=True)
class Strength:
    """At each vertex of each triangle (m, 3): c cos(phi), sin(phi)."""

    cohesion: Array
    sine: Array


def strength_of(section: Section, mesh: Mesh) -> Strength:
    """At the vertices of the triangles of a mesh."""
    layers = section.layers
    at = np.minimum(mesh.stratum, len(layers) - 1)
    f = np.deg2rad(np.array([layer.phi for layer in layers]))[at]
    depth = -mesh.points[mesh.triangles][:, :, 1]
    top, c, growth = (np.array([getattr(layer, n) for layer in layers])[at][:, None] for n in ("top", "c", "growth"))
    return Strength(
        (c + growth * np.maximum(depth - top, 0.0)) * np.cos(f)[:, None], np.repeat(np.sin(f)[:, None], 3, axis=1)
    )


def weights(section: Section, mesh: Mesh) -> Array:
    """Of the triangles, kN/m3."""
    layers = section.layers
    return np.array([layer.gamma for layer in layers])[np.minimum(mesh.stratum, len(layers) - 1)]


def scale_of(section: Section) -> float:
    """A stress by which all are divided, kPa: strengths, weight over half the base, surcharge."""
    strongest = max(max(layer.c + layer.growth * section.B, layer.gamma * section.B / 2) for layer in section.layers)
    return max(strongest, section.q, 1e-3)
