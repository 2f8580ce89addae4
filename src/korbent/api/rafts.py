"""Plates on springs, rafts of a project, their ribs, and straps."""

from collections.abc import Iterable
from pathlib import Path
from typing import Any, NamedTuple

import numpy as np

from korbent.api.formulas import Array
from korbent.api.projects import project_of
from korbent.core.concrete.demand import BeamLine
from korbent.core.explain.raft import FIELDS, raft_field, raft_field_at
from korbent.core.explain.raft_line import raft_line as _raft_line
from korbent.core.explain.rib import along_rib
from korbent.core.explain.strap import along_strap
from korbent.core.model import Pad, Project
from korbent.core.plates.mesh import mesh_of
from korbent.core.plates.recover import fields_of
from korbent.core.plates.solve import PlateOnSprings
from korbent.core.straps.second_look import compared
from korbent.core.units import shown_unit
from korbent.words import say

RAFT_FIELDS = tuple(FIELDS)
"""Fields of a raft."""


class PlateFields(NamedTuple):
    """A plate on springs: nodes on lines along x and y, fields of shape (lines along x, lines along y); nan in
    openings."""

    x: Array
    """Lines of the mesh, m."""
    y: Array
    settlement: Array
    """mm."""
    pressure: Array
    """kPa."""
    m_x: Array
    """kNm/m; calls for bars along x, sagging positive."""
    m_y: Array
    m_xy: Array
    residual: float
    """Out of balance over the load."""
    unknowns: int


def plate(
    *,
    B: float,
    L: float,
    h: float,
    E: float,
    k: float,
    columns: Iterable[tuple[float, float, float, float, float]],
    nu: float = 0.2,
    pressure: float = 0.0,
    openings: Iterable[tuple[float, float, float, float]] = (),
    lifts: bool = True,
    greatest: float | None = None,
    size: float | None = None,
) -> PlateFields:
    """A rectangular plate on springs (Mindlin and Reissner; elements after Katili 1993) under columns that press over
    their footprints.

    Args:
        B, L, h: sizes along x and y and thickness, m; the middle is at (0, 0). E: kPa. k: kN/m3.
        columns: x, y, size along x, size along y (m), V (kN, down) of each; a column lies within the plate.
        pressure: on all of it, kPa, down. openings: x from, x to, y from, y to, m.
        lifts: the ground presses only. greatest: it gives no more, kPa. size: greatest size of elements, m.

    Raises:
        ValueError: where a size or stiffness is not positive, a column or an opening lies beyond the edge, or no ground
        holds the load.
    """
    for name, value in (("B", B), ("L", L), ("h", h), ("E", E), ("k", k)):
        if not value > 0:
            raise ValueError(say("{name} is {value:g}: it must be more than 0", name=name, value=value))
    loads, holes = [tuple(map(float, c)) for c in columns], [tuple(map(float, o)) for o in openings]
    boxes = [(x - a / 2, x + a / 2, y - b / 2, y + b / 2) for x, y, a, b, _ in loads]
    for what, found in (("column", boxes), ("opening", holes)):
        for i, (x0, x1, y0, y1) in enumerate(found):
            if not (x0 < x1 and y0 < y1):
                raise ValueError(say("{what} {i} has no size", what=what, i=i + 1))
            if x0 < -B / 2 - 1e-9 or x1 > B / 2 + 1e-9 or y0 < -L / 2 - 1e-9 or y1 > L / 2 + 1e-9:
                raise ValueError(
                    say(
                        "{what} {i} reaches over the edge, {B:g} m and {L:g} m from the middle",
                        what=what,
                        i=i + 1,
                        B=B / 2,
                        L=L / 2,
                    )
                )
    cell = size or min(B, L) / 16
    mesh = mesh_of((-B / 2, B / 2, -L / 2, L / 2), boxes, holes, cell, min(cell, max(cell / 3, h / 3)))  # type: ignore[arg-type]
    count = len(mesh.elements)
    solver = PlateOnSprings(mesh, np.full(count, float(h)), E, nu, np.full(count, float(k)))
    down = np.full((count, 4, 1), float(pressure))
    for (*_, V), box in zip(loads, boxes):
        down[mesh.within(box)] += V / ((box[1] - box[0]) * (box[3] - box[2]))
    solved = solver.solve(solver.load(down), not lifts, greatest)
    (fields,) = fields_of(solver, solved)
    grid = (len(mesh.lines_x), len(mesh.lines_y))
    settled = np.where(mesh.used, solved.settlement[:, 0], np.nan)
    reaction = np.clip(k * settled, -np.inf if not lifts else 0.0, np.inf if greatest is None else greatest)

    def field(values: Array) -> Array:
        return np.where(mesh.used, values, np.nan).reshape(grid)

    return PlateFields(
        mesh.lines_x,
        mesh.lines_y,
        field(1000 * settled),
        field(reaction),
        field(fields.m_x[:, 0]),
        field(fields.m_y[:, 0]),
        field(fields.m_xy[:, 0]),
        solved.residual,
        solver.count,
    )


def _raft(project: Project | str | Path, base: str) -> tuple[Project, Pad]:
    whole = project_of(project)
    pad = whole.pad(base)
    if pad.plate is None:
        raise ValueError(say("{base} is no raft", base=base))
    return whole, pad


def raft(
    project: Project | str | Path, base: str, field: str, situation: str = "", day: float | None = None
) -> dict[str, Any]:
    """A field of a raft of a project: ``x``, ``y`` (m, from its middle), ``values`` (lines along x, lines along y),
    ``unit``, ``situation``.

    Args:
        field: one of RAFT_FIELDS. situation: its label; the envelope where none is given. day: from the first
        construction step: the
            loads that are there then, on the ground as it has settled until then.

    Raises:
        KeyError: when there is no such base or field. ValueError: when the base is no raft, or cannot be solved.
    """
    whole, pad = _raft(project, base)
    found = raft_field(whole, pad, field, situation) if day is None else raft_field_at(whole, pad, field, day)
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    return {
        "x": found.x,
        "y": found.y,
        "values": found.values,
        "unit": shown_unit(found.unit, "metric"),
        "situation": found.situation,
    }


def raft_line(
    project: Project | str | Path,
    base: str,
    start: tuple[float, float],
    end: tuple[float, float],
    band: float = 1.0,
) -> dict[str, Any]:
    """Along a line over a raft from ``start`` to ``end`` (m, from its middle, in its axes): ``at`` (m from the start)
    and, each (greatest, least), ``moment`` for bars along the line (kNm/m), ``twist`` (kNm/m), ``shear`` (kN/m),
    ``pressure`` (kPa), ``settled`` (mm); ``asked`` and ``provided`` steel by face and direction (mm2/m). Means over a
    ``band`` about the line (m); nan off the raft.

    Raises:
        KeyError: when there is no such base. ValueError: when the base is no raft, cannot be solved, or the line has no
        length.
    """
    whole, pad = _raft(project, base)
    found = _raft_line(whole, pad, start, end, band)
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    names = ("moment", "twist", "shear", "pressure", "settled", "asked", "provided")
    return {"at": found.places, **{name: getattr(found, name) for name in names}}


def rib(project: Project | str | Path, base: str, name: str) -> dict[str, Any]:
    """Envelopes along a rib of a raft, with the plate in its flange: ``at`` (m), ``shear`` (kN), ``moment`` and
    ``torsion`` (kNm), each (least, most).

    Raises:
        KeyError: when there is no such base or rib. ValueError: when the base is no raft, or cannot be solved.
    """
    whole, pad = _raft(project, base)
    found = along_rib(whole, pad, name)
    if isinstance(found, str):
        raise ValueError(f"{base}: {found}")
    return _beam(found)


def strap(project: Project | str | Path, name: str) -> dict[str, Any]:
    """Envelopes along the beam of a strap by statics, from the base at the boundary: as :func:`rib`.

    Beside them ``plates``: the same with both bases as plates on springs, and ``reactions`` (kN): below both bases by
    ``statics``, ``plates`` and ``stiff`` bases on springs, where the beam bends most, with ``settled`` (mm), of the
    plates below both columns; or ``plates`` is why they are not looked at.

    Raises:
        KeyError: when there is no such strap. ValueError: when nothing acts on it.
    """
    whole = project_of(project)
    tie = next((s for s in whole.straps if s.name == name), None)
    if tie is None:
        raise KeyError(name)
    found = along_strap(whole, whole.pad(tie.edge))
    if found is None:
        raise ValueError(say("{name}: no combination serves 'concrete'", name=name))
    looks = compared(whole, tie)
    if isinstance(looks, str) or isinstance(looks.plates, str) or found.other is None:
        why = looks if isinstance(looks, str) else looks.plates
        return {**_beam(found), "plates": why}
    reactions = {one: getattr(looks, one).R for one in ("statics", "plates", "stiff")}
    settled = tuple(1000 * w for w in looks.settled)
    return {**_beam(found), "plates": _beam(found.other), "reactions": reactions, "settled": settled}


def _beam(found: BeamLine) -> dict[str, Any]:
    pairs = {
        "shear": (found.shear_least, found.shear_most),
        "moment": (found.moment_least, found.moment_most),
        "torsion": (found.twist_least, found.twist_most),
    }
    values = {name: np.array(pair) for name, pair in pairs.items() if len(pair[0])}
    return {"at": np.array(found.at), **values}
