"""The size that is enough: the cheapest within each pad's ranges for which every check holds, for one pad or the whole
plan.

A coarse net over the ranges finds a size that holds; from there all sizes a few steps less or more in each dimension
are looked at, the cheapest first and the cheap checks before the dear ones, until none that costs less holds. The
searches of all pads go on side by side, so that what they ask is computed together."""

from collections.abc import Callable, Generator, Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from itertools import product

import numpy as np

from korbent.core.bearing.checks import board_checks, level_checks, resistance_checks, service_checks
from korbent.core.bearing.replacement import replacement_checks
from korbent.core.bearing.safety import safety_checks
from korbent.core.bench import Bench, bench_for, shared_key
from korbent.core.checks import LIMIT, State, governing_by_candidate
from korbent.core.concrete.checks import concrete_checks
from korbent.core.concrete.choose import DIAMETERS, SPACINGS, allowed, lightest_bars, may_change, region_of
from korbent.core.concrete.cracks import crack_checks
from korbent.core.concrete.pedestal import pedestal_checks
from korbent.core.concrete.pedestal_sizes import least_pedestal
from korbent.core.dimensions import DRIVING_INCREMENTS
from korbent.core.evaluate import FAMILIES
from korbent.core.evaluate.families import Family, outcomes_of
from korbent.core.evaluate.road import evaluate_pad
from korbent.core.geometry import DRIVING, off_the_base, table, with_held_edges
from korbent.core.kinds import kind_of
from korbent.core.model.foundations import Pad, Pedestal
from korbent.core.model.project import Project
from korbent.core.model.reinforcement import Bars
from korbent.core.model.site import Range
from korbent.core.plan.site import site_checks
from korbent.core.rafts.checks import raft_checks
from korbent.core.settlement.checks import settlement_checks
from korbent.core.sizing.cost import Objective, quantities, value_of
from korbent.core.stability.checks import overturning_checks, sliding_checks, uplift_checks
from korbent.core.straps.checks import strap_checks
from korbent.core.working import Array
from korbent.words import say, say_count

FREE = ("width", "length", "thickness", "level")
FINE = {"width": 13, "length": 13, "thickness": 9, "level": 6}
"""Places over each range in the last net, looked at before a search says that nothing holds."""
ROUNDS = 12
NEAR: tuple[int, ...] = (-3, -1, 0, 1)
WIDE: tuple[int, ...] = (-4, -3, -2, -1, 0, 1, 2, 3)
WIDE_UP: tuple[int, ...] = (-2, -1, 0, 1)
"""Steps of each dimension that are looked at around the best size so far; the wide ones (in thickness and
level fewer) before the search ends, so that a long base may become a short and broad one."""


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
    """By dimension: which check fails one increment below the proposal, or which limit it has reached."""
    remark: str = ""
    evaluated: int = 0
    """How many candidate sizes were looked at."""
    bars: dict[str, Bars | None] = field(default_factory=dict)
    """By face: the bars that go with the size, where a proposal may choose them."""
    pedestals: dict[str, Pedestal] = field(default_factory=dict)
    """By base: the pedestal under its first column, where that is to be another."""


def range_of(pad: Pad, dimension: str, units: str, follows: str = "") -> tuple[float, float, float]:
    """(low, high, increment) in which a dimension may move; low = high where it is pinned. The width of what is round is its
    diameter: what is said of its length counts for it too. The size that ``follows`` what stands on the base is pinned
    unless it has a range."""
    given = pad.ranges.get(dimension) or Range(pinned=dimension in ("level", follows))
    if pad.is_round and dimension == "width" and "length" in pad.ranges:
        other = pad.ranges["length"]
        lows, highs = (
            [v for v in pair if v is not None] for pair in ((given.low, other.low), (given.high, other.high))
        )
        given = Range(
            low=max(lows, default=None),
            high=min(highs, default=None),
            step=given.step or other.step,
            pinned=given.pinned or other.pinned,
        )
    now, increment = float(getattr(pad, dimension)), given.step or DRIVING_INCREMENTS[units][dimension]
    if given.pinned:
        return now, now, increment
    usual = {
        "width": (0.4, max(3.0 * pad.width, 4.0)),
        "length": (0.4, max(3.0 * pad.length, 4.0)),
        "thickness": (0.25, max(3.0 * pad.thickness, 1.2)),
        "level": (now - 1.5, now + 0.5),
    }[dimension]
    low, high = (usual[i] if v is None else v for i, v in enumerate((given.low, given.high)))
    # on the raster, counted from zero, so that sizes come out round
    low, high = np.ceil(low / increment - 1e-9) * increment, np.floor(high / increment + 1e-9) * increment
    return round(float(low), 9), round(float(max(high, low)), 9), increment


def proposal(
    project: Project, pads: Sequence[Pad], objective: Objective = "volume", stop: Callable[[], bool] = lambda: False
) -> Proposal:
    """The cheapest size for pads that are to be alike; each must hold with it.

    Args:
        stop: asked between rounds; True ends the search.
    """
    found = _run(project, [_Search(project, pads, objective)], lambda done, of: None, stop)
    return found[0] or _given_up(project, pads, objective)


def _common(ranges: Sequence[tuple[float, float, float]], now: float) -> tuple[float, float, float]:
    """The range that several pads allow together: pinned where one of them is; low > high where they exclude each
    other."""
    increment = max(s for _, _, s in ranges)
    if any(low == high for low, high, _ in ranges):
        return now, now, increment
    return max(low for low, _, _ in ranges), min(high for _, high, _ in ranges), increment


CHEAP = (
    service_checks,
    board_checks,
    level_checks,
    site_checks,
    sliding_checks,
    overturning_checks,
    uplift_checks,
)
MIDDLE = (resistance_checks, replacement_checks, safety_checks, settlement_checks)
DEAR = (concrete_checks, crack_checks, pedestal_checks, strap_checks)
ALL = tuple(f for f in FAMILIES if f is not raft_checks)
assert set(ALL) == {*CHEAP, *MIDDLE, *DEAR}, "every family of checks has its place in the search"
AT_ONCE = 4
"""How many sizes that pass the cheap checks are looked at further together."""

Sizes = tuple[float, ...]
Families = tuple[Family, ...]
Ask = tuple[Array, Families]
Told = tuple[Array, list[str]]
"""Worst ratio of each size over the pads, and which check gives it."""
Asking = Generator[Ask, Told, "Proposal"]


class _Search:
    """The search for one group of alike pads; it asks for checks of sizes (columns FREE) and is told the ratios."""

    def __init__(self, project: Project, pads: Sequence[Pad], objective: Objective) -> None:
        self.project, self.objective = project, objective
        self.pedestals = _pedestals_of(project, pads)
        self.pads = tuple(_on_pedestal(p, self.pedestals.get(p.name)) for p in pads)
        # what is round has one diameter, its width: a length of its own is asked for by the others alone
        with_length = [p for p in pads if not p.is_round] or [pads[0]]
        self.ranges = [
            _common(
                [range_of(p, n, project.units, self._follows(p)) for p in (with_length if n == "length" else pads)],
                float(getattr(pads[0], n)),
            )
            for n in FREE
        ]
        self.free = [low != high for low, high, _ in self.ranges]
        if all(p.is_round for p in pads):
            at = FREE.index("length")
            self.free[at] = False
            now = float(pads[0].length)
            self.ranges[at] = (now, now, self.ranges[at][2])
        self.faces = tuple(f for f in may_change(pads[0]) if all(f in may_change(p) for p in pads))
        self.options = [self.pads, *self._with_bars()] if self.faces else [self.pads]
        self.aside = _cannot_be_done(project, self.pads)
        """Checks that no size makes possible, with their reasons."""
        self.failed: set[Sizes] = set()
        self.best_miss: tuple[float, Sizes, str] = (np.inf, (), "")
        self.evaluated = 0
        self.before = _comes_to(project, pads, objective)

    def _follows(self, pad: Pad) -> str:
        return kind_of(pad).follows(pad, self.project.load_point(pad.load_point))

    def rows(self, pad: Pad, sizes: Array) -> Array:
        """Candidate rows of one pad; what is pinned stays as the pad has it."""
        rows = np.repeat(table(pad), len(sizes), axis=0)
        for i, name in enumerate(FREE):
            if self.free[i]:
                rows[:, DRIVING.index(name)] = sizes[:, i]
        if pad.is_round:
            rows[:, DRIVING.index("length")] = rows[:, DRIVING.index("width")]
        return with_held_edges(rows, pad)

    def cost(self, sizes: Array) -> Array:
        """The objective of all pads with these sizes."""
        total = np.zeros(len(sizes))
        for pad in self.pads:
            found = quantities(self.project, pad, self.rows(pad, sizes))
            total = total + value_of(self.project.rates, found, self.objective)
        return total

    def _with_bars(self) -> list[tuple[Pad, ...]]:
        """The pads with bars of a coarse choice in all faces that are free."""
        region = region_of(self.project)
        spacings = SPACINGS[region]
        found = []
        for diameter, spacing in product(DIAMETERS[region], (spacings[0], spacings[2], spacings[4])):
            bars = Bars(diameter=diameter, spacing=spacing)
            if all(allowed(self.pads, face, bars) for face in self.faces):
                changes = dict.fromkeys(self.faces, bars)
                found.append(tuple(p.replaced(reinforcement=p.reinforcement.replaced(**changes)) for p in self.pads))
        return found

    def run(self) -> Asking:
        """The whole search."""
        names = tuple(p.name for p in self.pads)

        def nothing(remark: str) -> Proposal:
            return Proposal(names, None, self.before, self.before, None, {}, remark, self.evaluated)

        if any(p.kind == "raft" for p in self.pads):
            return nothing(say("a raft: its sizes are chosen by hand"))
        kinds = sorted({p.frozen for p in self.pads if p.frozen})
        if kinds:
            return nothing(say("{kinds}: not resized", kinds=" and ".join(kinds)))
        if not any(self.free) and not self.faces and not self.pedestals:
            return nothing(say("every dimension is pinned"))
        for name, (low, high, _) in zip(FREE, self.ranges):
            if low > high:
                return nothing(
                    say(
                        "the ranges of the {name} have nothing in common: {low:.2f} m at least, {high:.2f} m at most",
                        name=name,
                        low=low,
                        high=high,
                    )
                )
        best: Sizes | None = None
        for sizes in self._nets():
            best = yield from self._cheapest(sizes)
            if best is not None:
                break
        if best is None:
            return nothing(self._nearest())
        reach = NEAR
        for _ in range(ROUNDS):
            around = self._around(best, reach)
            less = around[self.cost(around) < float(self.cost(np.array([best]))[0]) - 1e-9]
            found = yield from self._cheapest(less)
            if found is None and reach is WIDE:
                break
            best, reach = (best, WIDE) if found is None else (found, NEAR)
        return (yield from self._described(best, names))

    def _nets(self) -> Iterator[Array]:
        """Nets over the ranges, each wider than the one before."""
        yield self._net((0.7, 0.85, 1.0, 1.15, 1.3), (0.7, 0.85, 1.0, 1.2))
        yield self._net((0.5, 0.6, 1.0, 1.5, 1.8, 2.2, 3.0), (0.8, 1.0, 1.4, 1.8, 2.4))
        ends = [
            sorted({low, round(round((low + high) / 2 / increment) * increment, 9), high})
            for low, high, increment in self.ranges
        ]
        yield np.array(list(product(*ends)), dtype=float)
        # before it is said that nothing holds: so many places over each range, evenly
        yield np.array(list(product(*(self._evenly(i, n) for i, n in enumerate(FREE)))), dtype=float)

    def _evenly(self, i: int, name: str) -> list[float]:
        low, high, increment = self.ranges[i]
        if low == high:
            return [low]
        values = np.linspace(low, high, FINE[name])
        return sorted({round(float(np.clip(round(v / increment) * increment, low, high)), 9) for v in values})

    def _net(self, plan: tuple[float, ...], thick: tuple[float, ...]) -> Array:
        lines = []
        for (low, high, increment), name in zip(self.ranges, FREE):
            now = float(getattr(self.pads[0], name))
            if low == high:
                lines.append([now])
                continue
            values = (
                np.linspace(low, high, 4)
                if name == "level"
                else [now * s for s in (thick if name == "thickness" else plan)]
            )
            lines.append(
                sorted({round(float(np.clip(round(v / increment) * increment, low, high)), 9) for v in values})
            )
        return np.array(list(product(*lines)), dtype=float)

    def _around(self, best: Sizes, reach: tuple[int, ...]) -> Array:
        lines = []
        for name, value, (low, high, increment) in zip(FREE, best, self.ranges):
            ways = WIDE_UP if reach is WIDE and name in ("thickness", "level") else reach
            grid = {round(float(np.clip(value + k * increment, low, high)), 9) for k in ways}
            lines.append([value] if low == high else sorted(grid))
        return np.array(list(product(*lines)), dtype=float)

    def _cheapest(self, sizes: Array) -> Generator[Ask, Told, Sizes | None]:
        """The cheapest of these that holds: the cheap checks on all, the others from the cheapest up."""
        sizes = np.array([s for s in sizes if tuple(s) not in self.failed])
        if not len(sizes):
            return None
        sizes = sizes[np.argsort(self.cost(sizes), kind="stable")]
        left = yield from self._passing(sizes, CHEAP)
        while len(left):
            part, left = left[:AT_ONCE], left[AT_ONCE:]
            if len(part):
                part = yield from self._passing(part, MIDDLE)
            if len(part):
                part = yield from self._passing(part, DEAR)
            if len(part):
                return tuple(map(float, part[0]))
        return None

    def _passing(self, sizes: Array, families: Families) -> Generator[Ask, Told, Array]:
        ratio, titles = yield sizes, families
        self.evaluated += len(sizes)
        held = ratio <= LIMIT
        for size, value, title in zip(sizes, ratio, titles):
            if value > LIMIT:
                self.failed.add(tuple(size))
                if value < self.best_miss[0]:
                    self.best_miss = (float(value), tuple(size), title)
        return sizes[held]

    def _described(self, best: Sizes, names: tuple[str, ...]) -> Asking:
        """The proposal with its worst ratio, and why each dimension is not less."""
        steps = [
            (i, name)
            for i, name in enumerate(FREE)
            if self.free[i] and name != "level" and best[i] - self.ranges[i][2] >= self.ranges[i][0] - 1e-9
        ]
        sizes = np.array([best] * (1 + len(steps)))
        for row, (i, _) in enumerate(steps, 1):
            sizes[row, i] -= self.ranges[i][2]
        if self.faces:
            ratio, titles = yield sizes, (*CHEAP, *MIDDLE)
            steel, more = yield sizes, DEAR
            titles = [b if s > r else a for a, b, r, s in zip(titles, more, ratio, steel)]
            ratio = np.maximum(ratio, steel)
        else:
            ratio, titles = yield sizes, ALL
        reasons = {
            name: say("its lower limit")
            for i, name in enumerate(FREE)
            if self.free[i] and name != "level" and (i, name) not in steps
        }
        for (_, name), value, title in zip(steps, ratio[1:], titles[1:]):
            reasons[name] = (
                say("it would hold, but costs more elsewhere")
                if value <= LIMIT
                else f"{title.lower()} {value:.2f}"
                if np.isfinite(value)
                else say("{title}: lost", title=title.lower())
            )
        changed = {n: round(float(v), 6) for n, v, free in zip(FREE, best, self.free) if free}
        same = all(abs(v - float(getattr(p, n))) < 1e-6 for n, v in changed.items() for p in self.pads)
        bars, remark = self._bars_for(changed)
        same = same and all(p.reinforcement.bars(f) == b for f, b in bars.items() for p in self.pads)
        same = same and not self.pedestals
        after = float(self.cost(np.array([best]))[0])
        if bars:
            made = [_as_proposed(p, changed, bars) for p in self.pads]
            after = _comes_to(self.project, made, self.objective)
        return Proposal(
            names,
            changed,
            self.before,
            after,
            float(ratio[0]),
            reasons,
            remark or (say("as it is") if same else "") or self._left_aside(),
            self.evaluated,
            bars,
            self.pedestals,
        )

    def _left_aside(self) -> str:
        count = len({check for check, _ in self.aside})
        return (
            say_count(
                count,
                "{number} check that cannot be done is left aside",
                "{number} checks that cannot be done are left aside",
            )
            if count
            else ""
        )

    def _bars_for(self, sizes: dict[str, float]) -> tuple[dict[str, Bars | None], str]:
        """The lightest bars that go with a size, by face, and what is to say of them."""
        if not self.faces:
            return {}, ""
        sized = tuple(p.resized(**sizes) for p in self.pads)
        chosen, why = lightest_bars(self.project, sized)
        return {face: chosen[0].reinforcement.bars(face) for face in self.faces}, why

    def _nearest(self) -> str:
        """What stands in the way where nothing holds."""
        ratio, sizes, title = self.best_miss
        if not sizes or not np.isfinite(ratio):
            return say("nothing within the ranges holds: widen them, or lower the base")
        at = " × ".join(f"{v:.2f}" for v in sizes[:3])
        return say(
            "nothing within the ranges holds; nearest {at} m with {title} {ratio:.2f}",
            at=at,
            title=title.lower(),
            ratio=ratio,
        )


def _comes_to(project: Project, pads: Sequence[Pad], objective: Objective) -> float:
    """The objective of pads as they are."""
    return float(sum(value_of(project.rates, quantities(project, p, table(p)), objective)[0] for p in pads))


def _pedestals_of(project: Project, pads: Sequence[Pad]) -> dict[str, Pedestal]:
    """By base: the least pedestal under its first column, where that has a range to move in or fails as it is."""
    found = {}
    for pad in pads:
        if pad.pedestal is None or pad.frozen:
            continue
        moves = any(n in pad.ranges and not pad.ranges[n].pinned for n in ("pedestal_x", "pedestal_y"))
        own = [c for c in evaluate_pad(project, pad).checks if c.check.id.startswith("pedestal")]
        if not moves and all(c.state is not State.FAILS for c in own):
            continue
        least = least_pedestal(project, pad)
        if least is not None and least.pedestal != pad.pedestal:
            found[pad.name] = least.pedestal
    return found


def _on_pedestal(pad: Pad, pedestal: Pedestal | None) -> Pad:
    """The base on whose first column another pedestal stands; as it is where there is none."""
    return pad if pedestal is None else pad.replaced(pedestal=pedestal)


def _given_up(project: Project, pads: Sequence[Pad], objective: Objective) -> Proposal:
    now = _comes_to(project, pads, objective)
    return Proposal(tuple(p.name for p in pads), None, now, now, None, {}, say("not looked at: cancelled"))


def _run(
    project: Project, searches: Sequence[_Search], told: Callable[[int, int], None], stop: Callable[[], bool]
) -> list[Proposal | None]:
    """All searches side by side: what they ask in one turn is computed together, by profile and settings."""
    done: list[Proposal | None] = [None] * len(searches)
    running: dict[int, Asking] = {}
    asked: dict[int, Ask] = {}
    for i, search in enumerate(searches):
        running[i] = search.run()
        _advance(i, running, asked, done, None)
    while asked and not stop():
        for i, answer in _answers(project, searches, asked).items():
            _advance(i, running, asked, done, answer)
        told(sum(d is not None for d in done), len(searches))
    return done


def _advance(
    i: int,
    running: dict[int, Asking],
    asked: dict[int, Ask],
    done: list[Proposal | None],
    answer: Told | None,
) -> None:
    try:
        asked[i] = next(running[i]) if answer is None else running[i].send(answer)
    except StopIteration as end:
        done[i] = end.value
        asked.pop(i, None)


def _answers(project: Project, searches: Sequence[_Search], asked: dict[int, Ask]) -> dict[int, Told]:
    """The ratios that the searches ask for: one bench for all pads that share families, profile and settings."""
    aside = frozenset[tuple[str, str]]().union(*(search.aside for search in searches))
    batches: dict[object, list[Part]] = {}
    families_of: dict[object, Families] = {}
    answers: dict[tuple[int, int], Told] = {}
    for i, (sizes, families) in asked.items():
        # bars matter to the checks of the concrete only
        for option, pads in enumerate(searches[i].options if families is DEAR else [searches[i].pads]):
            answers[i, option] = (np.full(len(sizes), -np.inf), [""] * len(sizes))
            for pad in pads:
                key = (families, shared_key(project, pad))
                families_of[key] = families
                batches.setdefault(key, []).append(((i, option), pad, searches[i].rows(pad, sizes)))
    for shared, parts in batches.items():
        for some in _chunks(parts):
            rows = np.concatenate([r for _, _, r in some])
            index = np.repeat(np.arange(len(some)), [len(r) for _, _, r in some])
            bench = bench_for(project, [pad for _, pad, _ in some], index, rows)
            off = np.concatenate([off_the_base(own, pad) for _, pad, own in some])
            ratio, titles = _worst(families_of[shared], project, bench, off, aside)
            at = 0
            for who, _, own in some:
                worst, names = answers[who]
                for k in range(len(own)):
                    if ratio[at + k] > worst[k]:
                        worst[k], names[k] = ratio[at + k], titles[at + k]
                at += len(own)
    return {i: _best([told for (j, _), told in answers.items() if j == i]) for i in asked}


Part = tuple[tuple[int, int], Pad, Array]
"""(search and option, pad, candidate rows)."""


def _best(options: list[Told]) -> Told:
    """Of each size the option with the least ratio."""
    if len(options) == 1:
        return options[0]
    ratios = np.stack([ratio for ratio, _ in options])
    which = ratios.argmin(axis=0)
    return ratios.min(axis=0), [options[k][1][j] for j, k in enumerate(which)]


def _chunks(parts: list[Part], most: int = 4000) -> Iterator[list[Part]]:
    """Parts in batches that the memory can hold."""
    some: list[Part] = []
    for part in parts:
        if some and sum(len(r) for _, _, r in some) + len(part[2]) > most:
            yield some
            some = []
        some.append(part)
    yield some


def _cannot_be_done(project: Project, pads: Sequence[Pad]) -> frozenset[tuple[str, str]]:
    """(check, why) of all that cannot be done for pads as they are: as there is no ground, say."""
    if all(c.state is not State.CANNOT for p in pads for c in evaluate_pad(project, p).checks):
        return frozenset()
    found = set()
    for pad in pads:
        bench = bench_for(project, [pad], np.zeros(1, dtype=int), table(pad))
        for outcome in (o for family in ALL for o in outcomes_of(family, bench, project)):
            if outcome.blocked.any():
                found.add((outcome.check.id, outcome.reason(0)))
    return frozenset(found)


def _worst(
    families: Families, project: Project, bench: Bench, off: Array, aside: frozenset[tuple[str, str]]
) -> tuple[Array, list[str]]:
    """(worst ratio, title of its check) by row; inf where the column leaves the base, or a check cannot be done that
    could be before."""
    outcomes = [o for family in families for o in outcomes_of(family, bench, project)]
    ratio, which = governing_by_candidate(outcomes, len(off))
    ratio = np.where(np.isnan(ratio), -1.0, ratio)
    titles = [outcomes[k].check.title if k >= 0 else "" for k in which]
    for outcome in outcomes:
        for k in np.flatnonzero(np.broadcast_to(outcome.blocked, (len(off),))):
            if (outcome.check.id, outcome.reason(int(k))) not in aside:
                ratio[k], titles[k] = np.inf, say("{title} cannot be done", title=outcome.check.title)
    for k in np.flatnonzero(off):
        ratio[k], titles[k] = np.inf, say("column on the base")
    return ratio, titles


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
    found = _run(project, [_Search(project, g, objective) for g in groups], told, stop)
    return [p or _given_up(project, g, objective) for p, g in zip(found, groups)]


def taken(project: Project, chosen: Iterable[Proposal]) -> Project:
    """The project with proposals taken; what they leave alone stays.

    Raises:
        pydantic.ValidationError: when a size is not possible for a pad.
    """
    of_pad = {name: p for p in chosen if p.sizes is not None for name in p.pads}
    pads = tuple(
        _as_proposed(_on_pedestal(p, found.pedestals.get(p.name)), found.sizes or {}, found.bars)
        if (found := of_pad.get(p.name))
        else p
        for p in project.pads
    )
    return project.replaced(pads=pads)


def _as_proposed(pad: Pad, sizes: dict[str, float], bars: dict[str, Bars | None]) -> Pad:
    sized = pad.resized(**sizes) if sizes else pad
    if not bars:
        return sized
    return sized.replaced(reinforcement=sized.reinforcement.replaced(**bars))


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
    # what a proposal left alone stays as the base has it
    groups = [(tuple(p.pads), _all_sizes(pads[p.pads[0]], p.sizes)) for p in found if p.sizes]
    if not groups:
        return []

    def cost(names: tuple[str, ...], sizes: dict[str, float]) -> float:
        total = 0.0
        for name in names:
            pad = pads[name]
            rows = table(pad)
            for size in ("width", "length", "thickness"):
                rows[:, DRIVING.index(size)] = sizes["width" if pad.is_round and size == "length" else size]
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


def _all_sizes(pad: Pad, sizes: dict[str, float]) -> dict[str, float]:
    """Width, length and thickness of a base with some of them proposed; of a round one both are its diameter."""
    found = {n: float(sizes.get(n, getattr(pad, n))) for n in ("width", "length", "thickness")}
    if pad.is_round:
        found["length"] = found["width"]
    return found


def as_types(project: Project, grouping: Grouping) -> Project:
    """The project with these types: pads named to them and sized alike; overrides of types that stay are kept."""
    from korbent.core.model.foundations import PadType

    known = {t.name: t for t in project.types}
    names = [f"F{i + 1}" for i in range(grouping.count)]
    types = tuple(known.get(n) or PadType(name=n) for n in names)
    kept = tuple(t for t in project.types if t.name not in names)
    chosen = {pad: (name, sizes) for name, (pads, sizes) in zip(names, grouping.types) for pad in pads}
    pads = tuple(
        p.resized(**{n: chosen[p.name][1][n] for n in ("width", "length", "thickness")}).replaced(
            type=chosen[p.name][0]
        )
        if p.name in chosen
        else p
        for p in project.pads
    )
    return project.replaced(types=(*kept, *types), pads=pads)
