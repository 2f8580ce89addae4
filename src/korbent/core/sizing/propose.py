"""The size that is enough: the cheapest within each pad's ranges for which every check holds, for one pad or the whole plan.

A coarse net over the ranges finds a size that holds; from there all sizes a few steps less or more in each dimension are
looked at together, again and again, until none that costs less holds.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from korbent.core.bench import bench_for
from korbent.core.checks import LIMIT
from korbent.core.evaluate import STEPS, outcomes_on
from korbent.core.geometry import DRIVING, table, with_held_edges
from korbent.core.model.foundations import Pad
from korbent.core.model.project import Project
from korbent.core.model.site import Range
from korbent.core.sizing.cost import Objective, quantities, value_of
from korbent.core.sizing.size_map import governing_by_candidate
from korbent.core.working import Array

FREE = ("width", "length", "thickness", "level")
NET = 7
ROUNDS = 12


@dataclass(frozen=True)
class Proposal:
    """What is proposed for pads that are alike (one pad, or all of a type)."""

    pads: tuple[str, ...]
    sizes: dict[str, float] | None
    """None where nothing within the ranges holds, or nothing may be changed."""
    before: float
    """The objective of all these pads as they are."""
    after: float
    ratio: float | None
    """Worst ratio of the proposed size."""
    why_not_less: dict[str, str]
    """By dimension: which check fails one step below the proposal, or which limit it has reached."""
    remark: str = ""
    evaluated: int = 0
    """How many candidate sizes were looked at."""


def range_of(pad: Pad, dimension: str, units: str) -> tuple[float, float, float]:
    """(low, high, step) in which a dimension may move; low = high where it is pinned."""
    given = pad.ranges.get(dimension) or Range(pinned=dimension == "level")
    now, step = float(getattr(pad, dimension)), given.step or STEPS[units][dimension]
    if given.pinned:
        return now, now, step
    usual = {
        "width": (0.4, max(3.0 * pad.width, 4.0)),
        "length": (0.4, max(3.0 * pad.length, 4.0)),
        "thickness": (0.25, max(3.0 * pad.thickness, 1.2)),
        "level": (now - 1.5, now + 0.5),
    }[dimension]
    low, high = (usual[i] if v is None else v for i, v in enumerate((given.low, given.high)))
    # on the raster, counted from zero, so that sizes come out round
    low, high = np.ceil(low / step - 1e-9) * step, np.floor(high / step + 1e-9) * step
    return round(float(low), 9), round(float(max(high, low)), 9), step


def proposal(
    project: Project, pads: Sequence[Pad], objective: Objective = "volume", stop: Callable[[], bool] = lambda: False
) -> Proposal:  # fmt: skip
    """The cheapest size for pads that are to be alike; each must hold with it.

    Args:
        stop: asked between rounds; True ends the search with what was found so far.
    """
    first = pads[0]
    search = _Search(project, pads, objective)
    names, before = tuple(p.name for p in pads), search.cost_now
    if any(p.frozen for p in pads):
        kinds = " and ".join(sorted({p.frozen for p in pads if p.frozen}))
        return Proposal(names, None, before, before, None, {}, f"{kinds}: not resized")
    if all(low == high for low, high, _ in search.ranges):
        return Proposal(names, None, before, before, None, {}, "every dimension is pinned")
    best = search.net(stop)
    if best is None:
        return Proposal(
            names, None, before, before, None, {}, search.nearest(), evaluated=search.evaluated
        )  # fmt: skip
    best = search.refine(best, stop)
    why = search.why_not_less(best)
    row = np.array([best])
    found = search.look(row)
    sizes = {n: round(float(v), 6) for n, v in zip(FREE, best)}
    present = {n: float(getattr(first, n)) for n in FREE}
    same = all(abs(sizes[n] - present[n]) < 1e-6 for n in FREE)
    return Proposal(
        names, sizes, before, float(search.cost(row)[0]), float(found.ratio[0]), why, "as it is" if same else "", search.evaluated
    )  # fmt: skip


@dataclass(frozen=True)
class _Looked:
    ratio: Array
    governing: list[str]


class _Search:
    """The candidates looked at so far; arrays of sizes have the columns FREE."""

    def __init__(self, project: Project, pads: Sequence[Pad], objective: Objective) -> None:
        self.project, self.pads, self.objective = project, tuple(pads), objective
        self.ranges = [range_of(pads[0], n, project.units) for n in FREE]
        self.seen: dict[tuple[float, ...], tuple[float, str]] = {}
        self.cost_now = float(
            sum(value_of(project.rates, quantities(project, p, table(p)), objective)[0] for p in pads)
        )

    @property
    def evaluated(self) -> int:
        return len(self.seen)

    def cost(self, sizes: Array) -> Array:
        """The objective of all pads with these sizes."""
        total = np.zeros(len(sizes))
        for pad in self.pads:
            found = quantities(self.project, pad, self._rows(pad, sizes))
            total = total + value_of(self.project.rates, found, self.objective)
        return total

    def _rows(self, pad: Pad, sizes: Array) -> Array:
        rows = np.repeat(table(pad), len(sizes), axis=0)
        for i, name in enumerate(FREE):
            rows[:, DRIVING.index(name)] = sizes[:, i]
        return with_held_edges(rows, pad)

    def look(self, sizes: Array) -> _Looked:
        """Worst ratio over all pads and checks, and what governs; what was seen before is not computed again."""
        keys = [tuple(np.round(s, 6)) for s in sizes]
        new = [i for i, k in enumerate(keys) if k not in self.seen]
        if new:
            fresh = sizes[new]
            ratio, title = np.full(len(fresh), -np.inf), [""] * len(fresh)
            for pad in self.pads:
                rows = self._rows(pad, fresh)
                bench = bench_for(self.project, (pad,), np.zeros(len(rows), dtype=int), rows)
                outcomes = [o for _, o in outcomes_on(bench)]
                own, which = governing_by_candidate(outcomes, len(rows))
                own = np.where(np.isnan(own), np.inf, own)
                names = np.array(list(DRIVING))
                B, L, ox, oy = (
                    rows[:, int(np.argmax(names == n))] for n in ("width", "length", "offset_x", "offset_y")
                )
                own = np.where((np.abs(ox) > B / 2 + 1e-9) | (np.abs(oy) > L / 2 + 1e-9), np.inf, own)
                # a check that cannot be done holds nothing
                for outcome in outcomes:
                    blocked = np.array([bool(t) for t in outcome.why_not or ("",)])
                    idle = np.array([bool(t) for t in outcome.not_applicable or ("",)])
                    own = np.where(blocked & ~idle, np.inf, own)
                for i in range(len(fresh)):
                    if own[i] > ratio[i]:
                        ratio[i] = own[i]
                        title[i] = (
                            outcomes[which[i]].check.title if which[i] >= 0 else "a check cannot be done"
                        )
            for i, r, t in zip(new, ratio, title):
                self.seen[keys[i]] = (float(r), t)
        found = [self.seen[k] for k in keys]
        return _Looked(np.array([r for r, _ in found]), [t for _, t in found])

    def net(self, stop: Callable[[], bool]) -> tuple[float, ...] | None:
        """The cheapest size that holds on a coarse net over the ranges, the present one included."""
        lines = []
        for (low, high, step), name in zip(self.ranges, FREE):
            now = float(getattr(self.pads[0], name))
            if low == high:
                lines.append([low])
                continue
            scales = [0.6, 0.75, 0.9, 1.0, 1.2, 1.5, 2.0] if name != "level" else None
            values = [now * s for s in scales] if scales else list(np.linspace(low, high, NET))
            count = {"thickness": 5}.get(name, NET)
            grid = {round(float(np.clip(round(v / step) * step, low, high)), 9) for v in values}
            lines.append(sorted(grid)[:: max(1, len(grid) // count)])
        sizes = np.array(list(product(*lines)), dtype=float)
        if self.ranges[0][0] != self.ranges[0][1] and self.ranges[1][0] != self.ranges[1][1]:
            # sides grow together first: about the same shape as now
            shape = sizes[:, 0] / sizes[:, 1] / (self.pads[0].width / self.pads[0].length)
            alike = sizes[(shape > 0.8) & (shape < 1.25)]
            found = self._cheapest(alike)
            if found is not None or stop():
                return found
        found = self._cheapest(sizes)
        if found is None and not stop():
            far = [sorted({low, high, (low + high) / 2}) for low, high, _ in self.ranges]
            snapped = [
                [round(round(v / s) * s, 9) for v in line] if len(line) > 1 else line
                for line, (_, _, s) in zip(far, self.ranges)
            ]
            found = self._cheapest(np.array(list(product(*snapped)), dtype=float))
        return found

    def _cheapest(self, sizes: Array) -> tuple[float, ...] | None:
        if not len(sizes):
            return None
        # from the cheapest up, a share at a time, until one holds
        order = np.argsort(self.cost(sizes), kind="stable")
        for part in np.array_split(order, max(1, len(order) // 40)):
            held = self.look(sizes[part]).ratio <= LIMIT
            if held.any():
                return tuple(map(float, sizes[part[int(np.argmax(held))]]))
        return None

    def refine(self, best: tuple[float, ...], stop: Callable[[], bool]) -> tuple[float, ...]:
        """Steps down in cost to a size from which no neighbour that costs less holds."""
        for _ in range(ROUNDS):
            if stop():
                break
            around = []
            for value, (low, high, step) in zip(best, self.ranges):
                around.append(
                    [value] if low == high else
                    sorted({round(float(np.clip(value + k * step, low, high)), 9) for k in (-4, -2, -1, 0, 1, 2)})
                )  # fmt: skip
            sizes = np.array(list(product(*around)), dtype=float)
            cost = self.cost(sizes)
            now = float(self.cost(np.array([best]))[0])
            less = sizes[cost < now - 1e-9]
            found = self._cheapest(less)
            if found is None:
                break
            best = found
        return best

    def why_not_less(self, best: tuple[float, ...]) -> dict[str, str]:
        """Which check fails one step below, by dimension."""
        reasons = {}
        for i, (name, (low, high, step)) in enumerate(zip(FREE, self.ranges)):
            if low == high:
                continue
            if best[i] - step < low - 1e-9:
                reasons[name] = "its lower limit"
                continue
            sizes = np.array([best])
            sizes[0, i] -= step
            looked = self.look(sizes)
            if name == "level":
                continue
            ratio = looked.ratio[0]
            reasons[name] = (
                f"{looked.governing[0].lower()} {ratio:.2f}" if np.isfinite(ratio) and ratio > LIMIT
                else f"{looked.governing[0].lower()} lost" if ratio > LIMIT else "it would hold, but cost more elsewhere"
            )  # fmt: skip
        return reasons

    def nearest(self) -> str:
        """What stands in the way where nothing holds."""
        if not self.seen:
            return "nothing was looked at"
        sizes, (ratio, title) = min(self.seen.items(), key=lambda item: item[1][0])
        at = " × ".join(f"{v:.2f}" for v in sizes[:3])
        if not np.isfinite(ratio):
            return f"nothing within the ranges holds: {title.lower()}"
        return f"nothing within the ranges holds; nearest {at} m with {title.lower()} {ratio:.2f}"


def groups_of(project: Project, by_type: bool = True) -> list[tuple[Pad, ...]]:
    """Pads that are to be alike: those of a type together, the others alone."""
    groups: dict[str, list[Pad]] = {}
    for pad in project.pads:
        groups.setdefault(f"type {pad.type}" if pad.type and by_type else f"pad {pad.name}", []).append(pad)
    return [tuple(g) for g in groups.values()]


def proposals(
    project: Project,
    objective: Objective = "volume",
    by_type: bool = True,
    told: Callable[[int, int], None] = lambda done, of: None,
    stop: Callable[[], bool] = lambda: False,
) -> list[Proposal]:
    """The whole plan in one go; ``told`` hears how far it is, ``stop`` ends it with what is done."""
    groups = groups_of(project, by_type)
    found = []
    for i, group in enumerate(groups):
        if stop():
            break
        found.append(proposal(project, group, objective, stop))
        told(i + 1, len(groups))
    return found


def taken(project: Project, chosen: Iterable[Proposal]) -> Project:
    """The project with proposals taken; what they leave alone stays.

    Raises:
        pydantic.ValidationError: when a size is not possible for a pad.
    """
    sizes = {name: p.sizes for p in chosen if p.sizes for name in p.pads}
    pads = tuple(p.resized(**found) if (found := sizes.get(p.name)) else p for p in project.pads)
    return project.replaced(pads=pads)


@dataclass(frozen=True)
class Grouping:
    """The plan with so many types: which pads are alike, with which sizes, and what it costs."""

    types: tuple[tuple[tuple[str, ...], dict[str, float]], ...]
    cost: float

    @property
    def count(self) -> int:
        """How many types."""
        return len(self.types)


def types_against_cost(project: Project, found: Sequence[Proposal], objective: Objective) -> list[Grouping]:
    """From as many types as proposals down to one: at each turn the two whose merging costs least become one.

    Merged pads take the greater of both in width, length and thickness; whether that holds everywhere (a base at a
    boundary grows more eccentric) is seen when a grouping is taken and its types are proposed once more.
    """
    pads = {p.name: p for p in project.pads}
    groups = [(tuple(p.pads), dict(p.sizes)) for p in found if p.sizes]
    if not groups:
        return []

    def cost(names: tuple[str, ...], sizes: dict[str, float]) -> float:
        total = 0.0
        for name in names:
            pad = pads[name]
            rows = table(pad)
            for size in ("width", "length", "thickness"):
                rows[:, DRIVING.index(size)] = sizes[size]
            total += float(value_of(project.rates, quantities(project, pad, rows), objective)[0])
        return total

    def merged(a: dict[str, float], b: dict[str, float]) -> dict[str, float]:
        return {n: max(a[n], b[n]) for n in ("width", "length", "thickness")}

    costs = [cost(*g) for g in groups]
    steps = [Grouping(tuple(groups), sum(costs))]
    while len(groups) > 1:
        best = None
        for i in range(len(groups)):
            for j in range(i + 1, len(groups)):
                sizes = merged(groups[i][1], groups[j][1])
                more = cost(groups[i][0] + groups[j][0], sizes) - costs[i] - costs[j]
                if best is None or more < best[0]:
                    best = (more, i, j, sizes)
        assert best is not None
        more, i, j, sizes = best
        both = (groups[i][0] + groups[j][0], sizes)
        new_cost = costs[i] + costs[j] + more
        groups = [g for k, g in enumerate(groups) if k not in (i, j)] + [both]
        costs = [c for k, c in enumerate(costs) if k not in (i, j)] + [new_cost]
        steps.append(Grouping(tuple(groups), sum(costs)))
    return steps[::-1]


def as_types(project: Project, grouping: Grouping) -> Project:
    """The project with these types: pads named to them and sized alike; overrides of types that stay are kept."""
    from korbent.core.model.foundations import PadType

    known = {t.name: t for t in project.types}
    names = [f"F{i + 1}" for i in range(grouping.count)]
    types = tuple(known.get(n) or PadType(name=n) for n in names)
    kept = tuple(t for t in project.types if t.name not in names)
    chosen = {
        pad: (name, sizes) for name, (pads, sizes) in zip(names, grouping.types) for pad in pads
    }  # fmt: skip
    pads = tuple(
        p.resized(**{n: chosen[p.name][1][n] for n in ("width", "length", "thickness")}).replaced(
            type=chosen[p.name][0]
        )
        if p.name in chosen
        else p
        for p in project.pads
    )
    return project.replaced(types=(*kept, *types), pads=pads)
