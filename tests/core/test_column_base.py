"""Column on the base and its dowels, by hand in the units of the standards."""

import math
from typing import Any

import pytest

from korbent.core.checks import State
from korbent.core.concrete.standards.aci318.section import PSI
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.model import (
    Dowels,
    Load,
    Pedestal,
    Project,
)
from tests.core.concrete_pads import ACI, AS, EN, INCH, by, check

# column on the base


@pytest.mark.parametrize(
    ("standard", "spread", "strength"),
    [
        # 0.4 m column, h = 0.5 m, 0.8 m to the nearest edge
        (EN, 1 + 0.5 / 0.4, 20.0),
        (ACI, 2.0, 0.65 * 0.85 * 30),
        (AS, 2.0, 0.6 * 0.9 * 30),
    ],
)
def test_a_column_on_the_middle_of_the_base(standard: str, spread: float, strength: float) -> None:
    found = check(by(standard, load=Load(V=1200.0)), "bearing-concrete")
    assert found.demand == pytest.approx(1200 / 0.16 / 1000)
    assert found.capacity == pytest.approx(spread * strength)


@pytest.mark.parametrize("standard", NAMES)
def test_at_an_edge_nothing_spreads(standard: str) -> None:
    found = check(by(standard, load=Load(V=300.0), offset_x=0.8), "bearing-concrete")
    middle = check(by(standard, load=Load(V=300.0)), "bearing-concrete")
    assert found.capacity is not None
    assert middle.capacity is not None
    assert found.capacity < middle.capacity
    assert found.capacity == pytest.approx({EN: 20.0, AS: 0.6 * 0.9 * 30}.get(standard, 0.65 * 0.85 * 30))


# dowels


def doweled(standard: str = EN, **changes: Any) -> Project:
    return by(standard, dowels=Dowels(number=4, diameter=0.020), **changes)


def test_without_dowels_nothing_is_said_of_them() -> None:
    for name in ("dowels", "dowels-steel", "dowels-anchorage"):
        assert check(by(), name).state is State.NOT_APPLICABLE


@pytest.mark.parametrize(("standard", "share"), [(EN, 0.002), (ACI, 0.005), (AS, 0.01)])
def test_least_dowels(standard: str, share: float) -> None:
    found = check(doweled(standard), "dowels-steel")
    assert found.demand == pytest.approx(share * 160_000)
    assert found.capacity == pytest.approx(4 * math.pi * 100)


@pytest.mark.parametrize("standard", NAMES)
def test_dowels_carry_what_a_pedestal_of_their_size_would(standard: str) -> None:
    """The joint is a section of the column with the dowels: the same as a pedestal with these sizes and bars."""
    # both moments are beyond the least eccentricity, which is the pedestal's own
    load = Load(V=500.0, Hx=10.0, Mx=30.0, My=60.0)
    joint = check(doweled(standard, load=load), "dowels")
    # the pedestal ends just above the base, so that it weighs next to nothing
    as_pedestal = by(
        standard,
        load=load,
        pedestal=Pedestal(size_x=0.4, size_y=0.4, top=-0.7 + 1e-9, bars=4, diameter=0.020),
    )
    assert joint.ratio == pytest.approx(check(as_pedestal, "pedestal").ratio or 0, rel=1e-6)


def test_anchorage_of_dowels_in_compression_and_in_tension() -> None:
    there = 500 - 50 - 32
    pressed = check(doweled(load=Load(V=900.0)), "dowels-anchorage")
    assert pressed.capacity == pytest.approx(there)
    # the concrete bears it all: the least length counts, 10 diameters
    assert pressed.demand == pytest.approx(200.0)
    pulled = check(doweled(load=Load(V=100.0, My=80.0)), "dowels-anchorage")
    fctm = 0.3 * 30 ** (2 / 3)
    f_bd = 2.25 * 0.7 * fctm / 1.5
    share = min(1.0, (80 / 0.4 / 0.8 - 50) / (2 * math.pi * 100 * (500 / 1.15) / 1000))
    assert pulled.demand == pytest.approx(max(0.7 * 20 / 4 * share * 500 / 1.15 / f_bd, 200.0), rel=1e-6)
    aci = check(doweled(ACI, load=Load(V=100.0, My=80.0)), "dowels-anchorage")
    psi_c = 30 * PSI / 15000 + 0.6
    hook = 500 * PSI * psi_c / (55 * math.sqrt(30 * PSI)) * (20 / INCH) ** 1.5 * INCH
    assert aci.demand == pytest.approx(max(hook, 8 * 20, 6 * INCH), rel=1e-6)
    australian = check(doweled(AS, load=Load(V=100.0, My=80.0)), "dowels-anchorage")
    assert australian.demand == pytest.approx(
        max(0.5 * 500 * 20 / (1.12 * math.sqrt(30)), 0.058 * 500 * 20) / 2, rel=1e-6
    )
