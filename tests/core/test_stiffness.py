"""Rigid or flexible: lambda L against a strip on springs solved as a plate, its limits, what is not known."""

import numpy as np
import pytest

from korbent.core.model import Project
from korbent.core.plates.mesh import GridMesh
from korbent.core.plates.solve import PlateOnSprings
from korbent.core.rafts.stiffness import FLEXIBLE, RIGID, Stiffness, stiffness_of
from korbent.verification.pad import one_pad
from tests.core.test_rafts import raft


def ends_over_middle(L: float, h: float, k: float, E: float) -> float:
    """Settlement of the ends over that of the middle of a strip with a load in the middle, as a plate that bends in one
    way."""
    n = 60
    mesh = GridMesh(np.linspace(-L / 2, L / 2, n + 1), np.array([-0.05, 0.05]), np.ones((n, 1), dtype=bool))
    plate = PlateOnSprings(mesh, np.full(n, h), E, 0.0, np.full(n, k))
    loads = np.zeros((plate.count, 1))
    x, _ = mesh.nodes
    loads[::3][np.abs(x) < 1e-9] = 1.0
    w = plate.solve(loads, tension=True).settlement[:, 0]
    return float(w[np.argmax(x)] / w[np.argmin(np.abs(x))])


def hetenyi(value: float) -> float:
    """The same by Hetenyi (1946): a finite beam with a load in its middle; value = lambda L."""
    return float(4 * np.cosh(value / 2) * np.cos(value / 2) / (np.cosh(value) + np.cos(value) + 2))


@pytest.mark.parametrize("value", [0.4, RIGID, 1.5, 2.2, FLEXIBLE])
def test_it_tells_how_much_less_the_ends_settle(value: float) -> None:
    """A plate of that lambda L settles at its ends as the closed form has it."""
    h, E, k = 0.2, 3e7, 2e4
    L = value / (3 * k / (E * h**3)) ** 0.25
    assert ends_over_middle(L, h, k, E) == pytest.approx(hetenyi(value), abs=0.02)


def test_at_the_limits() -> None:
    assert hetenyi(RIGID) > 0.95
    assert hetenyi(FLEXIBLE) < 0.05
    assert [Stiffness.word(v) for v in (0.5, 1.5, 4.0)] == ["rigid", "between rigid and flexible", "flexible"]


def test_of_a_base_by_its_ground_and_thickness() -> None:
    project = one_pad()
    pad = project.pads[0]
    found = stiffness_of(project, pad)
    assert found is not None
    assert found.y / found.x == pytest.approx(pad.length / pad.width)
    thicker = pad.replaced(thickness=1.0)
    other = stiffness_of(project.replaced(pads=(thicker,)), thicker)
    assert other is not None
    # the ground is much the same, h^(3/4) is not
    assert other.x / found.x == pytest.approx((0.5 / 1.0) ** 0.75 * (other.k / found.k) ** 0.25, rel=1e-9)
    typed: Project = raft(k=3e4)
    stiff = stiffness_of(typed, typed.pads[0])
    assert stiff is not None
    assert stiff.k == 3e4
    bare = project.replaced(ground=project.ground.replaced(boreholes=()))
    assert stiffness_of(bare, bare.pads[0]) is None
