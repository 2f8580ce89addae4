"""The mechanism of bearing failure that governs a check, as drawings need it."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bearing.layers.adopted import ALONE, from_place
from korbent.core.bearing.layers.strata import answers
from korbent.core.bench import bench_for
from korbent.core.checks import CheckResult
from korbent.core.geometry import table
from korbent.core.ground.profile import next_other
from korbent.core.model import Pad, Project, Soil
from korbent.core.working import SILENT


@dataclass(frozen=True)
class Mechanism:
    """Along the x axis of the base, about its middle, m; angles in rad (not factored)."""

    code: int
    """Index into MECHANISMS."""
    left: float
    right: float
    """Ends of the effective width."""
    phi: float
    depth: float
    """From the base to the stratum that governs below, m."""
    below: str
    phi_below: float
    spread: float
    toward: float
    """Share of the horizontal force in the vertical one, along x: to which side the ground gives way."""


def mechanism_of(project: Project, pad: Pad, result: CheckResult) -> Mechanism | None:
    """The mechanism of a bearing check in its governing situation; None where it has none."""
    drained = result.check.id.endswith("-drained") and "undrained" not in result.check.id
    if not result.check.id.startswith(("resistance-", "safety-")) or result.ratio is None:
        return None
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)).on_ground()
    situations = bench.situations(result.question)
    if not len(situations) or bench.profile is None:
        return None
    g, i = bench.geometry, result.situation
    forces = bench.leaning(situations, bench.forces(situations, SILENT), SILENT)
    vertical = forces.N if drained else forces.V
    contact = g.footprint.contact(vertical, forces.Mx, forces.My)
    B_x = g.footprint.effective(contact, forces.Hx, forces.Hy).x
    e = float(np.broadcast_to(contact.e_x, vertical.shape)[0, i])
    half = float(np.broadcast_to(B_x, vertical.shape)[0, i]) / 2
    soils = bench.profile.soils
    founding = int(bench.founding_stratum()[0])
    code, at = from_place(result.place) if result.place is not None else (ALONE, founding)
    if at == founding:
        at = int(next_other(bench.profile)[founding])
    below = soils[at] if at < len(soils) else None
    tops = np.broadcast_to(bench.profile.top, (1, len(soils)))[0]

    def angle(soil: Soil, undrained: bool) -> float:
        return 0.0 if undrained else float(np.deg2rad(soil.friction_angle or 0.0))

    press = float(vertical[0, i]) or 1.0
    return Mechanism(
        code=code,
        left=e - half,
        right=e + half,
        phi=angle(soils[founding], not drained),
        depth=float(g.underside[0, 0] - tops[at]) if below else 0.0,
        below=below.name if below else "",
        phi_below=angle(below, answers(soils[founding], below, "drained" if drained else "undrained")[1])
        if below
        else 0.0,
        spread=bench.settings.load_spread,
        toward=float(np.broadcast_to(forces.Hx, vertical.shape)[0, i]) / press,
    )
