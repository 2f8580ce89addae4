"""Totals of the building."""

import numpy as np
import pytest

from korbent.core.model import Actions, Combination, Load, LoadCase, LoadPoint, Project, Settings, edited
from korbent.core.plan.totals import building, case_totals, footprint
from korbent.demo import lindmere


def project(*points: LoadPoint, pressure: float | None = 200.0) -> Project:
    return Project(
        settings=Settings(presumed_pressure=pressure),
        actions=Actions(
            cases=(LoadCase(name="G"), LoadCase(name="W", nature="wind")),
            combinations=(
                Combination(number=1, factors={"G": 1.0}, serves=("allowable",)),
                Combination(number=2, factors={"G": 1.0, "W": 1.0}, serves=("allowable",)),
                Combination(number=3, factors={"G": 9.0}, serves=("concrete",)),
            ),
            load_points=points,
        ),
    )


def point(name: str, x: float, y: float, G: Load, W: Load | None = None, **more: object) -> LoadPoint:
    loads = {"G": G, "W": W or Load()}
    return LoadPoint(name=name, x=x, y=y, size_x=0.4, size_y=0.4, level=0, loads=loads, **more)  # type: ignore[arg-type]


def test_sums_and_centroid() -> None:
    found = case_totals(project(point("A", 0, 0, Load(V=300, Hx=5)), point("B", 6, 3, Load(V=100, Hx=-2, Hy=4))))
    assert (found[0].V, found[0].Hx, found[0].Hy) == (400.0, 3.0, 4.0)
    assert found[0].centroid == pytest.approx((1.5, 0.75))
    assert found[1].centroid is None


def test_a_couple_has_no_centroid() -> None:
    pair = project(point("A", 0, 0, Load(), Load(V=50)), point("B", 6, 0, Load(), Load(V=-50)))
    assert case_totals(pair)[1].V == 0.0
    assert case_totals(pair)[1].centroid is None


def test_local_axes_are_turned_into_the_plan() -> None:
    found = case_totals(project(point("A", 0, 0, Load(V=1, Hx=10), rotation=90.0, axes="local")))
    assert (found[0].Hx, found[0].Hy) == pytest.approx((0.0, 10.0), abs=1e-12)


def test_the_building_takes_the_greatest_unfactored_load() -> None:
    whole = project(
        point("A", 0, 0, Load(V=300), Load(V=40)),
        point("B", 6, 0, Load(V=100)),
        point("C", 0, 4, Load(V=200), Load(V=-10)),
    )
    found = building(whole)
    assert found is not None
    assert (found.V, found.combination) == (630.0, "2")
    assert found.needed == pytest.approx(630 / 200)
    assert found.footprint == pytest.approx(12.0)
    assert found.share == pytest.approx(3.15 / 12)
    without = building(edited(whole, ("settings", "presumed_pressure"), None))
    assert without is not None
    assert without.needed is None
    assert building(Project()) is None


def test_footprint_is_the_convex_outline() -> None:
    rng = np.random.default_rng(4)
    inner = [point(f"I{i}", *rng.uniform(1, 4, 2), Load(V=1)) for i in range(12)]
    corners = [point(f"C{i}", x, y, Load(V=1)) for i, (x, y) in enumerate(((0, 0), (5, 0), (5, 5), (0, 5)))]
    assert footprint(project(*inner, *corners)) == pytest.approx(25.0)
    assert footprint(project(*corners[:2])) == 0.0
    line = [point(f"L{i}", float(i), float(i), Load(V=1)) for i in range(4)]
    assert footprint(project(*line)) == pytest.approx(0.0)


def test_the_demo() -> None:
    found = building(lindmere())
    assert found is not None
    assert 14_000 < found.V < 20_000
    assert found.share is not None
    assert 0.05 < found.share < 0.2


def test_line_loads_of_a_wall_count_with_its_length(demo: Project) -> None:
    """A wall 6.4 m long with its loads per metre is the same as with them whole."""
    wall = demo.load_point("W1")
    per_metre = wall.replaced(per="metre", loads={c: Load(V=v.V / 6.4) for c, v in wall.loads.items()})
    points = tuple(per_metre if p.name == "W1" else p for p in demo.actions.load_points)
    changed = demo.replaced(actions=demo.actions.replaced(load_points=points))
    for a, b in zip(case_totals(demo), case_totals(changed)):
        assert pytest.approx(b.V) == a.V
        assert a.centroid == pytest.approx(b.centroid)
