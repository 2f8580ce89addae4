"""The estimated error of a raft's moments: of the size of the true one, falls with the mesh, mirrored and scaled, said
where fields are."""

import numpy as np
import pytest

from korbent.core.evaluate import evaluate
from korbent.core.explain.raft import Field, raft_field
from korbent.core.explain.working import Working, working
from korbent.core.plates.element import POINTS, shape
from korbent.core.plates.recover import _of_elements
from korbent.core.rafts.solved import SolvedRaft, solved_raft
from korbent.drawing.raft import raft_drawing
from tests.core.test_rafts import bench_of, raft


def solved(size: float, **more: object) -> SolvedRaft:
    project = raft(mesh=size, **more)
    found = solved_raft(bench_of(project), project, "concrete")
    assert isinstance(found, SolvedRaft), found
    return found


def true_error(coarse: SolvedRaft, fine: SolvedRaft) -> float:
    """Of the moments within the coarse elements against those of a much finer mesh, in the mean of their energy."""
    plates, nu = coarse.plate.plates, coarse.plate.nu
    unknowns = _of_elements(coarse.plate, coarse.solution)
    x, y = (v[coarse.mesh.elements] for v in coarse.mesh.nodes)
    (fields,) = fine.fields
    off = whole = 0.0
    for k, (xi, eta) in enumerate(POINTS):
        at = shape(xi, eta)[0]
        own = plates.forces(unknowns, xi, eta)[0][:, :, 0]
        there = np.stack(
            [fine.mesh.at(v, x @ at, y @ at)[:, 0] for v in (fields.m_x, fields.m_y, fields.m_xy)], axis=-1
        )

        def energy(m: np.ndarray) -> np.ndarray:
            a, b, c = m.T
            return a**2 + b**2 - 2 * nu * a * b + 2 * (1 + nu) * c**2

        off += coarse.plate.points[:, k] @ energy(own - there)
        whole += coarse.plate.points[:, k] @ energy(there)
    return float(np.sqrt(off / whole))


@pytest.mark.long
def test_it_is_of_the_size_of_the_true_error_and_falls_with_the_mesh() -> None:
    fine = solved(0.1)
    found = []
    for size in (1.2, 0.8, 0.4):
        own = solved(size)
        found.append(float(own.moment_error[0]))
        assert 0.5 < found[-1] / true_error(own, fine) < 2.0, size
    assert found[0] > found[1] > found[2]


def test_it_does_not_depend_on_the_size_of_the_load_nor_on_the_side() -> None:
    once = solved(0.8)
    twice = solved(0.8, loads=(840, 1040, 920, 1220, 760, 1000))
    assert twice.moment_error == pytest.approx(once.moment_error, rel=0.2)
    assert once.moment_error.shape == (len(once.situations),)
    assert (once.moment_error > 0.01).all()


def test_it_is_said_with_the_field_and_in_the_working() -> None:
    project = raft(mesh=0.8)
    pad = project.pads[0]
    field = raft_field(project, pad, "m_x", "")
    assert isinstance(field, Field)
    assert field.error == pytest.approx(float(solved(0.8).moment_error.max()))
    drawn = raft_drawing(project, pad, evaluate(project).pads[0], field)
    assert any(f"moments to about {100 * field.error:.1f} %" in text for text in drawn.texts)
    found = working(project, pad, "bottom-x")
    assert isinstance(found, Working)
    step = found.recording.steps[found.recording.find("e_m", "raft_checks plate")]
    assert np.max(step.value) == pytest.approx(100 * field.error)
