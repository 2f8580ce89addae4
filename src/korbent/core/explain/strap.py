"""The beam of a strap for drawings: shears and moments along it as envelopes of all situations."""

from dataclasses import replace

import numpy as np

from korbent.core.actions.tied import direction, size_along
from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.demand import BeamLine
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Strap
from korbent.core.model.project import Project
from korbent.core.straps.as_plates import ByPlates
from korbent.core.straps.checks import beam_of
from korbent.core.straps.second_look import compared, in_plates
from korbent.core.units import show, shown_unit
from korbent.core.working import Array
from korbent.words import say


def _mine(project: Project, pad: Pad) -> Strap | None:
    mine = [s for s in project.straps if pad.name in (s.edge, s.inner)]
    return next((s for s in mine if s.edge == pad.name), mine[0] if mine else None)


@remembered(16)
def along_strap(project: Project, pad: Pad) -> BeamLine | None:
    """Of the strap that ties this base, from the outer end of the base at the boundary to the face of the inner one;
    places from the middle of the base at the boundary. Of several its own where it is at the boundary, else the first.
    None where no strap ties it, or nothing acts."""
    strap = _mine(project, pad)
    if strap is None:
        return None
    edge = project.pad(strap.edge)
    bench = bench_for(project, (edge,), np.zeros(1, dtype=int), table(edge))
    tie = bench.stands[0].edge_tie
    if tie is None or not len(bench.situations("concrete")):
        return None
    at, moment, shear = (v[0] for v in beam_of(bench, tie))
    size = float(size_along(bench.geometry, direction(bench.points[0], tie.points[0]))[0, 0])
    plates, other = in_plates(project, strap), None
    if isinstance(plates, ByPlates):
        # shears below the base itself are no shears of the beam
        free = (plates.at >= size / 2 - 1e-9)[:, None]
        other = _line(plates.at, np.where(free, plates.shear, 0.0), plates.moment)
    return replace(
        _line(at[:, 0], shear, moment),
        columns=((strap.edge, 0.0, size),),
        checks=("strap-shear", "strap-bottom", "strap-top"),
        title=say("{strap}: {edge} to the face of {inner}", strap=strap.name, edge=strap.edge, inner=strap.inner),
        other=other,
    )


def _line(at: Array, shear: Array, moment: Array) -> BeamLine:
    """Envelopes of all situations, from (places, situations)."""
    low, high, least, most = (tuple(v.tolist()) for v in (shear.min(-1), shear.max(-1), moment.min(-1), moment.max(-1)))
    return BeamLine("x", tuple(at.tolist()), low, high, least, most, ())


def beside_words(project: Project, pad: Pad) -> tuple[str, ...]:
    """What plates make of the strap of a base, in short lines; none where it has no strap."""
    strap = _mine(project, pad)
    if strap is None:
        return ()
    found = compared(project, strap)
    if isinstance(found, str):
        return (say("no second look: {found}", found=found),)
    if isinstance(found.plates, str):
        return (say("no plates: {plates}", plates=found.plates),)
    u = project.showing
    plates, statics = (" and ".join(show(R, "kN", u) for R in one.R) for one in (found.plates, found.statics))
    w = " and ".join(show(1000 * v, "mm", u) for v in found.settled)
    return (
        say(
            "dashed: as plates, R {plates} {unit} (statics {statics})",
            plates=plates,
            unit=shown_unit("kN", u),
            statics=statics,
        ),
        say("columns settle {w} {unit} · {solved}", w=w, unit=shown_unit("mm", u), solved=found.solved),
    )
