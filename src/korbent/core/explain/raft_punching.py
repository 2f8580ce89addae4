"""Where the columns of a raft would punch through: the perimeter that governs for each, as it runs on the plan of the
raft."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.cache import remembered
from korbent.core.concrete.critical_section import critical_section
from korbent.core.concrete.pad import ConcretePad, clear_distances, concrete_pad, too_thin, under_concrete
from korbent.core.concrete.punching import punching
from korbent.core.concrete.punching.around import perimeter_around
from korbent.core.concrete.several import Column
from korbent.core.concrete.standards.protocol import is_searching
from korbent.core.concrete.standards.registry import NAMES
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.rafts.checks import punching_columns
from korbent.core.rafts.punching import seen_by
from korbent.core.rafts.solved import solved_raft
from korbent.core.working import SILENT

Place = tuple[float, float]


@dataclass(frozen=True)
class Punched:
    """What governs punching of one column, or of a thicker part."""

    name: str
    ratio: float
    share: float
    """Distance of the perimeter over the effective depth."""
    lines: tuple[tuple[Place, ...], ...]
    """Parts of the perimeter that do not run along an edge, from the middle of the raft, m."""


@remembered(16)
def punched(project: Project, pad: Pad) -> tuple[Punched, ...]:
    """Of every column that may punch; none where nothing is known yet."""
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    if bench.standards.concrete not in NAMES or bench.settings.base_concrete == "plain":
        return ()
    solved = solved_raft(bench, project, "concrete")
    if isinstance(solved, str):
        return ()
    forces, contact = under_concrete(bench, solved.situations)
    whole = concrete_pad(
        bench.geometry,
        solved.situations,
        forces,
        contact,
        bench.settings,
        bench.standards.concrete,
        SILENT,
        True,
    )
    found = []
    for column, thickness in punching_columns(whole, solved):
        own = seen_by(whole, solved, column, thickness)
        outcome = punching(own, SILENT, too_thin(own), several=True)[0]
        if outcome.place is None or outcome.reason(0) or any(outcome.not_applicable):
            continue
        worst = int(np.argmax(outcome.ratio[0]))
        share = float(np.broadcast_to(outcome.place, outcome.ratio.shape)[0, worst])
        lines = _lines(own, column, share)
        if lines:
            found.append(Punched(column.name, float(outcome.ratio[0, worst]), share, lines))
    return tuple(found)


def _lines(own: ConcretePad, column: Column, share: float) -> tuple[tuple[Place, ...], ...]:
    """The parts of a perimeter that lie within what a column sees of the raft."""
    g = own.geometry
    d = float((own.d_x + own.d_y)[0, 0]) / 2
    if is_searching(own.standard):
        perimeter = perimeter_around(g, np.full((1, 1, 1), share * d))
        if not perimeter.exists.all():
            return ()
        x, y = (v[0, 0, 0] for v in perimeter.outline())
    else:
        section = critical_section(g.face[0], g.face[1], clear_distances(g), np.full((1, 1), share * d))
        if not section.exists.all():
            return ()
        x0, x1, y0, y1 = (float(v[0, 0]) for v in section.corners)
        x, y = np.array([x0, x1, x1, x0]), np.array([y0, y0, y1, y1])
    B, L = float(g.B[0, 0]) / 2, float(g.L[0, 0]) / 2
    off = float(g.offset_x[0, 0]), float(g.offset_y[0, 0])
    at = float(column.x[0, 0]), float(column.y[0, 0])
    points = [(float(u), float(v)) for u, v in zip(x, y)]

    def on_edge(p: Place, q: Place) -> bool:
        return any(abs(abs(p[i] + off[i]) - half) < 1e-6 and abs(p[i] - q[i]) < 1e-6 for i, half in ((0, B), (1, L)))

    parts: list[list[Place]] = [[]]
    for p, q in pairwise([*points, points[0]]):
        if on_edge(p, q):
            parts.append([])
            continue
        parts[-1] = parts[-1] or [p]
        parts[-1].append(q)
    if len(parts) > 1 and parts[-1] and parts[0] and parts[-1][-1] == parts[0][0]:
        parts[0] = parts.pop()[:-1] + parts[0]  # the outline began within a line
    return tuple(tuple((u + at[0], v + at[1]) for u, v in part) for part in parts if len(part) > 1)
