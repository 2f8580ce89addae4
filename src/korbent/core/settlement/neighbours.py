"""Which foundations are neighbours, and how each of them settles under all of them together."""

from collections.abc import Sequence

import numpy as np

from korbent.core.bench import benches_for
from korbent.core.cache import MEGABYTE, Cache, remembered
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.settlement.beside import besides
from korbent.core.settlement.final import Settlement
from korbent.core.settlement.of_bases import final
from korbent.core.settlement.pressing import pressing_keys, pressing_of
from korbent.core.working import Array

Place = tuple[float, float]


def gabriel(places: Array) -> list[tuple[int, int]]:
    """Pairs of points between which no other point stands: none within the circle over their distance (Gabriel and
    Sokal 1969).

    On a grid of columns those are its lines, without the diagonals.
    """
    n = len(places)
    if n < 2:
        return []
    d2 = ((places[:, None] - places[None]) ** 2).sum(axis=-1)
    pairs = []
    for i in range(n):
        # k stands between i and j where the angle at k is a right one or more
        between = d2[i][None, :] + d2 <= d2[i][:, None] * (1 + 1e-9)
        between[:, i] = False
        np.fill_diagonal(between, False)
        pairs += [(i, int(j)) for j in np.flatnonzero(~between.any(axis=1)) if j > i and d2[i, j] > 1e-12]
    return pairs


@remembered(16)
def middles(project: Project) -> Array:
    """Middles of the bases in the plan, (pads, 2), m."""
    return np.array([(p.x, p.y) for p in pressing_of(project)]).reshape(-1, 2)


_pairs: Cache[list[tuple[int, int]]] = Cache()


@remembered(16)
def neighbours(project: Project) -> dict[str, tuple[tuple[str, float], ...]]:
    """By base: its neighbours with their distance, m, as far as the settings say."""
    places = middles(project)
    pairs = _pairs.of((places.tobytes(),), None, lambda: gabriel(places))
    found: dict[str, list[tuple[str, float]]] = {pad.name: [] for pad in project.pads}
    for i, j in pairs:
        distance = float(np.hypot(*(places[i] - places[j])))
        if distance > project.settings.neighbour_reach:
            continue
        found[project.pads[i].name].append((project.pads[j].name, distance))
        found[project.pads[j].name].append((project.pads[i].name, distance))
    return {name: tuple(rows) for name, rows in found.items()}


@remembered(16)
def settled(project: Project) -> dict[str, Settlement | None]:
    """The settlement of each base by situation, None where it cannot be computed.

    The very same object is given again for a base as long as it stays the same.
    """
    beside = besides(project)
    keys = []
    for pad, (key, values) in zip(project.pads, pressing_keys(project)):
        more = (beside.get(pad.name), *project.actions.drains)
        keys.append(((*key, *map(id, more)), (*values, *more)))
    known = _settled.those_of([key for key, _ in keys])
    new = [i for i in range(len(keys)) if i not in known]
    for positions, bench in benches_for(project, [project.pads[i] for i in new]):
        found = final(bench, project)
        for row, position in enumerate(positions):
            key, values = keys[new[position]]
            lost = found is None or not np.isfinite(found.total[row]).all()
            own = None if lost or found is None else found.row(row)
            known[new[position]] = _settled.put(key, values, own)
    return {pad.name: known[i] for i, pad in enumerate(project.pads)}


_settled: Cache[Settlement | None] = Cache(128 * MEGABYTE)


def beside_each(project: Project, pad: Pad) -> Sequence[tuple[str, float, Array]]:
    """(name, distance, settlement by situation) of the neighbours of a base whose settlement is known."""
    known = settled(project)
    rows = []
    for name, distance in neighbours(project).get(pad.name, ()):
        own = known.get(name)
        if own is not None:
            rows.append((name, distance, own.total[0]))
    return rows
