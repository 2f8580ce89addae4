"""One-way shear of a raft beside its columns and ribs."""

from itertools import pairwise

import numpy as np

from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.concrete.pad import ConcretePad, effective_depths
from korbent.core.concrete.several import Column
from korbent.core.rafts.plate_of import box_of
from korbent.core.rafts.ribs import on_ribs, places_on
from korbent.core.rafts.said import lifted, record_plate, thickened, thickness_at, thickness_beside
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.working import Array, Recorder
from korbent.words import say


def shear_of_plate(pad: ConcretePad, solved: SolvedRaft, axis: str, record: Recorder, thin: tuple[str, ...]) -> Outcome:
    """One-way shear beside each column, at the distance of the standard from its faces, as the mean over the band that
    belongs to it:
    halfway to the columns beside it, or to the edges."""
    mesh, situations = solved.mesh, solved.situations
    across = 1 if axis == "x" else 0
    lines, others = (mesh.lines_x, mesh.lines_y) if axis == "x" else (mesh.lines_y, mesh.lines_x)
    v = np.full((len(mesh.seen), len(situations)), np.nan)
    for fields in solved.fields:
        own = fields.v_x if axis == "x" else fields.v_y
        fresh = np.isnan(v) & ~np.isnan(own)
        v = np.where(fresh, own, v)
    grid = v.reshape(len(mesh.lines_x), len(mesh.lines_y), -1)
    if axis == "y":
        grid = grid.swapaxes(0, 1)
    bars = pad.bars("bottom", axis)
    rows: list[tuple[Array, str, float]] = []
    edges = (float(others[0]), float(others[-1]))
    boxes = [box_of(c) for c in solved.columns]
    for column, box in zip(solved.columns, boxes):
        if any(rib.axis == axis for rib in on_ribs(solved.pad, column)):
            continue  # that section lies on the rib
        middle = (box[2 * across] + box[2 * across + 1]) / 2
        low, high = edges
        for other in boxes:
            there = (other[2 * across] + other[2 * across + 1]) / 2
            if there < middle - 0.3:
                low = max(low, (middle + there) / 2)
            elif there > middle + 0.3:
                high = min(high, (middle + there) / 2)
        for side, at, d in _sections(pad, solved, column, axis):
            if not lines[0] + 1e-6 < at < lines[-1] - 1e-6:
                continue
            force, width = _over_band(lines, others, grid, at, low, high)
            if width > 1e-6:
                rows.append((np.abs(force) / width, f"{column.name}, {side}", d))
    rows += _beside_ribs(pad, solved, axis, lines, others, grid)
    if not rows:
        return does_not_apply(f"shear-{axis}", say("no section at that distance from a column lies on the raft"))
    stack = np.stack([force / (d * 1000) for force, _, d in rows])
    worst = stack.argmax(axis=0)
    demand = stack.max(axis=0)[None]
    d_worst = np.array([[rows[i][2] for i in worst]])
    rho = bars.area / d_worst
    record_plate(solved, record)
    record.given("d", d_worst, "m", note=say("effective depth there"), needs="n_u")
    record.given(
        "v_s",
        demand * d_worst * 1000,
        "kN/m",
        note=say("shear of the plate, mean over the band of the column"),
        needs="n_u d",
    )
    record.step("v_Ed", "v_s/d/1000", demand, "MPa", reference=pad.standard.clauses[f"shear-{axis}"])
    record.given("rho_l", rho, note=say("basic bars along {axis} below", axis=axis), needs="d")
    capacity = np.broadcast_to(
        pad.standard.shear_strength(d_worst, pad.settings.concrete_strength, rho, pad.special, record),
        demand.shape,
    )
    record.step("ratio", "v_Ed/v_Rd", demand / capacity)
    return Outcome(
        CHECKS[f"shear-{axis}"],
        demand,
        capacity,
        demand / capacity,
        situations,
        blocks=(say("shear {axis}", axis=axis),),
        why_not=thin,
        note=lambda i, j: say("at {rows}{lifted}", rows=rows[worst[j]][1], lifted=lifted(solved, j)),
    )


def _sections(pad: ConcretePad, solved: SolvedRaft, column: Column, axis: str) -> list[tuple[str, float, float]]:
    """(where, place along the axis, effective depth) of the sections beside a column: at the distance of the standard
    from its faces where the raft is as thick there as below it, and from the edges of each thickening that it stands
    on."""
    i = 0 if axis == "x" else 2
    middle = (float(column.x[0, 0]), float(column.y[0, 0]))
    faces = [(box_of(column), thickness_at(solved, column), "")]
    for box in thickened(solved, *middle):
        h = thickness_beside(solved, box)
        if h is not None and h < thickness_at(solved, column):
            faces.append((box, h, say(" of its thickening")))
    found = []
    for box, h, of in faces:
        d = float(_depth_of(pad, h, axis))
        away = float(pad.standard.shear_section(np.array([[d]]), np.array([[h]]))[0][0, 0])
        for sign, face in ((1, box[i + 1]), (-1, box[i])):
            at = face + sign * away
            there = (at, middle[1]) if axis == "x" else (middle[0], at)
            within = all(b in thickened(solved, *there) for b in thickened(solved, *middle)) if not of else True
            if within:
                found.append((say("{value}{axis} side{of}", value="+" if sign > 0 else "−", axis=axis, of=of), at, d))
    return found


def _beside_ribs(
    pad: ConcretePad, solved: SolvedRaft, axis: str, lines: Array, others: Array, grid: Array
) -> list[tuple[Array, str, float]]:
    """Shear of the plate towards the ribs across an axis, at the distance of the standard from their faces, as means
    over the bays between ribs that run the other way, or the columns on them."""
    plate, h = solved.pad.plate, solved.pad.thickness
    d = float(_depth_of(pad, h, axis))
    away = float(pad.standard.shear_section(np.array([[d]]), np.array([[h]]))[0][0, 0])
    rows = []
    for rib in plate.ribs if plate else ():
        if rib.axis == axis:
            continue
        box = solved.pad.rib_box(rib)
        low, high = box[2:] if rib.axis == "y" else box[:2]
        stops = (
            {low, high, *(o.at for o in plate.ribs if o.axis == axis and low < o.at < high)} if plate else {low, high}
        )
        stops |= {p for p in places_on(solved.pad, rib, solved.columns) if low < p < high}
        for sign, face in ((1, rib.at + rib.width / 2), (-1, rib.at - rib.width / 2)):
            at = face + sign * away
            if not lines[0] + 1e-6 < at < lines[-1] - 1e-6:
                continue
            for begin, end in pairwise(sorted(stops)):
                force, width = _over_band(lines, others, grid, at, begin, end)
                if width > 0.2:
                    rows.append(
                        (
                            np.abs(force) / width,
                            say(
                                "rib {rib}, {value}{axis} side", rib=rib.name, value="+" if sign > 0 else "−", axis=axis
                            ),
                            d,
                        )
                    )
    return rows


def _depth_of(pad: ConcretePad, h: float, axis: str) -> float:
    s, bars = pad.settings, pad.geometry.bars
    found = effective_depths(np.array([[h]]), s.concrete_cover, s.outer_bars, bars["bottom_x"], bars["bottom_y"])
    return float(found[0 if axis == "x" else 1][0, 0])


def _over_band(lines: Array, others: Array, grid: Array, at: float, low: float, high: float) -> tuple[Array, float]:
    """(force, length) of values at the places (lines, others, situations) along a place between two lines, from low to
    high across."""
    k = int(np.clip(np.searchsorted(lines, at) - 1, 0, len(lines) - 2))
    t = (at - lines[k]) / (lines[k + 1] - lines[k])
    values = (1 - t) * grid[k] + t * grid[k + 1]
    gaps = np.diff(others)
    before, after = np.concatenate([[0.0], gaps / 2]), np.concatenate([gaps / 2, [0.0]])
    share = np.clip(np.minimum(others + after, high) - np.maximum(others - before, low), 0.0, None)
    known = ~np.isnan(values)
    return (np.where(known, values, 0.0) * share[:, None]).sum(axis=0), float((share * known[:, 0]).sum())
