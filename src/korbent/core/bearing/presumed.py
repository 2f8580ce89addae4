"""Bearing pressure against a presumed allowable pressure, eccentricity and contact share."""

import numpy as np

from korbent.core.contact.rectangle import Contact
from korbent.core.working import SILENT, Array, Recorder


def presumed_ratio(
    pressure: Array, presumed: float, overburden: Array, net: bool, record: Recorder = SILENT
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
    record("q_pres", "", presumed, "kPa", note="presumed pressure, " + ("net" if net else "gross"))
    ratio = np.maximum(demand, 0.0) / presumed
    record("ratio", "max(q, 0)/q_pres", ratio)
    return demand, ratio


def eccentricity_ratio(
    contact: Contact, B: Array, L: Array, limit: float, record: Recorder = SILENT
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


def contact_ratio(contact: Contact, least: float, record: Recorder = SILENT) -> Array:
    """Required over actual share of the base in contact."""
    share = np.where(contact.stable, contact.share, 1.0)
    ratio: Array = least / share
    record("s_min", "", least, "", note="least share in contact")
    record("ratio", "s_min/s_c", ratio)
    return ratio
