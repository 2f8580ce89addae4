"""A second look at a strap beside statics: its bases as plates on springs, and as stiff ones."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bench import Bench, bench_for
from korbent.core.cache import MEGABYTE, Cache, remembered
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad, Strap
from korbent.core.model.project import Project
from korbent.core.plates.solve import UnsolvedError
from korbent.core.settlement.neighbours import settled
from korbent.core.settlement.pressing import pressing_of
from korbent.core.straps.as_plates import ByPlates, as_plates_of, by_plates
from korbent.core.straps.checks import beam_of, reactions
from korbent.core.straps.on_springs import pair_of, solved_pair
from korbent.words import say

LEAST_FREE = 0.05
"""Of a beam between the faces of the bases, m."""


@dataclass(frozen=True)
class Look:
    """What presses below both bases (kN) and the greatest moment of the beam in size (kNm)."""

    R: tuple[float, float]
    M: float


@dataclass(frozen=True)
class Compared:
    """In the situation in which the beam bends most by statics. Weights of the bases are left out of all."""

    statics: Look
    plates: Look | str
    """Or why there are none."""
    stiff: Look
    """Bases that do not bend, on springs that pull too; the moments at the faces."""
    settled: tuple[float, float]
    """Of the plates in the middle of both columns, m; nan without them."""
    solved: str
    """How the plates were solved."""


@remembered(32)
def compared(project: Project, strap: Strap) -> Compared | str:
    """All looks at a strap of a project; or why there is no second one."""
    bench, k = _standing(project, strap)
    tie = bench.stands[0].edge_tie
    if isinstance(k, str):
        return k
    assert tie is not None
    found = solved_pair(pair_of(bench, k))
    R1, R2, _ = (v[0] for v in reactions(bench, tie))
    _, moment, _ = (v[0] for v in beam_of(bench, tie))
    size = np.abs(moment).max(axis=0)
    i = int(size.argmax())

    def look(R: tuple[np.ndarray, np.ndarray], M: np.ndarray) -> Look:
        return Look((float(R[0][i]), float(R[1][i])), float(M[i]))

    stiff = look(found.R, np.abs(np.stack(found.at_faces)).max(axis=0))
    statics, plates = look((R1, R2), size), in_plates(project, strap)
    if isinstance(plates, str):
        return Compared(statics, plates, stiff, (np.nan, np.nan), "")
    w = float(plates.settled[0][i]), float(plates.settled[1][i])
    by = look(plates.R, np.abs(plates.moment).max(axis=0))
    return Compared(statics, by, stiff, w, plates.words())


@remembered(32)
def in_plates(project: Project, strap: Strap) -> ByPlates | str:
    """The strap as plates in all situations of concrete; or why not."""
    bench, k = _standing(project, strap)
    if isinstance(k, str):
        return k
    # what is edited elsewhere moves the springs by a hair only: the plates stay
    near, far = (float(f"{v:.4g}") for v in k)
    try:
        tied = as_plates_of(bench, (near, far))
    except UnsolvedError as error:
        return str(error)

    def made() -> ByPlates | str:
        try:
            return by_plates(tied)
        except UnsolvedError as error:
            return str(error)

    return _solved.of(tied.key, None, made)


_solved: Cache[ByPlates | str] = Cache(8 * MEGABYTE)


def _standing(project: Project, strap: Strap) -> tuple[Bench, tuple[float, float] | str]:
    """The base at the boundary, and the springs below both or why there are none: pressure over settlement under the
    lasting load."""
    edge, inner = project.pad(strap.edge), project.pad(strap.inner)
    bench = bench_for(project, (edge,), np.zeros(1, dtype=int), table(edge))
    if any(sum(name in (s.edge, s.inner) for s in project.straps) > 1 for name in (strap.edge, strap.inner)):
        return bench, say("one of its bases is tied by several straps: the second look is at a pair")
    if bench.stands[0].edge_tie is None or not len(bench.situations("concrete")):
        return bench, bench.no_combination("concrete")
    near, far = (_subgrade(project, pad) for pad in (edge, inner))
    if near is None or far is None:
        return bench, say("a base settles by nothing that is known")
    pair = pair_of(bench, (near, far))
    if pair.apart - sum(pair.sizes) / 2 < LEAST_FREE:
        return bench, say("its bases touch: no beam is free between them")
    return bench, (near, far)


def _subgrade(project: Project, pad: Pad) -> float | None:
    """Net pressure of a base over its settlement under the lasting load, kN/m3."""
    found = settled(project).get(pad.name)
    if found is None:
        return None
    index = [p.name for p in project.pads].index(pad.name)
    q, s = float(pressing_of(project)[index].pressure.max()), float(found.total.max())
    return q / s if q > 0 and s > 1e-6 else None
