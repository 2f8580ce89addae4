"""A base as a strip of unit length on the strata below it: what is exact, what is bracketed, and the methods as strips beside them."""

import itertools
from dataclasses import dataclass, replace

import numpy as np

from korbent.core.bearing.layers.strata import strata_below, stress_at
from korbent.core.bearing.methods import METHODS, Base
from korbent.core.bearing.safety import NEEDED, base_on
from korbent.core.bench import Bench, bench_for
from korbent.core.geometry import table
from korbent.core.model import Pad, Project
from korbent.core.plasticity.section import Layer, Section
from korbent.core.plasticity.slip_lines import Strip, exact
from korbent.core.working import SILENT, Array

LENGTH = 1e6
"""Of a strip over its width: without end."""
DEEPEST = 12.0
"""Strata are looked at to so many widths below the base."""


@dataclass(frozen=True)
class AsStrip:
    """A base as a strip of unit length under a central vertical load, V alone growing; strengths unfactored."""

    section: Section
    water: float
    """Pore pressure at the underside that adds to what the ground bears, kPa: in undrained ground all stresses are total."""
    drainage: str
    combination: str
    pressure: float
    """N over the effective area, kPa."""
    methods: tuple[tuple[str, float], ...]
    """(method, ultimate pressure as a strip with the surcharge alone beside it), on the stratum below the base alone."""
    said: str
    """What was taken how."""

    @property
    def uniform(self) -> bool:
        """One stratum as far as it matters: there is an exact solution."""
        first = self.section.layers[0]
        return first.growth == 0 and all((x.c, x.phi, x.gamma, x.growth) == (first.c, first.phi, first.gamma, 0.0) for x in self.section.layers)  # fmt: skip


def as_strip(project: Project, pad: Pad, drainage: str) -> AsStrip | str:
    """The strip of unit length that a base is looked at as, in the unfactored situation that presses hardest; or why there is none."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    situations = bench.situations("allowable")
    why = bench.idle(drainage)[0] or bench.why_not(*NEEDED[drainage])[0]
    if why or not len(situations):
        return why or bench.no_combination("allowable")
    base, contact = base_on(bench, situations, bench.forces(situations, SILENT), drainage)
    shape = np.broadcast(base.N, base.B).shape
    pressure = np.where(contact.stable, base.N / np.maximum(base.B * base.L, 1e-9), -np.inf)
    if not np.isfinite(pressure).any():
        return "the resultant lies outside the base in every situation"
    worst = int(np.argmax(np.broadcast_to(pressure, shape)[0]))

    def of(value: Array | float) -> float:
        return float(np.broadcast_to(np.asarray(value, dtype=float), shape)[0, worst])

    water = bench.water(situations)[worst : worst + 1]
    level = bench.geometry.underside
    u = max(float(water[0]) - float(level[0, 0]), 0.0) * 9.81
    overburden = of(base.overburden) - (u if drainage == "undrained" else 0.0)
    B = of(base.B)
    layers, undrained = _layers(bench, base, drainage, water, B)
    if isinstance(layers, str):
        return layers
    section = Section(B, layers, max(overburden, 0.0))
    first = layers[0]
    own = tuple((name, value) for name, value in _as_strips(base, of, drainage, first, overburden))
    also = f", {', '.join(undrained)} undrained" if drainage == "drained" and undrained else ""
    said = f"B′ {B:.2f} m, {drainage}{also}, q′ {overburden:.1f} kPa; V alone grows, rough, unfactored"
    return AsStrip(section, u if drainage == "undrained" else 0.0, drainage, situations.label(worst), float(pressure[0, worst]), own, said)  # fmt: skip


def _layers(bench: Bench, base: Base, drainage: str, water: Array, B: float) -> tuple[tuple[Layer, ...] | str, tuple[str, ...]]:  # fmt: skip
    """(the strata below the base with their effective weights, cut at the water level; or why not, those that answer undrained)."""
    strata = strata_below(bench, base, drainage, (1.0, 1.0, 1.0))
    level = float(bench.geometry.underside[0, 0])
    found: list[Layer] = []
    undrained: dict[str, None] = {}
    for stratum in strata:
        top, thick = float(stratum.top[0, 0]), float(stratum.thick[0, 0])
        if thick <= 0 or level - top > DEEPEST * B:
            continue
        if bool(stratum.bears_all[0, 0]):
            break  # rock without strengths: the section ends on it
        if not bool(stratum.known[0, 0]):
            return f"{stratum.soil.name} lacks the strengths that it would answer by", ()
        bottom = top - thick
        cuts = [top, *([float(water[0])] if bottom < float(water[0]) < top else []), bottom]
        for high, low in itertools.pairwise(cuts):
            stresses = [
                float(stress_at(bench, np.array([[z]]), water, "effective")[0, 0]) for z in (high, low)
            ]
            gamma = max((stresses[1] - stresses[0]) / (high - low), 0.0)
            below = (level - high, level - low)
            if bool(stratum.undrained[0, 0]):
                undrained[stratum.soil.name] = None
                growth = float(np.ravel(stratum.gradient)[0])
                cu = float(np.ravel(stratum.strength)[0]) + growth * (top - high)
                found.append(Layer(*below, cu, 0.0, gamma, growth))
            else:
                phi = float(np.rad2deg(np.arctan(np.ravel(stratum.tan_phi)[0])))
                found.append(Layer(*below, float(np.ravel(stratum.cohesion)[0]), phi, gamma))
    if not found:
        return "nothing is known of the ground below the base", ()
    # the last stratum goes on as deep as the mechanism reaches
    return (*found[:-1], replace(found[-1], bottom=max(found[-1].bottom, 60.0 * B))), tuple(undrained)


def _as_strips(base: Base, of, drainage: str, first: Layer, overburden: float):  # type: ignore[no-untyped-def]
    """Every method for the same strip: no end, no tilt, no depth that would strengthen it, a vertical load."""

    def one(value: float) -> Array:
        return np.array([[float(value)]])

    B = of(base.B)
    strip = Base(
        N=one(1.0), H_B=one(0.0), H_L=one(0.0), B=one(B), L=one(LENGTH * B), depth=one(0.0), cohesion=one(first.c),
        phi=one(np.deg2rad(first.phi)), overburden=one(overburden), weight=one(first.gamma),
    )  # fmt: skip
    for name, method in METHODS.items():
        found = (method.drained if drainage == "drained" and first.phi > 0 else method.undrained)(
            strip, SILENT
        )
        yield name, float(np.ravel(found.pressure)[0])


def exact_of(strip: AsStrip) -> float | None:
    """The exact pressure where the ground is uniform and the slip lines can be found, kPa; water as the bounds have it."""
    if not strip.uniform:
        return None
    first, section = strip.section.layers[0], strip.section
    try:
        return exact(Strip(section.B, first.c, first.phi, first.gamma, section.q)).pressure + strip.water
    except ValueError:
        return None
