"""A first size for a base: allowable-stress load over presumed pressure, with an assumed share for its own weight."""

from dataclasses import dataclass

import numpy as np

from korbent.core.bearing.presumed import presumed_at
from korbent.core.bench import bench_for
from korbent.core.geometry import table
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.working import SILENT

ASSUMED_SHARE = 0.10
"""Of the load, for base and backfill."""
WITHOUT_PRESSURE = 150.0
"""kPa, where no presumed pressure is set."""


@dataclass(frozen=True)
class FirstSize:
    """A pad, and how much its own weight turned out to be of the column's load (None: no load)."""

    pad: Pad
    share: float | None

    def words(self) -> str:
        """In a line: what was assumed, and what it came to."""
        if self.share is None:
            return f"{self.pad.name} under {self.pad.load_point}: no load yet"
        more = ": more than assumed, look at the ground checks" if self.share > ASSUMED_SHARE + 0.005 else ""
        return (
            f"{self.pad.name} under {self.pad.load_point}: own weight {100 * self.share:.0f} % of the load, "
            f"{100 * ASSUMED_SHARE:.0f} % assumed{more}"
        )


def first_size(project: Project, column: str) -> FirstSize:
    """A pad for a column: a square of the greatest allowable-stress load, raised by the assumed share, over the pressure.

    Raises:
        KeyError: when there is no such column.
    """
    point = project.load_point(column)
    finished = project.ground.surfaces.finished
    depth = max(0.8, project.settings.frost_depth)
    presumed = presumed_at(project.settings, np.array(depth), np.array(1.5))
    pressure = WITHOUT_PRESSURE if presumed is None else float(presumed)
    length = max(point.size_x, point.size_y) if point.per == "metre" else 1.0
    loads = [
        length * sum(f * point.loads[c].V for c, f in combination.factors.items() if c in point.loads)
        for combination in project.actions.combinations
        if "allowable" in combination.serves
    ] or [length * sum(load.V for load in point.loads.values())]
    load = max(max(loads), 0.0)
    side = max(0.8, point.size_x + 0.2, point.size_y + 0.2, ((1 + ASSUMED_SHARE) * load / pressure) ** 0.5)
    side = round(-(-side // 0.05) * 0.05, 2)
    taken = {p.name for p in project.pads}
    pad = Pad(
        name=next(f"P{i}" for i in range(1, 100_000) if f"P{i}" not in taken), load_point=column, width=side, length=side,
        thickness=round(max(0.35, -(-side / 4 // 0.05) * 0.05), 2), level=round(finished - depth, 3),
    )  # fmt: skip
    return FirstSize(pad, _own_share(project, pad, load))


def _own_share(project: Project, pad: Pad, load: float) -> float | None:
    """Weight of base, pedestal and backfill over the load."""
    if load <= 0:
        return None
    bench = bench_for(project, (pad,), np.zeros(1, dtype=int), table(pad))
    situations = bench.situations("allowable")
    if not len(situations):
        return None
    forces = bench.forces(situations, SILENT)
    return float((forces.weight + forces.pedestal)[0].max()) / load


def placed(project: Project, columns: tuple[str, ...]) -> tuple[Project, list[FirstSize]]:
    """The project with a pad under each of these columns that has none yet.

    Raises:
        KeyError: when there is no such column.
        pydantic.ValidationError: when a pad is not possible.
    """
    carried = {p.load_point for p in project.pads}
    found = []
    for column in columns:
        if column not in carried:
            one = first_size(project, column)
            project = project.replaced(pads=(*project.pads, one.pad))
            found.append(one)
    return project, found
