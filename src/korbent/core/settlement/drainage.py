"""How the cells of a column drain: their modes, the excess pressure of the steps, and the end of primary
consolidation."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Any

import numpy as np

from korbent.core.actions.construction import Timeline
from korbent.core.cache import MEGABYTE, Cache
from korbent.core.model.actions import BandDrains
from korbent.core.model.settings import Settings
from korbent.core.settlement.column import Column, creeps_by_index
from korbent.core.settlement.consolidation import Cells, Modes, drain_rate, growth, modes, permeability
from korbent.core.settlement.integration import primary_strain
from korbent.core.settlement.laws import Path
from korbent.core.working import Array

DAY = 86_400.0
STIFF = 1e-4
"""mv (1/kPa) where nothing presses, so that nothing tells it."""
UNEVEN = 0.5
"""From an overconsolidation ratio that varies by so much within a soil on, each cell drains by its own stiffness."""


@dataclass(frozen=True)
class Drainage:
    """One column as it drains; arrays over the cells of the column."""

    modes: Modes
    sized: Array
    """Cells that have a thickness: those that the modes know."""
    layer: Array
    thickness: Array

    @cached_property
    def layers(self) -> tuple[tuple[int, Array, Array, Array], ...]:
        """By soil: its first stratum, its cells, their thickness, and what stress in all cells that consolidate gives
        of its pressure, mode by mode, (modes, cells)."""
        which = np.flatnonzero(self.sized)[self.modes.cells]
        found = []
        for k in np.unique(self.layer[which]):
            cells = self.layer[which] == k
            mean = self.thickness[which[cells]] @ self.modes.shape[cells]
            found.append((int(k), which[cells], self.thickness[which[cells]], mean[:, None] * self.modes.inverse))
        return tuple(found)

    def ramped(self, line: Timeline) -> Array:
        """What is left of a unit change of each step when its ramp is complete, (steps, modes)."""
        if self._ramped.get("line") is not line:
            x = self.modes.rates * (line.ends - line.begins)[:, None]
            self._ramped["line"] = line
            self._ramped["left"] = np.where(x > 1e-9, -np.expm1(-x) / np.where(x > 1e-9, x, 1.0), 1.0)
        left: Array = self._ramped["left"]
        return left

    @cached_property
    def _ramped(self) -> dict[str, Any]:
        return {}

    @property
    def consolidating(self) -> Array:
        """Where excess pressure can stand."""
        found = np.zeros(len(self.sized), dtype=bool)
        found[np.flatnonzero(self.sized)[self.modes.cells]] = True
        return found

    def excess(self, line: Timeline, totals: Array, times: Array, count: int | None = None) -> Array:
        """Excess pressure (times, cells) of the first ``count`` steps; totals: stress after each step, (steps,
        cells)."""
        found = np.zeros((len(times), len(self.sized)))
        if not len(self.modes.cells):
            return found
        which = np.flatnonzero(self.sized)[self.modes.cells]
        start = self._starts(totals)
        amplitude = np.zeros((len(times), len(self.modes.rates)))
        for i in range(len(line) if count is None else count):
            amplitude += growth(self.modes.rates, line.begins[i], line.ends[i], times) * start[:, i]
        found[:, which] = amplitude @ self.modes.shape.T
        return found

    def _starts(self, totals: Array) -> Array:
        """Amplitudes of the change of each step, (modes, steps)."""
        changes = np.diff(np.concatenate([np.zeros((1, totals.shape[1])), totals]), axis=0)
        found: Array = self.modes.inverse @ changes[:, self.sized][:, self.modes.cells].T
        return found

    def held_back(self, line: Timeline, totals: Array, times: Array, count: int | None = None) -> Array:
        """What is not effective yet by the average degree: each step by the mean degree of its soil, (times, cells)."""
        found = np.zeros((len(times), len(self.sized)))
        if not len(self.modes.cells):
            return found
        which = np.flatnonzero(self.sized)[self.modes.cells]
        start, shares = self._starts(totals), line.shares_at(times)
        changes = np.diff(np.concatenate([np.zeros((1, totals.shape[1])), totals]), axis=0)
        for k in np.unique(self.layer[which]):
            cells = self.layer[which] == k
            weights = self.thickness[which[cells]]
            mean = weights @ self.modes.shape[cells]
            for i in range(len(line) if count is None else count):
                left = growth(self.modes.rates, line.begins[i], line.ends[i], times) @ (mean * start[:, i])
                whole = float(changes[i, which[cells]] @ weights)
                scale = float(np.abs(changes[i, which[cells]]) @ weights)
                degree_left = left / whole if abs(whole) > 1e-6 * scale and scale > 0 else shares[:, i]
                found[:, which[cells]] += np.clip(degree_left, 0.0, 1.0)[:, None] * changes[i, which[cells]]
        return found


_modes: Cache[Modes] = Cache()


def _kept_modes(cells: Cells) -> Modes:
    """The modes; kept, as they depend on thickness and cv alone where one soil lies between draining ones."""
    key = b"".join(
        (
            cells.thickness.tobytes(),
            cells.cv.tobytes(),
            cells.mv.tobytes(),
            cells.rate.tobytes(),
            bytes([cells.drained_top, cells.drained_bottom]),
        )
    )
    return _modes.of((key,), None, lambda: modes(cells))


def drainage(
    column: Column,
    path: Path | None,
    drains: Sequence[BandDrains],
    place: tuple[float, float],
    settings: Settings,
) -> Drainage:
    """How a column (of one point) drains.

    Args:
        path: one moment for each step, at full dissipation: it tells the stiffness; none where it is not needed
            (:func:`needs_stiffness`).
        drains: fields of band drains; place: of the column in the plan, m.
    """
    soils = column.profile.soils
    thickness = column.thickness[0, 0]
    sized = thickness > 0
    stratum, layer = column.stratum[0][sized], column.layer[0][sized]
    h = thickness[sized]
    fields = [field for field in drains if _within(field, *place)]
    mv = (np.ones(len(thickness)) if path is None else _stiffness(column, path))[sized]
    cv = np.array([soils[i].consolidation_coefficient or np.inf for i in stratum])
    typed = np.array([(soils[i].permeability or 0.0) * DAY for i in stratum])
    cv = np.where(typed > 0, typed / permeability(np.ones(len(mv)), mv), cv)
    levels = column.levels[0]
    rate = _drain_rates(fields, column, stratum, layer, column.middle[0][sized], float(levels[0]), mv)
    bottom = {
        "closed": False,
        "drains": True,
        "by_strata": not column.profile.rigid_below and not np.isfinite(cv[-1]) if len(cv) else True,
    }[settings.drainage_bottom]
    top = settings.drainage_top == "drains"
    return Drainage(_kept_modes(Cells(h, cv, mv, rate, top, bool(bottom))), sized, column.layer[0], thickness)


def needs_stiffness(column: Column, drains: Sequence[BandDrains], place: tuple[float, float]) -> bool:
    """One soil between draining ones drains the same whatever its mv is, if cv is typed; else the stiffness is asked
    for."""
    soils = column.profile.soils
    layer, thickness = column.layer[0], column.thickness[0, 0]
    some = np.array([s.consolidates for s in soils])[column.stratum[0]] & (thickness > 0)
    which = np.unique(layer[some])
    row = np.where(some, layer, -1)[thickness > 0]
    touching = bool(((row[1:] != row[:-1]) & (row[1:] >= 0) & (row[:-1] >= 0)).any())
    typed = any(soils[k].permeability for k in which)
    uneven = any(soils[k].preconsolidation or soils[k].preconsolidation_margin for k in which)
    return bool(touching or typed or uneven) or any(_within(field, *place) for field in drains)


def _stiffness(column: Column, path: Path) -> Array:
    """mv (1/kPa) of every cell, (cells,): the mean of its soil over the greatest stress that the steps add.

    Where the overconsolidation ratio varies within a soil, and where a permeability is typed, each cell has its own.
    """
    soils = column.profile.soils
    layer, thickness = column.layer[0], column.thickness[0, 0]
    some = np.array([s.consolidates for s in soils])[column.stratum[0]] & (thickness > 0)
    which = np.unique(layer[some])
    total = path.total[:, 0, 0]
    at = int((np.abs(total) * thickness).sum(axis=1).argmax())
    one = replace(
        path,
        pressure=path.pressure[at : at + 1],
        beside=path.beside[at : at + 1],
        excess=None,
        angle=None if path.angle is None else path.angle[at : at + 1],
    )
    strain = np.abs(primary_strain(column, one)[0, 0, 0])
    stress = np.abs(total[at])
    ratio = path.yielded[0, 0] / np.maximum(path.before[0, 0], 0.1)
    own = np.where(stress > 1e-9, strain / np.where(stress > 1e-9, stress, 1.0), STIFF)
    mv = np.full(len(layer), STIFF)
    for k in which:
        cells = (layer == k) & (thickness > 0)
        pressed = float(stress[cells] @ thickness[cells])
        strained = float(strain[cells] @ thickness[cells])
        mean = strained / pressed if pressed > 1e-9 and strained > 1e-12 else STIFF
        varies = ratio[cells].max() / ratio[cells].min() - 1
        share = 1.0 if soils[k].permeability else float(np.clip(varies / UNEVEN, 0.0, 1.0))
        mv[cells] = mean ** (1 - share) * np.maximum(own[cells], 1e-3 * mean) ** share
    return mv


def _drain_rates(
    fields: Sequence[BandDrains],
    column: Column,
    stratum: Array,
    layer: Array,
    middle: Array,
    top: float,
    mv: Array,
) -> Array:
    """The share of the excess pressure that band drains take away, 1/day by cell."""
    rate = np.zeros(len(middle))
    for field in fields:
        length = max(top - field.level, 0.1)
        for k in np.unique(layer):
            soil = column.profile.soils[k]
            if not soil.consolidates:
                continue
            cells = np.flatnonzero((layer == k) & (middle > field.level))
            if not len(cells):
                continue
            vertical = soil.consolidation_coefficient
            if vertical is None or soil.permeability is not None:
                vertical = (soil.permeability or 0.0) * DAY / float(permeability(np.ones(1), mv[cells].mean()[None])[0])
            ch = soil.horizontal_consolidation or vertical
            kh = float(permeability(np.array(ch), mv[cells].mean()[None])[0])
            rate[cells] += drain_rate(
                ch,
                field.spacing,
                field.pattern,
                field.drain,
                field.smear,
                field.smear_permeability,
                length,
                kh,
                field.discharge,
            )
    return rate


def _within(field: BandDrains, x: float, y: float) -> bool:
    c, s = np.cos(np.deg2rad(field.rotation)), np.sin(np.deg2rad(field.rotation))
    u, v = c * (x - field.x) + s * (y - field.y), c * (y - field.y) - s * (x - field.x)
    return bool(abs(u) <= field.size_x / 2 + 1e-9 and abs(v) <= field.size_y / 2 + 1e-9)


LOG_TIMES = np.geomspace(1e-3, 1e3, 241)
"""Times, over the slowest time of a column, at which the tangent of the log-time rule is sought."""


def ends_of_primary(
    columns: Sequence[Column],
    drained: Sequence[Drainage | None],
    totals: Sequence[Array],
    line: Timeline,
    settings: Settings,
) -> Array:
    """Days from the middle of each step's ramp to the end of primary by the rule of the settings, (columns, steps,
    cells).

    Each step by itself, however small it is; at least until its ramp is complete, and a day. All columns at once.

    Args:
        drained: how each column drains; none where nothing of it creeps. totals: stress after each step, (steps, cells)
        each.
    """
    count, steps = columns[0].levels.shape[1] - 1, len(line)
    half = (line.ends - line.begins) / 2
    least = np.maximum(half, 1.0)
    found = np.broadcast_to(least[None, :, None], (len(columns), steps, count)).copy()
    if settings.creep_from == "typed":
        return np.asarray(np.maximum(found, settings.creep_days))
    jobs = _jobs(tuple(columns), tuple(drained), line)
    if jobs is None:
        return found
    stress = np.stack(totals)
    changes = np.abs(stress - np.concatenate([np.zeros((len(stress), 1, count)), stress[:, :-1]], axis=1))
    own = np.take_along_axis(changes[jobs.column], jobs.cells[:, None, :], axis=-1)
    whole = (own @ jobs.weight[:, :, None])[..., 0]
    amplitude = own @ jobs.parts
    parts = jobs.ramped * amplitude / np.where(whole > 1e-12, whole, np.inf)[..., None]
    days = half + (
        _remaining(jobs.rates, parts, settings.creep_remaining)
        if settings.creep_from == "remaining_pressure"
        else _by_tangent(jobs.rates, parts)
    )
    for c, mask, day in zip(jobs.column, jobs.mask, np.maximum(days, least)):
        found[c][:, mask] = day[:, None]
    return found


@dataclass(frozen=True)
class _Jobs:
    """The soils that creep and hold water back below some columns, one after the other, filled up to the same number of
    modes and cells."""

    column: Array
    """Which column each belongs to, (jobs,)."""
    mask: Array
    """Its cells, (jobs, all cells)."""
    cells: Array
    """Those that consolidate below the column, (jobs, cells)."""
    weight: Array
    """Their thickness where they are of the soil, (jobs, cells)."""
    parts: Array
    """What stress in them gives of the pressure of the soil, mode by mode, (jobs, cells, modes)."""
    ramped: Array
    """(jobs, steps, modes)."""
    rates: Array
    """(jobs, 1, modes), 1/day."""


_kept_jobs: Cache[_Jobs | None] = Cache(each=8 * MEGABYTE)


def _jobs(columns: tuple[Column, ...], drained: tuple["Drainage | None", ...], line: Timeline) -> _Jobs | None:
    """The same as long as columns, drainage and steps stay the same."""
    key = (id(line), *map(id, columns), *map(id, drained))
    return _kept_jobs.of(key, (columns, drained, line), lambda: _jobs_of(columns, drained, line))


def _jobs_of(columns: tuple[Column, ...], drained: tuple["Drainage | None", ...], line: Timeline) -> _Jobs | None:
    rows = [
        (c, k, cells, thickness, parts, drain)
        for c, (column, drain) in enumerate(zip(columns, drained))
        if drain is not None and len(drain.modes.cells)
        for k, cells, thickness, parts in drain.layers
        if creeps_by_index(column.profile.soils[k])
    ]
    if not rows:
        return None
    n, most, count = len(rows), max(len(r[5].modes.cells) for r in rows), columns[0].levels.shape[1] - 1
    cells, weight = np.zeros((n, most), dtype=int), np.zeros((n, most))
    parts, ramped, rates = np.zeros((n, most, most)), np.zeros((n, len(line), most)), np.ones((n, 1, most))
    mask = np.zeros((n, count), dtype=bool)
    for j, (c, k, own, thickness, part, drain) in enumerate(rows):
        which = np.flatnonzero(drain.sized)[drain.modes.cells]
        m = len(which)
        cells[j, :m] = which
        weight[j, np.searchsorted(which, own)] = thickness
        parts[j, :m, :m] = part.T
        ramped[j, :, :m] = drain.ramped(line)
        rates[j, 0, :m] = drain.modes.rates
        mask[j] = columns[c].layer[0] == k
    return _Jobs(np.array([r[0] for r in rows]), mask, cells, weight, parts, ramped, rates)


FOREVER = 1e9
"""Days that stand for never: where water can't leave."""


def _remaining(rates: Array, parts: Array, share: float) -> Array:
    """Days after the ramp when the mean remaining pressure has fallen to a share: Newton on its logarithm, which is
    convex."""
    whole = parts.sum(axis=-1) > share
    days = np.zeros(parts.shape[:-1])

    def step() -> Array:
        left = parts * np.exp(-np.minimum(rates * days[..., None], 700.0))
        value = np.maximum(left.sum(axis=-1), 1e-300)
        slope = (left * rates).sum(axis=-1) / value
        further: Array = np.where(whole, np.log(value / share) / np.maximum(slope, 1e-15), 0.0)
        return further

    for _ in range(60):
        # each by itself: none goes further because another is not there yet
        further = step()
        todo = (further > 1e-6 * np.maximum(days, 1e-9)) & (days < FOREVER)
        if not todo.any():
            break
        days = np.where(todo, np.minimum(days + further, FOREVER), days)
    return np.minimum(np.maximum(days + step(), 0.0), FOREVER)


def _by_tangent(rates: Array, parts: Array) -> Array:
    """Days after the ramp where the steepest tangent of the degree over the logarithm of time meets its end."""
    slowest = np.where(parts.any(axis=1), rates[:, 0], np.inf).min(axis=-1)
    times = LOG_TIMES[None, :] / slowest[:, None]
    left = np.einsum("jsm,jtm->jst", parts, np.exp(-np.minimum(rates * times[..., None], 700.0)))
    fall = -np.einsum(
        "jsm,jtm->jst",
        parts,
        -rates * times[..., None] * np.exp(-np.minimum(rates * times[..., None], 700.0)),
    )
    at = fall.argmax(axis=-1)
    t = np.take_along_axis(times[:, None, :] + 0.0 * left, at[..., None], axis=-1)[..., 0]
    remaining, slope = (np.take_along_axis(v, at[..., None], axis=-1)[..., 0] for v in (left, fall))
    days: Array = np.where(slope > 1e-12, t * np.exp(remaining / np.maximum(slope, 1e-12)), 0.0)
    return days
