"""Presumed pressures over depth and width, and their increase for short-term actions."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from korbent.core.bearing.presumed import presumed_at
from korbent.core.evaluate import evaluate
from korbent.core.explain.working import Working, working
from korbent.core.model import Project, Settings, edited
from korbent.demo import redstem

GRID = tuple((d, w, 100.0 + 40.0 * d + 15.0 * w + 8.0 * d * w) for d in (0.5, 1.0, 2.0) for w in (1.0, 2.0, 4.0))


def at(settings: Settings, depth: float, width: float) -> float:
    found = presumed_at(settings, np.array([depth]), np.array([width]))
    assert found is not None
    return float(found[0])


@given(st.floats(0.5, 2.0), st.floats(1.0, 4.0))
def test_a_bilinear_table_is_met_between_its_rows(depth: float, width: float) -> None:
    """A surface that is itself bilinear is reproduced exactly."""
    expected = 100.0 + 40.0 * depth + 15.0 * width + 8.0 * depth * width
    assert at(Settings(presumed_table=GRID), depth, width) == pytest.approx(expected, rel=1e-12)


def test_beyond_the_table_its_outermost_value_counts() -> None:
    settings = Settings(presumed_table=GRID)
    assert at(settings, 9.0, 9.0) == at(settings, 2.0, 4.0)
    assert at(settings, 0.0, 0.1) == at(settings, 0.5, 1.0)
    by_depth = Settings(presumed_table=((1.0, 0.0, 150.0), (0.5, 0.0, 100.0)))
    assert at(by_depth, 0.75, 3.0) == pytest.approx(125.0)
    assert presumed_at(Settings(), np.array(1.0), np.array(1.0)) is None
    assert at(Settings(presumed_pressure=120.0), 1.0, 1.0) == 120.0


def test_a_table_with_a_hole_is_refused_with_its_place() -> None:
    with pytest.raises(ValidationError, match=r"at the depth 1 m a pressure for the width 2 m is missing"):
        Settings(presumed_table=((0.5, 1.0, 100.0), (0.5, 2.0, 110.0), (1.0, 1.0, 120.0)))
    with pytest.raises(ValidationError, match="stands twice"):
        Settings(presumed_table=((0.5, 1.0, 100.0), (0.5, 1.0, 110.0)))


def test_wind_takes_the_increase_and_the_rest_does_not() -> None:
    """Redstem: 2,400 psf three feet deep, four thirds of it with wind."""
    project = redstem()
    pad = project.pad("F1")
    found = working(project, pad, "presumed-pressure")
    assert isinstance(found, Working)
    steps = {s.symbol: s.value for s in found.recording.steps if "presumed" in s.scope}
    shorts = np.ravel(steps["k_short"])
    assert set(np.round(shorts, 9)) == {1.0, round(4 / 3, 9)}
    psf = 0.0478802589803
    assert float(np.ravel(steps["q_usual"])[0]) == pytest.approx(2400 * psf, rel=1e-6)
    deeper = edited(project, ("pads", "F1", "level"), pad.level - 0.3048)
    before, after = (evaluate(p).pad("F1").check("presumed-pressure") for p in (project, deeper))
    assert after.capacity is not None
    assert before.capacity is not None
    assert after.capacity > before.capacity


def test_the_table_stands_for_the_one_value(demo: Project) -> None:
    table = edited(demo, ("settings", "presumed_table"), ((0.0, 0.0, 280.0),))
    a, b = (evaluate(p).pad("P7").check("presumed-pressure") for p in (demo, table))
    assert a.ratio == pytest.approx(b.ratio)
    doubled = edited(table, ("settings", "presumed_short"), 2.0)
    c = evaluate(doubled).pad("P7").check("presumed-pressure")
    assert c.ratio is not None
    assert b.ratio is not None
    assert c.ratio <= b.ratio
