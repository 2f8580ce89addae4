"""A rib of a raft for drawings: shears and moments along it as envelopes of all situations."""

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.demand import BeamLine
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.plate_of import box_of
from korbent.core.rafts.rib_checks import along_ribs
from korbent.core.rafts.ribs import stands_on
from korbent.core.rafts.solved import solved_raft
from korbent.words import say


@remembered(16)
def along_rib(project: Project, pad: Pad, name: str) -> BeamLine | str:
    """The T-section of a rib with the plate in its flange, from end to end; places from the middle of the raft. Or why
    there is nothing.

    Raises:
        KeyError: when the raft has no such rib.
    """
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    solved = solved_raft(bench, project, "concrete")
    if isinstance(solved, str):
        return solved
    found = next((one for one in along_ribs(solved) if one.rib.name == name), None)
    if found is None:
        raise KeyError(name)
    columns = []
    for column in solved.columns:
        x0, x1, y0, y1 = box_of(column)
        low, high = (x0, x1) if found.rib.axis == "x" else (y0, y1)
        if stands_on(column, found.rib) and found.place[0] - 1e-6 <= (low + high) / 2 <= found.place[-1] + 1e-6:
            columns.append((column.name, (low + high) / 2, high - low))
    V, M = found.shear, found.moment

    def row(values: np.ndarray) -> tuple[float, ...]:
        return tuple(map(float, values))

    return BeamLine(
        found.rib.axis,
        row(found.place),
        row(V.min(axis=-1)),
        row(V.max(axis=-1)),
        row(M.min(axis=-1)),
        row(M.max(axis=-1)),
        tuple(columns),
        ("rib-shear", "rib-bottom", "rib-top"),
        say("rib {name} with {width:.2f} m of the plate", name=name, width=found.flange.width),
        row(found.torsion.min(axis=-1)),
        row(found.torsion.max(axis=-1)),
    )
