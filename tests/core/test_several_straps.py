"""Several straps at one base: equilibrium of the whole, statics of two boundaries, right angles, chains, the working,
edits."""

import math
import random

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from korbent.core.actions.tied import in_plan, middle_of
from korbent.core.bench import Bench, bench_for
from korbent.core.cache import forget_all
from korbent.core.evaluate import evaluate
from korbent.core.geometry import table
from korbent.core.model import Load, LoadPoint, Project
from korbent.core.model.foundations import Strap
from korbent.core.straps.checks import beam_of, reactions, strap_weight
from korbent.core.straps.second_look import compared
from korbent.core.straps.tying import strap_for
from korbent.core.working import SILENT, Array
from korbent.verification.straps import tied_pair
from tests.invariants.test_whole import ledger_is_working

E, S = 0.6, 5.0


def with_base(
    project: Project, name: str, x: float, y: float, load: Load, offset: tuple[float, float] = (0.0, 0.0)
) -> Project:
    """One more base under a column of its own, its middle off the column."""
    point = project.actions.load_points[0].replaced(name=f"C{name}", x=x, y=y, loads={"G": load}, rotation=0.0)
    pad = project.pads[0].replaced(
        name=name, load_point=point.name, offset_x=-offset[0], offset_y=-offset[1], rotation=0.0
    )
    actions = project.actions.replaced(load_points=(*project.actions.load_points, point))
    return project.replaced(actions=actions, pads=(*project.pads, pad))


def tied(project: Project, *ends: tuple[str, str]) -> Project:
    """With these straps alone, all with one beam."""
    beam = project.straps[0] if project.straps else Strap(name="S", edge="P", inner="Q", width=0.5, depth=0.9)
    return project.replaced(
        straps=tuple(beam.replaced(name=f"S{i}", edge=a, inner=b) for i, (a, b) in enumerate(ends, 1))
    )


def narrow(first: Load, middle: Load, last: Load) -> Project:
    """Two bases at boundaries that reach inwards only, 2 S apart, and one half-way."""
    project = with_base(tied_pair(first, middle, E, S), "R", 2 * S, 0.0, last, (-E, 0.0))
    return tied(project, ("P", "Q"), ("R", "Q"))


def bench_of(project: Project, name: str) -> Bench:
    pad = project.pad(name)
    return bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))


def below(project: Project, name: str) -> tuple[float, Array]:
    """(vertical force, moment along x and y of the plan about its middle, as the plan sees them) of a base under the
    load case."""
    bench = bench_of(project, name)
    situations = bench.situations("concrete")
    forces = bench.forces(situations, SILENT)
    turn = math.radians(bench.pads[0].rotation)
    along = forces.My[0, 0], -forces.Mx[0, 0]
    c, s = math.cos(turn), math.sin(turn)
    return float(forces.V[0, 0]), np.array([c * along[0] - s * along[1], s * along[0] + c * along[1]])


def middle(project: Project, name: str) -> Array:
    x, y = middle_of(bench_of(project, name).geometry)
    return np.array([float(x[0, 0]), float(y[0, 0])])


def whole(project: Project) -> Array:
    """Force and moments about the origin of all bases together."""
    total = np.zeros(3)
    for pad in project.pads:
        V, M = below(project, pad.name)
        total += np.concatenate([[V], M + V * middle(project, pad.name)])
    return total


def random_tied(seed: int) -> Project:
    """Three to five bases in a cross about Q, some tied to it, one to another in a chain; loads in all directions."""
    rng = random.Random(seed)

    def load() -> Load:
        return Load(
            V=rng.uniform(200, 900),
            Hx=rng.uniform(-40, 40),
            Hy=rng.uniform(-20, 20),
            Mx=rng.uniform(-40, 40),
            My=rng.uniform(-60, 60),
        )

    project = tied_pair(load(), load(), rng.uniform(0.0, 0.6), S)
    ends = [("P", "Q")]
    for name, x, y in (("R", 2 * S, 0.4), ("N", S + 0.3, 6.0), ("Z", S - 0.2, -5.5)):
        if rng.random() < 0.7:
            inwards = np.array([S - x, -y]) / math.hypot(S - x, y)
            project = with_base(project, name, x, y, load(), tuple(rng.uniform(0.0, 0.5) * inwards))
            ends.append((name, "Q"))
    if rng.random() < 0.5:
        project = with_base(project, "F", S, 13.0, load())
        if any(p.name == "N" for p in project.pads) and rng.random() < 0.5:
            ends.append(("F", "N"))
    return tied(project, *ends)


@given(st.integers(0, 10**6))
def test_force_and_moments_of_the_whole_are_those_without_straps(seed: int) -> None:
    """What straps move from one base is there at another: columns, weights of beams aside, on the same places."""
    project = random_tied(seed)
    light = project.replaced(straps=tuple(s.replaced(width=0.05, depth=0.05) for s in project.straps))
    loose = light.replaced(straps=())
    a, b = whole(light), whole(loose)
    # the beams of next to no size weigh next to nothing
    assert a == pytest.approx(b, rel=2e-3, abs=1.0)
    moved = [below(light, pad.name)[0] - below(loose, pad.name)[0] for pad in project.pads]
    assert max(map(abs, moved)) > 0.5


def test_two_boundaries_and_one_inner_base_by_statics() -> None:
    P1, P2 = 700.0, 1500.0
    project = narrow(Load(V=P1), Load(V=P2), Load(V=P1))
    loose = project.replaced(straps=())
    R = {n: below(project, n)[0] - below(loose, n)[0] for n in "PQR"}
    weights = {
        name: sum(
            float(strap_weight(bench_of(project, name), t)[0][0, 0]) for t in bench_of(project, name).stands[0].ties
        )
        for name in "PQR"
    }
    up = P1 * E / (S - E)
    for name, change in (("P", up), ("R", up), ("Q", -2 * up)):
        assert R[name] == pytest.approx(change + weights[name], rel=1e-9), name
    # but for the backfill that its column stands in
    assert below(project, "P")[1] == pytest.approx([0.0, 0.0], abs=2.0)
    # both beams are mirror images of each other
    beams = []
    for name in "PR":
        bench = bench_of(project, name)
        tie = bench.stands[0].edge_tie
        assert tie is not None
        beams.append(beam_of(bench, tie)[1][0, :, 0])
    assert beams[0] == pytest.approx(beams[1], rel=1e-9)


def test_a_moment_of_the_inner_base_is_shared_by_straps_in_line_and_kept_across() -> None:
    M = 90.0
    project = narrow(Load(V=1e-3), Load(V=800.0, My=M, Mx=30.0), Load(V=1e-3))
    loose = project.replaced(straps=())
    change = {n: below(project, n)[0] - below(loose, n)[0] for n in "PR"}
    weight = float(strap_weight(bench_of(project, "P"), bench_of(project, "P").stands[0].ties[0])[0][0, 0])
    lift = M / 2 / (S - E)
    assert sorted(v - weight for v in change.values()) == pytest.approx([-lift, lift], rel=1e-4)
    left = below(project, "Q")[1]
    assert left[0] == pytest.approx(0.0, abs=1e-6)
    assert left[1] == pytest.approx(below(loose, "Q")[1][1], rel=1e-9)


def test_straps_at_right_angles_do_not_know_of_each_other() -> None:
    first, inner, other = Load(V=600.0, My=20.0), Load(V=1200.0), Load(V=500.0, Mx=-15.0)
    base = with_base(tied_pair(first, inner, E, S), "N", S, 6.0, other, (0.0, -0.5))
    both, one, two = (tied(base, *ends) for ends in ((("P", "Q"), ("N", "Q")), (("P", "Q"),), (("N", "Q"),)))
    assert below(both, "P")[0] == pytest.approx(below(one, "P")[0], rel=1e-9)
    assert below(both, "N")[0] == pytest.approx(below(two, "N")[0], rel=1e-9)
    loose = below(base.replaced(straps=()), "Q")[0]
    parts = [below(p, "Q")[0] - loose for p in (one, two)]
    assert below(both, "Q")[0] - loose == pytest.approx(sum(parts), rel=1e-9)


def test_the_beam_ends_as_its_forces_say_where_its_base_shares() -> None:
    """P is at the boundary of one strap and the inner base of another in line: half of its moment goes with each."""
    project = with_base(tied_pair(Load(V=700.0), Load(V=1200.0), E, S), "F", -6.0, 0.0, Load(V=400.0), (0.4, 0.0))
    project = tied(project, ("P", "Q"), ("F", "P"))
    bench = bench_of(project, "P")
    tie = bench.stands[0].edge_tie
    assert tie is not None
    assert tie.share == 0.5
    R1, _, _ = reactions(bench, tie)
    s, moment, shear = beam_of(bench, tie)
    situations = bench.situations("concrete")
    first = bench.points[0]
    P = (situations.factors @ in_plan(bench.untied(situations), first))[0, :, 0]
    size = 0.8  # half of the base along the strap
    right = int(np.abs(s[0, :, 0] - size).argmin())
    assert shear[0, right, 0] == pytest.approx(R1[0, 0] - P[0] / 2, rel=1e-6)
    # at the far face: what the forces of the near side turn about it
    end = float(s[0, -1, 0])
    weight = sum(float(w[0, 0]) for w in strap_weight(bench, tie))
    expected = R1[0, 0] * end - P[0] / 2 * (end + E) - situations.weight[0] * weight * (end - size) / 2
    assert moment[0, -1, 0] == pytest.approx(expected, rel=1e-6)


def test_ledger_working_and_edits() -> None:
    project = narrow(Load(V=700.0, My=20.0), Load(V=1500.0), Load(V=500.0))
    assert ledger_is_working(project) > 25
    assert "several straps" in str(compared(project, project.straps[0]))
    results = evaluate(project)
    assert all(results.pad(n).check("strap-top").ratio for n in "PR")
    # a load of one edge base is seen by the other through the inner one's moment only, the inner one sees all; warm is cold
    point = project.actions.load_points[-1]
    heavier = project.replaced(
        actions=project.actions.replaced(
            load_points=(*project.actions.load_points[:-1], point.replaced(loads={"G": Load(V=900.0)}))
        )
    )
    warm = [[c.ratio for c in evaluate(heavier).pad(n).checks] for n in "PQR"]
    forget_all()
    cold = [[c.ratio for c in evaluate(heavier).pad(n).checks] for n in "PQR"]
    assert warm == cold
    assert warm[1] != [c.ratio for c in results.pad("Q").checks]


def test_a_strap_is_offered_to_an_inner_base_that_has_one() -> None:
    project = narrow(Load(V=700.0), Load(V=1500.0), Load(V=500.0)).replaced(straps=())
    one = tied(project, ("P", "Q"))
    found = strap_for(one, one.pad("R"))
    assert (found.edge, found.inner) == ("R", "Q")
    with pytest.raises(ValueError, match="at the boundary of a strap already"):
        strap_for(one, one.pad("P"))
    assert isinstance(one.actions.load_points[0], LoadPoint)
