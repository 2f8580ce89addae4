"""Bearing pressure against a presumed allowable pressure, eccentricity and contact share."""

import numpy as np

from korbent.core.contact.plane import Contact
from korbent.core.model.settings import Settings
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say


def presumed_at(settings: Settings, depth: Array, width: Array) -> Array | None:
    """The presumed pressure (kPa) at depths and widths (m); None when neither a value nor a table is set.

    A table is linear between its rows, first over the width, then over the depth; beyond them its outermost value.
    """
    if not settings.presumed_table:
        if settings.presumed_pressure is None:
            return None
        return np.full(np.broadcast(depth, width).shape, settings.presumed_pressure)
    rows = np.array(settings.presumed_table)
    depths, widths = np.unique(rows[:, 0]), np.unique(rows[:, 1])
    grid = rows[:, 2].reshape(len(depths), len(widths))
    i, u = _between(depths, np.asarray(depth, dtype=float))
    j, v = _between(widths, np.asarray(width, dtype=float))
    i1, j1 = np.minimum(i + 1, len(depths) - 1), np.minimum(j + 1, len(widths) - 1)
    upper = grid[i, j] * (1 - v) + grid[i, j1] * v
    lower = grid[i1, j] * (1 - v) + grid[i1, j1] * v
    found: Array = upper * (1 - u) + lower * u
    return found


def _between(values: Array, at: Array) -> tuple[Array, Array]:
    """(index of the value below, share of the way to the next), held at the ends."""
    if len(values) == 1:
        return np.zeros(at.shape, dtype=int), np.zeros(at.shape)
    index = np.clip(np.searchsorted(values, at, side="right") - 1, 0, len(values) - 2)
    share = np.clip((at - values[index]) / (values[index + 1] - values[index]), 0.0, 1.0)
    return index, share


def presumed_ratio(
    pressure: Array, presumed: Array, overburden: Array, net: bool, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """(demand, ratio) of a gross pressure (kPa) against a presumed pressure, gross or net of the overburden."""
    demand = pressure - overburden if net else pressure
    record.given(
        "q_0",
        overburden,
        "kPa",
        note=say("total overburden at the founding level, finished ground"),
        needs="z_f z_fin z_w",
    )
    record.step(
        "q",
        "p_dem - q_0" if net else "p_dem",
        demand,
        "kPa",
        note=say("net pressure") if net else say("gross pressure"),
    )
    ratio = np.maximum(demand, 0.0) / presumed
    record.step("ratio", "max(q, 0)/q_pres", ratio)
    return demand, ratio


def contact_ratio(contact: Contact, least: Array, record: Recorder = SILENT) -> Array:
    """Required over actual share of the base in contact."""
    share = np.where(contact.stable, contact.share, 1.0)
    ratio: Array = least / share
    record.given("s_min", least, note=say("least share in contact"))
    record.step("ratio", "s_min/s_c", ratio)
    return ratio
