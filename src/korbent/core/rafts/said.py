"""What all checks of a raft say and record alike: its plate, a part that lifts or yields, why it has no solution."""

import numpy as np

from korbent.core.checks import CHECKS, Outcome, cannot
from korbent.core.concrete.several import Column
from korbent.core.plates.mesh import Box
from korbent.core.rafts.plate_of import Afloat, box_of
from korbent.core.rafts.solved import SolvedRaft
from korbent.core.working import Recorder
from korbent.words import say


def lifted(solved: SolvedRaft, situation: int) -> str:
    share = float(solved.solution.yielded[situation])
    yields = say("; the ground yields below {share:.0f} %", share=100 * share) if share else ""
    return (say("; a part lifts") if solved.solution.lifted[situation] else "") + yields


def unsolved(check: str, why: str) -> Outcome:
    """A plate that floats up or tips over is unstable; one that lacks something cannot be looked at."""
    if not isinstance(why, Afloat):
        return cannot(check, why)
    one = np.ones((1, 1))
    return Outcome(CHECKS[check], one, one, one, unstable=one > 0, because=why)


def record_plate(solved: SolvedRaft, record: Recorder) -> None:
    plate = solved.plate
    record.given("k_s", solved.k, "kN/m³", note=say("modulus of subgrade reaction: {source}", source=solved.source))
    record.given("h", solved.pad.thickness, "m", note=say("thickness"))
    softened = solved.softened[None] if (solved.softened < 1).any() else 1.0
    record.given("E_c", plate.E * softened / 1000, "MPa", note=say("of the concrete; crept where the load lasts"))
    record.given("nu", plate.nu, note=say("Poisson's ratio"))
    record.given(
        "n_u",
        plate.count,
        note=say("unknowns, in {elements} elements (DKMQ, Katili 1993)", elements=len(solved.mesh.elements)),
    )
    record.given(
        "r_o", solved.solution.residual, note=say("out of balance over the load, of all situations"), needs="n_u"
    )
    record.given(
        "e_m",
        100 * solved.moment_error[None],
        "%",
        reference="Zienkiewicz and Zhu 1987",
        note=say("estimated error of the moments of the elements, in the mean over the plate"),
        needs="n_u",
    )


def thickness_at(solved: SolvedRaft, column: Column) -> float:
    """Of the raft below a column: the greatest of its elements there."""
    low_x, high_x, low_y, high_y = box_of(column)
    x, y = solved.mesh.middles
    mine = (x > low_x) & (x < high_x) & (y > low_y) & (y < high_y)
    return float(solved.plate.h[mine].max()) if mine.any() else solved.pad.thickness


def thickened(solved: SolvedRaft, x: float, y: float) -> list[Box]:
    """The thickenings within which a place lies."""
    plate = solved.pad.plate
    boxes = [t.box for t in plate.thickenings] if plate else []
    return [b for b in boxes if b[0] - 1e-9 <= x <= b[1] + 1e-9 and b[2] - 1e-9 <= y <= b[3] + 1e-9]


def thickness_beside(solved: SolvedRaft, box: Box) -> float | None:
    """Least thickness of the raft right outside a box; none where all around it is an edge."""
    mesh, e = solved.mesh, 1e-6
    x, y = (v[mesh.elements] for v in mesh.nodes)
    touches = ((x > box[0] - e) & (x < box[1] + e) & (y > box[2] - e) & (y < box[3] + e)).any(axis=1)
    beside = touches & ~mesh.within(box)
    return float(solved.plate.h[beside].min()) if beside.any() else None
