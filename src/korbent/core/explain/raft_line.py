"""A line drawn anywhere over a raft: moment for bars along it, twist, shear and pressure as envelopes, and the
settlement."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.explain.raft import envelope_over
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.bars import steel_field
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.working import Array
from korbent.words import say

PLACES, ACROSS = 121, 7
SHORTEST = 0.2
"""A line is at least so long, m."""
Point = tuple[float, float]


@dataclass(frozen=True)
class RaftLine:
    """Along a line from start to end, means over a band about it; all situations as envelopes, nan off the raft. Each
    pair (greatest, least)."""

    start: Point
    """From the middle of the raft, in its axes, m."""
    end: Point
    band: float
    places: Array
    """From the start, m."""
    moment: tuple[Array, Array]
    """For bars along the line, kNm/m; sagging positive."""
    twist: tuple[Array, Array]
    """kNm/m."""
    shear: tuple[Array, Array]
    """Along the line, kN/m."""
    pressure: tuple[Array, Array]
    """Of the ground, effective, kPa."""
    settled: tuple[Array, Array]
    """Under the lasting combinations, mm; nan where none are."""
    asked: dict[str, Array]
    """Steel asked for by face and direction of the bars (bottom_x ...), mm2/m."""
    provided: dict[str, Array]


@remembered(16)
def raft_line(project: Project, pad: Pad, start: Point, end: Point, band: float) -> RaftLine | str:
    """Forces along a line drawn over a raft; or why there are none.

    The moments are those of the plate turned into the line (Mohr): m_s = m_x c2 + m_y s2 + 2 m_xy s c, the twist m_xy
    (c2 - s2) + (m_y - m_x) s c."""
    length = float(np.hypot(end[0] - start[0], end[1] - start[1]))
    if length < SHORTEST:
        return say("a line is at least {shortest:g} m long", shortest=SHORTEST)
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = solved_raft(bench, project, "concrete")
    if isinstance(found, str):
        return found
    c, s = (end[0] - start[0]) / length, (end[1] - start[1]) / length
    places = np.linspace(0.0, length, PLACES)
    across = band * ((np.arange(ACROSS) + 0.5) / ACROSS - 0.5) if band > 0 else np.zeros(1)
    x = (start[0] + c * places)[:, None] - s * across
    y = (start[1] + s * places)[:, None] + c * across

    def mean(solved: SolvedRaft, values: Array) -> Array:
        """Over the band, (places, situations)."""
        mesh = solved.mesh
        at = mesh.at(values, x.ravel(), y.ravel()).reshape(*x.shape, -1)
        beyond = (x < mesh.lines_x[0]) | (x > mesh.lines_x[-1]) | (y < mesh.lines_y[0]) | (y > mesh.lines_y[-1])
        seen = mesh.at(mesh.seen.astype(float), x.ravel(), y.ravel()).reshape(x.shape)
        known = ~np.isnan(at) & ~(beyond | (seen < 0.5))[:, :, None]
        with np.errstate(invalid="ignore", divide="ignore"):
            total: Array = np.where(known, at, 0.0).sum(axis=1) / known.sum(axis=1)
        return total

    def both(solved: SolvedRaft, values: Array) -> tuple[Array, Array]:
        means = mean(solved, values)
        hollow = np.asarray(np.isnan(means).all(axis=-1))
        solid = np.where(hollow[:, None], 0.0, means)
        return np.where(hollow, np.nan, np.nanmax(solid, axis=-1)), np.where(hollow, np.nan, np.nanmin(solid, axis=-1))

    parts = found.fields
    moment = envelope_over([f.m_x * c * c + f.m_y * s * s + 2 * f.m_xy * s * c for f in parts])
    twist = envelope_over([f.m_xy * (c * c - s * s) + (f.m_y - f.m_x) * s * c for f in parts])
    shear = envelope_over([f.v_x * c + f.v_y * s for f in parts])
    lasting = solved_raft(bench, project, "settlement_long")
    none = np.full(PLACES, np.nan)
    steel = {f"{face}_{axis}": steel_field(bench, found, face, axis) for face in ("bottom", "top") for axis in "xy"}
    return RaftLine(
        start,
        end,
        band,
        places,
        both(found, moment),
        both(found, twist),
        both(found, shear),
        both(found, found.pressure),
        (none, none) if isinstance(lasting, str) else both(lasting, 1000 * lasting.settlement),
        {name: mean(found, asked)[:, 0] for name, (asked, _) in steel.items()},
        {name: mean(found, has)[:, 0] for name, (_, has) in steel.items()},
    )
