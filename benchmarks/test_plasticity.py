"""Strips: slip lines, bounds against a bare solve of their largest program, and both bounds in two processes."""

import multiprocessing
from dataclasses import replace

import pytest

from korbent.core.plasticity.bounds import bound, lower, upper
from korbent.core.plasticity.envelope import along
from korbent.core.plasticity.path import curve, mesh_for
from korbent.core.plasticity.section import Layer, Load, Section, layered, uniform
from korbent.core.plasticity.slip_lines import Strip, _exact, exact
from korbent.core.plasticity.way import Base, Stiffness, Way

SANDY = uniform(1.0, 0.0, 30.0, 18.0, 0.0)
CLAYEY = uniform(1.0, 40.0, 0.0, 18.0, 10.0)
MOST = 1500
"""Triangles of the finest mesh, about."""


@pytest.mark.parametrize("rough", [True, False], ids=["rough", "smooth"])
@pytest.mark.parametrize("c", [0.0, 10.0], ids=["weight-alone", "all"])
def test_exact_strip(benchmark: object, rough: bool, c: float) -> None:
    def fresh() -> None:
        _exact.cache_clear()
        exact(Strip(2.0, c, 30.0, 18.0, 2 * c, float(rough)))

    benchmark.pedantic(fresh, rounds=3)  # type: ignore[attr-defined]


@pytest.mark.parametrize("section", [SANDY, CLAYEY], ids=["sand", "clay"])
@pytest.mark.parametrize("side", ["lower", "upper"])
def test_bound_refined(benchmark: object, section: Section, side: str) -> None:
    """From the first mesh to the finest one."""
    benchmark.pedantic(lambda: bound(section, side, MOST), rounds=2)  # type: ignore[attr-defined, arg-type]


@pytest.mark.parametrize("section", [SANDY, CLAYEY], ids=["sand", "clay"])
@pytest.mark.parametrize("side", ["lower", "upper"])
def test_bound_largest_program(benchmark: object, section: Section, side: str) -> None:
    """The finest mesh alone."""
    mesh = bound(section, side, MOST).mesh  # type: ignore[arg-type]
    solve = lower if side == "lower" else upper
    benchmark.pedantic(lambda: solve(section, mesh), rounds=2)  # type: ignore[attr-defined]


def test_bracket_in_two_processes(benchmark: object) -> None:
    with multiprocessing.get_context("spawn").Pool(2) as pool:
        pool.starmap(bound, [(SANDY, "lower", 200), (SANDY, "upper", 200)])  # both have loaded what they need
        asked = [(SANDY, "lower", MOST), (SANDY, "upper", MOST)]
        benchmark.pedantic(lambda: pool.starmap(bound, asked), rounds=2)  # type: ignore[attr-defined]


LAID = layered(1.5, (Layer(0.0, 1.2, 0.0, 33.0, 18.0), Layer(1.2, 60.0, 30.0, 0.0, 9.0)), 12.0)
BASE = Base(LAID, (Stiffness(2e4), Stiffness(6e3, 0.5, 0.6)))


@pytest.mark.parametrize("most", [300, 900])
@pytest.mark.parametrize("shape", ["strip", "circle"])
def test_curve_with_its_mesh(benchmark: object, most: int, shape: str) -> None:
    """From the first mesh to collapse."""
    base = replace(BASE, round=shape == "circle")
    benchmark.pedantic(lambda: curve(base, most, (120.0,)), rounds=2)  # type: ignore[attr-defined]


def test_limit_load_of_its_mesh(benchmark: object) -> None:
    mesh = mesh_for(BASE, 900)
    benchmark.pedantic(lambda: Way(BASE, mesh).limit_of_mesh, rounds=2)  # type: ignore[attr-defined]


@pytest.mark.parametrize("side", ["lower", "upper"])
def test_bound_of_an_inclined_and_eccentric_load(benchmark: object, side: str) -> None:
    """The whole section, as one ray of an envelope."""
    section = along(LAID, Load((300.0, 30.0, 40.0)))
    benchmark.pedantic(lambda: bound(section, side, 900), rounds=2)  # type: ignore[attr-defined, arg-type]


@pytest.mark.parametrize("side", ["lower", "upper"])
def test_bound_beside_a_slope(benchmark: object, side: str) -> None:
    """The whole section, its first mesh between strata that the slope cuts."""
    section = replace(LAID, load=Load((1.5, 0.0, 0.0)), slope=15.0)
    benchmark.pedantic(lambda: bound(section, side, 900), rounds=2)  # type: ignore[attr-defined, arg-type]


@pytest.mark.parametrize("most", [300, 900])
def test_curve_with_a_push(benchmark: object, most: int) -> None:
    """A rigid strip that tilts, slides and lifts off, from the first mesh to collapse."""
    pushed = along(LAID, Load((300.0, 30.0, 40.0)))
    benchmark.pedantic(lambda: curve(replace(BASE, section=pushed), most), rounds=2)  # type: ignore[attr-defined]
