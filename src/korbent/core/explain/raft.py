"""Fields of a raft over its plan, for drawings: one situation or the envelope of all."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.bars import steel_field
from korbent.core.rafts.over_time import raft_at
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.units import SUBGRADE
from korbent.core.working import Array
from korbent.words import say

FIELDS = {
    "pressure": ("kPa", say("effective pressure of the ground")),
    "settlement": ("mm", say("settlement of the plate")),
    "subgrade": (SUBGRADE, say("stiffness of the ground: pressure over settlement")),
    "m_x": ("kNm/m", say("bars along x")),
    "m_y": ("kNm/m", say("bars along y")),
    "m_xy": ("kNm/m", say("twist")),
    "v": ("kN/m", say("greatest shear in any direction")),
    "bottom_x": ("mm²/m", say("steel asked for below, bars along x")),
    "bottom_y": ("mm²/m", say("steel asked for below, bars along y")),
    "top_x": ("mm²/m", say("steel asked for above, bars along x")),
    "top_y": ("mm²/m", say("steel asked for above, bars along y")),
}
"""What can be seen over the plan: its unit, and what it is."""


@dataclass(frozen=True)
class Field:
    """Values at the crossings of lines, (lines x, lines y), nan where there is no raft; positions from its middle,
    m."""

    name: str
    unit: str
    what: str
    situation: str
    x: Array
    y: Array
    values: Array
    provided: Array | None
    """Steel that there is, where steel is asked for."""
    unknowns: int
    residual: float
    error: float
    """Estimated, of the moments in the mean, as a share; the greatest of all situations."""

    def at(self, x: float, y: float) -> float | None:
        """The value at a point, None off the raft."""
        if not (self.x[0] <= x <= self.x[-1] and self.y[0] <= y <= self.y[-1]):
            return None
        i = int(np.clip(np.searchsorted(self.x, x) - 1, 0, len(self.x) - 2))
        j = int(np.clip(np.searchsorted(self.y, y) - 1, 0, len(self.y) - 2))
        u = (x - self.x[i]) / (self.x[i + 1] - self.x[i])
        v = (y - self.y[j]) / (self.y[j + 1] - self.y[j])
        f = self.values
        found = (
            (1 - u) * (1 - v) * f[i, j]
            + u * (1 - v) * f[i + 1, j]
            + u * v * f[i + 1, j + 1]
            + (1 - u) * v * f[i, j + 1]
        )
        return None if np.isnan(found) else float(found)


def question_of(name: str) -> str:
    """Which combinations a field is shown for: settlements by the lasting ones, all else at the ultimate limit."""
    if name not in FIELDS:
        raise KeyError(say("a raft has no field '{name}'; it has {fields}", name=name, fields=", ".join(FIELDS)))
    return "settlement_long" if name == "settlement" else "concrete"


@remembered(48)
def raft_field(project: Project, pad: Pad, name: str, situation: str) -> Field | str:
    """A field of a raft in the situation of that label, else the envelope: the value that is greatest in size over all;
    or why there is none.

    Raises:
        KeyError: when there is no such field.
    """
    question = question_of(name)
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = solved_raft(bench, project, question)
    if isinstance(found, str):
        return found
    labels = [found.situations.label(i) for i in range(len(found.situations))]
    one = labels.index(situation) if situation in labels else None
    provided = None
    if name[:3] in ("bot", "top"):
        if project.standards.concrete not in NAMES:
            return say("no concrete standard is chosen")
        face, axis = name.split("_")
        values, provided = steel_field(bench, found, face, axis)
        shown = say("envelope")
    else:
        every = _values(found, name)
        if one is None:
            pick = np.nan_to_num(np.abs(every), nan=-1.0).argmax(axis=-1)
            values, shown = np.take_along_axis(every, pick[:, None], axis=-1)[:, 0], say("envelope")
        else:
            values, shown = every[:, one], labels[one]
    return _field(found, name, shown, values, provided)


def raft_field_at(project: Project, pad: Pad, name: str, day: float) -> Field | str:
    """A field of a raft at a day from the first construction step; or why there is none.

    Raises:
        KeyError: when there is no such field.
    """
    if name[:3] in ("bot", "top"):
        _, what = FIELDS[name]
        return say("{what}: it is asked for by the combinations, not at a day", what=what)
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = raft_at(bench, project, day)
    if isinstance(found, str):
        return found
    return _field(found, name, found.situations.label(0), _values(found, name)[:, 0], None)


def _field(found: SolvedRaft, name: str, situation: str, values: Array, provided: Array | None) -> Field:
    unit, what = FIELDS[name]
    grid = found.mesh.grid
    used = found.mesh.seen.reshape(grid)
    return Field(
        name,
        unit,
        what,
        situation,
        found.mesh.lines_x,
        found.mesh.lines_y,
        np.where(used, values.reshape(grid), np.nan),
        None if provided is None else provided.reshape(grid),
        found.plate.count,
        found.solution.residual,
        float(found.moment_error.max()),
    )


def _values(found: SolvedRaft, name: str) -> Array:
    """(places, situations); where parts of two thicknesses meet the greater in size."""
    if name == "pressure":
        return found.pressure
    if name == "subgrade":
        return np.repeat(found.subgrade[:, None], len(found.situations), axis=1)
    if name == "settlement":
        return 1000 * found.settlement
    parts = [np.hypot(f.v_x, f.v_y) if name == "v" else getattr(f, name) for f in found.fields]
    return envelope_over(parts)


def envelope_over(parts: Sequence[Array]) -> Array:
    """Of values of the parts of each thickness, nan elsewhere, the greater in size where two parts meet."""
    stack = np.stack(parts)
    pick = np.nan_to_num(np.abs(stack), nan=-1.0).argmax(axis=0)
    chosen: Array = np.take_along_axis(stack, pick[None], axis=0)[0]
    return chosen


@dataclass(frozen=True)
class Transect:
    """A line right across a raft, along x or y: moment and steel along it, means over a band, all situations as
    envelopes."""

    axis: str
    """It runs along this axis; the bars that it is about do too."""
    at: float
    """Where across, from the middle, m."""
    band: float
    places: Array
    most: Array
    least: Array
    """Moment, kNm/m."""
    bottom: Array
    top: Array
    """Steel asked for, mm2/m; nan within columns."""
    bottom_has: Array
    top_has: Array
    shear_most: Array
    shear_least: Array
    """Across the line, kN/m."""
    pressure_most: Array
    pressure_least: Array
    """Of the ground, effective, kPa."""
    settled_most: Array
    settled_least: Array
    """Of the plate under the lasting combinations, mm; nan where none are."""


@remembered(16)
def transect(project: Project, pad: Pad, axis: str, at: float, band: float) -> Transect | str:
    """Moment and steel, shear, pressure and settlement along a line."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = solved_raft(bench, project, "concrete")
    if isinstance(found, str):
        return found
    mesh = found.mesh
    grid = mesh.grid
    lines, others = (mesh.lines_x, mesh.lines_y) if axis == "x" else (mesh.lines_y, mesh.lines_x)
    low, high = max(at - band / 2, float(others[0])), min(at + band / 2, float(others[-1]))
    gaps = np.diff(others) / 2
    before, after = np.concatenate([[0.0], gaps]), np.concatenate([gaps, [0.0]])
    share = np.clip(np.minimum(others + after, high) - np.maximum(others - before, low), 0.0, None)
    if not share.any():
        share[np.abs(others - at).argmin()] = 1.0

    def along(values: Array) -> Array:
        """Mean over the band of values at the places, (lines, ...)."""
        v = values.reshape(*grid, -1)
        v = v if axis == "x" else v.swapaxes(0, 1)
        known = ~np.isnan(v)
        weight = (share[None, :, None] * known).sum(axis=1)
        with np.errstate(invalid="ignore", divide="ignore"):
            mean: Array = (np.where(known, v, 0.0) * share[None, :, None]).sum(axis=1) / weight
        return mean

    def bounds(values: Array) -> tuple[Array, Array]:
        """(greatest, least) of all situations; nan where the line crosses an opening."""
        means = along(values)
        hollow = np.asarray(np.isnan(means).all(axis=-1))
        solid = np.where(hollow[:, None], 0.0, means)
        return np.where(hollow, np.nan, np.nanmax(solid, axis=-1)), np.where(hollow, np.nan, np.nanmin(solid, axis=-1))

    highest, lowest = bounds(_values(found, f"m_{axis}"))
    lasting = solved_raft(bench, project, "settlement_long")
    none = np.full(len(lines), np.nan)
    settled = (none, none) if isinstance(lasting, str) else bounds(_values(lasting, "settlement"))
    steel = {face: steel_field(bench, found, face, axis) for face in ("bottom", "top")}
    return Transect(
        axis,
        at,
        band,
        lines,
        highest,
        lowest,
        along(steel["bottom"][0])[:, 0],
        along(steel["top"][0])[:, 0],
        along(steel["bottom"][1])[:, 0],
        along(steel["top"][1])[:, 0],
        *bounds(_values(found, f"v_{axis}")),
        *bounds(_values(found, "pressure")),
        *settled,
    )
