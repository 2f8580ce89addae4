"""What presses within a perimeter around a column, and its moments about the middle of it."""

import numpy as np

from korbent.core.concrete.critical_section import CriticalSection
from korbent.core.concrete.pad import ConcretePad, clear_distances
from korbent.core.concrete.perimeter import Perimeter, control_perimeter
from korbent.core.geometry import PadGeometry
from korbent.core.working import Array, Recorder
from korbent.words import say

CLIPPED_AT_ONCE = 1024
"""Candidates x situations whose perimeters are cut by the neutral line together."""


def perimeter_around(g: PadGeometry, a: Array) -> Perimeter:
    """The control perimeter at distances ``a`` from the column; of a round one about its middle, at its radius and
    ``a``."""
    clear = clear_distances(g)
    if not g.diameter.any():
        return control_perimeter(g.face[0], g.face[1], clear, a)
    is_round, radius = g.diameter > 0, g.diameter / 2
    face_x, face_y = (np.where(is_round, 0.0, face) for face in g.face)
    middle = (
        np.where(is_round, edge + face / 2, edge)
        for edge, face in zip(clear, (g.face[0], g.face[0], g.face[1], g.face[1]))
    )
    west, east, south, north = middle
    return control_perimeter(face_x, face_y, (west, east, south, north), a + radius)


def opening_reach(pad: ConcretePad, d: Array) -> Array:
    """How near to the loaded area an opening counts, m."""
    if pad.settings.opening_reach == "all":
        return np.full_like(d, 1e9)
    return pad.standard.opening_reach(d, pad.geometry.h)


def soil_inside(pad: ConcretePad, perimeter: Perimeter, turning: bool = True) -> tuple[Array, Array, Array]:
    """Net upward soil force within perimeters (kN), and its first moments about the column (kNm), where they are asked
    for: (distances, candidates, situations)."""
    g, contact = pad.geometry, pad.contact
    S_x, S_y = perimeter.area * perimeter.area_x, perimeter.area * perimeter.area_y
    force, first_x, first_y = contact.plane_on(
        g.offset_x, g.offset_y, (perimeter.area, S_x, S_y), perimeter.second_moments() if turning else None
    )
    partial = contact.stable & (contact.share < 1.0)
    if partial.any():
        outline_x, outline_y = perimeter.outline()
        found = np.nonzero(partial)
        # in parts that stay in the processor's memory
        for rows, columns in zip(*(np.array_split(v, max(1, len(v) // CLIPPED_AT_ONCE)) for v in found)):
            off_x, off_y = g.offset_x[rows], g.offset_y[rows]
            x, y = outline_x[:, rows, 0] + off_x, outline_y[:, rows, 0] + off_y
            # where the pressure acts on the whole of the area, its value at the middle of the area is exact
            at, which = np.nonzero(contact.of(rows, columns).pulls_in(x, y))
            where = (at, rows[which], columns[which])
            inside = contact.of(*where[1:]).on_polygons(x[at, which], y[at, which])
            force[where] = inside.force
            if turning:
                first_x[where] = inside.x - off_x[which, 0] * inside.force
                first_y[where] = inside.y - off_y[which, 0] * inside.force
    if not turning:
        return force - pad.weight * perimeter.area, first_x, first_y
    return force - pad.weight * perimeter.area, first_x - pad.weight * S_x, first_y - pad.weight * S_y


def soil_within(pad: ConcretePad, section: CriticalSection) -> tuple[Array, Array, Array]:
    """Net upward soil force within a critical section (kN), and its first moments about the column (kNm): (candidates,
    situations)."""
    g, contact = pad.geometry, pad.contact
    x0, x1, y0, y1 = (np.broadcast_to(v, g.B.shape) for v in section.corners)
    bounds = (x0 + g.offset_x, x1 + g.offset_x, y0 + g.offset_y, y1 + g.offset_y)
    pressed = contact.on_rectangles(*bounds)
    force: Array = pressed.force - pad.weight * section.area
    first_x = pressed.x - g.offset_x * pressed.force - pad.weight * section.area * section.area_x
    first_y = pressed.y - g.offset_y * pressed.force - pad.weight * section.area * section.area_y
    return force, first_x, first_y


def about_middle(
    M_x: Array,
    M_y: Array,
    V: Array,
    column: Array,
    inside: Array,
    first_x: Array,
    first_y: Array,
    line: CriticalSection | Perimeter,
    is_open: bool | Array,
    record: Recorder,
) -> tuple[Array, Array]:
    """Moments about the middle of a perimeter: of the column's force and moments, and where it is open of the soil
    within it."""
    record.given("x_u", line.x, "m", note=say("middle of the perimeter, from the column"))
    record.given("y_u", line.y, "m")
    record.given(
        "S_x",
        first_x,
        "kNm",
        note=say("first moment of the net soil pressure within it along x, about the column"),
        needs="p_mid g_x g_y w_d",
    )
    record.given("S_y", first_y, "kNm", note=say("along y"), needs="p_mid g_x g_y w_d")
    record.given(
        "k_o",
        np.where(is_open, 1.0, 0.0),
        note=say("1 where it is open to an edge: the soil within it turns too"),
    )
    turned_x, turned_y = V * line.y, V * line.x
    if np.any(is_open):
        turned_x = np.where(is_open, (column - inside) * line.y + first_y, turned_x)
        turned_y = np.where(is_open, (column - inside) * line.x + first_x, turned_y)
    M_xu, M_yu = M_x + turned_x, M_y - turned_y
    record.step(
        "M_xu",
        "M_xt + where(k_o > 0.5, V_col*y_u + S_y - R_in*y_u, max(V_col - R_in, 0)*y_u)",
        M_xu,
        "kNm",
        note=say("about the middle of the perimeter"),
    )
    record.step("M_yu", "M_yt - where(k_o > 0.5, V_col*x_u + S_x - R_in*x_u, max(V_col - R_in, 0)*x_u)", M_yu, "kNm")
    return M_xu, M_yu
