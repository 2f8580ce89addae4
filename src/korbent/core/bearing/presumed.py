"""Bearing pressure against a presumed allowable pressure, eccentricity and contact share."""

import numpy as np

from korbent.core.contact.rectangle import Contact
from korbent.core.model.settings import Settings
from korbent.core.working import SILENT, Array, Recorder


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
    record(
        "q_0",
        "",
        overburden,
        "kPa",
        "",
        "total overburden at the founding level, finished ground",
        "z_f z_fin z_w",
    )
    record(
        "q",
        "p_dem - q_0" if net else "p_dem",
        demand,
        "kPa",
        note="net pressure" if net else "gross pressure",
    )
    ratio = np.maximum(demand, 0.0) / presumed
    record("ratio", "max(q, 0)/q_pres", ratio)
    return demand, ratio


def eccentricity_ratio(
    contact: Contact, B: Array, L: Array, limit: Array, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """(measure, ratio): sqrt((e_x/B)^2 + (e_y/L)^2) against its limit.

    With the limit 1/3 this is the ellipse of EN 1997-1 6.5.4 in both directions: within a third of the size
    along either axis.
    """
    measure = np.hypot(contact.e_x / B, contact.e_y / L)
    ratio = measure / limit
    record("e_rel", "sqrt((e_x/B)**2 + (e_y/L)**2)", measure, "", "EN 1997-1 6.5.4", "relative eccentricity")
    record("e_lim", "", limit, "", note="limit")
    record("ratio", "e_rel/e_lim", ratio)
    return measure, ratio


def round_eccentricity_ratio(
    contact: Contact, B: Array, L: Array, limit: Array, record: Recorder = SILENT
) -> tuple[Array, Array]:
    """(measure, ratio): eccentricity over the diameter; 0.6 of the radius is the limit 0.3 (EN 1997-1 6.5.4)."""
    measure = np.hypot(contact.e_x, contact.e_y) / B
    record("e_rel", "e/B", measure, "", "EN 1997-1 6.5.4", "eccentricity over diameter")
    record("e_lim", "", limit, "", note="limit")
    record("ratio", "e_rel/e_lim", measure / limit)
    return measure, measure / limit


def contact_ratio(contact: Contact, least: Array, record: Recorder = SILENT) -> Array:
    """Required over actual share of the base in contact."""
    share = np.where(contact.stable, contact.share, 1.0)
    ratio: Array = least / share
    record("s_min", "", least, "", note="least share in contact")
    record("ratio", "s_min/s_c", ratio)
    return ratio
