"""The ground below a raft in a vertical cut: against the closed form below an even pressure, in a mirror, in a
drawing."""

import numpy as np
import pytest

from korbent.core.explain.ground_cut import GroundCut, ground_cut
from korbent.core.model import Project
from korbent.core.settlement.stress.rectangle import rectangle_stress
from korbent.demo import lindmere
from korbent.drawing.ground_cut import ground_cut_drawing
from tests.core.test_rafts import plate_of, raft


def cut(project: Project, axis: str = "x", at: float = 0.0) -> GroundCut:
    found = ground_cut(project, project.pads[0], axis, at)
    assert isinstance(found, GroundCut)
    return found


def upright(project: Project) -> Project:
    """The moments of the columns taken off: the same to both sides."""
    a = project.actions
    points = tuple(p.replaced(loads={c: q.replaced(My=0.0) for c, q in p.loads.items()}) for p in a.load_points)
    return project.replaced(actions=a.replaced(load_points=points))


def test_an_even_pressure_spreads_as_that_below_a_rectangle() -> None:
    """A raft so soft and evenly loaded that it presses evenly: Newmark's stress of the whole rectangle."""
    from korbent.core.model.plate import RaftLoad

    project = upright(raft(thickness=0.2, loads=(1e-3,) * 6))
    pad = project.pads[0]
    assert pad.plate is not None
    on_it = RaftLoad(x_from=-4.6, x_to=4.6, y_from=-2.4, y_to=2.4, case="G", pressure=60.0)
    project = project.replaced(pads=(pad.replaced(plate=pad.plate.replaced(loads=(on_it,))),))
    solved = plate_of(project, "settlement_long")
    p = solved.solution.pressure[:, :, 0]
    assert p.max() < 1.02 * p.min()
    found = cut(project)
    net = found.stress.max()
    middle = int(np.abs(found.x).argmin())
    depth = found.underside - found.z
    expected = rectangle_stress(np.zeros(1), np.zeros(1), np.array([9.2]), np.array([4.8]), np.maximum(depth, 1e-3))
    assert found.stress[middle] == pytest.approx(net * expected, rel=0.02)
    far = found.stress[0, -3]
    assert abs(far) < 0.05 * net


def test_it_dies_out_downwards_and_is_the_mirror_of_itself() -> None:
    project = raft(loads=(500.0,) * 6)
    found = cut(upright(project))
    assert found.stress[::-1] == pytest.approx(found.stress, rel=1e-6, abs=1e-6)
    middle = int(np.abs(found.x).argmin())
    assert found.stress[middle, 0] < 0.5 * found.stress[middle].max()
    assert np.all(np.diff(found.z) > 0)


def test_it_is_drawn_with_strata_lines_and_the_bent_base() -> None:
    project = lindmere()
    found = ground_cut(project, project.pad("R1"), "y", 1.8)
    assert isinstance(found, GroundCut)
    assert np.isnan(found.settled).any()  # through the pit of the lift
    drawing = ground_cut_drawing(found, project.showing)
    texts = "\n".join(drawing.texts)
    assert "added stress, kPa" in texts
    assert "Silty clay" in texts
    assert "times as large" in texts
    assert drawing.bounds[3] - drawing.bounds[1] == pytest.approx(found.underside + found.thickness - found.z[0])
    us = project.replaced(units="us")
    assert "ksf" in "\n".join(ground_cut_drawing(ground_cut(us, us.pad("R1"), "y", 1.8), us.showing).texts)


def test_without_ground_it_says_so() -> None:
    project = raft()
    bare = project.replaced(ground=project.ground.replaced(boreholes=()))
    assert ground_cut(bare, bare.pads[0], "x", 0.0) == "there is no borehole: describe the ground first"
