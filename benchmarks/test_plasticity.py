"""Strips: slip lines, bounds against a bare solve of their largest program, and both bounds in two processes."""

import multiprocessing

import pytest

from korbent.core.plasticity.bounds import bound, lower, upper
from korbent.core.plasticity.section import Section, uniform
from korbent.core.plasticity.slip_lines import Strip, _exact, exact

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
