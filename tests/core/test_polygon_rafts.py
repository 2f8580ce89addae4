"""Rafts whose outline is a polygon: against the same raft as a rectangle, on another mesh, turned and mirrored."""

import numpy as np
import pytest
from pydantic import ValidationError

from korbent.core.evaluate import evaluate
from korbent.core.model.plate import Plate, RaftLoad, Region, Rib, Thickening
from korbent.core.model.project import Project
from korbent.core.plates.mesh import mesh_of
from korbent.core.plates.outline_mesh import UnmeshedError, outline_mesh_of
from korbent.core.plates.recover import fields_of
from korbent.core.plates.solve import SHAPES, PlateOnSprings
from korbent.core.working import SILENT
from korbent.files.project_file import ProjectFileError, load, save
from tests.core.test_rafts import bench_of, plate_of, raft
from tests.invariants.test_whole import ledger_is_working

# an ell under five of the six columns, its wing to the north on the left
ELL = ((-4.6, -2.4), (4.6, -2.4), (4.6, 0.2), (0.9, 0.2), (0.9, 2.4), (-4.6, 2.4))
SKEW = ((-4.6, -2.4), (4.6, -2.4), (5.4, 2.4), (0.0, 3.0), (-4.6, 2.4))


def shaped(corners: tuple[tuple[float, float], ...], k: float | None = 2e4, **plate: object) -> Project:
    project = raft(k=k)
    pad = project.pads[0]
    assert pad.plate is not None
    pad = pad.replaced(plate=pad.plate.replaced(**plate))
    if corners is ELL:  # without the column in the notch
        pad = pad.replaced(further=tuple(n for n in pad.further if n != "C5"))
    return project.replaced(pads=(pad.replaced(outline=corners),))


@pytest.mark.long
def test_a_rectangle_given_by_its_corners_is_the_rectangle() -> None:
    plain = raft()
    pad = plain.pads[0].replaced(shape="polygon")
    assert pad.outline == ((-4.6, -2.4), (4.6, -2.4), (4.6, 2.4), (-4.6, 2.4))
    a, b = (evaluate(p).pad("P") for p in (plain, plain.replaced(pads=(pad,))))
    for one, other in zip(a.checks, b.checks):
        assert one.state is other.state, one.check.id
        if one.ratio is None or other.ratio is None:
            continue
        # the ground sees the same base; the plate is on another mesh, whose shears differ most
        by_plate = one.check.group == "concrete" or one.check.id in ("raft-pressure", "raft-slope")
        close = (0.06 if one.check.id.startswith("shear") else 0.04) if by_plate else 1e-6
        assert other.ratio == pytest.approx(one.ratio, rel=close, abs=1e-9), one.check.id


@pytest.mark.long
def test_a_turned_rectangle_is_the_polygon_of_its_turned_corners() -> None:
    """The same raft in the plan, once by its rotation and once by its corners: pressures, slopes and punching are the
    same."""
    turn = np.deg2rad(30.0)
    c, s = np.cos(turn), np.sin(turn)
    project = raft()
    first = project.actions.load_points[0]

    def at(x: float, y: float) -> tuple[float, float]:
        return round(c * x - s * y, 9), round(s * x + c * y, 9)

    points = tuple(
        p.replaced(
            x=first.x + at(p.x - first.x, p.y - first.y)[0],
            y=first.y + at(p.x - first.x, p.y - first.y)[1],
            rotation=30.0,
        )
        for p in project.actions.load_points
    )
    # no moments: they act about the axes of the plan
    points = tuple(
        p.replaced(loads={k: v.replaced(Mx=0.0, My=0.0, Hx=0.0, Hy=0.0) for k, v in p.loads.items()}) for p in points
    )
    turned = project.actions.replaced(load_points=points)
    pad = project.pads[0]
    corners = tuple(at(x, y) for x, y in ((-4.6, -2.4), (4.6, -2.4), (4.6, 2.4), (-4.6, 2.4)))
    middle = at(-4.0, -1.8)
    by_angle = project.replaced(actions=turned, pads=(pad.replaced(rotation=30.0),))
    drawn = pad.replaced(offset_x=middle[0], offset_y=middle[1], outline=corners)
    by_corners = project.replaced(actions=turned, pads=(drawn,))
    a, b = (evaluate(p).pad("P") for p in (by_angle, by_corners))
    same = {
        "presumed-pressure": 1e-6,
        "resistance-drained": 1e-6,
        "resistance-undrained": 1e-6,
        "eccentricity": 1e-6,
        "uplift": 1e-6,
        "settlement": 1e-6,
        "raft-pressure": 0.01,
        "raft-slope": 0.01,
    }
    for name, close in same.items():
        assert b.check(name).ratio == pytest.approx(a.check(name).ratio, rel=close), name
    # a column turned against the axes of the polygon is a square along them, nearer to its edges: on the safe side
    both = [r.check("punching").ratio for r in (a, b)]
    assert both[0] is not None
    assert both[1] is not None
    assert both[0] * 0.99 < both[1] < 1.25 * both[0]


def test_loads_and_reactions_are_those_of_the_base() -> None:
    for corners in (ELL, SKEW):
        project = shaped(corners)
        bench, found = bench_of(project), plate_of(project)
        forces = bench.forces(found.situations, SILENT)
        x, y = (v[found.mesh.elements] @ SHAPES.T for v in found.mesh.nodes)
        area = found.plate.points[:, :, None]
        assert area.sum() == pytest.approx(float(bench.geometry.area[0, 0]), rel=1e-9)
        for pressure in (found.gross, found.solution.pressure):
            force = (area * pressure).sum(axis=(0, 1))
            about = [(area * pressure * v[:, :, None]).sum(axis=(0, 1)) for v in (x, y)]
            assert force == pytest.approx(forces.N[0], rel=1e-6)
            assert about[0] == pytest.approx(forces.My[0], rel=1e-6, abs=1e-4)
            assert about[1] == pytest.approx(-forces.Mx[0], rel=1e-6, abs=1e-4)


@pytest.mark.long
def test_an_ell_on_two_meshes_bends_alike() -> None:
    """Once its elements follow the outline, once they lie on lines right across and the notch is an opening at the
    corner."""
    columns = [(x - 0.2, x + 0.2, y - 0.2, y + 0.2) for x, y in ((-4, -1.8), (0, -1.8), (4, -1.8), (-4, 1.8), (0, 1.8))]
    notch = (0.9, 4.6, 0.2, 2.4)
    found = []
    for mesh in (
        mesh_of((-4.6, 4.6, -2.4, 2.4), columns, [notch], 0.2, 0.1),
        outline_mesh_of(ELL, columns, [], 0.2, 0.1),
    ):
        count = len(mesh.elements)
        plate = PlateOnSprings(mesh, np.full(count, 0.5), 3e7, 0.2, np.full(count, 2e4))
        load = np.full((count, 4, 1), 6.0)
        for box, V in zip(columns, (400.0, 520.0, 300.0, 450.0, 350.0)):
            load[mesh.within(box)] += V / 0.16
        solution = plate.solve(plate.load(load))
        (fields,) = fields_of(plate, solution)
        w = mesh.on_places(solution.settlement)
        x = np.array([-2.0, 0.5, 2.0, 4.4, -2.0, 0.0, -4.4, 0.8])
        y = np.array([-1.0, -1.8, -2.2, 0.0, 1.0, 0.5, 2.2, -0.9])
        found.append([mesh.at(v, x, y)[:, 0] for v in (w, fields.m_x, fields.m_y)])
    (w, m_x, m_y), (w2, m_x2, m_y2) = found
    assert w2 == pytest.approx(w, rel=2e-3)
    for one, other in ((m_x, m_x2), (m_y, m_y2)):
        assert other == pytest.approx(one, abs=0.05 * np.abs(one).max())


@pytest.mark.long
def test_the_mirror_image_of_an_ell_has_its_results() -> None:
    project = shaped(ELL)
    # what the columns bring is free of moments, so that it has a mirror image
    points = tuple(
        p.replaced(loads={k: v.replaced(Mx=0.0, My=0.0, Hx=0.0, Hy=0.0) for k, v in p.loads.items()})
        for p in project.actions.load_points
    )
    project = project.replaced(actions=project.actions.replaced(load_points=points))
    pad = project.pads[0]
    mirrored = tuple(p.replaced(x=-p.x) for p in points)
    other = project.replaced(
        actions=project.actions.replaced(load_points=mirrored),
        pads=(pad.replaced(offset_x=-pad.offset_x, outline=tuple((-x, y) for x, y in pad.outline)),),
    )
    a, b = (evaluate(p).pad("P") for p in (project, other))
    for one, two in zip(a.checks, b.checks):
        assert one.state is two.state, one.check.id
        if one.ratio is not None:
            by_plate = one.check.group == "concrete" or one.check.id.startswith("raft")
            # moments at the corner that goes in have no limit but that of the mesh, which is another one in the mirror image
            close = 0.1 if one.check.id.startswith(("shear", "top", "bottom", "cracks")) else 0.03 if by_plate else 1e-6
            assert two.ratio == pytest.approx(one.ratio, rel=close, abs=1e-9), one.check.id


@pytest.mark.long
@pytest.mark.parametrize("corners", [ELL, SKEW], ids=["ell", "skew"])
def test_ledger_is_the_working(corners: tuple[tuple[float, float], ...]) -> None:
    assert ledger_is_working(shaped(corners)) > 25


def test_thicker_parts_loads_and_openings_lie_within_it() -> None:
    bare = plate_of(shaped(ELL))
    found = plate_of(
        shaped(
            ELL,
            thickenings=(Thickening(x_from=-1.0, x_to=1.6, y_from=-2.4, y_to=-1.0, thickness=0.8),),
            openings=(Region(x_from=-3.0, x_to=-2.0, y_from=0.5, y_to=1.5),),
            loads=(RaftLoad(x_from=-4.6, x_to=4.6, y_from=-2.4, y_to=2.4, case="G", pressure=10.0),),
        )
    )
    assert found.mesh.area == pytest.approx(bare.mesh.area - 1.0, rel=1e-6)
    assert sorted({round(float(h), 3) for h in found.plate.h}) == [0.5, 0.8]
    thick = found.plate.points.sum(axis=1)[found.plate.h > 0.7].sum()
    assert thick == pytest.approx(2.6 * 1.4, rel=1e-6)
    x, y = found.mesh.places
    hole = (x > -2.99) & (x < -2.01) & (y > 0.51) & (y < 1.49)
    assert not found.mesh.seen[hole].any()
    # what is loaded beyond the outline bears nothing: 10 kPa on the ell alone, and the weight of the thicker part
    more = (found.plate.points[:, :, None] * found.gross).sum(axis=(0, 1)) - (
        bare.plate.points[:, :, None] * bare.gross
    ).sum(axis=(0, 1))
    factor = found.situations.factors[:, 0]
    weights = found.situations.weight[0] if np.ndim(found.situations.weight) > 1 else found.situations.weight
    assert (more > factor * 10.0 * found.mesh.area * 0.7).all()
    assert np.isfinite(weights).all()


@pytest.mark.long
def test_ribs_end_at_the_outline() -> None:
    project = shaped(
        SKEW, ribs=(Rib(name="R1", axis="y", at=4.0, depth=0.9), Rib(name="R2", axis="x", at=1.8, depth=0.9))
    )
    pad = project.pads[0]
    assert pad.plate is not None
    # the middle of its box lies elsewhere than that of the rectangle: the ribs went with the columns
    x0, x1, y0, y1 = pad.rib_box(pad.plate.ribs[0])
    assert ((x0 + x1) / 2 - pad.offset_x, y0 - pad.offset_y) == pytest.approx((8.0, -0.6))
    assert y1 - pad.offset_y == pytest.approx(1.8 + 2.4 + 0.6 * (5.4 - 4.0) / 5.4, abs=1e-6)
    result = evaluate(project).pad("P")
    assert result.check("rib-top").ratio is not None
    assert ledger_is_working(project) > 28


@pytest.mark.long
def test_the_strata_bear_an_ell() -> None:
    found = plate_of(shaped(ELL, k=None, ground="layers"))
    force = (found.plate.points[:, :, None] * found.solution.pressure).sum(axis=(0, 1))
    gross = (found.plate.points[:, :, None] * found.gross).sum(axis=(0, 1))
    assert force == pytest.approx(gross, rel=1e-6)
    assert "cells of pressure" in found.source
    # edges press harder than the middle of the long wing
    pressure = found.mesh.at(found.pressure, np.array([-4.5, -1.0]), np.array([-2.3, -1.0]))
    assert (pressure[0] > pressure[1]).all()


def test_sizes_follow_the_outline_and_the_outline_the_sizes() -> None:
    pad = shaped(ELL).pads[0]
    assert (pad.shape, pad.width, pad.length) == ("polygon", 9.2, 4.8)
    # a corner drawn further out moves the middle; what stands on it stays where it is in the plan
    wider = pad.replaced(outline=tuple((x + 1.0 if x > 4 else x, y) for x, y in pad.outline))
    assert (wider.width, wider.offset_x) == pytest.approx((10.2, -4.5))
    assert wider.outline[3][0] - wider.offset_x == pytest.approx(pad.outline[3][0] - pad.offset_x)
    dragged = pad.with_edge("+x", pad.edge("+x") + 1.0)
    assert dragged.outline == pytest.approx(np.array(wider.outline))
    assert dragged.offset_x == pytest.approx(wider.offset_x)
    plain = pad.replaced(shape="rectangle")
    assert plain.outline == ()
    grown = pad.resized_about_columns(0.3)
    assert (grown.width, grown.length) == pytest.approx((9.8, 5.4))
    assert grown.outline[3][1] - grown.offset_y == pytest.approx(pad.outline[3][1] - pad.offset_y + 0.3)
    assert pad.area(pad.width, pad.length) == pytest.approx(9.2 * 4.8 - 3.7 * 2.2)


def test_what_is_wrong_with_an_outline_is_said() -> None:
    pad = shaped(ELL).pads[0]
    for changes, words in (
        ({"outline": ((-4.6, -2.4), (4.6, 2.4), (4.6, -2.4), (-4.6, 2.4))}, "cross"),
        ({"outline": ((-4.6, -2.4), (4.6, -2.4))}, "three"),
        ({"plate": Plate(openings=(Region(x_from=0.0, x_to=2.0, y_from=-1.0, y_to=1.0),))}, "outline go around"),
        (
            {"plate": Plate(ribs=(Rib(name="R1", axis="x", at=1.8, begin=-4.0, end=3.0, depth=0.9),))},
            "leaves the outline",
        ),
        ({"kind": "pad", "plate": None}, "only rafts"),
    ):
        with pytest.raises(ValidationError, match=words):
            pad.replaced(**changes)
    project = shaped(ELL)
    with pytest.raises(ValidationError, match="C5 stands off the base"):
        project.replaced(pads=(pad.replaced(further=(*pad.further, "C5")),))
    with pytest.raises(UnmeshedError, match="pieces"):
        outline_mesh_of(ELL, [], [(-1.0, 0.0, -2.5, 2.5)], 0.4, 0.2)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(6))
def test_any_outline_is_meshed_with_its_columns_and_ribs(seed: int) -> None:
    """Elements fill the outline, and each column what of it lies on it, wherever lines, columns and edges come near
    each other."""
    import shapely

    from korbent.core.plates.element import Plates

    rng = np.random.default_rng(seed)
    done = 0
    while done < 4:
        count = int(rng.integers(3, 10))
        turns, far = np.sort(rng.uniform(0, 2 * np.pi, count)), rng.uniform(3, 9, count)
        ring = [(float(a), float(b)) for a, b in zip(far * np.cos(turns), far * np.sin(turns))]
        area = shapely.Polygon(ring)
        if not area.is_valid or area.area < 8:
            continue
        x0, y0, x1, y1 = area.bounds
        places = rng.uniform((x0, y0), (x1, y1), (8, 2))
        boxes = [(x - 0.2, x + 0.2, y - 0.25, y + 0.25) for x, y in places if area.contains(shapely.Point(x, y))]
        ribs = [(x0 - 1, x1 + 1, at, at) for at in rng.uniform(y0, y1, 2)] + [
            (at, at, y0 - 1, y1 + 1) for at in rng.uniform(x0, x1, 2)
        ]
        mesh = outline_mesh_of(ring, boxes, [], 0.6, 0.25, ribs)
        x, y = (v[mesh.elements] for v in mesh.nodes)
        weights = Plates(x, y, np.ones(len(x)), 1.0, 0.2).weights()
        assert weights.min() > -1e-12
        assert weights.sum() == pytest.approx(area.area, rel=1e-4)
        for box in boxes:
            there = shapely.box(box[0], box[2], box[1], box[3]).intersection(area).area
            assert weights[mesh.within(box)].sum() == pytest.approx(there, rel=3e-3, abs=3e-4)
        assert mesh.seen.any()
        done += 1


def test_it_is_kept_in_files(tmp_path) -> None:  # type: ignore[no-untyped-def]
    project = shaped(SKEW)
    save(project, tmp_path / "a.korbent")
    again = load(tmp_path / "a.korbent")
    assert again.pads[0].outline == project.pads[0].outline
    text = (tmp_path / "a.korbent").read_text()
    assert '"width": 10.0,' in text
    (tmp_path / "b.korbent").write_text(text.replace('"width": 10.0,', '"width": 11.0,', 1))
    with pytest.raises(ProjectFileError, match="the outline reaches from -5 to 5 m"):
        load(tmp_path / "b.korbent")


def test_a_held_edge_stays_while_the_overhang_grows() -> None:
    from korbent.core.rafts.dimensions import changed, value_of

    for corners in (None, ELL):
        project = raft() if corners is None else shaped(corners)
        pad = project.pads[0].replaced(hold_x="-x")
        # the held edge is nearer to its columns than the others are: it is none of the overhang
        pad = pad.with_edge("-x", 0.3)
        project = project.replaced(pads=(pad,))
        before = value_of(project, pad, "overhang")
        wider = changed(project, pad, "overhang", before + 0.25)
        assert wider.edge("-x") == pytest.approx(0.3)
        for side in ("+x", "-y", "+y"):
            assert wider.edge(side) == pytest.approx(pad.edge(side) + 0.25), side
        assert value_of(project.replaced(pads=(wider,)), wider, "overhang") == pytest.approx(before + 0.25)


def test_a_raft_is_held_at_a_boundary_by_one_edge_alone() -> None:
    from korbent.core.model.site import Outline
    from korbent.core.plan.site import pinned_to_boundary

    project = raft(ribs=(Rib(name="R1", axis="y", at=0.0, depth=0.9),))
    x = project.actions.load_points[0].x
    project = project.replaced(site=(Outline(name="Quay", points=((x - 0.5, -50.0), (x - 0.5, 50.0)), closed=False),))
    pad = project.pads[0]
    found = pinned_to_boundary(project, pad, 0.1)
    assert found is not None
    new, side = found
    assert (side, new.hold_x) == ("-x", "-x")
    assert new.edge("-x") == pytest.approx(0.4)
    for other in ("+x", "-y", "+y"):
        assert new.edge(other) == pytest.approx(pad.edge(other))
    assert new.plate is not None
    assert pad.plate is not None
    assert new.plate.ribs[0].at - new.offset_x == pytest.approx(pad.plate.ribs[0].at - pad.offset_x)


def test_ribs_and_regions_stay_with_their_columns_while_a_raft_is_moved() -> None:
    from korbent.core.plan.move import moved, nudged

    project = raft(
        ribs=(Rib(name="R1", axis="y", at=0.0, depth=0.9),),
        openings=(Region(x_from=1.0, x_to=2.0, y_from=-0.5, y_to=0.5),),
    )
    pad = project.pads[0]
    for new in (moved(project, pad, 0.2, 0.0)[0], nudged(pad, 0.2, 0.0)):
        assert new.offset_x == pytest.approx(pad.offset_x - 0.2)
        assert new.plate is not None
        assert new.plate.ribs[0].at == pytest.approx(-0.2)
        assert new.plate.openings[0].x_from == pytest.approx(0.8)
        assert new.rib_box(new.plate.ribs[0])[2:] == pytest.approx((-2.4, 2.4))
