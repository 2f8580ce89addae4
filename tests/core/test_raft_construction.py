"""Construction steps and time below rafts on the strata: what came before counts cell by cell, the same as at marks and
in the history."""

import datetime
from functools import cache
from itertools import pairwise

import numpy as np
import pytest

from korbent import api
from korbent.core.evaluate import evaluate
from korbent.core.explain.raft import Field, raft_field, raft_field_at
from korbent.core.model import Pad, Project
from korbent.core.model.actions import AreaLoad, BandDrains, ConstructionStep
from korbent.core.rafts.on_strata import strata_and_loads
from korbent.core.rafts.over_time import raft_at
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.settlement.at_places import added_at
from korbent.core.settlement.beside import besides
from korbent.core.settlement.history import base_history, column_history
from korbent.core.settlement.pressing import pressing_of
from korbent.core.working import Array
from tests.core.test_rafts import bench_of, raft

DAY = datetime.date(2027, 3, 1)
COARSE = 1.6


def step(name: str, after: int, ramp: float = 0.0, water: str = "normal", **factors: float) -> ConstructionStep:
    return ConstructionStep(
        name=name, date=DAY + datetime.timedelta(days=after), ramp=ramp, water=water, factors=factors
    )  # type: ignore[arg-type]


def on_clay(
    steps: tuple[ConstructionStep, ...],
    areas: tuple[AreaLoad, ...] = (),
    pads: tuple[Pad, ...] = (),
    creep: float | None = None,
) -> Project:
    """The raft on clay that takes its time, coarsely meshed."""
    project = raft()
    pad = project.pads[0]
    assert pad.plate is not None
    soil = project.ground.soils[0].replaced(
        compression="oedometer",
        compression_ratio=0.1,
        recompression_share=0.15,
        overconsolidation_ratio=1.4,
        consolidation_coefficient=3.0,
        creep_index=creep,
    )
    on = pad.replaced(plate=pad.plate.replaced(ground="layers", mesh=COARSE))
    return project.replaced(
        pads=(on, *pads),
        ground=project.ground.replaced(soils=(soil,)),
        actions=project.actions.replaced(steps=steps, area_loads=areas),
    )


def lasting(project: Project) -> SolvedRaft:
    found = solved_raft(bench_of(project), project, "settlement_long")
    assert isinstance(found, SolvedRaft), found
    return found


def mean(project: Project) -> float:
    found = lasting(project)
    return float(np.nanmean(found.settlement[found.mesh.seen, 0]))


TWO = (step("start", 0), step("frame", 100, 60.0, G=0.6), step("fit-out", 400, G=1.0))


@cache
def two_steps(creep: float | None = 0.004) -> Project:
    return on_clay(TWO, creep=creep)


@pytest.mark.long
@pytest.mark.parametrize("water", ["normal", "low"])
def test_the_end_by_the_checks_and_by_the_history_of_each_cell(water: str) -> None:
    """Two roads through the strata, under the pressures of the same steps; lowered water and creep within."""
    project = on_clay((*TWO, step("pumped", 500, water=water, G=1.0)), creep=0.004)
    parts = strata_and_loads(bench_of(project), project, lasting(project).plate)
    strata, n = parts.strata, len(parts.cells.x)
    assert strata.steps is not None
    pressures = np.array([0.0, 0.4, 1.0, 1.0])[:, None] * (60.0 + 30.0 * np.cos(parts.cells.x))
    columns = strata.steps.staged(*strata.below(pressures))
    own = np.array([column_history(project, "F1", c).final for c in columns])
    assert strata.after(pressures).settlement(pressures[-1]) == pytest.approx(own, rel=1e-6)
    assert n > 30
    assert own.max() > 1.2 * own.min()


def test_at_the_end_of_its_life_it_is_what_the_checks_say() -> None:
    """Dry, without creep: nothing comes after primary, and the load of the last step is that of the combination."""
    project = two_steps(None)
    whole = lasting(project)
    assert "3 construction steps followed" in whole.source
    then = raft_at(bench_of(project), project, float(base_history(project, project.pads[0].name).times[-1]))
    assert isinstance(then, SolvedRaft)
    seen = whole.mesh.seen
    assert then.settlement[seen, 0] == pytest.approx(whole.settlement[seen, 0], rel=2e-2)
    assert then.solution.residual < 1e-8


@pytest.mark.long
def test_it_settles_on_and_on_and_presses_what_acts() -> None:
    project = two_steps()
    bench = bench_of(project)
    settled: list[Array] = []
    for day in (130.0, 170.0, 390.0, 401.0, 800.0, 5000.0):
        found = raft_at(bench, project, day)
        assert isinstance(found, SolvedRaft), found
        force = (found.plate.points[:, :, None] * found.solution.pressure).sum()
        assert force == pytest.approx((found.plate.points[:, :, None] * found.gross).sum(), rel=1e-8)
        settled.append(found.settlement[found.mesh.seen, 0])
    for before, after in pairwise(settled):
        assert after.mean() > before.mean()
    # half-way up the ramp half of the columns' load of the first step
    half = raft_at(bench, project, 130.0)
    assert isinstance(half, SolvedRaft)
    assert half.situations.factors[0, 0] == pytest.approx(0.3)


@pytest.mark.long
def test_a_step_cut_in_two_a_day_apart_changes_hardly_anything() -> None:
    one = on_clay((step("all", 100, G=1.0),), creep=0.004)
    two = on_clay((step("some", 99, G=0.5), step("all", 100, G=1.0)), creep=0.004)
    a, b = lasting(one), lasting(two)
    seen = a.mesh.seen
    assert b.settlement[seen] == pytest.approx(a.settlement[seen], rel=2e-3)


@pytest.mark.long
def test_without_steps_it_is_one_step_of_the_lasting_load() -> None:
    assert mean(on_clay((step("all", 0, G=1.0),))) == pytest.approx(mean(on_clay(())), rel=2e-3)


@pytest.mark.long
def test_a_preload_that_is_taken_away_leaves_less_to_settle() -> None:
    load = AreaLoad(name="fill", x=0.0, y=0.0, size_x=14.0, size_y=9.0, level=0.0, pressure=90.0)
    built = (step("frame", 800, G=1.0),)
    plain = mean(on_clay((step("start", 0), *built)))
    preloaded = mean(on_clay((step("fill", 0, fill=1.0), step("off", 700), *built), (load,)))
    assert preloaded < 0.8 * plain


@pytest.mark.long
def test_lower_water_presses_too() -> None:
    wet = mean(on_clay((step("frame", 0, G=1.0, water="high"), step("stays", 300, G=1.0, water="high"))))
    pumped = mean(on_clay((step("frame", 0, G=1.0, water="high"), step("pumped", 300, G=1.0, water="low"))))
    assert pumped > 1.02 * wet


def test_what_stands_beside_presses_each_cell_at_its_place() -> None:
    """At the middle of the raft the same as what acts beside it in the Settlement stop, with several bases and an area
    load."""
    load = AreaLoad(name="yard", x=9.0, y=2.0, size_x=5.0, size_y=6.0, level=0.0, pressure=40.0)
    project = on_clay((step("yard", 0, yard=0.5), step("frame", 100, yard=1.0, G=1.0)), (load,))
    own = project.pads[0]
    point = project.actions.load_points[0].replaced(name="N", x=7.0, y=-1.0)
    pad = own.replaced(
        name="N1",
        kind="pad",
        plate=None,
        further=(),
        load_point="N",
        width=2.0,
        length=2.5,
        offset_x=0.0,
        offset_y=0.0,
        rotation=20.0,
    )
    project = project.replaced(
        pads=(*project.pads, pad),
        actions=project.actions.replaced(load_points=(*project.actions.load_points, point)),
    )
    beside = besides(project)[own.name]
    middle = pressing_of(project)[0]
    places = np.array([[middle.x, middle.y], [middle.x + 4.0, middle.y]])
    found, _ = added_at(project, places, beside.levels, own.name)
    assert found[:1, 0] == pytest.approx(beside.stress, rel=1e-9)
    assert found[1:, 0] == pytest.approx(beside.stages, rel=1e-9)
    assert found[0, 1, 0] > 3 * found[0, 0, 0]  # nearer to them
    assert lasting(project).solution.residual < 1e-8


def test_what_cannot_be_at_a_day() -> None:
    project = two_steps()
    pad = project.pads[0]
    assert raft_field_at(project, pad, "settlement", 50.0) == f"{pad.name} is not built yet on day 50"
    assert "not at a day" in str(raft_field_at(project, pad, "bottom_x", 500.0))
    with pytest.raises(KeyError, match="pressure"):
        raft_field(project, pad, "depth", "")
    with pytest.raises(ValueError, match="not built yet"):
        api.raft(project, pad.name, "settlement", day=20.0)


@pytest.mark.parametrize("typed", [True, False])
def test_springs_at_a_day(typed: bool) -> None:
    """Typed springs know no time; those of the strata are softer the more has settled."""
    project = two_steps()
    pad = project.pads[0]
    assert pad.plate is not None
    on = pad.replaced(plate=pad.plate.replaced(ground="springs", subgrade=2e4 if typed else None))
    project = project.replaced(pads=(on,))
    bench = bench_of(project)
    early, late = (raft_at(bench, project, day) for day in (200.0, 390.0))
    assert isinstance(early, SolvedRaft)
    assert isinstance(late, SolvedRaft)
    assert (late.k == early.k) if typed else (late.k < 0.99 * early.k)
    if not typed:
        whole = base_history(project, pad.name).at(200.0)
        assert np.nanmean(early.settlement) == pytest.approx(whole, rel=0.05)
    field = raft_field_at(project, on, "settlement", 390.0)
    assert isinstance(field, Field)
    assert api.raft(project, pad.name, "settlement", day=390.0)["values"] == pytest.approx(field.values, nan_ok=True)


@pytest.mark.long
def test_warm_is_cold_when_a_date_or_a_load_beside_changes() -> None:
    load = AreaLoad(name="yard", x=9.0, y=2.0, size_x=5.0, size_y=6.0, level=0.0, pressure=40.0)
    first = on_clay((step("yard", 0, yard=1.0), step("frame", 100, yard=1.0, G=1.0)), (load,))
    other = on_clay((step("yard", 0, yard=1.0), step("frame", 900, yard=1.0, G=1.0)), (load,))
    slopes = [evaluate(p).pads[0].check("raft-slope").ratio for p in (first, other, first)]
    assert slopes[0] == slopes[2]
    assert slopes[0] != pytest.approx(slopes[1], rel=1e-6)


@pytest.mark.long
def test_a_step_in_which_it_floats_presses_nothing_and_is_named() -> None:
    """More pulls at it than it weighs; later its columns hold it down."""
    project = on_clay((step("start", 0), step("hoist", 100, G=-0.5), step("all", 300, G=1.0)))
    found = lasting(project)
    assert "nothing holds it down in hoist: it presses nothing then" in found.source
    later = raft_at(bench_of(project), project, 400.0)
    assert isinstance(later, SolvedRaft)
    assert later.solution.residual < 1e-8
    lifted = raft_at(bench_of(project), project, 200.0)
    assert isinstance(lifted, str)
    assert "floats" in lifted


@pytest.mark.long
def test_steps_of_a_thin_raft_end_close() -> None:
    """Cells that were pressed more the time before count as preloaded: that swings, and must come to rest."""
    project = on_clay((step("start", 0), step("slab", 100, G=0.01), step("all", 300, G=1.0)))
    thin = project.replaced(pads=(project.pads[0].replaced(thickness=0.3),))
    text = lasting(thin).source
    assert float(text.split("followed, to ")[1].split(" %")[0]) <= 0.2


def test_a_step_that_the_ground_does_not_bear_is_named() -> None:
    project = on_clay((step("start", 0), step("too much", 100, G=3.0), step("all", 300, G=1.0)))
    pad = project.pads[0]
    assert pad.plate is not None
    held = project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(greatest=130.0)),))
    found = solved_raft(bench_of(held), held, "settlement_long")
    assert isinstance(found, str)
    assert "in the construction step too much" in found


def test_band_drains_count_where_they_are() -> None:
    """Below one half of the raft the ground settles sooner."""
    project = two_steps(None)
    slow = project.ground.soils[0].replaced(consolidation_coefficient=0.002)
    project = project.replaced(ground=project.ground.replaced(soils=(slow,)))
    own = pressing_of(project)[0]
    drains = BandDrains(
        name="D",
        x=own.x + own.B / 2,
        y=own.y,
        size_x=own.B,
        size_y=3 * own.L,
        spacing=1.2,
        level=-12.0,
    )
    drained = project.replaced(actions=project.actions.replaced(drains=(drains,)))
    half = []
    for p in (project, drained):
        found = raft_at(bench_of(p), p, 390.0)
        assert isinstance(found, SolvedRaft), found
        x, _ = found.mesh.places
        seen = found.mesh.seen
        half.append([float(found.settlement[seen & (x * side > 0.5), 0].mean()) for side in (-1, 1)])
    (west, east), (before, with_drains) = half
    assert with_drains / east > 1.2 * before / west
