"""Rafts: their plate against the rigid base, equilibrium, mirror images, regions, what cannot be, files and the
working."""

from pathlib import Path

import numpy as np
import pytest
from pydantic import ValidationError

from korbent.core.bench import bench_for
from korbent.core.checks import State
from korbent.core.concrete.schedule import lap_of, schedule, weight_of
from korbent.core.evaluate import evaluate
from korbent.core.evaluate.road import slow_depends_on
from korbent.core.evaluate.slow import computed, known_now, later
from korbent.core.explain.raft import FIELDS, Field, Transect, raft_field, transect
from korbent.core.geometry import table
from korbent.core.model import Bars, Load, LoadPoint, Pad, Pedestal, Project, Reinforcement, edited
from korbent.core.model.plate import AddedBars, Plate, RaftLoad, Region, SubgradeZone, Thickening
from korbent.core.rafts.bars import demands_of, provided_at
from korbent.core.rafts.ground_checks import neighbours_of
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.core.sizing.first_size import raft_under
from korbent.core.sizing.propose import proposal
from korbent.core.working import SILENT
from korbent.files.project_file import load, save
from korbent.verification.pad import one_pad
from tests.invariants.test_whole import ledger_is_working

BARS = Bars(diameter=0.016, spacing=0.15)
EVERYWHERE = Reinforcement(bottom_x=BARS, bottom_y=BARS, top_x=BARS, top_y=BARS)


def raft(
    thickness: float = 0.5,
    k: float | None = 2e4,
    loads: tuple[float, ...] = (420, 520, 460, 610, 380, 500),
    **plate: object,
) -> Project:
    """Six columns, 4 m by 3.6 m apart, on 9.2 m x 4.8 m; combination 1 serves everything."""
    project = one_pad(
        load=Load(V=loads[0], My=12.0),
        offset_x=-4.0,
        offset_y=-1.8,
        width=9.2,
        length=4.8,
        thickness=thickness,
        level=-1.2,
    )
    first = project.actions.load_points[0]
    first = first.replaced(loads={"G": Load(V=loads[0], My=12.0)})
    points = [first]
    for i, V in enumerate(loads[1:], 1):
        x, y = 4.0 * (i % 3), 3.6 * (i // 3)
        points.append(
            LoadPoint(
                name=f"C{i}",
                x=first.x + x,
                y=first.y + y,
                size_x=0.4,
                size_y=0.4,
                level=first.level,
                loads={"G": Load(V=V, My=12.0)},
            )
        )
    pad = project.pads[0].replaced(
        kind="raft",
        plate=Plate(subgrade=k, **plate),
        further=tuple(p.name for p in points[1:]),
        reinforcement=EVERYWHERE,
        pedestal=None,
    )  # type: ignore[arg-type]
    combinations = tuple(c.replaced(serves=tuple({*c.serves, "cracks"})) for c in project.actions.combinations)
    return project.replaced(
        actions=project.actions.replaced(load_points=tuple(points), combinations=combinations), pads=(pad,)
    )


def bench_of(project: Project):  # type: ignore[no-untyped-def]
    pad = project.pads[0]
    return bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))


def plate_of(project: Project, question: str = "concrete") -> SolvedRaft:
    found = solved_raft(bench_of(project), project, question)
    assert isinstance(found, SolvedRaft), found
    return found


def test_loads_and_reactions_are_those_of_the_base() -> None:
    """What presses on the plate is the N, M_x and M_y of the rigid base; the ground gives it back."""
    project = raft()
    bench, found = bench_of(project), plate_of(project)
    forces = bench.forces(found.situations, SILENT)
    area = found.plate.plates.weights()[:, :, None]
    x, y = (v[found.mesh.elements] for v in found.mesh.nodes)
    shapes = np.stack(
        [
            (1 + sx * u / 3**0.5) * (1 + sy * v / 3**0.5) / 4
            for u, v in ((-1, -1), (1, -1), (1, 1), (-1, 1))
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        ]
    ).reshape(4, 4)
    at_x, at_y = x @ shapes.T, y @ shapes.T
    assert (area * found.gross).sum(axis=(0, 1)) == pytest.approx(forces.N[0], rel=1e-9)
    assert (area * found.gross * at_x[..., None]).sum(axis=(0, 1)) == pytest.approx(forces.My[0], rel=1e-9, abs=1e-6)
    assert (area * found.gross * at_y[..., None]).sum(axis=(0, 1)) == pytest.approx(-forces.Mx[0], rel=1e-9, abs=1e-6)
    assert (area * found.solution.pressure).sum(axis=(0, 1)) == pytest.approx(forces.N[0], rel=1e-8)


def test_a_very_stiff_raft_presses_as_the_rigid_base() -> None:
    project = raft(thickness=3.0, k=500.0, modulus=9e7)
    project = project.replaced(pads=(project.pads[0].replaced(level=-3.6),))
    bench = bench_of(project)
    found = solved_raft(bench, project, "allowable")
    assert isinstance(found, SolvedRaft)
    forces = bench.forces(found.situations, SILENT)
    contact = bench.geometry.footprint.contact(forces.N, forces.Mx, forces.My)
    x, y = found.mesh.nodes
    for j in range(len(found.situations)):
        plane = (
            contact.pressure_at(x[:, None], y[:, None])[:, j]
            if contact.a.shape[0] > 1
            else (contact.a + contact.b * x[:, None] + contact.c * y[:, None])[:, j]
        )
        inside = ~np.isnan(found.pressure[:, j])
        # at the nodes of the edge the mean of the points beside it
        assert found.pressure[inside, j] == pytest.approx(plane[inside], rel=2.5e-2)
        middle = inside & (np.abs(x) < 4.0) & (np.abs(y) < 2.0)
        assert found.pressure[middle, j] == pytest.approx(plane[middle], rel=5e-3)


@pytest.mark.long
def test_ledger_is_the_working() -> None:
    assert ledger_is_working(raft()) > 25
    assert (
        ledger_is_working(raft(thickenings=(Thickening(x_from=-0.8, x_to=0.8, y_from=-2.4, y_to=-1.0, thickness=0.7),)))
        > 25
    )


def test_the_mirror_image_has_the_mirrored_results() -> None:
    loads = (420.0, 520.0, 460.0, 610.0, 380.0, 500.0)
    mirrored = (*loads[3:], *loads[:3])
    a, b = (evaluate(raft(loads=v)).pad("P") for v in (loads, mirrored))
    # moments of the columns act about y: they are the same in both
    for one, other in zip(a.checks, b.checks):
        assert one.state is other.state, one.check.id
        if one.ratio is not None and one.check.group == "concrete":
            assert one.ratio == pytest.approx(other.ratio, rel=1e-6), one.check.id


@pytest.mark.long
def test_thicker_below_a_column_helps_it_against_punching() -> None:
    plain = evaluate(raft(thickness=0.35)).pad("P").check("punching")
    box = {"x_from": -4.6, "x_to": -3.0, "y_from": 1.0, "y_to": 2.4}
    assert plain.ratio is not None
    everywhere = tuple(
        Thickening(x_from=x - 0.6, x_to=x + 0.6, y_from=y - 0.6, y_to=y + 0.6, thickness=0.7)
        for x in (-4.0, 0.0, 4.0)
        for y in (-1.8, 1.8)
    )
    thick = evaluate(raft(thickness=0.35, thickenings=everywhere)).pad("P").check("punching")
    one = evaluate(raft(thickness=0.35, thickenings=(Thickening(**box, thickness=0.7),))).pad("P").check("punching")
    assert thick.ratio is not None
    assert one.ratio is not None
    assert thick.ratio < 0.75 * plain.ratio  # what stands on them may punch through the thinner raft around them
    assert one.ratio <= plain.ratio * 1.05


@pytest.mark.long
def test_a_thickening_that_hardly_reaches_beyond_its_columns_helps_hardly() -> None:
    def with_reach(reach: float) -> Project:
        boxes = tuple(
            Thickening(x_from=x - reach, x_to=x + reach, y_from=y - reach, y_to=y + reach, thickness=0.8)
            for x in (-4.0, 0.0, 4.0)
            for y in (-1.8, 1.8)
        )
        return raft(thickness=0.35, thickenings=boxes)

    plain = evaluate(raft(thickness=0.35)).pad("P")
    small, large = (evaluate(with_reach(r)).pad("P") for r in (0.22, 0.55))
    for name in ("punching", "shear-x", "shear-y"):
        bare, little, much = (f.check(name).ratio for f in (plain, small, large))
        assert bare is not None
        assert little is not None
        assert much is not None
        assert little == pytest.approx(bare, rel=0.12), name
        assert much < bare, name
    assert "thickening below" in evaluate(with_reach(0.3)).pad("P").check("punching").message


def test_an_opening_beside_a_column_takes_of_its_perimeter() -> None:
    free = evaluate(raft()).pad("P")
    hole = evaluate(raft(openings=(Region(x_from=0.4, x_to=1.8, y_from=-2.0, y_to=-0.6),))).pad("P")
    # C1 stands at (0, -1.8): the opening is 0.2 m from its face
    assert (hole.check("punching").ratio or 0) > (free.check("punching").ratio or 0)


def test_added_bars_count_in_their_region_only() -> None:
    region = AddedBars(
        x_from=-1.0, x_to=1.0, y_from=-2.4, y_to=2.4, face="bottom_x", bars=Bars(diameter=0.020, spacing=0.15)
    )
    project = raft(added=(region,))
    found = plate_of(project)
    there = provided_at(found, "bottom_x")
    x, _ = found.mesh.nodes
    basic = np.pi * 8**2 / 0.15
    assert there[np.abs(x) > 1.01] == pytest.approx(basic)
    assert there[np.abs(x) < 0.99] == pytest.approx(basic + np.pi * 10**2 / 0.15)
    assert provided_at(found, "bottom_y") == pytest.approx(basic)


def test_a_load_on_a_region_acts_on_plate_and_ground_alike() -> None:
    project = raft()
    case = project.actions.cases[0].name
    loaded = raft(loads=(420, 520, 460, 610, 380, 500)).pads[0]
    plate = loaded.plate.replaced(
        loads=(RaftLoad(x_from=1.0, x_to=3.0, y_from=-1.0, y_to=1.0, case=case, pressure=50.0),)
    )  # type: ignore[union-attr]
    more = project.replaced(pads=(loaded.replaced(plate=plate),))
    a, b = plate_of(project), plate_of(more)
    forces = [bench_of(p).forces(f.situations, SILENT) for p, f in ((project, a), (more, b))]
    factor = a.situations.factors[:, a.situations.cases.index(case)]
    assert forces[1].N[0] - forces[0].N[0] == pytest.approx(factor * 200.0)
    assert forces[1].My[0] - forces[0].My[0] == pytest.approx(factor * 400.0)
    area = b.plate.plates.weights()[:, :, None]
    assert (area * b.gross).sum(axis=(0, 1)) == pytest.approx(forces[1].N[0], rel=1e-9)


def test_the_ground_gives_the_springs_where_none_is_typed() -> None:
    project = raft(k=None)
    found = plate_of(project, "allowable")
    settled = next(c for c in evaluate(project).pad("P").checks if c.check.id == "settlement")
    bench = bench_of(project)
    situations = bench.situations("settlement_long")
    gross = float((bench.forces(situations, SILENT).V / bench.geometry.area)[0, 0])
    assert settled.demand is not None
    assert found.k == pytest.approx(gross / (settled.demand / 1000), rel=1e-6)
    assert "strata" in found.source


def test_fields_and_transects() -> None:
    project = raft()
    pad = project.pads[0]
    for name, (unit, _) in FIELDS.items():
        field = raft_field(project, pad, name, "")
        assert isinstance(field, Field)
        assert field.unit == unit
        value = field.at(0.1, 0.2)
        assert value is not None
        assert field.at(9.0, 0.0) is None
    cut = transect(project, pad, "x", 1.8, 1.0)
    assert isinstance(cut, Transect)
    envelope = raft_field(project, pad, "m_x", "")
    assert isinstance(envelope, Field)
    assert np.nanmax(cut.most) <= np.nanmax(envelope.values) + 1e-9
    assert (cut.most >= cut.least - 1e-9).all()
    # means over the band of the fields themselves
    for name, most in (("pressure", cut.pressure_most), ("settlement", cut.settled_most)):
        field = raft_field(project, pad, name, "")
        assert isinstance(field, Field)
        for x in (-3.0, 0.4, 2.7):
            own = np.interp(x, cut.places, most)
            across = [field.at(x, y) for y in np.linspace(1.3, 2.3, 41)]
            assert own == pytest.approx(np.mean(across), rel=0.03)  # type: ignore[arg-type]
    # the shear is the slope of the moment, less the twist across it: in the middle of a raft loaded evenly along y little
    assert (cut.shear_most >= cut.shear_least - 1e-9).all()
    assert np.nanmax(np.abs(cut.shear_most)) > 20.0


def test_neighbours_of_columns_on_a_grid() -> None:
    places = np.array([(x, y) for x in (0.0, 4.0, 8.0) for y in (0.0, 5.0)])
    pairs = neighbours_of(places)
    lengths = sorted(round(float(np.hypot(*(places[i] - places[j]))), 6) for i, j in pairs)
    assert lengths == [4.0] * 4 + [5.0] * 3


# computed later, elsewhere


def test_put_off_the_checks_say_so_and_come_back_the_same() -> None:
    project = raft(thickness=0.47)
    whole = evaluate(raft(thickness=0.47)).pad("P")
    with later() as waiting:
        first = evaluate(project).pad("P")
    assert waiting == ["P"]
    assert first.check("presumed-pressure").state is whole.check("presumed-pressure").state
    assert {c.state for c in first.checks if c.check.id in ("punching", "bottom-x")} <= {State.COMPUTING}
    assert not State.COMPUTING.is_good
    found = computed(raft(thickness=0.47), "P")
    known_now(project, "P", slow_depends_on(project, project.pads[0]), found)
    with later() as waiting:
        then = evaluate(project).pad("P")
    assert waiting == []
    for a, b in zip(then.checks, whole.checks):
        assert (a.check.id, a.state, a.ratio) == (
            b.check.id,
            b.state,
            pytest.approx(b.ratio) if b.ratio is not None else None,
        )


# making and keeping


def test_a_raft_is_made_under_columns_and_takes_the_place_of_their_pads() -> None:
    project = raft()
    points = project.actions.load_points
    project = project.replaced(
        pads=(Pad(name="Q", load_point=points[2].name, width=2.0, length=2.0, thickness=0.5, level=-1.2),)
    )
    made, found = raft_under(project, tuple(p.name for p in points))
    assert [p.name for p in made.pads] == ["R1"]
    assert found.pad.kind == "raft"
    assert set(found.pad.carries) == {p.name for p in points}
    assert found.pad.width == pytest.approx(8.0 + 0.4 + 1.2, abs=0.051)
    with pytest.raises(ValueError, match="two columns"):
        raft_under(project, (points[0].name,))
    assert "by hand" in proposal(made, made.pads).remark


def test_a_file_keeps_it(tmp_path: Path) -> None:
    project = raft(
        openings=(Region(x_from=1.0, x_to=2.0, y_from=-0.5, y_to=0.5),),
        added=(AddedBars(x_from=-1.0, x_to=1.0, y_from=-2.0, y_to=2.0, face="top_y", bars=BARS),),
        thickenings=(Thickening(x_from=-4.6, x_to=-3.4, y_from=-2.4, y_to=-1.2, thickness=0.8),),
    )
    save(project, tmp_path / "raft.korbent")
    assert load(tmp_path / "raft.korbent") == project


@pytest.mark.parametrize(
    ("plate", "words"),
    [
        ({"openings": (Region(x_from=4.0, x_to=5.0, y_from=0.0, y_to=1.0),)}, "reaches over the edge"),
        (
            {"thickenings": (Thickening(x_from=0.0, x_to=1.0, y_from=0.0, y_to=1.0, thickness=0.4),)},
            "no more than the raft",
        ),
        (
            {
                "openings": (
                    Region(x_from=0.0, x_to=1.0, y_from=0.0, y_to=1.0),
                    Region(x_from=0.5, x_to=1.5, y_from=0.5, y_to=1.5),
                )
            },
            "over each other",
        ),
    ],
)
def test_regions_that_cannot_be(plate: dict[str, object], words: str) -> None:
    with pytest.raises(ValidationError, match=words):
        raft(**plate)  # type: ignore[arg-type]


def test_numbers_that_cannot_be() -> None:
    for changes in ({"subgrade": 0.0}, {"subgrade": -5.0}, {"mesh": 0.0}):
        with pytest.raises(ValidationError):
            Plate(**changes)  # type: ignore[arg-type]
    with pytest.raises(ValidationError, match="lesser to a greater"):
        Region(x_from=1.0, x_to=1.0, y_from=0.0, y_to=1.0)
    with pytest.raises(ValidationError, match="no load case 'none'"):
        raft(loads_=()) if False else edited(
            raft(),
            ("pads", "P", "plate"),
            Plate(
                subgrade=2e4,
                loads=(RaftLoad(x_from=0.0, x_to=1.0, y_from=0.0, y_to=1.0, case="none", pressure=1.0),),
            ),
        )
    with pytest.raises(ValidationError, match="a raft has its plate"):
        raft().pads[0].replaced(plate=None)


def test_a_raft_that_floats_up_is_unstable() -> None:
    project = raft(loads=(-900.0,) * 6)
    result = evaluate(project).pad("P")
    assert result.check("bottom-x").state is State.UNSTABLE
    assert result.check("bottom-x").ratio is None
    assert "floats" in result.check("bottom-x").message


def test_pedestals_on_a_raft_are_checked_like_those_on_a_pad() -> None:
    """Of a raft the columns are the same: its pedestals and their bars have the same ratios as on a rigid base."""
    project = raft()
    plinth = Pedestal(size_x=0.5, size_y=0.5, top=project.pads[0].top + 0.6)
    pad = project.pads[0].replaced(pedestal=plinth, pedestals=dict.fromkeys(project.pads[0].further, plinth))
    whole = project.replaced(pads=(pad,))
    rigid = whole.replaced(pads=(pad.replaced(kind="pad", plate=None),))
    of_raft, of_pad = (
        {c.check.id: c.ratio for c in evaluate(p).pad("P").checks if c.check.id.startswith("pedestal")}
        for p in (whole, rigid)
    )
    assert of_raft["pedestal"] is not None
    assert of_raft == of_pad
    assert ledger_is_working(whole) > 25


def test_added_bars_are_in_the_schedule_with_a_lap_beyond_their_region() -> None:
    bars = Bars(diameter=0.012, spacing=0.15)
    inside = AddedBars(x_from=-1.0, x_to=1.2, y_from=-0.9, y_to=0.9, face="top_x", bars=bars)
    to_edge = AddedBars(x_from=1.0, x_to=2.0, y_from=-2.4, y_to=2.4, face="bottom_y", bars=bars)
    project = raft(added=(inside, to_edge))
    pad = project.pads[0]
    cover = project.settings_of(pad).concrete_cover
    found = {where: (bar, n) for bar in schedule(project) for _, where, n in bar.where if where.startswith("added")}
    lap = lap_of(project, pad, 0.012)
    bar, n = found["added top x"]
    assert (bar.length, n) == (pytest.approx(2.2 + 2 * lap, abs=0.0051), 12)
    bar, n = found["added bottom y"]
    assert (bar.length, n) == (pytest.approx(4.8 - 2 * cover, abs=0.0051), 7)
    assert weight_of(project, pad) > weight_of(raft(), pad.replaced(plate=raft().pads[0].plate))


def regions(project: Project) -> Project:
    """A raft of 9.2 m x 4.8 m with an opening, a thickening to an edge, added bars right across and a loaded region."""
    pad = project.pads[0]
    assert pad.plate is not None
    plate = pad.plate.replaced(
        openings=(Region(x_from=-2.8, x_to=-1.2, y_from=-0.6, y_to=0.6),),
        thickenings=(Thickening(x_from=3.2, x_to=4.6, y_from=-2.4, y_to=-1.0, thickness=0.9),),
        added=(AddedBars(x_from=-1.0, x_to=1.5, y_from=-2.4, y_to=2.4, face="top_x", bars=BARS),),
        loads=(RaftLoad(case="G", pressure=5.0, x_from=-0.5, x_to=0.5, y_from=-0.5, y_to=0.5),),
    )
    return project.replaced(pads=(pad.replaced(plate=plate),))


@pytest.mark.parametrize("hold", ["middle", "-x", "+x"])
def test_regions_stay_at_their_columns_and_what_reaches_to_an_edge_goes_on_to_it(hold: str) -> None:
    pad = regions(raft()).pads[0].replaced(hold_x=hold)
    grown = pad.resized(width=pad.width + 1.0, length=pad.length + 0.6)
    plate, new = pad.plate, grown.plate
    assert plate is not None
    assert new is not None
    shift = grown.offset_x - pad.offset_x
    assert shift == pytest.approx({"middle": 0.0, "-x": -0.5, "+x": 0.5}[hold])
    # from the column all is where it was
    for a, b in ((plate.openings[0], new.openings[0]), (plate.loads[0], new.loads[0])):
        assert b.x_from - grown.offset_x == pytest.approx(a.x_from - pad.offset_x)
        assert b.y_to == a.y_to
    # bars right across go on to both edges, the thickening to its corner
    assert (new.added[0].y_from, new.added[0].y_to) == pytest.approx((-2.7, 2.7))
    assert new.added[0].x_from == pytest.approx(-1.0 + shift)
    thick = new.thickenings[0]
    assert (thick.x_to, thick.y_from) == pytest.approx((grown.width / 2, -2.7))
    assert thick.x_from == pytest.approx(3.2 + shift)
    # and back again
    assert grown.resized(width=pad.width, length=pad.length).plate == plate


def test_a_dragged_edge_leaves_the_regions_where_they_are() -> None:
    pad = regions(raft()).pads[0]
    moved = pad.with_edge("+x", pad.edge("+x") + 0.8)
    assert pad.plate is not None
    assert moved.plate is not None
    assert moved.plate.openings[0].x_from - moved.offset_x == pytest.approx(pad.plate.openings[0].x_from - pad.offset_x)
    assert moved.plate.thickenings[0].x_to == pytest.approx(moved.width / 2)


def test_a_raft_that_gets_smaller_takes_its_regions_along_as_far_as_they_fit() -> None:
    pad = regions(raft()).pads[0]
    smaller = pad.resized(length=4.2)
    assert smaller.plate is not None
    assert smaller.plate.added[0].y_to == pytest.approx(2.1)
    with pytest.raises(ValidationError, match="opening 1 reaches over the edge"):
        pad.replaced(
            plate=pad.plate.replaced(openings=(Region(x_from=-2.8, x_to=-1.2, y_from=1.2, y_to=2.2),))
        ).resized(length=4.2)  # type: ignore[union-attr]


def test_zones_of_springs() -> None:
    """A zone all over is one k; a soft half settles more; of two that overlap the later counts; none reaches over the
    edge."""
    project = raft(k=2e4)
    pad = project.pads[0]

    def zoned(*zones: tuple[float, float, float]) -> Project:
        made = tuple(SubgradeZone(x_from=a, x_to=b, y_from=-2.4, y_to=2.4, subgrade=k) for a, b, k in zones)
        return project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(zones=made)),))  # type: ignore[union-attr]

    one = plate_of(raft(k=5e3))
    all_over = plate_of(zoned((-4.6, 4.6, 5e3)))
    assert all_over.solution.settlement == pytest.approx(one.solution.settlement, rel=1e-9)
    soft = plate_of(zoned((0.0, 4.6, 5e3)))
    x, _ = soft.mesh.nodes
    w = soft.solution.settlement[:, 0]
    used = soft.mesh.used
    assert w[used & (x > 1.0)].mean() > 1.5 * w[used & (x < -1.0)].mean()
    assert soft.k == pytest.approx((2e4 + 5e3) / 2, rel=1e-9)
    assert "1 zones" not in soft.source
    later = plate_of(zoned((-4.6, 4.6, 9e3), (0.0, 4.6, 5e3)))
    elements, _ = later.mesh.middles
    assert set(later.plate.k[elements > 0]) == {5e3}
    assert set(later.plate.k[elements < 0]) == {9e3}
    with pytest.raises(ValidationError, match="zone of springs 1 reaches over the edge"):
        zoned((0.0, 6.0, 5e3))
    assert ledger_is_working(zoned((0.0, 4.6, 5e3))) > 25


@pytest.mark.parametrize(
    ("standard", "strength", "depth"),
    [
        # alpha_ct,pl f_ctk,0.05/gamma_C over 0.85 h (12.3.1, 12.9.3); 5 sqrt(f'c) psi by phi 0.6; of C30, worked by hand, MPa
        ("EN 1992-1-1:2004", 0.8 * 0.7 * 0.3 * 30 ** (2 / 3) / 1.5, 0.85 * 0.5),
        ("ACI 318-19", 0.6 * 5 * (30 * 145.0377) ** 0.5 / 145.0377, 0.5),
    ],
)
def test_the_top_of_a_raft_without_bars_there_is_plain_concrete(standard: str, strength: float, depth: float) -> None:
    """As in a pad: the greatest moment that pulls the top, as a stress of the whole section, over the strength."""
    project = raft(thickness=0.5)
    below = Reinforcement(bottom_x=Bars(diameter=0.020, spacing=0.15), bottom_y=Bars(diameter=0.020, spacing=0.15))
    project = project.replaced(
        standards=project.standards.replaced(concrete=standard),
        settings=project.settings.replaced(cast_against="blinding"),
        pads=(project.pads[0].replaced(reinforcement=below),),
    )
    bench, found, result = bench_of(project), plate_of(project), evaluate(project).pads[0]
    for axis in "xy":
        (one,) = demands_of(bench, found, "top", axis)
        stress = 6 * np.nanmax(one.moment) / depth**2 / 1000
        check = result.check(f"top-{axis}")
        assert check.ratio == pytest.approx(stress / strength, rel=1e-3)
        assert "plain concrete" in check.message
    assert ledger_is_working(project) > 20
    thin = raft(thickness=0.35)
    bare = evaluate(thin.replaced(pads=(thin.pads[0].replaced(reinforcement=below),))).pads[0].check("top-x")
    assert bare.state is State.FAILS
    assert "more tension than plain concrete carries" in bare.message


@pytest.mark.long
def test_crept_concrete_is_softer_concrete_beside_the_other() -> None:
    """Both halves are the plates with one or the other modulus; what lasts is looked at with the softer one alone."""
    project = raft(thickness=0.35)
    pad = project.pads[0]
    E = plate_of(project, "concrete").plate.E

    def with_(**changes: object) -> Project:
        return project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(**changes)),))  # type: ignore[union-attr]

    both = plate_of(with_(creep=1.5), "concrete")
    n = len(both.situations) // 2
    early, late = plate_of(with_(modulus=E), "concrete"), plate_of(with_(modulus=E / 2.5), "concrete")
    for half, other in ((slice(0, n), early), (slice(n, None), late)):
        assert both.solution.settlement[:, half] == pytest.approx(other.solution.settlement, rel=1e-9, abs=1e-12)
        for name in ("m_x", "m_xy", "v_y"):
            mine, theirs = getattr(both.fields[0], name)[:, half], getattr(other.fields[0], name)
            assert mine == pytest.approx(theirs, rel=1e-6, abs=1e-6, nan_ok=True), name
    assert both.situations.label(n) == f"{both.situations.label(0)} long term"
    lasting = plate_of(with_(creep=1.5), "settlement_long")
    assert len(lasting.situations) == n
    assert lasting.solution.settlement == pytest.approx(
        plate_of(with_(modulus=E / 2.5), "settlement_long").solution.settlement
    )
    worst = {c.check.id: c.ratio for c in evaluate(with_(creep=1.5)).pads[0].checks if c.ratio is not None}
    for name in ("bottom-x", "top-y", "shear-x", "punching", "raft-slope"):
        of_both = [
            next(c.ratio for c in evaluate(with_(modulus=m)).pads[0].checks if c.check.id == name) for m in (E, E / 2.5)
        ]
        expected = of_both[1] if name == "raft-slope" else max(of_both)  # type: ignore[type-var]
        assert worst[name] == pytest.approx(expected, rel=1e-6), name
    assert ledger_is_working(with_(creep=1.5)) > 20


def test_checks_of_the_whole_say_that_they_leave_out_the_openings() -> None:
    hole = Region(x_from=1.0, x_to=3.0, y_from=-1.0, y_to=1.0)
    with_hole, plain = (
        evaluate(p).pads[0].check("presumed-pressure").message for p in (raft(openings=(hole,)), raft())
    )
    assert "its openings (9 %) left out: the plate counts them" in with_hole
    assert "openings" not in plain
