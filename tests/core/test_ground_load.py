"""Quick start of a settlement against closed forms: a tank on one layer, time by Terzaghi, invariants of the stack."""

import math

import pytest
from pydantic import ValidationError

from korbent.core.quick.ground_load import ENOUGH, GroundLoad, Layer, in_words, settled

YEAR = 365.25


def below_middle(R: float, H: float, q: float, E: float, n: int = 20_000) -> float:
    """Settlement of the middle of a tank on a layer that cannot give sideways: the stress on the axis of a circle
    (Boussinesq, integrated by Love 1929) over the stiffness, summed in thin slices."""
    dz = H / n
    return sum((1 - (1 + (R / ((i + 0.5) * dz)) ** 2) ** -1.5) * dz for i in range(n)) * q / E


@pytest.mark.parametrize(
    ("R", "H", "q", "E"),
    [(10.0, 4.0, 80.0, 8_000.0), (3.0, 9.0, 150.0, 12_000.0), (25.0, 2.0, 40.0, 2_000.0)],
)
def test_a_tank_on_one_layer_by_its_closed_form(R: float, H: float, q: float, E: float) -> None:
    load = GroundLoad(kind="tank", size_x=2 * R, pressure=q, layers=(Layer(thickness=H, stiffness=E),))
    found = dict(settled(load).marks)
    assert found["middle"] == pytest.approx(below_middle(R, H, q, E), rel=2e-3)
    assert 0.3 * found["middle"] < found["edge"] < 0.6 * found["middle"]


def test_time_by_terzaghi() -> None:
    """A wide load on a thin layer that drains upwards: U = 0.9 at Tv = 0.848 (Terzaghi 1943, uniform excess
    pressure)."""
    H, cv = 3.0, 1.5 / YEAR
    load = GroundLoad(kind="tank", size_x=300.0, layers=(Layer(thickness=H, consolidation=cv),), water=0.0)
    assert settled(load).until == pytest.approx(0.848 * H**2 / cv, rel=1e-2)
    # halfway: U = 0.5 at Tv = 0.197
    assert settled(load.replaced(degree=0.5)).until == pytest.approx(0.197 * H**2 / cv, rel=1e-2)
    # between layers that drain it takes a quarter
    both = (Layer(thickness=0.01, stiffness=1e6), *load.layers, Layer(thickness=1.0, stiffness=1e6))
    assert settled(load.replaced(layers=both)).until == pytest.approx(0.848 * H**2 / cv / 4, rel=2e-2)
    assert settled(load.replaced(layers=(Layer(thickness=H),))).until == pytest.approx(0.0, abs=1.0)


def test_a_layer_cut_in_two_changes_nothing() -> None:
    one = GroundLoad(layers=(Layer(thickness=6.0, stiffness=6_000.0, consolidation=3.0 / YEAR),))
    two = GroundLoad(layers=tuple(Layer(thickness=t, stiffness=6_000.0, consolidation=3.0 / YEAR) for t in (2.5, 3.5)))
    a, b = settled(one), settled(two)
    for (name, value), (_, other) in zip(a.marks, b.marks):
        assert other == pytest.approx(value, rel=2e-3), name
    assert b.until == pytest.approx(a.until, rel=1e-2)
    assert sum(b.by_layer) == pytest.approx(a.by_layer[0], rel=2e-3)
    assert b.share == pytest.approx(a.share, rel=2e-2)


def test_each_layer_adds_up_and_twice_the_load_is_twice_the_settlement() -> None:
    load = GroundLoad()
    found, twice = settled(load), settled(load.replaced(pressure=2 * load.pressure))
    assert sum(found.by_layer) == pytest.approx(found.marks[0][1], rel=1e-3)
    for (_, a), (_, b) in zip(found.marks, twice.marks):
        assert b == pytest.approx(2 * a, rel=1e-9)
    assert twice.share == pytest.approx(2 * found.share, rel=1e-9)
    assert [name for name, _ in found.marks] == ["middle", "edge", "corner"]
    assert found.marks[0][1] > found.marks[1][1] > found.marks[2][1]


def test_whether_the_layers_reach_deep_enough() -> None:
    shallow = settled(GroundLoad(layers=(Layer(thickness=3.0),)))
    assert shallow.share > ENOUGH
    assert not shallow.is_deep_enough
    assert settled(GroundLoad(layers=(Layer(thickness=25.0),))).is_deep_enough


def test_a_strip_is_the_long_pad_and_a_bank_weighs_its_fill() -> None:
    strip = settled(GroundLoad(kind="strip", size_x=2.0))
    long = settled(GroundLoad(kind="pad", size_x=2.0, size_y=100.0))
    assert strip.marks[0][1] == pytest.approx(long.marks[0][1], rel=1e-6)
    wide = GroundLoad(kind="embankment", size_x=400.0, size_y=400.0, height=2.0)
    whole = sum(2.0 * 19.0 * layer.thickness / layer.stiffness for layer in wide.layers)
    assert settled(wide).marks[0][1] == pytest.approx(whole, rel=5e-3)


@pytest.mark.parametrize(
    ("changes", "says"),
    [
        ({"layers": ()}, "type a layer"),
        ({"founded": 13.0}, "make it shallower"),
        ({"founded": 20.0}, "make it shallower"),
    ],
)
def test_what_cannot_be_says_why(changes: dict[str, object], says: str) -> None:
    with pytest.raises(ValueError, match=says):
        settled(GroundLoad(**changes))  # type: ignore[arg-type]


@pytest.mark.parametrize("changes", [{"degree": 1.0}, {"size_x": 0.0}, {"pressure": -5.0}, {"kind": "tunnel"}])
def test_wrong_numbers_are_refused(changes: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        GroundLoad(**changes)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("days", "text"),
    [(0.2, "at once"), (12.0, "12 days"), (91.0, "3 months"), (3.5 * YEAR, "3.5 years"), (math.inf, "never")],
)
def test_times_in_words(days: float, text: str) -> None:
    assert in_words(days) == text
