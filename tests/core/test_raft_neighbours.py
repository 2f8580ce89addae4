"""Rafts and what stands beside them: as the plate presses and not evenly, the same by area loads; rafts that settle
each other."""

from functools import cache

import numpy as np
import pytest

from korbent.core.bench import bench_for
from korbent.core.cache import forget_all
from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.explain.working import Working, working
from korbent.core.geometry import table
from korbent.core.model import Load, Project
from korbent.core.model.actions import AreaLoad
from korbent.core.rafts.layered import CLOSE
from korbent.core.rafts.neighbours import CHECK, on_neighbours
from korbent.core.rafts.on_strata import coupled, pressure_of
from korbent.core.rafts.over_time import raft_at
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.settlement.history import base_history
from korbent.core.settlement.neighbours import settled
from korbent.core.settlement.pressing import pressing_of
from tests.core.test_raft_construction import on_clay, step
from tests.core.test_rafts import bench_of, raft
from tests.invariants.test_whole import ledger_is_working

STEPS = (step("start", 0), step("frame", 100, G=0.7), step("all", 300, G=1.0))


def with_pad(project: Project, x: float = 10.0, y: float = 1.8, V: float = 300.0, name: str = "N1") -> Project:
    """A pad beside the end of the raft."""
    own = project.pads[0]
    point = project.actions.load_points[0].replaced(name=f"C{name}", x=x, y=y, loads={"G": Load(V=V)})
    pad = own.replaced(
        name=name,
        kind="pad",
        plate=None,
        further=(),
        load_point=point.name,
        width=1.6,
        length=1.6,
        thickness=0.5,
        offset_x=0.0,
        offset_y=0.0,
    )
    actions = project.actions.replaced(load_points=(*project.actions.load_points, point))
    return project.replaced(actions=actions, pads=(*project.pads, pad))


@cache
def beside_one(springs: bool = False) -> Project:
    project = with_pad(on_clay(STEPS))
    own = project.pads[0]
    assert own.plate is not None
    if springs:
        own = own.replaced(plate=own.plate.replaced(ground="springs", subgrade=1e4))
    return project.replaced(pads=(own, *project.pads[1:]))


def solved(project: Project) -> SolvedRaft:
    found = solved_raft(bench_of(project), project, "settlement_long")
    assert isinstance(found, SolvedRaft), found
    return found


@pytest.mark.long
@pytest.mark.parametrize("springs", [True, False])
def test_it_presses_as_much_as_evenly(springs: bool) -> None:
    project = beside_one(springs)
    own = pressing_of(project)[0]
    found = pressure_of(bench_of(project), project, solved(project).plate)
    force = found.values @ (found.areas.B * found.areas.L)
    assert force == pytest.approx(np.concatenate([own.pressure, own.stages]) * own.B * own.L, rel=1e-6)
    assert found.areas.x.mean() == pytest.approx(own.x, abs=1e-9)


@pytest.mark.long
def test_the_same_by_an_area_load_for_each_cell() -> None:
    """Another road to the neighbour's settlement: no raft, but its cells as area loads that act step by step."""
    project = beside_one()
    own = solved(project)
    (found,) = on_neighbours(bench_of(project), project, own)
    pressure = pressure_of(bench_of(project), project, own.plate)
    areas, steps = pressure.areas, pressure.values[-len(STEPS) :]
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
    instead = tuple(
        one.replaced(factors={**one.factors, **{f"A{i}": float(values[i]) for i in range(len(areas))}})
        for one, values in zip(STEPS, steps)
    )
    alone = project.replaced(pads=project.pads[1:], actions=project.actions.replaced(area_loads=loads, steps=instead))
    # the lasting combination is what the last step leaves
    assert pressure.values[0] == pytest.approx(steps[-1], rel=1e-6)
    other = settled(alone)["N1"]
    assert other is not None
    assert found.pressed[0] == pytest.approx(other.total[0, 0], rel=1e-4)
    assert found.even[0] != pytest.approx(found.pressed[0], rel=1e-3)


def test_a_stiff_raft_presses_its_neighbours_more_than_evenly() -> None:
    """On the strata the edges of a stiff plate press more: the pad beside its end settles more than by the mean."""
    project = beside_one()
    own = project.pads[0]
    assert own.plate is not None
    stiff = project.replaced(pads=(own.replaced(plate=own.plate.replaced(modulus=1e8)), *project.pads[1:]))
    (found,) = on_neighbours(bench_of(stiff), stiff, solved(stiff))
    assert found.pressed[0] > 1.005 * found.even[0]
    result = evaluate(stiff).pads[0].check(CHECK)
    assert result.ratio == pytest.approx((found.pressed[0] - found.even[0]) / (0.1 * found.limit), rel=1e-9)
    assert result.message.startswith(f"N1 {1000 * found.pressed[0]:.1f} mm (+")


@pytest.mark.long
def test_its_ledger_is_the_working_and_far_bases_are_no_neighbours() -> None:
    project = beside_one()
    assert ledger_is_working(project) > 25
    found = working(project, project.pads[0], CHECK)
    assert isinstance(found, Working)
    assert any(step.symbol == "s_n" for step in found.recording.steps)
    far = with_pad(on_clay(STEPS), x=400.0)
    assert evaluate(far).pads[0].check(CHECK).state is State.NOT_APPLICABLE


@pytest.mark.long
def test_kept_results_notice_limit_and_load_of_a_neighbour() -> None:
    project = beside_one()

    def ratio(p: Project) -> float:
        return evaluate(p).pads[0].check(CHECK).ratio or 0.0

    first = ratio(project)
    (own,) = on_neighbours(bench_of(project), project, solved(project))
    between = float((own.even[0] + own.pressed[0]) / 2)
    tight = project.pads[1].replaced(overrides={"settlement_limit": between})
    limited = project.replaced(pads=(project.pads[0], tight))
    loaded = with_pad(on_clay(STEPS), V=500.0)
    warm = ratio(limited), ratio(loaded)
    forget_all()
    assert warm == pytest.approx((ratio(limited), ratio(loaded)), rel=1e-9)
    assert warm[0] == pytest.approx(first * own.limit / between, rel=1e-9)
    assert warm[1] != first
    if own.pressed[0] > own.even[0]:
        assert "N1 goes beyond its limit" in evaluate(limited).pads[0].check(CHECK).message


def twins(apart: float) -> Project:
    """The raft and its mirror image, so far from middle to middle."""
    project = on_clay(())
    own, actions = project.pads[0], project.actions
    first = actions.load_points[0]
    middle = first.x - own.offset_x
    at = middle + apart / 2
    points = tuple(
        p.replaced(name=f"M{p.name}", x=2 * at - p.x, loads={n: v.replaced(My=-v.My) for n, v in p.loads.items()})
        for p in actions.load_points
    )
    other = own.replaced(
        name="Q",
        load_point=f"M{own.load_point}",
        further=tuple(f"M{n}" for n in own.further),
        offset_x=-own.offset_x,
    )
    return project.replaced(pads=(own, other), actions=actions.replaced(load_points=(*actions.load_points, *points)))


def by_place(project: Project, which: int) -> np.ndarray:
    """Settlements of one of the rafts, those of the second mirrored."""
    pad = project.pads[which]
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = solved_raft(bench, project, "settlement_long")
    assert isinstance(found, SolvedRaft), found
    grid = found.settlement[:, 0].reshape(found.mesh.grid)
    return grid[::-1] if which else grid


@pytest.mark.long
def test_two_rafts_settle_each_other_and_are_mirror_images() -> None:
    near = twins(9.2 + 0.6)
    together = coupled(near)
    assert set(together.pressures) == {"P", "Q"}
    assert together.moved <= CLOSE
    assert together.rounds >= 2
    a, b = by_place(near, 0), by_place(near, 1)
    assert b == pytest.approx(a, rel=4e-3)
    # they lean towards each other
    assert a[-1].mean() > 1.1 * a[0].mean()
    assert "with Q by turns" in solved(near).source
    alone = by_place(raft_alone(), 0)
    assert a.mean() > 1.05 * alone.mean()
    assert by_place(twins(3000.0), 0) == pytest.approx(alone, rel=2e-3)


@cache
def raft_alone() -> Project:
    return on_clay(())


@pytest.mark.long
def test_the_pressure_of_a_raft_beside_is_its_own_not_its_mean() -> None:
    """With a plate that cannot bend the edges of the other one press more, and so settle this one more than the mean
    would."""
    near = twins(9.2 + 0.6)
    one, other = near.pads
    assert other.plate is not None

    def with_other(modulus: float) -> np.ndarray:
        stiff = other.replaced(plate=other.plate.replaced(modulus=modulus))  # type: ignore[union-attr]
        return by_place(near.replaced(pads=(one, stiff)), 0)

    soft, stiff = with_other(1e4), with_other(1e8)
    assert stiff[-1].mean() != pytest.approx(soft[-1].mean(), rel=1e-3)
    assert abs(stiff[0].mean() / soft[0].mean() - 1) < abs(stiff[-1].mean() / soft[-1].mean() - 1)


def test_without_strata_nothing_is_coupled() -> None:
    assert coupled(raft()).pressures == {}
    assert coupled(beside_one()).pressures == {}


@pytest.mark.parametrize("ground", ["springs", "layers"])
def test_a_step_in_which_the_raft_floats_presses_nothing_beside_it_either(ground: str) -> None:
    steps = (step("start", 0), step("hoist", 100, G=-0.5), step("all", 300, G=1.0))
    project = with_pad(on_clay(steps))
    own = project.pads[0]
    assert own.plate is not None
    own = own.replaced(plate=own.plate.replaced(ground=ground, subgrade=1e4))
    project = project.replaced(pads=(own, *project.pads[1:]))
    pressure = pressure_of(bench_of(project), project, solved(project).plate)
    # the same everywhere: the ground that was dug out is missing, and the water presses up
    assert np.ptp(pressure.values[-2]) < 1e-6 * abs(pressure.values[-1].mean())
    assert evaluate(project).pads[0].check(CHECK).ratio is not None


@pytest.mark.long
def test_at_the_end_of_its_life_a_raft_beside_another_is_what_the_checks_say() -> None:
    """At a day too the other one presses as its plate does."""
    near = twins(9.2 + 0.6)
    one, other = near.pads
    assert other.plate is not None
    stiff = near.replaced(pads=(one, other.replaced(plate=other.plate.replaced(modulus=1e8))))
    own = solved(stiff)
    life = float(base_history(stiff, one.name).times[-1])
    then = raft_at(bench_of(stiff), stiff, life)
    assert isinstance(then, SolvedRaft)
    seen = own.mesh.seen
    assert then.settlement[seen, 0] == pytest.approx(own.settlement[seen, 0], rel=4e-3)
