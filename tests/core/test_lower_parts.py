"""Rafts of which a part lies lower: water below, steps, what is dug out; and weights that act where they are."""

import numpy as np
import pytest
from pydantic import ValidationError

from korbent.app import specs
from korbent.app.session import Session
from korbent.app.tables import TableModel
from korbent.core.evaluate import evaluate
from korbent.core.model.plate import LowerPart, Region, Rib, Thickening
from korbent.core.model.project import Project
from korbent.core.plates.solve import SHAPES
from korbent.core.rafts.layered import cells_of
from korbent.core.rafts.on_strata import strata_and_loads
from korbent.core.settlement.pressing import net_pressure, water_before
from korbent.core.working import SILENT
from korbent.drawing.primitives import Text
from korbent.drawing.raft import raft_drawing
from korbent.drawing.theme import LIGHT
from tests.core.test_polygon_rafts import ELL, shaped
from tests.core.test_rafts import bench_of, plate_of, raft
from tests.invariants.test_whole import ledger_is_working

PIT = LowerPart(x_from=0.6, x_to=2.6, y_from=-1.2, y_to=1.0, drop=1.1)


def wet(project: Project) -> Project:
    """Water above the underside."""
    water = project.ground.water
    assert water is not None
    return project.replaced(ground=project.ground.replaced(water=water.replaced(normal=0.3, high=0.5, low=-0.5)))


def presses_as_its_base(project: Project) -> None:
    """What presses on the plate is N, M_x and M_y of the rigid base."""
    bench, found = bench_of(project), plate_of(project)
    forces = bench.forces(found.situations, SILENT)
    x, y = (v[found.mesh.elements] @ SHAPES.T for v in found.mesh.nodes)
    area = found.plate.points[:, :, None]
    assert (area * found.gross).sum(axis=(0, 1)) == pytest.approx(forces.N[0], rel=1e-6)
    assert (area * found.gross * x[..., None]).sum(axis=(0, 1)) == pytest.approx(forces.My[0], rel=1e-6, abs=1e-4)
    assert (area * found.gross * y[..., None]).sum(axis=(0, 1)) == pytest.approx(-forces.Mx[0], rel=1e-6, abs=1e-4)


@pytest.mark.long
@pytest.mark.parametrize("dry", [True, False], ids=["dry", "wet"])
def test_the_plate_carries_what_the_base_does(dry: bool) -> None:
    thick = Thickening(x_from=-4.6, x_to=-3.0, y_from=-2.4, y_to=0.4, thickness=0.9)
    rib = Rib(name="R1", axis="y", at=-2.0, depth=0.9)
    hole = Region(x_from=3.0, x_to=4.0, y_from=-0.5, y_to=0.5)
    for plate in (
        {"lower": (PIT,)},
        {"thickenings": (thick,)},
        {"ribs": (rib,)},
        {"lower": (PIT,), "thickenings": (thick,), "ribs": (rib,)},
    ):
        project = raft(**plate)  # type: ignore[arg-type]
        presses_as_its_base(project if dry else wet(project))
    ell = shaped(ELL, lower=(PIT.replaced(x_from=-3.0, x_to=-0.6, y_to=1.5),))
    presses_as_its_base(ell if dry else wet(ell))
    del hole


def test_water_weight_and_what_is_dug_out_by_hand() -> None:
    plain, pit = (wet(raft(**p)) for p in ({}, {"lower": (PIT,)}))  # type: ignore[arg-type]
    found = []
    for project in (plain, pit):
        bench = bench_of(project)
        situations = bench.situations("allowable")
        forces = bench.forces(situations, SILENT)
        _, before = net_pressure(bench, water_before(project, bench, situations.water_level), forces.V)
        found.append((forces, np.broadcast_to(before, forces.V.shape), situations))
    (a, before_a, _), (b, before_b, s) = found
    area = 2.0 * 2.2
    # water stands above the underside: 1.1 m more of it
    assert (b.U - a.U)[0] == pytest.approx(s.water_factor * 9.81 * 1.1 * area, rel=1e-3)
    # the step is 0.5 m thick: a ring of 1.1 m height
    ring = area - 1.0 * 1.2
    assert (b.V - a.V)[0] == pytest.approx(s.weight[0] * 25.0 * 1.1 * ring, rel=1e-6)
    # more water at +x takes from the moment, the step adds to it
    x = (0.6 + 2.6) / 2
    assert (b.My - a.My)[0] == pytest.approx(x * ((b.V - a.V) - (b.U - a.U))[0], rel=1e-6)
    # in the mean over the base so much more ground is dug out
    dug = (before_b - before_a)[0] * 9.2 * 4.8 / area
    assert (dug > 1.1 * 15).all()
    assert (dug < 1.1 * 23).all()


@pytest.mark.long
def test_ledger_is_the_working() -> None:
    assert ledger_is_working(wet(raft(lower=(PIT,)))) > 28
    assert ledger_is_working(wet(shaped(ELL, lower=(PIT.replaced(x_from=-3.0, x_to=-0.6, y_to=1.5),)))) > 28


@pytest.mark.long
def test_a_part_that_lies_hardly_lower_changes_hardly_anything() -> None:
    a = evaluate(wet(raft())).pad("P")
    b = evaluate(wet(raft(lower=(PIT.replaced(drop=1e-4),)))).pad("P")
    for one, other in zip(a.checks, b.checks):
        assert one.state is other.state, one.check.id
        if one.ratio is not None:
            by_plate = one.check.group == "concrete" or one.check.id.startswith("raft")
            assert other.ratio == pytest.approx(one.ratio, rel=0.02 if by_plate else 1e-3, abs=1e-6), one.check.id


@pytest.mark.long
def test_the_strata_below_a_pit_settle_alike_however_the_cells_lie_about_it() -> None:
    """As much is relieved as is dug away: not by whole cells."""

    def settled(cells: int, **more: object) -> float:
        found = plate_of(raft(k=None, ground="layers", cells=cells, **more), "settlement_long")  # type: ignore[arg-type]
        weights = found.plate.points
        w = found.solution.pressure[:, :, 0] / found.plate.k[:, None]
        return float((w * weights).sum() / weights.sum())

    deep = PIT.replaced(drop=2.5)
    few = settled(16, lower=(deep,))
    for cells in (20, 24):
        assert settled(cells, lower=(deep,)) == pytest.approx(few, rel=4e-3)
    # less than half of a percent off: by whole cells it was up to two
    assert settled(16) == pytest.approx(few, rel=0.01)


@pytest.mark.parametrize("cells", [12, *(pytest.param(n, marks=pytest.mark.long) for n in (17, 24))])
def test_what_is_dug_for_a_pit_is_what_the_cells_are_relieved_of(cells: int) -> None:
    """Closed form: the weight of the soil that lay in it, however the cells lie about it."""

    def relieved(**more: object) -> float:
        project = raft(k=None, ground="layers", cells=cells, **more)  # type: ignore[arg-type]
        bench = bench_of(project)
        parts = strata_and_loads(bench, project, plate_of(project, "settlement_long").plate)
        return float((parts.strata.before * parts.cells.area).sum())

    x0, x1, y0, y1 = PIT.box
    soil = raft().ground.soils[0].weight
    dug = relieved(lower=(PIT,)) - relieved()
    assert dug == pytest.approx(soil * PIT.drop * (x1 - x0) * (y1 - y0), rel=1e-6)


def test_cells_share_a_pit_by_what_lies_within_it() -> None:
    found = plate_of(raft(k=None, ground="layers", lower=(PIT,)), "settlement_long")
    x0, x1, y0, y1 = PIT.box
    for along in (12, 17, 24):
        cells = cells_of(found.mesh, along)
        shares = cells.within(PIT.box)
        assert (shares * cells.size_x * cells.size_y).sum() == pytest.approx((x1 - x0) * (y1 - y0), rel=1e-9)
        assert shares.min() >= 0.0
        assert shares.max() <= 1.0 + 1e-12


def test_what_cannot_be_is_said() -> None:
    for plate, words in (
        ({"lower": (PIT.replaced(x_to=9.0),)}, "lower part 1 reaches over the edge"),
        ({"lower": (PIT.replaced(wall=0.3),)}, "less than the raft"),
        ({"lower": (PIT.replaced(x_to=1.4),)}, "no room within its step"),
        ({"lower": (PIT, PIT.replaced(x_to=4.0))}, "two lower parts"),
        ({"lower": (PIT,), "openings": (Region(x_from=1.0, x_to=2.0, y_from=0.0, y_to=0.5),)}, "opening lie over"),
        ({"lower": (PIT,), "ribs": (Rib(name="R1", axis="x", at=0.0, depth=0.9),)}, "runs over lower part 1"),
    ):
        with pytest.raises(ValidationError, match=words):
            raft(**plate)  # type: ignore[arg-type]
    with pytest.raises(ValidationError, match="outline of the raft"):
        shaped(ELL, lower=(PIT.replaced(x_from=0.0, x_to=3.0),))


def test_it_is_typed_in_the_table_of_rafts_and_drawn() -> None:
    session = Session(raft())
    model = TableModel(session, specs.RAFTS, LIGHT)
    column = next(k for k, c in enumerate(model.columns) if c.title == "Lower parts")
    cell = model.index(0, column)
    assert model.setData(cell, "0.6 to 2.6, -1.2 to 1: 1.1; -3 to -1, -1 to 1: 0.8 step 0.6")
    plate = session.project.pad("P").plate
    assert plate is not None
    assert [(p.drop, p.wall) for p in plate.lower] == [(1.1, None), (0.8, 0.6)]
    model.refresh()
    assert model.text(0, column) == "0.6 to 2.6, -1.2 to 1: 1.1; -3 to -1, -1 to 1: 0.8 step 0.6"
    assert not model.setData(cell, "0.6 to 2.6, -1.2 to 1")
    assert "by how much it lies lower" in session.message
    pad = session.project.pad("P")
    drawn = raft_drawing(session.project, pad, evaluate(session.project).pad("P"), "no field")
    assert [t.text for t in drawn.shapes if isinstance(t, Text) and t.text.startswith("−")] == [
        "−1.10 m",
        "−0.80 m",
    ]


@pytest.mark.long
def test_the_perimeter_of_every_column_is_drawn_where_it_governs() -> None:
    from korbent.core.explain.raft_punching import punched

    for standard in ("EN 1992-1-1:2004", "ACI 318-19"):
        project = raft()
        project = project.replaced(standards=project.standards.replaced(concrete=standard))
        pad = project.pads[0]
        found = {p.name: p for p in punched(project, pad)}
        assert set(found) == {"C", *(f"C{i}" for i in range(1, 6))}
        check = evaluate(project).pad("P").check("punching")
        worst = max(found.values(), key=lambda p: p.ratio)
        assert worst.ratio == pytest.approx(check.ratio)
        assert check.message.startswith(worst.name)
        # a closed one, or where it would leave the raft one line from edge to edge
        for one in found.values():
            assert len(one.lines) == 1
            first, last = one.lines[0][0], one.lines[0][-1]
            for x, y in () if first == pytest.approx(last) else (first, last):
                assert min(4.6 - abs(x), 2.4 - abs(y)) == pytest.approx(0.0, abs=1e-6)
            assert all(pad.holds(x, y) for x, y in one.lines[0])
        assert any(p.lines[0][0] != pytest.approx(p.lines[0][-1]) for p in found.values()) == standard.startswith("EN")
    thick = Thickening(x_from=-0.6, x_to=0.6, y_from=-2.4, y_to=-1.2, thickness=0.8)
    both = {p.name for p in punched(*with_first(raft(thickenings=(thick,))))}
    assert "thickening below C1" in both


def with_first(project: Project):  # type: ignore[no-untyped-def]
    return project, project.pads[0]
