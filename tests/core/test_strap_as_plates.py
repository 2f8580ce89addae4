"""A strap as plates: equilibrium, stiff bases on springs as its limit, what is cut and what the beam itself carries,
mirror images."""

from dataclasses import replace
from itertools import pairwise

import numpy as np
import pytest

from korbent.core.bench import Bench, bench_for
from korbent.core.cache import forget_all
from korbent.core.explain.strap import along_strap, beside_words
from korbent.core.geometry import table
from korbent.core.model import Project
from korbent.core.plates.solve import UnsolvedError
from korbent.core.straps.as_plates import AsPlates, ByPlates, Part, as_plates_of, by_plates
from korbent.core.straps.on_springs import Pair, pair_of, solved_pair
from korbent.core.straps.second_look import Compared, Look, compared, in_plates
from korbent.demo import lindmere

E = 30e6


def strap(thickness: float = 0.5, weight: float = 0.0, depth: float = 0.9, tied: bool = True) -> AsPlates:
    """A base at a boundary and an inner one, 5.6 m apart, two situations."""
    edge = Part(
        (-0.8, 0.8, -1.0, 1.0),
        thickness,
        (-0.8, -0.4, -0.2, 0.2),
        20_000.0,
        np.array([600.0, 800.0]),
        np.array([0.0, 12.0]),
    )
    inner = Part(
        (4.4, 6.8, -1.2, 1.2),
        thickness,
        (5.4, 5.8, -0.2, 0.2),
        15_000.0,
        np.array([900.0, 700.0]),
        np.array([0.0, -30.0]),
    )
    return AsPlates((edge, inner), 0.0, 0.5, depth if tied else 1e-3, E, np.array([weight, weight]))


def as_pair(tied: AsPlates) -> Pair:
    """The same, with bases that do not bend."""
    (a, b), (start, end) = tied.parts, ((p.box[0] + p.box[1]) / 2 for p in tied.parts)
    areas = [(p.box[1] - p.box[0]) * (p.box[3] - p.box[2]) for p in tied.parts]
    width, depth = tied.width, tied.depth
    return Pair(
        end - start,
        (a.box[1] - a.box[0], b.box[1] - b.box[0]),
        (a.k * areas[0], b.k * areas[1]),
        E * width * depth**3 / 12,
        E / 2.4 * 5 / 6 * width * depth,
        (a.V, b.V),
        (a.M + a.V * (a.at - start), b.M + b.V * (b.at - end)),
    )


def test_forces_and_moments_are_in_balance() -> None:
    tied = strap(weight=40.0)
    found = by_plates(tied)
    V = tied.parts[0].V + tied.parts[1].V + 40.0
    assert found.R[0] + found.R[1] == pytest.approx(V, rel=1e-9)
    # of the whole about the middle of the first base
    x = tied.plate.mesh.nodes[0][tied.plate.mesh.elements].mean(axis=1)
    about = (tied.plate.points[:, :, None] * tied.plate.solve(tied.loads).pressure * x[:, None, None]).sum(axis=(0, 1))
    loads = sum(p.M + p.V * p.at for p in tied.parts) + 40.0 * sum(tied.faces) / 2
    assert about == pytest.approx(
        loads, rel=1e-2
    )  # pressure at the points of integration, each at the middle of its element
    assert found.residual < 1e-9


def test_what_is_cut_is_what_the_beam_carries() -> None:
    """Moments at both faces: by what presses before them, and by the stiffness of the beam between them."""
    tied = strap(weight=60.0)
    found = by_plates(tied)
    near = int(np.abs(found.at - tied.faces[0]).argmin())
    assert found.at[near] == pytest.approx(tied.faces[0])
    assert found.moment[near] == pytest.approx(found.beam[0], rel=1e-7)
    assert found.moment[-1] == pytest.approx(found.beam[1], rel=1e-7)
    # along the free beam the moment falls by the shear, less its weight
    i, j = near + 3, near + 4
    step = found.at[j] - found.at[i]
    assert found.moment[j] - found.moment[i] == pytest.approx((found.shear[i] + found.shear[j]) / 2 * step, rel=1e-6)


def test_thick_bases_do_not_bend() -> None:
    """The stiffer the bases the nearer to stiff ones on springs, another method: nothing lifts off here."""
    stiff = solved_pair(as_pair(strap()))
    off = []
    for thickness in (0.5, 1.5, 8.0):
        found = by_plates(strap(thickness))
        assert not found.lifted.any()
        off.append(max(np.abs(found.R[0] / stiff.R[0] - 1).max(), np.abs(found.beam[0] / stiff.at_faces[0] - 1).max()))
    assert off[-1] < 2e-3
    assert all(b < a for a, b in pairwise(off))


def test_without_a_beam_each_base_bears_its_own() -> None:
    found = by_plates(strap(tied=False))
    parts = strap().parts
    for R, part in zip(found.R, parts):
        assert pytest.approx(part.V, rel=1e-4) == R


def test_a_finer_mesh_changes_little(monkeypatch: pytest.MonkeyPatch) -> None:
    coarse = by_plates(strap())
    monkeypatch.setattr("korbent.core.straps.as_plates.ACROSS", 18)
    fine = by_plates(strap())
    assert fine.unknowns > 3 * coarse.unknowns
    assert coarse.R[0] == pytest.approx(fine.R[0], rel=2e-3)
    for a, b in zip(coarse.beam, fine.beam):
        assert a == pytest.approx(b, rel=1e-2)
    assert np.abs(coarse.moment).max(axis=0) == pytest.approx(np.abs(fine.moment).max(axis=0), rel=2e-2)


def test_across_a_mirror_it_is_the_same_and_an_inner_base_that_settles_more_presses_the_other() -> None:
    tied = strap()
    turned = replace(
        tied, parts=tuple(replace(p, column=(*p.column[:2], -p.column[3], -p.column[2])) for p in tied.parts)
    )  # type: ignore[arg-type]
    assert by_plates(turned).R[0] == pytest.approx(by_plates(tied).R[0], rel=1e-12)
    softer = replace(tied, parts=(tied.parts[0], replace(tied.parts[1], k=5_000.0)))
    assert (by_plates(softer).R[0] > by_plates(tied).R[0]).all()


def test_a_base_that_is_lifted_presses_where_it_is_down() -> None:
    tied = strap()
    up = replace(
        tied,
        parts=(
            replace(tied.parts[0], V=np.array([900.0, 1200.0])),
            replace(tied.parts[1], V=np.array([60.0, 40.0]), M=np.array([0.0, 0.0])),
        ),
    )
    found = by_plates(up)
    assert found.lifted.any()
    assert found.R[0] + found.R[1] == pytest.approx(up.parts[0].V + up.parts[1].V, rel=1e-7)
    assert "lifts off" in found.words()


def test_what_floats_is_said() -> None:
    tied = strap()
    with pytest.raises(UnsolvedError):
        by_plates(replace(tied, parts=tuple(replace(p, V=-p.V) for p in tied.parts)))  # type: ignore[arg-type]


def bench_of(project: Project) -> Bench:
    edge = project.pad(project.straps[0].edge)
    return bench_for(project, (edge,), np.zeros(1, dtype=int), table(edge))


def test_lindmere_stands_beside_statics() -> None:
    project = lindmere()
    found = compared(project, project.straps[0])
    assert isinstance(found, Compared)
    assert isinstance(found.plates, Look)
    assert sum(found.statics.R) == pytest.approx(sum(found.plates.R), rel=1e-7)
    assert sum(found.statics.R) == pytest.approx(sum(found.stiff.R))
    # the inner base settles more under its load: through the beam that presses the one at the boundary
    assert found.settled[1] > 1.5 * found.settled[0] > 0.0
    assert found.statics.R[0] < found.plates.R[0] < 1.05 * found.statics.R[0]
    assert found.plates.R[0] == pytest.approx(found.stiff.R[0], rel=0.01)
    assert pytest.approx(found.statics.M, rel=0.1) == found.plates.M
    assert "unknowns" in found.solved


def test_moments_are_those_of_the_stiff_pair_and_of_any_axes() -> None:
    """The same forces reach both models; the project turned in the plan has the same plates."""
    project = lindmere()
    bench = bench_of(project)
    tied, pair = as_plates_of(bench, (20_000.0, 15_000.0)), pair_of(bench, (20_000.0, 15_000.0))
    for part, M in zip(tied.parts, pair.M):
        middle = (part.box[0] + part.box[1]) / 2
        assert part.M + part.V * (part.at - middle) == pytest.approx(M, rel=1e-9)
    assert tied.weight + tied.parts[0].V + tied.parts[1].V == pytest.approx(pair.V[0] + pair.V[1], rel=1e-9)
    one = in_plates(project, project.straps[0])
    assert isinstance(one, ByPlates)

    def turned(p):  # type: ignore[no-untyped-def]
        loads = {n: v.replaced(Hx=-v.Hy, Hy=v.Hx, Mx=-v.My, My=v.Mx) for n, v in p.loads.items()}
        return p.replaced(x=-p.y, y=p.x, size_x=p.size_y, size_y=p.size_x, loads=loads)

    def base(q):  # type: ignore[no-untyped-def]
        return q.replaced(
            width=q.length,
            length=q.width,
            offset_x=-q.offset_y,
            offset_y=q.offset_x,
            held=dict(zip(("-x", "+x", "-y", "+y"), ("-y", "+y", "+x", "-x"))).get(q.held, q.held),
        )

    names = (project.straps[0].edge, project.straps[0].inner)
    pads = tuple(p for p in project.pads if p.name in names)
    points = tuple(p for p in project.actions.load_points if p.name in {q.load_point for q in pads})
    small = project.replaced(
        pads=pads,
        straps=project.straps[:1],
        actions=project.actions.replaced(load_points=points, area_loads=(), steps=()),
    )
    other = small.replaced(
        pads=tuple(map(base, pads)), actions=small.actions.replaced(load_points=tuple(map(turned, points)))
    )
    k = (20_000.0, 15_000.0)
    a, b = by_plates(as_plates_of(bench_of(small), k)), by_plates(as_plates_of(bench_of(other), k))
    assert b.R[0] == pytest.approx(a.R[0], rel=1e-8)
    assert b.moment == pytest.approx(a.moment, rel=1e-6, abs=1e-6)


def test_the_line_of_the_strap_shows_both() -> None:
    project = lindmere()
    edge = project.pad(project.straps[0].edge)
    line = along_strap(project, edge)
    assert line is not None
    assert line.other is not None
    assert line.other.at[0] == pytest.approx(line.at[0], abs=0.02)
    assert line.other.at[-1] == pytest.approx(line.at[-1], abs=0.02)
    assert min(line.other.moment_least) == pytest.approx(min(line.moment_least), rel=0.1)
    # what presses more below the base at the boundary goes through the beam
    looks = compared(project, project.straps[0])
    assert isinstance(looks, Compared)
    assert isinstance(looks.plates, Look)
    more = looks.plates.R[0] - looks.statics.R[0]
    assert more > 1.0
    assert max(line.other.shear_most) - max(line.shear_most) == pytest.approx(more, abs=2.0)
    assert [line.split(" ")[0] for line in beside_words(project, edge)] == ["dashed:", "columns"]


def test_plates_stay_while_another_base_is_edited_and_follow_their_own() -> None:
    """Warm as cold: each part of what they are made of changes them."""
    project = lindmere()
    strap = project.straps[0]
    before = in_plates(project, strap)
    elsewhere = project.replaced(
        pads=tuple(p.replaced(width=p.width + 0.01) if p.name == "P1" else p for p in project.pads)
    )
    assert in_plates(elsewhere, strap) is before
    other = strap.replaced(depth=strap.depth + 0.1)
    deeper = project.replaced(straps=(other,))
    found = in_plates(deeper, other)
    assert isinstance(found, ByPlates)
    assert isinstance(before, ByPlates)
    assert found.beam[0] != pytest.approx(before.beam[0], rel=1e-6)
    forget_all()
    again = in_plates(deeper, other)
    assert isinstance(again, ByPlates)
    assert again.R[0] == pytest.approx(found.R[0], rel=1e-12)


def test_what_is_not_known_is_said() -> None:
    project = lindmere()
    strap, edge = project.straps[0], project.pad(project.straps[0].edge)
    a = project.actions
    unserved = tuple(c.replaced(serves=tuple(s for s in c.serves if s != "concrete")) for c in a.combinations)
    assert "concrete" in str(compared(project.replaced(actions=a.replaced(combinations=unserved)), strap))
    bare = project.replaced(ground=project.ground.replaced(boreholes=()))
    assert compared(bare, strap) == "a base settles by nothing that is known"
    assert beside_words(bare, edge) == ("no second look: a base settles by nothing that is known",)


def test_bases_that_touch_have_no_free_beam() -> None:
    project = lindmere()
    names = (project.straps[0].edge, project.straps[0].inner)

    def wide(p):  # type: ignore[no-untyped-def]
        return p.replaced(width=9.0, length=9.0, type=None) if p.name in names else p

    whole = project.replaced(pads=tuple(map(wide, project.pads)))
    assert compared(whole, whole.straps[0]) == "its bases touch: no beam is free between them"
    line = along_strap(whole, whole.pad(names[0]))
    assert line is None or line.other is None


def test_a_base_askew_is_the_rectangle_along_the_strap_or_it_is_said() -> None:
    """Turned about its middle it presses alike; where its column would stand beside that rectangle it is told."""
    project = lindmere()
    name = project.straps[0].edge

    def turned(rotation: float, share: float) -> Project:
        def pad(p):  # type: ignore[no-untyped-def]
            more = {"rotation": rotation, "offset_x": share * p.width, "offset_y": share * p.length, "type": None}
            return p.replaced(**more) if p.name == name else p

        return project.replaced(pads=tuple(map(pad, project.pads)))

    straight, askew = (in_plates(w := turned(angle, 0.0), w.straps[0]) for angle in (0.0, 30.0))
    assert isinstance(straight, ByPlates)
    assert isinstance(askew, ByPlates)
    assert askew.R[0] == pytest.approx(straight.R[0], rel=0.01)
    off = turned(45.0, 0.45)
    assert in_plates(off, off.straps[0]) == f"the column of {name} stands beside it"
    assert beside_words(off, off.pad(name)) == (f"no plates: the column of {name} stands beside it",)
