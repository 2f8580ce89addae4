"""The mechanism of bearing failure that governs a check, as drawings need it."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bearing.layers import ALONE, next_other
from korbent.core.bench import bench_for
from korbent.core.checks import CheckResult
from korbent.core.contact.rectangle import effective_area, linear_no_tension
from korbent.core.geometry import table
from korbent.core.model import Pad, Project
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
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations(result.question)
    if not len(situations) or bench.profile is None:
        return None
    forces, g, i = bench.forces(situations, SILENT), bench.geometry, result.situation
    vertical = forces.N if drained else forces.V
    contact = linear_no_tension(vertical, forces.Mx, forces.My, g.B, g.L)
    B_x, _ = effective_area(contact.e_x, contact.e_y, g.B, g.L)
    e = float(np.broadcast_to(contact.e_x, vertical.shape)[0, i])
    half = float(np.broadcast_to(B_x, vertical.shape)[0, i]) / 2
    founding = int(bench.founding_stratum()[0])
    following = int(next_other(bench.profile)[founding])
    code = int(result.place) if result.place is not None else ALONE
    soils = bench.profile.soils
    below = soils[following] if following < len(soils) else None

    def angle(degrees: float | None, undrained: bool) -> float:
        return 0.0 if undrained or not degrees else float(np.deg2rad(degrees))

    press = float(vertical[0, i]) or 1.0
    return Mechanism(
        code=code, left=e - half, right=e + half, phi=angle(soils[founding].friction_angle, not drained),
        depth=float(bench.nearest_other()[0]), below=below.name if below else "",
        phi_below=angle(below.friction_angle if below else None, below is not None and below.drainage != "drained"),
        spread=bench.settings.load_spread, toward=float(np.broadcast_to(forces.Hx, vertical.shape)[0, i]) / press,
    )  # fmt: skip
