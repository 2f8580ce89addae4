"""Checks of the ground below a raft as a plate: greatest pressure, slope between columns."""

from itertools import combinations

import numpy as np

from korbent.core.bench import Bench
from korbent.core.checks import CHECKS, Outcome, does_not_apply
from korbent.core.model.project import Project
from korbent.core.rafts.said import lifted, record_plate, unsolved
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.settlement.limits import limits_of
from korbent.core.working import SILENT, Array, Recorder
from korbent.words import say

NEEDS = "k_s h E_c nu"


def pressure_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """The greatest pressure of the plate against the presumed one: where the raft bends it is more than that of a rigid
    base."""
    presumed = bench.settings.presumed_pressure
    if presumed is None:
        return [does_not_apply("raft-pressure", say("no presumed pressure is set"))]
    solved = solved_raft(bench, project, "allowable")
    if isinstance(solved, str):
        return [unsolved("raft-pressure", solved)]
    record_plate(solved, record)
    water = (bench.forces(solved.situations, SILENT).even / bench.geometry.area)[0]
    plate = bench.pads[0].plate
    on_strata = plate is not None and plate.ground == "layers"
    # at the edge of a stiff plate on a half-space the pressure has no limit but that of the mesh
    pressure = around_each(solved, 2 * bench.pads[0].thickness) if on_strata else solved.pressure
    found = np.where(np.isnan(pressure), -np.inf, pressure + water)
    node = found.argmax(axis=0)
    demand = found.max(axis=0)[None]
    x, y = (v[node][None] for v in solved.mesh.places)
    record.given("x_n", x, "m", note=say("where, from the middle"), needs=NEEDS)
    record.given("y_n", y, "m", needs=NEEDS)
    record.given(
        "p_dem",
        demand,
        "kPa",
        note=say("greatest pressure below the plate, with that of the water")
        + (say(", mean over a square of twice the thickness") if on_strata else ""),
        needs="k_s x_n y_n",
    )
    record.given("q_pres", presumed, "kPa", reference=say("setting"), note=say("presumed pressure"))
    record.step("ratio", "p_dem/q_pres", demand / presumed)
    return [
        Outcome(
            CHECKS["raft-pressure"],
            demand,
            np.full_like(demand, presumed),
            demand / presumed,
            solved.situations,
            blocks=(say("raft pressure"),),
            note=lambda i, j: say(
                "at {x:+.2f}, {y:+.2f} m from the middle{lifted}", x=x[0, j], y=y[0, j], lifted=lifted(solved, j)
            ),
        )
    ]


def around_each(solved: SolvedRaft, side: float) -> Array:
    """Mean pressure over the part of a square about each place that lies on the raft, kPa, (places, situations)."""
    mesh = solved.mesh
    x, y = mesh.places
    mid_x, mid_y = mesh.middles
    size_x, size_y = mesh.sizes
    force = np.einsum("eps,ep->es", solved.solution.pressure, solved.plate.points)
    pressure = force / solved.plate.points.sum(axis=1)[:, None]

    def overlap(at: Array, middle: Array, size: Array) -> Array:
        low, high = at[:, None] - side / 2, at[:, None] + side / 2
        return np.asarray(np.minimum(high, middle + size / 2) - np.maximum(low, middle - size / 2)).clip(0.0)

    area = overlap(x, mid_x, size_x) * overlap(y, mid_y, size_y)
    total = area.sum(axis=1, keepdims=True)
    found: Array = np.where(mesh.seen[:, None], area @ pressure / np.where(total > 0, total, 1.0), np.nan)
    return found


def slope_checks(bench: Bench, project: Project, record: Recorder) -> list[Outcome]:
    """The greatest slope between two columns that stand beside each other, by the settlements of the plate."""
    solved = solved_raft(bench, project, "settlement_long")
    if isinstance(solved, str):
        return [unsolved("raft-slope", solved)]
    columns = solved.columns
    if len(columns) < 2:
        return [does_not_apply("raft-slope", say("it carries one column"))]
    record_plate(solved, record)
    places = np.array([(float(c.x[0, 0]), float(c.y[0, 0])) for c in columns])
    w = solved.mesh.at(solved.settlement, places[:, 0], places[:, 1])
    pairs = neighbours_of(places)
    apart = np.array([np.hypot(*(places[i] - places[j])) for i, j in pairs])
    slopes = np.abs(w[[i for i, _ in pairs]] - w[[j for _, j in pairs]]) / apart[:, None]
    worst = slopes.argmax(axis=0)
    limit = limits_of(bench.settings).slope
    first, second = (w[[p[k] for p in pairs]][worst, np.arange(w.shape[1])][None] for k in (0, 1))
    distance = apart[worst][None]
    demand = 1000 * slopes.max(axis=0)[None]
    record.given("s_1", 1000 * first, "mm", note=say("settlement of the plate below one column"), needs=NEEDS)
    record.given("s_2", 1000 * second, "mm", note=say("below the other"), needs=NEEDS)
    record.given("a", distance, "m", note=say("between them"))
    record.step("theta", "abs(s_1 - s_2)/a", demand, "‰")
    record.given("theta_max", 1000 * limit, "‰", note=say("limit, 1/{limit:.0f}", limit=1 / limit))
    record.step("ratio", "theta/theta_max", demand / (1000 * limit))
    names = [c.name for c in columns]
    return [
        Outcome(
            CHECKS["raft-slope"],
            demand,
            np.full_like(demand, 1000 * limit),
            demand / (1000 * limit),
            solved.situations,
            blocks=(say("raft slope"),),
            note=lambda i, j: say(
                "{names} to {names_2}, 1/{demand:.0f}",
                names=names[pairs[worst[j]][0]],
                names_2=names[pairs[worst[j]][1]],
                demand=1000 / max(demand[0, j], 1e-9),
            ),
        )
    ]


def neighbours_of(places: Array) -> list[tuple[int, int]]:
    """Pairs of points beside each other: no third one lies in or on the circle over the two."""
    pairs = []
    for i, j in combinations(range(len(places)), 2):
        middle, radius = (places[i] + places[j]) / 2, np.hypot(*(places[i] - places[j])) / 2
        others = np.delete(np.arange(len(places)), [i, j])
        if not len(others) or (np.hypot(*(places[others] - middle).T) > radius * (1 + 1e-6)).all():
            pairs.append((i, j))
    return pairs or [(0, 1)]
