"""Rafts on the strata themselves: equilibrium, mirror images, strata cut in two, neighbours, what cannot be."""

import datetime

import numpy as np
import pytest
from pydantic import ValidationError

from korbent.core.bench import bench_for
from korbent.core.cache import forget_all
from korbent.core.checks import State
from korbent.core.evaluate import evaluate
from korbent.core.geometry import table
from korbent.core.model import Project
from korbent.core.model.actions import AreaLoad, ConstructionStep
from korbent.core.rafts.ground_checks import around_each
from korbent.core.rafts.layered import CLOSE, cells_of
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.demo import lindmere
from korbent.verification.strata import SIDE, bench_of, deep, raft_of
from tests.core.test_rafts import plate_of, raft
from tests.invariants.test_whole import ledger_is_working

COARSE = 1.6
"""Greatest cell (m) where only what is alike is looked at."""


def on_strata(project: Project, **plate: object) -> Project:
    pad = project.pads[0]
    assert pad.plate is not None
    return project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(ground="layers", **plate)),))


def test_what_presses_comes_back_and_plate_and_ground_settle_alike() -> None:
    project = on_strata(raft(), mesh=COARSE)
    found = plate_of(project, "settlement_long")
    force = (found.plate.points[:, :, None] * found.solution.pressure).sum()
    assert force == pytest.approx((found.plate.points[:, :, None] * found.gross).sum(), rel=1e-8)
    assert found.solution.residual < 1e-8
    assert "differ by 0." in found.source
    assert found.plate.k.max() > 1.5 * found.plate.k.min()


@pytest.mark.long
def test_the_edges_press_more_than_the_middle_below_a_stiff_plate_and_settle_less_below_a_soft_one() -> None:
    stiff, soft = raft_of(deep(modulus=1e8)), raft_of(deep(modulus=10.0))
    x, y = stiff.mesh.nodes
    middle, edge = int(np.argmin(x**2 + y**2)), int(np.argmin((x - SIDE / 2) ** 2 + y**2))
    assert stiff.pressure[edge, 0] > 1.4 * stiff.pressure[middle, 0]
    w = stiff.solution.settlement[:, 0]
    assert w[edge] == pytest.approx(w[middle], rel=1e-3)
    w = soft.solution.settlement[:, 0]
    assert w[edge] < 0.75 * w[middle]


@pytest.mark.parametrize("axis", ["x", "y"])
def test_in_a_mirror(axis: str) -> None:
    """Loads and columns on the other side: settlements and pressures on the other side."""
    project = on_strata(raft(), mesh=COARSE)
    pad = project.pads[0]
    sx, sy = (-1, 1) if axis == "x" else (1, -1)

    def mirrored(load):  # type: ignore[no-untyped-def]
        return load.replaced(Hx=sx * load.Hx, Hy=sy * load.Hy, My=sx * load.My, Mx=sy * load.Mx)

    points = tuple(
        p.replaced(x=sx * p.x, y=sy * p.y, loads={n: mirrored(v) for n, v in p.loads.items()})
        for p in project.actions.load_points
    )
    other = project.replaced(
        actions=project.actions.replaced(load_points=points),
        pads=(pad.replaced(offset_x=sx * pad.offset_x, offset_y=sy * pad.offset_y),),
    )
    one, two = (plate_of(p, "settlement_long") for p in (project, other))
    shape = (len(one.mesh.lines_x), len(one.mesh.lines_y))
    flip = (slice(None, None, -1), slice(None)) if axis == "x" else (slice(None), slice(None, None, -1))
    for name in ("settlement",):
        a, b = (getattr(f.solution, name)[:, 0].reshape(shape) for f in (one, two))
        assert b == pytest.approx(a[flip], rel=1e-8)
    assert two.pressure[:, 0].reshape(shape) == pytest.approx(one.pressure[:, 0].reshape(shape)[flip], rel=1e-4)


@pytest.mark.long
def test_a_stratum_cut_in_two_changes_nothing() -> None:
    project = on_strata(raft(), mesh=COARSE)
    hole = project.ground.boreholes[0]
    (stratum,) = hole.strata
    cut = hole.replaced(strata=(stratum.replaced(thickness=7.3), stratum.replaced(thickness=stratum.thickness - 7.3)))
    other = project.replaced(ground=project.ground.replaced(boreholes=(cut,)))
    a, b = plate_of(project, "settlement_long"), plate_of(other, "settlement_long")
    assert b.solution.settlement == pytest.approx(a.solution.settlement, rel=1e-7)
    assert b.plate.k == pytest.approx(a.plate.k, rel=1e-6)


@pytest.mark.long
def test_stiffer_ground_settles_less_everywhere() -> None:
    def settled(modulus: float) -> np.ndarray:
        project = on_strata(raft(), mesh=COARSE)
        soil = project.ground.soils[0].replaced(modulus=modulus)
        found = plate_of(project.replaced(ground=project.ground.replaced(soils=(soil,))), "settlement_long")
        return found.solution.settlement[found.mesh.used, 0]

    assert (settled(40_000.0) < settled(25_000.0)).all()


def test_cells_cover_the_plate() -> None:
    found = raft_of(deep(modulus=1e7))
    assert len(cells_of(found.mesh, 6).x) < len(cells_of(found.mesh, 12).x)
    for along in (6, 12):
        cells = cells_of(found.mesh, along)
        assert cells.area.sum() == pytest.approx(found.mesh.area, rel=1e-12)
        ones = np.ones((len(found.mesh.elements), 4))
        assert cells.mean(ones, found.plate.points) == pytest.approx(1.0)


def test_more_cells_change_little() -> None:
    """Typed at the raft: settlements and greatest moments of few and of many cells; of both alike."""

    def found(cells: int | None) -> SolvedRaft:
        return plate_of(on_strata(raft(), mesh=0.6, cells=cells), "settlement_long")

    few, usual, many = found(12), found(None), found(24)
    counts = [int(one.source.split(" cells")[0].split()[-1]) for one in (few, usual, many)]
    assert counts[0] < counts[1] < counts[2]
    far = []
    for one, close in ((few, 0.02), (usual, 0.01)):
        w, by = one.solution.settlement, many.solution.settlement
        assert w == pytest.approx(by, abs=close * float(np.abs(by).max()))
        m, exact = (np.abs(f.fields[0].m_x[f.fields[0].m_x == f.fields[0].m_x]).max() for f in (one, many))
        far.append(abs(m / exact - 1))
    assert far[1] < 0.01
    assert far[0] < 0.06


@pytest.mark.parametrize("cells", [11, 29])
def test_too_few_or_too_many_cells_are_refused(cells: int) -> None:
    with pytest.raises(ValidationError, match="cells"):
        on_strata(raft(), cells=cells)


@pytest.mark.long
def test_a_load_beside_tilts_it_and_is_noticed_when_it_changes() -> None:
    """What stands beside settles the ground below the raft; a change of it is seen by the plates that are kept."""
    project = on_strata(raft(), mesh=COARSE)
    edge = project.pads[0].width / 2

    def beside(pressure: float) -> Project:
        area = AreaLoad(name="A", x=edge + 4.0, y=0.0, size_x=6.0, size_y=12.0, level=0.0, pressure=pressure)
        return project.replaced(actions=project.actions.replaced(area_loads=(area,)))

    def tilt(p: Project) -> float:
        found = plate_of(p, "settlement_long")
        x, y = found.mesh.nodes
        w = found.solution.settlement[:, 0]
        left, right = (int(np.argmin((x - s * edge) ** 2 + y**2)) for s in (-1, 1))
        return float(w[right] - w[left])

    none, some, more = tilt(project), tilt(beside(60.0)), tilt(beside(120.0))
    assert none < some < more
    warm = evaluate(beside(60.0)), evaluate(beside(120.0))
    for p, found in zip((60.0, 120.0), warm):
        forget_all()
        cold = evaluate(beside(p)).pads[0]
        for a, b in zip(found.pads[0].checks, cold.checks):
            assert (a.state, a.ratio or 0.0) == (b.state, pytest.approx(b.ratio or 0.0, rel=1e-9)), a.check.id


def test_ledger_is_the_working() -> None:
    assert ledger_is_working(on_strata(raft(), mesh=COARSE)) > 25


@pytest.mark.long
def test_the_pressure_is_a_mean_where_its_peak_depends_on_the_mesh() -> None:
    """Of the mesh twice as fine the check changes by little, the peak at the corner by much."""
    checked, peaks = [], []
    for size in (SIDE / 12, SIDE / 24):
        project = deep(modulus=1e8, mesh=size)
        checked.append(evaluate(project).pads[0].check("raft-pressure").demand)
        peaks.append(np.nanmax(raft_of(project).pressure))
    assert checked[1] == pytest.approx(checked[0], rel=0.04)  # type: ignore[arg-type]
    found = raft_of(deep())
    whole = around_each(found, 100.0)
    mean = (found.plate.points[:, :, None] * found.solution.pressure).sum() / found.mesh.area
    assert whole[found.mesh.used] == pytest.approx(mean, rel=1e-9)
    assert peaks[0] > checked[0]  # type: ignore[operator]


def test_without_ground_or_combination_it_says_what_is_missing() -> None:
    project = on_strata(raft(), mesh=COARSE)
    bare = project.replaced(ground=project.ground.replaced(boreholes=()))
    result = evaluate(bare).pads[0].check("raft-slope")
    assert result.state is State.CANNOT
    assert "springs" in result.message or "borehole" in result.message
    none = tuple(
        c.replaced(serves=tuple(s for s in c.serves if s != "settlement_long")) for c in project.actions.combinations
    )
    unserved = project.replaced(actions=project.actions.replaced(combinations=none))
    found = solved_raft(bench_of(unserved), unserved, "concrete")
    assert isinstance(found, str)
    assert "settlement long" in found


@pytest.mark.long
def test_the_iteration_ends_close() -> None:
    for project in (deep(), deep(side_x=9.0, side_y=3.0, modulus=3e7), on_strata(raft(thickness=0.3))):
        pad = project.pads[0]
        bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
        found = solved_raft(bench, project, "settlement_long")
        assert isinstance(found, SolvedRaft)
        out = float(found.source.split("differ by ")[1].split(" %")[0]) / 100
        assert out <= CLOSE + 5e-4


@pytest.mark.long
@pytest.mark.parametrize("ground", ["springs", "layers"])
def test_kept_plates_notice_when_things_are_built(ground: str) -> None:
    """Dates of the construction steps change what the ground has settled and creeps: warm is cold."""
    project = lindmere()
    pad = project.pad("R1")
    assert pad.plate is not None
    on = pad.replaced(plate=pad.plate.replaced(ground=ground, mesh=COARSE))
    project = project.replaced(pads=(on,), straps=())
    first, *others, last = project.actions.steps
    assert first.date is not None
    assert last.date is not None
    later = datetime.timedelta(days=9000)

    def found(steps: tuple[ConstructionStep, ...]) -> dict[str, float]:
        changed = project.replaced(actions=project.actions.replaced(steps=steps))
        return {c.check.id: c.ratio or 0.0 for c in evaluate(changed).pads[0].checks}

    as_is = found(project.actions.steps)
    for steps in (
        (first, *others, last.replaced(date=last.date + later)),
        (first.replaced(date=first.date - later), *others, last),
    ):
        warm = found(steps)
        forget_all()
        cold = found(steps)
        assert warm == pytest.approx(cold, rel=1e-9)
        assert warm["raft-slope"] != pytest.approx(as_is["raft-slope"], rel=1e-6)
        found(project.actions.steps)


@pytest.mark.long
def test_strength_is_looked_at_on_the_strata_at_once_and_in_the_end() -> None:
    """Clay that takes its time is stiffer at once; where its undrained modulus is not known that is said."""
    project = on_strata(raft(), mesh=COARSE)
    (soil,) = project.ground.soils
    clay = soil.replaced(
        compression="oedometer",
        compression_ratio=0.12,
        recompression_share=0.2,
        overconsolidation_ratio=1.5,
        undrained_modulus=25_000.0,
    )

    def with_soil(one: object) -> Project:
        return project.replaced(ground=project.ground.replaced(soils=(one,)))

    slow = plate_of(with_soil(clay))
    own = plate_of(project)
    assert len(slow.situations) == 2 * len(own.situations)
    assert "at once" in slow.source
    assert slow.situations.label(1).endswith("long term")
    # undrained, with the plate as it is, first; then the strata in the end: each in equilibrium, the first settles less
    w = slow.settlement[slow.mesh.seen]
    assert (w[:, 0] < w[:, 1]).mean() > 0.95
    force = (slow.plate.points[:, :, None] * slow.solution.pressure).sum(axis=(0, 1))
    assert force == pytest.approx((slow.plate.points[:, :, None] * slow.gross).sum(axis=(0, 1)), rel=1e-6)
    assert ledger_is_working(with_soil(clay)) > 25
    unknown = plate_of(with_soil(clay.replaced(undrained_modulus=None)))
    assert len(unknown.situations) == len(own.situations)
    assert "what comes at once is not looked at: the soil 'ground' has no undrained modulus" in unknown.source
