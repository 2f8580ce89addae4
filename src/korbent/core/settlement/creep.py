"""Creep after the end of primary consolidation, through any number of steps, by equivalent time.

A cell creeps by C_alpha in a tenfold age. Its age counts from the step that loads it; every later step changes it by
the factor 10^(-d/C_alpha), d being the strain by which the step hardens the cell (isotaches: Bjerrum 1967, Garlanger
1972): a large step makes it young again, a small one hardly changes it, unloading makes it old. So a step that goes to
nothing changes nothing, and one that is made of two at one date is the same as both. A cell below its preconsolidation
pressure is as old as that makes it; the share of C_alpha that is given for reloading counts from the step alone. What
has crept stays."""

from collections.abc import Sequence

import numpy as np

from korbent.core.ground.profile import parameter
from korbent.core.settlement.column import Column, creeps_by_index
from korbent.core.settlement.laws import LAWS
from korbent.core.working import Array


def creeps(column: Column) -> Array:
    """The strata that creep by an index; those by strain influence creep by their own C2, so that nothing counts
    twice."""
    return np.array([creeps_by_index(s) for s in column.profile.soils])


def creep_strain(
    column: Column,
    times: Sequence[float] | Array,
    clocks: Sequence[float] | Array,
    ends: Array,
    stresses: Array,
    before: Array,
    yielded: Array,
) -> Array:
    """Strain by creep, (times, points, situations, cells).

    Args:
        times: days, rising. clocks: days from which the time of each step counts.
        ends: days from there to the end of primary, (steps, points, 1, cells).
        stresses: effective stress of each step at full dissipation, (steps, points, situations, cells), kPa.
        before, yielded: effective stress before loading and preconsolidation pressure, (points, situations, cells).
    """
    times = np.asarray(times, float)[:, None, None, None]
    some = creeps(column)
    found = np.zeros(np.broadcast_shapes((len(times), 1, 1, 1), stresses.shape[1:]))
    if not some.any() or not len(clocks):
        return found
    use = np.flatnonzero((some[column.stratum] & (column.thickness[:, 0] > 0)).any(axis=0))
    part = column.cells(use)
    ends = ends[..., use] if ends.shape[-1] > 1 else ends
    found[..., use] = _grown(part, times, clocks, ends, stresses[..., use], before[..., use], yielded[..., use])
    return np.where(column.each(some), found, 0.0)


def _grown(
    column: Column,
    times: Array,
    clocks: Sequence[float] | Array,
    ends: Array,
    stresses: Array,
    before: Array,
    yielded: Array,
) -> Array:
    """As :func:`creep_strain`, of cells that creep."""
    some = creeps(column)
    found: Array = np.zeros(np.broadcast_shapes((len(times), 1, 1, 1), stresses.shape[1:]))
    index = column.each(np.where(some, parameter(column.profile, "creep_index"), 1.0))
    reload = column.each(parameter(column.profile, "creep_reload"))
    now, start, yielding = np.zeros(stresses.shape), np.zeros(before.shape), np.zeros(before.shape)
    for kind, law in LAWS.items():
        where = column.follows(kind)
        if where.any():
            now = np.where(where, law.hardened(column, stresses), now)
            start = np.where(where, law.hardened(column, before), start)
            past = law.hardened(column, yielded if kind == "oedometer" else before)
            yielding = np.where(where, past, yielding)
    hardening = np.diff(np.concatenate([start[None] + 0.0 * now[:1], now]), axis=0) / index
    least = np.maximum(before, 0.1)
    greatest = np.maximum.accumulate(np.maximum(stresses, least), axis=0)
    woken = 1 - 10.0 ** -np.minimum(WAKES * (greatest / least - 1), 300.0)
    young = np.diff(np.concatenate([np.zeros((1, *woken.shape[1:])), woken]), axis=0)
    young = np.where(young > HARDLY, young, 0.0)
    moments = times[:, 0, 0, 0]
    share, ends = reload + 0.0 * hardening[0], ends + 0.0 * hardening
    for first in range(len(clocks)):
        use = np.flatnonzero((young[first] > 0).any(axis=(0, 1)))
        if not len(use):
            continue
        weight = (young[first] * index)[..., use]
        old, new = weight * (1 - share[..., use]), weight * share[..., use]
        end = ends[first][..., use]
        offset = np.clip((yielding - now[first]) / index, -300.0, 30.0)[..., use]
        age, again = end * 10.0**offset, np.zeros(end.shape)
        part = np.zeros((len(moments), *end.shape))
        for n in range(first, len(clocks)):
            if n > first:
                less = 10.0 ** -np.clip(hardening[n][..., use], -30.0, 300.0)
                fresh = np.minimum(less, 1.0)
                lasted = clocks[n] - clocks[n - 1]
                age, again = (age + lasted) * less, (again + lasted) * fresh
                end = end**fresh * ends[n][..., use] ** (1 - fresh)
            until = clocks[n + 1] if n + 1 < len(clocks) else np.inf
            begun, over = np.searchsorted(moments, (clocks[n], until), side="right")
            if begun == len(moments):
                continue
            rows = np.arange(begun, min(over + 1, len(moments)))  # those within, and one that stands for all later ones
            since = np.minimum(times[rows], until) - clocks[n]
            grown = old * _decades(age, since, end) + new * _decades(again, since, end)
            part[begun:over] += grown[: over - begun]
            if over < len(moments):
                part[over:] += grown[-1]
        if len(use) == stresses.shape[-1]:
            found += part
        else:
            found[..., use] += part
    return found


HARDLY = 1e-8
"""A share of a cell that is too small to be followed."""


def _decades(age: Array, since: Array, end: Array) -> Array:
    """Decades by which something of an age grows older than the end of primary."""
    decades: Array = np.log10(np.maximum((age + since) / end, 1.0) / np.maximum(age / end, 1.0))
    return decades


WAKES = 100.0
"""How soon a load makes a cell creep: a hundredth of the effective stress by nine tenths, so that what is hardly loaded
hardly creeps."""


def slow_factor(times: Array, clocks: Sequence[float] | Array, pressures: Array) -> Array:
    """C2 - 1 of Schmertmann (1970), 0.2 log10(t/0.1 years), of each step by its share of the load; (times, points,
    situations).

    Args:
        pressures: net pressure of the base after each step, (steps, points, situations), kPa.
    """
    added = np.maximum(np.diff(np.concatenate([np.zeros((1, *pressures.shape[1:])), pressures]), axis=0), 0.0)
    found = np.zeros((len(times), *pressures.shape[1:]))
    whole = np.zeros(found.shape)
    for clock, part in zip(clocks, added):
        since = np.asarray(times, float)[:, None, None] - clock
        found += np.where(since > 0, part * 0.2 * np.log10(np.maximum(since / 36.525, 1.0)), 0.0)
        whole += np.where(since > 0, part, 0.0)
    factor: Array = np.where(whole > 1e-12, found / np.where(whole > 1e-12, whole, 1.0), 0.0)
    return factor
