"""Plain concrete, cover and bars along the sides, by hand."""

import math
from typing import Any

import pytest

from korbent.core.checks import State
from korbent.core.concrete.standards.aci318.section import PSI
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.evaluate import evaluate_pad
from korbent.core.model import (
    Bars,
    Load,
    Project,
    Reinforcement,
    edited,
)
from tests.core.concrete_pads import ACI, AS, EN, INCH, by, check

# plain concrete


def plain_pad(standard: str, **changes: Any) -> Project:
    return by(
        standard,
        {"base_concrete": "plain", "concrete_strength": 30.0},
        width=1.2,
        length=1.2,
        thickness=0.6,
        load=Load(V=400.0),
        **changes,
    )


@pytest.mark.parametrize("standard", NAMES)
def test_plain_bending_and_shear(standard: str) -> None:
    """Uniform net pressure on a cantilever of 0.4 m; the section less what the standard does not count."""
    project = plain_pad(standard)
    standard = ACI if standard.startswith("ACI") else standard  # both editions have the same chapter 14
    net = 400.0 / 1.44 + 18 * 0.6 * (-0.16 / 1.44)
    depth = {EN: 0.85 * 0.6, ACI: 0.6, AS: 0.6}[standard]
    root = math.sqrt(30 * PSI)
    f_ctd = 0.8 * 0.7 * 0.3 * 30 ** (2 / 3) / 1.5
    strength = {EN: f_ctd, ACI: 0.6 * 5 * root / PSI, AS: 0.6 * 0.6 * math.sqrt(30)}[standard]
    bending = check(project, "plain-x")
    assert bending.demand == pytest.approx(6 * net * 0.4**2 / 2 / depth**2 / 1000, rel=1e-6)
    assert bending.capacity == pytest.approx(strength, rel=1e-9)
    shear = check(project, "plain-shear-x")
    assert shear.demand == pytest.approx(0.0, abs=1e-9)  # the section at its thickness lies beyond the edge
    wide = edited(edited(project, ("pads", "P", "width"), 3.0), ("pads", "P", "length"), 3.0)
    assert check(wide, "plain-shear-x").demand == pytest.approx(
        (400.0 - 18 * 0.6 * 0.16) / 9 * (1.3 - depth) / depth / 1000, rel=1e-6
    )
    assert check(wide, "plain-shear-x").capacity == pytest.approx(
        {EN: f_ctd / 1.5, ACI: 0.6 * 4 / 3 * root / PSI, AS: 0.6 * 0.15 * 30 ** (1 / 3)}[standard], rel=1e-9
    )


def test_plain_punching_and_deduction() -> None:
    assert check(plain_pad(EN), "plain-punching").state is State.NOT_APPLICABLE
    wide = edited(edited(plain_pad(ACI), ("pads", "P", "width"), 3.0), ("pads", "P", "length"), 3.0)
    found = check(wide, "plain-punching")
    net = (400.0 - 18 * 0.6 * 0.16) / 9
    assert found.demand == pytest.approx((400 - 1.0 * net) / (4 * 1.0 * 0.6) / 1000, rel=1e-6)
    assert found.capacity == pytest.approx(0.6 * 2 * 4 / 3 * math.sqrt(30 * PSI) / PSI, rel=1e-9)
    on_soil = edited(wide, ("settings", "cast_against"), "soil")
    assert check(on_soil, "plain-x").demand == pytest.approx(
        (check(wide, "plain-x").demand or 0) * (0.6 / 0.55) ** 2, rel=1e-9
    )
    au = edited(edited(plain_pad(AS), ("pads", "P", "width"), 3.0), ("pads", "P", "length"), 3.0)
    assert check(au, "plain-punching").capacity == pytest.approx(0.6 * 0.2 * math.sqrt(30), rel=1e-9)


def test_a_plain_base_asks_for_no_bars_and_a_reinforced_one_for_no_tensile_strength() -> None:
    plain = evaluate_pad(plain_pad(EN), plain_pad(EN).pads[0])
    for name in ("bottom-x", "minimum-x", "anchorage-y", "cracks-x", "cover", "punching"):
        assert plain.check(name).state is State.NOT_APPLICABLE
    assert plain.check("bearing-concrete").ratio is not None
    assert not [c for c in evaluate_pad(by(), by().pads[0]).checks if c.check.id.startswith("plain")]


# cover and sides


@pytest.mark.parametrize(
    ("standard", "against", "needed"),
    [
        (EN, "blinding", 40.0),
        (EN, "soil", 75.0),
        (ACI, "blinding", 1.5 * INCH),
        (ACI, "soil", 3 * INCH),
        (AS, "blinding", 40.0),
        (AS, "soil", 50.0),
    ],
)
def test_cover_by_the_ground(standard: str, against: str, needed: float) -> None:
    found = check(
        by(
            standard,
            {"cast_against": against},
            reinforcement=Reinforcement(bottom_x=Bars(diameter=0.012, spacing=0.2)),
        ),
        "cover",
    )
    assert found.demand == pytest.approx(needed)
    assert found.state is (State.HOLDS if needed <= 50 else State.FAILS)


def test_bars_along_the_sides_of_thick_bases() -> None:
    assert check(by(thickness=0.7), "side-bars").state is State.NOT_APPLICABLE
    thick = by(thickness=1.1, level=-1.8)
    bare = check(thick, "side-bars")
    assert bare.state is State.WARNS
    assert "no bars along its sides" in bare.message
    bars = Reinforcement(sides=Bars(diameter=0.016, spacing=0.2))
    found = check(by(thickness=1.1, level=-1.8, reinforcement=bars), "side-bars")
    h_c = 2.5 * (0.05 + 0.008)
    assert found.demand == pytest.approx(0.5 * 0.3 * 30 ** (2 / 3) * h_c * 1e6 / 500, rel=1e-6)
    assert found.capacity == pytest.approx(math.pi * 64 / 0.2, rel=1e-9)
    wide = check(
        by(
            AS,
            thickness=0.9,
            level=-1.8,
            reinforcement=Reinforcement(sides=Bars(diameter=0.012, spacing=0.3)),
        ),
        "side-bars",
    )
    assert wide.ratio == pytest.approx(1.5)
