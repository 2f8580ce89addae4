"""Reference cases of rafts on the strata in construction steps, at a day, and beside others: each by another road of
the program."""

import datetime
from functools import lru_cache

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.model import Load, LoadPoint, Project
from korbent.core.model.actions import AreaLoad, ConstructionStep, SettlementMark
from korbent.core.rafts.neighbours import on_neighbours
from korbent.core.rafts.on_strata import coupled, pressure_of, strata_and_loads
from korbent.core.rafts.over_time import raft_at
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.settlement.history import column_history, mark_history
from korbent.core.settlement.neighbours import settled
from korbent.core.working import Array
from korbent.verification.case import Case
from korbent.verification.strata import PRESSURE, SIDE, SOFT, bench_of, deep, raft_of

FIRST, LATER = 60, 400
"""Days of the first and of the second step."""
DAYS = (200.0, 3000.0)


def _steps(name: str) -> tuple[ConstructionStep, ...]:
    """Half of a load in a ramp from day 60 on, all of it from day 400 on."""
    start = datetime.date(2030, 1, 1)
    return tuple(
        ConstructionStep(name=f"step {i}", date=start + datetime.timedelta(days=day), ramp=ramp, factors={name: share})
        for i, (day, ramp, share) in enumerate(((0, 0.0, 0.0), (FIRST, 40.0, 0.5), (LATER, 0.0, 1.0)))
    )


def _clay(project: Project) -> Project:
    """Its ground as 12 m of clay that takes its time and creeps, above what hardly settles."""
    soil = project.ground.soils[0].replaced(
        compression="oedometer",
        compression_ratio=0.09,
        recompression_share=0.2,
        overconsolidation_ratio=1.3,
        consolidation_coefficient=4.0,
        creep_index=0.003,
    )
    hole = project.ground.boreholes[0]
    ground = project.ground.replaced(
        soils=(soil,),
        boreholes=(hole.replaced(strata=(hole.strata[0].replaced(thickness=12.0),), rigid_below=True),),
    )
    return project.replaced(ground=ground)


@lru_cache(maxsize=8)
def on_clay(modulus: float = SOFT) -> Project:
    """The square raft of 4 m under 100 kPa all over, in two steps, on the clay; a cell as large as an eighth of it."""
    project = _clay(deep(modulus=modulus, mesh=SIDE / 8))
    return project.replaced(actions=project.actions.replaced(steps=_steps("G")))


def flexible_at(day: float) -> float:
    """Settlement of the middle of the raft without stiffness at a day, mm."""
    project = on_clay()
    found = raft_at(bench_of(project), project, day)
    assert isinstance(found, SolvedRaft), found
    x, y = found.mesh.nodes
    return 1000 * float(found.solution.settlement[np.argmin(x**2 + y**2), 0])


def marked_at(day: float) -> float:
    """The settlement stop: the mean of marks at the Gauss points of the cells about the middle, below an area load of
    the same steps, mm."""
    project = on_clay()
    own = bench_of(project).pads[0]
    parts = strata_and_loads(bench_of(project), project, raft_of(project).plate)
    i = int(np.argmin(parts.cells.x**2 + parts.cells.y**2))
    area = AreaLoad(name="A", size_x=SIDE, size_y=SIDE, level=own.level, pressure=PRESSURE, x=0.0, y=0.0)
    project = project.replaced(
        pads=(),
        actions=project.actions.replaced(area_loads=(area,), steps=_steps("A")),
        settings=project.settings.replaced(elastic_beside="three_stresses"),
    )
    d = 1 / np.sqrt(12)
    found = []
    for u in (-1, 1):
        for v in (-1, 1):
            x, y = (
                float(at[i] + s * d * size[i])
                for at, s, size in (
                    (parts.cells.x, u, parts.cells.size_x),
                    (parts.cells.y, v, parts.cells.size_y),
                )
            )
            found.append(mark_history(project, SettlementMark(name="M", x=x, y=y, level=own.level)).at(day))
    return 1000 * float(np.mean(found))


def by_two_roads() -> float:
    """Greatest of the settlements of the cells by the checks over that by the history of each, under uneven pressures,
    less 1, as 1 plus."""
    project = on_clay()
    parts = strata_and_loads(bench_of(project), project, raft_of(project).plate)
    strata = parts.strata
    assert strata.steps is not None
    share = np.array([0.0, 0.5, 1.0])[:, None]
    pressures: Array = share * (60.0 + 30.0 * np.cos(parts.cells.x + 0.5 * parts.cells.y))
    own = np.array([column_history(project, "P", c).final for c in strata.steps.staged(*strata.below(pressures))])
    ratio = strata.after(pressures).settlement(pressures[-1]) / own
    return float(ratio[np.abs(ratio - 1).argmax()])


@lru_cache(maxsize=1)
def _beside() -> Project:
    """The raft as stiff as rock, and a pad 0.6 m beside it."""
    project = on_clay(1e8)
    own = project.pads[0]
    point = LoadPoint(name="N", x=SIDE / 2 + 1.4, y=0.5, size_x=0.3, size_y=0.3, level=0.0, loads={"G": Load(V=160.0)})
    pad = own.replaced(name="N", kind="pad", plate=None, load_point="N", width=1.6, length=1.6, thickness=0.5)
    return project.replaced(
        pads=(own, pad), actions=project.actions.replaced(load_points=(*project.actions.load_points, point))
    )


def pad_by_cells() -> float:
    """Settlement of the pad with the pressures of the cells of the raft, mm."""
    project = _beside()
    (found,) = on_neighbours(bench_of(project), project, raft_of(project))
    return 1000 * float(found.pressed[0])


def pad_by_area_loads() -> float:
    """The same where an area load stands for each cell, step by step, and no raft, mm."""
    project = _beside()
    pressure = pressure_of(bench_of(project), project, raft_of(project).plate)
    areas = pressure.areas
    loads = tuple(
        AreaLoad(
            name=f"A{i}",
            x=areas.x[i],
            y=areas.y[i],
            size_x=areas.B[i],
            size_y=areas.L[i],
            level=areas.level[i],
            pressure=1.0,
        )
        for i in range(len(areas))
    )
    steps = tuple(
        one.replaced(factors={**one.factors, **{f"A{i}": float(row[i]) for i in range(len(areas))}})
        for one, row in zip(_steps("G"), pressure.values[-3:])
    )
    alone = project.replaced(pads=project.pads[1:], actions=project.actions.replaced(area_loads=loads, steps=steps))
    found = settled(alone)["N"]
    assert found is not None
    return 1000 * float(found.total[0, 0])


@lru_cache(maxsize=1)
def twins() -> tuple[float, float]:
    """(mean settlement of one of two like rafts 0.5 m apart over that of the other, what is left of the turns between
    them)."""
    project = _clay(deep(modulus=1e7, mesh=SIDE / 5))
    own, first = project.pads[0], project.actions.load_points[0]
    point = first.replaced(name="D", x=first.x + SIDE + 0.5)
    project = project.replaced(
        pads=(own, own.replaced(name="Q", load_point="D")),
        actions=project.actions.replaced(load_points=(first, point)),
    )
    means = []
    for pad in project.pads:
        found = solved_raft(bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad)), project, "settlement_long")
        assert isinstance(found, SolvedRaft), found
        means.append(float(found.solution.settlement[found.mesh.used, 0].mean()))
    return means[0] / means[1], coupled(project).moved


RAFT_CONSTRUCTION = (
    *(
        Case(
            f"raft without stiffness in two steps on clay, settlement of its middle after {day:.0f} days",
            "second method",
            "marks below an area load of the same steps",
            lambda day=day: marked_at(day),
            lambda day=day: flexible_at(day),
            1.5e-2,
            "mm",
        )
        for day in DAYS
    ),
    Case(
        "raft in two steps on clay: cells by the checks over their histories",
        "second method",
        "each cell followed over time to its end",
        1.0,
        by_two_roads,
        1e-6,
        "",
    ),
    Case(
        "pad beside a stiff raft on clay: settlement",
        "second method",
        "an area load for each cell of the raft",
        pad_by_area_loads,
        pad_by_cells,
        1e-4,
        "mm",
    ),
    Case(
        "two like rafts beside each other on clay: mean settlements",
        "closed form",
        "mirror images settle alike",
        1.0,
        lambda: twins()[0],
        4e-3,
        "",
    ),
    Case(
        "two like rafts beside each other on clay: what the last turn changed",
        "second method",
        "as many turns as it takes: nothing",
        0.0,
        lambda: twins()[1],
        2e-3,
        "",
    ),
)
