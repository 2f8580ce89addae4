"""Ribs of rafts: the T-section and its flange, equilibrium, mirror images, what they take from the plate, what cannot
be."""

from itertools import pairwise
from pathlib import Path

import numpy as np
import pytest
from pydantic import ValidationError

from korbent.core.bench import bench_for
from korbent.core.checks import State
from korbent.core.concrete.schedule import schedule
from korbent.core.evaluate import evaluate
from korbent.core.geometry import table
from korbent.core.model import Load, Project, edited, renamed
from korbent.core.model.plate import Region, Rib
from korbent.core.model.reinforcement import Bars
from korbent.core.plates.beams import added_inertia
from korbent.core.rafts.laying import laid
from korbent.core.rafts.rib_checks import IDS, along_ribs, sections_of
from korbent.core.rafts.ribs import flange_of, on_ribs
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.sizing.ribs import grown_ribs
from korbent.core.working import SILENT
from korbent.demo.hollin import hollin
from korbent.files.project_file import dumps, loads
from tests.core.test_rafts import plate_of, raft
from tests.invariants.test_whole import ledger_is_working

BARS = Bars(diameter=0.020, number=4)


def ribs(depth: float = 0.7, width: float = 0.5, **more: object) -> tuple[Rib, ...]:
    """On both rows and all three lines of the columns of the raft of the tests."""
    across = [Rib(name=f"X{i}", axis="x", at=at, width=width, depth=depth, **more) for i, at in enumerate((-1.8, 1.8))]  # type: ignore[arg-type]
    along = [
        Rib(name=f"Y{i}", axis="y", at=at, width=width, depth=depth, **more) for i, at in enumerate((-4.0, 0.0, 4.0))
    ]  # type: ignore[arg-type]
    return (*across, *along)


def ribbed(depth: float = 0.7, thickness: float = 0.25, **more: object) -> Project:
    return raft(thickness=thickness, ribs=ribs(depth, **more))


def ratios(project: Project) -> dict[str, float]:
    return {c.check.id: c.ratio for c in evaluate(project).pads[0].checks if c.ratio is not None}


def test_what_presses_comes_back_with_the_weight_of_the_ribs() -> None:
    project = ribbed()
    found = plate_of(project, "concrete")
    force = (found.plate.points[:, :, None] * found.solution.pressure).sum(axis=(0, 1))
    pad = project.pads[0]
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    N = bench.forces(found.situations, SILENT).N[0]
    assert force == pytest.approx(N, rel=1e-9)
    # 2 x 9.2 m and 3 x 4.8 m of 0.5 x 0.45 m, less six crossings
    volume = (2 * 9.2 + 3 * 4.8) * 0.5 * 0.45 - 6 * 0.5**2 * 0.45
    assert pad.added_volume == pytest.approx(volume)
    bare = project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(ribs=())),))  # type: ignore[union-attr]
    without = bench_for(bare, bare.pads, np.zeros(1, dtype=int), table(bare.pads[0]))
    weight = bench.forces(found.situations, SILENT).V - without.forces(found.situations, SILENT).V
    assert weight[0] == pytest.approx(found.situations.weight * volume * project.settings.concrete_weight)


@pytest.mark.parametrize("at", [-2.1, 1.2, 2.9])
def test_a_cut_right_across_is_in_equilibrium(at: float) -> None:
    """Moment of ribs and plate over the whole width against loads and pressures on one side of it; recovered moments
    are means of elements."""
    project = ribbed()
    found = plate_of(project, "concrete")
    mesh, plate, beams = found.mesh, found.plate, found.plate.beams
    assert beams is not None
    k = int(np.abs(mesh.lines_x - at).argmin())
    line = mesh.lines_x[k]
    x, y = mesh.nodes
    shapes = plate.plates
    # places of the points of integration
    from korbent.core.plates.solve import SHAPES

    px = x[mesh.elements] @ SHAPES.T
    down = found.gross[:, :, 0] - found.solution.pressure[:, :, 0]
    left = px < line
    statics = -(shapes.weights() * down * (line - px) * left).sum()
    nodes = np.flatnonzero(np.abs(x - line) < 1e-9)
    nodes = nodes[np.argsort(y[nodes])]
    gaps = np.diff(y[nodes]) / 2
    share = np.concatenate([[0.0], gaps]) + np.concatenate([gaps, [0.0]])
    in_plate = found.fields[0].m_x[nodes, 0] @ share
    M, _, _ = beams.forces(found.solution.unknowns)
    ends = np.isin(beams.nodes[:, 1], nodes) & ~beams.along_y
    in_ribs = M[ends, 1, 0].sum()
    assert ends.sum() == 2
    assert abs(in_ribs) > 2 * abs(in_plate)  # the ribs carry most of it
    assert in_ribs + in_plate == pytest.approx(statics, rel=0.02, abs=2.0)


@pytest.mark.parametrize("axis", ["x", "y"])
def test_in_a_mirror(axis: str) -> None:
    sx, sy = (-1, 1) if axis == "x" else (1, -1)
    project = ribbed()
    one = project.pads[0]
    extra = Rib(name="Z", axis="y", at=2.2, begin=-1.2, end=2.4, width=0.4, depth=0.6)
    project = project.replaced(pads=(one.replaced(plate=one.plate.replaced(ribs=(*one.plate.ribs, extra))),))  # type: ignore[union-attr]

    def mirrored_rib(rib: Rib) -> Rib:
        s_across, s_along = (sy, sx) if rib.axis == "x" else (sx, sy)
        ends = (rib.begin, rib.end)
        if s_along < 0:
            ends = tuple(None if v is None else -v for v in ends[::-1])  # type: ignore[assignment]
        return rib.replaced(at=s_across * rib.at, begin=ends[0], end=ends[1])

    pad = project.pads[0]
    assert pad.plate is not None
    points = tuple(
        p.replaced(
            x=sx * p.x,
            y=sy * p.y,
            loads={c: q.replaced(Hx=sx * q.Hx, Hy=sy * q.Hy, My=sx * q.My, Mx=sy * q.Mx) for c, q in p.loads.items()},
        )
        for p in project.actions.load_points
    )
    other = project.replaced(
        actions=project.actions.replaced(load_points=points),
        pads=(
            pad.replaced(
                offset_x=sx * pad.offset_x,
                offset_y=sy * pad.offset_y,
                plate=pad.plate.replaced(ribs=tuple(map(mirrored_rib, pad.plate.ribs))),
            ),
        ),
    )
    first, second = ratios(project), ratios(other)
    assert first.keys() == second.keys()
    for name in (*IDS, "raft-slope", "raft-pressure", "shear-x", "shear-y", "top-x", "top-y"):
        assert first[name] == pytest.approx(second[name], rel=1e-6), name


@pytest.mark.long
def test_ledger_is_the_working() -> None:
    assert ledger_is_working(ribbed()) > 30
    assert ledger_is_working(ribbed(side="above", links=None)) > 30


@pytest.mark.long
def test_deeper_ribs_bend_less_and_a_rib_of_no_depth_is_none() -> None:
    plain = ratios(raft(thickness=0.25))["raft-slope"]
    slopes = [ratios(ribbed(depth))["raft-slope"] for depth in (0.2501, 0.5, 0.7, 1.0)]
    assert slopes[0] == pytest.approx(plain, rel=0.02)  # on another mesh
    assert all(b < a for a, b in pairwise(slopes))


def test_above_and_below_are_as_stiff_but_press_other_faces() -> None:
    below, above = plate_of(ribbed(), "concrete"), plate_of(ribbed(side="above"), "concrete")
    assert above.solution.settlement == pytest.approx(below.solution.settlement, rel=1e-9)
    ratio_below, ratio_above = ratios(ribbed()), ratios(ribbed(side="above"))
    # between the columns the top is pulled: below the plate the web alone is pressed, above it the flange
    assert ratio_above["rib-top"] < ratio_below["rib-top"]


def test_the_flange_is_that_of_the_clause() -> None:
    project = ribbed()
    pad = project.pads[0]
    found = plate_of(project, "concrete")
    rib = pad.plate.ribs[0]  # type: ignore[union-attr]
    flange = flange_of(pad, rib, found.columns)
    l_0 = 0.7 * 4.0
    assert flange.zero_to_zero == pytest.approx(l_0)
    edge, inner = 2.4 - 1.8 - 0.25, (3.6 - 0.5) / 2
    assert flange.before == pytest.approx(0.25 + min(0.2 * edge + 0.1 * l_0, 0.2 * l_0, edge))
    assert flange.after == pytest.approx(0.25 + min(0.2 * inner + 0.1 * l_0, 0.2 * l_0, inner))
    other = flange_of(pad, pad.plate.ribs[1], found.columns)  # type: ignore[union-attr]
    assert (other.before, other.after) == (pytest.approx(flange.after), pytest.approx(flange.before))


def test_columns_on_ribs_do_not_punch_and_one_beside_does() -> None:
    assert "punching" not in ratios(ribbed())
    project = ribbed()
    pad = project.pads[0]
    some = pad.plate.ribs[:1]  # type: ignore[union-attr]
    found = ratios(project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(ribs=some)),)))  # type: ignore[union-attr]
    assert found["punching"] > 0
    solved = plate_of(project, "concrete")
    assert all(len(on_ribs(pad, c)) == 2 for c in solved.columns)


def test_the_moment_is_what_the_check_is_made_of() -> None:
    """Bars by the lever arm of the block, by hand."""
    project = ribbed()
    result = evaluate(project).pads[0].check("rib-top")
    solved = plate_of(project, "concrete")
    assert isinstance(solved, SolvedRaft)
    worst = 0.0
    for one in along_ribs(solved):
        M = np.where(one.hidden[:, None], 0.0, -one.moment).max()
        d = 0.7 - project.settings.concrete_cover - 0.010 - 0.010
        K = M / (0.5 * d**2 * 20_000)
        z = d * (1 + np.sqrt(1 - 2 * K)) / 2
        least = 0.26 * 0.30 * 30 ** (2 / 3) / 500 * 0.5 * d
        worst = max(worst, max(M / (z * 500_000 / 1.15), least) / (3 * np.pi * 0.020**2 / 4))
    assert result.ratio == pytest.approx(worst, rel=1e-6)


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"depth": 0.25}, "no more than the raft is thick"),
        ({"at": 2.3}, "reaches over the edge"),
        ({"begin": 1.0, "end": 1.2}, "longer than it is wide"),
        ({"end": 9.0}, "reaches over the edge"),
        ({"links": BARS}, "links are given by their spacing"),
        ({"name": "X1"}, "two ribs are called X1"),
        ({"at": 1.5}, "lie over each other"),
    ],
)
def test_what_cannot_be_is_said(changes: dict[str, object], says: str) -> None:
    project = ribbed()
    pad = project.pads[0]
    assert pad.plate is not None
    with pytest.raises(ValidationError, match=says):
        pad.replaced(plate=pad.plate.replaced(ribs=(pad.plate.ribs[0].replaced(**changes), *pad.plate.ribs[1:])))


def test_a_rib_runs_over_no_opening() -> None:
    pad = ribbed().pads[0]
    hole = Region(x_from=1.0, x_to=2.0, y_from=-2.2, y_to=-1.0)
    with pytest.raises(ValidationError, match="rib X0 runs over opening 1"):
        pad.replaced(plate=pad.plate.replaced(openings=(hole,)))  # type: ignore[union-attr]


def test_ribs_stay_with_their_columns_when_an_edge_moves() -> None:
    pad = ribbed().pads[0]
    wider = pad.with_edge("+x", pad.edge("+x") + 1.0)
    assert wider.width == pytest.approx(pad.width + 1.0)
    for before, after in zip(pad.plate.ribs, wider.plate.ribs):  # type: ignore[union-attr]
        assert after.at == pytest.approx(before.at - (0.5 if before.axis == "y" else 0.0))
    assert wider.rib_box(wider.plate.ribs[0])[:2] == pytest.approx((-5.1, 5.1))  # type: ignore[union-attr]


def test_ribs_are_laid_on_the_lines_of_columns_once() -> None:
    project, names = laid(raft(thickness=0.25), raft(thickness=0.25).pads[0])
    assert names == ("X1", "X2", "Y1", "Y2", "Y3")
    placed = {r.name: (r.axis, r.at) for r in project.pads[0].plate.ribs}  # type: ignore[union-attr]
    assert placed["X1"] == ("x", pytest.approx(-1.8))
    assert placed["Y3"] == ("y", pytest.approx(4.0))
    with pytest.raises(ValueError, match="has its rib already"):
        laid(project, project.pads[0])
    assert "rib-top" in ratios(project)


def test_they_are_kept_renamed_and_scheduled() -> None:
    project = ribbed()
    assert loads(dumps(project), Path("x")) == project
    name = project.pads[0].name
    again = renamed(project, ("pads", name, "plate", "ribs", "X0"), "south")
    assert [r.name for r in again.pads[0].plate.ribs][:2] == ["south", "X1"]  # type: ignore[union-attr]
    assert again.pads[0].name == name
    deeper = edited(project, ("pads", name, "plate", "ribs", "X0", "depth"), 0.9)
    assert deeper.pads[0].plate.ribs[0].depth == 0.9  # type: ignore[union-attr]
    where = [w for bar in schedule(project, project.pads) for _, w, _ in bar.where]
    assert {"rib X0 top", "rib Y2 bottom", "rib X1 links"} <= set(where)


@pytest.mark.long
def test_hollin_has_something_that_fails_and_something_that_just_holds() -> None:
    results = evaluate(hollin())
    states = {c.state for c in results.all_checks}
    assert State.FAILS in states
    assert any(0.9 < (c.ratio or 0) <= 1.0 for c in results.all_checks)
    assert State.CANNOT not in states
    assert added_inertia(0.45, 0.85, 1.5, 0.25) > 0


@pytest.mark.long
def test_grown_ribs_hold_and_no_bar_more_than_they_need() -> None:
    project = hollin()
    assert ratios(project)["rib-top"] > 1.2
    better, said = grown_ribs(project, project.pads[0])
    assert said == ("X3 top 6 no ø16",)
    found = ratios(better)
    assert all(found[name] <= 1.0 for name in IDS)
    again, none = grown_ribs(better, better.pads[0])
    assert again is better
    assert none == ()
    weak = ribbed(
        depth=0.45,
        width=0.3,
        links=None,
        top=Bars(diameter=0.012, number=2),
        bottom=Bars(diameter=0.012, number=2),
    )
    stronger, words = grown_ribs(weak, weak.pads[0])
    before, after = ratios(weak), ratios(stronger)
    assert words
    assert after["rib-top"] < before["rib-top"]
    assert "rib-links" in after
    with pytest.raises(ValueError, match="no raft"):
        grown_ribs(project, project.pads[0].replaced(kind="pad", plate=None))


def walled(height: float | None, turned: float = 0.0) -> Project:
    """The raft of the tests with a wall of 5 m along its middle."""
    project = raft(thickness=0.3)
    a = project.actions
    first = a.load_points[0]
    x, y = first.x + 4.0, first.y + 1.8
    wall = first.replaced(
        name="W",
        kind="concrete_wall",
        x=x,
        y=y,
        size_x=5.0,
        size_y=0.25,
        rotation=turned,
        loads={"G": Load(V=600.0)},
    )
    pad = project.pads[0]
    assert pad.plate is not None
    return project.replaced(
        actions=a.replaced(load_points=(*a.load_points, wall)),
        pads=(pad.replaced(further=(*pad.further, "W"), plate=pad.plate.replaced(walls=height)),),
    )


@pytest.mark.long
def test_walls_stiffen_where_they_are_said_to() -> None:
    def bow(project: Project) -> float:
        """Of the middle line below the wall: its middle against its ends."""
        found = plate_of(project, "settlement_long")
        x, y = found.mesh.nodes
        w = found.solution.settlement[:, 0]
        a, b, c = (int(np.argmin((x - s) ** 2 + y**2)) for s in (-2.4, 0.0, 2.4))
        return float(w[b] - (w[a] + w[c]) / 2)

    free, low, high = bow(walled(None)), bow(walled(0.6)), bow(walled(2.8))
    assert abs(high) < 0.2 * abs(low)
    assert abs(high) < 0.2 * abs(free)

    def work(project: Project) -> float:
        """Of the loads: the stiffer, the less."""
        found = plate_of(project, "settlement_long")
        load = found.plate.load(found.gross)[:, 0]
        used = np.repeat(found.mesh.used, 3)
        return float(load @ found.solution.unknowns[used, 0])

    all_work = [work(walled(height)) for height in (0.3, 0.6, 1.2, 2.8)]
    assert all(b < a for a, b in pairwise(all_work))
    # across the axes of the raft a wall only presses
    assert plate_of(walled(2.8, 30.0), "concrete").plate.beams is None
    # it turns about nothing else: equilibrium stays
    found = plate_of(walled(2.8), "concrete")
    force = (found.plate.points[:, :, None] * found.solution.pressure).sum()
    assert force == pytest.approx((found.plate.points[:, :, None] * found.gross).sum(), rel=1e-8)
    assert ledger_is_working(walled(2.8)) > 20
    assert "rib-top" not in ratios(walled(2.8))


@pytest.mark.long
def test_cracks_in_ribs_are_those_of_their_web_in_service() -> None:
    """Against the same section as a strip of a pad: moment and steel over the width of the rib."""
    from korbent.core.concrete.standards.protocol import Cracked
    from korbent.core.concrete.standards.registry import standard_of

    project = ribbed()
    a = project.actions
    service = a.combinations[0].replaced(number=9, serves=("cracks",), factors={"G": 0.7})
    project = project.replaced(actions=a.replaced(combinations=(*a.combinations, service)))
    result = evaluate(project).pads[0].check("rib-cracks")
    assert result.ratio is not None
    solved = plate_of(project, "cracks")
    standard = standard_of(project.standards.concrete, project.settings)
    assert standard is not None
    worst = 0.0
    for one in along_ribs(solved):
        for sign in (-1.0, 1.0):
            M = np.where(one.hidden[:, None], 0.0, np.maximum(sign * one.moment, 0.0)).max()
            d = 0.7 - project.settings.concrete_cover - 0.010 - 0.010
            apart = (0.5 - 2 * (project.settings.concrete_cover + 0.010) - 0.020) / 2
            values = (M / 0.5, 0.020, apart, 3 * np.pi * 10.0**2 / 0.5, d, 0.7)
            width, limit = standard.cracks(Cracked(*(np.full((1, 1), v) for v in values)), project.settings, SILENT)
            worst = max(worst, float((width / limit)[0, 0]))
    assert result.ratio == pytest.approx(worst, rel=1e-6)
    assert ledger_is_working(project) > 30
    more = {"top": Bars(diameter=0.016, number=6), "bottom": Bars(diameter=0.016, number=6)}
    finer = (
        evaluate(
            project.replaced(
                pads=tuple(
                    p.replaced(plate=p.plate.replaced(ribs=tuple(r.replaced(**more) for r in p.plate.ribs)))
                    for p in project.pads
                )  # type: ignore[union-attr]
            )
        )
        .pads[0]
        .check("rib-cracks")
    )
    assert finer.ratio is not None
    assert finer.ratio < result.ratio


def test_shear_is_looked_at_right_at_the_distance_from_columns() -> None:
    found = plate_of(ribbed(), "concrete")
    one = next(a for a in along_ribs(found) if a.rib.axis == "x")
    step = float(np.diff(one.place).max())
    for away in (0.31, 0.5, 0.5 + step / 3):
        places, shear = sections_of(found, one, away)
        assert shear.shape == (len(places), len(found.situations))
        # the columns of 0.4 m stand at -4, 0 and 4
        far = np.abs(places[:, None] - [-4.0, 0.0, 4.0]).min(axis=1) - 0.2
        assert far.min() == pytest.approx(away, abs=1e-9)
        # never less than at the nodes that lie beyond alone, and on the line between nodes
        beyond = np.abs(one.place[:, None] - [-4.0, 0.0, 4.0]).min(axis=1) - 0.2 > away - 1e-6
        assert np.abs(shear).max() >= np.abs(one.shear[beyond]).max() - 1e-9
        assert shear[:, 0] == pytest.approx(np.interp(places, one.place, one.shear[:, 0]), abs=1e-9)
    # nearer to the columns it is more
    assert np.abs(sections_of(found, one, 0.3)[1]).max() > np.abs(sections_of(found, one, 0.6)[1]).max()


def test_columns_too_near_for_their_distance_leave_no_rib_without_shear() -> None:
    found = plate_of(ribbed(), "concrete")
    one = next(a for a in along_ribs(found) if a.rib.axis == "x")
    places, shear = sections_of(found, one, 5.0)
    assert np.abs(places[:, None] - [-4.0, 0.0, 4.0]).min() >= 0.2 - 1e-6
    assert np.abs(shear).max() == pytest.approx(np.abs(one.shear[~one.hidden]).max())
    assert np.abs(shear).max() > 10.0


@pytest.mark.long
def test_thicker_bars_above_leave_less_depth_for_shear() -> None:
    plain = ribbed()
    pad = plain.pads[0]
    assert pad.plate is not None
    thick = tuple(r.replaced(top=r.top.replaced(diameter=2 * r.top.diameter)) for r in pad.plate.ribs)
    other = plain.replaced(pads=(pad.replaced(plate=pad.plate.replaced(ribs=thick)),))
    a, b = (next(c for c in evaluate(p).pads[0].checks if c.check.id == "rib-shear").demand for p in (plain, other))
    assert a is not None
    assert b is not None
    assert b > a
