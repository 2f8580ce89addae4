"""The beam of a strap for drawings: shears and moments along it as envelopes of all situations."""

import numpy as np

from korbent.core.actions.tied import direction, size_along
from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.demand import BeamLine
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.straps.checks import beam_of


@remembered(16)
def along_strap(project: Project, pad: Pad) -> BeamLine | None:
    """Of the strap that ties this base, from the outer end of the base at the boundary to the face of the inner one; places from the middle
    of the base at the boundary. Of several its own where it is at the boundary, else the first. None where no strap ties it, or nothing
    acts."""
    mine = [s for s in project.straps if pad.name in (s.edge, s.inner)]
    strap = next((s for s in mine if s.edge == pad.name), mine[0] if mine else None)
    if strap is None:
        return None
    edge = project.pad(strap.edge)
    bench = bench_for(project, (edge,), np.zeros(1, dtype=int), table(edge))
    tie = bench.stands[0].edge_tie
    if tie is None or not len(bench.situations("concrete")):
        return None
    at, moment, shear = (v[0] for v in beam_of(bench, tie))
    size = float(size_along(bench.geometry, direction(bench.points[0], tie.points[0]))[0, 0])
    return BeamLine(
        "x", tuple(at[:, 0].tolist()), tuple(shear.min(axis=-1).tolist()), tuple(shear.max(axis=-1).tolist()),
        tuple(moment.min(axis=-1).tolist()), tuple(moment.max(axis=-1).tolist()), ((strap.edge, 0.0, size),),
        ("strap-shear", "strap-bottom", "strap-top"), f"{strap.name}: {strap.edge} to the face of {strap.inner}",
    )  # fmt: skip
