"""The effective area as the methods of bearing resistance see it, with the forces on it."""

from dataclasses import dataclass, replace

import numpy as np

from korbent.core.actions.base_forces import BaseForces
from korbent.core.bearing.methods.method import Footing
from korbent.core.bench import Bench
from korbent.core.contact.plane import Contact
from korbent.core.geometry import runs_along_y
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

ENDLESS = 1000.0
"""Length of an endless strip over its width."""


@dataclass(frozen=True)
class OnArea:
    """Sizes along two axes (m), the forces along them, and how often the base is repeated along its length (1:
    once)."""

    x: Array
    y: Array
    forces: BaseForces
    times: Array


def on_effective_area(bench: Bench, contact: Contact, forces: BaseForces, record: Recorder = SILENT) -> OnArea:
    """The effective area of a base; that of a wall, where so set, as part of an endless strip.

    An endless strip is the base repeated along the wall: pressures stay, the shape factors become those of a strip.
    """
    g = bench.geometry
    area = g.footprint.effective(contact, forces.Hx, forces.Hy, record)
    forces = replace(forces, Hx=area.Hx, Hy=area.Hy)
    wall = np.array([p.kind in ("masonry_wall", "concrete_wall") for p in bench.points])[bench.index][:, None]
    if bench.settings.strip != "endless" or not g.footprint.slices_alike or not wall.any():
        return OnArea(area.x, area.y, forces, np.ones_like(g.B))
    along_y = np.array([runs_along_y(p, w) for p, w in zip(bench.pads, bench.points)])[bench.index][:, None]
    short, long = np.where(along_y, area.x, area.y), np.where(along_y, area.y, area.x)
    times = np.where(wall, ENDLESS * np.maximum(short, 1e-9) / np.maximum(long, 1e-9), 1.0)
    x, y = np.where(along_y, area.x, area.x * times), np.where(along_y, area.y * times, area.y)
    more = {name: getattr(forces, name) * times for name in ("V", "U", "N", "Hx", "Hy")}
    record.given("k_L", times, note=say("an endless strip: the base repeated so often along the wall"), needs="B_x L_y")
    record.step("B_x0", "B_x", area.x, "m", note=say("effective size along x, of the base"))
    record.step("L_y0", "L_y", area.y, "m", note=say("along y"))
    record.given("B_x", x, "m", note=say("of the strip, along x"), needs="B_x0 k_L")
    record.given("L_y", y, "m", note=say("of the strip, along y"), needs="L_y0 k_L")
    for symbol, name in (("V", "V"), ("U", "U"), ("N", "N"), ("H_x", "Hx"), ("H_y", "Hy")):
        record.step(f"{symbol}_1", symbol, getattr(forces, name), "kN", note=say("of the base"))
        record.step(symbol, f"{symbol}_1*k_L", more[name], "kN", note=say("of the strip"))
    return OnArea(x, y, replace(forces, **more), times)


def as_seen(
    bench: Bench, area: OnArea, vertical: Array, cohesion: Array, phi: Array, overburden: Array, weight: Array
) -> Footing:
    """The base as the methods of bearing resistance see it, with the strengths that are given."""
    g, forces, settings = bench.geometry, area.forces, bench.settings
    short_x = area.x <= area.y
    B, L = np.minimum(area.x, area.y), np.maximum(area.x, area.y)
    full = settings.depth_width == "full"
    whole_x, whole_y = (g.B, g.L) if g.footprint.is_round else g.footprint.equal_rectangle
    return Footing(
        N=vertical,
        H_B=np.abs(np.where(short_x, forces.Hx, forces.Hy)),
        H_L=np.abs(np.where(short_x, forces.Hy, forces.Hx)),
        B=B,
        L=L,
        depth=np.maximum(bench.finished - g.underside, 0.0),
        cohesion=cohesion,
        phi=phi,
        overburden=overburden,
        weight=weight,
        tilt=bench.tilt,
        circle=float(g.footprint.is_round),
        full_B=np.where(short_x, whole_x, whole_y) if full else B,
        full_L=np.where(short_x, whole_y, whole_x) * area.times if full else L,
        arctan=settings.depth_measure == "arctangent",
    )
