"""Settlement of a raft against its load: at its middle, its edges and its corners, up to what the ground bears."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.several import columns_of
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.plates.mesh import Mesh
from korbent.core.plates.solve import PlateOnSprings, UnsolvedError
from korbent.core.rafts.on_strata import layered_below
from korbent.core.rafts.plate_of import gross_pressure, springs_of, subgrade_of, unsolved_words
from korbent.core.working import SILENT, Array
from korbent.words import say

SHARES = tuple(k / 10 for k in range(1, 21))
"""Of the load, where the ground is springs."""
SHARES_ON_STRATA = (0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 2.0)
"""Of the load, where the strata are found anew for each."""


@dataclass(frozen=True)
class RaftCurve:
    """Settlement under shares of the lasting combination that presses most: all that it puts on the ground, water taken
    off, grows alike."""

    situation: str
    load: float
    """All that presses on the ground under the whole combination, kN."""
    shares: Array
    """Rising, (shares,)."""
    places: tuple[tuple[str, float, float], ...]
    """Name, x and y on the raft, m."""
    settlement: Array
    """m, (places, shares); nan in openings."""
    ended: str
    """Why it goes no further than the last share; '' where it goes as far as was asked for."""


@remembered(16)
def raft_curve(project: Project, pad: Pad) -> RaftCurve | str:
    """Settlement against load of a raft alone; or why there is none. Under the whole load it is that of the raft's own
    check.

    On springs the plate is solved for each share, with lift-off and the greatest pressure; on the strata their
    stiffness is found anew for each."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    plate = pad.plate
    assert plate is not None
    situations = bench.situations("settlement_long")
    if not len(situations):
        return bench.no_combination("settlement_long")
    k, source = subgrade_of(bench, project)
    if k is None:
        return source
    columns = tuple(columns_of(bench, situations))
    _, late = springs_of(bench, k, columns)
    most = int(np.argmax(bench.forces(situations, SILENT).V[0]))
    gross = gross_pressure(bench, situations, late, columns)[:, :, most : most + 1]
    load = late.load(gross)
    shares = SHARES_ON_STRATA if plate.ground == "layers" else SHARES
    found, ended = _raised(bench, project, late, load, shares)
    if not found:
        return ended
    where = _places(pad, late.mesh)
    depth = np.stack([_at(late.mesh, w, where) for w in found], axis=1)
    given = np.array(shares[: len(found)])
    if plate.ground != "layers":  # springs are at rest without load
        depth = np.concatenate([np.where(np.isnan(depth[:, :1]), np.nan, 0.0), depth], axis=1)
        given = np.concatenate([[0.0], given])
    return RaftCurve(situations.label(most), float(load[::3].sum()), given, where, depth, ended)


def _raised(
    bench: Bench, project: Project, springs: PlateOnSprings, load: Array, shares: tuple[float, ...]
) -> tuple[list[Array], str]:
    """(settlement of the nodes under each share, as far as it is held; why no further)."""
    plate = bench.pads[0].plate
    assert plate is not None
    found: list[Array] = []
    for share in shares:
        try:
            on = springs
            if plate.ground == "layers":
                below = layered_below(bench, project, springs, share)
                if isinstance(below, str):
                    return found, below
                on = springs.on(below.k)
            solution = on.solve(share * load, not plate.lifts, plate.greatest)
        except UnsolvedError as error:
            return found, say("at {share:.0%} of the load {why}", share=share, why=unsolved_words(error, ()))
        found.append(solution.settlement[:, 0])
    return found, ""


def _places(pad: Pad, mesh: Mesh) -> tuple[tuple[str, float, float], ...]:
    """Middle, edges and corners."""
    (west, east), (south, north) = (mesh.lines_x[[0, -1]], mesh.lines_y[[0, -1]])
    mid_x, mid_y = (west + east) / 2, (south + north) / 2
    named = (
        (say("middle"), mid_x, mid_y),
        (say("edge −x"), west, mid_y),
        (say("edge +x"), east, mid_y),
        (say("edge −y"), mid_x, south),
        (say("edge +y"), mid_x, north),
        (say("corner −x −y"), west, south),
        (say("corner +x −y"), east, south),
        (say("corner −x +y"), west, north),
        (say("corner +x +y"), east, north),
    )
    return tuple((name, float(x), float(y)) for name, x, y in named)


def _at(mesh: Mesh, values: Array, places: tuple[tuple[str, float, float], ...]) -> Array:
    """Values of the nodes at places, nan in openings, (places,)."""
    at = mesh.on_places(values)
    both = np.stack([np.nan_to_num(at), mesh.seen.astype(float)], axis=-1).reshape(*mesh.grid, 2)
    from scipy.interpolate import RegularGridInterpolator  # half a second to load

    found, known = RegularGridInterpolator((mesh.lines_x, mesh.lines_y), both)([p[1:] for p in places]).T
    return np.where(known > 1 - 1e-9, found, np.nan)
