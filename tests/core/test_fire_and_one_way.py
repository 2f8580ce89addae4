"""Cover by fire and by ACI's exposures; bases that span one way; steel near a column by its punching stress."""

import math

import pytest

from korbent.core.checks import CheckResult, State
from korbent.core.evaluate import evaluate_pad
from korbent.core.explain.working import working
from korbent.core.model import Bars, Load, Project, Reinforcement
from korbent.core.model.labels import label
from korbent.verification.pad import one_pad

INCH = 0.0254
STEEL = Reinforcement(bottom_x=Bars(diameter=0.016, spacing=0.15), bottom_y=Bars(diameter=0.016, spacing=0.15))


def base(standard: str, wall: bool = False, V: float = 400.0, **changes: object) -> Project:
    project = one_pad(
        load=Load(V=V), **{"width": 2.0, "length": 2.0, "thickness": 0.5, "reinforcement": STEEL} | changes
    )
    if wall:
        point = project.actions.load_points[0].replaced(kind="concrete_wall", size_x=0.3, size_y=2.0)
        project = project.replaced(actions=project.actions.replaced(load_points=(point,)))
    return project.replaced(standards=project.standards.replaced(concrete=standard))


def check(project: Project, name: str, **settings: object) -> CheckResult:
    project = project.replaced(settings=project.settings.replaced(**settings))
    return evaluate_pad(project, project.pads[0]).check(name)


@pytest.mark.parametrize("standard", ["EN 1992-1-1:2004", "AS 3600:2018"])
@pytest.mark.parametrize(
    ("minutes", "axis"), [("30", 10), ("60", 20), ("90", 30), ("120", 40), ("180", 55), ("240", 65)]
)
def test_cover_by_fire(standard: str, minutes: str, axis: int) -> None:
    """The axis distance of table 5.8 less half a bar, where it is more than bond, durability and ground ask for."""
    without = check(base(standard), "cover").demand or 0.0
    found = check(base(standard), "cover", fire_resistance=minutes).demand
    assert found == pytest.approx(max(without, axis - 8.0))


def test_fire_with_aci_is_said_not_guessed() -> None:
    found = check(base("ACI 318-19"), "cover", fire_resistance="240")
    assert found.demand == pytest.approx(check(base("ACI 318-19"), "cover").demand)
    assert found.state is State.WARNS or "216" in found.message
    typed = check(base("ACI 318-19"), "cover", fire_resistance="240", cover_required=0.045)
    assert typed.demand == pytest.approx(45.0)


@pytest.mark.parametrize(
    ("where", "inches"),
    [
        ("against_ground", 3.0),
        ("ground_or_weather", 1.5),
        ("neither", 0.75),
        ("corrosive", 2.5),
    ],
)
def test_cover_by_aci_exposure(where: str, inches: float) -> None:
    found = check(base("ACI 318-19"), "cover", exposure_aci=where)
    assert found.demand == pytest.approx(1000 * inches * INCH)
    assert label(where) in found.message
    thick = base("ACI 318-19", reinforcement=STEEL.replaced(bottom_x=Bars(diameter=0.020, spacing=0.15)))
    more = {1.5: 2.0}.get(inches, inches)
    assert check(thick, "cover", exposure_aci=where).demand == pytest.approx(1000 * more * INCH)


@pytest.mark.parametrize("thickness", [0.7, 0.749, 0.75, 0.8, 1.2])
def test_as_asks_for_links_under_walls_from_750_mm(thickness: float) -> None:
    wall, column = (base("AS 3600:2018", wall=w, V=100.0, thickness=thickness) for w in (True, False))
    found = check(wall, "shear-x")
    if thickness < 0.75:
        assert (found.ratio or 0.0) < 1.0
    else:
        assert found.state is State.FAILS
        assert found.ratio == pytest.approx(max(thickness / 0.75, 1.001))
        assert "links" in found.message
    assert (check(column, "shear-x").ratio or 0.0) < 1.0
    assert (check(base("EN 1992-1-1:2004", wall=True, V=100.0, thickness=thickness), "shear-x").ratio or 0) < 1


def test_aci_spaces_bars_by_two_or_three_thicknesses() -> None:
    """A thin base: 2h under a column (8.7.2.2), 3h under a wall (7.7.2.3), at most 18 in."""
    for thickness in (0.2, 0.4):
        for wall, times in ((False, 2.0), (True, 3.0)):
            found = check(base("ACI 318-19", wall=wall, thickness=thickness, V=100.0), "spacing-x")
            assert found.capacity == pytest.approx(1000 * min(times * thickness, 18 * INCH))


def test_aci_steel_near_the_column_by_hand() -> None:
    """8.6.1.2: beyond phi 2 lambda_s sqrt(f'c) the least steel is 5 v b_o/(phi alpha_s f_y) over b_slab, alpha_s = 40
    inside."""
    project = base("ACI 318-19", V=1500.0)
    steps = working(project, project.pads[0], "minimum-x").recording.steps  # type: ignore[union-attr]

    def last(symbol: str, scope: str) -> float:
        return float(next(s.value for s in steps if s.symbol == symbol and s.scope.endswith(scope)).ravel()[0])

    d, v, b_o = (last(s, "x steel near the column") for s in ("d", "v_uv", "b_o"))
    assert b_o == pytest.approx(4 * (0.4 + d))
    limit = 0.75 * 2 * math.sqrt(30 * 145.0377377) / 145.0377377
    assert v > limit
    least = 5 * v * 1000 * b_o * 1000 / (0.75 * 40 * 500)
    found = check(project, "minimum-x")
    assert found.demand == pytest.approx(least, rel=1e-9)
    light = check(base("ACI 318-19", V=300.0), "minimum-x").demand or 0.0
    assert light == pytest.approx(0.0018 * 0.5e6, rel=1e-9)
    wall = check(base("ACI 318-19", V=1500.0, wall=True), "minimum-x").demand
    assert wall == pytest.approx(light)


def test_between_columns_the_top_bars_hold_the_shear() -> None:
    """Steel of the face in tension: more top bars raise the strength where the section hogs, bottom bars do not."""
    from tests.core.test_several_columns import pair

    project = pair(Load(V=800.0), Load(V=800.0))
    pad = project.pads[0]

    def strength(**faces: Bars) -> float:
        changed = project.replaced(pads=(pad.replaced(reinforcement=pad.reinforcement.replaced(**faces)),))
        return evaluate_pad(changed, changed.pads[0]).check("shear-x").capacity or 0.0

    strong = Bars(diameter=0.025, spacing=0.1)
    plain = strength()
    above, below = strength(top_x=strong), strength(bottom_x=strong)
    assert above > 1.1 * plain
    assert below == pytest.approx(plain, rel=0.02)


@pytest.mark.long
def test_shear_does_not_jump_where_the_moment_changes_its_sign() -> None:
    """Between two columns the section that governs passes the place without moment as they part."""
    from tests.core.test_several_columns import STEEL as FACES
    from tests.core.test_several_columns import pair

    strong = FACES.replaced(top_x=Bars(diameter=0.025, spacing=0.1))
    last = 0.0
    for step in range(120):
        apart = 1.6 + 0.02 * step
        project = pair(Load(V=900.0), Load(V=700.0), apart=apart, reinforcement=strong)
        found = evaluate_pad(project, project.pads[0]).check("shear-x").capacity or 0.0
        assert not last or abs(found / last - 1) < 0.06, apart
        last = found
