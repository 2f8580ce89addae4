"""Sums of all loads: per case with their centroid, and what the whole building needs."""

from dataclasses import dataclass

import numpy as np

from korbent.core.actions.base_forces import case_loads, turned
from korbent.core.actions.situations import actions_on, case_names, situations_for
from korbent.core.bearing.presumed import presumed_at
from korbent.core.cache import remembered
from korbent.core.model.actions import Actions
from korbent.core.model.project import Project
from korbent.core.working import Array


@dataclass(frozen=True)
class CaseTotal:
    """One case over all columns and walls: kN in plan axes; centroid of V in the plan, m (None without V)."""

    case: str
    V: float
    Hx: float
    Hy: float
    centroid: tuple[float, float] | None
    stated: tuple[float | None, float | None, float | None] = (None, None, None)
    """Sums of V, Hx, Hy as the source of the loads states them."""

    def off(self, which: int) -> bool:
        """A sum differs from the stated one by more than half a percent."""
        stated = self.stated[which]
        mine = (self.V, self.Hx, self.Hy)[which]
        return stated is not None and abs(mine - stated) > 0.005 * max(abs(stated), 1.0)


@dataclass(frozen=True)
class Building:
    """The whole building: greatest unfactored vertical load (kN), area it needs, footprint of its columns (m2)."""

    V: float
    combination: str
    presumed: float | None
    needed: float | None
    footprint: float

    @property
    def share(self) -> float | None:
        """Needed area over footprint: much beyond a half speaks for a raft."""
        return self.needed / self.footprint if self.needed is not None and self.footprint > 0 else None


@remembered(4)
def _in_plan(actions: Actions) -> Array:
    """Loads of all points by case in plan axes, shape (points, cases, 5)."""
    cases = case_names(actions.cases)
    if not actions.load_points:
        return np.zeros((0, len(cases), 5))
    loads = np.stack([case_loads(p, cases) for p in actions.load_points])
    turns = np.array([0.0 if p.axes == "plan" else -np.deg2rad(p.rotation) for p in actions.load_points])
    return turned(loads, turns[:, None]) if turns.any() else loads


def case_totals(project: Project) -> list[CaseTotal]:
    """Totals per case, in the order of the cases."""
    loads = _in_plan(project.actions)
    places = np.array([(p.x, p.y) for p in project.actions.load_points]).reshape(-1, 2)
    found = []
    for i, case in enumerate(project.actions.cases):
        V, Hx, Hy = loads[:, i, 0], loads[:, i, 1].sum(), loads[:, i, 2].sum()
        total = float(V.sum())
        # cases that lift here and press there have no centroid worth the name
        one_way = total != 0.0 and abs(total) > 0.05 * float(np.abs(V).sum())
        x, y = V @ places / total if one_way else (0.0, 0.0)
        centroid = (float(x), float(y)) if one_way else None
        found.append(
            CaseTotal(
                case.name,
                total,
                float(Hx),
                float(Hy),
                centroid,
                (case.stated_V, case.stated_Hx, case.stated_Hy),
            )
        )
    return found


def building(project: Project) -> Building | None:
    """What the building asks of the ground by its allowable-stress combinations; None when there is nothing to sum."""
    actions = actions_on(project.actions, "")  # what is for some bases alone is none of the building
    situations = situations_for(actions, project.ground.water, "allowable")
    if not len(situations) or not project.actions.load_points:
        return None
    totals = situations.factors @ _in_plan(project.actions)[:, :, 0].sum(axis=0)
    worst = int(np.argmax(totals))
    settings = project.settings
    at = presumed_at(settings, np.array(settings.frost_depth), np.array(0.0))
    presumed = float(at) if at is not None else None
    V = float(totals[worst])
    return Building(
        V=V,
        combination=situations.label(worst),
        presumed=presumed,
        needed=V / presumed if presumed else None,
        footprint=footprint(project),
    )


def footprint(project: Project) -> float:
    """Area of the convex outline of all columns, m2."""
    from shapely import MultiPoint

    return float(MultiPoint([(p.x, p.y) for p in project.actions.load_points]).convex_hull.area)
