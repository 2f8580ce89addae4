"""Columns close together may punch through as one."""

import numpy as np
import pytest

from korbent.core.bench import bench_for
from korbent.core.checks import CheckResult, State, reduced
from korbent.core.concrete.checks import concrete_checks
from korbent.core.geometry import table
from korbent.core.model import Load, Project
from korbent.core.working import SILENT
from korbent.verification.pad import one_pad
from tests.core.test_several_columns import STEEL, pair

STANDARDS = ("EN 1992-1-1:2004", "ACI 318-19", "AS 3600:2018")


def punching(project: Project) -> CheckResult:
    pad = project.pads[0]
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    found = next(o for o in concrete_checks(bench, SILENT) if o.check.id == "punching")
    return reduced(found, pad.name)


@pytest.mark.parametrize("standard", STANDARDS)
def test_two_halves_of_a_column_are_that_column(standard: str) -> None:
    """Two columns of half the width side by side punch as the one they make."""
    project = pair(Load(V=700.0), Load(V=700.0), apart=0.4, standard=standard)
    a = project.actions
    halves = a.replaced(load_points=tuple(p.replaced(size_x=0.4, size_y=0.4) for p in a.load_points))
    project = project.replaced(actions=halves)
    one = one_pad(width=5.0, length=2.2, thickness=0.6, load=Load(V=1400.0), reinforcement=STEEL)
    point = one.actions.load_points[0].replaced(size_x=0.8, size_y=0.4)
    one = one.replaced(
        actions=one.actions.replaced(load_points=(point,)),
        standards=one.standards.replaced(concrete=standard),
    )
    together, whole = punching(project), punching(one)
    assert together.message.startswith("C+D")
    assert together.ratio == pytest.approx(whole.ratio, rel=1e-9)


@pytest.mark.long
@pytest.mark.parametrize("standard", STANDARDS)
def test_nothing_jumps_as_two_columns_part(standard: str) -> None:
    last, widest = None, 0.0
    for apart in np.linspace(0.5, 4.0, 120):
        project = pair(Load(V=900.0), Load(V=500.0, My=40.0), apart=float(apart), standard=standard)
        ratio = punching(project).ratio or 0.0
        if last is not None:
            widest = max(widest, abs(ratio - last) / last)
        last = ratio
    # 30 mm a step
    assert widest < 0.06


@pytest.mark.parametrize("standard", STANDARDS)
def test_far_apart_each_is_alone(standard: str) -> None:
    project = pair(Load(V=800.0), Load(V=500.0), standard=standard)
    assert "+" not in punching(project).message


def test_the_drawing_shows_the_common_perimeter() -> None:
    from korbent.core.evaluate import evaluate
    from korbent.drawing.primitives import Line, Polygon
    from korbent.drawing.reinforcement import from_above

    project = pair(Load(V=700.0), Load(V=700.0), apart=0.5)
    result = evaluate(project).pads[0]
    assert result.check("punching").message.startswith("C+D")
    drawing = from_above(project, project.pads[0], result, "perimeter", "bottom", {"x": None, "y": None})
    xs = [x for s in drawing.shapes if isinstance(s, Line | Polygon) for x, _ in s.points]
    assert xs
    assert result.check("punching").state in (State.HOLDS, State.FAILS)
