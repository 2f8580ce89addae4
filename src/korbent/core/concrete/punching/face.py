"""Punching at the face of a column: the most that the concrete there takes."""

from typing import NamedTuple

import numpy as np

from korbent.core.checks import CHECKS, Outcome
from korbent.core.concrete.pad import ConcretePad, clear_distances
from korbent.core.concrete.standards.protocol import Searching
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array, Recorder
from korbent.words import say


class _Lengths(NamedTuple):
    """At the face and at the basic control perimeter at 2d, m and m2."""

    u_0: Array
    u_1: Array
    W_x: Array
    W_y: Array


def at_face(
    pad: ConcretePad,
    standard: Searching,
    d: Array,
    moments: tuple[Array, Array],
    shares: tuple[Array, Array],
    record: Recorder,
    thin: tuple[str, ...],
) -> Outcome:
    """The stress at the face of the column against the most there.

    Args:
        d: mean effective depth, m. moments: about x and y at the top of the base, kNm. shares: k for each of them.
    """
    g, column = pad.geometry, pad.forces.column
    lengths = _lengths(g, d)
    middle = pad.contact.plane_at(g.offset_x, g.offset_y)
    inside = np.minimum((np.maximum(middle, 0.0) - pad.weight) * g.face[0] * g.face[1], column)
    V = np.maximum(column - inside, 0.0)
    # beta belongs to the basic control perimeter at 2d
    turned_x, turned_y = (k * M / W for k, M, W in zip(shares, moments, (lengths.W_x, lengths.W_y)))
    uneven = lengths.u_1 * np.hypot(turned_x, turned_y)
    demand = np.where(column > 0.0, (V + uneven) / lengths.u_0 / d / 1000.0, 0.0)
    limit = np.broadcast_to(standard.face_strength(pad.settings.concrete_strength, pad.fcd, record), demand.shape)
    record.step("p_col", "p_mid + g_x*o_x + g_y*o_y", middle, "kPa", note=say("soil pressure below the column"))
    record.step("R_col", "min((max(p_col, 0) - w_d)*f_x1*f_y1, V_col)", inside, "kN")
    _record_lengths(lengths, bool(g.diameter.any()), record)
    record.step(
        "v_Ed",
        "where(V_col > 0, (max(V_col - R_col, 0) + u_1*sqrt((k_x*M_xt/W_x)**2 + (k_y*M_yt/W_y)**2))/u_0/d/1000, 0)",
        demand,
        "MPa",
        reference="EN 1992-1-1 (6.53), (6.39)",
    )
    record.step("ratio", "v_Ed/v_Rd_max", demand / limit)
    return Outcome(
        CHECKS["punching-face"],
        demand,
        limit,
        demand / limit,
        pad.situations,
        ~pad.contact.stable,
        blocks=(say("punching face"),),
        why_not=thin,
    )


def _lengths(g: PadGeometry, d: Array) -> _Lengths:
    f_x, f_y = g.face
    west, east, south, north = clear_distances(g)
    near_x, near_y = (west < d) | (east < d), (south < d) | (north < d)
    whole = np.where(g.diameter > 0, np.pi * g.diameter, 2 * (f_x + f_y))
    edge_x = np.minimum(f_y + 3 * d, f_y + 2 * f_x)
    edge_y = np.minimum(f_x + 3 * d, f_x + 2 * f_y)
    corner = np.minimum(3 * d, f_x + f_y)
    u_0 = np.where(near_x & near_y, corner, np.where(near_x, edge_x, np.where(near_y, edge_y, whole)))
    around = (g.diameter + 4 * d) ** 2
    W_x = f_y**2 / 2 + f_x * f_y + 4 * f_x * d + 16 * d**2 + 2 * np.pi * d * f_y
    W_y = f_x**2 / 2 + f_x * f_y + 4 * f_y * d + 16 * d**2 + 2 * np.pi * d * f_x
    W_x, W_y = (np.where(g.diameter > 0, around, W) for W in (W_x, W_y))
    return _Lengths(u_0, whole + 4 * np.pi * d, W_x, W_y)


def _record_lengths(of: _Lengths, is_round: bool, record: Recorder) -> None:
    record.given("u_0", of.u_0, "m", reference="EN 1992-1-1 6.4.5(3)", note=say("perimeter at the face"))
    record.step(
        "u_1",
        "" if is_round else "2*(f_x1 + f_y1) + 4*pi*d",
        of.u_1,
        "m",
        reference="EN 1992-1-1 6.4.2(1)",
        note=say("basic control perimeter at 2d"),
        needs="d f_x1 f_y1",
    )
    record.step(
        "W_x",
        "" if is_round else "f_y1**2/2 + f_x1*f_y1 + 4*f_x1*d + 16*d**2 + 2*pi*d*f_y1",
        of.W_x,
        "m²",
        reference="EN 1992-1-1 (6.41)",
        note=say("of a round column (D + 4 d)²") if is_round else "",
        needs="d f_x1 f_y1",
    )
    record.step(
        "W_y",
        "" if is_round else "f_x1**2/2 + f_x1*f_y1 + 4*f_y1*d + 16*d**2 + 2*pi*d*f_x1",
        of.W_y,
        "m²",
        reference="EN 1992-1-1 (6.41)",
        note=say("of a round column (D + 4 d)²") if is_round else "",
        needs="d f_x1 f_y1",
    )
